package compose

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
)

// known puts people whom the studio knows into lanes: their bodies, rungs and benchmarks differ.
func knownPeople(b *Brief, n int, seed int) {
	rungs := []string{"box-squat", "squat", "goblet-squat", "hip-hinge", "free-hip-hinge", "romanian-deadlift", "knee-push-up", "push-up"}
	per := map[moves.Lane]int{}
	for i := range n {
		lane := moves.Lanes[(i*2+seed)%3]
		per[lane]++
		p := plan.Party{Lane: lane, Participant: fmt.Sprintf("%026d", i), Who: fmt.Sprint("who", i), People: 1,
			Body: measure.Mass(52_000 + (i*7919+seed*104729)%45_000), Stature: measure.Length(1550 + (i*613+seed*91)%350)}
		f := people.Facts{Records: []people.Record{
			{Level: &people.Level{Move: rungs[(i+seed)%len(rungs)], Cause: people.ByHand}},
			{Benchmark: &people.Benchmark{Move: "goblet-squat", LoadG: measure.Mass(8000 + 2000*((i+seed)%7)), Reps: 8 + i%5, Reserve: 2}},
		}}
		st := f.On(0, moves.Standard(), p.Stature)
		p.Standing = &st
		b.Parties = append(b.Parties, p)
	}
	for i := range b.Parties {
		if p := &b.Parties[i]; p.Participant == "" {
			p.People = max(p.People, per[p.Lane])
		}
	}
}

// What people by name are given is covered by the kit beside the others, is allowed to each,
// is one of at most three moves of the slot, and the class fits as it did; the same again is
// the same.
func TestByNameHolds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := func(name string, low, high int) int { return rapid.IntRange(low, high).Draw(t, name) }
		b := brief(hall, lanes(n("ground", 0, 3), n("middle", 0, 3), n("reach", 1, 3)), n("minutes", 25, 60),
			rapid.SampledFrom([]circuit.Format{circuit.Timed, circuit.Reps}).Draw(t, "format"))
		knownPeople(&b, n("known", 1, 8), n("seed", 0, 50))
		p := Propose(b)
		if !p.Feasible {
			return
		}
		p.Document = p.Document.ForLanes()
		before := plan.Look(p.Document, b.Context)
		d, shared := ByName(p.Document, b.Context)
		again, _ := ByName(p.Document, b.Context)
		require.Equal(t, d, again)
		require.NoError(t, d.Check(b.Library))
		require.LessOrEqual(t, shared.Bound, shared.Cost+1e-6)
		look := plan.Look(d, b.Context)
		plenty := b
		plenty.Stock = manyTimes(hall, 20)
		_, sure := ByName(p.Document, plenty.Context)
		assert.True(t, sure.Proven, "nothing is short: %v", sure)
		assert.True(t, look.Fits || !before.Fits)
		judges := b.Judges(d)
		for i, s := range look.Slots {
			assert.True(t, len(s.Shorts) == 0 || len(before.Slots[i].Shorts) > 0, "%v", s.Shorts)
			var here []string
			for _, c := range s.Cells {
				if !slices.Contains(here, c.Entry.Variant) {
					here = append(here, c.Entry.Variant)
				}
			}
			assert.LessOrEqual(t, len(here), mostMoves+len(b.Named()), "a fourth only for whom none of three suits")
			block, at := d.At(s.ID)
			named := judges.Named(d.Blocks[block], d.Blocks[block].Slots[at])
			for _, who := range b.Named() {
				if e, own := d.Blocks[block].Slots[at].Entries[who.ID()]; own {
					x, ok := b.ChoiceOf(e)
					require.True(t, ok)
					assert.Empty(t, named[who.ID()].Faults(x), "%s of %s", e.Variant, who.ID())
				}
			}
		}
	})
}

// manyTimes is a stock with so many times as many pieces.
func manyTimes(s kit.Stock, n int) kit.Stock {
	s.Implements = slices.Clone(s.Implements)
	for i := range s.Implements {
		s.Implements[i].Count *= n
	}
	return s
}

func bellLoad(id string) kit.Load { return kit.Load{Kind: kit.Implements, Item: id, Count: 1} }

// Two in one lane, by hand: who stands two rungs lower does the lower move, who has shown more
// takes the heavier bell, and with one heavy bell the one who gains most has it.
func TestByNameByHand(t *testing.T) {
	b := brief(hall, lanes(0, 3, 0), 30, circuit.Timed)
	knownPeople(&b, 0, 0)
	add := func(id string, records ...people.Record) people.Party {
		p := plan.Party{Lane: moves.Middle, Participant: fmt.Sprintf("%026s", id), Who: id, People: 1, Body: 75_000, Stature: 1750}
		standing(&p, people.Facts{Records: records})
		b.Parties = append(b.Parties, p)
		return p.ID()
	}
	low := add("low", people.Record{Level: &people.Level{Move: "high-box-squat", Cause: people.ByTest}})
	strong := add("strong", people.Record{Benchmark: &people.Benchmark{Move: "goblet-squat", LoadG: 20_000, Reps: 12, Reserve: 3}})
	d, _ := ByName(circuit.Single{Format: circuit.Timed, LeadInMs: 10_000, WorkMs: 40_000, RestMs: 20_000, Rounds: 3, RoundRestMs: 60_000, Slots: []circuit.Slot{
		{ID: "s1", Pattern: moves.Squat, Waves: 1, Entries: map[people.Party]circuit.Entry{
			"middle": {Variant: "goblet-squat", Hold: "goblet", Load: bellLoad("kb12"), Anchors: []string{}, Dose: circuit.Times(10), Tempo: "2-0-2-0", Sides: "both"}}},
	}}.Document(), b.Context)
	s := single(d).Slots[0]
	assert.Equal(t, "high-box-squat", s.Entries[low].Variant, "their rung stands there as a second move")
	assert.Equal(t, "goblet-squat", s.Entries[strong].Variant)
	assert.Equal(t, bellLoad("kb20"), s.Entries[strong].Load)
}

func BenchmarkByName(b *testing.B) {
	x := brief(hall, lanes(8, 10, 6), 60, circuit.Timed)
	x.Stock = manyTimes(hall, 2)
	knownPeople(&x, 24, 1)
	p := Propose(x)
	p.Document = p.Document.ForLanes()
	b.ReportAllocs()
	for b.Loop() {
		_, s := ByName(p.Document, x.Context)
		b.ReportMetric(s.Cost-s.Bound, "gap")
	}
	b.ReportMetric(float64(len(p.Document.Slots())), "slots")
}
