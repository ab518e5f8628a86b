//go:build outside

package pickup

import (
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/measure"
)

var objective = regexp.MustCompile(`Objective:\s+\S+ = (-?[0-9.e+-]+)`)

// model writes the question as an integer program: x pieces of a row that somebody takes, z
// whether a row serves a target, for which a piece, or two for two hands, must be taken.
func model(implements []Implement, people []Person, per int) string {
	var b, ints, bins strings.Builder
	b.WriteString("Minimize\n obj: ")
	for p, x := range people {
		for t, target := range x.Targets {
			for r, row := range implements {
				if m := missOf(target, row); m != nil {
					miss, _ := m.Float64()
					fmt.Fprintf(&b, " - %.15f z%d_%d_%d", target.Weight*(1-miss), p, t, r)
				}
			}
		}
	}
	b.WriteString(" + 0 x0_0\nSubject To\n")
	for r, row := range implements {
		for p := range people {
			fmt.Fprintf(&b, " + x%d_%d", p, r)
			fmt.Fprintf(&ints, " x%d_%d", p, r)
		}
		fmt.Fprintf(&b, " <= %d\n", row.Count)
	}
	for p, x := range people {
		for r := range implements {
			fmt.Fprintf(&b, " + x%d_%d", p, r)
		}
		fmt.Fprintf(&b, " <= %d\n", per)
		for t, target := range x.Targets {
			one := ""
			for r, row := range implements {
				if missOf(target, row) == nil {
					continue
				}
				fmt.Fprintf(&b, " %d z%d_%d_%d - x%d_%d <= 0\n", target.Hands, p, t, r, p, r)
				fmt.Fprintf(&bins, " z%d_%d_%d", p, t, r)
				one += fmt.Sprintf(" + z%d_%d_%d", p, t, r)
			}
			if one != "" {
				fmt.Fprintf(&b, "%s <= 1\n", one)
			}
		}
	}
	fmt.Fprintf(&b, "General\n%s\nBinary\n%s\nEnd\n", ints.String(), bins.String())
	return b.String()
}

// Ten implements and fifteen people: the cost is what GLPK finds, with one piece each and with
// two; both times are of the same run.
func TestAllotEqualsOutsideSolver(t *testing.T) {
	var ours, theirs time.Duration
	for seed := range uint64(6) {
		for per := 1; per <= 2; per++ {
			r := rand.New(rand.NewPCG(seed, uint64(per)))
			var rack []Implement
			for i := range 10 {
				rack = append(rack, Implement{fmt.Sprint("i", i), measure.Mass(4000 + 500*r.IntN(50)), 1 + r.IntN(3), "kettlebell"})
			}
			var people []Person
			for i := range 15 {
				p := Person{ID: fmt.Sprint("p", i)}
				for s := range 3 {
					x := wants(s+1, 4+float64(r.IntN(40))/2)
					x.Weight, x.Hands = 1+float64(r.IntN(3)), 1+r.IntN(per)
					p.Targets = append(p.Targets, x)
				}
				people = append(people, p)
			}
			began := time.Now()
			l := Allot(rack, people, per)
			ours += time.Since(began)
			dir := t.TempDir()
			lp, answer := filepath.Join(dir, "model.lp"), filepath.Join(dir, "answer.txt")
			require.NoError(t, os.WriteFile(lp, []byte(model(rack, people, per)), 0o600))
			began = time.Now()
			out, err := exec.Command("glpsol", "--lp", lp, "--cuts", "-o", answer, "--tmlim", "60").CombinedOutput()
			theirs += time.Since(began)
			require.NoError(t, err, "the solver from Debian's glpk-utils: %s", out)
			text, err := os.ReadFile(answer)
			require.NoError(t, err)
			require.Contains(t, string(text), "INTEGER OPTIMAL", "it did not come to an end")
			m := objective.FindStringSubmatch(string(text))
			require.NotNil(t, m)
			gained, err := strconv.ParseFloat(m[1], 64)
			require.NoError(t, err)
			empty := 0.0
			for _, p := range people {
				for _, x := range p.Targets {
					empty += x.Weight
				}
			}
			assert.InDelta(t, empty+gained, l.Cost, 1e-6, "seed %d, %d each", seed, per)
			assert.True(t, l.Proven, "seed %d, %d each: %f, bound %f", seed, per, l.Cost, l.Bound)
		}
	}
	t.Logf("twelve lists: %v here, %v by GLPK with its start", ours, theirs)
}
