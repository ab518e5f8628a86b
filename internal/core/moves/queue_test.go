package moves

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

var six = []string{"squat", "floor-bridge", "push-up", "one-arm-row", "split-squat", "dead-bug"}

// Six are due, one is given, five wait (common practice: one new cue a session).
func TestOneNewCueASession(t *testing.T) {
	lib := Standard()
	fresh, waiting := lib.Queue(append(six, "squat"), nil)
	require.NotNil(t, fresh)
	assert.Equal(t, "squat", fresh.Move)
	assert.Len(t, waiting, 5)
	// The next session with the same moves gives the squat's second, until it has no
	// more: three cues, then the bridge's first.
	v, _ := lib.Get("squat")
	sessions := [][]string{}
	for range len(v.Cues) {
		sessions = append(sessions, six)
	}
	fresh, waiting = lib.Queue(six, lib.Taught(sessions))
	assert.Equal(t, Cue{"floor-bridge", 0, "Shins upright at the top."}, *fresh)
	assert.Len(t, waiting, 4)
	assert.Equal(t, v.Cues[len(v.Cues)-1], lib.Remind("squat", lib.Taught(sessions)).Text)
	// A house's own cue is said always and takes nobody's turn.
	house := lib.Styled(Style{Studio: map[string]string{"knees": "behind"}})
	assert.Equal(t, "Sit back, knees stay behind the toes.", house.Remind("squat", lib.Taught(sessions)).Text)
	styled, _ := house.Queue(six, nil)
	assert.Equal(t, v.Cues[0], styled.Text)
	assert.Equal(t, "Blade first, elbow to the hip.", lib.Remind("one-arm-row", nil).Text)
}

// Whatever was done, a session teaches one cue at the most, none twice, and in the
// end nothing is due.
func TestQueueEmpties(t *testing.T) {
	lib := Standard()
	ids := make([]string, 0, len(lib.All()))
	for _, v := range lib.All() {
		ids = append(ids, v.ID)
	}
	rapid.Check(t, func(t *rapid.T) {
		var sessions [][]string
		before := 0
		for range rapid.IntRange(0, 30).Draw(t, "sessions") {
			sessions = append(sessions, rapid.SliceOfN(rapid.SampledFrom(ids), 0, 8).Draw(t, "moves"))
			n := 0
			for id, k := range lib.Taught(sessions) {
				v, _ := lib.Get(id)
				assert.LessOrEqual(t, k, len(v.Cues))
				n += k
			}
			assert.LessOrEqual(t, n-before, 1)
			before = n
		}
	})
	var many [][]string
	for range 40 {
		many = append(many, six)
	}
	fresh, waiting := lib.Queue(six, lib.Taught(many))
	assert.Nil(t, fresh)
	assert.Empty(t, waiting)
}
