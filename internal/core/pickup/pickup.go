// Package pickup decides who takes which implements for a whole class, so that everybody's
// loads are missed by as little as the rack allows.
package pickup

import (
	"cmp"
	"math"
	"math/big"
	"slices"
	"strconv"

	"nimbleanvil/internal/core/assign"
	"nimbleanvil/internal/core/measure"
)

// Implement is a row of equal implements.
type Implement struct {
	ID    string
	Mass  measure.Mass
	Count int
	Kind  string
}

// Target is what somebody should have in hand in a slot: Mass is of one implement, of which
// Hands 2 needs two of the same row. One outside Min to Max, or of another kind, may not be
// used.
type Target struct {
	Slot           int
	Mass, Min, Max measure.Mass
	Weight         float64
	Hands          int
	Kinds          []string
}

// Person is somebody with their targets.
type Person struct {
	ID      string
	Targets []Target
}

// Used is what somebody uses in a slot; nothing where Use is empty.
type Used struct {
	Slot int
	Use  []string
	// Miss is the implement's mass less the target's.
	Miss measure.Mass
}

// Taken is what somebody takes.
type Taken struct {
	Person string
	Take   []string
	Slots  []Used
}

// List is who takes what. Bound is a true lower bound of the cost; Proven says that it is met.
type List struct {
	Taken       []Taken
	Cost, Bound float64
	Proven      bool
}

// MostTaken bounds how many implements one person takes.
const MostTaken = 4

// overTwice: a load above the target is missed twice as much as one below (house).
const overTwice = 2

// Allot gives everybody at most perPerson implements, each in one person's hands for the whole
// class. Of those somebody has taken the best serves each slot: miss = |used - target| /
// target, doubled above it; a slot costs its weight times its miss, at most 1, which is also
// what an empty one costs. The sum is the least. Of equal ones fewer are taken, then the least
// ids by person in their order, nothing first (house). With one each it is an assignment and
// always proven; with more it is a search that ends after a bounded number of steps, with the
// best that it has and a bound by Lagrange multipliers on the counts (Fisher 1981; from memory).
func Allot(implements []Implement, people []Person, perPerson int) List {
	p := problemOf(implements, people, min(perPerson, MostTaken))
	have := make([]int, len(p.rows))
	for i, r := range p.rows {
		have[i] = r.Count
	}
	chosen, bound := assign.Share(p.options, have, assign.Thorough)
	return p.list(chosen, bound)
}

// problem is the whole in whole numbers: costs in units that every one of them is a multiple
// of, or, where there is no such unit that fits, in billionths.
type problem struct {
	rows      []Implement // by id
	people    []Person
	perPerson int
	unit      float64 // of one cost
	// tie is more than all that are ever taken: costs count so many times, and one piece once, so
	// that of equal costs fewer are taken.
	tie     int64
	options [][]assign.Option // pieces ascending by id
}

// mostUnits is how many units one may have: the sums of all costs stay in 63 bits.
const mostUnits = 1e11

func problemOf(implements []Implement, people []Person, perPerson int) *problem {
	p := &problem{rows: slices.Clone(implements), people: people, perPerson: perPerson}
	slices.SortFunc(p.rows, func(a, b Implement) int { return cmp.Compare(a.ID, b.ID) })
	scale := p.scale()
	p.unit = 1 / float64(scale)
	p.tie = int64(len(people)*perPerson + 1)
	for i := range people {
		p.options = append(p.options, p.optionsOf(p.costsOf(people[i], scale)))
	}
	return p
}

// missOf is what a row costs a target, as a fraction of its weight; nil where it may not be
// used or misses by 1 or more.
func missOf(t Target, r Implement) *big.Rat {
	if r.Mass < t.Min || r.Mass > t.Max || !slices.Contains(t.Kinds, r.Kind) {
		return nil
	}
	off := int64(t.Mass - r.Mass)
	if off < 0 {
		off *= -overTwice
	}
	if off >= int64(t.Mass) {
		return nil
	}
	return big.NewRat(off, int64(t.Mass))
}

// weightOf reads a weight as the decimal that it is written as.
func weightOf(w float64) *big.Rat {
	r, _ := new(big.Rat).SetString(strconv.FormatFloat(w, 'g', -1, 64))
	return r
}

// scale is the least number of units in 1 in which every cost is whole; a billion where that
// would be too many.
func (p *problem) scale() int64 {
	scale := big.NewInt(1)
	add := func(r *big.Rat) {
		gcd := new(big.Int).GCD(nil, nil, scale, r.Denom())
		scale.Mul(scale, new(big.Int).Quo(r.Denom(), gcd))
	}
	for _, x := range p.people {
		for _, t := range x.Targets {
			w := weightOf(t.Weight)
			add(w)
			for _, r := range p.rows {
				if m := missOf(t, r); m != nil {
					add(m.Mul(m, w))
				}
				if scale.BitLen() > 64 {
					return 1e9
				}
			}
		}
	}
	if !scale.IsInt64() || scale.Int64() > mostUnits {
		return 1e9
	}
	return scale.Int64()
}

// costs are what each row costs each target of somebody, in units; empty what none costs.
type costs struct {
	of    [][]int64 // by target and row
	hands []int
	empty []int64
}

