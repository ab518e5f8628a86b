package circuit

import (
	"encoding/json"
	"fmt"
	"slices"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
)

// The past shapes of documents: of both the same but for made loads, which in shape 1 had
// one kind by item and count.
type shape2 struct {
	V           int           `json:"v"`
	Format      Format        `json:"format"`
	LeadInMs    measure.Span  `json:"leadInMs"`
	WorkMs      measure.Span  `json:"workMs"`
	RestMs      measure.Span  `json:"restMs"`
	Rounds      int           `json:"rounds"`
	RoundRestMs measure.Span  `json:"roundRestMs"`
	Bans        []string      `json:"bans"`
	Known       []string      `json:"known,omitempty"`
	Overruled   []shape2Said  `json:"overruled,omitempty"`
	Slots       []shape2InRow `json:"slots"`
}

type shape2Said struct {
	Party people.Party `json:"lane"`
	What  string       `json:"what"`
}

type shape2InRow struct {
	ID      string                        `json:"id"`
	Pattern moves.Pattern                 `json:"pattern"`
	Waves   int                           `json:"waves"`
	New     bool                          `json:"new"`
	Entries map[people.Party]EntryBefore3 `json:"lanes"`
}

// EntryBefore3 is an entry as documents before shape 3 and the plans of runs of their time
// have it.
type EntryBefore3 struct {
	Variant string          `json:"variant"`
	Hold    moves.HoldID    `json:"hold"`
	Load    kit.Load        `json:"load"`
	Anchors []string        `json:"anchors"`
	Reps    int             `json:"reps"`
	Tempo   string          `json:"tempo"`
	Sides   scheme.SideMode `json:"sides"`
}

// Upgraded brings it to today's.
func (e EntryBefore3) Upgraded() Entry {
	if l := &e.Load; l.Kind == kit.Made && l.Item != "" {
		l.Parts, l.Item, l.Count = []kit.Portion{{ID: l.Item, Count: l.Count}}, "", 0
	}
	return Entry{
		Variant: e.Variant, Hold: e.Hold, Load: e.Load, Anchors: e.Anchors, Dose: Times(e.Reps), Tempo: e.Tempo,
		Sides: e.Sides,
	}
}

// upgraded brings a document of shape 1 or 2 to blocks, timed as it was: where sides took
// turns over an odd number of rounds, every set was as long as the shared one.
func (d shape2) upgraded() Document {
	s := Single{
		Format: d.Format, LeadInMs: d.LeadInMs, WorkMs: d.WorkMs, RestMs: d.RestMs, Rounds: d.Rounds,
		RoundRestMs: d.RoundRestMs, Bans: d.Bans, Known: d.Known, Slots: []Slot{},
	}
	for _, o := range d.Overruled {
		s.Overruled = append(s.Overruled, Overruled(o))
	}
	for _, old := range d.Slots {
		x := Slot{ID: old.ID, Pattern: old.Pattern, Waves: old.Waves, New: old.New, Entries: map[people.Party]Entry{}}
		for p, e := range old.Entries {
			x.Entries[p] = e.Upgraded()
			s.EvenSets = s.EvenSets || d.Format == Reps && d.Rounds%2 == 1 && e.Sides == scheme.ByRound
		}
		s.Slots = append(s.Slots, x)
	}
	return s.Document().Clone()
}

// shapeOf reads in which shape a document was written, 0 where that cannot be told.
func shapeOf(document []byte) int {
	var head struct {
		V int `json:"v"`
	}
	_ = json.Unmarshal(document, &head)
	return head.V
}

// Past tells whether a document was written in a shape of before today's, and so the edits
// beside it.
func Past(document []byte) bool { return shapeOf(document) < DocumentVersion }

// Undoing reads the edits that lead from a stored document back to another. Edits of a past
// shape are not known any more: the whole document stands for them.
func Undoing(document, inverse []byte, target Document) ([]Op, error) {
	if Past(document) {
		return []Op{{Kind: Replace, Document: &target}}, nil
	}
	var ops []Op
	if err := strict(inverse, &ops); err != nil {
		return nil, fmt.Errorf("edits: %w", err)
	}
	return ops, nil
}

// Told says of stored edits, of whatever shape, what they did and which moves they put in.
func Told(ops []byte) (kinds []OpKind, variants []string) {
	var all []struct {
		Kind  OpKind `json:"op"`
		Entry *struct {
			Variant string `json:"variant"`
		} `json:"entry"`
	}
	kinds, variants = []OpKind{}, []string{}
	if json.Unmarshal(ops, &all) != nil {
		return kinds, variants
	}
	for _, op := range all {
		if !slices.Contains(OpKinds, op.Kind) {
			op.Kind = SetScheme // format, work, rest, rounds and the rest between them had edits of their own
		}
		kinds = append(kinds, op.Kind)
		if op.Entry != nil && !slices.Contains(variants, op.Entry.Variant) {
			variants = append(variants, op.Entry.Variant)
		}
	}
	return kinds, variants
}
