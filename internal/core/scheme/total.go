package scheme

import "nimbleanvil/internal/core/measure"

// Total is the time of a scheme and its parts; LeadIn, Work and Rest add up to
// Total.
type Total struct {
	Total, Work, Rest, LeadIn measure.Span
}

func totalOf(t Times) Total {
	return Total{t.Total(), t.Working(), t.Total() - t.Working() - t[LeadIn], t[LeadIn]}
}

// Timed is a scheme of work and rest by the clock.
type Timed struct {
	Stations, Rounds              int
	Work, Rest, RoundRest, LeadIn measure.Span
	// RestAfterLast adds one rest at the end of every round.
	RestAfterLast bool
}

// Session lays the scheme out.
func (t Timed) Session() Session {
	b := Block{Scheme: Circuit, RoundRest: t.RoundRest, Rounds: t.Rounds, RestAfterLast: t.RestAfterLast}
	for range t.Stations {
		b.Slots = append(b.Slots, Slot{Waves: 1, Works: []measure.Span{t.Work}, Rest: t.Rest})
	}
	return Session{LeadIn: t.LeadIn, Blocks: []Block{b}}
}

// Total gives lead-in + R (S w + (S - 1) r) + (R - 1) q, and r more at the end
// of each round where the last rest counts.
func (t Timed) Total() Total { return totalOf(t.Session().Times()) }

// Move is one set of a rep scheme; Sides is 1 or 2, Reps are a side.
type Move struct {
	Reps, Sides int
	Tempo       Tempo
}

// Work is the time of one set, its side change included, and the repetitions of
// both sides.
func (m Move) Work(sideChange measure.Span) (reps int, work measure.Span) {
	s := Set{PerRep: m.Tempo.PerRep(), Sides: BothSides}
	if m.Sides == 2 {
		s.Sides, s.Change = Split, sideChange
	}
	t := s.ByReps(m.Reps)
	return t.Reps, t.Work
}

// Reps is a scheme counted in repetitions. Change-overs stand between the moves
// of a round only.
type Reps struct {
	Rounds                                    int
	RoundRest, LeadIn, Changeover, SideChange measure.Span
	Moves                                     []Move
}

// Session lays the scheme out.
func (s Reps) Session() Session {
	b := Block{Scheme: Circuit, RoundRest: s.RoundRest, Rounds: s.Rounds}
	for _, m := range s.Moves {
		_, work := m.Work(s.SideChange)
		b.Slots = append(b.Slots, Slot{Waves: 1, Works: []measure.Span{work}, Rest: s.Changeover})
	}
	return Session{LeadIn: s.LeadIn, Blocks: []Block{b}}
}

// Total gives the time of all rounds and the repetitions of everybody who does
// them all.
func (s Reps) Total() (Total, int) {
	reps := 0
	for _, m := range s.Moves {
		n, _ := m.Work(s.SideChange)
		reps += n
	}
	return totalOf(s.Session().Times()), reps * s.Rounds
}

// Largest gives the largest whole x from least to most for which total(x) is at
// most fit; total must not fall as x rises. ok is false when even least is too
// much.
func Largest(fit measure.Span, least, most int, total func(int) measure.Span) (x int, ok bool) {
	if total(least) > fit {
		return 0, false
	}
	for least < most {
		mid := least + (most-least+1)/2
		if total(mid) <= fit {
			least = mid
		} else {
			most = mid - 1
		}
	}
	return least, true
}

// Window says what fits into a stretch of work.
type Window struct {
	// PerSide is the number of whole repetitions on each side.
	PerSide int
	// SwitchAt is when to call the other side; 0 for one side.
	SwitchAt measure.Span
	// Slack is the time left over.
	Slack measure.Span
}

// FitWindow counts the repetitions that fit work at a tempo, one side or two
// with a change between them: floor((work - change) / (2 x seconds per rep)).
// The switch is called in the middle of what the change leaves.
func FitWindow(work measure.Span, perRep measure.Span, sides int, change measure.Span) Window {
	if sides == 1 {
		n := work / perRep
		return Window{PerSide: int(n), Slack: work - n*perRep}
	}
	left := max(work-change, 0)
	n := left / (2 * perRep)
	return Window{PerSide: int(n), SwitchAt: left / 2, Slack: left - 2*n*perRep}
}

// Side is a side of the body.
type Side string

// The sides.
const (
	Left  Side = "left"
	Right Side = "right"
	Both  Side = "both"
)

// Other gives the opposite side.
func (s Side) Other() Side {
	switch s {
	case Left:
		return Right
	case Right:
		return Left
	}
	return s
}

// SideReps are the repetitions of one set on each side.
type SideReps struct{ Left, Right int }

// SplitSides deals sets of reps to the sides, beginning with first: whole sets
// alternate, and the odd one, if any, is last and shared, its odd repetition to
// first (common practice; the odd repetition house).
func SplitSides(sets, reps int, first Side) []SideReps {
	out := make([]SideReps, 0, sets)
	put := func(side Side, n int, r *SideReps) {
		if side == Left {
			r.Left += n
		} else {
			r.Right += n
		}
	}
	side := first
	for i := 0; i < sets; i++ {
		var r SideReps
		if i == sets-1 && sets%2 == 1 {
			put(first, (reps+1)/2, &r)
			put(first.Other(), reps/2, &r)
		} else {
			put(side, reps, &r)
			side = side.Other()
		}
		out = append(out, r)
	}
	return out
}
