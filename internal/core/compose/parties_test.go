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
)

// named puts participants into lanes, as many as are said.
func named(b *Brief, ground, middle, reach int) (ids []people.Party) {
	for i, n := range []int{ground, middle, reach} {
		for k := range n {
			p := plan.Party{Lane: moves.Lanes[i], Participant: fmt.Sprintf("%026d", 100*i+k), People: 1, Body: measure.Mass(60_000 + 5000*k), Stature: 1700}
			p.Who = "person" + p.Participant
			b.Parties = append(b.Parties, p)
			ids = append(ids, p.ID())
		}
	}
	return ids
}

// Proposals are made for parties, lanes being the case without names: who is named has
// entries of their own and does not do the lane's; the kit holds for all of them together,
// every count is the people's, and everybody's running order has no gap.
func TestProposalsForNamedPeople(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := func(name string, low, high int) int { return rapid.IntRange(low, high).Draw(t, name) }
		g, m, r := n("ground", 0, 2), n("middle", 0, 3), n("reach", 1, 3)
		b := brief(hall, lanes(g, m, r), n("minutes", 20, 45), rapid.SampledFrom([]circuit.Format{circuit.Timed, circuit.Reps}).Draw(t, "format"))
		ids := named(&b, n("named ground", 0, g), n("named middle", 0, m), n("named reach", 0, r))
		unnamed := Propose(b)
		assert.Equal(t, Propose(brief(hall, lanes(g, m, r), b.Minutes, b.Format)), unnamed, "nobody asked for entries of their own")
		b.For = ids
		p := Propose(b)
		if !p.Feasible {
			return
		}
		require.NoError(t, p.Document.Check(b.Library))
		look := plan.Look(p.Document, b.Context)
		assert.True(t, look.Fits)
		for i, s := range look.Slots {
			assert.Empty(t, s.Shorts)
			people, used := map[moves.Lane]int{}, map[string]map[int]int{}
			for _, c := range s.Cells {
				people[c.Lane] += c.People
				assert.Equal(t, single(p.Document).Slots[i].Entries[c.Party], c.Entry)
				for _, u := range c.Entry.Load.Uses() {
					if used[u.ID] == nil {
						used[u.ID] = map[int]int{}
					}
					used[u.ID][u.Count] += c.People
				}
			}
			assert.Equal(t, []int{g, m, r}, []int{people[moves.Ground], people[moves.Middle], people[moves.Reach]})
			for id, by := range used {
				most := 0
				for pieces, users := range by {
					waves := single(p.Document).Slots[i].Waves
					most += pieces * ((users + waves - 1) / waves)
				}
				assert.LessOrEqual(t, most, b.Stock.Pieces(id), id)
			}
		}
		ends := map[people.Party]int64{}
		for _, e := range look.Order.Events {
			assert.Equal(t, ends[e.Party], e.From, "a gap of %s", e.Party)
			ends[e.Party] = e.Until
		}
		for _, id := range ids {
			assert.Equal(t, look.Order.Total, ends[id], "%s has the whole class", id)
		}
	})
}

// Who has an entry of their own in one slot does their lane's in the others, and is one
// less who does the lane's there. A lane of which everybody has an entry of their own does
// none itself.
func TestOwnEntriesByHand(t *testing.T) {
	b := brief(hall, lanes(0, 2, 0), 45, circuit.Timed)
	ids := named(&b, 0, 2, 0)
	d := plain("squat", "push-up")
	own := d.Slots[0].Entries["middle"]
	own.Variant, own.Hold, own.Load = "goblet-squat", "goblet", kit.Load{Kind: kit.Implements, Item: "kb20", Count: 1}
	give := func(who people.Party) {
		next, inverse, err := circuit.Apply(d.Document(), []circuit.Op{{Kind: circuit.SetEntry, SlotID: "s1", Party: who, Entry: &own}}, b.Library)
		require.NoError(t, err)
		assert.Equal(t, []circuit.Op{{Kind: circuit.ClearEntry, SlotID: "s1", Party: who}}, inverse)
		d = single(next)
	}
	cells := func(slot int) (out []string) {
		for _, c := range plan.Look(d.Document(), b.Context).Slots[slot].Cells {
			out = append(out, fmt.Sprintf("%d %s %s", c.People, c.Party, c.Entry.Variant))
		}
		return out
	}
	give(ids[0])
	assert.Equal(t, []string{"1 middle squat", "1 " + string(ids[0]) + " goblet-squat"}, cells(0))
	assert.Equal(t, []string{"2 middle push-up"}, cells(1))
	does := func(who people.Party, slot string) string {
		o := plan.Look(d.Document(), b.Context).Order
		i := slices.IndexFunc(o.Events, func(e cue.Event) bool { return e.Party == who && e.Slot == slot && e.Kind == "work" })
		require.GreaterOrEqual(t, i, 0)
		return o.Events[i].Variant
	}
	assert.Equal(t, []string{"goblet-squat", "push-up", "squat"}, []string{does(ids[0], "s1"), does(ids[0], "s2"), does("middle", "s1")})
	give(ids[1])
	assert.Equal(t, []string{"1 " + string(ids[0]) + " goblet-squat", "1 " + string(ids[1]) + " goblet-squat"}, cells(0))
	assert.Empty(t, plan.Look(d.Document(), b.Context).Slots[0].Shorts, "two bells of 20 kg for two people")
	assert.Equal(t, []plan.Pressure{{Item: "kb20", Present: 2, Used: []int{2, 0}}}, plan.Look(d.Document(), b.Context).Pressure)
	o, ok := OptionsFor(d.Document(), b.Context, "s2", ids[0])
	require.True(t, ok, "what else somebody could do who has no entry of their own yet")
	assert.NotEmpty(t, o.Moves)
	home := plan.Context{Library: b.Library, Stock: kit.Stock{}, Minutes: 30, Parties: b.Parties[4:]}
	at, _ := TakeHome(d.Document(), home)
	require.Len(t, at.Slots(), 2)
	assert.Contains(t, at.Slots()[1].Entries, ids[1])
}

