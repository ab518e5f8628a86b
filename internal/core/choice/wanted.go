package choice

import (
	"math"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// startReps are the repetitions that starting loads are for (house).
const startReps = 10

// UsualReps are the repetitions of a set without a log: ten, within the range.
func UsualReps(v *moves.Variant) int { return min(max(startReps, v.RepsLow), v.RepsHigh) }

// Wanted is the load that a party should have for so many repetitions a side in a
// hold of count implements, and whether the log said so.
type Wanted struct {
	strength.Wanted
	ByLog bool
}

// Wanted reckons what the log says, else the starting load: for the repetitions that
// really fit, lowered until the body's own resistance is within what the lane's mark
// allows, and in first sessions to what those allow.
func (j *Judge) Wanted(e Entry, count, reps int) Wanted {
	v := e.Variant
	if j.isAgreed(v) {
		return Wanted{
			Wanted: strength.Wanted{
				Total: j.asAgreed(v, j.Setting(e)),
				Why: why.Of(why.LoadAsked, why.Typed, why.G("wanted", float64(j.agreed.load)),
					why.ID("move", j.agreed.variant.ID)),
			},
		}
	}
	if d, ok := j.Decision(v); ok && d.Loaded && count > 0 && j.sameCount(d.Hold, count) {
		return Wanted{strength.Wanted{Total: float64(d.Load), Why: d.Why}, true}
	}
	if w, ok := j.byBenchmark(v, e, reps); ok && count > 0 {
		return Wanted{Wanted: w}
	}
	most := v.Ceiling(count)
	if j.unceiled(v) {
		most = 0
	}
	w := Wanted{Wanted: strength.StartingUnder(v, count, j.Lane, j.Body, j.Stature, most)}
	if x, ok := j.byIndex(v, e, reps, count, w.Total); ok {
		return Wanted{Wanted: x}
	}
	if w.Total == 0 {
		return w
	}
	j.forReps(&w, e, reps, most)
	if ok, bound := j.lowered(v, e); ok && bound < w.Total {
		if w.Total = bound; bound < float64(strength.LeastLoad) {
			w.Total = 0
		}
		w.Why = w.Why.With(why.Of(why.LoadLowered, why.House, why.G("wanted", float64(measure.Grams(w.Total)))))
	}
	if j.New(v) && (v.Ballistic || v.Overhead) && w.Total > float64(firstMost) {
		w.Total = float64(firstMost)
		w.Why = w.Why.With(why.Of(why.LoadFirstTime, why.House, why.G("most", float64(firstMost))))
	}
	if j.Lane == moves.Ground && j.Starting(v) && bareFirst(v) {
		return Wanted{Wanted: strength.Wanted{Why: why.Of(why.LoadFirstSessions, why.House)}}
	}
	return w
}

// firstMost is the most that a first session with a ballistic or overhead move takes
// (house).
const firstMost measure.Mass = 5000

// bareFirst tells whether Ground does its first sessions of a move's pattern without a
// load.
func bareFirst(v *moves.Variant) bool {
	switch v.Pattern {
	case moves.Squat, moves.Lunge, moves.Lateral, moves.Hinge, moves.Bridge:
		return true
	}
	return false
}

func (j *Judge) sameCount(hold moves.HoldID, count int) bool {
	h, ok := moves.HoldOf(hold)
	return !ok || h.Count == 0 || h.Count == count
}

// forReps turns a load for about ten repetitions into one for so many, by the
// resistance where the body shares, never over the ceiling, and for no fewer than the
// low end of the range.
func (j *Judge) forReps(w *Wanted, e Entry, reps int, ceiling measure.Mass) {
	v := e.Variant
	usual := UsualReps(v)
	reps = max(reps, v.RepsLow) // a set cut under its dose is no reason for more iron
	from, err := strength.Factor(strength.Default, usual+strength.UsualReserve)
	to, err2 := strength.Factor(strength.Default, reps+strength.UsualReserve)
	if err != nil || err2 != nil || reps == usual || j.Aim.Unhurried && reps < usual || reps < 1 || !v.Numbered() ||
		v.Ballistic {
		return
	}
	load := w.Total * from / to
	if v.BodyShares() {
		asked := j.comparable(v, measure.Grams(w.Total), j.Setting(e)) * from / to
		load, _ = v.Resistance.ExternalFor(asked, j.Body, j.Setting(e))
	}
	if ceiling > 0 {
		load = min(load, float64(ceiling))
	}
	w.Total = max(load, 0)
	w.Why = w.Why.With(why.Of(why.LoadForReps, why.Model, why.N("reps", reps), why.N("usual", usual),
		why.G("wanted", float64(measure.Grams(w.Total)))))
}

// lowered gives the load at which a body is asked no more than its lane's mark allows;
// ok is false where nothing bounds it.
func (j *Judge) lowered(v *moves.Variant, e Entry) (ok bool, load float64) {
	_, most, ok := j.reference(v)
	if !ok || j.shown(v) || j.isAgreed(v) {
		return false, 0
	}
	load, err := v.Resistance.ExternalFor(most, j.Body, j.Setting(e))
	return err == nil, math.Floor(load)
}

// isAgreed tells whether the instructor asked for a set that makes a benchmark of the
// move unneeded: the same move, or one whose resistance is compared with it.
func (j *Judge) isAgreed(v *moves.Variant) bool {
	own := j.agreed.variant
	return own != nil && (v.ID == own.ID || Compares(own, v) && (!v.Overhead || own.Overhead))
}

// Compares tells whether the resistances of two moves may be compared: on one scale,
// both with a number, and a throw only with a throw.
func Compares(own, v *moves.Variant) bool {
	return v.ID == own.ID && v.Numbered() ||
		v.Scale() == own.Scale() && v.Family != body.None && v.Numbered() && own.Numbered() &&
			v.Ballistic == own.Ballistic
}

// asAgreed is the load that makes a move as hard as the set that was asked for; 0 where
// the body alone is harder.
func (j *Judge) asAgreed(v *moves.Variant, set body.Setting) float64 {
	own := j.agreed.variant
	if v.ID == own.ID {
		return float64(j.agreed.load)
	}
	ext, _ := v.Resistance.ExternalFor(j.comparable(own, j.agreed.load, own.Setting()), j.Body, set)
	return max(ext, 0)
}

// Reckoning is how a load stands beside what is wanted of it, for the same repetitions.
type Reckoning struct {
	Wanted Wanted
	// IronPct and ResistancePct say how far the load is off; negative is too light.
	// ResistancePct equals IronPct where the iron counts alone.
	IronPct, ResistancePct float64
	Resistance             body.Resistance
	// ShortPct is what the set falls short by, and OverPct what it is over, in per cent
	// of what the party should be asked: its own load, or where the move takes none the
	// lane's mark. Numbered is false where the model has no number.
	ShortPct, OverPct float64
	Numbered          bool
}

// Reckon compares an entry with what is wanted for so many repetitions a side.
func (j *Judge) Reckon(e Entry, reps int) Reckoning {
	v := e.Variant
	h, _ := moves.HoldOf(e.Hold)
	count := h.Count
	if count == 0 {
		count = heaviestHold(v)
	}
	set := j.Setting(e)
	r := Reckoning{Wanted: j.Wanted(e, count, reps), Numbered: v.Numbered()}
	r.Resistance, _ = v.Resistance.Resist(j.Body, e.Total, set)
	wanted := r.Wanted.Total
	switch {
	case wanted > 0:
		r.IronPct = 100 * (float64(e.Total)/wanted - 1)
		r.ResistancePct = r.IronPct
		if v.BodyShares() {
			r.ResistancePct = 100 * (r.Resistance.Comparable/j.comparable(v, measure.Grams(wanted), set) - 1)
		}
	case e.Total > 0:
		r.IronPct, r.ResistancePct = 100, 100
		if bare := j.comparable(v, 0, set); v.BodyShares() && bare > 0 {
			r.ResistancePct = 100 * (r.Resistance.Comparable/bare - 1)
		}
	}
	r.ShortPct, r.OverPct = max(-r.ResistancePct, 0), max(r.ResistancePct, 0)
	if mark, _, ok := j.reference(v); ok && v.Start == nil && wanted == 0 && mark > 0 {
		r.ShortPct = max(0, 100*(1-r.Resistance.Comparable/mark))
	}
	if j.Starting(v) || !r.Numbered || r.Wanted.ByLog && r.IronPct <= 0 && r.IronPct > -byLogPct {
		r.ShortPct = 0 // light is right in the first sessions, and what the log said is what is wanted
	}
	return r
}

// byLogPct is how near a load must be to the one that the log says to be that one.
const byLogPct = 2.5
