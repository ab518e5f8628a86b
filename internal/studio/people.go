package studio

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"nimbleanvil/internal/core/calendar"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
)

// Person is somebody whom the studio knows by name.
type Person struct {
	ID       string `json:"id"`
	Name     string `json:"name"`
	SameName bool   `json:"sameName,omitempty" doc:"another has the name, and nothing tells them apart for sure"`
	MassUnit string `json:"massUnit,omitempty" doc:"that they read masses in; the studio's where it is left out"`
	Weaker   string `json:"weaker,omitempty" doc:"the side that begins"`
	Note     string `json:"note,omitempty" doc:"never of health"`
	Classes  int    `json:"classes"`
	Lane     string `json:"lane,omitempty" doc:"of the last class"`
	LastDate string `json:"lastDate,omitempty"`
	Series   string `json:"series,omitempty" doc:"of the last class, by name"`
	// Groups are those that they are a regular of, by id.
	Groups []string `json:"groups"`
	// Limits are what they are spared, plain ones.
	Limits []moves.LimitID `json:"limits"`
	Out    bool            `json:"out,omitempty" doc:"not in the class until cleared"`
	Ground bool            `json:"ground,omitempty" doc:"at Ground until cleared"`
	ToAsk  bool            `json:"toAsk,omitempty" doc:"the health questions are to be asked: never answered, a year ago, or something changed"`
}

// PersonInput is what is typed of a person.
type PersonInput struct {
	Name     names.Name `json:"name"`
	MassUnit string     `json:"massUnit,omitempty" enum:",kg,lb" doc:"that they read masses in; the studio's where it is left out"`
	Weaker   string     `json:"weaker,omitempty" enum:",left,right" doc:"the side that begins"`
	Note     names.Note `json:"note,omitempty" doc:"up to 280 letters; nothing of health, which has a place of its own"`
}

// Group is people who come together: the classes of one name.
type Group struct {
	ID       string `json:"id"`
	Name     string `json:"name"`
	Regulars int    `json:"regulars"`
}

// GroupsInput are the groups that somebody is a regular of, by id.
type GroupsInput struct {
	Groups []PublicID `json:"groups" maxItems:"50"`
}

// PublicID is the id of something, as whoever makes it draws it.
type PublicID string

func plainIDs(ids []PublicID) []string {
	out := make([]string, 0, len(ids))
	for _, id := range ids {
		out = append(out, string(id))
	}
	return out
}

// JoinInput says who a person is too.
type JoinInput struct {
	PersonID string `json:"personId" pattern:"^[0-9a-z]{26}$"`
}

// PartInput says in which classes a person was somebody else.
type PartInput struct {
	PersonID     string     `json:"personId" pattern:"^[0-9a-z]{26}$" doc:"of the other, made anew"`
	Participants []PublicID `json:"participants" minItems:"1" maxItems:"500"`
}

// dayOf numbers local days as the past does.
func dayOf(date time.Time) int { return int(calendar.DateOf(date)) }

// dateOf is a day as it is written.
func dateOf(day int) string { return calendar.Date(day).String() }

// today is the local day.
func (s Studio) today(ctx context.Context) (int, error) {
	st, err := s.store.Studio(ctx, s.scope)
	return dayOf(calendar.Day(s.localNow(st))), err
}

// factsOf reads what is kept of a person as the core's value.
func factsOf(f store.Facts) (people.Facts, error) {
	out := people.Facts{Weaker: scheme.Side(f.Weaker)}
	var err error
	if len(f.Spared) > 0 {
		err = json.Unmarshal(f.Spared, &out.Spared)
	}
	for _, r := range f.Records {
		var x people.Record
		err = errors.Join(err, json.Unmarshal(r.Data, &x))
		x.Day = r.Day
		out.Records = append(out.Records, x)
	}
	return out, err
}

func knownFacts(k store.Known) (people.Facts, error) { return factsOf(k.Facts) }

func personOf(k store.Known, lib *moves.Library, day int) (Person, error) {
	p := Person{
		ID: k.PublicID, Name: k.Name, SameName: k.SameName, MassUnit: k.MassUnit, Weaker: k.Weaker, Note: k.Note,
		Classes: k.Classes, Lane: k.Lane, Series: k.Series, Groups: []string{}, Limits: []moves.LimitID{},
	}
	if k.LastDate != nil {
		p.LastDate = k.LastDate.Format(time.DateOnly)
	}
	for _, g := range k.Groups {
		p.Groups = append(p.Groups, g.PublicID)
	}
	facts, err := knownFacts(k)
	st := facts.On(day, lib, plan.DefaultStature)
	p.Limits = append(p.Limits, st.Plain()...)
	p.Out, p.Ground, p.ToAsk = st.Out, st.Ground, facts.Spared.Due(day)
	return p, err
}

