package compose

import (
	"math"
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// Straight sets (house): as many of the template's places as have time for the goal's
// least sets, then more sets, then longer rests; what is left becomes a superset of two other
// places and a finisher.
const (
	mostPlaces    = 5
	fewPlaces     = 3
	usualSets     = 3
	supersetRest  = measure.Minute
	worthSuperset = 6 * measure.Minute
	finisherReps  = 15 // to 20, at 40 % of the working load (common practice)
)

// inSets proposes straight sets for a goal that asks for them.
func (c *composer) inSets() (Proposal, bool) {
	p := Proposal{}
	places, left := c.places()
	for _, pattern := range left {
		p.Notes = append(p.Notes, why.Of(why.NoteLeftOut, why.Typed, why.ID("pattern", string(pattern))))
	}
	if len(places) == 0 {
		p.Relax = []why.Why{why.Of(why.RelaxBans, why.Typed)}
		return p, false
	}
	aim := goal.Of(c.Goal)
	slots := c.chosen(places)
	if d, n, ok := c.mainBlock(slots, aim); ok {
		p.Feasible, p.Document = true, c.filledUp(d, slots[n:], aim)
		p.Notes = append(p.Notes, c.endsEarly(p.Document)...)
		return p, true
	}
	p.Notes, p.Relax = nil, c.relaxSets(slots, aim)
	return p, false
}

// mainBlock makes straight sets of the first places: as many as have time for the usual
// sets, but for a few that are worth more than another set; else for the least. Pinned ones
// are among them.
func (c *composer) mainBlock(slots []circuit.Slot, aim goal.Aim) (d circuit.Document, n int, ok bool) {
	pinned := 0
	for i, s := range slots {
		if s.Pinned {
			pinned = i + 1
		}
	}
	most := min(aim.SetsHigh, c.mostRounds(circuit.Single{Slots: slots}))
	usual := min(most, max(usualSets, aim.SetsLow))
	for _, x := range []struct{ sets, fewest int }{{usual, fewPlaces}, {min(aim.SetsLow, most), 1}} {
		for n := max(min(len(slots), mostPlaces), pinned); n >= max(min(x.fewest, len(slots)), pinned, 1); n-- {
			if d, ok := c.setsOf(slots[:n], x.sets, usual, aim); ok {
				return d, n, true
			}
		}
	}
	return d, 0, false
}

// chosen fills every place by its cheapest option, the pinned ones where they stood, in the
// order of the template; nobody is taught more than they take in.
func (c *composer) chosen(places []place) []circuit.Slot {
	var out []circuit.Slot
	var pinned []circuit.Slot
	for _, pl := range places {
		best := 0
		for n, x := range pl.options {
			if x.total < pl.options[best].total {
				best = n
			}
		}
		x := pl.options[best]
		s := circuit.Slot{Pattern: x.pattern, Waves: x.waves, New: c.taught(x.entries)}
		if x.pinned != nil {
			s = *x.pinned
		}
		s.Entries = map[people.Party]circuit.Entry{}
		for who, e := range x.entries {
			s.Entries[who] = e
		}
		if s.Pinned {
			pinned = append(pinned, s)
			continue
		}
		if c.overTaught(circuit.Single{Slots: append(slices.Clone(out), s)}) {
			continue
		}
		out = append(out, s)
	}
	out = c.inPlace(out, pinned)
	c.number(out)
	return out
}

// inBlock writes slots as straight sets.
func (c *composer) inBlock(slots []circuit.Slot, sets int, rest measure.Span) circuit.Document {
	one := circuit.Single{
		Format: circuit.Reps, LeadInMs: scheme.UsualLeadIn, Rounds: 1, Bans: append([]string{}, c.Bans...), Known: c.Known,
		Overruled: c.Overruled, Goal: c.Goal, Template: c.Template, Slots: slots,
	}
	d := c.pins.among(one.Document())
	_, at, _ := d.Single()
	d.Blocks[at].Scheme = &circuit.Scheme{
		Kind: scheme.Sets,
		Sets: &circuit.InSets{Sets: sets, RestMs: rest, BetweenMs: rest},
	}
	return d.Clone()
}

// setsOf gives slots the most sets between two numbers that fit, with the goal's usual rest,
// else the least.
func (c *composer) setsOf(slots []circuit.Slot, least, most int, aim goal.Aim) (circuit.Document, bool) {
	class := measure.Span(c.Minutes) * measure.Minute
	for _, rest := range []measure.Span{aim.Rest, aim.RestLow} {
		for sets := most; sets >= least; sets-- {
			if d := c.inBlock(slots, sets, rest); plan.Length(d, c.Context) <= class {
				return d, true
			}
		}
	}
	return circuit.Document{}, false
}

// filledUp uses what is left of the minutes: a superset of two other places, longer rests
// within the goal's, a finisher.
func (c *composer) filledUp(d circuit.Document, others []circuit.Slot, aim goal.Aim) circuit.Document {
	class := measure.Span(c.Minutes) * measure.Minute
	fits := func(d circuit.Document) bool { return plan.Length(d, c.Context) <= class }
	last := len(d.Blocks) - 1 // the close
	add := func(b circuit.Block) {
		next := d.Clone()
		b.ID = next.FreeBlockID()
		next.Blocks = slices.Insert(next.Blocks, last, b)
		if next = next.Clone(); fits(next) {
			d, last = next, last+1
		}
	}
	if len(others) >= 2 && class-plan.Length(d, c.Context) >= worthSuperset {
		pair := []circuit.Slot{others[0].SettledIn(1), others[1].SettledIn(1)}
		for rounds := min(usualSets, aim.SetsHigh); rounds >= 2; rounds-- {
			before := len(d.Blocks)
			add(circuit.Block{
				Kind: circuit.Work, Layout: layoutOf(pair), Slots: pair, AfterMs: 0,
				Scheme: &circuit.Scheme{
					Kind:     scheme.Superset,
					Superset: &circuit.InGroups{Rounds: rounds, RestMs: supersetRest},
				},
			})
			if len(d.Blocks) > before {
				break
			}
		}
	}
	if f, ok := c.finisher(d); ok && c.Goal == goal.Muscle {
		add(f)
	}
	for _, at := range c.setsBlocks(d) {
		for rest := d.Blocks[at].Scheme.Sets.RestMs + 15*measure.Second; rest <= aim.RestHigh; rest += 15 * measure.Second {
			next := d.Clone()
			x := next.Blocks[at].Scheme.Sets
			x.RestMs, x.BetweenMs = rest, rest
			if !fits(next) {
				break
			}
			d = next
		}
	}
	return d
}

// setsBlocks lists the blocks of straight sets that the class is trained by, but for
// finishers.
func (c *composer) setsBlocks(d circuit.Document) []int {
	var out []int
	for i, b := range d.Blocks {
		if b.Kind == circuit.Work && b.Is(scheme.Sets) {
			out = append(out, i)
		}
	}
	return out
}

func layoutOf(slots []circuit.Slot) circuit.Layout {
	if slices.ContainsFunc(slots, func(s circuit.Slot) bool { return s.Waves > 1 }) {
		return circuit.InWaves
	}
	return circuit.Together
}

// finisher is one last light set of a move of the main block that both legs do: the load
// nearest under 40 % of the working one, or none, 15 to 20 (common practice). ok is false
// where there is none.
func (c *composer) finisher(d circuit.Document) (circuit.Block, bool) {
	blocks := c.setsBlocks(d)
	if len(blocks) == 0 {
		return circuit.Block{}, false
	}
	for _, s := range slices.Backward(d.Blocks[blocks[0]].Slots) {
		if !s.Pattern.OfTheLegs() || s.Pinned {
			continue
		}
		next := s.SettledIn(1)
		next.ID, next.Pinned, next.New = d.FreeSlotID(), false, false
		next.Entries = map[people.Party]circuit.Entry{}
		ok := true
		for who, e := range s.Entries {
			v, known := c.Library.Get(e.Variant)
			if !known || v.OnOneLeg() || v.Ballistic {
				ok = false
				break
			}
			next.Entries[who] = c.lightened(v, e, 0.4)
		}
		if ok {
			return circuit.Block{
				Kind: circuit.Finisher, Layout: layoutOf([]circuit.Slot{next}), Slots: []circuit.Slot{next},
				Scheme: &circuit.Scheme{Kind: scheme.Sets, Sets: &circuit.InSets{Sets: 1}},
			}, true
		}
	}
	return circuit.Block{}, false
}

// lightened gives an entry with the heaviest load of the place that is no more than a share
// of its own, in a hold of the move, and the repetitions of a finisher.
func (c *composer) lightened(v *moves.Variant, e circuit.Entry, share float64) circuit.Entry {
	total, _ := c.Stock.Mass(e.Load)
	e.Dose = circuit.Dose{Kind: circuit.Count, Low: finisherReps, High: finisherReps + 5}
	h, _ := moves.HoldOf(e.Hold)
	if total == 0 {
		return e
	}
	most, found := measure.Mass(math.Floor(share*float64(total))), false
	for _, o := range c.Stock.Options(v, h) {
		if o.Total <= most && (!found || o.Total > mass(c, e)) {
			e.Load, found = o.Load, true
		}
	}
	return e
}

func mass(c *composer, e circuit.Entry) measure.Mass {
	m, _ := c.Stock.Mass(e.Load)
	return m
}

// endsEarly says what is left of the minutes.
func (c *composer) endsEarly(d circuit.Document) []why.Why {
	left := measure.Span(c.Minutes)*measure.Minute - plan.Length(d, c.Context)
	if left <= endsEarly {
		return nil
	}
	sets := 0
	for _, i := range c.setsBlocks(d) {
		sets = max(sets, d.Blocks[i].Scheme.Sets.Sets)
	}
	return []why.Why{why.Of(why.NoteEndsEarly, why.House, why.Ms("left", int64(left)), why.N("rounds", sets),
		why.N("most", goal.Of(c.Goal).SetsHigh))}
}

// relaxSets names the fewest minutes in which a place has the goal's least sets.
func (c *composer) relaxSets(slots []circuit.Slot, aim goal.Aim) []why.Why {
	longer := *c
	for longer.Minutes = c.Minutes + 1; longer.Minutes <= mostMinutes && len(slots) > 0; longer.Minutes++ {
		if _, _, ok := longer.mainBlock(slots, aim); ok {
			return []why.Why{why.Of(why.RelaxMinutes, why.Arithmetic, why.N("minutes", longer.Minutes))}
		}
	}
	return []why.Why{why.Of(why.RelaxBans, why.Typed)}
}
