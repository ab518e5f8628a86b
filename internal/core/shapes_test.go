package core_test

import (
	"cmp"
	"encoding/json"
	"fmt"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
)

// shape is a session as people really run it (common practice, no source), entered exactly,
// with totals worked by hand beside; why says how.
type shape struct {
	Name, Why string
	Minutes   int
	// Bare has no prep, teaching and close that time themselves.
	Bare         bool
	Kit          []string
	Bags, Things map[string]measure.Mass
	Blocks       []shapeBlock
	Low, High    int
	Left, Right  int
	// Each leg's own repetitions, of what trains legs; both legs do all of a move on two.
	LeftLeg, RightLeg int
	Fits              bool
	// By the place of a block among those entered: seconds of work, in all, and counts.
	Works, Totals       map[string]float64
	BlockLow, BlockHigh map[string]int
	About               []int
	// Sets are seconds of one set by slot, Parts how often a part comes in all.
	Sets  map[string]float64
	Parts map[string]int
}

type shapeBlock struct {
	Kind   circuit.Kind
	After  measure.Span
	Scheme circuit.Scheme
	Slots  []shapeSlot
}

type shapeSlot struct {
	Move  string
	Hold  moves.HoldID
	Use   string
	Count int
	Pack  string
	Thing string
	On    string
	Dose  string
	Tempo string
	Parts string
	Sides scheme.SideMode
	First scheme.Side
	Rest  measure.Span
}

func shapes(t testing.TB) []shape {
	b, err := os.ReadFile("testdata/shapes.json")
	require.NoError(t, err)
	var out []shape
	dec := json.NewDecoder(strings.NewReader(string(b)))
	dec.DisallowUnknownFields()
	require.NoError(t, dec.Decode(&out))
	require.Len(t, out, 15)
	return out
}

var doses = regexp.MustCompile(`^(about )?(\d+)(?:-(\d+))?( in all| units| s)?$`)

func (s shapeSlot) dose(t testing.TB) circuit.Dose {
	m := doses.FindStringSubmatch(s.Dose)
	require.NotNil(t, m, s.Dose)
	low, _ := strconv.Atoi(m[2])
	high := low
	if m[3] != "" {
		high, _ = strconv.Atoi(m[3])
	}
	d := circuit.Dose{Kind: circuit.Count, Low: low, High: high, InAll: m[4] == " in all"}
	switch {
	case m[1] != "":
		d.Kind = circuit.ToFailure
	case m[4] == " units":
		d.Kind = circuit.Units
	case m[4] == " s":
		d = circuit.Dose{Kind: circuit.Seconds, Ms: measure.Span(low) * measure.Second}
	}
	return d
}

func (s shapeSlot) entry(t testing.TB, lib *moves.Library) circuit.Entry {
	v, ok := lib.Get(s.Move)
	require.True(t, ok, s.Move)
	e := circuit.Entry{
		Variant: s.Move, Hold: moves.NoLoad, Load: kit.Nothing, Anchors: []string{}, Dose: s.dose(t), Tempo: v.TempoWritten(),
		Sides: scheme.BothSides, First: s.First,
	}
	if s.Hold != "" {
		e.Hold = s.Hold
	}
	if s.Use != "" {
		e.Load = kit.Load{Kind: kit.Implements, Item: s.Use, Count: max(s.Count, 1)}
	}
	if words := strings.Fields(s.Pack); len(words) == 3 {
		n, _ := strconv.Atoi(words[1])
		e.Load = kit.Load{Kind: kit.Made, Container: words[0], Parts: []kit.Portion{{ID: words[2], Count: n}}}
	}
	if s.Thing != "" {
		e.Load = kit.Load{Kind: kit.Objects, Item: s.Thing, Count: 1}
	}
	e.Anchors = append(e.Anchors, strings.Fields(s.On)...)
	if s.Tempo != "" {
		e.Tempo = s.Tempo
	}
	if s.Sides != "" {
		e.Sides = s.Sides
	}
	for _, part := range strings.Split(s.Parts, ", ") {
		if name, n, found := strings.Cut(part, " "); found {
			count, _ := strconv.Atoi(n)
			e.Parts = append(e.Parts, circuit.Part{Move: name, Count: count, Ms: moves.Part{Move: name}.Takes()})
			e.Tempo = ""
		}
	}
	return e
}

