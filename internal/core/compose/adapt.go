package compose

import (
	"cmp"
	"math"
	"slices"

	"nimbleanvil/internal/core/assign"
	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/room"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// What a change costs on the day, in points for each person (house): a class that was prepared
// is disturbed as little as can be. What is as much of a change is told apart by how well it
// suits, which never outweighs a change.
const (
	changedMove  = 100.0
	changedLoad  = 40.0
	changedPlace = 25.0 // another bench or box, or another way to hold the same
	moreWaves    = 60.0 // for the class
	changedOwn   = 2.0  // times as much where it was pinned for somebody
	suitsAtMost  = 20.0
	nothingToDo  = 1000.0
	linesOfDay   = 3
	// Loads that are looked at of a move that stands in the slot, of another, and ways in all.
	bestOnTheDay  = 12
	bestElsewhere = 2
	mostOnTheDay  = 30
)

// Adapted is a document as the day came.
type Adapted struct {
	Document circuit.Document
	// Said is what became of it, in at most three lines.
	Said []why.Why
	// Moves, Loads and Places count what changed, for everybody; Without those for whom nothing
	// was left in a slot.
	Moves, Loads, Places, Without int
}

// change is what became of somebody, or of some people of a lane, in a slot.
type change struct {
	slot   circuit.Slot
	who    people.Party
	n      int
	had, e circuit.Entry
	none   bool
}

// Adapt changes a document as little as can be for the day as it came: who is absent frees what
// they had, and who misses something takes the nearest to it. Slot by slot what each does is an
// assignment within what there is; only where something is missing does anything change.
func Adapt(d circuit.Document, c plan.Context, day circuit.Day) Adapted {
	next := d.Clone()
	next.Day = &day
	if day.Plain() {
		next.Day = nil
	}
	c = c.On(next)
	c.Stock = c.Stock.Memoized()
	judges := c.Judges(next)
	var changes []change
	waves := 0
	for i, b := range next.Blocks {
		for n := range b.Slots {
			a := adapting{c: c, d: &next, block: i, slot: n, judges: judges}
			changes = append(changes, a.adapt()...)
			waves += a.waves
		}
	}
	out := Adapted{Document: next}
	out.say(c, day, changes, waves)
	return out
}

// adapting is one slot on the day.
type adapting struct {
	c           plan.Context
	d           *circuit.Document
	block, slot int
	judges      plan.Judges
	waves       int // that were added
}

func (a *adapting) b() circuit.Block { return a.d.Blocks[a.block] }

func (a *adapting) at() circuit.Slot { return a.b().Slots[a.slot] }

// doer is somebody, or the people of a lane without a name, and what they do.
type doer struct {
	plan.Party
	n    int
	had  circuit.Entry
	own  bool
	wish choice.Entry
	ok   bool // what they do can be done
}

// doers are who does a slot: one by one by name, and the others of each lane together.
func (a *adapting) doers() []doer {
	var out []doer
	s := a.at()
	for _, p := range a.c.Parties {
		x := doer{Party: p, n: a.c.Alike(p)}
		if x.n <= 0 {
			continue
		}
		e, any := s.Of(p.ID(), p.Lane)
		if !any {
			continue
		}
		_, x.own = s.Entries[p.ID()]
		x.own = x.own && p.Participant != ""
		x.had = e
		x.wish, x.ok = a.c.ChoiceOf(e)
		for _, id := range e.Anchors {
			x.ok = x.ok && a.c.Stock.Pieces(id) > 0
		}
		out = append(out, x)
	}
	return out
}

// whole tells whether the slot can be done as it stands.
func (a *adapting) whole(all []doer) bool {
	inHand, waves := a.c.InHand(a.b(), a.slot)
	return inHand.Covered(a.c.Stock, waves) && !slices.ContainsFunc(all, func(x doer) bool { return !x.ok })
}

// adapt changes what has to be changed in the slot.
func (a *adapting) adapt() []change {
	all := a.doers()
	if len(all) == 0 || a.whole(all) {
		return nil
	}
	long := max(plan.Length(*a.d, a.c), measure.Span(a.c.Minutes)*measure.Minute)
	type answer struct {
		document circuit.Document
		changes  []change
		cost     float64
		waves    int
	}
	var best *answer
	before := a.d.Clone()
	for more := 0; a.at().Waves+more <= circuit.MaxWaves; more++ {
		*a.d = before.Clone()
		if more > 0 && !a.moreWaves(more) {
			break
		}
		changes, cost := a.share(all, math.MaxInt64)
		if more == 0 && plan.Length(*a.d, a.c) > long { // once more with what takes no longer by itself
			*a.d = before.Clone()
			changes, cost = a.share(all, long)
		}
		cost += moreWaves * float64(more)
		if more > 0 && plan.Length(*a.d, a.c) > long {
			break // it gets too long
		}
		if best == nil || cost < best.cost {
			best = &answer{a.d.Clone(), changes, cost, more}
		}
		if more == 0 && len(changes) == 0 {
			break
		}
	}
	*a.d, a.waves = best.document, best.waves
	return best.changes
}

// moreWaves has people take turns in more groups, where the layout lets them.
func (a *adapting) moreWaves(more int) bool {
	b := a.b()
	if b.Rotates() || b.Layout == circuit.Partners || b.Is(scheme.Windowed, scheme.CalledOut) {
		return false
	}
	if b.Layout == circuit.Together {
		if slices.ContainsFunc(b.Slots, func(s circuit.Slot) bool { return s.Waves > 1 }) {
			return false
		}
		a.d.Blocks[a.block].Layout = circuit.InWaves
	}
	a.d.Blocks[a.block].Slots[a.slot].Waves = a.at().Waves + more
	return true
}

// share gives everybody in the slot what changes least, of what does not have the class last
// longer than most.
func (a *adapting) share(all []doer, most measure.Span) ([]change, float64) {
	left := a.left()
	options, offers := make([][]assign.Option, len(all)), make([][]circuit.Entry, len(all))
	for i, x := range all {
		options[i], offers[i] = a.options(x, left, most)
	}
	before := a.at()
	for {
		changes, cost := a.given(all, options, offers, left.have)
		inHand, waves := a.c.InHand(a.b(), a.slot)
		shorts := inHand.Shorts(a.c.Stock, waves)
		lacks := func(x room.Short) bool { return left.have[left.number[x.Item]] > 0 }
		if !slices.ContainsFunc(shorts, lacks) {
			return changes, cost
		}
		// Two pieces each and turns that do not come out even: it takes a little less.
		for _, x := range shorts {
			left.have[left.number[x.Item]] = max(0, left.have[left.number[x.Item]]-1)
		}
		a.d.Blocks[a.block].Slots[a.slot] = before
		*a.d = a.d.Clone()
	}
}

// given gives everybody the options that cost the least.
func (a *adapting) given(
	all []doer, options [][]assign.Option, offers [][]circuit.Entry, have []int,
) ([]change, float64) {
	chosen, _ := assign.Share(options, have, assign.Brisk)
	*a.d = a.d.Clone()
	cost := 0.0
	var changes []change
	// What most of those without something of their own do is the lane's.
	lanes := map[moves.Lane]circuit.Entry{}
	for i, x := range all {
		cost += float64(options[i][chosen[i]].Cost) / points
		if _, had := lanes[x.Lane]; !x.own && chosen[i] > 0 && (x.Participant == "" || !had) {
			lanes[x.Lane] = offers[i][chosen[i]]
		}
	}
	s := a.at()
	for _, lane := range moves.Lanes {
		if e, ok := lanes[lane]; ok {
			s.Entries[people.OfLane(lane)] = e
		}
	}
	for i, x := range all {
		e, none := offers[i][chosen[i]], chosen[i] == 0
		if none {
			e = x.had
		} else if x.Participant != "" && (x.own || !equal(e, lanes[x.Lane])) {
			s.Entries[x.ID()] = e
		}
		if none || !equal(e, x.had) {
			changes = append(changes, change{s, x.ID(), x.n, x.had, e, none})
		}
	}
	return changes, cost
}

func equal(a, b circuit.Entry) bool {
	return a.Variant == b.Variant && a.Hold == b.Hold && a.Load.Equal(b.Load) && slices.Equal(a.Anchors, b.Anchors) &&
		a.Dose == b.Dose && a.Tempo == b.Tempo && a.Sides == b.Sides && a.First == b.First
}

// left is how many pieces of everything there are for the slot: in a block of stations, or of a
// window, what its other slots need is taken.
func (a *adapting) left() pool {
	b := a.b()
	waves := b.WavesOf(a.at())
	used := map[string]int{}
	if b.Rotates() || b.Is(scheme.Windowed) {
		if waves = 1; b.Rotates() {
			waves = len(b.Slots)
		}
		without := a.d.Clone()
		for who := range a.at().Entries {
			without.Blocks[a.block].Slots[a.slot].Entries[who] = circuit.Entry{}
		}
		t, n := a.c.InHand(without.Blocks[a.block], a.slot)
		used = t.AtOnce(n)
	}
	return poolOf(a.c.Stock, func(id string, pieces int) int { return (pieces - used[id]) * waves })
}

// options lists what somebody may do in the slot, what they do first among those that cost the
// same: nothing, what they do, another load of it, another move.
func (a *adapting) options(x doer, left pool, most measure.Span) ([]assign.Option, []circuit.Entry) {
	times := 1.0
	if x.own && x.had.Pinned {
		times = changedOwn
	}
	options := []assign.Option{{Cost: int64(nothingToDo * points * float64(x.n))}}
	offers := []circuit.Entry{x.had}
	add := func(e circuit.Entry, cost float64) {
		var pieces []int
		for _, id := range usesOf(e) {
			at, there := left.number[id]
			if !there {
				return
			}
			for range x.n {
				pieces = append(pieces, at)
			}
		}
		if len(pieces) > 8*x.n {
			return
		}
		slices.Sort(pieces)
		options = append(
			options,
			assign.Option{Pieces: pieces, Cost: int64(math.Round(cost * times * points * float64(x.n)))},
		)
		offers = append(offers, e)
	}
	if x.ok {
		add(x.had, 0)
	}
	j := a.judges.For(a.b(), a.at(), x.Party)
	b := a.b()
	suits := 0.0
	if x.wish.Variant != nil {
		suits = choice.Total(j.Cost(x.wish))
	}
	for i, v := range a.movesFor(x) {
		cands := entriesOf(v, j)
		looked := bestOnTheDay
		if i > mostMoves {
			looked = bestElsewhere
		}
		sortCandidates(cands)
		for _, y := range cands[:min(len(cands), looked)] {
			e := plan.EntryFor(b.Format(), j, y.entry)
			cost := changedMove
			if v.ID == x.had.Variant {
				e.Tempo, e.Parts, e.Dose, e.Sides, e.First = x.had.Tempo, x.had.Parts, x.had.Dose, x.had.Sides, x.had.First
				cost = changedLoad
				if e.Load.Equal(x.had.Load) {
					cost = changedPlace
				}
			}
			e.Pinned = x.had.Pinned
			cost += min(suitsAtMost, max(0, y.cost-suits)/5)
			for _, way := range y.ways {
				e.Anchors = append([]string{}, way...)
				if e := a.settled(e); !equal(e, x.had) &&
					(most == math.MaxInt64 || lastsWith(*a.d, a.c, a.block, a.slot, x.ID(), e) <= most) {
					add(e, cost)
				}
			}
		}
	}
	return fewest(options, offers)
}

// fewest keeps of many options those that change least, and the first that takes nothing.
func fewest(options []assign.Option, offers []circuit.Entry) ([]assign.Option, []circuit.Entry) {
	order := make([]int, len(options)-1)
	for i := range order {
		order[i] = i + 1
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(options[a].Cost, options[b].Cost) })
	bare := slices.IndexFunc(order, func(o int) bool { return len(options[o].Pieces) == 0 })
	if bare >= mostOnTheDay {
		order[mostOnTheDay-1] = order[bare]
	}
	o, e := options[:1:1], offers[:1:1]
	for _, i := range order[:min(len(order), mostOnTheDay)] {
		o, e = append(o, options[i]), append(e, offers[i])
	}
	return o, e
}

