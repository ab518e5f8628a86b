package compose

import (
	"cmp"
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// Spare gives participants an entry of their own wherever what their lane does is something
// that they are to be spared, and says so: the best that the kit covers beside the others, of
// the slot's pattern or what stands in for it, else a drill for the trunk or the joints. Who
// has an entry of their own keeps it. A class that fits goes on fitting. Where nothing is to be
// had they stay with the lane, which is drawn, and the notes say so.
func Spare(d circuit.Document, c plan.Context) (circuit.Document, []why.Why) {
	var notes []why.Why
	if len(c.Bound()) == 0 {
		return d, nil
	}
	c.Stock = c.Stock.Memoized()
	judges := c.Judges(d)
	out := d.Clone()
	for i := range out.Blocks {
		for n := range out.Blocks[i].Slots {
			for _, p := range c.Bound() {
				if w, ok := spareIn(&out, c, i, n, p, judges); ok {
					notes = append(notes, w)
				}
			}
		}
	}
	return out, notes
}

// spareIn gives somebody an entry of their own in a slot if what they would do there breaks
// something.
func spareIn(d *circuit.Document, c plan.Context, block, n int, p plan.Party, judges plan.Judges) (why.Why, bool) {
	b := d.Blocks[block]
	s := b.Slots[n]
	if _, own := s.Entries[p.ID()]; own {
		return why.Why{}, false
	}
	now, ok := s.Of(p.ID(), p.Lane)
	x, known := c.ChoiceOf(now)
	if !ok || !known || x.Variant == nil {
		return why.Why{}, false
	}
	j := judges.Bound(b, s)[p.ID()]
	if len(j.Spared(x)) == 0 {
		return why.Why{}, false
	}
	who := why.ID("lane", string(p.ID()))
	if e, ok := inPlace(*d, c, block, n, p, j); ok {
		s.Entries[p.ID()] = e
		how := "other"
		if e.Variant == now.Variant {
			how = "easier"
		}
		return why.Of(
			why.NoteSpared,
			why.House,
			who,
			why.ID("to", e.Variant),
			why.ID("from", now.Variant),
			why.ID("how", how),
		), true
	}
	return why.Of(why.NoteSparedRests, why.House, who, why.ID("from", now.Variant)), true
}

// doneElsewhere is what it costs somebody to do a move once more that they do in another slot, in
// points (house).
const doneElsewhere = 60.0

// doesElsewhere lists the moves that somebody does in other slots than one.
func doesElsewhere(d circuit.Document, slot string, p plan.Party) []string {
	var out []string
	for _, s := range d.Loaded() {
		if e, ok := s.Of(p.ID(), p.Lane); ok && s.ID != slot {
			out = append(out, e.Variant)
		}
	}
	return out
}

// mostInstead is how many entries are tried before the next pattern is looked at.
const mostInstead = 60

// inPlace finds the cheapest entry that somebody may be given in a slot with the kit that is
// left there.
func inPlace(
	d circuit.Document, c plan.Context, block, n int, p plan.Party, j *choice.Judge,
) (best circuit.Entry, ok bool) {
	b := d.Blocks[block]
	long, fits := plan.Length(d, c), measure.Span(c.Minutes)*measure.Minute
	packed := len(plan.Repacked(d))
	elsewhere := doesElsewhere(d, b.Slots[n].ID, p)
	patterns := b.Slots[n].Pattern.StandIns()
	for _, more := range []moves.Pattern{moves.TrunkBrace, moves.Mobility} {
		if !slices.Contains(patterns, more) {
			patterns = append(slices.Clone(patterns), more)
		}
	}
	for _, pattern := range patterns {
		var cands []candidate
		for _, v := range c.Library.OfPattern(pattern) {
			cands = append(cands, entriesOf(v, j)...)
		}
		for i, x := range cands {
			if slices.Contains(elsewhere, x.entry.Variant.ID) {
				cands[i].cost += doneElsewhere
			}
		}
		slices.SortStableFunc(cands, func(a, b candidate) int { return cmp.Compare(a.cost, b.cost) })
		for i, x := range shorter(cands) {
			if i == 2*mostInstead {
				break
			}
			e := plan.EntryFor(b.Format(), j, x.entry)
			if x.few {
				low := x.entry.Variant.RepsLow
				if e.Dose.Kind != circuit.Count || e.Dose.Low <= low {
					continue
				}
				e.Dose.Low, e.Dose.High = low, low
			}
			if e.Sides == scheme.ByRound && b.RoundsOf(b.Slots[n]) == 1 {
				e.Sides = scheme.Split
			}
			for _, way := range x.ways {
				e.Anchors = append([]string{}, way...)
				next := d.Clone()
				next.Blocks[block].Slots[n].Entries[p.ID()] = e
				next.Blocks[block].Slots[n] = next.Blocks[block].Slots[n].SettledIn(b.RoundsOf(b.Slots[n]))
				inHand, waves := c.InHand(next.Blocks[block], n)
				if !inHand.Covered(c.Stock, waves) {
					continue
				}
				if plan.Length(next, c) > max(long, fits) || len(plan.Repacked(next)) > packed {
					continue
				}
				return next.Blocks[block].Slots[n].Entries[p.ID()], true
			}
		}
	}
	return best, false
}

// short is a candidate, with as few repetitions as the move has where few is said: the usual
// set may be too long for a class that is full.
type short struct {
	candidate
	few bool
}

// shorter lists candidates by their cost, then again with few repetitions.
func shorter(cands []candidate) []short {
	cands = cands[:min(len(cands), mostInstead)]
	var out []short
	for _, few := range []bool{false, true} {
		for _, x := range cands {
			if !few || len(x.entry.Variant.Parts) == 0 {
				out = append(out, short{x, few})
			}
		}
	}
	return out
}

// spareNew gives those who are to be spared something in a new slot an entry of their own.
func spareNew(d circuit.Document, block int, c plan.Context, s circuit.Slot) map[people.Party]circuit.Entry {
	next := d.Clone()
	next.Blocks[block].Slots = append(next.Blocks[block].Slots, s)
	next, _ = Spare(next, c)
	slots := next.Blocks[block].Slots
	return slots[len(slots)-1].Entries
}
