package compose

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/why"
)

// standing puts what is known of somebody on a party.
func standing(p *plan.Party, f people.Facts) {
	st := f.On(0, moves.Standard(), p.Stature)
	p.Standing = &st
}

// doesOf gives what somebody does in a slot: their own entry, else their lane's.
func doesOf(t require.TestingT, b Brief, s circuit.Slot, p plan.Party) (circuit.Entry, *moves.Variant) {
	e, ok := s.Of(p.ID(), p.Lane)
	require.True(t, ok)
	v, ok := b.Library.Get(e.Variant)
	require.True(t, ok)
	return e, v
}

// loadOf is the load of what somebody does in a slot, their own cell's or their lane's.
func loadOf(look plan.Plan, slot string, who people.Party, lane moves.Lane) measure.Mass {
	for _, party := range []people.Party{who, people.OfLane(lane)} {
		for _, s := range look.Slots {
			for _, c := range s.Cells {
				if s.ID == slot && c.Party == party {
					return c.LoadG
				}
			}
		}
	}
	return 0
}

// Somebody with each yes of the health questions, planned in a full hall. What each is to be
// spared follows the usual cautions (common practice, no source): not lying on the back in
// pregnancy after the first third, no holding of the breath, nothing that risks the balance;
// with blood pressure no long holds and the head not below the heart; with brittle bones no
// loaded bending or turning of the back and no impact; hypermobile no end of range under load.
// A yes to a symptom keeps them out.
func TestEachYesIsPlanned(t *testing.T) {
	spared := map[people.Question][]moves.LimitID{
		people.PregnantEarly: {moves.NoBreathHolding, moves.NoBalanceRisk},
		people.Pregnant:      {moves.NoLyingOnBack, moves.NoBreathHolding, moves.NoBalanceRisk},
		people.Pressure:      {moves.NoBreathHolding, moves.NoLongHolds, moves.NoHeadBelowHeart},
		people.Brittle:       {moves.NoLoadedBack, moves.NoImpact},
		people.Hypermobile:   {moves.NoLoadedEndRange, moves.NoHanging},
		people.BoneOrJoint:   nil, people.Medication: nil,
	}
	for _, q := range people.Questions {
		b := brief(hall, lanes(2, 4, 2), 45, circuit.Timed)
		ids := named(&b, 0, 1, 0)
		who := &b.Parties[len(b.Parties)-1]
		health := people.HealthOf([]people.HealthRecord{{Answers: &people.Answers{Version: 1, Yes: []people.Question{q}}}})
		limits, ground := spared[q]
		assert.Equal(t, !ground, health.Out, "%s", q)
		if health.Out {
			b.Out, b.Parties = ids, b.Parties[:len(b.Parties)-1]
			p := Propose(b)
			require.True(t, p.Feasible)
			needs := plan.Needs(&p.Document, plan.Look(p.Document, b.Context), b.Context)
			assert.True(t, slices.ContainsFunc(needs, func(w why.Why) bool { return w.Code == why.NeedClearance }), "%s: %v", q, needs)
			continue
		}
		standing(who, people.Facts{Spared: health.Spared})
		for seed := range 3 {
			b.Minutes = 30 + 15*seed
			p := Propose(b)
			require.True(t, p.Feasible)
			look := checkProposal(t, b, p)
			for _, s := range single(p.Document).Slots {
				e, v := doesOf(t, b, s, *who)
				for _, l := range limits {
					assert.False(t, v.Breaks(l, loadOf(look, s.ID, who.ID(), who.Lane), true), "%s: %s in %s, %+v", q, l, v.ID, e)
				}
				judge := b.Judges(p.Document)
				block, _ := p.Document.At(s.ID)
				x, _ := b.ChoiceOf(e)
				assert.Empty(t, judge.Bound(p.Document.Blocks[block], s)[who.ID()].Spared(x), "%s: %s is Ground's too", q, v.ID)
			}
		}
	}
}

