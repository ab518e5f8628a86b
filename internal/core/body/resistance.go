package body

import (
	"fmt"
	"math"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/why"
)

// Family is a set of variants whose resistances may be compared.
type Family string

// The families. None holds drills, carries and trunk work, whose resistances
// are not compared.
const (
	Squat  Family = "squat"
	Hinge  Family = "hinge"
	Bridge Family = "bridge"
	Push   Family = "push"
	Pull   Family = "pull"
	None   Family = "none"
)

// Shares say what part of body and load a variant puts on the working limb.
//
//	lifted     = Body x body mass + Coupling x external load
//	per limb   = Limb x lifted
//	comparable = per limb / Stance
//
// The external load is that of all implements together. The values of each
// variant and their sources stand in the movement library.
type Shares struct {
	Body     float64 `json:"body"`
	Coupling float64 `json:"coupling"`
	Limb     float64 `json:"limb"`
	Stance   float64 `json:"stance"`
	// Heights, where present, replaces Body by a value interpolated over the
	// height of the feet (above the hands positive) in millimetres.
	Heights []HeightShare `json:"heights,omitempty"`
	// Cosine makes Body shrink with the cosine of the body's angle above level.
	Cosine bool `json:"cosine,omitempty"`
	// Source of the numbers: published, model or house.
	Source why.Source `json:"source"`
}

// HeightShare is one measured point: the body share with the feet at HeightMm.
type HeightShare struct {
	HeightMm int64   `json:"heightMm"`
	Share    float64 `json:"share"`
}

// Setting is how a variant is set up; the zero value is flat.
type Setting struct {
	// Height of the feet above the hands, negative with the hands up.
	Height measure.Length
	// AngleDeg is the body's angle above level, 0 to 80.
	AngleDeg float64
}

// BodyShare gives the share of the body that is lifted in a setting. Between
// measured heights it is linear; outside them it is refused.
func (s Shares) BodyShare(set Setting) (float64, error) {
	if s.Cosine {
		return s.Body * math.Cos(set.AngleDeg*math.Pi/180), nil
	}
	if len(s.Heights) == 0 {
		return s.Body, nil
	}
	h := float64(set.Height)
	for i := 1; i < len(s.Heights); i++ {
		a, b := s.Heights[i-1], s.Heights[i]
		if h >= float64(a.HeightMm) && h <= float64(b.HeightMm) {
			part := (h - float64(a.HeightMm)) / float64(b.HeightMm-a.HeightMm)
			return a.Share + part*(b.Share-a.Share), nil
		}
	}
	first, last := s.Heights[0].HeightMm, s.Heights[len(s.Heights)-1].HeightMm
	return 0, fmt.Errorf("measured from %d to %d mm only", first, last)
}

// Resistance is what a variant asks of the working limb, in grams, not rounded.
type Resistance struct {
	BodyShare                   float64
	Lifted, PerLimb, Comparable float64
}

// Resist computes the resistance of a variant for a body and an external load
// (all implements together).
func (s Shares) Resist(body, external measure.Mass, set Setting) (Resistance, error) {
	share, err := s.BodyShare(set)
	if err != nil {
		return Resistance{}, err
	}
	lifted := share*float64(body) + s.Coupling*float64(external)
	per := s.Limb * lifted
	return Resistance{share, lifted, per, per / s.Stance}, nil
}

// ExternalFor gives the external load in grams that makes the comparable
// resistance wanted; it is negative where the body alone is already more.
func (s Shares) ExternalFor(wanted float64, body measure.Mass, set Setting) (float64, error) {
	share, err := s.BodyShare(set)
	if err != nil {
		return 0, err
	}
	return (wanted*s.Stance/s.Limb - share*float64(body)) / s.Coupling, nil
}

// Why explains a resistance as the sum that made it.
func (s Shares) Why(body, external measure.Mass, r Resistance) why.Why {
	return why.Of(why.ResistanceSum, s.Source,
		why.S("bodyShare", measure.Round(r.BodyShare, 3)), why.G("body", float64(body)),
		why.S("coupling", s.Coupling), why.G("external", float64(external)),
		why.S("limbShare", s.Limb), why.G("perLimb", math.Round(r.PerLimb)))
}
