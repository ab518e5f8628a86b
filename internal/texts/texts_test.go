package texts

import (
	"encoding/json"
	"flag"
	"os"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/why"
)

var update = flag.Bool("update", false, "rewrite testdata/golden.json, which the interface's texts are held to")

const goldenFile = "testdata/golden.json"

// golden is one text with its arguments, as both sides say it.
type golden struct {
	Language Language `json:"language"`
	Key      string   `json:"key"`
	Unit     string   `json:"unit,omitempty"` // of texts that convert
	Args     []any    `json:"args,omitempty"`
	Why      *why.Why `json:"why,omitempty"`
	Text     string   `json:"text"`
}

type named struct{}

func (named) Move(id string) string   { return "move " + id }
func (named) Item(id string) string   { return "item " + id }
func (named) Person(id string) string { return "person " + id }

// edges are values at the edges of what a type can be: nothing, one, halves, signs, long
// times, names with marks of the texts' own language in them.
var edges = map[string][]any{
	"mass":       {0.0, 455.0, 1005.0, 9995.0, 15_876.4, 120_000.0},
	"weight":     {0.0, 4.5, 455.0, 12_000.0},
	"length":     {0.0, 455.0, 1005.0, 1778.0},
	"volume":     {0.0, 50.0, 999.0, 1000.0, 1255.0},
	"span":       {0.0, 17_500.0, 40_000.0, 1.0},
	"clock":      {0.0, 2_673_000.0, 3_599_500.0, 3_600_000.0, -1.0},
	"percent":    {0.0, 3.95, -12.0, -0.01, 7.5},
	"share":      {0.0, 0.878, 1.0, 1.0625},
	"whole":      {0.0, 0.125, 0.625, 1.0},
	"number":     {0.0, 1.0, 2.5, 1234.0005},
	"count":      {0.0, 1.0, 2.0, 21.0},
	"date":       {"2026-03-29", "2024-02-29", "2026-12-31"},
	"name":       {"Ann", "O’Neil {x} '#'", ""},
	"choice":     {"both", "split", "low", "high"},
	"list":       {[]string{}, []string{"a"}, []string{"a", "b", "c"}},
	"and":        {[]string{}, []string{"a"}, []string{"a", "b"}, []string{"a", "b", "c"}},
	"semicolons": {[]string{}, []string{"a"}, []string{"a", "b", "c"}},
	"party":      {"ground", "kr2d", "reach"},
	"move":       {"goblet-squat"},
	"item":       {"bell"},
	"ban":        {"squat", "knee-spare", "no-floor", "hip-thrust"},
}

// valuesOf are the edges of an argument's type; nil where it may be absent.
func valuesOf(a argument) []any {
	kind := strings.TrimSuffix(a.Type, "?")
	base, _, _ := strings.Cut(kind, "*")
	base, _, _ = strings.Cut(base, ".")
	values := edges[base]
	if values == nil {
		ids := []any{}
		for _, k := range Keys() {
			if id, ok := strings.CutPrefix(k, "names."+base+"."); ok {
				ids = append(ids, id)
			}
		}
		values = []any{ids[0], ids[len(ids)/2], ids[len(ids)-1]}
		if strings.Contains(kind, "*") {
			values = []any{[]string{}, []string{ids[0].(string)}, []string{ids[0].(string), ids[1].(string), ids[len(ids)-1].(string)}}
		}
	}
	if strings.HasSuffix(a.Type, "?") {
		values = append([]any{nil}, values...)
	}
	return values
}

func camel(key string) string {
	var b strings.Builder
	for _, part := range strings.FieldsFunc(key, func(r rune) bool { return r == '.' || r == '-' }) {
		b.WriteString(strings.ToUpper(part[:1]) + part[1:])
	}
	return b.String()
}

// call says a message by its function, as the program does.
func call(t *testing.T, p Printer, m message, args []any) string {
	t.Helper()
	if table, id, ok := strings.Cut(strings.TrimPrefix(m.Key, "names."), "."); ok && strings.HasPrefix(m.Key, "names.") {
		return reflect.ValueOf(p).MethodByName("Name" + camel(table)).Call([]reflect.Value{reflect.ValueOf(id)})[0].String()
	}
	f := reflect.ValueOf(p).MethodByName(camel(m.Key))
	if !f.IsValid() { // what only texts use
		require.True(t, strings.HasPrefix(m.Key, "join."), m.Key)
		return p.say(m.Key, Name(args[0].(string)), func() any {
			if m.Args[1].Type == "span" {
				return Span(args[1].(float64))
			}
			return Name(args[1].(string))
		}())
	}
	in := []reflect.Value{}
	for i, a := range args {
		want := f.Type().In(i)
		switch {
		case a == nil:
			in = append(in, reflect.Zero(want))
		case want.Kind() == reflect.Pointer:
			v := reflect.New(want.Elem())
			v.Elem().Set(reflect.ValueOf(a).Convert(want.Elem()))
			in = append(in, v)
		default:
			in = append(in, reflect.ValueOf(a).Convert(want))
		}
	}
	return f.Call(in)[0].String()
}

