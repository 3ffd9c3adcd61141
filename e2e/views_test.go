package e2e

import (
	"context"
	_ "embed"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"palethicket/book"
)

// view is a page in a state worth looking at.
type view struct {
	route  string   // its name in the router
	marked bool     // of a book that holds markup in every field, not of the demo's
	path   string   // {LC-101} stands for a tree's id, {check} and the like for what [scene] knows
	pane   string   // the part of a tree's page that a phone shows; empty: the scores
	press  []string // what is pressed before it is looked at
	narrow []string // what is pressed in its place on a phone; nil: the same
	shows  string   // what it says then

	desk, phone string // the names of its pictures in docs/screenshots; empty: none is kept
}

// views are all of them: each is looked at by [TestViews], at the desk and on a phone. Every route has one.
var views = []view{
	{route: "trees", path: "/", shows: "Bluff ridge", desk: "trees"},
	{route: "worklist", path: "/worklist", shows: "halves what is open", desk: "worklist"},
	{route: "story", path: "/trees/{LC-204}/story", shows: "score by score", desk: "story"},
	{route: "story", path: "/trees/{LC-101}/story", press: []string{"[data-measure-height]"}, shows: "Range to the top", desk: "measured"},
	{route: "day", path: "/day", press: []string{"[data-plan-day]"}, shows: "back at", desk: "day"},
	{route: "tree", path: "/trees/{LC-103}", pane: "looks", shows: "probably another tree", desk: "desk"},
	{route: "tree", path: "/trees/{LC-201}", press: []string{`[data-section="bark"]`}, shows: "Signs", phone: "desk-phone"},
	{route: "tree", path: "/trees/{LC-101}", press: []string{`[data-section="bud"]`}, shows: "Bud shape"},
	{route: "tree", path: "/trees/{LC-303}", press: []string{"[data-walk]"}, narrow: []string{"#visit", "[data-walk-narrow]"}, shows: "Cannot tell; ask something else", desk: "walk"},
	{route: "tree", path: "/trees/{LC-103}", pane: "standing", press: []string{"[data-drawn]"}, shows: "LC-103, as scored"},
	{route: "tree", path: "/trees/{LC-103}", pane: "standing", press: []string{`[data-why="Acer saccharum"]`}, shows: "How common here"},
	{route: "stands", path: "/stands", shows: "Sugar maple", desk: "stands"},
	{route: "map", path: "/map", shows: "trees with a position", desk: "map"},
	{route: "files", path: "/files", shows: "Darwin Core Archive"},
	{route: "flora", path: "/flora", shows: "Sugar maple", desk: "flora"},
	{route: "flora", path: "/flora", press: []string{`[data-wall="bark"]`}, shows: "Sugar maple", desk: "barks"},
	{route: "taxon", path: "/flora/Fraxinus%20nigra", shows: "What to look for", desk: "taxon"},
	{route: "taxon", path: "/flora/%3Cb%20data-evil%3Ex", shows: "<b data-evil>x"},
	{route: "characters", path: "/characters", shows: "Bud shape"},
	{route: "character", path: "/characters/bud.shape", shows: "Mistaken for"},
	{route: "compare", path: "/compare?taxon=Juglans%20nigra&taxon=Juglans%20cinerea", shows: "What to look at"},
	{route: "compare", path: "/compare?taxon=%3Cb%20data-evil%3E&taxon=Acer%20rubrum", shows: "Side by side"},
	{route: "pair", path: "/pair?taxon=Carya%20ovata&taxon=Carya%20cordiformis", shows: "Two individuals"},
	{route: "lists", path: "/lists", shows: "Make a list of your own"},
	{route: "key", path: "/key?list=&tract=Lantern%20Creek%20watershed%20forest&stand=North%20cove", shows: "questions", desk: "key"},
	{route: "measure", path: "/measure", shows: "Height by angles"},
	{route: "paper", path: "/paper", shows: "Look-alike cards", desk: "paper"},
	{route: "key-in", path: "/paper/key-in", shows: "must stand at the foot"},
	{route: "code", path: "/t", shows: "Open by its label"},
	{route: "photo", path: "/trees/{LC-101}/photos/{photo}", shows: "known"},
	{route: "practice", path: "/practice", press: []string{"[data-unknown]"}, shows: "Not known.", desk: "practice"},
	{route: "crew-practice", path: "/practice/crew", shows: "Tobias Okafor"},
	{route: "walks", path: "/practice/walks", shows: "Begin a walk"},
	{route: "walk", path: "/practice/walks/{walk}", shows: "of 10 named", desk: "practice-walk"},
	{route: "checks", path: "/checks", shows: "Of 60 trees", desk: "checks"},
	{route: "check", path: "/checks/{check}", shows: "Kappa"},
	{route: "crew", path: "/crew", shows: "Add somebody"},
	{route: "waiting", path: "/waiting", shows: "Kept on this device"},
	{route: "settings", path: "/settings", shows: "High contrast"},
	{route: "woods", path: "/woods", shows: "Home and away"},
	{route: "trees", marked: true, path: "/", shows: short},
	{route: "worklist", marked: true, path: "/worklist", shows: short},
	{route: "map", marked: true, path: "/map", shows: short},
	{route: "stands", marked: true, path: "/stands", shows: short},
	{route: "lists", marked: true, path: "/lists", shows: short},
	{route: "files", marked: true, path: "/files", shows: "Darwin Core Archive"},
	{route: "tree", marked: true, path: "/trees/{marked}", press: []string{"#visit"}, shows: short},
	{route: "tree", marked: true, path: "/trees/{marked}", pane: "standing", press: []string{"[data-why]"}, shows: short},
	{route: "story", marked: true, path: "/trees/{marked}/story", press: []string{"[data-details]"}, shows: short},
}

