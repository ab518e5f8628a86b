package cue

import (
	"encoding/json"
	"flag"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
)

var update = flag.Bool("update", false, "rewrite the golden file that vitest reads too")

func small() Plan {
	split := []scheme.SideCall{{First: scheme.Left, Second: scheme.Right, SwitchAt: 17500, Change: 5000}}
	return Plan{
		Session: scheme.Session{LeadIn: 10_000, Blocks: []scheme.Block{
			{Plain: scheme.Prep, Length: 240_000},
			{Learn: []scheme.Lesson{{Slot: 0, Long: 20_000}, {Slot: 1, Long: 20_000}}},
			{Scheme: scheme.Circuit, RoundRest: 60_000, Rounds: 2, Slots: []scheme.Slot{
				{Waves: 1, Works: []measure.Span{40_000}, Rest: 20_000}, {Waves: 2, Works: []measure.Span{40_000}, HandOver: 5000},
			}},
			{Plain: scheme.Close, Length: 180_000},
		}},
		Slots: []Slot{
			{ID: "a", Parts: []Part{{Party: "ground", Lane: moves.Ground, Variant: "split-squat", Work: 40_000, Sides: split}, {Party: "reach", Lane: moves.Reach, Variant: "squat", Work: 30_000}}},
			{ID: "b", Parts: []Part{{Party: "ground", Lane: moves.Ground, Variant: "push-up", Work: 40_000}, {Party: "reach", Lane: moves.Reach, Variant: "push-up", Work: 40_000}}},
		},
	}
}

// Worked by hand: 10 + 240 + 2 x 20 + 2 rounds of (40 + 20 + 40 + 5 + 40) + 60
// + 180 = 820 s.
func TestUnrollByHand(t *testing.T) {
	o := Unroll(small())
	assert.EqualValues(t, 820_000, o.Total)
	byLane := map[people.Party]int64{}
	for _, e := range o.Events {
		assert.Equal(t, byLane[e.Party], e.From, "no gap in %s", e.Party)
		byLane[e.Party] = e.Until
	}
	assert.Equal(t, map[people.Party]int64{"ground": o.Total, "reach": o.Total}, byLane)
	var sides []scheme.Side
	for _, e := range o.Events {
		if e.Lane == "ground" && e.Slot == "a" && e.Round == 1 && e.Kind == scheme.Work {
			sides = append(sides, e.Side)
		}
	}
	assert.Equal(t, []scheme.Side{scheme.Left, scheme.Right}, sides)
}

// Prep is shared out to its drills, a stretch each, as many as have half a minute; the
// last takes what is left over.
func TestPrepByDrill(t *testing.T) {
	p := small()
	p.Session.Blocks[0].Length, p.Drills = 100_500, []string{"rocking-ankle-drill", "hip-lift-shift", "upper-back-opener", "shin-turns"}
	o := Unroll(p)
	var got []Block
	for _, b := range o.Blocks {
		if b.Kind == scheme.Prep {
			got = append(got, b)
		}
	}
	assert.Equal(t, []Block{{From: 10_000, Until: 43_000, Kind: scheme.Prep, Drill: "rocking-ankle-drill"}, {From: 43_000, Until: 76_000, Kind: scheme.Prep, Drill: "hip-lift-shift"},
		{From: 76_000, Until: 110_500, Kind: scheme.Prep, Drill: "upper-back-opener"}}, got)
}

// A hold of any length shifts the end by exactly that.
func TestHoldShiftsTheEnd(t *testing.T) {
	o := Unroll(small())
	rapid.Check(t, func(t *rapid.T) {
		at := rapid.Int64Range(0, o.Total-1).Draw(t, "hold at")
		long := rapid.Int64Range(0, 3_600_000).Draw(t, "hold for")
		a := Fold(o, []RunEvent{{Start, 0, 0}, {Hold, at, 0}, {Hold, at + long/2, 0}, {Resume, at + long, 0}})
		p, _ := a.Position(o.Total+long-1, o.Total)
		assert.Equal(t, o.Total-1, p)
		p, _ = a.Position(o.Total+long, o.Total)
		assert.Equal(t, o.Total, p)
	})
}

