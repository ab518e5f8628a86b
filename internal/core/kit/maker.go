package kit

import (
	"cmp"
	"math"
	"slices"

	"nimbleanvil/internal/core/measure"
)

// maker looks for recipes. Masses are in units of their common divisor, the
// container left out. few[k][w] is the least number of objects of the kinds from k
// on that make exactly w, room[k][w] the least volume.
type maker struct {
	supply Supply
	kinds  []kindOf
	base   measure.Mass
	unit   int64
	loads  int
	top    int // the most one load may hold
	volume int32
	held   int64 // everything there is
	binds  bool  // whether the volume can keep something out
	// byHalves looks for two loads half by half, not outwards.
	byHalves bool
	few      [][]uint16
	room     [][]int32
	// Of the kinds from k on, the lightest piece and the most volume to a unit.
	least []int
	thick []float64
	free  *search
	// asked gives where each kind of the supply stands among kinds: two loads are
	// searched with the heaviest first, which leaves the least to guess.
	asked []int
	// tries counts the states that were searched; table is made when they are many.
	tries int
	table *pairTable
	work  *work
	// cut tells that what was answered last is not proven to be the best.
	cut bool
}

// kindOf is a kind in units: a plain piece has no steps.
type kindOf struct {
	mass, step, steps, count int
	volume                   int32
}

const (
	noWay      = 60_000 // of few: more objects than there can be, and 500 more still fit in 16 bits
	noRoom     = 1 << 30
	unlimited  = math.MaxInt32
	mostVolume = 1 << 20 // ml; 500 pieces of it and noRoom still fit in 32 bits
)

func newMaker(w *work, s Supply, most measure.Mass, loads int) *maker {
	room := measure.Volume(mostVolume)
	if s.Container != nil {
		room = min(s.Container.Volume, mostVolume)
	}
	return makerFor(w, s, most, loads, room, room)
}

// makerFor makes a maker whose tables serve containers of the same things, from the
// tightest to the roomiest.
func makerFor(w *work, s Supply, most measure.Mass, loads int, tightest, roomiest measure.Volume) *maker {
	m := &maker{supply: s, loads: loads, volume: int32(roomiest), work: w} // bounded
	if c := s.Container; c != nil {
		m.base = c.Mass
		most = min(most, c.Max)
	}
	for _, o := range s.Objects {
		m.unit = divisor(m.unit, int64(o.Mass))
	}
	for _, f := range s.Fillables {
		m.unit = divisor(divisor(m.unit, int64(f.Empty)), int64(f.Step))
	}
	if m.unit == 0 {
		m.unit = 1 // nothing to make anything of
	}
	m.top = -1
	if most >= m.base {
		m.top = int(int64(most-m.base) / m.unit)
	}
	held := int64(0)
	add := func(mass, step measure.Mass, steps, count int, v measure.Volume) {
		k := kindOf{
			mass:   int(int64(mass) / m.unit),
			step:   int(int64(step) / m.unit),
			steps:  steps,
			volume: int32(min(v, measure.Volume(m.volume)+1)),
		} // bounded
		k.count = min(count, loads*max(m.top, 0)/k.mass) // no more than the loads may hold
		m.kinds = append(m.kinds, k)
		held += int64(v) * int64(k.count)
		m.held += int64(k.most()) * int64(k.count)
	}
	for _, o := range s.Objects {
		add(o.Mass, 0, 0, o.Count, o.Volume)
	}
	for _, f := range s.Fillables {
		add(f.Empty, f.Step, f.steps(), f.Count, f.Volume)
	}
	m.binds = s.Container != nil && held > int64(tightest)
	if !m.binds { // then it keeps nothing out of anything
		for i := range m.kinds {
			m.kinds[i].volume = 0
		}
	}
	m.top = int(min(int64(m.top), m.held)) // tables are as large as what there is
	m.order()
	m.tables()
	m.free = newSearch(m)
	return m
}

// within gives the maker of one load for a container that takes the same things: the
// tables are shared.
func (m *maker) within(s Supply) *maker {
	c := *m
	c.supply, c.base, c.cut = s, s.Container.Mass, false
	c.volume = int32(min(s.Container.Volume, mostVolume)) // bounded
	held := int64(0)
	for _, k := range c.kinds {
		held += int64(k.volume) * int64(k.count)
	}
	c.binds = m.binds && held > int64(c.volume)
	most := min(s.Container.Max, MaxBag)
	if c.top = -1; most >= c.base {
		c.top = int(min(int64(most-c.base)/c.unit, int64(m.top)))
	}
	c.free = newSearch(&c)
	return &c
}

