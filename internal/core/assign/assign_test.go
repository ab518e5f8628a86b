package assign

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// The worked example of Kuhn's method that textbooks show (Munkres 1957, 4 x 4; from memory):
// 82 83 69 92 / 77 37 49 92 / 11 69 5 86 / 8 9 98 23 comes to 140.
func TestWorkedExample(t *testing.T) {
	columns, sum, _, _, ok := Least([][]int64{{82, 83, 69, 92}, {77, 37, 49, 92}, {11, 69, 5, 86}, {8, 9, 98, 23}})
	require.True(t, ok)
	assert.EqualValues(t, 140, sum)
	assert.Equal(t, []int{2, 1, 0, 3}, columns)
}

// brute tries every way.
func brute(cost [][]int64, row int, taken map[int]bool) int64 {
	if row == len(cost) {
		return 0
	}
	best := int64(Never)
	for j, c := range cost[row] {
		if taken[j] || c >= Never {
			continue
		}
		taken[j] = true
		best = min(best, c+brute(cost, row+1, taken))
		taken[j] = false
	}
	return best
}

// Best is best on small ones, and its duals prove it on any.
func TestLeastIsProven(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(0, 6).Draw(t, "rows")
		m := n + rapid.IntRange(0, 2).Draw(t, "more columns")
		cost := make([][]int64, n)
		for i := range cost {
			for range m {
				c := rapid.Int64Range(0, 9).Draw(t, "cost")
				if rapid.IntRange(0, 4).Draw(t, "never") == 0 {
					c = Never
				}
				cost[i] = append(cost[i], c)
			}
		}
		columns, sum, rows, cols, ok := Least(cost)
		want := brute(cost, 0, map[int]bool{})
		require.Equal(t, want < Never, ok)
		if !ok {
			return
		}
		require.Equal(t, want, sum)
		taken, proof := map[int]bool{}, int64(0)
		for i, j := range columns {
			require.False(t, taken[j])
			taken[j] = true
			proof += rows[i] + cols[j]
			for k, c := range cost[i] {
				require.True(t, c >= Never || rows[i]+cols[k] <= c)
				require.LessOrEqual(t, cols[k], int64(0))
			}
		}
		require.Equal(t, sum, proof)
	})
}

// best tries every way, and of those that come to the least keeps the first.
func best(options [][]Option, left []int) (chosen []int, least int64) {
	if len(options) == 0 {
		return nil, 0
	}
	least = Never
	for o, x := range options[0] {
		if !fits(left, x) {
			continue
		}
		take(left, x, 1)
		if rest, sum := best(options[1:], left); x.Cost+sum < least {
			chosen, least = append([]int{o}, rest...), x.Cost+sum
		}
		take(left, x, -1)
	}
	return chosen, least
}

// What is shared out is the best, and of equal ones the first, with people alike or not; with
// little work it is allowed and no better, and prices bound it.
func TestShareIsTheBest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := func(name string, low, high int) int { return rapid.IntRange(low, high).Draw(t, name) }
		have := rapid.SliceOfN(rapid.IntRange(0, 3), 1, 4).Draw(t, "have")
		most := n("pieces", 1, 3)
		var options [][]Option
		for range n("kinds", 1, 3) {
			of := []Option{{Cost: int64(n("nothing", 5, 20))}}
			for range n("options", 0, 4) {
				of = append(of, Option{Cost: int64(n("cost", 0, 12)), Pieces: rapid.SliceOfN(rapid.IntRange(0, len(have)-1), 0, most).Draw(t, "takes")})
			}
			for range n("alike", 1, 3) {
				options = append(options, of)
			}
		}
		want, least := best(options, slices.Clone(have))
		chosen, bound := Share(options, have, Thorough)
		require.Equal(t, least, sum(options, chosen))
		require.Equal(t, want, chosen)
		require.Equal(t, least, bound)
		near, prices := Near(options, have, nil)
		left := slices.Clone(have)
		for i, o := range near {
			require.True(t, fits(left, options[i][o]))
			take(left, options[i][o], 1)
		}
		require.Equal(t, least, sum(options, near), "so few are gone through whole")
		low := Bound(options, have, prices)
		require.LessOrEqual(t, low, least)
		if oneEach(options) {
			require.Equal(t, least, low, "an assignment is proven by its prices")
		}
		for r := range have {
			require.GreaterOrEqual(t, prices[r], int64(0))
		}
	})
}

func BenchmarkLeast24x60(b *testing.B) {
	cost := make([][]int64, 24)
	for i := range cost {
		for j := range 60 {
			cost[i] = append(cost[i], int64((i*7919+j*104729)%1000))
		}
	}
	b.ReportAllocs()
	for b.Loop() {
		Least(cost)
	}
}
