package api

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/calc"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/localdb/fullscan"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

func TestMain(m *testing.M) { dbtest.Main(m, fullscan.Watch) }

// now is a Wednesday at ten in Berlin.
var now = time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)

type client struct {
	t   *testing.T
	app *fiber.App
}

// hall is a server on the demo hall.
func hall(t *testing.T, at func() time.Time) client {
	t.Helper()
	c, _ := hallAt(t, dbtest.DSN(t), at)
	return c
}

// hallOn is a server on the demo hall with its database.
func hallOn(t *testing.T, dsn string) (client, *sql.DB) {
	t.Helper()
	c, _ := hallAt(t, dsn, fixed)
	db, err := sql.Open("mysql", dsn)
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	return c, db
}

func hallAt(t *testing.T, dsn string, at func() time.Time) (client, *store.Store) {
	t.Helper()
	st, err := store.Open(dsn, at)
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	require.NoError(t, st.Migrate(context.Background()))
	_, err = demo.Load(context.Background(), studio.New(st, at), at())
	require.NoError(t, err)
	return client{t, New(Config{Studios: studio.New(st, at), Now: at}).App}, st
}

func fixed() time.Time { return now }

func (c client) send(method, path, body string, headers ...string) (int, http.Header, []byte) {
	c.t.Helper()
	r := httptest.NewRequest(method, path, strings.NewReader(body))
	r.Host = "localhost"
	if body != "" {
		r.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i+1 < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
		if headers[i] == "Host" {
			r.Host = headers[i+1]
		}
	}
	resp, err := c.app.Test(r, fiber.TestConfig{Timeout: time.Minute})
	require.NoError(c.t, err)
	defer func() { _ = resp.Body.Close() }()
	b, err := io.ReadAll(resp.Body)
	require.NoError(c.t, err)
	return resp.StatusCode, resp.Header, b
}

// ok sends a request that must succeed and reads its answer.
func ok[T any](c client, method, path string, body any) T {
	c.t.Helper()
	text := ""
	if body != nil {
		b, err := json.Marshal(body)
		require.NoError(c.t, err)
		text = string(b)
	}
	status, _, b := c.send(method, path, text)
	require.Equal(c.t, http.StatusOK, status, "%s %s: %s", method, path, b)
	var out T
	require.NoError(c.t, json.Unmarshal(b, &out))
	return out
}

func id(n int) string { return fmt.Sprintf("test%022d", n) }

// The same request gives the same bytes by Go, by the command line and by the
// API, good or bad.
func TestCalcIsOneContract(t *testing.T) {
	program := filepath.Join(t.TempDir(), "nimbleanvil")
	out, err := exec.Command("go", "build", "-o", program, "../../cmd/nimbleanvil").CombinedOutput()
	require.NoError(t, err, string(out))
	c := client{t, New(Config{Now: fixed}).App}
	requests := map[string][]string{"nothing": {"{}"}}
	for _, x := range calc.All() {
		requests[x.Name] = []string{x.Example, "", "{", "[1]", "{}", x.Example + "x", strings.Replace(x.Example, "{", `{"strange":1,`, 1), strings.ToUpper(x.Example)}
	}
	for name, list := range requests {
		for _, request := range list {
			cmd := exec.Command(program, "calc", name)
			cmd.Stdin = strings.NewReader(request)
			var stdout, stderr bytes.Buffer
			cmd.Stdout, cmd.Stderr = &stdout, &stderr
			err := cmd.Run()
			status, head, body := c.send(http.MethodPost, "/api/calc/"+name, request)
			want, p := calc.Run(context.Background(), name, []byte(request))
			if p != nil {
				assert.Equal(t, 2, cmd.ProcessState.ExitCode(), "%s %s", name, request)
				assert.Empty(t, stdout.String())
				assert.Equal(t, string(p.JSON()), stderr.String())
				assert.Equal(t, p.Status, status)
				assert.Equal(t, "application/problem+json", head.Get("Content-Type"))
				assert.Equal(t, stderr.String(), string(body))
				continue
			}
			require.NoError(t, err)
			assert.Equal(t, string(want), stdout.String())
			assert.Equal(t, http.StatusOK, status)
			assert.Equal(t, stdout.String(), string(body), "%s %s", name, request)
		}
	}
	listed, err := exec.Command(program, "calc", "--list").Output()
	require.NoError(t, err)
	assert.Equal(t, "anchor\nbridge\ncarry\nfit\ngate\nload\nload-rule\noptions\npickup\nresistance\nrole\nsession\nsides\nstrength\ntime\ntipping\nverdict\nwindow\n", string(listed))
	schema, err := exec.Command(program, "calc", "window", "--schema").Output()
	require.NoError(t, err)
	kept, err := os.ReadFile("../../docs/formats/calc-window.json")
	require.NoError(t, err)
	assert.Equal(t, string(kept), string(schema))
}

