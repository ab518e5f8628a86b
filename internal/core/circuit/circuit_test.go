package circuit

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/room"
	"nimbleanvil/internal/core/why"
)

func lanes(ground, middle, reach int) []LaneSpec {
	var out []LaneSpec
	for i, n := range []int{ground, middle, reach} {
		out = append(out, LaneSpec{Lane: moves.Lanes[i], People: n, Body: 70000, Stature: 1700})
	}
	return out
}

func bell(id string, g measure.Mass, n int) kit.Implement {
	return kit.Implement{ID: id, Kind: kit.Kettlebell, Mass: g, Count: n}
}

var hall = kit.Stock{Implements: []kit.Implement{
	bell("kb8", 8000, 4), bell("kb12", 12000, 4), bell("kb16", 16000, 3), bell("kb20", 20000, 2),
	{ID: "db5", Kind: kit.DumbbellPair, Mass: 2268, Count: 4}, {ID: "db20", Kind: kit.DumbbellPair, Mass: 9072, Count: 2},
	{ID: "bench", Kind: kit.Bench, Count: 2, Height: 430}, {ID: "box", Kind: kit.Box, Count: 3, Height: 450},
	{ID: "trestle", Kind: kit.Table, Count: 1, Height: 740}, {ID: "band", Kind: kit.Band, Count: 6},
}}

func brief(s kit.Stock, l []LaneSpec, minutes int, f Format, bans ...string) Brief {
	return Brief{Context: Context{Library: moves.Standard(), Stock: s, Lanes: l, Minutes: minutes, Past: progress.Past{Known: []string{progress.All}}}, Format: f, Bans: bans}
}

// checkProposal asserts what every proposal promises.
func checkProposal(t require.TestingT, b Brief, p Proposal) Plan {
	require.NoError(t, p.Document.Check(b.Library))
	plan := Look(p.Document, b.Context)
	assert.True(t, plan.Fits)
	assert.GreaterOrEqual(t, plan.SlackMs, measure.Span(0))
	assert.Equal(t, plan.ClassMs, plan.TotalMs+plan.SlackMs)
	// No implement in two hands in one interval, counted anew from the cells.
	for i, s := range plan.Slots {
		used := map[string]int{}
		for _, c := range s.Cells {
			for _, u := range c.Entry.Load.Uses() {
				used[u.ID] += u.Count * room.PerWave(c.People, p.Document.Slots[i].Waves)
			}
			for _, a := range c.Entry.Anchors {
				used[a] += room.PerWave(c.People, p.Document.Slots[i].Waves)
			}
			v, _ := b.Library.Get(c.Entry.Variant)
			assert.NotContains(t, b.Bans, v.ID)
			assert.NotContains(t, b.Bans, string(v.Pattern))
			assert.False(t, c.LoadG > 0 && c.IronPct > 0.1 && v.NeverUp(), "nothing rounds up overhead")
			assert.False(t, c.LoadG > 0 && c.IronPct > 15.1 && c.Lane == moves.Ground, "at Ground by 15 % at most")
			assert.NotEmpty(t, c.LoadWhy.Code)
			assert.Positive(t, c.PerSide)
			assert.Len(t, c.Entry.Anchors, len(v.Needs))
		}
		for id, n := range used {
			assert.LessOrEqual(t, n, b.Stock.Pieces(id), "%s in slot %s", id, s.ID)
		}
		assert.Empty(t, s.Shorts)
	}
	return plan
}

