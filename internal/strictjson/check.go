package strictjson

import (
	"errors"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/validation"

	"nimbleanvil/internal/problem"
)

func init() {
	// Names stand in their own letter case, and lists are never null.
	huma.ValidateStrictCasing = true
	huma.DefaultArrayNullable = false
}

// Check gives every field of a tree that its schema does not allow; unknownOnly
// tells whether all are fields that nobody knows.
func Check(r huma.Registry, s *huma.Schema, tree any) (fields []problem.Field, unknownOnly bool) {
	res := &huma.ValidateResult{}
	huma.Validate(r, s, huma.NewPathBuffer([]byte("body"), 4), huma.ModeWriteToServer, tree, res)
	return Fields(res.Errors)
}

// Fields turns what Huma's validator found into fields of a problem: a missing field
// at its own place, an unknown one with its own value.
func Fields(errs []error) (fields []problem.Field, unknownOnly bool) {
	defer func() {
		for i := range fields {
			fields[i].Location = shown.Replace(fields[i].Location)
		}
	}()
	unknownOnly = true
	for _, err := range errs {
		var d huma.ErrorDetailer
		if !errors.As(err, &d) {
			unknownOnly = false
			fields = append(fields, problem.Field{Message: err.Error()})
			continue
		}
		e := d.ErrorDetail()
		f := problem.Field{Location: e.Location, Message: e.Message, Value: e.Value}
		name, isMissing := missing(e.Message)
		switch {
		case isMissing:
			f.Location, f.Value = e.Location+"."+name, nil
		case e.Message == validation.MsgUnexpectedProperty:
			f.Value = strange(e.Value, e.Location)
			fields = append(fields, f)
			continue
		case e.Value == null{}: // a value
			f.Message, f.Value = "null is no value here: leave the field out", nil
		}
		unknownOnly = false
		fields = append(fields, f)
	}
	return fields, unknownOnly && len(fields) > 0
}

// strange gives the value of an unknown field; the validator names the whole object. The
// reader has hidden the separators in names.
func strange(object any, location string) any {
	m, ok := object.(map[string]any)
	if !ok {
		return object
	}
	v := m[location[strings.LastIndexByte(location, '.')+1:]]
	if v == (null{}) {
		return nil
	}
	return v
}

func missing(message string) (string, bool) {
	before, after, _ := strings.Cut(validation.MsgExpectedRequiredProperty, "%s")
	if !strings.HasPrefix(message, before) || !strings.HasSuffix(message, after) {
		return "", false
	}
	return strings.TrimSuffix(strings.TrimPrefix(message, before), after), true
}
