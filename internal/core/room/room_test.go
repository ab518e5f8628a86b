package room

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"nimbleanvil/internal/core/kit"
)

// Counted by hand: seven people in two waves are four at once; with a pair each
// that is eight pieces of three pairs; a bag of five tins each takes bag and tins.
func TestTallyByHand(t *testing.T) {
	assert.Equal(t, []int{7, 4, 3, 2}, []int{PerWave(7, 1), PerWave(7, 2), PerWave(7, 3), PerWave(7, 4)})
	s := kit.Stock{
		Implements: []kit.Implement{{ID: "pair", Kind: kit.DumbbellPair, Mass: 9000, Count: 3}, {ID: "bench", Kind: kit.Bench, Count: 4}},
		Objects:    []kit.Object{{ID: "tin", Mass: 455, Count: 12, Use: kit.Pack}},
		Containers: []kit.Container{{ID: "bag", Mass: 800, Max: 15_000}},
	}
	tally := Tally{}
	tally.Take(4, kit.Load{Kind: kit.Implements, Item: "pair", Count: 2}, []string{"bench"})
	tally.Take(2, kit.Load{Kind: kit.Made, Container: "bag", Parts: []kit.Portion{{ID: "tin", Count: 5}}}, nil)
	tally.Take(9, kit.Nothing, nil)
	assert.Equal(t, map[string]int{"pair": 8, "bench": 4, "tin": 10, "bag": 2}, tally.AtOnce(1))
	assert.Equal(t, []Short{{"bag", 2, 1}, {"pair", 8, 6}}, tally.Shorts(s, 1))
	tally.Take(1, kit.Load{Kind: kit.Implements, Item: "gone", Count: 1}, nil)
	assert.Contains(t, tally.Shorts(s, 1), Short{"gone", 1, 0}, "what is not there at all is short too")
}
