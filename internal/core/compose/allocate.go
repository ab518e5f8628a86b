package compose

import (
	"math"
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/room"
)

// allocate checks a combination against the kit and gives the entries; by repetitions
// the lanes' sets are brought together, and apart is what it costs where they are not.
func (c *composer) allocate(
	cands [][]candidate,
	pick []int,
	waves int,
) (entries map[moves.Lane]circuit.Entry, apart float64, ok bool) {
	tally := room.Tally{}
	entries = map[moves.Lane]circuit.Entry{}
	for i, l := range c.lanes {
		x := cands[i][pick[i]]
		users := room.PerWave(l.People, waves)
		way := slices.IndexFunc(x.ways, func(way []string) bool {
			need := map[string]int{}
			for _, id := range way {
				need[id] += users
			}
			for id, n := range need {
				if tally[id]+n > c.Stock.Pieces(id) {
					return false
				}
			}
			return true
		})
		if way < 0 {
			return nil, 0, false
		}
		e := x.made
		e.Anchors = append([]string{}, x.ways[way]...)
		tally.Take(users, e.Load, e.Anchors)
		entries[l.Lane] = e
	}
	if len(tally.Shorts(c.Stock)) > 0 {
		return nil, 0, false
	}
	if c.Format == circuit.Reps && !together(entries, c.Library) {
		apart = c.aim.Apart
	}
	return entries, apart, true
}

// together brings the sets of a slot's lanes to within plan.WaitMost of each other by their
// counts, within the ranges, as near as can be to what they were; false where no counts
// do.
func together(entries map[moves.Lane]circuit.Entry, lib *moves.Library) bool {
	type lane struct {
		id        moves.Lane
		e         circuit.Entry
		low, high int
	}
	var all []lane
	for _, id := range moves.Lanes {
		e, ok := entries[id]
		v, known := lib.Get(e.Variant)
		if !ok || !known {
			continue
		}
		x := lane{id, e, min(v.RepsLow, e.Reps), max(v.RepsHigh, e.Reps)}
		for x.high > x.low && measure.Span(x.high)*e.ReadTempo().PerRep() > plan.LongSide {
			x.high--
		}
		all = append(all, x)
	}
	at := func(x lane, n int) measure.Span { return plan.SetOf(1, x.e).ByReps(n).Work }
	best, counts := math.MaxInt, []int(nil)
	for _, s := range all {
		for n := s.low; n <= s.high; n++ {
			from := at(s, n)
			off, try := 0, []int{}
			for _, x := range all {
				near, found := 0, false
				for k := x.low; k <= x.high; k++ {
					if t := at(x, k); t >= from && t <= from+plan.WaitMost &&
						(!found || apart(k, x.e.Reps) < apart(near, x.e.Reps)) {
						near, found = k, true
					}
				}
				if !found {
					off = math.MaxInt
					break
				}
				off += apart(near, x.e.Reps)
				try = append(try, near)
			}
			if off < best {
				best, counts = off, try
			}
		}
	}
	for i, n := range counts {
		e := all[i].e
		e.Reps = n
		entries[all[i].id] = e
	}
	return len(all) == 0 || counts != nil
}

func apart(a, b int) int { return max(a-b, b-a) }
