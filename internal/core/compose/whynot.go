package compose

import (
	"cmp"
	"maps"
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/why"
)

// WhyNot says why a move does not stand in a slot for a party: what it costs term by term beside
// what does, or what it breaks, and the cheapest change that would allow it.
type WhyNot struct {
	Move string `json:"move"`
	// Entry is the best that the party could do of it; nil where there is nothing here to do it
	// with at all.
	Entry *circuit.Entry `json:"entry,omitempty"`
	LoadG measure.Mass   `json:"loadG"`
	// Faults are what keeps it from being proposed; Shorts what it needs more of than there is;
	// OverMs by how much the class would be too long.
	Faults []why.Why    `json:"faults"`
	Shorts []plan.Short `json:"shorts"`
	OverMs measure.Span `json:"overMs"`
	// Terms are what it costs and what stands there costs, in the points of a proposal; none
	// where it may not stand there.
	Terms []TermBeside `json:"terms"`
	Cost  float64      `json:"cost"`
	Now   float64      `json:"now"`
	// Mends are the fewest changes that together would allow it, the cheapest; none where it is
	// allowed, or nothing here would help.
	Mends []Mend `json:"mends"`
}

// TermBeside is a term of what two entries cost.
type TermBeside struct {
	Term string  `json:"term"`
	Cost float64 `json:"cost"`
	Now  float64 `json:"now"`
}

// MendKind is a change that would allow a move.
type MendKind string

// The changes, the cheapest first (house): what is said with a tick, with more turns, with
// minutes, with a ban lifted, with what the log said set aside, with a thing that is got.
const (
	MendKnown  MendKind = "known"
	MendWaves  MendKind = "waves"
	MendLog    MendKind = "log"
	MendTime   MendKind = "minutes"
	MendBan    MendKind = "ban"
	MendPiece  MendKind = "piece"
	MendNew    MendKind = "thing"
	MendPerson MendKind = "person"
)

// MendKinds lists them by what they cost.
var MendKinds = []MendKind{MendKnown, MendWaves, MendLog, MendTime, MendBan, MendPiece, MendNew, MendPerson}

// Mend is one change. Which fields count depends on Kind.
type Mend struct {
	Kind    MendKind       `json:"kind"`
	Waves   int            `json:"waves,omitempty"`
	Minutes int            `json:"minutes,omitempty"`
	Ban     string         `json:"ban,omitempty"`
	What    string         `json:"what,omitempty"`  // a move or joint that is set aside
	Item    string         `json:"item,omitempty"`  // a thing of the place
	Count   int            `json:"count,omitempty"` // how many more of it
	Sort    string         `json:"sort,omitempty"`  // the kind of a new thing
	MassG   measure.Mass   `json:"massG,omitempty"`
	Height  measure.Length `json:"heightMm,omitempty"`
}

// trial is a document in its context with some changes made.
type trial struct {
	d     circuit.Document
	c     plan.Context
	known bool // the move is known
}

// NotThere explains why a move does not stand in a slot for a party; ok is false where there is
// no such slot, party or move.
func NotThere(
	d circuit.Document, c plan.Context, slot string, who people.Party, move string, unit measure.Unit,
) (out WhyNot, ok bool) {
	c = c.On(d)
	c.Stock = c.Stock.Memoized()
	i, n := d.At(slot)
	at := slices.IndexFunc(c.Parties, func(p plan.Party) bool { return p.ID() == who })
	_, known := c.Library.Get(move)
	if i < 0 || at < 0 || !known {
		return out, false
	}
	q := question{block: i, slot: n, who: c.Parties[at], move: move}
	out = WhyNot{Move: move, Faults: []why.Why{}, Shorts: []plan.Short{}, Terms: []TermBeside{}, Mends: []Mend{}}
	t := trial{d: d, c: c}
	a := q.ask(t)
	if a.held {
		out.Entry, out.LoadG = &a.entry, a.best.Total
	}
	out.Faults, out.Shorts, out.OverMs = some(a.faults), some(a.shorts), a.over
	if a.allowed() {
		out.Terms, out.Cost, out.Now = q.terms(t, a)
		return out, true
	}
	out.Mends = some(q.mend(t, unit))
	return out, true
}

// question is a move for a party in a slot.
type question struct {
	block, slot int
	who         plan.Party
	move        string
}

