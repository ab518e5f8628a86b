// Package circuit holds the plan of a class as a versioned document, its edits with
// their inverses, and in what two documents differ. What follows from a document is in
// plan, how one is made in compose.
package circuit

import (
	"bytes"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
)

// DocumentVersion is the shape of documents written today.
const DocumentVersion = 2

// Limits of a document.
const (
	MaxSlots  = 24
	MaxRounds = 20
	MaxWaves  = 4
	// MaxEntries is for the lanes and as many participants as a class may name.
	MaxEntries = 3 + people.MaxInClass
	MaxReps    = 100
	// MaxStretch bounds work, rest and lead-in.
	MaxStretch = 10 * measure.Minute
	leastWork  = int64(5 * measure.Second)
)

// Format says whether sets go by the clock or by repetitions.
type Format string

// The formats.
const (
	Timed Format = "timed"
	Reps  Format = "reps"
)

// Document is a circuit. It holds ids only: no name, no mass, nothing of
// anybody's health.
type Document struct {
	V           int          `json:"v"`
	Format      Format       `json:"format"`
	LeadInMs    measure.Span `json:"leadInMs"`
	WorkMs      measure.Span `json:"workMs"`
	RestMs      measure.Span `json:"restMs"`
	Rounds      int          `json:"rounds"`
	RoundRestMs measure.Span `json:"roundRestMs"`
	// Bans are patterns, variants and limits that a proposal leaves out.
	Bans []string `json:"bans"`
	// Known are moves and patterns, or all, that the group knows whatever the log says.
	Known []string `json:"known,omitempty"`
	// Overruled is what the instructor sets aside of what the log says.
	Overruled []Overruled `json:"overruled,omitempty"`
	Slots     []Slot      `json:"slots"`
}

// Overruled sets aside what the log says of a move or a joint, for a party.
type Overruled struct {
	Party people.Party `json:"lane"`
	What  string       `json:"what"` // a move or a joint
}

// Slot is one place in the order.
type Slot struct {
	ID      string        `json:"id"`
	Pattern moves.Pattern `json:"pattern"`
	// Waves is in how many groups people take turns.
	Waves int `json:"waves"`
	// New marks a move the group has not met: it is taught first.
	New bool `json:"new"`
	// Entries are the lanes' versions, and of participants who have one of their own.
	Entries map[people.Party]Entry `json:"lanes"`
}

// Entry is one party's version of a slot.
type Entry struct {
	Variant string       `json:"variant"`
	Hold    moves.HoldID `json:"hold"`
	Load    kit.Load     `json:"load"`
	// Anchors are the implements stood on, leaned on or pulled, by id.
	Anchors []string `json:"anchors"`
	// Reps are a side; by the clock they follow from the tempo instead.
	Reps  int             `json:"reps"`
	Tempo string          `json:"tempo"`
	Sides scheme.SideMode `json:"sides"`
}

// Encode writes a document: the same document gives the same bytes.
func Encode(d Document) ([]byte, error) { return json.Marshal(d.Clone()) }

// Decode reads a document of any past shape and brings it to today's. Unknown
// fields are refused.
func Decode(b []byte) (Document, error) {
	var d Document
	dec := json.NewDecoder(bytes.NewReader(b))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&d); err != nil {
		return d, fmt.Errorf("circuit document: %w", err)
	}
	d = d.upgraded()
	if d.V != DocumentVersion {
		return d, fmt.Errorf("circuit document: shape %d is not known", d.V)
	}
	return d, nil
}

// upgraded brings a document of a past shape to today's.
func (d Document) upgraded() Document {
	if d.V == 1 {
		return upgradeMade(d)
	}
	return d
}

// upgradeMade brings shape 1 to shape 2: a made load lists its parts, where it had
// one kind by item and count.
func upgradeMade(d Document) Document {
	d = d.Clone()
	d.V = 2
	for _, s := range d.Slots {
		for party, e := range s.Entries {
			if l := &e.Load; l.Kind == kit.Made && l.Item != "" {
				l.Parts, l.Item, l.Count = []kit.Portion{{ID: l.Item, Count: l.Count}}, "", 0
				s.Entries[party] = e
			}
		}
	}
	return d
}

