package studio

import (
	"context"
	"time"

	"nimbleanvil/internal/core/calendar"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
)

// Lane is how many people a class has in a lane and the body it is computed for.
type Lane struct {
	Lane    string           `json:"lane" enum:"ground,middle,reach"`
	People  int              `json:"people"`
	Body    measure.Quantity `json:"body"`
	Stature measure.Quantity `json:"stature"`
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
	// People are those who are named, and drop-ins.
	People []Participant `json:"people"`
}

// Participant is somebody in a class.
type Participant struct {
	ID       string `json:"id"`
	PersonID string `json:"personId,omitempty" doc:"who it is; nobody knows a drop-in"`
	Name     string `json:"name,omitempty"`
	SameName bool   `json:"sameName,omitempty" doc:"another has the name, and nothing tells them apart for sure"`
	Lane     string `json:"lane" enum:"ground,middle,reach"`
}

// OccurrenceInput is what is typed of a class.
type OccurrenceInput struct {
	Name    names.Name  `json:"name"`
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
	row       store.Class
	CircuitID string    `json:"circuitId,omitempty"`
	RunID     string    `json:"runId,omitempty" doc:"the newest run"`
	Logged    int       `json:"logged" doc:"log lines written"`
	Needs     []why.Why `json:"needs" doc:"what is still undone; empty when it can be run"`
	Slots     int       `json:"slots"`
	// Decided counts what the log decided for the next class.
	Decided []plan.Count `json:"decided"`
	// Moves says it by name of those who go up, easier, or are out.
	Moves []plan.Moved `json:"moves"`
	ToAsk int          `json:"toAsk" doc:"people of it who are to be asked the health questions"`
}

// RemoveOccurrence takes a class away in which nothing has happened, and answers what is left.
func (s Studio) RemoveOccurrence(ctx context.Context, id string) (Today, error) {
	if err := s.store.RemoveClass(ctx, s.scope, id); err != nil {
		return Today{}, err
	}
	return s.Today(ctx)
}

// Today is the state of the work.
type Today struct {
	NowMs int64        `json:"nowMs"`
	Next  *TodayClass  `json:"next,omitempty"`
	Later []TodayClass `json:"later"`
	Past  []TodayClass `json:"past" doc:"the newest first"`
	Items []kit.Item   `json:"items" doc:"kit that the needs name"`
}

// lanesOf reads the lanes of a class in the studio's unit.
func lanesOf(in []LaneInput, unit measure.Unit, at string, wrong *fault.List) []store.OccurrenceLane {
	rows := make([]people.LaneRow, 0, len(in))
	for _, l := range in {
		rows = append(rows, people.LaneRow(l))
	}
	lanes, faults := people.CheckLanes(rows, unit)
	for _, f := range faults.Under(at) {
		wrong.Note(f.Path, f.Message, f.Value)
	}
	out := make([]store.OccurrenceLane, 0, len(lanes))
	for _, l := range lanes {
		out = append(out, store.OccurrenceLane{
			Lane:           string(l.Lane),
			People:         l.People,
			BodyDecimal:    l.Body.Decimal,
			BodyUnit:       string(l.Body.Unit),
			BodyG:          l.Body.Whole,
			BodyKnown:      l.BodyKnown,
			StatureDecimal: l.Stature.Decimal,
			StatureUnit:    string(l.Stature.Unit),
			StatureMm:      l.Stature.Whole,
		})
	}
	return out
}

func occurrenceOf(c store.Class) Occurrence {
	o := Occurrence{
		ID:       c.PublicID,
		Name:     c.Name,
		Date:     c.LocalDate.Format(time.DateOnly),
		Time:     c.LocalTime,
		TimeZone: c.TimeZone,
		StartMs:  startOf(c.Occurrence).UnixMilli(),
		Minutes:  c.Minutes,
		PlaceID:  c.PlacePublicID,
		Place:    c.PlaceName,
		Lanes:    []Lane{},
		People:   []Participant{},
	}
	for _, a := range c.People {
		o.People = append(o.People, Participant{a.PublicID, a.PersonPublicID, a.Name, a.SameName, a.Lane})
	}
	for _, l := range moves.Lanes {
		for _, r := range c.Lanes {
			if r.Lane == string(l) {
				o.Lanes = append(
					o.Lanes,
					Lane{r.Lane, r.People, measure.Quantity{Typed: *typedOf(r.BodyDecimal, r.BodyUnit), Whole: r.BodyG},
						measure.Quantity{
							Typed: *typedOf(r.StatureDecimal, r.StatureUnit),
							Whole: r.StatureMm,
						}, r.BodyKnown},
				)
			}
		}
	}
	return o
}

