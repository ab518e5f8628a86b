package compose

import (
	"cmp"
	"slices"
	"sort"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// Alternative is an entry that could stand instead of another, with what
// changes.
type Alternative struct {
	Entry   circuit.Entry `json:"entry"`
	LoadG   measure.Mass  `json:"loadG"`
	IronPct float64       `json:"ironPct"` // off the wanted load; negative is too light
	// ResistancePct says the same of the comparable resistance.
	ResistancePct float64      `json:"resistancePct"`
	DeltaMs       measure.Span `json:"deltaMs"` // how much longer the class gets
	Missing       bool         `json:"missing"` // the kit does not cover it beside the others
	// Faults say why it would not be proposed; with any it is offered with a caution.
	Faults []why.Why `json:"faults"`
	// Breaks is what those who do it with the lane are to be spared of it, each with who.
	Breaks []why.Why `json:"breaks,omitempty"`
	Asks   []why.Why `json:"asks"` // what is to be asked before it is used
	// Compared says that the two resistances may be compared.
	Compared bool `json:"compared"`
	// Lost and Gained name demands that fall or rise against what stands there, Check
	// what to look at before use.
	Lost   []string `json:"lost"`
	Gained []string `json:"gained"`
	Check  []string `json:"check"`
	Why    why.Why  `json:"why"`
}

// Options are what may stand in a slot for one party.
type Options struct {
	// Moves are other variants, each with its best load; what is as hard with the kit
	// there is stands first, the rest in teaching order.
	Moves []Alternative `json:"moves"`
	// Loads are the place's loads for the variant there is.
	Loads []Alternative `json:"loads"`
}

// OptionsFor lists what could stand in a slot for a party: every variant of the
// pattern and of its stand-ins that the kit can hold, with its best load, and every load
// for the present variant; what would not be proposed comes with its faults. ok is false
// when there is no such slot or party.
func OptionsFor(d circuit.Document, c plan.Context, slotID string, who people.Party) (Options, bool) {
	out := Options{Moves: []Alternative{}, Loads: []Alternative{}}
	c.Stock = c.Stock.Memoized()
	i, n := d.At(slotID)
	at := slices.IndexFunc(c.Parties, func(p plan.Party) bool { return p.ID() == who })
	if i < 0 || at < 0 {
		return out, false
	}
	b := d.Blocks[i]
	now, ok := b.Slots[n].Of(who, c.Parties[at].Lane)
	if !ok {
		return out, false
	}
	class := c.Class(d, nil)
	class.Work, _ = b.ByClock(b.Slots[n])
	o := optioner{d, c, i, n, c.Parties[at], plan.Length(d, c), choice.For(class, c.Parties[at].Judged()), c.Judges(d)}
	for _, p := range b.Slots[n].Pattern.StandIns() {
		for _, v := range c.Library.OfPattern(p) {
			if best, _, ok := o.judge.Best(v); ok && v.ID != now.Variant {
				out.Moves = append(out.Moves, o.alternative(best, now))
			}
		}
	}
	v, ok := c.Library.Get(now.Variant)
	if !ok {
		return out, true
	}
	wish := choice.Usual(v, now.Hold, o.who.Judged())
	if total, known := c.Stock.Mass(now.Load); known && total > 0 {
		wish.Load = total
	}
	rank := map[string]int{}
	for n, x := range choice.Substitutes(class, wish, len(c.Library.All())) {
		if _, had := rank[x.Variant.ID]; !had {
			rank[x.Variant.ID] = n + 1
		}
	}
	place := func(a Alternative) int {
		n := cmp.Or(rank[a.Entry.Variant], len(rank)+1)
		if len(a.Faults) > 0 {
			n += 1000
		}
		return n
	}
	slices.SortStableFunc(out.Moves, func(a, b Alternative) int { return cmp.Compare(place(a), place(b)) })
	for _, id := range v.Holds {
		h, _ := moves.HoldOf(id)
		for _, opt := range c.Stock.Spaced(v, h, apartPct) {
			out.Loads = append(out.Loads,
				o.alternative(choice.Entry{Variant: v, Hold: id, Option: opt, Supports: now.Anchors}, now))
		}
	}
	sort.SliceStable(out.Loads, func(a, b int) bool { return out.Loads[a].LoadG < out.Loads[b].LoadG })
	return out, true
}

// apartPct is how far packed loads that are offered lie apart: a list is to be read
// (house).
const apartPct = 5

type optioner struct {
	d     circuit.Document
	c     plan.Context
	block int
	slot  int
	who   plan.Party
	total measure.Span
	judge *choice.Judge
	all   plan.Judges
}

// alternative turns a choice into an entry. Another load for the present variant
// keeps what was set by hand: anchors, repetitions, tempo, sides.
func (o optioner) alternative(x choice.Entry, now circuit.Entry) Alternative {
	b := o.d.Blocks[o.block]
	e := plan.EntryFor(b.Format(), o.judge, x)
	if x.Variant.ID == now.Variant {
		e.Tempo, e.Parts, e.Dose, e.Sides, e.First = now.Tempo, now.Parts, now.Dose, now.Sides, now.First
		e.Anchors = append([]string{}, now.Anchors...)
	} else if e.Sides == scheme.ByRound && (b.RoundsOf(b.Slots[o.slot]) == 1 || !b.Is(scheme.Circuit, scheme.Sets)) {
		e.Sides = scheme.Split
	}
	next := o.d.Clone()
	slot := next.Blocks[o.block].Slots[o.slot]
	slot.Entries[o.who.ID()] = e
	inHand, waves := o.c.InHand(next.Blocks[o.block], o.slot)
	from, known := o.c.Library.Get(now.Variant)
	if !known {
		from = x.Variant
	}
	r := o.judge.Reckon(x, o.judge.Reps(x.Variant))
	lost, gained := choice.Changes(from, x.Variant, r.IronPct)
	return Alternative{
		Entry:         e,
		LoadG:         x.Total,
		IronPct:       measure.Round(r.IronPct, 1),
		ResistancePct: measure.Round(r.ResistancePct, 1),
		DeltaMs:       plan.Length(next, o.c) - o.total,
		Why:           o.judge.Why(x, r),
		Lost:          some(lost),
		Gained:        some(gained),
		Check:         some(o.judge.Checks(x)),
		Missing:       !inHand.Covered(o.c.Stock, waves),
		Faults:        some(o.judge.Faults(x)),
		Breaks:        o.breaks(slot, e),
		Asks:          some(o.judge.Asks(x)),
		Compared:      choice.Compares(from, x.Variant),
	}
}

// breaks is what an entry for a lane asks of those who do it with the lane.
func (o optioner) breaks(s circuit.Slot, e circuit.Entry) []why.Why {
	if o.who.Participant != "" {
		return nil
	}
	return o.c.Breaks(o.d.Blocks[o.block], s, o.who.Lane, e, o.all)
}

// some gives a list that is never null.
func some[T any](in []T) []T { return append([]T{}, in...) }

// NewSlot makes a slot for a pattern with the best entries the kit covers and an
// id the document does not have yet. Where nothing may be proposed to a party it takes
// what the kit can hold, which is drawn with what is wrong; ok is false where the kit can
// hold nothing at all, or the pattern is banned.
func NewSlot(d circuit.Document, block int, c plan.Context, pattern moves.Pattern) (circuit.Slot, bool) {
	s := circuit.Slot{ID: d.FreeSlotID(), Pattern: pattern, Waves: 1}
	x := adding(d, block, c)
	if s.Entries, s.Waves, _ = x.newEntries(pattern); s.Entries == nil {
		return s, false
	}
	s.Entries = spareNew(d, block, c, s)
	s.New = x.taught(s.Entries)
	b := d.Blocks[block]
	if !b.Is(scheme.Circuit, scheme.Sets) {
		return s.SettledIn(1), true
	}
	return s.SettledIn(b.Rounds()), true
}

// Room says what a new slot of a pattern would come to.
type Room string

// Rooms of a pattern: with nothing against it; only with something that would not be
// proposed; none, since no move of it can be held here or it is banned.
const (
	RoomYes     Room = "yes"
	RoomFlawed  Room = "flawed"
	RoomNothing Room = "nothing"
)

// PatternRoom is a pattern and what a new slot of it would come to.
type PatternRoom struct {
	Pattern moves.Pattern `json:"pattern"`
	Room    Room          `json:"room"`
}

// Rooms says of every pattern what a new slot of it in a block would come to.
func Rooms(d circuit.Document, block int, c plan.Context) []PatternRoom {
	x := adding(d, block, c)
	out := make([]PatternRoom, 0, len(moves.Patterns))
	for _, p := range moves.Patterns {
		room := RoomNothing
		if entries, _, flawed := x.newEntries(p); entries != nil && flawed {
			room = RoomFlawed
		} else if entries != nil {
			room = RoomYes
		}
		out = append(out, PatternRoom{p, room})
	}
	return out
}

// adding is a composer for more slots of a block.
func adding(d circuit.Document, block int, c plan.Context) *composer {
	c.Stock = c.Stock.Memoized()
	x := d.Blocks[block]
	b, work := Brief{Context: c, Bans: d.Bans, Known: d.Known, Overruled: d.Overruled, Goal: d.Goal}.in(x)
	out := b.composer(work)
	if x.Rotates() {
		out.stations = len(x.Slots) + 1
		out.elsewhere = c.AtStations(x, out.stations)
	}
	return out
}

// newEntries gives every party's best entry for a new slot, with its waves; flawed tells
// that some would not be proposed. None where a party has nothing at all.
func (c *composer) newEntries(pattern moves.Pattern) (entries map[people.Party]circuit.Entry, waves int, flawed bool) {
	if slices.Contains(c.Bans, string(pattern)) || len(c.parties) == 0 {
		return nil, 1, false
	}
	if cands, ok := c.allCandidates(pattern); ok {
		for _, waves := range c.turns() {
			if got, ok := c.combine(cands, waves); ok {
				return got.entries, c.written(waves), false
			}
		}
	}
	entries = map[people.Party]circuit.Entry{}
	for _, p := range c.parties {
		e, ok := c.heldAtAll(pattern, p)
		if !ok {
			return nil, 1, false
		}
		entries[p.id] = e
	}
	return entries, 1, true
}

// heldAtAll finds what a party could do for a pattern whatever is wrong with it: the
// fewest faults, then the least cost.
func (c *composer) heldAtAll(pattern moves.Pattern, p party) (best circuit.Entry, ok bool) {
	j := c.judges[p.id]
	faults, cost := 0, 0.0
	for _, v := range c.Library.OfPattern(pattern) {
		x, f, held := j.Best(v)
		if !held || slices.Contains(c.Bans, v.ID) {
			continue
		}
		if t := choice.Total(j.Cost(x)); !ok || len(f) < faults || len(f) == faults && t < cost {
			best, faults, cost, ok = plan.EntryFor(c.Format, j, x), len(f), t, true
		}
	}
	return best, ok
}
