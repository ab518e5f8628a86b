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
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
)

// drawn is a document of blocks with the request that asks the calculation for the same.
type drawn struct {
	t        *rapid.T
	document circuit.Document
	blocks   []string
}

func (d *drawn) n(name string, low, high int) int { return rapid.IntRange(low, high).Draw(d.t, name) }

// ms draws whole tenths of a second, as the calculation takes them.
func (d *drawn) ms(name string, low, high int) measure.Span {
	return measure.Span(d.n(name, low*10, high*10)) * 100
}

func s(ms measure.Span) string { return fmt.Sprint(ms.InSeconds()) }

// slot draws a slot of a standing move with nothing held, so that no change-over grows a
// rest, and how the calculation is asked for it.
func (d *drawn) slot(kind scheme.Name, byClock bool) (circuit.Slot, string) {
	lib := moves.Standard()
	v, _ := lib.Get(rapid.SampledFrom([]string{"squat", "split-squat", "reverse-lunge", "lateral-lunge", "hip-hinge"}).Draw(d.t, "move"))
	low := d.n("low", 1, 20)
	e := circuit.Entry{
		Variant: v.ID, Hold: moves.NoLoad, Load: kit.Nothing, Dose: circuit.Dose{Kind: circuit.Count, Low: low, High: low + d.n("range", 0, 20)}, Sides: scheme.BothSides,
	}
	var asked []string
	if kind != scheme.Ladder && kind != scheme.Drop {
		asked = append(asked, fmt.Sprintf(`"repsLow":%d,"repsHigh":%d`, e.Dose.Low, e.Dose.High))
	} else if kind == scheme.Drop {
		e.Dose.High = e.Dose.Low
	}
	if rapid.Bool().Draw(d.t, "parts") {
		e.Parts = []circuit.Part{{Move: "squat", Count: d.n("count", 1, 3), Ms: d.ms("part", 1, 5)}, {Move: "press", Count: 1, Ms: 3000}}
		asked = append(asked, fmt.Sprintf(`"parts":[{"s":%s,"count":%d},{"s":3,"count":1}]`, s(e.Parts[0].Ms), e.Parts[0].Count))
	} else {
		e.Tempo = rapid.SampledFrom([]string{"2-0-2-0", "3-1-X-0", "5-5-X-0"}).Draw(d.t, "tempo")
		asked = append(asked, fmt.Sprintf(`"tempo":%q`, e.Tempo))
	}
	if kind != scheme.Chain && v.Sides == moves.PerSide {
		e.Sides = scheme.Split
		mode := ""
		if (kind == scheme.Circuit || kind == scheme.Sets) && !byClock && rapid.Bool().Draw(d.t, "by rounds") {
			e.Sides, mode = scheme.ByRound, `,"mode":"rounds"`
		}
		asked = append(asked, `"sides":2,"sideChangeS":5`+mode)
	}
	d.document.Blocks[len(d.document.Blocks)-1].Slots = append(d.document.Blocks[len(d.document.Blocks)-1].Slots, circuit.Slot{
		ID: d.document.FreeSlotID(), Pattern: v.Pattern, Waves: 1, Entries: map[people.Party]circuit.Entry{"middle": e},
	})
	return circuit.Slot{}, "{" + strings.Join(asked, ",") + "}"
}

