package circuit

import (
	"fmt"
	"slices"
	"strings"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
)

// OpKind names an edit.
type OpKind string

// The edits. Each has an inverse of the same kinds.
const (
	SetLeadIn   OpKind = "set-lead-in"
	SetScheme   OpKind = "set-scheme"
	SetKind     OpKind = "set-kind"
	SetLayout   OpKind = "set-layout"
	SetAfter    OpKind = "set-after"
	AddBlock    OpKind = "add-block"
	RemoveBlock OpKind = "remove-block"
	MoveBlock   OpKind = "move-block"
	SetWaves    OpKind = "set-waves"
	SetNew      OpKind = "set-new"
	SetPin      OpKind = "set-pin"
	SetOwn      OpKind = "set-own"
	SetEntry    OpKind = "set-entry"
	ClearEntry  OpKind = "clear-entry"
	AddSlot     OpKind = "add-slot"
	RemoveSlot  OpKind = "remove-slot"
	MoveSlot    OpKind = "move-slot"
	SetDay      OpKind = "set-day"
	Replace     OpKind = "replace"
)

// OpKinds lists the edits there are.
var OpKinds = []OpKind{
	SetLeadIn, SetScheme, SetKind, SetLayout, SetAfter, AddBlock, RemoveBlock, MoveBlock,
	SetWaves, SetNew, SetPin, SetOwn, SetEntry, ClearEntry, AddSlot, RemoveSlot, MoveSlot, SetDay, Replace,
}

// Known tells whether the edit is one of those there are.
func (op Op) Known() bool { return slices.Contains(OpKinds, op.Kind) }

// Op is one small edit of a document. Which fields count depends on Kind.
type Op struct {
	Kind    OpKind        `json:"op"`
	BlockID string        `json:"blockId,omitempty"` // of a block's edits; of add-slot and move-slot where to
	SlotID  string        `json:"slotId,omitempty"`
	Party   people.Party  `json:"party,omitempty"` // for set-entry, clear-entry
	Ms      *measure.Span `json:"ms,omitempty"`    // for set-lead-in, set-after
	Count   *int          `json:"count,omitempty"` // for set-waves; the new place for add and move
	Flag    *bool         `json:"flag,omitempty"`  // for set-new, set-pin
	Scheme  *Scheme       `json:"scheme,omitempty"`
	Of      Kind          `json:"kind,omitempty"`
	Layout  Layout        `json:"layout,omitempty"`
	// Own is what a slot has instead of its block's numbers, for set-own: what is left out
	// is the block's again.
	Own      *Own      `json:"own,omitempty"`
	Entry    *Entry    `json:"entry,omitempty"`    // for set-entry
	Slot     *Slot     `json:"slot,omitempty"`     // for add-slot
	Block    *Block    `json:"block,omitempty"`    // for add-block
	Document *Document `json:"document,omitempty"` // for replace
	Day      *Day      `json:"day,omitempty"`      // for set-day
}

// Own is what a slot has instead of its block's numbers.
type Own struct {
	WorkMs *measure.Span `json:"workMs,omitempty"`
	RestMs *measure.Span `json:"restMs,omitempty"`
	Sets   int           `json:"sets,omitempty"`
}

// Apply makes the edits one after the other and gives the new document and the
// edits that undo them: applied to the new document they give the old one byte
// for byte. On an error, which is a fault.List by their paths in the edits, nothing is
// changed.
func Apply(d Document, ops []Op, lib *moves.Library) (Document, []Op, error) {
	next := d.Clone()
	var inverse []Op
	var faults fault.List
	for i, op := range ops {
		path := fmt.Sprintf("ops[%d]", i)
		if bad := op.faults(lib, path, next.Bans); len(bad) > 0 {
			faults = append(faults, bad...)
			continue
		}
		inv, err := next.apply(op)
		if err != nil {
			faults.Add(path, "%v", err)
			continue
		}
		inverse = append(inverse, inv)
	}
	if len(faults) == 0 {
		for _, f := range next.faults(lib) { // what edits are right by themselves and not together
			faults.Add("ops", "%v", f)
		}
	}
	if len(faults) > 0 {
		return d, nil, faults
	}
	slices.Reverse(inverse)
	return next, inverse, nil
}

