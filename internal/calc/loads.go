package calc

import (
	"fmt"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

type containerIn struct {
	ID       string         `json:"id" minLength:"1" maxLength:"60"`
	MassG    measure.Mass   `json:"massG" minimum:"0" maximum:"300000"`
	MaxG     measure.Mass   `json:"maxG" minimum:"1" maximum:"300000" doc:"the most it may weigh in all"`
	VolumeMl measure.Volume `json:"volumeMl" minimum:"0" maximum:"1000000" doc:"of the contents"`
}

type objectIn struct {
	ID       string         `json:"id" minLength:"1" maxLength:"60"`
	MassG    measure.Mass   `json:"massG" minimum:"1" maximum:"300000"`
	VolumeMl measure.Volume `json:"volumeMl" minimum:"0" maximum:"1000000"`
	Count    int            `json:"count" minimum:"0" maximum:"500"`
}

type fillableIn struct {
	ID       string         `json:"id" minLength:"1" maxLength:"60"`
	EmptyG   measure.Mass   `json:"emptyG" minimum:"1" maximum:"300000"`
	FullG    measure.Mass   `json:"fullG" minimum:"1" maximum:"300000"`
	StepG    measure.Mass   `json:"stepG" minimum:"1" maximum:"300000"`
	VolumeMl measure.Volume `json:"volumeMl" minimum:"0" maximum:"1000000"`
	Count    int            `json:"count" minimum:"0" maximum:"500"`
}

// SupplyIn is what loads are made of, in a request.
type SupplyIn struct {
	Container *containerIn `json:"container,omitempty" nullable:"false"`
	Objects   []objectIn   `json:"objects" maxItems:"40"`
	Fillables []fillableIn `json:"fillables" maxItems:"8"`
}

// supply checks what a schema cannot see: ids that stand once, vessels that hold
// something or nothing.
func (in SupplyIn) supply(c *check) kit.Supply {
	var s kit.Supply
	seen := map[string]bool{}
	once := func(path, id string) {
		if seen[id] {
			c.add(path, "the id stands twice: give each kind one of its own", id)
		}
		seen[id] = true
	}
	if v := in.Container; v != nil {
		if v.MaxG < v.MassG && c.good("container") {
			c.add("container.maxG", "it may not weigh less than the container does empty", v.MaxG)
		}
		s.Container = &kit.Vessel{ID: v.ID, Mass: v.MassG, Max: v.MaxG, Volume: v.VolumeMl}
	}
	for i, o := range in.Objects {
		once(fmt.Sprintf("objects[%d].id", i), o.ID)
		s.Objects = append(s.Objects, kit.Pieces{ID: o.ID, Mass: o.MassG, Volume: o.VolumeMl, Count: o.Count})
	}
	for i, f := range in.Fillables {
		once(fmt.Sprintf("fillables[%d].id", i), f.ID)
		if at := fmt.Sprintf("fillables[%d]", i); f.FullG < f.EmptyG && c.good(at) {
			c.add(at+".fullG", "full it weighs no less than empty", f.FullG)
		}
		s.Fillables = append(s.Fillables,
			kit.Fillable{ID: f.ID, Empty: f.EmptyG, Full: f.FullG, Step: f.StepG, Volume: f.VolumeMl, Count: f.Count})
	}
	return s
}

type loadRequest struct {
	TargetG    measure.Mass `json:"targetG" minimum:"1" maximum:"300000" doc:"of each load, its container included"`
	ToleranceG measure.Mass `json:"toleranceG" minimum:"0" maximum:"300000"`
	Loads      int          `json:"loads" minimum:"1" maximum:"2" doc:"two come out of one supply, each in a container of its own"`
	SupplyIn
}

type loadOut struct {
	TotalG measure.Mass  `json:"totalG" doc:"with the container"`
	ErrorG measure.Mass  `json:"errorG"`
	Parts  []kit.Portion `json:"parts"`
}

type loadAnswer struct {
	Feasible     bool         `json:"feasible"`
	Loads        []loadOut    `json:"loads,omitempty" doc:"heavier first"`
	Exact        bool         `json:"exact" doc:"proven: no other combination is better; false where about a second's work was not enough to prove it"`
	WithinG      measure.Mass `json:"withinG,omitempty" doc:"where it is not exact: how much nearer the best there is might be; left out where only the objects are not proven"`
	NearestBelow []loadOut    `json:"nearestBelow" nullable:"true" doc:"null where there is none, or when it is feasible"`
	NearestAbove []loadOut    `json:"nearestAbove" nullable:"true"`
}

func loadsOut(rs []kit.Recipe, target measure.Mass) []loadOut {
	var out []loadOut
	for _, r := range rs {
		out = append(out, loadOut{r.Total, r.Total - target, r.Parts})
	}
	return out
}

var load = define[loadAnswer](
	"load",
	"One load, or two equal ones, made from objects",
	`{"targetG":9000,"toleranceG":100,"loads":1,"container":{"id":"rucksack","massG":800,"maxG":15000,"volumeMl":20000},"objects":[{"id":"can","massG":455,"volumeMl":450,"count":20}],"fillables":[]}`,
	one(shapeOf(func(r loadRequest, c *check) any {
		s := r.supply(c)
		if c.Failed() {
			return nil
		}
		m := s.Make(c.ctx, r.TargetG, r.ToleranceG, r.Loads)
		return loadAnswer{
			m.Feasible(),
			loadsOut(m.Loads, r.TargetG),
			m.Exact,
			m.Within,
			loadsOut(m.Below, r.TargetG),
			loadsOut(m.Above, r.TargetG),
		}
	})),
)

type ruleRequest struct {
	FromG       measure.Mass `json:"fromG" minimum:"0" maximum:"300000"`
	ToG         measure.Mass `json:"toG" minimum:"0" maximum:"300000"`
	ResolutionG measure.Mass `json:"resolutionG" minimum:"1" maximum:"300000"`
	SupplyIn
}

type markOut struct {
	TotalG  measure.Mass  `json:"totalG"`
	Objects int           `json:"objects"`
	Parts   []kit.Portion `json:"parts"`
}

type gapOut struct {
	FromG   measure.Mass `json:"fromG"`
	ToG     measure.Mass `json:"toG"`
	StepPct float64      `json:"stepPct"`
}

type ruleAnswer struct {
	Loads []markOut `json:"loads"`
	Gaps  []gapOut  `json:"gaps" doc:"where the next load is more than a tenth heavier"`
	Exact bool      `json:"exact" doc:"every recipe is proven to be the best; false where about a second's work was not enough for that, the loads are all there anyhow"`
}

// mostMarks keeps an answer readable.
const mostMarks = 5000

var loadRule = define[ruleAnswer](
	"load-rule",
	"Every load that objects make, with the gaps between",
	`{"fromG":2000,"toG":20000,"resolutionG":50,"container":{"id":"rucksack","massG":800,"maxG":15000,"volumeMl":20000},"objects":[{"id":"can","massG":455,"volumeMl":450,"count":20}],"fillables":[]}`,
	one(shapeOf(func(r ruleRequest, c *check) any {
		s := r.supply(c)
		if span := c.good("fromG", "toG"); span && r.ToG < r.FromG {
			c.add("toG", "it is not under fromG", r.ToG)
		} else if span && c.good("resolutionG") && (r.ToG-r.FromG)/r.ResolutionG >= mostMarks {
			c.add("resolutionG", fmt.Sprintf("that is more than %d stretches: make the resolution coarser or the rule shorter", mostMarks), r.ResolutionG)
		}
		if c.Failed() {
			return nil
		}
		a := ruleAnswer{Loads: []markOut{}, Gaps: []gapOut{}}
		var totals []measure.Mass
		rule, exact := s.Rule(c.ctx, r.FromG, r.ToG, r.ResolutionG)
		a.Exact = exact
		for _, m := range rule {
			a.Loads = append(a.Loads, markOut{m.Total, m.Objects(), m.Parts})
			totals = append(totals, m.Total)
		}
		for _, g := range kit.Gaps(totals) {
			a.Gaps = append(a.Gaps, gapOut{g.From, g.To, measure.Round(100*(float64(g.To)/float64(g.From)-1), 1)})
		}
		return a
	})),
)

type bridgeRequest struct {
	Move         string         `json:"move" maxLength:"60"`
	BodyMassG    measure.Mass   `json:"bodyMassG" minimum:"20000" maximum:"300000"`
	FromG        measure.Mass   `json:"fromG" minimum:"1" maximum:"300000"`
	ToG          measure.Mass   `json:"toG" minimum:"1" maximum:"300000"`
	RepsLow      int            `json:"repsLow" minimum:"1" maximum:"100"`
	RepsHigh     int            `json:"repsHigh" minimum:"1" maximum:"100"`
	LastReps     int            `json:"lastReps" minimum:"0" maximum:"100"`
	SessionsOver int            `json:"sessionsOver" minimum:"0" maximum:"100" doc:"sessions running over the range"`
	Reserve      int            `json:"reserve" minimum:"0" maximum:"100"`
	Sets         int            `json:"sets,omitempty" minimum:"1" maximum:"20" default:"3"`
	FarTooLight  *bool          `json:"farTooLight,omitempty" nullable:"false" doc:"the verdict on the last set; left out, half as many again as the high end"`
	OneHand      bool           `json:"oneHand,omitempty" doc:"held in one hand"`
	Available    []measure.Mass `json:"available,omitempty" nullable:"false" minimum:"1" maximum:"300000" maxItems:"500" doc:"loads between that the place makes"`
}

type bridgeAnswer struct {
	IronStepPct       float64         `json:"ironStepPct"`
	ResistanceStepPct float64         `json:"resistanceStepPct"`
	Allowed           bool            `json:"allowed" doc:"by the step rule alone"`
	Ready             bool            `json:"ready"`
	PredictedReps     *int            `json:"predictedReps" doc:"at fromG, for repsLow at toG; null where the equation is refused"`
	AtNext            int             `json:"atNext" doc:"what the index predicts at toG from the last set"`
	Reached           bool            `json:"reached" doc:"whether the last week is at toG"`
	Between           *strength.Gap   `json:"between" doc:"the mass to look for where it is not reached"`
	Weeks             []strength.Week `json:"weeks"`
	Why               why.Why         `json:"why"`
}

var bridge = define[bridgeAnswer](
	"bridge",
	"A jump in load: allowed now, or the weeks between",
	`{"move":"goblet-squat","bodyMassG":70000,"fromG":16000,"toG":20000,"repsLow":8,"repsHigh":12,"lastReps":13,"sessionsOver":2,"reserve":2,"sets":3,"farTooLight":false}`,
	one(shapeOf(func(r bridgeRequest, c *check) any {
		v, ok := moveAt("move", r.Move, c)
		if ok && v.Staged() {
			c.add("move", "get-ups go by rungs and single repetitions, not by a bridge", r.Move)
		}
		if r.ToG <= r.FromG && c.good("fromG") {
			c.add("toG", "it is over fromG", r.ToG)
		}
		if r.RepsHigh < r.RepsLow && c.good("repsLow") {
			c.add("repsHigh", "it is not under repsLow", r.RepsHigh)
		}
		if !ok || c.Failed() {
			return nil
		}
		above, _ := moves.Standard().Above(v)
		far := strength.FarOver(r.LastReps, r.RepsHigh)
		if r.FarTooLight != nil {
			far = *r.FarTooLight
		}
		b := strength.Over(strength.Climb{
			Variant:      v,
			OneHand:      r.OneHand,
			Body:         r.BodyMassG,
			From:         r.FromG,
			To:           r.ToG,
			RepsLow:      r.RepsLow,
			RepsHigh:     r.RepsHigh,
			LastReps:     r.LastReps,
			SessionsOver: r.SessionsOver,
			Reserve:      r.Reserve,
			Sets:         r.Sets,
			FarTooLight:  far,
			Between:      r.Available,
			Above:        above,
		})
		return bridgeAnswer{
			measure.Round(b.IronPct, 1),
			measure.Round(b.ResistancePct, 1),
			b.Allowed,
			b.Ready,
			b.Predicted,
			b.AtNext,
			b.Reached,
			b.Between,
			b.Weeks,
			b.Why,
		}
	})),
)
