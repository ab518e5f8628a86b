package core

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
)

// drawing makes random sessions on a small hall.
type drawing struct {
	*rapid.T
	lib *moves.Library
	c   plan.Context
}

func (d drawing) n(name string, low, high int) int { return rapid.IntRange(low, high).Draw(d.T, name) }

func (d drawing) ms(name string, low, high int) measure.Span {
	return measure.Span(d.n(name, low, high)) * measure.Second
}

// hall draws who comes, one of Reach by name, and what there is of everything.
func (d *drawing) hall() {
	var parties []plan.Party
	for _, lane := range moves.Lanes {
		parties = append(parties, plan.Party{Lane: lane, People: d.n("people", 0, 3), Body: plan.DefaultBody, Stature: plan.DefaultStature})
	}
	if parties[2].People > 0 {
		named := parties[2]
		named.Participant, named.People = "p0000000000000000000000001", 1
		parties = append(parties, named)
	}
	d.c = plan.Context{
		Library: d.lib, Minutes: 60, Parties: parties, Past: progress.Past{Known: []string{progress.All}},
		Stock: kit.Stock{Implements: []kit.Implement{
			{ID: "bell", Kind: kit.Kettlebell, Mass: 8000, Count: d.n("bells", 1, 6), Checked: true},
			{ID: "heavy", Kind: kit.Kettlebell, Mass: 16_000, Count: d.n("heavy", 1, 6), Checked: true},
			{ID: "bench", Kind: kit.Bench, Height: 430, Count: d.n("benches", 1, 4), Checked: true},
		}},
	}
}

// entry draws what a party does: standing moves with one bell, two or none, some by a bench.
func (d drawing) entry(kind scheme.Name, byClock bool) circuit.Entry {
	v, _ := d.lib.Get(rapid.SampledFrom([]string{"squat", "goblet-squat", "split-squat", "reverse-lunge", "hip-hinge"}).Draw(d.T, "move"))
	n := d.n("reps", 1, 15)
	e := circuit.Entry{
		Variant: v.ID, Hold: moves.NoLoad, Load: kit.Nothing, Anchors: []string{}, Dose: circuit.Times(n), Tempo: v.Tempo, Sides: scheme.BothSides,
	}
	if pieces := d.n("pieces", 0, 2); pieces > 0 {
		e.Hold, e.Load = "goblet", kit.Load{Kind: kit.Implements, Item: rapid.SampledFrom([]string{"bell", "heavy"}).Draw(d.T, "load"), Count: pieces}
	}
	if d.n("bench", 0, 2) == 0 {
		e.Anchors = []string{"bench"}
	}
	if v.Sides == moves.PerSide && kind != scheme.Chain {
		e.Sides = scheme.Split
		if (kind == scheme.Circuit || kind == scheme.Sets) && !byClock && d.n("by round", 0, 1) == 0 {
			e.Sides = scheme.ByRound
		}
		if d.n("first", 0, 1) == 0 {
			e.First = scheme.Right
		}
	}
	return e
}

func (d drawing) block(id string, first int) circuit.Block {
	kind := rapid.SampledFrom([]scheme.Name{
		scheme.Circuit, scheme.Sets, scheme.Superset, scheme.Chain, scheme.Interval, scheme.Windowed, scheme.Ladder, scheme.Drop, scheme.CalledOut,
	}).Draw(d.T, "scheme")
	x, rounds, slots := circuit.Scheme{Kind: kind}, d.n("rounds", 1, 4), d.n("slots", 1, 3)
	byClock := false
	switch kind {
	case scheme.Circuit:
		byClock = d.n("by clock", 0, 1) == 0
		x.Circuit = &circuit.InRounds{Format: map[bool]circuit.Format{true: circuit.Timed, false: circuit.Reps}[byClock], WorkMs: d.ms("work", 20, 60), RestMs: d.ms("rest", 0, 60), Rounds: rounds, RoundRestMs: d.ms("pause", 0, 90)}
	case scheme.Sets:
		x.Sets = &circuit.InSets{Sets: rounds, RestMs: d.ms("rest", 0, 90), BetweenMs: d.ms("between", 0, 90)}
	case scheme.Superset:
		x.Superset = &circuit.InGroups{Rounds: rounds, RestMs: d.ms("rest", 0, 90)}
	case scheme.Chain:
		x.Chain = &circuit.InChain{Rounds: rounds, RestMs: d.ms("rest", 0, 60), Sides: d.n("sides", 1, 2), SideChangeMs: d.ms("change", 0, 10)}
	case scheme.Interval:
		slots = 1
		x.Interval = &circuit.InIntervals{EveryMs: 300 * measure.Second, Sets: rounds}
	case scheme.Windowed:
		x.Window = &circuit.InWindow{WindowMs: d.ms("window", 60, 600)}
	case scheme.Ladder:
		x.Ladder = &circuit.InRungs{Rungs: []int{1, 2, 3, d.n("rung", 1, 8)}, RestMs: d.ms("rest", 0, 30)}
	case scheme.Drop:
		x.Drop = &circuit.InStages{ChangeMs: d.ms("change", 0, 10)}
	case scheme.CalledOut:
		slots = 1
		x.Called = &circuit.CalledOut{CalledMs: d.ms("called", 10, 90), EveryMs: d.ms("every", 2, 5), Seed: d.n("seed", 1, 9), Words: slices.Clone(circuit.Directions)}
	}
	if d.n("empty", 0, 9) == 0 {
		slots = 0
	}
	b := circuit.Block{ID: id, Kind: circuit.Work, Scheme: &x, Layout: circuit.Together, AfterMs: d.ms("after", 0, 60)}
	switch layout := d.n("layout", 0, 2); {
	case layout == 1 && kind == scheme.Circuit:
		b.Layout = circuit.Stations
	case layout == 2 && kind != scheme.Chain && kind != scheme.Windowed && kind != scheme.CalledOut && kind != scheme.Interval:
		b.Layout = circuit.Partners
	}
	for n := range slots {
		s := circuit.Slot{ID: circuit.SlotID(first + n), Pattern: moves.Squat, Waves: 1, Entries: map[people.Party]circuit.Entry{}}
		for _, p := range d.c.Parties {
			if p.Participant == "" || d.n("own", 0, 1) == 0 {
				s.Entries[p.ID()] = d.entry(kind, byClock)
			}
		}
		b.Slots = append(b.Slots, s)
	}
	return b
}

