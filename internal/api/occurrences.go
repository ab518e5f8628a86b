package api

import (
	"context"
	"errors"
	"net/http"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
)

// Lane is how many people a class has in a lane and the body it is computed for.
type Lane struct {
	Lane    string   `json:"lane" enum:"ground,middle,reach"`
	People  int      `json:"people"`
	Body    Quantity `json:"body"`
	Stature Quantity `json:"stature"`
	// BodyKnown says that somebody typed the body; else it is what is reckoned with, and
	// supports are judged for more.
	BodyKnown bool `json:"bodyKnown"`
}

// LaneInput is what is typed of a lane; body and stature are 70 kg and 170 cm
// when left out.
type LaneInput struct {
	Lane    string `json:"lane" enum:"ground,middle,reach"`
	People  int    `json:"people" minimum:"0" maximum:"500"`
	Body    string `json:"body,omitempty" maxLength:"40"`
	Stature string `json:"stature,omitempty" maxLength:"40"`
}

// Occurrence is one class at a day and time.
type Occurrence struct {
	ID       string `json:"id"`
	Name     string `json:"name"`
	Date     string `json:"date" format:"date"`
	Time     string `json:"time" doc:"local, hh:mm"`
	TimeZone string `json:"timeZone"`
	StartMs  int64  `json:"startMs" doc:"the instant it starts"`
	Minutes  int    `json:"minutes"`
	PlaceID  string `json:"placeId"`
	Place    string `json:"place"`
	Lanes    []Lane `json:"lanes"`
}

// OccurrenceInput is what is typed of a class.
type OccurrenceInput struct {
	Name    Name        `json:"name"`
	Date    string      `json:"date" format:"date" doc:"from 1970 to 2199"`
	Time    string      `json:"time" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" patternDescription:"a time such as 18:30"`
	Minutes int         `json:"minutes" minimum:"5" maximum:"240"`
	PlaceID string      `json:"placeId" pattern:"^[0-9a-z]{26}$"`
	Lanes   []LaneInput `json:"lanes" minItems:"1" maxItems:"3"`
}

// TodayClass is a class on Today with the state of its work.
type TodayClass struct {
	Occurrence
	document  circuit.Document
	CircuitID string    `json:"circuitId,omitempty"`
	RunID     string    `json:"runId,omitempty" doc:"the newest run"`
	Logged    int       `json:"logged" doc:"log lines written"`
	Needs     []why.Why `json:"needs" doc:"what is still undone; empty when it can be run"`
	Slots     int       `json:"slots"`
	// Decided counts what the log decided for the next class.
	Decided []circuit.Count `json:"decided"`
}

// Today is the state of the work.
type Today struct {
	NowMs int64        `json:"nowMs"`
	Next  *TodayClass  `json:"next,omitempty"`
	Later []TodayClass `json:"later"`
	Past  []TodayClass `json:"past" doc:"the newest first"`
	Items []Item       `json:"items" doc:"kit that the needs name"`
}

// Item names a piece of kit.
type Item struct {
	ID   string    `json:"id"`
	Name string    `json:"name"`
	Kind string    `json:"kind" doc:"kind of implement, or object or container"`
	Mass *Quantity `json:"mass,omitempty"`
}

// OccurrencePath names a class.
type OccurrencePath struct {
	Occurrence string `path:"occurrence" pattern:"^[0-9a-z]{26}$"`
}

func (s *server) registerOccurrences(a huma.API) {
	operation(a, http.MethodGet, "/api/today", "get-today", "The next class and what it still needs", s.today)
	operation(a, http.MethodGet, "/api/occurrences/{occurrence}", "get-occurrence", "A class",
		func(ctx context.Context, in *OccurrencePath) (*result[TodayClass], error) {
			row, err := s.Store.Occurrence(ctx, s.Scope, in.Occurrence)
			if err != nil {
				return nil, err
			}
			all, _, err := s.todayClasses(ctx, []store.Listed{row})
			if err != nil {
				return nil, err
			}
			return answer(all[0]), nil
		})
	checked(a, http.MethodPut, "/api/occurrences/{occurrence}", "put-occurrence", "Make or change a class", func(ctx context.Context, in *struct {
		OccurrencePath
		Body OccurrenceInput
	}, wrong *problem.Faults) (*result[Occurrence], error) {
		st, err := s.Store.Studio(ctx, s.Scope)
		if err != nil {
			return nil, err
		}
		b := in.Body
		date, err := names.Day(b.Date)
		if err != nil {
			wrong.Add("body.date", err.Error(), b.Date)
		}
		lanes := typed(st.MassUnit, wrong).laneRows(b.Lanes)
		if wrong.Failed() {
			return nil, wrong.Problem()
		}
		row := store.Class{Occurrence: store.Occurrence{PublicID: in.Occurrence, Name: string(b.Name), LocalDate: date, LocalTime: b.Time, TimeZone: st.TimeZone, Minutes: b.Minutes}, Lanes: lanes}
		if err := s.Store.PutClass(ctx, s.Scope, b.PlaceID, row); err != nil {
			return nil, err
		}
		c, err := s.Store.Class(ctx, s.Scope, in.Occurrence)
		if err != nil {
			return nil, err
		}
		return answer(occurrenceOf(c)), nil
	})
}

