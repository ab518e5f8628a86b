// Package people holds what is asked of people before something is proposed to
// them: screens and gates.
package people

import (
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/why"
)

// Screen is a simple test of a joint that can be repeated.
type Screen string

// The joint screens, in the order of a gate's list.
const (
	Ankle     Screen = "ankle"
	Hip       Screen = "hip"
	Shin      Screen = "shin"
	UpperBack Screen = "upper-back"
	Shoulder  Screen = "shoulder"
)

// JointScreens lists the five that the gate to the back squat asks for.
var JointScreens = []Screen{Ankle, Hip, Shin, UpperBack, Shoulder}

// Result of a gate.
type Result string

// The results. PossibleNotNeeded: the numbers are there and no goal calls for
// it. NotTestable: the heaviest load of the kit is under the one to be tested.
const (
	Passed            Result = "passed"
	PossibleNotNeeded Result = "possible-not-needed"
	NotTestable       Result = "not-testable"
	NotYet            Result = "not-yet"
)

// GateReps in form, with half of body mass in front (common practice).
const GateReps = 25

// Attempt is what somebody did at the gate from the goblet squat to a bar on the
// back. Load is all implements together, two weights of the same total count;
// FormReps are those in form only.
type Attempt struct {
	Body, Load, Heaviest measure.Mass
	FormReps             int
	Screens              []Screen
	Bracing, Goal        bool
	// SlowFive says that five were done with 5-5-X and the load: with over 40 kg needed the
	// instructor may take that and 25 at 40 kg instead (house).
	SlowFive bool
}

// EnoughInHand is the load from which on the instructor may take slow ones for a heavier one
// (house).
const EnoughInHand measure.Mass = 40_000

// Needed is the load of the gate: half of body mass.
func (a Attempt) Needed() measure.Mass { return measure.Grams(float64(a.Body) / 2) }

// Missing lists what is still missing: screens in their order, then reps, load
// and bracing.
func (a Attempt) Missing() []string {
	out := []string{}
	for _, s := range JointScreens {
		if !slices.Contains(a.Screens, s) {
			out = append(out, string(s))
		}
	}
	if a.FormReps < GateReps {
		out = append(out, "reps")
	}
	if a.Load < a.Needed() && !a.slowly() {
		out = append(out, "load")
	}
	if !a.Bracing {
		out = append(out, "bracing")
	}
	return out
}

// slowly tells whether slow repetitions stand for a load that no hands hold.
func (a Attempt) slowly() bool {
	return a.SlowFive && a.Needed() > EnoughInHand && a.Load >= EnoughInHand
}

// Gate judges an attempt (common practice: 25 goblet squats in form with half of
// body mass, all five joint screens, bracing learned, and a goal that calls for a
// bar on the back).
func Gate(a Attempt) Result {
	switch {
	case len(a.Missing()) == 0 && a.Goal:
		return Passed
	case len(a.Missing()) == 0:
		return PossibleNotNeeded
	case a.Heaviest < a.Needed():
		return NotTestable
	}
	return NotYet
}

// WhyGate explains the load of the gate.
func WhyGate(a Attempt) why.Why {
	return why.Why{Code: why.GateHalfBody, Source: why.Practice, Terms: []why.Term{
		why.G("body", float64(a.Body)), why.G("needed", float64(a.Needed())), why.N("reps", GateReps)}}
}
