package compose

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/plan"
)

// crowded is a place that is full to its limits: so many rows each of bells of one gram
// and the next, of things to pack and of bags to pack them in, no two alike.
func crowded(rows int) Brief {
	var s kit.Stock
	for i := range rows {
		s.Implements = append(s.Implements, kit.Implement{ID: fmt.Sprint("i", i), Kind: kit.Kettlebell, Mass: measure.Mass(4001 + 37*i), Count: 1 + i%5})
		s.Objects = append(s.Objects, kit.Object{ID: fmt.Sprint("o", i), Use: []string{kit.Grip, kit.Pack, kit.Hug}[i%3], Mass: measure.Mass(301 + 13*i), Count: 10, Volume: measure.Volume(200 + 7*i)})
		s.Containers = append(s.Containers, kit.Container{ID: fmt.Sprint("c", i), Mass: measure.Mass(501 + 3*i), Max: 15_000, Volume: measure.Volume(20_000 + i), Closed: true, Straps: true})
	}
	b := Brief{Context: plan.Context{Library: moves.Standard(), Stock: s, Minutes: 60}, Format: circuit.Timed}
	for _, l := range moves.Lanes {
		b.Parties = append(b.Parties, plan.Party{Lane: l, People: 5, Body: 70_000, Stature: 1700})
	}
	return b
}

// A place may be full to its limits: a class there is still proposed, within ten times
// the goal of two seconds. When nobody waits any more the search ends soon.
func TestCrowdedPlaceIsProposedFor(t *testing.T) {
	ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)
	defer cancel()
	b := crowded(300)
	b.Stock = b.Stock.Until(ctx).Memoized()
	p := Propose(b)
	require.NoError(t, ctx.Err())
	assert.True(t, p.Feasible)

	cancel()
	began := time.Now()
	b.Stock = crowded(300).Stock.Until(ctx).Memoized()
	Propose(b)
	t.Logf("given up in %v", time.Since(began))
}

func BenchmarkProposeCrowded(b *testing.B) {
	for _, rows := range []int{30, 100, 300} {
		b.Run(fmt.Sprintf("rows=%d", 3*rows), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				c := crowded(rows)
				c.Stock = c.Stock.Memoized()
				Propose(c)
			}
		})
	}
}
