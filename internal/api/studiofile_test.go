package api

import (
	"bytes"
	"database/sql"
	"encoding/json"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/formats/studiofile"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

// counts gives the rows of every table.
func counts(t *testing.T, db *sql.DB) map[string]int {
	t.Helper()
	out := map[string]int{}
	for _, table := range store.Tables() {
		var n int
		require.NoError(t, db.QueryRow("SELECT COUNT(*) FROM `"+table+"`").Scan(&n)) // a name of ours
		out[table] = n
	}
	return out
}

// A studio goes out and into an empty one elsewhere: every row of every table is
// there, it goes out again as the same bytes, and undo still works. The same file
// twice changes nothing; only tried, neither does it.
func TestStudioGoesOutAndIn(t *testing.T) {
	from, to := dbtest.DSN(t), dbtest.DSN(t)
	c, db := hallOn(t, from)
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	ok[studio.Run](c, "PUT", "/api/runs/"+id(1), map[string]any{"occurrenceId": next.ID})
	ok[studio.RunNow](c, "POST", "/api/runs/"+id(1)+"/events", map[string]any{"clientId": id(2), "kind": "start"})
	ok[studio.RunNow](c, "POST", "/api/runs/"+id(1)+"/events", map[string]any{"clientId": id(7), "kind": "done", "party": "middle", "slot": "s1"})
	ok[studio.Log](c, "PUT", "/api/occurrences/"+next.ID+"/participants/"+id(3), map[string]any{"name": "Ada <&>", "lane": "middle"})
	ok[progress.Sheet](c, "PUT", "/api/occurrences/"+next.ID+"/log/"+id(3)+"/s1", map[string]any{"done": 9, "inForm": 8, "reserve": 0, "pain": "burn", "left": 9, "right": 11, "stopped": true, "lighter": "2 kg"})
	ok[progress.Sheet](c, "PUT", "/api/occurrences/"+next.ID+"/log/"+id(3)+"/s1", map[string]any{"done": 9, "inForm": 9, "pain": "none", "device": id(6), "n": 3})
	after := edited(c, "/api/circuits/"+next.CircuitID+"/edits", map[string]any{"clientId": id(4), "base": 1, "ops": []any{map[string]any{"op": "remove-slot", "slotId": "s1"}}})
	ok[studio.HouseStyle](c, "PUT", "/api/style", map[string]any{"studio": map[string]string{"knees": "behind"}, "moves": map[string]any{}})
	ok[moves.Preview](c, "PUT", "/api/own-moves/own-crate-squat", ownSquat(t))
	ok[studio.HouseStyle](c, "PUT", "/api/prep", map[string]any{"steps": []any{map[string]any{"move": "march-on-the-spot", "ms": 40_000}}})
	ok[[]studio.HouseTemplate](c, "PUT", "/api/templates/"+id(8), map[string]any{"name": "Wednesdays", "circuitId": next.CircuitID})
	for n, name := range []string{"Wren", "Gone"} {
		ok[studio.Person](c, "PUT", "/api/people/"+id(20+n), map[string]any{"name": name, "massUnit": "lb", "weaker": "left", "note": "mornings"})
	}
	wren := "/api/people/" + id(20)
	ok[studio.Person](c, "PUT", wren+"/groups", map[string]any{"groups": []string{ok[[]studio.Group](c, "GET", "/api/groups", nil)[0].ID}})
	ok[studio.PersonPage](c, "PUT", wren+"/records/"+id(21), map[string]any{"date": "2026-11-20", "measure": map[string]any{"body": "154 lb 8 oz", "stature": "67 in"}})
	ok[studio.PersonPage](c, "PUT", wren+"/records/"+id(22), map[string]any{"date": "2026-11-20", "screen": map[string]any{"screen": "ankle", "values": map[string]any{"left": "9 cm", "right": "4 in"}}})
	ok[studio.PersonPage](c, "PUT", wren+"/records/"+id(23), map[string]any{"date": "2026-11-20", "limit": map[string]any{"limit": "no-impact", "until": "2027-01-31"}})
	ok[studio.Health](c, "PUT", wren+"/health/"+id(24), map[string]any{"date": "2026-11-20", "answers": map[string]any{"version": 1, "yes": []string{"pregnancy"}}})
	ok[studio.Erased](c, "DELETE", "/api/people/"+id(21), nil)
	status, head, file := c.send("GET", "/api/studio/export?health=true", "")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, head.Get("Content-Disposition"), "studio.json")

	st, err := store.Open(to, fixed)
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	require.NoError(t, st.Migrate(t.Context()))
	_, err = st.EnsureStudio(t.Context(), store.Studio{PublicID: id(9), Name: "Tramshed Hall", TimeZone: "Europe/Berlin", MassUnit: "kg"})
	require.NoError(t, err)
	there := client{t, New(Config{Studios: studio.New(st, fixed), Now: fixed}).App}
	elsewhere, err := sql.Open("mysql", to)
	require.NoError(t, err)
	t.Cleanup(func() { _ = elsewhere.Close() })
	empty := counts(t, elsewhere)
	bring := func(path string) studio.Imported {
		status, _, body := there.send("POST", path, string(file))
		require.Equal(t, http.StatusOK, status, string(body))
		var n studio.Imported
		require.NoError(t, json.Unmarshal(body, &n))
		return n
	}
	would := bring("/api/studio/import?try=true")
	assert.Equal(t, empty, counts(t, elsewhere), "only tried")
	assert.Equal(t, would, bring("/api/studio/import"))
	assert.Equal(t, counts(t, db), counts(t, elsewhere), "every row of every table")
	for table, n := range counts(t, elsewhere) {
		assert.True(t, n > 0 || table == "person_merge", "the test must hold a row of %s", table)
	}
	_, _, again := there.send("GET", "/api/studio/export?health=true", "")
	assert.Equal(t, string(file), string(again))
	second := bring("/api/studio/import")
	assert.Equal(t, studio.Imported{Kept: second.Kept}, second)
	assert.Equal(t, counts(t, db), counts(t, elsewhere))
	_, _, plain := there.send("GET", "/api/studio/export", "")
	for _, of := range []string{`"yes":[`, `"burn"`, `"joint":"`, `"health"`} {
		assert.False(t, bytes.Contains(plain, []byte(of)), "without health nothing says why: %s", of)
		assert.True(t, of == `"joint":"` || bytes.Contains(file, []byte(of)), "the test must hold %s", of)
	}
	assert.True(t, bytes.Contains(plain, []byte("no-lying-on-back")), "but what is spared")
	undone := edited(there, "/api/circuits/"+next.CircuitID+"/undo", map[string]any{"clientId": id(5), "base": after.Version})
	assert.Len(t, undone.Document.Slots(), 7)
}