// Whatever is pressed, the position never falls except by Back, stays within
// the class, and an added wait delays by exactly its length.
func TestFoldNeverRunsBackwards(t *testing.T) {
	o := Unroll(small())
	kinds := []RunKind{Hold, Resume, Skip, Back, Add, Hold, Resume}
	rapid.Check(t, func(t *rapid.T) {
		events := []RunEvent{{Start, 1000, 0}}
		now, high := int64(1000), int64(0)
		for i := rapid.IntRange(0, 30).Draw(t, "presses"); i > 0; i-- {
			now += rapid.Int64Range(1, 90_000).Draw(t, "later")
			before, _ := Fold(o, events).Position(now, o.Total)
			assert.GreaterOrEqual(t, before, high)
			e := RunEvent{rapid.SampledFrom(kinds).Draw(t, "kind"), now, 15_000}
			events = append(events, e)
			after, _ := Fold(o, events).Position(now, o.Total)
			if e.Kind != Back {
				assert.GreaterOrEqual(t, after, before)
			}
			assert.LessOrEqual(t, after, o.Total)
			high = after
		}
	})
}

func TestAddWaitsAndBackGoesBack(t *testing.T) {
	o := Unroll(small())
	a := Fold(o, []RunEvent{{Start, 0, 0}, {Add, 5000, 15_000}})
	p, w := a.Position(10_000, o.Total)
	assert.EqualValues(t, []int64{5000, 10_000}, []int64{p, w})
	p, _ = a.Position(21_000, o.Total)
	assert.EqualValues(t, 6000, p)
	// 12 s in: prep is 2 s old, so Back means the lead-in; 20 s in it means prep.
	assert.EqualValues(t, 0, Fold(o, []RunEvent{{Start, 0, 0}, {Back, 12_000, 0}}).PositionMs)
	assert.EqualValues(t, 10_000, Fold(o, []RunEvent{{Start, 0, 0}, {Back, 20_000, 0}}).PositionMs)
	// At the very end Back means the close, which began at 640 s.
	assert.EqualValues(t, 640_000, Fold(o, []RunEvent{{Start, 0, 0}, {Back, 900_000, 0}}).PositionMs)
}

// Presses that come late, from a screen that had no server, count from when
// they were made: whatever order they come in, the class is at the same place.
func TestFoldForgetsTheOrderOfComing(t *testing.T) {
	o := Unroll(small())
	kinds := []RunKind{Start, Hold, Resume, Skip, Back, Add}
	rapid.Check(t, func(t *rapid.T) {
		at := rapid.SliceOfNDistinct(rapid.Int64Range(0, 1_000_000), 1, 20, rapid.ID[int64]).Draw(t, "instants")
		var events []RunEvent
		for _, x := range at {
			events = append(events, RunEvent{rapid.SampledFrom(kinds).Draw(t, "kind"), x, 15_000})
		}
		assert.Equal(t, Fold(o, events), Fold(o, rapid.Permutation(events).Draw(t, "coming")))
	})
}