// document enters the shape, and gives where its first block stands.
func (s shape) document(t testing.TB, lib *moves.Library) (circuit.Document, int) {
	d := circuit.Document{V: circuit.DocumentVersion, LeadInMs: scheme.UsualLeadIn, Bans: []string{}}
	auto := func(kind circuit.Kind) {
		if !s.Bare {
			d.Blocks = append(d.Blocks, circuit.Block{ID: d.FreeBlockID(), Kind: kind, Auto: true, Layout: circuit.Together})
		}
	}
	auto(circuit.Prep)
	auto(circuit.Teach)
	first := len(d.Blocks)
	n := 0
	for _, b := range s.Blocks {
		x := circuit.Block{ID: d.FreeBlockID(), Kind: b.Kind, Layout: circuit.Together, AfterMs: b.After * measure.Second, Scheme: &b.Scheme}
		if x.Kind == "" {
			x.Kind = circuit.Work
		}
		for _, slot := range b.Slots {
			n++
			v, _ := lib.Get(slot.Move)
			y := circuit.Slot{ID: circuit.SlotID(n), Pattern: v.Pattern, Waves: 1, Entries: map[people.Party]circuit.Entry{"middle": slot.entry(t, lib)}}
			if slot.Rest > 0 {
				rest := slot.Rest * measure.Second
				y.RestMs = &rest
			}
			x.Slots = append(x.Slots, y)
		}
		d.Blocks = append(d.Blocks, x)
	}
	auto(circuit.Close)
	return d.Clone(), first
}

func (s shape) stock(t testing.TB) kit.Stock {
	var out kit.Stock
	for _, text := range s.Kit {
		words := strings.Fields(text)
		i := kit.Implement{ID: words[0], Kind: words[1], Count: 1, Checked: true}
		for _, w := range words[2:] {
			from, to, set := strings.Cut(strings.TrimPrefix(w, "x"), "-")
			n, err := strconv.Atoi(from)
			require.NoError(t, err, text)
			switch {
			case strings.HasPrefix(w, "x"):
				i.Count = n
			case set:
				most, err := strconv.Atoi(to)
				require.NoError(t, err, text)
				i.Height, i.Highest = measure.Length(n), measure.Length(most)
			case i.Kind == kit.Bench || i.Kind == kit.Box || i.Kind == kit.Table:
				i.Height = measure.Length(n)
			default:
				i.Mass = measure.Mass(n)
			}
		}
		if i.Kind == kit.Door {
			i.Points = kit.Points
		}
		out.Implements = append(out.Implements, i)
	}
	for id, mass := range s.Bags {
		out.Containers = append(out.Containers, kit.Container{ID: id, Mass: mass, Max: 20_000, Closed: true, Straps: true})
	}
	for id, mass := range s.Things {
		out.Objects = append(out.Objects, kit.Object{ID: id, Mass: mass, Count: 60, Use: cmp.Or(map[string]string{"bottle": kit.Grip}[id], kit.Pack), Traits: map[string][]string{"towel": {kit.Soft}}[id]})
	}
	return out
}

func (s shape) context(t testing.TB, lib *moves.Library) plan.Context {
	return plan.Context{
		Library: lib, Stock: s.stock(t), Minutes: s.Minutes, Past: progress.Past{Known: []string{progress.All}},
		Parties: []plan.Party{{Lane: moves.Middle, People: 1, Body: plan.DefaultBody, Stature: plan.DefaultStature}},
	}
}

// Every shape is entered exactly as it is run, reads back as it was written, and comes to
// what was worked by hand: times of sets and blocks, counts with both ends, sides, parts.
func TestShapes(t *testing.T) {
	lib := moves.Standard()
	for _, s := range shapes(t) {
		d, first := s.document(t, lib)
		require.NoError(t, d.Check(lib), s.Name)
		kept, err := circuit.Encode(d)
		require.NoError(t, err)
		read, err := circuit.Decode(kept)
		require.NoError(t, err)
		assert.Equal(t, d, read, s.Name)

		p := plan.Look(d, s.context(t, lib))
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
	for _, s := range shapes(t) {
		d, _ := s.document(t, lib)
		o := plan.Look(d, s.context(t, lib)).Order
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
	for _, s := range shapes(b) {
		x, first := s.document(b, lib)
		if d.V == 0 {
			d, c = x, s.context(b, lib)
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
			stock := s.stock(b)
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
