package progress

import (
	"cmp"
	"math"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
)

// How a stance factor is learned anew (house): a pair is a set on two legs and one on one leg
// or split, at most pairWithin days apart, each in form with one to four in reserve; from two
// pairs on the median of the last five counts, within LeastStance and MostStance of the table,
// and moves the factor by at most stanceStep a session.
const (
	pairWithin              = 28
	leastPairs, newestPairs = 2, 5
	LeastStance, MostStance = 0.8, 1.25
	stanceStep              = 0.05
	leastLeft, mostLeft     = 1, 4
)

// newestSessions is how many sessions an index is the median of (house).
const newestSessions = 5

// Showing is a set that shows what somebody can on a scale: Reps are those in form, Left what
// counts as left, Index the resistance index in grams that it shows.
type Showing struct {
	Day   int
	Move  string
	Load  measure.Mass
	Reps  int
	Left  int
	Index float64
}

// StancePair is a set on one leg, or split, beside one on two legs, and the factor at which
// both show the same.
type StancePair struct {
	One, Two Showing
	Factor   float64
}

// Day on which the later of both was done.
func (p StancePair) Day() int { return max(p.One.Day, p.Two.Day) }

// Stance is a stance factor of the table as it was learned for somebody. Factor is the table's
// until there are pairs enough.
type Stance struct {
	// ID names scale and table factor, as in "squat-1.35".
	ID     string
	Scale  string
	Table  float64
	Factor float64
	// Pairs are the last ones, the oldest first: those that count.
	Pairs []StancePair
}

// Index is what somebody can on a scale by their log: the median of what their last sessions
// show, in grams of comparable resistance for one repetition (model).
type Index struct {
	Scale string
	Index float64
	// ByReps says that what was left was not asked: with under six sessions, and where nobody
	// said.
	ByReps bool
	// Sets are the best of each of the sessions that count, the oldest first.
	Sets []Showing
}

// Ability is what somebody's log says that they can.
type Ability struct {
	Stances []Stance
	Indices []Index
}

// Learn reads from somebody's own lines, the oldest first, what they can on a day. A stance
// that was put back to the table is learned only from what was done after that day.
func Learn(lib *moves.Library, mass measure.Mass, lines []Line, putBack map[string]int, day int) Ability {
	var a Ability
	sets := shows(lib, mass, lines)
	for _, s := range sets {
		v, _ := lib.Get(s.Move)
		if id, ok := v.StanceFactor(); ok &&
			!slices.ContainsFunc(a.Stances, func(x Stance) bool { return x.ID == id }) {
			a.Stances = append(a.Stances, learnStance(lib, sets, v, id, putBack[id]))
		}
	}
	slices.SortFunc(a.Stances, func(x, y Stance) int { return cmp.Compare(x.ID, y.ID) })
	sessions := map[int]bool{}
	for _, l := range lines {
		if !l.Common && !l.Bare {
			sessions[l.Day] = true
		}
	}
	a.Indices = a.indices(lib, sets, len(sessions) >= trustedSessions, day)
	return a
}

// shown is a set with how it was told.
type shown struct {
	Showing
	told      *int
	asPlanned bool // as many as were planned
}

// shows lists the sets that show something: of somebody's own, in form, counted in repetitions,
// on a scale in which the body shares, and no throws.
func shows(lib *moves.Library, mass measure.Mass, lines []Line) []shown {
	var out []shown
	for _, l := range lines {
		v, ok := lib.Get(l.Variant)
		if !ok || l.Common || l.Bare || l.Aside || l.Pain == Joint || l.Seconds || l.LighterG != nil || l.InForm < 1 ||
			l.InForm < l.Done || !Gauged(v) {
			continue
		}
		r, err := v.Resistance.Resist(mass, l.Load, v.Setting())
		if err != nil {
			continue
		}
		out = append(out, shown{
			Showing{Day: l.Day, Move: v.ID, Load: l.Load, Reps: l.InForm, Index: r.Comparable},
			l.Reserve,
			l.InForm >= l.Planned,
		})
	}
	slices.SortStableFunc(out, func(a, b shown) int { return cmp.Compare(a.Day, b.Day) })
	return out
}

// Gauged tells whether sets of a move say what somebody can on its scale: the body shares in a
// squat, hinge or bridge that is no throw, nothing overhead and not done in stages.
func Gauged(v *moves.Variant) bool {
	switch v.Family {
	case body.Squat, body.Hinge, body.Bridge:
		return !v.Ballistic && !v.Overhead && !v.Staged() && !v.Drill && len(v.Parts) == 0 &&
			len(v.Resistance.Heights) == 0 && v.BodyShares()
	}
	return false
}

// factor gives the default equation's for so many repetitions; 0 where it is refused.
func factor(reps int) float64 {
	f, err := strength.Factor(strength.Default, reps)
	if err != nil {
		return 0
	}
	return f
}

