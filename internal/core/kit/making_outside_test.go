//go:build outside

package kit

import (
	"context"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/measure"
)

// program is the choice of loads as a whole-number program for an outside solver:
// GLPK, from Debian. It is solved for one aim after the other, each kept while the
// next is sought.
type program struct {
	t      *testing.T
	s      Supply
	loads  int
	target measure.Mass
	rows   []string
}

func (p *program) sum(load int, mass func(i int) (piece, step int64)) string {
	var b strings.Builder
	for i := range len(p.s.Objects) + len(p.s.Fillables) {
		piece, step := mass(i)
		fmt.Fprintf(&b, " + %d x%d_%d", piece, load, i)
		if step > 0 {
			fmt.Fprintf(&b, " + %d y%d_%d", step, load, i)
		}
	}
	return b.String()
}

func (p *program) grams(i int) (int64, int64) {
	if n := i - len(p.s.Objects); n >= 0 {
		return int64(p.s.Fillables[n].Empty), int64(p.s.Fillables[n].Step)
	}
	return int64(p.s.Objects[i].Mass), 0
}

func (p *program) litres(i int) (int64, int64) {
	if n := i - len(p.s.Objects); n >= 0 {
		return int64(p.s.Fillables[n].Volume), 0
	}
	return int64(p.s.Objects[i].Volume), 0
}

func one(int) (int64, int64) { return 1, 0 }

// build writes what every choice must keep to.
func (p *program) build(tolerance measure.Mass) {
	row := func(format string, args ...any) { p.rows = append(p.rows, fmt.Sprintf(format, args...)) }
	base := int64(0)
	for load := range p.loads {
		if c := p.s.Container; c != nil {
			base = int64(c.Mass)
			row("%s <= %d", p.sum(load, p.grams), int64(c.Max)-base)
			row("%s <= %d", p.sum(load, p.litres), c.Volume)
		} else {
			row("%s >= 1", p.sum(load, one))
		}
		row("%s - e <= %d", p.sum(load, p.grams), int64(p.target)-base)
		row("%s + e >= %d", p.sum(load, p.grams), int64(p.target)-base)
		for i, f := range p.s.Fillables {
			k := len(p.s.Objects) + i
			row("y%d_%d - %d x%d_%d <= 0", load, k, f.steps(), load, k)
		}
	}
	if p.loads == 2 {
		minus := regexp.MustCompile(`\+ `).ReplaceAllString(p.sum(1, p.grams), "- ")
		row("%s %s >= 0", p.sum(0, p.grams), minus)
		row("%s %s - d <= 0", p.sum(0, p.grams), minus)
	}
	row("e <= %d", tolerance)
	for i := range len(p.s.Objects) + len(p.s.Fillables) {
		most := 0
		if n := i - len(p.s.Objects); n >= 0 {
			most = p.s.Fillables[n].Count
		} else {
			most = p.s.Objects[i].Count
		}
		row("%s <= %d", p.both(fmt.Sprintf("x%%d_%d", i)), most)
	}
}

func (p *program) both(name string) string {
	var b strings.Builder
	for load := range p.loads {
		b.WriteString(" + " + fmt.Sprintf(name, load))
	}
	return b.String()
}

func (p *program) all(f func(i int) (int64, int64)) string {
	var b strings.Builder
	for load := range p.loads {
		b.WriteString(p.sum(load, f))
	}
	return b.String()
}

var objective = regexp.MustCompile(`Objective:\s+\S+ = (-?[0-9.e+]+)`)

// solve optimises one aim and keeps what it found as a row.
func (p *program) solve(how, aim string) (int64, bool) {
	var b strings.Builder
	fmt.Fprintf(&b, "%s\n obj: %s\nSubject To\n", how, aim)
	for i, r := range p.rows {
		fmt.Fprintf(&b, " r%d: %s\n", i, r)
	}
	b.WriteString("Bounds\n e >= 0\n d >= 0\nGeneral\n e d")
	for load := range p.loads {
		for i := range len(p.s.Objects) + len(p.s.Fillables) {
			fmt.Fprintf(&b, " x%d_%d", load, i)
			if i >= len(p.s.Objects) {
				fmt.Fprintf(&b, " y%d_%d", load, i)
			}
		}
	}
	b.WriteString("\nEnd\n")
	dir := p.t.TempDir()
	model, answer := filepath.Join(dir, "model.lp"), filepath.Join(dir, "answer.txt")
	require.NoError(p.t, os.WriteFile(model, []byte(b.String()), 0o600))
	out, err := exec.Command("glpsol", "--lp", model, "-o", answer, "--tmlim", "60").CombinedOutput()
	require.NoError(p.t, err, "the solver from Debian's glpk-utils: %s", out)
	text, err := os.ReadFile(answer)
	require.NoError(p.t, err)
	if !strings.Contains(string(text), "INTEGER OPTIMAL") {
		require.Contains(p.t, string(out), "NO", "%s", out) // NO FEASIBLE SOLUTION in one of its spellings
		return 0, false
	}
	m := objective.FindStringSubmatch(string(text))
	require.NotNil(p.t, m)
	x, err := strconv.ParseFloat(m[1], 64)
	require.NoError(p.t, err)
	p.rows = append(p.rows, fmt.Sprintf("%s = %d", aim, int64(x+0.5)))
	return int64(x + 0.5), true
}

