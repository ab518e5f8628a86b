package body

import (
	"math"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/why"
)

// FourLegs is the only kind of table that may ever be rowed under, whatever the sum
// says.
const FourLegs = "four-leg"

// TableKinds lists them.
var TableKinds = []string{FourLegs, "glass", "folding", "extending", "one-column", "trestle", "loose-top"}

// safety is how many times over a table or an anchor must hold (house).
const safety = 2

// rowShare is the part of the body that a row under an edge pulls with when the
// body is level (model).
const rowShare = 0.71

// Table is a table that somebody wants to row under. Out is how far outside the
// line of the legs the pull is, In how far inside it the table's own centre.
type Table struct {
	Mass    measure.Mass
	In, Out measure.Length
	Kind    string
}

// Tipping is what a table says to a pull: Factor is how many times over it holds,
// 0 with Never, when a pull inside the legs does not tip it.
type Tipping struct {
	Allowed, Never bool
	Factor         float64
	Why            why.Why
}

// Tips judges a row under a table's edge (model): the pull is .71 of body and worn
// load times the cosine of the body's angle above level, and M c must be at least
// twice F d. Glass, folding, extending, one-column and trestle tables and loose tops
// are refused whatever the sum.
func (t Table) Tips(bodyMass, worn measure.Mass, angleDeg float64) Tipping {
	pull := rowShare * math.Cos(angleDeg*math.Pi/180) * float64(bodyMass+worn)
	w := why.Of(why.TipsTable, why.Model, why.G("pull", math.Round(pull)), lengthTerm("out", t.Out),
		why.G("table", float64(t.Mass)), lengthTerm("in", t.In))
	if t.Out <= 0 {
		return Tipping{Allowed: t.Kind == FourLegs, Never: true, Why: w}
	}
	hold, turn := float64(t.Mass)*float64(t.In), pull*float64(t.Out)
	return Tipping{Allowed: t.Kind == FourLegs && hold >= safety*turn, Factor: hold / turn, Why: w}
}

// anklePull is the pull at the ankles of somebody kneeling, for each body mass and
// sine of the lean (model): the body above the knees, over the shank.
const anklePull = 1.29

// Holding is what an anchor says to a pull at the ankles; Upright is no pull.
type Holding struct {
	Pull             measure.Mass
	Allowed, Upright bool
	Factor           float64
	Why              why.Why
}

// Anchor judges what holds the ankles of somebody lowering from the knees (model):
// the pull is 1.29 of body mass times the sine of the lean from upright, and the
// anchor must hold twice that.
func Anchor(bodyMass, anchor measure.Mass, leanDeg float64) Holding {
	pull := anklePull * float64(bodyMass) * math.Sin(leanDeg*math.Pi/180)
	h := Holding{Pull: measure.Grams(pull), Allowed: float64(anchor) >= safety*pull}
	// Upright, or so near it that there is nothing to hold: no factor says anything.
	if h.Upright = h.Pull == 0; !h.Upright {
		h.Factor = float64(anchor) / pull
	}
	h.Why = why.Of(why.AnchorHolds, why.Model, why.G("body", float64(bodyMass)), why.G("pull", float64(h.Pull)),
		why.G("anchor", float64(anchor)))
	return h
}

// AnchorFor is what must hold the ankles of somebody lowering from the knees to the floor.
func AnchorFor(bodyMass measure.Mass) measure.Mass {
	return measure.Grams(safety * anklePull * float64(bodyMass))
}

// SteppedOn is how much more a support must be rated for that is stepped on and not
// only stood, sat or leaned on (house).
const SteppedOn = 1.5

// AskOver is the mass on a support from which an unknown rating is asked for
// (house).
const AskOver measure.Mass = 100_000

// AssumedMass is the body that supports are judged for where nobody's is known (house).
const AssumedMass measure.Mass = 120_000

// Support judges a box, bench or step under a body and its load: rated 0 is unknown,
// which is asked about where the load is over 100 kg. The second answer says to ask.
func Support(rated, bodyMass, load measure.Mass, stepped bool) (holds, ask bool) {
	on := float64(bodyMass + load)
	if stepped {
		on *= SteppedOn
	}
	if rated == 0 {
		return on <= float64(AskOver), on > float64(AskOver)
	}
	return float64(rated) >= on, false
}

func lengthTerm(name string, l measure.Length) why.Term {
	return why.Term{Name: name, Kind: why.Length, Value: float64(l)}
}
