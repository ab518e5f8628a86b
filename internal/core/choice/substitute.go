package choice

import (
	"cmp"
	"math"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// Wish is a set that a place may not have the load for.
type Wish struct {
	Party
	Variant *moves.Variant
	Hold    moves.HoldID
	Load    measure.Mass // all implements together
	// Reps that are planned and Reserve that is kept.
	Reps, Reserve int
	// FirstTime is somebody's first session with the move.
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
	Way Way
	Entry
	Mend
	// Compared says that the resistances may be compared; where they may not, the
	// numbers below say nothing.
	Compared bool
	// Wanted and Reached are comparable resistances in grams, or iron for moves that
	// have no resistance.
	Wanted, Reached        float64
	IronPct, ResistancePct float64
	// Lost and Gained name demands that fall or rise: grip, balance, low-back ...,
	// sides, pattern, iron, speed.
	Lost, Gained []string
	// Check lists what to look at before use.
	Check []string
	Why   why.Why
	cost  float64
}

// What an option costs beside its miss (house): the way it goes, what could not be
// mended, and where nothing can be compared the iron that is missing.
var wayCost = map[Way]float64{
	ByImplement: 0,
	ByObject:    1,
	ByPacked:    2,
	ByTwo:       3,
	ByTempo:     6,
	ByOneSide:   8,
	ByLever:     8,
	ByMove:      12,
}

// repairCost is what each mend costs: the right load needs none.
var repairCost = map[Repair]float64{MoreReps: 1, FewerReps: 8, Slower: 4, Paused: 3}

const (
	unmendedCost   = 40.0
	uncomparedCost = 60.0
	markShare      = 0.2
)

// Substitutes ranks what a place has for a wish, the best first, at most limit, one
// for each variant and way. Only what has no fault for the party is offered: the wish
// itself stands for a benchmark on its scale. Too light and too heavy are mended by
// their own lists. What cannot be compared comes last and has no number. The work grows
// with the library times the place's loads for a hold.
func Substitutes(c Class, w Wish, limit int) []Substitute {
	c.Stock = c.Stock.Memoized()
	c.Work = 0
	c.Chosen = append([]string{w.Variant.ID}, c.Chosen...)
	for _, v := range c.Library.All() {
		if v.Role == w.Variant.Role {
			c.Chosen = append(c.Chosen, v.ID)
		}
	}
	j := For(c, w.Party)
	j.agreed, j.firstTime = agreed{w.Variant, w.Load}, w.FirstTime
	var out []Substitute
	for _, v := range c.Library.All() {
		way, ok := w.leads(c.Library, v)
		if !ok {
			continue
		}
		best := map[Way]Substitute{}
		j.each(v, func(e Entry) {
			x, ok := w.look(j, e, way)
			if old, had := best[x.Way]; ok && (!had || x.cost < old.cost) {
				best[x.Way] = x
			}
		})
		for _, way := range Ways {
			if x, ok := best[way]; ok {
				out = append(out, x)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Substitute) int { return cmp.Compare(a.cost, b.cost) })
	return out[:min(limit, len(out))]
}

// leads tells by which way a variant could stand for the wish.
func (w Wish) leads(lib *moves.Library, v *moves.Variant) (way Way, ok bool) {
	own := w.Variant
	if v == own {
		return ByImplement, true
	}
	pattern := v.Pattern == own.Pattern
	comparable := v.Family == own.Family && v.Family != body.None
	if !pattern && !comparable || v.Gate != "" || v.Drill || v.Ballistic && !own.Ballistic || !lib.Offers(v) {
		return "", false
	}
	if v.Overhead && !own.Overhead || v.Role != moves.Main && v.Role != moves.Accessory && v.Role != own.Role {
		return "", false
	}
	switch {
	case v.HeldByTwo() && !own.HeldByTwo():
		return ByTwo, pattern
	case v.Sides == moves.PerSide && own.Sides != moves.PerSide:
		return ByOneSide, true
	case !pattern:
		return "", false
	case v.Lever != nil && (v.Lever.Name == "tempo" || v.Lever.Name == "pause"):
		return ByTempo, true
	case own.Ladder != "" && v.Ladder == own.Ladder:
		return ByLever, true
	}
	return ByMove, true
}

// resisted is what a load asks in a variant, in the measure the wish is compared by.
func (w Wish) resisted(v *moves.Variant, load measure.Mass, set body.Setting) float64 {
	if v.Family == body.None {
		return float64(load)
	}
	r, _ := v.Resistance.Resist(w.Body, load, set)
	return r.Comparable
}

// Asked is what the wish asks of the limb: comparable resistance in grams, or the iron
// where the move has none.
func (w Wish) Asked() float64 { return w.resisted(w.Variant, w.Load, w.Variant.Setting()) }

// look judges one entry; ok is false where it must not be given.
func (w Wish) look(j *Judge, e Entry, way Way) (Substitute, bool) {
	v := e.Variant
	x := Substitute{
		Way:      way,
		Entry:    e,
		Compared: Compares(w.Variant, v),
		Wanted:   w.Asked(),
		Reached:  w.resisted(v, e.Total, j.Setting(e)),
	}
	if !j.Allowed(e) || x.Compared && x.Wanted <= 0 && x.Reached > 0 {
		return x, false
	}
	h, _ := moves.HoldOf(e.Hold)
	if way == ByImplement {
		switch {
		case e.Load.Kind == kit.Made:
			x.Way = ByPacked
		case e.Load.Kind == kit.Objects:
			x.Way = ByObject
		case h.Count == 2 && !w.heldTwo():
			x.Way = ByTwo
		}
	}
	switch {
	case w.Load > 0:
		x.IronPct = 100 * (float64(e.Total)/float64(w.Load) - 1)
	case e.Total > 0:
		x.IronPct = 100
	}
	x.Lost, x.Gained = Changes(w.Variant, v, x.IronPct)
	x.Check = j.Checks(e)
	mark := markShare * j.mark(v)
	if !x.Compared {
		x.Mend = Mend{Reps: min(max(w.Reps, v.RepsLow), v.RepsHigh), Tempo: v.Tempo, OK: true}
		x.cost = uncomparedCost + wayCost[x.Way] + mark + min(math.Abs(x.IronPct), 100)/2
		x.Why = w.why(j, x)
		return x, true
	}
	ratio := 1.0
	if x.Wanted > 0 {
		ratio = x.Reached / x.Wanted
	}
	x.ResistancePct = 100 * (ratio - 1)
	// Iron says how hard only where the same body shape is held the same way.
	ironOff := x.IronPct
	if v != w.Variant {
		ironOff = 0
	}
	if ratio > 1+1e-9 && (v.NeverUp() || w.FirstTime && x.ResistancePct > CarefulOverPct) {
		return x, false
	}
	x.Mend = mend(v, w.Reps, w.Reserve, ratio, ironOff, 0)
	if !x.OK {
		return x, false
	}
	x.cost = math.Abs(x.LeftPct) + wayCost[x.Way] + mark
	if x.LeftPct > 0 {
		x.cost += x.LeftPct
	}
	if x.LeftPct < -GoodResistancePct {
		x.cost += unmendedCost
	}
	for _, r := range x.Repairs {
		x.cost += repairCost[r]
	}
	x.Why = w.why(j, x)
	return x, true
}

// heldTwo tells whether the wish itself is held with two implements.
func (w Wish) heldTwo() bool {
	h, _ := moves.HoldOf(w.Hold)
	return h.Count == 2
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
	if own.Ballistic && !v.Ballistic {
		lost = append(lost, "speed")
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

// What to look at before use, beside what a load asks (kit.CheckGrip and the like).
const (
	CheckTipping = "tipping"
	CheckAnchor  = "anchor"
	CheckRating  = "support-rating"
	CheckHeight  = "bench-height"
	CheckFloor   = "smooth-floor"
	CheckPadding = "padding"
)

// Checks lists what to look at before an entry is used, with the supports it names.
func (j *Judge) Checks(e Entry) []string {
	var out []string
	v := e.Variant
	h, _ := moves.HoldOf(e.Hold)
	add := func(when bool, what string) {
		if when && !slices.Contains(out, what) {
			out = append(out, what)
		}
	}
	for _, x := range j.served(e) {
		need, s := x.need, x.by
		add(s.Kind == kit.Table, CheckTipping)
		add(s.Kind == kit.Band, CheckAnchor)
		stood := s.Kind == kit.Bench || s.Kind == kit.Box
		add(stood && s.Rated == 0, CheckRating)
		add(stood && (need == "bench" || need == "seat"), CheckHeight)
	}
	add(slices.Contains(v.Room, "smooth-floor"), CheckFloor)
	add(v.Anchored, CheckAnchor)
	made := e.Load.Kind == kit.Made
	add(made, kit.CheckClosed)
	add(made && h.ID == "back", kit.CheckStraps)
	add(made || e.Load.Kind == kit.Objects, kit.CheckWeigh)
	add(e.Total > 0 && h.Pad, CheckPadding)
	add(e.Total > 0 && (v.Demands["grip"] >= 2 || h.OneHand && e.Load.Kind != kit.Implements), kit.CheckGrip)
	return out
}

// why says how hard the option is beside what was wished.
func (w Wish) why(j *Judge, x Substitute) why.Why {
	terms := []why.Term{
		why.ID("move", w.Variant.ID),
		why.G("load", float64(w.Load)),
		why.Pct("iron", measure.Round(x.IronPct, 1)),
		why.N("reps", w.Reps),
	}
	if !x.Compared {
		return why.Of(why.SubstituteUncompared, why.Model, terms...)
	}
	terms = append(terms, why.G("wanted", math.Round(x.Wanted)), why.G("reached", math.Round(x.Reached)),
		why.Pct("resistance", measure.Round(x.ResistancePct, 1)))
	out := why.Of(why.SubstituteResistance, why.Model, terms...).With(x.Mend.why()...)
	if x.Variant.Family != body.None {
		got, _ := x.Variant.Resistance.Resist(w.Body, x.Total, j.Setting(x.Entry))
		out = out.With(x.Variant.ResistanceWhy(w.Body, x.Total, got))
	}
	if x.LeftPct < -GoodResistancePct {
		out = out.With(why.Of(why.SubstituteShort, why.Model, why.Pct("left", measure.Round(x.LeftPct, 1))))
	}
	return out
}

// Usual is the wish that a party has without a benchmark: the starting load and the
// usual repetitions of a variant.
func Usual(v *moves.Variant, hold moves.HoldID, p Party) Wish {
	h, _ := moves.HoldOf(hold)
	return Wish{
		Party:   p,
		Variant: v,
		Hold:    hold,
		Load:    measure.Grams(strength.Starting(v, h.Count, p.Lane, p.Body, p.Stature).Total),
		Reps:    UsualReps(v),
		Reserve: strength.UsualReserve,
	}
}
