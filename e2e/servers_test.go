package e2e

import (
	"net/http"
	"os"
	"os/exec"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

// wrongClock sets a browser's own clock 90 seconds ahead.
const wrongClock = `{ const real = Date.now; Date.now = () => real() + 90000; const D = Date;
	globalThis.Date = class extends D { constructor(...a) { a.length ? super(...a) : super(D.now()) } static now() { return D.now() } } }`

// second gives what the clock of a screen shows, and where the class is.
func (b *tab) second() string { return b.text("#clock") + " " + b.text(".name") }

// hall is the demo's data on a database that outlives its servers.
type hall struct {
	t     *testing.T
	dir   string
	db    *localdb.Server
	store *store.Store
	scope store.Scope
	began time.Time
}

// openHall starts the database; the tests' instant is now.
func openHall(t *testing.T) *hall {
	t.Helper()
	dir, err := os.MkdirTemp("", "na-hall")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755)) // an unprivileged database must enter it
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	h := &hall{t: t, dir: dir, began: time.Now()}
	h.db, err = localdb.Start(t.Context(), localdb.Options{Dir: dir, Fast: true})
	require.NoError(t, err)
	t.Cleanup(h.db.Stop)
	h.store, err = store.Open(h.db.DSN(localdb.User), time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { _ = h.store.Close() })
	require.NoError(t, h.store.Migrate(t.Context()))
	owner, err := demo.Load(t.Context(), studio.New(h.store, time.Now), h.now(0))
	h.scope = store.Scope{StudioID: owner.Studio}
	require.NoError(t, err)
	return h
}

// now runs on from the tests' instant; skew is what a page's clock was advanced.
func (h *hall) now(skew time.Duration) time.Time {
	at, err := time.Parse(time.RFC3339, instant)
	require.NoError(h.t, err)
	return at.Add(time.Since(h.began) + skew)
}

func (h *hall) serve(addr string, skew time.Duration) *server {
	return launch(h.t, h.dir, "serve", "--dsn", h.db.DSN(localdb.User), "--addr", addr, "--clock", h.now(skew).Format(time.RFC3339Nano))
}

// TestTwoServersOneClass: two servers on one database, two screens, one with a
// clock that is wrong: a hold on one is seen on the other within a second, both
// show the same second on hold and after it, also after a restart of a server;
// what both press at once comes into one order.
func TestTwoServersOneClass(t *testing.T) {
	h := openHall(t)
	serve := func() *server { return h.serve("127.0.0.1:0", 0) }
	one, two := serve(), serve()
	class := dig(t, one.get("/api/today"), "next", "id").(string)

	a := one.open("/run/"+class, 1280, 800)
	a.click("#toggle")
	a.until("document.querySelector('#toggle').textContent.includes('Hold')")
	a.do(chromedp.KeyEvent(kb.ArrowRight)) // past the lead-in, into the long prep
	a.until("document.querySelector('.top b').textContent === 'Prep'")
	b := two.open("/run/"+class, 360, 740, wrongClock)
	b.until("document.querySelector('#toggle').textContent.includes('Hold')")

	// Moving: read both screens in turn, several times; they never differ by more
	// than the second that passes between the readings.
	shown := func(x *tab) int64 {
		return eval[int64](x, "(s => s.includes(':') ? Number(s.split(':')[0]) * 60 + Number(s.split(':')[1]) : Number(s))(document.querySelector('#clock').textContent)")
	}
	// A busy machine may pause between two readings, so a pair is read again.
	same := func(x, y *tab) {
		require.Eventually(t, func() bool { d := shown(x) - shown(y); return d >= -1 && d <= 1 }, patience, 10*time.Millisecond)
	}
	for range 5 {
		same(a, b)
	}

	a.do(chromedp.KeyEvent(" "))
	pressed := time.Now()
	b.until("document.querySelector('.top').textContent.includes('On hold')")
	t.Logf("the hold was seen on the other screen after %v", time.Since(pressed).Round(10*time.Millisecond)) // asked each 600 ms
	a.until("document.querySelector('.top').textContent.includes('On hold')")
	assert.Equal(t, a.second(), b.second())

	two.stop()
	b.expect("ERR_CONNECTION_REFUSED")
	third := serve()
	c := third.open("/run/"+class, 1280, 800, wrongClock)
	c.until("document.querySelector('.top')?.textContent.includes('On hold')")
	assert.Equal(t, a.second(), c.second())
	c.do(chromedp.KeyEvent(" "))
	a.until("document.querySelector('#toggle').textContent.includes('Hold')")
	for range 3 {
		same(a, c)
	}

	// Both press at once, again and again.
	run := dig(t, one.get("/api/occurrences/"+class), "runId").(string)
	before := dig(t, one.get("/api/runs/"+run), "events").(float64)
	for i := range 6 {
		key := []string{"+", kb.ArrowRight}[i%2]
		a.do(chromedp.KeyEvent(key))
		c.do(chromedp.KeyEvent(key))
	}
	one.until("/api/runs/"+run, func(r map[string]any) bool { return r["events"] == before+12 })
	x, y := one.get("/api/runs/"+run), third.get("/api/runs/"+run)
	assert.Equal(t, x["anchor"], y["anchor"])
	require.Eventually(t, func() bool { return a.text(".name") == c.text(".name") }, patience, 10*time.Millisecond)
	same(a, c)
	b.leave()
}

// leave leaves the page of a server that is gone.
func (b *tab) leave() {
	b.t.Helper()
	b.do(chromedp.Navigate("about:blank"))
}

// TestTwoDemosAtOnce: two demos starting at the same moment on one machine do
// not meet; a second program on the folder of a living one is told so.
func TestTwoDemosAtOnce(t *testing.T) {
	var both [2]*server
	var wg sync.WaitGroup
	for i := range both {
		wg.Go(func() { both[i] = start(t, "") })
	}
	wg.Wait()
	require.False(t, t.Failed())
	a, b := both[0], both[1]
	r, err := http.NewRequest(http.MethodPut, a.url+"/api/studio", strings.NewReader(`{"name":"A","timeZone":"Europe/Berlin","massUnit":"lb","language":"en"}`))
	require.NoError(t, err)
	r.Header.Set("Content-Type", "application/json")
	got, err := http.DefaultClient.Do(r)
	require.NoError(t, err)
	require.NoError(t, got.Body.Close())
	assert.Equal(t, http.StatusOK, got.StatusCode)
	assert.Equal(t, "lb", a.get("/api/studio")["massUnit"])
	assert.Equal(t, "kg", b.get("/api/studio")["massUnit"])
	out, err := exec.Command(binary, "demo", "--dir", a.dir, "--addr", "127.0.0.1:0").CombinedOutput()
	require.Error(t, err)
	assert.Contains(t, string(out), "another program is using the database in "+a.dir)
}
