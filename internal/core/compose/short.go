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
	out, all := looked(d, c, unit)
	for _, kind := range HelpKinds {
		if best := all.best(kind); best.Gain >= leastGain {
			best.Gain = measure.Round(best.Gain, 1)
			out.Helps = append(out.Helps, best)
		}
	}
	slices.SortStableFunc(out.Helps, func(a, b Help) int { return cmp.Compare(b.Gain, a.Gain) })
	return out
}

// looked looks at slot after slot: where something is short, and what may help.
func looked(d circuit.Document, c plan.Context, unit measure.Unit) (out Hall, all chances) {
	c = c.On(d)
	out = Hall{Slots: []Bottleneck{}, Helps: []Help{}}
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
	for _, b := range d.Blocks {
		if !b.Kind.Loaded() || b.Rotates() || b.Is(scheme.Windowed) {
			continue
		}
		for n := range b.Slots {
			h := &hallIn{c: with, have: have, d: d, b: b, slot: n, judges: judges, sold: sold}
			h.lay()
			out.Points += h.now
			all.pieces(h)
			if worst := h.bottleneck(); worst.Gain >= leastGain {
				worst.Gain = measure.Round(worst.Gain, 1)
				out.Slots = append(out.Slots, worst)
				all.instead(h)
			}
		}
	}
	out.Points = measure.Round(out.Points, 1)
	return out, all
}

// chances are all helps that may be the best of their kind.
type chances []*chance

// chance is a help, and in which slots it may help by how much at most.
type chance struct {
	help  Help
	most  float64
	slots []*hallIn
	// with solves a slot again.
	with func(h *hallIn) (sum float64, each []int64)
}

// solved is the help as it comes out where its slots are solved again.
func (c chance) solved() Help {
	x := c.help
	x.Slots = []string{}
	for _, h := range c.slots {
		less, after := c.with(h)
		if less >= h.now {
			continue
		}
		x.Gain += h.now - less
		x.Better += better(h.each, after)
		x.Slots = append(x.Slots, h.b.Slots[h.slot].ID)
	}
	return x
}

// pieces adds a piece more of everything that may help in a slot: who takes it, or who is then
// left what that one had.
func (all *chances) pieces(h *hallIn) {
	for _, id := range h.used() {
		more := h.whole(id)
		most := h.most(h.best, h.with(id, more), h.prices)
		if most <= 0 {
			continue
		}
		help := Help{Kind: Loan, Item: id}
		if x, ok := h.isSold(id); ok {
			help = Help{Kind: Buy, Item: id, Sort: x.Kind, MassG: x.Mass, Height: x.Height}
		}
		at := slices.IndexFunc(*all, func(c *chance) bool { return c.help.Kind == help.Kind && c.help.Item == id })
		if at < 0 {
			at = len(*all)
			with := func(h *hallIn) (float64, []int64) { return h.solve(h.best, h.with(id, more)) }
			*all = append(*all, &chance{help: help, with: with})
		}
		c := (*all)[at]
		c.most += most
		c.slots = append(c.slots, h)
	}
}

// instead adds other moves of a slot's pattern in place of one of its moves.
func (all *chances) instead(h *hallIn) {
	s := h.b.Slots[h.slot]
	for _, from := range h.moves {
		rest := slices.DeleteFunc(slices.Clone(h.moves), func(x *moves.Variant) bool { return x == from })
		for _, v := range h.c.Library.OfPattern(s.Pattern) {
			if slices.Contains(h.moves, v) {
				continue
			}
			options := h.without(h.optionsOf(append([]*moves.Variant{v}, rest...)))
			most := h.most(options, h.left, h.prices)
			if most < leastGain {
				continue
			}
			*all = append(*all, &chance{
				help: Help{Kind: Instead, Slot: s.ID, Move: v.ID, From: from.ID, Pattern: s.Pattern},
				most: most, slots: []*hallIn{h},
				with: func(h *hallIn) (float64, []int64) { return h.solve(options, h.left) },
			})
		}
	}
}

