package api

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/json"
	"flag"
	"fmt"
	"maps"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"regexp"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

var (
	attackCases = flag.Int("attacks", 200, "bad requests to each operation of the contract")
	attackOnly  = flag.String("attackonly", "", "only operations whose address has this in it")
	attackSeed  = flag.Uint64("attackseed", 10, "seed of the bad requests")
)

// What no refused request may cost. The goal for an answer is two seconds, the watchdog
// ten times that; a composed circuit may take its deadline and a second more.
const (
	mostRefused = 64 << 10
	watchdog    = 20 * time.Second
)

// attacker makes requests from the contract's own document.
type attacker struct {
	r       *rand.Rand
	schemas map[string]any
	known   map[string][]string // real ids, by the name of a parameter
}

// at follows references to a schema.
func (a *attacker) at(s any) map[string]any {
	m, _ := s.(map[string]any)
	for m != nil && m["$ref"] != nil {
		ref, _ := m["$ref"].(string)
		m, _ = a.schemas[ref[strings.LastIndex(ref, "/")+1:]].(map[string]any)
	}
	return m
}

func pick[T any](r *rand.Rand, list ...T) T { return list[r.IntN(len(list))] }

var texts = []string{"16 kg", "45 cm", "1.5 l", "35 lb", "9", "squat", "goblet-squat", "goblet", "none", "s1", "middle", "UTC", "Europe/Berlin", "2-0-2-0", "knee", "hinge", "Noon", "all", "split", "hall"}

// value makes something that a schema allows, or nearly: what only the rules know it does
// not.
func (a *attacker) value(s any, deep int) any {
	m := a.at(s)
	if enum, ok := m["enum"].([]any); ok {
		return pick(a.r, enum...)
	}
	if many, ok := m["oneOf"].([]any); ok {
		return a.value(pick(a.r, many...), deep)
	}
	kind, _ := m["type"].(string)
	if kinds, ok := m["type"].([]any); ok {
		kind, _ = kinds[0].(string)
	}
	number := func(key string, otherwise float64) float64 {
		if n, ok := m[key].(float64); ok {
			return n
		}
		return otherwise
	}
	switch kind {
	case "object":
		out := map[string]any{}
		props, _ := m["properties"].(map[string]any)
		required, _ := m["required"].([]any)
		for _, name := range slices.Sorted(maps.Keys(props)) {
			if slices.Contains(required, any(name)) || deep < 6 && a.r.IntN(3) == 0 {
				out[name] = a.value(props[name], deep+1)
			}
		}
		if more, ok := m["additionalProperties"].(map[string]any); ok && deep < 6 {
			out[pick(a.r, "middle", "ground", "knee", "goblet", "squat")] = a.value(more, deep+1)
		}
		return out
	case "array":
		out := []any{}
		for range int(min(number("maxItems", 3), max(number("minItems", 0), float64(a.r.IntN(3))))) {
			out = append(out, a.value(m["items"], deep+1))
		}
		return out
	case "integer", "number":
		low, high := number("minimum", 0), number("maximum", 100)
		n := low + a.r.Float64()*(min(high, low+200)-low)
		if kind == "integer" {
			return float64(int64(n))
		}
		return n
	case "boolean":
		return a.r.IntN(2) == 0
	case "string":
		pattern, _ := m["pattern"].(string)
		for range 40 {
			text := pick(a.r, append(append([]string{"2026-11-25", "18:30", "own-crate-squat", "7", "x"}, texts...), a.known[""]...)...)
			if pattern == "" || regexp.MustCompile(pattern).MatchString(text) {
				return text
			}
		}
		return id(a.r.IntN(50))
	}
	return pick[any](a.r, map[string]any{}, []any{}, "x", 1.0)
}

// Letters that are none, that cannot be seen, that turn others around, and those that
// something behind the program might take for its own.
var nasty = []string{"", " ", "\x00", "a\nb", "\u202eabc", "\u200b", "\ufeff", "e\u0301\u0301\u0301", "'; DROP TABLE studio; --", "%s%n", "../../etc/passwd", "<script>", "0000-01-01", "10000-01-01", "-1", "1e309",
	"１６ kg", "Local", "posixrules", "\U0001f3cb\ufe0f", strings.Repeat("ä", 5000), strings.Repeat("[", 3000), "\uffff", "99:99", "1e9 kg"}

