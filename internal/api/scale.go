package api

import (
	"context"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/device"
	"nimbleanvil/internal/problem"
)

// ScaleReading is what a scale shows now. Without a reading State says why.
type ScaleReading struct {
	Name      string       `json:"name"`
	Simulated bool         `json:"simulated" doc:"a stand-in: what hangs on it is said here"`
	CapacityG measure.Mass `json:"capacityG"`
	DivisionG measure.Mass `json:"divisionG"`
	State     string       `json:"state" enum:"ok,overload,lost"`
	Grams     measure.Mass `json:"grams"`
	Stable    bool         `json:"stable" doc:"only a stable reading is a weight"`
	AtMs      int64        `json:"atMs" doc:"instant of the reading"`
	// Of a simulated scale: what hangs on it and what is wrong with it.
	HungG measure.Mass `json:"hungG"`
	Fault device.Fault `json:"fault" enum:"none,drift,swinging,lost"`
}

// StandIn says what hangs on a simulated scale and what is wrong with it.
type StandIn struct {
	Hang  string       `json:"hang" maxLength:"40" doc:"as typed; empty takes everything off"`
	Fault device.Fault `json:"fault" enum:"none,drift,swinging,lost"`
}

// Taken is a weight read off the scale.
type Taken struct {
	Text  string       `json:"text" doc:"as it would be typed"`
	Grams measure.Mass `json:"grams"`
}

func (s *server) registerScale(a huma.API) {
	operation(a, http.MethodGet, "/api/scale", "read-scale", "What the scale shows now; it reads ten times a second", func(ctx context.Context, _ *struct{}) (*result[ScaleReading], error) {
		return s.readScale(ctx)
	})
	operation(a, http.MethodPost, "/api/scale/tare", "tare-scale", "Set what hangs now to nothing", func(ctx context.Context, _ *struct{}) (*result[ScaleReading], error) {
		if err := s.Scale.Tare(ctx); err != nil {
			return nil, scaleProblem(err)
		}
		return s.readScale(ctx)
	})
	operation(a, http.MethodPost, "/api/scale/take", "take-weight", "Take the reading as a weight; an unsteady one is refused", func(ctx context.Context, _ *struct{}) (*result[Taken], error) {
		r, err := s.Scale.Read(ctx)
		switch {
		case err != nil:
			return nil, scaleProblem(err)
		case !r.Stable:
			return nil, problem.New(problem.Conflict, http.StatusConflict, "the reading is not steady yet: let it hang still, then take it")
		case r.Grams <= 0:
			return nil, problem.New(problem.Conflict, http.StatusConflict, "nothing hangs on the scale, or it was set to nothing with more on it")
		}
		return answer(Taken{measure.Write(measure.Typed{Decimal: measure.Whole(int64(r.Grams)), Unit: measure.Gram}), r.Grams}), nil
	})
	checked(a, http.MethodPut, "/api/scale/stand-in", "set-stand-in", "Hang something on the simulated scale", func(ctx context.Context, in *result[StandIn], wrong *problem.Faults) (*result[ScaleReading], error) {
		sim, ok := s.Scale.(*device.Simulated)
		if !ok {
			return nil, problem.New(problem.NotFound, http.StatusNotFound, "this scale is a real one: hang the thing on it")
		}
		hung := measure.Mass(0)
		if !blankText(in.Body.Hang) {
			st, err := s.Store.Studio(ctx, s.Scope)
			if err != nil {
				return nil, err
			}
			hung = measure.Mass(wholeOf(typed(st.MassUnit, wrong).mass("hang", in.Body.Hang)))
		}
		if wrong.Failed() {
			return nil, wrong.Problem()
		}
		sim.Hang(hung)
		sim.Break(in.Body.Fault)
		return s.readScale(ctx)
	})
}

func (s *server) readScale(ctx context.Context) (*result[ScaleReading], error) {
	out := ScaleReading{Name: s.Scale.Name(), CapacityG: s.Scale.Capacity(), DivisionG: s.Scale.Division(), State: "ok", Fault: device.Sound, AtMs: s.Now().UnixMilli()}
	if sim, ok := s.Scale.(*device.Simulated); ok {
		out.Simulated = true
		out.HungG, out.Fault = sim.State()
	}
	r, err := s.Scale.Read(ctx)
	switch {
	case errors.Is(err, device.ErrOverload):
		out.State = "overload"
	case errors.Is(err, device.ErrLost):
		out.State = "lost"
	case err != nil:
		return nil, err
	default:
		out.Grams, out.Stable, out.AtMs = r.Grams, r.Stable, r.At.UnixMilli()
	}
	return answer(out), nil
}

// scaleProblem says what is wrong with a scale and who can mend it.
func scaleProblem(err error) error {
	switch {
	case errors.Is(err, device.ErrLost):
		return problem.New(problem.Conflict, http.StatusConflict, "the link to the scale is lost: look at its battery and come nearer, or type the mass")
	case errors.Is(err, device.ErrOverload):
		return problem.New(problem.Conflict, http.StatusConflict, "the scale is overloaded: take it off and weigh it in parts")
	case errors.Is(err, device.ErrTare):
		return problem.New(problem.Conflict, http.StatusConflict, "only a steady load can be set to nothing: let it hang still")
	}
	return err
}
