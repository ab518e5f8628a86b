// Package dbtest gives tests a private MariaDB: one server for a test program,
// a database of its own for each test.
package dbtest

import (
	"context"
	"fmt"
	"os"
	"testing"

	"nimbleanvil/internal/localdb"
)

var server *localdb.Server

// Main runs a test program with a server; call it from TestMain.
func Main(m *testing.M) {
	code, err := run(m)
	if err != nil {
		fmt.Fprintln(os.Stderr, "the tests' database does not start:", err)
		code = 1
	}
	os.Exit(code)
}

func run(m *testing.M) (int, error) {
	dir, err := os.MkdirTemp("", "na-test")
	if err != nil {
		return 1, err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	if err := os.Chmod(dir, 0o755); err != nil { //nolint:gosec // an unprivileged database must enter it
		return 1, err
	}
	if server, err = localdb.Start(context.Background(), localdb.Options{Dir: dir, Fast: true}); err != nil {
		return 1, err
	}
	defer server.Stop()
	return m.Run(), nil
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
