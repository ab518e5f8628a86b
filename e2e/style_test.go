package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
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
	b.visit("/moves/squat")
	b.click("#exceptions summary")
	b.click("#exceptions #school-knees input[value=free]")
	b.until("document.querySelector('.cue')?.textContent !== '" + cue + "'")

	b.visit("/circuit/" + class)
	b.click("#cell-s1-middle") // the first slot is a squat
	b.until("document.querySelector('.side')?.textContent.includes('" + cue + "')")
	b.visit("/run/" + class)
	b.until("document.querySelector('.lanes')?.textContent.includes('" + cue + "')")
	assert.NotContains(t, b.text(".lane.w1"), cue, "Ground does the free squat, which is excepted")
	b.leave()
	s.stop()
	again := start(t, s.dir)
	c := again.open("/moves/goblet-squat", 1280, 800)
	c.until("document.querySelector('.cue')?.textContent === '" + cue + "'")
}
