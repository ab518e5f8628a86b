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
	// Work is the party's own time, at most the slot's.
	Work measure.Span
	// Sides gives, for each round, which side or sides are worked: Both for one
	// event, Left or Right for a whole interval on that side, or a split.
	Sides []scheme.SideCall
}

// Slot is one place in the order, as its parties work through it.
type Slot struct {
	ID    string
	Parts []Part
}

// Plan is a class ready to be unrolled.
type Plan struct {
	// Session says when, Slots who and what, one for each of the session's.
	Session scheme.Session
	Slots []Slot
	// Drills share the prep out evenly, in order; with none it is one stretch.
	Drills []string
}

// Block is a stretch of the class that is the same for every lane.
type Block struct {
	From  int64       `json:"fromMs"`
	Until int64       `json:"untilMs"`
	Kind  scheme.Kind `json:"kind"`
	Slot  string      `json:"slot,omitempty"`
	Round int         `json:"round,omitempty"`
	Wave  int         `json:"wave,omitempty"`
	// Drill is the drill of a stretch of prep.
	Drill string `json:"drill,omitempty"`
}

// Event is a stretch of one party's class.
type Event struct {
	Party people.Party `json:"party"`
	Lane  moves.Lane   `json:"lane"`
	Block
	Variant string      `json:"variant,omitempty"`
	Side    scheme.Side `json:"side,omitempty"`
	// Next is the side to change to, in a change of sides.
	Next scheme.Side `json:"next,omitempty"`
}

// Order is a running order: blocks for the class and events for each party, both
// without gaps and in order of time, and the calls.
type Order struct {
	Total  int64   `json:"totalMs"`
	Blocks []Block `json:"blocks"`
	Events []Event `json:"events"`
	Calls  []Call  `json:"calls"`
}

// Unroll lays a plan out in time. The cost is linear in rounds, slots and
// parties.
func Unroll(p Plan) Order {
	o := Order{Blocks: []Block{}, Events: []Event{}}
	for _, s := range p.Session.Stretches() {
		b := Block{From: int64(s.From), Until: int64(s.Until), Kind: s.Kind, Round: s.Round, Wave: s.Wave}
		if s.Slot >= 0 {
			b.Slot = p.Slots[s.Slot].ID
		}
		o.Total = b.Until
		if b.Kind == scheme.Prep {
			o.Blocks = append(o.Blocks, drilled(b, p.Drills)...)
			continue
		}
		o.Blocks = append(o.Blocks, b)
	}
	o.parties(p)
	o.Calls = Calls(o)
	return o
}

// leastDrill is the shortest stretch that is given to a drill (house).
const leastDrill = int64(30 * measure.Second)

// drilled shares the prep out to its drills, as many as have time, in whole seconds; the
// last takes what is left.
func drilled(prep Block, drills []string) []Block {
	long := prep.Until - prep.From
	n := min(len(drills), int(long/leastDrill))
	if n == 0 {
		return []Block{prep}
	}
	each := long / int64(n) / int64(measure.Second) * int64(measure.Second)
	var out []Block
	for i, drill := range drills[:n] {
		b := prep
		b.From, b.Drill = prep.From+each*int64(i), drill
		if i < n-1 {
			b.Until = b.From + each
		}
		out = append(out, b)
	}
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
	for _, who := range all {
		for _, b := range o.Blocks {
			part, ok := parts[place{who.Party, b.Slot}]
			if !ok {
				part, ok = parts[place{people.OfLane(who.Lane), b.Slot}]
			}
			if !ok {
				o.Events = append(o.Events, Event{Party: who.Party, Lane: who.Lane, Block: b})
				continue
			}
			part.Party = who.Party
			o.Events = append(o.Events, part.events(b)...)
		}
	}
}

// events lays one party's work into a block: the first side, the change, the
// second, and rest for whoever has finished before the block ends.
func (p Part) events(b Block) []Event {
	e := Event{Party: p.Party, Lane: p.Lane, Block: b, Variant: p.Variant}
	if b.Kind != scheme.Work {
		return []Event{e}
	}
	call := scheme.SideCall{First: scheme.Both}
	if len(p.Sides) > 0 {
		call = p.Sides[(b.Round-1)%len(p.Sides)]
	}
	var out []Event
	at := b.From
	put := func(kind scheme.Kind, side, next scheme.Side, until int64) {
		until = min(until, b.Until)
		if until <= at {
			return
		}
		x := e
		x.Kind, x.Side, x.Next, x.From, x.Until = kind, side, next, at, until
		out = append(out, x)
		at = until
	}
	if call.Second != "" {
		put(scheme.Work, call.First, "", b.From+int64(call.SwitchAt))
		put(scheme.Change, call.First, call.Second, b.From+int64(call.SwitchAt+call.Change))
		put(scheme.Work, call.Second, "", b.From+int64(p.Work))
	} else {
		put(scheme.Work, call.First, "", b.From+int64(p.Work))
	}
	put(scheme.Rest, "", "", b.Until)
	return out
}
