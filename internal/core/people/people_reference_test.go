package people

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

// The 30-second chair stand: below average are fewer than (published: CDC STEADI, 30-Second
// Chair Stand, after Rikli & Jones 1999; from memory), men and women by age.
func TestChairStandReference(t *testing.T) {
	for _, row := range []struct{ from, to, men, women int }{
		{60, 64, 14, 12}, {65, 69, 12, 11}, {70, 74, 12, 10}, {75, 79, 11, 10}, {80, 84, 10, 9}, {85, 89, 8, 8}, {90, 94, 7, 4},
	} {
		for age := row.from; age <= row.to; age++ {
			for norm, least := range map[int]int{NormMen: row.men, NormWomen: row.women} {
				got, ok := ChairStandNorm(age, norm)
				require.True(t, ok)
				assert.Equal(t, least, got, "%d, %d", age, norm)
				stands := func(n, hands int) Outcome {
					return Screening{ChairStand, map[string]float64{"stands": float64(n), "hands-helped": float64(hands), "age": float64(age), "norm": float64(norm)}, nil}.Judge(1700)
				}
				assert.True(t, stands(least, 0).Passed)
				assert.False(t, stands(least-1, 0).Passed)
				assert.False(t, stands(30, 1).Passed, "hands that help make it none")
			}
		}
	}
	for _, age := range []int{0, 5, 59, 95, 110} {
		_, ok := ChairStandNorm(age, NormMen)
		assert.False(t, ok, "there is no norm at %d", age)
	}
	_, ok := ChairStandNorm(70, 0)
	assert.False(t, ok, "nor where nobody says whose")
	assert.True(t, Screening{ChairStand, map[string]float64{"stands": 3, "hands-helped": 0}, nil}.Judge(1700).Passed, "without a norm nothing falls short")
}

// The ankle: knee to wall at 5.9 % of stature, 10 cm at 170 cm (house), and the shin's angle by
// the model asin((d + .114 H) / (.246 H)), worked by hand: d 10 cm, H 170 cm: 29.38 / 41.82 =
// .7025, 44.6 degrees; d 0: 19.38 / 41.82 = .4634, 27.6; d 7.5 cm, H 158 cm: 25.512 / 38.868 =
// .6564, 41.0.
func TestAnkleReference(t *testing.T) {
	assert.InDelta(t, 44.6, body.ShinAngle(100, 1700), .06)
	assert.InDelta(t, 27.6, body.ShinAngle(0, 1700), .06)
	assert.InDelta(t, 41.0, body.ShinAngle(75, 1580), .06)
	assert.EqualValues(t, 100, AnkleNorm(1700))
	assert.EqualValues(t, 93, AnkleNorm(1580))
	ankle := func(left, right float64, h measure.Length) Outcome {
		return Screening{Ankle, map[string]float64{"left": left, "right": right}, nil}.Judge(h)
	}
	assert.True(t, ankle(100, 100, 1700).Passed)
	assert.False(t, ankle(99, 130, 1700).Passed, "the shorter side counts")
	assert.False(t, ankle(100, 120, 1700).Uneven)
	assert.True(t, ankle(100, 121, 1700).Uneven, "over 2 cm apart")
	assert.True(t, ankle(95, 95, 1580).Passed, "by stature")
}

