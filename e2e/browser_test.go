// Package e2e drives the real interface in a headless Chromium.
package e2e

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	cdppage "github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"palethicket/ui"
)

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
