package core_test

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/compose"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/run"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/golden"
)

// bent gives copies of a value with one field of its JSON set to each of some values.
func bent[T any](t *testing.T, v T, numbers []any, put func(what string, bent T)) {
	t.Helper()
	b, err := json.Marshal(v)
	require.NoError(t, err)
	var whole any
	require.NoError(t, json.Unmarshal(b, &whole))
	var walk func(at any, path string, set func(any))
	walk = func(at any, path string, set func(any)) {
		try := func(values ...any) {
			for _, x := range values {
				set(x)
				text, err := json.Marshal(whole)
				require.NoError(t, err)
				var out T
				if json.Unmarshal(text, &out) == nil {
					put(fmt.Sprintf("%s=%.20v", path, x), out)
				}
			}
			set(at)
		}
		switch x := at.(type) {
		case map[string]any:
			for _, k := range slices.Sorted(maps.Keys(x)) {
				walk(x[k], path+"."+k, func(v any) { x[k] = v })
			}
		case []any:
			for i := range x[:min(len(x), 2)] {
				walk(x[i], fmt.Sprintf("%s[%d]", path, i), func(v any) { x[i] = v })
			}
			try([]any{}, append(slices.Clone(x), x...))
		case float64:
			try(append(slices.Clone(numbers), x+1, x-1)...)
		case string:
			try("", "nothing-such", strings.Repeat("x", 200))
		case bool:
			try(!x)
		}
	}
	walk(whole, "", func(any) {})
}

func paths(err error) string {
	list, ok := err.(fault.List)
	if !ok {
		return fmt.Sprint(err)
	}
	var out []string
	for _, f := range list {
		out = append(out, f.Path)
	}
	return strings.Join(out, " ")
}

