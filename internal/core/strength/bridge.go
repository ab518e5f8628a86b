package strength

import (
	"math"
	"slices"
	"sort"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
)

// The step rule (house): a step may be taken at once when iron rises at most 34 %,
// one step of a usual rack, and resistance at most 10 % where the body shares in it;
// with both hands on a ballistic weight instead iron at most 50 % and 5 kg. From no
// load the resistance alone counts, at most 15 %. (Published: 2-10 % of the load after
// one or two repetitions over plan: ACSM 2009, "2 for 2" in Haff and Triplett, from
// memory; reading it as resistance is our model.)
const (
	MaxIronStepPct                    = 34
	MaxResistanceStepPct              = 10
	MaxFirstStepPct                   = 15
	MaxBallisticStepPct               = 50
	MaxBallisticStep     measure.Mass = 5000
)

// What a bridge goes by (house).
const (
	// readySessions running over the range make somebody ready ("2 for 2").
	readySessions = 2
	// LeastAtNext is the fewest repetitions in form that must be predicted at a load
	// before it is taken.
	LeastAtNext = 3
	// UsualReserve is what a set keeps where nobody says.
	UsualReserve = 2
	// mostBridgeReps and mostBridgeSet end the way of repetitions, but never before
	// overHigh more than the range.
	mostBridgeReps = 20
	mostBridgeSet  = 90 * measure.Second
	overHigh       = 2
	// mostIronPct is the rise in iron that no bridge crosses.
	mostIronPct = 100
	// repWeeks is the most weeks spent on repetitions alone.
	repWeeks = 6
	// usualSets stand where nobody says how many.
	usualSets = 3
)

// Rise is the way from one load to a heavier one, in per cent. From no load the
// iron rises without measure and resistance alone decides.
type Rise struct {
	IronPct, ResistancePct float64
	// IronAlone says that the resistance is the iron.
	IronAlone bool
	// Swung says that the rule for two hands on a ballistic weight holds.
	Swung   bool
	Allowed bool
}

// ironAlone tells whether a load is reckoned by its iron: where the body does not
// share, overhead, and in ballistic moves with one hand.
func ironAlone(v *moves.Variant, oneHand bool) bool {
	return v.Family == body.None || !v.BodyShares() || v.Overhead || v.Ballistic && oneHand
}

// Step gives the rise from load a to b for a variant and a body and whether it may
// be taken at once. Loads are all implements together.
func Step(v *moves.Variant, bodyMass, a, b measure.Mass, oneHand bool) Rise {
	oneHand = oneHand || v.HeldByOneHand()
	r := Rise{IronPct: 100, IronAlone: ironAlone(v, oneHand), Swung: v.Ballistic && !oneHand}
	if a > 0 {
		r.IronPct = 100 * (float64(b)/float64(a) - 1)
	}
	r.ResistancePct = r.IronPct
	if !r.IronAlone {
		r.ResistancePct = 100 * (resisted(v, bodyMass, b, oneHand)/resisted(v, bodyMass, a, oneHand) - 1)
	}
	within := func(pct float64) bool { return r.IronAlone || measure.Round(r.ResistancePct, 9) <= pct }
	switch {
	case a == 0:
		r.Allowed = !r.IronAlone && within(MaxFirstStepPct)
	case r.Swung:
		r.Allowed = 100*b <= (100+MaxBallisticStepPct)*a && b-a <= MaxBallisticStep
	default:
		r.Allowed = 100*b <= (100+MaxIronStepPct)*a && within(MaxResistanceStepPct)
	}
	return r
}

