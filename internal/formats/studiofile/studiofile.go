// Package studiofile is a studio as one JSON document that anybody can read:
// what goes out goes in again, here or elsewhere. docs/formats/studio.md
// describes it.
package studiofile

import (
	"encoding/json"
	"time"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
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
	Style moves.Style      `json:"style"`
	Moves []*moves.Variant `json:"moves" maxItems:"300"`
	// Templates are sessions that the house keeps.
	Templates []Template `json:"templates,omitempty" nullable:"false" maxItems:"200"`
	// Series are the groups' classes, People whom the studio knows.
	Series []Series `json:"series,omitempty" nullable:"false" maxItems:"20000"`
	People []Person `json:"people,omitempty" nullable:"false" maxItems:"20000"`
	// Erased are the SHA-256 of the ids of people who were erased: they are not brought in again.
	Erased  []string `json:"erased,omitempty" nullable:"false" maxItems:"20000"`
	Places  []Place  `json:"places" maxItems:"100"`
	Classes []Class  `json:"classes" maxItems:"20000"`
}

// Studio is what is set once.
type Studio struct {
	Name     string `json:"name" minLength:"1" maxLength:"480"`
	TimeZone string `json:"timeZone" maxLength:"64"`
	MassUnit string `json:"massUnit" enum:"kg,lb"`
}

// Template is a session that the house keeps to use again.
type Template struct {
	ID       string          `json:"id" pattern:"^[0-9a-z]{26}$"`
	Name     string          `json:"name" minLength:"1" maxLength:"480"`
	Minutes  int             `json:"minutes" minimum:"5" maximum:"240"`
	Document json.RawMessage `json:"document"`
	Made     time.Time       `json:"made"`
}

// Series is the classes of a group.
type Series struct {
	ID   string `json:"id" pattern:"^[0-9a-z]{26}$"`
	Name string `json:"name" minLength:"1" maxLength:"480"`
}

// Person is somebody whom the studio knows by name.
type Person struct {
	ID       string `json:"id" pattern:"^[0-9a-z]{26}$"`
	Name     string `json:"name" minLength:"1" maxLength:"480"`
	SameName bool   `json:"sameName,omitempty" doc:"another has the name, and nothing tells them apart for sure"`
	MassUnit string `json:"massUnit,omitempty" enum:",kg,lb"`
	Weaker   string `json:"weaker,omitempty" enum:",left,right"`
	Note     string `json:"note,omitempty" maxLength:"1120"`
	// Groups are the series that they are a regular of.
	Groups []string `json:"groups,omitempty" nullable:"false" maxItems:"1000"`
	// Spared is all that leaves their health where that does not come with the file.
	Spared  *people.Spared `json:"spared,omitempty"`
	Records []Record       `json:"records,omitempty" nullable:"false" maxItems:"1000"`
	Health  []HealthRecord `json:"health,omitempty" nullable:"false" maxItems:"200"`
}

// Record is something that is known of a person from a day on.
type Record struct {
	ID   string `json:"id" pattern:"^[0-9a-z]{26}$"`
	Date string `json:"date" format:"date"`
	people.Record
}

// HealthRecord is what somebody answered on a day, or who cleared them.
type HealthRecord struct {
	ID   string `json:"id" pattern:"^[0-9a-z]{26}$"`
	Date string `json:"date" format:"date"`
	people.HealthRecord
}

// PersonFormat and PersonVersion stand at the top of a person's file.
const (
	PersonFormat  = "nimbleanvil-person"
	PersonVersion = 1
)

// PersonFile is all that a studio knows of somebody, for them to have.
type PersonFile struct {
	Format  string        `json:"format" enum:"nimbleanvil-person"`
	V       int           `json:"v"`
	Library string        `json:"library" doc:"version of the movement library that the ids of moves come from"`
	Person  Person        `json:"person"`
	Groups  []Series      `json:"groups,omitempty" nullable:"false" doc:"those that the person is a regular of"`
	Classes []PersonClass `json:"classes"`
}

// PersonClass is a class that somebody was in, with what they did there.
type PersonClass struct {
	ID          string `json:"id"`
	Name        string `json:"name"`
	Date        string `json:"date" format:"date"`
	Participant string `json:"participant" doc:"who they are in it"`
	Lane        string `json:"lane" enum:"ground,middle,reach"`
	Log         []Line `json:"log"`
}

// Quantity is a mass or length as typed.
type Quantity struct {
	Decimal string `json:"decimal" maxLength:"24" pattern:"^[0-9]+([.][0-9]+)?$"`
	Unit    string `json:"unit" enum:"kg,g,lb,oz,lb-oz,cm,mm,m,in"`
}

