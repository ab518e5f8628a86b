package compose

import (
	"cmp"
	"maps"
	"slices"

	"nimbleanvil/internal/core/choice"
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

// pins are what a new proposal leaves as it is: the pinned slots of the plan's main block,
// each in its place, and the blocks before and after it that have pinned slots, with these
// alone.
type pins struct {
	slots         []pin
	before, after []circuit.Block
	// aside are blocks, by id, which cover nothing of the template.
	aside []string
}

// pin is a slot that stays, at a place in the main block.
type pin struct {
	circuit.Slot
	at int
}

// mainOf is the block of a plan that a proposal makes anew: its first circuit, else its first
// straight sets; -1 where it has neither.
func mainOf(d circuit.Document) int {
	if _, at, ok := d.Single(); ok {
		return at
	}
	return slices.IndexFunc(d.Blocks, func(b circuit.Block) bool { return b.Kind == circuit.Work && b.Is(scheme.Sets) })
}

// pinsOf finds what is pinned in a plan, without what a block of the brief has no use for.
func (b Brief) pinsOf(d circuit.Document) pins {
	var out pins
	main := mainOf(d)
	for i, x := range d.Blocks {
		if i == main {
			for n, s := range x.Slots {
				if !s.Pinned {
					continue
				}
				if b.Format != circuit.Timed {
					s.WorkMs = nil // there are no intervals
				}
				if !b.inStraightSets() {
					s.Sets = 0 // there are rounds
				}
				out.slots = append(out.slots, pin{s, n})
			}
			continue
		}
		x.Slots = slices.DeleteFunc(slices.Clone(x.Slots), func(s circuit.Slot) bool { return !s.Pinned })
		switch {
		case len(x.Slots) == 0:
		case main >= 0 && i > main, main < 0 && (x.Kind == circuit.Finisher || x.Kind == circuit.Close):
			out.after = append(out.after, x)
		default:
			out.before = append(out.before, x)
		}
	}
	return out
}

// covers takes a pinned slot of one of these patterns out of those left; beside is true
// where it stands in another block than the circuit.
func (p *pins) covers(patterns []moves.Pattern) (slot circuit.Slot, beside, ok bool) {
	wanted := func(s circuit.Slot) bool { return slices.Contains(patterns, s.Pattern) }
	if i := slices.IndexFunc(p.slots, func(x pin) bool { return wanted(x.Slot) }); i >= 0 {
		slot = p.slots[i].Slot
		p.slots = slices.Delete(slices.Clone(p.slots), i, i+1)
		return slot, false, true
	}
	for _, blocks := range [][]circuit.Block{p.before, p.after} {
		for i := range blocks {
			if n := slices.IndexFunc(blocks[i].Slots, wanted); n >= 0 && !slices.Contains(p.aside, blocks[i].ID) {
				slot = blocks[i].Slots[n]
				blocks[i].Slots = slices.Delete(slices.Clone(blocks[i].Slots), n, n+1)
				return slot, true, true
			}
		}
	}
	return slot, false, false
}

// moves lists what is done in pinned slots.
func (p pins) moves() []string {
	var out []string
	add := func(s circuit.Slot) {
		for _, who := range people.Parties(s.Entries) {
			out = append(out, s.Entries[who].Variant)
		}
	}
	for _, x := range p.slots {
		add(x.Slot)
	}
	for _, b := range slices.Concat(p.before, p.after) {
		for _, s := range b.Slots {
			add(s)
		}
	}
	return out
}

// clone lets covers take from a copy.
func (p pins) clone() pins {
	return pins{slices.Clone(p.slots), slices.Clone(p.before), slices.Clone(p.after), p.aside}
}

// pinnedPlace is the place of a pinned slot: it has one way to be filled. A party that came
// since does what suits it best.
func (c *composer) pinnedPlace(s circuit.Slot) place {
	x := combination{pattern: s.Pattern, waves: s.Waves, entries: map[people.Party]circuit.Entry{}, pinned: &s}
	for who, e := range s.Entries {
		x.entries[who] = e
	}
	for _, p := range c.parties {
		if _, ok := s.Of(p.id, p.Lane); ok {
			continue
		}
		if cands := c.candidates(s.Pattern, p); len(cands) > 0 {
			x.entries[p.id] = cands[0].made
		}
	}
	return place{patterns: []moves.Pattern{s.Pattern}, options: []combination{x}, pinned: true}
}

// places are those of the template with what may stand there, a pinned slot where there is
// one for it, and those of the other pinned slots. Left are the patterns that nothing could
// stand for.
func (c *composer) places() (out []place, left []moves.Pattern) {
	c.elsewhere = nil
	pinned := c.pins.clone()
	used := []string{}
	if !c.Template.Alternates() {
		used = pinned.moves()
	}
	for _, patterns := range c.wanted() {
		s, beside, ok := pinned.covers(patterns)
		switch pl := (place{}); {
		case ok && beside: // it is done there
		case ok:
			out = append(out, c.pinnedPlace(s))
			c.keep(out[len(out)-1])
		default:
			if pl = c.without(used).place(patterns, true); len(pl.options) == 0 {
				if !slices.ContainsFunc(out, func(x place) bool { return x.patterns[0] == patterns[0] }) {
					left = append(left, patterns[0]) // of several there are as many as there are
				}
				continue
			}
			c.keep(pl)
			if !c.Template.Alternates() { // several of one pattern: each another move
				pl, used = pl.only(used)
			}
			out = append(out, pl)
		}
	}
	for _, x := range pinned.slots {
		out = append(out, c.pinnedPlace(x.Slot))
	}
	return out, left
}

// wanted are the places of the template: for a circuit as many as make a usual one.
func (c *composer) wanted() [][]moves.Pattern {
	own := c.Template.Places(c.Pattern)
	switch {
	case own == nil:
		return template
	case c.inStraightSets():
		return own
	}
	return own[:min(len(own), usualPlaces)]
}

// usualPlaces is how many places a circuit of one kind of move has (house).
const usualPlaces = 6

// without is a composer that leaves moves out besides.
func (c *composer) without(used []string) *composer {
	if len(used) == 0 {
		return c
	}
	b := c.Brief
	b.Bans = append(slices.Clone(b.Bans), used...)
	out := b.composer(c.work)
	out.stations, out.elsewhere = c.stations, c.elsewhere
	return out
}

// only leaves a place its cheapest option, whose moves are used then.
func (p place) only(used []string) (place, []string) {
	best := slices.MinFunc(p.options, func(a, b combination) int { return cmp.Compare(a.total, b.total) })
	p.options = []combination{best}
	for _, who := range people.Parties(best.entries) {
		used = append(used, best.entries[who].Variant)
	}
	return p, used
}

// inPlace puts the pinned slots where they stood among the others.
func (c *composer) inPlace(slots, pinned []circuit.Slot) []circuit.Slot {
	out := slices.Clone(slots)
	for _, x := range c.pins.slots {
		if i := slices.IndexFunc(pinned, func(s circuit.Slot) bool { return s.ID == x.ID }); i >= 0 {
			out = slices.Insert(out, min(x.at, len(out)), pinned[i])
		}
	}
	return out
}

// number gives the slots that are not pinned the ids that are free, in their order.
func (c *composer) number(slots []circuit.Slot) {
	taken := map[string]bool{}
	for _, x := range c.pins.slots {
		taken[x.ID] = true
	}
	for _, b := range slices.Concat(c.pins.before, c.pins.after) {
		for _, s := range b.Slots {
			taken[s.ID] = true
		}
	}
	next := 1
	for i := range slots {
		for slots[i].ID == "" && taken[circuit.SlotID(next)] {
			next++
		}
		if slots[i].ID == "" {
			slots[i].ID = circuit.SlotID(next)
			next++
		}
	}
}

// among gives a circuit's document with the blocks that stay beside it.
func (p pins) among(d circuit.Document) circuit.Document {
	if len(p.before)+len(p.after) == 0 {
		return d
	}
	taken := map[string]bool{}
	for _, b := range slices.Concat(p.before, p.after) {
		taken[b.ID] = true
	}
	next := 1
	for i := range d.Blocks {
		for taken[circuit.BlockID(next)] {
			next++
		}
		d.Blocks[i].ID = circuit.BlockID(next)
		next++
	}
	d.Blocks = slices.Concat(
		d.Blocks[:workBlock],
		p.before,
		d.Blocks[workBlock:workBlock+1],
		p.after,
		d.Blocks[workBlock+1:],
	)
	return d
}

// Pin is a move that a session must have: for everybody, or for one party.
type Pin struct {
	Move  string
	Party people.Party
	// Load is what it is done with in all, nothing for what suits; Unloaded has it done
	// without.
	Load     measure.Mass
	Unloaded bool
	// Dose is how often, nothing for what is usual; Tempo that of the move where it is empty.
	Dose  *circuit.Dose
	Tempo string
	// First is the side that begins, the left where nothing is said.
	First scheme.Side
}

// reps are the repetitions a side that a pin asks for, of a range the fewest; 0 for what is
// usual.
func (p Pin) reps() int {
	switch d := p.Dose; {
	case d == nil || d.Kind != circuit.Count && d.Kind != circuit.ToFailure:
		return 0
	case d.InAll:
		return (d.Low + 1) / 2
	default:
		return d.Low
	}
}

// pinned is the plan with the pins of the brief before it, each a slot in its turn.
func (b Brief) pinned() (circuit.Document, []why.Why) {
	if len(b.Pins) == 0 {
		return b.Plan, nil
	}
	b.Plan = b.Plan.Clone()
	block := circuit.Single{Format: b.Format, Layout: b.Layout}.Document().Blocks[workBlock]
	if b.inStraightSets() {
		block.Scheme = b.schemeOf(Wanted{Kind: circuit.Work, Scheme: scheme.Sets})
	}
	c := b.composer(usualWork)
	slots, notes := c.slotsOf(b.Pins, block)
	taken := b.Plan.Clone()
	for i := range slots {
		slots[i], _ = c.covered(slots[i])
		slots[i].ID = taken.FreeSlotID()
		taken.Blocks = append(taken.Blocks, circuit.Block{Slots: slots[i : i+1]})
	}
	if main := mainOf(b.Plan); main >= 0 {
		b.Plan.Blocks[main].Slots = append(slots, b.Plan.Blocks[main].Slots...)
	} else if len(slots) > 0 {
		block.Slots = slots
		b.Plan.Blocks = append(b.Plan.Blocks, block)
	}
	return b.Plan, notes
}

// slotsOf makes the slots of pins for a block: pins one after the other for other parties are
// one slot, where their moves share a pattern. What nobody can do with the kit there is said
// and left out.
func (c *composer) slotsOf(all []Pin, in circuit.Block) (slots []circuit.Slot, notes []why.Why) {
	for _, pin := range all {
		v, ok := c.Library.Get(pin.Move)
		if !ok {
			continue
		}
		c := c.ofPin(pin)
		entries, found := map[people.Party]circuit.Entry{}, pin.Load == 0
		its := slices.DeleteFunc(
			slices.Clone(c.parties),
			func(p party) bool { return pin.Party != "" && pin.Party != p.id },
		)
		suited := map[people.Party]circuit.Entry{}
		if pin.Load == 0 && !pin.Unloaded {
			suited = c.suited(v, its)
		}
		for _, p := range its {
			e, as, ok := c.asPinned(v, p, pin)
			if best, suits := suited[p.id]; suits {
				e, ok = best, true
			}
			if ok {
				entries[p.id], found = c.inBlock(e, v, pin, in), found || as
			}
		}
		if len(entries) == 0 {
			notes = append(notes, why.Of(why.NotePinAway, why.Arithmetic, why.ID("variant", v.ID)))
			continue
		}
		if !found {
			notes = append(notes,
				why.Of(why.NotePinLoad, why.Arithmetic, why.ID("variant", v.ID), why.G("load", float64(pin.Load))))
		}
		var s *circuit.Slot
		if n := len(slots) - 1; pin.Party != "" && n >= 0 && slots[n].Pattern == v.Pattern {
			if _, had := slots[n].Entries[pin.Party]; !had {
				s = &slots[n]
			}
		}
		if s == nil {
			slots = append(
				slots,
				circuit.Slot{Pattern: v.Pattern, Waves: 1, Pinned: true, Entries: map[people.Party]circuit.Entry{}},
			)
			s = &slots[len(slots)-1]
		}
		maps.Copy(s.Entries, entries)
		s.New = in.Kind.Loaded() && (c.taught(s.Entries) || s.New || slices.Contains(c.New, v.ID))
	}
	return slots, notes
}

// covered gives a slot the fewest waves in which there is enough for everybody; ok is false
// where there is in none: it stands as it is then.
func (c *composer) covered(s circuit.Slot) (_ circuit.Slot, ok bool) {
	s.Waves = 1
	inHand, _ := c.InHand(circuit.Block{Slots: []circuit.Slot{s}}, 0)
	for _, waves := range c.turns() {
		if inHand.Covered(c.Stock, waves) {
			s.Waves = c.written(waves)
			return s, true
		}
	}
	return s, false
}

// workBlock is where the work of a single circuit stands, at those of a document with the
// blocks that stay.
const workBlock = 2

func (p pins) at() int { return workBlock + len(p.before) }

// ofPin is the composer for the move of a pin.
func (c *composer) ofPin(pin Pin) *composer {
	b := c.Brief
	b.pin = pin
	return b.composer(c.work)
}

// asPinned is a party's entry of a pinned move by itself: with the load that was asked for
// where the place has it in some hold, which as tells, else with what suits; ok is false where
// nothing here serves it.
func (c *composer) asPinned(v *moves.Variant, p party, pin Pin) (e circuit.Entry, as, ok bool) {
	j := c.judges[p.id]
	best, _, ok := j.Best(v)
	if !ok {
		return e, false, false
	}
	if pin.Load > 0 {
		least := 0.0
		for _, id := range v.Holds {
			h, _ := moves.HoldOf(id)
			for _, o := range c.Stock.Options(v, h) {
				x := choice.Entry{Variant: v, Hold: id, Option: o, Supports: best.Supports}
				if cost := choice.Total(j.Cost(x)); o.Total == pin.Load && (!as || cost < least) {
					best, least, as = x, cost, true
				}
			}
		}
	}
	e = plan.EntryFor(c.Format, j, best)
	if pin.Unloaded {
		e, _ = e.Unloaded(v)
	}
	return e, as, true
}

// inBlock is a pinned entry as it stands in a block: what the pin says of it, else what the
// block does.
func (c *composer) inBlock(e circuit.Entry, v *moves.Variant, pin Pin, in circuit.Block) circuit.Entry {
	e = c.asIn(e, v, pin, in)
	if pin.Dose != nil {
		e.Dose = *pin.Dose
	}
	if pin.Tempo != "" {
		e.Tempo, e.Parts = pin.Tempo, nil
	}
	e.First = pin.First
	return e
}

// asIn is a pinned entry as a block of its kind and scheme has it where the pin says
// nothing of it: practice before it is loaded, light in a superset and a finisher, the time of
// its part in a chain, until few are left in a drop, a side a set on one leg.
func (c *composer) asIn(e circuit.Entry, v *moves.Variant, pin Pin, in circuit.Block) circuit.Entry {
	if in.Kind == circuit.Teach {
		practised := plan.Practised(e, v)
		if pin.Load > 0 {
			practised.Hold, practised.Load = e.Hold, e.Load
		}
		return practised
	}
	if role := in.Role(); role != strength.Alone && pin.Load == 0 {
		if light, ok := c.entryInRole(e, role); ok {
			e = light
		}
	}
	switch {
	case in.Is(scheme.Chain):
		e.Sides = scheme.BothSides
		if e.Tempo != "" {
			name, takes := v.AsPart()
			e.Tempo, e.Parts = "", []circuit.Part{{Move: name, Count: 1, Ms: takes}}
		}
	case in.Is(scheme.Drop) && !v.FailsBadly():
		e.Dose = circuit.Dose{Kind: circuit.ToFailure, Low: dropLow, High: dropHigh}
	case in.Is(scheme.Sets) && in.Kind == circuit.Work && c.Template == goal.OneLeg && e.Sides == scheme.Split:
		e.Sides = scheme.ByRound
	case !in.Is(scheme.Circuit, scheme.Sets) && e.Sides == scheme.ByRound:
		e.Sides = scheme.Split
	}
	return e
}