// block draws a block of any scheme.
func (d *drawn) block() {
	kind := rapid.SampledFrom(scheme.Names).Draw(d.t, "scheme")
	x := circuit.Scheme{Kind: kind}
	b := circuit.Block{ID: d.document.FreeBlockID(), Kind: circuit.Work, Layout: circuit.Together, AfterMs: d.ms("after", 0, 300)}
	ask := []string{fmt.Sprintf(`"scheme":%q,"afterS":%s`, kind, s(b.AfterMs))}
	add := func(format string, args ...any) { ask = append(ask, fmt.Sprintf(format, args...)) }
	rounds := d.n("rounds", 1, 6)
	byClock, slots := false, d.n("slots", 1, 3)
	switch kind {
	case scheme.Circuit:
		c := &circuit.InRounds{Format: circuit.Reps, WorkMs: d.ms("work", 5, 600), RestMs: d.ms("rest", 0, 600), Rounds: rounds, RoundRestMs: d.ms("pause", 0, 600)}
		x.Circuit = c
		if byClock = rapid.Bool().Draw(d.t, "by clock"); byClock {
			c.Format = circuit.Timed
			add(`"by":"clock","workS":%s,"restS":%s,"rounds":%d,"roundRestS":%s`, s(c.WorkMs), s(c.RestMs), rounds, s(c.RoundRestMs))
		} else {
			add(`"by":"reps","changeoverS":%s,"rounds":%d,"roundRestS":%s`, s(c.RestMs), rounds, s(c.RoundRestMs))
		}
	case scheme.Sets:
		x.Sets = &circuit.InSets{Sets: rounds, RestMs: d.ms("rest", 0, 600), BetweenMs: d.ms("between", 0, 600)}
		add(`"sets":%d,"restS":%s,"changeoverS":%s`, rounds, s(x.Sets.RestMs), s(x.Sets.BetweenMs))
	case scheme.Superset:
		x.Superset = &circuit.InGroups{Rounds: rounds, RestMs: d.ms("rest", 0, 600)}
		add(`"rounds":%d,"restS":%s`, rounds, s(x.Superset.RestMs))
	case scheme.Chain:
		x.Chain = &circuit.InChain{Rounds: rounds, RestMs: d.ms("rest", 0, 600), Sides: d.n("sides", 1, 2), SideChangeMs: d.ms("change", 0, 60)}
		add(`"rounds":%d,"restS":%s,"sides":%d,"sideChangeS":%s`, rounds, s(x.Chain.RestMs), x.Chain.Sides, s(x.Chain.SideChangeMs))
	case scheme.Interval:
		slots = 1
		x.Interval = &circuit.InIntervals{EveryMs: 600_000, Sets: rounds}
		add(`"everyS":600,"sets":%d`, rounds)
	case scheme.Windowed:
		x.Window = &circuit.InWindow{WindowMs: d.ms("window", 5, 3600)}
		add(`"windowS":%s`, s(x.Window.WindowMs))
	case scheme.Ladder:
		x.Ladder = &circuit.InRungs{Rungs: rapid.SliceOfN(rapid.IntRange(1, 20), 1, 6).Draw(d.t, "rungs"), RestMs: d.ms("rest", 0, 600), BetweenMs: d.ms("between", 0, 60)}
		rungs, _ := json.Marshal(x.Ladder.Rungs)
		add(`"rungs":%s,"restS":%s,"changeoverS":%s`, rungs, s(x.Ladder.RestMs), s(x.Ladder.BetweenMs))
	case scheme.Drop:
		x.Drop = &circuit.InStages{ChangeMs: d.ms("change", 0, 60)}
		add(`"changeS":%s`, s(x.Drop.ChangeMs))
	case scheme.CalledOut:
		x.Called = &circuit.CalledOut{CalledMs: d.ms("called", 5, 600), EveryMs: 3000, Words: circuit.Directions}
		add(`"calledS":%s`, s(x.Called.CalledMs))
		slots = 0
	}
	b.Scheme = &x
	d.document.Blocks = append(d.document.Blocks, b)
	if kind == scheme.Drop { // one move, stage by stage
		_, asked := d.slot(kind, false)
		at := &d.document.Blocks[len(d.document.Blocks)-1]
		var stages []string
		for n := range d.n("stages", 1, 4) {
			stage := at.Slots[0]
			e := stage.Entries["middle"]
			e.Dose = circuit.Times(d.n("stage", 1, 40))
			stage.ID, stage.Entries = fmt.Sprintf("%s-%d", stage.ID, n), map[people.Party]circuit.Entry{"middle": e}
			at.Slots = append(at.Slots, stage)
			stages = append(stages, fmt.Sprint(e.Dose.High))
		}
		at.Slots = at.Slots[1:]
		add(`"stages":[%s],"slots":[%s]`, strings.Join(stages, ","), asked)
	} else if slots > 0 {
		var asked []string
		for range slots {
			_, one := d.slot(kind, byClock)
			asked = append(asked, one)
		}
		add(`"slots":[%s]`, strings.Join(asked, ","))
	}
	d.blocks = append(d.blocks, "{"+strings.Join(ask, ",")+"}")
}

