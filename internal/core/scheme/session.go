package scheme

import "nimbleanvil/internal/core/measure"

// Kind is what a stretch of a session is for.
type Kind string

// The kinds of stretches, in the order in which a session usually comes to them. A change
// of sides is within work, for the party that changes, or of a chain for all; a pause
// stands between two blocks.
const (
	LeadIn    Kind = "lead-in"
	Prep      Kind = "prep"
	Learn     Kind = "learn"
	Work      Kind = "work"
	Change    Kind = "change-sides"
	HandOver  Kind = "hand-over"
	Rest      Kind = "rest"
	RoundRest Kind = "round-rest"
	Pause     Kind = "pause"
	Close     Kind = "close"
)

// Kinds lists them all.
var Kinds = []Kind{LeadIn, Prep, Learn, Work, Change, HandOver, Rest, RoundRest, Pause, Close}

// Name is a scheme: how the sets of a block follow one another.
type Name string

// The schemes. A circuit does one set of each slot in turn, straight sets all sets of a
// slot before the next, a superset its slots back to back with the rest after the group; a
// chain goes from part to part without setting the weight down, an interval begins a set
// every so often, a window takes as many rounds as go; a ladder has counts that rise or
// fall, a drop stages of falling difficulty without rest, and called work is read out.
const (
	Circuit   Name = "circuit"
	Sets      Name = "sets"
	Superset  Name = "superset"
	Chain     Name = "chain"
	Interval  Name = "interval"
	Windowed  Name = "window"
	Ladder    Name = "ladder"
	Drop      Name = "drop"
	CalledOut Name = "called"
)

// Names lists them all.
var Names = []Name{Circuit, Sets, Superset, Chain, Interval, Windowed, Ladder, Drop, CalledOut}

// Session is a session as time sees it: blocks in their order. All that is said of how
// long it takes, and of where in it a second lies, follows from it.
type Session struct {
	LeadIn measure.Span
	Blocks []Block
}

// Block is a block as time sees it. Which numbers count depends on its scheme; one
// without a scheme is a stretch of the kind Plain, or teaching.
type Block struct {
	Scheme Name
	Plain  Kind
	// Length is that of a plain stretch, of a window and of called work.
	Length measure.Span
	// Learn is the teaching of moves, which may be those of later blocks.
	Learn []Lesson
	Slots []Slot
	// Rounds of a circuit, a superset or a chain, sets of straight sets and intervals, rungs
	// of a ladder.
	Rounds int
	// RoundRest follows every round but the last, and every rung.
	RoundRest measure.Span
	// RestAfterLast has the rest of the last slot of a circuit's round count too.
	RestAfterLast bool
	// Every is how far the sets of an interval are apart.
	Every measure.Span
	// Sides are those of a chain, 1 or 2, and SideChange the change between them.
	Sides      int
	SideChange measure.Span
	// Rotates has all slots of a circuit done at once, each by some of the people, who move on
	// to the next after every turn; MoveOn is what that takes.
	Rotates bool
	MoveOn  measure.Span
	// InTurn has partners take turns, of whom one works and one rests.
	InTurn bool
	// After is the pause before the next block.
	After measure.Span
}

// Lesson is how long the move of a slot is shown and tried. Slots are counted through all
// blocks from 0.
type Lesson struct {
	Slot int
	Long measure.Span
}

// Slot is one place in a block.
type Slot struct {
	// Waves take turns; each works, with HandOver between.
	Waves    int
	HandOver measure.Span
	// Works are one wave's work by round, set or rung; the last stands for all after it.
	Works []measure.Span
	// Rest stands between it and the next slot.
	Rest measure.Span
	// Sets and SetRest are those of straight sets: how many, and the rest between them.
	Sets    int
	SetRest measure.Span
}

// Work is one wave's work in a round, counted from 1.
func (s Slot) Work(round int) measure.Span {
	if len(s.Works) == 0 {
		return 0
	}
	return s.Works[min(round, len(s.Works))-1]
}

// Stretch is a piece of a session, the same for everybody in it.
type Stretch struct {
	Kind        Kind
	From, Until measure.Span
	// Block is its index, -1 for the lead-in. Slot counts through all blocks, and is the one
	// to come where it is a rest; -1 for none, or for all of a window. Rounds, which are sets
	// or rungs too, and waves count from 1, 0 is none.
	Block, Slot, Round, Wave int
	// Turn counts the turns of a round from 1 where people rotate.
	Turn int
	// Side is that of a pass of a chain, nothing elsewhere.
	Side Side
}

