package compose

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// fourBlocks is an hour of straight sets that are filled, a superset, a chain and a finisher.
func fourBlocks() []Wanted {
	return []Wanted{
		{Kind: circuit.Work, Scheme: scheme.Sets},
		{Kind: circuit.Work, Scheme: scheme.Superset, Pins: []Pin{{Move: "push-up"}, {Move: "one-arm-row"}}},
		{Kind: circuit.Work, Scheme: scheme.Chain, Pins: []Pin{{Move: "square-stance-row"}, {Move: "dead-stop-catch"}, {Move: "one-arm-front-squat"}}},
		{Kind: circuit.Finisher, Pins: []Pin{{Move: "goblet-squat"}}},
	}
}

// Blocks that are asked for, by hand: those with moves as they were named, in their order, the
// open one as the goal makes it around them; all share the minutes. A chain has one load, the
// lightest that suits one of its parts, and the time of its parts; a drop is done until few are
// left; what must not be failed is counted there.
func TestBlocksByHand(t *testing.T) {
	b := brief(hall, lanes(0, 2, 0), 60, circuit.Reps)
	b.Goal, b.Blocks = goal.Muscle, fourBlocks()
	p := Propose(b)
	require.True(t, p.Feasible)
	require.NoError(t, p.Document.Check(b.Library))
	var kinds []string
	for _, x := range p.Document.Blocks {
		kind := string(x.Kind)
		if x.Scheme != nil {
			kind += " " + string(x.Scheme.Kind)
		}
		kinds = append(kinds, kind)
	}
	assert.Equal(t, []string{"prep", "teach", "work sets", "work superset", "work chain", "finisher sets", "close"}, kinds)
	for _, s := range p.Document.Blocks[2].Slots {
		assert.NotContains(t, []string{"push-level", "pull"}, string(s.Pattern), "it is done in the superset")
	}
	chain := p.Document.Blocks[4].Slots
	first, _ := hall.Mass(chain[0].Entries["middle"].Load)
	for i, s := range chain {
		e := s.Entries["middle"]
		total, _ := hall.Mass(e.Load)
		assert.Equal(t, first, total, "nothing is set down")
		assert.Equal(t, []circuit.Part{{Move: []string{"row", "pull", "squat"}[i], Count: 1, Ms: []measure.Span{2000, 2500, 4000}[i]}}, e.Parts)
	}
	b.Blocks = []Wanted{{Kind: circuit.Work, Scheme: scheme.Drop, Pins: []Pin{{Move: "floor-bridge"}, {Move: "one-arm-press"}}}}
	p = Propose(b)
	stages := p.Document.Blocks[2].Slots
	assert.Equal(t, circuit.Dose{Kind: circuit.ToFailure, Low: 8, High: 12}, stages[0].Entries["middle"].Dose)
	assert.Equal(t, circuit.Count, stages[1].Entries["middle"].Dose.Kind, "overhead is not failed")

	// What is new today stands in it and is taught, whatever the log says.
	b.Blocks, b.New = nil, []string{"cossack-squat"}
	p = Propose(b)
	slot := circuit.Slot{}
	for _, s := range p.Document.Slots() {
		if s.Entries["middle"].Variant == "cossack-squat" {
			slot = s
		}
	}
	require.True(t, slot.New)
	look := plan.Look(p.Document, b.Context)
	taught := false
	for _, l := range look.Teach {
		taught = taught || l.Slot == slot.ID && l.Ms >= 90*measure.Second
	}
	assert.True(t, taught)

	// Too much for the minutes says how many it takes, and no fewer do.
	b.New, b.Blocks, b.Minutes = nil, fourBlocks(), 12
	p = Propose(b)
	require.False(t, p.Feasible)
	require.Equal(t, why.RelaxMinutes, p.Relax[0].Code)
	b.Minutes = int(p.Relax[0].Terms[0].Value)
	require.True(t, Propose(b).Feasible)
	b.Minutes--
	require.False(t, Propose(b).Feasible)
}

