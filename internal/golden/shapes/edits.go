package shapes

import (
	"reflect"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
)

// Edits are the fewest edits, of those that the score has, which make the blocks of one
// document into another's: blocks and slots that stand in both in the same order are changed,
// the others taken out and put in. Whether a slot is kept for the next proposal is no matter
// of the session.
func Edits(from, to circuit.Document) []circuit.Op {
	var out []circuit.Op
	from, to = from.Clone(), to.Clone()
	pairs := alike(len(from.Blocks), len(to.Blocks), func(i, k int) bool {
		a, b := from.Blocks[i], to.Blocks[k]
		return a.Kind == b.Kind && a.Auto == b.Auto && (a.Auto || a.Scheme.Kind == b.Scheme.Kind)
	})
	for i, k := range each(len(from.Blocks), pairs, 0) {
		if k < 0 {
			out = append(out, circuit.Op{Kind: circuit.RemoveBlock, BlockID: from.Blocks[i].ID})
		}
	}
	for k, i := range each(len(to.Blocks), pairs, 1) {
		b := to.Blocks[k]
		if i < 0 {
			b.ID = "new-" + b.ID
			for n := range b.Slots {
				b.Slots[n].ID = "new-" + b.Slots[n].ID
			}
			out = append(out, circuit.Op{Kind: circuit.AddBlock, Block: &b, Count: &k})
			continue
		}
		out = append(out, blockEdits(from.Blocks[i], b)...)
	}
	return out
}

func blockEdits(from, to circuit.Block) []circuit.Op {
	var out []circuit.Op
	if !reflect.DeepEqual(from.Scheme, to.Scheme) {
		out = append(out, circuit.Op{Kind: circuit.SetScheme, BlockID: from.ID, Scheme: to.Scheme})
	}
	if from.Layout != to.Layout {
		out = append(out, circuit.Op{Kind: circuit.SetLayout, BlockID: from.ID, Layout: to.Layout})
	}
	if from.AfterMs != to.AfterMs {
		out = append(out, circuit.Op{Kind: circuit.SetAfter, BlockID: from.ID, Ms: &to.AfterMs})
	}
	pairs := alike(len(from.Slots), len(to.Slots), func(i, k int) bool {
		return move(from.Slots[i]) == move(to.Slots[k])
	})
	for i, k := range each(len(from.Slots), pairs, 0) {
		if k < 0 {
			out = append(out, circuit.Op{Kind: circuit.RemoveSlot, SlotID: from.Slots[i].ID})
		}
	}
	for k, i := range each(len(to.Slots), pairs, 1) {
		s := to.Slots[k]
		if i < 0 {
			s.ID = "new-" + s.ID
			out = append(out, circuit.Op{Kind: circuit.AddSlot, BlockID: from.ID, Slot: &s, Count: &k})
			continue
		}
		was := from.Slots[i]
		own := circuit.Own{WorkMs: s.WorkMs, RestMs: s.RestMs, Sets: s.Sets}
		if !reflect.DeepEqual(own, circuit.Own{WorkMs: was.WorkMs, RestMs: was.RestMs, Sets: was.Sets}) {
			out = append(out, circuit.Op{Kind: circuit.SetOwn, SlotID: was.ID, Own: &own})
		}
		if was.Waves != s.Waves {
			out = append(out, circuit.Op{Kind: circuit.SetWaves, SlotID: was.ID, Count: &s.Waves})
		}
		if was.New != s.New {
			out = append(out, circuit.Op{Kind: circuit.SetNew, SlotID: was.ID, Flag: &s.New})
		}
		for _, who := range people.Parties(s.Entries) {
			if e := s.Entries[who]; !reflect.DeepEqual(was.Entries[who], e) {
				out = append(out, circuit.Op{Kind: circuit.SetEntry, SlotID: was.ID, Party: who, Entry: &e})
			}
		}
	}
	return out
}

func move(s circuit.Slot) string { return s.Entries[people.OfLane(moves.Middle)].Variant }

// alike pairs up what two lists have alike in the same order, as much as can be.
func alike(n, m int, same func(i, k int) bool) [][2]int {
	return circuit.InOrder(n, m, func(i, k int) int {
		if same(i, k) {
			return 1
		}
		return 0
	})
}

// each gives what each of a list is paired with, -1 for nothing.
func each(n int, pairs [][2]int, side int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = -1
	}
	for _, p := range pairs {
		out[p[side]] = p[1-side]
	}
	return out
}
