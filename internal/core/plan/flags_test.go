package plan

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

func lanes(ground, middle, reach int) []Party {
	var out []Party
	for i, n := range []int{ground, middle, reach} {
		out = append(out, Party{Lane: moves.Lanes[i], People: n, Body: DefaultBody, Stature: DefaultStature})
	}
	return out
}

// known is a class of people who know every move, in an empty room.
func known(lanes []Party) Context {
	return Context{Library: moves.Standard(), Parties: lanes, Minutes: 45, Past: progress.Past{Known: []string{progress.All}}}
}

// plain makes a document of one lane from variants without a load.
func plain(ids ...string) circuit.Single {
	d := circuit.Single{Format: circuit.Timed, WorkMs: 40_000, RestMs: 20_000, Rounds: 1}
	for i, id := range ids {
		v, _ := moves.Standard().Get(id)
		e := circuit.Entry{Variant: id, Hold: moves.NoLoad, Load: kit.Nothing, Dose: circuit.Times(10), Tempo: v.Tempo, Sides: scheme.BothSides}
		if v.Sides != moves.BothSides {
			e.Sides = scheme.Split
		}
		d.Slots = append(d.Slots, circuit.Slot{ID: circuit.SlotID(i + 1), Pattern: v.Pattern, Waves: 1, Entries: map[people.Party]circuit.Entry{"middle": e}})
	}
	return d
}

// What is worth a look (common practice, no source): what is missing, legs twice
// in a row, one weak link twice, nothing to the side, sides that do not suit, a
// set without a whole repetition, an anchor that is not there.
func TestFlagsReference(t *testing.T) {
	c := known(lanes(0, 2, 0))
	whole := []string{"squat", "one-arm-row", "floor-bridge", "push-up", "lateral-lunge", "dead-bug", "hip-hinge"}
	for name, x := range map[string]struct {
		d    circuit.Single
		slot string
		code why.Code
		want bool
	}{
		"complete and mixed":        {plain(whole...), "", why.FlagNoPattern, false},
		"no legs twice":             {plain(whole...), "s7", why.FlagLegsTwice, false},
		"no pull":                   {plain("squat", "push-up", "lateral-lunge", "dead-bug", "hip-hinge", "plank", "floor-bridge"), "", why.FlagNoPattern, true},
		"legs twice":                {plain("squat", "hip-hinge"), "s2", why.FlagLegsTwice, true},
		"shoulder twice":            {plain("push-up", "plank"), "s2", why.FlagWeakLink, true},
		"grip twice, nothing held":  {plain("split-squat", "one-arm-row"), "s2", why.FlagWeakLink, false},
		"nothing to the side":       {plain("squat", "push-up", "floor-bridge", "one-arm-row"), "", why.FlagUneven, true},
		"a bench that is not named": {plain("rear-foot-raised-split-squat"), "s1", why.FaultNoSupport, true},
		"one-sided taken as two-sided": {func() circuit.Single {
			d := plain("split-squat")
			e := d.Slots[0].Entries["middle"]
			e.Sides = scheme.BothSides
			d.Slots[0].Entries["middle"] = e
			return d
		}(), "s1", why.FlagSides, true},
		"not one repetition": {func() circuit.Single { d := plain("paused-goblet-squat"); d.WorkMs = 9000; return d }(), "s1", why.FlagNoRep, true},
		"one repetition":     {func() circuit.Single { d := plain("paused-goblet-squat"); d.WorkMs = 11_000; return d }(), "s1", why.FlagNoRep, false},
	} {
		found := false
		for _, f := range Look(x.d.Document(), c).Flags {
			found = found || f.Slot == x.slot && f.Why.Code == x.code
		}
		assert.Equal(t, x.want, found, name)
	}
}

// Beams of a circuit counted by hand: one push, one pull; squat and lateral lunge
// for the front of the thigh, bridge and hinge for the back; one of four leg moves
// on one leg; two of seven not straight ahead.
func TestBalanceByHand(t *testing.T) {
	c := known(lanes(0, 2, 0))
	d := plain("squat", "one-arm-row", "floor-bridge", "push-up", "lateral-lunge", "reach-and-thread", "hip-hinge")
	assert.Equal(t, []Beam{{"push", "pull", 1, 1, false}, {"front", "back", 2, 2, false}, {"two-legs", "one-leg", 3, 1, false}, {"straight", "sideways", 5, 2, false}}, Look(d.Document(), c).Balance)
	// Where one of two lanes stands on one leg, half of the class does: that is enough.
	c.Parties = lanes(2, 2, 0)
	d.Slots[0].Entries["ground"] = plain("supported-split-squat").Slots[0].Entries["middle"]
	assert.Equal(t, Beam{"two-legs", "one-leg", 2, 2, false}, Look(d.Document(), c).Balance[2])
}

