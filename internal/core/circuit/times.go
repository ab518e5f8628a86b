package circuit

import (
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// Times of a class that are not in the document (house).
const (
	SideChange  = choice.SideChange
	teachNew    = 90 * measure.Second
	teachKnown  = 20 * measure.Second
	practice    = 5 // repetitions a side before a new move meets the clock
	handOver    = 5 * measure.Second
	shortClass  = 20 // minutes
	minPrep     = 4 * measure.Minute
	maxPrep     = 10 * measure.Minute
	prepPct     = 15
	shortPrep   = 20 // per cent
	minClose    = 3 * measure.Minute
	maxClose    = 5 * measure.Minute
	closePct    = 10
	shortClose  = 15 // per cent
	packing     = 10 * measure.Second
	packObject  = 3 * measure.Second
	fillVessel  = 15 * measure.Second
	takeUp      = 5 * measure.Second
	changeHold  = 2 * measure.Second
	kneel       = 3 * measure.Second
	floorUpDown = 6 * measure.Second
	withinHall  = 3 * measure.Second
	strap       = 12 * measure.Second
)

// PrepTime is 15 % of the class, from 4 to 10 minutes; a fifth of a class under 20
// minutes (house).
func PrepTime(minutes int) measure.Span {
	class := measure.Span(minutes) * measure.Minute
	if minutes < shortClass {
		return class * shortPrep / 100
	}
	return min(max(class*prepPct/100, minPrep), maxPrep)
}

// CloseTime is a tenth of the class, from 3 to 5 minutes; 15 % of a class under 20
// minutes (house).
func CloseTime(minutes int) measure.Span {
	class := measure.Span(minutes) * measure.Minute
	if minutes < shortClass {
		return class * shortClose / 100
	}
	return min(max(class*closePct/100, minClose), maxClose)
}

// learnTime is the time a slot's move is shown and tried before the clock.
func learnTime(s Slot, lib *moves.Library) measure.Span {
	if !s.New {
		return teachKnown
	}
	var set measure.Span
	for _, e := range s.Lanes {
		if v, ok := lib.Get(e.Variant); ok {
			m := scheme.Move{Reps: practice, Sides: v.SideCount(), Tempo: tempoOf(e)}
			_, work := m.Work(SideChange)
			set = max(set, work)
		}
	}
	return teachNew + set
}

func tempoOf(e Entry) scheme.Tempo {
	t, _ := scheme.ParseTempo(e.Tempo)
	return t
}

// ChangeOver is the time one lane needs from one entry to the next: another
// implement, another hold, kneeling, floor, the way to a bench, strap or pad
// (house; the parts add up).
func ChangeOver(a, b Entry, lib *moves.Library) (measure.Span, why.Why) {
	w := why.Of(why.ChangeOver, why.House)
	var sum measure.Span
	add := func(name string, long measure.Span) {
		sum += long
		w.Terms = append(w.Terms, why.Ms(name, int64(long)))
	}
	if b.Load.Kind != kit.None && !a.Load.Equal(b.Load) {
		add("implement", takeUp)
		if long := packingTime(a.Load, b.Load); long > 0 {
			add("packing", long)
		}
	} else if b.Load.Kind != kit.None && a.Hold != b.Hold {
		add("hold", changeHold)
	}
	va, oka := lib.Get(a.Variant)
	vb, okb := lib.Get(b.Variant)
	if oka && okb {
		from, to := va.Pose.Level(), vb.Pose.Level()
		switch {
		case from == to:
		case from == 2 || to == 2:
			add("floor", floorUpDown)
		default:
			add("kneel", kneel)
		}
	}
	if !slices.Equal(a.Anchors, b.Anchors) && len(b.Anchors) > 0 {
		add("walk", withinHall)
	}
	ha, _ := moves.HoldOf(a.Hold)
	hb, _ := moves.HoldOf(b.Hold)
	if ha.Pad != hb.Pad {
		add("strap", strap)
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
	long := measure.Span(packing)
	for _, p := range a.Parts {
		n[p.ID] -= p.Count
	}
	for _, p := range b.Parts {
		n[p.ID] += p.Count
		long += fillVessel * measure.Span(len(p.Fills))
	}
	for _, moved := range n {
		long += packObject * measure.Span(abs(moved))
	}
	return long
}

// splitCount are the repetitions a side that fit an interval, the sides split in it.
func splitCount(v *moves.Variant, work measure.Span) int {
	return scheme.FitWindow(work, v.TempoOf().PerRep(), 2, SideChange).PerSide
}

// setTime gives what one lane does in one interval.
type setTime struct {
	perSide int
	reps    int // of both sides in all
	work    measure.Span
	slack   measure.Span
	calls   []cue.SideCall
	why     why.Why
}

// timeSet fits an entry into the interval (by the clock) or counts its time (by
// repetitions).
func timeSet(d Document, e Entry) setTime {
	perRep := tempoOf(e).PerRep()
	var s setTime
	if d.Format == Timed {
		s = e.byClock(d, perRep)
	} else {
		s = e.byReps(d, perRep)
	}
	code := why.RepsByClock
	if d.Format == Reps {
		code = why.TimeByReps
	}
	s.why = why.Of(code, why.Arithmetic, why.Ms("work", int64(s.work)), why.Ms("perRep", int64(perRep)),
		why.N("perSide", s.perSide), why.N("reps", s.reps), why.Ms("slack", int64(s.slack)),
		why.ID("sides", string(e.Sides)))
	return s
}

func (e Entry) byClock(d Document, perRep measure.Span) setTime {
	one := scheme.FitWindow(d.WorkMs, perRep, 1, 0)
	switch e.Sides {
	case Split:
		f := scheme.FitWindow(d.WorkMs, perRep, 2, SideChange)
		return setTime{
			perSide: f.PerSide,
			reps:    2 * f.PerSide,
			work:    d.WorkMs,
			slack:   f.Slack,
			calls:   []cue.SideCall{splitAt(f.SwitchAt)},
		}
	case TurnByTurn:
		f := scheme.FitWindow(d.WorkMs, perRep, 2, 0)
		return setTime{perSide: f.PerSide, reps: 2 * f.PerSide, work: d.WorkMs, slack: f.Slack}
	case ByRound:
		return setTime{perSide: one.PerSide, reps: one.PerSide, work: d.WorkMs, slack: one.Slack,
			calls: byRound(d.Rounds, scheme.FitWindow(d.WorkMs, perRep, 2, SideChange).SwitchAt)}
	}
	return setTime{perSide: one.PerSide, reps: one.PerSide, work: d.WorkMs, slack: one.Slack}
}

func (e Entry) byReps(d Document, perRep measure.Span) setTime {
	n := measure.Span(e.Reps)
	switch e.Sides {
	case Split:
		return setTime{
			perSide: e.Reps,
			reps:    2 * e.Reps,
			work:    2*n*perRep + SideChange,
			calls:   []cue.SideCall{splitAt(n * perRep)},
		}
	case TurnByTurn:
		return setTime{perSide: e.Reps, reps: 2 * e.Reps, work: 2 * n * perRep}
	case ByRound:
		s := setTime{perSide: e.Reps, reps: e.Reps, work: n * perRep, calls: byRound(d.Rounds, (n+1)/2*perRep)}
		if d.Rounds%2 == 1 {
			s.work += SideChange
		}
		return s
	}
	return setTime{perSide: e.Reps, reps: e.Reps, work: n * perRep}
}

func splitAt(at measure.Span) cue.SideCall {
	return cue.SideCall{First: scheme.Left, Second: scheme.Right, SwitchAt: at, Change: SideChange}
}

// byRound deals whole rounds to the sides; the odd last one is shared.
func byRound(rounds int, half measure.Span) []cue.SideCall {
	var out []cue.SideCall
	for _, s := range scheme.SplitSides(rounds, 2, scheme.Left) {
		switch {
		case s.Right == 0:
			out = append(out, cue.SideCall{First: scheme.Left})
		case s.Left == 0:
			out = append(out, cue.SideCall{First: scheme.Right})
		default:
			out = append(out, splitAt(half))
		}
	}
	return out
}
