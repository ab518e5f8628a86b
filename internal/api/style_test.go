package api

import (
	"encoding/json"
	"net/http"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/studio"
)

// ownSquat is a move of a studio's own, on no ladder.
func ownSquat(t *testing.T) moves.Variant {
	t.Helper()
	v, found := moves.Standard().Get("goblet-squat")
	require.True(t, found)
	c := *v
	c.ID, c.Name, c.Ladder, c.Rung, c.Lever, c.Lanes = "own-crate-squat", "Crate squat", "", 0, nil, []moves.Lane{}
	return c
}

// The house style changes what every view reads of a move, at once and on every
// server; what nobody knows is refused and changes nothing.
func TestStyleReachesTheLibrary(t *testing.T) {
	c := hall(t, fixed)
	cue := func(id string) string {
		for _, m := range ok[studio.Library](c, "GET", "/api/library", nil).Moves {
			if m.ID == id {
				return m.Cue
			}
		}
		return ""
	}
	before := cue("goblet-squat")
	style := ok[studio.HouseStyle](c, "PUT", "/api/style", map[string]any{"studio": map[string]string{"knees": "behind", "back-squat": "off", "thrust": "floor"},
		"moves": map[string]any{"squat": map[string]string{"knees": "free"}}})
	assert.Equal(t, "behind", style.Schools[0].Chosen)
	assert.Equal(t, "Sit back, knees stay behind the toes.", cue("goblet-squat"))
	assert.NotEqual(t, "Sit back, knees stay behind the toes.", cue("squat"), "excepted")
	for _, m := range ok[studio.MoveLibrary](c, "GET", "/api/moves", nil).Moves {
		assert.NotEqual(t, "barbell-back-squat", m.ID)
	}
	// No bench thrust is proposed any more.
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	p := ok[studio.Proposed](c, "POST", "/api/circuits/"+next.CircuitID+"/propose", map[string]any{"clientId": id(1), "base": 1, "brief": map[string]any{"minutes": 45, "format": "timed", "bans": []string{}}})
	for _, slot := range p.Circuit.Document.Slots() {
		for _, e := range slot.Entries {
			assert.NotContains(t, e.Variant, "bench-hip-thrust")
		}
	}
	// What the house does with sides and dose stands in what is proposed, and in what
	// is asked.
	ok[studio.HouseStyle](c, "PUT", "/api/style", map[string]any{"studio": map[string]string{"sides": "alternating", "dose": "reps"}, "moves": map[string]any{}})
	assert.Equal(t, "reps", string(ok[studio.Library](c, "GET", "/api/library", nil).Format))
	p = ok[studio.Proposed](c, "POST", "/api/circuits/"+next.CircuitID+"/propose", map[string]any{"clientId": id(2), "base": 2, "brief": map[string]any{"minutes": 45, "format": "timed", "bans": []string{}}})
	lunges := 0
	for _, slot := range p.Circuit.Document.Slots() {
		if slot.Pattern == moves.Lunge || slot.Pattern == moves.Lateral {
			for party, e := range slot.Entries {
				if _, lane := party.Lane(); !lane {
					continue // somebody's own may be of another pattern
				}
				lunges++
				assert.Equal(t, "alternate", string(e.Sides))
			}
		}
	}
	assert.Positive(t, lunges)
	status, _, body := c.send("PUT", "/api/style", `{"studio":{"knees":"sideways"},"moves":{}}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, string(body), `"location":"body.studio.knees"`)
	ok[studio.HouseStyle](c, "PUT", "/api/style", map[string]any{"studio": map[string]string{}, "moves": map[string]any{}})
	assert.Equal(t, before, cue("goblet-squat"))
}

// A prep of the house's own begins every session that chooses its prep, until it is given
// back; what is no move is refused by name, and the style that is chosen besides stays.
func TestHousePrep(t *testing.T) {
	c := hall(t, func() time.Time { return now })
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next.CircuitID
	prep := func() []string {
		all := ok[studio.Circuit](c, "GET", "/api/circuits/"+next, nil).Plan.Prep
		return plan.IDs(slices.DeleteFunc(all, func(d plan.Drill) bool { return d.Slot != "" })) // but the set before a heavy one
	}
	chosen := prep()
	require.NotEmpty(t, chosen)
	own := []string{"upper-back-opener", "march-on-the-spot"} // somebody of the class is spared the knee
	steps := []moves.PrepStep{{Move: own[0], Ms: 20_000, Sides: scheme.Split}, {Move: own[1]}}
	style := ok[studio.HouseStyle](c, "PUT", "/api/prep", map[string]any{"steps": steps})
	assert.Equal(t, steps, style.Prep)
	ok[studio.HouseStyle](c, "PUT", "/api/style", map[string]any{"studio": map[string]string{"knees": "behind"}, "moves": map[string]any{}})
	assert.Equal(t, own, prep())
	status, _, body := c.send("PUT", "/api/prep", `{"steps":[{"move":"ankle-rocks"},{"move":"dance"},{"move":"ankle-rocks"},{"move":"goblet-squat"},{"move":"shin-turns","ms":9000,"reps":3}]}`)
	assert.Equal(t, 422, status)
	assert.Contains(t, string(body), "body.steps[1].move")
	assert.Contains(t, string(body), "body.steps[2].move")
	assert.Contains(t, string(body), "body.steps[4].reps")
	assert.Contains(t, string(body), "body.steps[3].loadG", "a goblet squat is not done without a load")
	assert.Equal(t, own, prep())
	written := ok[circuit.Block](c, "GET", "/api/circuits/"+next+"/written-out?block=b1", nil)
	assert.Equal(t, circuit.Dose{Kind: circuit.Seconds, Ms: 20_000}, written.Slots[0].Entries["middle"].Dose)
	ok[studio.HouseStyle](c, "PUT", "/api/prep", map[string]any{"steps": []any{}})
	assert.Equal(t, chosen, prep())
	b := ok[circuit.Block](c, "GET", "/api/circuits/"+next+"/written-out?block=b1", nil)
	assert.GreaterOrEqual(t, len(b.Slots), len(chosen))
	status, _, body = c.send("GET", "/api/circuits/"+next+"/written-out?block=b3", "")
	assert.Equal(t, 422, status)
	assert.Contains(t, string(body), "query.block")
}

// A brief's goal and template make the proposal, stand in its document, and what is no goal
// is refused by name; a session of one pattern names it.
func TestBriefOfAGoal(t *testing.T) {
	c := hall(t, func() time.Time { return now })
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next.CircuitID
	propose := func(n int, brief map[string]any) (int, []byte) {
		base := ok[studio.Circuit](c, "GET", "/api/circuits/"+next, nil).Version
		brief["minutes"], brief["format"], brief["bans"] = 60, "timed", []string{}
		b, err := json.Marshal(map[string]any{"base": base, "clientId": id(70_000 + n), "brief": brief})
		require.NoError(t, err)
		status, _, body := c.send("POST", "/api/circuits/"+next+"/propose", string(b))
		return status, body
	}
	status, body := propose(1, map[string]any{"goal": "muscle", "template": "legs"})
	require.Equal(t, 200, status, "%.300s", body)
	now := ok[studio.Circuit](c, "GET", "/api/circuits/"+next, nil)
	assert.Equal(t, goal.Muscle, now.Document.Goal)
	assert.Equal(t, goal.Legs, now.Document.Template)
	work := now.Document.Blocks[now.Document.Block("b3")]
	assert.True(t, work.Is(scheme.Sets))
	for _, s := range work.Slots {
		assert.True(t, s.Pattern.OfTheLegs(), s.Pattern)
	}
	assert.True(t, now.Plan.Fits)
	for n, wrong := range map[int]struct {
		brief map[string]any
		path  string
	}{
		2: {map[string]any{"goal": "size"}, "body.brief.goal"}, 3: {map[string]any{"template": "one-pattern"}, "body.brief.pattern"},
		4: {map[string]any{"template": "legs", "pattern": "squat"}, "body.brief.pattern"}, 5: {map[string]any{"template": "arms"}, "body.brief.template"},
		7: {map[string]any{"pins": []any{map[string]any{"move": "dance"}}}, "body.brief.pins[0].move"}, 8: {map[string]any{"pins": []any{map[string]any{"move": "squat", "load": "heavy"}}}, "body.brief.pins[0].load"},
		10: {map[string]any{"new": []string{"dance"}}, "body.brief.new[0]"}, 11: {map[string]any{"layout": "ring"}, "body.brief.layout"},
		12: {map[string]any{"pins": []any{map[string]any{"move": "squat"}}, "blocks": []any{map[string]any{"pins": []any{}}}}, "body.brief.pins"},
		13: {map[string]any{"blocks": []any{map[string]any{"scheme": "superset", "pins": []any{}}}}, "body.brief.blocks[0].pins"},
		14: {map[string]any{"blocks": []any{map[string]any{"scheme": "sets", "layout": "stations", "pins": []any{map[string]any{"move": "squat"}}}}}, "body.brief.blocks[0].layout"},
		15: {map[string]any{"blocks": []any{map[string]any{"pins": []any{}}, map[string]any{"pins": []any{}}}}, "body.brief.blocks[1].pins"},
		16: {map[string]any{"blocks": []any{map[string]any{"dose": "lots", "pins": []any{map[string]any{"move": "squat"}}}}}, "body.brief.blocks[0].dose"},
		17: {map[string]any{"blocks": []any{map[string]any{"pins": []any{map[string]any{"move": "squat", "dose": "about 8-12"}, map[string]any{"move": "one-arm-press", "dose": "about 8-12"}}}}}, "body.brief.blocks[0].pins[1].dose"},
		18: {map[string]any{"pins": []any{map[string]any{"move": "goblet-squat", "load": "none"}}}, "body.brief.pins[0].load"},
		19: {map[string]any{"pins": []any{map[string]any{"move": "squat", "tempo": "slow"}}}, "body.brief.pins[0].tempo"},
	} {
		status, body := propose(n, wrong.brief)
		assert.Equal(t, 422, status, "%.300s", body)
		assert.Contains(t, string(body), wrong.path)
	}
	status, body = propose(9, map[string]any{"pins": []any{map[string]any{"move": "goblet-squat", "load": "12 kg", "dose": "9"}}})
	require.Equal(t, 200, status, "%.300s", body)
	var pinned plan.Cell
	for _, cell := range ok[studio.Circuit](c, "GET", "/api/circuits/"+next, nil).Plan.Slots[0].Cells {
		if cell.Party == "middle" {
			pinned = cell
		}
	}
	assert.Equal(t, "goblet-squat", pinned.Entry.Variant)
	assert.EqualValues(t, 12_000, pinned.LoadG)
	assert.Equal(t, 9, pinned.Entry.Dose.Low)
	status, body = propose(6, map[string]any{"template": "one-pattern", "pattern": "bridge"})
	require.Equal(t, 200, status, "%.300s", body)
	for _, s := range ok[studio.Circuit](c, "GET", "/api/circuits/"+next, nil).Document.Loaded() {
		if !s.Pinned { // what was pinned stays
			assert.Contains(t, moves.Bridge.StandIns(), s.Pattern)
		}
	}
}

// Own moves go out and in: looked at first, taken in only as looked at, twice the
// same is once; then they can stand in a circuit.
func TestOwnMovesInAndOut(t *testing.T) {
	c, _ := hallOn(t, dbtest.DSN(t))
	file := map[string]any{"format": "nimbleanvil-moves", "v": 1, "moves": []any{ownSquat(t)}}
	p := ok[moves.Preview](c, "POST", "/api/own-moves/preview", file)
	assert.Equal(t, []string{"own-crate-squat"}, p.Added)
	send := func(hash string, file any) (int, string) {
		b, err := json.Marshal(map[string]any{"hash": hash, "file": file})
		require.NoError(t, err)
		status, _, body := c.send("POST", "/api/own-moves/import", string(b))
		return status, string(body)
	}
	other := ownSquat(t)
	other.Name = "Other"
	status, _ := send(p.Hash, map[string]any{"format": "nimbleanvil-moves", "v": 1, "moves": []any{other}})
	assert.Equal(t, http.StatusConflict, status, "another file than was looked at")
	ok[studio.HouseStyle](c, "PUT", "/api/style", map[string]any{"studio": map[string]string{"knees": "behind"}, "moves": map[string]any{}})
	status, _ = send(p.Hash, file)
	assert.Equal(t, http.StatusConflict, status, "the library moved on")
	p = ok[moves.Preview](c, "POST", "/api/own-moves/preview", file)
	status, body := send(p.Hash, file)
	require.Equal(t, http.StatusOK, status, body)
	again := ok[moves.Preview](c, "POST", "/api/own-moves/preview", file)
	assert.Equal(t, []string{"own-crate-squat"}, again.Same)
	status, _ = send(again.Hash, file)
	assert.Equal(t, http.StatusOK, status)
	assert.Len(t, ok[moves.File](c, "GET", "/api/own-moves", nil).Moves, 1)

	bad := ownSquat(t)
	bad.Tempo = "soon"
	b, err := json.Marshal(bad)
	require.NoError(t, err)
	status, _, refused := c.send("PUT", "/api/own-moves/own-crate-squat", string(b))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, string(refused), `"location":"body.tempo"`)

	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	doc := ok[studio.Circuit](c, "GET", "/api/circuits/"+next.CircuitID, nil).Document
	e := doc.Slots()[0].Entries[people.OfLane(moves.Middle)]
	e.Variant, e.Hold, e.Load = "own-crate-squat", "goblet", kit.Load{Kind: kit.Implements, Item: demo.ID("hall/Bell16"), Count: 1}
	edited := edited(c, "/api/circuits/"+next.CircuitID+"/edits", map[string]any{"clientId": id(2), "base": 1,
		"ops": []any{map[string]any{"op": "set-entry", "slotId": doc.Slots()[0].ID, "party": "middle", "entry": e}}})
	assert.Equal(t, "own-crate-squat", edited.Document.Slots()[0].Entries[people.OfLane(moves.Middle)].Variant)
}

// Of a class's new cues one is given and the rest wait; a logged class has taught
// one.
func TestOneNewCueOfAClass(t *testing.T) {
	c := hall(t, fixed)
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	q := ok[studio.CueQueue](c, "GET", "/api/circuits/"+next.CircuitID+"/cues", nil)
	fresh := 0
	for _, m := range q.Moves {
		assert.NotEmpty(t, m.Text)
		if m.Fresh {
			fresh++
		}
	}
	assert.Equal(t, 1, fresh)
	assert.NotEmpty(t, q.Waiting)
	assert.Less(t, len(q.Waiting), len(q.Moves), "what has met in eight weeks has taught some")
	run := ok[studio.Run](c, "PUT", "/api/runs/"+id(1), map[string]any{"occurrenceId": next.ID})
	assert.Equal(t, q.Moves, run.Cues)
}

// Called footwork is the studio's day's: the same all day there, another the next,
// by the studio's own clock; every direction is called.
func TestFootworkOfTheDay(t *testing.T) {
	at := now
	c := hall(t, func() time.Time { return at })
	today := ok[studio.Footwork](c, "GET", "/api/footwork", nil)
	assert.Equal(t, "2026-11-25", today.Date)
	assert.Len(t, today.Calls, 15) // 45 s, one every three
	assert.Subset(t, today.Calls, moves.Directions)
	at = time.Date(2026, 11, 25, 22, 59, 0, 0, time.UTC) // 23:59 in Berlin
	assert.Equal(t, today, ok[studio.Footwork](c, "GET", "/api/footwork", nil))
	at = at.Add(time.Minute)
	next := ok[studio.Footwork](c, "GET", "/api/footwork", nil)
	assert.Equal(t, "2026-11-26", next.Date)
	assert.NotEqual(t, today.Calls, next.Calls)
}

// What a place's kit serves: nothing is named that needs an anchor or a weight the
// place has not, and what needs nothing is served everywhere.
func TestMovesAtHand(t *testing.T) {
	c := hall(t, fixed)
	cards := map[string]studio.MoveCard{}
	for _, m := range ok[studio.MoveLibrary](c, "GET", "/api/moves", nil).Moves {
		cards[m.ID] = m
	}
	for _, p := range ok[[]studio.Place](c, "GET", "/api/places", nil) {
		served := ok[studio.AtHand](c, "GET", "/api/moves/at/"+p.ID, nil).Moves
		for _, id := range []string{"squat", "floor-bridge", "push-up", "dead-bug"} {
			assert.Contains(t, served, id, p.Name)
		}
		for _, id := range served {
			for _, need := range cards[id].Needs {
				assert.NotEmpty(t, p.Implements, "%s needs a %s, and %s has nothing", id, need, p.Name)
			}
		}
		if p.Kind == "hall" {
			assert.Contains(t, served, "bench-hip-thrust")
			assert.NotContains(t, served, "table-row", "its table is a trestle nobody has checked")
		}
	}
}
