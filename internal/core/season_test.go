package core_test

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/compose"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/run"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

// The racks of the eight weeks: enough of everything, so that loads follow from people alone.
var racks = map[string]kit.Stock{
	"kg": rack(4000, 6000, 8000, 10_000, 12_000, 16_000, 20_000, 24_000, 28_000, 32_000),
	"lb": rack(2268, 4536, 6804, 9072, 11_340, 13_608, 15_876, 20_412),
}

func rack(loads ...measure.Mass) kit.Stock {
	var s kit.Stock
	for _, g := range loads {
		s.Implements = append(s.Implements,
			kit.Implement{ID: fmt.Sprint("kb", g), Kind: kit.Kettlebell, Mass: g, Count: 12},
			kit.Implement{ID: fmt.Sprint("db", g), Kind: kit.DumbbellPair, Mass: g, Count: 8})
	}
	s.Implements = append(s.Implements,
		kit.Implement{ID: "bench", Kind: kit.Bench, Count: 8, Height: 430, Rated: 300_000},
		kit.Implement{ID: "box", Kind: kit.Box, Count: 8, Height: 450, Rated: 300_000})
	return s
}

// member is somebody with a true strength that grows, and a way of telling of it.
type member struct {
	plan.Party
	more   int     // repetitions that they have over what their first load asks for
	grow   float64 // a class
	under  int     // repetitions left that they do not tell of
	silent bool
	absent func(class int) bool
	hurts  map[int]string // joints, by class
	index  map[string]float64
}

// able is what somebody has on a move's ladder: a resistance index in grams that grows from class
// to class, from what the starting load of its first move asks of them.
func (m *member) able(v *moves.Variant, asked progress.Asked, class int) float64 {
	key := cmp.Or(v.Ladder, v.ID)
	if !progress.Gauged(v) {
		key = v.ID // presses and rows go by the iron of each
	}
	if m.index[key] == 0 {
		h, _ := moves.HoldOf(asked.Hold)
		start := strength.Starting(v, max(1, h.Count), m.Lane, m.Body, m.Stature).Total
		at, _ := v.Resistance.Resist(m.Body, measure.Grams(max(start, float64(asked.LoadG))), v.Setting())
		r := max(float64(asked.ComparableG), at.Comparable)
		m.index[key], _ = strength.IndexOf(10+strength.UsualReserve+m.more, r)
		m.index[key] /= math.Pow(m.grow, float64(class))
	}
	return m.index[key] * math.Pow(m.grow, float64(class))
}

// point is a class of one person's move: what they held, and the lightest and heaviest that are
// right for their true strength, for the high end and the low end of the range with two left, as
// places on the rack; what was asked and what they could have done.
type point struct {
	class, held, least, most int
	reps, can                int
}

type course struct {
	who, move string
	points    []point
}

