package moves

import (
	"slices"
	"strings"

	"nimbleanvil/internal/core/measure"
)

// LimitID names what a person or a class must be spared.
type LimitID string

// The limits that are not of a joint (house, after the usual cautions).
const (
	NoLyingOnBack    LimitID = "no-lying-on-back"
	NoLyingOnFront   LimitID = "no-lying-on-front"
	NoFloor          LimitID = "no-floor"
	NoOverhead       LimitID = "no-overhead"
	NoImpact         LimitID = "no-impact"
	NoBreathHolding  LimitID = "no-breath-holding"
	NoBalanceRisk    LimitID = "no-balance-risk"
	NoHeadBelowHeart LimitID = "no-head-below-heart"
	NoLoadedBack     LimitID = "no-loaded-back-bending"
	NoLongHolds      LimitID = "no-long-holds"
	NoLoadedEndRange LimitID = "no-loaded-end-range"
	NoLoadedTwist    LimitID = "no-loaded-twist"
	NoLoadedOneLeg   LimitID = "no-loaded-one-leg"
	// NoHanging spares joints that give too far what pulls them long: hangs, and stretches held
	// at their end.
	NoHanging LimitID = "no-hanging-stretch"
)

// LimitJoints lists the joints and regions that a limit can name.
var LimitJoints = []string{"ankle", "knee", "hip", "low-back", "neck", "shoulder", "elbow", "wrist", "hamstring"}

// How far a joint is spared: mild means no impact, no end of range, light; spare
// means no move that demands it.
const (
	mild  = "-mild"
	spare = "-spare"
)

// Mild and Spare name the limits of a joint.
func Mild(joint string) LimitID  { return LimitID(joint + mild) }
func Spare(joint string) LimitID { return LimitID(joint + spare) }

// healthLimits are limits by what they are for; never a diagnosis, and local rules and
// licensed practice come first (house, after the usual cautions).
var healthLimits = map[LimitID][]LimitID{
	"pregnancy-early": {NoBreathHolding, NoBalanceRisk},
	"pregnancy":       {NoLyingOnBack, NoLyingOnFront, NoBreathHolding, NoBalanceRisk},
	"blood-pressure":  {NoBreathHolding, NoLongHolds, NoHeadBelowHeart},
	"brittle-bones":   {NoLoadedBack, NoImpact},
	"hypermobile":     {NoLoadedEndRange, NoHanging},
}

// Limits lists every limit by its id: joints mild and spare, the others, and those
// that stand for several.
func Limits() []LimitID {
	var out []LimitID
	for _, j := range LimitJoints {
		out = append(out, Mild(j), Spare(j))
	}
	out = append(out, NoLyingOnBack, NoLyingOnFront, NoFloor, NoOverhead, NoImpact, NoBreathHolding, NoBalanceRisk,
		NoHeadBelowHeart, NoLoadedBack, NoLongHolds, NoLoadedEndRange, NoLoadedTwist, NoLoadedOneLeg, NoHanging)
	return append(out, "pregnancy-early", "pregnancy", "blood-pressure", "brittle-bones", "hypermobile")
}

// OfHealth tells whether a limit is named by what it is for: among what is known of a person
// that is for the health questions alone.
func (l LimitID) OfHealth() bool { _, is := healthLimits[l]; return is }

// Expand gives the plain limits that a limit stands for; ok is false for what is none.
func (l LimitID) Expand() (plain []LimitID, ok bool) {
	if many, is := healthLimits[l]; is {
		return many, true
	}
	return []LimitID{l}, slices.Contains(Limits(), l)
}

// Joint gives the joint of a limit and whether it is spared altogether; ok is false
// for limits that are not of a joint.
func (l LimitID) Joint() (joint string, spared, ok bool) {
	if j, is := strings.CutSuffix(string(l), mild); is {
		return j, false, slices.Contains(LimitJoints, j)
	}
	j, is := strings.CutSuffix(string(l), spare)
	return j, true, is && slices.Contains(LimitJoints, j)
}

// Touch is what a move asks that some must be spared, without the "no-" of the limit.
type Touch string

// touch is what a limit that is not of a joint spares.
func (l LimitID) touch() Touch { return Touch(strings.TrimPrefix(string(l), "no-")) }

// The counts of a tempo from which a hold is long and the breath is held (house).
const (
	longPause  = 3
	longCounts = 5
)