// spoil puts something that cannot be into a document, in one place or more, and tells
// whether it must be refused whatever the rules say: a field nobody knows, another shape,
// null.
func (a *attacker) spoil(v any) (bad any, sure bool) {
	switch x := v.(type) {
	case map[string]any:
		keys := slices.Sorted(maps.Keys(x))
		if len(keys) == 0 || a.r.IntN(6) == 0 {
			x[pick(a.r, "strange", "Name", "__proto__", "a.b[0]", "\u202e")] = pick[any](a.r, 1.0, "x", nil, map[string]any{})
			return x, false // of a map with any names it may be right
		}
		k := pick(a.r, keys...)
		if a.r.IntN(8) == 0 {
			delete(x, k)
			return x, false
		}
		x[k], sure = a.spoil(x[k])
		return x, sure
	case []any:
		switch {
		case len(x) > 0 && a.r.IntN(3) > 0:
			i := a.r.IntN(len(x))
			x[i], sure = a.spoil(x[i])
			return x, sure
		case len(x) > 0:
			return slices.Repeat(x[:min(len(x), 5)], 2+a.r.IntN(100)), false
		}
		return pick[any](a.r, "list", map[string]any{}, nil, 3.0), true
	case float64:
		return pick[any](a.r, -1.0, 1e300, 1e-308, -1e18, 9.3e18, 0.5, "7", nil, []any{x}), false
	case string:
		return pick[any](a.r, any(pick(a.r, nasty...)), pick(a.r, nasty...), 7.0, nil, []any{x}, map[string]any{"x": x}), false
	}
	if _, yes := v.(bool); !yes {
		return v, false // broken before
	}
	return pick[any](a.r, "yes", 1.0, nil, []any{v}), true
}

// spoilBytes breaks the document itself. All of it must be refused.
func (a *attacker) spoilBytes(b []byte) []byte {
	s := string(b)
	colon := strings.Index(s, `":`)
	switch a.r.IntN(11) {
	case 0:
		return b[:a.r.IntN(len(b))]
	case 1:
		return append(b, pick(a.r, " x", "{}", "]", "\x00")...)
	case 2:
		return []byte(pick(a.r, "", " ", "NaN", "nul", "'a'", "\xef\xbb\xbf", "{,}", "01"))
	case 3:
		return []byte(strings.Repeat(pick(a.r, "[", `{"a":`), 100_000))
	case 4: // a name twice
		if end := strings.IndexByte(s, '"'); colon > 0 && end >= 0 {
			name := s[end : colon+1]
			return []byte("{" + name + ":1," + s[1:])
		}
	case 5: // bytes that are not text
		if i := strings.LastIndexByte(s, '"'); i > 0 {
			return []byte(s[:i] + pick(a.r, "\xff", "\xc3\x28", "\xed\xa0\x80") + s[i:])
		}
	case 6: // half of a pair
		if i := strings.LastIndexByte(s, '"'); i > 0 {
			return []byte(s[:i] + pick(a.r, `\ud800`, `\udc00`, `\ud83d\u0041`) + s[i:])
		}
	case 7:
		if colon > 0 {
			return []byte(s[:colon+2] + pick(a.r, "NaN", "Infinity", "1e999", "-1e999", "0x10", "+1", ".5", "1.") + "}")
		}
	case 8: // thousands of fields nobody knows
		var all strings.Builder
		for i := range 3200 {
			fmt.Fprintf(&all, `"f%d":%d,`, i, i)
		}
		return []byte("{" + all.String() + `"z":1}`)
	case 9:
		return []byte(`{"` + strings.Repeat("k", 300_000) + `":1}`)
	}
	return []byte(`[` + strings.Repeat(`"x",`, 1+a.r.IntN(50_000)) + `1]`)
}

// reply is what came of a request.
type reply struct {
	status int
	body   []byte
	took   time.Duration
}

