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
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gofiber/fiber/v3"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/device"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/strictjson"
	"nimbleanvil/internal/studio"
)

// result wraps an answer or a request of one body.
type result[T any] struct{ Body T }

// routes is what operations are registered on.
type routes struct {
	huma.API
	studios *studio.Studios
	now     func() time.Time
	scale   device.Scale
}

// operation registers an operation whose request is right when its schema says so. It acts
// in the studio of the request's principal.
func operation[I, O any](
	r *routes,
	method, path, id, summary string,
	f func(context.Context, studio.Studio, *I) (O, error),
) {
	checked(
		r,
		method,
		path,
		id,
		summary,
		func(ctx context.Context, st studio.Studio, in *I, wrong *fault.List) (out O, err error) {
			if err := wrong.Err(); err != nil {
				return out, err
			}
			return f(ctx, st, in)
		},
	)
}

// checked registers an operation that knows of its request what no schema can tell. It is
// called even when the schema tells of wrong fields, which stand in wrong then, by their
// paths in the body: it adds what it finds, asking only about fields that are good, and
// before it changes anything it returns wrong.Err() when there is one.
func checked[I, O any](
	r *routes,
	method, path, id, summary string,
	f func(context.Context, studio.Studio, *I, *fault.List) (O, error),
) {
	register(
		r,
		method,
		path,
		id,
		summary,
		func(ctx context.Context, st studio.Studio, in *I, wrong *fault.List) (*result[O], error) {
			out, err := f(ctx, st, in, wrong)
			return &result[O]{out}, err
		},
	)
}

// whole registers an operation that answers headers of its own.
func whole[I, O any](
	r *routes,
	method, path, id, summary string,
	f func(context.Context, studio.Studio, *I) (*O, error),
) {
	register(
		r,
		method,
		path,
		id,
		summary,
		func(ctx context.Context, st studio.Studio, in *I, wrong *fault.List) (*O, error) {
			if err := wrong.Err(); err != nil {
				return nil, err
			}
			return f(ctx, st, in)
		},
	)
}

// taggedAnswer is an answer that was written before and goes out as it is, with its tag.
type taggedAnswer struct {
	Status int
	Type   string `header:"Content-Type"`
	Tag    string `header:"ETag"`
	Body   []byte
}

// asTagged answers a body, or that the one which is there already still holds.
func asTagged(body []byte, tag string) *taggedAnswer {
	if body == nil {
		return &taggedAnswer{Status: http.StatusNotModified, Tag: tag}
	}
	return &taggedAnswer{http.StatusOK, "application/json", tag, body}
}

// tagged registers an operation that answers a value of type T as it was written before.
func tagged[T, I any](
	r *routes,
	method, path, id, summary string,
	f func(context.Context, studio.Studio, *I) (*taggedAnswer, error),
) {
	whole(r, method, path, id, summary, f)
	r.OpenAPI().Paths[path].Get.Responses["200"].Content = map[string]*huma.MediaType{"application/json": jsonOf[T](r)}
}

// jsonOf describes a value of type T as JSON.
func jsonOf[T any](r *routes) *huma.MediaType {
	return &huma.MediaType{Schema: r.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[T](), true, "")}
}

func register[I, O any](
	r *routes,
	method, path, id, summary string,
	f func(context.Context, studio.Studio, *I, *fault.List) (*O, error),
) {
	op := huma.Operation{
		OperationID:      id,
		Method:           method,
		Path:             path,
		Summary:          summary,
		MaxBodyBytes:     maxBody,
		SkipValidateBody: true,
		Tags:             []string{strings.Split(strings.TrimPrefix(path, "/api/"), "/")[0]},
	}
	huma.Register(r.API, op, func(ctx context.Context, in *I) (*O, error) {
		var wrong fault.List
		unknownOnly := false
		if c, ok := ctx.Value(fiberKey{}).(fiber.Ctx); ok {
			if body := reflect.ValueOf(in).Elem().FieldByName("Body"); body.IsValid() {
				var p *problem.Problem
				if wrong, unknownOnly, p = readBody(r.OpenAPI(), c, body.Addr()); p != nil {
					return nil, toProblem(ctx, p)
				}
			}
		}
		told := len(wrong)
		out, err := f(ctx, r.studios.In(ctx), in, &wrong)
		if len(wrong) > 0 {
			return nil, toProblem(ctx, inBody(wrong, unknownOnly && len(wrong) == told))
		}
		if err == nil {
			err = ctx.Err() // what was computed may have been cut short
		}
		var asked fault.List
		if method == http.MethodGet && errors.As(err, &asked) {
			return nil, toProblem(ctx, faultsIn("query", asked, false))
		}
		if err != nil {
			return nil, toProblem(ctx, err)
		}
		return out, nil
	})
}

