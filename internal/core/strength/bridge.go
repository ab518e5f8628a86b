package strength

import (
	"math"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
)

// Step limits for going up at once (house): resistance at most 10 %, iron at
// most 34 %, one step of a usual rack; presses, rows, overhead, ballistic and
// one-hand holds by iron alone, at most 10 %. (Published: 2-10 % after one or two
// repetitions over plan in two sessions running: ACSM 2009, "2 for 2" in Haff and
// Triplett; from memory; reading it as resistance is our model.)
const (
	MaxResistanceStepPct = 10
	MaxIronStepPct       = 34
	MaxIronAlonePct      = 10
)

// readySessions running over the range make somebody ready ("2 for 2").
const readySessions = 2

// mostBridgeReps is where more repetitions give way to slower ones (house).
const mostBridgeReps = 20

// repWeeks is the most weeks spent on repetitions alone (house).
const repWeeks = 6

// Rise is the way from one load to a heavier one, in per cent. From no load the
// iron rises without measure and resistance alone decides.
type Rise struct {
	IronPct, ResistancePct float64
	// IronAlone says that only the iron counts here.
	IronAlone bool
	Allowed   bool
}

// Step gives the rise from load a to b for a variant and a body and whether it may
// be taken at once. Loads are all implements together.
func Step(v *moves.Variant, bodyMass, a, b measure.Mass, oneHand bool) Rise {
	r := Rise{IronPct: 100, IronAlone: v.ByIronAlone() || v.Overhead || oneHand}
	if a > 0 {
		r.IronPct = 100 * (float64(b)/float64(a) - 1)
	}
	r.ResistancePct = r.IronPct
	if v.Family != body.None && !v.ByIronAlone() {
		r.ResistancePct = 100 * (resisted(v, bodyMass, b)/resisted(v, bodyMass, a) - 1)
	}
	atMost := func(pct measure.Mass) bool { return 100*b <= (100+pct)*a }
	if r.IronAlone {
		r.Allowed = atMost(MaxIronAlonePct)
	} else {
		r.Allowed = measure.Round(r.ResistancePct, 9) <= MaxResistanceStepPct && (a == 0 || atMost(MaxIronStepPct))
	}
	return r
}

// resisted is the comparable resistance, or the load itself where there is none.
func resisted(v *moves.Variant, bodyMass, load measure.Mass) float64 {
	if v.Family == body.None || v.ByIronAlone() {
		return float64(load)
	}
	r, _ := v.Resistance.Resist(bodyMass, load, v.Setting())
	return r.Comparable
}

// Climb is a jump in load that somebody is to make. Loads are in grams, all
// implements together; To is over From and From over nothing.
type Climb struct {
	Variant *moves.Variant
	OneHand bool
	Body    measure.Mass
	From,
	To measure.Mass
	RepsLow, RepsHigh int
	// LastReps in form, SessionsOver how many sessions running were over the range,
	// Reserve what is kept.
	LastReps, SessionsOver, Reserve int
	// Between are other loads that the place makes, in any order.
	Between []measure.Mass
	// Above is the variant a rung higher, nil for none.
	Above *moves.Variant
}

// Means is what a week of a bridge goes by.
type Means string

// The means.
const (
	ByLoad    Means = "load"
	ByReps    Means = "reps"
	ByTempo   Means = "tempo"
	ByVariant Means = "variant"
	ByMade    Means = "made"
	ByUneven  Means = "uneven"
)

// Week is one week of a bridge.
type Week struct {
	Week  int          `json:"week"`
	LoadG measure.Mass `json:"loadG"`
	Reps  int          `json:"reps"`
	Tempo string       `json:"tempo"`
	Move  string       `json:"move"`
	By    Means        `json:"by" enum:"load,reps,tempo,variant,made,uneven"`
}

// Bridge says whether a jump may be made now, and the weeks until it is made.
type Bridge struct {
	Rise
	// Ready is more than the range in two sessions running.
	Ready bool
	// Predicted is the least number of repetitions at From that predicts the low end
	// of the range at To with the same reserve; nil where the equation is refused.
	Predicted *int
	Weeks     []Week
	Why       why.Why
}

