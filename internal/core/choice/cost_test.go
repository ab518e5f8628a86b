package choice

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
)

// What entries cost, worked by hand from the rules (house) at 70 kg and 170 cm: Middle's
// reference is 15.4 kg. A squat asks half of 61.46 kg and the load of each leg, so 38.43 with
// 15.4 kg; a row wants .7 of it, 10.78 kg, and is iron alone.
func TestCostsByHand(t *testing.T) {
	knows, first := For(at(rack), party(moves.Middle, 70, 170)), For(Class{Library: moves.Standard(), Stock: rack}, party(moves.Middle, 70, 170))
	short := For(at(rack), party(moves.Middle, 70, 170))
	short.Work = 30 * measure.Second
	left := For(at(rack), party(moves.Middle, 70, 170))
	left.decisions = map[string]progress.Decision{"box-squat": {Advice: progress.NextRung}}
	unrated := at(kit.Stock{Implements: []kit.Implement{{ID: "box", Kind: kit.Box, Count: 1}}})
	seat := bare("box-squat")
	seat.Supports = []string{"box"}
	iron := func(id string, hold moves.HoldID, kg int) Entry {
		return held(id, hold, fmt.Sprint("kb", kg), 1, measure.Mass(1000*kg))
	}
	for _, x := range []struct {
		name string
		j    *Judge
		e    Entry
		want []Term
	}{
		{"38.73 / 38.43 is .78 % over, which counts double", knows, iron("goblet-squat", "goblet", 16), []Term{{"over", 1.56}}},
		{"34.73 / 38.43 is 9.63 % short", knows, iron("goblet-squat", "goblet", 8), []Term{{"short", 9.63}}},
		{"8 / 10.78 is 25.79 % short, 40 more from 25 % on", knows, iron("one-arm-row", "row-one", 8), []Term{{"short", 65.79}}},
		{"6 / 10.78 is 44.34 % short, and 40 more from 40 % on", knows, iron("one-arm-row", "row-one", 6), []Term{{"short", 124.34}}},
		{"12 / 10.78 is 11.32 % over", knows, iron("one-arm-row", "row-one", 12), []Term{{"over", 22.63}}},
		{"a mark below the highest; 61.46 / 76.86 is 20.04 % short", knows, bare("squat"), []Term{{"mark", 6}, {"short", 20.04}}},
		{"a ladder without a mark for Middle; .49 / .64 is 23.44 % short", knows, bare("knee-push-up"), []Term{{"mark", 45}, {"short", 23.44}}},
		{"a drill, and no number where pulls have one", knows, bare("prone-arm-sweep"), []Term{{"mark", 140}, {"short", 40}}},
		{"a plank has no number, and none of its pattern has", knows, bare("plank"), nil},
		{"first on the list; a tenth of the 20.04 %; 90 s of 45 min, times 200", first, bare("box-squat"), []Term{{"first", 2.00}, {"teach", 6.67}}},
		{"second on the list, shown and not taught", first, bare("hands-raised-push-up"), []Term{{"first", 6}}},
		{"third on the list, without a number", first, bare("prone-arm-sweep"), []Term{{"first", 12}, {"short", 40}}},
		{"7 of at least 8 in 30 s: an eighth of 20; 16 kg for 7 is 4.02 % short", short, iron("goblet-squat", "goblet", 16), []Term{{"dose", 2.5}, {"short", 4.02}}},
		{"two rungs under the lowest mark, short as a squat, left behind by the log", left, bare("box-squat"), []Term{{"mark", 50}, {"short", 20.04}, {"log", 20}}},
		{"61.46 of 68.46 with Ground's 7 kg is 10.22 % short; how high the box is must be asked", For(unrated, party(moves.Ground, 70, 170)), seat, []Term{{"short", 10.22}, {"ask", 3}}},
	} {
		got := x.j.Cost(x.e)
		for i := range got {
			got[i].Cost = measure.Round(got[i].Cost, 2)
		}
		assert.Equal(t, x.want, got, x.name)
	}
	for pct, want := range map[float64]float64{0: 0, 25: 25, 25.1: 65.1, 40: 80, 40.1: 120.1} {
		assert.InDelta(t, want, shortCost(pct), 1e-9, "%g %% short", pct)
		assert.Equal(t, pct > 40, FarTooLight(pct), "%g %% short", pct)
	}
}
