// Package cue unrolls a class into its running order, every second of it as
// events for each lane, and says where a class is at an instant.
package cue

import (
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/scheme"
)

// Kind tells what happens in an event.
type Kind string

// The kinds of events.
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

// Part is how one lane works through a slot's interval.
type Part struct {
	Lane    string
	Variant string
	// Work is the lane's own time, at most the slot's.
	Work measure.Span
	// Sides gives, for each round, which side or sides are worked: Both for one
	// event, Left or Right for a whole interval on that side, or a split.
	Sides []SideCall
}

// SideCall is one round's order of sides. With Second empty there is one event.
type SideCall struct {
	First, Second scheme.Side
	SwitchAt      measure.Span
	Change        measure.Span
}

// Slot is one place in the order, ready to be unrolled.
type Slot struct {
	ID    string
	Learn measure.Span
	// Waves is how many groups take turns; each works Work, with HandOver between.
	Waves    int
	Work     measure.Span
	HandOver measure.Span
	// Rest stands between this slot and the next of a round.
	Rest  measure.Span
	Parts []Part
}

// Plan is a class ready to be unrolled.
type Plan struct {
	LeadIn, Prep, Close, RoundRest measure.Span
	// Drills share the prep out evenly, in order; with none it is one stretch.
	Drills []string
	Rounds int
	Slots  []Slot
}

// Block is a stretch of the class that is the same for every lane.
type Block struct {
	From  int64  `json:"fromMs"`
	Until int64  `json:"untilMs"`
	Kind  Kind   `json:"kind"`
	Slot  string `json:"slot,omitempty"`
	Round int    `json:"round,omitempty"`
	Wave  int    `json:"wave,omitempty"`
	// Drill is the drill of a stretch of prep.
	Drill string `json:"drill,omitempty"`
}

// Event is a stretch of one lane's class.
type Event struct {
	Lane string `json:"lane"`
	Block
	Variant string      `json:"variant,omitempty"`
	Side    scheme.Side `json:"side,omitempty"`
	// Next is the side to change to, in a change of sides.
	Next scheme.Side `json:"next,omitempty"`
}

// Order is a running order: blocks for the class and events for each lane, both
// without gaps and in order of time.
type Order struct {
	Total  int64   `json:"totalMs"`
	Blocks []Block `json:"blocks"`
	Events []Event `json:"events"`
}

// Unroll lays a plan out in time. The cost is linear in rounds, slots and
// lanes.
func Unroll(p Plan) Order {
	u := unroller{o: Order{Blocks: []Block{}, Events: []Event{}}}
	u.block(Block{Kind: LeadIn}, p.LeadIn)
	u.prep(p)
	for _, s := range p.Slots {
		u.block(Block{Kind: Learn, Slot: s.ID}, s.Learn)
	}
	for round := 1; round <= p.Rounds; round++ {
		for i, s := range p.Slots {
			for wave := 1; wave <= s.Waves; wave++ {
				u.block(Block{Kind: Work, Slot: s.ID, Round: round, Wave: wave}, s.Work)
				if wave < s.Waves {
					u.block(Block{Kind: HandOver, Slot: s.ID, Round: round, Wave: wave}, s.HandOver)
				}
			}
			if i < len(p.Slots)-1 {
				u.block(Block{Kind: Rest, Slot: p.Slots[i+1].ID, Round: round}, s.Rest)
			}
		}
		if round < p.Rounds {
			u.block(Block{Kind: RoundRest, Round: round, Slot: firstID(p.Slots)}, p.RoundRest)
		}
	}
	u.block(Block{Kind: Close}, p.Close)
	u.o.Total = u.now
	u.lanes(p)
	return u.o
}

func firstID(s []Slot) string {
	if len(s) == 0 {
		return ""
	}
	return s[0].ID
}

type unroller struct {
	o   Order
	now int64
}

func (u *unroller) block(b Block, long measure.Span) {
	if long <= 0 {
		return
	}
	b.From, b.Until = u.now, u.now+int64(long)
	u.now = b.Until
	u.o.Blocks = append(u.o.Blocks, b)
}

// leastDrill is the shortest stretch that is given to a drill (house).
const leastDrill = 30 * measure.Second

// prep shares the prep out to its drills, as many as have time, in whole seconds; the
// last takes what is left.
func (u *unroller) prep(p Plan) {
	n := measure.Span(min(len(p.Drills), int(p.Prep/leastDrill)))
	if n == 0 {
		u.block(Block{Kind: Prep}, p.Prep)
		return
	}
	each := p.Prep / n / measure.Second * measure.Second
	for i, drill := range p.Drills[:n] {
		long := each
		if i == int(n)-1 {
			long = p.Prep - each*(n-1)
		}
		u.block(Block{Kind: Prep, Drill: drill}, long)
	}
}

func (u *unroller) lanes(p Plan) {
	parts := map[string]map[string]Part{}
	var lanes []string
	for _, s := range p.Slots {
		for _, part := range s.Parts {
			if parts[part.Lane] == nil {
				parts[part.Lane] = map[string]Part{}
				lanes = append(lanes, part.Lane)
			}
			parts[part.Lane][s.ID] = part
		}
	}
	for _, lane := range lanes {
		for _, b := range u.o.Blocks {
			part, ok := parts[lane][b.Slot]
			if !ok {
				u.o.Events = append(u.o.Events, Event{Lane: lane, Block: b})
				continue
			}
			u.o.Events = append(u.o.Events, part.events(b)...)
		}
	}
}

// events lays one lane's work into a block: the first side, the change, the
// second, and rest for whoever has finished before the block ends.
func (p Part) events(b Block) []Event {
	e := Event{Lane: p.Lane, Block: b, Variant: p.Variant}
	if b.Kind != Work {
		return []Event{e}
	}
	call := SideCall{First: scheme.Both}
	if len(p.Sides) > 0 {
		call = p.Sides[(b.Round-1)%len(p.Sides)]
	}
	var out []Event
	at := b.From
	put := func(kind Kind, side, next scheme.Side, until int64) {
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
		put(Work, call.First, "", b.From+int64(call.SwitchAt))
		put(Change, call.First, call.Second, b.From+int64(call.SwitchAt+call.Change))
		put(Work, call.Second, "", b.From+int64(p.Work))
	} else {
		put(Work, call.First, "", b.From+int64(p.Work))
	}
	put(Rest, "", "", b.Until)
	return out
}
