package api

import (
	"context"
	"net/http"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/formats/studiofile"
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
	operation(
		r,
		http.MethodDelete,
		"/api/people/{person}/join/{merge}",
		"undo-join",
		"Make two people again of whom one was made",
		func(ctx context.Context, st studio.Studio, in *struct {
			PersonPath
			Merge string `path:"merge" pattern:"^[0-9a-z]{26}$"`
		}) (studio.Person, error) {
			return st.UndoJoin(ctx, in.Person, in.Merge)
		},
	)
	operation(
		r,
		http.MethodGet,
		"/api/people/{person}",
		"get-person",
		"A person with all that is known of them but their health",
		func(ctx context.Context, st studio.Studio, in *PersonPath) (studio.PersonPage, error) {
			return st.PersonPage(ctx, in.Person)
		},
	)
	operation(r, http.MethodDelete, "/api/people/{person}", "erase-person",
		"Erase a person from everything; what they did stays as nobody's",
		func(ctx context.Context, st studio.Studio, in *PersonPath) (studio.Erased, error) {
			return st.ErasePerson(ctx, in.Person)
		})
	whole(
		r,
		http.MethodGet,
		"/api/people/{person}/export",
		"export-person",
		"All that is known of a person, their health with it",
		func(ctx context.Context, st studio.Studio, in *PersonPath) (*exportedPerson, error) {
			f, err := st.PersonFile(ctx, in.Person)
			return &exportedPerson{`attachment; filename="person.json"`, f}, err
		},
	)
	operation(r, http.MethodGet, "/api/groups", "list-groups", "The groups: the classes of one name",
		func(ctx context.Context, st studio.Studio, _ *struct{}) ([]studio.Group, error) {
			return st.Groups(ctx)
		})
	operation(
		r,
		http.MethodPut,
		"/api/people/{person}/groups",
		"put-groups",
		"Say of which groups somebody is a regular",
		func(ctx context.Context, st studio.Studio, in *struct {
			PersonPath
			Body studio.GroupsInput
		}) (studio.Person, error) {
			return st.PutGroups(ctx, in.Person, in.Body)
		},
	)
	checked(
		r,
		http.MethodPut,
		"/api/people/{person}/records/{record}",
		"put-record",
		"Keep something of a person: a measure, level, screen, benchmark, limit, something learned, or a stance factor put back",
		func(ctx context.Context, st studio.Studio, in *struct {
			RecordPath
			Body studio.RecordInput
		}, wrong *fault.List) (studio.PersonPage, error) {
			return st.PutRecord(ctx, in.Person, in.Record, in.Body, wrong)
		},
	)
	operation(
		r,
		http.MethodDelete,
		"/api/people/{person}/records/{record}",
		"remove-record",
		"Take something back that was known of a person",
		func(ctx context.Context, st studio.Studio, in *RecordPath) (studio.PersonPage, error) {
			return st.RemoveRecord(ctx, in.Person, in.Record)
		},
	)
}

// RecordPath names a record of a person.
type RecordPath struct {
	PersonPath
	Record string `path:"record" pattern:"^[0-9a-z]{26}$"`
}

// exportedPerson is a person's file.
type exportedPerson struct {
	Disposition string `header:"Content-Disposition"`
	Body        studiofile.PersonFile
}
