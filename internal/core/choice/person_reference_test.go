package choice

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/why"
)

// known is a party of whom something is known.
func known(lane moves.Lane, kg measure.Mass, cm measure.Length, records ...people.Record) Party {
	p := party(lane, kg, cm)
	st := people.Facts{Records: records}.On(0, moves.Standard(), p.Stature)
	p.Standing = &st
	return p
}

func yes(s people.Screen, names ...string) people.Record {
	r := people.Record{Screen: &people.Screening{Screen: s, Values: map[string]float64{}}}
	for _, n := range names {
		r.Screen.Values[n] = 1
	}
	return r
}

// passed are the five joint screens, passed, and what else the gate asks (common practice).
func passed(reps int) []people.Record {
	hip := yes(people.Hip, "heels-down", "no-tuck")
	hip.Screen.Values["held"] = 20
	ankle := people.Record{Screen: &people.Screening{Screen: people.Ankle, Values: map[string]float64{"left": 110, "right": 110}}}
	back := people.Record{Screen: &people.Screening{Screen: people.UpperBack, Values: map[string]float64{"left": 45, "right": 50}}}
	return []people.Record{ankle, hip, back, yes(people.Shin, "left", "right", "equal"), yes(people.Shoulder, "thumbs-to-wall", "back-flat"),
		{Learned: &people.Learned{Skill: people.Bracing}},
		{Benchmark: &people.Benchmark{Move: "goblet-squat", LoadG: 40_000, Reps: reps, Reserve: 0}}}
}

// The gate binds what is proposed: it opens for somebody who has passed, in a session whose goal
// calls for a bar, and for nobody else.
func TestGateOpensForWhoPassed(t *testing.T) {
	gated := func(p Party, aim goal.Goal) bool {
		c := at(kits["full hall"])
		c.Aim = goal.Of(aim)
		return slices.Contains(codesOf(For(c, p), bare("barbell-back-squat")), why.FaultGate)
	}
	assert.False(t, gated(known(moves.Reach, 80, 180, passed(25)...), goal.Lift))
	assert.True(t, gated(known(moves.Reach, 80, 180, passed(25)...), goal.General), "possible, not needed")
	assert.True(t, gated(known(moves.Reach, 80, 180, passed(21)...), goal.Lift), "21 in form")
	assert.True(t, gated(known(moves.Reach, 80, 180, passed(25)[1:]...), goal.Lift), "without the ankle")
	assert.True(t, gated(known(moves.Reach, 81, 180, passed(25)...), goal.Lift), "half of 81 kg is 40.5")
	assert.True(t, gated(party(moves.Reach, 80, 180), goal.Lift), "a lane passes none")
}

// A benchmark leads to loads by its index (model, worked by hand with the default equation, 1 +
// n/30 up to ten, and where it is another the same repetitions lead back to the same load): what
// was done for 10 with 2 left is the load for 10 with the usual 2 left. For fewer it is more. A
// body of 80 kg counts .878 of itself in a squat.
func TestBenchmarkLeadsToLoads(t *testing.T) {
	wanted := func(p Party, move string, reps int) (float64, why.Code) {
		w := For(at(kits["full hall"]), p).Wanted(Entry{Variant: variant(move), Hold: "goblet"}, 1, reps)
		return w.Total, w.Why.Code
	}
	tested := people.Record{Benchmark: &people.Benchmark{Move: "goblet-squat", LoadG: 20_000, Reps: 10, Reserve: 2}}
	p := known(moves.Middle, 80, 175, tested)
	total, code := wanted(p, "goblet-squat", 10)
	assert.InDelta(t, 20_000, total, 1)
	assert.Equal(t, why.LoadBenchmark, code)
	fewer, _ := wanted(p, "goblet-squat", 6)
	assert.InDelta(t, 30_505, fewer, 10, "1.4 x (70.24 + 20) = 126.34 kg; by 1.2540 for 8, less the body")
	more, _ := wanted(p, "goblet-squat", 15)
	assert.InDelta(t, 10_400, more, 10, "by 1.5667 for 17")
	_, code = wanted(party(moves.Middle, 80, 175), "goblet-squat", 10)
	assert.NotEqual(t, why.LoadBenchmark, code)
	old := p
	st := people.Facts{Records: []people.Record{tested}}.On(57, moves.Standard(), p.Stature)
	old.Standing = &st
	_, code = wanted(old, "goblet-squat", 10)
	assert.NotEqual(t, why.LoadBenchmark, code, "eight weeks and a day")
}

// A rung is somebody's mark: it and those below are known to them, the cheapest is that one, and
// what is further costs more by the rung (house: 25 below, 30 above).
func TestRungIsTheMark(t *testing.T) {
	p := known(moves.Ground, 70, 170, people.Record{Level: &people.Level{Move: "goblet-squat", Cause: people.ByTest}})
	j := For(at(kits["full hall"]), p)
	for id, want := range map[string]float64{"goblet-squat": 0, "squat": 25, "low-box-squat": 50, "front-squat-one": 30} {
		v, ok := moves.Standard().Get(id)
		if !ok {
			continue
		}
		cost, on := j.rungCost(v)
		assert.True(t, on)
		assert.InDelta(t, want, cost, 1e-9, id)
	}
	_, on := j.rungCost(variant("hip-hinge"))
	assert.False(t, on, "of other ladders the lane's marks hold")
	assert.NotContains(t, codesOf(j, held("goblet-squat", "goblet", "kb8", 1, 8000)), why.FaultLane)
}
