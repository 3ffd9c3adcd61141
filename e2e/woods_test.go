package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/core/tree/answer"
)

// opening is how long a device may take to open its book on a busy machine.
const opening = time.Minute

// along has the page take the demo's tract along, and waits until it works on its own book.
func (a *app) along(p *page) {
	p.t.Helper()
	p.open(a.url("/woods"))
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

func (a *app) answer(path string) string {
	a.t.Helper()
	res, err := http.Get(a.url(path))
	require.NoError(a.t, err)
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	require.NoError(a.t, err)
	return string(text)
}

// nothingWaits waits until all that was entered on the device is home.
func (p *page) nothingWaits() {
	p.t.Helper()
	p.open(p.home + "/woods")
	p.press("[data-meet]")
	p.patient(opening).until(`document.querySelector('[data-waiting]')?.textContent.includes('all of it is home')`)
}

// TestADayInTheWoods takes a tract along, and names, starts and photographs trees where
// there is no signal, through a closed and opened tab; at home all of it is there, once.
func TestADayInTheWoods(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	folder := t.TempDir()
	p, kill := newDevice(t, folder, phoneWidth, phoneHeight)
	a.along(p)
	a.stop() // the server is really gone
	p.open(a.url("/"))
	p.patient(opening).sees("60 of 400 trees")

	var named []string
	for _, l := range a.lines(p, "/api/trees?status=ready&limit=2") {
		named = append(named, l.ID)
		p.open(a.url("/trees/" + l.ID))
		p.patient(opening).until(`document.querySelector('[data-work]') !== null`)
		p.press("[data-leader]")
		p.press("#write-name")
		p.press("#keep-name")
		p.patient(opening).until(`document.querySelector('section[aria-label="Name written down"] ol') !== null`)
		p.patient(opening).until(allSent)
	}
	for _, l := range a.lines(p, "/api/trees?status=open&limit=30") {
		if l.Leader == answer.Unlisted || len(named) == 10 {
			continue
		}
		named = append(named, l.ID)
		body := fmt.Sprintf(`{"id": %q, "kind": "name", "name": {"rank": "species", "name": %q}}`, newULID(), l.Leader)
		require.Contains(t, p.asks("POST", "/api/trees/"+l.ID+"/entries", body), `"names":[{`)
	}
	require.Len(t, named, 10)
	for _, tag := range []string{"LC-9001", "LC-9002"} {
		body := fmt.Sprintf(`{"id": %q, "tag": %q, "tract": "Lantern Creek watershed forest", "stand": "Upper slope"}`, newULID(), tag)
		require.Contains(t, p.asks("POST", "/api/trees", body), tag)
	}
	img := filepath.Join(t.TempDir(), "bark.jpg")
	require.NoError(t, os.WriteFile(img, picture(t), 0o600))
	p.open(a.url("/trees/" + named[0] + "/story"))
	p.patient(opening).until(`document.querySelector('summary') !== null`)
	p.press("summary")
	p.upload("[data-photo]", img)
	p.patient(opening).until(`[...document.querySelectorAll('details img')].some((i) => i.naturalWidth === 480)`)

	kill()
	p, _ = newDevice(t, folder, phoneWidth, phoneHeight)
	p.open(a.url("/woods"))
	p.patient(opening).sees("Home is out of reach")
	p.patient(opening).until(`/^\d+ entries$/.test(document.querySelector('[data-waiting]')?.textContent.trim() ?? '')`)
	require.Len(t, a.lines(p, "/api/trees?text=LC-900"), 3, "two of them new")

	a.start(false)
	p.home = a.url("")
	p.nothingWaits()
	for _, id := range named {
		require.Len(t, a.view(id).Names, 1)
	}
	require.NotEmpty(t, a.tree("LC-9002"))
	var photos []book.Photo
	require.NoError(t, json.Unmarshal([]byte(a.answer("/api/trees/"+named[0]+"/photos")), &photos))
	require.Len(t, photos, 1)
	res, err := http.Get(a.url("/api/photos/" + photos[0].ID + "/full"))
	require.NoError(t, err)
	defer res.Body.Close()
	whole, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	require.Len(t, whole, photos[0].Bytes)
	p.nothingWaits()
	require.Len(t, a.view(named[0]).Names, 1, "once")
}

// lines are the trees that the page's own book lists.
func (a *app) lines(p *page, path string) []book.TreeLine {
	a.t.Helper()
	var list book.TreeList
	text := p.asked(path)
	require.NoError(a.t, json.Unmarshal([]byte(text), &list), text)
	require.NotEmpty(a.t, list.Trees, text)
	return list.Trees
}

func picture(t *testing.T) []byte {
	img := image.NewRGBA(image.Rect(0, 0, 900, 600))
	for i := range 900 * 600 {
		img.Set(i%900, i/900, color.RGBA{uint8(i % 251), 90, 60, 255})
	}
	var body bytes.Buffer
	require.NoError(t, jpeg.Encode(&body, img, nil))
	return body.Bytes()
}

// TestTheSameAnswers: every tree of the demo's book, its lists, its map and what stands
// grow on are the same, byte for byte, from the program in the browser.
func TestTheSameAnswers(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p, _ := newDevice(t, t.TempDir(), deskWidth, deskHeight)
	a.along(p)
	var list book.TreeList
	require.NoError(t, json.Unmarshal([]byte(a.answer("/api/trees?limit=500")), &list))
	require.Len(t, list.Trees, 400)
	paths := []string{
		"/api/trees?limit=500",
		"/api/worklist?limit=500",
		"/api/map",
		"/api/map/trees",
		"/api/stands",
		"/api/visits",
		"/api/flora",
		"/api/vocabulary",
		"/api/composition?tract=Lantern+Creek+watershed+forest",
	}
	for _, l := range list.Trees {
		paths = append(paths, "/api/trees/"+l.ID)
	}
	for _, l := range list.Trees[:20] {
		paths = append(paths, "/api/trees/"+l.ID+"/story")
	}
	for _, path := range paths {
		if want, got := a.answer(path), p.asked(path); want != got {
			t.Fatalf("%s: %s", path, firstDifference(want, got))
		}
	}
}

// firstDifference shows where two texts part.
func firstDifference(a, b string) string {
	n := 0
	for n < min(len(a), len(b)) && a[n] == b[n] {
		n++
	}
	from := max(0, n-80)
	return fmt.Sprintf("at byte %d of %d and %d\n%s\n%s", n, len(a), len(b), a[from:min(len(a), n+80)], b[from:min(len(b), n+80)])
}

// TestScreensAway looks at taking along, at how a device stands, and at a telephone that has
// no signal.
func TestScreensAway(t *testing.T) {
	if os.Getenv("PT_SCREENSHOTS") == "" {
		t.Skip("PT_SCREENSHOTS takes the pictures")
	}
	a := newApp(t, true)
	p, _ := newDevice(t, t.TempDir(), deskWidth, deskHeight)
	shot := func(name string) {
		p.until(`document.documentElement.scrollWidth <= innerWidth`)
		if dir := os.Getenv("PT_SCREENSHOTS"); dir != "" {
			time.Sleep(time.Second) // let the fonts settle
			p.shot(filepath.Join(dir, name+".png"))
		}
	}
	p.open(a.url("/"))
	p.wear("light")
	p.open(a.url("/woods"))
	p.until(`document.querySelector('[data-take]:not([disabled])') !== null`)
	tree := a.tree("LC-303")
	a.along(p)
	a.stop()
	for _, text := range []string{"Forked at breast height", "Tag renewed"} {
		body := fmt.Sprintf(`{"id": %q, "kind": "facts", "facts": {"remarks": %q}}`, newULID(), text)
		require.Contains(t, p.asks("POST", "/api/trees/"+tree+"/entries", body), text)
	}
	p.press("[data-meet]")
	p.patient(opening).sees("Home is out of reach")
	p.sees("2 entries")
	p.do(chromedp.EmulateViewport(phoneWidth, phoneHeight))
	p.open(a.url("/trees/" + tree))
	p.patient(opening).until(`document.querySelector('[data-kept]') !== null`)
	p.press(`[data-section="bark"]`)
	p.until(seenDrawn) // a device draws them one by one
	shot("woods-phone")
}
