package circuit

import (
	"cmp"
	"slices"
	"sort"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/room"
	"nimbleanvil/internal/core/why"
)

// Alternative is an entry that could stand instead of another, with what
// changes.
type Alternative struct {
	Entry   Entry        `json:"entry"`
	LoadG   measure.Mass `json:"loadG"`
	IronPct float64      `json:"ironPct" doc:"off the wanted load; negative is too light"`
	// ResistancePct says the same of the comparable resistance.
	ResistancePct float64      `json:"resistancePct"`
	DeltaMs       measure.Span `json:"deltaMs" doc:"how much longer the class gets"`
	Missing       bool         `json:"missing" doc:"the kit does not cover it beside the other lanes"`
	Caution       bool         `json:"caution" doc:"above what is proposed for this lane or move"`
	// Lost and Gained name demands that fall or rise against what stands there, Check
	// what to look at before use.
	Lost   []string `json:"lost"`
	Gained []string `json:"gained"`
	Check  []string `json:"check"`
	Why    why.Why  `json:"why"`
}

// Options are what may stand in one lane of a slot.
type Options struct {
	// Moves are other variants, each with its best load; what is as hard with the kit
	// there is stands first, the rest in teaching order.
	Moves []Alternative `json:"moves"`
	// Loads are the place's loads for the variant there is.
	Loads []Alternative `json:"loads"`
}

// OptionsFor lists what could stand in a lane of a slot: every variant of the
// pattern and of its stand-ins with its best load, and every load for the
// present variant. ok is false when there is no such slot or lane.
func OptionsFor(d Document, c Context, slotID string, lane moves.Lane) (Options, bool) {
	out := Options{Moves: []Alternative{}, Loads: []Alternative{}}
	c.Stock = c.Stock.Kept()
	i := d.slot(slotID)
	li := slices.IndexFunc(c.Lanes, func(l LaneSpec) bool { return l.Lane == lane })
	if i < 0 || li < 0 {
		return out, false
	}
	now, ok := d.Slots[i].Lanes[lane]
	if !ok {
		return out, false
	}
	o := optioner{d, c, i, c.Lanes[li], length(d, c)}
	for _, p := range standIns(d.Slots[i].Pattern) {
		for _, v := range c.Library.OfPattern(p) {
			if fits := kit.Fits(c.Stock, v, o.lane.person(), 1); len(fits) > 0 && v.ID != now.Variant {
				out.Moves = append(out.Moves, o.alternative(fits[0], now))
			}
		}
	}
	v, ok := c.Library.Get(now.Variant)
	if !ok {
		return out, true
	}
	rank := map[string]int{}
	for n, x := range kit.Substitutes(c.Stock, c.Library, kit.Usual(v, now.Hold, o.lane.person()), len(c.Library.All())) {
		if _, had := rank[x.Variant.ID]; !had {
			rank[x.Variant.ID] = n + 1
		}
	}
	place := func(a Alternative) int { return cmp.Or(rank[a.Entry.Variant], len(rank)*len(rank)+1) }
	slices.SortStableFunc(out.Moves, func(a, b Alternative) int { return cmp.Compare(place(a), place(b)) })
	for _, id := range v.Holds {
		h, _ := moves.HoldOf(id)
		for _, opt := range thinned(c.Stock.Options(v, h)) {
			out.Loads = append(out.Loads, o.alternative(kit.Judge(v, id, opt, o.lane.person()), now))
		}
	}
	sort.SliceStable(out.Loads, func(a, b int) bool { return out.Loads[a].LoadG < out.Loads[b].LoadG })
	return out, true
}

// apartPct is how far packed loads that are offered lie apart: a list is to be read
// (house).
const apartPct = 5

// thinned leaves out packed loads that are hardly heavier than the one before.
func thinned(all []kit.Option) []kit.Option {
	out := []kit.Option{}
	last := measure.Mass(0)
	for _, o := range all {
		if o.Load.Kind == kit.Made {
			if 100*o.Total < (100+apartPct)*last {
				continue
			}
			last = o.Total
		}
		out = append(out, o)
	}
	return out
}

// standIns lists the patterns a slot may turn to: its own first.
func standIns(p moves.Pattern) []moves.Pattern {
	out := []moves.Pattern{p}
	for _, place := range template {
		if slices.Contains(place, p) {
			for _, x := range place {
				if x != p {
					out = append(out, x)
				}
			}
		}
	}
	return out
}

type optioner struct {
	d     Document
	c     Context
	slot  int
	lane  LaneSpec
	total measure.Span
}

