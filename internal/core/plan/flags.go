package plan

import (
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// flags lists what is worth a look, in the order of the slots.
func flags(p Plan, d circuit.Document, c Context, judges Judges) []Flag {
	out := []Flag{}
	add := func(slot string, w why.Why) { out = append(out, Flag{Slot: slot, Why: w}) }
	if p.SlackMs < 0 {
		add("", why.Of(why.FlagTooLong, why.Arithmetic, why.Ms("over", int64(-p.SlackMs))))
	}
	alternates := d.Template.Alternates() // what another leaves out is meant
	if alternates {
		for _, missing := range uncovered(d, c, judges.All()) {
			add("", why.Of(why.FlagNoPattern, why.Practice, why.ID("pattern", string(missing))))
		}
	}
	for _, b := range p.Balance {
		if b.Uneven && alternates {
			add("", why.Of(why.FlagUneven, why.Practice, why.ID("left", b.Left), why.ID("right", b.Right),
				why.N("leftN", b.LeftN), why.N("rightN", b.RightN)))
		}
	}
	i := 0
	for _, b := range d.Blocks {
		for n := range b.Slots {
			out = append(out, slotFlags(p.Slots[i], b, n, alternates, c)...)
			i++
		}
	}
	for _, item := range Repacked(d) {
		add("", why.Of(why.FlagRepacked, why.House, why.ID("item", item)))
	}
	return out
}

// slotFlags lists what is worth a look in a slot. That neighbours tire the same is said where
// they follow each other at once.
func slotFlags(sp SlotPlan, b circuit.Block, n int, alternates bool, c Context) []Flag {
	var out []Flag
	s := b.Slots[n]
	add := func(w why.Why) { out = append(out, Flag{Slot: s.ID, Why: w}) }
	if n > 0 && b.Kind.Loaded() && b.Is(scheme.Circuit, scheme.Superset, scheme.Interval, scheme.Windowed) {
		if alternates && b.Is(scheme.Circuit) && s.Pattern.OfTheLegs() && b.Slots[n-1].Pattern.OfTheLegs() {
			add(why.Of(why.FlagLegsTwice, why.Practice))
		}
		if link := SharedLink(b.Slots[n-1], s, c); link != "" {
			add(why.Of(why.FlagWeakLink, why.Practice, why.ID("link", link)))
		}
	}
	for _, x := range sp.Shorts {
		add(why.Of(why.FlagShort, why.Arithmetic, why.ID("item", x.Item), why.N("used", x.Used),
			why.N("present", x.Present)))
	}
	_, byClock := b.ByClock(s)
	for _, cell := range sp.Cells {
		lane := why.ID("lane", string(cell.Party))
		for _, w := range cell.Faults {
			w.Terms = append([]why.Term{lane}, w.Terms...)
			out = append(out, Flag{Slot: s.ID, Why: w, Wrong: true})
		}
		for _, w := range cell.Breaks {
			out = append(out, Flag{Slot: s.ID, Why: w, Wrong: true})
		}
		flagCell(cell, s, byClock, c, func(w why.Why) {
			w.Terms = append([]why.Term{lane}, w.Terms...)
			add(w)
		})
	}
	if apart := endsApart(sp); !byClock && b.Kind.Loaded() && apart > WaitMost {
		add(why.Of(why.FlagApart, why.House, why.Ms("apart", int64(apart)), why.Ms("most", int64(WaitMost))))
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
func uncovered(d circuit.Document, c Context, judges map[people.Party]*choice.Judge) []moves.Pattern {
	var out []moves.Pattern
	for _, any := range mustCover {
		trained := slices.ContainsFunc(d.Loaded(), func(s circuit.Slot) bool {
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
func excused(d circuit.Document, any []moves.Pattern, judges map[people.Party]*choice.Judge) bool {
	if slices.ContainsFunc(any, func(p moves.Pattern) bool { return slices.Contains(d.Bans, string(p)) }) ||
		StartingIn(judges, any) {
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

// Repacked lists the containers that a document packs more than once.
func Repacked(d circuit.Document) []string {
	as := map[string]kit.Load{}
	var out []string
	for _, s := range d.Slots() {
		for _, party := range people.Parties(s.Entries) {
			l := s.Entries[party].Load
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

func flagCell(cell Cell, s circuit.Slot, byClock bool, c Context, add func(why.Why)) {
	v, ok := c.Library.Get(cell.Entry.Variant)
	if !ok {
		return
	}
	if !slices.Contains(s.Pattern.StandIns(), v.Pattern) && !slices.Contains(v.Trains(), s.Pattern) {
		add(why.Of(why.FaultPattern, why.Practice, why.ID("pattern", string(s.Pattern)),
			why.ID("of", string(v.Pattern))))
	}
	switch {
	case cell.PerSide == 0 && cell.Entry.Dose.Kind != circuit.Seconds:
		add(why.Of(why.FlagNoRep, why.Arithmetic))
	case byClock && cell.PerSide < v.RepsLow && len(v.Parts) == 0:
		add(why.Of(why.FlagUnderDose, why.House, why.N("reps", cell.PerSide), why.N("low", v.RepsLow)))
	}
	side, most := measure.Span(cell.PerSide)*cell.Entry.PerRep(c.Library), LongSide
	if len(v.Parts) > 0 || v.Staged() {
		most = longUnit
	}
	if !byClock && side > most {
		add(why.Of(why.FlagLongSet, why.House, why.Ms("side", int64(side)), why.Ms("most", int64(most))))
	}
	switch {
	case cell.FarTooLight:
		add(why.Of(why.FlagFarTooLight, why.House, why.Pct("short", cell.ShortPct)))
	case cell.LeftPct <= -shortInWords:
		add(why.Of(why.FlagShortEffort, why.House, why.Pct("left", cell.LeftPct)))
	}
	if v.Sides == moves.PerSide && cell.Entry.Sides == scheme.BothSides ||
		v.Sides == moves.BothSides && cell.Entry.Sides != scheme.BothSides {
		add(why.Of(why.FlagSides, why.Practice))
	}
	for _, w := range cell.Asks {
		add(w)
	}
}

// SharedLink names what two slots running tire in somebody; empty for nothing.
func SharedLink(a, b circuit.Slot, c Context) string {
	for _, p := range c.Parties {
		ea, _ := a.Of(p.ID(), p.Lane)
		eb, _ := b.Of(p.ID(), p.Lane)
		va, oka := c.Library.Get(ea.Variant)
		vb, okb := c.Library.Get(eb.Variant)
		if !oka || !okb || p.People == 0 {
			continue
		}
		for _, link := range va.WeakLinks {
			if link == "grip" &&
				(ea.Hold == moves.NoLoad && !slices.Contains(va.Needs, "table") ||
					eb.Hold == moves.NoLoad && !slices.Contains(vb.Needs, "table")) {
				continue // the grip tires only where something is held
			}
			if slices.Contains(vb.WeakLinks, link) {
				return link
			}
		}
	}
	return ""
}

// WaitMost is how far apart the lanes' sets of a slot may end by repetitions, LongSide
// how long a side of a set may be before it is questioned, and longUnit the same for
// chains, complexes and get-ups (house).
const (
	WaitMost = 30 * measure.Second
	LongSide = 90 * measure.Second
	longUnit = 180 * measure.Second
)

// StartingIn tells whether some lane is in its first sessions of some of the patterns, so
// that a class leaves them for the next.
func StartingIn(judges map[people.Party]*choice.Judge, patterns []moves.Pattern) bool {
	for _, j := range judges {
		for _, p := range patterns {
			if all := j.Library.OfPattern(p); len(all) > 0 && j.Starting(all[0]) {
				return true
			}
		}
	}
	return false
}
