package core_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/compose"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/golden"
)

// The tests of this file do not say what is right: they hold what was looked at and found
// right, for many classes, loads and histories drawn by a seed, so that no change of what
// people are told goes unseen. After a change that is meant, read the difference and run
// go test ./internal/core -approve.

func heavy(id, kind string, g measure.Mass, n int) kit.Implement {
	return kit.Implement{ID: id, Kind: kind, Mass: g, Count: n, Checked: true}
}

// places are kits from nothing to a hall, some with what does not quite fit.
var places = []struct {
	name  string
	stock kit.Stock
}{
	{"nothing", kit.Stock{}},
	{"one bell", kit.Stock{Implements: []kit.Implement{heavy("kb16", kit.Kettlebell, 16_000, 1)}}},
	{"hall", kit.Stock{Implements: []kit.Implement{
		heavy("kb8", kit.Kettlebell, 8000, 4), heavy("kb12", kit.Kettlebell, 12_000, 4), heavy("kb16", kit.Kettlebell, 16_000, 3),
		heavy("kb20", kit.Kettlebell, 20_000, 2), heavy("db5", kit.DumbbellPair, 2268, 4), heavy("db20", kit.DumbbellPair, 9072, 2),
		{ID: "bench", Kind: kit.Bench, Count: 2, Height: 430, Rated: 250_000, Checked: true}, {ID: "box", Kind: kit.Box, Count: 3, Height: 450, Rated: 150_000},
		{ID: "table", Kind: kit.Table, Count: 1, Height: 740, Checked: true, Table: body.Table{Kind: body.FourLegs, Mass: 40_000, In: 350, Out: 120}},
		{ID: "band", Kind: kit.Band, Count: 6},
	}}},
	{"rack in pounds", kit.Stock{Implements: []kit.Implement{
		heavy("b10", kit.Dumbbell, 4536, 2), heavy("b15", kit.Dumbbell, 6804, 2), heavy("b20", kit.Dumbbell, 9072, 2), heavy("b25", kit.DumbbellPair, 11_340, 1),
		{ID: "step", Kind: kit.Box, Count: 4, Height: 200, Rated: 200_000},
	}}},
	{"flat", kit.Stock{
		Implements: []kit.Implement{{ID: "chair", Kind: kit.Bench, Count: 2, Height: 450, Rated: 120_000, Checked: true}, heavy("kb6", kit.Kettlebell, 6000, 1)},
		Objects: []kit.Object{
			{ID: "tin", Mass: 455, Count: 24, Use: kit.Pack, Volume: 450}, {ID: "can", Mass: 5200, Count: 2, Use: kit.Grip, Volume: 5100},
			{ID: "bottle", Mass: 1530, Empty: 30, Step: 50, Count: 2, Use: kit.Grip, Volume: 1600}, {ID: "book", Mass: 980, Count: 6, Use: kit.Pack, Volume: 1500},
		},
		Containers: []kit.Container{
			{ID: "bag", Mass: 800, Max: 15_000, Volume: 20_000, Closed: true, Straps: true}, {ID: "tote", Mass: 300, Max: 8000, Volume: 12_000},
		},
	}},
}

func one[T any](r *rand.Rand, of []T) T { return of[r.IntN(len(of))] }

