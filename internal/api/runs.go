package api

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
)

// RunNow is where a class is: what every screen asks for again and again.
type RunNow struct {
	Anchor cue.Anchor `json:"anchor"`
	Events int        `json:"events" doc:"presses so far"`
	NowMs  int64      `json:"nowMs"`
}

// Run is a class taking place: what it runs by, frozen when it was made, and
// where it is.
type Run struct {
	ID         string     `json:"id"`
	Occurrence Occurrence `json:"occurrence"`
	Order      cue.Order  `json:"order"`
	Slots      []RunSlot  `json:"slots"`
	Prep       []string   `json:"prep" doc:"mobility moves for the prep, by id"`
	Items      []Item     `json:"items"`
	// Cues are what to say of each move today.
	Cues []moves.TodaysCue `json:"cues"`
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

// RunSlot is what a screen shows of a slot.
type RunSlot struct {
	ID      string         `json:"id"`
	Pattern moves.Pattern  `json:"pattern"`
	Waves   int            `json:"waves"`
	Cells   []circuit.Cell `json:"cells"`
}

// frozen is what a run keeps of the plan it started from.
type frozen struct {
	Order cue.Order `json:"order"`
	Slots []RunSlot `json:"slots"`
	Prep  []string  `json:"prep"`
	Items []Item    `json:"items"`
}

// thaw reads what a run began with. A plan that no program of ours made is refused; lists
// that an older one left out are empty.
func thaw(plan []byte) (frozen, error) {
	var f frozen
	if err := json.Unmarshal(plan, &f); err != nil {
		return f, fmt.Errorf("it is no plan of a run: %w", err)
	}
	if err := f.Order.Check(); err != nil {
		return f, fmt.Errorf("it is no plan of a run: order.%w", err)
	}
	if len(f.Slots) > circuit.MaxSlots {
		return f, fmt.Errorf("slots: at most %d", circuit.MaxSlots)
	}
	f.Order.Events, f.Prep, f.Items = listOf(f.Order.Events), listOf(f.Prep), listOf(f.Items)
	f.Slots = listOf(f.Slots)
	for i := range f.Slots {
		f.Slots[i].Cells = listOf(f.Slots[i].Cells)
		for n := range f.Slots[i].Cells {
			c := &f.Slots[i].Cells[n]
			if !slices.Contains(moves.Lanes, c.Lane) {
				return f, fmt.Errorf("slots[%d].cells[%d].lane: ground, middle or reach", i, n)
			}
			c.Faults, c.Asks, c.Setup, c.Cautions, c.Entry.Anchors = listOf(c.Faults), listOf(c.Asks), listOf(c.Setup), listOf(c.Cautions), listOf(c.Entry.Anchors)
		}
	}
	return f, nil
}

// RunInput starts a run of a class.
type RunInput struct {
	OccurrenceID string `json:"occurrenceId" pattern:"^[0-9a-z]{26}$"`
}

// Press is a key pressed in class.
type Press struct {
	ClientID string      `json:"clientId" pattern:"^[0-9a-z]{26}$" doc:"made anew for every press; sent twice it counts once"`
	Kind     cue.RunKind `json:"kind" enum:"start,hold,resume,skip,back,add,end"`
	Ms       int64       `json:"ms,omitempty" minimum:"0" maximum:"600000" doc:"the wait of an add"`
	AtMs     *int64      `json:"atMs,omitempty" nullable:"false" minimum:"0" maximum:"7258118400000" doc:"when it was pressed, by the server's clock; now if left out. One that waited for a server counts from then"`
	Numbered
}

// RunPath names a run.
type RunPath struct {
	Run string `path:"run" pattern:"^[0-9a-z]{26}$"`
}

func (s *server) registerRuns(a huma.API) {
	operation(a, http.MethodPut, "/api/runs/{run}", "create-run", "Make a run of a class, ready to start", func(ctx context.Context, in *struct {
		RunPath
		Body RunInput
	}) (*result[Run], error) {
		return s.createRun(ctx, in.Run, in.Body.OccurrenceID)
	})
	operation(a, http.MethodGet, "/api/runs/{run}", "get-run", "A run and where it is", func(ctx context.Context, in *RunPath) (*result[Run], error) {
		return s.run(ctx, in.Run)
	})
	operation(a, http.MethodGet, "/api/runs/{run}/now", "get-run-now", "Where a run is", func(ctx context.Context, in *RunPath) (*result[RunNow], error) {
		_, _, now, err := s.runNow(ctx, in.Run)
		return answer(now), err
	})
	checked(a, http.MethodPost, "/api/runs/{run}/events", "press", "Start, hold, resume, skip, back, add rest, end", func(ctx context.Context, in *struct {
		RunPath
		Body Press
	}, wrong *problem.Faults) (*result[RunNow], error) {
		if in.Body.check(wrong); wrong.Failed() {
			return nil, wrong.Problem()
		}
		e := store.RunEvent{ClientID: in.Body.ClientID, Device: in.Body.Device, N: in.Body.N, Kind: string(in.Body.Kind), At: s.done(in.Body.AtMs), Ms: in.Body.Ms}
		if err := s.Store.AddRunEvent(ctx, s.Scope, in.Run, e); err != nil {
			return nil, err
		}
		_, _, now, err := s.runNow(ctx, in.Run)
		return answer(now), err
	})
}

// done is when somebody did what arrives now: never later than now.
func (s *server) done(atMs *int64) time.Time {
	now := s.Now().UTC()
	if atMs == nil || *atMs > now.UnixMilli() {
		return now
	}
	return time.UnixMilli(*atMs).UTC()
}

func (s *server) createRun(ctx context.Context, id, occurrence string) (*result[Run], error) {
	c, err := s.Store.Class(ctx, s.Scope, occurrence)
	if err != nil {
		return nil, err
	}
	row, _, err := s.Store.CircuitOf(ctx, s.Scope, c.ID)
	if err != nil {
		return nil, err
	}
	v, err := s.view(ctx, row.PublicID)
	if err != nil {
		return nil, err
	}
	if len(v.Document.Slots) == 0 {
		return nil, problem.New(problem.Infeasible, http.StatusUnprocessableEntity, "the circuit has no slots yet")
	}
	f := frozen{Order: v.Plan.Order, Slots: runSlots(v.Document, v.Plan), Prep: circuit.PrepMoves(v.Document, v.context), Items: v.Items}
	b, err := json.Marshal(f)
	if err != nil {
		return nil, err
	}
	if err := s.Store.CreateRun(ctx, s.Scope, occurrence, store.Run{PublicID: id, CircuitVersion: v.Version, Plan: b}); err != nil {
		return nil, err
	}
	return s.run(ctx, id)
}

// runSlots gives what screen and log need of a plan's slots.
func runSlots(d circuit.Document, p circuit.Plan) []RunSlot {
	out := []RunSlot{}
	for i, sp := range p.Slots {
		out = append(out, RunSlot{sp.ID, sp.Pattern, d.Slots[i].Waves, sp.Cells})
	}
	return out
}

// runNow folds a run's presses over the order it began with.
func (s *server) runNow(ctx context.Context, id string) (store.Run, frozen, RunNow, error) {
	row, events, err := s.Store.Run(ctx, s.Scope, id)
	if err != nil {
		return row, frozen{}, RunNow{}, err
	}
	f, now, err := s.foldRun(row, events)
	return row, f, now, err
}

// foldRun gives what a run began with and where its presses have brought it.
func (s *server) foldRun(row store.Run, events []store.RunEvent) (f frozen, now RunNow, err error) {
	f, err = thaw(row.Plan)
	return f, RunNow{cue.Fold(f.Order, runEvents(events)), len(events), s.Now().UnixMilli()}, err
}

func (s *server) run(ctx context.Context, id string) (*result[Run], error) {
	row, f, now, err := s.runNow(ctx, id)
	if err != nil {
		return nil, err
	}
	c, err := s.Store.ClassByID(ctx, s.Scope, row.OccurrenceID)
	if err != nil {
		return nil, err
	}
	lib, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	q, err := s.cues(ctx, c.Occurrence, lib, movesOf(f.Slots))
	if err != nil {
		return nil, err
	}
	return answer(Run{ID: id, Occurrence: occurrenceOf(c), Order: f.Order, Slots: f.Slots, Prep: f.Prep, Items: f.Items, Cues: q.Moves,
		Keys: RunKeys{cue.Effects, f.Order.Leaps(), cue.GoOnMs}, RunNow: now}), nil
}

func runEvents(rows []store.RunEvent) []cue.RunEvent {
	out := make([]cue.RunEvent, 0, len(rows))
	for _, r := range rows {
		out = append(out, cue.RunEvent{Kind: cue.RunKind(r.Kind), At: r.At.UnixMilli(), Ms: r.Ms})
	}
	return out
}
