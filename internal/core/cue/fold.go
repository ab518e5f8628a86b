package cue

import (
	"cmp"
	"slices"
	"sort"

	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
)

// RunKind is what somebody did to the clock.
type RunKind string

// The kinds of run events. Add lets the class wait for some milliseconds where
// it is; a hold while held, or a resume while moving, changes nothing. NextSet ends a set
// early for all, which a Skip leaves undone. The rest are what a party did, which moves no
// clock: they are Done with a set, came to the end of a Round of a window, Stopped early,
// are Back in the set, or do something else from now on.
const (
	Start   RunKind = "start"
	Hold    RunKind = "hold"
	Resume  RunKind = "resume"
	Skip    RunKind = "skip"
	Back    RunKind = "back"
	Add     RunKind = "add"
	NextSet RunKind = "next"
	End     RunKind = "end"
	Done    RunKind = "done"
	Round   RunKind = "round"
	Stopped RunKind = "stopped"
	Again   RunKind = "again"
	Swapped RunKind = "swapped"
)

// RunKinds lists them all.
var RunKinds = []RunKind{
	Start, Hold, Resume, Skip, Back, Add, NextSet, End, Done, Round, Stopped, Again, Swapped,
}

// OfParty tells whether a press says what a party did.
func (k RunKind) OfParty() bool {
	return k == Done || k == Round || k == Stopped || k == Again || k == Swapped
}

// RunEvent is one press. At is an instant in milliseconds since 1970 UTC.
type RunEvent struct {
	Kind RunKind
	At   int64
	// Ms is the wait of an Add.
	Ms int64
	// Party is who did something, and Slot in what; nothing else has them.
	Party people.Party
	Slot  string
}

// GoOnMs is how long after its end a class may go on where it stopped (house).
const GoOnMs = 60_000

// backGrace is how far into a stretch Back still means "the one before" (house).
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
	// Later are waits that are still to come: what is added to a set whose sides are changed
	// is shared by both.
	Later []Wait `json:"later,omitempty"`
}

// Wait is a stop of the clock at a position.
type Wait struct {
	At int64 `json:"atMs"`
	Ms int64 `json:"ms"`
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
	position, wait, _ = a.at(t, total)
	return position, wait
}

// at gives the same, and the waits that are still to come then.
func (a Anchor) at(t, total int64) (position, wait int64, later []Wait) {
	if a.State != Moving {
		return a.PositionMs, a.WaitMs, a.Later
	}
	if t < a.AtMs {
		return a.PositionMs, a.AtMs - t, a.Later
	}
	position = a.PositionMs + t - a.AtMs
	for i, w := range a.Later {
		switch past := position - w.At; {
		case past <= 0:
			return position, 0, a.Later[i:]
		case past < w.Ms:
			return w.At, w.Ms - past, a.Later[i+1:]
		}
		position -= w.Ms
	}
	return min(position, total), 0, nil
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
	{Moving, NextSet, Moving, "after", "drop"},
	{Moving, Back, Moving, "before", "drop"},
	{Moving, Add, Moving, "here", "add"},
	{Moving, End, Ended, "here", "drop"},
	{Held, Resume, Moving, "here", "keep"},
	{Held, Skip, Held, "after", "drop"},
	{Held, NextSet, Held, "after", "drop"},
	{Held, Back, Held, "before", "drop"},
	{Held, Add, Held, "here", "add"},
	{Held, End, Ended, "here", "drop"},
	{Ended, Resume, Moving, "here", "keep"},
	{over, Start, Ended, "here", "drop"},
	{over, Hold, Ended, "here", "drop"},
	{over, Resume, Ended, "here", "drop"},
	{over, Skip, Ended, "here", "drop"},
	{over, NextSet, Ended, "here", "drop"},
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
	// ShareMs is where the second side of a set begins that an Add here is shared with; 0
	// where there is none.
	ShareMs int64 `json:"shareMs"`
}

// Leaps lists the leaps of an order: Skip leads to the next stretch, Back to the
// start of the stretch at hand or, while that is young, of the one before it.
func (o Order) Leaps() []Leap {
	out := make([]Leap, 0, 3*len(o.Stretches)+1)
	earlier := int64(0)
	second := o.secondSides()
	for _, b := range o.Stretches {
		young := min(b.From+backGrace, b.Until)
		side, shared := second[b.From]
		ends := []int64{young}
		if shared {
			ends = append(ends, side.From)
		}
		slices.Sort(ends)
		from := b.From
		for _, until := range append(ends, b.Until) {
			if until <= from {
				continue
			}
			leap := Leap{UntilMs: until, AfterMs: b.Until, BeforeMs: b.From}
			if until <= young {
				leap.BeforeMs = earlier
			}
			if shared && until <= side.From {
				leap.ShareMs = side.Until
			}
			out = append(out, leap)
			from = until
		}
		earlier = b.From
	}
	return append(out, Leap{UntilMs: o.Total + 1, AfterMs: o.Total, BeforeMs: earlier})
}

// secondSides gives the first change of sides within each stretch of work, by where the
// stretch begins.
func (o Order) secondSides() map[int64]Event {
	out := map[int64]Event{}
	for _, e := range o.Events {
		if e.Kind != scheme.Change {
			continue
		}
		i := sort.Search(len(o.Stretches), func(i int) bool { return o.Stretches[i].Until > e.From })
		if i == len(o.Stretches) || o.Stretches[i].Kind != scheme.Work {
			continue
		}
		at := o.Stretches[i].From
		if had, ok := out[at]; !ok || e.From < had.From {
			out[at] = e
		}
	}
	return out
}

// Fold gives the anchor after all run events, in the order of their instants:
// a press made while its screen had no server counts from when it was made, not
// from when it came. Of two at one instant the one given earlier comes first.
func Fold(o Order, events []RunEvent) Anchor {
	a := Anchor{State: Ready}
	walk(o, events, func(_ RunEvent, _, after Anchor) { a = after })
	return a
}

// walk goes through the run events in the order of their instants and gives each with the
// anchor before and after it.
func walk(o Order, events []RunEvent, step func(e RunEvent, before, after Anchor)) {
	events = slices.Clone(events)
	slices.SortStableFunc(events, func(a, b RunEvent) int { return cmp.Compare(a.At, b.At) })
	a, leaps := Anchor{State: Ready}, o.Leaps()
	for _, e := range events {
		after := press(a, e, o.Total, leaps)
		step(e, a, after)
		a = after
	}
}

// press looks one press up in the table. The browser has the same few lines
// (views/run/clock.ts), and both are tested on testdata/positions.json.
func press(a Anchor, e RunEvent, total int64, leaps []Leap) Anchor {
	position, wait, later := a.at(e.At, total)
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
		wait, later = 0, nil
	case "add":
		ms := max(e.Ms, 0)
		if leap.ShareMs > 0 {
			later = append([]Wait{{leap.ShareMs, ms / 2}}, later...)
			ms -= ms / 2
		}
		wait += ms
	}
	if len(later) == 0 {
		later = nil
	}
	if f.Next == Moving {
		return Anchor{State: Moving, PositionMs: position, AtMs: e.At + wait, Later: later}
	}
	return Anchor{State: f.Next, PositionMs: position, AtMs: e.At, WaitMs: wait, Later: later}
}
