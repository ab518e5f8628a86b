package compose

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

func lanes(ground, middle, reach int) []plan.Party {
	var out []plan.Party
	for i, n := range []int{ground, middle, reach} {
		out = append(out, plan.Party{Lane: moves.Lanes[i], People: n, Body: 70000, Stature: 1700})
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

func brief(s kit.Stock, l []plan.Party, minutes int, f circuit.Format, bans ...string) Brief {
	return Brief{Context: plan.Context{Library: moves.Standard(), Stock: s, Parties: l, Minutes: minutes, Past: progress.Past{Known: []string{progress.All}}}, Format: f, Bans: bans}
}

// checkProposal asserts what every proposal promises.
func checkProposal(t require.TestingT, b Brief, p Proposal) plan.Plan {
	require.NoError(t, p.Document.Check(b.Library))
	look := plan.Look(p.Document, b.Context)
	assert.True(t, look.Fits)
	assert.GreaterOrEqual(t, look.SlackMs, measure.Span(0))
	assert.Equal(t, look.ClassMs, look.TotalMs+look.SlackMs)
	// No implement in two hands in one interval, counted anew from the cells.
	for _, s := range look.Slots {
		// Of everything: by how many pieces somebody uses, how many do.
		used := map[string]map[int]int{}
		take := func(id string, pieces, people int) {
			if used[id] == nil {
				used[id] = map[int]int{}
			}
			used[id][pieces] += people
		}
		for _, c := range s.Cells {
			for _, u := range c.Entry.Load.Uses() {
				take(u.ID, u.Count, c.People)
			}
			anchors := map[string]int{}
			for _, a := range c.Entry.Anchors {
				anchors[a]++
			}
			for a, n := range anchors {
				take(a, n, c.People)
			}
			v, _ := b.Library.Get(c.Entry.Variant)
			assert.NotContains(t, b.Bans, v.ID)
			assert.NotContains(t, b.Bans, string(v.Pattern))
			assert.False(t, c.LoadG > 0 && c.IronPct > 0.1 && v.NeverUp(), "nothing rounds up overhead")
			assert.False(t, c.LoadG > 0 && c.IronPct > 15.1 && c.Lane == moves.Ground, "at Ground by 15 % at most")
			assert.NotEmpty(t, c.LoadWhy.Code)
			assert.Positive(t, c.PerSide)
			wants := slices.DeleteFunc(slices.Clone(v.Wants()), b.Stock.Grants) // what a place has without saying so
			assert.Len(t, c.Entry.Anchors, len(wants), "%s of %s", v.ID, c.Party)
		}
		for id, by := range used {
			block, at := p.Document.At(s.ID)
			most, waves := 0, p.Document.Blocks[block].WavesOf(p.Document.Blocks[block].Slots[at])
			for pieces, people := range by {
				most += pieces * ((people + waves - 1) / waves)
			}
			assert.LessOrEqual(t, most, b.Stock.Pieces(id), "%s in slot %s", id, s.ID)
		}
		assert.Empty(t, s.Shorts)
	}
	return look
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
			rapid.SampledFrom([]circuit.Format{circuit.Timed, circuit.Reps}).Draw(t, "format"))
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
	b := brief(rack, lanes(8, 8, 8), 45, circuit.Timed)
	p := Propose(b)
	require.True(t, p.Feasible)
	checkProposal(t, b, p)
	for _, s := range single(p.Document).Slots {
		assert.Equal(t, 1, s.Waves)
	}
	i := slices.IndexFunc(p.Notes, func(w why.Why) bool { return w.Code == why.NoteNotUsed })
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, "too-few", term(p.Notes[i], "reason").Text)
	few := brief(rack, lanes(0, 3, 0), 45, circuit.Timed)
	assert.NotEmpty(t, checkProposal(t, few, Propose(few)).Pressure)
}

// The corners a limited kit has: each gives a circuit of its own, valid and
// explained.
func TestDifferentKitsGiveDifferentCircuits(t *testing.T) {
	full := lanes(7, 8, 3)
	seen := map[string]string{}
	for name, b := range map[string]Brief{
		"one 8 kg bell": brief(kit.Stock{Implements: []kit.Implement{bell("kb8", 8000, 1)}}, lanes(7, 8, 1), 45, circuit.Timed),
		"only bands":    brief(kit.Stock{Implements: []kit.Implement{{ID: "band", Kind: kit.Band, Count: 10}}}, full, 45, circuit.Timed),
		"empty kit":     brief(kit.Stock{}, full, 45, circuit.Timed),
		"full hall":     brief(hall, full, 45, circuit.Timed),
		"15 minutes":    brief(hall, full, 15, circuit.Timed),
		"90 minutes":    brief(hall, full, 90, circuit.Timed),
		"no lunges":     brief(hall, full, 45, circuit.Timed, "lunge"),
		"reps":          brief(hall, full, 45, circuit.Reps),
	} {
		p := Propose(b)
		require.True(t, p.Feasible, name)
		checkProposal(t, b, p)
		bytes, err := circuit.Encode(p.Document)
		require.NoError(t, err)
		assert.Empty(t, seen[string(bytes)], "%s is the same as %s", name, seen[string(bytes)])
		seen[string(bytes)] = name
	}
}

