package kit

import (
	"cmp"
	"math"
	"slices"
	"sort"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// Good enough is within 7.5 % in resistance and 25 % in iron (house).
const (
	GoodResistancePct = 7.5
	GoodIronPct       = 25.0
)

// Person is the body a load is chosen for.
type Person struct {
	Lane    moves.Lane
	Body    measure.Mass
	Stature measure.Length
}

// Fit is a load for a variant and how near it comes to what is wanted.
type Fit struct {
	Variant *moves.Variant
	Hold    moves.HoldID
	Option
	Wanted float64
	// IronPct and ResistancePct say how far the load is off; negative is too
	// light. ResistancePct equals IronPct for moves judged by iron alone.
	IronPct, ResistancePct float64
	// Resistance of the load that is looked at.
	Resistance body.Resistance
	Good       bool
	Mend       Mend
	Why        why.Why
}

// Miss is the cost of a fit: per cent off in resistance, too heavy counted
// double.
func (f Fit) Miss() float64 {
	if f.ResistancePct > 0 {
		return 2 * f.ResistancePct
	}
	return -f.ResistancePct
}

// Judge says how well a load suits a variant in a hold for a person.
func Judge(v *moves.Variant, hold moves.HoldID, o Option, p Person) Fit {
	h, _ := moves.HoldOf(hold)
	count := h.Count
	if count == 0 {
		count = heaviestHold(v)
	}
	wanted := strength.Starting(v, count, p.Lane, p.Body, p.Stature)
	f := Fit{Variant: v, Hold: hold, Option: o, Wanted: wanted.Total}
	got, _ := v.Resistance.Resist(p.Body, o.Total, v.Setting())
	f.Resistance = got
	if wanted.Total > 0 {
		f.IronPct = 100 * (float64(o.Total)/wanted.Total - 1)
		f.ResistancePct = f.IronPct
		if !v.ByIronAlone() {
			want, _ := v.Resistance.Resist(p.Body, measure.Grams(wanted.Total), v.Setting())
			f.ResistancePct = 100 * (got.Comparable/want.Comparable - 1)
		}
	} else if o.Total > 0 {
		f.IronPct, f.ResistancePct = 100, 100
		if bare, _ := v.Resistance.Resist(p.Body, 0, v.Setting()); !v.ByIronAlone() && bare.Comparable > 0 {
			f.ResistancePct = 100 * (got.Comparable/bare.Comparable - 1)
		}
	}
	f.Good = math.Abs(f.ResistancePct) <= GoodResistancePct && math.Abs(f.IronPct) <= GoodIronPct
	w := why.Of(why.LoadChosen, why.House, why.G("wanted", float64(measure.Grams(wanted.Total))), why.G("chosen", float64(o.Total)),
		why.Pct("iron", measure.Round(f.IronPct, 1)), why.Pct("resistance", measure.Round(f.ResistancePct, 1)))
	if wanted.Total == 0 && o.Total == 0 {
		w = why.Of(why.LoadBody, why.House)
	}
	w = w.With(wanted.Why)
	if v.Family != body.None {
		w = w.With(v.Resistance.Why(p.Body, o.Total, got))
	}
	if p.Lane == moves.Ground && o.Total > 0 {
		w = w.With(why.Of(why.NeverUpGround, why.House))
	} else if v.NeverUp() {
		w = w.With(why.Of(why.NeverUpMove, why.House))
	}
	f.Mend = Mend{Reps: usualReps(v), Tempo: v.Tempo, OK: true}
	if !f.Good && f.ResistancePct < 0 {
		f.Mend = mend(v, usualReps(v), usualReserve, 1+f.ResistancePct/100, f.IronPct)
		w = w.With(f.Mend.why()...)
	}
	f.Why = w
	return f
}

// Fits lists the loads of a place that a person may be given for a variant, the
// nearest first, at most limit a hold. Nothing is rounded up overhead, over the
// face, in ballistic moves or for Ground; elsewhere a load may be above the
// wanted one only while it is good enough and under the move's ceiling. A variant that allows no load always
// has that fit.
func Fits(s Stock, v *moves.Variant, p Person, limit int) []Fit {
	var out []Fit
	for _, id := range v.Holds {
		h, _ := moves.HoldOf(id)
		var fits []Fit
		for _, o := range s.nearOptions(v, h, p, limit) {
			f := Judge(v, id, o, p)
			if h.Count > 0 && !f.allowed(p) {
				continue
			}
			fits = append(fits, f)
		}
		sort.SliceStable(fits, func(a, b int) bool { return fits[a].Miss() < fits[b].Miss() })
		out = append(out, fits[:min(limit, len(fits))]...)
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].Miss() < out[b].Miss() })
	return out
}

