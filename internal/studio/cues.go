package studio

import (
	"context"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/store"
)

// CueQueue is what a group is told today and what waits.
type CueQueue struct {
	Moves   []moves.TodaysCue `json:"moves"`
	Waiting []moves.Cue       `json:"waiting"`
}

// cues holds the moves of a circuit against what the group has been told.
func (s Studio) cues(ctx context.Context, c store.Occurrence, lib *moves.Library, list []string) (CueQueue, error) {
	sessions, err := s.store.Sessions(ctx, s.scope, c)
	if err != nil {
		return CueQueue{}, err
	}
	said, waiting := lib.Today(list, lib.Taught(sessions))
	return CueQueue{said, waiting}, nil
}

// Cues gives the one new cue of a class, and those that wait.
func (s Studio) Cues(ctx context.Context, id string) (CueQueue, error) {
	p, err := s.store.Planned(ctx, s.scope, id)
	if err != nil {
		return CueQueue{}, err
	}
	d, err := circuit.Decode(p.Base.Document)
	if err != nil {
		return CueQueue{}, err
	}
	lib, err := s.libraryOf(ctx, p.Class.Stamps.Library)
	if err != nil {
		return CueQueue{}, err
	}
	return s.cues(ctx, p.Class.Occurrence, lib, circuit.Moves(d))
}
