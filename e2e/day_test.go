package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// TestPlanADay plans a day from the worklist, leaves a tree out, and is told what cannot be.
func TestPlanADay(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/worklist")
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
	p.eval(
		`(() => { const f = document.querySelector('[data-day-start]'); f.value = '23:50'; f.dispatchEvent(new Event('input', {bubbles: true})); return '' })()`,
	)
	p.press("[data-plan-day]")
	p.sees("before it begins")
}

// TestDayInTheWoods goes through a day that is today: where to next from where one stands, what
// is done leaves the plan, and the rest is planned anew from here and now.
func TestDayInTheWoods(t *testing.T) {
	t.Parallel()
	a := serve(t, &app{data: newBook(t, true), kit: true}) // the receiver says where one is
	p := newPage(t, a, phoneWidth, phoneHeight)
	p.open("/day")
	p.until(`document.querySelector('[data-day-date]') !== null`)
	p.eval(
		`(() => { const day = new Date().toLocaleDateString('sv', {timeZone: 'America/Chicago'}) // it is that day there
		for (const [css, v] of [['[data-day-date]', day], ['[data-day-start]', '00:01']]) {
			const f = document.querySelector(css); f.value = v; f.dispatchEvent(new Event('input', {bubbles: true})) }
		return '' })()`,
	)
	p.press("[data-plan-day]")
	p.until(`/[0-9]+ m at [0-9]+°.*paces/.test(document.querySelector('[data-next-stop]')?.textContent)`)
	first := p.eval(`document.querySelector('[data-next-stop] strong').textContent`)
	p.press("[data-done]")
	p.until(`document.querySelector('[data-next-stop] strong').textContent !== '` + first + `'`)
	p.choose("[data-end]", "West gate")
	require.Equal(t, "West gate", p.eval(`document.querySelector('[data-end]').value`))
	p.press("[data-replan]")
	p.until(`document.querySelector('[data-day-start]').value !== '00:01'`)
	p.until(`localStorage['palethicket.day'].includes('"to":[')`)
}
