package core_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/figure"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/golden"
)

// typed are things that somebody may type, some of them nothing that can be.
var typed = map[string][]string{
	"mass":   {"", "16", "16 kg", "35 lb", "455 g", "0", "-3", "12,5 kg", "abc", "9999 kg", "8 oz", "60 cm", "1 lb 8 oz", "0.5"},
	"length": {"", "43 cm", "17 in", "0.5 m", "2001 mm", "430 mm", "12", "x", "16 kg", "5 ft 6 in"},
	"volume": {"", "1.5 l", "450 ml", "1 gal", "2", "0 l", "501 l", "kg"},
}

// Rows of kit as they are typed: what they come to, and all that is wrong with them.
func TestApprovedRows(t *testing.T) {
	out := golden.Begin(t, "testdata/rows.txt")
	for seed := range uint64(1500) {
		r := rand.New(rand.NewPCG(seed, 7))
		some := func(from []string) string {
			if r.IntN(6) > 0 {
				return ""
			}
			return one(r, from)
		}
		mass, length, volume := typed["mass"], typed["length"], typed["volume"]
		row := kit.Row{
			Item: one(r, append(kit.RowItems, kit.RowItems...)), Name: one(r, []string{"Thing", "Thing", "Thing", ""}), Count: one(r, []int{1, 1, 1, 2, 500, 501, 0}),
			Mass: one(r, mass), Height: some(length), Rated: some(mass), Legs: some([]string{"four", "four-legs", "trestle", "legs"}), TableMass: some(mass),
			CentreIn: some(length), EdgeOut: some(length), Stretch1: some(length), Pull1: some(mass), Stretch2: some(length), Pull2: some(mass),
			Checked: r.IntN(8) == 0, Empty: some(mass), Refill: r.IntN(5) == 0, Max: some(mass), Closed: r.IntN(4) == 0, Straps: r.IntN(4) == 0, Volume: some(volume),
			In: some([]string{"tin", "bag", "bottle", "bath"}), What: some([]string{"water", "sand", "brick", "house"}),
		}
		switch row.Item {
		case kit.ImplementRow:
			row.Kind = one(r, append(slices.Clone(kit.Kinds), "sledge"))
			switch row.Kind {
			case kit.Bench, kit.Box, kit.Table:
				row.Height, row.Mass = one(r, length), some(mass)
			case kit.Band:
				row.Mass, row.Stretch1, row.Pull1, row.Stretch2, row.Pull2 = "", one(r, []string{"30 cm", "", "60 cm"}), one(r, mass), one(r, length), one(r, mass)
			}
		case kit.ObjectRow:
			row.Use, row.How = one(r, append(slices.Clone(kit.Uses), "")), one(r, append(slices.Clone(kit.Hows), "", "", "guess"))
			row.Traits = []string{one(r, append(slices.Clone(kit.Traits), "nice"))}[:r.IntN(2)]
			if row.How == kit.ByVolume {
				row.Mass, row.Volume = some(mass), one(r, volume)
			}
		case kit.ContainerRow:
			row.Max, row.Wear = one(r, mass), []string{one(r, append(slices.Clone(kit.Worn), "head"))}[:r.IntN(2)]
		}
		thing, faults := row.Check(one(r, []measure.Unit{measure.Kilogram, measure.Pound}))
		var wrong []string
		for _, f := range faults {
			wrong = append(wrong, f.Path)
		}
		out.Say("%d %s %s %s%s: %d g, %v, %s", seed, row.Item, row.Kind, row.Use, row.How, thing.MassG(), wrong, golden.Digest([]any{thing, faults}))
	}
}

// What household things weigh, and loads made of them.
func TestApprovedHousehold(t *testing.T) {
	out := golden.Begin(t, "testdata/household.txt")
	h := kit.StandardHousehold()
	for _, p := range h.Packages {
		for _, net := range []measure.Mass{100, 400, 1000, 2500} {
			w, err := h.FromNet(net, p.ID)
			out.Say("%s of %d g: %d, %d to %d, %v", p.ID, net, w.Mass, w.Low, w.High, err)
		}
	}
	for _, s := range h.Substances {
		for _, v := range append(h.Vessels, kit.Density{ID: "bath"}) {
			w, err := h.FromVolume(1500, s.ID, v.ID)
			out.Say("1.5 l of %s in %s: %d, %d to %d, empty %d, %v", s.ID, v.ID, w.Mass, w.Low, w.High, w.Empty, err)
		}
	}
	flat := places[len(places)-1].stock
	for _, c := range flat.Containers {
		s, _ := flat.Supply(c.ID, false)
		for target := measure.Mass(500); target < 16_000; target += 700 {
			for loads := 1; loads <= 2; loads++ {
				out.Say("%s %d x %d g: %s", c.ID, loads, target, golden.Digest(s.Make(context.Background(), target, 50, loads)))
			}
		}
		all, exact := s.Rule(context.Background(), 0, 8000, 100)
		out.Say("%s: %d loads to 8 kg, %v, %s", c.ID, len(all), exact, golden.Digest(all))
	}
}

