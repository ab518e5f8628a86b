package compose

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
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
