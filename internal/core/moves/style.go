package moves

import (
	"encoding/json"
	"maps"
	"slices"
	"sync"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
)

// School is a matter on which practitioners differ, with its options and what
// each changes. A studio chooses once; a move may be an exception.
type School struct {
	ID       string   `json:"id"`
	Question string   `json:"question"`
	Default  string   `json:"default"`
	Options  []Option `json:"options"`
	Effects  []Effect `json:"effects"`
}

// Option is one way of doing it, and why people choose it.
type Option struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Why  string `json:"why"`
}

// Effect is what an option changes, for the moves of some patterns, ladders, kinds
// of sides, or named ones. An alarm for everybody is never among it.
type Effect struct {
	Option   string    `json:"option"`
	Patterns []Pattern `json:"patterns,omitempty"`
	Ladders  []string  `json:"ladders,omitempty"`
	Sides    []Sides   `json:"sides,omitempty"`
	Moves    []string  `json:"moves,omitempty"`
	// NotLanes leaves out moves that are marks of these lanes, and what is done without a
	// load, which any lane may meet.
	NotLanes []Lane `json:"notLanes,omitempty"`
	// Cue is taught first; Setup stands first, or is added where sides or hands are
	// told; Shoes replaces; Unmark takes lanes' marks away; Hide keeps a move out of
	// lists and proposals.
	Cue string `json:"cue,omitempty"`
	// Holds, where present, say that Setup is where the load goes in these holds.
	Holds  []HoldID `json:"holds,omitempty"`
	Setup  string   `json:"setup,omitempty"`
	Shoes  string   `json:"shoes,omitempty"`
	Unmark []Lane   `json:"unmark,omitempty"`
	// InTurn has one-sided moves done side by side in turn.
	InTurn bool `json:"inTurn,omitempty"`
	Hide   bool `json:"hide,omitempty"`
}

// Schools lists the matters in the order they are asked.
var Schools = sync.OnceValue(func() []School { return wordsOf[[]School]("schools") })

// Style is a studio's choice: an option for each school, and exceptions by move.
// What is not chosen is the school's default.
type Style struct {
	Studio map[string]string            `json:"studio,omitempty"`
	Moves  map[string]map[string]string `json:"moves,omitempty"`
	// Times are the house's own, where it has taken any over.
	Times *Times `json:"times,omitempty"`
	// Prep are the drills that the house prepares every session by, in order.
	Prep []PrepStep `json:"prep,omitempty"`
}

// Times are a house's own times, measured in its classes, instead of the usual ones.
type Times struct {
	// PerRep is how long a repetition takes, in ms, by move.
	PerRep map[string]measure.Span `json:"perRep,omitempty"`
	// ChangeOverPct and TeachPct are how long change-overs and teaching take, in per cent of
	// what is reckoned; 0 is as reckoned.
	ChangeOverPct int `json:"changeOverPct,omitempty"`
	TeachPct      int `json:"teachPct,omitempty"`
}

// Bounds of a house's own times.
const (
	MinPerRep   = measure.Second / 2
	MaxPerRep   = 2 * measure.Minute
	MinTimesPct = 25
	MaxTimesPct = 400
)

// check refuses times that no class has, and moves that nobody knows.
func (t *Times) check(lib *Library, out *fault.List) {
	if t == nil {
		return
	}
	if len(t.PerRep) > MaxExceptions {
		out.Add("times.perRep", "at most %d moves", MaxExceptions)
		return
	}
	for _, id := range slices.Sorted(maps.Keys(t.PerRep)) {
		if _, ok := lib.Get(id); !ok {
			out.Add("times.perRep."+id, "there is no such move")
			continue
		}
		out.Within("times.perRep."+id, int64(t.PerRep[id]), int64(MinPerRep), int64(MaxPerRep))
	}
	if t.ChangeOverPct != 0 {
		out.Within("times.changeOverPct", int64(t.ChangeOverPct), MinTimesPct, MaxTimesPct)
	}
	if t.TeachPct != 0 {
		out.Within("times.teachPct", int64(t.TeachPct), MinTimesPct, MaxTimesPct)
	}
}

// ChangeOver is how long a change-over takes here that is reckoned to take so long.
func (l *Library) ChangeOver(reckoned measure.Span) measure.Span {
	return ofPct(reckoned, l.times.ChangeOverPct)
}

// Teaching is how long it takes here to teach what is reckoned to take so long.
func (l *Library) Teaching(reckoned measure.Span) measure.Span {
	return ofPct(reckoned, l.times.TeachPct)
}

// ofPct is a time by per cent, to the whole second.
func ofPct(reckoned measure.Span, pct int) measure.Span {
	if pct == 0 {
		return reckoned
	}
	return (reckoned*measure.Span(pct)/100 + measure.Second/2) / measure.Second * measure.Second
}

// Times are the house's own, as far as it has some.
func (l *Library) Times() Times { return l.times }

// HousePrep lists the drills that the house prepares every session by, where it has its own.
func (l *Library) HousePrep() []PrepStep { return l.style.Prep }