// Hosts, origins, methods and headers.
func TestNobodyElseIsServed(t *testing.T) {
	c := client{t, New(Config{Now: fixed}).App}
	for _, x := range []struct {
		method, path string
		headers      []string
		want         int
	}{
		{"GET", "/api/clock", nil, 200},
		{"GET", "/api/clock", []string{"Host", "127.0.0.1:8080"}, 200},
		{"GET", "/api/clock", []string{"Host", "[::1]:8080"}, 200},
		{"GET", "/api/clock", []string{"Host", "anvil.example"}, 403},
		{"POST", "/api/calc/window", []string{"Sec-Fetch-Site", "same-origin"}, 400},
		{"POST", "/api/calc/window", []string{"Sec-Fetch-Site", "cross-site"}, 403},
		{"POST", "/api/calc/window", []string{"Sec-Fetch-Site", "same-site"}, 403},
		{"POST", "/api/calc/window", []string{"Origin", "http://evil.example"}, 403},
		{"POST", "/api/calc/window", []string{"Origin", "null"}, 403},
		{"POST", "/api/calc/window", []string{"Origin", "http://localhost"}, 400},
		{"GET", "/api/nothing", nil, 404},
		{"GET", "/api/circuits/short", nil, 422},
	} {
		status, head, body := c.send(x.method, x.path, "", x.headers...)
		assert.Equal(t, x.want, status, "%s %s %v: %s", x.method, x.path, x.headers, body)
		assert.Contains(t, head.Get("Content-Security-Policy"), "default-src 'self'")
		assert.NotEmpty(t, head.Get("X-Request-Id"))
		if status >= 400 {
			assert.Equal(t, "application/problem+json", head.Get("Content-Type"), x.path)
			assert.Contains(t, string(body), `"type":"/problems/`)
		}
	}
}

// Today knows the state of the work.
func TestTodayOfTheDemo(t *testing.T) {
	c := hall(t, fixed)
	today := ok[studio.Today](c, "GET", "/api/today", nil)
	require.NotNil(t, today.Next)
	assert.Equal(t, "10:20", today.Next.Time) // twenty minutes from now, to five
	assert.Equal(t, "2026-11-25", today.Next.Date)
	assert.Empty(t, today.Next.Needs)
	assert.Len(t, today.Later, 2)
	assert.Equal(t, "2026-11-26", today.Later[0].Date) // the Thursday after
	assert.Equal(t, "need-circuit", string(today.Later[0].Needs[0].Code))
	assert.Len(t, today.Past, 6)
	for _, c := range append(append([]studio.TodayClass{*today.Next}, today.Later...), today.Past...) {
		assert.Empty(t, c.RunID, "nothing has been run yet")
		// Three lanes, and those who came by name.
		assert.Equal(t, c.StartMs < now.UnixMilli(), c.Logged > 30, c.Name)
	}
	run := ok[studio.Run](c, "PUT", "/api/runs/"+id(1), map[string]any{"occurrenceId": today.Next.ID})
	again := ok[studio.Today](c, "GET", "/api/today", nil)
	assert.Equal(t, run.ID, again.Next.RunID)
	assert.Empty(t, again.Later[0].RunID)
}

