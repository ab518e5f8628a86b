package plan

import (
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
)

// CountPlan is how many repetitions something comes to at both ends of its range: in all,
// and on each side, which are 0 where it is not done a side.
type CountPlan struct {
	Low       int `json:"low"`
	High      int `json:"high"`
	LeftLow   int `json:"leftLow"`
	LeftHigh  int `json:"leftHigh"`
	RightLow  int `json:"rightLow"`
	RightHigh int `json:"rightHigh"`
}

// PartPlan is how often a part of combined moves comes.
type PartPlan struct {
	Move string `json:"move"`
	Low  int    `json:"low"`
	High int    `json:"high"`
}

// Total is how much a party does in a class: repetitions, those that each leg does in moves
// of the legs, and the parts of what is combined.
type Total struct {
	Party people.Party `json:"party"`
	Count CountPlan    `json:"count"`
	// LeftLeg and RightLeg count moves on two legs for both.
	LeftLegLow   int        `json:"leftLegLow"`
	LeftLegHigh  int        `json:"leftLegHigh"`
	RightLegLow  int        `json:"rightLegLow"`
	RightLegHigh int        `json:"rightLegHigh"`
	Parts        []PartPlan `json:"parts"`
}

func (c CountPlan) plus(d CountPlan) CountPlan {
	return CountPlan(scheme.Count(c).Add(scheme.Count(d)))
}

// countOf is what a slot comes to in its block: by the clock what fits, of a window one
// round, and nothing where a dose is in seconds or read out.
func countOf(b circuit.Block, s circuit.Slot, e circuit.Entry, set scheme.SetTime) CountPlan {
	if b.Scheme == nil || b.Is(scheme.CalledOut) || e.Dose.Kind == circuit.Seconds {
		return CountPlan{}
	}
	sides := 2
	if e.Sides == scheme.BothSides {
		sides = 1
	}
	sets, low, high := b.RoundsOf(s), e.Dose.Low, e.Dose.High
	if _, byClock := b.ByClock(s); byClock {
		low, high = set.PerSide, set.PerSide
	}
	count := func(sets, low, high int) scheme.Count {
		first := e.First
		if first == "" {
			first = scheme.Left
		}
		if e.Dose.InAll && sides == 2 && e.Sides != scheme.ByRound {
			return inAll(sets, low, high, first)
		}
		return scheme.CountSets(sets, low, high, sides, e.Sides, first)
	}
	switch {
	case b.Scheme.Chain != nil:
		sides = b.Scheme.Chain.Sides
		return CountPlan(scheme.CountSets(sets, low, high, sides, scheme.Split, scheme.Left))
	case b.Scheme.Ladder != nil:
		var sum scheme.Count
		for _, n := range b.Scheme.Ladder.Rungs {
			sum = sum.Add(count(1, n, n))
		}
		return CountPlan(sum)
	}
	return CountPlan(count(sets, low, high))
}

// inAll shares sets of so many in all out to both sides, the odd one to the first.
func inAll(sets, low, high int, first scheme.Side) scheme.Count {
	c := scheme.Count{
		Low: sets * low, High: sets * high,
		LeftLow: sets * ((low + 1) / 2), LeftHigh: sets * ((high + 1) / 2),
		RightLow: sets * (low / 2), RightHigh: sets * (high / 2),
	}
	if first == scheme.Right {
		c.LeftLow, c.LeftHigh, c.RightLow, c.RightHigh = c.RightLow, c.RightHigh, c.LeftLow, c.LeftHigh
	}
	return c
}

// partsOf counts the parts of a combined move over its block.
func partsOf(b circuit.Block, s circuit.Slot, e circuit.Entry, cell Cell, lib *moves.Library) []PartPlan {
	out := []PartPlan{}
	v, ok := lib.Get(e.Variant)
	if !ok || v.Staged() {
		return out
	}
	add := func(move string, low, high int) {
		i := slices.IndexFunc(out, func(p PartPlan) bool { return p.Move == move })
		if i < 0 {
			out = append(out, PartPlan{Move: move})
			i = len(out) - 1
		}
		out[i].Low += low * cell.Count.Low
		out[i].High += high * cell.Count.High
	}
	if len(e.Parts) > 0 {
		for _, p := range e.Parts {
			add(p.Move, p.Count, p.Count)
		}
		return out
	}
	for _, p := range v.Parts {
		add(p.Move, p.Reps, p.Most())
	}
	return out
}

