// Command nimbleanvil serves the program, runs the demo, and opens the
// calculations to the command line.
package main

import (
	"context"
	"errors"
	"fmt"
	"hash/fnv"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"runtime"
	"runtime/debug"
	"strconv"
	"strings"
	"syscall"
	"time"
	_ "time/tzdata" // a class keeps its hour on machines without zone files
	"unsafe"

	"github.com/alecthomas/kong"
	"github.com/gofiber/fiber/v3"

	"nimbleanvil/internal/api"
	"nimbleanvil/internal/calc"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
	"nimbleanvil/ui"
)

type cli struct {
	Verbose bool       `help:"Log every request." short:"v"`
	Demo    demoCmd    `cmd:"" help:"Start a private database, fill it with the demo hall, serve."`
	Serve   serveCmd   `cmd:"" help:"Serve on an existing database."`
	Migrate migrateCmd `cmd:"" help:"Bring a database's schema to this program's."`
	Backup  backupCmd  `cmd:"" help:"Write everything a database holds into a file, while the program runs."`
	Restore restoreCmd `cmd:"" help:"Replace everything in a database by a backup, in one step."`
	Calc    calcCmd    `cmd:"" help:"Answer one calculation: JSON in, JSON out. Needs no database."`
	Version versionCmd `cmd:"" help:"Print the version."`

	Licences licencesCmd `cmd:"" help:"Print the licences of the works of others in this program."`
}

func main() {
	var c cli
	k := kong.Parse(&c, kong.Name("nimbleanvil"),
		kong.Description("Plans circuits from limited kit, runs the class, keeps the record."), kong.UsageOnError())
	level := slog.LevelInfo
	if c.Verbose {
		level = slog.LevelDebug
	}
	slog.SetDefault(slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: level})))
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	k.BindTo(ctx, (*context.Context)(nil))
	var quiet exit
	if err := k.Run(); errors.As(err, &quiet) {
		stop()
		os.Exit(int(quiet)) // stop has run
	} else if err != nil {
		code := failed
		if ctx.Err() != nil {
			code = interrupted
		}
		slog.Error(err.Error() + advice(ctx, err))
		stop()
		os.Exit(int(code))
	}
}

// advice is what helps where the cause lies outside the program. Whatever failed has
// changed nothing, so the same command can be given again.
func advice(ctx context.Context, err error) string {
	switch {
	case ctx.Err() != nil:
		return ": told to stop before it was done; give the same command again"
	case store.NoRoom(err):
		return ": the database has no room left; make room on its disk, then give the same command again"
	case errors.Is(err, syscall.ENOSPC):
		return ": make room there, then give the same command again"
	case store.ReadOnly(err):
		return ": the database takes no changes; let it write again, then give the same command again"
	case store.Away(err):
		return ": the database does not answer; see that it runs at the address given, then give the same command again"
	}
	return ""
}

// exit ends the program with a code and nothing more to say.
type exit int

func (e exit) Error() string { return "exit " + strconv.Itoa(int(e)) }

// The codes of a program that failed, and of one that was told to stop before it was done.
const (
	failed      exit = 1
	interrupted exit = 130
)

// listen is what every server is told.
type listen struct {
	Addr    string    `help:"Address to listen on, loopback only." default:"127.0.0.1:8080"`
	Metrics string    `help:"Also serve counters in the Prometheus format on this loopback address, at /metrics." placeholder:"127.0.0.1:9090"`
	Clock   time.Time `help:"Take this instant (RFC 3339) for now and run on from there."`
}

func (l listen) now() func() time.Time {
	if l.Clock.IsZero() {
		return time.Now
	}
	began := time.Now()
	return func() time.Time { return l.Clock.Add(time.Since(began)) }
}

// open takes the port. There are no accounts yet, so nothing beyond this machine
// is listened to.
func (l listen) open() (net.Listener, error) { return onLoopback("--addr", l.Addr) }

func onLoopback(flag, addr string) (net.Listener, error) {
	host, port, err := net.SplitHostPort(addr)
	if err != nil {
		return nil, fmt.Errorf("%s: write it as 127.0.0.1:8080: %w", flag, err)
	}
	if ip := net.ParseIP(host); host != "localhost" && (ip == nil || !ip.IsLoopback()) {
		return nil, fmt.Errorf(
			"%s: %s is not loopback; while there are no accounts the program serves this machine only",
			flag,
			host,
		)
	}
	ln, err := net.Listen("tcp", addr)
	if err == nil {
		return ln, nil
	}
	if !errors.Is(err, syscall.EADDRINUSE) {
		return nil, err
	}
	n, _ := strconv.Atoi(port)
	for next := n + 1; next <= n+100 && next <= 65535; next++ {
		if ln, err := net.Listen("tcp", net.JoinHostPort(host, strconv.Itoa(next))); err == nil {
			_ = ln.Close()
			return nil, fmt.Errorf("port %d is in use; %d is free: use %s %s", n, next, flag,
				net.JoinHostPort(host, strconv.Itoa(next)))
		}
	}
	return nil, fmt.Errorf("port %d is in use", n)
}

