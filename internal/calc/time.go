package calc

import (
	"errors"
	"strconv"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/scheme"
)

func itoa(i int) string { return strconv.Itoa(i) }

type timeFill struct {
	FitS     float64 `json:"fitS"     minimum:"1" maximum:"14400"`
	SolveFor string  `json:"solveFor"                             enum:"rounds,workS,restS"`
}

type repsFill struct {
	FitS     float64 `json:"fitS"     minimum:"1" maximum:"14400"`
	SolveFor string  `json:"solveFor"                             enum:"rounds" doc:"work follows from tempo and repetitions"`
}

type timedRequest struct {
	Kind          string    `json:"kind"                    enum:"timed"`
	Stations      int       `json:"stations"                             minimum:"1"     maximum:"100"`
	WorkS         *float64  `json:"workS,omitempty"                      minimum:"0.001" maximum:"14400" nullable:"false"`
	RestS         *float64  `json:"restS,omitempty"                      minimum:"0"     maximum:"14400" nullable:"false"`
	Rounds        *int      `json:"rounds,omitempty"                     minimum:"1"     maximum:"1000"  nullable:"false"`
	RoundRestS    float64   `json:"roundRestS"                           minimum:"0"     maximum:"14400"`
	LeadInS       float64   `json:"leadInS"                              minimum:"0"     maximum:"14400"`
	RestAfterLast bool      `json:"restAfterLast,omitempty"                                                               default:"false"`
	Fill          *timeFill `json:"fill,omitempty"`
}

type repsMove struct {
	Reps  int    `json:"reps"  minimum:"1" maximum:"100" doc:"a side"`
	Tempo string `json:"tempo"                           doc:"lowering-pause-lifting-pause, X as fast as is safe" maxLength:"20"`
	Sides int    `json:"sides" minimum:"1" maximum:"2"`
}

type repsRequest struct {
	Kind        string     `json:"kind"             enum:"reps"`
	Rounds      *int       `json:"rounds,omitempty"             nullable:"false" minimum:"1" maximum:"1000"`
	RoundRestS  float64    `json:"roundRestS"                                    minimum:"0" maximum:"14400"`
	LeadInS     float64    `json:"leadInS"                                       minimum:"0" maximum:"14400"`
	ChangeoverS float64    `json:"changeoverS"                                   minimum:"0" maximum:"14400"`
	SideChangeS float64    `json:"sideChangeS"                                   minimum:"0" maximum:"14400"`
	Moves       []repsMove `json:"moves"                                                                     minItems:"1" maxItems:"100"`
	Fill        *repsFill  `json:"fill,omitempty"`
}

type intervalRequest struct {
	Kind    string  `json:"kind"    enum:"interval"`
	EveryS  float64 `json:"everyS"                  minimum:"0.001" maximum:"14400"`
	Sets    int     `json:"sets"                    minimum:"1"     maximum:"1000"`
	LeadInS float64 `json:"leadInS"                 minimum:"0"     maximum:"14400"`
}

type windowTimeRequest struct {
	Kind    string  `json:"kind"    enum:"window"`
	WindowS float64 `json:"windowS"               minimum:"0.001" maximum:"14400"`
	LeadInS float64 `json:"leadInS"               minimum:"0"     maximum:"14400"`
}

type moveTime struct {
	Reps  int     `json:"reps"`
	WorkS float64 `json:"workS"`
}

type timeAnswer struct {
	Feasible *bool          `json:"feasible,omitempty"`
	TotalS   *float64       `json:"totalS,omitempty"`
	WorkS    *float64       `json:"workS,omitempty"`
	RestS    *float64       `json:"restS,omitempty"`
	LeadInS  *float64       `json:"leadInS,omitempty"`
	Reps     *int           `json:"reps,omitempty"`
	PerMove  []moveTime     `json:"perMove,omitempty"  doc:"one set of each"`
	Solved   map[string]int `json:"solved,omitempty"`
	SlackS   *float64       `json:"slackS,omitempty"`
	FitS     *float64       `json:"fitS,omitempty"     doc:"the least that would fit, when nothing does"`
}

func inS(s measure.Span) *float64 { f := s.InSeconds(); return &f }

