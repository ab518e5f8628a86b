package compose

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// Whatever the goal and the template: what is proposed fits the minutes and the kit, answers
// to both, leaves out what is banned or to be spared, does no move twice, and what the
// template leaves out is not said to be missing.
func TestGoalsAndTemplates(t *testing.T) {
	for _, g := range goal.Goals {
		for _, template := range goal.Templates {
			for n, of := range []struct {
				minutes int
				bans    []string
			}{{20, nil}, {45, []string{"hinge"}}, {60, []string{"no-overhead"}}, {75, []string{"goblet-squat"}}} {
				b := brief(hall, lanes([]int{0, 2, 0, 1}[n], 4, 2), of.minutes, []circuit.Format{circuit.Timed, circuit.Reps}[n%2], of.bans...)
				b.Goal, b.Template, b.Pattern = g, template, []moves.Pattern{moves.Bridge, moves.Squat, moves.Pull, moves.Lunge}[n]
				name := fmt.Sprintf("%s, %s, %d minutes without %v", g, template, of.minutes, of.bans)
				p := Propose(b)
				require.True(t, p.Feasible, name)
				look := checkProposal(t, b, p)
				require.Equal(t, p.Document, Propose(b).Document, name)
				aim := goal.Of(g)
				seen := map[string]int{}
				for i, x := range p.Document.Blocks {
					for _, s := range x.Slots {
						for _, who := range []string{"middle", "reach"} {
							e := s.Entries[people.Party(who)]
							v, _ := b.Library.Get(e.Variant)
							assert.True(t, template.Allows(v), "%s: %s", name, v.ID)
							for _, ban := range of.bans {
								assert.NotContains(t, []string{string(v.Pattern), v.ID}, ban, name)
								assert.False(t, v.Breaks(moves.LimitID(ban), 0, true), "%s: %s", name, v.ID)
							}
							if template == goal.OnePattern {
								assert.Contains(t, b.Pattern.StandIns(), v.Pattern, name)
							}
							if x.Kind == circuit.Work && !template.Alternates() {
								seen[who+v.ID]++
								assert.Equal(t, 1, seen[who+v.ID], "%s: %s twice for %s", name, v.ID, who)
							}
							// What the aim gives, else what mends the load or ends with the other lane, within
							// the move's range.
							if usual := aim.Reps(v, choice.UsualReps(v), false); x.Is(scheme.Sets) && x.Kind == circuit.Work && !s.Pinned {
								assert.GreaterOrEqual(t, e.Dose.Low, min(usual, v.RepsLow), "%s: %s", name, v.ID)
								assert.LessOrEqual(t, e.Dose.High, max(usual, v.RepsHigh), "%s: %s", name, v.ID)
							}
							if role := x.Role(); role != strength.Alone && goal.Counts(v) {
								assert.LessOrEqual(t, e.Dose.High, max(strength.RoleReps[role], v.RepsHigh), "%s: %s", name, v.ID)
								assert.GreaterOrEqual(t, e.Dose.Low, v.RepsLow, "%s: %s", name, v.ID)
								assert.True(t, aim.Fills, name)
							}
						}
					}
					if x.Is(scheme.Sets) && x.Kind == circuit.Work {
						z := x.Scheme.Sets
						assert.Equal(t, scheme.Sets, aim.Scheme, name)
						assert.LessOrEqual(t, z.Sets, aim.SetsHigh, name)
						assert.True(t, z.RestMs >= aim.RestLow && z.RestMs <= aim.RestHigh, "%s: %d", name, z.RestMs)
						assert.True(t, g == goal.Lift || workBlock == i, "one main block")
					}
					if x.Is(scheme.Circuit) && aim.SetsHigh > 0 {
						c := x.Scheme.Circuit
						assert.True(t, c.Rounds >= aim.SetsLow && c.Rounds <= aim.SetsHigh, "%s: %d", name, c.Rounds)
						assert.True(t, c.RestMs >= aim.RestLow && c.RestMs <= aim.RestHigh, "%s: %d", name, c.RestMs)
					}
				}
				for _, f := range look.Flags {
					if !template.Alternates() {
						assert.NotContains(t, []why.Code{why.FlagNoPattern, why.FlagUneven, why.FlagLegsTwice}, f.Why.Code, name)
					}
				}
			}
		}
	}
}