// Undo brings every byte back, also the second time and across redo; an edit
// from an old version is a conflict; one sent twice counts once.
func TestHistoryOfACircuit(t *testing.T) {
	c := hall(t, fixed)
	plan := ok[studio.Today](c, "GET", "/api/today", nil).Next.CircuitID
	doc := func() string {
		b, err := json.Marshal(ok[studio.Circuit](c, "GET", "/api/circuits/"+plan, nil).Document)
		require.NoError(t, err)
		return string(b)
	}
	states := []string{doc()}
	base := 1
	rev := func() studio.Revision { r := studio.Revision{ClientID: id(base), Base: base}; base++; return r }
	edit := func(op map[string]any) {
		r := rev()
		edited(c, "/api/circuits/"+plan+"/edits", map[string]any{"clientId": r.ClientID, "base": r.Base, "ops": []any{op}})
		states = append(states, doc())
	}
	edit(map[string]any{"op": "set-scheme", "blockId": "b3", "scheme": timed(30_000, 20_000)})
	edit(map[string]any{"op": "remove-slot", "slotId": "s2"})
	edit(map[string]any{"op": "move-slot", "slotId": "s1", "count": 3})
	for i := 2; i >= 0; i-- {
		edited(c, "/api/circuits/"+plan+"/undo", rev())
		assert.Equal(t, states[i], doc())
	}
	for i := 1; i <= 3; i++ {
		edited(c, "/api/circuits/"+plan+"/redo", rev())
		assert.Equal(t, states[i], doc())
	}
	got := edited(c, "/api/circuits/"+plan+"/undo", rev())
	assert.Equal(t, states[2], doc())
	assert.True(t, got.CanUndo && got.CanRedo)

	status, _, body := c.send("POST", "/api/circuits/"+plan+"/undo", fmt.Sprintf(`{"clientId":%q,"base":1}`, id(900)))
	assert.Equal(t, http.StatusConflict, status, string(body))
	status, _, _ = c.send("POST", "/api/circuits/"+plan+"/undo", fmt.Sprintf(`{"clientId":%q,"base":%d}`, id(base-1), base-1))
	assert.Equal(t, http.StatusOK, status, "sent again")
	assert.Equal(t, states[2], doc())
	status, _, body = c.send("POST", "/api/circuits/"+plan+"/edits", fmt.Sprintf(`{"clientId":%q,"base":%d,"ops":[{"op":"set-waves","slotId":"s1","count":21}]}`, id(901), base))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, string(body), `"location":"body.ops[0].count"`)
}

// A class in 15 and in 90 minutes, with lunges left out, by repetitions: each
// proposal fits; 8 minutes fit nothing and say what to relax; undo brings back
// document, and the new one keeps what the class is.
func TestProposeAnew(t *testing.T) {
	c := hall(t, fixed)
	plan := ok[studio.Today](c, "GET", "/api/today", nil).Next.CircuitID
	base := 1
	for i, brief := range []map[string]any{
		{"minutes": 15, "format": "timed", "bans": []string{}}, {"minutes": 90, "format": "timed", "bans": []string{}},
		{"minutes": 45, "format": "timed", "bans": []string{"lunge"}}, {"minutes": 45, "format": "reps", "bans": []string{}},
		{"minutes": 45, "format": "timed", "bans": []string{}, "lanes": []any{map[string]any{"lane": "reach", "people": 1, "body": "154 lb", "stature": "67 in"}}},
	} {
		p := ok[studio.Proposed](c, "POST", "/api/circuits/"+plan+"/propose", map[string]any{"clientId": id(i + 1), "base": base, "brief": brief})
		require.True(t, p.Feasible)
		assert.True(t, p.Circuit.Plan.Fits)
		assert.EqualValues(t, brief["minutes"], p.Circuit.Occurrence.Minutes)
		base = p.Circuit.Version
	}
	now := ok[studio.Circuit](c, "GET", "/api/circuits/"+plan, nil)
	assert.Equal(t, measure.Pound, now.Occurrence.Lanes[0].Body.Unit, "as typed")
	assert.EqualValues(t, 69853, now.Occurrence.Lanes[0].Body.Whole) // 154 x 453.59237
	p := ok[studio.Proposed](c, "POST", "/api/circuits/"+plan+"/propose", map[string]any{"clientId": id(50), "base": base, "brief": map[string]any{"minutes": 45, "format": "timed", "bans": moves.Patterns}})
	assert.False(t, p.Feasible)
	assert.NotEmpty(t, p.Relax)
}

