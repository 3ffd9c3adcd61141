package e2e

import (
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/stretchr/testify/require"

	"palethicket/book"
)

var anyULID = regexp.MustCompile(`01[0-9A-HJKMNP-TV-Z]{24}`)

// grow tells the book copies of all its trees under other tags, times as many as it has.
func (a *app) grow(times int) {
	a.t.Helper()
	var list book.TreeList
	require.NoError(a.t, json.Unmarshal([]byte(a.answer("/api/trees?limit=500")), &list))
	for k := range times - 1 {
		var batch []string
		for _, l := range list.Trees {
			text := a.answer("/api/trees/" + l.ID + "/log")
			var c book.Changes
			require.NoError(a.t, json.Unmarshal([]byte(text), &c))
			names := map[string]string{}
			for _, e := range c.Entries {
				if e.Tree == "" {
					continue // a visit: it is there
				}
				sent, err := json.Marshal(e)
				require.NoError(a.t, err)
				copied := anyULID.ReplaceAllStringFunc(string(sent), func(id string) string {
					if strings.Contains(string(sent), `"visit":"`+id) {
						return id
					}
					if names[id] == "" {
						names[id] = newULID()
					}
					return names[id]
				})
				copied = strings.Replace(copied, `"tag":"`+l.Tag, fmt.Sprintf(`"tag":"%s-%d`, l.Tag, k), 1)
				if batch = append(batch, copied); len(batch) == book.MeetMost {
					a.tell(batch)
					batch = nil
				}
			}
		}
		a.tell(batch)
	}
}

func (a *app) tell(batch []string) {
	a.t.Helper()
	body := fmt.Sprintf(`{"version": %d, "entries": [%s]}`, book.LogVersion, strings.Join(batch, ","))
	res, err := http.Post(a.url("/api/meeting"), "application/json", strings.NewReader(body))
	require.NoError(a.t, err)
	res.Body.Close()
	require.Equal(a.t, 200, res.StatusCode)
}

// TestSpeedAway says what taking along, opening pages, a press and a list cost on a device,
// with the pages' processor as it is and slowed four times. It decides nothing; PT_SPEED=1
// runs it.
func TestSpeedAway(t *testing.T) {
	if os.Getenv("PT_SPEED") == "" {
		t.Skip("PT_SPEED=1 measures")
	}
	for _, times := range []int{1, 50} {
		a := newApp(t, true)
		a.grow(times)
		p, _ := newDevice(t, a, t.TempDir(), phoneWidth, phoneHeight)
		start := time.Now()
		said := func(what string, args ...any) {
			t.Helper()
			t.Logf("%s after %.1f s", fmt.Sprintf(what, args...), time.Since(start).Seconds())
		}
		p.open("/woods")
		p.press("[data-take]:not([disabled])")
		p.patient(3 * time.Minute).until(`document.querySelector('[data-met]') !== null`)
		said("%d trees taken along, %.1f MB of them,", 400*times, float64(a.line.Load())/1e6)
		tree := a.tree("LC-201")
		a.stop()
		for _, slow := range []float64{1, 4} {
			p.do(call(emulation.SetCPUThrottlingRate, emulation.SetCPUThrottlingRateParams{Rate: slow}))
			open := func(path, until string) {
				t.Helper()
				start = time.Now()
				p.open(path)
				p.patient(opening).until(until)
				said("×%g: %s", slow, path)
			}
			open("/", fmt.Sprintf(`document.body.textContent.includes("60 of %d trees")`, 400*times))
			p.asked("/api/away")
			said("×%g: the book open", slow)
			open("/trees/"+tree, `document.querySelector('h1')?.textContent.includes('LC-201')`)
			open("/map", `/\d trees? with a position/.test(document.body.textContent)`)
			time.Sleep(25 * time.Second) // what later presses need is worked out
			p.asked("/api/trees/" + tree)
			t.Logf("×%g: list %s", slow, p.times(`new Request(location.origin + '/api/trees?limit=60&offset=120&sort=tag')`, 10))
			look := newULID()
			p.asks("POST", "/api/trees/"+tree+"/entries", fmt.Sprintf(`{"id": %q, "kind": "look", "from": "tree"}`, look))
			t.Logf("×%g: press %s", slow, p.times(fmt.Sprintf(`new Request(location.origin + '/api/trees/%s/entries', {method: 'POST',
				headers: {'Content-Type': 'application/json'}, body: JSON.stringify({id: '%s' + String(10 + i), kind: 'score', look: %q,
				score: {character: 'bark.color', states: [['white', 'golden', 'olive'][i %% 3]]}})})`, tree, newULID()[:24], look), 10))
		}
		t.Logf("the page and its book: %d MB at most", rendererMB(t))
	}
}

// rendererMB is the most memory that one of the browser's pages had so far, in MB.
func rendererMB(t *testing.T) (most int) {
	t.Helper()
	found, err := filepath.Glob("/proc/[0-9]*/cmdline")
	require.NoError(t, err)
	for _, path := range found {
		line, _ := os.ReadFile(path) // it may have ended
		if !strings.Contains(string(line), "--type=renderer") {
			continue
		}
		status, _ := os.ReadFile(filepath.Join(filepath.Dir(path), "status"))
		for _, l := range strings.Split(string(status), "\n") {
			var kB int
			if _, err := fmt.Sscanf(l, "VmHWM: %d kB", &kB); err == nil {
				most = max(most, kB/1000)
			}
		}
	}
	return most
}

// times says how long the page's book takes to answer a question so many times over.
func (p *page) times(request string, n int) string {
	p.t.Helper()
	p.eval(fmt.Sprintf(`(window.took = [], (async () => {
		for (let i = 0; i < %d; i++) {
			const start = performance.now()
			await (await window.paleThicket.ask(%s)).text()
			window.took.push(performance.now() - start)
		}
		window.took.sort((a, b) => a - b)
	})(), '')`, n, request))
	p.patient(opening).until(fmt.Sprintf(`window.took.length === %d`, n))
	return p.eval(`'median ' + Math.round(window.took[window.took.length >> 1]) + ' ms, worst ' + Math.round(window.took.at(-1)) + ' ms'`)
}