// answer is what becomes of it.
type answer struct {
	held   bool
	best   choice.Entry
	entry  circuit.Entry
	faults []why.Why
	shorts []plan.Short
	over   measure.Span
}

func (a answer) allowed() bool {
	return a.held && len(a.faults) == 0 && len(a.shorts) == 0 && a.over == 0
}

func (q question) judge(t trial) *choice.Judge {
	d := t.d
	if t.known {
		d.Known = append(slices.Clone(d.Known), q.move)
	}
	class := t.c.Class(d, nil)
	class.Work, _ = d.Blocks[q.block].ByClock(d.Blocks[q.block].Slots[q.slot])
	return choice.For(class, q.who.Judged())
}

// ask puts the move into the slot: of its loads the one with the least against it.
func (q question) ask(t trial) answer {
	v, _ := t.c.Library.Get(q.move)
	j := q.judge(t)
	var out answer
	b := t.d.Blocks[q.block]
	try := func(x choice.Entry, faults []why.Why) answer {
		a := answer{held: true, best: x, faults: faults}
		a.entry = plan.EntryFor(b.Format(), j, x)
		next := t.d.Clone()
		s := next.Blocks[q.block].Slots[q.slot]
		s.Entries[q.who.ID()] = a.entry
		next.Blocks[q.block].Slots[q.slot] = s.SettledIn(b.RoundsOf(s))
		a.entry = next.Blocks[q.block].Slots[q.slot].Entries[q.who.ID()]
		inHand, waves := t.c.InHand(next.Blocks[q.block], q.slot)
		for _, x := range inHand.Shorts(t.c.Stock, waves) {
			a.shorts = append(a.shorts, plan.Short(x))
		}
		a.over = max(0, plan.Length(next, t.c)-max(plan.Length(t.d, t.c), measure.Span(t.c.Minutes)*measure.Minute))
		return a
	}
	if x, faults, held := j.Best(v); held {
		out = try(x, faults)
	}
	for _, x := range j.Entries(v) { // those that may be given, of which some may be there
		if out.allowed() {
			break
		}
		if a := try(x, nil); a.allowed() || len(out.faults) > 0 {
			out = a
		}
	}
	return out
}

// terms are what the move and what stands there cost the party.
func (q question) terms(t trial, a answer) (terms []TermBeside, cost, now float64) {
	j := q.judge(t)
	sum := map[string]TermBeside{}
	add := func(list []choice.Term, to func(*TermBeside, float64)) {
		for _, x := range list {
			b := sum[x.Term]
			b.Term = x.Term
			to(&b, x.Cost)
			sum[x.Term] = b
		}
	}
	list := j.Cost(a.best)
	add(list, func(b *TermBeside, c float64) { b.Cost += c })
	cost = choice.Total(list)
	s := t.d.Blocks[q.block].Slots[q.slot]
	if e, ok := s.Of(q.who.ID(), q.who.Lane); ok {
		if x, known := t.c.ChoiceOf(e); known && x.Variant != nil {
			list = j.Cost(x)
			add(list, func(b *TermBeside, c float64) { b.Now += c })
			now = choice.Total(list)
		}
	}
	for _, k := range slices.Sorted(maps.Keys(sum)) {
		b := sum[k]
		b.Cost, b.Now = measure.Round(b.Cost, 1), measure.Round(b.Now, 1)
		terms = append(terms, b)
	}
	slices.SortStableFunc(terms, func(a, b TermBeside) int { return cmp.Compare(b.Cost-b.Now, a.Cost-a.Now) })
	return terms, measure.Round(cost, 1), measure.Round(now, 1)
}

// step is a change, and how it is made.
type step struct {
	Mend
	do func(trial) trial
}

