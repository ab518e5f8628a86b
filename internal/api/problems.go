package api

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/validation"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
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
		return problem.New(problem.Internal, status, "something went wrong here; nothing was changed")
	}
	t := map[int]problem.Type{http.StatusBadRequest: problem.Malformed, http.StatusNotFound: problem.NotFound,
		http.StatusUnprocessableEntity: problem.Invalid, http.StatusRequestEntityTooLarge: problem.TooLarge}[status]
	if t == "" {
		t = problem.Malformed
	}
	unknownOnly := status == http.StatusUnprocessableEntity && len(errs) > 0
	var fields []problem.Field
	for _, err := range errs {
		f := problem.Field{Message: err.Error()}
		var d huma.ErrorDetailer
		if errors.As(err, &d) {
			e := d.ErrorDetail()
			f = problem.Field{Location: e.Location, Message: e.Message, Value: e.Value}
			unknownOnly = unknownOnly && e.Message == validation.MsgUnexpectedProperty
		}
		fields = append(fields, f)
	}
	if unknownOnly {
		t = problem.UnknownField
	}
	return problem.New(t, status, strings.ToLower(msg), fields...)
}

// fieldError is a fault in a named field of a request.
func fieldError(location string, err error, value any) error {
	return problem.Fields([]problem.Field{{Location: location, Message: err.Error(), Value: value}}, false)
}

// toProblem turns any error into a problem with the request's id. Nothing of an
// internal cause leaves the server.
func toProblem(ctx context.Context, err error) *problem.Problem {
	p := kindOf(err)
	out := *p
	out.RequestID = requestID(ctx)
	if out.Status >= http.StatusInternalServerError {
		slog.Error("problem", "id", out.RequestID, "type", out.Type, "cause", err)
	}
	return &out
}

func kindOf(err error) *problem.Problem {
	var p *problem.Problem
	var doc *circuit.Fault
	var typed *measure.Fault
	var beside *store.BesideError
	switch {
	case errors.As(err, &p):
		return p
	case errors.As(err, &doc):
		return problem.Fields([]problem.Field{{Location: "body." + doc.Path, Message: doc.Message}}, false)
	case errors.As(err, &typed):
		return problem.Fields([]problem.Field{{Location: "body.text", Message: typed.Mend, Value: typed.Text}}, false)
	case errors.Is(err, store.ErrNotFound):
		return problem.New(problem.NotFound, http.StatusNotFound, "there is no such thing here")
	case errors.As(err, &beside):
		p := problem.New(problem.Conflict, http.StatusConflict, "it was changed elsewhere meanwhile: this change is kept as a version of its own")
		p.Beside = beside.Version
		return p
	case errors.Is(err, store.ErrConflict):
		return problem.New(problem.Conflict, http.StatusConflict, "it was changed elsewhere meanwhile: look at the newest version first")
	case errors.Is(err, store.ErrInUse):
		return problem.New(problem.Conflict, http.StatusConflict, "something else still uses it")
	case errors.Is(err, store.ErrFull):
		return problem.New(problem.TooMany, http.StatusUnprocessableEntity, "the list is full: nothing was added")
	case store.Away(err):
		return problem.New(problem.Unavailable, http.StatusServiceUnavailable, "the database is away: nothing was changed, try again in a moment")
	case store.NoRoom(err):
		return problem.New(problem.Unavailable, http.StatusServiceUnavailable, "the database has no room left: nothing was changed; whoever runs it must make room")
	case store.ReadOnly(err):
		return problem.New(problem.Unavailable, http.StatusServiceUnavailable, "the database takes no changes now: nothing was changed; whoever runs it must let it write again")
	}
	return problem.New(problem.Internal, http.StatusInternalServerError, "something went wrong here; nothing was changed")
}
