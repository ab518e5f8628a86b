package kit

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

func hold(id moves.HoldID) moves.Hold { h, _ := moves.HoldOf(id); return h }

func variant(id string) *moves.Variant { v, _ := moves.Standard().Get(id); return v }

// A bag of .8 kg that may weigh 3 kg takes 1 to 4 tins of 455 g (.8 + 4 x .455 =
// 2.62); a can of 5.2 kg may be hugged.
func TestOptionsPackContainers(t *testing.T) {
	s := Stock{Objects: []Object{{ID: "tin", Mass: 455, Count: 20, Use: Pack}, {ID: "can", Mass: 5200, Count: 2, Use: Grip}},
		Containers: []Container{{ID: "bag", Mass: 800, Max: 3000, Closed: true}}}
	var totals []measure.Mass
	for _, o := range s.Options(variant("squat"), hold("hugged")) {
		totals = append(totals, o.Total)
	}
	assert.Equal(t, []measure.Mass{1255, 1710, 2165, 2620, 5200}, totals, "the can may be hugged, loose tins may not")
	assert.Empty(t, s.Options(variant("one-arm-press"), hold("rack-one")), "nothing from the cupboard goes overhead")
	two := s.Options(variant("romanian-deadlift"), hold("suitcase-two"))
	require.Len(t, two, 1)
	assert.EqualValues(t, 10400, two[0].Total)
	m, ok := s.Mass(two[0].Load)
	assert.True(t, ok)
	assert.EqualValues(t, 10400, m)
	heavy := Stock{Objects: []Object{{ID: "sand", Mass: 5000, Count: 9, Use: Pack}}, Containers: []Container{{ID: "sack", Mass: 500, Max: 60000, Closed: true}}}
	all := heavy.Options(variant("squat"), hold("hugged"))
	assert.EqualValues(t, 15500, all[len(all)-1].Total, "20.5 kg is over the 20 kg of any bag")
}

// The limits on bags and objects (house and plain caution), each with a bag that is
// just inside and just outside.
func TestLimitsOfObjects(t *testing.T) {
	s := Stock{Objects: []Object{{ID: "towel", Mass: 500, Count: 30, Use: Pack, Traits: []string{Soft}}, {ID: "tin", Mass: 455, Count: 20, Use: Pack},
		{ID: "pan", Mass: 2000, Count: 2, Use: Grip, Traits: []string{Hard}}, {ID: "jug", Mass: 1000, Count: 2, Use: Grip}},
		Containers: []Container{{ID: "bag", Mass: 800, Max: 15_000, Closed: true}}}
	snatch := s.Options(variant("bag-snatch"), hold("bag-grip"))
	require.NotEmpty(t, snatch)
	assert.EqualValues(t, 7800, snatch[len(snatch)-1].Total, "14 towels: 7.8 kg; 15 are over 8 kg")
	for _, o := range snatch {
		for _, p := range o.Load.Parts {
			assert.Equal(t, "towel", p.ID, "soft contents only")
		}
	}
	s.Containers[0].Closed = false
	assert.Empty(t, s.Options(variant("bag-snatch"), hold("bag-grip")), "an open bag is not thrown")
	assert.Empty(t, s.Options(variant("bag-high-pull"), hold("bag-grip")), "nor pulled high")
	assert.Empty(t, s.packed(variant("squat"), hold("hugged")), "an open bag goes no higher than the hip")
	assert.NotEmpty(t, s.packed(variant("floor-bridge"), hold("hips")))
	// Nothing hot, of glass or sharp is a load; loose bricks only where something closes.
	odd := Stock{Objects: []Object{{ID: "pot", Mass: 3000, Count: 1, Use: Grip, Traits: []string{Hot}}, {ID: "demijohn", Mass: 5000, Count: 1, Use: Hug, Traits: []string{Glass}},
		{ID: "saw", Mass: 900, Count: 1, Use: Grip, Traits: []string{Sharp}}, {ID: "brick", Mass: 2500, Count: 4, Use: Pack, Traits: []string{Loose, Hard}}}, Containers: s.Containers}
	for _, v := range moves.Standard().All() {
		for _, id := range v.Holds {
			assert.Empty(t, slices.DeleteFunc(odd.Options(v, hold(id)), func(o Option) bool { return o.Load.Kind == None }), "%s %s", v.ID, id)
		}
	}
	assert.Equal(t, []LeftOut{{"pot", OutUncarried}, {"demijohn", OutUncarried}, {"saw", OutUncarried}, {"brick", OutLoose}},
		odd.LeftOut("bag", false))
	odd.Containers = []Container{{ID: "bag", Mass: 800, Max: 15_000, Closed: true}}
	assert.Equal(t, LeftOut{"brick", OutHard}, odd.LeftOut("bag", true)[3])
	assert.Len(t, odd.LeftOut("bag", false), 3, "a closed bag takes bricks")
	assert.Equal(t, []LeftOut{{"towel", OutNoGrip}, {"tin", OutNoGrip}}, s.LeftOut("", false))
	from, to, ok := FirstStep([]measure.Mass{0, 4000, 4400, 4500, 6000})
	assert.Equal(t, []any{measure.Mass(4000), measure.Mass(4500), true}, []any{from, to, ok}, "4.4 kg is a tenth above")
	_, _, ok = FirstStep([]measure.Mass{0, 4000, 4400})
	assert.False(t, ok)
	assert.NotEmpty(t, odd.packed(variant("squat"), hold("hugged")))
	s.Containers[0].Closed = true
	high := s.Options(variant("bag-high-pull"), hold("bag-grip"))
	assert.LessOrEqual(t, high[len(high)-1].Total, MaxSnatch)
	swing := *variant("two-hand-swing")
	assert.Empty(t, s.Options(&swing, hold("bag-grip")), "no bag in another ballistic move")
	assert.Empty(t, s.Options(variant("squat"), hold("back")), "nothing on the back without straps")
	s.Containers[0].Straps = true
	assert.NotEmpty(t, s.Options(variant("squat"), hold("back")))
	assert.True(t, TooMuchOnBack(variant("romanian-deadlift"), "back", 7001, 70_000))
	assert.False(t, TooMuchOnBack(variant("romanian-deadlift"), "back", 7000, 70_000))
	assert.False(t, TooMuchOnBack(variant("squat"), "back", 15_000, 70_000))
	press := *variant("squat-press")
	for _, o := range s.Options(&press, hold("goblet")) {
		assert.Equal(t, "jug", o.Load.Item, "overhead neither a hard edge nor a bag")
	}
	s.Containers[0].Wear = []string{InHand}
	assert.Empty(t, s.packed(variant("squat"), hold("hugged")))
}

