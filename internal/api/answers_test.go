package api

import (
	"bytes"
	"encoding/json"
	"net/http"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/studio"
)

// answers holds real answers against the contract, by a validator of JSON Schema 2020-12,
// which is what OpenAPI 3.1 is written in (OpenAPI Specification 3.1, Schema Object).
type answers struct {
	t     *testing.T
	rules *jsonschema.Compiler
	ways  []way
	seen  map[string]bool // operations that were answered with a 2xx
}

// way is an operation and what its path looks like.
type way struct {
	id, method, path string
	like             *regexp.Regexp
	// schemas of JSON bodies by status; "" for a body that is no JSON.
	bodies map[string]string
}

func newAnswers(t *testing.T) *answers {
	t.Helper()
	b, err := json.Marshal(New(Config{Now: fixed}).API.OpenAPI())
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(b))
	require.NoError(t, err)
	a := &answers{t: t, rules: jsonschema.NewCompiler(), seen: map[string]bool{}}
	a.rules.DefaultDraft(jsonschema.Draft2020)
	a.rules.AssertFormat()
	require.NoError(t, a.rules.AddResource("contract.json", doc))
	var contract struct {
		Paths map[string]map[string]struct {
			OperationID string
			Responses   map[string]struct{ Content map[string]any }
		}
	}
	require.NoError(t, json.Unmarshal(b, &contract))
	escape := strings.NewReplacer("~", "~0", "/", "~1")
	for path, methods := range contract.Paths {
		like := regexp.MustCompile("^" + regexp.MustCompile(`\\\{[a-z]+\\\}`).ReplaceAllString(regexp.QuoteMeta(path), "[^/]+") + "$")
		for method, op := range methods {
			w := way{op.OperationID, strings.ToUpper(method), path, like, map[string]string{}}
			for status, r := range op.Responses {
				for kind := range r.Content {
					if strings.HasSuffix(kind, "json") {
						w.bodies[status] = "contract.json#/paths/" + escape.Replace(path) + "/" + method + "/responses/" + status + "/content/" + escape.Replace(kind) + "/schema"
					}
				}
			}
			a.ways = append(a.ways, w)
		}
	}
	return a
}

// hold compares an answer with what the contract says of it.
func (a *answers) hold(method, path string, status int, head http.Header, body []byte) {
	path, _, _ = strings.Cut(path, "?")
	var of *way
	for i, w := range a.ways {
		if w.method == method && w.like.MatchString(path) && (of == nil || strings.Count(w.path, "{") < strings.Count(of.path, "{")) {
			of = &a.ways[i]
		}
	}
	if of == nil || status == http.StatusNotModified {
		return
	}
	if status < 300 {
		a.seen[of.id] = true
	}
	where, ok := of.bodies[strconv.Itoa(status)]
	if !ok {
		where, ok = of.bodies["default"]
	}
	if !ok || !strings.Contains(head.Get("Content-Type"), "json") {
		return
	}
	rule, err := a.rules.Compile(where)
	require.NoError(a.t, err, where)
	v, err := jsonschema.UnmarshalJSON(bytes.NewReader(body))
	require.NoError(a.t, err)
	assert.NoError(a.t, rule.Validate(v), "%s %s: %d", method, path, status)
}

// Every operation of the contract, asked for real, answers what the contract says: those
// that write twice over, so that what they refuse is held against it too.
func TestAnswersKeepTheContract(t *testing.T) {
	at := now // moves on only where somebody must wait
	c, _ := hallAt(t, dbtest.DSN(t), func() time.Time { return at })
	a := newAnswers(t)
	ask := func(method, path, body string) {
		status, head, answer := c.send(method, path, body)
		a.hold(method, path, status, head, answer)
	}
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	w := writesOf(c)
	w.each(7000, func(method, path string, serial int, write func(n, base int) (string, string)) {
		if path == "/api/scale/take" || path == "/api/scale/tare" {
			for _, hang := range []string{"", "5 kg"} {
				ok[ScaleReading](c, "PUT", "/api/scale/stand-in", map[string]any{"hang": hang, "fault": "none"})
				at = at.Add(10 * time.Second) // it hangs still
				if hang == "" {
					ok[ScaleReading](c, "POST", "/api/scale/tare", nil)
				}
			}
		}
		for n := range 2 {
			to, body := write(serial+n, w.version())
			if put := w.ways["PUT "+path]; method == "DELETE" && put != nil {
				_, there := put(serial+n, 0)
				c.send("PUT", to, there)
			}
			ask(method, to, body)
		}
		to, _ := write(serial+2, w.version())
		ask(method, to, `{"nobody":1}`)
	})
	whose := "/api/people/" + ok[[]studio.Person](c, "GET", "/api/people", nil)[0].ID
	class, circuit := "/api/occurrences/"+next.ID, "/api/circuits/"+next.CircuitID
	for _, path := range []string{"/api/studio", "/api/studio/export", "/api/style", "/api/library", "/api/moves", "/api/own-moves", "/api/footwork", "/api/household", "/api/clock",
		"/api/places", "/api/put-away", "/api/places-file", "/api/places-file?format=json", "/api/moves/at/" + next.PlaceID, "/api/scale", "/api/today", "/api/people", whose + "/classes", whose, whose + "/health", whose + "/export", "/api/groups", "/api/health-questions", "/api/people-file", "/api/people-file?format=json", class + "/regulars", class, class + "/log", class + "/log/middle/s1/overtaken",
		circuit, circuit + "/options?slot=s1&party=middle", circuit + "/versions", circuit + "/versions/1", circuit + "/cues", circuit + "/patterns?block=b3", circuit + "/written-out?block=b1", "/api/places/" + next.PlaceID + "/bridge",
		circuit + "/take-home?place=" + demo.ID("place/quay") + "&party=middle", "/api/runs/" + id(3), "/api/runs/" + id(3) + "/now",
		"/api/runs/" + id(3) + "/options?slot=s1&party=middle", "/api/runs/" + id(3) + "/timings", "/api/paces", "/api/templates", class + "/sessions", circuit + "/beside/" + next.CircuitID,
		circuit + "/rehearsal", circuit + "/hall", circuit + "/why-not?slot=s1&party=middle&move=goblet-squat"} {
		ask("GET", path, "")
		ask("GET", strings.Replace(path, next.ID, id(999), 1), "")
	}
	for _, w := range a.ways {
		if !strings.HasPrefix(w.path, "/api/calc/") { // their answers have schemas and tables of their own
			assert.True(t, a.seen[w.id], "%s was never answered", w.id)
		}
	}
}
