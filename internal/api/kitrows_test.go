package api

import (
	"encoding/json"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/formats/placefile"
	"nimbleanvil/internal/formats/studiofile"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/studio"
)

// typed draws a quantity as people type it, or as they should not.
func typed(units ...string) *rapid.Generator[string] {
	return rapid.Custom(func(t *rapid.T) string {
		n := rapid.SampledFrom([]string{"4", "8.5", "16", "20", "300", "301", "0", "-3", "1e3", "1,234", "0.05", "12,5", "x", "2000", "2001"}).Draw(t, "number")
		return n + " " + rapid.SampledFrom(append(units, "", "stone")).Draw(t, "unit")
	})
}

// drawnRow draws a row that is mostly right, with some fields that are not, or that it does
// not have.
func drawnRow(t *rapid.T) kit.Row {
	if rapid.IntRange(0, 7).Draw(t, "plain") == 0 { // one that is right, now and then
		return kit.Row{Item: kit.ImplementRow, Name: "Thing", Count: 1, Kind: kit.Kettlebell, Mass: "8 kg"}
	}
	some := func(name string, g *rapid.Generator[string]) string {
		if rapid.IntRange(0, 9).Draw(t, name+"?") > 0 {
			return ""
		}
		return g.Draw(t, name)
	}
	words := func(name string, from []string) []string {
		return rapid.SliceOfN(rapid.SampledFrom(from), 0, 3).Draw(t, name)
	}
	mass, length, volume := typed("kg", "lb", "g", "oz"), typed("cm", "mm", "in", "m"), typed("l", "ml", "gal")
	r := kit.Row{Item: rapid.SampledFrom(kit.RowItems).Draw(t, "item"), Name: "Thing", Count: rapid.SampledFrom([]int{1, 1, 1, 3, 500, 501, 0, -1}).Draw(t, "count")}
	r.Height, r.Rated, r.EdgeOut, r.Empty, r.In = some("height", length), some("rated", mass), some("edgeOut", length), some("empty", mass), some("in", rapid.SampledFrom([]string{"bottle", "can", "bath"}))
	r.Volume = some("volume", volume)
	switch r.Item {
	case kit.ImplementRow:
		r.Kind = rapid.SampledFrom(append(slices.Clone(kit.Kinds), "barbell")).Draw(t, "kind")
		r.Checked = rapid.IntRange(0, 5).Draw(t, "checked") == 0
		switch r.Kind {
		case kit.Bench, kit.Box, kit.Table:
			r.Height = length.Draw(t, "height")
		case kit.Band:
			if rapid.Bool().Draw(t, "measured") {
				r.Stretch1, r.Pull1, r.Stretch2, r.Pull2 = "30 cm", mass.Draw(t, "pull1"), length.Draw(t, "stretch2"), "30 kg"
			}
		default:
			r.Mass = mass.Draw(t, "mass")
		}
		if r.Kind == kit.Table {
			r.Legs = rapid.SampledFrom(append(slices.Clone(body.TableKinds), "", "pedestal")).Draw(t, "legs")
			r.TableMass, r.CentreIn = some("tableMass", mass), some("centreIn", length)
		}
	case kit.ObjectRow:
		r.Use = rapid.SampledFrom(append(slices.Clone(kit.Uses), "throw")).Draw(t, "use")
		r.How = rapid.SampledFrom(append(slices.Clone(kit.Hows), "", "guess")).Draw(t, "how")
		r.What = rapid.SampledFrom([]string{"", "tin", "water", "rice", "hardback-book", "gold"}).Draw(t, "what")
		r.Refill = rapid.IntRange(0, 3).Draw(t, "refill") == 0
		r.Traits = words("traits", append(slices.Clone(kit.Traits), "wet"))
		switch r.How {
		case kit.ByVolume:
			r.Volume, r.In = volume.Draw(t, "volume"), rapid.SampledFrom([]string{"bottle", "none", ""}).Draw(t, "in")
		case kit.ByKind:
		default:
			r.Mass = mass.Draw(t, "mass")
		}
	case kit.ContainerRow:
		r.Count = 1 // neither form nor studio's file has a count
		r.Mass, r.Max = mass.Draw(t, "mass"), mass.Draw(t, "max")
		r.Closed, r.Straps = rapid.Bool().Draw(t, "closed"), rapid.Bool().Draw(t, "straps")
		r.Wear = words("wear", append(slices.Clone(kit.Worn), "head"))
	}
	return r
}

// noForm stands for what no form has a field for.
const noForm = -1

// inForm sends a row as its form does. What the form of its sort has no field for it
// cannot send.
func inForm(c client, place string, r kit.Row) int {
	var in any
	has := r
	switch r.Item {
	case kit.ImplementRow:
		x := studio.ImplementInput{Name: "Thing", Kind: r.Kind, Mass: r.Mass, Height: r.Height, Count: r.Count, Checked: r.Checked, Rated: r.Rated, Legs: r.Legs,
			TableMass: r.TableMass, CentreIn: r.CentreIn, EdgeOut: r.EdgeOut, Stretch1: r.Stretch1, Pull1: r.Pull1, Stretch2: r.Stretch2, Pull2: r.Pull2}
		in, has = x, x.Row()
	case kit.ObjectRow:
		x := studio.ObjectInput{Name: "Thing", Use: r.Use, Mass: r.Mass, Count: r.Count, How: r.How, What: r.What, In: r.In, Volume: r.Volume, Empty: r.Empty, Refill: r.Refill, Traits: r.Traits}
		in, has = x, x.Row()
	case kit.ContainerRow:
		x := studio.ContainerInput{Name: "Thing", Mass: r.Mass, Max: r.Max, Volume: r.Volume, Closed: r.Closed, Straps: r.Straps, Wear: r.Wear}
		in, has = x, x.Row()
	}
	if !assert.ObjectsAreEqual(has, r) {
		return noForm
	}
	b, _ := json.Marshal(in)
	status, _, _ := c.send("PUT", "/api/places/"+place+"/"+r.Item+"s/"+id(slices.Index(kit.RowItems, r.Item)), string(b))
	return status
}

