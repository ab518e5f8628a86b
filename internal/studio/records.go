package studio

import (
	"context"
	"encoding/json"
	"strconv"
	"strings"
	"time"

	"nimbleanvil/internal/core/calendar"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
)

// RecordInput is something that is known of a person from a day on, as it is typed: one of its
// parts.
type RecordInput struct {
	Date      string          `json:"date" format:"date" doc:"not after today"`
	Measure   *MeasureInput   `json:"measure,omitempty"`
	Level     *LevelInput     `json:"level,omitempty"`
	Screen    *ScreenInput    `json:"screen,omitempty"`
	Benchmark *BenchmarkInput `json:"benchmark,omitempty"`
	Limit     *LimitInput     `json:"limit,omitempty"`
	Learned   *LearnedInput   `json:"learned,omitempty"`
	Table     *TableInput     `json:"table,omitempty"`
}

// MeasureInput is a body as it was measured, as it is typed.
type MeasureInput struct {
	Body    string `json:"body,omitempty" maxLength:"40" doc:"from 20 to 300 kg"`
	Stature string `json:"stature,omitempty" maxLength:"40" doc:"from 100 to 230 cm"`
}

// LevelInput puts somebody on a rung.
type LevelInput struct {
	Move  string `json:"move" maxLength:"60" doc:"a rung of a ladder"`
	Cause string `json:"cause" enum:"by-hand,test,log"`
}

// ScreenInput is what was measured, as it is typed: lengths with their unit, else whole numbers,
// yes or no, men or women.
type ScreenInput struct {
	Screen string            `json:"screen" enum:"ankle,shin,hip,upper-back,shoulder,balance,chair-stand"`
	Values map[string]string `json:"values"`
}

// BenchmarkInput is a set that was done to see what somebody can.
type BenchmarkInput struct {
	Move    string `json:"move" maxLength:"60"`
	Load    string `json:"load,omitempty" maxLength:"40" doc:"all together; none where it is left out"`
	Reps    int    `json:"reps" minimum:"1" maximum:"100" doc:"in form, a side"`
	Reserve int    `json:"reserve" minimum:"0" maximum:"20" doc:"how many more would have gone"`
}

// LimitInput is what somebody is to be spared.
type LimitInput struct {
	Limit string `json:"limit" maxLength:"40"`
	Until string `json:"until,omitempty" pattern:"^([0-9]{4}-[0-9]{2}-[0-9]{2})?$" doc:"the last day of it; none yet where it is left out"`
}

// LearnedInput is something that was learned once.
type LearnedInput struct {
	Skill string `json:"skill" enum:"bracing,slow-five"`
}

// TableInput puts a stance factor that was learned from the log back to the table's.
type TableInput struct {
	Stance string `json:"stance" maxLength:"40"`
}

// PutRecord keeps something of a person under an id, or changes what is there.
func (s Studio) PutRecord(
	ctx context.Context,
	person, id string,
	in RecordInput,
	wrong *fault.List,
) (PersonPage, error) {
	date, err := s.pastDay(ctx, in.Date, wrong)
	if err != nil {
		return PersonPage{}, err
	}
	lib, err := s.library(ctx)
	if err != nil {
		return PersonPage{}, err
	}
	unit, err := s.unit(ctx)
	if err != nil {
		return PersonPage{}, err
	}
	r := in.read(typing{unit, wrong})
	r.Day = dayOf(date)
	for _, f := range r.Check(lib) {
		if wrong.Good(f.Path) {
			wrong.Note(f.Path, f.Message, f.Value)
		}
	}
	if err := wrong.Err(); err != nil {
		return PersonPage{}, err
	}
	row, err := recordRow(id, date, r)
	if err != nil {
		return PersonPage{}, err
	}
	if err := s.store.PutRecord(ctx, s.scope, person, row); err != nil {
		return PersonPage{}, err
	}
	return s.PersonPage(ctx, person)
}

