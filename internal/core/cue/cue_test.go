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
			{ID: "a", Parts: []Part{{Party: "ground", Lane: moves.Ground, Variant: "split-squat", Works: []measure.Span{40_000}, Sides: split}, {Party: "reach", Lane: moves.Reach, Variant: "squat", Works: []measure.Span{30_000}}}},
			{ID: "b", Parts: []Part{{Party: "ground", Lane: moves.Ground, Variant: "push-up", Works: []measure.Span{40_000}}, {Party: "reach", Lane: moves.Reach, Variant: "push-up", Works: []measure.Span{40_000}}}},
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

// A prep's steps are a stretch each, as many as have time; the last takes what is left over.
func TestPrepByDrill(t *testing.T) {
	p := small()
	p.Session.Blocks[0].Length, p.Drills = 100_500, []Drill{{"rocking-ankle-drill", 33_000, ""}, {"hip-lift-shift", 33_000, ""}, {"upper-back-opener", 33_000, "a"}, {"shin-turns", 33_000, ""}}
	o := Unroll(p)
	var got []Stretch
	for _, b := range o.Stretches {
		if b.Kind == scheme.Prep {
			got = append(got, b)
		}
	}
	assert.Equal(t, []Stretch{{From: 10_000, Until: 43_000, Kind: scheme.Prep, Drill: "rocking-ankle-drill"}, {From: 43_000, Until: 76_000, Kind: scheme.Prep, Drill: "hip-lift-shift"},
		{From: 76_000, Until: 110_500, Kind: scheme.Prep, Drill: "upper-back-opener", Slot: "a"}}, got)
}

