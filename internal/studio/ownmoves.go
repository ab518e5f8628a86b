package studio

import (
	"context"
	"errors"
	"fmt"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
)

// MovesImport is a file with the hash of the preview that was looked at.
type MovesImport struct {
	Hash string     `json:"hash" maxLength:"64"`
	File moves.File `json:"file"`
}

// OwnMoves gives the studio's own moves as one document.
func (s Studio) OwnMoves(ctx context.Context) (moves.File, error) {
	own, _, err := s.own(ctx)
	return moves.File{Format: moves.FileFormat, V: 1, Moves: own}, err
}

// PreviewMoves says what a file of moves would do.
func (s Studio) PreviewMoves(ctx context.Context, f moves.File, wrong *fault.List) (moves.Preview, error) {
	readMoves(f.Moves, "moves", wrong)
	if err := wrong.Err(); err != nil {
		return moves.Preview{}, err
	}
	own, stamp, err := s.own(ctx)
	if err != nil {
		return moves.Preview{}, err
	}
	p, _ := moves.Merge(own, f.Moves, stamp)
	return p, nil
}

// ImportMoves takes in what was looked at.
func (s Studio) ImportMoves(ctx context.Context, in MovesImport, wrong *fault.List) (moves.Preview, error) {
	readMoves(in.File.Moves, "file.moves", wrong)
	checkMoves(in.File.Moves, "file.moves", wrong)
	if err := wrong.Err(); err != nil {
		return moves.Preview{}, err
	}
	return s.putOwn(ctx, in.File.Moves, &in.Hash)
}

// PutOwnMove makes or changes an own move.
func (s Studio) PutOwnMove(ctx context.Context, id string, v *moves.Variant, wrong *fault.List) (moves.Preview, error) {
	if v.ID != id {
		wrong.Note("id", "it is another than the address says", v.ID)
	}
	readMove(v, "", wrong)
	checkMove(v, "", wrong)
	if err := wrong.Err(); err != nil {
		return moves.Preview{}, err
	}
	return s.putOwn(ctx, []*moves.Variant{v}, nil)
}

// own reads the studio's own moves and the stamp of its library.
func (s Studio) own(ctx context.Context) ([]*moves.Variant, string, error) {
	taught, err := s.store.Teaching(ctx, s.scope)
	if err != nil {
		return nil, "", err
	}
	own, err := moves.ParseOwn(taught.Own)
	return own, taught.Stamp, err
}

// putOwn takes moves in while the library is what it was looked at against.
func (s Studio) putOwn(ctx context.Context, incoming []*moves.Variant, hash *string) (moves.Preview, error) {
	own, stamp, err := s.own(ctx)
	if err != nil {
		return moves.Preview{}, err
	}
	p, write := moves.Merge(own, incoming, stamp)
	switch {
	case hash != nil && *hash != p.Hash:
		return moves.Preview{}, Refusal{
			Stale,
			"the file or the library is no longer what was looked at: look again first",
		}
	case p.Fault != "":
		return moves.Preview{}, fault.List{{Message: p.Fault}}
	case len(write) == 0:
		return p, nil
	}
	err = s.store.PutOwnMoves(ctx, s.scope, &stamp, write)
	if errors.Is(err, store.ErrConflict) {
		return moves.Preview{}, Refusal{Stale, "somebody changed the library meanwhile: look again first"}
	}
	return p, err
}

// readMoves reads the texts of moves as names are read.
func readMoves(list []*moves.Variant, at string, wrong *fault.List) {
	for i, v := range list {
		if v != nil { // else its schema has said so
			readMove(v, fmt.Sprintf("%s[%d]", at, i), wrong)
		}
	}
}

func readMove(v *moves.Variant, at string, wrong *fault.List) {
	for path, text := range v.Texts() {
		read, err := names.Text(*text, moves.MaxText)
		if err != nil {
			wrong.Note(fault.Join(at, path), err.Error(), *text)
		}
		*text = read
	}
	for h, line := range v.HoldLines {
		read, err := names.Text(line, moves.MaxText)
		if err != nil {
			wrong.Note(fault.Join(at, "holdLines."+string(h)), err.Error(), line)
		}
		v.HoldLines[h] = read
	}
}

// checkMoves refuses moves that cannot stand by themselves, every field by its place.
func checkMoves(list []*moves.Variant, at string, wrong *fault.List) {
	for i, v := range list {
		if v != nil {
			checkMove(v, fmt.Sprintf("%s[%d]", at, i), wrong)
		}
	}
}

func checkMove(v *moves.Variant, at string, wrong *fault.List) {
	for _, f := range v.Faults() {
		wrong.Note(fault.Join(at, f.Path), f.Message, nil)
	}
}
