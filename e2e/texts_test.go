package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/texts"
)

// plainEnglish finds words of plain letters in what a page shows and tells to whom cannot
// see it, but for names that people typed, and texts that are cut off: out of a box that
// hides what does not fit, of their drawing, or of the page.
const plainEnglish = `((typed) => {
	const out = new Set()
	const seen = (e) => e.getClientRects().length > 0 && e.checkVisibility({ visibilityProperty: true, contentVisibilityAuto: true })
	const plain = (text, where) => {
		for (const name of typed) text = text.replaceAll(name, '')
		for (const word of text.match(/[A-Za-z]{3,}/g) ?? []) out.add(where + ': ' + word + ' in ' + text.trim().slice(0, 60))
	}
	const all = document.body.querySelectorAll('*')
	for (const e of all) {
		if (/^(SCRIPT|STYLE|TEMPLATE)$/.test(e.tagName) || !seen(e)) continue
		for (const a of ['aria-label', 'title', 'placeholder', 'alt']) if (e.getAttribute(a)) plain(e.getAttribute(a), a)
		if (e.tagName === 'SELECT' && e.selectedOptions[0]) {
			const style = getComputedStyle(e), pen = document.createElement('canvas').getContext('2d')
			pen.font = style.font
			const room = e.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight)
			const text = e.selectedOptions[0].text
			if (!typed.some((x) => text.startsWith(x)) && pen.measureText(text).width > room + 1) out.add('cut off in a field: ' + text)
		}
		for (const n of e.childNodes) {
			if (n.nodeType !== 3 || !n.data.trim()) continue
			plain(n.data, e.tagName.toLowerCase())
			const range = document.createRange()
			range.selectNodeContents(n)
			const box = range.getBoundingClientRect()
			if (box.width <= 1 || e.closest('.sr, .skip, .bx--visually-hidden, option')) continue
			for (let up = e; up && up !== document.documentElement; up = up.parentElement) {
				const style = getComputedStyle(up), edge = up.getBoundingClientRect()
				const hides = /hidden|clip/.test(style.overflowX) || up.tagName === 'svg'
				if (hides && edge.width > 1 && (box.right > edge.right + 1.5 || box.left < edge.left - 1.5)) {
					out.add('cut off by ' + up.tagName + '.' + (up.getAttribute('class') ?? '') + ': ' + n.data.trim().slice(0, 60))
				}
				const low = /hidden|clip/.test(style.overflowY) || up.tagName === 'svg'
				if (low && edge.height > 1 && up !== document.body && (box.bottom > edge.bottom + 3 || box.top < edge.top - 3)) {
					out.add('cut off below or above by ' + up.tagName + '.' + (up.getAttribute('class') ?? '') + ': ' + n.data.trim().slice(0, 60))
				}
				if (/auto|scroll/.test(style.overflowX)) break
				if (up === document.body && box.right > innerWidth + 1.5) out.add('beyond the page: ' + n.data.trim().slice(0, 60))
			}
		}
	}
	return [...out]
})`

