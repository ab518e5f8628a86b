package calc

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"reflect"
	"sort"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/validation"

	"nimbleanvil/internal/problem"
)

func init() {
	// The contract is strict: names in their own letter case, lists never null.
	huma.ValidateStrictCasing = true
	huma.DefaultArrayNullable = false
}

// tree reads exactly one JSON document into maps, lists and float64, and lists
// what a schema cannot see: doubled fields, nulls, numbers beyond any range.
type tree struct {
	dec  *json.Decoder
	bad  []problem.Field
	deep int
}

const maxDepth = 32

func readTree(b []byte) (any, []problem.Field, *problem.Problem) {
	t := &tree{dec: json.NewDecoder(bytes.NewReader(b))}
	t.dec.UseNumber()
	v, err := t.value("body")
	if err == nil {
		if _, end := t.dec.Token(); !errors.Is(end, io.EOF) {
			err = errors.New("there is text after the document")
		}
	}
	if err != nil {
		detail := "the request is not one JSON document: " + strings.TrimPrefix(err.Error(), "json: ")
		if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
			detail = "the request is not one JSON document: it is empty or cut short"
		}
		return nil, nil, problem.New(problem.Malformed, http.StatusBadRequest, detail)
	}
	return v, t.bad, nil
}

func (t *tree) value(path string) (any, error) {
	tok, err := t.dec.Token()
	if err != nil {
		return nil, err
	}
	switch x := tok.(type) {
	case json.Delim:
		if t.deep++; t.deep > maxDepth {
			return nil, errors.New("nested too deep")
		}
		defer func() { t.deep-- }()
		if x == '{' {
			return t.object(path)
		}
		return t.list(path)
	case json.Number:
		f, err := strconv.ParseFloat(x.String(), 64)
		if err != nil || math.IsInf(f, 0) {
			t.bad = append(t.bad, problem.Field{Location: path, Message: "the number is beyond any range", Value: x.String()})
			return 0.0, nil
		}
		return f, nil
	case nil:
		t.bad = append(t.bad, problem.Field{Location: path, Message: "null is no value here: leave the field out"})
	}
	return tok, nil
}

func (t *tree) object(path string) (any, error) {
	m := map[string]any{}
	for t.dec.More() {
		key, err := t.dec.Token()
		if err != nil {
			return nil, err
		}
		name := fmt.Sprint(key)
		at := path + "." + name
		v, err := t.value(at)
		if err != nil {
			return nil, err
		}
		if _, twice := m[name]; twice {
			t.bad = append(t.bad, problem.Field{Location: at, Message: "the field stands twice"})
		}
		m[name] = v
	}
	_, err := t.dec.Token()
	return m, err
}

func (t *tree) list(path string) (any, error) {
	l := []any{}
	for t.dec.More() {
		v, err := t.value(path + "[" + strconv.Itoa(len(l)) + "]")
		if err != nil {
			return nil, err
		}
		l = append(l, v)
	}
	_, err := t.dec.Token()
	return l, err
}

// schemas is the registry of the contract's types.
var schemas = huma.NewMapRegistry("#/$defs/", func(t reflect.Type, hint string) string {
	return huma.DefaultSchemaNamer(t, hint)
})

// against checks a tree against the schema of a type and gives every wrong
// field, a missing one at its own path.
func against(t reflect.Type, v any) (fields []problem.Field, unknownOnly bool) {
	s := schemas.Schema(t, true, "")
	res := &huma.ValidateResult{}
	huma.Validate(schemas, s, huma.NewPathBuffer([]byte("body"), 4), huma.ModeWriteToServer, v, res)
	unknownOnly = true
	for _, err := range res.Errors {
		var d *huma.ErrorDetail
		if !errors.As(err, &d) {
			continue
		}
		f := problem.Field{Location: d.Location, Message: d.Message, Value: d.Value}
		if name, ok := missing(d.Message); ok {
			f.Location, f.Value = d.Location+"."+name, nil
		}
		if d.Message == validation.MsgUnexpectedProperty {
			f.Value = strange(d.Value, d.Location)
		} else {
			unknownOnly = false
		}
		fields = append(fields, f)
	}
	// The validator walks maps: an order of our own keeps the answer the same to
	// the byte.
	sort.SliceStable(fields, func(i, j int) bool {
		if fields[i].Location != fields[j].Location {
			return fields[i].Location < fields[j].Location
		}
		return fields[i].Message < fields[j].Message
	})
	return fields, unknownOnly
}

// strange gives the value of an unknown field; the validator names the whole
// object.
func strange(object any, location string) any {
	m, ok := object.(map[string]any)
	if !ok {
		return object
	}
	return m[location[strings.LastIndex(location, ".")+1:]]
}

func missing(message string) (string, bool) {
	before, after, _ := strings.Cut(validation.MsgExpectedRequiredProperty, "%s")
	if !strings.HasPrefix(message, before) || !strings.HasSuffix(message, after) {
		return "", false
	}
	return strings.TrimSuffix(strings.TrimPrefix(message, before), after), true
}

// fill decodes a checked tree into a request.
func fill(v any, into any) error {
	b, err := json.Marshal(v) // whole numbers in any spelling become plain ones
	if err != nil {
		return err
	}
	return json.Unmarshal(b, into)
}