// Whatever blocks are asked for, of whatever schemes and moves: what comes fits the minutes
// and stands in its order with its moves, none that is left out, each with the load that was
// asked for where there is one; and more minutes never give less.
func TestAnyBlocks(t *testing.T) {
	pool := []string{"goblet-squat", "push-up", "one-arm-row", "romanian-deadlift", "split-squat", "floor-bridge", "one-arm-press", "plank", "lateral-lunge"}
	schemes := []scheme.Name{"", scheme.Circuit, scheme.Sets, scheme.Superset, scheme.Chain, scheme.Interval, scheme.Windowed, scheme.Ladder, scheme.Drop}
	rapid.Check(t, func(t *rapid.T) {
		b := brief(hall, lanes(rapid.IntRange(0, 2).Draw(t, "ground"), rapid.IntRange(1, 4).Draw(t, "middle"), 0), rapid.IntRange(20, 90).Draw(t, "minutes"), rapid.SampledFrom([]circuit.Format{circuit.Timed, circuit.Reps}).Draw(t, "format"))
		b.Goal = rapid.SampledFrom(goal.Goals).Draw(t, "goal")
		ban := rapid.SampledFrom([]string{"hinge", "no-overhead", "goblet-squat"}).Draw(t, "ban")
		b.Bans = []string{ban}
		for range rapid.IntRange(1, 3).Draw(t, "blocks") {
			w := Wanted{Kind: circuit.Work, Scheme: rapid.SampledFrom(schemes).Draw(t, "scheme"), Rounds: rapid.IntRange(0, 3).Draw(t, "rounds")}
			for range rapid.IntRange(1, 3).Draw(t, "moves") {
				p := Pin{Move: rapid.SampledFrom(pool).Draw(t, "move")}
				if p.Move == "goblet-squat" && rapid.Bool().Draw(t, "loaded") {
					p.Load = 8000
				}
				w.Pins = append(w.Pins, p)
			}
			b.Blocks = append(b.Blocks, w)
		}
		p := Propose(b)
		if !p.Feasible {
			require.NotEmpty(t, p.Relax)
			return
		}
		require.NoError(t, p.Document.Check(b.Library))
		require.LessOrEqual(t, plan.Length(p.Document, b.Context), measure.Span(b.Minutes)*measure.Minute)
		var got []string
		for _, x := range p.Document.Blocks {
			for _, s := range x.Slots {
				require.True(t, s.Pinned)
				e := s.Entries["middle"]
				got = append(got, e.Variant)
			}
		}
		var want []string
		for _, w := range b.Blocks {
			for _, x := range w.Pins {
				want = append(want, x.Move)
			}
		}
		require.Equal(t, want, got, "a pin is the instructor's word, bans or not")
		before := p
		b.Minutes += 20
		after := Propose(b)
		require.True(t, after.Feasible)
		sets := func(p Proposal) (n int) {
			for _, x := range p.Document.Blocks {
				n += x.Rounds() * len(x.Slots)
			}
			return n
		}
		require.GreaterOrEqual(t, sets(after), sets(before))
	})
}

// A proposal in blocks, three lanes of eight, by how many blocks of two moves there are, and
// of one block by how many moves it has.
func BenchmarkProposeBlocks(b *testing.B) {
	run := func(name string, minutes int, blocks []Wanted) {
		b.Run(name, func(b *testing.B) {
			of := brief(hall, lanes(8, 8, 8), minutes, circuit.Reps)
			of.Goal, of.Blocks = goal.Muscle, blocks
			b.ReportAllocs()
			for b.Loop() {
				Propose(of)
			}
		})
	}
	run("hour of four", 60, fourBlocks())
	moves := []string{"push-up", "one-arm-row", "goblet-squat", "romanian-deadlift", "split-squat", "floor-bridge", "plank", "lateral-lunge"}
	for _, n := range []int{1, 2, 4, 8} {
		var blocks []Wanted
		for i := range n {
			blocks = append(blocks, Wanted{Kind: circuit.Work, Scheme: scheme.Superset, Pins: []Pin{{Move: moves[i]}, {Move: moves[(i+1)%8]}}})
		}
		run(fmt.Sprintf("%d blocks", n), 240, blocks)
		var pins []Pin
		for _, m := range moves[:n] {
			pins = append(pins, Pin{Move: m})
		}
		run(fmt.Sprintf("%d moves", n), 240, []Wanted{{Kind: circuit.Work, Scheme: scheme.Sets, Pins: pins}})
	}
}
