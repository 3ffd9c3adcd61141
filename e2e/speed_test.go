package e2e

import (
	"encoding/json"
	"net"
	"os"
	"slices"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// TestSpeed says how long a press takes to change the standing, and the first
// view to be usable from an empty cache. It decides nothing; PT_SPEED=1 runs it.
func TestSpeed(t *testing.T) {
	if os.Getenv("PT_SPEED") == "" {
		t.Skip("PT_SPEED=1 measures")
	}
	a := newApp(t, true)
	var first []float64
	for range 5 {
		p := newPage(t, a, deskWidth, deskHeight) // a browser of its own, with nothing in its cache
		p.open("/")
		p.sees("Bluff ridge")
		var ms float64
		require.NoError(t, json.Unmarshal([]byte(p.eval(`String(performance.now())`)), &ms))
		first = append(first, ms)
	}
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/trees/" + a.tree("LC-201"))
	p.press(`[data-section="bark"]`)
	p.press(tile("bark.color", "white"))
	p.until(allSent)
	p.eval(`(window.took = [], window.measure = async () => {
		const share = () => document.querySelector('section[aria-label="Ranking"]').innerText
		for (let i = 0; i < 20; i++) {
			const state = ['pale-grey', 'near-black', 'golden', 'mid-grey', 'olive'][i % 5]
			const before = share(), start = performance.now()
			document.querySelector('[id="card-bark.color"] [data-state="' + state + '"]').click()
			while (share() === before && performance.now() - start < 2000) await new Promise(requestAnimationFrame)
			window.took.push(performance.now() - start)
			await new Promise((r) => setTimeout(r, 150))
		}
	}, measure(), '')`)
	p.until(`window.took.length === 20`)
	var took []float64
	require.NoError(t, json.Unmarshal([]byte(p.eval(`JSON.stringify(window.took)`)), &took))
	slices.Sort(took)
	slices.Sort(first)
	t.Logf("press to changed standing: median %.0f ms, worst of 20 %.0f ms", took[10], took[19])
	t.Logf("first view usable from an empty cache: median %.0f ms, worst of 5 %.0f ms", first[2], first[4])
}

// TestPages says how long each page takes from an empty cache until it is still, its
// longest task, and what an open tree costs on the line while nobody does anything.
func TestPages(t *testing.T) {
	if os.Getenv("PT_SPEED") == "" {
		t.Skip("PT_SPEED=1 measures")
	}
	s := newScene(t)
	a := s.demo
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/trees/" + a.tree("LC-101"))
	p.until(`document.querySelector('[data-work]') !== null`)
	time.Sleep(3 * time.Second)
	before := a.line.Load()
	time.Sleep(time.Minute)
	t.Logf("an open tree that nobody touches: %d bytes a minute, both ways", a.line.Load()-before)
	const longest = `(window.tasks = [], new PerformanceObserver((l) => window.tasks.push(...l.getEntries().map((e) => e.duration))).observe({type: 'longtask', buffered: true}), '')`
	for _, v := range views {
		if v.marked || v.press != nil {
			continue
		}
		view := s.path(v)
		t.Run(view, func(t *testing.T) { // whose end closes the page, so that no other competes with it
			p := newPage(t, a, deskWidth, deskHeight)
			start := time.Now()
			p.open(view)
			p.until(`document.querySelector('h1, [data-work]') !== null && !document.body.innerText.includes('Opening')`)
			p.until(`document.readyState === 'complete'`)
			took := time.Since(start)
			p.eval(longest)
			if view == "/flora" { // 160 twigs, to the end and back
				p.eval(`(window.scrolled = (async () => { for (let y = 0; y < document.body.scrollHeight; y += 120) {
					scrollTo(0, y); await new Promise(requestAnimationFrame) } scrollTo(0, 0) })(), '')`)
			}
			time.Sleep(4 * time.Second)
			slowest := p.eval(`String(Math.round(Math.max(0, ...window.tasks)))`)
			t.Logf("%-60s %4d ms, longest task %s ms", view, took.Milliseconds(), slowest)
		})
	}
}

// counted counts what goes over a line, both ways.
type counted struct {
	net.Listener
	bytes *atomic.Int64
}

func (c counted) Accept() (net.Conn, error) {
	conn, err := c.Listener.Accept()
	return countedConn{conn, c.bytes}, err
}

type countedConn struct {
	net.Conn
	bytes *atomic.Int64
}

func (c countedConn) Read(p []byte) (int, error) {
	n, err := c.Conn.Read(p)
	c.bytes.Add(int64(n))
	return n, err
}

func (c countedConn) Write(p []byte) (int, error) {
	n, err := c.Conn.Write(p)
	c.bytes.Add(int64(n))
	return n, err
}
