package e2e

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/network"
	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
)

func newULID() string { return ulid.Make().String() }

// seen is a tree as the one signed in at the page sees it.
func (a *app) seen(p *page, id string) (v book.TreeView) {
	p.t.Helper()
	p.eval(`(window.got = '', fetch('/api/trees/` + id + `').then((r) => r.text()).then((t) => (window.got = t)), '')`)
	p.until(`window.got !== ''`)
	require.NoError(p.t, json.Unmarshal([]byte(p.eval(`window.got`)), &v))
	return v
}

// begun starts a tree of the upper slope.
func (a *app) begun(t *testing.T, tag string) (id string) {
	t.Helper()
	id = newULID()
	body := fmt.Sprintf(
		`{"id": %q, "tag": %q, "tract": "Lantern Creek watershed forest", "stand": "Upper slope", "list": "Lantern Creek"}`,
		id,
		tag,
	)
	res, err := http.Post(a.url("/api/trees"), "application/json", strings.NewReader(body))
	require.NoError(t, err)
	res.Body.Close()
	require.Equal(t, 201, res.StatusCode)
	return id
}

// scores gives what a tree's looks say, as "bark.texture=plates".
func (a *app) scores(tag string) (all []string) {
	v := a.view(a.tree(tag))
	for _, l := range v.Looks {
		for _, s := range l.Scores {
			all = append(all, s.Character+"="+strings.Join(s.States, "/"))
		}
	}
	return all
}

// TestKeysActOnWhatIsInHand: a digit presses nothing of a card that nobody took, and the
// card in hand is framed.
func TestKeysActOnWhatIsInHand(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	newTree(p, a, "LC-520")
	p.press(`[data-section="bark"]`)
	p.eval(`(document.querySelector('[data-work]').focus(), '')`)
	p.key("1")
	p.sees("No character is in hand")
	require.Empty(t, a.scores("LC-520"))
	p.key("j")
	p.until(`document.querySelector('[data-card][data-hand]') !== null`)
	p.key("1")
	p.until(`document.querySelector('[data-hand] [data-state][aria-pressed="true"]') !== null`)
	p.until(allSent)
	require.Len(t, a.scores("LC-520"), 1)

	p.press(`[data-section="twig"]`) // the arrangement's plain claims are folded away
	p.key("j")
	p.key("1")
	p.until(allSent)
	require.Len(t, a.scores("LC-520"), 1, "a tile in a closed fold is not pressed")
	p.key("p")
	p.key("s")
	p.sees("1 pair in 2 nodes")
	p.key("b")
	p.sees("1 pair in 1 node")
	p.until(allSent)
	v := a.view(a.tree("LC-520"))
	last := v.Looks[0].Scores[len(v.Looks[0].Scores)-1]
	require.Equal(t, []int{1, 1}, []int{*last.Pairs, *last.Nodes}, "the last press was a single")
}

// TestMeasuresAreKeptOnLeaving: without a press on Keep; and a field being written is not
// written over by what comes from another window.
func TestMeasuresAreKeptOnLeaving(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	newTree(p, a, "LC-521")
	p.press(`[data-section="twig"]`)
	p.write(`[id="value-twig.diameter"]`, "1/4 in")
	p.press(`[data-section="twig"]`)
	p.sees("1/4 in = 6.35 mm, by ruler, 1 reading")
	p.until(allSent)
	p.write(`[id="value-twig.diameter"]`, "9")
	id := a.tree("LC-521")
	look := a.view(id).Looks[0].ID
	body := fmt.Sprintf(`{"id": %q, "kind": "score", "look": %q, "score": {"character": "twig.diameter", "typed": "3 mm"}}`, newULID(), look)
	res, err := http.Post(a.url("/api/trees/"+id+"/entries"), "application/json", strings.NewReader(body))
	require.NoError(t, err)
	res.Body.Close()
	require.Equal(t, 200, res.StatusCode)
	p.eval(`(window.dispatchEvent(new Event('focus')), '')`)
	p.sees("twig thickness: 3 mm")
	require.Equal(t, "1/4 in9", p.eval(`document.querySelector('[id="value-twig.diameter"]').value`))
	p.key("\u001b")
	p.until(`document.querySelector('[id="value-twig.diameter"]').value === '3 mm'`)
	p.clear(`[id="value-twig.diameter"]`)
	p.write(`[id="value-twig.diameter"]`, "4 furlongs")
	p.press(`[data-section="twig"]`)
	p.sees("Not kept.")
	p.clear(`[id="value-twig.diameter"]`)
	p.write(`[id="value-twig.diameter"]`, "3 m")
	p.press(`[data-section="twig"]`)
	p.sees("cannot be 3000 mm")
}

