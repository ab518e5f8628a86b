package studio

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/run"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
)

// Log is what happened in a class: a sheet for every lane and participant,
// begun from the plan.
type Log struct {
	Occurrence Occurrence       `json:"occurrence"`
	Sheets     []progress.Sheet `json:"sheets"`
	Items      []kit.Item       `json:"items"`
	RunID      string           `json:"runId,omitempty" doc:"the run that it is of"`
}

// LogInput is what is typed of a line.
type LogInput struct {
	Done    int           `json:"done" minimum:"0" maximum:"600" doc:"repetitions a side, or in all; seconds of what is held"`
	InForm  int           `json:"inForm" minimum:"0" maximum:"600"`
	Reserve *int          `json:"reserve,omitempty" nullable:"false" minimum:"0" maximum:"100"`
	Pain    progress.Pain `json:"pain" enum:"none,burn,joint,sore"`
	Joint   string        `json:"joint,omitempty" enum:"ankle,knee,hip,low-back,neck,shoulder,elbow,wrist,hamstring" doc:"that hurt, or was sore the day after; of a pain left out: every joint that the move asks clearly of"`
	Others  bool          `json:"others,omitempty" doc:"it was somebody else than the time before"`
	Left    *int          `json:"left,omitempty" nullable:"false" minimum:"0" maximum:"600" doc:"where the sides were not the same; done is the lesser"`
	Right   *int          `json:"right,omitempty" nullable:"false" minimum:"0" maximum:"600"`
	Rounds  *int          `json:"rounds,omitempty" nullable:"false" minimum:"0" maximum:"1000" doc:"of a window"`
	Stopped bool          `json:"stopped,omitempty" doc:"they stopped early"`
	Lighter string        `json:"lighter,omitempty" maxLength:"40" doc:"what was lifted from half-way on; 0 for none"`
	Parts   []SetPart     `json:"parts,omitempty" nullable:"false" maxItems:"20" doc:"parts that came another number of times"`
	Load    string        `json:"load,omitempty" maxLength:"40" doc:"what was really lifted, all together, where it was another load than planned; 0 for none"`
	AtMs    *int64        `json:"atMs,omitempty" nullable:"false" minimum:"0" maximum:"7258118400000" doc:"when it was typed, by the server's clock; now if left out. What was typed later stays"`
	Numbered
}

// SetPart is how often a part of a combined move came.
type SetPart struct {
	Move string `json:"move" minLength:"1" maxLength:"60"`
	Done int    `json:"done" minimum:"0" maximum:"1000"`
}

// written is what was typed as the core reads it.
func (in LogInput) written() progress.Written {
	told := progress.Told{Left: in.Left, Right: in.Right, Rounds: in.Rounds, Stopped: in.Stopped}
	for _, p := range in.Parts {
		told.Parts = append(told.Parts, progress.PartDone(p))
	}
	return progress.Written{
		Told:    told,
		Done:    in.Done,
		InForm:  in.InForm,
		Reserve: in.Reserve,
		Pain:    in.Pain,
		Joint:   in.Joint,
		Others:  in.Others,
	}
}

// OvertakenLine is what was typed in a line of the log and does not stand there any more.
type OvertakenLine struct {
	Done    int           `json:"done"`
	InForm  int           `json:"inForm"`
	Reserve *int          `json:"reserve,omitempty"`
	Pain    progress.Pain `json:"pain" enum:"none,burn,joint,sore"`
	Joint   string        `json:"joint,omitempty"`
	Others  bool          `json:"others,omitempty"`
	progress.Told
	LoadG     measure.Mass `json:"loadG"`
	WrittenMs int64        `json:"writtenMs" doc:"when it was typed"`
}

// ParticipantInput is somebody in a class.
type ParticipantInput struct {
	Name     names.Name `json:"name,omitempty" doc:"of somebody who is recognized among those of the group, or new; left out for one whom nobody knows"`
	PersonID string     `json:"personId,omitempty" pattern:"^([0-9a-z]{26})?$" doc:"who it is, whatever the name"`
	Lane     string     `json:"lane" enum:"ground,middle,reach"`
}

