package studio

import (
	"context"
	"errors"
	"strconv"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/room"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/names"
)

// ForWhom is the body that loads are looked at for, as typed; missing is the lane's
// default.
type ForWhom struct {
	Body    string `json:"body,omitempty" maxLength:"40"`
	Stature string `json:"stature,omitempty" maxLength:"40"`
}

// RuleInput asks for a load rule.
type RuleInput struct {
	Holding kit.Holding `json:"holding" enum:"one-hand,two-hands,goblet,back,hips"`
	Move    string      `json:"move" maxLength:"60" doc:"the rises are for it; its limits count"`
	ForWhom
}

// Rise is the way from one load to the next.
type Rise struct {
	IronPct       float64 `json:"ironPct"`
	ResistancePct float64 `json:"resistancePct"`
	IronAlone     bool    `json:"ironAlone" doc:"only the iron counts here"`
	Allowed       bool    `json:"allowed" doc:"at once"`
}

func riseOf(r strength.Rise) Rise {
	return Rise{measure.Round(r.IronPct, 1), measure.Round(r.ResistancePct, 1), r.IronAlone, r.Allowed}
}

// RuleMark is one load on a rule.
type RuleMark struct {
	Load   kit.Load     `json:"load"`
	Hold   moves.HoldID `json:"hold"`
	TotalG measure.Mass `json:"totalG"`
	Up     *Rise        `json:"up,omitempty" doc:"to the next; missing for the heaviest"`
}

// RuleGap is a stretch without loads of more than a tenth.
type RuleGap struct {
	FromG measure.Mass `json:"fromG"`
	ToG   measure.Mass `json:"toG"`
	Rise
}

// LoadRule is every load a place makes for a way of holding.
type LoadRule struct {
	BodyG measure.Mass `json:"bodyG"`
	Marks []RuleMark   `json:"marks"`
	Gaps  []RuleGap    `json:"gaps"`
	MaxG  measure.Mass `json:"maxBagG" doc:"the most any bag may weigh"`
}

// MakeInput is a wish for one load, or two equal ones.
type MakeInput struct {
	Target    string `json:"target" maxLength:"40"`
	Tolerance string `json:"tolerance,omitempty" maxLength:"40" doc:"missing is 100 g; 0 is to the gram"`
	Loads     int    `json:"loads" minimum:"1" maximum:"2"`
	Container string `json:"container,omitempty" maxLength:"26" doc:"id; missing: held without one"`
	Soft      bool   `json:"soft,omitempty" doc:"soft contents only"`
}

// MadeLoad is one load with its packing list.
type MadeLoad struct {
	Load   kit.Load     `json:"load"`
	TotalG measure.Mass `json:"totalG"`
	ErrorG measure.Mass `json:"errorG"`
}

// MakeAnswer is the best there is.
type MakeAnswer struct {
	TargetG    measure.Mass `json:"targetG"`
	ToleranceG measure.Mass `json:"toleranceG"`
	Feasible   bool         `json:"feasible"`
	Exact      bool         `json:"exact" doc:"proven: nothing else is better"`
	WithinG    measure.Mass `json:"withinG" doc:"where it is not proven: how much nearer the best there is might be; 0 where only the things packed are not proven"`
	Loads      []MadeLoad   `json:"loads"`
	Below      []MadeLoad   `json:"below"`
	Above      []MadeLoad   `json:"above"`
	MaxG       measure.Mass `json:"maxG" doc:"the most the container may weigh; 0 without one"`
	Check      []string     `json:"check" doc:"what to look at before use"`
	Goes       []string     `json:"goes" enum:"front,hand,hips,back" doc:"where the container goes on the body"`
	// LeftOut are the things of the place that no load here has in it.
	LeftOut []kit.LeftOut `json:"leftOut"`
}

