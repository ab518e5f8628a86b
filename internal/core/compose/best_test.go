package compose

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/room"
	"nimbleanvil/internal/core/why"
)

// drawStock makes a small hall.
func drawStock(t *rapid.T) kit.Stock {
	s := kit.Stock{}
	for i := range rapid.IntRange(0, 5).Draw(t, "rows") {
		kind := rapid.SampledFrom([]string{kit.Kettlebell, kit.DumbbellPair, kit.Bench, kit.Box, kit.Band}).Draw(t, "kind")
		x := kit.Implement{ID: fmt.Sprintf("i%d", i), Kind: kind, Count: rapid.IntRange(1, 5).Draw(t, "count")}
		if kind == kit.Kettlebell || kind == kit.DumbbellPair {
			x.Mass = measure.Mass(rapid.IntRange(2, 24).Draw(t, "kg") * 1000)
		}
		s.Implements = append(s.Implements, x)
	}
	return s
}

// For one place the best combination is the best of all combinations, tried one
// by one.
func TestCombineEqualsTryingEverything(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := func(name string) int { return rapid.IntRange(0, 6).Draw(t, name) }
		b := brief(drawStock(t), lanes(n("ground"), n("middle"), n("reach")+1), 45, rapid.SampledFrom([]circuit.Format{circuit.Timed, circuit.Reps}).Draw(t, "format"))
		pattern := rapid.SampledFrom([]moves.Pattern{moves.Squat, moves.Pull, moves.Lunge, moves.Hinge, moves.Bridge, moves.PushLevel}).Draw(t, "pattern")
		waves := rapid.IntRange(1, 3).Draw(t, "waves")
		c := b.composer(usualWork)
		cands, ok := c.allCandidates(pattern)
		require.True(t, ok)
		got, found := c.combine(cands, waves)

		best := math.Inf(1)
		pick := make([]int, len(c.parties))
		for {
			cost := c.objective.Wait * float64((waves-1)*len(c.parties))
			for i := range c.parties {
				cost += cands[i][pick[i]].cost
				for j := range i {
					if cands[j][pick[j]].entry.Variant == cands[i][pick[i]].entry.Variant {
						cost += c.objective.Same
					}
				}
			}
			a := allocation{composer: c, cands: cands, waves: waves, tally: room.Tally{}}
			fits := true
			for i := range pick {
				_, ok := a.take(i, cands[i][pick[i]])
				fits = fits && ok
				if !ok {
					break
				}
			}
			if fits {
				if _, apart := a.entries(pick); cost+apart < best {
					best = cost + apart
				}
			}
			i := 0
			for ; i < len(pick); i++ {
				if pick[i]++; pick[i] < len(cands[i]) {
					break
				}
				pick[i] = 0
			}
			if i == len(pick) {
				break
			}
		}
		require.Equal(t, !math.IsInf(best, 1), found)
		if found {
			assert.InDelta(t, best, got.total, 1e-9)
			assert.InDelta(t, best, got.cost.Total(), 1e-9, "by its terms")
		}
	})
}

// The minutes are filled as well as the grid allows: no choice of rounds, work
// and rest that really fits, by the running order itself, costs less.
func TestFillEqualsTryingEverything(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		format := rapid.SampledFrom([]circuit.Format{circuit.Timed, circuit.Reps}).Draw(t, "format")
		b := brief(hall, lanes(4, 4, 2), rapid.IntRange(12, 100).Draw(t, "minutes"), format)
		d := single(Propose(brief(hall, lanes(4, 4, 2), 60, format)).Document)
		d.Slots = d.Slots[:rapid.IntRange(2, 7).Draw(t, "slots")]
		c := b.composer(usualWork)
		got, cost, ok := c.fill(d, tryWork, usualRests)
		best := math.Inf(1)
		rounds := rapid.IntRange(1, c.mostRounds(d)).Draw(t, "rounds")
		pause := rapid.SampledFrom(tryRoundRest).Draw(t, "pause")
		for _, work := range tryWork {
			for _, rest := range usualRests {
				try := d
				try.Rounds, try.WorkMs, try.RestMs, try.RoundRestMs = rounds, work, rest, pause
				w := work
				if format == circuit.Reps {
					w = usualWork
				}
				if p := plan.Look(try.Document(), b.Context); p.Fits {
					best = min(best, House.Fill(b.Minutes, rounds, w, rest, pause, p.SlackMs).Total())
				}
			}
		}
		if !ok {
			assert.True(t, math.IsInf(best, 1))
			return
		}
		assert.True(t, plan.Look(got.Document(), b.Context).Fits)
		assert.LessOrEqual(t, cost.Total(), best+1e-9)
	})
}