// AsPlanned says that a class went as planned, but for what is written already.
type AsPlanned struct {
	AtMs *int64 `json:"atMs,omitempty" nullable:"false" minimum:"0" maximum:"7258118400000" doc:"when it was said, by the server's clock; now if left out"`
	Numbered
}

// sheets lays out the log of a class.
type sheets struct {
	Log
	class   store.Class
	context plan.Context
}

func (s Studio) sheets(ctx context.Context, occurrence string) (sheets, error) {
	c, err := s.store.Class(ctx, s.scope, occurrence)
	if err != nil {
		return sheets{}, err
	}
	against, p, err := s.contextOf(ctx, c)
	if err != nil {
		return sheets{}, err
	}
	out := sheets{
		class:   c,
		context: against,
		Log:     Log{Occurrence: occurrenceOf(c), Sheets: []progress.Sheet{}, Items: p.items()},
	}
	did, err := s.done(ctx, c, out.context)
	if err != nil || did.slots == nil {
		return out, err
	}
	out.RunID = did.run
	ask := func(who people.Party, lane moves.Lane) []progress.Asked {
		asked := run.Asked(did.slots, who, lane)
		for i, a := range asked {
			asked[i] = a.Knowing(did.told(a.Slot, who))
		}
		return asked
	}
	begin := func(sh progress.Sheet) {
		sh = sh.Begin(ask(sh.Subject, sh.Lane))
		for i := range sh.Lines {
			l := &sh.Lines[i]
			if v, ok := against.Library.Get(l.Variant); ok && v.Start != nil {
				l.Near = choice.Near(against.Stock, v, l.Asked().Hold, l.LoadG)
			}
		}
		out.Sheets = append(out.Sheets, sh)
	}
	for _, p := range out.context.On(circuit.Document{Day: did.day}).Parties {
		if p.Participant == "" && p.People > 0 {
			begin(progress.Sheet{Subject: p.ID(), Lane: p.Lane})
		}
	}
	for _, a := range c.People {
		id, lane := people.Party(a.PublicID), moves.Lane(a.Lane)
		if !did.day.Here(id) {
			continue
		}
		begin(progress.Sheet{Subject: id, Name: a.Name, Who: a.PersonPublicID, SameName: a.SameName, Lane: lane})
	}
	return out, nil
}

// done is what is logged against: the slots, and what the run tells of each, where there was
// one.
type done struct {
	run   string
	slots []run.Slot
	// day is how the day came.
	day  *circuit.Day
	told func(slot string, who people.Party) progress.Told
}

// done gives what is logged against: what the newest run began with and came to, since the
// circuit may have been changed after; else the circuit; without slots for neither.
func (s Studio) done(ctx context.Context, c store.Class, against plan.Context) (done, error) {
	nothing := func(string, people.Party) progress.Told { return progress.Told{} }
	newest, err := s.store.NewestRun(ctx, s.scope, c.ID)
	if err == nil {
		events, err := s.store.RunEvents(ctx, s.scope, newest.ID)
		if err != nil {
			return done{}, err
		}
		p, now, err := s.foldRun(newest, events)
		slots := run.Logged(p.CameTo(now.Anchor))
		deeds := now.Did
		return done{newest.PublicID, slots, p.Day, func(slot string, who people.Party) progress.Told {
			i := slices.IndexFunc(slots, func(s run.Slot) bool { return s.ID == slot })
			return p.Told(deeds, slots[i], who)
		}}, err
	}
	if !errors.Is(err, store.ErrNotFound) {
		return done{}, err
	}
	if c.CircuitPublicID == "" {
		return done{}, nil
	}
	planned, err := s.store.Planned(ctx, s.scope, c.CircuitPublicID)
	if err != nil {
		return done{}, err
	}
	d, err := circuit.Decode(planned.Base.Document)
	return done{"", run.Logged(run.Slots(d, plan.Look(d, against))), d.Day, nothing}, err
}

// Log reads what happened in a class.
func (s Studio) Log(ctx context.Context, occurrence string) (Log, error) {
	o, err := s.sheets(ctx, occurrence)
	if err != nil {
		return Log{}, err
	}
	return o.Log, s.fill(ctx, o)
}

