// Package contract is how core values look from outside: the core knows nothing of
// schemas, and what a schema can tell of its fields stands here, once for the API, the
// calculations and the files.
package contract

import (
	"encoding/json"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"
)

// registry is Huma's, with what the contract says of core values.
type registry struct {
	huma.Registry
	prefix string
	told   map[string]bool // schemas that have been told
}

// NewRegistry makes a registry of schemas whose references begin with a prefix. It is not
// for use by several goroutines while types are added.
func NewRegistry(prefix string, namer func(reflect.Type, string) string) huma.Registry {
	return &registry{huma.NewMapRegistry(prefix, namer), prefix, map[string]bool{}}
}

// Schema gives the schema of a type. What it brings in of core values is told at once.
func (r *registry) Schema(t reflect.Type, allowRef bool, hint string) *huma.Schema {
	s := r.Registry.Schema(t, allowRef, hint)
	for more := true; more; {
		more = false
		for name, schema := range r.Map() {
			if r.told[name] {
				continue
			}
			r.told[name], more = true, true
			if of := r.TypeFromRef(r.prefix + name); of != nil {
				r.tell(schema, of)
			}
		}
	}
	return s
}

// tell sets what the contract says of the fields of a type, and of those that it has from
// a core value within it.
func (r *registry) tell(s *huma.Schema, t reflect.Type) {
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		t = t.Elem()
	}
	if t.Kind() != reflect.Struct {
		return
	}
	said := tags[t]
	for i := range t.NumField() {
		f := t.Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if f.Anonymous && name == "" {
			r.tell(s, f.Type)
			continue
		}
		if s.Properties[name] == nil {
			continue
		}
		if tag := said[name]; tag != "" {
			f.Tag += reflect.StructTag(" " + tag)
			s.Properties[name] = huma.SchemaFromField(r.Registry, f, t.Name()+f.Name)
		}
		enumerate(s.Properties[name], f.Type)
		if f.Tag.Get("orNull") == "true" { // Huma has no way to say it of a reference
			s.Properties[name] = &huma.Schema{
				AnyOf:       []*huma.Schema{s.Properties[name], {Type: "null"}},
				Description: f.Tag.Get("doc"),
			}
		}
	}
}

// MarshalJSON writes the schemas by name.
func (r *registry) MarshalJSON() ([]byte, error) { return json.Marshal(r.Map()) }

// MarshalYAML writes the schemas by name.
func (r *registry) MarshalYAML() (any, error) { return r.Map(), nil }

// enumerate names the values of a field whose type has few.
func enumerate(s *huma.Schema, t reflect.Type) {
	if t.Kind() == reflect.Slice && s.Items != nil {
		s, t = s.Items, t.Elem()
	}
	if t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	if len(s.Enum) == 0 {
		s.Enum = values[t]
	}
	s.PrecomputeMessages()
}
