package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// hand counts what somebody's hands do: presses of the mouse, a field entered or a list
// chosen from among them, and keys.
type hand struct {
	*tab
	presses, keys int
}

func (h *hand) click(css string) {
	h.presses++
	h.tab.click(css)
}

func (h *hand) clickText(within, text string) {
	h.presses++
	h.tab.clickText(within, text)
}

func (h *hand) enter(css, text string) {
	h.presses++
	h.keys += len([]rune(text))
	h.tab.enter(css, text)
}

// first enters the field that a dialog gives the keys to.
func (h *hand) first(css, text string) {
	h.enter(css, text)
	h.presses--
}

func (h *hand) set(css, value string) {
	h.presses += 2 // open the list, choose
	h.tab.set(css, value)
}

func (h *hand) did(what string, presses, keys int) {
	h.t.Logf("%s: %d presses, %d keys", what, h.presses, h.keys)
	assert.LessOrEqual(h.t, h.presses, presses, what)
	assert.LessOrEqual(h.t, h.keys, keys, what)
	h.presses, h.keys = 0, 0
}

// TestPresses goes the ways that an instructor goes most, and counts: a first place, a
// class of eight, edits, a log with two who differed, what goes home.
func TestPresses(t *testing.T) {
	s := start(t, "")
	h := &hand{tab: s.open("/kit", 1280, 800)}
	h.clickText("main", "Add a place")
	h.modal()
	h.first("#place-name", "Loft")
	h.presses++
	h.save()
	h.closed()
	h.enter("#kit-lines", "bells 8 by 12\n")
	h.until("document.querySelector('#lines-seen').textContent.includes('One thing is wrong')")
	h.keys -= 14
	h.enter("#kit-lines", "bells 8 12 16\nbench 43\nrucksack .8 up to 15\n20 tins .4")
	h.until("document.querySelector('#places-would')?.textContent.startsWith('6 new')")
	h.both("what is written down of a place")
	h.click("#places-bring")
	h.until("document.querySelectorAll('tbody tr').length === 6 && !document.querySelector('#kit-lines').value")
	h.presses-- // the wrong list was looked at for the test
	h.did("a first place", 20, 60)

	h.visit("/")
	h.clickText("main", "Add a class")
	h.modal()
	h.first("#class-name", "Gulls")
	h.set("#class-date", "2026-11-25")
	h.set("#class-time", "10:05")
	h.keys += 12
	h.presses -= 2 // dates and times are typed into their fields
	h.enter("#class-people", "8")
	h.presses++
	h.save()
	h.closed()
	h.until("document.querySelector('.next h2').textContent === 'Gulls'")
	h.did("a class of eight", 8, 25)

	class := dig(t, s.get("/api/today")["next"], "id").(string)
	h.clickText(".next", "Make its circuit")
	h.there("#brief-minutes")
	h.clickText("main form", "Propose")
	h.until("document.querySelectorAll('.cell').length > 4")
	h.did("a circuit that is proposed", 2, 0)

	saved := func() { h.until("document.querySelector('#saved').dataset.state === 'saved'") }
	name := func() string { return h.text(".side h2") }
	h.click(".cell")
	h.until("document.querySelectorAll('#moves li button').length > 1")
	was := name()
	h.click("#moves li:nth-child(2) button")
	h.until(fmt.Sprintf("document.querySelector('.side h2').textContent !== %q", was))
	saved()
	h.until("document.querySelector('#loads button:not([disabled]):not([aria-current])')")
	h.click("#loads button:not([disabled]):not([aria-current])")
	saved()
	h.clickText(".side", "Remove")
	saved()
	h.set("#add-slot", "carry")
	saved()
	h.enter("#set-work", "35")
	saved()
	h.enter("#set-rest", "25")
	saved()
	undone := 0
	for ; eval[bool](h.tab, "![...document.querySelectorAll('.head button')].find(e => e.textContent.trim() === 'Undo').disabled"); undone++ {
		before := s.get("/api/occurrences/" + class)["circuitId"].(string)
		at := s.get("/api/circuits/" + before)["version"].(float64)
		h.do(chromedp.KeyEvent("z", chromedp.KeyModifiers(2)))
		h.keys += 2
		s.until("/api/circuits/"+before, func(c map[string]any) bool { return c["version"].(float64) > at })
		saved()
	}
	assert.GreaterOrEqual(t, undone, 5)
	h.did("six edits and all of them undone", 15, 60)
	// The keys are on the page's heading or a box, never on nothing.
	h.until("document.activeElement !== document.body && !document.activeElement.disabled")

	h.clickText(".tabs", "Take-home")
	h.until("document.querySelectorAll('tbody tr').length > 3")
	h.there("#print-home")
	h.presses++ // print() opens the browser's own dialog
	h.did("the version for home, printed", 2, 0)

	h.visit("/log/" + class)
	h.click("#whole-class")
	h.until("document.querySelector('#whole-class').disabled")
	for who, reps := range map[string]string{"Ann": "12", "Ole": "4"} {
		h.clickText("main", "Add a person")
		h.modal()
		h.first("#person-name", who)
		h.presses++
		h.save()
		h.closed()
		h.until(fmt.Sprintf("document.querySelector('[role=tab][aria-selected=true]').textContent.trim() === %q", who))
		h.enter("#done-s1", reps)
		h.until("document.querySelector('#result-s1').textContent.trim() !== 'plan'")
	}
	h.did("a log with two who differed", 8, 30)
}
