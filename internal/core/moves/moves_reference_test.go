package moves

import (
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

// Ladders are lines without gaps on which one lever changes a step; every
// pattern has something; every lane finds a mark for the main patterns.
func TestLibraryHangsTogether(t *testing.T) {
	lib := Standard()
	require.GreaterOrEqual(t, len(lib.All()), 30)
	rungs := map[string]map[int]*Variant{}
	for _, v := range lib.All() {
		assert.Equal(t, v.Rung > 1, v.Lever != nil, "%s: a lever names what changed from the rung below", v.ID)
		if v.Ladder == "" {
			continue
		}
		if rungs[v.Ladder] == nil {
			rungs[v.Ladder] = map[int]*Variant{}
		}
		assert.Nil(t, rungs[v.Ladder][v.Rung], "%s shares its rung", v.ID)
		rungs[v.Ladder][v.Rung] = v
	}
	for name, line := range rungs {
		for i := 1; i <= len(line); i++ {
			require.NotNil(t, line[i], "ladder %s has a gap at %d", name, i)
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
}
