package progress

import (
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
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
	// Reps are a side, or in all for two-sided moves.
	Reps        int
	ComparableG measure.Mass
	// TooLight says that the plan itself calls the load too light by far.
	TooLight bool
}

// Written is what somebody wrote of a set.
type Written struct {
	Done, InForm int
	// Reserve is how many repetitions were left; nil where nobody said.
	Reserve *int
	Pain    Pain
	// Joint that hurt, where somebody said which; Others says that it was somebody else
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
	if w.Pain != Joint && w.Joint != "" {
		out.Note("joint", "a joint is named only where one hurts: set pain to joint", w.Joint)
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
	Saved    bool          `json:"saved"`
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
			asked:    a,
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
	return Written{Done: l.Planned, InForm: l.Planned, Pain: NoPain}
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
	out := Advise(lib, c, earlier)
	return &out
}

// LineOf is what was written of a set as the past keeps it.
func LineOf(day int, lane moves.Lane, who string, a Asked, w Written) Line {
	return Line{
		Day:      day,
		Lane:     lane,
		Who:      who,
		Variant:  a.Variant,
		Hold:     a.Hold,
		Set:      strength.Set{Planned: a.Reps, Done: w.Done, InForm: w.InForm, Reserve: w.Reserve},
		Pain:     w.Pain,
		Joint:    w.Joint,
		Others:   w.Others,
		Load:     a.LoadG,
		TooLight: a.TooLight,
	}
}
