package circuit

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
)

// Check looks for what no circuit may hold: numbers out of bounds, unknown
// variants, holds the variant does not allow, doubled slots. What the kit lacks
// is not its business. The error is a fault.List, by their paths in the document.
func (d Document) Check(lib *moves.Library) error { return d.faults(lib).Err() }

func (d Document) faults(lib *moves.Library) fault.List {
	var out fault.List
	if d.V != DocumentVersion {
		out.Add("v", "documents are written in shape %d, not %d", DocumentVersion, d.V)
	}
	out.Within("leadInMs", int64(d.LeadInMs), 0, int64(MaxStretch))
	out.Within("blocks", int64(len(d.Blocks)), 1, MaxBlocks)
	out = append(out, d.CheckSaid(lib)...)
	out = append(out, d.Day.faults("day")...)
	if !d.Goal.Known() {
		out.Add("goal", "one of %v", goal.Goals)
	}
	if !d.Template.Known() {
		out.Add("template", "one of %v", goal.Templates)
	}
	seen := map[string]bool{}
	slots := 0
	for i, b := range d.Blocks {
		path := fmt.Sprintf("blocks[%d]", i)
		out = append(out, b.faults(lib, path)...)
		slots += len(b.Slots)
		if d.Block(b.ID) != i {
			out.Add(path+".id", "every block has an id of its own")
		}
		for n, s := range b.Slots {
			if seen[s.ID] {
				out.Add(fmt.Sprintf("%s.slots[%d].id", path, n), "every slot has an id of its own")
			}
			seen[s.ID] = true
		}
	}
	if slots > MaxSlots {
		out.Add("blocks", "at most %d slots in all, not %d", MaxSlots, slots)
	}
	return out
}

var idShape = regexp.MustCompile(`^[0-9A-Za-z-]{1,26}$`)

func (b Block) faults(lib *moves.Library, path string) fault.List {
	var out fault.List
	if !idShape.MatchString(b.ID) {
		out.Add(path+".id", "every block has an id of its own: 1 to 26 letters, digits and hyphens")
	}
	if !slices.Contains(BlockKinds, b.Kind) {
		out.Add(path+".kind", "prep, teach, work, finisher or close")
	}
	if !slices.Contains(Layouts, b.Layout) {
		out.Add(path+".layout", "together, stations, partners or waves")
	}
	switch {
	case b.Layout == Stations && b.Auto, b.Layout == Partners && b.Auto:
		out.Add(path+".layout", "a block that times itself is done together")
	case b.Layout == Stations && b.Scheme != nil && !b.Is(scheme.Circuit):
		out.Add(path+".layout", "people rotate in a circuit only: make its scheme a circuit, or lay it out otherwise")
	case b.Layout == Partners && b.Is(scheme.Chain, scheme.Windowed, scheme.CalledOut):
		out.Add(path+".layout", "partners take turns set by set, which a %s has none of", b.Scheme.Kind)
	}
	out.Within(path+".afterMs", int64(b.AfterMs), 0, int64(MaxStretch))
	out.Within(path+".slots", int64(len(b.Slots)), 0, MaxSlots)
	switch {
	case b.Auto && b.Kind.Loaded():
		out.Add(path+".auto", "only prep, teaching and close time themselves")
	case b.Auto && len(b.Slots) > 0:
		out.Add(path+".slots", "a block that times itself has no slots of its own")
	case b.Auto && b.Scheme != nil:
		out.Add(path+".scheme", "a block that times itself has no scheme")
	case !b.Auto && b.Scheme == nil:
		out.Add(path+".scheme", "say how its slots follow one another")
	}
	out = append(out, b.Scheme.faults(path+".scheme")...)
	for i, s := range b.Slots {
		at := fmt.Sprintf("%s.slots[%d]", path, i)
		out = append(out, s.faults(lib, at)...)
		switch {
		case s.Waves <= 1:
		case b.Layout == Together:
			out.Add(at+".waves", "people take turns in waves only: lay the block out so")
		case b.Layout == Partners:
			out.Add(at+".waves", "partners are two: set it to 1, or lay the block out in waves")
		}
		for _, who := range people.Parties(s.Entries) {
			if s.Entries[who].Sides == scheme.ByRound && !b.Is(scheme.Circuit, scheme.Sets) {
				out.Add(
					at+".entries."+string(who)+".sides",
					"sides take turns by rounds in circuits and straight sets only",
				)
			}
		}
		if s.WorkMs != nil && (b.circuit() == nil || b.circuit().Format != Timed) {
			out.Add(at+".workMs", "only a circuit by the clock has intervals: leave it out")
		}
		if s.RestMs != nil && !b.Is(scheme.Circuit, scheme.Sets) {
			out.Add(at+".restMs", "only circuits and straight sets have a rest of each slot: leave it out")
		}
		if s.Sets > 0 && !b.Is(scheme.Sets) {
			out.Add(at+".sets", "only straight sets have a count of each slot: leave it out")
		}
	}
	if b.Is(scheme.CalledOut) && len(b.Slots) > 1 {
		out.Add(path+".slots", "what is called is one move")
	}
	return out
}

