package e2e

import (
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/store"
)

// TestStudioInAFile: what one server exports, another brings in by the Studio
// dialog: it says what it would bring before it does, refuses what is no such
// file, and the same file again brings nothing.
func TestStudioInAFile(t *testing.T) {
	from := start(t, "")
	file := filepath.Join(t.TempDir(), "studio.json")
	require.NoError(t, os.WriteFile(file, []byte(from.raw("/api/studio/export")), 0o600))
	broken := filepath.Join(t.TempDir(), "broken.json")
	require.NoError(t, os.WriteFile(broken, []byte(`{"format":"nimbleanvil-studio","v":1`), 0o600))
	other := filepath.Join(t.TempDir(), "other.json")
	require.NoError(t, os.WriteFile(other, []byte(`{"format":"recipes"}`), 0o600))

	h := openHall(t) // only for its database: the server gets an empty one
	dsn, err := h.db.Fresh(t.Context())
	require.NoError(t, err)
	st, err := store.Open(dsn, time.Now)
	require.NoError(t, err)
	require.NoError(t, st.Migrate(t.Context()))
	require.NoError(t, st.Close())
	s := launch(t, h.dir, "serve", "--dsn", dsn, "--addr", "127.0.0.1:0", "--clock", instant)
	b := s.open("/kit", 1280, 800)
	b.click("#studio")
	b.modal()
	b.expect("400")
	b.expect("422")
	choose := func(name string) { b.do(chromedp.SetUploadFiles(chromedp.CSS("#studio-file"), []string{name})) }
	choose(broken)
	b.until("document.querySelector('.bx--modal.is-visible').textContent.includes('is not one JSON document')")
	choose(other)
	b.until("document.querySelector('.bx--modal.is-visible .bx--inline-notification')?.textContent.includes('format: expected value')")
	choose(file)
	b.until("document.querySelector('#studio-would')?.textContent.includes('would bring 4 places')")
	assert.Empty(t, s.any("/api/places"), "only tried")
	b.accessible("the studio's dialog")
	b.click("#studio-bring")
	b.until("document.querySelector('#studio-did')?.textContent.startsWith('Brought in: 4 places')")
	assert.Equal(t, from.any("/api/places"), s.any("/api/places"))
	assert.Equal(t, from.get("/api/studio/export")["classes"], s.get("/api/studio/export")["classes"])
	choose(file)
	b.until("document.querySelector('#studio-would')?.textContent.includes('would bring nothing new')")
	b.enter("#studio-zone", "Moon/Base")
	b.save()
	b.until("document.querySelector('.bx--modal.is-visible').textContent.includes('write it as Europe/Berlin')")
	b.enter("#studio-zone", "Europe/Berlin")
	b.save()
	b.closed()
	assert.Equal(t, "Europe/Berlin", s.get("/api/studio")["timeZone"])
}
