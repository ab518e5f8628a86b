package circuit

import (
	"maps"
	"reflect"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/why"
)

// Difference is one thing in which two documents differ. A and B hold simple
// values; EntryA and EntryB a party's versions. One of a pair is missing where
// only the other document has it.
type Difference struct {
	Field   string        `json:"field"`
	Slot    string        `json:"slot,omitempty"`
	Pattern moves.Pattern `json:"pattern,omitempty"`
	Party   people.Party  `json:"lane,omitempty"`
	A       *why.Term     `json:"a,omitempty"`
	B       *why.Term     `json:"b,omitempty"`
	EntryA  *Entry        `json:"entryA,omitempty"`
	EntryB  *Entry        `json:"entryB,omitempty"`
}

// Compare lists in what b differs from a: settings first, then slots in the
// order of a, then what only b has. Equal documents give an empty list.
func Compare(a, b Document) []Difference {
	out := []Difference{}
	put := func(field string, x, y why.Term) {
		if x != y {
			out = append(out, Difference{Field: field, A: &x, B: &y})
		}
	}
	ms := func(s measure.Span) why.Term { return why.Ms("", int64(s)) }
	put("format", why.ID("", string(a.Format)), why.ID("", string(b.Format)))
	put("lead-in", ms(a.LeadInMs), ms(b.LeadInMs))
	put("work", ms(a.WorkMs), ms(b.WorkMs))
	put("rest", ms(a.RestMs), ms(b.RestMs))
	put("rounds", why.N("", a.Rounds), why.N("", b.Rounds))
	put("round-rest", ms(a.RoundRestMs), ms(b.RoundRestMs))
	yes := why.N("", 1)
	for i, s := range a.Slots {
		j := b.Index(s.ID)
		if j < 0 {
			out = append(out, Difference{Field: "slot", Slot: s.ID, Pattern: s.Pattern, A: &yes})
			continue
		}
		out = append(out, compareSlots(s, b.Slots[j])...)
		if x, y := rank(a, b, i), rank(b, a, j); x != y {
			nx, ny := why.N("", i+1), why.N("", j+1)
			out = append(out, Difference{Field: "order", Slot: s.ID, Pattern: s.Pattern, A: &nx, B: &ny})
		}
	}
	for _, s := range b.Slots {
		if a.Index(s.ID) < 0 {
			out = append(out, Difference{Field: "slot", Slot: s.ID, Pattern: s.Pattern, B: &yes})
		}
	}
	return out
}

// rank gives the place of a slot among those that both documents have, so that a
// slot removed before it does not count as a move.
func rank(d, other Document, i int) int {
	n := 0
	for _, s := range d.Slots[:i] {
		if other.Index(s.ID) >= 0 {
			n++
		}
	}
	return n
}

func compareSlots(a, b Slot) []Difference {
	var out []Difference
	add := func(d Difference) {
		d.Slot, d.Pattern = a.ID, a.Pattern
		out = append(out, d)
	}
	if a.Waves != b.Waves {
		x, y := why.N("", a.Waves), why.N("", b.Waves)
		add(Difference{Field: "waves", A: &x, B: &y})
	}
	if a.New != b.New {
		x, y := why.N("", truth(a.New)), why.N("", truth(b.New))
		add(Difference{Field: "new", A: &x, B: &y})
	}
	both := map[people.Party]Entry{}
	maps.Copy(both, a.Entries)
	maps.Copy(both, b.Entries)
	for _, party := range people.Parties(both) {
		x, okA := a.Entries[party]
		y, okB := b.Entries[party]
		if okA == okB && reflect.DeepEqual(x, y) {
			continue
		}
		d := Difference{Field: "entry", Party: party}
		if okA {
			d.EntryA = &x
		}
		if okB {
			d.EntryB = &y
		}
		add(d)
	}
	return out
}

func truth(b bool) int {
	if b {
		return 1
	}
	return 0
}
