package calc

import (
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/why"
)

type gateRequest struct {
	BodyMassG     measure.Mass `json:"bodyMassG" minimum:"20000" maximum:"300000"`
	LoadG         measure.Mass `json:"loadG" minimum:"0" maximum:"300000" doc:"in front, all implements together"`
	FormReps      int          `json:"formReps" minimum:"0" maximum:"100" doc:"repetitions in form only"`
	ScreensPassed []string     `json:"screensPassed" enum:"ankle,hip,shin,upper-back,shoulder" maxItems:"5" doc:"each once"`
	Bracing       bool         `json:"bracing" doc:"the brace has been learned"`
	GoalNeedsIt   bool         `json:"goalNeedsIt" doc:"a goal calls for a bar on the back"`
	HeaviestG     measure.Mass `json:"heaviestG" minimum:"0" maximum:"300000" doc:"the heaviest load the kit makes for this"`
}

type gateAnswer struct {
	Result  people.Result `json:"result" enum:"passed,possible-not-needed,not-testable,not-yet"`
	NeededG measure.Mass  `json:"neededG"`
	Missing []string      `json:"missing" enum:"ankle,hip,shin,upper-back,shoulder,reps,load,bracing"`
	Why     why.Why       `json:"why"`
}

var gate = define[gateAnswer](
	"gate",
	"Whether somebody is ready for a bar on the back",
	`{"bodyMassG":90718,"loadG":45359,"formReps":25,"screensPassed":["ankle","hip","shin","upper-back","shoulder"],"bracing":true,"goalNeedsIt":false,"heaviestG":50000}`,
	one(shapeOf(func(r gateRequest, c *check) any {
		if s := slices.Sorted(slices.Values(r.ScreensPassed)); len(slices.Compact(s)) < len(r.ScreensPassed) {
			c.add("screensPassed", "each screen once", r.ScreensPassed)
		}
		if c.Failed() {
			return nil
		}
		a := people.Attempt{
			Body:     r.BodyMassG,
			Load:     r.LoadG,
			Heaviest: r.HeaviestG,
			FormReps: r.FormReps,
			Bracing:  r.Bracing,
			Goal:     r.GoalNeedsIt,
		}
		for _, s := range r.ScreensPassed {
			a.Screens = append(a.Screens, people.Screen(s))
		}
		return gateAnswer{people.Gate(a), a.Needed(), a.Missing(), people.WhyGate(a)}
	})),
)
