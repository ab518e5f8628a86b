package compose

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
)

// written gives a proposal in few words: rounds x work/rest/rest between rounds and the
// seconds left, then a line a slot: pattern, waves where there are several, and each lane's
// move with its load in kilograms and its repetitions a side.
func written(b Brief) string {
	p := Propose(b)
	if !p.Feasible {
		return fmt.Sprint("nothing fits: ", p.Relax[0].Code)
	}
	look := plan.Look(p.Document, b.Context)
	var out strings.Builder
	fmt.Fprintf(&out, "%d x %d/%d/%d, %d left", single(p.Document).Rounds, single(p.Document).WorkMs/1000, single(p.Document).RestMs/1000, single(p.Document).RoundRestMs/1000, look.SlackMs/1000)
	for i, s := range look.Slots {
		fmt.Fprintf(&out, "\n%s", s.Pattern)
		if w := single(p.Document).Slots[i].Waves; w > 1 {
			fmt.Fprintf(&out, " in %d waves", w)
		}
		for n, c := range s.Cells {
			sep := ", "
			if n == 0 {
				sep = ": "
			}
			fmt.Fprintf(&out, "%s%s", sep, c.Entry.Variant)
			if c.LoadG > 0 {
				fmt.Fprintf(&out, " %g", float64(c.LoadG)/1000)
			}
			fmt.Fprintf(&out, " x%d", c.PerSide)
		}
	}
	return out.String()
}

