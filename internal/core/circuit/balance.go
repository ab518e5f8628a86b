package circuit

import (
	"slices"
	"sort"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
)

func sortedKeys[V any](m map[string]V) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	sort.Strings(keys)
	return keys
}

// most answers a question about a slot by the lanes' variants: yes when at
// least half of them say so.
func most(s Slot, c Context, is func(*moves.Variant) bool) bool {
	yes, all := 0, 0
	for _, l := range c.Lanes {
		if v, ok := c.Library.Get(s.Lanes[l.Lane].Variant); ok && l.People > 0 {
			all++
			if is(v) {
				yes++
			}
		}
	}
	return all > 0 && 2*yes >= all
}

func isLeg(p moves.Pattern) bool {
	switch p {
	case moves.Squat, moves.Lunge, moves.Lateral, moves.Hinge, moves.Bridge:
		return true
	}
	return false
}

// balance weighs push with pull, front of the thigh with back, two legs with
// one, front-to-back with sideways and turning; a combined move counts for its parts.
// Uneven: push and pull or front and back more than one apart, and more than a third;
// of three leg moves and more none on one leg; of four moves and more none to the side.
func balance(d Document, c Context) []Beam {
	beams := []Beam{
		{Left: "push", Right: "pull"},
		{Left: "front", Right: "back"},
		{Left: "two-legs", Right: "one-leg"},
		{Left: "straight", Right: "sideways"},
	}
	count := func(b *Beam, left, right bool) {
		if left {
			b.LeftN++
		} else if right {
			b.RightN++
		}
	}
	for _, s := range d.Slots {
		trains := func(ps ...moves.Pattern) bool {
			return most(s, c, func(v *moves.Variant) bool {
				return slices.ContainsFunc(v.Trains(), func(p moves.Pattern) bool { return slices.Contains(ps, p) })
			})
		}
		push, pull := trains(moves.PushLevel, moves.PushOverhead), trains(moves.Pull)
		count(&beams[0], push, pull)
		if push && pull {
			beams[0].RightN++ // a combined move counts on both sides
		}
		count(&beams[1], most(s, c, func(v *moves.Variant) bool { return v.Thigh == "front" }),
			most(s, c, func(v *moves.Variant) bool { return v.Thigh == "back" }))
		if trains(moves.Squat, moves.Lunge, moves.Lateral, moves.Hinge, moves.Bridge) {
			one := most(s, c, (*moves.Variant).OnOneLeg)
			count(&beams[2], !one, one)
		}
		straight := most(s, c, func(v *moves.Variant) bool { return v.Plane == "front-to-back" })
		count(&beams[3], straight, !straight)
	}
	for i := range beams {
		b := &beams[i]
		off := abs(b.LeftN - b.RightN)
		switch b.Left {
		case "straight":
			b.Uneven = b.RightN == 0 && b.LeftN > 3
		case "two-legs":
			b.Uneven = b.LeftN >= 3 && b.RightN == 0 || b.RightN >= 3 && b.LeftN == 0
		default:
			b.Uneven = off > 1 && 3*off > b.LeftN+b.RightN
		}
	}
	return beams
}

// flags lists what is worth a look, in the order of the slots.
func flags(p Plan, d Document, c Context, judges map[moves.Lane]*choice.Judge) []Flag {
	out := []Flag{}
	add := func(slot string, w why.Why) { out = append(out, Flag{Slot: slot, Why: w}) }
	if p.SlackMs < 0 {
		add("", why.Of(why.FlagTooLong, why.Arithmetic, why.Ms("over", int64(-p.SlackMs))))
	}
	for _, missing := range uncovered(d, c, judges) {
		add("", why.Of(why.FlagNoPattern, why.Practice, why.ID("pattern", string(missing))))
	}
	for _, b := range p.Balance {
		if b.Uneven {
			add("", why.Of(why.FlagUneven, why.Practice, why.ID("left", b.Left), why.ID("right", b.Right),
				why.N("leftN", b.LeftN), why.N("rightN", b.RightN)))
		}
	}
	for i, s := range d.Slots {
		if i > 0 {
			if isLeg(s.Pattern) && isLeg(d.Slots[i-1].Pattern) {
				add(s.ID, why.Of(why.FlagLegsTwice, why.Practice))
			}
			if link := sharedLink(d.Slots[i-1], s, c); link != "" {
				add(s.ID, why.Of(why.FlagWeakLink, why.Practice, why.ID("link", link)))
			}
		}
		for _, x := range p.Slots[i].Shorts {
			add(s.ID, why.Of(why.FlagShort, why.Arithmetic, why.ID("item", x.Item), why.N("used", x.Used),
				why.N("present", x.Present)))
		}
		for _, cell := range p.Slots[i].Cells {
			lane := why.ID("lane", string(cell.Lane))
			for _, w := range cell.Faults {
				w.Terms = append([]why.Term{lane}, w.Terms...)
				out = append(out, Flag{Slot: s.ID, Why: w, Wrong: true})
			}
			flagCell(cell, s, d, c, func(w why.Why) {
				w.Terms = append([]why.Term{lane}, w.Terms...)
				add(s.ID, w)
			})
		}
		if apart := endsApart(p.Slots[i]); d.Format == Reps && apart > waitMost {
			add(s.ID, why.Of(why.FlagApart, why.House, why.Ms("apart", int64(apart)), why.Ms("most", int64(waitMost))))
		}
	}
	for _, item := range repackedItems(d) {
		add("", why.Of(why.FlagRepacked, why.House, why.ID("item", item)))
	}
	return out
}

