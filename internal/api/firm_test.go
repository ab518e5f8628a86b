package api

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/studio"
)

// locations are the wrong fields that a problem names.
func (c client) locations(method, path, body string) (status int, named []string) {
	c.t.Helper()
	status, _, b := c.send(method, path, body)
	var p struct {
		Errors []struct{ Location string }
		More   int
	}
	require.NoError(c.t, json.Unmarshal(b, &p), string(b))
	for _, e := range p.Errors {
		named = append(named, e.Location)
	}
	if p.More > 0 {
		named = append(named, fmt.Sprintf("and %d more", p.More))
	}
	return status, named
}

// What only the rules know is told beside what the schema tells, each field once; what
// was typed and would not be kept is refused; whole numbers may be spelt with a point.
func TestEveryWrongFieldAtOnce(t *testing.T) {
	c := hall(t, fixed)
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	hall := "/api/places/" + demo.ID("place/hall")
	for _, x := range []struct {
		method, path, body string
		want               []string
	}{
		{"PUT", "/api/studio", `{"name":" \u200b","timeZone":"Local","massUnit":"st","language":"en"}`, []string{"body.massUnit", "body.name", "body.timeZone"}},
		{"PUT", "/api/studio", `{"name":"Hall","timeZone":"posixrules","massUnit":"kg","language":"en"}`, []string{"body.timeZone"}},
		{"PUT", hall + "/implements/" + id(1), `{"name":"I","kind":"kettlebell","mass":"heavy","height":"45 cm","count":501}`, []string{"body.count", "body.height", "body.mass"}},
		{"PUT", hall + "/implements/" + id(1), `{"name":"I","kind":"band","stretch1":"1 m","pull1":"x","stretch2":"2 m","count":1}`, []string{"body.pull1", "body.pull2"}},
		{"PUT", hall + "/objects/" + id(1), `{"name":"O","use":"pack","mass":"1 kg","empty":"100 g","count":1,"traits":["soft","soft"]}`, []string{"body.empty", "body.traits"}},
		{"PUT", hall + "/objects/" + id(1), `{"name":"O","use":"pack","mass":"1 kg","count":1,"traits":[["soft"],["soft"],{}]}`, []string{"body.traits[0]", "body.traits[1]", "body.traits[2]"}},
		{"PUT", hall + "/containers/" + id(1), `{"name":"C","mass":"2 kg","max":"1 kg","wear":["hand","hand"],"volume":"much"}`, []string{"body.max", "body.volume", "body.wear"}},
		{"PUT", "/api/occurrences/" + id(1), `{"name":"C","date":"0000-01-01","time":"25:00","minutes":45,"placeId":"` + demo.ID("place/hall") + `","lanes":[{"lane":"middle","people":0,"body":"1 kg"},{"lane":"middle","people":1,"stature":"9 m"}]}`,
			[]string{"body.date", "body.lanes[0].body", "body.lanes[1].lane", "body.lanes[1].stature", "body.time"}},
		{"PUT", "/api/circuits/" + id(1), `{"occurrenceId":"` + next.ID + `","clientId":"x","brief":{"minutes":1,"format":"timed","bans":["knees"],"known":["hop"],"lanes":[{"lane":"middle","people":1,"body":"ten"}]}}`,
			[]string{"body.brief.bans[0]", "body.brief.known[0]", "body.brief.lanes[0].body", "body.brief.minutes", "body.clientId"}},
		{"POST", "/api/circuits/" + next.CircuitID + "/edits", `{"clientId":"` + id(1) + `","base":1,"ops":[{"op":"set-waves","slotId":"s1","count":99},{"op":"set-entry","slotId":"s1","party":"middle","entry":{"variant":"hop","hold":"none","load":{"kind":"none"},"anchors":[],"dose":{"kind":"count","low":5,"high":5},"tempo":"soon","sides":"both"}},{"op":"remove-slot","slotId":"nine"}]}`,
			[]string{"body.ops[0].count", "body.ops[1].entry.tempo", "body.ops[1].entry.variant", "body.ops[2]"}},
		{"PUT", "/api/style", `{"studio":{"hats":"on","knees":"sideways"},"moves":{"dance":{}}}`, []string{"body.moves.dance", "body.studio.hats", "body.studio.knees"}},
		{"PUT", "/api/occurrences/" + next.ID + "/log/middle/s1", `{"done":3,"inForm":9,"pain":"none","joint":"knee","load":"a lot","device":"` + id(1) + `"}`, []string{"body.inForm", "body.joint", "body.load", "body.n"}},
		{"POST", hall + "/substitutes", `{"move":"hop","hold":"goblet","lane":"up","reps":10,"reserve":2,"load":"x","missing":"` + id(1) + `"}`, []string{"body.lane", "body.load", "body.missing", "body.move"}},
		{"POST", hall + "/fit", `{"people":[{"name":"\u202eA"},{"name":"B","stature":"9 m"}]}`, []string{"body.people[0].name", "body.people[0].stature", "body.people[1].stature"}},
		{"POST", "/api/read-quantity", `{"text":"much","unit":"kg","kind":"mass","strange":1}`, []string{"body.strange", "body.text"}},
		{"POST", "/api/read-quantity", `{` + strings.Repeat(`"a":1,`, 2) + `"text":"1"}`, []string{"body.a", "body.kind", "body.unit"}},
	} {
		status, got := c.locations(x.method, x.path, x.body)
		assert.Equal(t, 422, status, x.body)
		assert.Equal(t, x.want, got, x.body)
	}
	edited(c, "/api/circuits/"+next.CircuitID+"/edits", json.RawMessage(`{"clientId":"`+id(1)+`","base":1.0,"ops":[{"op":"set-lead-in","ms":2e0}]}`))
	var many strings.Builder
	for i := range 3200 {
		fmt.Fprintf(&many, `"f%04d":"%s",`, i, strings.Repeat("v", 250))
	}
	status, _, b := c.send("PUT", "/api/studio", "{"+many.String()+`"name":"A","timeZone":"UTC","massUnit":"kg","language":"en"}`)
	assert.Equal(t, 422, status)
	assert.Less(t, len(b), 16<<10)
	assert.Contains(t, string(b), `"more":3180`)
	_, p, _ := c.send("POST", "/api/places-file/preview", `{"text":"`+strings.Repeat("column;", 100_000)+`"}`)
	_ = p
	seen := ok[studio.PlacesPreview](c, "POST", "/api/places-file/preview", studio.PlacesText{Text: strings.Repeat("column;", 100_000)})
	assert.Len(t, seen.Faults, 20)
	assert.Positive(t, seen.More)
}

