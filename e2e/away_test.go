package e2e

import (
	"crypto/sha256"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"io/fs"
	"regexp"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/chromedp/cdproto/storage"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"palethicket/away"
	"palethicket/book"
	"palethicket/ui"
)

// TestOpensWithoutASignal: from the first visit on the pages open without a server, and
// say that the book is out of reach where nothing was taken along.
func TestOpensWithoutASignal(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := cachingPage(t, a, phoneWidth, phoneHeight)
	p.open("/")
	p.sees("60 of 400 trees")
	p.until(`navigator.serviceWorker.controller !== null`)
	require.Contains(t, p.eval(`document.querySelector('link[rel=manifest]').href`), "manifest.webmanifest")
	a.stop()
	p.open("/worklist")
	p.sees("No connection to the book")
	p.offline(true)
	p.open("/")
	p.sees("No connection to the book")
}

// TestTwoWindowsAway: of two windows one has the book and answers for both; when it is
// closed the other goes on, and what it had asked is answered.
func TestTwoWindowsAway(t *testing.T) {
	t.Parallel()
	a, one := openDevice(t, deskWidth, deskHeight)
	a.stop()
	ctx, closeTwo := chromedp.NewContext(one.ctx)
	require.NoError(t, chromedp.Do(ctx))
	defer closeTwo()
	two := &page{t, ctx, opening, homeName}
	two.open("/")
	two.sees("of 400 trees")
	require.Contains(t, two.asked("/api/trees?text=LC-101"), "LC-101", "the first window answers")
	two.eval(
		`(window.late = '', window.paleThicket.ask(new Request(location.origin + '/api/trees?text=LC-102')).then((r) => r.text()).then((t) => (window.late = t)), '')`,
	)
	one.open("about:blank")
	two.until(`window.late.includes('LC-102')`)
	require.Contains(t, two.asked("/api/trees?text=LC-103"), "LC-103", "the second goes on by itself")
}

// entering enters remarks on a tree of the device until one is refused, and keeps those
// that were acknowledged in window.kept.
const entering = `(window.kept = [], (async () => {
	for (let i = 0; ; i++) {
		const text = 'remark ' + i
		const body = JSON.stringify({id: window.ids[i], kind: 'facts', facts: {remarks: text}})
		const r = await window.paleThicket.ask(new Request(location.origin + '/api/trees/%s/entries',
			{method: 'POST', body, headers: {'Content-Type': 'application/json'}}))
		if (!r.ok) { window.refused = await r.text(); return }
		window.kept.push(text)
	}
})(), '')`

func (p *page) enter(tree string) {
	p.t.Helper()
	ids := make([]string, 2000)
	for i := range ids {
		ids[i] = newULID()
	}
	list, err := json.Marshal(ids)
	require.NoError(p.t, err)
	p.eval(fmt.Sprintf("(window.ids = %s, '')", list))
	p.eval(fmt.Sprintf(entering, tree))
}

// watchWorkers keeps the workers that the page starts, so that one can be ended.
const watchWorkers = `window.Worker = class extends Worker { constructor(...how) { super(...how); (window.workers ??= []).push(this) } }`

// TestKilledWhileEntering: in a stream of entries the worker crashes, and then the browser
// is killed; what was acknowledged is there when it is opened again, and comes home once.
func TestKilledWhileEntering(t *testing.T) {
	nightly(t)
	t.Parallel()
	a, folder := preparedDevice(t)
	p, kill := newDevice(t, a, folder, deskWidth, deskHeight)
	p.onEachPage(watchWorkers)
	p.openOffline("/")
	tree := a.tree("LC-201")
	a.stop()
	p.enter(tree)
	p.patient(opening).until(`window.kept.length > 10`)
	p.eval(`(window.workers.at(-1).terminate(), window.workers.at(-1).dispatchEvent(new ErrorEvent('error')), window.then = window.kept.length, '')`)
	p.patient(opening).until(`window.kept.length > window.then + 5 && window.workers.length === 2`)
	kept := 0
	require.NoError(t, json.Unmarshal([]byte(p.eval(`String(window.kept.length)`)), &kept))
	kill()
	p, _ = newDevice(t, a, folder, deskWidth, deskHeight)
	p.open("/woods")
	p.patient(opening).until(`document.querySelector('[data-met]') !== null`)
	before := waitingCount(t, p)
	require.GreaterOrEqual(t, before, kept)
	a.start()
	p.nothingWaits()
	require.Equal(t, before, strings.Count(a.answer("/api/trees/"+tree+"/log"), `"remarks":"remark `), "each once")
}

