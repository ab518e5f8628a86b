package calc

import (
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/problem"
)

var update = flag.Bool("update", false, "rewrite docs/formats/calc-*.json")

// Answers as literals: the sources stand beside the rules in docs/rules.md and
// in the core's own reference tests; worked values in the comments.
func TestAnswersReference(t *testing.T) {
	for _, c := range []struct{ name, request, want string }{
		// .878 x 70 = 61.46; x .75 = 46.095; / 1.35 = 34.144 (model; factors house)
		{"resistance", `{"move":"split-squat","bodyMassG":70000,"externalG":0}`,
			`{"family":"squat","bodyShare":0.878,"coupling":1,"limbShare":0.75,"stanceFactor":1.35,"liftedG":61460,"perLimbG":46095,"comparableG":34144}`},
		// Ebben et al. 2011 (from memory): feet up 305 mm .70; load on the back x .9
		{"resistance", `{"move":"push-up","bodyMassG":70000,"externalG":10000,"heightMm":305}`,
			`{"family":"push","bodyShare":0.7,"coupling":0.9,"limbShare":0.5,"stanceFactor":1,"liftedG":58000,"perLimbG":29000,"comparableG":29000}`},
		{"resistance", `{"move":"table-row","bodyMassG":70000,"externalG":0,"angleDeg":60}`, `{"bodyShare":0.355,"liftedG":24850,"perLimbG":12425}`},
		// hands 450 mm up: between 305 (.55) and 610 (.41): .55 - .14 x 145/305 = .483
		{"resistance", `{"move":"hands-raised-push-up","bodyMassG":70000,"externalG":0}`, `{"bodyShare":0.483}`},
		{"resistance", `{"move":"one-arm-row","bodyMassG":70000,"externalG":12000}`, `{"family":"pull","bodyShare":0,"limbShare":1,"perLimbG":12000}`},
		// 24 kg x 10 -> 32.0 kg, where Epley and Brzycki agree
		{"strength", `{"loadG":24000,"reps":10,"reserve":0,"equation":"default"}`, `{"maxG":32000,"confidence":"normal"}`},
		{"strength", `{"maxG":32000,"reps":10,"reserve":0,"equation":"default"}`, `{"loadG":24000,"confidence":"normal"}`},
		{"strength", `{"loadG":24000,"reps":14,"reserve":2}`, `{"maxG":36800,"confidence":"low"}`}, // 1 + 16/30
		{"strength", `{"loadG":24000,"reps":1,"reserve":0}`, `{"maxG":24000}`},
		{"strength", `{"loadG":24000,"reps":1,"reserve":0,"equation":"epley"}`, `{"maxG":24800}`},
		// 42.73 x 1.4 = 59.822; / 1.4 = 42.73; x 1.35 / .75 - 61.46 = 15.454
		{"carry", `{"from":{"move":"goblet-squat","externalG":24000,"reps":10,"reserve":2},"to":{"move":"split-squat","reps":10,"reserve":2},"bodyMassG":70000}`,
			`{"indexG":59822,"externalG":15454,"tooHardPct":0}`},
		// 30.73 wanted of 65.73: 113.9 % too hard
		{"carry", `{"from":{"move":"squat","externalG":0,"reps":10,"reserve":2},"to":{"move":"single-leg-squat","reps":10,"reserve":2},"bodyMassG":70000}`,
			`{"externalG":0,"tooHardPct":113.9}`},
		{"verdict", `{"plannedReps":10,"doneReps":10,"formReps":10,"reserve":2}`, `{"verdict":"right","atLimit":false}`},
		{"verdict", `{"plannedReps":10,"doneReps":0,"formReps":0}`, `{"verdict":"heavy","atLimit":false}`},
		// The gate to a bar on the back: half of body mass, 25 in form (common practice,
		// no source): 200 lb -> 100 lb, 150 -> 75, 68 kg -> 34 kg.
		{"gate", gateOf(90718, 45359, 25, allScreens, true, true, 50000), `{"result":"passed","neededG":45359,"missing":[]}`},
		{"gate", gateOf(90718, 45359, 25, allScreens, true, false, 50000), `{"result":"possible-not-needed","neededG":45359,"missing":[]}`},
		{"gate", gateOf(68039, 34019, 25, allScreens, true, true, 50000), `{"result":"not-yet","neededG":34020,"missing":["load"]}`}, // 150 lb: 34 019.5 g
		{"gate", gateOf(68000, 34000, 24, allScreens, true, true, 50000), `{"result":"not-yet","neededG":34000,"missing":["reps"]}`},
		{"gate", gateOf(68000, 34000, 21, allScreens, true, true, 50000), `{"result":"not-yet","missing":["reps"]}`}, // 25, four of them knees-in
		{"gate", gateOf(68000, 34000, 25, `"hip","shoulder"`, false, true, 50000), `{"result":"not-yet","missing":["ankle","shin","upper-back","bracing"]}`},
		{"gate", gateOf(68000, 24000, 25, allScreens, true, true, 24000), `{"result":"not-testable","neededG":34000,"missing":["load"]}`},
		// Who takes what: 14 kg with a 16 is 2 x 2/14 over, .285714; with a 12 2/14 short. Two who
		// want it: .142857 + .285714. One with two bells has both slots; with one the better, and the
		// other, off by 16 of 24 or by more than all, is served or left empty.
		{"pickup", pickupOf(`{"id":"kb16","massG":16000,"count":3,"kind":"kettlebell"}`, 1, pickupOne("p1", 1, 14000, 1, 1)),
			`{"assignments":[{"person":"p1","take":["kb16"],"slots":[{"slot":1,"use":["kb16"],"missG":2000}]}],"cost":0.285714,"bound":0.285714,"proven":true,"short":[]}`},
		{"pickup", pickupOf(`{"id":"kb16","massG":16000,"count":1,"kind":"kettlebell"},{"id":"kb12","massG":12000,"count":1,"kind":"kettlebell"}`, 1, pickupOne("a", 1, 14000, 1, 1)+","+pickupOne("b", 1, 14000, 1, 1)),
			`{"assignments":[{"person":"a","take":["kb12"],"slots":[{"slot":1,"use":["kb12"],"missG":-2000}]},{"person":"b","take":["kb16"],"slots":[{"slot":1,"use":["kb16"],"missG":2000}]}],"cost":0.428571,"bound":0.428571,"proven":true,"short":[]}`},
		{"pickup", pickupOf(`{"id":"kb16","massG":16000,"count":1,"kind":"kettlebell"}`, 1, pickupOne("a", 1, 16000, 2, 2)),
			`{"assignments":[{"person":"a","take":[],"slots":[{"slot":1,"use":[],"missG":null}]}],"cost":2,"bound":2,"proven":true,"short":[{"person":"a","slot":1}]}`},
		{"pickup", pickupOf(`{"id":"kb16","massG":16000,"count":2,"kind":"kettlebell"}`, 2, pickupOne("a", 1, 16000, 2, 2)),
			`{"assignments":[{"person":"a","take":["kb16","kb16"],"slots":[{"slot":1,"use":["kb16","kb16"],"missG":0}]}],"cost":0,"bound":0,"proven":true,"short":[]}`},
		// Making loads, worked in kit's TestMakeByHand; 800 + 18 x 455 = 8990
		{"load", `{"targetG":9000,"toleranceG":100,"loads":1,"container":{"id":"rucksack","massG":800,"maxG":15000,"volumeMl":20000},"objects":[{"id":"can","massG":455,"volumeMl":450,"count":20}],"fillables":[]}`,
			`{"feasible":true,"loads":[{"totalG":8990,"errorG":-10,"parts":[{"id":"can","count":18}]}],"exact":true}`},
		{"load", `{"targetG":9000,"toleranceG":100,"loads":1,"container":{"id":"rucksack","massG":800,"maxG":15000,"volumeMl":20000},"objects":[{"id":"can","massG":455,"volumeMl":450,"count":12}],"fillables":[{"id":"bottle","emptyG":40,"fullG":1540,"stepG":50,"volumeMl":1600,"count":4}]}`,
			`{"loads":[{"totalG":9000,"errorG":0,"parts":[{"id":"can","count":8},{"id":"bottle","fillsG":[1500,1500,1400,0]}]}]}`},
		{"load", `{"targetG":4000,"toleranceG":200,"loads":2,"objects":[{"id":"can","massG":5200,"volumeMl":5000,"count":2}],"fillables":[]}`,
			`{"feasible":false,"nearestBelow":null,"nearestAbove":[{"totalG":5200,"errorG":1200,"parts":[{"id":"can","count":1}]},{"totalG":5200,"errorG":1200,"parts":[{"id":"can","count":1}]}]}`},
		// 1 + 1 kg, then 3 kg: 1000, 2000 in the bag are +100 %; 2000 to 2200 is a tenth, no gap
		{"load-rule", `{"fromG":1000,"toG":2300,"resolutionG":50,"objects":[{"id":"a","massG":1000,"volumeMl":0,"count":2},{"id":"b","massG":1200,"volumeMl":0,"count":1}],"fillables":[]}`,
			`{"loads":[{"totalG":1000,"objects":1,"parts":[{"id":"a","count":1}]},{"totalG":1200,"objects":1,"parts":[{"id":"b","count":1}]},{"totalG":2000,"objects":2,"parts":[{"id":"a","count":2}]},{"totalG":2200,"objects":2,"parts":[{"id":"a","count":1},{"id":"b","count":1}]}],"gaps":[{"fromG":1000,"toG":1200,"stepPct":20},{"fromG":1200,"toG":2000,"stepPct":66.7}]}`},
		// Bridging (house, model). 38.73 to 40.73 of comparable resistance: +5.16 %; 4/3 x
		// 40.73 / 38.73 = 1.4022 needs 13 with two left, so 11
		// Bridges (house, model): iron +25 %, resistance 38.73 to 40.73; ready and ten predicted
		{"bridge", `{"move":"goblet-squat","bodyMassG":70000,"fromG":16000,"toG":20000,"repsLow":8,"repsHigh":12,"lastReps":13,"sessionsOver":2,"reserve":2}`,
			`{"ironStepPct":25,"resistanceStepPct":5.2,"allowed":true,"ready":true,"predictedReps":11,"reached":true,"between":null,"weeks":[{"week":1,"loadG":20000,"sets":2,"reps":8,"tempo":"2-0-2-0","move":"goblet-squat","by":"load","blend":null}]}`},
		// 34.73 to 36.73: 4/3 x 1.05759 = 1.4101, 11 with two left; iron +50 %, no allowed step:
		// 13 with two left are worth 1.5, / 1.05759 = 1.4183, ten with two left are 1.4
		{"bridge", `{"move":"goblet-squat","bodyMassG":70000,"fromG":8000,"toG":12000,"repsLow":8,"repsHigh":12,"lastReps":13,"sessionsOver":2,"reserve":2,"sets":2}`,
			`{"ironStepPct":50,"resistanceStepPct":5.8,"allowed":false,"ready":true,"predictedReps":11,"reached":true,"between":null,"weeks":[{"week":1,"loadG":8000,"sets":2,"reps":12,"tempo":"2-0-2-0","move":"goblet-squat","by":"blend","blend":{"sets":1,"loadG":12000,"reps":10}},{"week":2,"loadG":8000,"sets":2,"reps":12,"tempo":"2-0-2-0","move":"goblet-squat","by":"blend","blend":{"sets":2,"loadG":12000,"reps":10}},{"week":3,"loadG":12000,"sets":2,"reps":8,"tempo":"2-0-2-0","move":"goblet-squat","by":"load","blend":null}]}`},
		// with a bag of 10.6 kg: +32.5 %, then +13.2 %, each an allowed step
		{"bridge", `{"move":"goblet-squat","bodyMassG":70000,"fromG":8000,"toG":12000,"repsLow":8,"repsHigh":12,"lastReps":13,"sessionsOver":2,"reserve":2,"available":[9200,10600]}`,
			`{"weeks":[{"week":1,"loadG":10600,"sets":2,"reps":8,"tempo":"2-0-2-0","move":"goblet-squat","by":"made","blend":null},{"week":2,"loadG":10600,"sets":3,"reps":13,"tempo":"2-0-2-0","move":"goblet-squat","by":"reps","blend":null},{"week":3,"loadG":12000,"sets":2,"reps":8,"tempo":"2-0-2-0","move":"goblet-squat","by":"load","blend":null}]}`},
		// a row goes by the iron: 12/8 x 4/3 = 2 needs 28 with two left; blended
		{"bridge", `{"move":"one-arm-row","bodyMassG":70000,"fromG":8000,"toG":12000,"repsLow":8,"repsHigh":12,"lastReps":13,"sessionsOver":2,"reserve":2}`,
			`{"ironStepPct":50,"resistanceStepPct":50,"allowed":false,"ready":true,"predictedReps":28,"reached":true}`},
		{"bridge", `{"move":"one-arm-press","bodyMassG":70000,"fromG":4000,"toG":16000,"repsLow":6,"repsHigh":10,"lastReps":11,"sessionsOver":2,"reserve":2}`,
			`{"allowed":false,"reached":false,"between":{"fromG":4001,"toG":5360},"predictedReps":null}`},
		{"bridge", `{"move":"one-arm-press","bodyMassG":70000,"fromG":12000,"toG":16000,"repsLow":6,"repsHigh":10,"lastReps":14,"sessionsOver":2,"reserve":2}`,
			`{"allowed":true,"ready":true,"reached":true,"weeks":[{"week":1,"loadG":16000,"sets":2,"reps":3,"tempo":"2-0-1-0","move":"one-arm-press","by":"load","blend":null}]}`},
		{"bridge", `{"move":"two-hand-swing","bodyMassG":70000,"fromG":4536,"toG":6804,"repsLow":8,"repsHigh":15,"lastReps":16,"sessionsOver":2,"reserve":2}`, `{"ironStepPct":50,"allowed":true,"ready":true,"reached":true}`},
		{"bridge", `{"move":"one-arm-row","bodyMassG":70000,"fromG":12000,"toG":16000,"repsLow":8,"repsHigh":12,"lastReps":15,"sessionsOver":0,"reserve":2,"farTooLight":true}`, `{"allowed":true,"ready":true,"reached":true}`},
		{"bridge", `{"move":"one-arm-row","bodyMassG":70000,"fromG":10000,"toG":11000,"repsLow":8,"repsHigh":12,"lastReps":13,"sessionsOver":1,"reserve":2}`, `{"allowed":true,"ready":false}`},
		// Few repetitions are judged by two thirds and by three more (house)
		{"verdict", `{"plannedReps":2,"doneReps":0,"formReps":0}`, `{"verdict":"heavy","atLimit":false}`},
		{"verdict", `{"plannedReps":2,"doneReps":4,"formReps":4}`, `{"verdict":"light","atLimit":false}`},
		{"verdict", `{"plannedReps":10,"doneReps":10,"formReps":9,"reserve":2}`, `{"verdict":"right","atLimit":true}`},
		// What may be given (house): .22 x 70 = 15.4 wanted, 16 is 3.9 % over in iron, .8 % in
		// resistance: 2 x .78064; a free squat stands 6 below it on the ladder and asks 30.73 of
		// the mark's 38.43: 20.03643 % short
		{"options", optionsOf(`["goblet-squat","squat"]`, `{"lane":"middle","people":1,"bodyMassG":70000,"statureMm":1700,"known":true}`, `{"id":"kb16","kind":"kettlebell","massG":16000,"count":1}`, ``),
			`{"slots":[{"slot":1,"entries":[{"lane":"middle","move":"squat","pattern":"squat","hold":"none","use":[],"supports":[],"wantedG":null,"usedG":0,"cost":26.03643},{"lane":"middle","move":"goblet-squat","pattern":"squat","hold":"goblet","use":["kb16"],"supports":[],"wantedG":15400,"usedG":16000,"cost":1.561280}]}]}`},
		// the 24 is over the ceiling and 56 % over in iron; 160 kg at 160 cm are not asked so much
		{"options", optionsOf(`["goblet-squat"]`, `{"lane":"middle","people":1,"bodyMassG":70000,"statureMm":1700,"known":true}`, `{"id":"kb24","kind":"kettlebell","massG":24000,"count":1}`, ``), `{"slots":[{"slot":1,"entries":[]}]}`},
		{"options", optionsOf(`["squat"]`, `{"lane":"middle","people":1,"bodyMassG":160000,"statureMm":1600,"known":true}`, ``, ``), `{"slots":[{"slot":1,"entries":[]}]}`},
		{"options", optionsOf(`["goblet-squat"]`, `{"lane":"middle","people":1,"bodyMassG":70000,"statureMm":1700,"known":true}`, `{"id":"kb16","kind":"kettlebell","massG":16000,"count":1}`, `,"bans":["knee-spare"]`), `{"slots":[{"slot":1,"entries":[]}]}`},
		// Rows under a table (model): 40 x 350 = 14 000 against .71 x 70 x 150 = 7455
		{"tipping", `{"bodyMassG":70000,"wornG":0,"angleDeg":0,"edgeOutMm":150,"tableMassG":40000,"centreInMm":350,"kind":"four-leg"}`, `{"allowed":false,"factor":1.88}`},
		{"tipping", `{"bodyMassG":70000,"wornG":0,"angleDeg":60,"edgeOutMm":150,"tableMassG":40000,"centreInMm":350,"kind":"four-leg"}`, `{"allowed":true,"factor":3.76}`},
		{"tipping", `{"bodyMassG":70000,"wornG":0,"angleDeg":0,"edgeOutMm":0,"tableMassG":40000,"centreInMm":350,"kind":"four-leg"}`, `{"allowed":true,"factor":null}`},
		{"tipping", `{"bodyMassG":70000,"wornG":0,"angleDeg":60,"edgeOutMm":150,"tableMassG":90000,"centreInMm":350,"kind":"trestle"}`, `{"allowed":false}`},
		// Ankles held (model): 1.29 x 70 = 90.3; x sin 30 degrees = 45.15
		{"anchor", `{"bodyMassG":70000,"leanDeg":90,"anchorG":200000}`, `{"pullG":90300,"allowed":true,"factor":2.21}`},
		{"anchor", `{"bodyMassG":70000,"leanDeg":30,"anchorG":90000}`, `{"pullG":45150,"allowed":false,"factor":1.99}`},
		{"anchor", `{"bodyMassG":70000,"leanDeg":0,"anchorG":0}`, `{"pullG":0,"allowed":true,"factor":null}`},
		{"role", `{"workingG":22680,"role":"superset","school":"percent"}`, `{"wantedG":13608}`},
		{"role", `{"workingG":22680,"role":"finisher","school":"percent","available":[4000,8000,12000]}`, `{"wantedG":9072,"chosenG":8000,"rule":"nearest"}`},
		{"role", `{"workingG":5000,"role":"alone","school":"percent","available":[8000],"rounding":"never-above"}`, `{"wantedG":5000,"chosenG":null,"rule":"never-above"}`},
		{"time", `{"kind":"timed","stations":6,"workS":40,"restS":20,"rounds":3,"roundRestS":60,"leadInS":0,"restAfterLast":false}`,
			`{"totalS":1140,"workS":720,"restS":420,"leadInS":0}`},
		{"time", `{"kind":"timed","stations":8,"workS":45,"restS":15,"rounds":3,"roundRestS":60,"leadInS":0}`, `{"totalS":1515}`},
		{"time", `{"kind":"timed","stations":8,"workS":20,"restS":10,"rounds":1,"roundRestS":0,"leadInS":0,"restAfterLast":true}`, `{"totalS":240}`},
		{"time", `{"kind":"reps","rounds":4,"roundRestS":60,"leadInS":0,"changeoverS":10,"sideChangeS":5,"moves":[{"reps":12,"tempo":"2-0-1-0","sides":1},{"reps":12,"tempo":"2-0-1-0","sides":2}]}`,
			`{"totalS":672,"workS":452,"restS":220,"reps":144,"perMove":[{"reps":12,"workS":36},{"reps":24,"workS":77}]}`},
		// 3 sets of 10 to 15, one two-sided move and four one-sided: 3 x (10 + 4 x 20) =
		// 270 to 3 x (15 + 4 x 30) = 405 (common practice)
		{"time", `{"kind":"reps","rounds":3,"roundRestS":0,"leadInS":0,"changeoverS":0,"sideChangeS":0,"moves":[` + five(10) + `]}`, `{"reps":270}`},
		{"time", `{"kind":"reps","rounds":3,"roundRestS":0,"leadInS":0,"changeoverS":0,"sideChangeS":0,"moves":[` + five(15) + `]}`, `{"reps":405}`},
		// five moves x 12 x 4 rounds, one two-sided: 48 + 4 x 96
		{"time", `{"kind":"reps","rounds":4,"roundRestS":0,"leadInS":0,"changeoverS":0,"sideChangeS":0,"moves":[` + five(12) + `]}`, `{"reps":432}`},
		// 10 a side of clean, squat and press is 20 squats; 5 at 5-5-X-0 last 55 s
		{"time", `{"kind":"reps","rounds":1,"roundRestS":0,"leadInS":0,"changeoverS":0,"sideChangeS":0,"moves":[{"reps":10,"tempo":"2-0-1-0","sides":2}]}`, `{"reps":20}`},
		{"time", `{"kind":"reps","rounds":1,"roundRestS":0,"leadInS":0,"changeoverS":0,"sideChangeS":0,"moves":[{"reps":5,"tempo":"5-5-X-0","sides":1}]}`, `{"totalS":55}`},
		{"time", `{"kind":"timed","stations":8,"workS":20,"restS":10,"rounds":1,"roundRestS":0,"leadInS":0}`, `{"totalS":230}`},
		{"time", `{"kind":"interval","everyS":60,"sets":10,"leadInS":10}`, `{"totalS":610,"leadInS":10}`},
		{"time", `{"kind":"window","windowS":600,"leadInS":10}`, `{"totalS":610,"leadInS":10}`},
		// 340 a round, 60 between: 3 rounds 1140 of 1200, 4 would be 1540
		{"time", `{"kind":"timed","stations":6,"workS":40,"restS":20,"roundRestS":60,"leadInS":0,"fill":{"fitS":1200,"solveFor":"rounds"}}`,
			`{"feasible":true,"solved":{"rounds":3},"slackS":60,"totalS":1140}`},
		{"time", `{"kind":"timed","stations":6,"restS":20,"rounds":3,"roundRestS":60,"leadInS":0,"fill":{"fitS":1200,"solveFor":"workS"}}`,
			`{"solved":{"workS":43},"slackS":6}`}, // 420 + 18 w <= 1200
		{"time", `{"kind":"timed","stations":6,"workS":40,"rounds":3,"roundRestS":60,"leadInS":0,"fill":{"fitS":800,"solveFor":"restS"}}`,
			`{"feasible":false,"fitS":840}`},
		{"window", `{"workS":40,"tempo":"2-0-2-0","sides":2,"sideChangeS":5}`, `{"repsPerSide":4,"switchAtS":17.5,"slackS":3}`},
		{"window", `{"workS":40,"tempo":"2-0-2-0","sides":2,"sideChangeS":0}`, `{"repsPerSide":5}`},
		{"window", `{"workS":3,"tempo":"2-0-2-0","sides":1}`, `{"repsPerSide":0,"switchAtS":null,"slackS":3}`},
		{"sides", `{"sets":3,"reps":9,"weaker":"left","first":"left"}`, `{"sets":[{"left":9,"right":0},{"left":0,"right":9},{"left":5,"right":4}],"left":14,"right":13}`},
		{"fit", `{"statureMm":1700,"benchMm":450}`,
			`{"kneeMm":485,"boxMm":{"from":435,"to":465},"benchRangeMm":{"from":365,"to":410},"raiseMm":40,"benchVerdict":"raise","heelRaise":{"heightMm":25,"angleDeg":7.7}}`},
		{"fit", `{"kneeMm":399,"benchMm":600}`, `{"boxMm":{"from":350,"to":380},"raiseMm":null,"benchVerdict":"too-high"}`},
		{"fit", `{"statureMm":2000}`, `{"boxMm":{"from":520,"to":550},"raiseMm":null,"benchVerdict":null}`},
	} {
		got, p := Run(context.Background(), c.name, []byte(c.request))
		require.Nil(t, p, "%s %s: %+v", c.name, c.request, p)
		var answer, want map[string]any
		require.NoError(t, json.Unmarshal(got, &answer))
		require.NoError(t, json.Unmarshal([]byte(c.want), &want))
		for k, v := range want {
			require.Contains(t, answer, k, c.request)
			assert.Equal(t, v, answer[k], "%s %s: %s", c.name, c.request, k)
		}
	}
}