// Any proposal fits its minutes and its kit, or says what to relax; the same
// brief gives the same answer.
func TestProposalsKeepTheirPromises(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := func(name string, low, high int) int { return rapid.IntRange(low, high).Draw(t, name) }
		s := kit.Stock{}
		for i := range n("implements", 0, 6) {
			kind := rapid.SampledFrom([]string{kit.Kettlebell, kit.Dumbbell, kit.DumbbellPair, kit.Band, kit.Bench, kit.Box, kit.Table}).Draw(t, "kind")
			x := kit.Implement{ID: fmt.Sprintf("i%d", i), Kind: kind, Count: n("count", 1, 6), Checked: true}
			if kind == kit.Kettlebell || kind == kit.Dumbbell || kind == kit.DumbbellPair {
				x.Mass = measure.Mass(n("mass", 1000, 32000))
			}
			s.Implements = append(s.Implements, x)
		}
		if rapid.Bool().Draw(t, "cupboard") {
			s.Objects = []kit.Object{{ID: "tin", Mass: measure.Mass(n("tin", 100, 1000)), Count: n("tins", 1, 30), Use: kit.Pack}, {ID: "can", Mass: 5200, Count: 2, Use: kit.Grip}}
			s.Containers = []kit.Container{{ID: "bag", Mass: 800, Max: measure.Mass(n("max", 1000, 30000)), Closed: true, Straps: true}}
		}
		b := brief(s, lanes(n("ground", 0, 12), n("middle", 0, 12), n("reach", 1, 12)), n("minutes", 5, 120),
			rapid.SampledFrom([]Format{Timed, Reps}).Draw(t, "format"))
		p := Propose(b)
		assert.Equal(t, p, Propose(b))
		if !p.Feasible {
			assert.NotEmpty(t, p.Relax)
			return
		}
		checkProposal(t, b, p)
	})
}

// Three bells for 24 people keep nobody waiting: they stay on the rack, and the notes say
// that they are too few. For three people they are put to use.
func TestTwentyFourPeopleThreeBells(t *testing.T) {
	rack := kit.Stock{Implements: []kit.Implement{bell("kb12", 12000, 3)}}
	b := brief(rack, lanes(8, 8, 8), 45, Timed)
	p := Propose(b)
	require.True(t, p.Feasible)
	checkProposal(t, b, p)
	for _, s := range p.Document.Slots {
		assert.Equal(t, 1, s.Waves)
	}
	i := slices.IndexFunc(p.Notes, func(w why.Why) bool { return w.Code == why.NoteNotUsed })
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, "too-few", term(p.Notes[i], "reason").Text)
	few := brief(rack, lanes(0, 3, 0), 45, Timed)
	assert.NotEmpty(t, checkProposal(t, few, Propose(few)).Pressure)
}

// The corners a limited kit has: each gives a circuit of its own, valid and
// explained.
func TestDifferentKitsGiveDifferentCircuits(t *testing.T) {
	full := lanes(7, 8, 3)
	seen := map[string]string{}
	for name, b := range map[string]Brief{
		"one 8 kg bell": brief(kit.Stock{Implements: []kit.Implement{bell("kb8", 8000, 1)}}, lanes(7, 8, 1), 45, Timed),
		"only bands":    brief(kit.Stock{Implements: []kit.Implement{{ID: "band", Kind: kit.Band, Count: 10}}}, full, 45, Timed),
		"empty kit":     brief(kit.Stock{}, full, 45, Timed),
		"full hall":     brief(hall, full, 45, Timed),
		"15 minutes":    brief(hall, full, 15, Timed),
		"90 minutes":    brief(hall, full, 90, Timed),
		"no lunges":     brief(hall, full, 45, Timed, "lunge"),
		"reps":          brief(hall, full, 45, Reps),
	} {
		p := Propose(b)
		require.True(t, p.Feasible, name)
		checkProposal(t, b, p)
		bytes, err := Encode(p.Document)
		require.NoError(t, err)
		assert.Empty(t, seen[string(bytes)], "%s is the same as %s", name, seen[string(bytes)])
		seen[string(bytes)] = name
	}
}

// When nothing fits, the proposal names what to relax, and relaxing it helps.
func TestNothingFitsNamesWhatToRelax(t *testing.T) {
	b := brief(hall, lanes(4, 4, 4), 1, Timed)
	p := Propose(b)
	require.False(t, p.Feasible)
	b.Minutes = int(term(p.Relax[0], "minutes").Value)
	assert.True(t, Propose(b).Feasible)
	b.Minutes--
	assert.False(t, Propose(b).Feasible)
	b = brief(hall, lanes(1, 0, 0), 45, Timed, "squat", "pull", "bridge", "push-level", "push-overhead", "lunge", "lateral", "trunk-turn", "trunk-brace", "carry", "hinge")
	assert.Equal(t, why.RelaxBans, Propose(b).Relax[0].Code)
}

