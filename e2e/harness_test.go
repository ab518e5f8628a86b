// Package e2e drives the real program in a real browser on a private database,
// as an instructor does.
package e2e

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/chromedp/cdproto/log"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

// patience with the browser: a ceiling, not a wait.
const patience = 30 * time.Second

var (
	binary  string // the program, built once
	axe     string // the accessibility checker's source
	browser context.Context
)

func TestMain(m *testing.M) { os.Exit(run(m)) }

func run(m *testing.M) int {
	dir, err := os.MkdirTemp("", "na-e2e")
	if err != nil {
		panic(err)
	}
	defer func() { _ = os.RemoveAll(dir) }()
	binary = filepath.Join(dir, "nimbleanvil")
	build := exec.Command("go", "build", "-o", binary, "../cmd/nimbleanvil")
	if out, err := build.CombinedOutput(); err != nil {
		panic(string(out))
	}
	source, err := os.ReadFile("../ui/node_modules/axe-core/axe.min.js")
	if err != nil {
		panic("axe-core is missing: run npm ci in ui: " + err.Error())
	}
	axe = string(source)
	opts := append(append([]chromedp.ExecAllocatorOption{}, chromedp.DefaultExecAllocatorOptions[:]...),
		chromedp.ExecPath("/usr/bin/chromium"), chromedp.NoSandbox, chromedp.DisableGPU, chromedp.Flag("headless", "new"),
		chromedp.Flag("disable-quic", true), chromedp.Flag("disable-component-update", true), chromedp.Flag("lang", "en-GB"),
		chromedp.UserDataDir(filepath.Join(dir, "profile")), chromedp.WindowSize(1280, 800))
	alloc, stop := chromedp.NewExecAllocator(context.Background(), opts...)
	defer stop()
	var cancel context.CancelFunc
	browser, cancel = chromedp.NewContext(alloc)
	defer cancel()
	if err := chromedp.Do(browser); err != nil {
		panic(err)
	}
	return m.Run()
}

// server is one running demo.
type server struct {
	t   *testing.T
	url string
	dir string
	cmd *exec.Cmd
}

// instant is when the tests' classes take place: a Wednesday at ten in Berlin.
const instant = "2026-11-25T09:00:00Z"

// start runs the demo on a database folder of its own; a folder given is used
// again.
func start(t *testing.T, dir string) *server {
	t.Helper()
	if dir == "" {
		var err error
		dir, err = os.MkdirTemp("", "na-db") // not t.TempDir: an unprivileged database must reach it
		require.NoError(t, err)
		require.NoError(t, os.Chmod(dir, 0o755)) // see above
		t.Cleanup(func() { _ = os.RemoveAll(dir) })
	}
	return launch(t, dir, "demo", "--dir", dir, "--addr", "127.0.0.1:0", "--clock", instant)
}

// launch starts the program and waits until it says where it is.
func launch(t *testing.T, dir string, args ...string) *server {
	t.Helper()
	s := &server{t: t, dir: dir, cmd: exec.Command(binary, args...)}
	out, err := s.cmd.StdoutPipe()
	require.NoError(t, err)
	s.cmd.Stderr = os.Stderr
	s.cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	require.NoError(t, s.cmd.Start())
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		if _, url, ok := strings.Cut(lines.Text(), "is at "); ok {
			s.url = url
			break
		}
	}
	require.NotEmpty(t, s.url, "the program did not say where it is")
	go func() { _, _ = io.Copy(io.Discard, out) }()
	t.Cleanup(s.stop)
	return s
}

// stop presses Ctrl-C and waits: the program drains and stops its database.
func (s *server) stop() {
	if s.cmd.ProcessState != nil {
		return
	}
	_ = s.cmd.Process.Signal(os.Interrupt)
	_ = s.cmd.Wait()
}

// raw reads from the API, past the browser.
func (s *server) raw(path string) string {
	s.t.Helper()
	r, err := http.Get(s.url + path)
	require.NoError(s.t, err)
	defer func() { _ = r.Body.Close() }()
	require.Equal(s.t, http.StatusOK, r.StatusCode, path)
	b, err := io.ReadAll(r.Body)
	require.NoError(s.t, err)
	return string(b)
}

// any reads JSON from the API.
func (s *server) any(path string) any {
	s.t.Helper()
	var out any
	require.NoError(s.t, json.Unmarshal([]byte(s.raw(path)), &out))
	return out
}

// circuit reads a circuit but for its tag, which changes with whatever its group did.
func (s *server) circuit(id string) map[string]any {
	c := s.get("/api/circuits/" + id)
	delete(c, "tag")
	return c
}

// get reads a JSON object from the API.
func (s *server) get(path string) map[string]any {
	s.t.Helper()
	out, ok := s.any(path).(map[string]any)
	require.True(s.t, ok, path)
	return out
}

// until waits until an answer of the API is as wanted.
func (s *server) until(path string, is func(map[string]any) bool) {
	s.t.Helper()
	require.Eventually(s.t, func() bool { return is(s.get(path)) }, patience, 20*time.Millisecond, "waiting for %s", path)
}

