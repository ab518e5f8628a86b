package e2e

import (
	"fmt"
	"os"
	"testing"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// tabTo presses Tab until the keys are where an expression says.
func (b *tab) tabTo(is string) {
	b.t.Helper()
	for range 150 {
		b.do(chromedp.KeyEvent(kb.Tab))
		if eval[bool](b, fmt.Sprintf("(e => { try { return !!(%s) } catch { return false } })(document.activeElement)", is)) {
			return
		}
	}
	b.shot("/tmp/na-e2e-failure.png")
	require.Fail(b.t, "Tab does not reach it", is)
}

func (b *tab) key(keys ...string) {
	b.t.Helper()
	for _, k := range keys {
		b.do(chromedp.KeyEvent(k))
	}
}

// says waits for a text in the work area.
func (b *tab) says(text string) {
	b.t.Helper()
	b.until(fmt.Sprintf("document.querySelector('main').textContent.includes(%q)", text))
}

// TestWholeJobByKeyboard does a class from its planning to its log without
// touching the mouse.
func TestWholeJobByKeyboard(t *testing.T) {
	s := start(t, "")
	b := s.open("/", 1280, 800)
	b.there(".next")
	b.key("?")
	b.until("document.querySelector('.bx--modal.is-visible')?.textContent.includes('from box to box in the score')")
	b.accessible("the sheet of keys")
	b.key(kb.Escape)
	b.until("!document.querySelector('.bx--modal.is-visible')")

	b.tabTo("e.textContent.trim() === 'Add a class'")
	b.key(kb.Enter)
	b.modal()
	b.key("Early shift")
	b.tabTo("e.id === 'class-minutes'")
	b.do(chromedp.KeyEvent("a", chromedp.KeyModifiers(2)))
	b.key("30")
	for _, lane := range []string{"ground", "reach"} { // two of the eight each, four stay at Middle
		b.tabTo("e.id === 'class-" + lane + "'")
		b.do(chromedp.KeyEvent("a", chromedp.KeyModifiers(2)))
		b.key("2")
	}
	b.tabTo("e.textContent.trim() === 'Save'")
	b.key(kb.Enter)
	b.closed()
	b.says("Early shift")
	b.tabTo("e.tagName === 'A' && e.textContent.includes('Make its circuit') && e.textContent.includes('Early shift')")
	b.key(kb.Enter)
	b.there("#brief-minutes")
	b.tabTo("e.id === 'ban-carry'")
	b.key(" ")
	b.tabTo("e.id === 'brief-know-all'")
	b.key(" ")
	b.tabTo("e.textContent.trim() === 'Propose'")
	b.key(kb.Enter)
	b.until("document.querySelectorAll('.cell').length > 15")

	b.tabTo("e.id === 'cell-s1-ground'")
	b.key(kb.ArrowDown, kb.ArrowRight, kb.ArrowRight)
	b.until("document.activeElement.id === 'cell-s3-middle' && document.querySelectorAll('#moves li').length > 0")
	was := b.text(".side h2")
	b.tabTo("e.closest('#moves') && e.tagName === 'BUTTON'")
	b.key(kb.Enter)
	b.until(fmt.Sprintf("document.querySelector('.side h2').textContent !== %q", was))
	b.do(chromedp.KeyEvent("z", chromedp.KeyModifiers(2)))
	b.until(fmt.Sprintf("document.querySelector('.side h2').textContent === %q", was))
	b.do(chromedp.KeyEvent("y", chromedp.KeyModifiers(2)))
	b.until(fmt.Sprintf("document.querySelector('.side h2').textContent !== %q", was))
	b.tabTo("e.closest('.side') && e.textContent.trim() === 'Close'")
	b.key(kb.Enter)
	b.until("document.activeElement.id === 'cell-s3-middle'")

	// A slot that goes leaves the keys in the box beside it, also once it is gone;
	// kit that is put away leaves them at the button that adds.
	cells := eval[int](b, "document.querySelectorAll('.cell').length")
	b.key(kb.Enter)
	b.tabTo("e.closest('.side') && e.textContent.trim() === 'Remove'")
	b.key(kb.Enter)
	b.until(fmt.Sprintf("document.querySelectorAll('.cell').length < %d && document.activeElement.id === 'cell-s4-middle'", cells))
	b.do(chromedp.KeyEvent("z", chromedp.KeyModifiers(2)))
	b.until(fmt.Sprintf("document.querySelectorAll('.cell').length === %d", cells))
	b.visitByKeys("Kit")
	b.there("#add-implement")
	b.tabTo("e.textContent.trim() === 'Retire'")
	b.key(kb.Enter)
	b.until("document.activeElement.id === 'add-implement'")

	b.visitByKeys("Run")
	b.there("#toggle")
	b.key(" ")
	b.until("document.querySelector('#toggle').textContent.includes('Hold')")
	b.key(kb.ArrowRight)
	b.until("document.querySelector('.top b').textContent === 'Prep'")
	drill := b.text(".name")
	b.key(kb.ArrowRight)
	b.until(fmt.Sprintf("document.querySelector('.name').textContent !== %q", drill))
	b.key(kb.ArrowLeft)
	b.until(fmt.Sprintf("document.querySelector('.name').textContent === %q", drill))
	// Space is the class's also on a button that was just pressed: nothing is skipped.
	b.tabTo("e.id === 'skip'")
	b.key(" ")
	b.says("On hold")
	assert.Equal(t, drill, b.text(".name"))
	b.key(" ")
	b.key("m")
	b.says("Sound off")
	b.tabTo("e.id === 'end'")
	b.key(kb.Enter)
	assert.Equal(t, drill, b.text(".name"), "a short press ends nothing")
	b.hold("#end")
	b.says("The class has ended")
	b.tabTo("e.id === 'go-on'")
	b.key(kb.Enter)
	b.until(fmt.Sprintf("document.querySelector('.name').textContent === %q", drill))
	b.skipTo("document.querySelector('.top b').textContent.startsWith('Round 1')") // past the drills and what is shown
	b.key(kb.ArrowRight, kb.ArrowRight)                                            // into the second slot
	b.hold("#end")
	b.says("The class has ended")
	b.tabTo("e.textContent.trim() === 'Write the log'")
	b.key(kb.Enter)
	b.there("#done-s1")
	b.tabTo("e.id === 'done-s1'")
	b.do(chromedp.KeyEvent("a", chromedp.KeyModifiers(2)))
	b.key("1", kb.Tab)
	b.until("document.querySelector('#result-s1 b')?.textContent === 'Lighter, or fewer'")
	b.tabTo("e.id === 'as-planned'")
	b.key(kb.Enter)
	b.until("[...document.querySelectorAll('[id^=result-]')].every(e => e.textContent.trim() !== 'plan')")
	b.tabTo("e.matches('details.why > summary')")
	b.key(kb.Enter)
	b.until("document.querySelector('details.why').open")
}

// hold presses a button for longer than the second that it asks for.
func (b *tab) hold(css string) {
	b.t.Helper()
	eval[bool](b, fmt.Sprintf(`(async e => { e.dispatchEvent(new KeyboardEvent('keydown', {key: 'Enter', bubbles: true}));
		await new Promise(done => setTimeout(done, 1300)); e.dispatchEvent(new KeyboardEvent('keyup', {key: 'Enter', bubbles: true})); return true })(document.querySelector(%q))`, css))
}

// visitByKeys follows a link of the rail.
func (b *tab) visitByKeys(text string) {
	b.t.Helper()
	eval[bool](b, "(document.body.focus(), document.querySelector('.skip').focus(), true)") // where a fresh page begins
	b.tabTo(fmt.Sprintf("e.closest('.rail') && e.textContent.trim() === %q", text))
	b.key(kb.Enter)
}

// TestWidthsAndColours: no view scrolls sideways from a phone to a wall, at twice
// the size, in the system's colours; pictures of paper and forced colours go where
// NIMBLEANVIL_LOOK says.
func TestWidthsAndColours(t *testing.T) {
	s := start(t, "")
	class := dig(t, s.get("/api/today"), "next", "id").(string)
	b := s.open("/circuit/"+class, 1280, 800)
	b.until("document.querySelectorAll('.cell').length > 15")
	look := os.Getenv("NIMBLEANVIL_LOOK")
	emulate := func(media string, features ...*emulation.MediaFeature) {
		_, err := chromedp.Call(b.ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Media: media, Features: features})
		require.NoError(t, err)
	}
	emulate("", &emulation.MediaFeature{Name: "forced-colors", Value: "active"}, &emulation.MediaFeature{Name: "prefers-reduced-motion", Value: "reduce"})
	b.until("matchMedia('(forced-colors: active)').matches")
	assert.Empty(t, eval[[]string](b, "[...document.querySelectorAll('*')].filter(e => /[1-9]/.test(getComputedStyle(e).transitionDuration + getComputedStyle(e).animationDuration)).map(e => e.className)"), "nothing moves for who wants less motion")
	if look != "" {
		b.shot(look + "/forced.png")
	}
	b.dark()
	b.until("document.querySelector('.paper td b')")
	emulate("print") // dark on white whatever the theme
	assert.Equal(t, "none", eval[string](b, "getComputedStyle(document.querySelector('.rail')).display"))
	assert.Equal(t, "block", eval[string](b, "getComputedStyle(document.querySelector('.paper')).display"))
	assert.Equal(t, "rgb(0, 0, 0) rgb(255, 255, 255)", eval[string](b, "getComputedStyle(document.querySelector('.paper td b')).color + ' ' + getComputedStyle(document.body).backgroundColor"))
	small := "[...document.querySelectorAll('.page *')].filter(e => e.getClientRects().length && parseFloat(getComputedStyle(e).fontSize) < 14.6).map(e => e.outerHTML.slice(0, 80))"
	assert.Empty(t, eval[[]string](b, small), "11 pt are 14.67 px")
	if look != "" {
		b.shot(look + "/print.png")
	}
	emulate("")
	b.clickText(".tabs", "Take-home")
	b.until("document.querySelectorAll('tbody tr').length > 3")
	emulate("print")
	assert.Empty(t, eval[[]string](b, small), "the home version")
	emulate("")
	b.clickText(".rail", "Light")
	for _, path := range []string{"/", "/kit", "/circuit/" + class, "/log/" + class, "/run/" + class, "/stations/" + class} {
		for _, width := range []int64{360, 640, 768, 1920} { // 640 is 1280 at 200 %
			b.do(chromedp.EmulateViewport(width, 900))
			b.visit(path)
			b.until("document.querySelector('main h1') && !document.querySelector('main [role=status]')?.textContent.includes('Reading')")
			b.narrow(fmt.Sprintf("%s at %d", path, width))
		}
	}
}