// alternative turns a fit into an entry. Another load for the present variant
// keeps what was set by hand: anchors, repetitions, tempo, sides.
func (o optioner) alternative(f kit.Fit, now Entry) Alternative {
	s := o.d.Slots[o.slot]
	users := room.PerWave(o.lane.People, s.Waves)
	tally := room.Tally{}
	for _, l := range o.c.Lanes {
		if e, ok := s.Lanes[l.Lane]; ok && l.Lane != o.lane.Lane && l.People > 0 {
			tally.Take(room.PerWave(l.People, s.Waves), e.Load, e.Anchors)
		}
	}
	anchors := []string{}
	if f.Variant.ID == now.Variant {
		anchors = append(anchors, now.Anchors...)
	} else {
		for _, need := range f.Variant.Needs {
			left := func(id string) int { return o.c.Stock.Pieces(id) - tally[id] }
			id, ok := o.c.Stock.Anchor(f.Variant, need, users, left)
			if !ok {
				id, ok = o.c.Stock.Anchor(f.Variant, need, 0, left)
			}
			if ok {
				anchors = append(anchors, id)
			}
		}
	}
	e := entryFor(f, o.d.Format, anchors)
	if f.Variant.ID == now.Variant {
		e.Tempo, e.Reps, e.Sides = now.Tempo, now.Reps, now.Sides
	}
	tally.Take(users, f.Load, anchors)
	next := o.d.clone()
	next.Slots[o.slot].Lanes[o.lane.Lane] = e
	from, known := o.c.Library.Get(now.Variant)
	if !known {
		from = f.Variant
	}
	lost, gained := kit.Changes(from, f.Variant, f.IronPct)
	check, _ := kit.Checks(o.c.Stock, o.lane.Body, f.Variant, f.Hold, f.Option, anchors)
	_, proposed := moves.Mark(f.Variant, o.c.Library.OfPattern(f.Variant.Pattern), o.lane.Lane)
	return Alternative{
		Entry: e, LoadG: f.Total, IronPct: measure.Round(f.IronPct, 1), ResistancePct: measure.Round(f.ResistancePct, 1),
		DeltaMs: length(next, o.c) - o.total, Why: f.Why, Lost: some(lost), Gained: some(gained), Check: some(check),
		Missing: len(tally.Shorts(o.c.Stock)) > 0 || len(anchors) < len(f.Variant.Needs),
		Caution: !proposed || overreach(f.Variant, o.lane.Lane, f.Total, f.IronPct) != "",
	}
}

// some gives a list that is never null.
func some(in []string) []string { return append([]string{}, in...) }

// NewSlot makes a slot for a pattern with the best entries the kit covers and an
// id the document does not have yet; ok is false when no lane finds anything.
func NewSlot(d Document, c Context, pattern moves.Pattern) (Slot, bool) {
	c.Stock = c.Stock.Kept()
	b := Brief{Context: c, Format: d.Format, Bans: d.Bans}
	pl, ok := b.place([]moves.Pattern{pattern})
	if !ok {
		return Slot{}, false
	}
	n := len(d.Slots) + 1
	for d.slot(slotID(n)) >= 0 {
		n++
	}
	best := pl.byWaves[0]
	return Slot{ID: slotID(n), Pattern: pl.pattern, Waves: best.waves, Lanes: best.entries}, true
}

// TakeHome gives a lane's version of every slot for one person in another place
// with its own stock: the same variant where the cupboard serves it, else the best
// substitute that is as hard, else the nearest of the pattern. The document keeps the
// order and times.
func TakeHome(d Document, home Context) (Document, []why.Why) {
	home.Stock = home.Stock.Kept()
	lane := home.Lanes[0]
	b := Brief{Context: home, Format: d.Format}
	out := d.clone()
	out.Slots = []Slot{}
	var notes []why.Why
	for _, s := range d.Slots {
		now := s.Lanes[lane.Lane]
		if v, known := home.Library.Get(now.Variant); known {
			if e, same := b.keep(v, lane); same {
				s.Waves, s.Lanes = 1, map[moves.Lane]Entry{lane.Lane: e}
				out.Slots = append(out.Slots, s)
				continue
			}
		}
		if x, ok := b.instead(now, lane); ok {
			s.Waves, s.Lanes = 1, map[moves.Lane]Entry{lane.Lane: substituteEntry(x, d.Format)}
			out.Slots = append(out.Slots, s)
			notes = append(notes, why.Of(why.NoteHomeSwap, why.House, why.ID("from", now.Variant), why.ID("to", x.Variant.ID), why.Pct("resistance", measure.Round(x.ResistancePct, 1))).With(x.Why))
			continue
		}
		pl, ok := b.place(standIns(s.Pattern))
		if !ok {
			notes = append(notes, why.Of(why.NoteLeftOut, why.House, why.ID("pattern", string(s.Pattern))))
			continue
		}
		s.Waves, s.Lanes = 1, pl.byWaves[0].entries
		out.Slots = append(out.Slots, s)
		notes = append(notes, why.Of(why.NoteHomeSwap, why.House, why.ID("from", now.Variant), why.ID("to", s.Lanes[lane.Lane].Variant)))
	}
	return out, notes
}

// instead finds the best substitute of a place for what a lane does in class that is
// as hard, mended where it must be.
func (b Brief) instead(now Entry, lane LaneSpec) (kit.Substitute, bool) {
	v, known := b.Library.Get(now.Variant)
	if !known {
		return kit.Substitute{}, false
	}
	for _, x := range kit.Substitutes(b.Stock, b.Library, kit.Usual(v, now.Hold, lane.person()), 5) {
		if x.LeftPct >= -maxMiss/2 {
			return x, true
		}
	}
	return kit.Substitute{}, false
}

// substituteEntry writes a substitute down as a lane's version.
func substituteEntry(x kit.Substitute, format Format) Entry {
	return entryFor(kit.Fit{Variant: x.Variant, Hold: x.Hold, Option: x.Option, Mend: x.Mend}, format, x.Anchors)
}

// keep tries to do the same variant at home with a load that is good enough or
// mended, and the anchors there are.
func (b Brief) keep(v *moves.Variant, lane LaneSpec) (Entry, bool) {
	for _, f := range kit.Fits(b.Stock, v, lane.person(), 1) {
		if f.Miss() > maxMiss/2 {
			break
		}
		cands := [][]candidate{{{fit: f}}}
		if entries, ok := b.allocate([]LaneSpec{lane}, cands, []int{0}, 1); ok {
			return entries[lane.Lane], true
		}
	}
	return Entry{}, false
}
