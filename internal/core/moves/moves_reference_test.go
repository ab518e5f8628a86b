package moves

import (
	"flag"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
)

// Worked by hand for 70 kg from the share table: .878 x 70 = 61.46 lifted, half
// of it on a leg, and so on. Rear-foot share published (Helme et al. 2022, from
// memory); push-up shares published (Ebben et al. 2011, from memory); the rest
// models from Winter's tables, or house.
func TestResistanceReference(t *testing.T) {
	for _, c := range []struct {
		move     string
		external measure.Mass
		set      body.Setting
		per, cmp float64 // kg
	}{
		{"squat", 0, body.Setting{}, 30.73, 30.73},
		{"goblet-squat", 24000, body.Setting{}, 42.73, 42.73}, // (61.46 + 24) / 2
		{"split-squat", 0, body.Setting{}, 46.095, 34.144},    // .75 x 61.46; / 1.35
		{"reverse-lunge", 0, body.Setting{}, 46.095, 34.144},  //
		{"forward-lunge", 0, body.Setting{}, 46.095, 34.144},  //
		{"rear-foot-raised-split-squat", 0, body.Setting{}, 52.241, 38.697},
		{"lateral-lunge", 0, body.Setting{}, 52.241, 38.697},         //
		{"cossack-squat", 0, body.Setting{}, 52.241, 38.697},         //
		{"step-up", 0, body.Setting{}, 65.73, 48.689},                // .939 x 70
		{"single-leg-squat", 0, body.Setting{}, 65.73, 65.73},        //
		{"romanian-deadlift", 24000, body.Setting{}, 28.835, 28.835}, // (33.67 + 24) / 2
		{"staggered-deadlift", 0, body.Setting{}, 28.620, 24.887},    // .85 x 33.67
		{"single-leg-deadlift", 12000, body.Setting{}, 37.13, 32.287},
		{"floor-bridge", 0, body.Setting{}, 12.67, 12.67}, // .362 x 70 / 2
		{"single-leg-floor-bridge", 0, body.Setting{}, 32.62, 28.365},
		{"single-leg-floor-bridge-level", 0, body.Setting{}, 41.23, 35.852},
		{"bench-hip-thrust", 40000, body.Setting{}, 27.7, 27.7}, // (15.4 + 40) / 2
		{"single-leg-bench-hip-thrust", 0, body.Setting{}, 22.4, 19.478},
		{"push-up", 10000, body.Setting{}, 26.9, 26.9},               // (44.8 + .9 x 10) / 2
		{"push-up", 0, body.Setting{Height: 610}, 25.9, 25.9},        // .74
		{"push-up", 0, body.Setting{Height: -305}, 19.25, 19.25},     // .55
		{"push-up", 0, body.Setting{Height: 122}, 23.24, 23.24},      // .64 + .4 x .06 = .664
		{"knee-push-up", 0, body.Setting{}, 17.15, 17.15},            // .49
		{"table-row", 0, body.Setting{}, 24.85, 24.85},               // .71
		{"table-row", 0, body.Setting{AngleDeg: 60}, 12.425, 12.425}, // cos 60 = 1/2
	} {
		v, ok := Standard().Get(c.move)
		require.True(t, ok, c.move)
		r, err := v.Resistance.Resist(70000, c.external, c.set)
		require.NoError(t, err)
		assert.InDelta(t, c.per*1000, r.PerLimb, 0.5, c.move)
		assert.InDelta(t, c.cmp*1000, r.Comparable, 0.5, c.move)
	}
	v, _ := Standard().Get("push-up")
	_, err := v.Resistance.BodyShare(body.Setting{Height: 611})
	assert.Error(t, err, "nobody measured beyond 610 mm")
	// A two-leg hinge as hard as the one-leg hinge with 12 kg holds 30.9 kg.
	hinge, _ := Standard().Get("romanian-deadlift")
	ext, err := hinge.Resistance.ExternalFor(32287, 70000, body.Setting{})
	require.NoError(t, err)
	assert.InDelta(t, 30900, ext, 5)
}

// The shares a family may have, from the published segment tables, the measured
// push-ups, and the house's (docs/rules.md, resistance); anything else is a typing
// error.
var shares = map[body.Family][][3]float64{ // body, limb, stance
	body.Squat:  {{.878, .5, 1}, {.878, .75, 1.35}, {.878, .85, 1.35}, {.939, 1, 1.35}, {.939, 1, 1}},
	body.Hinge:  {{.481, .5, 1}, {.481, .85, 1.15}, {.359, 1, 1.15}},
	body.Bridge: {{.362, .5, 1}, {.466, 1, 1.15}, {.589, 1, 1.15}, {.22, .5, 1}, {.32, 1, 1.15}},
	body.Push:   {{.64, .5, 1}, {.49, .5, 1}, {0, .5, 1}, {0, 1, 1}},
	body.Pull:   {{.71, .5, 1}, {0, .5, 1}, {0, 1, 1}},
	body.None:   {{0, 1, 1}},
}

