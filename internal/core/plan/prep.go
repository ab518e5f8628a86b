package plan

import (
	"cmp"
	"math"
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
)

// Drill is a step of the prep that times itself, and why it is there.
type Drill struct {
	Move string  `json:"move"`
	Why  why.Why `json:"why"`
}

// MostDrills is how many drills a prep has at most: more of them are gone through and not
// done (house).
const MostDrills = 6

// Prep chooses what a session is prepared by: the house's own drills where it has some;
// else something that raises the pulse without a jolt, then for each joint that the session's
// moves ask clearly of, the most asked first, the drill that is most for it, and so once more
// while there is room (common practice: ankle and hip before squats, shoulder before
// overhead, trunk before load). They are done from the floor up (house). What the class is
// to be spared is left out, what the place lacks, and, but for the house's own, what needs kit.
func Prep(d circuit.Document, c Context) []Drill {
	out := []Drill{}
	if own := c.Library.HousePrep(); len(own) > 0 {
		for _, id := range own {
			if v, ok := c.Library.Get(id); ok && !c.spared(d, v) && c.there(v) {
				out = append(out, Drill{id, why.Of(why.PrepHouse, why.House)})
			}
		}
		return out
	}
	asked, by := c.asked(d)
	if len(asked) == 0 {
		return out
	}
	return c.prepFor(d, asked, by)
}

// prepFor chooses drills for joints by how often they are asked something of; by is the move
// that asks most, where some does.
func (c Context) prepFor(d circuit.Document, asked map[string]int, by map[string]string) []Drill {
	out := []Drill{}
	var drills []*moves.Variant
	for _, v := range c.Library.OfPattern(moves.Mobility) {
		switch {
		case !v.Drill || v.Role != moves.Prep || len(v.Needs) > 0 || c.spared(d, v) || !c.there(v):
		case v.Pulse && v.Demands["impact"] == 0 && len(out) == 0:
			out = append(out, Drill{v.ID, why.Of(why.PrepPulse, why.Practice)})
		case !v.Pulse:
			drills = append(drills, v)
		}
	}
	joints := slices.DeleteFunc(slices.Clone(moves.Joints), func(j string) bool { return asked[j] == 0 })
	slices.SortStableFunc(joints, func(a, b string) int { return asked[b] - asked[a] })
	for found := true; found; {
		found = false
		for _, j := range joints {
			i := opener(drills, j)
			if i < 0 || len(out) == MostDrills {
				continue
			}
			found = true
			reason := why.Of(why.PrepFor, why.Practice, why.ID("joint", j))
			if by[j] != "" {
				reason.Terms = append(reason.Terms, why.ID("variant", by[j]))
			}
			out = append(out, Drill{drills[i].ID, reason})
			drills = slices.Delete(drills, i, i+1)
		}
	}
	// Down once, and standing when the work begins; what raises the pulse stays first.
	slices.SortStableFunc(out, func(a, b Drill) int { return cmp.Compare(c.turn(b.Move), c.turn(a.Move)) })
	return out
}

// turn is when a drill comes: the higher the sooner.
func (c Context) turn(id string) int {
	v, _ := c.Library.Get(id)
	if v.Pulse {
		return math.MaxInt
	}
	return v.Pose.Level()
}

// opener is the drill that is most for a joint and least for others, -1 for none.
func opener(drills []*moves.Variant, joint string) int {
	best, least := -1, 0
	for i, v := range drills {
		if !v.Loads(joint) {
			continue
		}
		all := 0
		for _, n := range v.Demands {
			all += n
		}
		if best < 0 || all < least {
			best, least = i, all
		}
	}
	return best
}

// asked counts how often the moves of a session clearly ask something of a joint, of each
// party once a slot; by is the move that asks most, of equals the first by id, whoever comes
// first.
func (c Context) asked(d circuit.Document) (asked map[string]int, by map[string]string) {
	asked, by = map[string]int{}, map[string]string{}
	most := map[string]int{}
	for _, b := range d.Blocks {
		if !b.Kind.Loaded() {
			continue
		}
		for _, s := range b.Slots {
			for _, p := range c.Parties {
				e, ok := s.Of(p.ID(), p.Lane)
				v, known := c.Library.Get(e.Variant)
				if !ok || !known || p.People == 0 {
					continue
				}
				for _, j := range moves.Joints {
					if !v.Loads(j) {
						continue
					}
					asked[j]++
					if n := v.Demands[j]; n > most[j] || n == most[j] && v.ID < by[j] {
						most[j], by[j] = v.Demands[j], v.ID
					}
				}
			}
		}
	}
	return asked, by
}

// there tells whether a place has what a drill wants.
func (c Context) there(v *moves.Variant) bool {
	for _, need := range v.Wants() {
		if !c.Stock.Grants(need) && !c.Stock.Has(need) {
			return false
		}
	}
	return true
}

// spared tells whether a drill breaks a limit of the class or is left out.
func (c Context) spared(d circuit.Document, v *moves.Variant) bool {
	return slices.ContainsFunc(d.Bans, func(b string) bool {
		plain, ok := moves.LimitID(b).Expand()
		return b == v.ID || ok && slices.ContainsFunc(plain, func(l moves.LimitID) bool { return v.Breaks(l, 0, true) })
	})
}

// IDs lists the moves of drills.
func IDs(drills []Drill) []string {
	out := []string{}
	for _, x := range drills {
		out = append(out, x.Move)
	}
	return out
}