// An id is one thing's: not another place's, not another kind's. A name comes out as it
// was read, and a file of places that was taken out comes in as the same.
func TestNamesAndIDsGoRound(t *testing.T) {
	c := hall(t, fixed)
	hall, quay := "/api/places/"+demo.ID("place/hall"), "/api/places/"+demo.ID("place/quay")
	bell := `{"name":"Bell","kind":"kettlebell","mass":"16 kg","count":2}`
	ok[studio.Place](c, "PUT", hall+"/implements/"+id(1), json.RawMessage(bell))
	for _, x := range []struct{ path, body string }{
		{quay + "/implements/" + id(1), bell}, {hall + "/objects/" + id(1), `{"name":"O","use":"pack","mass":"1 kg","count":1}`}, {quay + "/containers/" + id(1), `{"name":"C","mass":"1 kg","max":"2 kg"}`},
	} {
		status, _, b := c.send("PUT", x.path, x.body)
		assert.Equal(t, http.StatusConflict, status, "%s: %s", x.path, b)
	}
	name := strings.Repeat("u\u0308", 120) // 240 letters as typed, 120 as read, 240 bytes
	p := ok[studio.Place](c, "PUT", hall+"/objects/"+id(2), map[string]any{"name": "\t" + name + " ", "use": "pack", "mass": "1 kg", "count": 1})
	assert.Equal(t, strings.Repeat("ü", 120), p.Objects[len(p.Objects)-1].Name)
	for _, format := range []string{"csv", "json"} {
		_, _, file := c.send("GET", "/api/places-file?format="+format, "")
		seen := ok[studio.PlacesPreview](c, "POST", "/api/places-file/preview", studio.PlacesText{Text: string(file)})
		assert.Empty(t, seen.Faults)
		assert.Zero(t, seen.New+seen.Changed, "what went out is what is there")
	}
	lost := ok[studio.PlacesPreview](c, "POST", "/api/places-file/preview", studio.PlacesText{Text: "place,item,name,use,mass\nB\ufffdcker,object,Tin,pack,1 kg\n"})
	assert.Contains(t, lost.Faults[0].Message, "lost")
}

