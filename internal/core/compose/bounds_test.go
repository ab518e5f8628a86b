package compose

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
)

// Whoever has entries of their own does not do their lane's: of six at Middle, two of them
// named, four are left; a lane whose people all have their own is asked for nothing.
func TestWhoIsAskedFor(t *testing.T) {
	b := brief(hall, lanes(1, 6, 0), 45, circuit.Timed)
	b.For = named(&b, 1, 2, 0)
	n := map[people.Party]int{}
	for _, p := range b.asked() {
		n[p.id] += p.n
	}
	assert.Equal(t, 4, n[people.OfLane(moves.Middle)])
	assert.NotContains(t, n, people.OfLane(moves.Ground))
	for _, id := range b.For {
		assert.Equal(t, 1, n[id])
	}
}

// Of orders that are as good, the one whose beginning was longest not used comes: each
// beginning once, then the oldest again.
func TestClassesBeginInTurn(t *testing.T) {
	b := brief(hall, lanes(0, 4, 0), 45, circuit.Timed)
	slots := plain("squat", "push-up", "one-arm-row", "hip-hinge").Slots
	begins := func(last ...string) moves.Pattern {
		b.Past.Last = nil
		for _, move := range last {
			b.Past.Last = append(b.Past.Last, []progress.Used{{Move: move}})
		}
		return b.composer(40_000).ordered(slots)[0].Pattern
	}
	used := map[moves.Pattern]string{moves.Squat: "squat", moves.Hinge: "hip-hinge", moves.PushLevel: "push-up", moves.Pull: "one-arm-row"}
	var order []moves.Pattern
	var last []string // the newest first
	for range 10 {
		p := begins(last...)
		if i := slices.Index(order, p); i >= 0 {
			assert.Zero(t, i, "what was used longest ago comes again")
			break
		}
		order = append(order, p)
		last = append([]string{used[p]}, last...)
	}
	assert.Greater(t, len(order), 2)
}

// A leg pattern is tried as it comes, on one leg only and on two only; any other as it comes.
func TestLegsAreTriedApart(t *testing.T) {
	b := brief(hall, lanes(0, 4, 0), 45, circuit.Timed)
	c := b.composer(40_000)
	of := func(ids ...string) (out []candidate) {
		for _, id := range ids {
			v, ok := b.Library.Get(id)
			require.True(t, ok, id)
			out = append(out, candidate{entry: choice.Entry{Variant: v}})
		}
		return out
	}
	both := [][]candidate{of("romanian-deadlift", "single-leg-deadlift")}
	for _, p := range []moves.Pattern{moves.Hinge, moves.Bridge, moves.Squat} {
		tried := c.legs(p, both)
		require.Len(t, tried, 3, p)
		assert.Equal(t, "single-leg-deadlift", tried[1][0][0].entry.Variant.ID)
		assert.Equal(t, "romanian-deadlift", tried[2][0][0].entry.Variant.ID)
	}
	assert.Len(t, c.legs(moves.Pull, both), 1)
	assert.Len(t, c.legs(moves.Hinge, [][]candidate{of("romanian-deadlift")}), 2)
}

// A class that is too long is brought into its minutes by rounds and times, its slots as they
// are: seven slots of 45 s with 60 s between and six rounds are 70 minutes of work and rest
// alone; in 45 minutes they keep within what the lane takes. One that cannot be says so.
func TestFit(t *testing.T) {
	b := brief(hall, lanes(0, 4, 0), 45, circuit.Timed)
	d := single(Propose(b).Document)
	d = d.Clone()
	d.WorkMs, d.RestMs, d.Rounds, d.RoundRestMs = 45_000, 60_000, 6, 90_000
	long := d.Document().Clone()
	require.Negative(t, int64(plan.Look(long, b.Context).SlackMs))
	ops, ok := Fit(long, b.Context)
	require.True(t, ok)
	short, inverse, err := circuit.Apply(long, ops, b.Library)
	require.NoError(t, err)
	look := plan.Look(short, b.Context)
	assert.GreaterOrEqual(t, look.SlackMs, measure.Span(0))
	assert.Less(t, look.SlackMs, 5*measure.Minute, "and no shorter than it must be")
	assert.LessOrEqual(t, single(short).Rounds, mostSets[moves.Middle])
	assert.Equal(t, circuit.Moves(long), circuit.Moves(short))
	back, _, err := circuit.Apply(short, inverse, b.Library)
	require.NoError(t, err)
	assert.Equal(t, long, back)

	b.Minutes = 8
	_, ok = Fit(long, b.Context)
	assert.False(t, ok)
}
