package compose

import (
	"math"
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/room"
	"nimbleanvil/internal/core/why"
)

// packOnce has every container of a proposal packed once.
func (b Brief) packOnce(p Proposal) Proposal {
	work := p.work
	p.Document, p.Notes = b.packedOnce(p.Document, p.Notes, func(try Brief) (circuit.Document, []why.Why, bool) {
		var x Proposal
		var ok bool
		switch {
		case len(b.Blocks) > 0:
			x, ok = try.inBlocks()
		case b.inStraightSets():
			x, ok = try.composer(work).inSets()
		default:
			x, ok = try.composer(work).propose()
		}
		return x.Document, x.Notes, ok
	})
	return p
}

// packedOnce has every container packed once: where parties or slots would have it packed
// as several loads, the single load is taken with which making the document again comes
// out cheapest, or none. It is said beside the notes of the document that is taken.
func (b Brief) packedOnce(
	d circuit.Document,
	notes []why.Why,
	again func(Brief) (circuit.Document, []why.Why, bool),
) (circuit.Document, []why.Why) {
	var done []string
	var said []why.Why
	for range len(b.Stock.Containers) {
		container, loads := b.repacked(d, done)
		if container == "" {
			break
		}
		done = append(done, container)
		best, bestNotes, bestCost := d, notes, math.Inf(1)
		for _, o := range append(b.packings(d, container, loads), kit.Option{}) {
			try := b
			try.Stock = b.Stock.PackedOnce(container, o)
			x, n, ok := again(try)
			if !ok {
				continue
			}
			if cost := try.cost(x); cost < bestCost {
				best, bestNotes, bestCost = x, n, cost
			}
		}
		if math.IsInf(bestCost, 1) {
			break
		}
		d, notes = best, bestNotes
		packed := b.packedAs(d, container)
		if packed.Total > 0 {
			said = append(said,
				why.Of(why.NotePackedOnce, why.House, why.ID("item", container), why.G("load", float64(packed.Total))))
		}
		b.Stock = b.Stock.PackedOnce(container, packed)
	}
	return d, append(notes, said...)
}

// A container is tried as at most so many loads, of the same things no two nearer than
// that to each other (house).
const (
	mostPackings = 8
	apartPacking = 250
)

// packings are the loads that a container may be packed as for a whole session: those
// that a document uses, then for each slot and party the one that would be best there, of
// everything and of what nobody has in hand.
func (b Brief) packings(d circuit.Document, container string, used []kit.Option) []kit.Option {
	out := slices.Clone(used)
	inHand := map[string]bool{}
	for _, s := range d.Slots() {
		for _, e := range s.Entries {
			for _, u := range e.Load.Uses() {
				inHand[u.ID] = inHand[u.ID] || e.Load.Container == ""
			}
		}
	}
	rest := b
	rest.Stock = b.Stock.WithoutObjects(inHand)
	for _, c := range []*composer{rest.of(d), b.of(d)} {
		for _, s := range d.Slots() {
			for _, p := range c.parties {
				if len(out) >= max(mostPackings, len(used)) {
					return out
				}
				cands := c.candidates(s.Pattern, p)
				i := slices.IndexFunc(
					cands,
					func(x candidate) bool { return x.entry.Load.Kind == kit.Made && x.entry.Load.Container == container },
				)
				if i >= 0 && !slices.ContainsFunc(out, cands[i].likePacked) {
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

// packedAs gives the load that a document packs a container as; the zero option for
// none.
func (b Brief) packedAs(d circuit.Document, container string) kit.Option {
	for _, s := range d.Slots() {
		for _, p := range people.Parties(s.Entries) {
			if e := s.Entries[p]; e.Load.Kind == kit.Made && e.Load.Container == container {
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
func (b Brief) repacked(d circuit.Document, done []string) (container string, loads []kit.Option) {
	by := map[string][]kit.Option{}
	needs, loose := map[string]int{}, map[string]int{}
	for _, s := range d.Slots() {
		inHand := room.Tally{}
		for _, u := range b.Users(s) {
			load := u.Entry.Load
			if load.Kind == kit.None || load.Kind == kit.Implements {
				continue
			}
			if load.Container == "" {
				inHand.Take(u.N, load, nil)
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
		for id, n := range inHand.AtOnce(s.Waves) {
			loose[id] = max(loose[id], n)
		}
	}
	for _, c := range b.Stock.Containers {
		shared := slices.ContainsFunc(by[c.ID], func(o kit.Option) bool {
			return slices.ContainsFunc(
				o.Load.Uses(),
				func(u kit.Use) bool { return needs[u.ID]+loose[u.ID] > b.Stock.Pieces(u.ID) },
			)
		})
		if !slices.Contains(done, c.ID) && (len(by[c.ID]) > 1 || shared) {
			return c.ID, by[c.ID]
		}
	}
	return "", nil
}

// cost is what a document costs by its entries and the places it does without: what a
// choice between whole documents goes by.
func (b Brief) cost(d circuit.Document) float64 {
	sum := 0.0
	c := b.of(d)
	for _, p := range c.parties {
		for _, s := range d.Slots() {
			if x, ok := b.ChoiceOf(s.Entries[p.id]); ok {
				sum += choice.Total(c.judges[p.id].Cost(x))
			}
		}
	}
	for _, patterns := range c.wanted() {
		if !slices.ContainsFunc(d.Slots(), func(s circuit.Slot) bool { return slices.Contains(patterns, s.Pattern) }) {
			sum += c.objective.Drop[patterns[0]]
		}
	}
	return sum
}