// drawnPast is what some weeks of classes left behind: lines of moves that a proposal for
// the same people would take, well done and badly.
func drawnPast(r *rand.Rand, lib *moves.Library, lanes []plan.Party) progress.Past {
	past := progress.Past{Day: 20_000}
	ids := []string{"squat", "goblet-squat", "push-up", "one-arm-row", "floor-bridge", "split-squat", "one-arm-press", "two-hand-swing", "romanian-deadlift", "lateral-lunge"}
	for week := 1 + r.IntN(9); week > 0; week-- {
		var used []progress.Used
		for _, l := range lanes {
			for range 1 + r.IntN(4) {
				v, _ := lib.Get(one(r, ids))
				x := progress.Line{Day: past.Day - 7*week, Lane: l.Lane, Variant: v.ID, Hold: one(r, v.Holds), Pain: progress.NoPain}
				x.Planned, x.Done = 8+r.IntN(5), 5+r.IntN(12)
				x.InForm = x.Done - r.IntN(3)
				if left := r.IntN(7) - 1; left >= 0 {
					x.Reserve = &left
				}
				if x.Hold != moves.NoLoad {
					x.Load = measure.Mass(2+r.IntN(10)) * 2000
				}
				switch r.IntN(20) {
				case 0:
					x.Pain, x.Joint = progress.Joint, one(r, append(v.Joints(), ""))
				case 1:
					x.Pain = progress.Burn
				case 2:
					x.TooLight = true
				}
				past.Lines = append(past.Lines, x)
				used = append(used, progress.Used{Lane: l.Lane, Move: v.ID})
			}
		}
		past.Last = append([][]progress.Used{used}, past.Last...)
	}
	past.Last = past.Last[:min(len(past.Last), progress.LastClasses)]
	return past
}

func drawnBrief(r *rand.Rand, lib *moves.Library) (b compose.Brief, name string) {
	at := one(r, places)
	for _, l := range moves.Lanes {
		x := plan.Party{Lane: l, People: one(r, []int{0, 1, 2, 4, 7}), Body: measure.Mass(45+r.IntN(80)) * 1000, Stature: measure.Length(150+r.IntN(50)) * 10}
		x.BodyUnknown = r.IntN(3) == 0
		b.Parties = append(b.Parties, x)
	}
	if b.Parties[0].People+b.Parties[1].People+b.Parties[2].People == 0 {
		b.Parties[1].People = 3
	}
	b.Library, b.Stock, b.Minutes = lib, at.stock, one(r, []int{12, 20, 30, 45, 45, 60, 90})
	b.Format = one(r, []circuit.Format{circuit.Timed, circuit.Reps})
	switch r.IntN(3) {
	case 0:
		b.Past = drawnPast(r, lib, b.Parties)
	case 1:
		b.Past = progress.Past{Day: 20_000, Known: []string{progress.All}}
	}
	if r.IntN(3) == 0 {
		b.Bans = append(b.Bans, string(one(r, moves.Limits())), one(r, []string{"lunge", "push-up", "hinge", "trunk-turn"}))
	}
	return b, fmt.Sprintf("%s, %d min %s", at.name, b.Minutes, b.Format)
}

// codes gives the codes of whys in a row.
func codes(all []why.Why) string {
	var out []string
	for _, w := range all {
		out = append(out, string(w.Code))
	}
	return strings.Join(out, " ")
}

// entry writes a lane's version in few words.
func entry(c plan.Cell) string {
	text := fmt.Sprintf("%s %s", c.Party, c.Entry.Variant)
	if c.LoadG > 0 {
		text += fmt.Sprintf(" %d g %s", c.LoadG, c.Entry.Hold)
	}
	return text + fmt.Sprintf(" x%d %s %s", c.PerSide, c.Entry.Tempo, c.Entry.Sides)
}