// A dozen proposals, each argued by hand from the rules of the job (house; starting loads
// and sets of section "starting loads": 70 kg and 170 cm give a reference of 7, 15.4 and
// 24.5 kg at Ground, Middle and Reach). A set of 40 s holds 10 repetitions of 2-0-2-0, of
// 45 s 11. Where the argument says "nothing to take", the kit has no load for it.
func TestGoldenProposals(t *testing.T) {
	one := func(g measure.Mass) kit.Stock { return kit.Stock{Implements: []kit.Implement{bell("kb", g, 1)}} }
	three := kit.Stock{Implements: []kit.Implement{bell("kb8", 8000, 1), bell("kb12", 12000, 1), bell("kb16", 16000, 1)}}
	bag := kit.Stock{Objects: []kit.Object{{ID: "tin", Mass: 455, Count: 30, Use: kit.Pack, Volume: 450}},
		Containers: []kit.Container{{ID: "bag", Mass: 800, Max: 15_000, Volume: 20_000, Closed: true, Straps: true}}}
	first := brief(hall, lanes(0, 4, 0), 45, circuit.Timed)
	first.Past = progress.Past{}
	for _, x := range []struct {
		name  string
		brief Brief
		want  string
	}{
		// Nothing but the body: Middle's rung of each ladder that needs no load. The row has
		// nothing to pull at, so arms are swept; the hinge stands on one leg and a toe, which
		// is harder than a free hinge without a load. Seven slots of 40/15 in 30 minutes take
		// three rounds.
		{"the body alone", brief(kit.Stock{}, lanes(0, 1, 0), 30, circuit.Timed), `3 x 40/15/30, 30 left
squat: squat x10
pull: prone-arm-sweep x8
bridge: single-leg-floor-bridge x8
push-level: push-up x13
lateral: lateral-lunge x10
trunk-brace: plank x10
hinge: staggered-deadlift x10`},
		// One bell of 16: the goblet takes it (15.4), the hinge too (19.25 wanted, 17 % short in
		// iron and far less in what the back lifts). A row of 10.8 would be over by 48 %, a
		// lunge of 6.2 to the side by more: neither takes it.
		{"one bell of 16 kg", brief(one(16_000), lanes(0, 1, 0), 30, circuit.Timed), `3 x 40/15/30, 30 left
squat: goblet-squat 16 x10
pull: prone-arm-sweep x8
bridge: single-leg-floor-bridge x8
push-level: push-up x13
lateral: lateral-lunge x10
trunk-brace: plank x10
hinge: romanian-deadlift 16 x10`},
		// One bell of 8 for two: only a row is worth waiting for, in two waves, and 8 kg are
		// right for the one that holds the start of a dead-stop pull (7.7 wanted), where the row
		// with a hand on the thigh wants 10.8. In the squat it would be half of what is wanted, and one of two would stand
		// about. The waves take time: sets of 35 s.
		{"one bell of 8 kg for two", brief(one(8000), lanes(0, 2, 0), 30, circuit.Timed), `3 x 35/15/30, 15 left
squat: squat x8
pull in 2 waves: square-stance-row 8 x8
bridge: single-leg-floor-bridge x7
push-level: push-up x11
lateral: lateral-lunge x8
trunk-brace: side-plank x7
hinge: staggered-deadlift x8`},
		// Three bells, one person a lane, every bell in one hand at a time. Squat: 16 to Reach
		// (20.5), 12 to Middle, nothing left for Ground but a squat held on to. Row: 16 to Reach
		// (17.2), 8 to Middle: for 11 repetitions 10.5 are wanted, 12 is over by 14 %, which
		// counts double, 8 is short by 24. Hinge: 8 to Ground (8.75), 16 to Middle
		// (19.25), and Reach stands on one leg with 12 (12.25). At Ground three rounds are the
		// most, so 45 minutes go into longer rests.
		{"three bells, a person a lane", brief(three, lanes(1, 1, 1), 45, circuit.Timed), `3 x 45/30/180, 30 left
squat: held-squat x11, goblet-squat 12 x11, goblet-squat 16 x11
pull: prone-arm-sweep x9, one-arm-row 8 x11, one-arm-row 16 x11
bridge: floor-bridge 8 x9, single-leg-floor-bridge x9, single-leg-floor-bridge-level x9
push-level: knee-push-up x15, push-up x15, push-up x15
lunge: supported-split-squat x11, reverse-lunge 8 x11, forward-lunge 12 x11
trunk-brace: knee-side-plank x4, plank x11, leg-lift-side-plank x4
hinge: romanian-deadlift 8 x11, romanian-deadlift 16 x11, single-leg-deadlift 12 x11`},
		// A rucksack of tins is packed once: the row wants 10.8 kg to the gram, .8 and 22 tins of
		// 455 g are 10.81. The squat hugs it (15.4 wanted, a tenth short in what the legs lift),
		// the hinge hangs it. It is not swung and not pressed.
		{"a rucksack of tins", brief(bag, lanes(0, 1, 0), 30, circuit.Timed), `3 x 40/15/30, 30 left
squat: goblet-squat 10.81 x10
pull: one-arm-row 10.81 x10
bridge: single-leg-floor-bridge x8
push-level: push-up x13
lateral: lateral-lunge x10
trunk-brace: plank x10
hinge: romanian-deadlift 10.81 x10`},
		// Reach by repetitions: two weights in front and in a row to their ceilings of 24, the
		// hinge to 24, one hand overhead to 8. The dumbbells of 9.07 kg are nearest to 9.8 (.4 of
		// 24.5) for the Cossack squat. Push stands overhead, which turns with the push on a level.
		{"Reach by repetitions", brief(hall, lanes(0, 0, 2), 45, circuit.Reps), `3 x 40/20/60, 15 left
hinge: romanian-deadlift 24 x10
push-overhead: one-arm-press 8 x10
lateral: cossack-squat 9.072 x10
pull: two-weight-row 24 x10
bridge: single-leg-floor-bridge-level x10
trunk-brace: leg-lift-side-plank x8
squat: two-weight-front-squat 24 x10`},
		// Ground alone: supported and on two legs, one-leg moves without a load. Two dumbbells of
		// 2.27 make 4.54 of the 9.8 for both hands in a row, the nearest pair under it; 9.07 kg
		// on the hips (10.5) and in the hinge (8.75, over by 4 %, within Ground's 15).
		{"Ground alone", brief(hall, lanes(4, 0, 0), 30, circuit.Timed), `3 x 40/15/30, 6 left
squat: held-squat x10
pull: wide-elbow-row 4.536 x10
bridge: floor-bridge 9.072 x8
push-level: knee-push-up x13
lunge: supported-split-squat x10
trunk-brace: knee-side-plank x8
hinge: romanian-deadlift 9.072 x10`},
		// Ten minutes: trunk and bridge are dropped first, one round. Of one-sided moves half a
		// set falls on a side: four repetitions, 40 s less 5 to change. For four people 12 kg is
		// the heaviest goblet of which there are four. To the side a pair of 2.268 is nearest to
		// the 6.2 that are wanted.
		{"ten minutes", brief(hall, lanes(0, 4, 0), 10, circuit.Timed), `1 x 40/20/60, 0 left
hinge: staggered-deadlift 8 x4
push-level: push-up x13
lateral: lateral-lunge 4.536 x4
pull: one-arm-row 9.072 x4
squat: goblet-squat 12 x10`},
		// Without squats and lunges their places stay empty but for the lunge to the side, which
		// shares the lunge's. Nothing is put in a banned place.
		{"no squats, no lunges", brief(hall, lanes(0, 3, 0), 45, circuit.Timed, "squat", "lunge"), `4 x 45/30/60, 35 left
pull: one-arm-row 9.072 x11
bridge: single-leg-floor-bridge x9
push-level: push-up x15
lateral: lateral-lunge 4.536 x11
trunk-brace: plank x11
hinge: staggered-deadlift 4.536 x11`},
		// Nobody knows anything: at most three moves are taught, the simplest rungs of squat,
		// lunge and hinge, all one rung under Middle and without load; push, pull and trunk are
		// shown on their simplest rung; the bridge waits for the next time. Three sets at most in
		// a first class.
		{"a first class", first, `3 x 40/30/180, 70 left
squat: held-squat x10
pull: one-arm-row 9.072 x10
push-level: knee-push-up x13
lunge: supported-split-squat x10
trunk-turn: reach-and-thread x8
hinge: free-hip-hinge x10`},
		// Six people and three bells of each: a goblet for all would need six of one, so only the
		// row (12 for 10.8, over by 11 %) goes in two waves of three. Middle takes four rounds.
		{"six people, three bells of two sizes", brief(kit.Stock{Implements: []kit.Implement{bell("kb12", 12000, 3), bell("kb16", 16000, 3)}}, lanes(0, 6, 0), 45, circuit.Timed), `4 x 40/20/30, 5 left
squat: squat x10
pull in 2 waves: one-arm-row 12 x10
bridge: single-leg-floor-bridge x8
push-level: push-up x13
lateral: lateral-lunge x10
trunk-brace: plank x10
hinge: staggered-deadlift x10`},
		// One minute: lead-in, a fifth for prep and 15 % to close leave less than one set of
		// anything. More minutes are what helps.
		{"one minute", brief(hall, lanes(0, 3, 0), 1, circuit.Timed), `nothing fits: relax-minutes`},
	} {
		assert.Equal(t, x.want, written(x.brief), x.name)
	}
}
