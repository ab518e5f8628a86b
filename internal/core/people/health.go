package people

import (
	"fmt"
	"slices"

	"nimbleanvil/internal/core/calendar"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/moves"
)

// Question is one of the health questions that are asked before somebody's first class, by
// its code. Answers are codes too: there is no free text, and never a diagnosis.
type Question string

// The questions. Those of Stops keep somebody out of the class until they are cleared, the
// others at Ground (follows ACSM pre-participation screening, Riebe et al. 2015; from memory).
const (
	ChestPain    Question = "chest-pain"
	Fainting     Question = "fainting"
	Breathless   Question = "breathless"
	Uncontrolled Question = "condition-not-under-control"
	Surgery      Question = "recent-surgery"

	PregnantEarly Question = "pregnancy-early"
	Pregnant      Question = "pregnancy"
	Pressure      Question = "blood-pressure"
	Brittle       Question = "brittle-bones"
	Hypermobile   Question = "hypermobile"
	BoneOrJoint   Question = "bone-or-joint"
	Medication    Question = "medication"
)

// Stops are the questions whose yes keeps somebody out of the class until cleared.
var Stops = []Question{ChestPain, Fainting, Breathless, Uncontrolled, Surgery}

// Questions lists all, in the order in which they are asked.
var Questions = append(slices.Clone(Stops),
	PregnantEarly, Pregnant, Pressure, Brittle, Hypermobile, BoneOrJoint, Medication)

// QuestionsVersion is the version of their text: an answer says which one was read.
const QuestionsVersion = 1

// AskedAgainAfter is how many days after they were answered the questions are asked again: a
// year (house).
const AskedAgainAfter = 365

// Answers are what somebody answered on a day: the questions answered with yes; all others
// were answered with no.
type Answers struct {
	Version int        `json:"version"`
	Yes     []Question `json:"yes"`
	Day     int        `json:"-"`
}

// Clearer is who cleared somebody: licensed practice, or for surgery whoever released them.
type Clearer string

// Clearers.
const (
	Doctor    Clearer = "doctor"
	Physio    Clearer = "physiotherapist"
	Midwife   Clearer = "midwife"
	OtherCare Clearer = "other-licensed"
)

// Clearers lists them.
var Clearers = []Clearer{Doctor, Physio, Midwife, OtherCare}

// Clearance says that somebody licensed cleared a person on a day, and what they must still be
// spared.
type Clearance struct {
	By    Clearer         `json:"by"`
	Keeps []moves.LimitID `json:"keeps"`
	Day   int             `json:"-"`
}

// HealthRecord is one of these, on a day.
type HealthRecord struct {
	// Carried is what somebody was spared before, of which no more is known.
	Carried   *Spared    `json:"carried,omitempty"`
	Answers   *Answers   `json:"answers,omitempty"`
	Clearance *Clearance `json:"clearance,omitempty"`
	// Changed says that something has changed, so that the questions are asked anew.
	Changed bool `json:"changed,omitempty"`
	Day     int  `json:"-"`
}

// Check says what of it cannot be.
func (h HealthRecord) Check() fault.List {
	var wrong fault.List
	n := 0
	for _, there := range []bool{h.Answers != nil, h.Clearance != nil, h.Changed, h.Carried != nil} {
		if there {
			n++
		}
	}
	if n != 1 {
		wrong.Note("", "it says one thing: answers, a clearance, or that something has changed", nil)
	}
	if h.Carried != nil {
		for _, f := range h.Carried.Check().Under("carried") {
			wrong.Note(f.Path, f.Message, f.Value)
		}
	}
	if a := h.Answers; a != nil {
		if a.Version != QuestionsVersion {
			wrong.Note(
				"answers.version",
				fmt.Sprintf("the questions are of version %d: load them anew", QuestionsVersion),
				a.Version,
			)
		}
		for i, q := range a.Yes {
			at := fmt.Sprintf("answers.yes[%d]", i)
			switch {
			case !slices.Contains(Questions, q):
				wrong.Note(at, "there is no such question", string(q))
			case slices.Contains(a.Yes[:i], q):
				wrong.Note(at, "each question once", string(q))
			}
		}
	}
	if c := h.Clearance; c != nil {
		if !slices.Contains(Clearers, c.By) {
			wrong.Note("clearance.by", "doctor, physiotherapist, midwife or other-licensed", string(c.By))
		}
		for i, l := range c.Keeps {
			if _, ok := l.Expand(); !ok || l.OfHealth() {
				wrong.Note(fmt.Sprintf("clearance.keeps[%d]", i), "there is no such limit", string(l))
			}
		}
	}
	return wrong
}

