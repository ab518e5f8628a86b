package circuit

import (
	"fmt"
	"math"
	"slices"
	"sort"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/room"
	"nimbleanvil/internal/core/why"
)

// Brief is what a proposal is asked for.
type Brief struct {
	Context
	Format Format
	// Bans are patterns and variants to leave out.
	Bans []string
	// New lists variants the group has not met yet: teaching them takes time.
	New []string
	// known bars the new ones altogether.
	known bool
}

// Proposal is a circuit that fits, or what to relax so that one does.
type Proposal struct {
	Feasible bool
	Document Document
	// Notes say what had to be left out or replaced.
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

// NotMet lists the variants of a library that a group has not met, from those it
// has. A group without a past is taken to know them all: what is new to it is for
// the instructor to say.
func NotMet(lib *moves.Library, met []string) []string {
	if len(met) == 0 {
		return nil
	}
	var out []string
	for _, v := range lib.All() {
		if !slices.Contains(met, v.ID) {
			out = append(out, v.ID)
		}
	}
	return out
}

func slotID(n int) string { return fmt.Sprintf("s%d", n) }

// template is the order in which lower and upper body alternate; each place
// lists its pattern and what stands in for it when that is banned.
var template = [][]moves.Pattern{
	{moves.Squat},
	{moves.Pull},
	{moves.Bridge},
	{moves.PushLevel, moves.PushOverhead},
	{moves.Lunge, moves.Lateral},
	{moves.TrunkTurn, moves.TrunkBrace, moves.Carry},
	{moves.Hinge},
}

// optional are the places that may be given up, the first first.
var optional = []moves.Pattern{moves.TrunkTurn, moves.PushLevel, moves.Pull}

const (
	leadIn      = 10 * measure.Second
	bestPerFit  = 3  // loads looked at for each hold
	bestPerLane = 10 // candidates of a lane that are combined
	maxMiss     = 40.0
	// waitCost is what it costs to let people wait their turn (house).
	waitCost = 12.0
	// newCost is what it costs to teach a move, for the share of the class that the
	// teaching takes (house).
	newCost = 200.0
	// bareCost is what it costs Middle and Reach to go without a load where their
	// mark carries one (house).
	bareCost = 18.0
)

// Propose makes a circuit from a template of patterns, for each place the best
// combination of the lanes' candidates that the kit covers, and the rounds, work
// and rest that fit the minutes. The same brief gives the same answer. The work
// is bounded by 7 places x 3 wave counts x 10 candidates to the power of lanes.
func Propose(b Brief) Proposal {
	p := Proposal{}
	b.Stock = b.Stock.Kept()
	var places []place
	for _, patterns := range template {
		pl, ok := b.place(patterns)
		switch {
		case !ok:
			p.Notes = append(p.Notes, why.Of(why.NoteLeftOut, why.Typed, why.ID("pattern", string(patterns[0]))))
			continue
		case pl.pattern != patterns[0]:
			p.Notes = append(p.Notes, why.Of(why.NoteReplaced, why.Typed, why.ID("pattern", string(patterns[0])), why.ID("by", string(pl.pattern))))
		}
		places = append(places, pl)
	}
	if len(places) == 0 {
		p.Relax = []why.Why{why.Of(why.RelaxBans, why.Typed)}
		return p
	}
	choice := make([]int, len(places))
	doc, cost, ok := b.assemble(places, choice)
	if !ok && len(b.New) > 0 && !b.known {
		b.known = true // no time to teach: what the group knows must do
		if q := Propose(b); q.Feasible {
			return q
		}
	}
	if !ok {
		p.Relax = b.relax(places)
		return p
	}
	// Waves are worth their time only while the whole gets better: take the best
	// single change again and again.
	for improved := true; improved; {
		improved = false
		best := slices.Clone(choice)
		for i := range places {
			for w := range places[i].byWaves {
				try := slices.Clone(choice)
				try[i] = w
				if d, c, ok := b.assemble(places, try); ok && c < cost-1e-9 {
					doc, cost, best, improved = d, c, try, true
				}
			}
		}
		choice = best
	}
	p.Feasible, p.Document = true, doc
	return p
}

// place is one slot to be: for each number of waves the best combination.
type place struct {
	pattern moves.Pattern
	byWaves []combination
}

type combination struct {
	waves   int
	entries map[moves.Lane]Entry
	cost    float64
}

// place picks the first of the patterns that is not banned and for which every
// lane finds something.
func (b Brief) place(patterns []moves.Pattern) (place, bool) {
	for _, pattern := range patterns {
		if slices.Contains(b.Bans, string(pattern)) {
			continue
		}
		pl := place{pattern: pattern}
		lanes, cands, ok := b.laneCandidates(pattern)
		for waves := 1; ok && waves <= 3; waves++ {
			if c, ok := b.combine(lanes, cands, waves); ok {
				pl.byWaves = append(pl.byWaves, c)
			}
		}
		if len(pl.byWaves) > 0 {
			return pl, true
		}
	}
	return place{}, false
}

type candidate struct {
	fit  kit.Fit
	cost float64
}

// candidates lists what a lane could do for a pattern, the best first.
func (b Brief) candidates(pattern moves.Pattern, l LaneSpec) []candidate {
	all := b.Library.OfPattern(pattern)
	loaded := l.Lane != moves.Ground && slices.ContainsFunc(all, func(v *moves.Variant) bool { return v.Start != nil && v.Marks(l.Lane) })
	var out []candidate
	for _, v := range all {
		mark, ok := moves.Mark(v, all, l.Lane)
		fresh := slices.Contains(b.New, v.ID)
		// Nobody meets a move before those that it asks to be known first.
		early := fresh && len(b.Library.FirstSteps(v, func(id string) bool { return !slices.Contains(b.New, id) })) > 0
		if !ok || early || slices.Contains(b.Bans, v.ID) || fresh && b.known {
			continue
		}
		if fresh {
			mark += newCost * float64(teachNew) / float64(measure.Span(b.Minutes)*measure.Minute)
		}
		for _, f := range kit.Fits(b.Stock, v, l.person(), bestPerFit) {
			cost := mark + math.Min(f.Miss(), maxMiss)
			if f.Load.Kind == kit.None && loaded {
				cost += bareCost
			}
			out = append(out, candidate{f, cost})
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].cost < out[j].cost })
	return out
}