func totals(t scheme.Total) timeAnswer {
	return timeAnswer{TotalS: inS(t.Total), WorkS: inS(t.Work), RestS: inS(t.Rest), LeadInS: inS(t.LeadIn)}
}

// alone answers for a scheme that does not say how much of it is rest.
func alone(t scheme.Timed) timeAnswer {
	total := t.Total()
	return timeAnswer{TotalS: inS(total.Total), LeadInS: inS(total.LeadIn)}
}

// given checks that a field stands in the request unless it is solved for.
func given[T any](name string, v *T, solveFor string, c *check) T {
	var zero T
	switch {
	case !c.good(name, "fill"):
	case v == nil && name != solveFor:
		c.add(name, "expected required property "+name+" to be present", nil)
	case v != nil && name == solveFor:
		c.add(name, "this is solved for: leave it out", *v)
	case v != nil:
		return *v
	}
	return zero
}

// solve finds the largest whole value that fits and answers with the totals at
// that value.
func solve(name string, fitS float64, least, most int, at func(int) (timeAnswer, measure.Span)) timeAnswer {
	fit := measure.Seconds(fitS)
	x, ok := scheme.Largest(fit, least, most, func(n int) measure.Span { _, t := at(n); return t })
	if !ok {
		_, need := at(least)
		return timeAnswer{Feasible: &ok, FitS: inS(need)}
	}
	a, total := at(x)
	a.Feasible, a.Solved, a.SlackS = &ok, map[string]int{name: x}, inS(fit-total)
	return a
}

// The most a solved field can be: a class of 240 minutes holds no more seconds.
const mostSolved = 14400

var timeCalc = define[timeAnswer]("time", "How long a scheme takes, or what fits the time",
	`{"kind":"timed","stations":6,"workS":40,"restS":20,"rounds":3,"roundRestS":60,"leadInS":0,"restAfterLast":false}`,
	map[string]shape{
		"timed": shapeOf(timed), "reps": shapeOf(repsTime),
		"interval": shapeOf(func(r intervalRequest, c *check) any {
			if c.Failed() {
				return nil
			}
			every := scheme.Timed{
				Stations: r.Sets,
				Rounds:   1,
				Work:     measure.Seconds(r.EveryS),
				LeadIn:   measure.Seconds(r.LeadInS),
			}
			return alone(every)
		}),
		"window": shapeOf(func(r windowTimeRequest, c *check) any {
			if c.Failed() {
				return nil
			}
			return alone(
				scheme.Timed{
					Stations: 1,
					Rounds:   1,
					Work:     measure.Seconds(r.WindowS),
					LeadIn:   measure.Seconds(r.LeadInS),
				},
			)
		}),
	})

func timed(r timedRequest, c *check) any {
	solveFor := ""
	if r.Fill != nil {
		solveFor = r.Fill.SolveFor
	}
	t := scheme.Timed{Stations: r.Stations, Rounds: given("rounds", r.Rounds, solveFor, c),
		Work:      measure.Seconds(given("workS", r.WorkS, solveFor, c)),
		Rest:      measure.Seconds(given("restS", r.RestS, solveFor, c)),
		RoundRest: measure.Seconds(r.RoundRestS), LeadIn: measure.Seconds(r.LeadInS), RestAfterLast: r.RestAfterLast}
	if c.Failed() {
		return nil
	}
	if r.Fill == nil {
		return totals(t.Total())
	}
	least := map[string]int{"rounds": 1, "workS": 1, "restS": 0}[solveFor]
	return solve(solveFor, r.Fill.FitS, least, mostSolved, func(n int) (timeAnswer, measure.Span) {
		x := t
		switch solveFor {
		case "rounds":
			x.Rounds = n
		case "workS":
			x.Work = measure.Span(n) * measure.Second
		case "restS":
			x.Rest = measure.Span(n) * measure.Second
		}
		return totals(x.Total()), x.Total().Total
	})
}