// What is refused, and what just is not: every field of a card, a document and a running
// order bent, one at a time.
func TestApprovedRefusals(t *testing.T) {
	out := golden.Begin(t, "testdata/refusals.txt")
	lib := moves.Standard()
	for _, id := range []string{"goblet-squat", "push-up", "one-arm-row", "two-hand-swing", "get-up", "single-leg-floor-bridge", "clean-squat-press"} {
		v, ok := lib.Get(id)
		if !ok {
			continue
		}
		bent(t, *v, []any{0, 1, -1, 60, 61, 100, 101, 1e6}, func(what string, x moves.Variant) {
			if f := x.Faults(); len(f) > 0 {
				out.Say("%s%s: %s", id, what, golden.Digest(f))
			}
		})
	}
	d := compose.Propose(compose.Brief{Context: plan.Context{Library: lib, Stock: places[2].stock, Minutes: 20, Parties: []plan.Party{
		{Lane: moves.Middle, People: 2, Body: 70_000, Stature: 1700},
	}}, Format: circuit.Timed}).Document
	d.Blocks[2].Slots = d.Blocks[2].Slots[:2]
	bent(t, d, []any{0, 1, -1, 4, 5, 20, 21, 100, 101, 4999, 5000, 600_000, 600_001}, func(what string, x circuit.Document) {
		if err := x.Check(lib); err != nil {
			out.Say("document%s: %s", what, paths(err))
		}
	})
	context := plan.Context{Library: lib, Stock: places[2].stock, Minutes: 20, Parties: []plan.Party{{Lane: moves.Middle, People: 2, Body: 70_000, Stature: 1700}}}
	o := plan.Look(d, context).Order
	o.Stretches, o.Events = o.Stretches[:3], o.Events[:3]
	o.Total = o.Stretches[2].Until
	o.Calls = cue.Calls(cue.Order{Stretches: o.Stretches})
	for i := range o.Events {
		o.Events[i].From, o.Events[i].Until = o.Stretches[i].From, o.Stretches[i].Until
	}
	require.NoError(t, o.Check())
	bent(t, o, []any{0, -1, 43_200_000, 43_200_001}, func(what string, x cue.Order) { out.Say("order%s: %v", what, x.Check()) })
	for n, total := range []int64{0, 1, 43_200_000, 43_200_001} {
		out.Say("%d of %d: %v", n, total, cue.Order{Total: total, Stretches: []cue.Stretch{{Until: total, Kind: scheme.Work}}}.Check())
	}
	// Edits that lack something, or say too much.
	number := func(n int) *int { return &n }
	span := func(n measure.Span) *measure.Span { return &n }
	yes := true
	entry := d.Blocks[2].Slots[0].Entries["middle"]
	for _, kind := range append(slices.Clone(circuit.OpKinds), "dance") {
		for _, op := range []circuit.Op{
			{}, {BlockID: "b3"}, {BlockID: "b9"}, {BlockID: "b1", Scheme: d.Blocks[2].Scheme}, {BlockID: "b3", Scheme: d.Blocks[2].Scheme}, {BlockID: "b3", Scheme: &circuit.Scheme{Kind: "sets"}},
			{BlockID: "b3", Of: circuit.Finisher}, {BlockID: "b3", Of: "nap"}, {BlockID: "b3", Layout: circuit.InWaves}, {BlockID: "b3", Layout: "heap"}, {BlockID: "b3", Ms: span(0)}, {BlockID: "b3", Count: number(3)},
			{BlockID: "b3", Count: number(4)}, {Block: &d.Blocks[2], Count: number(0)}, {Block: &circuit.Block{ID: "new", Kind: circuit.Close, Auto: true, Layout: circuit.Together}, Count: number(4)},
			{SlotID: "s1", Own: &circuit.Own{RestMs: span(0)}}, {SlotID: "s1", Own: &circuit.Own{Sets: 2}}, {SlotID: "s1", BlockID: "b1", Count: number(0)}, {SlotID: "s1", BlockID: "b3", Count: number(1)}, {Ms: span(0)}, {Ms: span(4999)}, {Ms: span(5000)}, {Ms: span(600_000)}, {Ms: span(600_001)}, {Ms: span(-1)},
			{Count: number(0), SlotID: "s1"}, {Count: number(1), SlotID: "s1"}, {Count: number(2), SlotID: "s1"}, {Count: number(4), SlotID: "s2"}, {Count: number(5), SlotID: "s2"},
			{Count: number(20), SlotID: "s1"}, {Count: number(21), SlotID: "s1"}, {Count: number(-1), SlotID: "s2"}, {SlotID: "s1"}, {SlotID: "s9"}, {SlotID: "s1", Flag: &yes},
			{SlotID: "s1", Party: "middle", Entry: &entry}, {SlotID: "s1", Party: "reach", Entry: &entry}, {SlotID: "s1", Party: "nobody", Entry: &entry}, {SlotID: "s1", Party: "middle"},
			{BlockID: "b3", Slot: &d.Blocks[2].Slots[1], Count: number(1)}, {BlockID: "b3", Slot: &circuit.Slot{ID: d.FreeSlotID(), Pattern: "squat", Waves: 1}, Count: number(2)}, {BlockID: "b3", Slot: &circuit.Slot{ID: "new", Pattern: "squat", Waves: 1}, Count: number(3)}, {Document: &d},
		} {
			op.Kind = kind
			next, inverse, err := circuit.Apply(d, []circuit.Op{op}, lib)
			out.Say("%s %s: %v, %s", kind, golden.Digest(op), paths(err), golden.Digest([]any{next, inverse, circuit.Compare(d, next)}))
		}
	}
	for _, ids := range [][]string{nil, {"s1"}, {"s2"}, {"s1", "s3"}, {"s3", "s4"}, {"s1", "s2", "s4"}} {
		var x circuit.Single
		for _, id := range ids {
			x.Slots = append(x.Slots, circuit.Slot{ID: id})
		}
		out.Say("free beside %v: %s %s", ids, x.Document().FreeSlotID(), x.Document().FreeBlockID())
	}
	for done := range 3 {
		for form := range 3 {
			for _, pain := range []progress.Pain{progress.NoPain, progress.Burn, progress.Joint} {
				for _, joint := range []string{"", "knee"} {
					for _, others := range []bool{false, true} {
						w := progress.Written{Done: done, InForm: form, Pain: pain, Joint: joint, Others: others}
						out.Say("written %+v: %s", w, paths(w.Check()))
					}
				}
			}
		}
	}
	for _, text := range []string{"2-0-2-0", "3-0-1-1", "4-0-1-0", "5-5-X-0", "X-1-X-0", "0-0-0-0", "60-0-0-0", "61-0-0-0", "01-0-0-0", "2-0-2", "a-0-0-0"} {
		tempo, err := scheme.ParseTempo(text)
		out.Say("tempo %s: %s %d slower %s, %v", text, tempo, tempo.PerRep(), tempo.Slower(), err != nil)
	}
}

