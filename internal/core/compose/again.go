package compose

import (
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// Again gives a session for another class: the same blocks, with what the log decided since,
// for who comes there with what there is. What the log takes off the plan and what cannot be
// done there is replaced by what is as hard; a party that had nothing does what suits it. As
// names the participants of the other class who are the same people, by those of the first;
// the others do what their lane does.
func Again(d circuit.Document, c plan.Context, as map[people.Party]people.Party) (circuit.Document, []why.Why) {
	c.Stock = c.Stock.Memoized()
	out := d.Clone()
	out.Overruled, out.Day = nil, nil // they were that class's
	b := Brief{Context: c, Bans: d.Bans, Known: d.Known, Goal: d.Goal, Template: d.Template}
	for _, s := range out.Slots() {
		b.again = append(b.again, movesOf(s)...)
	}
	var notes []why.Why
	for i, block := range out.Blocks {
		if block.Auto {
			continue
		}
		in, work := b.in(block)
		in.For = nil
		x := in.composer(work)
		for n, s := range block.Slots {
			next, said := x.againIn(s, block, as)
			out.Blocks[i].Slots[n] = next
			notes = append(notes, said...)
		}
		out.Blocks[i].Layout = circuit.LayoutOf(block.Layout, out.Blocks[i].Slots)
	}
	out, _, named := b.byName(circuit.Document{}, out.Clone())
	out, spared := Spare(out, c)
	return out, slices.Concat(named, spared, notes)
}

func movesOf(s circuit.Slot) []string {
	var out []string
	for _, who := range people.Parties(s.Entries) {
		out = append(out, s.Entries[who].Variant)
	}
	return out
}

// againIn is a slot for another class.
func (c *composer) againIn(
	s circuit.Slot,
	b circuit.Block,
	as map[people.Party]people.Party,
) (circuit.Slot, []why.Why) {
	var notes []why.Why
	had := s.Entries
	s.Entries = map[people.Party]circuit.Entry{}
	for _, who := range people.Parties(had) {
		to := who
		if _, lane := who.Lane(); !lane {
			if to = as[who]; to == "" {
				continue
			}
		}
		p, ok := c.partyOf(to)
		if !ok {
			continue
		}
		e, said := c.againFor(had[who], s, b, p)
		s.Entries[to] = e
		notes = append(notes, said...)
	}
	for _, p := range c.parties {
		if _, ok := s.Of(p.id, p.Lane); ok {
			continue
		}
		if cands := c.candidates(s.Pattern, p); len(cands) > 0 {
			s.Entries[p.id] = cands[0].made
		} else if e, ok := c.heldAtAll(s.Pattern, p); ok {
			s.Entries[p.id] = e
		}
	}
	s.New = b.Kind.Loaded() && c.taught(s.Entries)
	if s.Waves == 1 || b.Layout == circuit.InWaves {
		s, _ = c.covered(s)
	}
	return s, notes
}

// partyOf is a lane with people, or a participant, of the class.
func (c *composer) partyOf(id people.Party) (party, bool) {
	for _, p := range c.Parties {
		if p.ID() == id && p.People > 0 {
			if c.judges[id] == nil {
				c.judges[id] = choice.For(c.class(c.work), p.Judged())
			}
			return party{p, id, 1}, true
		}
	}
	return party{}, false
}

// againFor is a party's entry in another class, and what became of it.
func (c *composer) againFor(
	e circuit.Entry,
	s circuit.Slot,
	b circuit.Block,
	p party,
) (circuit.Entry, []why.Why) {
	j := c.judges[p.id]
	v, known := c.Library.Get(e.Variant)
	x, there := c.ChoiceOf(e)
	dec, decided := progress.Decision{}, false
	if known && b.Kind.Loaded() && b.Role() == strength.Alone { // a light set steps nothing
		dec, decided = j.Decision(v)
	}
	stays := known && there && len(j.Faults(x)) == 0
	if stays && (!decided || e.Pinned) {
		return e, nil
	}
	to := v
	if decided && dec.To != "" {
		if other, ok := c.Library.Get(dec.To); ok {
			to = other
		}
	}
	if known {
		if best, faults, ok := j.Best(to); ok && len(faults) == 0 {
			next := c.carried(e, to, plan.EntryFor(b.Format(), j, best), b)
			if decided && !sameEntry(next, e) {
				note := why.Of(why.NoteByLog, why.House, why.ID("lane", string(p.id)), why.ID("variant", to.ID))
				return next, []why.Why{note.With(dec.Why)}
			}
			return next, nil
		}
	}
	if stays && dec.Advice != progress.OffPlan && dec.Advice != progress.StopMove {
		return e, nil
	}
	next, swap, ok := c.atHome(e, s.Pattern, p)
	if !ok {
		return e, nil // drawn with what is wrong
	}
	if next.Variant == e.Variant {
		return next, nil
	}
	swap.Code = why.NoteAgainSwap
	return next, []why.Why{swap}
}

// carried is the new entry of a move with what was set by hand of the same move: sides, who
// begins, tempo, parts, and a dose that is no plain count.
func (c *composer) carried(e circuit.Entry, v *moves.Variant, next circuit.Entry, b circuit.Block) circuit.Entry {
	if v.ID != e.Variant {
		return next
	}
	next.Sides, next.First, next.Parts = e.Sides, e.First, e.Parts
	if e.Tempo != "" || len(e.Parts) > 0 {
		next.Tempo = e.Tempo
	}
	plain := e.Dose.Kind == circuit.Count && e.Dose.Low == e.Dose.High && !e.Dose.InAll
	if !plain || b.Format() == circuit.Timed || !b.Is(scheme.Circuit, scheme.Sets) {
		next.Dose = e.Dose
	}
	return next
}

func sameEntry(a, b circuit.Entry) bool {
	return a.Variant == b.Variant && a.Hold == b.Hold && a.Load.Equal(b.Load) && a.Dose == b.Dose &&
		slices.Equal(a.Anchors, b.Anchors)
}
