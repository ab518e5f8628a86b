package studio

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/compose"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/run"
	"nimbleanvil/internal/store"
)

// RunNow is where a class is: what every screen asks for again and again.
type RunNow struct {
	Anchor cue.Anchor `json:"anchor"`
	Events int        `json:"events" doc:"presses so far"`
	// Did is what parties did, as far as it still counts.
	Did   []cue.Deed `json:"did"`
	NowMs int64      `json:"nowMs"`
}

// Run is a class taking place: what it runs by, frozen when it was made, and
// where it is.
type Run struct {
	ID         string      `json:"id"`
	Occurrence Occurrence  `json:"occurrence"`
	Order      cue.Order   `json:"order"`
	Blocks     []run.Block `json:"blocks"`
	Slots      []run.Slot  `json:"slots"`
	// Floors are where people stand in blocks of stations and partners.
	Floors []plan.Floor `json:"floors"`
	// Ramp is the lighter, shorter set before the first heavy one.
	Ramp  *plan.Drill `json:"ramp,omitempty"`
	Prep  []string    `json:"prep" doc:"mobility moves for the prep, by id"`
	Items []kit.Item  `json:"items"`
	// Cues are what to say of each move today.
	Cues []moves.TodaysCue `json:"cues"`
	// Hands are what every party does with its hands on the way to a slot.
	Hands []run.Hand `json:"hands"`
	// Keys lets a screen without a server look up what a press does.
	Keys RunKeys `json:"keys"`
	RunNow
}

// RunKeys is the core's table of presses for a run.
type RunKeys struct {
	Effects []cue.Effect `json:"effects"`
	Leaps   []cue.Leap   `json:"leaps"`
	// GoOnMs is how long after its end a class may go on where it stopped.
	GoOnMs int64 `json:"goOnMs"`
}

// RunInput starts a run of a class.
type RunInput struct {
	OccurrenceID string `json:"occurrenceId" pattern:"^[0-9a-z]{26}$"`
}

// Press is a key pressed in class.
type Press struct {
	ClientID string         `json:"clientId" pattern:"^[0-9a-z]{26}$" doc:"made anew for every press; sent twice it counts once"`
	Kind     cue.RunKind    `json:"kind" enum:"start,hold,resume,skip,back,add,next,end,done,round,stopped,again,swapped"`
	Ms       int64          `json:"ms,omitempty" minimum:"0" maximum:"600000" doc:"the wait of an add"`
	Party    string         `json:"party,omitempty" pattern:"^([0-9a-z]{26}|ground|middle|reach)$" patternDescription:"a lane, or a participant of the class by id" doc:"who was done, came to the end of a round, stopped, is back or does something else"`
	Slot     string         `json:"slot,omitempty" maxLength:"26" doc:"in which slot a party did something"`
	Entry    *circuit.Entry `json:"entry,omitempty" doc:"what a party does from now on in the slot"`
	AtMs     *int64         `json:"atMs,omitempty" nullable:"false" minimum:"0" maximum:"7258118400000" doc:"when it was pressed, by the server's clock; now if left out. One that waited for a server counts from then"`
	Numbered
}

// Numbered is what a device says of itself: its name, made once, and the number of what is
// done on it, so that a clock that goes back puts nothing before what was done before.
type Numbered struct {
	Device string `json:"device,omitempty" pattern:"^[0-9a-z]{26}$" doc:"name of the device, made once by it"`
	N      int64  `json:"n,omitempty" minimum:"1" maximum:"9007199254740991" doc:"the device's own number of this, rising; goes with device"`
}

func (d Numbered) check(at string, wrong *fault.List) {
	if (d.Device == "") != (d.N == 0) && wrong.Good(fault.Join(at, "device")) {
		wrong.Note(fault.Join(at, "n"), "a device and its number go together", d.N)
	}
}

