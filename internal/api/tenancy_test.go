package api

import (
	"context"
	"database/sql"
	"encoding/json"
	"net/http"
	"os"
	"regexp"
	"sort"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

// bodies are requests that would succeed for the owner, by operation; an
// operation without one has no body.
var bodies = map[string]string{
	"put-place":         `{"name":"P","kind":"hall","massUnit":"kg"}`,
	"put-implement":     `{"name":"I","kind":"band","count":1}`,
	"put-object":        `{"name":"O","use":"pack","mass":"1 kg","count":1}`,
	"weigh-object":      `{"name":"O","use":"pack","mass":"1 kg","count":1}`,
	"load-rule":         `{"holding":"goblet","move":"goblet-squat"}`,
	"make-load":         `{"target":"9 kg","loads":1}`,
	"substitutes":       `{"move":"goblet-squat","hold":"goblet","lane":"middle","reps":10,"reserve":2}`,
	"bridge-jump":       `{"move":"goblet-squat","hold":"goblet","from":"8 kg","to":"12 kg","repsLow":8,"repsHigh":12,"lastReps":10,"sessionsOver":0,"reserve":2}`,
	"fit-people":        `{"people":[{"name":"A","stature":"170 cm"}]}`,
	"put-container":     `{"name":"C","mass":"1 kg","max":"5 kg"}`,
	"put-occurrence":    `{"name":"C","date":"2026-11-25","time":"10:00","minutes":45,"placeId":"{place}","lanes":[{"lane":"middle","people":1}]}`,
	"bring-back":        `{"item":"implement","id":"{item}"}`,
	"log-as-planned":    `{}`,
	"put-participant":   `{"name":"N","lane":"middle"}`,
	"put-person":        `{"name":"N"}`,
	"join-people":       `{"personId":"{person}"}`,
	"part-person":       `{"personId":"{new}","participants":["{participant}"]}`,
	"put-record":        `{"date":"2026-11-25","learned":{"skill":"bracing"}}`,
	"put-health":        `{"date":"2026-11-25","changed":true}`,
	"put-groups":        `{"groups":[]}`,
	"put-attendance":    `{"here":[],"gone":[]}`,
	"adapt-circuit":     `{"clientId":"{new}","base":1,"day":{}}`,
	"put-sore":          `{"region":"low-back"}`,
	"put-log-line":      `{"done":1,"inForm":1,"pain":"none"}`,
	"create-circuit":    `{"occurrenceId":"{occurrence}","clientId":"{new}","brief":{"minutes":45,"format":"timed","bans":[]}}`,
	"edit-circuit":      `{"clientId":"{new}","base":1,"ops":[{"op":"set-lead-in","ms":1}]}`,
	"add-slot":          `{"clientId":"{new}","base":1,"blockId":"b3","pattern":"squat","place":0}`,
	"undo-circuit":      `{"clientId":"{new}","base":1}`,
	"fit-circuit":       `{"clientId":"{new}","base":1}`,
	"redo-circuit":      `{"clientId":"{new}","base":1}`,
	"propose-circuit":   `{"clientId":"{new}","base":1,"brief":{"minutes":45,"format":"timed","bans":[]}}`,
	"again-circuit":     `{"clientId":"{new}","base":1,"from":{"circuitId":"{circuit}"}}`,
	"put-template":      `{"name":"T","circuitId":"{circuit}"}`,
	"create-run":        `{"occurrenceId":"{occurrence}"}`,
	"restore-version":   `{"clientId":"{new}","base":1,"version":1}`,
	"import-studio":     `{"format":"nimbleanvil-studio","v":1,"library":"1","studio":{"name":"S","timeZone":"UTC","massUnit":"kg"},"style":{},"moves":[],"places":[],"classes":[]}`,
	"preview-own-moves": `{"format":"nimbleanvil-moves","v":1,"moves":[]}`,
	"import-own-moves":  `{"hash":"x","file":{"format":"nimbleanvil-moves","v":1,"moves":[]}}`,
	"put-style":         `{"studio":{},"moves":{}}`,
	"put-prep":          `{"steps":[]}`,
	"press":             `{"clientId":"{new}","kind":"start"}`,
}

// Every route of the contract that names something, asked by one studio for the
// other's, answers 404, and nothing of the other's changes.
func TestNoRouteCrossesStudios(t *testing.T) {
	dsn := dbtest.DSN(t)
	st, err := store.Open(dsn, fixed)
	require.NoError(t, err)
	defer func() { _ = st.Close() }()
	ctx := context.Background()
	require.NoError(t, st.Migrate(ctx))
	all := studio.New(st, fixed)
	owner, err := demo.Load(ctx, all, now)
	require.NoError(t, err)
	db, err := sql.Open("mysql", dsn)
	require.NoError(t, err)
	defer func() { _ = db.Close() }()
	r, err := db.Exec("INSERT INTO studio (public_id, name, time_zone, mass_unit, created_at) VALUES ('stranger', 'Other', 'UTC', 'kg', NOW(6))")
	require.NoError(t, err)
	stranger, err := r.LastInsertId()
	require.NoError(t, err)

	as := func(p studio.Principal) client {
		who := func(fiber.Ctx) (studio.Principal, error) { return p, nil }
		return client{t, New(Config{Studios: all, Now: fixed, Who: who}).App}
	}
	mine, theirs := as(owner), as(studio.Principal{Studio: stranger, Role: studio.Owner})
	next := ok[studio.Today](mine, "GET", "/api/today", nil).Next
	run := ok[studio.Run](mine, "PUT", "/api/runs/"+id(1), map[string]any{"occurrenceId": next.ID})
	log := ok[studio.Log](mine, "PUT", "/api/occurrences/"+next.ID+"/participants/"+id(2), map[string]any{"name": "Ada", "lane": "middle"})
	place := ok[[]studio.Place](mine, "GET", "/api/places", nil)[0]
	whose := "/api/people/" + log.Sheets[len(log.Sheets)-1].Who
	ok[studio.PersonPage](mine, "PUT", whose+"/records/"+id(4), map[string]any{"date": "2026-11-25", "limit": map[string]any{"limit": "no-impact"}})
	ok[studio.Health](mine, "PUT", whose+"/health/"+id(4), map[string]any{"date": "2026-11-25", "answers": map[string]any{"version": 1, "yes": []string{"pregnancy"}}})
	ok[[]studio.HouseTemplate](mine, "PUT", "/api/templates/"+id(3), map[string]any{"name": "Mine", "circuitId": next.CircuitID})
	names := strings.NewReplacer("{place}", place.ID, "{item}", place.Implements[0].ID, "{occurrence}", next.ID, "{circuit}", next.CircuitID,
		"{run}", run.ID, "{participant}", id(2), "{person}", log.Sheets[len(log.Sheets)-1].Who, "{subject}", "middle", "{slot}", log.Sheets[0].Lines[0].Slot, "{new}", id(77), "{version}", "1", "{template}", id(3), "{record}", id(4), "{merge}", id(6), "{other}", next.CircuitID)
	before := dump(t, db)

	contract, err := os.ReadFile(contractFile)
	require.NoError(t, err)
	var doc struct {
		Paths map[string]map[string]struct {
			OperationID string `json:"operationId"`
			Parameters  []struct{ Name, In string }
		}
	}
	require.NoError(t, json.Unmarshal(contract, &doc))
	var paths []string
	for p := range doc.Paths {
		paths = append(paths, p)
	}
	sort.Strings(paths)
	asked := 0
	named := regexp.MustCompile(`\{[a-z]+\}`)
	for _, path := range paths {
		for method, op := range doc.Paths[path] {
			if !named.MatchString(path) {
				continue
			}
			// A put of a thing that may be made answers in the asker's own studio; what
			// it stands in is the other's.
			if op.OperationID == "put-place" || op.OperationID == "put-occurrence" || op.OperationID == "put-own-move" || op.OperationID == "put-person" {
				continue
			}
			query := ""
			for _, p := range op.Parameters {
				if p.In == "query" {
					query += map[string]string{"slot": "&slot=s1", "party": "&party=middle", "block": "&block=b1", "place": "&place=" + place.ID, "move": "&move=goblet-squat"}[p.Name]
				}
			}
			url := names.Replace(path)
			if query != "" {
				url += "?" + query[1:]
			}
			status, _, body := theirs.send(strings.ToUpper(method), url, names.Replace(bodies[op.OperationID]))
			assert.Equal(t, http.StatusNotFound, status, "%s %s: %s", method, path, body)
			asked++
		}
	}
	assert.GreaterOrEqual(t, asked, 20)
	assert.Equal(t, before, dump(t, db), "nothing of the owner's has changed")

	// A class cannot be put at the other's place, and the other's ids may be used
	// anew without meeting.
	status, _, _ := theirs.send("PUT", "/api/occurrences/"+id(5), names.Replace(bodies["put-occurrence"]))
	assert.Equal(t, http.StatusNotFound, status)
	ok[studio.Place](theirs, "PUT", "/api/places/"+place.ID, json.RawMessage(bodies["put-place"]))
	assert.Equal(t, place, ok[[]studio.Place](mine, "GET", "/api/places", nil)[0])
	assert.Len(t, ok[[]studio.Place](theirs, "GET", "/api/places", nil), 1)
	assert.Nil(t, ok[studio.Today](theirs, "GET", "/api/today", nil).Next)
	ok[moves.Preview](theirs, "PUT", "/api/own-moves/own-crate-squat", ownSquat(t))
	ok[studio.HouseStyle](theirs, "PUT", "/api/style", map[string]any{"studio": map[string]string{"knees": "behind"}, "moves": map[string]any{}})
	assert.Empty(t, ok[moves.File](mine, "GET", "/api/own-moves", nil).Moves)
	assert.Equal(t, "free", ok[studio.HouseStyle](mine, "GET", "/api/style", nil).Schools[0].Chosen)
}

// dump counts every table's rows and sums what they hold.
func dump(t *testing.T, db *sql.DB) map[string]string {
	t.Helper()
	out := map[string]string{}
	for _, table := range store.Tables() {
		var name, sum string
		require.NoError(t, db.QueryRow("CHECKSUM TABLE `"+table+"` EXTENDED").Scan(&name, &sum))
		out[table] = sum
	}
	return out
}
