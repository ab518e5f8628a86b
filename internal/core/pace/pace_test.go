package pace_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/pace"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/run"
	"nimbleanvil/internal/core/scheme"
)

// library is the standard one of a house with times of its own.
func library(t *moves.Times) *moves.Library { return moves.Standard().Styled(moves.Style{Times: t}) }

// planned is a class of straight sets by repetitions for two lanes: squats, then split squats a
// side, taught first.
func planned(lib *moves.Library) run.Plan {
	e := func(move string, reps int, sides scheme.SideMode) circuit.Entry {
		v, _ := lib.Get(move)
		return circuit.Entry{
			Variant: move, Hold: v.Holds[0], Dose: circuit.Times(reps), Tempo: v.Tempo, Sides: sides, Anchors: []string{},
		}
	}
	split := e("split-squat", 6, scheme.Split)
	split.Anchors = []string{"post"} // to hold, and to walk to: 3 s
	slots := []circuit.Slot{
		{ID: "s1", Pattern: moves.Squat, Waves: 1, New: true, Entries: map[people.Party]circuit.Entry{
			"ground": e("squat", 8, scheme.BothSides), "middle": e("squat", 12, scheme.BothSides),
		}},
		{ID: "s2", Pattern: moves.Lunge, Waves: 1, Entries: map[people.Party]circuit.Entry{
			"ground": split, "middle": split,
		}},
	}
	d := circuit.Document{V: circuit.DocumentVersion, LeadInMs: 10 * measure.Second, Blocks: []circuit.Block{
		{ID: "b1", Kind: circuit.Teach, Auto: true, Layout: circuit.Together},
		{ID: "b2", Kind: circuit.Work, Layout: circuit.Together, Slots: slots, Scheme: &circuit.Scheme{
			Kind: scheme.Sets, Sets: &circuit.InSets{Sets: 3, RestMs: 60 * measure.Second},
		}},
	}}
	c := plan.Context{Library: lib, Minutes: 40, Parties: []plan.Party{
		{Lane: moves.Ground, People: 4, Body: plan.DefaultBody}, {Lane: moves.Middle, People: 4, Body: plan.DefaultBody},
	}}
	return run.Freeze(d, plan.Look(d, c), c, nil)
}

// presses runs a plan: how long after the beginning of each stretch NextSet is pressed,
// 0 to let it run out.
func presses(p run.Plan, next func(x cue.Stretch) int64) []cue.RunEvent {
	events, now := []cue.RunEvent{{Kind: cue.Start, At: 0}}, int64(0)
	for _, x := range p.Order.Stretches {
		long := x.Until - x.From
		if after := next(x); after > 0 && after < long {
			events = append(events, cue.RunEvent{Kind: cue.NextSet, At: now + after})
			long = after
		}
		now += long
	}
	return events
}

// long is when every class is over.
const long = int64(1) << 40

func nothing(string, people.Party) (int, bool) { return 0, false }

func of(all []pace.Sample, what pace.What, move string) (said, ranOut []int64) {
	for _, s := range all {
		switch {
		case s.What != what || s.Variant != move:
		case s.Said:
			said = append(said, s.Value)
		default:
			ranOut = append(ranOut, s.Value)
		}
	}
	return said, ranOut
}

// Worked by hand. Common practice, no source: twelve squats at 4 s (2-0-2-0) are planned for
// 48 s; ended after 40 they took a sixth less each. It says nothing of the lane that had eight.
func TestSamplesByHand(t *testing.T) {
	lib := library(nil)
	p := planned(lib)
	squat, ok := lib.Get("squat")
	require.True(t, ok)
	perRep := int64(squat.PerRep())
	events := presses(p, func(x cue.Stretch) int64 {
		if x.Slot == "s1" && x.Kind == scheme.Work && x.Round == 1 {
			return 12 * perRep * 5 / 6
		}
		return 0
	})
	said, ranOut := of(pace.Samples(p, events, long, nothing, lib), pace.PerRep, "squat")
	assert.Equal(t, []int64{perRep * 5 / 6}, said)
	assert.Equal(t, []int64{perRep, perRep, perRep, perRep}, ranOut, "two sets of either lane ran out")

	// Of two sides the change between them is no repetition.
	split, _ := lib.Get("split-squat")
	one := int64(split.PerRep())
	events = presses(p, func(x cue.Stretch) int64 {
		if x.Slot == "s2" && x.Kind == scheme.Work {
			return 12*(one-500) + int64(scheme.SideChange)
		}
		return 0
	})
	said, ranOut = of(pace.Samples(p, events, long, nothing, lib), pace.PerRep, "split-squat")
	assert.Equal(t, []int64{one - 500, one - 500, one - 500, one - 500, one - 500, one - 500}, said)
	assert.Empty(t, ranOut)

	// What is written in the log counts: five a side instead of six.
	logged := func(slot string, _ people.Party) (int, bool) { return 5, slot == "s2" }
	said, _ = of(pace.Samples(p, events, long, logged, lib), pace.PerRep, "split-squat")
	assert.Equal(t, (12*(one-500)+5)/10, said[0])

	// Skipped, held, or over in a moment: it tells nothing.
	var first cue.Stretch
	for _, x := range p.Order.Stretches {
		if x.Kind == scheme.Work {
			first = x
			break
		}
	}
	for name, e := range map[string][]cue.RunEvent{
		"skipped": {{Kind: cue.Skip, At: first.From + 20_000}},
		"held":    {{Kind: cue.Hold, At: first.From + 5000}, {Kind: cue.Resume, At: first.From + 9000}, {Kind: cue.NextSet, At: first.From + 30_000}},
		"a slip":  {{Kind: cue.NextSet, At: first.From + 1000}},
	} {
		said, _ := of(pace.Samples(p, append([]cue.RunEvent{{Kind: cue.Start}}, e...), long, nothing, lib), pace.PerRep, "squat")
		assert.Empty(t, said, name)
	}

	// A party that is done counts for itself, in the rest too.
	done := []cue.RunEvent{{Kind: cue.Start}, {Kind: cue.Done, At: first.From + 8*perRep - 800, Party: "ground", Slot: "s1"}, {Kind: cue.Done, At: first.Until + 6000, Party: "middle", Slot: "s1"}}
	said, _ = of(pace.Samples(p, done, long, nothing, lib), pace.PerRep, "squat")
	assert.Equal(t, []int64{perRep - 100, perRep + 500}, said)
}

