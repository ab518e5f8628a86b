package kit

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

func hold(id moves.HoldID) moves.Hold { h, _ := moves.HoldOf(id); return h }

// One container packed with one kind by count, worked by hand: a bag of .8 kg
// that may weigh 3 kg takes 1 to 4 tins of 455 g (.8 + 4 x .455 = 2.62).
func TestOptionsPackOneKindByCount(t *testing.T) {
	s := Stock{Objects: []Object{{"tin", 455, 20, Pack}, {"can", 5200, 2, Grip}}, Containers: []Container{{"bag", 800, 3000}}}
	var totals []measure.Mass
	for _, o := range s.Options(hold("hugged")) {
		totals = append(totals, o.Total)
	}
	assert.Equal(t, []measure.Mass{1255, 1710, 2165, 2620, 5200}, totals, "the can may be hugged, loose tins may not")
	for _, o := range s.Options(hold("rack-one")) {
		t.Errorf("nothing from the cupboard goes overhead: %+v", o)
	}
	two := s.Options(hold("suitcase-two"))
	require.Len(t, two, 1)
	assert.EqualValues(t, 10400, two[0].Total)
	m, ok := s.Mass(two[0].Load)
	assert.True(t, ok)
	assert.EqualValues(t, 10400, m)
	heavy := Stock{Objects: []Object{{"sand", 5000, 9, Pack}}, Containers: []Container{{"sack", 500, 60000}}}
	all := heavy.Options(hold("hugged"))
	assert.EqualValues(t, 15500, all[len(all)-1].Total, "20.5 kg is over the 20 kg of any bag")
}

// Nothing rounds up at Ground or overhead; elsewhere up to good enough.
func TestFitsNeverRoundUpWhereItMatters(t *testing.T) {
	s := Stock{Implements: []Implement{{ID: "kb4", Kind: Kettlebell, Mass: 4000, Count: 1}, {ID: "kb8", Kind: Kettlebell, Mass: 8000, Count: 1}, {ID: "kb16", Kind: Kettlebell, Mass: 16000, Count: 1}}}
	get := func(id string) *moves.Variant { v, _ := moves.Standard().Get(id); return v }
	p := Person{moves.Middle, 70000, 1700}
	goblet := Fits(s, get("goblet-squat"), p, 3)
	assert.EqualValues(t, 16000, goblet[0].Total, "15.4 wanted: 16 is 3.9 % over")
	assert.True(t, goblet[0].Good)
	press := Fits(s, get("half-kneeling-press"), p, 3) // 6.93 wanted
	require.Len(t, press, 1)
	assert.EqualValues(t, 4000, press[0].Total)
	assert.Contains(t, press[0].Repairs, Slower)
	ground := Fits(s, get("floor-bridge"), Person{moves.Ground, 70000, 1700}, 3) // 10.5 wanted
	assert.EqualValues(t, 8000, ground[0].Total)
	assert.Empty(t, Fits(s, get("rear-foot-raised-split-squat"), Person{moves.Ground, 70000, 1700}, 3)[0].Load.Item)
}
