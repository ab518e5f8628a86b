package circuit

import (
	"fmt"
	"math"
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/why"
)

// Brief is what a proposal is asked for.
type Brief struct {
	Context
	Format Format
	// Bans are patterns, variants and limits to leave out.
	Bans []string
	// Known are moves and patterns that the group knows, whatever the log says.
	Known []string
	// Overruled is what the log says that the instructor sets aside.
	Overruled []Overruled
}

// Proposal is a circuit that fits, or what to relax so that one does.
type Proposal struct {
	Feasible bool
	Document Document
	// Notes say what had to be left out or replaced, and what of the kit is not used.
	Notes []why.Why
	// Relax names, when nothing fits, each single thing that would help.
	Relax []why.Why
}

// DefaultBody and DefaultStature are whom a lane without named people is computed
// for.
const (
	DefaultBody    measure.Mass   = 70_000
	DefaultStature measure.Length = 1700
)

func slotID(n int) string { return fmt.Sprintf("s%d", n) }

// template are the places of a circuit; each lists the patterns that may stand there.
// A longer class gets the places of more besides.
var (
	template = [][]moves.Pattern{
		{moves.Squat},
		{moves.Pull},
		{moves.Bridge},
		{moves.PushLevel, moves.PushOverhead},
		{moves.Lunge, moves.Lateral},
		{moves.TrunkTurn, moves.TrunkBrace, moves.Carry},
		{moves.Hinge},
	}
	more = [][]moves.Pattern{
		{moves.Lateral, moves.Lunge},
		{moves.PushOverhead, moves.PushLevel},
		{moves.TrunkBrace, moves.Carry, moves.TrunkTurn},
		{moves.Bridge, moves.Hinge},
		{moves.Pull},
		{moves.Squat, moves.Lunge},
		{moves.Carry, moves.TrunkBrace, moves.TrunkTurn},
	}
)

// dropCost is what it costs to leave a place of the template out of a short class
// (house): trunk first, then bridge and lunge, squat and hinge last; more by the length of
// a class that is longer than shortMinutes.
var dropCost = map[moves.Pattern]float64{moves.TrunkTurn: 10, moves.Bridge: 15, moves.Lunge: 16, moves.PushLevel: 21, moves.Pull: 22, moves.Hinge: 24, moves.Squat: 26}

const shortMinutes = 20.0

// What a circuit costs beside its entries (house).
const (
	leadIn      = 10 * measure.Second
	usualWork   = 40 * measure.Second
	bestPerLane = 10 // candidates of a lane that are combined
	perVariant  = 2  // of them of one variant
	mostWaves   = 3
	// waitCost is what it costs each lane to let half of a class wait its turn.
	waitCost = 60.0
	// fewSlots is the fewest places that make a circuit, fewCost what each one under
	// costs.
	fewSlots = 4
	fewCost  = 30.0
	// asGoodAs is how near the best an entry must be to take its turn; turnCost is what
	// it costs for each class that it was used later, never as much as asGoodAs in all.
	asGoodAs = 2.0
	turnCost = asGoodAs / (progress.LastClasses + 1)
	// sameCost keeps lanes from all doing the same; whose turn it is goes before.
	sameCost = 0.1
	// apartCost is for lanes that would wait for each other by repetitions.
	apartCost  = 30.0
	unevenCost = 25.0
	linkCost   = 5.0
	// worthDoing is what another place may cost a lane at most, so that nothing far too
	// light is added to fill minutes.
	worthDoing = 40.0
	// worthAdding is the time left over from which another place is added, endsEarly
	// the time left over that is said.
	worthAdding = 4 * measure.Minute
	endsEarly   = 5 * measure.Minute
)

// rotation is what it costs to take the pattern of a place again after one, two and
// three classes, where another may stand there.
var rotation = []float64{0, 6, 3, 1.5}

// composer makes one proposal: a judge a lane, and the places looked at.
type composer struct {
	Brief
	lanes  []LaneSpec
	judges map[moves.Lane]*choice.Judge
	// work is the interval that loads are reckoned for, works those in seconds that may
	// fill the minutes.
	work  measure.Span
	works []measure.Span
}

func (b Brief) composer(work measure.Span, works ...measure.Span) *composer {
	if len(works) == 0 {
		works = []measure.Span{work / measure.Second}
	}
	c := &composer{Brief: b, judges: map[moves.Lane]*choice.Judge{}, work: work, works: works}
	class := b.class(work)
	for _, l := range b.Lanes {
		if l.People > 0 {
			c.lanes = append(c.lanes, l)
			c.judges[l.Lane] = choice.For(class, l.party())
		}
	}
	return c
}

