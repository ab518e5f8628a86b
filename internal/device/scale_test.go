package device

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/measure"
)

// A tin is hung, swings, settles within three seconds and weighs what it weighs to
// two divisions; nothing about that depends on the run.
func TestScaleSettles(t *testing.T) {
	for seed := range uint64(50) {
		now := time.Date(2026, 11, 25, 10, 0, 0, 0, time.UTC)
		s := NewSimulated(seed, func() time.Time { return now })
		empty := read(t, s)
		assert.True(t, empty.Stable)
		s.Hang(9000)
		first := read(t, s)
		assert.False(t, first.Stable, "just hung")
		var steadyAfter time.Duration
		for at := time.Duration(0); at < 5*time.Second; at += period {
			if r := read(t, s); r.Stable {
				steadyAfter = at
				assert.InDelta(t, 9000, float64(r.Grams), float64(2*division))
				break
			}
			now = now.Add(period)
		}
		assert.Positive(t, steadyAfter)
		assert.Less(t, steadyAfter, 4*time.Second, "seed %d", seed)
		again := read(t, s)
		assert.Equal(t, again, read(t, s), "the same instant, the same reading")
		require.NoError(t, s.Tare(context.Background()))
		assert.InDelta(t, 0, float64(read(t, s).Grams), float64(2*division))
		s.Hang(0)
		now = now.Add(5 * time.Second)
		assert.InDelta(t, -9000, float64(read(t, s).Grams), float64(4*division), "what was tared is missing")
	}
}

// A creeping or swinging scale is never stable; a cut link and too much are said.
func TestScaleFaults(t *testing.T) {
	ctx := context.Background()
	now := time.Date(2026, 11, 25, 10, 0, 0, 0, time.UTC)
	s := NewSimulated(1, func() time.Time { return now })
	s.Hang(9000)
	for _, f := range []Fault{Creep, Swing} {
		s.Break(f)
		for range 100 {
			now = now.Add(period)
			assert.False(t, read(t, s).Stable, f)
		}
		assert.ErrorIs(t, s.Tare(ctx), ErrTare)
	}
	s.Break(Cut)
	_, err := s.Read(ctx)
	assert.ErrorIs(t, err, ErrLost)
	assert.ErrorIs(t, s.Tare(ctx), ErrLost)
	s.Break(Sound)
	s.Hang(capacity + 1)
	_, err = s.Read(ctx)
	assert.ErrorIs(t, err, ErrOverload)
	s.Hang(capacity)
	now = now.Add(10 * time.Second)
	assert.True(t, read(t, s).Stable)
	gone, cancel := context.WithCancel(ctx)
	cancel()
	_, err = s.Read(gone)
	assert.Error(t, err)
}

func read(t *testing.T, s Scale) Reading {
	t.Helper()
	r, err := s.Read(context.Background())
	require.NoError(t, err)
	assert.Zero(t, r.Grams%measure.Mass(division))
	return r
}
