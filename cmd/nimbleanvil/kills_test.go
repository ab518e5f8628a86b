package main

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb"
	"nimbleanvil/internal/store"
)

var (
	killPoints = flag.Int("kills", 5, "points at which each step is killed")
	killSeed   = flag.Uint64("killseed", 10, "seed of the points")
)

// ground is a durable private database and the program beside it.
type ground struct {
	t   *testing.T
	bin string
	db  *localdb.Server
	dir string
	dsn string
	r   *rand.Rand
}

func newGround(t *testing.T, bin string) *ground {
	t.Helper()
	dir, err := os.MkdirTemp("", "na-kill")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755)) // an unprivileged database must enter it
	db, err := localdb.Start(context.Background(), localdb.Options{Dir: dir})
	require.NoError(t, err)
	t.Cleanup(func() { db.Stop(); _ = os.RemoveAll(dir) })
	return &ground{t: t, bin: bin, db: db, dir: dir, r: rand.New(rand.NewPCG(*killSeed, 1))}
}

func (g *ground) fresh() {
	g.t.Helper()
	var err error
	require.Eventually(g.t, func() bool { g.dsn, err = g.db.Fresh(context.Background()); return err == nil }, time.Minute, 50*time.Millisecond)
}

func (g *ground) command(args ...string) *exec.Cmd {
	cmd := exec.Command(g.bin, args...)
	cmd.Env = append(os.Environ(), "NIMBLEANVIL_DSN="+g.dsn)
	return cmd
}

// must runs the program to its end: what it is told to do works.
func (g *ground) must(args ...string) {
	g.t.Helper()
	out, err := g.command(args...).CombinedOutput()
	require.NoError(g.t, err, "%v: %s", args, out)
}

func killDatabase(dir string) {
	if b, err := os.ReadFile(filepath.Join(dir, "pid")); err == nil {
		if pid, err := strconv.Atoi(strings.TrimSpace(string(b))); err == nil {
			_ = syscall.Kill(pid, syscall.SIGKILL)
		}
	}
}

// victims are what is killed, in turn.
var victims = []string{"program", "database", "both"}

// kill kills a victim some time after now.
func (g *ground) kill(victim string, cmd *exec.Cmd, after time.Duration) {
	time.Sleep(after) // the point in the step at which it is killed is what is tested
	if victim != "database" {
		_ = cmd.Process.Kill()
	}
	if victim != "program" {
		killDatabase(g.dir)
	}
}

// step runs the program, kills it or its database within the time that it usually takes,
// and then waits until the database is back.
func (g *ground) step(n int, usual time.Duration, args ...string) (whole bool) {
	g.t.Helper()
	cmd := g.command(args...)
	var said bytes.Buffer
	cmd.Stdout, cmd.Stderr = &said, &said
	require.NoError(g.t, cmd.Start())
	g.kill(victims[n%3], cmd, time.Duration(g.r.Float64()*float64(usual)))
	err := cmd.Wait()
	var exit *exec.ExitError
	if errors.As(err, &exit) && exit.Exited() {
		assert.NotEmpty(g.t, said.String(), "it says why it failed")
	}
	g.back()
	return err == nil
}

func (g *ground) back() {
	g.t.Helper()
	st := g.store()
	defer func() { _ = st.Close() }()
	require.Eventually(g.t, func() bool { return st.Ready(context.Background()) == nil }, time.Minute, 20*time.Millisecond)
}

func (g *ground) store() *store.Store {
	g.t.Helper()
	var st *store.Store
	require.Eventually(g.t, func() (there bool) {
		var err error
		st, err = store.Open(g.dsn, time.Now)
		return err == nil
	}, time.Minute, 20*time.Millisecond)
	return st
}

func (g *ground) usual(args ...string) time.Duration {
	g.t.Helper()
	began := time.Now()
	g.must(args...)
	return time.Since(began)
}

// holds is the hash of everything in the database but the stamps of place and series,
// which a migration draws by lot.
func (g *ground) holds() string {
	g.t.Helper()
	st := g.store()
	defer func() { _ = st.Close() }()
	var b bytes.Buffer
	require.NoError(g.t, st.Backup(context.Background(), &b, true))
	zip, err := gzip.NewReader(&b)
	require.NoError(g.t, err)
	sum, rows := sha256.New(), 0
	for lines := json.NewDecoder(zip); lines.More(); {
		var line struct {
			Table   string
			Columns []string
			Row     []*string
		}
		require.NoError(g.t, lines.Decode(&line))
		if at := slices.Index(line.Columns, "stamp"); at >= 0 {
			line.Row[at] = nil
		}
		if line.Table != "" {
			rows++
			require.NoError(g.t, json.NewEncoder(sum).Encode(line))
		}
	}
	return fmt.Sprintf("%d rows, %x", rows, sum.Sum(nil)[:8])
}

