package circuit

import (
	"fmt"
	"slices"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
)

// OpKind names an edit.
type OpKind string

// The edits. Each has an inverse of the same kinds.
const (
	SetFormat    OpKind = "set-format"
	SetLeadIn    OpKind = "set-lead-in"
	SetWork      OpKind = "set-work"
	SetRest      OpKind = "set-rest"
	SetRounds    OpKind = "set-rounds"
	SetRoundRest OpKind = "set-round-rest"
	SetWaves     OpKind = "set-waves"
	SetNew       OpKind = "set-new"
	SetEntry     OpKind = "set-entry"
	ClearEntry   OpKind = "clear-entry"
	AddSlot      OpKind = "add-slot"
	RemoveSlot   OpKind = "remove-slot"
	MoveSlot     OpKind = "move-slot"
	Replace      OpKind = "replace"
)

// opKinds lists the edits there are.
var opKinds = []OpKind{
	SetFormat,
	SetLeadIn,
	SetWork,
	SetRest,
	SetRounds,
	SetRoundRest,
	SetWaves,
	SetNew,
	SetEntry,
	ClearEntry,
	AddSlot,
	RemoveSlot,
	MoveSlot,
	Replace,
}

// Known tells whether the edit is one of those there are.
func (op Op) Known() bool { return slices.Contains(opKinds, op.Kind) }

// Op is one small edit of a document. Which fields count depends on Kind.
type Op struct {
	Kind     OpKind        `json:"op"`
	Format   Format        `json:"format,omitempty"`
	Ms       *measure.Span `json:"ms,omitempty"`    // for set-lead-in, set-work, set-rest, set-round-rest
	Count    *int          `json:"count,omitempty"` // for set-rounds, set-waves; the new place for add-slot and move-slot
	Flag     *bool         `json:"flag,omitempty"`  // for set-new
	SlotID   string        `json:"slotId,omitempty"`
	Party    people.Party  `json:"lane,omitempty"`     // for set-entry, clear-entry
	Entry    *Entry        `json:"entry,omitempty"`    // for set-entry
	Slot     *Slot         `json:"slot,omitempty"`     // for add-slot
	Document *Document     `json:"document,omitempty"` // for replace
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
		if len(next.Slots) > MaxSlots {
			faults.Add(path, "a circuit has at most %d slots", MaxSlots)
		}
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

// faults says what an edit cannot bring, whatever document it is made on. Bans that
// stood in an older version stay.
func (op Op) faults(lib *moves.Library, path string, old []string) fault.List {
	var out fault.List
	if op.Ms != nil {
		low := int64(0)
		if op.Kind == SetWork {
			low = leastWork
		}
		out.Within(path+".ms", int64(*op.Ms), low, int64(MaxStretch))
	}
	if op.Count != nil {
		low, high := int64(0), int64(MaxSlots)
		switch op.Kind {
		case SetRounds:
			low, high = 1, MaxRounds
		case SetWaves:
			low, high = 1, MaxWaves
		}
		out.Within(path+".count", int64(*op.Count), low, high)
	}
	if op.Kind == SetFormat && op.Format != Timed && op.Format != Reps {
		out.Add(path+".format", "timed or reps")
	}
	if op.Entry != nil {
		out = append(out, op.Entry.faults(lib, path+".entry")...)
	}
	if op.Slot != nil {
		out = append(out, op.Slot.faults(lib, path+".slot")...)
	}
	if op.Document != nil {
		d := op.Document.upgraded()
		for _, f := range append(d.faults(lib), CheckBans(lib, d.Bans, old)...) {
			out.Add(path+".document."+f.Path, "%s", f.Message)
		}
	}
	return out
}

func (d *Document) apply(op Op) (Op, error) {
	switch op.Kind {
	case SetFormat:
		inv := Op{Kind: op.Kind, Format: d.Format}
		d.Format = op.Format
		return inv, nil
	case SetLeadIn:
		return swap(op, &d.LeadInMs)
	case SetWork:
		return swap(op, &d.WorkMs)
	case SetRest:
		return swap(op, &d.RestMs)
	case SetRoundRest:
		return swap(op, &d.RoundRestMs)
	case SetRounds:
		if op.Count == nil {
			return op, fmt.Errorf("count is missing")
		}
		old := d.Rounds
		d.Rounds = *op.Count
		return Op{Kind: op.Kind, Count: &old}, nil
	case Replace:
		if op.Document == nil {
			return op, fmt.Errorf("document is missing")
		}
		old := d.Clone()
		*d = op.Document.Clone().upgraded()
		return Op{Kind: Replace, Document: &old}, nil
	case AddSlot:
		return d.add(op)
	}
	return d.applyToSlot(op)
}

func swap(op Op, field *measure.Span) (Op, error) {
	if op.Ms == nil {
		return op, fmt.Errorf("ms is missing")
	}
	old := *field
	*field = *op.Ms
	return Op{Kind: op.Kind, Ms: &old}, nil
}

func (d *Document) add(op Op) (Op, error) {
	if op.Slot == nil || op.Count == nil {
		return op, fmt.Errorf("slot and count are needed")
	}
	if *op.Count < 0 || *op.Count > len(d.Slots) {
		return op, fmt.Errorf("place %d is not in the order", *op.Count)
	}
	if d.Index(op.Slot.ID) >= 0 {
		return op, fmt.Errorf("there is a slot %q already", op.Slot.ID)
	}
	d.Slots = slices.Insert(d.Slots, *op.Count, op.Slot.clone())
	return Op{Kind: RemoveSlot, SlotID: op.Slot.ID}, nil
}

func (d *Document) applyToSlot(op Op) (Op, error) {
	i := d.Index(op.SlotID)
	if i < 0 {
		return op, fmt.Errorf("there is no slot %q", op.SlotID)
	}
	s := &d.Slots[i]
	switch op.Kind {
	case SetWaves:
		if op.Count == nil {
			return op, fmt.Errorf("count is missing")
		}
		old := s.Waves
		s.Waves = *op.Count
		return Op{Kind: op.Kind, SlotID: op.SlotID, Count: &old}, nil
	case SetNew:
		if op.Flag == nil {
			return op, fmt.Errorf("flag is missing")
		}
		old := s.New
		s.New = *op.Flag
		return Op{Kind: op.Kind, SlotID: op.SlotID, Flag: &old}, nil
	case SetEntry, ClearEntry:
		return s.setEntry(op)
	case RemoveSlot:
		old, at := s.clone(), i
		d.Slots = slices.Delete(d.Slots, i, i+1)
		return Op{Kind: AddSlot, Slot: &old, Count: &at}, nil
	case MoveSlot:
		if op.Count == nil || *op.Count < 0 || *op.Count >= len(d.Slots) {
			return op, fmt.Errorf("count must be a place in the order")
		}
		moved, from := *s, i
		d.Slots = slices.Insert(slices.Delete(d.Slots, i, i+1), *op.Count, moved)
		return Op{Kind: MoveSlot, SlotID: op.SlotID, Count: &from}, nil
	}
	return op, fmt.Errorf("unknown edit %q", op.Kind)
}

// setEntry gives a party an entry, or takes their own away.
func (s *Slot) setEntry(op Op) (Op, error) {
	old, had := s.Entries[op.Party]
	switch {
	case !op.Party.Known():
		return op, fmt.Errorf("lane is ground, middle, reach or a participant by id")
	case op.Kind == ClearEntry && !had:
		return op, fmt.Errorf("slot %q has no entry of %q", s.ID, op.Party)
	case op.Kind == SetEntry && op.Entry == nil:
		return op, fmt.Errorf("entry is missing")
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
