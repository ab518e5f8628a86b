package goal

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/moves"
)

// Repetitions by the table of aims (ACSM 2009; Haff and Triplett 2016, both from memory; in
// season and learning common practice, no source) within each move's own range.
func TestRepsByHand(t *testing.T) {
	lib := moves.Standard()
	for _, c := range []struct {
		goal   Goal
		move   string
		novice bool
		want   int
	}{
		{General, "goblet-squat", false, 10},
		{Strength, "goblet-squat", false, 6},    // 8 to 12 and 1 to 6 do not meet: a load can go by the aim
		{Strength, "push-up", false, 6},         // 6 to 15 meets it there
		{Strength, "goblet-squat", true, 10},    // general doses
		{Strength, "two-hand-swing", false, 10}, // swings are no sets of few
		{Muscle, "goblet-squat", false, 10},
		{Muscle, "goblet-squat", true, 10},
		{Endurance, "goblet-squat", false, 12}, // 15 is more than its range
		{Endurance, "push-up", false, 15},
		{InSeason, "goblet-squat", false, 12},
		{InSeason, "plank", false, 12},
		{Learn, "goblet-squat", true, 8},
		{Learn, "crab-reach-bridge", false, 10}, // no load: its own least
	} {
		v, ok := lib.Get(c.move)
		require.True(t, ok, c.move)
		usual := min(max(10, v.RepsLow), v.RepsHigh)
		assert.Equal(t, c.want, Of(c.goal).Reps(v, usual, c.novice), "%s: %s", c.goal, c.move)
	}
	// Whatever the move: nothing beyond both ranges, and nothing at all for what has its own.
	for _, g := range Goals {
		aim := Of(g)
		for _, v := range lib.All() {
			usual := min(max(10, v.RepsLow), v.RepsHigh)
			n := aim.Reps(v, usual, false)
			if aim.RepsHigh == 0 || !Counts(v) {
				assert.Equal(t, usual, n, v.ID)
				continue
			}
			assert.GreaterOrEqual(t, n, min(aim.RepsLow, v.RepsLow), v.ID)
			inOwn, inAim := n >= v.RepsLow && n <= v.RepsHigh, n >= aim.RepsLow && n <= aim.RepsHigh
			assert.True(t, inOwn || v.Start != nil && n == aim.RepsHigh, "%s: %d", v.ID, n)
			assert.True(t, inAim || v.RepsLow > aim.RepsHigh || v.RepsHigh < aim.RepsLow, "%s: %d", v.ID, n)
		}
	}
}

// Every template offers places of patterns that there are, and allows some move of each.
func TestTemplatesCanBeFilled(t *testing.T) {
	lib := moves.Standard()
	for _, x := range Templates {
		for _, place := range x.Places(moves.Squat) {
			for _, p := range place {
				found := false
				for _, v := range lib.OfPattern(p) {
					found = found || x.Allows(v)
				}
				assert.True(t, found, "%s: %s", x, p)
			}
		}
	}
	assert.False(t, Template("twice").Known())
	assert.False(t, Goal("bulk").Known())
}
