package studio

import (
	"reflect"
	"slices"

	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
)

// since says what is other in a circuit than in an earlier answer about it.
func (c *Circuit) since(before Circuit) Change {
	now, old := c.Plan, before.Plan
	out := Change{
		From:     before.Tag,
		Tag:      c.Tag,
		Version:  c.Version,
		CanUndo:  c.CanUndo,
		CanRedo:  c.CanRedo,
		Document: c.Document,
		Plan: PlanChange{
			TotalMs:  now.TotalMs,
			ClassMs:  now.ClassMs,
			SlackMs:  now.SlackMs,
			Fits:     now.Fits,
			Why:      now.Why,
			SlotIDs:  []string{},
			Slots:    []SlotChange{},
			Blocks:   other(now.Blocks, old.Blocks),
			Totals:   other(now.Totals, old.Totals),
			Prep:     other(now.Prep, old.Prep),
			Teach:    other(now.Teach, old.Teach),
			Floors:   other(now.Floors, old.Floors),
			Pressure: other(now.Pressure, old.Pressure),
			Balance:  other(now.Balance, old.Balance),
			Flags:    other(now.Flags, old.Flags),
		},
	}
	if !reflect.DeepEqual(c.Occurrence, before.Occurrence) {
		out.Occurrence = &c.Occurrence
	}
	out.Items, out.Notes = other(c.Items, before.Items), other(c.Notes, before.Notes)
	out.Decided = other(c.Decided, before.Decided)
	if !reflect.DeepEqual(now.Order, old.Order) {
		out.Plan.Order = &now.Order
	}
	for _, s := range now.Slots {
		out.Plan.SlotIDs = append(out.Plan.SlotIDs, s.ID)
		i := slices.IndexFunc(old.Slots, func(o plan.SlotPlan) bool { return o.ID == s.ID })
		if i < 0 {
			out.Plan.Slots = append(out.Plan.Slots, slotSince(s, plan.SlotPlan{}))
		} else if !reflect.DeepEqual(old.Slots[i], s) {
			out.Plan.Slots = append(out.Plan.Slots, slotSince(s, old.Slots[i]))
		}
	}
	return out
}

// slotSince says what is other in a slot.
func slotSince(s, before plan.SlotPlan) SlotChange {
	out := SlotChange{
		ID:      s.ID,
		Block:   s.Block,
		Pattern: s.Pattern,
		WorkMs:  s.WorkMs,
		SlotMs:  s.SlotMs,
		RestMs:  s.RestMs,
		RestWhy: s.RestWhy,
		Grown:   s.Grown,
		LearnMs: s.LearnMs,
		Parties: []people.Party{},
		Cells:   []plan.Cell{},
		Shorts:  s.Shorts,
	}
	for _, c := range s.Cells {
		out.Parties = append(out.Parties, c.Party)
		if !slices.ContainsFunc(
			before.Cells,
			func(o plan.Cell) bool { return o.Party == c.Party && reflect.DeepEqual(o, c) },
		) {
			out.Cells = append(out.Cells, c)
		}
	}
	return out
}

// other gives a list that is another than before, nil for the same.
func other[T any](now, before []T) *[]T {
	if reflect.DeepEqual(now, before) {
		return nil
	}
	return &now
}
