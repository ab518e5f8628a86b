package plan

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

func lanes(ground, middle, reach int) []Party {
	var out []Party
	for i, n := range []int{ground, middle, reach} {
		out = append(out, Party{Lane: moves.Lanes[i], People: n, Body: DefaultBody, Stature: DefaultStature})
	}
	return out
}

// known is a class of people who know every move, in an empty room.
func known(lanes []Party) Context {
	return Context{Library: moves.Standard(), Parties: lanes, Minutes: 45, Past: progress.Past{Known: []string{progress.All}}}
}

// plain makes a document of one lane from variants without a load.
func plain(ids ...string) circuit.Single {
	d := circuit.Single{Format: circuit.Timed, WorkMs: 40_000, RestMs: 20_000, Rounds: 1}
	for i, id := range ids {
		v, _ := moves.Standard().Get(id)
		e := circuit.Entry{Variant: id, Hold: moves.NoLoad, Load: kit.Nothing, Dose: circuit.Times(10), Tempo: v.Tempo, Sides: scheme.BothSides}
		if v.Sides != moves.BothSides {
			e.Sides = scheme.Split
		}
		d.Slots = append(d.Slots, circuit.Slot{ID: circuit.SlotID(i + 1), Pattern: v.Pattern, Waves: 1, Entries: map[people.Party]circuit.Entry{"middle": e}})
	}
	return d
}

// What is worth a look (common practice, no source): what is missing, legs twice
// in a row, one weak link twice, nothing to the side, sides that do not suit, a
// set without a whole repetition, an anchor that is not there.
func TestFlagsReference(t *testing.T) {
	c := known(lanes(0, 2, 0))
	whole := []string{"squat", "one-arm-row", "floor-bridge", "push-up", "lateral-lunge", "dead-bug", "hip-hinge"}
	for name, x := range map[string]struct {
		d    circuit.Single
		slot string
		code why.Code
		want bool
	}{
		"complete and mixed":        {plain(whole...), "", why.FlagNoPattern, false},
		"no legs twice":             {plain(whole...), "s7", why.FlagLegsTwice, false},
		"no pull":                   {plain("squat", "push-up", "lateral-lunge", "dead-bug", "hip-hinge", "plank", "floor-bridge"), "", why.FlagNoPattern, true},
		"legs twice":                {plain("squat", "hip-hinge"), "s2", why.FlagLegsTwice, true},
		"shoulder twice":            {plain("push-up", "plank"), "s2", why.FlagWeakLink, true},
		"grip twice, nothing held":  {plain("split-squat", "one-arm-row"), "s2", why.FlagWeakLink, false},
		"nothing to the side":       {plain("squat", "push-up", "floor-bridge", "one-arm-row"), "", why.FlagUneven, true},
		"a bench that is not named": {plain("rear-foot-raised-split-squat"), "s1", why.FaultNoSupport, true},
		"one-sided taken as two-sided": {func() circuit.Single {
			d := plain("split-squat")
			e := d.Slots[0].Entries["middle"]
			e.Sides = scheme.BothSides
			d.Slots[0].Entries["middle"] = e
			return d
		}(), "s1", why.FlagSides, true},
		"not one repetition": {func() circuit.Single { d := plain("paused-goblet-squat"); d.WorkMs = 9000; return d }(), "s1", why.FlagNoRep, true},
		"one repetition":     {func() circuit.Single { d := plain("paused-goblet-squat"); d.WorkMs = 11_000; return d }(), "s1", why.FlagNoRep, false},
	} {
		found := false
		for _, f := range Look(x.d.Document(), c).Flags {
			found = found || f.Slot == x.slot && f.Why.Code == x.code
		}
		assert.Equal(t, x.want, found, name)
	}
}

// Beams of a circuit counted by hand: one push, one pull; squat and lateral lunge
// for the front of the thigh, bridge and hinge for the back; one of four leg moves
// on one leg; two of seven not straight ahead.
func TestBalanceByHand(t *testing.T) {
	c := known(lanes(0, 2, 0))
	d := plain("squat", "one-arm-row", "floor-bridge", "push-up", "lateral-lunge", "reach-and-thread", "hip-hinge")
	assert.Equal(t, []Beam{{"push", "pull", 1, 1, false}, {"front", "back", 2, 2, false}, {"two-legs", "one-leg", 3, 1, false}, {"straight", "sideways", 5, 2, false}}, Look(d.Document(), c).Balance)
	// Where one of two lanes stands on one leg, half of the class does: that is enough.
	c.Parties = lanes(2, 2, 0)
	d.Slots[0].Entries["ground"] = plain("supported-split-squat").Slots[0].Entries["middle"]
	assert.Equal(t, Beam{"two-legs", "one-leg", 2, 2, false}, Look(d.Document(), c).Balance[2])
}

// Prep is chosen for the joints that are asked for: hip and low back first where
// legs work; ankles only where an ankle bends.
func TestPrepFitsTheMoves(t *testing.T) {
	c := known(lanes(0, 2, 0))
	assert.Contains(t, PrepMoves(plain("squat", "goblet-squat").Document(), c), "rocking-ankle-drill")
	assert.NotContains(t, PrepMoves(plain("push-up").Document(), c), "rocking-ankle-drill")
	assert.Contains(t, PrepMoves(plain("push-up").Document(), c), "upper-back-opener")
	assert.NotContains(t, PrepMoves(plain("squat").Document(), c), "band-side-kick", "a drill that needs kit is not taken for granted")
}