// class is what the brief's entries are judged against for an interval.
func (b Brief) class(work measure.Span) choice.Class {
	return b.Context.class(Document{Format: b.Format, WorkMs: work, Bans: b.Bans, Known: b.Known, Overruled: b.Overruled}, nil)
}

// Propose makes a circuit from places, for each the best combination of the lanes'
// entries that the kit covers, and the rounds, work and rest that fit the minutes. The
// same brief gives the same answer. The work is bounded by the places x 3 wave counts x
// 10 candidates to the power of lanes.
func Propose(b Brief) Proposal {
	b.Stock = b.Stock.Kept()
	p, ok := b.composer(usualWork, tryWork...).propose()
	if ok && b.Format == Timed && p.Document.WorkMs != usualWork {
		// Loads are for the count that fits the interval: once more, for that interval.
		if again, ok := b.composer(p.Document.WorkMs).propose(); ok {
			p = again
		}
	}
	if !ok {
		return p
	}
	p = b.packOnce(p)
	p.Notes = append(p.Notes, b.unused(p.Document)...)
	return p
}

// propose makes a proposal for an interval; ok is false where nothing fits.
func (c *composer) propose() (Proposal, bool) {
	p := Proposal{}
	var places []place
	for _, patterns := range template {
		pl := c.place(patterns, true)
		if len(pl.options) == 0 {
			p.Notes = append(p.Notes, why.Of(why.NoteLeftOut, why.Typed, why.ID("pattern", string(patterns[0]))))
			continue
		}
		places = append(places, pl)
	}
	if len(places) == 0 {
		p.Relax = []why.Why{why.Of(why.RelaxBans, why.Typed)}
		return p, false
	}
	s := c.search(places)
	if math.IsInf(s.cost, 1) {
		p.Notes, p.Relax = nil, c.relax(places)
		return p, false
	}
	s = c.lengthen(s)
	p.Feasible, p.Document = true, s.doc
	p.Notes = append(p.Notes, c.notes(s)...)
	return p, true
}

// notes say what of the template is not in the circuit and why, and what is left of
// the minutes.
func (c *composer) notes(s state) []why.Why {
	var out []why.Why
	for i, pl := range s.places {
		if pl.extra {
			continue
		}
		id := why.ID("pattern", string(pl.patterns[0]))
		switch n := s.choice[i]; {
		case n < 0 && startingIn(c.judges, pl.patterns):
			out = append(out, why.Of(why.NoteLater, why.House, id))
		case n < 0:
			out = append(out, why.Of(why.NoteDropped, why.House, id))
		case pl.options[n].pattern != pl.patterns[0] && slices.Contains(c.Bans, string(pl.patterns[0])):
			out = append(out, why.Of(why.NoteReplaced, why.Typed, id, why.ID("by", string(pl.options[n].pattern))))
		}
	}
	if left := measure.Span(c.Minutes)*measure.Minute - length(s.doc, c.Context); left > endsEarly {
		out = append(out, why.Of(why.NoteEndsEarly, why.House, why.Ms("left", int64(left)), why.N("rounds", s.doc.Rounds), why.N("most", c.mostRounds(s.doc))))
	}
	return out
}

// startingIn tells whether some lane is in its first sessions of some of the patterns, so
// that a class leaves them for the next.
func startingIn(judges map[moves.Lane]*choice.Judge, patterns []moves.Pattern) bool {
	for _, j := range judges {
		for _, p := range patterns {
			if all := j.Library.OfPattern(p); len(all) > 0 && j.Starting(all[0]) {
				return true
			}
		}
	}
	return false
}

// place is one slot to be: its patterns and what could stand there.
type place struct {
	patterns []moves.Pattern
	options  []combination
	// extra is a place that only a longer class has.
	extra bool
}

// combination is one way to fill a place: every lane's entry in so many waves.
type combination struct {
	pattern moves.Pattern
	waves   int
	entries map[moves.Lane]Entry
	cost    float64
}

