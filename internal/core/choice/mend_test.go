package choice

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
)

// More repetitions stop where the next one would take the set over its most: 20 counts of
// slow lowering a repetition are two in 40 s, and a third would be 60 s.
func TestMoreRepetitionsStopAtTheLongestSet(t *testing.T) {
	v, _ := moves.Standard().Get("goblet-squat")
	slow := *v
	slow.Tempo, slow.RepsLow, slow.RepsHigh = "9-0-2-0", 2, 20
	perRep := slow.TempoOf().PerRep()
	most := int(mostSet / perRep)
	m := mend(&slow, 2, 2, 0.5, -50, 0)
	assert.Equal(t, most, m.Reps, "%d of %s in %s", most, time.Duration(perRep)*time.Millisecond, time.Duration(mostSet)*time.Millisecond)
	assert.LessOrEqual(t, measure.Span(m.Reps)*perRep, mostSet)
}

// A load for one repetition is more than for ten; for the usual ones it stays.
func TestLoadsForFewRepetitions(t *testing.T) {
	v, _ := moves.Standard().Get("goblet-squat")
	one := *v
	one.RepsLow = 1
	j := &Judge{Party: Party{Lane: moves.Middle, Body: 70_000, Stature: 1700}}
	load := func(reps int) float64 {
		w := strength.Wanted{Total: 20_000}
		whole := Wanted{Wanted: w}
		j.forReps(&whole, Entry{Variant: &one}, reps, 0)
		return whole.Total
	}
	assert.Greater(t, load(1), load(2))
	assert.Greater(t, load(2), 20_000.0)
	assert.InDelta(t, 20_000, load(UsualReps(&one)), 0)
}
