package studio

import (
	"context"
	"encoding/json"
	"fmt"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/compose"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/store"
)

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
	Format    circuit.Format      `json:"format" enum:"timed,reps" doc:"how a circuit is counted; straight sets, which some goals ask for, go by repetitions whatever stands here"`
	Bans      []string            `json:"bans" maxItems:"60" doc:"patterns, moves and limits to keep to"`
	Known     []string            `json:"known,omitempty" nullable:"false" maxItems:"60" doc:"moves and patterns, or all, that the group knows whatever the log says"`
	Overruled []circuit.Overruled `json:"overruled,omitempty" nullable:"false" maxItems:"60" doc:"what to set aside of what the log says"`
	Lanes     []LaneInput         `json:"lanes,omitempty" minItems:"1" maxItems:"3"`
	Goal      goal.Goal           `json:"goal,omitempty" enum:"general,strength,muscle,endurance,in-season,learn" doc:"what it is for: doses, sets and rests; general when left out"`
	Template  goal.Template       `json:"template,omitempty" enum:"alternating,legs,one-leg,floor,one-pattern" doc:"what it is made of; lower and upper body in turn when left out"`
	Pattern   moves.Pattern       `json:"pattern,omitempty" doc:"of a session of one pattern, and of no other"`
	Pins      []PinInput          `json:"pins,omitempty" nullable:"false" maxItems:"12" doc:"moves that it must have, in this order"`
}

// PinInput is a move that a session must have.
type PinInput struct {
	Move  string `json:"move" minLength:"1" maxLength:"60"`
	Party string `json:"party,omitempty" enum:"ground,middle,reach" doc:"whose; everybody's when left out"`
	Load  string `json:"load,omitempty" maxLength:"40" doc:"all of it, as typed: 16 kg; what suits when left out"`
	Reps  int    `json:"reps,omitempty" minimum:"1" maximum:"100" doc:"a side; what is usual when left out"`
}

// pins reads the pins of a brief: moves that the library has, loads in the unit of the place.
func pins(in []PinInput, lib *moves.Library, unit measure.Unit, wrong *fault.List) []compose.Pin {
	var out []compose.Pin
	for i, p := range in {
		at := fmt.Sprintf("brief.pins[%d]", i)
		if _, ok := lib.Get(p.Move); !ok {
			wrong.Note(at+".move", "there is no such move", p.Move)
		}
		pin := compose.Pin{Move: p.Move, Party: people.Party(p.Party), Reps: p.Reps}
		if p.Load != "" {
			r, err := measure.ReadMass(p.Load, unit, measure.MaxLoad)
			if err != nil {
				wrong.Note(at+".load", err.Error(), p.Load)
			}
			whole, _ := r.Typed.Whole()
			pin.Load = measure.Mass(whole)
		}
		out = append(out, pin)
	}
	return out
}

// CreateCircuit proposes the circuit of a class.
type CreateCircuit struct {
	OccurrenceID string        `json:"occurrenceId" pattern:"^[0-9a-z]{26}$"`
	ClientID     string        `json:"clientId" pattern:"^[0-9a-z]{26}$"`
	Brief        ProposalBrief `json:"brief"`
}

// ProposeInput asks for a new proposal in place of a version.
type ProposeInput struct {
	Revision
	Brief ProposalBrief `json:"brief"`
}

// brief turns a request into the core's, with the lanes it brings, which stand in c then.
// Plan is the document whose pinned slots stay. What is no ban, no move that could be known
// and nothing that the log could say is refused by name.
func (s Studio) brief(
	ctx context.Context,
	c *store.Class,
	plan circuit.Document,
	in ProposalBrief,
	wrong *fault.List,
) (compose.Brief, error) {
	against, p, err := s.contextOf(ctx, *c)
	if err != nil {
		return compose.Brief{}, err
	}
	if in.Lanes != nil {
		c.Lanes = lanesOf(in.Lanes, measure.Unit(c.MassUnit), "brief.lanes", wrong)
	}
	c.Minutes = in.Minutes
	past := against.Past
	against = contextFor(*c, p)
	against.Past = past
	said := circuit.Document{Known: in.Known, Overruled: in.Overruled}
	if err := strangers(c.People, circuit.Document{}, said); err != nil {
		wrong.Note("brief.overruled", err.Error(), nil)
	}
	for _, f := range append(circuit.CheckBans(p.library, in.Bans, nil), said.CheckSaid(p.library)...).Under("brief") {
		wrong.Note(f.Path, f.Message, nil)
	}
	if (in.Template == goal.OnePattern) != (in.Pattern != "") {
		wrong.Note("brief.pattern", "a session of one pattern names it, and no other does", in.Pattern)
	}
	return compose.Brief{
		Context:   against,
		Goal:      in.Goal,
		Template:  in.Template,
		Pattern:   in.Pattern,
		Pins:      pins(in.Pins, p.library, measure.Unit(c.MassUnit), wrong),
		Format:    in.Format,
		Bans:      in.Bans,
		Known:     in.Known,
		Overruled: in.Overruled,
		Plan:      plan,
	}, wrong.Err()
}

