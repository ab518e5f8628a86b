// Package goal is what a session is for and what it is made of: a goal sets repetitions,
// sets and rests, a template which patterns stand in it.
package goal

import (
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// Goal is what a session is for.
type Goal string

// The goals.
const (
	General   Goal = "general"
	Strength  Goal = "strength"
	Muscle    Goal = "muscle"
	Endurance Goal = "endurance"
	InSeason  Goal = "in-season"
	Learn     Goal = "learn"
	// Lift makes ready for a lift with a bar: the brace first, squats to its gate, heavy ones
	// slow and few.
	Lift Goal = "lift"
)

// Goals lists them.
var Goals = []Goal{General, Strength, Muscle, Endurance, InSeason, Learn, Lift}

// Aim is what a goal asks of a session's sets. Its zero value asks nothing: ten repetitions
// within each move's range, in a circuit by the house's habits.
type Aim struct {
	// Scheme is that of the main block: a circuit, or straight sets.
	Scheme scheme.Name
	// Repetitions a side of moves that are loaded, and what is usual.
	RepsLow, RepsHigh, RepsUsual int
	// Sets of a move.
	SetsLow, SetsHigh int
	// Rest between the sets of a big move, and what is usual.
	RestLow, RestHigh, Rest measure.Span
	// Novices are given general doses instead: Ground, and whoever begins with a move.
	TrainedOnly bool
	// Unhurried asks for no more load where there are fewer repetitions.
	Unhurried bool
	// Fills tells whether minutes that are left over go to a superset and a finisher.
	Fills bool
	// Bar calls for a bar on the back, once its gate is passed.
	Bar    bool
	Source why.Source
}

const s = measure.Second

// The table of what to aim for (from memory): strength and general ACSM position stand
// 2009, Med Sci Sports Exerc 41(3); sets, muscle and endurance Haff & Triplett, Essentials
// of Strength Training and Conditioning, 4th ed. 2016; four rounds of twelve in season and
// practice sets for learning common practice.
var aims = map[Goal]Aim{
	Strength: {
		Scheme: scheme.Sets, RepsLow: 1, RepsHigh: 6, RepsUsual: 5, SetsLow: 2, SetsHigh: 6,
		RestLow: 180 * s, RestHigh: 300 * s, Rest: 180 * s, TrainedOnly: true, Source: why.Published,
	},
	Muscle: {
		Scheme: scheme.Sets, RepsLow: 6, RepsHigh: 12, RepsUsual: 10, SetsLow: 3, SetsHigh: 6,
		RestLow: 30 * s, RestHigh: 90 * s, Rest: 75 * s, Fills: true, Source: why.Published,
	},
	Endurance: {
		Scheme: scheme.Circuit, RepsLow: 10, RepsHigh: 25, RepsUsual: 15, SetsLow: 2, SetsHigh: 3,
		RestLow: 0, RestHigh: 30 * s, Rest: 20 * s, Source: why.Published,
	},
	InSeason: {
		Scheme: scheme.Circuit, RepsLow: 12, RepsHigh: 12, RepsUsual: 12, SetsLow: 1, SetsHigh: 4,
		RestLow: 0, RestHigh: 30 * s, Rest: 15 * s, Source: why.Practice,
	},
	Learn: {
		Scheme: scheme.Sets, RepsLow: 5, RepsHigh: 8, RepsUsual: 8, SetsLow: 1, SetsHigh: 2,
		RestLow: 60 * s, RestHigh: 120 * s, Rest: 60 * s, Unhurried: true, Source: why.Practice,
	},
	Lift: {
		Bar:    true,
		Scheme: scheme.Sets, RepsLow: 1, RepsHigh: 6, RepsUsual: 5, SetsLow: 1, SetsHigh: 6,
		RestLow: 180 * s, RestHigh: 300 * s, Rest: 180 * s, TrainedOnly: true, Source: why.Published,
	},
}

// Of gives the aim of a goal; the zero Aim for general, and where nothing is said.
func Of(g Goal) Aim { return aims[g] }

// InSets is the aim of a goal in straight sets: where it asks for none, one to three sets with
// a minute to three between them (ACSM position stand 2009, Med Sci Sports Exerc 41(3), from
// memory).
func InSets(g Goal) Aim {
	a := Of(g)
	if a.Scheme == scheme.Sets {
		return a
	}
	a.Scheme, a.RestLow, a.RestHigh, a.Rest = scheme.Sets, 60*s, 180*s, 90*s
	if a.SetsHigh == 0 {
		a.SetsLow, a.SetsHigh, a.Source = 1, 3, why.Published
	}
	return a
}

// Known tells whether a goal is one of those there are; nothing is general.
func (g Goal) Known() bool { return g == "" || slices.Contains(Goals, g) }

// Counts tells whether a move's repetitions follow what is trained: not those of drills,
// swings, chains and get-ups, which have their own.
func Counts(v *moves.Variant) bool {
	return !v.Drill && !v.Ballistic && len(v.Parts) == 0 && !v.Staged()
}

// Reps are the repetitions a side of a move for the aim: what is usual for it, within its
// range and the move's own. Where the two do not meet, a move that carries a load goes by the aim,
// any other by its own range; usual is what it is given without an aim.
func (a Aim) Reps(v *moves.Variant, usual int, novice bool) int {
	if a.RepsHigh == 0 || !Counts(v) || a.TrainedOnly && novice {
		return usual
	}
	low, high := max(a.RepsLow, v.RepsLow), min(a.RepsHigh, v.RepsHigh)
	switch {
	case low <= high:
		return min(max(a.RepsUsual, low), high)
	case a.RepsHigh < v.RepsLow && v.Start != nil:
		return a.RepsHigh
	case a.RepsHigh < v.RepsLow:
		return v.RepsLow
	}
	return v.RepsHigh
}

// Template is what a session is made of.
type Template string

// The templates.
const (
	Alternating Template = "alternating"
	Legs        Template = "legs"
	OneLeg      Template = "one-leg"
	Floor       Template = "floor"
	OnePattern  Template = "one-pattern"
	// WarmUp is a prep by itself, Teaching a day on which moves are taught and practised before
	// a clock meets them, Pairs a session of partners.
	WarmUp   Template = "warm-up"
	Teaching Template = "teaching"
	Pairs    Template = "pairs"
)

// Templates lists them.
var Templates = []Template{Alternating, Legs, OneLeg, Floor, OnePattern, WarmUp, Teaching, Pairs}

// Known tells whether a template is one of those there are; nothing is alternating.
func (t Template) Known() bool { return t == "" || slices.Contains(Templates, t) }

// Alternates tells whether lower and upper body take turns, so that two leg moves running
// and a missing pattern are worth saying.
func (t Template) Alternates() bool { return t == "" || t == Alternating || t == Pairs }

// Allows tells whether a move may stand in a session of the template.
func (t Template) Allows(v *moves.Variant) bool {
	switch t {
	case OneLeg:
		return v.OnOneLeg()
	case Floor:
		return v.Pose.Level() > 0
	}
	return true
}

// Places lists, of a template, the patterns that may stand in each place, the main ones
// first; of is the pattern of a session of one. Nothing for what the composer alternates by
// itself.
func (t Template) Places(of moves.Pattern) [][]moves.Pattern {
	switch t {
	case Legs:
		return [][]moves.Pattern{
			{
				moves.Hinge,
			}, {moves.Lunge}, {moves.Bridge}, {moves.Squat}, {moves.Hinge}, {moves.Lateral, moves.Lunge}, {moves.Lunge}, {moves.Bridge},
		}
	case OneLeg:
		return [][]moves.Pattern{
			{
				moves.PushOverhead,
			}, {moves.Pull}, {moves.Squat}, {moves.Hinge}, {moves.Lunge}, {moves.Bridge}, {moves.Lateral}, {moves.Lunge},
		}
	case Floor:
		return [][]moves.Pattern{
			{
				moves.Bridge,
			}, {moves.PushLevel}, {moves.TrunkBrace}, {moves.Bridge}, {moves.TrunkTurn}, {moves.PushLevel}, {moves.TrunkBrace}, {moves.Bridge},
		}
	case OnePattern:
		return slices.Repeat([][]moves.Pattern{{of}}, 8)
	}
	return nil
}
