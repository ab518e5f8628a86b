package assign

import (
	"cmp"
	"math"
	"slices"
)

// Option is something that somebody may be given: of some things a piece each, by their
// numbers, a number twice for two pieces, and what it costs.
type Option struct {
	Pieces []int
	Cost   int64
}

// Work is how many options a search looks at, of which a second are some hundred million.
type Work int

// The work of a search that is asked for by itself, of one of many, and of one of very many.
const (
	Thorough Work = 20_000_000
	Brisk    Work = 4_000_000
	little   Work = 500_000
)

// Share gives each of some people one of their options, with no more pieces of a thing than
// there are, so that the sum is the least, and of equal sums the first person by person. Every
// person has an option without pieces. No sharing costs less than bound. Where nobody's options
// take more than one piece it is an assignment, and the bound is met; else it is a branch and
// bound on Lagrange multipliers (Fisher 1981, Management Science 27(1); from memory), which ends
// with the best it has once so much work is done.
func Share(options [][]Option, have []int, work Work) (chosen []int, bound int64) {
	if oneEach(options) {
		chosen = assigned(options, have)
		return chosen, sum(options, chosen)
	}
	return searched(options, have, work)
}

// Near shares out as Share does, with little work: where it is an assignment the sum is the
// least, else the least or near it, and any of equal ones. It begins with prices of pieces, none
// for zeros, and gives such as it ended with: what Bound makes most of.
func Near(options [][]Option, have []int, prices []int64) (chosen []int, ended []int64) {
	if oneEach(options) {
		left := make([]int, len(have))
		for i, n := range have {
			left[i] = min(n, len(options))
		}
		return leastFrom(options, left).chosen()
	}
	s := searchOf(options, have, little)
	ended = make([]int64, len(have))
	copy(ended, prices)
	all := numbers(len(options))
	s.keep(s.dealt(all, ended))
	if low := s.priced(all, ended, 0, nearRounds, true); low < s.worth {
		s.look(all, ended, 0, make([]int, len(options)))
	}
	return s.best, ended
}

// Bound is less than any sharing costs, or as much: what everybody would take if pieces were to
// be had at some prices, less what all that there are come to (Lagrange multipliers, of any size).
func Bound(options [][]Option, have []int, prices []int64) int64 {
	low := int64(0)
	for _, of := range options {
		least := int64(math.MaxInt64)
		for _, x := range of {
			least = min(least, at(x, prices))
		}
		low += least
	}
	for r, n := range have {
		low -= prices[r] * int64(n)
	}
	return low
}

// oneEach tells whether nobody can take more than one piece.
func oneEach(options [][]Option) bool {
	return !slices.ContainsFunc(options, func(of []Option) bool {
		return slices.ContainsFunc(of, func(x Option) bool { return len(x.Pieces) > 1 })
	})
}

