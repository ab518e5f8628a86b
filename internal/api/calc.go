package api

import (
	"encoding/json"
	"io"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gofiber/fiber/v3"

	"nimbleanvil/internal/calc"
)

// registerCalc opens the calc contract: the same bytes as the command line, so
// the decoding is the contract's own and its problems carry the request id in the
// header only.
func registerCalc(app *fiber.App, r *routes) {
	app.Post("/api/calc/:name", func(c fiber.Ctx) error {
		var out []byte
		request, err := io.ReadAll(bodyOf(c))
		p := calc.TooLarge(int64(len(request)))
		if err != nil {
			return fiber.ErrBadRequest
		}
		back, err := r.studios.Search(c.Context())
		if err != nil {
			return err
		}
		defer back()
		if p == nil {
			out, p = calc.Run(c.Context(), strings.Clone(c.Params("name")), request)
		}
		if p != nil {
			c.Set("Content-Type", "application/problem+json")
			return c.Status(p.Status).Send(p.JSON())
		}
		c.Set("Content-Type", "application/json")
		return c.Send(out)
	})
	for _, c := range calc.All() {
		b, err := c.Schema()
		var both struct{ Request, Answer map[string]any }
		if err != nil || json.Unmarshal(b, &both) != nil {
			continue
		}
		r.OpenAPI().
			AddOperation(&huma.Operation{OperationID: "calc-" + c.Name, Method: http.MethodPost, Path: "/api/calc/" + c.Name, Summary: c.Summary,
				Tags: []string{"calc"},
				RequestBody: &huma.RequestBody{
					Required: true,
					Content: map[string]*huma.MediaType{
						"application/json": {Schema: &huma.Schema{Type: huma.TypeObject}},
					},
				},
				Responses: map[string]*huma.Response{
					"200": {Description: "the answer; its schema is docs/formats/calc-" + c.Name + ".json",
						Content: map[string]*huma.MediaType{
							"application/json": {Schema: &huma.Schema{Type: huma.TypeObject}},
						}},
				},
				Extensions: map[string]any{"x-request-schema": both.Request, "x-answer-schema": both.Answer}})
	}
}
