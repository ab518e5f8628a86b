package api

import (
	"context"
	"errors"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
)

// Log is what happened in a class: a sheet for every lane and participant,
// begun from the plan.
type Log struct {
	Occurrence Occurrence `json:"occurrence"`
	Sheets     []LogSheet `json:"sheets"`
	Items      []Item     `json:"items"`
}

// LogSheet is one lane's or participant's lines in the order of the slots.
type LogSheet struct {
	Subject string    `json:"subject" doc:"a participant's id, or the lane"`
	Name    string    `json:"name,omitempty" doc:"of a participant; empty for a lane"`
	Lane    string    `json:"lane" enum:"ground,middle,reach"`
	Lines   []LogLine `json:"lines"`
}

// LogLine is one slot of a sheet. Before anything is saved it holds the plan.
type LogLine struct {
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
	Pain     progress.Pain `json:"pain" enum:"none,burn,joint"`
	Joint    string        `json:"joint,omitempty" enum:"ankle,knee,hip,low-back,neck,shoulder,elbow,wrist,hamstring" doc:"that hurt, where somebody said"`
	Others   bool          `json:"others,omitempty" doc:"somebody else's pain than the time before"`
	Saved    bool          `json:"saved"`
	// Overtaken counts what was typed here and does not stand any more.
	Overtaken int              `json:"overtaken,omitempty"`
	Result    *progress.Result `json:"result,omitempty" doc:"of a saved line"`
}

// LogInput is what is typed of a line.
type LogInput struct {
	Done    int           `json:"done" minimum:"0" maximum:"100"`
	InForm  int           `json:"inForm" minimum:"0" maximum:"100"`
	Reserve *int          `json:"reserve,omitempty" nullable:"false" minimum:"0" maximum:"100"`
	Pain    progress.Pain `json:"pain" enum:"none,burn,joint"`
	Joint   string        `json:"joint,omitempty" enum:"ankle,knee,hip,low-back,neck,shoulder,elbow,wrist,hamstring" doc:"that hurt; left out, every joint that the move asks clearly of"`
	Others  bool          `json:"others,omitempty" doc:"it was somebody else than the time before"`
	Load    string        `json:"load,omitempty" maxLength:"40" doc:"what was really lifted, all together, where it was another load than planned; 0 for none"`
	AtMs    *int64        `json:"atMs,omitempty" nullable:"false" minimum:"0" maximum:"7258118400000" doc:"when it was typed, by the server's clock; now if left out. What was typed later stays"`
	Numbered
}

// Numbered is what a device says of itself: its name, made once, and the number of what is
// done on it, so that a clock that goes back puts nothing before what was done before.
type Numbered struct {
	Device string `json:"device,omitempty" pattern:"^[0-9a-z]{26}$" doc:"name of the device, made once by it"`
	N      int64  `json:"n,omitempty" minimum:"1" maximum:"9007199254740991" doc:"the device's own number of this, rising; goes with device"`
}

func (d Numbered) check(wrong *problem.Faults) {
	if (d.Device == "") != (d.N == 0) && wrong.Good("body.device") {
		wrong.Add("body.n", "a device and its number go together", d.N)
	}
}

// OvertakenLine is what was typed in a line of the log and does not stand there any more.
type OvertakenLine struct {
	Done      int           `json:"done"`
	InForm    int           `json:"inForm"`
	Reserve   *int          `json:"reserve,omitempty"`
	Pain      progress.Pain `json:"pain" enum:"none,burn,joint"`
	Joint     string        `json:"joint,omitempty"`
	Others    bool          `json:"others,omitempty"`
	LoadG     measure.Mass  `json:"loadG"`
	WrittenMs int64         `json:"writtenMs" doc:"when it was typed"`
}

// LinePath names a line of a log.
type LinePath struct {
	OccurrencePath
	Subject string `path:"subject" pattern:"^([0-9a-z]{26}|ground|middle|reach)$"`
	Slot    string `path:"slot" pattern:"^[0-9A-Za-z-]{1,26}$"`
}

// ParticipantInput is somebody in a class.
type ParticipantInput struct {
	Name Name   `json:"name"`
	Lane string `json:"lane" enum:"ground,middle,reach"`
}

