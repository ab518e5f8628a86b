package compose

import (
	"flag"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"sort"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

var draws = flag.Int("draws", 1000, "draws of the grid of bodies, kits, minutes and limits")

// gridKits are what places have: next to nothing, the usual, and what does not fit.
var gridKits = map[string]kit.Stock{
	"nothing": {},
	"one 8":   {Implements: []kit.Implement{bell("kb8", 8000, 1)}},
	"one 32":  {Implements: []kit.Implement{bell("kb32", 32_000, 1)}},
	"rucksack": {Objects: []kit.Object{{ID: "tin", Mass: 455, Count: 30, Use: kit.Pack}, {ID: "bottle", Mass: 1530, Empty: 30, Step: 50, Count: 2, Use: kit.Grip}},
		Containers: []kit.Container{{ID: "bag", Mass: 800, Max: 15_000, Closed: true, Straps: true}, {ID: "tote", Mass: 300, Max: 10_000}}},
	"bands":    {Implements: []kit.Implement{{ID: "band", Kind: kit.Band, Count: 6}}},
	"one pair": {Implements: []kit.Implement{{ID: "pair", Kind: kit.DumbbellPair, Mass: 10_000, Count: 1}}},
	"hall":     hall,
	"rack":     {Implements: []kit.Implement{bell("kb12", 12_000, 4), bell("kb16", 16_000, 4), bell("kb20", 20_000, 4)}},
	"wrong heights": {Implements: []kit.Implement{bell("kb8", 8000, 4), bell("kb16", 16_000, 4), {ID: "high", Kind: kit.Box, Height: 750, Count: 6, Rated: 300_000},
		{ID: "bench", Kind: kit.Bench, Height: 560, Count: 4, Rated: 300_000}, {ID: "low", Kind: kit.Box, Height: 200, Count: 2, Rated: 300_000}}},
	"low ratings": {Implements: []kit.Implement{bell("kb8", 8000, 4), bell("kb16", 16_000, 4), {ID: "weak", Kind: kit.Bench, Height: 400, Count: 6, Rated: 60_000},
		{ID: "crate", Kind: kit.Box, Height: 400, Count: 6, Rated: 60_000}, {ID: "table", Kind: kit.Table, Height: 740, Count: 2, Checked: true, Table: body.Table{Kind: body.FourLegs, Mass: 40_000, In: 350, Out: 120}}}},
}

// gridBrief draws a class: bodies from 40 to 160 kg and 140 to 205 cm, lanes, a kit, 10 to
// 120 minutes, both formats, sometimes a limit, sometimes a group without a past.
func gridBrief(r *rand.Rand) (b Brief, name string) {
	kits := make([]string, 0, len(gridKits))
	for k := range gridKits {
		kits = append(kits, k)
	}
	sort.Strings(kits)
	name = kits[r.IntN(len(kits))]
	var ls []plan.Party
	for _, l := range moves.Lanes {
		ls = append(ls, plan.Party{Lane: l, People: []int{0, 1, 2, 4, 8}[r.IntN(5)], Body: measure.Mass(40+r.IntN(121)) * 1000, Stature: measure.Length(140+r.IntN(66)) * 10})
	}
	if ls[0].People+ls[1].People+ls[2].People == 0 {
		ls[r.IntN(3)].People = 1 + r.IntN(4)
	}
	b = brief(gridKits[name], ls, []int{10, 15, 20, 30, 45, 60, 90, 120}[r.IntN(8)], []circuit.Format{circuit.Timed, circuit.Reps}[r.IntN(2)])
	if r.IntN(3) == 0 {
		limits := moves.Limits()
		b.Bans = append(b.Bans, string(limits[r.IntN(len(limits))]))
	}
	if r.IntN(3) == 0 {
		b.Past = progress.Past{}
	}
	return b, name
}

// reckonBound works the bound of a body for a pattern anew, from the rules' own words
// (house): so many times what the lane's mark asks of the reference body with the mark's
// own starting load. Shares and marks are those of the rules of resistance.
func reckonBound(l plan.Party, v *moves.Variant) (most float64, ok bool) {
	at := func(ground, middle, reach float64) float64 {
		return map[moves.Lane]float64{moves.Ground: ground, moves.Middle: middle, moves.Reach: reach}[l.Lane]
	}
	m := float64(l.Stature) / 1000
	ref := min(float64(l.Body), 25*m*m*1000)
	start := at(.10, .22, .35) * ref
	two := func(share, load float64) float64 { return .5 * (share*ref + load) }
	switch {
	case v.Pattern == moves.PushLevel:
		return 1.1 * .5 * at(.49, .64, .70) * ref, true
	case v.Ladder == "step-up", v.Ladder == "table-row":
		return 0, false
	case v.Pattern == moves.Squat:
		return 1.25 * two(.878, min(start, 20_500)), true
	case v.Pattern == moves.Lunge:
		return 1.25 / 1.35 * (.878*ref + at(0, .6*start, .5*start)) * at(.75, .75, .85), true
	case v.Pattern == moves.Lateral:
		return 1.25 / 1.35 * .85 * (.878*ref + at(0, .4*start, .4*start)), true
	case v.Ladder == "bench-thrust" && l.Lane != moves.Reach:
		return 1.25 * two(.22, min(1.5*start, 40_000)), true
	case v.Ladder == "bench-thrust":
		return 1.25 / 1.15 * (.32*ref + .5*start), true
	case v.Pattern == moves.Bridge && l.Lane == moves.Ground:
		return 1.25 * two(.362, min(1.5*start, 40_000)), true
	case v.Pattern == moves.Bridge:
		return 1.25 / 1.15 * at(0, .466, .589) * ref, true
	case v.Pattern == moves.Hinge && l.Lane == moves.Ground:
		return 1.25 * two(.481, min(1.25*start, 24_000)), true
	case v.Pattern == moves.Hinge:
		return 1.25 * .85 / 1.15 * (.481*ref + min(.5*start, 24_000)), true
	}
	return 0, false
}

// tally counts what goes wrong, by what it is.
type gridTally struct {
	t     *testing.T
	wrong map[string]int
	first map[string]string
	what  string
}

func (g *gridTally) when(bad bool, name string, detail ...any) {
	if !bad {
		return
	}
	g.wrong[name]++
	if g.first[name] == "" {
		g.first[name] = g.what + ": " + fmt.Sprint(detail...)
	}
}

// Whatever body, kit, length and limit: nothing unsafe and nothing silly is proposed. The
// counts must all be nothing; the first of each is named.
func TestGrid(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 2026))
	g := &gridTally{t: t, wrong: map[string]int{}, first: map[string]string{}}
	made, cells, uneven, flagged := 0, 0, 0, map[why.Code]int{}
	for i := range *draws {
		b, name := gridBrief(r)
		g.what = fmt.Sprintf("draw %d, %s, %d min, %s, %v", i, name, b.Minutes, b.Format, b.Bans)
		p := Propose(b)
		if !p.Feasible {
			g.when(len(p.Relax) == 0, "infeasible without a way out")
			g.when(len(b.Bans) == 0 && len(b.Past.Known) > 0, "infeasible without a limit")
			continue
		}
		made++
		look := checkProposal(t, b, p)
		for _, f := range look.Flags {
			flagged[f.Why.Code]++
			g.when(f.Wrong, "proposed although wrong", f.Why)
			if f.Why.Code == why.FlagUneven {
				uneven++
			}
		}
		g.class(b, p, look)
		for i, s := range look.Slots {
			for _, c := range s.Cells {
				cells++
				g.cell(b, single(p.Document), look, single(p.Document).Slots[i], c)
			}
		}
	}
	t.Logf("%d proposals of %d, %d cells, %d uneven flags; flags %v", made, *draws, cells, uneven, flagged)
	var names []string
	for n := range g.wrong {
		names = append(names, n)
	}
	sort.Strings(names)
	for _, n := range names {
		t.Errorf("%s: %d times; first %s", n, g.wrong[n], g.first[n])
	}
	assert.Less(t, uneven, made/10, "few carry the program's own flag: short classes, and what limits leave")
}

