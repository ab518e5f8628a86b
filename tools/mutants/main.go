// Command mutants changes one token of the core at a time and looks whether a test
// notices. Gremlins finds the places; which of them are tried is drawn by a seed, since all
// of them would take a day. Gremlins itself draws none, and asks the tests of a package
// only, where a rule is often held by a test of another. What lives is printed with its
// line; docs/mutants.md argues each.
package main

import (
	"bufio"
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"log"
	"maps"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"golang.org/x/sync/errgroup"
)

var (
	count = flag.Int("n", 300, "how many mutants are tried")
	seed  = flag.Uint64("seed", 11, "draws which")
	hand  = flag.Bool("hand", false, "try those written by hand instead (hand.go)")
	only  = flag.String("only", "", "try those only whose file and line match")
)

// slow are tests that take most of the time: they come last.
const slow = "TestGrid|TestProposalsKeepTheirPromises|TestProposalsForNamedPeople|TestFillEqualsTryingEverything|TestCruelSuppliesEnd|TestSixtyObjects|TestExtremesBreakNoLimit"

// place is where gremlins would change a token, and how.
type place struct {
	File   string
	Line   int
	Column int
	Kind   string
	// Of a mutant by hand: what stands there once, and what stands there instead.
	From, To string
}

func (p place) String() string {
	if p.From != "" {
		return fmt.Sprintf("%s: %s", p.File, p.Kind)
	}
	return fmt.Sprintf("%s:%d:%d %s", p.File, p.Line, p.Column, p.Kind)
}

// swaps are gremlins' own: what stands for what.
var swaps = map[string]map[string]string{
	"CONDITIONALS_BOUNDARY": {"<": "<=", "<=": "<", ">": ">=", ">=": ">"},
	"CONDITIONALS_NEGATION": {"==": "!=", "!=": "==", "<": ">=", "<=": ">", ">": "<=", ">=": "<"},
	"ARITHMETIC_BASE":       {"+": "-", "-": "+", "*": "/", "/": "*", "%": "*"},
	"INCREMENT_DECREMENT":   {"++": "--", "--": "++"},
	"INVERT_NEGATIVES":      {"-": "+"},
}

func main() {
	flag.Parse()
	log.SetFlags(0)
	if err := run(context.Background()); err != nil {
		log.Fatal(err)
	}
}

func run(ctx context.Context) error {
	root, err := filepath.Abs("..")
	if err != nil {
		return err
	}
	if err := os.Chdir(root); err != nil {
		return err
	}
	want, err := regexp.Compile(*only)
	if err != nil {
		return err
	}
	places := slices.DeleteFunc(slices.Clone(byHand), func(p place) bool { return !want.MatchString(p.String()) })
	if !*hand {
		if places, err = find(ctx, want); err != nil {
			return err
		}
	}
	rand.New(rand.NewPCG(*seed, 0)).
		Shuffle(len(places), func(i, j int) { places[i], places[j] = places[j], places[i] })
		// a sample, not a secret
	packages, err := timed(ctx)
	if err != nil {
		return err
	}
	var (
		mu              sync.Mutex
		next, tried     int
		alive           []place
		workers, trying = errgroup.WithContext(ctx)
	)
	for range 2 {
		workers.Go(func() error {
			for {
				mu.Lock()
				if next == len(places) || tried == *count {
					mu.Unlock()
					return nil
				}
				p := places[next]
				next++
				tried++
				mu.Unlock()
				killed, viable, err := try(trying, p, slices.Clone(packages))
				if err != nil {
					return fmt.Errorf("%s: %w", p, err)
				}
				mu.Lock()
				switch {
				case !viable:
					tried--
				case killed:
					fmt.Println("killed", p)
				default:
					fmt.Println("LIVES ", p)
					alive = append(alive, p)
				}
				mu.Unlock()
			}
		})
	}
	if err := workers.Wait(); err != nil {
		return err
	}
	slices.SortFunc(alive, func(a, b place) int { return cmp.Compare(a.String(), b.String()) })
	fmt.Printf("\n%d of %d live (%.1f %%)\n", len(alive), tried, 100*float64(len(alive))/float64(max(tried, 1)))
	for _, p := range alive {
		fmt.Printf("%s\n\t%s\n", p, line(p))
	}
	return nil
}

