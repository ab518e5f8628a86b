package choice

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

func codesOf(j *Judge, e Entry) (out []why.Code) {
	for _, w := range j.Faults(e) {
		out = append(out, w.Code)
	}
	return out
}

func bare(id string) Entry {
	return Entry{variant(id), "none", kit.Option{Load: kit.Nothing}, nil}
}

func held(id string, hold moves.HoldID, item string, count int, total measure.Mass) Entry {
	return Entry{variant(id), hold, kit.Option{Load: kit.Load{Kind: kit.Implements, Item: item, Count: count}, Total: total}, nil}
}

// Bodies and moves on one scale (house, worked by hand). 160 kg at 160 cm count as 64
// kg: Middle's push-up mark asks .64 x 64 = 41 kg of the arms, a flat push-up of that body
// 102, the knees 78: the wall. 110 kg at 175 cm count as 76.6: 1.25 x (.878 x 76.6 + 16.8)
// less .878 x 110 leaves 8.5 kg for the goblet; at 190 cm nothing is taken off.
func TestBodiesByHand(t *testing.T) {
	hall := kits["full hall"]
	heavy := For(at(hall), party(moves.Middle, 160, 160))
	for _, id := range []string{"push-up", "knee-push-up"} {
		assert.Contains(t, codesOf(heavy, bare(id)), why.FaultBody, id)
	}
	assert.Empty(t, codesOf(heavy, bare("wall-push-up")))
	assert.Contains(t, codesOf(heavy, bare("single-leg-floor-bridge")), why.FaultBody)
	assert.Empty(t, codesOf(heavy, bare("floor-bridge")))
	wanted := func(p Party) float64 {
		j := For(at(hall), p)
		return j.Wanted(Entry{Variant: variant("goblet-squat"), Hold: "goblet"}, 1, 10).Total
	}
	assert.InDelta(t, 8500, wanted(party(moves.Middle, 110, 175)), 20)
	assert.InDelta(t, .22*90_250, wanted(party(moves.Middle, 110, 190)), 1)
	assert.InDelta(t, 15_400, wanted(party(moves.Middle, 70, 170)), 1)
	// As anybody at 70 kg: flat for Middle, 30 cm up for Reach and not for Middle's 60.
	assert.Empty(t, codesOf(For(at(hall), party(moves.Middle, 70, 170)), bare("push-up")))
	assert.Contains(t, codesOf(For(at(hall), party(moves.Ground, 70, 170)), bare("push-up")), why.FaultBody, ".64 is more than 1.1 x .49")
	// Single-leg squats come by the log only, whatever the body.
	assert.Contains(t, codesOf(For(at(hall), party(moves.Reach, 60, 185)), bare("single-leg-squat")), why.FaultByLog)
	// Beyond it are limits, heights and ratings, which the grid of proposals walks.
}

// Ceilings and what lifts them (house): 24 kg in front and in an unsupported row, 8 a
// hand overhead; two sessions in form with more end a ceiling, and the load is the log's.
func TestCeilingsEndWithTheLog(t *testing.T) {
	rack := kit.Stock{Implements: []kit.Implement{bell("kb8", 8000, 2), bell("kb12", 12_000, 2), bell("kb16", 16_000, 2), bell("kb20", 20_000, 2)}}
	tall := party(moves.Reach, 95, 195)
	j := For(at(rack), tall)
	assert.Contains(t, codesOf(j, held("two-weight-row", "row-two", "kb20", 2, 40_000)), why.FaultCeiling)
	assert.Contains(t, codesOf(j, held("two-weight-front-squat", "rack-two", "kb16", 2, 32_000)), why.FaultCeiling)
	assert.Contains(t, codesOf(j, held("one-arm-press", "rack-one", "kb12", 1, 12_000)), why.FaultCeiling)
	line := func(day int, id string, hold moves.HoldID, load measure.Mass, done int) progress.Line {
		return progress.Line{Day: day, Lane: moves.Reach, Variant: id, Hold: hold, Load: load, Pain: progress.NoPain,
			Set: strength.Set{Planned: 8, Done: done, InForm: done}}
	}
	c := at(rack)
	c.Past.Day = 30
	c.Past.Lines = []progress.Line{line(10, "floor-press", "press-one", 12_000, 8), line(17, "floor-press", "press-one", 12_000, 8)}
	assert.NotContains(t, codesOf(For(c, tall), held("one-arm-press", "rack-one", "kb12", 1, 12_000)), why.FaultCeiling, "the floor press speaks for what goes overhead")
	c.Past.Lines = []progress.Line{line(10, "one-arm-press", "rack-one", 12_000, 8), line(17, "one-arm-press", "rack-one", 12_000, 8)}
	j = For(c, tall)
	assert.Empty(t, codesOf(j, held("one-arm-press", "rack-one", "kb12", 1, 12_000)))
	assert.Contains(t, codesOf(j, held("one-arm-press", "rack-one", "kb16", 1, 16_000)), why.FaultOver, "not ready for it")
}