// Teaching goes on while the clock is held; a change-over is a rest that is no longer than it
// has to be.
func TestTeachingAndChangeOvers(t *testing.T) {
	lib := library(nil)
	p := planned(lib)
	var lesson, change cue.Stretch
	for i, x := range p.Order.Stretches {
		if x.Kind == scheme.Learn && lesson.Until == 0 {
			lesson = x
		}
		if x.Kind == scheme.Rest && x.Slot == "s2" && p.Order.Stretches[i-1].Slot == "s1" {
			change = x
		}
	}
	require.NotZero(t, lesson.Until)
	require.EqualValues(t, scheme.WalkInHall, change.Until-change.From)
	events := []cue.RunEvent{{Kind: cue.Start}, {Kind: cue.Hold, At: lesson.From + 1000}, {Kind: cue.Resume, At: lesson.From + 1000 + (lesson.Until-lesson.From)/2}}
	said, ranOut := of(pace.Samples(p, events, long, nothing, lib), pace.Teach, "")
	assert.Equal(t, []int64{150}, said)
	assert.Equal(t, []int64{100}, ranOut, "the other move is taught as reckoned")
	added := []cue.RunEvent{{Kind: cue.Start}, {Kind: cue.Add, At: change.From, Ms: change.Until - change.From}}
	said, _ = of(pace.Samples(p, added, long, nothing, lib), pace.ChangeOver, "")
	assert.Equal(t, []int64{200}, said, "twice as long")
}

// After five runs the house is offered what it takes, with its spread, and plans with it when
// it takes it over; four are too few. Quartiles after Tukey's hinges (from memory):
// 3.4 3.5 3.6 3.7 3.8 have 3.5 and 3.7.
func TestOfferedAfterFiveRuns(t *testing.T) {
	lib := library(nil)
	p := planned(lib)
	var runs [][]pace.Sample
	for i := range 5 {
		assert.Empty(t, pace.Offers(runs, lib), "%d runs", i)
		events := presses(p, func(x cue.Stretch) int64 {
			if x.Slot == "s1" && x.Kind == scheme.Work {
				return 12 * int64(3400+100*i)
			}
			return 0
		})
		runs = append(runs, pace.Samples(p, events, long, nothing, lib))
	}
	offers := pace.Offers(runs, lib)
	require.Len(t, offers, 1, "only what was ended by hand")
	o := offers[0]
	squat, _ := lib.Get("squat")
	assert.Equal(t, pace.Offer{
		What: pace.PerRep, Variant: "squat", Reckoned: int64(squat.PerRep()), Own: 3600, Low: 3500, High: 3700, Samples: 15, Runs: 5,
	}, o)

	times := pace.Taken(moves.Times{}, o, true)
	own := library(&times)
	again := planned(own)
	assert.Less(t, again.Order.Total, p.Order.Total)
	v, _ := own.Get("squat")
	assert.EqualValues(t, 3600, v.PerRep())
	offers = pace.Offers(runs, own)
	require.Len(t, offers, 1)
	assert.EqualValues(t, 3600, offers[0].Used)
	assert.Equal(t, int64(squat.PerRep()), offers[0].Reckoned)
	back := pace.Taken(times, o, false)
	assert.Equal(t, p.Order, planned(library(&back)).Order, "given back: as before")

	// Change-overs and teaching by per cent, to the whole second.
	slow := library(&moves.Times{ChangeOverPct: 150, TeachPct: 80})
	assert.Equal(t, 12*measure.Second, slow.ChangeOver(8*measure.Second))
	assert.Equal(t, 72*measure.Second, slow.Teaching(90*measure.Second))
	assert.Equal(t, 8*measure.Second, lib.ChangeOver(8*measure.Second))
}
