package compose

import (
	"maps"
	"math"
	"slices"

	"nimbleanvil/internal/core/assign"
	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// How people by name share what a slot has (house).
const (
	// mostMoves stand in a slot: so many can be shown and watched at once.
	mostMoves = 3
	// worthAMove is what another move must save the people together, in points.
	worthAMove = 20.0
	// fourthMove is what a move beside those costs, for somebody whom none of them suits, in points.
	fourthMove = 100.0
	// ownEntry is what an entry of somebody's own costs beside their lane's, in points.
	ownEntry = 1.0
	// bestOfMove are the loads of a move that somebody is considered for.
	bestOfMove = 6
	// mostByName is how many people are shared out at once.
	mostByName = 80
	// points is how finely costs are told apart.
	points = 1000
)

// Shared is what people by name came to: the sum of their costs over the slots, and what no
// sharing is under.
type Shared struct {
	Cost, Bound float64
	Proven      bool
	// Without are those for whom nothing was left in a slot: they do their lane's.
	Without []Lack
	// People and Entries are how many have something of their own, and in how many places in all.
	People, Entries int
}

// Lack is somebody for whom nothing of their own was left in a slot.
type Lack struct {
	Slot string
	Who  people.Party
}

// ByName gives those whom the studio knows what suits each in a document whose lanes have their
// entries: of the moves that stand in a slot, at most three, each takes one with their own load
// and side. Who holds what is an assignment within the counts, slot by slot, exact where
// everybody uses one piece. Who has an entry of their own already keeps it; who would do the
// same as their lane does the lane's. A class that fits goes on fitting.
func ByName(d circuit.Document, c plan.Context) (circuit.Document, Shared) {
	out := Shared{Proven: true}
	named := c.Named()
	if len(named) == 0 || len(named) > mostByName {
		return d, out
	}
	c.Stock = c.Stock.Memoized()
	judges := c.Judges(d)
	next := d.Clone()
	for i, b := range next.Blocks {
		if b.Kind != circuit.Work || b.Rotates() || b.Is(scheme.Windowed) {
			continue
		}
		for n := range b.Slots {
			s := sharing{c: c, d: &next, block: i, slot: n, judges: judges.Named(b, b.Slots[n])}
			s.share(named, &out)
		}
	}
	own := map[people.Party]bool{}
	for _, slot := range next.Slots() {
		for _, p := range named {
			if _, is := slot.Entries[p.ID()]; is {
				own[p.ID()] = true
				out.Entries++
			}
		}
	}
	out.People = len(own)
	return next, out
}

// byName shares a document out among those whom the studio knows, and says so. What is pinned
// for somebody in the plan before stays theirs.
func (b Brief) byName(had, d circuit.Document) (circuit.Document, *Shared, []why.Why) {
	if len(b.Named()) == 0 {
		return d, nil, nil
	}
	d, notes := b.keepPinned(had, d)
	d, s := ByName(d, b.Context)
	if s.Entries > 0 {
		notes = append(notes, why.Of(
			why.NoteByName,
			why.House,
			why.N("people", s.People),
			why.N("entries", s.Entries),
			why.N(
				"cost",
				int(math.Ceil(s.Cost)),
			),
			why.N("bound", int(math.Ceil(s.Bound))),
			why.ID("proven", yesNo(s.Proven)),
		))
	}
	for _, l := range s.Without {
		if slot, ok := d.Slot(l.Slot); ok && !b.bound(l.Who) {
			notes = append(notes, why.Of(why.NoteNothingLeft, why.House, why.ID("lane", string(l.Who)),
				why.ID("pattern", string(slot.Pattern))))
		}
	}
	return d, &s, notes
}

func yesNo(yes bool) string {
	if yes {
		return "yes"
	}
	return "no"
}

// bound tells whether something binds somebody: what becomes of them is said by Spare.
func (b Brief) bound(who people.Party) bool {
	return slices.ContainsFunc(b.Bound(), func(p plan.Party) bool { return p.ID() == who })
}

// keepPinned gives people what was pinned for them in the plan before: in the same slot where it
// stayed, else in the first of its pattern that has nothing of theirs yet.
func (b Brief) keepPinned(had, d circuit.Document) (circuit.Document, []why.Why) {
	var notes []why.Why
	next := d.Clone()
	for _, old := range had.Slots() {
		for _, who := range people.Parties(old.Entries) {
			e := old.Entries[who]
			if !e.Pinned || !slices.ContainsFunc(b.Parties, func(p plan.Party) bool { return p.ID() == who }) {
				continue
			}
			if !keepIn(&next, old, who, e) {
				notes = append(notes, why.Of(why.NoteOwnAway, why.Typed, why.ID("lane", string(who)),
					why.ID("variant", e.Variant)))
			}
		}
	}
	return next, notes
}

func keepIn(d *circuit.Document, old circuit.Slot, who people.Party, e circuit.Entry) bool {
	for i, b := range d.Blocks {
		for n, s := range b.Slots {
			if _, has := s.Entries[who]; has && s.ID == old.ID && old.Pinned {
				return true
			} else if has || s.Pattern != old.Pattern || !b.Kind.Loaded() {
				continue
			}
			s.Entries[who] = e
			d.Blocks[i].Slots[n] = s.SettledIn(b.RoundsOf(s))
			return true
		}
	}
	return false
}

// sharing is one slot that is shared out.
type sharing struct {
	c           plan.Context
	d           *circuit.Document
	block, slot int
	judges      map[people.Party]*choice.Judge
	moves       []*moves.Variant
	pool        pool
	most, spare measure.Span // that the class may last; that a set may last longer for it
}

// offer is an entry that somebody may be given, nothing for their lane's.
type offer struct {
	entry circuit.Entry
	own   bool
}

func (s *sharing) at() circuit.Slot { return s.d.Blocks[s.block].Slots[s.slot] }

// share gives the people who have nothing of their own in the slot what suits them.
func (s *sharing) share(named []plan.Party, out *Shared) {
	var who []plan.Party
	for _, p := range named {
		if _, own := s.at().Entries[p.ID()]; !own && s.judges[p.ID()] != nil {
			who = append(who, p)
		}
	}
	if len(who) == 0 {
		return
	}
	long := plan.Length(*s.d, s.c)
	s.most = max(long, measure.Span(s.c.Minutes)*measure.Minute)
	s.spare = (s.most - long) / measure.Span(max(1, s.d.Blocks[s.block].RoundsOf(s.at())))
	s.movesFor(who)
	s.count(who)
	options, offers := make([][]assign.Option, len(who)), make([][]offer, len(who))
	for i, p := range who {
		options[i], offers[i] = s.offersTo(p)
	}
	most := s.most
	had, have := s.at(), slices.Clone(s.pool.have)
	chosen, bound := s.sharedOut(who, options, offers)
	if plan.Length(*s.d, s.c) > most { // once more with what takes no longer by itself
		s.d.Blocks[s.block].Slots[s.slot], s.pool.have = had, have
		for i, p := range who {
			options[i], offers[i] = s.noLonger(p, options[i], offers[i], most)
		}
		chosen, bound = s.sharedOut(who, options, offers)
	}
	s.fit(who, most)
	cost := int64(0)
	for i, p := range who {
		o := chosen[i]
		if _, own := s.at().Entries[p.ID()]; offers[i][o].own && !own { // it did not fit
			o = s.lanes(offers[i], options[i])
		}
		if cost += options[i][o].Cost; o == 0 {
			out.Without = append(out.Without, Lack{s.at().ID, p.ID()})
		}
	}
	out.Cost += float64(cost) / points
	out.Bound += float64(bound) / points
	out.Proven = out.Proven && cost == bound
}

// noLonger keeps of somebody's offers those with which the class is no longer than it may be.
func (s *sharing) noLonger(
	p plan.Party, options []assign.Option, offers []offer, most measure.Span,
) (o []assign.Option, e []offer) {
	for i, x := range offers {
		if !x.own || lastsWith(*s.d, s.c, s.block, s.slot, p.ID(), x.entry) <= most {
			o, e = append(o, options[i]), append(e, x)
		}
	}
	return o, e
}

// lastsWith is how long a class takes where a party does an entry in a slot.
func lastsWith(d circuit.Document, c plan.Context, block, slot int, who people.Party, e circuit.Entry) measure.Span {
	slots := slices.Clone(d.Blocks[block].Slots)
	s := slots[slot]
	s.Entries = maps.Clone(s.Entries)
	s.Entries[who] = e
	slots[slot] = s
	d.Blocks = slices.Clone(d.Blocks)
	d.Blocks[block].Slots = slots
	return plan.Length(d, c)
}

// sharedOut gives everybody an option. Two pieces each and turns that do not come out even take a
// little more than the sums say: then what is short counts as fewer, and the bound stays that of
// the sums.
func (s *sharing) sharedOut(who []plan.Party, options [][]assign.Option, offers [][]offer) (chosen []int, bound int64) {
	b := s.d.Blocks[s.block]
	before := s.at()
	for first := true; ; first = false {
		now, least := assign.Share(options, s.pool.have, assign.Brisk)
		if chosen = now; first {
			bound = least
		}
		next := before
		next.Entries = maps.Clone(before.Entries)
		for i, p := range who {
			if x := offers[i][chosen[i]]; x.own {
				next.Entries[p.ID()] = x.entry
			}
		}
		b.Slots[s.slot] = next.SettledIn(b.RoundsOf(next))
		inHand, waves := s.c.InHand(b, s.slot)
		tight := false
		for _, x := range inHand.Shorts(s.c.Stock, waves) {
			if at, ok := s.pool.number[x.Item]; ok && s.pool.have[at] > 0 {
				s.pool.have[at]--
				tight = true
			}
		}
		if !tight {
			return chosen, bound
		}
	}
}

// lanes is the cheapest offer that is what somebody's lane does.
func (s *sharing) lanes(offers []offer, options []assign.Option) int {
	best := 0
	for o := range offers {
		if o > 0 && !offers[o].own && (best == 0 || options[o].Cost < options[best].Cost) {
			best = o
		}
	}
	return best
}

// movesFor gathers the moves of the slot: the lanes', and where fewer than three stand there,
// those rungs of people's that save the most.
func (s *sharing) movesFor(who []plan.Party) {
	for _, lane := range moves.Lanes {
		if e, ok := s.at().Entries[people.OfLane(lane)]; ok {
			s.add(e.Variant)
		}
	}
	best := func(p plan.Party, list []*moves.Variant) float64 {
		least := math.Inf(1)
		for _, v := range list {
			for _, x := range entriesOf(v, s.judges[p.ID()]) {
				least = min(least, x.cost)
			}
		}
		return min(least, nothingLeft)
	}
	for len(s.moves) < mostMoves {
		var add *moves.Variant
		most := worthAMove
		now := make([]float64, len(who))
		for i, p := range who {
			now[i] = best(p, s.moves)
		}
		for _, id := range s.rungsOf(who) {
			v, _ := s.c.Library.Get(id)
			saved := 0.0
			for i, p := range who {
				saved += max(0, now[i]-best(p, []*moves.Variant{v}))
			}
			if saved > most {
				add, most = v, saved
			}
		}
		if add == nil {
			return
		}
		s.moves = append(s.moves, add)
	}
}

func (s *sharing) add(id string) {
	if v, ok := s.c.Library.Get(id); ok && !slices.Contains(s.moves, v) && len(s.moves) < mostMoves {
		s.moves = append(s.moves, v)
	}
}

// rungsOf lists the moves of the slot's pattern that people stand on and that are not there.
func (s *sharing) rungsOf(who []plan.Party) []string {
	var out []string
	for _, v := range s.c.Library.OfPattern(s.at().Pattern) {
		if slices.Contains(s.moves, v) {
			continue
		}
		on := func(p plan.Party) bool {
			r, ok := p.Standing.On(v)
			return ok && r.Move == v.ID
		}
		if slices.ContainsFunc(who, on) {
			out = append(out, v.ID)
		}
	}
	return out
}

// nothingLeft is what it costs somebody to do what their lane does though nothing of it is left
// for them, or they are to be spared it.
const nothingLeft = 1000.0

// count tells how many pieces of everything are left for the people: what those without a name
// use of the lanes' entries, and what others have of their own, is taken.
func (s *sharing) count(who []plan.Party) {
	waves := s.d.Blocks[s.block].WavesOf(s.at())
	used := map[string]int{}
	byLane := map[moves.Lane]int{}
	for _, p := range who {
		byLane[p.Lane]++
	}
	for _, u := range s.c.Users(s.at()) {
		n := u.N
		if u.Participant == "" {
			n -= byLane[u.Lane]
		}
		for _, x := range usesOf(u.Entry) {
			used[x] += n
		}
	}
	s.pool = poolOf(s.c.Stock, func(id string, pieces int) int { return pieces*waves - used[id] })
}

// usesOf lists the pieces of an entry, by the ids of things, one for each.
func usesOf(e circuit.Entry) []string {
	out := slices.Clone(e.Anchors)
	for _, u := range e.Load.Uses() {
		for range u.Count {
			out = append(out, u.ID)
		}
	}
	return out
}

// offersTo lists what somebody may take in the slot: first nothing, which is what their lane
// does without a piece for it, then the best loads of each move.
func (s *sharing) offersTo(p plan.Party) ([]assign.Option, []offer) {
	options, offers := []assign.Option{{Cost: nothingLeft * points}}, []offer{{}}
	lanes, _ := s.at().Of(p.ID(), p.Lane)
	for _, v := range s.moves {
		o, e := s.offersOf(p, v, lanes, bestOfMove)
		options, offers = append(options, o...), append(offers, e...)
	}
	if len(options) > 1 {
		return options, offers
	}
	for _, v := range s.c.Library.OfPattern(s.at().Pattern) {
		o, e := s.offersOf(p, v, lanes, 1)
		for i := range o {
			o[i].Cost += fourthMove * points
		}
		options, offers = append(options, o...), append(offers, e...)
	}
	return options, offers
}

// offersOf lists the best loads of a move for somebody.
func (s *sharing) offersOf(p plan.Party, v *moves.Variant, lanes circuit.Entry, most int) ([]assign.Option, []offer) {
	var options []assign.Option
	var offers []offer
	b, j := s.d.Blocks[s.block], s.judges[p.ID()]
	cands := entriesOf(v, j)
	sortCandidates(cands)
	slack := usualSlack
	if _, said := j.Decision(v); said && b.Format() == circuit.Reps {
		slack = 0 // one repetition more is what the log says
	}
	for _, x := range cands[:min(len(cands), most)] {
		e := s.inTime(p, plan.EntryFor(b.Format(), j, x.entry), v)
		for _, way := range x.ways {
			e.Anchors = append([]string{}, way...)
			if len(usesOf(e)) > 8 { // a bag of many things is not shared out
				continue
			}
			mine := offer{e, !same(e, lanes, slack)}
			cost := x.cost
			if mine.own {
				cost += ownEntry
			}
			o := assign.Option{Cost: int64(math.Round(min(cost, nothingLeft-1) * points))}
			for _, id := range usesOf(e) {
				o.Pieces = append(o.Pieces, s.pool.number[id])
			}
			slices.Sort(o.Pieces)
			options, offers = append(options, o), append(offers, mine)
		}
	}
	return options, offers
}

// inTime takes repetitions off a set that would end too long after that of somebody's lane, or
// make the class too long, as far as the move's range goes.
func (s *sharing) inTime(p plan.Party, e circuit.Entry, v *moves.Variant) circuit.Entry {
	b := s.d.Blocks[s.block]
	if b.Format() == circuit.Timed || e.Dose.Kind != circuit.Count {
		return e
	}
	last := func(e circuit.Entry) measure.Span { return plan.SetOf(1, e, s.c.Library).ByReps(e.Dose.High).Work }
	most, own := measure.Span(0), measure.Span(0)
	for _, lane := range moves.Lanes {
		if x, ok := s.at().Entries[people.OfLane(lane)]; ok {
			most = max(most, last(x))
		}
	}
	if x, ok := s.at().Of(p.ID(), p.Lane); ok {
		own = last(x)
	}
	for e.Dose.High > v.RepsLow && last(e) > most &&
		(last(e) > own+plan.WaitMost || last(e) > most+s.spare) {
		e.Dose.High--
		e.Dose.Low = min(e.Dose.Low, e.Dose.High)
	}
	return e
}

// usualSlack is how many repetitions somebody's set may differ from their lane's and be the same.
const usualSlack = 1

// same tells whether an entry asks of somebody what their lane's does, give or take so many
// repetitions.
func same(e, lane circuit.Entry, slack int) bool {
	near := func(a, b int) bool { return a-b <= slack && b-a <= slack }
	return e.Variant == lane.Variant && e.Hold == lane.Hold && e.Load.Equal(lane.Load) && e.First == lane.First &&
		e.Tempo == lane.Tempo && near(e.Dose.Low, lane.Dose.Low) && near(e.Dose.High, lane.Dose.High)
}

// fit takes entries of people's own back, the last first, until the slot is covered and the
// class fits as it did; what fits after all is given again.
func (s *sharing) fit(who []plan.Party, most measure.Span) {
	fits := func() bool {
		inHand, waves := s.c.InHand(s.d.Blocks[s.block], s.slot)
		return inHand.Covered(s.c.Stock, waves) && plan.Length(*s.d, s.c) <= most
	}
	back := map[people.Party]circuit.Entry{}
	for _, p := range slices.Backward(who) {
		if fits() {
			break
		}
		if e, own := s.at().Entries[p.ID()]; own {
			back[p.ID()] = e
			delete(s.at().Entries, p.ID())
		}
	}
	for _, id := range people.Parties(back) {
		s.at().Entries[id] = back[id]
		if !fits() {
			delete(s.at().Entries, id)
		}
	}
}

// mostRoom is how many minutes a class by repetitions leaves at the most for the sets of people
// by name that their log has made longer than their lane's (house).
const mostRoom = 3

// roomFor is how many minutes those sets go beyond the class: without room for them nobody could
// go on in repetitions whose lane does not.
func (b Brief) roomFor(d circuit.Document) int {
	if b.Format != circuit.Reps || len(b.Named()) == 0 {
		return 0
	}
	minutes := measure.Span(b.Minutes) * measure.Minute
	if plan.Length(d, b.Context) > minutes {
		return 0
	}
	free := b.Context
	free.Minutes += mostRoom
	d, _ = ByName(d, free)
	over := plan.Length(d, b.Context) - minutes
	return max(0, int((over+measure.Minute-1)/measure.Minute))
}
