package circuit

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/scheme"
)

func iron(id string, n int) kit.Load { return kit.Load{Kind: kit.Implements, Item: id, Count: n} }

// Change-overs (house), each sum written out in seconds.
func TestChangeOverReference(t *testing.T) {
	lib := moves.Standard()
	bench := []string{"bench"}
	for _, c := range []struct {
		name string
		a, b Entry
		want measure.Span
	}{
		{"nothing changes", Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, 0},
		{"another hold on the same bell", Entry{Variant: "goblet-squat", Hold: "goblet", Load: iron("a", 1)}, Entry{Variant: "one-arm-row", Hold: "row-one", Load: iron("a", 1)}, 2},
		{"another bell", Entry{Variant: "goblet-squat", Hold: "goblet", Load: iron("a", 1)}, Entry{Variant: "one-arm-row", Hold: "row-one", Load: iron("b", 1)}, 5},
		{"down to the floor", Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, Entry{Variant: "floor-bridge", Hold: "none", Load: kit.Nothing}, 6},
		{"kneeling with another bell", Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, Entry{Variant: "half-kneeling-press", Hold: "rack-one", Load: iron("a", 1)}, 3 + 5},
		{"set down, up from the floor", Entry{Variant: "floor-press", Hold: "press-two", Load: iron("a", 2)}, Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, 6},
		{"bench, pad and bell on the floor", Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, Entry{Variant: "bench-hip-thrust", Hold: "hips", Load: iron("a", 1), Anchors: bench}, 6 + 5 + 3 + 12},
		{"pad off and up", Entry{Variant: "bench-hip-thrust", Hold: "hips", Load: iron("a", 1), Anchors: bench}, Entry{Variant: "squat", Hold: "none", Load: kit.Nothing}, 6 + 12},
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
		assert.Equal(t, want[0]*measure.Second, PrepTime(minutes), "%d min", minutes)
		assert.Equal(t, want[1]*measure.Second, CloseTime(minutes), "%d min", minutes)
	}
	s := Slot{New: true, Lanes: map[moves.Lane]Entry{
		moves.Ground: {Variant: "squat", Tempo: "2-0-2-0"},       // 5 x 4 = 20 s
		moves.Middle: {Variant: "split-squat", Tempo: "2-0-2-0"}, // 2 x 5 x 4 + 5 = 45 s
	}}
	assert.Equal(t, (90+45)*measure.Second, learnTime(s, moves.Standard()))
	s.New = false
	assert.Equal(t, 20*measure.Second, learnTime(s, moves.Standard()))
}

// Common practice: 3 rounds of a side a round are one a side and the third
// shared; turn by turn pays for no change; half and half does.
func TestSideModesReference(t *testing.T) {
	d := Document{Format: Timed, WorkMs: 40_000, Rounds: 3}
	// Left first, 5 s to change: (40 - 5) / 2.
	split := cue.SideCall{First: scheme.Left, Second: scheme.Right, SwitchAt: 17_500, Change: 5000}
	e := Entry{Variant: "split-squat", Tempo: "2-0-2-0", Reps: 8}
	for mode, want := range map[SideMode]struct {
		perSide, reps int
		calls         []cue.SideCall
	}{
		Split:      {4, 8, []cue.SideCall{split}},
		TurnByTurn: {5, 10, nil},
		BothSides:  {10, 10, nil},
		ByRound:    {10, 10, []cue.SideCall{{First: scheme.Left}, {First: scheme.Right}, split}},
	} {
		e.Sides = mode
		s := timeSet(d, e)
		assert.Equal(t, want.perSide, s.perSide, mode)
		assert.Equal(t, want.reps, s.reps, mode)
		assert.Equal(t, want.calls, s.calls, mode)
	}
	// By repetitions: 8 a side at 4 s: 2 x 32 + 5; 2 x 32; 32; 32 + 5 for the shared
	// third round.
	d.Format = Reps
	for mode, want := range map[SideMode]measure.Span{Split: 69, TurnByTurn: 64, BothSides: 32, ByRound: 37} {
		e.Sides = mode
		assert.Equal(t, want*measure.Second, timeSet(d, e).work, mode)
	}
}

// The shapes of documents ever written, one for each, kept for those who read them
// later: shape 1 packed one kind by count, shape 2 lists the parts.
const (
	shapeOne = `{"v":1,"format":"timed","leadInMs":10000,"workMs":40000,"restMs":20000,"rounds":3,"roundRestMs":60000,"bans":["lateral"],"slots":[{"id":"s1","pattern":"squat","waves":1,"new":false,"lanes":{"middle":{"variant":"goblet-squat","hold":"goblet","load":{"kind":"implement","item":"abc","count":1},"anchors":[],"reps":10,"tempo":"2-0-2-0","sides":"both"},"reach":{"variant":"goblet-squat","hold":"hugged","load":{"kind":"made","item":"tin","count":18,"container":"bag"},"anchors":[],"reps":10,"tempo":"2-0-2-0","sides":"both"}}}]}`
	shapeTwo = `{"v":2,"format":"timed","leadInMs":10000,"workMs":40000,"restMs":20000,"rounds":3,"roundRestMs":60000,"bans":["lateral"],"slots":[{"id":"s1","pattern":"squat","waves":1,"new":false,"lanes":{"middle":{"variant":"goblet-squat","hold":"goblet","load":{"kind":"implement","item":"abc","count":1},"anchors":[],"reps":10,"tempo":"2-0-2-0","sides":"both"},"reach":{"variant":"goblet-squat","hold":"hugged","load":{"kind":"made","container":"bag","parts":[{"id":"tin","count":18}]},"anchors":[],"reps":10,"tempo":"2-0-2-0","sides":"both"}}}]}`
)

