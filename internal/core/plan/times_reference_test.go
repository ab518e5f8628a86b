package plan

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
)

func iron(id string, n int) kit.Load { return kit.Load{Kind: kit.Implements, Item: id, Count: n} }

// Change-overs (house), each sum written out in seconds.
func TestChangeOverReference(t *testing.T) {
	lib := moves.Standard()
	bench := []string{"bench"}
	for _, c := range []struct {
		name string
		a, b circuit.Entry
		want measure.Span
	}{
		{"nothing changes", circuit.Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, circuit.Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, 0},
		{"another hold on the same bell", circuit.Entry{Variant: "goblet-squat", Hold: "goblet", Load: iron("a", 1)}, circuit.Entry{Variant: "one-arm-row", Hold: "row-one", Load: iron("a", 1)}, 2},
		{"another bell", circuit.Entry{Variant: "goblet-squat", Hold: "goblet", Load: iron("a", 1)}, circuit.Entry{Variant: "one-arm-row", Hold: "row-one", Load: iron("b", 1)}, 5},
		{"down to the floor", circuit.Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, circuit.Entry{Variant: "floor-bridge", Hold: "none", Load: kit.Nothing}, 6},
		{"kneeling with another bell", circuit.Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, circuit.Entry{Variant: "half-kneeling-press", Hold: "rack-one", Load: iron("a", 1)}, 3 + 5},
		{"set down, up from the floor", circuit.Entry{Variant: "floor-press", Hold: "press-two", Load: iron("a", 2)}, circuit.Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, 6},
		{"bench, pad and bell on the floor", circuit.Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, circuit.Entry{Variant: "bench-hip-thrust", Hold: "hips", Load: iron("a", 1), Anchors: bench}, 6 + 5 + 3 + 12},
		{"pad off and up", circuit.Entry{Variant: "bench-hip-thrust", Hold: "hips", Load: iron("a", 1), Anchors: bench}, circuit.Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, 6 + 12},
	} {
		got, w := ChangeOver(c.a, c.b, lib)
		assert.Equal(t, c.want*measure.Second, got, c.name)
		sum := 0.0
		for _, term := range w.Terms {
			if term.Name != "sum" {
				sum += term.Value
			}
		}
		assert.EqualValues(t, got, sum, "%s: the reason adds up", c.name)
	}
}

// House: prep 15 %, from 4 to 10 minutes, under 20 minutes a fifth; close a tenth, from 3
// to 5 minutes, under 20 minutes 15 %; a new move 90 s and five repetitions a side of its
// slowest lane.
func TestFramesReference(t *testing.T) {
	for minutes, want := range map[int][2]measure.Span{10: {120, 90}, 15: {180, 135}, 19: {228, 171}, 20: {240, 180}, 29: {261, 180}, 30: {270, 180}, 45: {405, 270}, 50: {450, 300}, 90: {600, 300}} {
		assert.Equal(t, want[0]*measure.Second, scheme.PrepTime(minutes), "%d min", minutes)
		assert.Equal(t, want[1]*measure.Second, scheme.CloseTime(minutes), "%d min", minutes)
	}
	s := circuit.Slot{New: true, Entries: map[people.Party]circuit.Entry{
		"ground": {Variant: "squat", Tempo: "2-0-2-0"},       // 5 x 4 = 20 s
		"middle": {Variant: "split-squat", Tempo: "2-0-2-0"}, // 2 x 5 x 4 + 5 = 45 s
	}}
	assert.Equal(t, (90+45)*measure.Second, learnTime(s, moves.Standard()))
	s.New = false
	assert.Equal(t, 20*measure.Second, learnTime(s, moves.Standard()))
}

