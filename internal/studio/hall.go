package studio

import (
	"context"
	"fmt"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/compose"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/store"
)

// DayInput is how the day came: all of it, not what is new since the last time.
type DayInput struct {
	Revision
	Day circuit.Day `json:"day"`
}

// DayDone is what became of a circuit on the day.
type DayDone struct {
	Edited
	Said []why.Why `json:"said" doc:"what changed, in at most three lines"`
}

// Day changes a circuit as little as can be for the day as it came; undo brings back both the
// plan and the day before.
func (s Studio) Day(ctx context.Context, id string, in DayInput, wrong *fault.List) (DayDone, error) {
	back, err := s.Search(ctx)
	if err != nil {
		return DayDone{}, err
	}
	defer back()
	var out DayDone
	out.Edited, err = edited(
		s.change(ctx, id, in.Revision, changing{kind: "day", work: func(v view) ([]circuit.Op, error) {
			for i, m := range in.Day.Missing {
				if v.whole().Stock.Pieces(m.Item) < m.Count {
					wrong.Note(fmt.Sprintf("day.missing[%d].count", i), "the place has not so many of it", m.Count)
				}
			}
			for _, f := range in.Day.Check().Under("day") {
				wrong.Note(f.Path, f.Message, f.Value)
			}
			if err := wrong.Err(); err != nil {
				return nil, err
			}
			a := compose.Adapt(v.Document, v.Context, in.Day)
			out.Said = a.Said
			return []circuit.Op{{Kind: circuit.Replace, Document: &a.Document}}, ctx.Err()
		}}),
	)
	out.Said = none(out.Said)
	return out, err
}

// whole is the context as the day was planned.
func (v view) whole() plan.Context { return v.Context.On(circuit.Document{}) }

// Rehearsal tells who has what in hand through a class.
func (s Studio) Rehearsal(ctx context.Context, id string) (plan.Rehearsal, error) {
	v, err := s.view(ctx, id)
	if err != nil {
		return plan.Rehearsal{}, err
	}
	return plan.Rehearse(v.Document, v.Context), nil
}

// WhyNot says why a move does not stand in a slot for a party.
func (s Studio) WhyNot(ctx context.Context, id, slot, party, move string) (compose.WhyNot, error) {
	back, err := s.Search(ctx)
	if err != nil {
		return compose.WhyNot{}, err
	}
	defer back()
	v, err := s.view(ctx, id)
	if err != nil {
		return compose.WhyNot{}, err
	}
	out, ok := compose.NotThere(v.Document, v.Context, slot, people.Party(party), move, measure.Unit(v.Class.MassUnit))
	if !ok {
		return out, store.ErrNotFound
	}
	return out, ctx.Err()
}

// HallShort tells where the place of a circuit is short for it, and what would help.
func (s Studio) HallShort(ctx context.Context, id string) (compose.Hall, error) {
	back, err := s.Search(ctx)
	if err != nil {
		return compose.Hall{}, err
	}
	defer back()
	v, err := s.view(ctx, id)
	if err != nil {
		return compose.Hall{}, err
	}
	return compose.Short(v.Document, v.Context, measure.Unit(v.Class.MassUnit)), ctx.Err()
}
