// Package calc is the contract by which the core is open to anybody: one JSON
// document in, one out, the same through Go, the command line and the API. A
// request is decoded strictly, checked, computed; the answer is the same to the
// byte for the same request.
package calc

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"reflect"
	"sort"
	"strings"

	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/strictjson"
)

// Calculation is one entry of the contract.
type Calculation struct {
	Name, Summary string
	// Example is a request that works.
	Example string
	answer  reflect.Type
	// shapes of the request by the value of its field kind; with "" alone the
	// request has one shape.
	shapes map[string]shape
}

type shape struct {
	request reflect.Type
	run     func(tree any, c *check) (any, error)
}

// check is what a calculation gets besides its request: a context that stops it, and
// where it says what is wrong.
type check struct {
	ctx context.Context
	problem.Faults
}

func (c *check) add(location, message string, value any) { c.Add("body."+location, message, value) }

// good tells whether a rule may be asked about some fields.
func (c *check) good(locations ...string) bool {
	for _, l := range locations {
		if !c.Good("body." + l) {
			return false
		}
	}
	return true
}

func shapeOf[Req any](f func(Req, *check) any) shape {
	return shape{reflect.TypeFor[Req](), func(tree any, c *check) (any, error) {
		var r Req
		if err := fill(tree, &r); err != nil && !c.Failed() {
			return nil, err
		}
		return f(r, c), nil
	}}
}

func define[Ans any](name, summary, example string, shapes map[string]shape) Calculation {
	return Calculation{name, summary, example, reflect.TypeFor[Ans](), shapes}
}

func one(s shape) map[string]shape { return map[string]shape{"": s} }

// MaxRequest bounds a request in bytes.
const MaxRequest = 1 << 20

// TooLarge is the problem of a request that is larger than its calculation takes.
func TooLarge(bytes int64) *problem.Problem {
	if bytes <= MaxRequest {
		return nil
	}
	return problem.New(problem.TooLarge, http.StatusRequestEntityTooLarge,
		fmt.Sprintf("a request has at most %d bytes", MaxRequest))
}

// All lists the contract by name.
func All() []Calculation {
	all := []Calculation{
		resistance,
		strengthCalc,
		carry,
		verdict,
		role,
		session,
		timeCalc,
		window,
		sides,
		fit,
		gate,
		pickupList,
		load,
		loadRule,
		bridge,
		tipping,
		anchor,
		options,
	}
	sort.Slice(all, func(i, j int) bool { return all[i].Name < all[j].Name })
	return all
}

// Get finds a calculation; an unknown name is a problem.
func Get(name string) (Calculation, *problem.Problem) {
	var names []string
	for _, c := range All() {
		if c.Name == name {
			return c, nil
		}
		names = append(names, c.Name)
	}
	return Calculation{}, problem.Fields(
		[]problem.Field{
			{
				Location: "name",
				Message:  "there is no such calculation: use one of " + strings.Join(names, ", "),
				Value:    name,
			},
		},
		false,
	)
}

// Run answers a request: one document and a line end, or a problem. A context that
// ends stops the computation, and the problem says so.
func Run(ctx context.Context, name string, request []byte) ([]byte, *problem.Problem) {
	c, p := Get(name)
	if p != nil {
		return nil, p
	}
	tree, bad, p := strictjson.Read(request)
	if p != nil {
		return nil, p
	}
	s, p := c.shape(tree, bad)
	if p != nil {
		return nil, p
	}
	fields, unknownOnly := against(s.request, tree)
	checks := &check{ctx, problem.Faults{Fields: append(bad, fields...), UnknownOnly: unknownOnly && len(bad) == 0}}
	answer, err := s.run(tree, checks)
	if checks.Failed() {
		return nil, problem.Fields(checks.Fields, checks.UnknownOnly)
	}
	if ctx.Err() != nil {
		return nil, problem.New(problem.Unavailable, http.StatusServiceUnavailable,
			name+" was told to stop before it had an answer")
	}
	if err == nil {
		var out []byte
		if out, err = json.Marshal(answer); err == nil {
			return append(out, '\n'), nil
		}
	}
	return nil, problem.New(problem.Internal, http.StatusInternalServerError,
		fmt.Sprintf("%s could not be computed", name))
}

func (c Calculation) shape(tree any, bad []problem.Field) (shape, *problem.Problem) {
	if s, ok := c.shapes[""]; ok {
		return s, nil
	}
	kinds := make([]string, 0, len(c.shapes))
	for k := range c.shapes {
		kinds = append(kinds, k)
	}
	sort.Strings(kinds)
	f := problem.Field{Location: "body", Message: "expected object", Value: tree}
	if m, ok := tree.(map[string]any); ok {
		kind, _ := m["kind"].(string)
		if s, ok := c.shapes[kind]; ok {
			return s, nil
		}
		f = problem.Field{
			Location: "body.kind",
			Message:  "expected one of " + strings.Join(kinds, ", "),
			Value:    m["kind"],
		}
	}
	return shape{}, problem.Fields(append(bad, f), false)
}

// Schema gives {"request":...,"answer":...} as JSON Schemas (2020-12).
func (c Calculation) Schema() ([]byte, error) {
	var request any
	if s, ok := c.shapes[""]; ok {
		request = inline(s.request)
	} else {
		var all []any
		for _, kind := range sortedKinds(c.shapes) {
			all = append(all, inline(c.shapes[kind].request))
		}
		request = map[string]any{"$schema": draft, "oneOf": all}
	}
	b, err := json.MarshalIndent(map[string]any{"request": request, "answer": inline(c.answer)}, "", "  ")
	return append(b, '\n'), err
}

const draft = "https://json-schema.org/draft/2020-12/schema"

func sortedKinds(m map[string]shape) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	sort.Strings(out)
	return out
}

// inline gives the schema of a type as plain JSON with its definitions beside
// it.
func inline(t reflect.Type) any {
	top := plain(schemas.Schema(t, false, ""))
	defs := map[string]any{}
	collect(top, defs)
	m, ok := top.(map[string]any)
	if !ok {
		return top
	}
	m["$schema"] = draft
	if len(defs) > 0 {
		m["$defs"] = defs
	}
	return m
}

func plain(v any) any {
	b, err := json.Marshal(v)
	if err != nil {
		return nil
	}
	var out any
	if json.Unmarshal(b, &out) != nil {
		return nil
	}
	return out
}

// collect gathers every definition that a schema refers to.
func collect(v any, defs map[string]any) {
	switch x := v.(type) {
	case map[string]any:
		if ref, ok := x["$ref"].(string); ok {
			name := strings.TrimPrefix(ref, "#/$defs/")
			if _, seen := defs[name]; !seen {
				defs[name] = plain(schemas.SchemaFromRef(ref))
				collect(defs[name], defs)
			}
		}
		for _, y := range x {
			collect(y, defs)
		}
	case []any:
		for _, y := range x {
			collect(y, defs)
		}
	}
}
