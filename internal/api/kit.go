package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
)

// Place is where kit is, with what it has.
type Place struct {
	ID         string      `json:"id"`
	Name       string      `json:"name"`
	Kind       string      `json:"kind" enum:"hall,flat"`
	MassUnit   string      `json:"massUnit" enum:"kg,lb"`
	Implements []Implement `json:"implements"`
	Objects    []Object    `json:"objects"`
	Containers []Container `json:"containers"`
	// stock is the same as the core computes with, library the one it is taught by.
	stock   kit.Stock
	library *moves.Library
}

// PlaceInput is what is typed of a place.
type PlaceInput struct {
	Name     Name   `json:"name"`
	Kind     string `json:"kind" enum:"hall,flat"`
	MassUnit string `json:"massUnit" enum:"kg,lb" doc:"what a bare number means here"`
}

// PlacePath names a place.
type PlacePath struct {
	Place string `path:"place" pattern:"^[0-9a-z]{26}$" doc:"id of the place"`
}

// ItemPath names a thing of a place.
type ItemPath struct {
	PlacePath
	Item string `path:"item" pattern:"^[0-9a-z]{26}$" doc:"id made by whoever creates it"`
}

func (s *server) registerKit(a huma.API) {
	operation(a, http.MethodGet, "/api/places", "list-places", "Places that are not retired, with what they have",
		func(ctx context.Context, _ *struct{}) (*result[[]Place], error) {
			out, err := s.places(ctx)
			return answer(out), err
		})
	operation(a, http.MethodPut, "/api/places/{place}", "put-place", "Make or change a place", func(ctx context.Context, in *struct {
		PlacePath
		Body PlaceInput
	}) (*result[Place], error) {
		b := in.Body
		if err := s.Store.PutPlace(ctx, s.Scope, store.Place{PublicID: in.Place, Name: string(b.Name), Kind: b.Kind, MassUnit: b.MassUnit}); err != nil {
			return nil, err
		}
		return s.placeNow(ctx, in.Place)
	})
	checked(a, http.MethodPut, "/api/places/{place}/implements/{item}", "put-implement", "Make or change an implement", func(ctx context.Context, in *struct {
		ItemPath
		Body ImplementInput
	}, wrong *problem.Faults) (*result[Place], error) {
		return s.putItem(ctx, in.Place, wrong, func(t *typing) func() error {
			row := t.implementRow(in.Item, in.Body)
			return func() error { return s.Store.PutImplement(ctx, s.Scope, in.Place, row) }
		})
	})
	checked(a, http.MethodPut, "/api/places/{place}/objects/{item}", "put-object", "Make or change an object", func(ctx context.Context, in *struct {
		ItemPath
		Body ObjectInput
	}, wrong *problem.Faults) (*result[Place], error) {
		return s.putItem(ctx, in.Place, wrong, func(t *typing) func() error {
			row := t.objectRow(in.Item, in.Body)
			return func() error { return s.Store.PutObject(ctx, s.Scope, in.Place, row) }
		})
	})
	checked(a, http.MethodPut, "/api/places/{place}/containers/{item}", "put-container", "Make or change a container", func(ctx context.Context, in *struct {
		ItemPath
		Body ContainerInput
	}, wrong *problem.Faults) (*result[Place], error) {
		return s.putItem(ctx, in.Place, wrong, func(t *typing) func() error {
			row := t.containerRow(in.Item, in.Body)
			return func() error { return s.Store.PutContainer(ctx, s.Scope, in.Place, row) }
		})
	})
	checked(a, http.MethodPost, "/api/places/{place}/weigh-object", "weigh-object", "What an object weighs as it is typed, and how that is known",
		func(ctx context.Context, in *struct {
			PlacePath
			Body ObjectInput
		}, wrong *problem.Faults) (*result[Weighed], error) {
			p, err := s.Store.Place(ctx, s.Scope, in.Place)
			if err != nil {
				return nil, err
			}
			row := typed(p.MassUnit, wrong).objectRow(newID, in.Body)
			return answer(weighed(row)), wrong.Problem()
		})
	operation(a, http.MethodGet, "/api/household", "get-household", "What household things weigh, with the sources",
		func(context.Context, *struct{}) (*result[kit.Household], error) {
			return answer(kit.StandardHousehold()), nil
		})
	for kind, retire := range map[string]func(context.Context, store.Scope, string, string) error{
		"implement": s.Store.RetireImplement, "object": s.Store.RetireObject, "container": s.Store.RetireContainer,
	} {
		operation(a, http.MethodDelete, "/api/places/{place}/"+kind+"s/{item}", "retire-"+kind, "Put an "+kind+" away; old circuits still know it",
			func(ctx context.Context, in *ItemPath) (*result[Place], error) {
				if err := retire(ctx, s.Scope, in.Place, in.Item); err != nil {
					return nil, err
				}
				return s.placeNow(ctx, in.Place)
			})
	}
}

// places reads every place that is not retired with what it has.
func (s *server) places(ctx context.Context) ([]Place, error) {
	rows, err := s.Store.Places(ctx, s.Scope)
	if err != nil {
		return nil, err
	}
	stocks, err := s.stocksOf(ctx, rows)
	out := []Place{}
	for _, r := range rows {
		out = append(out, placeOf(r, stocks[r.ID]))
	}
	return out, err
}

func (s *server) stocksOf(ctx context.Context, rows []store.Place) (map[int64]store.Stock, error) {
	ids := make([]int64, 0, len(rows))
	for _, r := range rows {
		ids = append(ids, r.ID)
	}
	return s.Store.Stocks(ctx, s.Scope, ids)
}

// putItem reads a row of a place's stock as it is typed there, writes it, and answers
// with the place.
func (s *server) putItem(ctx context.Context, place string, wrong *problem.Faults, read func(*typing) (write func() error)) (*result[Place], error) {
	p, err := s.Store.Place(ctx, s.Scope, place)
	if err != nil {
		return nil, err
	}
	write := read(typed(p.MassUnit, wrong))
	if wrong.Failed() {
		return nil, wrong.Problem()
	}
	if err := write(); err != nil {
		return nil, err
	}
	return s.placeNow(ctx, place)
}

func (s *server) placeNow(ctx context.Context, id string) (*result[Place], error) {
	row, err := s.Store.Place(ctx, s.Scope, id)
	if err != nil {
		return nil, err
	}
	p, err := s.place(ctx, row)
	return answer(p), err
}

func (s *server) place(ctx context.Context, row store.Place) (Place, error) {
	st, err := s.Store.Stock(ctx, s.Scope, row.ID)
	if err != nil {
		return Place{}, err
	}
	p := placeOf(row, st)
	p.stock = p.stock.Until(ctx)
	p.library, err = s.libraryOf(ctx, st.LibraryStamp)
	return p, err
}
