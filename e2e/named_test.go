package e2e

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// noon is the demo's class of named people that starts next, with its circuit.
func (s *server) noon() (class, circuit string) {
	next := dig(s.t, s.get("/api/today"), "next")
	return dig(s.t, next, "id").(string), dig(s.t, next, "circuitId").(string)
}

// entryOf is what somebody does in a slot by themselves; nil where they do their lane's.
func entryOf(t *testing.T, circuit map[string]any, slot, who string) map[string]any {
	for _, b := range list(t, circuit, "document", "blocks") {
		slots, _ := b.(map[string]any)["slots"].([]any)
		for _, x := range slots {
			if dig(t, x, "id") == slot {
				e, _ := dig(t, x, "entries").(map[string]any)[who].(map[string]any)
				return e
			}
		}
	}
	return nil
}

// open opens the lanes of a score, so that everybody of theirs is drawn.
func (b *tab) open() {
	b.t.Helper()
	b.there("[id^=differ-]")
	for _, lane := range []string{"ground", "middle", "reach"} {
		css := fmt.Sprintf("#differ-%s[aria-expanded=false]", lane)
		if eval[bool](b, fmt.Sprintf("!!document.querySelector(%q)", css)) {
			b.click(css)
		}
	}
}

// TestClassOfNames: the plan of a class by name is opened by lane, somebody's entry is edited,
// pinned, stays when the class is proposed anew, and is given back; who does what fits one sheet;
// the day comes otherwise and one undo brings it back; the hour is rehearsed; it is asked why not
// a move, and where the hall is short.
func TestClassOfNames(t *testing.T) {
	s := start(t, "")
	class, circuit := s.noon()
	b := s.open("/circuit/"+class, 1280, 800)
	b.there("#differ-middle")
	assert.Zero(t, eval[int](b, "[...document.querySelectorAll('text.lane')].filter(e => e.textContent.startsWith('Samir')).length"), "closed at first")
	b.open()
	b.until("[...document.querySelectorAll('text.lane')].some(e => e.textContent.startsWith('Samir'))")
	b.both("a plan by name")
	b.look("n-plan")

	// Somebody of Ground who does the lane's squat is given an entry of their own.
	var who, name string
	before := s.circuit(circuit)
	for _, p := range list(t, before, "occurrence", "people") {
		if id := dig(t, p, "id").(string); dig(t, p, "lane") == "ground" && entryOf(t, before, "s1", id) == nil {
			who, name = id, dig(t, p, "name").(string)
			break
		}
	}
	require.NotEmpty(t, who, "somebody does what the lane does")
	b.click("#cell-s1-ground")
	b.there("#own-people summary")
	b.click("#own-people summary")
	b.click("#give-own-" + who)
	b.until(fmt.Sprintf("document.querySelector('#cell-s1-%s')", who))
	b.there("#entry-pinned")
	b.enter("#entry-tempo", "3-1-1-0")
	b.saved()
	mine := entryOf(t, s.circuit(circuit), "s1", who)
	require.NotNil(t, mine)
	assert.Equal(t, true, mine["pinned"])
	b.accessible("an entry of somebody's own")
	b.look("n-own")
	b.visit("/circuit/" + class)
	b.there("#differ-ground")
	s.send(http.MethodPost, "/api/circuits/"+circuit+"/propose", map[string]any{"clientId": named(50), "base": dig(t, s.circuit(circuit), "version"),
		"brief": map[string]any{"minutes": 45, "format": "timed", "bans": []any{}}})
	again := s.circuit(circuit)
	kept := false
	for _, x := range []string{"s1", "s2", "s3", "s4", "s5", "s6", "s7", "s8"} {
		e := entryOf(t, again, x, who)
		kept = kept || e != nil && e["variant"] == mine["variant"] && e["pinned"] == true
	}
	assert.True(t, kept, "%s keeps what was pinned", name)
	b.visit("/circuit/" + class)
	b.open()
	b.until(fmt.Sprintf("document.querySelector('[id^=cell-][id$=%q]')", who))
	for eval[bool](b, fmt.Sprintf("!!document.querySelector('[id^=cell-][id$=%q]')", who)) {
		was := eval[int](b, fmt.Sprintf("document.querySelectorAll('[id^=cell-][id$=%q]').length", who))
		b.click(fmt.Sprintf("[id^=cell-][id$=%q]", who))
		b.click("#give-back")
		b.until(fmt.Sprintf("document.querySelectorAll('[id^=cell-][id$=%q]').length < %d", who, was))
	}
	b.saved()

	// Who does what, on screen and on one sheet.
	b.click("#tab-who")
	b.until("document.querySelectorAll('#by-person tbody tr').length >= 12 && document.querySelectorAll('#by-thing tbody tr').length > 3")
	b.both("who does what")
	b.visit("/who/" + class)
	b.there("#print-sheet")
	b.look("n-who")
	paper, sheets := b.onPaper()
	assert.Equal(t, 1, sheets, "%s", paper)
	for _, p := range list(t, again, "occurrence", "people") {
		assert.Contains(t, paper, strings.Fields(dig(t, p, "name").(string))[0]) // a long name stands in two lines
	}

	// The day: two stay away, and the 20 kg bells are in the van.
	b.visit("/circuit/" + class)
	b.click("#tab-day")
	people := list(t, again, "occurrence", "people")
	b.click("#came-" + dig(t, people[0], "id").(string))
	b.click("#came-" + dig(t, people[5], "id").(string))
	bell := eval[string](b, "[...document.querySelectorAll('#day-kit label')].find(e => e.textContent.includes('20 kg')).querySelector('input').id")
	b.enter("#"+bell, "3")
	b.both("the day")
	plan := s.circuit(circuit)
	b.click("#adapt")
	b.until("document.querySelectorAll('#day-said li').length > 0")
	b.look("n-day")
	assert.LessOrEqual(t, eval[int](b, "document.querySelectorAll('#day-said li').length"), 3)
	b.saved()
	adapted := s.circuit(circuit)
	assert.Len(t, dig(t, adapted, "document", "day", "absent"), 2)
	for _, row := range list(t, adapted, "plan", "pressure") {
		if dig(t, row, "item") == strings.TrimPrefix(bell, "missing-") {
			for _, n := range list(t, row, "used") {
				assert.Zero(t, n, "nobody is given a bell that is not there")
			}
		}
	}
	b.clickText("main", "Undo")
	b.until("!document.querySelector('#day-people input:not(:checked)')")
	b.saved()
	assert.Equal(t, dig(t, plan, "document"), dig(t, s.circuit(circuit), "document"), "one undo")

	// The hour at thirty times its speed.
	b.click("#tab-rehearsal")
	b.there("#rehearse")
	b.both("the rehearsal")
	b.click("#rehearse")
	b.until("document.querySelector('#rehearsal-clock').textContent !== '0:00'")
	b.click("#rehearse")
	eval[bool](b, "(e => { e.value = 15 * 60; e.dispatchEvent(new Event('input', {bubbles: true})); return true })(document.querySelector('#rehearsal-at'))")
	b.until("document.querySelectorAll('#holds li').length > 0 || document.querySelector('#rehearsal-now').textContent !== 'Get ready'")
	b.look("n-rehearsal")

	// Why not, and where the hall is short.
	b.click("#tab-hall")
	b.click("[id^=cell-s3-middle]")
	b.there(".why-not")
	b.click(".why-not")
	b.until("document.querySelector('li.answer')?.textContent.length > 40")
	b.accessible("why not")
	b.look("n-why-not")
	b.click("#hall-short")
	b.until("document.querySelector('#hall, #hall-nowhere')")
	b.accessible("where the hall is short")

	phone := s.open("/circuit/"+class, 360, 740)
	for _, tab := range []string{"who", "day", "rehearsal"} {
		phone.click("#tab-" + tab)
		phone.until(fmt.Sprintf("document.querySelector('#tab-%s').getAttribute('aria-selected') === 'true'", tab))
		assert.LessOrEqual(t, eval[int](phone, "document.documentElement.scrollWidth"), 360, tab)
	}
	phone.accessible("the rehearsal on a phone")
}

