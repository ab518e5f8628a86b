package api

import (
	"context"
	"errors"
	"net/http"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/device"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/studio"
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

func registerScale(r *routes) {
	operation(
		r,
		http.MethodGet,
		"/api/scale",
		"read-scale",
		"What the scale shows now; it reads ten times a second",
		func(ctx context.Context, _ studio.Studio, _ *struct{}) (ScaleReading, error) {
			return r.readScale(ctx)
		},
	)
	operation(
		r,
		http.MethodPost,
		"/api/scale/tare",
		"tare-scale",
		"Set what hangs now to nothing",
		func(ctx context.Context, _ studio.Studio, _ *struct{}) (ScaleReading, error) {
			if err := r.scale.Tare(ctx); err != nil {
				return ScaleReading{}, scaleProblem(err)
			}
			return r.readScale(ctx)
		},
	)
	operation(
		r,
		http.MethodPost,
		"/api/scale/take",
		"take-weight",
		"Take the reading as a weight; an unsteady one is refused",
		func(ctx context.Context, _ studio.Studio, _ *struct{}) (Taken, error) {
			now, err := r.scale.Read(ctx)
			switch {
			case err != nil:
				return Taken{}, scaleProblem(err)
			case !now.Stable:
				return Taken{}, problem.New(problem.Conflict, http.StatusConflict,
					"the reading is not steady yet: let it hang still, then take it")
			case now.Grams <= 0:
				return Taken{}, problem.New(problem.Conflict, http.StatusConflict,
					"nothing hangs on the scale, or it was set to nothing with more on it")
			}
			return Taken{
				measure.Write(measure.Typed{Decimal: measure.Whole(int64(now.Grams)), Unit: measure.Gram}),
				now.Grams,
			}, nil
		},
	)
	checked(
		r,
		http.MethodPut,
		"/api/scale/stand-in",
		"set-stand-in",
		"Hang something on the simulated scale",
		func(ctx context.Context, st studio.Studio, in *result[StandIn], wrong *fault.List) (ScaleReading, error) {
			sim, ok := r.scale.(*device.Simulated)
			if !ok {
				return ScaleReading{}, problem.New(problem.NotFound, http.StatusNotFound,
					"this scale is a real one: hang the thing on it")
			}
			hung, err := st.ReadMass(ctx, "hang", in.Body.Hang, wrong)
			if err != nil {
				return ScaleReading{}, err
			}
			if err := wrong.Err(); err != nil {
				return ScaleReading{}, err
			}
			sim.Hang(hung)
			sim.Break(in.Body.Fault)
			return r.readScale(ctx)
		},
	)
}

func (r *routes) readScale(ctx context.Context) (ScaleReading, error) {
	out := ScaleReading{
		Name:      r.scale.Name(),
		CapacityG: r.scale.Capacity(),
		DivisionG: r.scale.Division(),
		State:     "ok",
		Fault:     device.Sound,
		AtMs:      r.now().UnixMilli(),
	}
	if sim, ok := r.scale.(*device.Simulated); ok {
		out.Simulated = true
		out.HungG, out.Fault = sim.State()
	}
	now, err := r.scale.Read(ctx)
	switch {
	case errors.Is(err, device.ErrOverload):
		out.State = "overload"
	case errors.Is(err, device.ErrLost):
		out.State = "lost"
	case err != nil:
		return out, err
	default:
		out.Grams, out.Stable, out.AtMs = now.Grams, now.Stable, now.At.UnixMilli()
	}
	return out, nil
}

// scaleProblem says what is wrong with a scale and who can mend it.
func scaleProblem(err error) error {
	switch {
	case errors.Is(err, device.ErrLost):
		return problem.New(problem.Conflict, http.StatusConflict,
			"the link to the scale is lost: look at its battery and come nearer, or type the mass")
	case errors.Is(err, device.ErrOverload):
		return problem.New(problem.Conflict, http.StatusConflict,
			"the scale is overloaded: take it off and weigh it in parts")
	case errors.Is(err, device.ErrTare):
		return problem.New(problem.Conflict, http.StatusConflict,
			"only a steady load can be set to nothing: let it hang still")
	}
	return err
}
