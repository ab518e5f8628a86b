// Package dbtest gives tests a private MariaDB: one server for a test program,
// a database of its own for each test.
package dbtest

import (
	"context"
	"os"
	"testing"

	"nimbleanvil/internal/localdb"
)

var server *localdb.Server

// Main runs a test program with a server; call it from TestMain.
func Main(m *testing.M) {
	code := 1
	defer func() { os.Exit(code) }()
	dir, err := os.MkdirTemp("", "na-test")
	if err != nil {
		panic(err)
	}
	defer func() { _ = os.RemoveAll(dir) }()
	if err := os.Chmod(dir, 0o755); err != nil { //nolint:gosec // an unprivileged database must enter it
		panic(err)
	}
	if server, err = localdb.Start(context.Background(), localdb.Options{Dir: dir, Fast: true}); err != nil {
		panic(err)
	}
	defer server.Stop()
	code = m.Run()
}

// DSN gives the address of an empty database.
func DSN(t *testing.T) string {
	t.Helper()
	dsn, err := server.Fresh(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	return dsn
}
