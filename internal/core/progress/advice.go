// Package progress turns what happened in a class into advice for the next one.
// The instructor has the last word.
package progress

import (
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// Pain is what somebody felt. Muscle burn is expected and asked about apart from
// joint pain.
type Pain string

// The answers.
const (
	NoPain Pain = "none"
	Burn   Pain = "burn"
	Joint  Pain = "joint"
)

// Line is what a participant or a lane did in a slot.
type Line struct {
	strength.Set
	Pain Pain
	Load measure.Mass
}

// Advice is what to do next time.
type Advice string

// The advice that is given.
const (
	Keep        Advice = "keep"         // same load and repetitions
	KeepAtLimit Advice = "keep-limit"   // right, but at the limit: hold
	OneMore     Advice = "watch"        // light once: if again, go up
	NextLoad    Advice = "next-load"    // take the next load
	MoreReps    Advice = "more-reps"    // the next load is too far: repetitions first
	NextRung    Advice = "next-rung"    // no load to add: one rung up
	LessLoad    Advice = "less-load"    // next lighter load, or fewer repetitions
	RungDown    Advice = "rung-down"    // form lost twice running
	StopMove    Advice = "stop-move"    // joint pain: change the move, note it
	OffPlan     Advice = "off-the-plan" // joint pain again: off the plan, refer
)

// Case is what advice is given on.
type Case struct {
	Variant *moves.Variant
	// Next and Easier are the neighbours on the ladder, nil at its ends.
	Next, Easier *moves.Variant
	Body         measure.Mass
	Now          Line
	// Before is the line of the session before with the same variant, if any.
	Before *Line
	// NextLoad is the next heavier load the place has for the hold, 0 for none.
	NextLoad measure.Mass
	OneHand  bool
}

// Result is a verdict and what to do about it.
type Result struct {
	Verdict strength.Verdict `json:"verdict" enum:"form-lost,heavy,far-too-light,light,right"`
	AtLimit bool             `json:"atLimit"`
	Advice  Advice           `json:"advice" enum:"keep,keep-limit,watch,next-load,more-reps,next-rung,less-load,rung-down,stop-move,off-the-plan"`
	Why     why.Why          `json:"why"`
}

// Advise judges a line and says what to do next time. Pain comes first, then
// form, then load; going up needs two light sessions running, or one that was far
// too light, and a step the rule allows.
func Advise(c Case) Result {
	v, limit := strength.Judge(c.Now.Set)
	r := Result{Verdict: v, AtLimit: limit, Why: strength.WhyVerdict(c.Now.Set, v, limit)}
	again := func(is func(strength.Verdict) bool) bool {
		if c.Before == nil {
			return false
		}
		b, _ := strength.Judge(c.Before.Set)
		return is(b)
	}
	light := func(v strength.Verdict) bool { return v == strength.Light || v == strength.FarTooLight }
	switch {
	case c.Now.Pain == Joint && c.Before != nil && c.Before.Pain == Joint:
		r.set(OffPlan, why.Of(why.AdviceOffPlan, why.Practice))
	case c.Now.Pain == Joint:
		r.set(StopMove, why.Of(why.AdviceStopMove, why.Practice))
	case v == strength.FormLost && again(func(v strength.Verdict) bool { return v == strength.FormLost }):
		r.set(RungDown, withRung(why.Of(why.AdviceRungDown, why.Practice), c.Easier))
	case v == strength.FormLost || v == strength.Heavy:
		r.set(LessLoad, why.Of(why.AdviceLessLoad, why.Practice))
	case v == strength.FarTooLight || v == strength.Light && again(light):
		c.up(&r)
	case v == strength.Light:
		r.set(OneMore, why.Of(why.AdviceWatch, why.Published))
	case limit:
		r.set(KeepAtLimit, why.Of(why.AdviceKeepLimit, why.Practice))
	default:
		r.set(Keep, why.Of(why.AdviceKeep, why.Practice))
	}
	return r
}

func (r *Result) set(a Advice, w why.Why) {
	r.Advice = a
	r.Why = r.Why.With(w)
}

func withRung(w why.Why, v *moves.Variant) why.Why {
	if v != nil {
		w.Terms = append(w.Terms, why.ID("variant", v.ID))
	}
	return w
}

func (c Case) up(r *Result) {
	if c.NextLoad > c.Now.Load {
		rise := strength.Step(c.Variant, c.Body, c.Now.Load, c.NextLoad, c.OneHand)
		terms := []why.Term{why.G("from", float64(c.Now.Load)), why.G("to", float64(c.NextLoad)),
			why.Pct("iron", measure.Round(rise.IronPct, 1)), why.Pct("resistance", measure.Round(rise.ResistancePct, 1))}
		if rise.Allowed {
			r.set(NextLoad, why.Of(why.AdviceNextLoad, why.House, terms...))
			return
		}
		r.set(MoreReps, why.Of(why.AdviceMoreReps, why.House, terms...))
		return
	}
	if c.Next != nil {
		r.set(NextRung, withRung(why.Of(why.AdviceNextRung, why.House), c.Next))
		return
	}
	r.set(MoreReps, why.Of(why.AdviceRepsOnly, why.House))
}
