// Package e2e drives the real interface in a headless Chromium.
package e2e

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	cdppage "github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/demo"
	"palethicket/demo/demotest"
	"palethicket/instrument"
	"palethicket/instrument/simulate"
	"palethicket/ui"
	"palethicket/web"
)

// app is a running Pale Thicket over a book.
type app struct {
	t    *testing.T
	book *book.Book
	data string
	addr string
	stop func()

	pages fs.FS            // what it serves; nil: the interface as it was built
	crew  []book.NewMember // who signs in; nobody needs to without
	hired bool             // the book has them
	kit   bool             // simulated instruments are listened to
	hang  string           // requests for addresses that hold it are never answered; empty: none
	line  *atomic.Int64    // bytes that went over it
	cut   *atomic.Int64    // after so many bytes the next download of a tract breaks off; 0: it does not
	rests *atomic.Int64    // how often the rest of one was asked for
}

// newApp serves a book of the test's own, which it may write to: a copy of the demo's, or an empty one.
func newApp(t *testing.T, demo bool) *app {
	t.Helper()
	return serve(t, &app{data: newBook(t, demo)})
}

// newCrew serves such a book to a crew.
func newCrew(t *testing.T, demo bool, crew ...book.NewMember) *app {
	t.Helper()
	return serve(t, &app{data: newBook(t, demo), crew: crew})
}

func newBook(t *testing.T, demo bool) (path string) {
	t.Helper()
	folder := t.TempDir()
	if demo {
		demotest.CopyTo(t, folder)
	}
	return filepath.Join(folder, "book.db")
}

// serve serves a book until the test ends.
func serve(t *testing.T, a *app) *app {
	t.Helper()
	a.t = t
	a.count()
	a.start()
	t.Cleanup(func() { a.stop() })
	return a
}

// count begins to count what goes over the line, at an address not chosen yet.
func (a *app) count() {
	a.addr, a.line, a.cut, a.rests = "127.0.0.1:0", new(atomic.Int64), new(atomic.Int64), new(atomic.Int64)
}

// shared is one copy of the demo's book, served to all tests that only read.
var (
	shared   *app
	sharedMu sync.Mutex
)

// sharedApp serves the demo's book to a test that does not write to it.
func sharedApp(t *testing.T) *app {
	t.Helper()
	sharedMu.Lock()
	defer sharedMu.Unlock()
	if shared == nil {
		folder := sharedFolder(t)
		demotest.CopyTo(t, folder)
		shared = &app{t: t, data: filepath.Join(folder, "book.db")}
		shared.count()
		shared.start()
		atEnd(func() { shared.stop() })
	}
	mine := *shared
	mine.t = t
	mine.stop = func() { t.Fatal("other tests read this book too: serve your own") }
	return &mine
}

// start serves the book at the address it had before, if any.
func (a *app) start() {
	a.t.Helper()
	b, err := book.Open(context.Background(), a.data, booktest.Options(a.t))
	require.NoError(a.t, err)
	require.NoError(a.t, b.WeighStale(context.Background(), func(int, int) {}))
	a.book = b
	if a.pages == nil {
		pages, err := ui.Pages()
		require.NoError(a.t, err)
		a.pages = pages
	}
	ln, err := net.Listen("tcp", a.addr)
	require.NoError(a.t, err)
	a.addr = ln.Addr().String()
	for _, m := range a.crew {
		if a.hired {
			break
		}
		require.NoError(a.t, b.AddMember(a.t.Context(), m))
	}
	a.hired = len(a.crew) > 0
	hub := instrument.NewHub(true)
	simulating, quiet := context.WithCancel(context.Background())
	if a.kit {
		require.NoError(a.t, demo.Instruments(simulating, b, simulate.Options{Every: time.Second}))
		require.NoError(a.t, b.Listen(a.t.Context(), hub))
	}
	app := web.New(b, web.Options{Log: slog.New(slog.DiscardHandler), Guarded: len(a.crew) > 0, Instruments: hub})
	srv := &http.Server{Handler: a.hanging(app.Handler(a.pages))}
	go srv.Serve(counted{ln, a.line})
	a.stop = func() {
		hub.Close()
		quiet()
		srv.Close()
		b.Close()
		a.stop = func() {}
	}
}

// hanging leaves some requests without an answer, until their client gives up.
func (a *app) hanging(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if a.hang != "" && strings.Contains(r.URL.Path, a.hang) {
			<-r.Context().Done()
			return
		}
		if r.URL.Path == "/api/along" {
			if r.Header.Get("Range") != "" {
				a.rests.Add(1)
			}
			if cut := a.cut.Swap(0); cut > 0 {
				w = &cutShort{w, cut}
			}
		}
		next.ServeHTTP(w, r)
	})
}