// TestEveryRouteIsLookedAt: a page that is added is looked at, too.
func TestEveryRouteIsLookedAt(t *testing.T) {
	rooms, err := filepath.Glob("../ui/src/*/room.ts")
	require.NoError(t, err)
	seen := map[string]bool{}
	for _, v := range views {
		seen[v.route] = true
	}
	named := 0
	for _, room := range rooms {
		text, err := os.ReadFile(room)
		require.NoError(t, err)
		for _, m := range regexp.MustCompile(`\bname: '([^']+)'`).FindAllSubmatch(text, -1) {
			named++
			require.True(t, seen[string(m[1])], "%s has the route %s, which views does not look at", room, m[1])
		}
	}
	require.Len(t, seen, named, "views name routes that are no more")
}

// TestViews looks at every view at the desk and on a phone: everything pressed is large enough
// for a glove, nothing sticks out, also with text at twice its size, axe-core finds nothing
// serious in any theme, and no markup is taken for more than text. With PT_SCREENSHOTS naming a
// folder it keeps the pictures of docs/screenshots there instead.
func TestViews(t *testing.T) {
	t.Parallel()
	pictures := os.Getenv("PT_SCREENSHOTS")
	s := newScene(t)
	for size, width := range map[string]int64{"desk": deskWidth, "phone": phoneWidth} {
		t.Run(size, func(t *testing.T) {
			t.Parallel()
			height := map[int64]int64{deskWidth: deskHeight, phoneWidth: phoneHeight}[width]
			open := newPage
			if pictures != "" {
				open = drawnPage
			}
			p := open(t, s.demo, width, height)
			p.soundsItself()
			p.open("/")
			p.eval(`(localStorage.setItem('palethicket.theme', 'light'), '')`)
			for i, v := range views {
				name := map[string]string{"desk": v.desk, "phone": v.phone}[size]
				if pictures != "" && name == "" {
					continue
				}
				t.Run(fmt.Sprint(v.route, i), func(t *testing.T) {
					p := p.in(t)
					p.home = s.home(v)
					p.show(s.path(v), v, size == "phone")
					if pictures != "" {
						p.until(seenDrawn)                           // barks are drawn when they are asked for
						p.do(chromedp.Sleep(500 * time.Millisecond)) // let the fonts settle
						p.shot(filepath.Join(pictures, name+".png"))
						return
					}
					found := p.found(fmt.Sprintf(`sound(%t)`, size == "desk"))
					if size == "desk" { // as one sees it who has it twice as large
						p.do(chromedp.EmulateViewport(width/2, height/2))
						found += p.found(`fits('at half the size')`)
						p.do(chromedp.EmulateViewport(width, height))
					}
					if found != "" {
						p.failed()
						t.Errorf("%s:\n%s", s.path(v), found)
					}
				})
			}
		})
	}
}