// The other screens at their thresholds (house), each with what it spares.
func TestScreensAtTheirThresholds(t *testing.T) {
	for _, c := range []struct {
		screen Screen
		values map[string]float64
		passed bool
		limits []moves.LimitID
	}{
		{Hip, map[string]float64{"held": 20, "heels-down": 1, "no-tuck": 1}, true, nil},
		{Hip, map[string]float64{"held": 19, "heels-down": 1, "no-tuck": 1}, false, []moves.LimitID{"hip-mild"}},
		{Hip, map[string]float64{"held": 60, "heels-down": 0, "no-tuck": 1}, false, []moves.LimitID{"hip-mild"}},
		{Hip, map[string]float64{"held": 60, "heels-down": 1, "no-tuck": 0}, false, []moves.LimitID{"hip-mild"}},
		{UpperBack, map[string]float64{"left": 45, "right": 45}, true, nil},
		{UpperBack, map[string]float64{"left": 70, "right": 44}, false, []moves.LimitID{"no-loaded-twist"}},
		{Shoulder, map[string]float64{"thumbs-to-wall": 1, "back-flat": 1}, true, nil},
		{Shoulder, map[string]float64{"thumbs-to-wall": 1, "back-flat": 0}, false, []moves.LimitID{"no-overhead"}},
		{Shin, map[string]float64{"left": 1, "right": 1, "equal": 1}, true, nil},
		{Shin, map[string]float64{"left": 1, "right": 1, "equal": 0}, false, []moves.LimitID{"no-impact"}},
		{Balance, map[string]float64{"left": 20, "right": 20}, true, nil},
		{Balance, map[string]float64{"left": 19, "right": 60}, true, []moves.LimitID{"no-loaded-one-leg"}},
		{Balance, map[string]float64{"left": 10, "right": 9}, false, []moves.LimitID{"no-balance-risk", "no-loaded-one-leg"}},
	} {
		s := Screening{c.screen, c.values, nil}
		require.Empty(t, s.Check())
		o := s.Judge(1700)
		assert.Equal(t, c.passed, o.Passed, "%+v", c)
		assert.ElementsMatch(t, c.limits, o.Limits, "%+v", c)
		assert.Equal(t, !c.passed, len(o.Prep) > 0, "what falls short is made ready")
	}
}

// What is done again and passed spares nothing any more, whatever was between; a limit that
// was typed stays until its day.
func TestRetested(t *testing.T) {
	short := Record{Day: 10, Screen: &Screening{Shoulder, map[string]float64{"thumbs-to-wall": 0, "back-flat": 1}, nil}}
	passed := Record{Day: 40, Screen: &Screening{Shoulder, map[string]float64{"thumbs-to-wall": 1, "back-flat": 1}, nil}}
	typed := Record{Day: 5, Limit: &Limit{Limit: "knee-mild", Until: 30}}
	f := Facts{Records: []Record{typed, short, passed}}
	for day, want := range map[int][]moves.LimitID{
		4: {"knee-mild"}, 9: {"knee-mild"}, 10: {"knee-mild", "no-overhead"}, 30: {"knee-mild", "no-overhead"}, 31: {"no-overhead"}, 39: {"no-overhead"}, 40: nil, 400: nil,
	} {
		assert.Equal(t, want, f.On(day, moves.Standard(), 1700).Plain(), "day %d", day)
	}
}

// Rungs are the newest of each ladder; a benchmark is old after eight weeks (house).
func TestStanding(t *testing.T) {
	lib := moves.Standard()
	f := Facts{Records: []Record{
		{Day: 1, Level: &Level{"box-squat", ByHand}}, {Day: 5, Level: &Level{"hip-hinge", ByTest}}, {Day: 9, Level: &Level{"goblet-squat", ByTest}},
		{Day: 3, Benchmark: &Benchmark{Move: "goblet-squat", LoadG: 16000, Reps: 10, Reserve: 2}},
	}}
	st := f.On(9, lib, 1700)
	squat, _ := lib.Get("squat")
	rung, ok := st.On(squat)
	require.True(t, ok)
	assert.Equal(t, Rung{"goblet-squat", squat.Ladder, 5, 9, ByTest}, rung)
	assert.Len(t, st.Rungs, 2)
	assert.Len(t, f.On(3+56, lib, 1700).Benchmarks, 1)
	assert.Empty(t, f.On(3+57, lib, 1700).Benchmarks, "eight weeks and a day")
	assert.Empty(t, f.On(0, lib, 1700).Rungs, "not yet")
}

