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

// Two of one name in a class, and one of them in another group as well: what one of them logs
// binds that one in both groups and nobody else, joint pain included; once a class has passed
// without it the move is back. Soreness the day after flags the move that asked most. The class
// as planned in one press writes down everybody.
func TestTheLogBindsByName(t *testing.T) {
	c := hall(t, fixed)
	first, _ := weekly(c, "2026-11-02", 0)
	ada, other := id(701), id(702)
	ok[studio.Person](c, "PUT", "/api/people/"+ada, map[string]any{"name": "Ada"})
	ok[studio.Person](c, "PUT", "/api/people/"+other, map[string]any{"name": "Ada"})
	join := func(class, as, person string) string {
		ok[studio.Log](c, "PUT", "/api/occurrences/"+class+"/participants/"+as, map[string]any{"personId": person, "lane": "middle"})
		return as
	}
	here := join(first.ID, id(711), ada)
	join(first.ID, id(712), other)
	// What hurt somebody of the lane, whom nobody named, hurt neither of them.
	s1 := ok[studio.Log](c, "GET", "/api/occurrences/"+first.ID+"/log", nil).Sheets[0].Lines[0].Slot
	ok[progress.Sheet](c, "PUT", "/api/occurrences/"+first.ID+"/log/middle/"+s1, map[string]any{"done": 5, "inForm": 5, "pain": "joint", "joint": "hip"})
	log := ok[studio.Log](c, "POST", "/api/occurrences/"+first.ID+"/log/as-planned", map[string]any{})
	for _, sh := range log.Sheets {
		for _, l := range sh.Lines {
			assert.True(t, l.Saved, "%s %s", sh.Subject, l.Variant)
			assert.Equal(t, l.LoadG, l.PlannedG)
			assert.Equal(t, sh.OfLane() && l.Slot == s1, l.Pain == progress.Joint, "%s %s", sh.Subject, l.Variant)
		}
	}
	var slot, move string
	for _, l := range log.Sheets[0].Lines {
		if v, known := moves.Standard().Get(l.Variant); known && v.Demands["knee"] >= 2 {
			slot, move = l.Slot, l.Variant
			break
		}
	}
	require.NotEmpty(t, slot, "something of the circuit asks clearly of the knee")
	sheet := ok[progress.Sheet](c, "PUT", "/api/occurrences/"+first.ID+"/log/"+here+"/"+slot, map[string]any{"done": 4, "inForm": 4, "pain": "joint", "joint": "knee"})
	assert.Equal(t, progress.StopMove, sheet.Line(slot).Result.Advice)
	says := func(k studio.Circuit, party string) map[string]progress.Advice {
		out := map[string]progress.Advice{}
		for _, d := range k.Decided {
			if string(d.Party) == party {
				out[d.Move] = d.Advice
			}
		}
		return out
	}
	second, _ := weekly(c, "2026-11-09", 1)
	here = join(second.ID, id(721), ada)
	too := join(second.ID, id(722), other)
	again := ok[studio.Proposed](c, "POST", "/api/circuits/"+id(201)+"/propose", map[string]any{"clientId": id(800), "base": 1, "brief": map[string]any{"minutes": 45, "format": "timed", "bans": []string{}}})
	require.True(t, again.Feasible)
	assert.Equal(t, progress.StopMove, says(*again.Circuit, here)[move])
	assert.NotEqual(t, progress.StopMove, says(*again.Circuit, too)[move], "the other of the name")
	assert.NotContains(t, says(*again.Circuit, "middle"), "stop-move")
	for _, s := range again.Circuit.Document.Slots() {
		e, is := s.Of(people.Party(here), moves.Middle)
		require.True(t, is)
		v, _ := moves.Standard().Get(e.Variant)
		assert.NotEqual(t, move, v.ID, "out next time")
		assert.LessOrEqual(t, v.Demands["knee"], 2, v.ID)
	}
	// Another group: theirs there too, and nobody's in general.
	group := ok[studio.Occurrence](c, "PUT", "/api/occurrences/"+id(750), map[string]any{"name": "Mornings", "date": "2026-11-10", "time": "07:00", "minutes": 45, "placeId": demo.ID("place/hall"),
		"lanes": []any{map[string]any{"lane": "middle", "people": 3}}})
	there := join(group.ID, id(751), ada)
	p := ok[studio.Proposed](c, "PUT", "/api/circuits/"+id(760), map[string]any{"occurrenceId": group.ID, "clientId": id(761), "brief": map[string]any{"minutes": 45, "format": "timed", "bans": []string{}}})
	require.True(t, p.Feasible)
	assert.Equal(t, progress.StopMove, says(*p.Circuit, there)[move])
	assert.Empty(t, says(*p.Circuit, "middle"), "this group has logged nothing")
	// Set aside in one group it is in the other, and taken back again.
	isAside := func() bool {
		for _, d := range ok[studio.Circuit](c, "GET", "/api/circuits/"+id(760), nil).Decided {
			if string(d.Party) == there && d.Move == move {
				return d.Overruled
			}
		}
		return true // nothing is decided of it
	}
	setAside := func(n int, what ...circuit.Overruled) bool {
		k := ok[studio.Circuit](c, "GET", "/api/circuits/"+id(201), nil)
		k.Document.Overruled = what
		edited(c, "/api/circuits/"+id(201)+"/edits", map[string]any{"clientId": id(770 + n), "base": k.Version, "ops": []any{map[string]any{"op": "replace", "document": k.Document}}})
		return isAside()
	}
	aside := setAside(1)
	assert.False(t, aside)
	aside = setAside(2, circuit.Overruled{Party: people.Party(here), What: "knee"})
	assert.True(t, aside, "they are cleared in every group")
	for _, day := range []string{"2026-11-12", "2026-11-09"} {
		ok[studio.Occurrence](c, "PUT", "/api/occurrences/"+second.ID, map[string]any{"name": "Kettle", "date": day, "time": "10:00", "minutes": 45, "placeId": demo.ID("place/hall"),
			"lanes": []any{map[string]any{"lane": "middle", "people": 3}}})
		assert.Equal(t, day == "2026-11-09", isAside(), "the class that says so is on %s", day)
	}
	aside = setAside(3, circuit.Overruled{Party: people.Party(too), What: "knee"}, circuit.Overruled{Party: "middle", What: "knee"})
	assert.False(t, aside, "somebody else is")
	aside = setAside(4)
	assert.False(t, aside)
	// A class without it, and it is over; sore the day after flags what asked most.
	ok[studio.Log](c, "POST", "/api/occurrences/"+second.ID+"/log/as-planned", map[string]any{})
	status, _, answer := c.send("POST", "/api/occurrences/"+group.ID+"/log/"+there+"/sore", `{"region":"low-back"}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, string(answer), "nothing is written down of Ada") // the answer may come late
	sore := ok[progress.Sheet](c, "POST", "/api/occurrences/"+second.ID+"/log/"+here+"/sore", map[string]any{"region": "low-back"})
	eased := map[string]bool{}
	for _, l := range sore.Lines {
		if l.Pain == progress.Sore {
			assert.Equal(t, progress.Ease, l.Result.Advice)
			eased[l.Variant] = true
		}
	}
	require.NotEmpty(t, eased)
	third, _ := weekly(c, "2026-11-16", 2)
	here = join(third.ID, id(731), ada)
	after := ok[studio.Circuit](c, "GET", "/api/circuits/"+id(202), nil)
	assert.NotEqual(t, progress.StopMove, says(after, here)[move], "back")
	for v := range eased {
		assert.Equal(t, progress.Ease, says(after, here)[v])
	}
	// What the log shows is on their page, and a factor that is not there is refused.
	page := ok[studio.PersonPage](c, "GET", "/api/people/"+ada, nil)
	assert.NotEmpty(t, page.Indices)
	status, _, answer = c.send("PUT", "/api/people/"+ada+"/records/"+id(790), `{"date":"2026-11-25","table":{"stance":"squat-9"}}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, string(answer), "body.table.stance")
	page = ok[studio.PersonPage](c, "PUT", "/api/people/"+ada+"/records/"+id(790), map[string]any{"date": "2026-11-25", "table": map[string]any{"stance": "squat-1.35"}})
	assert.Equal(t, "squat-1.35", page.Records[0].Table.Stance)
}
