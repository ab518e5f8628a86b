// Package pace compares what classes were planned to take with what they took, and says when
// a house has times of its own: seconds a repetition of a move, change-overs, teaching.
package pace

import (
	"cmp"
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/run"
	"nimbleanvil/internal/core/scheme"
)

// What is measured.
type What string

// PerRep is the time of a repetition of a move in ms, ChangeOver and Teach are per cent of
// what is reckoned.
const (
	PerRep     What = "per-rep"
	ChangeOver What = "change-over"
	Teach      What = "teach"
)

// Whats lists them all.
var Whats = []What{PerRep, ChangeOver, Teach}

// Of what is taken for measured (house): own times are offered from leastRuns runs on;
// whatever took under a third or over three times what was planned was something else.
const (
	leastRuns = 5
	mostTimes = 3
)

// Sample is one set, change-over or teaching as it went.
type Sample struct {
	What    What
	Variant string // of PerRep
	Value   int64
	// Said tells that somebody ended it or gave it more time; what ran out took what was
	// planned, as far as anybody saw.
	Said bool
}

// Done gives how many repetitions a party is logged to have done in a slot, a side or in
// all; ok is false where nothing is written.
type Done func(slot string, who people.Party) (reps int, ok bool)

// Samples gives what a run tells until an instant. Of a set tell the instructor, who ends it for all, which
// is for the slowest party, or a party that is done; one that ran out took what was planned.
// So did change-overs and teaching, unless they were ended by hand or given more time;
// teaching goes on while the clock is held.
func Samples(p run.Plan, events []cue.RunEvent, until int64, done Done, lib *moves.Library) []Sample {
	s := sampler{plan: p, done: done, lib: lib}
	lasted, finished := cue.Lasting(p.Order, events, until)
	type set struct {
		stretch int
		party   people.Party
	}
	said := map[set]bool{}
	for _, f := range finished {
		said[set{f.Stretch, f.Party}] = true
		if !f.Held {
			s.set(p.Order.Stretches[f.Stretch], f.Party, f.Real, true)
		}
	}
	for _, l := range lasted {
		x := p.Order.Stretches[l.Stretch]
		switch {
		case !l.Over || l.By == cue.Skip || l.By == cue.End:
		case x.Kind == scheme.Learn:
			s.share(Teach, l.Real+l.Held, x.Until-x.From, p.TeachPct, l.By != "" || l.Added || l.Held > 0)
		case l.Held > 0:
		case x.Kind == scheme.Work && (l.By != "" || !l.Added):
			for who, planned := range s.working(x) {
				switch slowest := planned == x.Until-x.From; {
				case said[set{l.Stretch, who}]:
				case l.By == "":
					s.set(x, who, planned, false)
				case slowest:
					s.set(x, who, l.Real, true)
				}
			}
		case s.changeOver(l.Stretch):
			s.share(ChangeOver, l.Real, x.Until-x.From, p.ChangeOverPct, l.By != "" || l.Added)
		}
	}
	slices.SortFunc(s.out, func(a, b Sample) int {
		return cmp.Or(cmp.Compare(a.What, b.What), cmp.Compare(a.Variant, b.Variant), cmp.Compare(a.Value, b.Value))
	})
	return s.out
}

type sampler struct {
	plan run.Plan
	done Done
	lib  *moves.Library
	out  []Sample
}

// put takes a sample that may be one.
func (s *sampler) put(x Sample, planned int64) {
	if x.Value*mostTimes >= planned && x.Value <= planned*mostTimes && planned > 0 {
		s.out = append(s.out, x)
	}
}

// share takes a time in per cent of what was reckoned, which the plan may have had as the
// house's own already.
func (s *sampler) share(what What, real, planned int64, own int, said bool) {
	usual := int64(cmp.Or(own, 100))
	s.put(Sample{What: what, Value: (real*usual + planned/2) / planned, Said: said}, usual)
}

// changeOver tells whether a stretch is a rest that is no longer than the change-over in it.
func (s *sampler) changeOver(i int) bool {
	x := s.plan.Order.Stretches[i]
	if x.Kind != scheme.Rest && x.Kind != scheme.Pause || i == 0 {
		return false
	}
	before := s.plan.Order.Stretches[i-1].Slot
	at := slices.IndexFunc(s.plan.Slots, func(x run.Slot) bool { return x.ID == before })
	return at >= 0 && before != x.Slot && s.plan.Slots[at].Grown
}

// working are the parties at work in a stretch, with how long they are planned to be.
func (s *sampler) working(x cue.Stretch) map[people.Party]int64 {
	out := map[people.Party]int64{}
	for _, e := range s.plan.Order.Events {
		if e.Kind == scheme.Work && e.From >= x.From && e.Until <= x.Until {
			out[e.Party] = e.Until - x.From
		}
	}
	return out
}

// set takes a party's set of known repetitions in its usual way.
func (s *sampler) set(x cue.Stretch, who people.Party, real int64, said bool) {
	at := slices.IndexFunc(s.plan.Slots, func(slot run.Slot) bool { return slot.ID == x.Slot })
	if at < 0 {
		return
	}
	slot := s.plan.Slots[at]
	n := slices.IndexFunc(slot.Cells, func(c plan.Cell) bool { return c.Party == who })
	if n < 0 {
		return
	}
	c := slot.Cells[n]
	v, ok := s.lib.Get(c.Entry.Variant)
	if !ok || !c.Entry.Usual(v) {
		return
	}
	reps, ok := s.perSide(x, slot, c)
	if !ok {
		return
	}
	var change int64
	for _, e := range s.plan.Order.Events {
		if e.Party == who && e.Kind == scheme.Change && e.From >= x.From && e.Until <= x.Until {
			change += e.Until - e.From
		}
	}
	switch {
	case change > 0:
		reps *= 2
	case c.TwoSides && c.Entry.Sides != scheme.ByRound && !c.Entry.Dose.InAll:
		reps = reps * c.Reps / max(c.PerSide, 1)
	}
	if reps > 0 {
		one := (real - change + int64(reps)/2) / int64(reps)
		s.put(Sample{PerRep, v.ID, one, said}, int64(c.Entry.PerRep(s.lib)))
	}
}

