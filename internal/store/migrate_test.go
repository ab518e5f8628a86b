package store

import (
	"bytes"
	"context"
	"io/fs"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/localdb/dbtest"
)

func opened(t *testing.T) *Store {
	t.Helper()
	st, err := Open(dbtest.DSN(t), time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	return st
}

// A statement of a schema commits by itself: killed after it, the migration is not noted
// as done. At every point, and at goose's own beginning, the next migrate goes on, up and
// down again.
func TestMigrationsCanBeRepeated(t *testing.T) {
	ctx, st := context.Background(), opened(t)
	p, err := st.provider()
	require.NoError(t, err)
	require.NoError(t, st.migrating(ctx, func(*goose.Provider) error { return nil })) // the table of versions is there
	_, err = st.sql.ExecContext(ctx, "DELETE FROM "+versionTable)                     // as it is before its first row
	require.NoError(t, err)
	assert.ErrorContains(t, st.CheckSchema(ctx), "run nimbleanvil migrate")
	require.NoError(t, st.migrating(ctx, func(*goose.Provider) error { return nil }))
	files, err := fs.Glob(migrations, "migrations/*.sql")
	require.NoError(t, err)
	for i, name := range files {
		b, err := fs.ReadFile(migrations, name)
		require.NoError(t, err)
		up, _, _ := strings.Cut(strings.TrimPrefix(string(b), "-- +goose Up\n"), "-- +goose Down")
		_, err = st.sql.ExecContext(ctx, up)
		require.NoError(t, err, name)
		_, err = p.UpTo(ctx, int64(i+1))
		require.NoError(t, err, name)
	}
	require.NoError(t, st.CheckSchema(ctx))
	for i := len(files) - 1; i >= 0; i-- {
		b, err := fs.ReadFile(migrations, files[i])
		require.NoError(t, err)
		_, down, _ := strings.Cut(string(b), "-- +goose Down\n")
		_, err = st.sql.ExecContext(ctx, down)
		require.NoError(t, err, files[i])
		_, err = p.DownTo(ctx, int64(i))
		require.NoError(t, err, files[i])
	}
	require.NoError(t, st.Migrate(ctx))
	require.NoError(t, st.CheckSchema(ctx))
	_, err = st.sql.ExecContext(ctx, "INSERT INTO "+versionTable+" (version_id, is_applied) VALUES (99999, 1)")
	require.NoError(t, err)
	assert.ErrorIs(t, st.Migrate(ctx), ErrSchema, "a newer schema is no success")
}

// One flipped bit anywhere in a backup is found, or changes nothing: no row comes in that
// was not written. What stands after the end is refused too. The database is empty after
// each refusal, and takes the good one, of an older schema too.
func TestFlippedBitsAreFound(t *testing.T) {
	ctx, st := context.Background(), opened(t)
	require.NoError(t, st.Migrate(ctx))
	_, err := st.EnsureStudio(ctx, Studio{PublicID: strings.Repeat("s", 26), Name: "Böller & Söhne", TimeZone: "UTC", MassUnit: "kg"})
	require.NoError(t, err)
	var file bytes.Buffer
	require.NoError(t, st.Backup(ctx, &file))
	read := func(b []byte) (string, error) {
		if _, err := checkBackup(bytes.NewReader(b)); err != nil {
			return "", err
		}
		var lines []string
		err := backupLines(bytes.NewReader(b), func(_ int, line []byte) error {
			lines = append(lines, string(line))
			return nil
		})
		return strings.Join(lines, "\n"), err
	}
	want, err := read(file.Bytes())
	require.NoError(t, err)
	found := 0
	for bit := range 8 * file.Len() {
		b := bytes.Clone(file.Bytes())
		b[bit/8] ^= 1 << (bit % 8)
		got, err := read(b)
		if err != nil {
			assert.ErrorIs(t, err, ErrBackup)
			found++
			continue
		}
		assert.Equal(t, want, got, "bit %d", bit)
	}
	t.Logf("%d of %d flipped bits refused, the rest are of the packing's own head", found, 8*file.Len())
	_, err = read(append(bytes.Clone(file.Bytes()), "more"...))
	require.ErrorIs(t, err, ErrBackup)
	for cut := range file.Len() {
		_, err := read(file.Bytes()[:cut])
		require.ErrorIs(t, err, ErrBackup, "cut to %d bytes", cut)
	}

	other := opened(t)
	require.NoError(t, other.Migrate(ctx))
	broken := bytes.Clone(file.Bytes())
	broken[len(broken)-6] ^= 1
	require.ErrorIs(t, other.Restore(ctx, bytes.NewReader(broken)), ErrBackup)
	old, err := os.ReadFile("testdata/slice.backup")
	require.NoError(t, err)
	require.NoError(t, other.Restore(ctx, bytes.NewReader(old)), "an older one into an empty database of today's schema")
	require.NoError(t, other.CheckSchema(ctx))
	require.NoError(t, other.Restore(ctx, bytes.NewReader(file.Bytes())), "and over it")
}