// The clock of a run, from presses at known instants.
func TestRunFollowsItsPresses(t *testing.T) {
	at := now
	c := hall(t, func() time.Time { return at })
	class := ok[studio.Today](c, "GET", "/api/today", nil).Next.ID
	run := ok[studio.Run](c, "PUT", "/api/runs/"+id(1), map[string]any{"occurrenceId": class})
	assert.Equal(t, "ready", run.Anchor.State)
	n := 10
	press := func(after time.Duration, kind string, ms int) studio.Run {
		at = at.Add(after)
		n++
		now := ok[studio.RunNow](c, "POST", "/api/runs/"+id(1)+"/events", map[string]any{"clientId": id(n), "kind": kind, "ms": ms})
		assert.Equal(t, now, ok[studio.RunNow](c, "GET", "/api/runs/"+id(1)+"/now", nil))
		run := ok[studio.Run](c, "GET", "/api/runs/"+id(1), nil)
		assert.Equal(t, now, run.RunNow)
		return run
	}
	press(time.Minute, "start", 0)
	held := press(30*time.Second, "hold", 0)
	assert.EqualValues(t, 30_000, held.Anchor.PositionMs)
	again := ok[studio.RunNow](c, "POST", "/api/runs/"+id(1)+"/events", map[string]any{"clientId": id(n), "kind": "hold"})
	assert.Equal(t, held.Events, again.Events, "a press sent twice counts once")
	press(10*time.Minute, "add", 15_000)
	moving := press(time.Second, "resume", 0)
	p, wait := moving.Anchor.Position(moving.NowMs, moving.Order.Total)
	assert.EqualValues(t, []int64{30_000, 15_000}, []int64{p, wait})
	skipped := press(20*time.Second, "skip", 0)
	assert.Equal(t, "prep", string(skipped.Order.Stretches[2].Kind))
	assert.Equal(t, skipped.Order.Stretches[2].From, skipped.Anchor.PositionMs, "past the first drill")
	// A screen that had no server sends late that it held for five seconds, twenty
	// seconds before the skip: the class was held then, and the skip stands. Of an
	// instant that is still to come nobody can know: it counts as now.
	late := func(kind string, ago int64) studio.RunNow {
		n++
		return ok[studio.RunNow](c, "POST", "/api/runs/"+id(1)+"/events", map[string]any{"clientId": id(n), "kind": kind, "atMs": at.UnixMilli() - ago})
	}
	at = at.Add(10 * time.Second)
	late("hold", 25_000)
	again = late("resume", 20_000)
	assert.Equal(t, skipped.Anchor, again.Anchor)
	again = late("hold", -3_600_000)
	assert.Equal(t, at.UnixMilli(), again.Anchor.AtMs)
	again = late("resume", 0)
	p, _ = again.Anchor.Position(at.UnixMilli(), skipped.Order.Total)
	assert.Equal(t, skipped.Order.Stretches[2].From+10_000, p)
	at = at.Add(3 * time.Hour)
	end := ok[studio.Run](c, "GET", "/api/runs/"+id(1), nil)
	p, _ = end.Anchor.Position(end.NowMs, end.Order.Total)
	assert.Equal(t, end.Order.Total, p)
	// The kit changes; the run keeps what it began with.
	frozen := end.Order
	circuit := ok[studio.Today](c, "GET", "/api/today", nil)
	assert.NotEqual(t, class, circuit.Next.ID, "three hours later another class is next")
	edited(c, "/api/circuits/"+ok[studio.TodayClass](c, "GET", "/api/occurrences/"+class, nil).CircuitID+"/edits",
		map[string]any{"clientId": id(99), "base": 1, "ops": []any{map[string]any{"op": "set-lead-in", "ms": 1}}})
	assert.Equal(t, frozen, ok[studio.Run](c, "GET", "/api/runs/"+id(1), nil).Order)
}

