package studio

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/compose"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
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
	Goal      goal.Goal           `json:"goal,omitempty" enum:"general,strength,muscle,endurance,in-season,learn,lift" doc:"what it is for: doses, sets and rests; general when left out"`
	Template  goal.Template       `json:"template,omitempty" enum:"alternating,legs,one-leg,floor,one-pattern,warm-up,teaching,pairs" doc:"what it is made of; lower and upper body in turn when left out"`
	Pattern   moves.Pattern       `json:"pattern,omitempty" doc:"of a session of one pattern, and of no other"`
	Pins      []PinInput          `json:"pins,omitempty" nullable:"false" maxItems:"12" doc:"moves that it must have, in this order; with blocks they stand in those"`
	New       []string            `json:"new,omitempty" nullable:"false" maxItems:"12" doc:"moves that the class is taught today, whatever the log says: it has them too"`
	Layout    circuit.Layout      `json:"layout,omitempty" enum:"together,stations,partners,waves" doc:"how people stand to the work; in waves where they have to take turns when left out"`
	Blocks    []BlockInput        `json:"blocks,omitempty" nullable:"false" maxItems:"12" doc:"what it is made of, in this order; left to goal and template when left out"`
}

// BlockInput is a block that a session is asked to have.
type BlockInput struct {
	Kind   circuit.Kind   `json:"kind,omitempty" enum:"prep,teach,work,finisher,close" doc:"work when left out"`
	Scheme scheme.Name    `json:"scheme,omitempty" enum:"circuit,sets,superset,chain,interval,window,ladder,drop,called" doc:"the goal's when left out"`
	Rounds int            `json:"rounds,omitempty" minimum:"1" maximum:"20" doc:"rounds, sets or intervals; as many as there is time for when left out"`
	Layout circuit.Layout `json:"layout,omitempty" enum:"together,stations,partners,waves" doc:"that of the session when left out"`
	Dose   string         `json:"dose,omitempty" maxLength:"20" doc:"of its moves that have none of their own, as typed: 10, 10-15, 20 in all, 45 s, about 8-12"`
	Pins   []PinInput     `json:"pins" nullable:"false" maxItems:"24" doc:"its moves in their order; with none a circuit or straight sets of work is filled by goal and template"`
}

// PinInput is a move that a session must have.
type PinInput struct {
	Move  string      `json:"move" minLength:"1" maxLength:"60"`
	Party string      `json:"party,omitempty" enum:"ground,middle,reach" doc:"whose; everybody's when left out"`
	Load  string      `json:"load,omitempty" maxLength:"40" doc:"all of it, as typed: 16 kg, or none; what suits when left out"`
	Dose  string      `json:"dose,omitempty" maxLength:"20" doc:"a side, as typed: 10, 10-15, 20 in all, 45 s, about 8-12; what is usual when left out"`
	Tempo string      `json:"tempo,omitempty" maxLength:"20" doc:"such as 3-0-2-0; the move's own when left out"`
	First scheme.Side `json:"first,omitempty" enum:"left,right" doc:"the side that begins"`
}

// noLoad is how a pin asks for a move without a load.
const noLoad = "none"

// reader reads what a brief asks for: moves that the library has, loads in the unit of the
// place.
type reader struct {
	lib   *moves.Library
	unit  measure.Unit
	wrong *fault.List
}

func (r reader) dose(at, text string) *circuit.Dose {
	if text == "" {
		return nil
	}
	d, err := circuit.ReadDose(text)
	if err != nil {
		r.wrong.Note(at, err.Error(), text)
	}
	return &d
}

func (r reader) move(at, id string) *moves.Variant {
	v, ok := r.lib.Get(id)
	if !ok {
		r.wrong.Note(at, "there is no such move", id)
	}
	return v
}

