package kit

import (
	"fmt"

	"nimbleanvil/internal/core/measure"
)

// The masses that bells and dumbbells are sold in, in kilograms and in pounds (house).
var (
	usualKg = []float64{4, 6, 8, 12, 16, 20, 24, 28, 32}
	usualLb = []float64{5, 10, 15, 20, 25, 30, 35, 45}
)

// Usual lists what a place might get: a bell and a pair of dumbbells of each usual mass, in the
// unit of the place, and a bench of a usual height. Their ids say what they are.
func Usual(unit measure.Unit) []Implement {
	var out []Implement
	put := func(kind string, m measure.Mass) {
		out = append(out, Implement{ID: fmt.Sprintf("%s-%d", kind, m), Kind: kind, Mass: m, Count: 1})
	}
	masses, one := usualKg, 1000.0
	if unit == measure.Pound {
		masses, one = usualLb, gramsOfPound
	}
	for _, n := range masses {
		put(Kettlebell, measure.Grams(n*one))
	}
	for _, n := range masses {
		put(DumbbellPair, measure.Grams(n*one))
	}
	out = append(out, Implement{ID: Bench, Kind: Bench, Height: usualBench, Count: 1})
	return out
}

const (
	usualBench measure.Length = 430
	// gramsOfPound is exact (published: international yard and pound).
	gramsOfPound = 453.59237
)