// run serves until the context ends, then lets running requests finish.
func (l listen) run(ctx context.Context, ln net.Listener, all *studio.Studios, now func() time.Time) error {
	srv := api.New(api.Config{Studios: all, Now: now, UI: ui.Files()})
	if l.Metrics != "" {
		counters, err := onLoopback("--metrics", l.Metrics)
		if err != nil {
			return err
		}
		mux := http.NewServeMux()
		mux.Handle("GET /metrics", api.LoopbackOnly(srv.Metrics()))
		side := &http.Server{Handler: mux, ReadHeaderTimeout: 5 * time.Second}
		defer func() { _ = side.Close() }()
		go func() { _ = side.Serve(counters) }()
		fmt.Printf("Counters are at http://%s/metrics\n", counters.Addr())
	}
	fmt.Printf("Nimble Anvil is at http://%s\n", ln.Addr())
	return srv.App.Listener(ln,
		fiber.ListenConfig{GracefulContext: ctx, ShutdownTimeout: 10 * time.Second, DisableStartupMessage: true})
}

type demoCmd struct {
	listen
	Dir string `help:"Folder of the private database (default: .local/demo here, or one in /var/tmp where the database may not enter it)."`
}

// folder gives the folder of the private database.
func (d *demoCmd) folder() (string, error) {
	if d.Dir != "" {
		return d.Dir, nil
	}
	here, err := filepath.Abs(filepath.Join(".local", "demo"))
	if err != nil || localdb.Reachable(here) {
		return here, err
	}
	h := fnv.New32a()
	_, _ = h.Write([]byte(here))
	other := filepath.Join("/var/tmp", fmt.Sprintf("nimbleanvil-demo-%08x", h.Sum32()))
	slog.Info("the database runs as an unprivileged account, which may not enter this folder", "instead", other)
	return other, nil
}

func (d *demoCmd) Run(ctx context.Context) error {
	ln, err := d.open()
	if err != nil {
		return err
	}
	defer func() { _ = ln.Close() }()
	dir, err := d.folder()
	if err != nil {
		return err
	}
	db, err := localdb.Start(ctx, localdb.Options{Dir: dir})
	if err != nil {
		return err
	}
	defer db.Stop()
	now := d.now()
	st, err := store.Open(db.DSN(localdb.User), now)
	if err != nil {
		return err
	}
	defer func() { _ = st.Close() }()
	if err := st.Migrate(ctx); err != nil {
		return err
	}
	all := studio.New(st, now)
	if _, err := demo.Load(ctx, all, now()); err != nil {
		return err
	}
	return d.run(ctx, ln, all, now)
}

type database struct {
	DSN string `help:"Address of the database: user:password@tcp(host:port)/name. Better given as NIMBLEANVIL_DSN than here: other accounts of this machine see arguments." env:"NIMBLEANVIL_DSN" required:""`
}

// AfterApply blanks the address, which has the password in it, where the system shows
// arguments to others.
func (d *database) AfterApply() error {
	dsn := d.DSN
	d.DSN = strings.Clone(dsn)
	if dsn == "" {
		return nil
	}
	for _, arg := range os.Args[1:] {
		if i := strings.Index(arg, d.DSN); i >= 0 {
			clear(
				unsafe.Slice(unsafe.StringData(arg), len(arg))[i : i+len(d.DSN)],
			) // the process's own arguments
		}
	}
	return nil
}

type serveCmd struct {
	listen
	database
}

func (s *serveCmd) Run(ctx context.Context) error {
	ln, err := s.open()
	if err != nil {
		return err
	}
	defer func() { _ = ln.Close() }()
	now := s.now()
	st, err := store.Open(s.DSN, now)
	if err != nil {
		return err
	}
	defer func() { _ = st.Close() }()
	if err := st.CheckSchema(ctx); err != nil {
		return err
	}
	all := studio.New(st, now)
	if _, err := all.First(ctx, demo.ID("first studio"), studio.Settings{Name: "My studio", TimeZone: "UTC", MassUnit: "kg"}); err != nil {
		return err
	}
	return s.run(ctx, ln, all, now)
}

