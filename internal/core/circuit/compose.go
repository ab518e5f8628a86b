package circuit

import (
	"math"
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
)

// state is a choice for every place, -1 for none, with the document it makes.
type state struct {
	places []place
	choice []int
	doc    Document
	cost   float64
}

// search takes the cheapest option of every place and then the best single change
// again and again: other waves, another pattern, one leg for two, one place or two dropped.
func (c *composer) search(places []place) state {
	s := state{places: places, choice: make([]int, len(places)), cost: math.Inf(1)}
	for i, pl := range places {
		for n, x := range pl.options {
			if x.cost < pl.options[s.choice[i]].cost {
				s.choice[i] = n
			}
		}
	}
	s = c.assemble(places, s.choice)
	if math.IsInf(s.cost, 1) {
		s = c.fewest(places, s)
	}
	for improved := true; improved; {
		improved = false
		best := s
		for i, pl := range places {
			for n := -1; n < len(pl.options); n++ {
				if n == s.choice[i] {
					continue
				}
				try := slices.Clone(s.choice)
				try[i] = n
				if x := c.assemble(places, try); x.cost < best.cost-1e-9 {
					best, improved = x, true
				}
			}
			for k := range i {
				try := slices.Clone(s.choice)
				try[i], try[k] = -1, -1
				if x := c.assemble(places, try); x.cost < best.cost-1e-9 {
					best, improved = x, true
				}
			}
		}
		s = best
	}
	return s
}

// least is the cost of a place's cheapest option.
func (p place) least() float64 {
	least := math.Inf(1)
	for _, x := range p.options {
		least = min(least, x.cost)
	}
	return least
}

// fewest drops places, what costs least first, until the rest fits.
func (c *composer) fewest(places []place, s state) state {
	order := make([]int, len(places))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		return int(dropCost[places[a].patterns[0]] - dropCost[places[b].patterns[0]])
	})
	pick := slices.Clone(s.choice)
	for _, i := range order[:len(order)-1] {
		pick[i] = -1
		if x := c.assemble(places, pick); !math.IsInf(x.cost, 1) {
			return x
		}
	}
	return s
}

// assemble builds the document for a choice and fills the minutes; its cost is infinite
// where it does not fit, or would teach a lane more than it takes in.
func (c *composer) assemble(places []place, pick []int) state {
	s := state{places: places, choice: slices.Clone(pick), cost: math.Inf(1)}
	d := Document{V: DocumentVersion, Format: c.Format, LeadInMs: leadIn, WorkMs: c.work, RestMs: 20 * measure.Second,
		Rounds: 1, RoundRestMs: measure.Minute, Bans: append([]string{}, c.Bans...), Known: c.Known, Overruled: c.Overruled, Slots: []Slot{}}
	cost := 0.0
	for i, pl := range places {
		if pick[i] < 0 {
			if !pl.extra {
				cost += dropCost[pl.patterns[0]]*max(
					1,
					float64(c.Minutes)/shortMinutes,
				) + pl.least() // nothing is dropped for its misfit
			}
			continue
		}
		x := pl.options[pick[i]]
		cost += x.cost
		d.Slots = append(d.Slots, Slot{Pattern: x.pattern, Waves: x.waves, Lanes: x.entries, New: c.taught(x.entries)})
	}
	cost += fewCost * float64(max(0, fewSlots-len(d.Slots)))
	if len(d.Slots) == 0 || c.overTaught(d) {
		return s
	}
	d.Slots = c.ordered(d.Slots)
	for i := range d.Slots {
		d.Slots[i].ID = slotID(i + 1)
	}
	d, time, ok := fill(d, c.Context, c.mostRounds(d), c.works, usualRests)
	if !ok {
		return s
	}
	s.doc, s.cost = d.settled(), cost+time+c.unevenness(d)
	return s
}

// settled puts sides that a single round cannot take in turn back into one interval.
func (d Document) settled() Document {
	if d.Rounds > 1 {
		return d
	}
	d = d.clone()
	for _, s := range d.Slots {
		for l, e := range s.Lanes {
			if e.Sides == ByRound {
				e.Sides = Split
				s.Lanes[l] = e
			}
		}
	}
	return d
}

// taught tells whether some lane must be taught its move.
func (c *composer) taught(entries map[moves.Lane]Entry) bool {
	for _, l := range c.lanes {
		if v, ok := c.Library.Get(entries[l.Lane].Variant); ok && c.judges[l.Lane].Taught(v) {
			return true
		}
	}
	return false
}

// MostTaught is how many moves a lane is taught in a class: three, two under a quarter
// of an hour, one more for each 20 minutes over 45 (house).
func MostTaught(minutes int) int {
	switch {
	case minutes < 15:
		return 2
	case minutes <= 45:
		return 3
	}
	return 3 + (minutes-45)/20
}

// overTaught tells whether some lane would have to be taught more moves than it takes
// in. A squat and a hinge come first in a first class.
func (c *composer) overTaught(d Document) bool {
	for _, l := range c.lanes {
		n := map[string]bool{}
		for _, s := range d.Slots {
			if v, ok := c.Library.Get(s.Lanes[l.Lane].Variant); ok && c.judges[l.Lane].Taught(v) {
				n[v.ID] = true
			}
		}
		if len(n) > MostTaught(c.Minutes) {
			return true
		}
	}
	return false
}

// relax names what would make a class possible where nothing fits: the fewest minutes
// that do, else less that is left out.
func (c *composer) relax(places []place) []why.Why {
	longer := *c
	pick := make([]int, len(places))
	for longer.Minutes = c.Minutes + 1; longer.Minutes <= mostMinutes; longer.Minutes++ {
		if s := longer.fewest(places, longer.assemble(places, pick)); !math.IsInf(s.cost, 1) {
			return []why.Why{why.Of(why.RelaxMinutes, why.Arithmetic, why.N("minutes", longer.Minutes))}
		}
	}
	return []why.Why{why.Of(why.RelaxBans, why.Typed)}
}

// mostMinutes is the longest class there is.
const mostMinutes = 240
