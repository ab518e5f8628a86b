package compose

import (
	"cmp"
	"math"
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
)

// place is one slot to be: its patterns and what could stand there.
type place struct {
	patterns []moves.Pattern
	options  []combination
	// extra is a place that only a longer class has.
	extra bool
	// pinned is the place of a slot that stays.
	pinned bool
}

// combination is one way to fill a place: every party's entry in so many waves.
type combination struct {
	pattern moves.Pattern
	waves   int
	entries map[people.Party]circuit.Entry
	cost    Cost
	total   float64
	// pinned is the slot that stays as it is.
	pinned *circuit.Slot
}

// place finds for each pattern that is not banned, for each number of waves, and for
// leg patterns also on one leg and on two, the best combination.
func (c *composer) place(patterns []moves.Pattern, rotate bool) place {
	pl := place{patterns: patterns}
	for _, pattern := range patterns {
		cands, ok := c.allCandidates(pattern)
		if !ok {
			continue
		}
		turn := 0.0
		if rotate && len(patterns) > 1 {
			turn = c.objective.Rotate[min(c.patternAgo(pattern), len(c.objective.Rotate)-1)]
		}
		for _, only := range c.legs(pattern, cands) {
			for _, waves := range c.turns() {
				if x, ok := c.combine(only, waves); ok {
					x.waves = c.written(waves)
					x.pattern = pattern
					x.cost[Turns] += turn
					x.total += turn
					pl.options = append(pl.options, x)
				}
			}
		}
	}
	return pl
}

// patternAgo tells how many classes ago a pattern was last in the plan; 0 where it was
// not.
func (c *composer) patternAgo(p moves.Pattern) int {
	return c.Past.ClassesAgo("", func(id string) bool { v, ok := c.Library.Get(id); return ok && v.Pattern == p })
}

// legs gives the candidates of a leg pattern as they are, and where both kinds are
// there for every party, those on one leg and those on two.
func (c *composer) legs(p moves.Pattern, cands [][]candidate) [][][]candidate {
	out := [][][]candidate{cands}
	if p != moves.Hinge && p != moves.Bridge && p != moves.Squat {
		return out
	}
	for _, one := range []bool{true, false} {
		var only [][]candidate
		for _, lane := range cands {
			kept := slices.DeleteFunc(
				slices.Clone(lane),
				func(x candidate) bool { return x.entry.Variant.OnOneLeg() != one },
			)
			if len(kept) == 0 {
				break
			}
			only = append(only, kept)
		}
		if len(only) == len(cands) {
			out = append(out, only)
		}
	}
	return out
}

// candidate is an entry that a party may be given, with the ways its supports may be
// chosen.
type candidate struct {
	entry choice.Entry
	made  circuit.Entry
	ways  [][]string
	// cost is what it comes to, turn the part of it that whose turn it is makes.
	cost, turn float64
}

// entriesOf lists what a party may do of a move, each load once with the ways its supports
// may be chosen.
func entriesOf(v *moves.Variant, j *choice.Judge) []candidate {
	var out []candidate
	for _, e := range j.Entries(v) {
		i := slices.IndexFunc(
			out,
			func(x candidate) bool { return x.entry.Hold == e.Hold && x.entry.Load.Equal(e.Load) },
		)
		cost := choice.Total(j.Cost(e))
		if i < 0 {
			out = append(out, candidate{entry: e, ways: [][]string{e.Supports}, cost: cost})
			continue
		}
		x := &out[i]
		if cost < x.cost {
			x.entry, x.cost = e, cost
			x.ways = append([][]string{e.Supports}, x.ways...)
		} else {
			x.ways = append(x.ways, e.Supports)
		}
	}
	return out
}

// suited are the entries of a move for some parties as the kit covers them in the fewest
// turns; nothing where it does not, or where somebody may not be given it.
func (c *composer) suited(v *moves.Variant, parties []party) map[people.Party]circuit.Entry {
	of := *c
	of.parties = parties
	var cands [][]candidate
	for _, p := range parties {
		x := entriesOf(v, c.judges[p.id])
		sortCandidates(x)
		if len(x) == 0 {
			return nil
		}
		x = x[:min(len(x), bestPerParty)]
		for i := range x {
			x[i].made = plan.EntryFor(c.Format, c.judges[p.id], x[i].entry)
		}
		cands = append(cands, x)
	}
	for _, turns := range c.turns() {
		if x, ok := of.combine(cands, turns); ok {
			return x.entries
		}
	}
	return nil
}

