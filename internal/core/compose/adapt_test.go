package compose

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/why"
)

// drawDay draws who of the known people is absent and what of the kit is missing.
func drawDay(t *rapid.T, c plan.Context) circuit.Day {
	var day circuit.Day
	for _, p := range c.Named() {
		if rapid.IntRange(0, 3).Draw(t, "absent") == 0 {
			day.Absent = append(day.Absent, p.ID())
		}
	}
	for _, i := range c.Stock.Implements {
		if rapid.IntRange(0, 3).Draw(t, "missing") == 0 {
			day.Missing = append(day.Missing, circuit.Missing{Item: i.ID, Count: rapid.IntRange(1, i.Pieces()).Draw(t, "pieces")})
		}
	}
	return day
}

// On any day: what is left covers the class, nobody is given what they may not have, slots that
// could be done stay as they were, the class gets no longer than it may be, it is said in at
// most three lines, the same day again changes nothing, and a day as planned nothing at all.
func TestAdaptHolds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := func(name string, low, high int) int { return rapid.IntRange(low, high).Draw(t, name) }
		b := brief(hall, lanes(n("ground", 0, 3), n("middle", 0, 4), n("reach", 1, 3)), n("minutes", 25, 60),
			rapid.SampledFrom([]circuit.Format{circuit.Timed, circuit.Reps}).Draw(t, "format"))
		b.Layout = rapid.SampledFrom([]circuit.Layout{"", circuit.Together, circuit.Stations, circuit.Partners}).Draw(t, "layout")
		knownPeople(&b, n("known", 0, 7), n("seed", 0, 50))
		p := Propose(b)
		if !p.Feasible {
			return
		}
		assert.Equal(t, p.Document, Adapt(p.Document, b.Context, circuit.Day{}).Document, "a day as planned")
		day := drawDay(t, b.Context)
		a := Adapt(p.Document, b.Context, day)
		assert.LessOrEqual(t, len(a.Said), 3)
		require.NoError(t, a.Document.Check(b.Library))
		again := Adapt(a.Document, b.Context, day)
		if a.Without == 0 {
			assert.Equal(t, a.Document, again.Document, "nothing is left to change")
		}
		c := b.On(a.Document)
		before := plan.Look(p.Document, b.Context)
		look := plan.Look(a.Document, b.Context)
		assert.LessOrEqual(t, look.TotalMs, max(before.TotalMs, look.ClassMs))
		judges := c.Judges(a.Document)
		for i, blk := range a.Document.Blocks {
			for n, s := range blk.Slots {
				old := p.Document.Blocks[i].Slots[n]
				sp, _ := slotOf(look, s.ID)
				if a.Without == 0 {
					assert.Empty(t, sp.Shorts)
				}
				ad := adapting{c: c, d: &p.Document, block: i, slot: n, judges: judges}
				if ad.whole(ad.doers()) {
					assert.Equal(t, old, s, "it could be done")
					continue
				}
				for _, x := range ad.doers() {
					e, _ := s.Of(x.ID(), x.Lane)
					if equal(e, x.had) {
						continue
					}
					y, known := c.ChoiceOf(e)
					require.True(t, known)
					assert.Empty(t, ad.judges.For(ad.b(), ad.at(), x.Party).Faults(y), "%s is given %s", x.ID(), e.Variant)
				}
			}
		}
	})
}

func slotOf(p plan.Plan, id string) (plan.SlotPlan, bool) {
	i := slices.IndexFunc(p.Slots, func(s plan.SlotPlan) bool { return s.ID == id })
	if i < 0 {
		return plan.SlotPlan{}, false
	}
	return p.Slots[i], true
}

// squats is one slot of goblet squats in a class by the clock.
func squats(entries map[people.Party]circuit.Entry) circuit.Document {
	for who, e := range entries {
		e.Variant, e.Hold, e.Anchors, e.Dose, e.Tempo, e.Sides = "goblet-squat", "goblet", []string{}, circuit.Times(10), "2-0-2-0", "both"
		entries[who] = e
	}
	return circuit.Single{Format: circuit.Timed, LeadInMs: 10_000, WorkMs: 40_000, RestMs: 20_000, Rounds: 2, RoundRestMs: 60_000,
		Slots: []circuit.Slot{{ID: "s1", Pattern: moves.Squat, Waves: 1, Entries: entries}}}.Document()
}

