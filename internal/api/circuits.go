package api

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"strconv"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
)

// Circuit is the newest version of a plan with everything that follows from it.
type Circuit struct {
	ID         string           `json:"id"`
	Version    int              `json:"version"`
	CanUndo    bool             `json:"canUndo"`
	CanRedo    bool             `json:"canRedo"`
	Occurrence Occurrence       `json:"occurrence"`
	Document   circuit.Document `json:"document"`
	Plan       circuit.Plan     `json:"plan"`
	Items      []Item           `json:"items" doc:"the place's kit by name"`
	Notes      []why.Why        `json:"notes" doc:"of the proposal it goes back to"`
	// Decided is what the log says of the lanes' moves, set aside or not.
	Decided []circuit.Decided `json:"decided"`
}

// Proposed is a proposal's answer: the circuit, or what to relax.
type Proposed struct {
	Feasible bool      `json:"feasible"`
	Notes    []why.Why `json:"notes"`
	Relax    []why.Why `json:"relax" doc:"when nothing fits: each single thing that would help"`
	Circuit  *Circuit  `json:"circuit,omitempty"`
}

// ProposalBrief is what a proposal is asked for. Lanes, where given, replace the
// class's.
type ProposalBrief struct {
	Minutes   int                 `json:"minutes" minimum:"5" maximum:"240"`
	Format    circuit.Format      `json:"format" enum:"timed,reps"`
	Bans      []string            `json:"bans" maxItems:"60" doc:"patterns, moves and limits to keep to"`
	Known     []string            `json:"known,omitempty" nullable:"false" maxItems:"60" doc:"moves and patterns, or all, that the group knows whatever the log says"`
	Overruled []circuit.Overruled `json:"overruled,omitempty" nullable:"false" maxItems:"60" doc:"what to set aside of what the log says"`
	Lanes     []LaneInput         `json:"lanes,omitempty" minItems:"1" maxItems:"3"`
}

// CreateCircuit proposes the circuit of a class.
type CreateCircuit struct {
	OccurrenceID string        `json:"occurrenceId" pattern:"^[0-9a-z]{26}$"`
	ClientID     string        `json:"clientId" pattern:"^[0-9a-z]{26}$"`
	Brief        ProposalBrief `json:"brief"`
}

// Revision names the version a change came from and the change itself.
type Revision struct {
	ClientID string `json:"clientId" pattern:"^[0-9a-z]{26}$" doc:"made anew for every change; sent twice it counts once"`
	Base     int    `json:"base" minimum:"1"`
}

// EditInput is a list of edits of a version.
type EditInput struct {
	Revision
	Ops []circuit.Op `json:"ops" minItems:"1" maxItems:"50"`
}

// ProposeInput asks for a new proposal in place of a version.
type ProposeInput struct {
	Revision
	Brief ProposalBrief `json:"brief"`
}

// AddSlotInput asks for a slot of a pattern with the best entries.
type AddSlotInput struct {
	Revision
	Pattern moves.Pattern `json:"pattern" enum:"squat,lunge,lateral,hinge,bridge,push-level,push-overhead,pull,trunk-brace,trunk-turn,carry,whole-body,mobility"`
	Place   int           `json:"place" minimum:"0" maximum:"24"`
}

// TakeHome is one lane's version for somebody's flat.
type TakeHome struct {
	PlaceID  string           `json:"placeId"`
	Lane     string           `json:"lane" enum:"ground,middle,reach"`
	Document circuit.Document `json:"document"`
	Plan     circuit.Plan     `json:"plan"`
	Notes    []why.Why        `json:"notes"`
	Items    []Item           `json:"items"`
}

// CircuitPath names a circuit.
type CircuitPath struct {
	Circuit string `path:"circuit" pattern:"^[0-9a-z]{26}$"`
}

