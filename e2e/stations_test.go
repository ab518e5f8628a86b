package e2e

import (
	"encoding/base64"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// hallFor makes a hall with some kit and a class in it, and opens its page without a plan.
func hallFor(t *testing.T, s *server, kitLines string, things int, name string, minutes int, people map[string]string) (b *tab, class string) {
	b = s.open("/kit", 1280, 800)
	b.clickText("main", "Add a place")
	b.modal()
	b.enter("#place-name", "Loft")
	b.save()
	b.closed()
	b.there("#kit-lines") // of a place with kit it is folded
	b.enter("#kit-lines", kitLines)
	b.until(fmt.Sprintf("document.querySelector('#places-would')?.textContent.startsWith('%d new')", things))
	b.click("#places-bring")
	b.until(fmt.Sprintf("document.querySelectorAll('tbody tr').length === %d && !document.querySelector('#kit-lines').value", things))
	b.visit("/")
	b.clickText("main", "Add a class")
	b.modal()
	b.enter("#class-name", name)
	b.set("#class-date", "2026-11-25")
	b.set("#class-time", "10:05")
	b.enter("#class-minutes", fmt.Sprint(minutes))
	for _, lane := range []string{"ground", "middle", "reach"} {
		b.enter("#class-"+lane, people[lane])
	}
	b.save()
	b.closed()
	b.until(fmt.Sprintf("document.querySelector('.next h2').textContent === %q", name))
	class = dig(t, s.get("/api/today")["next"], "id").(string)
	b.clickText(".next", "Make its circuit")
	b.there("#brief-minutes")
	return b, class
}

// asks adds a block to a brief: its moves each with a load and a dose.
func (b *tab) asks(n int, kind, scheme string, moves ...[3]string) {
	b.click("#ask-block")
	b.there(fmt.Sprintf("#ask-kind-%d", n))
	b.set(fmt.Sprintf("#ask-kind-%d", n), kind)
	if scheme != "" {
		b.set(fmt.Sprintf("#ask-scheme-%d", n), scheme)
	}
	for i, m := range moves {
		b.click(fmt.Sprintf("#ask-add-%d", n))
		b.there(fmt.Sprintf("#ask-move-%d-%d", n, i))
		b.set(fmt.Sprintf("#ask-move-%d-%d", n, i), m[0])
		if m[1] != "" {
			b.enter(fmt.Sprintf("#ask-load-%d-%d", n, i), m[1])
		}
		if m[2] != "" {
			b.enter(fmt.Sprintf("#ask-pin-dose-%d-%d", n, i), m[2])
		}
	}
}

// onPaper prints the page and gives what stands on the paper, and on how many sheets.
func (b *tab) onPaper() (text string, sheets int) {
	pdf, err := chromedp.Call(b.ctx, page.PrintToPDF, page.PrintToPDFParams{})
	require.NoError(b.t, err)
	bytes, err := base64.StdEncoding.DecodeString(string(pdf.Data))
	if err != nil {
		bytes = []byte(pdf.Data)
	}
	file := filepath.Join(b.t.TempDir(), "sheet.pdf")
	require.NoError(b.t, os.WriteFile(file, bytes, 0o600))
	out, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	require.NoError(b.t, err, "pdftotext (Debian package poppler-utils)")
	return string(out), strings.Count(string(out), "\f")
}

// Four stations on benches, from a brief to the log (shape 12): eight people of two builds,
// two a station; who starts where with which kit, drawn, and on one sheet of paper; the change
// is called, and after it everybody is at the next.
func TestStationsFromBriefToLogged(t *testing.T) {
	s := start(t, "")
	b, class := hallFor(t, s, "4 benches 30-60 cm\n8 dumbbells 8 kg", 2, "On benches", 45, map[string]string{"ground": "0", "middle": "4", "reach": "4"})
	b.clickText("main form", "They know every move")
	b.set("#brief-layout", "stations")
	b.asks(0, "work", "circuit", [3]string{"high-seat-single-leg-squat"}, [3]string{"one-leg-bench-row", "8 kg"}, [3]string{"foot-bench-bridge-one-leg"}, [3]string{"bench-alternating-press", "16 kg"})
	b.look("brief")
	b.clickText("main form", "Propose")
	b.until("document.querySelectorAll('.floor tbody tr').length === 4")
	b.saved()
	floor := b.text(".floor")
	assert.Contains(t, floor, "2 come to 1 × Bench at once: one after the other")
	assert.NotContains(t, b.text("#flags"), "Bench:", "eight on four benches are right")
	for _, who := range []string{"Middle 1", "Middle 4", "Reach 1", "Reach 4"} {
		assert.Contains(t, floor, who)
	}
	b.look("stations")
	b.accessible("stations")
	b.click("#station-sheet")
	b.there("#print-sheet")
	b.look("sheet")
	paper, sheets := b.onPaper()
	assert.Equal(t, 1, sheets, "%s", paper)
	for _, said := range []string{"Where people stand", "On benches", "Group 1", "Group 4", "Middle 1", "Reach 4", "2 × Dumbbell", "1 × Bench", "Starts here", "“change”"} {
		assert.Contains(t, strings.Join(strings.Fields(paper), " "), said)
	}
	b.visit("/run/" + class)
	b.click("#toggle")
	b.until("document.querySelector('#toggle').textContent.includes('Hold')")
	b.skipTo("document.querySelectorAll('#board li').length === 4 && document.querySelector('.top').textContent.includes('Turn 1 of 4')")
	first := eval[string](b, "document.querySelector('#board li').textContent")
	b.look("board")
	b.click("#skip")
	b.until("document.querySelector('#called')?.textContent === 'Change: on to the next station'")
	b.look("change")
	b.until("document.querySelector('#board li').textContent !== " + fmt.Sprintf("%q", first))
	b.click("#skip")
	b.until("document.querySelector('.top').textContent.includes('Turn 2 of 4')")
	b.hold("#end")
	b.clickText(".after", "Write the log")
	b.until("location.pathname.startsWith('/log')")
	assert.Len(t, list(t, s.get("/api/occurrences/"+class+"/log"), "sheets", 0, "lines"), 4, "who stopped after two turns was at some station of each")
}

// A warm-up only, from a brief to its end (shape 7): one bell of 12 kg each, in this order,
// within twelve minutes; prep is led in Run like work, and is kept as the house's own with its
// repetitions, sides and bell.
func TestWarmUpFromBriefToRun(t *testing.T) {
	s := start(t, "")
	b, class := hallFor(t, s, "4 bells 12", 1, "Warm-up", 12, map[string]string{"ground": "0", "middle": "4", "reach": "0"})
	b.clickText("main form", "They know every move")
	b.set("#brief-template", "warm-up")
	b.asks(0, "prep", "", [3]string{"side-out-rock", "12 kg", "6"}, [3]string{"arm-bar-turn", "12 kg", "4"}, [3]string{"goblet-march", "12 kg", "10 in all"}, [3]string{"shift-floor-bridge", "", "10 in all"})
	b.asks(1, "prep", "called", [3]string{"called-footwork", "", "45 s"})
	b.clickText("main form", "Propose")
	b.until("document.querySelectorAll('.cell').length === 5")
	b.saved()
	circuit := dig(t, s.get("/api/occurrences/"+class), "circuitId").(string)
	doc := s.circuit(circuit)
	assert.Len(t, list(t, doc, "document", "blocks"), 2, "nothing beside the warm-up")
	assert.True(t, dig(t, doc, "plan", "fits").(bool))
	b.click("#cell-s1-middle")
	b.until("document.querySelector('.side')")
	b.key("Escape")
	b.click("#keep-prep")
	b.says("Every session that chooses its prep begins so now.")
	kept := list(t, s.get("/api/style"), "prep")
	require.Len(t, kept, 4)
	assert.Equal(t, map[string]any{"move": "side-out-rock", "reps": 6.0, "sides": "split", "hold": "goblet", "loadG": 12_000.0}, kept[0])
	b.visit("/run/" + class)
	b.click("#toggle")
	b.until("document.querySelector('#toggle').textContent.includes('Hold')")
	b.skipTo("document.querySelector('.name').textContent === 'Single-leg rock to the side'")
	assert.Contains(t, b.text(".lanes"), "12 kg")
	assert.Contains(t, b.text(".lanes"), "6 a side")
	b.look("prep")
	b.skipTo("document.querySelector('.name').textContent === 'Called footwork in a square'")
	b.until("['right', 'left', 'forward', 'back', 'across'].includes(document.querySelector('#spoken')?.textContent)")
}

// look takes a picture for whoever is at work on a view, where LOOK names a folder.
func (b *tab) look(name string) {
	if dir := os.Getenv("LOOK"); dir != "" {
		b.until("document.getAnimations().every((a) => a.playState !== 'running')")
		b.shot(filepath.Join(dir, name+".png"))
	}
}