// season lets people train for eight weeks, two classes a week with an easier fourth week, and
// gives the courses of their loads.
func season(t *testing.T, members []*member, stock kit.Stock) []course {
	lanes := map[moves.Lane]int{}
	for _, m := range members {
		lanes[m.Lane]++
	}
	b := compose.Brief{Format: circuit.Reps, Context: plan.Context{
		Library: moves.Standard(), Stock: stock, Minutes: 45,
		Past: progress.Past{Known: []string{progress.All}},
	}}
	for _, l := range moves.Lanes {
		b.Parties = append(b.Parties, plan.Party{Lane: l, People: lanes[l], Body: plan.DefaultBody, Stature: plan.DefaultStature})
	}
	courses := map[string]*course{}
	var order []string
	for class := range 16 {
		b.Past.Day = 1 + class/2*7 + class%2*3
		easier := class/2%4 == 3
		day := circuit.Day{}
		b.Parties = b.Parties[:3]
		for _, m := range members {
			st := people.Facts{}.On(b.Past.Day, b.Library, m.Stature)
			m.Standing = &st
			b.Parties = append(b.Parties, m.Party)
			if m.absent(class) {
				day.Absent = append(day.Absent, m.ID())
			}
		}
		p := compose.Propose(b)
		require.True(t, p.Feasible, "class %d", class)
		look := plan.Look(p.Document, b.Context)
		for _, f := range look.Flags {
			assert.NotContains(t, []why.Code{why.FaultSpared, why.FaultHurt, why.FaultHeldAtGround}, f.Why.Code, "class %d: %v", class, f.Why)
		}
		slots := run.Logged(run.Slots(p.Document, look))
		for _, lane := range moves.Lanes {
			for _, a := range run.Asked(slots, people.OfLane(lane), lane) {
				b.Past.Lines = append(b.Past.Lines, progress.LineOf(b.Past.Day, lane, "", a,
					progress.Written{Done: a.Reps, InForm: a.Reps, Pain: progress.NoPain}))
			}
		}
		for _, m := range members {
			if m.absent(class) {
				continue
			}
			b.Past.Present = append(b.Past.Present, progress.Presence{Day: b.Past.Day, Lane: m.Lane, Who: m.Who})
			for _, a := range run.Asked(slots, m.ID(), m.Lane) {
				v, _ := b.Library.Get(a.Variant)
				w := progress.Written{Done: a.Reps, InForm: a.Reps, Pain: progress.NoPain}
				if len(v.Resistance.Heights) == 0 && a.ComparableG > 0 { // a lane's is its own body's
					r, err := v.Resistance.Resist(m.Body, a.LoadG, v.Setting())
					require.NoError(t, err)
					a.ComparableG = measure.Grams(r.Comparable)
				}
				if a.ComparableG > 0 && a.Counted == "" && a.Reps > 0 {
					strong := m.able(v, a, class)
					can := strength.AbleAt(strong, float64(a.ComparableG))
					w.Done = min(a.Reps, max(1, can))
					w.InForm = w.Done
					if left := can - w.Done; !m.silent {
						told := max(0, min(left, 6)-m.under)
						w.Reserve = &told
					}
					if v.Start != nil && !(m.Lane == moves.Ground && v.OnOneLeg()) { // Ground carries nothing there
						key := m.Who + " " + a.Variant + " " + string(a.Hold)
						if courses[key] == nil {
							courses[key] = &course{who: m.Who, move: a.Variant}
							order = append(order, key)
						}
						loads, _ := choice.Loads(stock, v, a.Hold)
						loads = append(loads, 0)
						slices.Sort(loads)
						loads = slices.Compact(loads)
						least, most := 0, 0
						for i, load := range loads {
							r, _ := v.Resistance.Resist(m.Body, load, v.Setting())
							if able := strength.AbleAt(strong, r.Comparable); able >= v.RepsHigh+strength.UsualReserve {
								least, most = i, i
							} else if able >= v.RepsLow+strength.UsualReserve {
								most = i
							}
						}
						courses[key].points = append(courses[key].points,
							point{class, slices.Index(loads, a.LoadG), least, most, a.Reps, can})
					}
				}
				if j := m.hurts[class]; j != "" && v.Demands[j] >= 2 {
					w.Pain, w.Joint = progress.Joint, j
				}
				l := progress.LineOf(b.Past.Day, m.Lane, m.Who, a, w)
				l.Named, l.Aside = true, l.Aside || easier
				b.Past.Lines = append(b.Past.Lines, l)
			}
		}
		b.Past.Last = append([][]progress.Used{p.Document.UsedBy(func(id people.Party) (moves.Lane, string) {
			if lane, ok := id.Lane(); ok {
				return lane, ""
			}
			for _, m := range members {
				if m.ID() == id {
					return m.Lane, m.Who
				}
			}
			return "", ""
		})}, b.Past.Last...)
		b.Past.Last = b.Past.Last[:min(len(b.Past.Last), progress.LastClasses)]
	}
	var out []course
	for _, key := range order {
		out = append(out, *courses[key])
	}
	return out
}

// members are seeded: bodies, strength, growth, how they tell of it, when they are away, what
// hurts.
func members(seed uint64) []*member {
	r := rand.New(rand.NewPCG(seed, 16))
	var out []*member
	for i := range 9 {
		m := &member{
			Party: plan.Party{
				Lane: moves.Lanes[i%3], Participant: fmt.Sprintf("%026d", i), Who: fmt.Sprint("who", i), People: 1,
				Body: measure.Mass(52_000 + r.IntN(45)*1000), Stature: measure.Length(1550 + r.IntN(35)*10),
			},
			more: r.IntN(5) - 1, grow: 1 + (0.3+0.7*r.Float64())/100, index: map[string]float64{}, hurts: map[int]string{},
		}
		switch i {
		case 3, 4:
			m.under = 2
		case 5, 6:
			m.silent = true
		}
		away := r.IntN(14)
		m.absent = func(class int) bool { return class > 1 && i%4 == 1 && class%5 == away%5 }
		if i == 7 {
			m.hurts[4+r.IntN(3)] = []string{"knee", "shoulder", "hip"}[r.IntN(3)]
		}
		if i == 8 {
			j := []string{"knee", "shoulder", "hip"}[r.IntN(3)]
			m.hurts[3], m.hurts[8] = j, j
		}
		out = append(out, m)
	}
	return out
}

