package kit

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
)

func kettle(id string, g measure.Mass, n int) Implement {
	return Implement{ID: id, Kind: Kettlebell, Mass: g, Count: n}
}

// The kits of the extremes: one bell, a rucksack of tins, and a full hall.
var kits = map[string]Stock{
	"one 8 kg bell": {Implements: []Implement{kettle("kb8", 8000, 1)}},
	"rucksack only": {Objects: []Object{{ID: "tin", Mass: 455, Count: 30, Use: Pack, Volume: 450}},
		Containers: []Container{{ID: "bag", Mass: 800, Max: 15_000, Volume: 20_000, Closed: true, Straps: true}}},
	"full hall": {Implements: []Implement{kettle("kb4", 4000, 2), kettle("kb8", 8000, 4), kettle("kb16", 16_000, 6), kettle("kb24", 24_000, 4), kettle("kb32", 32_000, 2),
		{ID: "pair", Kind: DumbbellPair, Mass: 10_000, Count: 4}, {ID: "bench", Kind: Bench, Height: 430, Count: 2, Rated: 300_000},
		{ID: "box", Kind: Box, Height: 300, Count: 2, Rated: 100_000}, {ID: "table", Kind: Table, Height: 740, Count: 1, Checked: true}, {ID: "band", Kind: Band, Count: 4}}},
}

// Worked by hand at 70 kg (model, rules of resistance). A 24 kg goblet squat asks
// .5 x (61.46 + 24) = 42.73 of a leg; with 16 kg it is 38.73, 9.4 % less, and 10 with
// two left are worth 1.4, 12 with two left 1.4667: 5 % are still missing, so twelve,
// slower. Split squat with 16 kg: .75 x 77.46 / 1.35 = 43.03, 0.7 % more. A single-leg
// hinge with 8 kg asks (25.13 + 8) / 1.15 = 28.81; two legs with 24 kg .5 x (33.67 +
// 24) = 28.84.
func TestSubstitutesReference(t *testing.T) {
	hall := Stock{Implements: []Implement{kettle("kb16", 16_000, 3), kettle("kb8", 8000, 2)}}
	p := Person{moves.Reach, 70_000, 1700}
	find := func(all []Substitute, id string, way Way) Substitute {
		i := slices.IndexFunc(all, func(x Substitute) bool { return x.Variant.ID == id && x.Way == way })
		require.GreaterOrEqual(t, i, 0, "%s by %s", id, way)
		return all[i]
	}
	squats := Substitutes(hall, moves.Standard(), Wish{p, variant("goblet-squat"), "goblet", 24_000, 10, 2, false}, 40)
	same := find(squats, "goblet-squat", ByImplement)
	assert.EqualValues(t, 16_000, same.Total)
	assert.InDelta(t, -9.36, same.ResistancePct, 0.01)
	assert.InDelta(t, -33.33, same.IronPct, 0.01)
	assert.Equal(t, Mend{Reps: 12, Tempo: "4-0-2-0", Repairs: []Repair{MoreReps, Slower}, LeftPct: same.LeftPct, OK: true}, same.Mend)
	assert.InDelta(t, -5.05, same.LeftPct, 0.01)
	split := find(squats, "split-squat", ByOneSide)
	assert.InDelta(t, 0.71, split.ResistancePct, 0.01)
	assert.Contains(t, split.Gained, "sides")
	assert.Contains(t, split.Lost, "iron")
	two := find(squats, "two-weight-front-squat", ByTwo)
	// Two of 16 kg: 46.73 is 9.4 % more; 1.4 / 1.0936 = 1.2802, and 8 with none left are
	// worth 1.2540, 9 already 1.2929: six with two left.
	assert.EqualValues(t, 32_000, two.Total)
	assert.Equal(t, Mend{Reps: 6, Tempo: "2-0-2-0", Repairs: []Repair{FewerReps}, LeftPct: two.LeftPct, OK: true}, two.Mend)
	hinges := Substitutes(hall, moves.Standard(), Wish{p, variant("romanian-deadlift"), "hung-two", 24_000, 10, 2, false}, 40)
	one := find(hinges, "single-leg-deadlift", ByOneSide)
	assert.EqualValues(t, 8000, one.Total)
	assert.InDelta(t, -0.1, one.ResistancePct, 0.01)
	assert.Equal(t, one.Variant, hinges[0].Variant, "the best here")

	// A bag makes the missing load; its checks come with it.
	flat := kits["rucksack only"]
	rows := Substitutes(flat, moves.Standard(), Wish{p, variant("one-arm-row"), "row-one", 12_000, 10, 2, false}, 40)
	assert.Equal(t, ByPacked, rows[0].Way)
	assert.InDelta(t, 12_000, float64(rows[0].Total), 300)
	assert.Subset(t, rows[0].Check, []string{CheckClosed, CheckWeigh, CheckGrip})
	assert.Empty(t, Substitutes(flat, moves.Standard(), Wish{p, variant("one-arm-press"), "rack-one", 8000, 10, 2, false}, 40),
		"with a rucksack only there is no vertical push")

	// Too heavy: the 16 kg row for a wished 12 is refused by iron (+33 %), the 8 is taken.
	row := find(Substitutes(hall, moves.Standard(), Wish{p, variant("one-arm-row"), "row-one", 12_000, 10, 2, false}, 40), "one-arm-row", ByImplement)
	assert.EqualValues(t, 8000, row.Total)
	// +40 % iron, +4 %: 1.4 / 1.04 = 1.3462; ten are worth 1.3333: eight with two left. At
	// +12 % even eight, the low end, are too hard.
	assert.Equal(t, 8, mend(variant("goblet-squat"), 10, 2, 1.04, 40).Reps)
	assert.False(t, mend(variant("goblet-squat"), 10, 2, 1.12, 40).OK)
}