// Check looks for what no circuit may hold: numbers out of bounds, unknown
// variants, holds the variant does not allow, doubled slots. What the kit lacks
// is not its business. The error is a fault.List, by their paths in the document.
func (d Document) Check(lib *moves.Library) error { return d.faults(lib).Err() }

func (d Document) faults(lib *moves.Library) fault.List {
	var out fault.List
	most := int64(MaxStretch)
	out.Within("leadInMs", int64(d.LeadInMs), 0, most)
	out.Within("workMs", int64(d.WorkMs), leastWork, most)
	out.Within("restMs", int64(d.RestMs), 0, most)
	out.Within("roundRestMs", int64(d.RoundRestMs), 0, most)
	out.Within("rounds", int64(d.Rounds), 1, MaxRounds)
	out.Within("slots", int64(len(d.Slots)), 0, MaxSlots)
	if d.Format != Timed && d.Format != Reps {
		out.Add("format", "timed or reps")
	}
	out = append(out, d.CheckSaid(lib)...)
	seen := map[string]bool{}
	for i, s := range d.Slots {
		path := fmt.Sprintf("slots[%d]", i)
		if seen[s.ID] {
			out.Add(path+".id", "every slot has an id of its own")
		}
		seen[s.ID] = true
		out = append(out, s.faults(lib, path)...)
	}
	return out
}

var idShape = regexp.MustCompile(`^[0-9A-Za-z-]{1,26}$`)

func (s Slot) faults(lib *moves.Library, path string) fault.List {
	var out fault.List
	if !idShape.MatchString(s.ID) {
		out.Add(path+".id", "every slot has an id of its own: 1 to 26 letters, digits and hyphens")
	}
	out.Within(path+".waves", int64(s.Waves), 1, MaxWaves)
	out.Within(path+".lanes", int64(len(s.Entries)), 0, MaxEntries)
	for _, party := range people.Parties(s.Entries) {
		if !party.Known() {
			out.Add(path+".lanes", "an entry is for ground, middle, reach or a participant by id")
			continue
		}
		out = append(out, s.Entries[party].faults(lib, path+".lanes."+string(party))...)
	}
	return out
}

// CheckSaid refuses what is marked as known and is no move or pattern, and what is set
// aside and is nothing that the log could say, all of them by their place.
func (d Document) CheckSaid(lib *moves.Library) fault.List {
	var out fault.List
	for i, k := range d.Known {
		_, ok := lib.Get(k)
		if !ok && k != progress.All && !slices.Contains(moves.Patterns, moves.Pattern(k)) {
			out = append(out, fault.Fault{
				Path:    fmt.Sprintf("known[%d]", i),
				Message: fmt.Sprintf("%q is neither a move nor a pattern; all stands for everything", k),
			})
		}
	}
	for i, o := range d.Overruled {
		_, ok := lib.Get(o.What)
		if !ok && !slices.Contains(moves.LimitJoints, o.What) || !o.Party.Known() {
			out = append(out, fault.Fault{
				Path:    fmt.Sprintf("overruled[%d].what", i),
				Message: fmt.Sprintf("%q is neither a move nor a joint of somebody here", o.What),
			})
		}
	}
	return out
}

// CheckBans refuses bans that are no pattern, move or limit, all of them by their place;
// those that stood in an older version stay.
func CheckBans(lib *moves.Library, bans, old []string) fault.List {
	var out fault.List
	for i, b := range bans {
		if !slices.Contains(old, b) && !choice.CheckBan(lib, b) {
			out = append(out, fault.Fault{
				Path: fmt.Sprintf("bans[%d]", i),
				Message: fmt.Sprintf("%q is no pattern, move or limit; limits are %s", b,
					strings.Join(limitNames(), ", ")),
			})
		}
	}
	return out
}

func limitNames() []string {
	var out []string
	for _, l := range moves.Limits() {
		out = append(out, string(l))
	}
	return out
}