// SubstituteInput is a set that a place may not have the load for.
type SubstituteInput struct {
	Move    string       `json:"move" maxLength:"60"`
	Hold    moves.HoldID `json:"hold" maxLength:"20"`
	Lane    moves.Lane   `json:"lane" enum:"ground,middle,reach"`
	Load    string       `json:"load,omitempty" maxLength:"40" doc:"all together; missing is the lane's starting load"`
	Reps    int          `json:"reps" minimum:"1" maximum:"30"`
	Reserve int          `json:"reserve" minimum:"0" maximum:"5"`
	Missing string       `json:"missing,omitempty" maxLength:"26" doc:"an implement of the place that is not to be had, no piece of it: without a load its mass is wanted"`
	First   bool         `json:"first,omitempty" doc:"somebody's first session with it"`
	ForWhom
}

// SubstituteOption is one way to be as hard with what is there.
type SubstituteOption struct {
	Way           choice.Way      `json:"way" enum:"implement,object,made,two,one-sided,tempo,lever,move"`
	Move          string          `json:"move"`
	Hold          moves.HoldID    `json:"hold"`
	Load          kit.Load        `json:"load"`
	LoadG         measure.Mass    `json:"loadG"`
	Reps          int             `json:"reps"`
	Tempo         string          `json:"tempo"`
	Repairs       []choice.Repair `json:"repairs" enum:"more-reps,fewer-reps,slower,pause"`
	Compared      bool            `json:"compared" doc:"whether the two may be compared; where not, the numbers say nothing"`
	ReachedG      measure.Mass    `json:"reachedG" doc:"comparable resistance, or iron"`
	ResistancePct float64         `json:"resistancePct"`
	IronPct       float64         `json:"ironPct"`
	LeftPct       float64         `json:"leftPct" doc:"off the wanted effort after the mends, by repetitions"`
	Lost          []string        `json:"lost"`
	Gained        []string        `json:"gained"`
	Check         []string        `json:"check"`
	Anchors       []string        `json:"anchors"`
	Why           why.Why         `json:"why"`
}

// SubstituteAnswer ranks what a place has for a wish.
type SubstituteAnswer struct {
	LoadG   measure.Mass       `json:"loadG" doc:"what was wished, all together"`
	WantedG measure.Mass       `json:"wantedG" doc:"comparable resistance, or iron"`
	Options []SubstituteOption `json:"options"`
	// Limits say what this kind of kit cannot do, where there is nothing.
	Limits []moves.Beyond `json:"limits"`
}

// BridgeInput is a jump in load.
type BridgeInput struct {
	Move         string       `json:"move" maxLength:"60"`
	Hold         moves.HoldID `json:"hold" maxLength:"20"`
	From         string       `json:"from" maxLength:"40"`
	To           string       `json:"to" maxLength:"40"`
	RepsLow      int          `json:"repsLow" minimum:"1" maximum:"100"`
	RepsHigh     int          `json:"repsHigh" minimum:"1" maximum:"100"`
	LastReps     int          `json:"lastReps" minimum:"0" maximum:"100"`
	Sets         int          `json:"sets,omitempty" minimum:"1" maximum:"20" default:"3"`
	SessionsOver int          `json:"sessionsOver" minimum:"0" maximum:"100"`
	Reserve      int          `json:"reserve" minimum:"0" maximum:"20"`
	ForWhom
}

// BridgeWeek is a week with the load that the place makes for it.
type BridgeWeek struct {
	strength.Week
	Load  *kit.Load    `json:"load,omitempty" doc:"missing where the place does not make it"`
	MadeG measure.Mass `json:"madeG" doc:"what that load weighs, within 50 g of the week's"`
}

// BridgeAnswer says whether the jump may be made now, and the weeks between.
type BridgeAnswer struct {
	Rise
	FromG     measure.Mass  `json:"fromG"`
	ToG       measure.Mass  `json:"toG"`
	Ready     bool          `json:"ready"`
	Predicted *int          `json:"predictedReps"`
	AtNext    int           `json:"atNext" doc:"predicted at the load to come from the last set"`
	Reached   bool          `json:"reached" doc:"whether the last week is at the load to come"`
	Between   *strength.Gap `json:"between" orNull:"true" doc:"the mass to look for where it is not reached"`
	Weeks     []BridgeWeek  `json:"weeks"`
	Why       why.Why       `json:"why"`
}

