package e2e

import (
	"fmt"
	"net"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// ownTime gives a page clocks and timers that advance(ms) moves on at once, every
// timer in its turn; between that they run as ever.
const ownTime = `(() => {
	const p = performance, real = p.now.bind(p), later = setTimeout.bind(globalThis), D = Date, timers = new Map()
	let skew = 0, id = 0
	p.now = () => real() + skew
	globalThis.Date = class extends D { constructor(...a) { a.length ? super(...a) : super(D.now() + skew) } static now() { return D.now() + skew } }
	const fire = until => {
		for (;;) {
			const due = [...timers].filter(([, t]) => t.at <= until).sort((a, b) => a[1].at - b[1].at)[0]
			if (!due) return
			skew += Math.max(due[1].at - p.now(), 0)
			if (due[1].every) due[1].at += due[1].every
			else timers.delete(due[0])
			due[1].run()
		}
	}
	const add = (run, ms, every) => { timers.set(++id, { run, every, at: p.now() + ms }); later(() => fire(p.now()), ms); return id }
	const beat = n => { const t = timers.get(n); if (t) later(() => { fire(p.now()); beat(n) }, t.every) }
	globalThis.setTimeout = (f, ms = 0, ...a) => add(() => f(...a), ms || 0, 0)
	globalThis.setInterval = (f, ms = 0, ...a) => { const n = add(() => f(...a), ms || 1, ms || 1); beat(n); return n }
	globalThis.clearTimeout = globalThis.clearInterval = n => timers.delete(n)
	globalThis.advance = ms => { const end = p.now() + ms; fire(end); skew += Math.max(end - p.now(), 0); return true }
})()`

// pass lets time pass in a page, ten seconds at a step, so that what waits for
// an answer gets its turn.
func (b *tab) pass(seconds int) {
	b.t.Helper()
	for ; seconds > 0; seconds -= 10 {
		eval[bool](b, fmt.Sprintf("advance(%d)", min(seconds, 10)*1000))
	}
}

// offline cuts a page off the network, or connects it again.
func (b *tab) offline(cut bool) {
	b.t.Helper()
	_, err := chromedp.Call(b.ctx, network.OverrideNetworkState, network.OverrideNetworkStateParams{Offline: cut, DownloadThroughput: -1, UploadThroughput: -1})
	require.NoError(b.t, err)
	_, err = chromedp.Call(b.ctx, network.EmulateNetworkConditionsByRule, network.EmulateNetworkConditionsByRuleParams{
		MatchedNetworkConditions: []*network.Conditions{{Offline: cut, DownloadThroughput: -1, UploadThroughput: -1}}})
	require.NoError(b.t, err)
}

// TestTenMinutesWithoutNetwork: a class that is loaded goes on for ten minutes
// without network or server. Every press counts from when it was made, once and
// in order; then the same with the log.
func TestTenMinutesWithoutNetwork(t *testing.T) {
	h, skew := openHall(t), time.Duration(0)
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	require.NoError(t, ln.Close())
	// The server's clock goes as the page's does: on by what was advanced there.
	serve := func() *server { return h.serve(ln.Addr().String(), skew) }
	s := serve()
	class := dig(t, s.get("/api/today"), "next", "id").(string)
	b := s.open("/run/"+class, 1280, 800, ownTime)
	b.expect("ERR_INTERNET_DISCONNECTED")
	b.expect("ERR_CONNECTION_REFUSED")
	b.click("#toggle")
	b.until("document.querySelector('#toggle').textContent.includes('Hold')")
	run := dig(t, s.get("/api/occurrences/"+class), "runId").(string)
	s.until("/api/runs/"+run, func(r map[string]any) bool { return r["events"] == 1.0 })

	b.offline(true)
	s.stop()
	b.pass(60)
	for i, x := range []struct {
		key, shows string
		after      int
	}{{" ", "On hold", 90}, {" ", "Hold", 150}, {kb.ArrowRight, "Prep", 190}, {"+", " added", 5}, {kb.ArrowRight, "Learn", 105}} {
		b.do(chromedp.KeyEvent(x.key))
		b.until(fmt.Sprintf("document.querySelector('main').textContent.includes(%q)", x.shows))
		b.until(fmt.Sprintf("document.querySelector('#lost')?.textContent.includes('%d press')", i+1))
		b.pass(x.after)
	}
	skew = 600 * time.Second
	shown := b.text(".name")
	left := b.text(".top span:last-child")
	s = serve()
	b.offline(false)
	s.until("/api/runs/"+run+"/now", func(r map[string]any) bool { return r["events"] == 6.0 })
	b.until("!document.querySelector('#lost')")
	assert.Equal(t, shown, b.text(".name"), "nothing jumps when the server is back")
	assert.Equal(t, strings.Fields(left)[0][:1], strings.Fields(b.text(".top span:last-child"))[0][:1])

	_, events, err := h.store.Run(t.Context(), h.scope, run)
	require.NoError(t, err)
	require.Len(t, events, 6, "nothing twice, nothing missing")
	after := []float64{60, 90, 150, 190, 5} // what passed between the presses above
	for i, kind := range []string{"start", "hold", "resume", "skip", "add", "skip"} {
		assert.Equal(t, kind, events[i].Kind)
		if i > 0 {
			// The presses themselves and what the test reads take real time.
			assert.InDelta(t, after[i-1], events[i].At.Sub(events[i-1].At).Seconds(), 5, kind)
		}
	}

	// The log, without network: one line changed twice, one once; it says so, and
	// the last typed is what counts.
	b.visit("/log/" + class)
	b.there("#done-s1")
	planned := eval[float64](b, "Number(document.querySelector('#done-s1').value)")
	b.offline(true)
	b.enter("#done-s1", fmt.Sprint(planned+5))
	b.enter("#done-s1", fmt.Sprint(planned+2))
	b.enter("#reserve-s2", "5")
	b.until("document.querySelector('#result-s1').textContent.includes('kept here until the server answers')")
	b.pass(600)
	skew += 600 * time.Second
	s.stop()
	s = serve()
	b.offline(false)
	b.until("document.querySelector('#result-s1').textContent.includes('Light')")
	b.until("document.querySelector('#result-s2').textContent.includes('Far too light')")
	assert.Equal(t, 2.0, dig(t, s.get("/api/occurrences/"+class), "logged"))
	line := dig(t, s.get("/api/occurrences/"+class+"/log"), "sheets", 0, "lines", 0)
	assert.Equal(t, planned+2, dig(t, line, "done"))
	b.leave()
}
