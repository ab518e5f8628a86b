package compose

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// Whatever is pinned, by hand changed or not, in the circuit or in a block beside it, a new
// proposal leaves it as it is and where it stands; the rest is made around it and the minutes
// hold.
func TestPinsStay(t *testing.T) {
	lib := moves.Standard()
	for _, format := range []circuit.Format{circuit.Timed, circuit.Reps} {
		b := brief(hall, lanes(0, 4, 2), 50, format)
		first := Propose(b)
		require.True(t, first.Feasible)
		pinsAt := rapid.SliceOfNDistinct(rapid.IntRange(0, len(first.Document.Slots())-1), 1, 3, rapid.ID[int])
		for seed := range 12 {
			d := first.Document.Clone()
			_, at, _ := d.Single()
			work := &d.Blocks[at]
			pinned := map[int]circuit.Slot{}
			for _, i := range pinsAt.Example(seed) {
				s := &work.Slots[i]
				s.Pinned = true
				e := s.Entries["middle"]
				e.Dose = circuit.Times(5 + seed%8)
				s.Entries[people.OfLane(moves.Middle)] = e
				pinned[i] = *s
			}
			beside := circuit.Block{}
			if seed%2 == 0 {
				beside = circuit.Block{
					ID: "b1", Kind: circuit.Finisher, Layout: circuit.Together, AfterMs: 60 * measure.Second,
					Scheme: &circuit.Scheme{Kind: scheme.Superset, Superset: &circuit.InGroups{Rounds: 2, RestMs: 30 * measure.Second}},
					Slots:  first.Document.Clone().Blocks[at].Slots[:2],
				}
				beside.Slots[0].ID, beside.Slots[0].Pinned = "s1-again", true
				beside.Slots[1].ID, beside.Slots[1].Pinned = "s2-again", false
				d.Blocks = append(d.Blocks, beside)
			}
			again := b
			again.Plan, again.Minutes = d, 25+5*seed
			again.Bans = [][]string{nil, {"lateral"}, {"hinge"}, {"goblet-squat"}}[seed%4]
			p := Propose(again)
			require.True(t, p.Feasible)
			require.NoError(t, p.Document.Check(lib))
			require.LessOrEqual(t, plan.Length(p.Document, again.Context), measure.Span(again.Minutes)*measure.Minute)
			got, at, ok := p.Document.Single()
			require.True(t, ok)
			for i, s := range pinned {
				n := got.Index(s.ID)
				require.GreaterOrEqual(t, n, 0)
				for k := n; k < len(got.Slots) && n < i; k++ {
					require.True(t, got.Slots[k].Pinned, "from %d to %d of %d, and others behind it", i, n, len(got.Slots))
				}
				require.LessOrEqual(t, n, i)
				require.Equal(t, s.SettledIn(got.Rounds), got.Slots[n])
			}
			if beside.ID != "" {
				last := p.Document.Blocks[at+1]
				beside.Slots = beside.Slots[:1]
				require.Equal(t, beside, last)
			}
			require.Equal(t, p, Propose(again))
		}
	}
}

// Moves that a brief must have stand in its order, before all else, with the load that was
// asked for where there is one; a skill may be pinned; one lane's pin leaves the others their
// own. The rest of the template is made around them, in circuits and in straight sets.
func TestPinsOfABrief(t *testing.T) {
	for _, g := range goal.Goals {
		b := brief(hall, lanes(0, 4, 2), 60, circuit.Reps)
		b.Goal = g
		b.Pins = []Pin{
			{Move: "romanian-deadlift"}, {Move: "two-hand-swing", Load: 12_000, Dose: times(15)}, {Move: "goblet-squat", Party: "middle", Load: 8000}, {Move: "box-squat", Party: "reach"}, {Move: "push-up", Dose: times(9)},
		}
		p := Propose(b)
		require.True(t, p.Feasible, g)
		require.NoError(t, p.Document.Check(b.Library))
		var slots []circuit.Slot
		for _, x := range p.Document.Blocks {
			if len(x.Slots) > len(slots) { // what makes ready for a lift comes before
				slots = x.Slots
			}
		}
		require.GreaterOrEqual(t, len(slots), 4, g)
		what := func(i int, who people.Party) (string, measure.Mass, int) {
			e := slots[i].Entries[who]
			m, _ := hall.Mass(e.Load)
			return e.Variant, m, e.Dose.Low
		}
		for i, want := range []struct {
			who  people.Party
			move string
			load measure.Mass
			reps int
		}{{"middle", "romanian-deadlift", -1, -1}, {"reach", "two-hand-swing", 12_000, 15}, {"middle", "goblet-squat", 8000, -1}, {"reach", "push-up", 0, 9}} {
			move, load, reps := what(i, want.who)
			assert.Equal(t, want.move, move, g)
			assert.True(t, want.load < 0 || want.load == load, "%s: %d", g, load)
			assert.True(t, want.reps < 0 || want.reps == reps, "%s: %d", g, reps)
			assert.True(t, slots[i].Pinned)
		}
		box, _, _ := what(2, "reach")
		assert.Equal(t, "box-squat", box, g)
		require.LessOrEqual(t, plan.Length(p.Document, b.Context), 60*measure.Minute)
		b.Pins = []Pin{{Move: "heel-drag"}, {Move: "squat"}}
		p = Propose(b)
		require.True(t, p.Feasible, g)
		assert.Contains(t, p.Notes, why.Of(why.NotePinAway, why.Arithmetic, why.ID("variant", "heel-drag")), "there is no smooth floor")
		assert.NotContains(t, circuit.Moves(p.Document), "heel-drag")
	}
}

