package circuit

import (
	"reflect"
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/strength"
)

// Scheme is how the slots of a block follow one another: a kind, and exactly the object of
// that kind.
type Scheme struct {
	Kind     scheme.Name  `json:"kind"`
	Circuit  *InRounds    `json:"circuit,omitempty"`
	Sets     *InSets      `json:"sets,omitempty"`
	Superset *InGroups    `json:"superset,omitempty"`
	Chain    *InChain     `json:"chain,omitempty"`
	Interval *InIntervals `json:"interval,omitempty"`
	Window   *InWindow    `json:"window,omitempty"`
	Ladder   *InRungs     `json:"ladder,omitempty"`
	Drop     *InStages    `json:"drop,omitempty"`
	Called   *CalledOut   `json:"called,omitempty"`
}

// Format says whether sets go by the clock or by repetitions.
type Format string

// The formats.
const (
	Timed Format = "timed"
	Reps  Format = "reps"
)

// InRounds are the numbers of a circuit.
type InRounds struct {
	Format Format `json:"format"`
	// WorkMs is the interval by the clock; by repetitions a set takes its time.
	WorkMs      measure.Span `json:"workMs"`
	RestMs      measure.Span `json:"restMs"`
	Rounds      int          `json:"rounds"`
	RoundRestMs measure.Span `json:"roundRestMs"`
	// EvenSets gives every set of a slot the time of its longest.
	EvenSets bool `json:"evenSets,omitempty"`
}

// InSets are the numbers of straight sets: RestMs between sets, BetweenMs between slots.
type InSets struct {
	Sets      int          `json:"sets"`
	RestMs    measure.Span `json:"restMs"`
	BetweenMs measure.Span `json:"betweenMs"`
}

// InGroups are the numbers of a superset: RestMs after the group.
type InGroups struct {
	Rounds int          `json:"rounds"`
	RestMs measure.Span `json:"restMs"`
}

// InChain are the numbers of a chain of parts.
type InChain struct {
	Rounds       int          `json:"rounds"`
	RestMs       measure.Span `json:"restMs"`
	Sides        int          `json:"sides"` // 1 or 2
	SideChangeMs measure.Span `json:"sideChangeMs"`
}

// InIntervals are the numbers of sets that begin every so often.
type InIntervals struct {
	EveryMs measure.Span `json:"everyMs"`
	Sets    int          `json:"sets"`
}

// InWindow is as many rounds as go into a time.
type InWindow struct {
	WindowMs measure.Span `json:"windowMs"`
}

// InRungs are counts that rise, fall or both.
type InRungs struct {
	Rungs     []int        `json:"rungs"`
	RestMs    measure.Span `json:"restMs"`    // after a rung
	BetweenMs measure.Span `json:"betweenMs"` // from slot to slot
}

// InStages are slots of falling difficulty without rest but the change.
type InStages struct {
	ChangeMs measure.Span `json:"changeMs"`
}

// CalledOut is work that is read out at random, the same for the same seed.
type CalledOut struct {
	CalledMs measure.Span `json:"calledMs"`
	EveryMs  measure.Span `json:"everyMs"`
	Seed     int          `json:"seed"`
	Words    []Direction  `json:"words"`
}

// Direction is what is called of footwork.
type Direction string

// Directions lists what may be called.
var Directions = []Direction{"right", "left", "forward", "back", "across"}

// of gives the object of a kind, by the name of its kind in JSON.
func (s *Scheme) of(kind scheme.Name) any {
	objects := map[scheme.Name]any{
		scheme.Circuit: s.Circuit, scheme.Sets: s.Sets, scheme.Superset: s.Superset, scheme.Chain: s.Chain,
		scheme.Interval: s.Interval, scheme.Windowed: s.Window, scheme.Ladder: s.Ladder, scheme.Drop: s.Drop,
		scheme.CalledOut: s.Called,
	}
	o := objects[kind]
	if o == nil || reflect.ValueOf(o).IsNil() {
		return nil
	}
	return o
}

func (s *Scheme) clone() *Scheme {
	if s == nil {
		return nil
	}
	c := Scheme{s.Kind, copied(s.Circuit), copied(s.Sets), copied(s.Superset), copied(s.Chain), copied(s.Interval),
		copied(s.Window), copied(s.Ladder), copied(s.Drop), copied(s.Called)}
	if c.Ladder != nil {
		c.Ladder.Rungs = append([]int{}, c.Ladder.Rungs...)
	}
	if c.Called != nil {
		c.Called.Words = append([]Direction{}, c.Called.Words...)
	}
	return &c
}

