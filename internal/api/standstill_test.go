package api

import (
	"database/sql"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

// A database without room, or one that takes no changes, says so and what helps;
// nothing is half written, reading goes on, and once it can write again the same
// request succeeds. The one file of this database may not grow beyond 28 MB: to
// it that is a full disk.
func TestNoRoomAndReadOnly(t *testing.T) {
	dir, err := os.MkdirTemp("", "na-cramped")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755)) // an unprivileged database must enter it
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	open := func(room string) (*localdb.Server, *store.Store) {
		db, err := localdb.Start(t.Context(), localdb.Options{Dir: dir, Fast: true,
			Flags: []string{"--innodb-file-per-table=0", "--innodb-data-file-path=ibdata1:12M:autoextend:max:" + room}})
		require.NoError(t, err)
		st, err := store.Open(db.DSN(localdb.User), fixed)
		require.NoError(t, err)
		return db, st
	}
	db, st := open("28M")
	require.NoError(t, st.Migrate(t.Context()))
	_, err = demo.Load(t.Context(), studio.New(st, fixed), now)
	require.NoError(t, err)
	c := client{t, New(Config{Studios: studio.New(st, fixed), Now: fixed}).App}
	address, err := db.Admin()
	require.NoError(t, err)
	admin, err := sql.Open("mysql", address)
	require.NoError(t, err)
	t.Cleanup(func() { _ = admin.Close() })
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	plan := "/api/circuits/" + next.CircuitID
	edit := func(n int) (int, http.Header, []byte) {
		ops := strings.TrimSuffix(strings.Repeat(fmt.Sprintf(`{"op":"set-lead-in","ms":%d},`, 2+n%2), 20), ",")
		return c.send("POST", plan+"/edits", fmt.Sprintf(`{"clientId":"%s","base":%d,"ops":[%s]}`, id(n), n, ops))
	}
	refused := func(n int, detail string) {
		t.Helper()
		status, head, body := edit(n)
		var p problem.Problem
		require.NoError(t, json.Unmarshal(body, &p))
		assert.Equal(t, http.StatusServiceUnavailable, status)
		assert.NotEmpty(t, head.Get("Retry-After"))
		assert.Contains(t, p.Detail, detail)
		assert.Contains(t, p.Detail, "nothing was changed")
		assert.Equal(t, n, ok[studio.Circuit](c, "GET", plan, nil).Version, "nothing half written, and reading goes on")
	}
	_, err = admin.ExecContext(t.Context(), "SET GLOBAL read_only = 1")
	require.NoError(t, err)
	refused(1, "takes no changes now")
	_, err = admin.ExecContext(t.Context(), "SET GLOBAL read_only = 0")
	require.NoError(t, err)

	n := 1
	for ; ; n++ {
		if status, _, _ := edit(n); status != http.StatusOK {
			break
		}
		require.Less(t, n, 3000, "the limit does not bite")
	}
	t.Logf("full after %d edits", n)
	refused(n, "no room left")

	require.NoError(t, st.Close())
	db.Stop()
	db, st = open("64M") // somebody made room
	t.Cleanup(db.Stop)
	t.Cleanup(func() { _ = st.Close() })
	c = client{t, New(Config{Studios: studio.New(st, fixed), Now: fixed}).App}
	status, _, body := edit(n)
	require.Equal(t, http.StatusOK, status, string(body))
	assert.Equal(t, n+1, ok[studio.Circuit](c, "GET", plan, nil).Version, "once, though it was sent three times")
}
