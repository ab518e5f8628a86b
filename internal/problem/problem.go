// Package problem is the one shape of bad news (RFC 9457): a short list of
// types, each with its status, who can mend it and whether to try again. The
// list stands in docs/problems.md.
package problem

import (
	"encoding/json"
	"fmt"
	"net/http"
)

// Type is a kind of problem; on the wire it is "/problems/" and this word.
type Type string

// The types.
const (
	Malformed    Type = "malformed"     // 400: the bytes are no single JSON document
	Invalid      Type = "invalid"       // 422: a field cannot be so
	UnknownField Type = "unknown-field" // 422: a field nobody knows
	NotFound     Type = "not-found"     // 404
	NotAllowed   Type = "not-allowed"   // 403, 405: wrong origin, host or method
	Conflict     Type = "conflict"      // 409: somebody else was faster
	Infeasible   Type = "infeasible"    // 422: nothing fits; says what to relax
	TooLarge     Type = "too-large"     // 413
	TooMany      Type = "too-many"      // 422: a list is full
	Unavailable  Type = "unavailable"   // 503: the database is away, full, or read-only
	Internal     Type = "internal"      // 500
)

// Field names one wrong field: where it is, what is wrong, what it got.
type Field struct {
	Location string `json:"location"`
	Message  string `json:"message"`
	Value    any    `json:"value,omitempty"`
}

// Problem is a problem document.
type Problem struct {
	Type   string  `json:"type" doc:"/problems/ and a word from docs/problems.md"`
	Title  string  `json:"title"`
	Status int     `json:"status"`
	Detail string  `json:"detail"`
	Errors []Field `json:"errors,omitempty"`
	// Beside is the version a change was kept as, when it came from an older one
	// than the newest.
	Beside int `json:"beside,omitempty"`
	// RequestID finds the request in the log; the command line has none.
	RequestID string `json:"requestId,omitempty"`
}

// New builds a problem.
func New(t Type, status int, detail string, errors ...Field) *Problem {
	return &Problem{Type: "/problems/" + string(t), Title: http.StatusText(status), Status: status, Detail: detail, Errors: errors}
}

// Fields builds the problem of wrong fields, of type unknown-field when nothing
// else is wrong.
func Fields(fields []Field, unknownOnly bool) *Problem {
	t := Invalid
	if unknownOnly {
		t = UnknownField
	}
	detail := "one field cannot be as it is"
	if len(fields) != 1 {
		detail = fmt.Sprintf("%d fields cannot be as they are", len(fields))
	}
	return New(t, http.StatusUnprocessableEntity, detail, fields...)
}

func (p *Problem) Error() string { return p.Detail }

// GetStatus serves the interface of the web layer.
func (p *Problem) GetStatus() int { return p.Status }

// GetHeaders serves the interface of the web layer: what may succeed in a moment
// says so.
func (p *Problem) GetHeaders() http.Header {
	if p.Status != http.StatusServiceUnavailable {
		return nil
	}
	return http.Header{"Retry-After": {"1"}}
}

// ContentType serves the interface of the web layer.
func (p *Problem) ContentType(string) string { return "application/problem+json" }

// JSON writes the document and a line end.
func (p *Problem) JSON() []byte {
	b, err := json.Marshal(p)
	if err != nil {
		b, _ = json.Marshal(New(Internal, http.StatusInternalServerError, "the problem could not be written"))
	}
	return append(b, '\n')
}
