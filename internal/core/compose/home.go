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
	"nimbleanvil/internal/core/why"
)

// TakeHome gives a party's version of every slot for one person in another place
// with its own stock: the same variant where the cupboard serves it, else the best
// substitute that is as hard, else the nearest of the pattern. Every container is packed
// once. The document keeps the order and times.
func TakeHome(d circuit.Document, home plan.Context) (circuit.Document, []why.Why) {
	home.Stock = home.Stock.Memoized()
	b := Brief{
		Context:   home,
		Format:    format(d),
		Bans:      d.Bans,
		Known:     slices.Clone(d.Known),
		Overruled: d.Overruled,
		For:       []people.Party{home.Parties[0].ID()},
	}
	// What was done in class is known at home; nobody is there to teach anything else.
	for _, s := range d.Slots() {
		if e, ok := s.Of(home.Parties[0].ID(), home.Parties[0].Lane); ok && !slices.Contains(b.Known, e.Variant) {
			b.Known = append(b.Known, e.Variant)
		}
	}
	out, notes := b.takeHome(d)
	return b.packedOnce(out, notes, func(try Brief) (circuit.Document, []why.Why, bool) {
		x, n := try.takeHome(d)
		return x, n, true
	})
}

// format is what most of a document goes by: its first circuit, else repetitions.
func format(d circuit.Document) circuit.Format {
	if s, _, ok := d.Single(); ok {
		return s.Format
	}
	return circuit.Reps
}

// takeHome does slot by slot what the brief's only party can do with its stock.
func (b Brief) takeHome(d circuit.Document) (circuit.Document, []why.Why) {
	out := d.Clone()
	out.Known = b.Known
	var notes []why.Why
	for i, block := range d.Blocks {
		in, work := b.in(block)
		c := in.composer(work)
		who := c.parties[0]
		out.Blocks[i].Slots, out.Blocks[i].Layout = []circuit.Slot{}, circuit.Together
		for _, s := range block.Slots {
			now, _ := s.Of(who.id, who.Lane)
			e, swap, ok := c.atHome(now, s.Pattern, who)
			if !ok {
				notes = append(notes, why.Of(why.NoteLeftOut, why.House, why.ID("pattern", string(s.Pattern))))
				continue
			}
			s.Waves, s.Entries = 1, map[people.Party]circuit.Entry{who.id: e}
			out.Blocks[i].Slots = append(out.Blocks[i].Slots, s.SettledIn(block.RoundsOf(s)))
			if e.Variant != now.Variant {
				notes = append(notes, swap)
			}
		}
	}
	return out, notes
}

// atHome finds what stands at home for what a party does in class, and says what it is
// in place of; ok is false where there is nothing.
func (c *composer) atHome(
	now circuit.Entry,
	pattern moves.Pattern,
	who party,
) (e circuit.Entry, swap why.Why, ok bool) {
	j := c.judges[who.id]
	instead := func(to string) why.Why {
		return why.Of(why.NoteHomeSwap, why.House, why.ID("from", now.Variant), why.ID("to", to))
	}
	if v, known := c.Library.Get(now.Variant); known {
		if x, ok := keep(j, v); ok {
			return plan.EntryFor(c.Format, j, x), swap, true
		}
		if x, ok := c.instead(v, now, who); ok {
			swap = instead(x.Variant.ID)
			swap.Terms = append(swap.Terms, why.Pct("resistance", measure.Round(x.ResistancePct, 1)))
			return plan.EntryFor(c.Format, j, x.Entry), swap.With(x.Why), true
		}
	}
	pl := c.place(pattern.StandIns(), false)
	if len(pl.options) == 0 {
		return e, swap, false
	}
	best := slices.MinFunc(pl.options, func(a, b combination) int { return cmp.Compare(a.total, b.total) })
	e = best.entries[who.id]
	return e, instead(e.Variant), true
}

// homeShort is how far short, in per cent, what is kept or put in its place at home may
// be before the next is looked for (house).
const homeShort = 20.0

// homeOptions is how many substitutes are looked at.
const homeOptions = 30

// keep does the same variant at home where the cupboard serves it nearly enough.
func keep(j *choice.Judge, v *moves.Variant) (choice.Entry, bool) {
	var best choice.Entry
	short, found := 0.0, false
	for _, e := range j.Entries(v) {
		r := j.Reckon(e, j.Reps(v))
		if miss := r.ShortPct + 2*r.OverPct; miss <= homeShort && (!found || miss < short) {
			best, short, found = e, miss, true
		}
	}
	return best, found
}

// instead finds the best substitute of a place for what a party does in class that is
// as hard, mended where it must be.
func (c *composer) instead(v *moves.Variant, now circuit.Entry, who party) (choice.Substitute, bool) {
	j := c.judges[who.id]
	for _, x := range choice.Substitutes(c.class(c.work), choice.Usual(v, now.Hold, who.Judged()), homeOptions) {
		// What is as hard as the class's set may still be over what this move begins with.
		if x.Compared && x.LeftPct >= -homeShort && j.Allowed(x.Entry) {
			return x, true
		}
	}
	return choice.Substitute{}, false
}