func (s *server) registerCircuits(a huma.API) {
	checked(a, http.MethodPut, "/api/circuits/{circuit}", "create-circuit", "Propose the circuit of a class", func(ctx context.Context, in *struct {
		CircuitPath
		Body CreateCircuit
	}, wrong *problem.Faults) (*result[Proposed], error) {
		return s.createCircuit(ctx, in.Circuit, in.Body, wrong)
	})
	operation(a, http.MethodGet, "/api/circuits/{circuit}", "get-circuit", "A circuit", func(ctx context.Context, in *CircuitPath) (*result[Circuit], error) {
		return s.circuitNow(ctx, in.Circuit)
	})
	operation(a, http.MethodPost, "/api/circuits/{circuit}/edits", "edit-circuit", "Edit a circuit", func(ctx context.Context, in *struct {
		CircuitPath
		Body EditInput
	}) (*result[Circuit], error) {
		return s.change(ctx, in.Circuit, in.Body.Revision, changing{kind: "edit", ops: func(circuit.Document) ([]circuit.Op, error) { return in.Body.Ops, nil }})
	})
	operation(a, http.MethodPost, "/api/circuits/{circuit}/slots", "add-slot", "Add a slot of a pattern with the best entries", func(ctx context.Context, in *struct {
		CircuitPath
		Body AddSlotInput
	}) (*result[Circuit], error) {
		return s.addSlot(ctx, in.Circuit, in.Body)
	})
	operation(a, http.MethodPost, "/api/circuits/{circuit}/undo", "undo-circuit", "Undo the last edit", func(ctx context.Context, in *struct {
		CircuitPath
		Body Revision
	}) (*result[Circuit], error) {
		return s.travel(ctx, in.Circuit, in.Body, "undo")
	})
	operation(a, http.MethodPost, "/api/circuits/{circuit}/redo", "redo-circuit", "Redo what was undone", func(ctx context.Context, in *struct {
		CircuitPath
		Body Revision
	}) (*result[Circuit], error) {
		return s.travel(ctx, in.Circuit, in.Body, "redo")
	})
	s.registerVersions(a)
	checked(a, http.MethodPost, "/api/circuits/{circuit}/propose", "propose-circuit", "Propose anew; undo brings the old one back", func(ctx context.Context, in *struct {
		CircuitPath
		Body ProposeInput
	}, wrong *problem.Faults) (*result[Proposed], error) {
		return s.proposeAgain(ctx, in.Circuit, in.Body, wrong)
	})
	operation(a, http.MethodGet, "/api/circuits/{circuit}/options", "get-options", "What could stand in a lane of a slot", func(ctx context.Context, in *struct {
		CircuitPath
		Slot string `query:"slot" required:"true" maxLength:"26"`
		Lane string `query:"lane" required:"true" enum:"ground,middle,reach"`
	}) (*result[circuit.Options], error) {
		v, err := s.view(ctx, in.Circuit)
		if err != nil {
			return nil, err
		}
		o, ok := circuit.OptionsFor(v.Document, v.context, in.Slot, moves.Lane(in.Lane))
		if !ok {
			return nil, store.ErrNotFound
		}
		return answer(o), nil
	})
	operation(a, http.MethodGet, "/api/circuits/{circuit}/take-home", "get-take-home", "A lane's version for a flat", func(ctx context.Context, in *struct {
		CircuitPath
		Place string `query:"place" required:"true" pattern:"^[0-9a-z]{26}$"`
		Lane  string `query:"lane" required:"true" enum:"ground,middle,reach"`
	}) (*result[TakeHome], error) {
		return s.takeHome(ctx, in.Circuit, in.Place, in.Lane)
	})
}

// view is a circuit with the context it was looked at against.
type view struct {
	Circuit
	context circuit.Context
	row     store.Circuit
	class   store.Class
}

// view reads a circuit and works it out against the place of its class.
func (s *server) view(ctx context.Context, id string) (view, error) {
	v, head, err := s.planned(ctx, id)
	if err != nil {
		return view{}, err
	}
	p, err := s.placeOf(ctx, v.class)
	if err != nil {
		return view{}, err
	}
	past := v.context.Past
	v.context = v.Occurrence.context(p)
	v.context.Past = past
	v.Circuit = Circuit{ID: id, Version: head.Version, CanUndo: head.UndoTo != nil, CanRedo: head.RedoTo != nil, Occurrence: v.Occurrence, Document: v.Document,
		Plan: circuit.Look(v.Document, v.context), Items: p.items(), Notes: []why.Why{}, Decided: circuit.Decisions(v.Document, v.context)}
	return v, json.Unmarshal(head.Notes, &v.Notes)
}

