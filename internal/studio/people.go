package studio

import (
	"context"
	"time"

	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
)

// Person is somebody whom the studio knows by name.
type Person struct {
	ID       string `json:"id"`
	Name     string `json:"name"`
	SameName bool   `json:"sameName,omitempty" doc:"another has the name, and nothing tells them apart for sure"`
	Classes  int    `json:"classes"`
	Lane     string `json:"lane,omitempty" doc:"of the last class"`
	LastDate string `json:"lastDate,omitempty"`
	Series   string `json:"series,omitempty" doc:"of the last class, by name"`
}

// PersonInput is what is typed of a person.
type PersonInput struct {
	Name names.Name `json:"name"`
}

// JoinInput says who a person is too.
type JoinInput struct {
	PersonID string `json:"personId" pattern:"^[0-9a-z]{26}$"`
}

// PartInput says in which classes a person was somebody else.
type PartInput struct {
	PersonID     string   `json:"personId" pattern:"^[0-9a-z]{26}$" doc:"of the other, made anew"`
	Participants []string `json:"participants" minItems:"1" maxItems:"500"`
}

func personOf(k store.Known) Person {
	p := Person{ID: k.PublicID, Name: k.Name, SameName: k.SameName, Classes: k.Classes, Lane: k.Lane, Series: k.Series}
	if k.LastDate != nil {
		p.LastDate = k.LastDate.Format(time.DateOnly)
	}
	return p
}

// People lists whom the studio knows by name, or those of one name.
func (s Studio) People(ctx context.Context, name string) ([]Person, error) {
	rows, err := s.store.People(ctx, s.scope, name)
	out := []Person{}
	for _, r := range rows {
		out = append(out, personOf(r))
	}
	return out, err
}

// Person reads one.
func (s Studio) Person(ctx context.Context, id string) (Person, error) {
	k, err := s.store.Person(ctx, s.scope, id)
	return personOf(k), err
}

// PutPerson gives a person a name: nobody else's, whoever else has it.
func (s Studio) PutPerson(ctx context.Context, id string, in PersonInput) (Person, error) {
	if err := s.store.NamePerson(ctx, s.scope, id, string(in.Name)); err != nil {
		return Person{}, err
	}
	return s.Person(ctx, id)
}

// JoinPeople makes two people one.
func (s Studio) JoinPeople(ctx context.Context, id string, in JoinInput) (Person, error) {
	if err := s.store.JoinPeople(ctx, s.scope, id, in.PersonID); err != nil {
		return Person{}, err
	}
	return s.Person(ctx, id)
}

// PartPerson makes two of a person.
func (s Studio) PartPerson(ctx context.Context, id string, in PartInput) (Person, error) {
	if err := s.store.PartPerson(ctx, s.scope, id, in.PersonID, in.Participants); err != nil {
		return Person{}, err
	}
	return s.Person(ctx, in.PersonID)
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
