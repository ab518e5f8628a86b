package moves

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Common practice, no source; worked by hand beside each row.
func TestPartsReference(t *testing.T) {
	get := func(id string) *Variant {
		v, ok := Standard().Get(id)
		require.True(t, ok, id)
		return v
	}
	// Row, pull, squat and press, 3 + 3 + 3 without setting down: 9 a side, 18 in all,
	// 6 presses.
	chain := get("row-chain").CountParts(1, 1)
	side, all := 0, 0
	for _, c := range chain {
		side += c.PerSide
		all += c.Total
	}
	assert.Equal(t, []int{9, 18, 6}, []int{side, all, chain[2].Total})
	assert.Equal(t, "squat-press", chain[2].Move)
	// Ten a side of clean, squat, press is 20 squats.
	complex := get("clean-squat-press").CountParts(10, 10)
	assert.Equal(t, PartCount{"squat", 10, 20, 10, 20}, complex[1])
	// A pull, two squats, a press: two squats are twice the presses.
	assert.Equal(t, 2*get("pull-squat-press").CountParts(5, 5)[2].Total, get("pull-squat-press").CountParts(5, 5)[1].Total)
	// 10 to 15 units of 5 to 8 walks, 5 pulses, a jump: 50-120, 50-75, 10-15.
	unit := get("band-walk-pulse-jump")
	counts := unit.CountParts(unit.RepsLow, unit.RepsHigh)
	assert.Equal(t, []PartCount{{"walk", 50, 50, 120, 120}, {"pulse", 50, 50, 75, 75}, {"jump", 10, 10, 15, 15}}, counts)
	// The weakest part sets the load; it is light for the others.
	weakest, light, ok := get("squat-curl-press").WeakestPart()
	require.True(t, ok)
	assert.Equal(t, "curl", weakest.Move)
	assert.Len(t, light, 2)
	for _, v := range Standard().All() {
		if w, _, ok := v.WeakestPart(); ok {
			assert.InDelta(t, v.Start.Share, w.Share, 1e-9, "%s starts from its weakest part", v.ID)
		}
	}
	// Six stages up and the same down.
	stages := Standard().Stages("get-up")
	require.Len(t, stages, 12)
	assert.Equal(t, stages[0], stages[11])
	assert.Equal(t, "get-up", stages[5])
	assert.Equal(t, "get-up", stages[6])
}

// Every direction at least once, none twice running, the same for the same day,
// another for another.
func TestFootworkCallsEveryDirection(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		seed, n := rapid.Uint64().Draw(t, "seed"), rapid.IntRange(1, 40).Draw(t, "calls")
		calls := Footwork(seed, n)
		assert.Subset(t, calls, Directions)
		assert.Len(t, calls, max(n, len(Directions)))
		assert.False(t, repeats(calls))
		assert.Equal(t, calls, Footwork(seed, n))
	})
	for day := range uint64(100) {
		assert.NotEqual(t, Footwork(day, 15), Footwork(day+1, 15))
	}
}
