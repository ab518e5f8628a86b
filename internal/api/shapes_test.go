package api

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/golden/shapes"
	"nimbleanvil/internal/studio"
)

// mostEdits is how many edits make a proposal into what was meant by its brief.
const mostEdits = 5

// kitID is the id of a thing of the nth shape.
func kitID(n int, name string) string {
	name = strings.ReplaceAll(name, "-", "")
	return fmt.Sprintf("%s%0*d", name, 26-len(name), n)
}

// furnish makes the place of a shape with its kit.
func furnish(c client, n int, s shapes.Shape, place string) {
	ok[studio.Place](c, "PUT", "/api/places/"+place, map[string]any{"name": s.Name, "kind": "hall", "massUnit": "kg"})
	stock := s.Stock(c.t)
	for _, i := range stock.Implements {
		in := map[string]any{"name": i.ID, "kind": i.Kind, "count": i.Count}
		if i.Mass > 0 {
			in["mass"] = fmt.Sprintf("%d g", i.Mass)
		}
		if i.Height > 0 {
			in["height"] = fmt.Sprintf("%d mm", i.Height)
		}
		if i.Highest > 0 {
			in["highest"] = fmt.Sprintf("%d mm", i.Highest)
		}
		if len(i.Points) > 0 {
			in["points"] = i.Points
		}
		if i.Kind == kit.Table || i.Kind == kit.FootHold {
			in["checked"] = true
		}
		ok[json.RawMessage](c, "PUT", "/api/places/"+place+"/implements/"+kitID(n, i.ID), in)
	}
	for _, o := range stock.Objects {
		ok[json.RawMessage](c, "PUT", "/api/places/"+place+"/objects/"+kitID(n, o.ID), map[string]any{
			"name": o.ID, "use": o.Use, "mass": fmt.Sprintf("%d g", o.Mass), "count": o.Count, "traits": append([]string{}, o.Traits...),
		})
	}
	for _, x := range stock.Containers {
		ok[json.RawMessage](c, "PUT", "/api/places/"+place+"/containers/"+kitID(n, x.ID), map[string]any{
			"name": x.ID, "mass": fmt.Sprintf("%d g", x.Mass), "max": fmt.Sprintf("%d g", x.Max), "closed": true, "straps": true,
			"wear": append([]string{}, x.Wear...),
		})
	}
}

// there is a shape's document with the kit as the place calls it.
func there(n int, s shapes.Shape, c client) circuit.Document {
	d, _ := s.Document(c.t, moves.Standard())
	for _, b := range d.Blocks {
		for _, slot := range b.Slots {
			for who, e := range slot.Entries {
				if e.Load.Item != "" {
					e.Load.Item = kitID(n, e.Load.Item)
				}
				if e.Load.Container != "" {
					e.Load.Container = kitID(n, e.Load.Container)
				}
				for i := range e.Load.Parts {
					e.Load.Parts[i].ID = kitID(n, e.Load.Parts[i].ID)
				}
				for i := range e.Anchors {
					e.Anchors[i] = kitID(n, e.Anchors[i])
				}
				slot.Entries[who] = e
			}
		}
	}
	return d
}

// session is what of a document is the session: without what things are called and what the
// next proposal keeps.
func session(d circuit.Document) []circuit.Block {
	d = d.Clone()
	for i := range d.Blocks {
		d.Blocks[i].ID = ""
		for n := range d.Blocks[i].Slots {
			d.Blocks[i].Slots[n].ID, d.Blocks[i].Slots[n].Pinned = "", false
		}
	}
	return d.Blocks
}