// Stretches lays a session out from its first second to its last, without gaps; what takes
// no time is left out. The cost is linear in rounds, slots and waves.
func (s Session) Stretches() []Stretch {
	var out []Stretch
	now := measure.Span(0)
	s.each(func(x Stretch, long measure.Span) {
		if long > 0 {
			x.From, x.Until = now, now+long
			now = x.Until
			out = append(out, x)
		}
	})
	return out
}

// each gives every stretch with how long it is.
func (s Session) each(put func(Stretch, measure.Span)) {
	put(Stretch{Kind: LeadIn, Block: -1, Slot: -1}, s.LeadIn)
	first := 0
	for i, b := range s.Blocks {
		b.each(Stretch{Block: i, Slot: -1}, first, put)
		first += len(b.Slots)
		if next := i + 1; next < len(s.Blocks) {
			to := -1
			if len(s.Blocks[next].Slots) > 0 {
				to = first
			}
			put(Stretch{Kind: Pause, Block: i, Slot: to}, b.After)
		}
	}
}

// each gives the stretches of a block whose first slot has this number.
func (b Block) each(at Stretch, first int, put func(Stretch, measure.Span)) {
	l := layer{b, at, first, put}
	if b.Rotates {
		l.stations()
		return
	}
	switch b.Scheme {
	case Sets:
		l.sets()
	case Chain:
		l.chain()
	case Interval:
		l.interval()
	case Windowed:
		l.wave(-1, b.Length)
	case CalledOut:
		l.wave(0, b.Length)
	case Circuit, Superset, Ladder, Drop:
		l.rounds()
	default:
		for _, x := range b.Learn {
			l.put(Stretch{Kind: Learn, Block: at.Block, Slot: x.Slot}, x.Long)
		}
		l.stretch(b.Plain, -1, 0, b.Length)
	}
}

// layer lays out one block.
type layer struct {
	Block
	at    Stretch
	first int
	put   func(Stretch, measure.Span)
}

func (l layer) stretch(kind Kind, slot, round int, long measure.Span) {
	x := l.at
	x.Kind, x.Round = kind, round
	if 0 <= slot && slot < len(l.Slots) { // a block may have none yet
		x.Slot = l.first + slot
	}
	l.put(x, long)
}

// work lays out the waves of a slot's set.
func (l layer) work(slot, round int) {
	s := l.Slots[slot]
	for wave := 1; wave <= s.Waves; wave++ {
		l.at.Wave = wave
		l.stretch(Work, slot, round, s.Work(round))
		if wave < s.Waves {
			l.stretch(HandOver, slot, round, s.HandOver)
		}
	}
}

// wave lays out work that has one length whatever is in it, wave by wave.
func (l layer) wave(slot int, long measure.Span) {
	waves, handOver := l.waves()
	for wave := 1; wave <= waves; wave++ {
		l.at.Wave = wave
		l.stretch(Work, slot, 1, long)
		if wave < waves {
			l.stretch(HandOver, slot, 1, handOver)
		}
	}
}

// waves are those of a block whose slots are done in one go.
func (l layer) waves() (n int, handOver measure.Span) {
	n = 1
	for _, s := range l.Slots {
		n, handOver = max(n, s.Waves), max(handOver, s.HandOver)
	}
	return n, handOver
}

func (l layer) rounds() {
	for round := 1; round <= l.Rounds; round++ {
		for i, s := range l.Slots {
			l.work(i, round)
			if next := i + 1; next < len(l.Slots) || l.RestAfterLast {
				l.stretch(Rest, next%len(l.Slots), round, s.Rest)
			}
		}
		if round < l.Rounds {
			l.stretch(RoundRest, 0, round, l.RoundRest)
		}
	}
}

// stations lays out a circuit in which people rotate: as many turns a round as there are
// slots, each as long as the longest of them, and after every turn the way on to the next; to
// the first of another round in the rest between them.
func (l layer) stations() {
	for round := 1; round <= l.Rounds; round++ {
		long := l.longest(round)
		for turn := 1; turn <= len(l.Slots); turn++ {
			l.at.Turn = turn
			l.stretch(Work, -1, round, long)
			if turn == len(l.Slots) && round < l.Rounds {
				l.stretch(RoundRest, -1, round, max(l.RoundRest, l.MoveOn))
			} else {
				l.stretch(Rest, -1, round, l.MoveOn)
			}
		}
	}
}

// longest is what the slot that takes longest takes in a round, all its waves.
func (b Block) longest(round int) measure.Span {
	long := measure.Span(0)
	for _, s := range b.Slots {
		long = max(long, s.takes(s.Work(round)))
	}
	return long
}