// TestLogByTiles: a class of fourteen of whom three differed is logged in under twenty actions,
// by touch and by keys, and the server has it as it was tapped.
func TestLogByTiles(t *testing.T) {
	s := start(t, "")
	class, _ := s.noon()
	b := s.open("/log/"+class, 390, 844)
	b.there("#tiles")
	require.GreaterOrEqual(t, eval[int](b, "document.querySelectorAll('#tiles .tile').length"), 14)
	log := s.get("/api/occurrences/" + class + "/log")
	sheet := func(log map[string]any, name string) map[string]any {
		for _, x := range list(t, log, "sheets") {
			if x.(map[string]any)["name"] == name {
				return x.(map[string]any)
			}
		}
		return nil
	}
	tap := 0
	press := func(css string) {
		tap++
		b.click(css)
	}
	slotOf := func(name string, n int) string { return dig(t, sheet(log, name), "lines", n, "slot").(string) }
	b.both("the log by tiles")
	press("#whole-class")
	b.until("[...document.querySelectorAll('.tile')].every(e => e.classList.contains('done'))")
	first, second, third := "Petra Quillan", "Samir Dovane", "Mina Tarrow"
	tile := func(name string) string { return "#tile-" + dig(t, sheet(log, name), "subject").(string) }
	press(tile(first))
	press("#move-" + slotOf(first, 0))
	b.accessible("what was otherwise")
	b.look("n-tile")
	press("#what-fewer")
	press("#say-2") // two fewer than planned
	press(tile(second))
	press("#move-" + slotOf(second, 2))
	press("#what-lighter")
	press("#say-1")
	press(tile(third))
	press("#move-" + slotOf(third, 1))
	press("#what-pain")
	press("#say-6") // the shoulder
	b.until("document.querySelectorAll('.tile.differs').length === 3")
	b.look("n-tiles")
	assert.Less(t, tap, 20)
	t.Logf("by touch: %d actions", tap)
	s.until("/api/occurrences/"+class+"/log", func(l map[string]any) bool {
		return dig(t, sheet(l, third), "lines", 1).(map[string]any)["joint"] == "shoulder"
	})
	now := s.get("/api/occurrences/" + class + "/log")
	a, was := dig(t, sheet(now, first), "lines", 0), dig(t, sheet(log, first), "lines", 0)
	assert.Equal(t, dig(t, was, "planned").(float64)-2, dig(t, a, "done"))
	l := dig(t, sheet(now, second), "lines", 2)
	assert.Less(t, dig(t, l, "loadG").(float64), dig(t, l, "plannedG").(float64))
	assert.Equal(t, "stop-move", dig(t, sheet(now, third), "lines", 1, "result", "advice"))
	assert.LessOrEqual(t, eval[int](b, "document.documentElement.scrollWidth"), 390)

	// By keys, at a desk: from the first tile on, by letters, digits and the letters on the buttons.
	d := s.open("/log/"+class, 1280, 800)
	d.there("#tiles")
	keys := 0
	key := func(k string) {
		keys++
		d.do(chromedp.KeyEvent(k))
	}
	eval[bool](d, "(document.querySelector('.tile').focus(), true)")
	for _, said := range [][]string{
		{"i", "2", "f", "1"}, // Ivo: one fewer
		{"g", "3", "o", "2"}, // Greta: two out of form
		{"l", "1", "s", "3"}, // Lindiwe: stopped early
	} {
		key(said[0])
		key(kb.Enter)
		d.there("#tile-panel")
		for _, k := range said[1:] {
			key(k)
		}
		d.there("#tiles")
	}
	d.until("document.querySelectorAll('.tile.differs').length === 6")
	assert.Less(t, keys, 20)
	t.Logf("by keys: %d actions", keys)
	s.until("/api/occurrences/"+class+"/log", func(l map[string]any) bool {
		x := dig(t, sheet(l, "Lindiwe Karsk"), "lines", 0).(map[string]any)
		return x["stopped"] == true
	})
	greta := dig(t, sheet(s.get("/api/occurrences/"+class+"/log"), "Greta Aske"), "lines", 2)
	assert.Equal(t, dig(t, greta, "done").(float64)-2, dig(t, greta, "inForm"))
	d.key("Escape") // nothing is open: nothing happens
}