// class checks what holds for a whole class.
func (g *gridTally) class(b Brief, p Proposal, look plan.Plan) {
	known := len(b.Past.Known) > 0
	most := 6
	for _, l := range b.Parties {
		if l.People > 0 {
			most = min(most, map[moves.Lane]int{moves.Ground: 3, moves.Middle: 4, moves.Reach: 6}[l.Lane])
		}
	}
	if !known {
		most = 3
	}
	g.when(single(p.Document).Rounds > most, "more sets than a dose", single(p.Document).Rounds)
	g.when(b.Minutes >= 30 && single(p.Document).Rounds == 1, "one round in half an hour")
	g.when(b.Minutes >= 60 && known && look.SlackMs > 20*measure.Minute && !slices.ContainsFunc(p.Notes, func(w why.Why) bool { return w.Code == why.NoteEndsEarly }),
		"minutes left unused without a word", look.SlackMs)
	// One packing a container, and nothing in two bags at once.
	packed, parts := map[string]string{}, map[string]int{}
	used := map[string]bool{}
	for _, s := range single(p.Document).Slots {
		for _, e := range s.Entries {
			for _, u := range e.Load.Uses() {
				used[u.ID] = true
			}
			if e.Load.Kind != kit.Made || e.Load.Container == "" {
				continue
			}
			as := fmt.Sprint(e.Load.Parts)
			g.when(packed[e.Load.Container] != "" && packed[e.Load.Container] != as, "a bag packed twice", e.Load.Container)
			if packed[e.Load.Container] == "" {
				for _, x := range e.Load.Parts {
					parts[x.ID] += x.Count + len(x.Fills)
				}
			}
			packed[e.Load.Container] = as
		}
	}
	for id, n := range parts {
		g.when(n > b.Stock.Pieces(id), "one thing in two bags", id)
	}
	for _, i := range b.Stock.Implements {
		said := slices.ContainsFunc(p.Notes, func(w why.Why) bool { return w.Code == why.NoteNotUsed && w.Terms[0].Text == i.ID })
		g.when(i.Mass > 0 && !used[i.ID] && !said, "a weight not used without a word", i.ID)
	}
	for _, l := range b.Parties {
		taught := map[string]bool{}
		for _, s := range single(p.Document).Slots {
			v, ok := b.Library.Get(s.Entries[people.OfLane(l.Lane)].Variant)
			if ok && l.People > 0 && !known && (v.Pattern.OfTheLegs() || v.Pattern == moves.WholeBody) {
				taught[v.ID] = true
			}
		}
		most := 3 + max(0, b.Minutes-45)/20
		if b.Minutes < 15 {
			most = 2
		}
		g.when(len(taught) > most, "more to learn than a class takes in", taught)
	}
}

