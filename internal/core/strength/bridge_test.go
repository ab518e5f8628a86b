package strength

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

// Whatever the jump: the weeks are numbered, never get lighter, end at the load to come
// with the low end of the range, use only loads that are there, climb between them by
// allowed steps, and are few enough to be read.
func TestEveryBridgeClimbs(t *testing.T) {
	var loaded []*moves.Variant
	for _, v := range moves.Standard().All() {
		if v.Start != nil {
			loaded = append(loaded, v)
		}
	}
	rapid.Check(t, func(t *rapid.T) {
		grams := func(name string, low, high int) measure.Mass {
			return measure.Mass(rapid.IntRange(low, high).Draw(t, name)) * 100
		}
		c := Climb{Variant: rapid.SampledFrom(loaded).Draw(t, "variant"), OneHand: rapid.Bool().Draw(t, "one hand"), Body: grams("body", 400, 1600),
			From: grams("from", 10, 400), RepsLow: rapid.IntRange(1, 15).Draw(t, "low"), LastReps: rapid.IntRange(0, 25).Draw(t, "last"),
			SessionsOver: rapid.IntRange(0, 3).Draw(t, "sessions"), Reserve: rapid.IntRange(0, 4).Draw(t, "reserve")}
		c.To = c.From + grams("step", 1, 300)
		c.RepsHigh = c.RepsLow + rapid.IntRange(0, 8).Draw(t, "range")
		for range rapid.IntRange(0, 30).Draw(t, "between") {
			c.Between = append(c.Between, grams("load", 10, 700))
		}
		c.Above, _ = moves.Standard().Above(c.Variant)
		b := Over(c)
		require.NotEmpty(t, b.Weeks)
		last := b.Weeks[len(b.Weeks)-1]
		require.Equal(t, Week{len(b.Weeks), c.To, c.RepsLow, c.Variant.Tempo, c.Variant.ID, ByLoad}, last)
		now := c.From
		for i, w := range b.Weeks {
			require.Equal(t, i+1, w.Week)
			require.GreaterOrEqual(t, w.LoadG, now)
			require.Positive(t, w.Reps)
			switch w.By {
			case ByMade:
				require.Contains(t, c.Between, w.LoadG)
				require.True(t, Step(c.Variant, c.Body, now, w.LoadG, b.IronAlone).Allowed, "%d to %d", now, w.LoadG)
			case ByReps, ByTempo:
				require.Equal(t, c.From, w.LoadG)
			case ByVariant:
				require.Equal(t, c.Above.ID, w.Move)
			}
			now = w.LoadG
		}
		if b.Allowed && b.Ready {
			require.Len(t, b.Weeks, 1)
		}
		if b.Predicted != nil {
			// One repetition fewer does not predict it.
			f, err := Factor(Default, *b.Predicted+c.Reserve)
			require.NoError(t, err)
			g, err := Factor(Default, c.RepsLow+c.Reserve)
			require.NoError(t, err)
			wanted := g * resisted(c.Variant, c.Body, c.To)
			require.GreaterOrEqual(t, f*resisted(c.Variant, c.Body, c.From), wanted*(1-1e-9))
			if *b.Predicted > 1 {
				less, err := Factor(Default, *b.Predicted-1+c.Reserve)
				require.NoError(t, err)
				require.Less(t, less*resisted(c.Variant, c.Body, c.From), wanted)
			}
		}
	})
}

// A rise says the same whichever way it is asked: steps that are allowed stay allowed
// when they are made shorter.
func TestShorterStepsStayAllowed(t *testing.T) {
	goblet, _ := moves.Standard().Get("goblet-squat")
	row, _ := moves.Standard().Get("one-arm-row")
	rapid.Check(t, func(t *rapid.T) {
		v := rapid.SampledFrom([]*moves.Variant{goblet, row}).Draw(t, "variant")
		a := measure.Mass(rapid.IntRange(500, 60_000).Draw(t, "from"))
		b := a + measure.Mass(rapid.IntRange(2, 20_000).Draw(t, "step"))
		if Step(v, 70_000, a, b, false).Allowed {
			half := Step(v, 70_000, a, a+(b-a)/2, false)
			assert.True(t, half.Allowed)
			assert.LessOrEqual(t, half.IronPct, Step(v, 70_000, a, b, false).IronPct)
		}
	})
}
