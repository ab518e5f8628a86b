package studio

import (
	"reflect"
	"slices"

	"nimbleanvil/internal/core/circuit"
)

// since says what is other in a circuit than in an earlier answer about it.
func (c *Circuit) since(before Circuit) Change {
	now, old := c.Plan, before.Plan
	out := Change{From: before.Tag, Tag: c.Tag, Version: c.Version, CanUndo: c.CanUndo, CanRedo: c.CanRedo, Document: c.Document,
		Plan: PlanChange{TotalMs: now.TotalMs, ClassMs: now.ClassMs, SlackMs: now.SlackMs, Fits: now.Fits, Why: now.Why, SlotIDs: []string{}, Slots: []circuit.SlotPlan{},
			Pressure: now.Pressure, Balance: now.Balance, Flags: now.Flags}}
	if !reflect.DeepEqual(c.Occurrence, before.Occurrence) {
		out.Occurrence = &c.Occurrence
	}
	out.Items, out.Notes, out.Decided = other(c.Items, before.Items), other(c.Notes, before.Notes), other(c.Decided, before.Decided)
	if !reflect.DeepEqual(now.Order, old.Order) {
		out.Plan.Order = &now.Order
	}
	for _, s := range now.Slots {
		out.Plan.SlotIDs = append(out.Plan.SlotIDs, s.ID)
		if !slices.ContainsFunc(old.Slots, func(o circuit.SlotPlan) bool { return o.ID == s.ID && reflect.DeepEqual(o, s) }) {
			out.Plan.Slots = append(out.Plan.Slots, s)
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
