package circuit

import (
	"math"
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

// mostRounds is how many sets of a move the class takes: 3 for Ground and in a move's
// first two classes, 4 for Middle, 6 for Reach; the lowest lane counts, since rounds are
// shared (house).
func (c *composer) mostRounds(d Document) int {
	most := mostSets[moves.Reach]
	for _, l := range c.lanes {
		most = min(most, mostSets[l.Lane])
		for _, s := range d.Slots {
			if v, ok := c.Library.Get(s.Lanes[l.Lane].Variant); ok && c.judges[l.Lane].Fresh(v) {
				most = min(most, mostFreshSets)
			}
		}
	}
	return most
}

var mostSets = map[moves.Lane]int{moves.Ground: 3, moves.Middle: 4, moves.Reach: 6}

const mostFreshSets = 3

// lengthen uses the minutes that are left once the rounds are at their most: places of
// other moves, then longer rests.
func (c *composer) lengthen(s state) state {
	left := func(s state) measure.Span {
		return measure.Span(c.Minutes)*measure.Minute - length(s.doc, c.Context)
	}
	used := map[string]bool{}
	note := func(d Document) {
		for _, id := range Moves(d) {
			used[id] = true
		}
	}
	note(s.doc)
	for _, patterns := range more {
		if left(s) < worthAdding || s.doc.Rounds < c.mostRounds(s.doc) || len(s.doc.Slots) >= MaxSlots {
			break
		}
		other := *c
		for id := range used {
			other.Bans = append(slices.Clone(other.Bans), id)
		}
		fresh := other.Brief.composer(c.work)
		pl := fresh.place(patterns, false)
		pl.extra = true
		places, best := append(slices.Clone(s.places), pl), s
		for n, option := range pl.options {
			if option.cost > worthDoing*float64(len(c.lanes)) {
				continue
			}
			x := c.assemble(places, append(slices.Clone(s.choice), n))
			if !math.IsInf(x.cost, 1) && x.doc.Rounds >= s.doc.Rounds && left(x) < left(best) {
				best = x
				break // options stand by pattern and waves: the first that fits will do
			}
		}
		s = best
		note(s.doc)
	}
	if left(s) >= worthAdding {
		if d, _, ok := fill(s.doc, c.Context, c.mostRounds(s.doc), []measure.Span{s.doc.WorkMs / measure.Second}, longRests); ok {
			s.doc = d.settled()
		}
	}
	return s
}

// What a class looks like when time is no object (house), and what it costs to
// leave that: per round, per second of work and rest, and for minutes not used.
var (
	tryWork      = []measure.Span{30, 35, 40, 45}
	usualRests   = []measure.Span{10, 15, 20, 25, 30}
	longRests    = []measure.Span{30, 40, 60, 75, 90, 120}
	tryRoundRest = []measure.Span{30, 60, 90, 120, 180}
)

func fillCost(minutes, rounds int, work, rest, roundRest, slack measure.Span) float64 {
	away := func(a, b measure.Span) float64 { return math.Abs(float64(a - b)) }
	cost := 0.5*away(work, 40) + 0.3*away(rest, 20) + 0.05*away(roundRest, 60)
	if rounds < 3 {
		cost += 12 * float64(3-rounds)
	}
	if work < 40 {
		cost += 2 * float64(40-work) // a set cut short falls under its dose
	}
	if rounds == 1 {
		cost += 40 * max(1, float64(minutes)/shortMinutes)
	}
	return cost + 0.04*float64(slack)/1000
}

// fill chooses rounds, work and rest for a document so that it fits the minutes
// and comes nearest to the house's habits; ok is false when nothing fits.
func fill(d Document, c Context, mostRounds int, works, rests []measure.Span) (Document, float64, bool) {
	f := frameOf(d, c)
	if d.Format == Reps {
		works = []measure.Span{40}
	}
	best, bestCost, found := d, math.Inf(1), false
	class := measure.Span(c.Minutes) * measure.Minute
	for _, rest := range rests {
		fixed, changes := f.handOvers+f.sets, f.rests(rest*measure.Second)
		for _, work := range works {
			round := fixed + changes + measure.Span(f.intervals)*work*measure.Second
			for rounds := 1; rounds <= mostRounds; rounds++ {
				for _, pause := range tryRoundRest {
					r := measure.Span(rounds)
					slack := class - f.fixed - r*round - (r-1)*pause*measure.Second
					if slack < 0 {
						break
					}
					if cost := fillCost(c.Minutes, rounds, work, rest, pause, slack); cost < bestCost {
						best.Rounds, best.WorkMs, best.RestMs, best.RoundRestMs = rounds, work*measure.Second, rest*measure.Second, pause*measure.Second
						bestCost, found = cost, true
					}
				}
			}
		}
	}
	return best, bestCost, found
}
