package strength

import (
	"fmt"
	"sort"

	"nimbleanvil/internal/core/measure"
)

// Role is the part a slot plays.
type Role string

// The roles a load is computed for.
const (
	Alone    Role = "alone"
	Superset Role = "superset"
	Finisher Role = "finisher"
)

// School says how a role changes the load.
type School string

// Percent takes 60 % of the working load in a superset and 40 % as a finisher
// (common practice, no source). Reserve keeps two repetitions in reserve and
// lets the usual repetitions of the role set the load: 10, 15 and 18 of the
// default equation.
const (
	Percent School = "percent"
	Reserve School = "reserve"
)

// RoleReps are the usual repetitions of a role (common practice, no source;
// superset "more" than 10, finisher 15-20).
var RoleReps = map[Role]int{Alone: 10, Superset: 15, Finisher: 18}

// roleReserve is the reserve that the school Reserve keeps (house).
const roleReserve = 2

var rolePercent = map[Role]float64{Alone: 100, Superset: 60, Finisher: 40}

// RoleLoad gives the load in grams, not rounded, for a role from the working
// load of about ten repetitions.
func RoleLoad(working measure.Mass, role Role, school School) (float64, error) {
	pct, ok := rolePercent[role]
	if !ok {
		return 0, fmt.Errorf("unknown role %q", role)
	}
	switch school {
	case Percent:
		return float64(working) * pct / 100, nil
	case Reserve:
		top, err := MaxFrom(Default, float64(working), RoleReps[Alone]+roleReserve)
		if err != nil {
			return 0, err
		}
		return LoadFor(Default, top, RoleReps[role]+roleReserve)
	}
	return 0, fmt.Errorf("unknown school %q", school)
}

// Rounding says how a wanted load is brought to what there is.
type Rounding string

// Nearest takes the lighter of two that are equally near. NeverAbove takes the
// heaviest that is not above the wanted load.
const (
	Nearest    Rounding = "nearest"
	NeverAbove Rounding = "never-above"
)

// Choose picks from the loads there are; ok is false when nothing may be
// chosen.
func Choose(wanted float64, available []measure.Mass, how Rounding) (chosen measure.Mass, ok bool) {
	sorted := append([]measure.Mass(nil), available...)
	sort.Slice(sorted, func(i, j int) bool { return sorted[i] < sorted[j] })
	best := 0.0
	for _, m := range sorted {
		miss := float64(m) - wanted
		if how == NeverAbove && miss > 0 {
			break
		}
		if miss < 0 {
			miss = -miss
		}
		if !ok || miss < best {
			chosen, best, ok = m, miss, true
		}
	}
	return chosen, ok
}