func (r reader) pins(path string, in []PinInput) []compose.Pin {
	var out []compose.Pin
	for i, p := range in {
		at := fmt.Sprintf("%s[%d]", path, i)
		v := r.move(at+".move", p.Move)
		pin := compose.Pin{
			Move: p.Move, Party: people.Party(p.Party), Unloaded: p.Load == noLoad, Dose: r.dose(at+".dose", p.Dose),
			Tempo: p.Tempo, First: p.First,
		}
		if v != nil && pin.Dose != nil && pin.Dose.Kind == circuit.ToFailure && v.FailsBadly() {
			r.wrong.Note(at+".dose", "failing is unsafe in this move: count it", p.Dose)
		}
		if t, err := scheme.ParseTempo(p.Tempo); p.Tempo != "" && (err != nil || t.PerRep() == 0) {
			r.wrong.Note(at+".tempo", "counts of lowering, pause, lifting and pause, such as 3-0-2-0", p.Tempo)
		}
		if p.Load != "" && !pin.Unloaded {
			m, err := measure.ReadMass(p.Load, r.unit, measure.MaxLoad)
			if err != nil {
				r.wrong.Note(at+".load", err.Error()+"; or none", p.Load)
			}
			whole, _ := m.Typed.Whole()
			pin.Load = measure.Mass(whole)
		}
		if pin.Unloaded && v != nil && !slices.Contains(v.Holds, moves.NoLoad) {
			r.wrong.Note(at+".load", "it is not done without a load", p.Load)
		}
		out = append(out, pin)
	}
	return out
}

func (r reader) blocks(in []BlockInput) []compose.Wanted {
	var out []compose.Wanted
	slots := 0
	for i, b := range in {
		at := fmt.Sprintf("brief.blocks[%d]", i)
		w := compose.Wanted{
			Kind: cmp.Or(b.Kind, circuit.Work), Scheme: b.Scheme, Rounds: b.Rounds, Layout: b.Layout,
			Dose: r.dose(at+".dose", b.Dose), Pins: r.pins(at+".pins", b.Pins),
		}
		open := slices.ContainsFunc(out, compose.Wanted.Open)
		switch {
		case w.Open() && open:
			r.wrong.Note(at+".pins", "one block is filled: name the moves of the others", nil)
		case len(w.Pins) == 0 && !w.Open() && w.Kind != circuit.Prep:
			r.wrong.Note(at+".pins", "name its moves", nil)
		}
		if w.Layout == circuit.Stations && w.Scheme != "" && w.Scheme != scheme.Circuit {
			r.wrong.Note(at+".layout", "people rotate in a circuit only", w.Layout)
		}
		if w.Layout == circuit.Partners &&
			(w.Scheme == scheme.Chain || w.Scheme == scheme.Windowed || w.Scheme == scheme.CalledOut) {
			r.wrong.Note(at+".layout", "partners take turns set by set, which this scheme has none of", w.Layout)
		}
		if w.Scheme == scheme.CalledOut && len(w.Pins) > 1 {
			r.wrong.Note(at+".pins", "what is called is one move", nil)
		}
		slots += len(w.Pins)
		out = append(out, w)
	}
	if slots > circuit.MaxSlots {
		r.wrong.Note("brief.blocks", fmt.Sprintf("at most %d moves in all", circuit.MaxSlots), slots)
	}
	return out
}

// CreateCircuit makes the circuit of a class: proposed by a brief, or from a session that there
// is.
type CreateCircuit struct {
	OccurrenceID string         `json:"occurrenceId" pattern:"^[0-9a-z]{26}$"`
	ClientID     string         `json:"clientId" pattern:"^[0-9a-z]{26}$"`
	Brief        *ProposalBrief `json:"brief,omitempty" nullable:"false" doc:"what a proposal is asked for"`
	From         *Source        `json:"from,omitempty" nullable:"false" doc:"a session that is done again, with what the log decided; instead of a brief"`
}

// ProposeInput asks for a new proposal in place of a version.
type ProposeInput struct {
	Revision
	Brief ProposalBrief `json:"brief"`
}

