package api

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

// Each limit takes n and refuses n + 1, naming the field.
func TestLimits(t *testing.T) {
	c := hall(t, fixed)
	place := ok[[]studio.Place](c, "GET", "/api/places", nil)[0].ID
	class := func(name string, minutes int, people ...int) string {
		lanes := make([]string, len(people))
		for i, n := range people {
			lanes[i] = fmt.Sprintf(`{"lane":%q,"people":%d}`, []string{"ground", "middle", "reach", "reach"}[i], n)
		}
		return fmt.Sprintf(`{"name":%q,"date":"2026-11-25","time":"10:00","minutes":%d,"placeId":%q,"lanes":[%s]}`, name, minutes, place, strings.Join(lanes, ","))
	}
	bell := func(name, mass string, count int) string {
		return fmt.Sprintf(`{"name":%q,"kind":"kettlebell","mass":%q,"count":%d}`, name, mass, count)
	}
	occurrence, implement := "/api/occurrences/"+id(1), "/api/places/"+place+"/implements/"+id(1)
	long := func(n int) string { return strings.Repeat("n", n) }
	for _, x := range []struct{ path, ok, bad, location string }{
		{occurrence, class(long(120), 45, 1), class(long(121), 45, 1), "body.name"},
		{occurrence, class("C", 5, 1), class("C", 4, 1), "body.minutes"},
		{occurrence, class("C", 240, 1), class("C", 241, 1), "body.minutes"},
		{occurrence, class("C", 45, 500), class("C", 45, 501), "body.lanes[0].people"},
		{occurrence, class("C", 45, 200, 200, 100), class("C", 45, 200, 200, 101), "body.lanes"},
		{occurrence, class("C", 45, 0, 1), class("C", 45, 0, 0), "body.lanes"},
		{occurrence, class("C", 45, 1, 1, 1), class("C", 45, 1, 1, 1, 1), "body.lanes"},
		{implement, bell("B", "300 kg", 1), bell("B", "300.001 kg", 1), "body.mass"},
		{implement, bell("B", "1 g", 1), bell("B", "0.4 g", 1), "body.mass"},
		{implement, bell("B", "16", 500), bell("B", "16", 501), "body.count"},
		{implement, bell("B", strings.Repeat(" ", 38)+"16", 1), bell("B", strings.Repeat(" ", 39)+"16", 1), "body.mass"},
	} {
		status, _, body := c.send("PUT", x.path, x.ok)
		assert.Equal(t, http.StatusOK, status, "%s: %s", x.ok, body)
		status, _, body = c.send("PUT", x.path, x.bad)
		assert.Equal(t, http.StatusUnprocessableEntity, status, x.bad)
		assert.Contains(t, string(body), `"location":"`+x.location+`"`, x.bad)
	}
	sitters := func(n int) string {
		return `{"people":[` + strings.TrimSuffix(strings.Repeat(`{"name":"A","stature":"170 cm"},`, n), ",") + `]}`
	}
	at := "/api/places/" + place
	for _, x := range []struct{ path, ok, bad, location string }{
		{at + "/fit", sitters(40), sitters(41), "body.people"},
		{at + "/make", `{"target":"300 kg","loads":2}`, `{"target":"300.001 kg","loads":2}`, "body.target"},
		{at + "/make", `{"target":"1 kg","loads":2}`, `{"target":"1 kg","loads":3}`, "body.loads"},
		{at + "/fit", `{"people":[{"name":"A","stature":"230 cm"}]}`, `{"people":[{"name":"A","stature":"230.1 cm"}]}`, "body.people[0].stature"},
		{at + "/fit", `{"people":[{"name":"A","stature":"100 cm"}]}`, `{"people":[{"name":"A","stature":"99.9 cm"}]}`, "body.people[0].stature"},
		{at + "/rule", `{"holding":"goblet","move":"goblet-squat","body":"20 kg"}`, `{"holding":"goblet","move":"goblet-squat","body":"19.9 kg"}`, "body.body"},
	} {
		status, _, body := c.send("POST", x.path, x.ok)
		assert.Equal(t, http.StatusOK, status, "%s: %s", x.ok, body)
		status, _, body = c.send("POST", x.path, x.bad)
		assert.Equal(t, http.StatusUnprocessableEntity, status, x.bad)
		assert.Contains(t, string(body), `"location":"`+x.location+`"`, x.bad)
	}
	// Half a gram rounds away from nothing: the least mass is what rounds to 1 g.
	status, _, _ := c.send("PUT", implement, bell("B", "0.5 g", 1))
	assert.Equal(t, http.StatusOK, status)
}

