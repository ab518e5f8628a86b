package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// lesson opens a hall with some kit and a class of one person of Middle, and proposes a
// circuit for it: what it becomes is made of that by hand.
func lesson(t *testing.T, s *server, kitLines string, things int, name string, minutes int) (b *tab, class, circuit string) {
	b, class = hallFor(t, s, kitLines, things, name, minutes, map[string]string{"ground": "0", "middle": "1", "reach": "0"})
	b.clickText("main form", "They know every move")
	b.clickText("main form", "Propose")
	b.until("document.querySelectorAll('.cell').length > 2")
	return b, class, dig(t, s.get("/api/occurrences/"+class), "circuitId").(string)
}

// saved waits until what was edited is kept.
func (b *tab) saved() {
	b.until("document.querySelector('#saved').dataset.state === 'saved'")
}

// field enters a number of the block or of the slot.
func (b *tab) field(id, value string) {
	b.enter("#"+id, value)
	b.saved()
}

// block chooses a block by its place in the session.
func (b *tab) block(n int) {
	b.click(fmt.Sprintf(".section[id]:nth-of-type(1)#%s", eval[string](b, fmt.Sprintf("document.querySelectorAll('.section')[%d].id", n))))
	b.until(fmt.Sprintf("document.querySelector('#block-title').textContent.includes('Block %d of')", n+1))
}

// put adds a slot to the block that is chosen, and puts a move by name into it.
func (b *tab) put(pattern, move string) {
	before := eval[float64](b, "document.querySelectorAll('.cell').length")
	b.until("document.querySelector('#add-slot')")
	b.set("#add-slot", pattern)
	b.until(fmt.Sprintf("document.querySelectorAll('.cell').length === %v", before+1))
	b.saved()
	b.click("#" + b.newest())
	b.until("document.querySelectorAll('#moves li').length > 0")
	if b.text(".side h2") == move {
		return
	}
	at := eval[float64](b, fmt.Sprintf("[...document.querySelectorAll('#moves li b')].findIndex((e) => e.textContent.split(',').slice(0, -1).join(',') === %q)", move))
	require.GreaterOrEqual(b.t, at, 0.0, "%s is in the picker", move)
	b.click(fmt.Sprintf("#moves li:nth-child(%v) button", at+1))
	b.until(fmt.Sprintf("document.querySelector('.side h2').textContent === %q", move))
	b.saved()
}

// newest is the id of the last box that was made.
func (b *tab) newest() string {
	return eval[string](b, "[...document.querySelectorAll('.cell')].map(e => e.id).sort((a, b) => Number(a.match(/s(\\d+)/)[1]) - Number(b.match(/s(\\d+)/)[1])).at(-1)")
}

// empty takes every slot out of the block that is chosen but for the newest.
func (b *tab) emptied(circuit string, block int, but ...string) {
	for _, x := range list(b.t, b.s.circuit(circuit), "document", "blocks", block, "slots") {
		id := dig(b.t, x, "id").(string)
		if len(but) > 0 && but[0] == id {
			continue
		}
		b.click(fmt.Sprintf("#cell-%s-middle", id))
		b.until("document.querySelector('.side')")
		b.clickText(".side", "Remove")
		b.until(fmt.Sprintf("!document.querySelector('#cell-%s-middle')", id))
		b.saved()
	}
}

