package studio

import (
	"context"
	"slices"
	"time"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/figure"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/store"
)

// PersonPage is a person with all that is known of them but their health.
type PersonPage struct {
	Person
	Today   string            `json:"today" format:"date" doc:"the local day"`
	Body    *measure.Quantity `json:"body,omitempty" doc:"the newest; the lane's where it is left out"`
	Stature *measure.Quantity `json:"stature,omitempty"`
	// Held are the limits with where they are from.
	Held []people.Held `json:"held"`
	// Limits that can be added by hand; those that are named by why belong to the questions.
	Addable []moves.LimitID  `json:"addable"`
	Screens []ScreenState    `json:"screens"`
	Ladders []LadderState    `json:"ladders"`
	Gate    GateState        `json:"gate"`
	Tests   []BenchmarkState `json:"benchmarks"`
	Loads   []LoadsOfMove    `json:"loads"`
	// Stances are the stance factors as they were learned, Indices what the log says that they
	// can, by the scale on which resistances are compared.
	Stances []StanceState `json:"stances"`
	Indices []IndexState  `json:"indices"`
	// Records are what is known, the newest first.
	Records []RecordEntry `json:"records"`
	Merges  []MergeEntry  `json:"merges"`
}

// ScreenState is a screen as it was done last, if it was.
type ScreenState struct {
	Screen people.Screen  `json:"screen"`
	Asks   []people.Ask   `json:"asks"`
	NormMm measure.Length `json:"normMm,omitempty" doc:"of a length, for this stature"`
	Last   *ScreenDone    `json:"last,omitempty"`
	Figure *figure.Figure `json:"figure,omitempty" doc:"how it is done"`
}

// ScreenDone is what was measured and what it says.
type ScreenDone struct {
	Date   string             `json:"date" format:"date"`
	Values map[string]float64 `json:"values" doc:"yes is 1; lengths in millimetres"`
	people.Outcome
}

// LadderState is a ladder with where somebody stands on it, if they do.
type LadderState struct {
	Ladder  string        `json:"ladder"`
	Pattern moves.Pattern `json:"pattern"`
	Rungs   []LadderRung  `json:"rungs"`
	// At is the rung that they stand on; 0 for none: then the lane's holds.
	At    int          `json:"at"`
	Since string       `json:"since,omitempty"`
	Cause people.Cause `json:"cause,omitempty"`
	// Next is the test that leads a rung up.
	Next string `json:"next,omitempty"`
	// Says is what the log says of it for next time, where it names another rung.
	Says *LadderAdvice `json:"says,omitempty"`
}

// LadderRung is a rung with the lanes whose mark it is.
type LadderRung struct {
	Move  string       `json:"move"`
	Rung  int          `json:"rung"`
	Lanes []moves.Lane `json:"lanes"`
}

// LadderAdvice is a rung up or down that the log leads to.
type LadderAdvice struct {
	Move string  `json:"move"`
	Why  why.Why `json:"why"`
}

// GateState is how somebody stands at the gate to a bar on the back.
type GateState struct {
	Result   people.Result `json:"result" enum:"passed,possible-not-needed,not-testable,not-yet"`
	NeededG  measure.Mass  `json:"neededG"`
	Missing  []string      `json:"missing" enum:"ankle,hip,shin,upper-back,shoulder,reps,load,bracing"`
	LoadG    measure.Mass  `json:"loadG"`
	FormReps int           `json:"formReps"`
	Why      why.Why       `json:"why"`
}

// BenchmarkState is a benchmark with what it shows.
type BenchmarkState struct {
	ID      string       `json:"id"`
	Date    string       `json:"date" format:"date"`
	Move    string       `json:"move"`
	LoadG   measure.Mass `json:"loadG"`
	Reps    int          `json:"reps"`
	Reserve int          `json:"reserve"`
	IndexG  measure.Mass `json:"indexG" doc:"the resistance index"`
	Old     bool         `json:"old" doc:"over eight weeks: it says nothing any more"`
}

// LoadsOfMove are what somebody did of a move, the oldest first.
type LoadsOfMove struct {
	Move string `json:"move"`
	Did  []Did  `json:"did"`
}

// Showing is a set that shows what somebody can.
type Showing struct {
	Date   string       `json:"date" format:"date"`
	Move   string       `json:"move"`
	LoadG  measure.Mass `json:"loadG"`
	Reps   int          `json:"reps" doc:"in form, a side"`
	Left   int          `json:"left" doc:"what counts as left"`
	IndexG measure.Mass `json:"indexG"`
}

// StanceState is a stance factor of the table as it was learned for somebody.
type StanceState struct {
	Stance string       `json:"stance"`
	Scale  string       `json:"scale" enum:"squat,hinge,bridge,bench-bridge"`
	Table  float64      `json:"table"`
	Factor float64      `json:"factor" doc:"the table's until there are two pairs"`
	Pairs  []StancePair `json:"pairs" doc:"the last ones, the oldest first"`
}

