package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// noKilograms asserts that a reader in pounds sees no kilogram, choices of units
// left out.
func (b *tab) noKilograms(what string) {
	b.t.Helper()
	shown := eval[string](b, `(() => { const c = document.querySelector('main').cloneNode(true);
		document.querySelectorAll('aside').forEach(a => c.append(a.cloneNode(true)));
		c.querySelectorAll('option, script').forEach(o => o.remove()); return c.textContent })()`)
	assert.NotRegexp(b.t, `\d\s*kg|\bkg\b`, shown, what)
}

// TestDemoHall looks into every view of the demo hall: in pounds, in both themes,
// on a phone, with three lanes, and from a second screen.
func TestDemoHall(t *testing.T) {
	s := start(t, "")
	class := dig(t, s.get("/api/today"), "next", "id").(string)
	circuit := dig(t, s.get("/api/today"), "next", "circuitId").(string)
	kept := s.circuit(circuit)

	b := s.open("/circuit/"+class, 1280, 800)
	b.until("document.querySelectorAll('.cell').length > 15")
	c := kept
	drawn := eval[[][]float64](b, drawnBlocks)
	assert.Len(t, drawn, len(list(t, c, "plan", "order", "stretches")))

	// The kit pressure says what the plan says: nobody has more than there is.
	for _, row := range list(t, c, "plan", "pressure") {
		for _, used := range list(t, row, "used") {
			assert.LessOrEqual(t, used.(float64), dig(t, row, "present").(float64))
		}
	}

	// By keyboard: from box to box with the arrows, its reasons at once.
	row := slotOf(t, s, class, "one-arm-row")
	b.do(chromedp.Focus(chromedp.CSS("#cell-s1-ground")), chromedp.KeyEvent(kb.ArrowDown))
	for i := 1; fmt.Sprintf("s%d", i) != row; i++ {
		b.do(chromedp.KeyEvent(kb.ArrowRight))
	}
	b.until("document.activeElement.id === 'cell-" + row + "-middle' && document.querySelector('.side h2').textContent === 'One-arm row'")
	b.until("document.querySelectorAll('#loads li').length > 3")

	// Pounds everywhere, and back: what is kept has not moved.
	b.set("#unit", "lb")
	b.until("document.querySelector('#cell-" + row + "-middle').textContent.includes('20 lb')") // the school pair, as typed
	b.clickText(".side", "why this load")
	b.noKilograms("Circuit")
	b.clickText(".tabs", "Take-home")
	b.until("document.querySelectorAll('tbody tr').length > 3")
	b.set("#home-lane", "middle")
	b.until("document.querySelector('tbody').textContent.includes('Rucksack')")
	b.noKilograms("Take-home")
	b.visit("/kit")
	b.until("document.querySelectorAll('tbody tr').length > 10")
	b.noKilograms("Kit")
	b.visit("/log/" + class)
	b.there("#done-s1")
	b.clickText("main", "The rest of this sheet went as planned")
	b.until("[...document.querySelectorAll('[id^=result-]')].every(e => e.textContent.trim() !== 'plan')")
	b.noKilograms("Log")
	b.visit("/")
	b.there(".next")
	b.noKilograms("Today")
	b.both("Today")
	b.set("#unit", "kg")
	b.s.until("/api/studio", func(st map[string]any) bool { return st["massUnit"] == "kg" })
	assert.Equal(t, kept, s.circuit(circuit))

	// The class in class: a second screen shows the first one's hold, and the same
	// second.
	b.visit("/run/" + class)
	b.click("#toggle")
	b.until("document.querySelector('#toggle').textContent.includes('Hold')")
	b.skipTo("document.querySelector('.top').textContent.includes('Round 1')")
	b.do(chromedp.KeyEvent(" "))
	b.until("document.querySelector('.top').textContent.includes('On hold')")
	phone := s.open("/run/"+class, 360, 740)
	phone.until("document.querySelector('.top')?.textContent.includes('On hold')")
	assert.Equal(t, b.text("#clock"), phone.text("#clock"))
	assert.Equal(t, b.text(".name"), phone.text(".name"))
	phone.accessible("Run on a phone")
	phone.narrow("Run")
	phone.click("#toggle")
	phone.until("document.querySelector('#toggle').textContent.includes('Hold')")
	b.until("document.querySelector('#toggle').textContent.includes('Hold')")

	// A round less, typed on the desk while the class runs: the run keeps what it
	// began with, the circuit is changed.
	desk := s.open("/circuit/"+class, 1280, 800)
	desk.until("document.querySelectorAll('.cell').length > 15")
	desk.enter("#set-rounds", "2")
	desk.s.until("/api/circuits/"+circuit, func(c map[string]any) bool {
		return dig(t, c, "document", "blocks", 2, "scheme", "circuit", "rounds") == 2.0
	})
	b.until("document.querySelector('.top').textContent.includes('Round 1 of 3')")

	phone.visit("/log/" + class)
	phone.there("#done-s1")
	phone.both("Log on a phone")
	phone.narrow("Log")
	for _, path := range []string{"/", "/kit", "/circuit/" + class} {
		phone.visit(path)
		phone.until("document.querySelector('main h1') && !document.querySelector('main [role=status]')?.textContent.includes('Reading')")
		phone.narrow(path)
	}

	// All of it is there after a restart.
	b.visit("/kit") // Run and Today ask the server how a run is
	b.until("document.querySelectorAll('tbody tr').length > 3")
	edited, logged := s.circuit(circuit), s.get("/api/occurrences/"+class+"/log")
	run := s.get("/api/runs/" + dig(t, s.get("/api/occurrences/"+class), "runId").(string))
	s.stop()
	again := start(t, s.dir)
	assert.Equal(t, dig(t, edited, "document"), dig(t, again.circuit(circuit), "document"))
	assert.Equal(t, dig(t, edited, "plan"), dig(t, again.circuit(circuit), "plan"))
	assert.Equal(t, dig(t, logged, "sheets"), dig(t, again.get("/api/occurrences/"+class+"/log"), "sheets"))
	assert.Equal(t, dig(t, run, "events"), dig(t, again.get("/api/runs/"+dig(t, run, "id").(string)), "events"))
}

// narrow asserts that the page itself does not scroll sideways.
func (b *tab) narrow(what string) {
	b.t.Helper()
	over := eval[float64](b, "document.documentElement.scrollWidth - innerWidth")
	assert.LessOrEqual(b.t, over, 0.0, fmt.Sprintf("%s scrolls sideways", what))
}