// learnStance goes through somebody's sets a session at a time.
func learnStance(lib *moves.Library, sets []shown, like *moves.Variant, id string, putBack int) Stance {
	s := Stance{ID: id, Scale: like.Scale(), Table: like.Resistance.Stance, Factor: like.Resistance.Stance}
	var one, two []Showing // one: not paired yet
	for i := 0; i < len(sets); {
		today := sets[i].Day
		var ones, twos []Showing
		for ; i < len(sets) && sets[i].Day == today; i++ {
			x := sets[i]
			v, _ := lib.Get(x.Move)
			if v.Scale() != s.Scale || x.told == nil || *x.told < leastLeft || *x.told > mostLeft ||
				putBack != 0 && today <= putBack {
				continue
			}
			x.Left = *x.told
			if x.Index *= factor(x.Reps + x.Left); x.Index == 0 {
				continue
			}
			if its, split := v.StanceFactor(); !split {
				twos = append(twos, x.Showing)
			} else if its == id {
				ones = append(ones, x.Showing)
			}
		}
		had := len(s.Pairs)
		near := func(all []Showing) (Showing, bool) {
			n := len(all)
			if n == 0 || today-all[n-1].Day > pairWithin {
				return Showing{}, false
			}
			return all[n-1], true
		}
		if len(twos) > 0 { // one that waited for it
			if x, ok := near(one); ok && len(ones) == 0 {
				s.pair(x, twos[len(twos)-1])
				one = one[:len(one)-1]
			}
		}
		two = append(two, twos...)
		for _, x := range ones {
			if y, ok := near(two); ok {
				s.pair(x, y)
			} else {
				one = append(one, x)
			}
		}
		if len(s.Pairs) > had {
			s.move()
		}
	}
	if n := len(s.Pairs); n > newestPairs {
		s.Pairs = s.Pairs[n-newestPairs:]
	}
	return s
}

func (s *Stance) pair(one, two Showing) {
	s.Pairs = append(s.Pairs, StancePair{one, two, s.Table * one.Index / two.Index})
}

// move brings the factor nearer to what the last pairs say.
func (s *Stance) move() {
	n := len(s.Pairs)
	if n < leastPairs {
		return
	}
	var last []float64
	for _, p := range s.Pairs[max(0, n-newestPairs):] {
		last = append(last, p.Factor)
	}
	to := min(max(median(last), LeastStance*s.Table), MostStance*s.Table)
	s.Factor += min(max(to-s.Factor, -stanceStep*s.Factor), stanceStep*s.Factor)
}

func median(all []float64) float64 {
	slices.Sort(all)
	n := len(all)
	if n%2 == 1 {
		return all[n/2]
	}
	return (all[n/2-1] + all[n/2]) / 2
}

// Stance gives the factor by which a move is compared for somebody.
func (a Ability) Stance(v *moves.Variant) float64 {
	if id, ok := v.StanceFactor(); ok {
		for _, s := range a.Stances {
			if s.ID == id {
				return s.Factor
			}
		}
	}
	return v.Resistance.Stance
}

// indices reads off what the last sessions of each scale show. Beginners say too few are left:
// until somebody's word is taken, and where nothing was said, a set as planned counts as one
// with the usual reserve, one that fell short as one to the end (house).
func (a Ability) indices(lib *moves.Library, sets []shown, trusted bool, day int) []Index {
	var out []Index
	at := map[string]int{}
	for _, x := range sets {
		v, _ := lib.Get(x.Move)
		if day-x.Day >= startingAfter {
			continue
		}
		switch {
		case trusted && x.told != nil:
			x.Left = *x.told
		case x.asPlanned:
			x.Left = strength.UsualReserve
		}
		if x.Index *= factor(x.Reps+x.Left) * v.Resistance.Stance / a.Stance(v); x.Index == 0 {
			continue
		}
		i, had := at[v.Scale()]
		if !had {
			i = len(out)
			at[v.Scale()] = i
			out = append(out, Index{Scale: v.Scale()})
		}
		o := &out[i]
		o.ByReps = o.ByReps || !trusted || x.told == nil
		if n := len(o.Sets); n > 0 && o.Sets[n-1].Day == x.Day {
			if x.Index > o.Sets[n-1].Index {
				o.Sets[n-1] = x.Showing
			}
			continue
		}
		o.Sets = append(o.Sets, x.Showing)
	}
	for i := range out {
		o := &out[i]
		o.Sets = o.Sets[max(0, len(o.Sets)-newestSessions):]
		var all []float64
		for _, s := range o.Sets {
			all = append(all, s.Index)
		}
		o.Index = median(all)
	}
	slices.SortFunc(out, func(x, y Index) int { return cmp.Compare(x.Scale, y.Scale) })
	return out
}

// Index gives somebody's index on a move's scale; ok is false with under two sessions of it,
// and for what says nothing on its scale.
func (a Ability) Index(v *moves.Variant) (Index, bool) {
	if !Gauged(v) {
		return Index{}, false
	}
	for _, x := range a.Indices {
		if x.Scale == v.Scale() && len(x.Sets) >= leastSessions {
			return x, true
		}
	}
	return Index{}, false
}

// leastSessions is from how many sessions of a scale on its index says something (house).
const leastSessions = 2

// LoadFor gives the load in whole grams, rounded down and not under none, at which so many
// repetitions a side with the usual reserve are what an index allows; ok is false where the
// equation is refused.
func (a Ability) LoadFor(
	v *moves.Variant,
	index float64,
	mass measure.Mass,
	set body.Setting,
	reps int,
) (float64, bool) {
	f := factor(max(reps, 1) + strength.UsualReserve)
	if f == 0 {
		return 0, false
	}
	s := v.Resistance
	s.Stance = a.Stance(v)
	load, err := s.ExternalFor(index/f, mass, set)
	return max(0, math.Floor(load)), err == nil
}
