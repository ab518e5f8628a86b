package moves

import (
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
)

var testReps = regexp.MustCompile(`(?:sets|rounds) of (\d+)(?: steps)?( a side)?`)

// Every card says nothing that another line of it denies: its test lies within its range
// and is a side where the move is, its cautions and set-ups are there for every way of
// holding, and no hold's line speaks of another hold.
func TestCardsAgreeWithThemselves(t *testing.T) {
	tested := 0
	for _, v := range Standard().All() {
		if m := testReps.FindStringSubmatch(v.Test); m != nil {
			n, err := strconv.Atoi(m[1])
			require.NoError(t, err)
			assert.LessOrEqual(t, v.RepsLow, n, "%s: %q", v.ID, v.Test)
			assert.GreaterOrEqual(t, v.RepsHigh, n, "%s: %q", v.ID, v.Test)
			assert.Equal(t, v.Sides != BothSides, m[2] != "", "%s: %q", v.ID, v.Test)
			tested++
		}
		if v.Ladder != "" && v.Rung > 1 && v.Pattern != Mobility {
			assert.NotEmpty(t, v.Test, "%s stands on a ladder without a test", v.ID)
		}
		assert.NotEmpty(t, v.CautionsFor(true), "%s has no caution", v.ID)
		for _, id := range v.Holds {
			h, known := HoldOf(id)
			require.True(t, known, v.ID)
			lines := v.SetupFor(id)
			require.NotEmpty(t, lines, v.ID)
			if h.Count > 0 {
				assert.NotEmpty(t, v.HoldLine(id), "%s says not where the load goes: %s", v.ID, id)
			}
			for _, line := range v.Setup {
				if id == "none" {
					assert.NotRegexp(t, `(?i)\b(kettlebell|dumbbell|bell)s?\b`, line, "%s without a load", v.ID)
				}
			}
		}
		for _, s := range append([]string{v.Name, v.Purpose}, v.Also...) {
			assert.Equal(t, strings.TrimSpace(s), s, v.ID)
		}
	}
	assert.Greater(t, tested, 90)
}

// A ladder does not fall by the program's own sum: at 70 kg, with the load that the lane
// starts from or with none, a rung asks no less of the limb than the one below, except
// where the lever that changes is said to make it harder another way.
func TestLaddersRise(t *testing.T) {
	lib := Standard()
	steps := 0
	for _, v := range lib.All() {
		down, ok := lib.Neighbour(v, -1)
		if v.Ladder == "" || !ok || v.Family != down.Family || v.Family == body.None || v.Scale() != down.Scale() {
			continue
		}
		a, errA := down.Resistance.Resist(70_000, 0, body.Setting{Height: measure.Length(down.FeetMm)})
		b, errB := v.Resistance.Resist(70_000, 0, body.Setting{Height: measure.Length(v.FeetMm)})
		require.NoError(t, errA, down.ID)
		require.NoError(t, errB, v.ID)
		steps++
		if v.Lever == nil || v.Lever.Harder == "" {
			assert.GreaterOrEqual(t, b.Comparable, a.Comparable*(1-1e-9), "%s falls from %s", v.ID, down.ID)
		}
	}
	assert.Greater(t, steps, 30)
}

// What some must be spared, move by move, by hand (common practice, no source; from
// memory): what lies on the back, goes overhead, jumps, holds on one leg and so on.
func TestLimitsReference(t *testing.T) {
	for _, x := range []struct {
		limit         LimitID
		breaks, spare []string
	}{
		{NoLyingOnBack, []string{"floor-bridge", "single-leg-floor-bridge", "floor-press"}, []string{"goblet-squat", "push-up", "one-arm-row", "plank"}},
		{NoLyingOnFront, []string{"prone-arm-sweep"}, []string{"goblet-squat", "floor-bridge", "push-up"}},
		{NoFloor, []string{"push-up", "floor-bridge", "plank", "knee-side-plank"}, []string{"goblet-squat", "wall-push-up", "romanian-deadlift", "one-arm-row"}},
		{NoOverhead, []string{"one-arm-press"}, []string{"goblet-squat", "push-up", "one-arm-row"}},
		{NoBalanceRisk, []string{"single-leg-deadlift"}, []string{"box-squat", "floor-bridge", "one-arm-row"}},
		{NoHeadBelowHeart, []string{"romanian-deadlift", "floor-bridge", "feet-raised-push-up"}, []string{"goblet-squat", "one-arm-row", "wall-push-up"}},
		{NoLoadedBack, []string{"romanian-deadlift"}, []string{"goblet-squat", "push-up"}},
		{NoLongHolds, []string{"plank"}, []string{"goblet-squat", "romanian-deadlift"}},
		{Spare("knee"), []string{"goblet-squat", "split-squat", "lateral-lunge", "step-up"}, []string{"plank", "wall-push-up", "knee-side-plank"}},
		{Spare("wrist"), []string{"push-up", "feet-raised-push-up"}, []string{"box-squat", "floor-bridge", "romanian-deadlift"}},
		{Spare("shoulder"), []string{"one-arm-press", "push-up"}, []string{"box-squat", "floor-bridge"}},
		{Spare("hamstring"), []string{"romanian-deadlift", "single-leg-deadlift"}, []string{"box-squat", "wall-push-up", "one-arm-press"}},
		{Spare("low-back"), []string{"romanian-deadlift"}, []string{"wall-push-up", "box-squat"}},
		{Mild("knee"), []string{"cossack-squat"}, []string{"box-squat", "floor-bridge"}},
	} {
		for _, id := range x.breaks {
			v, ok := Standard().Get(id)
			require.True(t, ok, id)
			assert.True(t, v.Breaks(x.limit, 8000, false), "%s under %s", id, x.limit)
		}
		for _, id := range x.spare {
			v, ok := Standard().Get(id)
			require.True(t, ok, id)
			assert.False(t, v.Breaks(x.limit, 0, true), "%s under %s", id, x.limit)
		}
	}
	for _, l := range Limits() {
		plain, ok := l.Expand()
		require.True(t, ok, l)
		broken := 0
		for _, p := range plain {
			for _, v := range Standard().All() {
				if v.Breaks(p, 8000, false) {
					broken++
				}
			}
		}
		assert.Positive(t, broken, "%s spares nothing", l)
		assert.Less(t, broken, len(plain)*len(Standard().All()), "%s leaves nothing", l)
	}
	_, ok := LimitID("knee").Expand()
	assert.False(t, ok, "a joint alone is no limit: mild or spare must be said")
}

// Names in general use are found: other trades' short names and spellings stand on the
// card as such (common practice, no source).
func TestNamesInGeneralUse(t *testing.T) {
	known := map[string]bool{}
	for _, v := range Standard().All() {
		for _, n := range append([]string{v.Name}, v.Also...) {
			known[strings.NewReplacer(" ", "", "-", "").Replace(strings.ToLower(n))] = true
		}
	}
	for _, n := range []string{"RDL", "glute bridge", "curtsy lunge", "pushup", "stepup", "press up", "hip thrust", "split squat", "bent-over row", "overhead press"} {
		assert.True(t, known[strings.NewReplacer(" ", "", "-", "").Replace(strings.ToLower(n))], n)
	}
}