// Every shape goes from its brief over the API to a log: proposed, with at most five edits
// made into exactly what people run (common practice, no source), run to its end with a press
// here and there, and written down.
func TestShapesFromBriefToLogged(t *testing.T) {
	r := &runner{at: now}
	r.client = hall(t, func() time.Time { return r.at })
	c := r.client
	for n, s := range shapes.All(t) {
		place, class, circ, runs := id(1000+n), id(2000+n), id(3000+n), id(4000+n)
		furnish(c, n, s, place)
		ok[json.RawMessage](c, "PUT", "/api/occurrences/"+class, map[string]any{
			"name": fmt.Sprintf("Shape %d", n+1), "date": r.at.AddDate(0, 0, 1+n).Format("2006-01-02"), "time": "18:00",
			"minutes": s.Minutes, "placeId": place, "lanes": []any{map[string]any{"lane": "middle", "people": 1}},
		})
		brief := map[string]any{}
		require.NoError(t, json.Unmarshal(s.Brief, &brief))
		brief["minutes"] = s.Minutes
		made := ok[studio.Proposed](c, "PUT", "/api/circuits/"+circ, map[string]any{"occurrenceId": class, "clientId": id(5000 + n), "brief": brief})
		require.True(t, made.Feasible, "%s: %v", s.Name, made.Relax)
		assert.True(t, made.Circuit.Plan.SlackMs >= 0, "%s takes %d ms too long", s.Name, -made.Circuit.Plan.SlackMs)

		want := there(n, s, c)
		edits := shapes.Edits(made.Circuit.Document, want)
		assert.LessOrEqual(t, len(edits), mostEdits, s.Name)
		for _, e := range edits {
			b, _ := json.Marshal(e)
			t.Logf("%d %s: %s", n+1, s.Name, b)
			if e.Kind == circuit.SetEntry {
				x, _ := made.Circuit.Document.Slot(e.SlotID)
				b, _ = json.Marshal(x.Entries["middle"])
				t.Logf("   was %s", b)
			}
		}
		got := *made.Circuit
		if len(edits) > 0 {
			got = edited(c, "/api/circuits/"+circ+"/edits", map[string]any{"clientId": id(6000 + n), "base": 1, "ops": edits})
		}
		assert.Equal(t, session(want), session(got.Document), s.Name)
		r.run = runs
		r.all(class, got)
		log := ok[studio.Log](c, "POST", "/api/occurrences/"+class+"/log/as-planned", map[string]any{})
		require.Len(t, log.Sheets, 1, s.Name)
		trained := 0
		for _, b := range want.Blocks {
			for range b.Slots {
				if b.Kind.Loaded() {
					trained++
				}
			}
		}
		require.Len(t, log.Sheets[0].Lines, trained, s.Name)
		for _, l := range log.Sheets[0].Lines {
			assert.True(t, l.Saved, "%s: %s", s.Name, l.Variant)
			require.NotNil(t, l.Result, "%s: %s", s.Name, l.Variant)
			assert.EqualValues(t, strength.Right, l.Result.Verdict, "%s: %s done as planned", s.Name, l.Variant)
		}
	}
}

// all runs a class from its first second to its last, with every scheme's change on the way.
func (r *runner) all(class string, c studio.Circuit) {
	r.t.Helper()
	made := ok[studio.Run](r.client, "PUT", "/api/runs/"+r.run, map[string]any{"occurrenceId": class})
	require.Equal(r.t, int64(c.Plan.TotalMs), made.Order.Total)
	require.Len(r.t, made.Slots, len(c.Document.Slots()))
	now := r.press(map[string]any{"kind": "start"})
	for _, x := range made.Order.Stretches {
		if x.Kind != scheme.Work {
			continue
		}
		r.to(now, x.From+1000)
		now = r.press(map[string]any{"kind": "hold"})
		p, _ := now.Anchor.Position(r.at.UnixMilli(), made.Order.Total)
		require.Equal(r.t, x.From+1000, p)
		now = r.press(map[string]any{"kind": "resume"})
	}
	now = r.press(map[string]any{"kind": "end"})
	require.Equal(r.t, cue.Ended, now.Anchor.State)
}

