package progress

import (
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// Advice is what to do next time.
type Advice string

// The advice that is given.
const (
	Keep        Advice = "keep"         // same load, one repetition more
	KeepAtLimit Advice = "keep-limit"   // right, but at the limit: the same again
	MoreReps    Advice = "more-reps"    // light, or not ready for the next load: repetitions
	NextLoad    Advice = "next-load"    // take the next load
	Bridge      Advice = "bridge"       // the next load is too far: the first week of its bridge
	NextRung    Advice = "next-rung"    // no load to add: one rung up
	FewerReps   Advice = "fewer-reps"   // heavy: the same load for fewer
	LessLoad    Advice = "less-load"    // heavy or out of form: the next lighter load
	RungDown    Advice = "rung-down"    // form lost twice running
	Lighter     Advice = "lighter"      // long not done: the next lighter load comes first
	StartAgain  Advice = "start-again"  // longer not done: the starting load
	StopMove    Advice = "stop-move"    // joint pain: change the move, note it
	OffPlan     Advice = "off-the-plan" // joint pain again: off the plan, refer
	AsBefore    Advice = "as-before"    // the plan itself was too light: nothing follows
	Ease        Advice = "ease"         // sore the day after where it should not be: lighter, trunk braced
)

// Decision is what the log says of a move for the next class.
type Decision struct {
	Move   string
	Advice Advice
	// Load all together and repetitions a side; Load is meant only where Loaded is.
	Load   measure.Mass
	Loaded bool
	Reps   int
	// Hold that the load was held in.
	Hold moves.HoldID
	// To is the variant a rung up or down, where that is the advice.
	To      string
	Day     int
	Verdict strength.Verdict
	AtLimit bool
	Why     why.Why
	// Overruled says that the instructor set it aside: nothing follows.
	Overruled bool
}

// Case is a subject's history with a move, and what the place and the ladder offer.
type Case struct {
	Variant *moves.Variant
	// Next and Easier are the neighbours on the ladder, nil at its ends.
	Next, Easier *moves.Variant
	Body         measure.Mass
	// Day of the class to come.
	Day int
	// Lines of the subject with this move, the oldest first, at least one.
	Lines []Line
	// Loads that the place has for the hold in use, in any order.
	Loads   []measure.Mass
	OneHand bool
}

// trustedSessions is from how many sessions on somebody's word on the reserve is taken
// (house).
const trustedSessions = 6

// Decide says what a history with a move leads to (rules of the log, house): pain
// aside, readiness is looked at first, whatever the verdict; then the verdict on the
// newest session. One step of load or rung is taken a week.
func Decide(c Case) Decision {
	c.Lines = mainSets(c.Lines)
	days := byDay(c.Lines)
	now := days[len(days)-1]
	v, limit := strength.Judge(now.Set)
	d := Decision{
		Move:    c.Variant.ID,
		Load:    now.Load,
		Loaded:  now.Load > 0,
		Reps:    now.Planned,
		Hold:    now.Hold,
		Day:     now.Day,
		Verdict: v,
		AtLimit: limit,
	}
	verdict := strength.WhyVerdict(now.Set, v, limit)
	set := func(a Advice, w why.Why) Decision {
		d.Advice, d.Why = a, w.With(verdict)
		return d
	}
	ago := c.Day - now.Day
	switch {
	case ago >= startingAfter:
		d.Loaded = false
		return set(StartAgain, why.Of(why.AdviceStartAgain, why.House, why.N("weeks", ago/week)))
	case now.TooLight:
		return set(AsBefore, why.Of(why.AdviceAsBefore, why.House))
	case now.Aside:
		return set(AsBefore, why.Of(why.AdviceAside, why.House))
	case now.LighterG != nil:
		return set(AsBefore, why.Of(why.AdviceLightened, why.House, why.G("to", float64(*now.LighterG))))
	case ago >= lighterAfter:
		d.lighter(c)
		return set(Lighter,
			why.Of(why.AdviceLighter, why.House, why.N("weeks", ago/week), why.G("to", float64(d.Load))))
	}
	if now.Pain == Sore {
		if !d.lighter(c) {
			d.Reps = max(1, min(now.Planned-1, c.Variant.RepsLow))
		}
		return set(Ease, why.Of(why.AdviceEase, why.Practice, why.ID("joint", now.Joint), why.G("to", float64(d.Load)),
			why.N("reps", d.Reps)))
	}
	before := &Line{}
	if len(days) > 1 {
		before = &days[len(days)-2]
	}
	if w, ok := c.ready(days, v); ok {
		if a, x, ok := c.up(&d, days, w); ok {
			return set(a, x)
		}
	}
	bv, _ := strength.Judge(before.Set)
	switch {
	case v == strength.FormLost && len(days) > 1 && bv == strength.FormLost && c.Easier != nil:
		d.To = c.Easier.ID
		return set(RungDown, why.Of(why.AdviceRungDown, why.Practice, why.ID("variant", c.Easier.ID)))
	case v == strength.FormLost:
		d.Reps = max(1, now.InForm)
		d.lighter(c)
		return set(LessLoad,
			why.Of(why.AdviceLessLoad, why.Practice, why.G("to", float64(d.Load)), why.N("reps", d.Reps)))
	case v == strength.Heavy && now.InForm >= c.Variant.RepsLow:
		d.Reps = now.InForm
		return set(FewerReps, why.Of(why.AdviceFewerReps, why.Practice, why.N("reps", d.Reps)))
	case v == strength.Heavy:
		if !d.lighter(c) {
			d.Reps = max(1, now.InForm)
		}
		return set(LessLoad,
			why.Of(why.AdviceLessLoad, why.Practice, why.G("to", float64(d.Load)), why.N("reps", d.Reps)))
	case limit:
		return set(KeepAtLimit, why.Of(why.AdviceKeepLimit, why.Practice))
	case v == strength.Right:
		d.Reps = min(now.Planned+1, max(c.mostReps(now), now.Planned))
		return set(Keep, why.Of(why.AdviceKeep, why.House, why.N("reps", d.Reps)))
	}
	d.Reps = min(now.Planned+2, max(c.mostReps(now), now.Planned))
	return set(MoreReps,
		why.Of(why.AdviceRepsOnly, why.House, why.N("reps", d.Reps), why.N("over", c.Variant.RepsHigh)))
}

// mainSets are the lines of sets that step something; where there are none, all.
func mainSets(lines []Line) []Line {
	var out []Line
	for _, l := range lines {
		if !l.Aside {
			out = append(out, l)
		}
	}
	if len(out) == 0 {
		return lines
	}
	return out
}

// byDay takes one line a day, of several the one with the fewest in form.
func byDay(lines []Line) []Line {
	var out []Line
	for _, l := range lines {
		if n := len(out); n > 0 && out[n-1].Day == l.Day {
			felt := out[n-1].Pain
			if l.InForm-l.Planned < out[n-1].InForm-out[n-1].Planned {
				out[n-1] = l
			}
			if felt == Joint || felt == Sore && l.Pain != Joint {
				out[n-1].Pain = felt
			}
			continue
		}
		out = append(out, l)
	}
	return out
}

// ready tells whether more was done than the range asks in two sessions running at the
// load, or once far too much; by reserve only where the low end was planned.
func (c Case) ready(days []Line, v strength.Verdict) (farTooLight bool, ok bool) {
	now := days[len(days)-1]
	if now.Pain == Joint {
		return false, false
	}
	bySet := now.Set
	bySet.Reserve = nil
	if w, _ := strength.Judge(bySet); v == strength.FarTooLight &&
		(w == strength.FarTooLight || now.Planned >= c.Variant.RepsLow) {
		return true, true
	}
	return false, now.InForm > c.Variant.RepsHigh && c.sessionsOver(days) >= 2
}

// sessionsOver counts the newest sessions running that went over the range with the
// load in use or a heavier one.
func (c Case) sessionsOver(days []Line) int {
	n := 0
	now := days[len(days)-1]
	for i := len(days) - 1; i >= 0 && days[i].InForm > c.Variant.RepsHigh && days[i].Load >= now.Load && !days[i].TooLight; i-- {
		n++
	}
	return n
}

// sessionsAWeek is how many sessions a week of a bridge is.
const sessionsAWeek = 2

// readyFor counts the sessions running at the load in use in which it was ready already, before
// the newest.
func (c Case) readyFor(days []Line) int {
	now := days[len(days)-1]
	n := 0
	for end := len(days) - 1; end > 0 && days[end-1].Load == now.Load; end-- {
		v, _ := strength.Judge(days[end-1].Set)
		if _, ok := c.ready(days[:end], v); !ok {
			break
		}
		n++
	}
	return n
}

// steppedThisWeek tells whether the load in use is newer than a week.
func (c Case) steppedThisWeek(days []Line) bool {
	now := days[len(days)-1]
	first := now.Day
	for i := len(days) - 1; i >= 0; i-- {
		if days[i].Load < now.Load {
			return c.Day-first < week
		}
		if days[i].Load == now.Load {
			first = days[i].Day
		}
	}
	return false
}

// up takes the next step: of load where the step rule and the index say so, else the
// rung above; where the next load is too far, the first week of its bridge.
func (c Case) up(d *Decision, days []Line, farTooLight bool) (Advice, why.Why, bool) {
	now := days[len(days)-1]
	if c.steppedThisWeek(days) {
		d.Reps = min(now.Planned+1, max(c.mostReps(now), now.Planned))
		return Keep, why.Of(why.AdviceOneStep, why.House, why.N("reps", d.Reps)), true
	}
	next, ok := c.next(now.Load)
	if ok && now.Load == 0 {
		if rise := strength.Step(c.Variant, c.Body, 0, next, c.OneHand); rise.Allowed {
			d.Load, d.Loaded, d.Reps = next, true, c.Variant.RepsLow
			return NextLoad, why.Of(why.AdviceNextLoad, why.House, why.G("from", 0), why.G("to", float64(next)),
				why.N("reps", d.Reps), why.Pct("resistance", measure.Round(rise.ResistancePct, 1))), true
		}
		ok = false
	}
	if ok && !c.Variant.Staged() {
		climb := c.climb(days, next, farTooLight)
		climb.FarTooLight = true // readiness is decided here, by what was in form
		b := strength.Over(climb)
		w := b.Weeks[0]
		if b.Reached && (w.By == strength.ByBlend || w.By == strength.ByUneven) {
			// The log knows one load a set: what was blended shows as weeks of being ready.
			w = b.Weeks[min(c.readyFor(days)/sessionsAWeek, len(b.Weeks)-1)]
		}
		switch {
		case b.Now() || w.By == strength.ByMade || b.Reached && w.By == strength.ByLoad:
			d.Load, d.Loaded, d.Reps = w.LoadG, true, w.Reps
			return NextLoad, why.Of(why.AdviceNextLoad, why.House, why.G("from", float64(now.Load)), why.G("to", float64(w.LoadG)), why.N("reps", w.Reps)).
					With(b.Why),
				true
		case b.Reached || c.Next == nil:
			d.Reps = max(w.Reps, now.Planned)
			x := why.Of(why.AdviceBridge, why.House, why.N("reps", d.Reps), why.G("to", float64(next)))
			if w.By == strength.ByUneven {
				x.Terms = append(x.Terms, why.G("uneven", float64(w.LoadG)))
			}
			if w.Blend != nil {
				x.Terms = append(x.Terms, why.N("blendSets", w.Blend.Sets), why.N("blendReps", w.Blend.Reps))
			}
			return Bridge, x.With(b.Why), true
		}
	}
	if c.Next != nil {
		d.To = c.Next.ID
		return NextRung, why.Of(why.AdviceNextRung, why.House, why.ID("variant", c.Next.ID)), true
	}
	return "", why.Why{}, false
}

// climb asks the way from the load in use to another. The repetitions that could have
// been done are those in form and those in reserve; beginners say too few are left, so
// more than the usual counts only from six sessions on (house).
func (c Case) climb(days []Line, to measure.Mass, farTooLight bool) strength.Climb {
	now := days[len(days)-1]
	left := strength.UsualReserve
	if now.Reserve != nil {
		left = *now.Reserve
		if len(days) < trustedSessions {
			left = min(left, strength.UsualReserve)
		}
	}
	return strength.Climb{
		Variant:      c.Variant,
		OneHand:      c.OneHand,
		Body:         c.Body,
		From:         now.Load,
		To:           to,
		RepsLow:      c.Variant.RepsLow,
		RepsHigh:     c.Variant.RepsHigh,
		LastReps:     max(0, now.InForm+left-strength.UsualReserve),
		SessionsOver: c.sessionsOver(days),
		Reserve:      strength.UsualReserve,
		FarTooLight:  farTooLight,
		Between:      c.Loads,
		Above:        c.Next,
	}
}

// nextPackedPct is how much heavier a load is that counts as the next: packed loads
// come in every size (house).
const nextPackedPct = 5

// next is the lightest load that is heavier than the one in use.
func (c Case) next(now measure.Mass) (measure.Mass, bool) {
	best := measure.Mass(0)
	for _, l := range c.Loads {
		if l > now && l >= strength.LeastLoad && 100*l >= (100+nextPackedPct)*now && (best == 0 || l < best) {
			best = l
		}
	}
	return best, best > 0
}

// lighter takes the next lighter load, no load where the move is done so too; ok is
// false where there is none.
func (d *Decision) lighter(c Case) bool {
	best, found := measure.Mass(0), false
	for _, l := range c.Loads {
		if l < d.Load && 100*d.Load >= (100+nextPackedPct)*l && (!found || l > best) {
			best, found = l, true
		}
	}
	if !found && d.Load > 0 && slices.Contains(c.Variant.Holds, moves.NoLoad) {
		d.Load, d.Loaded = 0, true
		return true
	}
	if found {
		d.Load, d.Loaded = best, true
	}
	return found
}

// mostReps is as far as repetitions go at a load: one over the range, or to what the
// index needs for three at the next load where that is more.
func (c Case) mostReps(now Line) int {
	most := c.Variant.RepsHigh + 1
	next, ok := c.next(now.Load)
	if !ok || now.Load == 0 || c.Variant.Staged() {
		return most
	}
	x := c.climb([]Line{now}, next, false)
	for n := most; n <= 30; n++ {
		if x.AtNext(now.Load, n) >= strength.LeastAtNext {
			return n
		}
	}
	return most
}