// place finds for each pattern that is not banned, for each number of waves, and for
// leg patterns also on one leg and on two, the best combination.
func (c *composer) place(patterns []moves.Pattern, rotate bool) place {
	pl := place{patterns: patterns}
	for _, pattern := range patterns {
		cands, ok := c.laneCandidates(pattern)
		if !ok {
			continue
		}
		turn := 0.0
		if rotate && len(patterns) > 1 {
			turn = rotation[min(c.patternAgo(pattern), len(rotation)-1)]
		}
		for _, only := range c.legs(pattern, cands) {
			for waves := 1; waves <= mostWaves; waves++ {
				if x, ok := c.combine(only, waves); ok {
					x.pattern = pattern
					x.cost += turn
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
// there for every lane, those on one leg and those on two.
func (c *composer) legs(p moves.Pattern, cands [][]candidate) [][][]candidate {
	out := [][][]candidate{cands}
	if p != moves.Hinge && p != moves.Bridge && p != moves.Squat {
		return out
	}
	for _, one := range []bool{true, false} {
		var only [][]candidate
		for _, lane := range cands {
			kept := slices.DeleteFunc(slices.Clone(lane), func(x candidate) bool { return x.entry.Variant.OnOneLeg() != one })
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

// candidate is an entry that a lane may be given, with the ways its supports may be
// chosen.
type candidate struct {
	entry choice.Entry
	made  Entry
	ways  [][]string
	cost  float64
}

// candidates lists what a lane may do for a pattern, the best first. Of those as good as
// the best the one longest not used comes first.
func (c *composer) candidates(pattern moves.Pattern, l LaneSpec) []candidate {
	j := c.judges[l.Lane]
	var out []candidate
	for _, v := range c.Library.OfPattern(pattern) {
		byLoad := len(out)
		for _, e := range j.Entries(v) {
			i := slices.IndexFunc(out[byLoad:], func(x candidate) bool { return x.entry.Hold == e.Hold && x.entry.Load.Equal(e.Load) })
			cost := choice.Total(j.Cost(e))
			if i < 0 {
				out = append(out, candidate{entry: e, ways: [][]string{e.Supports}, cost: cost})
				continue
			}
			x := &out[byLoad+i]
			if cost < x.cost {
				x.entry, x.cost = e, cost
				x.ways = append([][]string{e.Supports}, x.ways...)
			} else {
				x.ways = append(x.ways, e.Supports)
			}
		}
	}
	sortCandidates(out)
	if len(out) == 0 {
		return nil
	}
	best := out[0].cost
	for i := range out {
		if out[i].cost > best+asGoodAs {
			break
		}
		ago := c.Past.ClassesAgo(l.Lane, func(id string) bool { return id == out[i].entry.Variant.ID })
		if ago == 0 {
			ago = len(c.Past.Last) + 1
		}
		out[i].cost = best + turnCost*float64(len(c.Past.Last)+1-ago) + 1e-4*(out[i].cost-best)
	}
	sortCandidates(out)
	out = shortlist(out)
	for i := range out {
		out[i].made = c.entryFor(j, out[i].entry)
	}
	return out
}

func sortCandidates(cs []candidate) {
	slices.SortStableFunc(cs, func(a, b candidate) int {
		switch {
		case a.cost < b.cost:
			return -1
		case a.cost > b.cost:
			return 1
		}
		return 0
	})
}

// shortlist keeps the best candidates, few of a variant, and always the best that needs
// no kit.
func shortlist(cs []candidate) []candidate {
	var out []candidate
	n := map[*moves.Variant]int{}
	bare := false
	for _, x := range cs {
		needsNone := x.entry.Load.Kind == kit.None && len(x.entry.Variant.Needs) == 0
		if (len(out) >= bestPerLane || n[x.entry.Variant] >= perVariant) && (bare || !needsNone) {
			continue
		}
		n[x.entry.Variant]++
		bare = bare || needsNone
		out = append(out, x)
	}
	return out
}

// laneCandidates lists the candidates of every lane; ok is false when one of them finds
// nothing or the pattern is banned.
func (c *composer) laneCandidates(pattern moves.Pattern) (cands [][]candidate, ok bool) {
	if slices.Contains(c.Bans, string(pattern)) {
		return nil, false
	}
	for _, l := range c.lanes {
		x := c.candidates(pattern, l)
		if len(x) == 0 {
			return nil, false
		}
		cands = append(cands, x)
	}
	return cands, len(c.lanes) > 0
}

// combine finds the cheapest combination of the lanes' candidates that the kit
// covers in every wave. Lanes doing the same variant cost a little, so that each
// has its own where the kit allows.
func (c *composer) combine(cands [][]candidate, waves int) (combination, bool) {
	best := combination{waves: waves, cost: math.Inf(1)}
	pick := make([]int, len(c.lanes))
	var walk func(i int, cost float64)
	walk = func(i int, cost float64) {
		if cost >= best.cost {
			return
		}
		if i == len(c.lanes) {
			if entries, apart, ok := c.allocate(cands, pick, waves); ok && cost+apart < best.cost {
				best.cost, best.entries = cost+apart, entries
			}
			return
		}
		for n, x := range cands[i] {
			extra := 0.0
			for k := range i {
				if cands[k][pick[k]].entry.Variant == x.entry.Variant {
					extra += sameCost
				}
			}
			pick[i] = n
			walk(i+1, cost+x.cost+extra)
		}
	}
	walk(0, waitCost*float64((waves-1)*len(c.lanes)))
	return best, !math.IsInf(best.cost, 1)
}
