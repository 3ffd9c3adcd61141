package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// TestPlanADay plans a day from the worklist, leaves a tree out, and is told what cannot be.
func TestPlanADay(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, deskWidth, deskHeight)
	p.open(a.url("/worklist"))
	p.press("[data-plan]")
	p.sees("Which open trees to visit")
	p.eval(`(() => { for (const [css, v] of [['[data-day-date]', '2026-12-01'], ['[data-day-start]', '14:00']]) {
		const f = document.querySelector(css); f.value = v; f.dispatchEvent(new Event('input', {bubbles: true})) } return '' })()`)
	p.press("[data-plan-day]")
	p.sees("back at")
	first := p.eval(`document.querySelector('ol.rows a').textContent`)
	p.eval(`([...document.querySelectorAll('ol.rows button')].find((b) => b.textContent.includes('Leave out')).click(), '')`)
	p.until(`![...document.querySelectorAll('ol.rows a')].some((l) => l.textContent === '` + first + `')`)
	require.Contains(t, a.answer("/api/day.gpx?date=2026-12-01&start=14:00"), "<rtept")
	p.eval(`(() => { const f = document.querySelector('[data-day-start]'); f.value = '23:50'; f.dispatchEvent(new Event('input', {bubbles: true})); return '' })()`)
	p.press("[data-plan-day]")
	p.sees("before it begins")
}