// Touches lists what a move asks that some must be spared, with a load or without,
// from pose, hold, tempo, needs and demands by rules (house); a move's own may add,
// never take away.
//
//	lying on the back    supine
//	lying on the front   prone
//	floor                every pose but standing, unless a bench carries it
//	overhead             moves with the load overhead
//	impact               a demand of impact
//	balance risk         a demand of 2 or more on balance
//	head below heart     hinges and bridges, and push-ups with the feet up
//	breath-holding       counts of five and more, heavy loads, a bar
//	long holds           pauses of three counts and more, any of five
//	loaded back bending  with a load: hinges, turns and side bends, whatever asks 2 of the low back
//	loaded end range     with a load or on one leg: a demand of 3 on a joint
//	loaded twist         with a load: whatever turns, and the turns of the trunk
//	loaded one leg       with a load, where one foot carries the body: 2 or more on balance
//	hanging stretch      rows in which the body hangs under a table
func (v *Variant) Touches(loaded bool) []Touch {
	out := slices.Clone(v.TouchesToo)
	add := func(when bool, l LimitID) {
		if t := l.touch(); when && !slices.Contains(out, t) {
			out = append(out, t)
		}
	}
	t := v.TempoOf()
	longest, pause := 0, max(t.Parts[1], t.Parts[3])
	for _, p := range t.Parts {
		longest = max(longest, p)
	}
	add(v.Pose == "supine", NoLyingOnBack)
	add(v.Pose == "prone", NoLyingOnFront)
	add(v.Pose != "standing" && !slices.Contains(v.Needs, "bench"), NoFloor)
	add(v.Overhead, NoOverhead)
	add(v.Demands["impact"] > 0, NoImpact)
	add(v.Demands["balance"] >= 2, NoBalanceRisk)
	add(v.Pattern == Hinge && v.Pose == "standing" || v.Pattern == Bridge && v.Pose == "supine" || v.FeetMm > 0,
		NoHeadBelowHeart)
	add(
		longest >= longCounts || loaded && v.Class == "heavy" || slices.Contains(v.Holds, "bar-back") ||
			slices.Contains(v.Holds, "bar-hung"),
		NoBreathHolding,
	)
	add(pause >= longPause || longest >= longCounts, NoLongHolds)
	add(loaded && (v.Pattern == Hinge || v.Plane == "turning" || v.Demands["low-back"] >= 2), NoLoadedBack)
	for _, j := range LimitJoints {
		add(v.Demands[j] == 3 && (loaded || v.StandsOnOneLeg()), NoLoadedEndRange)
	}
	add(loaded && (v.Plane == "turning" || v.Pattern == TrunkTurn), NoLoadedTwist)
	add(loaded && v.StandsOnOneLeg() && v.Demands["balance"] >= 2, NoLoadedOneLeg)
	add(v.Pattern == Pull && v.Pose == "supine" && slices.Contains(v.Needs, "table"), NoHanging)
	return out
}

// LightShare of a starting load is light enough for a joint that is spared mildly
// (house).
const LightShare = 0.5

// Breaks tells whether a move with a load breaks a limit; light says that the load is
// at most LightShare of what it starts from. The limit is a plain one.
func (v *Variant) Breaks(l LimitID, load measure.Mass, light bool) bool {
	joint, spared, ok := l.Joint()
	switch {
	case !ok:
		return slices.Contains(v.Touches(load > 0), l.touch())
	case spared:
		return v.Demands[joint] >= 1
	}
	demand := v.Demands[joint]
	return demand >= 1 && v.Demands["impact"] > 0 || demand == 3 || demand == 2 && load > 0 && !light
}

// CautionsFor lists a move's cautions, with a load or without: its own first, then
// those of what it touches and asks clearly of.
func (v *Variant) CautionsFor(loaded bool) []string {
	out := slices.Clone(v.Cautions)
	say := func(what string) {
		for _, c := range cautions() {
			if line := v.said(c.Say); c.Touch == what && !slices.Contains(out, line) {
				out = append(out, line)
			}
		}
	}
	for _, t := range v.Touches(loaded) {
		say(string(t))
	}
	most := 0
	for _, n := range v.Demands {
		most = max(most, n)
	}
	for _, j := range Joints {
		if n := v.Demands[j]; n >= min(2, most) && n > 0 {
			say(j)
		}
	}
	if slices.Contains(v.Needs, "band") {
		say("band")
	}
	return out
}

// SetupFor gives the set-up of a move as it is held: its own steps, then where the
// load goes.
func (v *Variant) SetupFor(hold HoldID) []string {
	out := slices.Clone(v.Setup)
	if line := v.HoldLine(hold); line != "" {
		out = append(out, line)
	}
	return out
}

// HoldLine says where the load goes in a hold; empty for none.
func (v *Variant) HoldLine(hold HoldID) string {
	if line, ok := v.HoldLines[hold]; ok {
		return line
	}
	return v.said(holdLines()[hold])
}

// SlowerMends tells whether slower lowering may stand for a load that is too light:
// never in ballistic moves, carries, holds, chains and get-ups.
func (v *Variant) SlowerMends() bool {
	t := v.TempoOf()
	hold := t.Parts[0] >= longCounts || t.Parts[1] >= longPause || t.Parts[3] >= longPause
	return !v.Ballistic && v.Pattern != Carry && !v.Staged() && len(v.Parts) == 0 && !hold && !v.Drill
}