// TestNothingIsBegunByLooking: a look that was only opened leaves nothing, and a new look
// can be left.
func TestNothingIsBegunByLooking(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	newTree(p, a, "LC-522")
	p.press(`[data-next]`)
	p.until(allSent)
	require.Empty(t, a.view(a.tree("LC-522")).Looks)
	p.press("#add-look")
	p.press("[data-choosing] [data-leave]")
	p.until(`document.querySelector('#add-look') !== null`)
	p.press("[data-leave-look]")
	p.sees("Nothing looked at yet")
}

// TestTwoPeopleOneDevice: what one entered while the line was down waits for them, is seen
// on every page, and goes under nobody else's name.
func TestTwoPeopleOneDevice(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	a.stop()
	a.crew = []book.NewMember{
		{Name: "Wren Halloran", Role: book.Lead, Password: crewPassword},
		{Name: "Marit Sandoval", Role: book.Observer, Password: crewPassword},
		{Name: "Tobias Okafor", Role: book.Observer, Password: crewPassword},
	}
	a.start()
	p := newPage(t, a, deskWidth, deskHeight)
	signIn := func(name string) {
		p.write(`input[autocomplete="username"]`, name)
		p.write(`input[autocomplete="current-password"]`, crewPassword+"\r")
	}
	p.open("/worklist")
	signIn("Marit Sandoval")
	p.press("[data-home]") // looks at a twig of the tree itself
	p.until(`[...document.querySelectorAll('.rows li')].every((l) => l.querySelector('.pi-home, [data-name-it]'))`)
	p.press("[data-take]")
	p.until(`document.querySelector('[data-section]') !== null`)
	id := p.eval(`location.pathname.split('/')[2]`)
	before := len(a.seen(p, id).Looks)
	a.stop()
	p.press(`[data-section="bark"]`)
	p.press(tile("bark.color", "white"))
	p.sees("kept here, to be sent")
	p.press(`[aria-label="Back to the worklist"]`)
	p.sees("kept here, to be sent")
	p.do(call(network.ClearBrowserCookies, cdp.Empty{}))
	a.start()
	p.sees("Your session ended")
	p.sees("kept on this device for Marit Sandoval")
	p.eval(`(document.querySelector('#who').value = '', document.querySelector('#who').dispatchEvent(new Event('input')), '')`)
	signIn("Tobias Okafor")
	p.sees("kept here for somebody else")
	require.Len(t, a.seen(p, id).Looks, before, "nothing went under another's name")
	p.press("[data-kept]")
	p.sees("Kept for somebody else")
	p.do(call(network.ClearBrowserCookies, cdp.Empty{}))
	p.open("/")
	signIn("Marit Sandoval")
	p.until(`Object.keys(localStorage).every((k) => !k.startsWith('palethicket.entry.'))`)
	v := a.seen(p, id)
	require.Equal(t, "Marit Sandoval", v.Acts[len(v.Acts)-1].By)
}

