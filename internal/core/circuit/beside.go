package circuit

import (
	"maps"
	"slices"
)

// BesideRow is what stands beside what in two documents: two blocks, or two slots of theirs, of
// which one may be missing, and in what the two differ.
type BesideRow struct {
	LeftBlock  string       `json:"leftBlock,omitempty"`
	RightBlock string       `json:"rightBlock,omitempty"`
	LeftSlot   string       `json:"leftSlot,omitempty"`
	RightSlot  string       `json:"rightSlot,omitempty"`
	Differs    []Difference `json:"differs"`
}

// Beside lays two documents side by side, whatever their blocks and slots are called: blocks
// that are for the same and go by the same scheme, in them slots with the same moves, else of
// the same pattern, as many as there are in the same order.
func Beside(a, b Document) []BesideRow {
	out := []BesideRow{}
	blocks := InOrder(len(a.Blocks), len(b.Blocks), func(i, k int) int {
		x, y := a.Blocks[i], b.Blocks[k]
		switch {
		case x.Kind != y.Kind || x.Auto != y.Auto:
			return 0
		case x.Auto || x.Scheme.Kind == y.Scheme.Kind:
			return 2 + shared(x, y)
		}
		return 1
	})
	merged(len(a.Blocks), len(b.Blocks), blocks, func(i, k int) {
		var x, y Block
		row := BesideRow{Differs: []Difference{}}
		if i >= 0 {
			x = a.Blocks[i]
			row.LeftBlock = x.ID
		}
		if k >= 0 {
			y = b.Blocks[k]
			row.RightBlock = y.ID
		}
		if i >= 0 && k >= 0 {
			y.ID = x.ID
			row.Differs = append(row.Differs, compareBlocks(x, y)...)
		}
		out = append(out, row)
		slots := InOrder(len(x.Slots), len(y.Slots), func(i, k int) int { return likeness(x.Slots[i], y.Slots[k]) })
		merged(len(x.Slots), len(y.Slots), slots, func(i, k int) {
			row := BesideRow{LeftBlock: row.LeftBlock, RightBlock: row.RightBlock, Differs: []Difference{}}
			if i >= 0 {
				row.LeftSlot = x.Slots[i].ID
			}
			if k >= 0 {
				row.RightSlot = y.Slots[k].ID
			}
			if i >= 0 && k >= 0 {
				s, t := x.Slots[i], y.Slots[k]
				at := Difference{Block: x.ID, Kind: x.Kind, Slot: s.ID, Pattern: s.Pattern}
				row.Differs = append(row.Differs, compareSlots(at, s, t)...)
			}
			out = append(out, row)
		})
	})
	return out
}

// likeness is how alike two slots are: 0 not at all, more for the same pattern, more again for
// each move that both have.
func likeness(a, b Slot) int {
	n := 0
	if a.Pattern == b.Pattern {
		n = 1
	}
	moves := map[string]bool{}
	for e := range maps.Values(a.Entries) {
		moves[e.Variant] = true
	}
	for e := range maps.Values(b.Entries) {
		if moves[e.Variant] {
			n += 2
			delete(moves, e.Variant)
		}
	}
	return n
}

// shared is how many slots of two blocks have a move in common.
func shared(a, b Block) int {
	n := 0
	for _, x := range a.Slots {
		if slices.ContainsFunc(b.Slots, func(y Slot) bool { return likeness(x, y) > 1 }) {
			n++
		}
	}
	return n
}

// merged goes through two lists in their orders, pairs together: -1 for what has none.
func merged(n, m int, pairs [][2]int, see func(i, k int)) {
	i, k := 0, 0
	for _, p := range append(pairs, [2]int{n, m}) {
		for ; i < p[0]; i++ {
			see(i, -1)
		}
		for ; k < p[1]; k++ {
			see(-1, k)
		}
		if i < n && k < m {
			see(i, k)
		}
		i, k = i+1, k+1
	}
}

// InOrder pairs up what two lists have alike in the same order, so that the scores of the
// pairs add up to the most there could be; a score of 0 is no pair. The cost is n times m.
func InOrder(n, m int, score func(i, k int) int) [][2]int {
	best := make([][]int, n+1)
	for i := range best {
		best[i] = make([]int, m+1)
	}
	for i := n - 1; i >= 0; i-- {
		for k := m - 1; k >= 0; k-- {
			best[i][k] = max(best[i+1][k], best[i][k+1])
			if s := score(i, k); s > 0 {
				best[i][k] = max(best[i][k], best[i+1][k+1]+s)
			}
		}
	}
	var out [][2]int
	for i, k := 0, 0; i < n && k < m; {
		switch s := score(i, k); {
		case s > 0 && best[i][k] == best[i+1][k+1]+s:
			out = append(out, [2]int{i, k})
			i, k = i+1, k+1
		case best[i][k] == best[i+1][k]:
			i++
		default:
			k++
		}
	}
	return out
}
