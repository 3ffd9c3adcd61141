package e2e

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"palethicket/book"
)

// TestFindATree searches by tag and by name, filters by status and pages.
func TestFindATree(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/")
	p.sees("60 of 400 trees")
	p.press(".more button")
	p.sees("120 of 400 trees")
	p.write("#find", "butternut")
	p.until(
		`[...document.querySelectorAll('.rows li')].length > 0 && [...document.querySelectorAll('.rows li')].every((r) => /butternut/i.test(r.innerText))`,
	)
	p.clear("#find")
	p.press(`[data-status="doubtful"]`)
	p.until(
		`document.querySelectorAll('.rows li').length > 5 && [...document.querySelectorAll('.rows .sign')].every((s) => s.classList.contains('doubtful'))`,
	)
	p.write("#find", "no such tree")
	p.sees("No tree fits")
}

// TestProbably finds a tree that probably is one, writes the name down as no more than that, and has a lead ask for more.
func TestProbably(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/")
	p.press(`[data-status="probable"]`)
	p.until(
		`document.querySelectorAll('.rows li').length > 5 && [...document.querySelectorAll('.rows .sign')].every((s) => s.title === 'Probably')`,
	)
	p.open("/trees/" + a.tree("LC-610"))
	p.sees("Probably black cherry")
	p.sees("90 % would name it")
	p.press("#write-name")
	p.press("#keep-name")
	p.sees("stood at")
	p.until(`document.querySelector('[data-carried]')?.innerText.startsWith('Probably: the evidence gives this name')`)
	p.open("/settings")
	p.press(`[data-probably-from="0.85"]`)
	p.until(`document.querySelector('[data-probably-from="0.85"]').getAttribute('aria-pressed') === 'true'`)
	p.sees("short of that, from 85 %")
	p.open("/trees/" + a.tree("LC-610"))
	p.until(`document.querySelector('[data-carried]')?.innerText.startsWith('The evidence gives this name')`)
	p.sees("Probably a cherry or plum of some kind") // which still is
}

// TestWorklistToDesk takes the look that is worth most and lands on its card.
func TestWorklistToDesk(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/worklist")
	p.sees("halves what is open")
	p.press("[data-home]")
	p.until(
		`document.querySelectorAll('.rows li').length > 0 && [...document.querySelectorAll('.rows li')].every((r) => r.innerText.includes('twig in hand') || r.querySelector('[data-name-it]'))`,
	)
	p.press("[data-take]")
	p.until(`document.querySelector('[data-card]') !== null && location.pathname.startsWith('/trees/')`)
}

// TestMapOpensATree presses a tree on the map.
func TestMapOpensATree(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/map")
	p.sees("400 trees with a position")
	p.until(`document.querySelectorAll('.stand-name').length === 6`)
	// the middle of a stand of trees; somewhere near it a tree is hit
	p.eval(
		`(() => { const map = document.querySelector('.map'), name = [...document.querySelectorAll('.stand-name')].find((n) => n.textContent === 'North cove').getBoundingClientRect();
		for (let dx = -40; dx <= 40; dx += 4) for (let dy = -60; dy <= 60; dy += 4) {
			if (location.pathname !== '/map') return ''
			const at = { clientX: name.x + name.width / 2 + dx, clientY: name.y + dy, bubbles: true }
			for (const kind of ['mousemove', 'mousedown', 'mouseup', 'click']) document.elementFromPoint(at.clientX, at.clientY)?.dispatchEvent(new MouseEvent(kind, at))
		} return '' })()`,
	)
	p.until(`location.pathname.startsWith('/trees/')`)
	p.sees("North cove")
}

// TestStandsAndVisits reads what grows in a stand and enters a visit.
func TestStandsAndVisits(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/stands")
	p.press(`[data-stand="North cove"]`)
	p.sees("Cool and moist")
	p.press(`[data-by="area"]`)
	p.sees("Probable m²")
	p.press("[data-new-visit]")
	p.until(`document.querySelector('form.panel input[type="date"]') !== null`)
	p.eval(
		`(() => { const [crew] = [...document.querySelectorAll('form.panel input')].slice(1); crew.value = 'Marit Sandoval'; crew.dispatchEvent(new Event('input')); return '' })()`,
	)
	p.press(`form.panel [type="submit"]`)
	p.until(
		`[...document.querySelectorAll('section[aria-label="Visits"] li')].some((l) => l.innerText.includes('Marit Sandoval') && l.innerText.includes('0 looks'))`,
	)
}

