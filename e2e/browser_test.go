// Package e2e drives the real interface in a headless Chromium.
package e2e

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
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

// app is a running Pale Thicket over a book of its own.
type app struct {
	t    *testing.T
	data string
	addr string
	stop func()

	pages fs.FS            // what it serves; nil: the interface as it was built
	crew  []book.NewMember // who signs in; nobody needs to without
	hired bool             // the book has them
	kit   bool             // simulated instruments are listened to
	line  atomic.Int64     // bytes that went over it
}

func newApp(t *testing.T, fill bool) *app {
	t.Helper()
	return startApp(t, fill, false)
}

func startApp(t *testing.T, fill, kit bool) *app {
	t.Helper()
	a := &app{t: t, data: filepath.Join(t.TempDir(), "book.db"), addr: "127.0.0.1:0", kit: kit}
	a.start(fill)
	t.Cleanup(func() { a.stop() })
	return a
}

// start serves the book at the address it had before, if any.
func (a *app) start(fill bool) {
	if fill {
		a.data = filepath.Join(demotest.Copy(a.t), "book.db")
	}
	b := booktest.At(a.t, a.data)
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
	hub := instrument.NewHub(nil)
	simulating, quiet := context.WithCancel(context.Background())
	if a.kit {
		require.NoError(a.t, demo.Instruments(simulating, b, simulate.Options{Every: time.Second}))
		require.NoError(a.t, b.Listen(a.t.Context(), hub))
	}
	app := web.New(b, web.Options{Log: slog.New(slog.DiscardHandler), Guarded: len(a.crew) > 0, Instruments: hub})
	srv := &http.Server{Handler: app.Handler(a.pages)}
	go srv.Serve(counted{ln, &a.line})
	a.stop = func() {
		hub.Close()
		quiet()
		srv.Close()
		b.Close()
		a.stop = func() {}
	}
}

func TestMain(m *testing.M) { demotest.Main(m, func() { closeBrowser() }) }

func (a *app) url(path string) string { return "http://" + a.addr + path }

// tree gives the id of the tree with a tag.
func (a *app) tree(tag string) string {
	res, err := http.Get(a.url("/api/trees?text=" + tag))
	require.NoError(a.t, err)
	defer res.Body.Close()
	var list book.TreeList
	require.NoError(a.t, json.NewDecoder(res.Body).Decode(&list))
	for _, t := range list.Trees {
		if t.Tag == tag {
			return t.ID
		}
	}
	a.t.Fatalf("no tree %s", tag)
	return ""
}

// view asks the API for a tree as it stands.
func (a *app) view(id string) book.TreeView {
	res, err := http.Get(a.url("/api/trees/" + id))
	require.NoError(a.t, err)
	defer res.Body.Close()
	var v book.TreeView
	require.NoError(a.t, json.NewDecoder(res.Body).Decode(&v))
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

func newPage(t *testing.T, width, height int64) *page {
	t.Helper()
	built(t)
	browser, err := browser()
	require.NoError(t, err)
	ctx, stop := chromedp.NewContext(browser, chromedp.WithNewBrowserContext())
	ctx, cancel := context.WithTimeout(ctx, longest)
	t.Cleanup(func() { cancel(); stop() })
	p := &page{t: t, ctx: ctx, patience: stuck}
	require.NoError(t, chromedp.Do(ctx)) // what is opened in a context ends with it
	p.do(chromedp.EmulateViewport(width, height))
	return p
}

// newDevice is a browser of its own, whose storage lies in a folder, as a person's does: a
// private window keeps its files elsewhere, and slowly. kill ends it as a dying battery does.
func newDevice(t *testing.T, folder string, width, height int64) (p *page, kill func()) {
	t.Helper()
	built(t)
	path, err := chromium()
	require.NoError(t, err)
	alloc, stopAlloc := chromedp.NewExecAllocator(context.Background(), append(browserOptions(path), chromedp.UserDataDir(folder))...)
	ctx, stop := chromedp.NewContext(alloc)
	ctx, cancel := context.WithTimeout(ctx, longest)
	t.Cleanup(func() { cancel(); stop(); stopAlloc() })
	p = &page{t: t, ctx: ctx, patience: stuck}
	require.NoError(t, chromedp.Do(ctx)) // what is opened in a context ends with it
	p.do(chromedp.EmulateViewport(width, height))
	return p, func() {
		require.NoError(t, chromedp.FromContext(ctx).Browser.Process().Kill())
		stopAlloc()
	}
}

func browserOptions(path string) []chromedp.ExecAllocatorOption {
	script := "--no-wasm-tier-up" // compiling the devices' program a second time, for speed, takes longer than the tests go on
	if os.Getenv("PT_SPEED") != "" {
		script = ""
	}
	return append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath(path), chromedp.NoSandbox,
		chromedp.Flag("disable-gpu", true), chromedp.Flag("disable-background-networking", true),
		chromedp.Flag("disable-component-update", true), chromedp.Flag("disable-sync", true),
		chromedp.Flag("js-flags", script))
}

// closeBrowser ends the browser, if any test opened it.
var closeBrowser = func() {}

// browser is the one that all tests share. Each page has a profile of its own in it,
// with an empty cache and nothing kept.
var browser = sync.OnceValues(func() (context.Context, error) {
	path, err := chromium()
	if err != nil {
		return nil, err
	}
	alloc, stopAlloc := chromedp.NewExecAllocator(context.Background(), browserOptions(path)...)
	ctx, stop := chromedp.NewContext(alloc)
	closeBrowser = func() { stop(); stopAlloc() }
	return ctx, chromedp.Do(ctx)
})

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
	for _, name := range []string{os.Getenv("PT_CHROMIUM"), "chromium", "chromium-browser", "google-chrome"} {
		if path, err := exec.LookPath(name); err == nil {
			return path, nil
		}
	}
	return "", errors.New("these tests need Chromium: apt-get install chromium, or name one in PT_CHROMIUM")
}

// stuck is how long nothing takes that goes on at all, and longest how long no test takes.
const (
	stuck   = time.Minute
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

func (p *page) open(url string) { p.t.Helper(); p.do(chromedp.Navigate(url)) }

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
		addEventListener('pointerdown', (e) => {
			const it = document.querySelector(%q), r = it?.getBoundingClientRect()
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
	_, err := chromedp.Run(ctx, chromedp.Poll[bool](holds, chromedp.WithPollingTimeout(0)))
	for err != nil && replaced(err) && ctx.Err() == nil {
		_, err = chromedp.Run(ctx, chromedp.Poll[bool](holds, chromedp.WithPollingTimeout(0)))
	}
	if err != nil {
		p.failed()
		text, _ := chromedp.Run(p.ctx, chromedp.Evaluate[string]("document.body.innerText"))
		require.NoError(p.t, err, "waiting for %s; the page shows:\n%s", expr, text)
	}
}

// still waits until nothing was added to the page for half a second.
func (p *page) still() {
	p.t.Helper()
	p.until(`(() => {
		const now = document.body.innerHTML.length
		if (window.lastLength !== now) [window.lastLength, window.lastChange] = [now, Date.now()]
		return Date.now() - window.lastChange > 500
	})()`)
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
	png, err := chromedp.Run(p.ctx, chromedp.CaptureScreenshot())
	if err == nil {
		err = os.WriteFile(path, png, 0o644)
	}
	if err != nil {
		p.t.Logf("no picture: %v", err)
	}
}

// wear puts on a theme.
func (p *page) wear(theme string) {
	p.t.Helper()
	p.eval(fmt.Sprintf(`(localStorage.setItem('palethicket.theme', %q), '')`, theme))
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