// Whatever is wished of whatever kit: nothing breaks a limit, nothing rounds up where
// it must not, and the mends go the right way.
func TestSubstitutesKeepTheLimits(t *testing.T) {
	all := moves.Standard().All()
	names := []string{"one 8 kg bell", "rucksack only", "full hall"}
	rapid.Check(t, func(t *rapid.T) {
		v := rapid.SampledFrom(all).Draw(t, "variant")
		w := Usual(v, rapid.SampledFrom(v.Holds).Draw(t, "hold"), Person{rapid.SampledFrom(moves.Lanes).Draw(t, "lane"),
			measure.Mass(rapid.IntRange(45, 160).Draw(t, "kg")) * 1000, measure.Length(rapid.IntRange(140, 205).Draw(t, "cm")) * 10})
		w.FirstTime = rapid.Bool().Draw(t, "first")
		if rapid.Bool().Draw(t, "own") && w.Load > 0 {
			w.Load = measure.Mass(rapid.IntRange(1, 30).Draw(t, "load")) * 1000
		}
		keepsLimits(t, kits[rapid.SampledFrom(names).Draw(t, "kit")], w)
	})
}

func keepsLimits(t require.TestingT, s Stock, w Wish) int {
	out := Substitutes(s, moves.Standard(), w, 1000)
	for _, x := range out {
		name := fmt.Sprintf("%s %s for %s %d g", x.Variant.ID, x.Load.Kind, w.Variant.ID, w.Load)
		total, known := s.Mass(x.Load)
		require.True(t, known, name)
		require.Equal(t, total, x.Total, name)
		for _, u := range x.Load.Uses() {
			require.LessOrEqual(t, u.Count, s.Pieces(u.ID), name)
		}
		h, _ := moves.HoldOf(x.Hold)
		if most := x.Variant.Ceiling(max(h.Count, 1)); most > 0 && x.Variant != w.Variant {
			require.LessOrEqual(t, x.Total, most, name)
		}
		if x.Load.Kind == Made && x.Load.Container != "" {
			require.LessOrEqual(t, x.Total, min(MaxBag, 15_000), name)
			require.False(t, x.Variant.OverFace, name)
		}
		if w.never(x.Variant) {
			require.LessOrEqual(t, x.ResistancePct, 1e-9, name)
		}
		if w.Lane == moves.Ground && x.Variant.OnOneLeg() {
			require.Zero(t, x.Total, name)
		}
		if w.FirstTime && (x.Variant.Ballistic || x.Variant.Overhead) {
			require.LessOrEqual(t, x.Total, firstMost, name)
		}
		heavy := x.ResistancePct > GoodResistancePct
		light := x.ResistancePct < -GoodResistancePct
		if heavy {
			require.Equal(t, []Repair{FewerReps}, x.Repairs, name)
			require.Equal(t, x.Variant.Tempo, x.Tempo, "no tempo on a load that is too heavy: "+name)
			require.LessOrEqual(t, x.LeftPct, 0.0, name)
		}
		if light {
			require.NotContains(t, x.Repairs, FewerReps, name)
		}
		require.GreaterOrEqual(t, x.Reps, min(x.Variant.RepsLow, w.Reps), name)
		require.LessOrEqual(t, x.Reps, max(x.Variant.RepsHigh, w.Reps), name)
		require.Empty(t, x.Variant.Gate, name)
		require.True(t, x.Variant == w.Variant || x.Variant.Pattern == w.Variant.Pattern || x.Variant.Family == w.Variant.Family, name)
	}
	return len(out)
}

