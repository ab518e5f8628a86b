package compose

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// Last week's session again is the same where the log says nothing; what was right goes up by
// a repetition, what hurt twice is gone with what stands for it, each said (rules of the log,
// house, by hand); a light set of a finisher stays.
func TestAgainByTheLog(t *testing.T) {
	b := brief(hall, lanes(0, 4, 0), 60, circuit.Reps)
	b.Goal = goal.Muscle
	b.Blocks = []Wanted{
		{Kind: circuit.Work, Scheme: "sets", Rounds: 3, Pins: []Pin{{Move: "goblet-squat"}, {Move: "one-arm-row"}, {Move: "romanian-deadlift"}}},
		{Kind: circuit.Finisher, Pins: []Pin{{Move: "goblet-squat"}}},
	}
	first := Propose(b)
	require.True(t, first.Feasible)
	c := b.Context
	same, notes := Again(first.Document, c, nil)
	unpinned := first.Document.Clone()
	assert.Equal(t, unpinned, same)
	assert.Empty(t, notes)

	day := c.Past.Day
	c.Past.Day = day + 7
	entry := func(d circuit.Document, move string) circuit.Entry {
		for _, s := range d.Slots() {
			if e := s.Entries["middle"]; e.Variant == move {
				return e
			}
		}
		return circuit.Entry{}
	}
	line := func(ago int, move string, planned, form int, pain progress.Pain, joint string) progress.Line {
		e := entry(first.Document, move)
		load, _ := hall.Mass(e.Load)
		reserve := 2
		return progress.Line{Day: c.Past.Day - ago, Lane: moves.Middle, Variant: move, Hold: e.Hold, Load: load,
			Set: strength.Set{Planned: planned, Done: form, InForm: form, Reserve: &reserve}, Pain: pain, Joint: joint}
	}
	row := entry(first.Document, "one-arm-row")
	c.Past.Lines = []progress.Line{
		line(14, "romanian-deadlift", 10, 10, progress.Joint, "low-back"), line(7, "romanian-deadlift", 10, 10, progress.Joint, "low-back"),
		line(7, "one-arm-row", row.Dose.Low, row.Dose.Low, progress.NoPain, ""),
	}
	next, notes := Again(first.Document, c, nil)
	require.NoError(t, next.Check(b.Library))
	assert.Equal(t, circuit.Times(row.Dose.Low+1), entry(next, "one-arm-row").Dose, "right: one more")
	assert.Equal(t, row.Load, entry(next, "one-arm-row").Load)
	assert.Empty(t, entry(next, "romanian-deadlift").Variant, "it hurt twice")
	assert.Equal(t, first.Document.Blocks[len(first.Document.Blocks)-2], next.Blocks[len(next.Blocks)-2], "the finisher stays")
	codes := []why.Code{}
	for _, n := range notes {
		codes = append(codes, n.Code)
	}
	assert.ElementsMatch(t, []why.Code{why.NoteByLog, why.NoteAgainSwap}, codes)
	for _, f := range plan.Look(next, c).Flags {
		assert.False(t, f.Wrong, "%s", f.Why.Code)
	}
}

// For other people in another place every party has something to do, what the place lacks is
// replaced, who is known by name keeps their own and the others do their lane's; nothing of it
// is over the kit or wrong.
func TestAgainElsewhere(t *testing.T) {
	for _, format := range []circuit.Format{circuit.Timed, circuit.Reps} {
		b := brief(hall, lanes(0, 4, 2), 45, format)
		p := Propose(b)
		require.True(t, p.Feasible)
		d := p.Document.Clone()
		s := &d.Blocks[workBlock].Slots[0]
		anna, otto := people.Party("a0000000000000000000000001"), people.Party("o0000000000000000000000001")
		s.Entries[anna], s.Entries[otto] = s.Entries["middle"], s.Entries["reach"]

		here := brief(kit.Stock{Implements: []kit.Implement{{ID: "one", Kind: kit.Kettlebell, Mass: 8000, Count: 9}}}, lanes(2, 3, 2), 45, format).Context
		now := people.Party("x0000000000000000000000001")
		here.Parties = append(here.Parties, plan.Party{Lane: moves.Middle, Participant: string(now), Who: "anna", People: 1, Body: plan.DefaultBody, Stature: plan.DefaultStature})
		next, notes := Again(d, here, map[people.Party]people.Party{anna: now})
		require.NoError(t, next.Check(b.Library))
		require.Equal(t, len(d.Slots()), len(next.Slots()))
		assert.Equal(t, []people.Party{now}, next.Participants(), "otto does his lane's")
		look := plan.Look(next, here)
		for i, x := range look.Slots {
			assert.Len(t, x.Cells, map[bool]int{true: 4, false: 3}[i == 0])
			assert.Empty(t, x.Shorts, "%s", x.Pattern)
			for _, cell := range x.Cells {
				assert.False(t, cell.Unknown, "%s of %s", cell.Entry.Variant, cell.Party)
				assert.Empty(t, cell.Faults, "%s of %s", cell.Entry.Variant, cell.Party)
			}
		}
		assert.True(t, slices.ContainsFunc(notes, func(w why.Why) bool { return w.Code == why.NoteAgainSwap }), "there is no bench, no band")
		again, _ := Again(next, here, map[people.Party]people.Party{now: now})
		assert.Equal(t, next, again, "once more it is the same")
	}
}