// serve starts the server and gives its address.
func (g *ground) serve() (*exec.Cmd, string) {
	g.t.Helper()
	cmd := g.command("serve", "--addr", "127.0.0.1:0")
	return cmd, listening(g.t, cmd)
}

// listening starts a server and waits until it says where it is.
func listening(t *testing.T, cmd *exec.Cmd) string {
	t.Helper()
	pipe, err := cmd.StdoutPipe()
	require.NoError(t, err)
	var said bytes.Buffer
	cmd.Stderr = &said
	require.NoError(t, cmd.Start())
	lines := bufio.NewScanner(pipe)
	for lines.Scan() {
		if _, url, ok := strings.Cut(lines.Text(), "is at "); ok {
			go func() { _, _ = io.Copy(io.Discard, pipe) }()
			return url
		}
	}
	_ = cmd.Wait()
	require.Fail(t, "it does not start", said.String())
	return ""
}

var impatient = &http.Client{Timeout: 10 * time.Second}

// ask sends a request; status 0 is no answer.
func ask(method, url, body string) (status int, answer []byte) {
	r, err := http.NewRequestWithContext(context.Background(), method, url, strings.NewReader(body))
	if err != nil {
		return 0, nil
	}
	if body != "" {
		r.Header.Set("Content-Type", "application/json")
	}
	resp, err := impatient.Do(r)
	if err != nil {
		return 0, nil
	}
	defer func() { _ = resp.Body.Close() }()
	b, err := io.ReadAll(resp.Body)
	if err != nil {
		return 0, nil
	}
	return resp.StatusCode, b
}

func name(n int) string { return fmt.Sprintf("kill%022d", n) }

// Each step of the program is killed at seeded points: the program, its database, both.
// Afterwards the next start works by itself, what was acknowledged is there once, and
// nothing is half.
func TestKilledAtEveryStep(t *testing.T) {
	bin := program(t)
	g := newGround(t, bin)
	hall, err := filepath.Abs("../../internal/store/testdata/limits.backup")
	require.NoError(t, err)
	kills := 0
	each := func(what string, f func(t *testing.T, n int)) {
		t.Run(what, func(t *testing.T) {
			g.t = t
			for n := range *killPoints {
				f(t, n)
				kills++
			}
		})
	}

	g.fresh()
	usual := g.usual("migrate")
	each("migrate", func(t *testing.T, n int) {
		g.fresh()
		g.step(n, usual, "migrate")
		g.must("migrate")
		st := g.store()
		require.NoError(t, st.CheckSchema(context.Background()))
		require.NoError(t, st.Close())
	})

	g.fresh()
	g.must("restore", hall)
	whole := g.holds()
	g.fresh()
	usual = g.usual("restore", hall)
	each("restore", func(t *testing.T, n int) {
		g.fresh()
		g.must("migrate")
		st := g.store()
		_, err := st.EnsureStudio(context.Background(), store.Studio{PublicID: name(1), Name: "Before", TimeZone: "UTC", MassUnit: "kg"})
		require.NoError(t, err)
		require.NoError(t, st.Close())
		newest := filepath.Join(t.TempDir(), "newest")
		g.must("backup", newest)
		before := g.holds()
		// A backup of today's schema over what is there: all of it or nothing.
		g.must("restore", newest)
		assert.Equal(t, before, g.holds())
		if g.step(n, usual, "restore", newest) {
			assert.Equal(t, before, g.holds())
		}
		assert.Equal(t, before, g.holds())
		// One of an older schema into an empty database: whatever was begun, the next one ends it.
		g.fresh()
		g.step(n, usual, "restore", hall)
		if out, err := g.command("restore", hall).CombinedOutput(); err != nil { // the killed one had ended
			require.Contains(t, string(out), "restore it into an empty database")
		}
		assert.Equal(t, whole, g.holds())
	})

	g.fresh()
	g.must("restore", hall)
	file := filepath.Join(t.TempDir(), "usual")
	usual = g.usual("backup", file)
	each("backup", func(t *testing.T, n int) {
		file := filepath.Join(t.TempDir(), "backup")
		done := g.step(n, usual, "backup", file)
		_, err := os.Stat(file)
		assert.False(t, done && err != nil, "it said that it was done")
		if err == nil { // then it is whole
			require.NoError(t, os.Rename(file, file+".first"))
		}
		g.must("backup", file)
		left, err := filepath.Glob(file + "*.part")
		require.NoError(t, err)
		assert.Empty(t, left)
		now := g.dsn
		for _, f := range []string{file, file + ".first"} {
			if _, err := os.Stat(f); err == nil {
				g.fresh()
				g.must("restore", f)
				assert.Equal(t, whole, g.holds())
			}
		}
		g.dsn = now
	})

	g.served(t, each)
	each("first start", func(t *testing.T, n int) { firstStart(t, g, n) })
	t.Logf("%d kills", kills)
}

