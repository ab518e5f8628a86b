// Package problem is the one shape of bad news (RFC 9457): a short list of
// types, each with its status, who can mend it and whether to try again. The
// list stands in docs/problems.md.
package problem

import (
	"cmp"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"unicode/utf8"
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
	Unsupported  Type = "unsupported"   // 415: a coding or kind of content that is not read
	Busy         Type = "busy"          // 503: another of its kind is at work, and one is done at a time
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
	Errors []Field `json:"errors,omitempty" doc:"at most 20, each wrong field once"`
	// More is how many wrong fields are not named in Errors.
	More int `json:"more,omitempty" doc:"how many wrong fields are not named here"`
	// Beside is the version a change was kept as, when it came from an older one
	// than the newest.
	Beside int `json:"beside,omitempty"`
	// RequestID finds the request in the log; the command line has none.
	RequestID string `json:"requestId,omitempty"`
}

// Limits of what a problem names: an answer to a bad request stays small whatever
// the request was.
const (
	MaxFields  = 20
	maxValue   = 200 // bytes, of a value and of a location
	maxMessage = 400
)

// New builds a problem. Of the wrong fields each is named once, in the order of their
// locations, at most MaxFields, long values cut.
func New(t Type, status int, detail string, errors ...Field) *Problem {
	p := &Problem{
		Type:   "/problems/" + string(t),
		Title:  http.StatusText(status),
		Status: status,
		Detail: cut(detail, maxMessage),
	}
	p.Errors, p.More = named(errors)
	return p
}

// named gives the wrong fields that are named, and how many are not.
func named(fields []Field) ([]Field, int) {
	out := make([]Field, 0, len(fields))
	seen := map[string]bool{}
	for _, f := range fields {
		if f.Location != "" && seen[f.Location] {
			continue
		}
		seen[f.Location] = true
		out = append(out, f)
	}
	slices.SortStableFunc(out, func(a, b Field) int {
		return cmp.Or(cmp.Compare(a.Location, b.Location), cmp.Compare(a.Message, b.Message))
	})
	more := max(0, len(out)-MaxFields)
	out = out[:len(out)-more]
	for i, f := range out {
		out[i] = Field{cut(f.Location, maxValue), cut(f.Message, maxMessage), short(f.Value)}
	}
	if len(out) == 0 {
		return nil, 0
	}
	return out, more
}

// short gives a value as it stands, or the beginning of it as text.
func short(v any) any {
	if s, ok := v.(string); ok {
		return cut(s, maxValue)
	}
	if v == nil {
		return nil
	}
	b, err := json.Marshal(v)
	if err != nil {
		return nil
	}
	if len(b) > maxValue {
		return cut(string(b), maxValue)
	}
	return v
}

// cut shortens a text to so many bytes, between characters.
func cut(s string, most int) string {
	s = strings.ToValidUTF8(s, "\uFFFD")
	if len(s) <= most {
		return s
	}
	for most > 0 && !utf8.RuneStart(s[most]) {
		most--
	}
	return s[:most] + "…"
}

// Fields builds the problem of wrong fields, of type unknown-field when nothing
// else is wrong.
func Fields(fields []Field, unknownOnly bool) *Problem {
	t := Invalid
	if unknownOnly {
		t = UnknownField
	}
	p := New(t, http.StatusUnprocessableEntity, "one field is wrong", fields...)
	if n := len(p.Errors) + p.More; n != 1 {
		p.Detail = fmt.Sprintf("%d fields are wrong", n)
	}
	if p.More > 0 {
		p.Detail += fmt.Sprintf("; the first %d are named", len(p.Errors))
	}
	return p
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
