package compose

import (
	"cmp"
	"math"
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// state is a choice for every place, -1 for none, with the document it makes.
type state struct {
	places []place
	choice []int
	doc    circuit.Single
	cost   Cost
	total  float64
}

// search takes the cheapest option of every place and then the best single change
// again and again: other waves, another pattern, one leg for two, one place or two dropped;
// where a goal's least rounds have no time so, once more from so few places that they have.
func (c *composer) search(places []place) state {
	s := state{places: places, choice: make([]int, len(places))}
	for i, pl := range places {
		for n, x := range pl.options {
			if x.total < pl.options[s.choice[i]].total {
				s.choice[i] = n
			}
		}
	}
	s = c.assemble(places, s.choice)
	if math.IsInf(s.total, 1) {
		s = c.fewest(s, 1)
	}
	s = c.improved(s)
	if s.doc.Rounds < c.objective.LeastRounds && !math.IsInf(s.total, 1) {
		// Several places may have to go before there is time for another round.
		if x := c.improved(c.fewest(s, c.objective.LeastRounds)); x.total < s.total {
			s = x
		}
	}
	return s
}

// improved takes the best single change again and again.
func (c *composer) improved(s state) state {
	for improved := true; improved; {
		improved = false
		best, places := s, s.places
		for i, pl := range places {
			if pl.pinned {
				continue
			}
			for n := -1; n < len(pl.options); n++ {
				if n == s.choice[i] {
					continue
				}
				try := slices.Clone(s.choice)
				try[i] = n
				if x := c.assemble(places, try); x.total < best.total-1e-9 {
					best, improved = x, true
				}
			}
			for k := range i {
				if places[k].pinned {
					continue
				}
				try := slices.Clone(s.choice)
				try[i], try[k] = -1, -1
				if x := c.assemble(places, try); x.total < best.total-1e-9 {
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
		least = min(least, x.total)
	}
	return least
}

// fewest drops places, what costs least first, until the rest fits in so many rounds; what is
// pinned stays. Where none do it is as it was.
func (c *composer) fewest(s state, rounds int) state {
	var order []int
	places := s.places
	for i, pl := range places {
		if !pl.pinned {
			order = append(order, i)
		}
	}
	most := min(len(order), len(places)-1)
	slices.SortStableFunc(order, func(a, b int) int {
		return cmp.Compare(c.objective.Drop[places[a].patterns[0]], c.objective.Drop[places[b].patterns[0]])
	})
	pick := slices.Clone(s.choice)
	for _, i := range order[:most] {
		pick[i] = -1
		if x := c.assemble(places, pick); !math.IsInf(x.total, 1) && x.doc.Rounds >= rounds {
			return x
		}
	}
	return s
}

// assemble builds the document for a choice and fills the minutes; its cost is infinite
// where it does not fit, or would teach somebody more than they take in.
func (c *composer) assemble(places []place, pick []int) state {
	s := state{places: places, choice: slices.Clone(pick), total: math.Inf(1)}
	d := circuit.Single{
		Format:      c.Format,
		LeadInMs:    scheme.UsualLeadIn,
		WorkMs:      c.work,
		RestMs:      c.objective.UsualRest,
		Rounds:      1,
		RoundRestMs: usualPause,
		Bans:        append([]string{}, c.Bans...),
		Known:       c.Known,
		Overruled:   c.Overruled,
		Goal:        c.Goal,
		Template:    c.Template,
		Layout:      c.Layout,
		Slots:       []circuit.Slot{},
	}
	var cost Cost
	for i, pl := range places {
		if pick[i] < 0 {
			if !pl.extra { // nothing is dropped for its misfit
				cost[Dropped] += c.objective.Drops(pl.patterns[0], c.Minutes) + pl.least()
			}
			continue
		}
		x := pl.options[pick[i]]
		cost = cost.Plus(x.cost)
		slot := circuit.Slot{Pattern: x.pattern, Waves: x.waves, New: c.taught(x.entries)}
		if x.pinned != nil {
			slot = *x.pinned
		}
		slot.Entries = x.entries
		d.Slots = append(d.Slots, slot)
	}
	cost[Few] = c.objective.Few * float64(max(0, c.objective.LeastSlots-len(d.Slots)))
	if len(d.Slots) == 0 || c.overTaught(d) || !c.livesThere(d) {
		return s
	}
	d.Slots = c.ordered(d.Slots)
	c.number(d.Slots)
	d, time, ok := c.fill(d, c.works, usualRests)
	if !ok {
		return s
	}
	s.doc, s.cost = d.Settled(), cost.Plus(time).Plus(c.unevenness(d))
	s.total = s.cost.Total()
	return s
}

// taught tells whether some party must be taught its move.
func (c *composer) taught(entries map[people.Party]circuit.Entry) bool {
	for _, p := range c.parties {
		if v, ok := c.Library.Get(entries[p.id].Variant); ok && c.judges[p.id].Taught(v) {
			return true
		}
	}
	return false
}

// MostTaught is how many moves a party is taught in a class: three, two under a quarter
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

// overTaught tells whether some party would have to be taught more moves than it takes
// in, those that are pinned aside. A squat and a hinge come first in a first class.
func (c *composer) overTaught(d circuit.Single) bool {
	for _, p := range c.parties {
		n, free := map[string]bool{}, false
		for _, s := range c.around(d).Slots() {
			if v, ok := c.Library.Get(s.Entries[p.id].Variant); ok && c.judges[p.id].Taught(v) {
				n[v.ID] = true
				free = free || !s.Pinned
			}
		}
		if free && len(n) > MostTaught(c.Minutes) {
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
		if s := longer.fewest(longer.assemble(places, pick), 1); !math.IsInf(s.total, 1) {
			return []why.Why{why.Of(why.RelaxMinutes, why.Arithmetic, why.N("minutes", longer.Minutes))}
		}
	}
	return []why.Why{why.Of(why.RelaxBans, why.Typed)}
}

// mostMinutes is the longest class there is.
const mostMinutes = 240