func sum(options [][]Option, chosen []int) (n int64) {
	for i, o := range chosen {
		n += options[i][o].Cost
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

// assigned chooses where everybody takes one piece or none.
func assigned(options [][]Option, have []int) []int {
	left := make([]int, len(have))
	for i, n := range have {
		left[i] = min(n, len(options))
	}
	a, first := leastFrom(options, left), 0
	best := a.sum
	chosen := make([]int, 0, len(options))
	// Person by person the first of what they may take with which the rest still comes to the
	// least: that is none whose cost and price are more than the least proves, and all is well
	// with what they were assigned.
	for i, of := range options {
		for o, x := range of {
			if !fits(left, x) || !a.tight(i-first, x) {
				continue
			}
			take(left, x, 1)
			if a.has(i-first, x) {
				best -= x.Cost
				chosen = append(chosen, o)
				break
			}
			if rest := leastFrom(options[i+1:], left); x.Cost+rest.sum == best {
				a, first, best = rest, i+1, rest.sum
				chosen = append(chosen, o)
				break
			}
			take(left, x, -1)
		}
	}
	return chosen
}

// take takes what an option is made of out of what is left, n times.
func take(left []int, x Option, n int) {
	for _, r := range x.Pieces {
		left[r] -= n
	}
}

// assignment is people to pieces, whose things are columns, and to nothings.
type assignment struct {
	options [][]Option
	things  []int // of the columns
	left    []int
	columns []int
	sum     int64
	rows    []int64
	cols    []int64
}

// leastFrom is the assignment that comes to the least with the pieces that are left.
func leastFrom(options [][]Option, left []int) (a assignment) {
	a.options, a.left = options, left
	n := len(options)
	if n == 0 {
		return a
	}
	for r, c := range left {
		for range min(c, n) {
			a.things = append(a.things, r)
		}
	}
	cost := make([][]int64, n)
	by := make([]int64, len(left))
	for i, of := range options {
		nothing := int64(Never)
		for r := range by {
			by[r] = Never
		}
		for _, x := range of {
			if len(x.Pieces) == 0 {
				nothing = min(nothing, x.Cost)
			} else {
				by[x.Pieces[0]] = min(by[x.Pieces[0]], x.Cost)
			}
		}
		row := make([]int64, 0, len(a.things)+n)
		for _, r := range a.things {
			row = append(row, by[r])
		}
		for range n {
			row = append(row, nothing)
		}
		cost[i] = row
	}
	a.columns, a.sum, a.rows, a.cols, _ = Least(cost)
	return a
}

// thingOf is what an option takes a piece of, -1 for nothing.
func thingOf(x Option) int {
	if len(x.Pieces) == 0 {
		return -1
	}
	return x.Pieces[0]
}

// has tells whether somebody was assigned what an option takes.
func (a assignment) has(i int, x Option) bool {
	if c := a.columns[i]; c < len(a.things) {
		return thingOf(x) == a.things[c]
	}
	return len(x.Pieces) == 0
}

// tight tells whether an option of somebody's may be in any assignment that comes to the least:
// the columns of a thing have all the same dual.
func (a assignment) tight(i int, x Option) bool {
	c := len(a.things) // the first that is nothing
	if r := thingOf(x); r >= 0 {
		c = slices.Index(a.things, r)
	}
	return x.Cost-a.cols[c] == a.rows[i]
}

// chosen gives the first option of everybody's that is what they were assigned, and the prices
// of pieces that prove it.
func (a assignment) chosen() (chosen []int, prices []int64) {
	prices = make([]int64, len(a.left))
	for c, r := range a.things {
		prices[r] = max(prices[r], -a.cols[c])
	}
	for i, of := range a.options {
		best := -1
		for o, x := range of {
			if r := thingOf(x); r >= 0 && a.left[r] == 0 { // what is not there is as dear as it must be
				prices[r] = max(prices[r], a.rows[i]-x.Cost)
			}
			if a.has(i, x) && (best < 0 || x.Cost < of[best].Cost) {
				best = o
			}
		}
		chosen = append(chosen, best)
	}
	return chosen, prices
}

// Bounds of the search with several pieces each.
const (
	mostRounds = 300 // of the prices at first
	nearRounds = 60  // of them where little work is to be done
	fewRounds  = 8   // of them at each node
	dealEvery  = 10  // rounds a deal is tried
)

// searched chooses where some take several pieces, and gives a lower bound.
func searched(options [][]Option, have []int, work Work) (chosen []int, bound int64) {
	s := searchOf(options, have, work)
	all := numbers(len(options))
	prices := make([]int64, len(have))
	s.keep(s.dealt(all, prices))
	low := s.priced(all, prices, 0, mostRounds, true)
	if low < s.worth && !s.look(all, prices, 0, make([]int, len(options))) {
		return s.best, low
	}
	// The first of equal ones, person by person.
	s.work, s.first = 0, true
	s.look(all, prices, 0, make([]int, len(options)))
	return s.best, s.worth
}

// search is a branch and bound over what people take.
type search struct {
	options [][]Option
	left    []int
	best    []int
	worth   int64
	// work counts options that were looked at, up to most; rounds those of prices.
	work, most Work
	rounds     int
	// first looks for the first of those that come to the least, and found ends it.
	first, found bool
	// alike numbers the kinds of people, who are alike where they have the same options; of each
	// kind worth are the options that are looked at, in their order.
	alike []int
	kinds []kind
}

// kind are people who have the same options.
type kind struct {
	options []Option
	// worth are the options that are looked at: those that no other one beats, less those that
	// were gone through for somebody of the kind before.
	worth []bool
	// Of what one of them takes at the prices of a round.
	round, which int
	cost         int64
}

// searchOf tells kinds of people and what options are worth a look: none that takes more than
// there is, and none beside one that takes no piece which it does not and costs less, or as much
// and comes before it.
func searchOf(options [][]Option, have []int, most Work) *search {
	s := &search{options: options, left: slices.Clone(have), most: most}
	for _, of := range options {
		same := func(k kind) bool {
			return slices.EqualFunc(k.options, of, func(a, b Option) bool {
				return a.Cost == b.Cost && slices.Equal(a.Pieces, b.Pieces)
			})
		}
		at := slices.IndexFunc(s.kinds, same)
		if at < 0 {
			at = len(s.kinds)
			k := kind{options: of, worth: make([]bool, len(of))}
			its := make([]int, len(have)) // the pieces of one option
			for o, x := range of {
				take(its, x, -1)
				k.worth[o] = fits(have, x)
				for p, y := range of {
					k.worth[o] = k.worth[o] && (p == o || y.Cost > x.Cost || y.Cost == x.Cost && p > o || !fits(its, y))
				}
				take(its, x, 1)
			}
			s.kinds = append(s.kinds, k)
		}
		s.alike = append(s.alike, at)
	}
	return s
}

// keep keeps a choice that is better than the best.
func (s *search) keep(chosen []int) {
	worth := sum(s.options, chosen)
	if s.best == nil || worth < s.worth {
		s.best, s.worth = slices.Clone(chosen), worth
	}
}

// at is what an option costs at the prices of pieces.
func at(x Option, prices []int64) int64 {
	c := x.Cost
	for _, r := range x.Pieces {
		c += prices[r]
	}
	return c
}

// fits tells whether an option is covered by what is left.
func fits(left []int, x Option) bool {
	for i, r := range x.Pieces {
		need := 1
		for _, y := range x.Pieces[:i] {
			if y == r {
				need++
			}
		}
		if left[r] < need {
			return false
		}
	}
	return true
}

// cheapest gives what somebody takes at some prices of what is left, and how much dearer the
// next best is.
func (s *search) cheapest(i int, left []int, prices []int64) (which int, cost, regret int64) {
	one, two := int64(math.MaxInt64), int64(math.MaxInt64)
	k := &s.kinds[s.alike[i]]
	s.work += Work(len(k.options))
	for o, x := range k.options {
		if !k.worth[o] {
			continue
		}
		c := at(x, prices)
		switch {
		case c >= two || !fits(left, x):
		case c < one:
			which, one, two = o, c, one
		default:
			two = c
		}
	}
	if two == math.MaxInt64 {
		return which, one, 0
	}
	return which, one, two - one
}

// dealt gives some people in turn the cheapest that is left at some prices, those with the most
// to lose first, and then exchanges as long as that helps.
func (s *search) dealt(people []int, prices []int64) []int {
	chosen := make([]int, len(s.options))
	left := slices.Clone(s.left)
	regret := make([]int64, len(s.options))
	for _, i := range people {
		_, _, regret[i] = s.cheapest(i, left, prices)
	}
	order := slices.Clone(people)
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(regret[b], regret[a]) })
	for _, i := range order {
		chosen[i], _, _ = s.cheapest(i, left, prices)
		take(left, s.options[i][chosen[i]], 1)
	}
	plain := make([]int64, len(s.left))
	// What was tried for people alike since the last change is not tried again.
	type doing struct{ kind, option int }
	of := func(i int) doing { return doing{s.alike[i], chosen[i]} }
	tried := map[[2]doing]bool{}
	for again := true; again; {
		again = false
		for n, i := range people {
			take(left, s.options[i][chosen[i]], -1)
			if o, c, _ := s.cheapest(i, left, plain); c < s.options[i][chosen[i]].Cost {
				chosen[i], again = o, true
				clear(tried)
			}
			take(left, s.options[i][chosen[i]], 1)
			for _, j := range people[:n] {
				pair := [2]doing{of(i), of(j)}
				if tried[pair] {
					continue
				}
				if tried[pair] = true; s.exchange(chosen, left, plain, i, j) {
					again = true
					clear(tried)
				}
			}
		}
	}
	return chosen
}