// Over plans a jump. A step the rule allows is made once somebody is ready, and
// repetitions come first until then. Any other is bridged: repetitions at From up to
// those that predict the low end at To (default equation); where that is over 20,
// slower lowering, a pause, the variant above where it lies between; in either case
// the loads between that are there, each step of them allowed, and an uneven pair
// where two are held. What resists the most comes last: To at the low end.
func Over(c Climb) Bridge {
	b := Bridge{Rise: Step(c.Variant, c.Body, c.From, c.To, c.OneHand), Ready: c.LastReps > c.RepsHigh && c.SessionsOver >= readySessions}
	if n, ok := c.repsAt(c.Variant, c.From); ok {
		b.Predicted = &n
	}
	code := why.BridgeNeeded
	p := planner{climb: c, tempo: c.Variant.Tempo}
	switch {
	case b.Allowed && b.Ready:
		code = why.BridgeNow
	case b.Allowed:
		code = why.BridgeReady
		p.reps(c.RepsHigh + 1)
	case b.Predicted != nil && *b.Predicted <= mostBridgeReps:
		p.reps(*b.Predicted)
		p.between(b.IronAlone)
	default:
		p.reps(c.RepsHigh)
		p.slower()
		p.above()
		p.between(b.IronAlone)
	}
	p.put(c.To, c.RepsLow, ByLoad)
	b.Weeks = p.weeks
	b.Why = why.Of(code, why.House, why.G("from", float64(c.From)), why.G("to", float64(c.To)), why.Pct("iron", measure.Round(b.IronPct, 1)),
		why.Pct("resistance", measure.Round(b.ResistancePct, 1)), why.N("low", c.RepsLow), why.N("high", c.RepsHigh))
	if b.IronAlone {
		b.Why = b.Why.With(why.Of(why.BridgeIronAlone, why.House, why.Pct("most", MaxIronAlonePct)))
	} else {
		b.Why = b.Why.With(why.Of(why.BridgeLimits, why.House, why.Pct("iron", MaxIronStepPct), why.Pct("resistance", MaxResistanceStepPct)))
	}
	if b.Predicted != nil {
		b.Why = b.Why.With(why.Of(why.BridgePredicted, why.Model, why.N("reps", *b.Predicted), why.G("from", float64(c.From)), why.N("low", c.RepsLow), why.G("to", float64(c.To)), why.N("reserve", c.Reserve)))
	}
	return b
}

// repsAt is the least number of repetitions with a load that predicts the low end
// of the range at To.
func (c Climb) repsAt(v *moves.Variant, load measure.Mass) (int, bool) {
	f, err := Factor(Default, c.RepsLow+c.Reserve)
	if err != nil {
		return 0, false
	}
	wanted := f * resisted(c.Variant, c.Body, c.To)
	for n := 1; ; n++ {
		g, err := Factor(Default, n+c.Reserve)
		if err != nil {
			return 0, false
		}
		if g*resisted(v, c.Body, load) >= wanted*(1-1e-12) {
			return n, true
		}
	}
}

// planner writes the weeks of a bridge.
type planner struct {
	climb Climb
	tempo string
	weeks []Week
}

func (p *planner) put(load measure.Mass, reps int, by Means) {
	tempo := p.climb.Variant.Tempo
	if by == ByTempo {
		tempo = p.tempo
	}
	p.weeks = append(p.weeks, Week{len(p.weeks) + 1, load, reps, tempo, p.climb.Variant.ID, by})
}

// reps goes up at the load in use, at least one repetition a week.
func (p *planner) reps(until int) {
	c := p.climb
	if c.LastReps >= until {
		if until > c.RepsHigh && c.SessionsOver < readySessions {
			p.put(c.From, until, ByReps) // once more: the second session
		}
		return
	}
	step := max(1, int(math.Ceil(float64(until-c.LastReps)/repWeeks)))
	for n := c.LastReps; n < until; {
		n = min(n+step, until)
		p.put(c.From, n, ByReps)
	}
}

// slower takes two weeks at the top of the range: slower lowering, then a pause.
func (p *planner) slower() {
	t := p.climb.Variant.TempoOf().Slower()
	p.tempo = t.String()
	p.put(p.climb.From, p.climb.RepsHigh, ByTempo)
	t.Parts[1]++
	p.tempo = t.String()
	p.put(p.climb.From, p.climb.RepsHigh, ByTempo)
}

// above takes the variant a rung higher with the load in use, where that lies
// between.
func (p *planner) above() {
	c := p.climb
	v := c.Above
	if v == nil || v.Family != c.Variant.Family || v.ByIronAlone() != c.Variant.ByIronAlone() {
		return
	}
	r := resisted(v, c.Body, c.From)
	if n, ok := c.repsAt(v, c.From); ok && r > resisted(c.Variant, c.Body, c.From) && r < resisted(c.Variant, c.Body, c.To) {
		p.weeks = append(p.weeks, Week{len(p.weeks) + 1, c.From, max(c.RepsLow, min(n, c.RepsHigh)), v.Tempo, v.ID, ByVariant})
	}
}

// between climbs over loads that are there, as far as each step is allowed, the
// largest step first; two that are held may also differ.
func (p *planner) between(ironAlone bool) {
	c := p.climb
	by := map[measure.Mass]Means{}
	for _, l := range c.Between {
		by[l] = ByMade
	}
	if c.Variant.HeldByTwo() {
		by[(c.From+c.To)/2] = ByUneven
	}
	var loads []measure.Mass
	for l := range by {
		if l > c.From && l < c.To {
			loads = append(loads, l)
		}
	}
	slices.Sort(loads)
	for now := c.From; ; {
		next := measure.Mass(0)
		for _, l := range loads {
			if l > now && Step(c.Variant, c.Body, now, l, ironAlone).Allowed {
				next = l
			}
		}
		if next == 0 || Step(c.Variant, c.Body, now, c.To, ironAlone).Allowed {
			return
		}
		n, ok := c.repsAt(c.Variant, next)
		if !ok {
			n = c.RepsHigh
		}
		p.put(next, min(max(n, c.RepsLow), mostBridgeReps), by[next])
		now = next
	}
}
