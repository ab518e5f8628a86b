package choice

import (
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// Repair mends a load that is not good enough.
type Repair string

// MoreReps goes up in the move's range, FewerReps down; Slower lengthens the
// lowering and Paused holds at the turn, for loads that are too light only.
const (
	MoreReps  Repair = "more-reps"
	FewerReps Repair = "fewer-reps"
	Slower    Repair = "slower"
	Paused    Repair = "pause"
)

// How far mends go (house): what slower lowering stands for, and with a pause; and how
// long a side of a set may get by them.
const (
	SlowerPct = 10.0
	PausedPct = 15.0
	mostSet   = 75 * measure.Second
)

// Mend is how a set is changed so that a load that is off is as hard as wanted.
type Mend struct {
	Reps    int
	Tempo   string
	Repairs []Repair
	// LeftPct is how far the effort still is off after repetitions and counts; negative
	// is too light.
	LeftPct float64
	// OK says that the set may be given; too heavy without a mend may not.
	OK bool
}

// effort says how far a set of n repetitions is off one of reps with the wanted load,
// in per cent, ratio being its comparable resistance by the wanted one.
func effort(n, reps, reserve int, ratio float64) float64 {
	wanted, err := strength.Factor(strength.Default, reps+reserve)
	f, err2 := strength.Factor(strength.Default, n+reserve)
	if err != nil || err2 != nil {
		return 0
	}
	return 100 * (f*ratio/wanted - 1)
}

// mend finds the change for a load whose comparable resistance is ratio times the
// wanted one and whose iron is so many per cent off. Too light: more repetitions
// within the range and mostSet, then slower lowering, then a pause, where the move takes
// them. Too heavy: fewer repetitions within the range, else refused; never tempo. By the
// clock the repetitions are given: clock is the interval, 0 for none.
func mend(v *moves.Variant, reps, reserve int, ratio, ironPct float64, clock measure.Span) Mend {
	own := min(max(reps, v.RepsLow), v.RepsHigh)
	if clock > 0 {
		own = reps
	}
	m := Mend{Reps: own, Tempo: v.TempoWritten(), LeftPct: effort(own, reps, reserve, ratio), OK: true}
	off := 100 * (ratio - 1)
	heavy, light := off > GoodResistancePct || ironPct > GoodIronPct, off < -GoodResistancePct
	if v.ByIronAlone() {
		heavy, light = off > GoodIronOverPct, off < -GoodIronPct
	}
	switch {
	case heavy:
		m.OK = false
		for n := own - 1; n >= v.RepsLow; n-- {
			if left := effort(n, reps, reserve, ratio); left <= 0 {
				return Mend{Reps: n, Tempo: v.TempoWritten(), Repairs: []Repair{FewerReps}, LeftPct: left, OK: true}
			}
		}
	case light:
		m.lengthen(v, reps, reserve, ratio, clock)
	}
	return m
}

// lengthen mends what is too light.
func (m *Mend) lengthen(v *moves.Variant, reps, reserve int, ratio float64, clock measure.Span) {
	perRep := v.PerRep()
	own := m.Reps
	if clock == 0 {
		for m.Reps < v.RepsHigh && effort(m.Reps, reps, reserve, ratio) < 0 && measure.Span(m.Reps+1)*perRep <= mostSet {
			m.Reps++
		}
	}
	m.LeftPct = effort(m.Reps, reps, reserve, ratio)
	if m.Reps > own {
		m.Repairs = append(m.Repairs, MoreReps)
	}
	if m.LeftPct >= 0 || !v.SlowerMends() {
		return
	}
	slow := v.TempoOf().Slower()
	fits := func(t scheme.Tempo) bool {
		if clock > 0 {
			return int(clock/t.PerRep()) >= v.RepsLow
		}
		return measure.Span(m.Reps)*t.PerRep() <= mostSet
	}
	if !fits(slow) {
		return
	}
	stands := SlowerPct
	m.Repairs = append(m.Repairs, Slower)
	if paused := slow; -m.LeftPct > SlowerPct {
		paused.Parts[1]++
		if fits(paused) {
			slow, stands = paused, PausedPct
			m.Repairs = append(m.Repairs, Paused)
		}
	}
	m.Tempo = slow.String()
	m.LeftPct = min(0, m.LeftPct+stands)
	if clock > 0 {
		m.Reps = int(clock / slow.PerRep())
	}
}

// CountByClock gives the repetitions a side of a move in an interval: both sides at
// once, the sides split where that reaches the low end, else one side a round.
func CountByClock(v *moves.Variant, work measure.Span) int {
	perRep := v.PerRep()
	switch v.Sides {
	case moves.PerSide:
		if n := scheme.FitWindow(work, perRep, 2, scheme.SideChange).PerSide; n >= v.RepsLow {
			return n
		}
	case moves.Alternating:
		return scheme.FitWindow(work, perRep, 2, 0).PerSide
	}
	return scheme.FitWindow(work, perRep, 1, 0).PerSide
}

// Dose gives the set an entry makes for the party: what the log says, else the usual
// repetitions, mended where the load is off. In the first sessions light is right.
func (j *Judge) Dose(e Entry) Mend {
	v := e.Variant
	reps := j.Reps(v)
	r := j.Reckon(e, reps)
	if d, ok := j.Decision(v); ok && r.Wanted.ByLog && r.IronPct > -byLogPct ||
		ok && !d.Loaded && e.Total == 0 && d.Reps > 0 {
		if j.Work > 0 {
			return Mend{Reps: reps, Tempo: v.TempoWritten(), OK: true}
		}
		return Mend{Reps: max(1, d.Reps), Tempo: v.TempoWritten(), OK: true}
	}
	if j.Starting(v) || !r.Numbered || r.Wanted.Total == 0 {
		return Mend{Reps: reps, Tempo: v.TempoWritten(), OK: true}
	}
	return mend(v, reps, strength.UsualReserve, 1+r.ResistancePct/100, r.IronPct, j.Work)
}

// Left is how far a set of n repetitions a side at a tempo falls short of one of reps
// with the wanted load, in per cent; what slower counts stand for is bounded.
func (j *Judge) Left(e Entry, reps, n int, tempo scheme.Tempo) float64 {
	r := j.Reckon(e, reps)
	if r.ShortPct == 0 {
		return 0
	}
	left := effort(n, reps, strength.UsualReserve, 1-r.ShortPct/100)
	if own := e.Variant.TempoOf(); e.Variant.SlowerMends() {
		stands := 0.0
		if tempo.Parts[0] > own.Parts[0] {
			stands = SlowerPct
		}
		if tempo.Parts[1] > own.Parts[1] {
			stands = min(PausedPct, stands+SlowerPct)
		}
		left += stands
	}
	return min(left, 0)
}

// why explains what a mend does.
func (m Mend) why() []why.Why {
	var out []why.Why
	for _, r := range m.Repairs {
		switch r {
		case MoreReps:
			out = append(out, why.Of(why.RepairMoreReps, why.Model, why.N("reps", m.Reps)))
		case FewerReps:
			out = append(out, why.Of(why.RepairFewerReps, why.Model, why.N("reps", m.Reps)))
		case Slower:
			out = append(out,
				why.Of(why.RepairSlower, why.House, why.ID("tempo", m.Tempo), why.Pct("stands", SlowerPct)))
		case Paused:
			out = append(out, why.Of(why.RepairPause, why.House, why.Pct("stands", PausedPct)))
		}
	}
	return out
}
