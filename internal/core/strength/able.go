package strength

// AbleAt gives the most repetitions, done and in reserve together, that an index allows at a
// comparable resistance: 0 where not even one, at most the 30 that the default equation knows.
// Both are in the same unit.
func AbleAt(index, comparable float64) int {
	n := 0
	for r := 1; r <= mostFactor; r++ {
		if f, err := Factor(Default, r); err != nil || f*comparable > index*(1+1e-9) {
			break
		}
		n = r
	}
	return n
}

// IndexOf gives the resistance index that so many repetitions, done and in reserve together, at a
// comparable resistance show; ok is false where the default equation is refused.
func IndexOf(reps int, comparable float64) (index float64, ok bool) {
	f, err := Factor(Default, reps)
	return f * comparable, err == nil
}