// People lists whom the studio knows by name, or those of one name.
func (s Studio) People(ctx context.Context, name string) ([]Person, error) {
	rows, err := s.store.People(ctx, s.scope, name, store.ListedPeople)
	if err != nil {
		return nil, err
	}
	lib, day, err := s.libraryToday(ctx)
	out := []Person{}
	for _, r := range rows {
		p, bad := personOf(r, lib, day)
		err = errors.Join(err, bad)
		out = append(out, p)
	}
	return out, err
}

// libraryToday is what people are looked at with.
func (s Studio) libraryToday(ctx context.Context) (*moves.Library, int, error) {
	lib, err := s.library(ctx)
	if err != nil {
		return nil, 0, err
	}
	day, err := s.today(ctx)
	return lib, day, err
}

// Person reads one.
func (s Studio) Person(ctx context.Context, id string) (Person, error) {
	k, err := s.store.Person(ctx, s.scope, id)
	if err != nil {
		return Person{}, err
	}
	lib, day, err := s.libraryToday(ctx)
	if err != nil {
		return Person{}, err
	}
	return personOf(k, lib, day)
}

// PutPerson makes a person, or changes what is typed of them. One of a new name is nobody
// else's, whoever else has it.
func (s Studio) PutPerson(ctx context.Context, id string, in PersonInput) (Person, error) {
	row := store.Person{
		PublicID: id, Name: string(in.Name), MassUnit: in.MassUnit, Weaker: in.Weaker, Note: string(in.Note),
	}
	if err := s.store.PutPerson(ctx, s.scope, row); err != nil {
		return Person{}, err
	}
	return s.Person(ctx, id)
}

// Groups lists the groups by name.
func (s Studio) Groups(ctx context.Context) ([]Group, error) {
	rows, err := s.store.Groups(ctx, s.scope)
	out := []Group{}
	for _, r := range rows {
		out = append(out, Group{r.PublicID, r.Name, r.Regulars})
	}
	return out, err
}

// PutGroups makes somebody a regular of just these groups.
func (s Studio) PutGroups(ctx context.Context, id string, in GroupsInput) (Person, error) {
	if err := s.store.PutGroups(ctx, s.scope, id, plainIDs(in.Groups)); err != nil {
		return Person{}, err
	}
	return s.Person(ctx, id)
}

// JoinPeople makes two people one.
func (s Studio) JoinPeople(ctx context.Context, id string, in JoinInput) (Person, error) {
	if err := s.store.JoinPeople(ctx, s.scope, id, in.PersonID, spare); err != nil {
		return Person{}, err
	}
	return s.Person(ctx, id)
}

// UndoJoin makes two of whom one was made.
func (s Studio) UndoJoin(ctx context.Context, id, merge string) (Person, error) {
	if err := s.store.UndoJoin(ctx, s.scope, id, merge, spare); err != nil {
		return Person{}, err
	}
	return s.Person(ctx, id)
}

// PartPerson makes two of a person.
func (s Studio) PartPerson(ctx context.Context, id string, in PartInput) (Person, error) {
	if err := s.store.PartPerson(ctx, s.scope, id, in.PersonID, plainIDs(in.Participants)); err != nil {
		return Person{}, err
	}
	return s.Person(ctx, in.PersonID)
}

// Erased says what stays of somebody who was erased.
type Erased struct {
	Classes int `json:"classes" doc:"in which they are nobody now"`
}

// ErasePerson takes somebody out of everything.
func (s Studio) ErasePerson(ctx context.Context, id string) (Erased, error) {
	n, err := s.store.ErasePerson(ctx, s.scope, id)
	return Erased{n}, err
}

// Attended lists the classes that a person was in, the newest first.
func (s Studio) Attended(ctx context.Context, id string) ([]Attended, error) {
	if _, err := s.store.Person(ctx, s.scope, id); err != nil {
		return nil, err
	}
	rows, err := s.store.Attended(ctx, s.scope, id)
	out := []Attended{}
	for _, r := range rows {
		out = append(out, Attended{
			ParticipantID: r.PublicID, OccurrenceID: r.Occurrence, Name: r.ClassName, Date: r.LocalDate.Format(time.DateOnly), Lane: r.Lane,
		})
	}
	return out, err
}

// Attended is a class that a person was in.
type Attended struct {
	ParticipantID string `json:"participantId"`
	OccurrenceID  string `json:"occurrenceId"`
	Name          string `json:"name"`
	Date          string `json:"date" format:"date"`
	Lane          string `json:"lane" enum:"ground,middle,reach"`
}

// withPerson lays what is known of a person over the party that they are reckoned as.
func withPerson(p plan.Party, f people.Facts, day int, lib *moves.Library) plan.Party {
	st := f.On(day, lib, p.Stature)
	p.Standing = &st
	if st.Body != nil {
		p.Body, p.BodyUnknown = measure.Mass(st.Body.Whole), false
	}
	if st.Stature != nil {
		p.Stature = measure.Length(st.Stature.Whole)
	}
	return p
}
