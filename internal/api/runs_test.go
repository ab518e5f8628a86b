package api

import (
	"encoding/json"
	"net/http"
	"reflect"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/compose"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/pace"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/run"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/studio"
)

// runner is a class that is run by hand.
type runner struct {
	client
	at  time.Time
	run string
	n   int
}

func (r *runner) press(body map[string]any) studio.RunNow {
	r.n++
	body["clientId"] = id(50_000 + r.n)
	return ok[studio.RunNow](r.client, "POST", "/api/runs/"+r.run+"/events", body)
}

// straight makes the circuit of the next class straight sets by repetitions.
func (r *runner) straight() studio.Circuit {
	next := ok[studio.Today](r.client, "GET", "/api/today", nil).Next
	path := "/api/circuits/" + next.CircuitID
	was := ok[studio.Circuit](r.client, "GET", path, nil)
	edited(r.client, path+"/edits", map[string]any{"clientId": id(49_000), "base": was.Version, "ops": []any{map[string]any{
		"op": "set-scheme", "blockId": "b3",
		"scheme": map[string]any{"kind": "sets", "sets": map[string]any{"sets": 2, "restMs": 60_000, "betweenMs": 30_000}},
	}}})
	return ok[studio.Circuit](r.client, "GET", path, nil)
}

// to goes on until a place of the order.
func (r *runner) to(now studio.RunNow, ms int64) {
	p, _ := now.Anchor.Position(r.at.UnixMilli(), 1<<40)
	r.at = r.at.Add(time.Duration(ms-p) * time.Millisecond)
}

// refused is what is wrong with what was sent.
type refused struct{ Errors []struct{ Location string } }

// fails sends what is refused, and gives the problem.
func fails(c client, method, path string, body any) refused {
	c.t.Helper()
	b, err := json.Marshal(body)
	require.NoError(c.t, err)
	status, _, answer := c.send(method, path, string(b))
	require.Equal(c.t, http.StatusUnprocessableEntity, status, "%s", answer)
	var p refused
	require.NoError(c.t, json.Unmarshal(answer, &p))
	require.NotEmpty(c.t, p.Errors)
	return p
}

// What parties do: whoever does something else does it in the run, in the log and in what
// follows from it; whoever stopped is said to have; what is not in the class is refused.
func TestWhatPartiesDo(t *testing.T) {
	r := &runner{at: now, run: id(1)}
	r.client = hall(t, func() time.Time { return r.at })
	c := r.straight()
	class := c.Occurrence.ID
	made := ok[studio.Run](r.client, "PUT", "/api/runs/"+r.run, map[string]any{"occurrenceId": class})
	var first cue.Stretch
	for _, x := range made.Order.Stretches {
		if x.Kind == scheme.Work {
			first = x
			break
		}
	}
	var was, lane = plan.Cell{}, people.Party("middle")
	for _, cell := range made.Slots[0].Cells {
		if cell.Party == lane {
			was = cell
		}
	}
	options := ok[compose.Options](r.client, "GET", "/api/runs/"+r.run+"/options?slot="+first.Slot+"&party=middle", nil)
	require.NotEmpty(t, options.Moves)
	other := options.Moves[0].Entry
	require.NotEqual(t, was.Entry.Variant, other.Variant)

	r.to(r.press(map[string]any{"kind": "start"}), first.From+5000)
	r.press(map[string]any{"kind": "swapped", "party": "middle", "slot": first.Slot, "entry": other})
	r.press(map[string]any{"kind": "stopped", "party": "reach", "slot": first.Slot})
	now := r.press(map[string]any{"kind": "done", "party": "ground", "slot": first.Slot})
	var kinds []cue.RunKind
	for _, d := range now.Did {
		kinds = append(kinds, d.Kind)
		assert.Equal(t, first.Slot, d.Slot)
		assert.Equal(t, first.From+5000, d.AtMs)
	}
	assert.Equal(t, []cue.RunKind{cue.Swapped, cue.Stopped, cue.Done}, kinds)

	after := ok[studio.Run](r.client, "GET", "/api/runs/"+r.run, nil)
	assert.Equal(t, made.Anchor.State, "ready")
	for _, cell := range after.Slots[0].Cells {
		if cell.Party == lane {
			assert.Equal(t, other.Variant, cell.Entry.Variant)
			assert.Equal(t, was.People, cell.People)
		}
	}
	// What is kept of the plan is everybody's, and nobody's to change.
	kept := run.Plan{Slots: made.Slots, Order: made.Order}
	before, err := json.Marshal(kept)
	require.NoError(t, err)
	was.Entry = other
	swapped := kept.Swapped(first.Slot, was)
	unchanged, err := json.Marshal(kept)
	require.NoError(t, err)
	assert.JSONEq(t, string(before), string(unchanged))
	assert.False(t, reflect.DeepEqual(kept.Slots, swapped.Slots))
	assert.NotEmpty(t, after.Hands)
	for _, h := range after.Hands {
		assert.Contains(t, run.HandDos, h.Do)
	}
	log := ok[studio.Log](r.client, "GET", "/api/occurrences/"+class+"/log", nil)
	for _, sh := range log.Sheets {
		line := sh.Lines[0]
		switch sh.Subject {
		case "middle":
			assert.Equal(t, other.Variant, line.Variant, "the log knows")
		case "reach":
			assert.True(t, line.Stopped)
		}
	}
	for field, body := range map[string]map[string]any{
		"party": {"kind": "done", "party": id(77), "slot": first.Slot},
		"slot":  {"kind": "round", "party": "middle", "slot": "s77"},
		"entry": {"kind": "swapped", "party": "middle", "slot": first.Slot},
	} {
		body["clientId"] = id(60_000 + len(field))
		p := fails(r.client, "POST", "/api/runs/"+r.run+"/events", body)
		require.Len(t, p.Errors, 1, field)
		assert.Equal(t, "body."+field, p.Errors[0].Location)
	}
	// Planned and real seconds.
	r.press(map[string]any{"kind": "next"})
	timings := ok[studio.Timings](r.client, "GET", "/api/runs/"+r.run+"/timings", nil)
	last := timings.Stretches[len(timings.Stretches)-1]
	assert.Equal(t, first, last.Stretch)
	assert.EqualValues(t, 5000, last.RealMs)
	assert.Equal(t, cue.NextSet, last.By)
	spent := timings.Spent[len(timings.Spent)-1]
	assert.Equal(t, studio.Spent{Spent: cue.Spent{
		Block: first.Block, Slot: first.Slot, Kind: scheme.Work, Times: 1, PlannedMs: first.Until - first.From, RealMs: 5000, Early: 1,
	}, For: circuit.Work, Scheme: scheme.Sets, Pattern: moves.Bridge}, spent)

	// Somebody by name, with a side that owes, and half of it lighter.
	log = ok[studio.Log](r.client, "PUT", "/api/occurrences/"+class+"/participants/"+id(88), map[string]any{"name": "Ilse", "lane": "reach"})
	sheet := ok[progress.Sheet](r.client, "PUT", "/api/occurrences/"+class+"/log/"+id(88)+"/"+first.Slot, map[string]any{
		"done": 6, "inForm": 6, "pain": "none", "left": 6, "right": 8, "stopped": true, "lighter": "4 kg",
	})
	line := sheet.Line(first.Slot)
	require.NotNil(t, line.Owed)
	assert.Equal(t, progress.Owed{Side: scheme.Left, Reps: 2}, *line.Owed)
	assert.EqualValues(t, 4000, *line.LighterG)
}

