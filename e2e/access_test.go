package e2e

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// mainViews are the pages that a person comes to, of a filled book.
func mainViews(a *app) []string {
	tree := "/trees/" + a.tree("LC-101")
	return []string{
		"/",
		"/worklist",
		"/map",
		"/stands",
		"/files",
		"/flora",
		"/flora/Acer%20rubrum",
		"/compare?taxon=Acer%20rubrum&taxon=Acer%20saccharum",
		"/characters",
		"/pair?taxon=Acer%20rubrum&taxon=Acer%20saccharum",
		"/practice",
		"/practice/walks",
		"/measure",
		"/day",
		"/key",
		"/practice/crew",
		"/checks",
		"/lists",
		"/crew",
		"/settings",
		"/waiting",
		tree,
		tree + "/story",
	}
}

// small lists what is pressed and lower or narrower than a gloved finger: links within a
// sentence are left out.
const small = `[...document.querySelectorAll('a, button, select, summary, input:not([type="file"])')].filter((e) => {
	const r = e.getBoundingClientRect(), s = getComputedStyle(e)
	if (!r.width || s.visibility === 'hidden' || e.closest('.sr-only, .leaflet-control-attribution') || e.type === 'range') return false
	if (e.type === 'checkbox' || e.type === 'radio') return (e.closest('label') ?? e).getBoundingClientRect().height < 43.5
	if (e.matches('a') && e.closest('p') && s.display === 'inline') return false
	return r.height < 43.5 && !(parseFloat(getComputedStyle(e, '::after').height) >= 43.5)
}).map((e) => e.tagName + '.' + e.className + ' ' + e.textContent.trim().slice(0, 24) + ' ' + Math.round(e.getBoundingClientRect().height)).join('\n')`

// TestTargets: everything that is pressed is at least 44 px high, at the desk and on a
// telephone.
func TestTargets(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	for size, p := range map[string]*page{"desk": newPage(t, deskWidth, deskHeight), "telephone": newPage(t, phoneWidth, phoneHeight)} {
		for _, view := range mainViews(a) {
			p.open(a.url(view))
			p.until(`document.querySelector('h1, [data-work]') !== null && !document.body.innerText.includes('Opening')`)
			p.until(`document.readyState === 'complete'`)
			p.still()
			if found := p.eval(small); found != "" {
				t.Errorf("%s, %s:\n%s", size, view, found)
			}
		}
	}
}

// TestFocusGoesWithTheWork: after a link, a tree and a dialog the focus is where the work
// goes on, and windows are named after their pages.
func TestFocusGoesWithTheWork(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, deskWidth, deskHeight)
	p.open(a.url("/"))
	p.sees("60 of 400 trees")
	p.press(`nav a[href="/worklist"]`)
	p.until(`document.activeElement.tagName === 'H1' && document.activeElement.textContent === 'Worklist'`)
	require.Equal(t, "Worklist · Pale Thicket", p.eval("document.title"))
	p.open(a.url("/trees/" + a.tree("LC-101")))
	p.until(`document.activeElement.hasAttribute('data-work')`)
	require.True(t, strings.HasPrefix(p.eval("document.title"), "LC-101"))
	p.press(`.keys`)
	p.sees("write the name down")
	p.key("\u001b")
	p.until(`document.activeElement.classList.contains('keys')`)
	p.key("t")
	p.until(`['keep-name', 'name-choice'].includes(document.activeElement.id)`)
	p.press(`[aria-label="Name written down"] form .quiet`)
	p.until(`document.activeElement.id === 'write-name'`)
	p.press(`[aria-label="Looks at this tree"] li:first-child [data-look]`)
	p.until(`document.activeElement.hasAttribute('data-work')`)
}

// TestNarrowAndLarge: nothing is covered or cut at twice the size of the desk, and with
// text at twice its size on a telephone.
func TestNarrowAndLarge(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	tree := a.url("/trees/" + a.tree("LC-101"))
	fits := `document.documentElement.scrollWidth <= innerWidth`
	scored := `document.querySelector('.desk').getBoundingClientRect().height > 120`
	p := newPage(t, 640, 400)
	p.open(tree)
	p.until(`document.querySelector('[data-section]') !== null`)
	p.until(fits)
	p.until(scored)
	p.press("#visit")
	p.until(scored)
	p = newPage(t, phoneWidth, phoneHeight)
	p.open(a.url("/"))
	p.eval(`(localStorage.setItem('palethicket.text', '200'), '')`)
	for _, view := range mainViews(a) {
		p.open(a.url(view))
		p.until(`document.querySelector('h1, [data-work]') !== null`)
		if p.eval("String("+fits+")") != "true" {
			t.Errorf("%s is wider than the telephone", view)
		}
	}
	p.open(tree)
	p.until(`document.querySelector(".desk") !== null`)
	p.until(scored)
}

// TestMapByKeyboard goes from tree to tree on the map, is told which it is, and opens it.
func TestMapByKeyboard(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, deskWidth, deskHeight)
	p.open(a.url("/map"))
	p.sees("400 trees with a position")
	p.write("[data-find]", "LC-101")
	p.sees("1 tree with a position of those asked for")
	p.eval(`(document.querySelector('.map').focus(), '')`)
	p.key("n")
	p.sees("LC-101: northern red oak")
	p.key("\r")
	p.until(`location.pathname === '/trees/` + a.tree("LC-101") + `'`)
}

// TestNextTreeIsProposed: in an empty book the form is open with the tag in focus; after a
// tree the next has its tag counted on and its tract and stand.
func TestNextTreeIsProposed(t *testing.T) {
	t.Parallel()
	a := newApp(t, false)
	p := newPage(t, deskWidth, deskHeight)
	p.open(a.url("/"))
	p.until(`document.activeElement.id === 'new-tag'`)
	p.press("#new-start")
	p.until(`document.activeElement.getAttribute('aria-invalid') === 'true'`)
	p.write("#new-tag", "LC-409")
	p.write("#new-tract", "Lantern Creek watershed forest")
	p.write("#new-stand", "Upper slope")
	p.press("#new-start")
	p.until(`document.querySelector('[data-choosing]') !== null`)
	p.press("header .back")
	p.sees("LC-409")
	p.press("header .lead")
	p.until(`document.activeElement.id === 'new-tag'`)
	require.Equal(
		t,
		"LC-410 Upper slope",
		p.eval(`document.querySelector('#new-tag').value + ' ' + document.querySelector('#new-stand').value`),
	)
}

// TestSuggestedNamesForAccessibility: the list that opens under a name is sound too.
func TestSuggestedNamesForAccessibility(t *testing.T) {
	t.Parallel()
	axe, err := os.ReadFile("../ui/node_modules/axe-core/axe.min.js")
	require.NoError(t, err, "npm ci in ui/ brings axe-core")
	a := newApp(t, true)
	p := newPage(t, deskWidth, deskHeight)
	p.open(a.url("/trees/" + a.tree("LC-103")))
	p.press("#write-name")
	p.write("#name-choice", "oak")
	p.until(`document.querySelectorAll('.p-autocomplete-option').length > 3`)
	require.Empty(t, p.serious(string(axe)))
}