// Three parts in ten a side, from an empty hall to the log: clean, squat, press with one
// bell of 8 kg, the weaker side first; the parts are called as they begin; somebody stops
// and comes back; the log knows, and says which side owes.
func TestThreePartsFromEmptyToLogged(t *testing.T) {
	s := start(t, "")
	b, class, circuit := lesson(t, s, "bell 8\nbox 45", 2, "Three parts", 20)
	b.block(2)
	b.set("#block-scheme", "chain")
	b.there("#set-sides")
	b.saved()
	b.put("whole-body", "Clean, squat, press")
	keep := eval[string](b, "document.querySelector('.cell.picked').id.split('-')[1]")
	b.field("entry-reps", "10")
	b.field("entry-low", "10")
	b.set("#entry-first", "right")
	b.saved()
	b.emptied(circuit, 2, keep)
	b.block(2)
	b.field("set-side-change", "0")
	b.field("set-chain-rest", "0")
	b.until("document.querySelector('#block-time').textContent.includes('3:10')") // 2 x 10 x (2.5 + 4 + 3) s
	plan := dig(t, s.circuit(circuit), "plan")
	assert.EqualValues(t, 20, dig(t, plan, "totals", 0, "count", "low"))
	assert.EqualValues(t, 20, dig(t, plan, "totals", 0, "leftLegLow"), "twenty squats on both legs")
	b.both("Circuit with a chain")

	b.visit("/run/" + class)
	b.there("#toggle")
	b.click("#toggle")
	b.skipTo("document.querySelector('#spoken') !== null")
	b.until("document.querySelector('.lane').textContent.includes('Right') && document.querySelector('.lane').textContent.includes('10 a side')")
	for _, part := range []string{"clean", "squat", "press", "clean"} {
		b.until(fmt.Sprintf("document.querySelector('#spoken').textContent === %q", part))
	}
	b.click("#stopped-middle")
	b.until("document.querySelector('#told-middle').textContent.includes('Stopped: Middle')")
	b.accessible("Run of a chain")
	b.click("#again-middle")
	b.until("!document.querySelector('#told-middle')")
	b.do(chromedp.KeyEvent("n")) // the first side is over for all
	b.until("document.querySelector('.lane').textContent.includes('Left')")
	b.do(chromedp.KeyEvent("n"))
	b.skipTo("document.querySelector('.name').textContent === 'The class has ended'")
	b.clickText("main", "Write the log")
	b.there("#done-" + keep)
	b.until(fmt.Sprintf("document.querySelector('#stopped-%s').checked", keep))
	b.enter("#left-"+keep, "8")
	b.until(fmt.Sprintf("document.querySelector('#owed-%s').textContent.includes('The left side still owes 2 repetitions')", keep))
	b.enter("#part-press-"+keep, "16")
	b.until(fmt.Sprintf("document.querySelector('#more-%s').textContent.includes('press 16 times')", keep))
	b.both("Log of a chain")
	line := dig(t, s.get("/api/occurrences/"+class+"/log"), "sheets", 0, "lines", 0)
	assert.EqualValues(t, 8, dig(t, line, "done"))
	assert.EqualValues(t, 10, dig(t, line, "right"))
	assert.Equal(t, true, dig(t, line, "stopped"))
	assert.Equal(t, []any{map[string]any{"move": "press", "done": 16.0}}, dig(t, line, "parts"))
}

