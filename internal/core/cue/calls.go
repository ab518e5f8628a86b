package cue

import (
	"cmp"
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/scheme"
)

// CallKind is what is said or sounded at an instant.
type CallKind string

// The calls.
const (
	CountDown CallKind = "ready"     // three, two, one
	Go        CallKind = "go"        // work begins
	Switch    CallKind = "switch"    // the other side
	LastTen   CallKind = "last-ten"  // ten seconds of work are left
	RestNow   CallKind = "rest"      // work ends
	MoveOn    CallKind = "change"    // work ends: on to the next station, or the partner's turn
	Next      CallKind = "next"      // what comes
	PartNow   CallKind = "part"      // a part of a combined move or a chain begins
	Direction CallKind = "direction" // where to, in work that is read out
)

// CallKinds lists them all.
var CallKinds = []CallKind{CountDown, Go, Switch, LastTen, RestNow, MoveOn, Next, PartNow, Direction}

// Call is one call of a class.
type Call struct {
	At   int64    `json:"atMs"`
	Kind CallKind `json:"kind"`
	// Slot that it is about, of ready and next the one to come.
	Slot string `json:"slot,omitempty"`
	// Count of a ready: the seconds that are left.
	Count int `json:"count,omitempty"`
	// Name of a part or a stage, or the direction.
	Name string `json:"name,omitempty"`
}

// When calls come (house): ready counts down from three; the last ten seconds are called of
// work that is twice as long; what comes next is called five seconds before, in a rest in
// which there is time for it.
const (
	readyFrom   = 3
	lastTen     = int64(10 * measure.Second)
	leastForTen = 2 * lastTen
	nextBefore  = int64(5 * measure.Second)
	leastForOne = int64(8 * measure.Second)
)

// Calls are those of a running order, in the order of time, as far as it tells itself: not
// the parts of combined moves, nor what is read out. A change of sides is called once for
// all who change at an instant.
func Calls(o Order) []Call { return o.calls(Plan{}) }

func (o Order) calls(p Plan) []Call {
	c := caller{Order: o, out: []Call{}, plan: p, scheme: map[string]Block{}}
	for _, b := range p.Blocks {
		c.scheme[b.ID] = b
	}
	for i := range o.Stretches {
		c.stretch(i)
	}
	called := map[int64]bool{}
	for _, e := range o.Events {
		if e.Kind == scheme.Change && !called[e.From] {
			called[e.From] = true
			c.put(e.From, Switch, e.Slot, 0)
		}
	}
	for _, s := range p.Slots {
		c.actions(s)
	}
	slices.SortStableFunc(c.out, func(a, b Call) int { return cmp.Compare(a.At, b.At) })
	return c.out
}

// caller gathers the calls of an order.
type caller struct {
	Order
	out    []Call
	plan   Plan
	scheme map[string]Block
}

func (c *caller) put(at int64, kind CallKind, slot string, count int) {
	c.out = append(c.out, Call{At: at, Kind: kind, Slot: slot, Count: count})
}

// stretch calls what a stretch begins with and ends on.
func (c *caller) stretch(i int) {
	x := c.Stretches[i]
	b := c.scheme[x.Block]
	within := i > 0 && b.Scheme == scheme.Chain && x.Kind == scheme.Work &&
		c.Stretches[i-1].Kind == scheme.Work && c.Stretches[i-1].Pass == x.Pass && c.Stretches[i-1].Round == x.Round
	if i > 0 && !within {
		before := c.Stretches[i-1]
		for n := readyFrom; n > 0; n-- {
			if at := x.From - int64(n)*int64(measure.Second); at >= before.From {
				c.put(at, CountDown, x.Slot, n)
			}
		}
	}
	long := x.Until - x.From
	switch x.Kind {
	case scheme.Work:
		if within {
			c.put(x.From, PartNow, x.Slot, 0)
			return
		}
		c.put(x.From, Go, x.Slot, 0)
		if long >= leastForTen && b.Scheme != scheme.Chain {
			c.put(x.Until-lastTen, LastTen, x.Slot, 0)
		}
		for n, word := range b.Words {
			if at := x.From + int64(n)*int64(b.Every); at < x.Until {
				c.out = append(c.out, Call{At: at, Kind: Direction, Slot: x.Slot, Name: word})
			}
		}
	case scheme.Rest, scheme.RoundRest, scheme.HandOver, scheme.Pause:
		c.put(x.From, c.ends(i), "", 0)
		if long >= leastForOne {
			c.put(x.Until-nextBefore, Next, x.Slot, 0)
		}
	case scheme.Change: // called with the events
	default:
		if i > 0 {
			c.put(x.From, Next, x.Slot, 0)
		}
	}
}

// ends is what is called at the end of work that a stretch follows: where people change
// places a change, but for the last of a block.
func (c *caller) ends(i int) CallKind {
	x := c.Stretches[i]
	b := c.scheme[x.Block]
	switch {
	case !b.Changes || x.Kind == scheme.Pause:
	case x.Turn > 0:
		if i+1 < len(c.Stretches) && c.Stretches[i+1].Block == x.Block && c.Stretches[i+1].Kind == scheme.Work {
			return MoveOn
		}
	case x.Kind == scheme.HandOver:
		return MoveOn
	}
	return RestNow
}

// actions calls the parts of combined moves as they begin, repetition by repetition, by the
// first party that has some: what is called is one voice's.
func (c *caller) actions(s Slot) {
	i := slices.IndexFunc(s.Parts, func(p Part) bool { return len(p.Actions) > 0 && p.PerRep > 0 })
	if i < 0 {
		return
	}
	p := s.Parts[i]
	for _, e := range c.Events {
		if e.Party != p.Party || e.Slot != s.ID || e.Kind != scheme.Work {
			continue
		}
		at := e.From
		for at < e.Until {
			for _, a := range p.Actions {
				if at < e.Until {
					c.out = append(c.out, Call{At: at, Kind: PartNow, Slot: s.ID, Name: a.Name})
				}
				at += max(int64(a.Long), 1)
			}
		}
	}
}