// totals add up what each party does in the blocks that the class is trained by, and in the
// practice sets of teaching; what is drilled there counts for nothing.
func totals(p Plan, d circuit.Document, c Context) []Total {
	out := []Total{}
	loaded, teach := map[string]bool{}, map[string]bool{}
	for _, b := range d.Blocks {
		loaded[b.ID], teach[b.ID] = b.Kind.Loaded(), b.Kind == circuit.Teach
	}
	practised := c.practiceCells(p, d)
	for _, who := range c.Parties {
		t := Total{Party: who.ID(), Parts: []PartPlan{}}
		found := false
		for _, s := range slices.Concat(p.Slots, practised) {
			if !loaded[s.Block] && !teach[s.Block] {
				continue
			}
			cell, ok := s.of(who)
			v, known := c.Library.Get(cell.Entry.Variant)
			if !ok || teach[s.Block] && known && v.Drill {
				continue
			}
			found = found || cell.Party == t.Party
			t.Count = t.Count.plus(cell.Count)
			t.legs(cell, c.Library)
			for _, x := range cell.Parts {
				t.part(x)
			}
		}
		if found {
			out = append(out, t)
		}
	}
	return out
}

// practiceCells are the practice sets of teaching that times itself, as cells that count.
func (c Context) practiceCells(p Plan, d circuit.Document) []SlotPlan {
	var out []SlotPlan
	for _, l := range p.Teach {
		s, ok := d.Slot(l.Slot)
		if !ok || !s.New {
			continue
		}
		b := circuit.Block{
			ID: l.Block, Kind: circuit.Teach, Layout: circuit.Together, Slots: []circuit.Slot{c.practice(s)},
			Scheme: &circuit.Scheme{Kind: scheme.Sets, Sets: &circuit.InSets{Sets: 1}},
		}
		x := SlotPlan{ID: l.Slot, Block: l.Block}
		for _, u := range c.Users(b.Slots[0]) {
			set := setOf(b, b.Slots[0], u.Entry, c.Library)
			cell := Cell{
				Party: u.ID(), Entry: u.Entry, TwoSides: u.Entry.Sides != scheme.BothSides,
				Count: countOf(b, b.Slots[0], u.Entry, set),
			}
			cell.Parts = partsOf(b, b.Slots[0], u.Entry, cell, c.Library)
			x.Cells = append(x.Cells, cell)
		}
		out = append(out, x)
	}
	return out
}

// of gives the cell of a party: their own, else the lane's.
func (sp SlotPlan) of(who Party) (Cell, bool) {
	for _, id := range []people.Party{who.ID(), people.OfLane(who.Lane)} {
		if i := slices.IndexFunc(sp.Cells, func(c Cell) bool { return c.Party == id }); i >= 0 {
			return sp.Cells[i], true
		}
	}
	return Cell{}, false
}

func (t *Total) legs(cell Cell, lib *moves.Library) {
	v, ok := lib.Get(cell.Entry.Variant)
	if !ok || !slices.ContainsFunc(v.Trains(), moves.Pattern.OfTheLegs) {
		return
	}
	n := cell.Count
	if !cell.TwoSides || !v.OnOneLeg() { // the sides are the arms', both legs do all
		n.LeftLow, n.LeftHigh, n.RightLow, n.RightHigh = n.Low, n.High, n.Low, n.High
	}
	t.LeftLegLow, t.LeftLegHigh = t.LeftLegLow+n.LeftLow, t.LeftLegHigh+n.LeftHigh
	t.RightLegLow, t.RightLegHigh = t.RightLegLow+n.RightLow, t.RightLegHigh+n.RightHigh
}

func (t *Total) part(x PartPlan) {
	i := slices.IndexFunc(t.Parts, func(p PartPlan) bool { return p.Move == x.Move })
	if i < 0 {
		t.Parts = append(t.Parts, x)
		return
	}
	t.Parts[i].Low += x.Low
	t.Parts[i].High += x.High
}
