package circuit

import (
	"math"
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/room"
	"nimbleanvil/internal/core/why"
)

// allocate checks a combination against the kit and gives the entries; by repetitions
// the lanes' sets are brought together, and apart is what it costs where they are not.
func (c *composer) allocate(cands [][]candidate, pick []int, waves int) (entries map[moves.Lane]Entry, apart float64, ok bool) {
	tally := room.Tally{}
	entries = map[moves.Lane]Entry{}
	for i, l := range c.lanes {
		x := cands[i][pick[i]]
		users := room.PerWave(l.People, waves)
		way := slices.IndexFunc(x.ways, func(way []string) bool {
			need := map[string]int{}
			for _, id := range way {
				need[id] += users
			}
			for id, n := range need {
				if tally[id]+n > c.Stock.Pieces(id) {
					return false
				}
			}
			return true
		})
		if way < 0 {
			return nil, 0, false
		}
		e := x.made
		e.Anchors = append([]string{}, x.ways[way]...)
		tally.Take(users, e.Load, e.Anchors)
		entries[l.Lane] = e
	}
	if len(tally.Shorts(c.Stock)) > 0 {
		return nil, 0, false
	}
	if c.Format == Reps && !together(entries, c.Library) {
		apart = apartCost
	}
	return entries, apart, true
}

// entryFor writes a choice down as a lane's version, with the set it makes.
func (b Brief) entryFor(j *choice.Judge, x choice.Entry) Entry {
	v := x.Variant
	dose := j.Dose(x)
	e := Entry{Variant: v.ID, Hold: x.Hold, Load: x.Load, Anchors: append([]string{}, x.Supports...), Tempo: dose.Tempo, Reps: min(dose.Reps, MaxReps), Sides: BothSides}
	switch {
	case v.Sides == moves.Alternating || v.InTurn:
		e.Sides = TurnByTurn
	case v.Sides == moves.PerSide:
		e.Sides = Split
		if b.Format == Timed && splitCount(v, j.Work) < v.RepsLow {
			e.Sides = ByRound
		}
	}
	return e
}

// together brings the sets of a slot's lanes to within waitMost of each other by their
// counts, within the ranges, as near as can be to what they were; false where no counts
// do.
func together(entries map[moves.Lane]Entry, lib *moves.Library) bool {
	type lane struct {
		id        moves.Lane
		e         Entry
		low, high int
	}
	var all []lane
	for _, id := range moves.Lanes {
		e, ok := entries[id]
		v, known := lib.Get(e.Variant)
		if !ok || !known {
			continue
		}
		x := lane{id, e, min(v.RepsLow, e.Reps), max(v.RepsHigh, e.Reps)}
		for x.high > x.low && measure.Span(x.high)*tempoOf(e).PerRep() > longSide {
			x.high--
		}
		all = append(all, x)
	}
	at := func(x lane, n int) measure.Span {
		x.e.Reps = n
		return x.e.byReps(Document{Format: Reps}, tempoOf(x.e).PerRep()).work
	}
	best, counts := math.MaxInt, []int(nil)
	for _, s := range all {
		for n := s.low; n <= s.high; n++ {
			from := at(s, n)
			off, try := 0, []int{}
			for _, x := range all {
				near, found := 0, false
				for k := x.low; k <= x.high; k++ {
					if t := at(x, k); t >= from && t <= from+waitMost && (!found || abs(k-x.e.Reps) < abs(near-x.e.Reps)) {
						near, found = k, true
					}
				}
				if !found {
					off = math.MaxInt
					break
				}
				off += abs(near - x.e.Reps)
				try = append(try, near)
			}
			if off < best {
				best, counts = off, try
			}
		}
	}
	for i, n := range counts {
		e := all[i].e
		e.Reps = n
		entries[all[i].id] = e
	}
	return len(all) == 0 || counts != nil
}

func abs(n int) int { return max(n, -n) }

// waitMost is how far apart the lanes' sets of a slot may end by repetitions, longSide
// how long a side of a set may be before it is questioned, and longUnit the same for
// chains, complexes and get-ups (house).
const (
	waitMost = 30 * measure.Second
	longSide = 90 * measure.Second
	longUnit = 180 * measure.Second
)

// state is a choice for every place, -1 for none, with the document it makes.
type state struct {
	places []place
	choice []int
	doc    Document
	cost   float64
}