func (s *server) registerLog(a huma.API) {
	operation(a, http.MethodGet, "/api/occurrences/{occurrence}/log", "get-log", "What happened in a class", func(ctx context.Context, in *OccurrencePath) (*result[Log], error) {
		return s.log(ctx, in.Occurrence)
	})
	operation(a, http.MethodPut, "/api/occurrences/{occurrence}/participants/{participant}", "put-participant", "Add somebody to a class", func(ctx context.Context, in *struct {
		OccurrencePath
		Participant string `path:"participant" pattern:"^[0-9a-z]{26}$"`
		Body        ParticipantInput
	}) (*result[Log], error) {
		row := store.Participant{PublicID: in.Participant, Name: string(in.Body.Name), Lane: in.Body.Lane}
		if err := s.Store.PutParticipant(ctx, s.Scope, in.Occurrence, row); err != nil {
			return nil, err
		}
		return s.log(ctx, in.Occurrence)
	})
	operation(a, http.MethodGet, "/api/occurrences/{occurrence}/log/{subject}/{slot}/overtaken", "get-overtaken", "What was typed in a line and does not stand there any more, the newest first",
		func(ctx context.Context, in *LinePath) (*result[[]OvertakenLine], error) {
			return s.overtaken(ctx, *in)
		})
	checked(a, http.MethodPut, "/api/occurrences/{occurrence}/log/{subject}/{slot}", "put-log-line", "Write one line", func(ctx context.Context, in *struct {
		LinePath
		Body LogInput
	}, wrong *problem.Faults) (*result[LogSheet], error) {
		return s.putLine(ctx, in.Occurrence, in.Subject, in.Slot, in.Body, wrong)
	})
	checked(a, http.MethodPost, "/api/occurrences/{occurrence}/log/as-planned", "log-as-planned", "Write every line that is not written yet as planned", func(ctx context.Context, in *struct {
		OccurrencePath
		Body AsPlanned
	}, wrong *problem.Faults) (*result[Log], error) {
		if in.Body.check(wrong); wrong.Failed() {
			return nil, wrong.Problem()
		}
		return s.logAsPlanned(ctx, in.Occurrence, in.Body)
	})
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
	context circuit.Context
	// slots are those of the newest run, or of the circuit before the class was run.
	slots []RunSlot
}

func (s *server) sheets(ctx context.Context, occurrence string) (sheets, error) {
	c, err := s.Store.Class(ctx, s.Scope, occurrence)
	if err != nil {
		return sheets{}, err
	}
	p, err := s.placeOf(ctx, c)
	if err != nil {
		return sheets{}, err
	}
	out := sheets{class: c, Log: Log{Occurrence: occurrenceOf(c), Sheets: []LogSheet{}, Items: p.items()}}
	out.context = out.Occurrence.context(p)
	if out.context.Past, err = s.Store.Past(ctx, s.Scope, c.Occurrence); err != nil {
		return out, err
	}
	if out.slots, err = s.slotsToLog(ctx, c, out.context); err != nil || out.slots == nil {
		return out, err
	}
	people, err := s.Store.Participants(ctx, s.Scope, c.ID)
	if err != nil {
		return out, err
	}
	for _, l := range out.Occurrence.Lanes {
		if l.People > 0 {
			out.Sheets = append(out.Sheets, out.sheet(l.Lane, "", l.Lane))
		}
	}
	for _, q := range people {
		out.Sheets = append(out.Sheets, out.sheet(q.PublicID, q.Name, q.Lane))
	}
	return out, nil
}

// slotsToLog gives what is logged against: what the newest run began with and came to,
// since the circuit may have been changed after; else the circuit; nil for neither.
func (s *server) slotsToLog(ctx context.Context, c store.Class, against circuit.Context) ([]RunSlot, error) {
	run, err := s.Store.NewestRun(ctx, s.Scope, c.ID)
	if err == nil {
		events, err := s.Store.RunEvents(ctx, s.Scope, run.ID)
		if err != nil {
			return nil, err
		}
		f, now, err := s.foldRun(run, events)
		return f.cameTo(now.Anchor), err
	}
	if !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	_, head, err := s.Store.CircuitOf(ctx, s.Scope, c.ID)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	d, err := circuit.Decode(head.Document)
	return runSlots(d, circuit.Look(d, against)), err
}

// cameTo lists the slots that a run that has ended came to; all of one that goes on.
func (f frozen) cameTo(a cue.Anchor) []RunSlot {
	if a.State != cue.Ended {
		return f.Slots
	}
	out := []RunSlot{}
	for _, s := range f.Slots {
		if slices.ContainsFunc(f.Order.Blocks, func(b cue.Block) bool { return b.Kind == cue.Work && b.Slot == s.ID && b.From < a.PositionMs }) {
			out = append(out, s)
		}
	}
	return out
}

