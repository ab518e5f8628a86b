package circuit

import (
	"fmt"
	"math"
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/why"
)

// Brief is what a proposal is asked for.
type Brief struct {
	Context
	Format Format
	// Bans are patterns, variants and limits to leave out.
	Bans []string
	// Known are moves and patterns that the group knows, whatever the log says.
	Known []string
	// Overruled is what the log says that the instructor sets aside.
	Overruled []Overruled
}

// Proposal is a circuit that fits, or what to relax so that one does.
type Proposal struct {
	Feasible bool
	Document Document
	// Notes say what had to be left out or replaced, and what of the kit is not used.
	Notes []why.Why
	// Relax names, when nothing fits, each single thing that would help.
	Relax []why.Why
}

// DefaultBody and DefaultStature are whom a lane without named people is computed
// for.
const (
	DefaultBody    measure.Mass   = 70_000
	DefaultStature measure.Length = 1700
)

func slotID(n int) string { return fmt.Sprintf("s%d", n) }

// template are the places of a circuit; each lists the patterns that may stand there.
// A longer class gets the places of more besides.
var (
	template = [][]moves.Pattern{
		{moves.Squat},
		{moves.Pull},
		{moves.Bridge},
		{moves.PushLevel, moves.PushOverhead},
		{moves.Lunge, moves.Lateral},
		{moves.TrunkTurn, moves.TrunkBrace, moves.Carry},
		{moves.Hinge},
	}
	more = [][]moves.Pattern{
		{moves.Lateral, moves.Lunge},
		{moves.PushOverhead, moves.PushLevel},
		{moves.TrunkBrace, moves.Carry, moves.TrunkTurn},
		{moves.Bridge, moves.Hinge},
		{moves.Pull},
		{moves.Squat, moves.Lunge},
		{moves.Carry, moves.TrunkBrace, moves.TrunkTurn},
	}
)

// dropCost is what it costs to leave a place of the template out of a short class
// (house): trunk first, then bridge and lunge, squat and hinge last; more by the length of
// a class that is longer than shortMinutes.
var dropCost = map[moves.Pattern]float64{
	moves.TrunkTurn: 10,
	moves.Bridge:    15,
	moves.Lunge:     16,
	moves.PushLevel: 21,
	moves.Pull:      22,
	moves.Hinge:     24,
	moves.Squat:     26,
}

const shortMinutes = 20.0

// What a circuit costs beside its entries (house).
const (
	leadIn      = 10 * measure.Second
	usualWork   = 40 * measure.Second
	bestPerLane = 10 // candidates of a lane that are combined
	perVariant  = 2  // of them of one variant
	mostWaves   = 3
	// waitCost is what it costs each lane to let half of a class wait its turn.
	waitCost = 60.0
	// fewSlots is the fewest places that make a circuit, fewCost what each one under
	// costs.
	fewSlots = 4
	fewCost  = 30.0
	// asGoodAs is how near the best an entry must be to take its turn; turnCost is what
	// it costs for each class that it was used later, never as much as asGoodAs in all.
	asGoodAs = 2.0
	turnCost = asGoodAs / (progress.LastClasses + 1)
	// sameCost keeps lanes from all doing the same; whose turn it is goes before.
	sameCost = 0.1
	// apartCost is for lanes that would wait for each other by repetitions.
	apartCost  = 30.0
	unevenCost = 25.0
	linkCost   = 5.0
	// worthDoing is what another place may cost a lane at most, so that nothing far too
	// light is added to fill minutes.
	worthDoing = 40.0
	// worthAdding is the time left over from which another place is added, endsEarly
	// the time left over that is said.
	worthAdding = 4 * measure.Minute
	endsEarly   = 5 * measure.Minute
)

// rotation is what it costs to take the pattern of a place again after one, two and
// three classes, where another may stand there.
var rotation = []float64{0, 6, 3, 1.5}

// composer makes one proposal: a judge a lane, and the places looked at.
type composer struct {
	Brief
	lanes  []LaneSpec
	judges map[moves.Lane]*choice.Judge
	// work is the interval that loads are reckoned for, works those in seconds that may
	// fill the minutes.
	work  measure.Span
	works []measure.Span
}

