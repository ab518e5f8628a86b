package circuit

import (
	"slices"
	"sort"

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

func isPush(p moves.Pattern) bool { return p == moves.PushLevel || p == moves.PushOverhead }

// balance weighs push with pull, front of the thigh with back, two legs with
// one, front-to-back with sideways and turning. Uneven: more than one apart, or
// nothing at all to the side.
func balance(d Document, c Context) []Beam {
	beams := []Beam{{Left: "push", Right: "pull"}, {Left: "front", Right: "back"}, {Left: "two-legs", Right: "one-leg"}, {Left: "straight", Right: "sideways"}}
	count := func(b *Beam, left, right bool) {
		if left {
			b.LeftN++
		} else if right {
			b.RightN++
		}
	}
	for _, s := range d.Slots {
		count(&beams[0], isPush(s.Pattern), s.Pattern == moves.Pull)
		count(&beams[1], most(s, c, func(v *moves.Variant) bool { return v.Thigh == "front" }), most(s, c, func(v *moves.Variant) bool { return v.Thigh == "back" }))
		if isLeg(s.Pattern) {
			one := most(s, c, (*moves.Variant).OnOneLeg)
			count(&beams[2], !one, one)
		}
		straight := most(s, c, func(v *moves.Variant) bool { return v.Plane == "front-to-back" })
		count(&beams[3], straight, !straight)
	}
	for i := range beams {
		b := &beams[i]
		b.Uneven = b.LeftN-b.RightN > 1 || b.RightN-b.LeftN > 1
		if b.Left == "straight" {
			b.Uneven = b.RightN == 0 && b.LeftN > 0
		}
	}
	return beams
}

// flags lists what is worth a look, in the order of the slots.
func flags(p Plan, d Document, c Context) []Flag {
	out := []Flag{}
	add := func(slot string, w why.Why) { out = append(out, Flag{slot, w}) }
	if p.SlackMs < 0 {
		add("", why.Of(why.FlagTooLong, why.Arithmetic, why.Ms("over", int64(-p.SlackMs))))
	}
	covered := map[moves.Pattern]bool{}
	for _, s := range d.Slots {
		covered[s.Pattern] = true
	}
	for _, need := range []struct{ any []moves.Pattern }{
		{[]moves.Pattern{moves.Squat}}, {[]moves.Pattern{moves.Lunge, moves.Lateral}}, {[]moves.Pattern{moves.Hinge}},
		{[]moves.Pattern{moves.Bridge}}, {[]moves.Pattern{moves.PushLevel, moves.PushOverhead}}, {[]moves.Pattern{moves.Pull}},
	} {
		if !slices.ContainsFunc(need.any, func(p moves.Pattern) bool { return covered[p] }) {
			add("", why.Of(why.FlagNoPattern, why.Practice, why.ID("pattern", string(need.any[0]))))
		}
	}
	for _, b := range p.Balance {
		if b.Uneven {
			add("", why.Of(why.FlagUneven, why.Practice, why.ID("left", b.Left), why.ID("right", b.Right), why.N("leftN", b.LeftN), why.N("rightN", b.RightN)))
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
			add(s.ID, why.Of(why.FlagShort, why.Arithmetic, why.ID("item", x.Item), why.N("used", x.Used), why.N("present", x.Present)))
		}
		for _, cell := range p.Slots[i].Cells {
			flagCell(cell, c, func(w why.Why) {
				w.Terms = append([]why.Term{why.ID("lane", string(cell.Lane))}, w.Terms...)
				add(s.ID, w)
			})
		}
	}
	return out
}

func flagCell(cell Cell, c Context, add func(why.Why)) {
	v, ok := c.Library.Get(cell.Entry.Variant)
	if !ok {
		return
	}
	if cell.PerSide == 0 {
		add(why.Of(why.FlagNoRep, why.Arithmetic))
	}
	if code := overreach(v, cell.Lane, cell.LoadG, cell.IronPct); code != "" {
		add(why.Of(code, why.House, why.G("load", float64(cell.LoadG)), why.G("wanted", float64(cell.WantedG)), why.Pct("iron", cell.IronPct)))
	}
	if v.Sides == moves.PerSide && cell.Entry.Sides == BothSides || v.Sides == moves.BothSides && cell.Entry.Sides != BothSides {
		add(why.Of(why.FlagSides, why.Practice))
	}
	if len(missingAnchors(v, cell.Entry)) > 0 {
		add(why.Of(why.FlagAnchor, why.Practice, why.ID("need", missingAnchors(v, cell.Entry)[0])))
	}
}

// overreach says in what way a load is above what is proposed for a lane in a
// move; empty when it is not.
func overreach(v *moves.Variant, lane moves.Lane, load measure.Mass, ironPct float64) why.Code {
	switch {
	case load == 0 || ironPct <= 0:
		return ""
	case v.NeverUp() || lane == moves.Ground:
		return why.FlagRoundedUp
	case ironPct > kit.GoodIronPct:
		return why.FlagHeavy
	}
	return ""
}

func missingAnchors(v *moves.Variant, e Entry) []string {
	if len(e.Anchors) >= len(v.Needs) {
		return nil
	}
	return v.Needs[len(e.Anchors):]
}

func sharedLink(a, b Slot, c Context) string {
	for _, l := range c.Lanes {
		va, oka := c.Library.Get(a.Lanes[l.Lane].Variant)
		vb, okb := c.Library.Get(b.Lanes[l.Lane].Variant)
		if !oka || !okb || l.People == 0 {
			continue
		}
		for _, link := range va.WeakLinks {
			if link == "grip" && (a.Lanes[l.Lane].Hold == moves.NoLoad && va.ID != "table-row" || b.Lanes[l.Lane].Hold == moves.NoLoad && vb.ID != "table-row") {
				continue // the grip tires only where something is held
			}
			if slices.Contains(vb.WeakLinks, link) {
				return link
			}
		}
	}
	return ""
}
