package api

import (
	"bytes"
	"context"
	"database/sql"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

var keep = flag.String("keep", "", "write a backup of the demo hall under this name into internal/store/testdata")

const kept = "../store/testdata"

// reads are ten looks at the demo hall.
func reads(c client) []string {
	today := ok[studio.Today](c, "GET", "/api/today", nil)
	plan := today.Next.CircuitID
	var out []string
	for _, path := range []string{"/api/studio", "/api/places", "/api/today", "/api/occurrences/" + today.Next.ID, "/api/occurrences/" + today.Next.ID + "/log",
		"/api/occurrences/" + today.Past[0].ID + "/log", "/api/circuits/" + plan, "/api/circuits/" + plan + "/options?slot=s1&lane=middle",
		"/api/circuits/" + plan + "/take-home?place=" + demo.ID("place/quay") + "&lane=middle", "/api/circuits/" + today.Past[0].CircuitID} {
		status, _, body := c.send("GET", path, "")
		out = append(out, fmt.Sprint(path, " ", status, " ", string(body)))
	}
	return out
}

// A backup taken from a running server brings every read back, also into another
// database; a broken one changes nothing.
func TestBackupAndRestoreDrill(t *testing.T) {
	ctx := context.Background()
	open := func() (*store.Store, string) {
		dsn := dbtest.DSN(t)
		st, err := store.Open(dsn, fixed)
		require.NoError(t, err)
		t.Cleanup(func() { _ = st.Close() })
		return st, dsn
	}
	st, dsn := open()
	require.NoError(t, st.Migrate(ctx))
	_, err := demo.Load(ctx, studio.New(st, fixed), now)
	require.NoError(t, err)
	c := client{t, New(Config{Studios: studio.New(st, fixed), Now: fixed}).App}
	before := reads(c)
	var file bytes.Buffer
	require.NoError(t, st.Backup(ctx, &file))
	if *keep != "" {
		require.NoError(t, os.MkdirAll(kept, 0o750))
		require.NoError(t, os.WriteFile(filepath.Join(kept, *keep+".backup"), file.Bytes(), 0o600))
	}

	// Everything is thrown about, then brought back under the running server.
	db, err := sql.Open("mysql", dsn)
	require.NoError(t, err)
	defer func() { _ = db.Close() }()
	for _, q := range []string{"DELETE FROM log_line", "/* a test's */ UPDATE implement SET count = 1", "UPDATE studio SET mass_unit = 'lb'"} {
		_, err := db.Exec(q)
		require.NoError(t, err)
	}
	assert.NotEqual(t, before, reads(c))
	for name, broken := range map[string][]byte{"cut": file.Bytes()[:file.Len()/2], "empty": nil, "other": []byte("PK\x03\x04")} {
		assert.ErrorIs(t, st.Restore(ctx, bytes.NewReader(broken)), store.ErrBackup, name)
	}
	require.NoError(t, st.Restore(ctx, bytes.NewReader(file.Bytes())))
	assert.Equal(t, before, reads(c))

	other, _ := open()
	require.NoError(t, other.Restore(ctx, bytes.NewReader(file.Bytes())))
	require.NoError(t, other.CheckSchema(ctx))
	assert.Equal(t, before, reads(client{t, New(Config{Studios: studio.New(other, fixed), Now: fixed}).App}))
}

// Every kept backup, one for each landing that changed what is stored, migrates
// to the head, and the program opens on it.
func TestKeptBackupsOpenAtTheHead(t *testing.T) {
	ctx := context.Background()
	files, err := filepath.Glob(kept + "/*.backup")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, name := range files {
		st, err := store.Open(dbtest.DSN(t), fixed)
		require.NoError(t, err)
		f, err := os.Open(name)
		require.NoError(t, err)
		require.NoError(t, st.Restore(ctx, f), name)
		require.NoError(t, f.Close())
		require.NoError(t, st.CheckSchema(ctx))
		_, err = st.EnsureStudio(ctx, store.Studio{})
		require.NoError(t, err)
		for _, read := range reads(client{t, New(Config{Studios: studio.New(st, fixed), Now: fixed}).App}) {
			path, rest, _ := strings.Cut(read, " ")
			assert.True(t, strings.HasPrefix(rest, "200 "), "%s: %s: %s", name, path, rest)
		}
		require.NoError(t, st.Close())
	}
}
