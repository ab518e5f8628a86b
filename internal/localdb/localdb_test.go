package localdb

import (
	"context"
	"database/sql"
	"os"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func folder(t *testing.T) string {
	t.Helper()
	dir, err := os.MkdirTemp("", "na-localdb")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755)) //nolint:gosec // an unprivileged database must enter it
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	return dir
}

func count(t *testing.T, s *Server) (n int) {
	t.Helper()
	db, err := sql.Open("mysql", s.DSN(User))
	require.NoError(t, err)
	defer func() { _ = db.Close() }()
	require.Eventually(t, func() bool { return db.QueryRow("SELECT COUNT(*) FROM kept").Scan(&n) == nil }, 30*time.Second, 50*time.Millisecond)
	return n
}

// A folder serves one program at a time; a killed server comes back with its
// rows; one left behind by a killed program is stopped by the next start.
func TestServerSurvives(t *testing.T) {
	ctx, dir := context.Background(), folder(t)
	s, err := Start(ctx, Options{Dir: dir})
	require.NoError(t, err)
	db, err := sql.Open("mysql", s.DSN(User))
	require.NoError(t, err)
	_, err = db.Exec("CREATE TABLE kept (n INT)")
	require.NoError(t, err)
	_, err = db.Exec("INSERT INTO kept VALUES (1)")
	require.NoError(t, err)
	require.NoError(t, db.Close())

	_, err = Start(ctx, Options{Dir: dir})
	assert.ErrorContains(t, err, "another program is using")

	first := pid(t, dir)
	require.NoError(t, syscall.Kill(first, syscall.SIGKILL))
	require.Eventually(t, func() bool { return pid(t, dir) != first }, 30*time.Second, 20*time.Millisecond)
	assert.Equal(t, 1, count(t, s))

	// As if the program had been killed: its lock is free, its server still runs.
	orphan := pid(t, dir)
	s.mu.Lock()
	s.stopping = true
	s.mu.Unlock()
	s.release()
	again, err := Start(ctx, Options{Dir: dir})
	require.NoError(t, err)
	defer again.Stop()
	assert.NotEqual(t, orphan, pid(t, dir))
	assert.False(t, s.owns(orphan))
	assert.Equal(t, 1, count(t, again))
}

// Six servers starting at the same time on one machine, as two test runs and two
// demos do, do not disturb each other.
func TestManyStartAtOnce(t *testing.T) {
	var wg sync.WaitGroup
	for range 6 {
		dir := folder(t)
		wg.Go(func() {
			s, err := Start(context.Background(), Options{Dir: dir, Fast: true})
			if assert.NoError(t, err) {
				_, err = s.Fresh(context.Background())
				assert.NoError(t, err)
				s.Stop()
			}
		})
	}
	wg.Wait()
}

func pid(t *testing.T, dir string) int {
	t.Helper()
	b, err := os.ReadFile(dir + "/pid")
	require.NoError(t, err)
	n, err := strconv.Atoi(strings.TrimSpace(string(b)))
	if err != nil {
		return 0 // being written
	}
	return n
}