// StancePair is a set on one leg, or split, beside one on two legs.
type StancePair struct {
	One    Showing `json:"one"`
	Two    Showing `json:"two"`
	Factor float64 `json:"factor" doc:"at which both show the same"`
}

// IndexState is what somebody can on a scale by their log.
type IndexState struct {
	Scale  string       `json:"scale" enum:"squat,hinge,bridge,bench-bridge"`
	IndexG measure.Mass `json:"indexG" doc:"the median of the sets"`
	ByReps bool         `json:"byReps" doc:"what was left was not asked, or is not counted yet"`
	Sets   []Showing    `json:"sets" doc:"the best of each session that counts, the oldest first"`
}

// Did is one set of a log.
type Did struct {
	Date   string       `json:"date" format:"date"`
	Class  string       `json:"class"`
	LoadG  measure.Mass `json:"loadG"`
	Reps   int          `json:"reps"`
	InForm int          `json:"inForm"`
}

// RecordEntry is one record.
type RecordEntry struct {
	ID   string      `json:"id"`
	Date string      `json:"date" format:"date"`
	Kind people.Kind `json:"kind"`
	people.Record
}

// MergeEntry is somebody who was made one with a person.
type MergeEntry struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// PersonPage reads a person.
func (s Studio) PersonPage(ctx context.Context, id string) (PersonPage, error) {
	k, err := s.store.Person(ctx, s.scope, id)
	if err != nil {
		return PersonPage{}, err
	}
	lib, day, err := s.libraryToday(ctx)
	if err != nil {
		return PersonPage{}, err
	}
	head, err := personOf(k, lib, day)
	if err != nil {
		return PersonPage{}, err
	}
	facts, err := knownFacts(k)
	if err != nil {
		return PersonPage{}, err
	}
	rows, err := s.store.Records(ctx, s.scope, id)
	if err != nil {
		return PersonPage{}, err
	}
	did, err := s.store.Did(ctx, s.scope, id)
	if err != nil {
		return PersonPage{}, err
	}
	stock, err := s.stockOf(ctx, id)
	if err != nil {
		return PersonPage{}, err
	}
	merges, err := s.store.Merges(ctx, s.scope, id)
	if err != nil {
		return PersonPage{}, err
	}
	lane := moves.Lane(head.Lane)
	if lane == "" {
		lane = moves.Ground
	}
	party := withPerson(
		plan.Party{
			Lane:        lane,
			Participant: id,
			Who:         id,
			People:      1,
			Body:        plan.DefaultBody,
			Stature:     plan.DefaultStature,
			BodyUnknown: true,
		},
		facts,
		day,
		lib,
	)
	past := progress.Past{Day: day}
	for _, r := range did {
		past.Lines = append(past.Lines, r.LogLine.Past(r.LocalDate, id))
	}
	judge := choice.For(choice.Class{Library: lib, Stock: stock, Past: past}, party.Judged())
	out := PersonPage{
		Person: head, Today: dateOf(day), Body: party.Standing.Body, Stature: party.Standing.Stature,
		Held:    append([]people.Held{}, party.Standing.Limits...),
		Addable: slices.DeleteFunc(moves.Limits(), moves.LimitID.OfHealth),
		Screens: screenStates(lib, facts, day, party.Stature),
		Ladders: ladderStates(lib, *party.Standing, judge),
		Gate:    gateState(lib, stock, judge),
		Tests:   benchmarkStates(lib, rows, facts, party.Body, day),
		Loads:   loadsOf(did),
		Stances: []StanceState{}, Indices: []IndexState{},
		Records: recordEntries(rows, facts),
		Merges:  []MergeEntry{},
	}
	can := judge.Ability()
	for _, x := range can.Stances {
		st := StanceState{
			Stance: x.ID, Scale: x.Scale, Table: x.Table, Factor: measure.Round(x.Factor, 3), Pairs: []StancePair{},
		}
		for _, p := range x.Pairs {
			st.Pairs = append(st.Pairs, StancePair{showing(p.One), showing(p.Two), measure.Round(p.Factor, 3)})
		}
		out.Stances = append(out.Stances, st)
	}
	for _, x := range can.Indices {
		in := IndexState{Scale: x.Scale, IndexG: measure.Grams(x.Index), ByReps: x.ByReps, Sets: []Showing{}}
		for _, set := range x.Sets {
			in.Sets = append(in.Sets, showing(set))
		}
		out.Indices = append(out.Indices, in)
	}
	for _, m := range merges {
		out.Merges = append(out.Merges, MergeEntry{m.PublicID, m.Name})
	}
	return out, nil
}

func showing(x progress.Showing) Showing {
	return Showing{dateOf(x.Day), x.Move, x.Load, x.Reps, x.Left, measure.Grams(x.Index)}
}