// Serves lists the variants, in the library's order, that a place's kit serves for
// somebody in some lane: every anchor is there, and a load that may be given, or
// none is needed.
func Serves(s Stock, lib *moves.Library, body measure.Mass, stature measure.Length) []string {
	out := []string{}
	s = s.Kept()
	for _, v := range lib.All() {
		missing := slices.ContainsFunc(v.Needs, func(n string) bool { _, ok := s.Anchor(v, n, 1, s.Pieces); return !ok })
		if missing {
			continue
		}
		if slices.ContainsFunc(moves.Lanes, func(l moves.Lane) bool { return len(Fits(s, v, Person{l, body, stature}, 1)) > 0 }) {
			out = append(out, v.ID)
		}
	}
	return out
}

func (f Fit) allowed(p Person) bool {
	if f.Wanted == 0 {
		return false
	}
	h, _ := moves.HoldOf(f.Hold)
	if most := f.Variant.Ceiling(h.Count); most > 0 && f.Total > most {
		return false
	}
	if tooMuchOnBack(f.Variant, f.Hold, f.Total, p.Body) {
		return false
	}
	if f.IronPct <= 0 {
		return true
	}
	return f.Good && p.Lane != moves.Ground && !f.Variant.NeverUp()
}

func heaviestHold(v *moves.Variant) int {
	n := 0
	for _, id := range v.Holds {
		if h, ok := moves.HoldOf(id); ok {
			n = max(n, h.Count)
		}
	}
	return n
}

// nextPackedPct is how much heavier a packed load is that comes next: half of what
// one step may be (house).
const nextPackedPct = 5

// NextLoad gives the lightest load a place has for any hold of a variant that is
// heavier than the one in use, 0 when there is none, and whether it is held in
// one hand. Packed loads, which come in every size, count from 5 % more.
func NextLoad(s Stock, v *moves.Variant, now measure.Mass) (next measure.Mass, oneHand bool) {
	for _, id := range v.Holds {
		h, _ := moves.HoldOf(id)
		for _, o := range s.Options(v, h) {
			if o.Load.Kind == Made && 100*o.Total < (100+nextPackedPct)*now {
				continue
			}
			if o.Total > now && (next == 0 || o.Total < next) {
				next, oneHand = o.Total, h.OneHand
			}
		}
	}
	return next, oneHand
}

// nearOptions lists what suits a hold near a lane's starting load.
func (s Stock) nearOptions(v *moves.Variant, h moves.Hold, p Person, limit int) []Option {
	return s.near(v, h, measure.Grams(strength.Starting(v, h.Count, p.Lane, p.Body, p.Stature).Total), limit)
}

// near lists what suits a hold as it is and, of the packed loads, which come in every
// size, the few next to what is wanted.
func (s Stock) near(v *moves.Variant, h moves.Hold, wanted measure.Mass, limit int) []Option {
	if h.Count == 0 {
		return []Option{{Load: Nothing}}
	}
	out := s.single(v, h)
	packed := s.packed(v, h)
	if len(packed) > 0 {
		slices.SortStableFunc(packed, func(a, b Option) int { return cmp.Compare(a.Total, b.Total) })
		at, _ := slices.BinarySearchFunc(packed, wanted+1, func(o Option, m measure.Mass) int { return cmp.Compare(o.Total, m) })
		out = append(out, packed[max(0, at-limit):min(len(packed), at+limit)]...)
	}
	slices.SortStableFunc(out, func(a, b Option) int { return cmp.Compare(a.Total, b.Total) })
	return out
}