// Prep is chosen for the joints that are asked for: hip and low back first where
// legs work; ankles only where an ankle bends.
func TestPrepFitsTheMoves(t *testing.T) {
	c := known(lanes(0, 2, 0))
	prep := func(d circuit.Document) []string { return IDs(Prep(d, c)) }
	assert.Contains(t, prep(plain("squat", "goblet-squat").Document()), "rocking-ankle-drill")
	assert.NotContains(t, prep(plain("push-up").Document()), "rocking-ankle-drill")
	assert.Contains(t, prep(plain("push-up").Document()), "upper-back-opener")
	assert.NotContains(t, prep(plain("squat").Document()), "band-side-kick", "a drill that needs kit is not taken for granted")

	// The pulse first, without a jolt; then every drill for a joint that is asked, with the
	// move that asks, and no joint without one that could have one.
	d := plain("goblet-squat", "one-arm-press", "romanian-deadlift").Document()
	steps := Prep(d, c)
	require.Equal(t, why.PrepPulse, steps[0].Why.Code)
	asked, _ := c.asked(d)
	opened := map[string]bool{}
	for i, x := range steps {
		v, _ := c.Library.Get(x.Move)
		assert.True(t, v.Drill, x.Move)
		if before, _ := c.Library.Get(steps[max(i-1, 1)].Move); i > 1 {
			assert.LessOrEqual(t, v.Pose.Level(), before.Pose.Level(), "down once")
		}
		if i == 0 {
			assert.True(t, v.Pulse && v.Demands["impact"] == 0)
			continue
		}
		joint := x.Why.Terms[0].Text
		assert.Positive(t, asked[joint], x.Move)
		assert.Contains(t, v.Joints(), joint)
		by, _ := c.Library.Get(x.Why.Terms[1].Text)
		assert.Contains(t, by.Joints(), joint)
		for _, j := range v.Joints() {
			opened[j] = true
		}
	}
	for joint := range asked {
		for _, v := range c.Library.OfPattern(moves.Mobility) {
			if v.Role == moves.Prep && v.Drill && !v.Pulse && len(v.Needs) == 0 && slices.Contains(v.Joints(), joint) && len(steps) < MostDrills {
				assert.True(t, opened[joint], "%s opens %s", v.ID, joint)
			}
		}
	}
	assert.Empty(t, Prep(plain().Document(), c), "nothing is asked")

	// What is to be spared, what the place lacks, and a prep of the house's own.
	d.Bans = []string{"no-floor", "wrist-spare"}
	for _, id := range prep(d) {
		v, _ := c.Library.Get(id)
		assert.Equal(t, 0, v.Pose.Level(), id)
	}
	d.Bans = []string{}
	c.Stock = kit.Stock{Implements: []kit.Implement{{ID: "none", Kind: kit.Wall}}}
	assert.NotContains(t, prep(d), "ankle-rocks", "no wall to lean on")
	c.Library = c.Library.Styled(moves.Style{Prep: []moves.PrepStep{{Move: "hip-lift-shift"}, {Move: "ankle-rocks"}, {Move: "march-on-the-spot"}}})
	assert.Equal(t, []string{"hip-lift-shift", "march-on-the-spot"}, prep(d))

	// A house may prepare by kit: where there is none it is left out, where it is it is held.
	c.Library = c.Library.Styled(moves.Style{Prep: []moves.PrepStep{{Move: "band-kickback"}, {Move: "ankle-rocks"}}})
	assert.Empty(t, prep(d))
	c.Stock.Implements = append(c.Stock.Implements, kit.Implement{ID: "loop", Kind: kit.Band, Count: 4})
	assert.Equal(t, []string{"band-kickback"}, prep(d))
	b, ok := WrittenOut(d, c, "b1")
	require.True(t, ok)
	assert.Equal(t, []string{"loop"}, b.Slots[0].Entries["middle"].Anchors)

	// Seconds, repetitions, sides and kit of the house's own: 20 s a side and 5 s to change are
	// 45; ten in all at 2.5 s each; with 12 kg where there are 12, with the next lighter else.
	march, _ := c.Library.Get("goblet-march")
	c.Stock.Implements = append(c.Stock.Implements, kit.Implement{ID: "b8", Kind: kit.Kettlebell, Mass: 8000, Count: 9})
	c.Library = c.Library.Styled(moves.Style{Prep: []moves.PrepStep{
		{Move: "hip-lift-shift", Ms: 20 * measure.Second, Sides: scheme.Split}, {Move: "goblet-march", Reps: 10, InAll: true, Hold: march.Holds[0], LoadG: 12_000},
	}})
	own := Prep(d, c)
	require.Len(t, own, 2)
	assert.Equal(t, measure.Span(45*measure.Second), own[0].Ms)
	p := Look(d, c)
	assert.Equal(t, own[0].Ms+own[1].Ms, p.Blocks[0].TotalMs, "the prep lasts as long as its steps")
	b, _ = WrittenOut(d, c, "b1")
	assert.Equal(t, circuit.Dose{Kind: circuit.Seconds, Ms: 20 * measure.Second}, b.Slots[0].Entries["middle"].Dose)
	assert.Equal(t, scheme.Split, b.Slots[0].Entries["middle"].Sides)
	e := b.Slots[1].Entries["middle"]
	assert.Equal(t, "b8", e.Load.Item)
	assert.Equal(t, circuit.Dose{Kind: circuit.Count, Low: 10, High: 10, InAll: true}, e.Dose)
}