// Rounds is how often each slot of a block comes: rounds, sets or rungs; 1 of a window, a
// drop and what is called, 0 of a block without a scheme.
func (b Block) Rounds() int {
	s := b.Scheme
	switch {
	case s == nil:
		return 0
	case s.Circuit != nil:
		return s.Circuit.Rounds
	case s.Sets != nil:
		return s.Sets.Sets
	case s.Superset != nil:
		return s.Superset.Rounds
	case s.Chain != nil:
		return s.Chain.Rounds
	case s.Interval != nil:
		return s.Interval.Sets
	case s.Ladder != nil:
		return len(s.Ladder.Rungs)
	}
	return 1
}

// SetRounds gives a scheme that comes several times so many rounds, sets or intervals.
func (s *Scheme) SetRounds(n int) {
	switch {
	case s.Circuit != nil:
		s.Circuit.Rounds = n
	case s.Sets != nil:
		s.Sets.Sets = n
	case s.Superset != nil:
		s.Superset.Rounds = n
	case s.Chain != nil:
		s.Chain.Rounds = n
	case s.Interval != nil:
		s.Interval.Sets = n
	}
}

// RoundsOf is how often a slot of the block comes, which may have its own count of straight
// sets.
func (b Block) RoundsOf(s Slot) int {
	if b.is(scheme.Sets) && s.Sets > 0 {
		return s.Sets
	}
	return b.Rounds()
}

func (b Block) is(kind scheme.Name) bool { return b.Scheme != nil && b.Scheme.Kind == kind }

// Role is the part that the block's slots play.
func (b Block) Role() strength.Role {
	switch {
	case b.Kind == Finisher:
		return strength.Finisher
	case b.is(scheme.Superset):
		return strength.Superset
	}
	return strength.Alone
}

// Is tells whether a block goes by one of some schemes.
func (b Block) Is(kinds ...scheme.Name) bool {
	return b.Scheme != nil && slices.Contains(kinds, b.Scheme.Kind)
}

// ByClock gives the interval of a slot where its block goes by the clock.
func (b Block) ByClock(s Slot) (work measure.Span, ok bool) {
	if c := b.circuit(); c == nil || c.Format != Timed {
		return 0, false
	} else if s.WorkMs == nil {
		return c.WorkMs, true
	}
	return *s.WorkMs, true
}

// Format says what a block's sets go by: all but circuits by the clock go by repetitions.
func (b Block) Format() Format {
	if c := b.circuit(); c != nil {
		return c.Format
	}
	return Reps
}

func (b Block) circuit() *InRounds {
	if b.Scheme == nil {
		return nil
	}
	return b.Scheme.Circuit
}

// Settled puts sides that a single round cannot take in turn back into one interval.
func (b Block) Settled() Block {
	b = b.clone()
	for i, s := range b.Slots {
		b.Slots[i] = s.SettledIn(b.RoundsOf(s))
	}
	return b
}

// UsualSchemes gives what a new block begins with, one of each kind (house).
func UsualSchemes() []Scheme {
	const s = measure.Second
	return []Scheme{
		{
			Kind:    scheme.Circuit,
			Circuit: &InRounds{Format: Timed, WorkMs: 40 * s, RestMs: 20 * s, Rounds: 3, RoundRestMs: 60 * s},
		},
		{Kind: scheme.Sets, Sets: &InSets{Sets: 3, RestMs: 90 * s, BetweenMs: 120 * s}},
		{Kind: scheme.Superset, Superset: &InGroups{Rounds: 3, RestMs: 90 * s}},
		{Kind: scheme.Chain, Chain: &InChain{Rounds: 1, RestMs: 90 * s, Sides: 2, SideChangeMs: 5 * s}},
		{Kind: scheme.Interval, Interval: &InIntervals{EveryMs: 60 * s, Sets: 10}},
		{Kind: scheme.Windowed, Window: &InWindow{WindowMs: 10 * measure.Minute}},
		{Kind: scheme.Ladder, Ladder: &InRungs{Rungs: []int{1, 2, 3, 4, 5}, RestMs: 30 * s}},
		{Kind: scheme.Drop, Drop: &InStages{ChangeMs: 5 * s}},
		{Kind: scheme.CalledOut, Called: &CalledOut{
			CalledMs: 45 * s, EveryMs: 3 * s, Seed: 1, Words: slices.Clone(Directions),
		}},
	}
}
