package moves

import (
	"errors"
	"fmt"
	"maps"
	"math"
	"regexp"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/scheme"
)

// Rooms lists what a room may offer besides kit.
var Rooms = []string{"wall", "post", "mat", "smooth-floor", "low-foot-hold"}

// Classes lists the load classes, the lightest first.
var Classes = []string{"none", "light", "light-medium", "medium", "medium-heavy", "heavy"}

var idShape = regexp.MustCompile(`^[a-z][a-z0-9]*(-[a-z0-9]+)*$`)

// Bounds of what somebody may write of a move of their own.
const (
	MaxText  = 400 // characters of a line
	maxLines = 24  // of a list
	maxNeeds = 4   // what an entry can stand on, lean on and pull at
)

// Check gives the faults of a variant as one error, each with its field.
func (v *Variant) Check() error {
	var out []error
	for _, f := range v.Faults() {
		out = append(out, fmt.Errorf("%s: %s", f.Path, f.Message))
	}
	return errors.Join(out...)
}

// checker collects the faults of a variant.
type checker struct {
	out  fault.List
	seen map[string]bool
}

func (c *checker) add(field, format string, args ...any) {
	if !c.seen[field] {
		c.out.Add(field, format, args...)
	}
	c.seen[field] = true
}

func (c *checker) one(field, value string, list []string) {
	if !slices.Contains(list, value) {
		c.add(field, "one of %v, not %q", list, value)
	}
}

func (c *checker) within(field string, value, low, high float64) {
	if !(value >= low && value <= high) { // so that NaN is none
		c.add(field, "from %g to %g, not %g", low, high, value)
	}
}

// Faults says what is wrong with a variant by itself, every field once. Its place on a
// ladder is the library's business.
func (v *Variant) Faults() fault.List {
	c := &checker{seen: map[string]bool{}}
	if !idShape.MatchString(v.ID) || len(v.ID) > 60 {
		c.add("id", "small letters, digits and hyphens, at most 60")
	}
	c.texts(v)
	if t, err := scheme.ParseTempo(v.Tempo); err != nil {
		c.add("tempo", "%v", err)
	} else if t.PerRep() == 0 {
		c.add("tempo", "takes no time; write it as 2-0-2-0")
	}
	if v.RepsLow < 1 || v.RepsHigh < v.RepsLow || v.RepsHigh > 100 {
		c.add("repsLow", "from 1 to 100, the low end first, not %d to %d", v.RepsLow, v.RepsHigh)
	}
	if v.Sides != BothSides && v.Sides != PerSide && v.Sides != Alternating {
		c.add("sides", "both, per-side or alternating, not %q", v.Sides)
	}
	if !slices.Contains(Patterns, v.Pattern) {
		c.add("pattern", "one of %v, not %q", Patterns, v.Pattern)
	}
	for i, n := range v.SpaceCm {
		c.within(fmt.Sprintf("spaceCm[%d]", i), float64(n), 30, 2000)
	}
	c.one("family", string(v.Family), []string{
		string(body.Squat),
		string(body.Hinge),
		string(body.Bridge),
		string(body.Push),
		string(body.Pull),
		string(body.None),
	})
	c.one("role", string(v.Role),
		[]string{string(Main), string(Accessory), string(Isolation), string(Finisher), string(Prep), string(Skill)})
	c.one("class", v.Class, Classes)
	c.one("plane", v.Plane, []string{"front-to-back", "sideways", "turning"})
	c.one("pose", string(v.Pose),
		[]string{"standing", "half-kneeling", "kneeling", "all-fours", "plank", "supine", "prone", "side", "seated"})
	c.one("shoes", v.Shoes, []string{"any", "flat", "socks", "off"})
	c.one("view", v.View, []string{"side", "diagonal", "back"})
	c.one("thigh", v.Thigh, []string{"front", "back", "none", ""})
	c.numbers(v)
	c.lists(v)
	return c.out
}

// texts checks what is read: what must be said, and how long lists are.
func (c *checker) texts(v *Variant) {
	for _, x := range []struct{ field, text string }{{"name", v.Name}, {"purpose", v.Purpose}, {"fault.what", v.Fault.What}, {"fault.sign", v.Fault.Sign}, {"fault.mend", v.Fault.Mend}} {
		if x.text == "" {
			c.add(x.field, "say it in a few words")
		}
	}
	for _, x := range []struct {
		field string
		list  []string
	}{{"cues", v.Cues}, {"setup", v.Setup}, {"stop", v.Stop}, {"ends", v.Ends}} {
		if len(x.list) == 0 || slices.Contains(x.list, "") {
			c.add(x.field, "at least one, none empty")
		}
	}
	for _, x := range []struct {
		field string
		n     int
	}{{"cues", len(v.Cues)}, {"setup", len(v.Setup)}, {"stop", len(v.Stop)}, {"ends", len(v.Ends)}, {"also", len(v.Also)}, {"cautions", len(v.Cautions)}, {"learn", len(v.Learn)},
		{"parts", len(v.Parts)}, {"holds", len(v.Holds)}, {"room", len(v.Room)}, {"weakLinks", len(v.WeakLinks)}, {"covers", len(v.Covers)}, {"lanes", len(v.Lanes)},
		{"onlyLanes", len(v.OnlyLanes)}, {"touches", len(v.TouchesToo)}, {"resistance.heights", len(v.Resistance.Heights)}} {
		if x.n > maxLines {
			c.add(x.field, "at most %d, not %d", maxLines, x.n)
		}
	}
}

