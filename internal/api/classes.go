package api

import (
	"context"
	"net/http"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/studio"
)

// OccurrencePath names a class.
type OccurrencePath struct {
	Occurrence string `path:"occurrence" pattern:"^[0-9a-z]{26}$"`
}

func registerClasses(r *routes) {
	operation(r, http.MethodGet, "/api/today", "get-today", "The next class and what it still needs",
		func(ctx context.Context, st studio.Studio, _ *struct{}) (studio.Today, error) { return st.Today(ctx) })
	operation(r, http.MethodGet, "/api/occurrences/{occurrence}", "get-occurrence", "A class",
		func(ctx context.Context, st studio.Studio, in *OccurrencePath) (studio.TodayClass, error) {
			return st.Occurrence(ctx, in.Occurrence)
		})
	checked(
		r,
		http.MethodPut,
		"/api/occurrences/{occurrence}",
		"put-occurrence",
		"Make or change a class",
		func(ctx context.Context, st studio.Studio, in *struct {
			OccurrencePath
			Body studio.OccurrenceInput
		}, wrong *fault.List) (studio.Occurrence, error) {
			return st.PutOccurrence(ctx, in.Occurrence, in.Body, wrong)
		},
	)
	operation(
		r,
		http.MethodDelete,
		"/api/occurrences/{occurrence}",
		"remove-occurrence",
		"Take a class away in which nothing has happened; put again it is there again",
		func(ctx context.Context, st studio.Studio, in *OccurrencePath) (studio.Today, error) {
			return st.RemoveOccurrence(ctx, in.Occurrence)
		},
	)
}