// Straight sets, then a superset and a finisher, from an empty hall to the log: sets end when
// they are done, whoever is done rests, the load is changed in two taps, and log and advice
// know of it.
func TestStraightSetsFromEmptyToLogged(t *testing.T) {
	s := start(t, "")
	b, class, circuit := lesson(t, s, "bar 60\npair of dumbbells 20\npair of dumbbells 12\nbench 45", 4, "Heavy evening", 75)
	b.block(2)
	b.set("#block-scheme", "sets")
	b.there("#set-between")
	b.saved()
	moves := []struct{ pattern, move, reps string }{
		{"hinge", "Hinge with a bar", "10"}, {"lunge", "Split squat, rear foot raised", "10"}, {"bridge", "Hip thrust on a bench", "10"}, {"squat", "Wide squat, weight hung between", "10"}, {"hinge", "Staggered deadlift", "10"},
	}
	b.emptied(circuit, 2)
	var slots []string
	for _, x := range moves {
		b.block(2)
		b.put(x.pattern, x.move)
		b.field("entry-reps", x.reps)
		b.field("entry-low", x.reps)
		slots = append(slots, eval[string](b, "document.querySelector('.cell.picked').id.split('-')[1]"))
	}
	b.field("own-rest", "60") // the last has a rest of its own
	b.block(2)
	b.field("set-set-rest", "90")
	// One of them again as partner in a superset, and one as finisher.
	b.click("#add-block")
	b.until("document.querySelectorAll('.section').length === 5")
	b.block(3)
	b.set("#block-scheme", "superset")
	b.there("#set-group-rest")
	b.saved()
	b.field("set-rounds", "2")
	b.put("bridge", "Hip thrust on a bench")
	b.block(3)
	b.put("push-level", "Push-up")
	b.block(3)
	b.click("#add-block")
	b.until("document.querySelectorAll('.section').length === 6")
	b.block(4)
	b.set("#block-kind", "finisher")
	b.saved()
	b.field("set-sets", "1")
	b.put("squat", "Wide squat, weight hung between")
	b.field("entry-reps", "20")
	b.field("entry-low", "15")
	var kinds []string
	for _, x := range list(t, s.circuit(circuit), "document", "blocks") {
		kinds = append(kinds, fmt.Sprint(dig(t, x, "kind")))
	}
	assert.Equal(t, []string{"prep", "teach", "work", "work", "finisher", "close"}, kinds)
	plan := dig(t, s.circuit(circuit), "plan")
	// 3 x (10 + 20 + 10 + 10 + 20) in the first block.
	total := 0.0
	for _, x := range list(t, plan, "slots") {
		if dig(t, x, "block") == "b3" {
			total += dig(t, x, "cells", 0, "count", "low").(float64)
		}
	}
	assert.EqualValues(t, 210, total)
	b.both("Circuit with straight sets, a superset and a finisher")

	b.visit("/run/" + class)
	b.there("#toggle")
	b.click("#toggle")
	b.skipTo("document.querySelector('.top').textContent.includes('Set 1 of 3')")
	b.until("document.querySelector('.lane .load').textContent.includes('60 kg')")
	// Too heavy today: another load, in two taps.
	b.click(fmt.Sprintf("#change-%s-middle", slots[0]))
	b.until("document.querySelectorAll('#instead-moves button').length > 0")
	b.accessible("what else, in Run")
	was := b.text(".lane .move")
	b.click(fmt.Sprintf("#instead-moves li:nth-child(%v) button", 1+eval[float64](b, "[...document.querySelectorAll('#instead-moves li b')].findIndex(e => e.textContent.includes('12 kg') || e.textContent.includes('20 kg'))")))
	b.until(fmt.Sprintf("document.querySelector('.lane .move').textContent !== %q && document.querySelector('.lane').textContent.includes('changed today')", was))
	now := b.text(".lane .move")
	b.click("#done-middle")
	b.until("document.querySelector('.lane').textContent.includes('Done, next in')")
	b.accessible("Run of straight sets")
	b.do(chromedp.KeyEvent("n"))
	b.until("document.querySelector('.name').textContent === 'Rest'")
	b.until("document.querySelector('#hands-middle')") // what to do with what is in hand
	b.do(chromedp.KeyEvent(kb.ArrowRight))
	b.until("document.querySelector('.top').textContent.includes('Set 2 of 3')")
	b.skipTo("document.querySelector('.top').textContent.includes('Round 1 of 2')")
	b.skipTo("document.querySelector('.top').textContent.includes('Finisher')")
	b.skipTo("document.querySelector('.name').textContent === 'The class has ended'")
	b.clickText("main", "Write the log")
	b.there("#done-" + slots[0])
	first := "document.querySelector('#sheet tbody tr')"
	assert.Contains(t, now, eval[string](b, first+".querySelector('th').textContent.trim()"), "the log knows")
	assert.Contains(t, eval[string](b, "[...document.querySelectorAll('#sheet tbody tr:not(.rest)')].at(-1).textContent"), "15 to 20")
	// Eighth of ten was hard: fewer in form. Fifteen of ten is far too light.
	b.enter("#done-"+slots[2], "15")
	b.until(fmt.Sprintf("document.querySelector('#result-%s').textContent.includes('Far too light')", slots[2]))
	b.clickText("main", "The rest of this sheet went as planned")
	b.until("[...document.querySelectorAll('[id^=result-]')].every(e => e.textContent.trim() !== 'plan')")
	b.click("#spent summary")
	b.until("[...document.querySelectorAll('#spent tbody tr')].some(r => r.textContent.includes('Work: Straight sets'))")
	b.both("Log of straight sets")
	log := s.get("/api/occurrences/" + class + "/log")
	assert.Len(t, list(t, log, "sheets", 0, "lines"), 8)
}
