package studio

import (
	"strings"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
)

// typing reads what was typed where a bare mass means unit, and notes what is wrong.
type typing struct {
	unit  measure.Unit
	wrong *fault.List
}

func (t typing) keep(field, text string, r measure.Reading, err error) *measure.Typed {
	if err != nil {
		t.wrong.Note(field, err.Error(), text)
		return &measure.Typed{}
	}
	return &r.Typed
}

func (t typing) mass(field, text string) *measure.Typed {
	r, err := measure.ReadMass(text, t.unit, measure.MaxLoad)
	return t.keep(field, text, r, err)
}

func (t typing) length(field, text string, most measure.Length) *measure.Typed {
	r, err := measure.ReadLength(text, t.unit.OfLength(), most)
	return t.keep(field, text, r, err)
}

func (t typing) stature(field, text string) measure.Length {
	q, err := people.ReadStature(text, t.unit.OfLength())
	if err != nil {
		t.wrong.Note(field, err.Error(), text)
	}
	return measure.Length(q.Whole)
}

// move looks a move up in the place's library, and a hold of it.
func (t typing) move(p Place, id string, hold *moves.HoldID) *moves.Variant {
	v, ok := p.library.Get(id)
	if !ok {
		t.wrong.Note("move", "there is no such move here", id)
		return nil
	}
	if hold != nil && !v.HeldSo(*hold) {
		t.wrong.Note("hold", "this move is not held so", *hold)
	}
	return v
}

func blankText(text string) bool { return strings.TrimSpace(text) == "" }

// wholeOf gives the grams or millimetres of what was read.
func wholeOf(t *measure.Typed) int64 {
	n, _ := t.Whole()
	return n
}

// ReadQuantity is text to be read as a quantity.
type ReadQuantity struct {
	Text string `json:"text" maxLength:"40"`
	Unit string `json:"unit" enum:"kg,lb,cm,in,l" doc:"what a bare number means"`
	Kind string `json:"kind" enum:"mass,length,volume"`
}

// QuantityRead is what was understood.
type QuantityRead struct {
	measure.Quantity
	Assumed bool `json:"assumed" doc:"no unit was typed: the unit given was taken"`
}

// Read reads a mass, length or volume as people type it.
func (in ReadQuantity) Read(wrong *fault.List) (QuantityRead, error) {
	unit := measure.Unit(in.Unit)
	var r measure.Reading
	var err error
	switch in.Kind {
	case "volume":
		r, err = measure.ReadVolume(in.Text, unit, kit.MaxVolume)
	case "length":
		r, err = measure.ReadLength(in.Text, unit, kit.MaxHeight)
	default:
		r, err = measure.ReadMass(in.Text, unit, measure.MaxLoad)
	}
	if err != nil && wrong.Good("kind", "unit") {
		wrong.Note("text", err.Error(), in.Text)
	}
	return QuantityRead{measure.Quantity{Typed: r.Typed, Whole: r.Whole}, r.Assumed}, wrong.Err()
}
