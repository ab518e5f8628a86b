package plan

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
)

// onBenches are four stations on benches (shape 12; common practice, no source), by the clock.
func onBenches(t *testing.T, rounds int) circuit.Document {
	lib := moves.Standard()
	s := circuit.Single{Format: circuit.Timed, LeadInMs: 10_000, WorkMs: 45_000, RestMs: 15_000, Rounds: rounds, RoundRestMs: 60_000, Layout: circuit.Stations}
	for n, x := range []struct {
		move string
		hold moves.HoldID
		n    int
	}{{"high-seat-single-leg-squat", "none", 0}, {"one-leg-bench-row", "row-one", 1}, {"foot-bench-bridge-one-leg", "none", 0}, {"bench-alternating-press", "press-two", 2}} {
		v, ok := lib.Get(x.move)
		require.True(t, ok)
		e := circuit.Entry{Variant: v.ID, Hold: x.hold, Load: kit.Nothing, Anchors: []string{"bench"}, Dose: circuit.Times(8), Tempo: v.Tempo, Sides: scheme.BothSides}
		if x.n > 0 {
			e.Load = kit.Load{Kind: kit.Implements, Item: "db8", Count: x.n}
		}
		entries := map[people.Party]circuit.Entry{"middle": e, "reach": e}
		s.Slots = append(s.Slots, circuit.Slot{ID: circuit.SlotID(n + 1), Pattern: v.Pattern, Waves: 1, Entries: entries})
	}
	return s.Document().Clone()
}

func benches(stature ...measure.Length) Context {
	c := known(lanes(0, 4, 4))
	c.Stock = kit.Stock{Implements: []kit.Implement{
		{ID: "bench", Kind: kit.Bench, Height: 300, Highest: 600, Count: 4, Rated: 200_000}, {ID: "db8", Kind: kit.Dumbbell, Mass: 8000, Count: 8},
	}}
	for i := range c.Parties {
		if c.Parties[i].Lane == moves.Reach && len(stature) > 0 {
			c.Parties[i].Stature = stature[0]
		}
	}
	return c
}

// Eight people on four benches are right: two share each. Six dumbbells live at two stations:
// one for each of two who row, two for each of two who press. A round takes four times work
// and change, 45 and 16 s (10 to the next station, 6 down to the floor or up); with seats for
// people of 160 and of 190 cm there is a bench to set, which takes 15 more.
func TestStationsByHand(t *testing.T) {
	c, d := benches(), onBenches(t, 1)
	require.NoError(t, d.Check(c.Library))
	p := Look(d, c)
	require.Len(t, p.Floors, 1)
	f := p.Floors[0]
	for _, s := range p.Slots {
		assert.Empty(t, s.Shorts, s.ID)
		assert.EqualValues(t, 16_000, s.RestMs)
		assert.True(t, s.Grown)
	}
	assert.EqualValues(t, 4*(45_000+16_000), p.Blocks[2].TotalMs)
	assert.EqualValues(t, 4*45_000, p.Blocks[2].WorkMs)
	three := Look(onBenches(t, 3), c)
	assert.EqualValues(t, 3*(4*45_000+3*16_000)+2*60_000+16_000, three.Blocks[2].TotalMs)
	assert.Equal(t, []Lives{{"bench", 4, 4, 4}, {"db8", 6, 6, 8}}, f.Kit)
	people := map[people.Party]int{}
	for n, s := range f.Stations {
		assert.Equal(t, n, s.Groups[0], "who starts there")
		assert.Len(t, f.Groups[n].Who, 2)
		assert.Equal(t, []Share{{"bench", 2, 1}}, s.Shared)
		for _, g := range f.Groups[n].Who {
			people[g.Party]++
		}
		all := slices.Clone(s.Groups)
		slices.Sort(all)
		assert.Equal(t, []int{0, 1, 2, 3}, all, "everybody comes")
	}
	assert.Equal(t, 4, people["middle"])
	assert.Zero(t, f.Changes)
	require.NotEmpty(t, f.Stations[0].Settings)
	// 170 cm: the knee at 484.5 mm, the seat 50 to 20 under it, to 5 mm.
	assert.EqualValues(t, 465, f.Stations[0].Settings[0].HeightMm)

	// Fewer dumbbells than live there are short, with how many; more benches are shared out.
	c.Stock.Implements[1].Count = 5
	assert.Equal(t, []Short{{"db8", 6, 5}}, Look(d, c).Slots[1].Shorts)
	c.Stock.Implements[0].Count = 8
	for _, s := range Look(d, c).Floors[0].Stations {
		assert.Empty(t, s.Shared, "a bench for each")
	}

	// Two builds: each bench is set once a round, between their groups, or twice where the round
	// begins among those of one.
	tall := benches(1900)
	tall.Parties[1].Stature = 1600
	for i := range tall.Parties {
		if tall.Parties[i].Lane == moves.Middle {
			tall.Parties[i].Stature = 1600
		}
	}
	p = Look(d, tall)
	f = p.Floors[0]
	assert.EqualValues(t, 31_000, p.Slots[0].RestMs)
	for _, group := range f.Groups {
		assert.Equal(t, group.Who[0].Lane, group.Who[1].Lane, "those of one build go together")
	}
	for _, s := range f.Stations {
		seen := map[Guest]measure.Length{}
		for _, x := range s.Settings {
			for _, g := range x.For {
				seen[g] = x.HeightMm
			}
		}
		if s.Slot == "s1" { // 160: knee 456, 405 to 435; 190: knee 541.5, 490 to 520
			require.Len(t, seen, 8)
			for g, mm := range seen {
				assert.EqualValues(t, map[moves.Lane]measure.Length{moves.Middle: 435, moves.Reach: 520}[g.Lane], mm)
			}
			assert.LessOrEqual(t, len(s.Settings), 3)
		}
	}
}

