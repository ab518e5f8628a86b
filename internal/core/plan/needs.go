package plan

import (
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/why"
)

// Needs lists what a class still needs before it can be run: slots at all, a
// version for every lane with people, time that is enough, kit that is there, nothing
// that is not allowed. A class without a circuit needs one.
func Needs(d *circuit.Document, p Plan, c Context) []why.Why {
	if d == nil || len(d.Slots()) == 0 {
		return []why.Why{why.Of(why.NeedCircuit, why.Arithmetic)}
	}
	c = c.On(*d)
	needs := []why.Why{}
	if p.SlackMs < 0 {
		needs = append(needs, why.Of(why.FlagTooLong, why.Arithmetic, why.Ms("over", int64(-p.SlackMs))))
	}
	for _, l := range c.Parties {
		if l.Participant == "" && l.People > 0 && slices.ContainsFunc(d.Slots(), func(s circuit.Slot) bool {
			_, ok := s.Entries[l.ID()]
			return !ok
		}) {
			needs = append(needs, why.Of(why.NeedLane, why.Arithmetic, why.ID("lane", string(l.Lane))))
		}
	}
	for _, s := range p.Slots {
		for _, x := range s.Shorts {
			needs = append(needs, why.Of(why.FlagShort, why.Arithmetic, why.ID("pattern", string(s.Pattern)),
				why.ID("item", x.Item), why.N("used", x.Used), why.N("present", x.Present)))
		}
		for _, c := range s.Cells {
			if c.Unknown {
				needs = append(needs, why.Of(why.NeedKitGone, why.Arithmetic, why.ID("pattern", string(s.Pattern)),
					why.ID("lane", string(c.Party))))
			}
		}
	}
	for _, f := range p.Flags {
		if f.Wrong && !ofSpared(f.Why) && !c.Unread {
			needs = append(needs, f.Why)
		}
	}
	return append(needs, c.sparedNeeds(p)...)
}
