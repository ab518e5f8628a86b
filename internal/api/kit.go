package api

import (
	"context"
	"errors"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
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
	Name     string `json:"name" minLength:"1" maxLength:"120"`
	Kind     string `json:"kind" enum:"hall,flat"`
	MassUnit string `json:"massUnit" enum:"kg,lb" doc:"what a bare number means here"`
}

// Implement is a row of equal implements.
type Implement struct {
	ID      string    `json:"id"`
	Name    string    `json:"name"`
	Kind    string    `json:"kind" enum:"kettlebell,dumbbell,dumbbell-pair,band,bench,box,table"`
	Mass    *Quantity `json:"mass,omitempty" doc:"of one piece"`
	Height  *Quantity `json:"height,omitempty"`
	Count   int       `json:"count" doc:"pieces, or pairs for dumbbell-pair"`
	Checked bool      `json:"checked" doc:"a table somebody has looked at: four fixed legs, heavy, does not tip"`
}

// ImplementInput is what is typed of an implement.
type ImplementInput struct {
	Name    string `json:"name" minLength:"1" maxLength:"120"`
	Kind    string `json:"kind" enum:"kettlebell,dumbbell,dumbbell-pair,band,bench,box,table"`
	Mass    string `json:"mass,omitempty" maxLength:"40" doc:"as typed: 16, 16 kg, 35 lb"`
	Height  string `json:"height,omitempty" maxLength:"40" doc:"as typed: 45 cm, 18 in"`
	Count   int    `json:"count" minimum:"1" maximum:"500"`
	Checked bool   `json:"checked,omitempty"`
}

// Object is a row of equal household objects, with their packaging.
type Object struct {
	ID    string   `json:"id"`
	Name  string   `json:"name"`
	Use   string   `json:"use" enum:"grip,hug,pack"`
	Mass  Quantity `json:"mass"`
	Count int      `json:"count"`
}

// ObjectInput is what is typed of an object.
type ObjectInput struct {
	Name  string `json:"name" minLength:"1" maxLength:"120"`
	Use   string `json:"use" enum:"grip,hug,pack" doc:"a hand closes round it; held against the body; only in a container"`
	Mass  string `json:"mass" maxLength:"40" doc:"gross, as typed"`
	Count int    `json:"count" minimum:"1" maximum:"500"`
}

// Container is something that closes and holds objects.
type Container struct {
	ID   string   `json:"id"`
	Name string   `json:"name"`
	Mass Quantity `json:"mass"`
	Max  Quantity `json:"max" doc:"the most it may weigh packed"`
}

