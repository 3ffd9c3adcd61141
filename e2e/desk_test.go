package e2e

import (
	"fmt"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// newTree starts a tree in the browser, with a look at the tree itself.
func newTree(p *page, a *app, tag string) {
	p.open("/")
	p.until(`document.querySelector('[data-add-tree]') !== null`)
	p.eval(`(() => { if (!document.querySelector('#new-tag')) document.querySelector('[data-add-tree]').click(); return '' })()`)
	p.write("#new-tag", tag)
	p.clear("#new-tract")
	p.write("#new-tract", "Lantern Creek watershed forest")
	p.clear("#new-stand")
	p.write("#new-stand", "Upper slope")
	p.press("#new-start")
	p.press(`[data-from="tree"]`)
	p.until(`document.querySelector('[data-section]') !== null`)
}

// key presses a key where the focus is.
func (p *page) key(keys string) { p.t.Helper(); p.do(chromedp.KeyEvent(keys)) }

// TestRoutesOrderTheWork switches between the four routes: each orders the
// parts of the tree its own way, and nothing that was scored is lost.
func TestRoutesOrderTheWork(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	newTree(p, a, "LC-501")
	p.press(`[data-section="bark"]`)
	p.press(tile("bark.texture", "mesh-ridges"))
	for route, first := range map[string]string{"branching-first": "twig", "bark-first": "bark", "twig-in-hand": "bud", "outline-to-site": "form"} {
		p.choose("#route", route)
		p.until(fmt.Sprintf(`document.querySelector('[data-section]').dataset.section === %q`, first))
		p.sees("bark texture: mesh ridges")
	}
	p.until(allSent)
	require.Len(t, a.view(a.tree("LC-501")).Looks[0].Scores, 1)
}

// tooSoon is longer than a second press on an answer counts for the question before.
const tooSoon = 450 * time.Millisecond

// TestKeyWalk answers either/or questions to a name, leaves the walk on the way
// and comes back to it; the answers stand in the slips.
func TestKeyWalk(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	newTree(p, a, "LC-502")
	p.press("[data-walk]")
	p.sees("Arrangement")
	time.Sleep(tooSoon)
	const opposite = `[...document.querySelectorAll('[data-option]')].findIndex((o) => o.innerText.toLowerCase().includes('opposite'))`
	p.until(opposite + ` >= 0`)
	p.eval(`(() => { document.querySelectorAll('[data-option]')[` + opposite + `].click(); return '' })()`)
	p.until(`document.querySelector('.question h3')?.textContent !== 'Arrangement'`)
	p.press(`main[aria-label="Key walk"] header button`)
	p.sees("arrangement:")
	p.press("[data-walk]")
	p.until(`document.querySelector('[data-skip]') !== null`)
	time.Sleep(tooSoon)
	p.press("[data-skip]")
	for range 40 {
		p.until(`!!document.querySelector('.settled, [data-option]') || document.body.innerText.includes('Nothing more can be asked')`)
		if p.eval(`String(!document.querySelector('[data-option]') || !!document.querySelector('.settled'))`) == "true" {
			break
		}
		asked := p.eval(`document.querySelector('.question h3').textContent`)
		time.Sleep(tooSoon)
		p.press(`[data-option="0"]`) // the answer that speaks for the leader
		p.until(fmt.Sprintf(`document.querySelector('.question h3')?.textContent !== %q`, asked))
	}
	p.until(`document.querySelector('.settled') !== null`)
	p.until(allSent)
	v := a.view(a.tree("LC-502"))
	require.Equal(t, "species", string(v.Result.Named.Rank))
	scores := 0
	for _, l := range v.Looks {
		scores += len(l.Scores)
	}
	require.LessOrEqual(t, scores, 25)
	t.Logf("%s in %d answers", v.Result.Named.Words, scores)
}

// TestKeyboardAlone scores each kind of character, takes steps back and forth
// and reads the sheet of keys without a mouse.
func TestKeyboardAlone(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	newTree(p, a, "LC-503")
	p.key("?")
	p.sees("count a pair; count a single")
	p.key("\u001b")
	p.until(`!document.querySelector('.p-dialog')`)
	p.eval(`(document.querySelector('.keys').focus(), '')`)
	p.sees("Keys (?)")
	p.eval(`(document.activeElement.blur(), '')`)
	p.until(`!document.querySelector('.p-tooltip')`)

	p.key("j") // the first card of the first part is the arrangement
	p.key("p")
	p.key("p")
	p.key("s")
	p.sees("2 pairs in 3 nodes")
	p.key("j")
	p.key("j")
	p.until(`document.activeElement.closest('[data-card]')?.dataset.card === 'twig.color'`)
	p.key("2")
	p.sees("twig color: red brown")
	p.key("2")
	p.until(
		`[...document.querySelectorAll('[data-card="twig.color"] .certainty [aria-pressed="true"]')].map((b) => b.textContent).join() === 'fair'`,
	)
	p.key("u")
	p.until(
		`[...document.querySelectorAll('[data-card="twig.color"] .certainty [aria-pressed="true"]')].map((b) => b.textContent).join() === 'sure'`,
	)
	p.key("u")
	p.until(`!document.querySelector('aside').innerText.includes('twig color')`)
	p.key("r")
	p.sees("twig color: red brown")
	p.key("x")
	p.until(`!document.querySelector('aside').innerText.includes('twig color')`)
	p.key("u")
	p.sees("twig color: red brown")
	for range 4 { // hair, and glands, a sign
		p.key("j")
	}
	p.until(`document.activeElement.closest('[data-card]') !== null`)
	p.key("l")
	p.until(`document.querySelector('[data-section][aria-selected="true"]').dataset.section === 'bud'`)
	p.key("g")
	p.until(`document.activeElement.closest('[data-card]') !== null`)
	p.until(allSent)
	v := a.view(a.tree("LC-503"))
	require.Len(t, v.Looks[0].Scores, 2)
	require.Equal(t, 2, *v.Looks[0].Scores[0].Pairs)
}

// TestUndoOfLooksAndFacts takes a withdrawn look back with its scores, and a
// fact of the visit.
func TestUndoOfLooksAndFacts(t *testing.T) {
	nightly(t)
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/trees/" + a.tree("LC-101"))
	p.sees("Northern red oak")
	const slips = `aside[aria-label="Looks at this tree"] > ol > li`
	p.press(slips + ":nth-child(3) .head")
	p.press(slips + ":nth-child(3) .drop")
	p.until(`document.querySelectorAll('` + slips + `').length === 2`)
	p.press(`[aria-label="Undo"]`)
	p.until(`document.querySelectorAll('` + slips + `').length === 3`)
	p.sees("bud length: 6.5 mm, mean of 3")
	p.press("#visit")
	p.choose("#snow", "deep")
	p.until(allSent)
	require.Equal(t, "deep", a.view(a.tree("LC-101")).Facts.Snow)
	p.press(`[aria-label="Undo"]`)
	p.press("#visit")
	p.until(`document.querySelector('#snow')?.value === 'none'`)
	p.until(allSent)
	require.Equal(t, "none", a.view(a.tree("LC-101")).Facts.Snow)
	require.Len(t, a.view(a.tree("LC-101")).Looks, 3)
}

// TestMeasures writes lengths as people do, is told what cannot be read, and
// takes one off the screen's gauge.
func TestMeasures(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	newTree(p, a, "LC-504")
	p.press(`[data-section="bud"]`)
	p.write(`[id="value-bud.length"]`, "thin\r")
	p.sees("several readings as 5; 6; 5.5")
	p.clear(`[id="value-bud.length"]`)
	p.write(`[id="value-bud.length"]`, "5; 6; 5.5\r")
	p.sees("mean of 3 readings, spread 0.5 mm")
	p.sees("bud length: 5.5 mm, mean of 3 readings")
	p.press(`[data-section="twig"]`)
	p.write(`[id="value-twig.diameter"]`, "1/4 in\r")
	p.sees("twig thickness: 0.25 in")
	p.press(`[id="card-twig.diameter"] [data-gauge]`)
	p.sees("hold a bank card against the frame")
	p.press("[data-calibrated]")
	p.press("[data-measured]")
	p.sees("twig thickness: 6 mm")
	p.until(allSent)
}

// TestDrawnAndCompared sees the tree drawn beside its leader, goes on to all
// they differ in, and presses a difference to score it.
func TestDrawnAndCompared(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	p := imagePage(t, a, deskWidth, deskHeight)
	p.open("/trees/" + a.tree("LC-204"))
	p.press("[data-drawn]")
	p.until(`[...document.querySelectorAll('.p-dialog img')].filter((i) => i.naturalWidth > 0).length === 9`)
	p.sees("LC-204, as scored")
	p.press(".p-dialog .go")
	p.sees("Only what they differ in")
	p.press("tbody tr:first-child button")
	p.until(`location.pathname.startsWith('/trees/')`)
	p.until(`document.activeElement.closest('[data-card]') !== null`)
}

// TestCautionsBite shows a caution at the part of the tree where it matters.
func TestCautionsBite(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/trees/" + a.tree("LC-106")) // a black cherry
	p.press(`[data-section="twig"]`)
	p.sees("smell, never taste")
	p.press(`[data-section="bark"]`)
	p.until(`!document.querySelector('main').innerText.includes('smell, never taste')`)
}