// Spared is all that leaves health: what somebody is spared, never why.
type Spared struct {
	// Out says that they are not in the class until they are cleared, Ground that they are at
	// Ground until then.
	Out    bool `json:"out,omitempty"`
	Ground bool `json:"ground,omitempty"`
	// Limits are plain ones.
	Limits []moves.LimitID `json:"limits,omitempty"`
	// Asked is the day on which the questions were answered last, 0 for never; Anew says that
	// they are to be asked again whatever the day.
	Asked calendar.Date `json:"asked,omitempty"`
	Anew  bool          `json:"anew,omitempty"`
}

// Any tells whether anything is said.
func (s Spared) Any() bool { return s.Out || s.Ground || s.Anew || s.Asked != 0 || len(s.Limits) > 0 }

// Due tells whether the questions are to be asked on a day: never answered, a year ago, or
// something has changed.
func (s Spared) Due(day int) bool {
	return s.Asked == 0 || s.Anew || day-int(s.Asked) > AskedAgainAfter
}

// Health is how somebody stands with the questions.
type Health struct {
	Spared
	// Cleared is the newest clearance that still stands, nil for none.
	Cleared *Clearance
	// Yes are the questions that count: those that stop and that nobody has cleared since, and
	// the newest of the others.
	Yes  []Question
	kept []moves.LimitID
}

// HealthOf reads somebody's health records, the oldest first (house, on the safe side). A yes
// to what stops stands until somebody clears it, whatever is answered later, and the same yes
// after that stops anew. Of the others the newest answers count, until they are
// cleared; a yes that was not there then ends the clearance. What a clearance keeps is kept
// until the next one; so is what somebody was spared before, of which no more is known.
func HealthOf(all []HealthRecord) Health {
	h := Health{}
	stopped, others := map[Question]bool{}, map[Question]bool{}
	covered := map[Question]bool{}
	var carried Spared
	for _, r := range all {
		switch {
		case r.Carried != nil:
			carried, h.Asked, h.Anew = *r.Carried, r.Carried.Asked, r.Carried.Anew
		case r.Answers != nil:
			h.Asked, h.Anew, carried.Ground = calendar.Date(r.Day), false, false
			others = map[Question]bool{}
			for _, q := range r.Answers.Yes {
				stops := slices.Contains(Stops, q)
				if stops {
					stopped[q] = true
				} else {
					others[q] = true
				}
				if stops || !covered[q] {
					h.Cleared = nil
				}
			}
		case r.Clearance != nil:
			c := *r.Clearance
			c.Day = r.Day
			h.Cleared, h.kept, stopped, covered, carried = &c, c.Keeps, map[Question]bool{}, others, Spared{}
		case r.Changed:
			h.Anew = true
		}
	}
	for _, q := range Questions {
		if stopped[q] || others[q] {
			h.Yes = append(h.Yes, q)
		}
	}
	h.Out = len(stopped) > 0 || carried.Out
	h.add(h.kept...)
	h.add(carried.Limits...)
	if h.Cleared != nil {
		return h
	}
	h.Ground = len(h.Yes) > 0 || carried.Ground
	for _, q := range h.Yes {
		if l := moves.LimitID(q); l.OfHealth() {
			plain, _ := l.Expand()
			h.add(plain...)
		}
	}
	return h
}

func (s *Spared) add(limits ...moves.LimitID) {
	for _, l := range limits {
		if !slices.Contains(s.Limits, l) {
			s.Limits = append(s.Limits, l)
		}
	}
}

// Check says what of it, from elsewhere, cannot be.
func (s Spared) Check() fault.List {
	var wrong fault.List
	for i, l := range s.Limits {
		plain, ok := l.Expand()
		if !ok || len(plain) != 1 || plain[0] != l {
			wrong.Note(fmt.Sprintf("limits[%d]", i), "there is no such limit", string(l))
		}
	}
	if len(s.Limits) > 40 {
		wrong.Note("limits", "at most 40", len(s.Limits))
	}
	return wrong
}
