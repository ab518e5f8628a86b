package kit

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

// Every pattern can be trained with the demo hall's kit, with nothing, with one
// 8 kg bell, and with a typical cupboard, or the library says what cannot be and
// what comes nearest.
func TestEveryPatternIsReachable(t *testing.T) {
	bell := func(kg int64, n int) Implement {
		return Implement{ID: "kb", Kind: "kettlebell", Mass: measure.Mass(kg * 1000), Count: n}
	}
	for name, s := range map[string]struct {
		stock  Stock
		cannot []string
	}{
		"hall":     {Stock{Implements: []Implement{bell(4, 2), bell(8, 4), bell(16, 6), {ID: "bench", Kind: "bench", Height: 430, Count: 2}}}, nil},
		"nothing":  {Stock{}, []string{"push-overhead", "carry"}},
		"one 8 kg": {Stock{Implements: []Implement{bell(8, 1)}}, nil},
		"cupboard": {Stock{Objects: []Object{{ID: "tin", Mass: 455, Count: 20, Use: "pack"}, {ID: "can", Mass: 5200, Count: 2, Use: "grip"}},
			Containers: []Container{{ID: "bag", Mass: 800, Max: 15000}}}, []string{"push-overhead"}},
	} {
		serves := Serves(s.stock, moves.Standard(), 70_000, 1700)
		for _, p := range moves.Patterns {
			reached := slices.ContainsFunc(moves.Standard().OfPattern(p), func(v *moves.Variant) bool {
				return v.Proposed() && slices.Contains(serves, v.ID)
			})
			said := slices.ContainsFunc(moves.Limits(), func(l moves.Limit) bool { return l.What == string(p) })
			assert.True(t, reached || said, "%s with %s", p, name)
			assert.Equal(t, slices.Contains(s.cannot, string(p)), !reached, "%s with %s", p, name)
		}
	}
}
