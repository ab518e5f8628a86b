package compose

import (
	"math"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
)

// Objective is what circuits are judged by: a proposal makes the sum of what one costs as
// small as it can. Every weight stands here; what each is multiplied by is said with it.
type Objective struct {
	// Drop is for a place of the template that is left out, more by the length of a class
	// that is longer than a short one.
	Drop map[moves.Pattern]float64
	// Few is for each place under LeastSlots.
	Few        float64
	LeastSlots int
	// Wait is for each lane of which half waits its turn, once a wave.
	Wait float64
	// Same is for every pair of lanes that do the same move; whose turn it is goes before.
	Same float64
	// Apart is for a slot whose lanes wait for each other by repetitions.
	Apart float64
	// Rotate is for the pattern of a place, where another may stand there, by how many
	// classes ago it was last in the plan: never, the last, the one before, longer.
	Rotate []float64
	// AsGood is how near the best an entry is to take its turn, Turn what it costs for
	// each class that it was used later: never as much as AsGood in all.
	AsGood, Turn float64
	// Uneven is for each beam that is flagged as uneven, Clash for two leg moves running
	// and for a weak link that tires twice running.
	Uneven, Clash float64
	// Away is for each second by which work, rest and the pause between rounds leave
	// what is usual; Short for each second of work under it beside, which cuts a set short
	// of its dose.
	AwayWork, AwayRest, AwayPause, Short float64
	// Rounds is for each under UsualRounds, Once for a single one, more by the length of a
	// class that is longer than a short one, Under for each under LeastRounds.
	Rounds, Once, Under      float64
	UsualRounds, LeastRounds int
	// UsualRest is the rest that Rest is counted from.
	UsualRest measure.Span
	// Left is for each second that is not used.
	Left float64
}

// House is what this house judges by (house): of a short class trunk is left out first,
// then bridge and lunge, squat and hinge last.
var House = Objective{
	Drop: map[moves.Pattern]float64{
		moves.TrunkTurn: 10,
		moves.Bridge:    15,
		moves.Lunge:     16,
		moves.PushLevel: 21,
		moves.Pull:      22,
		moves.Hinge:     24,
		moves.Squat:     26,
	},
	Few:         30,
	LeastSlots:  4,
	Wait:        60,
	Same:        0.1,
	Apart:       30,
	Rotate:      []float64{0, 6, 3, 1.5},
	AsGood:      2,
	Turn:        2.0 / (progress.LastClasses + 1),
	Uneven:      25,
	Clash:       5,
	AwayWork:    0.5,
	AwayRest:    0.3,
	AwayPause:   0.05,
	Short:       2,
	Rounds:      12,
	Once:        40,
	Under:       100,
	UsualRounds: 3,
	UsualRest:   20 * measure.Second,
	Left:        0.04,
}

// What a class looks like when time is no object (house).
const (
	usualWork  = 40 * measure.Second
	usualPause = measure.Minute
	// shortMinutes is the length of a class for which the weights are said.
	shortMinutes = 20
)

// Term is a part of what a circuit costs.
type Term int

// The terms: what its entries cost by themselves (package choice), and what of it costs
// more beside.
const (
	Entries Term = iota
	Turns
	Same
	Waits
	Apart
	Dropped
	Few
	Work
	Rest
	Pause
	Rounds
	Left
	Uneven
	Clashes
	terms
)

var termNames = [terms]string{
	"entries", "turns", "same", "waits", "apart", "dropped", "few", "work", "rest", "pause", "rounds", "left",
	"uneven", "clashes",
}

func (t Term) String() string { return termNames[t] }

// Cost is what a circuit, or a part of one, costs term by term.
type Cost [terms]float64

// Total adds the terms up.
func (c Cost) Total() float64 {
	sum := 0.0
	for _, x := range c {
		sum += x
	}
	return sum
}

// Plus adds two costs up term by term.
func (c Cost) Plus(other Cost) Cost {
	for t, x := range other {
		c[t] += x
	}
	return c
}

// Terms lists what is not nothing, to a millionth.
func (c Cost) Terms() []choice.Term {
	var out []choice.Term
	for t, x := range c {
		if r := measure.Round(x, 6); r != 0 {
			out = append(out, choice.Term{Term: Term(t).String(), Cost: r})
		}
	}
	return out
}

// For gives the objective with the rests and rounds that a goal asks of circuits.
func (o Objective) For(a goal.Aim) Objective {
	if a.Scheme == scheme.Circuit {
		o.UsualRest = a.Rest
		o.LeastRounds, o.UsualRounds = a.SetsLow, min(max(o.UsualRounds, a.SetsLow), a.SetsHigh)
	}
	return o
}

// longer is by how much what is left out of a class weighs more for its length.
func longer(minutes int) float64 { return max(1, float64(minutes)/shortMinutes) }

// Drops gives what it costs to leave the place of a pattern out of a class.
func (o Objective) Drops(p moves.Pattern, minutes int) float64 { return o.Drop[p] * longer(minutes) }

// Fill gives what rounds, work, rest, pause and the time left over cost a class.
func (o Objective) Fill(minutes, rounds int, work, rest, pause, left measure.Span) Cost {
	return Cost{
		Work: o.work(
			work,
		), Rest: o.rest(rest), Pause: o.pause(pause), Rounds: o.rounds(minutes, rounds), Left: o.left(left),
	}
}

func away(a, b measure.Span) float64 { return math.Abs((a - b).InSeconds()) }

func (o Objective) work(work measure.Span) float64 {
	return o.AwayWork*away(work, usualWork) + o.Short*max(0, (usualWork-work).InSeconds())
}

func (o Objective) rest(rest measure.Span) float64   { return o.AwayRest * away(rest, o.UsualRest) }
func (o Objective) pause(pause measure.Span) float64 { return o.AwayPause * away(pause, usualPause) }
func (o Objective) left(left measure.Span) float64   { return o.Left * left.InSeconds() }

func (o Objective) rounds(minutes, rounds int) float64 {
	cost := o.Rounds*float64(max(0, o.UsualRounds-rounds)) + o.Under*float64(max(0, o.LeastRounds-rounds))
	if rounds == 1 {
		cost += o.Once * longer(minutes)
	}
	return cost
}