// cutShort breaks an answer off.
type cutShort struct {
	http.ResponseWriter
	left int64
}

func (c *cutShort) Write(b []byte) (int, error) {
	if c.left -= int64(len(b)); c.left < 0 {
		_ = http.NewResponseController(c.ResponseWriter).Flush()
		time.Sleep(time.Second) // so that what was sent arrives
		panic(http.ErrAbortHandler)
	}
	return c.ResponseWriter.Write(b)
}

func (c *cutShort) Unwrap() http.ResponseWriter { return c.ResponseWriter }

// ends are run after all tests, the last first.
var (
	ends   []func()
	endsMu sync.Mutex
)

func atEnd(do func()) {
	endsMu.Lock()
	defer endsMu.Unlock()
	ends = append(ends, do)
}

// sharedFolder is removed after all tests.
func sharedFolder(t *testing.T) string {
	t.Helper()
	folder, err := os.MkdirTemp("", "palethicket-e2e")
	require.NoError(t, err)
	atEnd(func() { os.RemoveAll(folder) })
	return folder
}

func TestMain(m *testing.M) {
	demotest.Main(m, func() {
		for _, do := range slices.Backward(ends) {
			do()
		}
	})
}

func (a *app) url(path string) string { return "http://" + a.addr + path }

// answer asks the API, as nobody in particular.
func (a *app) answer(path string) string {
	a.t.Helper()
	res, err := http.Get(a.url(path))
	require.NoError(a.t, err)
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	require.NoError(a.t, err)
	return string(text)
}

func decoded[T any](t *testing.T, text string) (v T) {
	t.Helper()
	require.NoError(t, json.Unmarshal([]byte(text), &v), text)
	return v
}

// tree gives the id of the tree with a tag.
func (a *app) tree(tag string) string {
	a.t.Helper()
	for _, t := range decoded[book.TreeList](a.t, a.answer("/api/trees?text="+tag)).Trees {
		if t.Tag == tag {
			return t.ID
		}
	}
	a.t.Fatalf("no tree %s", tag)
	return ""
}

// view asks the API for a tree as it stands.
func (a *app) view(id string) book.TreeView {
	a.t.Helper()
	v := decoded[book.TreeView](a.t, a.answer("/api/trees/"+id))
	// What was said of the site at another tree of the stand was there before anybody looked here.
	v.Looks = slices.DeleteFunc(v.Looks, func(l book.LookView) bool { return strings.HasPrefix(l.Note, "As at ") })
	return v
}

// page is a browser window.
type page struct {
	t        *testing.T
	ctx      context.Context
	patience time.Duration
	home     string // where the server is
}

const (
	deskWidth, deskHeight   = 1280, 800
	phoneWidth, phoneHeight = 390, 844
)

// plainHost is another machine's name, which browsers hold to be insecure without TLS.
const plainHost = "pump-house.example"

// noWorker leaves a page without a service worker, which takes seconds to cache all pages; see [cachingPage].
const noWorker = `delete Navigator.prototype.serviceWorker`

// newPage is a window with a profile of its own. It loads no images: drawing them takes a third of the time.
func newPage(t *testing.T, a *app, width, height int64) *page {
	t.Helper()
	p := openPage(t, plainBrowser, a, width, height)
	p.onEachPage(noWorker)
	return p
}

// imagePage is a window that loads images.
func imagePage(t *testing.T, a *app, width, height int64) *page {
	t.Helper()
	p := openPage(t, drawingBrowser, a, width, height)
	p.onEachPage(noWorker)
	return p
}

// cachingPage is a window with images and a service worker.
func cachingPage(t *testing.T, a *app, width, height int64) *page {
	t.Helper()
	return openPage(t, drawingBrowser, a, width, height)
}

func openPage(t *testing.T, of func() (context.Context, error), a *app, width, height int64) *page {
	t.Helper()
	built(t)
	browser, err := of()
	require.NoError(t, err)
	ctx, stop := chromedp.NewContext(browser, chromedp.WithNewBrowserContext())
	ctx, cancel := context.WithTimeout(ctx, longest)
	t.Cleanup(func() { cancel(); stop() })
	p := &page{t: t, ctx: ctx, patience: stuck, home: a.url("")}
	require.NoError(t, chromedp.Do(ctx)) // what is opened in a context ends with it
	p.do(chromedp.EmulateViewport(width, height))
	return p
}

// in is the page in a subtest.
func (p *page) in(t *testing.T) *page { return &page{t, p.ctx, p.patience, p.home} }

