package kit

import (
	"slices"

	"nimbleanvil/internal/core/measure"
)

// state is what is still to be made of each load from kind k on, the volume that
// is left in each, and how many objects may be used.
type state struct {
	k uint16
	n int32
	r [2]int32
	v [2]int32
}

// pin fixes how many of a kind both loads take together, and how many the first;
// -1 is free.
type pin struct{ sum, first int }

// search asks whether a state can be completed, with any counts or with pinned ones.
// What failed is kept until the pins change; what succeeded stands in got.
type search struct {
	m      *maker
	pins   []pin
	owed   []int // pinned pieces from kind k on
	sided  bool  // the first load's counts are pinned: the two are not alike
	failed map[state]struct{}
	got    []taken
	// hasty gives up once a table of pairs is faster.
	hasty, gaveUp bool
}

func newSearch(m *maker) *search {
	return &search{m: m, failed: map[state]struct{}{}, got: make([]taken, len(m.kinds))}
}

// mostFailed is how many states that failed are kept: some 50 MB.
const mostFailed = 1_000_000

// stepCost is what looking at a state is worth in steps of work.
const (
	stepCost = 30
	useCost  = 6 // trying one more number of pieces
)

// way gives how the last state was completed.
func (q *search) way() []taken { return slices.Clone(q.got) }

// pinned starts anew with pins.
func (q *search) pinned(pins []pin) {
	q.pins = pins
	q.owed = make([]int, len(pins)+1)
	q.sided = false
	for k := len(pins) - 1; k >= 0; k-- {
		q.owed[k] = q.owed[k+1] + max(pins[k].sum, 0)
		q.sided = q.sided || pins[k].first >= 0
	}
	clear(q.failed)
}

// can tells whether the rest can be made. Tables rule out most states; what failed
// once is not tried again.
func (q *search) can(s state) bool {
	if s.r[0] == 0 && s.r[1] == 0 {
		if q.pins != nil && q.owed[s.k] > 0 {
			return false
		}
		clear(q.got[s.k:])
		return true
	}
	if int(s.k) == len(q.m.kinds) || !q.plausible(s) {
		return false
	}
	if q.m.loads == 1 && !q.m.binds && q.pins == nil {
		return true // the table is exact
	}
	if !q.m.work.spend(stepCost) {
		return false
	}
	key := q.m.plain(s, !q.sided)
	if _, ok := q.failed[key]; ok {
		return false
	}
	if q.m.tries++; q.hasty && q.m.tries > mostTries {
		q.gaveUp = true
	}
	if q.gaveUp {
		return false
	}
	if q.each(s, -1, func(t state, g taken) bool {
		if !q.can(t) {
			return false
		}
		q.got[s.k] = g
		return true
	}) {
		return true
	}
	if !q.gaveUp && !q.m.work.out {
		if len(q.failed) >= mostFailed {
			clear(q.failed)
		}
		q.failed[key] = struct{}{}
	}
	return false
}

func (q *search) plausible(s state) bool {
	m := q.m
	few := m.few[s.k]
	if int(few[s.r[0]+s.r[1]]) > int(s.n) || few[s.r[0]] >= noWay || few[s.r[1]] >= noWay {
		return false
	}
	if !m.binds {
		return true
	}
	room := m.room[s.k]
	return room[s.r[0]] <= s.v[0] && room[s.r[1]] <= s.v[1] && room[s.r[0]+s.r[1]] <= s.v[0]+s.v[1]
}

// plain makes states that mean the same the same: what is left over of objects and
// room is cut to what the rest could use, and, where the loads are alike, the heavier
// comes first.
func (m *maker) plain(s state, alike bool) state {
	s.n = int32(min(int(s.n), int(s.r[0]+s.r[1])/m.least[s.k])) // not over what it was
	for i := range s.v {
		if !m.binds {
			s.v[i] = m.volume
			continue
		}
		s.v[i] = int32(min(float64(s.v[i]), float64(s.r[i])*m.thick[s.k]+1)) // not over what it was
	}
	if alike && (s.r[1] > s.r[0] || s.r[1] == s.r[0] && s.v[1] > s.v[0]) {
		s.r[0], s.r[1], s.v[0], s.v[1] = s.r[1], s.r[0], s.v[1], s.v[0]
	}
	return s
}