// tab is one page of the browser with storage of its own. Whatever goes wrong in
// it, in the console or on the network, fails the test at its end.
type tab struct {
	t   *testing.T
	s   *server
	ctx context.Context
	mu  sync.Mutex
	bad []string
	// fine are parts of console messages that the test expects.
	fine []string
}

// slowly is a bad connection: what is asked goes out late, and the answer comes late, so that
// neither questions nor answers keep their order by luck. NIMBLEANVIL_SLOW=1 has it on every page.
const slowly = `(() => {
	const real = globalThis.fetch.bind(globalThis), late = () => new Promise((done) => setTimeout(done, Math.random() * 350))
	globalThis.fetch = async (...what) => {
		await late()
		const answer = await real(...what)
		await late()
		return answer
	}
})()`

// open opens a page of the program; scripts run in it before its own.
func (s *server) open(path string, width, height int64, scripts ...string) *tab {
	s.t.Helper()
	ctx, cancel := chromedp.NewContext(browser, chromedp.WithNewBrowserContext())
	b := &tab{t: s.t, s: s, ctx: ctx}
	s.t.Cleanup(func() {
		cancel()
		b.mu.Lock()
		defer b.mu.Unlock()
		for _, x := range b.bad {
			s.t.Errorf("in the browser: %s", x)
		}
	})
	require.NoError(s.t, chromedp.Do(ctx, chromedp.EmulateViewport(width, height))) // without a time limit: it makes the tab
	chromedp.Listen(ctx, b.listen)
	if os.Getenv("NIMBLEANVIL_SLOW") != "" {
		scripts = append(scripts, slowly)
	}
	for _, js := range scripts {
		_, err := chromedp.Call(ctx, page.AddScriptToEvaluateOnNewDocument, page.AddScriptToEvaluateOnNewDocumentParams{Source: js})
		require.NoError(s.t, err)
	}
	b.visit(path)
	return b
}

func (b *tab) listen(ev any) {
	note := func(x string) {
		b.mu.Lock()
		defer b.mu.Unlock()
		for _, f := range b.fine {
			if strings.Contains(x, f) {
				return
			}
		}
		b.bad = append(b.bad, x)
	}
	switch e := ev.(type) {
	case *runtime.EventConsoleAPICalled:
		if e.Type == "error" || e.Type == "warning" || e.Type == "assert" {
			var args []string
			for _, a := range e.Args {
				args = append(args, string(a.Value), a.Description)
			}
			if e.StackTrace != nil { // of a built page the names of files say which view it was
				for _, f := range e.StackTrace.CallFrames[:min(6, len(e.StackTrace.CallFrames))] {
					args = append(args, fmt.Sprintf("%s:%d:%d", filepath.Base(f.URL), f.LineNumber, f.ColumnNumber))
				}
			}
			note("console: " + strings.Join(args, " "))
		}
	case *runtime.EventExceptionThrown:
		note("exception: " + e.ExceptionDetails.Text)
	case *log.EventEntryAdded:
		if e.Entry.Level == "error" || e.Entry.Source == "security" {
			note("log: " + e.Entry.Text + " " + e.Entry.URL)
		}
	case *network.EventRequestWillBeSent:
		if u := e.Request.URL; !strings.HasPrefix(u, b.s.url+"/") && !strings.HasPrefix(u, "data:") && !strings.HasPrefix(u, "about:") {
			note("request to elsewhere: " + u)
		}
	}
}

// expect lets console messages with this text pass.
func (b *tab) expect(text string) {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.fine = append(b.fine, text)
}

func (b *tab) do(steps ...chromedp.Action[chromedp.Void]) {
	b.t.Helper()
	ctx, cancel := context.WithTimeout(b.ctx, patience)
	defer cancel()
	require.NoError(b.t, chromedp.Do(ctx, steps...))
}

func (b *tab) visit(path string) {
	b.t.Helper()
	b.do(chromedp.Navigate(b.s.url+path), chromedp.WaitVisible(chromedp.CSS("main#work")))
}

// eval computes an expression in the page.
func eval[T any](b *tab, js string) T {
	b.t.Helper()
	ctx, cancel := context.WithTimeout(b.ctx, patience)
	defer cancel()
	v, err := chromedp.Run(ctx, chromedp.Evaluate[T](js, chromedp.EvalAwaitPromise))
	require.NoError(b.t, err, js)
	return v
}

// until waits until an expression in the page is true.
func (b *tab) until(js string) {
	b.t.Helper()
	_, err := chromedp.Run(b.ctx, chromedp.Poll[bool](fmt.Sprintf("(() => { try { return !!(%s) } catch { return false } })()", js), chromedp.WithPollingTimeout(patience)))
	if err != nil {
		b.shot("/tmp/na-e2e-failure.png")
	}
	require.NoError(b.t, err, "waiting for %s; a picture is in /tmp/na-e2e-failure.png", js)
}