func (a *adapting) settled(e circuit.Entry) circuit.Entry {
	b := a.b()
	if e.Sides == scheme.ByRound && (b.RoundsOf(a.at()) == 1 || !b.Is(scheme.Circuit, scheme.Sets)) {
		e.Sides = scheme.Split
	}
	return e
}

// movesFor lists what somebody may do in the slot: what they do, what stands there, and the rest
// of the pattern.
func (a *adapting) movesFor(x doer) []*moves.Variant {
	var out []*moves.Variant
	add := func(v *moves.Variant, ok bool) {
		if ok && !slices.Contains(out, v) {
			out = append(out, v)
		}
	}
	add(a.c.Library.Get(x.had.Variant))
	for _, who := range people.Parties(a.at().Entries) {
		add(a.c.Library.Get(a.at().Entries[who].Variant))
	}
	for _, p := range a.at().Pattern.StandIns() {
		for _, v := range a.c.Library.OfPattern(p) {
			add(v, true)
		}
	}
	return out
}

// takes says what somebody takes now.
func (x change) takes(c plan.Context) why.Why {
	had, _ := c.On(circuit.Document{}).Stock.Mass(x.had.Load)
	load, _ := c.Stock.Mass(x.e.Load)
	how := "place"
	switch {
	case x.e.Variant != x.had.Variant && load == 0:
		how = "movebare"
	case x.e.Variant != x.had.Variant:
		how = "move"
	case !x.e.Load.Equal(x.had.Load) && load == 0:
		how = "bare"
	case !x.e.Load.Equal(x.had.Load):
		how = "load"
	}
	return why.Of(why.DayTakes, why.House, why.ID("lane", string(x.who)), why.ID("pattern", string(x.slot.Pattern)),
		why.ID("how", how), why.ID("variant", x.e.Variant), why.ID("from", x.had.Variant),
		why.G("load", float64(load)), why.G("had", float64(had)), why.N("people", x.n))
}