// A lighter, shorter set before the first heavy one (common practice, no source): of 24 kg
// for ten the heaviest up to 14.4 that there is for all, five times; of six people with two
// such bells nobody has one. Light, thrown and bare sets have none.
func TestRampByHand(t *testing.T) {
	lib := moves.Standard()
	c := known(lanes(0, 2, 0))
	c.Stock = kit.Stock{Implements: []kit.Implement{
		{ID: "b8", Kind: kit.Kettlebell, Mass: 8000, Count: 6}, {ID: "b12", Kind: kit.Kettlebell, Mass: 12_000, Count: 2},
		{ID: "b16", Kind: kit.Kettlebell, Mass: 16_000, Count: 6}, {ID: "b24", Kind: kit.Kettlebell, Mass: 24_000, Count: 6},
	}}
	with := func(move string, hold moves.HoldID, item string, reps int) circuit.Document {
		d := plain("push-up", move).Document().Clone()
		s := &d.Blocks[2].Slots[1]
		v, _ := lib.Get(move)
		s.Entries["middle"] = circuit.Entry{
			Variant: move, Hold: hold, Load: kit.Load{Kind: kit.Implements, Item: item, Count: 1}, Anchors: []string{}, Dose: circuit.Times(reps),
			Tempo: v.TempoWritten(), Sides: scheme.BothSides,
		}
		d.Blocks[2].Scheme.Circuit.Format = circuit.Reps
		return d
	}
	middle := slices.IndexFunc(c.Parties, func(p Party) bool { return p.Lane == moves.Middle })
	ramp := func(d circuit.Document) *Drill {
		for _, x := range Prep(d, c) {
			if x.Slot != "" {
				return &x
			}
		}
		return nil
	}
	for _, x := range []struct {
		move string
		hold moves.HoldID
		item string
		reps int
		n    int
		want string
	}{
		{"goblet-squat", "goblet", "b24", 10, 2, "goblet-squat 12000 x5"},
		{"goblet-squat", "goblet", "b24", 10, 6, "goblet-squat 8000 x5"},
		{"goblet-squat", "goblet", "b16", 10, 2, ""},                                  // 16 kg are under a quarter of 70
		{"goblet-squat", "goblet", "b16", 5, 2, "goblet-squat 8000 x3"},               // few and loaded: 9.6 kg at the most
		{"two-hand-swing", "swing", "b24", 10, 2, ""},                                 // thrown
		{"romanian-deadlift", "hung-one", "b24", 12, 2, "romanian-deadlift 12000 x5"}, // half of twelve are six
	} {
		c.Parties[middle].People = x.n
		got := ramp(with(x.move, x.hold, x.item, x.reps))
		if x.want == "" {
			assert.Nil(t, got, "%s with %s", x.move, x.item)
			continue
		}
		require.NotNil(t, got, "%s with %s", x.move, x.item)
		s := got.Sets[0]
		assert.Equal(t, x.want, fmt.Sprintf("%s %d x%d", s.Entry.Variant, s.LoadG, s.Entry.Dose.Low))
	}
	// It is a step of the prep, led as one, and a slot of it where the prep is written out; the
	// prep is no longer for it.
	c.Parties[middle].People = 2
	d := with("goblet-squat", "goblet", "b24", 10)
	p := Look(d, c)
	assert.Equal(t, scheme.PrepTime(c.Minutes), p.Blocks[0].TotalMs)
	last := p.Prep[len(p.Prep)-1]
	stretch := p.Order.Stretches[slices.IndexFunc(p.Order.Stretches, func(x cue.Stretch) bool { return x.Slot == last.Slot })]
	assert.Equal(t, scheme.Prep, stretch.Kind)
	assert.Equal(t, "goblet-squat", stretch.Drill)
	b, ok := WrittenOut(d, c, "b1")
	require.True(t, ok)
	e := b.Slots[len(b.Slots)-1].Entries["middle"]
	assert.Equal(t, "b12", e.Load.Item)
	assert.Equal(t, circuit.Times(5), e.Dose)
	for _, minutes := range []int{5, 12, 20, 60, 240} { // in a short prep too
		c.Minutes = minutes
		require.NotNil(t, ramp(d))
		sum := measure.Span(0)
		for _, x := range Prep(d, c) {
			sum += x.Ms
		}
		assert.LessOrEqual(t, sum, scheme.PrepTime(minutes), minutes)
	}
}

