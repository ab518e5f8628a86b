package plan

import (
	"slices"
	"sort"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
)

func sortedKeys[V any](m map[string]V) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	sort.Strings(keys)
	return keys
}

// most answers a question about a slot by the parties' variants: yes when at
// least half of them say so.
func most(s circuit.Slot, c Context, is func(*moves.Variant) bool) bool {
	yes, all := 0, 0
	for _, u := range c.Users(s) {
		if v, ok := c.Library.Get(u.Entry.Variant); ok {
			all++
			if is(v) {
				yes++
			}
		}
	}
	return all > 0 && 2*yes >= all
}

// Balance weighs push with pull, front of the thigh with back, two legs with
// one, front-to-back with sideways and turning; a combined move counts for its parts.
// Uneven: push and pull or front and back more than one apart, and more than a third;
// of three leg moves and more none on one leg; of four moves and more none to the side.
func Balance(d circuit.Document, c Context) []Beam {
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
	for _, s := range d.Loaded() {
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
		off := max(b.LeftN-b.RightN, b.RightN-b.LeftN)
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
