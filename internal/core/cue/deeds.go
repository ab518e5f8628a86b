package cue

import (
	"slices"
	"sort"

	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
)

// Deed is what a party did in a slot, as it stands after all presses.
type Deed struct {
	Party people.Party `json:"party"`
	Slot  string       `json:"slot"`
	Kind  RunKind      `json:"kind"`
	// Count is how often, and AtMs the position of the last time.
	Count int   `json:"count"`
	AtMs  int64 `json:"atMs"`
}

// Deeds lists what parties did, by slot in the order of first presses. Whoever goes back
// does it again: sets that were done and rounds that were counted from there on count no
// more, while a stop stays said. Before the start nobody does anything but change what they
// will do.
func Deeds(o Order, events []RunEvent) []Deed {
	type did struct {
		RunEvent
		at int64
	}
	var all []did
	walk(o, events, func(e RunEvent, before, after Anchor) {
		at, _ := before.Position(e.At, o.Total)
		to, _ := after.Position(e.At, o.Total)
		switch {
		case e.Kind.OfParty():
			if before.State != Ready || e.Kind == Swapped {
				all = append(all, did{e, at})
			}
		case to < at:
			all = slices.DeleteFunc(all, func(d did) bool {
				return d.at >= to && (d.Kind == Done || d.Kind == Round)
			})
		}
	})
	out := []Deed{}
	for _, d := range all {
		i := slices.IndexFunc(
			out,
			func(x Deed) bool { return x.Party == d.Party && x.Slot == d.Slot && x.Kind == d.Kind },
		)
		if i < 0 {
			i = len(out)
			out = append(out, Deed{Party: d.Party, Slot: d.Slot, Kind: d.Kind})
		}
		out[i].Count++
		out[i].AtMs = d.at
	}
	return out
}

// Lasted is how long a stretch really lasted.
type Lasted struct {
	// Stretch is its number in the order.
	Stretch int
	// Real is the time that the class was in it, with waits that were added; Held is what
	// the clock was held in it besides.
	Real, Held int64
	// Added tells that a wait was added, By what ended it: Skip, NextSet or End; nothing
	// where it ran out or is not over.
	Added bool
	By    RunKind
	// Over tells that the class has left it.
	Over bool
}

// Spent is what the stretches of one kind in one slot of a block came to, of those that the
// class has been through: how many, and how long they were planned and lasted.
type Spent struct {
	Block     string      `json:"block,omitempty"`
	Slot      string      `json:"slot,omitempty"`
	Kind      scheme.Kind `json:"kind"`
	Times     int         `json:"times"`
	PlannedMs int64       `json:"plannedMs"`
	RealMs    int64       `json:"realMs"`
	HeldMs    int64       `json:"heldMs"`
	// Early is how many of them a press ended.
	Early int `json:"early"`
}

// Spent adds up how long stretches lasted, in the order in which the class came to them.
// Rests count with the slot that they lead to.
func (o Order) Spent(lasted []Lasted) []Spent {
	out := []Spent{}
	for _, l := range lasted {
		x := o.Stretches[l.Stretch]
		if !l.Over {
			continue
		}
		i := slices.IndexFunc(
			out,
			func(s Spent) bool { return s.Block == x.Block && s.Slot == x.Slot && s.Kind == x.Kind },
		)
		if i < 0 {
			i = len(out)
			out = append(out, Spent{Block: x.Block, Slot: x.Slot, Kind: x.Kind})
		}
		s := &out[i]
		s.Times++
		s.PlannedMs += x.Until - x.From
		s.RealMs += l.Real
		s.HeldMs += l.Held
		if l.By != "" {
			s.Early++
		}
	}
	return out
}

// Finish is a party done with its set: how long they took from its beginning, with the
// time of the rest after it where they were still at it then. Held tells that the clock was
// held meanwhile.
type Finish struct {
	Party   people.Party
	Stretch int
	Real    int64
	Held    bool
}