// find asks gremlins for every place of the core.
func find(ctx context.Context, want *regexp.Regexp) ([]place, error) {
	out, err := exec.CommandContext(ctx, "go", "tool", "-modfile=tools/go.mod", "gremlins", "unleash", "--dry-run", "./internal/core").
		CombinedOutput()
	if err != nil {
		return nil, fmt.Errorf("gremlins: %w\n%s", err, out)
	}
	said := regexp.MustCompile(`(RUNNABLE|NOT COVERED) (\w+) at (\S+?):(\d+):(\d+)`)
	var places []place
	for _, m := range said.FindAllStringSubmatch(string(out), -1) {
		l, _ := strconv.Atoi(m[4])
		c, _ := strconv.Atoi(m[5])
		p := place{File: m[3], Line: l, Column: c, Kind: m[2]}
		if !strings.HasPrefix(p.File, "internal/core") {
			p.File = filepath.Join("internal/core", p.File)
		}
		if want.MatchString(p.String()) {
			places = append(places, p)
		}
	}
	slices.SortFunc(places, func(a, b place) int { return cmp.Compare(a.String(), b.String()) })
	if len(places) == 0 {
		return nil, errors.New("gremlins finds nothing:\n" + string(out))
	}
	fmt.Printf("%d places, seed %d\n", len(places), *seed)
	return places, nil
}

// tested is a package whose tests look at the core.
type tested struct {
	path  string
	took  float64         // seconds
	on    map[string]bool // the packages it stands on
	flags []string
}

// held is the package whose golden files hold what the whole core says.
const held = "./internal/core"

// patience is how long its tests may take: a mutant that never ends is noticed too.
func (x tested) patience() time.Duration {
	return 20*time.Second + time.Duration(3*x.took)*time.Second
}

// timed lists the packages whose tests look at the core.
func timed(ctx context.Context) ([]tested, error) {
	out, err := exec.CommandContext(ctx, "go", "test", "-count=1", "./internal/core/...", "./internal/calc").
		CombinedOutput()
	if err != nil {
		return nil, fmt.Errorf("the tests do not pass as they are: %w\n%s", err, out)
	}
	var list []tested
	for _, m := range regexp.MustCompile(`(?m)^ok\s+nimbleanvil/(\S+)\s+([0-9.]+)s`).FindAllStringSubmatch(string(out), -1) {
		x := tested{path: "./" + m[1], on: map[string]bool{}}
		x.took, _ = strconv.ParseFloat(m[2], 64)
		deps, err := exec.CommandContext(ctx, "go", "list", "-deps", "-test", x.path).Output()
		if err != nil {
			return nil, err
		}
		for d := range strings.FieldsSeq(string(deps)) {
			x.on[strings.Replace(d, "nimbleanvil", ".", 1)] = true
		}
		// That a property fails is enough: the smallest case is not looked for. The grid
		// is drawn a tenth as often as in make test.
		if x.on["pgregory.net/rapid"] {
			x.flags = append(x.flags, "-rapid.shrinktime=1ms")
		}
		if strings.HasSuffix(x.path, "/compose") {
			x.flags = append(x.flags, "-draws=100")
		}
		list = append(list, x)
	}
	return list, nil
}