// exchange lets one choose before the other anew, where that is better for both together.
func (s *search) exchange(chosen, left []int, plain []int64, i, j int) bool {
	a, b := s.options[i][chosen[i]], s.options[j][chosen[j]]
	take(left, a, -1)
	take(left, b, -1)
	for _, pair := range [][2]int{{i, j}, {j, i}} {
		x, c, _ := s.cheapest(pair[0], left, plain)
		take(left, s.options[pair[0]][x], 1)
		y, d, _ := s.cheapest(pair[1], left, plain)
		if c+d < a.Cost+b.Cost {
			take(left, s.options[pair[1]][y], 1)
			chosen[pair[0]], chosen[pair[1]] = x, y
			return true
		}
		take(left, s.options[pair[0]][x], -1)
	}
	take(left, a, 1)
	take(left, b, 1)
	return false
}

// priced looks for prices of pieces at which what some people choose uses about what there is:
// what they come to then, less what all pieces that are left are worth, is a bound of any
// choice of theirs (a subgradient method). The prices are left at the best; with cost, what
// others come to already, it ends where nothing better is to be had. Deals are tried at the
// prices where that is said.
func (s *search) priced(people []int, prices []int64, cost int64, rounds int, deal bool) int64 {
	bound, best := int64(math.MinInt64), slices.Clone(prices)
	used := make([]int, len(s.left))
	pace := 1.0
	for n := range rounds {
		clear(used)
		low := cost
		s.rounds++
		for _, i := range people {
			k := &s.kinds[s.alike[i]]
			if k.round != s.rounds {
				k.round = s.rounds
				k.which, k.cost, _ = s.cheapest(i, s.left, prices)
			}
			if k.cost == math.MaxInt64 { // all that they may take was gone through
				return k.cost
			}
			low += k.cost
			for _, r := range k.options[k.which].Pieces {
				used[r]++
			}
		}
		over := 0.0
		for r, have := range s.left {
			low -= prices[r] * int64(have)
			if g := used[r] - have; g > 0 || prices[r] > 0 {
				over += float64(g) * float64(g)
			}
		}
		if low > bound {
			bound = low
			copy(best, prices)
		} else {
			pace *= .9
		}
		if deal && n%dealEvery == 0 {
			s.keep(s.dealt(people, prices))
		}
		if over == 0 || bound >= s.worth {
			break
		}
		step := pace * float64(s.worth-low) / over
		for r, have := range s.left {
			prices[r] = max(0, prices[r]+int64(math.Round(step*float64(used[r]-have))))
		}
	}
	copy(prices, best)
	return bound
}