// Every list takes its last row and refuses the next, saying that it is full;
// what is in it can still be changed.
func TestListsAreFull(t *testing.T) {
	c, db := hallOn(t, dbtest.DSN(t))
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	place := ok[[]studio.Place](c, "GET", "/api/places", nil)[0].ID
	run := "/api/runs/" + id(1)
	ok[studio.Run](c, "PUT", run, map[string]any{"occurrenceId": next.ID})
	// fill copies a row of a table until it has one less than it may have.
	fill := func(table, of string, most int, columns ...string) {
		var n int
		require.NoError(t, db.QueryRow("/* a test's */ SELECT COUNT(*) FROM "+table+" WHERE "+of).Scan(&n)) // names of ours
		var names, values []string
		rows, err := db.Query("SELECT column_name FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = ? AND column_name <> 'id'", table)
		require.NoError(t, err)
		defer func() { _ = rows.Close() }()
		for rows.Next() {
			var name string
			require.NoError(t, rows.Scan(&name))
			names = append(names, name)
			if i := slices.Index(columns, name); i >= 0 && (name == "version" || name == "seq") {
				name = fmt.Sprintf("%d + s.seq", n)
			} else if i >= 0 {
				name = "CONCAT('fill', LPAD(s.seq, 22, '0'))"
			} else {
				name = "r." + name
			}
			values = append(values, name)
		}
		_, err = db.Exec(fmt.Sprintf("INSERT INTO %[1]s (%[2]s) SELECT %[3]s FROM (SELECT * FROM %[1]s WHERE %[4]s ORDER BY id LIMIT 1) r JOIN seq_1_to_%[5]d s", // names of ours
			table, strings.Join(names, ","), strings.Join(values, ","), of, most-1-n))
		require.NoError(t, err, table)
	}
	one := func(table, publicID string) string {
		return fmt.Sprintf("%s_id = (SELECT id FROM %s WHERE public_id = '%s')", table, table, publicID)
	}
	ok[studio.RunNow](c, "POST", run+"/events", map[string]any{"clientId": id(1), "kind": "start"})
	ok[studio.Log](c, "PUT", "/api/occurrences/"+next.ID+"/participants/"+id(1), map[string]any{"name": "Ada", "lane": "reach"})
	ok[studio.Place](c, "PUT", "/api/places/"+place+"/containers/"+id(1), map[string]any{"name": "C", "mass": "1 kg", "max": "5 kg"})
	fill("implement", one("place", place), store.MaxItems, "public_id")
	fill("container", one("place", place), store.MaxItems, "public_id")
	fill("place", "TRUE", store.MaxPlaces, "public_id")
	fill("participant", one("occurrence", next.ID), store.MaxParticipants, "public_id")
	fill("run", one("occurrence", next.ID), store.MaxRuns, "public_id")
	fill("run_event", one("run", id(1)), store.MaxRunEvents, "client_id", "seq")
	fill("circuit_version", one("circuit", next.CircuitID), store.MaxVersions, "client_id", "version")
	fill("occurrence", "TRUE", store.MaxClasses, "public_id")
	_, err := db.Exec("/* a test's */ UPDATE circuit c SET c.newest = (SELECT MAX(version) FROM circuit_version v WHERE v.circuit_id = c.id)")
	require.NoError(t, err)
	class := `{"name":"C","date":"2026-11-25","time":"10:00","minutes":45,"placeId":"` + place + `","lanes":[{"lane":"middle","people":1}]}`
	for k, x := range []struct{ method, path, body string }{
		{"PUT", "/api/places/" + place + "/implements/%s", `{"name":"I","kind":"band","count":1}`},
		{"PUT", "/api/places/" + place + "/containers/%s", `{"name":"C","mass":"1 kg","max":"5 kg"}`},
		{"PUT", "/api/places/%s", `{"name":"P","kind":"hall","massUnit":"kg"}`},
		{"PUT", "/api/occurrences/" + next.ID + "/participants/%s", `{"name":"N","lane":"middle"}`},
		{"PUT", "/api/runs/%s", `{"occurrenceId":"` + next.ID + `"}`},
		{"POST", run + "/events", `{"clientId":"%s","kind":"hold"}`},
		{"POST", "/api/circuits/" + next.CircuitID + "/edits", `{"clientId":"%s","base":1,"ops":[{"op":"set-lead-in","ms":2}]}`},
		{"PUT", "/api/occurrences/%s", class},
	} {
		send := func(n int) (int, string) {
			status, _, body := c.send(x.method, strings.Replace(x.path, "%s", id(n), 1), strings.Replace(x.body, "%s", id(n), 1))
			return status, string(body)
		}
		status, body := send(501 + 10*k)
		assert.Equal(t, http.StatusOK, status, "the last of %s: %s", x.path, body)
		status, body = send(502 + 10*k)
		assert.Equal(t, http.StatusUnprocessableEntity, status, "one more of %s: %s", x.path, body)
		assert.Contains(t, body, "the list is full")
		status, body = send(501 + 10*k)
		assert.Equal(t, http.StatusOK, status, "the last again, of %s: %s", x.path, body)
	}
}