// TestKilledWithoutATract: what a page without a book of its own says is kept is there after the browser was killed.
func TestKilledWithoutATract(t *testing.T) {
	t.Parallel()
	a, folder := newApp(t, true), t.TempDir()
	p, kill := newDevice(t, a, folder, deskWidth, deskHeight)
	newTree(p, a, "LC-9921")
	tree := a.tree("LC-9921")
	p.press(`[data-section="bark"]`)
	p.patient(opening).until(allSent)
	a.stop()
	p.press(tile("bark.texture", "mesh-ridges"))
	p.patient(opening).sees("kept here, to be sent")
	// A browser sees localStorage to the disk when it likes: here it never did.
	p.eval(`(Object.keys(localStorage).filter((k) => k.startsWith('palethicket.entry.')).forEach((k) => localStorage.removeItem(k)), '')`)
	kill()
	a.start()
	p, _ = newDevice(t, a, folder, deskWidth, deskHeight)
	p.open("/")
	p.sees("trees")
	require.Eventually(t, func() bool { return strings.Contains(a.answer("/api/trees/"+tree+"/log"), "mesh-ridges") }, opening, 100*time.Millisecond)
}

func waitingCount(t *testing.T, p *page) int {
	t.Helper()
	return decoded[away.Status](t, p.asked("/api/away")).Count
}

// TestDeviceFull: where there is no room left an entry is visibly refused, those before it
// stay, and it goes on once there is room.
func TestDeviceFull(t *testing.T) {
	t.Parallel()
	a, p := openDevice(t, deskWidth, deskHeight)
	tree := a.tree("LC-201")
	a.stop()
	p.do(call(storage.OverrideQuotaForOrigin, storage.OverrideQuotaForOriginParams{Origin: homeName, QuotaSize: new(float64)}))
	p.enter(tree)
	p.patient(2 * opening).until(`window.refused !== undefined`)
	require.Contains(t, p.eval(`window.refused`), "full")
	kept := p.eval(`String(window.kept.length)`)
	p.do(call(storage.OverrideQuotaForOrigin, storage.OverrideQuotaForOriginParams{Origin: homeName}))
	require.Contains(t, p.asked("/api/trees/"+tree+"/log"), tree)
	body := fmt.Sprintf(`{"id": %q, "kind": "facts", "facts": {"remarks": "after %s"}}`, newULID(), kept)
	require.Contains(t, p.asks("POST", "/api/trees/"+tree+"/entries", body), "after "+kept)
	require.Equal(t, kept, fmt.Sprint(strings.Count(p.asked("/api/trees/"+tree+"/log"), `"remarks":"remark `)), "what was acknowledged")
}

// TestStorageTaken: where the browser cleared the book away, the page says so, and goes on
// with home's.
func TestStorageTaken(t *testing.T) {
	t.Parallel()
	_, p := openDevice(t, deskWidth, deskHeight)
	p.open("about:blank")
	p.do(call(storage.ClearDataForOrigin, storage.ClearDataForOriginParams{Origin: homeName, StorageTypes: "file_systems"}))
	p.open("/")
	p.patient(opening).sees("is no longer on this device")
	p.press("[data-go-home]")
	p.patient(opening).sees("60 of 400 trees")
}

