package e2e

import (
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// allSent is true once the browser keeps no entry that the book does not have.
const allSent = `!Object.keys(localStorage).some(k => k.startsWith('palethicket.entry.'))`

// tile is a state's tile on a character's card.
func tile(character, state string) string {
	return `[id="card-` + character + `"] [data-state="` + state + `"]`
}

// TestNameATree does the main job by hand on a fresh book: start a tree, score
// what can be seen, write a name down, close the program and find it again.
func TestNameATree(t *testing.T) {
	t.Parallel()
	a := newApp(t, false)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/")
	p.sees("The book is empty")
	p.write("#new-tag", "LC-401")
	p.write("#new-tract", "Lantern Creek watershed forest")
	p.write("#new-stand", "Upper slope")
	p.press("#new-start")

	p.press(`[data-from="tree"]`)
	p.press(`[data-section="bark"]`)
	p.press(tile("bark.texture", "small-scales"))
	p.press(tile("bark.color", "near-black"))
	p.press(`[data-section="twig"]`)
	p.press(`[id="card-twig.arrangement"] [data-tally="single"]`)
	p.press(`[id="card-twig.arrangement"] [data-tally="single"]`)
	p.sees("0 pairs in 2 nodes")
	p.press(tile("twig.scent", "bitter-almond"))
	p.press(`[data-section="bud"]`)
	p.write(`[id="value-bud.length"]`, "4\r")
	p.sees("Black cherry")
	p.until(`document.querySelector('.name').dataset.rank === 'species'`)

	p.press("#write-name")
	p.write("#name-why", "Burnt-crisp scales, bitter almond")
	p.press("#keep-name")
	p.sees("stood at")

	a.stop()
	a.start()
	p.open("/")
	p.sees("LC-401")
	p.sees("Black cherry")
	p.sees("written down: black cherry")
	p.press(`a[href^="/trees/"]`)
	p.sees("bark texture: small scales")
	p.sees("Burnt-crisp scales, bitter almond")
	v := a.view(a.tree("LC-401"))
	require.Len(t, v.Looks, 1)
	require.Len(t, v.Looks[0].Scores, 5)
	require.Equal(t, "Prunus serotina", v.Names[0].Name)
}

// TestKindsOfScore scores a sign, lowers a certainty, keeps two states, counts
// back, and withdraws.
func TestKindsOfScore(t *testing.T) {
	nightly(t)
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	id := a.tree("LC-303")
	p.open("/trees/" + id)
	p.press("#add-look")
	p.press(`[data-from="tree"]`)
	p.press(`[data-section="bark"]`)
	p.press(`[id="card-bark.trunk-thorns"] [data-seen="false"]`)
	p.sees("thorns on the trunk: looked, not seen")

	p.press(tile("bark.give", "hard"))
	p.press(tile("bark.give", "hard"))
	p.until(
		`[...document.querySelectorAll('[id="card-bark.give"] .certainty [aria-pressed="true"]')].map(b => b.textContent).join() === 'fair'`,
	)

	p.press(`[id="card-bark.color"] .either`)
	p.press(tile("bark.color", "mid-grey"))
	p.press(tile("bark.color", "dark-grey"))
	p.sees("mid gray or dark gray")

	p.press(`[id="card-bark.give"] .drop`)
	p.until(`!document.querySelector('aside').innerText.includes('give of the bark')`)
	p.until(allSent)

	scores := a.view(id).Looks[2].Scores
	require.Len(t, scores, 2)
	require.False(t, *scores[0].Seen)
	require.Equal(t, []string{"mid-grey", "dark-grey"}, scores[1].States)
}

// TestTwoWindows scores one tree in two windows; both scores are kept and both
// windows come to show them.
func TestTwoWindows(t *testing.T) {
	nightly(t)
	t.Parallel()
	a := newApp(t, true)
	id := a.tree("LC-205")
	one, two := newPage(t, a, deskWidth, deskHeight), newPage(t, a, deskWidth, deskHeight)
	for _, p := range []*page{one, two} {
		p.open("/trees/" + id)
		p.press(`[data-section="bud"]`)
	}
	one.press(tile("bud.coat", "downy"))
	two.press(tile("bud.stance", "pressed"))
	for _, p := range []*page{one, two} {
		p.until(allSent)
	}
	for _, p := range []*page{one, two} {
		p.eval(`(window.dispatchEvent(new Event('focus')), '')`) // as whoever comes to it would
		p.sees("bud coat: downy")
		p.sees("bud stance: pressed")
	}
	require.Len(t, a.view(id).Looks[1].Scores, 4)
}

// TestLostConnection presses while the program is stopped; what was pressed is
// shown, kept, and sent when it returns.
func TestLostConnection(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	id := a.tree("LC-205")
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/trees/" + id)
	p.press(`[data-section="bud"]`)
	a.stop()
	p.press(tile("bud.coat", "downy"))
	p.sees("bud coat: downy")
	p.sees("kept here, to be sent")
	a.start()
	p.until(allSent)
	scores := a.view(id).Looks[1].Scores
	require.Equal(t, "bud.coat", scores[len(scores)-1].Character)
}

// TestStranger shows that a fallen twig is probably another tree's.
func TestStranger(t *testing.T) {
	nightly(t)
	t.Parallel()
	a := sharedApp(t)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/trees/" + a.tree("LC-103"))
	p.sees("probably another tree")
	p.sees("counts for little")
}

// TestPhone scores with one thumb at the width of a phone.
func TestPhone(t *testing.T) {
	nightly(t)
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, phoneWidth, phoneHeight)
	id := a.tree("LC-201")
	p.open("/trees/" + id)
	p.press(`[data-section="bark"]`)
	p.press(tile("bark.color", "pale-grey"))
	p.press(`[data-to="standing"]`)
	p.sees("An ash of some kind")
	p.until(`document.documentElement.scrollWidth <= innerWidth`)
}