// startOf gives the instant a class starts. Day, time and zone were read before they were
// kept; a zone that the machine has lost since is read as UTC.
func startOf(o store.Occurrence) time.Time {
	zone, err := names.Zone(o.TimeZone)
	if err != nil {
		zone = time.UTC
	}
	at, err := calendar.Instant(o.LocalDate, o.LocalTime, zone)
	if err != nil {
		return o.LocalDate
	}
	return at
}

// Occurrence reads a class with the state of its work.
func (s Studio) Occurrence(ctx context.Context, id string) (TodayClass, error) {
	row, err := s.store.Occurrence(ctx, s.scope, id)
	if err != nil {
		return TodayClass{}, err
	}
	all, _, err := s.todayClasses(ctx, []store.Listed{row})
	if err != nil {
		return TodayClass{}, err
	}
	return all[0], nil
}

// MoveOccurrence gives a class another day, time and name; whom it is for stays.
func (s Studio) MoveOccurrence(ctx context.Context, id string, in OccurrenceInput) error {
	c, err := s.store.Class(ctx, s.scope, id)
	if err != nil {
		return err
	}
	if c.LocalDate, err = names.Day(in.Date); err != nil {
		return fault.List{{Path: "date", Message: err.Error(), Value: in.Date}}
	}
	c.Name, c.LocalTime = string(in.Name), in.Time
	return s.store.PutClass(ctx, s.scope, c.PlacePublicID, c)
}

// PutOccurrence makes or changes a class.
func (s Studio) PutOccurrence(
	ctx context.Context,
	id string,
	in OccurrenceInput,
	wrong *fault.List,
) (Occurrence, error) {
	st, err := s.store.Studio(ctx, s.scope)
	if err != nil {
		return Occurrence{}, err
	}
	date, err := names.Day(in.Date)
	if err != nil {
		wrong.Note("date", err.Error(), in.Date)
	}
	lanes := lanesOf(in.Lanes, measure.Unit(st.MassUnit), "lanes", wrong)
	if err := wrong.Err(); err != nil {
		return Occurrence{}, err
	}
	row := store.Class{
		Occurrence: store.Occurrence{
			PublicID:  id,
			Name:      string(in.Name),
			LocalDate: date,
			LocalTime: in.Time,
			TimeZone:  st.TimeZone,
			Minutes:   in.Minutes,
		},
		Lanes: lanes,
	}
	if err := s.store.PutClass(ctx, s.scope, in.PlaceID, row); err != nil {
		return Occurrence{}, err
	}
	c, err := s.store.Class(ctx, s.scope, id)
	return occurrenceOf(c), err
}

// contextFor gathers what a document is looked at against.
func contextFor(class store.Class, p Place) plan.Context {
	c := plan.Context{Library: p.library, Stock: p.stock, Minutes: class.Minutes}
	day := dayOf(class.LocalDate)
	out := map[string]int{} // by lane
	for _, a := range class.People {
		if factsKept(a).Spared.Out {
			out[a.Lane]++
			c.Out = append(c.Out, people.Party(a.PublicID))
		}
	}
	for _, lane := range moves.Lanes {
		of := plan.Party{Lane: lane, Body: plan.DefaultBody, Stature: plan.DefaultStature, BodyUnknown: true}
		for _, l := range class.Lanes {
			if l.Lane == string(lane) {
				of.People, of.BodyUnknown = max(0, l.People-out[l.Lane]), !l.BodyKnown
				of.Body, of.Stature = measure.Mass(l.BodyG), measure.Length(l.StatureMm)
				c.Parties = append(c.Parties, of)
			}
		}
		for _, a := range class.People {
			if facts := factsKept(a); a.Lane == string(lane) && !facts.Spared.Out {
				who := of
				who.Participant, who.Who, who.People = a.PublicID, a.PersonPublicID, 1
				if a.PersonPublicID != "" {
					who = withPerson(who, facts, day, p.library)
				}
				c.Parties = append(c.Parties, who)
			}
		}
	}
	return c
}