// The change is called at the end of each turn, but for the last, where all is put back; of
// partners when the other begins.
func TestChangeIsCalled(t *testing.T) {
	o := Look(onBenches(t, 2), benches()).Order
	require.NoError(t, o.Check())
	var changes []int64
	works := 0
	for _, c := range o.Calls {
		if c.Kind == cue.MoveOn {
			changes = append(changes, c.At)
		}
	}
	for _, x := range o.Stretches {
		if x.Kind == scheme.Work {
			works++
			assert.Equal(t, (works-1)%4+1, x.Turn)
			assert.Equal(t, works < 8, slices.Contains(changes, x.Until), "after turn %d", works)
		}
	}
	assert.Equal(t, 8, works)
	assert.Len(t, changes, 7)

	d := onBenches(t, 1)
	d.Blocks[2].Layout = circuit.Partners
	c := benches()
	p := Look(d, c)
	changes = nil
	for _, x := range p.Order.Calls {
		if x.Kind == cue.MoveOn {
			changes = append(changes, x.At)
		}
	}
	assert.Len(t, changes, 4, "each slot's first partner gives way")
	// Half the kit: four benches and eight dumbbells do for four at once. The partner's 45 s and
	// the change are rest enough; what is left is the way to the next (floor 6, walk none).
	for _, s := range p.Slots {
		assert.Empty(t, s.Shorts, s.ID)
	}
	assert.Len(t, p.Floors[0].Groups, 4)
	assert.EqualValues(t, 4*(2*45_000+5_000)+sumOfRests(p), p.Blocks[2].TotalMs)
	for _, s := range p.Slots[:3] {
		assert.Less(t, s.RestMs, measure.Span(15_000), "the partner's set is rest too")
	}
	d.Blocks[2].Layout = circuit.Stations
	d.Blocks[2].Scheme = &circuit.Scheme{Kind: scheme.Sets, Sets: &circuit.InSets{Sets: 3}}
	assert.ErrorContains(t, d.Check(c.Library), "people rotate in a circuit only")
}

func sumOfRests(p Plan) measure.Span {
	sum := measure.Span(0)
	for _, s := range p.Slots[:len(p.Slots)-1] {
		sum += s.RestMs
	}
	return sum
}

// Eight stations for a hall of twenty-four in three lanes: the plan of a class as it is looked
// at after every edit.
func BenchmarkLookStations(b *testing.B) {
	lib := moves.Standard()
	c := known(lanes(8, 8, 8))
	for i, p := range c.Parties {
		c.Parties[i].Stature = map[moves.Lane]measure.Length{moves.Ground: 1600, moves.Middle: 1700, moves.Reach: 1900}[p.Lane]
	}
	c.Stock = kit.Stock{Implements: []kit.Implement{
		{ID: "bench", Kind: kit.Bench, Height: 300, Highest: 600, Count: 8, Rated: 200_000}, {ID: "kb8", Kind: kit.Kettlebell, Mass: 8000, Count: 8},
	}}
	s := circuit.Single{Format: circuit.Timed, LeadInMs: 10_000, WorkMs: 40_000, RestMs: 15_000, Rounds: 2, RoundRestMs: 60_000, Layout: circuit.Stations}
	for n := range 8 {
		move := []string{"box-squat", "goblet-squat", "push-up", "bench-hip-thrust"}[n%4]
		v, _ := lib.Get(move)
		e := circuit.Entry{Variant: move, Hold: moves.NoLoad, Load: kit.Nothing, Anchors: []string{}, Dose: circuit.Times(10), Tempo: v.Tempo, Sides: scheme.BothSides}
		if len(v.Needs) > 0 {
			e.Anchors = []string{"bench"}
		}
		if move == "goblet-squat" {
			e.Hold, e.Load = "goblet", kit.Load{Kind: kit.Implements, Item: "kb8", Count: 1}
		}
		entries := map[people.Party]circuit.Entry{}
		for _, l := range moves.Lanes {
			entries[people.OfLane(l)] = e
		}
		s.Slots = append(s.Slots, circuit.Slot{ID: circuit.SlotID(n + 1), Pattern: v.Pattern, Waves: 1, Entries: entries})
	}
	d := s.Document().Clone()
	b.ReportAllocs()
	for b.Loop() {
		Look(d, c)
	}
}
