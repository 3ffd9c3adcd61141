package e2e

import (
	"fmt"
	"testing"
)

// TestFloraIsBrowsed finds a tree by a name that means two, by what it shows,
// and reads the page about it.
func TestFloraIsBrowsed(t *testing.T) {
	nightly(t)
	t.Parallel()
	a := sharedApp(t)
	p := imagePage(t, a, deskWidth, deskHeight)
	p.open("/flora")
	p.write(`input[type="search"]`, "sycamore")
	p.sees("means 2 trees")
	p.sees("Platanus occidentalis (eastern North America)")
	p.clear(`input[type="search"]`)
	p.write(`input[type="search"]`, "opposite trees")
	p.sees("leaves out")

	p.press(`button[aria-expanded="false"] .pi-filter`)
	p.press(`section[aria-label="Filter by what they show"] [role="group"] button:nth-child(4)`) // twig
	p.sees("Pith")
	p.press(`section[aria-label="Filter by what they show"] .character:nth-of-type(2) button`)
	p.until(`document.querySelectorAll('.states .press').length > 1`)
	p.press(`.states .press`)
	p.until(`document.querySelectorAll('.chip').length === 1`)
	p.until(`document.querySelectorAll('ul.twig img').length > 3`)
	p.press(`[data-wall=""]`)
	p.press(`ul[aria-label="Trees that show it"] a`)
	p.sees("What to look for, from far to near")
	p.sees("Look-alikes")
	p.press(`dt a`)
	p.until(`location.pathname.startsWith('/characters/')`)
}

// TestAListOfOnesOwn keeps a list, is told what is wrong with another, and ranks
// a new tree among the first.
func TestAListOfOnesOwn(t *testing.T) {
	t.Parallel()
	a := newApp(t, false)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/lists")
	p.press("[data-new-list]")
	p.write("#list-name", "pump house avenue")
	p.write("#list-pick", "qqqq\r")
	p.sees("No tree goes by “qqqq” here")
	for _, c := range []struct{ typed, offers string }{{"suger maple", "Acer saccharum"}, {"Tilia cordata", "Tilia cordata"}} {
		p.clear("#list-pick")
		p.write("#list-pick", c.typed)
		p.until(fmt.Sprintf(`document.querySelector('.p-autocomplete-option')?.innerText.includes(%q)`, c.offers)) // not what half of it offered
		p.press(".p-autocomplete-option")
		p.until(fmt.Sprintf(`document.querySelector('[aria-label="Trees of the list"]')?.innerText.includes(%q)`, c.offers))
	}
	p.until(`document.querySelectorAll('[aria-label="Trees of the list"] li').length === 2`)
	p.press(`form button[type="submit"]`)
	p.sees("Kept: pump house avenue, 2 trees")
	p.open("/")
	p.write("#new-tag", "PH-1")
	p.write("#new-tract", "Lantern Creek watershed forest")
	p.write("#new-stand", "Pump house avenue")
	p.choose("#new-among", "pump house avenue")
	p.press("#new-start")
	p.until(`document.querySelectorAll('[data-why]').length === 3`)
}