// counted is a dose as it was written before doses.
var counted = regexp.MustCompile(`"dose":\{"kind":"count","low":(\d+),"high":\d+\}`)

// What a class is run and logged by.
func TestApprovedRuns(t *testing.T) {
	out := golden.Begin(t, "testdata/runs.txt")
	lib := moves.Standard()
	for seed := range uint64(12) {
		r := rand.New(rand.NewPCG(seed, 23))
		b, name := drawnBrief(r, lib)
		p := compose.Propose(b)
		if !p.Feasible {
			continue
		}
		look := plan.Look(p.Document, b.Context)
		frozen := run.Freeze(p.Document, look, b.Context, []kit.Item{})
		before := frozen
		before.Ramp, before.Floors = nil, nil // there were none then
		bytes, err := run.Encode(before)
		require.NoError(t, err)
		old := strings.ReplaceAll(strings.ReplaceAll(string(bytes), `"v":3,`, ""), `"party":`, `"formerly":`)
		old = counted.ReplaceAllString(strings.ReplaceAll(old, `"stretches":`, `"blocks":`), `"reps":$1`)
		thawed, err := run.Decode([]byte(old))
		require.NoError(t, err)
		out.Say("%d %s: %s, as it was written once %v", seed, name, golden.Digest(frozen), golden.Digest(thawed) == golden.Digest(before))
		for _, at := range []int64{0, 1, frozen.Order.Total / 2, frozen.Order.Total} {
			for _, state := range []string{cue.Moving, cue.Ended} {
				out.Say("  %s at %d: came to %d", state, at, len(frozen.CameTo(cue.Anchor{State: state, PositionMs: at})))
			}
		}
		for _, l := range b.Parties {
			asked := run.Asked(frozen.Slots, l.ID(), l.Lane)
			sheet := progress.Sheet{Subject: l.ID(), Lane: l.Lane}.Begin(asked)
			var results []any
			for i := range sheet.Lines {
				line := &sheet.Lines[i]
				w := progress.Written{Done: r.IntN(15), Pain: one(r, []progress.Pain{progress.NoPain, progress.NoPain, progress.Joint})}
				w.InForm = max(0, w.Done-r.IntN(3))
				now := progress.LineOf(b.Past.Day, l.Lane, "", line.Asked(), w)
				line.Fill(now, i)
				results = append(results, sheet.Judge(lib, b.Past, now, 70_000, func(c *progress.Case) { l.Neighbours(b.Context, c) }), line.AsPlanned())
			}
			out.Say("  %s: %d lines, %s", l.Lane, len(sheet.Lines), golden.Digest([]any{sheet, results, asked}))
		}
	}
}

