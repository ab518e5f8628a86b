package core_test

import (
	"go/ast"
	"go/build"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strings"
	"testing"

	"nimbleanvil/internal/core/moves"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const module = "nimbleanvil/"

// root is the folder of the module, seen from this test.
const root = "../.."

// imported lists what the Go files of a folder, tests left out, import. The
// folders are read here and not by the go command: only what a test opens itself
// makes its kept result stale.
func imported(t *testing.T, dir string) []string {
	t.Helper()
	pkg, err := build.Default.ImportDir(dir, 0)
	require.NoError(t, err)
	return pkg.Imports
}

// deps lists what a package of ours builds on among our own, itself included.
func deps(t *testing.T, name string, seen map[string]bool) map[string]bool {
	t.Helper()
	if seen[name] {
		return seen
	}
	seen[name] = true
	for _, dep := range imported(t, filepath.Join(root, strings.TrimPrefix(name, module))) {
		if strings.HasPrefix(dep, module) {
			deps(t, dep, seen)
		}
	}
	return seen
}

// packages lists the folders under this one that hold Go code besides tests.
func packages(t *testing.T) []string {
	t.Helper()
	var out []string
	require.NoError(t, filepath.WalkDir(".", func(path string, entry fs.DirEntry, err error) error {
		if err != nil || !entry.IsDir() {
			return err
		}
		if files, _ := filepath.Glob(filepath.Join(path, "*.go")); len(files) > 0 && path != "." {
			out = append(out, path)
		}
		return nil
	}))
	return out
}

// The house: the core knows no disk, network, database, clock or chance; the API knows no
// GORM and no rows; the use cases know no HTTP; the store knows no API and no formats.
func TestHouseRules(t *testing.T) {
	found := packages(t)
	require.Greater(t, len(found), 10)
	for _, dir := range found {
		for _, dep := range imported(t, dir) {
			outside := strings.Contains(strings.Split(dep, "/")[0], ".")
			assert.False(t, outside, "%s imports %s", dir, dep)
			if strings.HasPrefix(dep, module) {
				assert.True(t, strings.HasPrefix(dep, module+"internal/core/"), "%s imports %s", dir, dep)
			}
			for _, banned := range []string{"os", "net", "net/http", "database/sql", "math/rand", "log/slog"} {
				assert.NotEqual(t, banned, dep, "%s", dir)
			}
		}
	}
	for _, dep := range imported(t, root+"/internal/api") {
		assert.False(t, strings.HasPrefix(dep, "gorm.io/"), "api imports %s", dep)
	}
	for _, dep := range imported(t, root+"/internal/studio") {
		assert.NotContains(t, []string{"net/http", "github.com/gofiber/fiber/v3", "github.com/danielgtaylor/huma/v2", "gorm.io/gorm", module + "internal/problem"}, dep, "the use cases import %s", dep)
	}
	below := deps(t, module+"internal/store", map[string]bool{})
	assert.Contains(t, below, module+"internal/core/moves", "the walk sees something")
	for dep := range below {
		assert.False(t, strings.HasPrefix(dep, module+"internal/api") || strings.HasPrefix(dep, module+"internal/studio") || strings.HasPrefix(dep, module+"internal/formats"), "the store imports %s", dep)
	}
}

// selectors calls f with every name of a package that a folder's files use, tests left
// out.
func selectors(t *testing.T, dir, pkg string, f func(file, name string)) {
	t.Helper()
	files, err := filepath.Glob(filepath.Join(dir, "*.go"))
	require.NoError(t, err)
	for _, name := range files {
		if strings.HasSuffix(name, "_test.go") {
			continue
		}
		file, err := parser.ParseFile(token.NewFileSet(), name, nil, 0)
		require.NoError(t, err)
		ast.Inspect(file, func(n ast.Node) bool {
			if sel, ok := n.(*ast.SelectorExpr); ok {
				if x, ok := sel.X.(*ast.Ident); ok && x.Name == pkg && x.Obj == nil {
					f(name, sel.Sel.Name)
				}
			}
			return true
		})
	}
}

// Of the store the API knows what went wrong and what became of a change; rows and
// queries are the use cases'.
func TestAPIKnowsNoRows(t *testing.T) {
	known := map[string]bool{"WithOutcome": true, "OutcomeOf": true, "Outcome": true, "Unchanged": true, "Committed": true, "Unknown": true,
		"Cause": true, "Away": true, "NoRoom": true, "ReadOnly": true, "BesideError": true}
	seen := 0
	selectors(t, root+"/internal/api", "store", func(file, name string) {
		seen++
		assert.True(t, known[name] || strings.HasPrefix(name, "Err"), "%s: store.%s", file, name)
	})
	assert.Positive(t, seen)
}

// Rules go by traits of the data, never by the id of a move: the library grows without them.
func TestNoRuleNamesAMove(t *testing.T) {
	moved, ladders := map[string]bool{}, map[string]bool{}
	for _, v := range moves.Standard().All() {
		moved[v.ID], ladders[v.Ladder] = true, true
	}
	for _, dir := range packages(t) {
		files, err := filepath.Glob(filepath.Join(dir, "*.go"))
		require.NoError(t, err)
		for _, name := range files {
			if strings.HasSuffix(name, "_test.go") || name == "moves/parts.go" { // parts of a chain are called by such words
				continue
			}
			file, err := parser.ParseFile(token.NewFileSet(), name, nil, 0)
			require.NoError(t, err)
			ast.Inspect(file, func(n ast.Node) bool {
				if x, ok := n.(*ast.BasicLit); ok && x.Kind == token.STRING && strings.Contains(x.Value, "-") {
					id := strings.Trim(x.Value, "\"`")
					assert.False(t, moved[id] && !ladders[id], "%s: %s", name, id)
				}
				return true
			})
		}
	}
}

// The core says nothing to a contract: its fields have names in JSON and no more.
func TestCoreHasNoTagsOfTheAPI(t *testing.T) {
	fields := 0
	for _, dir := range packages(t) {
		files, err := filepath.Glob(filepath.Join(dir, "*.go"))
		require.NoError(t, err)
		for _, name := range files {
			file, err := parser.ParseFile(token.NewFileSet(), name, nil, 0)
			require.NoError(t, err)
			ast.Inspect(file, func(n ast.Node) bool {
				if f, ok := n.(*ast.Field); ok && f.Tag != nil {
					fields++
					assert.Regexp(t, "^`json:\"[^\"]*\"`$", f.Tag.Value, name)
				}
				return true
			})
		}
	}
	assert.Greater(t, fields, 100)
}

// Instants come from whoever calls: the core asks no clock, waits for nothing and reads no
// file of zones.
func TestCoreHasNoClock(t *testing.T) {
	uses := 0
	for _, dir := range packages(t) {
		selectors(t, dir, "time", func(file, name string) {
			uses++
			for _, banned := range []string{"Now", "Since", "Until", "Sleep", "After", "AfterFunc", "Tick", "NewTimer", "NewTicker", "LoadLocation", "Local"} {
				assert.NotEqual(t, banned, name, "%s: time.%s", file, name)
			}
		})
	}
	assert.Positive(t, uses, "the walk sees the calendar")
}

// What looks drawn by lot in the core comes from a seed of the caller's: the
// source that every process shares is not used.
func TestChanceHasASeed(t *testing.T) {
	seeded := map[string]bool{"New": true, "NewPCG": true, "Rand": true}
	uses := 0
	for _, dir := range packages(t) {
		selectors(t, dir, "rand", func(file, name string) {
			uses++
			assert.True(t, seeded[name], "%s: rand.%s", file, name)
		})
	}
	assert.Positive(t, uses, "the walk sees the seeded source of called footwork")
}
