package scheme

import "nimbleanvil/internal/core/measure"

// SideMode says how a one-sided move is dealt to the sides.
type SideMode string

// Both sides at once; split within the interval; a side a round (the odd round
// shared); or turn by turn.
const (
	BothSides  SideMode = "both"
	Split      SideMode = "split"
	ByRound    SideMode = "rounds"
	TurnByTurn SideMode = "alternate"
)

// SideModes lists them all.
var SideModes = []SideMode{BothSides, Split, ByRound, TurnByTurn}

// SideCall is one round's order of sides. With Second empty there is no change.
type SideCall struct {
	First, Second    Side
	SwitchAt, Change measure.Span
}

// Set is one set of a move, as it is dealt to the sides over the rounds of a class.
type Set struct {
	PerRep measure.Span
	Sides  SideMode
	Rounds int
	// Change is how long a change of sides within the set takes.
	Change measure.Span
	// First is the side that begins; the left where nothing is said.
	First Side
}

// Begins is the side that begins.
func (s Set) Begins() Side {
	if s.First == "" {
		return Left
	}
	return s.First
}

// SetTime is what of a set fits, and when.
type SetTime struct {
	PerSide int
	Reps    int // of both sides in all
	Work    measure.Span
	Slack   measure.Span // what is left of the interval
	Calls   []SideCall   // a round each, again from the first where there are fewer
}

// ByClock fits a set into an interval.
func (s Set) ByClock(work measure.Span) SetTime {
	sides, change := 2, s.Change
	switch s.Sides {
	case TurnByTurn:
		change = 0
	case BothSides, ByRound:
		sides, change = 1, 0
	}
	w := FitWindow(work, s.PerRep, sides, change)
	t := SetTime{PerSide: w.PerSide, Reps: sides * w.PerSide, Work: work, Slack: w.Slack}
	switch s.Sides {
	case Split:
		t.Calls = []SideCall{s.splitAt(w.SwitchAt)}
	case ByRound:
		t.Calls = s.byRound(FitWindow(work, s.PerRep, 2, s.Change).SwitchAt)
	}
	return t
}

// ByReps counts how long so many repetitions a side take.
func (s Set) ByReps(reps int) SetTime {
	n := measure.Span(reps)
	t := SetTime{PerSide: reps, Reps: reps, Work: n * s.PerRep}
	switch s.Sides {
	case Split:
		t.Reps, t.Work = 2*reps, 2*t.Work+s.Change
		t.Calls = []SideCall{s.splitAt(n * s.PerRep)}
	case TurnByTurn:
		t.Reps, t.Work = 2*reps, 2*t.Work
	case ByRound:
		t.Calls = s.byRound((n + 1) / 2 * s.PerRep)
		if s.Rounds%2 == 1 {
			t.Work += s.Change
		}
	}
	return t
}

// InAll counts how long so many repetitions of both sides together take; the odd one is of
// the side that begins.
func (s Set) InAll(reps int) SetTime {
	if s.Sides == BothSides || s.Sides == ByRound {
		return s.ByReps(reps)
	}
	first := (reps + 1) / 2
	t := SetTime{PerSide: first, Reps: reps, Work: measure.Span(reps) * s.PerRep}
	if s.Sides == Split {
		t.Work += s.Change
		t.Calls = []SideCall{s.splitAt(measure.Span(first) * s.PerRep)}
	}
	return t
}

// Works are the times of the sets of so many repetitions a side, round by round; the last
// stands for all after it. By rounds a set takes one side's time, the shared one the change
// besides.
func (s Set) Works(reps int) []measure.Span {
	if s.Sides != ByRound {
		return []measure.Span{s.ByReps(reps).Work}
	}
	one := measure.Span(reps) * s.PerRep
	if s.Rounds%2 == 0 {
		return []measure.Span{one}
	}
	out := make([]measure.Span, s.Rounds)
	for i := range out {
		out[i] = one
	}
	out[s.Rounds-1] += s.Change
	return out
}

func (s Set) splitAt(at measure.Span) SideCall {
	return SideCall{First: s.Begins(), Second: s.Begins().Other(), SwitchAt: at, Change: s.Change}
}

// byRound deals whole rounds to the sides; the odd last one is shared.
func (s Set) byRound(half measure.Span) []SideCall {
	var out []SideCall
	for _, dealt := range SplitSides(s.Rounds, 2, s.Begins()) {
		switch {
		case dealt.Right == 0:
			out = append(out, SideCall{First: Left})
		case dealt.Left == 0:
			out = append(out, SideCall{First: Right})
		default:
			out = append(out, s.splitAt(half))
		}
	}
	return out
}

// Count is how many repetitions something comes to at both ends of its range: in all, and
// on each side, which are 0 where it is not done a side.
type Count struct {
	Low, High           int
	LeftLow, LeftHigh   int
	RightLow, RightHigh int
}

// Add puts two counts together.
func (c Count) Add(d Count) Count {
	return Count{c.Low + d.Low, c.High + d.High, c.LeftLow + d.LeftLow, c.LeftHigh + d.LeftHigh,
		c.RightLow + d.RightLow, c.RightHigh + d.RightHigh}
}

// CountSets counts sets of from low to high repetitions, a side where there are two. By
// rounds the sides take turns, beginning with first, and an odd last set is shared, its odd
// repetition to first.
func CountSets(sets, low, high, sides int, mode SideMode, first Side) Count {
	if sides < 2 || mode == BothSides {
		return Count{Low: sets * low, High: sets * high}
	}
	if mode != ByRound {
		return Count{2 * sets * low, 2 * sets * high, sets * low, sets * high, sets * low, sets * high}
	}
	c := Count{Low: sets * low, High: sets * high}
	for _, s := range SplitSides(sets, low, first) {
		c.LeftLow, c.RightLow = c.LeftLow+s.Left, c.RightLow+s.Right
	}
	for _, s := range SplitSides(sets, high, first) {
		c.LeftHigh, c.RightHigh = c.LeftHigh+s.Left, c.RightHigh+s.Right
	}
	return c
}
