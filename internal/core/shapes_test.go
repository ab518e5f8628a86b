package core_test

import (
	"fmt"
	"slices"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/golden/shapes"
)

// Every shape is entered exactly as it is run, reads back as it was written, and comes to
// what was worked by hand: times of sets and blocks, counts with both ends, sides, parts.
func TestShapes(t *testing.T) {
	lib := moves.Standard()
	for _, s := range shapes.All(t) {
		d, first := s.Document(t, lib)
		require.NoError(t, d.Check(lib), s.Name)
		kept, err := circuit.Encode(d)
		require.NoError(t, err)
		read, err := circuit.Decode(kept)
		require.NoError(t, err)
		assert.Equal(t, d, read, s.Name)

		p := plan.Look(d, s.Context(t, lib))
		at := func(key string) int { n, _ := strconv.Atoi(key); return first + n }
		for key, want := range s.Works {
			assert.Equal(t, want, p.Blocks[at(key)].WorkMs.InSeconds(), "%s: work of block %s", s.Name, key)
		}
		for key, want := range s.Totals {
			assert.Equal(t, want, p.Blocks[at(key)].TotalMs.InSeconds(), "%s: block %s", s.Name, key)
		}
		for id, want := range s.Sets {
			i := slices.IndexFunc(p.Slots, func(x plan.SlotPlan) bool { return x.ID == id })
			assert.Equal(t, want, p.Slots[i].Cells[0].SetMs.InSeconds(), "%s: a set of %s", s.Name, id)
		}
		for i := range s.Blocks {
			assert.Equal(t, slices.Contains(s.About, i), p.Blocks[first+i].About, "%s: only about", s.Name)
		}
		low, high := map[string]int{}, map[string]int{}
		for _, x := range p.Slots {
			key := fmt.Sprint(d.Block(x.Block) - first)
			low[key], high[key] = low[key]+x.Cells[0].Count.Low, high[key]+x.Cells[0].Count.High
			assert.False(t, x.Cells[0].Unknown, "%s: %s is there", s.Name, x.ID)
			assert.False(t, x.Cells[0].Missing, "%s: %s is there often enough", s.Name, x.ID)
		}
		for key := range s.BlockLow {
			assert.Equal(t, [2]int{s.BlockLow[key], s.BlockHigh[key]}, [2]int{low[key], high[key]}, "%s: block %s", s.Name, key)
		}
		var total plan.Total
		if len(p.Totals) > 0 {
			total = p.Totals[0]
		}
		if s.High > 0 || s.Bare {
			assert.Equal(t, [2]int{s.Low, s.High}, [2]int{total.Count.Low, total.Count.High}, "%s: %s", s.Name, s.Why)
		}
		if s.Left > 0 {
			assert.Equal(t, [2]int{s.Left, s.Right}, [2]int{total.Count.LeftLow, total.Count.RightLow}, s.Name)
		}
		if s.LeftLeg > 0 {
			assert.Equal(t, [2]int{s.LeftLeg, s.RightLeg}, [2]int{total.LeftLegLow, total.RightLegLow}, "%s: legs", s.Name)
		}
		parts := map[string]int{}
		for _, x := range total.Parts {
			parts[x.Move] = x.Low
		}
		for move, n := range s.Parts {
			assert.Equal(t, n, parts[move], "%s: %s", s.Name, move)
		}
		if s.Fits {
			assert.True(t, p.Fits, "%s: %d ms over", s.Name, -p.SlackMs)
		}
		covered(t, s.Name, p.Order)
	}
}

// covered makes sure that a running order covers each second once, for the class and for
// everybody, and that no call lies outside.
func covered(t testing.TB, name string, o cue.Order) {
	require.NoError(t, o.Check(), name)
	at := map[people.Party]int64{}
	for _, e := range o.Events {
		require.Equal(t, at[e.Party], e.From, "%s: %s", name, e.Party)
		at[e.Party] = e.Until
	}
	for who, until := range at {
		assert.Equal(t, o.Total, until, "%s: %s", name, who)
	}
}