// faults checks that exactly the object of the kind is there, and its numbers.
func (s *Scheme) faults(path string) fault.List {
	var out fault.List
	if s == nil {
		return nil
	}
	if !slices.Contains(scheme.Names, s.Kind) {
		out.Add(path+".kind", "one of circuit, sets, superset, chain, interval, window, ladder, drop, called")
		return out
	}
	for _, kind := range scheme.Names {
		switch there := s.of(kind) != nil; {
		case kind == s.Kind && !there:
			out.Add(path+"."+string(kind), "a scheme has the object of its kind")
		case kind != s.Kind && there:
			out.Add(path+"."+string(kind), "a scheme has the object of its kind only: leave it out")
		}
	}
	if len(out) > 0 {
		return out
	}
	at := path + "." + string(s.Kind) + "."
	span := func(field string, v measure.Span, low int64, most measure.Span) {
		out.Within(at+field, int64(v), low, int64(most))
	}
	rounds := func(field string, n int) { out.Within(at+field, int64(n), 1, MaxRounds) }
	switch s.Kind {
	case scheme.Circuit:
		x := s.Circuit
		if x.Format != Timed && x.Format != Reps {
			out.Add(at+"format", "timed or reps")
		}
		span("workMs", x.WorkMs, leastWork, MaxStretch)
		span("restMs", x.RestMs, 0, MaxStretch)
		rounds("rounds", x.Rounds)
		span("roundRestMs", x.RoundRestMs, 0, MaxStretch)
	case scheme.Sets:
		rounds("sets", s.Sets.Sets)
		span("restMs", s.Sets.RestMs, 0, MaxStretch)
		span("betweenMs", s.Sets.BetweenMs, 0, MaxStretch)
	case scheme.Superset:
		rounds("rounds", s.Superset.Rounds)
		span("restMs", s.Superset.RestMs, 0, MaxStretch)
	case scheme.Chain:
		x := s.Chain
		rounds("rounds", x.Rounds)
		span("restMs", x.RestMs, 0, MaxStretch)
		out.Within(at+"sides", int64(x.Sides), 1, 2)
		span("sideChangeMs", x.SideChangeMs, 0, MaxStretch)
	case scheme.Interval:
		span("everyMs", s.Interval.EveryMs, leastWork, MaxStretch)
		out.Within(at+"sets", int64(s.Interval.Sets), 1, 60)
	case scheme.Windowed:
		span("windowMs", s.Window.WindowMs, leastWork, MaxWindow)
	case scheme.Ladder:
		x := s.Ladder
		out.Within(at+"rungs", int64(len(x.Rungs)), 1, MaxRounds)
		for i, n := range x.Rungs {
			out.Within(fmt.Sprintf("%srungs[%d]", at, i), int64(n), 1, MaxReps)
		}
		span("restMs", x.RestMs, 0, MaxStretch)
		span("betweenMs", x.BetweenMs, 0, MaxStretch)
	case scheme.Drop:
		span("changeMs", s.Drop.ChangeMs, 0, MaxStretch)
	case scheme.CalledOut:
		out = append(out, s.Called.faults(at)...)
	}
	return out
}

