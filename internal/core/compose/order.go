package compose

import (
	"math"
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
)

// orders are ways to lay the places out, lower and upper body in turn (house): each
// begins with another leg pattern.
var orders = [][]moves.Pattern{
	{moves.Squat, moves.Pull, moves.Bridge, moves.PushLevel, moves.Lunge, moves.TrunkTurn, moves.Hinge},
	{moves.Hinge, moves.PushLevel, moves.Lunge, moves.Pull, moves.Bridge, moves.TrunkTurn, moves.Squat},
	{moves.Lunge, moves.Pull, moves.Bridge, moves.TrunkTurn, moves.Squat, moves.PushLevel, moves.Hinge},
	{moves.Bridge, moves.PushLevel, moves.Squat, moves.Pull, moves.Lunge, moves.TrunkTurn, moves.Hinge},
}

// ordered lays slots out, the pinned ones where they stood, in the order that has the fewest weak links and leg moves
// running; of equals the one whose beginning was longest not used.
func (c *composer) ordered(slots []circuit.Slot) []circuit.Slot {
	free, pinned := []circuit.Slot{}, []circuit.Slot{}
	for _, s := range slots {
		if s.Pinned {
			pinned = append(pinned, s)
		} else {
			free = append(free, s)
		}
	}
	if !c.Template.Alternates() {
		return c.inPlace(free, pinned)
	}
	var best []circuit.Slot
	bestFlags, bestAgo := math.MaxInt, 0
	for _, order := range orders {
		try := c.inPlace(arrange(free, order), pinned)
		flags := clashes(try, c.Context)
		ago := len(c.Past.Last) + 1
		for i, used := range c.Past.Last {
			if v, ok := c.Library.Get(first(used)); ok && v.Pattern == try[0].Pattern {
				ago = min(ago, i+1)
			}
		}
		if flags < bestFlags || flags == bestFlags && ago > bestAgo {
			best, bestFlags, bestAgo = try, flags, ago
		}
	}
	return best
}

func first(used []progress.Used) string {
	if len(used) == 0 {
		return ""
	}
	return used[0].Move
}

// arrange takes slots in the order of the places they stand in for; what comes twice
// follows in a second round of the order.
func arrange(slots []circuit.Slot, order []moves.Pattern) []circuit.Slot {
	left := slices.Clone(slots)
	var out []circuit.Slot
	for len(left) > 0 {
		before := len(left)
		for _, p := range order {
			if i := slices.IndexFunc(left, func(s circuit.Slot) bool { return slices.Contains(p.StandIns(), s.Pattern) }); i >= 0 {
				out = append(out, left[i])
				left = slices.Delete(left, i, i+1)
			}
		}
		if len(left) == before {
			return append(out, left...)
		}
	}
	return out
}

// unevenness is what one-sided circuits cost: what is flagged as uneven, leg moves or
// weak links twice running.
func (c *composer) unevenness(d circuit.Single) Cost {
	if !c.Template.Alternates() {
		return Cost{}
	}
	cost := Cost{Clashes: c.objective.Clash * float64(clashes(d.Slots, c.Context))}
	for _, b := range plan.Balance(c.around(d), c.Context) {
		if b.Uneven {
			cost[Uneven] += c.objective.Uneven
		}
	}
	return cost
}

// clashes counts the leg moves and the weak links that follow one another.
func clashes(slots []circuit.Slot, c plan.Context) int {
	n := 0
	for i := 1; i < len(slots); i++ {
		if slots[i].Pattern.OfTheLegs() && slots[i-1].Pattern.OfTheLegs() {
			n++
		}
		if plan.SharedLink(slots[i-1], slots[i], c) != "" {
			n++
		}
	}
	return n
}