// brief turns a request into the core's, with the lanes it brings, which stand in c then.
// Had is the document whose pinned slots stay. What is no ban, no move that could be known
// and nothing that the log could say is refused by name.
func (s Studio) brief(
	ctx context.Context,
	c *store.Class,
	had circuit.Document,
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
	if len(in.Blocks) > 0 && len(in.Pins) > 0 {
		wrong.Note("brief.pins", "the moves stand in their blocks: leave it out", nil)
	}
	read := reader{p.library, measure.Unit(c.MassUnit), wrong}
	for i, id := range in.New {
		read.move(fmt.Sprintf("brief.new[%d]", i), id)
	}
	return compose.Brief{
		Context:   against,
		Goal:      in.Goal,
		Template:  in.Template,
		Pattern:   in.Pattern,
		Pins:      read.pins("brief.pins", in.Pins),
		New:       in.New,
		Layout:    in.Layout,
		Blocks:    read.blocks(in.Blocks),
		Format:    in.Format,
		Bans:      in.Bans,
		Known:     in.Known,
		Overruled: in.Overruled,
		Plan:      had,
	}, wrong.Err()
}

func none(w []why.Why) []why.Why {
	if w == nil {
		return []why.Why{}
	}
	return w
}

// maker makes the first version of a circuit.
type maker struct {
	kind    string
	context plan.Context
	work    func() (circuit.Document, Proposed)
}

// maker says how a circuit is made: by a brief, or from a session that there is.
func (s Studio) maker(
	ctx context.Context,
	class store.Class,
	with *store.Class,
	in CreateCircuit,
	wrong *fault.List,
) (maker, error) {
	switch {
	case in.Brief == nil && in.From == nil:
		wrong.Note("brief", "say what is asked for, or from what session", nil)
	case in.Brief != nil && in.From != nil:
		wrong.Note("from", "a brief or a session, not both: leave one out", nil)
	case in.From != nil:
		return s.again(ctx, class, *in.From, wrong)
	default:
		b, err := s.brief(ctx, with, circuit.Document{}, *in.Brief, wrong)
		return maker{"propose", b.Context, func() (circuit.Document, Proposed) { return proposed(b) }}, err
	}
	return maker{}, wrong.Err()
}

// proposed works a proposal out.
func proposed(b compose.Brief) (circuit.Document, Proposed) {
	p := compose.Propose(b)
	return p.Document, Proposed{Feasible: p.Feasible, Notes: none(p.Notes), Relax: none(p.Relax)}
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
	making, err := s.maker(ctx, class, &with, in, wrong)
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
	document, out := making.work()
	if err := ctx.Err(); err != nil || !out.Feasible {
		return out, err
	}
	first, err := versionRow(making.kind, document, []circuit.Op{}, []circuit.Op{}, nil, nil)
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
		Document: document,
		Context:  making.context,
		Place:    Place{},
		Notes:    out.Notes,
	}
	if v.Place, err = s.placeOf(ctx, class); err != nil {
		return Proposed{}, err
	}
	s.stillPast(class, making.context.Past, at.SeriesAt)
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
	with, had := p.Class, circuit.Document{}
	if !p.Stored { // there is a version that it is made from
		if had, err = circuit.Decode(p.Base.Document); err != nil {
			return Proposed{}, err
		}
	}
	b, err := s.brief(ctx, &with, had, in.Brief, wrong)
	if err != nil {
		return Proposed{}, err
	}
	if p.Stored { // the same proposal again
		c, err := s.Circuit(ctx, id)
		return Proposed{Feasible: true, Notes: c.Notes, Relax: []why.Why{}, Circuit: &c}, err
	}
	document, out := proposed(b)
	if err := ctx.Err(); err != nil || !out.Feasible {
		return out, err
	}
	c, _, err := s.changeFrom(
		ctx,
		p,
		in.Revision,
		changing{kind: "propose", with: &with, notes: out.Notes, work: func(view) ([]circuit.Op, error) {
			return []circuit.Op{{Kind: circuit.Replace, Document: &document}}, nil
		}},
	)
	out.Circuit = c.value
	return out, err
}