func repsTime(r repsRequest, c *check) any {
	solveFor := ""
	if r.Fill != nil {
		solveFor = r.Fill.SolveFor
	}
	s := scheme.Reps{
		Rounds:     given("rounds", r.Rounds, solveFor, c),
		RoundRest:  measure.Seconds(r.RoundRestS),
		LeadIn:     measure.Seconds(r.LeadInS),
		Changeover: measure.Seconds(r.ChangeoverS),
		SideChange: measure.Seconds(r.SideChangeS),
	}
	var per []moveTime
	for i, m := range r.Moves {
		t, err := someTempo(m.Tempo)
		if err != nil {
			c.add("moves["+itoa(i)+"].tempo", err.Error(), m.Tempo)
		}
		if c.Failed() {
			continue
		}
		move := scheme.Move{Reps: m.Reps, Sides: m.Sides, Tempo: t}
		reps, work := move.Work(s.SideChange)
		per = append(per, moveTime{reps, work.InSeconds()})
		s.Moves = append(s.Moves, move)
	}
	if c.Failed() {
		return nil
	}
	at := func(rounds int) (timeAnswer, measure.Span) {
		x := s
		x.Rounds = rounds
		total, reps := x.Total()
		a := totals(total)
		a.Reps, a.PerMove = &reps, per
		return a, total.Total
	}
	if r.Fill == nil {
		a, _ := at(s.Rounds)
		return a
	}
	return solve("rounds", r.Fill.FitS, 1, mostSolved, at)
}

// someTempo reads a tempo of some seconds.
func someTempo(text string) (scheme.Tempo, error) {
	t, err := scheme.ParseTempo(text)
	if err == nil && t.PerRep() == 0 {
		err = errors.New("a repetition takes some time: not all counts can be 0")
	}
	return t, err
}

type windowRequest struct {
	WorkS       float64  `json:"workS"                 minimum:"0" maximum:"14400"`
	Tempo       string   `json:"tempo"                                             maxLength:"20"`
	Sides       int      `json:"sides"                 minimum:"1" maximum:"2"`
	SideChangeS *float64 `json:"sideChangeS,omitempty" minimum:"0" maximum:"14400"                nullable:"false" default:"5"`
}

type windowAnswer struct {
	RepsPerSide int      `json:"repsPerSide"`
	SwitchAtS   *float64 `json:"switchAtS"   doc:"null for one side"`
	SlackS      float64  `json:"slackS"`
}

var window = define[windowAnswer](
	"window",
	"How many repetitions fit a stretch of work, and when to call the other side",
	`{"workS":40,"tempo":"2-0-2-0","sides":2,"sideChangeS":5}`,
	one(shapeOf(func(r windowRequest, c *check) any {
		t, err := someTempo(r.Tempo)
		if err != nil {
			c.add("tempo", err.Error(), r.Tempo)
		}
		if c.Failed() {
			return nil
		}
		change := 5.0
		if r.SideChangeS != nil {
			change = *r.SideChangeS
		}
		w := scheme.FitWindow(measure.Seconds(r.WorkS), t.PerRep(), r.Sides, measure.Seconds(change))
		a := windowAnswer{RepsPerSide: w.PerSide, SlackS: w.Slack.InSeconds()}
		if r.Sides == 2 {
			a.SwitchAtS = inS(w.SwitchAt)
		}
		return a
	})),
)

type sidesRequest struct {
	Sets   int         `json:"sets"             minimum:"1" maximum:"100"`
	Reps   int         `json:"reps"             minimum:"1" maximum:"100"`
	Weaker string      `json:"weaker,omitempty"                           enum:"left,right,none" default:"none"`
	First  scheme.Side `json:"first,omitempty"                            enum:"left,right"      default:"left"`
}

type sideSet struct {
	Left  int `json:"left"`
	Right int `json:"right"`
}

type sidesAnswer struct {
	Sets  []sideSet `json:"sets"`
	Left  int       `json:"left"`
	Right int       `json:"right"`
}

var sides = define[sidesAnswer]("sides", "How sets are dealt to the two sides",
	`{"sets":3,"reps":9,"weaker":"left","first":"left"}`,
	one(shapeOf(func(r sidesRequest, c *check) any {
		if c.Failed() {
			return nil
		}
		first := scheme.Left
		if r.First != "" {
			first = r.First
		}
		if r.Weaker == "left" || r.Weaker == "right" {
			first = scheme.Side(r.Weaker)
		}
		var a sidesAnswer
		for _, s := range scheme.SplitSides(r.Sets, r.Reps, first) {
			a.Sets = append(a.Sets, sideSet(s))
			a.Left, a.Right = a.Left+s.Left, a.Right+s.Right
		}
		return a
	})))