// The gate to a bar on the back (common practice): 25 in form with half of body mass, the five
// joint screens, bracing, and a goal that calls for it. 25 of which four had the knees falling
// in are 21; two weights of the same total count; over 40 kg needed, 25 at 40 kg and five slow
// ones do (house); a kit whose heaviest is under half cannot test it.
func TestGateTable(t *testing.T) {
	full := Attempt{Body: 80_000, Load: 40_000, FormReps: 25, Heaviest: 48_000, Screens: JointScreens, Bracing: true, Goal: true}
	with := func(change func(*Attempt)) Attempt {
		a := full
		change(&a)
		return a
	}
	for _, c := range []struct {
		name    string
		a       Attempt
		want    Result
		missing []string
	}{
		{"all of it", full, Passed, []string{}},
		{"no goal calls for it", with(func(a *Attempt) { a.Goal = false }), PossibleNotNeeded, []string{}},
		{"21 in form", with(func(a *Attempt) { a.FormReps = 21 }), NotYet, []string{"reps"}},
		{"a gram under half", with(func(a *Attempt) { a.Load = 39_999 }), NotYet, []string{"load"}},
		{"without bracing", with(func(a *Attempt) { a.Bracing = false }), NotYet, []string{"bracing"}},
		{"two screens", with(func(a *Attempt) { a.Screens = []Screen{Hip, Shoulder} }), NotYet, []string{"ankle", "shin", "upper-back"}},
		{"a light kit", with(func(a *Attempt) { a.Load, a.Heaviest = 32_000, 32_000 }), NotTestable, []string{"load"}},
		{"100 kg, 40 kg and five slow", with(func(a *Attempt) { a.Body, a.Load, a.Heaviest, a.SlowFive = 100_000, 40_000, 40_000, true }), Passed, []string{}},
		{"100 kg, 40 kg alone", with(func(a *Attempt) { a.Body, a.Load, a.Heaviest = 100_000, 40_000, 50_000 }), NotYet, []string{"load"}},
		{"70 kg, five slow with less than half", with(func(a *Attempt) { a.Body, a.Load, a.SlowFive = 70_000, 32_000, true }), NotYet, []string{"load"}},
	} {
		assert.Equal(t, c.want, Gate(c.a), c.name)
		assert.Equal(t, c.missing, c.a.Missing(), c.name)
	}
	// Of several sets the one that comes nearest counts.
	st := Standing{Passed: JointScreens, Learned: []Skill{Bracing}}
	a := st.Attempt(80_000, 48_000, []Tried{{24_000, 30}, {40_000, 20}, {40_000, 25}, {44_000, 12}}, true)
	assert.Equal(t, Passed, Gate(a))
	assert.Equal(t, []any{measure.Mass(40_000), 25}, []any{a.Load, a.FormReps})
}

func answered(day int, yes ...Question) HealthRecord {
	return HealthRecord{Day: day, Answers: &Answers{Version: QuestionsVersion, Yes: yes}}
}

func cleared(day int, keeps ...moves.LimitID) HealthRecord {
	return HealthRecord{Day: day, Clearance: &Clearance{By: Doctor, Keeps: keeps}}
}

// Who is out, at Ground, and spared what, by what was answered and who cleared them (follows
// ACSM pre-participation screening, Riebe et al. 2015, from memory; how answers follow one
// another is the house's, on the safe side).
func TestHealthTable(t *testing.T) {
	pregnant := []moves.LimitID{"no-lying-on-back", "no-lying-on-front", "no-breath-holding", "no-balance-risk"}
	for _, c := range []struct {
		name   string
		all    []HealthRecord
		out    bool
		ground bool
		limits []moves.LimitID
	}{
		{"never asked", nil, false, false, nil},
		{"no to all", []HealthRecord{answered(1)}, false, false, nil},
		{"a symptom", []HealthRecord{answered(1, ChestPain)}, true, true, nil},
		{"a symptom that is denied later", []HealthRecord{answered(1, Fainting), answered(9)}, true, true, nil},
		{"cleared", []HealthRecord{answered(1, Surgery), cleared(9)}, false, false, nil},
		{"cleared, and again a symptom", []HealthRecord{answered(1, Breathless), cleared(9), answered(20, Breathless)}, true, true, nil},
		{"pregnant", []HealthRecord{answered(1, Pregnant)}, false, true, pregnant},
		{"cleared with what is kept", []HealthRecord{answered(1, Pregnant), cleared(9, "no-lying-on-back")}, false, false, []moves.LimitID{"no-lying-on-back"}},
		{"answered the same after a clearance", []HealthRecord{answered(1, Pressure), cleared(9), answered(30, Pressure)}, false, false, nil},
		{"something new after a clearance", []HealthRecord{answered(1, Pressure), cleared(9), answered(30, Pressure, Brittle)}, false, true,
			[]moves.LimitID{"no-breath-holding", "no-long-holds", "no-head-below-heart", "no-loaded-back-bending", "no-impact"}},
		{"no longer", []HealthRecord{answered(1, Pregnant), answered(300)}, false, false, nil},
		{"out and pregnant, cleared of both", []HealthRecord{answered(1, ChestPain, Pregnant), cleared(9)}, false, false, nil},
		{"spared before, and why is not known", []HealthRecord{{Carried: &Spared{Out: true, Ground: true, Limits: pregnant}}, answered(5)}, true, false, pregnant},
		{"and cleared", []HealthRecord{{Carried: &Spared{Out: true, Ground: true, Limits: pregnant}}, cleared(5)}, false, false, nil},
	} {
		h := HealthOf(c.all)
		assert.Equal(t, []any{c.out, c.ground}, []any{h.Out, h.Ground}, c.name)
		assert.ElementsMatch(t, c.limits, h.Limits, c.name)
		for _, r := range c.all {
			assert.Empty(t, r.Check(), c.name)
		}
	}
	asked := HealthOf([]HealthRecord{answered(100)})
	assert.False(t, asked.Due(100+365))
	assert.True(t, asked.Due(100+366), "a year ago")
	assert.True(t, HealthOf([]HealthRecord{answered(100), {Day: 101, Changed: true}}).Due(102))
	assert.True(t, HealthOf(nil).Due(0))
}