// best is what helps most of a kind, and of such as help as much the first by its name. What at
// most may help less than another does is not solved.
func (all chances) best(kind HelpKind) (best Help) {
	list := slices.DeleteFunc(slices.Clone(all), func(c *chance) bool { return c.help.Kind != kind })
	slices.SortStableFunc(list, func(a, b *chance) int { return cmp.Compare(b.most, a.most) })
	for _, c := range list {
		if c.most < best.Gain {
			break
		}
		x := c.solved()
		if x.Gain > best.Gain || x.Gain == best.Gain && x.Item+x.Move < best.Item+best.Move {
			best = x
		}
	}
	return best
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
	left  []int // pieces of the pool, for everybody's turns
	best  [][]assign.Option
	of    map[ofMove][]assign.Option // that were reckoned already
	// What everybody comes to with what there is, all and each, and the prices of pieces that
	// bound what more of them would be worth.
	now    float64
	each   []int64
	prices []int64
}

// isSold is a thing that is sold and of which a place has none.
func (h *hallIn) isSold(id string) (x kit.Implement, ok bool) {
	i := slices.IndexFunc(h.sold, func(x kit.Implement) bool { return x.ID == id })
	if i < 0 {
		return x, false
	}
	return h.sold[i], true
}

// whole is how many pieces of a thing come together: a pair of dumbbells, else one.
func (h *hallIn) whole(id string) int {
	if x, ok := h.isSold(id); ok {
		return x.Pieces()
	}
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
	waves := h.b.WavesOf(h.b.Slots[h.slot])
	for _, n := range h.pool.have {
		h.left = append(h.left, n*waves)
	}
	var chosen []int
	chosen, h.prices = assign.Near(h.best, h.left, nil)
	h.now, h.each = comesTo(h.best, chosen)
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

// solve gives everybody the best there is of some options with what there is, and what that costs
// each.
func (h *hallIn) solve(options [][]assign.Option, left []int) (sum float64, each []int64) {
	chosen, _ := assign.Near(options, left, h.prices)
	return comesTo(options, chosen)
}

// most bounds how much better all could come off, whatever solves it.
func (h *hallIn) most(options [][]assign.Option, left []int, prices []int64) float64 {
	return h.now - float64(assign.Bound(options, left, prices))/points
}

func comesTo(options [][]assign.Option, chosen []int) (sum float64, each []int64) {
	each = make([]int64, len(options))
	for i, o := range chosen {
		each[i] = options[i][o].Cost
		sum += float64(each[i]) / points
	}
	return sum, each
}

// with is what there is with some pieces more of a thing.
func (h *hallIn) with(id string, more int) []int {
	left := slices.Clone(h.left)
	left[h.pool.number[id]] += more * h.b.WavesOf(h.b.Slots[h.slot])
	return left
}

// used lists the things that somebody might take.
func (h *hallIn) used() []string {
	used := make([]bool, len(h.pool.ids))
	for _, options := range h.best {
		for _, o := range options {
			for _, piece := range o.Pieces {
				used[piece] = true
			}
		}
	}
	return slices.DeleteFunc(slices.Clone(h.pool.ids), func(id string) bool { return !used[h.pool.number[id]] })
}

// bottleneck is what, of the things that are there, would help most if there were one for
// everybody.
func (h *hallIn) bottleneck() Bottleneck {
	s := h.b.Slots[h.slot]
	worst := Bottleneck{Slot: s.ID, Pattern: s.Pattern}
	type thing struct {
		id   string
		left []int
		most float64
	}
	var list []thing
	for _, id := range h.used() {
		if _, sold := h.isSold(id); sold {
			continue
		}
		plenty := h.with(id, len(h.each))
		free := slices.Clone(h.prices)
		free[h.pool.number[id]] = 0
		list = append(list, thing{id, plenty, h.most(h.best, plenty, free)})
	}
	slices.SortStableFunc(list, func(a, b thing) int { return cmp.Compare(b.most, a.most) })
	for _, x := range list {
		if x.most <= worst.Gain {
			break
		}
		if sum, after := h.solve(h.best, x.left); h.now-sum > worst.Gain {
			worst.Item, worst.Gain, worst.People = x.id, h.now-sum, better(h.each, after)
		}
	}
	return worst
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