// TestFiltersStayWithTheirPage: opening the stands hides nothing elsewhere, and a list is
// as one left it.
func TestFiltersStayWithTheirPage(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/stands")
	p.press(`[data-stand="Upper slope"]`)
	p.press(`nav a[href="/"]`)
	p.sees("60 of 400 trees")
	p.press(".more .press")
	p.sees("120 of 400 trees")
	p.eval(`(document.querySelectorAll('.rows a')[100].scrollIntoView(), document.querySelectorAll('.rows a')[100].click(), '')`)
	p.until(`document.querySelector('[data-section], [data-choosing]') !== null`)
	p.press(`header .back`)
	p.sees("120 of 400 trees")
	p.press(`nav a[href="/worklist"]`)
	p.press("[data-home]")
	p.until(
		`[...document.querySelectorAll('.rows li')].every((l) => l.querySelector('.pi-home, [data-name-it]')) && document.querySelectorAll('.rows li').length > 3`,
	)
	p.press(`nav a[href="/map"]`)
	p.sees("Press a tree to open it") // each page brings a bar of doors of its own
	p.press(`nav a[href="/worklist"]`)
	p.until(`document.querySelector('[data-home]')?.getAttribute('aria-pressed') === 'true'`)
}

// TestWhatIsSetAsideIsFound: it asks, its tag is free, and it can be taken back.
func TestWhatIsSetAsideIsFound(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/trees/" + a.tree("LC-101") + "/story")
	p.press("[data-details]")
	p.press("[data-aside]")
	p.press(".p-confirmdialog-accept-button")
	p.sees("set aside as entered by mistake")
	p.open("/")
	p.sees("60 of 399 trees")
	p.press("[data-set-aside]")
	p.sees("1 of 1 tree")
	p.press(`.rows a`)
	p.press("#visit") // leave the desk by its story
	p.press(`a.story`)
	p.press("[data-bring-back]")
	p.until(`!document.body.innerText.includes('set aside as entered by mistake')`)
}

// presses on a telephone from the list to a written name; what is on the way counts too.
func (p *page) thumb(n *int, css string) {
	p.t.Helper()
	p.press(css)
	*n++
}

// TestThumb counts what it takes on a telephone from the list to a written name: a red
// maple in at most twelve presses, an oak in at most fourteen. The leader and what waits
// are in sight all the while.
func TestThumb(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	for _, c := range []struct {
		tag, name string
		most      int
		presses   []string
	}{
		{"LC-1701", "Acer rubrum", 12, []string{`main [data-from="tree"]`, `[data-tally="pair"]`, tile("twig.color", "red"), tile("twig.scent", "none"),
			`[data-section="bud"]`, tile("bud.color", "red"), tile("bud.scales", "few-overlapping"), `[data-leader]`}},
		{"LC-1702", "Quercus", 14, []string{`main [data-from="tree"]`, `[data-tally="single"]`, `[data-section="bud"]`, tile("bud.tip", "cluster-at-end"),
			tile("bud.color", "red-brown"), tile("bud.coat", "bare"), tile("bud.shape", "cone"), `[data-section="bark"]`,
			tile("bark.texture", "flat-ridges"), `[id="card-bark.pale-runs"] [data-seen="true"]`, `[data-leader]`}},
	} {
		t.Run(c.name, func(t *testing.T) {
			id := a.begun(t, c.tag)
			p := newPage(t, a, phoneWidth, phoneHeight)
			p.open("/")
			p.write("[data-find]", c.tag)
			p.until(`document.querySelectorAll('.rows a').length === 1`)
			n := 0
			p.thumb(&n, ".rows a")
			for _, css := range c.presses {
				p.thumb(&n, css)
				inSight := `(() => { const r = document.querySelector('[data-leader]').getBoundingClientRect(); return r.top > 0 && r.bottom <= innerHeight })()`
				p.until(inSight)
			}
			p.thumb(&n, "#write-name")
			p.thumb(&n, "#keep-name")
			p.until(allSent)
			v := a.view(id)
			require.NotEmpty(t, v.Names)
			require.Contains(t, v.Names[0].Name, c.name)
			require.LessOrEqual(t, n, c.most)
			t.Logf("%s: %s in %d presses", c.tag, v.Names[0].Words, n)
		})
	}
}
