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

// The blocks of a session in which a circuit stands between its prep and its close.
const (
	prepBlock = iota
	teachBlock
	workBlock
	closeBlock
)

// Session lays a document out as time sees it, with a rest grown where a change-over is
// longer.
func Session(d circuit.Document, c Context) scheme.Session {
	work := scheme.Block{Scheme: scheme.Circuit, RoundRest: d.RoundRestMs, Rounds: d.Rounds}
	teach := scheme.Block{Plain: scheme.Learn}
	for i, s := range d.Slots {
		x := scheme.Slot{Waves: s.Waves, HandOver: scheme.BetweenWaves}
		long := measure.Span(0)
		for _, u := range c.Users(s) {
			long = max(long, setOf(d, u.Entry).Work)
		}
		x.Works = []measure.Span{long}
		if i < len(d.Slots)-1 {
			x.Rest, _, _ = restBetween(d, s, d.Slots[i+1], c)
		}
		teach.Learn = append(teach.Learn, scheme.Lesson{Slot: i, Long: learnTime(s, c.Library)})
		work.Slots = append(work.Slots, x)
	}
	return scheme.Session{LeadIn: d.LeadInMs, Blocks: []scheme.Block{
		prepBlock:  {Plain: scheme.Prep, Length: scheme.PrepTime(c.Minutes)},
		teachBlock: teach,
		workBlock:  work,
		closeBlock: {Plain: scheme.Close, Length: scheme.CloseTime(c.Minutes)},
	}}
}

// Length gives how long a document takes.
func Length(d circuit.Document, c Context) measure.Span { return Session(d, c).Times().Total() }

// Open gives what stays of a document where rounds, work and rest are to be chosen.
func Open(d circuit.Document, c Context) scheme.Frame {
	return Session(d, c).Open(workBlock, d.Format == circuit.Timed)
}

// learnTime is the time a slot's move is shown and tried before the clock.
func learnTime(s circuit.Slot, lib *moves.Library) measure.Span {
	var sets []scheme.Move
	for _, e := range s.Entries {
		if v, ok := lib.Get(e.Variant); ok {
			sets = append(sets, scheme.Move{Sides: v.SideCount(), Tempo: e.ReadTempo()})
		}
	}
	return scheme.LearnTime(s.New, sets)
}

// setOf fits an entry into the interval (by the clock) or counts its time (by
// repetitions).
func setOf(d circuit.Document, e circuit.Entry) scheme.SetTime {
	s := SetOf(d.Rounds, e)
	if d.Format == circuit.Timed {
		return s.ByClock(d.WorkMs)
	}
	return s.ByReps(e.Reps)
}

// SetOf is one set of an entry in so many rounds.
func SetOf(rounds int, e circuit.Entry) scheme.Set {
	return scheme.Set{PerRep: e.ReadTempo().PerRep(), Sides: e.Sides, Rounds: rounds, Change: scheme.SideChange}
}

func whySet(d circuit.Document, e circuit.Entry, s scheme.SetTime) why.Why {
	code := why.RepsByClock
	if d.Format == circuit.Reps {
		code = why.TimeByReps
	}
	return why.Of(code, why.Arithmetic, why.Ms("work", int64(s.Work)),
		why.Ms("perRep", int64(e.ReadTempo().PerRep())), why.N("perSide", s.PerSide), why.N("reps", s.Reps),
		why.Ms("slack", int64(s.Slack)), why.ID("sides", string(e.Sides)))
}

// ChangeOver is the time a party needs from one entry to the next: another
// implement, another hold, kneeling, floor, the way to a bench, strap or pad
// (house; the parts add up).
func ChangeOver(a, b circuit.Entry, lib *moves.Library) (measure.Span, why.Why) {
	w := why.Of(why.ChangeOver, why.House)
	var sum measure.Span
	add := func(name string, long measure.Span) {
		sum += long
		w.Terms = append(w.Terms, why.Ms(name, int64(long)))
	}
	if b.Load.Kind != kit.None && !a.Load.Equal(b.Load) {
		add("implement", scheme.TakeUp)
		if long := packingTime(a.Load, b.Load); long > 0 {
			add("packing", long)
		}
	} else if b.Load.Kind != kit.None && a.Hold != b.Hold {
		add("hold", scheme.ChangeHold)
	}
	va, oka := lib.Get(a.Variant)
	vb, okb := lib.Get(b.Variant)
	if oka && okb {
		from, to := va.Pose.Level(), vb.Pose.Level()
		switch {
		case from == to:
		case from == 2 || to == 2:
			add("floor", scheme.FloorUpDown)
		default:
			add("kneel", scheme.Kneel)
		}
	}
	if !slices.Equal(a.Anchors, b.Anchors) && len(b.Anchors) > 0 {
		add("walk", scheme.WalkInHall)
	}
	ha, _ := moves.HoldOf(a.Hold)
	hb, _ := moves.HoldOf(b.Hold)
	if ha.Pad != hb.Pad {
		add("strap", scheme.Strap)
	}
	w.Terms = append(w.Terms, why.Ms("sum", int64(sum)))
	return sum, w
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
