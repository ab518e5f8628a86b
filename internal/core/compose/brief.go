// Package compose proposes circuits: what each lane could do for each place of the template,
// the combination that the kit covers and the objective likes best, in rounds that fit the
// minutes; what else could stand in a slot; and the version for a flat.
package compose

import (
	"math"
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/room"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// Brief is what a proposal is asked for.
type Brief struct {
	plan.Context
	Format circuit.Format
	// Goal is what it is for, Template what it is made of, Pattern that of a session of one.
	Goal     goal.Goal
	Template goal.Template
	Pattern  moves.Pattern
	// Bans are patterns, variants and limits to leave out.
	Bans []string
	// Known are moves and patterns that the group knows, whatever the log says.
	Known []string
	// Overruled is what the log says that the instructor sets aside.
	Overruled []circuit.Overruled
	// For are the participants who are given entries of their own; nobody where it is empty,
	// and everybody does their lane's.
	For []people.Party
	// Pins are moves that it must have, in this order.
	Pins []Pin
	// New are moves that the class is taught today, whatever the log says: it has them too.
	New []string
	// Layout is how people stand to the work; in waves where they have to take turns, where
	// nothing is said.
	Layout circuit.Layout
	// Blocks are what it is asked to be made of, in this order; none leaves that to goal and
	// template, and the pins stand in its circuit or its straight sets.
	Blocks []Wanted
	// Plan is the document whose pinned slots stay as they are and where they stand.
	Plan circuit.Document
	// stay are the blocks beside an open one, and by what that goes.
	stay *pins
	by   scheme.Name
	// pin is the one that is looked at: its move may stand, for its repetitions.
	pin Pin
	// again are the moves of a session that is done again: they may stand.
	again []string
}

// Proposal is a circuit that fits, or what to relax so that one does.
type Proposal struct {
	Feasible bool
	Document circuit.Document
	// Cost is what it costs by the terms of the objective.
	Cost Cost
	// Notes say what had to be left out or replaced, and what of the kit is not used.
	Notes []why.Why
	// People is what people by name came to; nil where nobody is known.
	People *Shared
	// Relax names, when nothing fits, each single thing that would help.
	Relax []why.Why
	// work is the interval that it is made for.
	work measure.Span
}

// Bounds of the search (house).
const (
	bestPerParty = 10 // candidates of a party that are combined
	perVariant   = 2  // of them of one variant
	mostWaves    = 3
	// mostTried is how many choices are looked at to combine the parties' candidates: with
	// three parties it is never reached.
	mostTried = 50_000
	// worthDoing is what another place may cost a lane at most, so that nothing far too
	// light is added to fill minutes.
	worthDoing = 40.0
	// worthAdding is the time left over from which another place is added, endsEarly
	// the time left over that is said.
	worthAdding = 4 * measure.Minute
	endsEarly   = 5 * measure.Minute
)

// composer makes one proposal: the parties that entries are made for, each with its judge.
type composer struct {
	Brief
	parties []party
	judges  map[people.Party]*choice.Judge
	// work is the interval that loads are reckoned for, works those that may
	// fill the minutes.
	work      measure.Span
	works     []measure.Span
	objective Objective
	pins      pins
	// beside is what a circuit that is filled stands in, where it is not alone.
	beside *beside
	// Of a circuit of stations: how many there are, and what lives at those filled before.
	stations  int
	elsewhere room.Tally
}

// party is who entries are made for, and how many people do them.
type party struct {
	plan.Party
	id people.Party
	n  int
}

// asked lists whom entries are made for: the lanes, and of participants those that the
// brief names; these do not do their lane's.
func (b Brief) asked() []party {
	var out []party
	own := map[moves.Lane]int{}
	for _, p := range b.Parties {
		if p.Participant != "" && slices.Contains(b.For, p.ID()) {
			own[p.Lane]++
			out = append(out, party{p, p.ID(), 1})
		}
	}
	for _, p := range slices.Backward(b.Parties) {
		if n := p.People - own[p.Lane]; p.Participant == "" && n > 0 {
			out = append([]party{{p, p.ID(), n}}, out...)
		}
	}
	return out
}

func (b Brief) composer(work measure.Span, works ...measure.Span) *composer {
	if len(works) == 0 {
		works = []measure.Span{work}
	}
	c := &composer{
		Brief: b, parties: b.asked(), judges: map[people.Party]*choice.Judge{}, work: work, works: works,
		objective: House.For(goal.Of(b.Goal)),
		pins:      b.pinsOf(b.Plan),
	}
	if b.stay != nil {
		c.pins = b.stay.clone()
	}
	class := b.class(work)
	for _, p := range c.parties {
		c.judges[p.id] = choice.For(class, p.Judged())
	}
	return c
}

// of is a composer for what stands in a document: for the interval of its first circuit.
func (b Brief) of(d circuit.Document) *composer {
	if s, _, ok := d.Single(); ok {
		return b.composer(s.WorkMs)
	}
	return b.composer(usualWork)
}

// in is the brief for a block: for what its sets go by.
func (b Brief) in(x circuit.Block) (Brief, measure.Span) {
	b.Format, b.Layout = x.Format(), x.Layout
	work, _ := x.ByClock(circuit.Slot{})
	return b, work
}

// class is what the brief's entries are judged against for an interval.
func (b Brief) class(work measure.Span) choice.Class {
	class := b.Context.Class(
		circuit.Document{
			Bans:      b.Bans,
			Known:     b.Known,
			Overruled: b.Overruled,
			Goal:      b.Goal,
		},
		append([]string{b.pin.Move}, b.again...),
	)
	class.Asked = b.pin.reps()
	if b.Format == circuit.Timed {
		class.Work = work
	}
	return class
}

// Propose makes a circuit from places, for each the best combination of the parties'
// entries that the kit covers, and the rounds, work and rest that fit the minutes. The
// same brief gives the same answer. The work is bounded by the places x 3 wave counts x
// mostTried.
func Propose(b Brief) Proposal {
	had := b.Plan
	b.Context = b.On(had)
	b.Stock = b.Stock.Memoized()
	if b.inStraightSets() && len(b.Blocks) == 0 && b.Template != goal.Teaching {
		b.Format = circuit.Reps // sets are counted
	}
	b = b.withNew().shaped()
	var notes []why.Why
	if len(b.Blocks) == 0 {
		b.Plan, notes = b.pinned()
	}
	p, ok := b.made()
	if !ok {
		return p
	}
	p = b.packOnce(p)
	if room := b.roomFor(p.Document); room > 0 {
		short := b
		short.Minutes -= room
		if q, ok := short.made(); ok {
			p = short.packOnce(q)
		}
	}
	var named, spared []why.Why
	p.Document, p.People, named = b.byName(had, p.Document)
	p.Document, spared = Spare(p.Document, b.Context)
	p.Document.Day = had.Day
	p.Notes = slices.Concat(
		notes,
		b.aimed(),
		named,
		spared,
		p.Notes,
		b.composer(usualWork).inTurn(p.Document),
		b.unused(p.Document),
	)
	return p
}

// withNew has the moves that are new today among the pins, after what was asked for by name.
func (b Brief) withNew() Brief {
	named := func(id string) bool {
		is := func(p Pin) bool { return p.Move == id }
		return slices.ContainsFunc(b.Pins, is) ||
			slices.ContainsFunc(b.Blocks, func(w Wanted) bool { return slices.ContainsFunc(w.Pins, is) })
	}
	b.Blocks = slices.Clone(b.Blocks)
	at := slices.IndexFunc(b.Blocks, func(w Wanted) bool { return w.Kind == circuit.Work && !w.Open() })
	for _, id := range b.New {
		switch {
		case named(id):
		case len(b.Blocks) == 0:
			b.Pins = append(slices.Clone(b.Pins), Pin{Move: id})
		case at < 0: // a block of their own, before the one that is to be filled
			b.Blocks, at = slices.Insert(b.Blocks, 0, Wanted{Kind: circuit.Work, Pins: []Pin{{Move: id}}}), 0
		default:
			b.Blocks[at].Pins = append(slices.Clone(b.Blocks[at].Pins), Pin{Move: id})
		}
	}
	return b
}

// made makes the blocks that were asked for, else a proposal in straight sets, or a circuit
// for the interval that suits.
func (b Brief) made() (Proposal, bool) {
	switch {
	case len(b.Blocks) > 0 && b.stay == nil:
		return b.inBlocks()
	case b.inStraightSets():
		return b.composer(usualWork).inSets()
	}
	p, ok := b.composer(usualWork, tryWork...).propose()
	if ok && b.Format == circuit.Timed && p.work != usualWork {
		// Loads are for the count that fits the interval: once more, for that interval.
		if again, ok := b.composer(p.work).propose(); ok {
			p = again
		}
	}
	return p, ok
}

// inStraightSets tells whether the goal asks for straight sets; people go from station to
// station in a circuit.
func (b Brief) inStraightSets() bool {
	if b.by != "" {
		return b.by == scheme.Sets
	}
	return goal.Of(b.Goal).Scheme == scheme.Sets && b.Layout != circuit.Stations
}

// aim is what the goal asks of straight sets, where they are made.
func (b Brief) aim() goal.Aim {
	a := goal.InSets(b.Goal)
	if b.stay != nil {
		a.Fills = false // what stands beside it was asked for
	}
	return a
}

// aimed says what the goal asks for, and where that is from.
func (b Brief) aimed() []why.Why {
	aim := goal.Of(b.Goal)
	if aim.Scheme == "" {
		return nil
	}
	w := why.Of(why.NoteAim, aim.Source, why.ID("goal", string(b.Goal)))
	if aim.RepsLow < aim.RepsHigh {
		w.Terms = append(w.Terms, why.N("repsLow", aim.RepsLow))
	}
	w.Terms = append(w.Terms, why.N("repsHigh", aim.RepsHigh),
		why.N("setsLow", aim.SetsLow), why.N("setsHigh", aim.SetsHigh),
		why.Ms("restLow", int64(aim.RestLow)), why.Ms("restHigh", int64(aim.RestHigh)))
	return []why.Why{w}
}

// propose makes a proposal for an interval; ok is false where nothing fits.
func (c *composer) propose() (Proposal, bool) {
	p := Proposal{}
	if c.Layout == circuit.Stations {
		c.stations = c.fewestStations()
	}
	places, left := c.places()
	for _, pattern := range left {
		p.Notes = append(p.Notes, why.Of(why.NoteLeftOut, why.Typed, why.ID("pattern", string(pattern))))
	}
	if len(places) == 0 {
		p.Relax = []why.Why{why.Of(why.RelaxBans, why.Typed)}
		return p, false
	}
	s := c.search(places)
	if math.IsInf(s.total, 1) {
		p.Notes, p.Relax = nil, c.relax(places)
		return p, false
	}
	s = c.lengthen(s)
	p.Feasible, p.Document, p.Cost, p.work = true, c.around(s.doc).Clone(), s.cost, s.doc.WorkMs
	p.Notes = append(p.Notes, c.notes(s)...)
	return p, true
}

// missing says why a place is not in a proposal: it comes after the first sessions, or there
// is no time for it.
func (c *composer) missing(pl place) why.Why {
	code := why.NoteDropped
	if plan.StartingIn(c.judges, pl.patterns) {
		code = why.NoteLater
	}
	return why.Of(code, why.House, why.ID("pattern", string(pl.patterns[0])))
}

// replaced says what stands in for the pattern of a place that was left out.
func (c *composer) replaced(pl place, by moves.Pattern) []why.Why {
	if own := pl.patterns[0]; by != own && slices.Contains(c.Bans, string(own)) {
		return []why.Why{
			why.Of(why.NoteReplaced, why.Typed, why.ID("pattern", string(own)), why.ID("by", string(by))),
		}
	}
	return nil
}

// notes say what of the template is not in the circuit and why, and what is left of
// the minutes.
func (c *composer) notes(s state) []why.Why {
	var out []why.Why
	for i, pl := range s.places {
		switch n := s.choice[i]; {
		case pl.extra:
		case n < 0:
			out = append(out, c.missing(pl))
		default:
			out = append(out, c.replaced(pl, pl.options[n].pattern)...)
		}
	}
	if left := measure.Span(c.Minutes)*measure.Minute - plan.Length(c.around(s.doc), c.Context); left > endsEarly {
		out = append(out, why.Of(why.NoteEndsEarly, why.House, why.Ms("left", int64(left)),
			why.N("rounds", s.doc.Rounds), why.N("most", c.mostRounds(s.doc))))
	}
	return out
}