// numbers checks that nothing computed from a variant can leave the range of the job.
func (c *checker) numbers(v *Variant) {
	r := v.Resistance
	if r.Limb <= 0 || r.Stance <= 0 || r.Coupling <= 0 {
		c.add("resistance", "limb, stance and coupling are over 0")
	}
	for field, n := range map[string]float64{"limb": r.Limb, "stance": r.Stance, "coupling": r.Coupling, "body": r.Body} {
		if !(n >= 0 && n <= 10) {
			c.add("resistance", "%s: from 0 to 10, not %g", field, n)
		}
	}
	for i, h := range r.Heights {
		c.within(fmt.Sprintf("resistance.heights[%d].heightMm", i), float64(h.HeightMm), -2000, 2000)
		c.within(fmt.Sprintf("resistance.heights[%d].share", i), h.Share, 0, 10)
	}
	if s := v.Start; s != nil {
		c.within("start.share", s.Share, 0, 10)
		c.within("start.ceilingG", float64(s.CeilingG), 0, float64(measure.MaxLoad))
	}
	c.within("rung", float64(v.Rung), 0, 99)
	c.within("feetMm", float64(v.FeetMm), -2000, 2000)
	c.within("houseCues", float64(v.HouseCues), 0, float64(len(v.Cues)))
	for i, p := range v.Parts {
		at := fmt.Sprintf("parts[%d]", i)
		if p.Move == "" || len(p.Move) > 60 {
			c.add(at+".move", "name the part")
		}
		c.within(at+".reps", float64(p.Reps), 1, 100)
		c.within(at+".to", float64(p.To), 0, 100)
		c.within(at+".share", p.Share, 0, 10)
		c.within(at+".ms", float64(p.Ms), 0, 60_000)
	}
}

func (c *checker) lists(v *Variant) {
	if len(v.Holds) == 0 {
		c.add("holds", "at least one; none for no load")
	}
	for _, h := range v.Holds {
		if _, ok := holds[h]; !ok {
			c.add("holds", "%q is not known", h)
		}
	}
	for _, h := range slices.Sorted(maps.Keys(v.HoldLines)) {
		if _, ok := holds[h]; !ok {
			c.add("holdLines", "%q is not known", h)
		}
	}
	if len(v.Needs) > maxNeeds {
		c.add("needs", "at most %d, not %d", maxNeeds, len(v.Needs))
	}
	for _, n := range v.Needs {
		if _, ok := anchors[n]; !ok {
			c.add("needs", "%q is not known", n)
		}
	}
	for _, r := range v.Room {
		c.one("room", r, Rooms)
	}
	for _, p := range v.Covers {
		if !slices.Contains(Patterns, p) {
			c.add("covers", "one of %v, not %q", Patterns, p)
		}
	}
	for _, t := range v.TouchesToo {
		if !slices.ContainsFunc(Limits(), func(l LimitID) bool { return l.touch() == t }) {
			c.add("touches", "%q is nothing that a limit spares", t)
		}
	}
	for _, j := range slices.Sorted(maps.Keys(v.Demands)) {
		n := v.Demands[j]
		c.one("demands", j, Joints)
		if n < 1 || n > 3 {
			c.add("demands."+j, "1 to 3, not %d", n)
		}
		if n == 3 && len(v.Cautions) == 0 {
			c.add("cautions", "a demand of 3 on %s needs one", j)
		}
	}
	sum := 0.0
	for _, r := range slices.Sorted(maps.Keys(v.Emphasis)) {
		c.one("emphasis", r, Regions)
		sum += v.Emphasis[r]
		if !(v.Emphasis[r] >= 0) {
			c.add("emphasis", "no share is under 0")
		}
	}
	if len(v.Emphasis) > 0 && !(math.Abs(sum-1) <= 1e-9) {
		c.add("emphasis", "the shares add up to 1, not %.3f", sum)
	}
	if v.Pattern != Mobility && len(v.Emphasis) == 0 {
		c.add("emphasis", "say how the work is shared")
	}
	if (v.Ladder == "") != (v.Rung == 0) || v.Rung > 1 && v.Lever == nil {
		c.add("ladder", "a rung has a ladder, and from the second on the lever that changes")
	}
	if v.Lever != nil && (v.Lever.Name == "" || v.Lever.Before == "" || v.Lever.After == "") {
		c.add("lever", "name, before and after")
	}
	if v.Ladder != "" && (v.Test == "" || v.Down == "") {
		c.add("test", "a rung says what leads up (test) and what leads down (down)")
	}
}

// Texts gives every text of a variant that somebody writes and reads, by its field.
func (v *Variant) Texts() map[string]*string {
	out := map[string]*string{
		"name":       &v.Name,
		"purpose":    &v.Purpose,
		"fault.what": &v.Fault.What,
		"fault.sign": &v.Fault.Sign,
		"fault.mend": &v.Fault.Mend,
		"test":       &v.Test,
		"down":       &v.Down,
	}
	if l := v.Lever; l != nil {
		out["lever.name"], out["lever.before"], out["lever.after"], out["lever.harder"] = &l.Name, &l.Before, &l.After, &l.Harder
	}
	for field, list := range map[string][]string{"also": v.Also, "cues": v.Cues, "setup": v.Setup, "stop": v.Stop, "ends": v.Ends, "cautions": v.Cautions} {
		for i := range list {
			out[fmt.Sprintf("%s[%d]", field, i)] = &list[i]
		}
	}
	return out
}