// What no studio can have does not come in with a studio's file, each fault with its
// place.
func TestImportRefusesWhatNoStudioHas(t *testing.T) {
	c := hall(t, fixed)
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	ok[studio.Run](c, "PUT", "/api/runs/"+id(3), map[string]any{"occurrenceId": next.ID})
	edited(c, "/api/circuits/"+next.CircuitID+"/edits", map[string]any{"clientId": id(4), "base": 1, "ops": []any{map[string]any{"op": "set-lead-in", "ms": 1}}})
	_, _, file := c.send("GET", "/api/studio/export", "")
	var whole map[string]any
	require.NoError(t, json.Unmarshal(file, &whole))
	class := 0
	for i, k := range whole["classes"].([]any) { // of our own export
		if k.(map[string]any)["id"] == next.ID { // the same
			class = i
		}
	}
	at := fmt.Sprintf("classes.%d.", class)
	for _, x := range []struct {
		path, at string
		value    any
	}{
		{at + "runs.0.plan", "plan", 1.0}, {at + "runs.0.plan.order.stretches", "plan", []any{}}, {at + "runs.0.version", "version", 77.0},
		{at + "circuit.versions.1.inverse", "inverse", []any{map[string]any{"op": "burn"}}}, {at + "circuit.versions.1.inverse", "inverse", []any{map[string]any{"op": "set-lead-in", "ms": 7}}},
		{at + "circuit.versions.1.undoTo", "undoTo", 9.0}, {at + "circuit.versions.1.clientId", "clientId", "demo"}, {at + "circuit.versions.1.kind", "kind", "magic"},
		{at + "lanes.0.people", "lanes", 1500.0}, {at + "date", "date", "0000-01-01"}, {at + "date", "date", "10000-01-01"}, {at + "timeZone", "timeZone", "Local"}, {at + "runs.0.made", "made", "0001-01-01T00:00:00Z"},
		{"places.0.implements.0.mass.decimal", "mass", "1000000000000000000000000"}, {"places.0.implements.0.mass", "mass", nil}, {"places.0.implements.0.kind", "kind", "cannon"},
		{"places.0.implements.0.height", "height", map[string]any{"decimal": "45", "unit": "cm"}}, {"places.0.name", "name", "\u200b"}, {"places.0.containers.0.max", "max", map[string]any{"decimal": "1", "unit": "g"}},
		{at + "people.0.name", "name", "\u202eA"}, {at + "log.0.slot", "slot", "sl\u00f6t"},
	} {
		var f any
		require.NoError(t, json.Unmarshal(file, &f))
		if !set(f, strings.Split(x.path, "."), x.value) {
			continue // this class has none
		}
		b, err := json.Marshal(f)
		require.NoError(t, err)
		status, named := c.locations("POST", "/api/studio/import", string(b))
		assert.Equal(t, 422, status, x.path)
		assert.Contains(t, strings.Join(named, " "), x.at, x.path)
	}
	status, _, b := c.send("POST", "/api/studio/import", string(file))
	assert.Equal(t, 200, status, "the studio's own file: %s", b)
}

