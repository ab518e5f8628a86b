package moves

// Mark says how far a variant is from a lane's marks among all of its pattern: 0 on
// its highest mark, 6 for each mark above it on the same ladder, 25 for each rung
// below the lowest mark and between marks, 35 a rung above, 55 for drills and 70 for
// moves no lane is marked for. Nobody but Reach gets those two last, and nobody gets
// what is chosen rather than proposed: ok is false then (house).
func Mark(v *Variant, all []*Variant, lane Lane) (cost float64, ok bool) {
	top, low, above := 0, 0, 0
	for _, x := range all {
		if v.Ladder != "" && x.Ladder == v.Ladder && x.Marks(lane) {
			top = max(top, x.Rung)
			if low == 0 || x.Rung < low {
				low = x.Rung
			}
			if x.Rung > v.Rung {
				above++
			}
		}
	}
	switch {
	case !v.Proposed():
		return 0, false
	case v.Marks(lane):
		if v.Ladder == "" {
			return 8, true
		}
		return 6 * float64(above), true
	case v.Drill:
		return 55 - 5*float64(len(v.Needs)), true
	case top > 0 && v.Rung < top:
		return 25 * float64(max(low-v.Rung, 1)), true
	case top > 0:
		return 35, v.Rung == top+1 && lane == Reach
	}
	return 70, lane == Reach && !v.OnOneLeg()
}