// Lasting gives how long every stretch lasted that a run came to until an instant, and when
// parties were done with theirs. Of what was gone back to and done again the last time
// counts.
func Lasting(o Order, events []RunEvent, until int64) ([]Lasted, []Finish) {
	t := timing{order: o, lasted: make([]Lasted, len(o.Stretches))}
	for i := range t.lasted {
		t.lasted[i].Stretch = i
	}
	last, end := int64(0), Anchor{State: Ready}
	walk(o, events, func(e RunEvent, before, after Anchor) {
		end = after
		if before.State == Moving || before.State == Held {
			t.passed(before, last, e.At)
		}
		last = max(last, e.At)
		at, _ := before.Position(e.At, o.Total)
		to, _ := after.Position(e.At, o.Total)
		t.pressed(e, before, at, to)
	})
	if until > last && (end.State == Moving || end.State == Held) {
		t.passed(end, last, until)
	}
	out := []Lasted{}
	for _, l := range t.lasted {
		if l.Real > 0 || l.Held > 0 || l.Over {
			out = append(out, l)
		}
	}
	return out, t.finished
}

// timing adds up the time in each stretch.
type timing struct {
	order    Order
	lasted   []Lasted
	finished []Finish
}

// in is the stretch at a position.
func (t *timing) in(position int64) int {
	return sort.Search(len(t.order.Stretches), func(i int) bool { return t.order.Stretches[i].Until > position })
}

// passed counts the time from one press to the next.
func (t *timing) passed(a Anchor, from, until int64) {
	left := until - max(from, a.AtMs)
	if a.State == Held {
		if i := t.in(a.PositionMs); i < len(t.lasted) {
			t.lasted[i].Held += max(left, 0)
		}
		return
	}
	position, wait, later := a.at(from, t.order.Total)
	left = max(until-from, 0)
	stand := func(ms int64) {
		ms = min(ms, left)
		left -= ms
		if i := t.in(position); i < len(t.lasted) {
			t.lasted[i].Real += ms
		}
	}
	stand(wait)
	for _, w := range later {
		position, left = t.moved(position, w.At, left)
		if position == w.At {
			stand(w.Ms)
		}
	}
	t.moved(position, t.order.Total, left)
}

// moved counts the time in which the class moves on from a position to an end, or as far
// as the time that is left goes.
func (t *timing) moved(position, end, left int64) (int64, int64) {
	end = min(end, position+left)
	left -= end - position
	for i := t.in(position); i < len(t.lasted) && position < end; i++ {
		next := min(end, t.order.Stretches[i].Until)
		t.lasted[i].Real += next - position
		t.lasted[i].Over = t.lasted[i].Over || next == t.order.Stretches[i].Until
		position = next
	}
	return position, left
}

// pressed takes down what a press that leads from one position to another does to the
// stretches.
func (t *timing) pressed(e RunEvent, before Anchor, at, to int64) {
	i := t.in(at)
	switch {
	case e.Kind == Done:
		t.done(e, before, i)
	case before.State == Ready || before.State == Ended || i == len(t.lasted) && to >= at:
	case to < at:
		t.again(to)
	case e.Kind == Add && e.Ms > 0:
		t.lasted[i].Added = true
	case e.Kind == Skip || e.Kind == NextSet || e.Kind == End:
		t.lasted[i].By, t.lasted[i].Over = e.Kind, true
	}
}

// again forgets what is to be done once more.
func (t *timing) again(from int64) {
	first := t.in(from)
	for i := first; i < len(t.lasted); i++ {
		t.lasted[i] = Lasted{Stretch: i}
	}
	t.finished = slices.DeleteFunc(t.finished, func(f Finish) bool { return f.Stretch >= first })
}

// done takes down that a party is done: with the set at hand, or the one before the rest at
// hand.
func (t *timing) done(e RunEvent, before Anchor, i int) {
	if before.State == Ready || i == len(t.lasted) {
		return
	}
	set := i
	for set >= 0 && (t.order.Stretches[set].Kind != scheme.Work || t.order.Stretches[set].Slot != e.Slot) {
		set--
	}
	if set < 0 || i-set > 1 {
		return
	}
	f := Finish{Party: e.Party, Stretch: set}
	for n := set; n <= i; n++ {
		f.Real += t.lasted[n].Real
		f.Held = f.Held || t.lasted[n].Held > 0
	}
	same := func(x Finish) bool { return x.Party == e.Party && x.Stretch == set }
	t.finished = append(slices.DeleteFunc(t.finished, same), f)
}
