package api

import (
	"context"
	"net/http"

	"nimbleanvil/internal/core/compose"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/pace"
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
	operation(
		r,
		http.MethodGet,
		"/api/runs/{run}/options",
		"get-run-options",
		"What a party could do in a slot of a run instead",
		func(ctx context.Context, st studio.Studio, in *struct {
			RunPath
			Slot  string `query:"slot" required:"true" maxLength:"26"`
			Party string `query:"party" required:"true" pattern:"^([0-9a-z]{26}|ground|middle|reach)$"`
		}) (compose.Options, error) {
			return st.RunOptions(ctx, in.Run, in.Slot, in.Party)
		},
	)
	operation(r, http.MethodGet, "/api/runs/{run}/timings", "get-timings", "Planned and real seconds of a run",
		func(ctx context.Context, st studio.Studio, in *RunPath) (studio.Timings, error) {
			return st.Timings(ctx, in.Run)
		})
	operation(r, http.MethodGet, "/api/paces", "get-paces", "The house's own times, as its runs speak for them",
		func(ctx context.Context, st studio.Studio, _ *struct{}) ([]pace.Offer, error) {
			return st.Paces(ctx)
		})
	checked(
		r,
		http.MethodPut,
		"/api/paces",
		"put-pace",
		"Take a time of the house's own over, or give it back",
		func(ctx context.Context, st studio.Studio, in *struct{ Body studio.PaceInput }, wrong *fault.List) ([]pace.Offer, error) {
			return st.PutPace(ctx, in.Body, wrong)
		},
	)
	checked(
		r,
		http.MethodPost,
		"/api/runs/{run}/events",
		"press",
		"Start, hold, resume, skip, back, next, add rest, end; what a party did",
		func(ctx context.Context, st studio.Studio, in *struct {
			RunPath
			Body studio.Press
		}, wrong *fault.List) (studio.RunNow, error) {
			return st.Press(ctx, in.Run, in.Body, wrong)
		},
	)
}