func TestDocumentsReadBack(t *testing.T) {
	for _, shape := range []string{shapeOne, shapeTwo} {
		d, err := Decode([]byte(shape))
		require.NoError(t, err)
		require.NoError(t, d.Check(moves.Standard()))
		b, err := Encode(d)
		require.NoError(t, err)
		assert.Equal(t, shapeTwo, string(b))
	}
	for _, bad := range []string{"", "{}", `{"v":3}`, strings.Replace(shapeOne, `"bans"`, `"bams"`, 1), shapeOne[:100]} {
		_, err := Decode([]byte(bad))
		assert.Error(t, err, bad)
	}
}

// Each limit holds at n and refuses n + 1, naming the field.
func TestDocumentLimits(t *testing.T) {
	lib := moves.Standard()
	base, err := Decode([]byte(shapeOne))
	require.NoError(t, err)
	entry := func(d *Document, change func(*Entry)) {
		e := d.Slots[0].Lanes[moves.Middle]
		change(&e)
		d.Slots[0].Lanes[moves.Middle] = e
	}
	slots := func(d *Document, n int) {
		for i := len(d.Slots); i < n; i++ {
			s := d.Slots[0].clone()
			s.ID = "x" + strings.Repeat("y", i)
			d.Slots = append(d.Slots, s)
		}
	}
	for _, c := range []struct {
		path    string
		ok, bad func(*Document)
	}{
		{"rounds", func(d *Document) { d.Rounds = MaxRounds }, func(d *Document) { d.Rounds = MaxRounds + 1 }},
		{"rounds", func(d *Document) { d.Rounds = 1 }, func(d *Document) { d.Rounds = 0 }},
		{"workMs", func(d *Document) { d.WorkMs = MaxStretch }, func(d *Document) { d.WorkMs = MaxStretch + 1 }},
		{"workMs", func(d *Document) { d.WorkMs = 5000 }, func(d *Document) { d.WorkMs = 4999 }},
		{"restMs", func(d *Document) { d.RestMs = 0 }, func(d *Document) { d.RestMs = -1 }},
		{"slots", func(d *Document) { slots(d, MaxSlots) }, func(d *Document) { slots(d, MaxSlots+1) }},
		{"slots[0].waves", func(d *Document) { d.Slots[0].Waves = MaxWaves }, func(d *Document) { d.Slots[0].Waves = MaxWaves + 1 }},
		{"slots[0].lanes.middle.reps", func(d *Document) { entry(d, func(e *Entry) { e.Reps = MaxReps }) }, func(d *Document) { entry(d, func(e *Entry) { e.Reps = MaxReps + 1 }) }},
		{"slots[0].lanes.middle.load.count", func(d *Document) { entry(d, func(e *Entry) { e.Load.Count = 500 }) }, func(d *Document) { entry(d, func(e *Entry) { e.Load.Count = 501 }) }},
		{"slots[0].lanes.middle.tempo", func(d *Document) { entry(d, func(e *Entry) { e.Tempo = "0-0-1-0" }) }, func(d *Document) { entry(d, func(e *Entry) { e.Tempo = "0-0-0-0" }) }},
		{"slots[0].lanes.middle.variant", func(*Document) {}, func(d *Document) { entry(d, func(e *Entry) { e.Variant = "moon-walk" }) }},
		{"slots[0].lanes.middle.hold", func(*Document) {}, func(d *Document) { entry(d, func(e *Entry) { e.Hold = "back" }) }},
		{"slots[0].lanes.middle.load", func(*Document) {}, func(d *Document) { entry(d, func(e *Entry) { e.Load = kit.Nothing }) }},
		{"slots[0].lanes.middle.sides", func(*Document) {}, func(d *Document) { entry(d, func(e *Entry) { e.Sides = "upside-down" }) }},
		{"slots[1].id", func(*Document) {}, func(d *Document) { d.Slots = append(d.Slots, d.Slots[0]) }},
		{"format", func(d *Document) { d.Format = Reps }, func(d *Document) { d.Format = "dance" }},
	} {
		d := base.clone()
		c.ok(&d)
		assert.NoError(t, d.Check(lib), c.path)
		d = base.clone()
		c.bad(&d)
		var f fault.Fault
		require.ErrorAs(t, d.Check(lib), &f, c.path)
		assert.Equal(t, c.path, f.Path)
		assert.NotEmpty(t, f.Message)
	}
}

func FuzzDecode(f *testing.F) {
	f.Add([]byte(shapeOne))
	f.Add([]byte(`{"v":1,"slots":null,"bans":null}`))
	f.Fuzz(func(t *testing.T, b []byte) {
		d, err := Decode(b)
		if err != nil || d.Check(moves.Standard()) != nil {
			return
		}
		once, err := Encode(d)
		require.NoError(t, err)
		again, err := Decode(once)
		require.NoError(t, err)
		twice, err := Encode(again)
		require.NoError(t, err)
		require.Equal(t, string(once), string(twice))
	})
}
