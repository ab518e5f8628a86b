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
	require.NoError(t, os.Chmod(dir, 0o755)) // an unprivileged database must enter it
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
	assert.NotContains(t, again.leftBehind(), orphan)
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

// Told to stop while its database is dead, or dies, or starts again, a server stops.
func TestStopsWhileItIsDead(t *testing.T) {
	for _, wait := range []time.Duration{0, 20 * time.Millisecond, 150 * time.Millisecond, 250 * time.Millisecond} {
		dir := folder(t)
		s, err := Start(context.Background(), Options{Dir: dir, Fast: true})
		require.NoError(t, err)
		require.NoError(t, syscall.Kill(pid(t, dir), syscall.SIGKILL))
		time.Sleep(wait) // the moments between the death and the next start are what is tested
		done := make(chan struct{})
		go func() { s.Stop(); close(done) }()
		select {
		case <-done:
		case <-time.After(40 * time.Second):
			t.Fatal("it does not stop")
		}
		assert.Empty(t, s.leftBehind())
	}
}

// The folder heals: a lost or half-written secret is made anew, what a killed program left
// of its socket is swept, and the file with the password is gone once it has been read. A
// data folder that was never finished is installed anew.
func TestFolderHeals(t *testing.T) {
	ctx, dir := context.Background(), folder(t)
	s, err := Start(ctx, Options{Dir: dir, Fast: true})
	require.NoError(t, err)
	_, err = os.Stat(dir + "/init.sql")
	assert.ErrorIs(t, err, os.ErrNotExist)
	s.Stop()
	left, err := os.MkdirTemp("", "na")
	require.NoError(t, err)
	for _, secret := range []string{"", "0123"} {
		require.NoError(t, os.WriteFile(dir+"/secret", []byte(secret), 0o600))
		require.NoError(t, os.WriteFile(dir+"/socket", []byte(left), 0o600))
		s, err = Start(ctx, Options{Dir: dir, Fast: true})
		require.NoError(t, err, "the account has the new password")
		_, err = os.Stat(left)
		assert.ErrorIs(t, err, os.ErrNotExist)
		s.Stop()
	}
	require.NoError(t, os.RemoveAll(dir+"/data/mysql"))
	require.NoError(t, os.RemoveAll(dir+"/data/"+User))
	s, err = Start(ctx, Options{Dir: dir, Fast: true})
	require.NoError(t, err)
	s.Stop()
	require.NoError(t, os.MkdirAll(dir+"/data/"+User, 0o750))
	require.NoError(t, os.RemoveAll(dir+"/data/mysql"))
	_, err = Start(ctx, Options{Dir: dir, Fast: true})
	assert.ErrorContains(t, err, "put it aside", "what may be somebody's is not removed")
}

// A folder whose name the server's scripts would take apart is refused before anything is
// made, and one in which the pid cannot be kept leaves no server running.
func TestFoldersThatCannotServe(t *testing.T) {
	dir := folder(t)
	for _, name := range []string{"two words", "tab\there", "it's", "$HOME", "a*"} {
		_, err := Start(context.Background(), Options{Dir: dir + "/" + name, Fast: true})
		assert.ErrorContains(t, err, "cannot have blanks", name)
		_, err = os.Stat(dir + "/" + name)
		assert.ErrorIs(t, err, os.ErrNotExist)
	}
	require.NoError(t, os.Mkdir(dir+"/pid.new", 0o750)) // in the way of the file
	_, err := Start(context.Background(), Options{Dir: dir, Fast: true})
	require.Error(t, err)
	s := &Server{opt: Options{Dir: dir}}
	assert.Empty(t, s.leftBehind())
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
