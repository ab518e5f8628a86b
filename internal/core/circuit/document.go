// Package circuit holds the plan of a class as a versioned document of blocks, its edits
// with their inverses, and in what two documents differ. What follows from a document is in
// plan, how one is made in compose.
package circuit

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"

	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
)

// DocumentVersion is the shape of documents written today.
const DocumentVersion = 3

// Limits of a document.
const (
	MaxBlocks = 12
	// MaxSlots is for all blocks together.
	MaxSlots  = 24
	MaxRounds = 20
	MaxWaves  = 4
	// MaxEntries is for the lanes and as many participants as a class may name.
	MaxEntries = 3 + people.MaxInClass
	MaxReps    = 100
	MaxParts   = 20
	// MaxStretch bounds work, rest, lead-in and pauses; a window may be as long as MaxWindow.
	MaxStretch = 10 * measure.Minute
	MaxWindow  = 60 * measure.Minute
	leastWork  = int64(5 * measure.Second)
)

// Kind is what a block is for.
type Kind string

// The kinds of blocks.
const (
	Prep     Kind = "prep"
	Teach    Kind = "teach"
	Work     Kind = "work"
	Finisher Kind = "finisher"
	Close    Kind = "close"
)

// BlockKinds lists them all.
var BlockKinds = []Kind{Prep, Teach, Work, Finisher, Close}

// Loaded tells whether blocks of a kind are what the class is trained by: their moves are
// balanced, taught beforehand and logged.
func (k Kind) Loaded() bool { return k == Work || k == Finisher }

// Layout is how people stand to a block.
type Layout string

// The layouts: all at once; each slot a station, with people who rotate; in pairs of whom one
// works and one rests; in waves that take turns.
const (
	Together Layout = "together"
	Stations Layout = "stations"
	Partners Layout = "partners"
	InWaves  Layout = "waves"
)

// Layouts lists them all.
var Layouts = []Layout{Together, Stations, Partners, InWaves}

// OfPartners is how many turns a pair takes.
const OfPartners = 2

// WavesOf is in how many groups people take turns in a slot of the block.
func (b Block) WavesOf(s Slot) int {
	switch b.Layout {
	case Together:
		return 1
	case Partners:
		return OfPartners
	}
	return max(s.Waves, 1)
}

// Rotates tells whether the block's slots are stations.
func (b Block) Rotates() bool { return b.Layout == Stations && b.Is(scheme.Circuit) }

// Document is the plan of a class. It holds ids only: no name, no mass, nothing of
// anybody's health.
type Document struct {
	V        int          `json:"v"`
	LeadInMs measure.Span `json:"leadInMs"`
	// Bans are patterns, variants and limits that a proposal leaves out.
	Bans []string `json:"bans"`
	// Known are moves and patterns, or all, that the group knows whatever the log says.
	Known []string `json:"known,omitempty"`
	// Overruled is what the instructor sets aside of what the log says.
	Overruled []Overruled `json:"overruled,omitempty"`
	// Goal and Template are what it was asked to be for and made of: what it is judged by.
	Goal     goal.Goal     `json:"goal,omitempty"`
	Template goal.Template `json:"template,omitempty"`
	// Day is how the day came otherwise than planned; nil where it did not.
	Day    *Day    `json:"day,omitempty"`
	Blocks []Block `json:"blocks"`
}

// Overruled sets aside what the log says of a move or a joint, for a party.
type Overruled struct {
	Party people.Party `json:"party"`
	What  string       `json:"what"` // a move or a joint
}

// Block is a part of a session.
type Block struct {
	ID   string `json:"id"`
	Kind Kind   `json:"kind"`
	// Auto is a prep, teach or close without slots of its own: its time follows from the
	// class's minutes, what is taught from the slots of the blocks after it.
	Auto bool `json:"auto,omitempty"`
	// Scheme is how its slots follow one another; none where it is Auto.
	Scheme *Scheme `json:"scheme,omitempty"`
	Layout Layout  `json:"layout"`
	// AfterMs is the pause before the next block.
	AfterMs measure.Span `json:"afterMs"`
	Slots   []Slot       `json:"slots"`
}