// Everything about places, bodies and schools that is not about a class.
func TestApprovedCorners(t *testing.T) {
	out := golden.Begin(t, "testdata/corners.txt")
	lib := moves.Standard()
	for _, at := range places {
		s := at.stock
		for _, knee := range []float64{400, 450, 484.5, 540} {
			out.Say("%s: knee %.1f: boxes %v, benches %v", at.name, knee, s.BoxesFor(knee), s.BenchesFor(knee))
		}
		ids := []string{"nothing"}
		for _, i := range s.Implements {
			ids = append(ids, i.ID)
		}
		for _, o := range s.Objects {
			ids = append(ids, o.ID)
		}
		for _, c := range s.Containers {
			ids = append(ids, c.ID)
		}
		for _, id := range ids {
			i, ok := s.Implement(id)
			without := s.Without(id)
			out.Say("%s: %s: %d pieces, %v %s, without it %d", at.name, id, s.Pieces(id), ok, golden.Digest(i), len(without.Implements))
		}
		for _, c := range s.Containers {
			load := kit.Load{Kind: kit.Made, Container: c.ID, Parts: []kit.Portion{{ID: "tin", Count: 9}}}
			total, ok := s.Mass(load)
			once := s.PackedOnce(c.ID, kit.Option{Load: load, Total: total}).Memoized()
			h, _ := moves.HoldOf("hugged")
			v, _ := lib.Get("goblet-squat")
			out.Say("%s: %s of 9 tins: %d %v, packed once %s, without tins %s", at.name, c.ID, total, ok, golden.Digest(once.Options(v, h)),
				golden.Digest(s.WithoutObjects(map[string]bool{"tin": true}).Memoized().Options(v, h)))
		}
		for _, holding := range kit.Holdings {
			for _, id := range []string{"goblet-squat", "one-arm-row", "two-weight-row", "bench-hip-thrust", "split-squat", "one-arm-press"} {
				v, ok := lib.Get(id)
				if !ok {
					continue
				}
				marks := s.Marks(holding, v, 70_000)
				totals := make([]measure.Mass, 0, len(marks))
				for _, m := range marks {
					totals = append(totals, m.Total)
				}
				out.Say("%s: rule of %s for %s: %v, %s", at.name, holding, id, totals, golden.Digest(marks))
			}
		}
		for _, l := range []struct{ mass, stature int }{{52_000, 1500}, {70_000, 1700}, {118_000, 1950}} {
			out.Say("%s: %d kg serves %s", at.name, l.mass/1000, golden.Digest(choice.Serves(s, lib, measure.Mass(l.mass), measure.Length(l.stature))))
		}
	}
	for _, v := range lib.All() {
		var all []any
		for _, height := range []measure.Length{-610, -430, -200, 0, 150, 300, 610} {
			for _, load := range []measure.Mass{0, 8000, 24_000} {
				r, err := v.Resistance.Resist(70_000, load, body.Setting{Height: height})
				share, err2 := v.Resistance.BodyShare(body.Setting{Height: height})
				need, err3 := v.Resistance.ExternalFor(30_000, 70_000, body.Setting{Height: height})
				all = append(all, r, share, need, err != nil, err2 != nil, err3 != nil)
			}
		}
		for _, h := range v.Holds {
			for _, load := range []measure.Mass{3000, 6999, 7000, 7001, 12_000} {
				all = append(all, kit.TooMuchOnBack(v, h, load, 70_000))
			}
		}
		weakest, light, ok := v.WeakestPart()
		m, mark, on := lib.MarkOnScale(v, moves.Middle)
		if mark != nil {
			all = append(all, mark.ID)
		}
		all = append(all, weakest, light, ok, m, on, strength.Starting(v, 1, moves.Ground, 70_000, 1700), strength.Starting(v, 2, moves.Reach, 90_000, 1850), v.Texts())
		for _, bodyMass := range []measure.Mass{50_000, 70_000} {
			for _, step := range []measure.Mass{8000, 10_000, 10_720, 10_721, 12_000, 16_000} {
				for _, hand := range []bool{false, true} {
					all = append(all, strength.Step(v, bodyMass, 8000, step, hand))
				}
			}
		}
		out.Say("%s: %s", v.ID, golden.Digest(all))
	}
	out.Say("stages %v", lib.Stages("get-up"))
	for _, s := range moves.Schools() {
		for _, o := range s.Options {
			styled := lib.Styled(moves.Style{Studio: map[string]string{s.ID: o.ID}})
			var hidden []string
			for _, v := range lib.All() {
				if styled.Hidden(v.ID) {
					hidden = append(hidden, v.ID)
				}
			}
			out.Say("%s %s: hides %v, %s", s.ID, o.ID, hidden, golden.Digest(styled.All()))
		}
	}
	own, _ := lib.Get("goblet-squat")
	mine := *own
	mine.ID, mine.Name = "own-squat", "Ours"
	other := mine
	other.Name = "Theirs"
	for _, x := range [][2][]*moves.Variant{{nil, {&mine}}, {{&mine}, {&mine}}, {{&mine}, {&other}}, {nil, {&mine, &other}}, {nil, {own}}} {
		p, write := moves.Merge(x[0], x[1], "stamp")
		out.Say("merged: %d added, %d changed, %d same, %q, %d written", len(p.Added), len(p.Changed), len(p.Same), p.Fault, len(write))
	}
	for people := range 8 {
		sitters := []string{}
		for i := range people {
			sitters = append(sitters, fmt.Sprint(i))
		}
		out.Say("%d parties: %v", people, golden.Digest(peopleOf(sitters)))
	}
	over := places[2].stock.Until(canceled())
	out.Say("over: %v", over.Over())
}

func peopleOf(names []string) []people.Party {
	of := map[people.Party]bool{"reach": true, "ground": true}
	for _, n := range names {
		of[people.Party(strings.Repeat(n, 26))] = true
	}
	return people.Parties(of)
}

func canceled() context.Context {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	return ctx
}
