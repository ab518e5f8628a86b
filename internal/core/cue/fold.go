package cue

import "sort"

// RunKind is what somebody did to the clock.
type RunKind string

// The kinds of run events. Add lets the class wait for some milliseconds where
// it is; a hold while held, or a resume while moving, changes nothing.
const (
	Start  RunKind = "start"
	Hold   RunKind = "hold"
	Resume RunKind = "resume"
	Skip   RunKind = "skip"
	Back   RunKind = "back"
	Add    RunKind = "add"
	End    RunKind = "end"
)

// RunEvent is one press. At is an instant in milliseconds since 1970 UTC.
type RunEvent struct {
	Kind RunKind
	At   int64
	// Ms is the wait of an Add.
	Ms int64
}

// backGrace is how far into a block Back still means "the one before" (house).
const backGrace = 3000

// Anchor says where a class is: at position PositionMs at instant AtMs. While
// Moving, the position at an instant t is PositionMs + max(0, t - AtMs): an
// anchor in the future is a wait that has been added.
type Anchor struct {
	State      string `json:"state" enum:"ready,moving,held,ended"`
	PositionMs int64  `json:"positionMs"`
	AtMs       int64  `json:"atMs"`
	// WaitMs is what is left of an added wait while held.
	WaitMs int64 `json:"waitMs"`
}

// States of a run.
const (
	Ready  = "ready"
	Moving = "moving"
	Held   = "held"
	Ended  = "ended"
)

// Position gives the position at instant t and the wait still to come.
func (a Anchor) Position(t, total int64) (position, wait int64) {
	if a.State != Moving {
		return a.PositionMs, a.WaitMs
	}
	if t < a.AtMs {
		return a.PositionMs, a.AtMs - t
	}
	return min(a.PositionMs+t-a.AtMs, total), 0
}

// Fold gives the anchor after all run events, which are taken in the order
// given; an instant earlier than the one before it counts as the same. Events
// before the start and after the end change nothing.
func Fold(o Order, events []RunEvent) Anchor {
	a := Anchor{State: Ready}
	last := int64(0)
	for _, e := range events {
		at := max(e.At, last)
		last = at
		a = step(o, a, e, at)
	}
	return a
}

func step(o Order, a Anchor, e RunEvent, at int64) Anchor {
	if a.State == Ended || a.State == Ready && e.Kind != Start {
		return a
	}
	position, wait := a.Position(at, o.Total)
	if a.State == Moving && position >= o.Total && e.Kind != Back {
		return Anchor{State: Ended, PositionMs: o.Total, AtMs: at}
	}
	state := a.State
	switch e.Kind {
	case Start:
		if a.State == Ready {
			state = Moving
		}
	case Hold:
		state = Held
	case Resume:
		state = Moving
	case Skip:
		position, wait = o.after(position), 0
	case Back:
		position, wait = o.before(position), 0
	case Add:
		wait += max(e.Ms, 0)
	case End:
		return Anchor{State: Ended, PositionMs: position, AtMs: at}
	}
	if state == Moving {
		return Anchor{State: Moving, PositionMs: position, AtMs: at + wait}
	}
	return Anchor{State: state, PositionMs: position, AtMs: at, WaitMs: wait}
}

// after gives the start of the block after the one at p.
func (o Order) after(p int64) int64 {
	i := o.index(p)
	if i < len(o.Blocks) {
		return o.Blocks[i].Until
	}
	return o.Total
}

// before gives the start of the block at p, or of the one before it while the
// block is young.
func (o Order) before(p int64) int64 {
	i := o.index(p)
	if i > 0 && (i == len(o.Blocks) || p-o.Blocks[i].From < backGrace) {
		i--
	}
	if i < len(o.Blocks) {
		return o.Blocks[i].From
	}
	return 0
}

func (o Order) index(p int64) int {
	return sort.Search(len(o.Blocks), func(i int) bool { return o.Blocks[i].Until > p })
}
