package strength

import (
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
)

// LaneShare is the share of the reference mass a lane starts from (house,
// editable).
var LaneShare = map[moves.Lane]float64{moves.Ground: 0.10, moves.Middle: 0.22, moves.Reach: 0.35}

// ReferenceBody gives min(body mass, 25 x stature in metres squared), in grams (house):
// what a tall light or a short heavy body is taken for.
func ReferenceBody(body measure.Mass, stature measure.Length) float64 {
	m := float64(stature) / 1000
	return min(float64(body), 25*m*m*1000)
}

// Reference gives the lane's share of the reference body, in grams (house).
func Reference(lane moves.Lane, body measure.Mass, stature measure.Length) float64 {
	return LaneShare[lane] * ReferenceBody(body, stature)
}

// LeastLoad is the least that is a load at all: vessels hold a mouthful, and what is left
// of a lowered load may be next to nothing (house).
const LeastLoad measure.Mass = 500

// Wanted is a starting load without a benchmark.
type Wanted struct {
	// Total of all implements in grams; 0 for no load.
	Total float64
	Why   why.Why
}

// Starting gives the total load to start from for a variant held in a hold of
// count implements, for about ten repetitions, its ceiling kept (house). One-leg moves
// at Ground carry nothing.
func Starting(v *moves.Variant, count int, lane moves.Lane, body measure.Mass, stature measure.Length) Wanted {
	return StartingUnder(v, count, lane, body, stature, v.Ceiling(count))
}

// StartingUnder is Starting with another ceiling, 0 for none.
func StartingUnder(
	v *moves.Variant,
	count int,
	lane moves.Lane,
	body measure.Mass,
	stature measure.Length,
	most measure.Mass,
) Wanted {
	if count == 0 || v.Start == nil {
		return Wanted{Why: why.Of(why.LoadNone, why.House)}
	}
	if lane == moves.Ground && v.OnOneLeg() {
		return Wanted{Why: why.Of(why.LoadGroundOneLeg, why.House)}
	}
	ref := Reference(lane, body, stature)
	share := v.Start.Share
	if v.Start.PerHand {
		share *= float64(count)
	}
	ceiling := float64(most)
	total := share * ref
	w := why.Of(why.LoadStart, why.House, why.ID("lane", string(lane)), why.S("laneShare", LaneShare[lane]),
		why.G("body", float64(body)), why.Term{Name: "stature", Kind: why.Length, Value: float64(stature)},
		why.G("reference", float64(measure.Grams(ref))), why.S("moveShare", share))
	if ceiling > 0 && total > ceiling {
		total = ceiling
		w = w.With(why.Of(why.LoadCeiling, why.House, why.G("ceiling", ceiling)))
	}
	w.Terms = append(w.Terms, why.G("wanted", float64(measure.Grams(total))))
	return Wanted{Total: total, Why: w}
}
