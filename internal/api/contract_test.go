package api

import (
	"encoding/json"
	"flag"
	"os"
	"reflect"
	"testing"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/contract"
	"nimbleanvil/internal/formats/peoplefile"
	"nimbleanvil/internal/formats/placefile"
)

var update = flag.Bool("update", false, "rewrite docs/formats/openapi.json, from which the interface's types are made")

const contractFile = "../../docs/formats/openapi.json"

// The schemas of the files that are tables are the code's.
func TestTableSchemasAreCurrent(t *testing.T) {
	for name, file := range map[string]reflect.Type{
		"places": reflect.TypeFor[placefile.File](), "people": reflect.TypeFor[peoplefile.File](),
	} {
		schemas := contract.NewRegistry("#/$defs/", huma.DefaultSchemaNamer)
		top := schemas.Schema(file, false, "")
		b, err := json.MarshalIndent(map[string]any{"$schema": "https://json-schema.org/draft/2020-12/schema", "allOf": []any{top}, "$defs": schemas.Map()}, "", " ")
		require.NoError(t, err)
		b = append(b, '\n')
		path := "../../docs/formats/" + name + ".schema.json"
		if *update {
			require.NoError(t, os.WriteFile(path, b, 0o600))
		}
		want, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.Equal(t, string(want), string(b), "run go test ./internal/api -run 'Contract|Schema' -update")
	}
}

// The contract in docs/formats is the code's.
func TestContractIsCurrent(t *testing.T) {
	b, err := json.MarshalIndent(New(Config{Now: time.Now}).API.OpenAPI(), "", " ")
	require.NoError(t, err)
	b = append(b, '\n')
	if *update {
		require.NoError(t, os.WriteFile(contractFile, b, 0o600))
	}
	want, err := os.ReadFile(contractFile)
	require.NoError(t, err)
	assert.Equal(t, string(want), string(b), "run go test ./internal/api -run Contract -update, then npm run types in ui")
}