// The extremes: light and heavy, short and tall, first-timer, steady and strong, with
// next to nothing, a rucksack and everything: every main move is asked for.
func TestExtremes(t *testing.T) {
	people := map[string]struct {
		lane  moves.Lane
		first bool
	}{"first-timer": {moves.Ground, true}, "steady": {moves.Middle, false}, "strong": {moves.Reach, false}}
	for _, kg := range []measure.Mass{45, 70, 120, 160} {
		for _, cm := range []measure.Length{140, 170, 205} {
			for who, p := range people {
				for name, s := range kits {
					offered := 0
					s := s.Kept()
					for _, v := range moves.Standard().All() {
						if v.Role != moves.Main {
							continue
						}
						w := Usual(v, v.Holds[len(v.Holds)-1], Person{p.lane, kg * 1000, cm * 10})
						w.FirstTime = p.first
						offered += keepsLimits(t, s, w)
						for _, f := range Fits(s, v, w.Person, 5) {
							h, _ := moves.HoldOf(f.Hold)
							wanted := strength.Starting(v, max(h.Count, heaviestHold(v)), p.lane, kg*1000, cm*10).Total
							if h.Count > 0 && (p.lane == moves.Ground || v.NeverUp()) {
								require.LessOrEqual(t, float64(f.Total), wanted+1e-9, "%s %s", who, v.ID)
							}
							if f.ResistancePct > 0 {
								require.Empty(t, f.Mend.Repairs, "%s %s: nothing mends upwards", who, v.ID)
							}
						}
					}
					assert.Positive(t, offered, "%d kg %d cm %s %s", kg, cm, who, name)
				}
			}
		}
	}
}

func BenchmarkSubstitutes(b *testing.B) {
	w := Wish{Person{moves.Reach, 70_000, 1700}, variant("goblet-squat"), "goblet", 24_000, 10, 2, false}
	for name, s := range kits {
		for _, kept := range []bool{false, true} {
			b.Run(fmt.Sprintf("%s/kept=%v", name, kept), func(b *testing.B) {
				if kept {
					s = s.Kept()
				}
				b.ReportAllocs()
				for b.Loop() {
					Substitutes(s, moves.Standard(), w, 20)
				}
			})
		}
	}
}

// What to look at before use, and what is refused: a table that would tip, a box that
// is rated for less.
func TestChecks(t *testing.T) {
	s := Stock{Implements: []Implement{
		{ID: "table", Kind: Table, Height: 740, Count: 1, Checked: true, Table: body.Table{Kind: body.FourLegs, Mass: 40_000, In: 350, Out: 120}},
		{ID: "box", Kind: Box, Height: 300, Count: 1, Rated: 150_000}, {ID: "bench", Kind: Bench, Height: 430, Count: 1},
		{ID: "band", Kind: Band, Count: 1, Pulls: []Pull{{300, 4000}, {900, 13_000}}},
	}, Containers: []Container{{ID: "bag", Mass: 800, Max: 15_000, Straps: true}}, Objects: []Object{{ID: "tin", Mass: 455, Count: 20, Use: Pack}}}
	check := func(id string, bodyMass measure.Mass, hold moves.HoldID, o Option, anchors ...string) ([]string, bool) {
		return Checks(s, bodyMass, variant(id), hold, o, anchors)
	}
	bag := Option{Load{Kind: Made, Container: "bag", Parts: []Portion{{ID: "tin", Count: 20}}}, 9900}
	iron := Option{Load{Kind: Implements, Item: "kb", Count: 1}, 16_000}
	none := Option{Load: Nothing}
	// 40 x 350 = 14 000 against twice .71 x 82 x 120 = 13 973; 83 kg are too many.
	got, fit := check("table-row", 82_000, "none", none, "table")
	assert.True(t, fit)
	assert.Equal(t, []string{CheckTipping}, got)
	_, fit = check("table-row", 83_000, "none", none, "table")
	assert.False(t, fit)
	// (70 + 16) x 1.5 = 129 of 150 rated; (100 + 16) x 1.5 = 174 are too many.
	_, fit = check("step-up", 70_000, "suitcase-one", iron, "box")
	assert.True(t, fit)
	_, fit = check("step-up", 100_000, "suitcase-one", iron, "box")
	assert.False(t, fit)
	got, fit = check("bench-hip-thrust", 70_000, "hips", bag, "bench")
	assert.True(t, fit)
	assert.Subset(t, got, []string{CheckRating, CheckHeight, CheckClosed, CheckPadding, CheckWeigh}, "an unknown rating is asked about")
	got, _ = check("bag-back-squat", 70_000, "back", bag)
	assert.Contains(t, got, CheckStraps)
	got, _ = check("kneeling-lower", 70_000, "none", none)
	assert.Contains(t, got, CheckAnchor)
	got, _ = check("single-heel-drag", 70_000, "none", none)
	assert.Contains(t, got, CheckFloor)
	got, _ = check("one-arm-row", 70_000, "row-one", bag)
	assert.Contains(t, got, CheckGrip)
	holds, ask := body.Support(0, 90_000, 16_000, false)
	assert.Equal(t, []bool{false, true}, []bool{holds, ask}, "unknown and over 100 kg: ask")
}
