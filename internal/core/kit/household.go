package kit

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"sync"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/why"
)

//go:embed data/household.json
var householdData []byte

// Density is grams to a millilitre of something, with the range it is found in: of
// a substance, or of an empty vessel to what it holds.
type Density struct {
	ID     string  `json:"id"`
	Name   string  `json:"name"`
	GPerMl float64 `json:"gPerMl"`
	Low    float64 `json:"low"`
	High   float64 `json:"high"`
	Source string  `json:"source"`
}

// Package is how much heavier something is with its packaging than the net mass on
// the label.
type Package struct {
	ID          string  `json:"id"`
	Name        string  `json:"name"`
	GrossPerNet float64 `json:"grossPerNet"`
	Low         float64 `json:"low"`
	High        float64 `json:"high"`
	Source      string  `json:"source"`
}

// Known is a thing of a usual mass.
type Known struct {
	ID     string       `json:"id"`
	Name   string       `json:"name"`
	MassG  measure.Mass `json:"massG"`
	LowG   measure.Mass `json:"lowG"`
	HighG  measure.Mass `json:"highG"`
	Source string       `json:"source"`
}

// Household is the table of what household things weigh.
type Household struct {
	Substances []Density `json:"substances"`
	Packages   []Package `json:"packages"`
	Vessels    []Density `json:"vessels"`
	Known      []Known   `json:"known"`
}

// StandardHousehold is the table that ships with the program.
var StandardHousehold = sync.OnceValue(func() Household {
	var h Household
	if err := json.Unmarshal(householdData, &h); err != nil {
		panic(err) // embedded, read by the tests
	}
	return h
})

// Ways of knowing what an object weighs.
const (
	ByGross  = "gross"   // typed, packaging included
	ByNet    = "net"     // the label's net mass, and what it is packed in
	ByVolume = "volume"  // a volume of a substance, in a vessel
	ByKind   = "kind"    // a thing of a usual mass
	ByScale  = "weighed" // read off a scale
)

// Weight is what an object weighs with its packaging, the range it may really have,
// and, of a vessel of a substance, its mass empty.
type Weight struct {
	Mass, Low, High, Empty measure.Mass
	Why                    why.Why
}

// roundTo is the grams that an estimate is rounded to: the tables know no more.
const roundTo = 5

func estimate(g float64) measure.Mass { return measure.Mass(measure.Round(g/roundTo, 0) * roundTo) }

// FromNet gives the gross mass for a label's net mass and a package.
func (h Household) FromNet(net measure.Mass, pack string) (Weight, error) {
	p, ok := find(h.Packages, func(p Package) bool { return p.ID == pack })
	if !ok {
		return Weight{}, fmt.Errorf("say what it is packed in: tin, bag or jar")
	}
	n := float64(net)
	w := Weight{Mass: estimate(n * p.GrossPerNet), Low: estimate(n * p.Low), High: estimate(n * p.High)}
	w.Why = why.Of(why.GrossFromNet, why.Practice, why.G("net", n), why.ID("package", p.ID),
		why.S("factor", p.GrossPerNet), why.G("gross", float64(w.Mass)), why.G("low", float64(w.Low)),
		why.G("high", float64(w.High)))
	return w, nil
}

// FromVolume gives the mass of a volume of a substance in a vessel, and of the
// vessel empty.
func (h Household) FromVolume(v measure.Volume, substance, vessel string) (Weight, error) {
	s, ok := find(h.Substances, func(d Density) bool { return d.ID == substance })
	if !ok {
		return Weight{}, fmt.Errorf("say what is in it: water, rice, sand")
	}
	in, ok := find(h.Vessels, func(d Density) bool { return d.ID == vessel })
	if !ok {
		return Weight{}, fmt.Errorf("say what it is in: bottle, can or none")
	}
	ml := float64(v)
	w := Weight{
		Mass:  estimate(ml * (s.GPerMl + in.GPerMl)),
		Low:   estimate(ml * (s.Low + in.Low)),
		High:  estimate(ml * (s.High + in.High)),
		Empty: estimate(ml * in.GPerMl),
	}
	w.Why = why.Of(why.MassFromVolume, why.Published, why.Term{Name: "volume", Kind: why.Volume, Value: ml},
		why.ID("substance", s.ID), why.S("density", s.GPerMl), why.G("empty", float64(w.Empty)),
		why.G("gross", float64(w.Mass)), why.G("low", float64(w.Low)), why.G("high", float64(w.High)))
	return w, nil
}

// OfKind gives the usual mass of a known thing.
func (h Household) OfKind(kind string) (Weight, error) {
	k, ok := find(h.Known, func(k Known) bool { return k.ID == kind })
	if !ok {
		return Weight{}, fmt.Errorf("there is no usual mass of %q: weigh one", kind)
	}
	w := Weight{Mass: k.MassG, Low: k.LowG, High: k.HighG}
	w.Why = why.Of(why.MassOfKind, why.Practice, why.ID("kind", k.ID), why.G("gross", float64(k.MassG)),
		why.G("low", float64(k.LowG)), why.G("high", float64(k.HighG)))
	return w, nil
}

func find[T any](in []T, is func(T) bool) (T, bool) {
	for _, x := range in {
		if is(x) {
			return x, true
		}
	}
	var zero T
	return zero, false
}
