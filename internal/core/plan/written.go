package plan

import (
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// Lesson is what a teaching block that times itself teaches before the clock, and why: a
// slot after it, of several such blocks those before the next.
type Lesson struct {
	Block string       `json:"block"`
	Slot  string       `json:"slot"`
	Ms    measure.Span `json:"ms"`
	Why   why.Why      `json:"why"`
}

// lesson says why a slot's move is taught: somebody does not know it, and tries it; or
// nobody, and it is only shown.
func (c Context) lesson(
	block string,
	s circuit.Slot,
	long measure.Span,
	judges map[people.Party]*choice.Judge,
) Lesson {
	out := Lesson{block, s.ID, long, why.Of(why.TeachKnown, why.House)}
	if !s.New {
		return out
	}
	out.Why = why.Of(why.TeachTyped, why.Typed)
	for _, p := range c.Parties {
		e, ok := s.Of(p.ID(), p.Lane)
		j := judges[p.ID()]
		if v, known := c.Library.Get(e.Variant); ok && known && j != nil && j.Taught(v) {
			out.Why = why.Of(why.TeachNew, why.House, why.ID("variant", v.ID), why.ID("lane", string(p.Lane)))
			break
		}
	}
	return out
}

// WrittenOut gives a prep or teaching block that times itself as one whose steps stand in
// it, to be edited like work: the drills with their seconds, each new move with its practice
// set. ok is false for any other block.
func WrittenOut(d circuit.Document, c Context, id string) (b circuit.Block, ok bool) {
	i := d.Block(id)
	if i < 0 || !d.Blocks[i].Auto || d.Blocks[i].Kind == circuit.Close {
		return b, false
	}
	b = circuit.Block{
		ID:      id,
		Kind:    d.Blocks[i].Kind,
		Layout:  circuit.Together,
		AfterMs: d.Blocks[i].AfterMs,
		Slots:   []circuit.Slot{},
	}
	next := d.Clone()
	add := func(s circuit.Slot) {
		s.ID, s.Waves = next.FreeSlotID(), 1
		b.Slots = append(b.Slots, s)
		next.Blocks = append(next.Blocks, circuit.Block{Slots: []circuit.Slot{s}})
	}
	if b.Kind == circuit.Teach {
		b.Scheme = &circuit.Scheme{Kind: scheme.Sets, Sets: &circuit.InSets{Sets: 1, BetweenMs: scheme.TeachNew}}
		for _, x := range d.Blocks[i+1:] {
			if x.Auto && x.Kind == circuit.Teach {
				break
			}
			for _, s := range x.Slots {
				if x.Kind.Loaded() && s.New {
					add(c.practice(s))
				}
			}
		}
		return b, true
	}
	b.Scheme = &circuit.Scheme{Kind: scheme.Sets, Sets: &circuit.InSets{Sets: 1}}
	for _, x := range c.steps(d) {
		add(x.slot)
	}
	c.share(&b, c.prepTime(d))
	return b, true
}

// WarmUp is a prep by itself that lasts so long at the most: what raises the pulse, and a
// drill or two for each of the joints that most sessions ask something of.
func (c Context) WarmUp(d circuit.Document, most measure.Span) circuit.Block {
	b := circuit.Block{
		Kind: circuit.Prep, Layout: circuit.Together, Slots: []circuit.Slot{},
		Scheme: &circuit.Scheme{Kind: scheme.Sets, Sets: &circuit.InSets{Sets: 1}},
	}
	asked := map[string]int{}
	for _, j := range moves.Joints {
		asked[j] = 1
	}
	for _, x := range c.prepFor(d, asked, map[string]string{}) {
		b.Slots = append(b.Slots, c.drillSlot(x.Move))
	}
	c.share(&b, most)
	return b
}

// drillSlot is a drill that every lane does.
func (c Context) drillSlot(id string) circuit.Slot {
	s := circuit.Slot{Pattern: moves.Mobility, Waves: 1, Entries: map[people.Party]circuit.Entry{}}
	for _, p := range c.Parties {
		if v, known := c.Library.Get(id); known && p.Participant == "" && p.People > 0 {
			s.Pattern, s.Entries[p.ID()] = v.Pattern, c.drill(v)
		}
	}
	return s
}

// drill is an entry of a drill without a load, at what the place has for it; its seconds are
// set by share.
func (c Context) drill(v *moves.Variant) circuit.Entry {
	e := circuit.Entry{
		Variant: v.ID, Hold: moves.NoLoad, Load: kit.Nothing, Anchors: []string{}, Tempo: v.TempoWritten(),
		Dose: circuit.Dose{Kind: circuit.Seconds, Ms: leastDrill}, Sides: scheme.BothSides,
	}
	switch v.Sides {
	case moves.PerSide:
		e.Sides = scheme.Split
	case moves.Alternating:
		e.Sides = scheme.TurnByTurn
	}
	for _, need := range v.Wants() {
		if c.Stock.Grants(need) {
			continue
		}
		i := slices.IndexFunc(c.Stock.Implements, func(i kit.Implement) bool {
			return i.Count > 0 && i.Serves(need) && !slices.Contains(e.Anchors, i.ID)
		})
		if i >= 0 {
			e.Anchors = append(e.Anchors, c.Stock.Implements[i].ID)
		}
	}
	return e
}

// leastDrill is the shortest that a drill is done for, a side (house).
const leastDrill = 10 * measure.Second

// share gives the drills of a prep that have no dose of their own the seconds that come
// nearest to its time without going over, the same for each, by whole fives where there is
// room.
func (c Context) share(b *circuit.Block, most measure.Span) {
	open := []int{}
	for i, s := range b.Slots {
		for _, e := range s.Entries {
			if e.Dose == (circuit.Dose{Kind: circuit.Seconds, Ms: leastDrill}) && !slices.Contains(open, i) {
				open = append(open, i)
			}
		}
	}
	long := func(each measure.Span) measure.Span {
		for _, i := range open {
			for p, e := range b.Slots[i].Entries {
				e.Dose.Ms = each
				if e.Sides == scheme.Split {
					e.Dose.Ms = max(leastDrill, (each-scheme.SideChange)/2/measure.Second*measure.Second)
				}
				b.Slots[i].Entries[p] = e
			}
		}
		return Length(circuit.Document{V: circuit.DocumentVersion, Blocks: []circuit.Block{*b}}, c)
	}
	for len(open) > 0 && len(b.Slots) > 1 && long(leastDrill) > most { // a short prep leaves the last out
		last := open[len(open)-1]
		b.Slots = slices.Delete(b.Slots, last, last+1)
		open = open[:len(open)-1]
	}
	if len(open) == 0 {
		return
	}
	own := long(leastDrill) - measure.Span(len(open))*leastDrill
	each := max(leastDrill, (most-own)/measure.Span(len(open))/measure.Second*measure.Second)
	for ; each > leastDrill && long(each) > most; each -= measure.Second {
	}
	if five := each / (5 * measure.Second) * 5 * measure.Second; five >= leastDrill {
		each = five
	}
	long(each)
}

// practice is a slot's move as it is tried before the clock.
func (c Context) practice(s circuit.Slot) circuit.Slot {
	out := circuit.Slot{Pattern: s.Pattern, New: s.New, Entries: map[people.Party]circuit.Entry{}}
	for who, e := range s.Entries {
		if v, ok := c.Library.Get(e.Variant); ok {
			out.Entries[who] = Practised(e, v)
		}
	}
	return out
}

// Practised is an entry as a practice set: without a load where it can be done so, else with
// its own.
func Practised(e circuit.Entry, v *moves.Variant) circuit.Entry {
	e, _ = e.Unloaded(v)
	e.Dose, e.Sides = circuit.Times(2*scheme.PracticeReps), scheme.BothSides
	switch v.Sides {
	case moves.PerSide:
		e.Dose, e.Sides = circuit.Times(scheme.PracticeReps), scheme.Split
	case moves.Alternating:
		e.Sides = scheme.TurnByTurn
	}
	return e
}