// stockOf is the kit of the place where a person was last.
func (s Studio) stockOf(ctx context.Context, person string) (kit.Stock, error) {
	id, err := s.store.NewestPlace(ctx, s.scope, person)
	if err != nil || id == 0 {
		return kit.Stock{}, err
	}
	all, err := s.store.Stocks(ctx, s.scope, []int64{id})
	return placeOf(store.Place{}, all[id]).stock.Until(ctx), err
}

func screenStates(lib *moves.Library, f people.Facts, day int, stature measure.Length) []ScreenState {
	out := []ScreenState{}
	for _, id := range people.Screens {
		x := ScreenState{Screen: id, Asks: id.Asks(), Figure: figureOf(lib, "screen-"+string(id))}
		if id == people.Ankle {
			x.NormMm = people.AnkleNorm(stature)
		}
		for _, r := range f.Records {
			if r.Screen != nil && r.Screen.Screen == id && r.Day <= day {
				x.Last = &ScreenDone{dateOf(r.Day), r.Screen.Values, r.Screen.Judge(stature)}
			}
		}
		out = append(out, x)
	}
	return out
}

func ladderStates(lib *moves.Library, st people.Standing, j *choice.Judge) []LadderState {
	out := []LadderState{}
	at := map[string]int{}
	for _, v := range lib.All() {
		if v.Ladder == "" {
			continue
		}
		i, had := at[v.Ladder]
		if !had {
			i = len(out)
			at[v.Ladder] = i
			out = append(out, LadderState{Ladder: v.Ladder, Pattern: v.Pattern, Rungs: []LadderRung{}})
		}
		out[i].Rungs = append(out[i].Rungs, LadderRung{v.ID, v.Rung, append([]moves.Lane{}, v.Lanes...)})
		if r, ok := st.Rungs[v.Ladder]; ok && r.Rung == v.Rung {
			out[i].At, out[i].Since, out[i].Cause, out[i].Next = v.Rung, dateOf(r.Day), r.Cause, v.Test
		}
		if d, ok := j.Decision(v); ok && d.To != "" {
			out[i].Says = &LadderAdvice{d.To, d.Why}
		}
	}
	for i := range out {
		slices.SortFunc(out[i].Rungs, func(a, b LadderRung) int { return a.Rung - b.Rung })
	}
	return out
}

func gateState(lib *moves.Library, stock kit.Stock, j *choice.Judge) GateState {
	heaviest := measure.Mass(0)
	for _, v := range lib.All() {
		if !v.ReadiesBar() {
			continue
		}
		for _, id := range v.Holds {
			h, _ := moves.HoldOf(id)
			for _, m := range stock.Totals(v, h) {
				heaviest = max(heaviest, m)
			}
		}
	}
	j.Aim = goal.Of(goal.General)
	a := j.Attempt(heaviest)
	return GateState{people.Gate(a), a.Needed(), a.Missing(), a.Load, a.FormReps, people.WhyGate(a)}
}

func benchmarkStates(
	lib *moves.Library,
	rows []store.PersonRecord,
	f people.Facts,
	body measure.Mass,
	day int,
) []BenchmarkState {
	out := []BenchmarkState{}
	for i, r := range f.Records {
		if r.Benchmark == nil || i >= len(rows) {
			continue
		}
		b := *r.Benchmark
		b.Day = r.Day
		x := BenchmarkState{
			ID: rows[i].PublicID, Date: dateOf(r.Day), Move: b.Move, LoadG: b.LoadG, Reps: b.Reps, Reserve: b.Reserve,
			Old: b.Old(day),
		}
		if v, ok := lib.Get(b.Move); ok {
			if index, ok := choice.Index(v, b, body); ok {
				x.IndexG = measure.Grams(index)
			}
		}
		out = append(out, x)
	}
	slices.Reverse(out)
	return out
}

func loadsOf(rows []store.DidRow) []LoadsOfMove {
	out := []LoadsOfMove{}
	at := map[string]int{}
	for _, r := range rows {
		i, had := at[r.Variant]
		if !had {
			i = len(out)
			at[r.Variant] = i
			out = append(out, LoadsOfMove{Move: r.Variant, Did: []Did{}})
		}
		out[i].Did = append(out[i].Did, Did{
			r.LocalDate.Format(time.DateOnly), r.Class, measure.Mass(r.LoadG), r.Done, r.InForm,
		})
	}
	return out
}

func recordEntries(rows []store.PersonRecord, f people.Facts) []RecordEntry {
	out := []RecordEntry{}
	for i := len(rows) - 1; i >= 0; i-- {
		if i < len(f.Records) {
			out = append(out, RecordEntry{
				rows[i].PublicID, rows[i].LocalDate.Format(time.DateOnly), people.Kind(rows[i].Kind), f.Records[i],
			})
		}
	}
	return out
}