// each walks the ways to use the next kind, more first, until one is accepted.
// With together not negative both loads take exactly so many between them.
func (q *search) each(s state, together int, accept func(t state, g taken) bool) bool {
	k := q.m.kinds[s.k]
	most, first := min(k.count, int(s.n)), -1
	if q.pins != nil {
		together, first = q.pins[s.k].sum, q.pins[s.k].first
		most = min(most, int(s.n)-q.owed[s.k+1])
	}
	if together > most {
		return false
	}
	if together >= 0 {
		most = together
	}
	one, other := k.fits(s, 0), k.fits(s, 1)
	for a := min(most, one); a >= max(0, together-other); a-- {
		if first >= 0 && a != first {
			continue
		}
		high, low := min(most-a, other), max(0, together-a)
		for b := high; b >= low; b-- {
			if q.use(s, a, b, accept) {
				return true
			}
		}
	}
	return false
}

// fits is how many of a kind one load still takes.
func (k kindOf) fits(s state, load int) int {
	n := int(s.r[load]) / k.mass
	if k.volume > 0 {
		n = min(n, int(s.v[load]/k.volume))
	}
	return n
}

// use puts a of the kind into the first load and b into the second, with every
// fill.
func (q *search) use(s state, a, b int, accept func(t state, g taken) bool) bool {
	if !q.m.work.spend(useCost) {
		return false
	}
	k := q.m.kinds[s.k]
	next := s
	next.k++
	next.n -= int32(a + b) // not under 0
	next.v[0] -= int32(a) * k.volume
	next.v[1] -= int32(b) * k.volume
	next.r[0] -= int32(a * k.mass) // bounded by the tables
	next.r[1] -= int32(b * k.mass) // bounded by the tables
	if k.steps == 0 {
		return accept(next, taken{pieces: [2]int{a, b}})
	}
	few := q.m.few[next.k]
	for x := min(a*k.steps, int(next.r[0])/k.step); x >= 0; x-- {
		one := next
		one.r[0] -= int32(x * k.step) // not over r
		if few[one.r[0]] >= noWay {
			continue
		}
		if !q.m.work.spend(1) {
			return false
		}
		for y := min(b*k.steps, int(next.r[1])/k.step); y >= 0; y-- {
			two := one
			two.r[1] -= int32(y * k.step) // not over r
			if !q.m.work.spend(useCost) {
				return false
			}
			if few[two.r[1]] < noWay && accept(two, taken{[2]int{a, b}, [2]int{x, y}}) {
				return true
			}
		}
	}
	return false
}

// recipes gives the best recipes of these contents from n objects, which are the
// fewest: first as many as possible of the kinds named earlier in both together,
// then in the first, then the fullest vessels. One way is known; where the work does not
// last it stays, and the answer is not proven.
func (m *maker) recipes(w [2]int, n int, way []taken) []Recipe {
	if m.loads == 1 {
		if best := m.single(w, n); best != nil {
			return []Recipe{m.recipe(w[0], 0, best, way)}
		}
		return []Recipe{m.recipe(w[0], 0, nil, way)}
	}
	pins := make([]pin, len(m.kinds))
	for k := range pins {
		pins[k] = pin{-1, -1}
	}
	q := newSearch(m)
	q.pinned(pins)
	try := func() bool {
		q.pinned(pins)
		if !q.can(m.start(w, n)) {
			return false
		}
		way = q.way()
		return true
	}
	for _, k := range m.asked {
		now := way[k].pieces[0] + way[k].pieces[1]
		for pins[k].sum = min(m.kinds[k].count, n-q.owed[0]); pins[k].sum > now; pins[k].sum-- {
			if try() {
				break
			}
		}
		q.pinned(pins)
	}
	for _, k := range m.asked {
		now := way[k].pieces[0]
		for pins[k].first = pins[k].sum; pins[k].first > now; pins[k].first-- {
			if try() {
				break
			}
		}
	}
	m.cut = m.cut || m.work.out
	var counts [2][]int
	for _, k := range m.asked {
		counts[0], counts[1] = append(counts[0], pins[k].first), append(counts[1], pins[k].sum-pins[k].first)
	}
	return []Recipe{m.recipe(w[0], 0, counts[0], way), m.recipe(w[1], 1, counts[1], way)}
}

