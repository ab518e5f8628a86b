package store

import (
	"bytes"
	"context"
	"fmt"
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
	steps := map[int64][2]string{} // up and down, by version
	for _, name := range files {
		b, err := fs.ReadFile(migrations, name)
		require.NoError(t, err)
		n, err := goose.NumericComponent(name)
		require.NoError(t, err)
		up, down, _ := strings.Cut(strings.TrimPrefix(string(b), "-- +goose Up\n"), "-- +goose Down\n")
		steps[n] = [2]string{up, down}
	}
	last, err := SchemaVersion()
	require.NoError(t, err)
	do := func(n int64, way int) {
		switch {
		case n != peopleMigration:
			_, err = st.sql.ExecContext(ctx, steps[n][way])
		case way == 0:
			err = st.makePeople(ctx, st.sql)
		}
		require.NoError(t, err, "%d", n)
	}
	for n := int64(1); n <= last; n++ {
		do(n, 0)
		_, err = p.UpTo(ctx, n)
		require.NoError(t, err, "%d", n)
	}
	require.NoError(t, st.CheckSchema(ctx))
	for n := last; n > 0; n-- {
		do(n, 1)
		_, err = p.DownTo(ctx, n-1)
		require.NoError(t, err, "%d", n)
	}
	require.NoError(t, st.Migrate(ctx))
	require.NoError(t, st.CheckSchema(ctx))
	_, err = st.sql.ExecContext(ctx, "INSERT INTO "+versionTable+" (version_id, is_applied) VALUES (99999, 1)")
	require.NoError(t, err)
	assert.ErrorIs(t, st.Migrate(ctx), ErrSchema, "a newer schema is no success")
}

