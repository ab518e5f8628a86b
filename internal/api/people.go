package api

import (
	"context"
	"net/http"

	"nimbleanvil/internal/studio"
)

// PersonPath names a person.
type PersonPath struct {
	Person string `path:"person" pattern:"^[0-9a-z]{26}$"`
}

func registerPeople(r *routes) {
	operation(
		r,
		http.MethodGet,
		"/api/people",
		"list-people",
		"Whom the studio knows by name",
		func(ctx context.Context, st studio.Studio, in *struct {
			Name string `query:"name" maxLength:"480" doc:"those of one name only"`
		}) ([]studio.Person, error) {
			return st.People(ctx, in.Name)
		},
	)
	operation(
		r,
		http.MethodPut,
		"/api/people/{person}",
		"put-person",
		"Name a person; whoever else has the name is somebody else",
		func(ctx context.Context, st studio.Studio, in *struct {
			PersonPath
			Body studio.PersonInput
		}) (studio.Person, error) {
			return st.PutPerson(ctx, in.Person, in.Body)
		},
	)
	operation(
		r,
		http.MethodGet,
		"/api/people/{person}/classes",
		"list-attended",
		"The classes that a person was in, the newest first",
		func(ctx context.Context, st studio.Studio, in *PersonPath) ([]studio.Attended, error) {
			return st.Attended(ctx, in.Person)
		},
	)
	operation(
		r,
		http.MethodPost,
		"/api/people/{person}/join",
		"join-people",
		"Say that two people are one: what the other did is theirs",
		func(ctx context.Context, st studio.Studio, in *struct {
			PersonPath
			Body studio.JoinInput
		}) (studio.Person, error) {
			return st.JoinPeople(ctx, in.Person, in.Body)
		},
	)
	operation(
		r,
		http.MethodPost,
		"/api/people/{person}/part",
		"part-person",
		"Say in which classes a person was somebody else",
		func(ctx context.Context, st studio.Studio, in *struct {
			PersonPath
			Body studio.PartInput
		}) (studio.Person, error) {
			return st.PartPerson(ctx, in.Person, in.Body)
		},
	)
}