// A band's pull is on the line between two measured ones; outside them nothing is
// known.
func TestBandPull(t *testing.T) {
	b := Implement{Kind: Band, Pulls: []Pull{{1000, 12_000}, {500, 4000}}}
	pull, ok := b.PullAt(750)
	assert.True(t, ok)
	assert.EqualValues(t, 8000, pull)
	_, ok = b.PullAt(1001)
	assert.False(t, ok)
	_, ok = Implement{Kind: Band}.PullAt(700)
	assert.False(t, ok, "unmeasured it serves drills only")
}

// What household things weigh (from memory, sources in data/household.json): a 400 g
// tin 455 g, 1.5 l of water in a bottle 1.53 kg, 5 l in a can 5.2 kg, 2 l of dry rice
// 1.64 kg (1.56 to 1.72), a US gallon of paint 5 kg, a hardback 1 kg.
func TestHouseholdReference(t *testing.T) {
	h := StandardHousehold()
	must := func(w Weight, err error) Weight { require.NoError(t, err); return w }
	assert.EqualValues(t, 455, must(h.FromNet(400, "tin")).Mass)
	water := must(h.FromVolume(1500, "water", "bottle"))
	assert.EqualValues(t, 1530, water.Mass)
	assert.EqualValues(t, 30, water.Empty)
	assert.EqualValues(t, 5200, must(h.FromVolume(5000, "water", "can")).Mass)
	rice := must(h.FromVolume(2000, "rice", "none"))
	assert.Equal(t, []measure.Mass{1640, 1560, 1720}, []measure.Mass{rice.Mass, rice.Low, rice.High})
	assert.EqualValues(t, 4995, must(h.FromVolume(3785, "paint", "none")).Mass, "4996.2, to 5 g")
	assert.EqualValues(t, 1000, must(h.OfKind("hardback")).Mass)
	_, err := h.FromNet(400, "sack")
	assert.Error(t, err)
	_, err = h.FromVolume(400, "mercury", "can")
	assert.Error(t, err)
	_, err = h.FromVolume(400, "milk", "sieve")
	assert.Error(t, err)
	_, err = h.OfKind("anvil")
	assert.Error(t, err)
	for _, d := range append(h.Substances, h.Vessels...) {
		assert.True(t, d.Low <= d.GPerMl && d.GPerMl <= d.High && d.Source != "", d.ID)
	}
}
