package compose

import (
	"encoding/json"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// series proposes classes of a group one after the other, each knowing the last four.
func series(b Brief, n int) (out []circuit.Single) {
	for range n {
		p := Propose(b)
		out = append(out, single(p.Document))
		b.Past.Last = append([][]progress.Used{p.Document.UsedBy(laneOf)}, b.Past.Last...)
		b.Past.Last = b.Past.Last[:min(len(b.Past.Last), progress.LastClasses)]
		b.Past.Day += 7
	}
	return out
}

// asGood lists the moves of a pattern whose best entry costs a lane within two points of
// the best there is, for the interval of a document.
func asGood(b Brief, d circuit.Single, l plan.Party, p moves.Pattern) (out []string) {
	class := choice.Class{Library: b.Library, Stock: b.Stock, Past: progress.Past{Known: b.Past.Known}}
	if d.Format == circuit.Timed {
		class.Work = d.WorkMs
	}
	j := choice.For(class, l.Judged())
	cost, best := map[string]float64{}, math.Inf(1)
	for _, v := range b.Library.OfPattern(p) {
		for _, e := range j.Entries(v) {
			c := choice.Total(j.Cost(e))
			if was, seen := cost[v.ID]; !seen || c < was {
				cost[v.ID] = c
			}
			best = min(best, c)
		}
	}
	for id, c := range cost {
		if c <= best+2 {
			out = append(out, id)
		}
	}
	return out
}

// Over eight classes of a group the circuit does not stay the same: in a hall with
// enough of everything every accessory that is as good as the best of its pattern has its
// turn in every lane, a lateral and a lunge come, the trunk's move and the order change. A
// big move that is as good as the best stays once it is there, and the proposal says which
// stay and which have their turn (common practice, no source).
func TestEightClassesRotate(t *testing.T) {
	plenty := kit.Stock{Implements: slices.Clone(hall.Implements)}
	for i := range plenty.Implements {
		plenty.Implements[i].Count *= 5
	}
	for _, format := range []circuit.Format{circuit.Timed, circuit.Reps} {
		b := brief(plenty, lanes(3, 4, 2), 45, format)
		times, orders := map[moves.Pattern]int{}, map[string]bool{}
		seen := map[people.Party]map[string]bool{"ground": {}, "middle": {}, "reach": {}}
		docs := series(b, 8)
		for _, d := range docs {
			order := ""
			for _, s := range d.Slots {
				order += string(s.Pattern) + " "
				times[s.Pattern]++
				for l, e := range s.Entries {
					seen[l][e.Variant] = true
				}
			}
			orders[order] = true
		}
		assert.Greater(t, len(orders), 1, "the order changes")
		assert.Positive(t, times[moves.Lateral])
		assert.Positive(t, times[moves.Lunge])
		good := 0
		for p, n := range times {
			for _, l := range b.Parties {
				// What is as good in every class, whatever its interval.
				ids := asGood(b, docs[0], l, p)
				for _, d := range docs {
					here := asGood(b, d, l, p)
					ids = slices.DeleteFunc(ids, func(id string) bool { return !slices.Contains(here, id) })
				}
				big := slices.ContainsFunc(ids, func(id string) bool { v, _ := b.Library.Get(id); return v.Big() })
				for _, id := range ids {
					good++
					if big {
						stays(t, b, docs, l.ID(), p)
						continue
					}
					assert.True(t, seen[l.ID()][id] || len(ids) > n, "%s, %s, %s %d times: %s never came", format, l.Lane, p, n, id)
				}
			}
		}
		assert.Greater(t, good, 25)
	}
}

// stays makes sure that a party keeps its big move of a pattern from class to class, while it
// is as good as the best there.
func stays(t *testing.T, b Brief, docs []circuit.Single, who people.Party, p moves.Pattern) {
	last := ""
	for _, d := range docs {
		now := ""
		for _, s := range d.Slots {
			if v, _ := b.Library.Get(s.Entries[who].Variant); s.Pattern == p {
				if now == "" || v.Big() {
					now = v.ID
				}
			}
		}
		at := slices.IndexFunc(b.Parties, func(x plan.Party) bool { return x.ID() == who })
		if had, ok := b.Library.Get(last); ok && had.Big() && now != "" && slices.Contains(asGood(b, d, b.Parties[at], p), last) {
			assert.Equal(t, last, now, "%s, %s", who, p)
		}
		last = now
	}
}

// What the log said is followed in the proposal, said in the why of the cell, and what
// hurt is out of it and beside it (house, by hand).
func TestLogBindsProposals(t *testing.T) {
	b := brief(hall, lanes(0, 4, 0), 45, circuit.Timed)
	first := single(Propose(b).Document)
	day := b.Past.Day
	line := func(ago int, e circuit.Entry, load measure.Mass, planned, form int, pain progress.Pain, joint string) progress.Line {
		return progress.Line{Day: day - ago, Lane: moves.Middle, Variant: e.Variant, Hold: e.Hold, Set: strength.Set{Planned: planned, Done: form, InForm: form},
			Pain: pain, Joint: joint, Load: load}
	}
	loaded := func() circuit.Entry {
		for _, s := range first.Slots {
			if e := s.Entries["middle"]; e.Load.Kind == kit.Implements && e.Load.Item == "kb12" {
				return e
			}
		}
		for _, s := range first.Slots {
			if e := s.Entries["middle"]; e.Load.Kind == kit.Implements {
				return e
			}
		}
		t.Fatal("nothing is loaded")
		return circuit.Entry{}
	}()
	was, known := b.Stock.Mass(loaded.Load)
	require.True(t, known)

	// Once heavy below the low end: the next class takes the lighter, and says so.
	b.Past.Lines = []progress.Line{line(7, loaded, was, 10, 5, progress.NoPain, "")}
	p := Propose(b)
	look := plan.Look(p.Document, b.Context)
	for i, s := range single(p.Document).Slots {
		if e := s.Entries["middle"]; e.Variant == loaded.Variant {
			cell := look.Slots[i].Cells[0]
			assert.Less(t, cell.LoadG, was, "form went: the next lighter load")
			require.NotNil(t, cell.Log)
			assert.Equal(t, why.AdviceLessLoad, cell.Log.Code)
		}
	}
	assert.NotEmpty(t, plan.Decisions(p.Document, b.Context))

	// Pain twice running: out, with what asks as much of the joint; a hand may overrule.
	b.Past.Lines = []progress.Line{line(14, loaded, was, 10, 10, progress.Joint, "knee"), line(7, loaded, was, 10, 10, progress.Joint, "knee")}
	p = Propose(b)
	for _, s := range single(p.Document).Slots {
		assert.NotEqual(t, loaded.Variant, s.Entries["middle"].Variant)
	}
	edited, _, err := circuit.Apply(first.Document(), nil, b.Library)
	require.NoError(t, err)
	flagged := slices.ContainsFunc(plan.Look(edited, b.Context).Flags, func(f plan.Flag) bool { return f.Why.Code == why.AdviceOffPlan && f.Wrong })
	assert.True(t, flagged, "kept by hand it is drawn as wrong")
	assert.True(t, slices.ContainsFunc(plan.Needs(&edited, plan.Look(edited, b.Context), b.Context), func(w why.Why) bool { return w.Code == why.AdviceOffPlan }), "and Today counts it as undone")
	counts := plan.CountDecisions(plan.Decisions(first.Document(), b.Context))
	assert.Contains(t, counts, plan.Count{Advice: progress.OffPlan, N: 1})
	b.Overruled = []circuit.Overruled{{Party: "middle", What: loaded.Variant}}
	first.Overruled = b.Overruled
	assert.False(t, slices.ContainsFunc(plan.Look(first.Document(), b.Context).Flags, func(f plan.Flag) bool { return f.Why.Code == why.AdviceOffPlan && f.Wrong }), "overruled")
	assert.Empty(t, plan.CountDecisions(plan.Decisions(first.Document(), b.Context)))
}

// A move of one's own is for no lane until its maker names one.
func TestOwnMovesWithoutALane(t *testing.T) {
	v, ok := moves.Standard().Get("goblet-squat")
	require.True(t, ok)
	text, err := json.Marshal(v)
	require.NoError(t, err)
	var own moves.Variant
	require.NoError(t, json.Unmarshal(text, &own))
	own.ID, own.Name, own.Ladder, own.Rung, own.Lever, own.Lanes, own.Also = "own-squat", "Our squat", "", 0, nil, nil, nil
	lib, err := moves.Standard().With([]*moves.Variant{&own})
	require.NoError(t, err)
	b := brief(hall, lanes(2, 2, 2), 45, circuit.Timed)
	b.Library = lib
	for range 8 {
		for _, s := range series(b, 1)[0].Slots {
			for _, e := range s.Entries {
				assert.NotEqual(t, "own-squat", e.Variant)
			}
		}
	}
	mine, ok := lib.Get("own-squat")
	require.True(t, ok)
	for _, l := range moves.Lanes {
		j := choice.For(choice.Class{Library: lib, Stock: hall, Past: b.Past}, choice.Party{Lane: l, Body: 70_000, Stature: 1700})
		faults := j.Faults(choice.Entry{Variant: mine, Hold: "goblet", Option: kit.Option{Load: kit.Load{Kind: kit.Implements, Item: "kb8", Count: 1}, Total: 8000}})
		assert.True(t, slices.ContainsFunc(faults, func(w why.Why) bool { return w.Code == why.FaultChosen }))
	}
}

// An edit that breaks a limit is drawn, whatever the limit and the move; one that breaks
// none is not.
func TestEditsDrawBrokenLimits(t *testing.T) {
	lib := moves.Standard()
	plain := single(Propose(brief(hall, lanes(0, 3, 0), 45, circuit.Timed)).Document)
	broken := 0
	for _, limit := range moves.Limits() {
		parts, _ := limit.Expand()
		for i, s := range plain.Slots {
			for _, v := range lib.OfPattern(s.Pattern) {
				d := plain.Clone()
				d.Bans = []string{string(limit)}
				b := brief(hall, lanes(0, 3, 0), 45, circuit.Timed)
				e := s.Entries["middle"]
				e.Variant, e.Hold, e.Load, e.Anchors = v.ID, v.Holds[0], kit.Nothing, []string{}
				d.Slots[i].Entries["middle"] = e
				drawn := slices.ContainsFunc(plan.Look(d.Document(), b.Context).Slots[i].Cells[0].Faults, func(w why.Why) bool { return w.Code == why.FaultLimit })
				want := slices.ContainsFunc(parts, func(p moves.LimitID) bool { return v.Breaks(p, 0, true) })
				assert.Equal(t, want, drawn, "%s under %s", v.ID, limit)
				if want {
					broken++
				}
			}
		}
	}
	assert.Greater(t, broken, 200)
}

// One bag for three lanes goes, packed once, to who gains most by it, and the bottles to
// the others: Middle's first row is near what it is wanted to be, not a bottle (by hand:
// .7 x 15.4 = 10.8 kg, never over).
func TestOneBagGoesToWhoGainsMost(t *testing.T) {
	for _, f := range []circuit.Format{circuit.Timed, circuit.Reps} {
		b := brief(gridKits["rucksack"], lanes(1, 1, 1), 45, f)
		b.Past = progress.Past{}
		p := Propose(b)
		i := slices.IndexFunc(single(p.Document).Slots, func(s circuit.Slot) bool { return s.Pattern == moves.Pull })
		require.GreaterOrEqual(t, i, 0)
		cell := plan.Look(p.Document, b.Context).Slots[i].Cells[1]
		assert.Equal(t, "bag", cell.Entry.Load.Container)
		assert.InDelta(t, 10_100, float64(cell.LoadG), 700)
	}
}

// A limit excuses only what it leaves nothing of: with the wrist spared a squat that is
// not there is still missing; with the knee spared it is not, since no squat spares it.
func TestLimitsExcuseOnlyWhatTheyTake(t *testing.T) {
	d := single(Propose(brief(hall, lanes(0, 3, 0), 45, circuit.Timed)).Document)
	d.Slots = slices.DeleteFunc(d.Slots, func(s circuit.Slot) bool { return s.Pattern == moves.Squat })
	for limit, missing := range map[moves.LimitID]bool{moves.Spare("wrist"): true, moves.Spare("knee"): false} {
		d.Bans = []string{string(limit)}
		flagged := slices.ContainsFunc(plan.Look(d.Document(), brief(hall, lanes(0, 3, 0), 45, circuit.Timed).Context).Flags, func(f plan.Flag) bool {
			return f.Why.Code == why.FlagNoPattern && f.Why.Terms[0].Text == string(moves.Squat)
		})
		assert.Equal(t, missing, flagged, limit)
	}
}