// Goals by hand, for four of Middle in a hall with bells of 8, 12, 16 and 20 kg and an hour.
// The numbers are those of the table (goal.Of); which move stands there is argued beside.
func TestGoalsByHand(t *testing.T) {
	for _, c := range []struct {
		goal     goal.Goal
		template goal.Template
		want     string
	}{
		// Strength: sets of 6 at most where a load is carried, three minutes and more between
		// them; three sets of four moves are 36 minutes, a fifth move would leave two sets.
		// Legs carry something: of the bells there are four of 12 kg at most, and 9 kg in one
		// hand are nearer to what a front squat wants than 12 to a goblet squat.
		{goal.Strength, goal.Alternating, `sets 3 x, rest 180: one-arm-front-squat 9072 x6, one-arm-row 9072 x8, single-leg-floor-bridge 0 x8, push-up 0 x6`},
		// Muscle, legs: about ten, up to 90 s, three sets of five moves, no leg pattern missing;
		// one last light set of the two-legged move: of 12 kg for ten and two in reserve 10.08 kg
		// are left for eighteen and two (1 + n/30), the next down that is there for four is 9.072.
		{goal.Muscle, goal.Legs, `sets 3 x, rest 90: staggered-deadlift 8000 x8, reverse-lunge 9072 x10, single-leg-floor-bridge 0 x10, goblet-squat 12000 x10, toe-single-leg-deadlift 8000 x10
finisher: goblet-squat 9072 x18`},
		// In season: four rounds of twelve, as light as twelve want it.
		{goal.InSeason, goal.Alternating, `circuit 4 x, rest 10: staggered-deadlift 4536 x12, push-up 0 x12, lateral-lunge 2268 x12, one-arm-row 9072 x9, single-leg-floor-bridge 0 x12, plank 0 x12, goblet-squat 9072 x12`},
		// On the floor: nothing that stands.
		{goal.Endurance, goal.Floor, `circuit 3 x, rest 30: single-leg-floor-bridge 0 x12, push-up 0 x15, plank 0 x15, crab-reach-bridge 0 x11, reach-and-thread 0 x10, floor-press 8000 x12, side-plank 0 x8`},
	} {
		b := brief(hall, lanes(0, 4, 2), 60, circuit.Reps)
		b.Goal, b.Template = c.goal, c.template
		p := Propose(b)
		var lines []string
		for _, x := range p.Document.Blocks {
			if x.Scheme == nil {
				continue
			}
			var line []string
			for _, s := range x.Slots {
				e := s.Entries["middle"]
				m, _ := hall.Mass(e.Load)
				line = append(line, fmt.Sprintf("%s %d x%d", e.Variant, m, e.Dose.Low))
			}
			head := string(x.Kind)
			switch {
			case x.Kind == circuit.Finisher:
			case x.Is(scheme.Sets):
				head = fmt.Sprintf("sets %d x, rest %d", x.Scheme.Sets.Sets, x.Scheme.Sets.RestMs/measure.Second)
			case x.Is(scheme.Circuit):
				head = fmt.Sprintf("circuit %d x, rest %d", x.Scheme.Circuit.Rounds, x.Scheme.Circuit.RestMs/measure.Second)
			}
			lines = append(lines, head+": "+strings.Join(line, ", "))
		}
		assert.Equal(t, c.want, strings.Join(lines, "\n"), "%s, %s", c.goal, c.template)
	}
	b := brief(hall, lanes(0, 4, 2), 5, circuit.Reps)
	b.Goal = goal.Strength
	p := Propose(b)
	require.False(t, p.Feasible, "two sets with three minutes between are no matter of five minutes")
	require.Len(t, p.Relax, 1)
	b.Minutes = int(p.Relax[0].Terms[0].Value)
	require.True(t, Propose(b).Feasible)
	b.Minutes--
	require.False(t, Propose(b).Feasible)
}

