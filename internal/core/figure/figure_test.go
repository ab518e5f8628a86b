package figure

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
)

// Worked by hand from the segment table: standing, the hip lies .246 + .245 +
// .039 = .530 over the floor (Winter's own hip height), the crown .530 + .288 +
// .117 + .065 = 1.000.
func TestStandingIsAsTallAsStature(t *testing.T) {
	d := Draw(Pose{Trunk: 90, Near: [2]float64{-90, -90}, Far: [2]float64{-90, -90}, Arm: [2]float64{-90, -90}, FarArm: [2]float64{-90, -90}})
	assert.Equal(t, 1050, d.Height) // with the margin over the head
	hip := d.Lines[2].Points[0]
	assert.Equal(t, 530, d.Height-hip[1])
}

// The first rung of every ladder has a figure; every figure is of a move there is,
// in words too; limbs keep their lengths, nothing is under the floor or outside.
func TestFiguresHangTogether(t *testing.T) {
	lib := moves.Standard()
	for _, v := range lib.All() {
		if v.Rung == 1 {
			_, ok := Of(v.ID)
			assert.True(t, ok, "%s begins a ladder and has no figure", v.ID)
		}
	}
	for _, s := range people.Screens {
		_, ok := Of("screen-" + string(s))
		assert.True(t, ok, "%s has no figure", s)
	}
	for id, f := range all() {
		screen, is := strings.CutPrefix(id, "screen-")
		_, ok := lib.Get(id)
		require.True(t, ok || is && people.Screen(screen).Known(), id)
		assert.NotEqual(t, f.Start, f.End, id)
		for _, d := range []Drawing{f.Start, f.End} {
			assert.NotEmpty(t, d.Say, id)
			for _, l := range d.Lines {
				for _, p := range l.Points {
					assert.True(t, p[0] >= 0 && p[0] <= d.Width && p[1] >= 0 && p[1] <= d.Height+1, "%s: %s leaves the drawing", id, l.Part)
				}
				if l.Part == "near-leg" {
					long := math.Hypot(float64(l.Points[1][0]-l.Points[0][0]), float64(l.Points[1][1]-l.Points[0][1]))
					assert.InDelta(t, 245, long, 1.5, id)
				}
			}
		}
	}
}
