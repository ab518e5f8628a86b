package api

import (
	"net/http"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/studio"
)

// A symptom keeps somebody out: they are not put into a class, one that they are in says so and
// goes on without them; once cleared they are in it again. Another yes holds them at Ground.
func TestHealthDecidesWhoIsIn(t *testing.T) {
	c, _ := hallOn(t, dbtest.DSN(t))
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	class, circuit := "/api/occurrences/"+next.ID, "/api/circuits/"+next.CircuitID
	attend := func(n int, lane string) (int, string) {
		status, _, body := c.send("PUT", class+"/attendance", `{"here":[{"id":"`+id(100+n)+`","personId":"`+id(n)+`","lane":"`+lane+`"}]}`)
		return status, string(body)
	}
	answer := func(n, record int, body map[string]any) studio.Health {
		body["date"] = "2026-11-20"
		return ok[studio.Health](c, "PUT", "/api/people/"+id(n)+"/health/"+id(record), body)
	}
	yes := func(q ...string) map[string]any {
		return map[string]any{"answers": map[string]any{"version": 1, "yes": q}}
	}
	for n, name := range []string{"Out", "Held", "Here"} {
		ok[studio.Person](c, "PUT", "/api/people/"+id(n), map[string]any{"name": name})
	}
	assert.True(t, answer(0, 200, yes("fainting")).Out)
	status, said := attend(0, "middle")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, said, `"location":"body.here[0].personId"`)
	assert.Contains(t, said, "not in the class until cleared")
	assert.True(t, answer(1, 201, yes("medication")).Ground)
	status, _ = attend(1, "reach")
	require.Equal(t, http.StatusOK, status)
	status, _ = attend(2, "middle")
	require.Equal(t, http.StatusOK, status)
	lanes := map[string]string{}
	for _, p := range ok[studio.Occurrence](c, "GET", class, nil).People {
		lanes[p.ID] = string(p.Lane)
	}
	assert.Equal(t, []string{"ground", "middle"}, []string{lanes[id(101)], lanes[id(102)]}, "held at Ground, whatever was said")
	assert.Positive(t, ok[studio.Today](c, "GET", "/api/today", nil).Next.ToAsk, "who was never asked is to be asked")

	planned := func() (n int) {
		for _, cell := range ok[studio.Circuit](c, "GET", circuit, nil).Plan.Slots[0].Cells {
			n += cell.People
		}
		return n
	}
	clearance := func() bool {
		return slices.ContainsFunc(ok[studio.Today](c, "GET", "/api/today", nil).Next.Needs, func(w why.Why) bool { return w.Code == why.NeedClearance })
	}
	all := planned()
	assert.False(t, clearance())
	answer(2, 202, yes("chest-pain"))
	assert.True(t, clearance())
	assert.Equal(t, all-1, planned(), "the class is planned without them")
	h := answer(2, 203, map[string]any{"clearance": map[string]any{"by": "doctor"}})
	assert.Equal(t, []any{false, "2026-11-20", people.Doctor}, []any{h.Out, h.Cleared, h.By})
	assert.Equal(t, all, planned())
	assert.False(t, clearance())
	assert.Len(t, ok[studio.Health](c, "DELETE", "/api/people/"+id(2)+"/health/"+id(203), nil).Records, 1)
	assert.True(t, clearance(), "a clearance that is taken back was none")
}

// What cannot be answered is refused by its field, and an answer is codes: there is nowhere to
// write more.
func TestHealthRefused(t *testing.T) {
	c, _ := hallOn(t, dbtest.DSN(t))
	ok[studio.Person](c, "PUT", "/api/people/"+id(1), map[string]any{"name": "Q"})
	for body, location := range map[string]string{
		`{"date":"2026-11-20"}`: "body",
		`{"date":"2026-11-20","answers":{"version":1,"yes":[]},"changed":true}`:         "body",
		`{"date":"2026-11-20","answers":{"version":2,"yes":[]}}`:                        "body.answers.version",
		`{"date":"2026-11-20","answers":{"version":1,"yes":["headache"]}}`:              "body.answers.yes[0]",
		`{"date":"2026-11-20","answers":{"version":1,"yes":["pregnancy","pregnancy"]}}`: "body.answers.yes[1]",
		`{"date":"2026-11-20","answers":{"version":1,"yes":[],"text":"a bad knee"}}`:    "body.answers.text",
		`{"date":"2026-11-20","clearance":{"by":"neighbour"}}`:                          "body.clearance.by",
		`{"date":"2026-11-20","clearance":{"by":"doctor","keeps":["pregnancy"]}}`:       "body.clearance.keeps[0]",
		`{"date":"2026-11-26","changed":true}`:                                          "body.date",
		`{"date":"soon","changed":true}`:                                                "body.date",
	} {
		status, _, said := c.send("PUT", "/api/people/"+id(1)+"/health/"+id(2), body)
		assert.Equal(t, http.StatusUnprocessableEntity, status, body)
		assert.Contains(t, string(said), `"location":"`+location+`"`, body)
	}
	h := ok[studio.Health](c, "GET", "/api/people/"+id(1)+"/health", nil)
	assert.Empty(t, h.Records)
	q := ok[studio.HealthQuestions](c, "GET", "/api/health-questions", nil)
	assert.Equal(t, people.Questions, append(slices.Clone(q.Stops), q.Others...))
}