// five lists one two-sided move and four one-sided of n repetitions.
func five(n int) string {
	one := fmt.Sprintf(`{"reps":%d,"tempo":"2-0-1-0","sides":2}`, n)
	return fmt.Sprintf(`{"reps":%d,"tempo":"2-0-1-0","sides":1},%s,%s,%s,%s`, n, one, one, one, one)
}

// badInputs are used by the command line's and the API's tests too.
var badInputs = []struct {
	name, request string
	status        int
	locations     []string
}{
	{"verdict", ``, 400, nil},
	{"verdict", `{"plannedReps":10`, 400, nil},
	{"verdict", `{"plannedReps":NaN}`, 400, nil},
	{"verdict", `{"plannedReps":10,"doneReps":10,"formReps":10} x`, 400, nil},
	{"verdict", `{"plannedReps":10,"doneReps":10,"formReps":10}{}`, 400, nil},
	{"verdict", `[]`, 422, []string{"body"}},
	{"verdict", `{}`, 422, []string{"body.doneReps", "body.formReps", "body.plannedReps"}},
	{"verdict", `{"plannedReps":10,"doneReps":10,"FormReps":10}`, 422, []string{"body.FormReps", "body.formReps"}},
	{"verdict", `{"plannedReps":10,"doneReps":10,"doneReps":10,"formReps":10}`, 422, []string{"body.doneReps"}},
	{"verdict", `{"plannedReps":0,"doneReps":1e999,"formReps":1.5}`, 422, []string{"body.doneReps", "body.formReps", "body.plannedReps"}},
	{"verdict", `{"plannedReps":10,"doneReps":8,"formReps":9}`, 422, []string{"body.formReps"}},
	{"verdict", `{"plannedReps":10,"doneReps":8,"formReps":8,"reserve":null}`, 422, []string{"body.reserve"}},
	{"resistance", `{"move":"nope","bodyMassG":70000,"externalG":0}`, 422, []string{"body.move"}},
	{"resistance", `{"move":"squat","bodyMassG":19999,"externalG":300001}`, 422, []string{"body.bodyMassG", "body.externalG"}},
	{"resistance", `{"move":"knee-push-up","bodyMassG":70000,"externalG":0,"heightMm":100}`, 422, []string{"body.heightMm"}},
	{"resistance", `{"move":"push-up","bodyMassG":70000,"externalG":0,"heightMm":611}`, 422, []string{"body.heightMm"}},
	{"resistance", `{"move":"squat","bodyMassG":70000,"externalG":0,"angleDeg":10,"heightMm":10}`, 422, []string{"body.angleDeg", "body.heightMm"}},
	{"resistance", `{"move":"one-arm-row","bodyMassG":70000,"externalG":0,"angleDeg":10}`, 422, []string{"body.angleDeg"}},
	{"strength", `{"reps":10,"reserve":0}`, 422, []string{"body.loadG"}},
	{"strength", `{"loadG":1,"maxG":1,"reps":10,"reserve":0}`, 422, []string{"body.loadG"}},
	{"strength", `{"loadG":24000,"reps":30,"reserve":1}`, 422, []string{"body.reps"}},
	{"strength", `{"loadG":24000,"reps":37,"reserve":0,"equation":"brzycki"}`, 422, []string{"body.reps"}},
	{"carry", `{"from":{"move":"squat","externalG":0,"reps":10,"reserve":2,"x":1},"to":{"move":"floor-bridge","reps":10},"bodyMassG":70000}`, 422, []string{"body.from.x", "body.to.move", "body.to.reserve"}},
	{"carry", `{"from":{"move":"squat","externalG":0,"reps":10,"reserve":2},"to":{"move":"floor-bridge","reps":10,"reserve":2},"bodyMassG":70000}`, 422, []string{"body.to.move"}},
	{"role", `{"workingG":1000,"role":"alone","school":"percent","available":[1,-1]}`, 422, []string{"body.available[1]"}},
	{"time", `{"kind":"clock"}`, 422, []string{"body.kind"}},
	{"time", `{"kind":"window","windowS":600,"leadInS":10,"stations":3}`, 422, []string{"body.stations"}},
	{"time", `{"kind":"timed","stations":6,"workS":40,"restS":20,"roundRestS":60,"leadInS":0}`, 422, []string{"body.rounds"}},
	{"time", `{"kind":"timed","stations":6,"workS":40,"restS":20,"rounds":3,"roundRestS":60,"leadInS":0,"fill":{"fitS":1200,"solveFor":"rounds"}}`, 422, []string{"body.rounds"}},
	{"time", `{"kind":"reps","rounds":1,"roundRestS":0,"leadInS":0,"changeoverS":0,"sideChangeS":0,"moves":[{"reps":5,"tempo":"2-0","sides":1}]}`, 422, []string{"body.moves[0].tempo"}},
	{"time", `{"kind":"reps","rounds":1,"roundRestS":0,"leadInS":0,"changeoverS":0,"sideChangeS":0,"moves":[{"reps":5,"tempo":"0-0-0-0","sides":1}]}`, 422, []string{"body.moves[0].tempo"}},
	{"window", `{"workS":40,"tempo":"0-0-0-0","sides":2}`, 422, []string{"body.tempo"}},
	{"sides", `{"sets":0,"reps":9,"first":"both"}`, 422, []string{"body.first", "body.sets"}},
	{"fit", `{}`, 422, []string{"body.statureMm"}},
	{"gate", gateOf(10, -1, 101, `"knee"`, true, true, 0), 422, []string{"body.bodyMassG", "body.loadG", "body.formReps", "body.screensPassed[0]"}},
	{"gate", gateOf(70000, 0, 1, `"hip","hip"`, true, true, 0), 422, []string{"body.screensPassed"}},
	{"pickup", pickupOf(`{"id":"a","massG":0,"count":-1,"kind":"k"},{"id":"a","massG":1,"count":1,"kind":"k"}`, 0, pickupOne("p", 1, 0, -1, 3)), 422,
		[]string{"body.implements[0].massG", "body.implements[0].count", "body.implements[1].id", "body.perPerson", "body.people[0].targets[0].targetG", "body.people[0].targets[0].weight", "body.people[0].targets[0].hands"}},
	{"load", `{"targetG":0,"toleranceG":-1,"loads":3,"objects":[{"id":"a","massG":0,"volumeMl":-1,"count":501}]}`, 422,
		[]string{"body.targetG", "body.toleranceG", "body.loads", "body.objects[0].massG", "body.objects[0].volumeMl", "body.objects[0].count", "body.fillables"}},
	{"load", `{"targetG":1,"toleranceG":0,"loads":1,"container":{"id":"c","massG":9,"maxG":8,"volumeMl":0},"objects":[{"id":"a","massG":1,"volumeMl":0,"count":1},{"id":"a","massG":1,"volumeMl":0,"count":1}],"fillables":[{"id":"f","emptyG":9,"fullG":8,"stepG":1,"volumeMl":0,"count":1}]}`, 422,
		[]string{"body.container.maxG", "body.objects[1].id", "body.fillables[0].fullG"}},
	{"load-rule", `{"fromG":10,"toG":9,"resolutionG":0,"objects":[],"fillables":[]}`, 422, []string{"body.resolutionG", "body.toG"}},
	{"load-rule", `{"fromG":10,"toG":9,"resolutionG":1,"objects":[],"fillables":[]}`, 422, []string{"body.toG"}},
	{"load-rule", `{"fromG":0,"toG":300000,"resolutionG":1,"objects":[],"fillables":[]}`, 422, []string{"body.resolutionG"}},
	{"bridge", `{"move":"carry","bodyMassG":70000,"fromG":4000,"toG":4000,"repsLow":9,"repsHigh":8,"lastReps":1,"sessionsOver":0,"reserve":0}`, 422, []string{"body.move", "body.toG", "body.repsHigh"}},
	{"bridge", `{"move":"get-up","bodyMassG":70000,"fromG":4000,"toG":6000,"repsLow":1,"repsHigh":3,"lastReps":1,"sessionsOver":0,"reserve":0,"sets":0}`, 422, []string{"body.move", "body.sets"}},
	{"bridge", `{"move":"get-up","bodyMassG":70000,"fromG":4000,"toG":6000,"repsLow":1,"repsHigh":3,"lastReps":1,"sessionsOver":0,"reserve":0}`, 422, []string{"body.move"}},
	{"options", optionsOf(`["leap"]`, `{"lane":"middle","people":0,"bodyMassG":70000,"statureMm":1700}`, ``, ``), 422, []string{"body.lanes[0].people", "body.moves[0]"}},
	{"options", optionsOf(`["leap"]`, `{"lane":"middle","people":1,"bodyMassG":70000,"statureMm":1700},{"lane":"middle","people":1,"bodyMassG":70000,"statureMm":1700}`,
		`{"id":"a","kind":"kettlebell","massG":4000,"count":1},{"id":"a","kind":"kettlebell","massG":4000,"count":1}`,
		`,"bans":["knee","lunges","STEP-UP"],"pins":[{"slot":2,"lane":"reach","move":"hop"},{"slot":1,"lane":"middle","move":"push-up"}],"last":[["hop"]]`), 422,
		[]string{"body.moves[0]", "body.lanes[1].lane", "body.implements[1].id", "body.bans[0]", "body.bans[1]", "body.bans[2]", "body.pins[0].slot", "body.pins[0].lane", "body.pins[0].move", "body.pins[1].move", "body.last[0][0]"}},
	{"tipping", `{"bodyMassG":70000,"wornG":0,"angleDeg":81,"edgeOutMm":150,"tableMassG":0,"centreInMm":350,"kind":"round"}`, 422, []string{"body.angleDeg", "body.tableMassG", "body.kind"}},
	{"anchor", `{"bodyMassG":70000,"leanDeg":91,"anchorG":-1}`, 422, []string{"body.leanDeg", "body.anchorG"}},
	{"role", `{"workingG":1000,"role":"alone","school":"percent","available":[9223372036854775808,1e308]}`, 422, []string{"body.available[0]", "body.available[1]"}},
	{"verdict", `{"plannedReps":10,"doneReps":8,"formReps":"\ud800"}`, 422, []string{"body.formReps"}},
	{"resistance", `{"move":"\udc00\ud800x","bodyMassG":70000,"externalG":0}`, 422, []string{"body.move"}},
	{"resistance", "{\"move\":\"squ\xffat\",\"bodyMassG\":70000,\"externalG\":0}", 400, nil},
	{"gate", gateOf(70000, 0, 1, `["hip"],["hip"],{},{}`, true, true, 0), 422, []string{"body.screensPassed[0]", "body.screensPassed[1]", "body.screensPassed[2]", "body.screensPassed[3]"}},
	{"nothing", `{}`, 422, []string{"name"}},
}