// Undo of any edit restores the document byte for byte.
func TestUndoRestoresEveryByte(t *testing.T) {
	base := Propose(brief(hall, lanes(5, 5, 2), 45, Timed)).Document
	lib := moves.Standard()
	rapid.Check(t, func(t *rapid.T) {
		d := base
		for range rapid.IntRange(1, 8).Draw(t, "edits") {
			op := drawOp(t, d, base)
			before, err := Encode(d)
			require.NoError(t, err)
			next, inverse, err := Apply(d, []Op{op}, lib)
			unchanged, _ := Encode(d)
			require.Equal(t, string(before), string(unchanged), "Apply leaves its argument alone")
			if err != nil {
				continue
			}
			back, again, err := Apply(next, inverse, lib)
			require.NoError(t, err)
			got, _ := Encode(back)
			require.Equal(t, string(before), string(got))
			redo, _, err := Apply(back, again, lib)
			require.NoError(t, err)
			assert.Equal(t, next, redo)
			d = next
		}
	})
}

func drawOp(t *rapid.T, d, base Document) Op {
	ms := measure.Span(rapid.IntRange(0, 700_000).Draw(t, "ms"))
	n := rapid.IntRange(0, 8).Draw(t, "n")
	flag := rapid.Bool().Draw(t, "flag")
	slot := rapid.SampledFrom(base.Slots).Draw(t, "slot")
	lane := rapid.SampledFrom(moves.Lanes).Draw(t, "lane")
	entry := slot.Lanes[lane]
	entry.Reps, entry.Sides = n+1, TurnByTurn
	kind := rapid.SampledFrom([]OpKind{SetFormat, SetLeadIn, SetWork, SetRest, SetRounds, SetRoundRest, SetWaves, SetNew, SetEntry, AddSlot, RemoveSlot, MoveSlot, Replace}).Draw(t, "op")
	return Op{Kind: kind, Format: Reps, Ms: &ms, Count: &n, Flag: &flag, SlotID: slot.ID, Lane: lane, Entry: &entry, Slot: &slot, Document: &base}
}

// An override may exceed the kit: it is kept and drawn as missing.
func TestOverrideBeyondTheKitIsMarked(t *testing.T) {
	b := brief(hall, lanes(5, 5, 2), 45, Timed)
	d := Propose(b).Document
	e := d.Slots[0].Lanes[moves.Middle]
	e.Variant, e.Hold, e.Load = "goblet-squat", "goblet", kit.Load{Kind: kit.Implements, Item: "kb20", Count: 1}
	bare := e
	bare.Variant, bare.Hold, bare.Load, bare.Anchors = "squat", "none", kit.Nothing, []string{}
	d, _, err := Apply(d, []Op{{Kind: SetEntry, SlotID: "s1", Lane: moves.Middle, Entry: &e}, {Kind: SetEntry, SlotID: "s1", Lane: moves.Reach, Entry: &bare}}, b.Library)
	require.NoError(t, err)
	one := 1
	d, _, err = Apply(d, []Op{{Kind: SetWaves, SlotID: "s1", Count: &one}}, b.Library)
	require.NoError(t, err)
	plan := Look(d, b.Context)
	require.Len(t, plan.Slots[0].Shorts, 1)
	assert.Equal(t, Short{"kb20", 5, 2}, plan.Slots[0].Shorts[0])
	for _, c := range plan.Slots[0].Cells {
		if c.Lane == moves.Middle {
			assert.True(t, c.Missing)
		}
	}
}