// TestPainByName: pain at the knee by name makes the next plan another for that one, and Today
// says so; again, and they are out of what asks anything of it until somebody says that they are
// cleared; then it is back. The day after, soreness flags the move that asked most.
func TestPainByName(t *testing.T) {
	s := start(t, "")
	hall := dig(t, s.get("/api/today"), "next", "placeId").(string)
	s.send(http.MethodPut, "/api/people/"+named(700), map[string]any{"name": "Wren Halloway"})
	week := func(n int, date string) (class, me string, c map[string]any) {
		class = s.class(n, "Wednesday hall", date, hall, map[string]any{"lane": "middle", "people": 2})
		me = named(800 + n)
		s.send(http.MethodPut, "/api/occurrences/"+class+"/participants/"+me, map[string]any{"personId": named(700), "lane": "middle"})
		return class, me, s.planned(100*n, class)
	}
	asks := map[string]bool{} // clearly of the knee
	for _, m := range list(t, s.get("/api/moves"), "moves") {
		if d, _ := dig(t, m, "demands").(map[string]any)["knee"].(float64); d >= 2 {
			asks[dig(t, m, "id").(string)] = true
		}
	}
	knee := func(log map[string]any, me string) string {
		for _, sh := range list(t, log, "sheets") {
			if dig(t, sh, "subject") == me {
				for _, l := range list(t, sh, "lines") {
					if asks[dig(t, l, "variant").(string)] {
						return dig(t, l, "slot").(string)
					}
				}
			}
		}
		return ""
	}
	said := func(c map[string]any, me string) map[string]string {
		out := map[string]string{}
		for _, d := range list(t, c, "decided") {
			if dig(t, d, "party") == me {
				out[dig(t, d, "move").(string)] = dig(t, d, "advice").(string)
			}
		}
		return out
	}
	felt := func(class, me, pain, joint string) { // kept: the next plan is made of it
		s.until("/api/occurrences/"+class+"/log", func(log map[string]any) bool {
			for _, sh := range list(t, log, "sheets") {
				if dig(t, sh, "subject") != me {
					continue
				}
				for _, l := range list(t, sh, "lines") {
					if x := l.(map[string]any); x["pain"] == pain && x["joint"] == joint {
						return true
					}
				}
			}
			return false
		})
	}
	var b *tab
	hurt := func(class, me string) {
		log := s.get("/api/occurrences/" + class + "/log")
		slot := knee(log, me)
		require.NotEmpty(t, slot)
		if b == nil {
			b = s.open("/log/"+class, 1280, 800, slowly)
		} else {
			b.visit("/log/" + class)
		}
		b.there("#tiles")
		b.click("#whole-class")
		b.until("[...document.querySelectorAll('.tile')].every(e => e.classList.contains('done'))")
		b.click("#tile-" + me)
		b.click("#move-" + slot)
		b.click("#what-pain")
		b.click("#say-2") // the knee
		b.until("document.querySelectorAll('.tile.differs').length === 1")
		felt(class, me, "joint", "knee")
	}
	first, me, _ := week(1, "2026-11-04")
	hurt(first, me)
	second, me, c := week(2, "2026-11-11")
	require.Contains(t, fmt.Sprint(said(c, me)), "stop-move")
	assert.Empty(t, breaks(t, c))
	b.visit("/circuit/" + second)
	b.until("document.querySelector('#decided')?.textContent.includes('Change this move')")
	b.accessible("what the log decided by name")
	// Something for the knee is put for them by hand, and hurts again: out until cleared.
	slot := dig(t, list(t, c, "document", "blocks", 2, "slots")[0], "id").(string)
	s.send(http.MethodPost, "/api/circuits/"+named(200)+"/edits", map[string]any{"clientId": named(210), "base": 1, "ops": []any{
		map[string]any{"op": "set-entry", "slotId": slot, "party": me, "entry": map[string]any{"variant": "box-squat", "hold": "none", "load": map[string]any{"kind": "none"},
			"anchors": []any{}, "dose": map[string]any{"kind": "count", "low": 8, "high": 8}, "tempo": "2-0-2-0", "sides": "both"}}}})
	hurt(second, me)
	third, me, c := week(3, "2026-11-18")
	require.Contains(t, fmt.Sprint(said(c, me)), "off-the-plan")
	assert.Empty(t, breaks(t, c), "nothing that asks anything of the knee")
	b.visit("/circuit/" + third)
	b.until("document.querySelector('#decided')?.textContent.includes('Off the plan: refer')")
	b.look("n-out")
	b.clickText("#decided", "Cleared")
	b.until("!document.querySelector('#decided')?.textContent.includes('Off the plan: refer')")
	s.until("/api/circuits/"+named(300), func(c map[string]any) bool {
		over, _ := dig(t, c, "document").(map[string]any)["overruled"].([]any)
		return len(over) > 0
	})
	b.visit("/circuit/" + third)
	s.send(http.MethodPost, "/api/circuits/"+named(300)+"/propose", map[string]any{"clientId": named(310), "base": dig(t, s.circuit(named(300)), "version"),
		"brief": map[string]any{"minutes": 45, "format": "timed", "bans": []any{}, "overruled": dig(t, s.circuit(named(300)), "document", "overruled")}})
	assert.NotEmpty(t, knee(s.get("/api/occurrences/"+third+"/log"), me), "what asks of the knee is back")

	// The class goes well; the day after they are sore at the low back. Of nothing that is written
	// that is refused, under their name.
	b.visit("/log/" + third)
	b.expect("422")
	b.click("#tile-" + me)
	b.click("#sore-at")
	b.click("#sore-low-back")
	b.until("document.querySelector('.refused')?.textContent.includes('nothing is written down of Wren Halloway')")
	b.accessible("what was refused")
	b.click(".refused button")
	b.until("!document.querySelector('.refused')")
	b.click("#whole-class")
	b.until("[...document.querySelectorAll('.tile')].every(e => e.classList.contains('done'))")
	b.click("#tile-" + me)
	b.click("#sore-at")
	b.click("#sore-low-back")
	b.until("document.querySelector('.tile.differs')?.textContent.includes('low back')")
	felt(third, me, "sore", "low-back")
	_, me, c = week(4, "2026-11-25")
	assert.Contains(t, fmt.Sprint(said(c, me)), "ease")
}