// toAsk counts the people of a class who are to be asked the health questions by then.
func toAsk(class store.Class) int {
	n := 0
	for _, a := range class.People {
		if a.PersonPublicID != "" && factsKept(a).Spared.Due(dayOf(class.LocalDate)) {
			n++
		}
	}
	return n
}

// factsKept is what is known of a participant; it was checked when it was written.
func factsKept(a store.Attendee) people.Facts {
	f, _ := factsOf(a.Facts)
	return f
}

// How far Today looks.
const (
	daysBack    = 21
	daysAhead   = 28
	pastOnToday = 6
)

// Today gives the next class with what it still needs, those around it, and what the log
// decided for it.
func (s Studio) Today(ctx context.Context) (Today, error) {
	now := s.now()
	rows, err := s.store.Occurrences(ctx, s.scope, calendar.Day(now.AddDate(0, 0, -daysBack)),
		calendar.Day(now.AddDate(0, 0, daysAhead)))
	if err != nil {
		return Today{}, err
	}
	t := Today{NowMs: now.UnixMilli(), Later: []TodayClass{}, Past: []TodayClass{}, Items: []kit.Item{}}
	past := 0
	for _, o := range rows {
		if over(o.Occurrence, now) {
			past++
		}
	}
	rows = rows[max(0, past-pastOnToday):]
	classes, places, err := s.todayClasses(ctx, rows)
	if err != nil {
		return Today{}, err
	}
	for i, class := range classes {
		switch {
		case over(rows[i].Occurrence, now):
			t.Past = append([]TodayClass{class}, t.Past...)
		case t.Next == nil:
			p := places[rows[i].PlaceID]
			if err := s.decide(ctx, rows[i], &class, p); err != nil {
				return Today{}, err
			}
			t.Next, t.Items = &class, p.items()
		default:
			t.Later = append(t.Later, class)
		}
	}
	return t, nil
}

// decide counts what the log decided for a class, and what its circuit needs by that.
func (s Studio) decide(ctx context.Context, row store.Listed, class *TodayClass, p Place) (err error) {
	against := contextFor(class.row, p)
	if against.Past, err = s.store.Past(ctx, s.scope, row.Occurrence); err != nil {
		return err
	}
	decided := plan.Decisions(class.document, against)
	class.Decided, class.Moves = plan.CountDecisions(decided), plan.WhoMoves(decided)
	if d := class.document; len(d.Slots()) > 0 {
		class.Needs = plan.Needs(&d, plan.Look(d, against), against)
	}
	return nil
}

func over(o store.Occurrence, now time.Time) bool {
	return startOf(o).Add(time.Duration(o.Minutes) * time.Minute).Before(now)
}

// todayClasses gives classes with the state of their work, and what their places
// have, in a number of queries that does not grow with them.
func (s Studio) todayClasses(ctx context.Context, rows []store.Listed) ([]TodayClass, map[int64]Place, error) {
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
	work, err := s.store.WorkOn(ctx, s.scope, ids)
	if err != nil {
		return nil, places, err
	}
	stocks, err := s.store.Stocks(ctx, s.scope, at)
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
		row := store.Class{
			Occurrence:    r.Occurrence,
			Lanes:         work.Lanes[r.ID],
			People:        work.People[r.ID],
			PlacePublicID: r.PlacePublicID,
			PlaceName:     r.PlaceName,
		}
		t := TodayClass{
			row:        row,
			Occurrence: occurrenceOf(row),
			CircuitID:  work.Circuit[r.ID],
			RunID:      work.Run[r.ID],
			Logged:     work.Logged[r.ID],
			Decided:    []plan.Count{},
			Moves:      []plan.Moved{},
			ToAsk:      toAsk(row),
		}
		against := contextFor(row, places[r.PlaceID])
		// What is new or logged is the circuit's to say.
		against.Past.Known, against.Unread = []string{progress.All}, true
		if t.CircuitID == "" {
			t.Needs = plan.Needs(nil, plan.Plan{}, against)
		} else {
			d, err := circuit.Decode(work.Document[r.ID])
			if err != nil {
				return nil, places, err
			}
			t.document = d
			t.Slots, t.Needs = len(d.Slots()), plan.Needs(&d, plan.Look(d, against), against)
		}
		out = append(out, t)
	}
	return out, places, nil
}
