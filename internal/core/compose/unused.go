package compose

import (
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
)

// unused says of every weight that no slot uses why that is: too few for a party, too
// heavy or too light for what its people do here, or that others come nearer.
func (b Brief) unused(d circuit.Document) []why.Why {
	var out []why.Why
	c := b.of(d)
	for _, i := range b.Stock.Implements {
		if i.Mass == 0 || i.Kind == kit.Plate || slices.ContainsFunc(d.Slots(), func(s circuit.Slot) bool {
			return uses(s, i.ID)
		}) {
			continue
		}
		out = append(out, why.Of(why.NoteNotUsed, why.Arithmetic, why.ID("item", i.ID),
			why.ID("reason", c.whyUnused(i)), why.N("pieces", i.Pieces())))
	}
	return out
}

func uses(s circuit.Slot, item string) bool {
	for _, e := range s.Entries {
		if e.Load.Item == item {
			return true
		}
	}
	return false
}

// Reasons why a weight is not used.
const (
	tooFew   = "too-few"
	tooHeavy = "too-heavy"
	noMove   = "no-move"
	nearer   = "nearer"
)

func (c *composer) whyUnused(i kit.Implement) string {
	reason := noMove
	for _, p := range c.parties {
		j := c.judges[p.id]
		for _, patterns := range template {
			for _, pattern := range patterns {
				for _, v := range c.Library.OfPattern(pattern) {
					for _, id := range v.Holds {
						h, _ := moves.HoldOf(id)
						load := kit.Load{Kind: kit.Implements, Item: i.ID, Count: h.Count}
						if h.Count == 0 || !c.Stock.Holds(v, h, load) || i.Pieces() < h.Count {
							continue
						}
						e := choice.Entry{
							Variant: v,
							Hold:    id,
							Option:  kit.Option{Load: load, Total: i.Mass * measure.Mass(h.Count)},
						}
						faults := j.Faults(e)
						switch {
						case slices.ContainsFunc(faults, func(w why.Why) bool { return w.Code == why.FaultOver || w.Code == why.FaultCeiling }) && reason == noMove:
							reason = tooHeavy
						case slices.ContainsFunc(faults, func(w why.Why) bool { return w.Code != why.FaultNoSupport }):
						case i.Pieces() < h.Count*p.n:
							if reason != nearer {
								reason = tooFew
							}
						default:
							reason = nearer
						}
					}
				}
			}
		}
	}
	return reason
}
