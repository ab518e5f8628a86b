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

// maxFile bounds a studio's file, which studioImport takes.
const (
	maxFile      = 32 << 20
	studioImport = "/api/studio/import"
)

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
	checked(a, http.MethodPost, studioImport, "import-studio", "Bring in what a studio's document has and the studio has not", func(ctx context.Context, in *struct {
		Try  bool `query:"try" doc:"only say what it would bring"`
		Body studiofile.File
	}, wrong *problem.Faults) (*result[Imported], error) {
		out, err := s.importStudio(ctx, in.Body, in.Try, wrong)
		return answer(out), err
	})
}

func (s *server) importStudio(ctx context.Context, f studiofile.File, try bool, wrong *problem.Faults) (Imported, error) {
	if wrong.Failed() {
		return Imported{}, wrong.Problem()
	}
	for _, fault := range f.Check() {
		wrong.Add("body."+fault.Path, fault.Message, nil)
	}
	if checkStudio(f, wrong); wrong.Failed() {
		return Imported{}, wrong.Problem()
	}
	n, err := s.Store.Import(ctx, s.Scope, f, try)
	if errors.Is(err, store.ErrFull) {
		return Imported{}, problem.New(problem.TooMany, http.StatusUnprocessableEntity, "with this file a list would be over its limit: nothing was brought in: "+err.Error())
	}
	return Imported(n), err
}
