package api

import (
	"context"
	"encoding/json"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/calc"
)

// CalcInput is one request of the contract, as bytes.
type CalcInput struct{ RawBody []byte }

type calcOutput struct {
	Status      int
	ContentType string `header:"Content-Type"`
	Body        []byte
}

// registerCalc opens the calc contract: the same bytes as the command line, so
// its problems carry the request id in the header only.
func (s *server) registerCalc(a huma.API) {
	for _, c := range calc.All() {
		op := calcOperation("calc-"+c.Name, "/api/calc/"+c.Name, c.Summary)
		if b, err := c.Schema(); err == nil {
			var both struct{ Request, Answer map[string]any }
			if json.Unmarshal(b, &both) == nil {
				op.Extensions = map[string]any{"x-request-schema": both.Request, "x-answer-schema": both.Answer}
			}
		}
		huma.Register(a, op, func(_ context.Context, in *CalcInput) (*calcOutput, error) { return runCalc(c.Name, in.RawBody), nil })
	}
	huma.Register(a, calcOperation("calc-unknown", "/api/calc/{name}", "Any other name is a problem"),
		func(_ context.Context, in *struct {
			Name string `path:"name"`
			CalcInput
		}) (*calcOutput, error) {
			return runCalc(in.Name, in.RawBody), nil
		})
}

func calcOperation(id, path, summary string) huma.Operation {
	return huma.Operation{OperationID: id, Method: http.MethodPost, Path: path, Summary: summary, Tags: []string{"calc"}, MaxBodyBytes: maxBody,
		SkipValidateBody: true}
}

func runCalc(name string, request []byte) *calcOutput {
	out, p := calc.Run(name, request)
	if p != nil {
		return &calcOutput{Status: p.Status, ContentType: "application/problem+json", Body: p.JSON()}
	}
	return &calcOutput{Status: http.StatusOK, ContentType: "application/json", Body: out}
}
