package compose

import (
	"fmt"
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
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// flats are cupboards with next to nothing, a bag of tins, and water in every size.
var flats = map[string]kit.Stock{
	"bare": {},
	"tins": {Objects: []kit.Object{{ID: "tin", Mass: 455, Count: 24, Use: kit.Pack}}, Containers: []kit.Container{{ID: "bag", Mass: 800, Max: 12_000, Closed: true, Straps: true}}},
	"water": {Objects: []kit.Object{{ID: "can", Mass: 5200, Empty: 200, Step: 50, Count: 2, Use: kit.Grip}, {ID: "bottle", Mass: 1530, Empty: 30, Step: 50, Count: 6, Use: kit.Grip}},
		Containers: []kit.Container{{ID: "bag", Mass: 800, Max: 15_000, Closed: true, Straps: true}}},
	"two bags": {Objects: []kit.Object{{ID: "tin", Mass: 455, Count: 40, Use: kit.Pack}}, Containers: []kit.Container{
		{ID: "bag", Mass: 800, Max: 15_000, Closed: true, Straps: true}, {ID: "duffel", Mass: 600, Max: 10_000, Closed: true}}},
	"one bell": {Implements: []kit.Implement{{ID: "kb", Kind: kit.Kettlebell, Mass: 8000, Count: 1}}},
}

// Whoever goes home with a class gets, from any cupboard, a document that can be run:
// loads that are there and may be held so, substitutes that are as hard as is said, and
// a note for every move that is another.
func TestTakeHomeFromAnyCupboard(t *testing.T) {
	said := 0
	for _, format := range []circuit.Format{circuit.Timed, circuit.Reps} {
		d := single(Propose(brief(hall, lanes(5, 5, 2), 45, format)).Document)
		for name, stock := range flats {
			for _, lane := range moves.Lanes {
				home := plan.Context{Library: moves.Standard(), Stock: stock, Parties: []plan.Party{{Lane: lane, People: 1, Body: plan.DefaultBody, Stature: plan.DefaultStature}}, Minutes: 45}
				out, notes := TakeHome(d.Document(), home)
				what := fmt.Sprintf("%s %s %s", format, name, lane)
				require.NoError(t, out.Check(home.Library), what)
				swapped := map[string]bool{}
				for _, n := range notes {
					if n.Code == why.NoteHomeSwap {
						swapped[term(n, "to").Text] = true
					}
				}
				assert.Empty(t, plan.Repacked(out), what)
				said = max(said, len(slices.DeleteFunc(slices.Clone(notes), func(w why.Why) bool { return w.Code != why.NotePackedOnce })))
				byID := map[string]circuit.Slot{}
				for _, s := range d.Slots {
					byID[s.ID] = s
				}
				for _, s := range plan.Look(out, home).Slots {
					e := s.Cells[0].Entry
					assert.Empty(t, s.Shorts, what)
					assert.Empty(t, s.Cells[0].Faults, "%s: nothing that is not allowed goes home: %s", what, e.Variant)
					assert.False(t, s.Cells[0].Unknown, what)
					v, _ := home.Library.Get(e.Variant)
					was := byID[s.ID].Entries[people.OfLane(lane)].Variant
					assert.True(t, e.Variant == was || swapped[e.Variant], "%s: %s in place of %s is said", what, e.Variant, was)
					if e.Load.Kind == kit.Made {
						assert.False(t, v.Overhead || v.OverFace || v.Ballistic, what)
						assert.LessOrEqual(t, s.Cells[0].LoadG, measure.Mass(15_000), what)
					}
					if lane == moves.Ground && v.OnOneLeg() {
						assert.Zero(t, s.Cells[0].LoadG, what)
					}
				}
			}
		}
	}
	assert.Equal(t, 2, said, "of two bags both are said")
}

func term(w why.Why, name string) why.Term {
	for _, x := range w.Terms {
		if x.Name == name {
			return x
		}
	}
	return why.Term{}
}

// What could stand in a slot comes best first by the ranking of substitutes, and says
// what it loses and gains: a one-leg hinge takes balance and gives up grip.
func TestAlternativesSayWhatIsLost(t *testing.T) {
	b := brief(hall, lanes(5, 5, 2), 45, circuit.Reps)
	d := single(Propose(b).Document)
	for i, s := range d.Slots {
		if s.Pattern == moves.Hinge {
			v, _ := b.Library.Get("romanian-deadlift")
			d.Slots[i].Entries["middle"] = circuit.Entry{Variant: v.ID, Hold: "hung-one", Load: kit.Load{Kind: kit.Implements, Item: "kb16", Count: 1}, Anchors: []string{}, Dose: circuit.Times(10), Tempo: v.Tempo, Sides: scheme.BothSides}
			o, ok := OptionsFor(d.Document(), b.Context, s.ID, "middle")
			require.True(t, ok)
			wish := choice.Usual(v, "hung-one", choice.Party{Lane: moves.Middle, Body: plan.DefaultBody, Stature: plan.DefaultStature})
			wish.Load = 16_000
			ranked := choice.Substitutes(b.class(0), wish, 200)
			place := map[string]int{}
			for n, x := range ranked {
				if _, had := place[x.Variant.ID]; !had {
					place[x.Variant.ID] = n
				}
			}
			last, unranked := -1, false
			for _, a := range o.Moves {
				if len(a.Faults) > 0 {
					unranked = true // what would not be proposed comes last, with its caution
					continue
				}
				n, is := place[a.Entry.Variant]
				if !is {
					unranked = true
					continue
				}
				assert.False(t, unranked, "%s comes after what is not ranked", a.Entry.Variant)
				assert.Greater(t, n, last, a.Entry.Variant)
				last = n
				if a.Entry.Variant == "staggered-deadlift" {
					assert.Contains(t, a.Gained, "balance")
					assert.Contains(t, a.Gained, "sides")
					assert.Contains(t, a.Lost, "grip")
				}
			}
			assert.GreaterOrEqual(t, last, 0)
			return
		}
	}
	t.Fatal("the class has no hinge")
}