// Eight weeks of people whose true strength grows, honest, under-reporting and silent, with pain,
// absences and an easier week, on racks in kg and lb (house; the model of strength is the one that
// the plan reckons with). From the fourth session of a move on what is held is right within one
// bell, nine times of ten; who tells less than they have, or of a step that has to be bridged, is
// never more than three behind. Nothing oscillates: a load goes back at most once. Nothing runs
// away: nobody is given a set of which they cannot do two thirds. Nothing locks: load, move or
// repetitions go on while four and more are left. Nobody is given what they are to be spared.
func TestEightWeeks(t *testing.T) {
	for _, unit := range []string{"kg", "lb"} {
		for seed := range uint64(2) {
			all := members(seed)
			courses := season(t, all, racks[unit])
			drawn(t, fmt.Sprintf("season-%s-%d", unit, seed), courses)
			sessions, right := 0, 0
			for _, c := range courses {
				says := func(i int) string {
					return fmt.Sprintf("%s %d: %s %s at %d: %+v", unit, seed, c.who, c.move, i, c.points)
				}
				turns, last, same := 0, 0, 0
				for i, p := range c.points {
					assert.GreaterOrEqual(t, 3*p.can, 2*p.reps, says(i))
					if i > 0 {
						was := c.points[i-1]
						step := p.held - was.held
						assert.LessOrEqual(t, step, 1, says(i))
						if step != 0 {
							if step*last < 0 {
								turns++
							}
							last = step
						}
						if same++; step != 0 || p.reps != was.reps || p.can < p.reps+4 {
							same = 0
						}
						// A bridge is three weeks of two sessions, and the rules' readiness before it.
						assert.LessOrEqual(t, same, 9, says(i))
					}
					if i < 3 {
						continue
					}
					sessions++
					off := max(p.least-p.held, p.held-p.most)
					assert.LessOrEqual(t, off, 3, says(i))
					if off <= 1 {
						right++
					}
				}
				assert.LessOrEqual(t, turns, 1, says(len(c.points)))
			}
			t.Logf("%s %d: %d of %d sessions within one bell", unit, seed, right, sessions)
			assert.GreaterOrEqual(t, 10*right, 9*sessions)
		}
	}
}

// drawn draws courses into a file that somebody looks at, where NIMBLEANVIL_LOOK names a folder:
// what is held as a line, what is right as bars.
func drawn(t *testing.T, name string, courses []course) {
	folder := os.Getenv("NIMBLEANVIL_LOOK")
	if folder == "" {
		return
	}
	var svg strings.Builder
	const w, h, across = 210, 120, 6
	n := 0
	for _, c := range courses {
		if len(c.points) < 4 {
			continue
		}
		x, y := n%across*w, n/across*h
		n++
		fmt.Fprintf(&svg, `<g transform="translate(%d %d)"><text x="6" y="14" font-size="11">%s %s</text><polyline fill="none" stroke="teal" stroke-width="2" points="`, x, y, c.who, c.move)
		at := func(p point, place int) (int, int) { return 10 + p.class*12, 110 - place*8 }
		for _, p := range c.points {
			px, py := at(p, p.held)
			fmt.Fprintf(&svg, "%d,%d ", px, py)
		}
		svg.WriteString(`"/>`)
		for _, p := range c.points {
			px, low := at(p, p.least)
			_, high := at(p, p.most)
			fmt.Fprintf(&svg, `<path d="M%d %dV%d" stroke="#a83c16" stroke-width="3" stroke-opacity=".4"/>`, px, low+2, high-2)
		}
		svg.WriteString("</g>")
	}
	out := fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" width="%d" height="%d"><rect width="100%%" height="100%%" fill="white"/>%s</svg>`, w*across, (n/across+1)*h, svg.String())
	require.NoError(t, os.WriteFile(filepath.Join(folder, name+".svg"), []byte(out), 0o600))
}
