package e2e

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// along has the page take the demo's tract along, and waits until it works on its own book.
func (a *app) along(p *page) {
	p.t.Helper()
	p.open(a.url("/woods"))
	p.press("[data-take]:not([disabled])")
	ctx := p.patient(time.Minute)
	ctx.until(`document.querySelector('[data-met]') !== null`)
}

func TestZZAlong(t *testing.T) {
	a := newApp(t, true)
	p := newPage(t, deskWidth, deskHeight)
	start := time.Now()
	a.along(p)
	t.Log("along", time.Since(start))
	t.Log(p.eval(`document.body.innerText`))
	start = time.Now()
	p.open(a.url("/"))
	p.sees("60 of 400 trees")
	t.Log("list", time.Since(start))
	a.stop()
	start = time.Now()
	p.open(a.url("/"))
	p.eval(`(window.zz = [], new BroadcastChannel('zz').onmessage = (e) => window.zz.push(e.data + ' ' + Math.round(performance.now())), '')`)
	p.sees("60 of 400 trees")
	t.Log("offline list", time.Since(start))
	t.Log(p.eval("window.zz.join('\\n')"))
	require.True(t, true)
}
