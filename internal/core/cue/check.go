package cue

import (
	"fmt"
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/scheme"
)

// longest is the most a running order may take: a class and all that can be added to it.
const longest = int64(12 * 60 * measure.Minute)

// Check says what keeps an order that was made elsewhere from being run: its stretches are
// without gaps, in order of time, from nothing to the total; its events lie within.
func (o Order) Check() error {
	if o.Total < 1 || o.Total > longest || len(o.Stretches) == 0 {
		return fmt.Errorf("totalMs: from 1 to %d, with stretches, not %d", longest, o.Total)
	}
	at := int64(0)
	for i, b := range o.Stretches {
		if b.From != at || b.Until <= b.From || !slices.Contains(scheme.Kinds, b.Kind) {
			return fmt.Errorf("stretches[%d]: a known kind, from %d on, without a gap", i, at)
		}
		at = b.Until
	}
	if at != o.Total {
		return fmt.Errorf("stretches: they end at %d and not at the total", at)
	}
	for i, e := range o.Events {
		if e.From < 0 || e.Until < e.From || e.Until > o.Total || !slices.Contains(scheme.Kinds, e.Kind) {
			return fmt.Errorf("events[%d]: a known kind within the order", i)
		}
	}
	for i, c := range o.Calls {
		if c.At < 0 || c.At > o.Total || !slices.Contains(CallKinds, c.Kind) {
			return fmt.Errorf("calls[%d]: a known call within the order", i)
		}
	}
	return nil
}
