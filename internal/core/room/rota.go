package room

import (
	"cmp"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
)

// Guest is somebody who goes from station to station.
type Guest struct {
	// Uses are the pieces of things that they take up at each station.
	Uses []map[string]int
	// Fits are the heights that suit them there; a zero range is for any.
	Fits []body.Range
}

// Rota is who goes round the stations with whom: the nth group begins at the nth station, and
// all move on by one after every turn.
type Rota struct {
	Groups [][]int // of guests, by number
	guests []Guest
	rank   []int // of the guests by their heights
}

// At lists who is at a station in a turn, both counted from 0, those with the highest heights
// first.
func (r Rota) At(station, turn int) []int { return r.sorted(r.GroupAt(station, turn)) }

func (r Rota) sorted(group int) []int {
	out := slices.Clone(r.Groups[group])
	slices.SortFunc(out, func(a, b int) int { return r.rank[b] - r.rank[a] })
	return out
}

// GroupAt is the group that is at a station in a turn.
func (r Rota) GroupAt(station, turn int) int {
	n := len(r.Groups)
	return ((station-turn)%n + n) % n
}

// Settings gives the heights of a station in the order of a round, each for as many in turn
// as it suits.
func (r Rota) Settings(station int) []TurnSetting {
	var out []TurnSetting
	r.walk(station, r.allSorted(), func(turn, guest int, suits body.Range, anew bool) {
		if anew {
			out = append(out, TurnSetting{Turn: turn})
		}
		last := &out[len(out)-1]
		last.Height, last.Guests = suits.To, append(last.Guests, guest)
	})
	return out
}

// walk goes through those who come to a station in a round and need a height: of a group those
// first whom the present one suits.
func (r Rota) walk(station int, groups [][]int, see func(turn, guest int, suits body.Range, anew bool)) {
	var suits body.Range
	set := false
	var left []int
	for turn := range groups {
		left = append(left[:0], groups[r.GroupAt(station, turn)]...)
		for len(left) > 0 {
			at := 0
			for n, g := range left {
				if _, ok := within(suits, r.guests[g].Fits[station]); ok && set {
					at = n
					break
				}
			}
			g := left[at]
			left = slices.Delete(left, at, at+1)
			fit := r.guests[g].Fits[station]
			if fit == (body.Range{}) {
				continue
			}
			both, ok := within(suits, fit)
			anew := !set || !ok
			if anew {
				both, set = fit, true
			}
			suits = both
			see(turn, g, suits, anew)
		}
	}
}

func (r Rota) allSorted() [][]int {
	out := make([][]int, len(r.Groups))
	for g := range out {
		out[g] = r.sorted(g)
	}
	return out
}

// within is what two ranges have in common.
func within(a, b body.Range) (body.Range, bool) {
	both := body.Range{From: max(a.From, b.From), To: min(a.To, b.To)}
	return both, both.From <= both.To
}

// TurnSetting is a height that a station has from a turn on, and for whom.
type TurnSetting struct {
	Turn   int
	Height measure.Length
	Guests []int
}

// Kit is how many pieces of everything live at each station: as many as the group needs that
// needs most.
func (r Rota) Kit() []map[string]int {
	out := make([]map[string]int, len(r.Groups))
	for s := range out {
		out[s] = map[string]int{}
		for _, group := range r.Groups {
			one := map[string]int{}
			for _, g := range group {
				for id, n := range r.guests[g].Uses[s] {
					one[id] += n
				}
			}
			for id, n := range one {
				out[s][id] = max(out[s][id], n)
			}
		}
	}
	return out
}

// Changes is how often a height is set anew in a round, at all stations together.
func (r Rota) Changes() int {
	groups, sum := r.allSorted(), 0
	for s := range groups {
		first := true
		r.walk(s, groups, func(_, _ int, _ body.Range, anew bool) {
			if anew && !first {
				sum++
			}
			first = false
		})
	}
	return sum
}

// mostDealt is how many ways of dealing are looked at to better one.
const mostDealt = 500

// Deal deals guests to so many stations in groups as even as can be: with the fewest pieces
// short, then the fewest changes of height. People are dealt in the order of their heights
// and, where that leaves something short, in turn through the lanes too, which spreads what
// each takes up. Guests and groups are exchanged then, two such exchanges at a time where one
// does not do, while that is better and more than the least there could be.
func Deal(guests []Guest, stations int, have func(id string) int) Rota {
	heights := byHeight(guests)
	rank := make([]int, len(guests))
	for n, g := range heights {
		rank[g] = n
	}
	least := [2]int{0, leastChanges(guests, stations)}
	var best Rota
	found := [2]int{-1, -1}
	for _, order := range [][]int{heights, inTurn(len(guests), stations)} {
		if found == least {
			break
		}
		d := dealingOf(Rota{dealt(order, stations), guests, rank}, have)
		cost := d.cost()
		for better := true; better && cost != least; {
			if better = d.better(&cost, 1); !better {
				better = d.better(&cost, 2)
			}
		}
		if found[0] < 0 || slices.Compare(cost[:], found[:]) < 0 {
			best, found = d.Rota, cost
		}
	}
	return best
}

