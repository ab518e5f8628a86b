package api

import (
	"encoding/json"
	"fmt"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/studio"
)

// A device whose clock goes back an hour between two presses or two lines loses neither:
// each takes the instant of the one before. Between devices the later instant decides, of
// equals the one that comes later; what is overtaken can still be read, and what is sent
// twice counts once.
func TestClocksThatGoBack(t *testing.T) {
	c := hall(t, fixed)
	next := ok[studio.Today](c, "GET", "/api/today", nil).Next
	mine, other := id(1), id(2)
	hour := time.Hour.Milliseconds()
	at := fixed().UnixMilli()
	ok[studio.Run](c, "PUT", "/api/runs/"+id(3), map[string]any{"occurrenceId": next.ID})
	press := func(n int, kind string, atMs int64) studio.RunNow {
		return ok[studio.RunNow](c, "POST", "/api/runs/"+id(3)+"/events", map[string]any{"clientId": id(10 + n), "kind": kind, "atMs": atMs, "device": mine, "n": n})
	}
	press(1, "start", at)
	assert.Equal(t, cue.Held, press(2, "hold", at-hour).Anchor.State, "pressed after the start, whatever the clock says")
	assert.Equal(t, cue.Held, press(2, "hold", at-hour).Anchor.State, "sent twice")
	assert.Equal(t, cue.Moving, press(3, "resume", at-hour+1).Anchor.State)

	line := func(device string, n, done int, atMs int64) progress.SheetLine {
		return ok[progress.Sheet](c, "PUT", "/api/occurrences/"+next.ID+"/log/middle/s1",
			map[string]any{"done": done, "inForm": done, "pain": "none", "atMs": atMs, "device": device, "n": n}).Lines[0]
	}
	assert.Equal(t, 8, line(mine, 4, 8, at-10).Done)
	assert.Equal(t, 9, line(mine, 5, 9, at-10-hour).Done, "typed later on the same device")
	got := line(other, 1, 7, at-11)
	assert.Equal(t, 9, got.Done, "another device typed it before")
	assert.Equal(t, 2, got.Overtaken)
	assert.Equal(t, 6, line(other, 2, 6, at-10).Done, "of equal instants the one that comes later")
	assert.Equal(t, 6, line(mine, 5, 9, at-10-hour).Done, "sent twice, the second time changes nothing")
	assert.Equal(t, 6, line(other, 1, 7, at-11).Done)
	past := ok[[]studio.OvertakenLine](c, "GET", "/api/occurrences/"+next.ID+"/log/middle/s1/overtaken", nil)
	var done []int
	for _, p := range past {
		done = append(done, p.Done)
	}
	assert.Equal(t, []int{9, 7, 8}, done, "the newest first")

	status, _, body := c.send("POST", "/api/runs/"+id(3)+"/events", fmt.Sprintf(`{"clientId":%q,"kind":"hold","n":4}`, id(99)))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	var p struct{ Errors []struct{ Location string } }
	require.NoError(t, json.Unmarshal(body, &p))
	assert.Equal(t, "body.n", p.Errors[0].Location)
}
