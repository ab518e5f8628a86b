package choice

import (
	"math"
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
)

// Term is one part of what an entry costs.
type Term struct {
	Term string  `json:"term"`
	Cost float64 `json:"cost"`
}

// What entries cost beside their marks (house): a point for each per cent short, more
// from 25 % and from 40 % on, so that a harder rung wins where there is one; two for
// each per cent over; a step in the list of first moves; a move that the log has left
// behind; something to be asked first.
const (
	farShortPct    = 25.0
	farTooLightPct = 40.0
	farShortCost   = 40.0
	overCost       = 2.0
	firstListCost  = 6.0
	firstShort     = 0.1 // of what a load is short in the first sessions, but for Ground
	doseCost       = 20.0
	noNumberCost   = 40.0 // among moves that have a number: nothing is won by having none
	leftBehindCost = 20.0
	askCost        = 3.0
	bareCost       = 25.0  // legs without a load, where strength is the goal
	teachCost      = 200.0 // for the share of the class that the teaching takes
	teachTime      = 90 * measure.Second
	usualClass     = 45 * measure.Minute
)

// FarTooLight tells whether a set is so far short that it must be said.
func FarTooLight(shortPct float64) bool { return shortPct > farTooLightPct }

// Cost gives what an entry costs the party, term by term, to a millionth. It follows
// from entry, party and class alone.
func (j *Judge) Cost(e Entry) []Term {
	v := e.Variant
	var out []Term
	add := func(name string, cost float64) {
		if c := measure.Round(cost, 6); c != 0 {
			out = append(out, Term{name, c})
		}
	}
	if ids, said := moves.Firsts(v.Pattern, j.Lane); said && j.Starting(v) && slices.Contains(ids, v.ID) {
		add("first", firstListCost*float64(slices.Index(ids, v.ID)))
	} else {
		add("mark", j.mark(v))
	}
	r := j.Reckon(e, j.Reps(v))
	if j.Starting(v) && j.Lane != moves.Ground {
		add("first", firstShort*max(0, -r.ResistancePct))
	}
	if n := j.Reps(v); n < v.RepsLow && j.Work > 0 { // an interval cuts it short; a goal means it
		add("dose", doseCost*float64(v.RepsLow-n)/float64(v.RepsLow))
	}
	if j.Aim.TrainedOnly && !j.novice(v) && e.Total == 0 && v.BodyShares() && v.Pattern.OfTheLegs() {
		add("aim", bareCost)
	}
	add("short", shortCost(r.ShortPct))
	if !r.Numbered && numbered(v.Pattern) {
		add("short", noNumberCost)
	}
	add("over", overCost*r.OverPct)
	if d, ok := j.Decision(v); ok && d.Advice == progress.NextRung {
		add("log", leftBehindCost)
	}
	add("ask", askCost*float64(len(j.Asks(e))))
	if j.Taught(v) {
		add("teach", teachCost*float64(teachTime)/float64(usualClass))
	}
	return out
}

// numbered tells whether the moves of a pattern are ranked by what they ask.
func numbered(p moves.Pattern) bool {
	switch p {
	case moves.TrunkBrace, moves.TrunkTurn, moves.Carry, moves.Mobility, moves.WholeBody:
		return false
	}
	return true
}

func shortCost(pct float64) float64 {
	cost := pct
	if pct > farShortPct {
		cost += farShortCost
	}
	if pct > farTooLightPct {
		cost += farShortCost
	}
	return cost
}

// mark is how far a move is from the lane's marks; the log moves them.
func (j *Judge) mark(v *moves.Variant) float64 {
	for _, d := range j.decisions {
		if d.To == v.ID && !d.Overruled {
			return 0
		}
	}
	if cost, ok := j.rungCost(v); ok {
		return cost
	}
	return moves.Mark(v, j.Library.OfPattern(v.Pattern), j.Lane)
}

// Total adds terms up.
func Total(terms []Term) float64 {
	sum := 0.0
	for _, t := range terms {
		sum += t.Cost
	}
	return math.Round(sum*1e6) / 1e6
}