// Slot is one place in the order of a block.
type Slot struct {
	ID      string        `json:"id"`
	Pattern moves.Pattern `json:"pattern"`
	// Waves is in how many groups people take turns.
	Waves int `json:"waves"`
	// New marks a move the group has not met: it is taught first.
	New bool `json:"new"`
	// Pinned has a new proposal leave the slot as it is and where it stands.
	Pinned bool `json:"pinned,omitempty"`
	// What the slot has of its own instead of its block's number: work by the clock, the
	// rest after it, which between straight sets is the rest between them, and how many of
	// these.
	WorkMs *measure.Span `json:"workMs,omitempty"`
	RestMs *measure.Span `json:"restMs,omitempty"`
	Sets   int           `json:"sets,omitempty"`
	// Entries are the lanes' versions, and of participants who have one of their own.
	Entries map[people.Party]Entry `json:"entries"`
}

// Entry is one party's version of a slot.
type Entry struct {
	Variant string       `json:"variant"`
	Hold    moves.HoldID `json:"hold"`
	Load    kit.Load     `json:"load"`
	// Anchors are the implements stood on, leaned on or pulled, by id.
	Anchors []string `json:"anchors"`
	// Dose is how much; by the clock repetitions follow from their seconds instead.
	Dose Dose `json:"dose"`
	// Tempo is that of a repetition; without one a combined move takes the time of its
	// parts.
	Tempo string `json:"tempo,omitempty"`
	// Parts are those of a combined move where they are not the library's.
	Parts []Part          `json:"parts,omitempty"`
	Sides scheme.SideMode `json:"sides"`
	// First is the side that begins, the weaker one; the left where nothing is said.
	First scheme.Side `json:"first,omitempty"`
	// Pinned has a new proposal leave somebody what they have of their own.
	Pinned bool `json:"pinned,omitempty"`
}

// Unloaded is the entry without its load; ok is false where the move is not done so.
func (e Entry) Unloaded(v *moves.Variant) (_ Entry, ok bool) {
	if !slices.Contains(v.Holds, moves.NoLoad) {
		return e, false
	}
	e.Hold, e.Load = moves.NoLoad, kit.Nothing
	return e, true
}

// Part is one action of a combined move: how often it comes in a repetition, and how long
// it takes.
type Part struct {
	Move  string       `json:"move"`
	Count int          `json:"count"`
	Ms    measure.Span `json:"ms"`
}

// DoseKind is what a dose is counted in.
type DoseKind string

// The kinds of doses: repetitions, seconds, units of a combined move, or repetitions until
// few are left, of which a range is only reckoned with.
const (
	Count     DoseKind = "count"
	Seconds   DoseKind = "seconds"
	Units     DoseKind = "units"
	ToFailure DoseKind = "to-failure"
)

// DoseKinds lists them all.
var DoseKinds = []DoseKind{Count, Seconds, Units, ToFailure}

// Dose is how much of a slot, a side of a one-sided move or in all.
type Dose struct {
	Kind DoseKind `json:"kind"`
	// Low and High are the ends of a range of counts, equal for one count, 0 for seconds.
	Low  int `json:"low,omitempty"`
	High int `json:"high,omitempty"`
	// Ms are those of a dose in seconds.
	Ms measure.Span `json:"ms,omitempty"`
	// InAll counts both sides together.
	InAll bool `json:"inAll,omitempty"`
}

// Times is a dose of so many repetitions.
func Times(n int) Dose { return Dose{Kind: Count, Low: n, High: n} }

// Timed is the count that time is planned for: the high end; of what is done until few are
// left the low one, since nobody knows.
func (d Dose) Timed() int {
	if d.Kind == ToFailure {
		return d.Low
	}
	return d.High
}

// Encode writes a document: the same document gives the same bytes.
func Encode(d Document) ([]byte, error) { return json.Marshal(d.Clone()) }