// onEachPage runs a script before any of a page's own.
func (p *page) onEachPage(script string) {
	p.t.Helper()
	p.do(call(cdppage.AddScriptToEvaluateOnNewDocument, cdppage.AddScriptToEvaluateOnNewDocumentParams{Source: script}))
}

func browserOptions(path string) []chromedp.ExecAllocatorOption {
	script := "--liftoff-only" // compiling the devices' program a second time, for speed, takes both processors 8 s at each opening
	if os.Getenv("PT_SPEED") != "" {
		script = ""
	}
	return append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath(path), chromedp.NoSandbox,
		chromedp.Flag("disable-gpu", true), chromedp.Flag("disable-background-networking", true),
		chromedp.Flag("disable-component-update", true), chromedp.Flag("disable-sync", true),
		chromedp.Flag("host-resolver-rules", "MAP "+plainHost+" 127.0.0.1"),
		chromedp.Flag("js-flags", script))
}

// Two browsers are shared by all pages that are no device's.
var (
	plainBrowser   = sync.OnceValues(func() (context.Context, error) { return startBrowser("imagesEnabled=false") })
	drawingBrowser = sync.OnceValues(func() (context.Context, error) { return startBrowser("imagesEnabled=true") })
)

func startBrowser(settings string) (context.Context, error) {
	path, err := chromium()
	if err != nil {
		return nil, err
	}
	alloc, stopAlloc := chromedp.NewExecAllocator(context.Background(), append(browserOptions(path), chromedp.Flag("blink-settings", settings))...)
	ctx, stop := chromedp.NewContext(alloc)
	atEnd(func() { stop(); stopAlloc() })
	return ctx, chromedp.Do(ctx)
}

// built skips, or fails where make says the interface must be there.
func built(t *testing.T) {
	pages, err := ui.Pages()
	require.NoError(t, err)
	if _, err := fs.Stat(pages, "assets"); err != nil {
		if os.Getenv("PT_E2E") != "" {
			t.Fatal("the interface is not built: run make ui")
		}
		t.Skip("the interface is not built: run make ui")
	}
}

func chromium() (string, error) {
	for _, name := range []string{os.Getenv("PT_CHROMIUM"), "chromium-headless-shell", "chromium", "chromium-browser", "google-chrome"} {
		if path, err := exec.LookPath(name); err == nil {
			return path, nil
		}
	}
	return "", errors.New("these tests need Chromium: apt-get install chromium-headless-shell, or name one in PT_CHROMIUM")
}

// nightly skips a long test in make test; make nightly runs it.
func nightly(t *testing.T) {
	t.Helper()
	if testing.Short() {
		t.Skip("make nightly runs it")
	}
}

// stuck is how long nothing takes that goes on at all, and longest how long no test takes.
const (
	stuck   = 3 * time.Minute
	longest = 15 * time.Minute
)

func (p *page) do(steps ...chromedp.Action[chromedp.Void]) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, stuck)
	defer cancel()
	if err := chromedp.Do(ctx, steps...); err != nil {
		p.failed()
		require.NoError(p.t, err)
	}
}

// call asks the browser for what chromedp has no word of.
func call[P, R any](command cdp.Command[P, R], params P) chromedp.Action[chromedp.Void] {
	return func(ctx context.Context, t *chromedp.Target) (chromedp.Void, error) {
		_, err := cdp.Call(ctx, t, command, params)
		return chromedp.Void{}, err
	}
}

// open opens a page of the book, or any address.
func (p *page) open(path string) {
	p.t.Helper()
	if strings.HasPrefix(path, "/") {
		path = p.home + path
	}
	p.do(chromedp.Navigate(path))
}

// follow opens a page of the book as a link does, without loading the program again.
func (p *page) follow(path string) {
	p.t.Helper()
	to := func(path string) {
		p.eval(fmt.Sprintf(`(history.pushState({}, '', %q), dispatchEvent(new PopStateEvent('popstate', { state: {} })), '')`, path))
	}
	to("/waiting") // so that the page before is not taken for one of the same kind
	p.until(`document.querySelector('h1')?.textContent === 'Kept on this device'`)
	to(path)
}

// press presses what the CSS selector finds, once it is there. What was drawn anew or moved
// away between being found and being pressed is looked for again: it was not pressed so far.
func (p *page) press(css string) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, stuck)
	defer cancel()
	for {
		missed, err := p.pressOnce(ctx, css)
		gone := err != nil && (strings.Contains(err.Error(), "Could not find node") || replaced(err))
		if err != nil && !gone || ctx.Err() != nil {
			p.failed()
			require.NoError(p.t, err, "pressing %s", css)
		}
		if err == nil && !missed {
			return
		}
	}
}