// Common practice: 3 rounds of a side a round are one a side and the third
// shared; turn by turn pays for no change; half and half does.
func TestSideModesReference(t *testing.T) {
	numbers := circuit.InRounds{Format: circuit.Timed, WorkMs: 40_000, Rounds: 3}
	b := circuit.Block{Kind: circuit.Work, Scheme: &circuit.Scheme{Kind: scheme.Circuit, Circuit: &numbers}}
	// Left first, 5 s to change: (40 - 5) / 2.
	split := scheme.SideCall{First: scheme.Left, Second: scheme.Right, SwitchAt: 17_500, Change: 5000}
	e := circuit.Entry{Variant: "split-squat", Tempo: "2-0-2-0", Dose: circuit.Times(8)}
	for mode, want := range map[scheme.SideMode]struct {
		perSide, reps int
		calls         []scheme.SideCall
	}{
		scheme.Split:      {4, 8, []scheme.SideCall{split}},
		scheme.TurnByTurn: {5, 10, nil},
		scheme.BothSides:  {10, 10, nil},
		scheme.ByRound:    {10, 10, []scheme.SideCall{{First: scheme.Left}, {First: scheme.Right}, split}},
	} {
		e.Sides = mode
		s := setOf(b, circuit.Slot{}, e, moves.Standard())
		assert.Equal(t, want.perSide, s.PerSide, mode)
		assert.Equal(t, want.reps, s.Reps, mode)
		assert.Equal(t, want.calls, s.Calls, mode)
	}
	// By repetitions: 8 a side at 4 s: 2 x 32 + 5; 2 x 32; 32; 32 + 5 for the shared
	// third round.
	numbers.Format = circuit.Reps
	for mode, want := range map[scheme.SideMode]measure.Span{scheme.Split: 69, scheme.TurnByTurn: 64, scheme.BothSides: 32, scheme.ByRound: 37} {
		e.Sides = mode
		assert.Equal(t, want*measure.Second, setOf(b, circuit.Slot{}, e, moves.Standard()).Work, mode)
	}
}

// Worked by hand. Two slots of 40 s, one waved in two: 10 lead-in + 405 prep (15
// % of 45 min) + 2 x 20 shown + 2 x (40 + 20 + 40 + 5 + 40) + 60 + 270 close (a tenth).
func TestPlanTimesByHand(t *testing.T) {
	e := circuit.Entry{Variant: "squat", Hold: "none", Load: kit.Nothing, Dose: circuit.Times(10), Tempo: "2-0-2-0", Sides: scheme.BothSides}
	lunge := circuit.Entry{Variant: "split-squat", Hold: "none", Load: kit.Nothing, Dose: circuit.Times(8), Tempo: "2-0-2-0", Sides: scheme.Split}
	d := circuit.Single{Format: circuit.Timed, LeadInMs: 10_000, WorkMs: 40_000, RestMs: 20_000, Rounds: 2, RoundRestMs: 60_000, Slots: []circuit.Slot{
		{ID: "a", Pattern: moves.Squat, Waves: 1, Entries: map[people.Party]circuit.Entry{"middle": e}},
		{ID: "b", Pattern: moves.Lunge, Waves: 2, Entries: map[people.Party]circuit.Entry{"middle": lunge}}}}
	c := Context{Library: moves.Standard(), Parties: lanes(0, 4, 0), Minutes: 45}
	p := Look(d.Document(), c)
	assert.EqualValues(t, 10_000+405_000+40_000+2*145_000+60_000+270_000, p.TotalMs)
	assert.Equal(t, 10, p.Slots[0].Cells[0].PerSide)
	cell := p.Slots[1].Cells[0]
	assert.Equal(t, 4, cell.PerSide)
	assert.EqualValues(t, 17_500, cell.SwitchAtMs)
	assert.EqualValues(t, 46_095, cell.PerLimbG)
	assert.EqualValues(t, 34_144, cell.ComparableG)
	d.Format = circuit.Reps // 40 s; 2 x 8 x 4 + 5 = 69 s a wave
	p = Look(d.Document(), c)
	assert.EqualValues(t, 10_000+405_000+40_000+2*(40_000+20_000+69_000+5_000+69_000)+60_000+270_000, p.TotalMs)
	// Floor and another implement cost 6 + 5 s (house): a rest of 5 s grows to 11.
	d.Slots[1].Entries["middle"] = circuit.Entry{Variant: "floor-bridge", Hold: "none", Load: kit.Nothing, Dose: circuit.Times(8), Tempo: "2-0-1-2", Sides: scheme.BothSides}
	d.RestMs = 5000
	assert.EqualValues(t, 6000, Look(d.Document(), c).Slots[0].RestMs)
	assert.True(t, Look(d.Document(), c).Slots[0].Grown)
}

