package api

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/strictjson"
	"nimbleanvil/internal/studio"
)

func init() {
	// Huma's own errors, of validation above all, take the shape of ours.
	huma.NewErrorWithContext = func(hc huma.Context, status int, msg string, errs ...error) huma.StatusError {
		p := fromHuma(status, msg, errs)
		if hc != nil {
			p.RequestID = requestID(hc.Context())
		}
		return p
	}
	huma.NewError = func(status int, msg string, errs ...error) huma.StatusError { return fromHuma(status, msg, errs) }
}

func fromHuma(status int, msg string, errs []error) *problem.Problem {
	if status >= http.StatusInternalServerError {
		slog.Error("internal problem", "message", msg, "errors", errs)
		return problem.New(problem.Internal, status, "something went wrong here")
	}
	fields, unknownOnly := strictjson.Fields(errs)
	switch status {
	case http.StatusUnsupportedMediaType:
		return problem.New(problem.Unsupported, status, "send the body as application/json")
	case http.StatusRequestEntityTooLarge:
		return problem.New(problem.TooLarge, status, "the body is larger than this address takes")
	case http.StatusNotFound:
		return problem.New(problem.NotFound, status, strings.ToLower(msg), fields...)
	case http.StatusUnprocessableEntity:
		return problem.Fields(fields, unknownOnly)
	}
	return problem.New(problem.Malformed, status, strings.ToLower(msg), fields...)
}

// toProblem turns any error into a problem with the request's id. Nothing of an
// internal cause leaves the server.
func toProblem(ctx context.Context, err error) *problem.Problem {
	p := kindOf(err)
	out := *p
	out.RequestID = requestID(ctx)
	if out.Status >= http.StatusInternalServerError {
		out.Detail += "; " + known[store.OutcomeOf(ctx)]
		slog.Error("problem", "id", out.RequestID, "type", out.Type, "cause", store.Cause(err))
	}
	return &out
}

func kindOf(err error) *problem.Problem {
	var p *problem.Problem
	var wrong fault.List
	var refused studio.Refusal
	var beside *store.BesideError
	switch {
	case errors.As(err, &p):
		return p
	case errors.As(err, &wrong):
		return inBody(wrong, false)
	case errors.As(err, &refused):
		return refusals[refused.Kind](refused.Detail)
	case errors.Is(err, store.ErrNotFound):
		return problem.New(problem.NotFound, http.StatusNotFound, "there is no such thing here")
	case errors.As(err, &beside):
		p := problem.New(problem.Conflict, http.StatusConflict,
			"it was changed elsewhere meanwhile: this change is kept as a version of its own")
		p.Beside = beside.Version
		return p
	case errors.Is(err, store.ErrConflict):
		return problem.New(problem.Conflict, http.StatusConflict,
			"it was changed elsewhere meanwhile: look at the newest version first")
	case errors.Is(err, store.ErrTogether):
		return problem.New(problem.Conflict, http.StatusConflict,
			"they are in one class together: nobody is two people in it")
	case errors.Is(err, store.ErrErased):
		return problem.New(problem.Conflict, http.StatusConflict,
			"somebody of this id was erased here: make a new id for somebody else")
	case errors.Is(err, store.ErrElsewhere):
		return problem.New(problem.Conflict, http.StatusConflict,
			"another thing has this id, here or at another place: make a new id for this one")
	case errors.Is(err, store.ErrInUse):
		return problem.New(problem.Conflict, http.StatusConflict,
			"something else still uses it: what is written down or planned with it stays")
	case errors.Is(err, store.ErrFull):
		return problem.New(problem.TooMany, http.StatusUnprocessableEntity, "the list is full: nothing was added")
	case store.Away(err):
		return problem.New(problem.Unavailable, http.StatusServiceUnavailable,
			"the database is away: try again in a moment")
	case store.NoRoom(err):
		return problem.New(problem.Unavailable, http.StatusServiceUnavailable,
			"the database has no room left: whoever runs it must make room")
	case store.ReadOnly(err):
		return problem.New(problem.Unavailable, http.StatusServiceUnavailable,
			"the database takes no changes now: whoever runs it must let it write again")
	}
	return problem.New(problem.Internal, http.StatusInternalServerError, "something went wrong here")
}

// known says what became of the change that a request which failed asked for.
var known = map[store.Outcome]string{
	store.Unchanged: "nothing was changed",
	store.Committed: "the change was kept, only its answer failed: load again",
	store.Unknown:   "it is not known whether the change was kept: send the same again, it counts once",
}

// refusals says what a use case's refusals are in HTTP.
var refusals = map[studio.RefusalKind]func(detail string) *problem.Problem{
	studio.Stale: func(d string) *problem.Problem { return problem.New(problem.Conflict, http.StatusConflict, d) },
	studio.Full: func(d string) *problem.Problem {
		return problem.New(problem.TooMany, http.StatusUnprocessableEntity, d)
	},
	studio.Infeasible: func(d string) *problem.Problem {
		return problem.New(problem.Infeasible, http.StatusUnprocessableEntity, d)
	},
	studio.Busy: func(d string) *problem.Problem { return problem.New(problem.Busy, http.StatusServiceUnavailable, d) },
}