// pressOnce says whether the press fell beside what it was meant for, or on what could not
// be pressed yet.
func (p *page) pressOnce(ctx context.Context, css string) (missed bool, err error) {
	watch := chromedp.Evaluate[bool](fmt.Sprintf(`(() => {
		const found = document.querySelector(%[1]q), at = found?.getBoundingClientRect()
		const top = at && document.elementFromPoint(at.left + at.width / 2, at.top + at.height / 2)
		if (top && !found.contains(top)) found.scrollIntoView({ block: 'center' }) // from below what stays in place, as the parts' names
		addEventListener('pointerdown', (e) => {
			const it = document.querySelector(%[1]q), r = it?.getBoundingClientRect()
			window.missed = !r || it.matches(':disabled') || e.clientX < r.left || e.clientX > r.right || e.clientY < r.top || e.clientY > r.bottom
		}, { capture: true, once: true })
		return (window.missed = false)
	})()`, css))
	at := chromedp.CSS(css)
	if err := chromedp.Do(ctx, chromedp.WaitVisible(at)); err != nil {
		return false, err
	}
	if _, err := chromedp.Run(ctx, watch); err != nil {
		return false, err
	}
	if err := chromedp.Do(ctx, chromedp.Click(at)); err != nil {
		return false, err
	}
	missed, err = chromedp.Run(ctx, chromedp.Evaluate[bool](`window.missed === true`))
	if err != nil && replaced(err) { // another page came of it
		return false, nil
	}
	return missed, err
}

func (p *page) write(css, text string) {
	p.t.Helper()
	p.do(chromedp.WaitVisible(chromedp.CSS(css)), chromedp.SendKeys(chromedp.CSS(css), text))
}

// sees waits until the page shows the text.
func (p *page) sees(text string) {
	p.t.Helper()
	p.until(fmt.Sprintf("document.body.innerText.includes(%q)", text))
}

// patient is the page, waited for longer.
func (p *page) patient(patience time.Duration) *page { return &page{p.t, p.ctx, patience, p.home} }

// until waits until the expression is true in the page. What it reads may not be drawn
// yet: an expression that throws is not true yet.
func (p *page) until(expr string) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, p.patience)
	defer cancel()
	holds := fmt.Sprintf("(() => { try { return !!(%s) } catch { return false } })()", expr)
	poll := chromedp.Poll[bool](holds, chromedp.WithPollingTimeout(0), chromedp.WithPollingInterval(40*time.Millisecond))
	_, err := chromedp.Run(ctx, poll)
	for err != nil && replaced(err) && ctx.Err() == nil {
		_, err = chromedp.Run(ctx, poll)
	}
	if err != nil {
		p.failed()
		text, _ := chromedp.Run(p.ctx, chromedp.Evaluate[string]("document.body.innerText"))
		require.NoError(p.t, err, "waiting for %s; the page shows:\n%s", expr, text)
	}
}

// replaced says whether an error came of a page that was just replaced by another.
func replaced(err error) bool {
	return slices.ContainsFunc(
		[]string{"Cannot find context", "Not attached to an active page", "navigated or closed"},
		func(says string) bool {
			return strings.Contains(err.Error(), says)
		},
	)
}

func (p *page) eval(expr string) string {
	p.t.Helper()
	v, err := chromedp.Run(p.ctx, chromedp.Evaluate[string](expr))
	require.NoError(p.t, err)
	return v
}

// failed keeps a picture of what the page showed.
func (p *page) failed() {
	p.shot(filepath.Join(os.TempDir(), strings.ReplaceAll(p.t.Name(), "/", "-")+".png"))
}

func (p *page) shot(path string) {
	ctx, cancel := context.WithTimeout(p.ctx, stuck) // a page that hangs shows nothing
	defer cancel()
	png, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
	if err == nil {
		err = os.WriteFile(path, png, 0o644)
	}
	if err != nil {
		p.t.Logf("no picture: %v", err)
	}
}

// clear empties a field as a person would.
func (p *page) clear(css string) {
	p.t.Helper()
	p.eval(
		fmt.Sprintf(
			`(() => { const f = document.querySelector(%q); f.value = ''; f.dispatchEvent(new Event('input', {bubbles: true})); return '' })()`,
			css,
		),
	)
}

// choose picks an option of a select by its value or its words.
func (p *page) choose(css, option string) {
	p.t.Helper()
	find := fmt.Sprintf(`[...(document.querySelector(%q)?.options ?? [])].find((o) => o.value === %q || o.text === %[2]q)`, css, option)
	p.until(find + ` !== undefined`)
	p.eval(
		fmt.Sprintf(
			`(() => { const f = document.querySelector(%q); f.value = (%s).value; f.dispatchEvent(new Event('change', {bubbles: true})); return '' })()`,
			css,
			find,
		),
	)
}
