package kit

import (
	"cmp"
	"math"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// Wish is a set that a place may not have the load for.
type Wish struct {
	Person
	Variant *moves.Variant
	Hold    moves.HoldID
	Load    measure.Mass // all implements together
	// Reps that are planned and Reserve that is kept.
	Reps, Reserve int
	// FirstTime is somebody's first session with the move: nothing rounds up.
	FirstTime bool
}

// Way is how an option differs from what was wished.
type Way string

// The ways, in the order they are looked for.
const (
	ByImplement Way = "implement" // another implement, or the one wished
	ByObject    Way = "object"
	ByPacked    Way = "made"
	ByTwo       Way = "two"       // two in front instead of one
	ByOneSide   Way = "one-sided" // one leg or arm at a time
	ByTempo     Way = "tempo"     // tempo and pause
	ByLever     Way = "lever"     // lever, range, support: another rung
	ByMove      Way = "move"      // another move of the pattern
)

// Ways lists them.
var Ways = []Way{ByImplement, ByObject, ByPacked, ByTwo, ByOneSide, ByTempo, ByLever, ByMove}

// Substitute is one option of a place for a wish.
type Substitute struct {
	Way     Way
	Variant *moves.Variant
	Hold    moves.HoldID
	Option
	Mend
	// Wanted and Reached are comparable resistances in grams, or iron where the move
	// goes by iron alone.
	Wanted, Reached        float64
	IronPct, ResistancePct float64
	// Lost and Gained name demands that fall or rise: grip, balance, low-back ...,
	// sides, pattern, iron.
	Lost, Gained []string
	// Check lists what to look at before use.
	Check   []string
	Anchors []string
	Why     why.Why
	cost    float64
}

// What to look at before use.
const (
	CheckTipping = "tipping"
	CheckAnchor  = "anchor"
	CheckRating  = "support-rating"
	CheckHeight  = "bench-height"
	CheckFloor   = "smooth-floor"
	CheckGrip    = "grip"
	CheckClosed  = "closure"
	CheckStraps  = "straps"
	CheckPadding = "padding"
	CheckWeigh   = "weigh"
)

// What an option costs beside its miss (house): the way it goes, and what could not
// be mended.
var wayCost = map[Way]float64{ByImplement: 0, ByObject: 1, ByPacked: 2, ByTwo: 3, ByTempo: 6, ByOneSide: 8, ByLever: 8, ByMove: 12}

const (
	unmendedCost = 40.0
	heavyCost    = 8.0 // a heavy load with fewer repetitions
	markShare    = 0.2
)

// Substitutes ranks what a place has for a wish, the best first, at most limit, one
// for each variant and way. Too light and too heavy are mended by their own
// lists; a load above the wanted one is not looked at overhead, over the face, in
// ballistic moves, for Ground or the first time, and never beyond a ceiling. The work
// grows with the library times the place's loads for a hold.
func Substitutes(s Stock, lib *moves.Library, w Wish, limit int) []Substitute {
	s = s.Kept()
	var out []Substitute
	for _, v := range lib.All() {
		way, mark, ok := w.leads(lib, v)
		if !ok {
			continue
		}
		anchors, ok := s.anchors(v)
		if !ok {
			continue
		}
		best := map[Way]Substitute{}
		for _, id := range v.Holds {
			h, _ := moves.HoldOf(id)
			for _, o := range s.around(v, h, w) {
				x, ok := w.look(s, v, h, o, way, anchors, mark)
				if old, had := best[x.Way]; ok && (!had || x.cost < old.cost) {
					best[x.Way] = x
				}
			}
		}
		for _, way := range Ways {
			if x, ok := best[way]; ok {
				out = append(out, x)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Substitute) int { return cmp.Compare(a.cost, b.cost) })
	return out[:min(limit, len(out))]
}

// leads tells by which way a variant could stand for the wish, and how far it is from
// the lane's marks.
func (w Wish) leads(lib *moves.Library, v *moves.Variant) (way Way, mark float64, ok bool) {
	own := w.Variant
	if v == own {
		return ByImplement, 0, true
	}
	pattern := v.Pattern == own.Pattern
	comparable := v.Family == own.Family && v.Family != body.None
	if !pattern && !comparable || v.Gate != "" || v.Drill || v.Ballistic && !own.Ballistic || !lib.Offers(v) {
		return "", 0, false
	}
	if v.Overhead && !own.Overhead || v.Role != moves.Main && v.Role != moves.Accessory && v.Role != own.Role {
		return "", 0, false
	}
	if mark, ok = moves.Mark(v, lib.OfPattern(v.Pattern), w.Lane); !ok {
		return "", 0, false
	}
	switch {
	case v.HeldByTwo() && !own.HeldByTwo():
		return ByTwo, mark, pattern
	case v.Sides == moves.PerSide && own.Sides != moves.PerSide:
		return ByOneSide, mark, true
	case !pattern:
		return "", 0, false
	case v.Lever != nil && (v.Lever.Name == "tempo" || v.Lever.Name == "pause"):
		return ByTempo, mark, true
	case own.Ladder != "" && v.Ladder == own.Ladder:
		return ByLever, mark, true
	}
	return ByMove, mark, true
}

// anchors finds everything a variant leans on.
func (s Stock) anchors(v *moves.Variant) ([]string, bool) {
	out := []string{}
	for _, need := range v.Needs {
		id, ok := s.Anchor(v, need, 1, s.Pieces)
		if !ok {
			return nil, false
		}
		out = append(out, id)
	}
	return out, true
}

// iron tells whether two variants are compared by the load alone.
func (w Wish) iron(v *moves.Variant) bool {
	return v.Family != w.Variant.Family || v.ByIronAlone() || w.Variant.ByIronAlone()
}

// resisted is what a load asks in a variant, in the measure the wish is compared by.
func (w Wish) resisted(v *moves.Variant, load measure.Mass, iron bool) float64 {
	if iron {
		return float64(load)
	}
	r, _ := v.Resistance.Resist(w.Body, load, v.Setting())
	return r.Comparable
}

// Asked is what the wish asks of the limb: comparable resistance in grams, or the iron
// where the move goes by iron alone.
func (w Wish) Asked() float64 { return w.resisted(w.Variant, w.Load, w.iron(w.Variant)) }

// around lists the loads near what a variant needs to be as hard as wanted.
func (s Stock) around(v *moves.Variant, h moves.Hold, w Wish) []Option {
	if h.Count == 0 {
		return []Option{{Load: Nothing}}
	}
	need := float64(w.Load)
	if !w.iron(v) {
		need, _ = v.Resistance.ExternalFor(w.resisted(w.Variant, w.Load, false), w.Body, v.Setting())
	}
	return s.near(v, h, measure.Grams(max(need, 0)), 3)
}

// look judges one load of one variant; ok is false where it must not be given.
func (w Wish) look(s Stock, v *moves.Variant, h moves.Hold, o Option, way Way, anchors []string, mark float64) (Substitute, bool) {
	iron := w.iron(v)
	x := Substitute{Way: way, Variant: v, Hold: h.ID, Option: o, Anchors: anchors, Wanted: w.resisted(w.Variant, w.Load, iron), Reached: w.resisted(v, o.Total, iron)}
	if x.Wanted <= 0 && x.Reached > 0 || !w.may(v, h, o) {
		return x, false
	}
	if way == ByImplement {
		switch {
		case o.Load.Kind == Made:
			x.Way = ByPacked
		case o.Load.Kind == Objects:
			x.Way = ByObject
		case h.Count == 2 && !w.heldTwo():
			x.Way = ByTwo
		}
	}
	ratio := 1.0
	if x.Wanted > 0 {
		ratio = x.Reached / x.Wanted
	}
	x.ResistancePct = 100 * (ratio - 1)
	switch {
	case w.Load > 0:
		x.IronPct = 100 * (float64(o.Total)/float64(w.Load) - 1)
	case o.Total > 0:
		x.IronPct = 100
	}
	// Iron says how hard only where the same body shape is held the same way.
	ironOff := x.IronPct
	if v != w.Variant {
		ironOff = 0
	}
	if ratio > 1 && w.never(v) {
		return x, false
	}
	x.Mend = mend(v, w.Reps, w.Reserve, ratio, ironOff)
	if !x.OK {
		return x, false
	}
	x.Lost, x.Gained = Changes(w.Variant, v, x.IronPct)
	var fit bool
	if x.Check, fit = Checks(s, w.Body, v, h.ID, o, anchors); !fit {
		return x, false
	}
	x.cost = math.Abs(x.LeftPct) + wayCost[x.Way]
	if x.LeftPct > 0 {
		x.cost += x.LeftPct
	}
	if x.LeftPct < -GoodResistancePct {
		x.cost += unmendedCost
	}
	if slices.Contains(x.Repairs, FewerReps) {
		x.cost += heavyCost
	}
	x.cost += markShare * mark
	x.Why = w.why(x, iron)
	return x, true
}

// heldTwo tells whether the wish itself is held with two implements.
func (w Wish) heldTwo() bool {
	h, _ := moves.HoldOf(w.Hold)
	return h.Count == 2
}

// never tells whether nothing above the wanted may be given.
func (w Wish) never(v *moves.Variant) bool {
	return w.FirstTime || w.Lane == moves.Ground || v.NeverUp()
}

// firstMost is the most that a first session with a ballistic or overhead move takes
// (house).
const firstMost measure.Mass = 5000

// may keeps the limits that hold whatever was wished: ceilings, the tenth of a body
// on the back, one-leg moves at Ground, first sessions.
func (w Wish) may(v *moves.Variant, h moves.Hold, o Option) bool {
	if most := v.Ceiling(max(h.Count, 1)); most > 0 && o.Total > max(most, w.agreed(v)) {
		return false
	}
	if o.Total > 0 && w.Lane == moves.Ground && v.OnOneLeg() {
		return false
	}
	if w.FirstTime && (v.Ballistic || v.Overhead) && o.Total > firstMost {
		return false
	}
	return !tooMuchOnBack(v, h.ID, o.Total, w.Body)
}

// agreed is the load that the instructor asked for in this very move; it stands above
// a ceiling that is for want of a benchmark.
func (w Wish) agreed(v *moves.Variant) measure.Mass {
	if v == w.Variant {
		return w.Load
	}
	return 0
}

// Changes names the demands that fall and rise from one variant to another, and what
// else changes, with the iron so many per cent off.
func Changes(own, v *moves.Variant, ironPct float64) (lost, gained []string) {
	for _, j := range moves.Joints {
		switch a, b := own.Demands[j], v.Demands[j]; {
		case b < a:
			lost = append(lost, j)
		case b > a:
			gained = append(gained, j)
		}
	}
	if v.Pattern != own.Pattern {
		lost = append(lost, "pattern")
	}
	if v.Sides != own.Sides {
		if v.Sides == moves.PerSide {
			gained = append(gained, "sides")
		} else {
			lost = append(lost, "sides")
		}
	}
	if ironPct < -GoodIronPct {
		lost = append(lost, "iron")
	}
	return lost, gained
}

// Checks lists what to look at before a load is used in a move, with the anchors that
// are there; fit is false where a support or a table is known not to hold.
func Checks(s Stock, bodyMass measure.Mass, v *moves.Variant, hold moves.HoldID, o Option, anchors []string) (out []string, fit bool) {
	h, _ := moves.HoldOf(hold)
	add := func(what string) {
		if !slices.Contains(out, what) {
			out = append(out, what)
		}
	}
	for i, need := range v.Needs {
		if i >= len(anchors) {
			break
		}
		a, _ := s.implement(anchors[i])
		switch a.Kind {
		case Table:
			if !a.Holds(bodyMass) {
				return nil, false
			}
			add(CheckTipping)
		case Band:
			add(CheckAnchor)
		case Bench, Box:
			holds, ask := body.Support(a.Rated, bodyMass, o.Total, need == "step")
			if !holds && !ask {
				return nil, false
			}
			if ask || a.Rated == 0 {
				add(CheckRating)
			}
			if need == "bench" || need == "seat" {
				add(CheckHeight)
			}
		}
	}
	if slices.Contains(v.Room, "smooth-floor") {
		add(CheckFloor)
	}
	if v.Ladder == "kneeling-lower" {
		add(CheckAnchor)
	}
	if o.Load.Kind == Made {
		add(CheckClosed)
		if h.ID == "back" {
			add(CheckStraps)
		}
		add(CheckWeigh)
	}
	if o.Load.Kind == Objects {
		add(CheckWeigh)
	}
	if o.Total > 0 && h.Pad {
		add(CheckPadding)
	}
	if o.Total > 0 && (v.Demands["grip"] >= 2 || h.OneHand && o.Load.Kind != Implements) {
		add(CheckGrip)
	}
	return out, true
}

// why says how hard the option is beside what was wished.
func (w Wish) why(x Substitute, iron bool) why.Why {
	code := why.SubstituteResistance
	if iron {
		code = why.SubstituteIron
	}
	out := why.Of(code, why.Model, why.ID("move", w.Variant.ID), why.G("load", float64(w.Load)), why.G("wanted", math.Round(x.Wanted)), why.G("reached", math.Round(x.Reached)),
		why.Pct("resistance", measure.Round(x.ResistancePct, 1)), why.Pct("iron", measure.Round(x.IronPct, 1)), why.N("reps", w.Reps))
	out = out.With(x.Mend.why()...)
	if !iron {
		got, _ := x.Variant.Resistance.Resist(w.Body, x.Total, x.Variant.Setting())
		out = out.With(x.Variant.Resistance.Why(w.Body, x.Total, got))
	}
	if x.LeftPct < -GoodResistancePct {
		out = out.With(why.Of(why.SubstituteShort, why.Model, why.Pct("left", measure.Round(x.LeftPct, 1))))
	}
	return out
}

// Usual is the wish that a lane has without a benchmark: the starting load and the
// usual repetitions of a variant.
func Usual(v *moves.Variant, hold moves.HoldID, p Person) Wish {
	h, _ := moves.HoldOf(hold)
	return Wish{Person: p, Variant: v, Hold: hold, Load: measure.Grams(strength.Starting(v, h.Count, p.Lane, p.Body, p.Stature).Total),
		Reps: usualReps(v), Reserve: usualReserve}
}

// usualReserve is what is kept in reserve unless somebody says otherwise (house).
const usualReserve = 2

func usualReps(v *moves.Variant) int { return min(max(10, v.RepsLow), v.RepsHigh) }