// FitPerson is somebody to fit a box and a bench to.
type FitPerson struct {
	Name    names.Name `json:"name"`
	Stature string     `json:"stature,omitempty" maxLength:"40"`
	Knee    string     `json:"knee,omitempty" maxLength:"40" doc:"measured, shoes on; it wins over the stature"`
}

// FitInput are people who share a place's benches.
type FitInput struct {
	People []FitPerson `json:"people" minItems:"1" maxItems:"40"`
}

// FitBench is a bench of the place under somebody.
type FitBench struct {
	Item    string            `json:"item"`
	Verdict body.BenchVerdict `json:"verdict" enum:"fits,raise,too-high,too-low"`
	RaiseMm measure.Length    `json:"raiseMm" doc:"under feet and hips together"`
}

// FitFor is what fits somebody.
type FitFor struct {
	Name    string         `json:"name"`
	KneeMm  measure.Length `json:"kneeMm"`
	BoxMm   body.Range     `json:"boxMm" doc:"to sit back to"`
	BenchMm body.Range     `json:"benchMm" doc:"for hip thrusts"`
	Boxes   []string       `json:"boxes" doc:"of the place that fit to sit back to"`
	Benches []FitBench     `json:"benches"`
	HeelMm  measure.Length `json:"heelMm"`
	HeelDeg float64        `json:"heelDeg" doc:"of ankle range that the raise saves"`
}

// FitSetting is one height of a shared bench and who uses it.
type FitSetting struct {
	HeightMm measure.Length `json:"heightMm"`
	People   []string       `json:"people"`
}

// FitAnswer is what fits whom, and one bench in the order of fewest changes.
type FitAnswer struct {
	People  []FitFor     `json:"people"`
	Order   []FitSetting `json:"order"`
	Changes int          `json:"changes" doc:"after the first setting"`
}

// withPlace reads a place and answers from it, unless something is wrong.
func withPlace[In, Out any](
	ctx context.Context,
	s Studio,
	id string,
	in In,
	wrong *fault.List,
	f func(context.Context, Place, typing, In) Out,
) (out Out, err error) {
	p, err := s.Place(ctx, id)
	if err != nil {
		return out, err
	}
	back, err := s.Search(ctx)
	if err != nil {
		return out, err
	}
	defer back()
	out = f(ctx, p, typing{measure.Unit(p.MassUnit), wrong}, in)
	return out, wrong.Err()
}

// LoadRule gives every load that a place makes for a way of holding.
func (s Studio) LoadRule(ctx context.Context, place string, in RuleInput, wrong *fault.List) (LoadRule, error) {
	return withPlace(ctx, s, place, in, wrong, loadRule)
}

// MakeLoad gives the best load that a place's objects make.
func (s Studio) MakeLoad(ctx context.Context, place string, in MakeInput, wrong *fault.List) (MakeAnswer, error) {
	return withPlace(ctx, s, place, in, wrong, makeLoad)
}

// Substitutes ranks what a place has for a set.
func (s Studio) Substitutes(
	ctx context.Context,
	place string,
	in SubstituteInput,
	wrong *fault.List,
) (SubstituteAnswer, error) {
	return withPlace(ctx, s, place, in, wrong, substitutes)
}

// BridgeJump bridges a jump in load with what a place makes.
func (s Studio) BridgeJump(ctx context.Context, place string, in BridgeInput, wrong *fault.List) (BridgeAnswer, error) {
	return withPlace(ctx, s, place, in, wrong, bridgeJump)
}

