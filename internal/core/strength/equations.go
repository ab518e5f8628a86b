// Package strength relates loads, repetitions and reserve, judges a finished
// set, and chooses loads for the roles a set may play.
package strength

import (
	"fmt"
	"math"
)

// Equation names a repetition equation. All are published and compared in
// LeSuer et al. 1997, J Strength Cond Res 11(4) (from memory), for bench press,
// squat and deadlift; deadlift was under-predicted.
type Equation string

// The equations. Default is the mean of Epley and Brzycki up to 10 repetitions,
// where they agree exactly, and Epley above; one repetition is the load itself.
const (
	Default  Equation = "default"
	Epley    Equation = "epley"
	Brzycki  Equation = "brzycki"
	Lombardi Equation = "lombardi"
	OConner  Equation = "oconner"
	Wathan   Equation = "wathan"
	Mayhew   Equation = "mayhew"
	Lander   Equation = "lander"
)

// LowConfidenceOver is the number of repetitions above which an estimate is
// marked as of low confidence.
const LowConfidenceOver = 15

// mostFactor is the most repetitions with reserve that Default knows.
const mostFactor = 30

// Factor gives max / load for r repetitions that could have been done (done
// and in reserve together), r >= 1. It refuses ranges where an equation means
// nothing: default over 30, Brzycki from 37, Lander from 38.
func Factor(eq Equation, r int) (float64, error) {
	if r < 1 {
		return 0, fmt.Errorf("repetitions and reserve together must be 1 or more")
	}
	x := float64(r)
	switch eq {
	case Default, "":
		switch {
		case r > mostFactor:
			return 0, fmt.Errorf("the default equation ends at 30 repetitions with reserve")
		case r == 1:
			return 1, nil
		case r <= 10:
			return ((1 + x/30) + 36/(37-x)) / 2, nil
		}
		return 1 + x/30, nil
	case Epley:
		return 1 + x/30, nil
	case Brzycki:
		if r >= 37 {
			return 0, fmt.Errorf("the Brzycki equation ends at 36 repetitions with reserve")
		}
		return 36 / (37 - x), nil
	case Lombardi:
		return math.Pow(x, 0.10), nil
	case OConner:
		return 1 + 0.025*x, nil
	case Wathan:
		return 100 / (48.8 + 53.8*math.Exp(-0.075*x)), nil
	case Mayhew:
		return 100 / (52.2 + 41.9*math.Exp(-0.055*x)), nil
	case Lander:
		if r >= 38 {
			return 0, fmt.Errorf("the Lander equation ends at 37 repetitions with reserve")
		}
		return 100 / (101.3 - 2.67123*x), nil
	}
	return 0, fmt.Errorf("unknown equation %q", eq)
}

// MaxFrom gives the load for one repetition, in grams, from a load and the
// repetitions that could have been done.
func MaxFrom(eq Equation, load float64, r int) (float64, error) {
	f, err := Factor(eq, r)
	return load * f, err
}

// LoadFor is the inverse of MaxFrom.
func LoadFor(eq Equation, maximum float64, r int) (float64, error) {
	f, err := Factor(eq, r)
	if err != nil {
		return 0, err
	}
	return maximum / f, nil
}