// Whatever the session: its running order covers each second once, for the class and for
// everybody; what is planned of every party is what the order has them do, side by side; and
// what two people would have in hand at once is drawn as short, and nothing else.
func TestAnySession(t *testing.T) {
	lib := moves.Standard()
	rapid.Check(t, func(t *rapid.T) {
		d := drawing{T: t, lib: lib}
		d.hall()
		doc := circuit.Document{V: circuit.DocumentVersion, LeadInMs: scheme.UsualLeadIn, Bans: []string{}}
		for n := range d.n("blocks", 1, 3) {
			doc.Blocks = append(doc.Blocks, d.block(circuit.BlockID(n+1), 1+3*n))
		}
		doc = doc.Clone()
		p := plan.Look(doc, d.c)
		require.NoError(t, p.Order.Check())
		at := map[people.Party]int64{}
		for _, e := range p.Order.Events {
			require.Equal(t, at[e.Party], e.From, "%s", e.Party)
			at[e.Party] = e.Until
		}
		for who, until := range at {
			require.Equal(t, p.Order.Total, until, "%s", who)
		}
		pressed(t, p.Order)
		n := 0
		for _, b := range doc.Blocks {
			for i := range b.Slots {
				counted(t, b, p.Slots[n], p, lib)
				inTwoHands(t, d.c, b, i, p.Slots[n])
				n++
			}
		}
	})
}

// pressed runs the order with presses at random: nothing but *back* goes back, *skip* and
// *next* lead to where something begins, the others move nothing, and it is all the same in
// which order the presses come.
func pressed(t *rapid.T, o cue.Order) {
	begins := []int64{o.Total}
	for _, x := range o.Stretches {
		begins = append(begins, x.From)
	}
	events := []cue.RunEvent{{Kind: cue.Start, At: 1000}}
	now, place := int64(1000), int64(0)
	for range rapid.IntRange(0, 12).Draw(t, "presses") {
		now += rapid.Int64Range(1, 200_000).Draw(t, "later")
		before, _ := cue.Fold(o, events).Position(now, o.Total)
		require.GreaterOrEqual(t, before, place)
		e := cue.RunEvent{At: now, Ms: 15_000, Kind: rapid.SampledFrom([]cue.RunKind{
			cue.Hold, cue.Resume, cue.Skip, cue.Back, cue.Add, cue.NextSet, cue.Done, cue.Round, cue.Stopped,
		}).Draw(t, "press")}
		events = append(events, e)
		place, _ = cue.Fold(o, events).Position(now, o.Total)
		switch {
		case e.Kind == cue.Back:
			require.LessOrEqual(t, place, before)
			require.Contains(t, begins, place)
		case e.Kind == cue.Skip || e.Kind == cue.NextSet && place != before:
			require.True(t, place > before || before == o.Total)
			require.Contains(t, begins, place)
		default:
			require.Equal(t, before, place, "%s", e.Kind)
		}
	}
	require.Equal(t, cue.Fold(o, events), cue.Fold(o, rapid.Permutation(events).Draw(t, "coming")))
}

