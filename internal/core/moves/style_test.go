package moves

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every school has a default among its options, each with a reason; every effect
// reaches some move and changes nothing that computes.
func TestSchoolsHangTogether(t *testing.T) {
	lib := Standard()
	require.Len(t, Schools(), 13)
	for _, s := range Schools() {
		assert.True(t, slices.ContainsFunc(s.Options, func(o Option) bool { return o.ID == s.Default }), s.ID)
		for _, o := range s.Options {
			assert.NotEmpty(t, o.Why, "%s %s", s.ID, o.ID)
			styled := lib.Styled(Style{Studio: map[string]string{s.ID: o.ID}})
			for i, v := range lib.All() {
				x := styled.All()[i]
				assert.Equal(t, []any{v.ID, v.Resistance, v.Holds, v.Ladder, v.Rung, v.Stop, v.Cautions}, []any{x.ID, x.Resistance, x.Holds, x.Ladder, x.Rung, x.Stop, x.Cautions})
				assert.NotEmpty(t, x.Cues)
				assert.Subset(t, x.Cues, v.Cues, "a school adds a cue and drops none")
			}
		}
		for _, e := range s.Effects {
			assert.True(t, slices.ContainsFunc(s.Options, func(o Option) bool { return o.ID == e.Option }), "%s %s", s.ID, e.Option)
			assert.True(t, slices.ContainsFunc(lib.All(), e.meets), "%s %s changes nothing", s.ID, e.Option)
		}
	}
}

func TestStyleReference(t *testing.T) {
	lib := Standard()
	get := func(s Style, id string) *Variant {
		v, ok := lib.Styled(s).Get(id)
		require.True(t, ok)
		return v
	}
	studio := func(school, option string) Style { return Style{Studio: map[string]string{school: option}} }
	// The hand that holds the weight in single-leg hinges, per school (common practice).
	assert.Contains(t, get(Style{}, "single-leg-deadlift").SetupFor("suitcase-one"), "Weight in the hand opposite the standing leg.")
	assert.Contains(t, get(studio("load-side", "same"), "single-leg-deadlift").SetupFor("suitcase-one"), "Weight in the hand beside the working leg.")
	assert.NotContains(t, get(Style{}, "single-leg-deadlift").SetupFor("hung-two"), "Weight in the hand opposite the standing leg.", "two weights have no opposite hand")
	// Knees behind the toes, but for one move that is excepted.
	behind := Style{Studio: map[string]string{"knees": "behind"}, Moves: map[string]map[string]string{"squat": {"knees": "free"}}}
	assert.Equal(t, "Sit back, knees stay behind the toes.", get(behind, "goblet-squat").Cues[0])
	assert.Equal(t, get(Style{}, "squat").Cues, get(behind, "squat").Cues)
	// No breath-holding advice to Ground: moves that are its marks are left out, and what
	// is done without a load.
	assert.NotContains(t, get(studio("breath", "hold-down"), "squat").Cues[0], "hold")
	assert.Contains(t, get(studio("breath", "hold-down"), "two-weight-front-squat").Cues[0], "hold")
	// The floor instead of the bench: no lane's mark stands on a bench any more.
	assert.Empty(t, get(studio("thrust", "floor"), "bench-hip-thrust").Lanes)
	off := lib.Styled(studio("back-squat", "off"))
	assert.True(t, off.Hidden("barbell-back-squat"))
	assert.False(t, slices.ContainsFunc(off.OfPattern(Squat), func(v *Variant) bool { return v.ID == "barbell-back-squat" }))
	for _, bad := range []Style{studio("knees", "sideways"), studio("hats", "on"), {Moves: map[string]map[string]string{"dance": {"knees": "free"}}}} {
		assert.NotEmpty(t, bad.Check(lib))
	}
	require.Empty(t, behind.Check(lib))
}

// Every word of the glossary is met in the library's texts, or is a word of its
// screens; none stands twice.
func TestGlossaryIsUsed(t *testing.T) {
	var texts strings.Builder
	for _, v := range Standard().All() {
		for _, s := range append(append(append([]string{v.Purpose, v.Fault.What, v.Fault.Sign, v.Fault.Mend, v.Test, v.Down}, v.Cues...), v.Setup...), v.Ends...) {
			texts.WriteString(" " + strings.ToLower(s))
		}
	}
	onScreen := []string{"rung", "ladder", "lever", "tempo", "chain", "superset", "finisher", "load class", "side hip", "staggered", "working side", "weight shift"}
	seen := map[string]bool{}
	for _, w := range Glossary() {
		assert.NotEmpty(t, w.Means)
		met := slices.Contains(onScreen, w.Term)
		for _, form := range append(slices.Clone(w.Also), w.Term) {
			assert.False(t, seen[form], form)
			seen[form] = true
			met = met || strings.Contains(texts.String(), form)
		}
		assert.True(t, met, "%s is used nowhere", w.Term)
	}
}
