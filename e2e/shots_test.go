package e2e

import (
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// TestScreenshots takes the pictures of docs/screenshots from the demo data when
// NIMBLEANVIL_SHOTS names a folder (make shots).
func TestScreenshots(t *testing.T) {
	dir := os.Getenv("NIMBLEANVIL_SHOTS")
	if dir == "" {
		t.Skip("make shots takes the pictures")
	}
	require.NoError(t, os.MkdirAll(dir, 0o750))
	s := start(t, "")
	next := s.get("/api/today")["next"].(map[string]any)
	id := next["id"].(string)
	take := func(b *tab, name string) {
		b.until("document.getAnimations().every((a) => a.playState !== 'running')") // a button may still be changing colour
		b.shot(filepath.Join(dir, name+".png"))
	}

	b := s.open("/", 1280, 800)
	b.until("document.querySelectorAll('.card').length > 3 && document.fonts.status === 'loaded'")
	take(b, "today")
	b.visit("/kit")
	b.until("document.querySelectorAll('tbody tr').length > 3")
	take(b, "kit")
	b.kitOf("make", quay)
	b.enter("#make-target", "9.4 kg")
	b.click("#make-go")
	b.there("#made .card")
	take(b, "make")
	b.visit("/circuit/" + id)
	b.until("document.querySelectorAll('.cell').length > 15")
	b.click("#differ-reach")
	b.until("[...document.querySelectorAll('text.lane')].some(e => e.textContent.startsWith('Mina'))")
	eval[bool](b, "(document.querySelector('.staves').scrollIntoView(), true)")
	take(b, "circuit")
	eval[bool](b, "(scrollTo(0, 0), true)")
	b.click("#tab-rehearsal")
	b.there("#rehearsal-at")
	eval[bool](b, "(e => { e.value = 0.272 * e.max; e.dispatchEvent(new Event('input', {bubbles: true})); return true })(document.querySelector('#rehearsal-at'))")
	b.until("document.querySelectorAll('#holds li').length > 0")
	take(b, "rehearsal")
	b.visit("/who/" + id)
	b.until("document.querySelectorAll('#by-thing tbody tr').length > 3")
	take(b, "who")
	b.visit("/circuit/" + id)
	b.until("document.querySelectorAll('.cell').length > 15")
	b.click("#cell-" + slotOf(t, s, id, "goblet-squat") + "-middle")
	b.until("document.querySelectorAll('#moves li').length > 1")
	take(b, "circuit-slot")
	b.clickText(".tabs", "Take-home")
	b.until("document.querySelectorAll('tbody tr').length > 3")
	take(b, "take-home")
	b.visit("/run/" + id)
	b.click("#toggle")
	b.until("document.querySelector('#toggle').textContent.includes('Hold')")
	b.click("#toggle")
	b.until("document.querySelector('.top').textContent.includes('On hold')")
	b.skipTo("document.querySelector('.name').textContent === 'Push' || document.querySelector('.top').textContent.includes('Round 2')")
	take(b, "run")

	evening := s.get("/api/today")["later"].([]any)[0].(map[string]any)["id"].(string)
	inBlocks(b, evening)
	b.visit("/run/" + evening)
	b.click("#toggle")
	b.until("document.querySelector('#toggle').textContent.includes('Hold')")
	b.click("#toggle")
	b.skipTo("document.querySelector('.top').textContent.includes('Set 2 of 3')")
	b.skipTo("document.querySelector('.top').textContent.includes('Round 1 of 2') && document.querySelector('.name').textContent !== 'Rest'")
	b.skipTo("document.querySelector('.name').textContent === 'The class has ended'")
	b.clickText("main", "Write the log")
	b.until("document.querySelector('#done-s1')")
	for _, c := range list(t, s.get("/api/today"), "past") {
		if dig(t, c, "name") == next["name"] {
			b.visit("/log/" + dig(t, c, "id").(string))
			break
		}
	}
	b.until("document.querySelectorAll('.tile.done').length > 10")
	take(b, "log")

	p := s.open("/run/"+id, 360, 740)
	p.until("document.querySelector('#clock')")
	take(p, "run-phone")
	p.visit("/log/" + id)
	p.there("#tiles .tile")
	p.click("#tiles .tile")
	p.click("[id^=move-s3]")
	take(p, "log-phone")

	m := s.open("/moves/goblet-squat", 1280, 800)
	m.there("#move-name")
	take(m, "moves")
	m.visit("/people")
	m.there("#people")
	take(m, "people")
	for _, p := range s.any("/api/people").([]any) {
		if dig(t, p, "name") == "Orla Penhale" {
			m.visit("/people/" + dig(t, p, "id").(string))
		}
	}
	m.there("#held li")
	take(m, "person")
	m.click("#screen-ankle > details > summary")
	eval[bool](m, "(document.querySelector('#screens').scrollIntoView(), true)")
	take(m, "screens")
	m.click("#to-health")
	m.there("#health-save")
	take(m, "health")

	// A class of eleven in the hall, for stations.
	third := "stationclass00000000000001"
	body := `{"name":"Saturday stations","date":"2026-11-28","time":"10:00","minutes":45,"placeId":"` + next["placeId"].(string) + `",
		"lanes":[{"lane":"ground","people":3},{"lane":"middle","people":5},{"lane":"reach","people":3}]}`
	r, err := http.NewRequest(http.MethodPut, s.url+"/api/occurrences/"+third, strings.NewReader(body))
	require.NoError(t, err)
	r.Header.Set("Content-Type", "application/json")
	answer, err := http.DefaultClient.Do(r)
	require.NoError(t, err)
	require.NoError(t, answer.Body.Close())
	require.Equal(t, http.StatusOK, answer.StatusCode)
	d := s.open("/", 1280, 800)
	d.propose(third)
	d.visit("/circuit/" + third)
	d.until("document.querySelectorAll('.cell').length > 10")
	d.click("#block-b3")
	d.there("#block-layout")
	d.set("#block-layout", "stations")
	d.there(".floor")
	d.saved()
	d.visit("/stations/" + third)
	d.there("#print-sheet")
	d.visit("/run/" + third)
	d.click("#toggle")
	d.until("document.querySelector('#toggle').textContent.includes('Hold')")
	d.skipTo("document.querySelectorAll('#board li').length > 3 && document.querySelector('.top').textContent.includes('Turn 1 of')")
	d.click("#toggle")
	take(d, "run-stations")
	d.visit("/circuit/" + third)
	d.until("document.querySelectorAll('.cell').length > 10")
	d.clickText("main", "Propose anew")
	d.there("#brief-goal")
	d.set("#brief-goal", "muscle")
	d.asks(0, "work", "sets")
	d.asks(1, "work", "superset", [3]string{"push-up", "", "10-15"}, [3]string{"one-arm-row", "8 kg", "12"})
	eval[bool](d, "(document.querySelector('#brief-blocks').scrollIntoView(), true)")
	take(d, "brief")
}

// inBlocks proposes a class and makes straight sets, a chain in three parts and a finisher
// of it.
func inBlocks(b *tab, class string) {
	c := b.propose(class)
	// Everybody has the weight in the chain that they hinge or row with.
	chain, drop := map[string]any{}, []any{}
	loads := map[string]any{}
	for _, x := range list(b.t, c, "document", "blocks", 2, "slots") {
		switch s := x.(map[string]any); s["pattern"] {
		case "pull":
			loads["ground"] = dig(b.t, s, "entries", "ground", "load")
		case "hinge":
			loads["middle"], loads["reach"] = dig(b.t, s, "entries", "middle", "load"), dig(b.t, s, "entries", "reach", "load")
		}
	}
	for lane, load := range loads {
		load := map[string]any{"kind": "implement", "item": dig(b.t, load, "item"), "count": 1}
		chain[lane] = map[string]any{
			"variant": "clean-squat-press", "hold": "rack-one", "anchors": []any{}, "sides": "both",
			"load": load, "dose": map[string]any{"kind": "count", "low": 5, "high": 5},
		}
	}
	work := dig(b.t, c, "document", "blocks", 2)
	var last map[string]any
	for _, x := range list(b.t, work, "slots") {
		s := x.(map[string]any)
		switch s["pattern"] {
		case "squat", "pull", "hinge":
		case "push-level", "push-overhead":
			last = s
			fallthrough
		default:
			drop = append(drop, map[string]any{"op": "remove-slot", "slotId": s["id"]})
		}
	}
	last["id"] = "s31"
	ops := append(drop,
		map[string]any{"op": "set-scheme", "blockId": "b3", "scheme": map[string]any{"kind": "sets", "sets": map[string]any{"sets": 3, "restMs": 60_000, "betweenMs": 60_000}}},
		map[string]any{"op": "add-block", "count": 3, "block": map[string]any{
			"id": "b21", "kind": "work", "layout": "together", "afterMs": 60_000, "scheme": map[string]any{"kind": "chain", "chain": map[string]any{"rounds": 2, "restMs": 60_000, "sides": 2, "sideChangeMs": 5000}},
			"slots": []any{map[string]any{"id": "s30", "pattern": "whole-body", "waves": 1, "new": false, "entries": chain}},
		}},
		map[string]any{"op": "add-block", "count": 4, "block": map[string]any{
			"id": "b22", "kind": "finisher", "layout": "together", "afterMs": 0, "scheme": map[string]any{"kind": "sets", "sets": map[string]any{"sets": 1, "restMs": 0, "betweenMs": 0}}, "slots": []any{last},
		}},
	)
	b.s.send(http.MethodPost, "/api/circuits/"+c["id"].(string)+"/edits", map[string]any{"base": c["version"], "clientId": named(99), "ops": ops})
}
