// Package device reads what stands beside the program: a luggage scale today. A
// simulated one ships behind the interface that a real one would use.
package device

import (
	"context"
	"errors"
	"time"

	"nimbleanvil/internal/core/measure"
)

// Reading is one reading of a scale. Only a stable one is a weight.
type Reading struct {
	Grams  measure.Mass
	Stable bool
	At     time.Time
}

// What a scale may answer instead of a reading.
var (
	ErrLost     = errors.New("the link to the scale is lost")
	ErrOverload = errors.New("the scale is overloaded")
	ErrTare     = errors.New("only a steady load can be set to nothing")
)

// Scale is a hanging scale. Its methods may be called from several places at once.
type Scale interface {
	// Name says which scale it is.
	Name() string
	// Capacity and Division are what it can carry and what it shows.
	Capacity() measure.Mass
	Division() measure.Mass
	// Read gives the newest reading: ErrOverload or ErrLost where there is none.
	Read(ctx context.Context) (Reading, error)
	// Tare sets what hangs now to nothing; ErrTare while it is not steady.
	Tare(ctx context.Context) error
}