// The other goals and templates by hand, for four of Middle in the same hall.
func TestTemplatesByHand(t *testing.T) {
	for _, c := range []struct {
		goal     goal.Goal
		template goal.Template
		format   circuit.Format
		minutes  int
		want     string
	}{
		// By the clock: Middle has four rounds at most, so the hour grows work and rest instead; 45 s
		// at 4 s are eleven; sides take turns by rounds, since half of 45 s is under eight a side.
		{goal.General, goal.Alternating, circuit.Timed, 60, `work circuit together 4 x 45/30: goblet-squat 12000 x11 both, one-arm-row 9072 x11 rounds, single-leg-floor-bridge 0 x9 rounds, push-up 0 x15 both, lateral-lunge 4536 x11 rounds, plank 0 x11 alternate, staggered-deadlift 4536 x11 rounds`},
		// Learn, on one leg: two sets at most, a side a set; of eight where the move's own range has
		// eight. Squats on one leg come by the log only. Each the house has its own of, by turns.
		{goal.Learn, goal.OneLeg, circuit.Reps, 60, `work sets waves 2 x, rest 120: one-leg-press 2268 x10 rounds, one-leg-bench-row 8000 x8 rounds, staggered-deadlift 8000 x8 rounds, reverse-lunge 9072 x8 rounds, single-leg-floor-bridge 0 x8 rounds, lateral-lunge 4536 x8 rounds, split-squat 9072 x8 rounds`},
		// One pattern: the four bridges that Middle may do here, none twice, and the last of both
		// legs once more for many.
		{goal.Muscle, goal.OnePattern, circuit.Reps, 60, `work sets waves 3 x, rest 45: single-leg-floor-bridge 0 x10 split, bench-hip-thrust 20000 x12 both, crab-reach-bridge 0 x10 alternate, single-leg-bench-hip-thrust 2268 x10 split
finisher sets together 1 x, rest 0: crab-reach-bridge 0 x18 alternate`},
		// Ready for a lift: the brace, squats with a working load towards the 25 of the gate, then
		// heavy and few with three minutes and more, the squat first.
		{goal.Lift, goal.Alternating, circuit.Reps, 60, `teach sets together 1 x, rest 0: brace-lesson 0 x10 both
work sets together 1 x, rest 180: goblet-squat 12000 x10-25 both
work sets together 3 x, rest 225: one-arm-front-squat 12000 x6 split, one-arm-row 12000 x8 split, single-leg-floor-bridge 0 x8 split`},
		// Twelve minutes less the lead-in are 710 s for six steps, of which two go down to the floor
		// and up (6 s each): 85 s each by whole fives, 40 a side and 5 to change.
		{goal.General, goal.WarmUp, circuit.Reps, 12, `prep sets together 1 x, rest 0: march-on-the-spot 85 s alternate, hip-lift-shift 85 s alternate, upper-back-opener 40 s split, arm-bar-turn 40 s split, rocking-ankle-drill 40 s split, called-footwork 85 s both`},
		// A teaching day: each move ten times or five a side, without a load where it can be done so,
		// and the same by the clock: twice, with a minute between, as learning has it; 40 s at 4 s are
		// ten, sides in turn by rounds.
		{goal.Learn, goal.Teaching, circuit.Timed, 60, `teach sets together 1 x, rest 0: goblet-squat 12000 x10 both, one-arm-row 9072 x5 split, single-leg-floor-bridge 0 x5 split, push-up 0 x10 both, reverse-lunge 0 x5 split, plank 0 x10 alternate, staggered-deadlift 0 x5 split
work circuit together 2 x 40/60: goblet-squat 12000 x10 both, one-arm-row 9072 x10 rounds, single-leg-floor-bridge 0 x8 rounds, push-up 0 x13 both, reverse-lunge 9072 x10 rounds, plank 0 x10 alternate, staggered-deadlift 8000 x10 rounds`},
		// Pairs: half works at once, so that two heavy dumbbells each do for the hinge of all four.
		{goal.General, goal.Pairs, circuit.Timed, 60, `work circuit partners 3 x 45/20: goblet-squat 12000 x11 both, one-arm-row 9072 x11 rounds, single-leg-floor-bridge 0 x9 rounds, push-up 0 x15 both, lateral-lunge 4536 x11 rounds, plank 0 x11 alternate, romanian-deadlift 18144 x11 both`},
	} {
		b := brief(hall, lanes(0, 4, 0), c.minutes, c.format)
		b.Goal, b.Template = c.goal, c.template
		if c.template == goal.OnePattern {
			b.Pattern = moves.Bridge
		}
		p := Propose(b)
		require.NoError(t, p.Document.Check(b.Library))
		var lines []string
		for _, x := range p.Document.Blocks {
			if x.Scheme == nil {
				continue
			}
			var line []string
			for _, s := range x.Slots {
				e := s.Entries["middle"]
				m, _ := hall.Mass(e.Load)
				dose := fmt.Sprintf("%d x%d", m, e.Dose.Low)
				switch {
				case e.Dose.Kind == circuit.Seconds:
					dose = fmt.Sprintf("%d s", e.Dose.Ms/measure.Second)
				case e.Dose.High > e.Dose.Low:
					dose = fmt.Sprintf("%d x%d-%d", m, e.Dose.Low, e.Dose.High)
				}
				line = append(line, fmt.Sprintf("%s %s %s", e.Variant, dose, e.Sides))
			}
			head := fmt.Sprintf("%s %s %s %d x", x.Kind, x.Scheme.Kind, x.Layout, x.Rounds())
			if z := x.Scheme.Sets; z != nil {
				head += fmt.Sprintf(", rest %d", z.RestMs/measure.Second)
			}
			if z := x.Scheme.Circuit; z != nil {
				head += fmt.Sprintf(" %d/%d", z.WorkMs/measure.Second, z.RestMs/measure.Second)
			}
			lines = append(lines, head+": "+strings.Join(line, ", "))
		}
		assert.Equal(t, c.want, strings.Join(lines, "\n"), "%s, %s", c.goal, c.template)
		assert.LessOrEqual(t, plan.Length(p.Document, b.Context), measure.Span(c.minutes)*measure.Minute)
	}
}