// In straight sets a pinned slot stays as it is with its own number of sets, and a block
// beside them keeps its rests, whatever the minutes do to those of the main block.
func TestPinsStayInStraightSets(t *testing.T) {
	for _, g := range []goal.Goal{goal.Strength, goal.Muscle, goal.Learn} {
		b := brief(hall, lanes(0, 4, 2), 60, circuit.Timed)
		b.Goal = g
		first := Propose(b)
		require.True(t, first.Feasible)
		d := first.Document.Clone()
		main := mainOf(d)
		own := &d.Blocks[main].Slots[1]
		own.Pinned, own.Sets = true, 2
		e := own.Entries["middle"]
		e.Dose = circuit.Times(7)
		own.Entries["middle"] = e
		beside := circuit.Block{
			ID: "b9", Kind: circuit.Work, Layout: circuit.Together,
			Scheme: &circuit.Scheme{Kind: scheme.Sets, Sets: &circuit.InSets{Sets: 1, RestMs: 7 * measure.Second, BetweenMs: 9 * measure.Second}},
			Slots:  first.Document.Clone().Blocks[main].Slots[:1],
		}
		beside.Slots[0].ID, beside.Slots[0].Pinned = "s9", true
		at := main + 1 // by turns before and after the main block, which is the first of straight sets
		d.Blocks = append(d.Blocks[:at:at], append([]circuit.Block{beside}, d.Blocks[at:]...)...)
		for _, minutes := range []int{35, 50, 80} {
			again := b
			again.Plan, again.Minutes = d, minutes
			p := Propose(again)
			require.True(t, p.Feasible, "%s, %d", g, minutes)
			require.LessOrEqual(t, plan.Length(p.Document, again.Context), measure.Span(minutes)*measure.Minute)
			got := p.Document.Blocks[mainOf(p.Document)]
			assert.Equal(t, *own, got.Slots[1], "%s, %d", g, minutes)
			i := p.Document.Block("b9")
			require.GreaterOrEqual(t, i, 0)
			assert.Equal(t, beside, p.Document.Blocks[i])
			again.Goal = goal.General // there are rounds now
			round, _, ok := Propose(again).Document.Single()
			require.True(t, ok)
			n := round.Index(own.ID)
			require.GreaterOrEqual(t, n, 0)
			assert.Zero(t, round.Slots[n].Sets)
		}
	}
}

// A pin is done in as few waves as there is kit for; where the place has no such load it is
// said, and what suits is taken.
func TestPinsByTheKit(t *testing.T) {
	b := brief(hall, lanes(0, 6, 0), 60, circuit.Reps)
	b.Pins = []Pin{{Move: "goblet-squat", Load: 16_000}, {Move: "reverse-lunge", Load: 13_000}, {Move: "push-up"}}
	p := Propose(b)
	require.True(t, p.Feasible)
	d, _, _ := p.Document.Single()
	assert.Equal(t, 2, d.Slots[0].Waves, "six people, three bells of 16 kg")
	assert.Equal(t, 1, d.Slots[2].Waves)
	assert.Contains(t, p.Notes,
		why.Of(why.NotePinLoad, why.Arithmetic, why.ID("variant", "reverse-lunge"), why.G("load", 13_000)))
	assert.NotContains(t, circuit.Moves(p.Document), "")
	for _, w := range p.Notes {
		assert.False(t, w.Code == why.NotePinLoad && w.Terms[0].Text != "reverse-lunge")
	}
}

func times(n int) *circuit.Dose {
	d := circuit.Times(n)
	return &d
}