// Decode reads a document of any past shape and brings it to today's. Unknown
// fields are refused.
func Decode(b []byte) (Document, error) {
	var d Document
	var err error
	switch v := shapeOf(b); v {
	case 1, 2:
		var old shape2
		err = strict(b, &old)
		d = old.upgraded()
	case DocumentVersion:
		err = strict(b, &d)
	default:
		return d, fmt.Errorf("circuit document: shape %d is not known", v)
	}
	if err != nil {
		return d, fmt.Errorf("circuit document: %w", err)
	}
	return d, nil
}

func strict(b []byte, into any) error {
	dec := json.NewDecoder(bytes.NewReader(b))
	dec.DisallowUnknownFields()
	return dec.Decode(into)
}

// Clone copies a document so deeply that no edit of the copy shows in the
// original. Missing lists become empty ones, so that one document has one
// encoding.
func (d Document) Clone() Document {
	d.Bans = append([]string{}, d.Bans...)
	d.Known, d.Overruled, d.Day = slices.Clone(d.Known), slices.Clone(d.Overruled), d.Day.clone()
	d.Blocks = append([]Block{}, d.Blocks...)
	for i := range d.Blocks {
		d.Blocks[i] = d.Blocks[i].clone()
	}
	return d
}

func (b Block) clone() Block {
	b.Scheme = b.Scheme.clone()
	b.Slots = append([]Slot{}, b.Slots...)
	for i := range b.Slots {
		b.Slots[i] = b.Slots[i].clone()
	}
	return b
}

func (s Slot) clone() Slot {
	s.WorkMs, s.RestMs = copied(s.WorkMs), copied(s.RestMs)
	entries := make(map[people.Party]Entry, len(s.Entries))
	for p, e := range s.Entries {
		e.Anchors = append([]string{}, e.Anchors...)
		e.Parts = slices.Clone(e.Parts)
		entries[p] = e
	}
	s.Entries = entries
	return s
}

func copied[T any](p *T) *T {
	if p == nil {
		return nil
	}
	v := *p
	return &v
}

// Block finds a block's place in the order, -1 when there is none.
func (d Document) Block(id string) int {
	return slices.IndexFunc(d.Blocks, func(b Block) bool { return b.ID == id })
}

// At finds a slot: the places of its block and of itself in that, -1 when there is none.
func (d Document) At(slot string) (block, place int) {
	for i, b := range d.Blocks {
		if n := slices.IndexFunc(b.Slots, func(s Slot) bool { return s.ID == slot }); n >= 0 {
			return i, n
		}
	}
	return -1, -1
}

// Slot gives a slot by its id.
func (d Document) Slot(id string) (Slot, bool) {
	i, n := d.At(id)
	if i < 0 {
		return Slot{}, false
	}
	return d.Blocks[i].Slots[n], true
}

// Slots lists the slots of all blocks in their order.
func (d Document) Slots() []Slot {
	var out []Slot
	for _, b := range d.Blocks {
		out = append(out, b.Slots...)
	}
	return out
}

// Loaded lists the slots of the blocks that the class is trained by.
func (d Document) Loaded() []Slot {
	var out []Slot
	for _, b := range d.Blocks {
		if b.Kind.Loaded() {
			out = append(out, b.Slots...)
		}
	}
	return out
}

// PerRep is how long a repetition takes: by its tempo, else as its parts do, which are the
// library's unless the entry has its own. A move that is done as usual takes what the house
// has measured.
func (e Entry) PerRep(lib *moves.Library) measure.Span {
	if v, ok := lib.Get(e.Variant); ok && v.HouseRep > 0 && e.Usual(v) {
		return v.HouseRep
	}
	if e.Tempo != "" {
		return e.ReadTempo().PerRep()
	}
	var sum measure.Span
	for _, p := range e.PartsOf(lib) {
		sum += measure.Span(p.Count) * p.Ms
	}
	return sum
}

// Usual tells whether a move is done in its own tempo and by its own parts.
func (e Entry) Usual(v *moves.Variant) bool {
	return len(e.Parts) == 0 && (e.Tempo == "" || e.Tempo == v.Tempo)
}