// look goes through what the people who are left take, with what others come to and took;
// false where it gave up.
func (s *search) look(people []int, prices []int64, cost int64, chosen []int) bool {
	if s.work > s.most {
		return false
	}
	if len(people) == 0 {
		if s.found = s.first && cost == s.worth; s.found || cost < s.worth {
			s.worth = cost
			copy(s.best, chosen)
		}
		return true
	}
	mine := slices.Clone(prices)
	low := s.priced(people, mine, cost, fewRounds, false)
	if s.found || low > s.worth || low == s.worth && !s.first {
		return true
	}
	// Who has the most to lose is looked at first; where the first of equal ones is looked for,
	// whoever comes first.
	place := 0
	if !s.first {
		most := int64(-1)
		for n, i := range people {
			if _, _, regret := s.cheapest(i, s.left, mine); regret > most {
				place, most = n, regret
			}
		}
	}
	i := people[place]
	rest := slices.Delete(slices.Clone(people), place, place+1)
	all := numbers(len(s.options[i]))
	if !s.first {
		slices.SortStableFunc(all, func(a, b int) int {
			return cmp.Compare(at(s.options[i][a], mine), at(s.options[i][b], mine))
		})
	}
	k := &s.kinds[s.alike[i]]
	worth := slices.Clone(k.worth)
	defer copy(k.worth, worth)
	for _, o := range all {
		x := k.options[o]
		if !k.worth[o] || !fits(s.left, x) {
			continue
		}
		take(s.left, x, 1)
		chosen[i] = o
		whole := s.look(rest, mine, cost+x.Cost, chosen)
		take(s.left, x, -1)
		if !whole || s.found {
			return whole
		}
		// Somebody alike who took it would be the same the other way round, gone through already.
		k.worth[o] = false
	}
	return true
}
