package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
)

// TestScreenshots takes the pictures of docs/screenshots from the demo data when
// NIMBLEANVIL_SHOTS names a folder (make shots).
func TestScreenshots(t *testing.T) {
	dir := os.Getenv("NIMBLEANVIL_SHOTS")
	if dir == "" {
		t.Skip("make shots takes the pictures")
	}
	require.NoError(t, os.MkdirAll(dir, 0o750))
	s := start(t, "")
	next := s.get("/api/today")["next"].(map[string]any)
	id := next["id"].(string)
	take := func(b *tab, name string) {
		b.until("document.getAnimations().every((a) => a.playState !== 'running')") // a button may still be changing colour
		b.shot(filepath.Join(dir, name+".png"))
	}

	b := s.open("/", 1280, 800)
	b.until("document.querySelectorAll('.card').length > 3 && document.fonts.status === 'loaded'")
	take(b, "today")
	b.visit("/kit")
	b.until("document.querySelectorAll('tbody tr').length > 3")
	take(b, "kit")
	b.visit("/kit/rule")
	b.there("#rule-gaps")
	take(b, "load-rule")
	b.kitOf("make", quay)
	b.enter("#make-target", "9.4 kg")
	b.click("#make-go")
	b.there("#made .card")
	take(b, "make")
	b.kitOf("instead", quay)
	b.click("#instead-go")
	b.there("#instead-options")
	take(b, "substitutes")
	b.kitOf("bridge", quay)
	b.set("#bridge-hold", "hugged")
	b.click("#bridge-go")
	b.there(".steps")
	take(b, "bridge")
	b.visit("/circuit/" + id)
	b.until("document.querySelectorAll('.cell').length === 21")
	take(b, "circuit")
	b.click("#cell-" + slotOf(t, s, id, "goblet-squat") + "-middle")
	b.until("document.querySelectorAll('#moves li').length > 1")
	take(b, "circuit-slot")
	b.clickText(".tabs", "Take-home")
	b.until("document.querySelectorAll('tbody tr').length > 3")
	take(b, "take-home")
	b.clickText(".tabs", "In class")
	b.enter("#set-rest", "20")
	b.until("document.querySelector('#saved').dataset.state === 'saved'")
	b.clickText(".tabs", "History")
	b.clickText("#versions", "Version 1")
	b.until("document.querySelector('#differences')")
	take(b, "history")
	b.clickText("main", "Undo")
	b.until("document.querySelectorAll('#versions li').length === 3")
	b.visit("/log/" + id)
	b.until("document.querySelector('#done-s1')")
	b.enter("#done-s1", "16")
	b.until("document.querySelector('#result-s1 b')")
	take(b, "log")
	b.visit("/run/" + id)
	b.click("#toggle")
	b.until("document.querySelector('#toggle').textContent.includes('Hold')")
	b.click("#toggle")
	b.until("document.querySelector('.top').textContent.includes('On hold')")
	b.skipTo("document.querySelector('.name').textContent === 'Push' || document.querySelector('.top').textContent.includes('Round 2')")
	take(b, "run")

	p := s.open("/run/"+id, 360, 740)
	p.until("document.querySelector('#clock')")
	take(p, "run-phone")
	p.visit("/log/" + id)
	p.until("document.querySelector('#done-s1')")
	take(p, "log-phone")

	m := s.open("/moves/goblet-squat", 1280, 800)
	m.there("#move-name")
	take(m, "moves")
	m.visit("/moves/single-leg-bench-hip-thrust")
	m.there("#move-name")
	m.click("#house-style")
	m.there("#school-knees")
	take(m, "house-style")

	d := s.open("/circuit/"+id, 1280, 800)
	d.until("document.querySelectorAll('.cell').length === 21")
	d.dark()
	take(d, "circuit-dark")
}