// The calls of shapes that are called: three parts in their turn with every repetition, a
// chain part by part on the weaker side first, a get-up through its six stages and back,
// footwork fifteen times, as often left as right.
func TestShapesAreCalled(t *testing.T) {
	lib := moves.Standard()
	calls := map[string][]cue.Call{}
	orders := map[string]cue.Order{}
	for _, s := range shapes.All(t) {
		d, _ := s.Document(t, lib)
		o := plan.Look(d, s.Context(t, lib)).Order
		orders[s.Name] = o
		for _, c := range o.Calls {
			if c.Kind == cue.PartNow || c.Kind == cue.Direction {
				calls[s.Name] = append(calls[s.Name], c)
			}
		}
	}
	complex := calls["three parts in ten a side"]
	require.Len(t, complex, 60)
	for i, c := range complex[:6] {
		assert.Equal(t, []string{"clean", "squat", "press"}[i%3], c.Name)
	}
	assert.Equal(t, []int64{0, 2500, 6500, 9500}, []int64{0, complex[1].At - complex[0].At, complex[2].At - complex[0].At, complex[3].At - complex[0].At})
	var sides []scheme.Side
	for _, e := range orders["three parts in ten a side"].Events {
		if e.Kind == scheme.Work {
			sides = append(sides, e.Side)
		}
	}
	assert.Equal(t, []scheme.Side{scheme.Right, scheme.Left}, sides, "the weaker side first")

	var chain []string
	for _, c := range calls["one bell, first weeks"] {
		if c.Name == "" {
			chain = append(chain, c.Slot)
		}
	}
	assert.Equal(t, []string{"s6", "s7", "s6", "s7"}, chain, "each part as it begins; the first is the go")

	var stages []string
	for _, c := range calls["swing, get-up, one leg"] {
		if c.Slot == "s2" {
			stages = append(stages, c.Name)
		}
	}
	up := []string{"get-up-elbow", "get-up-hand", "get-up-bridge", "get-up-kneel", "get-up-tall", "get-up"}
	down := slices.Clone(up)
	slices.Reverse(down)
	assert.Equal(t, slices.Concat(up, down, up, down), stages)

	said := map[string]int{}
	last := ""
	for _, c := range calls["warm-up only"] {
		if c.Kind == cue.Direction {
			said[c.Name]++
			assert.NotEqual(t, last, c.Name)
			last = c.Name
		}
	}
	assert.Equal(t, map[string]int{"right": 3, "left": 3, "forward": 3, "back": 3, "across": 3}, said)
}

// A plan of four blocks in an hour for three lanes.
func BenchmarkLookFourBlocks(b *testing.B) {
	lib := moves.Standard()
	var d circuit.Document
	var c plan.Context
	for _, s := range shapes.All(b) {
		x, first := s.Document(b, lib)
		if d.V == 0 {
			d, c = x, s.Context(b, lib)
			d.Blocks = d.Blocks[:first]
			c.Stock = kit.Stock{}
		}
		if len(s.Blocks) > 1 && len(d.Blocks) < 6 {
			for _, block := range x.Blocks[first : first+2] {
				block.ID = d.FreeBlockID()
				for i := range block.Slots {
					block.Slots[i].ID = fmt.Sprintf("%s-%d", block.ID, i)
					e := block.Slots[i].Entries["middle"]
					block.Slots[i].Entries["ground"], block.Slots[i].Entries["reach"] = e, e
				}
				d.Blocks = append(d.Blocks, block)
			}
			stock := s.Stock(b)
			c.Stock.Implements = append(c.Stock.Implements, stock.Implements...)
		}
	}
	c.Minutes = 60
	c.Parties = nil
	for _, l := range moves.Lanes {
		c.Parties = append(c.Parties, plan.Party{Lane: l, People: 5, Body: plan.DefaultBody, Stature: plan.DefaultStature})
	}
	b.ReportAllocs()
	for b.Loop() {
		plan.Look(d, c)
	}
}
