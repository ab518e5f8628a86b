package api

import (
	"bytes"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

// People go out as a table and come in again as they are, here; elsewhere they are made, with
// their groups, bodies, levels and limits. Of a name that is known it is asked who it is, and
// nothing is brought in before that is said. The same file twice changes nothing.
func TestPeopleInAndOut(t *testing.T) {
	c, db := hallOn(t, dbtest.DSN(t))
	preview := func(c client, text string, who ...map[string]any) studio.PeoplePreview {
		who = append([]map[string]any{}, who...)
		return ok[studio.PeoplePreview](c, "POST", "/api/people-file/preview", map[string]any{"text": text, "who": who})
	}
	bring := func(c client, text string, who ...map[string]any) studio.PeoplePreview {
		who = append([]map[string]any{}, who...)
		return ok[studio.PeoplePreview](c, "POST", "/api/people-file/import", map[string]any{"text": text, "who": who, "hash": preview(c, text, who...).Hash})
	}
	whole := func(c client, format string) string {
		_, _, b := c.send("GET", "/api/people-file?format="+format, "")
		return string(b)
	}
	known := len(ok[[]studio.Person](c, "GET", "/api/people", nil))
	require.Positive(t, known)
	for _, format := range []string{"csv", "json"} {
		seen := preview(c, whole(c, format))
		assert.Equal(t, []any{0, 0, known, 0, 0}, []any{seen.New, seen.Changed, seen.Same, seen.Asked, len(seen.Faults)}, format)
	}
	before := counts(t, db)
	bring(c, whole(c, "csv"))
	assert.Equal(t, before, counts(t, db), "nothing is there twice")

	there, _ := hallOn(t, dbtest.DSN(t))
	table := "name,groups,unit,weaker,body,stature,measured,levels,limits,note\r\n" +
		"Nell Harbottle,\"Noon class, fitters and drivers; A new group\",lb,left,134 lb 8 oz,5,2026-11-01,squat hip-hinge,knee-mild no-floor,by the door\r\n"
	seen := preview(there, table)
	require.Len(t, seen.Faults, 1, "five inches")
	assert.Equal(t, "stature", seen.Faults[0].Field)
	table = strings.Replace(table, ",5,", ",64,", 1)
	assert.Equal(t, 1, bring(there, table).New)
	var nell studio.PersonPage
	for _, p := range ok[[]studio.Person](there, "GET", "/api/people", nil) {
		if p.Name == "Nell Harbottle" {
			nell = ok[studio.PersonPage](there, "GET", "/api/people/"+p.ID, nil)
		}
	}
	assert.Equal(t, []any{"lb", "left", "by the door", 2}, []any{nell.MassUnit, nell.Weaker, nell.Note, len(nell.Groups)})
	assert.Equal(t, []any{"2152", int64(61008)}, []any{nell.Body.Decimal, nell.Body.Whole}, "134 lb 8 oz are 61.008 kg by 453.59237 g a pound")
	assert.Equal(t, []any{"64", int64(1626)}, []any{nell.Stature.Decimal, nell.Stature.Whole})
	assert.Equal(t, []moves.LimitID{"knee-mild", "no-floor"}, nell.Limits)
	at := map[string]int{}
	for _, l := range nell.Ladders {
		if l.At > 0 {
			at[l.Ladder] = l.At
		}
	}
	assert.Len(t, at, 2)

	// The same name again, without an id.
	seen = preview(there, table)
	assert.Equal(t, []int{0, 1}, []int{seen.New + seen.Changed + seen.Same, seen.Asked})
	assert.Equal(t, nell.ID, seen.Rows[0].Known[0].ID)
	status, _, _ := there.send("POST", "/api/people-file/import", fmt.Sprintf(`{"text":%q,"hash":%q}`, table, seen.Hash))
	assert.Equal(t, http.StatusUnprocessableEntity, status, "nobody has said who it is")
	assert.Equal(t, 1, preview(there, table, map[string]any{"line": 2, "personId": nell.ID}).Same)
	assert.Equal(t, 1, preview(there, table, map[string]any{"line": 2}).New, "somebody else of the name")
	status, _, _ = there.send("POST", "/api/people-file/import", fmt.Sprintf(`{"text":%q,"hash":"0"}`, table))
	assert.Equal(t, http.StatusConflict, status, "not what was looked at")

	// What cannot be is named by its line and field.
	ok[studio.Person](there, "PUT", "/api/people/"+id(7), map[string]any{"name": "Gone"})
	ok[studio.Erased](there, "DELETE", "/api/people/"+id(7), nil)
	for row, field := range map[string]string{
		",,,,,,,,,,": "", "X,,stone,,,,,,,,": "unit", "X,,,middle,,,,,,,": "weaker", "X,,,,5 kg,,,,,,": "body", "X,,,,,,2027-01-01,,,,": "measured",
		"X,,,,,,,nowhere,,,": "levels", "X,,,,,,,,pregnancy,,": "limits", "X,,,,,,,,,,no": "id", "X,,,,,,,,,," + id(7): "id", "X,,,,,,,,," + strings.Repeat("n", 281) + ",": "note",
	} {
		seen := preview(there, "name,groups,unit,weaker,body,stature,measured,levels,limits,note,id\n"+row+"\n")
		if field == "" {
			assert.Empty(t, seen.Rows, "an empty line says nothing")
			continue
		}
		require.Len(t, seen.Faults, 1, row)
		assert.Equal(t, []any{2, field}, []any{seen.Faults[0].Line, seen.Faults[0].Field}, row)
	}
}

// A backup may leave health out: what somebody is spared stays, and nothing is known of why;
// what is answered or changed afterwards is added to it.
func TestBackupWithoutHealth(t *testing.T) {
	dsn := dbtest.DSN(t)
	c, db := hallOn(t, dsn)
	for n, yes := range [][]string{{"pregnancy"}, {"chest-pain"}} {
		ok[studio.Person](c, "PUT", "/api/people/"+id(n), map[string]any{"name": "Q"})
		ok[studio.Health](c, "PUT", "/api/people/"+id(n)+"/health/"+id(10+n), map[string]any{"date": "2026-11-20", "answers": map[string]any{"version": 1, "yes": yes}})
	}
	st, err := store.Open(dsn, fixed)
	require.NoError(t, err)
	defer func() { _ = st.Close() }()
	require.Positive(t, counts(t, db)["pain_report"])
	was := []studio.Health{ok[studio.Health](c, "GET", "/api/people/"+id(0)+"/health", nil), ok[studio.Health](c, "GET", "/api/people/"+id(1)+"/health", nil)}
	var file bytes.Buffer
	require.NoError(t, st.Backup(t.Context(), &file, false))
	require.NoError(t, st.Restore(t.Context(), bytes.NewReader(file.Bytes())))
	assert.Zero(t, counts(t, db)["health_record"]+counts(t, db)["pain_report"])
	for n := range 2 {
		page := ok[studio.PersonPage](c, "GET", "/api/people/"+id(n), nil)
		assert.Equal(t, []any{was[n].Out, was[n].Ground, len(was[n].Limits)}, []any{page.Out, page.Ground, len(page.Limits)})
		h := ok[studio.Health](c, "PUT", "/api/people/"+id(n)+"/health/"+id(20+n), map[string]any{"date": "2026-11-25", "changed": true})
		assert.Equal(t, []any{was[n].Out, was[n].Ground, was[n].Limits, true}, []any{h.Out, h.Ground, h.Limits, h.ToAsk}, "what was spared still is")
		h = ok[studio.Health](c, "PUT", "/api/people/"+id(n)+"/health/"+id(30+n), map[string]any{"date": "2026-11-25", "clearance": map[string]any{"by": "midwife", "keeps": []string{"no-impact"}}})
		assert.Equal(t, []any{false, false, []moves.LimitID{"no-impact"}}, []any{h.Out, h.Ground, h.Limits})
	}
}

// Two who are made one and two again have what was each one's: classes, records, health, groups.
func TestJoinedAndApartAgain(t *testing.T) {
	c, db := hallOn(t, dbtest.DSN(t))
	next := ok[studio.Today](c, "GET", "/api/today", nil)
	groups := ok[[]studio.Group](c, "GET", "/api/groups", nil)
	of := func(n int) studio.PersonPage {
		p := ok[studio.PersonPage](c, "GET", "/api/people/"+id(n), nil)
		p.Merges, p.Records = nil, nil
		return p
	}
	for n, name := range []string{"Ada", "Adeline"} {
		path := "/api/people/" + id(n)
		ok[studio.Person](c, "PUT", path, map[string]any{"name": name})
		ok[studio.Person](c, "PUT", path+"/groups", map[string]any{"groups": []string{groups[n].ID, groups[2].ID}})
		ok[studio.PersonPage](c, "PUT", path+"/records/"+id(10+n), map[string]any{"date": "2026-11-20", "limit": map[string]any{"limit": []string{"no-floor", "no-impact"}[n]}})
	}
	ok[studio.Health](c, "PUT", "/api/people/"+id(1)+"/health/"+id(20), map[string]any{"date": "2026-11-20", "answers": map[string]any{"version": 1, "yes": []string{"brittle-bones"}}})
	ok[studio.Occurrence](c, "PUT", "/api/occurrences/"+next.Later[0].ID+"/attendance", map[string]any{"here": []any{map[string]any{"id": id(30), "personId": id(1), "lane": "ground"}}})
	a, b, rows := of(0), of(1), counts(t, db)
	ok[studio.Person](c, "POST", "/api/people/"+id(0)+"/join", map[string]any{"personId": id(1)})
	one := of(0)
	assert.Equal(t, []any{1, true, 3}, []any{one.Classes, one.Ground, len(one.Groups)})
	assert.ElementsMatch(t, []moves.LimitID{"no-floor", "no-impact", "no-loaded-back-bending"}, one.Limits)
	status, _, _ := c.send("GET", "/api/people/"+id(1), "")
	assert.Equal(t, http.StatusNotFound, status)
	merges := ok[studio.PersonPage](c, "GET", "/api/people/"+id(0), nil).Merges
	require.Len(t, merges, 1)
	ok[studio.Person](c, "DELETE", "/api/people/"+id(0)+"/join/"+merges[0].ID, nil)
	assert.Equal(t, []studio.PersonPage{a, b}, []studio.PersonPage{of(0), of(1)})
	assert.Equal(t, rows, counts(t, db))
}