// fields are what an edit of each kind brings; by their names in an edit.
var fields = map[OpKind]string{
	SetLeadIn: "ms", Replace: "document", SetDay: "day",
	SetScheme: "blockId scheme", SetKind: "blockId kind", SetLayout: "blockId layout", SetAfter: "blockId ms",
	AddBlock: "block count", RemoveBlock: "blockId", MoveBlock: "blockId count",
	SetWaves: "slotId count", SetNew: "slotId flag", SetPin: "slotId flag", SetOwn: "slotId own",
	SetEntry: "slotId party entry", ClearEntry: "slotId party",
	AddSlot: "blockId slot count", RemoveSlot: "slotId", MoveSlot: "slotId blockId count",
}

// strange lists the fields that an edit brings and one of its kind does not.
func (op Op) strange() []string {
	var out []string
	for _, x := range []struct {
		name  string
		there bool
	}{
		{"blockId", op.BlockID != ""},
		{"slotId", op.SlotID != ""},
		{"party", op.Party != ""},
		{"ms", op.Ms != nil},
		{"count", op.Count != nil},
		{"flag", op.Flag != nil},
		{"scheme", op.Scheme != nil},
		{"kind", op.Of != ""},
		{"layout", op.Layout != ""},
		{"own", op.Own != nil},
		{"entry", op.Entry != nil},
		{"slot", op.Slot != nil},
		{"block", op.Block != nil},
		{"document", op.Document != nil},
		{"day", op.Day != nil},
	} {
		if x.there && !slices.Contains(strings.Fields(fields[op.Kind]), x.name) {
			out = append(out, x.name)
		}
	}
	return out
}

// faults says what an edit cannot bring, whatever document it is made on. Bans that
// stood in an older version stay.
func (op Op) faults(lib *moves.Library, path string, old []string) fault.List {
	var out fault.List
	if op.Known() {
		for _, field := range op.strange() {
			out.Add(
				path+"."+field,
				"%s takes %s: leave it out",
				op.Kind,
				strings.Join(strings.Fields(fields[op.Kind]), ", "),
			)
		}
	}
	if op.Ms != nil {
		out.Within(path+".ms", int64(*op.Ms), 0, int64(MaxStretch))
	}
	if op.Count != nil {
		low, high := int64(0), int64(MaxSlots)
		if op.Kind == SetWaves {
			low, high = 1, MaxWaves
		}
		out.Within(path+".count", int64(*op.Count), low, high)
	}
	out = append(out, op.Scheme.faults(path+".scheme")...)
	out = append(out, op.Day.faults(path+".day")...)
	if op.Entry != nil {
		out = append(out, op.Entry.faults(lib, path+".entry")...)
	}
	if op.Slot != nil {
		out = append(out, op.Slot.faults(lib, path+".slot")...)
	}
	if op.Block != nil {
		out = append(out, op.Block.faults(lib, path+".block")...)
	}
	if op.Document != nil {
		for _, f := range append(op.Document.faults(lib), CheckBans(lib, op.Document.Bans, old)...) {
			out.Add(path+".document."+f.Path, "%s", f.Message)
		}
	}
	return out
}

// missing is an edit that lacks a field.
func missing(field string) error { return fmt.Errorf("%s is missing", field) }

