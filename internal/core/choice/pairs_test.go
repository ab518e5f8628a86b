package choice

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
)

// rack is a hall of everything: bells of every usual size, ten of each, and supports.
var rack = func() kit.Stock {
	var s kit.Stock
	for _, kg := range []int{2, 4, 6, 8, 12, 16, 20, 24, 28, 32} {
		s.Implements = append(s.Implements, kit.Implement{ID: fmt.Sprint("kb", kg), Kind: kit.Kettlebell, Mass: measure.Mass(1000 * kg), Count: 10})
	}
	for _, h := range []measure.Length{200, 300, 390, 450} {
		s.Implements = append(s.Implements, kit.Implement{ID: fmt.Sprint("box", h), Kind: kit.Box, Height: h, Count: 10, Rated: 300_000},
			kit.Implement{ID: fmt.Sprint("bench", h), Kind: kit.Bench, Height: h, Count: 10, Rated: 300_000})
	}
	return s
}()

// pairs say that a lane is better served by one entry than by another, and why, by the
// rules of the job (house, common practice): a move with what it is held with, all
// together in kilograms. Starting loads for 70 kg and 170 cm: the reference is 7 kg at
// Ground, 15.4 at Middle, 24.5 at Reach.
var pairs = []struct{ lane, better, worse, because string }{
	// The nearest load wins.
	{"middle", "goblet-squat 16", "goblet-squat 8", "16 kg is within 4 % of the starting load of 15.4, 8 kg is half of it"},
	{"middle", "goblet-squat 16", "goblet-squat 12", "nearer to 15.4 kg"},
	{"middle", "goblet-squat 16", "goblet-squat 20", "20 kg is over by 30 %, more than a quarter"},
	{"middle", "goblet-squat 12", "goblet-squat 8", "both are short, 8 kg by more"},
	{"middle", "goblet-squat 12", "goblet-squat 4", "both are short, 4 kg by more"},
	{"reach", "goblet-squat 20", "goblet-squat 16", "the ceiling without a benchmark is 20.5 kg: 20 is nearest"},
	{"reach", "goblet-squat 20", "goblet-squat 24", "24 kg is over the ceiling of 20.5 by more than is good enough"},
	{"middle", "romanian-deadlift 20", "romanian-deadlift 12", "1.25 times 15.4 is 19.25 kg"},
	{"middle", "romanian-deadlift 20", "romanian-deadlift 32", "32 kg is over 19.25 by two thirds"},
	{"reach", "romanian-deadlift 24", "romanian-deadlift 16", "1.25 times 24.5 is over the ceiling of 24 kg"},
	{"middle", "bench-hip-thrust 24", "bench-hip-thrust 12", "1.5 times 15.4 is 23.1 kg"},
	{"middle", "bench-hip-thrust 24", "bench-hip-thrust 16", "nearer to 23.1 kg"},
	{"middle", "one-arm-row 12", "one-arm-row 6", ".7 times 15.4 is 10.8 kg a hand; 12 is over by 11 %, 6 short by 44 %"},
	{"reach", "one-arm-row 16", "one-arm-row 8", ".7 times 24.5 is 17.2 kg: 16 is nearest under it"},
	{"reach", "one-arm-row 16", "one-arm-row 24", "24 kg is over 17.2 by 40 %, and a row's resistance is the iron itself"},
	{"middle", "floor-press 8", "floor-press 4", ".55 times 15.4 is 8.5 kg in one hand"},
	{"middle", "floor-press 16", "floor-press 8/press-two", "8.5 kg a hand, 17 in two: 8 in two is half of it"},
	{"middle", "wide-stance-squat 20/hung-one", "wide-stance-squat 8/hung-one", "a wide stance takes 1.25 times 15.4, 19.25 kg"},
	{"middle", "wide-stance-deadlift 20/hung-one", "wide-stance-deadlift 32/hung-one", "as a two-leg hinge: 32 kg is over 19.25 by two thirds"},
	{"middle", "one-arm-press 6", "one-arm-press 8", ".45 times 15.4 is 6.9 kg: never rounded up overhead"},
	{"reach", "one-arm-press 8", "one-arm-press 12", "8 kg a hand is the ceiling overhead without a benchmark"},
	{"reach", "one-arm-press 8", "one-arm-press 4", "nearer to the ceiling"},
	{"ground", "goblet-squat 6", "goblet-squat 12", "Ground's reference is 7 kg, and it is never given more than 15 % over"},
	{"ground", "romanian-deadlift 8", "romanian-deadlift 4", "1.25 times 7 is 8.75 kg"},
	{"ground", "romanian-deadlift 8", "romanian-deadlift 12", "12 kg is over 8.75 by more than 15 %"},
	// The lane's own rung wins.
	{"ground", "box-squat 0", "goblet-squat 6", "the box is Ground's mark on the squat ladder"},
	{"middle", "goblet-squat 16", "box-squat 0", "Middle's mark is the goblet squat, and a body alone is no load for it"},
	{"middle", "goblet-squat 16", "high-box-squat 0", "a higher seat is two rungs under Middle"},
	{"reach", "two-weight-front-squat 24", "squat 0", "Reach has two weights in front"},
	{"ground", "supported-split-squat 0", "rear-foot-raised-split-squat 0", "support first: one leg at Ground starts with a hand on something"},
	{"middle", "reverse-lunge 8", "supported-split-squat 0", "Middle has left the support behind"},
	{"ground", "wall-push-up 0", "push-up 0", "a body on the floor is more than 1.1 of Ground's .49"},
	{"middle", "push-up 0", "wall-push-up 0", "the floor is Middle's mark"},
	{"reach", "feet-raised-push-up 0", "knee-push-up 0", "knees down is two rungs under Reach"},
	{"ground", "floor-bridge 0", "single-leg-floor-bridge 0", "two legs before one"},
	{"middle", "hands-raised-push-up 0", "wall-push-up 0", "one rung under the mark is better than two"},
	// Kind of move: what teaches a number, what needs something to be asked, what is held.
	{"middle", "split-squat 8", "split-squat 0", ".6 times 15.4 is 9.2 kg: without a load it is all short"},
	{"reach", "rear-foot-raised-split-squat 12", "rear-foot-raised-split-squat 4", ".5 times 24.5 is 12.3 kg"},
	{"reach", "single-leg-deadlift 12", "single-leg-deadlift 4", ".5 times 24.5 is 12.3 kg"},
	{"middle", "step-up 6/suitcase-one", "step-up 0", ".4 times 15.4 is 6.2 kg"},
	{"middle", "lateral-lunge 6", "lateral-lunge 2", ".4 times 15.4 is 6.2 kg"},
	{"reach", "suitcase-carry 12", "suitcase-carry 4", ".6 times 24.5 is 14.7 kg in one hand"},
}