// Every operation of the contract and every calculation is sent requests made bad from
// its own document. None may cost a 5xx, a hang, or a long answer to a refusal; a refusal
// names each wrong field once; what must be refused is, and leaves the database as it was.
func TestContractUnderAttack(t *testing.T) {
	c, st := hallAt(t, dbtest.DSN(t), fixed)
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	ok[studio.Run](c, "PUT", "/api/runs/"+id(3), map[string]any{"occurrenceId": next.ID})
	ok[studio.Log](c, "PUT", "/api/occurrences/"+next.ID+"/participants/"+id(4), map[string]any{"name": "Ada", "lane": "middle"})
	b, err := json.Marshal(New(Config{Now: fixed}).API.OpenAPI())
	require.NoError(t, err)
	var doc struct {
		Paths      map[string]map[string]map[string]any
		Components struct{ Schemas map[string]any }
	}
	require.NoError(t, json.Unmarshal(b, &doc))
	a := &attacker{r: rand.New(rand.NewPCG(*attackSeed, 1)), schemas: doc.Components.Schemas, known: map[string][]string{
		"place": {demo.ID("place/hall"), demo.ID("place/quay")}, "circuit": {next.CircuitID}, "occurrence": {next.ID}, "run": {id(3)}, "participant": {id(4)},
		"item": {demo.ID("hall/Bell16"), id(7)}, "subject": {"middle", id(4)}, "slot": {"s1"}, "version": {"1"}, "move": {"own-crate-squat"}, "party": {"middle", id(4)}, "person": {id(9)}, "name": {"Ada"}, "format": {"csv", "json"},
		"before": {"2"}, "try": {"true", "false"}}}
	for _, list := range a.known {
		a.known[""] = append(a.known[""], list...)
	}
	counts, sent, slowest, largest := map[int]int{}, 0, reply{}, reply{}
	peak := watchMemory(t)
	for _, path := range slices.Sorted(maps.Keys(doc.Paths)) {
		if !strings.Contains(path, *attackOnly) {
			continue
		}
		for _, method := range slices.Sorted(maps.Keys(doc.Paths[path])) {
			op := doc.Paths[path][method]
			name := strings.ToUpper(method) + " " + path
			before := fingerprint(t, st)
			changed := false
			for i := range *attackCases {
				request, body, kind, must := a.request(method, path, op)
				got := c.attack(t, request)
				sent++
				counts[got.status]++
				if got.took > slowest.took {
					slowest = got
				}
				what := fmt.Sprintf("%s, case %d (%s), %s: %d", name, i, kind, cutTo(body, 3000), got.status)
				require.Less(t, got.status, 500, "%s\n%s", what, cutTo(got.body, 2000))
				if got.status < 300 {
					require.False(t, must, "%s: it must be refused", what)
					changed = true
					continue
				}
				if len(got.body) > len(largest.body) {
					largest = got
				}
				require.LessOrEqual(t, len(got.body), mostRefused, what)
				var p struct {
					Type   string
					Errors []struct{ Location string }
				}
				if len(got.body) > 0 && method != "head" {
					require.NoError(t, json.Unmarshal(got.body, &p), "%s\n%s", what, cutTo(got.body, 500))
					require.Contains(t, p.Type, "/problems/", what)
				}
				seen := map[string]bool{}
				for _, e := range p.Errors {
					require.False(t, e.Location != "" && seen[e.Location], "%s: %s is named twice", what, e.Location)
					seen[e.Location] = true
				}
			}
			if !changed {
				require.Equal(t, before, fingerprint(t, st), "%s: every request was refused, and something was changed", name)
			}
		}
	}
	t.Logf("%d requests: %v; the slowest took %v, the longest answer to a refusal has %d bytes, %d MB of memory at the most", sent, counts, slowest.took.Round(time.Millisecond), len(largest.body), peak()>>20)
}

