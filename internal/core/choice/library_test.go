package choice

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

// Every pattern can be trained with the demo hall's kit, with nothing, with one
// 8 kg bell, and with a typical cupboard, or the library says what cannot be and
// what comes nearest.
func TestEveryPatternIsReachable(t *testing.T) {
	bell := func(kg int64, n int) kit.Implement {
		return kit.Implement{ID: "kb", Kind: "kettlebell", Mass: measure.Mass(kg * 1000), Count: n}
	}
	for name, s := range map[string]struct {
		stock  kit.Stock
		cannot []string
	}{
		"hall":     {kit.Stock{Implements: []kit.Implement{bell(4, 2), bell(8, 4), bell(16, 6), {ID: "bench", Kind: "bench", Height: 430, Count: 2}}}, nil},
		"nothing":  {kit.Stock{}, []string{"push-overhead", "carry"}},
		"one 8 kg": {kit.Stock{Implements: []kit.Implement{bell(8, 1)}}, nil},
		"cupboard": {kit.Stock{Objects: []kit.Object{{ID: "tin", Mass: 455, Count: 20, Use: "pack"}, {ID: "can", Mass: 5200, Count: 2, Use: "grip"}},
			Containers: []kit.Container{{ID: "bag", Mass: 800, Max: 15000, Closed: true}}}, []string{"push-overhead"}},
	} {
		serves := Serves(s.stock, moves.Standard(), 70_000, 1700)
		for _, p := range moves.Patterns {
			reached := slices.ContainsFunc(moves.Standard().OfPattern(p), func(v *moves.Variant) bool {
				return v.Proposed() && slices.Contains(serves, v.ID)
			})
			said := slices.ContainsFunc(moves.BeyondKit(), func(l moves.Beyond) bool { return l.What == string(p) })
			assert.True(t, reached || said, "%s with %s", p, name)
			assert.Equal(t, slices.Contains(s.cannot, string(p)), !reached, "%s with %s", p, name)
		}
	}
}