// cell checks what holds for one lane's version of a slot.
func (g *gridTally) cell(b Brief, d circuit.Single, look plan.Plan, s circuit.Slot, c plan.Cell) {
	v, _ := b.Library.Get(c.Entry.Variant)
	l := b.Parties[slices.IndexFunc(b.Parties, func(l plan.Party) bool { return l.Lane == c.Lane })]
	starting := len(b.Past.Known) == 0
	has := func(code why.Code) bool {
		return slices.ContainsFunc(look.Flags, func(f plan.Flag) bool {
			return f.Slot == s.ID && f.Why.Code == code && (len(f.Why.Terms) == 0 || f.Why.Terms[0].Name != "lane" || f.Why.Terms[0].Text == string(c.Lane))
		})
	}
	// Bodies.
	if most, ok := reckonBound(l, v); ok && v.BodyShares() && !slices.Contains([]string{"high-box-squat", "held-squat", "supported-split-squat", "held-cossack-squat", "hip-hinge", "floor-bridge"}, v.ID) {
		g.when(float64(c.ComparableG) > most*1.001+1, "more than the body's bound", v.ID, l, c.ComparableG, most)
	}
	knee := .285 * float64(l.Stature)
	for i, need := range v.Needs {
		item, _ := b.Stock.Implement(c.Entry.Anchors[i])
		on := float64(l.Body + c.LoadG)
		if len(v.Resistance.Heights) > 0 {
			on *= .41 // at the least its share of the body
		}
		if need == "step" {
			on *= 1.5
		}
		g.when(item.Rated > 0 && float64(item.Rated) < on, "a support rated for less", v.ID, item.ID, on)
		h := float64(item.Height)
		switch {
		case h == 0:
		case need == "seat":
			g.when(h > knee+130+3 || h < knee-220, "a seat that does not fit", v.ID, h, knee)
		case need == "step":
			g.when(h > knee*map[moves.Lane]float64{moves.Ground: .6, moves.Middle: .85, moves.Reach: 1}[l.Lane]+1, "a step too high", v.ID, h, knee)
		case need == "bench" && v.Pattern == moves.Bridge:
			g.when(h > knee-75+50+3 || h < knee-120-25-3, "a thrust bench that does not fit", v.ID, h, knee)
		case need == "bench" && v.Pattern == moves.Lunge:
			g.when(h > knee, "a rear foot above the knee", v.ID, h, knee)
		case need == "foot-rest" && v.Pattern == moves.PushLevel:
			g.when(h > 610, "feet higher than was measured", h)
			want, _ := v.Resistance.Resist(l.Body, 0, body.Setting{Height: item.Height})
			g.when(measure.Grams(want.Comparable) != c.ComparableG, "a push-up of another height than shown", h)
		case need == "table":
			g.when(!item.Holds(l.Body), "a table that tips", l.Body)
		}
	}
	g.when(l.Lane == moves.Ground && slices.Contains(v.Needs, "table") && v.Pattern == moves.Pull, "Ground under a table")
	// Loads.
	h, _ := moves.HoldOf(c.Entry.Hold)
	if most := v.Ceiling(h.Count); most > 0 {
		g.when(c.LoadG > most, "over a ceiling", v.ID, c.LoadG)
	}
	g.when(starting && (v.Overhead || v.Ballistic) && c.LoadG > 5000, "over 5 kg overhead in a first session", v.ID)
	g.when(starting && c.Lane == moves.Ground && slices.Contains([]string{"squat", "split-squat", "romanian-deadlift", "goblet-squat", "lateral-lunge"}, v.ID), "Ground's first class is not its first rungs", v.ID)
	g.when(starting && c.Lane == moves.Ground && v.Pattern.OfTheLegs() && c.LoadG > 0, "a load in Ground's first class", v.ID)
	g.when(starting && c.IronPct > 15.1, "a first load rounded up", v.ID, c.IronPct)
	g.when(v.NeverUp() && c.IronPct > .1, "rounded up overhead", v.ID, c.IronPct)
	g.when(c.ShortPct > 40 && !has(why.FlagFarTooLight), "far too light without a word", v.ID, c.ShortPct)
	g.when(c.LeftPct <= -10 && !has(why.FlagShortEffort) && !has(why.FlagFarTooLight), "short after all mends without a word", v.ID, c.LeftPct)
	g.when(v.Numbered() && c.ShortPct > 25.1 && harderFits(b, l, v, c, d), "short by more than a quarter with a harder rung at hand", v.ID, c.ShortPct)
	// Sets.
	t, _ := scheme.ParseTempo(c.Entry.Tempo)
	side := measure.Span(c.PerSide) * t.PerRep()
	own := v.TempoOf()
	mended := c.PerSide > max(10, v.RepsLow) || t != own
	g.when(d.Format == circuit.Reps && mended && !starting && side > 75*measure.Second && side > measure.Span(v.RepsLow)*own.PerRep(), "a set mended beyond 75 s", v.ID, side)
	g.when(t != own && (v.Ballistic || v.Pattern == moves.Carry), "slow counts where nobody lowers slowly", v.ID)
	g.when(d.Format == circuit.Timed && c.PerSide < v.RepsLow && !has(why.FlagUnderDose), "under its dose by the clock without a word", v.ID, c.PerSide)
	g.when(d.Format == circuit.Reps && c.PerSide < v.RepsLow, "under the low end by repetitions", v.ID, c.PerSide)
	g.when(d.Format == circuit.Reps && c.PerSide > v.RepsHigh, "over the high end by repetitions", v.ID, c.PerSide)
	if d.Format == circuit.Reps {
		apart := endApart(look.Slots[slices.IndexFunc(look.Slots, func(x plan.SlotPlan) bool { return x.ID == s.ID })])
		g.when(apart > 30*measure.Second && !has(why.FlagApart), "lanes wait for each other", apart)
	}
	g.whys(v, c)
	// Limits.
	for _, ban := range b.Bans {
		plain, _ := moves.LimitID(ban).Expand()
		for _, x := range plain {
			joint, spared, ok := x.Joint()
			g.when(ok && spared && v.Demands[joint] > 0, "a spared joint asked", ban, v.ID)
			g.when(ok && !spared && v.Demands[joint] == 3, "end of range on a mild joint", ban, v.ID)
		}
		g.when(ban == "no-floor" && v.Pose.Level() > 0 && !slices.Contains(v.Needs, "bench"), "down on the floor", v.ID)
		g.when(ban == "no-overhead" && v.Overhead, "overhead", v.ID)
		g.when(ban == "no-lying-on-back" && v.Pose == "supine", "on the back", v.ID)
		g.when(ban == "pregnancy" && (v.Pose == "supine" || v.Pose == "prone" || v.Demands["balance"] >= 2), "not in pregnancy", v.ID)
		g.when(ban == "no-impact" && v.Demands["impact"] > 0, "impact", v.ID)
	}
}

