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

// unused says of every weight that no slot uses why that is: too few for a lane, too
// heavy or too light for what its people do here, or that others come nearer.
func (b Brief) unused(d circuit.Document) []why.Why {
	var out []why.Why
	c := b.composer(d.WorkMs)
	for _, i := range b.Stock.Implements {
		if i.Mass == 0 || slices.ContainsFunc(d.Slots, func(s circuit.Slot) bool {
			return slices.ContainsFunc(moves.Lanes, func(l moves.Lane) bool {
				e, ok := s.Lanes[l]
				return ok && e.Load.Item == i.ID
			})
		}) {
			continue
		}
		out = append(out, why.Of(why.NoteNotUsed, why.Arithmetic, why.ID("item", i.ID),
			why.ID("reason", c.whyUnused(i)), why.N("pieces", i.Pieces())))
	}
	return out
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
	for _, l := range c.lanes {
		j := c.judges[l.Lane]
		for _, patterns := range template {
			for _, p := range patterns {
				for _, v := range c.Library.OfPattern(p) {
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
						case i.Pieces() < h.Count*l.People:
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
