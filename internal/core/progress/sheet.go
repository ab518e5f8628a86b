package progress

import (
	"fmt"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/strength"
)

// daysToNext is how far off the class is that advice is given for: a week.
const daysToNext = week

// Asked is what a plan asks of a lane in a slot.
type Asked struct {
	Slot     string
	Pattern  moves.Pattern
	Variant  string
	Hold     moves.HoldID
	Load     kit.Load
	LoadG    measure.Mass
	TwoSides bool
	// Reps are a side, or in all for two-sided moves; of a range the low end, whose high end
	// is High. Counted says what in.
	Reps, High  int
	Counted     Counted
	ComparableG measure.Mass
	// Scheme is that of its block, and Parts how often each part of a combined move comes.
	Scheme scheme.Name
	Parts  []PartDone
	// Aside is a set that steps nothing: a superset's, a finisher's, one for practice.
	Aside bool
	// TooLight says that the plan itself calls the load too light by far.
	TooLight bool
	// told is what the run knows already of how it went.
	told Told
}

// Knowing is what is asked with what the run knows already of how it went.
func (a Asked) Knowing(t Told) Asked {
	a.told = t
	return a
}

// Counted is what a set is counted in.
type Counted string

// What sets are counted in; repetitions where nothing is said.
const (
	BySeconds Counted = "seconds"
	ToFailure Counted = "to-failure"
)

// PlannedDose is what else was planned of a line: the high end of a range, what it is
// counted in, and whether it steps nothing.
type PlannedDose struct {
	High    int     `json:"high,omitempty"`
	Counted Counted `json:"counted,omitempty"`
	Aside   bool    `json:"aside,omitempty"`
}

// PartDone is how often a part of a combined move came in a set, a side or in all.
type PartDone struct {
	Move string `json:"move"`
	Done int    `json:"done"`
}

// Told is what may be told of a set besides how many were done.
type Told struct {
	// Left and Right are the repetitions of each side, where they were not the same.
	Left  *int `json:"left,omitempty"`
	Right *int `json:"right,omitempty"`
	// Rounds are those that were done of a window.
	Rounds *int `json:"rounds,omitempty"`
	// Stopped early, whether or not they came back.
	Stopped bool `json:"stopped,omitempty"`
	// LighterG is what was lifted from half-way on.
	LighterG *measure.Mass `json:"lighterG,omitempty"`
	// Parts that came another number of times than the set.
	Parts []PartDone `json:"parts,omitempty"`
}

// Owed is what one side still has to do to match the other.
type Owed struct {
	Side scheme.Side `json:"side"`
	Reps int         `json:"reps"`
}

// Owes gives what is owed to a side, nil for nothing.
func (t Told) Owes() *Owed {
	if t.Left == nil || t.Right == nil || *t.Left == *t.Right {
		return nil
	}
	if *t.Left < *t.Right {
		return &Owed{scheme.Left, *t.Right - *t.Left}
	}
	return &Owed{scheme.Right, *t.Left - *t.Right}
}

// Written is what somebody wrote of a set.
type Written struct {
	Told
	Done, InForm int
	// Reserve is how many repetitions were left; nil where nobody said.
	Reserve *int
	Pain    Pain
	// Joint that hurt, where somebody said which, or that was sore; Others says that it was somebody else
	// than the time before.
	Joint  string
	Others bool
}

// Check says what was written that cannot be.
func (w Written) Check() fault.List {
	var out fault.List
	if w.InForm > w.Done {
		out.Note("inForm", "no more repetitions are in form than were done", w.InForm)
	}
	if (w.Left == nil) != (w.Right == nil) {
		out.Note("right", "both sides, or neither", nil)
	} else if w.Left != nil && min(*w.Left, *w.Right) != w.Done {
		out.Note("done", "of two sides the lesser counts", w.Done)
	}
	for i, p := range w.Parts {
		if p.Move == "" {
			out.Note(fmt.Sprintf("parts[%d].move", i), "name the part", p.Move)
		}
	}
	if w.Pain != Joint && w.Pain != Sore && w.Joint != "" {
		out.Note("joint", "a joint is named only where one hurts or is sore: set pain to joint or sore", w.Joint)
	}
	if w.Pain == Sore && w.Joint == "" {
		out.Note("joint", "say where it is sore", w.Joint)
	}
	if w.Pain != Joint && w.Others {
		out.Note("others", "it is said of pain at a joint only: set pain to joint", w.Others)
	}
	return out
}