// sent is where what was sent stands in locations.
const sent = "body"

// inBody is the problem of faults in what was sent.
func inBody(wrong fault.List, unknownOnly bool) *problem.Problem {
	return faultsIn(sent, wrong, unknownOnly)
}

// faultsIn is the problem of faults in a part of a request.
func faultsIn(part string, wrong fault.List, unknownOnly bool) *problem.Problem {
	fields := make([]problem.Field, 0, len(wrong))
	for _, f := range wrong.Under(part) {
		fields = append(fields, problem.Field{Location: f.Path, Message: f.Message, Value: f.Value})
	}
	return problem.Fields(fields, unknownOnly)
}

type fiberKey struct{}

// readBody reads, checks and decodes a body, once and here alone: Huma gets an empty
// object in its place. What is wrong with it by its schema is in the answer, by its paths.
func readBody(
	contract *huma.OpenAPI,
	c fiber.Ctx,
	into reflect.Value,
) (wrong fault.List, unknownOnly bool, p *problem.Problem) {
	b, err := io.ReadAll(bodyOf(c))
	switch {
	case errors.Is(err, os.ErrDeadlineExceeded):
		return nil, false, problem.New(problem.Malformed, http.StatusRequestTimeout, "the body did not come in time")
	case err != nil:
		return nil, false, problem.New(problem.Malformed, http.StatusBadRequest,
			"the body could not be read to its end")
	case len(b) > largest(c):
		return nil, false, problem.New(problem.TooLarge, http.StatusRequestEntityTooLarge, tooLarge)
	}
	tree, bad, p := strictjson.Read(b)
	if p != nil {
		return nil, false, p
	}
	schemas := contract.Components.Schemas
	fields, unknownOnly := strictjson.Check(schemas, schemas.Schema(into.Type().Elem(), true, ""), tree)
	for _, f := range append(bad, fields...) {
		wrong = append(wrong, fault.Fault{
			Path:    strings.TrimPrefix(strings.TrimPrefix(f.Location, sent), "."),
			Message: f.Message,
			Value:   f.Value,
		})
	}
	if err := strictjson.Decode(b, into.Interface()); err != nil && len(wrong) == 0 {
		wrong.Add("", "it cannot be read: %v", err)
	}
	told := len(wrong)
	readNames(into, "", &wrong)
	return wrong, unknownOnly && len(bad) == 0 && len(wrong) == told, nil
}

// nameSchema is names.Name in the contract. What is typed may be longer than what it comes
// to.
type nameSchema string

// Schema serves the contract.
func (nameSchema) Schema(huma.Registry) *huma.Schema {
	least, most := 1, names.MaxRaw
	s := &huma.Schema{Type: huma.TypeString, MinLength: &least, MaxLength: &most,
		Description: "1 to 120 characters once composed (NFC) and trimmed; no control, bidirectional or zero-width characters"}
	s.PrecomputeMessages()
	return s
}

// noteSchema is names.Note in the contract.
type noteSchema string

// Schema serves the contract.
func (noteSchema) Schema(huma.Registry) *huma.Schema {
	most := 4 * names.MaxNote
	s := &huma.Schema{Type: huma.TypeString, MaxLength: &most,
		Description: "up to 280 characters once composed (NFC) and trimmed; no control, bidirectional or zero-width characters"}
	s.PrecomputeMessages()
	return s
}

// idSchema is studio.PublicID in the contract.
type idSchema string

// Schema serves the contract.
func (idSchema) Schema(huma.Registry) *huma.Schema {
	s := &huma.Schema{Type: huma.TypeString, Pattern: "^[0-9a-z]{26}$"}
	s.PrecomputeMessages()
	return s
}

var (
	nameType = reflect.TypeFor[names.Name]()
	noteType = reflect.TypeFor[names.Note]()
)

// readNames reads every Name and Note in a decoded body in its place.
func readNames(v reflect.Value, at string, wrong *fault.List) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			readNames(v.Elem(), at, wrong)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			f := v.Type().Field(i)
			name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
			inner := at
			if !f.Anonymous {
				inner = fault.Join(at, name)
			}
			leftOut := strings.Contains(options, "omitempty") && v.Field(i).IsZero()
			if f.IsExported() && name != "-" && !leftOut {
				readNames(v.Field(i), inner, wrong)
			}
		}
	case reflect.Slice:
		for i := range v.Len() {
			readNames(v.Index(i), at+"["+strconv.Itoa(i)+"]", wrong)
		}
	case reflect.String:
		read := map[reflect.Type]func(string) (string, error){nameType: names.Read, noteType: names.ReadNote}[v.Type()]
		if read == nil {
			return
		}
		text, err := read(v.String())
		if err != nil {
			wrong.Note(at, err.Error(), v.String())
		}
		v.SetString(text)
	}
}
