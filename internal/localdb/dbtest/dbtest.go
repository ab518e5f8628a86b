// Package dbtest gives tests a private MariaDB: one server for a test program,
// a database of its own for each test.
package dbtest

import (
	"context"
	"flag"
	"fmt"
	"os"
	"testing"

	"nimbleanvil/internal/localdb"
)

var server *localdb.Server

// Watch looks at a test program's database from before the first test until all
// have passed; what it finds then fails the program.
type Watch struct {
	Before func(context.Context, *localdb.Server) error
	After  func(context.Context, *localdb.Server) (found []string, err error)
}

// Main runs a test program with a server; call it from TestMain. A run of some
// tests only is not watched.
func Main(m *testing.M, watches ...Watch) {
	code, err := run(m, watches)
	if err != nil {
		fmt.Fprintln(os.Stderr, "the tests' database does not start:", err)
		code = 1
	}
	os.Exit(code)
}

func run(m *testing.M, watches []Watch) (int, error) {
	dir, err := os.MkdirTemp("", "na-test")
	if err != nil {
		return 1, err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	if err := os.Chmod(dir, 0o755); err != nil { // an unprivileged database must enter it
		return 1, err
	}
	if server, err = localdb.Start(context.Background(), localdb.Options{Dir: dir, Fast: true}); err != nil {
		return 1, err
	}
	defer server.Stop()
	flag.Parse()
	if f := flag.Lookup("test.run"); f.Value.String() != "" {
		return m.Run(), nil
	}
	ctx := context.Background()
	for _, w := range watches {
		if err := w.Before(ctx, server); err != nil {
			return 1, err
		}
	}
	code := m.Run()
	for _, w := range watches {
		if code != 0 {
			break
		}
		found, err := w.After(ctx, server)
		if err != nil {
			return 1, err
		}
		for _, f := range found {
			fmt.Fprintln(os.Stderr, f)
			code = 1
		}
	}
	return code, nil
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
