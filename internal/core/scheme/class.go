package scheme

import "nimbleanvil/internal/core/measure"

// Kind is what a stretch of a class is for.
type Kind string

// The kinds of stretches, in the order in which a class comes to them. A change of sides
// is within work, for the party that changes.
const (
	LeadIn    Kind = "lead-in"
	Prep      Kind = "prep"
	Learn     Kind = "learn"
	Work      Kind = "work"
	Change    Kind = "change-sides"
	HandOver  Kind = "hand-over"
	Rest      Kind = "rest"
	RoundRest Kind = "round-rest"
	Close     Kind = "close"
)

// Kinds lists them all.
var Kinds = []Kind{LeadIn, Prep, Learn, Work, Change, HandOver, Rest, RoundRest, Close}

// Class is a class as time sees it: rounds of slots, and what stands around them. All
// that is said of how long a class takes, and of where in it a second lies, follows from
// it.
type Class struct {
	LeadIn, Prep, Close, RoundRest measure.Span
	Rounds                         int
	Slots                          []Slot
	// RestAfterLast has the rest of the last slot of a round count too.
	RestAfterLast bool
}

// Slot is one place in a round.
type Slot struct {
	// Learn is how long its move is shown and tried before the first round.
	Learn measure.Span
	// Waves take turns; each works Work, with HandOver between.
	Waves          int
	Work, HandOver measure.Span
	// Rest stands between it and the next slot of the round.
	Rest measure.Span
}

// Stretch is a piece of a class, the same for everybody in it.
type Stretch struct {
	Kind        Kind
	From, Until measure.Span
	// Slot is an index, of the slot to come where it is a rest; -1 for none. Rounds and
	// waves count from 1, 0 is none.
	Slot, Round, Wave int
}

// Stretches lays a class out from its first second to its last, without gaps; what takes no
// time is left out. The cost is linear in rounds, slots and waves.
func (c Class) Stretches() []Stretch {
	var out []Stretch
	now := measure.Span(0)
	put := func(s Stretch, long measure.Span) {
		if long > 0 {
			s.From, s.Until = now, now+long
			now = s.Until
			out = append(out, s)
		}
	}
	put(Stretch{Kind: LeadIn, Slot: -1}, c.LeadIn)
	put(Stretch{Kind: Prep, Slot: -1}, c.Prep)
	for i, s := range c.Slots {
		put(Stretch{Kind: Learn, Slot: i}, s.Learn)
	}
	for round := 1; round <= c.Rounds; round++ {
		for i, s := range c.Slots {
			for wave := 1; wave <= s.Waves; wave++ {
				put(Stretch{Kind: Work, Slot: i, Round: round, Wave: wave}, s.Work)
				if wave < s.Waves {
					put(Stretch{Kind: HandOver, Slot: i, Round: round, Wave: wave}, s.HandOver)
				}
			}
			if next := i + 1; next < len(c.Slots) || c.RestAfterLast {
				put(Stretch{Kind: Rest, Slot: next % len(c.Slots), Round: round}, s.Rest)
			}
		}
		if round < c.Rounds {
			put(Stretch{Kind: RoundRest, Slot: min(0, len(c.Slots)-1), Round: round}, c.RoundRest)
		}
	}
	put(Stretch{Kind: Close, Slot: -1}, c.Close)
	return out
}

// Times are how long a class takes, by kind.
type Times map[Kind]measure.Span

// Total adds them up.
func (t Times) Total() measure.Span {
	var sum measure.Span
	for _, long := range t {
		sum += long
	}
	return sum
}

// Times adds up what Stretches lays out, without laying it out.
func (c Class) Times() Times {
	t := Times{LeadIn: c.LeadIn, Prep: c.Prep, Close: c.Close}
	rounds := measure.Span(c.Rounds)
	for i, s := range c.Slots {
		waves := measure.Span(s.Waves)
		t[Learn] += s.Learn
		t[Work] += rounds * waves * s.Work
		t[HandOver] += rounds * (waves - 1) * s.HandOver
		if i+1 < len(c.Slots) || c.RestAfterLast {
			t[Rest] += rounds * s.Rest
		}
	}
	t[RoundRest] = max(0, rounds-1) * c.RoundRest
	return t
}

// Frame is a class of which rounds, work, rest and the pause between rounds are still to
// be chosen: many choices of them are added up at little cost.
type Frame struct {
	fixed     measure.Span   // all that stands around the rounds
	sets      measure.Span   // of a round: hand-overs, and work that the choice does not set
	intervals int            // of a round: work that it does set
	changes   []measure.Span // the least rest after each slot but the last
}

// Open gives what stays of a class where rounds, rest and pause are to be chosen, and
// where byClock says so work too: the rest of its slots is the least there must be, grown
// where the one chosen is longer.
func (c Class) Open(byClock bool) Frame {
	f := Frame{fixed: c.LeadIn + c.Prep + c.Close}
	for i, s := range c.Slots {
		waves := measure.Span(s.Waves)
		f.fixed += s.Learn
		f.sets += (waves - 1) * s.HandOver
		switch {
		case !byClock:
			f.sets += waves * s.Work
		case s.Work > 0:
			f.intervals += s.Waves
		}
		if i+1 < len(c.Slots) {
			f.changes = append(f.changes, s.Rest)
		}
	}
	return f
}

// Round gives how long one round takes.
func (f Frame) Round(work, rest measure.Span) measure.Span {
	sum := f.sets + measure.Span(f.intervals)*work
	for _, change := range f.changes {
		sum += max(change, rest)
	}
	return sum
}

// Total gives how long the class takes, from how long a round does.
func (f Frame) Total(rounds int, round, pause measure.Span) measure.Span {
	r := measure.Span(rounds)
	return f.fixed + r*round + (r-1)*pause
}