// planned reads a circuit with its class and what earlier classes say, but no kit.
func (s *server) planned(ctx context.Context, id string) (v view, head store.CircuitVersion, err error) {
	if v.row, head, err = s.Store.Circuit(ctx, s.Scope, id); err != nil {
		return v, head, err
	}
	if v.class, err = s.Store.ClassByID(ctx, s.Scope, v.row.OccurrenceID); err != nil {
		return v, head, err
	}
	if v.Document, err = circuit.Decode(head.Document); err != nil {
		return v, head, err
	}
	v.Occurrence = occurrenceOf(v.class)
	v.context.Past, err = s.Store.Past(ctx, s.Scope, v.class.Occurrence)
	return v, head, err
}

func (s *server) placeOf(ctx context.Context, c store.Class) (Place, error) {
	return s.place(ctx, store.Place{Row: store.Row{ID: c.PlaceID}, PublicID: c.PlacePublicID, Name: c.PlaceName})
}

func (s *server) circuitNow(ctx context.Context, id string) (*result[Circuit], error) {
	v, err := s.view(ctx, id)
	return answer(v.Circuit), err
}

// brief turns a request into the core's, with the lanes it brings. What is no ban, no
// move that could be known and nothing that the log could say is refused by name.
func (s *server) brief(ctx context.Context, c *store.Class, in ProposalBrief, wrong *problem.Faults) (circuit.Brief, error) {
	p, err := s.placeOf(ctx, *c)
	if err != nil {
		return circuit.Brief{}, err
	}
	if in.Lanes != nil {
		st, err := s.Store.Studio(ctx, s.Scope)
		if err != nil {
			return circuit.Brief{}, err
		}
		t := typed(st.MassUnit, wrong)
		t.at = "body.brief."
		c.Lanes = t.laneRows(in.Lanes)
	}
	c.Minutes = in.Minutes
	b := circuit.Brief{Context: occurrenceOf(*c).context(p), Format: in.Format, Bans: in.Bans, Known: in.Known, Overruled: in.Overruled}
	said := circuit.Document{Known: in.Known, Overruled: in.Overruled}
	for _, f := range append(circuit.CheckBans(p.library, in.Bans, nil), said.CheckSaid(p.library)...) {
		wrong.Add("body.brief."+f.Path, f.Message, nil)
	}
	if wrong.Failed() {
		return b, wrong.Problem()
	}
	b.Past, err = s.Store.Past(ctx, s.Scope, c.Occurrence)
	return b, err
}

func none(w []why.Why) []why.Why {
	if w == nil {
		return []why.Why{}
	}
	return w
}

func (s *server) createCircuit(ctx context.Context, id string, in CreateCircuit, wrong *problem.Faults) (*result[Proposed], error) {
	c, err := s.Store.Class(ctx, s.Scope, in.OccurrenceID)
	if err != nil {
		return nil, err
	}
	b, err := s.brief(ctx, &c, in.Brief, wrong)
	if err != nil {
		return nil, err
	}
	back, err := turn(ctx, s.searches)
	if err != nil {
		return nil, err
	}
	defer back()
	// The same create again is the same circuit; it need not be worked out.
	if old, _, err := s.Store.CircuitOf(ctx, s.Scope, c.ID); err == nil {
		if old.PublicID != id {
			return nil, store.ErrConflict
		}
		v, err := s.view(ctx, id)
		return answer(Proposed{Feasible: true, Notes: v.Notes, Relax: []why.Why{}, Circuit: &v.Circuit}), err
	} else if !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	p := circuit.Propose(b)
	out := Proposed{Feasible: p.Feasible, Notes: none(p.Notes), Relax: none(p.Relax)}
	if !p.Feasible {
		return answer(out), nil
	}
	doc, err := circuit.Encode(p.Document)
	if err != nil {
		return nil, err
	}
	notes, err := json.Marshal(out.Notes)
	if err != nil {
		return nil, err
	}
	first := store.CircuitVersion{ClientID: in.ClientID, Kind: "propose", Ops: []byte("[]"), Inverse: []byte("[]"), Document: doc, Notes: notes}
	if err := s.Store.CreateCircuit(ctx, s.Scope, in.OccurrenceID, store.Circuit{PublicID: id}, first, &c); err != nil {
		return nil, err
	}
	v, err := s.view(ctx, id)
	out.Circuit = &v.Circuit
	return answer(out), err
}