func none(w []why.Why) []why.Why {
	if w == nil {
		return []why.Why{}
	}
	return w
}

// propose works a proposal out.
func propose(ctx context.Context, b compose.Brief) (compose.Proposal, Proposed, error) {
	p := compose.Propose(b)
	return p, Proposed{Feasible: p.Feasible, Notes: none(p.Notes), Relax: none(p.Relax)}, ctx.Err()
}

// CreateCircuit proposes the circuit of a class.
func (s Studio) CreateCircuit(ctx context.Context, id string, in CreateCircuit, wrong *fault.List) (Proposed, error) {
	back, err := s.Search(ctx) // before anything is read: others may be at work on the same
	if err != nil {
		return Proposed{}, err
	}
	defer back()
	class, err := s.store.Class(ctx, s.scope, in.OccurrenceID)
	if err != nil {
		return Proposed{}, err
	}
	with := class
	b, err := s.brief(ctx, &with, circuit.Document{}, in.Brief, wrong)
	if err != nil {
		return Proposed{}, err
	}
	// The same create again is the same circuit; it need not be worked out.
	if class.CircuitPublicID != "" {
		if class.CircuitPublicID != id {
			return Proposed{}, store.ErrConflict
		}
		c, err := s.Circuit(ctx, id)
		return Proposed{Feasible: true, Notes: c.Notes, Relax: []why.Why{}, Circuit: &c}, err
	}
	p, out, err := propose(ctx, b)
	if err != nil || !out.Feasible {
		return out, err
	}
	first, err := versionRow("propose", p.Document, []circuit.Op{}, []circuit.Op{}, nil, nil)
	if err != nil {
		return Proposed{}, err
	}
	if first.Notes, err = json.Marshal(out.Notes); err != nil {
		return Proposed{}, err
	}
	first.ClientID, first.Version = in.ClientID, 1
	at, err := s.store.CreateCircuit(ctx, s.scope, class, store.Circuit{PublicID: id}, first, &with)
	if err != nil {
		return Proposed{}, err
	}
	if at == (store.Stamps{}) { // somebody else made it meanwhile
		c, err := s.Circuit(ctx, id)
		out.Circuit = &c
		return out, err
	}
	v := view{
		Planned:  store.Planned{Circuit: store.Circuit{PublicID: id}, Class: with},
		Document: p.Document,
		Context:  b.Context,
		Place:    Place{},
		Notes:    out.Notes,
	}
	if v.Place, err = s.placeOf(ctx, class); err != nil {
		return Proposed{}, err
	}
	s.stillPast(class, b.Past, at.SeriesAt)
	out.Circuit = s.answer(ctx, v, first, at).value
	return out, nil
}

// Propose proposes anew; undo brings the old one back.
func (s Studio) Propose(ctx context.Context, id string, in ProposeInput, wrong *fault.List) (Proposed, error) {
	back, err := s.Search(ctx) // before anything is read: others may be at work on the same
	if err != nil {
		return Proposed{}, err
	}
	defer back()
	// A version that is no longer the newest is told so before anything is worked out.
	how := store.Change{ClientID: in.ClientID, Base: in.Base}
	p, err := s.store.PlannedFrom(ctx, s.scope, id, how)
	if err != nil {
		return Proposed{}, err
	}
	with, plan := p.Class, circuit.Document{}
	if !p.Stored { // there is a version that it is made from
		if plan, err = circuit.Decode(p.Base.Document); err != nil {
			return Proposed{}, err
		}
	}
	b, err := s.brief(ctx, &with, plan, in.Brief, wrong)
	if err != nil {
		return Proposed{}, err
	}
	if p.Stored { // the same proposal again
		c, err := s.Circuit(ctx, id)
		return Proposed{Feasible: true, Notes: c.Notes, Relax: []why.Why{}, Circuit: &c}, err
	}
	proposal, out, err := propose(ctx, b)
	if err != nil || !out.Feasible {
		return out, err
	}
	c, _, err := s.changeFrom(
		ctx,
		p,
		in.Revision,
		changing{kind: "propose", with: &with, notes: out.Notes, work: func(view) ([]circuit.Op, error) {
			return []circuit.Op{{Kind: circuit.Replace, Document: &proposal.Document}}, nil
		}},
	)
	out.Circuit = c.value
	return out, err
}
