package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/store"
)

// CueQueue is what a group is told today and what waits.
type CueQueue struct {
	Moves   []moves.TodaysCue `json:"moves"`
	Waiting []moves.Cue       `json:"waiting"`
}

func (s *server) registerCues(a huma.API) {
	operation(a, http.MethodGet, "/api/circuits/{circuit}/cues", "get-cues", "The one new cue of a class, and those that wait", func(ctx context.Context, in *CircuitPath) (*result[CueQueue], error) {
		row, head, err := s.Store.Circuit(ctx, s.Scope, in.Circuit)
		if err != nil {
			return nil, err
		}
		c, err := s.Store.ClassByID(ctx, s.Scope, row.OccurrenceID)
		if err != nil {
			return nil, err
		}
		d, err := circuit.Decode(head.Document)
		if err != nil {
			return nil, err
		}
		lib, err := s.library(ctx)
		if err != nil {
			return nil, err
		}
		q, err := s.cues(ctx, c.Occurrence, lib, circuit.Moves(d))
		return answer(q), err
	})
}

// cues holds the moves of a circuit against what the group has been told.
func (s *server) cues(ctx context.Context, c store.Occurrence, lib *moves.Library, list []string) (CueQueue, error) {
	sessions, err := s.Store.Sessions(ctx, s.Scope, c)
	if err != nil {
		return CueQueue{}, err
	}
	said, waiting := lib.Today(list, lib.Taught(sessions))
	return CueQueue{said, waiting}, nil
}

// movesOf lists the moves of a run's slots in order.
func movesOf(slots []RunSlot) []string {
	out := []string{}
	for _, s := range slots {
		for _, c := range s.Cells {
			out = append(out, c.Entry.Variant)
		}
	}
	return out
}
