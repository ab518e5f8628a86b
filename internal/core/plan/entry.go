package plan

import (
	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/scheme"
)

// EntryFor writes a choice down as a lane's version, with the set it makes.
func EntryFor(f circuit.Format, j *choice.Judge, x choice.Entry) circuit.Entry {
	v := x.Variant
	dose := j.Dose(x)
	e := circuit.Entry{
		Variant: v.ID,
		Hold:    x.Hold,
		Load:    x.Load,
		Anchors: append([]string{}, x.Supports...),
		Tempo:   dose.Tempo,
		Dose:    circuit.Times(min(dose.Reps, circuit.MaxReps)),
		Sides:   scheme.BothSides,
	}
	switch {
	case v.Sides == moves.Alternating || v.InTurn:
		e.Sides = scheme.TurnByTurn
	case v.Sides == moves.PerSide:
		e.Sides = scheme.Split
		if f == circuit.Timed &&
			scheme.FitWindow(j.Work, v.PerRep(), 2, scheme.SideChange).PerSide < v.RepsLow {
			e.Sides = scheme.ByRound
		}
	}
	if j.Standing != nil && (e.Sides == scheme.Split || e.Sides == scheme.ByRound) && j.Standing.Weaker != "" {
		e.First = j.Standing.Weaker // the weaker side first, the other matches
	}
	return e
}
