package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
)

// result wraps an answer or a request of one body.
type result[T any] struct{ Body T }

func answer[T any](v T) *result[T] { return &result[T]{v} }

// Studio is the tenant as the interface sees it.
type Studio struct {
	Name     Name   `json:"name"`
	TimeZone string `json:"timeZone" maxLength:"64" doc:"IANA name, such as Europe/Berlin"`
	MassUnit string `json:"massUnit" enum:"kg,lb" doc:"the unit shown"`
}

// Clock is the server's instant.
type Clock struct {
	NowMs int64 `json:"nowMs" doc:"milliseconds since 1970 UTC"`
}

// Quantity is a mass or length as typed, with its grams or millimetres.
type Quantity struct {
	Decimal string `json:"decimal"`
	Unit    string `json:"unit" enum:"kg,g,lb,oz,lb-oz,cm,mm,m,in,l,ml,gal"`
	Whole   int64  `json:"whole" doc:"grams or millimetres, derived once"`
}

// ReadQuantity is text to be read as a quantity.
type ReadQuantity struct {
	Text string `json:"text" maxLength:"40"`
	Unit string `json:"unit" enum:"kg,lb,cm,in,l" doc:"what a bare number means"`
	Kind string `json:"kind" enum:"mass,length,volume"`
}

// QuantityRead is what was understood.
type QuantityRead struct {
	Quantity
	Assumed bool `json:"assumed" doc:"no unit was typed: the unit given was taken"`
}

func (s *server) registerStudio(a huma.API) {
	operation(a, http.MethodGet, "/api/studio", "get-studio", "The studio", func(ctx context.Context, _ *struct{}) (*result[Studio], error) {
		st, err := s.Store.Studio(ctx, s.Scope)
		return answer(Studio{Name(st.Name), st.TimeZone, st.MassUnit}), err
	})
	checked(a, http.MethodPut, "/api/studio", "put-studio", "Change the studio", func(ctx context.Context, in *result[Studio], wrong *problem.Faults) (*result[Studio], error) {
		if _, err := names.Zone(in.Body.TimeZone); err != nil {
			wrong.Add("body.timeZone", err.Error(), in.Body.TimeZone)
		}
		if wrong.Failed() {
			return nil, wrong.Problem()
		}
		return in, s.Store.PutStudio(ctx, s.Scope, store.Studio{Name: string(in.Body.Name), TimeZone: in.Body.TimeZone, MassUnit: in.Body.MassUnit})
	})
	operation(a, http.MethodGet, "/api/clock", "get-clock", "The server's instant", func(context.Context, *struct{}) (*result[Clock], error) {
		return answer(Clock{s.Now().UnixMilli()}), nil
	})
	checked(a, http.MethodPost, "/api/read-quantity", "read-quantity", "Read a mass, length or volume as people type it",
		func(_ context.Context, in *result[ReadQuantity], wrong *problem.Faults) (*result[QuantityRead], error) {
			r, err := readQuantity(in.Body.Kind, in.Body.Text, in.Body.Unit)
			if err != nil && wrong.Good("body.kind", "body.unit") {
				wrong.Add("body.text", err.Error(), in.Body.Text)
			}
			if wrong.Failed() {
				return nil, wrong.Problem()
			}
			return answer(QuantityRead{Quantity{r.Decimal, string(r.Unit), r.Whole}, r.Assumed}), nil
		})
}

func readQuantity(kind, text, unit string) (measure.Reading, error) {
	if kind == "volume" {
		return measure.ReadVolume(text, measure.Unit(unit), maxVolume)
	}
	if kind == "length" {
		return measure.ReadLength(text, measure.Unit(unit), maxHeight)
	}
	return measure.ReadMass(text, measure.Unit(unit), measure.MaxLoad)
}