// What somebody did themselves binds them, in whatever lane it was; what their lane did
// binds them for days when they were in it and nothing of theirs was written down. Who was
// not there knows nothing of it, and what is set aside for the lane is not for them.
func TestEverybodyHasTheirOwnPast(t *testing.T) {
	b := brief(hall, lanes(0, 3, 0), 45, circuit.Reps)
	ids := named(&b, 0, 3, 0)
	who := func(i int) string { return "person" + string(ids[i]) }
	line := func(day int, who string, done int, load measure.Mass) progress.Line {
		l := progress.Line{Day: day, Lane: moves.Middle, Who: who, Variant: "goblet-squat", Hold: "goblet", Load: load, Pain: progress.NoPain}
		l.Planned, l.Done, l.InForm = 10, done, done
		return l
	}
	b.Past = progress.Past{
		Day:     22,
		Lines:   []progress.Line{line(1, "", 13, 12_000), line(8, "", 13, 12_000), line(8, who(0), 5, 16_000), line(15, "", 10, 12_000)},
		Present: []progress.Presence{{Day: 1, Lane: moves.Middle, Who: who(0)}, {Day: 8, Lane: moves.Middle, Who: who(0)}, {Day: 1, Lane: moves.Middle, Who: who(1)}, {Day: 8, Lane: moves.Middle, Who: who(1)}},
	}
	d := plain("squat")
	for _, id := range ids {
		d.Slots[0].Entries[id] = d.Slots[0].Entries["middle"]
	}
	said := map[people.Party]string{}
	for _, x := range plan.Decisions(d.Document(), b.Context) {
		said[x.Party] += fmt.Sprintf("%s %d", x.Advice, x.LoadG)
	}
	assert.Equal(t, map[people.Party]string{
		"middle": "keep 12000",
		ids[0]:   "less-load 12000", // 5 of 10 with 16 kg
		ids[1]:   "next-load 16000", // twice 13 with 12 kg, with the lane
	}, said, "the third has never been there")
	d.Overruled = []circuit.Overruled{{Party: ids[1], What: "goblet-squat"}}
	for _, x := range plan.Decisions(d.Document(), b.Context) {
		assert.Equal(t, x.Party == ids[1], x.Overruled, x.Party)
	}
	for i := range b.Parties {
		b.Parties[i].Who = ""
	}
	for _, x := range plan.Decisions(d.Document(), b.Context) {
		assert.Equal(t, people.Party("middle"), x.Party, "a drop-in has not been there either, whatever the lane did")
	}
}

// By hand: twice 13 of 10 with 12 kg is ready for 16 kg. Who is given it moves up; who is kept at
// 12 kg is ready, which is something else. The same by rungs; and a rung that was done since is
// not moved up to once more.
func TestWhoMovesUp(t *testing.T) {
	b := brief(hall, lanes(0, 3, 0), 45, circuit.Reps)
	id := named(&b, 0, 3, 0)[0]
	line := func(day int, move string, hold moves.HoldID, done int, load measure.Mass) progress.Line {
		l := progress.Line{Day: day, Lane: moves.Middle, Who: "person" + string(id), Variant: move, Hold: hold, Load: load, Pain: progress.NoPain}
		l.Planned, l.Done, l.InForm = 10, done, done
		return l
	}
	says := func(e circuit.Entry, lines ...progress.Line) map[plan.Way][]string {
		b.Past = progress.Past{Day: 22, Lines: lines}
		d := squats(map[people.Party]circuit.Entry{id: e})
		i, k := d.At("s1")
		s := &d.Blocks[i].Slots[k]
		if e.Variant != "" {
			s.Entries[id], s.Pattern = e, moves.PushLevel
		}
		out := map[plan.Way][]string{}
		for _, m := range plan.WhoMoves(plan.Decisions(d, b.Context)) {
			assert.Equal(t, id, m.Party)
			out[m.Way] = m.Moves
		}
		return out
	}
	twice := []progress.Line{line(8, "goblet-squat", "goblet", 13, 12_000), line(15, "goblet-squat", "goblet", 13, 12_000)}
	assert.Equal(t, map[plan.Way][]string{plan.Ready: {"goblet-squat"}}, says(circuit.Entry{Load: bellLoad("kb12")}, twice...))
	assert.Equal(t, map[plan.Way][]string{plan.MovesUp: {"goblet-squat"}}, says(circuit.Entry{Load: bellLoad("kb16")}, twice...))
	does := func(move string) circuit.Entry {
		return circuit.Entry{Variant: move, Hold: moves.NoLoad, Dose: circuit.Times(10)}
	}
	easy := line(8, "hands-raised-push-up", moves.NoLoad, 20, 0)
	assert.Equal(t, map[plan.Way][]string{plan.Ready: {"hands-raised-push-up"}}, says(does("hands-raised-push-up"), easy))
	assert.Equal(t, map[plan.Way][]string{plan.MovesUp: {"hands-raised-push-up"}}, says(does("push-up"), easy))
	assert.Empty(t, says(does("push-up"), easy, line(15, "push-up", moves.NoLoad, 10, 0)), "done since")
	month := line(-8, "push-up", moves.NoLoad, 10, 0)
	assert.Empty(t, says(does("push-up"), month), "four weeks without, and nothing lighter than no load")
}
