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
	CountDown CallKind = "ready"    // three, two, one
	Go        CallKind = "go"       // work begins
	Switch    CallKind = "switch"   // the other side
	LastTen   CallKind = "last-ten" // ten seconds of work are left
	RestNow   CallKind = "rest"     // work ends
	Next      CallKind = "next"     // what comes
)

// CallKinds lists them all.
var CallKinds = []CallKind{CountDown, Go, Switch, LastTen, RestNow, Next}

// Call is one call of a class.
type Call struct {
	At   int64    `json:"atMs"`
	Kind CallKind `json:"kind"`
	// Slot that it is about, of ready and next the one to come.
	Slot string `json:"slot,omitempty"`
	// Count of a ready: the seconds that are left.
	Count int `json:"count,omitempty"`
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

// Calls are those of a running order, in the order of time. A change of sides is called once
// for all who change at an instant.
func Calls(o Order) []Call {
	out := []Call{}
	put := func(at int64, kind CallKind, slot string, count int) {
		out = append(out, Call{at, kind, slot, count})
	}
	for i, b := range o.Blocks {
		if i > 0 {
			before := o.Blocks[i-1]
			for n := readyFrom; n > 0; n-- {
				if at := b.From - int64(n)*int64(measure.Second); at >= before.From {
					put(at, CountDown, b.Slot, n)
				}
			}
		}
		switch b.Kind {
		case scheme.Work:
			put(b.From, Go, b.Slot, 0)
			if b.Until-b.From >= leastForTen {
				put(b.Until-lastTen, LastTen, b.Slot, 0)
			}
		case scheme.Rest, scheme.RoundRest, scheme.HandOver:
			put(b.From, RestNow, "", 0)
			if b.Until-b.From >= leastForOne {
				put(b.Until-nextBefore, Next, b.Slot, 0)
			}
		default:
			if i > 0 {
				put(b.From, Next, b.Slot, 0)
			}
		}
	}
	called := map[int64]bool{}
	for _, e := range o.Events {
		if e.Kind == scheme.Change && !called[e.From] {
			called[e.From] = true
			put(e.From, Switch, e.Slot, 0)
		}
	}
	slices.SortStableFunc(out, func(a, b Call) int { return cmp.Compare(a.At, b.At) })
	return out
}
