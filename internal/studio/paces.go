package studio

import (
	"context"
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/pace"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/run"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/store"
)

// pacedRuns is how many runs back own times are looked for.
const pacedRuns = 20

// PaceInput takes a time of the house's own over, or gives it back.
type PaceInput struct {
	What    pace.What `json:"what"`
	Variant string    `json:"variant,omitempty" maxLength:"60" doc:"of a time per repetition"`
	Use     bool      `json:"use" doc:"false plans as reckoned again"`
}

// Paces gives the house's own times, as far as its runs speak for them.
func (s Studio) Paces(ctx context.Context) ([]pace.Offer, error) {
	lib, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	rows, err := s.store.RecentRuns(ctx, s.scope, pacedRuns)
	if err != nil {
		return nil, err
	}
	var all [][]pace.Sample
	for _, r := range rows {
		p, err := s.began(r.Plan)
		if err == nil {
			p, err = s.swapped(p, r.Events)
		}
		if err != nil {
			return nil, err
		}
		all = append(all, pace.Samples(p, runEvents(r.Events), s.now().UnixMilli(), doneOf(r.Lines), lib))
	}
	return pace.Offers(all, lib), nil
}

// doneOf looks up what was logged of a set that nobody stopped.
func doneOf(lines []store.LogLine) pace.Done {
	return func(slot string, who people.Party) (int, bool) {
		i := slices.IndexFunc(lines, func(l store.LogLine) bool { return l.Slot == slot && l.Subject == string(who) })
		if i < 0 {
			return 0, false
		}
		return lines[i].Done, true
	}
}

// PutPace takes a time of the house's own over that its runs speak for, or gives it back.
func (s Studio) PutPace(ctx context.Context, in PaceInput, wrong *fault.List) ([]pace.Offer, error) {
	if (in.What == pace.PerRep) != (in.Variant != "") {
		wrong.Note("variant", "a time per repetition is a move's, the others are the house's", in.Variant)
		return nil, wrong.Err()
	}
	offer := pace.Offer{What: in.What, Variant: in.Variant} // given back it is nothing
	if in.Use {
		offers, err := s.Paces(ctx)
		if err != nil {
			return nil, err
		}
		i := slices.IndexFunc(offers, func(o pace.Offer) bool { return o.What == in.What && o.Variant == in.Variant })
		if i < 0 || offers[i].Own == 0 {
			wrong.Note("what", "the runs of the house do not speak for a time of its own here", in.What)
			return nil, wrong.Err()
		}
		offer = offers[i]
	}
	err := s.changeStyle(ctx, func(old moves.Style) moves.Style {
		var t moves.Times
		if old.Times != nil {
			t = *old.Times
		}
		t = pace.Taken(t, offer, in.Use)
		old.Times = nil
		if len(t.PerRep) > 0 || t.ChangeOverPct != 0 || t.TeachPct != 0 {
			old.Times = &t
		}
		return old
	})
	if err != nil {
		return nil, err
	}
	return s.Paces(ctx)
}

// Timing is what was planned of a stretch of a run, and what it really took.
type Timing struct {
	cue.Stretch
	RealMs int64       `json:"realMs" doc:"with time that was added"`
	HeldMs int64       `json:"heldMs" doc:"what the clock was held besides"`
	By     cue.RunKind `json:"by,omitempty" enum:"skip,next,end" doc:"what ended it; nothing where it ran out"`
}

// Spent is what the stretches of one kind in one slot of a run came to.
type Spent struct {
	cue.Spent
	For     circuit.Kind  `json:"for,omitempty" doc:"what its block is for"`
	Scheme  scheme.Name   `json:"scheme,omitempty" doc:"of its block"`
	Pattern moves.Pattern `json:"pattern,omitempty" doc:"of its slot"`
}

// Timings are the planned and the real seconds of a run.
type Timings struct {
	Stretches []Timing `json:"stretches" maxItems:"20000" doc:"those that the class came to, in order"`
	Spent     []Spent  `json:"spent" maxItems:"500" doc:"what those that are over came to, by slot and kind"`
}

// Timings gives the planned and the real seconds of a run.
func (s Studio) Timings(ctx context.Context, id string) (Timings, error) {
	row, events, err := s.store.Run(ctx, s.scope, id)
	if err != nil {
		return Timings{}, err
	}
	p, err := s.began(row.Plan)
	if err != nil {
		return Timings{}, err
	}
	out := Timings{Stretches: []Timing{}, Spent: []Spent{}}
	lasted, _ := cue.Lasting(p.Order, runEvents(events), s.now().UnixMilli())
	for _, l := range lasted {
		out.Stretches = append(out.Stretches, Timing{p.Order.Stretches[l.Stretch], l.Real, l.Held, l.By})
	}
	for _, x := range p.Order.Spent(lasted) {
		named := Spent{Spent: x}
		if i := slices.IndexFunc(p.Blocks, func(b run.Block) bool { return b.ID == x.Block }); i >= 0 {
			named.For = p.Blocks[i].Kind
			if p.Blocks[i].Scheme != nil {
				named.Scheme = p.Blocks[i].Scheme.Kind
			}
		}
		if i := slices.IndexFunc(p.Slots, func(s run.Slot) bool { return s.ID == x.Slot }); i >= 0 {
			named.Pattern = p.Slots[i].Pattern
		}
		out.Spent = append(out.Spent, named)
	}
	return out, nil
}
