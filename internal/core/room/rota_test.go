package room

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
)

func exactly(mm measure.Length) body.Range { return body.Range{From: mm, To: mm} }

// At one station people who need 40, 45, 50 and 50 cm come by so that two changes are needed
// after the first setting (common practice, no source), whoever was named first; each is at
// each of four stations once, and all move on to the next.
func TestRotaByHand(t *testing.T) {
	var guests []Guest
	for _, mm := range []measure.Length{500, 400, 500, 450} {
		none := body.Range{}
		guests = append(guests, Guest{Uses: make([]map[string]int, 4), Fits: []body.Range{exactly(mm), none, none, none}})
	}
	r := Deal(guests, 4, func(string) int { return 0 })
	assert.Equal(t, 2, r.Changes())
	settings := r.Settings(0)
	assert.Len(t, settings, 3)
	assert.Empty(t, r.Settings(1), "any height will do")
	for g := range 4 {
		seen := map[int]bool{}
		for turn := range 4 {
			for s := range 4 {
				if r.GroupAt(s, turn) == g {
					seen[s] = true
					assert.Equal(t, (s+1)%4, slices.IndexFunc([]int{0, 1, 2, 3}, func(x int) bool { return r.GroupAt(x, turn+1) == g }), "on to the next")
				}
			}
		}
		assert.Len(t, seen, 4)
	}
	// Two share a station: the heavy pair of each goes to different groups, so that one pair is
	// enough at a station.
	heavy := Guest{Uses: []map[string]int{{"heavy": 2}, {}}, Fits: make([]body.Range, 2)}
	light := Guest{Uses: []map[string]int{{"light": 2}, {}}, Fits: make([]body.Range, 2)}
	r = Deal([]Guest{heavy, heavy, light, light}, 2, func(string) int { return 2 })
	assert.Equal(t, []map[string]int{{"heavy": 2, "light": 2}, {}}, r.Kit())
	assert.Equal(t, [][]int{{0, 1}, {2}}, Pairs(3))
}

// Whoever comes, with whatever heights in one order, as of one bench by knees, and whatever
// they take up: everybody is in one group, groups are even, each setting suits whom it is for,
// nobody is without one who needs it; and no other dealing has fewer pieces short, or as many
// and fewer changes.
func TestDealIsTheBest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		stations, people := rapid.IntRange(1, 3).Draw(t, "stations"), rapid.IntRange(1, 6).Draw(t, "people")
		wide := measure.Length(rapid.IntRange(0, 6).Draw(t, "wide"))
		set := rapid.SliceOfN(rapid.Bool(), stations, stations).Draw(t, "set")
		have := map[string]int{"a": rapid.IntRange(0, 4).Draw(t, "a"), "b": rapid.IntRange(0, 4).Draw(t, "b")}
		kind := rapid.SliceOfN(rapid.SampledFrom([]string{"a", "b", ""}), 3, 3).Draw(t, "lanes")
		var guests []Guest
		for range people {
			from, lane := measure.Length(rapid.IntRange(30, 45).Draw(t, "from")), rapid.IntRange(0, 2).Draw(t, "lane")
			g := Guest{}
			for s := range stations {
				fit, uses := body.Range{}, map[string]int{}
				if set[s] {
					fit = body.Range{From: from, To: from + wide}
				}
				if kind[lane] != "" {
					uses[kind[lane]] = 1
				}
				g.Fits, g.Uses = append(g.Fits, fit), append(g.Uses, uses)
			}
			guests = append(guests, g)
		}
		stock := func(id string) int { return have[id] }
		r := Deal(guests, stations, stock)
		seen := map[int]int{}
		for _, group := range r.Groups {
			require.LessOrEqual(t, len(group), PerWave(people, stations))
			for _, g := range group {
				seen[g]++
			}
		}
		require.Len(t, seen, people)
		for s := range stations {
			for_ := map[int]bool{}
			for _, x := range r.Settings(s) {
				for _, g := range x.Guests {
					require.True(t, guests[g].Fits[s].Holds(x.Height))
					for_[g] = true
				}
			}
			require.True(t, !set[s] || len(for_) == people)
		}
		best := dealingOf(r, stock).cost()
		other := dealingOf(Rota{make([][]int, stations), guests, r.rank}, stock)
		sizes := make([]int, stations)
		for s := range sizes {
			sizes[s] = (s+1)*people/stations - s*people/stations
		}
		slices.Sort(sizes)
		var deal func(g int)
		deal = func(g int) {
			if g == people {
				var now []int
				for _, group := range other.Groups {
					now = append(now, len(group))
				}
				slices.Sort(now)
				if x := other.cost(); slices.Equal(now, sizes) {
					require.False(t, slices.Compare(x[:], best[:]) < 0, "%v is %v, %v is %v", other.Groups, x, r.Groups, best)
				}
				return
			}
			for s := range stations {
				other.Groups[s] = append(other.Groups[s], g)
				deal(g + 1)
				other.Groups[s] = other.Groups[s][:len(other.Groups[s])-1]
			}
		}
		deal(0)
	})
}
