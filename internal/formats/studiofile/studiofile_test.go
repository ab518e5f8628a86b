package studiofile

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const seed = `{"format":"nimbleanvil-studio","v":1,"library":"1","studio":{"name":"S","timeZone":"UTC","massUnit":"kg"},"style":{},"moves":[],
"places":[{"id":"p","name":"P","kind":"hall","massUnit":"kg","implements":[{"id":"i","name":"I","kind":"kettlebell","mass":{"decimal":"35","unit":"lb"},"count":1,"checked":false}],"objects":[],"containers":[]}],
"classes":[{"id":"c","place":"p","name":"C","date":"2026-11-25","time":"10:00","timeZone":"UTC","minutes":45,"lanes":[{"lane":"middle","people":3,"body":{"decimal":"70","unit":"kg"},"stature":{"decimal":"170","unit":"cm"}}],
"people":[],"runs":[{"id":"r","version":1,"plan":{"order":{"totalMs":1000,"blocks":[{"fromMs":0,"untilMs":1000,"kind":"close"}],"events":[]}},"made":"2026-11-25T10:00:00Z","presses":[]}],"log":[],
"circuit":{"id":"k","head":1,"versions":[{"version":1,"clientId":"x","kind":"propose","side":false,"made":"2026-11-25T10:00:00Z",
"document":{"v":1,"format":"timed","leadInMs":10000,"workMs":40000,"restMs":20000,"rounds":3,"roundRestMs":60000,"bans":[],"slots":[]}}]}}]}`

// Whatever a file holds, it is judged without a crash, and a fault says where.
func FuzzCheck(f *testing.F) {
	var file File
	require.NoError(f, json.Unmarshal([]byte(seed), &file))
	require.Empty(f, file.Check())
	f.Add([]byte(seed))
	f.Add([]byte(`{"places":[{"implements":[{"mass":{"decimal":"1e999999999","unit":"kg"}}]}]}`))
	f.Fuzz(func(t *testing.T, b []byte) {
		var file File
		if json.Unmarshal(b, &file) != nil {
			return
		}
		for _, fault := range file.Check() {
			assert.NotEmpty(t, fault.Path)
			assert.NotEmpty(t, fault.Message)
		}
	})
}
