package choice

import (
	"math"
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// What is further from somebody's rung costs as much as from a lane's marks (house).
const (
	belowRung = 25.0
	aboveRung = 30.0
)

// standingSays lays what is known of a person over what the past says of a move: a rung that
// they stand on, and those below it, are no news to them; a benchmark of the move, or of a
// harder one, shows what they can.
func (j *Judge) standingSays(v *moves.Variant, p *pastOf) {
	if j.Standing == nil {
		return
	}
	if r, ok := j.Standing.On(v); ok && v.Rung <= r.Rung {
		p.met, p.starting, p.shown = true, false, true
	}
	if _, ok := j.benchmark(v); ok {
		p.met, p.starting, p.shown, p.unceiled = true, false, true, true
	}
	if v.Overhead && slices.ContainsFunc(j.Standing.Benchmarks, func(b people.Benchmark) bool {
		x, ok := j.Library.Get(b.Move)
		return ok && x.ReadiesOverhead() && b.LoadG > 0 && !b.Old(j.Past.Day)
	}) {
		p.unceiled = true
	}
}

// rungCost is how far a move is from the rung that somebody stands on; ok is false where they
// stand on none of its ladder.
func (j *Judge) rungCost(v *moves.Variant) (cost float64, ok bool) {
	if j.Standing == nil {
		return 0, false
	}
	r, ok := j.Standing.On(v)
	switch {
	case !ok:
		return 0, false
	case v.Rung < r.Rung:
		return belowRung * float64(r.Rung-v.Rung), true
	}
	return aboveRung * float64(v.Rung-r.Rung), true
}

// benchmark gives the newest set that shows what somebody can of a move: of the move itself,
// else of a harder one on its ladder.
func (j *Judge) benchmark(v *moves.Variant) (best people.Benchmark, ok bool) {
	if j.Standing == nil {
		return best, false
	}
	for _, b := range j.Standing.Benchmarks {
		x, known := j.Library.Get(b.Move)
		if !known || b.Old(j.Past.Day) {
			continue
		}
		if x.ID == v.ID {
			return b, true
		}
		harder := v.Ladder != "" && x.Ladder == v.Ladder && x.Rung > v.Rung && Compares(x, v)
		if harder && (!ok || b.Day > best.Day) {
			best, ok = b, true
		}
	}
	return best, ok
}

// byBenchmark gives the load that a benchmark leads to for so many repetitions a side with the
// usual reserve, by the resistance index (model).
func (j *Judge) byBenchmark(v *moves.Variant, e Entry, reps int) (w strength.Wanted, ok bool) {
	b, ok := j.benchmark(v)
	if !ok || v.Start == nil {
		return w, false
	}
	own, _ := j.Library.Get(b.Move)
	index, ok := Index(own, b, j.Body)
	if !ok {
		return w, false
	}
	can := j.Ability()
	index *= own.Resistance.Stance / can.Stance(own)
	if w.Total, ok = can.LoadFor(v, index, j.Body, j.Setting(e), reps); !ok {
		return w, false
	}
	w.Why = why.Of(why.LoadBenchmark, why.Model, why.ID("move", b.Move), why.N("reps", b.Reps),
		why.G("load", float64(b.LoadG)), why.N("reserve", b.Reserve), why.G("wanted", float64(measure.Grams(w.Total))))
	return w, true
}

// Ability is what a person's own log says that they can; a lane's says nothing of anybody.
func (j *Judge) Ability() progress.Ability {
	if j.ability == nil {
		j.ability = &progress.Ability{}
		if j.Who != "" {
			var putBack map[string]int
			if j.Standing != nil {
				putBack = j.Standing.PutBack
			}
			*j.ability = progress.Learn(j.Library, j.Body, j.ofLane(), putBack, j.Past.Day)
		}
	}
	return *j.ability
}

// ofLane lists the lines of the party's past.
func (j *Judge) ofLane() []progress.Line {
	var out []progress.Line
	for _, l := range j.Past.Lines {
		if l.Lane == j.Lane && l.Who == "" {
			out = append(out, l)
		}
	}
	return out
}

// byIndex gives the load that a person's index leads to where their log says nothing of the
// move itself: once the move, or the rung below it, was shown and no ceiling stands, and the
// move takes a load. Where what is left is not asked of them yet, it never lowers a starting
// load, which holds for whoever begins.
func (j *Judge) byIndex(v *moves.Variant, e Entry, reps, count int, start float64) (w strength.Wanted, ok bool) {
	if j.Who == "" || v.Start == nil || count == 0 || !j.shown(v) || j.Lane == moves.Ground && v.OnOneLeg() ||
		v.Ceiling(count) > 0 && !j.unceiled(v) {
		return w, false
	}
	can := j.Ability()
	x, ok := can.Index(v)
	if !ok {
		return w, false
	}
	if w.Total, ok = can.LoadFor(v, x.Index, j.Body, j.Setting(e), reps); !ok || x.ByReps && w.Total < start {
		return w, false
	}
	if w.Total < float64(strength.LeastLoad) {
		w.Total = 0
	}
	w.Why = why.Of(why.LoadIndex, why.Model, why.N("sessions", len(x.Sets)), why.G("index", math.Round(x.Index)),
		why.N("reps", reps), why.G("wanted", float64(measure.Grams(w.Total))))
	return w, true
}

// Index is the resistance index that a benchmark shows for a body, in grams: the comparable
// resistance of one repetition (model: the default equation on comparable resistance). ok is
// false where the equation is refused.
func Index(v *moves.Variant, b people.Benchmark, bodyMass measure.Mass) (index float64, ok bool) {
	r, err := v.Resistance.Resist(bodyMass, b.LoadG, v.Setting())
	index, ok = strength.IndexOf(b.Reps+b.Reserve, r.Comparable)
	return index, ok && err == nil
}

// gatePassed tells whether a person has passed the gate to a bar on the back and the session's
// goal calls for one; a lane passes none.
func (j *Judge) gatePassed() bool {
	return j.Standing != nil && people.Gate(j.Attempt(0)) == people.Passed
}

// Attempt is what the person has done at the gate to a bar on the back, by their log and their
// benchmarks; heaviest is the most that the place holds in front of a body, 0 where it is
// not asked.
func (j *Judge) Attempt(heaviest measure.Mass) people.Attempt {
	var tried []people.Tried
	for _, l := range j.Past.Lines {
		v, ok := j.Library.Get(l.Variant)
		if ok && l.Lane == j.Lane && l.Who == "" && !l.Bare && v.ReadiesBar() {
			tried = append(tried, people.Tried{Load: l.Load, FormReps: l.InForm})
		}
	}
	for _, b := range j.Standing.Benchmarks {
		if v, ok := j.Library.Get(b.Move); ok && v.ReadiesBar() {
			tried = append(tried, people.Tried{Load: b.LoadG, FormReps: b.Reps})
		}
	}
	return j.Standing.Attempt(j.Body, heaviest, tried, j.Aim.Bar)
}

// Spared lists what of an entry a person is to be spared: what hurt them, their own limits that
// it breaks, and,
// where they are held at Ground, that it would not be given to Ground.
func (j *Judge) Spared(e Entry) []why.Why {
	var out []why.Why
	if j.Standing == nil {
		return nil
	}
	light := j.light(e)
	out = j.hurtBy(e, light)
	for _, l := range j.own {
		if e.Variant.Breaks(l, e.Total, light) {
			out = append(out, why.Of(why.FaultSpared, why.House, why.ID("limit", string(l))))
		}
	}
	if j.Standing.Ground && len(out) == 0 && !j.Allowed(e) {
		out = append(out, why.Of(why.FaultHeldAtGround, why.House))
	}
	return out
}

// Bound tells whether something binds a person beside their lane.
func (p Party) Bound() bool {
	return p.Standing != nil && (len(p.Standing.Limits) > 0 || p.Standing.Ground)
}