// Worked by hand. Two slots of 40 s, one waved in two: 10 lead-in + 405 prep (15
// % of 45 min) + 2 x 20 shown + 2 x (40 + 20 + 40 + 5 + 40) + 60 + 270 close (a tenth).
func TestPlanTimesByHand(t *testing.T) {
	e := Entry{Variant: "squat", Hold: "none", Load: kit.Nothing, Reps: 10, Tempo: "2-0-2-0", Sides: BothSides}
	lunge := Entry{Variant: "split-squat", Hold: "none", Load: kit.Nothing, Reps: 8, Tempo: "2-0-2-0", Sides: Split}
	d := Document{V: 1, Format: Timed, LeadInMs: 10_000, WorkMs: 40_000, RestMs: 20_000, Rounds: 2, RoundRestMs: 60_000, Slots: []Slot{
		{ID: "a", Pattern: moves.Squat, Waves: 1, Lanes: map[moves.Lane]Entry{moves.Middle: e}},
		{ID: "b", Pattern: moves.Lunge, Waves: 2, Lanes: map[moves.Lane]Entry{moves.Middle: lunge}}}}
	c := Context{Library: moves.Standard(), Stock: hall, Lanes: lanes(0, 4, 0), Minutes: 45}
	p := Look(d, c)
	assert.EqualValues(t, 10_000+405_000+40_000+2*145_000+60_000+270_000, p.TotalMs)
	assert.Equal(t, 10, p.Slots[0].Cells[0].PerSide)
	cell := p.Slots[1].Cells[0]
	assert.Equal(t, 4, cell.PerSide)
	assert.EqualValues(t, 17_500, cell.SwitchAtMs)
	assert.EqualValues(t, 46_095, cell.PerLimbG)
	assert.EqualValues(t, 34_144, cell.ComparableG)
	d.Format = Reps // 40 s; 2 x 8 x 4 + 5 = 69 s a wave
	p = Look(d, c)
	assert.EqualValues(t, 10_000+405_000+40_000+2*(40_000+20_000+69_000+5_000+69_000)+60_000+270_000, p.TotalMs)
	// Floor and another implement cost 6 + 5 s (house): a rest of 5 s grows to 11.
	d.Slots[1].Lanes[moves.Middle] = Entry{Variant: "floor-bridge", Hold: "none", Load: kit.Nothing, Reps: 8, Tempo: "2-0-1-2", Sides: BothSides}
	d.RestMs = 5000
	assert.EqualValues(t, 6000, Look(d, c).Slots[0].RestMs)
	assert.True(t, Look(d, c).Slots[0].Grown)
}

func TestTakeHomeUsesTheCupboard(t *testing.T) {
	d := Propose(brief(hall, lanes(5, 5, 2), 45, Timed)).Document
	flat := kit.Stock{Objects: []kit.Object{{ID: "tin", Mass: 455, Count: 24, Use: kit.Pack}, {ID: "can", Mass: 5200, Count: 1, Use: kit.Grip}},
		Containers: []kit.Container{{ID: "bag", Mass: 800, Max: 12000, Closed: true, Straps: true}}}
	home := Context{Library: moves.Standard(), Stock: flat, Lanes: []LaneSpec{{Lane: moves.Middle, People: 1, Body: 64000, Stature: 1680}}, Minutes: 45}
	out, _ := TakeHome(d, home)
	require.NoError(t, out.Check(home.Library))
	assert.Len(t, out.Slots, len(d.Slots))
	made := false
	for _, s := range Look(out, home).Slots {
		assert.Empty(t, s.Shorts)
		made = made || s.Cells[0].Entry.Load.Kind == kit.Made
		v, _ := home.Library.Get(s.Cells[0].Entry.Variant)
		if v.Overhead || v.OverFace {
			assert.Zero(t, s.Cells[0].LoadG, "nothing packed goes overhead")
		}
	}
	assert.True(t, made, "a bag of tins stands in for iron")
}

func BenchmarkProposeHall(b *testing.B) {
	in := brief(hall, lanes(8, 8, 8), 45, Timed)
	b.ReportAllocs()
	for b.Loop() {
		Propose(in)
	}
}

func BenchmarkLook(b *testing.B) {
	in := brief(hall, lanes(8, 8, 8), 45, Timed)
	d := Propose(in).Document
	b.ReportAllocs()
	for b.Loop() {
		Look(d, in.Context)
	}
}

func BenchmarkFold(b *testing.B) {
	o := Look(Propose(brief(hall, lanes(8, 8, 8), 45, Timed)).Document, brief(hall, lanes(8, 8, 8), 45, Timed).Context).Order
	events := []cue.RunEvent{{Kind: cue.Start}}
	for i := range int64(200) {
		events = append(events, cue.RunEvent{Kind: []cue.RunKind{cue.Hold, cue.Resume, cue.Skip, cue.Add}[i%4], At: i * 1000, Ms: 15000})
	}
	b.ReportAllocs()
	for b.Loop() {
		cue.Fold(o, events)
	}
}

