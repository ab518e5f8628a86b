package plan

import (
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
)

// beside finds the easier move that stands beside a party's for whoever asks: of its
// pattern, one that asks less of the joints that hurt, or as much without a load.
func beside(
	d circuit.Document, b circuit.Block, s circuit.Slot, c Context, p Party, v *moves.Variant, joints []string,
) *Beside {
	class := c.Class(d, nil)
	class.Work, _ = b.ByClock(s)
	for _, x := range joints {
		class.Bans = append(slices.Clone(class.Bans), string(moves.Mild(x)))
	}
	j := choice.For(class, p.Judged())
	var best *Beside
	cost := 0.0
	for _, pattern := range v.Pattern.StandIns() {
		for _, x := range c.Library.OfPattern(pattern) {
			if x.ID == v.ID || easier(x, v, joints) > 0 {
				continue
			}
			for _, e := range j.Entries(x) {
				asked := easier(x, v, joints)
				if asked == 0 && e.Total > 0 {
					continue
				}
				if t := choice.Total(j.Cost(e)) + 10*float64(asked); best == nil || t < cost {
					best, cost = &Beside{
						Entry:  EntryFor(b.Format(), j, e),
						Joints: joints,
						Why: why.Of(why.NoteBeside, why.Practice, why.ID("move", v.ID), why.ID("to", x.ID),
							why.ID("joint", joints[0])),
					}, t
				}
			}
		}
	}
	return best
}

// easier says how much more a move asks of joints than another: negative is easier.
func easier(x, v *moves.Variant, joints []string) int {
	most := -3
	for _, j := range joints {
		most = max(most, x.Demands[j]-v.Demands[j])
	}
	return most
}