// A session of last week is done again with what the log decided, is kept as a template of the
// house, renamed and used at another place, and stands beside another; what is not there, or
// asked for both ways, is refused by name.
func TestSessionsAgain(t *testing.T) {
	c := hall(t, func() time.Time { return now })
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	first := ok[studio.Circuit](c, "GET", "/api/circuits/"+next.CircuitID, nil)
	class := func(n int, place string) string {
		ok[json.RawMessage](c, "PUT", "/api/occurrences/"+id(n), map[string]any{
			"name": next.Name, "date": now.AddDate(0, 0, 7).Format("2006-01-02"), "time": "10:00", "minutes": next.Minutes, "placeId": place,
			"lanes": []any{map[string]any{"lane": "middle", "people": 3}, map[string]any{"lane": "reach", "people": 2}},
		})
		return id(n)
	}
	later := class(100, next.PlaceID)
	sessions := ok[studio.Sessions](c, "GET", "/api/occurrences/"+later+"/sessions", nil)
	require.NotEmpty(t, sessions.Earlier)
	assert.True(t, sessions.Earlier[0].SameSeries)
	assert.Equal(t, next.CircuitID, sessions.Earlier[0].CircuitID, "the newest of the group")
	assert.Empty(t, sessions.Templates)

	made := ok[studio.Proposed](c, "PUT", "/api/circuits/"+id(101), map[string]any{"occurrenceId": later, "clientId": id(102), "from": map[string]any{"circuitId": next.CircuitID}})
	again := *made.Circuit
	require.Equal(t, len(first.Document.Slots()), len(again.Document.Slots()))
	for i, s := range again.Document.Slots() {
		assert.Equal(t, first.Document.Slots()[i].Pattern, s.Pattern)
		assert.NotContains(t, s.Entries, people.Party("ground"), "nobody of Ground comes")
		assert.Contains(t, s.Entries, people.Party("middle"))
	}
	assert.Equal(t, "again", ok[studio.Versions](c, "GET", "/api/circuits/"+id(101)+"/versions", nil).Rows[0].Kind)
	twice := ok[studio.Proposed](c, "PUT", "/api/circuits/"+id(101), map[string]any{"occurrenceId": later, "clientId": id(102), "from": map[string]any{"circuitId": next.CircuitID}})
	assert.Equal(t, again.Document, twice.Circuit.Document)

	kept := ok[[]studio.HouseTemplate](c, "PUT", "/api/templates/"+id(110), map[string]any{"name": "Tuesdays", "circuitId": next.CircuitID})
	require.Len(t, kept, 1)
	kept = ok[[]studio.HouseTemplate](c, "PUT", "/api/templates/"+id(110), map[string]any{"name": "Mondays"})
	assert.Equal(t, "Mondays", kept[0].Name)
	assert.NotEmpty(t, kept[0].Moves)
	// A file of the studio has it, and a studio that has it already keeps its own.
	_, _, file := c.send("GET", "/api/studio/export", "")
	assert.Contains(t, string(file), `"name":"Mondays"`)
	brought := ok[studio.Imported](c, "POST", "/api/studio/import", json.RawMessage(file))
	assert.Zero(t, brought.Templates)

	flat := ""
	for _, p := range ok[[]studio.Place](c, "GET", "/api/places", nil) {
		if p.Kind == "flat" {
			flat = p.ID
		}
	}
	elsewhere := class(120, flat)
	home := ok[studio.Proposed](c, "PUT", "/api/circuits/"+id(121), map[string]any{"occurrenceId": elsewhere, "clientId": id(122), "from": map[string]any{"templateId": id(110)}})
	for _, s := range home.Circuit.Plan.Slots {
		for _, cell := range s.Cells {
			assert.False(t, cell.Unknown, "nothing of the hall is in the flat")
		}
	}
	// In place of a plan, and back.
	version := again.Version
	put := ok[studio.Proposed](c, "POST", "/api/circuits/"+id(101)+"/again", map[string]any{"clientId": id(130), "base": version, "from": map[string]any{"templateId": id(110)}})
	assert.Equal(t, version+1, put.Circuit.Version)
	back := edited(c, "/api/circuits/"+id(101)+"/undo", map[string]any{"clientId": id(131), "base": version + 1})
	assert.Equal(t, again.Document, back.Document)

	// Side by side: every block and slot of both once, what is alike in one row.
	beside := ok[studio.Compared](c, "GET", "/api/circuits/"+next.CircuitID+"/beside/"+id(121), nil)
	left, right := map[string]bool{}, map[string]bool{}
	for _, r := range beside.Rows {
		left[r.LeftSlot], right[r.RightSlot] = true, true
		if r.LeftSlot != "" {
			assert.NotEmpty(t, r.RightSlot, "the same session: each slot beside its own")
		}
	}
	for _, s := range first.Document.Slots() {
		assert.True(t, left[s.ID] && right[s.ID])
	}
	for _, r := range ok[studio.Compared](c, "GET", "/api/circuits/"+next.CircuitID+"/beside/"+next.CircuitID, nil).Rows {
		assert.Empty(t, r.Differs, "nothing differs from itself")
	}

	for body, at := range map[string]string{
		`{"occurrenceId":"` + later + `","clientId":"` + id(140) + `"}`:                                                                              "body.brief",
		`{"occurrenceId":"` + later + `","clientId":"` + id(140) + `","from":{"templateId":"` + id(110) + `","circuitId":"` + next.CircuitID + `"}}`: "body.from",
	} {
		status, _, answer := c.send("PUT", "/api/circuits/"+id(141), body)
		assert.Equal(t, 422, status)
		assert.Contains(t, string(answer), `"`+at+`"`)
	}
	status, _, _ := c.send("PUT", "/api/circuits/"+id(142), `{"occurrenceId":"`+elsewhere+`","clientId":"`+id(143)+`","from":{"templateId":"`+id(999)+`"}}`)
	assert.Equal(t, 404, status)
	assert.Empty(t, ok[[]studio.HouseTemplate](c, "DELETE", "/api/templates/"+id(110), nil))
	status, _, _ = c.send("DELETE", "/api/templates/"+id(110), "")
	assert.Equal(t, 404, status)
}
