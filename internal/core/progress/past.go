// Package progress keeps what happened in earlier classes as one value, and turns it
// into what binds the next one. The instructor has the last word.
package progress

import (
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
)

// Pain is what somebody felt. Muscle burn is expected and asked about apart from
// joint pain, and so is what is sore the day after.
type Pain string

// The answers.
const (
	NoPain Pain = "none"
	Burn   Pain = "burn"
	Joint  Pain = "joint"
	// Sore is soreness the day after where it should not be; the region is named.
	Sore Pain = "sore"
)

// Line is what a lane or a person did with a move in a class.
type Line struct {
	// Day counts local days from any fixed one.
	Day  int
	Lane moves.Lane
	// Who is the person, by id; empty for the lane itself. Named says that the studio knows
	// them: what hurts them is theirs, and no lane's.
	Who     string
	Named   bool
	Variant string
	Hold    moves.HoldID
	strength.Set
	Told
	Pain Pain
	// Joint that hurt; empty where nobody said which.
	Joint string
	// Others says that it was somebody else's pain than the time before.
	Others bool
	Load   measure.Mass
	// TooLight says that the plan itself called the load too light.
	TooLight bool
	// Aside is a set that steps nothing: a superset's, a finisher's, one for practice.
	Aside bool
	// Bare says that only this is known: it was done.
	Bare bool
	// Common says that it was written of the lane that somebody was in, not of them.
	Common bool
}

// Overrule sets aside what the log says of a move, or of a joint, for a lane or a person,
// from a day on.
type Overrule struct {
	Day  int
	Lane moves.Lane
	Who  string
	// What is a move or a joint.
	What string
}

// Past is all that earlier classes of a group say to the next.
type Past struct {
	// Day of the class that is planned.
	Day int
	// Lines of earlier classes, the oldest first.
	Lines []Line
	// Elsewhere are lines of those who come, from classes of other groups, the oldest first:
	// they say something of them, and nothing of a lane.
	Elsewhere []Line
	// Known are moves and patterns that the instructor marked as known; All marks
	// everything.
	Known     []string
	Overruled []Overrule
	// Last are the moves of the last classes in their order, the newest class first.
	Last [][]Used
	// Present says who was in which lane on which day.
	Present []Presence
}

// Used is a move that a lane, or a person of it by an entry of their own, had in a class;
// without a lane, some lane.
type Used struct {
	Lane moves.Lane
	Who  string
	Move string
}

// Presence is somebody's being in a class.
type Presence struct {
	Day  int
	Lane moves.Lane
	Who  string
}

// Of is the past of a person who is in a lane now, as if they were the lane: what they did
// themselves in whatever lane and group, and what the lane did on days when they were in it and
// nothing of theirs was written down. What was set aside for the lane was not for them.
func (p Past) Of(lane moves.Lane, who string) Past {
	own := map[int]bool{}
	for _, l := range p.Lines {
		if l.Who == who {
			own[l.Day] = true
		}
	}
	as := map[Presence]bool{}
	for _, x := range p.Present {
		if x.Who == who && !own[x.Day] {
			as[Presence{Day: x.Day, Lane: x.Lane}] = true
		}
	}
	out := Past{Day: p.Day, Known: p.Known}
	for _, l := range p.Elsewhere {
		if l.Who == who {
			l.Lane, l.Who = lane, ""
			out.Lines = append(out.Lines, l)
		}
	}
	for _, l := range p.Lines {
		if l.Who == who || l.Who == "" && as[Presence{Day: l.Day, Lane: l.Lane}] {
			l.Common = l.Who == ""
			l.Lane, l.Who = lane, ""
			out.Lines = append(out.Lines, l)
		}
	}
	slices.SortStableFunc(out.Lines, func(a, b Line) int { return a.Day - b.Day })
	for _, o := range p.Overruled {
		if o.Who == who {
			o.Lane, o.Who = lane, ""
			out.Overruled = append(out.Overruled, o)
		}
	}
	for _, used := range p.Last {
		var theirs []Used
		for _, u := range used {
			if u.Who == who || u.Who == "" && (u.Lane == lane || u.Lane == "") {
				theirs = append(theirs, Used{lane, "", u.Move})
			}
		}
		out.Last = append(out.Last, theirs)
	}
	return out
}

// LastClasses is how many classes back a plan looks for what was last used (house).
const LastClasses = 4

// All, among what is marked as known, stands for everything.
const All = "all"

// How long the log is listened to, in days (house).
const (
	week          = 7
	lighterAfter  = 4 * week
	startingAfter = 8 * week
	painWithin    = 8 * week
)

// MarkedKnown tells whether the instructor marked a move, or its pattern, as known.
func (p Past) MarkedKnown(v *moves.Variant) bool {
	return slices.Contains(p.Known, All) || slices.Contains(p.Known, v.ID) ||
		slices.Contains(p.Known, string(v.Pattern))
}

// Met tells whether a lane has done a move before, or is marked as knowing it.
func (p Past) Met(lane moves.Lane, v *moves.Variant) bool {
	return p.MarkedKnown(v) ||
		slices.ContainsFunc(p.Lines, func(l Line) bool { return l.Lane == lane && l.Variant == v.ID })
}

// Sessions counts the earlier days on which a lane did something that holds.
func (p Past) Sessions(lane moves.Lane, is func(Line) bool) int {
	n, last := 0, -1
	for _, l := range p.Lines {
		if l.Lane == lane && is(l) && (n == 0 || l.Day != last) {
			n, last = n+1, l.Day
		}
	}
	return n
}

// Shown tells whether a lane has two earlier sessions in form of some moves, right or
// lighter: what it then carries is for the log to say.
func (p Past) Shown(lane moves.Lane, is func(Line) bool) bool {
	return p.Sessions(lane, func(l Line) bool { return l.Who == "" && is(l) && inForm(l) }) >= 2
}

// inForm tells whether a set was done in form and was not too heavy.
func inForm(l Line) bool {
	v, _ := strength.Judge(l.Set)
	return !l.Bare && l.Pain != Joint && v != strength.FormLost && v != strength.Heavy
}

// ClassesAgo tells how many classes ago a move was last part of a lane's plan, of any
// lane's without one: 1 is the class before; 0 is not among the last ones.
func (p Past) ClassesAgo(lane moves.Lane, is func(id string) bool) int {
	for i, used := range p.Last {
		if slices.ContainsFunc(
			used,
			func(u Used) bool {
				return (u.Lane == lane && u.Who == "" || u.Lane == "" || lane == "") && is(u.Move)
			},
		) {
			return i + 1
		}
	}
	return 0
}

// overruled tells whether what was logged on a day was set aside after it.
func (p Past) overruled(lane moves.Lane, day int, what ...string) bool {
	return slices.ContainsFunc(p.Overruled, func(o Overrule) bool {
		return o.Lane == lane && o.Who == "" && o.Day >= day && slices.Contains(what, o.What)
	})
}
