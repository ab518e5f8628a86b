package api

import (
	"net/http"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/studio"
)

// What is put away is listed, still known to old circuits, and brought back as it was. A
// place where classes are to come, and a class in which something happened, stay.
func TestPutAwayAndBroughtBack(t *testing.T) {
	c, _ := hallOn(t, dbtest.DSN(t))
	hall, quay := "/api/places/"+demo.ID("place/hall"), "/api/places/"+demo.ID("place/quay")
	bell := demo.ID("hall/Bell16")
	has := func(p studio.Place, id string) bool {
		return slices.ContainsFunc(p.Implements, func(i studio.Implement) bool { return i.ID == id })
	}
	before := ok[[]studio.Place](c, "GET", "/api/places", nil)
	assert.Empty(t, ok[[]studio.Place](c, "GET", "/api/put-away", nil))

	assert.False(t, has(ok[studio.Place](c, "DELETE", hall+"/implements/"+bell, nil), bell))
	away := ok[[]studio.Place](c, "GET", "/api/put-away", nil)
	assert.Len(t, away, 1)
	assert.True(t, has(away[0], bell))
	assert.False(t, away[0].Retired)
	assert.True(t, has(ok[studio.Place](c, "POST", hall+"/bring-back", map[string]any{"item": "implement", "id": bell}), bell))
	status, _, body := c.send("POST", hall+"/bring-back", `{"id":"`+bell+`"}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status, "half a name is none: %s", body)
	assert.Equal(t, before, ok[[]studio.Place](c, "GET", "/api/places", nil), "as it was")

	today := ok[studio.Today](c, "GET", "/api/today", nil)
	status, _, body = c.send("DELETE", hall, "")
	assert.Equal(t, http.StatusConflict, status, "classes are to come there: %s", body)
	status, _, body = c.send("DELETE", "/api/occurrences/"+today.Past[0].ID, "")
	assert.Equal(t, http.StatusConflict, status, "it has a log: %s", body)
	for _, x := range today.Later {
		if x.PlaceID == demo.ID("place/quay") {
			left := ok[studio.Today](c, "DELETE", "/api/occurrences/"+x.ID, nil)
			assert.Len(t, left.Later, len(today.Later)-1)
			status, _, _ = c.send("GET", "/api/occurrences/"+x.ID, "")
			assert.Equal(t, http.StatusNotFound, status)
			status, _, _ = c.send("PUT", "/api/occurrences/"+x.ID+"/participants/"+id(1), `{"name":"N","lane":"middle"}`)
			assert.Equal(t, http.StatusNotFound, status, "nobody comes to it")
		}
	}
	assert.True(t, ok[studio.Place](c, "DELETE", quay, nil).Retired)
	assert.Len(t, ok[[]studio.Place](c, "GET", "/api/places", nil), len(before)-1)
	away = ok[[]studio.Place](c, "GET", "/api/put-away", nil)
	assert.True(t, len(away) == 1 && away[0].Retired)
	assert.False(t, ok[studio.Place](c, "POST", quay+"/bring-back", map[string]any{}).Retired)

	// Put again a class is there again, with its circuit.
	for _, x := range today.Later {
		if x.PlaceID == demo.ID("place/quay") {
			again := ok[studio.Occurrence](c, "PUT", "/api/occurrences/"+x.ID, map[string]any{"name": string(x.Name), "date": x.Date, "time": x.Time, "minutes": x.Minutes,
				"placeId": x.PlaceID, "lanes": []any{map[string]any{"lane": "middle", "people": 1}}})
			assert.Equal(t, x.ID, again.ID)
			assert.Equal(t, x.CircuitID, ok[studio.TodayClass](c, "GET", "/api/occurrences/"+x.ID, nil).CircuitID)
		}
	}
}