// changing says what a change does to the version it came from.
type changing struct {
	kind string
	ops  func(circuit.Document) ([]circuit.Op, error)
	// with changes minutes and lanes of the class, notes are those of a new proposal;
	// nil keeps what there is.
	with  *store.Class
	notes []byte
}

// change applies edits to the version they came from and answers with the circuit.
func (s *server) change(ctx context.Context, id string, r Revision, by changing) (*result[Circuit], error) {
	how := store.Append{ClientID: r.ClientID, Base: r.Base, With: by.with, Beside: by.kind == "edit"}
	lib, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	return s.append(ctx, id, how, func(start store.Start) (store.CircuitVersion, error) {
		d, err := circuit.Decode(start.Base.Document)
		if err != nil {
			return store.CircuitVersion{}, err
		}
		list, err := by.ops(d)
		if err != nil {
			return store.CircuitVersion{}, err
		}
		next, inverse, err := circuit.Apply(d, list, lib)
		if err != nil {
			return store.CircuitVersion{}, err
		}
		undo := start.Base.Version
		row, err := versionRow(by.kind, next, list, inverse, &undo, nil)
		row.Notes = start.Base.Notes
		if by.notes != nil {
			row.Notes = by.notes
		}
		return row, err
	})
}

// append works a version out from the one it comes from, adds it, and answers with the
// circuit.
func (s *server) append(ctx context.Context, id string, how store.Append, work func(store.Start) (store.CircuitVersion, error)) (*result[Circuit], error) {
	start, err := s.Store.StartFrom(ctx, s.Scope, id, how)
	if err != nil {
		return nil, err
	}
	if !start.Kept {
		next, err := work(start)
		if err != nil {
			return nil, err
		}
		if err := s.Store.AppendVersion(ctx, s.Scope, id, how, next); err != nil {
			return nil, err
		}
	}
	return s.circuitNow(ctx, id)
}

func versionRow(kind string, d circuit.Document, ops, inverse []circuit.Op, undo, redo *int) (store.CircuitVersion, error) {
	v := store.CircuitVersion{Kind: kind, UndoTo: undo, RedoTo: redo}
	var err error
	if v.Document, err = circuit.Encode(d); err != nil {
		return v, err
	}
	if v.Ops, err = json.Marshal(ops); err != nil {
		return v, err
	}
	v.Inverse, err = json.Marshal(inverse)
	return v, err
}

// travel goes one step back or forth in the history: a new version with the
// state of an old one, reached by the stored inverse edits.
func (s *server) travel(ctx context.Context, id string, r Revision, kind string) (*result[Circuit], error) {
	lib, err := s.library(ctx)
	if err != nil {
		return nil, err
	}
	return s.append(ctx, id, store.Append{ClientID: r.ClientID, Base: r.Base}, func(start store.Start) (store.CircuitVersion, error) {
		head, target := start.Base, start.Undo
		if kind == "redo" {
			target = start.Redo
		}
		if target == nil {
			return head, fieldError("body.base", errors.New("there is nothing to "+kind), r.Base)
		}
		here := head.Version
		next := store.CircuitVersion{Kind: kind, Document: target.Document, Notes: target.Notes, UndoTo: target.UndoTo, RedoTo: &here}
		if kind == "undo" {
			// The new version stands where its target stood; one more undo takes the
			// target's own inverse.
			next.Ops, next.Inverse = head.Inverse, target.Inverse
			return next, sameByInverse(lib, head, *target)
		}
		next.Ops, next.Inverse, next.RedoTo = target.Ops, target.Inverse, target.RedoTo
		return next, nil
	})
}

