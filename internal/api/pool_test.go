package api

import (
	"encoding/json"
	"fmt"
	"maps"
	"net/http"
	"net/http/httptest"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

// writing knows how to ask for every operation of the contract that writes.
type writing struct {
	client
	circuit string // path of the next class's
	ways    map[string]func(n, base int) (path, body string)
	looked  string // hash of what was looked at just before
	mine    string
	places  []byte
	class   string
	// twin is a person who was just put into the class as the participant there.
	twin, there string
	// spare is a place, and a class, that was just made and holds nothing.
	spare string
	// merge is of two people who were just made one.
	merge string
}

func (w *writing) version() int { return ok[studio.Circuit](w.client, "GET", w.circuit, nil).Version }

// each calls f with every writing operation but the calculations, which write nothing. Just
// before, there is something to undo, to redo or to take in.
func (w *writing) each(serial int, f func(method, path string, serial int, write func(n, base int) (path, body string))) {
	paths := New(Config{Now: fixed}).API.OpenAPI().Paths
	for _, path := range slices.Sorted(maps.Keys(paths)) {
		item := paths[path]
		methods := map[string]bool{"PUT": item.Put != nil, "POST": item.Post != nil, "DELETE": item.Delete != nil, "PATCH": item.Patch != nil}
		for _, method := range slices.Sorted(maps.Keys(methods)) {
			write := w.ways[method+" "+path]
			if !methods[method] || strings.HasPrefix(path, "/api/calc/") {
				continue
			}
			require.NotNil(w.t, write, "%s %s: say how to write it", method, path)
			v := w.version()
			edited(w.client, w.circuit+"/edits", map[string]any{"clientId": id(900_000 + v), "base": v, "ops": []any{map[string]any{"op": "set-lead-in", "ms": 1 + v%9}}})
			if strings.HasSuffix(path, "/redo") {
				edited(w.client, w.circuit+"/undo", map[string]any{"clientId": id(800_000 + serial), "base": w.version()})
			}
			if strings.HasPrefix(path, "/api/people") || strings.HasSuffix(path, "/{participant}") && method == "DELETE" {
				log := ok[studio.Log](w.client, "PUT", w.class+"/participants/"+id(serial), map[string]any{"name": fmt.Sprint("Twin ", serial), "lane": "middle"})
				w.twin, w.there = log.Sheets[len(log.Sheets)-1].Who, id(serial)
			}
			var looked struct{ Hash string }
			switch path {
			case "/api/own-moves/import":
				looked = ok[struct{ Hash string }](w.client, "POST", "/api/own-moves/preview", json.RawMessage(w.mine))
			case "/api/people-file/import":
				looked = ok[struct{ Hash string }](w.client, "POST", "/api/people-file/preview",
					map[string]any{"text": "name,id\nFiled," + w.twin + "\n"})
			case "/api/places-file/import":
				looked = ok[struct{ Hash string }](w.client, "POST", "/api/places-file/preview", json.RawMessage(w.places))
			}
			w.looked = looked.Hash
			w.spare = id(700_000 + serial)
			switch whose := "/api/people/" + w.twin; {
			case method == "DELETE" && strings.HasSuffix(path, "/records/{record}"):
				ok[studio.PersonPage](w.client, "PUT", whose+"/records/"+w.spare, map[string]any{"date": "2026-11-25", "limit": map[string]any{"limit": "no-impact"}})
			case method == "DELETE" && strings.HasSuffix(path, "/health/{record}"):
				ok[studio.Health](w.client, "PUT", whose+"/health/"+w.spare, map[string]any{"date": "2026-11-25", "changed": true})
			case strings.HasSuffix(path, "/join/{merge}"):
				ok[studio.Person](w.client, "PUT", "/api/people/"+w.spare, map[string]any{"name": "Other"})
				ok[studio.Person](w.client, "POST", whose+"/join", map[string]any{"personId": w.spare})
				w.merge = ok[studio.PersonPage](w.client, "GET", whose, nil).Merges[0].ID
			case path == "/api/places/{place}" && method == "DELETE", strings.HasSuffix(path, "/bring-back"):
				ok[studio.Place](w.client, "PUT", "/api/places/"+w.spare, map[string]any{"name": "Spare", "kind": "hall", "massUnit": "kg"})
			case path == "/api/occurrences/{occurrence}" && method == "DELETE":
				ok[studio.Occurrence](w.client, "PUT", "/api/occurrences/"+w.spare, map[string]any{"name": "Spare", "date": "2026-11-25", "time": "11:00",
					"minutes": 45, "placeId": demo.ID("place/hall"), "lanes": []any{map[string]any{"lane": "middle", "people": 1}}})
			}
			f(method, path, serial, write)
			serial += 64
		}
	}
}

func writesOf(c client) *writing {
	t := c.t
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	hall, circuit := demo.ID("place/hall"), "/api/circuits/"+next.CircuitID
	ok[studio.Run](c, "PUT", "/api/runs/"+id(3), map[string]any{"occurrenceId": next.ID})
	own, err := json.Marshal(ownSquat(t))
	require.NoError(t, err)
	_, _, file := c.send("GET", "/api/studio/export", "")
	var whole map[string]any
	require.NoError(t, json.Unmarshal(file, &whole))
	whole["classes"] = whole["classes"].([]any)[:2] // sixty-four bring it in at once
	file, err = json.Marshal(whole)
	require.NoError(t, err)
	_, _, csv := c.send("GET", "/api/places-file", "")
	places, err := json.Marshal(studio.PlacesText{Text: string(csv)})
	require.NoError(t, err)
	w := &writing{client: c, circuit: circuit, places: places, class: "/api/occurrences/" + next.ID}
	known := ok[[]studio.Person](c, "GET", "/api/people", nil)
	require.NotEmpty(t, known)
	somebody := known[0].ID
	group := ok[[]studio.Group](c, "GET", "/api/groups", nil)[0].ID
	w.mine = `{"format":"nimbleanvil-moves","v":1,"moves":[` + string(own) + `]}`
	revision := func(n, base int) string { return fmt.Sprintf(`"clientId":%q,"base":%d`, id(n), base) }
	brief := `"brief":{"minutes":30,"format":"timed","bans":[]}`
	w.ways = map[string]func(n, base int) (path, body string){
		"PUT /api/studio": func(n, _ int) (string, string) {
			return "/api/studio", fmt.Sprintf(`{"name":"Hall %d","timeZone":"UTC","massUnit":"kg","language":"en"}`, n)
		},
		"POST /api/studio/import": func(int, int) (string, string) { return "/api/studio/import", string(file) },
		"PUT /api/prep":           func(int, int) (string, string) { return "/api/prep", `{"steps":[{"move":"march-on-the-spot"}]}` },
		"PUT /api/style":          func(int, int) (string, string) { return "/api/style", `{"studio":{"knees":"behind"},"moves":{}}` },
		"PUT /api/paces":          func(int, int) (string, string) { return "/api/paces", `{"what":"teach","use":false}` },
		"PUT /api/own-moves/{move}": func(int, int) (string, string) {
			return "/api/own-moves/own-crate-squat", string(own)
		},
		"POST /api/own-moves/preview": func(int, int) (string, string) { return "/api/own-moves/preview", w.mine },
		"POST /api/own-moves/import": func(int, int) (string, string) {
			return "/api/own-moves/import", `{"hash":"` + w.looked + `","file":` + w.mine + `}`
		},
		"PUT /api/places/{place}": func(n, _ int) (string, string) {
			return "/api/places/" + id(n%20), `{"name":"P","kind":"hall","massUnit":"kg"}`
		},
		"DELETE /api/places/{place}":          func(int, int) (string, string) { return "/api/places/" + w.spare, "" },
		"POST /api/places/{place}/bring-back": func(int, int) (string, string) { return "/api/places/" + w.spare + "/bring-back", `{}` },
		"DELETE /api/occurrences/{occurrence}": func(int, int) (string, string) {
			return "/api/occurrences/" + w.spare, ""
		},
		"PUT /api/places/{place}/implements/{item}": func(n, _ int) (string, string) {
			return "/api/places/" + hall + "/implements/" + id(n), `{"name":"I","kind":"kettlebell","mass":"8 kg","count":1}`
		},
		"PUT /api/places/{place}/objects/{item}": func(n, _ int) (string, string) {
			return "/api/places/" + hall + "/objects/" + id(n), `{"name":"O","use":"pack","mass":"1 kg","count":1}`
		},
		"PUT /api/places/{place}/containers/{item}": func(n, _ int) (string, string) {
			return "/api/places/" + hall + "/containers/" + id(n), `{"name":"C","mass":"1 kg","max":"5 kg"}`
		},
		"DELETE /api/places/{place}/implements/{item}": func(int, int) (string, string) {
			return "/api/places/" + hall + "/implements/" + demo.ID("hall/Bell16"), ""
		},
		"DELETE /api/places/{place}/objects/{item}":    func(n, _ int) (string, string) { return "/api/places/" + hall + "/objects/" + id(n), "" },
		"DELETE /api/places/{place}/containers/{item}": func(n, _ int) (string, string) { return "/api/places/" + hall + "/containers/" + id(n), "" },
		"POST /api/places/{place}/weigh-object": func(int, int) (string, string) {
			return "/api/places/" + hall + "/weigh-object", `{"name":"O","use":"pack","mass":"1 kg","count":1}`
		},
		"POST /api/places/{place}/make": func(int, int) (string, string) { return "/api/places/" + hall + "/make", `{"target":"9 kg","loads":1}` },
		"POST /api/places/{place}/rule": func(int, int) (string, string) {
			return "/api/places/" + hall + "/rule", `{"holding":"goblet","move":"goblet-squat"}`
		},
		"POST /api/places/{place}/substitutes": func(int, int) (string, string) {
			return "/api/places/" + hall + "/substitutes", `{"move":"goblet-squat","hold":"goblet","lane":"middle","reps":10,"reserve":2}`
		},
		"POST /api/places/{place}/bridge": func(int, int) (string, string) {
			return "/api/places/" + hall + "/bridge", `{"move":"goblet-squat","hold":"goblet","from":"12 kg","to":"16 kg","repsLow":8,"repsHigh":12,"lastReps":12,"sessionsOver":1,"reserve":2}`
		},
		"POST /api/places/{place}/fit": func(int, int) (string, string) {
			return "/api/places/" + hall + "/fit", `{"people":[{"name":"A","stature":"170 cm"}]}`
		},
		"POST /api/places-file/preview": func(int, int) (string, string) { return "/api/places-file/preview", string(places) },
		"POST /api/places-file/import": func(int, int) (string, string) {
			return "/api/places-file/import", strings.TrimSuffix(string(places), "}") + `,"hash":"` + w.looked + `"}`
		},
		"POST /api/read-quantity": func(int, int) (string, string) {
			return "/api/read-quantity", `{"text":"16","unit":"kg","kind":"mass"}`
		},
		"PUT /api/scale/stand-in": func(int, int) (string, string) { return "/api/scale/stand-in", `{"hang":"5 kg","fault":"none"}` },
		"POST /api/scale/tare":    func(int, int) (string, string) { return "/api/scale/tare", "" },
		"POST /api/scale/take":    func(int, int) (string, string) { return "/api/scale/take", "" },
		"PUT /api/occurrences/{occurrence}": func(n, _ int) (string, string) {
			return "/api/occurrences/" + id(n), `{"name":"C","date":"2026-11-25","time":"10:00","minutes":45,"placeId":"` + hall + `","lanes":[{"lane":"middle","people":1}]}`
		},
		"PUT /api/occurrences/{occurrence}/participants/{participant}": func(n, _ int) (string, string) {
			return "/api/occurrences/" + next.ID + "/participants/" + id(n), `{"name":"N","lane":"middle"}`
		},
		"DELETE /api/occurrences/{occurrence}/participants/{participant}": func(int, int) (string, string) {
			return w.class + "/participants/" + w.there, ""
		},
		"PUT /api/people/{person}":    func(n, _ int) (string, string) { return "/api/people/" + w.twin, fmt.Sprintf(`{"name":"Ada %d"}`, n) },
		"DELETE /api/people/{person}": func(int, int) (string, string) { return "/api/people/" + w.twin, "" },
		"DELETE /api/people/{person}/join/{merge}": func(int, int) (string, string) {
			return "/api/people/" + w.twin + "/join/" + w.merge, ""
		},
		"PUT /api/people/{person}/groups": func(int, int) (string, string) {
			return "/api/people/" + w.twin + "/groups", `{"groups":["` + group + `"]}`
		},
		"PUT /api/people/{person}/records/{record}": func(n, _ int) (string, string) {
			return "/api/people/" + w.twin + "/records/" + id(n), `{"date":"2026-11-25","measure":{"body":"71.5 kg"}}`
		},
		"DELETE /api/people/{person}/records/{record}": func(int, int) (string, string) {
			return "/api/people/" + w.twin + "/records/" + w.spare, ""
		},
		"PUT /api/people/{person}/health/{record}": func(n, _ int) (string, string) {
			return "/api/people/" + w.twin + "/health/" + id(n), `{"date":"2026-11-25","answers":{"version":1,"yes":["pregnancy"]}}`
		},
		"DELETE /api/people/{person}/health/{record}": func(int, int) (string, string) {
			return "/api/people/" + w.twin + "/health/" + w.spare, ""
		},
		"PUT /api/occurrences/{occurrence}/attendance": func(n, _ int) (string, string) {
			return "/api/occurrences/" + next.ID + "/attendance", fmt.Sprintf(`{"here":[{"id":%q,"name":"Att %d","lane":"reach"}],"gone":[]}`, id(n), n)
		},
		"POST /api/people-file/preview": func(n, _ int) (string, string) {
			return "/api/people-file/preview", fmt.Sprintf(`{"text":"name\nFiled %d\n"}`, n)
		},
		"POST /api/people-file/import": func(int, int) (string, string) {
			return "/api/people-file/import", `{"text":"name,id\nFiled,` + w.twin + `\n","hash":"` + w.looked + `"}`
		},
		"POST /api/people/{person}/join": func(int, int) (string, string) {
			return "/api/people/" + w.twin + "/join", `{"personId":"` + somebody + `"}`
		},
		"POST /api/people/{person}/part": func(n, _ int) (string, string) {
			return "/api/people/" + w.twin + "/part", fmt.Sprintf(`{"personId":%q,"participants":[%q]}`, id(n), w.there)
		},
		"PUT /api/occurrences/{occurrence}/log/{subject}/{slot}": func(n, _ int) (string, string) {
			return "/api/occurrences/" + next.ID + "/log/middle/s1", fmt.Sprintf(`{"done":%d,"inForm":0,"pain":"none","device":%q,"n":%d}`, n%100, id(n%7), n+1)
		},
		"POST /api/occurrences/{occurrence}/log/{subject}/sore": func(n, _ int) (string, string) {
			return "/api/occurrences/" + next.ID + "/log/middle/sore", fmt.Sprintf(`{"region":"knee","device":%q,"n":%d}`, id(n%7), n+1)
		},
		"POST /api/occurrences/{occurrence}/log/as-planned": func(int, int) (string, string) { return "/api/occurrences/" + next.ID + "/log/as-planned", `{}` },
		"PUT /api/circuits/{circuit}": func(_, _ int) (string, string) {
			return circuit, `{"occurrenceId":"` + next.ID + `","clientId":"` + id(1) + `",` + brief + `}`
		},
		"POST /api/circuits/{circuit}/edits": func(n, base int) (string, string) {
			return circuit + "/edits", "{" + revision(n, base) + `,"ops":[{"op":"set-lead-in","ms":2}]}`
		},
		"POST /api/circuits/{circuit}/day": func(n, base int) (string, string) {
			return circuit + "/day", "{" + revision(n, base) + fmt.Sprintf(`,"day":{"fewer":[{"lane":"ground","people":%d}]}}`, n%2)
		},
		"POST /api/circuits/{circuit}/slots": func(n, base int) (string, string) {
			return circuit + "/slots", "{" + revision(n, base) + `,"blockId":"b3","pattern":"squat","place":0}`
		},
		"POST /api/circuits/{circuit}/fit":  func(n, base int) (string, string) { return circuit + "/fit", "{" + revision(n, base) + "}" },
		"POST /api/circuits/{circuit}/undo": func(n, base int) (string, string) { return circuit + "/undo", "{" + revision(n, base) + "}" },
		"POST /api/circuits/{circuit}/redo": func(n, base int) (string, string) { return circuit + "/redo", "{" + revision(n, base) + "}" },
		"POST /api/circuits/{circuit}/again": func(n, base int) (string, string) {
			return circuit + "/again", "{" + revision(n, base) + `,"from":{"circuitId":"` + next.CircuitID + `"}}`
		},
		"PUT /api/templates/{template}": func(n, _ int) (string, string) {
			return "/api/templates/" + id(n%3), `{"name":"T","circuitId":"` + next.CircuitID + `"}`
		},
		"DELETE /api/templates/{template}": func(n, _ int) (string, string) { return "/api/templates/" + id(n%3), "" },
		"POST /api/circuits/{circuit}/propose": func(n, base int) (string, string) {
			return circuit + "/propose", "{" + revision(n, base) + "," + brief + "}"
		},
		"POST /api/circuits/{circuit}/restore": func(n, base int) (string, string) {
			return circuit + "/restore", "{" + revision(n, base) + `,"version":1}`
		},
		"PUT /api/runs/{run}": func(n, _ int) (string, string) { return "/api/runs/" + id(n), `{"occurrenceId":"` + next.ID + `"}` },
		"POST /api/runs/{run}/events": func(n, _ int) (string, string) {
			return "/api/runs/" + id(3) + "/events", fmt.Sprintf(`{"clientId":%q,"kind":"hold","device":%q,"n":%d}`, id(n), id(n%7), n+1)
		},
	}
	return w
}

// Sixty-four clients at once, and two connections: on every writing operation of the
// contract none fails and none waits for a connection that is held by one that waits for
// it. What cannot be twice is a conflict.
func TestMoreWritersThanConnections(t *testing.T) {
	const writers, connections = 64, 2
	dsn := dbtest.DSN(t)
	hallOn(t, dsn)
	st, err := store.OpenPool(dsn, fixed, connections)
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	_, err = st.EnsureStudio(t.Context(), store.Studio{})
	require.NoError(t, err)
	c := client{t, New(Config{Studios: studio.New(st, fixed), Now: fixed}).App}
	w := writesOf(c)
	w.each(1000, func(method, path string, serial int, write func(n, base int) (string, string)) {
		base := w.version()
		statuses := make([]int, writers)
		var wg sync.WaitGroup
		for i := range writers {
			wg.Go(func() {
				path, body := write(serial+i, base)
				r := httptest.NewRequest(method, path, strings.NewReader(body))
				r.Host = "localhost"
				if body != "" {
					r.Header.Set("Content-Type", "application/json")
				}
				resp, err := c.app.Test(r, fiber.TestConfig{Timeout: watchdog, FailOnTimeout: true})
				if assert.NoError(t, err, "%s %s", method, path) {
					statuses[i] = resp.StatusCode
					_ = resp.Body.Close()
				}
			})
		}
		wg.Wait()
		for _, s := range statuses {
			assert.True(t, s > 0 && s < 500, "%s %s: %v", method, path, statuses)
		}
		takes := slices.Contains([]string{"/api/scale/take", "/api/scale/tare"}, path) // nothing that is steady need hang there
		assert.True(t, takes || slices.ContainsFunc(statuses, func(s int) bool { return s == http.StatusOK || s == http.StatusNotFound }), "%s %s: %v", method, path, statuses)
	})
}
