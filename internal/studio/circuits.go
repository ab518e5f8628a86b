package studio

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strconv"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/compose"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/store"
)

// Circuit is the newest version of a plan with everything that follows from it.
type Circuit struct {
	ID         string           `json:"id"`
	Tag        string           `json:"tag" doc:"names this answer, as its ETag does"`
	Version    int              `json:"version"`
	CanUndo    bool             `json:"canUndo"`
	CanRedo    bool             `json:"canRedo"`
	Occurrence Occurrence       `json:"occurrence"`
	Document   circuit.Document `json:"document"`
	Plan       plan.Plan        `json:"plan" doc:"without the events of its order, which a run has"`
	Items      []kit.Item       `json:"items" doc:"the place's kit by name"`
	Notes      []why.Why        `json:"notes" doc:"of the proposal it goes back to"`
	// Decided is what the log says of the lanes' moves, set aside or not.
	Decided []plan.Decided `json:"decided"`
}

// Edited is a circuit after an edit: what changed in it, or, where it is not known what
// whoever asks has, all of it.
type Edited struct {
	Circuit *Circuit `json:"circuit,omitempty"`
	Change  *Change  `json:"change,omitempty"`
}

// Change is what is other in a circuit than in an earlier answer. What is left out is the
// same as there.
type Change struct {
	From       string           `json:"from" doc:"the tag of the answer that this changes: who has another loads the circuit"`
	Tag        string           `json:"tag"`
	Version    int              `json:"version"`
	CanUndo    bool             `json:"canUndo"`
	CanRedo    bool             `json:"canRedo"`
	Document   circuit.Document `json:"document"`
	Occurrence *Occurrence      `json:"occurrence,omitempty"`
	Items      *[]kit.Item      `json:"items,omitempty" nullable:"false"`
	Notes      *[]why.Why       `json:"notes,omitempty" nullable:"false"`
	Decided    *[]plan.Decided  `json:"decided,omitempty" nullable:"false"`
	Plan       PlanChange       `json:"plan"`
}

// PlanChange is what is other in a plan. Slots are those that are other or new, SlotIDs all
// of them in their order. Order has no events, as that of a circuit.
type PlanChange struct {
	TotalMs  measure.Span      `json:"totalMs"`
	ClassMs  measure.Span      `json:"classMs"`
	SlackMs  measure.Span      `json:"slackMs"`
	Fits     bool              `json:"fits"`
	Why      why.Why           `json:"why"`
	Order    *cue.Order        `json:"order,omitempty"`
	Blocks   *[]plan.BlockPlan `json:"blocks,omitempty" nullable:"false"`
	Totals   *[]plan.Total     `json:"totals,omitempty" nullable:"false"`
	SlotIDs  []string          `json:"slotIds"`
	Slots    []SlotChange      `json:"slots"`
	Pressure *[]plan.Pressure  `json:"pressure,omitempty" nullable:"false"`
	Balance  *[]plan.Beam      `json:"balance,omitempty" nullable:"false"`
	Flags    *[]plan.Flag      `json:"flags,omitempty" nullable:"false"`
	Prep     *[]plan.Drill     `json:"prep,omitempty" nullable:"false"`
	Teach    *[]plan.Lesson    `json:"teach,omitempty" nullable:"false"`
	Floors   *[]plan.Floor     `json:"floors,omitempty" nullable:"false"`
}

