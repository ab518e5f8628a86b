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
	// Plan is the document whose pinned slots stay as they are and where they stand.
	Plan circuit.Document
}

// Proposal is a circuit that fits, or what to relax so that one does.
type Proposal struct {
	Feasible bool
	Document circuit.Document
	// Cost is what it costs by the terms of the objective.
	Cost Cost
	// Notes say what had to be left out or replaced, and what of the kit is not used.
	Notes []why.Why
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
	work  measure.Span
	works []measure.Span
	aim   Objective
	pins  pins
	// beside is what a circuit that is filled stands in, where it is not alone.
	beside *beside
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
		Brief: b, parties: b.asked(), judges: map[people.Party]*choice.Judge{}, work: work, works: works, aim: House,
		pins: pinsOf(b.Plan, b.Format),
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
	b.Format = x.Format()
	work, _ := x.ByClock(circuit.Slot{})
	return b, work
}

// class is what the brief's entries are judged against for an interval.
func (b Brief) class(work measure.Span) choice.Class {
	class := b.Context.Class(circuit.Document{Bans: b.Bans, Known: b.Known, Overruled: b.Overruled, Goal: b.Goal}, nil)
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
	b.Stock = b.Stock.Memoized()
	var notes []why.Why
	b.Plan, notes = b.pinned()
	p := b.proposal()
	if p.Feasible {
		p.Notes = append(notes, p.Notes...)
	}
	return p
}

// proposal makes the proposal around what is pinned.
func (b Brief) proposal() Proposal {
	if c := b.composer(usualWork); c.inStraightSets() {
		b.Format = circuit.Reps // sets are counted
		p, ok := b.composer(usualWork).inSets()
		if ok {
			p.Document, p.Notes = b.packedOnce(
				p.Document,
				p.Notes,
				func(try Brief) (circuit.Document, []why.Why, bool) {
					x, ok := try.composer(usualWork).inSets()
					return x.Document, x.Notes, ok
				},
			)
			p.Notes = append(p.Notes, b.unused(p.Document)...)
		}
		return p
	}
	p, ok := b.composer(usualWork, tryWork...).propose()
	if ok && b.Format == circuit.Timed && p.work != usualWork {
		// Loads are for the count that fits the interval: once more, for that interval.
		if again, ok := b.composer(p.work).propose(); ok {
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
		case n < 0 && plan.StartingIn(c.judges, pl.patterns):
			out = append(out, why.Of(why.NoteLater, why.House, id))
		case n < 0:
			out = append(out, why.Of(why.NoteDropped, why.House, id))
		case pl.options[n].pattern != pl.patterns[0] && slices.Contains(c.Bans, string(pl.patterns[0])):
			out = append(out, why.Of(why.NoteReplaced, why.Typed, id, why.ID("by", string(pl.options[n].pattern))))
		}
	}
	if left := measure.Span(c.Minutes)*measure.Minute - plan.Length(c.around(s.doc), c.Context); left > endsEarly {
		out = append(out, why.Of(why.NoteEndsEarly, why.House, why.Ms("left", int64(left)),
			why.N("rounds", s.doc.Rounds), why.N("most", c.mostRounds(s.doc))))
	}
	return out
}