// The golden file is read by the browser's own test of its look-up: after every
// press the anchor, and positions at some instants.
func TestGoldenPositions(t *testing.T) {
	type probe struct{ T, Position, Wait int64 }
	type stage struct {
		Event  *RunEvent
		Anchor Anchor
		Probes []probe
	}
	o := Unroll(small())
	golden := struct {
		Order   Order
		Leaps   []Leap
		Effects []Effect
		GoOnMs  int64
		Runs    [][]stage
	}{o, o.Leaps(), Effects, GoOnMs, nil}
	for _, events := range [][]RunEvent{
		{{Hold, 500, 0}, {Start, 1000, 0}, {Start, 1500, 0}}, {{Start, 0, 0}, {Hold, 260_000, 0}, {Hold, 270_000, 0}, {Back, 280_000, 0}, {End, 290_000, 0}, {Back, 300_000, 0}},
		{{Start, 0, 0}, {Add, 5000, 15_000}, {Add, 6000, 15_000}, {Skip, 7000, 0}, {Back, 8000, 0}, {Back, 12_000, 0}},
		{{Start, 0, 0}, {Skip, 30_000, 0}, {Hold, 31_000, 0}, {Add, 40_000, 15_000}, {Resume, 60_000, 0}, {Skip, 61_000, 0}, {Skip, 62_000, 0}, {Skip, 63_000, 0}},
		{{Start, 0, 0}, {End, 90_000, 0}, {Skip, 95_000, 0}, {Resume, 100_000, 0}}, {{Start, 0, 0}, {End, 90_000, 0}, {Resume, 151_000, 0}}, {{Start, 0, 0}, {Back, 830_000, 0}, {Hold, 1_100_000, 0}}, {{Start, 0, 0}, {Add, 820_000, 1000}},
	} {
		var stages []stage
		for n := range len(events) + 1 {
			s := stage{Anchor: Fold(o, events[:n])}
			if n > 0 {
				s.Event = &events[n-1]
			}
			for _, at := range []int64{0, 4000, 19_999, 60_000, 310_123, 900_000} {
				p, w := s.Anchor.Position(at, o.Total)
				s.Probes = append(s.Probes, probe{at, p, w})
			}
			stages = append(stages, s)
		}
		golden.Runs = append(golden.Runs, stages)
	}
	got, err := json.Marshal(golden)
	require.NoError(t, err)
	const file = "testdata/positions.json"
	if *update {
		require.NoError(t, os.MkdirAll("testdata", 0o755))
		require.NoError(t, os.WriteFile(file, append(got, '\n'), 0o600))
	}
	want, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, string(want), string(got)+"\n")
	assert.Equal(t, measure.Span(820_000), measure.Span(o.Total))
}

// Calls of a small class by hand (common practice, no source; the seconds are the house's):
// prep from 10 s, two moves shown at 250 and 270, work of 40 s from 290 with a change of
// sides at 307.5, a rest of 20 s from 330, two waves of 40 s from 350 with 5 s between, and
// a minute from 435.
func TestCallsByHand(t *testing.T) {
	var got []Call
	for _, c := range Calls(Unroll(small())) {
		if c.At >= 287_000 && c.At <= 495_000 {
			got = append(got, c)
		}
	}
	assert.Equal(t, []Call{
		{287_000, CountDown, "a", 3}, {288_000, CountDown, "a", 2}, {289_000, CountDown, "a", 1}, {290_000, Go, "a", 0}, {307_500, Switch, "a", 0}, {320_000, LastTen, "a", 0},
		{327_000, CountDown, "b", 3}, {328_000, CountDown, "b", 2}, {329_000, CountDown, "b", 1}, {330_000, RestNow, "", 0}, {345_000, Next, "b", 0},
		{347_000, CountDown, "b", 3}, {348_000, CountDown, "b", 2}, {349_000, CountDown, "b", 1}, {350_000, Go, "b", 0}, {380_000, LastTen, "b", 0},
		{387_000, CountDown, "b", 3}, {388_000, CountDown, "b", 2}, {389_000, CountDown, "b", 1}, {390_000, RestNow, "", 0},
		{392_000, CountDown, "b", 3}, {393_000, CountDown, "b", 2}, {394_000, CountDown, "b", 1}, {395_000, Go, "b", 0}, {425_000, LastTen, "b", 0},
		{432_000, CountDown, "a", 3}, {433_000, CountDown, "a", 2}, {434_000, CountDown, "a", 1}, {435_000, RestNow, "", 0}, {490_000, Next, "a", 0},
		{492_000, CountDown, "a", 3}, {493_000, CountDown, "a", 2}, {494_000, CountDown, "a", 1}, {495_000, Go, "a", 0},
	}, got)
	// A rest of two seconds has no room for three, and none for what comes next.
	p := small()
	p.Session.Blocks[2].Slots[0].Rest = 2000
	var rest []Call
	for _, c := range Calls(Unroll(p)) {
		if c.At >= 330_000 && c.At < 332_000 {
			rest = append(rest, c)
		}
	}
	assert.Equal(t, []Call{{330_000, RestNow, "", 0}, {330_000, CountDown, "b", 2}, {331_000, CountDown, "b", 1}}, rest)
}
