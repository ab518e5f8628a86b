package compose

import (
	"math"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/room"
)

// allocation deals the kit out to parties, one after the other.
type allocation struct {
	*composer
	cands [][]candidate
	waves int
	tally room.Tally
	ways  []int // that were chosen for the supports
}

// take gives a party what a candidate needs, on the first supports that are free; false
// where the kit does not cover it beside those before.
func (a *allocation) take(i int, x candidate) (way int, ok bool) {
	for way, supports := range x.ways {
		a.hold(a.parties[i].n, x, supports)
		if a.tally.Covered(a.Stock, a.waves) {
			a.ways = append(a.ways[:i], way)
			return way, true
		}
		a.giveBack(i, x, way)
	}
	return 0, false
}

func (a *allocation) giveBack(i int, x candidate, way int) {
	a.hold(-a.parties[i].n, x, x.ways[way])
}

// hold takes what people need, or gives it back; who shares a station shares what stands
// there.
func (a *allocation) hold(n int, x candidate, supports []string) {
	if a.stations == 0 {
		a.tally.Take(n, x.made.Load, supports)
		return
	}
	a.tally.Take(n, x.made.Load, nil)
	for _, id := range supports {
		users := n
		if a.Stays(id) {
			users = min(1, max(-1, n))
		}
		a.tally.Take(users, kit.Nothing, []string{id})
	}
}

// entries are what the parties do who were all given what they need; by repetitions their
// sets are brought together, and apart is what it costs where they are not.
func (a *allocation) entries(pick []int) (entries map[people.Party]circuit.Entry, apart float64) {
	entries = map[people.Party]circuit.Entry{}
	for i, p := range a.parties {
		x := a.cands[i][pick[i]]
		e := x.made
		e.Anchors = append([]string{}, x.ways[a.ways[i]]...)
		entries[p.id] = e
	}
	if a.Format == circuit.Reps && !together(entries, a.Library) {
		apart = a.objective.Apart
	}
	return entries, apart
}

// together brings the sets of a slot's parties to within plan.WaitMost of each other by their
// counts, within the ranges, as near as can be to what they were; false where no counts
// do.
func together(entries map[people.Party]circuit.Entry, lib *moves.Library) bool {
	type counted struct {
		id        people.Party
		e         circuit.Entry
		low, high int
	}
	var all []counted
	for _, id := range people.Parties(entries) {
		e, ok := entries[id]
		v, known := lib.Get(e.Variant)
		if !ok || !known {
			continue
		}
		x := counted{id, e, min(v.RepsLow, e.Dose.Low), max(v.RepsHigh, e.Dose.High)}
		for x.high > x.low && measure.Span(x.high)*e.PerRep(lib) > plan.LongSide {
			x.high--
		}
		all = append(all, x)
	}
	at := func(x counted, n int) measure.Span { return plan.SetOf(1, x.e, lib).ByReps(n).Work }
	best, counts := math.MaxInt, []int(nil)
	for _, s := range all {
		for n := s.low; n <= s.high; n++ {
			from := at(s, n)
			off, try := 0, []int{}
			for _, x := range all {
				near, found := 0, false
				for k := x.low; k <= x.high; k++ {
					if t := at(x, k); t >= from && t <= from+plan.WaitMost &&
						(!found || apart(k, x.e.Dose.High) < apart(near, x.e.Dose.High)) {
						near, found = k, true
					}
				}
				if !found {
					off = math.MaxInt
					break
				}
				off += apart(near, x.e.Dose.High)
				try = append(try, near)
			}
			if off < best {
				best, counts = off, try
			}
		}
	}
	for i, n := range counts {
		e := all[i].e
		e.Dose = circuit.Times(n)
		entries[all[i].id] = e
	}
	return len(all) == 0 || counts != nil
}

func apart(a, b int) int { return max(a-b, b-a) }
