package core_test

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// deps lists what a package builds on, itself included.
func deps(t *testing.T, pattern string) []string {
	t.Helper()
	out, err := exec.Command("go", "list", "-deps", pattern).Output()
	require.NoError(t, err)
	return strings.Fields(string(out))
}

// The house: the core knows no disk, network, database, clock or chance; the API
// knows no GORM; the store knows no API.
func TestHouseRules(t *testing.T) {
	out, err := exec.Command("go", "list", "-f", "{{.ImportPath}} {{join .Imports \" \"}}", "./...").Output()
	require.NoError(t, err)
	for _, line := range strings.Split(strings.TrimSpace(string(out)), "\n") {
		words := strings.Fields(line)
		for _, dep := range words[1:] {
			outside := strings.Contains(strings.Split(dep, "/")[0], ".")
			assert.False(t, outside, "%s imports %s", words[0], dep)
			if strings.HasPrefix(dep, "nimbleanvil/") {
				assert.True(t, strings.HasPrefix(dep, "nimbleanvil/internal/core/"), "%s imports %s", words[0], dep)
			}
			for _, banned := range []string{"os", "net", "net/http", "database/sql", "time", "math/rand", "math/rand/v2", "log/slog"} {
				assert.NotEqual(t, banned, dep, "%s", words[0])
			}
		}
	}
	api, err := exec.Command("go", "list", "-f", "{{join .Imports \" \"}}", "../api").Output()
	require.NoError(t, err)
	assert.NotContains(t, string(api), "gorm")
	assert.NotContains(t, deps(t, "../store"), "nimbleanvil/internal/api")
}
