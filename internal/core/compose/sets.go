package compose

import (
	"maps"
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// Straight sets (house): as many of the template's places as have time for the usual sets; what
// is left becomes a superset of two other places and a finisher, longer rests, more sets.
const (
	mostPlaces    = 5
	fewPlaces     = 3
	usualSets     = 3
	supersetRest  = measure.Minute
	worthSuperset = 6 * measure.Minute
	leastRounds   = 2 // of a superset
	restStep      = 15 * measure.Second
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
	aim := c.aim()
	slots := c.chosen(places)
	if d, n, ok := c.mainBlock(slots, aim); ok {
		p.Feasible, p.Document = true, c.filledUp(d, slots[n:], aim)
		p.Notes = slices.Concat(p.Notes, c.lacks(p.Document, places), c.endsEarly(p.Document))
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
	most := c.mostSets(slots, aim)
	usual := min(most, max(usualSets, aim.SetsLow))
	places := len(slots)
	if aim.Fills {
		places = min(places, mostPlaces)
	}
	for _, x := range []struct{ sets, fewest int }{{usual, fewPlaces}, {min(aim.SetsLow, most), 1}} {
		for n := max(places, pinned); n >= max(min(x.fewest, len(slots)), pinned, 1); n-- {
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
			if c.Template == goal.OneLeg && e.Sides == scheme.Split && !s.Pinned { // a side a set
				e.Sides = scheme.ByRound
			}
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

// asSets writes slots as straight sets.
func (c *composer) asSets(slots []circuit.Slot, sets int, rest measure.Span) circuit.Document {
	one := circuit.Single{
		Format: circuit.Reps, LeadInMs: scheme.UsualLeadIn, Rounds: 1, Bans: append([]string{}, c.Bans...), Known: c.Known,
		Overruled: c.Overruled, Goal: c.Goal, Template: c.Template, Layout: c.Layout, Slots: slots,
	}
	d := c.pins.among(one.Document())
	d.Blocks[c.pins.at()].Scheme = &circuit.Scheme{
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
			if d := c.asSets(slots, sets, rest); plan.Length(d, c.Context) <= class {
				return d, true
			}
		}
	}
	return circuit.Document{}, false
}

// filledUp uses what is left of the minutes: where the goal fills them, a superset of two
// other places and a finisher; then longer rests within the goal's, then more sets. The
// blocks that stay are left alone.
func (c *composer) filledUp(d circuit.Document, others []circuit.Slot, aim goal.Aim) circuit.Document {
	class := measure.Span(c.Minutes) * measure.Minute
	fits := func(d circuit.Document) bool { return plan.Length(d, c.Context) <= class }
	main := c.pins.at()
	add := func(at int, b circuit.Block) bool {
		next := d.Clone()
		b.ID = next.FreeBlockID()
		next.Blocks = slices.Insert(next.Blocks, at, b)
		ok := fits(next)
		if ok {
			d = next
		}
		return ok
	}
	if aim.Fills && class-plan.Length(d, c.Context) >= worthSuperset {
		if b, ok := c.superset(others); ok {
			for x := b.Scheme.Superset; x.Rounds >= leastRounds && !add(main+1, b); x.Rounds-- {
			}
		}
	}
	if aim.Fills {
		if b, ok := c.finisher(d); ok {
			last := slices.IndexFunc(d.Blocks, func(b circuit.Block) bool { return b.Kind == circuit.Close })
			add(last, b)
		}
	}
	longer := func(change func(*circuit.InSets)) bool {
		next := d.Clone()
		change(next.Blocks[main].Scheme.Sets)
		ok := fits(next)
		if ok {
			d = next
		}
		return ok
	}
	for rest := d.Blocks[main].Scheme.Sets.RestMs + restStep; rest <= aim.RestHigh; rest += restStep {
		if !longer(func(x *circuit.InSets) { x.RestMs, x.BetweenMs = rest, rest }) {
			break
		}
	}
	for n := d.Blocks[main].Scheme.Sets.Sets + 1; n <= c.mostSets(d.Blocks[main].Slots, aim); n++ {
		if !longer(func(x *circuit.InSets) { x.Sets = n }) {
			break
		}
	}
	return d
}

// mostSets is how many sets of a move there are at most.
func (c *composer) mostSets(slots []circuit.Slot, aim goal.Aim) int {
	return min(aim.SetsHigh, c.mostRounds(circuit.Single{Slots: slots}))
}

// superset is one of the first two places that can be done so; ok is false where there are
// no two.
func (c *composer) superset(others []circuit.Slot) (circuit.Block, bool) {
	var pair []circuit.Slot
	for _, s := range others {
		if s, ok := c.inRole(s, strength.Superset); ok && len(pair) < 2 {
			pair = append(pair, s)
		}
	}
	return circuit.Block{
		Kind: circuit.Work, Layout: circuit.LayoutOf(c.Layout, pair), Slots: pair,
		Scheme: &circuit.Scheme{
			Kind:     scheme.Superset,
			Superset: &circuit.InGroups{Rounds: usualSets, RestMs: supersetRest},
		},
	}, len(pair) == 2
}

// finisher is one last light set of a move of the main block that both legs do. ok is false
// where there is none, and where one stays.
func (c *composer) finisher(d circuit.Document) (circuit.Block, bool) {
	if slices.ContainsFunc(d.Blocks, func(b circuit.Block) bool { return b.Kind == circuit.Finisher }) {
		return circuit.Block{}, false
	}
	unfit := func(e circuit.Entry) bool {
		v, known := c.Library.Get(e.Variant)
		return !known || v.OnOneLeg() || v.Ballistic
	}
	for _, s := range slices.Backward(d.Blocks[c.pins.at()].Slots) {
		if !s.Pattern.OfTheLegs() || s.Pinned || slices.ContainsFunc(slices.Collect(maps.Values(s.Entries)), unfit) {
			continue
		}
		if s, ok := c.inRole(s, strength.Finisher); ok {
			s.ID, s.New = d.FreeSlotID(), false
			return circuit.Block{
				Kind: circuit.Finisher, Layout: circuit.LayoutOf(c.Layout, []circuit.Slot{s}), Slots: []circuit.Slot{s},
				Scheme: &circuit.Scheme{Kind: scheme.Sets, Sets: &circuit.InSets{Sets: 1}},
			}, true
		}
	}
	return circuit.Block{}, false
}

// inRole gives a slot as it is done in another role than alone: with the load that the house's
// school takes for it, never above, or none, and the usual repetitions of the role, as far as
// the lanes end together. ok is false where they cannot, and where the place has nothing so
// light, or not enough of it.
func (c *composer) inRole(s circuit.Slot, role strength.Role) (circuit.Slot, bool) {
	s = s.SettledIn(1)
	for _, who := range people.Parties(s.Entries) {
		e, ok := c.entryInRole(s.Entries[who], role)
		if !ok {
			return s, false
		}
		s.Entries[who] = e
	}
	if !together(s.Entries, c.Library) {
		return s, false
	}
	return c.covered(s)
}

func (c *composer) entryInRole(e circuit.Entry, role strength.Role) (circuit.Entry, bool) {
	v, known := c.Library.Get(e.Variant)
	if !known {
		return e, false
	}
	if goal.Counts(v) {
		e.Dose, e.Tempo = circuit.Times(strength.RoleReps[role]), v.TempoWritten()
	}
	total, _ := c.Stock.Mass(e.Load)
	wanted, err := strength.RoleLoad(total, role, strength.School(c.Library.LoadSchool()))
	h, held := moves.HoldOf(e.Hold)
	if total == 0 || err != nil || !held {
		return e, total == 0
	}
	var there []measure.Mass
	options := c.Stock.Options(v, h)
	for _, o := range options {
		there = append(there, o.Total)
	}
	most, ok := strength.Choose(wanted, there, strength.NeverAbove)
	if !ok {
		return e.Unloaded(v)
	}
	e.Load = options[slices.Index(there, most)].Load
	return e, true
}

// lacks lists what of the template is not in a proposal, and what stands in for it.
func (c *composer) lacks(d circuit.Document, places []place) []why.Why {
	var out []why.Why
	said := map[moves.Pattern]bool{}
	for _, pl := range places {
		stands := func(s circuit.Slot) bool { return slices.Contains(pl.patterns, s.Pattern) }
		own, slots := pl.patterns[0], d.Slots()
		at := slices.IndexFunc(slots, stands)
		switch {
		case said[own]:
		case at < 0:
			out = append(out, c.missing(pl))
		default:
			out = append(out, c.replaced(pl, slots[at].Pattern)...)
		}
		said[own] = true
	}
	return out
}

// endsEarly says what is left of the minutes.
func (c *composer) endsEarly(d circuit.Document) []why.Why {
	left := measure.Span(c.Minutes)*measure.Minute - plan.Length(d, c.Context)
	if left <= endsEarly {
		return nil
	}
	return []why.Why{why.Of(why.NoteEndsEarly, why.House, why.Ms("left", int64(left)),
		why.N("sets", d.Blocks[c.pins.at()].Scheme.Sets.Sets),
		why.N("most", c.mostSets(d.Blocks[c.pins.at()].Slots, c.aim())))}
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
