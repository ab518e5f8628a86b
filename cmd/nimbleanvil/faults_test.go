package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/localdb"
)

// ownMounts is set in the copy of this test that has mounts of its own.
const ownMounts = "NIMBLEANVIL_OWN_MOUNTS"

// TestDiskFull fills the disk of a database, which is a tmpfs that nobody else sees.
// Reading goes on; a write is kept or says that it was not, and why; readiness says no;
// commands fail with words. Once there is room all works again, by itself.
func TestDiskFull(t *testing.T) {
	if os.Getenv(ownMounts) == "" {
		cmd := exec.Command(os.Args[0], "-test.run=^TestDiskFull$", "-test.v") // this test
		cmd.Env = append(os.Environ(), ownMounts+"=1")
		cmd.SysProcAttr = &syscall.SysProcAttr{Unshareflags: syscall.CLONE_NEWNS}
		out, err := cmd.CombinedOutput()
		if errors.Is(err, syscall.EPERM) {
			t.Skip("this system gives no namespace: ", err)
		}
		require.NoError(t, err, "%s", out)
		t.Logf("%s", out)
		return
	}
	dir, err := os.MkdirTemp("", "na-full")
	require.NoError(t, err)
	require.NoError(t, syscall.Mount("tmpfs", dir, "tmpfs", 0, "size=400m,mode=755"))
	t.Cleanup(func() { _ = syscall.Unmount(dir, syscall.MNT_DETACH); _ = os.Remove(dir) })
	db, err := localdb.Start(context.Background(), localdb.Options{Dir: filepath.Join(dir, "db")})
	require.NoError(t, err)
	t.Cleanup(db.Stop)
	g := &ground{t: t, bin: program(t), db: db, dir: filepath.Join(dir, "db")}
	g.fresh()
	empty := g.dsn
	g.fresh()
	hall, err := filepath.Abs("../../internal/store/testdata/limits.backup")
	require.NoError(t, err)
	g.must("restore", hall)
	cmd, url := g.serve()
	defer func() { _ = cmd.Process.Kill(); _ = cmd.Wait() }()
	reads, circuit := readings(t, url)
	newest := filepath.Join(t.TempDir(), "newest")
	g.must("backup", newest)
	fill(t, dir)
	for path, usual := range reads {
		status, b := ask("GET", url+path, "")
		assert.Equal(t, usual, status, "%s: %s", path, b)
	}
	status, _ := ask("GET", url+"/api/health/ready", "")
	assert.Equal(t, 503, status)
	var kept []string
	version := versionOf(t, url, circuit)
	edit := func(n int) (int, string) {
		status, b := ask("POST", url+"/api/circuits/"+circuit+"/edits",
			fmt.Sprintf(`{"clientId":"%s","base":%d,"ops":[{"op":"set-lead-in","ms":%d}]}`, name(n), version, 1+n%9))
		return status, string(b)
	}
	n := 0
	for refused := 0; refused < 5; n++ {
		require.Less(t, n, 5000, "there is room without end")
		if status, said := edit(n); status == 200 {
			kept, version = append(kept, name(n)), version+1
		} else {
			refused++
			require.Equal(t, 503, status, said)
			assert.Contains(t, said, "no room left")
			assert.Contains(t, said, "nothing was changed")
		}
	}
	t.Logf("%d readings as ever, %d edits kept before there was no room", len(reads), len(kept))

	for _, args := range [][]string{{"backup", filepath.Join(dir, "backup")}, {"restore", newest}, {"migrate"}} {
		cmd := g.command(args...)
		if args[0] == "migrate" {
			cmd.Env = append(os.Environ(), "NIMBLEANVIL_DSN="+empty)
		}
		out, err := cmd.CombinedOutput()
		var exit *exec.ExitError
		require.ErrorAs(t, err, &exit, "%v: %s", args, out)
		assert.Equal(t, 1, exit.ExitCode())
		assert.Regexp(t, `no space left|no room left`, string(out), args)
		assert.Contains(t, string(out), "then give the same command again", args)
	}
	assert.NoFileExists(t, filepath.Join(dir, "backup"))
	killDatabase(g.dir)
	time.Sleep(2 * time.Second) // it cannot start, and is tried

	require.NoError(t, os.Remove(filepath.Join(dir, "filler")))
	require.Eventually(t, func() bool { s, _ := ask("GET", url+"/api/health/ready", ""); return s == 204 }, 2*time.Minute, 100*time.Millisecond)
	_, export := ask("GET", url+"/api/studio/export", "")
	for _, id := range kept {
		assert.Equal(t, 1, strings.Count(string(export), `"clientId":"`+id+`"`), "it was acknowledged")
	}
	assert.Equal(t, version, versionOf(t, url, circuit), "nothing was half kept")
	status, said := edit(n)
	assert.Equal(t, 200, status, said)
	g.must("backup", filepath.Join(dir, "backup"))
	g.dsn = empty
	g.must("migrate")
	g.must("restore", filepath.Join(dir, "backup"))
}

