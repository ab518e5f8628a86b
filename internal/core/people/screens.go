package people

import (
	"fmt"
	"math"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
)

// The screens that are not among the joint screens of the gate.
const (
	Balance    Screen = "balance"
	ChairStand Screen = "chair-stand"
)

// Screens lists all seven, from the ground up.
var Screens = []Screen{Ankle, Shin, Hip, UpperBack, Shoulder, Balance, ChairStand}

// AskKind is what a value of a screen is measured in.
type AskKind string

// The kinds: a length, degrees, seconds, a count, yes or no, years, and whose norm holds.
const (
	AsksLength  AskKind = "length"
	AsksDegrees AskKind = "degrees"
	AsksSeconds AskKind = "seconds"
	AsksCount   AskKind = "count"
	AsksYes     AskKind = "yes-no"
	AsksAge     AskKind = "age"
	AsksNorm    AskKind = "norm"
)

// AskKinds lists them.
var AskKinds = []AskKind{AsksLength, AsksDegrees, AsksSeconds, AsksCount, AsksYes, AsksAge, AsksNorm}

// Ask is one value that a screen is read off by. Lengths are whole millimetres.
type Ask struct {
	Name      string  `json:"name"`
	Kind      AskKind `json:"kind"`
	Low, High float64 `json:"-"`
	// Optional values may be left out.
	Optional bool `json:"optional,omitempty"`
}

// The norms of the chair stand are apart for men and for women.
const (
	NormMen   = 1
	NormWomen = 2
)

// The values of screens.
const (
	valueLeft, valueRight = "left", "right"
	valueHeld             = "held"
	valueHeels            = "heels-down"
	valueTuck             = "no-tuck"
	valueWall             = "thumbs-to-wall"
	valueBack             = "back-flat"
	valueEqual            = "equal"
	valueStands           = "stands"
	valueHands            = "hands-helped"
	valueAge              = "age"
	valueNorm             = "norm"
)

// What is measured at most.
const (
	MostToWall  = measure.Length(400)
	mostSeconds = 120
	mostStands  = 60
	leastAge    = 5
	mostAge     = 110
)

var asks = map[Screen][]Ask{
	Ankle: {
		{
			Name: valueLeft,
			Kind: AsksLength,
			High: float64(MostToWall),
		}, {Name: valueRight, Kind: AsksLength, High: float64(MostToWall)},
	},
	Shin: {
		{Name: valueLeft, Kind: AsksYes, High: 1}, {Name: valueRight, Kind: AsksYes, High: 1},
		{Name: valueEqual, Kind: AsksYes, High: 1},
	},
	Hip: {
		{Name: valueHeld, Kind: AsksSeconds, High: mostSeconds}, {Name: valueHeels, Kind: AsksYes, High: 1},
		{Name: valueTuck, Kind: AsksYes, High: 1},
	},
	UpperBack: {
		{Name: valueLeft, Kind: AsksDegrees, High: 120}, {Name: valueRight, Kind: AsksDegrees, High: 120},
	},
	Shoulder: {
		{Name: valueWall, Kind: AsksYes, High: 1}, {Name: valueBack, Kind: AsksYes, High: 1},
	},
	Balance: {
		{
			Name: valueLeft,
			Kind: AsksSeconds,
			High: mostSeconds,
		}, {Name: valueRight, Kind: AsksSeconds, High: mostSeconds},
	},
	ChairStand: {
		{Name: valueStands, Kind: AsksCount, High: mostStands}, {Name: valueHands, Kind: AsksYes, High: 1},
		{Name: valueAge, Kind: AsksAge, Low: leastAge, High: mostAge, Optional: true},
		{Name: valueNorm, Kind: AsksNorm, Low: NormMen, High: NormWomen, Optional: true},
	},
}

// Asks lists the values that a screen is read off by.
func (s Screen) Asks() []Ask { return asks[s] }

// Known tells whether there is such a screen.
func (s Screen) Known() bool { return slices.Contains(Screens, s) }

// Screening is what was measured in a screen; yes is 1 and no is 0. Typed keeps lengths as
// they were typed.
type Screening struct {
	Screen Screen                   `json:"screen"`
	Values map[string]float64       `json:"values"`
	Typed  map[string]measure.Typed `json:"typed,omitempty"`
}

// Check says which values are missing, strange or out of their bounds.
func (s Screening) Check() fault.List {
	var wrong fault.List
	if !s.Screen.Known() {
		wrong.Note("screen", "there is no such screen", string(s.Screen))
		return wrong
	}
	for _, a := range s.Screen.Asks() {
		v, there := s.Values[a.Name]
		switch at := "values." + a.Name; {
		case !there && !a.Optional:
			wrong.Note(at, "is missing", nil)
		case there && (v < a.Low || v > a.High || v != math.Trunc(v)):
			wrong.Note(at, fmt.Sprintf("a whole number from %g to %g", a.Low, a.High), v)
		}
	}
	for _, name := range sorted(s.Values) {
		if !slices.ContainsFunc(s.Screen.Asks(), func(a Ask) bool { return a.Name == name }) {
			wrong.Note("values."+name, "this screen does not measure that", s.Values[name])
		}
	}
	return wrong
}

func sorted[T any](m map[string]T) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

// Outcome is what a screen says: what must be spared until it is done again and passed, and
// which joints the prep makes ready.
type Outcome struct {
	Passed bool `json:"passed"`
	// Uneven says that the sides differ by more than usual.
	Uneven bool            `json:"uneven"`
	Limits []moves.LimitID `json:"limits"`
	Prep   []string        `json:"prep"`
	Why    why.Why         `json:"why"`
}