// resisted is the comparable resistance, or the load itself where the iron counts
// alone.
func resisted(v *moves.Variant, bodyMass, load measure.Mass, oneHand bool) float64 {
	if ironAlone(v, oneHand) {
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
	// Reserve what is kept, Sets how many (0: three).
	LastReps, SessionsOver, Reserve, Sets int
	// FarTooLight says that the last set was judged so.
	FarTooLight bool
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
	ByBlend   Means = "blend"
	ByTempo   Means = "tempo"
	ByVariant Means = "variant"
	ByMade    Means = "made"
	ByUneven  Means = "uneven"
)

// Blend is the part of a week that is done with the load to come.
type Blend struct {
	Sets  int          `json:"sets"`
	LoadG measure.Mass `json:"loadG"`
	Reps  int          `json:"reps"`
}

// Week is one week of a bridge, two sessions. Sets are all of a session, those of a
// blend among them; load and repetitions of a blended week are those at the old load.
type Week struct {
	Week  int          `json:"week"`
	LoadG measure.Mass `json:"loadG"`
	Sets  int          `json:"sets"`
	Reps  int          `json:"reps"`
	Tempo string       `json:"tempo"`
	Move  string       `json:"move"`
	By    Means        `json:"by"`
	Blend *Blend       `json:"blend"` // null unless by blend
}

// Gap is a range of loads, both ends inclusive.
type Gap struct {
	FromG measure.Mass `json:"fromG"`
	ToG   measure.Mass `json:"toG"`
}

// Bridge says whether a jump may be made now, and the weeks until it is made.
type Bridge struct {
	Rise
	// Ready is more than the range in two sessions running, or far too light.
	Ready bool
	// Predicted is the least number of repetitions at From that predicts the low end
	// of the range at To with the same reserve; nil where the equation is refused.
	Predicted *int
	// AtNext is how many the index predicts at To from what was done last.
	AtNext int
	// Reached tells whether the last week is at To; where it is not, Between is what
	// should be found.
	Reached bool
	Between *Gap
	Weeks   []Week
	Why     why.Why
}

// Now tells whether the jump is made in the next session.
func (b Bridge) Now() bool { return b.Reached && len(b.Weeks) == 1 }

// Over plans a jump. A step that the rule allows is taken once somebody is ready and
// the index predicts three in form at To; repetitions come first until then. Any other
// is crossed over loads between, each an allowed step, or by blending: sets at To, one
// more each week. A bridge that cannot predict three, or whose iron more than doubles,
// does not end at To: it goes as far as is allowed and says what mass to look for.
func Over(c Climb) Bridge {
	if c.Sets == 0 {
		c.Sets = usualSets
	}
	c.OneHand = c.OneHand || c.Variant.HeldByOneHand()
	b := Bridge{Rise: Step(c.Variant, c.Body, c.From, c.To, c.OneHand), AtNext: c.AtNext(c.From, c.LastReps)}
	b.Ready = c.LastReps > c.RepsHigh && c.SessionsOver >= readySessions || c.FarTooLight
	if n, ok := c.repsAt(c.Variant, c.From); ok {
		b.Predicted = &n
	}
	p := planner{climb: c}
	most := max(c.LastReps, c.RepsHigh+overHigh,
		min(mostBridgeReps, int(mostBridgeSet/max(c.Variant.PerRep(), measure.Second))))
	chain, chained := c.chain()
	crossable := b.IronPct <= mostIronPct && c.AtNext(c.From, most) >= LeastAtNext &&
		(b.Allowed || chained || !b.Swung || b.IronPct <= MaxBallisticStepPct)
	code := why.BridgeNeeded
	switch {
	case b.Allowed && crossable && b.Ready && b.AtNext >= LeastAtNext:
		code = why.BridgeNow
		p.first(c.To, b.AtNext, ByLoad)
	case b.Allowed && crossable:
		code = why.BridgeReady
		p.first(c.To, c.AtNext(c.From, p.until(most, b)), ByLoad)
	case crossable && chained:
		p.over(chain, p.until(most, b))
	case crossable:
		p.blend(c.AtNext(c.From, p.until(most, b)))
	default:
		code = why.BridgeNotReached
		p.asFarAsGoes(most, chain)
		b.Between = &Gap{c.From + 1, c.heaviestStep()}
	}
	b.Weeks = p.weeks
	b.Reached = len(b.Weeks) > 0 && b.Weeks[len(b.Weeks)-1].LoadG == c.To
	b.Why = c.why(b, code)
	return b
}

// why explains a bridge: the rise, the rule, and what the index says.
func (c Climb) why(b Bridge, code why.Code) why.Why {
	w := why.Of(code, why.House, why.G("from", float64(c.From)), why.G("to", float64(c.To)),
		why.Pct("iron", measure.Round(b.IronPct, 1)), why.Pct("resistance", measure.Round(b.ResistancePct, 1)),
		why.N("low", c.RepsLow), why.N("high", c.RepsHigh), why.N("least", LeastAtNext))
	if b.Between != nil {
		w.Terms = append(w.Terms, why.G("betweenFrom", float64(b.Between.FromG)),
			why.G("betweenTo", float64(b.Between.ToG)))
	}
	switch {
	case b.Swung:
		w = w.With(why.Of(why.BridgeSwung, why.House, why.Pct("iron", MaxBallisticStepPct),
			why.G("most", float64(MaxBallisticStep))))
	case b.IronAlone:
		w = w.With(why.Of(why.BridgeIronAlone, why.House, why.Pct("most", MaxIronStepPct)))
	default:
		w = w.With(why.Of(why.BridgeLimits, why.House, why.Pct("iron", MaxIronStepPct),
			why.Pct("resistance", MaxResistanceStepPct)))
	}
	if c.LastReps > 0 {
		w = w.With(why.Of(why.BridgeAtNext, why.Model, why.N("reps", b.AtNext), why.G("to", float64(c.To)),
			why.N("last", c.LastReps), why.G("from", float64(c.From)), why.N("reserve", c.Reserve)))
	}
	if b.Predicted != nil {
		w = w.With(why.Of(why.BridgePredicted, why.Model, why.N("reps", *b.Predicted), why.G("from", float64(c.From)),
			why.N("low", c.RepsLow), why.G("to", float64(c.To)), why.N("reserve", c.Reserve)))
	}
	return w
}

// AtNext is the most repetitions that the index predicts at To, the reserve kept, from
// so many at a load.
func (c Climb) AtNext(load measure.Mass, reps int) int { return c.predict(load, reps, c.To) }

// FarOver tells whether so many in form were far too light for a range, where nobody
// judged the set: half as many again as its high end.
func FarOver(reps, high int) bool { return 2*reps >= 3*high }

func (c Climb) predict(from measure.Mass, reps int, to measure.Mass) int {
	c.OneHand = c.OneHand || c.Variant.HeldByOneHand()
	done, err := Factor(Default, min(mostFactor, reps+c.Reserve))
	if err != nil {
		return 0 // nothing done and nothing left
	}
	index := done * resisted(c.Variant, c.Body, from, c.OneHand)
	n := 0
	for n+1+c.Reserve <= mostFactor {
		f, err := Factor(Default, n+1+c.Reserve)
		if err != nil || f*resisted(c.Variant, c.Body, to, c.OneHand) > index*(1+1e-12) {
			break
		}
		n++
	}
	return n
}

// repsAt is the least number of repetitions with a load that predicts the low end
// of the range at To.
func (c Climb) repsAt(v *moves.Variant, load measure.Mass) (int, bool) {
	f, err := Factor(Default, c.RepsLow+c.Reserve)
	if err != nil {
		return 0, false
	}
	wanted := f * resisted(c.Variant, c.Body, c.To, c.OneHand)
	for n := 1; ; n++ {
		g, err := Factor(Default, n+c.Reserve)
		if err != nil {
			return 0, false
		}
		if g*resisted(v, c.Body, load, c.OneHand) >= wanted*(1-1e-12) {
			return n, true
		}
	}
}

// heaviestStep is the heaviest load, to the gram, that the step rule allows from From.
func (c Climb) heaviestStep() measure.Mass {
	allowed := func(more int) bool {
		return Step(c.Variant, c.Body, c.From, c.From+measure.Mass(more), c.OneHand).Allowed
	}
	// Half as much again is the most that any rule allows.
	return c.From + measure.Mass(sort.Search(int(c.From/2)+1, func(n int) bool { return !allowed(n + 1) }))
}

// link is a load between and how it is come by.
type link struct {
	load measure.Mass
	by   Means
}

// chain climbs over loads that are there, the largest allowed step first; two that
// are held may also differ. ok tells whether To is an allowed step from the last.
// Ballistic moves and presses overhead take no load in between.
func (c Climb) chain() (out []link, ok bool) {
	if c.Variant.Ballistic || c.Variant.Overhead {
		return nil, false
	}
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
		if now > c.From && Step(c.Variant, c.Body, now, c.To, c.OneHand).Allowed {
			return out, true
		}
		next := measure.Mass(0)
		for _, l := range loads {
			if l > now && Step(c.Variant, c.Body, now, l, c.OneHand).Allowed {
				next = l
			}
		}
		if next == 0 {
			return out, false
		}
		out = append(out, link{next, by[next]})
		now = next
	}
}