const (
	defaultBody    = "70 kg"
	defaultStature = "170 cm"
	maxPeople      = 500
)

// laneRows reads what was typed of the lanes. Somebody must be there.
func (t *typing) laneRows(in []LaneInput) []store.OccurrenceLane {
	var out []store.OccurrenceLane
	seen := map[string]bool{}
	people := 0
	for i, l := range in {
		at := "lanes[" + strconv.Itoa(i) + "]"
		if seen[l.Lane] {
			t.fault(at+".lane", "each lane stands once", l.Lane)
		}
		seen[l.Lane] = true
		people += l.People
		typed := l.Body != ""
		if l.Body == "" {
			l.Body = defaultBody
		}
		if l.Stature == "" {
			l.Stature = defaultStature
		}
		m, err := measure.ReadMass(l.Body, t.unit, body.MaxMass)
		if err == nil && measure.Mass(m.Whole) < body.MinMass {
			err = errors.New("a body of 20 to 300 kg, please")
		}
		if err != nil {
			t.fault(at+".body", err.Error(), l.Body)
		}
		h, err := measure.ReadLength(l.Stature, measure.Centimetre, body.MaxStature)
		if err == nil && measure.Length(h.Whole) < body.MinStature {
			err = errors.New("a stature of 100 to 230 cm, please")
		}
		if err != nil {
			t.fault(at+".stature", err.Error(), l.Stature)
		}
		out = append(out, store.OccurrenceLane{Lane: l.Lane, People: l.People, BodyDecimal: m.Decimal, BodyUnit: string(m.Unit), BodyG: m.Whole, BodyKnown: typed,
			StatureDecimal: h.Decimal, StatureUnit: string(h.Unit), StatureMm: h.Whole})
	}
	if people == 0 || people > maxPeople {
		t.fault("lanes", "a class has from 1 to 500 people", people)
	}
	return out
}

func occurrenceOf(c store.Class) Occurrence {
	o := Occurrence{ID: c.PublicID, Name: c.Name, Date: c.LocalDate.Format(time.DateOnly), Time: c.LocalTime, TimeZone: c.TimeZone,
		StartMs: startOf(c.Occurrence).UnixMilli(), Minutes: c.Minutes, PlaceID: c.PlacePublicID, Place: c.PlaceName, Lanes: []Lane{}}
	for _, l := range moves.Lanes {
		for _, r := range c.Lanes {
			if r.Lane == string(l) {
				o.Lanes = append(o.Lanes, Lane{r.Lane, r.People, Quantity{r.BodyDecimal, r.BodyUnit, r.BodyG}, Quantity{r.StatureDecimal, r.StatureUnit, r.StatureMm}, r.BodyKnown})
			}
		}
	}
	return o
}

// startOf gives the instant a class starts from its local day, time and zone.
func startOf(o store.Occurrence) time.Time {
	zone, err := time.LoadLocation(o.TimeZone)
	if err != nil {
		zone = time.UTC
	}
	at, err := time.Parse("15:04", o.LocalTime)
	if err != nil {
		return o.LocalDate
	}
	return time.Date(o.LocalDate.Year(), o.LocalDate.Month(), o.LocalDate.Day(), at.Hour(), at.Minute(), 0, 0, zone)
}

// context gathers what a document is looked at against.
func (o Occurrence) context(p Place) circuit.Context {
	c := circuit.Context{Library: p.library, Stock: p.stock, Minutes: o.Minutes}
	for _, l := range o.Lanes {
		c.Lanes = append(c.Lanes, circuit.LaneSpec{Lane: moves.Lane(l.Lane), People: l.People, Body: measure.Mass(l.Body.Whole), Stature: measure.Length(l.Stature.Whole), BodyUnknown: !l.BodyKnown})
	}
	return c
}

// How far Today looks.
const (
	daysBack    = 21
	daysAhead   = 28
	pastOnToday = 6
)

