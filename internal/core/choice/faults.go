package choice

import (
	"cmp"
	"slices"
	"strings"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// Good enough is within 7.5 % in resistance and 25 % in iron; where the iron is the
// resistance from 25 % under to 15 % over; for Ground and the first time at most 15 %
// over; with fewer repetitions one step of a rack (house).
const (
	GoodResistancePct = 7.5
	GoodIronPct       = 25.0
	GoodIronOverPct   = 15.0
	CarefulOverPct    = 15.0
	MendedOverPct     = 34.0
)

// Faults says what keeps an entry from being proposed to the party in the class, each
// with its reason; none is what may be given. Whether an entry is allowed follows from
// entry, party and class alone, never from what else the place has.
func (j *Judge) Faults(e Entry) []why.Why {
	f := faults{}
	j.moveFaults(&f, e)
	j.loadFaults(&f, e)
	j.supportFaults(&f, e)
	return f.list
}

// Allowed tells whether an entry has no fault.
func (j *Judge) Allowed(e Entry) bool { return len(j.Faults(e)) == 0 }

type faults struct{ list []why.Why }

func (f *faults) add(code why.Code, source why.Source, terms ...why.Term) {
	f.list = append(f.list, why.Of(code, source, terms...))
}

// moveFaults are those of the move itself, whatever the load.
func (j *Judge) moveFaults(f *faults, e Entry) {
	v := e.Variant
	move := why.ID("variant", v.ID)
	for _, b := range []string{string(v.Pattern), v.ID} {
		if slices.Contains(j.Bans, b) {
			f.add(why.FaultBanned, why.Typed, why.ID("ban", b))
		}
	}
	light := j.light(e)
	for _, l := range j.limits {
		if v.Breaks(l, e.Total, light) {
			f.add(why.FaultLimit, why.House, why.ID("limit", string(l)))
		}
	}
	for _, l := range j.own {
		if v.Breaks(l, e.Total, light) {
			f.add(why.FaultSpared, why.House, why.ID("limit", string(l)))
		}
	}
	open := v.Gate != "" && j.gatePassed()
	if v.Gate != "" && !open {
		f.add(why.FaultGate, why.Practice, move, why.G("needed", float64(j.Body)/2))
	}
	if len(v.OnlyLanes) > 0 && !slices.Contains(v.OnlyLanes, j.Lane) {
		f.add(why.FaultLane, why.House, why.ID("lane", string(j.Lane)))
	}
	chosen := slices.Contains(j.Chosen, v.ID)
	if !chosen && (!v.Proposed() && !open || len(v.Lanes) == 0 && strings.HasPrefix(v.ID, moves.OwnPrefix)) ||
		!j.Library.Offers(v) {
		f.add(why.FaultChosen, why.House, move)
	}
	if v.ByLog && !j.shown(v) && !chosen {
		f.add(why.FaultByLog, why.House, move)
	}
	met := func(id string) bool { x, ok := j.Library.Get(id); return ok && j.Past.Met(j.Lane, x) }
	if first := j.Library.FirstSteps(v, met); len(first) > 0 && j.New(v) && j.agreed.variant == nil {
		f.add(why.FaultLearnFirst, why.Practice, why.ID("first", first[0]))
	}
	if ids, said := moves.Firsts(v.Pattern, j.Lane); said && j.Starting(v) && !slices.Contains(ids, v.ID) && !chosen {
		f.add(why.FaultFirstSessions, why.House, why.N("sessions", firstSessions))
	}
	j.logFaults(f, e, light)
}

// logFaults are those that the log gives a move.
func (j *Judge) logFaults(f *faults, e Entry, light bool) {
	v := e.Variant
	f.list = append(f.list, j.hurtBy(e, light)...)
	for _, h := range j.hurts {
		switch {
		case h.Overruled || !h.Out || h.Own:
		case h.Move == v.ID:
			f.list = append(f.list, h.Why)
		default:
			if was, ok := j.Library.Get(h.Move); ok && j.asMuch(was, v, h.Joints, e.Total, light) {
				f.list = append(f.list, h.Why)
			}
		}
	}
	if d, ok := j.Decision(v); ok && d.Advice == progress.RungDown {
		f.list = append(f.list, d.Why)
	}
}

// hurtBy lists what in a person's own log speaks against an entry beside what they are to be
// spared: the move hurt them last time, or the entry asks more of the joint than that move did,
// or as much with a load that is not light.
func (j *Judge) hurtBy(e Entry, light bool) []why.Why {
	var out []why.Why
	for _, h := range j.hurts {
		if h.Overruled || !h.Own {
			continue
		}
		was, known := j.Library.Get(h.Move)
		for _, x := range h.Joints {
			asks := e.Variant.Demands[x]
			much := known && !h.Out && (asks > max(1, was.Demands[x]) || asks == was.Demands[x] && asks > 0 && !light)
			if h.Move == e.Variant.ID || much {
				out = append(out, why.Of(why.FaultHurt, why.House, why.ID("joint", x), why.ID("move", h.Move)))
				break
			}
		}
	}
	return out
}

// asMuch tells whether a move asks more of a joint that hurt than the move it hurt in,
// or as much with a load that is not light.
func (j *Judge) asMuch(was, v *moves.Variant, joints []string, load measure.Mass, light bool) bool {
	for _, x := range joints {
		a, b := was.Demands[x], v.Demands[x]
		if was.Pattern == v.Pattern && b > 0 && (b > a || b == a && load > 0 && !light) {
			return true
		}
	}
	return false
}

// light tells whether a load is light for a joint that is spared mildly.
func (j *Judge) light(e Entry) bool {
	if e.Total == 0 {
		return true
	}
	h, _ := moves.HoldOf(e.Hold)
	w := j.Wanted(e, max(h.Count, 1), UsualReps(e.Variant))
	return float64(e.Total) <= moves.LightShare*w.Total
}

// loadFaults are those of the load in its hold.
func (j *Judge) loadFaults(f *faults, e Entry) {
	v := e.Variant
	h, known := moves.HoldOf(e.Hold)
	if !known || !slices.Contains(v.Holds, e.Hold) || !j.Stock.Holds(v, h, e.Load) {
		f.add(why.FaultHold, why.Practice, why.ID("hold", string(e.Hold)))
		return
	}
	if kit.TooMuchOnBack(v, e.Hold, e.Total, j.Body) {
		f.add(why.FaultOnBack, why.House, why.G("load", float64(e.Total)),
			why.G("most", kit.BackHingeShare*float64(j.Body)))
	}
	if most := v.Ceiling(h.Count); most > 0 && e.Total > most && !j.unceiled(v) && !j.isAgreed(v) {
		f.add(why.FaultCeiling, why.House, why.G("load", float64(e.Total)), why.G("ceiling", float64(most)))
	}
	if j.New(v) && (v.Ballistic || v.Overhead) && e.Total > firstMost {
		f.add(why.FaultFirstLoad, why.House, why.G("load", float64(e.Total)), why.G("most", float64(firstMost)))
	}
	if e.Total > 0 && j.Lane == moves.Ground && v.OnOneLeg() {
		f.add(why.FaultGroundOneLeg, why.House)
	}
	r := j.Reckon(e, j.Reps(v))
	if e.Total > 0 && j.tooHeavy(v, r, h) {
		f.add(why.FaultOver, why.House, why.G("load", float64(e.Total)),
			why.G("wanted", float64(measure.Grams(r.Wanted.Total))), why.Pct("iron", measure.Round(r.IronPct, 1)))
	}
	if _, most, ok := j.reference(v); ok && !v.Easiest() && !j.shown(v) && !j.isAgreed(v) &&
		r.Resistance.Comparable > most*(1+1e-9) {
		f.add(why.FaultBody, why.House, why.G("asks", r.Resistance.Comparable), why.G("most", most),
			why.G("body", float64(j.Body)))
	}
}

// Reps are the repetitions a side that a load of a move is reckoned for.
func (j *Judge) Reps(v *moves.Variant) int {
	if j.Work > 0 {
		if n := CountByClock(v, j.Work); n > 0 {
			return n
		}
	}
	return cmp.Or(j.Asked, j.Aim.Reps(v, UsualReps(v), j.novice(v)))
}

// novice tells whether a party is given general doses whatever the goal.
func (j *Judge) novice(v *moves.Variant) bool {
	return j.Lane == moves.Ground || j.Aim.TrainedOnly && j.Starting(v)
}

// tooHeavy tells whether a load is further above the wanted one than is good enough.
func (j *Judge) tooHeavy(v *moves.Variant, r Reckoning, h moves.Hold) bool {
	const hair = 0.05 // per cent: what rounding to a gram makes
	iron := r.IronPct - hair
	switch {
	case r.Wanted.Total == 0:
		return true
	case r.Wanted.ByLog:
		return iron > byLogPct
	case v.NeverUp():
		return iron > 0
	case j.Lane == moves.Ground || j.New(v):
		return iron > CarefulOverPct
	case v.ByIronAlone():
		return iron > GoodIronOverPct
	case r.ResistancePct <= GoodResistancePct && iron <= GoodIronPct:
		return false
	}
	_, mended := j.fewer(v, r)
	return j.Work > 0 || iron > MendedOverPct || !mended
}

// fewer finds the repetitions within the range at which a load that is too heavy is no
// harder than wanted.
func (j *Judge) fewer(v *moves.Variant, r Reckoning) (int, bool) {
	m := mend(v, UsualReps(v), strength.UsualReserve, 1+r.ResistancePct/100, r.IronPct, 0)
	return m.Reps, m.OK
}

// supportFaults are those of what a move stands, sits, leans on or pulls at.
func (j *Judge) supportFaults(f *faults, e Entry) {
	for _, x := range j.served(e) {
		need, s := x.need, x.by
		switch {
		case x.ok:
		case !j.Stock.Grants(need):
			f.add(why.FaultNoSupport, why.Practice, why.ID("need", need))
			continue
		default:
			continue
		}
		item := why.ID("item", s.ID)
		if fit, bounded := j.heightFor(e.Variant, need); bounded && s.Height > 0 && !fit.Holds(s.At(fit)) {
			f.add(why.FaultHeight, why.House, item, lengthTerm("height", s.At(fit)), lengthTerm("from", fit.From),
				lengthTerm("to", fit.To))
		}
		switch s.Kind {
		case kit.Table:
			if !s.Holds(j.Heaviest()) {
				f.add(why.FaultTable, why.Model, item, why.G("body", float64(j.Heaviest())))
			}
		case kit.Band:
			if !e.Variant.Drill && len(s.Pulls) != 2 {
				f.add(why.FaultBand, why.House, item)
			}
		case kit.FootHold:
			if !s.Checked {
				f.add(why.FaultFootHold, why.Model, item)
			}
			if on := j.onFootHold(e.Variant); s.Rated > 0 && s.Rated < on {
				f.add(why.FaultRating, why.House, item, why.G("on", float64(on)), why.G("rated", float64(s.Rated)))
			}
		case kit.Bench, kit.Box:
			on := j.onSupport(e, need)
			if holds, ask := body.Support(s.Rated, on, 0, false); !holds && !ask {
				f.add(why.FaultRating, why.House, item, why.G("on", float64(on)), why.G("rated", float64(s.Rated)))
			}
		}
	}
}

// onFootHold is what a hold for the feet must hold: twice what the ankles pull at the lowest
// point of kneeling lowering.
func (j *Judge) onFootHold(v *moves.Variant) measure.Mass {
	if !v.Anchored {
		return 0
	}
	return body.AnchorFor(j.Heaviest())
}

// onSupport is what a bench or box carries: the heaviest body and its load, half as much
// again where it is stepped on, and of a push-up the body's share.
func (j *Judge) onSupport(e Entry, need string) measure.Mass {
	on := float64(j.Heaviest() + e.Total)
	if len(e.Variant.Resistance.Heights) > 0 {
		share, err := e.Variant.Resistance.BodyShare(j.Setting(e))
		if err == nil {
			on = share*float64(j.Heaviest()) + float64(e.Total)
		}
	}
	if need == "step" {
		on *= body.SteppedOn
	}
	return measure.Grams(on)
}

// Asks lists what is to be asked before an entry is used: supports whose rating is not
// known under more than is taken for granted, heights nobody measured, benches that
// want feet and hips raised, seats that want plates.
func (j *Judge) Asks(e Entry) []why.Why {
	f := faults{}
	for _, x := range j.served(e) {
		need, s := x.need, x.by
		item := why.ID("item", s.ID)
		if x.ok && s.Kind == kit.FootHold && s.Rated == 0 {
			if on := j.onFootHold(e.Variant); on > 0 {
				f.add(why.AskRating, why.House, item, why.G("on", float64(on)))
			}
		}
		if !x.ok || s.Kind != kit.Bench && s.Kind != kit.Box {
			continue
		}
		on := j.onSupport(e, need)
		if _, ask := body.Support(s.Rated, on, 0, false); ask {
			f.add(why.AskRating, why.House, item, why.G("on", float64(on)))
		}
		fit, bounded := j.heightFor(e.Variant, need)
		switch {
		case !bounded:
		case s.Height == 0:
			f.add(why.AskHeight, why.House, item, lengthTerm("from", fit.From), lengthTerm("to", fit.To))
		case need == "seat" && !e.Variant.Low:
			if box := body.SitBackBox(j.knee()); s.At(box) < box.From-body.SpareByTable {
				f.add(why.AskRaiseSeat, why.House, item, lengthTerm("height", box.From-s.At(box)))
			}
		case need == "bench" && thrustBench(e.Variant):
			if fit := body.ThrustBench(j.knee()); s.At(fit) > fit.To {
				f.add(why.AskRaise, why.House, item, lengthTerm("height", s.At(fit)-fit.To))
			}
		}
	}
	return f.list
}

func (j *Judge) knee() float64 { return body.KneeFor(j.Stature) }

// stepShare is how much of the knee's height a step may have (house).
var stepShare = map[moves.Lane]float64{moves.Ground: 0.6, moves.Middle: 0.85, moves.Reach: 1}

// thrustBench tells whether a bench carries the shoulders, hips free.
func thrustBench(v *moves.Variant) bool {
	return v.Pattern == moves.Bridge || v.Pattern == moves.PushLevel
}

// SetTo is the support of an entry whose height is set, and the heights of it that are right
// for the party, or the nearest that it has; ok is false where none is set, or any will do.
func (j *Judge) SetTo(e Entry) (item string, fit body.Range, ok bool) {
	for _, x := range j.served(e) {
		if !x.ok || x.by.Highest <= x.by.Height {
			continue
		}
		fit, ok := j.rightHeight(e.Variant, x.need)
		if !ok {
			continue
		}
		near := func(h measure.Length) measure.Length { return min(max(h, x.by.Height), x.by.Highest) }
		return x.by.ID, body.Range{From: near(fit.From), To: near(fit.To)}, true
	}
	return "", fit, false
}

// rightHeight gives the heights for a need of a move that are right for the party's stature,
// to 5 mm and with nothing to spare, as heightFor gives those that serve.
func (j *Judge) rightHeight(v *moves.Variant, need string) (fit body.Range, bounded bool) {
	switch {
	case need == "seat" && !v.Low:
		return body.SitBackBox(j.knee()), true
	case need == "bench" && thrustBench(v):
		return body.ThrustBench(j.knee()), true
	}
	if fit, bounded = j.heightFor(v, need); bounded && fit.From <= 1 {
		fit.To = min(fit.To, measure.Length(j.knee())) / 5 * 5
	}
	return fit, bounded
}

// heightFor gives the heights that serve a need of a move for the party's stature;
// bounded is false where any does.
func (j *Judge) heightFor(v *moves.Variant, need string) (fit body.Range, bounded bool) {
	knee := j.knee()
	switch need {
	case "seat":
		return body.Seat(knee, v.Low, body.SpareByTable), true
	case "step":
		share := stepShare[j.Lane]
		if v.Low {
			share = stepShare[moves.Ground]
		}
		return body.AtMost(knee, share, 0), true
	case "bench":
		switch {
		case thrustBench(v):
			return body.Thrust(knee, body.SpareByTable), true
		case v.Pattern == moves.Lunge:
			return body.AtMost(knee, 1, 0), true
		}
	case "foot-rest":
		if v.Pattern == moves.PushLevel {
			return body.Range{From: 1, To: body.MostFeetUp}, true
		}
		return body.AtMost(knee, 1, body.SpareByTable), true
	}
	return fit, false
}

func lengthTerm(name string, l measure.Length) why.Term {
	return why.Term{Name: name, Kind: why.Length, Value: float64(l)}
}