// A file that cannot be is refused as a whole, with the place of its fault.
func TestStudioFileRefused(t *testing.T) {
	c, db := hallOn(t, dbtest.DSN(t))
	before := counts(t, db)
	_, _, file := c.send("GET", "/api/studio/export", "")
	fresh := func() (f studiofile.File) {
		require.NoError(t, json.Unmarshal(file, &f))
		return f
	}
	for location, spoil := range map[string]func(f *studiofile.File){
		"body.format":                                  func(f *studiofile.File) { f.Format = "other" },
		"body.studio.timeZone":                         func(f *studiofile.File) { f.Studio.TimeZone = "Moon/Base" },
		"body.places[1].id":                            func(f *studiofile.File) { f.Places[1].ID = f.Places[0].ID },
		"body.places[0].implements[0].mass":            func(f *studiofile.File) { f.Places[0].Implements[0].Mass.Decimal = "999" },
		"body.places[0].implements[0].mass.decimal":    func(f *studiofile.File) { f.Places[0].Implements[0].Mass.Decimal = "1e9" },
		"body.classes[0].place":                        func(f *studiofile.File) { f.Classes[0].Place = id(1) },
		"body.classes[0].circuit.head":                 func(f *studiofile.File) { f.Classes[0].Circuit.Head = 9 },
		"body.classes[0].circuit.versions[0].document": func(f *studiofile.File) { f.Classes[0].Circuit.Versions[0].Document = json.RawMessage(`{"v":1}`) },
		"body.classes[0].lanes[1].lane":                func(f *studiofile.File) { f.Classes[0].Lanes[1].Lane = f.Classes[0].Lanes[0].Lane },
		"body.classes[0].log[0].subject":               func(f *studiofile.File) { f.Classes[0].Log[0].Subject = id(1) },
		"body.classes[0].log[1]":                       func(f *studiofile.File) { f.Classes[0].Log[1] = f.Classes[0].Log[0] },
		"body.classes[0].date":                         func(f *studiofile.File) { f.Classes[0].Date = "2026-02-30" },
	} {
		f := fresh()
		spoil(&f)
		b, err := json.Marshal(f)
		require.NoError(t, err)
		status, _, body := c.send("POST", "/api/studio/import", string(b))
		assert.Equal(t, http.StatusUnprocessableEntity, status, location)
		assert.Contains(t, string(body), `"location":"`+location+`"`)
	}
	status, _, body := c.send("POST", "/api/studio/import", strings.Replace(string(file), `"studio":`, `"strange":1,"studio":`, 1))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, string(body), "strange")
	f := fresh()
	for i := range store.MaxPlaces - len(f.Places) + 1 {
		f.Places = append(f.Places, studiofile.Place{ID: id(i), Name: "P", Kind: "flat", MassUnit: "kg", Implements: []studiofile.Implement{}, Objects: []studiofile.Object{}, Containers: []studiofile.Container{}})
	}
	f.Places = f.Places[1:] // the hall stands there already: with the rest it is one too many
	f.Classes = nil
	b, err := json.Marshal(f)
	require.NoError(t, err)
	status, _, body = c.send("POST", "/api/studio/import", strings.Replace(string(b), `"classes":null`, `"classes":[]`, 1))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, string(body), "over its limit")
	assert.Equal(t, before, counts(t, db), "nothing of any of them")
}