// perSide is how many repetitions a side there were in a set; ok is false where nobody
// knows.
func (s *sampler) perSide(x cue.Stretch, slot run.Slot, c plan.Cell) (int, bool) {
	b := slices.IndexFunc(s.plan.Blocks, func(b run.Block) bool { return b.ID == slot.Block })
	if b < 0 || s.plan.Blocks[b].Scheme == nil {
		return 0, false
	}
	how := s.plan.Blocks[b].Scheme
	switch d := c.Entry.Dose; {
	case how.Circuit != nil && how.Circuit.Format == circuit.Timed:
		return 0, false
	case how.Ladder != nil:
		return how.Ladder.Rungs[min(max(x.Round, 1), len(how.Ladder.Rungs))-1], true
	case how.Circuit == nil && how.Sets == nil && how.Superset == nil:
		return 0, false
	case d.Kind != circuit.Count && d.Kind != circuit.Units && d.Kind != circuit.ToFailure:
		return 0, false
	default:
		if n, ok := s.done(slot.ID, c.Party); ok {
			return n, n > 0
		}
		return c.PerSide, d.Kind != circuit.ToFailure && d.Low == d.High
	}
}

// Offer is a time of the house's own that its classes speak for.
type Offer struct {
	What    What   `json:"what"`
	Variant string `json:"variant,omitempty"`
	// Reckoned is what is planned with otherwise; Own is the middle of what was measured, of
	// which half lies between Low and High. Ms of a repetition, else per cent.
	Reckoned int64 `json:"reckoned"`
	Own      int64 `json:"own"`
	Low      int64 `json:"low"`
	High     int64 `json:"high"`
	Samples  int   `json:"samples"`
	// Runs are those in which somebody said that something was over.
	Runs int `json:"runs"`
	// Used is what the house has taken over, 0 for nothing.
	Used int64 `json:"used,omitempty"`
}

// Offers gives what at least five runs speak for that somebody said something in, and whatever the house has taken over, by
// kind and move.
func Offers(runs [][]Sample, lib *moves.Library) []Offer {
	type key struct {
		what    What
		variant string
	}
	values, in := map[key][]int64{}, map[key]int{}
	for _, r := range runs {
		here := map[key]bool{}
		for _, s := range r {
			k := key{s.What, s.Variant}
			values[k] = append(values[k], s.Value)
			if s.Said && !here[k] {
				here[k] = true
				in[k]++
			}
		}
	}
	times := lib.Times()
	for id := range times.PerRep {
		in[key{PerRep, id}] += 0
	}
	for what, pct := range map[What]int{ChangeOver: times.ChangeOverPct, Teach: times.TeachPct} {
		if pct != 0 {
			in[key{what, ""}] += 0
		}
	}
	out := []Offer{}
	for k, n := range in {
		o := Offer{What: k.what, Variant: k.variant, Reckoned: 100, Samples: len(values[k]), Runs: n}
		switch k.what {
		case ChangeOver:
			o.Used = int64(times.ChangeOverPct)
		case Teach:
			o.Used = int64(times.TeachPct)
		default:
			v, ok := lib.Get(k.variant)
			if !ok {
				continue
			}
			o.Reckoned, o.Used = int64(v.Reckoned()), int64(v.HouseRep)
		}
		if n < leastRuns && o.Used == 0 {
			continue
		}
		if n >= leastRuns {
			o.spread(values[k])
		}
		if o.Own != o.Reckoned || o.Used != 0 {
			out = append(out, o)
		}
	}
	slices.SortFunc(out, func(a, b Offer) int {
		return cmp.Or(
			cmp.Compare(slices.Index(Whats, a.What), slices.Index(Whats, b.What)), cmp.Compare(a.Variant, b.Variant))
	})
	return out
}

// spread gives the median and the quartiles of what was measured (the medians of the halves,
// the middle one in both); repetitions to a tenth of a second.
func (o *Offer) spread(values []int64) {
	slices.Sort(values)
	half := (len(values) + 1) / 2
	round := func(x int64) int64 { return x }
	if o.What == PerRep {
		const tenth = int64(measure.Second) / 10
		round = func(x int64) int64 { return (x + tenth/2) / tenth * tenth }
	}
	o.Own = round(median(values))
	o.Low, o.High = round(median(values[:half])), round(median(values[len(values)-half:]))
}

// median of sorted values: of two in the middle their mean.
func median(sorted []int64) int64 {
	n := len(sorted)
	return (sorted[(n-1)/2] + sorted[n/2]) / 2
}

// Taken is a style with an offer taken over, or given back.
func Taken(t moves.Times, o Offer, take bool) moves.Times {
	value := int64(0)
	if take {
		value = o.Own
	}
	switch o.What {
	case ChangeOver:
		t.ChangeOverPct = int(value)
	case Teach:
		t.TeachPct = int(value)
	case PerRep:
		next := map[string]measure.Span{}
		for id, ms := range t.PerRep {
			next[id] = ms
		}
		next[o.Variant] = measure.Span(value)
		if !take {
			delete(next, o.Variant)
		}
		t.PerRep = next
	}
	return t
}
