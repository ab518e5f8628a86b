package compose

import (
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/plan"
)

// Fit gives the edits that bring a document into the minutes of its class: by rounds, work,
// rest and the pause between rounds, as near to the house's habits as can be, its own work
// and rest among what is tried. The slots stay as they are; ok is false where they are too
// many for the minutes.
func Fit(d circuit.Document, c plan.Context) (ops []circuit.Op, ok bool) {
	b := Brief{Context: c, Format: d.Format, Bans: d.Bans, Known: d.Known, Overruled: d.Overruled}
	with := func(own measure.Span, tried []measure.Span) []measure.Span {
		if slices.Contains(tried, own) {
			return tried
		}
		return append([]measure.Span{own}, tried...)
	}
	next, _, ok := b.composer(d.WorkMs).fill(d, with(d.WorkMs, tryWork), with(d.RestMs, usualRests))
	if !ok {
		return nil, false
	}
	span := func(kind circuit.OpKind, was, is measure.Span) {
		if was != is {
			ops = append(ops, circuit.Op{Kind: kind, Ms: &is})
		}
	}
	if d.Format == circuit.Timed {
		span(circuit.SetWork, d.WorkMs, next.WorkMs)
	}
	span(circuit.SetRest, d.RestMs, next.RestMs)
	if next.Rounds != d.Rounds {
		ops = append(ops, circuit.Op{Kind: circuit.SetRounds, Count: &next.Rounds})
	}
	span(circuit.SetRoundRest, d.RoundRestMs, next.RoundRestMs)
	return ops, true
}
