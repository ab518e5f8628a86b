package e2e

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestHouseStyleArrives: one change of the house style is seen in the card, in the
// circuit and in Run; an exception for one move stays as it was; it is there after
// a restart.
func TestHouseStyleArrives(t *testing.T) {
	const cue = "Sit back, knees stay behind the toes."
	s := start(t, "")
	class := dig(t, s.get("/api/today"), "next", "id").(string)
	b := s.open("/moves/goblet-squat", 1280, 800)
	b.there("#move-name")
	assert.NotContains(t, b.text(".cue"), cue)
	b.click("#house-style")
	b.there("#school-knees input[value=behind]")
	b.both("the house style")
	b.click("#school-knees input[value=behind]")
	b.s.until("/api/style", func(m map[string]any) bool { return dig(t, m, "schools", 0, "chosen") == "behind" })
	b.click("#house-style")
	b.until("document.querySelector('.cue')?.textContent === '" + cue + "'")

	// An exception: this move keeps its own way.
	b.visit("/moves/box-squat")
	b.click("#exceptions summary")
	b.click("#exceptions #school-knees input[value=free]")
	b.until("document.querySelector('.cue')?.textContent !== '" + cue + "'")

	b.visit("/circuit/" + class)
	b.click("#cell-" + slotOf(t, s, class, "goblet-squat") + "-middle")
	b.until("document.querySelector('.side')?.textContent.includes('" + cue + "')")
	b.visit("/run/" + class)
	b.click("#toggle")
	for range 9 { // past lead-in, drills and what is shown before it
		if strings.Contains(b.text(".lanes"), cue) {
			break
		}
		b.click("#skip")
	}
	b.until("document.querySelector('.lanes')?.textContent.includes('" + cue + "')")
	assert.NotContains(t, b.text(".lane.w1"), cue, "Ground squats to a box, which is excepted")
	b.leave()
	s.stop()
	again := start(t, s.dir)
	c := again.open("/moves/goblet-squat", 1280, 800)
	c.until("document.querySelector('.cue')?.textContent === '" + cue + "'")
}

// slotOf finds the slot in which Middle has a move.
func slotOf(t *testing.T, s *server, class, move string) string {
	t.Helper()
	circuit := dig(t, s.get("/api/occurrences/"+class), "circuitId").(string)
	for _, slot := range list(t, s.get("/api/circuits/"+circuit), "document", "blocks", 2, "slots") {
		if dig(t, slot, "entries", "middle", "variant") == move {
			return dig(t, slot, "id").(string)
		}
	}
	require.Fail(t, "no slot with "+move)
	return ""
}