// TestStoryUndo undoes a name from the tree's story and puts it back.
func TestStoryUndo(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	id := a.tree("LC-202")
	p.open("/trees/" + id + "/story")
	p.sees("Named Celtis occidentalis")
	p.until(`document.querySelectorAll('[aria-label^="Undo: "]').length === 0`) // nobody undoes what others did
	p.eval(`(localStorage.setItem('palethicket.observer', '` + a.view(id).Names[0].By + `'), '')`)
	p.open("/trees/" + id + "/story")
	p.press(`[aria-label^="Undo: Named"]`)
	p.sees("Undone: Named Celtis occidentalis")
	require.Empty(t, a.view(id).Names)
	p.press(`[aria-label^="Undo: Undone: Named"]`)
	p.until(`document.querySelectorAll('[aria-label^="Undo: Named"]').length === 1`)
	require.Equal(t, "Celtis occidentalis", a.view(id).Names[0].Name)
	p.press("[data-details]")
	p.clear("#lat")
	p.write("#lat", "43.57")
	p.press(`form [type="submit"]`)
	p.sees("43.57000")
	require.InDelta(t, 43.57, a.view(id).Facts.Position.Lat, 1e-9)
}

// upload chooses a file in an input.
func (p *page) upload(css, path string) {
	p.t.Helper()
	p.do(chromedp.WaitReady(chromedp.CSS(css)), chromedp.SetUploadFiles(chromedp.CSS(css), []string{path}))
}

// TestImportByHand maps a table, sees a bad line, puts the rest in, and undoes it.
func TestImportByHand(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	path := filepath.Join(t.TempDir(), "old-survey.csv")
	require.NoError(
		t,
		os.WriteFile(
			path,
			[]byte(
				"Plate;Plot;Girth note;Latitude;Longitude\nP-1;Old pasture;thick;43.561;-90.63\nP-2;Old pasture;thin;435;-90.63\nP-3;Old pasture;;;\n",
			),
			0o600,
		),
	)
	p.open("/files")
	p.upload("[data-import]", path)
	p.sees("say which column holds the tag")
	p.choose(`[data-column="Plate"]`, "tag")
	p.sees("2 of 3 lines can go in")
	p.sees("off the globe")
	p.choose(`[data-column="Girth note"]`, "remarks")
	p.press("[data-put-in]")
	p.sees("2 trees are in the book")
	id := a.tree("P-1")
	require.Equal(t, "thick", a.view(id).Facts.Remarks)
	p.press("[data-undo-import]")
	p.sees("2 trees are set aside")
}

// TestPhotograph adds a photograph to a tree, and is told about a HEIC one.
func TestPhotograph(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := imagePage(t, a, deskWidth, deskHeight)
	img := image.NewRGBA(image.Rect(0, 0, 900, 600))
	for i := range 900 * 600 {
		img.Set(i%900, i/900, color.RGBA{uint8(i % 251), 90, 60, 255})
	}
	var body bytes.Buffer
	require.NoError(t, jpeg.Encode(&body, img, nil))
	good, heic := filepath.Join(t.TempDir(), "bark.jpg"), filepath.Join(t.TempDir(), "bark.heic")
	require.NoError(t, os.WriteFile(good, body.Bytes(), 0o600))
	require.NoError(t, os.WriteFile(heic, []byte("\x00\x00\x00\x18ftypheic0000"), 0o600))
	p.open("/trees/" + a.tree("LC-202") + "/story")
	p.press("summary")
	p.upload("[data-photo]", good)
	p.until(`[...document.querySelectorAll('details img')].some((i) => i.naturalWidth === 480 && i.naturalHeight === 320)`)
	p.upload("[data-photo]", heic)
	p.sees("set the camera to JPEG")
}

// TestSignInInTheBrowser serves a book beyond its machine: nothing shows until one
// signs in, a reader cannot write, and what waited while signed out is sent.
func TestSignInInTheBrowser(t *testing.T) {
	t.Parallel()
	a := newCrew(t, false, book.NewMember{Name: "Wren Halloran", Role: book.Lead, Password: crewPassword})
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/")
	p.write("#who", "Wren Halloran")
	p.write("#password", "a wrong password\r")
	p.sees("No such name and password")
	p.write("#password", crewPassword+"\r")
	p.sees("The book is empty")
	p.write("#new-tag", "LC-401")
	p.write("#new-tract", "Lantern Creek watershed forest")
	p.write("#new-stand", "Upper slope")
	p.press("#new-start")
	p.press(`[data-from="tree"]`)
	p.press(`[data-section="bark"]`)
	p.until(allSent)
	require.NoError(t, a.book.ChangeMember(t.Context(), "Wren Halloran", book.MemberChange{Password: crewPassword})) // signed out everywhere
	p.press(tile("bark.texture", "mesh-ridges"))
	p.sees("Your session ended")
	p.write("#password", crewPassword+"\r")
	p.sees("bark texture: mesh ridges")
	p.until(allSent)
}

// TestExpectTheStand asks for the ranking that the stand's own record would give:
// off by itself, and explained.
func TestExpectTheStand(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	p := newPage(t, a, deskWidth, deskHeight)
	id := a.tree("LC-303")
	before := a.view(id).Result.Ranking
	p.open("/trees/" + id)
	p.until(`document.querySelector('[data-here]')?.checked === false`)
	p.press("[data-here]")
	p.sees("it can make you see what you expect")
	require.Equal(t, before, a.view(id).Result.Ranking)
}