// SheetLine is one slot of a sheet. Before anything is written it holds the plan.
type SheetLine struct {
	Slot     string        `json:"slot"`
	Pattern  moves.Pattern `json:"pattern"`
	Variant  string        `json:"variant"`
	LoadG    measure.Mass  `json:"loadG"`
	Load     kit.Load      `json:"load"`
	TwoSides bool          `json:"twoSides"`
	Planned  int           `json:"planned"`
	Done     int           `json:"done"`
	InForm   int           `json:"inForm"`
	Reserve  *int          `json:"reserve,omitempty"`
	Pain     Pain          `json:"pain"`
	Joint    string        `json:"joint,omitempty"`
	Others   bool          `json:"others,omitempty"`
	Told
	// PlannedHigh is the high end of a range, the same as Planned for one count; Counted
	// what it is counted in, Scheme that of its block, PlannedParts the parts of what is
	// combined.
	PlannedHigh  int         `json:"plannedHigh"`
	Counted      Counted     `json:"counted,omitempty"`
	Scheme       scheme.Name `json:"scheme,omitempty"`
	PlannedParts []PartDone  `json:"plannedParts"`
	// Owed is what a side has to do yet to match the other.
	Owed  *Owed `json:"owed,omitempty"`
	Saved bool  `json:"saved"`
	// Near are the loads that the place has next to the planned one, the lightest first: what
	// was lifted instead is most often one of them.
	Near []measure.Mass `json:"near"`
	// PlannedG is the load that was planned, whatever was lifted.
	PlannedG measure.Mass `json:"plannedG"`
	// Overtaken counts what was typed here and does not stand any more.
	Overtaken int `json:"overtaken,omitempty"`
	// Result is of a written line.
	Result *Result `json:"result,omitempty"`
	asked  Asked
}

// Sheet is one lane's or participant's lines in the order of the slots.
type Sheet struct {
	// Subject is the party: a participant's id, or the lane.
	Subject people.Party `json:"subject"`
	// Name is a participant's; a lane has none, nor has a drop-in.
	Name string `json:"name,omitempty"`
	// Who is the person that a participant is, by id; SameName says that there may be a
	// mistake about it.
	Who      string      `json:"personId,omitempty"`
	SameName bool        `json:"sameName,omitempty"`
	Lane     moves.Lane  `json:"lane"`
	Lines    []SheetLine `json:"lines"`
}

// Begin lays out the lines of a sheet from what the plan asks of its party.
func (s Sheet) Begin(asked []Asked) Sheet {
	s.Lines = []SheetLine{}
	for _, a := range asked {
		s.Lines = append(s.Lines, SheetLine{
			Slot:     a.Slot,
			Pattern:  a.Pattern,
			Variant:  a.Variant,
			LoadG:    a.LoadG,
			Load:     a.Load,
			TwoSides: a.TwoSides,
			Planned:  a.Reps,
			Done:     a.Reps,
			InForm:   a.Reps,
			Pain:     NoPain,
			Told:     a.told,

			PlannedHigh: max(a.High, a.Reps), Counted: a.Counted, Scheme: a.Scheme,
			PlannedParts: append([]PartDone{}, a.Parts...),
			Near:         []measure.Mass{},
			PlannedG:     a.LoadG,
			asked:        a,
		})
	}
	return s
}

// OfLane tells whether the sheet is a lane's and nobody's in particular.
func (s Sheet) OfLane() bool {
	_, lane := s.Subject.Lane()
	return lane
}

// who tells whose past a sheet goes on: the person's; a drop-in has none but their own.
func (s Sheet) who() string {
	if s.Who == "" && !s.OfLane() {
		return string(s.Subject)
	}
	return s.Who
}

// Line finds the line of a slot, nil where there is none.
func (s Sheet) Line(slot string) *SheetLine {
	for i := range s.Lines {
		if s.Lines[i].Slot == slot {
			return &s.Lines[i]
		}
	}
	return nil
}

// AsPlanned is what is written of a line that went as planned.
func (l SheetLine) AsPlanned() Written {
	return Written{Told: l.asked.told, Done: l.Planned, InForm: l.Planned, Pain: NoPain}
}

