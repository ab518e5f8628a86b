package kit

import (
	"context"
	"slices"

	"nimbleanvil/internal/core/measure"
)

// Pieces is a row of equal things that a load can be made of.
type Pieces struct {
	ID     string
	Mass   measure.Mass // of one, 1 g or more
	Volume measure.Volume
	Count  int
}

// Fillable is a row of equal vessels that may be filled in steps: one in use
// weighs Empty plus a whole number of Steps, none too, up to Full. Its volume is
// taken whole however full it is.
type Fillable struct {
	ID                string
	Empty, Full, Step measure.Mass // Empty and Step 1 g or more, Full not under Empty
	Volume            measure.Volume
	Count             int
}

// steps is how often the step fits between empty and full.
func (f Fillable) steps() int { return int((f.Full - f.Empty) / f.Step) }

// Vessel is what a load is packed in: its own mass counts, Max limits the total
// and Volume the contents.
type Vessel struct {
	ID        string
	Mass, Max measure.Mass
	Volume    measure.Volume
}

// Supply is what loads are made of. With a container the bare container is a
// load; without one a load has at least one object.
type Supply struct {
	Objects   []Pieces
	Fillables []Fillable
	Container *Vessel
}

// Portion is how many of a kind a load takes; Fills, for what is filled, are the
// grams in each, the fullest first.
type Portion struct {
	ID    string         `json:"id"`
	Count int            `json:"count,omitempty"`
	Fills []measure.Mass `json:"fillsG,omitempty"`
}

// Recipe is a load and what it is made of, the container left out of Parts.
type Recipe struct {
	Total measure.Mass
	Parts []Portion
}

// Objects counts the things a recipe takes.
func (r Recipe) Objects() int {
	n := 0
	for _, p := range r.Parts {
		n += p.Count + len(p.Fills)
	}
	return n
}

// Making answers a wish for a load. Loads, heavier first, is the best within the
// tolerance; without one, Below and Above are the best at or under the wanted
// mass and at or over it, each nil where there is none.
type Making struct {
	Loads, Below, Above []Recipe
	// Exact tells that it is proven: no other combination is better. Where the work
	// was not enough for that, Within is how much nearer the best there is might be; at 0
	// only the number of objects, or which they are, is not proven.
	Exact  bool
	Within measure.Mass
}

// Feasible tells whether the wish can be met.
func (m Making) Feasible() bool { return m.Loads != nil }

// Make finds the best one or two loads of a wanted total mass each, within a
// tolerance; two come out of one supply, each in a container of its own. Best
// means, in this order: smallest largest absolute error; smallest difference of
// the two; fewest objects; smallest total; more of the kinds named earlier,
// objects before fillables, both loads counted together and then the heavier; and
// of equal recipes the fullest first vessel, then the second. The answer says whether it
// is exact. The work is bounded in steps, about a second's, and ends with the context.
//
// With K kinds and W the wanted mass and the heaviest piece not over it together, in units of
// the masses' common divisor, one load takes K x W steps for each doubling of the
// counts and as many bytes times two, times six where the volume binds; a volume
// that binds adds states of kind, mass and objects. Two loads are found by putting
// halves of the kinds together while there are no more than 3 x 10^7 ways (time in
// proportion to them at worst, memory to their root), and else by a search outwards
// from the target that stops at the first pair there is: soon, where there is that much
// to choose from. A search that goes on for long is helped by a table of all pairs of
// contents, a bit each, made in W x W / 64 steps for every piece.
func (s Supply) Make(ctx context.Context, target, tolerance measure.Mass, loads int) Making {
	return s.make(newWork(ctx, enough), target, tolerance, loads, mostPairs)
}

// make is Make with a limit of its own between its two ways with pairs.
func (s Supply) make(work *work, target, tolerance measure.Mass, loads int, pairs float64) Making {
	most := max(target+tolerance, s.over(target, loads))
	if s.Container != nil {
		most = max(most, s.Container.Mass)
	}
	m := newMaker(work, s, most, loads)
	_, small := m.middle()
	m.byHalves = loads == 2 && small && m.pairs(m.kinds) <= pairs
	best := m.best(target, 0, tolerance)
	if best.loads != nil {
		return Making{Loads: best.loads, Exact: best.exact, Within: best.within}
	}
	// Each side has half of what is left.
	var below, above found
	work.part(work.left/2, func() { below = m.best(target, -1, target) })
	above = m.best(target, 1, measure.MaxLoad)
	return Making{
		Below:  below.loads,
		Above:  above.loads,
		Exact:  best.exact && below.exact && above.exact,
		Within: max(below.within, above.within),
	}
}