// sameByInverse makes sure that undoing the edits gives the very bytes of the
// version gone back to.
func sameByInverse(lib *moves.Library, head, target store.CircuitVersion) error {
	var inverse []circuit.Op
	if err := json.Unmarshal(head.Inverse, &inverse); err != nil {
		return err
	}
	d, err := circuit.Decode(head.Document)
	if err != nil {
		return err
	}
	back, _, err := circuit.Apply(d, inverse, lib)
	if err != nil {
		return err
	}
	b, err := circuit.Encode(back)
	if err == nil && string(b) != string(target.Document) {
		err = errors.New("undo does not lead back")
	}
	return err
}

func (s *server) addSlot(ctx context.Context, id string, in AddSlotInput) (*result[Circuit], error) {
	back, err := turn(ctx, s.searches)
	if err != nil {
		return nil, err
	}
	defer back()
	v, err := s.view(ctx, id)
	if err != nil {
		return nil, err
	}
	return s.change(ctx, id, in.Revision, changing{kind: "edit", ops: func(d circuit.Document) ([]circuit.Op, error) {
		if len(d.Slots) >= circuit.MaxSlots {
			return nil, fieldError("body.pattern", errors.New("a circuit has at most "+strconv.Itoa(circuit.MaxSlots)+" slots"), in.Pattern)
		}
		slot, ok := circuit.NewSlot(d, v.context, in.Pattern)
		if !ok {
			return nil, fieldError("body.pattern", errors.New("no move of this pattern suits every lane with this kit"), in.Pattern)
		}
		place := min(in.Place, len(d.Slots))
		return []circuit.Op{{Kind: circuit.AddSlot, Slot: &slot, Count: &place}}, nil
	}})
}

func (s *server) proposeAgain(ctx context.Context, id string, in ProposeInput, wrong *problem.Faults) (*result[Proposed], error) {
	v, err := s.view(ctx, id)
	if err != nil {
		return nil, err
	}
	class := v.class
	b, err := s.brief(ctx, &class, in.Brief, wrong)
	if err != nil {
		return nil, err
	}
	back, err := turn(ctx, s.searches)
	if err != nil {
		return nil, err
	}
	defer back()
	// A version that is no longer the newest is told so before anything is worked out.
	if _, err := s.Store.StartFrom(ctx, s.Scope, id, store.Append{ClientID: in.ClientID, Base: in.Base}); err != nil {
		return nil, err
	}
	p := circuit.Propose(b)
	out := Proposed{Feasible: p.Feasible, Notes: none(p.Notes), Relax: none(p.Relax)}
	if !p.Feasible {
		return answer(out), nil
	}
	notes, err := json.Marshal(out.Notes)
	if err != nil {
		return nil, err
	}
	c, err := s.change(ctx, id, in.Revision, changing{kind: "propose", with: &class, notes: notes, ops: func(circuit.Document) ([]circuit.Op, error) {
		return []circuit.Op{{Kind: circuit.Replace, Document: &p.Document}}, nil
	}})
	if err != nil {
		return nil, err
	}
	out.Circuit = &c.Body
	return answer(out), nil
}

// takeHome computes a lane's version for one person in a flat. The body is the
// lane's.
func (s *server) takeHome(ctx context.Context, id, place, lane string) (*result[TakeHome], error) {
	v, _, err := s.planned(ctx, id)
	if err != nil {
		return nil, err
	}
	row, err := s.Store.Place(ctx, s.Scope, place)
	if err != nil {
		return nil, err
	}
	p, err := s.place(ctx, row)
	if err != nil {
		return nil, err
	}
	spec := circuit.LaneSpec{Lane: moves.Lane(lane), People: 1, Body: circuit.DefaultBody, Stature: circuit.DefaultStature, BodyUnknown: true}
	for _, l := range v.Occurrence.context(p).Lanes {
		if l.Lane == spec.Lane {
			spec.Body, spec.Stature, spec.BodyUnknown = l.Body, l.Stature, l.BodyUnknown
		}
	}
	home := circuit.Context{Library: p.library, Stock: p.stock, Lanes: []circuit.LaneSpec{spec}, Minutes: v.Occurrence.Minutes, Past: v.context.Past}
	d, notes := circuit.TakeHome(v.Document, home)
	return answer(TakeHome{place, lane, d, circuit.Look(d, home), none(notes), p.items()}), nil
}