// there waits for an element that a person could see and press.
func (b *tab) there(css string) {
	b.t.Helper()
	b.until(fmt.Sprintf("(e => e && e.getClientRects().length > 0 && !e.disabled)(document.querySelector(%q))", css))
}

// click presses the element with the left button, where a person would.
func (b *tab) click(css string) {
	b.t.Helper()
	b.there(css)
	b.do(chromedp.Click(chromedp.CSS(css)))
}

// clickText presses the button or link with this text, inside an element.
func (b *tab) clickText(within, text string) {
	b.t.Helper()
	find := fmt.Sprintf("[...document.querySelectorAll(%q)].find(e => e.getClientRects().length > 0 && !e.disabled && e.textContent.trim().startsWith(%q))",
		within+" button, "+within+" a, "+within+" summary, "+within+" label", text)
	b.until(find)
	eval[bool](b, "(document.querySelectorAll('[data-e2e]').forEach(e => e.removeAttribute('data-e2e')), "+find+".setAttribute('data-e2e', 'x'), true)")
	b.do(chromedp.Click(chromedp.CSS("[data-e2e=x]")))
}

// enter replaces what stands in a field and leaves it.
func (b *tab) enter(css, text string) {
	b.t.Helper()
	b.there(css)
	b.do(chromedp.Focus(chromedp.CSS(css)))
	eval[bool](b, fmt.Sprintf("(document.querySelector(%q).select(), true)", css))
	b.do(chromedp.KeyEvent(text))
	eval[bool](b, fmt.Sprintf("(document.querySelector(%q).blur(), true)", css))
}

// set gives a select or a date field its value, as the browser's own picker
// does.
func (b *tab) set(css, value string) {
	b.t.Helper()
	b.there(css)
	eval[bool](b, fmt.Sprintf(`(() => { const e = document.querySelector(%q); e.value = %q;
		e.dispatchEvent(new Event('input', {bubbles: true})); e.dispatchEvent(new Event('change', {bubbles: true})); return true })()`, css, value))
}

func (b *tab) text(css string) string {
	b.t.Helper()
	return eval[string](b, fmt.Sprintf("(document.querySelector(%q)?.textContent ?? '').replace(/\\s+/g, ' ').trim()", css))
}

// modal waits until a dialog has opened and has the keys.
func (b *tab) modal() {
	b.t.Helper()
	b.until("(m => m && getComputedStyle(m).opacity === '1' && m.contains(document.activeElement))(document.querySelector('.bx--modal.is-visible'))")
}

// save presses the dialog's first button and waits until the dialog is gone.
func (b *tab) save() {
	b.t.Helper()
	b.clickText(".bx--modal.is-visible .bx--modal-footer", "Save")
}

func (b *tab) closed() {
	b.t.Helper()
	// The keys go back to where the dialog was opened from.
	b.until("!document.querySelector('.bx--modal.is-visible') && document.activeElement !== document.body")
}

// shot takes a picture of what is seen.
func (b *tab) shot(file string) {
	b.t.Helper()
	png, err := chromedp.Run(b.ctx, chromedp.CaptureScreenshot())
	require.NoError(b.t, err)
	require.NoError(b.t, os.WriteFile(file, png, 0o644)) // a picture for everybody
}

// accessible fails on any finding of axe, in the present theme.
func (b *tab) accessible(what string) {
	b.t.Helper()
	b.until("document.getAnimations().every((a) => a.playState !== 'running')") // a colour on its way is none to judge
	eval[int](b, axe+";0")
	found := eval[[]string](b, `axe.run(document, {resultTypes: ['violations']}).then(r => r.violations.map(v => v.id + ': ' + v.help + ' ' + v.nodes.slice(0, 3).map(n => n.html.slice(0, 160) + ' ' + (n.failureSummary ?? '').slice(0, 200)).join(' | ')))`)
	require.Empty(b.t, found, "axe in %s", what)
}

// both checks a view in both themes and leaves it in the light one.
func (b *tab) both(what string) {
	b.t.Helper()
	b.accessible(what)
	b.dark()
	b.accessible(what + ", dark")
	b.clickText(".rail", "Light")
	b.until("document.documentElement.getAttribute('theme') === 'white' && document.getAnimations().every((a) => a.playState !== 'running')")
}

// dark switches the theme by its button.
func (b *tab) dark() {
	b.t.Helper()
	b.clickText(".rail", "Dark")
	b.until("document.documentElement.getAttribute('theme') === 'g100' && document.getAnimations().every((a) => a.playState !== 'running')")
}

// skipTo skips the class on until the page says so.
func (b *tab) skipTo(js string) {
	b.t.Helper()
	for range 30 {
		if eval[bool](b, js) {
			return
		}
		was := b.text("#clock") + b.text(".name") + b.text(".top b")
		b.do(chromedp.KeyEvent(kb.ArrowRight))
		b.until(fmt.Sprintf("(t => t('#clock') + t('.name') + t('.top b') !== %q)(x => document.querySelector(x)?.textContent.replace(/\\s+/g, ' ').trim() ?? '')", was))
	}
	require.Fail(b.t, "skipping does not reach it", js)
}