// search takes the cheapest option of every place and then the best single change
// again and again: other waves, another pattern, one leg for two, one place or two dropped.
func (c *composer) search(places []place) state {
	s := state{places: places, choice: make([]int, len(places)), cost: math.Inf(1)}
	for i, pl := range places {
		for n, x := range pl.options {
			if x.cost < pl.options[s.choice[i]].cost {
				s.choice[i] = n
			}
		}
	}
	s = c.assemble(places, s.choice)
	if math.IsInf(s.cost, 1) {
		s = c.fewest(places, s)
	}
	for improved := true; improved; {
		improved = false
		best := s
		for i, pl := range places {
			for n := -1; n < len(pl.options); n++ {
				if n == s.choice[i] {
					continue
				}
				try := slices.Clone(s.choice)
				try[i] = n
				if x := c.assemble(places, try); x.cost < best.cost-1e-9 {
					best, improved = x, true
				}
			}
			for k := range i {
				try := slices.Clone(s.choice)
				try[i], try[k] = -1, -1
				if x := c.assemble(places, try); x.cost < best.cost-1e-9 {
					best, improved = x, true
				}
			}
		}
		s = best
	}
	return s
}

// least is the cost of a place's cheapest option.
func (p place) least() float64 {
	least := math.Inf(1)
	for _, x := range p.options {
		least = min(least, x.cost)
	}
	return least
}

// fewest drops places, what costs least first, until the rest fits.
func (c *composer) fewest(places []place, s state) state {
	order := make([]int, len(places))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		return int(dropCost[places[a].patterns[0]] - dropCost[places[b].patterns[0]])
	})
	pick := slices.Clone(s.choice)
	for _, i := range order[:len(order)-1] {
		pick[i] = -1
		if x := c.assemble(places, pick); !math.IsInf(x.cost, 1) {
			return x
		}
	}
	return s
}

// assemble builds the document for a choice and fills the minutes; its cost is infinite
// where it does not fit, or would teach a lane more than it takes in.
func (c *composer) assemble(places []place, pick []int) state {
	s := state{places: places, choice: slices.Clone(pick), cost: math.Inf(1)}
	d := Document{V: DocumentVersion, Format: c.Format, LeadInMs: leadIn, WorkMs: c.work, RestMs: 20 * measure.Second,
		Rounds: 1, RoundRestMs: measure.Minute, Bans: append([]string{}, c.Bans...), Known: c.Known, Overruled: c.Overruled, Slots: []Slot{}}
	cost := 0.0
	for i, pl := range places {
		if pick[i] < 0 {
			if !pl.extra {
				cost += dropCost[pl.patterns[0]]*max(1, float64(c.Minutes)/shortMinutes) + pl.least() // nothing is dropped for its misfit
			}
			continue
		}
		x := pl.options[pick[i]]
		cost += x.cost
		d.Slots = append(d.Slots, Slot{Pattern: x.pattern, Waves: x.waves, Lanes: x.entries, New: c.taught(x.entries)})
	}
	cost += fewCost * float64(max(0, fewSlots-len(d.Slots)))
	if len(d.Slots) == 0 || c.overTaught(d) {
		return s
	}
	d.Slots = c.ordered(d.Slots)
	for i := range d.Slots {
		d.Slots[i].ID = slotID(i + 1)
	}
	d, time, ok := fill(d, c.Context, c.mostRounds(d), c.works, usualRests)
	if !ok {
		return s
	}
	s.doc, s.cost = d.settled(), cost+time+c.unevenness(d)
	return s
}

// settled puts sides that a single round cannot take in turn back into one interval.
func (d Document) settled() Document {
	if d.Rounds > 1 {
		return d
	}
	d = d.clone()
	for _, s := range d.Slots {
		for l, e := range s.Lanes {
			if e.Sides == ByRound {
				e.Sides = Split
				s.Lanes[l] = e
			}
		}
	}
	return d
}

// taught tells whether some lane must be taught its move.
func (c *composer) taught(entries map[moves.Lane]Entry) bool {
	for _, l := range c.lanes {
		if v, ok := c.Library.Get(entries[l.Lane].Variant); ok && c.judges[l.Lane].Taught(v) {
			return true
		}
	}
	return false
}

// MostTaught is how many moves a lane is taught in a class: three, two under a quarter
// of an hour, one more for each 20 minutes over 45 (house).
func MostTaught(minutes int) int {
	switch {
	case minutes < 15:
		return 2
	case minutes <= 45:
		return 3
	}
	return 3 + (minutes-45)/20
}