// By hand: three bells of 16 kg for three of Middle. One is broken: of the two ways, one person
// with another load (40 points and what it suits less) or two turns (60 points), the first
// changes least, for one alone; with somebody absent nothing changes at all; with all three
// broken all change, and the lane's entry with them; what is pinned for somebody goes last.
func TestAdaptByHand(t *testing.T) {
	b := brief(hall, lanes(0, 3, 0), 30, circuit.Timed)
	knownPeople(&b, 0, 0)
	var who []people.Party
	for i := range 3 {
		p := plan.Party{Lane: moves.Middle, Participant: fmt.Sprintf("%026d", i+1), Who: fmt.Sprint(i), People: 1, Body: 70_000, Stature: 1700}
		standing(&p, people.Facts{})
		b.Parties, who = append(b.Parties, p), append(who, p.ID())
	}
	d := squats(map[people.Party]circuit.Entry{"middle": {Load: bellLoad("kb16")}})
	missing := func(n int) circuit.Day { return circuit.Day{Missing: []circuit.Missing{{Item: "kb16", Count: n}}} }
	loads := func(d circuit.Document) (same int) {
		for _, p := range who {
			if e, _ := single(d).Slots[0].Of(p, moves.Middle); e.Variant == "goblet-squat" && e.Load.Equal(bellLoad("kb16")) {
				same++
			}
		}
		return same
	}
	a := Adapt(d, b.Context, missing(1))
	assert.Equal(t, 2, loads(a.Document))
	assert.Equal(t, 1, a.Loads)
	assert.Equal(t, 1, single(a.Document).Slots[0].Waves)
	assert.Len(t, a.Said, 2, "what came, and who takes what")
	assert.Equal(t, why.DayTakes, a.Said[1].Code)

	day := missing(1)
	day.Absent = who[:1]
	a = Adapt(d, b.Context, day)
	assert.Equal(t, single(d).Slots, single(a.Document).Slots)
	assert.Equal(t, 2, plan.Look(a.Document, b.Context).Slots[0].Cells[0].People)

	a = Adapt(d, b.Context, missing(3))
	assert.Equal(t, 0, loads(a.Document))
	assert.Equal(t, 3, a.Loads+a.Moves)
	assert.Len(t, a.Said, 2, "a line for what came and one for all that changed")

	e := single(d).Slots[0].Entries["middle"]
	e.Pinned = true
	for k, p := range who {
		next := d.Clone()
		i, n := next.At("s1")
		next.Blocks[i].Slots[n].Entries[p] = e
		a = Adapt(next, b.Context, missing(1))
		kept, _ := single(a.Document).Slots[0].Of(p, moves.Middle)
		assert.Equal(t, e, kept, "%d has theirs pinned", k)
	}
}

// What is pinned for somebody stays theirs when a class is proposed anew, with the day as it
// came; where nothing of the pattern is left, it is said.
func TestOwnStaysWhenProposedAnew(t *testing.T) {
	b := brief(hall, lanes(0, 4, 0), 40, circuit.Timed)
	knownPeople(&b, 4, 1)
	for i := range b.Parties {
		if b.Parties[i].Participant != "" {
			b.Parties[i].Lane = moves.Middle
		}
	}
	who := b.Named()[0].ID()
	p := Propose(b)
	require.True(t, p.Feasible)
	at := slices.IndexFunc(p.Document.Slots(), func(s circuit.Slot) bool { return s.Pattern == moves.Squat })
	s := p.Document.Slots()[at]
	e := s.Entries["middle"]
	e.Load, e.Variant, e.Hold, e.Pinned, e.Anchors = bellLoad("kb8"), "goblet-squat", "goblet", true, []string{}
	s.Entries[who] = e
	b.Plan = p.Document
	b.Plan.Day = &circuit.Day{Missing: []circuit.Missing{{Item: "kb20", Count: 1}}}
	again := Propose(b)
	require.True(t, again.Feasible)
	kept := false
	for _, s := range again.Document.Slots() {
		kept = kept || s.Entries[who].Pinned && s.Entries[who].Load.Equal(bellLoad("kb8"))
	}
	assert.True(t, kept)
	assert.Equal(t, b.Plan.Day, again.Document.Day)
	b.Bans = []string{"squat"}
	b.Plan.Day = nil
	again = Propose(b)
	require.True(t, again.Feasible)
	assert.True(t, slices.ContainsFunc(again.Notes, func(w why.Why) bool { return w.Code == why.NoteOwnAway }))
}

func BenchmarkAdapt(b *testing.B) {
	x := brief(hall, lanes(8, 10, 6), 60, circuit.Timed)
	x.Stock = manyTimes(hall, 2)
	knownPeople(&x, 24, 1)
	p := Propose(x)
	day := circuit.Day{Missing: []circuit.Missing{{Item: "kb12", Count: 6}, {Item: "db20", Count: 6}, {Item: "kb8", Count: 6}, {Item: "bench", Count: 2}}}
	for _, q := range x.Named()[:5] {
		day.Absent = append(day.Absent, q.ID())
	}
	b.ReportAllocs()
	for b.Loop() {
		a := Adapt(p.Document, x.Context, day)
		b.ReportMetric(float64(a.Moves+a.Loads+a.Places), "changes")
	}
}
