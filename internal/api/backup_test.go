package api

import (
	"bytes"
	"compress/gzip"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

var keep = flag.String("keep", "", "write a backup of the demo hall under this name into internal/store/testdata")

const kept = "../store/testdata"

// reads are ten looks at the demo hall.
func reads(c client) []string {
	today := ok[studio.Today](c, "GET", "/api/today", nil)
	plan := today.Next.CircuitID
	var out []string
	for _, path := range []string{"/api/studio", "/api/places", "/api/today", "/api/occurrences/" + today.Next.ID, "/api/occurrences/" + today.Next.ID + "/log",
		"/api/occurrences/" + today.Past[0].ID + "/log", "/api/circuits/" + plan, "/api/circuits/" + plan + "/options?slot=s1&party=middle",
		"/api/circuits/" + plan + "/take-home?place=" + demo.ID("place/quay") + "&party=middle", "/api/circuits/" + today.Past[0].CircuitID} {
		status, _, body := c.send("GET", path, "")
		out = append(out, fmt.Sprint(path, " ", status, " ", string(body)))
	}
	return out
}

// A backup taken from a running server brings every read back, also into another
// database; a broken one changes nothing.
func TestBackupAndRestoreDrill(t *testing.T) {
	ctx := context.Background()
	open := func() (*store.Store, string) {
		dsn := dbtest.DSN(t)
		st, err := store.Open(dsn, fixed)
		require.NoError(t, err)
		t.Cleanup(func() { _ = st.Close() })
		return st, dsn
	}
	st, dsn := open()
	require.NoError(t, st.Migrate(ctx))
	_, err := demo.Load(ctx, studio.New(st, fixed), now)
	require.NoError(t, err)
	c := client{t, New(Config{Studios: studio.New(st, fixed), Now: fixed}).App}
	before := reads(c)
	var file bytes.Buffer
	require.NoError(t, st.Backup(ctx, &file, true))
	if *keep != "" {
		require.NoError(t, os.MkdirAll(kept, 0o750))
		require.NoError(t, os.WriteFile(filepath.Join(kept, *keep+".backup"), file.Bytes(), 0o600))
	}

	// Everything is thrown about, then brought back under the running server.
	db, err := sql.Open("mysql", dsn)
	require.NoError(t, err)
	defer func() { _ = db.Close() }()
	for _, q := range []string{"DELETE FROM log_line", "/* a test's */ UPDATE implement SET count = 1", "UPDATE studio SET mass_unit = 'lb'"} {
		_, err := db.Exec(q)
		require.NoError(t, err)
	}
	assert.NotEqual(t, before, reads(c))
	for name, broken := range map[string][]byte{"cut": file.Bytes()[:file.Len()/2], "empty": nil, "other": []byte("PK\x03\x04")} {
		assert.ErrorIs(t, st.Restore(ctx, bytes.NewReader(broken)), store.ErrBackup, name)
	}
	require.NoError(t, st.Restore(ctx, bytes.NewReader(file.Bytes())))
	assert.Equal(t, before, reads(c))

	other, _ := open()
	require.NoError(t, other.Restore(ctx, bytes.NewReader(file.Bytes())))
	require.NoError(t, other.CheckSchema(ctx))
	assert.Equal(t, before, reads(client{t, New(Config{Studios: studio.New(other, fixed), Now: fixed}).App}))
}

// documentsHoldIDsOnly walks every stored document: nothing is in it but what its shape has,
// moves, kit and participants of its class by id, counts and times that somebody chose. No
// name, no person, no body, no mass that follows from something, no instant. What a vessel
// is filled with is chosen and follows from nothing.
func documentsHoldIDsOnly(t *testing.T, db *sql.DB) {
	t.Helper()
	column := func(q string, args ...any) map[string]bool {
		rows, err := db.Query("/* the test's own */ "+q, args...)
		require.NoError(t, err)
		defer func() { _ = rows.Close() }()
		out := map[string]bool{}
		for rows.Next() {
			var s string
			require.NoError(t, rows.Scan(&s))
			out[s] = true
		}
		require.NoError(t, rows.Err())
		return out
	}
	things := column("SELECT public_id FROM implement UNION SELECT public_id FROM object UNION SELECT public_id FROM container")
	words := map[string]bool{"none": true, "implement": true, "made": true, "object": true, "all": true, "timed": true, "reps": true,
		"both": true, "split": true, "rounds": true, "alternate": true, "left": true, "right": true}
	for _, of := range [][]string{textsOf(circuit.BlockKinds), textsOf(circuit.Layouts), textsOf(circuit.DoseKinds), textsOf(scheme.Names), textsOf(circuit.Directions)} {
		for _, x := range of {
			words[x] = true
		}
	}
	for part := range moves.PartTimes() {
		words[part] = true
	}
	for _, m := range moves.Standard().All() {
		words[m.ID], words[string(m.Pattern)] = true, true
		for _, h := range m.Holds {
			words[string(h)] = true
		}
	}
	for m := range column("SELECT public_id FROM own_move") {
		words[m] = true
	}
	for _, l := range moves.Limits() {
		words[string(l)] = true
	}
	fields := map[string]bool{}
	for _, f := range strings.Fields(`v format leadInMs workMs restMs rounds roundRestMs bans known overruled slots lane what id pattern waves new pinned goal template lanes
		variant hold load anchors reps tempo sides kind item count container parts fillsG
		blocks auto scheme layout afterMs entries party dose low high ms inAll first sets own evenSets move
		circuit superset chain interval window ladder drop called betweenMs sideChangeMs everyMs windowMs rungs changeMs
		calledMs seed words`) {
		fields[f] = true
	}
	tempo, slot := regexp.MustCompile(`^([0-9]+|X)(-([0-9]+|X)){3}$`), regexp.MustCompile(`^[sb][0-9]+$`)
	seen := 0
	rows, err := db.Query("/* the test's own */ SELECT c.occurrence_id, v.document FROM circuit_version v JOIN circuit c ON c.id = v.circuit_id")
	require.NoError(t, err)
	defer func() { _ = rows.Close() }()
	for rows.Next() {
		var class int64
		var text []byte
		require.NoError(t, rows.Scan(&class, &text))
		here := column("SELECT public_id FROM participant WHERE occurrence_id = ?", class)
		party := func(s string) bool { return here[s] || slices.Contains(moves.Lanes, moves.Lane(s)) }
		var walk func(at any, path string)
		walk = func(at any, path string) {
			switch x := at.(type) {
			case map[string]any:
				for k, v := range x {
					assert.True(t, fields[k] || (strings.HasSuffix(path, ".lanes") || strings.HasSuffix(path, ".entries")) && party(k), "%s.%s", path, k)
					walk(v, path+"."+k)
				}
			case []any:
				for _, v := range x {
					walk(v, path+"[]")
				}
			case string:
				assert.True(t, words[x] || things[x] || party(x) || tempo.MatchString(x) || slot.MatchString(x), "%s: %s", path, x)
			}
		}
		var d any
		require.NoError(t, json.Unmarshal(text, &d))
		walk(d, "")
		seen++
	}
	require.NoError(t, rows.Err())
	assert.Positive(t, seen)
}

// Every kept backup, one for each landing that changed what is stored, migrates
// to the head, and the program opens on it and goes on: classes stand in the series of
// their name, circuits know their newest version, edits and lines are taken.
func TestKeptBackupsOpenAtTheHead(t *testing.T) {
	ctx := context.Background()
	files, err := filepath.Glob(kept + "/*.backup")
	require.NoError(t, err)
	schemas := map[int]bool{}
	for _, name := range files {
		dsn := dbtest.DSN(t)
		st, err := store.Open(dsn, fixed)
		require.NoError(t, err)
		file, err := os.ReadFile(name)
		require.NoError(t, err)
		schemas[schemaOf(t, file)] = true
		require.NoError(t, st.Restore(ctx, bytes.NewReader(file)), name)
		require.NoError(t, st.CheckSchema(ctx))
		_, err = st.EnsureStudio(ctx, store.Studio{})
		require.NoError(t, err)
		c := client{t, New(Config{Studios: studio.New(st, fixed), Now: fixed}).App}
		for _, read := range reads(c) {
			path, rest, _ := strings.Cut(read, " ")
			assert.True(t, strings.HasPrefix(rest, "200 "), "%s: %s: %s", name, path, rest)
		}
		db, err := sql.Open("mysql", dsn)
		require.NoError(t, err)
		for wrong, q := range map[string]string{
			"classes out of their series":       "SELECT COUNT(*) FROM occurrence o LEFT JOIN series s ON s.id = o.series_id AND s.studio_id = o.studio_id AND s.name = o.name WHERE s.id IS NULL",
			"newest versions":                   "SELECT COUNT(*) FROM circuit c WHERE c.newest <> (SELECT MAX(version) FROM circuit_version v WHERE v.circuit_id = c.id)",
			"places and series without a stamp": "SELECT (SELECT COUNT(*) FROM place WHERE stamp = 0) + (SELECT COUNT(*) FROM series WHERE stamp = 0)",
		} {
			var n int
			require.NoError(t, db.QueryRow("/* the test's own */ "+q).Scan(&n))
			assert.Zero(t, n, "%s: %s", name, wrong)
		}
		documentsHoldIDsOnly(t, db)
		assert.Equal(t, painsIn(t, file), counts(t, db)["pain_report"], "%s: what hurt moved to where health is kept", name)
		require.NoError(t, db.Close())
		next := ok[studio.Today](c, "GET", "/api/today", nil).Next
		at := "/api/circuits/" + next.CircuitID
		before := ok[studio.Circuit](c, "GET", at, nil)
		edited(c, at+"/edits", map[string]any{"clientId": id(1), "base": before.Version, "ops": []any{map[string]any{"op": "set-after", "blockId": "b3", "ms": 25_000}}})
		edited(c, at+"/undo", map[string]any{"clientId": id(2), "base": before.Version + 1})
		after := ok[studio.Circuit](c, "GET", at, nil)
		assert.Equal(t, before.Document, after.Document, name)
		assert.Equal(t, before.Version+2, after.Version, name)
		ok[progress.Sheet](c, "PUT", "/api/occurrences/"+next.ID+"/log/middle/s1", map[string]any{"done": 8, "inForm": 8, "pain": "none", "device": id(3), "n": 1})
		require.NoError(t, st.Close())
	}
	for _, schema := range []int{13, 16, 19, 24, 27, 37, 45, 51, 52, 63} {
		assert.True(t, schemas[schema], "no backup of schema %d is kept", schema)
	}
}

func textsOf[T ~string](of []T) []string {
	out := make([]string, 0, len(of))
	for _, x := range of {
		out = append(out, string(x))
	}
	return out
}

// painsIn counts what a backup holds of pains, in lines of logs as long as they stood there.
func painsIn(t *testing.T, file []byte) (n int) {
	t.Helper()
	z, err := gzip.NewReader(bytes.NewReader(file))
	require.NoError(t, err)
	for d := json.NewDecoder(z); ; {
		var line struct {
			Table   string
			Columns []string
			Row     []*string
		}
		if err := d.Decode(&line); errors.Is(err, io.EOF) {
			return n
		} else {
			require.NoError(t, err)
		}
		at := slices.Index(line.Columns, "pain")
		if at >= 0 && *line.Row[at] != "none" {
			n++
		}
	}
}

// schemaOf reads the first line of a backup.
func schemaOf(t *testing.T, file []byte) int {
	t.Helper()
	z, err := gzip.NewReader(bytes.NewReader(file))
	require.NoError(t, err)
	var head struct{ Schema int }
	require.NoError(t, json.NewDecoder(z).Decode(&head))
	return head.Schema
}