// PutParticipant adds somebody to a class, or changes them.
func (s Studio) PutParticipant(
	ctx context.Context, occurrence, id string, in ParticipantInput, wrong *fault.List,
) (Log, error) {
	row, err := s.attendee(ctx, id, in, "", wrong)
	if err == nil {
		err = wrong.Err()
	}
	if err != nil {
		return Log{}, err
	}
	if err := s.store.PutParticipant(ctx, s.scope, occurrence, row); err != nil {
		return Log{}, err
	}
	return s.Log(ctx, occurrence)
}

// RemoveParticipant takes somebody out of a class of whom nothing is written down there.
func (s Studio) RemoveParticipant(ctx context.Context, occurrence, id string) (Log, error) {
	if err := s.store.RemoveParticipant(ctx, s.scope, occurrence, id); err != nil {
		return Log{}, err
	}
	return s.Log(ctx, occurrence)
}

// fill puts saved lines over the plan of every sheet and judges them.
func (s Studio) fill(ctx context.Context, o sheets) error {
	rows, err := s.store.LoggedLines(ctx, s.scope, o.class.ID)
	if err != nil || len(rows) == 0 {
		return err
	}
	saved := map[store.Line]store.LoggedLine{}
	for _, r := range rows {
		saved[store.Line{Subject: r.Subject, Slot: r.Slot}] = r
	}
	for _, sh := range o.Sheets {
		for j := range sh.Lines {
			l := &sh.Lines[j]
			r, ok := saved[store.Line{Subject: string(sh.Subject), Slot: l.Slot}]
			if !ok {
				continue
			}
			now := r.Past(o.class.LocalDate, sh.Who)
			l.Fill(now, r.Overtaken)
			l.Result = o.judge(sh, now)
		}
	}
	return nil
}

// judge asks for verdict and advice on a saved line, by what ladder and place offer.
func (o sheets) judge(sh progress.Sheet, now progress.Line) *progress.Result {
	body, offers := plan.DefaultBody, func(*progress.Case) {}
	for _, p := range o.context.Parties {
		if p.ID() == sh.Subject {
			body, offers = p.Body, func(c *progress.Case) { p.Neighbours(o.context, c) }
		}
	}
	return sh.Judge(o.context.Library, o.context.Past, now, body, offers)
}

// lane is the sheet of a lane, empty where there is none.
func (o sheets) lane(lane moves.Lane) progress.Sheet {
	for _, sh := range o.Sheets {
		if sh.OfLane() && sh.Lane == lane {
			return sh
		}
	}
	return progress.Sheet{}
}

// LogAsPlanned writes every line that is not written yet as it was planned: those of lanes, and
// of everybody by name, whose are as their lane's where that was written and they were to do the
// same.
func (s Studio) LogAsPlanned(ctx context.Context, occurrence string, in AsPlanned, wrong *fault.List) (Log, error) {
	in.check("", wrong)
	if err := wrong.Err(); err != nil {
		return Log{}, err
	}
	o, err := s.sheets(ctx, occurrence)
	if err != nil {
		return Log{}, err
	}
	if err := s.fill(ctx, o); err != nil {
		return Log{}, err
	}
	var lines []store.LogLine
	for _, sh := range o.Sheets {
		for _, l := range sh.Lines {
			if l.Saved {
				continue
			}
			var lane *progress.SheetLine
			if !sh.OfLane() {
				lane = o.lane(sh.Lane).Line(l.Slot)
			}
			asked, w := l.Default(lane)
			lines = append(lines, lineRow(sh, asked, w, in.Numbered, s.eventTime(in.AtMs)))
		}
	}
	if err := s.store.AddLogLines(ctx, s.scope, o.class.PublicID, lines); err != nil {
		return Log{}, err
	}
	return s.Log(ctx, occurrence)
}

// PutLine writes one line of a log and answers its sheet.
func (s Studio) PutLine(
	ctx context.Context,
	occurrence, subject, slot string,
	in LogInput,
	wrong *fault.List,
) (progress.Sheet, error) {
	o, err := s.putLines(ctx, occurrence, []LineInput{{subject, slot, in}}, "", wrong)
	if err != nil {
		return progress.Sheet{}, err
	}
	for _, sh := range o.Sheets {
		if string(sh.Subject) == subject {
			o.Sheets = []progress.Sheet{sh} // only the sheet that was written on is judged anew
			return sh, s.fill(ctx, o)
		}
	}
	return progress.Sheet{}, store.ErrNotFound
}