// A prep or teaching that times itself is written out as slots to be edited: the same
// drills in no more than its time, each new move with its practice set (5 a side, 10 in
// all; common practice, no source).
func TestWrittenOut(t *testing.T) {
	lib := moves.Standard()
	c := known(lanes(2, 3, 0))
	for _, minutes := range []int{12, 30, 60, 90} {
		c.Minutes = minutes
		d := plain("squat", "split-squat", "push-up").Document().Clone()
		work := &d.Blocks[2]
		work.Slots[0].New, work.Slots[1].New = true, true
		held := work.Slots[1].Entries["middle"]
		held.Hold, held.Load = "goblet", kit.Load{Kind: kit.Implements, Item: "kb8", Count: 1}
		work.Slots[1].Entries["middle"] = held
		b, ok := WrittenOut(d, c, "b1")
		require.True(t, ok)
		for i, s := range b.Slots {
			assert.Equal(t, Prep(d, c)[i].Move, s.Entries["middle"].Variant)
			assert.Equal(t, s.Entries["ground"], s.Entries["middle"])
		}
		next, inverse, err := circuit.Apply(d, []circuit.Op{
			{Kind: circuit.RemoveBlock, BlockID: "b1"}, {Kind: circuit.AddBlock, Block: &b, Count: at(0)},
		}, lib)
		require.NoError(t, err)
		teach, ok := WrittenOut(next, c, "b2")
		require.True(t, ok)
		require.Len(t, teach.Slots, 2, "the push-up is known")
		assert.Equal(t, circuit.Times(10), teach.Slots[0].Entries["middle"].Dose)
		assert.Equal(t, moves.NoLoad, teach.Slots[1].Entries["middle"].Hold, "it is tried without its load")
		assert.Equal(t, kit.Nothing, teach.Slots[1].Entries["middle"].Load)
		assert.Equal(t, circuit.Times(5), teach.Slots[1].Entries["middle"].Dose)
		_, ok = WrittenOut(d, c, "b3")
		assert.False(t, ok, "work stands written out")
		_, ok = WrittenOut(d, c, "b4")
		assert.False(t, ok, "a close has no steps")

		prep := Length(circuit.Document{Blocks: []circuit.Block{b}}, c)
		assert.LessOrEqual(t, prep, scheme.PrepTime(minutes), "%d minutes", minutes)
		assert.Greater(t, prep, scheme.PrepTime(minutes)*6/10, "%d minutes", minutes)
		both, _, err := circuit.Apply(next, []circuit.Op{
			{Kind: circuit.RemoveBlock, BlockID: "b2"}, {Kind: circuit.AddBlock, Block: &teach, Count: at(1)},
		}, lib)
		require.NoError(t, err)
		p := Look(both, c)
		require.NoError(t, p.Order.Check())
		assert.Empty(t, p.Prep)
		assert.Empty(t, p.Teach)
		back, _, err := circuit.Apply(next, inverse, lib)
		require.NoError(t, err)
		assert.Equal(t, d, back)
	}
}

func at(n int) *int { return &n }
