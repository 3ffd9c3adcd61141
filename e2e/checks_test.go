package e2e

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
)

// signsIn signs somebody in on a page.
func (p *page) signsIn(a *app, name string) {
	p.t.Helper()
	p.open("/")
	p.until(`document.querySelector('#who') !== null`)
	p.write("#who", name)
	p.write("#password", crewPassword)
	p.press(`button[type="submit"]`)
	p.until(`document.querySelector('#who') === null`)
}

// names chooses a name that is written down.
func (p *page) names(name string) {
	p.t.Helper()
	p.write("#name-choice", name)
	p.until(fmt.Sprintf(`(() => { const o = document.querySelectorAll('.p-autocomplete-option'); return o.length === 1 && o[0].textContent.includes(%q) })()`, name))
	p.press(".p-autocomplete-option")
	p.until(`document.querySelector('.p-autocomplete-overlay') === null`)
}

// TestCheckCruise plans a check of twenty trees as the lead; somebody else names them, seeing nothing of what
// others made of them; ended, it is read by the lead.
func TestCheckCruise(t *testing.T) {
	t.Parallel()
	const lead, checker = "Odile Marsh", "Ansel Brook"
	a := newCrew(t, true, book.NewMember{Name: lead, Role: book.Lead, Password: crewPassword},
		book.NewMember{Name: checker, Role: book.Observer, Password: crewPassword})
	p := newPage(t, a, deskWidth, deskHeight)
	p.signsIn(a, lead)
	p.sees("60 of 400 trees")
	p.open("/checks")
	p.sees("Spring’s answer")
	p.until(`document.querySelectorAll('[data-checker] option').length >= 2`)
	p.write("[data-check-name]", "Twenty again")
	p.choose("[data-checker]", checker)
	p.write(`input[placeholder="as many as that asks for"]`, "20")
	p.write(`input[placeholder="by chance"]`, "7")
	p.press("[data-draw-check]")
	p.sees("20 trees of")
	p.press("[data-give-check]")
	p.sees("has it: the trees are on their list")

	c := newPage(t, a, deskWidth, deskHeight)
	c.signsIn(a, checker)
	c.sees("You are checking.")
	c.sees("20 trees")
	require.NotContains(t, c.eval(`document.body.innerText`), "Wren Halloran")
	for i := range 2 {
		c.open("/checks")
		c.sees("Look at each as if nobody had")
		c.press(fmt.Sprintf(`ol.rows li:nth-child(%d) a`, i+1))
		c.until(`document.querySelector('#write-name') !== null`)
		require.Contains(t, c.eval(`document.body.innerText`), "Nothing scored yet")
		require.Contains(t, c.eval(`document.body.innerText`), "No name yet")
		c.press("#write-name")
		c.names("Tilia americana")
		c.press("#keep-name")
		c.until(`document.querySelector('#keep-name') === null`)
		c.until(`!document.body.innerText.includes('to send')`)
	}
	c.open("/map")
	c.sees("2 of 20 named")
	c.open("/checks/nothing")
	c.sees("until the check is finished")
	c.press("[data-finish-check]")
	c.sees("18 trees of 20 have no name of yours")
	c.press(".p-confirmdialog-accept-button")
	c.sees("2 of 20 trees were named again")
	c.until(`document.querySelector('[data-checking]') === null`)
	c.open("/")
	c.sees("60 of 400 trees")

	p.open("/checks")
	p.press(`[data-check] a`)
	p.sees("Named otherwise")
	p.sees("Kappa")
}

// TestWalkAtTheDesk goes a walk: looks at bark, scores it, names the tree, ends the walk and reads how it went.
func TestWalkAtTheDesk(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := imagePage(t, a, deskWidth, deskHeight)
	p.open("/practice/walks")
	p.sees("Begin a walk")
	p.clear("[data-walk-trees]")
	p.write("[data-walk-trees]", "3")
	p.press("[data-begin-walk]")
	p.until(`document.querySelector('[data-walk-trees]:invalid') !== null`)
	p.clear("[data-walk-trees]")
	p.write("[data-walk-trees]", "5")
	p.press("[data-begin-walk]")
	p.sees("0 of 5 named")
	p.press(".rows a")
	p.until(`document.querySelector('[data-walk-looks]') !== null`)
	p.press(`[data-part="bark"]`)
	p.until(`document.querySelector('[data-walk-looks] img')?.naturalWidth > 0`)
	p.sees("spent here")
	p.press("#write-name")
	p.names("Quercus rubra")
	p.press("#keep-name")
	p.until(`document.querySelector('#keep-name') === null`)
	p.press(`[data-walk-looks] a`)
	p.sees("1 of 5 named")
	p.press("[data-end-walk]")
	p.sees("4 trees have no name yet")
	p.press(".p-confirmdialog-accept-button")
	p.until(`document.querySelector('[data-account]') !== null`)
	p.sees("You wrote northern red oak")
	p.sees("the program’s order")
}

// TestSpring confirms a tree by its leaf, and finds winter's name put to the proof.
func TestSpring(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/checks")
	p.sees("Of 60 trees named in winter")
	p.open("/trees/" + a.tree("LC-201"))
	p.press("#write-name")
	p.clear("#name-choice")
	p.names("Acer saccharum")
	p.choose("[data-confirms]", "leaf")
	p.press("#keep-name")
	p.sees("confirmed, seen in leaf")
	p.open("/checks")
	p.sees("Of 61 trees named in winter")
}

// TestWordsAndPairs answers a word card by one press, and a pair by which is which and by what.
func TestWordsAndPairs(t *testing.T) {
	nightly(t)
	t.Parallel()
	a := newApp(t, true)
	p := imagePage(t, a, phoneWidth, phoneHeight)
	p.open("/practice")
	p.press(`[data-kind="word"]`)
	p.press(`[data-kind="twig"]`)
	p.press(`[data-kind="bark"]`)
	p.sees("Which is it?")
	p.until(`document.querySelector('.card img')?.naturalWidth > 0`)
	require.Equal(t, "390", p.eval(`String(document.documentElement.scrollWidth)`), "nothing is wider than the screen")
	p.press("[data-state]")
	p.until(`document.querySelector('[data-verdict]') !== null`)
	p.press(`[data-kind="pair"]`)
	p.press(`[data-kind="word"]`)
	p.sees("Which is which, and by what?")
	p.until(`[...document.querySelectorAll('.card img')].filter((i) => i.naturalWidth > 0).length === 2`)
	p.press("[data-first]")
	p.eval(`(document.querySelector('[data-by]').selectedIndex = 1, document.querySelector('[data-by]').dispatchEvent(new Event('change')), '')`)
	p.press("[data-say]")
	p.until(`document.querySelector('[data-verdict]') !== null`)
	p.sees("was the first.")
	p.open("/practice/crew")
	p.sees("Tobias Okafor")
	p.sees("Forgotten next")
}