func TestApprovedClasses(t *testing.T) {
	out := golden.Begin(t, "testdata/classes.txt")
	lib := moves.Standard()
	for seed := range uint64(40) {
		r := rand.New(rand.NewPCG(seed, 11))
		b, name := drawnBrief(r, lib)
		p := compose.Propose(b)
		out.Say("%d: %s, %v: %s", seed, name, b.Bans, codes(p.Notes))
		if !p.Feasible {
			out.Say("  nothing fits: %s", golden.Digest(p.Relax))
			continue
		}
		d := p.Document
		look := plan.Look(d, b.Context)
		single, _, _ := d.Single()
		out.Say("  %d x %d/%d/%d, %d ms left, %s", single.Rounds, single.WorkMs, single.RestMs, single.RoundRestMs, look.SlackMs, golden.Digest([]any{look, p.Notes, p.Cost.Terms()}))
		for _, s := range look.Slots {
			var cells []string
			for _, c := range s.Cells {
				cells = append(cells, entry(c))
			}
			out.Say("  %s: %s", s.Pattern, strings.Join(cells, ", "))
		}
		// The same circuit a week on, when other people come with less kit and less time.
		other := b.Context
		other.Minutes -= 7
		other.Past = drawnPast(r, lib, b.Parties)
		other.Stock = one(r, places).stock
		d.Overruled = []circuit.Overruled{{Party: people.OfLane(one(r, moves.Lanes)), What: "goblet-squat"}, {Party: people.OfLane(one(r, moves.Lanes)), What: "knee"}}
		work := &d.Blocks[2]
		work.Scheme.Circuit.Rounds, work.Slots[0].Waves, work.Slots[0].New = 1+r.IntN(4), 1+r.IntN(3), r.IntN(2) == 0
		then := plan.Look(d, other)
		out.Say("  then: %d flags, %s, needs %s", len(then.Flags), golden.Digest([]any{then, plan.Decisions(d, other)}), codes(plan.Needs(&d, then, other)))
		for _, l := range b.Parties {
			slot := one(r, work.Slots)
			o, ok := compose.OptionsFor(d, b.Context, slot.ID, l.ID())
			if !ok || l.People == 0 {
				continue
			}
			first := ""
			for _, m := range o.Moves[:min(3, len(o.Moves))] {
				first += fmt.Sprintf(" %s %d,", m.Entry.Variant, m.LoadG)
			}
			out.Say("  instead of %s %s:%s %d moves, %d loads, %s", l.Lane, slot.Entries[people.OfLane(l.Lane)].Variant, first, len(o.Moves), len(o.Loads), golden.Digest(o))
			home := plan.Context{Library: lib, Stock: one(r, places).stock, Minutes: 30, Parties: []plan.Party{l}}
			home.Parties[0].People = 1
			at, notes := compose.TakeHome(d, home)
			out.Say("  at home: %s, %s", strings.Join(circuit.Moves(at), " "), golden.Digest([]any{at, notes}))
		}
		added, ok := compose.NewSlot(d, 2, b.Context, one(r, moves.Patterns))
		out.Say("  added: %v, %s", ok, golden.Digest(added))
	}
}

