package circuit

import (
	"slices"

	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/scheme"
)

// Single is a session of one circuit between its prep, its teaching and its close: what a
// proposal makes.
type Single struct {
	Format      Format
	LeadInMs    measure.Span
	WorkMs      measure.Span
	RestMs      measure.Span
	Rounds      int
	RoundRestMs measure.Span
	EvenSets    bool
	Bans        []string
	Known       []string
	Overruled   []Overruled
	Goal        goal.Goal
	Template    goal.Template
	// Layout of the circuit; in waves where somebody has to take turns, where nothing is said.
	Layout Layout
	Slots  []Slot
}

// The ids of the blocks of a single circuit.
const (
	prepID = iota + 1
	teachID
	workID
	closeID
)

// Document writes a single circuit as blocks; slots, bans and the rest are shared with it.
func (s Single) Document() Document {
	layout := LayoutOf(s.Layout, s.Slots)
	auto := func(id int, kind Kind) Block {
		return Block{ID: BlockID(id), Kind: kind, Auto: true, Layout: Together, Slots: []Slot{}}
	}
	numbers := &InRounds{s.Format, s.WorkMs, s.RestMs, s.Rounds, s.RoundRestMs, s.EvenSets}
	return Document{
		V: DocumentVersion, LeadInMs: s.LeadInMs, Bans: s.Bans, Known: s.Known, Overruled: s.Overruled, Goal: s.Goal, Template: s.Template,
		Blocks: []Block{
			auto(prepID, Prep),
			auto(teachID, Teach),
			{
				ID:     BlockID(workID),
				Kind:   Work,
				Scheme: &Scheme{Kind: scheme.Circuit, Circuit: numbers},
				Layout: layout,
				Slots:  s.Slots,
			},
			auto(closeID, Close),
		},
	}
}

// LayoutOf is the layout that slots are written with: the one that is asked for, but waves
// where people would do all together and have to take turns.
func LayoutOf(asked Layout, slots []Slot) Layout {
	inTurn := slices.ContainsFunc(slots, func(s Slot) bool { return s.Waves > 1 })
	switch {
	case asked != "" && (asked != Together || !inTurn):
		return asked
	case inTurn:
		return InWaves
	}
	return Together
}

// Single gives the first circuit of a document with what is said of the whole; ok is false
// where it has none. Block is its place.
func (d Document) Single() (s Single, block int, ok bool) {
	for i, b := range d.Blocks {
		if b.Kind == Work && b.Is(scheme.Circuit) {
			x := b.Scheme.Circuit
			return Single{
				x.Format, d.LeadInMs, x.WorkMs, x.RestMs, x.Rounds, x.RoundRestMs, x.EvenSets,
				d.Bans, d.Known, d.Overruled, d.Goal, d.Template, b.Layout, b.Slots,
			}, i, true
		}
	}
	return Single{
		Format:    Timed,
		LeadInMs:  d.LeadInMs,
		Bans:      d.Bans,
		Known:     d.Known,
		Overruled: d.Overruled,
		Goal:      d.Goal,
		Template:  d.Template,
	}, -1, false
}

// Clone copies a single circuit so deeply that no edit of the copy shows in the original.
func (s Single) Clone() Single {
	out, _, _ := s.Document().Clone().Single()
	return out
}

// Index finds a slot's place in the order, -1 when there is none.
func (s Single) Index(id string) int {
	for i, x := range s.Slots {
		if x.ID == id {
			return i
		}
	}
	return -1
}

// Settled puts sides that a single round cannot take in turn back into one interval.
func (s Single) Settled() Single {
	s = s.Clone()
	for i, x := range s.Slots {
		s.Slots[i] = x.SettledIn(s.Rounds)
	}
	return s
}
