package api

import (
	"net/http"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/studio"
)

// edited sends an edit and gives the circuit after: the one before with what the answer
// says is other, which must be the circuit that is read then.
func edited(c client, path string, body any) studio.Circuit {
	c.t.Helper()
	i := len(path)
	for i > 0 && path[i-1] != '/' {
		i--
	}
	before := ok[studio.Circuit](c, "GET", path[:i-1], nil)
	e := ok[studio.Edited](c, "POST", path, body)
	after := ok[studio.Circuit](c, "GET", path[:i-1], nil)
	if e.Circuit != nil {
		assert.Nil(c.t, e.Change)
		assert.Equal(c.t, after, *e.Circuit)
		return after
	}
	require.NotNil(c.t, e.Change)
	assert.Equal(c.t, before.Tag, e.Change.From)
	assert.Equal(c.t, after, changed(before, *e.Change))
	return after
}

// changed lays a change over a circuit, as the interface does.
func changed(c studio.Circuit, by studio.Change) studio.Circuit {
	c.Tag, c.Version, c.CanUndo, c.CanRedo, c.Document = by.Tag, by.Version, by.CanUndo, by.CanRedo, by.Document
	if by.Occurrence != nil {
		c.Occurrence = *by.Occurrence
	}
	if by.Items != nil {
		c.Items = *by.Items
	}
	if by.Notes != nil {
		c.Notes = *by.Notes
	}
	if by.Decided != nil {
		c.Decided = *by.Decided
	}
	old, p := c.Plan, by.Plan
	c.Plan.TotalMs, c.Plan.ClassMs, c.Plan.SlackMs, c.Plan.Fits, c.Plan.Why = p.TotalMs, p.ClassMs, p.SlackMs, p.Fits, p.Why
	c.Plan.Slots = []plan.SlotPlan{}
	if p.Blocks != nil {
		c.Plan.Blocks = *p.Blocks
	}
	if p.Prep != nil {
		c.Plan.Prep = *p.Prep
	}
	if p.Teach != nil {
		c.Plan.Teach = *p.Teach
	}
	if p.Floors != nil {
		c.Plan.Floors = *p.Floors
	}
	if p.Totals != nil {
		c.Plan.Totals = *p.Totals
	}
	if p.Pressure != nil {
		c.Plan.Pressure = *p.Pressure
	}
	if p.Balance != nil {
		c.Plan.Balance = *p.Balance
	}
	if p.Flags != nil {
		c.Plan.Flags = *p.Flags
	}
	if p.Order != nil {
		c.Plan.Order = *p.Order
	}
	for _, id := range p.SlotIDs {
		var slot plan.SlotPlan
		for _, o := range old.Slots {
			if o.ID == id {
				slot = o
			}
		}
		for _, s := range p.Slots {
			if s.ID != id {
				continue
			}
			was := slot.Cells
			slot = plan.SlotPlan{ID: s.ID, Block: s.Block, Pattern: s.Pattern, WorkMs: s.WorkMs, SlotMs: s.SlotMs, RestMs: s.RestMs, RestWhy: s.RestWhy, Grown: s.Grown, LearnMs: s.LearnMs,
				Cells: []plan.Cell{}, Shorts: s.Shorts}
			for _, party := range s.Parties {
				for _, cell := range append(slices.Clone(s.Cells), was...) {
					if cell.Party == party {
						slot.Cells = append(slot.Cells, cell)
						break
					}
				}
			}
		}
		c.Plan.Slots = append(c.Plan.Slots, slot)
	}
	return c
}

// An answer that is there already need not be sent again, until something it follows from
// is another.
func TestTagsOfAnswers(t *testing.T) {
	c := hall(t, fixed)
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	path := "/api/circuits/" + next.CircuitID
	_, head, body := c.send("GET", path, "")
	tag := head.Get("ETag")
	require.NotEmpty(t, tag, "%v", head)
	status, head, none := c.send("GET", path, "", "If-None-Match", tag)
	assert.Equal(t, http.StatusNotModified, status)
	assert.Equal(t, tag, head.Get("ETag"))
	assert.Empty(t, none)
	ok[studio.Place](c, "PUT", "/api/places/"+next.PlaceID, map[string]any{"name": "The hall", "kind": "hall", "massUnit": "kg"})
	status, head, other := c.send("GET", path, "", "If-None-Match", tag)
	assert.Equal(t, http.StatusOK, status)
	assert.NotEqual(t, tag, head.Get("ETag"))
	assert.NotEqual(t, string(body), string(other))
	assert.Contains(t, string(other), "The hall")
}

// After every writing operation of the contract, whichever it was, the answers that are
// kept about two circuits of one series are the ones that a program gives which has kept
// nothing: to the byte, and under the same tags.
func TestKeptAnswersAreAsComputedAnew(t *testing.T) {
	c, st := hallAt(t, dbtest.DSN(t), fixed)
	today := ok[studio.Today](c, "GET", "/api/today", nil)
	earlier := ""
	for _, past := range today.Past {
		if past.Name == today.Next.Name {
			earlier = past.CircuitID
			break
		}
	}
	require.NotEmpty(t, earlier)
	circuits := []string{"/api/circuits/" + today.Next.CircuitID, "/api/circuits/" + earlier}
	w := writesOf(c)
	w.ways["PUT /api/style"] = func(n, _ int) (string, string) { // another each time
		return "/api/style", `{"studio":{"knees":"` + []string{"behind", "over"}[n%2] + `"},"moves":{}}`
	}
	w.each(5000, func(method, path string, serial int, write func(n, base int) (string, string)) {
		for n := range 2 { // what is done twice, too
			at, body := write(serial+n, w.version())
			status, _, answer := c.send(method, at, body)
			require.Less(t, status, 500, "%s %s: %s", method, path, answer)
			anew := client{t, New(Config{Studios: studio.New(st, fixed), Now: fixed}).App}
			for _, circuit := range circuits {
				for range 2 { // computed, then kept
					_, head, kept := c.send("GET", circuit, "")
					_, fresh, computed := anew.send("GET", circuit, "")
					require.Equal(t, string(computed), string(kept), "%s %s", method, path)
					require.Equal(t, fresh.Get("ETag"), head.Get("ETag"), "%s %s", method, path)
				}
			}
		}
	})
}
