package room

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// Whoever is dealt to turns: everybody is in just one, turns are as even as they can be, and
// where the counts say that each thing's users can be spread over the turns, and nobody uses
// more than a load and a support, nobody lacks anything (an edge colouring of a bipartite graph
// that is even at every vertex: de Werra 1971; from memory).
func TestInTurns(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		waves := rapid.IntRange(1, 4).Draw(t, "waves")
		uses := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) map[string]int {
			out := map[string]int{}
			if id := rapid.SampledFrom([]string{"", "a", "b", "c"}).Draw(t, "load"); id != "" {
				out[id] = 1
			}
			if id := rapid.SampledFrom([]string{"", "bench", "box"}).Draw(t, "support"); id != "" {
				out[id] = 1
			}
			return out
		}), 1, 24).Draw(t, "uses")
		have := map[string]int{}
		for _, u := range uses {
			for id := range u {
				have[id]++
			}
		}
		for id, n := range have {
			have[id] = PerWave(n, waves)
		}
		groups, ok := InTurns(uses, waves, func(id string) int { return have[id] })
		assert.True(t, ok)
		var all []int
		for _, g := range groups {
			assert.LessOrEqual(t, len(g), PerWave(len(uses), waves))
			used := map[string]int{}
			for _, x := range g {
				for id, n := range uses[x] {
					used[id] += n
					assert.LessOrEqual(t, used[id], have[id])
				}
			}
			all = append(all, g...)
		}
		slices.Sort(all)
		assert.Equal(t, numbers(len(uses)), all)
	})
}
