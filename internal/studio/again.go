package studio

import (
	"context"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/compose"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
)

// Source names a session that is done again: of another class, or one that the house keeps.
type Source struct {
	CircuitID  string `json:"circuitId,omitempty" pattern:"^[0-9a-z]{26}$"`
	TemplateID string `json:"templateId,omitempty" pattern:"^[0-9a-z]{26}$"`
}

// AgainInput asks for a session in place of a version.
type AgainInput struct {
	Revision
	From Source `json:"from"`
}

// HouseTemplate is a session that the house keeps to use again.
type HouseTemplate struct {
	ID      string         `json:"id"`
	Name    string         `json:"name"`
	Minutes int            `json:"minutes"`
	Blocks  []circuit.Kind `json:"blocks" doc:"what its blocks are for, in order"`
	Moves   []string       `json:"moves" doc:"ids, in order, each once"`
}

// TemplateInput keeps a session, or renames one that is kept.
type TemplateInput struct {
	Name      names.Name `json:"name"`
	CircuitID string     `json:"circuitId,omitempty" pattern:"^[0-9a-z]{26}$" doc:"whose newest version is kept; only renames what is kept when left out"`
}

// EarlierSession is a class with a plan that may be done again.
type EarlierSession struct {
	CircuitID  string `json:"circuitId"`
	Name       string `json:"name"`
	Date       string `json:"date" format:"date"`
	Minutes    int    `json:"minutes"`
	SameSeries bool   `json:"sameSeries" doc:"of the same group"`
}

// Sessions are those that a class may be made from.
type Sessions struct {
	Earlier   []EarlierSession `json:"earlier" doc:"those of the same group first, the newest first"`
	Templates []HouseTemplate  `json:"templates"`
}

// session is a document with what it goes by.
type session struct {
	circuit.Document
	minutes int
	people  []store.Attendee
}

// sessionOf reads the session that a source names.
func (s Studio) sessionOf(ctx context.Context, from Source, wrong *fault.List) (session, error) {
	var out session
	var err error
	switch {
	case (from.CircuitID == "") == (from.TemplateID == ""):
		wrong.Note("from", "a class's circuit, or a template of the house: one of them", nil)
		return out, wrong.Err()
	case from.CircuitID != "":
		var p store.Planned
		if p, err = s.store.Planned(ctx, s.scope, from.CircuitID); err != nil {
			return out, err
		}
		out.minutes, out.people = p.Class.Minutes, p.Class.People
		out.Document, err = circuit.Decode(p.Base.Document)
	default:
		var t store.HouseTemplate
		if t, err = s.store.Template(ctx, s.scope, from.TemplateID); err != nil {
			return out, err
		}
		out.minutes = t.Minutes
		out.Document, err = circuit.Decode(t.Document)
	}
	return out, err
}

// again makes a circuit from a session that there is, with what the log decided since.
func (s Studio) again(ctx context.Context, class store.Class, from Source, wrong *fault.List) (maker, error) {
	had, err := s.sessionOf(ctx, from, wrong)
	if err != nil {
		return maker{}, err
	}
	c, _, err := s.contextOf(ctx, class)
	return maker{"again", c, func() (circuit.Document, Proposed) {
		d, notes := compose.Again(had.Document, c, samePeople(had.people, class.People))
		return d, Proposed{Feasible: true, Notes: none(notes), Relax: []why.Why{}}
	}}, err
}

// samePeople pairs the participants of two classes who are the same people.
func samePeople(had, here []store.Attendee) map[people.Party]people.Party {
	out := map[people.Party]people.Party{}
	for _, a := range had {
		for _, b := range here {
			if a.PersonPublicID != "" && a.PersonPublicID == b.PersonPublicID {
				out[people.Party(a.PublicID)] = people.Party(b.PublicID)
			}
		}
	}
	return out
}

