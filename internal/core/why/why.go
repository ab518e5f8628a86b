// Package why holds the reasons behind numbers as values. The core never makes
// sentences or formats units: a Why is turned into text by internal/texts and
// the interface, in the unit the reader uses.
package why

// Kind tells what a Term's value is measured in.
type Kind string

// The kinds of terms. Masses are grams, lengths millimetres, spans
// milliseconds, volumes millilitres; Share is a fraction of 1, Percent a number of hundredths; Text
// carries an id (of a variant, an implement, a pattern) in Term.Text.
const (
	Mass    Kind = "massG"
	Length  Kind = "lengthMm"
	Span    Kind = "spanMs"
	Count   Kind = "count"
	Share   Kind = "share"
	Percent Kind = "pct"
	Text    Kind = "text"
	Volume  Kind = "volumeMl"
)

// Term is one named quantity of a reason.
type Term struct {
	Name  string  `json:"name"` // what the quantity is in this reason
	Kind  Kind    `json:"kind"`
	Value float64 `json:"value,omitempty"`
	Text  string  `json:"text,omitempty"` // an id, for kind text
}

// Why explains one number: a code that the texts know, the terms
// of its sum, where the rule comes from, and the reasons of its parts.
type Why struct {
	Code   Code   `json:"code"`
	Terms  []Term `json:"terms,omitempty"`
	Source Source `json:"source"`
	Parts  []Why  `json:"parts,omitempty"`
}

// Source tells how far a rule may be trusted.
type Source string

// The sources of rules. Typed means that the instructor entered the number.
const (
	Published  Source = "published"
	Model      Source = "model"
	Practice   Source = "common-practice"
	House      Source = "house"
	Arithmetic Source = "arithmetic"
	Typed      Source = "typed"
)

// G is a mass term in grams.
func G(name string, g float64) Term { return Term{Name: name, Kind: Mass, Value: g} }

// Ms is a time term in milliseconds.
func Ms(name string, ms int64) Term { return Term{Name: name, Kind: Span, Value: float64(ms)} }

// N is a count.
func N(name string, n int) Term { return Term{Name: name, Kind: Count, Value: float64(n)} }

// S is a share of 1.
func S(name string, s float64) Term { return Term{Name: name, Kind: Share, Value: s} }

// Pct is a number of per cent.
func Pct(name string, p float64) Term { return Term{Name: name, Kind: Percent, Value: p} }

// ID is a term that names something by its id.
func ID(name, id string) Term { return Term{Name: name, Kind: Text, Text: id} }

// Of builds a Why.
func Of(code Code, source Source, terms ...Term) Why {
	return Why{Code: code, Source: source, Terms: terms}
}

// With returns the reason with parts added.
func (w Why) With(parts ...Why) Why {
	w.Parts = append(append([]Why{}, w.Parts...), parts...)
	return w
}
