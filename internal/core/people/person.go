package people

import (
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/scheme"
)

// Facts is what is known of a person.
type Facts struct {
	Weaker scheme.Side
	// Records by day, those of one day as they were made.
	Records []Record
	// Spared is what leaves health.
	Spared Spared
}

// Held is a limit that binds somebody, and where it is from.
type Held struct {
	Limit moves.LimitID `json:"limit"`
	From  Origin        `json:"from"`
	// Screen that fell short, where it is from one.
	Screen Screen `json:"screen,omitempty"`
	// Record names the limit that was typed by its place in Facts; -1 for none.
	Record int `json:"-"`
}

// Origin is where a limit is from. Of one that leaves health no more is said.
type Origin string

// The origins.
const (
	FromTyped  Origin = "typed"
	FromScreen Origin = "screen"
	FromHealth Origin = "health"
)

// Origins lists them.
var Origins = []Origin{FromTyped, FromScreen, FromHealth}

// Rung is where somebody stands on a ladder, and since when.
type Rung struct {
	Move   string
	Ladder string
	Rung   int
	Day    int
	Cause  Cause
}

// Standing is how somebody stands on a day: what plans go by.
type Standing struct {
	// Body and Stature are the newest, nil where nobody measured.
	Body, Stature *measure.Quantity
	Weaker        scheme.Side
	// Rungs by ladder.
	Rungs map[string]Rung
	// Benchmarks are the newest of each move that is not old.
	Benchmarks []Benchmark
	Limits     []Held
	// Passed are the screens that were passed when they were last done, Prep the joints that
	// those which were not want made ready.
	Passed []Screen
	Prep   []string
	// Learned are the skills.
	Learned     []Skill
	Out, Ground bool
	// PutBack says since which day a stance factor is the table's again, by its id.
	PutBack map[string]int
}

// On tells how somebody stands on a day. Records of later days are not known yet, but for
// those of a limit: what is to be spared is spared from when it is written down.
func (f Facts) On(day int, lib *moves.Library, fallback measure.Length) Standing {
	s := Standing{Weaker: f.Weaker, Rungs: map[string]Rung{}, Out: f.Spared.Out, Ground: f.Spared.Ground}
	screens := map[Screen]Screening{}
	benchmarks := map[string]Benchmark{}
	var tested []string
	for i, r := range f.Records {
		switch k := r.Kind(); {
		case k == OfLimit:
			if r.Limit.Until == 0 || int(r.Limit.Until) >= day {
				s.hold(r.Limit.Limit, Held{From: FromTyped, Record: i})
			}
		case r.Day > day:
		case k == OfBody:
			if r.Measure.Body != nil {
				s.Body = r.Measure.Body
			}
			if r.Measure.Stature != nil {
				s.Stature = r.Measure.Stature
			}
		case k == OfLevel:
			if v, ok := lib.Get(r.Level.Move); ok && v.Ladder != "" {
				s.Rungs[v.Ladder] = Rung{v.ID, v.Ladder, v.Rung, r.Day, r.Level.Cause}
			}
		case k == OfScreen:
			screens[r.Screen.Screen] = *r.Screen
		case k == OfBenchmark:
			b := *r.Benchmark
			b.Day = r.Day
			if _, had := benchmarks[b.Move]; !had {
				tested = append(tested, b.Move)
			}
			benchmarks[b.Move] = b
		case k == OfLearned && !slices.Contains(s.Learned, r.Learned.Skill):
			s.Learned = append(s.Learned, r.Learned.Skill)
		case k == OfTable:
			if s.PutBack == nil {
				s.PutBack = map[string]int{}
			}
			s.PutBack[r.Table.Stance] = max(s.PutBack[r.Table.Stance], r.Day)
		}
	}
	for _, id := range tested {
		if b := benchmarks[id]; !b.Old(day) {
			s.Benchmarks = append(s.Benchmarks, b)
		}
	}
	stature := fallback
	if s.Stature != nil {
		stature = measure.Length(s.Stature.Whole)
	}
	for _, id := range Screens {
		x, done := screens[id]
		if !done {
			continue
		}
		o := x.Judge(stature)
		if o.Passed {
			s.Passed = append(s.Passed, id)
		}
		for _, l := range o.Limits {
			s.hold(l, Held{From: FromScreen, Screen: id, Record: -1})
		}
		s.Prep = append(s.Prep, o.Prep...)
	}
	for _, l := range f.Spared.Limits {
		s.hold(l, Held{From: FromHealth, Record: -1})
	}
	return s
}

// hold adds what a limit stands for; each is there once, by the first who asks for it.
func (s *Standing) hold(l moves.LimitID, h Held) {
	plain, ok := l.Expand()
	if !ok {
		return
	}
	for _, p := range plain {
		if !slices.ContainsFunc(s.Limits, func(x Held) bool { return x.Limit == p }) {
			h.Limit = p
			s.Limits = append(s.Limits, h)
		}
	}
}

// Plain lists the limits by their ids.
func (s Standing) Plain() []moves.LimitID {
	var out []moves.LimitID
	for _, h := range s.Limits {
		out = append(out, h.Limit)
	}
	return out
}

// On tells whether somebody stands on a rung of a move's ladder, and which.
func (s Standing) On(v *moves.Variant) (r Rung, ok bool) {
	if v.Ladder == "" {
		return r, false
	}
	r, ok = s.Rungs[v.Ladder]
	return r, ok
}

// Tried is a set in front of the body that counts towards the gate to a bar on the back:
// Load all together, FormReps those in form.
type Tried struct {
	Load     measure.Mass
	FormReps int
}

// Attempt gathers what somebody has done at the gate to a bar on the back: of all sets the one
// that comes nearest. Bodies are those of the standing, or what the party is reckoned with.
func (s Standing) Attempt(bodyMass, heaviest measure.Mass, tried []Tried, goal bool) Attempt {
	a := Attempt{
		Body: bodyMass, Heaviest: heaviest, Goal: goal,
		Bracing: slices.Contains(s.Learned, Bracing), SlowFive: slices.Contains(s.Learned, SlowFive),
	}
	for _, x := range s.Passed {
		if slices.Contains(JointScreens, x) {
			a.Screens = append(a.Screens, x)
		}
	}
	for _, t := range tried {
		now := a
		now.Load, now.FormReps = t.Load, t.FormReps
		if a.FormReps == 0 || nearer(now, a) {
			a = now
		}
	}
	return a
}

// nearer tells whether an attempt comes nearer to the gate than another: less is missing, then
// the heavier, then more repetitions.
func nearer(a, b Attempt) bool {
	x, y := len(a.Missing()), len(b.Missing())
	if x != y {
		return x < y
	}
	if a.Load != b.Load {
		return a.Load > b.Load
	}
	return a.FormReps > b.FormReps
}
