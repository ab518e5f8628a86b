package problem

import "strings"

// Faults collects the wrong fields of a request: those its schema tells, and beside
// them those that only the rules of the job tell. The zero value is ready.
type Faults struct {
	Fields []Field
	// UnknownOnly tells that nothing is wrong but fields nobody knows.
	UnknownOnly bool
}

// Add notes a wrong field, unless something is wrong with it already.
func (f *Faults) Add(location, message string, value any) {
	if f.Good(location) {
		f.Fields, f.UnknownOnly = append(f.Fields, Field{location, message, value}), false
	}
}

// Good tells whether nothing is wrong with some fields, or in them, so that a rule may
// be asked about them.
func (f *Faults) Good(locations ...string) bool {
	for _, l := range locations {
		for _, x := range f.Fields {
			if x.Location == "body" || within(x.Location, l) || within(l, x.Location) {
				return false
			}
		}
	}
	return true
}

// within tells whether a field is another or lies in it.
func within(inner, outer string) bool {
	rest, in := strings.CutPrefix(inner, outer)
	return in && (rest == "" || rest[0] == '.' || rest[0] == '[')
}

// Failed tells whether anything is wrong: then nothing is computed or kept.
func (f *Faults) Failed() bool { return len(f.Fields) > 0 }

// Problem gives the document that names them, nil for none.
func (f *Faults) Problem() error {
	if !f.Failed() {
		return nil
	}
	return Fields(f.Fields, f.UnknownOnly)
}
