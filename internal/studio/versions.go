package studio

import (
	"context"
	"math"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/plan"
)

// VersionRow is one past state of a circuit in its list.
type VersionRow struct {
	Version int              `json:"version"`
	Base    int              `json:"base,omitempty" doc:"the version it was made from"`
	Kind    string           `json:"kind" enum:"propose,again,day,edit,undo,redo,restore"`
	Side    bool             `json:"side" doc:"made from a version that was no longer the newest: kept beside the others"`
	AtMs    int64            `json:"atMs"`
	Edits   []circuit.OpKind `json:"edits"`
	Moves   []string         `json:"moves" doc:"ids of those that an edit put in, each once"`
}

// Versions is a page of the list, the newest first.
type Versions struct {
	Rows []VersionRow `json:"rows"`
	More bool         `json:"more"`
}

// Version is one past state, and in what the newest one differs from it.
type Version struct {
	Version     int                  `json:"version"`
	Document    circuit.Document     `json:"document"`
	Plan        plan.Plan            `json:"plan" doc:"against the kit and the people of today"`
	Differences []circuit.Difference `json:"differences" doc:"a is this version, b the newest"`
}

// RestoreInput brings a past version back as the newest one.
type RestoreInput struct {
	Revision
	Version int `json:"version" minimum:"1"`
}

const versionsPage = 50

// Versions lists past versions, the newest first, before one where that is given.
func (s Studio) Versions(ctx context.Context, id string, before int) (Versions, error) {
	row, _, err := s.store.Circuit(ctx, s.scope, id)
	if err != nil {
		return Versions{}, err
	}
	if before == 0 {
		before = math.MaxInt32
	}
	rows, err := s.store.Versions(ctx, s.scope, row.ID, before, versionsPage+1)
	if err != nil {
		return Versions{}, err
	}
	out := Versions{Rows: []VersionRow{}, More: len(rows) > versionsPage}
	for _, r := range rows[:min(len(rows), versionsPage)] {
		v := VersionRow{
			Version: r.Version,
			Kind:    r.Kind,
			Side:    r.Side,
			AtMs:    r.CreatedAt.UnixMilli(),
		}
		if r.Base != nil {
			v.Base = *r.Base
		}
		v.Edits, v.Moves = circuit.Told(r.Ops)
		out.Rows = append(out.Rows, v)
	}
	return out, nil
}

// Version reads a past version and what differs from it now.
func (s Studio) Version(ctx context.Context, id string, n int) (Version, error) {
	v, err := s.view(ctx, id)
	if err != nil {
		return Version{}, err
	}
	row, err := s.store.Version(ctx, s.scope, v.Planned.Circuit.ID, n)
	if err != nil {
		return Version{}, err
	}
	d, err := circuit.Decode(row.Document)
	return Version{n, d, plan.Look(d, v.Context), circuit.Compare(d, v.Document)}, err
}

// Restore brings a past version back; undo takes it away again.
func (s Studio) Restore(ctx context.Context, id string, in RestoreInput) (Edited, error) {
	return edited(s.change(ctx, id, in.Revision, changing{kind: "restore", work: func(v view) ([]circuit.Op, error) {
		old, err := s.store.Version(ctx, s.scope, v.Planned.Circuit.ID, in.Version)
		if err != nil {
			return nil, err
		}
		d, err := circuit.Decode(old.Document)
		return []circuit.Op{{Kind: circuit.Replace, Document: &d}}, err
	}}))
}