// Jump is a rise in load that a place can make.
type Jump struct {
	Move  string       `json:"move"`
	Hold  moves.HoldID `json:"hold"`
	FromG measure.Mass `json:"fromG"`
	ToG   measure.Mass `json:"toG" doc:"the next heavier load in this hold, more than a tenth above"`
}

// FirstJump gives a jump to begin with at a place: of the moves people usually load first,
// the first that the place holds two loads for. None where it has no two.
func (s Studio) FirstJump(ctx context.Context, place string) ([]Jump, error) {
	p, err := s.Place(ctx, place)
	if err != nil {
		return nil, err
	}
	var all []*moves.Variant
	for _, id := range []string{"goblet-squat", "romanian-deadlift"} {
		if v, ok := p.library.Get(id); ok {
			all = append(all, v)
		}
	}
	for _, v := range p.library.All() {
		if (v.Family == body.Squat || v.Family == body.Hinge || v.Family == body.Bridge) && !v.Staged() {
			all = append(all, v)
		}
	}
	for _, v := range all {
		for _, id := range v.Holds {
			h, _ := moves.HoldOf(id)
			if from, to, ok := kit.FirstStep(p.stock.Totals(v, h)); ok {
				return []Jump{{v.ID, id, from, to}}, nil
			}
		}
	}
	return []Jump{}, nil
}

// FitPeople fits boxes and benches of a place to people.
func (s Studio) FitPeople(ctx context.Context, place string, in FitInput, wrong *fault.List) (FitAnswer, error) {
	return withPlace(ctx, s, place, in, wrong, fitPeople)
}

// who reads a body and a stature in a place's unit.
func (w ForWhom) who(t typing) (measure.Mass, measure.Length) {
	mass, stature := plan.DefaultBody, plan.DefaultStature
	if !blankText(w.Body) {
		q, err := people.ReadBody(w.Body, t.unit)
		if err != nil {
			t.wrong.Note("body", err.Error(), w.Body)
		}
		mass = measure.Mass(q.Whole)
	}
	if !blankText(w.Stature) {
		stature = t.stature("stature", w.Stature)
	}
	return mass, stature
}

func loadRule(_ context.Context, p Place, t typing, in RuleInput) LoadRule {
	who, _ := in.who(t)
	v := t.move(p, in.Move, nil)
	if t.wrong.Err() != nil {
		return LoadRule{}
	}
	out := LoadRule{BodyG: who, Marks: []RuleMark{}, Gaps: []RuleGap{}, MaxG: kit.MaxBag}
	var totals []measure.Mass
	for _, m := range p.stock.Marks(in.Holding, v, who) {
		x := RuleMark{Load: m.Load, Hold: m.Hold, TotalG: m.Total}
		if m.Up != nil {
			up := riseOf(*m.Up)
			x.Up = &up
		}
		out.Marks = append(out.Marks, x)
		totals = append(totals, m.Total)
	}
	for _, g := range kit.Gaps(totals) {
		out.Gaps = append(out.Gaps,
			RuleGap{g.From, g.To, riseOf(strength.Step(v, who, g.From, g.To, in.Holding == kit.OneHand))})
	}
	return out
}

// usualTolerance is how near a made load should come unless somebody says otherwise.
const usualTolerance = "100 g"

// tolerance reads how near a load should come, which may be nothing: to the gram.
func (t typing) tolerance(text string) measure.Mass {
	r, err := measure.ReadMass(text, t.unit, measure.MaxLoad)
	if fault := (*measure.Fault)(nil); errors.As(err, &fault) && fault.Code == "zero" {
		return 0
	}
	return measure.Mass(wholeOf(t.keep("tolerance", text, r, err)))
}