// served kills what a running server does.
func (g *ground) served(t *testing.T, each func(string, func(*testing.T, int))) {
	hall, err := filepath.Abs("../../internal/store/testdata/limits.backup")
	require.NoError(t, err)
	g.fresh()
	g.must("restore", hall)
	cmd, url := g.serve()
	status, export := ask("GET", url+"/api/studio/export", "")
	require.Equal(t, 200, status)
	_ = cmd.Process.Kill()
	_ = cmd.Wait()

	each("import", func(t *testing.T, n int) {
		g.fresh()
		g.must("migrate")
		cmd, url := g.serve()
		got := make(chan int, 1)
		go func() { s, _ := ask("POST", url+"/api/studio/import", string(export)); got <- s }()
		g.kill(victims[n%3], cmd, time.Duration(g.r.IntN(900))*time.Millisecond)
		status := <-got
		_ = cmd.Process.Kill()
		_ = cmd.Wait()
		g.back()
		cmd, url = g.serve()
		_, places := ask("GET", url+"/api/places", "")
		var list []json.RawMessage
		require.NoError(t, json.Unmarshal(places, &list))
		if status == 200 {
			assert.NotEmpty(t, list, "it was acknowledged")
		}
		half := len(list) > 0
		status, body := ask("POST", url+"/api/studio/import", string(export))
		require.Equal(t, 200, status, string(body))
		var brought map[string]int
		require.NoError(t, json.Unmarshal(body, &brought))
		if half {
			kept := brought["kept"]
			delete(brought, "kept")
			for what, n := range brought {
				assert.Zero(t, n, "%s: what was there was not whole", what)
			}
			assert.Positive(t, kept)
		}
		_ = cmd.Process.Kill()
		_ = cmd.Wait()
	})

	g.fresh()
	g.must("restore", hall)
	cmd, url = g.serve()
	_, b := ask("GET", url+"/api/today", "")
	var today struct {
		Next struct{ ID, CircuitID string }
		Past []struct{ ID, CircuitID string }
	}
	require.NoError(t, json.Unmarshal(b, &today))
	class := today.Next
	if class.CircuitID == "" {
		class = today.Past[0]
	}
	status, b = ask("PUT", url+"/api/runs/"+name(1), `{"occurrenceId":"`+class.ID+`"}`)
	require.Equal(t, 200, status, string(b))
	_, b = ask("GET", url+"/api/circuits/"+class.CircuitID, "")
	var circuit struct{ Version int }
	require.NoError(t, json.Unmarshal(b, &circuit))
	_ = cmd.Process.Kill()
	_ = cmd.Wait()
	serial := 100
	for _, what := range []string{"press", "log", "edit"} {
		each(what, func(t *testing.T, n int) {
			cmd, url := g.serve()
			killed := make(chan struct{})
			go func() {
				g.kill(victims[n%3], cmd, time.Duration(50+g.r.IntN(500))*time.Millisecond)
				close(killed)
			}()
			var answered, unsure []string
			line, version := -1, circuit.Version
			send := func(id string, i int) int {
				status := 0
				switch what {
				case "press":
					status, _ = ask("POST", url+"/api/runs/"+name(1)+"/events", `{"clientId":"`+id+`","kind":"hold"}`)
				case "log":
					status, _ = ask("PUT", url+"/api/occurrences/"+class.ID+"/log/middle/s1", fmt.Sprintf(`{"done":%d,"inForm":%d,"pain":"none","device":"%s","n":%d}`, i%100, i%100, name(2), i))
				case "edit":
					status, _ = ask("POST", url+"/api/circuits/"+class.CircuitID+"/edits", fmt.Sprintf(`{"clientId":"%s","base":%d,"ops":[{"op":"set-lead-in","ms":%d}]}`, id, version, 1+i%9))
				}
				return status
			}
			for over := false; !over; {
				serial++
				id := name(serial)
				if status := send(id, serial); status == 200 {
					answered, line, version = append(answered, id), serial%100, version+1
				} else {
					unsure = append(unsure, id)
				}
				select {
				case <-killed:
					over = true
				default:
				}
			}
			_ = cmd.Process.Kill()
			_ = cmd.Wait()
			g.back()
			cmd, url = g.serve()
			_, export := ask("GET", url+"/api/studio/export", "")
			switch what {
			case "press": // what was not answered is sent again, and counts once with what was
				for _, id := range unsure {
					require.Equal(t, 200, send(id, 0))
				}
				_, export = ask("GET", url+"/api/studio/export", "")
				for _, id := range append(answered, unsure...) {
					assert.Equal(t, 1, strings.Count(string(export), `{"id":"`+id+`","kind":"hold"`), "press %s", id)
				}
			case "log":
				_, b := ask("GET", url+"/api/occurrences/"+class.ID+"/log", "")
				there := func(done int) bool { return strings.Contains(string(b), fmt.Sprintf(`"done":%d,`, done)) }
				assert.True(t, line < 0 || there(line) || len(unsure) > 0 && there(serial%100), "the acknowledged line is there, or what came after it")
			case "edit":
				for _, id := range answered {
					assert.Equal(t, 1, strings.Count(string(export), `"clientId":"`+id+`"`), "edit %s", id)
				}
				_, b := ask("GET", url+"/api/circuits/"+class.CircuitID, "")
				require.NoError(t, json.Unmarshal(b, &circuit))
				assert.GreaterOrEqual(t, circuit.Version, version)
			}
			t.Logf("%d answered, %d not, the %s killed", len(answered), len(unsure), victims[n%3])
			_ = cmd.Process.Signal(syscall.SIGTERM)
			require.NoError(t, cmd.Wait(), "told to stop, it ends well")
		})
	}
}