// Gates, lanes, heights, holdings, roles and equations over their ranges.
func TestApprovedBodies(t *testing.T) {
	out := golden.Begin(t, "testdata/bodies.txt")
	for _, screens := range [][]people.Screen{nil, people.JointScreens[:3], people.JointScreens} {
		for _, reps := range []int{0, 24, 25, 40} {
			for _, load := range []measure.Mass{20_000, 34_999, 35_000, 40_000} {
				a := people.Attempt{Body: 70_000, Load: load, Heaviest: load, FormReps: reps, Screens: screens, Bracing: reps != 40, Goal: load != 40_000}
				out.Say("gate %d x %d g, %d screens: %s, missing %v, %s", reps, load, len(screens), people.Gate(a), a.Missing(), golden.Digest(people.WhyGate(a)))
			}
		}
	}
	for n, text := range append(slices.Clone(typed["mass"]), typed["length"]...) {
		for _, unit := range []measure.Unit{measure.Kilogram, measure.Pound} {
			m, errM := measure.ReadMass(text, unit, 500_000)
			l, errL := measure.ReadLength(text, unit.OfLength(), 3000)
			v, errV := measure.ReadVolume(text, "l", 500_000)
			lanes, faults := people.CheckLanes([]people.LaneRow{{Lane: []string{"ground", "middle", "high"}[n%3], People: n, Body: text, Stature: text}}, unit)
			out.Say("%q in %s: %v %v, %v %v, %v %v, %s", text, unit, m, errM, l, errL, v, errV, golden.Digest([]any{lanes, faults}))
		}
	}
	for _, stature := range []measure.Length{1400, 1580, 1700, 1850, 2050} {
		knee := body.KneeFor(stature)
		out.Say("%d mm: knee %.1f, %v %v, seat %v %v, thrust %v, at most %v, bench %s, raise %.2f", stature, knee, body.SitBackBox(knee), body.ThrustBench(knee),
			body.Seat(knee, true, 25), body.Seat(knee, false, 0), body.Thrust(knee, 25), body.AtMost(knee, 0.5, 25), fmt.Sprint(body.JudgeBench(430, body.ThrustBench(knee))), body.HeelRaiseAngle(25, float64(stature)))
		for _, m := range []measure.Mass{50_000, 70_000, 120_000} {
			for _, lane := range moves.Lanes {
				out.Say("  %d g %s: %.3f", m, lane, strength.Reference(lane, m, stature))
			}
		}
	}
	for _, angle := range []float64{0, 20, 45, 60} {
		for _, mass := range []measure.Mass{20_000, 60_000, 120_000} {
			table := body.Table{Kind: body.FourLegs, Mass: mass, In: 350, Out: 120}
			out.Say("%g deg, %d g: %+v %+v %v", angle, mass, table.Tips(70_000, 5000, angle), body.Anchor(70_000, mass, angle), fmt.Sprint(body.Support(mass, 70_000, 16_000, angle > 30)))
		}
	}
	for _, eq := range []strength.Equation{strength.Default, strength.Brzycki, strength.Epley} {
		for r := 0; r <= 31; r++ {
			f, err := strength.Factor(eq, r)
			out.Say("%s %d: %.6f %v", eq, r, f, err != nil)
		}
	}
	for planned := 1; planned <= 12; planned += 3 {
		for done := 0; done <= 18; done++ {
			for lost := range 3 {
				for left := -1; left <= 5; left += 2 {
					s := strength.Set{Planned: planned, Done: done, InForm: max(0, done-lost)}
					if left >= 0 {
						s.Reserve = &left
					}
					v, limit := strength.Judge(s)
					out.Say("%d planned, %d done, %d in form, %d left: %s %v %s", planned, done, s.InForm, left, v, limit, golden.Digest(strength.WhyVerdict(s, v, limit)))
				}
			}
		}
	}
}

// Figures of every move, cues in their order over ten sessions, and what differs between
// two documents.
func TestApprovedTeaching(t *testing.T) {
	out := golden.Begin(t, "testdata/teaching.txt")
	lib := moves.Standard()
	for _, v := range lib.All() {
		f, ok := figure.Of(v.ID)
		out.Say("%s: figure %v %s", v.ID, ok, golden.Digest(f))
	}
	var sessions [][]string
	for n := range 10 {
		r := rand.New(rand.NewPCG(uint64(n), 3))
		var ids []string
		for range 5 {
			ids = append(ids, one(r, lib.All()).ID)
		}
		taught := lib.Taught(sessions)
		said, waiting := lib.Today(ids, taught)
		fresh, rest := lib.Queue(ids, taught)
		out.Say("session %d %v: %d said, %d wait, %s", n, ids, len(said), len(waiting), golden.Digest([]any{said, waiting, fresh, rest, lib.Remind(ids[0], taught)}))
		sessions = append(sessions, ids)
		out.Say("  footwork %v", moves.Footwork(uint64(n), 12))
	}
	past := drawnPast(rand.New(rand.NewPCG(4, 4)), lib, []plan.Party{{Lane: moves.Middle}})
	for _, v := range lib.All() {
		is := func(l progress.Line) bool { return l.Variant == v.ID }
		if n := past.Sessions(moves.Middle, is); n > 0 {
			out.Say("%s: met %v, %d sessions, shown %v, %d classes ago", v.ID, past.Met(moves.Middle, v), n, past.Shown(moves.Middle, is), past.ClassesAgo(moves.Middle, func(id string) bool { return id == v.ID }))
		}
	}
}