// eventTime is when somebody did what arrives now: a clock that is ahead of the server's
// says now.
func (s Studio) eventTime(atMs *int64) time.Time {
	now := s.now().UTC()
	if atMs == nil || *atMs > now.UnixMilli() {
		return now
	}
	return time.UnixMilli(*atMs).UTC()
}

// CreateRun makes a run of a class, ready to start.
func (s Studio) CreateRun(ctx context.Context, id string, in RunInput) (Run, error) {
	c, err := s.store.Class(ctx, s.scope, in.OccurrenceID)
	if err != nil {
		return Run{}, err
	}
	v, err := s.view(ctx, c.CircuitPublicID)
	if err != nil {
		return Run{}, err
	}
	if len(v.Document.Slots()) == 0 {
		return Run{}, Refusal{Infeasible, "the circuit has no slots yet"}
	}
	plan, err := run.Encode(run.Freeze(v.Document, plan.Look(v.Document, v.Context), v.Context, v.Place.items()))
	if err != nil {
		return Run{}, err
	}
	if err := s.store.CreateRun(ctx, s.scope, in.OccurrenceID, store.Run{PublicID: id, CircuitVersion: v.Base.Version, Plan: plan}); err != nil {
		return Run{}, err
	}
	return s.Run(ctx, id)
}

// Press adds a press to a run and answers where the class is then.
func (s Studio) Press(ctx context.Context, id string, in Press, wrong *fault.List) (RunNow, error) {
	in.check("", wrong)
	if !in.Kind.OfParty() {
		for field, said := range map[string]bool{"party": in.Party != "", "slot": in.Slot != "", "entry": in.Entry != nil} {
			if said {
				wrong.Note(field, "only what a party did has one: leave it out", nil)
			}
		}
	}
	if err := wrong.Err(); err != nil {
		return RunNow{}, err
	}
	e := store.RunEvent{
		ClientID: in.ClientID,
		Device:   in.Device,
		N:        in.N,
		Kind:     string(in.Kind),
		At:       s.eventTime(in.AtMs),
		Ms:       in.Ms,
		Party:    in.Party,
		Slot:     in.Slot,
	}
	if in.Kind.OfParty() {
		if err := s.ofParty(ctx, id, in, &e, wrong); err != nil {
			return RunNow{}, err
		}
	}
	if err := s.store.AddRunEvent(ctx, s.scope, id, e); err != nil {
		return RunNow{}, err
	}
	return s.RunNow(ctx, id)
}

// ofParty checks what a party is said to have done against what the run is of, and takes
// down what it does from then on.
func (s Studio) ofParty(ctx context.Context, id string, in Press, e *store.RunEvent, wrong *fault.List) error {
	row, p, _, err := s.runNow(ctx, id)
	if err != nil {
		return err
	}
	c, err := s.store.ClassByID(ctx, s.scope, row.OccurrenceID)
	if err != nil {
		return err
	}
	_, lane := people.Party(in.Party).Lane()
	if !lane && !slices.ContainsFunc(c.People, func(a store.Attendee) bool { return a.PublicID == in.Party }) {
		wrong.Note("party", "nobody in the class is called so", in.Party)
	}
	if !slices.ContainsFunc(p.Slots, func(x run.Slot) bool { return x.ID == in.Slot }) {
		wrong.Note("slot", "the run has no such slot", in.Slot)
	}
	if (in.Entry != nil) != (in.Kind == cue.Swapped) {
		wrong.Note("entry", "what a party does from now on goes with swapped, and only with that", nil)
	}
	if wrong.Err() != nil || in.Entry == nil {
		return wrong.Err()
	}
	against, place, err := s.contextOf(ctx, c)
	if err != nil {
		return err
	}
	for _, f := range in.Entry.Check(place.library).Under("entry") {
		wrong.Note(f.Path, f.Message, f.Value)
	}
	if err := wrong.Err(); err != nil {
		return err
	}
	cell, ok := p.CellFor(against, in.Slot, people.Party(in.Party), *in.Entry)
	if !ok {
		return fault.List{{Path: "party", Message: "nobody of this lane is in the class", Value: in.Party}}
	}
	e.Detail, err = json.Marshal(cell)
	return err
}