// Again puts a session in place of a circuit's; undo brings the old one back.
func (s Studio) Again(ctx context.Context, id string, in AgainInput, wrong *fault.List) (Proposed, error) {
	back, err := s.Search(ctx)
	if err != nil {
		return Proposed{}, err
	}
	defer back()
	p, err := s.store.PlannedFrom(ctx, s.scope, id, store.Change{ClientID: in.ClientID, Base: in.Base})
	if err != nil {
		return Proposed{}, err
	}
	making, err := s.again(ctx, p.Class, in.From, wrong)
	if err != nil {
		return Proposed{}, err
	}
	if p.Stored { // the same again
		c, err := s.Circuit(ctx, id)
		return Proposed{Feasible: true, Notes: c.Notes, Relax: []why.Why{}, Circuit: &c}, err
	}
	document, out := making.work()
	if err := ctx.Err(); err != nil {
		return out, err
	}
	c, _, err := s.changeFrom(ctx, p, in.Revision,
		changing{kind: making.kind, notes: out.Notes, work: func(view) ([]circuit.Op, error) {
			return []circuit.Op{{Kind: circuit.Replace, Document: &document}}, nil
		}})
	out.Circuit = c.value
	return out, err
}

// Sessions lists what a class may be made from.
func (s Studio) Sessions(ctx context.Context, occurrence string) (Sessions, error) {
	class, err := s.store.Class(ctx, s.scope, occurrence)
	if err != nil {
		return Sessions{}, err
	}
	out := Sessions{Earlier: []EarlierSession{}}
	rows, err := s.store.Earlier(ctx, s.scope, class)
	if err != nil {
		return out, err
	}
	for _, r := range rows {
		out.Earlier = append(
			out.Earlier,
			EarlierSession{r.CircuitPublicID, r.Name, r.LocalDate, r.Minutes, r.SameSeries},
		)
	}
	out.Templates, err = s.Templates(ctx)
	return out, err
}

// Templates lists the sessions that the house keeps.
func (s Studio) Templates(ctx context.Context) ([]HouseTemplate, error) {
	rows, err := s.store.Templates(ctx, s.scope)
	if err != nil {
		return nil, err
	}
	out := []HouseTemplate{}
	for _, r := range rows {
		d, err := circuit.Decode(r.Document)
		if err != nil {
			return nil, err
		}
		out = append(out, templateOf(r, d))
	}
	return out, nil
}

func templateOf(r store.HouseTemplate, d circuit.Document) HouseTemplate {
	out := HouseTemplate{ID: r.PublicID, Name: r.Name, Minutes: r.Minutes, Blocks: []circuit.Kind{}, Moves: []string{}}
	for _, b := range d.Blocks {
		out.Blocks = append(out.Blocks, b.Kind)
	}
	seen := map[string]bool{}
	for _, id := range circuit.Moves(d) {
		if !seen[id] {
			seen[id] = true
			out.Moves = append(out.Moves, id)
		}
	}
	return out
}

// PutTemplate keeps the newest version of a circuit as a template of the house, or renames one.
// It is for lanes: what somebody had by name is not kept.
func (s Studio) PutTemplate(ctx context.Context, id string, in TemplateInput) ([]HouseTemplate, error) {
	row := store.HouseTemplate{PublicID: id, Name: string(in.Name)}
	if in.CircuitID != "" {
		p, err := s.store.Planned(ctx, s.scope, in.CircuitID)
		if err != nil {
			return nil, err
		}
		d, err := circuit.Decode(p.Base.Document)
		if err != nil {
			return nil, err
		}
		row.Minutes = p.Class.Minutes
		if row.Document, err = circuit.Encode(d.ForLanes()); err != nil {
			return nil, err
		}
	}
	if err := s.store.PutTemplate(ctx, s.scope, row); err != nil {
		return nil, err
	}
	return s.Templates(ctx)
}

// RemoveTemplate takes a template of the house away.
func (s Studio) RemoveTemplate(ctx context.Context, id string) ([]HouseTemplate, error) {
	if err := s.store.RemoveTemplate(ctx, s.scope, id); err != nil {
		return nil, err
	}
	return s.Templates(ctx)
}

// Compared are two sessions side by side.
type Compared struct {
	Left  Circuit             `json:"left"`
	Right Circuit             `json:"right"`
	Rows  []circuit.BesideRow `json:"rows" doc:"what stands beside what, in order"`
}

// Beside puts two circuits side by side.
func (s Studio) Beside(ctx context.Context, left, right string) (Compared, error) {
	var out Compared
	var err error
	if out.Left, err = s.Circuit(ctx, left); err != nil {
		return out, err
	}
	if out.Right, err = s.Circuit(ctx, right); err != nil {
		return out, err
	}
	out.Rows = circuit.Beside(out.Left.Document, out.Right.Document)
	return out, nil
}