// steps lists the changes that there are, the cheapest first.
func (q question) steps(t trial, a answer, unit measure.Unit) []step {
	var out []step
	put := func(m Mend, do func(trial) trial) { out = append(out, step{m, do}) }
	put(Mend{Kind: MendKnown}, func(x trial) trial { x.known = true; return x })
	b := t.d.Blocks[q.block]
	s := b.Slots[q.slot]
	if !b.Rotates() && b.Layout != circuit.Partners {
		for n := b.WavesOf(s) + 1; n <= circuit.MaxWaves; n++ {
			put(Mend{Kind: MendWaves, Waves: n}, func(x trial) trial {
				x.d = x.d.Clone()
				if x.d.Blocks[q.block].Layout == circuit.Together {
					x.d.Blocks[q.block].Layout = circuit.InWaves
				}
				x.d.Blocks[q.block].Slots[q.slot].Waves = n
				return x
			})
		}
	}
	for _, what := range q.said(t) {
		put(Mend{Kind: MendLog, What: what}, func(x trial) trial {
			x.d = x.d.Clone()
			x.d.Overruled = append(x.d.Overruled, circuit.Overruled{Party: q.who.ID(), What: what})
			return x
		})
	}
	for _, more := range []int{5, 10, 15, 20, 30} {
		put(Mend{Kind: MendTime, Minutes: t.c.Minutes + more}, func(x trial) trial { x.c.Minutes += more; return x })
	}
	for _, ban := range t.d.Bans {
		put(Mend{Kind: MendBan, Ban: ban}, func(x trial) trial {
			x.d = x.d.Clone()
			x.d.Bans = slices.DeleteFunc(x.d.Bans, func(y string) bool { return y == ban })
			return x
		})
	}
	for _, short := range a.shorts {
		n := short.Used - short.Present
		put(Mend{Kind: MendPiece, Item: short.Item, Count: n}, func(x trial) trial {
			x.c.Stock = x.c.Stock.Less(map[string]int{short.Item: -n})
			return x
		})
	}
	for _, thing := range kit.Usual(unit) {
		thing.Count = max(1, q.who.People)
		put(Mend{Kind: MendNew, Sort: thing.Kind, MassG: thing.Mass, Height: thing.Height, Count: thing.Count},
			func(x trial) trial {
				st := x.c.Stock
				st.Implements = append(slices.Clone(st.Implements), thing)
				x.c.Stock = st.Less(nil)
				return x
			})
	}
	if q.who.Standing != nil && (len(q.who.Standing.Limits) > 0 || q.who.Standing.Ground || len(q.hurts(t)) > 0) {
		put(Mend{Kind: MendPerson}, nil)
	}
	return out
}

// hurts lists the joints that hurt somebody who is known: a plan does not set that aside.
func (q question) hurts(t trial) []string {
	var out []string
	for _, h := range q.judge(t).Hurts() {
		if h.Own && !h.Overruled {
			out = append(out, h.Joints...)
		}
	}
	return out
}

// said lists what the log says of the move for the party that may be set aside: the move, and
// joints that hurt somebody of a lane.
func (q question) said(t trial) []string {
	out := []string{q.move}
	for _, h := range q.judge(t).Hurts() {
		if h.Own {
			out = slices.DeleteFunc(out, func(move string) bool { return move == h.Move })
			continue
		}
		for _, joint := range h.Joints {
			if !slices.Contains(out, joint) {
				out = append(out, joint)
			}
		}
		if !slices.Contains(out, h.Move) {
			out = append(out, h.Move)
		}
	}
	return out
}

// mend finds the cheapest change that allows the move, else the cheapest two. What somebody is to
// be spared is not lifted by a plan: it is said that this would have to end.
func (q question) mend(t trial, unit measure.Unit) []Mend {
	steps := q.steps(t, q.ask(t), unit)
	for _, s := range steps {
		if s.do == nil {
			p, free := q, t
			p.who.Standing = spared(p.who)
			free.d = t.d.Clone()
			for _, joint := range q.hurts(t) {
				free.d.Overruled = append(free.d.Overruled, circuit.Overruled{Party: q.who.ID(), What: joint})
			}
			if p.ask(free).allowed() {
				return []Mend{s.Mend}
			}
			continue
		}
		if q.ask(s.do(t)).allowed() {
			return []Mend{s.Mend}
		}
	}
	for i, first := range steps {
		for _, second := range steps[i+1:] {
			if first.do == nil || second.do == nil || first.Kind == second.Kind {
				continue
			}
			if q.ask(second.do(first.do(t))).allowed() {
				return []Mend{first.Mend, second.Mend}
			}
		}
	}
	return nil
}

// spared is somebody's standing without what they are to be spared.
func spared(p plan.Party) *people.Standing {
	st := *p.Standing
	st.Limits, st.Ground = nil, false
	return &st
}