// SlotChange is what is other in a slot: its times, and those of its cells that are other or
// new; Lanes are those of all its cells in their order.
type SlotChange struct {
	ID      string         `json:"id"`
	Block   string         `json:"block"`
	Pattern moves.Pattern  `json:"pattern"`
	WorkMs  measure.Span   `json:"workMs"`
	SlotMs  measure.Span   `json:"slotMs"`
	RestMs  measure.Span   `json:"restMs"`
	RestWhy why.Why        `json:"restWhy,omitzero"`
	Grown   bool           `json:"grown"`
	LearnMs measure.Span   `json:"learnMs"`
	Parties []people.Party `json:"parties"`
	Cells   []plan.Cell    `json:"cells"`
	Shorts  []plan.Short   `json:"shorts"`
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

// AddSlotInput asks for a slot of a pattern with the best entries.
type AddSlotInput struct {
	Revision
	BlockID string        `json:"blockId" maxLength:"26"`
	Pattern moves.Pattern `json:"pattern" enum:"squat,lunge,lateral,hinge,bridge,push-level,push-overhead,pull,trunk-brace,trunk-turn,carry,whole-body,mobility"`
	Place   int           `json:"place" minimum:"0" maximum:"24"`
}

// TakeHome is one lane's version for somebody's flat.
type TakeHome struct {
	PlaceID  string           `json:"placeId"`
	Party    string           `json:"party" doc:"a lane, or a participant by id"`
	Document circuit.Document `json:"document"`
	Plan     plan.Plan        `json:"plan"`
	Notes    []why.Why        `json:"notes"`
	Items    []kit.Item       `json:"items"`
}

// view is a circuit with the context it is looked at against.
type view struct {
	store.Planned
	Document circuit.Document
	Context  plan.Context
	Place    Place
	Notes    []why.Why
}

// view reads a circuit and what its plan follows from; the plan itself is worked out by
// whoever needs it.
func (s Studio) view(ctx context.Context, id string) (view, error) {
	p, err := s.store.Planned(ctx, s.scope, id)
	if err != nil {
		return view{}, err
	}
	return s.viewOf(ctx, p, p.Base)
}

// viewOf lays out a version of a circuit.
func (s Studio) viewOf(ctx context.Context, p store.Planned, version store.CircuitVersion) (v view, err error) {
	v.Planned = p
	if v.Document, err = circuit.Decode(version.Document); err != nil {
		return v, err
	}
	v.Notes = []why.Why{}
	if err = json.Unmarshal(version.Notes, &v.Notes); err != nil {
		return v, err
	}
	v.Context, v.Place, err = s.contextOf(ctx, p.Class)
	v.Context = v.Context.On(v.Document)
	return v, err
}

// contextOf gathers what a plan of a class follows from.
func (s Studio) contextOf(ctx context.Context, c store.Class) (plan.Context, Place, error) {
	p, err := s.placeOf(ctx, c)
	if err != nil {
		return plan.Context{}, p, err
	}
	out := contextFor(c, p)
	out.Past, err = s.past(ctx, c)
	return out, p, err
}

// answer works the plan out and keeps the answer under the stamps of what it follows from;
// none are nobody's.
func (s Studio) answer(ctx context.Context, v view, version store.CircuitVersion, at store.Stamps) keptCircuit {
	look := plan.Look(v.Document, v.Context)
	look.Order.Events, look.Order.Calls = []cue.Event{}, []cue.Call{} // every second is for a run
	c := &Circuit{
		ID:         v.Planned.Circuit.PublicID,
		Tag:        s.tag(at),
		Version:    version.Version,
		CanUndo:    version.UndoTo != nil,
		CanRedo:    version.RedoTo != nil,
		Occurrence: occurrenceOf(v.Class),
		Document:   v.Document,
		Plan:       look,
		Items:      v.Place.items(),
		Notes:      v.Notes,
		Decided:    plan.Decisions(v.Document, v.Context),
	}
	out := keptCircuit{value: c}
	if ctx.Err() == nil && at != (store.Stamps{}) { // what was cut short is nobody's answer
		s.kept.circuits.Set(c.Tag, out)
	}
	return out
}

// CircuitAnswer gives the answer about a circuit as it goes out, with its tag. Where the
// tag is the one that whoever asks has, there is no body.
func (s Studio) CircuitAnswer(ctx context.Context, id, has string) (body []byte, tag string, err error) {
	at, err := s.store.Stamps(ctx, s.scope, id)
	if err != nil {
		return nil, "", err
	}
	tag = s.tag(at)
	if has == tag {
		return nil, tag, nil
	}
	c, known := s.kept.circuits.GetIfPresent(tag)
	if !known {
		if c, err = s.circuit(ctx, id); err != nil {
			return nil, "", err
		}
	}
	c, err = s.written(c)
	return c.body, c.value.Tag, err
}

// circuit works a circuit out anew.
func (s Studio) circuit(ctx context.Context, id string) (keptCircuit, error) {
	v, err := s.view(ctx, id)
	if err != nil {
		return keptCircuit{}, err
	}
	return s.answer(ctx, v, v.Base, v.Class.Stamps), nil
}

// Circuit reads a circuit with everything that follows from it.
func (s Studio) Circuit(ctx context.Context, id string) (Circuit, error) {
	c, err := s.circuit(ctx, id)
	if err != nil {
		return Circuit{}, err
	}
	return *c.value, nil
}

// changing says what a change does to the version it came from.
type changing struct {
	kind string
	// work gives the edits; v is the version that the change came from.
	work func(v view) ([]circuit.Op, error)
	// with changes minutes and lanes of the class, notes are those of a new proposal;
	// nil keeps what there is.
	with  *store.Class
	notes []why.Why
}

// change applies edits to the version they came from and gives the circuit after.
func (s Studio) change(ctx context.Context, id string, r Revision, by changing) (keptCircuit, *Circuit, error) {
	p, err := s.store.PlannedFrom(ctx, s.scope, id, by.how(r))
	if err != nil {
		return keptCircuit{}, nil, err
	}
	return s.changeFrom(ctx, p, r, by)
}

// how says how the version is added.
func (by changing) how(r Revision) store.Change {
	return store.Change{ClientID: r.ClientID, Base: r.Base, With: by.with, Beside: by.kind == "edit"}
}

// changeFrom is change with what it is worked out from read already.
func (s Studio) changeFrom(
	ctx context.Context,
	p store.Planned,
	r Revision,
	by changing,
) (keptCircuit, *Circuit, error) {
	return s.append(ctx, p, by.how(r), func(v view) (store.CircuitVersion, circuit.Document, error) {
		list, err := by.work(v)
		if err != nil {
			return store.CircuitVersion{}, v.Document, err
		}
		next, inverse, err := circuit.Apply(v.Document, list, v.Place.library)
		if err != nil {
			return store.CircuitVersion{}, next, err
		}
		if err := strangers(v.Class.People, v.Document, next); err != nil {
			return store.CircuitVersion{}, next, err
		}
		undo := v.Base.Version
		row, err := versionRow(by.kind, next, list, inverse, &undo, nil)
		row.Notes = v.Base.Notes
		if by.notes != nil && err == nil {
			row.Notes, err = json.Marshal(by.notes)
		}
		return row, next, err
	})
}

// strangers refuses entries for participants who are not in the class, but for those that
// stood there before.
func strangers(here []store.Attendee, before, next circuit.Document) error {
	var wrong fault.List
	had := before.Participants()
	for _, p := range next.Participants() {
		is := func(a store.Attendee) bool { return a.PublicID == string(p) }
		if !slices.Contains(had, p) && !slices.ContainsFunc(here, is) {
			wrong.Note("ops", "nobody in the class has the id "+string(p), string(p))
		}
	}
	return wrong.Err()
}

// append works a version out from the one it comes from, adds it, and gives the circuit
// after, with the one before where that is known.
func (s Studio) append(
	ctx context.Context,
	p store.Planned,
	how store.Change,
	work func(view) (store.CircuitVersion, circuit.Document, error),
) (keptCircuit, *Circuit, error) {
	id := p.Circuit.PublicID
	if p.Stored {
		c, err := s.circuit(ctx, id)
		return c, nil, err
	}
	v, err := s.viewOf(ctx, p, p.Base)
	if err != nil {
		return keptCircuit{}, nil, err
	}
	next, document, err := work(v)
	if err != nil {
		return keptCircuit{}, nil, err
	}
	at, err := s.store.AppendVersion(ctx, s.scope, p, how, next)
	if err != nil {
		return keptCircuit{}, nil, err
	}
	if at == (store.Stamps{}) { // somebody was at work on it meanwhile
		c, err := s.circuit(ctx, id)
		return c, nil, err
	}
	next.Version, v.Document = at.Head, document
	if how.With != nil {
		v.Class, v.Context = *how.With, contextFor(*how.With, v.Place)
		v.Context.Past, err = s.past(ctx, p.Class)
	}
	if err == nil {
		v.Notes = []why.Why{}
		err = json.Unmarshal(next.Notes, &v.Notes)
	}
	if err != nil {
		return keptCircuit{}, nil, err
	}
	s.stillPast(p.Class, v.Context.Past, at.SeriesAt)
	before, _ := s.kept.circuits.GetIfPresent(s.tag(p.Class.Stamps))
	return s.answer(ctx, v, next, at), before.value, nil
}

// edited says what changed in a circuit.
func edited(c keptCircuit, before *Circuit, err error) (Edited, error) {
	switch {
	case err != nil:
		return Edited{}, err
	case before == nil:
		return Edited{Circuit: c.value}, nil
	}
	change := c.value.since(*before)
	return Edited{Change: &change}, nil
}

func versionRow(
	kind string,
	d circuit.Document,
	ops, inverse []circuit.Op,
	undo, redo *int,
) (store.CircuitVersion, error) {
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

// Undo goes one step back in the history.
func (s Studio) Undo(ctx context.Context, id string, r Revision) (Edited, error) {
	return s.step(ctx, id, r, "undo")
}

// Redo goes one step forth again.
func (s Studio) Redo(ctx context.Context, id string, r Revision) (Edited, error) {
	return s.step(ctx, id, r, "redo")
}

// Edit edits a version.
func (s Studio) Edit(ctx context.Context, id string, in EditInput) (Edited, error) {
	return edited(s.change(ctx, id, in.Revision,
		changing{kind: "edit", work: func(view) ([]circuit.Op, error) { return in.Ops, nil }}))
}

// Options lists what could stand in a slot for a party.
func (s Studio) Options(ctx context.Context, id, slot, party string) (compose.Options, error) {
	v, err := s.view(ctx, id)
	if err != nil {
		return compose.Options{}, err
	}
	o, ok := compose.OptionsFor(v.Document, v.Context, slot, people.Party(party))
	if !ok {
		return o, store.ErrNotFound
	}
	return o, nil
}

// step goes one step back or forth in the history: a new version with the
// state of an old one, reached by the stored inverse edits.
func (s Studio) step(ctx context.Context, id string, r Revision, kind string) (Edited, error) {
	how := store.Change{ClientID: r.ClientID, Base: r.Base}
	p, err := s.store.PlannedFrom(ctx, s.scope, id, how)
	if err != nil {
		return Edited{}, err
	}
	return edited(s.append(ctx, p, how, func(v view) (store.CircuitVersion, circuit.Document, error) {
		head, target := v.Base, v.Planned.Undo
		if kind == "redo" {
			target = v.Planned.Redo
		}
		if target == nil {
			return head, v.Document, fault.List{{Path: "base", Message: "there is nothing to " + kind, Value: r.Base}}
		}
		here := head.Version
		next := store.CircuitVersion{
			Kind:     kind,
			Document: target.Document,
			Notes:    target.Notes,
			UndoTo:   target.UndoTo,
			RedoTo:   &here,
		}
		d, err := circuit.Decode(target.Document)
		if err != nil {
			return next, d, err
		}
		if kind == "undo" {
			// The new version stands where its target stood; one more undo takes the
			// target's own inverse.
			next.Ops, next.Inverse = head.Inverse, target.Inverse
			return next, d, sameByInverse(v, d)
		}
		next.Ops, next.Inverse, next.RedoTo = target.Ops, target.Inverse, target.RedoTo
		return next, d, nil
	}))
}

// sameByInverse makes sure that undoing the edits gives the very bytes of the
// version gone back to, as it is written today: it may have been written in an older shape.
func sameByInverse(v view, target circuit.Document) error {
	inverse, err := circuit.Undoing(v.Base.Document, v.Base.Inverse, target)
	if err != nil {
		return err
	}
	back, _, err := circuit.Apply(v.Document, inverse, v.Place.library)
	if err != nil {
		return err
	}
	got, err := circuit.Encode(back)
	want, err2 := circuit.Encode(target)
	if err = errors.Join(err, err2); err == nil && !bytes.Equal(got, want) {
		err = errors.New("undo does not lead back")
	}
	return err
}

// AddSlot adds a slot of a pattern with the best entries.
func (s Studio) AddSlot(ctx context.Context, id string, in AddSlotInput) (Edited, error) {
	back, err := s.Search(ctx)
	if err != nil {
		return Edited{}, err
	}
	defer back()
	return edited(s.change(ctx, id, in.Revision, changing{kind: "edit", work: func(v view) ([]circuit.Op, error) {
		if len(v.Document.Slots()) >= circuit.MaxSlots {
			return nil, fault.List{
				{
					Path:    "pattern",
					Message: "a circuit has at most " + strconv.Itoa(circuit.MaxSlots) + " slots",
					Value:   in.Pattern,
				},
			}
		}
		block, err := blockFor(v.Document, in.BlockID)
		if err != nil {
			return nil, err
		}
		slot, ok := compose.NewSlot(v.Document, block, v.Context, in.Pattern)
		if !ok {
			return nil, fault.List{
				{Path: "pattern", Message: "no move of this pattern suits every lane with this kit", Value: in.Pattern},
			}
		}
		b := v.Document.Blocks[block]
		place := min(in.Place, len(b.Slots))
		var ops []circuit.Op
		if slot.Waves > 1 && b.Layout == circuit.Together {
			ops = append(ops, circuit.Op{Kind: circuit.SetLayout, BlockID: b.ID, Layout: circuit.InWaves})
		}
		return append(ops, circuit.Op{Kind: circuit.AddSlot, BlockID: b.ID, Slot: &slot, Count: &place}), ctx.Err()
	}}))
}

// PatternRooms says of every pattern what a new slot of it in a block would come to.
func (s Studio) PatternRooms(ctx context.Context, id, block string) ([]compose.PatternRoom, error) {
	v, err := s.view(ctx, id)
	if err != nil {
		return nil, err
	}
	i, err := blockFor(v.Document, block)
	if err != nil {
		return nil, fault.List{{Path: "block", Message: blockWanted, Value: block}}
	}
	return compose.Rooms(v.Document, i, v.Context), nil
}

// WrittenOut gives a block that times itself with its steps as slots.
func (s Studio) WrittenOut(ctx context.Context, id, block string) (circuit.Block, error) {
	v, err := s.view(ctx, id)
	if err != nil {
		return circuit.Block{}, err
	}
	b, ok := plan.WrittenOut(v.Document, v.Context, block)
	if !ok {
		return b, fault.List{{Path: "block", Message: "name a prep or teaching block that times itself", Value: block}}
	}
	return b, nil
}

const blockWanted = "name a block of the circuit that has slots"

// blockFor finds the block that a slot is to go to.
func blockFor(d circuit.Document, id string) (int, error) {
	i := d.Block(id)
	if i < 0 || d.Blocks[i].Auto {
		return i, fault.List{{Path: "blockId", Message: blockWanted, Value: id}}
	}
	return i, nil
}

// Fit brings a circuit into the minutes of its class by rounds and times; its slots stay.
func (s Studio) Fit(ctx context.Context, id string, r Revision) (Edited, error) {
	return edited(s.change(ctx, id, r, changing{kind: "edit", work: func(v view) ([]circuit.Op, error) {
		ops, ok := compose.Fit(v.Document, v.Context)
		if !ok {
			return nil, Refusal{Infeasible, "no rounds and times bring so many slots into these minutes: " +
				"remove a slot, or give the class more minutes"}
		}
		return ops, nil
	}}))
}

// TakeHome computes a party's version for one person in a flat. The body is the
// lane's.
func (s Studio) TakeHome(ctx context.Context, id, place, party string) (TakeHome, error) {
	v, err := s.store.Planned(ctx, s.scope, id)
	if err != nil {
		return TakeHome{}, err
	}
	d, err := circuit.Decode(v.Base.Document)
	if err != nil {
		return TakeHome{}, err
	}
	p, err := s.homeOf(ctx, place)
	if err != nil {
		return TakeHome{}, err
	}
	past, err := s.past(ctx, v.Class)
	if err != nil {
		return TakeHome{}, err
	}
	lane, found := people.Party(party).Lane()
	who := plan.Party{Lane: lane, Body: plan.DefaultBody, Stature: plan.DefaultStature, BodyUnknown: true}
	for _, x := range contextFor(v.Class, p).Parties {
		if x.ID() == people.Party(party) {
			who, found = x, true
		}
	}
	if !found {
		return TakeHome{}, store.ErrNotFound
	}
	who.People = 1
	home := plan.Context{
		Library: p.library,
		Stock:   p.stock,
		Parties: []plan.Party{who},
		Minutes: v.Class.Minutes,
		Past:    past,
	}
	d, notes := compose.TakeHome(d, home)
	return TakeHome{place, party, d, plan.Look(d, home), none(notes), p.items()}, nil
}

// homeOf is a flat, or one with nothing in it where none is named.
func (s Studio) homeOf(ctx context.Context, place string) (Place, error) {
	if place != "" {
		return s.Place(ctx, place)
	}
	lib, err := s.library(ctx)
	return Place{library: lib, stock: kit.Stock{}.Until(ctx)}, err
}