// The recipes for a dozen kinds equal what GLPK finds, aim by aim: error,
// difference, objects, total, then more of the earlier kinds in both and in the
// heavier, then the fills of each kind.
func TestMakeEqualsOutsideSolver(t *testing.T) {
	for seed := range uint64(10) {
		for loads := 1; loads <= 2; loads++ {
			t.Run(fmt.Sprintf("seed=%d/loads=%d", seed, loads), func(t *testing.T) {
				t.Parallel()
				r := rand.New(rand.NewPCG(seed, uint64(loads)))
				s := Supply{Container: &Vessel{ID: "bag", Mass: measure.Mass(100 + r.IntN(80)), Max: 3000, Volume: measure.Volume(6000 + r.IntN(9000))}}
				for i := range 4 + r.IntN(9) {
					s.Objects = append(s.Objects, Pieces{fmt.Sprintf("o%d", i), measure.Mass(20 + r.IntN(400)), measure.Volume(100 * (1 + r.IntN(20))), 1 + r.IntN(5)})
				}
				if seed%2 == 0 {
					s.Fillables = []Fillable{{"bottle", 8, 308, 10, 1600, 1 + r.IntN(3)}}
				}
				target := measure.Mass(400 + r.IntN(1200))
				equalsSolver(t, s, target, 40, loads)
			})
		}
	}
}

func equalsSolver(t *testing.T, s Supply, target, tolerance measure.Mass, loads int) {
	p := &program{t: t, s: s, loads: loads, target: target}
	p.build(tolerance)
	got := s.Make(context.Background(), target, tolerance, loads)
	e, ok := p.solve("Minimize", "e")
	require.Equal(t, ok, got.Feasible())
	if !ok {
		return
	}
	mine := measure.Mass(0)
	counts := make([][]int64, loads)
	fills := make([][]int64, loads)
	objects, total := 0, measure.Mass(0)
	for load, l := range got.Loads {
		mine = max(mine, abs(l.Total-target))
		objects += l.Objects()
		total += l.Total
		counts[load], fills[load] = make([]int64, len(s.Objects)+len(s.Fillables)), make([]int64, len(s.Objects)+len(s.Fillables))
		for _, part := range l.Parts {
			for i, o := range s.Objects {
				if o.ID == part.ID {
					counts[load][i] = int64(part.Count)
				}
			}
			for i, f := range s.Fillables {
				if f.ID == part.ID {
					k := len(s.Objects) + i
					counts[load][k] = int64(len(part.Fills))
					for _, g := range part.Fills {
						fills[load][k] += int64(g / f.Step)
					}
				}
			}
		}
	}
	assert.EqualValues(t, e, mine, "error")
	if loads == 2 {
		d, _ := p.solve("Minimize", "d")
		assert.EqualValues(t, d, got.Loads[0].Total-got.Loads[1].Total, "difference")
	}
	n, _ := p.solve("Minimize", p.all(one))
	assert.EqualValues(t, n, objects, "objects")
	weight, _ := p.solve("Minimize", p.all(p.grams))
	bare := measure.Mass(0)
	if s.Container != nil {
		bare = s.Container.Mass * measure.Mass(loads)
	}
	assert.EqualValues(t, weight, total-bare, "total")
	for i := range counts[0] {
		most, _ := p.solve("Maximize", p.both(fmt.Sprintf("x%%d_%d", i)))
		mine := int64(0)
		for load := range loads {
			mine += counts[load][i]
		}
		assert.Equal(t, most, mine, "of kind %d", i)
	}
	for load := range loads {
		for i := range counts[load] {
			most, _ := p.solve("Maximize", fmt.Sprintf("x%d_%d", load, i))
			assert.Equal(t, most, counts[load][i], "of kind %d in load %d", i, load)
		}
	}
	for load := range loads {
		for i := range s.Fillables {
			k := len(s.Objects) + i
			most, _ := p.solve("Maximize", fmt.Sprintf("y%d_%d", load, k))
			assert.Equal(t, most, fills[load][k], "fill")
		}
	}
}
