package e2e

import "testing"

// TestHalfTyped leaves a field with a figure half typed, by a way that is no step out of it.
func TestHalfTyped(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	newTree(p, a, "LC-9907")
	p.press(`[data-section="bud"]`)
	p.write(`[id="value-bud.length"]`, "3.")
	p.eval(`(history.back(), '')`)
	p.until(`location.pathname === '/'`)
	p.eval(`(history.forward(), '')`)
	p.until(`document.querySelector('[data-section]') !== null`)
	p.press(`[data-section="bud"]`)
	p.until(`document.querySelector('[id="value-bud.length"]')?.value === '3.'`)
	p.until(`document.querySelector('[id="said-bud.length"]').textContent.includes('3 mm')`)
}
