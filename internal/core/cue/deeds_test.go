package cue

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/scheme"
)

// Worked by hand on the small class: the first set of the circuit is from 290 s to 330 s,
// the rest after it to 350 s.
func TestRealTimesByHand(t *testing.T) {
	o := Unroll(small())
	const start = int64(1_000_000)
	at := func(ms int64) int64 { return start + ms }
	set := func(all []Lasted, from int64) Lasted {
		for _, l := range all {
			if o.Stretches[l.Stretch].From == from {
				return l
			}
		}
		return Lasted{Stretch: -1}
	}
	events := []RunEvent{
		{Kind: Start, At: start},
		{Kind: NextSet, At: at(322_000)},                          // after 32 s of 40
		{Kind: Add, At: at(330_000), Ms: 15_000},                  // 8 s into the rest of 20
		{Kind: Done, At: at(365_000), Party: "ground", Slot: "b"}, // 8 s into b, which began at 357
		{Kind: Hold, At: at(367_000)},                             // 10 s into it
		{Kind: Resume, At: at(377_000)},                           // held for 10
		{Kind: Round, At: at(378_000), Party: "reach", Slot: "b"}, // no window, but counted
		{Kind: NextSet, At: at(387_000)},                          // 20 s of work
		{Kind: Done, At: at(388_000), Party: "reach", Slot: "b"},  // in the hand-over
		{Kind: Stopped, At: at(388_500), Party: "middle", Slot: "b"},
	}
	lasted, finished := Lasting(o, events, 0)
	assert.Equal(t, Lasted{Stretch: set(lasted, 290_000).Stretch, Real: 32_000, By: NextSet, Over: true}, set(lasted, 290_000))
	rest := set(lasted, 330_000)
	assert.Equal(t, Lasted{Stretch: rest.Stretch, Real: 35_000, Added: true, Over: true}, rest)
	b := set(lasted, 350_000)
	assert.Equal(t, Lasted{Stretch: b.Stretch, Real: 20_000, Held: 10_000, By: NextSet, Over: true}, b)
	assert.Equal(t, []Finish{
		{Party: "ground", Stretch: b.Stretch, Real: 8_000},
		{Party: "reach", Stretch: b.Stretch, Real: 21_000, Held: true},
	}, finished)
	deeds := Deeds(o, events)
	require.Len(t, deeds, 4)
	assert.Equal(t, Deed{Party: "ground", Slot: "b", Kind: Done, Count: 1, AtMs: 358_000}, deeds[0])

	// Gone back to the beginning of b: it is to be done again, and only the stop stays said.
	events = append(events, RunEvent{Kind: Back, At: at(388_600)})
	lasted, finished = Lasting(o, events, 0)
	assert.Empty(t, finished)
	assert.Equal(t, -1, set(lasted, 350_000).Stretch, "to be done once more")
	deeds = Deeds(o, events)
	require.Len(t, deeds, 1)
	assert.Equal(t, Stopped, deeds[0].Kind)
}

// No second is lost or counted twice: where nobody goes back, the real times and what was
// held add up to the time since the start.
func TestRealTimesAddUp(t *testing.T) {
	o := Unroll(small())
	rapid.Check(t, func(t *rapid.T) {
		events := []RunEvent{{Kind: Start, At: 5000}}
		now := int64(5000)
		for range rapid.IntRange(0, 12).Draw(t, "presses") {
			now += rapid.Int64Range(0, 120_000).Draw(t, "after")
			e := RunEvent{Kind: rapid.SampledFrom(RunKinds).Draw(t, "kind"), At: now}
			switch {
			case e.Kind == Back || e.Kind == End:
				continue
			case e.Kind == Add:
				e.Ms = rapid.Int64Range(0, 60_000).Draw(t, "wait")
			case e.Kind.OfParty():
				e.Party, e.Slot = "ground", rapid.SampledFrom([]string{"a", "b"}).Draw(t, "slot")
			}
			events = append(events, e)
		}
		a := Fold(o, events)
		if a.State == Ended {
			return // the class was over before the last presses
		}
		now += rapid.Int64Range(0, 120_000).Draw(t, "still")
		if p, _ := a.Position(now, o.Total); p >= o.Total {
			return
		}
		lasted, _ := Lasting(o, events, now)
		var sum int64
		for _, l := range lasted {
			sum += l.Real + l.Held
			if x := o.Stretches[l.Stretch]; l.By == "" && l.Over {
				require.GreaterOrEqual(t, l.Real, int64(0))
				require.NotEmpty(t, x.Kind)
			}
		}
		require.Equal(t, now-5000, sum)
	})
}

// Whoever was done is done with a set of the slot they said.
func TestDoneIsOfASet(t *testing.T) {
	o := Unroll(small())
	rapid.Check(t, func(t *rapid.T) {
		at := rapid.Int64Range(0, o.Total+10_000).Draw(t, "at")
		slot := rapid.SampledFrom([]string{"a", "b", "gone"}).Draw(t, "slot")
		_, finished := Lasting(o, []RunEvent{{Kind: Start, At: 0}, {Kind: Done, At: at, Party: "reach", Slot: slot}}, 0)
		for _, f := range finished {
			x := o.Stretches[f.Stretch]
			require.Equal(t, scheme.Work, x.Kind)
			require.Equal(t, slot, x.Slot)
			require.Equal(t, min(at, o.Total)-x.From, f.Real)
		}
	})
}