// candidates lists what a party may do for a pattern, the best first. Of those as good as
// the best the one longest not used comes first.
func (c *composer) candidates(pattern moves.Pattern, p party) []candidate {
	j := c.judges[p.id]
	var out []candidate
	for _, v := range c.Library.OfPattern(pattern) {
		if c.Template.Allows(v) {
			out = append(out, entriesOf(v, j)...)
		}
	}
	sortCandidates(out)
	if len(out) == 0 {
		return nil
	}
	best := out[0].cost
	stays := c.stays(out, p)
	for i := range out {
		if out[i].cost > best+c.objective.AsGood {
			break
		}
		if stays != "" { // the others wait, and the same as ever by their costs
			if out[i].entry.Variant.ID != stays {
				out[i].turn = c.objective.AsGood
			}
			out[i].cost = best + out[i].turn + 1e-4*(out[i].cost-best)
			continue
		}
		ago := j.Past.ClassesAgo(p.Lane, func(id string) bool { return id == out[i].entry.Variant.ID })
		if ago == 0 {
			ago = len(c.Past.Last) + 1
		}
		out[i].turn = c.objective.Turn * float64(len(c.Past.Last)+1-ago)
		out[i].cost = best + out[i].turn + 1e-4*(out[i].cost-best)
	}
	sortCandidates(out)
	out = shortlist(out)
	for i := range out {
		out[i].made = plan.EntryFor(c.Format, j, out[i].entry)
	}
	return out
}

// stays is the big move of the class before that a party keeps, where it is as good as the
// best; nothing where it had none.
func (c *composer) stays(sorted []candidate, p party) string {
	j := c.judges[p.id]
	for _, x := range sorted {
		if x.cost > sorted[0].cost+c.objective.AsGood {
			break
		}
		v := x.entry.Variant
		if v.Big() && j.Past.ClassesAgo(p.Lane, func(id string) bool { return id == v.ID }) == 1 {
			return v.ID
		}
	}
	return ""
}

func sortCandidates(cs []candidate) {
	slices.SortStableFunc(cs, func(a, b candidate) int { return cmp.Compare(a.cost, b.cost) })
}

// shortlist keeps the best candidates, few of a variant, and always the best that needs
// no kit.
func shortlist(cs []candidate) []candidate {
	var out []candidate
	n := map[*moves.Variant]int{}
	bare := false
	for _, x := range cs {
		needsNone := x.entry.Load.Kind == kit.None && len(x.entry.Variant.Needs) == 0
		if (len(out) >= bestPerParty || n[x.entry.Variant] >= perVariant) && (bare || !needsNone) {
			continue
		}
		n[x.entry.Variant]++
		bare = bare || needsNone
		out = append(out, x)
	}
	return out
}

// allCandidates lists the candidates of every party; ok is false when one of them finds
// nothing or the pattern is banned.
func (c *composer) allCandidates(pattern moves.Pattern) (cands [][]candidate, ok bool) {
	if slices.Contains(c.Bans, string(pattern)) {
		return nil, false
	}
	for _, p := range c.parties {
		x := c.candidates(pattern, p)
		if len(x) == 0 {
			return nil, false
		}
		cands = append(cands, x)
	}
	return cands, len(c.parties) > 0
}

// combine finds the cheapest combination of the parties' candidates that the kit
// covers in every wave. Lanes doing the same variant cost a little, so that each
// has its own where the kit allows. It ends after mostTried choices with the best found.
func (c *composer) combine(cands [][]candidate, waves int) (combination, bool) {
	best := combination{waves: waves, total: math.Inf(1)}
	pick := make([]int, len(cands))
	wait := c.objective.Wait * float64((c.written(waves)-1)*len(cands))
	// What the parties still to come cost at the least.
	least := make([]float64, len(cands)+1)
	for i := len(cands) - 1; i >= 0; i-- {
		least[i] = least[i+1] + slices.MinFunc(
			cands[i],
			func(a, b candidate) int { return cmp.Compare(a.cost, b.cost) },
		).cost
	}
	a := allocation{composer: c, cands: cands, waves: waves, tally: c.elsewhere.Clone()}
	tried := 0
	var walk func(i int, cost float64)
	walk = func(i int, cost float64) {
		if cost+least[i] >= best.total {
			return
		}
		if i == len(cands) {
			if entries, apart := a.entries(pick); cost+apart < best.total {
				best.total, best.entries = cost+apart, entries
				best.cost = c.costOf(cands, pick)
				best.cost[Apart], best.cost[Waits] = apart, wait
			}
			return
		}
		for n, x := range cands[i] {
			if tried++; tried > mostTried {
				return
			}
			way, ok := a.take(i, x)
			if !ok {
				continue
			}
			pick[i] = n
			walk(i+1, cost+x.cost+c.sameAs(cands, pick, i))
			a.giveBack(i, x, way)
		}
	}
	walk(0, wait)
	return best, !math.IsInf(best.total, 1)
}

// sameAs is what it costs that earlier lanes chose the same as the ith party.
func (c *composer) sameAs(cands [][]candidate, pick []int, i int) float64 {
	cost := 0.0
	for k := range i {
		if c.parties[k].Lane != c.parties[i].Lane &&
			cands[k][pick[k]].entry.Variant == cands[i][pick[i]].entry.Variant {
			cost += c.objective.Same
		}
	}
	return cost
}

// costOf says what the parties' choices cost by themselves and for being the same.
func (c *composer) costOf(cands [][]candidate, pick []int) Cost {
	var cost Cost
	for i := range cands {
		x := cands[i][pick[i]]
		cost[Entries] += x.cost - x.turn
		cost[Turns] += x.turn
		cost[Same] += c.sameAs(cands, pick, i)
	}
	return cost
}
