package api

import (
	"context"
	"errors"
	"io"
	"net/http"
	"os"
	"reflect"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gofiber/fiber/v3"

	"nimbleanvil/internal/names"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/strictjson"
)

// operation registers an operation whose request is right when its schema says so.
func operation[I, O any](a huma.API, method, path, id, summary string, f func(context.Context, *I) (*O, error)) {
	checked(a, method, path, id, summary, func(ctx context.Context, in *I, wrong *problem.Faults) (*O, error) {
		if wrong.Failed() {
			return nil, wrong.Problem()
		}
		return f(ctx, in)
	})
}

// checked registers an operation that knows of its request what no schema can tell. Its
// handler is called even when the schema tells of wrong fields, which stand in wrong
// then: it adds what it finds, asking only about fields that are good, and before it
// changes anything it returns wrong.Problem() when there is one.
func checked[I, O any](a huma.API, method, path, id, summary string, f func(ctx context.Context, in *I, wrong *problem.Faults) (*O, error)) {
	op := huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary, MaxBodyBytes: maxBody, SkipValidateBody: true,
		Tags: []string{strings.Split(strings.TrimPrefix(path, "/api/"), "/")[0]}}
	huma.Register(a, op, func(ctx context.Context, in *I) (*O, error) {
		wrong := &problem.Faults{}
		if c, ok := ctx.Value(fiberKey{}).(fiber.Ctx); ok {
			if body := reflect.ValueOf(in).Elem().FieldByName("Body"); body.IsValid() {
				var p *problem.Problem
				if wrong, p = readBody(a.OpenAPI(), c, body.Addr()); p != nil {
					return nil, toProblem(ctx, p)
				}
			}
		}
		out, err := f(ctx, in, wrong)
		if wrong.Failed() {
			return nil, toProblem(ctx, wrong.Problem())
		}
		if err == nil {
			err = ctx.Err() // what was computed may have been cut short
		}
		if err != nil {
			return nil, toProblem(ctx, err)
		}
		return out, nil
	})
}

type fiberKey struct{}

// readBody reads, checks and decodes a body, once and here alone: Huma gets an empty
// object in its place. What is wrong with it by its schema is in the answer.
func readBody(contract *huma.OpenAPI, c fiber.Ctx, into reflect.Value) (*problem.Faults, *problem.Problem) {
	b, err := io.ReadAll(bodyOf(c))
	switch {
	case errors.Is(err, os.ErrDeadlineExceeded):
		return nil, problem.New(problem.Malformed, http.StatusRequestTimeout, "the body did not come in time")
	case err != nil:
		return nil, problem.New(problem.Malformed, http.StatusBadRequest, "the body could not be read to its end")
	case len(b) > largest(c):
		return nil, problem.New(problem.TooLarge, http.StatusRequestEntityTooLarge, tooLarge)
	}
	tree, bad, p := strictjson.Read(b)
	if p != nil {
		return nil, p
	}
	schemas := contract.Components.Schemas
	fields, unknownOnly := strictjson.Check(schemas, schemas.Schema(into.Type().Elem(), true, ""), tree)
	wrong := &problem.Faults{Fields: append(bad, fields...), UnknownOnly: unknownOnly && len(bad) == 0}
	if err := strictjson.Decode(b, into.Interface()); err != nil && !wrong.Failed() {
		wrong.Add("body", "it cannot be read: "+err.Error(), nil)
	}
	readNames(into, "body", wrong)
	return wrong, nil
}

// Name is what something is called. It is read by package names, so that a handler gets
// it trimmed and composed.
type Name string

// Schema serves the contract. What is typed may be longer than what it comes to.
func (Name) Schema(huma.Registry) *huma.Schema {
	least, most := 1, names.MaxRaw
	s := &huma.Schema{Type: huma.TypeString, MinLength: &least, MaxLength: &most,
		Description: "1 to 120 letters once composed (NFC) and trimmed; no control, bidirectional or zero-width characters"}
	s.PrecomputeMessages()
	return s
}

var nameType = reflect.TypeFor[Name]()

// readNames reads every Name in a decoded body in its place.
func readNames(v reflect.Value, at string, wrong *problem.Faults) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			readNames(v.Elem(), at, wrong)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			f := v.Type().Field(i)
			inner, name := at, strings.Split(f.Tag.Get("json"), ",")[0]
			if !f.Anonymous {
				inner += "." + name
			}
			if f.IsExported() && name != "-" {
				readNames(v.Field(i), inner, wrong)
			}
		}
	case reflect.Slice:
		for i := range v.Len() {
			readNames(v.Index(i), at+"["+strconv.Itoa(i)+"]", wrong)
		}
	case reflect.String:
		if v.Type() != nameType {
			return
		}
		name, err := names.Read(v.String())
		if err != nil {
			wrong.Add(at, err.Error(), v.String())
		}
		v.SetString(name)
	}
}