// RunOptions lists what a party could do in a slot of a run instead of what it does.
func (s Studio) RunOptions(ctx context.Context, id, slot, party string) (compose.Options, error) {
	row, p, _, err := s.runNow(ctx, id)
	if err != nil {
		return compose.Options{}, err
	}
	c, err := s.store.ClassByID(ctx, s.scope, row.OccurrenceID)
	if err != nil {
		return compose.Options{}, err
	}
	against, _, err := s.contextOf(ctx, c)
	if err != nil {
		return compose.Options{}, err
	}
	o, ok := compose.OptionsFor(p.Document(), against, slot, people.Party(party))
	if !ok {
		return o, store.ErrNotFound
	}
	return o, nil
}

// RunNow says where a run is.
func (s Studio) RunNow(ctx context.Context, id string) (RunNow, error) {
	_, _, now, err := s.runNow(ctx, id)
	return now, err
}

// runNow folds a run's presses over the order it began with.
func (s Studio) runNow(ctx context.Context, id string) (store.Run, run.Plan, RunNow, error) {
	row, events, err := s.store.Run(ctx, s.scope, id)
	if err != nil {
		return row, run.Plan{}, RunNow{}, err
	}
	p, now, err := s.foldRun(row, events)
	return row, p, now, err
}

// foldRun gives what a run began with and where its presses have brought it.
func (s Studio) foldRun(row store.Run, events []store.RunEvent) (p run.Plan, now RunNow, err error) {
	p, err = s.began(row.Plan)
	if err == nil {
		p, err = s.swapped(p, events)
	}
	did := runEvents(events)
	return p, RunNow{cue.Fold(p.Order, did), len(events), cue.Deeds(p.Order, did), s.now().UnixMilli()}, err
}

// swapped is a plan with what parties did instead of what it said.
func (s Studio) swapped(p run.Plan, events []store.RunEvent) (run.Plan, error) {
	for _, e := range events {
		if cue.RunKind(e.Kind) != cue.Swapped || e.Detail == nil {
			continue
		}
		var cell plan.Cell
		if err := json.Unmarshal(e.Detail, &cell); err != nil {
			return p, err
		}
		p = p.Swapped(e.Slot, cell)
	}
	return p, nil
}

// Run reads a run and where it is.
func (s Studio) Run(ctx context.Context, id string) (Run, error) {
	row, p, now, err := s.runNow(ctx, id)
	if err != nil {
		return Run{}, err
	}
	c, err := s.store.ClassByID(ctx, s.scope, row.OccurrenceID)
	if err != nil {
		return Run{}, err
	}
	lib, err := s.library(ctx)
	if err != nil {
		return Run{}, err
	}
	q, err := s.cues(ctx, c.Occurrence, lib, run.Moves(p.Slots))
	if err != nil {
		return Run{}, err
	}
	return Run{
		ID:         id,
		Occurrence: occurrenceOf(c),
		Order:      p.Order,
		Blocks:     p.Blocks,
		Slots:      p.Slots,
		Floors:     append([]plan.Floor{}, p.Floors...),
		Ramp:       p.Ramp,
		Prep:       p.Prep,
		Items:      p.Items,
		Cues:       q.Moves,
		Hands:      p.Hands(),
		Keys:       RunKeys{cue.Effects, p.Order.Leaps(), cue.GoOnMs},
		RunNow:     now,
	}, nil
}

func runEvents(rows []store.RunEvent) []cue.RunEvent {
	out := make([]cue.RunEvent, 0, len(rows))
	for _, r := range rows {
		out = append(out, cue.RunEvent{
			Kind: cue.RunKind(r.Kind), At: r.At.UnixMilli(), Ms: r.Ms, Party: people.Party(r.Party), Slot: r.Slot,
		})
	}
	return out
}