// The thresholds (house, simple, so that anybody can repeat them).
const (
	// AnkleShare of the stature is how far the toes should be from the wall: 10 cm at 170 cm.
	AnkleShare = 0.059
	// UnevenMm is how far the sides may differ.
	UnevenMm     = 20
	HipSeconds   = 20
	TurnDegrees  = 45
	StandSeconds = 10
	// LoadedSeconds on one leg come before work on one leg with a load.
	LoadedSeconds = 20
)

// AnkleNorm is how far from the wall the toes of somebody should be when the knee touches it,
// to a whole millimetre.
func AnkleNorm(stature measure.Length) measure.Length {
	return measure.Length(math.Round(AnkleShare * float64(stature)))
}

// Judge reads a screening off for a stature: what falls short becomes a limit (house: what it
// spares follows from what it measures).
//
//	ankle        the ankle spared mildly: no end of its range, light
//	shin         no impact
//	hip          the hip spared mildly
//	upper back   no loaded twist
//	shoulder     nothing overhead
//	balance      under 10 s nothing where balance is a risk; under 20 s no load on one leg
//	chair stand  below average for the age nothing where balance is a risk, and no impact
func (s Screening) Judge(stature measure.Length) Outcome {
	o := Outcome{Limits: []moves.LimitID{}, Prep: []string{}}
	yes := func(name string) bool { return s.Values[name] == 1 }
	left, right := s.Values[valueLeft], s.Values[valueRight]
	least := int(min(left, right))
	short := func(passed bool, joint string, limits ...moves.LimitID) {
		if o.Passed = passed; !passed {
			o.Limits, o.Prep = append(o.Limits, limits...), append(o.Prep, joint)
		}
	}
	switch s.Screen {
	case Ankle:
		norm := AnkleNorm(stature)
		short(least >= int(norm), "ankle", moves.Mild("ankle"))
		o.Uneven = math.Abs(left-right) > UnevenMm
		o.Why = why.Of(why.ScreenAnkle, why.House, lengthTerm("left", left), lengthTerm("right", right),
			lengthTerm("norm", float64(norm)),
			why.N("angle", int(math.Round(body.ShinAngle(measure.Length(least), stature)))))
	case Shin:
		short(yes(valueLeft) && yes(valueRight) && yes(valueEqual), "knee", moves.NoImpact)
		o.Uneven = !yes(valueEqual)
		o.Why = why.Of(why.ScreenShin, why.House)
	case Hip:
		short(s.Values[valueHeld] >= HipSeconds && yes(valueHeels) && yes(valueTuck), "hip", moves.Mild("hip"))
		o.Why = why.Of(why.ScreenHip, why.House, why.N("held", int(s.Values[valueHeld])), why.N("norm", HipSeconds))
	case UpperBack:
		short(least >= TurnDegrees, "upper-back", moves.NoLoadedTwist)
		o.Why = why.Of(why.ScreenUpperBack, why.House, why.N("left", int(left)), why.N("right", int(right)),
			why.N("norm", TurnDegrees))
	case Shoulder:
		short(yes(valueWall) && yes(valueBack), "shoulder", moves.NoOverhead)
		o.Why = why.Of(why.ScreenShoulder, why.House)
	case Balance:
		switch {
		case least < StandSeconds:
			short(false, "balance", moves.NoBalanceRisk, moves.NoLoadedOneLeg)
		case least < LoadedSeconds: // passed, and not enough for a load on one leg
			o.Passed, o.Limits = true, append(o.Limits, moves.NoLoadedOneLeg)
		default:
			o.Passed = true
		}
		o.Why = why.Of(why.ScreenBalance, why.House, why.N("left", int(left)), why.N("right", int(right)),
			why.N("norm", StandSeconds), why.N("loaded", LoadedSeconds))
	case ChairStand:
		o.judgeStands(s.Values)
	}
	return o
}

func (o *Outcome) judgeStands(values map[string]float64) {
	n := int(values[valueStands])
	if values[valueHands] == 1 {
		n = 0 // hands that help make it none
	}
	least, ok := ChairStandNorm(int(values[valueAge]), int(values[valueNorm]))
	if o.Passed = !ok || n >= least; !o.Passed {
		o.Limits = append(o.Limits, moves.NoBalanceRisk, moves.NoImpact)
		o.Prep = append(o.Prep, "knee")
	}
	o.Why = why.Of(why.ScreenNoNorm, why.Published, why.N("stands", n))
	if ok {
		o.Why = why.Of(why.ScreenChairStand, why.Published, why.N("stands", n), why.N("norm", least),
			why.N("age", int(values[valueAge])))
	}
}

// chairStands are the fewest stands in 30 s that are not below average, by age from 60 in
// steps of five years, for men and for women (published: CDC STEADI, 30-second chair stand,
// after Rikli & Jones; from memory).
var chairStands = map[int][7]int{
	NormMen:   {14, 12, 12, 11, 10, 8, 7},
	NormWomen: {12, 11, 10, 10, 9, 8, 4},
}

// ChairStandNorm gives the fewest stands in 30 s that are not below average; ok is false
// where there is no norm: under 60, over 94, or where it is not said whose holds.
func ChairStandNorm(age, whose int) (least int, ok bool) {
	row, known := chairStands[whose]
	if !known || age < 60 || age > 94 {
		return 0, false
	}
	return row[(age-60)/5], true
}

func lengthTerm(name string, mm float64) why.Term {
	return why.Term{Name: name, Kind: why.Length, Value: mm}
}