func makeLoad(ctx context.Context, p Place, t typing, in MakeInput) MakeAnswer {
	if blankText(in.Tolerance) {
		in.Tolerance = usualTolerance
	}
	out := MakeAnswer{
		TargetG:    measure.Mass(wholeOf(t.mass("target", in.Target))),
		ToleranceG: t.tolerance(in.Tolerance),
	}
	supply, ok := p.stock.Supply(in.Container, in.Soft)
	if !ok {
		t.wrong.Note("container", "there is no such container here", in.Container)
	}
	if t.wrong.Err() != nil {
		return out
	}
	if in.Container != "" {
		out.MaxG = supply.Container.Max
	}
	made := supply.Make(ctx, out.TargetG, out.ToleranceG, in.Loads)
	out.Exact, out.WithinG = made.Exact, made.Within
	list := func(rs []kit.Recipe) []MadeLoad {
		loads := []MadeLoad{}
		for _, r := range rs {
			if len(r.Parts) == 0 && in.Container == "" {
				return []MadeLoad{} // an empty hand is no load
			}
			loads = append(loads, MadeLoad{kit.Packed(in.Container, r), r.Total, r.Total - out.TargetG})
		}
		return loads
	}
	out.Feasible, out.Loads = made.Feasible(), list(made.Loads)
	out.Below, out.Above = list(made.Below), list(made.Above)
	out.Check, out.Goes = p.stock.PackingChecks(in.Container), p.stock.WornAt(in.Container)
	out.LeftOut = p.stock.LeftOut(in.Container, in.Soft)
	return out
}

func substitutes(_ context.Context, p Place, t typing, in SubstituteInput) SubstituteAnswer {
	who, stature := in.who(t)
	v := t.move(p, in.Move, &in.Hold)
	var wished *measure.Typed
	if !blankText(in.Load) {
		wished = t.mass("load", in.Load)
	}
	gone, known := p.stock.Implement(in.Missing)
	if in.Missing != "" && (!known || gone.Mass == 0) {
		t.wrong.Note("missing", "name a weight of this place", in.Missing)
	}
	if t.wrong.Err() != nil {
		return SubstituteAnswer{}
	}
	w := choice.Usual(v, in.Hold,
		choice.Party{Lane: in.Lane, Body: who, Stature: stature, BodyUnknown: blankText(in.Body)})
	w.Reps, w.Reserve, w.FirstTime = in.Reps, in.Reserve, in.First
	if wished != nil {
		w.Load = measure.Mass(wholeOf(wished))
	}
	if in.Missing != "" {
		if wished == nil {
			h, _ := moves.HoldOf(in.Hold)
			w.Load = gone.Mass * measure.Mass(max(h.Count, 1))
		}
		p.stock = p.stock.Without(in.Missing)
	}
	out := SubstituteAnswer{
		LoadG:   w.Load,
		WantedG: measure.Grams(w.Asked()),
		Options: []SubstituteOption{},
		Limits:  []moves.Beyond{},
	}
	class := choice.Class{Library: p.library, Stock: p.stock, Past: progress.Past{Known: []string{progress.All}}}
	for _, x := range choice.Substitutes(class, w, maxSubstitutes) {
		out.Options = append(out.Options, SubstituteOption{
			x.Way,
			x.Variant.ID,
			x.Hold,
			x.Load,
			x.Total,
			x.Reps,
			x.Tempo,
			listOf(x.Repairs),
			x.Compared,
			measure.Grams(x.Reached),
			measure.Round(x.ResistancePct, 1),
			measure.Round(x.IronPct, 1),
			measure.Round(x.LeftPct, 1),
			listOf(x.Lost),
			listOf(x.Gained),
			listOf(x.Check),
			listOf(x.Supports),
			x.Why,
		})
	}
	if len(out.Options) == 0 {
		out.Limits = p.library.BeyondKit(v.Pattern)
	}
	return out
}

// maxSubstitutes is how many options are worth reading.
const maxSubstitutes = 30

func listOf[T any](in []T) []T { return append([]T{}, in...) }