// say puts what became of the class into at most three lines.
func (a *Adapted) say(c plan.Context, day circuit.Day, changes []change, waves int) {
	absent, pieces := len(day.Absent), 0
	for _, f := range day.Fewer {
		absent += f.People
	}
	for _, m := range day.Missing {
		pieces += m.Count
	}
	var single []why.Why
	for _, x := range changes {
		switch {
		case x.none:
			a.Without += x.n
		case x.e.Variant != x.had.Variant:
			a.Moves += x.n
		case !x.e.Load.Equal(x.had.Load):
			a.Loads += x.n
		default:
			a.Places += x.n
		}
		if !x.none {
			single = append(single, x.takes(c))
		}
	}
	a.Said = append(a.Said, why.Of(why.DayCame, why.Typed, why.N("people", absent), why.N("pieces", pieces),
		why.N("changes", len(changes)), why.N("waves", waves)))
	room := linesOfDay - len(a.Said)
	if a.Without > 0 {
		room--
	}
	switch {
	case len(single) == 0:
	case len(single) <= room:
		a.Said = append(a.Said, single...)
	default:
		a.Said = append(a.Said, why.Of(why.DayChanged, why.House, why.N("moves", a.Moves), why.N("loads", a.Loads),
			why.N("places", a.Places)))
	}
	if a.Without > 0 {
		a.Said = append(a.Said, why.Of(why.DayWithout, why.House, why.N("people", a.Without)))
	}
}