// Whatever the layout that is asked for, the goal, the people and the kit: a proposal is laid
// out so, fits its minutes and the kit as the layout has it in use, with nothing wrong; who is
// dealt to stations comes to each of them once a round; the same brief gives the same.
func TestLayoutsHold(t *testing.T) {
	made := 0
	for _, layout := range circuit.Layouts {
		for name, stock := range gridKits {
			for n, g := range []goal.Goal{goal.General, goal.Muscle, goal.InSeason} {
				people := [][3]int{{0, 4, 2}, {3, 5, 4}, {1, 0, 7}}[n]
				b := brief(stock, lanes(people[0], people[1], people[2]), []int{30, 45, 75}[n], []circuit.Format{circuit.Timed, circuit.Reps}[n%2])
				b.Goal, b.Layout = g, layout
				p := Propose(b)
				if !p.Feasible {
					assert.NotEqual(t, circuit.InWaves, layout, "%s, %s", name, g)
					continue
				}
				made++
				what := fmt.Sprintf("%s, %s, %s", layout, name, g)
				require.NoError(t, p.Document.Check(b.Library), what)
				if n == 0 {
					require.Equal(t, p.Document, Propose(b).Document, what)
				}
				look := plan.Look(p.Document, b.Context)
				assert.True(t, look.Fits, what)
				for _, x := range look.Slots {
					assert.Empty(t, x.Shorts, "%s: %s", what, x.Pattern)
				}
				for _, f := range look.Flags {
					assert.False(t, f.Wrong, "%s: %s", what, f.Why.Code)
				}
				for _, x := range p.Document.Blocks {
					if x.Kind == circuit.Work {
						assert.Equal(t, layout, x.Layout, what)
					}
				}
				for _, f := range look.Floors {
					all := 0
					for _, group := range f.Groups {
						all += len(group.Who)
					}
					assert.Equal(t, people[0]+people[1]+people[2], all, what)
				}
			}
		}
	}
	assert.Greater(t, made, 40)
}

// What muscle fills its minutes with, for four of Middle in an hour and a quarter of legs, by
// either school of loads. Working loads are those of about ten, held in front: split squat and
// forward lunge 9.072 kg, goblet squat 12. Reserve (1 + n/30, two kept): of 9.072 for fifteen
// 1.4 / 1.567 = 8.1 kg, of which 8 is there; of 12 for eighteen 1.4 / 1.667 = 10.08, of which
// 9.072 is. Percent: 60 % are 5.4 kg, 40 % of twelve 4.8: under both only 2.268 is there.
func TestFillsByHand(t *testing.T) {
	for school, want := range map[string]string{
		"reserve": "superset: split-squat 8000 x15, forward-lunge 8000 x15; finisher: goblet-squat 9072 x18; ",
		"percent": "superset: split-squat 2268 x15, forward-lunge 2268 x15; finisher: goblet-squat 2268 x18; ",
	} {
		b := brief(hall, lanes(0, 4, 0), 75, circuit.Reps)
		b.Library = b.Library.Styled(moves.Style{Studio: map[string]string{"loads": school}})
		b.Goal, b.Template = goal.Muscle, goal.Legs
		p := Propose(b)
		require.True(t, p.Feasible)
		var got strings.Builder
		for _, x := range p.Document.Blocks {
			var line []string
			for _, s := range x.Slots {
				e := s.Entries["middle"]
				m, _ := hall.Mass(e.Load)
				line = append(line, fmt.Sprintf("%s %d x%d", e.Variant, m, e.Dose.Low))
			}
			if x.Role() != strength.Alone {
				fmt.Fprintf(&got, "%s: %s; ", x.Role(), strings.Join(line, ", "))
			}
		}
		assert.Equal(t, want, got.String(), school)
		for _, f := range plan.Look(p.Document, b.Context).Flags {
			assert.NotContains(t, []why.Code{why.FlagFarTooLight, why.FlagShortEffort, why.FlagApart}, f.Why.Code)
		}
	}
	// Of the four leg patterns of twenty minutes two have their three sets.
	b := brief(hall, lanes(0, 4, 0), 20, circuit.Reps)
	b.Goal, b.Template = goal.Muscle, goal.Legs
	p := Propose(b)
	for _, pattern := range []moves.Pattern{moves.Bridge, moves.Squat} {
		assert.Contains(t, p.Notes, why.Of(why.NoteDropped, why.House, why.ID("pattern", string(pattern))))
	}
	// Two rounds at least where the goal asks for two, with fewer places.
	b.Goal = goal.Endurance
	d, _, _ := Propose(b).Document.Single()
	assert.Equal(t, 2, d.Rounds)
}
