package plan

import (
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
)

// spared tells whether a drill breaks a limit of the class or is left out.
func (c Context) spared(d circuit.Document, v *moves.Variant) bool {
	return slices.ContainsFunc(d.Bans, func(b string) bool {
		plain, ok := moves.LimitID(b).Expand()
		return b == v.ID || ok && slices.ContainsFunc(plain, func(l moves.LimitID) bool { return v.Breaks(l, 0, true) })
	})
}

// PrepMoves chooses drills for the joints that the circuit's moves ask most of:
// every drill without kit whose joint some move loads, the most asked first.
func PrepMoves(d circuit.Document, c Context) []string {
	asked := map[string]int{}
	for _, s := range d.Slots() {
		for _, p := range c.Parties {
			if v, ok := c.Library.Get(s.Entries[p.ID()].Variant); ok {
				for _, j := range v.Joints() {
					asked[j]++
				}
			}
		}
	}
	var drills []*moves.Variant
	for _, v := range c.Library.OfPattern(moves.Mobility) {
		if len(v.Needs) == 0 && !c.spared(d, v) &&
			slices.ContainsFunc(v.Joints(), func(j string) bool { return asked[j] > 0 }) {
			drills = append(drills, v)
		}
	}
	most := func(v *moves.Variant) int {
		n := 0
		for _, j := range v.Joints() {
			n = max(n, asked[j])
		}
		return n
	}
	slices.SortStableFunc(drills, func(a, b *moves.Variant) int { return most(b) - most(a) })
	out := []string{}
	for _, v := range drills {
		out = append(out, v.ID)
	}
	return out
}
