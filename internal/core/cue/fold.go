package cue

import (
	"cmp"
	"slices"
	"sort"
)

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

// GoOnMs is how long after its end a class may go on where it stopped (house).
const GoOnMs = 60_000

// backGrace is how far into a block Back still means "the one before" (house).
const backGrace = 3000

// Anchor says where a class is: at position PositionMs at instant AtMs. While
// Moving, the position at an instant t is PositionMs + max(0, t - AtMs): an
// anchor in the future is a wait that has been added.
type Anchor struct {
	State      string `json:"state"`
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

// over is what a run that moves comes to at the end of its class: a state of
// the table below only, since nobody presses anything at that instant.
const over = "over"

// Effect is one row of the table of presses: what a press of a kind does in a
// state. Whoever has no server at hand looks a press up in it.
type Effect struct {
	State string  `json:"state"`
	Kind  RunKind `json:"kind"`
	Next  string  `json:"next"`
	// Place is where the class is then: where it was, or where a leap leads.
	Place string `json:"place"`
	// Wait is what becomes of a wait: kept, dropped, or made longer.
	Wait string `json:"wait"`
}

// Effects is the table of presses. A press that is not in it changes nothing:
// before the start, a hold while held, a resume while moving, and after the end all but
// a resume, which goes on where it stopped within GoOnMs.
var Effects = []Effect{
	{Ready, Start, Moving, "here", "keep"},
	{Moving, Hold, Held, "here", "keep"},
	{Moving, Skip, Moving, "after", "drop"},
	{Moving, Back, Moving, "before", "drop"},
	{Moving, Add, Moving, "here", "add"},
	{Moving, End, Ended, "here", "drop"},
	{Held, Resume, Moving, "here", "keep"},
	{Held, Skip, Held, "after", "drop"},
	{Held, Back, Held, "before", "drop"},
	{Held, Add, Held, "here", "add"},
	{Held, End, Ended, "here", "drop"},
	{Ended, Resume, Moving, "here", "keep"},
	{over, Start, Ended, "here", "drop"},
	{over, Hold, Ended, "here", "drop"},
	{over, Resume, Ended, "here", "drop"},
	{over, Skip, Ended, "here", "drop"},
	{over, Back, Moving, "before", "drop"},
	{over, Add, Ended, "here", "drop"},
	{over, End, Ended, "here", "drop"},
}

// Leap says where Skip and Back lead from the positions before UntilMs and not
// before the UntilMs of the leap ahead of it. The last leap holds at the end of
// the class.
type Leap struct {
	UntilMs  int64 `json:"untilMs"`
	AfterMs  int64 `json:"afterMs"`
	BeforeMs int64 `json:"beforeMs"`
}

// Leaps lists the leaps of an order: Skip leads to the next block, Back to the
// start of the block at hand or, while that is young, of the one before it.
func (o Order) Leaps() []Leap {
	out := make([]Leap, 0, 2*len(o.Blocks)+1)
	earlier := int64(0)
	for _, b := range o.Blocks {
		if young := min(b.From+backGrace, b.Until); young > b.From {
			out = append(out, Leap{young, b.Until, earlier})
		}
		if b.Until > b.From+backGrace {
			out = append(out, Leap{b.Until, b.Until, b.From})
		}
		earlier = b.From
	}
	return append(out, Leap{o.Total + 1, o.Total, earlier})
}

// Fold gives the anchor after all run events, in the order of their instants:
// a press made while its screen had no server counts from when it was made, not
// from when it came. Of two at one instant the one given earlier comes first.
func Fold(o Order, events []RunEvent) Anchor {
	events = slices.Clone(events)
	slices.SortStableFunc(events, func(a, b RunEvent) int { return cmp.Compare(a.At, b.At) })
	a, leaps := Anchor{State: Ready}, o.Leaps()
	for _, e := range events {
		a = press(a, e, o.Total, leaps)
	}
	return a
}

// press looks one press up in the table. The browser has the same few lines
// (views/run/clock.ts), and both are tested on testdata/positions.json.
func press(a Anchor, e RunEvent, total int64, leaps []Leap) Anchor {
	position, wait := a.Position(e.At, total)
	state := a.State
	if state == Moving && position >= total {
		state = over
	}
	if state == Ended && e.At-a.AtMs > GoOnMs {
		return a
	}
	i := slices.IndexFunc(Effects, func(f Effect) bool { return f.State == state && f.Kind == e.Kind })
	if i < 0 {
		return a
	}
	f := Effects[i]
	leap := leaps[sort.Search(len(leaps)-1, func(i int) bool { return leaps[i].UntilMs > position })]
	switch f.Place {
	case "after":
		position = leap.AfterMs
	case "before":
		position = leap.BeforeMs
	}
	switch f.Wait {
	case "drop":
		wait = 0
	case "add":
		wait += max(e.Ms, 0)
	}
	if f.Next == Moving {
		return Anchor{State: Moving, PositionMs: position, AtMs: e.At + wait}
	}
	return Anchor{State: f.Next, PositionMs: position, AtMs: e.At, WaitMs: wait}
}
