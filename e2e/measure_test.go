package e2e

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/instrument/simulate"
)

// TestSums works out a height from angles, is told which reading is wrong, and finds what was worked out and typed
// before when the page is opened anew.
func TestSums(t *testing.T) {
	t.Parallel()
	a := newApp(t, false)
	p := newPage(t, a, phoneWidth, phoneHeight)
	p.open("/measure")
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
	p.open("/measure")
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
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/trees/" + id + "/story")
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
	p.open("/trees/" + id + "/story")
	p.sees("height by angles from along level, base -8 %, distance 20 m, top 62 %")
	p.open("/measure?tree=" + id)
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

// TestInstrumentsAtATree measures a tree with instruments that do not exist: its height from a
// slope, by two readings of the hypsometer; its diameter off the caliper; its position averaged.
// Nothing is taken by itself, a changed reading changes the height, and the story says what read it.
func TestInstrumentsAtATree(t *testing.T) {
	t.Parallel()
	a := serve(t, &app{data: newBook(t, true), kit: true})
	id := a.tree("LC-202")
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/trees/" + id + "/story")
	p.press("[data-measure-height]")
	p.choose("[data-how]", "height-laser")
	p.until(`document.querySelector('[data-instrument="hypsometer"]')?.dataset.health === 'well'`)
	take := func(input, angle string) { // the next reading that looks up, or down
		p.patient(time.Minute).until(`(() => {
			const offered = document.querySelector('[data-input="` + input + `"]').closest('.typed').querySelector('[data-take]')
			if (!offered?.textContent.includes('` + angle + `')) return false
			offered.click()
			return true
		})()`)
		p.until(`document.querySelector('[data-input="` + input + `"]').value !== ''`)
	}
	require.Empty(t, p.eval(`document.querySelector('[data-input="top_range"]').value`))
	take("top_angle", ": 3")
	take("base_angle", ": -")
	p.press("[data-work]")
	p.press("[data-keep-readings]")
	p.until(`document.querySelector('[data-keep-readings]') === null`)
	high := a.view(id).Facts.Height
	require.InDelta(t, 21.5, high, 3)
	p.sees("by Hypsometer")

	p.press("[data-measure-height]") // as it was read
	p.until(`document.querySelector('[data-input="top_range"]').value.endsWith(' m')`)
	p.clear(`[data-input="top_range"]`)
	p.write(`[data-input="top_range"]`, "40 m")
	p.press("[data-work]")
	p.press("[data-keep-readings]")
	p.until(`document.querySelector('[data-keep-readings]') === null`)
	require.Greater(t, a.view(id).Facts.Height, high+2)

	p.press("[data-measure-diameter]")
	p.press(`[aria-label="Measured"] [data-take]`)
	p.until(`document.querySelector('[data-how]') === null`)
	looks := a.view(id).Looks
	last := looks[len(looks)-1].Scores[0]
	require.Equal(t, "form.dbh", last.Character)
	require.Equal(t, "caliper", last.How)

	p.press("[data-measure-position]")
	p.press("[data-average]")
	p.until(`/[3-9] fixes so far/.test(document.querySelector('[data-averaged]').textContent)`)
	p.press("[data-averaged]")
	p.press("[data-keep-readings]")
	p.until(`document.querySelector('[data-keep-readings]') === null`)
	at := a.view(id).Facts.Position
	require.InDelta(t, simulate.AtLat, at.Lat, 0.0001)
	require.InDelta(t, simulate.AtLon, at.Lon, 0.0001)
	require.Contains(t, a.view(id).Readings[2].Words, "by Receiver at the belt")
}

// TestMarksOnAPhotograph marks a known length by presses and another by keys, and scores it.
func TestMarksOnAPhotograph(t *testing.T) {
	nightly(t)
	t.Parallel()
	a := newApp(t, true)
	id := a.tree("LC-101")
	p := imagePage(t, a, deskWidth, deskHeight)
	p.open("/trees/" + id + "/story")
	p.press("[data-measure-photo]")
	press := func(x, y string) {
		p.eval(`(() => { const s = document.querySelector('[data-picture]'), r = s.getBoundingClientRect()
			s.dispatchEvent(new MouseEvent('click', {clientX: r.left + ` + x + ` * r.width, clientY: r.top + ` + y + ` * r.height, bubbles: true})); return '' })()`)
	}
	key := func(name string) {
		p.eval(
			`(document.querySelector('[data-picture]').dispatchEvent(new KeyboardEvent('keydown', {key: '` + name + `', shiftKey: true, bubbles: true})), '')`,
		)
	}
	p.until(`document.querySelector('[data-picture]')?.getBoundingClientRect().height > 100`)
	press("0.1", "0.8")
	press("0.6", "0.8")
	p.write("[data-known]", "20 mm")
	p.press(`[data-mode="line"]`)
	key("Enter")
	for range 5 {
		key("ArrowLeft")
	}
	key("Enter")
	p.until(`document.querySelector('[data-of="1"]') !== null`)
	p.choose(`[data-of="1"]`, "bud.length")
	p.sees("Score bud length: 10 mm")
	p.press("[data-offer]")
	p.sees("is scored.")
	found := false
	for _, l := range a.view(id).Looks {
		for _, s := range l.Scores {
			found = found || s.Character == "bud.length" && s.Typed == "10 mm"
		}
	}
	require.True(t, found)
	p.open("/trees/" + id + "/story")
	p.sees("off a photograph")
}

// TestCountFromAPoint counts stems from a point of a stand; what cannot be read is said, and
// what was typed stays.
func TestCountFromAPoint(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, phoneWidth, phoneHeight)
	p.open("/stands")
	p.press(`[data-stand="North cove"]`)
	p.press("[data-new-plot]")
	p.write("[data-what]", "sugar maple")
	p.write("[data-diameter]", "many")
	p.press("[data-keep-plot]")
	p.sees("is not a measurement")
	p.clear("[data-diameter]")
	p.write("[data-diameter]", "31")
	p.press("[data-add-stem]")
	p.until(`document.querySelectorAll('[data-stem]').length === 2`)
	p.press("[data-keep-plot]")
	p.until(`document.querySelector('[data-plot="P1"]') !== null`)
	p.sees("One point does not tell how far off it is")
	require.Equal(t, "390", p.eval(`String(document.documentElement.scrollWidth)`))
	p.press(`[data-plot="P1"]`)
	p.until(`document.querySelector('[data-what]').value === 'Acer saccharum'`)
}