// TestNoPlainEnglish: a studio whose language is English with marks on every letter, a third
// longer, shows no plain English on any view and cuts nothing off, on a laptop and on a
// phone. What people typed stays as they typed it.
func TestNoPlainEnglish(t *testing.T) {
	s := start(t, "")
	next := s.get("/api/today")["next"].(map[string]any)
	id := next["id"].(string)
	slot := slotOf(t, s, id, "goblet-squat")
	cell := "#cell-" + slot + "-middle"
	typed := typedNames(t, s)
	orla := ""
	for _, p := range s.any("/api/people").([]any) {
		if dig(t, p, "name") == "Orla Penhale" {
			orla = dig(t, p, "id").(string)
		}
	}
	m := texts.Marked

	b := s.open("/", 1280, 800)
	b.click("#studio")
	b.modal()
	b.set("#studio-language", "en-XA")
	b.save()
	s.until("/api/studio", func(st map[string]any) bool { return st["language"] == "en-XA" })
	require.Eventually(t, func() bool { // the page reads itself anew
		title, err := chromedp.Run(b.ctx, chromedp.Evaluate[string]("document.querySelector('h1')?.textContent ?? ''"))
		return err == nil && title == m("Today")
	}, patience, 50*time.Millisecond)
	const marked = "localStorage.setItem('language', 'en-XA')" // another browser learns it with its first page

	looked := 0
	look := func(b *tab, what string) {
		t.Helper()
		eval[bool](b, "(document.querySelectorAll('details').forEach((d) => (d.open = true)), true)")
		b.until("document.getAnimations().every((a) => a.playState !== 'running')")
		if dir := os.Getenv("NIMBLEANVIL_MARKED"); dir != "" { // pictures, to look at
			b.shot(filepath.Join(dir, strings.ReplaceAll(what, " ", "-")+".png"))
		}
		for _, fault := range eval[[]string](b, plainEnglish+"("+typed+")") {
			t.Errorf("%s: %s", what, fault)
		}
		looked++
	}
	for _, size := range [][2]int64{{1280, 800}, {360, 740}} {
		b := s.open("/", size[0], size[1], marked)
		at := fmt.Sprintf(" at %d", size[0])
		view := func(path, css, what string) {
			t.Helper()
			b.visit(path)
			b.there(css)
			look(b, what+at)
		}
		closeIt := func() {
			t.Helper()
			eval[bool](b, "(document.querySelector('.bx--modal.is-visible .bx--modal-close').click(), true)")
			b.until("!document.querySelector('.bx--modal.is-visible')")
		}
		view("/", ".card", "Today")
		b.clickText("main", m("Add a class"))
		b.modal()
		look(b, "the form of a class"+at)
		closeIt()
		if size[0] > 400 {
			b.click("#studio")
			b.modal()
			look(b, "Studio"+at)
			closeIt()
			b.clickText(".rail", m("Keys"))
			b.modal()
			look(b, "Keys"+at)
			closeIt()
		}
		b.kitOf("things", quay)
		b.until("document.querySelectorAll('tbody tr').length > 3")
		look(b, "Kit"+at)
		for _, add := range []string{"Add an implement", "Add an object", "Add a container", "Add a place"} {
			b.clickText("main", m(add))
			b.modal()
			look(b, add+at)
			closeIt()
		}
		b.kitOf("rule", shed)
		b.there("#rule-gaps")
		look(b, "Load rule"+at)
		b.kitOf("make", quay)
		b.enter("#make-target", "9.4 kg")
		b.click("#make-go")
		b.there("#made .card")
		look(b, "Make"+at)
		b.kitOf("instead", quay)
		b.click("#instead-go")
		b.there("#instead-options")
		look(b, "Substitute"+at)
		b.kitOf("bridge", quay)
		b.set("#bridge-hold", "hugged")
		b.click("#bridge-go")
		b.there(".steps")
		look(b, "Bridge"+at)
		b.kitOf("fit", shed)
		b.clickText("main", m("Fit them"))
		b.there("table")
		look(b, "Fit"+at)
		b.kitOf("files", quay)
		look(b, "Files"+at)
		view("/people", "#people", "people")
		view("/people/"+orla, "#held li", "a person")
		b.click("#edit-person")
		b.modal()
		look(b, "the form of a person"+at)
		closeIt()
		view("/people/"+orla+"/health", "#health-save", "the health questions")
		view("/moves/goblet-squat", "#move-name", "a move")
		view("/moves/called-footwork", "#move-name", "footwork")
		view("/moves/squat-to-press-chain", "main", "a chain")
		b.visit("/moves")
		b.click("#house-style")
		b.there("#school-knees")
		look(b, "house style"+at)
		b.visit("/circuit/" + id)
		b.until("document.querySelectorAll('.cell').length > 15")
		look(b, "Circuit"+at)
		b.click("#hall-short")
		b.until("document.querySelector('#hall, #hall-nowhere')")
		look(b, "where the hall is short"+at)
		b.click(cell)
		b.until("document.querySelectorAll('#moves li').length > 1")
		look(b, "the panel of a slot"+at)
		b.click(".why-not")
		b.until("document.querySelector('li.answer')?.textContent.length > 40")
		look(b, "why not"+at)
		b.clickText("aside.side", m("Close"))
		b.until("!document.querySelector('aside.side')")
		for tab, there := range map[string]string{"who": "#by-thing tbody tr", "day": "#day-kit li", "rehearsal": "#rehearse"} {
			b.click("#tab-" + tab)
			b.there(there)
			look(b, tab+at)
		}
		for _, tab := range []string{"Take-home", "History"} {
			b.clickText(".tabs", m(tab))
			b.until("document.querySelectorAll('tbody tr, #versions li').length > 0")
			look(b, tab+at)
		}
		b.visit("/log/" + id)
		b.there("#done-s1")
		look(b, "Log"+at)
		b.click("#tiles .tile")
		b.there("#tile-panel")
		look(b, "a tile"+at)
		b.click("[id^=move-]")
		look(b, "what was otherwise"+at)
		b.click("#what-pain")
		look(b, "where it hurt"+at)
		b.visit("/run/" + id)
		b.there("#toggle")
		look(b, "Run, before it starts"+at)
	}
	b = s.open("/run/"+id, 1280, 800, marked)
	b.click("#toggle")
	b.until("document.querySelector('#toggle').textContent.includes('" + m("Hold")[:4] + "')")
	b.click("#toggle")
	look(b, "Run, held")
	for range 12 {
		b.do(chromedp.KeyEvent(kb.ArrowRight))
		look(b, "Run, further on")
	}
	b.click(".lane [id^=change-]")
	b.until("document.querySelectorAll('#instead-moves button').length > 0")
	look(b, "what else, in Run")
	b.visit("/log/" + id)
	b.click("#spent summary")
	b.there("#spent table")
	look(b, "planned and real times")
	b.visit("/circuit/" + id)
	b.until("document.querySelectorAll('.cell').length > 15")
	for _, id := range []string{"b1", "b2"} {
		b.click("#block-" + id)
		b.there("#write-out")
		look(b, "the steps of "+id)
	}
	b.click("#write-out")
	b.there("#set-sets")
	look(b, "steps written out")
	b.click("#add-block")
	b.until("document.querySelectorAll('.section').length === 5")
	for kind, field := range map[string]string{
		"superset": "set-group-rest", "chain": "set-side-change", "interval": "set-every", "window": "set-window", "ladder": "set-rungs", "drop": "set-change", "called": "draw-calls",
	} {
		b.set("#block-scheme", kind)
		b.there("#" + field)
		b.saved()
		look(b, "a block: "+kind)
	}
	b.clickText(".tabs", m("Sessions"))
	b.there("#sessions #template-name")
	b.enter("#template-name", next["name"].(string))
	b.click("#keep-template")
	b.until("document.querySelectorAll('#templates li button').length > 2")
	b.click("#sessions [id^=beside-]")
	b.there("#beside tbody tr")
	look(b, "sessions")
	b.clickText("main", m("Propose anew"))
	b.click("#ask-block")
	b.click("#ask-add-0")
	b.there("#ask-move-0-0")
	look(b, "a block of a brief")
	b.visit("/circuit/" + id)
	b.until("document.querySelectorAll('.section').length === 5")
	b.click("#block-b3")
	b.there("#block-layout")
	for _, layout := range []string{"partners", "stations"} {
		b.set("#block-layout", layout)
		b.there(".floor")
		b.saved()
		look(b, "a block: "+layout)
	}
	b.visit("/stations/" + id)
	b.there("#print-sheet")
	look(b, "station sheet")
	b.visit("/nowhere")
	look(b, "nothing at an address")
	require.Greater(t, looked, 50)
}

