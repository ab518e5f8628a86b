package api

import (
	"fmt"
	"slices"
	"strings"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/formats/studiofile"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
)

// checkStudio refuses of a studio's file what the forms refuse: every thing of a place is
// read as if it had been typed, and what a run began with must be a plan.
func checkStudio(f studiofile.File, wrong *problem.Faults) {
	for i, p := range f.Places {
		for n, x := range p.Implements {
			r := rereading{p.MassUnit, fmt.Sprintf("body.places[%d].implements[%d]", i, n), wrong}
			d := given(x.Details)
			in := ImplementInput{Name: Name(x.Name), Kind: x.Kind, Mass: r.quantity("mass", x.Mass), Height: r.quantity("height", x.Height), Count: x.Count, Checked: x.Checked,
				Rated: typedText(d.Rated), Legs: d.Legs, TableMass: typedText(d.TableMass), CentreIn: typedText(d.CentreIn), EdgeOut: typedText(d.EdgeOut)}
			if len(d.Pulls) == 2 {
				in.Stretch1, in.Pull1, in.Stretch2, in.Pull2 = typedText(&d.Pulls[0].Stretch), typedText(&d.Pulls[0].Pull), typedText(&d.Pulls[1].Stretch), typedText(&d.Pulls[1].Pull)
			} else if len(d.Pulls) != 0 {
				wrong.Add(r.at+".details.pulls", "two pulls, or none", len(d.Pulls))
			}
			reread(r, func(t *typing) store.Implement { return t.implementRow(x.ID, in) })
		}
		for n, x := range p.Objects {
			r := rereading{p.MassUnit, fmt.Sprintf("body.places[%d].objects[%d]", i, n), wrong}
			in := objectInput(x.Name, x.Use, x.Count, given(x.Details), r.quantity("mass", &x.Mass))
			row := reread(r, func(t *typing) store.Object { return t.objectRow(x.ID, in) })
			if said := (measure.Typed{Decimal: x.Mass.Decimal, Unit: measure.Unit(x.Mass.Unit)}); wrong.Good(r.at) && row.MassG != wholeOf(&said) {
				wrong.Add(r.at+".mass", fmt.Sprintf("by its details it weighs %d g", row.MassG), x.Mass)
			}
		}
		for n, x := range p.Containers {
			r := rereading{p.MassUnit, fmt.Sprintf("body.places[%d].containers[%d]", i, n), wrong}
			d := given(x.Details)
			in := ContainerInput{Name: Name(x.Name), Mass: r.quantity("mass", &x.Mass), Max: r.quantity("max", &x.Max), Volume: typedText(d.Volume), Closed: d.Closed, Straps: d.Straps, Wear: d.Wear}
			reread(r, func(t *typing) store.Container { return t.containerRow(x.ID, in) })
		}
	}
	for i, k := range f.Classes {
		for n, r := range k.Runs {
			if _, err := thaw(r.Plan); err != nil {
				wrong.Add(fmt.Sprintf("body.classes[%d].runs[%d].plan", i, n), err.Error(), nil)
			}
		}
	}
}

// rereading reads a thing of a file, at its place in the file.
type rereading struct {
	unit, at string
	wrong    *problem.Faults
}

// fileDetails are the fields that a file keeps in a thing's details.
var fileDetails = []string{"rated", "legs", "tableMass", "centreIn", "edgeOut", "how", "what", "in", "volume", "empty", "refill", "traits", "closed", "straps", "wear"}

// reread reads a thing as its form does and says what the form would say, in the file's
// own paths.
func reread[T any](r rereading, read func(*typing) T) T {
	own := &problem.Faults{}
	row := read(&typing{unit: measure.Unit(r.unit), wrong: own})
	for _, f := range own.Fields {
		at := f.Location
		switch {
		case slices.Contains(fileDetails, at):
			at = "details." + at
		case strings.HasPrefix(at, "stretch") || strings.HasPrefix(at, "pull"):
			at = "details.pulls"
		}
		r.wrong.Add(r.at+"."+at, f.Message, f.Value)
	}
	return row
}

// quantity gives a quantity of the file as somebody would type it. One that reading
// would write in another way did not come from here.
func (r rereading) quantity(field string, q *studiofile.Quantity) string {
	if q == nil {
		return ""
	}
	if _, err := q.Whole(); err != nil {
		r.wrong.Add(r.at+"."+field, err.Error(), q.Decimal)
		return ""
	}
	return typedText(&measure.Typed{Decimal: q.Decimal, Unit: measure.Unit(q.Unit)})
}

// typedText gives a typed quantity as it would be typed, nothing for none.
func typedText(t *measure.Typed) string {
	if t == nil {
		return ""
	}
	return measure.Write(*t)
}

// given gives what a file may leave out.
func given[T any](p *T) T {
	if p == nil {
		return *new(T)
	}
	return *p
}

// objectInput gives an object as it would be typed: what its mass is known by says what
// was typed for it.
func objectInput(name, use string, count int, d kit.ObjectDetails, mass string) ObjectInput {
	in := ObjectInput{Name: Name(name), Use: use, Count: count, Mass: mass, How: d.How, What: d.What, In: d.In, Volume: typedText(d.Volume), Empty: typedText(d.Empty), Refill: d.Refill, Traits: d.Traits}
	switch d.How {
	case kit.ByNet:
		in.Mass = typedText(d.Amount)
	case kit.ByVolume:
		in.Mass, in.Volume = "", typedText(d.Amount)
	case kit.ByKind:
		in.Mass = ""
	}
	return in
}
