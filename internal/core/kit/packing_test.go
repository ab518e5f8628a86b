package kit

import (
	"context"
	"maps"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

var quay = Stock{
	Objects: []Object{{ID: "tin", Mass: 455, Count: 20, Use: Pack, Volume: 450}, {ID: "can", Mass: 5200, Empty: 200, Step: 50, Count: 2, Use: Grip, Volume: 5000},
		{ID: "bottle", Mass: 1530, Empty: 30, Step: 50, Count: 6, Use: Grip, Volume: 1500}},
	Containers: []Container{{ID: "bag", Mass: 800, Max: 15_000, Volume: 20_000, Closed: true, Straps: true}},
}

// The load somebody would pack for a mass is within 50 g of it, or exact, of things that
// are there; worked by hand: 12 kg in a bag of 800 g is 11.98 of two cans (400 empty,
// 10 000 full) and a bottle (30, 750), three things, rather than six to the gram.
func TestAbout(t *testing.T) {
	squat, hugged := variant("goblet-squat"), hold("hugged")
	got, ok := quay.About(squat, hugged, 12_000)
	require.True(t, ok)
	assert.Equal(t, Option{Load{Kind: Made, Container: "bag", Parts: []Portion{{ID: "can", Fills: []measure.Mass{5000, 5000}}, {ID: "bottle", Fills: []measure.Mass{750}}}}, 11_980}, got)
	_, ok = quay.About(squat, hugged, 16_000)
	assert.False(t, ok, "the bag ends at 15 kg")
	bell := Stock{Implements: []Implement{{ID: "kb12", Kind: Kettlebell, Mass: 12_000, Count: 1}}, Objects: quay.Objects, Containers: quay.Containers}
	got, ok = bell.About(squat, hold("goblet"), 12_000)
	require.True(t, ok)
	assert.Equal(t, "kb12", got.Load.Item, "what is there as it is comes first")
	rapid.Check(t, func(t *rapid.T) {
		total := measure.Mass(rapid.IntRange(1000, 15_000).Draw(t, "total"))
		o, ok := quay.About(squat, hugged, total)
		if ok {
			mass, known := quay.Mass(o.Load)
			require.True(t, known)
			require.Equal(t, mass, o.Total)
			require.Less(t, abs(mass-total), packStep)
		}
	})
}

// One load in every stretch, of the fewest things: nothing that trying everything finds
// in the stretch takes fewer.
func TestSimpleTakesTheFewest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := drawSupply(t, rapid.SampledFrom([]string{"any", "equal", "coprime"}).Draw(t, "family"))
		if s.Container != nil {
			s.Container.Volume = 1 << 19 // where room binds the fewest is only sought by the table
		}
		to := measure.Mass(rapid.IntRange(500, 5000).Draw(t, "to"))
		step := measure.Mass(rapid.IntRange(20, 400).Draw(t, "step"))
		fewest := map[measure.Mass]int{}
		for _, p := range everything(s) {
			if b := p.total / step; p.total <= to {
				if n, ok := fewest[b]; !ok || p.n() < n {
					fewest[b] = p.n()
				}
			}
		}
		maps.DeleteFunc(fewest, func(_ measure.Mass, n int) bool { return n == 0 }) // the container alone is no load
		m := newMaker(newWork(context.Background(), enough), s, to, 1)
		got := m.simplest(step)
		require.Len(t, got, len(fewest))
		for _, w := range got {
			require.Equal(t, fewest[m.total(w)/step], m.load(w).Objects())
		}
	})
}

// A rule's marks go up, each mass once, with the rise to the next beside it; what the
// move forbids is not on it.
func TestMarks(t *testing.T) {
	for _, h := range Holdings {
		for _, id := range []string{"goblet-squat", "romanian-deadlift", "bag-back-squat", "floor-bridge", "bag-snatch"} {
			v := variant(id)
			marks := quay.Marks(h, v, 70_000)
			for i, m := range marks {
				last := i == len(marks)-1
				assert.Equal(t, last, m.Up == nil, "%s %s", h, id)
				assert.GreaterOrEqual(t, m.Total, leastMark)
				assert.LessOrEqual(t, m.Total, MaxBag)
				if !last {
					assert.Greater(t, marks[i+1].Total, m.Total)
					assert.InDelta(t, 100*(float64(marks[i+1].Total)/float64(m.Total)-1), m.Up.IronPct, 1e-9)
				}
				if h == OnTheBack && v.Pattern == moves.Hinge {
					assert.LessOrEqual(t, m.Total, measure.Mass(7000), "a tenth of the body on the back in a hinge")
				}
			}
		}
	}
	assert.NotEmpty(t, quay.Marks(OnTheBack, variant("romanian-deadlift"), 70_000))
	assert.Empty(t, Stock{}.Marks(AtChest, variant("goblet-squat"), 70_000))
}

// A container goes where its list and its straps allow.
func TestWhereContainersGo(t *testing.T) {
	c := Container{ID: "case"}
	assert.Equal(t, []string{InFront, InHand, OnHips}, c.Places(), "not on the back without straps")
	c.Straps = true
	assert.Equal(t, []string{InFront, InHand, OnHips, OnBack}, c.Places())
	c.Wear = []string{InHand, OnBack}
	assert.True(t, c.Goes(hold("row-one")))
	assert.True(t, c.Goes(hold("bag-grip")))
	assert.True(t, c.Goes(hold("back")))
	assert.False(t, c.Goes(hold("hugged")))
	assert.False(t, c.Goes(hold("hips")))
	assert.Equal(t, []string{CheckClosed, CheckStraps, CheckWeigh}, quay.PackingChecks("bag"))
	assert.Equal(t, []string{CheckGrip, CheckWeigh}, quay.PackingChecks(""))
	assert.Empty(t, quay.WornAt("nothing"))
	assert.Equal(t, []BenchFor{{"b", "raise", 20}}, Stock{Implements: []Implement{{ID: "b", Kind: Bench, Height: 430}}}.BenchesFor(484.5))
	assert.Equal(t, []string{"c"}, Stock{Implements: []Implement{{ID: "b", Kind: Box, Height: 300}, {ID: "c", Kind: Box, Height: 450}}}.BoxesFor(484.5))
}
