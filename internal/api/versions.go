package api

import (
	"context"
	"encoding/json"
	"math"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/circuit"
)

// VersionRow is one past state of a circuit in its list.
type VersionRow struct {
	Version int              `json:"version"`
	Base    int              `json:"base,omitempty" doc:"the version it was made from"`
	Kind    string           `json:"kind" enum:"propose,edit,undo,redo,restore"`
	Side    bool             `json:"side" doc:"made from a version that was no longer the newest: kept beside the others"`
	AtMs    int64            `json:"atMs"`
	Edits   []circuit.OpKind `json:"edits"`
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
	Plan        circuit.Plan         `json:"plan" doc:"against the kit and the people of today"`
	Differences []circuit.Difference `json:"differences" doc:"a is this version, b the newest"`
}

// RestoreInput brings a past version back as the newest one.
type RestoreInput struct {
	Revision
	Version int `json:"version" minimum:"1"`
}

const versionsPage = 50

// VersionPath names a version of a circuit.
type VersionPath struct {
	CircuitPath
	Version int `path:"version" minimum:"1"`
}

func (s *server) registerVersions(a huma.API) {
	operation(a, http.MethodGet, "/api/circuits/{circuit}/versions", "list-versions", "Past versions of a circuit", func(ctx context.Context, in *struct {
		CircuitPath
		Before int `query:"before" minimum:"1" doc:"only versions before this one"`
	}) (*result[Versions], error) {
		return s.versions(ctx, in.Circuit, in.Before)
	})
	operation(a, http.MethodGet, "/api/circuits/{circuit}/versions/{version}", "get-version", "A past version and what differs from it now",
		func(ctx context.Context, in *VersionPath) (*result[Version], error) {
			v, err := s.view(ctx, in.Circuit)
			if err != nil {
				return nil, err
			}
			row, err := s.Store.Version(ctx, s.Scope, v.row.ID, in.Version)
			if err != nil {
				return nil, err
			}
			d, err := circuit.Decode(row.Document)
			return answer(Version{in.Version, d, circuit.Look(d, v.context), circuit.Compare(d, v.Document)}), err
		})
	operation(a, http.MethodPost, "/api/circuits/{circuit}/restore", "restore-version", "Bring a past version back; undo takes it away again", func(ctx context.Context, in *struct {
		CircuitPath
		Body RestoreInput
	}) (*result[Circuit], error) {
		row, _, err := s.Store.Circuit(ctx, s.Scope, in.Circuit)
		if err != nil {
			return nil, err
		}
		old, err := s.Store.Version(ctx, s.Scope, row.ID, in.Body.Version)
		if err != nil {
			return nil, err
		}
		d, err := circuit.Decode(old.Document)
		if err != nil {
			return nil, err
		}
		return s.change(ctx, in.Circuit, in.Body.Revision, changing{kind: "restore", ops: func(circuit.Document) ([]circuit.Op, error) {
			return []circuit.Op{{Kind: circuit.Replace, Document: &d}}, nil
		}})
	})
}

func (s *server) versions(ctx context.Context, id string, before int) (*result[Versions], error) {
	row, _, err := s.Store.Circuit(ctx, s.Scope, id)
	if err != nil {
		return nil, err
	}
	if before == 0 {
		before = math.MaxInt32
	}
	rows, err := s.Store.Versions(ctx, s.Scope, row.ID, before, versionsPage+1)
	if err != nil {
		return nil, err
	}
	out := Versions{Rows: []VersionRow{}, More: len(rows) > versionsPage}
	for _, r := range rows[:min(len(rows), versionsPage)] {
		v := VersionRow{Version: r.Version, Kind: r.Kind, Side: r.Side, AtMs: r.CreatedAt.UnixMilli(), Edits: []circuit.OpKind{}}
		if r.Base != nil {
			v.Base = *r.Base
		}
		var ops []circuit.Op
		if json.Unmarshal(r.Ops, &ops) == nil {
			for _, op := range ops {
				v.Edits = append(v.Edits, op.Kind)
			}
		}
		out.Rows = append(out.Rows, v)
	}
	return answer(out), nil
}
