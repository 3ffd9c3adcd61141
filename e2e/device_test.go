package e2e

import (
	"context"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"palethicket/demo/demotest"
)

// opening is how long a device may take to open its book on a busy machine.
const opening = 5 * time.Minute

// homeName is the server's address to every device. Browsers store things by address: with one
// address for all, a device's storage can be copied for another test. Each browser is told
// which port it stands for. Browsers trust localhost as they trust HTTPS.
const homeName = "http://localhost"

// prepared holds a server's book and the browser profile of a device that downloaded its tract. It is made once.
var prepared struct {
	sync.Mutex
	folder string
}

// preparedDevice serves a copy of the prepared book and gives a copy of the device's profile.
func preparedDevice(t *testing.T) (home *app, profile string) {
	t.Helper()
	prepared.Lock()
	if prepared.folder == "" {
		prepared.folder = prepare(t)
	}
	folder := t.TempDir()
	err := os.CopyFS(folder, os.DirFS(prepared.folder))
	prepared.Unlock()
	require.NoError(t, err)
	return serve(t, &app{data: filepath.Join(folder, "home", "book.db")}), filepath.Join(folder, "device")
}

// prepare downloads the demo's tract to a device, and leaves both sides in a folder.
func prepare(t *testing.T) (folder string) {
	t.Helper()
	folder = sharedFolder(t)
	home, device := filepath.Join(folder, "home"), filepath.Join(folder, "device")
	require.NoError(t, os.Mkdir(home, 0o700))
	demotest.CopyTo(t, home)
	a := serve(t, &app{data: filepath.Join(home, "book.db")})
	p, _ := newDevice(t, a, device, deskWidth, deskHeight)
	p.takeAlong()
	p.close()
	a.stop()
	for _, name := range dispensable {
		require.NoError(t, os.RemoveAll(filepath.Join(device, name)))
	}
	return folder
}

// dispensable are the parts of a profile that are locks or caches, and need no copy.
var dispensable = []string{"SingletonLock", "SingletonCookie", "SingletonSocket", "Default/Cache", "Default/GPUCache", "GrShaderCache",
	"ShaderCache", "GraphiteDawnCache", "component_crx_cache", "BrowserMetrics"}

// newDevice is a browser of its own, whose storage lies in a folder, as a person's does: a
// private window keeps its files elsewhere, and slowly. kill ends it as a dying battery does.
func newDevice(t *testing.T, a *app, folder string, width, height int64) (p *page, kill func()) {
	t.Helper()
	built(t)
	path, err := chromium()
	require.NoError(t, err)
	name, err := url.Parse(homeName)
	require.NoError(t, err)
	alloc, stopAlloc := chromedp.NewExecAllocator(context.Background(), append(browserOptions(path), chromedp.UserDataDir(folder),
		chromedp.Flag("host-resolver-rules", "MAP "+name.Host+" "+a.addr))...)
	ctx, stop := chromedp.NewContext(alloc)
	ctx, cancel := context.WithTimeout(ctx, longest)
	t.Cleanup(func() { cancel(); stop(); stopAlloc() })
	p = &page{t: t, ctx: ctx, patience: stuck, home: homeName}
	require.NoError(t, chromedp.Do(ctx)) // what is opened in a context ends with it
	p.do(chromedp.EmulateViewport(width, height))
	return p, func() {
		require.NoError(t, chromedp.FromContext(ctx).Browser.Process().Kill())
		stopAlloc()
	}
}

// close ends a device's browser as a person does: it saves its profile first.
func (p *page) close() {
	p.t.Helper()
	require.NoError(p.t, chromedp.Cancel(p.ctx))
}

// openDevice opens a copy of the prepared device, which can reach home.
func openDevice(t *testing.T, width, height int64) (home *app, p *page) {
	t.Helper()
	home, profile := preparedDevice(t)
	p, _ = newDevice(t, home, profile, width, height)
	p.openOffline("/")
	return home, p
}

// openOffline opens a page and waits until the device's book is open.
func (p *page) openOffline(path string) {
	p.t.Helper()
	p.open(path)
	p.asked("/api/away")
}

// takeAlong has the page take the demo's tract along, and waits until it works on its own book.
func (p *page) takeAlong() {
	p.t.Helper()
	p.open("/woods")
	p.press("[data-take]:not([disabled])")
	p.patient(opening).until(`document.querySelector('[data-met]') !== null`)
	p.until(`navigator.serviceWorker.controller !== null`)
}

// offline has the browser reach nobody, or somebody again.
func (p *page) offline(yes bool) {
	p.t.Helper()
	p.do(call(network.EmulateNetworkConditionsByRule, network.EmulateNetworkConditionsByRuleParams{
		MatchedNetworkConditions: []*network.Conditions{{Offline: yes, DownloadThroughput: -1, UploadThroughput: -1}}}))
}

// asked is what the page's own book answers to a question.
func (p *page) asked(path string) string {
	p.t.Helper()
	return p.asks("GET", path, "")
}

// asks asks the page's own book as the page does.
func (p *page) asks(method, path, body string) string {
	p.t.Helper()
	p.until(`window.paleThicket !== undefined`)
	p.eval(fmt.Sprintf(`(window.said = undefined, window.paleThicket.ask(new Request(location.origin + %q, %s)).then((r) => r.text()).then(
		(t) => (window.said = t), (e) => (window.said = 'Error: ' + e.message)), '')`, path, requestOf(method, body)))
	p.patient(opening).until(`window.said !== undefined`)
	return p.eval(`window.said`)
}

func requestOf(method, body string) string {
	if method == "GET" {
		return "{}"
	}
	return fmt.Sprintf(`{method: %q, body: %q, headers: {'Content-Type': 'application/json'}}`, method, body)
}

// nothingWaits waits until all that was entered on the device is home.
func (p *page) nothingWaits() {
	p.t.Helper()
	p.follow("/woods")
	p.press("[data-meet]")
	p.patient(opening).until(`document.querySelector('[data-waiting]')?.textContent.includes('all of it is home')`)
}