// planner writes the weeks of a bridge.
type planner struct {
	climb Climb
	weeks []Week
}

func (p *planner) put(load measure.Mass, sets, reps int, by Means) *Week {
	p.weeks = append(p.weeks, Week{
		Week:  len(p.weeks) + 1,
		LoadG: load,
		Sets:  sets,
		Reps:  reps,
		Tempo: p.climb.Variant.Tempo,
		Move:  p.climb.Variant.ID,
		By:    by,
	})
	return &p.weeks[len(p.weeks)-1]
}

// first is the first week at a load: the smaller of the low end and what is predicted,
// one set fewer.
func (p *planner) first(load measure.Mass, predicted int, by Means) {
	p.put(load, max(1, p.climb.Sets-1), min(p.climb.RepsLow, predicted), by)
}

// until goes up in repetitions at From until somebody is ready and three are predicted
// at To, and gives the repetitions reached.
func (p *planner) until(most int, b Bridge) int {
	c := p.climb
	goal := c.LastReps
	if !b.Ready {
		goal = max(goal, c.RepsHigh+1)
	}
	for goal < most && c.AtNext(c.From, goal) < LeastAtNext {
		goal++
	}
	if goal > c.LastReps || !b.Ready {
		p.reps(c.From, c.LastReps, goal)
	}
	return goal
}

