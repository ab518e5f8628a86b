package strength

import "nimbleanvil/internal/core/why"

// Verdict says whether a set had the right weight.
type Verdict string

// The verdicts, in the order in which they are looked at.
const (
	FormLost    Verdict = "form-lost"
	Heavy       Verdict = "heavy"
	FarTooLight Verdict = "far-too-light"
	Light       Verdict = "light"
	Right       Verdict = "right"
)

// Set is one finished set. Reserve is nil when nobody was asked.
type Set struct {
	Planned, Done, InForm int
	Reserve               *int
	// High is the high end of what was planned as a range, whose low end is Planned then.
	High int
	// ToFailure was to go on until few were left; Seconds are what is counted.
	ToFailure, Seconds bool
}

// Judge gives the verdict on a set and, beside Right, whether it was at the
// limit (common practice, no source: of 10 planned the eighth should already be
// hard; if 15 would go it is far too light). The first rule that applies holds;
// n are the repetitions in form, each number of a set of few is house:
//
//	form lost      n < done and n < planned - 1
//	heavy          n < planned - 2, or under two thirds of what was planned
//	far too light  n at least half as many again and three more, or five in reserve
//	light          n at least two more, or four in reserve
//
// Of a range it is its low end that is fallen short of, its high end that is gone beyond. In
// a set until few are left a reserve of 0 or 1 is as planned.
func Judge(s Set) (Verdict, bool) {
	n, high := s.InForm, max(s.High, s.Planned)
	reserve := -1
	if s.Reserve != nil {
		reserve = *s.Reserve
	}
	switch {
	case s.Seconds:
		return s.bySeconds(reserve)
	case n < s.Done && n < s.Planned-1:
		return FormLost, false
	case n < s.Planned-2 || 3*n < 2*s.Planned:
		return Heavy, false
	case s.ToFailure: // as many as went: only what was left says whether it was enough
		switch {
		case reserve >= 5:
			return FarTooLight, false
		case reserve == 4:
			return Light, false
		}
		return Right, false
	case n >= (3*high+1)/2 && n >= high+3 || reserve >= 5:
		return FarTooLight, false
	case n >= high+2 || reserve == 4:
		return Light, false
	}
	return Right, reserve == 0 || n == s.Planned-1 || n == s.Planned-2
}

// bySeconds judges a set that is held for a time: two seconds more or less say nothing.
func (s Set) bySeconds(reserve int) (Verdict, bool) {
	switch {
	case s.InForm < s.Done && 3*s.InForm < 2*s.Planned:
		return FormLost, false
	case 3*s.InForm < 2*s.Planned:
		return Heavy, false
	case 2*s.InForm >= 3*s.Planned || reserve >= 5:
		return FarTooLight, false
	case reserve == 4:
		return Light, false
	}
	return Right, reserve == 0
}

// WhyVerdict explains a verdict.
func WhyVerdict(s Set, v Verdict, atLimit bool) why.Why {
	code := map[Verdict]why.Code{
		FormLost: why.VerdictFormLost, Heavy: why.VerdictHeavy, FarTooLight: why.VerdictFarTooLight,
		Light: why.VerdictLight, Right: why.VerdictRight,
	}[v]
	if atLimit {
		code = why.VerdictAtLimit
	}
	w := why.Of(code, why.Practice, why.N("planned", s.Planned), why.N("done", s.Done), why.N("inForm", s.InForm))
	if s.Reserve != nil {
		w.Terms = append(w.Terms, why.N("reserve", *s.Reserve))
	}
	return w
}