// whys compares the reasons of a cell with what it shows.
func (g *gridTally) whys(v *moves.Variant, c plan.Cell) {
	term := func(w why.Why, name string) (float64, string, bool) {
		for _, t := range w.Terms {
			if t.Name == name {
				return t.Value, t.Text, true
			}
		}
		return 0, "", false
	}
	if n, _, ok := term(c.TimeWhy, "perSide"); ok {
		g.when(int(n) != c.PerSide, "the why of the time tells of another set", v.ID)
	}
	if x, _, ok := term(c.LoadWhy, "chosen"); ok {
		g.when(measure.Mass(x) != c.LoadG, "the why of the load tells of another load", v.ID)
	}
	for _, p := range c.LoadWhy.Parts {
		n, _, hasReps := term(p, "reps")
		_, tempo, hasTempo := term(p, "tempo")
		if p.Code == why.RepairMoreReps || p.Code == why.RepairFewerReps {
			g.when(hasReps && int(n) != c.PerSide, "a mend tells of other repetitions", v.ID)
		}
		g.when(hasTempo && tempo != c.Entry.Tempo, "a mend tells of another tempo", v.ID)
		for _, q := range p.Parts {
			if n, _, ok := term(q, "reps"); ok && q.Code == why.LoadForReps {
				g.when(int(n) != max(c.PerSide, v.RepsLow), "a load for another count than shown", v.ID, n, c.PerSide)
			}
		}
	}
}

