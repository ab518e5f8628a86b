package plan

import (
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/room"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// A set is heavy for a body from this share of it on, or by so few repetitions with a load
// (house). The set before it has this share of its load at the most and half its repetitions,
// so many at the most (common practice: a lighter, shorter set before the first heavy one).
const (
	heavyShare = 0.25
	heavyReps  = 6
	rampShare  = 0.6
	mostRamp   = 5
)

// heavy tells whether a party's set is one to make ready for: not what is thrown, and not a
// light set of a superset or a finisher.
func (c Context) heavy(b circuit.Block, u User) bool {
	v, ok := c.Library.Get(u.Entry.Variant)
	load, known := c.Stock.Mass(u.Entry.Load)
	if !ok || !known || load == 0 || v.Ballistic || v.Staged() || b.Role() != strength.Alone {
		return false
	}
	few := u.Entry.Dose.Kind == circuit.Count && u.Entry.Dose.High <= heavyReps && b.Format() == circuit.Reps
	return few || float64(load) >= heavyShare*float64(u.Body)
}

// ramp is the set before the first heavy one of a session, which all do together: the slot's
// moves with less and fewer. ok is false where nothing is heavy for anybody.
func (c Context) ramp(d circuit.Document) (step, bool) {
	for _, b := range d.Blocks {
		if !b.Kind.Loaded() {
			continue
		}
		for _, s := range b.Slots {
			users := c.Users(s)
			if i := slices.IndexFunc(users, func(u User) bool { return c.heavy(b, u) }); i >= 0 {
				return c.rampTo(s, users, users[i].Entry.Variant), true
			}
		}
	}
	return step{}, false
}

func (c Context) rampTo(s circuit.Slot, users []User, variant string) step {
	out := step{
		Drill: Drill{Move: variant, Slot: s.ID, Why: why.Of(why.PrepRamp, why.Practice, why.ID("variant", variant))},
		slot:  circuit.Slot{Pattern: s.Pattern, Waves: 1, Entries: map[people.Party]circuit.Entry{}},
		own:   true,
	}
	taken := room.Tally{}
	for _, u := range users {
		v, ok := c.Library.Get(u.Entry.Variant)
		if !ok {
			continue
		}
		e := c.lighter(u, v, taken)
		taken.Take(u.N, e.Load, e.Anchors)
		out.slot.Entries[u.ID()] = e
		load, _ := c.Stock.Mass(e.Load)
		out.Sets = append(out.Sets, RampSet{u.ID(), e, load})
	}
	return out
}

// lighter is an entry for half its repetitions, with the heaviest load up to its share that
// there is for all beside what is taken, else without where it can be done so.
func (c Context) lighter(u User, v *moves.Variant, taken room.Tally) circuit.Entry {
	e, _ := u.Entry.Unloaded(v)
	half := (u.Entry.Dose.Low + 1) / 2
	if u.Entry.Dose.Kind == circuit.Seconds {
		half = mostRamp
	}
	e.Dose = circuit.Times(max(1, min(mostRamp, half)))
	e.Dose.InAll = u.Entry.Dose.InAll
	if e.Sides == scheme.ByRound {
		e.Sides = scheme.Split
	}
	e.Tempo, e.Parts = v.TempoWritten(), u.Entry.Parts
	load, _ := c.Stock.Mass(u.Entry.Load)
	h, _ := moves.HoldOf(u.Entry.Hold)
	var best kit.Option
	for _, o := range c.Stock.Options(v, h) {
		if o.Total <= best.Total || float64(o.Total) > rampShare*float64(load) {
			continue
		}
		with := taken.Clone()
		with.Take(u.N, o.Load, e.Anchors)
		if with.Covered(c.Stock, 1) {
			best = o
		}
	}
	if best.Total > measure.Mass(0) {
		e.Hold, e.Load = u.Entry.Hold, best.Load
	}
	return e
}
