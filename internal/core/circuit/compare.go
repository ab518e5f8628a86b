package circuit

import (
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"

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
	Block   string        `json:"block,omitempty"`
	Kind    Kind          `json:"kind,omitempty"` // of the block
	Slot    string        `json:"slot,omitempty"`
	Pattern moves.Pattern `json:"pattern,omitempty"`
	Party   people.Party  `json:"party,omitempty"`
	A       *why.Term     `json:"a,omitempty"`
	B       *why.Term     `json:"b,omitempty"`
	EntryA  *Entry        `json:"entryA,omitempty"`
	EntryB  *Entry        `json:"entryB,omitempty"`
}

// Compare lists in what b differs from a: settings first, then blocks and their slots in the
// order of a, then what only b has. Equal documents give an empty list.
func Compare(a, b Document) []Difference {
	out := []Difference{}
	if x, y := why.Ms("", int64(a.LeadInMs)), why.Ms("", int64(b.LeadInMs)); x != y {
		out = append(out, Difference{Field: "lead-in", A: &x, B: &y})
	}
	for _, x := range [][3]string{
		{"goal", string(a.Goal), string(b.Goal)}, {"template", string(a.Template), string(b.Template)},
	} {
		if x[1] != x[2] {
			was, is := why.ID("", x[1]), why.ID("", x[2])
			out = append(out, Difference{Field: x[0], A: &was, B: &is})
		}
	}
	out = append(out, compareDays(a.Day, b.Day)...)
	yes := why.N("", 1)
	for i, x := range a.Blocks {
		j := b.Block(x.ID)
		if j < 0 {
			out = append(out, Difference{Field: "block", Block: x.ID, Kind: x.Kind, A: &yes})
			continue
		}
		out = append(out, compareBlocks(x, b.Blocks[j])...)
		if m, n := rank(a, b, i), rank(b, a, j); m != n {
			nx, ny := why.N("", i+1), why.N("", j+1)
			out = append(out, Difference{Field: "order", Block: x.ID, Kind: x.Kind, A: &nx, B: &ny})
		}
	}
	for _, x := range b.Blocks {
		if a.Block(x.ID) < 0 {
			out = append(out, Difference{Field: "block", Block: x.ID, Kind: x.Kind, B: &yes})
		}
	}
	for _, s := range a.Slots() {
		i, n := a.At(s.ID)
		j, m := b.At(s.ID)
		at := Difference{Block: a.Blocks[i].ID, Kind: a.Blocks[i].Kind, Slot: s.ID, Pattern: s.Pattern}
		if j < 0 {
			at.Field, at.A = "slot", &yes
			out = append(out, at)
			continue
		}
		out = append(out, compareSlots(at, s, b.Blocks[j].Slots[m])...)
		x, y := slotRank(a, b, i, n), slotRank(b, a, j, m)
		if x != y || a.Blocks[i].ID != b.Blocks[j].ID {
			nx, ny := why.N("", n+1), why.N("", m+1)
			at.Field, at.A, at.B = "order", &nx, &ny
			out = append(out, at)
		}
	}
	for _, s := range b.Slots() {
		if i, _ := a.At(s.ID); i < 0 {
			j, _ := b.At(s.ID)
			out = append(out, Difference{
				Field: "slot", Block: b.Blocks[j].ID, Kind: b.Blocks[j].Kind, Slot: s.ID, Pattern: s.Pattern, B: &yes,
			})
		}
	}
	return out
}

// compareDays says how many people and pieces of kit each of two days lacks, where they are not the
// same.
func compareDays(a, b *Day) []Difference {
	var out []Difference
	var x, y Day
	if a != nil {
		x = *a
	}
	if b != nil {
		y = *b
	}
	for _, f := range []struct {
		field  string
		differ bool
		of     func(*Day) int
	}{
		{"absent", !slices.Equal(x.Absent, y.Absent) || !slices.Equal(x.Fewer, y.Fewer), func(d *Day) int {
			n := len(d.Absent)
			for _, f := range d.Fewer {
				n += f.People
			}
			return n
		}},
		{"missing", !slices.Equal(x.Missing, y.Missing), func(d *Day) int {
			n := 0
			for _, m := range d.Missing {
				n += m.Count
			}
			return n
		}},
	} {
		if f.differ {
			was, is := why.N("", f.of(&x)), why.N("", f.of(&y))
			out = append(out, Difference{Field: f.field, A: &was, B: &is})
		}
	}
	return out
}

// rank gives the place of a block among those that both documents have, so that a block
// removed before it does not count as a move.
func rank(d, other Document, i int) int {
	n := 0
	for _, b := range d.Blocks[:i] {
		if other.Block(b.ID) >= 0 {
			n++
		}
	}
	return n
}

