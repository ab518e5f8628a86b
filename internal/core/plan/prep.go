package plan

import (
	"cmp"
	"math"
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// Drill is a step of the prep that times itself, and why it is there. One that makes ready for
// a heavy set names its slot, with what each party does.
type Drill struct {
	Move string       `json:"move"`
	Ms   measure.Span `json:"ms"`
	Why  why.Why      `json:"why"`
	Slot string       `json:"slot,omitempty"`
	Sets []RampSet    `json:"sets,omitempty"`
}

// RampSet is a party's lighter, shorter set of the move that it has heavy.
type RampSet struct {
	Party people.Party  `json:"party"`
	Entry circuit.Entry `json:"entry"`
	LoadG measure.Mass  `json:"loadG"`
}

// A prep has so many drills at most, since more of them are gone through and not done, and
// each at least so long (house).
const (
	MostDrills = 6
	leastStep  = 30 * measure.Second
)

// step is a step of a prep with what is done; own tells that it has a dose of its own.
type step struct {
	Drill
	slot circuit.Slot
	own  bool
}

// Prep chooses what a session is prepared by: the house's own drills where it has some;
// else something that raises the pulse without a jolt, then for each joint that the session's
// moves ask clearly of, the most asked first, the drill that is most for it, and so once more
// while there is room (common practice: ankle and hip before squats, shoulder before
// overhead, trunk before load). They are done from the floor up (house). What the class is
// to be spared is left out, what the place lacks, and, but for the house's own, what needs kit.
// A set that is lighter and shorter comes before the first heavy one.
func Prep(d circuit.Document, c Context) []Drill {
	out := []Drill{}
	for _, x := range c.steps(d) {
		out = append(out, x.Drill)
	}
	return out
}

// steps are those of a prep, each as long as its dose or its share of the time.
func (c Context) steps(d circuit.Document) []step {
	out := c.houseSteps(d)
	house := len(c.Library.HousePrep()) > 0
	if !house {
		for _, x := range c.chosenDrills(d) {
			out = append(out, step{Drill: x, slot: c.drillSlot(x.Move)})
		}
	}
	if ramp, ok := c.ramp(d); ok {
		out = append(out, ramp)
	}
	var own measure.Span
	shared := 0
	for i := range out {
		if !out[i].own {
			shared++
			continue
		}
		out[i].Ms = c.stepTime(out[i].slot)
		own += out[i].Ms
	}
	time := scheme.PrepTime(c.Minutes)
	for !house && shared > 0 && own+measure.Span(shared)*leastStep > time { // the last drill goes
		last := len(out) - 1
		for ; out[last].own; last-- {
		}
		out = slices.Delete(out, last, last+1)
		shared--
	}
	if shared == 0 {
		return out
	}
	each := max(leastStep, (time-own)/measure.Span(shared)/measure.Second*measure.Second)
	for i := range out {
		if !out[i].own {
			out[i].Ms = each
		}
	}
	return out
}

// prepTime is how long a prep that times itself takes: its share of the class, or what the
// house's own steps take where some say so.
func (c Context) prepTime(d circuit.Document) measure.Span {
	share := scheme.PrepTime(c.Minutes)
	if !slices.ContainsFunc(c.Library.HousePrep(), moves.PrepStep.Own) {
		return share
	}
	var sum measure.Span
	all := true
	for _, x := range c.steps(d) {
		sum += x.Ms
		all = all && x.own
	}
	if all && sum > 0 {
		return sum
	}
	return max(share, sum)
}

// stepTime is how long a step with a dose of its own takes the slowest, with taking up what it
// is done with.
func (c Context) stepTime(s circuit.Slot) measure.Span {
	long := measure.Span(0)
	for _, e := range s.Entries {
		set := dosed(SetOf(1, e, c.Library), e.Dose).Work
		if e.Load.Kind != kit.None {
			set += scheme.TakeUp
		}
		long = max(long, set)
	}
	return max(leastStep, (long+4999)/(5*measure.Second)*5*measure.Second)
}

// houseSteps are the house's own drills, as far as the class may do them and the place has
// what they want.
func (c Context) houseSteps(d circuit.Document) []step {
	var out []step
	for _, x := range c.Library.HousePrep() {
		if v, ok := c.Library.Get(x.Move); ok && !c.spared(d, v) && c.there(v) {
			s := c.drillSlot(x.Move)
			for who, e := range s.Entries {
				s.Entries[who] = c.asHouse(e, v, x)
			}
			out = append(out, step{
				Drill: Drill{Move: x.Move, Why: why.Of(why.PrepHouse, why.House)}, slot: s, own: x.Own(),
			})
		}
	}
	return out
}

// asHouse is a drill with the dose, the sides and the load of the house's own step; with the
// next lighter where the place has not that load, without where it has none so light.
func (c Context) asHouse(e circuit.Entry, v *moves.Variant, x moves.PrepStep) circuit.Entry {
	switch {
	case x.Ms > 0:
		e.Dose = circuit.Dose{Kind: circuit.Seconds, Ms: x.Ms}
	case x.Reps > 0:
		e.Dose = circuit.Times(x.Reps)
		e.Dose.InAll = x.InAll
	}
	if x.Sides != "" {
		e.Sides = x.Sides
	}
	if h, ok := moves.HoldOf(x.Hold); ok && x.LoadG > 0 {
		var best kit.Option
		for _, o := range c.Stock.Options(v, h) {
			if o.Total <= x.LoadG && o.Total > best.Total {
				best = o
			}
		}
		if best.Total > 0 {
			e.Hold, e.Load = x.Hold, best.Load
		}
	}
	return e
}

// chosenDrills are those that a session's moves ask for.
func (c Context) chosenDrills(d circuit.Document) []Drill {
	asked, by := c.asked(d)
	for j, n := range c.screened() {
		asked[j] += n
	}
	if len(asked) == 0 {
		return nil
	}
	return c.prepFor(d, asked, by)
}

// prepFor chooses drills for joints by how often they are asked something of; by is the move
// that asks most, where some does.
func (c Context) prepFor(d circuit.Document, asked map[string]int, by map[string]string) []Drill {
	out := []Drill{}
	screened := c.screened()
	var drills []*moves.Variant
	for _, v := range c.Library.OfPattern(moves.Mobility) {
		switch {
		case !v.Drill || v.Role != moves.Prep || len(v.Needs) > 0 || c.spared(d, v) || !c.there(v):
		case v.Pulse && v.Demands["impact"] == 0 && len(out) == 0:
			out = append(out, Drill{Move: v.ID, Why: why.Of(why.PrepPulse, why.Practice)})
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
			if n := screened[j]; n > 0 {
				reason = why.Of(why.PrepScreen, why.House, why.ID("joint", j), why.N("people", n))
			} else if by[j] != "" {
				reason.Terms = append(reason.Terms, why.ID("variant", by[j]))
			}
			out = append(out, Drill{Move: drills[i].ID, Why: reason})
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

// spared tells whether a drill breaks a limit of the class or of somebody in it, or is left
// out.
func (c Context) spared(d circuit.Document, v *moves.Variant) bool {
	for _, p := range c.Bound() {
		if slices.ContainsFunc(c.limitsOf(d, p), func(l moves.LimitID) bool { return v.Breaks(l, 0, true) }) {
			return true
		}
	}
	return slices.ContainsFunc(d.Bans, func(b string) bool {
		plain, ok := moves.LimitID(b).Expand()
		return b == v.ID || ok && slices.ContainsFunc(plain, func(l moves.LimitID) bool { return v.Breaks(l, 0, true) })
	})
}

// limitsOf lists what somebody is to be spared: their own, and for what hurt them.
func (c Context) limitsOf(d circuit.Document, p Party) []moves.LimitID {
	var out []moves.LimitID
	if p.Standing != nil {
		out = p.Standing.Plain()
	}
	if p.Who != "" {
		for _, h := range progress.Pains(c.Library, c.Class(d, nil).Past.Of(p.Lane, p.Who), p.Lane, true) {
			out = append(out, h.Limits()...)
		}
	}
	return out
}

// IDs lists the moves of drills.
func IDs(drills []Drill) []string {
	out := []string{}
	for _, x := range drills {
		out = append(out, x.Move)
	}
	return out
}
