package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestTwoWindows: a change in one window that the other has not seen is not
// overwritten by it; the other is told and shows the newest.
func TestTwoWindows(t *testing.T) {
	s := start(t, "")
	next := s.get("/api/today")["next"]
	class, path := dig(t, next, "id").(string), "/api/circuits/"+dig(t, next, "circuitId").(string)
	proposed := dig(t, s.get(path), "document", "blocks", 2, "scheme", "circuit", "workMs").(float64) / 1000
	a, b := s.open("/circuit/"+class, 1280, 800), s.open("/circuit/"+class, 1280, 800)
	a.until("document.querySelectorAll('.cell').length > 15")
	b.until("document.querySelectorAll('.cell').length > 15")
	a.enter("#set-work", "30")
	s.until(path, func(c map[string]any) bool { return c["version"] == 2.0 })
	b.expect("409")
	b.enter("#set-work", "50")
	b.until("document.querySelector('main').textContent.includes('Another window changed this circuit')")
	b.until("document.querySelector('#set-work').value === '30'")
	c := s.get(path)
	assert.Equal(t, 30_000.0, dig(t, c, "document", "blocks", 2, "scheme", "circuit", "workMs"))
	assert.Equal(t, 2.0, c["version"])
	b.accessible("Circuit with a conflict")

	// The later window's edit is a version of its own: compared, brought back,
	// undone again.
	b.until("document.querySelector('main').textContent.includes('Your edits are kept as version 3')")
	b.click("#compare")
	b.until("document.querySelector('#differences')?.innerText.replace(/\\s+/g, ' ').includes('Work 50 s 30 s')")
	b.both("History")
	b.click("#bring-back")
	s.until(path, func(c map[string]any) bool {
		return c["version"] == 4.0 && dig(t, c, "document", "blocks", 2, "scheme", "circuit", "workMs") == 50_000.0
	})
	b.clickText("main", "Undo")
	s.until(path, func(c map[string]any) bool {
		return c["version"] == 5.0 && dig(t, c, "document", "blocks", 2, "scheme", "circuit", "workMs") == 30_000.0
	})
	b.until("document.querySelectorAll('#versions li').length === 5")
	b.clickText("#versions", "Version 1")
	b.until(fmt.Sprintf("document.querySelector('#differences')?.innerText.replace(/\\s+/g, ' ').includes('Work %v s 30 s')", proposed))
	b.narrow("History")
	b.clickText(".tabs", "In class")
	b.enter("#set-rest", "15")
	s.until(path, func(c map[string]any) bool {
		return c["version"] == 6.0 && dig(t, c, "document", "blocks", 2, "scheme", "circuit", "workMs") == 30_000.0 && dig(t, c, "document", "blocks", 2, "scheme", "circuit", "restMs") == 15_000.0
	})
}

// TestDatabaseDies: with the database killed, an edit stays on the screen, is
// marked, and saves itself once the demo has brought the database back; it is
// there once.
func TestDatabaseDies(t *testing.T) {
	s := start(t, "")
	next := s.get("/api/today")["next"]
	class, path := dig(t, next, "id").(string), "/api/circuits/"+dig(t, next, "circuitId").(string)
	b := s.open("/circuit/"+class, 1280, 800)
	b.until("document.querySelectorAll('.cell').length > 15")
	b.expect("503")
	b.expect("500")
	raw, err := os.ReadFile(filepath.Join(s.dir, "pid"))
	require.NoError(t, err)
	pid, err := strconv.Atoi(strings.TrimSpace(string(raw)))
	require.NoError(t, err)
	require.NoError(t, syscall.Kill(pid, syscall.SIGKILL))
	b.enter("#set-work", "35")
	b.until("document.querySelector('#saved').textContent.startsWith('Not saved yet')")
	assert.Equal(t, "35", eval[string](b, "document.querySelector('#set-work').value"))
	b.until("document.querySelector('#saved').dataset.state === 'saved'")
	c := s.get(path)
	assert.Equal(t, 2.0, c["version"], "one edit, one version")
	assert.Equal(t, 35_000.0, dig(t, c, "document", "blocks", 2, "scheme", "circuit", "workMs"))
	b.until("document.querySelector('#set-work').value === '35'")
}