func (e Entry) faults(lib *moves.Library, path string) fault.List {
	var out fault.List
	v, ok := lib.Get(e.Variant)
	if !ok {
		out.Add(path+".variant", "%q is not in the library", e.Variant)
	} else if !slices.Contains(v.Holds, e.Hold) {
		out.Add(path+".hold", "%s is not held %q", v.ID, e.Hold)
	}
	out.Within(path+".reps", int64(e.Reps), 1, MaxReps)
	if t, err := scheme.ParseTempo(e.Tempo); err != nil {
		out.Add(path+".tempo", "%v", err)
	} else if t.PerRep() == 0 {
		out.Add(path+".tempo", "a repetition takes at least a second")
	}
	if (e.Hold == moves.NoLoad) != (e.Load.Kind == kit.None) {
		out.Add(path+".load", "a load needs a hold and a hold needs a load")
	}
	out.Within(path+".load.count", int64(e.Load.Count), 0, 500)
	if !slices.Contains(scheme.SideModes, e.Sides) {
		out.Add(path+".sides", "both, split, rounds or alternate")
	}
	return out
}

// Index finds a slot's place in the order, -1 when there is none.
func (d Document) Index(id string) int {
	return slices.IndexFunc(d.Slots, func(s Slot) bool { return s.ID == id })
}

// Clone copies a document so deeply that no edit of the copy shows in the
// original. Missing lists become empty ones, so that one document has one
// encoding.
func (d Document) Clone() Document {
	d.Bans = append([]string{}, d.Bans...)
	d.Known, d.Overruled = slices.Clone(d.Known), slices.Clone(d.Overruled)
	d.Slots = append([]Slot{}, d.Slots...)
	for i := range d.Slots {
		d.Slots[i] = d.Slots[i].clone()
	}
	return d
}

func (s Slot) clone() Slot {
	entries := make(map[people.Party]Entry, len(s.Entries))
	for p, e := range s.Entries {
		e.Anchors = append([]string{}, e.Anchors...)
		entries[p] = e
	}
	s.Entries = entries
	return s
}

// ReadTempo gives the counts of an entry's repetition.
func (e Entry) ReadTempo() scheme.Tempo {
	t, _ := scheme.ParseTempo(e.Tempo)
	return t
}

// SlotID is the id that the nth slot of a document is made with.
func SlotID(n int) string { return fmt.Sprintf("s%d", n) }

// FreeSlotID is an id that no slot of the document has.
func (d Document) FreeSlotID() string {
	n := len(d.Slots) + 1
	for d.Index(SlotID(n)) >= 0 {
		n++
	}
	return SlotID(n)
}

// Settled puts sides that a single round cannot take in turn back into one interval.
func (d Document) Settled() Document {
	d = d.Clone()
	for i, s := range d.Slots {
		d.Slots[i] = s.SettledIn(d.Rounds)
	}
	return d
}

// SettledIn does the same for a slot in so many rounds.
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

// Names tells whether some slot has an entry for a party.
func (d Document) Names(p people.Party) bool {
	return slices.ContainsFunc(d.Slots, func(s Slot) bool { _, ok := s.Entries[p]; return ok })
}

// Participants lists the participants whom a document names.
func (d Document) Participants() []people.Party {
	named := map[people.Party]bool{}
	for _, s := range d.Slots {
		for p := range s.Entries {
			named[p] = true
		}
	}
	for _, o := range d.Overruled {
		named[o.Party] = true
	}
	return slices.DeleteFunc(people.Parties(named), func(p people.Party) bool { _, lane := p.Lane(); return lane })
}

// UsedBy lists the moves of a document in the order of the slots, with whose they are:
// the lane of a party, and of a participant the person.
func (d Document) UsedBy(whose func(people.Party) (moves.Lane, string)) []progress.Used {
	var out []progress.Used
	for _, s := range d.Slots {
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
	for _, s := range d.Slots {
		for _, p := range people.Parties(s.Entries) {
			out = append(out, s.Entries[p].Variant)
		}
	}
	return out
}
