package scheme

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/measure"
)

func tempo(t *testing.T, s string) Tempo {
	x, err := ParseTempo(s)
	require.NoError(t, err)
	return x
}

// Arithmetic of the trade, worked by hand: 3 x (6 x 40 + 5 x 20) + 2 x 60 = 1140.
func TestTotalsReference(t *testing.T) {
	s := measure.Second
	assert.Equal(t, 1140*s, Timed{6, 3, 40 * s, 20 * s, 60 * s, 0, false}.Total().Total)
	assert.Equal(t, 1515*s, Timed{8, 3, 45 * s, 15 * s, 60 * s, 0, false}.Total().Total)
	assert.Equal(t, 230*s, Timed{8, 1, 20 * s, 10 * s, 0, 0, false}.Total().Total)
	assert.Equal(t, 240*s, Timed{8, 1, 20 * s, 10 * s, 0, 0, true}.Total().Total)
	_, work := Move{5, 1, tempo(t, "5-5-X-0")}.Work(0)
	assert.Equal(t, 55*s, work)
	three := tempo(t, "2-0-1-0")
	_, work = Move{12, 2, three}.Work(5 * s)
	assert.Equal(t, 77*s, work)
	// Two two-sided and three one-sided moves: 2 x 36 + 3 x 77 = 303; + 4 x 10 =
	// 343 a round; x 4 = 1372; + 3 x 60 = 1552.
	five := []Move{{12, 1, three}, {12, 1, three}, {12, 2, three}, {12, 2, three}, {12, 2, three}}
	total, _ := Reps{4, 60 * s, 0, 10 * s, 5 * s, five}.Total()
	assert.Equal(t, 1552*s, total.Total)
	// Five moves x 12 x 4 rounds, one two-sided: 48 + 4 x 96 = 432.
	one := []Move{{12, 1, three}, {12, 2, three}, {12, 2, three}, {12, 2, three}, {12, 2, three}}
	_, reps := Reps{4, 0, 0, 0, 0, one}.Total()
	assert.Equal(t, 432, reps)
}

// 10 reps at 2-0-2-0 fill 40 s; one-sided with 5 s to change: 4 a side, switch
// at 17.5 s; 5 a side only if changing costs nothing (common practice).
func TestWindowReference(t *testing.T) {
	s, rep := measure.Second, tempo(t, "2-0-2-0").PerRep()
	assert.Equal(t, Window{10, 0, 0}, FitWindow(40*s, rep, 1, 0))
	assert.Equal(t, Window{4, 17500, 3 * s}, FitWindow(40*s, rep, 2, 5*s))
	assert.Equal(t, Window{5, 20 * s, 0}, FitWindow(40*s, rep, 2, 0))
	assert.Equal(t, Window{0, 0, 0}, FitWindow(3*s, rep, 2, 5*s))
}

// 4 sets = 2 a side; 3 sets: one a side and the third shared, the odd rep to the
// weaker (common practice; the odd repetition house).
func TestSidesReference(t *testing.T) {
	assert.Equal(t, []SideReps{{9, 0}, {0, 9}, {5, 4}}, SplitSides(3, 9, Left))
	assert.Equal(t, []SideReps{{0, 10}, {10, 0}, {0, 10}, {10, 0}}, SplitSides(4, 10, Right))
	assert.Equal(t, []SideReps{{3, 4}}, SplitSides(1, 7, Right))
}

// Parts of a total add up, sides keep every repetition, and the largest that
// fits does fit while one more does not.
func TestTotalsAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := func(name string, low, high int) int { return rapid.IntRange(low, high).Draw(t, name) }
		x := Timed{n("stations", 1, 24), n("rounds", 1, 20), measure.Span(n("work", 1, 90000)), measure.Span(n("rest", 0, 90000)),
			measure.Span(n("pause", 0, 90000)), measure.Span(n("lead", 0, 30000)), rapid.Bool().Draw(t, "last")}
		total := x.Total()
		assert.Equal(t, total.Total, total.LeadIn+total.Work+total.Rest)
		fit := measure.Span(n("fit", 1, 3_600_000))
		at := func(r int) measure.Span { y := x; y.Rounds = r; return y.Total().Total }
		if best, ok := Largest(fit, 1, 100, at); ok {
			assert.LessOrEqual(t, at(best), fit)
			assert.True(t, best == 100 || at(best+1) > fit)
		} else {
			assert.Greater(t, at(1), fit)
		}
		sets, reps := n("sets", 1, 12), n("reps", 1, 30)
		left, right := 0, 0
		for _, s := range SplitSides(sets, reps, Left) {
			left, right = left+s.Left, right+s.Right
		}
		assert.Equal(t, sets*reps, left+right)
		assert.LessOrEqual(t, left-right, 1)
		assert.GreaterOrEqual(t, left, right)
	})
}

func TestTempoRefuses(t *testing.T) {
	for _, s := range []string{"", "2-0-1", "2-0-1-0-0", "2-0-x-0", "2-0--1-0", "61-0-0-0", "02-0-1-0", "2 -0-1-0"} {
		_, err := ParseTempo(s)
		assert.Error(t, err, s)
	}
	assert.Equal(t, "4-0-1-0", tempo(t, "2-0-1-0").Slower().String())
}