// When nothing fits, the proposal names what to relax, and relaxing it helps.
func TestNothingFitsNamesWhatToRelax(t *testing.T) {
	b := brief(hall, lanes(4, 4, 4), 1, circuit.Timed)
	p := Propose(b)
	require.False(t, p.Feasible)
	b.Minutes = int(term(p.Relax[0], "minutes").Value)
	assert.True(t, Propose(b).Feasible)
	b.Minutes--
	assert.False(t, Propose(b).Feasible)
	b = brief(hall, lanes(1, 0, 0), 45, circuit.Timed, "squat", "pull", "bridge", "push-level", "push-overhead", "lunge", "lateral", "trunk-turn", "trunk-brace", "carry", "hinge")
	assert.Equal(t, why.RelaxBans, Propose(b).Relax[0].Code)
}

// An override may exceed the kit: it is kept and drawn as missing.
func TestOverrideBeyondTheKitIsMarked(t *testing.T) {
	b := brief(hall, lanes(5, 5, 2), 45, circuit.Timed)
	d := single(Propose(b).Document)
	e := d.Slots[0].Entries["middle"]
	e.Variant, e.Hold, e.Load = "goblet-squat", "goblet", kit.Load{Kind: kit.Implements, Item: "kb20", Count: 1}
	bare := e
	bare.Variant, bare.Hold, bare.Load, bare.Anchors = "squat", "none", kit.Nothing, []string{}
	next, _, err := circuit.Apply(d.Document(), []circuit.Op{{Kind: circuit.SetEntry, SlotID: "s1", Party: "middle", Entry: &e}, {Kind: circuit.SetEntry, SlotID: "s1", Party: "reach", Entry: &bare}}, b.Library)
	require.NoError(t, err)
	one := 1
	next, _, err = circuit.Apply(next, []circuit.Op{{Kind: circuit.SetWaves, SlotID: "s1", Count: &one}}, b.Library)
	require.NoError(t, err)
	look := plan.Look(next, b.Context)
	require.Len(t, look.Slots[0].Shorts, 1)
	assert.Equal(t, plan.Short{Item: "kb20", Used: 5, Present: 2}, look.Slots[0].Shorts[0])
	for _, c := range look.Slots[0].Cells {
		if c.Lane == moves.Middle {
			assert.True(t, c.Missing)
		}
	}
}

