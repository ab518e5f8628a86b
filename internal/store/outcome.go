package store

import (
	"context"
	"errors"
	"sync/atomic"

	driver "github.com/go-sql-driver/mysql"
)

// Outcome is what is known of the changes that a request asked for.
type Outcome int32

// The outcomes. What was kept once stays kept, whatever fails after it.
const (
	Unchanged Outcome = iota // nothing was kept
	Unknown                  // the connection was lost while the database committed
	Committed
)

type outcomeKey struct{}

// WithOutcome lets OutcomeOf tell what became of the changes that are made with the
// context.
func WithOutcome(ctx context.Context) context.Context {
	return context.WithValue(ctx, outcomeKey{}, new(atomic.Int32))
}

// OutcomeOf tells what became of the changes that were made with a context.
func OutcomeOf(ctx context.Context) Outcome {
	if o, ok := ctx.Value(outcomeKey{}).(*atomic.Int32); ok {
		return Outcome(o.Load())
	}
	return Unchanged
}

func note(ctx context.Context, now Outcome) {
	if o, ok := ctx.Value(outcomeKey{}).(*atomic.Int32); ok && Outcome(o.Load()) < now {
		o.Store(int32(now))
	}
}

// lost tells whether an answer never came: the server gave none of its own, and the
// commit had been sent, which is not so when the context ended before.
func lost(err error) bool {
	var my *driver.MySQLError
	return !errors.As(err, &my) && !errors.Is(err, context.Canceled) && !errors.Is(err, context.DeadlineExceeded)
}
