package store_test

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/localdb"
	"nimbleanvil/internal/store"
)

// The database is killed twenty times under eight writers: what was
// acknowledged is all there, the rest at most once, every failure is one that
// says "away", and it comes back by itself. The private server is the durable
// one, as in the demo.
func TestTwentyKillsLoseNothing(t *testing.T) {
	dir, err := os.MkdirTemp("", "na-kills")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755)) // an unprivileged database must enter it
	defer func() { _ = os.RemoveAll(dir) }()
	db, err := localdb.Start(ctx, localdb.Options{Dir: dir})
	require.NoError(t, err)
	defer db.Stop()
	st, err := store.Open(db.DSN(localdb.User), time.Now)
	require.NoError(t, err)
	defer func() { _ = st.Close() }()
	require.NoError(t, st.Migrate(ctx))
	sc, err := st.EnsureStudio(ctx, store.Studio{PublicID: id("studio"), Name: "S", TimeZone: "UTC", MassUnit: "kg"})
	require.NoError(t, err)
	circuit(t, st, sc)
	require.NoError(
		t,
		st.CreateRun(ctx, sc, id("class"), store.Run{PublicID: id("run"), CircuitVersion: 1, Plan: []byte("{}")}),
	)

	const writers, kills, enough = 8, 20, 10
	stop := make(chan struct{})
	var wg sync.WaitGroup
	var sum atomic.Int64
	acknowledged := make([]map[string]bool, writers)
	for w := range writers {
		acknowledged[w] = map[string]bool{}
		wg.Go(func() {
			for i := 0; ; i++ {
				select {
				case <-stop:
					return
				default:
				}
				press := id(fmt.Sprintf("w%dn%d", w, i))
				c, cancel := context.WithTimeout(ctx, 5*time.Second)
				err := st.AddRunEvent(
					c,
					sc,
					id("run"),
					store.RunEvent{ClientID: press, Kind: "hold", At: time.Now().UTC()},
				)
				cancel()
				if err == nil {
					acknowledged[w][press] = true
					if sum.Add(1) > store.MaxRunEvents-200 {
						return
					}
					continue
				}
				assert.True(t, store.Away(err), "%T %v", err, err)
			}
		})
	}
	pid := func() int {
		b, err := os.ReadFile(filepath.Join(dir, "pid"))
		require.NoError(t, err)
		n, _ := strconv.Atoi(strings.TrimSpace(string(b)))
		return n
	}
	for range kills {
		// Wait for writes since the last kill, so that each kill meets a working
		// server.
		now := sum.Load()
		require.Eventually(t, func() bool { return sum.Load() >= now+enough }, 60*time.Second, time.Millisecond)
		require.NoError(t, syscall.Kill(pid(), syscall.SIGKILL))
	}
	now := sum.Load()
	require.Eventually(t, func() bool { return sum.Load() >= now+enough }, 60*time.Second, time.Millisecond)
	close(stop)
	wg.Wait()

	_, events, err := st.Run(ctx, sc, id("run"))
	require.NoError(t, err)
	there := map[string]int{}
	for i, e := range events {
		there[e.ClientID]++
		assert.Equal(t, i+1, e.Seq)
	}
	for _, mine := range acknowledged {
		for press := range mine {
			assert.Equal(t, 1, there[press], press)
		}
	}
	for press, n := range there {
		assert.Equal(t, 1, n, press)
	}
}
