package compose

import (
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
)

// Fit gives the edits that bring a document into the minutes of its class: by rounds, work,
// rest and the pause between rounds of its first circuit, as near to the house's habits as can be, its own work
// and rest among what is tried. The slots stay as they are; ok is false where they are too
// many for the minutes.
func Fit(doc circuit.Document, c plan.Context) (ops []circuit.Op, ok bool) {
	d, block, ok := doc.Single()
	if !ok {
		return nil, false
	}
	b := Brief{
		Context:   c,
		Format:    d.Format,
		Bans:      d.Bans,
		Known:     d.Known,
		Overruled: d.Overruled,
		Goal:      d.Goal,
		Template:  d.Template,
	}
	with := func(own measure.Span, tried []measure.Span) []measure.Span {
		if slices.Contains(tried, own) {
			return tried
		}
		return append([]measure.Span{own}, tried...)
	}
	x := b.composer(d.WorkMs)
	x.beside = &beside{doc, block}
	next, _, ok := x.fill(d, with(d.WorkMs, tryWork), with(d.RestMs, usualRests))
	if !ok {
		return nil, false
	}
	numbers := *doc.Blocks[block].Scheme.Circuit
	if d.Format == circuit.Timed {
		numbers.WorkMs = next.WorkMs
	}
	numbers.RestMs, numbers.Rounds, numbers.RoundRestMs = next.RestMs, next.Rounds, next.RoundRestMs
	if numbers == *doc.Blocks[block].Scheme.Circuit {
		return nil, true
	}
	return []circuit.Op{{
		Kind: circuit.SetScheme, BlockID: doc.Blocks[block].ID,
		Scheme: &circuit.Scheme{Kind: scheme.Circuit, Circuit: &numbers},
	}}, true
}