// A body of 1 MiB is read and judged, one byte more is refused before that. Asked
// over a real connection: the server may close it while it is still sent.
func TestBodyLimit(t *testing.T) {
	app := New(Config{Now: fixed}).App
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = app.Listener(ln, fiber.ListenConfig{DisableStartupMessage: true}) }()
	defer func() { _ = app.Shutdown() }()
	for size, want := range map[int]int{maxBody: http.StatusBadRequest, maxBody + 1: http.StatusRequestEntityTooLarge} {
		r, err := http.Post("http://"+ln.Addr().String()+"/api/calc/window", "application/json", bytes.NewReader(make([]byte, size)))
		if err != nil { // closed while sending is a refusal too
			assert.Greater(t, size, maxBody)
			continue
		}
		assert.Equal(t, want, r.StatusCode, "%d bytes", size)
		require.NoError(t, r.Body.Close())
	}
}

// No view asks the database more than eight times, however much there is, nor does a
// proposal; an edit does not more than six times, where nothing was kept of what it
// follows from, and once something was, four. Beginning and end of a transaction are not
// counted.
func TestStatementsOfEachView(t *testing.T) {
	c, st := hallAt(t, dbtest.DSN(t), fixed)
	fresh := func() client { return client{t, New(Config{Studios: studio.New(st, fixed), Now: fixed}).App} }
	statements := func() (n int) {
		n, err := st.Statements(t.Context())
		require.NoError(t, err)
		return n
	}
	own := -statements() + statements() // what looking costs
	most := func(least int, name string, c client, method, path string, body any) {
		text, err := json.Marshal(body)
		require.NoError(t, err)
		if body == nil {
			text = nil
		}
		before := statements()
		status, _, answer := c.send(method, path, string(text))
		require.Equal(t, http.StatusOK, status, "%s: %s", name, answer)
		asked := statements() - before - own
		t.Logf("%2d statements: %s", asked, name)
		assert.LessOrEqual(t, asked, least, name)
	}
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	ok[studio.Run](c, "PUT", "/api/runs/"+id(1), map[string]any{"occurrenceId": next.ID})
	ok[progress.Sheet](c, "PUT", "/api/occurrences/"+next.ID+"/log/middle/s1", map[string]any{"done": 9, "inForm": 9, "pain": "none"})
	class, circuit := "/api/occurrences/"+next.ID, "/api/circuits/"+next.CircuitID
	for _, path := range []string{"/api/today", "/api/places", class, circuit, circuit + "/options?slot=s1&party=middle", circuit + "/versions", circuit + "/versions/1", circuit + "/cues",
		circuit + "/take-home?place=" + demo.ID("place/quay") + "&party=middle", "/api/runs/" + id(1), "/api/runs/" + id(1) + "/now", class + "/log"} {
		least := 8
		if path == "/api/today" { // classes, kit, what is planned, run, logged, and what is known of people
			least = 9
		}
		most(least, strings.NewReplacer(next.ID, "{occurrence}", next.CircuitID, "{circuit}").Replace(path), fresh(), "GET", path, nil)
	}
	ok[studio.Circuit](c, "GET", circuit, nil)
	most(2, "a circuit again", c, "GET", circuit, nil)
	revision := func(n int) map[string]any { return map[string]any{"clientId": id(100 + n), "base": n} }
	edit := func(n int) map[string]any {
		r := revision(n)
		r["ops"] = []any{map[string]any{"op": "set-lead-in", "ms": n + 1}}
		return r
	}
	propose := func(n int, lanes ...map[string]any) map[string]any {
		r := revision(n)
		r["brief"] = map[string]any{"minutes": 30 + n, "format": "timed", "bans": []string{}}
		if lanes != nil {
			r["brief"].(map[string]any)["lanes"] = lanes // made above
		}
		return r
	}
	// One more for what is known of those who come by name.
	most(7, "an edit, nothing kept", fresh(), "POST", circuit+"/edits", edit(1))
	warm := fresh()
	most(7, "the first edit of a program", warm, "POST", circuit+"/edits", edit(2))
	most(5, "the next", warm, "POST", circuit+"/edits", edit(3))
	most(7, "undo, nothing kept", fresh(), "POST", circuit+"/undo", revision(4))
	most(9, "a proposal, nothing kept", fresh(), "POST", circuit+"/propose", propose(5))
	most(9, "a proposal for other lanes", fresh(), "POST", circuit+"/propose", propose(6,
		map[string]any{"lane": "ground", "people": 2}, map[string]any{"lane": "middle", "people": 3}, map[string]any{"lane": "reach", "people": 1, "body": "82 kg"}))
	ok[studio.Occurrence](c, "PUT", "/api/occurrences/"+id(7), map[string]any{"name": next.Name, "date": "2026-12-02", "time": "10:00", "minutes": 45, "placeId": next.PlaceID,
		"lanes": []any{map[string]any{"lane": "ground", "people": 2}, map[string]any{"lane": "middle", "people": 3}, map[string]any{"lane": "reach", "people": 1}}})
	create := map[string]any{"occurrenceId": id(7), "clientId": id(8), "brief": propose(1)["brief"]}
	most(9, "a first proposal, nothing kept", fresh(), "PUT", "/api/circuits/"+id(9), create)
}