// renewed are the pages of a newer version: the first page, and what the service worker
// and the program are known by, are others.
func renewed(t *testing.T) fs.FS {
	t.Helper()
	pages, err := ui.Pages()
	require.NoError(t, err)
	read := func(name string) string {
		text, err := fs.ReadFile(pages, name)
		require.NoError(t, err)
		return string(text)
	}
	index := strings.Replace(read("index.html"), "<head>", `<head><meta name="renewed">`, 1)
	sum := sha256.Sum256([]byte(index))
	worker := regexp.MustCompile(`"integrity":"[^"]*","revision":"([0-9a-f]+","url":"index.html")`).ReplaceAllString(read("sw.js"),
		`"integrity":"sha256-`+base64.StdEncoding.EncodeToString(sum[:])+`","revision":"renewed-$1`)
	require.Contains(t, worker, "renewed-")
	over := fstest.MapFS{
		"sw.js":      {Data: []byte(worker)},
		"index.html": {Data: []byte(index)},
		"field.json": {Data: []byte(strings.Replace(read("field.json"), `"digest":"`, `"digest":"renewed-`, 1))},
	}
	return laid{over, pages}
}

// laid is a folder with another laid over it.
type laid struct{ over, under fs.FS }

func (l laid) Open(name string) (fs.File, error) {
	if file, err := l.over.Open(name); err == nil && name != "." {
		return file, nil
	}
	return l.under.Open(name)
}

// TestRenewed: a device renews its pages and its program when home has newer ones, but not
// while a tree is open.
func TestRenewed(t *testing.T) {
	t.Parallel()
	a, p := openDevice(t, deskWidth, deskHeight)
	p.follow("/trees/" + a.tree("LC-201"))
	p.patient(opening).until(`document.querySelector('[data-work]') !== null`)
	a.stop()
	a.pages = renewed(t)
	a.start()
	const program = `JSON.parse(localStorage.getItem('palethicket.along')).program`
	p.eval(`(navigator.serviceWorker.getRegistration().then((r) => r.update()), '')`)
	p.patient(opening).until(program + `.includes('renewed-')`)
	p.until(`document.querySelector('[data-work]') !== null && document.querySelector('meta[name=renewed]') === null`)
	p.press(`header a[href="/"]`)
	p.patient(opening).until(`document.querySelector('meta[name=renewed]') !== null && location.pathname === '/'`)
	require.Contains(t, p.asked("/api/trees?text=LC-201"), "LC-201", "by the program as renewed")
	a.stop()
	p.open("/")
	p.patient(opening).sees("60 of 400 trees")
}

// TestAPortalInstead: what answers in home's place is not kept as the program.
func TestAPortalInstead(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p, _ := newDevice(t, a, t.TempDir(), deskWidth, deskHeight)
	pages, err := ui.Pages()
	require.NoError(t, err)
	a.stop()
	a.pages = laid{fstest.MapFS{"wasm_exec.js": {Data: []byte("<html>Pay here")}}, pages}
	a.start()
	p.open("/woods")
	p.press("[data-take]:not([disabled])")
	p.patient(opening).sees("something else answers in its place")
	a.stop()
	a.pages = nil
	a.start()
	p.takeAlong()
}

