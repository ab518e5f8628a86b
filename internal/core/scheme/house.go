package scheme

import "nimbleanvil/internal/core/measure"

// Times of a class that its plan does not set (house).
const (
	// UsualLeadIn is the count-down before a class.
	UsualLeadIn = 10 * measure.Second
	// SideChange is the change from one side to the other within a set.
	SideChange = 5 * measure.Second
	// BetweenWaves is how long one wave hands over to the next.
	BetweenWaves = 5 * measure.Second
	// TeachNew is the showing of a move that somebody has not met, before they try
	// PracticeReps a side; TeachKnown that of any other.
	TeachNew     = 90 * measure.Second
	TeachKnown   = 20 * measure.Second
	PracticeReps = 5
)

// Parts of a change-over from one move to the next (house; they add up).
const (
	TakeUp      = 5 * measure.Second  // another implement or load
	ChangeHold  = 2 * measure.Second  // the same one, held otherwise
	Kneel       = 3 * measure.Second  // between standing and kneeling
	FloorUpDown = 6 * measure.Second  // down to the floor or up from it
	WalkInHall  = 3 * measure.Second  // to a bench, a table or a post
	NextStation = 10 * measure.Second // on to another station
	SetHeight   = 15 * measure.Second // of a bench or box
	Strap       = 12 * measure.Second // a pad or a strap on or off
	Pack        = 10 * measure.Second // to open and close a container
	PackObject  = 3 * measure.Second  // each object that goes in or out
	FillVessel  = 15 * measure.Second // each vessel that is filled
)

// Shares of a class (house), in per cent of its minutes; a class under shortClass
// minutes has shares of its own and no least or most.
const (
	shortClass = 20
	prepPct    = 15
	shortPrep  = 20
	minPrep    = 4 * measure.Minute
	maxPrep    = 10 * measure.Minute
	closePct   = 10
	shortClose = 15
	minClose   = 3 * measure.Minute
	maxClose   = 5 * measure.Minute
)

// PrepTime is 15 % of the class, from 4 to 10 minutes; a fifth of a class under 20
// minutes (house).
func PrepTime(minutes int) measure.Span {
	class := measure.Span(minutes) * measure.Minute
	if minutes < shortClass {
		return class * shortPrep / 100
	}
	return min(max(class*prepPct/100, minPrep), maxPrep)
}

// CloseTime is a tenth of the class, from 3 to 5 minutes; 15 % of a class under 20
// minutes (house).
func CloseTime(minutes int) measure.Span {
	class := measure.Span(minutes) * measure.Minute
	if minutes < shortClass {
		return class * shortClose / 100
	}
	return min(max(class*closePct/100, minClose), maxClose)
}

// LearnTime is how long a move is shown, and tried by the slowest where it is new: sets
// are what parties would do of it.
func LearnTime(isNew bool, sets []Set) measure.Span {
	if !isNew {
		return TeachKnown
	}
	var longest measure.Span
	for _, s := range sets {
		longest = max(longest, s.ByReps(PracticeReps).Work)
	}
	return TeachNew + longest
}