func recordRow(id string, date time.Time, r people.Record) (store.PersonRecord, error) {
	data, err := json.Marshal(r)
	return store.PersonRecord{PublicID: id, Kind: string(r.Kind()), LocalDate: date, Data: data}, err
}

// RemoveRecord takes something back.
func (s Studio) RemoveRecord(ctx context.Context, person, id string) (PersonPage, error) {
	if err := s.store.RemoveRecord(ctx, s.scope, person, id); err != nil {
		return PersonPage{}, err
	}
	return s.PersonPage(ctx, person)
}

func (in RecordInput) read(t typing) people.Record {
	var r people.Record
	if m := in.Measure; m != nil {
		r.Measure = &people.Measure{}
		if !blankText(m.Body) {
			q, err := people.ReadBody(m.Body, t.unit)
			r.Measure.Body = t.quantity("measure.body", m.Body, q, err)
		}
		if !blankText(m.Stature) {
			q, err := people.ReadStature(m.Stature, t.unit.OfLength())
			r.Measure.Stature = t.quantity("measure.stature", m.Stature, q, err)
		}
	}
	if l := in.Level; l != nil {
		r.Level = &people.Level{Move: l.Move, Cause: people.Cause(l.Cause)}
	}
	if x := in.Screen; x != nil {
		r.Screen = t.screening(*x)
	}
	if b := in.Benchmark; b != nil {
		r.Benchmark = &people.Benchmark{Move: b.Move, Reps: b.Reps, Reserve: b.Reserve}
		if text := strings.TrimSpace(b.Load); text != "" && text != "0" {
			r.Benchmark.LoadG = measure.Mass(wholeOf(t.mass("benchmark.load", text)))
		}
	}
	if l := in.Limit; l != nil {
		r.Limit = &people.Limit{Limit: moves.LimitID(l.Limit)}
		if l.Until != "" {
			until, err := names.Day(l.Until)
			if err != nil {
				t.wrong.Note("limit.until", err.Error(), l.Until)
			}
			r.Limit.Until = calendar.DateOf(until)
		}
	}
	if l := in.Learned; l != nil {
		r.Learned = &people.Learned{Skill: people.Skill(l.Skill)}
	}
	if x := in.Table; x != nil {
		r.Table = &people.Table{Stance: x.Stance}
	}
	return r
}

func (t typing) quantity(field, text string, q measure.Quantity, err error) *measure.Quantity {
	if err != nil {
		t.wrong.Note(field, err.Error(), text)
	}
	return &q
}

// words are the values of a screen that are said in words.
var words = map[people.AskKind]map[string]float64{
	people.AsksYes:  {"yes": 1, "no": 0},
	people.AsksNorm: {"men": people.NormMen, "women": people.NormWomen},
}

// screening reads what was typed of a screen.
func (t typing) screening(in ScreenInput) *people.Screening {
	out := &people.Screening{Screen: people.Screen(in.Screen), Values: map[string]float64{}}
	kinds := map[string]people.AskKind{}
	for _, a := range out.Screen.Asks() {
		kinds[a.Name] = a.Kind
	}
	for name, text := range in.Values {
		at := "screen.values." + name
		kind, known := kinds[name]
		text = strings.TrimSpace(text)
		switch {
		case !known:
			out.Values[name] = 0 // said to be strange by its check
		case text == "":
		case words[kind] != nil:
			v, ok := words[kind][text]
			if !ok && kind == people.AsksYes {
				t.wrong.Note(at, "yes or no", text)
			} else if !ok {
				t.wrong.Note(at, "men or women", text)
			}
			out.Values[name] = v
		case kind == people.AsksLength && text != "0":
			if got := t.length(at, text, people.MostToWall); got.Decimal != "" {
				out.Values[name] = float64(wholeOf(got))
				if out.Typed == nil {
					out.Typed = map[string]measure.Typed{}
				}
				out.Typed[name] = *got
			} else {
				out.Values[name] = 0
			}
		default:
			n, err := strconv.Atoi(text)
			if err != nil {
				t.wrong.Note(at, "a whole number", text)
			}
			out.Values[name] = float64(n)
		}
	}
	return out
}