// TestProgramBroken: where the program does not start, and cannot be fetched, the page says so, and the
// book can be saved; with a connection it is fetched anew.
func TestProgramBroken(t *testing.T) {
	t.Parallel()
	a, p := openDevice(t, deskWidth, deskHeight)
	tree := a.tree("LC-201")
	p.asks("POST", "/api/trees/"+tree+"/entries", fmt.Sprintf(`{"id": %q, "kind": "note", "note": "last word"}`, newULID()))
	p.eval(`(caches.open('palethicket-program').then(async (c) => {
		for (const r of await c.keys()) if (r.url.includes('field.wasm')) await c.put(r, new Response('no program', {headers: {'Content-Type': 'application/wasm'}}))
		window.broken = true }), '')`)
	p.until(`window.broken === true`)
	a.stop()
	p.open("/worklist")
	p.patient(opening).sees("The program on this device does not start")
	p.eval(`(URL.createObjectURL = (file) => { file.slice(0, 15).text().then((t) => (window.savedAs ??= t)); return '#' }, '')`)
	p.press("[data-save-book]")
	p.until(`window.savedAs === 'SQLite format 3'`)
	a.start()
	p.press("[data-stuck] .lead")
	p.patient(opening).until(`document.querySelector('[data-stuck]') === null && document.querySelector('h1') !== null`)
	require.Contains(t, p.asked("/api/trees/"+tree), "last word")
}

// TestBrokenOff: a download that breaks off goes on from there.
func TestBrokenOff(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p, _ := newDevice(t, a, t.TempDir(), deskWidth, deskHeight)
	a.cut.Store(300_000)
	p.open("/woods")
	p.press("[data-take]:not([disabled])")
	p.patient(opening).sees(" %, is kept: try again to go on from there")
	p.takeAlong()
	require.EqualValues(t, 1, a.rests.Load())
}

// TestKeptWhileLoading: a page that was still loading when all pages came to be kept on the device
// is answered by them too.
func TestKeptWhileLoading(t *testing.T) {
	t.Parallel()
	a := newApp(t, false)
	a.held = make(chan struct{})
	one := cachingPage(t, a, deskWidth, deskHeight)
	ctx, closeTwo := chromedp.NewContext(one.ctx)
	require.NoError(t, chromedp.Do(ctx))
	defer closeTwo()
	two := &page{t, ctx, stuck, one.home}
	one.open("/")
	two.eval(`(location.assign('` + one.home + `/worklist'), '')`)
	one.until(`navigator.serviceWorker.controller?.state === 'activated'`)
	close(a.held)
	two.until(`location.pathname === '/worklist' && navigator.serviceWorker.controller !== null`)
}

// TestPagesNotKept: where a page comes damaged, whoever takes a tract along is told, and the next try fetches it again.
func TestPagesNotKept(t *testing.T) {
	nightly(t)
	t.Parallel()
	a := newApp(t, true)
	whole, err := ui.Pages()
	require.NoError(t, err)
	a.stop()
	a.pages = laid{fstest.MapFS{"twig.svg": {Data: []byte("<svg/>")}}, whole}
	a.start()
	p, _ := newDevice(t, a, t.TempDir(), deskWidth, deskHeight)
	p.open("/woods")
	p.press("[data-take]:not([disabled])")
	p.patient(opening).sees("its pages could not be fetched")
	a.stop()
	a.pages = nil
	a.start()
	p.press("[data-take]:not([disabled])")
	p.patient(opening).until(`navigator.serviceWorker.controller !== null`)
}

// TestRenewedWhileWaiting: newer pages come although the older ones still wait for an image
// that neither the device's page nor the server answers.
func TestRenewedWhileWaiting(t *testing.T) {
	t.Parallel()
	a, profile := preparedDevice(t)
	p, _ := newDevice(t, a, profile, deskWidth, deskHeight)
	p.onEachPage(`navigator.serviceWorker.addEventListener('message', (e) => e.data?.ask?.includes('/never/') && e.stopImmediatePropagation())`)
	p.openOffline("/")
	a.stop()
	a.pages, a.hang = renewed(t), "/never/"
	a.start()
	p.eval(`((window.image = new Image()).src = '/api/plates/never/twig/Acer%20rubrum', '')`)
	p.eval(`(navigator.serviceWorker.getRegistration().then((r) => r.update()), '')`)
	p.patient(opening).until(`document.querySelector('meta[name=renewed]') !== null`)
}

