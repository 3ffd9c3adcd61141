package e2e

import (
	"encoding/json"
	"fmt"
	"net/http"
	"os"
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

// TestSpeedAway says what taking along, opening, a press and a list cost on a device, with
// its processor as it is and slowed four times. It decides nothing; PT_SPEED=1 runs it.
func TestSpeedAway(t *testing.T) {
	if os.Getenv("PT_SPEED") == "" {
		t.Skip("PT_SPEED=1 measures")
	}
	for _, times := range []int{1, 50} {
		a := newApp(t, true)
		a.grow(times)
		p, _ := newDevice(t, a, t.TempDir(), phoneWidth, phoneHeight)
		start := time.Now()
		p.open("/woods")
		p.press("[data-take]:not([disabled])")
		p.patient(3 * time.Minute).until(`document.querySelector('[data-met]') !== null`)
		t.Logf("%d trees taken along in %.1f s", 400*times, time.Since(start).Seconds())
		tree := a.tree("LC-201")
		a.stop()
		for _, slow := range []float64{1, 4} {
			p.do(call(emulation.SetCPUThrottlingRate, emulation.SetCPUThrottlingRateParams{Rate: slow}))
			start = time.Now()
			p.open("/")
			p.patient(opening).sees(fmt.Sprintf("60 of %d trees", 400*times))
			t.Logf("×%g: a usable list after %.1f s", slow, time.Since(start).Seconds())
			p.asked("/api/away") // the book is open
			t.Logf("×%g: the book open after %.1f s", slow, time.Since(start).Seconds())
			time.Sleep(25 * time.Second) // what later presses need is worked out
			p.asked("/api/trees/" + tree)
			t.Logf("×%g: list %s", slow, p.times(`new Request(location.origin + '/api/trees?limit=60&offset=120&sort=tag')`, 10))
			look := newULID()
			p.asks("POST", "/api/trees/"+tree+"/entries", fmt.Sprintf(`{"id": %q, "kind": "look", "from": "tree"}`, look))
			t.Logf("×%g: press %s", slow, p.times(fmt.Sprintf(`new Request(location.origin + '/api/trees/%s/entries', {method: 'POST',
				headers: {'Content-Type': 'application/json'}, body: JSON.stringify({id: '%s' + String(10 + i), kind: 'score', look: %q,
				score: {character: 'bark.color', states: [['white', 'golden', 'olive'][i %% 3]]}})})`, tree, newULID()[:24], look), 10))
		}
	}
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