// The calculation, the plan and the running order say the same of a session of blocks of
// every scheme, to the millisecond: how long each block takes, its work and rest, and how
// much is done.
func TestTimesAgree(t *testing.T) {
	lib := moves.Standard()
	rapid.Check(t, func(t *rapid.T) {
		d := drawn{t: t, document: circuit.Document{V: circuit.DocumentVersion, Bans: []string{}}}
		d.document.LeadInMs = d.ms("lead-in", 0, 60)
		for range d.n("blocks", 1, 4) {
			d.block()
		}
		require.NoError(t, d.document.Check(lib))
		request := fmt.Sprintf(`{"leadInS":%s,"blocks":[%s]}`, s(d.document.LeadInMs), strings.Join(d.blocks, ","))
		body, wrong := Run(context.Background(), "session", []byte(request))
		if wrong != nil && strings.Contains(request, `"interval"`) {
			t.Skip("sets longer than their interval") // which the plan draws and the calculation refuses
		}
		require.Nil(t, wrong, request)
		var got sessionAnswer
		require.NoError(t, json.Unmarshal(body, &got))

		c := plan.Context{Library: lib, Minutes: d.n("minutes", 5, 120), Parties: []plan.Party{
			{Lane: moves.Middle, People: 1, Body: plan.DefaultBody, Stature: plan.DefaultStature},
		}}
		look := plan.Look(d.document, c)
		require.Equal(t, s(look.TotalMs), s(measure.Seconds(got.TotalS)), request)
		require.Equal(t, look.TotalMs, plan.Length(d.document, c), "the plan, without laying it out")
		require.EqualValues(t, look.TotalMs, look.Order.Total, "the running order")
		sums := map[string]measure.Span{}
		for _, x := range look.Order.Stretches {
			if x.Kind == scheme.Work || x.Kind == scheme.Change {
				sums[x.Block] += measure.Span(x.Until - x.From)
			}
		}
		for i, b := range look.Blocks {
			require.Equal(t, got.Blocks[i], blockTime{b.TotalMs.InSeconds(), b.WorkMs.InSeconds(), b.RestMs.InSeconds()}, d.blocks[i])
			require.Equal(t, b.WorkMs, sums[b.ID], "the running order's work of %s", d.blocks[i])
		}
		counts(t, d.document, look, got)
		covers(t, look.Order)
	})
}

// counts compares how much is done, slot by slot; by the clock the plan counts what fits,
// and a drop's stages are slots of the plan.
func counts(t *rapid.T, d circuit.Document, look plan.Plan, got sessionAnswer) {
	for _, c := range got.Counts {
		b := d.Blocks[c.Block-1]
		if _, byClock := b.ByClock(circuit.Slot{}); byClock {
			continue
		}
		var sum scheme.Count
		for _, sp := range look.Slots {
			if sp.Block == b.ID && (b.Is(scheme.Drop) || sp.ID == b.Slots[c.Slot-1].ID) {
				sum = sum.Add(scheme.Count(sp.Cells[0].Count))
			}
		}
		require.Equal(t, scheme.Count{
			Low: c.Low, High: c.High, LeftLow: c.LeftLow, LeftHigh: c.LeftHigh, RightLow: c.RightLow, RightHigh: c.RightHigh,
		}, sum)
	}
}

// covers makes sure that a running order covers each second once, for the class and for
// every party.
func covers(t *rapid.T, o cue.Order) {
	require.NoError(t, o.Check())
	at := map[people.Party]int64{}
	for _, e := range o.Events {
		require.Equal(t, at[e.Party], e.From)
		at[e.Party] = e.Until
	}
	for who, until := range at {
		require.Equal(t, o.Total, until, who)
	}
}

// What rounds, work, rest and pause of a circuit are chosen by adds up to what it takes.
func TestFramesAgree(t *testing.T) {
	lib := moves.Standard()
	rapid.Check(t, func(t *rapid.T) {
		d := drawn{t: t, document: circuit.Document{V: circuit.DocumentVersion, Bans: []string{}}}
		for range d.n("blocks", 1, 4) {
			d.block()
		}
		single, block, ok := d.document.Single()
		if !ok || single.Rounds%2 == 1 { // an odd round shared by the sides is longer than the others
			return
		}
		c := plan.Context{Library: lib, Minutes: 45, Parties: []plan.Party{{Lane: moves.Middle, People: 1, Body: plan.DefaultBody, Stature: plan.DefaultStature}}}
		want := plan.Length(d.document, c)
		bare := d.document.Clone()
		bare.Blocks[block].Scheme.Circuit.RestMs = 0
		f := plan.Open(bare, c)
		require.Equal(t, want, f.Total(single.Rounds, f.Round(single.WorkMs, single.RestMs), single.RoundRestMs))
	})
}
