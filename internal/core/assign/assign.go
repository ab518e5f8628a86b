// Package assign gives each of some rows a column of its own so that the sum is the least.
package assign

import "math"

// Never is the cost of a pair that may not be. Costs lie well below it.
const Never = math.MaxInt64 / 4

// Least gives every row a column, no column to two rows, with the least sum of costs; ok is
// false where some row cannot have any. There are at least as many columns as rows, and all
// rows are of one length. It takes O(rows² x columns) (Kuhn 1955, in the form of shortest
// augmenting paths by Jonker and Volgenant 1987; from memory). The duals of rows and columns
// prove it: for all pairs row + column <= cost, the columns' are at most 0, and their sum over
// rows and taken columns is the sum of costs.
func Least(cost [][]int64) (columns []int, sum int64, rows, cols []int64, ok bool) {
	n := len(cost)
	if n == 0 {
		return nil, 0, nil, nil, true
	}
	m := len(cost[0])
	// Numbered from 1; column 0 is where a row that looks for one begins.
	u, v := make([]int64, n+1), make([]int64, m+1)
	rowOf, before := make([]int, m+1), make([]int, m+1)
	least, used := make([]int64, m+1), make([]bool, m+1)
	for i := 1; i <= n; i++ {
		rowOf[0] = i
		for j := range least {
			least[j], used[j] = math.MaxInt64, false
		}
		at := 0
		for {
			used[at] = true
			row, next, step := rowOf[at], -1, int64(math.MaxInt64)
			for j := 1; j <= m; j++ {
				if used[j] {
					continue
				}
				if c := cost[row-1][j-1]; c < Never {
					if d := c - u[row] - v[j]; d < least[j] {
						least[j], before[j] = d, at
					}
				}
				if least[j] < step {
					step, next = least[j], j
				}
			}
			if next < 0 {
				return nil, 0, nil, nil, false
			}
			for j := 0; j <= m; j++ {
				switch {
				case used[j]:
					u[rowOf[j]] += step
					v[j] -= step
				case least[j] < math.MaxInt64:
					least[j] -= step
				}
			}
			at = next
			if rowOf[at] == 0 {
				break
			}
		}
		for at != 0 {
			rowOf[at] = rowOf[before[at]]
			at = before[at]
		}
	}
	columns = make([]int, n)
	for j := 1; j <= m; j++ {
		if rowOf[j] > 0 {
			columns[rowOf[j]-1] = j - 1
			sum += cost[rowOf[j]-1][j-1]
		}
	}
	return columns, sum, u[1:], v[1:], true
}
