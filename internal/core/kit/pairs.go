package kit

// pairTable tells which contents two loads may have at once, a bit for each, room left
// aside. It is made when a search has gone on for long: the time grows with the number
// of pieces and the square of the mass, whatever the masses are.
type pairTable struct {
	stride int // words in a row
	side   int
	bits   []uint64
	live   []bool // rows with anything in them
}

// mostTries is how many states are searched before a table of pairs is made.
const mostTries = 10_000

// mostBits bounds such a table: 50 MB, loads of 20 kg to the gram.
const mostBits = 4e8

// tableOfPairs makes the table, or one that rules nothing out where it would be too
// large.
func (m *maker) tableOfPairs() *pairTable {
	side := int(min(int64(m.top), m.held)) + 1
	t := &pairTable{side: side}
	if float64(side)*float64(side) > mostBits {
		return t
	}
	t.stride = (side + 63) / 64
	t.bits = make([]uint64, side*t.stride)
	t.bits[0], t.live = 1, make([]bool, side)
	t.live[0] = true
	for _, k := range m.kinds {
		for range min(k.count, 2*(side/k.mass)) {
			if !m.work.spend(side * t.stride * (k.steps + 1) / 8) {
				return &pairTable{side: side} // rules nothing out
			}
			t.add(k)
		}
	}
	return t
}

// has tells whether two loads may have these contents.
func (t *pairTable) has(w [2]int) bool {
	if t.bits == nil {
		return true
	}
	return w[0] < t.side && w[1] < t.side && t.bits[w[0]*t.stride+w[1]/64]>>(w[1]%64)&1 == 1
}

// add lets one more piece of a kind go into either load, filled in any way, or into
// none. Rows are done from the last, so that those before are still without it.
func (t *pairTable) add(k kindOf) {
	old := make([]uint64, t.stride)
	for w := t.side - 1; w >= 0; w-- {
		row := t.bits[w*t.stride : (w+1)*t.stride]
		was := t.live[w]
		if was {
			copy(old, row)
		}
		for x := 0; x <= k.steps; x++ {
			shift := k.mass + x*k.step
			if from := w - shift; from >= 0 && t.live[from] {
				t.live[w] = true
				for i, b := range t.bits[from*t.stride : (from+1)*t.stride] {
					row[i] |= b
				}
			}
			if was {
				shiftInto(row, old, shift)
			}
		}
	}
}

// shiftInto ors a row, shifted towards heavier loads, into another.
func shiftInto(row, old []uint64, shift int) {
	words, bits := shift/64, uint(shift%64) // not negative
	for i := len(row) - 1; i >= words; i-- {
		b := old[i-words] << bits
		if bits > 0 && i > words {
			b |= old[i-words-1] >> (64 - bits)
		}
		row[i] |= b
	}
}