// ContainerInput is what is typed of a container.
type ContainerInput struct {
	Name string `json:"name" minLength:"1" maxLength:"120"`
	Mass string `json:"mass" maxLength:"40"`
	Max  string `json:"max" maxLength:"40"`
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
			rows, err := s.Store.Places(ctx, s.Scope)
			if err != nil {
				return nil, err
			}
			ids := make([]int64, 0, len(rows))
			for _, r := range rows {
				ids = append(ids, r.ID)
			}
			stocks, err := s.Store.Stocks(ctx, s.Scope, ids)
			out := []Place{}
			for _, r := range rows {
				out = append(out, placeOf(r, stocks[r.ID]))
			}
			return answer(out), err
		})
	operation(a, http.MethodPut, "/api/places/{place}", "put-place", "Make or change a place", func(ctx context.Context, in *struct {
		PlacePath
		Body PlaceInput
	}) (*result[Place], error) {
		b := in.Body
		if err := s.Store.PutPlace(ctx, s.Scope, store.Place{PublicID: in.Place, Name: b.Name, Kind: b.Kind, MassUnit: b.MassUnit}); err != nil {
			return nil, err
		}
		return s.placeNow(ctx, in.Place)
	})
	operation(a, http.MethodPut, "/api/places/{place}/implements/{item}", "put-implement", "Make or change an implement", func(ctx context.Context, in *struct {
		ItemPath
		Body ImplementInput
	}) (*result[Place], error) {
		return s.putItem(ctx, in.Place, func(unit measure.Unit) error {
			row, err := implementRow(in.Item, in.Body, unit)
			if err != nil {
				return err
			}
			return s.Store.PutImplement(ctx, s.Scope, in.Place, row)
		})
	})
	operation(a, http.MethodPut, "/api/places/{place}/objects/{item}", "put-object", "Make or change an object", func(ctx context.Context, in *struct {
		ItemPath
		Body ObjectInput
	}) (*result[Place], error) {
		return s.putItem(ctx, in.Place, func(unit measure.Unit) error {
			m, err := readMass("body.mass", in.Body.Mass, unit)
			if err != nil {
				return err
			}
			return s.Store.PutObject(ctx, s.Scope, in.Place, store.Object{PublicID: in.Item, Name: in.Body.Name, UseAs: in.Body.Use,
				MassDecimal: m.Decimal, MassUnit: string(m.Unit), MassG: m.Whole, Count: in.Body.Count})
		})
	})
	operation(a, http.MethodPut, "/api/places/{place}/containers/{item}", "put-container", "Make or change a container", func(ctx context.Context, in *struct {
		ItemPath
		Body ContainerInput
	}) (*result[Place], error) {
		return s.putItem(ctx, in.Place, func(unit measure.Unit) error {
			m, err := readMass("body.mass", in.Body.Mass, unit)
			if err != nil {
				return err
			}
			most, err := readMass("body.max", in.Body.Max, unit)
			if err != nil {
				return err
			}
			if most.Whole <= m.Whole {
				return fieldError("body.max", errors.New("packed it weighs more than empty: type the most it may weigh in all"), in.Body.Max)
			}
			return s.Store.PutContainer(ctx, s.Scope, in.Place, store.Container{PublicID: in.Item, Name: in.Body.Name,
				MassDecimal: m.Decimal, MassUnit: string(m.Unit), MassG: m.Whole, MaxDecimal: most.Decimal, MaxUnit: string(most.Unit), MaxG: most.Whole})
		})
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

// putItem runs a change of a place's stock with the place's unit and answers
// with the place.
func (s *server) putItem(ctx context.Context, place string, put func(measure.Unit) error) (*result[Place], error) {
	p, err := s.Store.Place(ctx, s.Scope, place)
	if err != nil {
		return nil, err
	}
	if err := put(measure.Unit(p.MassUnit)); err != nil {
		return nil, err
	}
	return s.placeNow(ctx, place)
}

func readMass(location, text string, unit measure.Unit) (measure.Reading, error) {
	r, err := measure.ReadMass(text, unit, measure.MaxLoad)
	if err != nil {
		return r, fieldError(location, err, text)
	}
	return r, nil
}

func implementRow(id string, in ImplementInput, unit measure.Unit) (store.Implement, error) {
	row := store.Implement{PublicID: id, Name: in.Name, Kind: in.Kind, Count: in.Count, Checked: in.Checked}
	switch in.Kind {
	case kit.Kettlebell, kit.Dumbbell, kit.DumbbellPair:
		m, err := readMass("body.mass", in.Mass, unit)
		if err != nil {
			return row, err
		}
		u := string(m.Unit)
		row.MassDecimal, row.MassUnit, row.MassG = &m.Decimal, &u, &m.Whole
		return row, nil
	case kit.Bench, kit.Box, kit.Table:
		bare := measure.Centimetre
		if unit == measure.Pound {
			bare = measure.Inch
		}
		h, err := measure.ReadLength(in.Height, bare, maxHeight)
		if err != nil {
			return row, fieldError("body.height", err, in.Height)
		}
		u := string(h.Unit)
		row.HeightDecimal, row.HeightUnit, row.HeightMm = &h.Decimal, &u, &h.Whole
	}
	if strings.TrimSpace(in.Mass) != "" {
		return row, fieldError("body.mass", errors.New("a "+in.Kind+" has no load of its own here: leave the mass out"), in.Mass)
	}
	return row, nil
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
	p.library, err = s.libraryOf(ctx, st.LibraryStamp)
	return p, err
}

func placeOf(row store.Place, st store.Stock) Place {
	p := Place{ID: row.PublicID, Name: row.Name, Kind: row.Kind, MassUnit: row.MassUnit, Implements: []Implement{}, Objects: []Object{}, Containers: []Container{}, stock: st.Core()}
	for _, i := range st.Implements {
		p.Implements = append(p.Implements, Implement{i.PublicID, i.Name, i.Kind, quantity(i.MassDecimal, i.MassUnit, i.MassG),
			quantity(i.HeightDecimal, i.HeightUnit, i.HeightMm), i.Count, i.Checked})
	}
	for _, o := range st.Objects {
		p.Objects = append(p.Objects, Object{o.PublicID, o.Name, o.UseAs, Quantity{o.MassDecimal, o.MassUnit, o.MassG}, o.Count})
	}
	for _, c := range st.Containers {
		p.Containers = append(p.Containers, Container{c.PublicID, c.Name, Quantity{c.MassDecimal, c.MassUnit, c.MassG}, Quantity{c.MaxDecimal, c.MaxUnit, c.MaxG}})
	}
	return p
}

func quantity(decimal, unit *string, whole *int64) *Quantity {
	if decimal == nil || unit == nil || whole == nil {
		return nil
	}
	return &Quantity{*decimal, *unit, *whole}
}