// SoreInput says where somebody was sore the day after a class.
type SoreInput struct {
	Region string `json:"region" enum:"ankle,knee,hip,low-back,neck,shoulder,elbow,wrist,hamstring"`
	Numbered
	AtMs *int64 `json:"atMs,omitempty" nullable:"false" minimum:"0" maximum:"7258118400000" doc:"when it was typed, by the server's clock; now if left out"`
}

// Sore writes that somebody was sore the day after, where they should not be, at what asked
// most of the region: those moves are flagged. Joint pain that was written stands over it.
func (s Studio) Sore(
	ctx context.Context, occurrence, subject string, in SoreInput, wrong *fault.List,
) (progress.Sheet, error) {
	in.check("", wrong)
	if err := wrong.Err(); err != nil {
		return progress.Sheet{}, err
	}
	o, err := s.sheets(ctx, occurrence)
	if err != nil {
		return progress.Sheet{}, err
	}
	if err := s.fill(ctx, o); err != nil {
		return progress.Sheet{}, err
	}
	at := slices.IndexFunc(o.Sheets, func(sh progress.Sheet) bool { return string(sh.Subject) == subject })
	if at < 0 {
		return progress.Sheet{}, store.ErrNotFound
	}
	o.Sheets = o.Sheets[at : at+1]
	sh := o.Sheets[0]
	who := sh.Name // the answer may come when somebody else is on the screen
	switch {
	case sh.OfLane():
		who = "the " + string(sh.Lane) + " lane"
	case who == "":
		who = "the drop-in"
	}
	from := sh.SoreFrom(o.context.Library, in.Region)
	if len(from) == 0 {
		message := "nothing that was written down of " + who + " here asks anything of it: say at which move"
		if !slices.ContainsFunc(sh.Lines, func(l progress.SheetLine) bool { return l.Saved }) {
			message = "nothing is written down of " + who + " in this class yet: do that first"
		}
		wrong.Note("region", message, in.Region)
		return sh, wrong.Err()
	}
	var lines []store.LogLine
	for _, slot := range from {
		l := sh.Line(slot)
		if l.Pain == progress.Joint {
			continue
		}
		asked, w := l.Asked(), l.Again()
		asked.LoadG, w.Pain, w.Joint = l.LoadG, progress.Sore, in.Region
		lines = append(lines, lineRow(sh, asked, w, in.Numbered, s.eventTime(in.AtMs)))
	}
	if len(lines) == 0 {
		wrong.Note("region", "joint pain is written down of "+who+" where it is likely from: that stands", in.Region)
		return sh, wrong.Err()
	}
	if err := s.store.PutLogLines(ctx, s.scope, o.class.PublicID, lines); err != nil {
		return sh, err
	}
	return sh, s.fill(ctx, o)
}

// LineInput is what is typed of a line, and where it stands.
type LineInput struct {
	Subject, Slot string
	LogInput
}

// PutLines writes lines of a log, all or none.
func (s Studio) PutLines(ctx context.Context, occurrence string, lines []LineInput, wrong *fault.List) error {
	_, err := s.putLines(ctx, occurrence, lines, "lines", wrong)
	return err
}

// putLines writes lines that stand at a path of what was sent.
func (s Studio) putLines(
	ctx context.Context,
	occurrence string,
	lines []LineInput,
	at string,
	wrong *fault.List,
) (sheets, error) {
	lifted, lighter := make([]*measure.Mass, len(lines)), make([]*measure.Mass, len(lines))
	for i, in := range lines {
		path := at
		if at != "" {
			path = fmt.Sprintf("%s[%d]", at, i)
		}
		var err error
		if lifted[i], err = s.checkLine(ctx, in.LogInput, path, wrong); err != nil {
			return sheets{}, err
		}
		if lighter[i], err = s.lifted(ctx, fault.Join(path, "lighter"), in.Lighter, wrong); err != nil {
			return sheets{}, err
		}
	}
	if err := wrong.Err(); err != nil {
		return sheets{}, err
	}
	o, err := s.sheets(ctx, occurrence)
	if err != nil {
		return o, err
	}
	rows := make([]store.LogLine, 0, len(lines))
	for i, in := range lines {
		sh, line := o.find(in.Subject, in.Slot)
		if line == nil {
			return o, store.ErrNotFound
		}
		asked := line.Asked()
		if lifted[i] != nil {
			asked.LoadG = *lifted[i]
		}
		w := in.written()
		w.LighterG = lighter[i]
		rows = append(rows, lineRow(sh, asked, w, in.Numbered, s.eventTime(in.AtMs)))
	}
	return o, s.store.PutLogLines(ctx, s.scope, o.class.PublicID, rows)
}

