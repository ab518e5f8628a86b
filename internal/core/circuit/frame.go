package circuit

import "nimbleanvil/internal/core/measure"

// frame is what a class's length depends on beside rounds, work and rest; it adds
// up to what the running order takes, without laying it out.
type frame struct {
	// fixed is lead-in, prep, teaching and close.
	fixed measure.Span
	// handOvers of one round, and its sets: intervals of one length by the clock,
	// sets of their own lengths by repetitions.
	handOvers, sets measure.Span
	intervals       int
	// changes are the longest change-overs between slots.
	changes []measure.Span
}

func frameOf(d Document, c Context) frame {
	f := frame{fixed: d.LeadInMs + PrepTime(c.Minutes) + CloseTime(c.Minutes)}
	bare := d
	bare.RestMs = 0
	for i, s := range d.Slots {
		f.fixed += learnTime(s, c.Library)
		f.handOvers += handOver * measure.Span(s.Waves-1)
		long := longestSet(d, s, c)
		if d.Format == Reps {
			f.sets += long * measure.Span(s.Waves)
		} else if long > 0 {
			f.intervals += s.Waves
		}
		if i < len(d.Slots)-1 {
			change, _, _ := restBetween(bare, s, d.Slots[i+1], c)
			f.changes = append(f.changes, change)
		}
	}
	return f
}

// rests adds up the rests of a round, each grown where its change-over is longer.
func (f frame) rests(rest measure.Span) measure.Span {
	var sum measure.Span
	for _, change := range f.changes {
		sum += max(change, rest)
	}
	return sum
}

// total gives the length of a class.
func (f frame) total(rounds int, work, rest, pause measure.Span) measure.Span {
	round := f.handOvers + f.sets + measure.Span(f.intervals)*work + f.rests(rest)
	r := measure.Span(rounds)
	return f.fixed + r*round + (r-1)*pause
}

// length gives how long a document takes.
func length(d Document, c Context) measure.Span {
	return frameOf(d, c).total(d.Rounds, d.WorkMs, d.RestMs, d.RoundRestMs)
}

// longestSet gives the time of a slot's slowest lane.
func longestSet(d Document, s Slot, c Context) measure.Span {
	var long measure.Span
	for _, l := range c.Lanes {
		if e, ok := s.Lanes[l.Lane]; ok && l.People > 0 {
			long = max(long, timeSet(d, e).work)
		}
	}
	return long
}