// inTable sends a row as a file of places.
func inTable(c client, r kit.Row) studio.PlacesPreview {
	row := placefile.Of(r)
	row.Place = "Attic room"
	b, err := placefile.Form.CSV([]placefile.Row{row})
	require.NoError(c.t, err)
	return ok[studio.PlacesPreview](c, "POST", "/api/places-file/preview", studio.PlacesText{Text: string(b)})
}

// inStudioFile sends a row as a studio's file, where every quantity has its unit.
func inStudioFile(c client, r kit.Row) int {
	typed := func(text string, read func(string) (measure.Reading, error)) *measure.Typed {
		if strings.TrimSpace(text) == "" {
			return nil
		}
		if x, err := read(text); err == nil {
			return &x.Typed
		}
		number, unit, _ := strings.Cut(text, " ")
		return &measure.Typed{Decimal: number, Unit: measure.Unit(unit)}
	}
	mass := func(text string) *measure.Typed {
		return typed(text, func(s string) (measure.Reading, error) { return measure.ReadMass(s, measure.Kilogram, 1<<40) })
	}
	length := func(text string) *measure.Typed {
		return typed(text, func(s string) (measure.Reading, error) { return measure.ReadLength(s, measure.Centimetre, 1<<40) })
	}
	volume := func(text string) *measure.Typed {
		return typed(text, func(s string) (measure.Reading, error) { return measure.ReadVolume(s, measure.Litre, 1<<40) })
	}
	t := kit.Thing{Item: r.Item, Name: "Thing", Kind: r.Kind, Use: r.Use, Count: r.Count, Checked: r.Checked, Mass: mass(r.Mass), Max: mass(r.Max), Height: length(r.Height),
		Implement: kit.ImplementDetails{Rated: mass(r.Rated), Legs: r.Legs, TableMass: mass(r.TableMass), CentreIn: length(r.CentreIn), EdgeOut: length(r.EdgeOut)},
		Object:    kit.ObjectDetails{How: r.How, What: r.What, In: r.In, Volume: volume(r.Volume), Empty: mass(r.Empty), Refill: r.Refill, Traits: r.Traits},
		Container: kit.ContainerDetails{Volume: volume(r.Volume), Closed: r.Closed, Straps: r.Straps, Wear: r.Wear}}
	if r.Stretch1+r.Pull1+r.Stretch2+r.Pull2 != "" {
		t.Implement.Pulls = []kit.TypedPull{{Stretch: *length(r.Stretch1), Pull: *mass(r.Pull1)}, {Stretch: *length(r.Stretch2), Pull: *mass(r.Pull2)}}
	}
	switch r.How {
	case kit.ByNet:
		t.Object.Amount = mass(r.Mass)
	case kit.ByVolume:
		t.Object.Amount, t.Object.Volume = volume(r.Volume), nil
	}
	if known, _, err := t.Object.Weigh(); err == nil && known.Mass > 0 {
		t.Mass = &measure.Typed{Decimal: measure.Whole(int64(known.Mass)), Unit: measure.Gram}
	}
	p := studiofile.Place{ID: id(2), Name: "P", Kind: "hall", MassUnit: "kg", Implements: []studiofile.Implement{}, Objects: []studiofile.Object{}, Containers: []studiofile.Container{}}
	p.Add(id(3), t)
	b, err := json.Marshal(studiofile.File{Format: studiofile.Format, V: studiofile.Version, Library: "1", Studio: studiofile.Studio{Name: "S", TimeZone: "UTC", MassUnit: "kg"},
		Moves: nil, Places: []studiofile.Place{p}, Classes: []studiofile.Class{}})
	require.NoError(c.t, err)
	status, _, _ := c.send("POST", "/api/studio/import?try=true", strings.Replace(string(b), `"moves":null`, `"moves":[]`, 1))
	return status
}

// Whatever a form refuses, every importer refuses; what a form takes, both files take too.
func TestOneJudgeOfRows(t *testing.T) {
	c, _ := hallAt(t, dbtest.DSN(t), fixed)
	place := ""
	for _, p := range ok[[]studio.Place](c, "GET", "/api/places", nil) {
		if p.Name == "Attic room" {
			place = p.ID
		}
	}
	taken, refused := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		r := drawnRow(t)
		form := inForm(c, place, r)
		table := inTable(c, r)
		if form == noForm {
			if len(table.Faults) == 0 {
				t.Fatalf("%+v: no form has this, and the table takes it", r)
			}
			return
		}
		file := inStudioFile(c, r)
		switch form {
		case http.StatusOK:
			taken++
			_, _, _ = c.send("DELETE", "/api/places/"+place+"/"+r.Item+"s/"+id(slices.Index(kit.RowItems, r.Item)), "")
			if len(table.Faults) > 0 || file != http.StatusOK {
				t.Fatalf("%+v: the form takes it; the table %+v, the studio's file %d", r, table.Faults, file)
			}
		case http.StatusUnprocessableEntity:
			refused++
			if len(table.Faults) == 0 || file != http.StatusUnprocessableEntity {
				t.Fatalf("%+v: the form refuses it; the table %+v, the studio's file %d", r, table.Faults, file)
			}
		default:
			t.Fatalf("%+v: %d", r, form)
		}
	})
	assert.Positive(t, taken, "rows are drawn: few of them are right")
	assert.Positive(t, refused)
}