// Ladders are lines without gaps on which one lever changes a step, from what it
// was to what it becomes; neighbours are each other's; what is asked for first is
// there; high demands are cautioned; nothing stands twice.
func TestLibraryHangsTogether(t *testing.T) {
	lib := Standard()
	require.GreaterOrEqual(t, len(lib.All()), 120)
	rungs, twins := map[string]map[int]*Variant{}, map[string]string{}
	for _, v := range lib.All() {
		require.NoError(t, v.Check(), v.ID)
		assert.Contains(t, shares[v.Family], [3]float64{v.Resistance.Body, v.Resistance.Limb, v.Resistance.Stance}, v.ID)
		for _, first := range v.Learn {
			_, ok := lib.Get(first)
			assert.True(t, ok, "%s asks for %s first", v.ID, first)
		}
		for joint, n := range v.Demands {
			if n == 3 {
				assert.NotEmpty(t, v.Cautions, "%s asks much of %s", v.ID, joint)
				assert.NotEmpty(t, v.Stop, v.ID)
			}
		}
		same := fmt.Sprint(v.Pattern, v.Holds, v.Sides, v.Tempo, v.Pose, v.Plane, v.Needs, v.Room, v.Resistance, v.FeetMm, v.Lever, v.Emphasis, v.Parts, v.Overhead)
		if v.Lever == nil && v.Pattern == Mobility {
			same += v.ID // drills differ by what they open
		}
		assert.Empty(t, twins[same], "%s is the same as %s", v.ID, twins[same])
		twins[same] = v.ID
		if v.Ladder == "" {
			continue
		}
		if rungs[v.Ladder] == nil {
			rungs[v.Ladder] = map[int]*Variant{}
		}
		assert.Nil(t, rungs[v.Ladder][v.Rung], "%s shares its rung", v.ID)
		rungs[v.Ladder][v.Rung] = v
	}
	require.GreaterOrEqual(t, len(rungs), 25)
	for name, line := range rungs {
		require.GreaterOrEqual(t, len(line), 2, "a ladder of one rung is none: %s", name)
		last := map[string]string{} // lever -> its value on the rung below
		for i := 1; i <= len(line); i++ {
			require.NotNil(t, line[i], "ladder %s has a gap at %d", name, i)
			if l := line[i].Lever; i > 1 {
				require.NotNil(t, l, line[i].ID)
				assert.NotEqual(t, l.Before, l.After, line[i].ID)
				if was := last[l.Name]; was != "" {
					assert.Equal(t, was, l.Before, "%s: the lever stood elsewhere on the rung below", line[i].ID)
				}
				last[l.Name] = l.After
			}
			up, ok := lib.Neighbour(line[i], 1)
			require.Equal(t, i < len(line), ok)
			if ok {
				down, _ := lib.Neighbour(up, -1)
				assert.Equal(t, line[i].ID, down.ID)
			}
		}
	}
	for _, p := range Patterns {
		assert.NotEmpty(t, lib.OfPattern(p), p)
	}
	for _, p := range []Pattern{Squat, Lunge, Hinge, Bridge, PushLevel, Pull} {
		for _, l := range Lanes {
			found := false
			for _, v := range lib.OfPattern(p) {
				found = found || v.Marks(l)
			}
			assert.True(t, found, "%s has no mark for %s", p, l)
		}
	}
	for _, l := range BeyondKit() {
		assert.NotEmpty(t, l.Say)
		for _, id := range l.Nearest {
			_, ok := lib.Get(id)
			assert.True(t, ok, id)
		}
	}
}

var update = flag.Bool("update", false, "add new ids to the list of those ever shipped")

// An id, once shipped, stands for ever: logs and circuits hold it.
func TestIDsAreForEver(t *testing.T) {
	const file = "testdata/ids.txt"
	b, err := os.ReadFile(file)
	require.NoError(t, err)
	shipped := strings.Fields(string(b))
	for _, id := range shipped {
		_, ok := Standard().Get(id)
		assert.True(t, ok, "%s was shipped: it may not be renamed or dropped", id)
	}
	var fresh []string
	for _, v := range Standard().All() {
		if !slices.Contains(shipped, v.ID) {
			fresh = append(fresh, v.ID)
		}
	}
	if *update && len(fresh) > 0 {
		require.NoError(t, os.WriteFile(file, []byte(strings.Join(append(shipped, fresh...), "\n")+"\n"), 0o600))
		return
	}
	assert.Empty(t, fresh, "new ids: go test ./internal/core/moves -update")
}
