package main

import (
	"bufio"
	"context"
	"crypto/sha256"
	"database/sql"
	"debug/buildinfo"
	"encoding/hex"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/go-sql-driver/mysql"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/localdb/dbtest"
)

func TestMain(m *testing.M) { dbtest.Main(m) }

func program(t *testing.T) string {
	t.Helper()
	out := filepath.Join(t.TempDir(), "nimbleanvil")
	b, err := exec.Command("go", "build", "-o", out, ".").CombinedOutput()
	require.NoError(t, err, string(b))
	return out
}

// While there are no accounts nothing beyond this machine is listened to; a busy
// port is told with the next free one.
func TestListenOnLoopbackOnly(t *testing.T) {
	for _, addr := range []string{"0.0.0.0:0", "192.168.1.1:8080", "example.org:80", ":8080"} {
		_, err := listen{Addr: addr}.open()
		assert.ErrorContains(t, err, "not loopback", addr)
	}
	_, err := listen{Addr: "8080"}.open()
	assert.ErrorContains(t, err, "write it as 127.0.0.1:8080")
	for _, addr := range []string{"127.0.0.1:0", "localhost:0"} {
		ln, err := listen{Addr: addr}.open()
		require.NoError(t, err)
		_, busy := listen{Addr: ln.Addr().String()}.open()
		assert.ErrorContains(t, busy, "is in use")
		assert.ErrorContains(t, busy, "use --addr 127.0.0.1:")
		require.NoError(t, ln.Close())
	}
}

// serve wants the schema it knows and says what to run; then it serves, and
// drains on Ctrl-C.
func TestServeAfterMigrate(t *testing.T) {
	bin, dsn := program(t), dbtest.DSN(t)
	out, err := exec.Command(bin, "serve", "--dsn", dsn, "--addr", "127.0.0.1:0").CombinedOutput()
	assert.Error(t, err)
	assert.Contains(t, string(out), "run nimbleanvil migrate")
	out, err = exec.Command(bin, "migrate", "--dsn", dsn).CombinedOutput()
	require.NoError(t, err, string(out))

	// The address stands among the arguments here: whoever looks at those sees no password.
	cmd := exec.Command(bin, "serve", "--dsn", dsn, "--addr", "127.0.0.1:0", "--metrics", "127.0.0.1:0", "--clock", "2026-11-25T09:00:00Z")
	pipe, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	said := bufio.NewReader(pipe)
	address := func(after string) string {
		line, err := said.ReadString('\n')
		require.NoError(t, err)
		_, url, ok := strings.Cut(strings.TrimSpace(line), after)
		require.True(t, ok, line)
		return url
	}
	counters := address("are at ")
	url := address("is at ")
	arguments, err := os.ReadFile(fmt.Sprintf("/proc/%d/cmdline", cmd.Process.Pid))
	require.NoError(t, err)
	assert.Contains(t, string(arguments), "--metrics")
	assert.NotContains(t, string(arguments), dsn)
	config, err := mysql.ParseDSN(dsn)
	require.NoError(t, err)
	assert.NotContains(t, string(arguments), config.Passwd)
	for path, want := range map[string]int{"/api/health/live": 204, "/api/health/ready": 204, "/api/today": 200, "/": 200, "/kit": 200, "/assets/none.js": 404} {
		r, err := http.Get(url + path)
		require.NoError(t, err, path)
		require.NoError(t, r.Body.Close())
		assert.Equal(t, want, r.StatusCode, path)
		assert.Contains(t, r.Header.Get("Content-Security-Policy"), "default-src 'self'", path)
	}
	// What was asked is counted by route and status, without addresses.
	r, err := http.Get(counters)
	require.NoError(t, err)
	text, err := io.ReadAll(r.Body)
	require.NoError(t, err)
	require.NoError(t, r.Body.Close())
	assert.Contains(t, string(text), `nimbleanvil_requests_total{method="GET",route="/api/today",status="200"} 1`)
	assert.NotContains(t, string(text), "none.js")

	// Under another name than localhost's, which a page elsewhere could have, nothing is told.
	foreign, err := http.NewRequestWithContext(t.Context(), http.MethodGet, counters, nil)
	require.NoError(t, err)
	foreign.Host = "counters.example"
	r, err = http.DefaultClient.Do(foreign)
	require.NoError(t, err)
	require.NoError(t, r.Body.Close())
	assert.Equal(t, http.StatusForbidden, r.StatusCode)

	// A backup while it runs; the same file is not overwritten; and back.
	file := filepath.Join(t.TempDir(), "all.backup")
	for i, want := range []bool{true, false} {
		out, err := exec.Command(bin, "backup", "--dsn", dsn, file).CombinedOutput()
		assert.Equal(t, want, err == nil, "%d: %s", i, out)
	}
	out, err = exec.Command(bin, "restore", "--dsn", dsn, file).CombinedOutput()
	assert.NoError(t, err, string(out))
	r, err = http.Get(url + "/api/studio")
	require.NoError(t, err)
	require.NoError(t, r.Body.Close())
	assert.Equal(t, 200, r.StatusCode)
	require.NoError(t, cmd.Process.Signal(os.Interrupt))
	done := make(chan error, 1)
	go func() { done <- cmd.Wait() }()
	select {
	case err := <-done:
		assert.NoError(t, err, "Ctrl-C ends it well")
	case <-time.After(30 * time.Second):
		t.Fatal("Ctrl-C does not end it")
	}
	_, err = (&net.Dialer{Timeout: time.Second}).DialContext(context.Background(), "tcp", strings.TrimPrefix(url, "http://"))
	assert.Error(t, err)
}