func TestTakeHomeUsesTheCupboard(t *testing.T) {
	d := single(Propose(brief(hall, lanes(5, 5, 2), 45, circuit.Timed)).Document)
	flat := kit.Stock{Objects: []kit.Object{{ID: "tin", Mass: 455, Count: 24, Use: kit.Pack}, {ID: "can", Mass: 5200, Count: 1, Use: kit.Grip}},
		Containers: []kit.Container{{ID: "bag", Mass: 800, Max: 12000, Closed: true, Straps: true}}}
	home := plan.Context{Library: moves.Standard(), Stock: flat, Parties: []plan.Party{{Lane: moves.Middle, People: 1, Body: 64000, Stature: 1680}}, Minutes: 45}
	out, _ := TakeHome(d.Document(), home)
	require.NoError(t, out.Check(home.Library))
	assert.Len(t, out.Slots(), len(d.Slots))
	made := false
	for _, s := range plan.Look(out, home).Slots {
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
	in := brief(hall, lanes(8, 8, 8), 45, circuit.Timed)
	b.ReportAllocs()
	for b.Loop() {
		Propose(in)
	}
}

func BenchmarkLook(b *testing.B) {
	in := brief(hall, lanes(8, 8, 8), 45, circuit.Timed)
	d := single(Propose(in).Document)
	b.ReportAllocs()
	for b.Loop() {
		plan.Look(d.Document(), in.Context)
	}
}

func BenchmarkFold(b *testing.B) {
	o := plan.Look(Propose(brief(hall, lanes(8, 8, 8), 45, circuit.Timed)).Document, brief(hall, lanes(8, 8, 8), 45, circuit.Timed).Context).Order
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
	codes := func(d *circuit.Document, c plan.Context) (out []why.Code) {
		p := plan.Plan{}
		if d != nil {
			p = plan.Look(*d, c)
		}
		for _, w := range plan.Needs(d, p, c) {
			out = append(out, w.Code)
		}
		return out
	}
	b := brief(hall, lanes(4, 3, 0), 45, circuit.Timed)
	d := Propose(b).Document
	assert.Empty(t, codes(&d, b.Context))
	assert.Equal(t, []why.Code{why.NeedCircuit}, codes(nil, b.Context))
	assert.Equal(t, []why.Code{why.NeedCircuit}, codes(&circuit.Document{}, b.Context))
	late := b.Context
	late.Parties = lanes(4, 3, 2)
	assert.Contains(t, codes(&d, late), why.NeedLane)
	short := b.Context
	short.Minutes = 20
	assert.Contains(t, codes(&d, short), why.FlagTooLong)
	many := b.Context
	many.Parties = lanes(4, 30, 0)
	assert.Contains(t, codes(&d, many), why.FlagShort)
	gone := b.Context
	gone.Stock = kit.Stock{}
	assert.Contains(t, codes(&d, gone), why.NeedKitGone)
}

// A new slot takes an id that is free, whatever was removed before.
func TestNewSlotsHaveTheirOwnIDs(t *testing.T) {
	b := brief(hall, lanes(3, 3, 2), 60, circuit.Timed)
	d := single(Propose(b).Document)
	d.Slots = append(d.Slots[:2:2], d.Slots[3:]...) // s3 is gone, s7 is still there
	for range 4 {
		s, ok := NewSlot(d.Document(), workAt, b.Context, moves.Lateral)
		require.True(t, ok)
		assert.Equal(t, -1, d.Index(s.ID))
		d.Slots = append(d.Slots, s)
	}
	require.NoError(t, d.Document().Check(b.Library))
	d.Bans = []string{"lateral"}
	_, ok := NewSlot(d.Document(), workAt, b.Context, moves.Lateral)
	assert.Equal(t, RoomNothing, roomFor(Rooms(d.Document(), workAt, b.Context), moves.Lateral), "what is banned has no room")
	assert.False(t, ok, "what is left out is not added")
}

// workAt is where the circuit of a proposal stands among its blocks.
const workAt = 2

// single is the circuit of a document.
func single(d circuit.Document) circuit.Single {
	s, _, _ := d.Single()
	return s
}

// plain makes a document of one lane from variants without a load.
func roomFor(all []PatternRoom, p moves.Pattern) Room {
	return all[slices.IndexFunc(all, func(r PatternRoom) bool { return r.Pattern == p })].Room
}

// What a new slot of each pattern would come to is what adding one gives.
func TestRooms(t *testing.T) {
	for _, stock := range []kit.Stock{{}, {Implements: []kit.Implement{bell("kb16", 16000, 3)}}} {
		b := brief(stock, lanes(2, 4, 3), 45, circuit.Timed)
		d := single(Propose(b).Document)
		all := Rooms(d.Document(), workAt, b.Context)
		require.Len(t, all, len(moves.Patterns))
		for _, r := range all {
			s, ok := NewSlot(d.Document(), workAt, b.Context, r.Pattern)
			assert.Equal(t, ok, r.Room != RoomNothing, r.Pattern)
			if r.Room == RoomYes {
				for who, e := range s.Entries {
					v, _ := b.Library.Get(e.Variant)
					_, faults, _ := adding(d.Document(), workAt, b.Context).judges[who].Best(v)
					assert.Empty(t, faults, "%s: %s", r.Pattern, e.Variant)
				}
			}
		}
		assert.Equal(t, RoomYes, roomFor(all, moves.Squat))
		assert.Equal(t, len(stock.Implements) > 0, roomFor(all, moves.Carry) != RoomNothing, "nothing to carry")
	}
}

func plain(ids ...string) circuit.Single {
	d := circuit.Single{Format: circuit.Timed, WorkMs: 40_000, RestMs: 20_000, Rounds: 1}
	for i, id := range ids {
		v, _ := moves.Standard().Get(id)
		e := circuit.Entry{Variant: id, Hold: moves.NoLoad, Load: kit.Nothing, Dose: circuit.Times(10), Tempo: v.Tempo, Sides: scheme.BothSides}
		if v.Sides != moves.BothSides {
			e.Sides = scheme.Split
		}
		d.Slots = append(d.Slots, circuit.Slot{ID: circuit.SlotID(i + 1), Pattern: v.Pattern, Waves: 1, Entries: map[people.Party]circuit.Entry{"middle": e}})
	}
	return d
}

func laneOf(p people.Party) (moves.Lane, string) {
	l, _ := p.Lane()
	return l, ""
}
