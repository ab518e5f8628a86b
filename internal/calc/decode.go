package calc

import (
	"encoding/json"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/contract"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/strictjson"
)

// schemas is the registry of the contract's types.
var schemas = contract.NewRegistry("#/$defs/", func(t reflect.Type, hint string) string {
	return huma.DefaultSchemaNamer(t, hint)
})

// against checks a tree against the schema of a type and gives every wrong field.
func against(t reflect.Type, tree any) (fields []problem.Field, unknownOnly bool) {
	return strictjson.Check(schemas, schemas.Schema(t, true, ""), tree)
}

// fill decodes a checked tree into a request.
func fill(v any, into any) error {
	b, err := json.Marshal(v) // whole numbers in any spelling become plain ones
	if err != nil {
		return err
	}
	return json.Unmarshal(b, into)
}
