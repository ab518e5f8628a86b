package compose

import (
	"cmp"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
)

// What a class costs beside its entries (house), by hand.
func TestClassCostsByHand(t *testing.T) {
	b := brief(hall, lanes(0, 2, 2), 45, circuit.Reps)

	// What is left out of a short class: trunk first, then bridge and lunge, squat and hinge
	// last.
	var out []moves.Pattern
	for _, patterns := range template {
		out = append(out, patterns[0])
	}
	slices.SortFunc(out, func(a, b moves.Pattern) int { return cmp.Compare(House.Drop[a], House.Drop[b]) })
	assert.Equal(t, []moves.Pattern{moves.TrunkTurn, moves.Bridge, moves.Lunge, moves.PushLevel, moves.Pull, moves.Hinge, moves.Squat}, out)

	// A pattern that stood in the last class costs 6, in the one before 3, before that 1.5.
	for ago, want := range []float64{0, 6, 3, 1.5, 1.5} {
		b := brief(hall, lanes(0, 2, 0), 45, circuit.Timed)
		b.Past.Last = make([][]progress.Used, 4)
		if ago > 0 {
			b.Past.Last[ago-1] = []progress.Used{{Lane: moves.Middle, Move: "reverse-lunge"}}
		}
		c := b.composer(usualWork)
		least := func(rotate bool) float64 {
			pl := c.place([]moves.Pattern{moves.Lunge, moves.Lateral}, rotate)
			i := slices.IndexFunc(pl.options, func(x combination) bool { return x.pattern == moves.Lunge })
			require.GreaterOrEqual(t, i, 0)
			return pl.options[i].total
		}
		assert.InDelta(t, want, least(true)-least(false), 1e-9, "%d classes ago", ago)
	}

	// Fifteen swings take 30 s, eight split squats a side 2 x 32 + 5: they cannot end within 30
	// s of each other. That costs 30: a squat that is 29 dearer is taken instead, one that is
	// 31 dearer is not.
	c := b.composer(usualWork)
	as := func(id string, hold moves.HoldID, tempo string, reps int, sides scheme.SideMode, cost float64) candidate {
		v, ok := b.Library.Get(id)
		require.True(t, ok)
		x := candidate{made: circuit.Entry{Variant: id, Hold: hold, Tempo: tempo, Dose: circuit.Times(reps), Sides: sides}, ways: [][]string{{}}, cost: cost}
		x.entry.Variant = v
		return x
	}
	swing := as("two-hand-swing", "none", "1-0-1-0", 15, scheme.BothSides, 0)
	lunge := as("rear-foot-raised-split-squat", "none", "2-0-2-0", 8, scheme.Split, 0)
	for dearer, want := range map[float64]string{29: "squat", 31: "rear-foot-raised-split-squat"} {
		squat := as("squat", "none", "2-0-2-0", 10, scheme.BothSides, dearer)
		got, ok := c.combine([][]candidate{{swing}, {lunge, squat}}, 1)
		require.True(t, ok)
		assert.Equal(t, want, got.entries["reach"].Variant, "%g dearer", dearer)
	}
	// A second wave makes half of each lane wait: 60 a lane.
	once, _ := c.combine([][]candidate{{swing}, {swing}}, 1)
	twice, _ := c.combine([][]candidate{{swing}, {swing}}, 2)
	assert.InDelta(t, 120, twice.total-once.total, 1e-9)

	// Two pushes and no pull are uneven, 25; a plank after a push-up tires the trunk twice, 5.
	for cost, ids := range map[float64][]string{0: {"push-up", "one-arm-row", "plank"}, 5: {"one-arm-row", "push-up", "plank"}, 25: {"push-up", "squat", "floor-press"}} {
		assert.InDelta(t, cost, c.unevenness(plain(ids...)).Total(), 1e-9, "%v", ids)
	}
}

// What the minutes cost, by hand: away from 40 s of work half a point a second and two
// more under it; from 20 s of rest 0.3; from a minute between rounds 0.05; twelve for each
// round under three, forty for a single one in a short class; 0.04 for a second left over.
func TestMinutesCostByHand(t *testing.T) {
	s := measure.Second
	for _, c := range []struct {
		minutes, rounds         int
		work, rest, pause, left measure.Span
		want                    Cost
	}{
		{45, 3, 40 * s, 20 * s, 60 * s, 0, Cost{}},
		{45, 5, 45 * s, 15 * s, 30 * s, 60 * s, Cost{Work: 2.5, Rest: 1.5, Pause: 1.5, Left: 2.4}},
		{45, 2, 35 * s, 25 * s, 90 * s, 0, Cost{Work: 2.5 + 10, Rest: 1.5, Pause: 1.5, Rounds: 12}},
		{20, 1, 40 * s, 20 * s, 60 * s, 0, Cost{Rounds: 24 + 40}},
		{45, 1, 40 * s, 20 * s, 60 * s, 0, Cost{Rounds: 24 + 90}},
		{10, 1, 40 * s, 20 * s, 60 * s, 0, Cost{Rounds: 24 + 40}},
	} {
		got := House.Fill(c.minutes, c.rounds, c.work, c.rest, c.pause, c.left)
		for term := Entries; term < terms; term++ {
			assert.InDelta(t, c.want[term], got[term], 1e-9, "%v: %v", c, term)
		}
	}
	assert.InDelta(t, 26*2.25, House.Drops(moves.Squat, 45), 1e-9)
	assert.InDelta(t, 10, House.Drops(moves.TrunkTurn, 15), 1e-9)
}

// What a proposal costs is said term by term, and follows from it: its minutes from times,
// its unevenness from the balance, its places from the template.
func TestProposalsSayWhatTheyCost(t *testing.T) {
	for name, b := range map[string]Brief{
		"hall":  brief(hall, lanes(5, 5, 2), 45, circuit.Timed),
		"short": brief(hall, lanes(4, 0, 4), 12, circuit.Reps),
		"long":  brief(hall, lanes(0, 6, 0), 100, circuit.Timed),
		"bare":  brief(kit.Stock{}, lanes(9, 9, 9), 30, circuit.Timed),
	} {
		p := b.composer(usualWork, tryWork...)
		got, ok := p.propose()
		require.True(t, ok, name)
		look, d := plan.Look(got.Document, b.Context), single(got.Document)
		work := d.WorkMs
		if d.Format == circuit.Reps {
			work = usualWork
		}
		want := House.Fill(b.Minutes, d.Rounds, work, d.RestMs, d.RoundRestMs, look.SlackMs)
		for _, x := range look.Balance {
			if x.Uneven {
				want[Uneven] += House.Uneven
			}
		}
		want[Clashes] = House.Clash * float64(clashes(d.Slots, b.Context))
		want[Few] = House.Few * float64(max(0, 4-len(d.Slots)))
		for _, term := range []Term{Work, Rest, Pause, Rounds, Left, Uneven, Clashes, Few} {
			assert.InDelta(t, want[term], got.Cost[term], 1e-9, "%s: %v", name, term)
		}
		assert.Positive(t, got.Cost[Entries], name)
		sum := 0.0
		for _, x := range got.Cost.Terms() {
			sum += x.Cost
		}
		assert.InDelta(t, got.Cost.Total(), sum, 1e-5, name)
	}
}
