package e2e

import (
	"testing"

	"github.com/chromedp/cdproto/emulation"
	"github.com/stretchr/testify/require"
)

// pressable lists what of a printed page is only there to be pressed, or is cut off by its box.
const pressable = `[...document.querySelectorAll('nav, select, .foot, button.press:not(.look, .row, .why), main, .page, .pane')].filter((e) => {
	const s = getComputedStyle(e)
	if (!e.getBoundingClientRect().width || s.visibility === 'hidden') return false
	return !e.matches('main, .page, .pane') || s.overflowY !== 'visible' && e.scrollHeight > e.clientHeight + 1
}).map((e) => e.tagName + '.' + e.className + ' ' + e.textContent.trim().slice(0, 24)).join('\n')`

// TestPrint: on paper each page says all of what it is about, and nothing that is pressed.
func TestPrint(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	p := imagePage(t, a, deskWidth, deskHeight)
	p.do(call(emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Media: "print"}))
	tree := "/trees/" + a.tree("LC-101")
	for view, whole := range map[string]string{
		"/":                    `document.querySelectorAll('.rows > li').length === 400`,
		"/worklist":            `document.querySelectorAll('.rows > li').length > 20`,
		"/map":                 `document.querySelector('.map').offsetWidth === 660`,
		"/flora/Acer%20rubrum": `document.querySelector('main').innerText.includes('Sources')`,
		tree + "/story":        `document.querySelectorAll('main li').length > 5`,
		tree:                   `document.querySelector('.standing').offsetHeight > 200 && document.querySelector('.looks').offsetHeight > 100`,
	} {
		p.open(view)
		p.until(`document.querySelector('h1, .standing') !== null && !document.body.innerText.includes('Opening')`)
		p.eval(`(window.print = () => window.dispatchEvent(new Event('beforeprint')), '')`)
		p.until(`document.querySelector('[data-print], .standing, .leaflet-container, [aria-label="Sources"]') !== null`)
		p.eval(`((document.querySelector('[data-print]') ?? { click: window.print }).click(), '')`)
		p.until(whole)
		require.Empty(t, p.eval(pressable), view)
	}
}