func (c *CalledOut) faults(at string) fault.List {
	var out fault.List
	out.Within(at+"calledMs", int64(c.CalledMs), leastWork, int64(MaxStretch))
	out.Within(at+"everyMs", int64(c.EveryMs), int64(measure.Second), int64(measure.Minute))
	out.Within(at+"seed", int64(c.Seed), 0, 1_000_000)
	out.Within(at+"words", int64(len(c.Words)), 2, int64(len(Directions)))
	for i, w := range c.Words {
		if !slices.Contains(Directions, w) || slices.Contains(c.Words[:i], w) {
			out.Add(fmt.Sprintf("%swords[%d]", at, i), "right, left, forward, back or across, each once")
		}
	}
	return out
}

func (s Slot) faults(lib *moves.Library, path string) fault.List {
	var out fault.List
	if !idShape.MatchString(s.ID) {
		out.Add(path+".id", "every slot has an id of its own: 1 to 26 letters, digits and hyphens")
	}
	if !slices.Contains(moves.Patterns, s.Pattern) {
		out.Add(path+".pattern", "%q is no pattern", s.Pattern)
	}
	out.Within(path+".waves", int64(s.Waves), 1, MaxWaves)
	if s.WorkMs != nil {
		out.Within(path+".workMs", int64(*s.WorkMs), leastWork, int64(MaxStretch))
	}
	if s.RestMs != nil {
		out.Within(path+".restMs", int64(*s.RestMs), 0, int64(MaxStretch))
	}
	out.Within(path+".sets", int64(s.Sets), 0, MaxRounds)
	out.Within(path+".entries", int64(len(s.Entries)), 0, MaxEntries)
	for _, party := range people.Parties(s.Entries) {
		if !party.Known() {
			out.Add(path+".entries", "an entry is for ground, middle, reach or a participant by id")
			continue
		}
		if s.Entries[party].Pinned && party.IsLane() {
			out.Add(path+".entries."+string(party)+".pinned", "what a lane has is kept with its slot: pin that")
		}
		out = append(out, s.Entries[party].faults(lib, path+".entries."+string(party))...)
	}
	return out
}

// Check says what of an entry cannot be, by its paths.
func (e Entry) Check(lib *moves.Library) fault.List {
	out := e.faults(lib, "")
	for i := range out {
		out[i].Path = strings.TrimPrefix(out[i].Path, ".")
	}
	return out
}

func (e Entry) faults(lib *moves.Library, path string) fault.List {
	var out fault.List
	v, ok := lib.Get(e.Variant)
	if !ok {
		out.Add(path+".variant", "%q is not in the library", e.Variant)
	} else if !slices.Contains(v.Holds, e.Hold) {
		out.Add(path+".hold", "%s is not held %q", v.ID, e.Hold)
	}
	out = append(out, e.Dose.faults(path+".dose")...)
	if v != nil && e.Dose.Kind == ToFailure && v.FailsBadly() {
		out.Add(path+".dose.kind", "%s is not done until few are left, since failing is unsafe: count it", v.ID)
	}
	out = append(out, e.tempoFaults(v, path)...)
	if (e.Hold == moves.NoLoad) != (e.Load.Kind == kit.None) {
		out.Add(path+".load", "a load needs a hold and a hold needs a load")
	}
	out.Within(path+".load.count", int64(e.Load.Count), 0, 500)
	if !slices.Contains(scheme.SideModes, e.Sides) {
		out.Add(path+".sides", "both, split, rounds or alternate")
	}
	if e.First != "" && e.First != scheme.Left && e.First != scheme.Right {
		out.Add(path+".first", "left or right")
	}
	return out
}