// set puts a value at a path of a document, and tells whether there is such a path.
func set(v any, path []string, value any) bool {
	var n int
	switch x := v.(type) {
	case map[string]any:
		if _, ok := x[path[0]]; len(path) == 1 && ok {
			if value == nil {
				delete(x, path[0])
			} else {
				x[path[0]] = value
			}
			return true
		}
		return len(path) > 1 && set(x[path[0]], path[1:], value)
	case []any:
		if _, err := fmt.Sscan(path[0], &n); err != nil || n >= len(x) {
			return false
		}
		return set(x[n], path[1:], value)
	}
	return false
}

// Packed bodies are not unpacked, addresses are told apart by letter case, a wrong method
// is one, and every address that can be read can be asked for its head.
func TestAddressesAndCodings(t *testing.T) {
	c := hall(t, fixed)
	var packed bytes.Buffer
	zip := gzip.NewWriter(&packed)
	for range 64 {
		_, _ = zip.Write(make([]byte, 1<<20))
	}
	require.NoError(t, zip.Close())
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	for _, coding := range []string{"gzip", "GZIP", "br", "deflate", "zstd", "x-unknown", "gzip, gzip"} {
		for _, path := range []string{"/api/studio/import", "/api/calc/load", "/api/read-quantity"} {
			status, head, b := c.send("POST", path, packed.String(), "Content-Encoding", coding)
			assert.Equal(t, http.StatusUnsupportedMediaType, status, "%s %s", coding, path)
			assert.Equal(t, "application/problem+json", head.Get("Content-Type"))
			assert.Contains(t, string(b), "/problems/unsupported")
		}
	}
	runtime.ReadMemStats(&after)
	assert.Less(t, after.TotalAlloc-before.TotalAlloc, uint64(256<<20), "21 bodies of 64 MB unpacked")
	for _, x := range []struct {
		method, path string
		want         int
	}{
		{"POST", "/api/places", 405}, {"DELETE", "/api/studio", 405}, {"PUT", "/api/today", 405}, {"GET", "/API/places", 404}, {"GET", "/api/Places", 404}, {"GET", "/api", 404}, {"POST", "/api/nothing", 404},
		{"GET", "/api/nothing", 404}, {"HEAD", "/api/places", 200}, {"HEAD", "/api/today", 200}, {"POST", "/nowhere", 404},
	} {
		status, head, b := c.send(x.method, x.path, "")
		assert.Equal(t, x.want, status, "%s %s: %s", x.method, x.path, b)
		if strings.HasPrefix(strings.ToLower(x.path), "/api") {
			assert.Equal(t, "no-store", head.Get("Cache-Control"), x.path)
		}
		if x.want == 405 {
			assert.NotEmpty(t, head.Get("Allow"), x.path)
		}
		if x.method == "HEAD" {
			assert.Empty(t, b)
		}
	}
}