// laneCandidates lists the candidates of every lane with people; ok is false
// when one of them finds nothing.
func (b Brief) laneCandidates(pattern moves.Pattern) (lanes []LaneSpec, cands [][]candidate, ok bool) {
	for _, l := range b.Lanes {
		if l.People == 0 {
			continue
		}
		c := b.candidates(pattern, l)
		if len(c) == 0 {
			return nil, nil, false
		}
		lanes = append(lanes, l)
		cands = append(cands, shortlist(c))
	}
	return lanes, cands, len(lanes) > 0
}

// combine finds the cheapest combination of the lanes' candidates that the kit
// covers in every wave. Lanes doing the same variant cost a little, so that each
// has its own where the kit allows.
func (b Brief) combine(lanes []LaneSpec, cands [][]candidate, waves int) (combination, bool) {
	best := combination{waves: waves, cost: math.Inf(1)}
	pick := make([]int, len(lanes))
	var walk func(i int, cost float64)
	walk = func(i int, cost float64) {
		if cost >= best.cost {
			return
		}
		if i == len(lanes) {
			if entries, ok := b.allocate(lanes, cands, pick, waves); ok {
				best.cost, best.entries = cost, entries
			}
			return
		}
		for n, c := range cands[i] {
			extra := 0.0
			for j := range i {
				if cands[j][pick[j]].fit.Variant == c.fit.Variant {
					extra += 4
				}
			}
			pick[i] = n
			walk(i+1, cost+c.cost+extra)
		}
	}
	walk(0, 0)
	return best, !math.IsInf(best.cost, 1)
}

// shortlist keeps the best candidates and always the best that needs no kit.
func shortlist(c []candidate) []candidate {
	if len(c) <= bestPerLane {
		return c
	}
	out := slices.Clone(c[:bestPerLane])
	for _, x := range c[bestPerLane:] {
		if x.fit.Load.Kind == kit.None && len(x.fit.Variant.Needs) == 0 {
			return append(out, x)
		}
	}
	return out
}

// allocate checks a combination against the kit and gives the entries.
func (b Brief) allocate(lanes []LaneSpec, cands [][]candidate, pick []int, waves int) (map[moves.Lane]Entry, bool) {
	tally := room.Tally{}
	entries := map[moves.Lane]Entry{}
	for i, l := range lanes {
		f := cands[i][pick[i]].fit
		users := room.PerWave(l.People, waves)
		anchors := []string{}
		for _, need := range f.Variant.Needs {
			id, ok := b.Stock.Anchor(f.Variant, need, users, func(id string) int { return b.Stock.Pieces(id) - tally[id] })
			if !ok {
				return nil, false
			}
			anchors = append(anchors, id)
		}
		tally.Take(users, f.Load, anchors)
		entries[l.Lane] = entryFor(f, b.Format, anchors)
	}
	return entries, len(tally.Shorts(b.Stock)) == 0
}