// Bad input names the field and leaves what is saved alone.
func TestBadInputLeavesThingsAlone(t *testing.T) {
	c := hall(t, fixed)
	before := ok[[]studio.Place](c, "GET", "/api/places", nil)
	place := before[0].ID
	for body, location := range map[string]string{
		`{"name":"B","kind":"kettlebell","mass":"16 stone","count":1}`:        "body.mass",
		`{"name":"B","kind":"kettlebell","count":1}`:                          "body.mass",
		`{"name":"B","kind":"kettlebell","mass":"301 kg","count":1}`:          "body.mass",
		`{"name":"B","kind":"bench","height":"3 m","count":1}`:                "body.height",
		`{"name":"B","kind":"band","mass":"5 kg","count":1}`:                  "body.mass",
		`{"name":"B","kind":"sword","mass":"5 kg","count":1}`:                 "body.kind",
		`{"name":"","kind":"band","count":1}`:                                 "body.name",
		`{"name":"B","kind":"band","count":501}`:                              "body.count",
		`{"name":"B","kind":"band","count":1,"colour":"red"}`:                 "body.colour",
		`{"name":"` + strings.Repeat("x", 121) + `","kind":"band","count":1}`: "body.name",
	} {
		status, _, got := c.send("PUT", "/api/places/"+place+"/implements/"+id(1), body)
		assert.Equal(t, http.StatusUnprocessableEntity, status, body)
		assert.Contains(t, string(got), `"location":"`+location+`"`, body)
	}
	status, _, got := c.send("PUT", "/api/places/"+place+"/containers/"+id(2), `{"name":"C","mass":"2 kg","max":"1 kg"}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, string(got), `"location":"body.max"`)
	assert.Equal(t, before, ok[[]studio.Place](c, "GET", "/api/places", nil))
}

// The log is of what was run, whatever becomes of the circuit; a line keeps its
// verdict, and the next class of the same name is judged against it.
func TestLogIsOfWhatWasRun(t *testing.T) {
	c := hall(t, fixed)
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	ok[studio.Run](c, "PUT", "/api/runs/"+id(1), map[string]any{"occurrenceId": next.ID})
	edited(c, "/api/circuits/"+next.CircuitID+"/edits", map[string]any{"clientId": id(2), "base": 1, "ops": []any{map[string]any{"op": "remove-slot", "slotId": "s1"}}})
	log := ok[studio.Log](c, "GET", "/api/occurrences/"+next.ID+"/log", nil)
	require.Len(t, log.Sheets, 3+len(next.People))
	require.Len(t, log.Sheets[1].Lines, 7)
	squat := log.Sheets[1].Lines[0]
	assert.False(t, squat.Saved)
	put := func(subject string, done, form int, pain string) progress.SheetLine {
		sheet := ok[progress.Sheet](c, "PUT", "/api/occurrences/"+next.ID+"/log/"+subject+"/s1", map[string]any{"done": done, "inForm": form, "pain": pain})
		return sheet.Lines[0]
	}
	// Two over the plan: light, and once is not twice running.
	l := put("middle", squat.Planned+2, squat.Planned+2, "none")
	assert.Equal(t, "light", string(l.Result.Verdict))
	assert.Equal(t, "more-reps", string(l.Result.Advice))
	l = put("middle", squat.Planned, squat.Planned-3, "none")
	assert.Equal(t, "form-lost", string(l.Result.Verdict))
	assert.Equal(t, "less-load", string(l.Result.Advice))
	l = put("middle", squat.Planned, squat.Planned, "joint")
	assert.Equal(t, "stop-move", string(l.Result.Advice))
	l = put("middle", squat.Planned, squat.Planned, "burn")
	assert.Equal(t, "keep", string(l.Result.Advice), "muscle burn is expected")
	ok[studio.Log](c, "PUT", "/api/occurrences/"+next.ID+"/participants/"+id(3), map[string]any{"name": "Ada", "lane": "reach"})
	assert.Equal(t, "far-too-light", string(put(id(3), 40, 40, "none").Result.Verdict))
	// A line that waited for the server and was typed before this one comes too late.
	sheet := ok[progress.Sheet](c, "PUT", "/api/occurrences/"+next.ID+"/log/middle/s1", map[string]any{"done": 1, "inForm": 1, "pain": "none", "atMs": now.Add(-time.Minute).UnixMilli()})
	assert.Equal(t, squat.Planned, sheet.Lines[0].Done)
	status, _, body := c.send("PUT", "/api/occurrences/"+next.ID+"/log/middle/s1", `{"done":5,"inForm":6,"pain":"none"}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, string(body), "body.inForm")
	status, _, _ = c.send("PUT", "/api/occurrences/"+next.ID+"/log/middle/s99", `{"done":5,"inForm":5,"pain":"none"}`)
	assert.Equal(t, http.StatusNotFound, status)
	assert.Equal(t, 2, ok[studio.TodayClass](c, "GET", "/api/occurrences/"+next.ID, nil).Logged)
}