// overTaught tells whether some lane would have to be taught more moves than it takes
// in. A squat and a hinge come first in a first class.
func (c *composer) overTaught(d Document) bool {
	for _, l := range c.lanes {
		n := map[string]bool{}
		for _, s := range d.Slots {
			if v, ok := c.Library.Get(s.Lanes[l.Lane].Variant); ok && c.judges[l.Lane].Taught(v) {
				n[v.ID] = true
			}
		}
		if len(n) > MostTaught(c.Minutes) {
			return true
		}
	}
	return false
}

// unevenness is what one-sided circuits cost: what is flagged as uneven, leg moves or
// weak links twice running.
func (c *composer) unevenness(d Document) float64 {
	cost := 0.0
	for _, b := range balance(d, c.Context) {
		if b.Uneven {
			cost += unevenCost
		}
	}
	for i := 1; i < len(d.Slots); i++ {
		if isLeg(d.Slots[i].Pattern) && isLeg(d.Slots[i-1].Pattern) {
			cost += linkCost
		}
		if sharedLink(d.Slots[i-1], d.Slots[i], c.Context) != "" {
			cost += linkCost
		}
	}
	return cost
}

// orders are ways to lay the places out, lower and upper body in turn (house): each
// begins with another leg pattern.
var orders = [][]moves.Pattern{
	{moves.Squat, moves.Pull, moves.Bridge, moves.PushLevel, moves.Lunge, moves.TrunkTurn, moves.Hinge},
	{moves.Hinge, moves.PushLevel, moves.Lunge, moves.Pull, moves.Bridge, moves.TrunkTurn, moves.Squat},
	{moves.Lunge, moves.Pull, moves.Bridge, moves.TrunkTurn, moves.Squat, moves.PushLevel, moves.Hinge},
	{moves.Bridge, moves.PushLevel, moves.Squat, moves.Pull, moves.Lunge, moves.TrunkTurn, moves.Hinge},
}

// ordered lays slots out in the order that has the fewest weak links and leg moves
// running; of equals the one whose beginning was longest not used.
func (c *composer) ordered(slots []Slot) []Slot {
	var best []Slot
	bestFlags, bestAgo := math.MaxInt, 0
	for _, order := range orders {
		try := arrange(slots, order)
		flags := 0
		for i := 1; i < len(try); i++ {
			if isLeg(try[i].Pattern) && isLeg(try[i-1].Pattern) {
				flags++
			}
			if sharedLink(try[i-1], try[i], c.Context) != "" {
				flags++
			}
		}
		ago := len(c.Past.Last) + 1
		for i, used := range c.Past.Last {
			if v, ok := c.Library.Get(first(used)); ok && v.Pattern == try[0].Pattern {
				ago = min(ago, i+1)
			}
		}
		if flags < bestFlags || flags == bestFlags && ago > bestAgo {
			best, bestFlags, bestAgo = try, flags, ago
		}
	}
	return best
}

func first(used []progress.Used) string {
	if len(used) == 0 {
		return ""
	}
	return used[0].Move
}

// arrange takes slots in the order of the places they stand in for; what comes twice
// follows in a second round of the order.
func arrange(slots []Slot, order []moves.Pattern) []Slot {
	left := slices.Clone(slots)
	var out []Slot
	for len(left) > 0 {
		before := len(left)
		for _, p := range order {
			if i := slices.IndexFunc(left, func(s Slot) bool { return slices.Contains(standIns(p), s.Pattern) }); i >= 0 {
				out = append(out, left[i])
				left = slices.Delete(left, i, i+1)
			}
		}
		if len(left) == before {
			return append(out, left...)
		}
	}
	return out
}

// mostRounds is how many sets of a move the class takes: 3 for Ground and in a move's
// first two classes, 4 for Middle, 6 for Reach; the lowest lane counts, since rounds are
// shared (house).
func (c *composer) mostRounds(d Document) int {
	most := mostSets[moves.Reach]
	for _, l := range c.lanes {
		most = min(most, mostSets[l.Lane])
		for _, s := range d.Slots {
			if v, ok := c.Library.Get(s.Lanes[l.Lane].Variant); ok && c.judges[l.Lane].Fresh(v) {
				most = min(most, mostFreshSets)
			}
		}
	}
	return most
}

var mostSets = map[moves.Lane]int{moves.Ground: 3, moves.Middle: 4, moves.Reach: 6}