// tempoFaults checks what says how long a repetition takes; v is nil for an unknown move.
func (e Entry) tempoFaults(v *moves.Variant, path string) fault.List {
	var out fault.List
	out.Within(path+".parts", int64(len(e.Parts)), 0, MaxParts)
	for i, p := range e.Parts {
		at := fmt.Sprintf("%s.parts[%d]", path, i)
		if p.Move == "" || len(p.Move) > 60 {
			out.Add(at+".move", "name the part")
		}
		out.Within(at+".count", int64(p.Count), 1, MaxReps)
		out.Within(at+".ms", int64(p.Ms), 1, int64(measure.Minute))
	}
	if e.Tempo != "" {
		if t, err := scheme.ParseTempo(e.Tempo); err != nil {
			out.Add(path+".tempo", "%v", err)
		} else if t.PerRep() == 0 {
			out.Add(path+".tempo", "a repetition takes at least a second")
		}
		if len(e.Parts) > 0 {
			out.Add(path+".parts", "a repetition goes by its tempo or by its parts, not by both")
		}
	} else if len(e.Parts) == 0 && v != nil && len(v.TimedParts()) == 0 {
		out.Add(path+".tempo", "a move without parts has a tempo, such as 2-0-2-0")
	}
	return out
}

func (d Dose) faults(path string) fault.List {
	var out fault.List
	if !slices.Contains(DoseKinds, d.Kind) {
		out.Add(path+".kind", "count, seconds, units or to-failure")
		return out
	}
	if d.Kind == Seconds {
		out.Within(path+".ms", int64(d.Ms), int64(measure.Second), int64(MaxStretch))
		if d.Low != 0 || d.High != 0 {
			out.Add(path+".low", "seconds are not counted: leave it out")
		}
		return out
	}
	if d.Ms != 0 {
		out.Add(path+".ms", "only a dose of seconds has them: leave it out")
	}
	out.Within(path+".low", int64(d.Low), 1, MaxReps)
	out.Within(path+".high", int64(d.High), 1, MaxReps)
	if d.High < d.Low {
		out.Add(path+".high", "it is not under the low end")
	}
	return out
}

// CheckSaid refuses what is marked as known and is no move or pattern, and what is set
// aside and is nothing that the log could say, all of them by their place.
func (d Document) CheckSaid(lib *moves.Library) fault.List {
	var out fault.List
	for i, k := range d.Known {
		_, ok := lib.Get(k)
		if !ok && k != progress.All && !slices.Contains(moves.Patterns, moves.Pattern(k)) {
			out = append(out, fault.Fault{
				Path:    fmt.Sprintf("known[%d]", i),
				Message: fmt.Sprintf("%q is neither a move nor a pattern; all stands for everything", k),
			})
		}
	}
	for i, o := range d.Overruled {
		_, ok := lib.Get(o.What)
		if !ok && !slices.Contains(moves.LimitJoints, o.What) || !o.Party.Known() {
			out = append(out, fault.Fault{
				Path:    fmt.Sprintf("overruled[%d].what", i),
				Message: fmt.Sprintf("%q is neither a move nor a joint of somebody here", o.What),
			})
		}
	}
	return out
}

// CheckBans refuses bans that are no pattern, move or limit, all of them by their place;
// those that stood in an older version stay.
func CheckBans(lib *moves.Library, bans, old []string) fault.List {
	var out fault.List
	for i, b := range bans {
		if !slices.Contains(old, b) && !choice.CheckBan(lib, b) {
			out = append(out, fault.Fault{
				Path: fmt.Sprintf("bans[%d]", i),
				Message: fmt.Sprintf("%q is no pattern, move or limit; limits are %s", b,
					strings.Join(limitNames(), ", ")),
			})
		}
	}
	return out
}

func limitNames() []string {
	var out []string
	for _, l := range moves.Limits() {
		out = append(out, string(l))
	}
	return out
}