// MaxExceptions bounds the moves that differ from the studio's style.
const MaxExceptions = 300

// ParseStyle reads a stored style; empty bytes are the default style.
func ParseStyle(b []byte) (Style, error) {
	var s Style
	if len(b) == 0 {
		return s, nil
	}
	err := json.Unmarshal(b, &s)
	return s, err
}

// Check refuses schools, options and moves that nobody knows, all of them by their
// place.
func (s Style) Check(lib *Library) fault.List {
	var out fault.List
	check := func(path string, choice map[string]string) {
		for _, school := range slices.Sorted(maps.Keys(choice)) {
			option := choice[school]
			i := slices.IndexFunc(Schools(), func(x School) bool { return x.ID == school })
			switch {
			case i < 0:
				out.Add(path+"."+school, "there is no such school")
			case !slices.ContainsFunc(Schools()[i].Options, func(o Option) bool { return o.ID == option }):
				out.Add(path+"."+school, "%q is none of its options", option)
			}
		}
	}
	check("studio", s.Studio)
	if len(s.Moves) > MaxExceptions {
		out.Add("moves", "at most %d exceptions", MaxExceptions)
		return out
	}
	for _, id := range slices.Sorted(maps.Keys(s.Moves)) {
		if _, ok := lib.Get(id); !ok {
			out.Add("moves."+id, "there is no such move")
			continue
		}
		check("moves."+id, s.Moves[id])
	}
	s.Times.check(lib, &out)
	return append(out, lib.PrepFaults("prep", s.Prep)...)
}

// Option gives the studio's option of a school.
func (s Style) Option(school string) string { return s.option(school, "") }

func (s Style) option(school, move string) string {
	if o, ok := s.Moves[move][school]; ok {
		return o
	}
	if o, ok := s.Studio[school]; ok {
		return o
	}
	for _, x := range Schools() {
		if x.ID == school {
			return x.Default
		}
	}
	return ""
}

// Styled gives the library as a house with a style teaches it. Ids, shares, loads
// and ladders are the same.
func (l *Library) Styled(s Style) *Library {
	out := &Library{byID: map[string]*Variant{}, hidden: map[string]bool{}, style: s}
	if s.Times != nil {
		out.times = *s.Times
	}
	for _, v := range l.all {
		c := *v
		c.HouseRep = out.times.PerRep[v.ID]
		c.Cues, c.Setup, c.Lanes = slices.Clone(v.Cues), slices.Clone(v.Setup), slices.Clone(v.Lanes)
		for _, school := range Schools() {
			for _, e := range school.Effects {
				if e.Option == s.option(school.ID, v.ID) && e.meets(v) {
					out.apply(&c, e)
				}
			}
		}
		out.all = append(out.all, &c)
		out.byID[c.ID] = &c
	}
	return out
}

func (e Effect) meets(v *Variant) bool {
	if len(e.NotLanes) > 0 &&
		(v.Class == "none" || slices.ContainsFunc(v.Lanes, func(l Lane) bool { return slices.Contains(e.NotLanes, l) })) {
		return false
	}
	return slices.Contains(e.Patterns, v.Pattern) || v.Ladder != "" && slices.Contains(e.Ladders, v.Ladder) ||
		slices.Contains(e.Sides, v.Sides) || slices.Contains(e.Moves, v.ID)
}

func (l *Library) apply(v *Variant, e Effect) {
	if e.Cue != "" {
		v.Cues = append([]string{e.Cue}, v.Cues...)
		v.HouseCues++
	}
	switch {
	case e.Setup == "":
	case len(e.Holds) > 0:
		lines := maps.Clone(v.HoldLines)
		if lines == nil {
			lines = map[HoldID]string{}
		}
		for _, h := range e.Holds {
			if slices.Contains(v.Holds, h) {
				lines[h] = e.Setup
			}
		}
		v.HoldLines = lines
	case len(e.Patterns) > 0 && len(v.Setup) > 0:
		v.Setup[0] = e.Setup
	default:
		v.Setup = append(v.Setup, e.Setup)
	}
	if e.Shoes != "" && v.Shoes != "socks" {
		v.Shoes = e.Shoes
	}
	v.Lanes = slices.DeleteFunc(v.Lanes, func(l Lane) bool { return slices.Contains(e.Unmark, l) })
	v.InTurn = v.InTurn || e.InTurn && v.Sides == PerSide
	if e.Hide {
		l.hidden[v.ID] = true
	}
}

// ByReps tells whether the house counts by repetitions rather than by the clock.
func (s Style) ByReps() bool { return s.Option("dose") == "reps" }

// LoadSchool is how the house chooses loads of supersets and finishers, an option of the
// school "loads".
func (l *Library) LoadSchool() string { return l.style.Option("loads") }

// Hidden tells whether the house does not offer a move; it can still be looked up,
// since past classes name it.
func (l *Library) Hidden(id string) bool { return l.hidden[id] }