// Common practice, no source: before a single-leg squat over its full range the
// ankle is rocked; a forward lunge asks for
// the static split squat and the reverse lunge first.
func TestPrepAndFirstSteps(t *testing.T) {
	lib := moves.Standard()
	d := circuit.Single{Slots: []circuit.Slot{{ID: "s1", Pattern: moves.Squat, Entries: map[people.Party]circuit.Entry{"reach": {Variant: "full-single-leg-squat"}}}}}
	assert.Contains(t, IDs(Prep(d.Document(), Context{Library: lib, Minutes: 45, Parties: lanes(0, 0, 1)})), "rocking-ankle-drill")

	forward, _ := lib.Get("forward-lunge")
	nothing := func(string) bool { return false }
	assert.Equal(t, []string{"split-squat", "reverse-lunge"}, lib.FirstSteps(forward, nothing))
	assert.Equal(t, []string{"reverse-lunge"}, lib.FirstSteps(forward, func(id string) bool { return id == "split-squat" }))
	// The gate to the bar stands between the last front squat and the bar.
	last, _ := lib.Get("two-weight-front-squat")
	up, ok := lib.Neighbour(last, 1)
	require.True(t, ok)
	assert.Equal(t, "barbell-back-squat", up.ID)
	_, ok = lib.Above(last)
	assert.False(t, ok)
}

// A document of before blocks keeps every millisecond. Worked by hand by the rule of then:
// eight a side at 4 s, a side a round, are 32 s, the third round shared 4 x 4 + 5 + 4 x 4 =
// 37 s, and every set of the slot took as long as that. 10 lead-in + 405 prep (15 % of 45
// min) + 20 shown + 3 x 37 + 2 x 60 + 270 close (a tenth) = 936 s; by four rounds, which
// nobody shares, 10 + 405 + 20 + 4 x 32 + 3 x 60 + 270 = 1013 s.
func TestOldDocumentsKeepTheirTime(t *testing.T) {
	old := `{"v":2,"format":"reps","leadInMs":10000,"workMs":40000,"restMs":20000,"rounds":%d,"roundRestMs":60000,"bans":[],"slots":[` +
		`{"id":"s1","pattern":"lunge","waves":1,"new":false,"lanes":{"middle":{"variant":"split-squat","hold":"none","load":{"kind":"none"},` +
		`"anchors":[],"reps":8,"tempo":"2-0-2-0","sides":"rounds"}}}]}`
	c := Context{Library: moves.Standard(), Minutes: 45, Parties: []Party{{Lane: moves.Middle, People: 2, Body: DefaultBody, Stature: DefaultStature}}}
	for rounds, want := range map[int]measure.Span{3: 936, 4: 1013} {
		d, err := circuit.Decode([]byte(fmt.Sprintf(old, rounds)))
		require.NoError(t, err)
		p := Look(d, c)
		assert.Equal(t, want*measure.Second, p.TotalMs, "%d rounds", rounds)
		assert.EqualValues(t, want*measure.Second, p.Order.Total, "%d rounds", rounds)
	}
	// A new document gives the first rounds what they need.
	fresh, err := circuit.Decode([]byte(fmt.Sprintf(old, 3)))
	require.NoError(t, err)
	fresh.Blocks[2].Scheme.Circuit.EvenSets = false
	assert.Equal(t, 926*measure.Second, Look(fresh, c).TotalMs)
}
