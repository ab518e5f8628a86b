package plan

import (
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/why"
)

// Decided is what the log says of a party's move for the next class.
type Decided struct {
	Party  people.Party    `json:"party"`
	Lane   moves.Lane      `json:"lane"`
	Move   string          `json:"move"`
	Advice progress.Advice `json:"advice"`
	LoadG  measure.Mass    `json:"loadG"`
	Loaded bool            `json:"loaded"` // whether the load is said
	Reps   int             `json:"reps"`
	To     string          `json:"to,omitempty"` // a rung up or down
	Joints []string        `json:"joints"`       // that hurt
	// Here says that it changes this circuit: its move stands in it, or is kept out by
	// pain; before there is a circuit, whatever is not only long ago.
	Here bool `json:"here"`
	// Overruled says that the instructor set it aside.
	Overruled bool `json:"overruled"`
	// What is set aside with it: the move, or the joints that hurt somebody who is known.
	What []string `json:"what"`
	Why  why.Why  `json:"why"`
	// past says that the rung was done since: it has a decision of its own, which stands.
	past bool
	// waits says that somebody is ready for more and the circuit keeps them where they are.
	waits bool
}

// Decisions lists what the log says of every party's moves for a document, pain first.
func Decisions(d circuit.Document, c Context) []Decided {
	out := []Decided{}
	c = c.On(d)
	class := c.Class(d, nil)
	for _, l := range c.Parties {
		if l.People == 0 || l.Participant != "" && l.Standing == nil && !d.Names(l.ID()) {
			continue
		}
		j := choice.For(class, l.Judged())
		hurt := map[string]bool{}
		for _, h := range j.Hurts() {
			advice := progress.StopMove
			if h.Out {
				advice = progress.OffPlan
			}
			hurt[h.Move] = true
			what := []string{h.Move}
			if h.Own {
				what = h.Joints
			}
			out = append(out, Decided{
				Party:     l.ID(),
				Lane:      l.Lane,
				Move:      h.Move,
				Advice:    advice,
				Joints:    h.Joints,
				Overruled: h.Overruled,
				What:      what,
				Why:       h.Why,
			})
		}
		all := j.Decisions()
		for _, x := range all {
			if !hurt[x.Move] {
				out = append(out, Decided{
					Party:     l.ID(),
					Lane:      l.Lane,
					Move:      x.Move,
					Advice:    x.Advice,
					LoadG:     x.Load,
					Loaded:    x.Loaded,
					Reps:      x.Reps,
					To:        x.To,
					Joints:    []string{},
					Overruled: x.Overruled,
					What:      []string{x.Move},
					Why:       x.Why,
					past: slices.ContainsFunc(all, func(y progress.Decision) bool {
						return y.Move == x.To && y.Day > x.Day
					}),
				})
			}
		}
	}
	for i := range out {
		out[i].Here = out[i].concerns(d)
		out[i].waits = out[i].Here && out[i].way() == MovesUp && !out[i].taken(d, c)
	}
	return out
}

func (x Decided) concerns(d circuit.Document) bool {
	if len(x.Joints) > 0 || x.Overruled {
		return true
	}
	if x.past {
		return false
	}
	if len(d.Slots()) == 0 {
		return x.Advice != progress.Lighter && x.Advice != progress.StartAgain
	}
	return slices.ContainsFunc(d.Slots(), func(s circuit.Slot) bool {
		e, ok := s.Of(x.Party, x.Lane)
		return ok && (e.Variant == x.Move || e.Variant == x.To)
	})
}

// taken tells whether somebody does in a circuit what takes them up; before there is one, they
// will.
func (x Decided) taken(d circuit.Document, c Context) bool {
	return len(d.Slots()) == 0 || slices.ContainsFunc(d.Slots(), func(s circuit.Slot) bool {
		e, ok := s.Of(x.Party, x.Lane)
		if x.Advice == progress.NextRung {
			return ok && e.Variant == x.To
		}
		total, known := c.Stock.Mass(e.Load)
		return ok && known && e.Variant == x.Move && total >= x.LoadG
	})
}

// Count is how often an advice was given.
type Count struct {
	Advice progress.Advice `json:"advice"`
	N      int             `json:"n"`
}

// CountDecisions counts what was decided for this circuit, not what was set aside, in the
// order in which each advice first comes.
func CountDecisions(all []Decided) []Count {
	out := []Count{}
	at := map[progress.Advice]int{}
	for _, d := range all {
		if d.Overruled || !d.Here {
			continue
		}
		i, had := at[d.Advice]
		if !had {
			i = len(out)
			at[d.Advice] = i
			out = append(out, Count{Advice: d.Advice})
		}
		out[i].N++
	}
	return out
}

// Way is which way the log moves somebody.
type Way string

// The ways, in the order in which they are said.
const (
	UntilCleared Way = "out"      // until they are cleared
	ThisOnce     Way = "out-once" // a move that hurt, for this class
	Easier       Way = "easier"
	MovesUp      Way = "up"
	Ready        Way = "ready" // for more, but the circuit keeps them where they are
)

// way tells which way an advice moves whom it is given to; empty for what stays as it is.
func (x Decided) way() Way {
	switch x.Advice {
	case progress.OffPlan:
		return UntilCleared
	case progress.StopMove:
		return ThisOnce
	case progress.Lighter:
		if x.Loaded { // without a load there is nothing lighter
			return Easier
		}
	case progress.FewerReps, progress.LessLoad, progress.RungDown, progress.Ease:
		return Easier
	case progress.NextLoad, progress.NextRung:
		if x.waits {
			return Ready
		}
		return MovesUp
	}
	return ""
}

// Moved is what the log says of somebody by name for this class, one way: Moves are theirs,
// Joints those that hurt.
type Moved struct {
	Way    Way          `json:"way"`
	Party  people.Party `json:"party"`
	Moves  []string     `json:"moves"`
	Joints []string     `json:"joints"`
}

// WhoMoves gathers by person what was decided for this circuit and not set aside.
func WhoMoves(all []Decided) []Moved {
	out := []Moved{}
	for _, way := range []Way{UntilCleared, ThisOnce, Easier, MovesUp, Ready} {
		at := map[people.Party]int{}
		for _, d := range all {
			if _, lane := d.Party.Lane(); lane || d.Overruled || !d.Here || d.way() != way {
				continue
			}
			i, had := at[d.Party]
			if !had {
				i = len(out)
				at[d.Party] = i
				out = append(out, Moved{Way: way, Party: d.Party, Joints: []string{}})
			}
			out[i].Moves = append(out[i].Moves, d.Move)
			for _, j := range d.Joints {
				if !slices.Contains(out[i].Joints, j) {
					out[i].Joints = append(out[i].Joints, j)
				}
			}
		}
	}
	return out
}
