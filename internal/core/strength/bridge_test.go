package strength

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

func drawClimb(t *rapid.T) Climb {
	var loaded []*moves.Variant
	for _, v := range moves.Standard().All() {
		if v.Start != nil && v.Ladder != "get-up" {
			loaded = append(loaded, v)
		}
	}
	grams := func(name string, low, high int) measure.Mass {
		return measure.Mass(rapid.IntRange(low, high).Draw(t, name)) * 100
	}
	c := Climb{Variant: rapid.SampledFrom(loaded).Draw(t, "variant"), OneHand: rapid.Bool().Draw(t, "one hand"), Body: grams("body", 400, 1600),
		From: grams("from", 10, 400), RepsLow: rapid.IntRange(1, 15).Draw(t, "low"), LastReps: rapid.IntRange(0, 25).Draw(t, "last"),
		SessionsOver: rapid.IntRange(0, 3).Draw(t, "sessions"), Reserve: rapid.IntRange(0, 4).Draw(t, "reserve"), Sets: rapid.IntRange(1, 5).Draw(t, "sets"),
		FarTooLight: rapid.Bool().Draw(t, "far too light")}
	c.To = c.From + grams("step", 1, 300)
	c.RepsHigh = c.RepsLow + rapid.IntRange(0, 8).Draw(t, "range")
	for range rapid.IntRange(0, 30).Draw(t, "between") {
		c.Between = append(c.Between, grams("load", 10, 700))
	}
	c.Above, _ = moves.Standard().Above(c.Variant)
	return c
}

// Whatever the jump: the weeks are numbered, never get lighter and are few enough to be
// read; the load to come is met after an allowed step or a week that is all blend, and
// never in the first week by anything else; every first week at a load is for no more
// than the low end; where it is not reached the gap is one that an allowed step crosses.
func TestEveryBridgeClimbs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := drawClimb(t)
		oneHand := c.OneHand || c.Variant.HeldByOneHand()
		b := Over(c)
		require.NotEmpty(t, b.Weeks)
		last := b.Weeks[len(b.Weeks)-1]
		require.Equal(t, b.Reached, last.LoadG == c.To)
		require.Equal(t, b.Reached, b.Between == nil)
		now, allBlend := c.From, false
		for i, w := range b.Weeks {
			require.Equal(t, i+1, w.Week)
			require.GreaterOrEqual(t, w.LoadG, now)
			require.Positive(t, w.Reps)
			require.GreaterOrEqual(t, w.Sets, 1)
			require.Equal(t, w.By == ByBlend, w.Blend != nil)
			if w.LoadG > now {
				allowed := Step(c.Variant, c.Body, now, w.LoadG, oneHand).Allowed
				require.True(t, allowed || allBlend && w.LoadG == c.To, "%d to %d", now, w.LoadG)
				require.LessOrEqual(t, w.Reps, c.RepsLow)
				if w.By == ByMade {
					require.Contains(t, c.Between, w.LoadG)
				}
			}
			allBlend = w.Blend != nil && w.Blend.Sets == w.Sets
			if w.Blend != nil {
				require.GreaterOrEqual(t, w.Blend.Reps, LeastAtNext)
			}
			if c.Variant.Ballistic || c.Variant.Overhead {
				require.Contains(t, []Means{ByLoad, ByReps, ByBlend}, w.By)
			}
			now = w.LoadG
		}
		if b.IronPct > 100 {
			require.False(t, b.Reached)
		}
		if b.Allowed && b.Ready && b.AtNext >= LeastAtNext {
			require.True(t, b.Now())
		}
		if !b.Reached {
			require.True(t, b.Between.ToG == c.From || Step(c.Variant, c.Body, c.From, b.Between.ToG, oneHand).Allowed)
			require.False(t, Step(c.Variant, c.Body, c.From, b.Between.ToG+1, oneHand).Allowed)
		}
		checkPrediction(t, c, b, oneHand)
	})
}

// checkPrediction looks at both predictions from the other side: one repetition fewer
// does not predict the low end, one more at the next load is not predicted.
func checkPrediction(t *rapid.T, c Climb, b Bridge, oneHand bool) {
	index := func(load measure.Mass, reps int) float64 {
		f, err := Factor(Default, reps+c.Reserve)
		require.NoError(t, err)
		return f * resisted(c.Variant, c.Body, load, oneHand)
	}
	if b.Predicted != nil {
		wanted := index(c.To, c.RepsLow)
		require.GreaterOrEqual(t, index(c.From, *b.Predicted), wanted*(1-1e-9))
		if *b.Predicted+c.Reserve > 1 {
			require.Less(t, index(c.From, *b.Predicted-1), wanted)
		}
	}
	if b.AtNext > 0 && b.AtNext+c.Reserve < mostFactor {
		done := index(c.From, min(c.LastReps, mostFactor-c.Reserve))
		require.LessOrEqual(t, index(c.To, b.AtNext), done*(1+1e-9))
		require.Greater(t, index(c.To, b.AtNext+1), done*(1-1e-9))
	}
}

// A rise says the same whichever way it is asked: steps that are allowed stay allowed
// when they are made shorter.
func TestShorterStepsStayAllowed(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		id := rapid.SampledFrom([]string{"goblet-squat", "one-arm-row", "two-hand-swing", "one-hand-swing"}).Draw(t, "variant")
		v, _ := moves.Standard().Get(id)
		a := measure.Mass(rapid.IntRange(500, 60_000).Draw(t, "from"))
		b := a + measure.Mass(rapid.IntRange(2, 20_000).Draw(t, "step"))
		if Step(v, 70_000, a, b, false).Allowed {
			half := Step(v, 70_000, a, a+(b-a)/2, false)
			assert.True(t, half.Allowed)
			assert.LessOrEqual(t, half.IronPct, Step(v, 70_000, a, b, false).IronPct)
		}
	})
}