// sheet begins a sheet from the plan.
func (o sheets) sheet(subject, name, lane string) LogSheet {
	sh := LogSheet{Subject: subject, Name: name, Lane: lane, Lines: []LogLine{}}
	for _, sp := range o.slots {
		for _, cell := range sp.Cells {
			if string(cell.Lane) == lane {
				sh.Lines = append(sh.Lines, LogLine{Slot: sp.ID, Pattern: sp.Pattern, Variant: cell.Entry.Variant, LoadG: cell.LoadG, Load: cell.Entry.Load,
					TwoSides: cell.TwoSides, Planned: cell.PerSide, Done: cell.PerSide, InForm: cell.PerSide, Pain: progress.NoPain})
			}
		}
	}
	return sh
}

func (s *server) log(ctx context.Context, occurrence string) (*result[Log], error) {
	o, err := s.sheets(ctx, occurrence)
	if err != nil {
		return nil, err
	}
	if err := s.fill(ctx, o); err != nil {
		return nil, err
	}
	return answer(o.Log), nil
}

// fill puts saved lines over the plan of every sheet and judges them.
func (s *server) fill(ctx context.Context, o sheets) error {
	rows, err := s.Store.LoggedLines(ctx, s.Scope, o.class.ID)
	if err != nil || len(rows) == 0 {
		return err
	}
	saved := map[string]store.LoggedLine{}
	for _, r := range rows {
		saved[r.Subject+"/"+r.Slot] = r
	}
	for i := range o.Sheets {
		sh := &o.Sheets[i]
		for j := range sh.Lines {
			if r, ok := saved[sh.Subject+"/"+sh.Lines[j].Slot]; ok {
				sh.Lines[j].put(r.LogLine)
				sh.Lines[j].Overtaken = r.Overtaken
				sh.Lines[j].Result = o.advise(*sh, r.LogLine)
			}
		}
	}
	return nil
}

// put lays a saved line over the plan; it keeps its load, whatever the plan says
// now.
func (l *LogLine) put(r store.LogLine) {
	if l.LoadG != measure.Mass(r.LoadG) {
		l.Load = kit.Load{Kind: kit.Objects, Count: 1}
		if r.LoadG == 0 {
			l.Load = kit.Nothing
		}
	}
	l.Variant, l.LoadG, l.Planned = r.Variant, measure.Mass(r.LoadG), r.Planned
	l.Done, l.InForm, l.Reserve, l.Pain, l.Saved = r.Done, r.InForm, r.Reserve, progress.Pain(r.Pain), true
	l.Joint, l.Others = r.Joint, r.Others
}

// advise asks the core for verdict and advice on a saved line, as for a class a week on.
func (o sheets) advise(sh LogSheet, r store.LogLine) *progress.Result {
	v, ok := o.context.Library.Get(r.Variant)
	if !ok {
		return nil
	}
	now := r.Past(o.class.LocalDate, sh.Name)
	c := progress.Case{Variant: v, Body: circuit.DefaultBody, Day: now.Day + 7}
	var earlier []progress.Line
	for _, l := range o.context.Past.Lines {
		if l.Who != sh.Name || string(l.Lane) != sh.Lane && sh.Name == "" {
			continue
		}
		earlier = append(earlier, l)
		if l.Variant == r.Variant {
			c.Lines = append(c.Lines, l)
		}
	}
	c.Lines = append(c.Lines, now)
	for _, spec := range o.context.Lanes {
		if string(spec.Lane) == sh.Lane {
			c.Body = spec.Body
			spec.Neighbours(o.context, &c)
		}
	}
	out := progress.Advise(o.context.Library, c, earlier)
	return &out
}

// logAsPlanned writes every line of the lanes that is not written yet as it was planned.
func (s *server) logAsPlanned(ctx context.Context, occurrence string, in AsPlanned) (*result[Log], error) {
	o, err := s.sheets(ctx, occurrence)
	if err != nil {
		return nil, err
	}
	rows, err := s.Store.LogLines(ctx, s.Scope, o.class.ID)
	if err != nil {
		return nil, err
	}
	var lines []store.LogLine
	for _, sh := range o.Sheets {
		for _, l := range sh.Lines {
			written := slices.ContainsFunc(rows, func(r store.LogLine) bool { return r.Subject == sh.Subject && r.Slot == l.Slot })
			if sh.Name == "" && !written {
				lines = append(lines, o.row(sh, l, LogInput{Done: l.Done, InForm: l.InForm, Pain: progress.NoPain, Numbered: in.Numbered}, s.done(in.AtMs)))
			}
		}
	}
	if err := s.Store.PutLogLines(ctx, s.Scope, o.class.PublicID, lines); err != nil {
		return nil, err
	}
	return s.log(ctx, occurrence)
}

