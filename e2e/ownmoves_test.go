package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestOwnMoves: a move is copied, told what is wrong with it, put on its ladder;
// the studio's own moves go out as a file, and one that was changed by hand comes in
// after a look at what it would do; the same file again changes nothing.
func TestOwnMoves(t *testing.T) {
	s := start(t, "")
	b := s.open("/moves/goblet-squat", 1280, 800)
	b.click("#own")
	b.modal()
	b.accessible("the own move's dialog")
	b.enter("#own-name", "Crate squat")
	b.enter("#own-cues", "Hug the crate.")
	b.enter("#own-tempo", "soon")
	b.expect("422")
	b.save()
	b.until("document.querySelector('.bx--modal.is-visible').textContent.includes('tempo: write four counts')")
	b.enter("#own-tempo", "3-1-2-0")
	b.clickText(".bx--modal.is-visible", "It is the next rung of this ladder")
	b.enter("#own-lever", "hold")
	b.enter("#own-before", "a bar on the back")
	b.enter("#own-after", "a crate hugged")
	b.save()
	b.until("document.querySelector('#move-name')?.textContent.trim() === 'Crate squat'")
	assert.Equal(t, "Hug the crate.", b.text(".cue"))
	assert.Equal(t, "Crate squat", b.text(".ladder tbody tr:first-child button"), "on top of the ladder")
	b.enter("#find", "crate")
	b.until("document.querySelectorAll('#list a').length === 1")
	b.enter("#find", "")

	raw := s.raw("/api/own-moves")
	file := filepath.Join(t.TempDir(), "moves.json")
	write := func(text string) { require.NoError(t, os.WriteFile(file, []byte(text), 0o600)) }
	choose := func() { b.do(chromedp.SetUploadFiles(chromedp.CSS("#moves-file"), []string{file})) }
	b.click("#own-files summary")
	write(raw)
	choose()
	b.until("document.querySelector('#moves-would')?.textContent.includes('would change nothing')")
	write(strings.Replace(raw, "Hug the crate.", "Crate close, elbows in.", 1))
	choose()
	b.until("document.querySelector('#moves-would')?.textContent.includes('add 0 moves and change 1')")
	assert.Contains(t, s.raw("/api/own-moves"), "Hug the crate.", "only looked at")
	b.click("#moves-bring")
	b.until("document.querySelector('#moves-did')?.textContent === 'Added 0, changed 1.'")
	b.until("document.querySelector('.cue')?.textContent === 'Crate close, elbows in.'")
	write(strings.Replace(raw, `"rung":9`, `"rung":3`, 1))
	choose()
	b.until("document.querySelector('#own-files').textContent.includes('rung: the next free one on this ladder is 9')")
}
