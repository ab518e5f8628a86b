package compose

import (
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
)

// inTurn says of a proposal for a group with a past which big moves stay as they were in the
// class before, and which others have their turn: of each pattern what the first party does
// of whom it holds.
func (c *composer) inTurn(d circuit.Document) []why.Why {
	if len(c.Past.Last) == 0 {
		return nil
	}
	var out []why.Why
	said := map[moves.Pattern]bool{}
	for _, b := range d.Blocks {
		for _, s := range b.Slots {
			if !b.Kind.Loaded() || s.Pinned || said[s.Pattern] {
				continue
			}
			for _, p := range c.parties {
				v, ok := c.Library.Get(s.Entries[p.id].Variant)
				if !ok {
					continue
				}
				had, ok := c.lastOf(p, s.Pattern)
				if !ok {
					continue
				}
				if note, is := turnOf(v, had); is {
					out, said[s.Pattern] = append(out, note), true
					break
				}
			}
		}
	}
	return out
}

// turnOf says of a move where another stood, or the same, whether it stays or has its turn.
func turnOf(v, had *moves.Variant) (why.Why, bool) {
	switch {
	case v.ID == had.ID && v.Big():
		return why.Of(why.NoteStays, why.Practice, why.ID("variant", v.ID)), true
	case v.ID != had.ID && !had.Big():
		return why.Of(why.NoteTurn, why.Practice, why.ID("by", v.ID), why.ID("from", had.ID)), true
	}
	return why.Why{}, false
}

// lastOf is what a party had of a pattern in the class before.
func (c *composer) lastOf(p party, of moves.Pattern) (*moves.Variant, bool) {
	for _, u := range c.judges[p.id].Past.Last[0] {
		if v, ok := c.Library.Get(u.Move); ok && v.Pattern == of && (u.Lane == p.Lane || u.Lane == "") {
			return v, true
		}
	}
	return nil, false
}