// readings are the addresses that can be read, with the answer that each gives; and a
// circuit among them.
func readings(t *testing.T, url string) (map[string]int, string) {
	t.Helper()
	raw, err := os.ReadFile("../../docs/formats/openapi.json")
	require.NoError(t, err)
	var doc struct {
		Paths map[string]map[string]struct {
			Parameters []struct {
				Name, In string
				Required bool
			}
		}
	}
	require.NoError(t, json.Unmarshal(raw, &doc))
	var today struct {
		Past []struct{ ID, CircuitID string }
	}
	_, b := ask("GET", url+"/api/today", "")
	require.NoError(t, json.Unmarshal(b, &today))
	require.NotEmpty(t, today.Past)
	var places []struct{ ID string }
	_, b = ask("GET", url+"/api/places", "")
	require.NoError(t, json.Unmarshal(b, &places))
	require.NotEmpty(t, places)
	var people []struct{ ID string }
	_, b = ask("GET", url+"/api/people", "")
	require.NoError(t, json.Unmarshal(b, &people))
	require.NotEmpty(t, people)
	known := strings.NewReplacer("{person}", people[0].ID, "{circuit}", today.Past[0].CircuitID, "{occurrence}", today.Past[0].ID, "{place}", places[0].ID,
		"{version}", "1", "{subject}", "middle", "{slot}", "s1", "{run}", name(1))
	status, b := ask("PUT", url+"/api/runs/"+name(1), `{"occurrenceId":"`+today.Past[0].ID+`"}`)
	require.Equal(t, 200, status, string(b))
	reads := map[string]int{}
	well := 0
	for path, ops := range doc.Paths {
		if get, ok := ops["get"]; ok {
			with := "?"
			for _, p := range get.Parameters {
				if p.In == "query" && p.Required {
					path += with + p.Name + "=" + map[string]string{"slot": "s1", "party": "middle", "block": "b1"}[p.Name]
					with = "&"
				}
			}
			path = known.Replace(path)
			reads[path], _ = ask("GET", url+path, "")
			if reads[path] == 200 {
				well++
			}
		}
	}
	require.Greater(t, well, len(reads)*9/10, reads)
	return reads, today.Past[0].CircuitID
}

func versionOf(t *testing.T, url, circuit string) int {
	t.Helper()
	_, b := ask("GET", url+"/api/circuits/"+circuit, "")
	var c struct{ Version int }
	require.NoError(t, json.Unmarshal(b, &c))
	return c.Version
}

// fill takes all the room there is.
func fill(t *testing.T, dir string) {
	t.Helper()
	f, err := os.Create(filepath.Join(dir, "filler"))
	require.NoError(t, err)
	defer func() { _ = f.Close() }()
	for _, size := range []int{1 << 20, 1 << 12, 1} {
		for b := make([]byte, size); err == nil; {
			_, err = f.Write(b)
		}
		require.ErrorIs(t, err, syscall.ENOSPC)
		err = nil
	}
}

// TestClockJumps starts the server with a clock that is right, an hour behind, and an hour
// ahead: what one device sends counts in the order in which it was sent, nothing is
// refused or lost, and what was written under one clock is read under the others.
func TestClockJumps(t *testing.T) {
	g := newGround(t, program(t))
	g.fresh()
	hall, err := filepath.Abs("../../internal/store/testdata/limits.backup")
	require.NoError(t, err)
	g.must("restore", hall)
	noon := time.Date(2026, 11, 25, 12, 0, 0, 0, time.UTC)
	kinds := []string{"start", "hold", "resume"}
	var class struct{ ID, CircuitID string }
	for i, jump := range []time.Duration{0, -time.Hour, time.Hour} {
		cmd := g.command("serve", "--addr", "127.0.0.1:0", "--clock", noon.Add(jump).Format(time.RFC3339))
		url := listening(t, cmd)
		status, b := ask("GET", url+"/api/today", "")
		require.Equal(t, 200, status, string(b))
		if i == 0 {
			var today struct {
				Past []struct{ ID, CircuitID string }
			}
			require.NoError(t, json.Unmarshal(b, &today))
			class = today.Past[0]
			status, b = ask("PUT", url+"/api/runs/"+name(1), `{"occurrenceId":"`+class.ID+`"}`)
			require.Equal(t, 200, status, string(b))
		}
		status, b = ask("POST", url+"/api/runs/"+name(1)+"/events", fmt.Sprintf(`{"clientId":"%s","kind":"%s","device":"%s","n":%d}`, name(10+i), kinds[i], name(2), 2*i+1))
		require.Equal(t, 200, status, string(b))
		assert.Contains(t, string(b), `"state":"`+[]string{"moving", "held", "moving"}[i]+`"`)
		status, b = ask("PUT", url+"/api/occurrences/"+class.ID+"/log/middle/s1",
			fmt.Sprintf(`{"done":%d,"inForm":%d,"pain":"none","device":"%s","n":%d}`, 8+i, 8+i, name(2), 2*i+2))
		require.Equal(t, 200, status, string(b))
		assert.Contains(t, string(b), fmt.Sprintf(`"done":%d,`, 8+i), "the line that was typed last")
		version := versionOf(t, url, class.CircuitID)
		status, b = ask("POST", url+"/api/circuits/"+class.CircuitID+"/edits",
			fmt.Sprintf(`{"clientId":"%s","base":%d,"ops":[{"op":"set-lead-in","ms":%d}]}`, name(20+i), version, 2+i))
		require.Equal(t, 200, status, string(b))
		assert.Equal(t, version+1, versionOf(t, url, class.CircuitID))
		_ = cmd.Process.Signal(syscall.SIGTERM)
		require.NoError(t, cmd.Wait())
	}
	whole := g.holds()
	file := filepath.Join(t.TempDir(), "backup")
	g.must("backup", file)
	g.fresh()
	g.must("restore", file)
	assert.Equal(t, whole, g.holds())
}
