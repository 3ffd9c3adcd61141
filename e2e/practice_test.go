package e2e

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// TestPractice names a drawn tree wrongly, is shown it beside the other with what would
// have told, goes on by the keyboard, and erases what was practised.
func TestPractice(t *testing.T) {
	t.Parallel()
	a := newApp(t, false)
	p := imagePage(t, a, deskWidth, deskHeight)
	p.open("/practice")
	p.sees("Whose twig is this?")
	p.until(`document.querySelector('.card img')?.naturalWidth > 0`)
	require.NotContains(t, p.eval(`document.querySelector('.card').innerHTML`), "red maple", "whose it is stays hidden")
	p.press("[data-say]")
	p.sees("Say a name")
	p.write("#practice-name", "no such tree")
	p.sees("No results found")
	p.closeNames() // the list of names lies over the buttons while it is open
	p.press("[data-say]")
	p.sees("No tree here is called")
	p.clear("#practice-name")
	p.write("#practice-name", "Pinus strobus")
	p.press(".p-autocomplete-option")
	p.until(`document.querySelector('.p-autocomplete-overlay') === null`)
	p.press(`[data-sure="sure"]`)
	p.press("[data-say]")
	p.sees("Another tree.")
	p.sees("What tells it from")
	p.until(`[...document.querySelectorAll('.card img')].filter((i) => i.naturalWidth > 0).length === 3`)
	p.sees("It comes again before you leave.")
	p.until(`document.activeElement.id === 'practice-next'`)
	p.key("\r")
	p.sees("1 due")
	p.press("[data-unknown]")
	p.sees("Not known.")
	p.open("/")
	p.sees("cards are due in Practice")
	p.press("[data-due-line] a")
	p.press("[data-forget]")
	p.press(".p-confirmdialog-accept-button")
	p.until(`document.querySelector('[aria-label="Your own figures"]') === null`)
	p.open("/practice")
	p.sees("0 due")
}

// closeNames closes a field's list of names. A search for the last key may open it once more.
func (p *page) closeNames() {
	p.t.Helper()
	for end := time.Now().Add(stuck); time.Now().Before(end); {
		p.key("\u001b")
		time.Sleep(400 * time.Millisecond) // the field searches 300 ms after a key
		if p.eval(`String(document.querySelector('.p-autocomplete-overlay') === null)`) == "true" {
			return
		}
	}
	p.t.Fatal("the list of names stays open")
}