// reason makes a reason of the same arguments: the terms that its text asks for.
func reason(m message, args []any) why.Why {
	kinds := map[string]why.Kind{"mass": why.Mass, "length": why.Length, "volume": why.Volume, "span": why.Span,
		"clock": why.Span, "percent": why.Percent, "share": why.Share, "count": why.Count}
	w := why.Of(why.Code(strings.TrimPrefix(m.Key, "why.code.")), why.House)
	for i, a := range m.Args {
		base := strings.TrimSuffix(a.Type, "?")
		switch v := args[i].(type) {
		case string:
			w.Terms = append(w.Terms, why.ID(a.Name, v))
		case []string:
			for _, id := range v {
				w.Terms = append(w.Terms, why.ID(a.Name, id))
			}
		case float64:
			w.Terms = append(w.Terms, why.Term{Name: a.Name, Kind: kinds[base], Value: v})
		}
		if table, ok := strings.CutPrefix(base, "sum."); ok && args[i] != nil {
			for _, part := range []string{"walk", "work", "kneel"} {
				if _, known := messages()["names."+table+"."+part]; known {
					w.Terms = append(w.Terms, why.Ms(part, 6500))
				}
			}
		}
	}
	return w
}

func converts(m message) bool {
	return slices.ContainsFunc(m.Args, func(a argument) bool {
		return slices.Contains([]string{"mass", "weight", "length"}, strings.TrimSuffix(a.Type, "?"))
	})
}

// goldenTexts are all messages with the edges of their arguments, in every language, and in
// both units where they convert.
func goldenTexts(t *testing.T) []golden {
	t.Helper()
	edges["sum"] = []any{"sum"}
	out := []golden{}
	for _, key := range Keys() {
		m := messages()[key]
		rounds := 1
		for _, a := range m.Args {
			rounds = max(rounds, len(valuesOf(a)))
		}
		for round := range rounds {
			args := []any{}
			for i, a := range m.Args {
				values := valuesOf(a)
				args = append(args, values[(round+i)%len(values)])
			}
			for _, language := range Languages {
				if len(m.Args) == 0 && language != English { // held by TestMarkedAsGenerated
					continue
				}
				for _, unit := range []measure.Unit{measure.Kilogram, measure.Pound} {
					p := Printer{Language: language, Unit: unit, Names: named{}}
					g := golden{Language: language, Key: key}
					if converts(m) {
						g.Unit = string(unit)
					} else if unit == measure.Pound {
						continue
					}
					if strings.HasPrefix(key, "why.code.") {
						w := reason(m, args)
						g.Why, g.Text = &w, p.Why(w)
					} else {
						g.Args, g.Text = args, call(t, p, m, args)
					}
					out = append(out, g)
				}
			}
		}
	}
	return out
}

// The interface's texts are held to the same file by ui/src/lib/text/text.test.ts.
func TestGoldenTexts(t *testing.T) {
	var b strings.Builder
	for i, g := range goldenTexts(t) {
		line, err := json.Marshal(g)
		require.NoError(t, err)
		b.WriteString(map[bool]string{true: "[\n", false: ",\n"}[i == 0])
		b.Write(line)
	}
	b.WriteString("\n]\n")
	if *update {
		require.NoError(t, os.WriteFile(goldenFile, []byte(b.String()), 0o600))
	}
	want, err := os.ReadFile(goldenFile)
	require.NoError(t, err)
	if string(want) != b.String() {
		is, was := strings.Split(b.String(), "\n"), strings.Split(string(want), "\n")
		for i := range is {
			if i >= len(was) || is[i] != was[i] {
				t.Fatalf("line %d is now\n%s\nrun go test ./internal/texts -update", i+1, is[i])
			}
		}
		t.Fatal("the golden file has more texts: run go test ./internal/texts -update")
	}
}

// A reader in pounds sees no kilograms anywhere, and every code of a reason has a text.
func TestTextsInPounds(t *testing.T) {
	for _, code := range why.Codes {
		require.Contains(t, messages(), "why.code."+string(code))
	}
	for _, g := range goldenTexts(t) {
		if g.Unit == "lb" {
			assert.NotContains(t, g.Text, " kg", g.Key)
			assert.NotContains(t, g.Text, " cm", g.Key)
		}
		assert.NotContains(t, g.Text, "undefined", g.Key)
	}
}

// What the generator makes of English is what the program makes of the library.
func TestMarkedAsGenerated(t *testing.T) {
	n := 0
	for key, m := range messages() {
		if len(m.Args) == 0 && key != "common.name" && key != "common.secondsUnit" {
			assert.Equal(t, Printer{Language: Pseudo}.say(key), Marked(Printer{}.say(key)), key)
			n++
		}
	}
	assert.Greater(t, n, 500)
	assert.Equal(t, "Šɋúúááţ", Marked("Squat"))
}

// By hand, from the sums in the texts: 16 kg are 35.27 lb (NIST SP 811).
func TestTextsByHand(t *testing.T) {
	kg, lb := Printer{Unit: measure.Kilogram}, Printer{Unit: measure.Pound}
	assert.Equal(t, "1 line logged", kg.TodayLogged(1))
	assert.Equal(t, "nothing logged", kg.TodayLogged(0))
	assert.Equal(t, "From 35.3 lb to 44.1 lb in 3 weeks", lb.LoadsBridgeLabel(16_000, 20_000, 3))
	assert.Equal(t, "less: grip, balance", kg.LoadsInsteadLost([]string{"grip", "balance"}))
	w := why.Of(why.FlagUneven, why.House, why.ID("lane", "reach"), why.ID("left", "push"), why.N("leftN", 3),
		why.ID("right", "pull"), why.N("rightN", 1))
	assert.Equal(t, "Reach: push 3, pull 1: uneven", kg.Why(w))
	assert.Equal(t, "unheard-of", kg.Why(why.Of("unheard-of", why.House)))
}