// optionsOf is a request for one squat slot by the clock, 40 s.
func optionsOf(moves, lanes, implements, more string) string {
	return `{"minutes":45,"by":"clock","workS":40,"restS":20,"roundRestS":60,"slots":[["squat"]],"moves":` + moves + `,"lanes":[` + lanes + `],"implements":[` + implements + `],"supports":[]` + more + `}`
}

func TestBadInputNamesEveryWrongField(t *testing.T) {
	for _, c := range badInputs {
		out, p := Run(context.Background(), c.name, []byte(c.request))
		require.NotNil(t, p, c.request)
		assert.Nil(t, out)
		assert.Equal(t, c.status, p.Status, c.request)
		assert.ElementsMatch(t, c.locations, locations(p), c.request)
	}
}

func locations(p *problem.Problem) []string {
	var out []string
	seen := map[string]bool{}
	for _, e := range p.Errors {
		if !seen[e.Location] {
			out = append(out, e.Location)
		}
		seen[e.Location] = true
	}
	return out
}

// Every example works, and the schemas in docs/formats are those of the code.
func TestExamplesAndSchemas(t *testing.T) {
	for _, c := range All() {
		_, p := Run(context.Background(), c.Name, []byte(c.Example))
		assert.Nil(t, p, c.Name)
		got, err := c.Schema()
		require.NoError(t, err)
		file := filepath.Join("..", "..", "docs", "formats", "calc-"+c.Name+".json")
		if *update {
			require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o750))
			require.NoError(t, os.WriteFile(file, got, 0o600))
		}
		want, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Equal(t, string(want), string(got), c.Name)
	}
}

