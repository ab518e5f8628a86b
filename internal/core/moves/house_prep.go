package moves

import (
	"encoding/json"
	"fmt"
	"slices"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/scheme"
)

// MaxPrep bounds the drills of a house's own prep.
const MaxPrep = 12

// PrepStep is a drill of a house's own prep: for seconds or so many repetitions, a side or in
// all, else as long as the time of the prep is shared out; with a load in a hold where it has
// one, which a place without that load does with the next lighter.
type PrepStep struct {
	Move  string          `json:"move"`
	Ms    measure.Span    `json:"ms,omitempty"`
	Reps  int             `json:"reps,omitempty"`
	InAll bool            `json:"inAll,omitempty"`
	Sides scheme.SideMode `json:"sides,omitempty"`
	Hold  HoldID          `json:"hold,omitempty"`
	LoadG measure.Mass    `json:"loadG,omitempty"`
}

// Own tells whether a step has a dose of its own.
func (p PrepStep) Own() bool { return p.Ms > 0 || p.Reps > 0 }

// UnmarshalJSON reads a step as it is written today, or as the move alone that it was once.
func (p *PrepStep) UnmarshalJSON(b []byte) error {
	if err := json.Unmarshal(b, &p.Move); err == nil {
		return nil
	}
	type plain PrepStep
	return json.Unmarshal(b, (*plain)(p))
}

// Bounds of a step.
const (
	mostPrepMs   = 5 * measure.Minute
	mostPrepReps = 100
)

// PrepFaults says what is wrong with the steps of a house's own prep that stand at a path:
// each move once, held as it can be, within bounds.
func (l *Library) PrepFaults(path string, steps []PrepStep) fault.List {
	var out fault.List
	if len(steps) > MaxPrep {
		out.Add(path, "at most %d drills", MaxPrep)
	}
	for i, x := range steps {
		at := fmt.Sprintf("%s[%d]", path, i)
		v, ok := l.Get(x.Move)
		switch {
		case !ok:
			out.Note(at+".move", "there is no such move", x.Move)
			continue
		case slices.ContainsFunc(steps[:i], func(y PrepStep) bool { return y.Move == x.Move }):
			out.Note(at+".move", "each once", x.Move)
		case x.LoadG == 0 && !slices.Contains(v.Holds, NoLoad):
			out.Note(at+".loadG", "it is not done without a load", x.Move)
		case x.LoadG > 0 && !slices.Contains(v.Holds, x.Hold):
			out.Note(at+".hold", fmt.Sprintf("%s is not held so", x.Move), x.Hold)
		}
		if x.Ms > 0 && x.Reps > 0 {
			out.Note(at+".reps", "seconds or repetitions, not both", x.Reps)
		}
		out.Within(at+".ms", int64(x.Ms), 0, int64(mostPrepMs))
		out.Within(at+".reps", int64(x.Reps), 0, mostPrepReps)
		out.Within(at+".loadG", int64(x.LoadG), 0, int64(measure.MaxLoad))
		if x.Sides != "" && !slices.Contains(scheme.SideModes, x.Sides) {
			out.Note(at+".sides", "both, split, rounds or alternate", x.Sides)
		}
	}
	return out
}
