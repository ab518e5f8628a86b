package room

import (
	"cmp"
	"slices"
)

// mostInTurns bounds the search for a dealing, in people tried.
const mostInTurns = 200_000

// InTurns deals people to so many waves, by their numbers: everybody uses some pieces of things
// while their wave works. As far as what there is allows nobody lacks anything, and waves are as
// even as they can be. The same people are dealt alike; ok is false where somebody lacks
// something.
func InTurns(uses []map[string]int, waves int, have func(id string) int) (out [][]int, ok bool) {
	out = make([][]int, waves)
	if waves == 1 {
		out[0] = numbers(len(uses))
	}
	d := turns{uses: uses, have: map[string]int{}, wave: make([]int, len(uses)), used: make([]map[string]int, waves)}
	d.most = PerWave(len(uses), waves)
	users := map[string]int{}
	for _, u := range uses {
		for id, n := range u {
			d.have[id] = have(id)
			users[id] += n
		}
	}
	for w := range d.used {
		d.used[w] = map[string]int{}
	}
	d.size = make([]int, waves)
	order := numbers(len(uses))
	tight := func(g int) float64 { // who uses what is short is dealt first
		most := 0.0
		for id, n := range uses[g] {
			most = max(most, float64(users[id]*n)/float64(max(1, d.have[id])))
		}
		return most
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(tight(b), tight(a)) })
	ok = d.deal(order)
	if waves == 1 {
		return out, ok
	}
	if !ok {
		d.plainly(order)
	}
	for g, w := range d.wave {
		out[w] = append(out[w], g)
	}
	return out, ok
}

// turns is people being dealt to waves.
type turns struct {
	uses  []map[string]int
	have  map[string]int
	used  []map[string]int
	wave  []int
	size  []int
	most  int
	tried int
}

func (d *turns) put(g, w, sign int) {
	for id, n := range d.uses[g] {
		d.used[w][id] += sign * n
	}
	d.size[w] += sign
	d.wave[g] = w
}

// lacks counts the pieces that a wave would lack with somebody more.
func (d *turns) lacks(g, w int) int {
	sum := 0
	for id, n := range d.uses[g] {
		sum += max(0, d.used[w][id]+n-d.have[id])
	}
	return sum
}

// emptiest lists the waves, those with the fewest people first.
func (d *turns) emptiest() []int {
	out := numbers(len(d.used))
	slices.SortStableFunc(out, func(a, b int) int { return cmp.Compare(d.size[a], d.size[b]) })
	return out
}

// deal deals the rest of an order so that nobody lacks anything.
func (d *turns) deal(order []int) bool {
	if len(order) == 0 {
		return true
	}
	g := order[0]
	empty := false
	for _, w := range d.emptiest() {
		if d.tried++; d.tried > mostInTurns {
			return false
		}
		if d.size[w] == 0 && empty || d.size[w] >= d.most || d.lacks(g, w) > 0 {
			continue // one empty wave is as good as another
		}
		empty = empty || d.size[w] == 0
		d.put(g, w, 1)
		if d.deal(order[1:]) {
			return true
		}
		d.put(g, w, -1)
	}
	return false
}

// plainly deals everybody to where the least is lacking.
func (d *turns) plainly(order []int) {
	for w := range d.used {
		clear(d.used[w])
		d.size[w] = 0
	}
	for _, g := range order {
		best := -1
		for _, w := range d.emptiest() {
			if d.size[w] < d.most && (best < 0 || d.lacks(g, w) < d.lacks(g, best)) {
				best = w
			}
		}
		d.put(g, best, 1)
	}
}