// mustCover are the patterns that a circuit covers; of each the first is what is said to
// be missing.
var mustCover = [][]moves.Pattern{
	{
		moves.Squat,
	}, {moves.Lunge, moves.Lateral}, {moves.Hinge}, {moves.Bridge}, {moves.PushLevel, moves.PushOverhead}, {moves.Pull},
}

// uncovered lists the patterns that are missing, not those that were banned or that a
// limit takes away, nor what a first class leaves for the next.
func uncovered(d Document, c Context, judges map[moves.Lane]*choice.Judge) []moves.Pattern {
	var out []moves.Pattern
	for _, any := range mustCover {
		trained := slices.ContainsFunc(d.Slots, func(s Slot) bool {
			return slices.Contains(any, s.Pattern) || most(s, c, func(v *moves.Variant) bool {
				return slices.ContainsFunc(v.Trains(), func(p moves.Pattern) bool { return slices.Contains(any, p) })
			})
		})
		if !trained && !excused(d, any, judges) {
			out = append(out, any[0])
		}
	}
	return out
}

// excused tells whether patterns are missing for a reason that is known: banned, left by
// the limits with nothing that may be given, or new to a lane that is still starting out.
func excused(d Document, any []moves.Pattern, judges map[moves.Lane]*choice.Judge) bool {
	if slices.ContainsFunc(any, func(p moves.Pattern) bool { return slices.Contains(d.Bans, string(p)) }) ||
		startingIn(judges, any) {
		return true
	}
	for _, j := range judges {
		if len(j.Limits()) > 0 && !slices.ContainsFunc(any, func(p moves.Pattern) bool {
			return slices.ContainsFunc(
				j.Library.OfPattern(p),
				func(v *moves.Variant) bool { return len(j.Entries(v)) > 0 },
			)
		}) {
			return true
		}
	}
	return false
}

// endsApart is how far apart the lanes' sets of a slot end.
func endsApart(s SlotPlan) measure.Span {
	if len(s.Cells) == 0 {
		return 0
	}
	short, long := s.Cells[0].SetMs, s.Cells[0].SetMs
	for _, c := range s.Cells {
		short, long = min(short, c.SetMs), max(long, c.SetMs)
	}
	return long - short
}

// repackedItems lists the containers that a document packs more than once.
func repackedItems(d Document) []string {
	as := map[string]kit.Load{}
	var out []string
	for _, s := range d.Slots {
		for _, lane := range moves.Lanes {
			l := s.Lanes[lane].Load
			if l.Kind != kit.Made || l.Container == "" {
				continue
			}
			if was, had := as[l.Container]; had && !was.Equal(l) && !slices.Contains(out, l.Container) {
				out = append(out, l.Container)
			}
			as[l.Container] = l
		}
	}
	return out
}

// shortInWords is from how many per cent on what is missing is said (house).
const shortInWords = 10.0

func flagCell(cell Cell, s Slot, d Document, c Context, add func(why.Why)) {
	v, ok := c.Library.Get(cell.Entry.Variant)
	if !ok {
		return
	}
	if !slices.Contains(standIns(s.Pattern), v.Pattern) && !slices.Contains(v.Trains(), s.Pattern) {
		add(why.Of(why.FaultPattern, why.Practice, why.ID("pattern", string(s.Pattern)),
			why.ID("of", string(v.Pattern))))
	}
	switch {
	case cell.PerSide == 0:
		add(why.Of(why.FlagNoRep, why.Arithmetic))
	case d.Format == Timed && cell.PerSide < v.RepsLow && len(v.Parts) == 0:
		add(why.Of(why.FlagUnderDose, why.House, why.N("reps", cell.PerSide), why.N("low", v.RepsLow)))
	}
	side, most := measure.Span(cell.PerSide)*tempoOf(cell.Entry).PerRep(), longSide
	if len(v.Parts) > 0 || v.Staged() {
		most = longUnit
	}
	if d.Format == Reps && side > most {
		add(why.Of(why.FlagLongSet, why.House, why.Ms("side", int64(side)), why.Ms("most", int64(most))))
	}
	switch {
	case cell.FarTooLight:
		add(why.Of(why.FlagFarTooLight, why.House, why.Pct("short", cell.ShortPct)))
	case cell.LeftPct <= -shortInWords:
		add(why.Of(why.FlagShortEffort, why.House, why.Pct("left", cell.LeftPct)))
	}
	if v.Sides == moves.PerSide && cell.Entry.Sides == BothSides ||
		v.Sides == moves.BothSides && cell.Entry.Sides != BothSides {
		add(why.Of(why.FlagSides, why.Practice))
	}
	for _, w := range cell.Asks {
		add(w)
	}
}

func sharedLink(a, b Slot, c Context) string {
	for _, l := range c.Lanes {
		va, oka := c.Library.Get(a.Lanes[l.Lane].Variant)
		vb, okb := c.Library.Get(b.Lanes[l.Lane].Variant)
		if !oka || !okb || l.People == 0 {
			continue
		}
		for _, link := range va.WeakLinks {
			if link == "grip" &&
				(a.Lanes[l.Lane].Hold == moves.NoLoad && !slices.Contains(va.Needs, "table") || b.Lanes[l.Lane].Hold == moves.NoLoad && !slices.Contains(vb.Needs, "table")) {
				continue // the grip tires only where something is held
			}
			if slices.Contains(vb.WeakLinks, link) {
				return link
			}
		}
	}
	return ""
}