// slotRank does the same for a slot within its block.
func slotRank(d, other Document, i, n int) int {
	k := 0
	for _, s := range d.Blocks[i].Slots[:n] {
		if j, _ := other.At(s.ID); j >= 0 && other.Blocks[j].ID == d.Blocks[i].ID {
			k++
		}
	}
	return k
}

// compareBlocks lists in what the numbers of a block differ; its slots are compared by
// themselves.
func compareBlocks(a, b Block) []Difference {
	var out []Difference
	put := func(field string, x, y why.Term) {
		if x != y {
			out = append(out, Difference{Field: field, Block: a.ID, Kind: a.Kind, A: &x, B: &y})
		}
	}
	put("kind", why.ID("", string(a.Kind)), why.ID("", string(b.Kind)))
	put("layout", why.ID("", string(a.Layout)), why.ID("", string(b.Layout)))
	x, y := a.numbers(), b.numbers()
	for _, n := range x {
		if i := slices.IndexFunc(y, func(m why.Term) bool { return m.Name == n.Name }); i >= 0 {
			put(n.Name, n, y[i])
		} else if n.Name == "scheme" {
			put(n.Name, n, why.ID("scheme", ""))
		}
	}
	if len(x) <= 1 && len(y) > 1 {
		put("scheme", why.ID("scheme", ""), y[0])
	}
	put("after", why.Ms("", int64(a.AfterMs)), why.Ms("", int64(b.AfterMs)))
	return out
}

// numbers lists the scheme of a block and its numbers by name; numbers of different schemes
// that are called the same are compared.
func (b Block) numbers() []why.Term {
	if b.Scheme == nil {
		return nil
	}
	s := b.Scheme
	out := []why.Term{why.ID("scheme", string(s.Kind))}
	ms := func(name string, v measure.Span) { out = append(out, why.Ms(name, int64(v))) }
	n := func(name string, v int) { out = append(out, why.N(name, v)) }
	switch {
	case s.Circuit != nil:
		out = append(out, why.ID("format", string(s.Circuit.Format)))
		ms("work", s.Circuit.WorkMs)
		ms("rest", s.Circuit.RestMs)
		n("rounds", s.Circuit.Rounds)
		ms("round-rest", s.Circuit.RoundRestMs)
	case s.Sets != nil:
		n("sets", s.Sets.Sets)
		ms("rest", s.Sets.RestMs)
		ms("between", s.Sets.BetweenMs)
	case s.Superset != nil:
		n("rounds", s.Superset.Rounds)
		ms("rest", s.Superset.RestMs)
	case s.Chain != nil:
		n("rounds", s.Chain.Rounds)
		ms("rest", s.Chain.RestMs)
		n("sides", s.Chain.Sides)
		ms("side-change", s.Chain.SideChangeMs)
	case s.Interval != nil:
		ms("every", s.Interval.EveryMs)
		n("sets", s.Interval.Sets)
	case s.Window != nil:
		ms("window", s.Window.WindowMs)
	case s.Ladder != nil:
		out = append(out, why.ID("rungs", strings.Trim(fmt.Sprint(s.Ladder.Rungs), "[]")))
		ms("rest", s.Ladder.RestMs)
		ms("between", s.Ladder.BetweenMs)
	case s.Drop != nil:
		ms("change", s.Drop.ChangeMs)
	case s.Called != nil:
		ms("called", s.Called.CalledMs)
		ms("every", s.Called.EveryMs)
		n("seed", s.Called.Seed)
	}
	return out
}

func compareSlots(at Difference, a, b Slot) []Difference {
	var out []Difference
	add := func(d Difference) {
		d.Block, d.Kind, d.Slot, d.Pattern = at.Block, at.Kind, at.Slot, at.Pattern
		out = append(out, d)
	}
	own := func(field string, x, y *measure.Span) {
		if (x == nil) == (y == nil) && (x == nil || *x == *y) {
			return
		}
		d := Difference{Field: field}
		if x != nil {
			t := why.Ms("", int64(*x))
			d.A = &t
		}
		if y != nil {
			t := why.Ms("", int64(*y))
			d.B = &t
		}
		add(d)
	}
	own("own-work", a.WorkMs, b.WorkMs)
	own("own-rest", a.RestMs, b.RestMs)
	if a.Sets != b.Sets {
		x, y := why.N("", a.Sets), why.N("", b.Sets)
		add(Difference{Field: "own-sets", A: &x, B: &y})
	}
	if a.Waves != b.Waves {
		x, y := why.N("", a.Waves), why.N("", b.Waves)
		add(Difference{Field: "waves", A: &x, B: &y})
	}
	said := func(field string, a, b bool) {
		if a != b {
			x, y := why.N("", truth(a)), why.N("", truth(b))
			add(Difference{Field: field, A: &x, B: &y})
		}
	}
	said("new", a.New, b.New)
	said("pinned", a.Pinned, b.Pinned)
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