// counted folds the events of a slot's cells and compares them with what is planned.
func counted(t *rapid.T, b circuit.Block, s plan.SlotPlan, p plan.Plan, lib *moves.Library) {
	if b.Is(scheme.Windowed, scheme.CalledOut) || b.Is(scheme.Circuit) && b.Scheme.Circuit.Format == circuit.Timed || b.Rotates() {
		return // as many as go in, or in turn with others
	}
	turns := 1
	if b.Layout == circuit.Partners { // everybody is in the order of both partners
		turns = 2
	}
	for _, c := range s.Cells {
		done := map[scheme.Side]int{}
		for _, e := range p.Order.Events {
			if e.Party == c.Party && e.Slot == s.ID && e.Kind == scheme.Work {
				require.Zero(t, (e.Until-e.From)%int64(c.Entry.PerRep(lib)), "whole repetitions of %s in %s: %d", c.Party, b.Scheme.Kind, e.Until-e.From)
				done[e.Side] += int((e.Until - e.From) / int64(c.Entry.PerRep(lib)))
			}
		}
		all := done[scheme.Left] + done[scheme.Right] + done[scheme.Both]
		require.Equal(t, turns*c.Count.Low, all, "%s in %s of %s", c.Party, s.ID, b.Scheme.Kind)
		if done[scheme.Both] == 0 {
			require.Equal(t, [2]int{turns * c.Count.LeftLow, turns * c.Count.RightLow}, [2]int{done[scheme.Left], done[scheme.Right]}, "%s in %s of %s", c.Party, s.ID, b.Scheme.Kind)
		}
	}
}

// inTwoHands counts, person by person, what may be in use at one time: in a window whatever
// somebody uses in any slot of it, elsewhere what they use in this one; of partners half do.
// At stations it is what lives at all of them: of what stays one each, of what is taken up
// what the fullest of even groups needs.
func inTwoHands(t *rapid.T, c plan.Context, b circuit.Block, n int, s plan.SlotPlan) {
	type person struct {
		who  people.Party
		lane moves.Lane
	}
	var everybody []person
	for _, lane := range moves.Lanes {
		left := 0
		for _, p := range c.Parties {
			switch {
			case p.Lane != lane:
			case p.Participant == "":
				left += p.People
			default:
				everybody = append(everybody, person{p.ID(), lane})
				left--
			}
		}
		for range left {
			everybody = append(everybody, person{people.OfLane(lane), lane})
		}
	}
	uses := func(x person, s circuit.Slot) map[string]int {
		out := map[string]int{}
		if e, ok := s.Of(x.who, x.lane); ok {
			if e.Load.Kind == kit.Implements {
				out[e.Load.Item] += e.Load.Count
			}
			for _, a := range e.Anchors {
				out[a]++
			}
		}
		return out
	}
	wanted, here := map[string]int{}, map[string]bool{}
	for _, x := range everybody {
		most := map[string]int{}
		for i, slot := range b.Slots {
			for item, pieces := range uses(x, slot) {
				if i == n {
					here[item] = true
				}
				if i == n || b.Is(scheme.Windowed) {
					most[item] = max(most[item], pieces)
				}
			}
		}
		for item, pieces := range most {
			wanted[item] += pieces
		}
	}
	if b.Layout == circuit.Partners || b.Rotates() {
		at := []circuit.Slot{b.Slots[n]}
		groups := 2
		if b.Rotates() {
			at, groups = b.Slots, len(b.Slots)
		}
		wanted = map[string]int{}
		for _, slot := range at {
			users := map[string]map[int]int{}
			for _, x := range everybody {
				for item, pieces := range uses(x, slot) {
					if users[item] == nil {
						users[item] = map[int]int{}
					}
					users[item][pieces]++
				}
			}
			for item, by := range users {
				for pieces, people := range by {
					if b.Rotates() && item == "bench" {
						people = 1
					}
					wanted[item] += pieces * ((people + groups - 1) / groups)
				}
			}
		}
	}
	short := map[string]bool{}
	for _, x := range s.Shorts {
		short[x.Item] = true
		require.Equal(t, wanted[x.Item], x.Used, x.Item)
	}
	for _, i := range c.Stock.Implements {
		require.Equal(t, here[i.ID] && wanted[i.ID] > i.Count, short[i.ID], "%s in %s: %d of %d", i.ID, s.ID, wanted[i.ID], i.Count)
	}
	for _, cell := range s.Cells {
		missing := short[cell.Entry.Load.Item]
		for _, a := range cell.Entry.Anchors {
			missing = missing || short[a]
		}
		require.Equal(t, missing, cell.Missing, "%s in %s", cell.Party, s.ID)
	}
}
