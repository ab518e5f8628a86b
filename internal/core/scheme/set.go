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

func (s Set) splitAt(at measure.Span) SideCall {
	return SideCall{First: Left, Second: Right, SwitchAt: at, Change: s.Change}
}

// byRound deals whole rounds to the sides; the odd last one is shared.
func (s Set) byRound(half measure.Span) []SideCall {
	var out []SideCall
	for _, dealt := range SplitSides(s.Rounds, 2, Left) {
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
