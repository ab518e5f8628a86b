package api

import (
	"context"
	"errors"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
)

// movesFile is a file of own moves as a browser saves it.
type movesFile struct {
	Disposition string `header:"Content-Disposition"`
	Body        moves.File
}

// MovesImport is a file with the hash of the preview that was looked at.
type MovesImport struct {
	Hash string     `json:"hash" maxLength:"64"`
	File moves.File `json:"file"`
}

func (s *server) registerOwnMoves(a huma.API) {
	operation(a, http.MethodGet, "/api/own-moves", "export-own-moves", "The studio's own moves as one document", func(ctx context.Context, _ *struct{}) (*movesFile, error) {
		own, _, err := s.own(ctx)
		return &movesFile{`attachment; filename="moves.json"`, moves.File{Format: moves.FileFormat, V: 1, Moves: own}}, err
	})
	checked(a, http.MethodPost, "/api/own-moves/preview", "preview-own-moves", "What a file of moves would do", func(ctx context.Context, in *result[moves.File], wrong *problem.Faults) (*result[moves.Preview], error) {
		if readMoves(in.Body.Moves, "body.moves", wrong); wrong.Failed() {
			return nil, wrong.Problem()
		}
		own, stamp, err := s.own(ctx)
		if err != nil {
			return nil, err
		}
		p, _ := moves.Merge(own, in.Body.Moves, stamp)
		return answer(p), nil
	})
	checked(a, http.MethodPost, "/api/own-moves/import", "import-own-moves", "Take in what was looked at", func(ctx context.Context, in *result[MovesImport], wrong *problem.Faults) (*result[moves.Preview], error) {
		readMoves(in.Body.File.Moves, "body.file.moves", wrong)
		if checkMoves(in.Body.File.Moves, "body.file.moves", wrong); wrong.Failed() {
			return nil, wrong.Problem()
		}
		return s.putOwn(ctx, in.Body.File.Moves, &in.Body.Hash)
	})
	checked(a, http.MethodPut, "/api/own-moves/{move}", "put-own-move", "Make or change an own move", func(ctx context.Context, in *struct {
		Move string `path:"move" pattern:"^own-[a-z0-9]+(-[a-z0-9]+)*$" maxLength:"60"`
		Body moves.Variant
	}, wrong *problem.Faults) (*result[moves.Preview], error) {
		if in.Body.ID != in.Move {
			wrong.Add("body.id", "it is another than the address says", in.Body.ID)
		}
		readMove(&in.Body, "body", wrong)
		if checkMove(&in.Body, "body", wrong); wrong.Failed() {
			return nil, wrong.Problem()
		}
		return s.putOwn(ctx, []*moves.Variant{&in.Body}, nil)
	})
}

// own reads the studio's own moves and the stamp of its library.
func (s *server) own(ctx context.Context) ([]*moves.Variant, string, error) {
	_, rows, stamp, err := s.Store.Teaching(ctx, s.Scope)
	if err != nil {
		return nil, "", err
	}
	own, err := moves.ParseOwn(rows)
	return own, stamp, err
}

// putOwn takes moves in while the library is what it was looked at against.
func (s *server) putOwn(ctx context.Context, incoming []*moves.Variant, hash *string) (*result[moves.Preview], error) {
	own, stamp, err := s.own(ctx)
	if err != nil {
		return nil, err
	}
	p, write := moves.Merge(own, incoming, stamp)
	switch {
	case hash != nil && *hash != p.Hash:
		return nil, problem.New(problem.Conflict, http.StatusConflict, "the file or the library is no longer what was looked at: look again first")
	case p.Fault != "":
		return nil, fieldError("body", errors.New(p.Fault), nil)
	case len(write) == 0:
		return answer(p), nil
	}
	err = s.Store.PutOwnMoves(ctx, s.Scope, &stamp, write)
	if errors.Is(err, store.ErrConflict) {
		return nil, problem.New(problem.Conflict, http.StatusConflict, "somebody changed the library meanwhile: look again first")
	}
	return answer(p), err
}

// readMoves reads the texts of moves as names are read.
func readMoves(list []*moves.Variant, at string, wrong *problem.Faults) {
	for i, v := range list {
		if v != nil { // else its schema has said so
			readMove(v, fmt.Sprintf("%s[%d]", at, i), wrong)
		}
	}
}

func readMove(v *moves.Variant, at string, wrong *problem.Faults) {
	for path, text := range v.Texts() {
		read, err := names.Text(*text, moves.MaxText)
		if err != nil {
			wrong.Add(at+"."+path, err.Error(), *text)
		}
		*text = read
	}
	for h, line := range v.HoldLines {
		read, err := names.Text(line, moves.MaxText)
		if err != nil {
			wrong.Add(at+".holdLines."+string(h), err.Error(), line)
		}
		v.HoldLines[h] = read
	}
}

// checkMoves refuses moves that cannot stand by themselves, every field by its place.
func checkMoves(list []*moves.Variant, at string, wrong *problem.Faults) {
	for i, v := range list {
		if v != nil {
			checkMove(v, fmt.Sprintf("%s[%d]", at, i), wrong)
		}
	}
}

func checkMove(v *moves.Variant, at string, wrong *problem.Faults) {
	for _, f := range v.Faults() {
		wrong.Add(at+"."+f.Field, f.Message, nil)
	}
}
