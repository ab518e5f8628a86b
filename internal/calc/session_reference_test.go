package calc

import (
	"context"
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Every scheme worked by hand; the sums beside. The arithmetic of the trade, no source; the
// seconds of parts are the house's.
func TestSessionReference(t *testing.T) {
	type row struct {
		block             string
		total, work       float64
		low, high         int
		left, right, most int // of the first slot; most is the high end of its left side
	}
	const clean = `"parts":[{"s":2.5,"count":1},{"s":4,"count":1},{"s":3,"count":1}]`
	legs := func(tempo string) string {
		one := fmt.Sprintf(`{"repsLow":10,"repsHigh":15,"tempo":%q,"sides":2,"sideChangeS":5}`, tempo)
		return fmt.Sprintf(`{"repsLow":10,"repsHigh":15,"tempo":%q},%s,%s,%s,%s`, tempo, one, one, one, one)
	}
	for name, c := range map[string]row{
		// 3 x 40 + 2 x 60; 3 sets of 10-15 a side
		"by the clock": {`{"scheme":"circuit","by":"clock","workS":40,"restS":20,"rounds":3,"roundRestS":60,"afterS":120,"slots":[{"repsLow":10,"repsHigh":15,"tempo":"2-0-2-0","sides":2,"sideChangeS":5,"mode":"split"}]}`,
			240, 120, 60, 90, 30, 30, 45},
		// a set 30 and 77 (2 x 36 + 5): 2 x (107 + 10) + 60
		"by repetitions": {`{"scheme":"circuit","by":"reps","rounds":2,"changeoverS":10,"roundRestS":60,"slots":[{"reps":10,"tempo":"2-0-1-0"},{"reps":12,"tempo":"2-0-1-0","sides":2,"sideChangeS":5}]}`,
			294, 214, 68, 68, 0, 0, 0},
		// 4 rounds of 12 of one two-sided move and four a side: 48 + 4 x 96 = 432
		"432": {`{"scheme":"circuit","by":"reps","rounds":4,"slots":[` + five(12) + `]}`, 4 * (36 + 4*72), 4 * (36 + 4*72), 432, 432, 0, 0, 0},
		// sides in turn: 27, 27, 27 + 5; 9 + 0 + 5 left, 0 + 9 + 4 right
		"sides by rounds": {`{"scheme":"circuit","by":"reps","rounds":3,"slots":[{"reps":9,"tempo":"2-0-1-0","sides":2,"sideChangeS":5,"mode":"rounds"}]}`,
			86, 86, 27, 27, 14, 13, 14},
		// 4 sets, 2 a side, nobody changes within a set
		"four sets by rounds": {`{"scheme":"sets","sets":4,"restS":60,"slots":[{"reps":10,"tempo":"2-0-1-0","sides":2,"sideChangeS":5,"mode":"rounds"}]}`,
			4*30 + 3*60, 120, 40, 40, 20, 20, 20},
		// 2 x (3 x 30 + 2 x 90) + 20
		"straight sets": {`{"scheme":"sets","sets":3,"restS":90,"changeoverS":20,"slots":[{"reps":10,"tempo":"2-0-1-0"},{"reps":10,"tempo":"2-0-1-0"}]}`,
			560, 180, 60, 60, 0, 0, 0},
		// 3 x (45 + 4 x (90 + 5)) + (3 x 5 - 5) x rests and so on: 1 x 45 + 4 x 95 = 425
		"270 to 405": {`{"scheme":"sets","sets":3,"slots":[` + legs("2-0-1-0") + `]}`, 3 * 425, 3 * 425, 270, 405, 0, 0, 0},
		// 3 x (36 + 10 + 40) + 2 x 60
		"superset": {`{"scheme":"superset","rounds":3,"changeoverS":10,"restS":60,"slots":[{"reps":12,"tempo":"2-0-1-0"},{"reps":10,"tempo":"2-0-2-0"}]}`,
			378, 228, 66, 66, 0, 0, 0},
		// clean 2.5, squat 4, press 3 are 9.5; ten a side 95 a side, twenty squats
		"three parts": {`{"scheme":"chain","sides":2,"slots":[{"reps":10,` + clean + `}]}`, 190, 190, 20, 20, 10, 10, 10},
		// 3 x 2 + 3 x 2.5 + 3 x (4 + 3) = 34.5 a side; 2 x (69 + 5) + 60
		"chain": {`{"scheme":"chain","rounds":2,"restS":60,"sides":2,"sideChangeS":5,"slots":[{"reps":3,"parts":[{"s":2,"count":1}]},{"reps":3,"parts":[{"s":2.5,"count":1}]},{"reps":3,"parts":[{"s":4,"count":1},{"s":3,"count":1}]}]}`,
			208, 148, 36, 36, 6, 6, 6},
		"one side of a chain": {`{"scheme":"chain","slots":[{"repsLow":3,"repsHigh":5,"parts":[{"s":2,"count":1}]}]}`, 10, 10, 3, 5, 0, 0, 0},
		// six stages up and six down, 3 s each: a full get-up is 36 s
		"get-up":          {`{"scheme":"sets","slots":[{"reps":1,"parts":[{"s":3,"count":12}],"sides":2}]}`, 72, 72, 2, 2, 1, 1, 1},
		"every minute":    {`{"scheme":"interval","everyS":60,"sets":10,"slots":[{"reps":10,"tempo":"2-0-1-0"}]}`, 600, 300, 100, 100, 0, 0, 0},
		"ten minutes":     {`{"scheme":"window","windowS":600,"slots":[{"reps":10,"tempo":"2-0-1-0"},{"reps":5,"tempo":"2-0-1-0","sides":2}]}`, 600, 600, 20, 20, 0, 0, 0},
		"up by one":       {`{"scheme":"ladder","rungs":[1,2,3,4,5],"restS":20,"slots":[{"tempo":"2-0-2-0"}]}`, 140, 60, 15, 15, 0, 0, 0},
		"two in a ladder": {`{"scheme":"ladder","rungs":[1,2,3,4,5],"restS":20,"changeoverS":5,"slots":[{"tempo":"2-0-2-0"},{"tempo":"2-0-2-0"}]}`, 225, 120, 30, 30, 0, 0, 0},
		// 30 x 3 + 2 x 5; a side 2 x 90 + 5 + 10
		"drop":        {`{"scheme":"drop","stages":[12,10,8],"changeS":5,"slots":[{"tempo":"2-0-1-0"}]}`, 100, 90, 30, 30, 0, 0, 0},
		"drop a side": {`{"scheme":"drop","stages":[12,10,8],"changeS":5,"slots":[{"tempo":"2-0-1-0","sides":2,"sideChangeS":5}]}`, 195, 185, 60, 60, 30, 30, 30},
		"called":      {`{"scheme":"called","calledS":45,"afterS":30}`, 45, 45, 0, 0, 0, 0, 0},
	} {
		got, p := Run(context.Background(), "session", []byte(`{"leadInS":10,"blocks":[`+c.block+`]}`))
		require.Nil(t, p, "%s: %v", name, p)
		var a sessionAnswer
		require.NoError(t, json.Unmarshal(got, &a))
		assert.Equal(t, c.total+10, a.TotalS, name)
		assert.Equal(t, blockTime{c.total, c.work, c.total - c.work}, a.Blocks[0], name)
		assert.Equal(t, [2]int{c.low, c.high}, [2]int{a.Low, a.High}, name)
		if len(a.Counts) > 0 {
			n := a.Counts[0]
			assert.Equal(t, [3]int{c.left, c.right, c.most}, [3]int{n.LeftLow, n.RightLow, n.LeftHigh}, name)
		}
	}
}

// Of a session's blocks each has its pause after it, the last none; they add up, and what
// stands first is counted first.
func TestSessionAddsUp(t *testing.T) {
	blocks := []string{
		`{"scheme":"called","calledS":45,"afterS":30}`,
		`{"scheme":"sets","sets":2,"restS":0.1,"afterS":12.5,"slots":[{"reps":1,"parts":[{"s":0.3,"count":3}],"sides":2,"sideChangeS":0.7,"mode":"rounds"}]}`,
		`{"scheme":"window","windowS":60.5,"afterS":3,"slots":[{"reps":1,"tempo":"2-0-2-0"}]}`,
	}
	after := []float64{30, 12.5, 3}
	rapid.Check(t, func(t *rapid.T) {
		request, want := "", rapid.SampledFrom([]float64{0, 9.9}).Draw(t, "lead-in")
		lead := want
		drawn := rapid.SliceOfN(rapid.IntRange(0, 2), 1, 9).Draw(t, "blocks")
		for i, n := range drawn {
			if i > 0 {
				request += ","
				want += after[drawn[i-1]]
			}
			request += blocks[n]
			want += []float64{45, 1.9, 60.5}[n]
		}
		got, p := Run(context.Background(), "session", fmt.Appendf(nil, `{"leadInS":%v,"blocks":[%s]}`, lead, request))
		require.Nil(t, p)
		var a sessionAnswer
		require.NoError(t, json.Unmarshal(got, &a))
		assert.InDelta(t, want, a.TotalS, 1e-9)
		for _, b := range a.Blocks {
			assert.InDelta(t, b.TotalS, b.WorkS+b.RestS, 1e-9)
		}
		low := 0
		for _, c := range a.Counts {
			low += c.Low
		}
		assert.Equal(t, a.Low, low)
	})
}

// What a scheme does not have is refused where it stands, and so is what is missing.
func TestSessionRefuses(t *testing.T) {
	slot := `"slots":[{"reps":10,"tempo":"2-0-1-0"}]`
	for block, at := range map[string]string{
		`{"scheme":"circuit",` + slot + `}`:                                                      "by",
		`{"scheme":"circuit","by":"reps","workS":40,` + slot + `}`:                               "workS",
		`{"scheme":"circuit","by":"clock","changeoverS":4,` + slot + `}`:                         "changeoverS",
		`{"scheme":"sets","sets":3}`:                                                             "slots",
		`{"scheme":"sets","rounds":3,` + slot + `}`:                                              "rounds",
		`{"scheme":"interval","everyS":29.9,"sets":3,` + slot + `}`:                              "everyS",
		`{"scheme":"interval","sets":3,` + slot + `}`:                                            "everyS",
		`{"scheme":"window",` + slot + `}`:                                                       "windowS",
		`{"scheme":"called","calledS":45,` + slot + `}`:                                          "slots",
		`{"scheme":"ladder","rungs":[1,0],"slots":[{"tempo":"2-0-1-0"}]}`:                        "rungs[1]",
		`{"scheme":"ladder","rungs":[1],` + slot + `}`:                                           "slots[0].reps",
		`{"scheme":"drop","stages":[12,8],"slots":[{"tempo":"2-0-1-0"},{"tempo":"2-0-1-0"}]}`:    "slots",
		`{"scheme":"chain","slots":[{"reps":3,"tempo":"2-0-1-0","sides":2}]}`:                    "slots[0].sides",
		`{"scheme":"superset","slots":[{"reps":3,"tempo":"2-0-1-0","sides":2,"mode":"rounds"}]}`: "slots[0].mode",
		`{"scheme":"sets","slots":[{"reps":3,"tempo":"2-0-1-0","mode":"rounds"}]}`:               "slots[0].mode",
		`{"scheme":"sets","slots":[{"reps":3,"repsLow":3,"repsHigh":4,"tempo":"2-0-1-0"}]}`:      "slots[0].reps",
		`{"scheme":"sets","slots":[{"repsLow":3,"tempo":"2-0-1-0"}]}`:                            "slots[0].repsHigh",
		`{"scheme":"sets","slots":[{"repsLow":5,"repsHigh":4,"tempo":"2-0-1-0"}]}`:               "slots[0].repsHigh",
		`{"scheme":"sets","slots":[{"reps":3}]}`:                                                 "slots[0].tempo",
		`{"scheme":"sets","slots":[{"reps":3,"tempo":"0-0-0-0"}]}`:                               "slots[0].tempo",
		`{"scheme":"sets","slots":[{"reps":3,"tempo":"2-0-1-0","parts":[{"s":1,"count":1}]}]}`:   "slots[0].tempo",
		`{"scheme":"sets","slots":[{"tempo":"2-0-1-0"}]}`:                                        "slots[0].reps",
		`{"scheme":"emom","everyS":60}`:                                                          "scheme",
	} {
		_, p := Run(context.Background(), "session", []byte(`{"blocks":[`+block+`]}`))
		require.NotNil(t, p, block)
		assert.Equal(t, []string{"body.blocks[0]." + at}, locations(p), block)
	}
}