// Edits of a second window from an old version are kept beside, one after the
// other, and nothing of the first window's is touched; any version can be looked
// at, compared and brought back.
func TestVersionsBesideAndBack(t *testing.T) {
	c := hall(t, fixed)
	path := "/api/circuits/" + ok[studio.Today](c, "GET", "/api/today", nil).Next.CircuitID
	n := 0
	edit := func(base int, op string) (int, int) {
		n++
		status, _, body := c.send("POST", path+"/edits", fmt.Sprintf(`{"clientId":%q,"base":%d,"ops":[%s]}`, id(n), base, op))
		var p struct{ Beside int }
		require.NoError(t, json.Unmarshal(body, &p))
		if status == http.StatusOK {
			p.Beside = ok[studio.Circuit](c, "GET", path, nil).Version
		}
		return status, p.Beside
	}
	work := func(ms measure.Span) string {
		b, err := json.Marshal(map[string]any{"op": "set-scheme", "blockId": "b3", "scheme": timed(ms, 20_000)})
		require.NoError(t, err)
		return string(b)
	}
	status, first := edit(1, work(30_000))
	require.Equal(t, []int{200, 2}, []int{status, first})
	status, beside := edit(1, work(50_000))
	require.Equal(t, []int{409, 3}, []int{status, beside})
	status, beside = edit(beside, `{"op":"set-after","blockId":"b3","ms":15000}`)
	require.Equal(t, []int{409, 4}, []int{status, beside})
	now := ok[studio.Circuit](c, "GET", path, nil)
	assert.Equal(t, 2, now.Version)
	assert.EqualValues(t, 30_000, workOf(now.Document))

	v := ok[studio.Version](c, "GET", path+"/versions/4", nil)
	assert.EqualValues(t, 50_000, workOf(v.Document))
	require.Len(t, v.Differences, 2)
	assert.Equal(t, "work", v.Differences[0].Field)
	assert.Equal(t, []float64{50_000, 30_000}, []float64{v.Differences[0].A.Value, v.Differences[0].B.Value})
	back := edited(c, path+"/restore", map[string]any{"clientId": id(50), "base": 2, "version": 4})
	assert.Equal(t, 5, back.Version)
	assert.EqualValues(t, 50_000, workOf(back.Document))
	undone := edited(c, path+"/undo", studio.Revision{ClientID: id(51), Base: 5})
	assert.EqualValues(t, 30_000, workOf(undone.Document))
	list := ok[studio.Versions](c, "GET", path+"/versions", nil)
	var kinds []string
	for _, r := range list.Rows {
		kinds = append(kinds, fmt.Sprintf("%d%s%v%d", r.Version, r.Kind, r.Side, r.Base))
	}
	assert.Equal(t, []string{"6undofalse5", "5restorefalse2", "4edittrue3", "3edittrue1", "2editfalse1", "1proposefalse0"}, kinds)
	assert.Equal(t, "set-after", string(list.Rows[2].Edits[0]))
	status, _, _ = c.send("GET", path+"/versions/7", "")
	assert.Equal(t, http.StatusNotFound, status)
}

// timed is a circuit by the clock of two rounds.
func timed(work, rest measure.Span) circuit.Scheme {
	return circuit.Scheme{Kind: scheme.Circuit, Circuit: &circuit.InRounds{Format: circuit.Timed, WorkMs: work, RestMs: rest, Rounds: 2, RoundRestMs: 60_000}}
}

// workOf is the interval of a document's circuit.
func workOf(d circuit.Document) measure.Span {
	s, _, _ := d.Single()
	return s.WorkMs
}
