package store

import (
	"time"

	"nimbleanvil/internal/core/kit"
)

// Row is what every row of a studio has.
type Row struct {
	ID       int64
	StudioID int64
}

// Quantity is a mass or length as typed, and its whole grams or millimetres.
type Quantity struct {
	Decimal string
	Unit    string
	Whole   int64
}

// Studio is the tenant.
type Studio struct {
	ID       int64
	PublicID string
	Name     string
	TimeZone string
	MassUnit string
	Language string // of the texts: en, en-XA
	// Style is the house's way of teaching; LibraryStamp changes with it and with
	// the own moves.
	Style        []byte
	LibraryStamp string
	CreatedAt    time.Time
}

// OwnMove is a move of the studio's own, by its id in the library.
type OwnMove struct {
	Row
	PublicID  string
	Variant   []byte
	CreatedAt time.Time
	UpdatedAt time.Time
}

// HouseTemplate is a session that the house keeps to use again.
type HouseTemplate struct {
	Row
	PublicID  string
	Name      string
	Minutes   int
	Document  []byte
	CreatedAt time.Time
	UpdatedAt time.Time
}

// Place is where kit is.
type Place struct {
	Row
	PublicID  string
	Name      string
	Kind      string
	MassUnit  string
	Stamp     int64 // changed with the place and all it has
	RetiredAt *time.Time
	CreatedAt time.Time
}

// Implement is a row of equal implements. Mass and height are nil where the kind
// has none.
type Implement struct {
	Row
	PlaceID       int64
	PublicID      string
	Name          string
	Kind          string
	MassDecimal   *string
	MassUnit      *string
	MassG         *int64
	HeightDecimal *string
	HeightUnit    *string
	HeightMm      *int64
	Count         int
	Checked       bool
	Details       kit.ImplementDetails `gorm:"serializer:json"`
	RetiredAt     *time.Time
	CreatedAt     time.Time
}

// Object is a row of equal household objects.
type Object struct {
	Row
	PlaceID     int64
	PublicID    string
	Name        string
	UseAs       string
	MassDecimal string
	MassUnit    string
	MassG       int64
	Count       int
	Details     kit.ObjectDetails `gorm:"serializer:json"`
	RetiredAt   *time.Time
	CreatedAt   time.Time
}

// Container holds objects.
type Container struct {
	Row
	PlaceID     int64
	PublicID    string
	Name        string
	MassDecimal string
	MassUnit    string
	MassG       int64
	MaxDecimal  string
	MaxUnit     string
	MaxG        int64
	Details     kit.ContainerDetails `gorm:"serializer:json"`
	RetiredAt   *time.Time
	CreatedAt   time.Time
}

// Series is the classes of one group, by their name.
type Series struct {
	Row
	PublicID  string
	Name      string
	Stamp     int64 // changed with its classes, their circuits and their logs
	CreatedAt time.Time
}

// Occurrence is one class at a day and time.
type Occurrence struct {
	Row
	PlaceID   int64
	SeriesID  int64
	PublicID  string
	Name      string
	LocalDate time.Time `gorm:"type:date"`
	LocalTime string
	TimeZone  string
	Minutes   int
	RemovedAt *time.Time
	CreatedAt time.Time
}

// OccurrenceLane is how many people an occurrence has in a lane and the body a
// lane is computed for.
type OccurrenceLane struct {
	Row
	OccurrenceID   int64
	Lane           string
	People         int
	BodyDecimal    string
	BodyUnit       string
	BodyG          int64
	BodyKnown      bool // typed, not the default
	StatureDecimal string
	StatureUnit    string
	StatureMm      int64
}

// Person is somebody whom the studio knows by name. SameName says that another has the
// name and that nothing tells them apart for sure.
type Person struct {
	Row
	PublicID  string
	Name      string
	SameName  bool
	MassUnit  string // that they read masses in; empty for the studio's
	Weaker    string // side; empty for neither
	Note      string // never of health
	Spared    []byte // what leaves health, as JSON
	CreatedAt time.Time
}

// PersonRecord is something that is known of a person from a day on: its data is JSON by its
// kind, which the core reads.
type PersonRecord struct {
	Row
	PersonID  int64
	PublicID  string
	Kind      string
	LocalDate time.Time `gorm:"type:date"`
	Data      []byte
	CreatedAt time.Time
}

// PersonMerge is two people who were made one: what was the other's, as JSON, so that it can be
// given back.
type PersonMerge struct {
	Row
	PublicID  string
	PersonID  int64
	Moved     []byte
	CreatedAt time.Time
}

// Erased is the hash of the id of somebody who was erased, by which an older backup is known to
// hold them. It belongs to no studio's rows and outlives a restore.
type Erased struct {
	Row
	Hash      string
	CreatedAt time.Time
}