// TestDrawnAway: a device draws by itself, tiles and plates, and keeps what it drew.
func TestDrawnAway(t *testing.T) {
	t.Parallel()
	a, p := openDevice(t, deskWidth, deskHeight)
	a.stop()
	p.follow("/flora/Quercus%20alba")
	p.patient(opening).until(`[...document.querySelectorAll('.set img')].filter((i) => i.naturalWidth > 0).length === 3`)
	const kept = `(window.kept = undefined, caches.open('palethicket-plates').then((c) => c.keys()).then((k) => (window.kept = k.length)), '')`
	p.eval(kept)
	p.until(`window.kept >= 3`)
	p.follow("/practice")
	p.patient(opening).sees("Whose twig is this?")
	p.patient(opening).until(`document.querySelector('.card img')?.naturalWidth > 0`)
	p.press("[data-unknown]")
	p.patient(opening).sees("Not known.")
	a.start()
	p.asks("POST", "/api/away/meeting", "")
	require.Contains(t, a.answer("/api/practice/figures"), `"reviews":1`, "home knows what was answered there")
}

// TestCrewAway: where the crew sign in, a device works for whoever took it along, another
// signs in on it once with a connection and then without, and each one's entries go home
// under their name.
func TestCrewAway(t *testing.T) {
	nightly(t)
	t.Parallel()
	a := newCrew(t, true, book.NewMember{Name: "Wren Halloran", Role: book.Lead, Password: crewPassword},
		book.NewMember{Name: "Tobias Okafor", Role: book.Observer, Password: crewPassword})
	p, _ := newDevice(t, a, t.TempDir(), deskWidth, deskHeight)
	signIn := func(name string) {
		p.patient(opening).until(`document.querySelector('#who') !== null`)
		p.write("#who", name)
		p.write("#password", crewPassword)
		p.press(`button[type="submit"]`)
		p.patient(opening).until(`document.querySelector('#who') === null`)
	}
	p.open("/")
	signIn("Wren Halloran")
	p.sees("60 of 400 trees")
	tree := treesOf(t, p.fetched("/api/trees?text=LC-201"))[0].ID
	p.takeAlong()
	require.Contains(t, p.asked("/api/session"), "Wren Halloran")
	remark := func(text string) {
		body := fmt.Sprintf(`{"id": %q, "kind": "facts", "facts": {"remarks": %q}}`, newULID(), text)
		require.Contains(t, p.asks("POST", "/api/trees/"+tree+"/entries", body), text)
	}
	remark("by Wren")
	p.asks("DELETE", "/api/session", "")
	p.open("/")
	signIn("Tobias Okafor")
	remark("by Tobias")
	p.nothingWaits()
	a.stop()
	p.asks("DELETE", "/api/session", "")
	p.open("/woods")
	signIn("Tobias Okafor")
	p.patient(opening).sees("Home is out of reach")
	p.asks("DELETE", "/api/session", "")
	p.open("/")
	signIn("Wren Halloran") // who took it along can sign in again without a signal
	p.patient(opening).sees("60 of 400 trees")
	log := p.asked("/api/trees/" + tree + "/log")
	require.Contains(t, log, `"by":"Wren Halloran","facts":{"remarks":"by Wren"}`)
	require.Contains(t, log, `"by":"Tobias Okafor","facts":{"remarks":"by Tobias"}`)
}

// fetched is what home answers to the page.
func (p *page) fetched(path string) string {
	p.t.Helper()
	p.eval(fmt.Sprintf(`(window.fetched = undefined, fetch(%q).then((r) => r.text()).then((t) => (window.fetched = t)), '')`, path))
	p.until(`window.fetched !== undefined`)
	return p.eval(`window.fetched`)
}

func treesOf(t *testing.T, text string) []book.TreeLine {
	t.Helper()
	trees := decoded[book.TreeList](t, text).Trees
	require.NotEmpty(t, trees, text)
	return trees
}