// TestWhyNot asks why a tree that was expected does not lead, and follows what
// would settle it to its card.
func TestWhyNot(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/trees/" + a.tree("LC-201"))
	p.press(`[data-why="Fraxinus pennsylvanica"]`)
	p.sees("stands at place 2")
	p.sees("How common here")
	p.until(`document.querySelectorAll('.next').length > 0`)
	character := p.eval(`(document.querySelector('.next strong').textContent)`)
	p.press(".next")
	p.until(`!document.querySelector('.p-dialog')`)
	p.sees(character)
	p.until(`document.activeElement.closest('section[id^="card-"]') !== null`)
}

// TestClosedWhileLost presses while the program is stopped and closes the page;
// the next page that opens sends what was pressed.
func TestClosedWhileLost(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	id := a.tree("LC-205")
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/trees/" + id)
	p.press(`[data-section="bud"]`)
	a.stop()
	p.press(tile("bud.coat", "downy"))
	p.sees("kept here, to be sent")
	p.open("about:blank")
	a.start()
	p.open("/trees/" + a.tree("LC-101"))
	p.sees("Northern red oak")
	p.until(allSent)
	scores := a.view(id).Looks[1].Scores
	require.Equal(t, "bud.coat", scores[len(scores)-1].Character)
}

// TestNameAtOnce: in an empty book, whoever only wants a name presses once and scores.
func TestNameAtOnce(t *testing.T) {
	t.Parallel()
	p := newPage(t, newApp(t, false), phoneWidth, phoneHeight)
	p.open("/")
	p.press("[data-name-a-tree]")
	p.sees("Filed in Unfiled.")
	p.press(`main [data-from="tree"]`)
	p.press(`[data-tally="pair"]`)
	p.until(`!document.querySelector('[data-leader]').innerText.includes('Nothing scored')`)
	p.press("[data-filed] a")
	p.until(`location.pathname.endsWith('/story')`)
	p.open("/name")
	p.press("[data-discard]")
	p.until(`location.pathname === '/'`)
	p.sees("1 of 1 tree")
}

// TestDiscardedWithoutALine: who discards a tree while the line is down goes on meanwhile, and is
// not called back once it is sent.
func TestDiscardedWithoutALine(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/worklist")
	p.until(`document.querySelectorAll('.rows li').length > 3`)
	p.press("[data-name-a-tree]")
	p.until(`document.querySelector('[data-discard]') !== null`)
	id := p.eval(`location.pathname.split('/')[2]`)
	a.stop()
	p.press("[data-discard]")
	p.sees("kept here, to be sent")
	p.press("header .back")
	p.until(`location.pathname === '/worklist'`)
	p.press(".rows li a")
	p.until(`location.pathname.startsWith('/trees/')`)
	there := p.eval(`location.pathname`)
	a.start()
	p.until(allSent)
	require.True(t, a.view(id).Facts.Aside)
	p.do(chromedp.Sleep(time.Second))
	require.Equal(t, there, p.eval(`location.pathname`))
}