// show opens a view, and waits until all of it is there.
func (p *page) show(path string, v view, narrow bool) {
	p.t.Helper()
	if p.eval(`location.origin`) == p.home {
		p.goes(path)
	} else {
		p.open(path)
	}
	if narrow && v.pane != "" {
		p.press(`[data-to="` + v.pane + `"]`)
	}
	p.do(chromedp.MouseEvent(input.DispatchMouseEventTypeMouseMoved, 1, 1)) // what it lies on would say what it is
	press := v.press
	if narrow && v.narrow != nil {
		press = v.narrow
	}
	for _, css := range press {
		p.press(css)
	}
	p.sees(v.shows)
}

// scene is what views are of: the demo, a book of markup, and what of them has an id.
type scene struct {
	demo, marked *app
	ids          map[string]string
}

func newScene(t *testing.T) *scene {
	t.Helper()
	s := &scene{demo: newApp(t, true), marked: newApp(t, false), ids: map[string]string{}}
	s.ids["marked"] = marked(t, s.marked)
	for _, l := range decoded[book.TreeList](t, s.demo.answer("/api/trees?limit=500")).Trees {
		s.ids[l.Tag] = l.ID
	}
	s.ids["photo"] = decoded[[]book.Photo](t, s.demo.answer("/api/trees/"+s.ids["LC-101"]+"/photos"))[0].ID
	s.ids["check"] = decoded[[]book.CheckCruise](t, s.demo.answer("/api/checks"))[0].ID
	walk := s.demo.send("POST", "/api/practice/walks", map[string]any{"trees": 10, "snow": "none", "odd": false, "region": "eastern-north-america"})
	s.ids["walk"] = decoded[struct{ ID string }](t, walk).ID
	return s
}

func decoded[T any](t *testing.T, text string) (v T) {
	t.Helper()
	require.NoError(t, json.Unmarshal([]byte(text), &v), text)
	return v
}

func (s *scene) home(v view) string {
	if v.marked {
		return s.marked.url("")
	}
	return s.demo.url("")
}

// path is a view's address.
func (s *scene) path(v view) string {
	return regexp.MustCompile(`\{[^}]+\}`).ReplaceAllStringFunc(v.path, func(name string) string { return s.ids[strings.Trim(name, "{}")] })
}

// found is what a promise in the page comes to.
func (p *page) found(promise string) string {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, stuck)
	defer cancel()
	found, err := chromedp.Run(ctx, chromedp.Evaluate[string](promise, chromedp.EvalAwaitPromise))
	require.NoError(p.t, err)
	return found
}

// sound.js says what is the matter with a page, with the help of axe-core.
//
//go:embed sound.js
var sound string

// soundsItself gives each page that is opened from now on the functions of sound.js.
func (p *page) soundsItself() {
	p.t.Helper()
	axe, err := os.ReadFile("../ui/node_modules/axe-core/axe.min.js")
	require.NoError(p.t, err, "npm ci in ui/ brings axe-core")
	p.onEachPage(string(axe) + ";" + sound)
}

// seenDrawn holds once every drawing in sight has come.
const seenDrawn = `[...document.images].every((i) => {
	const at = i.getBoundingClientRect()
	return i.naturalWidth > 0 || !i.checkVisibility() || at.top > innerHeight || at.bottom < 0 || at.left > innerWidth || at.right < 0
})`

// TestSoundFinds: what is the matter with a page is found.
func TestSoundFinds(t *testing.T) {
	t.Parallel()
	p := newPage(t, reading(t), phoneWidth, phoneHeight)
	p.soundsItself()
	p.open("/settings")
	p.sees("High contrast")
	require.Empty(t, p.found(`sound(false)`))
	p.eval(`(document.querySelector('main').insertAdjacentHTML('beforeend', '<button style="height: 20px"></button><b data-evil>x</b>' +
		'<p style="width: 500px">wide</p><p style="color: #777; background: #888">grey</p>'), '')`)
	found := p.found(`sound(true)`)
	for _, part := range []string{"button-name", "color-contrast", "to press: BUTTON", "wider than the page", "more than text"} {
		require.Contains(t, found, part)
	}
}
