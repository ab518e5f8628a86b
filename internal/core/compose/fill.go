package compose

import (
	"math"
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/plan"
)

// mostRounds is how many sets of a move the class takes: 3 for Ground and in a move's
// first two classes, 4 for Middle, 6 for Reach; the lowest lane counts, since rounds are
// shared (house).
func (c *composer) mostRounds(d circuit.Single) int {
	most := mostSets[moves.Reach]
	if aim := goal.Of(c.Goal); aim.SetsHigh > 0 {
		most = min(most, aim.SetsHigh)
	}
	for _, p := range c.parties {
		most = min(most, mostSets[p.Lane])
		for _, s := range d.Slots {
			if v, ok := c.Library.Get(s.Entries[p.id].Variant); ok && c.judges[p.id].Fresh(v) {
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
		return measure.Span(c.Minutes)*measure.Minute - plan.Length(c.around(s.doc), c.Context)
	}
	used := map[string]bool{}
	note := func(d circuit.Single) {
		for _, id := range circuit.Moves(c.around(d)) {
			used[id] = true
		}
	}
	note(s.doc)
	extra := more
	if own := c.Template.Places(c.Pattern); own != nil {
		extra = own[min(len(own), usualPlaces):]
	}
	for _, patterns := range extra {
		if left(s) < worthAdding || s.doc.Rounds < c.mostRounds(s.doc) || len(s.doc.Slots) >= circuit.MaxSlots {
			break
		}
		other := *c
		for id := range used {
			other.Bans = append(slices.Clone(other.Bans), id)
		}
		fresh := other.Brief.composer(c.work)
		if c.Layout == circuit.Stations {
			fresh.stations = len(s.doc.Slots) + 1
			fresh.elsewhere = c.AtStations(circuit.Block{Slots: s.doc.Slots}, fresh.stations)
		}
		pl := fresh.place(patterns, false)
		pl.extra = true
		places, best := append(slices.Clone(s.places), pl), s
		for n, option := range pl.options {
			if option.total > worthDoing*float64(len(c.parties)) {
				continue
			}
			x := c.assemble(places, append(slices.Clone(s.choice), n))
			if !math.IsInf(x.total, 1) && x.doc.Rounds >= s.doc.Rounds && left(x) < left(best) {
				best = x
				break // options stand by pattern and waves: the first that fits will do
			}
		}
		s = best
		note(s.doc)
	}
	if left(s) >= worthAdding {
		if d, time, ok := c.fill(s.doc, []measure.Span{s.doc.WorkMs}, longRests); ok {
			s.doc = d.Settled()
			for _, t := range []Term{Work, Rest, Pause, Rounds, Left} {
				s.cost[t] = time[t]
			}
		}
	}
	return s
}

// beside is the document that a circuit which is filled stands in, and which block it is.
type beside struct {
	circuit.Document
	block int
}

// around gives the document that a circuit is timed in: one of its own with the blocks that
// stay, or with what stands beside it.
func (c *composer) around(d circuit.Single) circuit.Document {
	if c.beside == nil {
		return c.pins.among(d.Document())
	}
	out := c.beside.Document.Clone()
	x := out.Blocks[c.beside.block].Scheme.Circuit
	x.WorkMs, x.RestMs, x.Rounds, x.RoundRestMs = d.WorkMs, d.RestMs, d.Rounds, d.RoundRestMs
	return out
}

// What is tried.
var (
	tryWork      = seconds(30, 35, 40, 45)
	usualRests   = seconds(10, 15, 20, 25, 30)
	longRests    = seconds(30, 40, 60, 75, 90, 120)
	tryRoundRest = seconds(30, 60, 90, 120, 180)
)

func seconds(all ...measure.Span) []measure.Span {
	for i := range all {
		all[i] *= measure.Second
	}
	return all
}

// within gives the rests that the goal takes of some; its usual one where it takes none.
func (c *composer) within(rests []measure.Span) []measure.Span {
	aim := goal.Of(c.Goal)
	if aim.Scheme == "" {
		return rests
	}
	out := slices.DeleteFunc(
		slices.Clone(rests),
		func(r measure.Span) bool { return r < aim.RestLow || r > aim.RestHigh },
	)
	if len(out) == 0 {
		out = append(out, aim.Rest)
	}
	return out
}

// fill chooses rounds, work and rest for a document so that it fits the minutes
// and comes nearest to the house's habits; ok is false when nothing fits.
func (c *composer) fill(d circuit.Single, works, rests []measure.Span) (circuit.Single, Cost, bool) {
	bare := d
	bare.RestMs = 0
	frame := plan.Open(c.around(bare), c.Context)
	if d.Format == circuit.Reps {
		works = []measure.Span{usualWork}
	}
	class, mostRounds := measure.Span(c.Minutes)*measure.Minute, c.mostRounds(d)
	best, least, found, bestLeft := d, math.Inf(1), false, measure.Span(0)
	for _, rest := range c.within(rests) {
		for _, work := range works {
			round := frame.Round(work, rest)
			for rounds := 1; rounds <= mostRounds; rounds++ {
				cost := c.objective.work(work) + c.objective.rest(rest) + c.objective.rounds(c.Minutes, rounds)
				for _, pause := range tryRoundRest {
					left := class - frame.Total(rounds, round, pause)
					if left < 0 {
						break
					}
					if x := cost + c.objective.pause(pause) + c.objective.left(left); x < least {
						best.Rounds, best.WorkMs, best.RestMs, best.RoundRestMs = rounds, work, rest, pause
						least, found, bestLeft = x, true, left
					}
				}
			}
		}
	}
	return best, c.objective.Fill(c.Minutes, best.Rounds, best.WorkMs, best.RestMs, best.RoundRestMs, bestLeft), found
}
