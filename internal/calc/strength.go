package calc

import (
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

type strengthRequest struct {
	LoadG    *measure.Mass     `json:"loadG,omitempty" nullable:"false" minimum:"0" maximum:"300000" doc:"this or maxG"`
	MaxG     *measure.Mass     `json:"maxG,omitempty" nullable:"false" minimum:"0" maximum:"600000" doc:"this or loadG"`
	Reps     int               `json:"reps" minimum:"1" maximum:"100"`
	Reserve  int               `json:"reserve" minimum:"0" maximum:"100" doc:"repetitions that could still have been done"`
	Equation strength.Equation `json:"equation,omitempty" enum:"default,epley,brzycki,lombardi,oconner,wathan,mayhew,lander" default:"default"`
}

type strengthAnswer struct {
	MaxG       *measure.Mass `json:"maxG,omitempty"`
	LoadG      *measure.Mass `json:"loadG,omitempty"`
	Confidence string        `json:"confidence" enum:"normal,low"`
}

var strengthCalc = define[strengthAnswer]("strength", "Load, repetitions and reserve to a maximum, and back",
	`{"loadG":24000,"reps":10,"reserve":0,"equation":"default"}`,
	one(shapeOf(func(r strengthRequest, c *check) any {
		if (r.LoadG == nil) == (r.MaxG == nil) && c.good("maxG") {
			c.add("loadG", "expected exactly one of loadG and maxG", nil)
		}
		n, f := r.Reps+r.Reserve, 0.0
		if c.good("reps", "reserve", "equation") {
			var err error
			if f, err = strength.Factor(r.Equation, n); err != nil {
				c.add("reps", err.Error(), r.Reps)
			}
		}
		if c.Failed() {
			return nil
		}
		a := strengthAnswer{Confidence: "normal"}
		if n > strength.LowConfidenceOver {
			a.Confidence = "low"
		}
		if r.LoadG != nil {
			m := measure.Grams(float64(*r.LoadG) * f)
			a.MaxG = &m
		} else {
			m := measure.Grams(float64(*r.MaxG) / f)
			a.LoadG = &m
		}
		return a
	})))

type verdictRequest struct {
	PlannedReps int  `json:"plannedReps" minimum:"1" maximum:"100"`
	DoneReps    int  `json:"doneReps" minimum:"0" maximum:"100"`
	FormReps    int  `json:"formReps" minimum:"0" maximum:"100" doc:"repetitions in form"`
	Reserve     *int `json:"reserve,omitempty" nullable:"false" minimum:"0" maximum:"100"`
}

type verdictAnswer struct {
	Verdict strength.Verdict `json:"verdict" enum:"form-lost,heavy,far-too-light,light,right"`
	AtLimit bool             `json:"atLimit"`
	Why     why.Why          `json:"why"`
}

var verdict = define[verdictAnswer]("verdict", "Whether a set had the right weight",
	`{"plannedReps":10,"doneReps":10,"formReps":10,"reserve":2}`,
	one(shapeOf(func(r verdictRequest, c *check) any {
		if r.FormReps > r.DoneReps && c.good("doneReps") {
			c.add("formReps", "no more repetitions are in form than were done", r.FormReps)
		}
		if c.Failed() {
			return nil
		}
		s := strength.Set{Planned: r.PlannedReps, Done: r.DoneReps, InForm: r.FormReps, Reserve: r.Reserve}
		v, limit := strength.Judge(s)
		return verdictAnswer{v, limit, strength.WhyVerdict(s, v, limit)}
	})))

type roleRequest struct {
	WorkingG  measure.Mass      `json:"workingG" minimum:"0" maximum:"300000" doc:"working load of about ten repetitions"`
	Role      strength.Role     `json:"role" enum:"alone,superset,finisher"`
	School    strength.School   `json:"school" enum:"percent,reserve"`
	Available []measure.Mass    `json:"available,omitempty" nullable:"false" minimum:"0" maximum:"300000" minItems:"1" maxItems:"1000"`
	Rounding  strength.Rounding `json:"rounding,omitempty" enum:"nearest,never-above" default:"nearest"`
}

// RoleChoice is the part of the answer that needs loads to choose from.
type RoleChoice struct {
	ChosenG *measure.Mass     `json:"chosenG" doc:"null when nothing is light enough"`
	Rule    strength.Rounding `json:"rule" enum:"nearest,never-above"`
}

type roleAnswer struct {
	WantedG measure.Mass `json:"wantedG"`
	*RoleChoice
}

var role = define[roleAnswer]("role", "The load of a move alone, in a superset, or as a finisher",
	`{"workingG":22680,"role":"superset","school":"percent"}`,
	one(shapeOf(func(r roleRequest, c *check) any {
		wanted := 0.0
		if c.good("role", "school", "workingG") {
			var err error
			if wanted, err = strength.RoleLoad(r.WorkingG, r.Role, r.School); err != nil {
				c.add("role", err.Error(), r.Role)
			}
		}
		if c.Failed() {
			return nil
		}
		a := roleAnswer{WantedG: measure.Grams(wanted)}
		if r.Available == nil {
			return a
		}
		if r.Rounding == "" {
			r.Rounding = strength.Nearest
		}
		a.RoleChoice = &RoleChoice{Rule: r.Rounding}
		if m, ok := strength.Choose(wanted, r.Available, r.Rounding); ok {
			a.ChosenG = &m
		}
		return a
	})))
