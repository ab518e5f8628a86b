package plan

import (
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// Session lays a document out as time sees it, with a rest grown where a change-over is
// longer.
func Session(d circuit.Document, c Context) scheme.Session {
	out := scheme.Session{LeadIn: d.LeadInMs}
	first := 0
	for i, b := range d.Blocks {
		var x scheme.Block
		switch {
		case b.Auto && b.Kind == circuit.Prep:
			x.Plain, x.Length = scheme.Prep, c.prepTime(d)
		case b.Auto && b.Kind == circuit.Close:
			x.Plain, x.Length = scheme.Close, scheme.CloseTime(c.Minutes)
		case b.Auto:
			x.Learn = lessons(d, i, first, c)
		default:
			x = c.block(b)
		}
		if i+1 < len(d.Blocks) {
			x.After, _, _ = c.pause(d, i)
		}
		out.Blocks = append(out.Blocks, x)
		first += len(b.Slots)
	}
	return out
}

// lessons are what a teaching block that times itself teaches: the slots of the blocks that
// the class is trained by, up to the next such teaching. first is the number of the first
// slot after it.
func lessons(d circuit.Document, teach, first int, c Context) []scheme.Lesson {
	var out []scheme.Lesson
	for _, b := range d.Blocks[teach+1:] {
		if b.Auto && b.Kind == circuit.Teach {
			break
		}
		for n, s := range b.Slots {
			if b.Kind.Loaded() {
				out = append(out, scheme.Lesson{Slot: first + n, Long: learnTime(s, c.Library)})
			}
		}
		first += len(b.Slots)
	}
	return out
}

// block lays one block out.
func (c Context) block(b circuit.Block) scheme.Block {
	out := scheme.Block{Scheme: b.Scheme.Kind, Rounds: b.Rounds(), InTurn: b.Layout == circuit.Partners}
	if out.Rotates = b.Rotates(); out.Rotates {
		out.MoveOn, _, _ = c.moveOn(b)
	}
	switch s := b.Scheme; {
	case s.Circuit != nil:
		out.RoundRest = s.Circuit.RoundRestMs
	case s.Superset != nil:
		out.RoundRest = s.Superset.RestMs
	case s.Chain != nil:
		out.RoundRest, out.Sides, out.SideChange = s.Chain.RestMs, s.Chain.Sides, s.Chain.SideChangeMs
	case s.Interval != nil:
		out.Every = s.Interval.EveryMs
	case s.Window != nil:
		out.Length = s.Window.WindowMs
	case s.Ladder != nil:
		out.RoundRest = s.Ladder.RestMs
	case s.Called != nil:
		out.Length = s.Called.CalledMs
	}
	for i, s := range b.Slots {
		x := scheme.Slot{Waves: b.WavesOf(s), HandOver: scheme.BetweenWaves, Sets: b.RoundsOf(s)}
		for _, u := range c.Users(s) {
			x.Works = longest(x.Works, works(b, i, u.Entry, c.Library))
		}
		if b.Scheme.Sets != nil {
			x.SetRest = b.Scheme.Sets.RestMs
			if s.RestMs != nil {
				x.SetRest = *s.RestMs
			}
			if out.InTurn { // the first waits for the weight at least
				x.SetRest = max(out.RestOf(x.SetRest, x.Work(1)), x.HandOver)
			}
		}
		if i < len(b.Slots)-1 {
			x.Rest, _, _ = restBetween(b, i, c)
		}
		out.Slots = append(out.Slots, x)
	}
	return out
}

// longest takes the longer of two lists of times round by round; the last of each stands for
// all after it.
func longest(a, b []measure.Span) []measure.Span {
	if len(a) == 0 || len(b) == 0 {
		return append(a, b...)
	}
	out := make([]measure.Span, max(len(a), len(b)))
	for i := range out {
		out[i] = max(a[min(i, len(a)-1)], b[min(i, len(b)-1)])
	}
	return out
}

// works are the times of an entry's sets in a slot of a block, round by round.
func works(b circuit.Block, slot int, e circuit.Entry, lib *moves.Library) []measure.Span {
	s := b.Slots[slot]
	set := setFor(b, s, e, lib)
	if work, ok := b.ByClock(s); ok {
		return []measure.Span{work}
	}
	switch {
	case b.Scheme.Ladder != nil:
		var out []measure.Span
		for _, n := range b.Scheme.Ladder.Rungs {
			out = append(out, set.ByReps(n).Work)
		}
		return out
	case b.Scheme.Circuit != nil && b.Scheme.Circuit.EvenSets || e.Dose.InAll || e.Dose.Kind == circuit.Seconds:
		return []measure.Span{dosed(set, e.Dose).Work}
	}
	return set.Works(e.Dose.Timed())
}

// Length gives how long a document takes.
func Length(d circuit.Document, c Context) measure.Span { return Session(d, c).Times().Total() }

// Open gives what stays of a document where rounds, work and rest of its first circuit are
// to be chosen.
func Open(d circuit.Document, c Context) scheme.Frame {
	single, block, ok := d.Single()
	if !ok {
		return scheme.Frame{}
	}
	return Session(d, c).Open(block, single.Format == circuit.Timed)
}

// learnTime is the time a slot's move is shown and tried before the clock.
func learnTime(s circuit.Slot, lib *moves.Library) measure.Span {
	var sets []scheme.Set
	for _, e := range s.Entries {
		if v, ok := lib.Get(e.Variant); ok {
			x := SetOf(1, e, lib)
			x.Sides = scheme.BothSides
			if v.SideCount() == 2 {
				x.Sides = scheme.Split
			}
			sets = append(sets, x)
		}
	}
	return lib.Teaching(scheme.LearnTime(s.New, sets))
}

// setOf fits an entry into its slot's interval (by the clock) or counts its time (by
// repetitions); of a ladder it is the longest rung.
func setOf(b circuit.Block, s circuit.Slot, e circuit.Entry, lib *moves.Library) scheme.SetTime {
	set := setFor(b, s, e, lib)
	if work, ok := b.ByClock(s); ok {
		return set.ByClock(work)
	}
	if b.Scheme != nil && b.Scheme.Ladder != nil {
		return set.ByReps(slices.Max(b.Scheme.Ladder.Rungs))
	}
	return dosed(set, e.Dose)
}

// calls say which sides an entry works in each round, set or rung.
func calls(b circuit.Block, s circuit.Slot, e circuit.Entry, lib *moves.Library) []scheme.SideCall {
	if b.Scheme.Ladder == nil {
		return setOf(b, s, e, lib).Calls
	}
	var out []scheme.SideCall
	for _, n := range b.Scheme.Ladder.Rungs {
		out = append(out, setFor(b, s, e, lib).ByReps(n).Calls...)
	}
	return out
}

// dosed is a set of a dose by its own time. A dose in seconds is one stretch a side.
func dosed(set scheme.Set, d circuit.Dose) scheme.SetTime {
	switch {
	case d.Kind == circuit.Seconds:
		set.PerRep = d.Ms
		return set.ByReps(1)
	case d.InAll:
		return set.InAll(d.Timed())
	}
	return set.ByReps(d.Timed())
}

// setFor is one set of an entry in its block: of a chain one side of it; in a drop sides
// take time to change once, in the first stage.
func setFor(b circuit.Block, s circuit.Slot, e circuit.Entry, lib *moves.Library) scheme.Set {
	set := SetOf(b.RoundsOf(s), e, lib)
	switch {
	case b.Is(scheme.Chain):
		set.Sides = scheme.BothSides
	case b.Is(scheme.Drop) && s.ID != b.Slots[0].ID:
		set.Change = 0
	}
	return set
}

// SetOf is one set of an entry in so many rounds.
func SetOf(rounds int, e circuit.Entry, lib *moves.Library) scheme.Set {
	return scheme.Set{
		PerRep: max(e.PerRep(lib), 1), Sides: e.Sides, Rounds: rounds, Change: scheme.SideChange, First: e.First,
	}
}

func whySet(b circuit.Block, s circuit.Slot, e circuit.Entry, t scheme.SetTime, lib *moves.Library) why.Why {
	code := why.TimeByReps
	if _, byClock := b.ByClock(s); byClock {
		code = why.RepsByClock
	}
	return why.Of(code, why.Arithmetic, why.Ms("work", int64(t.Work)),
		why.Ms("perRep", int64(e.PerRep(lib))), why.N("perSide", t.PerSide), why.N("reps", t.Reps),
		why.Ms("slack", int64(t.Slack)), why.ID("sides", string(e.Sides)))
}

// between is the rest that a block plans after a slot, before the next.
func between(b circuit.Block, s circuit.Slot) measure.Span {
	x := b.Scheme
	switch {
	case x.Circuit != nil && s.RestMs != nil:
		return *s.RestMs
	case x.Circuit != nil:
		return x.Circuit.RestMs
	case x.Sets != nil:
		return x.Sets.BetweenMs
	case x.Ladder != nil:
		return x.Ladder.BetweenMs
	case x.Drop != nil:
		return x.Drop.ChangeMs
	}
	return 0
}

// restBetween gives the rest of a block after a slot: the planned one, or the longest
// change-over of any party to the next where that is longer. In a chain nothing is set
// down, in an interval what is over is rest.
func restBetween(b circuit.Block, i int, c Context) (measure.Span, bool, why.Why) {
	switch {
	case b.Is(scheme.Chain, scheme.Interval, scheme.Windowed):
		return 0, false, why.Why{}
	case b.Rotates():
		return c.moveOn(b)
	}
	planned := between(b, b.Slots[i])
	if b.Layout != circuit.Partners {
		return c.grown(planned, b.Slots[i], b.Slots[i+1])
	}
	rested := c.longestSet(b, i) + scheme.BetweenWaves
	rest, grown, w := c.grown(max(0, planned-rested), b.Slots[i], b.Slots[i+1])
	if !grown {
		w = why.Of(why.RestPartner, why.House, why.Ms("planned", int64(planned)),
			why.Ms("partner", int64(rested)), why.Ms("rest", int64(rest)))
	}
	return rest, grown, w
}

// longestSet is the longest set of anybody in a slot.
func (c Context) longestSet(b circuit.Block, i int) measure.Span {
	long := measure.Span(0)
	for _, u := range c.Users(b.Slots[i]) {
		long = max(long, slices.Max(works(b, i, u.Entry, c.Library)))
	}
	return long
}

// moveOn gives the time in which everybody goes on to the next station: the longest rest that
// is planned, or the longest change-over of any party from any station to the next, with new
// heights where some station has not the same for all.
func (c Context) moveOn(b circuit.Block) (measure.Span, bool, why.Why) {
	planned, longest := measure.Span(0), measure.Span(-1)
	var reason why.Why
	heights := c.newHeights(b)
	for i, s := range b.Slots {
		planned = max(planned, between(b, s))
		next := b.Slots[(i+1)%len(b.Slots)]
		for _, p := range c.Parties {
			ea, oka := s.Of(p.ID(), p.Lane)
			eb, okb := next.Of(p.ID(), p.Lane)
			if !oka || !okb || p.People == 0 {
				continue
			}
			if long, w := c.toStation(ea, eb, heights); long > longest {
				longest, reason = long, w
				reason.Terms = append([]why.Term{why.ID("lane", string(p.ID()))}, reason.Terms...)
			}
		}
	}
	if longest > planned {
		return longest, true, grownTo(planned, longest).With(reason)
	}
	return planned, false, restPlanned(planned).With(reason)
}

func grownTo(planned, longest measure.Span) why.Why {
	return why.Of(why.RestGrown, why.House, why.Ms("planned", int64(planned)), why.Ms("rest", int64(longest)))
}

func restPlanned(planned measure.Span) why.Why {
	return why.Of(why.RestPlanned, why.House, why.Ms("rest", int64(planned)))
}

// pause gives the pause after a block: the planned one, or the longest change-over from its
// last slot to the first of the next where that is longer.
func (c Context) pause(d circuit.Document, i int) (measure.Span, bool, why.Why) {
	b, next := d.Blocks[i], d.Blocks[i+1]
	if len(b.Slots) == 0 || len(next.Slots) == 0 {
		return b.AfterMs, false, why.Why{}
	}
	return c.grown(b.AfterMs, b.Slots[len(b.Slots)-1], next.Slots[0])
}

// grown is a rest, or the longest change-over of any party between two slots where that is
// longer.
func (c Context) grown(planned measure.Span, a, b circuit.Slot) (measure.Span, bool, why.Why) {
	longest := measure.Span(-1)
	var reason why.Why
	for _, p := range c.Parties {
		ea, oka := a.Of(p.ID(), p.Lane)
		eb, okb := b.Of(p.ID(), p.Lane)
		if !oka || !okb || p.People == 0 {
			continue
		}
		if long, w := ChangeOver(ea, eb, c.Library); long > longest {
			longest, reason = long, w
			reason.Terms = append([]why.Term{why.ID("lane", string(p.ID()))}, reason.Terms...)
		}
	}
	if longest > planned {
		return longest, true, grownTo(planned, longest).With(reason)
	}
	return planned, false, restPlanned(planned).With(reason)
}

// ChangeOver is the time a party needs from one entry to the next: another
// implement, another hold, kneeling, floor, the way to a bench, strap or pad
// (house; the parts add up).
func ChangeOver(a, b circuit.Entry, lib *moves.Library) (measure.Span, why.Why) {
	o := changeOver{Why: why.Of(why.ChangeOver, why.House)}
	if b.Load.Kind != kit.None && !a.Load.Equal(b.Load) {
		o.add("implement", scheme.TakeUp)
		o.add("packing", packingTime(a.Load, b.Load))
	} else if b.Load.Kind != kit.None && a.Hold != b.Hold {
		o.add("hold", scheme.ChangeHold)
	}
	o.stand(a, b, lib)
	if !slices.Equal(a.Anchors, b.Anchors) && len(b.Anchors) > 0 {
		o.add("walk", scheme.WalkInHall)
	}
	o.strap(a, b)
	return o.done(lib)
}

// toStation is the time a party needs from one station to the next, whose kit lives there.
func (c Context) toStation(a, b circuit.Entry, heights bool) (measure.Span, why.Why) {
	o := changeOver{Why: why.Of(why.ChangeOver, why.House)}
	o.add("station", scheme.NextStation)
	if b.Load.Kind != kit.None {
		o.add("implement", scheme.TakeUp)
	}
	o.stand(a, b, c.Library)
	o.strap(a, b)
	if heights {
		o.add("height", scheme.SetHeight)
	}
	return o.done(c.Library)
}

// changeOver adds the parts of a change-over up.
type changeOver struct {
	why.Why
	sum measure.Span
}

func (o *changeOver) add(name string, long measure.Span) {
	if long > 0 {
		o.sum += long
		o.Terms = append(o.Terms, why.Ms(name, int64(long)))
	}
}

// stand is down to the floor, to the knees, and up again.
func (o *changeOver) stand(a, b circuit.Entry, lib *moves.Library) {
	va, oka := lib.Get(a.Variant)
	vb, okb := lib.Get(b.Variant)
	if !oka || !okb {
		return
	}
	switch from, to := va.Pose.Level(), vb.Pose.Level(); {
	case from == to:
	case from == 2 || to == 2:
		o.add("floor", scheme.FloorUpDown)
	default:
		o.add("kneel", scheme.Kneel)
	}
}

func (o *changeOver) strap(a, b circuit.Entry) {
	ha, _ := moves.HoldOf(a.Hold)
	hb, _ := moves.HoldOf(b.Hold)
	if ha.Pad != hb.Pad {
		o.add("strap", scheme.Strap)
	}
}

// done puts the house's own times over the sum.
func (o *changeOver) done(lib *moves.Library) (measure.Span, why.Why) {
	if own := lib.ChangeOver(o.sum); own != o.sum {
		o.Terms = append(o.Terms, why.N("own", lib.Times().ChangeOverPct))
		o.sum = own
	}
	o.Terms = append(o.Terms, why.Ms("sum", int64(o.sum)))
	return o.sum, o.Why
}

// packingTime is what it takes to pack a container anew: 10 s, 3 s for each object moved,
// 15 s for each vessel filled (house); nothing where it stays as it is.
func packingTime(a, b kit.Load) measure.Span {
	if b.Kind != kit.Made || a.Kind != kit.Made || a.Container != b.Container || a.Container == "" {
		return 0
	}
	n := map[string]int{}
	long := measure.Span(scheme.Pack)
	for _, p := range a.Parts {
		n[p.ID] -= p.Count
	}
	for _, p := range b.Parts {
		n[p.ID] += p.Count
		long += scheme.FillVessel * measure.Span(len(p.Fills))
	}
	for _, moved := range n {
		long += scheme.PackObject * measure.Span(max(moved, -moved))
	}
	return long
}
