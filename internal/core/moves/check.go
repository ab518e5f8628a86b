package moves

import (
	"errors"
	"fmt"
	"math"
	"regexp"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/scheme"
)

// Rooms lists what a room may offer besides kit.
var Rooms = []string{"wall", "post", "mat", "smooth-floor", "low-foot-hold"}

// Classes lists the load classes, the lightest first.
var Classes = []string{"none", "light", "light-medium", "medium", "medium-heavy", "heavy"}

var idShape = regexp.MustCompile(`^[a-z][a-z0-9]*(-[a-z0-9]+)*$`)

// Check says what is wrong with a variant by itself; every message names the
// field and the mend. Its place on a ladder is the library's business.
func (v *Variant) Check() error {
	t, err := scheme.ParseTempo(v.Tempo)
	one := func(field, value string, list []string) error {
		if slices.Contains(list, value) {
			return nil
		}
		return fmt.Errorf("%s: one of %v, not %q", field, list, value)
	}
	var words []error
	for field, text := range map[string]string{"name": v.Name, "purpose": v.Purpose, "fault.what": v.Fault.What, "fault.sign": v.Fault.Sign, "fault.mend": v.Fault.Mend} {
		if text == "" {
			words = append(words, fmt.Errorf("%s: say it in a few words", field))
		}
	}
	for field, list := range map[string][]string{"cues": v.Cues, "setup": v.Setup, "stop": v.Stop, "ends": v.Ends} {
		if len(list) == 0 || slices.Contains(list, "") {
			words = append(words, fmt.Errorf("%s: at least one, none empty", field))
		}
	}
	switch {
	case !idShape.MatchString(v.ID) || len(v.ID) > 60:
		return errors.New("id: small letters, digits and hyphens, at most 60")
	case err != nil:
		return fmt.Errorf("tempo: %w", err)
	case t.PerRep() == 0:
		return errors.New("tempo: takes no time; write it as 2-0-2-0")
	case v.Resistance.Limb <= 0 || v.Resistance.Stance <= 0 || v.Resistance.Coupling <= 0:
		return errors.New("resistance: limb, stance and coupling are over 0")
	case len(v.Holds) == 0:
		return errors.New("holds: at least one; none for no load")
	case v.RepsLow < 1 || v.RepsHigh < v.RepsLow || v.RepsHigh > 100:
		return fmt.Errorf("repsLow, repsHigh: from 1 to 100, the low end first, not %d to %d", v.RepsLow, v.RepsHigh)
	case v.Sides != BothSides && v.Sides != PerSide && v.Sides != Alternating:
		return fmt.Errorf("sides: both, per-side or alternating, not %q", v.Sides)
	case !slices.Contains(Patterns, v.Pattern):
		return fmt.Errorf("pattern: one of %v, not %q", Patterns, v.Pattern)
	case v.SpaceCm[0] < 30 || v.SpaceCm[1] < 30 || v.SpaceCm[0] > 2000 || v.SpaceCm[1] > 2000:
		return errors.New("spaceCm: long and wide, 30 to 2000 each")
	}
	families := []string{string(body.Squat), string(body.Hinge), string(body.Bridge), string(body.Push), string(body.Pull), string(body.None)}
	if err := errors.Join(append(words,
		one("family", string(v.Family), families),
		one("role", string(v.Role), []string{string(Main), string(Accessory), string(Isolation), string(Finisher), string(Prep), string(Skill)}),
		one("class", v.Class, Classes),
		one("plane", v.Plane, []string{"front-to-back", "sideways", "turning"}),
		one("pose", string(v.Pose), []string{"standing", "half-kneeling", "kneeling", "all-fours", "plank", "supine", "prone", "side", "seated"}),
		one("shoes", v.Shoes, []string{"any", "flat", "socks", "off"}),
		one("view", v.View, []string{"side", "diagonal", "back"}))...); err != nil {
		return err
	}
	return v.checkLists(one)
}

func (v *Variant) checkLists(one func(field, value string, list []string) error) error {
	for _, h := range v.Holds {
		if _, ok := holds[h]; !ok {
			return fmt.Errorf("holds: %q is not known", h)
		}
	}
	for _, n := range v.Needs {
		if _, ok := anchors[n]; !ok {
			return fmt.Errorf("needs: %q is not known", n)
		}
	}
	for _, r := range v.Room {
		if err := one("room", r, Rooms); err != nil {
			return err
		}
	}
	for j, n := range v.Demands {
		if err := one("demands", j, Joints); err != nil {
			return err
		}
		if n < 1 || n > 3 {
			return fmt.Errorf("demands.%s: 1 to 3, not %d", j, n)
		}
		if n == 3 && len(v.Cautions) == 0 {
			return fmt.Errorf("cautions: a demand of 3 on %s needs one", j)
		}
	}
	sum := 0.0
	for r, n := range v.Emphasis {
		if err := one("emphasis", r, Regions); err != nil {
			return err
		}
		sum += n
	}
	if len(v.Emphasis) > 0 && math.Abs(sum-1) > 1e-9 {
		return fmt.Errorf("emphasis: the shares add up to 1, not %.3f", sum)
	}
	if v.Pattern != Mobility && len(v.Emphasis) == 0 {
		return errors.New("emphasis: say how the work is shared")
	}
	if (v.Ladder == "") != (v.Rung == 0) || v.Rung > 1 && v.Lever == nil {
		return errors.New("ladder, rung, lever: a rung has a ladder, and from the second on the lever that changes")
	}
	if v.Lever != nil && (v.Lever.Name == "" || v.Lever.Before == "" || v.Lever.After == "") {
		return errors.New("lever: name, before and after")
	}
	if v.Ladder != "" && (v.Test == "" || v.Down == "") {
		return errors.New("test, down: a rung says what leads up and what leads down")
	}
	return nil
}
