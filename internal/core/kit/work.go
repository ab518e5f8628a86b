package kit

import "context"

// work bounds a search. It counts steps, not time, so that the same request gets the
// same answer; the context stops it at once when nobody waits for the answer any more.
// A step is about ten nanoseconds on the machine of docs/benchmarks.md.
type work struct {
	ctx  context.Context
	left int
	look int // steps until the context is looked at
	out  bool
}

// enough is how much work one question for a load may be: about a second.
const enough = 80_000_000

// lookEvery is how many steps go by between two looks at the context.
const lookEvery = 100_000

func newWork(ctx context.Context, steps int) *work {
	return &work{ctx: ctx, left: steps, look: lookEvery}
}

// spend takes steps and tells whether the search may go on.
func (w *work) spend(steps int) bool {
	if w.out {
		return false
	}
	w.left -= steps
	if w.look -= steps; w.look <= 0 {
		w.look = lookEvery
		w.out = w.ctx.Err() != nil
	}
	w.out = w.out || w.left <= 0
	return !w.out
}

// part runs a piece of a search with a share of what is left, and tells whether it came
// to its end.
func (w *work) part(steps int, f func()) (whole bool) {
	if w.out {
		return false
	}
	steps = min(steps, w.left)
	rest := w.left - steps
	w.left = steps
	f()
	whole = !w.out
	w.left = rest + max(w.left, 0)
	w.out = w.left <= 0 || w.ctx.Err() != nil
	return whole
}