// Every move in every hold with some loads, for three bodies: what it asks, what it costs,
// what is wrong and what is to be asked.
func TestApprovedEntries(t *testing.T) {
	out := golden.Begin(t, "testdata/entries.txt")
	lib := moves.Standard()
	for n, at := range places {
		for k, lane := range moves.Lanes {
			party := choice.Party{Lane: lane, Body: []measure.Mass{52_000, 70_000, 104_000}[(n+k)%3], Stature: []measure.Length{1580, 1700, 1900}[(n+2*k)%3], BodyUnknown: k == 1}
			r := rand.New(rand.NewPCG(uint64(n), uint64(k)))
			c := choice.Class{Library: lib, Stock: at.stock, Past: drawnPast(r, lib, []plan.Party{{Lane: lane}})}
			if k == 2 {
				c.Work = 40 * measure.Second
			}
			if n%2 == 1 {
				c.Bans = []string{string(one(r, moves.Limits()))}
			}
			j := choice.For(c, party)
			out.Say("%s, %s, %d kg, %v", at.name, lane, party.Body/1000, c.Bans)
			for _, v := range lib.All() {
				var all []any
				best, faults, ok := j.Best(v)
				loads, hand := choice.Loads(at.stock, v, v.Holds[len(v.Holds)-1])
				all = append(all, ok, best.Hold, best.Load, best.Supports, faults, loads, hand, j.New(v), j.Starting(v), j.Taught(v), j.Fresh(v), j.Beside(v))
				entries := j.Entries(v)
				for _, e := range entries {
					reps := j.Reps(v)
					all = append(all, e.Hold, e.Load, e.Total, e.Supports, j.Cost(e), j.Reckon(e, reps), j.Why(e, j.Reckon(e, reps)), j.Dose(e), j.Faults(e), j.Asks(e), j.Checks(e), j.Left(e, reps, reps-2, v.TempoOf()))
				}
				// What nobody would propose, with the reasons.
				for _, id := range v.Holds {
					h, _ := moves.HoldOf(id)
					opts := at.stock.Options(v, h)
					if len(opts) == 0 {
						opts = []kit.Option{{Load: kit.Nothing}}
					}
					for _, o := range []kit.Option{opts[0], opts[len(opts)/2], opts[len(opts)-1]} {
						e := choice.Entry{Variant: v, Hold: id, Option: o, Supports: best.Supports}
						all = append(all, j.Faults(e), j.Asks(e), j.Reckon(e, 8))
					}
				}
				cost := 0.0
				if ok {
					cost = choice.Total(j.Cost(best))
				}
				out.Say("  %s: %d, best %d g at %.1f, %s %s", v.ID, len(entries), best.Total, cost, codes(faults), golden.Digest(all))
			}
			w := choice.Usual(lib.OfPattern(moves.Patterns[(3*n+k)%11])[0], "none", party)
			w.Hold, w.Load = one(r, w.Variant.Holds), measure.Mass(r.IntN(12)*2000)
			for _, s := range choice.Substitutes(c, w, 12) {
				out.Say("  instead of %s: %s %s %d g, %.1f %%, %s", w.Variant.ID, s.Way, s.Variant.ID, s.Total, s.LeftPct,
					golden.Digest([]any{s.Mend, s.Compared, s.Wanted, s.Reached, s.IronPct, s.ResistancePct, s.Lost, s.Gained, s.Check, s.Why, s.Supports}))
			}
		}
	}
}

// Loads of every place for every hold: what can be made, how it is made, what lies between.
func TestApprovedLoads(t *testing.T) {
	out := golden.Begin(t, "testdata/loads.txt")
	lib := moves.Standard()
	for _, at := range places {
		s := at.stock.Memoized()
		for _, v := range lib.All() {
			for _, id := range v.Holds {
				h, _ := moves.HoldOf(id)
				totals := s.Totals(v, h)
				if len(totals) == 0 {
					continue
				}
				var all []any
				for _, near := range []measure.Mass{1, 2268, 4999, 8000, 12_345, 20_000, 60_000} {
					o, ok := s.About(v, h, near)
					all = append(all, s.Near(v, h, near, 3), o, ok)
				}
				all = append(all, s.Options(v, h), s.Spaced(v, h, 5), kit.Gaps(totals))
				out.Say("%s: %s %s: %d from %d to %d g, %s", at.name, v.ID, id, len(totals), totals[0], totals[len(totals)-1], golden.Digest(all))
			}
		}
		for _, c := range s.Containers {
			supply, ok := s.Supply(c.ID, false)
			out.Say("%s: %s: %s", at.name, c.ID, golden.Digest([]any{supply, ok, s.WornAt(c.ID), s.PackingChecks(c.ID)}))
		}
	}
}

