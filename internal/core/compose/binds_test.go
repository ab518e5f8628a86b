package compose

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
)

// regular is somebody of the middle lane of whom only their log is known.
func regular(b *Brief, who string) people.Party {
	p := plan.Party{Lane: moves.Middle, Participant: who, Who: "person " + who, People: 1, Body: 75_000, Stature: 1750}
	standing(&p, people.Facts{})
	b.Parties = append(b.Parties, p)
	return p.ID()
}

// squatOf is what somebody does in the place for a squat, and its load.
func squatOf(t *testing.T, b Brief, d circuit.Document, who people.Party) (circuit.Entry, measure.Mass) {
	for _, s := range d.Slots() {
		if s.Pattern == moves.Squat {
			e, ok := s.Of(who, moves.Middle)
			require.True(t, ok)
			x, ok := b.ChoiceOf(e)
			require.True(t, ok)
			return e, x.Total
		}
	}
	t.Fatal("there is no squat")
	return circuit.Entry{}, 0
}

// A regular goes from 12 to 16 kg in the goblet squat (rules of the log and of the step, worked in
// them: iron +33 %, an allowed step): as planned it is one repetition more a class up to one over
// the range; twice over it the next load comes, for the low end; there it goes on. Who does as
// their lane does stays with it, and the other of the two is moved by none of it.
func TestRegularFromTwelveToSixteen(t *testing.T) {
	b := brief(hall, lanes(0, 3, 0), 45, circuit.Reps)
	b.Pins = []Pin{{Move: "goblet-squat"}}
	goes, stays := regular(&b, "00000000000000000000000001"), regular(&b, "00000000000000000000000002")
	log := func(who people.Party, load measure.Mass, reps, left int) {
		l := progress.Line{Day: b.Past.Day, Lane: moves.Middle, Who: "person " + string(who), Named: true, Variant: "goblet-squat", Hold: "goblet", Load: load, Pain: progress.NoPain}
		l.Planned, l.Done, l.InForm, l.Reserve = reps, reps, reps, &left
		b.Past.Lines = append(b.Past.Lines, l)
	}
	var loads []measure.Mass
	var reps []int
	b.Past.Day = 1
	log(goes, 12_000, 11, 2)
	log(stays, 12_000, 11, 0)
	for range 6 {
		b.Past.Day += 7
		p := Propose(b)
		require.True(t, p.Feasible)
		e, load := squatOf(t, b, p.Document, goes)
		require.Equal(t, "goblet-squat", e.Variant)
		loads, reps = append(loads, load), append(reps, e.Dose.High)
		log(goes, load, e.Dose.High, 2)
		_, still := squatOf(t, b, p.Document, stays)
		assert.Equal(t, measure.Mass(12_000), still, "at the limit: the same again")
		log(stays, still, 11, 0)
	}
	assert.Equal(t, []measure.Mass{12_000, 12_000, 12_000, 16_000, 16_000, 16_000}, loads)
	assert.Equal(t, []int{12, 13, 13, 8, 9, 10}, reps)
}

// Pain that somebody logged makes the next plan another for them and for nobody else; again in
// eight weeks, they are given nothing that asks anything of the joint; set aside, it is back.
func TestPainThenClearedThenBack(t *testing.T) {
	b := brief(hall, lanes(0, 4, 0), 45, circuit.Timed)
	b.Pins = []Pin{{Move: "goblet-squat"}}
	hurt, other := regular(&b, "00000000000000000000000001"), regular(&b, "00000000000000000000000002")
	b.Past.Day = 30
	line := func(day int, move string) {
		l := progress.Line{Day: day, Lane: moves.Middle, Who: "person " + string(hurt), Named: true, Variant: move, Hold: "goblet", Load: 12_000, Pain: progress.Joint, Joint: "knee"}
		l.Planned, l.Done, l.InForm = 10, 5, 5
		b.Past.Lines = append(b.Past.Lines, l)
	}
	asks := func(d circuit.Document, who people.Party) (most int, all []string) {
		for _, s := range d.Slots() {
			if e, ok := s.Of(who, moves.Middle); ok {
				v, _ := b.Library.Get(e.Variant)
				most, all = max(most, v.Demands["knee"]), append(all, v.ID)
			}
		}
		return most, all
	}
	_, fine := asks(Propose(b).Document, hurt)
	require.Contains(t, fine, "goblet-squat")
	line(23, "goblet-squat")
	p := Propose(b)
	_, given := asks(p.Document, hurt)
	assert.NotContains(t, given, "goblet-squat", "out next time")
	_, others := asks(p.Document, other)
	assert.Contains(t, others, "goblet-squat")
	line(26, "split-squat")
	p = Propose(b)
	most, given := asks(p.Document, hurt)
	assert.Zero(t, most, "spared altogether: %v", given)
	_, others = asks(p.Document, other)
	assert.Contains(t, others, "goblet-squat")
	out := slices.IndexFunc(plan.Decisions(p.Document, b.Context), func(d plan.Decided) bool { return d.Party == hurt && d.Advice == progress.OffPlan })
	require.GreaterOrEqual(t, out, 0)
	said := plan.Decisions(p.Document, b.Context)[out]
	assert.Equal(t, []string{"knee"}, said.What, "what is set aside once they are cleared")
	moved := plan.WhoMoves(plan.Decisions(p.Document, b.Context))
	assert.Contains(t, moved, plan.Moved{Way: plan.UntilCleared, Party: hurt, Moves: []string{"split-squat", "goblet-squat"}, Joints: []string{"knee"}})
	b.Overruled = []circuit.Overruled{{Party: hurt, What: "knee"}}
	_, given = asks(Propose(b).Document, hurt)
	assert.Contains(t, given, "goblet-squat", "back")
}