func (p *problem) costsOf(x Person, scale int64) costs {
	var out costs
	units := func(r *big.Rat) int64 {
		r.Mul(r, new(big.Rat).SetInt64(scale))
		if r.IsInt() {
			return r.Num().Int64()
		}
		f, _ := r.Float64()
		return int64(math.Round(f))
	}
	for _, t := range x.Targets {
		w := weightOf(t.Weight)
		nothing := units(new(big.Rat).Set(w))
		row := make([]int64, len(p.rows))
		for i, r := range p.rows {
			row[i] = nothing
			if m := missOf(t, r); m != nil {
				row[i] = units(m.Mul(m, w))
			}
		}
		out.of, out.hands, out.empty = append(
			out.of,
			row,
		), append(
			out.hands,
			max(1, t.Hands),
		), append(
			out.empty,
			nothing,
		)
	}
	return out
}

// with is what somebody's slots cost with some pieces, by rows.
func (c costs) with(pieces []int) int64 {
	sum := int64(0)
	for t := range c.of {
		best := c.empty[t]
		for i, r := range pieces {
			enough := c.hands[t] == 1 || i > 0 && pieces[i-1] == r
			if enough {
				best = min(best, c.of[t][r])
			}
		}
		sum += best
	}
	return sum
}

// optionsOf lists what somebody may take, nothing first, then by ids: only what costs less than
// it does without any one of its pieces.
func (p *problem) optionsOf(c costs) []assign.Option {
	var useful []int
	for i, r := range p.rows {
		if r.Count > 0 && slices.ContainsFunc(numbers(len(c.of)), func(t int) bool { return c.of[t][i] < c.empty[t] }) {
			useful = append(useful, i)
		}
	}
	var out []assign.Option
	var grow func(pieces []int, from int)
	grow = func(pieces []int, from int) {
		plain := c.with(pieces)
		vain := c.vain(pieces, plain)
		if len(vain) == 0 {
			out = append(out, assign.Option{Pieces: slices.Clone(pieces), Cost: plain*p.tie + int64(len(pieces))})
		}
		// What saves nothing saves nothing beside more, but for one that waits for its twin.
		waits := func(r int) bool { return c.twin(r) && count(pieces, r) == 1 && pieces[len(pieces)-1] == r }
		if len(pieces) == p.perPerson || slices.ContainsFunc(vain, func(r int) bool { return !waits(r) }) {
			return
		}
		for n := from; n < len(useful); n++ {
			r := useful[n]
			if have := count(pieces, r); have < min(p.rows[r].Count, 2) {
				grow(append(slices.Clone(pieces), r), n)
			}
		}
	}
	grow(nil, 0)
	return out
}

// vain lists the rows of some pieces of which one less costs no more.
func (c costs) vain(pieces []int, plain int64) (rows []int) {
	for i := range pieces {
		if i > 0 && pieces[i-1] == pieces[i] {
			continue
		}
		if c.with(slices.Delete(slices.Clone(pieces), i, i+1)) <= plain {
			rows = append(rows, pieces[i])
		}
	}
	return rows
}

// twin tells whether two of a row serve somebody where one does not.
func (c costs) twin(r int) bool {
	return slices.ContainsFunc(
		numbers(len(c.of)),
		func(t int) bool { return c.hands[t] == 2 && c.of[t][r] < c.empty[t] },
	)
}

func count(pieces []int, r int) (n int) {
	for _, x := range pieces {
		if x == r {
			n++
		}
	}
	return n
}

func numbers(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	return out
}

// list writes down who takes what.
func (p *problem) list(chosen []int, bound int64) List {
	out := List{Taken: []Taken{}}
	total := int64(0)
	for i, o := range chosen {
		total += p.options[i][o].Cost
	}
	// A bound of cost and pieces together is one of the cost, since the pieces are fewer than one
	// unit of it.
	out.Cost, out.Bound = float64(total/p.tie)*p.unit, float64(bound/p.tie)*p.unit
	out.Proven = out.Cost-out.Bound < 1e-9
	for i, x := range p.people {
		t := Taken{Person: x.ID, Take: []string{}, Slots: []Used{}}
		pieces := p.options[i][chosen[i]].Pieces
		for _, r := range pieces {
			t.Take = append(t.Take, p.rows[r].ID)
		}
		for _, target := range x.Targets {
			t.Slots = append(t.Slots, p.usedIn(target, pieces))
		}
		out.Taken = append(out.Taken, t)
	}
	return out
}

// usedIn is what serves a slot best of some pieces, the least id of equal ones.
func (p *problem) usedIn(t Target, pieces []int) Used {
	u := Used{Slot: t.Slot, Use: []string{}}
	var best *big.Rat
	for i, r := range pieces {
		if t.Hands == 2 && (i == 0 || pieces[i-1] != r) {
			continue
		}
		if m := missOf(t, p.rows[r]); m != nil && (best == nil || m.Cmp(best) < 0) {
			best = m
			u.Use, u.Miss = []string{p.rows[r].ID}, p.rows[r].Mass-t.Mass
			if t.Hands == 2 {
				u.Use = append(u.Use, p.rows[r].ID)
			}
		}
	}
	return u
}