// The costs say what the rules say, pair by pair.
func TestPairsOfEntries(t *testing.T) {
	require.GreaterOrEqual(t, len(pairs), 40)
	class := Class{Library: moves.Standard(), Stock: rack, Past: progress.Past{Known: []string{progress.All}}}
	for _, p := range pairs {
		j := For(class, Party{Lane: moves.Lane(p.lane), Body: 70_000, Stature: 1700})
		// cost of an entry; infinite where it may not be given at all.
		cost := func(spec string) float64 {
			spec, hold, _ := strings.Cut(spec, "/")
			var id string
			var kg int
			_, err := fmt.Sscan(spec, &id, &kg)
			require.NoError(t, err, spec)
			v, ok := j.Library.Get(id)
			require.True(t, ok, id)
			least := math.Inf(1)
			for _, e := range j.Entries(v) {
				if e.Option.Total == measure.Mass(1000*kg) && (hold == "" || string(e.Hold) == hold) {
					least = min(least, Total(j.Cost(e)))
				}
			}
			return least
		}
		better, worse := cost(p.better), cost(p.worse)
		assert.False(t, math.IsInf(better, 1), "%s: %s may not be given", p.lane, p.better)
		assert.Less(t, better, worse, "%s: %s (%.2f) is better than %s (%.2f): %s", p.lane, p.better, better, p.worse, worse, p.because)
	}
}