// Names in classes become people (house): one name in a series is one person, whatever lane
// it was in and whatever the class was called; two of one name in one class are two, told
// apart by lane; where that does not tell they stay two and are marked. The same name in
// another series, or of another studio, is somebody else. Killed half-way and begun again
// it comes to the same.
func TestNamesBecomePeople(t *testing.T) {
	ctx, st := context.Background(), opened(t)
	p, err := st.provider()
	require.NoError(t, err)
	require.NoError(t, st.migrating(ctx, func(*goose.Provider) error { return nil }))
	_, err = p.UpTo(ctx, peopleMigration-1)
	require.NoError(t, err)
	do := func(q string, args ...any) {
		_, err := st.sql.ExecContext(ctx, "/* the test's own */ "+q, args...)
		require.NoError(t, err, q)
	}
	id := func(s string) string { return (s + strings.Repeat("0", 26))[:26] }
	for _, studio := range []string{"one", "two"} {
		do(
			"INSERT INTO studio (public_id, name, time_zone, mass_unit, created_at) VALUES (?, ?, 'UTC', 'kg', NOW(6))",
			id(studio),
			studio,
		)
		do(
			"INSERT INTO place (studio_id, public_id, name, kind, mass_unit, created_at) SELECT id, ?, 'Hall', 'hall', 'kg', NOW(6) FROM studio WHERE name = ?",
			id("h"+studio),
			studio,
		)
	}
	come := func(studio, series, day string, people ...string) { // name/lane
		do(
			"INSERT IGNORE INTO series (studio_id, name, created_at) SELECT id, ?, NOW(6) FROM studio WHERE name = ?",
			series,
			studio,
		)
		class := id("c" + studio + series + strings.ReplaceAll(day, "-", ""))
		do(
			`INSERT INTO occurrence (studio_id, place_id, series_id, public_id, name, local_date, local_time, time_zone, minutes, created_at)
			SELECT t.id, h.id, s.id, ?, ?, ?, '18:30', 'UTC', 45, NOW(6) FROM studio t JOIN place h ON h.studio_id = t.id JOIN series s ON s.studio_id = t.id AND s.name = ? WHERE t.name = ?`,
			class,
			series,
			day,
			series,
			studio,
		)
		for i, who := range people {
			name, lane, _ := strings.Cut(who, "/")
			do(
				"INSERT INTO participant (studio_id, occurrence_id, public_id, name, lane, created_at) SELECT studio_id, id, ?, ?, ?, NOW(6) FROM occurrence WHERE public_id = ?",
				id(fmt.Sprintf("%s%s%d", studio, day[8:]+series, i)),
				name,
				lane,
				class,
			)
		}
	}
	come("one", "noon", "2026-11-01", "ada/ground", "sam/ground", "sam/middle", "kim/reach", "kim/reach")
	come("one", "noon", "2026-11-08", "ada/middle", "sam/middle", "kim/reach")
	come("one", "noon", "2026-11-15", "ada/middle", "sam/ground", "lee/ground", "lee/middle")
	come("one", "noon", "2026-11-22", "lee/reach", "")
	come("one", "evening", "2026-11-01", "ada/ground")
	come("two", "noon", "2026-11-01", "ada/ground")

	people := func() (out []string) {
		rows, err := st.sql.QueryContext(
			ctx,
			`/* the test's own */ SELECT CONCAT(t.name, ' ', s.name, ' ', q.name, IF(q.same_name, '?', ''), ': ', GROUP_CONCAT(DAY(o.local_date), ' ', p.lane ORDER BY o.local_date, p.id SEPARATOR ', '))
			FROM person q JOIN studio t ON t.id = q.studio_id JOIN participant p ON p.person_id = q.id JOIN occurrence o ON o.id = p.occurrence_id
			JOIN series s ON s.id = o.series_id JOIN series_member m ON m.series_id = s.id AND m.person_id = q.id GROUP BY q.id ORDER BY t.id, s.name DESC, q.name, MIN(o.local_date), MIN(p.id)`,
		)
		require.NoError(t, err)
		defer func() { _ = rows.Close() }()
		for rows.Next() {
			var s string
			require.NoError(t, rows.Scan(&s))
			out = append(out, s)
		}
		require.NoError(t, rows.Err())
		return out
	}
	want := []string{
		"one noon ada: 1 ground, 8 middle, 15 middle",
		"one noon kim?: 1 reach, 8 reach", "one noon kim?: 1 reach",
		"one noon lee?: 15 ground", "one noon lee?: 15 middle", "one noon lee?: 22 reach", // three lanes, two people
		"one noon sam: 1 ground, 15 ground", "one noon sam: 1 middle, 8 middle",
		"one evening ada: 1 ground",
		"two noon ada: 1 ground",
	}
	// Killed within a studio nothing of it is there; after a studio that one is.
	tx, err := st.sql.BeginTx(ctx, nil)
	require.NoError(t, err)
	require.NoError(t, st.makePeopleOf(ctx, tx, 1))
	require.NoError(t, tx.Rollback())
	assert.Empty(t, people())
	tx, err = st.sql.BeginTx(ctx, nil)
	require.NoError(t, err)
	require.NoError(t, st.makePeopleOf(ctx, tx, 1))
	require.NoError(t, tx.Commit())
	assert.Equal(t, want[:9], people())
	for range 2 {
		require.NoError(t, st.makePeople(ctx, st.sql))
		assert.Equal(t, want, people())
	}
	require.NoError(t, st.Migrate(ctx))
	require.NoError(t, st.CheckSchema(ctx))
	assert.Equal(t, want, people(), "names are the people's alone then")
	var nobody int
	require.NoError(
		t,
		st.sql.QueryRowContext(ctx, "/* the test's own */ SELECT COUNT(*) FROM participant WHERE person_id IS NULL").
			Scan(&nobody),
	)
	assert.Equal(t, 1, nobody, "who had no name stays a drop-in")
}

// One flipped bit anywhere in a backup is found, or changes nothing: no row comes in that
// was not written. What stands after the end is refused too. The database is empty after
// each refusal, and takes the good one, of an older schema too.
func TestFlippedBitsAreFound(t *testing.T) {
	ctx, st := context.Background(), opened(t)
	require.NoError(t, st.Migrate(ctx))
	_, err := st.EnsureStudio(
		ctx,
		Studio{PublicID: strings.Repeat("s", 26), Name: "Böller & Söhne", TimeZone: "UTC", MassUnit: "kg"},
	)
	require.NoError(t, err)
	var file bytes.Buffer
	require.NoError(t, st.Backup(ctx, &file, true))
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
	require.NoError(
		t,
		other.Restore(ctx, bytes.NewReader(old)),
		"an older one into an empty database of today's schema",
	)
	require.NoError(t, other.CheckSchema(ctx))
	require.NoError(t, other.Restore(ctx, bytes.NewReader(file.Bytes())), "and over it")
}
