package compose

import (
	"cmp"
	"math"
	"slices"

	"nimbleanvil/internal/core/assign"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
)

// HelpKind is how a hall that is short may be helped.
type HelpKind string

// The kinds of help: another piece of what there is, something new, another move.
const (
	Loan    HelpKind = "loan"
	Buy     HelpKind = "buy"
	Instead HelpKind = "instead"
)

// HelpKinds lists them.
var HelpKinds = []HelpKind{Loan, Buy, Instead}

// Hall says where what a place has is short for a session, slot by slot, and what would help.
type Hall struct {
	// Points are what everybody's entries come to with what there is, in the points of a proposal.
	Points float64 `json:"points"`
	// Slots are those where somebody would be given something else if there were more of a thing,
	// in their order.
	Slots []Bottleneck `json:"slots"`
	// Helps are what would make most difference, of each kind the best, the best first.
	Helps []Help `json:"helps"`
}

// Bottleneck is what a slot has too little of: Item of which People would take one more, and
// what that is worth.
type Bottleneck struct {
	Slot    string        `json:"slot"`
	Pattern moves.Pattern `json:"pattern"`
	Item    string        `json:"item"`
	People  int           `json:"people"`
	Gain    float64       `json:"gain"`
}

// Help is one thing that would help: a piece of Item, which is a thing of the place or what is
// named by kind and mass (a pair of dumbbells is one), or a move in place of another in a slot. Gain is by how many points
// everybody's entries get better, solved again with it; Better is how many of them do, Slots in
// which.
type Help struct {
	Kind    HelpKind       `json:"kind"`
	Item    string         `json:"item,omitempty"`
	Sort    string         `json:"sort,omitempty"` // the kind of an implement that is new
	MassG   measure.Mass   `json:"massG,omitempty"`
	Height  measure.Length `json:"heightMm,omitempty"`
	Slot    string         `json:"slot,omitempty"`
	Move    string         `json:"move,omitempty"`
	From    string         `json:"from,omitempty"`
	Gain    float64        `json:"gain"`
	Better  int            `json:"better"`
	Slots   []string       `json:"slots"`
	Pattern moves.Pattern  `json:"pattern,omitempty"`
}

// leastGain is what is worth a word, in points (house): what would make a load good that is a
// tenth short, for one person.
const leastGain = 10.0

// Short tells where a hall is short: for each slot everybody is given the best of its moves once
// more, with one piece more of each thing that is short, with each thing that is sold, and with
// another move; so many assignments within the counts.
func Short(d circuit.Document, c plan.Context, unit measure.Unit) Hall {
	c = c.On(d)
	out := Hall{Slots: []Bottleneck{}, Helps: []Help{}}
	have := c.Stock
	more := have
	more.Implements = slices.Clone(have.Implements)
	for i := range more.Implements {
		more.Implements[i].Count++ // what takes two of a kind is looked at where there is one
	}
	var sold []kit.Implement
	for _, x := range kit.Usual(unit) {
		if !slices.ContainsFunc(have.Implements, func(i kit.Implement) bool { return likeIt(i, x) }) {
			sold = append(sold, x)
			more.Implements = append(more.Implements, x)
		}
	}
	with := c
	with.Stock = more.Less(nil).Memoized()
	judges := with.Judges(d)
	helps := map[string]*Help{}
	help := func(h Help, slot string, gain float64, better int) {
		key := string(h.Kind) + h.Item + h.Slot + h.Move
		if helps[key] == nil {
			h.Slots = []string{}
			helps[key] = &h
		}
		x := helps[key]
		x.Gain += gain
		x.Better += better
		x.Slots = append(x.Slots, slot)
	}
	for _, b := range d.Blocks {
		if !b.Kind.Loaded() || b.Rotates() || b.Is(scheme.Windowed) {
			continue
		}
		for n, s := range b.Slots {
			h := hallIn{c: with, have: have, d: d, b: b, slot: n, judges: judges, sold: sold}
			h.lay()
			now, each := h.solve(nil, nil)
			out.Points += now
			worst := Bottleneck{Slot: s.ID, Pattern: s.Pattern}
			for _, id := range h.scarce(each, false) {
				less, after := h.solve(map[string]int{id: h.whole(id)}, nil)
				if less < now {
					help(Help{Kind: Loan, Item: id}, s.ID, now-less, better(each, after))
				}
				if all, after := h.solve(map[string]int{id: len(each)}, nil); now-all > worst.Gain {
					worst.Item, worst.Gain, worst.People = id, now-all, better(each, after)
				}
			}
			if worst.Gain >= leastGain {
				worst.Gain = measure.Round(worst.Gain, 1)
				out.Slots = append(out.Slots, worst)
				h.instead(now, each, help)
			}
			for _, id := range h.scarce(each, true) {
				i := slices.IndexFunc(sold, func(x kit.Implement) bool { return x.ID == id })
				if less, after := h.solve(map[string]int{id: sold[i].Pieces()}, nil); less < now {
					help(Help{Kind: Buy, Item: id, Sort: sold[i].Kind, MassG: sold[i].Mass, Height: sold[i].Height},
						s.ID, now-less, better(each, after))
				}
			}
		}
	}
	out.Points = measure.Round(out.Points, 1)
	for _, kind := range HelpKinds {
		var best *Help
		for _, x := range helps {
			if x.Kind == kind &&
				(best == nil || x.Gain > best.Gain || x.Gain == best.Gain && x.Item+x.Move < best.Item+best.Move) {
				best = x
			}
		}
		if best != nil && best.Gain >= leastGain {
			best.Gain = measure.Round(best.Gain, 1)
			out.Helps = append(out.Helps, *best)
		}
	}
	slices.SortStableFunc(out.Helps, func(a, b Help) int { return cmp.Compare(b.Gain, a.Gain) })
	return out
}