func bridgeJump(_ context.Context, p Place, t typing, in BridgeInput) BridgeAnswer {
	who, _ := in.who(t)
	v := t.move(p, in.Move, &in.Hold)
	from, to := measure.Mass(wholeOf(t.mass("from", in.From))), measure.Mass(wholeOf(t.mass("to", in.To)))
	if to <= from && t.wrong.Good("from") {
		t.wrong.Note("to", "it is over the load there is now", in.To)
	}
	if in.RepsHigh < in.RepsLow && t.wrong.Good("repsLow") {
		t.wrong.Note("repsHigh", "it is not under the low end", in.RepsHigh)
	}
	if v != nil && v.Staged() {
		t.wrong.Note("move", "get-ups go by rungs and single repetitions, not by a bridge", in.Move)
	}
	if t.wrong.Err() != nil {
		return BridgeAnswer{}
	}
	h, _ := moves.HoldOf(in.Hold)
	c := strength.Climb{
		Variant:      v,
		OneHand:      h.OneHand,
		Body:         who,
		From:         from,
		To:           to,
		RepsLow:      in.RepsLow,
		RepsHigh:     in.RepsHigh,
		LastReps:     in.LastReps,
		SessionsOver: in.SessionsOver,
		Reserve:      in.Reserve,
		Sets:         in.Sets,
		FarTooLight:  strength.FarOver(in.LastReps, in.RepsHigh),
	}
	c.Between = p.stock.Totals(v, h)
	c.Above, _ = p.library.Above(v)
	b := strength.Over(c)
	out := BridgeAnswer{
		Rise:      riseOf(b.Rise),
		FromG:     from,
		ToG:       to,
		Ready:     b.Ready,
		Predicted: b.Predicted,
		AtNext:    b.AtNext,
		Reached:   b.Reached,
		Between:   b.Between,
		Weeks:     []BridgeWeek{},
		Why:       b.Why,
	}
	for _, w := range b.Weeks {
		week := BridgeWeek{Week: w}
		if o, ok := p.stock.About(v, h, w.LoadG); ok {
			week.Load, week.MadeG = &o.Load, o.Total
		}
		out.Weeks = append(out.Weeks, week)
	}
	return out
}

func fitPeople(_ context.Context, p Place, t typing, in FitInput) FitAnswer {
	out := FitAnswer{People: []FitFor{}, Order: []FitSetting{}}
	var sitters []room.Sitter
	for i, who := range in.People {
		field := func(name string) string { return "people[" + strconv.Itoa(i) + "]." + name }
		var typedStature, typedKnee measure.Length
		if !blankText(who.Stature) {
			typedStature = t.stature(field("stature"), who.Stature)
		}
		if !blankText(who.Knee) {
			typedKnee = measure.Length(wholeOf(t.length(field("knee"), who.Knee, body.MaxKnee)))
		}
		stature, knee, _ := body.Build(typedStature, typedKnee)
		if knee < float64(body.MinKnee) {
			t.wrong.Note(field("stature"), "a stature from 100 to 230 cm, or a knee height from 28.5 cm", who.Stature)
		}
		if t.wrong.Err() != nil {
			continue
		}
		f := FitFor{
			Name:    string(who.Name),
			KneeMm:  measure.Length(measure.Round(knee, 0)),
			BoxMm:   body.SitBackBox(knee),
			BenchMm: body.ThrustBench(knee),
			Boxes:   []string{},
			Benches: []FitBench{},
			HeelMm:  body.HeelRaise,
			HeelDeg: measure.Round(body.HeelRaiseAngle(body.HeelRaise, stature), 1),
		}
		f.Boxes = append(f.Boxes, p.stock.BoxesFor(knee)...)
		for _, b := range p.stock.BenchesFor(knee) {
			f.Benches = append(f.Benches, FitBench{b.Item, b.Verdict, b.Raise})
		}
		out.People = append(out.People, f)
		sitters = append(sitters, room.Sitter{ID: string(who.Name), Fit: f.BenchMm})
	}
	for _, x := range room.BenchOrder(sitters) {
		out.Order = append(out.Order, FitSetting{x.Height, x.People})
	}
	out.Changes = len(out.Order) - 1
	return out
}