// Gap is a stretch of a rule where the next load is more than a tenth heavier.
type Gap struct{ From, To measure.Mass }

// Rule lists the loads from one mass to another, both inclusive: of each stretch
// of the resolution, counted from the beginning, the lightest with its best
// recipe. The cost is one table and a walk over the kinds for each load. Exact tells
// that every recipe is proven to have the fewest objects; the loads are all there
// anyhow.
func (s Supply) Rule(ctx context.Context, from, to, resolution measure.Mass) (out []Recipe, exact bool) {
	m := newMaker(newWork(ctx, enough), s, to, 1)
	last := int64(-1)
	for w := 0; w <= m.top; w++ {
		total := m.total(w)
		bucket := int64(total-from) / int64(resolution)
		if total < from || total > to || bucket == last || !m.reach(w) {
			continue
		}
		last = bucket
		out = append(out, m.load(w))
	}
	return out, !m.cut
}

// load gives the best recipe of one load of these contents, which are possible.
func (m *maker) load(w int) Recipe {
	n, way, sure, _ := m.fewest([2]int{w, 0})
	m.cut = m.cut || !sure
	return m.recipes([2]int{w, 0}, n, way)[0]
}

// over bounds the least loads at or above a target. Such a load either is one piece that
// is too heavy by itself, the lightest there is, or, for two, the second; or it falls
// under the target when any of its pieces or steps is taken away.
func (s Supply) over(target measure.Mass, loads int) measure.Mass {
	base := measure.Mass(0)
	if s.Container != nil {
		base = s.Container.Mass
	}
	light := measure.Mass(0)
	var heavy []measure.Mass
	add := func(alone, piece measure.Mass, v measure.Volume, count int) {
		switch c := s.Container; {
		case base+alone <= target:
			light = max(light, piece)
		case c == nil || base+alone <= c.Max && v <= c.Volume:
			for range min(count, loads) {
				heavy = append(heavy, base+alone)
			}
		}
	}
	for _, o := range s.Objects {
		add(o.Mass, o.Mass, o.Volume, o.Count)
	}
	for _, f := range s.Fillables {
		add(f.Empty, f.Empty, f.Volume, f.Count)
		if f.steps() > 0 && base+f.Empty <= target { // no piece is counted twice
			add(f.Empty+f.Step, f.Step, f.Volume, f.Count)
		}
	}
	most := target + light
	slices.Sort(heavy)
	if n := min(loads, len(heavy)); n > 0 {
		most = max(most, heavy[n-1])
	}
	return most
}

// simplest lists the contents of one load in each stretch of a step up to the most: not
// the lightest, as Rule does, but those of the fewest objects, what somebody would
// rather pack. Nothing packed is none of them.
func (m *maker) simplest(step measure.Mass) []int {
	var out []int
	for w := 0; w <= m.top; {
		bucket := m.total(w) / step
		best := -1
		for ; w <= m.top && m.total(w)/step == bucket; w++ {
			if m.reach(w) && (best < 0 || m.few[0][w] < m.few[0][best]) {
				best = w
			}
		}
		if best > 0 {
			out = append(out, best)
		}
	}
	return out
}

// Gaps finds where neighbouring loads lie more than a tenth apart.
func Gaps(totals []measure.Mass) []Gap {
	out := []Gap{}
	for i := 1; i < len(totals); i++ {
		if a, b := totals[i-1], totals[i]; 10*b > 11*a {
			out = append(out, Gap{a, b})
		}
	}
	return out
}

// FirstStep gives the lightest load of some and the next that is more than a tenth above,
// as Gaps counts; ok is false where there are no two.
func FirstStep(totals []measure.Mass) (from, to measure.Mass, ok bool) {
	for _, t := range totals {
		switch {
		case t <= 0:
		case from == 0:
			from = t
		case 10*t > 11*from:
			return from, t, true
		}
	}
	return 0, 0, false
}
