package api

import (
	"context"
	"net/http"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/studio"
)

// RunPath names a run.
type RunPath struct {
	Run string `path:"run" pattern:"^[0-9a-z]{26}$"`
}

func registerRuns(r *routes) {
	operation(
		r,
		http.MethodPut,
		"/api/runs/{run}",
		"create-run",
		"Make a run of a class, ready to start",
		func(ctx context.Context, st studio.Studio, in *struct {
			RunPath
			Body studio.RunInput
		}) (studio.Run, error) {
			return st.CreateRun(ctx, in.Run, in.Body)
		},
	)
	operation(r, http.MethodGet, "/api/runs/{run}", "get-run", "A run and where it is",
		func(ctx context.Context, st studio.Studio, in *RunPath) (studio.Run, error) {
			return st.Run(ctx, in.Run)
		})
	operation(r, http.MethodGet, "/api/runs/{run}/now", "get-run-now", "Where a run is",
		func(ctx context.Context, st studio.Studio, in *RunPath) (studio.RunNow, error) {
			return st.RunNow(ctx, in.Run)
		})
	checked(
		r,
		http.MethodPost,
		"/api/runs/{run}/events",
		"press",
		"Start, hold, resume, skip, back, add rest, end",
		func(ctx context.Context, st studio.Studio, in *struct {
			RunPath
			Body studio.Press
		}, wrong *fault.List) (studio.RunNow, error) {
			return st.Press(ctx, in.Run, in.Body, wrong)
		},
	)
}