func FuzzRun(f *testing.F) {
	for _, c := range badInputs {
		f.Add(c.name, []byte(c.request))
	}
	for _, c := range All() {
		f.Add(c.Name, []byte(c.Example))
	}
	f.Fuzz(func(t *testing.T, name string, request []byte) {
		out, p := Run(context.Background(), name, request)
		if (out == nil) == (p == nil) {
			t.Fatal("an answer or a problem, never both")
		}
		if p != nil && p.Status == 500 {
			t.Fatalf("%s %s: %+v", name, request, p)
		}
	})
}

func BenchmarkRun(b *testing.B) {
	for _, c := range All() {
		request := []byte(c.Example)
		b.Run(c.Name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				Run(context.Background(), c.Name, request)
			}
		})
	}
}

const allScreens = `"ankle","hip","shin","upper-back","shoulder"`

func pickupOf(implements string, each int, people string) string {
	return fmt.Sprintf(`{"implements":[%s],"people":[%s],"perPerson":%d}`, implements, people, each)
}

func pickupOne(id string, slot, target, weight, hands int) string {
	return fmt.Sprintf(`{"id":%q,"targets":[{"slot":%d,"targetG":%d,"minG":0,"maxG":30000,"weight":%d,"hands":%d,"kinds":["kettlebell"]}]}`, id, slot, target, weight, hands)
}

func gateOf(body, load, reps int, screens string, bracing, goal bool, heaviest int) string {
	return fmt.Sprintf(`{"bodyMassG":%d,"loadG":%d,"formReps":%d,"screensPassed":[%s],"bracing":%t,"goalNeedsIt":%t,"heaviestG":%d}`, body, load, reps, screens, bracing, goal, heaviest)
}
