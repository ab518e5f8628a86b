package circuit

import (
	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/why"
)

// Decided is what the log says of a lane's move for the next class.
type Decided struct {
	Lane   moves.Lane      `json:"lane" enum:"ground,middle,reach"`
	Move   string          `json:"move"`
	Advice progress.Advice `json:"advice" enum:"keep,keep-limit,more-reps,next-load,bridge,next-rung,fewer-reps,less-load,rung-down,lighter,start-again,stop-move,off-the-plan,as-before"`
	LoadG  measure.Mass    `json:"loadG"`
	Loaded bool            `json:"loaded" doc:"whether the load is said"`
	Reps   int             `json:"reps"`
	To     string          `json:"to,omitempty" doc:"a rung up or down"`
	Joints []string        `json:"joints" doc:"that hurt"`
	// Overruled says that the instructor set it aside.
	Overruled bool    `json:"overruled"`
	Why       why.Why `json:"why"`
}

// Decisions lists what the log says of every lane's moves for a document, pain first.
func Decisions(d Document, c Context) []Decided {
	out := []Decided{}
	class := c.class(d, nil)
	for _, l := range c.Lanes {
		if l.People == 0 {
			continue
		}
		j := choice.For(class, l.party())
		hurt := map[string]bool{}
		for _, h := range j.Hurts() {
			advice := progress.StopMove
			if h.Out {
				advice = progress.OffPlan
			}
			hurt[h.Move] = !h.Overruled
			out = append(out, Decided{Lane: l.Lane, Move: h.Move, Advice: advice, Joints: h.Joints, Overruled: h.Overruled, Why: h.Why})
		}
		for _, x := range j.Decisions() {
			if !hurt[x.Move] {
				out = append(out, Decided{l.Lane, x.Move, x.Advice, x.Load, x.Loaded, x.Reps, x.To, []string{}, x.Overruled, x.Why})
			}
		}
	}
	return out
}

// Count is how often an advice was given.
type Count struct {
	Advice progress.Advice `json:"advice" enum:"keep,keep-limit,more-reps,next-load,bridge,next-rung,fewer-reps,less-load,rung-down,lighter,start-again,stop-move,off-the-plan,as-before"`
	N      int             `json:"n"`
}

// CountDecisions counts what was decided, not what was set aside, in the order in which
// each advice first comes.
func CountDecisions(all []Decided) []Count {
	out := []Count{}
	at := map[progress.Advice]int{}
	for _, d := range all {
		if d.Overruled {
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
