package kit

import (
	"cmp"
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
)

// Holding is a way of holding that a load rule is drawn for.
type Holding string

// The holdings, and the holds of the library that stand for each.
const (
	OneHand   Holding = "one-hand"
	TwoHands  Holding = "two-hands"
	AtChest   Holding = "goblet"
	OnTheBack Holding = "back"
	OnTheHips Holding = "hips"
)

// Holdings lists them.
var Holdings = []Holding{OneHand, TwoHands, AtChest, OnTheBack, OnTheHips}

var holdingHolds = map[Holding][]moves.HoldID{
	OneHand: {
		"suitcase-one",
	}, TwoHands: {"suitcase-two"}, AtChest: {"goblet", "hugged"}, OnTheBack: {"back"}, OnTheHips: {"hips"},
}

// Marking is one load on a rule, with the rise to the next.
type Marking struct {
	Option
	Hold moves.HoldID
	// Up is nil for the heaviest.
	Up *strength.Rise
}

// leastMark is where a rule begins: less is no load to train with (house).
const leastMark measure.Mass = 500

// Marks lists every load a place makes for a holding, lightest first, each mass once:
// an implement before an object before what is packed, of which each packStep has one,
// whatever it is packed in. The limits are those of the move; the rises are for it and a
// body.
func (s Stock) Marks(h Holding, v *moves.Variant, bodyMass measure.Mass) []Marking {
	s = s.Memoized()
	var kept []offer
	var holds []moves.HoldID
	best, stretches := map[measure.Mass]int{}, map[measure.Mass]bool{}
	rank := map[string]int{Implements: 0, Objects: 1, Made: 2}
	for _, id := range holdingHolds[h] {
		hold, _ := moves.HoldOf(id)
		for _, o := range s.offers(v, hold) {
			if o.Total < leastMark || TooMuchOnBack(v, id, o.Total, bodyMass) {
				continue
			}
			if i, ok := best[o.Total]; ok {
				if rank[o.Load.Kind] < rank[kept[i].Load.Kind] {
					kept[i], holds[i] = o, id
				}
				continue
			}
			if o.Load.Kind == Made {
				if stretches[o.Total/packStep] {
					continue
				}
				stretches[o.Total/packStep] = true
			}
			best[o.Total] = len(kept)
			kept, holds = append(kept, o), append(holds, id)
		}
	}
	out := make([]Marking, 0, len(kept))
	for i, o := range kept {
		out = append(out, Marking{Option: o.option(), Hold: holds[i]})
	}
	sortMarks(out)
	for i := 1; i < len(out); i++ {
		up := strength.Step(v, bodyMass, out[i-1].Total, out[i].Total, h == OneHand)
		out[i-1].Up = &up
	}
	return out
}

func sortMarks(ms []Marking) {
	slices.SortStableFunc(ms, func(a, b Marking) int { return cmp.Compare(a.Total, b.Total) })
}