func (b Brief) composer(work measure.Span, works ...measure.Span) *composer {
	if len(works) == 0 {
		works = []measure.Span{work / measure.Second}
	}
	c := &composer{Brief: b, judges: map[moves.Lane]*choice.Judge{}, work: work, works: works}
	class := b.class(work)
	for _, l := range b.Lanes {
		if l.People > 0 {
			c.lanes = append(c.lanes, l)
			c.judges[l.Lane] = choice.For(class, l.party())
		}
	}
	return c
}

// class is what the brief's entries are judged against for an interval.
func (b Brief) class(work measure.Span) choice.Class {
	return b.Context.class(
		Document{Format: b.Format, WorkMs: work, Bans: b.Bans, Known: b.Known, Overruled: b.Overruled},
		nil,
	)
}

// Propose makes a circuit from places, for each the best combination of the lanes'
// entries that the kit covers, and the rounds, work and rest that fit the minutes. The
// same brief gives the same answer. The work is bounded by the places x 3 wave counts x
// 10 candidates to the power of lanes.
func Propose(b Brief) Proposal {
	b.Stock = b.Stock.Memoized()
	p, ok := b.composer(usualWork, tryWork...).propose()
	if ok && b.Format == Timed && p.Document.WorkMs != usualWork {
		// Loads are for the count that fits the interval: once more, for that interval.
		if again, ok := b.composer(p.Document.WorkMs).propose(); ok {
			p = again
		}
	}
	if !ok {
		return p
	}
	p = b.packOnce(p)
	p.Notes = append(p.Notes, b.unused(p.Document)...)
	return p
}

// propose makes a proposal for an interval; ok is false where nothing fits.
func (c *composer) propose() (Proposal, bool) {
	p := Proposal{}
	var places []place
	for _, patterns := range template {
		pl := c.place(patterns, true)
		if len(pl.options) == 0 {
			p.Notes = append(p.Notes, why.Of(why.NoteLeftOut, why.Typed, why.ID("pattern", string(patterns[0]))))
			continue
		}
		places = append(places, pl)
	}
	if len(places) == 0 {
		p.Relax = []why.Why{why.Of(why.RelaxBans, why.Typed)}
		return p, false
	}
	s := c.search(places)
	if math.IsInf(s.cost, 1) {
		p.Notes, p.Relax = nil, c.relax(places)
		return p, false
	}
	s = c.lengthen(s)
	p.Feasible, p.Document = true, s.doc
	p.Notes = append(p.Notes, c.notes(s)...)
	return p, true
}

// notes say what of the template is not in the circuit and why, and what is left of
// the minutes.
func (c *composer) notes(s state) []why.Why {
	var out []why.Why
	for i, pl := range s.places {
		if pl.extra {
			continue
		}
		id := why.ID("pattern", string(pl.patterns[0]))
		switch n := s.choice[i]; {
		case n < 0 && startingIn(c.judges, pl.patterns):
			out = append(out, why.Of(why.NoteLater, why.House, id))
		case n < 0:
			out = append(out, why.Of(why.NoteDropped, why.House, id))
		case pl.options[n].pattern != pl.patterns[0] && slices.Contains(c.Bans, string(pl.patterns[0])):
			out = append(out, why.Of(why.NoteReplaced, why.Typed, id, why.ID("by", string(pl.options[n].pattern))))
		}
	}
	if left := measure.Span(c.Minutes)*measure.Minute - length(s.doc, c.Context); left > endsEarly {
		out = append(out, why.Of(why.NoteEndsEarly, why.House, why.Ms("left", int64(left)),
			why.N("rounds", s.doc.Rounds), why.N("most", c.mostRounds(s.doc))))
	}
	return out
}

// startingIn tells whether some lane is in its first sessions of some of the patterns, so
// that a class leaves them for the next.
func startingIn(judges map[moves.Lane]*choice.Judge, patterns []moves.Pattern) bool {
	for _, j := range judges {
		for _, p := range patterns {
			if all := j.Library.OfPattern(p); len(all) > 0 && j.Starting(all[0]) {
				return true
			}
		}
	}
	return false
}