const mostFreshSets = 3

// lengthen uses the minutes that are left once the rounds are at their most: places of
// other moves, then longer rests.
func (c *composer) lengthen(s state) state {
	left := func(s state) measure.Span {
		return measure.Span(c.Minutes)*measure.Minute - length(s.doc, c.Context)
	}
	used := map[string]bool{}
	note := func(d Document) {
		for _, id := range Moves(d) {
			used[id] = true
		}
	}
	note(s.doc)
	for _, patterns := range more {
		if left(s) < worthAdding || s.doc.Rounds < c.mostRounds(s.doc) || len(s.doc.Slots) >= MaxSlots {
			break
		}
		other := *c
		for id := range used {
			other.Bans = append(slices.Clone(other.Bans), id)
		}
		fresh := other.Brief.composer(c.work)
		pl := fresh.place(patterns, false)
		pl.extra = true
		places, best := append(slices.Clone(s.places), pl), s
		for n, option := range pl.options {
			if option.cost > worthDoing*float64(len(c.lanes)) {
				continue
			}
			x := c.assemble(places, append(slices.Clone(s.choice), n))
			if !math.IsInf(x.cost, 1) && x.doc.Rounds >= s.doc.Rounds && left(x) < left(best) {
				best = x
				break // options stand by pattern and waves: the first that fits will do
			}
		}
		s = best
		note(s.doc)
	}
	if left(s) >= worthAdding {
		if d, _, ok := fill(s.doc, c.Context, c.mostRounds(s.doc), []measure.Span{s.doc.WorkMs / measure.Second}, longRests); ok {
			s.doc = d.settled()
		}
	}
	return s
}

// What a class looks like when time is no object (house), and what it costs to
// leave that: per round, per second of work and rest, and for minutes not used.
var (
	tryWork      = []measure.Span{30, 35, 40, 45}
	usualRests   = []measure.Span{10, 15, 20, 25, 30}
	longRests    = []measure.Span{30, 40, 60, 75, 90, 120}
	tryRoundRest = []measure.Span{30, 60, 90, 120, 180}
)

func fillCost(minutes, rounds int, work, rest, roundRest, slack measure.Span) float64 {
	away := func(a, b measure.Span) float64 { return math.Abs(float64(a - b)) }
	cost := 0.5*away(work, 40) + 0.3*away(rest, 20) + 0.05*away(roundRest, 60)
	if rounds < 3 {
		cost += 12 * float64(3-rounds)
	}
	if work < 40 {
		cost += 2 * float64(40-work) // a set cut short falls under its dose
	}
	if rounds == 1 {
		cost += 40 * max(1, float64(minutes)/shortMinutes)
	}
	return cost + 0.04*float64(slack)/1000
}

// fill chooses rounds, work and rest for a document so that it fits the minutes
// and comes nearest to the house's habits; ok is false when nothing fits.
func fill(d Document, c Context, mostRounds int, works, rests []measure.Span) (Document, float64, bool) {
	f := frameOf(d, c)
	if d.Format == Reps {
		works = []measure.Span{40}
	}
	best, bestCost, found := d, math.Inf(1), false
	class := measure.Span(c.Minutes) * measure.Minute
	for _, rest := range rests {
		fixed, changes := f.handOvers+f.sets, f.rests(rest*measure.Second)
		for _, work := range works {
			round := fixed + changes + measure.Span(f.intervals)*work*measure.Second
			for rounds := 1; rounds <= mostRounds; rounds++ {
				for _, pause := range tryRoundRest {
					r := measure.Span(rounds)
					slack := class - f.fixed - r*round - (r-1)*pause*measure.Second
					if slack < 0 {
						break
					}
					if cost := fillCost(c.Minutes, rounds, work, rest, pause, slack); cost < bestCost {
						best.Rounds, best.WorkMs, best.RestMs, best.RoundRestMs = rounds, work*measure.Second, rest*measure.Second, pause*measure.Second
						bestCost, found = cost, true
					}
				}
			}
		}
	}
	return best, bestCost, found
}

// relax names each single thing that would make a class possible: more minutes,
// or fewer people to teach at once.
func (c *composer) relax(places []place) []why.Why {
	var out []why.Why
	longer := *c
	pick := make([]int, len(places))
	for longer.Minutes = c.Minutes + 1; longer.Minutes <= 240; longer.Minutes++ {
		if s := longer.fewest(places, longer.assemble(places, pick)); !math.IsInf(s.cost, 1) {
			return append(out, why.Of(why.RelaxMinutes, why.Arithmetic, why.N("minutes", longer.Minutes)))
		}
	}
	return out
}

