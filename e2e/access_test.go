package e2e

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// TestFocusGoesWithTheWork: after a link, a tree and a dialog the focus is where the work
// goes on, and windows are named after their pages.
func TestFocusGoesWithTheWork(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/")
	p.sees("60 of 400 trees")
	p.press(`nav a[href="/worklist"]`)
	p.until(`document.activeElement.tagName === 'H1' && document.activeElement.textContent === 'Worklist'`)
	require.Equal(t, "Worklist · Pale Thicket", p.eval("document.title"))
	p.open("/trees/" + a.tree("LC-101"))
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

// TestMapByKeyboard goes from tree to tree on the map, is told which it is, and opens it.
func TestMapByKeyboard(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/map")
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
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/")
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
	p.press("[data-add-tree]")
	p.until(`document.activeElement.id === 'new-tag'`)
	p.until(`document.querySelector('#new-tag').value === 'LC-410'`)
	require.Equal(t, "Upper slope", p.eval(`document.querySelector('#new-stand').value`))
}

// TestSuggestedNamesForAccessibility: axe-core finds nothing serious in the list under a name.
func TestSuggestedNamesForAccessibility(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	p := newPage(t, a, deskWidth, deskHeight)
	p.loadChecks()
	p.open("/trees/" + a.tree("LC-103"))
	p.press("#write-name")
	p.write("#name-choice", "oak")
	p.until(`document.querySelectorAll('.p-autocomplete-option').length > 3`)
	require.Empty(t, p.await(`serious()`))
}

// TestComingBack: a list's filter is in its address, and one comes back to it as one left it, also
// where the list was opened by a link. The first key on a page skips the doors.
func TestComingBack(t *testing.T) {
	t.Parallel()
	p := newPage(t, newApp(t, true), deskWidth, deskHeight)
	p.open("/?text=lc+1&status=named")
	p.until(`document.querySelector('.rows li') !== null`)
	p.key("\t")
	p.until(`document.activeElement.innerText === 'Skip to the page'`)
	p.key("\r")
	p.until(`document.activeElement.tagName === 'H1'`)
	require.Equal(t, "lc 1", p.eval(`document.querySelector('#find').value`))
	p.clear("#find")
	p.until(`location.search === '?status=named'`)
	p.until(`document.querySelectorAll('.rows li').length > 40`)
	p.eval(`(document.querySelectorAll('.rows li')[40].scrollIntoView(), '')`)
	at := p.eval(`String(scrollY)`)
	require.NotEqual(t, "0", at)
	p.eval(`(document.querySelectorAll('.rows li a')[42].click(), '')`)
	p.until(`document.querySelector('header .back') !== null`)
	p.eval(`(history.back(), '')`)
	p.until(`location.search === '?status=named' && String(scrollY) === '` + at + `'`)
}