// Whatever the limits of whoever: nobody is given what they are to be spared, in a proposal, a
// new slot or an alternative that does not say so; the kit holds for all, and where nothing is
// to be had the notes say so.
func TestNobodyIsGivenWhatTheyAreSpared(t *testing.T) {
	all := slices.DeleteFunc(moves.Limits(), moves.LimitID.OfHealth)
	rapid.Check(t, func(t *rapid.T) {
		n := func(name string, low, high int) int { return rapid.IntRange(low, high).Draw(t, name) }
		b := brief(hall, lanes(n("ground", 2, 4), n("middle", 2, 4), n("reach", 2, 3)), n("minutes", 20, 60),
			rapid.SampledFrom([]circuit.Format{circuit.Timed, circuit.Reps}).Draw(t, "format"))
		ids := named(&b, n("named ground", 0, 1), n("named middle", 0, 2), n("named reach", 0, 1))
		for i := range b.Parties {
			if p := &b.Parties[i]; p.Participant != "" {
				f := people.Facts{}
				for _, l := range rapid.SliceOfNDistinct(rapid.SampledFrom(all), 0, 4, rapid.ID).Draw(t, "limits") {
					f.Records = append(f.Records, people.Record{Limit: &people.Limit{Limit: l}})
				}
				f.Spared.Ground = rapid.Bool().Draw(t, "held at Ground")
				standing(p, f)
			}
		}
		p := Propose(b)
		assert.Equal(t, p, Propose(b), "the same again")
		if !p.Feasible {
			return
		}
		look := checkProposal(t, b, p)
		rests := map[string]bool{}
		for _, w := range p.Notes {
			if w.Code == why.NoteSparedRests {
				rests[w.Terms[0].Text+" "+w.Terms[1].Text] = true
			}
		}
		judges := b.Judges(p.Document)
		for i, s := range single(p.Document).Slots {
			block, _ := p.Document.At(s.ID)
			for _, who := range b.Parties {
				if who.Participant == "" || !who.Judged().Bound() {
					continue
				}
				e, v := doesOf(t, b, s, who)
				x, ok := b.ChoiceOf(e)
				require.True(t, ok)
				broken := judges.Bound(p.Document.Blocks[block], s)[who.ID()].Spared(x)
				shown := slices.ContainsFunc(look.Slots[i].Cells, func(c plan.Cell) bool {
					return c.Lane == who.Lane && slices.ContainsFunc(c.Breaks, func(w why.Why) bool { return w.Terms[0].Text == string(who.ID()) })
				})
				assert.Equal(t, len(broken) > 0, shown, "what is broken is drawn")
				assert.True(t, len(broken) == 0 || rests[string(who.ID())+" "+v.ID], "%s does %s: %v", who.ID(), v.ID, broken)
			}
		}
		if len(ids) == 0 {
			return
		}
		who := rapid.SampledFrom(ids).Draw(t, "whose alternatives")
		at := slices.IndexFunc(b.Parties, func(p plan.Party) bool { return p.ID() == who })
		s := rapid.SampledFrom(single(p.Document).Slots).Draw(t, "slot")
		options, _ := OptionsFor(p.Document, b.Context, s.ID, who)
		for _, a := range append(slices.Clone(options.Moves), options.Loads...) {
			v, _ := b.Library.Get(a.Entry.Variant)
			for _, h := range b.Parties[at].Standing.Limits {
				if v.Breaks(h.Limit, a.LoadG, true) {
					assert.NotEmpty(t, append(slices.Clone(a.Faults), a.Breaks...), "%s of %s breaks %s and does not say so", v.ID, who, h.Limit)
				}
			}
		}
	})
}

// Who is spared the knee altogether has squats, lunges and steps replaced, each by something else
// as long as there is something.
func TestSparedDoNotDoTheSameTwice(t *testing.T) {
	for _, minutes := range []int{30, 45, 60} {
		b := brief(hall, lanes(2, 4, 2), minutes, circuit.Timed)
		named(&b, 0, 1, 0)
		who := &b.Parties[len(b.Parties)-1]
		standing(who, people.Facts{Records: []people.Record{{Limit: &people.Limit{Limit: "knee-spare"}}}})
		p := Propose(b)
		require.True(t, p.Feasible)
		seen := map[string]bool{}
		for _, s := range p.Document.Loaded() {
			_, v := doesOf(t, b, s, *who)
			assert.False(t, seen[v.ID], "%d minutes: %s twice", minutes, v.ID)
			seen[v.ID] = true
		}
	}
}

// What is sent home keeps to somebody's limits too.
func TestTakeHomeSpares(t *testing.T) {
	for _, limits := range [][]moves.LimitID{{moves.NoFloor}, {moves.NoLyingOnBack, moves.NoBalanceRisk}, {"knee-spare"}, {moves.NoOverhead, "wrist-spare"}} {
		b := brief(hall, lanes(0, 4, 0), 45, circuit.Timed)
		named(&b, 0, 1, 0)
		who := &b.Parties[len(b.Parties)-1]
		f := people.Facts{}
		for _, l := range limits {
			f.Records = append(f.Records, people.Record{Limit: &people.Limit{Limit: l}})
		}
		standing(who, f)
		p := Propose(b)
		require.True(t, p.Feasible)
		home := b.Context
		home.Stock, home.Parties = hall, []plan.Party{*who}
		d, _ := TakeHome(p.Document, home)
		require.NotEmpty(t, d.Slots())
		look := plan.Look(d, home)
		for _, s := range look.Slots {
			for _, c := range s.Cells {
				v, _ := b.Library.Get(c.Entry.Variant)
				for _, l := range limits {
					assert.False(t, v.Breaks(l, c.LoadG, true), "%s at home with %s", v.ID, l)
				}
			}
		}
	}
}

// 24 people, half of them known by name with things to be spared.
func BenchmarkProposeSpared(b *testing.B) {
	x := brief(hall, lanes(8, 10, 6), 45, circuit.Timed)
	named(&x, 4, 5, 3)
	all := slices.DeleteFunc(moves.Limits(), moves.LimitID.OfHealth)
	for i := range x.Parties {
		if p := &x.Parties[i]; p.Participant != "" {
			standing(p, people.Facts{Records: []people.Record{
				{Limit: &people.Limit{Limit: all[i%len(all)]}}, {Limit: &people.Limit{Limit: all[(i*7+3)%len(all)]}},
			}})
		}
	}
	b.ReportAllocs()
	for b.Loop() {
		Propose(x)
	}
}