// Somebody's first time (house): nothing over 5 kg overhead, a load at most 15 % over,
// Ground on its four starting moves without a load, Middle and Reach one rung below.
func TestFirstTime(t *testing.T) {
	rack := kit.Stock{Implements: []kit.Implement{bell("kb4", 4000, 2), bell("kb6", 6000, 2), bell("kb8", 8000, 2), bell("kb12", 12_000, 2), bell("kb16", 16_000, 2),
		{ID: "box", Kind: kit.Box, Height: 450, Count: 4, Rated: 300_000}}}
	c := at(rack)
	c.Past = progress.Past{}
	allowed := func(p Party, e Entry) bool { return For(c, p).Allowed(e) }
	ground, middle, reach := party(moves.Ground, 70, 170), party(moves.Middle, 70, 170), party(moves.Reach, 70, 170)
	box := bare("box-squat")
	box.Supports = []string{"box"}
	assert.True(t, allowed(ground, box))
	goblet := held("box-squat", "goblet", "kb6", 1, 6000)
	goblet.Supports = []string{"box"}
	assert.False(t, allowed(ground, goblet), "without a load")
	for _, id := range []string{"supported-split-squat", "hip-hinge", "floor-bridge", "knee-push-up"} {
		assert.True(t, allowed(ground, bare(id)), id)
	}
	for _, id := range []string{"squat", "split-squat", "free-hip-hinge", "single-leg-floor-bridge", "lateral-lunge", "push-up"} {
		assert.False(t, allowed(ground, bare(id)), id)
	}
	assert.False(t, allowed(middle, bare("squat")), "one rung under the mark")
	assert.True(t, allowed(reach, bare("split-squat")))
	assert.False(t, allowed(reach, bare("forward-lunge")))
	press := held("half-kneeling-press", "rack-one", "kb4", 1, 4000)
	assert.True(t, allowed(reach, press))
	assert.False(t, allowed(reach, held("half-kneeling-press", "rack-one", "kb6", 1, 6000)))
	// Two sessions on, in form: the marks.
	for _, day := range []int{1, 8} {
		c.Past.Lines = append(c.Past.Lines, progress.Line{Day: day, Lane: moves.Middle, Variant: "box-squat", Hold: "none", Pain: progress.NoPain, Set: strength.Set{Planned: 10, Done: 10, InForm: 10}})
	}
	c.Past.Day = 15
	assert.True(t, allowed(middle, bare("squat")))
	assert.False(t, allowed(ground, bare("squat")), "what Middle logged is Middle's")
}

// What a limit touches, read from the table of all moves: whatever is proposed under a
// limit does not touch it, and every limit leaves something of most patterns.
func TestLimitsBind(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		limit := rapid.SampledFrom(moves.Limits()).Draw(t, "limit")
		c := at(kits["full hall"])
		c.Bans = []string{string(limit)}
		j := For(c, party(rapid.SampledFrom(moves.Lanes).Draw(t, "lane"), 70, 170))
		plain, ok := limit.Expand()
		require.True(t, ok)
		left := 0
		for _, v := range c.Library.All() {
			for _, e := range j.Entries(v) {
				left++
				for _, l := range plain {
					joint, spared, isJoint := l.Joint()
					if isJoint && spared {
						require.Zero(t, v.Demands[joint], v.ID)
					}
					if !isJoint {
						require.NotContains(t, v.Touches(e.Total > 0), moves.Touch(string(l)[3:]), v.ID)
					}
				}
			}
		}
		require.Positive(t, left)
	})
	for _, b := range []string{"knee", "lunges", "STEP-UP", "Squat", "", "no-floor ", "knee-Spare"} {
		assert.False(t, CheckBan(moves.Standard(), b), b)
	}
	for _, b := range []string{"lunge", "step-up", "knee-spare", "no-floor", "pregnancy", "push-level"} {
		assert.True(t, CheckBan(moves.Standard(), b), b)
	}
}

// Whether an entry is allowed and what it costs follows from entry, party and class
// alone: more kit changes neither.
func TestMoreKitChangesNoEntry(t *testing.T) {
	few := kits["one 8 kg bell"]
	many := kit.Stock{Implements: append(slices.Clone(few.Implements), kits["full hall"].Implements[2:]...)}
	rapid.Check(t, func(t *rapid.T) {
		p := Party{Lane: rapid.SampledFrom(moves.Lanes).Draw(t, "lane"), Body: measure.Mass(rapid.IntRange(45, 160).Draw(t, "kg")) * 1000,
			Stature: measure.Length(rapid.IntRange(140, 205).Draw(t, "cm")) * 10}
		a, b := For(at(few), p), For(at(many), p)
		for _, v := range moves.Standard().All() {
			for _, e := range a.Entries(v) {
				require.Empty(t, b.Faults(e), v.ID)
				require.Equal(t, a.Cost(e), b.Cost(e), v.ID)
			}
		}
	})
}

// One-leg moves at Ground carry nothing, so the log never sends one to a load there:
// light twice running is a rung up; the same at Middle is the next bell.
func TestGroundsOneLegMovesGoByRungs(t *testing.T) {
	for lane, want := range map[moves.Lane]progress.Advice{moves.Ground: progress.NextRung, moves.Middle: progress.NextLoad} {
		c := at(kits["full hall"])
		for _, day := range []int{1, 8} {
			c.Past.Lines = append(c.Past.Lines, progress.Line{Day: day, Lane: lane, Variant: "split-squat", Hold: "none", Pain: progress.NoPain, Set: strength.Set{Planned: 12, Done: 14, InForm: 14}})
		}
		c.Past.Day = 15
		d, ok := For(c, party(lane, 70, 170)).Decision(variant("split-squat"))
		assert.True(t, ok)
		assert.Equal(t, want, d.Advice, lane)
	}
}
