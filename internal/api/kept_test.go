package api

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/circuit"
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
	c.Plan.Pressure, c.Plan.Balance, c.Plan.Flags, c.Plan.Slots = p.Pressure, p.Balance, p.Flags, []circuit.SlotPlan{}
	if p.Order != nil {
		c.Plan.Order = *p.Order
	}
	for _, id := range p.SlotIDs {
		for _, s := range append(append([]circuit.SlotPlan{}, p.Slots...), old.Slots...) {
			if s.ID == id {
				c.Plan.Slots = append(c.Plan.Slots, s)
				break
			}
		}
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
	require.NotEmpty(t, tag)
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