// entryFor turns a fit into an entry. A load that is too light is mended by more
// repetitions and then by slower lowering; where the clock counts, by slower lowering
// when both sides work at once.
func entryFor(f kit.Fit, format Format, anchors []string) Entry {
	v := f.Variant
	e := Entry{Variant: v.ID, Hold: f.Hold, Load: f.Load, Anchors: anchors, Tempo: v.Tempo, Reps: f.Mend.Reps, Sides: BothSides}
	switch {
	case v.Sides == moves.Alternating || v.InTurn:
		e.Sides = TurnByTurn
	case v.Sides == moves.PerSide:
		e.Sides = Split
	}
	switch {
	case len(f.Mend.Repairs) == 0:
	case format == Timed && v.SideCount() == 1:
		e.Tempo = v.TempoOf().Slower().String()
	case format == Reps:
		e.Tempo = f.Mend.Tempo
	}
	return e
}

// assemble builds the document for a choice of waves and fills the minutes.
func (b Brief) assemble(places []place, choice []int) (Document, float64, bool) {
	d := Document{V: DocumentVersion, Format: b.Format, LeadInMs: leadIn, WorkMs: 40 * measure.Second, RestMs: 20 * measure.Second,
		Rounds: 1, RoundRestMs: measure.Minute, Bans: append([]string{}, b.Bans...), Slots: []Slot{}}
	cost := 0.0
	for i, pl := range places {
		c := pl.byWaves[choice[i]]
		s := Slot{ID: slotID(i + 1), Pattern: pl.pattern, Waves: c.waves, Lanes: c.entries}
		for _, e := range c.entries {
			s.New = s.New || slices.Contains(b.New, e.Variant)
		}
		d.Slots = append(d.Slots, s)
		cost += c.cost + waitCost*float64(c.waves-1)
	}
	d, time, ok := fill(d, b.Context)
	return d, cost + time, ok
}

// What a class looks like when time is no object (house), and what it costs to
// leave that: per round, per second of work and rest, and for minutes not used.
var (
	tryRounds    = []int{1, 2, 3, 4, 5, 6, 7, 8}
	tryWork      = []measure.Span{20, 25, 30, 35, 40, 45, 50, 60}
	tryRest      = []measure.Span{10, 15, 20, 25, 30, 40, 60}
	tryRoundRest = []measure.Span{30, 60, 90, 120, 180}
)

func fillCost(rounds int, work, rest, roundRest, slack measure.Span) float64 {
	away := func(a, b measure.Span) float64 { return math.Abs(float64(a - b)) }
	cost := 12*math.Abs(float64(rounds-3)) + 0.5*away(work, 40) + 0.3*away(rest, 20) + 0.05*away(roundRest, 60)
	if work < 40 {
		cost += float64(40 - work) // a set cut short leaves one-sided moves a rep or two
	}
	if rounds == 1 {
		cost += 20
	}
	return cost + 0.04*math.Min(float64(slack)/1000, 1200)
}

// fill chooses rounds, work and rest for a document so that it fits the minutes
// and comes nearest to the house's habits; ok is false when nothing fits.
func fill(d Document, c Context) (Document, float64, bool) {
	f := frameOf(d, c)
	works := tryWork
	if d.Format == Reps {
		works = []measure.Span{40}
	}
	best, bestCost, found := d, math.Inf(1), false
	for _, rounds := range tryRounds {
		for _, work := range works {
			for _, rest := range tryRest {
				for _, pause := range tryRoundRest {
					slack := measure.Span(c.Minutes)*measure.Minute - f.total(rounds, work*measure.Second, rest*measure.Second, pause*measure.Second)
					if slack < 0 {
						continue
					}
					if cost := fillCost(rounds, work, rest, pause, slack); cost < bestCost {
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
// or fewer places.
func (b Brief) relax(places []place) []why.Why {
	var out []why.Why
	longer := b
	choice := make([]int, len(places))
	for longer.Minutes = b.Minutes + 1; longer.Minutes <= 240; longer.Minutes++ {
		if _, _, ok := longer.assemble(places, choice); ok {
			out = append(out, why.Of(why.RelaxMinutes, why.Arithmetic, why.N("minutes", longer.Minutes)))
			break
		}
	}
	fewer := slices.Clone(places)
	var dropped []why.Term
	for _, p := range optional {
		i := slices.IndexFunc(fewer, func(x place) bool { return x.pattern == p || isPush(x.pattern) && isPush(p) })
		if i < 0 {
			continue
		}
		dropped = append(dropped, why.ID("pattern", string(fewer[i].pattern)))
		fewer = slices.Delete(fewer, i, i+1)
		if len(fewer) == 0 {
			break
		}
		if _, _, ok := b.assemble(fewer, choice[:len(fewer)]); ok {
			return append(out, why.Of(why.RelaxPlaces, why.Arithmetic, dropped...))
		}
	}
	return out
}
