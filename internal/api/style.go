package api

import (
	"context"
	"encoding/json"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/problem"
)

// HouseStyle is what a house has chosen, and from what.
type HouseStyle struct {
	Schools []SchoolChoice               `json:"schools"`
	Moves   map[string]map[string]string `json:"moves" doc:"exceptions: move, school, option"`
}

// SchoolChoice is one matter with what is chosen.
type SchoolChoice struct {
	ID       string         `json:"id"`
	Question string         `json:"question"`
	Options  []moves.Option `json:"options"`
	Chosen   string         `json:"chosen"`
}

// StyleInput is a choice for a house, and exceptions.
type StyleInput struct {
	Studio map[string]string            `json:"studio" doc:"school, option"`
	Moves  map[string]map[string]string `json:"moves" doc:"exceptions: move, school, option"`
}

func (s *server) registerStyle(a huma.API) {
	operation(a, http.MethodGet, "/api/style", "get-style", "The house style, and what could be chosen", func(ctx context.Context, _ *struct{}) (*result[HouseStyle], error) {
		return s.style(ctx)
	})
	checked(a, http.MethodPut, "/api/style", "put-style", "Choose the house style", func(ctx context.Context, in *result[StyleInput], wrong *problem.Faults) (*result[HouseStyle], error) {
		lib, err := s.library(ctx)
		if err != nil {
			return nil, err
		}
		next := moves.Style{Studio: in.Body.Studio, Moves: in.Body.Moves}
		for _, bad := range next.Check(lib) {
			wrong.Add("body."+bad.Path, bad.Message, nil)
		}
		if wrong.Failed() {
			return nil, wrong.Problem()
		}
		b, err := json.Marshal(next)
		if err != nil {
			return nil, err
		}
		if err := s.Store.PutStyle(ctx, s.Scope, b); err != nil {
			return nil, err
		}
		return s.style(ctx)
	})
}

func (s *server) style(ctx context.Context) (*result[HouseStyle], error) {
	st, err := s.Store.Studio(ctx, s.Scope)
	if err != nil {
		return nil, err
	}
	style, err := moves.ParseStyle(st.Style)
	if err != nil {
		return nil, err
	}
	out := HouseStyle{Schools: []SchoolChoice{}, Moves: style.Moves}
	if out.Moves == nil {
		out.Moves = map[string]map[string]string{}
	}
	for _, x := range moves.Schools() {
		out.Schools = append(out.Schools, SchoolChoice{x.ID, x.Question, x.Options, style.Option(x.ID)})
	}
	return answer(out), nil
}