// order puts the heaviest kinds first for two loads and notes where each is.
func (m *maker) order() {
	from := make([]int, len(m.kinds))
	for i := range from {
		from[i] = i
	}
	if m.loads == 2 {
		slices.SortStableFunc(from, func(a, b int) int { return cmp.Compare(m.kinds[b].most(), m.kinds[a].most()) })
	}
	kinds := make([]kindOf, len(from))
	m.asked = make([]int, len(from))
	for at, i := range from {
		kinds[at] = m.kinds[i]
		m.asked[i] = at
	}
	m.kinds = kinds
}

// most is what one piece weighs full.
func (k kindOf) most() int { return k.mass + k.steps*k.step }

func divisor(a, b int64) int64 {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

// tables fills few and room from the last kind to the first.
func (m *maker) tables() {
	span := m.top*m.loads + 1
	if m.top < 0 {
		span = 1
	}
	last := len(m.kinds)
	m.few = make([][]uint16, last+1)
	m.few[last] = blank[uint16](span, noWay)
	if m.binds {
		m.room = make([][]int32, last+1)
		m.room[last] = blank[int32](span, noRoom)
	}
	m.least, m.thick = make([]int, last+1), make([]float64, last+1)
	m.least[last] = math.MaxInt32
	for k := last - 1; k >= 0; k-- {
		kind := m.kinds[k]
		m.few[k] = with(m.few[k+1], kind, 1, noWay, noWay)
		if m.binds {
			m.room[k] = with(
				m.room[k+1],
				kind,
				kind.volume,
				m.volume*int32(m.loads),
				noRoom,
			) // one or two
		}
		m.least[k] = min(m.least[k+1], kind.mass)
		m.thick[k] = max(m.thick[k+1], float64(kind.volume)/float64(kind.mass))
	}
}

func blank[T uint16 | int32](span int, none T) []T {
	a := make([]T, span)
	for i := range a {
		a[i] = none
	}
	a[0] = 0
	return a
}

// with gives the cheapest way to make each mass once a kind is there too, of those
// that cost no more than most. Groups of 1, 2, 4 ... pieces make every count, each
// group taken or not; a group's fill is made the same way.
func with[T uint16 | int32](from []T, k kindOf, cost, most, none T) []T {
	a := append([]T(nil), from...)
	groups(k.count, func(q int) {
		shift := q * k.mass
		if shift >= len(a) {
			return
		}
		if k.steps == 0 {
			take(a, shift, T(q)*cost, most)
			return
		}
		b := make([]T, len(a))
		for i := range b {
			b[i] = none
			if i >= shift && a[i-shift]+T(q)*cost <= most {
				b[i] = a[i-shift] + T(q)*cost
			}
		}
		groups(q*k.steps, func(p int) {
			if p*k.step < len(b) {
				take(b, p*k.step, 0, most)
			}
		})
		for i := range a {
			a[i] = min(a[i], b[i])
		}
	})
	return a
}

// groups splits n into parts from which every number up to n can be added up.
func groups(n int, do func(q int)) {
	for q := 1; n > 0; q *= 2 {
		q = min(q, n)
		do(q)
		n -= q
	}
}

// take lets every mass be made with one more group, once.
func take[T uint16 | int32](a []T, shift int, cost, most T) {
	to, from := a[shift:], a[:len(a)-shift]
	for i := len(to) - 1; i >= 0; i-- {
		if v := from[i] + cost; v < to[i] && v <= most {
			to[i] = v
		}
	}
}

func (m *maker) total(w int) measure.Mass { return m.base + measure.Mass(int64(w)*m.unit) }

// at gives the contents for a total mass; ok is false where no load has it.
func (m *maker) at(total measure.Mass) (w int, ok bool) {
	rest := int64(total - m.base)
	if rest < 0 || rest%m.unit != 0 || rest/m.unit > int64(m.top) {
		return 0, false
	}
	w = int(rest / m.unit)
	return w, m.reach(w)
}

// reach tells whether one load may hold exactly w.
func (m *maker) reach(w int) bool {
	if w == 0 && m.supply.Container == nil {
		return false
	}
	return m.few[0][w] < noWay && (!m.binds || m.room[0][w] <= m.volume)
}

// found is what a search came to. Where it was cut short it is not proven: within is how
// much nearer than the best found the best there is might be.
type found struct {
	loads  []Recipe
	exact  bool
	within measure.Mass
}

// best finds the best loads: side 0 on both sides of a target, -1 and +1 on one, as
// far as an error of most. It gives none where nothing is.
func (m *maker) best(target measure.Mass, side int, most measure.Mass) found {
	if m.top < 0 {
		return found{exact: true}
	}
	most = min(most, max(target, m.total(m.top)-target))
	var f found
	doubt := measure.Mass(-1) // the smallest error at which it is not known whether there are loads
	if m.byHalves {
		e, d, ok := m.nearest(target, side, most)
		if m.work.out {
			doubt = 0
		}
		if ok {
			known := false
			if f.loads, known = m.choose(m.candidates(target, side, e, d)); !known && doubt < 0 {
				doubt = e
			}
		}
	} else {
		f.loads, doubt = m.outwards(target, side, most)
	}
	f.exact = doubt < 0 && !m.cut
	if doubt >= 0 && m.loads == 2 {
		f.loads = nearer(target, f.loads, m.twins(target, side, most))
	}
	if doubt >= 0 && f.loads != nil {
		f.within = max(0, worst(target, f.loads)-doubt)
	}
	return f
}

// outwards tries ever larger errors until there are loads.
func (m *maker) outwards(target measure.Mass, side int, most measure.Mass) (loads []Recipe, doubt measure.Mass) {
	heaviest, doubt := m.heaviest(), measure.Mass(-1)
	for e := measure.Mass(0); e <= most; e++ {
		_, okA := m.at(target + e)
		_, okB := m.at(target - e)
		if !(okA && side >= 0) && !(okB && side <= 0) || m.beyond(target, side, e) {
			continue
		}
		widest := measure.Mass(0)
		if m.loads == 2 {
			switch widest = e; side {
			case 0:
				widest = 2 * e
			case -1: // more apart than this and they are more than there is
				widest = min(widest, measure.Mass(m.held*m.unit)-2*(target-e-m.base), heaviest-(target-e))
			}
		}
		for d := measure.Mass(0); d <= widest; d += measure.Mass(m.unit) {
			got, known := m.choose(m.candidates(target, side, e, d))
			if !known && doubt < 0 {
				doubt = e
			}
			if got != nil || !m.work.spend(1) {
				return got, doubt
			}
		}
	}
	return nil, doubt
}

// twins gives two equal loads, each the best from half of every kind: near enough where
// a search for the best pair goes on for too long.
func (m *maker) twins(target measure.Mass, side int, most measure.Mass) []Recipe {
	s := m.supply
	s.Objects, s.Fillables = slices.Clone(s.Objects), slices.Clone(s.Fillables)
	for i := range s.Objects {
		s.Objects[i].Count /= 2
	}
	for i := range s.Fillables {
		s.Fillables[i].Count /= 2
	}
	one := newMaker(newWork(m.work.ctx, enough/10), s, m.total(m.top), 1).best(target, side, most)
	if one.loads == nil {
		return nil
	}
	return []Recipe{one.loads[0], one.loads[0]}
}

// worst is the largest error of loads.
func worst(target measure.Mass, loads []Recipe) measure.Mass {
	e := measure.Mass(0)
	for _, r := range loads {
		e = max(e, r.Total-target, target-r.Total)
	}
	return e
}

// nearer gives the nearer of two pairs, of equals the first.
func nearer(target measure.Mass, a, b []Recipe) []Recipe {
	if a == nil || b != nil && worst(target, b) < worst(target, a) {
		return b
	}
	return a
}

// heaviest is the most that one load can weigh, the bare container at least.
func (m *maker) heaviest() measure.Mass {
	for w := m.top; w > 0; w-- {
		if m.reach(w) {
			return m.total(w)
		}
	}
	return m.base
}

// contents is what two loads hold, or one; ok is false where no load has such a mass.
type contents struct {
	w  [2]int
	ok bool
}

// candidates are the contents of one load or two with a largest error of e and a
// difference of d: the farther one above the target, or below it.
func (m *maker) candidates(target measure.Mass, side int, e, d measure.Mass) (high, low contents) {
	if side >= 0 {
		high = m.holding(target+e, target+e-d)
	}
	if side < 0 || side == 0 && d < 2*e {
		low = m.holding(target-e+d, target-e)
	}
	return high, low
}

// holding gives the contents of loads of these masses; one load has the first.
func (m *maker) holding(a, b measure.Mass) contents {
	one, ok := m.at(a)
	if !ok || m.loads == 1 {
		return contents{[2]int{one, 0}, ok}
	}
	two, ok := m.at(b)
	w := [2]int{one, two}
	return contents{w, ok && (m.table == nil || m.table.has(w))}
}

// beyond tells whether two loads at this error are more than there is.
func (m *maker) beyond(target measure.Mass, side int, e measure.Mass) bool {
	least := target - e
	if side > 0 {
		least = target
	}
	return m.loads > 1 && 2*int64(least-m.base) > m.held*m.unit
}

// choose takes the possible one of two candidates that are equally near: fewest
// objects, then the smaller total, which is the second's. Known is false where the work
// was not enough to say whether one is possible.
func (m *maker) choose(first, second contents) (loads []Recipe, known bool) {
	var best contents
	var way []taken
	n, proven := 0, true
	known = true
	for _, c := range [2]contents{second, first} {
		if !c.ok {
			continue
		}
		few, how, sure, ok := m.fewest(c.w)
		known = known && ok
		if how != nil && (way == nil || few < n) {
			best, n, way = c, few, how
		}
		proven = proven && sure
	}
	if way == nil {
		return nil, known
	}
	m.cut = m.cut || !proven
	return m.recipes(best.w, n, way), true
}

// share is what part of the work the question whether one pair of contents is possible
// may take.
const share = 16

// fewest gives the least number of objects that make these contents and how; no way
// when nothing does. Sure tells that the number is proven to be the least, known whether
// anything does.
func (m *maker) fewest(w [2]int) (n int, way []taken, sure, known bool) {
	if m.loads == 1 {
		way = m.quick(w[0])
		if way == nil || !m.binds {
			return count(way), way, true, true
		}
	} else if way, known = m.possible(w); way == nil {
		return 0, nil, true, known
	}
	// Fewer are tried from the least there could be upwards: mostly that is the number.
	for n = int(m.few[0][w[0]+w[1]]); n < count(way); n++ {
		ok := false
		if !m.work.part(m.work.left/2, func() { ok = m.free.can(m.start(w, n)) }) {
			return count(way), way, false, true
		}
		if ok {
			return n, m.free.way(), true, true
		}
	}
	return count(way), way, true, true
}

// possible finds any way to make two contents at once. Known is false where the work was
// not enough to find one or to prove that there is none.
func (m *maker) possible(w [2]int) (way []taken, known bool) {
	if m.table != nil && !m.table.has(w) {
		return nil, true
	}
	m.free.hasty = m.table == nil
	ok := false
	known = m.work.part(enough/share, func() { ok = m.free.can(m.start(w, unlimited)) })
	m.free.hasty = false
	if m.free.gaveUp {
		m.free.gaveUp = false
		m.table = m.tableOfPairs()
		return m.possible(w)
	}
	if !ok {
		return nil, known
	}
	return m.free.way(), true
}

// taken is how many pieces of a kind each load takes, and how many steps are filled into
// them.
type taken struct{ pieces, steps [2]int }

// count counts the objects of a way.
func count(way []taken) int {
	n := 0
	for _, t := range way {
		n += t.pieces[0] + t.pieces[1]
	}
	return n
}

// quick finds a way to make contents of one load from the tables alone, nil where there
// is none: of the fewest objects, or, where the volume binds, of the least volume.
func (m *maker) quick(w int) []taken {
	if !m.reach(w) {
		return nil
	}
	way := make([]taken, len(m.kinds))
	for k, kind := range m.kinds {
		way[k], w = m.quickly(k, kind, w)
	}
	return way
}

// quickly gives how much of a kind the cheapest way to make w takes, and what is left.
func (m *maker) quickly(k int, kind kindOf, w int) (taken, int) {
	for n := 0; n <= kind.count && n*kind.mass <= w; n++ {
		for x := 0; x <= n*kind.steps && n*kind.mass+x*kind.step <= w; x++ {
			rest := w - n*kind.mass - x*kind.step
			if m.binds && m.room[k+1][rest] < noRoom &&
				m.room[k+1][rest]+int32(n)*kind.volume == m.room[k][w] || // bounded
				!m.binds && m.few[k+1][rest] < noWay && int(m.few[k+1][rest])+n == int(m.few[k][w]) {
				return taken{[2]int{n, 0}, [2]int{x, 0}}, rest
			}
		}
	}
	return taken{}, w // the tables say that there is a way
}

func (m *maker) start(w [2]int, n int) state {
	return state{
		r: [2]int32{int32(w[0]), int32(w[1])},
		v: [2]int32{m.volume, m.volume},
		n: int32(n),
	} // bounded by the tables
}
