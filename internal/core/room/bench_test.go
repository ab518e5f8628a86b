package room

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
)

// People who need 40, 45, 50 and 50 cm need two changes after the first setting
// (common practice, no source).
func TestBenchOrderReference(t *testing.T) {
	at := func(id string, mm measure.Length) Sitter { return Sitter{id, body.Range{From: mm, To: mm}} }
	got := BenchOrder([]Sitter{at("d", 500), at("a", 400), at("c", 500), at("b", 450)})
	assert.Equal(t, []Setting{{400, []string{"a"}}, {450, []string{"b"}}, {500, []string{"d", "c"}}}, got)
	// 170 cm 365-410 and 175 cm 380-425 share 410; 200 cm 450-495 does not.
	fit := func(id string, stature measure.Length) Sitter {
		return Sitter{id, body.ThrustBench(body.KneeFor(stature))}
	}
	got = BenchOrder([]Sitter{fit("tall", 2000), fit("a", 1700), fit("b", 1750)})
	assert.Equal(t, []Setting{{410, []string{"a", "b"}}, {495, []string{"tall"}}}, got)
}

// Everybody is served once, and no fewer settings do: every choice of fewer heights
// among the ends leaves somebody out.
func TestBenchOrderIsTheFewest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var people []Sitter
		for i := range rapid.IntRange(1, 7).Draw(t, "people") {
			from := measure.Length(rapid.IntRange(30, 50).Draw(t, "from"))
			people = append(people, Sitter{string(rune('a' + i)), body.Range{From: from, To: from + measure.Length(rapid.IntRange(0, 8).Draw(t, "wide"))}})
		}
		got := BenchOrder(people)
		served := 0
		for i, s := range got {
			served += len(s.People)
			require.NotEmpty(t, s.People)
			require.True(t, i == 0 || s.Height > got[i-1].Height)
		}
		require.Equal(t, len(people), served)
		for mask := range 1 << len(people) {
			var heights []measure.Length
			for i, p := range people {
				if mask>>i&1 == 1 {
					heights = append(heights, p.Fit.To)
				}
			}
			if len(heights) >= len(got) {
				continue
			}
			all := true
			for _, p := range people {
				one := false
				for _, h := range heights {
					one = one || p.Fit.Holds(h)
				}
				all = all && one
			}
			require.False(t, all, "%v serve everybody", heights)
		}
	})
}