// Whatever is answered in whatever order: a symptom that nobody has cleared since keeps somebody
// out, and nobody is out for anything else.
func TestSymptomsStayUntilCleared(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var all []HealthRecord
		open := false
		for day := range rapid.IntRange(0, 6).Draw(t, "records") {
			switch rapid.SampledFrom([]string{"answers", "clearance", "changed"}).Draw(t, "kind") {
			case "answers":
				yes := rapid.SliceOfNDistinct(rapid.SampledFrom(Questions), 0, 4, rapid.ID).Draw(t, "yes")
				for _, q := range yes {
					for _, s := range Stops {
						open = open || q == s
					}
				}
				all = append(all, answered(day, yes...))
			case "clearance":
				open = false
				all = append(all, cleared(day))
			default:
				all = append(all, HealthRecord{Day: day, Changed: true})
			}
		}
		assert.Equal(t, open, HealthOf(all).Out, fmt.Sprint(all))
	})
}

// What cannot be is refused by its field.
func TestRecordsRefused(t *testing.T) {
	lib := moves.Standard()
	q := measure.QuantityOf(measure.Typed{Decimal: "70", Unit: measure.Kilogram})
	off := q
	off.Whole = 71_000
	for field, r := range map[string]Record{
		"":                      {},
		"measure":               {Measure: &Measure{}},
		"level.move":            {Level: &Level{"nowhere", ByHand}},
		"level.cause":           {Level: &Level{"squat", "guess"}},
		"screen.screen":         {Screen: &Screening{Screen: "nose"}},
		"screen.values.left":    {Screen: &Screening{Ankle, map[string]float64{"right": 90}, nil}},
		"screen.values.held":    {Screen: &Screening{Hip, map[string]float64{"held": 1e9, "heels-down": 1, "no-tuck": 1}, nil}},
		"screen.values.strange": {Screen: &Screening{Shoulder, map[string]float64{"thumbs-to-wall": 1, "back-flat": 1, "strange": 1}, nil}},
		"benchmark.move":        {Benchmark: &Benchmark{Move: "get-up", Reps: 5}},
		"benchmark.reps":        {Benchmark: &Benchmark{Move: "goblet-squat", LoadG: 8000, Reps: 28, Reserve: 9}},
		"limit.limit":           {Limit: &Limit{Limit: "pregnancy"}},
		"limit.until":           {Day: 9, Limit: &Limit{Limit: "no-impact", Until: 8}},
		"learned.skill":         {Learned: &Learned{"juggling"}},
		"measure.body.whole":    {Measure: &Measure{Body: &off}},
	} {
		wrong := r.Check(lib)
		if len(wrong) == 0 {
			wrong = r.CheckTyped()
		}
		require.NotEmpty(t, wrong, field)
		assert.Equal(t, field, wrong[0].Path)
		assert.NotEmpty(t, wrong[0].Message)
	}
	both := Record{Measure: &Measure{Body: &q}, Learned: &Learned{Bracing}}
	assert.Empty(t, both.Kind(), "one thing at a time")
}