// firstStart kills the demo's first start, with the installation of its database or
// without, and starts it again.
func firstStart(t *testing.T, g *ground, n int) {
	dir, err := os.MkdirTemp("", "na-first")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755)) // an unprivileged database must enter it
	defer func() { _ = os.RemoveAll(dir) }()
	cmd := exec.Command(g.bin, "demo", "--addr", "127.0.0.1:0", "--dir", dir)
	require.NoError(t, cmd.Start())
	time.Sleep(time.Duration(g.r.IntN(5000)) * time.Millisecond) // the point is what is tested
	_ = cmd.Process.Kill()
	if victims[n%3] != "program" {
		// As when the power goes: nothing of it lives on, not the installer either.
		all, _ := filepath.Glob("/proc/[0-9]*/cmdline")
		for _, path := range all {
			if b, err := os.ReadFile(path); err == nil && strings.Contains(string(b), dir+"/") {
				if pid, err := strconv.Atoi(filepath.Base(filepath.Dir(path))); err == nil && pid != os.Getpid() {
					_ = syscall.Kill(pid, syscall.SIGKILL)
				}
			}
		}
	}
	_ = cmd.Wait()
	again := exec.Command(g.bin, "demo", "--addr", "127.0.0.1:0", "--dir", dir)
	url := listening(t, again)
	status, b := ask("GET", url+"/api/today", "")
	require.Equal(t, 200, status, string(b))
	var today struct {
		Past []struct{ Logged int }
	}
	require.NoError(t, json.Unmarshal(b, &today))
	require.NotEmpty(t, today.Past)
	for _, p := range today.Past {
		assert.Positive(t, p.Logged, "a class without its log is half")
	}
	status, b = ask("GET", url+"/api/places", "")
	require.Equal(t, 200, status)
	assert.Contains(t, string(b), demo.ID("place/attic"))
	_ = again.Process.Signal(syscall.SIGTERM)
	require.NoError(t, again.Wait(), "told to stop, it ends well")
}