// What an alternative promises is what happens: the class gets as much longer,
// the kit is as short, and the document stays one that may be saved.
func TestAlternativesKeepTheirWord(t *testing.T) {
	for _, format := range []circuit.Format{circuit.Timed, circuit.Reps} {
		b := brief(hall, lanes(5, 5, 2), 60, format)
		d := single(Propose(b).Document)
		// Something is set by hand: another load keeps it, another move does not.
		e := d.Slots[1].Entries["middle"]
		e.Tempo, e.Dose = "3-1-3-0", circuit.Times(11)
		d.Slots[1].Entries["middle"] = e
		before := plan.Look(d.Document(), b.Context)
		assert.Equal(t, before.TotalMs, plan.Length(d.Document(), b.Context))
		for i, slot := range d.Slots {
			for _, lane := range moves.Lanes {
				o, ok := OptionsFor(d.Document(), b.Context, slot.ID, people.OfLane(lane))
				require.True(t, ok)
				require.NotEmpty(t, o.Moves)
				for _, a := range slices.Concat(o.Moves, o.Loads) {
					keepsWord(t, b, d, before, i, lane, a)
				}
				for _, a := range o.Loads {
					assert.Equal(t, slot.Entries[people.OfLane(lane)].Tempo, a.Entry.Tempo)
					assert.Equal(t, slot.Entries[people.OfLane(lane)].Dose, a.Entry.Dose)
				}
			}
		}
	}
	b := brief(hall, lanes(5, 5, 2), 45, circuit.Timed)
	d := single(Propose(b).Document)
	_, ok := OptionsFor(d.Document(), b.Context, "nowhere", "middle")
	assert.False(t, ok)
}

func keepsWord(t *testing.T, b Brief, d circuit.Single, before plan.Plan, i int, lane moves.Lane, a Alternative) {
	id := d.Slots[i].ID
	next, _, err := circuit.Apply(d.Document(), []circuit.Op{{Kind: circuit.SetEntry, SlotID: id, Party: people.OfLane(lane), Entry: &a.Entry}}, b.Library)
	require.NoError(t, err, a.Entry.Variant)
	after := plan.Look(next, b.Context)
	assert.Equal(t, after.TotalMs-before.TotalMs, a.DeltaMs, "%s in %s", a.Entry.Variant, id)
	short := len(after.Slots[i].Shorts) > 0
	assert.Equal(t, short, a.Missing, "%s in %s", a.Entry.Variant, id)
	for _, c := range after.Slots[i].Cells {
		if c.Lane == lane {
			assert.Equal(t, a.LoadG, c.LoadG)
			flagged := slices.ContainsFunc(after.Flags, func(f plan.Flag) bool {
				return f.Slot == id && f.Wrong && f.Why.Code != why.FaultPattern && f.Why.Terms[0].Text == string(lane)
			})
			assert.True(t, len(a.Faults) > 0 || !flagged, "what the plan flags was cautioned: %s in %s", a.Entry.Variant, id)
		}
	}
}

// Light and heavy, short and tall, alone with one bell, a rucksack, or a full
// hall: no proposal breaks a limit. (Limits house; see docs/rules.md.)
func TestExtremesBreakNoLimit(t *testing.T) {
	kits := map[string]kit.Stock{
		"one 8 kg bell": {Implements: []kit.Implement{bell("kb8", 8000, 1)}},
		"rucksack only": {Objects: []kit.Object{{ID: "tin", Mass: 455, Count: 40, Use: kit.Pack}}, Containers: []kit.Container{{ID: "bag", Mass: 800, Max: 40_000, Closed: true, Straps: true}}},
		"full hall":     hall,
	}
	for name, stock := range kits {
		for _, mass := range []measure.Mass{45_000, 70_000, 120_000, 160_000} {
			for _, stature := range []measure.Length{1400, 1700, 2050} {
				for _, lane := range moves.Lanes {
					b := brief(stock, []plan.Party{{Lane: lane, People: 1, Body: mass, Stature: stature}}, 45, circuit.Timed)
					p := Propose(b)
					require.True(t, p.Feasible, name)
					look := checkProposal(t, b, p)
					for _, s := range look.Slots {
						checkLimits(t, b, s.Cells[0], mass)
					}
				}
			}
		}
	}
}

func checkLimits(t *testing.T, b Brief, c plan.Cell, body measure.Mass) {
	v, _ := b.Library.Get(c.Entry.Variant)
	h, _ := moves.HoldOf(c.Entry.Hold)
	if most := v.Ceiling(h.Count); most > 0 {
		assert.LessOrEqual(t, c.LoadG, most, "%s is over its ceiling", v.ID)
	}
	if c.Entry.Load.Kind == kit.Made {
		assert.LessOrEqual(t, c.LoadG, kit.MaxBag)
		assert.False(t, v.Overhead || v.OverFace || v.Ballistic)
	}
	if c.Lane == moves.Ground && v.OnOneLeg() {
		assert.Zero(t, c.LoadG)
	}
	if c.IronPct > 0 {
		assert.Equal(t, v.TempoOf(), c.Entry.ReadTempo(), "no slower tempo on a load that is already over")
	}
	assert.LessOrEqual(t, c.LoadG, body, "nobody holds more than themselves")
}
