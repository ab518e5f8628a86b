package api

import (
	"encoding/json"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/studio"
)

// weekly makes the class of a week and its proposal; all weeks are of one name.
func weekly(c client, week string, n int) (studio.TodayClass, studio.Circuit) {
	o := ok[studio.Occurrence](c, "PUT", "/api/occurrences/"+id(100+n), map[string]any{"name": "Kettle", "date": week, "time": "10:00", "minutes": 45, "placeId": demo.ID("place/hall"),
		"lanes": []any{map[string]any{"lane": "middle", "people": 3}}})
	p := ok[studio.Proposed](c, "PUT", "/api/circuits/"+id(200+n), map[string]any{"occurrenceId": o.ID, "clientId": id(300 + n), "brief": map[string]any{"minutes": 45, "format": "timed", "bans": []string{}}})
	require.True(c.t, p.Feasible)
	return ok[studio.TodayClass](c, "GET", "/api/occurrences/"+o.ID, nil), *p.Circuit
}

// Joint pain twice takes a move off the plan of the next class of that name, the plan
// says so, Today counts it, and a hand can overrule it.
func TestWhatTheLogSaysBindsTheNextClass(t *testing.T) {
	c := hall(t, fixed)
	var hurt circuit.Entry
	for i, week := range []string{"2026-11-02", "2026-11-09"} {
		class, plan := weekly(c, week, i)
		e := plan.Document.Slots()[0].Entries[people.OfLane(moves.Middle)]
		if i > 0 && e.Variant != hurt.Variant {
			plan = edited(c, "/api/circuits/"+plan.ID+"/edits", map[string]any{"clientId": id(400), "base": 1, "ops": []any{map[string]any{"op": "set-entry", "slotId": plan.Document.Slots()[0].ID, "party": "middle", "entry": hurt}}})
			e = hurt
		}
		hurt = e
		log := ok[studio.Log](c, "POST", "/api/occurrences/"+class.ID+"/log/as-planned", map[string]any{})
		for _, l := range log.Sheets[0].Lines {
			assert.True(t, l.Saved, "one press writes the whole class down")
		}
		sheet := ok[progress.Sheet](c, "PUT", "/api/occurrences/"+class.ID+"/log/middle/"+plan.Document.Slots()[0].ID, map[string]any{"done": 5, "inForm": 5, "pain": "joint", "joint": "knee", "load": "0"})
		want := []progress.Advice{progress.StopMove, progress.OffPlan}[i]
		assert.Equal(t, want, sheet.Lines[0].Result.Advice)
		assert.Zero(t, sheet.Lines[0].LoadG)
		assert.Equal(t, "knee", sheet.Lines[0].Joint)
	}
	_, next := weekly(c, "2026-11-30", 2)
	for _, s := range next.Document.Slots() {
		assert.NotEqual(t, hurt.Variant, s.Entries["middle"].Variant)
	}
	require.NotEmpty(t, next.Decided, "what the log decided is said")
	assert.Equal(t, next.Notes, ok[studio.Circuit](c, "GET", "/api/circuits/"+next.ID, nil).Notes, "what was said of a proposal stays")

	brief := map[string]any{"minutes": 45, "format": "timed", "bans": []string{}, "overruled": []any{map[string]any{"party": "middle", "what": hurt.Variant}}}
	again := ok[studio.Proposed](c, "POST", "/api/circuits/"+next.ID+"/propose", map[string]any{"clientId": id(500), "base": 1, "brief": brief})
	require.True(t, again.Feasible)
	require.Len(t, again.Circuit.Document.Overruled, 1)
	replaced := edited(c, "/api/circuits/"+next.ID+"/edits", map[string]any{"clientId": id(501), "base": again.Circuit.Version, "ops": []any{map[string]any{"op": "replace", "document": again.Circuit.Document}}})
	assert.Equal(t, again.Circuit.Document, replaced.Document, "what was served is taken back")
}

// A ban is a pattern, a move or a limit by its id; anything else is refused by name.
func TestBansAreRefusedByName(t *testing.T) {
	c := hall(t, fixed)
	_, plan := weekly(c, "2026-11-30", 0)
	propose := func(bans ...string) (int, string) {
		body, err := json.Marshal(map[string]any{"clientId": id(600), "base": 1, "brief": map[string]any{"minutes": 45, "format": "timed", "bans": bans}})
		require.NoError(t, err)
		status, _, answer := c.send("POST", "/api/circuits/"+plan.ID+"/propose", string(body))
		return status, string(answer)
	}
	for _, bad := range []string{"knee", "lunges", "STEP-UP", "no floor"} {
		status, answer := propose("squat", bad)
		assert.Equal(t, http.StatusUnprocessableEntity, status, bad)
		assert.Contains(t, answer, `"location":"body.brief.bans[1]"`)
		assert.Contains(t, answer, bad)
	}
	status, answer := propose("knee-spare", "no-floor", "step-up", "carry")
	require.Equal(t, http.StatusOK, status, answer)
	var p studio.Proposed
	require.NoError(t, json.Unmarshal([]byte(answer), &p))
	for _, s := range p.Circuit.Document.Slots() {
		v, known := moves.Standard().Get(s.Entries["middle"].Variant)
		require.True(t, known)
		assert.Less(t, v.Demands["knee"], 2, v.ID)
		assert.NotContains(t, v.Touches(true), moves.Touch("floor"), v.ID)
	}
}
