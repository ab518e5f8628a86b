// Package cue unrolls a class into its running order, every second of it as
// events for each lane, and says where a class is at an instant.
package cue

import (
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
)

// Part is how one party works through a slot's interval.
type Part struct {
	Party   people.Party
	Lane    moves.Lane
	Variant string
	// Works are the party's own time by round, set or rung, at most the slot's; the last
	// stands for all after it.
	Works []measure.Span
	// Sides gives, for each round, which side or sides are worked: Both for one
	// event, Left or Right for a whole interval on that side, or a split.
	Sides []scheme.SideCall
	// First is the side that begins in a chain, whose passes are a side each; the left where
	// nothing is said.
	First scheme.Side
	// PerRep is how long a repetition takes where repetitions are counted, and Actions its
	// parts, which are called as they begin; none of a move that is not combined.
	PerRep  measure.Span
	Actions []Action
}

// Action is one part of a combined move.
type Action struct {
	Name string
	Long measure.Span
}

// Slot is one place in the order, as its parties work through it.
type Slot struct {
	ID    string
	Parts []Part
}

// Block is what calls depend on of a block besides its times.
type Block struct {
	ID     string
	Scheme scheme.Name
	// Changes tells that people change places: go on to the next station, or to their partner.
	Changes bool
	// Words are called of a block that is read out, one Every so often.
	Every measure.Span
	Words []string
}

// Plan is a class ready to be unrolled.
type Plan struct {
	// Session says when, Blocks and Slots who and what, one for each of the session's.
	Session scheme.Session
	Blocks  []Block
	Slots   []Slot
	// Drills are the steps of a prep, in order; with none it is one stretch.
	Drills []Drill
}

// Drill is a step of a prep: how long, and where it makes ready for a slot, which.
type Drill struct {
	Move string
	Long measure.Span
	Slot string
}

// Stretch is a piece of the class that is the same for every lane.
type Stretch struct {
	From  int64       `json:"fromMs"`
	Until int64       `json:"untilMs"`
	Kind  scheme.Kind `json:"kind"`
	// Block is the id of its block; none of the lead-in.
	Block string `json:"block,omitempty"`
	Slot  string `json:"slot,omitempty"`
	Round int    `json:"round,omitempty"`
	Wave  int    `json:"wave,omitempty"`
	// Turn counts the turns of a round where people go from station to station.
	Turn int `json:"turn,omitempty"`
	// Pass is 1 or 2 in a chain that is done a side.
	Pass int `json:"pass,omitempty"`
	// Drill is the drill of a stretch of prep, with the slot that it makes ready for where it
	// does.
	Drill string `json:"drill,omitempty"`
}

// Event is a stretch of one party's class.
type Event struct {
	Party people.Party `json:"party"`
	Lane  moves.Lane   `json:"lane"`
	Stretch
	Variant string      `json:"variant,omitempty"`
	Side    scheme.Side `json:"side,omitempty"`
	// Next is the side to change to, in a change of sides.
	Next scheme.Side `json:"next,omitempty"`
}

// Order is a running order: stretches for the class and events for each party, both
// without gaps and in order of time, and the calls.
type Order struct {
	Total     int64     `json:"totalMs"`
	Stretches []Stretch `json:"stretches"`
	Events    []Event   `json:"events"`
	Calls     []Call    `json:"calls"`
}

// Unroll lays a plan out in time. The cost is linear in rounds, slots and
// parties.
func Unroll(p Plan) Order {
	o := Order{Stretches: []Stretch{}, Events: []Event{}}
	for _, s := range p.Session.Stretches() {
		x := Stretch{
			From:  int64(s.From),
			Until: int64(s.Until),
			Kind:  s.Kind,
			Round: s.Round,
			Wave:  s.Wave,
			Turn:  s.Turn,
		}
		if s.Slot >= 0 {
			x.Slot = p.Slots[s.Slot].ID
		}
		if s.Block >= 0 && s.Block < len(p.Blocks) {
			x.Block = p.Blocks[s.Block].ID
		}
		switch s.Side {
		case scheme.Left:
			x.Pass = 1
		case scheme.Right:
			x.Pass = 2
		}
		o.Total = x.Until
		if x.Kind == scheme.Prep {
			o.Stretches = append(o.Stretches, drilled(x, p.Drills)...)
			continue
		}
		o.Stretches = append(o.Stretches, x)
	}
	o.parties(p)
	o.Calls = o.calls(p)
	return o
}