// single gives the counts of one load, kind by kind: the most that leaves the rest
// possible; nil when the work does not last. Its kinds are in the order of the supply.
func (m *maker) single(w [2]int, n int) []int {
	counts := make([]int, len(m.kinds))
	at := []state{m.start(w, n)}
	for k := range m.kinds {
		for counts[k] = min(m.kinds[k].count, int(at[0].n)); ; counts[k]-- {
			var next []state
			seen := map[state]bool{}
			for _, s := range at {
				m.free.each(s, counts[k], func(t state, _ taken) bool {
					if !seen[t] && m.work.spend(stepCost) {
						seen[t] = true
						if m.free.can(t) {
							next = append(next, t)
						}
					}
					return m.work.out
				})
			}
			if m.work.out || counts[k] < 0 {
				m.cut = true
				return nil
			}
			if len(next) > 0 {
				at = next
				break
			}
		}
	}
	return counts
}

// recipe writes one load down from its counts in the order of the supply, its vessels
// as full as can be, the first first; without counts, or where the work does not last,
// from a way that is known.
func (m *maker) recipe(w, load int, counts []int, way []taken) Recipe {
	r := Recipe{Total: m.total(w), Parts: []Portion{}}
	objects := len(m.supply.Objects)
	var fills []int
	if counts != nil {
		rest := w
		for i, n := range counts {
			rest -= n * m.kinds[m.asked[i]].mass
		}
		fills = m.fills(counts, objects, rest, map[[2]int]bool{})
	}
	if fills == nil {
		m.cut = m.cut || m.work.out
		counts = nil
		for i, k := range m.asked {
			counts = append(counts, way[k].pieces[load])
			if i >= objects {
				fills = append(fills, way[k].steps[load])
			}
		}
	}
	for i, n := range counts[:objects] {
		if n > 0 {
			r.Parts = append(r.Parts, Portion{ID: m.supply.Objects[i].ID, Count: n})
		}
	}
	for f, steps := range fills {
		k := m.kinds[m.asked[objects+f]]
		n := counts[objects+f]
		if n == 0 {
			continue
		}
		p := Portion{ID: m.supply.Fillables[f].ID}
		for range n {
			x := min(steps, k.steps)
			steps -= x
			p.Fills = append(p.Fills, measure.Mass(int64(x*k.step)*m.unit))
		}
		r.Parts = append(r.Parts, p)
	}
	return r
}

// fills gives the steps of each fillable kind that add up to the rest, more in the
// kinds named earlier; what was tried once in vain is not tried again. It gives nil
// when the work does not last.
func (m *maker) fills(counts []int, i, rest int, vain map[[2]int]bool) []int {
	if i == len(counts) {
		if rest == 0 {
			return []int{}
		}
		return nil
	}
	kind := m.kinds[m.asked[i]]
	for x := min(counts[i]*kind.steps, rest/max(kind.step, 1)); x >= 0; x-- {
		at := [2]int{i + 1, rest - x*kind.step}
		if vain[at] {
			continue
		}
		if !m.work.spend(stepCost) {
			return nil
		}
		if tail := m.fills(counts, at[0], at[1], vain); tail != nil {
			return append([]int{x}, tail...)
		}
		vain[at] = true
	}
	return nil
}