// SeriesMember is a person who comes to the classes of a series, or came: who is no regular any
// more is known by name there still.
type SeriesMember struct {
	Row
	SeriesID  int64
	PersonID  int64
	Regular   bool
	CreatedAt time.Time
}

// Participant is someone in an occurrence: a person, or an unnamed drop-in. PersonID is the
// only link to a person that there is.
type Participant struct {
	Row
	OccurrenceID int64
	PersonID     *int64
	PublicID     string
	Lane         string
	CreatedAt    time.Time
}

// Circuit is a plan; its documents are its versions.
type Circuit struct {
	Row
	OccurrenceID int64
	PublicID     string
	Head         int
	Newest       int // the highest number of a version, beside the head or not
	CreatedAt    time.Time
}

// CircuitVersion is one state of a circuit; rows are only ever added. Base is the
// version it was made from; UndoTo is the version whose state an undo restores,
// RedoTo the one a redo does. A side version was made from a version that was no
// longer the newest: it stands beside the others and is never the head.
type CircuitVersion struct {
	Row
	CircuitID int64
	Version   int
	Base      *int
	ClientID  string
	Kind      string
	Side      bool
	Ops       []byte
	Inverse   []byte
	Document  []byte
	Notes     []byte // of the proposal it goes back to
	UndoTo    *int
	RedoTo    *int
	CreatedAt time.Time
}

// Run is one taking-place of a circuit with the plan it started from.
type Run struct {
	Row
	OccurrenceID   int64
	PublicID       string
	CircuitVersion int
	Plan           []byte
	CreatedAt      time.Time
}

// RunEvent is one press; rows are only ever added. The device that was pressed numbers
// its presses; one without a name did not say.
type RunEvent struct {
	Row
	RunID    int64
	Seq      int
	ClientID string
	Device   string
	N        int64
	Kind     string
	At       time.Time
	Ms       int64
	// Party and Slot are of what a party did, Detail is the entry that it does from then on.
	Party  string
	Slot   string
	Detail []byte
}

// LogLine is what a participant or a lane did in a slot. Subject is a
// participant's public id or a lane.
type LogLine struct {
	Row
	OccurrenceID   int64
	ParticipantID  *int64
	Subject        string
	Slot           string
	Lane           string
	Variant        string
	Planned        int
	Dose           []byte // what else was planned of it, as JSON
	Done           int
	InForm         int
	Reserve        *int
	Felt           `gorm:"-"` // kept apart, see Health
	Told           []byte     // what else was told of it, as JSON
	LoadG          int64
	Hold           string
	TooLight       bool // by the plan's own word
	ResistanceG    int64
	LibraryVersion string
	Device         string // that it was typed on, which numbers what is typed
	N              int64
	CreatedAt      time.Time
	UpdatedAt      time.Time // when it was typed
}

// LogLinePast is what was typed in a line of the log and overtaken by something typed
// later, or, by somebody whose device was slow to send it, before.
type LogLinePast struct {
	Row
	OccurrenceID int64
	Subject      string
	Slot         string
	Done         int
	InForm       int
	Reserve      *int
	Felt         `gorm:"-"`
	Told         []byte
	LoadG        int64
	Device       string
	N            int64
	WrittenAt    time.Time
	CreatedAt    time.Time
}

// Table names are the words of the job, in the singular.
func (Studio) TableName() string         { return "studio" }
func (OwnMove) TableName() string        { return "own_move" }
func (HouseTemplate) TableName() string  { return "house_template" }
func (Place) TableName() string          { return "place" }
func (Implement) TableName() string      { return "implement" }
func (Object) TableName() string         { return "object" }
func (Container) TableName() string      { return "container" }
func (Series) TableName() string         { return "series" }
func (Occurrence) TableName() string     { return "occurrence" }
func (OccurrenceLane) TableName() string { return "occurrence_lane" }
func (Person) TableName() string         { return "person" }
func (PersonRecord) TableName() string   { return "person_record" }
func (PersonMerge) TableName() string    { return "person_merge" }
func (Erased) TableName() string         { return "erased" }
func (HealthRecord) TableName() string   { return "health_record" }
func (PainReport) TableName() string     { return "pain_report" }
func (SeriesMember) TableName() string   { return "series_member" }
func (Participant) TableName() string    { return "participant" }
func (Circuit) TableName() string        { return "circuit" }
func (CircuitVersion) TableName() string { return "circuit_version" }
func (Run) TableName() string            { return "run" }
func (RunEvent) TableName() string       { return "run_event" }
func (LogLine) TableName() string        { return "log_line" }
func (LogLinePast) TableName() string    { return "log_line_past" }