// likeIt tells whether a place has such a thing already: of a mass within 2.5 per cent.
func likeIt(i, x kit.Implement) bool {
	if i.Kind != x.Kind {
		return false
	}
	return x.Mass == 0 || math.Abs(float64(i.Mass-x.Mass)) <= 0.025*float64(x.Mass)
}

// better counts those whose entry costs less after than before.
func better(before, after []int64) int {
	n := 0
	for i := range before {
		if after[i] < before[i] {
			n++
		}
	}
	return n
}

// hallIn is one slot that is solved again.
type hallIn struct {
	c      plan.Context
	have   kit.Stock
	d      circuit.Document
	b      circuit.Block
	slot   int
	judges plan.Judges
	sold   []kit.Implement

	who   []plan.Party // one by one
	moves []*moves.Variant
	pool  pool
	best  [][]assign.Option
	of    map[ofMove][]assign.Option // that were reckoned already
}

// whole is how many pieces of a thing come together: a pair of dumbbells, else one.
func (h *hallIn) whole(id string) int {
	if i, ok := h.have.Implement(id); ok && i.Kind == kit.DumbbellPair {
		return 2
	}
	return 1
}

// lay sets the slot up: who is there one by one, what stands there, what there is.
func (h *hallIn) lay() {
	s := h.b.Slots[h.slot]
	for _, u := range h.c.Users(s) {
		h.add(u.Entry.Variant)
	}
	for _, p := range h.c.Parties {
		for range h.c.Alike(p) {
			h.who = append(h.who, p)
		}
	}
	h.of = map[ofMove][]assign.Option{}
	h.pool = poolOf(h.c.Stock, func(id string, _ int) int { return h.have.Pieces(id) })
	h.best = h.optionsOf(h.moves)
}

func (h *hallIn) add(id string) {
	if v, ok := h.c.Library.Get(id); ok && !slices.Contains(h.moves, v) {
		h.moves = append(h.moves, v)
	}
}

// optionsOf lists what everybody may be given of some moves; people alike have the same.
func (h *hallIn) optionsOf(list []*moves.Variant) [][]assign.Option {
	by := map[people.Party][]assign.Option{}
	out := make([][]assign.Option, len(h.who))
	for i, p := range h.who {
		if by[p.ID()] == nil {
			by[p.ID()] = h.optionsFor(p, list)
		}
		out[i] = by[p.ID()]
	}
	return out
}

