// Package body knows how heavy and how long a body's parts are, what part of it
// a movement lifts, and which box, bench or heel raise fits it.
package body

import (
	"math"

	"nimbleanvil/internal/core/measure"
)

// Bounds of what the tables are used for.
const (
	MinMass, MaxMass       measure.Mass   = 20_000, 300_000
	MinStature, MaxStature measure.Length = 1000, 2300
	MinKnee, MaxKnee       measure.Length = 285, 656 // of those statures
)

// Segment masses as fractions of body mass (published: Winter, Biomechanics and
// Motor Control of Human Movement, 4th ed. 2009, table 4.1; from memory). Limbs
// are one side.
const (
	HandMass     = 0.006
	ForearmMass  = 0.016
	UpperArmMass = 0.028
	FootMass     = 0.0145
	ShankMass    = 0.0465
	ThighMass    = 0.100
	HeadMass     = 0.081
	TrunkMass    = 0.497
	// HAT less arms: trunk, head and neck, with its centre at UpperCentre of the
	// way from hip to shoulder.
	UpperMass   = 0.578
	UpperCentre = 0.66
	LegMass     = 0.161
	// LegCentre is the whole leg's centre from the hip, a fraction of hip height
	// less foot; ThighCentre and ShankCentre from the upper joint.
	LegCentre   = 0.447
	ThighCentre = 0.433
	ShankCentre = 0.433
)

// Segment lengths as fractions of stature (published: Drillis and Contini 1966,
// as in Winter fig. 4.1; from memory). People scatter by about 5 %: a measured
// knee height always wins.
const (
	FootHeight     = 0.039
	KneeHeight     = 0.285
	HipHeight      = 0.530
	ShoulderHeight = 0.818
	FootLength     = 0.152
	ThighLength    = 0.245
	ShankLength    = 0.246
	HipToShoulder  = 0.288
)

// KneeFor gives the knee height for a stature (the table above).
func KneeFor(stature measure.Length) float64 { return float64(stature) * (1000 * KneeHeight) / 1000 }

// StatureFor gives the stature that the table pairs with a measured knee.
func StatureFor(knee float64) float64 { return knee / KneeHeight }

// Build is somebody's stature and knee height in millimetres, each from the other where
// only one is known; a measured knee wins over the table. ok is false without either.
func Build(stature, knee measure.Length) (s, k float64, ok bool) {
	s, k = float64(stature), float64(knee)
	switch {
	case stature == 0 && knee == 0:
		return 0, 0, false
	case knee == 0:
		k = KneeFor(stature)
	case stature == 0:
		s = StatureFor(k)
	}
	return s, k, true
}

// Range is a range of heights in millimetres, both ends inclusive.
type Range struct {
	From measure.Length `json:"from"`
	To   measure.Length `json:"to"`
}

// Holds tells whether h lies in the range.
func (r Range) Holds(h measure.Length) bool { return h >= r.From && h <= r.To }

// SitBackBox gives the box to sit back to: 50 to 20 mm below the knee, to 5 mm
// (common practice, no source).
func SitBackBox(knee float64) Range { return Range{toFive(knee - 50), toFive(knee - 20)} }

// ThrustBench gives the bench for hip thrusts: 120 to 75 mm below the knee, to
// 5 mm (house).
func ThrustBench(knee float64) Range { return Range{toFive(knee - 120), toFive(knee - 75)} }

// SpareByTable is with how much to spare a height fits where the knee comes from the
// table, about which people scatter (house).
const SpareByTable measure.Length = 25

// How far supports may be off and still serve (house): a seat higher, for a shorter
// range, or lower, raised with plates or mats; feet raised for a push-up no higher than
// was measured.
const (
	HigherSeat measure.Length = 150
	RaisedSeat measure.Length = 100
	MostFeetUp measure.Length = 610
)

// Seat gives the seats to sit back to that serve: the box, higher for a shorter range,
// or a little lower and raised; low asks for a low one.
func Seat(knee float64, low bool, spare measure.Length) Range {
	box := SitBackBox(knee)
	if low {
		return Range{box.From - HigherSeat, box.To + spare}
	}
	return Range{box.From - RaisedSeat, box.To + HigherSeat}
}

// Thrust gives the benches for hip thrusts that serve: too high by no more than what
// feet and hips are raised, too low by the spare.
func Thrust(knee float64, spare measure.Length) Range {
	fit := ThrustBench(knee)
	return Range{fit.From - spare, fit.To + MaxRaise}
}

// AtMost gives heights up to a share of the knee's.
func AtMost(knee, share float64, spare measure.Length) Range {
	return Range{1, measure.Length(share*knee) + spare}
}

// BenchVerdict says whether a bench suits.
type BenchVerdict string

// The verdicts: the bench fits; raise feet and hips together on something wide
// and firm; too high even so (lower bench, step or floor); too low (raise it, or
// floor).
const (
	Fits    BenchVerdict = "fits"
	Raise   BenchVerdict = "raise"
	TooHigh BenchVerdict = "too-high"
	TooLow  BenchVerdict = "too-low"
)

// MaxRaise is the most that feet and hips are raised together (house).
const MaxRaise measure.Length = 50

// JudgeBench compares a bench with the range and gives the raise in whole steps
// of 5 mm, enough to bring the bench into range; 0 unless the verdict is Raise.
func JudgeBench(bench measure.Length, fit Range) (BenchVerdict, measure.Length) {
	over := bench - fit.To
	switch {
	case bench < fit.From:
		return TooLow, 0
	case over <= 0:
		return Fits, 0
	case over > MaxRaise:
		return TooHigh, 0
	}
	return Raise, (over + 4) / 5 * 5
}

// HeelRaise is the usual heel raise, 25 mm (common practice, no source).
const HeelRaise measure.Length = 25

// HeelRaiseAngle gives the degrees of ankle range that a heel raise saves: asin
// of the raise over .72 of the foot's length (model).
func HeelRaiseAngle(raise measure.Length, stature float64) float64 {
	return math.Asin(float64(raise)/(0.72*FootLength*stature)) * 180 / math.Pi
}

func toFive(mm float64) measure.Length { return measure.Length(math.Round(mm/5) * 5) }

// ShinAngle gives how many degrees the shin leans when the knee touches a wall that the toes
// are so far from: asin((d + .114 H) / (.246 H)) (model: the foot lies .152 H long, a quarter
// of it behind the ankle; there is no fixed number of degrees for a centimetre). Over the
// length of the shank it is 90.
func ShinAngle(toWall, stature measure.Length) float64 {
	h := float64(stature)
	return math.Asin(min(1, (float64(toWall)+0.114*h)/(ShankLength*h))) * 180 / math.Pi
}
