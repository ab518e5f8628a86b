package circuit

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
)

// What a class costs beside its entries (house), by hand.
func TestClassCostsByHand(t *testing.T) {
	b := brief(hall, lanes(0, 2, 2), 45, Reps)

	// What is left out of a short class: trunk first, then bridge and lunge, squat and hinge
	// last.
	var out []moves.Pattern
	for _, patterns := range template {
		out = append(out, patterns[0])
	}
	slices.SortFunc(out, func(a, b moves.Pattern) int { return int(dropCost[a] - dropCost[b]) })
	assert.Equal(t, []moves.Pattern{moves.TrunkTurn, moves.Bridge, moves.Lunge, moves.PushLevel, moves.Pull, moves.Hinge, moves.Squat}, out)

	// A pattern that stood in the last class costs 6, in the one before 3, before that 1.5.
	for ago, want := range []float64{0, 6, 3, 1.5, 1.5} {
		b := brief(hall, lanes(0, 2, 0), 45, Timed)
		b.Past.Last = make([][]progress.Used, 4)
		if ago > 0 {
			b.Past.Last[ago-1] = []progress.Used{{Lane: moves.Middle, Move: "reverse-lunge"}}
		}
		c := b.composer(usualWork)
		least := func(rotate bool) float64 {
			pl := c.place([]moves.Pattern{moves.Lunge, moves.Lateral}, rotate)
			i := slices.IndexFunc(pl.options, func(x combination) bool { return x.pattern == moves.Lunge })
			require.GreaterOrEqual(t, i, 0)
			return pl.options[i].cost
		}
		assert.InDelta(t, want, least(true)-least(false), 1e-9, "%d classes ago", ago)
	}

	// Fifteen swings take 30 s, eight split squats a side 2 x 32 + 5: they cannot end within 30
	// s of each other. That costs 30: a squat that is 29 dearer is taken instead, one that is
	// 31 dearer is not.
	c := b.composer(usualWork)
	as := func(id string, hold moves.HoldID, tempo string, reps int, sides SideMode, cost float64) candidate {
		v, ok := b.Library.Get(id)
		require.True(t, ok)
		x := candidate{made: Entry{Variant: id, Hold: hold, Tempo: tempo, Reps: reps, Sides: sides}, ways: [][]string{{}}, cost: cost}
		x.entry.Variant = v
		return x
	}
	swing := as("two-hand-swing", "none", "1-0-1-0", 15, BothSides, 0)
	lunge := as("rear-foot-raised-split-squat", "none", "2-0-2-0", 8, Split, 0)
	for dearer, want := range map[float64]string{29: "squat", 31: "rear-foot-raised-split-squat"} {
		squat := as("squat", "none", "2-0-2-0", 10, BothSides, dearer)
		got, ok := c.combine([][]candidate{{swing}, {lunge, squat}}, 1)
		require.True(t, ok)
		assert.Equal(t, want, got.entries[moves.Reach].Variant, "%g dearer", dearer)
	}
	// A second wave makes half of each lane wait: 60 a lane.
	once, _ := c.combine([][]candidate{{swing}, {swing}}, 1)
	twice, _ := c.combine([][]candidate{{swing}, {swing}}, 2)
	assert.InDelta(t, 120, twice.cost-once.cost, 1e-9)

	// Two pushes and no pull are uneven, 25; a plank after a push-up tires the trunk twice, 5.
	for cost, ids := range map[float64][]string{0: {"push-up", "one-arm-row", "plank"}, 5: {"one-arm-row", "push-up", "plank"}, 25: {"push-up", "squat", "floor-press"}} {
		assert.InDelta(t, cost, c.unevenness(plain(ids...)), 1e-9, "%v", ids)
	}
}