// Place is where kit is. What is put away has the instant of that.
type Place struct {
	ID         string      `json:"id" pattern:"^[0-9a-z]{26}$"`
	Name       string      `json:"name" minLength:"1" maxLength:"480"`
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
	Name    string                `json:"name" minLength:"1" maxLength:"480"`
	Kind    string                `json:"kind" enum:"kettlebell,dumbbell,dumbbell-pair,barbell,band,bench,box,table,plate,post,mat,wall,smooth-floor,foot-hold,wedge,door"`
	Mass    *Quantity             `json:"mass,omitempty"`
	Height  *Quantity             `json:"height,omitempty"`
	Count   int                   `json:"count" minimum:"0" maximum:"500" doc:"0 of a wall, post or mat: there is none"`
	Checked bool                  `json:"checked"`
	Details *kit.ImplementDetails `json:"details,omitempty" doc:"what is known beyond mass and height"`
	Retired *time.Time            `json:"retired,omitempty"`
}

// Object is a row of equal household objects.
type Object struct {
	ID      string             `json:"id" pattern:"^[0-9a-z]{26}$"`
	Name    string             `json:"name" minLength:"1" maxLength:"480"`
	Use     string             `json:"use" enum:"grip,hug,pack"`
	Mass    Quantity           `json:"mass"`
	Count   int                `json:"count" minimum:"1" maximum:"500"`
	Details *kit.ObjectDetails `json:"details,omitempty" doc:"how its mass is known, and what else"`
	Retired *time.Time         `json:"retired,omitempty"`
}

// Container holds objects.
type Container struct {
	ID      string                `json:"id" pattern:"^[0-9a-z]{26}$"`
	Name    string                `json:"name" minLength:"1" maxLength:"480"`
	Mass    Quantity              `json:"mass"`
	Max     Quantity              `json:"max"`
	Details *kit.ContainerDetails `json:"details,omitempty" doc:"what is known beyond its masses"`
	Retired *time.Time            `json:"retired,omitempty"`
}

