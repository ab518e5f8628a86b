// Package fault says what is wrong with something that came from outside, field by
// field: a reader gives paths within what it reads, and whoever called it puts in front
// where that stands.
package fault

import (
	"fmt"
	"strings"
)

// Fault is one field that is wrong.
type Fault struct {
	// Path is the field within what was read, such as slots[0].waves; empty is all of it.
	Path string
	// Message says what is wrong and what to write instead.
	Message string
	// Value is what stood there, where it helps to see it.
	Value any
}

func (f Fault) Error() string {
	if f.Path == "" {
		return f.Message
	}
	return f.Path + ": " + f.Message
}

// List is all that is wrong, as one error. The zero value is ready.
type List []Fault

func (l List) Error() string {
	switch len(l) {
	case 0:
		return "nothing is wrong"
	case 1:
		return l[0].Error()
	}
	return fmt.Sprintf("%v, and %d more", l[0], len(l)-1)
}

// Unwrap gives them one by one.
func (l List) Unwrap() []error {
	out := make([]error, len(l))
	for i, x := range l {
		out[i] = x
	}
	return out
}

// Err gives no error for no faults.
func (l List) Err() error {
	if len(l) == 0 {
		return nil
	}
	return l
}

// Add notes a fault.
func (l *List) Add(path, format string, args ...any) {
	*l = append(*l, Fault{Path: path, Message: fmt.Sprintf(format, args...)})
}

// Within notes a number that is not from low to high.
func (l *List) Within(path string, v, low, high int64) {
	if v < low || v > high {
		l.Add(path, "from %d to %d, not %d", low, high, v)
	}
}

// Note notes a fault with what stood there, unless something is wrong with the field
// already.
func (l *List) Note(path, message string, value any) {
	if l.Good(path) {
		*l = append(*l, Fault{path, message, value})
	}
}

// Good tells whether nothing is wrong with some fields, or in them, so that a rule may be
// asked about them.
func (l List) Good(paths ...string) bool {
	for _, f := range l {
		for _, p := range paths {
			if within(f.Path, p) || within(p, f.Path) {
				return false
			}
		}
	}
	return true
}

// within tells whether a field is another or lies in it; everything lies in all of it.
func within(inner, outer string) bool {
	rest, in := strings.CutPrefix(inner, outer)
	return in && (rest == "" || outer == "" || rest[0] == '.' || rest[0] == '[')
}

// Under gives the faults as those of a part of something larger.
func (l List) Under(path string) List {
	out := make(List, len(l))
	for i, f := range l {
		out[i] = f
		out[i].Path = Join(path, f.Path)
	}
	return out
}

// Join puts a path behind another.
func Join(outer, inner string) string {
	switch {
	case outer == "":
		return inner
	case inner == "" || strings.HasPrefix(inner, "["):
		return outer + inner
	}
	return outer + "." + inner
}
