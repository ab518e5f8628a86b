package api

import (
	"context"
	"net/http"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/studio"
)

func registerHealth(r *routes) {
	operation(
		r,
		http.MethodGet,
		"/api/health-questions",
		"get-health-questions",
		"The health questions, by their codes",
		func(_ context.Context, st studio.Studio, _ *struct{}) (studio.HealthQuestions, error) {
			return st.Questions(), nil
		},
	)
	operation(
		r,
		http.MethodGet,
		"/api/people/{person}/health",
		"get-health",
		"How somebody stands with the health questions",
		func(ctx context.Context, st studio.Studio, in *PersonPath) (studio.Health, error) {
			return st.Health(ctx, in.Person)
		},
	)
	checked(r, http.MethodPut, "/api/people/{person}/health/{record}", "put-health",
		"Keep what somebody answered, who cleared them, or that something has changed",
		func(ctx context.Context, st studio.Studio, in *struct {
			RecordPath
			Body studio.HealthInput
		}, wrong *fault.List) (studio.Health, error) {
			return st.PutHealth(ctx, in.Person, in.Record, in.Body, wrong)
		})
	operation(
		r,
		http.MethodDelete,
		"/api/people/{person}/health/{record}",
		"remove-health",
		"Take a record of somebody's health back",
		func(ctx context.Context, st studio.Studio, in *RecordPath) (studio.Health, error) {
			return st.RemoveHealth(ctx, in.Person, in.Record)
		},
	)
}

func registerAttendance(r *routes) {
	operation(
		r,
		http.MethodGet,
		"/api/occurrences/{occurrence}/regulars",
		"list-regulars",
		"Those who come to a class's group",
		func(ctx context.Context, st studio.Studio, in *OccurrencePath) ([]studio.Regular, error) {
			return st.Regulars(ctx, in.Occurrence)
		},
	)
	checked(r, http.MethodPut, "/api/occurrences/{occurrence}/attendance", "put-attendance",
		"Say who is in a class, and who is not after all, all or none",
		func(ctx context.Context, st studio.Studio, in *struct {
			OccurrencePath
			Body studio.AttendanceInput
		}, wrong *fault.List) (studio.Occurrence, error) {
			return st.PutAttendance(ctx, in.Occurrence, in.Body, wrong)
		})
}