// reps goes from some repetitions to more at a load, at least one more a week; the
// same again where they are there already.
func (p *planner) reps(load measure.Mass, from, goal int) {
	if from >= goal {
		p.put(load, p.climb.Sets, goal, ByReps)
		return
	}
	step := max(1, int(math.Ceil(float64(goal-from)/repWeeks)))
	for n := from; n < goal; {
		n = min(n+step, goal)
		p.put(load, p.climb.Sets, n, ByReps)
	}
}

// over goes over loads between: each first as a new load, then to one over the range,
// which a week of two sessions makes ready for the next.
func (p *planner) over(chain []link, reached int) {
	c := p.climb
	now, reps := c.From, reached
	for _, l := range chain {
		predicted := max(LeastAtNext, c.predict(now, reps, l.load))
		p.first(l.load, predicted, l.by)
		if predicted <= c.RepsHigh {
			p.put(l.load, c.Sets, c.RepsHigh+1, ByReps)
			predicted = c.RepsHigh + 1
		}
		now, reps = l.load, predicted
	}
	p.first(c.To, max(LeastAtNext, c.predict(now, reps, c.To)), ByLoad)
}

// blend does one set more at To each week, the others at From, until all are; then the
// whole session is at To. One set is done in two.
func (p *planner) blend(predicted int) {
	c := p.climb
	sets := max(2, c.Sets)
	for n := 1; n <= sets; n++ {
		w := p.put(c.From, sets, c.RepsHigh, ByBlend)
		w.Blend = &Blend{n, c.To, min(predicted, max(c.RepsHigh, LeastAtNext))}
	}
	p.put(c.To, c.Sets, min(c.RepsLow, predicted), ByLoad)
}

// asFarAsGoes takes all that is allowed short of To: repetitions, the loads between
// that are allowed steps, slower lowering, the variant above where it lies between.
func (p *planner) asFarAsGoes(most int, chain []link) {
	c := p.climb
	p.reps(c.From, c.LastReps, most)
	if len(chain) > 0 {
		now, reps := c.From, most
		for _, l := range chain {
			predicted := c.predict(now, reps, l.load)
			if predicted < LeastAtNext {
				return
			}
			p.first(l.load, predicted, l.by)
			p.put(l.load, c.Sets, c.RepsHigh+1, ByReps)
			now, reps = l.load, c.RepsHigh+1
		}
		return
	}
	if c.Variant.Overhead || !c.Variant.SlowerMends() {
		return
	}
	p.put(c.From, c.Sets, c.RepsHigh, ByTempo).Tempo = c.Variant.TempoOf().Slower().String()
	v := c.Above
	if v == nil || v.Family != c.Variant.Family || ironAlone(v, c.OneHand) != ironAlone(c.Variant, c.OneHand) {
		return
	}
	r := resisted(v, c.Body, c.From, c.OneHand)
	if n, ok := c.repsAt(v, c.From); ok && r > resisted(c.Variant, c.Body, c.From, c.OneHand) &&
		r < resisted(c.Variant, c.Body, c.To, c.OneHand) {
		w := p.put(c.From, c.Sets, max(c.RepsLow, min(n, c.RepsHigh)), ByVariant)
		w.Tempo, w.Move = v.Tempo, v.ID
	}
}
