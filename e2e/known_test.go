package e2e

import (
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// questions are the health questions by their codes.
var questions = []string{"chest-pain", "fainting", "breathless", "condition-not-under-control", "recent-surgery",
	"pregnancy-early", "pregnancy", "blood-pressure", "brittle-bones", "hypermobile", "bone-or-joint", "medication"}

// breaks lists what the cells of a circuit's plan break, by who.
func breaks(t *testing.T, c map[string]any) (out []string) {
	for _, slot := range list(t, c, "plan", "slots") {
		for _, cell := range list(t, slot, "cells") {
			all, _ := cell.(map[string]any)["breaks"].([]any)
			for _, w := range all {
				out = append(out, fmt.Sprint(dig(t, cell, "entry", "variant"), " ", dig(t, w, "terms", 0, "text")))
			}
		}
	}
	return out
}

// planned makes a circuit for a class and gives it.
func (s *server) planned(n int, class string) map[string]any {
	s.send(http.MethodPut, "/api/circuits/"+named(n), map[string]any{"occurrenceId": class, "clientId": named(n + 1),
		"brief": map[string]any{"minutes": 45, "format": "timed", "bans": []any{}}})
	return s.circuit(named(n))
}

// TestFirstTimer: somebody new is added, asked, ticked with the regulars, and the first plan
// spares them what pregnancy asks to be spared (the usual cautions: no lying on the back, no
// holding of the breath, nothing that risks the balance); nobody is told why.
func TestFirstTimer(t *testing.T) {
	s := start(t, "")
	hall := dig(t, s.get("/api/today"), "next", "placeId").(string)
	first := s.class(1, "Thursday evening, all ages", "2026-11-26", hall, map[string]any{"lane": "middle", "people": 4})
	b := s.open("/people", 1280, 800)
	b.there("#people")
	b.both("people")
	b.look("people")
	b.click("#add-person")
	b.modal()
	b.enter("#person-name", "Liv Tarrant")
	b.until("document.querySelectorAll('#person-groups option').length > 3")
	b.set("#person-groups", dig(t, s.any("/api/groups"), 2, "id").(string))
	b.set("#person-weaker", "right")
	b.enter("#person-note", "Comes by bicycle")
	b.accessible("somebody new")
	b.save()
	b.until("document.querySelector('h1')?.textContent === 'Liv Tarrant'")
	who := strings.TrimPrefix(eval[string](b, "location.pathname"), "/people/")
	b.there("#to-ask")
	b.click("#to-health")
	b.there("#health-save")
	b.click("#health-save")
	b.until("document.querySelector('[role=alert]')?.textContent.includes('12 questions have no answer')")
	b.both("the health questions")
	for _, q := range questions {
		answer := "no"
		if q == "pregnancy" {
			answer = "yes"
		}
		b.click("#q-" + q + "-" + answer)
	}
	b.click("#health-save")
	b.until("document.querySelector('#stands').textContent.includes('At Ground')")
	b.there(".caution")
	b.look("health")
	b.accessible("what was answered")

	b.visit("/log/" + first)
	b.click("#who-came")
	b.modal()
	b.there("#came-all")
	b.until("document.querySelectorAll('#regulars li').length === 4")
	assert.True(t, eval[bool](b, fmt.Sprintf("document.querySelector('#came-%s').closest('li').querySelector('select').disabled", who)), "held at Ground")
	b.click("#came-all")
	b.click("#add-drop-in")
	b.accessible("who is here")
	b.look("attendance")
	b.save()
	b.closed()
	class := s.get("/api/occurrences/" + first)
	require.Len(t, list(t, class, "people"), 5, "four regulars and a drop-in without a name")

	c := s.planned(100, first)
	assert.Empty(t, breaks(t, c), "nobody is given what is to be spared")
	own := 0
	for _, slot := range list(t, c, "plan", "slots") {
		for _, cell := range list(t, slot, "cells") {
			if party := dig(t, cell, "party"); party != "ground" && party != "middle" && party != "reach" {
				own++
			}
		}
	}
	assert.Positive(t, own, "somebody does something of their own")
	b.visit("/circuit/" + first)
	b.open()
	b.until("[...document.querySelectorAll('text.lane')].some(e => e.textContent.startsWith('Liv'))")
	b.both("a plan with people of their own")
	b.look("plan")
	assert.False(t, eval[bool](b, "/pregnan|health/i.test([...document.querySelectorAll('svg, #flags, aside')].map(e => e.textContent).join(' '))"), "never why")

	// Somebody comes while the class goes on.
	b.visit("/run/" + first)
	b.click("#toggle")
	b.until("document.querySelector('#toggle').textContent.includes('Hold')")
	b.click("#late")
	b.modal()
	b.click("#add-drop-in")
	b.enter("#drop-in-0", "Pip Late")
	b.accessible("a latecomer")
	b.look("late")
	b.save()
	b.until("!document.querySelector('.bx--modal.is-visible')")
	b.until("document.querySelector('#toggle').textContent.includes('Hold')") // it goes on
	people := list(t, s.get("/api/occurrences/"+first), "people")
	require.Len(t, people, 6)
	assert.Equal(t, "Pip Late", dig(t, people[5], "name"))

	// On a phone.
	phone := s.open("/people/"+who, 360, 740)
	phone.there("#edit-person")
	phone.accessible("a person on a phone")
	assert.LessOrEqual(t, eval[int](phone, "document.documentElement.scrollWidth"), 360)
	phone.look("person-phone")
	phone.visit("/people/" + who + "/health")
	phone.there("#health-save")
	assert.LessOrEqual(t, eval[int](phone, "document.documentElement.scrollWidth"), 360)
	phone.visit("/people")
	phone.there("#people")
	assert.LessOrEqual(t, eval[int](phone, "document.documentElement.scrollWidth"), 360)
}

// TestScreenFailedAndPassed: a screen that falls short spares somebody something, which an edit
// is held against and a proposal keeps to; done again and passed, it is as before.
func TestScreenFailedAndPassed(t *testing.T) {
	s := start(t, "")
	hall := dig(t, s.get("/api/today"), "next", "placeId").(string)
	class := s.class(1, "Thursday evening, all ages", "2026-11-26", hall, map[string]any{"lane": "middle", "people": 3})
	var bastian string
	for _, p := range s.any("/api/people").([]any) {
		if dig(t, p, "name") == "Bastian Roek" {
			bastian = dig(t, p, "id").(string)
		}
	}
	s.send(http.MethodPut, "/api/occurrences/"+class+"/attendance", map[string]any{"here": []any{
		map[string]any{"id": named(900), "personId": bastian, "lane": "middle"}}})
	s.planned(100, class)
	b := s.open("/people/"+bastian, 1280, 800)
	b.there("#levels")
	b.both("a person")
	b.look("person")
	screen := func(wall, says string) {
		b.until("document.querySelector('#screen-shoulder-last, #screen-shoulder')")
		if !eval[bool](b, "document.querySelector('#screen-shoulder > details').open") {
			b.click("#screen-shoulder > details > summary")
		}
		b.set("#screen-shoulder-thumbs-to-wall", wall)
		b.set("#screen-shoulder-back-flat", "yes")
		b.click("#screen-shoulder-save")
		b.until(fmt.Sprintf("document.querySelector('#screen-shoulder-last')?.textContent.includes(%q)", says))
	}
	b.click("#screen-shoulder > details > summary")
	b.click("#screen-shoulder-save")
	b.expect("422")
	b.until("document.querySelector('#screen-shoulder').textContent.includes('is missing')")
	b.accessible("a screen with nothing measured")
	screen("no", "Fell short")
	b.until("document.querySelector('#held').textContent.includes('Nothing overhead')")
	b.look("screens")

	// What reaches overhead is not proposed to him, and is questioned where it is put.
	s.send(http.MethodPost, "/api/circuits/"+named(100)+"/propose", map[string]any{"clientId": named(110), "base": 1,
		"brief": map[string]any{"minutes": 45, "format": "timed", "bans": []any{}}})
	again := s.circuit(named(100))
	assert.Empty(t, breaks(t, again))
	slot := dig(t, list(t, again, "document", "blocks", 2, "slots")[0], "id").(string)
	overhead := dig(t, list(t, again, "document", "blocks", 2, "slots")[0], "entries", "middle").(map[string]any)
	overhead["variant"], overhead["hold"], overhead["sides"] = "half-kneeling-press", "rack-one", "rounds"
	overhead["load"] = map[string]any{"kind": "implement", "item": "demo1131904415619794801800", "count": 1}
	s.send(http.MethodPost, "/api/circuits/"+named(100)+"/edits", map[string]any{"clientId": named(111), "base": 2,
		"ops": []any{map[string]any{"op": "set-entry", "slotId": slot, "party": "middle", "entry": overhead}}})
	if entryOf(t, s.circuit(named(100)), slot, named(900)) != nil { // he does as his lane there
		s.send(http.MethodPost, "/api/circuits/"+named(100)+"/edits", map[string]any{"clientId": named(112), "base": 3,
			"ops": []any{map[string]any{"op": "clear-entry", "slotId": slot, "party": named(900)}}})
	}
	require.NotEmpty(t, breaks(t, s.circuit(named(100))), "the lane does what he is to be spared")
	b.visit("/circuit/" + class)
	b.click("#cell-" + slot + "-middle")
	b.until("document.querySelector('aside.side')?.textContent.includes('is to be spared this')")
	b.there(".cell .mark")
	b.both("an edit that breaks a limit")
	b.look("breaks")

	b.visit("/people/" + bastian)
	screen("yes", "Passed")
	b.until("!document.querySelector('#held')?.textContent.includes('Nothing overhead')")
	assert.Empty(t, breaks(t, s.get("/api/circuits/"+named(100))), "as before")
}

// TestMergeUndoErase: two people are made one and two again; somebody comes in by a file, of
// whom it is asked who they are; somebody is erased, asked twice, and is nowhere.
func TestMergeUndoErase(t *testing.T) {
	s := start(t, "")
	s.send(http.MethodPut, "/api/people/"+named(1), map[string]any{"name": "Nell Harbottle"})
	s.send(http.MethodPut, "/api/people/"+named(2), map[string]any{"name": "Nelly H."})
	s.send(http.MethodPut, "/api/people/"+named(2)+"/records/"+named(3), map[string]any{"date": "2026-11-20", "limit": map[string]any{"limit": "no-floor"}})
	b := s.open("/people/"+named(1), 1280, 800)
	b.until(fmt.Sprintf("document.querySelector('#merge-other option[value=%s]')", named(2)))
	b.set("#merge-other", named(2))
	b.click("#merge")
	b.until("document.querySelector('#merges')?.textContent.includes('Nelly H.') && document.querySelector('#held').textContent.includes('Not down to the floor')")
	b.accessible("two who were made one")
	b.clickText("#merges", "Make two again")
	b.until("!document.querySelector('#merges') && !document.querySelector('#held').textContent.includes('floor')")
	assert.Equal(t, "no-floor", dig(t, s.get("/api/people/"+named(2)), "held", 0, "limit"))

	b.visit("/people")
	b.click("#people-files summary")
	file := filepath.Join(t.TempDir(), "people.csv")
	require.NoError(t, os.WriteFile(file, []byte("name,body,unit\r\nNell Harbottle,61 kg,kg\r\nOda Fenwick,,lb\r\n"), 0o600))
	b.do(chromedp.SetUploadFiles(chromedp.CSS("#people-file"), []string{file}))
	b.until("document.querySelector('#people-seen').textContent.includes('Which Nell Harbottle is this?')")
	b.both("who is meant by a name")
	b.clickText("#people-seen", "The one of no group")
	b.click("#people-bring")
	b.there("#people-brought")
	assert.Equal(t, "61", dig(t, s.get("/api/people/"+named(1)), "body", "decimal"))
	assert.Contains(t, s.raw("/api/people-file"), "Oda Fenwick")

	b.visit("/people/" + named(1))
	b.click("#erase-ask")
	b.enter("#erase-name", "Nell")
	b.until("document.querySelector('#erase-now').disabled")
	b.enter("#erase-name", "Nell Harbottle")
	b.both("erasing")
	b.click("#erase-now")
	b.until("location.pathname === '/people' && document.querySelector('#people') && !document.querySelector('#people').textContent.includes('Nell Harbottle')")
	assert.NotContains(t, s.raw("/api/studio/export?health=true"), "Harbottle")
}
