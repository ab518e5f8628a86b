// Package shapes holds fifteen sessions as people really run them, entered exactly, for the
// tests of whatever plans, runs and logs sessions.
package shapes

import (
	"cmp"
	_ "embed"
	"encoding/json"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
)

// Shape is a session as people really run it (common practice, no source), entered exactly,
// with totals worked by hand beside; why says how.
type Shape struct {
	Name, Why string
	Minutes   int
	// Bare has no prep, teaching and close that time themselves; Without lacks some of them.
	Bare    bool
	Without []circuit.Kind
	// Brief is what an instructor would ask for to get it, as the API takes it; its minutes,
	// and its pins' and blocks' kit, are the shape's.
	Brief        json.RawMessage
	Kit          []string
	Bags, Things map[string]measure.Mass
	Blocks       []Block
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

type Block struct {
	Kind   circuit.Kind
	Layout circuit.Layout
	After  measure.Span
	Scheme circuit.Scheme
	Slots  []Slot
}

type Slot struct {
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

//go:embed shapes.json
var file string

// All lists the fifteen shapes.
func All(t testing.TB) []Shape {
	var out []Shape
	dec := json.NewDecoder(strings.NewReader(file))
	dec.DisallowUnknownFields()
	require.NoError(t, dec.Decode(&out))
	require.Len(t, out, 15)
	return out
}

func (s Slot) entry(t testing.TB, lib *moves.Library) circuit.Entry {
	v, ok := lib.Get(s.Move)
	require.True(t, ok, s.Move)
	dose, err := circuit.ReadDose(s.Dose)
	require.NoError(t, err, s.Dose)
	e := circuit.Entry{
		Variant: s.Move, Hold: moves.NoLoad, Load: kit.Nothing, Anchors: []string{}, Dose: dose, Tempo: v.TempoWritten(),
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

// Document enters the shape, and gives where its first block stands.
func (s Shape) Document(t testing.TB, lib *moves.Library) (circuit.Document, int) {
	d := circuit.Document{V: circuit.DocumentVersion, LeadInMs: scheme.UsualLeadIn, Bans: []string{}}
	auto := func(kind circuit.Kind) {
		if !s.Bare && !slices.Contains(s.Without, kind) {
			d.Blocks = append(
				d.Blocks,
				circuit.Block{ID: d.FreeBlockID(), Kind: kind, Auto: true, Layout: circuit.Together},
			)
		}
	}
	auto(circuit.Prep)
	auto(circuit.Teach)
	first := len(d.Blocks)
	n := 0
	for _, b := range s.Blocks {
		x := circuit.Block{
			ID:      d.FreeBlockID(),
			Kind:    b.Kind,
			Layout:  cmp.Or(b.Layout, circuit.Together),
			AfterMs: b.After * measure.Second,
			Scheme:  &b.Scheme,
		}
		if x.Kind == "" {
			x.Kind = circuit.Work
		}
		for _, slot := range b.Slots {
			n++
			v, _ := lib.Get(slot.Move)
			y := circuit.Slot{
				ID:      circuit.SlotID(n),
				Pattern: v.Pattern,
				Waves:   1,
				Entries: map[people.Party]circuit.Entry{"middle": slot.entry(t, lib)},
			}
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

func (s Shape) Stock(t testing.TB) kit.Stock {
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
		out.Containers = append(
			out.Containers,
			kit.Container{ID: id, Mass: mass, Max: 20_000, Closed: true, Straps: true},
		)
	}
	for id, mass := range s.Things {
		out.Objects = append(
			out.Objects,
			kit.Object{
				ID:     id,
				Mass:   mass,
				Count:  60,
				Use:    cmp.Or(map[string]string{"bottle": kit.Grip}[id], kit.Pack),
				Traits: map[string][]string{"towel": {kit.Soft}}[id],
			},
		)
	}
	return out
}

func (s Shape) Context(t testing.TB, lib *moves.Library) plan.Context {
	return plan.Context{
		Library: lib, Stock: s.Stock(t), Minutes: s.Minutes, Past: progress.Past{Known: []string{progress.All}},
		Parties: []plan.Party{{Lane: moves.Middle, People: 1, Body: plan.DefaultBody, Stature: plan.DefaultStature}},
	}
}