// harderFits tells whether a harder rung of the ladder, better loaded here, was allowed.
func harderFits(b Brief, l plan.Party, v *moves.Variant, c plan.Cell, d circuit.Single) bool {
	up, ok := b.Library.Above(v)
	people := 0
	for _, x := range b.Parties {
		people += x.People
	}
	if !ok || up.Pattern != v.Pattern || people > 1 || len(b.Bans) > 0 || slices.Contains(circuit.Moves(d.Document()), up.ID) {
		return false
	}
	j := b.Context.Judges(d.Document()).Of(d.Document().Blocks[workAt], circuit.Slot{})[l.ID()]
	j.Chosen = nil
	for _, e := range j.Entries(up) {
		r := j.Reckon(e, j.Reps(up))
		if r.Numbered && r.ShortPct < min(c.ShortPct, 25) && r.OverPct == 0 && math.Abs(r.IronPct) < 100 && !strings.Contains(v.ID, "push-up") {
			return true
		}
	}
	return false
}

// A grid draws what it says: every kit, both formats, short and long classes.
func TestGridDrawsEverything(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 2026))
	seen := map[string]bool{}
	for range 300 {
		b, name := gridBrief(r)
		seen[name], seen[string(b.Format)], seen[fmt.Sprint(b.Minutes)] = true, true, true
	}
	require.Len(t, seen, len(gridKits)+2+8)
}

// endApart is how far apart the lanes of a slot end their sets.
func endApart(s plan.SlotPlan) measure.Span {
	var ends []measure.Span
	for _, c := range s.Cells {
		ends = append(ends, c.SetMs)
	}
	return slices.Max(ends) - slices.Min(ends)
}
