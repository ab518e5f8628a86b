package plan

import (
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/why"
)

// Breaks lists what participants who do a lane's entry in a slot are to be spared of it, each
// with who, in the order of the parties: those with an entry of their own there do not do it.
func (c Context) Breaks(b circuit.Block, s circuit.Slot, lane moves.Lane, e circuit.Entry, judges Judges) []why.Why {
	var out []why.Why
	x, ok := c.ChoiceOf(e)
	if x.Variant == nil || !ok {
		return out
	}
	bound := judges.Bound(b, s)
	for _, p := range judges.bound {
		if _, own := s.Entries[p.ID()]; own || p.Lane != lane {
			continue
		}
		for _, w := range bound[p.ID()].Spared(x) {
			out = append(out, named(w, p.ID()))
		}
	}
	return out
}

// named is a reason with who it is about.
func named(w why.Why, who people.Party) why.Why {
	w.Terms = append([]why.Term{why.ID("lane", string(who))}, w.Terms...)
	return w
}

// lookBreaks fills in what the cells of lanes break.
func (c Context) lookBreaks(sp *SlotPlan, b circuit.Block, s circuit.Slot, judges Judges) {
	if len(judges.bound) == 0 {
		return
	}
	for i := range sp.Cells {
		if cell := &sp.Cells[i]; cell.Party == people.OfLane(cell.Lane) {
			cell.Breaks = c.Breaks(b, s, cell.Lane, cell.Entry, judges)
		}
	}
}

// Named lists the participants whom the studio knows.
func (c Context) Named() []Party {
	var out []Party
	for _, p := range c.Parties {
		if p.Participant != "" && p.Standing != nil {
			out = append(out, p)
		}
	}
	return out
}

// Bound lists the participants whom something may bind beside their lane: what they are to be
// spared, or pain in their own log.
func (c Context) Bound() []Party {
	var out []Party
	hurt := map[string]bool{}
	for _, l := range slices.Concat(c.Past.Lines, c.Past.Elsewhere) {
		if l.Pain == progress.Joint && l.Who != "" {
			hurt[l.Who] = true
		}
	}
	for _, p := range c.Parties {
		if p.Participant != "" && (p.Judged().Bound() || p.Who != "" && hurt[p.Who]) {
			out = append(out, p)
		}
	}
	return out
}

// screened counts, by joint, the participants whose screens want it made ready.
func (c Context) screened() map[string]int {
	out := map[string]int{}
	for _, p := range c.Parties {
		if p.Participant == "" || p.Standing == nil {
			continue
		}
		var had []string
		for _, j := range p.Standing.Prep {
			if !slices.Contains(had, j) {
				had = append(had, j)
				out[j]++
			}
		}
	}
	return out
}

// sparedNeeds says who is not in the class until cleared, and in how many places somebody does
// what they are to be spared.
func (c Context) sparedNeeds(p Plan) []why.Why {
	var out []why.Why
	for _, who := range c.Out {
		out = append(out, named(why.Of(why.NeedClearance, why.House), who))
	}
	for _, who := range c.Bound() {
		places := map[string]bool{}
		for _, f := range p.Flags {
			if about(f.Why, who.ID()) {
				places[f.Slot] = true
			}
		}
		if len(places) > 0 {
			out = append(out, named(why.Of(why.NeedSpared, why.House, why.N("places", len(places))), who.ID()))
		}
	}
	return out
}

// about tells whether a reason says that somebody does what they are to be spared.
func about(w why.Why, who people.Party) bool {
	return ofSpared(w) &&
		slices.ContainsFunc(w.Terms, func(t why.Term) bool { return t.Name == "lane" && t.Text == string(who) })
}

func ofSpared(w why.Why) bool {
	return w.Code == why.FaultSpared || w.Code == why.FaultHeldAtGround || w.Code == why.FaultHurt
}