func (d *Document) apply(op Op) (Op, error) {
	switch op.Kind {
	case SetLeadIn:
		return swap(op, op.Ms, &d.LeadInMs, func(inv *Op, old measure.Span) { inv.Ms = &old })
	case Replace:
		if op.Document == nil {
			return op, missing("document")
		}
		old := d.Clone()
		*d = op.Document.Clone()
		return Op{Kind: Replace, Document: &old}, nil
	case SetDay:
		if op.Day == nil {
			return op, missing("day")
		}
		old := d.Day.clone()
		if old == nil {
			old = &Day{}
		}
		if d.Day = op.Day.clone(); d.Day.Plain() {
			d.Day = nil
		}
		return Op{Kind: SetDay, Day: old}, nil
	case AddBlock:
		return d.addBlock(op)
	case AddSlot:
		return d.addSlot(op)
	case SetScheme, SetKind, SetLayout, SetAfter, RemoveBlock, MoveBlock:
		return d.applyToBlock(op)
	}
	return d.applyToSlot(op)
}

// swap gives a field the value of an edit, and the edit that puts the old one back.
func swap[T any](op Op, to *T, field *T, put func(inv *Op, old T)) (Op, error) {
	if to == nil {
		return op, missing("the new value")
	}
	old := *field
	*field = *to
	inv := Op{Kind: op.Kind, BlockID: op.BlockID, SlotID: op.SlotID}
	put(&inv, old)
	return inv, nil
}

func (d *Document) addBlock(op Op) (Op, error) {
	switch {
	case op.Block == nil || op.Count == nil:
		return op, missing("block or count")
	case *op.Count > len(d.Blocks):
		return op, fmt.Errorf("place %d is not in the order", *op.Count)
	case d.Block(op.Block.ID) >= 0:
		return op, fmt.Errorf("there is a block %q already", op.Block.ID)
	}
	d.Blocks = slices.Insert(d.Blocks, *op.Count, op.Block.clone())
	return Op{Kind: RemoveBlock, BlockID: op.Block.ID}, nil
}

func (d *Document) applyToBlock(op Op) (Op, error) {
	i := d.Block(op.BlockID)
	if i < 0 {
		return op, fmt.Errorf("there is no block %q", op.BlockID)
	}
	b := &d.Blocks[i]
	switch op.Kind {
	case SetScheme:
		if op.Scheme == nil {
			return op, missing("scheme")
		}
		if b.Auto {
			return op, fmt.Errorf("block %q times itself: it has no scheme", op.BlockID)
		}
		old := b.Scheme
		b.Scheme = op.Scheme.clone()
		return Op{Kind: op.Kind, BlockID: op.BlockID, Scheme: old}, nil
	case SetKind:
		if op.Of == "" {
			return op, missing("kind")
		}
		return swap(op, &op.Of, &b.Kind, func(inv *Op, old Kind) { inv.Of = old })
	case SetLayout:
		if op.Layout == "" {
			return op, missing("layout")
		}
		return swap(op, &op.Layout, &b.Layout, func(inv *Op, old Layout) { inv.Layout = old })
	case SetAfter:
		return swap(op, op.Ms, &b.AfterMs, func(inv *Op, old measure.Span) { inv.Ms = &old })
	case RemoveBlock:
		old, at := b.clone(), i
		d.Blocks = slices.Delete(d.Blocks, i, i+1)
		return Op{Kind: AddBlock, Block: &old, Count: &at}, nil
	default: // MoveBlock
		if op.Count == nil || *op.Count >= len(d.Blocks) {
			return op, fmt.Errorf("count must be a place in the order")
		}
		moved, from := *b, i
		d.Blocks = slices.Insert(slices.Delete(d.Blocks, i, i+1), *op.Count, moved)
		return Op{Kind: MoveBlock, BlockID: op.BlockID, Count: &from}, nil
	}
}

// place checks where a slot is to go: its block and a place among so many.
func (d *Document) place(op Op, in string, count *int, slots func(Block) int) (int, error) {
	i := d.Block(in)
	switch {
	case i < 0:
		return i, fmt.Errorf("there is no block %q", in)
	case d.Blocks[i].Auto:
		return i, fmt.Errorf("block %q times itself: it has no slots", in)
	case count == nil || *count > slots(d.Blocks[i]):
		return i, fmt.Errorf("count must be a place in the order of block %q", in)
	}
	return i, nil
}

