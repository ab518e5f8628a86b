package kit

import (
	"nimbleanvil/internal/core/measure"
)

// state is what is still to be made of each load from kind k on, the volume that
// is left in each, and how many objects may be used.
type state struct {
	k uint8
	n int16
	r [2]int32
	v [2]int32
}

// search asks whether a state can be completed, with any counts or, with sums,
// with so many of each kind in both loads together.
type search struct {
	m    *maker
	sums []int
	memo map[state]bool
}

// can tells whether the rest can be made. Tables rule out most states; what was
// answered once is kept.
func (q *search) can(s state) bool {
	if s.r[0] == 0 && s.r[1] == 0 && q.sums == nil {
		return true
	}
	if int(s.k) == len(q.m.kinds) {
		return s.r[0] == 0 && s.r[1] == 0
	}
	if !q.plausible(s) {
		return false
	}
	if q.m.loads == 1 && !q.m.binds && q.sums == nil {
		return true // the table is exact
	}
	s = q.m.plain(s)
	if known, ok := q.memo[s]; ok {
		return known
	}
	got := q.each(s, -1, q.can)
	q.memo[s] = got
	return got
}

func (q *search) plausible(s state) bool {
	m := q.m
	few := m.few[s.k]
	if q.sums == nil && int(few[s.r[0]+s.r[1]]) > int(s.n) {
		return false
	}
	if few[s.r[0]] >= noWay || few[s.r[1]] >= noWay {
		return false
	}
	if !m.binds {
		return true
	}
	return m.room[s.k][s.r[0]] <= s.v[0] && m.room[s.k][s.r[1]] <= s.v[1]
}

// plain makes states that mean the same the same: what is left over of objects and
// room is cut to what the rest could use, and the heavier load comes first.
func (m *maker) plain(s state) state {
	s.n = int16(min(int(s.n), int(s.r[0]+s.r[1])/m.least[s.k])) //nolint:gosec // not over what it was
	for i := range s.v {
		if !m.binds {
			s.v[i] = m.volume
			continue
		}
		s.v[i] = int32(min(float64(s.v[i]), float64(s.r[i])*m.thick[s.k]+1)) //nolint:gosec // not over what it was
	}
	if s.r[1] > s.r[0] || s.r[1] == s.r[0] && s.v[1] > s.v[0] {
		s.r[0], s.r[1], s.v[0], s.v[1] = s.r[1], s.r[0], s.v[1], s.v[0]
	}
	return s
}

// each walks the ways to use the next kind, more first, until one is accepted.
// With together not negative both loads take exactly so many between them.
func (q *search) each(s state, together int, accept func(state) bool) bool {
	k := q.m.kinds[s.k]
	if q.sums != nil {
		together = q.sums[s.k]
	}
	most := k.count
	if q.sums == nil {
		most = min(most, int(s.n))
	}
	if together >= 0 {
		if together > most {
			return false
		}
		most = together
	}
	other := k.fits(s, 1)
	for a := min(most, k.fits(s, 0)); a >= max(0, together-other); a-- {
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
func (q *search) use(s state, a, b int, accept func(state) bool) bool {
	k := q.m.kinds[s.k]
	next := s
	next.k++
	next.n -= int16(a + b) //nolint:gosec // not under 0
	next.v[0] -= int32(a) * k.volume
	next.v[1] -= int32(b) * k.volume
	next.r[0] -= int32(a * k.mass) //nolint:gosec // bounded by the tables
	next.r[1] -= int32(b * k.mass) //nolint:gosec // bounded by the tables
	if k.steps == 0 {
		return accept(next)
	}
	few := q.m.few[next.k]
	for x := min(a*k.steps, int(next.r[0])/k.step); x >= 0; x-- {
		one := next
		one.r[0] -= int32(x * k.step) //nolint:gosec // not over r
		if few[one.r[0]] >= noWay {
			continue
		}
		for y := min(b*k.steps, int(next.r[1])/k.step); y >= 0; y-- {
			two := one
			two.r[1] -= int32(y * k.step) //nolint:gosec // not over r
			if few[two.r[1]] < noWay && accept(two) {
				return true
			}
		}
	}
	return false
}

// recipes gives the best recipes of these contents from n objects, which are the
// fewest: first as many as possible of the kinds named earlier in both together,
// then in the first, then the fullest vessels.
func (m *maker) recipes(w [2]int, n int) []Recipe {
	sums := make([]int, len(m.kinds))
	at := []state{m.start(w, n)}
	for k := range m.kinds {
		for sums[k] = min(m.kinds[k].count, int(at[0].n)); ; sums[k]-- {
			next := m.onwards(at, &m.free, func(s state, accept func(state) bool) { m.free.each(s, sums[k], accept) })
			if len(next) > 0 {
				at = next
				break
			}
		}
	}
	if m.loads == 1 {
		return []Recipe{m.recipe(w[0], sums)}
	}
	split := search{m: m, sums: sums, memo: map[state]bool{}}
	var counts [2][]int
	at = []state{m.start(w, 0)}
	for k, kind := range m.kinds {
		for a := sums[k]; ; a-- {
			b := sums[k] - a
			next := m.onwards(at, &split, func(s state, accept func(state) bool) {
				if a <= kind.fits(s, 0) && b <= kind.fits(s, 1) {
					split.use(s, a, b, accept)
				}
			})
			if len(next) > 0 {
				at = next
				counts[0], counts[1] = append(counts[0], a), append(counts[1], b)
				break
			}
		}
	}
	return []Recipe{m.recipe(w[0], counts[0]), m.recipe(w[1], counts[1])}
}

// onwards gives the states after the next kind from which the rest can be made.
func (m *maker) onwards(from []state, q *search, ways func(s state, accept func(state) bool)) []state {
	var next []state
	seen := map[state]bool{}
	for _, s := range from {
		ways(s, func(t state) bool {
			if !seen[t] {
				seen[t] = true
				if q.can(t) {
					next = append(next, t)
				}
			}
			return false
		})
	}
	return next
}

// recipe writes one load down, its vessels as full as can be, the first first.
func (m *maker) recipe(w int, counts []int) Recipe {
	r := Recipe{Total: m.total(w), Parts: []Portion{}}
	objects := len(m.supply.Objects)
	rest := w
	for k, n := range counts {
		rest -= n * m.kinds[k].mass
		if k < objects && n > 0 {
			r.Parts = append(r.Parts, Portion{ID: m.supply.Objects[k].ID, Count: n})
		}
	}
	for f, steps := range m.fills(counts, objects, rest, map[[2]int]bool{}) {
		k := m.kinds[objects+f]
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
// kinds named earlier; what was tried once in vain is not tried again.
func (m *maker) fills(counts []int, k, rest int, vain map[[2]int]bool) []int {
	if k == len(m.kinds) {
		if rest == 0 {
			return []int{}
		}
		return nil
	}
	kind := m.kinds[k]
	for x := min(counts[k]*kind.steps, rest/max(kind.step, 1)); x >= 0; x-- {
		at := [2]int{k + 1, rest - x*kind.step}
		if vain[at] {
			continue
		}
		if tail := m.fills(counts, at[0], at[1], vain); tail != nil {
			return append([]int{x}, tail...)
		}
		vain[at] = true
	}
	return nil
}