// Class is one class at a local day and time with all that belongs to it.
type Class struct {
	ID       string        `json:"id" pattern:"^[0-9a-z]{26}$"`
	Place    string        `json:"place" pattern:"^[0-9a-z]{26}$"`
	Name     string        `json:"name" minLength:"1" maxLength:"480"`
	Date     string        `json:"date" format:"date"`
	Time     string        `json:"time" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$"`
	TimeZone string        `json:"timeZone" maxLength:"64"`
	Minutes  int           `json:"minutes" minimum:"5" maximum:"240"`
	Series   string        `json:"series,omitempty" pattern:"^([0-9a-z]{26})?$" doc:"of which it is a class; its name tells where this is missing"`
	Lanes    []Lane        `json:"lanes" minItems:"1" maxItems:"3"`
	People   []Participant `json:"people" maxItems:"500"`
	Circuit  *Circuit      `json:"circuit,omitempty"`
	Runs     []Run         `json:"runs" maxItems:"100"`
	Log      []Line        `json:"log" maxItems:"12072"`
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

// Participant is somebody in a class: a person, or, as in older files, somebody of whom only
// the name is known; neither for one whom nobody knows.
type Participant struct {
	ID     string `json:"id" pattern:"^[0-9a-z]{26}$"`
	Person string `json:"person,omitempty" pattern:"^([0-9a-z]{26})?$"`
	Name   string `json:"name,omitempty" maxLength:"480"`
	Lane   string `json:"lane" enum:"ground,middle,reach"`
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
	Base     *int            `json:"base,omitempty" nullable:"false" minimum:"1" maximum:"10000"`
	ClientID string          `json:"clientId" pattern:"^[0-9a-z]{26}$"`
	Kind     string          `json:"kind" enum:"propose,again,day,edit,undo,redo,restore"`
	Side     bool            `json:"side"`
	Ops      json.RawMessage `json:"ops,omitempty"`
	Inverse  json.RawMessage `json:"inverse,omitempty"`
	Document json.RawMessage `json:"document"`
	Notes    json.RawMessage `json:"notes,omitempty"`
	UndoTo   *int            `json:"undoTo,omitempty" nullable:"false" minimum:"1" maximum:"10000"`
	RedoTo   *int            `json:"redoTo,omitempty" nullable:"false" minimum:"1" maximum:"10000"`
	Made     time.Time       `json:"made"`
}

// Run is one taking-place with the plan it began with.
type Run struct {
	ID      string          `json:"id" pattern:"^[0-9a-z]{26}$"`
	Version int             `json:"version" minimum:"1" maximum:"10000"`
	Plan    json.RawMessage `json:"plan"`
	Made    time.Time       `json:"made"`
	Presses []Press         `json:"presses" maxItems:"5000"`
}

// Press is a key pressed in class.
type Press struct {
	ID   string    `json:"id" pattern:"^[0-9a-z]{26}$"`
	Kind string    `json:"kind" enum:"start,hold,resume,skip,back,add,next,end,done,round,stopped,again,swapped"`
	At   time.Time `json:"at"`
	Ms   int64     `json:"ms" minimum:"0" maximum:"600000"`
	// Device is what was pressed, N its own number of the press.
	Device string `json:"device,omitempty" pattern:"^([0-9a-z]{26})?$"`
	N      int64  `json:"n,omitempty" minimum:"0" maximum:"9007199254740991"`
	// Party and Slot are of what a party did, Detail is what it does from then on.
	Party  string          `json:"party,omitempty" pattern:"^([0-9a-z]{26}|ground|middle|reach)?$"`
	Slot   string          `json:"slot,omitempty" maxLength:"26"`
	Detail json.RawMessage `json:"detail,omitempty"`
}

// Line is what a lane or a person did in a slot.
type Line struct {
	Subject     string          `json:"subject" pattern:"^([0-9a-z]{26}|ground|middle|reach)$"`
	Slot        string          `json:"slot" pattern:"^[0-9A-Za-z-]{1,26}$"`
	Lane        string          `json:"lane" enum:"ground,middle,reach"`
	Variant     string          `json:"variant" pattern:"^[a-z][0-9a-z-]{0,59}$"`
	Planned     int             `json:"planned" minimum:"0" maximum:"1000"`
	Dose        json.RawMessage `json:"dose,omitempty" doc:"what else was planned of it"`
	Done        int             `json:"done" minimum:"0" maximum:"600"`
	InForm      int             `json:"inForm" minimum:"0" maximum:"600"`
	Told        json.RawMessage `json:"told,omitempty" doc:"what else was told of it"`
	Reserve     *int            `json:"reserve,omitempty" minimum:"0" maximum:"100"`
	Pain        string          `json:"pain" enum:"none,burn,joint,sore"`
	Joint       string          `json:"joint,omitempty" enum:"ankle,knee,hip,low-back,neck,shoulder,elbow,wrist,hamstring"`
	Others      bool            `json:"others,omitempty" doc:"somebody else's pain than the time before"`
	Hold        string          `json:"hold,omitempty" pattern:"^[0-9a-z-]{0,20}$"`
	TooLight    bool            `json:"tooLight,omitempty" doc:"by the plan's own word"`
	LoadG       int64           `json:"loadG" minimum:"0" maximum:"600000"`
	ResistanceG int64           `json:"resistanceG" minimum:"0" maximum:"3000000"`
	Library     string          `json:"library" pattern:"^[ -~]{0,20}$"`
	Written     time.Time       `json:"written"`
	Device      string          `json:"device,omitempty" pattern:"^([0-9a-z]{26})?$" doc:"that it was typed on"`
	N           int64           `json:"n,omitempty" minimum:"0" maximum:"9007199254740991" doc:"the device's number of it"`
	Overtaken   []Past          `json:"overtaken,omitempty" nullable:"false" maxItems:"20" doc:"what stood here before, or came too late, the oldest first"`
}

// Past is what was typed in a line and does not stand there any more.
type Past struct {
	Done    int             `json:"done" minimum:"0" maximum:"600"`
	InForm  int             `json:"inForm" minimum:"0" maximum:"600"`
	Told    json.RawMessage `json:"told,omitempty"`
	Reserve *int            `json:"reserve,omitempty" nullable:"false" minimum:"0" maximum:"100"`
	Pain    string          `json:"pain" enum:"none,burn,joint,sore"`
	Joint   string          `json:"joint,omitempty" enum:"ankle,knee,hip,low-back,neck,shoulder,elbow,wrist,hamstring"`
	Others  bool            `json:"others,omitempty"`
	LoadG   int64           `json:"loadG" minimum:"0" maximum:"600000"`
	Device  string          `json:"device,omitempty" pattern:"^([0-9a-z]{26})?$"`
	N       int64           `json:"n,omitempty" minimum:"0" maximum:"9007199254740991"`
	Written time.Time       `json:"written"`
}
