package calc

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
)

// The calculation, the plan and the running order say the same of a class, to the
// millisecond: how long it takes, and of work and rest, around what only a class has.
func TestTimesAgree(t *testing.T) {
	lib := moves.Standard()
	ids := []string{"squat", "split-squat", "reverse-lunge", "lateral-lunge", "hip-hinge"} // standing, nothing held: no change-over
	rapid.Check(t, func(t *rapid.T) {
		n := func(name string, low, high int) int { return rapid.IntRange(low, high).Draw(t, name) }
		d := circuit.Document{
			Format:      rapid.SampledFrom([]circuit.Format{circuit.Timed, circuit.Reps}).Draw(t, "format"),
			LeadInMs:    measure.Span(n("lead-in", 0, 60_000)),
			WorkMs:      measure.Span(n("work", 5000, 600_000)),
			RestMs:      measure.Span(n("rest", 0, 600_000)),
			Rounds:      n("rounds", 1, 20),
			RoundRestMs: measure.Span(n("pause", 0, 600_000)),
		}
		var asked []string
		for i := range n("slots", 1, 12) {
			v, _ := lib.Get(rapid.SampledFrom(ids).Draw(t, "move"))
			e := circuit.Entry{
				Variant: v.ID, Hold: moves.NoLoad, Load: kit.Nothing, Reps: n("reps", 1, 100),
				Tempo: rapid.SampledFrom([]string{"2-0-2-0", "3-1-X-0", "5-5-X-0"}).Draw(t, "tempo"), Sides: scheme.BothSides,
			}
			if v.Sides == moves.PerSide {
				e.Sides = scheme.Split
			}
			d.Slots = append(d.Slots, circuit.Slot{
				ID: circuit.SlotID(i + 1), Waves: 1, Entries: map[people.Party]circuit.Entry{"middle": e},
			})
			sides := map[scheme.SideMode]int{scheme.BothSides: 1, scheme.Split: 2}[e.Sides]
			asked = append(asked, fmt.Sprintf(`{"reps":%d,"tempo":%q,"sides":%d}`, e.Reps, e.Tempo, sides))
		}
		s := func(ms measure.Span) string { return fmt.Sprint(ms.InSeconds()) }
		request := fmt.Sprintf(`"rounds":%d,"roundRestS":%s,"leadInS":%s`, d.Rounds, s(d.RoundRestMs), s(d.LeadInMs))
		if d.Format == circuit.Timed {
			request = fmt.Sprintf(`{"kind":"timed","stations":%d,"workS":%s,"restS":%s,%s}`,
				len(d.Slots), s(d.WorkMs), s(d.RestMs), request)
		} else {
			request = fmt.Sprintf(`{"kind":"reps","changeoverS":%s,"sideChangeS":5,"moves":[%s],%s}`,
				s(d.RestMs), strings.Join(asked, ","), request)
		}
		body, wrong := Run(context.Background(), "time", []byte(request))
		require.Nil(t, wrong, request)
		var got struct{ TotalS, WorkS, RestS, LeadInS float64 }
		require.NoError(t, json.Unmarshal(body, &got))

		c := plan.Context{Library: lib, Minutes: n("minutes", 5, 120), Parties: []plan.Party{
			{Lane: moves.Middle, People: 1, Body: plan.DefaultBody, Stature: plan.DefaultStature},
		}}
		look := plan.Look(d, c)
		sums := map[scheme.Kind]measure.Span{}
		for _, b := range look.Order.Blocks {
			sums[b.Kind] += measure.Span(b.Until - b.From)
		}
		around := sums[scheme.Prep] + sums[scheme.Learn] + sums[scheme.Close]
		require.Equal(t, look.TotalMs, plan.Length(d, c), "the plan, without laying it out")
		require.EqualValues(t, look.TotalMs, look.Order.Total, "the running order")
		require.Equal(t, s(look.TotalMs-around), s(measure.Seconds(got.TotalS)))
		require.Equal(t, s(sums[scheme.Work]), s(measure.Seconds(got.WorkS)))
		require.Equal(t, s(sums[scheme.Rest]+sums[scheme.RoundRest]), s(measure.Seconds(got.RestS)))
		require.Equal(t, s(sums[scheme.LeadIn]), s(measure.Seconds(got.LeadInS)))

		// What rounds, work, rest and pause are chosen by adds up to the same.
		bare := d
		bare.RestMs = 0
		f := plan.Open(bare, c)
		require.Equal(t, look.TotalMs, f.Total(d.Rounds, f.Round(d.WorkMs, d.RestMs), d.RoundRestMs))
	})
}
