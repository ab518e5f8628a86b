package kit

import (
	"nimbleanvil/internal/core/moves"
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

// Mend is how a set is changed so that a load that is off is as hard as wanted.
type Mend struct {
	Reps    int
	Tempo   string
	Repairs []Repair
	// LeftPct is how far the effort still is off, by the repetitions alone; what
	// slower counts add is not reckoned.
	LeftPct float64
	// OK says that the set may be given; too heavy without a mend may not.
	OK bool
}

// pauseFrom is how much must be missing before slower lowering alone is too little
// (house).
const pauseFrom = -20.0

// mend finds the change for a load whose comparable resistance is ratio times the
// wanted one and whose iron is so many per cent off. Too light: more repetitions
// within the range, then slower lowering, then a pause. Too heavy: fewer repetitions
// within the range, else refused; never tempo.
func mend(v *moves.Variant, reps, reserve int, ratio, ironPct float64) Mend {
	wanted, err := strength.Factor(strength.Default, reps+reserve)
	if err != nil || ratio <= 0 {
		return Mend{Reps: reps, Tempo: v.Tempo, OK: ironPct <= 0}
	}
	effort := func(n int) float64 {
		f, err := strength.Factor(strength.Default, n+reserve)
		if err != nil {
			return 0
		}
		return 100 * (f*ratio/wanted - 1)
	}
	own := min(max(reps, v.RepsLow), v.RepsHigh)
	m := Mend{Reps: own, Tempo: v.Tempo, LeftPct: effort(own), OK: true}
	off := 100 * (ratio - 1)
	switch {
	case off > GoodResistancePct || ironPct > GoodIronPct:
		m.OK = false
		for n := own - 1; n >= v.RepsLow; n-- {
			if left := effort(n); left <= 0 {
				return Mend{Reps: n, Tempo: v.Tempo, Repairs: []Repair{FewerReps}, LeftPct: left, OK: true}
			}
		}
	case off < -GoodResistancePct || ironPct < -GoodIronPct:
		n := own
		for n < v.RepsHigh && effort(n) < 0 && n+1+reserve <= 30 {
			n++
		}
		m.Reps, m.LeftPct = n, effort(n)
		if n > own {
			m.Repairs = append(m.Repairs, MoreReps)
		}
		if m.LeftPct < 0 {
			m.Repairs = append(m.Repairs, Slower)
			t := v.TempoOf().Slower()
			if m.LeftPct < pauseFrom {
				m.Repairs = append(m.Repairs, Paused)
				t.Parts[1]++
			}
			m.Tempo = t.String()
		}
	}
	return m
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
			out = append(out, why.Of(why.RepairSlower, why.House, why.ID("tempo", m.Tempo)))
		case Paused:
			out = append(out, why.Of(why.RepairPause, why.House))
		}
	}
	return out
}
