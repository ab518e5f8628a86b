package studiofile

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"time"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/people"
)

// text gives a quantity as somebody would type it, nothing for none.
func (c *checker) text(path string, t *measure.Typed) string {
	if t == nil {
		return ""
	}
	if !t.WrittenOut() {
		c.fail(path, "write the number out")
		return ""
	}
	return measure.Write(*t)
}

func (c *checker) place(path string, p *Place) {
	c.id(path, p.ID)
	c.name(path+".name", &p.Name)
	c.retired(path, p.Retired)
	c.places[p.ID] = true
	unit := measure.Unit(p.MassUnit)
	for i := range p.Implements {
		x := &p.Implements[i]
		c.thing(fmt.Sprintf("%s.implements[%d]", path, i), x.ID, &x.Name, x.Retired, unit, x.Thing)
	}
	for i := range p.Objects {
		x := &p.Objects[i]
		c.thing(fmt.Sprintf("%s.objects[%d]", path, i), x.ID, &x.Name, x.Retired, unit, x.Thing)
	}
	for i := range p.Containers {
		x := &p.Containers[i]
		c.thing(fmt.Sprintf("%s.containers[%d]", path, i), x.ID, &x.Name, x.Retired, unit, x.Thing)
	}
}

// thing checks a thing as if it had been typed. What reading it gives must be what stands
// there: an object weighs what its details say.
func (c *checker) thing(path, id string, name *string, retired *time.Time, unit measure.Unit, read func() kit.Thing) {
	c.id(path, id)
	c.name(path+".name", name)
	c.retired(path, retired)
	t := read()
	before := len(c.faults)
	c.quantities(path, t)
	if n := len(t.Implement.Pulls); n != 0 && n != 2 {
		c.fail(path+".details.pulls", "two pulls, or none, not %d", n)
	}
	if len(c.faults) > before {
		return
	}
	again, wrong := t.Row().Check(unit)
	for _, f := range wrong {
		if f.Path != "name" { // it has been read
			c.fail(path+"."+inFile(f.Path), "%s", f.Message)
		}
	}
	switch {
	case len(wrong) > 0:
	case again.MassG() != t.MassG():
		c.fail(path+".mass", "by its details it weighs %d g", again.MassG())
	case !reflect.DeepEqual(again.Row(), written(t.Row())):
		c.fail(path, "it is not written as it would be here: export it again")
	}
}

// written gives a row as it comes back from where it is kept: without empty lists.
func written(r kit.Row) kit.Row {
	if len(r.Traits) == 0 {
		r.Traits = nil
	}
	if len(r.Wear) == 0 {
		r.Wear = nil
	}
	return r
}

// quantities refuses numbers that nobody typed.
func (c *checker) quantities(path string, t kit.Thing) {
	for field, q := range map[string]*measure.Typed{"mass": t.Mass, "max": t.Max, "height": t.Height, "details.rated": t.Implement.Rated, "details.tableMass": t.Implement.TableMass,
		"details.centreIn": t.Implement.CentreIn, "details.edgeOut": t.Implement.EdgeOut, "details.empty": t.Object.Empty, "details.amount": t.Object.Amount} {
		c.text(path+"."+field, q)
	}
	c.text(path+".details.volume", t.Object.Volume)
	c.text(path+".details.volume", t.Container.Volume)
	for i, p := range t.Implement.Pulls {
		c.text(fmt.Sprintf("%s.details.pulls[%d].stretch", path, i), &p.Stretch)
		c.text(fmt.Sprintf("%s.details.pulls[%d].pull", path, i), &p.Pull)
	}
}

// inFile gives where a field of a row stands in this file: much of it in the details.
func inFile(field string) string {
	switch {
	case strings.HasPrefix(field, "stretch") || strings.HasPrefix(field, "pull"):
		return "details.pulls"
	case slices.Contains([]string{"name", "kind", "use", "mass", "max", "height", "count", "checked"}, field):
		return field
	}
	return "details." + field
}

// lanes checks the lanes of a class as if they had been typed.
func (c *checker) lanes(path string, lanes []Lane) {
	var rows []people.LaneRow
	for i, l := range lanes {
		at := fmt.Sprintf("%s[%d]", path, i)
		rows = append(rows, people.LaneRow{
			Lane:    l.Lane,
			People:  l.People,
			Body:    c.text(at+".body", l.Body.Typed()),
			Stature: c.text(at+".stature", l.Stature.Typed()),
		})
	}
	_, wrong := people.CheckLanes(rows, measure.Kilogram)
	for _, f := range wrong.Under(path) {
		c.fail(f.Path, "%s", f.Message)
	}
}