// What a class still needs: a circuit, room in its minutes, kit, and a version
// for a lane that people joined later.
func TestNeeds(t *testing.T) {
	codes := func(d *Document, c Context) (out []why.Code) {
		p := Plan{}
		if d != nil {
			p = Look(*d, c)
		}
		for _, w := range Needs(d, p, c) {
			out = append(out, w.Code)
		}
		return out
	}
	b := brief(hall, lanes(4, 3, 0), 45, Timed)
	d := Propose(b).Document
	assert.Empty(t, codes(&d, b.Context))
	assert.Equal(t, []why.Code{why.NeedCircuit}, codes(nil, b.Context))
	assert.Equal(t, []why.Code{why.NeedCircuit}, codes(&Document{}, b.Context))
	late := b.Context
	late.Lanes = lanes(4, 3, 2)
	assert.Contains(t, codes(&d, late), why.NeedLane)
	short := b.Context
	short.Minutes = 20
	assert.Contains(t, codes(&d, short), why.FlagTooLong)
	many := b.Context
	many.Lanes = lanes(4, 30, 0)
	assert.Contains(t, codes(&d, many), why.FlagShort)
	gone := b.Context
	gone.Stock = kit.Stock{}
	assert.Contains(t, codes(&d, gone), why.NeedKitGone)
}

// A comparison is empty for equal documents, names what an edit changed, and
// turned round it is the same list with the sides swapped.
func TestCompareNamesWhatDiffers(t *testing.T) {
	base := Propose(brief(hall, lanes(5, 5, 2), 45, Timed)).Document
	lib := moves.Standard()
	fields := map[OpKind]string{SetFormat: "format", SetLeadIn: "lead-in", SetWork: "work", SetRest: "rest", SetRounds: "rounds", SetRoundRest: "round-rest",
		SetWaves: "waves", SetNew: "new", SetEntry: "entry", RemoveSlot: "slot", MoveSlot: "order"}
	rapid.Check(t, func(t *rapid.T) {
		assert.Empty(t, Compare(base, base.clone()))
		op := drawOp(t, base, base)
		next, _, err := Apply(base, []Op{op}, lib)
		if err != nil {
			return
		}
		diff := Compare(base, next)
		x, _ := Encode(base)
		y, _ := Encode(next)
		require.Equal(t, string(x) == string(y), len(diff) == 0, "%s", op.Kind)
		for _, d := range diff {
			assert.Equal(t, fields[op.Kind], d.Field)
			if op.Kind != MoveSlot && d.Slot != "" {
				assert.Equal(t, op.SlotID, d.Slot)
			}
		}
		back := Compare(next, base)
		require.Len(t, back, len(diff))
		for _, d := range diff {
			assert.Contains(t, back, Difference{d.Field, d.Slot, d.Pattern, d.Lane, d.B, d.A, d.EntryB, d.EntryA})
		}
	})
}

// Common practice, no source: before a single-leg squat over its full range the
// ankle is rocked; a forward lunge asks for
// the static split squat and the reverse lunge first.
func TestPrepAndFirstSteps(t *testing.T) {
	lib := moves.Standard()
	d := Document{Slots: []Slot{{ID: "s1", Pattern: moves.Squat, Lanes: map[moves.Lane]Entry{moves.Reach: {Variant: "full-single-leg-squat"}}}}}
	assert.Contains(t, PrepMoves(d, Context{Library: lib, Lanes: lanes(0, 0, 1)}), "rocking-ankle-drill")

	forward, _ := lib.Get("forward-lunge")
	nothing := func(string) bool { return false }
	assert.Equal(t, []string{"split-squat", "reverse-lunge"}, lib.FirstSteps(forward, nothing))
	assert.Equal(t, []string{"reverse-lunge"}, lib.FirstSteps(forward, func(id string) bool { return id == "split-squat" }))
	// The gate to the bar stands between the last front squat and the bar.
	last, _ := lib.Get("two-weight-front-squat")
	up, ok := lib.Neighbour(last, 1)
	require.True(t, ok)
	assert.Equal(t, "barbell-back-squat", up.ID)
	_, ok = lib.Above(last)
	assert.False(t, ok)
}
