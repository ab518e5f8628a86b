package e2e

import (
	"fmt"
	"net/http"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestPeopleOfOneName: who comes again is known; of two who share a name it is asked who
// somebody is, they are joined and parted by hand, and an entry of somebody's own stands in
// the plan, the running order and the log, under their name.
func TestPeopleOfOneName(t *testing.T) {
	s := start(t, "")
	hall := dig(t, s.get("/api/today"), "next", "placeId").(string)
	lanes := map[string]any{"lane": "middle", "people": 4}
	var classes []string
	for i, day := range []string{"2026-11-11", "2026-11-18", "2026-11-25"} {
		classes = append(classes, s.class(i, "Knees up", day, hall, lanes))
	}
	circuit := ""
	b := s.open("/log/"+classes[0], 1280, 800)
	for i, class := range classes {
		c := map[string]any{"occurrenceId": class, "clientId": named(500 + i), "brief": map[string]any{"minutes": 45, "format": "timed", "bans": []any{}}}
		circuit = named(600 + i)
		s.send(http.MethodPut, "/api/circuits/"+circuit, c)
	}
	add := func(class, name, lane string) {
		b.visit("/log/" + class)
		b.there("#tab-middle")
		b.clickText("main", "Add a person")
		b.modal()
		b.enter("#person-name", name)
		b.set("#person-lane", lane)
		b.save()
		b.closed()
		b.until(fmt.Sprintf("[...document.querySelectorAll('[role=tab]')].some(e => e.textContent.startsWith(%q) && e.ariaSelected === 'true')", name))
	}
	add(classes[0], "Sam Reed", "ground")
	add(classes[0], "Sam Reed", "middle")
	assert.False(t, eval[bool](b, "!!document.querySelector('#same-name')"), "their lanes tell them apart")
	add(classes[1], "Sam Reed", "reach")
	b.until("[...document.querySelectorAll('.tile')].some(e => e.textContent.includes('nothing planned') && !e.classList.contains('done'))")
	b.there("#same-name")
	b.until("document.querySelectorAll('#same-name button').length === 3")
	b.both("somebody of a name that two have")
	if look := os.Getenv("NIMBLEANVIL_LOOK"); look != "" {
		b.shot(look + "/same-name.png")
	}
	b.clickText("#same-name", "The Sam Reed of Middle")
	b.until("document.querySelector('#same-name button')?.textContent.includes('Ground')")
	b.click("#different")
	b.until("!document.querySelector('#same-name')")
	b.click("#part-person")
	b.until("document.querySelectorAll('#attended input').length === 2")
	b.both("in which classes it was another")
	b.click("#attended input")
	b.click("#part")
	b.until("!document.querySelector('#attended')")
	people := s.any("/api/people").([]any)
	sams := 0
	for _, p := range people {
		if dig(t, p, "name") == "Sam Reed" {
			sams++
		}
	}
	assert.Equal(t, 3, sams)

	// Somebody with an entry of their own.
	add(classes[2], "Ivo Marsh", "middle")
	log := s.get("/api/occurrences/" + classes[2] + "/log")
	sheets := list(t, log, "sheets")
	ivo := dig(t, sheets[len(sheets)-1], "subject").(string)
	c := s.get("/api/circuits/" + circuit)
	slot := list(t, c, "document", "blocks", 2, "slots")[0].(map[string]any)
	entry := dig(t, slot, "entries", "middle").(map[string]any)
	entry["dose"] = map[string]any{"kind": "count", "low": 7, "high": 7}
	s.send(http.MethodPost, "/api/circuits/"+circuit+"/edits", map[string]any{"clientId": named(700), "base": 1,
		"ops": []any{map[string]any{"op": "set-entry", "slotId": slot["id"], "party": ivo, "entry": entry}}})
	b.visit("/circuit/" + classes[2])
	b.open()
	b.until("[...document.querySelectorAll('text.lane')].some(e => e.textContent.startsWith('Ivo'))")
	b.click(fmt.Sprintf("#cell-%s-%s", slot["id"], ivo))
	b.until("document.querySelector('aside.side')?.textContent.includes('Ivo Marsh')")
	b.both("an entry of somebody's own")
	if look := os.Getenv("NIMBLEANVIL_LOOK"); look != "" {
		b.shot(look + "/own-entry.png")
	}
	b.visit("/run/" + classes[2])
	b.until("[...document.querySelectorAll('.lane .who')].some(e => e.textContent.includes('Ivo Marsh'))")
	b.accessible("a class with somebody named")
	b.visit("/log/" + classes[2])
	b.there("#tab-" + ivo)
	b.click("#tab-" + ivo)
	b.click("#edit-person")
	b.modal()
	b.enter("#person-name", "Ivo Marshall")
	b.save()
	b.closed()
	b.until("document.querySelector('[role=tab][aria-selected=true]')?.textContent.includes('Ivo Marshall')")
	require.Empty(t, eval[[]string](b, "[...document.querySelectorAll('.page *')].map(e => e.textContent).filter(t => /[0-9a-z]{26}/.test(t))"), "no id is shown")
	b.expect("409")
	b.click("#remove-person")
	b.until("document.querySelector('main').textContent.includes('something else still uses it')")
}