// request makes a bad request to an operation; must tells that it has to be refused.
func (a *attacker) request(method, path string, op map[string]any) (r *http.Request, body []byte, kind string, must bool) {
	params, _ := op["parameters"].([]any)
	query := []string{}
	fill := func(name string) string {
		if a.r.IntN(12) == 0 {
			kind, must = "parameter", false
			return pick(a.r, "x", "..", "%00", "%ff", "%F0%9F%92%A9", strings.Repeat("a", 1200), "-1", "99999999999999999999", "%2e%2e%2f", "middle%20")
		}
		if list := a.known[name]; list != nil {
			return pick(a.r, list...)
		}
		return id(a.r.IntN(9))
	}
	for _, p := range params {
		m, _ := p.(map[string]any)
		name, _ := m["name"].(string)
		switch m["in"] {
		case "path":
			path = strings.Replace(path, "{"+name+"}", fill(name), 1)
		case "query":
			query = append(query, name+"="+fill(name))
		}
	}
	if len(query) > 0 {
		path += "?" + strings.Join(query, "&")
	}
	head := map[string]string{"Content-Type": "application/json"}
	if schema := a.body(op); schema != nil {
		v := a.value(schema, 0)
		if op["x-request-schema"] != nil && a.r.IntN(2) == 0 {
			delete(v.(map[string]any), "deadlineMs") // every calculation takes an object
		}
		kind = "shape"
		for range a.r.IntN(4) { // what the last one broke stays broken
			v, must = a.spoil(v)
		}
		body, _ = json.Marshal(v)
		if len(body) > maxBody { // lists of lists of lists: what is over the limit is cut there
			body, must = body[:maxBody], true
		}
		switch a.r.IntN(5) {
		case 0, 1:
			body, kind, must = a.spoilBytes(body), "bytes", true
		case 2:
			if a.r.IntN(3) > 0 {
				break
			}
			kind = "coding"
			if must = !strings.HasPrefix(path, "/api/calc/"); a.r.IntN(2) == 0 {
				head["Content-Type"] = pick(a.r, "text/plain", "application/xml", "application/json; charset=latin1", "multipart/form-data; boundary=x", "\xff", "application/json, x")
			} else {
				must = true
				head["Content-Encoding"] = pick(a.r, "gzip", "br", "deflate", "zstd", "x-strange", "identity, gzip")
			}
		}
	}
	r = httptest.NewRequestWithContext(context.Background(), strings.ToUpper(method), "/", bytes.NewReader(body))
	r.RequestURI, r.Host = path, "localhost"
	for k, v := range head {
		r.Header.Set(k, v)
	}
	return r, body, kind, must
}

// body gives the schema of an operation's body; a calculation's stands beside.
func (a *attacker) body(op map[string]any) any {
	if s := op["x-request-schema"]; s != nil {
		m, _ := s.(map[string]any)
		defs, _ := m["$defs"].(map[string]any)
		for name, d := range defs {
			a.schemas[name+"-of-calc"] = d
			a.schemas[name] = d
		}
		return s
	}
	b, _ := op["requestBody"].(map[string]any)
	content, _ := b["content"].(map[string]any)
	media, _ := content["application/json"].(map[string]any)
	return media["schema"]
}

// attack sends a request and reads what comes.
func (c client) attack(t *testing.T, r *http.Request) reply {
	t.Helper()
	began := time.Now()
	resp, err := c.app.Test(r, fiber.TestConfig{Timeout: watchdog, FailOnTimeout: true})
	require.NoError(t, err, "%s %s", r.Method, r.RequestURI)
	defer func() { _ = resp.Body.Close() }()
	var b bytes.Buffer
	_, err = b.ReadFrom(resp.Body)
	require.NoError(t, err)
	return reply{resp.StatusCode, b.Bytes(), time.Since(began)}
}

func cutTo(b []byte, n int) string { return string(b[:min(len(b), n)]) }

// fingerprint is the hash of everything the database holds.
func fingerprint(t *testing.T, st *store.Store) string {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, st.Backup(context.Background(), &b, true))
	sum := sha256.Sum256(b.Bytes())
	return strconv.Quote(string(sum[:8]))
}

// watchMemory samples how much the program holds.
func watchMemory(t *testing.T) (peak func() uint64) {
	t.Helper()
	stop, done := make(chan struct{}), make(chan uint64)
	go func() {
		most := uint64(0)
		for {
			var m runtime.MemStats
			runtime.ReadMemStats(&m)
			most = max(most, m.HeapInuse)
			select {
			case <-stop:
				done <- most
				return
			case <-time.After(50 * time.Millisecond):
			}
		}
	}()
	return func() uint64 { close(stop); return <-done }
}