// Twenty connections that announce the largest body and send nothing cost no memory; one
// that announces more is refused before it sends; one that never reads is cut; more than
// a peer may have are turned away.
func TestConnectionsCostLittle(t *testing.T) {
	c := hall(t, fixed)
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	const impatience = 300 * time.Millisecond
	usual := c.app.Server().WriteTimeout
	require.Positive(t, usual)
	require.LessOrEqual(t, usual, time.Minute)
	c.app.Server().WriteTimeout = impatience
	go func() { _ = c.app.Listener(ln, fiber.ListenConfig{DisableStartupMessage: true}) }()
	t.Cleanup(func() { _ = c.app.Shutdown() })
	dial := func() net.Conn {
		conn, err := net.Dial("tcp", ln.Addr().String())
		require.NoError(t, err)
		t.Cleanup(func() { _ = conn.Close() })
		return conn
	}
	runtime.GC()
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	head := func(host string, length int) string {
		return fmt.Sprintf("POST /api/studio/import HTTP/1.1\r\nHost: %s\r\nContent-Type: application/json\r\nContent-Length: %d\r\n\r\n", host, length)
	}
	for range 20 {
		_, err := dial().Write([]byte(head("evil.example", 33<<20) + strings.Repeat("x", 100)))
		require.NoError(t, err)
	}
	answered := func(conn net.Conn) string {
		require.NoError(t, conn.SetReadDeadline(time.Now().Add(watchdog)))
		b := make([]byte, 4096)
		n, err := conn.Read(b)
		require.NoError(t, err)
		return string(b[:n])
	}
	large := dial()
	_, err = large.Write([]byte(head("localhost", 40<<20) + strings.Repeat("x", 100_000)))
	require.NoError(t, err)
	assert.Contains(t, answered(large), "413")
	runtime.ReadMemStats(&after)
	assert.Less(t, int64(after.HeapAlloc)-int64(before.HeapAlloc), int64(32<<20), "twenty announced 33 MB each") // far from the limit
	// An address longer than any of ours is refused in the shape of all refusals.
	long := dial()
	_, err = long.Write([]byte("GET /api/places/" + strings.Repeat("a", 10_000) + " HTTP/1.1\r\nHost: localhost\r\n\r\n"))
	require.NoError(t, err)
	assert.Regexp(t, `(?s)^HTTP/1.1 431 .*application/problem\+json.*"type":"/problems/`, answered(long))
	// What follows a body that nobody read is not taken for a request.
	smuggled := dial()
	inside := strings.Repeat("x", 9000) + "GET /api/studio HTTP/1.1\r\nHost: localhost\r\n\r\n" + strings.Repeat("x", 9000)
	_, err = smuggled.Write([]byte(head("evil.example", len(inside)) + inside + "GET /api/health/live HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n"))
	require.NoError(t, err)
	require.NoError(t, smuggled.SetReadDeadline(time.Now().Add(watchdog)))
	all, err := io.ReadAll(smuggled)
	require.NoError(t, err)
	assert.Equal(t, 2, strings.Count(string(all), "HTTP/1.1 "), "%s", all)
	assert.NotContains(t, string(all), "timeZone")
	// What is written to one that never reads is cut off.
	const asked = 400
	slow := dial()
	require.NoError(t, slow.(*net.TCPConn).SetReadBuffer(4096))
	_, err = slow.Write([]byte(strings.Repeat("GET /api/studio/export HTTP/1.1\r\nHost: localhost\r\n\r\n", asked)))
	require.NoError(t, err)
	time.Sleep(4 * impatience) // nothing to wait for: it must not read
	require.NoError(t, slow.SetReadDeadline(time.Now().Add(watchdog)))
	all, err = io.ReadAll(slow)
	assert.NotErrorIs(t, err, os.ErrDeadlineExceeded, "the connection was left open")
	assert.Less(t, bytes.Count(all, []byte("HTTP/1.1 200")), asked/2)

	turned := 0
	for range maxPeer + 20 {
		conn := dial()
		_ = conn.SetReadDeadline(time.Now().Add(50 * time.Millisecond)) // long enough to be turned away at once
		b := make([]byte, 64)
		if n, _ := conn.Read(b); strings.Contains(string(b[:n]), "429") {
			turned++
		}
	}
	assert.Positive(t, turned)
}

// A fault of the database is logged by its number, never with what somebody typed, which
// databases quote in their messages.
func TestLogsQuoteNobody(t *testing.T) {
	c, db := hallOn(t, dbtest.DSN(t))
	_, err := db.ExecContext(t.Context(), `CREATE TRIGGER fault BEFORE INSERT ON place FOR EACH ROW
		SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'Incorrect string value: Aunt Agatha'`)
	require.NoError(t, err)
	var log bytes.Buffer
	before := slog.Default()
	slog.SetDefault(slog.New(slog.NewTextHandler(&log, nil)))
	defer slog.SetDefault(before)
	status, _, b := c.send("PUT", "/api/places/agathaagathaagathaagatha00", `{"name":"Aunt Agatha","kind":"flat","massUnit":"kg"}`)
	assert.Equal(t, 500, status, string(b))
	assert.NotContains(t, string(b), "Agatha")
	assert.Contains(t, log.String(), "error 1644 (45000) of the database")
	assert.NotContains(t, log.String(), "Agatha")
}
