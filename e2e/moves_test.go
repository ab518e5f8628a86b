package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// twice lets the page see the library twice over, under other ids: more moves
// than there are.
const twice = `{ const real = globalThis.fetch; globalThis.fetch = async (r, ...x) => {
	const a = await real(r, ...x)
	if (!(r.url ?? r).endsWith('/api/moves')) return a
	const d = await a.json()
	d.moves = [...d.moves, ...d.moves.map(m => ({ ...m, id: m.id + '-again', name: m.name + ' again' }))]
	return new Response(JSON.stringify(d), { status: 200, headers: { 'Content-Type': 'application/json' } }) } }`

// TestMovesView: a move is found by any word while typing, by pattern, joint,
// lane and the kit at hand; its card says what to say, what leads up and down, and
// what is learned first; the ladder is climbed by keyboard.
func TestMovesView(t *testing.T) {
	s := start(t, "")
	b := s.open("/moves", 1280, 800)
	names := func() []string {
		return eval[[]string](b, "[...document.querySelectorAll('#list a')].map(a => a.textContent.trim())")
	}
	all := len(list(t, s.get("/api/moves"), "moves"))
	b.until(fmt.Sprintf("document.querySelector('#found')?.textContent === '%d moves'", all))
	assert.Len(t, names(), all)
	b.click("#find")
	b.do(chromedp.KeyEvent("thrust leg"))
	b.until("document.querySelectorAll('#list a').length === 1")
	assert.Equal(t, []string{"Hip thrust on a bench, one leg"}, names())
	b.enter("#find", "bodyweight squat") // another name of the free squat
	b.until("document.querySelectorAll('#list a').length === 1")
	assert.Equal(t, []string{"Free squat"}, names())
	b.enter("#find", "nothing like this")
	b.says("No move is called that")
	b.enter("#find", "")
	b.do(chromedp.Focus(chromedp.CSS("#find")), chromedp.KeyEvent("a"), chromedp.KeyEvent(kb.Backspace))

	// Two squats ask little of the knee: the one to a high box, and the rise with the hands.
	b.set("#filter-pattern", "squat")
	b.set("#filter-joint", "knee")
	b.until("document.querySelectorAll('#list a').length === 2")
	assert.ElementsMatch(t, []string{"Squat to a high box", "Rise from a chair, hands help"}, names())
	b.set("#filter-joint", "")
	b.set("#filter-lane", "reach")
	b.until("document.querySelectorAll('#list a').length === 3")
	assert.ElementsMatch(t, []string{"Goblet squat", "Front squat, two weights", "Goblet squat, slow and paused"}, names())
	b.set("#filter-lane", "")
	// In the quay flat there is no bell: no press overhead there, whatever is in the
	// cupboard.
	b.set("#filter-pattern", "push-overhead")
	b.until("document.querySelectorAll('#list a').length === 5")
	for _, p := range s.any("/api/places").([]any) {
		if strings.HasPrefix(dig(t, p, "name").(string), "Flat on Quay") {
			b.set("#filter-place", dig(t, p, "id").(string))
		}
	}
	b.until("document.querySelectorAll('#list a').length === 0")
	b.set("#filter-pattern", "")
	b.until("document.querySelectorAll('#list a').length > 60")
	b.set("#filter-place", "")
	b.both("Moves, the list")

	// By keyboard to a card and along its ladder: static, back, then forward.
	b.enter("#find", "forward lunge")
	b.tabTo("e.dataset.move === 'forward-lunge'")
	b.key(kb.Enter)
	b.until("document.querySelector('#move-name')?.textContent.trim() === 'Forward lunge'")
	assert.Contains(t, b.text(".card-side"), "Learn first Split squat, Reverse lunge")
	assert.Contains(t, b.text(".here td"), "direction:step back → step forward") // the name is for narrow screens
	assert.Equal(t, 1.0, eval[float64](b, "document.querySelectorAll('.here circle').length"), "one lever a step")
	b.tabTo("e.closest('.ladder') && e.textContent.trim() === 'Reverse lunge'")
	b.key(kb.Enter)
	b.until("document.activeElement.id === 'move-name' && document.activeElement.textContent.trim() === 'Reverse lunge'")
	assert.Contains(t, b.text(".card-side"), "2 cues wait behind it")
	b.both("Moves, a card")
	b.set("#unit", "lb")
	b.noKilograms("Moves")
	b.set("#unit", "kg")
	b.visit("/moves/barbell-back-squat")
	b.until("document.querySelector('#gate')?.textContent.includes('25 goblet squats in form with half of body mass')")
	// A word of the trade opens what it means, by keyboard too, and is closed by Esc.
	b.visit("/moves/one-arm-row")
	b.there("#move-name")
	b.do(chromedp.Focus(chromedp.CSS("#move-name"))) // where choosing a move puts the keys
	b.tabTo("e.classList.contains('word') && e.textContent === 'Blade'")
	b.key(kb.Enter)
	b.until("document.querySelector('.means:popover-open')?.textContent.startsWith('The flat bone behind the shoulder')")
	b.accessible("a word of the trade")
	b.key(kb.Escape)
	b.until("!document.querySelector('.means:popover-open') && document.activeElement.textContent === 'Blade'")

	// Skills in parts: what a set counts to, what sets the load, the stages called.
	b.visit("/moves/row-chain")
	b.until("document.querySelectorAll('#counts li').length === 3")
	assert.Contains(t, b.text(".two"), "The squat with a press sets the load; it is light for the row and the pull")
	b.visit("/moves/band-walk-pulse-jump")
	b.until("document.querySelector('#counts')?.textContent.replace(/\\s+/g, ' ').includes('side walk: 50 to 120')") // 10 x 5 to 15 x 8
	b.visit("/moves/get-up-elbow")
	b.until("document.querySelectorAll('#stages li').length === 12")
	b.visit("/moves/called-footwork")
	b.until("document.querySelectorAll('#footwork li').length === 15 && new Set([...document.querySelectorAll('#footwork li')].map(l => l.textContent)).size === 8")
	b.accessible("called footwork")
	b.visit("/moves/no-such-move")
	b.says("There is nothing at this address")

	p := s.open("/moves/dead-stop-swing", 360, 740)
	p.there("#move-name")
	p.narrow("Moves")
	p.accessible("Moves on a phone")
	p.clickText(".back", "Back to the list")
	p.there("#list a")
	p.narrow("Moves, the list")

	// Typing with more than three hundred moves: the longest task is told
	// (docs/benchmarks.md).
	m := s.open("/moves", 1280, 800, twice)
	m.until(fmt.Sprintf("document.querySelector('#found')?.textContent === '%d moves'", 2*all))
	eval[bool](m, "(globalThis.long = [], new PerformanceObserver(l => long.push(...l.getEntries().map(e => e.duration))).observe({ type: 'longtask' }), true)")
	m.click("#find")
	var slowest float64
	for _, key := range strings.Split("goblet squat", "") {
		took := eval[float64](m, fmt.Sprintf(`(async () => { const f = document.querySelector('#find'), t = performance.now(); f.value += %q;
			f.dispatchEvent(new Event('input', { bubbles: true })); await new Promise(requestAnimationFrame); const c = new MessageChannel();
			await new Promise(d => { c.port1.onmessage = d; c.port2.postMessage(0) }); return performance.now() - t })()`, key))
		slowest = max(slowest, took)
	}
	m.until("document.querySelectorAll('#list a').length === 8")
	t.Logf("typing over %d moves: slowest from key to painted %.0f ms, tasks over 50 ms: %v", 2*all, slowest, eval[[]float64](m, "long"))
}