func (d *Document) addSlot(op Op) (Op, error) {
	if op.Slot == nil {
		return op, missing("slot")
	}
	i, err := d.place(op, op.BlockID, op.Count, func(b Block) int { return len(b.Slots) })
	if err != nil {
		return op, err
	}
	if at, _ := d.At(op.Slot.ID); at >= 0 {
		return op, fmt.Errorf("there is a slot %q already", op.Slot.ID)
	}
	d.Blocks[i].Slots = slices.Insert(d.Blocks[i].Slots, *op.Count, op.Slot.clone())
	return Op{Kind: RemoveSlot, SlotID: op.Slot.ID}, nil
}

func (d *Document) applyToSlot(op Op) (Op, error) {
	i, n := d.At(op.SlotID)
	if i < 0 {
		return op, fmt.Errorf("there is no slot %q", op.SlotID)
	}
	b := &d.Blocks[i]
	s := &b.Slots[n]
	switch op.Kind {
	case SetWaves:
		return swap(op, op.Count, &s.Waves, func(inv *Op, old int) { inv.Count = &old })
	case SetNew:
		return swap(op, op.Flag, &s.New, func(inv *Op, old bool) { inv.Flag = &old })
	case SetPin:
		return swap(op, op.Flag, &s.Pinned, func(inv *Op, old bool) { inv.Flag = &old })
	case SetOwn:
		if op.Own == nil {
			return op, missing("own")
		}
		old := Own{s.WorkMs, s.RestMs, s.Sets}
		s.WorkMs, s.RestMs, s.Sets = copied(op.Own.WorkMs), copied(op.Own.RestMs), op.Own.Sets
		return Op{Kind: op.Kind, SlotID: op.SlotID, Own: &old}, nil
	case SetEntry, ClearEntry:
		return s.setEntry(op)
	case RemoveSlot:
		old, at := s.clone(), n
		b.Slots = slices.Delete(b.Slots, n, n+1)
		return Op{Kind: AddSlot, BlockID: b.ID, Slot: &old, Count: &at}, nil
	case MoveSlot:
		return d.moveSlot(op, i, n)
	}
	return op, fmt.Errorf("unknown edit %q", op.Kind)
}

// moveSlot brings a slot to a place in its block, or in another.
func (d *Document) moveSlot(op Op, i, n int) (Op, error) {
	from := d.Blocks[i].ID
	in := op.BlockID
	if in == "" {
		in = from
	}
	to, err := d.place(op, in, op.Count, func(b Block) int {
		if b.ID == from {
			return len(b.Slots) - 1
		}
		return len(b.Slots)
	})
	if err != nil {
		return op, err
	}
	moved := d.Blocks[i].Slots[n]
	d.Blocks[i].Slots = slices.Delete(d.Blocks[i].Slots, n, n+1)
	d.Blocks[to].Slots = slices.Insert(d.Blocks[to].Slots, *op.Count, moved)
	return Op{Kind: MoveSlot, SlotID: op.SlotID, BlockID: from, Count: &n}, nil
}

// setEntry gives a party an entry, or takes their own away.
func (s *Slot) setEntry(op Op) (Op, error) {
	old, had := s.Entries[op.Party]
	switch {
	case !op.Party.Known():
		return op, fmt.Errorf("party is ground, middle, reach or a participant by id")
	case op.Kind == ClearEntry && !had:
		return op, fmt.Errorf("slot %q has no entry of %q", s.ID, op.Party)
	case op.Kind == SetEntry && op.Entry == nil:
		return op, missing("entry")
	case op.Kind == ClearEntry:
		delete(s.Entries, op.Party)
	default:
		s.Entries[op.Party] = *op.Entry
	}
	if !had {
		return Op{Kind: ClearEntry, SlotID: s.ID, Party: op.Party}, nil
	}
	return Op{Kind: SetEntry, SlotID: s.ID, Party: op.Party, Entry: &old}, nil
}
