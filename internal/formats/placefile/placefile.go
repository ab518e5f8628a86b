// Package placefile is what places have as a table that a spreadsheet opens (CSV,
// RFC 4180) and as JSON: one row a thing, every quantity as somebody would type it.
// docs/formats/places.md describes it.
package placefile

import (
	"errors"
	"strconv"
	"strings"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/formats/table"
)

// Format and Version stand at the top of a JSON file.
const (
	Format  = "nimbleanvil-places"
	Version = 1
)

// MaxRows bounds a file.
const MaxRows = 2000

// Row is one thing of a place. Lists are words with spaces between; Yes is "yes" or
// nothing. What the kind of thing does not have stays empty.
type Row struct {
	Place     string `json:"place" doc:"name of the place"`
	PlaceKind string `json:"placeKind,omitempty" doc:"hall or flat"`
	Unit      string `json:"unit,omitempty" doc:"what a bare number means there: kg or lb"`
	Item      string `json:"item" doc:"implement, object or container"`
	Name      string `json:"name"`
	Kind      string `json:"kind,omitempty" doc:"of an implement: kettlebell, dumbbell, dumbbell-pair, barbell, band, bench, box, table, plate, post, mat, wall, smooth-floor, foot-hold, wedge, door"`
	Use       string `json:"use,omitempty" doc:"of an object: grip, hug, pack"`
	Count     string `json:"count,omitempty"`
	Mass      string `json:"mass,omitempty" doc:"of one piece"`
	How       string `json:"how,omitempty" doc:"how an object's mass is known: gross, net, volume, kind, weighed"`
	What      string `json:"what,omitempty"`
	In        string `json:"in,omitempty"`
	Volume    string `json:"volume,omitempty"`
	Empty     string `json:"empty,omitempty"`
	Refill    string `json:"refill,omitempty" doc:"yes: filled in steps"`
	Traits    string `json:"traits,omitempty" doc:"soft loose glass hot sharp hard-edged"`
	Max       string `json:"max,omitempty" doc:"the most a container may weigh packed"`
	Closed    string `json:"closed,omitempty"`
	Straps    string `json:"straps,omitempty"`
	Wear      string `json:"wear,omitempty" doc:"front hand hips back"`
	Height    string `json:"height,omitempty"`
	Highest   string `json:"highest,omitempty" doc:"of a bench whose height is set"`
	Points    string `json:"points,omitempty" doc:"of a door, to anchor a band: top middle foot"`
	Checked   string `json:"checked,omitempty"`
	Rated     string `json:"rated,omitempty"`
	Legs      string `json:"legs,omitempty"`
	TableMass string `json:"tableMass,omitempty"`
	CentreIn  string `json:"centreIn,omitempty"`
	EdgeOut   string `json:"edgeOut,omitempty"`
	Stretch1  string `json:"stretch1,omitempty"`
	Pull1     string `json:"pull1,omitempty"`
	Stretch2  string `json:"stretch2,omitempty"`
	Pull2     string `json:"pull2,omitempty"`
	ID        string `json:"id,omitempty" doc:"of the thing, where it is known; leave it out for new ones"`
}

// File is the JSON form.
type File = table.File[Row]

// Mistake is something wrong in a file.
type Mistake = table.Mistake

// Parsed is a file that was read.
type Parsed = table.Parsed[Row]

// Form reads and writes such files.
var Form = table.Form[Row]{Format: Format, Version: Version, MaxRows: MaxRows, Must: []string{"place", "item", "name"}}

// Fields lists the columns in order.
var Fields = Form.Fields()

// Parse reads a file.
func Parse(b []byte) Parsed { return Form.Parse(b) }

// Yes reads a yes or no; ok is false for anything else.
func Yes(s string) (yes, ok bool) {
	switch strings.ToLower(s) {
	case "yes", "true", "1", "x":
		return true, true
	case "", "no", "false", "0":
		return false, true
	}
	return false, false
}

// Word writes a yes, or nothing.
func Word(yes bool) string {
	if yes {
		return "yes"
	}
	return ""
}

// Number reads a count; an empty one is 1.
func Number(s string) (int, error) {
	if s == "" {
		return 1, nil
	}
	n, err := strconv.Atoi(s)
	if err != nil || n < 1 || n > 500 {
		return 0, errors.New("a whole number from 1 to 500")
	}
	return n, nil
}

// Typed gives a row as it would be typed into a form, with what of its words and numbers
// cannot be read.
func (r Row) Typed() (kit.Row, fault.List) {
	var wrong fault.List
	yes := func(field, text string) bool {
		is, ok := Yes(text)
		if !ok {
			wrong.Note(field, "yes or nothing", text)
		}
		return is
	}
	n, err := Number(r.Count)
	if err != nil {
		wrong.Note("count", err.Error(), r.Count)
	}
	return kit.Row{Item: r.Item, Name: r.Name, Count: n, Mass: r.Mass, Volume: r.Volume,
		Kind: r.Kind, Height: r.Height, Rated: r.Rated, Legs: r.Legs, TableMass: r.TableMass, CentreIn: r.CentreIn, EdgeOut: r.EdgeOut,
		Stretch1: r.Stretch1, Pull1: r.Pull1, Stretch2: r.Stretch2, Pull2: r.Pull2, Checked: yes("checked", r.Checked), Highest: r.Highest, Points: strings.Fields(r.Points),
		Use: r.Use, How: r.How, What: r.What, In: r.In, Empty: r.Empty, Refill: yes("refill", r.Refill), Traits: strings.Fields(r.Traits),
		Max: r.Max, Closed: yes("closed", r.Closed), Straps: yes("straps", r.Straps), Wear: strings.Fields(r.Wear)}, wrong
}

// Of writes a row of a place as a row of a file; whose place it is, and its id, are left
// to whoever knows them.
func Of(r kit.Row) Row {
	out := Row{Item: r.Item, Name: r.Name, Mass: r.Mass, Volume: r.Volume,
		Kind: r.Kind, Height: r.Height, Rated: r.Rated, Legs: r.Legs, TableMass: r.TableMass, CentreIn: r.CentreIn, EdgeOut: r.EdgeOut,
		Stretch1: r.Stretch1, Pull1: r.Pull1, Stretch2: r.Stretch2, Pull2: r.Pull2, Checked: Word(r.Checked), Highest: r.Highest, Points: strings.Join(r.Points, " "),
		Use: r.Use, How: r.How, What: r.What, In: r.In, Empty: r.Empty, Refill: Word(r.Refill), Traits: strings.Join(r.Traits, " "),
		Max: r.Max, Closed: Word(r.Closed), Straps: Word(r.Straps), Wear: strings.Join(r.Wear, " ")}
	if r.Item != kit.ContainerRow {
		out.Count = strconv.Itoa(r.Count)
	}
	return out
}
