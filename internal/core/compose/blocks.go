package compose

import (
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// Wanted is a block that a session is asked to have: these moves in this order. One circuit,
// or straight sets, of work without moves is filled by goal and template.
type Wanted struct {
	Kind circuit.Kind
	// Scheme is that of the goal where it is empty.
	Scheme scheme.Name
	// Rounds, sets or intervals; as many as there is time for where it is 0.
	Rounds int
	Layout circuit.Layout
	// Dose is that of its moves which have none of their own.
	Dose *circuit.Dose
	Pins []Pin
	// aside has its patterns stand in an open block too.
	aside bool
}

// Open tells whether a block is to be filled.
func (w Wanted) Open() bool {
	return w.Kind == circuit.Work && len(w.Pins) == 0 &&
		(w.Scheme == "" || w.Scheme == scheme.Circuit || w.Scheme == scheme.Sets)
}

// Numbers of blocks that are asked for (house).
const (
	afterBlock  = measure.Minute // the pause after work, before the next
	mostChains  = 3
	fewestEvery = 3 // sets of an interval
	dropLow     = 8 // of a stage that is done until few are left
	dropHigh    = 12
)

// asked is a block made of what was asked for. Free tells that its rounds are still to be
// chosen, kept that it stays of an earlier plan, aside that what it has is not all there is of
// its patterns.
type asked struct {
	circuit.Block
	free, kept, aside bool
}

// inBlocks makes a session of the blocks that are asked for: those with moves as they were
// named, one without as goal and template make it. All share the minutes.
func (b Brief) inBlocks() (Proposal, bool) {
	blocks, open, notes := b.askedBlocks()
	c := b.composer(usualWork)
	class := measure.Span(b.Minutes) * measure.Minute
	if open >= 0 {
		p, ok := Proposal{}, false
		for _, rounds := range []func(circuit.Block) int{c.usualRounds, c.fewestRounds} {
			c.setAll(blocks, rounds)
			if p, ok = b.aroundOpen(blocks, open); ok {
				break
			}
		}
		if !ok {
			return p, false
		}
		filled := asked{Block: p.Document.Blocks[open], kept: true}
		blocks = slices.Insert(blocks, open, filled)
		b.asOften(blocks, filled)
		notes = append(notes, p.Notes...)
	} else {
		c.setAll(blocks, c.fewestRounds)
	}
	fits := func() bool { return plan.Length(b.withAuto(blocks), b.Context) <= class }
	if !fits() {
		b.shortRests(blocks)
	}
	if len(blocks) == 0 || !fits() {
		return Proposal{Relax: c.relaxBlocks(blocks)}, false
	}
	for _, most := range []func(circuit.Block) int{c.usualRounds, c.mostOf} {
		c.grow(blocks, most)
	}
	d := b.withAuto(blocks)
	return Proposal{Feasible: true, Document: d.Clone(), Notes: append(notes, c.blocksEnd(d)...)}, true
}

// askedBlocks makes the blocks with moves, after those that stay of the plan, and says where
// the one that is to be filled comes among them, -1 for none.
func (b Brief) askedBlocks() (blocks []asked, open int, notes []why.Why) {
	open = -1
	all := circuit.Document{}
	for _, x := range b.kept() {
		all.Blocks = append(all.Blocks, x)
		blocks = append(blocks, asked{Block: x, kept: true})
	}
	for _, w := range b.Blocks {
		if w.Open() && open < 0 {
			open = len(blocks)
			continue
		}
		x, said := b.asBlock(w)
		notes = append(notes, said...)
		if len(x.Slots) == 0 {
			continue
		}
		x.ID = all.FreeBlockID()
		for i := range x.Slots {
			x.Slots[i].ID = all.FreeSlotID()
			all.Blocks = append(all.Blocks, circuit.Block{Slots: x.Slots[i : i+1]})
		}
		all.Blocks = append(all.Blocks, circuit.Block{ID: x.ID})
		blocks = append(blocks, x)
	}
	return blocks, open, notes
}

// kept are the blocks of the plan that have pinned slots, with these alone.
func (b Brief) kept() []circuit.Block {
	var out []circuit.Block
	for _, x := range b.Plan.Clone().Blocks {
		x.Slots = slices.DeleteFunc(x.Slots, func(s circuit.Slot) bool { return !s.Pinned })
		if len(x.Slots) > 0 {
			out = append(out, x)
		}
	}
	return out
}

// asBlock makes a block of what is asked for, and says what of it cannot be had here.
func (b Brief) asBlock(w Wanted) (asked, []why.Why) {
	out := asked{Block: circuit.Block{Kind: w.Kind}, aside: w.aside}
	if w.Kind.Loaded() {
		out.AfterMs = afterBlock
	}
	out.Scheme = b.schemeOf(w)
	in, work := b.in(out.Block)
	in.Layout = circuit.Layout("")
	if w.Kind.Loaded() {
		in.Layout = w.Layout
		if w.Layout == "" {
			in.Layout = b.Layout
		}
	}
	c := in.composer(work)
	pins := slices.Clone(w.Pins)
	for i := range pins {
		if pins[i].Dose == nil {
			pins[i].Dose = w.Dose
		}
	}
	slots, notes := c.slotsOf(pins, out.Block)
	if out.Is(scheme.Chain) {
		notes = append(notes, c.oneLoad(slots, pins)...)
	}
	for i := range slots {
		slots[i], _ = c.covered(slots[i])
	}
	out.Slots, out.Layout = slots, circuit.LayoutOf(in.Layout, slots)
	if w.Kind == circuit.Prep && len(pins) == 0 {
		out.Block = c.WarmUp(circuit.Document{Bans: b.Bans}, measure.Span(b.Minutes)*measure.Minute-scheme.UsualLeadIn)
	}
	switch {
	case w.Rounds > 0:
		out.Scheme.SetRounds(w.Rounds)
	case w.Kind != circuit.Work:
		out.Scheme.SetRounds(1)
	default:
		out.free = out.Is(scheme.Circuit, scheme.Sets, scheme.Superset, scheme.Chain, scheme.Interval)
	}
	return out, notes
}

// schemeOf is the scheme of a block that is asked for, by the goal's rests.
func (b Brief) schemeOf(w Wanted) *circuit.Scheme {
	kind, aim := w.Scheme, goal.Of(b.Goal)
	switch {
	case kind != "":
	case w.Kind != circuit.Work || b.inStraightSets():
		kind = scheme.Sets
	default:
		kind = scheme.Circuit
	}
	all := circuit.UsualSchemes()
	out := all[slices.IndexFunc(all, func(s circuit.Scheme) bool { return s.Kind == kind })]
	switch {
	case out.Circuit != nil:
		out.Circuit.Format = b.Format
		out.Circuit.RestMs = House.For(aim).UsualRest
		if aim.Scheme != "" {
			out.Circuit.RestMs = min(max(out.Circuit.RestMs, aim.RestLow), aim.RestHigh)
		}
	case out.Sets != nil && w.Kind == circuit.Teach:
		out.Sets.RestMs, out.Sets.BetweenMs = 0, scheme.TeachNew
	case out.Sets != nil && w.Kind != circuit.Work:
		out.Sets.RestMs, out.Sets.BetweenMs = 0, 0
	case out.Sets != nil:
		rest := goal.InSets(b.Goal).Rest
		out.Sets.RestMs, out.Sets.BetweenMs = rest, rest
	case out.Superset != nil && aim.RestHigh > 0:
		out.Superset.RestMs = min(max(out.Superset.RestMs, aim.RestLow), aim.RestHigh)
	}
	return &out
}

// oneLoad gives the parts of a chain one load, since nothing is set down: of each party the
// lightest that suits some part, which is said, unless one was asked for.
func (c *composer) oneLoad(slots []circuit.Slot, pins []Pin) []why.Why {
	var notes []why.Why
	if slices.ContainsFunc(pins, func(p Pin) bool { return p.Load > 0 }) {
		return nil
	}
	for _, p := range c.parties {
		var lightest circuit.Entry
		least := measure.Mass(0)
		for _, s := range slots {
			e := s.Entries[p.id]
			if total, _ := c.Stock.Mass(e.Load); total > 0 && (least == 0 || total < least) {
				lightest, least = e, total
			}
		}
		if least == 0 {
			continue
		}
		heavier := false
		for _, s := range slots {
			e, ok := s.Entries[p.id]
			v, known := c.Library.Get(e.Variant)
			if !ok || !known {
				continue
			}
			total, _ := c.Stock.Mass(e.Load)
			for _, id := range v.Holds {
				h, _ := moves.HoldOf(id)
				if slices.ContainsFunc(
					c.Stock.Options(v, h),
					func(o kit.Option) bool { return o.Load.Equal(lightest.Load) },
				) {
					e.Hold, e.Load = id, lightest.Load
					heavier = heavier || total > least
					s.Entries[p.id] = e
					break
				}
			}
		}
		if heavier {
			notes = append(notes, why.Of(why.NoteChain, why.Practice, why.ID("lane", string(p.id)),
				why.ID("variant", lightest.Variant), why.G("load", float64(least))))
		}
	}
	return notes
}

// aroundOpen fills the open block between the others.
func (b Brief) aroundOpen(blocks []asked, open int) (Proposal, bool) {
	var stay pins
	for i, x := range blocks {
		if x.aside || !x.Kind.Loaded() {
			stay.aside = append(stay.aside, x.ID)
		}
		if i < open {
			stay.before = append(stay.before, x.Block)
		} else {
			stay.after = append(stay.after, x.Block)
		}
	}
	at := slices.IndexFunc(b.Blocks, Wanted.Open)
	b.stay, b.by = &stay, b.Blocks[at].Scheme
	if l := b.Blocks[at].Layout; l != "" {
		b.Layout = l
	}
	p, ok := b.made()
	if ok { // of what was made only the open block counts here, at its place
		block := p.Document.Blocks[stay.at()]
		p.Document.Blocks = slices.Insert(make([]circuit.Block, open), open, block)
	}
	return p, ok
}

// asOften gives the block that was filled as many rounds as were asked for, where the minutes
// have them.
func (b Brief) asOften(blocks []asked, filled asked) {
	w := b.Blocks[slices.IndexFunc(b.Blocks, Wanted.Open)]
	had := filled.Rounds()
	if w.Rounds == 0 || w.Rounds == had {
		return
	}
	filled.Scheme.SetRounds(w.Rounds)
	if plan.Length(b.withAuto(blocks), b.Context) > measure.Span(b.Minutes)*measure.Minute {
		filled.Scheme.SetRounds(had)
	}
}

// withAuto is a session of blocks with a prep, a teaching and a close that time themselves,
// unless one of that kind was asked for; a warm-up has nothing beside itself, a teaching day
// no teaching besides.
func (b Brief) withAuto(blocks []asked) circuit.Document {
	d := circuit.Document{
		V: circuit.DocumentVersion, LeadInMs: scheme.UsualLeadIn, Bans: append([]string{}, b.Bans...), Known: b.Known,
		Overruled: b.Overruled, Goal: b.Goal, Template: b.Template,
	}
	has := func(k circuit.Kind) bool {
		return slices.ContainsFunc(blocks, func(x asked) bool { return x.Kind == k })
	}
	all := circuit.Document{}
	for _, x := range blocks {
		all.Blocks = append(all.Blocks, x.Block)
	}
	auto := func(k circuit.Kind) {
		if b.Template == goal.WarmUp || has(k) && k != circuit.Teach ||
			k == circuit.Teach && b.Template == goal.Teaching {
			return
		}
		x := circuit.Block{
			ID:     all.FreeBlockID(),
			Kind:   k,
			Auto:   true,
			Layout: circuit.Together,
			Slots:  []circuit.Slot{},
		}
		all.Blocks = append(all.Blocks, x)
		d.Blocks = append(d.Blocks, x)
	}
	auto(circuit.Prep)
	first := slices.IndexFunc(blocks, func(x asked) bool { return x.Kind.Loaded() })
	for i, x := range blocks {
		// Each block that has something new is taught just before it; what is known, before the first.
		isNew := slices.ContainsFunc(x.Slots, func(s circuit.Slot) bool { return s.New })
		if i == first || x.Kind.Loaded() && isNew {
			auto(circuit.Teach)
		}
		if i == len(blocks)-1 {
			x.AfterMs = 0
		}
		d.Blocks = append(d.Blocks, x.Block)
	}
	auto(circuit.Close)
	return d
}

// shortRests gives the blocks that were asked for the shortest rests that the goal takes.
func (b Brief) shortRests(blocks []asked) {
	low := goal.InSets(b.Goal).RestLow
	for _, x := range blocks {
		switch s := x.Scheme; {
		case x.kept || x.Kind != circuit.Work:
		case s.Sets != nil:
			s.Sets.RestMs, s.Sets.BetweenMs = min(s.Sets.RestMs, low), min(s.Sets.BetweenMs, low)
		case s.Superset != nil:
			s.Superset.RestMs = min(s.Superset.RestMs, low)
		case s.Circuit != nil:
			s.Circuit.RestMs = min(s.Circuit.RestMs, goal.Of(b.Goal).RestLow)
		}
	}
}

// setAll gives the blocks that are free so many rounds.
func (c *composer) setAll(blocks []asked, rounds func(circuit.Block) int) {
	for i, x := range blocks {
		if x.free {
			blocks[i].Scheme.SetRounds(rounds(x.Block))
		}
	}
}

// grow gives the blocks that are free a round more in their turn, up to so many each, while
// they have the minutes.
func (c *composer) grow(blocks []asked, most func(circuit.Block) int) {
	class := measure.Span(c.Minutes) * measure.Minute
	for grown := true; grown; {
		grown = false
		for _, x := range blocks {
			n := x.Rounds()
			if !x.free || n >= most(x.Block) {
				continue
			}
			x.Scheme.SetRounds(n + 1)
			if plan.Length(c.withAuto(blocks), c.Context) > class {
				x.Scheme.SetRounds(n)
				continue
			}
			grown = true
		}
	}
}

// fewestRounds, usualRounds and mostOf are how many rounds a block has at the least, usually,
// and at the most.
func (c *composer) fewestRounds(b circuit.Block) int {
	switch {
	case b.Is(scheme.Chain):
		return 1
	case b.Is(scheme.Interval):
		return fewestEvery
	}
	return max(1, min(goal.Of(c.Goal).SetsLow, c.mostOf(b)))
}

func (c *composer) usualRounds(b circuit.Block) int {
	if b.Is(scheme.Chain, scheme.Interval) {
		return c.fewestRounds(b)
	}
	return min(max(usualSets, c.fewestRounds(b)), c.mostOf(b))
}

func (c *composer) mostOf(b circuit.Block) int {
	switch {
	case b.Is(scheme.Chain):
		return mostChains
	case b.Is(scheme.Interval):
		return 10
	}
	return c.mostRounds(circuit.Single{Slots: b.Slots})
}

// relaxBlocks names the minutes that blocks take at the least.
func (c *composer) relaxBlocks(blocks []asked) []why.Why {
	longer := *c
	for longer.Minutes = c.Minutes + 1; longer.Minutes <= mostMinutes && len(blocks) > 0; longer.Minutes++ {
		if plan.Length(longer.withAuto(blocks), longer.Context) <= measure.Span(longer.Minutes)*measure.Minute {
			return []why.Why{why.Of(why.RelaxMinutes, why.Arithmetic, why.N("minutes", longer.Minutes))}
		}
	}
	return []why.Why{why.Of(why.RelaxBans, why.Typed)}
}

// blocksEnd says what is left of the minutes.
func (c *composer) blocksEnd(d circuit.Document) []why.Why {
	left := measure.Span(c.Minutes)*measure.Minute - plan.Length(d, c.Context)
	if left <= endsEarly {
		return nil
	}
	return []why.Why{why.Of(why.NoteEndsEarly, why.House, why.Ms("left", int64(left)))}
}

// shaped is a brief with the blocks that its template or its goal asks for by itself: a
// warm-up, a teaching day, what makes ready for a lift.
func (b Brief) shaped() Brief {
	if b.Template == goal.Pairs && b.Layout == "" {
		b.Layout = circuit.Partners
	}
	if len(b.Blocks) > 0 {
		return b
	}
	switch {
	case b.Template == goal.WarmUp:
		b.Blocks = []Wanted{{Kind: circuit.Prep, Pins: b.Pins}}
	case b.Template == goal.Teaching:
		b.Blocks = b.teachingDay()
	case b.Goal == goal.Lift:
		b.Blocks = b.towardsLift()
	default:
		return b
	}
	b.Pins = nil
	return b
}

// teachingDay teaches the pins, else as many moves of the template as the class has time for,
// and then has them by the clock.
func (b Brief) teachingDay() []Wanted {
	blocks := func(pins []Pin) []Wanted {
		return []Wanted{
			{Kind: circuit.Teach, Pins: pins}, {Kind: circuit.Work, Scheme: scheme.Circuit, Pins: pins},
		}
	}
	pins := b.Pins
	if len(pins) > 0 {
		return blocks(pins)
	}
	c := b.composer(usualWork)
	places, _ := c.places()
	var of [][]Pin // slot by slot
	for _, s := range c.chosen(places) {
		var slot []Pin
		for _, who := range people.Parties(s.Entries) {
			slot = append(slot, Pin{Move: s.Entries[who].Variant, Party: who})
		}
		of = append(of, slot)
	}
	for n := len(of); n > 0; n-- {
		b.Blocks = blocks(slices.Concat(of[:n]...))
		if p, ok := b.inBlocks(); ok && p.Feasible {
			break
		}
	}
	return b.Blocks
}

// leavesOut tells whether the bans or the template leave a move out.
func (b Brief) leavesOut(v *moves.Variant) bool {
	return slices.Contains(b.Bans, v.ID) || slices.Contains(b.Bans, string(v.Pattern)) || !b.Template.Allows(v) ||
		b.Template == goal.OnePattern && v.Pattern != b.Pattern
}

// towardsLift begins with the brace and the squats of the gate; then come the pins, or what
// the template has.
func (b Brief) towardsLift() []Wanted {
	// A working load, for as many as are in form, up to those of the gate.
	gate := circuit.Dose{Kind: circuit.Count, Low: strength.RoleReps[strength.Alone], High: people.GateReps}
	steps := func(step moves.ToLift, dose *circuit.Dose) (out []Pin) {
		for _, v := range b.Library.Towards(step) {
			if b.Library.Offers(v) && !b.leavesOut(v) {
				out = append(out, Pin{Move: v.ID, Dose: dose})
			}
		}
		return out
	}
	var out []Wanted
	for _, w := range []Wanted{
		{Kind: circuit.Teach, Pins: steps(moves.LiftLesson, nil)},
		{Kind: circuit.Work, Scheme: scheme.Sets, Rounds: 1, Pins: steps(moves.LiftGate, &gate), aside: true},
	} {
		if len(w.Pins) > 0 {
			out = append(out, w)
		}
	}
	return append(out, Wanted{Kind: circuit.Work, Scheme: scheme.Sets, Pins: b.Pins})
}