// Again is what was written of a line.
func (l SheetLine) Again() Written {
	return Written{
		Told: l.Told, Done: l.Done, InForm: l.InForm, Reserve: l.Reserve, Pain: l.Pain, Joint: l.Joint, Others: l.Others,
	}
}

// Default is what is written of a line where nothing else is said: as planned; of somebody by
// name, beside the line of their lane, nil for none, what was written there, where they were to do
// the same. What hurt in the lane is not theirs: whose it was nobody said.
func (l SheetLine) Default(lane *SheetLine) (Asked, Written) {
	asked := l.asked
	if lane == nil || !lane.Saved || lane.Variant != l.Variant || lane.asked.LoadG != l.LoadG {
		return asked, l.AsPlanned()
	}
	w := lane.Again()
	asked.LoadG, w.Pain, w.Joint, w.Others = lane.LoadG, NoPain, "", false
	return asked, w
}

// SoreFrom lists the slots of written lines that soreness the day after is likely from: those
// that asked most of the region (common practice, no source). It is empty where none asked
// anything of it.
func (s Sheet) SoreFrom(lib *moves.Library, region string) []string {
	var out []string
	most := 1
	for _, l := range s.Lines {
		v, ok := lib.Get(l.Variant)
		if !ok || !l.Saved || v.Demands[region] < most {
			continue
		}
		if v.Demands[region] > most {
			most, out = v.Demands[region], nil
		}
		out = append(out, l.Slot)
	}
	return out
}

// Asked is what the plan asked.
func (l SheetLine) Asked() Asked { return l.asked }

// Fill lays a written line over the plan. It keeps its load, whatever the plan says now:
// what made another load up is not known, only what it weighed.
func (l *SheetLine) Fill(r Line, overtaken int) {
	if l.LoadG != r.Load {
		l.Load = kit.Weighing(r.Load)
	}
	l.Variant, l.LoadG, l.Planned = r.Variant, r.Load, r.Planned
	l.Done, l.InForm, l.Reserve, l.Pain, l.Joint, l.Others = r.Done, r.InForm, r.Reserve, r.Pain, r.Joint, r.Others
	l.Told, l.Owed = r.Told, r.Owes()
	l.PlannedHigh = max(r.High, r.Planned)
	l.Saved, l.Overtaken = true, overtaken
}

// Judge gives verdict and advice on a line that was written on a sheet, as for a class a
// week on; nil where the move is not known. Offers fills in what ladder and place have.
func (s Sheet) Judge(lib *moves.Library, past Past, now Line, body measure.Mass, offers func(*Case)) *Result {
	v, ok := lib.Get(now.Variant)
	if !ok {
		return nil
	}
	c := Case{Variant: v, Body: body, Day: now.Day + daysToNext}
	var earlier []Line
	for _, l := range past.Lines {
		if l.Who != s.who() || l.Lane != s.Lane && s.OfLane() {
			continue
		}
		earlier = append(earlier, l)
		if l.Variant == now.Variant {
			c.Lines = append(c.Lines, l)
		}
	}
	c.Lines = append(c.Lines, now)
	offers(&c)
	out := Advise(lib, c, earlier, !s.OfLane())
	return &out
}

// LineOf is what was written of a set as the past keeps it.
func LineOf(day int, lane moves.Lane, who string, a Asked, w Written) Line {
	return Line{
		Day:     day,
		Lane:    lane,
		Who:     who,
		Variant: a.Variant,
		Hold:    a.Hold,
		Set: strength.Set{
			Planned: a.Reps, High: a.High, Done: w.Done, InForm: min(w.InForm, w.leastPart(a)), Reserve: w.Reserve,
			ToFailure: a.Counted == ToFailure, Seconds: a.Counted == BySeconds,
		},
		Told:     w.Told,
		Pain:     w.Pain,
		Joint:    w.Joint,
		Others:   w.Others,
		Load:     a.LoadG,
		TooLight: a.TooLight,
		Aside:    a.Aside,
	}
}

// leastPart is how many repetitions were whole: a part that was left out leaves its
// repetition undone.
func (w Written) leastPart(a Asked) int {
	least := w.InForm
	for _, done := range w.Parts {
		for _, p := range a.Parts {
			if p.Move == done.Move && a.Reps > 0 && p.Done >= a.Reps {
				least = min(least, done.Done/(p.Done/a.Reps))
			}
		}
	}
	return least
}