// drilled lays the steps of a prep out, as many as have time; the last takes what is left.
func drilled(prep Stretch, drills []Drill) []Stretch {
	var out []Stretch
	at := prep.From
	for _, d := range drills {
		if at+int64(d.Long) > prep.Until {
			break
		}
		b := prep
		b.From, b.Drill, b.Slot = at, d.Move, d.Slot
		at += int64(d.Long)
		b.Until = at
		out = append(out, b)
	}
	if len(out) == 0 {
		return []Stretch{prep}
	}
	out[len(out)-1].Until = prep.Until
	return out
}

// parties lays every party's work into the blocks. Who has no part of their own in a slot
// does their lane's.
func (o *Order) parties(p Plan) {
	type place struct {
		party people.Party
		slot  string
	}
	parts := map[place]Part{}
	var all []Part
	for _, s := range p.Slots {
		for _, part := range s.Parts {
			if !slices.ContainsFunc(all, func(x Part) bool { return x.Party == part.Party }) {
				all = append(all, part)
			}
			parts[place{part.Party, s.ID}] = part
		}
	}
	// A set has up to four events: both sides, the change, rest.
	o.Events = slices.Grow(o.Events, 2*len(all)*len(o.Stretches))
	for _, who := range all {
		for _, x := range o.Stretches {
			part, ok := parts[place{who.Party, x.Slot}]
			if !ok {
				part, ok = parts[place{people.OfLane(who.Lane), x.Slot}]
			}
			if !ok {
				o.Events = append(o.Events, Event{Party: who.Party, Lane: who.Lane, Stretch: x})
				continue
			}
			part.Party = who.Party
			o.Events = append(o.Events, part.events(x)...)
		}
	}
}

// work is the party's own time in a round.
func (p Part) work(round int) measure.Span {
	if len(p.Works) == 0 {
		return 0
	}
	return p.Works[min(max(round, 1), len(p.Works))-1]
}

// passSide is the side of a pass of a chain.
func (p Part) passSide(pass int) scheme.Side {
	first := p.First
	if first == "" {
		first = scheme.Left
	}
	switch pass {
	case 1:
		return first
	case 2:
		return first.Other()
	}
	return scheme.Both
}

// events lays one party's work into a stretch: the first side, the change, the
// second, and rest for whoever has finished before the stretch ends.
func (p Part) events(x Stretch) []Event {
	e := Event{Party: p.Party, Lane: p.Lane, Stretch: x, Variant: p.Variant}
	if x.Kind == scheme.Change { // of a chain, for all
		e.Side, e.Next = p.passSide(1), p.passSide(2)
		return []Event{e}
	}
	if x.Kind != scheme.Work {
		return []Event{e}
	}
	call := scheme.SideCall{First: p.passSide(x.Pass)}
	if len(p.Sides) > 0 && x.Pass == 0 {
		call = p.Sides[(x.Round-1)%len(p.Sides)]
	}
	var out []Event
	at := x.From
	put := func(kind scheme.Kind, side, next scheme.Side, until int64) {
		until = min(until, x.Until)
		if until <= at {
			return
		}
		y := e
		y.Kind, y.Side, y.Next, y.From, y.Until = kind, side, next, at, until
		out = append(out, y)
		at = until
	}
	own := x.From + int64(p.work(x.Round))
	if call.Second != "" {
		put(scheme.Work, call.First, "", x.From+int64(call.SwitchAt))
		put(scheme.Change, call.First, call.Second, x.From+int64(call.SwitchAt+call.Change))
		put(scheme.Work, call.Second, "", own)
	} else {
		put(scheme.Work, call.First, "", own)
	}
	put(scheme.Rest, "", "", x.Until)
	return out
}
