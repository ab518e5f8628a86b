// Package moves is the library of movements: data files read once, checked, and
// looked up by id. Kilograms are never part of a variant.
package moves

import (
	"fmt"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// Version of the library; a log line freezes it.
const Version = "4"

// Pattern is what a session must cover.
type Pattern string

// The patterns.
const (
	Squat        Pattern = "squat"
	Lunge        Pattern = "lunge"
	Lateral      Pattern = "lateral"
	Hinge        Pattern = "hinge"
	Bridge       Pattern = "bridge"
	PushLevel    Pattern = "push-level"
	PushOverhead Pattern = "push-overhead"
	Pull         Pattern = "pull"
	TrunkBrace   Pattern = "trunk-brace"
	TrunkTurn    Pattern = "trunk-turn"
	Carry        Pattern = "carry"
	WholeBody    Pattern = "whole-body"
	Mobility     Pattern = "mobility"
)

// Patterns lists them in teaching order.
var Patterns = []Pattern{
	Squat,
	Lunge,
	Lateral,
	Hinge,
	Bridge,
	PushLevel,
	PushOverhead,
	Pull,
	TrunkBrace,
	TrunkTurn,
	Carry,
	WholeBody,
	Mobility,
}

// kin are patterns of which any may stand where another is planned.
var kin = [][]Pattern{
	{Lunge, Lateral},
	{PushLevel, PushOverhead},
	{TrunkTurn, TrunkBrace, Carry},
}

// StandIns lists what may stand where a pattern is planned: itself first.
func (p Pattern) StandIns() []Pattern {
	out := []Pattern{p}
	for _, any := range kin {
		if slices.Contains(any, p) {
			for _, x := range any {
				if x != p {
					out = append(out, x)
				}
			}
		}
	}
	return out
}

// OfTheLegs tells whether a pattern is done by the legs.
func (p Pattern) OfTheLegs() bool {
	switch p {
	case Squat, Lunge, Lateral, Hinge, Bridge:
		return true
	}
	return false
}

// Lane is a mark on the ladders that a class uses as its default.
type Lane string

// The lanes, from the ground up.
const (
	Ground Lane = "ground"
	Middle Lane = "middle"
	Reach  Lane = "reach"
)

// Lanes lists them in order.
var Lanes = []Lane{Ground, Middle, Reach}

// Sides says how a variant treats the two sides.
type Sides string

// A variant works both sides at once, one side after the other, or turn by turn
// (opposite arm and leg count as turn by turn).
const (
	BothSides   Sides = "both"
	PerSide     Sides = "per-side"
	Alternating Sides = "alternating"
)

// Lever is the one thing that changes from the rung below.
type Lever struct {
	Name   string `json:"name"`
	Before string `json:"before"`
	After  string `json:"after"`
	// Harder says what makes the rung harder where the resistance does not rise.
	Harder string `json:"harder,omitempty"`
}

// Start is the house's starting load without a benchmark: a share of the lane's
// reference, in all or for each hand, with a ceiling in grams (0: none).
type Start struct {
	Share    float64      `json:"share"`
	PerHand  bool         `json:"perHand"`
	CeilingG measure.Mass `json:"ceilingG,omitempty"`
}

// Role of a variant in a session. Isolation, finishers and skills are never
// proposed by themselves: they are chosen.
type Role string

// The roles.
const (
	Main      Role = "main"
	Accessory Role = "accessory"
	Isolation Role = "isolation"
	Finisher  Role = "finisher"
	Prep      Role = "prep"
	Skill     Role = "skill"
)

// Fault is the usual fault, its sign, and the mend.
type Fault struct {
	What string `json:"what"`
	Sign string `json:"sign"`
	Mend string `json:"mend"`
}

// Variant is a body shape with the holds it allows.
type Variant struct {
	ID      string      `json:"id"`
	Name    string      `json:"name"`
	Also    []string    `json:"also,omitempty"` // other common names
	Family  body.Family `json:"family"`
	Pattern Pattern     `json:"pattern"`
	Role    Role        `json:"role"`
	// Covers are patterns that it trains besides its own.
	Covers []Pattern `json:"covers,omitempty"`
	// Ladder and Rung place it; Lever tells what changed from the rung below.
	Ladder string `json:"ladder,omitempty"`
	Rung   int    `json:"rung,omitempty"`
	Lever  *Lever `json:"lever,omitempty"`
	// Learn are the moves to know first, in order.
	Learn []string `json:"learn,omitempty"`
	// Gate names what must be passed before this is proposed to anybody.
	Gate  string `json:"gate,omitempty"`
	Plane string `json:"plane"`
	Sides Sides  `json:"sides"`
	// ToLift is what it is on the way to a lift with a bar: the lesson, or the squat of the
	// gate.
	ToLift ToLift `json:"toLift,omitempty"`
	// Part is what it is as a part of a chain, where its pattern does not say.
	Part string `json:"part,omitempty"`
	// Lanes whose default mark this is.
	Lanes []Lane `json:"lanes"`
	// OnlyLanes, where present, are the only ones that are given it.
	OnlyLanes []Lane `json:"onlyLanes,omitempty"`
	// ByLog marks what is given only to who has the rung below in the log.
	ByLog bool `json:"byLog,omitempty"`
	// OneArm marks what one arm at a time does while both legs stand; OneLeg what
	// stands on one leg outside the families of legs.
	OneArm     bool        `json:"oneArm,omitempty"`
	OneLeg     bool        `json:"oneLeg,omitempty"`
	Resistance body.Shares `json:"resistance"`
	Holds      []HoldID    `json:"holds"`
	Start      *Start      `json:"start,omitempty"`
	// Class is the weight it asks for, from its starting share.
	Class string `json:"class"`
	// Needs are the anchors it cannot do without: seat, bench, step, edge,
	// foot-rest, table, band.
	Needs []string `json:"needs"`
	// Low asks for a low seat or step.
	Low bool `json:"low,omitempty"`
	// Room is what it needs of the room besides: wall, post, mat, smooth-floor,
	// low-foot-hold.
	Room []string `json:"room,omitempty"`
	// SpaceCm is the clear floor, long and wide, in centimetres.
	SpaceCm  [2]int `json:"spaceCm"`
	Pose     Pose   `json:"pose"`
	Tempo    string `json:"tempo"`
	RepsLow  int    `json:"repsLow"`
	RepsHigh int    `json:"repsHigh"`
	// WeakLinks are what gives out first: grip, low-back, shoulder.
	WeakLinks []string `json:"weakLinks"`
	// Thigh is the half of the thigh that works most: front, back or none.
	Thigh string `json:"thigh"`
	// Demands on joints, balance, grip and by impact: 1 a little, 2 clearly, 3 high.
	Demands map[string]int `json:"demands"`
	// Emphasis is how the work is shared, as a planning aid; the shares add up to 1.
	Emphasis map[string]float64 `json:"emphasis,omitempty"`
	// Overhead, Ballistic and OverFace moves never round a load up.
	Overhead  bool `json:"overhead,omitempty"`
	Ballistic bool `json:"ballistic,omitempty"`
	OverFace  bool `json:"overFace,omitempty"`
	// FeetMm is the usual height of the feet above the hands of a push-up.
	FeetMm measure.Length `json:"feetMm,omitempty"`
	// Drill marks a move without a resistance that can be planned.
	Drill bool `json:"drill,omitempty"`
	// Pulse marks what warms up before all else.
	Pulse bool `json:"pulse,omitempty"`
	// BagThrown marks the one ballistic move that a soft closed bag is made for.
	BagThrown bool `json:"bagThrown,omitempty"`
	// Anchored marks what pulls at something that holds the feet.
	Anchored bool `json:"anchored,omitempty"`
	// TouchesToo adds to what the rules say that it asks.
	TouchesToo []Touch `json:"touches,omitempty"`
	// InTurn is a house's way with the sides: in turn instead of one, then the other.
	InTurn bool `json:"inTurn,omitempty"`
	// Parts of a complex or a unit, in order; each is called.
	Parts   []Part   `json:"parts,omitempty"`
	Purpose string   `json:"purpose"`
	Setup   []string `json:"setup"`
	// HoldLines say where the load goes where the hold's usual line does not fit.
	HoldLines map[HoldID]string `json:"holdLines,omitempty"`
	Cues      []string          `json:"cues"` // in teaching order, one at a time
	// HouseCues is how many of them, at the front, are the house's: they are said
	// always and are no part of the queue.
	HouseCues int `json:"houseCues,omitempty"`
	// HouseRep is how long the house has measured a repetition to take, in ms.
	HouseRep measure.Span `json:"houseRepMs,omitempty"`
	Fault    Fault        `json:"fault"`
	// Ends are the signs that end a rep or a set.
	Ends []string `json:"ends"`
	// Test leads a rung up, Down a rung down.
	Test     string   `json:"test,omitempty"`
	Down     string   `json:"down,omitempty"`
	Cautions []string `json:"cautions,omitempty"`
	Stop     []string `json:"stop"`
	Shoes    string   `json:"shoes"`
	// View is where to stand to show it.
	View string `json:"view"`

	say func(string) string // its language, where it is not the library's own
}

// Joints lists what a demand can name, from the ground up.
var Joints = []string{
	"ankle",
	"knee",
	"hamstring",
	"hip",
	"low-back",
	"upper-back",
	"neck",
	"shoulder",
	"elbow",
	"wrist",
	"balance",
	"impact",
	"grip",
}

// Joints lists what the variant clearly asks of, from the ground up.
func (v *Variant) Joints() []string {
	var out []string
	for _, j := range Joints {
		if v.Loads(j) {
			out = append(out, j)
		}
	}
	return out
}

// Loads tells whether a move clearly asks something of a joint.
func (v *Variant) Loads(joint string) bool { return v.Demands[joint] >= 2 }

// Regions lists what an emphasis can name.
var Regions = []string{
	"front-thigh",
	"back-thigh",
	"glutes",
	"inner-thigh",
	"side-hip",
	"calf",
	"chest",
	"upper-back",
	"shoulder",
	"arm",
	"trunk",
}

// Proposed tells whether a composer may put the variant into a circuit by itself:
// not what is chosen for its own sake or learned first.
func (v *Variant) Proposed() bool {
	if v.Gate != "" || v.Ballistic {
		return false
	}
	return v.Role == Main || v.Role == Accessory || v.Role == Prep
}

// bigPatterns are those whose moves on both sides at once carry a programme.
var bigPatterns = []Pattern{Squat, Hinge, Bridge, PushLevel, PushOverhead, Pull}

// Big tells whether it is a move that a group keeps from class to class: on both sides at
// once, of a pattern that carries the programme. Others, one-sided ones above all, take turns
// (common practice).
func (v *Variant) Big() bool {
	return v.Sides == BothSides && !v.Drill && slices.Contains(bigPatterns, v.Pattern)
}

// ToLift is a step on the way to a lift with a bar.
type ToLift string

// The steps.
const (
	LiftLesson ToLift = "lesson"
	LiftGate   ToLift = "gate"
)

// Pose is the position a move is done in.
type Pose string

// Level ranks poses by how far down they are: 0 standing, 1 kneeling or seated,
// 2 on the floor.
func (p Pose) Level() int {
	switch p {
	case "standing":
		return 0
	case "kneeling", "half-kneeling", "seated":
		return 1
	}
	return 2
}

// Setting is the variant's usual setting.
func (v *Variant) Setting() body.Setting { return body.Setting{Height: v.FeetMm} }

// Wants lists what the move cannot do without: its needs, then what it wants of the room.
func (v *Variant) Wants() []string {
	if len(v.Room) == 0 {
		return v.Needs
	}
	return slices.Concat(v.Needs, v.Room)
}

// SideCount is 2 when the sides are worked one after the other.
func (v *Variant) SideCount() int {
	if v.Sides == PerSide {
		return 2
	}
	return 1
}

// Ceiling is the most a hold of so many implements carries without a benchmark,
// all together; 0 for no ceiling.
func (v *Variant) Ceiling(count int) measure.Mass {
	if v.Start == nil {
		return 0
	}
	if v.Start.PerHand {
		return v.Start.CeilingG * measure.Mass(count)
	}
	return v.Start.CeilingG
}

// Staged tells whether the move is learned by its stages, each a rung: its load stays as it
// is while they go up.
func (v *Variant) Staged() bool { return v.Ladder == "get-up" }

// ReadiesOverhead tells whether the move shows that somebody is ready for a load overhead.
func (v *Variant) ReadiesOverhead() bool { return v.Ladder == "floor-press" }

// ReadiesBar tells whether a set of it counts towards the gate to a bar on the back: the squat
// that leads there, and two weights in front of the same total.
func (v *Variant) ReadiesBar() bool {
	return v.ToLift == LiftGate || v.Ladder == "squat" && v.HeldByTwo()
}

// FailsBadly tells whether it is unsafe to do it until few are left: overhead, over the face,
// thrown, or through the stages of a skill.
func (v *Variant) FailsBadly() bool { return v.NeverUp() || v.Staged() }

// ByRungs tells whether a move goes by rungs alone and never by a set done to see what somebody
// can, since failing at it is unsafe: the stages of a skill, side bends under a weight, legs
// under a load overhead.
func (v *Variant) ByRungs() bool {
	return v.Staged() || v.Pattern == TrunkTurn && v.Plane == "sideways" || v.Overhead && v.Family == body.Squat
}

// NeverUp tells whether a load may never be rounded up in this move.
func (v *Variant) NeverUp() bool { return v.Overhead || v.Ballistic || v.OverFace }

// BodyShares tells whether the body's own mass is part of the resistance.
func (v *Variant) BodyShares() bool {
	return v.Family != body.None && (v.Resistance.Body > 0 || len(v.Resistance.Heights) > 0)
}

// Numbered tells whether the model has a number for the move: a load that is held, or
// a body that shares. Curls, drags and drills have none.
func (v *Variant) Numbered() bool { return v.BodyShares() || v.Start != nil }

// ByIronAlone tells whether a load is judged by the iron alone: presses, rows, and
// whatever has no comparable resistance.
func (v *Variant) ByIronAlone() bool { return !v.BodyShares() }

// Scale names what the resistance may be compared within: the family, and bridges on
// a bench apart from those on the floor.
func (v *Variant) Scale() string {
	if v.Family == body.Bridge && slices.Contains(v.Needs, "bench") {
		return "bench-bridge"
	}
	return string(v.Family)
}

// twoLegs is the limb share of what is done on two legs.
const twoLegs = 0.5

// StanceFactor names the stance factor of a move that is learned for people: that of what is
// done on one leg or split, on a scale of the legs, as in "squat-1.35"; ok is false for any
// other.
func (v *Variant) StanceFactor() (id string, ok bool) {
	switch v.Family {
	case body.Squat, body.Hinge, body.Bridge:
		if v.Resistance.Limb > twoLegs && v.BodyShares() {
			return fmt.Sprintf("%s-%g", v.Scale(), v.Resistance.Stance), true
		}
	}
	return "", false
}

// Stances lists the stance factors that are learned for people.
func (l *Library) Stances() []string {
	var out []string
	for _, v := range l.All() {
		if id, ok := v.StanceFactor(); ok && !slices.Contains(out, id) {
			out = append(out, id)
		}
	}
	slices.Sort(out)
	return out
}

// ResistanceWhy explains what a body and an external load come to in this variant.
func (v *Variant) ResistanceWhy(of, external measure.Mass, r body.Resistance) why.Why {
	w := v.Resistance.Why(of, external, r)
	w.Terms = append(w.Terms, why.ID("family", string(v.Family)))
	return w
}

// HeldByTwo tells whether the variant is only ever held with two implements.
func (v *Variant) HeldByTwo() bool {
	return len(v.Holds) > 0 &&
		!slices.ContainsFunc(v.Holds, func(id HoldID) bool { h, _ := HoldOf(id); return h.Count != 2 })
}

// HeldByOneHand tells whether the variant is only ever held in one hand.
func (v *Variant) HeldByOneHand() bool {
	loaded := 0
	for _, id := range v.Holds {
		if h, _ := HoldOf(id); h.Count > 0 {
			loaded++
			if !h.OneHand {
				return false
			}
		}
	}
	return loaded > 0
}

// OnOneLeg tells whether one leg carries the work.
func (v *Variant) OnOneLeg() bool {
	legs := v.Family == body.Squat || v.Family == body.Hinge || v.Family == body.Bridge
	return v.OneLeg || legs && !v.OneArm && (v.Sides == PerSide || v.Sides == Alternating && v.Pattern == Lunge)
}

// StandsOnOneLeg tells whether one foot carries the body at the end of its range.
func (v *Variant) StandsOnOneLeg() bool { return v.OnOneLeg() && v.Pose == "standing" }

// Marks tells whether the variant is a lane's default.
func (v *Variant) Marks(l Lane) bool {
	for _, x := range v.Lanes {
		if x == l {
			return true
		}
	}
	return false
}

// TempoOf parses the variant's usual tempo, which the library checked.
func (v *Variant) TempoOf() scheme.Tempo {
	t, _ := scheme.ParseTempo(v.Tempo)
	return t
}

// HeldSo tells whether a move may be held so.
func (v *Variant) HeldSo(h HoldID) bool { return slices.Contains(v.Holds, h) }