func (s *server) today(ctx context.Context, _ *struct{}) (*result[Today], error) {
	now := s.Now()
	rows, err := s.Store.Occurrences(ctx, s.Scope, day(now.AddDate(0, 0, -daysBack)), day(now.AddDate(0, 0, daysAhead)))
	if err != nil {
		return nil, err
	}
	t := Today{NowMs: now.UnixMilli(), Later: []TodayClass{}, Past: []TodayClass{}, Items: []Item{}}
	past := 0
	for _, o := range rows {
		if over(o.Occurrence, now) {
			past++
		}
	}
	rows = rows[max(0, past-pastOnToday):]
	classes, places, err := s.todayClasses(ctx, rows)
	if err != nil {
		return nil, err
	}
	for i, class := range classes {
		switch {
		case over(rows[i].Occurrence, now):
			t.Past = append([]TodayClass{class}, t.Past...)
		case t.Next == nil:
			p := places[rows[i].PlaceID]
			if err := s.decide(ctx, rows[i], &class, p); err != nil {
				return nil, err
			}
			t.Next, t.Items = &class, p.items()
		default:
			t.Later = append(t.Later, class)
		}
	}
	return answer(t), nil
}

// decide counts what the log decided for a class, and what its circuit needs by that.
func (s *server) decide(ctx context.Context, row store.Listed, class *TodayClass, p Place) (err error) {
	against := class.context(p)
	if against.Past, err = s.Store.Past(ctx, s.Scope, row.Occurrence); err != nil {
		return err
	}
	class.Decided = circuit.CountDecisions(circuit.Decisions(class.document, against))
	if d := class.document; len(d.Slots) > 0 {
		class.Needs = circuit.Needs(&d, circuit.Look(d, against), against)
	}
	return nil
}

// day gives the day alone, as the database keeps it.
func day(t time.Time) time.Time {
	return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC)
}

func over(o store.Occurrence, now time.Time) bool {
	return startOf(o).Add(time.Duration(o.Minutes) * time.Minute).Before(now)
}

// todayClasses gives classes with the state of their work, and what their places
// have, in a number of queries that does not grow with them.
func (s *server) todayClasses(ctx context.Context, rows []store.Listed) ([]TodayClass, map[int64]Place, error) {
	places := map[int64]Place{}
	if len(rows) == 0 {
		return nil, places, nil
	}
	var ids, at []int64
	for _, r := range rows {
		ids = append(ids, r.ID)
		if _, seen := places[r.PlaceID]; !seen {
			at = append(at, r.PlaceID)
			places[r.PlaceID] = Place{}
		}
	}
	work, err := s.Store.WorkOn(ctx, s.Scope, ids)
	if err != nil {
		return nil, places, err
	}
	stocks, err := s.Store.Stocks(ctx, s.Scope, at)
	if err != nil {
		return nil, places, err
	}
	for id, st := range stocks {
		p := placeOf(store.Place{}, st)
		if p.library, err = s.libraryOf(ctx, st.LibraryStamp); err != nil {
			return nil, places, err
		}
		places[id] = p
	}
	var out []TodayClass
	for _, r := range rows {
		t := TodayClass{Occurrence: occurrenceOf(store.Class{Occurrence: r.Occurrence, Lanes: work.Lanes[r.ID], PlacePublicID: r.PlacePublicID, PlaceName: r.PlaceName}),
			CircuitID: work.Circuit[r.ID], RunID: work.Run[r.ID], Logged: work.Logged[r.ID], Decided: []circuit.Count{}}
		against := t.context(places[r.PlaceID])
		against.Past.Known = []string{progress.All} // what is new or logged is the circuit's to say
		if t.CircuitID == "" {
			t.Needs = circuit.Needs(nil, circuit.Plan{}, against)
		} else {
			d, err := circuit.Decode(work.Document[r.ID])
			if err != nil {
				return nil, places, err
			}
			t.document = d
			t.Slots, t.Needs = len(d.Slots), circuit.Needs(&d, circuit.Look(d, against), against)
		}
		out = append(out, t)
	}
	return out, places, nil
}

// items names everything a place has.
func (p Place) items() []Item {
	out := []Item{}
	for _, i := range p.Implements {
		out = append(out, Item{i.ID, i.Name, i.Kind, i.Mass})
	}
	for _, o := range p.Objects {
		out = append(out, Item{o.ID, o.Name, "object", &o.Mass})
	}
	for _, c := range p.Containers {
		out = append(out, Item{c.ID, c.Name, "container", &c.Mass})
	}
	return out
}