// Bridges from load to load for the moves that differ in how they climb.
func TestApprovedBridges(t *testing.T) {
	out := golden.Begin(t, "testdata/bridges.txt")
	lib := moves.Standard()
	for _, id := range []string{"goblet-squat", "one-arm-row", "one-arm-press", "two-hand-swing", "one-hand-swing", "romanian-deadlift", "split-squat", "bench-hip-thrust", "floor-press", "bent-over-row"} {
		v, ok := lib.Get(id)
		if !ok {
			continue
		}
		above, _ := lib.Above(v)
		for _, from := range []measure.Mass{2000, 4536, 8000, 12_000, 16_000} {
			for _, by := range []measure.Mass{500, 2000, 2268, 4000, 4536, 8000, 12_000} {
				for n, reps := range []int{8, 13, 16} {
					c := strength.Climb{Variant: v, Body: 70_000, From: from, To: from + by, RepsLow: v.RepsLow, RepsHigh: v.RepsHigh, LastReps: reps, SessionsOver: n, Reserve: 2, Sets: 3 * (n % 2), FarTooLight: n == 2, Above: above}
					if n == 1 {
						c.Between = []measure.Mass{from + by/3, from + by/2, from + by}
					}
					b := strength.Over(c)
					var weeks []string
					for _, w := range b.Weeks {
						weeks = append(weeks, fmt.Sprintf("%dx%d at %d %s", w.Sets, w.Reps, w.LoadG, w.By))
					}
					out.Say("%s %d-%d after %d: %v, %s, %s", id, from, from+by, reps, b.Reached, strings.Join(weeks, ", "), golden.Digest(b))
				}
			}
		}
	}
}

// What histories of a move lead to.
func TestApprovedDecisions(t *testing.T) {
	out := golden.Begin(t, "testdata/decisions.txt")
	lib := moves.Standard()
	lanes := []plan.Party{{Lane: moves.Ground}, {Lane: moves.Middle}, {Lane: moves.Reach}}
	for seed := range uint64(150) {
		r := rand.New(rand.NewPCG(seed, 5))
		past := drawnPast(r, lib, lanes)
		at := one(r, places)
		for _, l := range lanes {
			j := choice.For(choice.Class{Library: lib, Stock: at.stock, Past: past}, choice.Party{Lane: l.Lane, Body: 70_000, Stature: 1700})
			var said []string
			for _, d := range j.Decisions() {
				said = append(said, fmt.Sprintf("%s %s %d x%d", d.Move, d.Advice, d.Load, d.Reps))
			}
			for _, h := range j.Hurts() {
				said = append(said, fmt.Sprintf("%s hurts: out %v", h.Move, h.Out))
			}
			out.Say("%d %s: %s, %s", seed, l.Lane, strings.Join(said, ", "), golden.Digest([]any{j.Decisions(), j.Hurts()}))
		}
	}
}

// What the library says of every move beyond its card.
func TestApprovedMoves(t *testing.T) {
	out := golden.Begin(t, "testdata/moves.txt")
	lib := moves.Standard()
	for _, v := range lib.All() {
		var breaks []string
		for _, l := range moves.Limits() {
			if v.Breaks(l, 8000, false) {
				breaks = append(breaks, string(l))
			}
		}
		var all []any
		for _, l := range moves.Limits() {
			all = append(all, v.Breaks(l, 0, false), v.Breaks(l, 0, true), v.Breaks(l, 8000, true), v.Breaks(l, 30_000, false))
		}
		up, _ := lib.Neighbour(v, 1)
		down, _ := lib.Neighbour(v, -1)
		for _, n := range []*moves.Variant{up, down} {
			if n != nil {
				all = append(all, n.ID)
			}
		}
		for _, l := range moves.Lanes {
			all = append(all, moves.Mark(v, lib.OfPattern(v.Pattern), l), v.Marks(l))
		}
		all = append(all, lib.FirstSteps(v, func(string) bool { return false }), v.Touches(true), v.Touches(false), v.CautionsFor(true), v.CautionsFor(false), v.Joints(),
			v.Trains(), v.Ceiling(1), v.Ceiling(2), v.SideCount(), v.Scale(), v.NeverUp(), v.BodyShares(), v.Numbered(), v.HeldByTwo(), v.HeldByOneHand(),
			v.OnOneLeg(), v.StandsOnOneLeg(), v.SlowerMends(), v.Proposed(), v.Easiest(), v.CountParts(v.RepsLow, v.RepsHigh))
		for _, h := range v.Holds {
			all = append(all, v.SetupFor(h), v.HoldLine(h))
		}
		out.Say("%s: breaks %s; %s", v.ID, strings.Join(breaks, " "), golden.Digest(all))
	}
}
