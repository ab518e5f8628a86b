// Package studiofile is a studio as one JSON document that anybody can read:
// what goes out goes in again, here or elsewhere. docs/formats/studio.md
// describes it.
package studiofile

import (
	"encoding/json"
	"errors"
	"fmt"
	"regexp"
	"time"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

// Format and Version stand at the top of every file.
const (
	Format  = "nimbleanvil-studio"
	Version = 1
)

// File is a studio.
type File struct {
	Format  string `json:"format" enum:"nimbleanvil-studio"`
	V       int    `json:"v" minimum:"1" maximum:"1"`
	Library string `json:"library" maxLength:"20" doc:"version of the movement library that the ids of moves come from"`
	Studio  Studio `json:"studio"`
	// Style is how the house teaches; Moves are its own, as its library file has them.
	Style   moves.Style      `json:"style"`
	Moves   []*moves.Variant `json:"moves" maxItems:"300"`
	Places  []Place          `json:"places" maxItems:"100"`
	Classes []Class          `json:"classes" maxItems:"20000"`
}

// Studio is what is set once.
type Studio struct {
	Name     string `json:"name" minLength:"1" maxLength:"120"`
	TimeZone string `json:"timeZone" maxLength:"64"`
	MassUnit string `json:"massUnit" enum:"kg,lb"`
}

// Quantity is a mass or length as typed.
type Quantity struct {
	Decimal string `json:"decimal" maxLength:"24" pattern:"^[0-9]+([.][0-9]+)?$"`
	Unit    string `json:"unit" enum:"kg,g,lb,oz,lb-oz,cm,mm,m,in"`
}

// Place is where kit is. What is put away has the instant of that.
type Place struct {
	ID         string      `json:"id" pattern:"^[0-9a-z]{26}$"`
	Name       string      `json:"name" minLength:"1" maxLength:"120"`
	Kind       string      `json:"kind" enum:"hall,flat"`
	MassUnit   string      `json:"massUnit" enum:"kg,lb"`
	Retired    *time.Time  `json:"retired,omitempty"`
	Implements []Implement `json:"implements" maxItems:"300"`
	Objects    []Object    `json:"objects" maxItems:"300"`
	Containers []Container `json:"containers" maxItems:"300"`
}

// Implement is a row of equal implements.
type Implement struct {
	ID      string                `json:"id" pattern:"^[0-9a-z]{26}$"`
	Name    string                `json:"name" minLength:"1" maxLength:"120"`
	Kind    string                `json:"kind" enum:"kettlebell,dumbbell,dumbbell-pair,band,bench,box,table"`
	Mass    *Quantity             `json:"mass,omitempty"`
	Height  *Quantity             `json:"height,omitempty"`
	Count   int                   `json:"count" minimum:"1" maximum:"500"`
	Checked bool                  `json:"checked"`
	Details *kit.ImplementDetails `json:"details,omitempty" doc:"what is known beyond mass and height"`
	Retired *time.Time            `json:"retired,omitempty"`
}

// Object is a row of equal household objects.
type Object struct {
	ID      string             `json:"id" pattern:"^[0-9a-z]{26}$"`
	Name    string             `json:"name" minLength:"1" maxLength:"120"`
	Use     string             `json:"use" enum:"grip,hug,pack"`
	Mass    Quantity           `json:"mass"`
	Count   int                `json:"count" minimum:"1" maximum:"500"`
	Details *kit.ObjectDetails `json:"details,omitempty" doc:"how its mass is known, and what else"`
	Retired *time.Time         `json:"retired,omitempty"`
}

// Container holds objects.
type Container struct {
	ID      string                `json:"id" pattern:"^[0-9a-z]{26}$"`
	Name    string                `json:"name" minLength:"1" maxLength:"120"`
	Mass    Quantity              `json:"mass"`
	Max     Quantity              `json:"max"`
	Details *kit.ContainerDetails `json:"details,omitempty" doc:"what is known beyond its masses"`
	Retired *time.Time            `json:"retired,omitempty"`
}

// Class is one class at a local day and time with all that belongs to it.
type Class struct {
	ID       string   `json:"id" pattern:"^[0-9a-z]{26}$"`
	Place    string   `json:"place" pattern:"^[0-9a-z]{26}$"`
	Name     string   `json:"name" minLength:"1" maxLength:"120"`
	Date     string   `json:"date" format:"date"`
	Time     string   `json:"time" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$"`
	TimeZone string   `json:"timeZone" maxLength:"64"`
	Minutes  int      `json:"minutes" minimum:"5" maximum:"240"`
	Lanes    []Lane   `json:"lanes" minItems:"1" maxItems:"3"`
	People   []Person `json:"people" maxItems:"500"`
	Circuit  *Circuit `json:"circuit,omitempty"`
	Runs     []Run    `json:"runs" maxItems:"100"`
	Log      []Line   `json:"log" maxItems:"12072"`
}

// Lane is how many people come, and the body the lane is computed for.
type Lane struct {
	Lane   string   `json:"lane" enum:"ground,middle,reach"`
	People int      `json:"people" minimum:"0" maximum:"500"`
	Body   Quantity `json:"body"`
	// BodyKnown says that somebody typed it.
	BodyKnown bool     `json:"bodyKnown,omitempty"`
	Stature   Quantity `json:"stature"`
}

// Person is somebody in a class.
type Person struct {
	ID   string `json:"id" pattern:"^[0-9a-z]{26}$"`
	Name string `json:"name" minLength:"1" maxLength:"120"`
	Lane string `json:"lane" enum:"ground,middle,reach"`
}

// Circuit is a plan with its history, oldest first.
type Circuit struct {
	ID       string  `json:"id" pattern:"^[0-9a-z]{26}$"`
	Head     int     `json:"head" minimum:"1" maximum:"10000"`
	Versions []State `json:"versions" minItems:"1" maxItems:"10000"`
}

// State is one state of a circuit.
type State struct {
	Version  int             `json:"version" minimum:"1" maximum:"10000"`
	Base     *int            `json:"base,omitempty"`
	ClientID string          `json:"clientId" pattern:"^[0-9a-z]{26}$"`
	Kind     string          `json:"kind" maxLength:"8"`
	Side     bool            `json:"side"`
	Ops      json.RawMessage `json:"ops,omitempty"`
	Inverse  json.RawMessage `json:"inverse,omitempty"`
	Document json.RawMessage `json:"document"`
	Notes    json.RawMessage `json:"notes,omitempty"`
	UndoTo   *int            `json:"undoTo,omitempty"`
	RedoTo   *int            `json:"redoTo,omitempty"`
	Made     time.Time       `json:"made"`
}

// Run is one taking-place with the plan it began with.
type Run struct {
	ID      string          `json:"id" pattern:"^[0-9a-z]{26}$"`
	Version int             `json:"version" minimum:"1"`
	Plan    json.RawMessage `json:"plan"`
	Made    time.Time       `json:"made"`
	Presses []Press         `json:"presses" maxItems:"5000"`
}

// Press is a key pressed in class.
type Press struct {
	ID   string    `json:"id" pattern:"^[0-9a-z]{26}$"`
	Kind string    `json:"kind" enum:"start,hold,resume,skip,back,add,end"`
	At   time.Time `json:"at"`
	Ms   int64     `json:"ms" minimum:"0" maximum:"600000"`
}

// Line is what a lane or a person did in a slot.
type Line struct {
	Subject     string    `json:"subject" pattern:"^([0-9a-z]{26}|ground|middle|reach)$"`
	Slot        string    `json:"slot" minLength:"1" maxLength:"26"`
	Lane        string    `json:"lane" enum:"ground,middle,reach"`
	Variant     string    `json:"variant" maxLength:"60"`
	Planned     int       `json:"planned" minimum:"0" maximum:"1000"`
	Done        int       `json:"done" minimum:"0" maximum:"100"`
	InForm      int       `json:"inForm" minimum:"0" maximum:"100"`
	Reserve     *int      `json:"reserve,omitempty" minimum:"0" maximum:"100"`
	Pain        string    `json:"pain" enum:"none,burn,joint"`
	Joint       string    `json:"joint,omitempty" enum:"ankle,knee,hip,low-back,neck,shoulder,elbow,wrist,hamstring"`
	Others      bool      `json:"others,omitempty" doc:"somebody else's pain than the time before"`
	Hold        string    `json:"hold,omitempty" maxLength:"20"`
	TooLight    bool      `json:"tooLight,omitempty" doc:"by the plan's own word"`
	LoadG       int64     `json:"loadG" minimum:"0" maximum:"600000"`
	ResistanceG int64     `json:"resistanceG" minimum:"0"`
	Library     string    `json:"library" maxLength:"20"`
	Written     time.Time `json:"written"`
}

// Fault names what in a file cannot be.
type Fault struct{ Path, Message string }

func (f *Fault) Error() string { return f.Path + ": " + f.Message }

// Check looks for what the shape of the file does not forbid: doubled ids,
// classes at places that are not there, circuits no program could have made,
// quantities that are none. It gives the first fault.
func (f File) Check() error {
	c := checker{ids: map[string]string{}, places: map[string]bool{}}
	c.zone("studio.timeZone", f.Studio.TimeZone)
	var err error
	if c.lib, err = moves.Standard().With(f.Moves); err != nil {
		return &Fault{"moves", err.Error()}
	}
	if err := f.Style.Check(c.lib); err != nil {
		return &Fault{"style", err.Error()}
	}
	for i, p := range f.Places {
		c.place(fmt.Sprintf("places[%d]", i), p)
	}
	for i, k := range f.Classes {
		c.class(fmt.Sprintf("classes[%d]", i), k)
	}
	if c.fault != nil {
		return c.fault
	}
	return nil
}

type checker struct {
	ids    map[string]string // id -> where it stands
	places map[string]bool
	lib    *moves.Library
	fault  *Fault
}

func (c *checker) fail(path, format string, args ...any) {
	if c.fault == nil {
		c.fault = &Fault{path, fmt.Sprintf(format, args...)}
	}
}

func (c *checker) id(path, id string) {
	if at, seen := c.ids[id]; seen {
		c.fail(path+".id", "is the id of %s already", at)
	}
	c.ids[id] = path
}

func (c *checker) zone(path, name string) {
	if _, err := time.LoadLocation(name); err != nil || name == "" {
		c.fail(path, "this time zone is not known: write it as Europe/Berlin")
	}
}

func (c *checker) mass(path string, q *Quantity, least, most int64) {
	if q == nil {
		return
	}
	if whole, err := q.Whole(); err != nil || whole < least || whole > most {
		c.fail(path, "from %d to %d grams or millimetres, as %s cannot be", least, most, q.Decimal+" "+q.Unit)
	}
}

// plain is a number written out: no exponent can blow it up.
var plain = regexp.MustCompile(`^[0-9]{1,12}(\.[0-9]{1,11})?$`)

// Whole gives the grams or millimetres of a quantity.
func (q Quantity) Whole() (int64, error) {
	if !plain.MatchString(q.Decimal) {
		return 0, errors.New("write the number out")
	}
	return measure.Typed{Decimal: q.Decimal, Unit: measure.Unit(q.Unit)}.Whole()
}

func (c *checker) place(path string, p Place) {
	c.id(path, p.ID)
	c.places[p.ID] = true
	most := int64(measure.MaxLoad)
	for i, x := range p.Implements {
		at := fmt.Sprintf("%s.implements[%d]", path, i)
		c.id(at, x.ID)
		c.mass(at+".mass", x.Mass, 1, most)
		c.mass(at+".height", x.Height, 1, 2000)
	}
	for i, x := range p.Objects {
		at := fmt.Sprintf("%s.objects[%d]", path, i)
		c.id(at, x.ID)
		c.mass(at+".mass", &x.Mass, 1, most)
	}
	for i, x := range p.Containers {
		at := fmt.Sprintf("%s.containers[%d]", path, i)
		c.id(at, x.ID)
		c.mass(at+".mass", &x.Mass, 0, most)
		c.mass(at+".max", &x.Max, 1, most)
	}
}

func (c *checker) class(path string, k Class) {
	c.id(path, k.ID)
	if !c.places[k.Place] {
		c.fail(path+".place", "there is no such place in the file")
	}
	if _, err := time.Parse(time.DateOnly, k.Date); err != nil {
		c.fail(path+".date", "a day as 2026-11-25")
	}
	c.zone(path+".timeZone", k.TimeZone)
	lanes, people := map[string]bool{}, map[string]bool{"ground": true, "middle": true, "reach": true}
	for i, l := range k.Lanes {
		at := fmt.Sprintf("%s.lanes[%d]", path, i)
		if lanes[l.Lane] {
			c.fail(at+".lane", "each lane once")
		}
		lanes[l.Lane] = true
		c.mass(at+".body", &l.Body, 20_000, 300_000)
		c.mass(at+".stature", &l.Stature, 1000, 2300)
	}
	for i, p := range k.People {
		c.id(fmt.Sprintf("%s.people[%d]", path, i), p.ID)
		people[p.ID] = true
	}
	if k.Circuit != nil {
		c.circuit(path+".circuit", *k.Circuit)
	}
	for i, r := range k.Runs {
		c.run(fmt.Sprintf("%s.runs[%d]", path, i), r)
	}
	lines := map[string]bool{}
	for i, l := range k.Log {
		at := fmt.Sprintf("%s.log[%d]", path, i)
		key := l.Subject + "/" + l.Slot
		switch {
		case !people[l.Subject]:
			c.fail(at+".subject", "there is nobody of this id in the class")
		case lines[key]:
			c.fail(at, "each slot of a person or lane once")
		case l.InForm > l.Done:
			c.fail(at+".inForm", "no more repetitions are in form than were done")
		}
		lines[key] = true
	}
}

func (c *checker) circuit(path string, k Circuit) {
	c.id(path, k.ID)
	head, seen := false, map[int]bool{}
	for i, v := range k.Versions {
		at := fmt.Sprintf("%s.versions[%d]", path, i)
		if seen[v.Version] {
			c.fail(at+".version", "each version once")
		}
		seen[v.Version] = true
		head = head || v.Version == k.Head && !v.Side
		d, err := circuit.Decode(v.Document)
		if err == nil {
			err = d.Check(c.lib)
		}
		if err != nil {
			c.fail(at+".document", "%v", err)
		}
	}
	if !head {
		c.fail(path+".head", "is the number of none of the versions")
	}
}

func (c *checker) run(path string, r Run) {
	c.id(path, r.ID)
	if !json.Valid(r.Plan) {
		c.fail(path+".plan", "is no JSON")
	}
	seen := map[string]bool{}
	for i, p := range r.Presses {
		if seen[p.ID] {
			c.fail(fmt.Sprintf("%s.presses[%d].id", path, i), "each press once")
		}
		seen[p.ID] = true
	}
}
