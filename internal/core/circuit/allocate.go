package circuit

import (
	"math"
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/room"
)

// allocate checks a combination against the kit and gives the entries; by repetitions
// the lanes' sets are brought together, and apart is what it costs where they are not.
func (c *composer) allocate(
	cands [][]candidate,
	pick []int,
	waves int,
) (entries map[moves.Lane]Entry, apart float64, ok bool) {
	tally := room.Tally{}
	entries = map[moves.Lane]Entry{}
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
	if c.Format == Reps && !together(entries, c.Library) {
		apart = apartCost
	}
	return entries, apart, true
}

// entryFor writes a choice down as a lane's version, with the set it makes.
func (b Brief) entryFor(j *choice.Judge, x choice.Entry) Entry {
	v := x.Variant
	dose := j.Dose(x)
	e := Entry{
		Variant: v.ID,
		Hold:    x.Hold,
		Load:    x.Load,
		Anchors: append([]string{}, x.Supports...),
		Tempo:   dose.Tempo,
		Reps:    min(dose.Reps, MaxReps),
		Sides:   BothSides,
	}
	switch {
	case v.Sides == moves.Alternating || v.InTurn:
		e.Sides = TurnByTurn
	case v.Sides == moves.PerSide:
		e.Sides = Split
		if b.Format == Timed && splitCount(v, j.Work) < v.RepsLow {
			e.Sides = ByRound
		}
	}
	return e
}

// together brings the sets of a slot's lanes to within waitMost of each other by their
// counts, within the ranges, as near as can be to what they were; false where no counts
// do.
func together(entries map[moves.Lane]Entry, lib *moves.Library) bool {
	type lane struct {
		id        moves.Lane
		e         Entry
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
		for x.high > x.low && measure.Span(x.high)*tempoOf(e).PerRep() > longSide {
			x.high--
		}
		all = append(all, x)
	}
	at := func(x lane, n int) measure.Span {
		x.e.Reps = n
		return x.e.byReps(Document{Format: Reps}, tempoOf(x.e).PerRep()).work
	}
	best, counts := math.MaxInt, []int(nil)
	for _, s := range all {
		for n := s.low; n <= s.high; n++ {
			from := at(s, n)
			off, try := 0, []int{}
			for _, x := range all {
				near, found := 0, false
				for k := x.low; k <= x.high; k++ {
					if t := at(x, k); t >= from && t <= from+waitMost &&
						(!found || abs(k-x.e.Reps) < abs(near-x.e.Reps)) {
						near, found = k, true
					}
				}
				if !found {
					off = math.MaxInt
					break
				}
				off += abs(near - x.e.Reps)
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

func abs(n int) int { return max(n, -n) }

// waitMost is how far apart the lanes' sets of a slot may end by repetitions, longSide
// how long a side of a set may be before it is questioned, and longUnit the same for
// chains, complexes and get-ups (house).
const (
	waitMost = 30 * measure.Second
	longSide = 90 * measure.Second
	longUnit = 180 * measure.Second
)