// typedNames are what people typed in the demo, as a list in JavaScript: the names of
// places, things, classes and people, which no language changes.
func typedNames(t *testing.T, s *server) string {
	t.Helper()
	names := []string{"Nimble Anvil", "UTC", "Europe/Berlin", "Esc", "Tab", "Ctrl"}
	var walk func(v any)
	walk = func(v any) {
		switch v := v.(type) {
		case map[string]any:
			if name, ok := v["name"].(string); ok {
				names = append(names, name)
			}
			if note, ok := v["note"].(string); ok {
				names = append(names, note)
			}
			if place, ok := v["place"].(string); ok {
				names = append(names, place)
			}
			for _, x := range v {
				walk(x)
			}
		case []any:
			for _, x := range v {
				walk(x)
			}
		}
	}
	next := s.get("/api/today")
	walk(next)
	walk(s.any("/api/places"))
	walk(s.any("/api/people"))
	walk(s.any("/api/groups"))
	for _, p := range s.any("/api/people").([]any) { // on a sheet by their first names
		names = append(names, strings.Fields(dig(s.t, p, "name").(string))[0])
	}
	walk(s.any("/api/occurrences/" + next["next"].(map[string]any)["id"].(string) + "/log"))
	slices.SortFunc(names, func(a, b string) int { return len(b) - len(a) }) // a name within a name comes after it
	var b strings.Builder
	for i, n := range names {
		fmt.Fprintf(&b, "%s%q", map[bool]string{true: "[", false: ","}[i == 0], n)
	}
	return b.String() + "]"
}