func (h *hallIn) optionsFor(p plan.Party, list []*moves.Variant) []assign.Option {
	options := []assign.Option{{Cost: nothingLeft * points}}
	for _, v := range list {
		key := ofMove{p.ID(), v}
		if _, known := h.of[key]; !known {
			h.of[key] = h.optionsWith(p, v)
		}
		options = append(options, h.of[key]...)
	}
	return options
}

// ofMove is somebody's way with a move.
type ofMove struct {
	who  people.Party
	move *moves.Variant
}

// optionsWith lists what somebody may be given of a move.
func (h *hallIn) optionsWith(p plan.Party, v *moves.Variant) []assign.Option {
	var options []assign.Option
	cands := entriesOf(v, h.judges.For(h.b, h.b.Slots[h.slot], p))
	sortCandidates(cands)
	for _, x := range cands[:min(len(cands), mostOnTheDay)] {
		for _, way := range x.ways {
			e := circuit.Entry{Load: x.entry.Load, Anchors: way}
			o := assign.Option{Cost: int64(math.Round(min(x.cost, nothingLeft-1) * points))}
			for _, id := range usesOf(e) {
				o.Pieces = append(o.Pieces, h.pool.number[id])
			}
			slices.Sort(o.Pieces)
			if len(o.Pieces) <= 8 {
				options = append(options, o)
			}
		}
	}
	return options
}

// solve gives everybody the best there is, with some pieces more, and what it costs each.
func (h *hallIn) solve(more map[string]int, options [][]assign.Option) (sum float64, each []int64) {
	if options == nil {
		options = h.best
	}
	waves := h.b.WavesOf(h.b.Slots[h.slot])
	have := slices.Clone(h.pool.have)
	for id, n := range more {
		have[h.pool.number[id]] += n
	}
	for i := range have {
		have[i] *= waves
	}
	chosen, _ := assign.Share(options, have)
	each = make([]int64, len(options))
	for i, o := range chosen {
		each[i] = options[i][o].Cost
		sum += float64(each[i]) / points
	}
	return sum, each
}

// scarce lists the things, of those that are sold or of those that are there, of which somebody
// would do better with one more.
func (h *hallIn) scarce(each []int64, sold bool) []string {
	wanted := map[string]bool{}
	for i, options := range h.best {
		for _, o := range options {
			if o.Cost >= each[i] {
				continue
			}
			for _, piece := range o.Pieces {
				wanted[h.pool.ids[piece]] = true
			}
		}
	}
	var out []string
	for _, id := range h.pool.ids {
		isSold := slices.ContainsFunc(h.sold, func(x kit.Implement) bool { return x.ID == id })
		if wanted[id] && isSold == sold {
			out = append(out, id)
		}
	}
	return out
}

// instead tries other moves of the pattern in place of the one that costs most.
func (h *hallIn) instead(now float64, each []int64, help func(Help, string, float64, int)) {
	s := h.b.Slots[h.slot]
	for _, from := range h.moves {
		for _, v := range h.c.Library.OfPattern(s.Pattern) {
			if slices.Contains(h.moves, v) {
				continue
			}
			list := append(
				[]*moves.Variant{v},
				slices.DeleteFunc(slices.Clone(h.moves), func(x *moves.Variant) bool { return x == from })...)
			options := h.without(h.optionsOf(list))
			if atLeast(options) >= now {
				continue
			}
			less, after := h.solve(nil, options)
			if less < now {
				help(
					Help{Kind: Instead, Slot: s.ID, Move: v.ID, From: from.ID, Pattern: s.Pattern},
					s.ID,
					now-less,
					better(each, after),
				)
			}
		}
	}
}

// atLeast is what everybody comes to with the best of theirs, whatever there is.
func atLeast(options [][]assign.Option) float64 {
	sum := int64(0)
	for _, of := range options {
		sum += slices.MinFunc(of, func(a, b assign.Option) int { return cmp.Compare(a.Cost, b.Cost) }).Cost
	}
	return float64(sum) / points
}

// without leaves out what would take something that is not there.
func (h *hallIn) without(options [][]assign.Option) [][]assign.Option {
	out := make([][]assign.Option, len(options))
	for i, of := range options {
		for _, o := range of {
			if !slices.ContainsFunc(o.Pieces, func(p int) bool { return h.pool.have[p] == 0 }) {
				out[i] = append(out[i], o)
			}
		}
	}
	return out
}