func (l layer) sets() {
	for i, s := range l.Slots {
		for set := 1; set <= s.Sets; set++ {
			l.work(i, set)
			if set < s.Sets {
				l.stretch(Rest, i, set, s.SetRest)
			}
		}
		if next := i + 1; next < len(l.Slots) {
			l.stretch(Rest, next, s.Sets, s.Rest)
		}
	}
}

func (l layer) chain() {
	waves, handOver := l.waves()
	for round := 1; round <= l.Rounds; round++ {
		for wave := 1; wave <= waves; wave++ {
			l.at.Wave = wave
			l.pass(round)
			if wave < waves {
				l.stretch(HandOver, 0, round, handOver)
			}
		}
		l.at.Wave = 0
		if round < l.Rounds {
			l.stretch(RoundRest, 0, round, l.RoundRest)
		}
	}
}

// pass lays out the parts of a chain, one side after the other.
func (l layer) pass(round int) {
	for side := 1; side <= l.Sides; side++ {
		switch {
		case l.Sides == 1:
			l.at.Side = ""
		case side == 1:
			l.at.Side = Left
		default:
			l.stretch(Change, 0, round, l.SideChange)
			l.at.Side = Right
		}
		for i, s := range l.Slots {
			l.stretch(Work, i, round, s.Work(round))
		}
	}
}

func (l layer) interval() {
	for set := 1; set <= l.Rounds; set++ {
		left := l.Every
		for i, s := range l.Slots {
			l.work(i, set)
			left -= s.takes(s.Work(set))
		}
		l.stretch(Rest, 0, set, left)
	}
}

// Times are how long a session or a block takes, by kind.
type Times map[Kind]measure.Span

// Total adds them up.
func (t Times) Total() measure.Span {
	var sum measure.Span
	for _, long := range t {
		sum += long
	}
	return sum
}

// Working is what of them is work, the changes of sides of a chain among it.
func (t Times) Working() measure.Span { return t[Work] + t[Change] }

// Times adds up what Stretches lays out.
func (s Session) Times() Times {
	t := Times{}
	s.each(func(x Stretch, long measure.Span) { t[x.Kind] += max(0, long) })
	return t
}

// Times adds up what a block takes, without the pause after it.
func (b Block) Times() Times {
	t := Times{}
	b.each(Stretch{}, 0, func(x Stretch, long measure.Span) { t[x.Kind] += max(0, long) })
	return t
}

// Frame is a session with a circuit of which rounds, work, rest and the pause between
// rounds are still to be chosen: many choices of them are added up at little cost.
type Frame struct {
	fixed measure.Span // all that stands around the rounds
	// block has the least rest there must be after each slot, grown where the one chosen is
	// longer.
	block   Block
	byClock bool
}

// Open gives what stays of a session where rounds, rest and pause of a circuit in it are to
// be chosen, and where byClock says so work too.
func (s Session) Open(block int, byClock bool) Frame {
	b := s.Blocks[block]
	return Frame{s.Times().Total() - b.Times().Total(), b, byClock}
}

// Round is one round of a frame: how long it takes, the least pause after it, and what
// follows the last one.
type Round struct{ long, least, last measure.Span }

// Round gives how long one round takes.
func (f Frame) Round(work, rest measure.Span) Round {
	sum, longest := measure.Span(0), measure.Span(0)
	for i, x := range f.block.Slots {
		one := x.Work(1)
		if f.byClock && one > 0 {
			one = work
		}
		all := x.takes(one)
		sum, longest = sum+all, max(longest, all)
		if i+1 < len(f.block.Slots) && !f.block.Rotates {
			sum += max(x.Rest, f.block.RestOf(rest, one))
		}
	}
	if !f.block.Rotates {
		return Round{long: sum}
	}
	on, turns := max(f.block.MoveOn, rest), measure.Span(len(f.block.Slots))
	return Round{long: turns*longest + (turns-1)*on, least: on, last: on}
}

// Total gives how long the session takes in so many rounds with a pause between them.
func (f Frame) Total(rounds int, round Round, pause measure.Span) measure.Span {
	r := measure.Span(rounds)
	return f.fixed + r*round.long + (r-1)*max(pause, round.least) + round.last
}

// RestOf is what is left to rest after a set where partners take turns: the partner's set is
// rest too.
func (b Block) RestOf(planned, work measure.Span) measure.Span {
	if !b.InTurn {
		return planned
	}
	return max(0, planned-work-BetweenWaves)
}

// takes is how long all waves of a slot take where one works so long.
func (s Slot) takes(work measure.Span) measure.Span {
	return measure.Span(s.Waves)*work + measure.Span(s.Waves-1)*s.HandOver
}
