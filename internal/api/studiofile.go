package api

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/formats/studiofile"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
)

// maxFile bounds a studio's file.
const maxFile = 32 << 20

// Imported counts what a file brings and what stands there already.
type Imported struct {
	Moves    int `json:"moves" doc:"of the studio's own"`
	Places   int `json:"places"`
	Items    int `json:"items" doc:"implements, objects and containers"`
	Classes  int `json:"classes"`
	People   int `json:"people"`
	Circuits int `json:"circuits"`
	Runs     int `json:"runs"`
	Lines    int `json:"lines" doc:"of logs"`
	Kept     int `json:"kept" doc:"things of the file that stand there already and stay as they are"`
}

// exported is a studio's file as a browser saves it.
type exported struct {
	Disposition string `header:"Content-Disposition"`
	Body        studiofile.File
}

func (s *server) registerStudioFile(a huma.API) {
	operation(a, http.MethodGet, "/api/studio/export", "export-studio", "Everything of the studio as one document", func(ctx context.Context, _ *struct{}) (*exported, error) {
		f, err := s.Store.Export(ctx, s.Scope)
		return &exported{`attachment; filename="studio.json"`, f}, err
	})
	// It is larger than any other request may be.
	huma.Register(a, huma.Operation{OperationID: "import-studio", Method: http.MethodPost, Path: "/api/studio/import", MaxBodyBytes: maxFile, Tags: []string{"studio"},
		Summary: "Bring in what a studio's document has and the studio has not"}, func(ctx context.Context, in *struct {
		Try  bool `query:"try" doc:"only say what it would bring"`
		Body studiofile.File
	}) (*result[Imported], error) {
		out, err := s.importStudio(ctx, in.Body, in.Try)
		if err != nil {
			return nil, toProblem(ctx, err)
		}
		return answer(out), nil
	})
}

func (s *server) importStudio(ctx context.Context, f studiofile.File, try bool) (Imported, error) {
	var fault *studiofile.Fault
	if err := f.Check(); errors.As(err, &fault) {
		return Imported{}, fieldError("body."+fault.Path, errors.New(fault.Message), nil)
	}
	n, err := s.Store.Import(ctx, s.Scope, f, try)
	if errors.Is(err, store.ErrFull) {
		return Imported{}, problem.New(problem.TooMany, http.StatusUnprocessableEntity, "with this file a list would be over its limit: nothing was brought in: "+err.Error())
	}
	return Imported(n), err
}
