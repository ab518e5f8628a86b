package api

import (
	"encoding/json"
	"flag"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var update = flag.Bool("update", false, "rewrite docs/formats/openapi.json, from which the interface's types are made")

const contractFile = "../../docs/formats/openapi.json"

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
