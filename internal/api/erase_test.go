package api

import (
	"bytes"
	"compress/gzip"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

// everything reads every column of every table of a database, whatever its type, by table and
// column.
func everything(t *testing.T, db *sql.DB) map[string]string {
	t.Helper()
	columns, err := db.Query("SELECT table_name, column_name FROM information_schema.columns WHERE table_schema = DATABASE()")
	require.NoError(t, err)
	var all [][2]string
	for columns.Next() {
		var table, column string
		require.NoError(t, columns.Scan(&table, &column))
		all = append(all, [2]string{table, column})
	}
	require.NoError(t, columns.Err())
	out := map[string]string{}
	for _, c := range all {
		rows, err := db.Query(fmt.Sprintf("/* a test's */ SELECT COALESCE(CAST(`%s` AS CHAR), '') FROM `%s`", c[1], c[0]))
		require.NoError(t, err)
		var b strings.Builder
		for rows.Next() {
			var v string
			require.NoError(t, rows.Scan(&v))
			b.WriteString(v + "\n")
		}
		require.NoError(t, rows.Err())
		out[c[0]+"."+c[1]] = b.String()
	}
	return out
}

// Somebody is erased: afterwards no column of any table, no new backup and no new file holds
// their name, ids, measures, limits, health or pains; what they did stays as counts of nobody's,
// without the resistance from which their body could be reckoned. An older backup that is
// brought back, or an older file, does not bring them back.
func TestErasedFromEverything(t *testing.T) {
	dsn := dbtest.DSN(t)
	c, db := hallOn(t, dsn)
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	class := "/api/occurrences/" + next.ID
	who, other, part, record, answer := id(600_001), id(600_002), id(600_003), id(600_004), id(600_005)
	whose := "/api/people/" + who
	canaries := []string{"Zebrina", "Quillfeather", "Zeb Q.", "canary-of-hers", who, other, part, record, answer, "77.77", "wrist-spare", "hypermobile"}

	ok[studio.Person](c, "PUT", whose, map[string]any{"name": "Zebrina Quillfeather", "note": "canary-of-hers", "weaker": "left"})
	ok[studio.Person](c, "PUT", "/api/people/"+other, map[string]any{"name": "Zeb Q."})
	ok[studio.PersonPage](c, "PUT", "/api/people/"+other+"/records/"+record, map[string]any{"date": "2026-11-20", "measure": map[string]any{"body": "77.77 kg"}})
	ok[studio.Person](c, "POST", whose+"/join", map[string]any{"personId": other})
	ok[studio.PersonPage](c, "PUT", whose+"/records/"+id(600_006), map[string]any{"date": "2026-11-20", "limit": map[string]any{"limit": "wrist-spare"}})
	ok[studio.Health](c, "PUT", whose+"/health/"+answer, map[string]any{"date": "2026-11-20", "answers": map[string]any{"version": 1, "yes": []string{"hypermobile"}}})
	ok[studio.Occurrence](c, "PUT", class+"/attendance", map[string]any{"here": []any{map[string]any{"id": part, "personId": who, "lane": "ground"}}})
	head := ok[studio.Circuit](c, "GET", "/api/circuits/"+next.CircuitID, nil)
	entry := head.Document.Slots()[0].Entries["ground"]
	entry.Dose.Low, entry.Dose.High = 7, 7
	edited(c, "/api/circuits/"+next.CircuitID+"/edits", map[string]any{"clientId": id(600_007), "base": head.Version,
		"ops": []any{map[string]any{"op": "set-entry", "slotId": head.Document.Slots()[0].ID, "party": part, "entry": entry}}})
	ok[studio.Run](c, "PUT", "/api/runs/"+id(600_008), map[string]any{"occurrenceId": next.ID})
	press := "/api/runs/" + id(600_008) + "/events"
	ok[studio.RunNow](c, "POST", press, map[string]any{"clientId": id(600_009), "kind": "start"})
	ok[studio.RunNow](c, "POST", press, map[string]any{"clientId": id(600_010), "kind": "done", "party": part, "slot": head.Document.Slots()[0].ID})
	line := class + "/log/" + part + "/" + head.Document.Slots()[0].ID
	ok[progress.Sheet](c, "PUT", line, map[string]any{"done": 8, "inForm": 6, "pain": "joint", "joint": "wrist"})
	ok[progress.Sheet](c, "PUT", line, map[string]any{"done": 9, "inForm": 9, "pain": "joint", "joint": "elbow", "device": id(600_011), "n": 2})
	before := everything(t, db)
	for _, canary := range canaries {
		seen := false
		for _, cells := range before {
			seen = seen || strings.Contains(cells, canary)
		}
		assert.True(t, seen, "%s is written somewhere before", canary)
	}
	own := ok[struct{ Person struct{ Name string } }](c, "GET", whose+"/export", nil)
	assert.Equal(t, "Zebrina Quillfeather", own.Person.Name)
	_, _, whole := c.send("GET", whose+"/export", "")
	for _, part := range []string{"77.77", "wrist-spare", "hypermobile", "canary-of-hers", `"joint":"elbow"`, `"joint":"wrist"`} {
		assert.True(t, bytes.Contains(whole, []byte(part)), "out whole: %s", part)
	}
	st, err := store.Open(dsn, fixed)
	require.NoError(t, err)
	defer func() { _ = st.Close() }()
	var old bytes.Buffer
	require.NoError(t, st.Backup(t.Context(), &old, true))
	_, _, file := c.send("GET", "/api/studio/export?health=true", "")
	lines, people := counts(t, db)["log_line"], counts(t, db)["participant"]

	erased := func(when string) {
		t.Helper()
		for column, cells := range everything(t, db) {
			for _, canary := range canaries {
				assert.False(t, strings.Contains(cells, canary), "%s: %s holds %s", when, column, canary)
			}
		}
		assert.Equal(t, []int{lines, people}, []int{counts(t, db)["log_line"], counts(t, db)["participant"]}, "%s: what was done stays", when)
		var n, heavy, hurt int
		require.NoError(t, db.QueryRow("/* a test's */ SELECT COUNT(*), COALESCE(SUM(resistance_g), 0) FROM log_line l JOIN occurrence o ON o.id = l.occurrence_id WHERE o.public_id = ? AND l.subject NOT IN ('ground', 'middle', 'reach')", next.ID).Scan(&n, &heavy))
		require.NoError(t, db.QueryRow("/* a test's */ SELECT COUNT(*) FROM pain_report r LEFT JOIN log_line l ON l.id = r.line_id LEFT JOIN log_line_past p ON p.id = r.past_id JOIN occurrence o ON o.id = COALESCE(l.occurrence_id, p.occurrence_id) WHERE o.public_id = ?", next.ID).Scan(&hurt))
		assert.Equal(t, []int{1, 0, 0}, []int{n, heavy, hurt}, when)
		var fresh bytes.Buffer
		require.NoError(t, st.Backup(t.Context(), &fresh, true))
		zip, err := gzip.NewReader(&fresh)
		require.NoError(t, err)
		text, err := io.ReadAll(zip)
		require.NoError(t, err)
		_, _, out := c.send("GET", "/api/studio/export?health=true", "")
		for _, canary := range canaries {
			assert.False(t, bytes.Contains(text, []byte(canary)), "%s: a new backup holds %s", when, canary)
			assert.False(t, bytes.Contains(out, []byte(canary)), "%s: a new file holds %s", when, canary)
		}
		// The class is there as ever, with somebody in it whom nobody knows.
		ok[studio.Circuit](c, "GET", "/api/circuits/"+next.CircuitID, nil)
		ok[studio.Run](c, "GET", "/api/runs/"+id(600_008), nil)
		ok[studio.Log](c, "GET", class+"/log", nil)
		ok[studio.Circuit](c, "GET", "/api/circuits/"+next.CircuitID+"/versions/1", nil)
	}
	assert.Equal(t, 1, ok[studio.Erased](c, "DELETE", whose, nil).Classes)
	erased("erased")
	undone := edited(c, "/api/circuits/"+next.CircuitID+"/undo", map[string]any{"clientId": id(600_012), "base": head.Version + 1})
	assert.Equal(t, head.Document, undone.Document, "history still leads back")
	status, _, _ := c.send("DELETE", whose, "")
	assert.Equal(t, http.StatusNotFound, status)
	status, _, said := c.send("PUT", whose, `{"name":"Somebody"}`)
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, string(said), "was erased here")

	imported := ok[studio.Imported](c, "POST", "/api/studio/import", json.RawMessage(file))
	assert.Zero(t, imported.Persons+imported.People+imported.Lines+imported.Runs, "%+v", imported)
	erased("an older file brought in")

	require.NoError(t, st.Restore(t.Context(), bytes.NewReader(old.Bytes())))
	erased("an older backup brought back")

	// Into another studio that has erased them, and has none of their classes: the classes come,
	// and they are nobody in them.
	elsewhere := dbtest.DSN(t)
	there, at := hallOn(t, elsewhere)
	moved := strings.ReplaceAll(string(file), "demo", "othe")
	ok[studio.Person](there, "PUT", whose, map[string]any{"name": "Zebrina Quillfeather"})
	ok[studio.Erased](there, "DELETE", whose, nil)
	ok[studio.Person](there, "PUT", "/api/people/"+other, map[string]any{"name": "Zeb Q."})
	ok[studio.Erased](there, "DELETE", "/api/people/"+other, nil)
	came := ok[studio.Imported](there, "POST", "/api/studio/import", json.RawMessage(moved))
	assert.Positive(t, came.Classes)
	for column, cells := range everything(t, at) {
		for _, canary := range canaries {
			assert.False(t, strings.Contains(cells, canary), "elsewhere: %s holds %s", column, canary)
		}
	}
}