// Whatever module is in the program, its licence goes with it.
func TestLicencesOfEveryModule(t *testing.T) {
	bin := program(t)
	info, err := buildinfo.ReadFile(bin)
	require.NoError(t, err)
	require.Greater(t, len(info.Deps), 20)
	out, err := exec.Command(bin, "licences").CombinedOutput()
	require.NoError(t, err, string(out))
	for _, dep := range info.Deps {
		assert.Contains(t, string(out), "\n"+dep.Path+" "+dep.Version+"\n")
	}
	assert.Contains(t, string(out), "SIL OPEN FONT LICENSE")
}

// The command line's way with words that mean nothing.
func TestUsage(t *testing.T) {
	bin := program(t)
	out, err := exec.Command(bin, "calc", "nonsense", "--schema").CombinedOutput()
	var exit *exec.ExitError
	require.ErrorAs(t, err, &exit)
	assert.Equal(t, 2, exit.ExitCode())
	assert.Contains(t, string(out), `"location":"name"`)
	out, err = exec.Command(bin, "version").CombinedOutput()
	require.NoError(t, err)
	assert.Regexp(t, `^nimbleanvil \S+\nschema [0-9]+\nmovement library \S+\ngo1`, string(out))
	_, err = exec.Command(bin, "dance").CombinedOutput()
	require.ErrorAs(t, err, &exit)
	assert.Equal(t, 80, exit.ExitCode())
}

// A command that fails says what happened and what helps, by its code too.
func TestExitCodes(t *testing.T) {
	bin, dsn := program(t), dbtest.DSN(t)
	run := func(args ...string) (int, string) {
		cmd := exec.Command(bin, args...)
		cmd.Env = append(os.Environ(), "NIMBLEANVIL_DSN="+dsn)
		out, _ := cmd.CombinedOutput()
		return cmd.ProcessState.ExitCode(), string(out)
	}
	code, said := run("migrate", "--dsn", "somebody:secret@tcp(127.0.0.1:1)/nothing")
	assert.Equal(t, 1, code)
	assert.Contains(t, said, "see that it runs at the address given")
	assert.NotContains(t, said, "secret")
	code, said = run("migrate")
	require.Zero(t, code, said)
	db, err := sql.Open("mysql", dsn)
	require.NoError(t, err)
	defer func() { _ = db.Close() }()
	_, err = db.ExecContext(t.Context(), "INSERT INTO goose_db_version (version_id, is_applied) VALUES (9999, TRUE)")
	require.NoError(t, err)
	for _, command := range []string{"migrate", "serve"} {
		code, said = run(command)
		assert.Equal(t, 1, code, command)
		assert.Contains(t, said, "run a newer nimbleanvil", command)
	}

	// Told to stop while it computes, or while it waits for what to compute.
	hard := `{"fillables":[],"loads":2,"toleranceG":0,"targetG":299999,"container":{"id":"bag","massG":100,"maxG":300000,"volumeMl":1000000},"objects":[`
	for i := range 40 {
		hard += fmt.Sprintf(`{"id":"o%d","massG":%d,"count":500,"volumeMl":%d},`, i, 1+7919*i%30000, 104729*i%1000000)
	}
	hard = strings.TrimSuffix(hard, ",") + `]}`
	for _, input := range []string{hard, ""} {
		cmd := exec.Command(bin, "calc", "load")
		in, err := cmd.StdinPipe()
		require.NoError(t, err)
		require.NoError(t, cmd.Start())
		_, err = in.Write([]byte(input))
		require.NoError(t, err)
		if input != "" {
			require.NoError(t, in.Close())
		}
		time.Sleep(100 * time.Millisecond) // until it computes, for half a second or so
		require.NoError(t, cmd.Process.Signal(syscall.SIGTERM))
		told := time.Now()
		_ = cmd.Wait()
		assert.Less(t, time.Since(told), 10*time.Second)
		assert.Equal(t, 130, cmd.ProcessState.ExitCode(), "%.40s", input)
	}
}

// Two builds from the same source are the same bytes.
func TestBuildsAreTheSame(t *testing.T) {
	var sums [2]string
	for i := range sums {
		out := filepath.Join(t.TempDir(), "nimbleanvil")
		b, err := exec.Command("go", "build", "-buildvcs=false", "-o", out, ".").CombinedOutput()
		require.NoError(t, err, string(b))
		bytes, err := os.ReadFile(out)
		require.NoError(t, err)
		sum := sha256.Sum256(bytes)
		sums[i] = hex.EncodeToString(sum[:])
	}
	assert.Equal(t, sums[0], sums[1])
}