type migrateCmd struct{ database }

func (m *migrateCmd) Run(ctx context.Context) error {
	st, err := store.Open(m.DSN, time.Now)
	if err != nil {
		return err
	}
	defer func() { _ = st.Close() }()
	return st.Migrate(ctx)
}

type backupCmd struct {
	database
	WithoutHealth bool   `help:"Leave out the answers to health questions, clearances and pains."`
	File          string `arg:"" help:"File to write; it must not exist."`
}

// Run writes beside the file first: a backup that fails, or is killed, leaves no half one
// under the name. What a killed one left beside is written over.
func (b *backupCmd) Run(ctx context.Context) error {
	if _, err := os.Stat(b.File); err == nil {
		return fmt.Errorf("%s exists: name another file", b.File)
	}
	st, err := store.Open(b.DSN, time.Now)
	if err != nil {
		return err
	}
	defer func() { _ = st.Close() }()
	f, err := os.OpenFile(b.File+".part", os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	defer func() { _ = os.Remove(f.Name()) }()
	err = errors.Join(st.Backup(ctx, f, !b.WithoutHealth), f.Sync(), f.Close())
	if err != nil {
		return err
	}
	return os.Rename(f.Name(), b.File)
}

type restoreCmd struct {
	database
	File string `arg:"" help:"Backup to read."`
}

func (r *restoreCmd) Run(ctx context.Context) error {
	f, err := os.Open(r.File)
	if err != nil {
		return err
	}
	defer func() { _ = f.Close() }()
	st, err := store.Open(r.DSN, time.Now)
	if err != nil {
		return err
	}
	defer func() { _ = st.Close() }()
	return st.Restore(ctx, f)
}

type calcCmd struct {
	Name   string `arg:"" optional:"" help:"Name of the calculation."`
	List   bool   `help:"Name the calculations."`
	Schema bool   `help:"Print the JSON Schemas of request and answer."`
}

// Run reads one request from standard input. Bad input exits with 2 and one
// problem document on standard error.
func (c *calcCmd) Run(ctx context.Context) error {
	if c.List {
		for _, x := range calc.All() {
			fmt.Println(x.Name)
		}
		return nil
	}
	if c.Schema {
		x, p := calc.Get(c.Name)
		if p != nil {
			_, _ = os.Stderr.Write(p.JSON())
			return exit(2)
		}
		b, err := x.Schema()
		if err != nil {
			return err
		}
		_, err = os.Stdout.Write(b)
		return err
	}
	request, err := allOf(ctx, os.Stdin)
	if err != nil {
		return err
	}
	var out []byte
	p := calc.TooLarge(int64(len(request)))
	if p == nil {
		out, p = calc.Run(ctx, c.Name, request)
	}
	if ctx.Err() != nil {
		return interrupted
	}
	if p != nil {
		_, _ = os.Stderr.Write(p.JSON())
		return exit(2)
	}
	_, err = os.Stdout.Write(out)
	return err
}

// allOf reads everything, a byte more than any request may have at the most, until
// the context ends: a read that waits for a keyboard cannot be stopped otherwise.
func allOf(ctx context.Context, from io.Reader) (b []byte, err error) {
	done := make(chan struct{})
	go func() {
		defer close(done)
		b, err = io.ReadAll(io.LimitReader(from, calc.MaxRequest+1))
	}()
	select {
	case <-done:
		return b, err
	case <-ctx.Done():
		return nil, interrupted
	}
}

type versionCmd struct{}

// Run names what somebody who reports a fault is asked for.
func (versionCmd) Run() error {
	program := "(built without module information)"
	if i, ok := debug.ReadBuildInfo(); ok {
		program = i.Main.Version
	}
	schema, err := store.SchemaVersion()
	fmt.Printf("nimbleanvil %s\nschema %d\nmovement library %s\n%s\n", program, schema, moves.Version,
		runtime.Version())
	return err
}

type licencesCmd struct{}

// Run prints what the pages carry, which goes wherever the program goes.
func (licencesCmd) Run() error {
	text, err := fs.ReadFile(ui.Files(), "licences.txt")
	if err != nil {
		return errors.New(
			"this program was built without its pages, which carry the licence texts: see NOTICE and ui/public/licences.txt where it comes from",
		)
	}
	_, err = os.Stdout.Write(text)
	return err
}
