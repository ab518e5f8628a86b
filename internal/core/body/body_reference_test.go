package body

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"nimbleanvil/internal/core/measure"
)

// Winter 2009, table 4.1 (from memory): both sides and the trunk add up to the
// whole body.
func TestSegmentsAddUpToOne(t *testing.T) {
	limbs := HandMass + ForearmMass + UpperArmMass + FootMass + ShankMass + ThighMass
	assert.InDelta(t, 1.000, 2*limbs+HeadMass+TrunkMass, 1e-9)
	assert.InDelta(t, UpperMass, HeadMass+TrunkMass, 1e-9)
	assert.InDelta(t, LegMass, FootMass+ShankMass+ThighMass, 1e-9)
}

// The body shares of the library that are marked as models follow from the
// segment tables; each sum is written out as its literal.
func TestModelSharesFollowFromSegments(t *testing.T) {
	hinge := UpperMass*UpperCentre + 0.100 // the arms hang too
	for name, c := range map[string]struct{ want, got float64 }{
		"two-leg squat: all but shanks and feet":    {0.878, 1 - 2*(ShankMass+FootMass)},
		"one-leg squat: all but one shank and foot": {0.939, 1 - (ShankMass + FootMass)},
		"two-leg hinge":                         {0.481, hinge},
		"one-leg hinge, free leg reaching back": {0.359, (hinge*HipToShoulder - LegMass*LegCentre*(ThighLength+ShankLength)) / HipToShoulder},
		"floor bridge":                          {0.362, TrunkMass*0.5 + 2*ThighMass*(1-ThighCentre)},
		"one-leg floor bridge":                  {0.466, TrunkMass*0.5 + ThighMass*(1-ThighCentre) + LegMass},
		"one-leg floor bridge, free leg level":  {0.589, TrunkMass*0.5 + ThighMass*(1-ThighCentre) + LegMass*(1+0.2195/HipToShoulder)},
	} {
		assert.InDelta(t, c.want, c.got, 0.0005, name)
	}
}

// Heights for statures from rules of the trade (common practice, no source;
// bench house): worked from knee = .285 stature, less 50 to 20 mm, to 5 mm.
func TestHeightsReference(t *testing.T) {
	for _, c := range []struct {
		stature  measure.Length
		box, bed Range
	}{
		{1700, Range{435, 465}, Range{365, 410}}, // knee 484.5
		{1400, Range{350, 380}, Range{280, 325}}, // knee 399: 349, 379; 279, 324
		{2000, Range{520, 550}, Range{450, 495}}, // knee 570
	} {
		assert.Equal(t, c.box, SitBackBox(KneeFor(c.stature)))
		assert.Equal(t, c.bed, ThrustBench(KneeFor(c.stature)))
	}
	fit := ThrustBench(KneeFor(1700))
	for bench, want := range map[measure.Length]struct {
		v BenchVerdict
		r measure.Length
	}{450: {Raise, 40}, 410: {Fits, 0}, 365: {Fits, 0}, 364: {TooLow, 0}, 460: {Raise, 50}, 461: {TooHigh, 0}, 411: {Raise, 5}} {
		v, r := JudgeBench(bench, fit)
		assert.Equal(t, want.v, v, bench)
		assert.Equal(t, want.r, r, bench)
	}
	// asin(25 / (.72 x .152 x 1700 = 186.05)) = 7.72 degrees (model)
	assert.InDelta(t, 7.72, HeelRaiseAngle(25, 1700), 0.005)
}