// PartsOf lists the parts of a repetition; none of a move that is not combined.
func (e Entry) PartsOf(lib *moves.Library) []Part {
	if len(e.Parts) > 0 {
		return e.Parts
	}
	v, ok := lib.Get(e.Variant)
	if !ok {
		return nil
	}
	var out []Part
	for _, p := range v.TimedParts() {
		out = append(out, Part{p.Move, p.Most(), p.Takes()})
	}
	return out
}

// ReadTempo gives the counts of an entry's repetition, none where it goes by parts.
func (e Entry) ReadTempo() scheme.Tempo {
	t, _ := scheme.ParseTempo(e.Tempo)
	return t
}

// SlotID is the id that the nth slot of a document is made with, BlockID that of the nth
// block.
func SlotID(n int) string { return fmt.Sprintf("s%d", n) }

// BlockID is the id that the nth block of a document is made with.
func BlockID(n int) string { return fmt.Sprintf("b%d", n) }

// FreeSlotID is an id that no slot of the document has.
func (d Document) FreeSlotID() string {
	n := len(d.Slots()) + 1
	for i, _ := d.At(SlotID(n)); i >= 0; i, _ = d.At(SlotID(n)) {
		n++
	}
	return SlotID(n)
}

// FreeBlockID is an id that no block of the document has.
func (d Document) FreeBlockID() string {
	n := len(d.Blocks) + 1
	for d.Block(BlockID(n)) >= 0 {
		n++
	}
	return BlockID(n)
}

// SettledIn puts sides that a single round cannot take in turn back into one interval.
func (s Slot) SettledIn(rounds int) Slot {
	if rounds > 1 {
		return s
	}
	s = s.clone()
	for p, e := range s.Entries {
		if e.Sides == scheme.ByRound {
			e.Sides = scheme.Split
			s.Entries[p] = e
		}
	}
	return s
}

// Of gives the entry of a party who is in a lane: their own, else the lane's.
func (s Slot) Of(party people.Party, lane moves.Lane) (Entry, bool) {
	if e, ok := s.Entries[party]; ok {
		return e, true
	}
	e, ok := s.Entries[people.OfLane(lane)]
	return e, ok
}

// ForLanes is a document without what participants have of their own, and without what was
// set aside for one class.
func (d Document) ForLanes() Document {
	d = d.Clone()
	d.Overruled, d.Day = nil, nil
	for _, b := range d.Blocks {
		for _, s := range b.Slots {
			for who := range s.Entries {
				if _, lane := who.Lane(); !lane {
					delete(s.Entries, who)
				}
			}
		}
	}
	return d
}

// Names tells whether some slot has an entry for a party.
func (d Document) Names(p people.Party) bool {
	return slices.ContainsFunc(d.Slots(), func(s Slot) bool { _, ok := s.Entries[p]; return ok })
}

// Participants lists the participants whom a document names.
func (d Document) Participants() []people.Party {
	named := map[people.Party]bool{}
	for _, s := range d.Slots() {
		for p := range s.Entries {
			named[p] = true
		}
	}
	for _, o := range d.Overruled {
		named[o.Party] = true
	}
	if d.Day != nil {
		for _, p := range d.Day.Absent {
			named[p] = true
		}
	}
	return slices.DeleteFunc(people.Parties(named), func(p people.Party) bool { _, lane := p.Lane(); return lane })
}

// UsedBy lists the moves of a document in the order of the slots, with whose they are:
// the lane of a party, and of a participant the person.
func (d Document) UsedBy(whose func(people.Party) (moves.Lane, string)) []progress.Used {
	var out []progress.Used
	for _, s := range d.Slots() {
		for _, p := range people.Parties(s.Entries) {
			lane, who := whose(p)
			out = append(out, progress.Used{Lane: lane, Who: who, Move: s.Entries[p].Variant})
		}
	}
	return out
}

// Moves lists the variants of a document, slot by slot and from Ground up.
func Moves(d Document) []string {
	out := []string{}
	for _, s := range d.Slots() {
		for _, p := range people.Parties(s.Entries) {
			out = append(out, s.Entries[p].Variant)
		}
	}
	return out
}
