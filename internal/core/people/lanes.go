package people

import (
	"fmt"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

// MaxInClass is how many people a class has at the most.
const MaxInClass = 500

// What a lane is computed for unless somebody types a body.
const (
	DefaultBody    = "70 kg"
	DefaultStature = "170 cm"
)

// LaneRow is what is typed of a lane: how many people, and the body and stature that it is
// computed for, which may be left out.
type LaneRow struct {
	Lane          string
	People        int
	Body, Stature string
}

// Lane is a lane of a class with whom it is computed for.
type Lane struct {
	Lane          moves.Lane
	People        int
	Body, Stature measure.Quantity
	// BodyKnown says that somebody typed the body; else supports are judged for more.
	BodyKnown bool
}

// ReadBody reads a body mass of 20 to 300 kg.
func ReadBody(text string, bare measure.Unit) (measure.Quantity, error) {
	r, err := measure.ReadMass(text, bare, body.MaxMass)
	if err == nil && measure.Mass(r.Whole) < body.MinMass {
		err = fmt.Errorf("a body weighs from 20 to 300 kg")
	}
	return measure.Quantity{Typed: r.Typed, Whole: r.Whole}, err
}

// ReadStature reads a stature of 100 to 230 cm.
func ReadStature(text string, bare measure.Unit) (measure.Quantity, error) {
	r, err := measure.ReadLength(text, bare, body.MaxStature)
	if err == nil && measure.Length(r.Whole) < body.MinStature {
		err = fmt.Errorf("a stature is from 100 to 230 cm")
	}
	return measure.Quantity{Typed: r.Typed, Whole: r.Whole}, err
}

// CheckLanes reads the lanes of a class where a bare mass means unit: each stands once,
// and somebody is there. Everything wrong is said at once.
func CheckLanes(rows []LaneRow, unit measure.Unit) ([]Lane, fault.List) {
	var out []Lane
	var wrong fault.List
	seen := map[string]bool{}
	people := 0
	for i, r := range rows {
		at := fmt.Sprintf("[%d].", i)
		if !slices.Contains(moves.Lanes, moves.Lane(r.Lane)) {
			wrong.Note(at+"lane", "ground, middle or reach", r.Lane)
		} else if seen[r.Lane] {
			wrong.Note(at+"lane", "each lane stands once", r.Lane)
		}
		seen[r.Lane] = true
		if r.People < 0 || r.People > MaxInClass {
			wrong.Note(at+"people", fmt.Sprintf("from 0 to %d", MaxInClass), r.People)
		}
		people += r.People
		l := Lane{Lane: moves.Lane(r.Lane), People: r.People, BodyKnown: r.Body != ""}
		var err error
		if l.Body, err = ReadBody(orElse(r.Body, DefaultBody), unit); err != nil {
			wrong.Note(at+"body", err.Error(), r.Body)
		}
		if l.Stature, err = ReadStature(orElse(r.Stature, DefaultStature), unit.OfLength()); err != nil {
			wrong.Note(at+"stature", err.Error(), r.Stature)
		}
		out = append(out, l)
	}
	if people < 1 || people > MaxInClass {
		wrong.Add("", "a class has from 1 to %d people, not %d", MaxInClass, people)
	}
	return out, wrong
}

func orElse(text, otherwise string) string {
	if text == "" {
		return otherwise
	}
	return text
}