// packOnce has every container packed once: where lanes or slots would have it packed
// as several loads, the single load is taken that makes the whole cheapest.
func (b Brief) packOnce(p Proposal) Proposal {
	var done []string
	for range len(b.Stock.Containers) {
		container, loads := b.repacked(p.Document, done)
		if container == "" {
			return p
		}
		done = append(done, container)
		best, bestCost := Proposal{}, math.Inf(1)
		var packed measure.Mass
		for _, o := range append(b.packings(p.Document, container, loads), kit.Option{}) {
			try := b
			try.Stock = b.Stock.PackedOnce(container, o)
			x, ok := try.composer(p.Document.WorkMs).propose()
			if !ok {
				continue
			}
			if cost := try.cost(x.Document); cost < bestCost {
				best, bestCost, packed = x, cost, o.Total
			}
		}
		if math.IsInf(bestCost, 1) {
			return p
		}
		best.Notes = append(best.Notes, p.packNotes()...)
		if b.packedAs(best.Document, container).Total > 0 {
			best.Notes = append(best.Notes, why.Of(why.NotePackedOnce, why.House, why.ID("item", container), why.G("load", float64(packed))))
		}
		p = best
		b.Stock = b.Stock.PackedOnce(container, b.packedAs(p.Document, container))
	}
	return p
}

// A container is tried as at most so many loads, of the same things no two nearer than
// that to each other (house).
const (
	mostPackings = 8
	apartPacking = 250
)

// packings are the loads that a container may be packed as for a whole session: those
// that a document uses, then for each slot and lane the one that would be best there, of
// everything and of what nobody has in hand.
func (b Brief) packings(d Document, container string, used []kit.Option) []kit.Option {
	out := slices.Clone(used)
	inHand := map[string]bool{}
	for _, s := range d.Slots {
		for _, e := range s.Lanes {
			for _, u := range e.Load.Uses() {
				inHand[u.ID] = inHand[u.ID] || e.Load.Container == ""
			}
		}
	}
	rest := b
	rest.Stock = b.Stock.WithoutObjects(inHand)
	for _, c := range []*composer{rest.composer(d.WorkMs), b.composer(d.WorkMs)} {
		for _, s := range d.Slots {
			for _, l := range c.lanes {
				cands := c.candidates(s.Pattern, l)
				i := slices.IndexFunc(cands, func(x candidate) bool { return x.entry.Load.Kind == kit.Made && x.entry.Load.Container == container })
				if i >= 0 && len(out) < max(mostPackings, len(used)) && !slices.ContainsFunc(out, cands[i].likePacked) {
					out = append(out, cands[i].entry.Option)
				}
			}
		}
	}
	return out
}

// likePacked tells whether a load is nearly the candidate's, of the same things.
func (x candidate) likePacked(o kit.Option) bool {
	things := func(l kit.Load) (ids []string) {
		for _, p := range l.Parts {
			ids = append(ids, p.ID)
		}
		slices.Sort(ids)
		return ids
	}
	near := max(x.entry.Total-o.Total, o.Total-x.entry.Total) < apartPacking
	return near && slices.Equal(things(x.entry.Load), things(o.Load))
}

func (p Proposal) packNotes() []why.Why {
	return slices.DeleteFunc(slices.Clone(p.Notes), func(w why.Why) bool { return w.Code != why.NotePackedOnce })
}

// packedAs gives the load that a document packs a container as; the zero option for
// none.
func (b Brief) packedAs(d Document, container string) kit.Option {
	for _, s := range d.Slots {
		for _, l := range moves.Lanes {
			if e := s.Lanes[l]; e.Load.Kind == kit.Made && e.Load.Container == container {
				total, _ := b.Stock.Mass(e.Load)
				return kit.Option{Load: e.Load, Total: total}
			}
		}
	}
	return kit.Option{}
}

