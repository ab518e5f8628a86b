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
}

// At lists who is at a station in a turn, both counted from 0, those with the highest heights
// first.
func (r Rota) At(station, turn int) []int {
	n := len(r.Groups)
	out := slices.Clone(r.Groups[r.GroupAt(station, turn)%n])
	slices.SortStableFunc(out, func(a, b int) int {
		return cmp.Compare(r.guests[b].Fits[station].To, r.guests[a].Fits[station].To)
	})
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
	var suits body.Range
	for turn := range r.Groups {
		for _, g := range r.At(station, turn) {
			fit := r.guests[g].Fits[station]
			if fit == (body.Range{}) {
				continue
			}
			both := body.Range{From: max(suits.From, fit.From), To: min(suits.To, fit.To)}
			if len(out) == 0 || both.From > both.To {
				both = fit
				out = append(out, TurnSetting{Turn: turn})
			}
			suits = both
			last := &out[len(out)-1]
			last.Height, last.Guests = suits.To, append(last.Guests, g)
		}
	}
	return out
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
	sum := 0
	for s := range r.Groups {
		sum += max(0, len(r.Settings(s))-1)
	}
	return sum
}

// lacks is how many pieces the stations need beyond what there is.
func (r Rota) lacks(have func(id string) int) int {
	need := map[string]int{}
	for _, kit := range r.Kit() {
		for id, n := range kit {
			need[id] += n
		}
	}
	sum := 0
	for id, n := range need {
		sum += max(0, n-have(id))
	}
	return sum
}

// mostDealt is how many ways of dealing are looked at to better one.
const mostDealt = 5_000

// Deal deals guests to so many stations in groups as even as can be: with the fewest pieces
// short, then the fewest changes of height. People in the order of their heights are dealt
// first, which needs the fewest changes where everybody's ranges come in one order; in turn
// through the lanes, which spreads what each takes up; then pairs of people and of groups are
// exchanged while that is better.
func Deal(guests []Guest, stations int, have func(id string) int) Rota {
	var best Rota
	found := [2]int{-1, -1}
	tried := 0
	for _, order := range [][]int{byHeight(guests), inTurn(len(guests), stations)} {
		r := Rota{dealt(order, stations), guests}
		cost := r.cost(have)
		for better := true; better && cost != [2]int{} && tried < mostDealt; {
			better = false
			r.exchanges(func(back func()) bool {
				tried++
				if x := r.cost(have); slices.Compare(x[:], cost[:]) < 0 {
					cost, better = x, true
					return true
				}
				back()
				return tried < mostDealt
			})
		}
		if found[0] < 0 || slices.Compare(cost[:], found[:]) < 0 {
			best, found = r, cost
		}
	}
	return best
}

func (r Rota) cost(have func(id string) int) [2]int { return [2]int{r.lacks(have), r.Changes()} }

// exchanges makes every exchange of two guests of different groups, and of two groups, each
// from where the last was put back; try tells whether to go on after what it kept or put back.
func (r Rota) exchanges(try func(back func()) bool) {
	for a := range r.Groups {
		for b := range a {
			groups := func() { r.Groups[a], r.Groups[b] = r.Groups[b], r.Groups[a] }
			groups()
			if !try(groups) {
				return
			}
			for i := range r.Groups[a] {
				for k := range r.Groups[b] {
					if i >= len(r.Groups[a]) || k >= len(r.Groups[b]) {
						continue // groups of other sizes stand there now
					}
					people := func() {
						r.Groups[a][i], r.Groups[b][k] = r.Groups[b][k], r.Groups[a][i]
					}
					people()
					if !try(people) {
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