func (s *server) putLine(ctx context.Context, occurrence, subject, slot string, in LogInput, wrong *problem.Faults) (*result[LogSheet], error) {
	if in.InForm > in.Done && wrong.Good("body.done") {
		wrong.Add("body.inForm", "no more repetitions are in form than were done", in.InForm)
	}
	if hurts := in.Pain == progress.Joint; !hurts && wrong.Good("body.pain") {
		if in.Joint != "" {
			wrong.Add("body.joint", "a joint is named only where one hurts: set pain to joint", in.Joint)
		}
		if in.Others {
			wrong.Add("body.others", "it is said of pain at a joint only: set pain to joint", in.Others)
		}
	}
	in.check(wrong)
	lifted, err := s.lifted(ctx, in.Load, wrong)
	if err != nil {
		return nil, err
	}
	if wrong.Failed() {
		return nil, wrong.Problem()
	}
	o, err := s.sheets(ctx, occurrence)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(o.Sheets, func(sh LogSheet) bool { return sh.Subject == subject })
	if i < 0 {
		return nil, store.ErrNotFound
	}
	// Only the sheet that was written on is judged anew.
	o.Sheets = o.Sheets[i : i+1]
	j := slices.IndexFunc(o.Sheets[0].Lines, func(l LogLine) bool { return l.Slot == slot })
	if j < 0 {
		return nil, store.ErrNotFound
	}
	line := o.Sheets[0].Lines[j]
	if lifted != nil {
		line.LoadG = *lifted
	}
	participant := ""
	if o.Sheets[0].Name != "" {
		participant = subject
	}
	if err := s.Store.PutLogLine(ctx, s.Scope, o.class.PublicID, participant, o.row(o.Sheets[0], line, in, s.done(in.AtMs))); err != nil {
		return nil, err
	}
	if err := s.fill(ctx, o); err != nil {
		return nil, err
	}
	return answer(o.Sheets[0]), nil
}

// overtaken lists what does not stand in a line any more.
func (s *server) overtaken(ctx context.Context, at LinePath) (*result[[]OvertakenLine], error) {
	o, err := s.Store.Occurrence(ctx, s.Scope, at.Occurrence)
	if err != nil {
		return nil, err
	}
	rows, err := s.Store.Overtaken(ctx, s.Scope, o.ID, at.Subject, at.Slot)
	out := []OvertakenLine{}
	for _, r := range rows {
		out = append(out, OvertakenLine{r.Done, r.InForm, r.Reserve, progress.Pain(r.Pain), r.Joint, r.Others, measure.Mass(r.LoadG), r.WrittenAt.UnixMilli()})
	}
	return answer(out), err
}

// lifted reads what was really lifted, nil where it is not said.
func (s *server) lifted(ctx context.Context, text string, wrong *problem.Faults) (*measure.Mass, error) {
	none := measure.Mass(0)
	switch {
	case blankText(text):
		return nil, nil
	case strings.TrimSpace(text) == "0":
		return &none, nil
	}
	st, err := s.Store.Studio(ctx, s.Scope)
	if err != nil {
		return nil, err
	}
	m := measure.Mass(wholeOf(typed(st.MassUnit, wrong).mass("load", text)))
	return &m, nil
}

// row writes a line down with what the plan said of it.
func (o sheets) row(sh LogSheet, l LogLine, in LogInput, at time.Time) store.LogLine {
	row := store.LogLine{Subject: sh.Subject, Slot: l.Slot, Lane: sh.Lane, Variant: l.Variant, Planned: l.Planned, Done: in.Done, InForm: in.InForm,
		Reserve: in.Reserve, Pain: string(in.Pain), Joint: in.Joint, Others: in.Others, LoadG: int64(l.LoadG), LibraryVersion: moves.Version, Device: in.Device, N: in.N, UpdatedAt: at}
	for _, sp := range o.slots {
		for _, cell := range sp.Cells {
			if sp.ID == l.Slot && string(cell.Lane) == sh.Lane {
				row.ResistanceG, row.Hold, row.TooLight = int64(cell.ComparableG), string(cell.Entry.Hold), cell.FarTooLight
			}
		}
	}
	return row
}