// Five classes whose first set is over early each time: the house is offered its own time
// for that move, plans with it, and gives it back.
func TestHouseTimes(t *testing.T) {
	r := &runner{at: now}
	r.client = hall(t, func() time.Time { return r.at })
	c := r.straight()
	assert.Empty(t, ok[[]pace.Offer](r.client, "GET", "/api/paces", nil))
	var first cue.Stretch
	for i := range 5 {
		r.run = id(10 + i)
		made := ok[studio.Run](r.client, "PUT", "/api/runs/"+r.run, map[string]any{"occurrenceId": c.Occurrence.ID})
		for _, x := range made.Order.Stretches {
			if x.Kind == scheme.Work && first.Until == 0 {
				first = x
			}
		}
		now := r.press(map[string]any{"kind": "start"})
		r.to(now, first.Until)
		r.to(now, first.Until-(first.Until-first.From)/4)
		r.press(map[string]any{"kind": "next"})
		r.press(map[string]any{"kind": "end"})
		r.at = r.at.Add(time.Minute)
	}
	offers := ok[[]pace.Offer](r.client, "GET", "/api/paces", nil)
	require.NotEmpty(t, offers)
	o := offers[0]
	assert.Equal(t, pace.PerRep, o.What)
	assert.Equal(t, 5, o.Runs)
	assert.Less(t, o.Own, o.Reckoned)
	assert.LessOrEqual(t, o.Low, o.Own)

	setMs := func() measure.Span {
		for _, s := range ok[studio.Circuit](r.client, "GET", "/api/circuits/"+c.ID, nil).Plan.Slots {
			for _, cell := range s.Cells {
				if cell.Entry.Variant == o.Variant {
					return cell.SetMs
				}
			}
		}
		return 0
	}
	before := setMs()
	taken := ok[[]pace.Offer](r.client, "PUT", "/api/paces", map[string]any{"what": "per-rep", "variant": o.Variant, "use": true})
	assert.Equal(t, o.Own, taken[0].Used)
	assert.Less(t, setMs(), before, "planned with it")
	// The house style is another matter and keeps it.
	ok[studio.HouseStyle](r.client, "PUT", "/api/style", map[string]any{"studio": map[string]string{"knees": "behind"}, "moves": map[string]any{}})
	assert.Equal(t, o.Own, ok[[]pace.Offer](r.client, "GET", "/api/paces", nil)[0].Used)
	ok[[]pace.Offer](r.client, "PUT", "/api/paces", map[string]any{"what": "per-rep", "variant": o.Variant, "use": false})
	assert.Equal(t, before, setMs())

	p := fails(r.client, "PUT", "/api/paces", map[string]any{"what": "teach", "use": true})
	assert.Equal(t, "body.what", p.Errors[0].Location)
	p = fails(r.client, "PUT", "/api/paces", map[string]any{"what": "per-rep", "use": true})
	assert.Equal(t, "body.variant", p.Errors[0].Location)
}