// try runs the tests over a mutant: the quick ones of its own package first, then those of
// the packages that stand on it, then the slow ones.
func try(ctx context.Context, p place, packages []tested) (killed, viable bool, err error) {
	b, err := os.ReadFile(p.File)
	if err != nil {
		return false, false, err
	}
	mutant, err := p.change(b)
	if mutant == nil || err != nil {
		return false, false, err
	}
	dir, err := os.MkdirTemp("", "mutant")
	if err != nil {
		return false, false, err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	file := filepath.Join(dir, "mutant.go")
	if err := os.WriteFile(file, mutant, 0o600); err != nil {
		return false, false, err
	}
	original, err := filepath.Abs(p.File)
	if err != nil {
		return false, false, err
	}
	overlay, err := json.Marshal(map[string]any{"Replace": map[string]string{original: file}})
	if err != nil {
		return false, false, err
	}
	if err := os.WriteFile(filepath.Join(dir, "overlay.json"), overlay, 0o600); err != nil {
		return false, false, err
	}
	with := "-overlay=" + filepath.Join(dir, "overlay.json")
	own := "./" + filepath.Dir(p.File)
	if exec.CommandContext(ctx, "go", "build", with, own).Run() != nil {
		return false, false, nil
	}
	var near []tested
	rest := map[string][]tested{} // by the flags that they take
	for _, x := range packages {
		switch flags := strings.Join(x.flags, " "); {
		case !x.on[own]:
		case x.path == own, x.path == held:
			near = append(near, x)
		default:
			rest[flags] = append(rest[flags], x)
		}
	}
	// The quicker of the two that notice most comes first, by itself.
	slices.SortFunc(near, func(a, b tested) int { return cmp.Compare(a.took, b.took) })
	var groups [][]tested
	for _, x := range near {
		groups = append(groups, []tested{x})
	}
	for _, flags := range slices.Sorted(maps.Keys(rest)) {
		groups = append(groups, rest[flags])
	}
	for _, which := range []string{"-skip=" + slow, "-run=" + slow} {
		for _, some := range groups {
			if len(some) > 0 && exec.CommandContext(ctx, "go", tests(with, which, some)...).Run() != nil {
				return ctx.Err() == nil, true, ctx.Err()
			}
		}
	}
	return false, true, ctx.Err()
}

// tests are the arguments that run some tests of packages over a mutant, all together.
func tests(with, which string, of []tested) []string {
	longest := time.Duration(0)
	var paths []string
	for _, x := range of {
		paths, longest = append(paths, x.path), max(longest, x.patience())
	}
	return slices.Concat([]string{"test", with, "-failfast", which, "-timeout=" + longest.String()}, paths, of[0].flags)
}

// change gives a file with the mutant in it, nil where there is none.
func (p place) change(b []byte) ([]byte, error) {
	if p.From != "" { // by hand
		if bytes.Count(b, []byte(p.From)) != 1 {
			return nil, fmt.Errorf("%q stands there %d times", p.From, bytes.Count(b, []byte(p.From)))
		}
		return bytes.Replace(b, []byte(p.From), []byte(p.To), 1), nil
	}
	at := offset(b, p.Line, p.Column)
	from, to := "", ""
	for f, t := range swaps[p.Kind] {
		if bytes.HasPrefix(b[at:], []byte(f)) && len(f) > len(from) {
			from, to = f, t
		}
	}
	if from == "" {
		return nil, nil // something that only gremlins knows
	}
	return slices.Concat(b[:at], []byte(to), b[at+len(from):]), nil
}

// offset gives where a line and a column, both from 1, stand in a file.
func offset(b []byte, line, column int) int {
	at := 0
	for range line - 1 {
		at += bytes.IndexByte(b[at:], '\n') + 1
	}
	return at + column - 1
}

// line gives the line of a place.
func line(p place) string {
	f, err := os.Open(p.File)
	if err != nil {
		return ""
	}
	defer func() { _ = f.Close() }()
	s := bufio.NewScanner(f)
	for n := 1; s.Scan(); n++ {
		if n == p.Line {
			return strings.TrimSpace(s.Text())
		}
	}
	return ""
}
