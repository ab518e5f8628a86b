package moves

// Mark says how far a variant is from a lane's marks among all of its pattern, as a
// cost (house): 0 on its highest mark and 6 for each mark above it on the same ladder, 6
// more beside the main line (no ladder, or a rung by tempo);
// 25 for each rung below the lowest mark; 30 for each rung above the highest; 45 where
// the ladder has no mark for the lane, twice that for Ground on one leg; 140 for drills, which
// train next to nothing, 5 less for each thing they need.
func Mark(v *Variant, all []*Variant, lane Lane) float64 {
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
	case v.Marks(lane):
		cost := 6 * float64(above)
		if v.Ladder == "" || v.Lever != nil && (v.Lever.Name == "tempo" || v.Lever.Name == "pause") {
			cost += 6 // beside the main line
		}
		return cost
	case v.Drill:
		return 140 - 5*float64(len(v.Needs))
	case top > 0 && v.Rung < top:
		return 25 * float64(max(low-v.Rung, 1))
	case top > 0:
		return 30 * float64(v.Rung-top)
	}
	if lane == Ground && v.OnOneLeg() {
		return 90
	}
	return 45
}
