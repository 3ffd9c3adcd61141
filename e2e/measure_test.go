package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// TestSums works out a height from angles, is told which reading is wrong, and finds what was worked out and typed
// before when the page is opened anew.
func TestSums(t *testing.T) {
	t.Parallel()
	a := newApp(t, false)
	p := newPage(t, phoneWidth, phoneHeight)
	p.open(a.url("/measure"))
	p.until(`document.querySelectorAll('[data-sum] option').length > 20`)
	p.press("[data-work]")
	p.sees("this is missing")
	p.write(`[data-input="distance"]`, "20 m")
	p.write(`[data-input="top"]`, "62")
	p.write(`[data-input="base"]`, "99 %")
	p.press("[data-work]")
	p.sees("the top lies no higher than the base")
	p.clear(`[data-input="base"]`)
	p.write(`[data-input="base"]`, "-8 %")
	p.press("[data-work]")
	p.sees("14.0 m ± 0.2")
	require.Equal(t, "390", p.eval(`String(document.documentElement.scrollWidth)`))
	p.open(a.url("/measure"))
	p.until(`document.querySelector('[data-input="distance"]')?.value === '20 m'`)
	p.sees("Worked out before")
	p.choose("[data-sum]", "plot")
	p.until(`document.querySelector('[data-input="radius"]') !== null`)
	p.write(`[data-input="radius"]`, "11,28 m")
	p.press("[data-work]")
	p.sees("25.0 per ha")
}

// TestMeasuredForATree goes from a tree's story to the sums, keeps a height with it, and finds the readings in its story.
func TestMeasuredForATree(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	id := a.tree("LC-201")
	p := newPage(t, deskWidth, deskHeight)
	p.open(a.url("/trees/" + id + "/story"))
	p.press("[data-measure]")
	p.until(`document.querySelectorAll('[data-sum] option').length > 20`)
	p.write(`[data-input="distance"]`, "20 m")
	p.write(`[data-input="top"]`, "62 %")
	p.write(`[data-input="base"]`, "-8 %")
	p.press("[data-work]")
	p.sees("Keep as the height of LC-201")
	p.press("[data-keep-measured]")
	p.sees("LC-201 has it as its height.")
	require.InDelta(t, 14, a.view(id).Facts.Height, 1e-9)
	p.open(a.url("/trees/" + id + "/story"))
	p.sees("14.0 m ± 0.2; how far off 20 m")
	p.open(a.url("/measure?tree=" + id))
	p.until(`document.querySelectorAll('[data-sum] option').length > 20`)
	p.choose("[data-sum]", "diameter-girth")
	p.until(`document.querySelector('[data-input="girth"]') !== null`)
	p.write(`[data-input="girth"]`, "94.2 cm")
	p.press("[data-work]")
	p.press("[data-keep-measured]")
	p.sees("LC-201 has it as its diameter.")
	looks := a.view(id).Looks
	require.Equal(t, "form.dbh", looks[len(looks)-1].Scores[0].Character)
	require.InDelta(t, 30.0, *looks[len(looks)-1].Scores[0].Value, 0.01)
}