// repacked finds a container that a document packs as several loads, or whose contents
// are in another one or in somebody's hands too, and its loads; empty for none but
// those that are done.
func (b Brief) repacked(d Document, done []string) (container string, loads []kit.Option) {
	by := map[string][]kit.Option{}
	needs, loose := map[string]int{}, map[string]int{}
	for _, s := range d.Slots {
		inHand := map[string]int{}
		for _, l := range b.Lanes {
			load := s.Lanes[l.Lane].Load
			if l.People == 0 || load.Kind == kit.None || load.Kind == kit.Implements {
				continue
			}
			if load.Container == "" {
				for _, u := range load.Uses() {
					inHand[u.ID] += u.Count * room.PerWave(l.People, s.Waves)
				}
				continue
			}
			total, _ := b.Stock.Mass(load)
			if !slices.ContainsFunc(by[load.Container], func(o kit.Option) bool { return o.Load.Equal(load) }) {
				by[load.Container] = append(by[load.Container], kit.Option{Load: load, Total: total})
				for _, u := range load.Uses() {
					needs[u.ID] += u.Count
				}
			}
		}
		for id, n := range inHand {
			loose[id] = max(loose[id], n)
		}
	}
	for _, c := range b.Stock.Containers {
		shared := slices.ContainsFunc(by[c.ID], func(o kit.Option) bool {
			return slices.ContainsFunc(o.Load.Uses(), func(u kit.Use) bool { return needs[u.ID]+loose[u.ID] > b.Stock.Pieces(u.ID) })
		})
		if !slices.Contains(done, c.ID) && (len(by[c.ID]) > 1 || shared) {
			return c.ID, by[c.ID]
		}
	}
	return "", nil
}

// cost is what a document costs by its entries: what a choice between whole proposals
// goes by.
func (b Brief) cost(d Document) float64 {
	sum := 0.0
	class := b.class()
	if d.Format == Timed {
		class.Work = d.WorkMs
	}
	for _, l := range b.Lanes {
		if l.People == 0 {
			continue
		}
		j := choice.For(class, l.party())
		for _, s := range d.Slots {
			if x, ok := b.choiceOf(s.Lanes[l.Lane]); ok {
				sum += choice.Total(j.Cost(x))
			}
		}
	}
	for _, patterns := range template {
		if !slices.ContainsFunc(d.Slots, func(s Slot) bool { return slices.Contains(patterns, s.Pattern) }) {
			sum += dropCost[patterns[0]]
		}
	}
	return sum
}

// unused says of every weight that no slot uses why that is: too few for a lane, too
// heavy or too light for what its people do here, or that others come nearer.
func (b Brief) unused(d Document) []why.Why {
	var out []why.Why
	c := b.composer(d.WorkMs)
	for _, i := range b.Stock.Implements {
		if i.Mass == 0 || slices.ContainsFunc(d.Slots, func(s Slot) bool {
			return slices.ContainsFunc(moves.Lanes, func(l moves.Lane) bool {
				e, ok := s.Lanes[l]
				return ok && e.Load.Item == i.ID
			})
		}) {
			continue
		}
		out = append(out, why.Of(why.NoteNotUsed, why.Arithmetic, why.ID("item", i.ID), why.ID("reason", c.whyUnused(i)), why.N("pieces", i.Pieces())))
	}
	return out
}

// Reasons why a weight is not used.
const (
	tooFew   = "too-few"
	tooHeavy = "too-heavy"
	noMove   = "no-move"
	nearer   = "nearer"
)

func (c *composer) whyUnused(i kit.Implement) string {
	reason := noMove
	for _, l := range c.lanes {
		j := c.judges[l.Lane]
		for _, patterns := range template {
			for _, p := range patterns {
				for _, v := range c.Library.OfPattern(p) {
					for _, id := range v.Holds {
						h, _ := moves.HoldOf(id)
						load := kit.Load{Kind: kit.Implements, Item: i.ID, Count: h.Count}
						if h.Count == 0 || !c.Stock.Holds(v, h, load) || i.Pieces() < h.Count {
							continue
						}
						e := choice.Entry{Variant: v, Hold: id, Option: kit.Option{Load: load, Total: i.Mass * measure.Mass(h.Count)}}
						faults := j.Faults(e)
						switch {
						case slices.ContainsFunc(faults, func(w why.Why) bool { return w.Code == why.FaultOver || w.Code == why.FaultCeiling }) && reason == noMove:
							reason = tooHeavy
						case slices.ContainsFunc(faults, func(w why.Why) bool { return w.Code != why.FaultNoSupport }):
						case i.Pieces() < h.Count*l.People:
							if reason != nearer {
								reason = tooFew
							}
						default:
							reason = nearer
						}
					}
				}
			}
		}
	}
	return reason
}