// A hold of any length shifts the end by exactly that.
func TestHoldShiftsTheEnd(t *testing.T) {
	o := Unroll(small())
	rapid.Check(t, func(t *rapid.T) {
		at := rapid.Int64Range(0, o.Total-1).Draw(t, "hold at")
		long := rapid.Int64Range(0, 3_600_000).Draw(t, "hold for")
		a := Fold(o, []RunEvent{{Kind: Start, At: 0}, {Kind: Hold, At: at}, {Kind: Hold, At: at + long/2}, {Kind: Resume, At: at + long}})
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
	kinds := []RunKind{Hold, Resume, Skip, Back, Add, NextSet, Done, Hold, Resume}
	rapid.Check(t, func(t *rapid.T) {
		events := []RunEvent{{Kind: Start, At: 1000}}
		now, high := int64(1000), int64(0)
		for i := rapid.IntRange(0, 30).Draw(t, "presses"); i > 0; i-- {
			now += rapid.Int64Range(1, 90_000).Draw(t, "later")
			before, _ := Fold(o, events).Position(now, o.Total)
			assert.GreaterOrEqual(t, before, high)
			e := RunEvent{Kind: rapid.SampledFrom(kinds).Draw(t, "kind"), At: now, Ms: 15_000}
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
	a := Fold(o, []RunEvent{{Kind: Start, At: 0}, {Kind: Add, At: 5000, Ms: 15_000}})
	p, w := a.Position(10_000, o.Total)
	assert.EqualValues(t, []int64{5000, 10_000}, []int64{p, w})
	p, _ = a.Position(21_000, o.Total)
	assert.EqualValues(t, 6000, p)
	// In a set whose sides change at 307.5 s, 15 s are shared: half at once, half where the
	// second side begins at 312.5 s. After the change all is the second side's.
	a = Fold(o, []RunEvent{{Kind: Start, At: 0}, {Kind: Add, At: 300_000, Ms: 15_000}})
	for at, want := range map[int64][2]int64{
		305_000: {300_000, 2500}, 307_500: {300_000, 0}, 320_000: {312_500, 0}, 324_000: {312_500, 3500}, 327_500: {312_500, 0}, 330_000: {315_000, 0},
	} {
		p, w = a.Position(at, o.Total)
		assert.Equal(t, want, [2]int64{p, w}, "at %d", at)
	}
	a = Fold(o, []RunEvent{{Kind: Start, At: 0}, {Kind: Add, At: 313_000, Ms: 15_000}})
	assert.Empty(t, a.Later)
	a = Fold(o, []RunEvent{{Kind: Start, At: 0}, {Kind: Add, At: 300_000, Ms: 15_000}, {Kind: NextSet, At: 310_000}})
	assert.Empty(t, a.Later, "a set that is over waits for nothing")
	assert.EqualValues(t, 330_000, a.PositionMs)
	// 12 s in: prep is 2 s old, so Back means the lead-in; 20 s in it means prep.
	assert.EqualValues(t, 0, Fold(o, []RunEvent{{Kind: Start, At: 0}, {Kind: Back, At: 12_000}}).PositionMs)
	assert.EqualValues(t, 10_000, Fold(o, []RunEvent{{Kind: Start, At: 0}, {Kind: Back, At: 20_000}}).PositionMs)
	// At the very end Back means the close, which began at 640 s.
	assert.EqualValues(t, 640_000, Fold(o, []RunEvent{{Kind: Start, At: 0}, {Kind: Back, At: 900_000}}).PositionMs)
}

// Presses that come late, from a screen that had no server, count from when
// they were made: whatever order they come in, the class is at the same place.
func TestFoldForgetsTheOrderOfComing(t *testing.T) {
	o := Unroll(small())
	kinds := []RunKind{Start, Hold, Resume, Skip, Back, Add, NextSet, Stopped}
	rapid.Check(t, func(t *rapid.T) {
		at := rapid.SliceOfNDistinct(rapid.Int64Range(0, 1_000_000), 1, 20, rapid.ID[int64]).Draw(t, "instants")
		var events []RunEvent
		for _, x := range at {
			events = append(events, RunEvent{Kind: rapid.SampledFrom(kinds).Draw(t, "kind"), At: x, Ms: 15_000})
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
		{{Kind: Hold, At: 500}, {Kind: Start, At: 1000}, {Kind: Start, At: 1500}}, {{Kind: Start, At: 0}, {Kind: Hold, At: 260_000}, {Kind: Hold, At: 270_000}, {Kind: Back, At: 280_000}, {Kind: End, At: 290_000}, {Kind: Back, At: 300_000}},
		{{Kind: Start, At: 0}, {Kind: Add, At: 5000, Ms: 15_000}, {Kind: Add, At: 6000, Ms: 15_000}, {Kind: Skip, At: 7000}, {Kind: Back, At: 8000}, {Kind: Back, At: 12_000}},
		{{Kind: Start, At: 0}, {Kind: Skip, At: 30_000}, {Kind: Hold, At: 31_000}, {Kind: Add, At: 40_000, Ms: 15_000}, {Kind: Resume, At: 60_000}, {Kind: Skip, At: 61_000}, {Kind: Skip, At: 62_000}, {Kind: Skip, At: 63_000}},
		{{Kind: Start, At: 0}, {Kind: Add, At: 300_000, Ms: 15_000}, {Kind: Add, At: 302_000, Ms: 15_000}, {Kind: Hold, At: 310_000}, {Kind: Resume, At: 311_000}, {Kind: Done, At: 312_000}, {Kind: Hold, At: 335_000}, {Kind: NextSet, At: 340_000}},
		{{Kind: Start, At: 0}, {Kind: End, At: 90_000}, {Kind: Skip, At: 95_000}, {Kind: Resume, At: 100_000}}, {{Kind: Start, At: 0}, {Kind: End, At: 90_000}, {Kind: Resume, At: 151_000}}, {{Kind: Start, At: 0}, {Kind: Back, At: 830_000}, {Kind: Hold, At: 1_100_000}}, {{Kind: Start, At: 0}, {Kind: Add, At: 820_000, Ms: 1000}},
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
		{At: 287_000, Kind: CountDown, Slot: "a", Count: 3}, {At: 288_000, Kind: CountDown, Slot: "a", Count: 2}, {At: 289_000, Kind: CountDown, Slot: "a", Count: 1}, {At: 290_000, Kind: Go, Slot: "a"}, {At: 307_500, Kind: Switch, Slot: "a"}, {At: 320_000, Kind: LastTen, Slot: "a"},
		{At: 327_000, Kind: CountDown, Slot: "b", Count: 3}, {At: 328_000, Kind: CountDown, Slot: "b", Count: 2}, {At: 329_000, Kind: CountDown, Slot: "b", Count: 1}, {At: 330_000, Kind: RestNow}, {At: 345_000, Kind: Next, Slot: "b"},
		{At: 347_000, Kind: CountDown, Slot: "b", Count: 3}, {At: 348_000, Kind: CountDown, Slot: "b", Count: 2}, {At: 349_000, Kind: CountDown, Slot: "b", Count: 1}, {At: 350_000, Kind: Go, Slot: "b"}, {At: 380_000, Kind: LastTen, Slot: "b"},
		{At: 387_000, Kind: CountDown, Slot: "b", Count: 3}, {At: 388_000, Kind: CountDown, Slot: "b", Count: 2}, {At: 389_000, Kind: CountDown, Slot: "b", Count: 1}, {At: 390_000, Kind: RestNow},
		{At: 392_000, Kind: CountDown, Slot: "b", Count: 3}, {At: 393_000, Kind: CountDown, Slot: "b", Count: 2}, {At: 394_000, Kind: CountDown, Slot: "b", Count: 1}, {At: 395_000, Kind: Go, Slot: "b"}, {At: 425_000, Kind: LastTen, Slot: "b"},
		{At: 432_000, Kind: CountDown, Slot: "a", Count: 3}, {At: 433_000, Kind: CountDown, Slot: "a", Count: 2}, {At: 434_000, Kind: CountDown, Slot: "a", Count: 1}, {At: 435_000, Kind: RestNow}, {At: 490_000, Kind: Next, Slot: "a"},
		{At: 492_000, Kind: CountDown, Slot: "a", Count: 3}, {At: 493_000, Kind: CountDown, Slot: "a", Count: 2}, {At: 494_000, Kind: CountDown, Slot: "a", Count: 1}, {At: 495_000, Kind: Go, Slot: "a"},
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
	assert.Equal(t, []Call{{At: 330_000, Kind: RestNow}, {At: 330_000, Kind: CountDown, Slot: "b", Count: 2}, {At: 331_000, Kind: CountDown, Slot: "b", Count: 1}}, rest)
}