// leastChanges is how often heights are changed in a round at the least: each station as often
// as it has heights that serve all who come, but the first.
func leastChanges(guests []Guest, stations int) int {
	sum := 0
	for s := range stations {
		var sitters []Sitter
		for _, g := range guests {
			if g.Fits[s] != (body.Range{}) {
				sitters = append(sitters, Sitter{Fit: g.Fits[s]})
			}
		}
		sum += max(0, len(BenchOrder(sitters))-1)
	}
	return sum
}

// dealing is a rota that is bettered. What guests take up is kept by numbers of things, since
// it is added up for every way of dealing.
type dealing struct {
	Rota
	have  []int     // pieces of each thing
	uses  [][][]int // of each guest at each station
	tried int
}

func dealingOf(r Rota, have func(id string) int) *dealing {
	d := &dealing{Rota: r, uses: make([][][]int, len(r.guests))}
	number := map[string]int{}
	for _, x := range r.guests {
		for _, uses := range x.Uses {
			for id := range uses {
				if _, ok := number[id]; !ok {
					number[id] = len(number)
					d.have = append(d.have, have(id))
				}
			}
		}
	}
	for g, x := range r.guests {
		for _, uses := range x.Uses {
			one := make([]int, len(number))
			for id, n := range uses {
				one[number[id]] = n
			}
			d.uses[g] = append(d.uses[g], one)
		}
	}
	return d
}

func (d *dealing) cost() [2]int { return [2]int{d.lacks(), d.Changes()} }

// lacks is how many pieces the stations need beyond what there is.
func (d *dealing) lacks() int {
	need, one, most := make([]int, len(d.have)), make([]int, len(d.have)), make([]int, len(d.have))
	for s := range d.Groups {
		clear(most)
		for _, group := range d.Groups {
			clear(one)
			for _, g := range group {
				for i, n := range d.uses[g][s] {
					one[i] += n
				}
			}
			for i, n := range one {
				most[i] = max(most[i], n)
			}
		}
		for i, n := range most {
			need[i] += n
		}
	}
	sum := 0
	for i, n := range need {
		sum += max(0, n-d.have[i])
	}
	return sum
}

// better makes the first exchanges found, so many at a time, that cost less; false where none
// do, or enough were looked at.
func (d *dealing) better(cost *[2]int, deep int) bool {
	found := false
	d.exchanges(func(exchange func()) bool {
		exchange()
		d.tried++
		if x := d.cost(); slices.Compare(x[:], cost[:]) < 0 {
			*cost, found = x, true
			return false
		}
		if deep > 1 && d.tried < mostDealt && d.better(cost, deep-1) {
			found = true
			return false
		}
		exchange() // and back
		return d.tried < mostDealt
	})
	return found
}

// exchanges offers every exchange of two groups, and of two guests of different ones; made
// twice an exchange is undone. It ends where try says so.
func (d *dealing) exchanges(try func(exchange func()) bool) {
	for a := range d.Groups {
		for b := range a {
			if !try(func() { d.Groups[a], d.Groups[b] = d.Groups[b], d.Groups[a] }) {
				return
			}
			for i := range d.Groups[a] {
				for k := range d.Groups[b] {
					if !try(func() { d.Groups[a][i], d.Groups[b][k] = d.Groups[b][k], d.Groups[a][i] }) {
						return
					}
				}
			}
		}
	}
}

// dealt gives stations groups of people as they come, as even as can be.
func dealt(order []int, stations int) [][]int {
	out := make([][]int, stations)
	for s := range out {
		out[s] = slices.Clone(order[s*len(order)/stations : (s+1)*len(order)/stations])
	}
	return out
}

// byHeight orders guests by the heights that suit them, station by station.
func byHeight(guests []Guest) []int {
	order := numbers(len(guests))
	slices.SortStableFunc(order, func(a, b int) int {
		return slices.CompareFunc(guests[a].Fits, guests[b].Fits, func(x, y body.Range) int {
			return cmp.Or(cmp.Compare(x.To, y.To), cmp.Compare(x.From, y.From))
		})
	})
	return order
}

// inTurn orders people so that dealing them as they come gives neighbours to different
// groups.
func inTurn(people, stations int) []int {
	var out []int
	for s := range stations {
		for g := s; g < people; g += stations {
			out = append(out, g)
		}
	}
	return out
}

func numbers(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	return out
}

// Pairs deals people two by two as they come; the last stands alone where there is an odd
// one.
func Pairs(n int) [][]int {
	var out [][]int
	for i := 0; i < n; i += 2 {
		out = append(out, numbers(n)[i:min(i+2, n)])
	}
	return out
}