// find gives a sheet and its line of a slot, nil where there is none.
func (o sheets) find(subject, slot string) (progress.Sheet, *progress.SheetLine) {
	for _, sh := range o.Sheets {
		if string(sh.Subject) == subject {
			return sh, sh.Line(slot)
		}
	}
	return progress.Sheet{}, nil
}

// checkLine notes what was typed that cannot be, and gives what was really lifted, nil
// where it is not said.
func (s Studio) checkLine(ctx context.Context, in LogInput, at string, wrong *fault.List) (*measure.Mass, error) {
	cause := map[string]string{"inForm": "done", "joint": "pain", "others": "pain"} // a fault of another is not named
	for _, f := range in.written().Check() {
		if wrong.Good(fault.Join(at, cause[f.Path])) {
			wrong.Note(fault.Join(at, f.Path), f.Message, f.Value)
		}
	}
	in.check(at, wrong)
	return s.lifted(ctx, fault.Join(at, "load"), in.Load, wrong)
}

// lifted reads what was lifted, which may be nothing; nil where it is not said.
func (s Studio) lifted(ctx context.Context, at, text string, wrong *fault.List) (*measure.Mass, error) {
	if blankText(text) {
		return nil, nil
	}
	none := measure.Mass(0)
	if strings.TrimSpace(text) == "0" {
		return &none, nil
	}
	m, err := s.ReadMass(ctx, at, text, wrong)
	return &m, err
}

// Overtaken lists what does not stand in a line any more, the newest first.
func (s Studio) Overtaken(ctx context.Context, occurrence, subject, slot string) ([]OvertakenLine, error) {
	o, err := s.store.Occurrence(ctx, s.scope, occurrence)
	if err != nil {
		return nil, err
	}
	rows, err := s.store.Overtaken(ctx, s.scope, o.ID, subject, slot)
	out := []OvertakenLine{}
	for _, r := range rows {
		line := OvertakenLine{
			Done: r.Done, InForm: r.InForm, Reserve: r.Reserve, Pain: progress.Pain(r.Pain), Joint: r.Joint, Others: r.Others,
			LoadG: measure.Mass(r.LoadG), WrittenMs: r.WrittenAt.UnixMilli(),
		}
		if err := json.Unmarshal(r.Told, &line.Told); err != nil {
			return out, err
		}
		out = append(out, line)
	}
	return out, err
}

// lineRow is the row of what was written of a set.
func lineRow(sh progress.Sheet, a progress.Asked, w progress.Written, by Numbered, at time.Time) store.LogLine {
	dose, _ := json.Marshal(progress.PlannedDose{High: a.High, Counted: a.Counted, Aside: a.Aside}) // plain values
	told, _ := json.Marshal(w.Told)
	return store.LogLine{
		Dose:           dose,
		Told:           told,
		Subject:        string(sh.Subject),
		Slot:           a.Slot,
		Lane:           string(sh.Lane),
		Variant:        a.Variant,
		Planned:        a.Reps,
		Done:           w.Done,
		InForm:         w.InForm,
		Reserve:        w.Reserve,
		Felt:           store.Felt{Pain: string(w.Pain), Joint: w.Joint, Others: w.Others},
		LoadG:          int64(a.LoadG),
		Hold:           string(a.Hold),
		TooLight:       a.TooLight,
		ResistanceG:    int64(a.ComparableG),
		LibraryVersion: moves.Version,
		Device:         by.Device,
		N:              by.N,
		UpdatedAt:      at,
	}
}
