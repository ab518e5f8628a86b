package strictjson

import (
	"encoding/json"
	"reflect"
	"strings"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

type inner struct {
	N    int      `json:"n" maximum:"9"`
	List []string `json:"list,omitempty" nullable:"false" enum:"a,b"`
}

type outer struct {
	Name  string          `json:"name" maxLength:"3"`
	Inner []inner         `json:"inner"`
	Any   json.RawMessage `json:"any,omitempty"`
}

// Every wrong field at its own place: RFC 8259 for what a document is, RFC 7493 (I-JSON)
// for names that stand once and for halves of pairs. From memory.
func TestFieldsReference(t *testing.T) {
	schemas := huma.NewMapRegistry("#/", huma.DefaultSchemaNamer)
	s := schemas.Schema(reflect.TypeFor[outer](), true, "")
	for body, want := range map[string][]string{
		`{"name":"a","inner":[{"n":1}]}`:                                      nil,
		`{"name":"a","inner":[{"n":1.0},{"n":9e0}]}`:                          nil,
		`{"name":"a","inner":[{"n":1.5},{"n":10},{"list":["c"]},{"n":null}]}`: {"body.inner[0].n", "body.inner[1].n", "body.inner[2].list[0]", "body.inner[2].n", "body.inner[3].n"},
		`{"inner":null,"Name":"a"}`:                                           {"body.Name", "body.inner", "body.name"},
		`{"name":"a","inner":[],"a.b[0]":1,"x":{"y":1},"z":2}`:                {"body.a.b[0]", "body.x", "body.z"},
		`{"name":"a","name":"b","inner":[{"n":1,"n":1e999}]}`:                 {"body.inner[0].n", "body.name"},
		`{"name":"\ud800","inner":[],"any":{"deep":["\udc00"]}}`:              {"body.any.deep[0]", "body.name"},
		`{"name":"\ud83d\ude00","inner":[],"any":{"a":1,"a":2}}`:              {"body.any.a"},
		`[]`: {"body"},
	} {
		tree, faults, p := Read([]byte(body))
		require.Nil(t, p, body)
		fields, _ := Check(schemas, s, tree)
		seen := map[string]bool{}
		for _, f := range append(faults, fields...) {
			seen[f.Location] = true
		}
		var got []string
		for _, l := range want {
			if seen[l] {
				got = append(got, l)
			}
		}
		assert.Equal(t, want, got, "%s: %v", body, seen)
		assert.Len(t, seen, len(want), "%s: %v", body, seen)
	}
	for body, why := range map[string]string{"": "empty", "{": "cut", `{"a":NaN}`: "invalid character", `{} {}`: "after", "{\"a\":\"\xff\"}": "byte 7 is not UTF-8", strings.Repeat("[", 100): "nested", "\xef\xbb\xbf{}": "invalid character"} {
		_, _, p := Read([]byte(body))
		require.NotNil(t, p, body)
		assert.Equal(t, 400, p.Status)
		assert.Contains(t, p.Detail, why, body)
	}
}

// What is read strictly is what encoding/json reads, whole numbers in any spelling go
// into whole fields, and nothing else in a document changes.
func TestReadsWhatJSONSays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := rapid.MapOf(rapid.String(), rapid.OneOf(rapid.Float64Range(-1e12, 1e12).AsAny(), rapid.String().AsAny(), rapid.Int32().AsAny(), rapid.SliceOf(rapid.String()).AsAny())).Draw(t, "v")
		b, err := json.Marshal(v)
		require.NoError(t, err)
		_, faults, p := Read(b)
		require.Nil(t, p)
		require.Empty(t, faults)
		var want, got any
		require.NoError(t, json.Unmarshal(b, &want))
		require.NoError(t, Decode(b, &got))
		require.Equal(t, want, got)
	})
	var whole struct{ A, B, C int64 }
	require.NoError(t, Decode([]byte(`{"A":1.0,"B":1e1,"C":-25e-1}`), &struct{ A, B, C float64 }{}))
	require.NoError(t, Decode([]byte(`{"A":1.0,"B":12e1,"C":-250e-1}`), &whole))
	assert.Equal(t, struct{ A, B, C int64 }{1, 120, -25}, whole)
	assert.Error(t, Decode([]byte(`{"A":1.5}`), &whole))
}

func FuzzRead(f *testing.F) {
	for _, s := range []string{`{"a":1}`, `{"a":"\ud800\udc00"}`, `[1,2.0,"x\\\""]`, "\"\xff\"", `{"a":{"b":[null,true]}}`, `"\u`} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, b []byte) {
		tree, _, p := Read(b)
		if (tree == nil) == (p == nil) && tree != nil {
			t.Fatal("a tree or a problem")
		}
		if p == nil && !json.Valid(b) {
			t.Fatalf("%q is no JSON", b)
		}
		var v any
		if p == nil && Decode(b, &v) != nil {
			t.Fatalf("%q was read and cannot be decoded", b)
		}
	})
}
