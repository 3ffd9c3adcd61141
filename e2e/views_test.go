package e2e

import (
	"context"
	_ "embed"
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
	marked bool     // in a book with markup in every field, not in the demo's
	path   string   // {LC-101} stands for a tree's id; {check} and the like are known to [scene]
	pane   string   // the part of a tree's page to open on a phone; empty: the scores
	press  []string // what to press first
	narrow []string // what to press on a phone instead; nil: the same
	shows  string   // what it then says

	desk, phone string // names of its pictures in docs/screenshots; empty: none
}

// views has every route at least once. [checkViews] checks each view at the desk and on a phone.
var views = []view{
	{route: "trees", path: "/", shows: "Bluff ridge", desk: "trees"},
	{route: "worklist", path: "/worklist", shows: "halves what is open", desk: "worklist"},
	{route: "story", path: "/trees/{LC-204}/story", shows: "score by score", desk: "story"},
	{route: "story", path: "/trees/{LC-101}/story", press: []string{"[data-measure-height]"}, shows: "Range to the top", desk: "measured"},
	{route: "day", path: "/day", press: []string{"[data-plan-day]"}, shows: "back at", desk: "day"},
	{route: "tree", path: "/trees/{LC-103}", pane: "looks", shows: "probably another tree", desk: "desk"},
	{route: "tree", path: "/trees/{LC-201}", press: []string{`[data-section="bark"]`}, shows: "Signs", phone: "desk-phone"},
	{route: "tree", path: "/trees/{LC-101}", press: []string{`[data-section="bud"]`}, shows: "Bud shape"},
	{route: "tree", path: "/trees/{LC-101}", press: []string{`[data-section="twig"]`}, shows: "wintergreen oil"},
	{route: "tree", path: "/trees/{LC-303}", press: []string{"[data-walk]"}, narrow: []string{"#visit", "[data-walk-narrow]"},
		shows: "Cannot tell; ask something else", desk: "walk"},
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
	{route: "key", path: "/key?list=&tract=Lantern%20Creek%20watershed%20forest&stand=North%20cove", shows: "couplets", desk: "key"},
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
	{route: "woods", path: "/woods", shows: "Offline"},
	{route: "trees", marked: true, path: "/", shows: short},
	{route: "worklist", marked: true, path: "/worklist", shows: short},
	{route: "map", marked: true, path: "/map", shows: short},
	{route: "stands", marked: true, path: "/stands", shows: short},
	{route: "lists", marked: true, path: "/lists", shows: short},
	{route: "files", marked: true, path: "/files", shows: "Darwin Core Archive"},
	{route: "crew", marked: true, path: "/crew", shows: "Add somebody"},
	{route: "flora", marked: true, path: "/flora", shows: "Red maple"},
	{route: "tree", marked: true, path: "/trees/{marked}", press: []string{"#visit"}, shows: short},
	{route: "tree", marked: true, path: "/trees/{marked}", pane: "standing", press: []string{"[data-why]"}, shows: short},
	{route: "story", marked: true, path: "/trees/{marked}/story", press: []string{"[data-details]"}, shows: short},
	{route: "name", marked: true, path: "/name", shows: "Filed in"},
}

// TestEveryRouteHasAView: a new page must be checked too.
func TestEveryRouteHasAView(t *testing.T) {
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
			require.True(t, seen[string(m[1])], "%s has the route %s, which has no view", room, m[1])
		}
	}
	require.Len(t, seen, named, "a view names a route that is gone")
}

// TestViewsDesk and TestViewsPhone check every view, as check.js says. make nightly loads images
// too. With PT_SCREENSHOTS naming a folder they take the pictures of docs/screenshots.
func TestViewsDesk(t *testing.T) {
	t.Parallel()
	checkViews(t, screen{width: deskWidth, height: deskHeight})
}

func TestViewsPhone(t *testing.T) {
	t.Parallel()
	checkViews(t, screen{phone: true, width: phoneWidth, height: phoneHeight})
}

func checkViews(t *testing.T, size screen) {
	s := newScene(t)
	p := s.window(t, size)
	for i, v := range views {
		name := v.desk
		if size.phone {
			name = v.phone
		}
		if os.Getenv("PT_SCREENSHOTS") != "" && name == "" {
			continue
		}
		t.Run(fmt.Sprint(v.route, i), func(t *testing.T) {
			p := p.in(t)
			p.home = s.home(v)
			p.show(s.path(v), v, size.phone)
			if images() {
				p.until(seenDrawn)
			}
			if found := p.faults(size); found != "" {
				p.failed()
				t.Errorf("%s:\n%s", s.path(v), found)
			}
			if folder := os.Getenv("PT_SCREENSHOTS"); folder != "" {
				p.do(chromedp.Sleep(500 * time.Millisecond)) // let the fonts settle
				p.shot(filepath.Join(folder, name+".png"))
			}
		})
	}
}

type screen struct {
	phone         bool
	width, height int64
}

// images says whether views are checked with images. Bark is slow to draw.
func images() bool { return os.Getenv("PT_SCREENSHOTS") != "" || !testing.Short() }

// window is a window that can check its pages.
func (s *scene) window(t *testing.T, size screen) *page {
	t.Helper()
	open := newPage
	if images() {
		open = imagePage
	}
	p := open(t, s.demo, size.width, size.height)
	p.loadChecks()
	p.open("/")
	p.eval(`(localStorage.setItem('palethicket.theme', 'light'), '')`)
	return p
}

// faults says what is wrong with the page, also when a window at the desk is half as large.
func (p *page) faults(size screen) string {
	p.t.Helper()
	found := p.await(fmt.Sprintf(`check(%t)`, !size.phone))
	if !size.phone {
		p.do(chromedp.EmulateViewport(size.width/2, size.height/2))
		found += p.await(`fits('in a small window')`)
		p.do(chromedp.EmulateViewport(size.width, size.height))
	}
	return found
}

// show opens a view.
func (p *page) show(path string, v view, narrow bool) {
	p.t.Helper()
	if p.eval(`location.origin`) == p.home {
		p.follow(path)
	} else {
		p.open(path)
	}
	if narrow && v.pane != "" {
		p.press(`[data-to="` + v.pane + `"]`)
	}
	p.do(chromedp.MouseEvent(input.DispatchMouseEventTypeMouseMoved, 1, 1)) // away from anything with a tooltip
	press := v.press
	if narrow && v.narrow != nil {
		press = v.narrow
	}
	for _, css := range press {
		p.press(css)
	}
	p.sees(v.shows)
}

// scene holds the two books of the views, and the ids that their paths name.
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
	ten := map[string]any{"trees": 10, "snow": "none", "odd": false, "region": "eastern-north-america"}
	walk := s.demo.send("POST", "/api/practice/walks", ten)
	s.ids["walk"] = decoded[struct{ ID string }](t, walk).ID
	return s
}

func (s *scene) home(v view) string {
	if v.marked {
		return s.marked.url("")
	}
	return s.demo.url("")
}

// path is a view's address.
func (s *scene) path(v view) string {
	return regexp.MustCompile(`\{[^}]+\}`).ReplaceAllStringFunc(v.path, func(name string) string {
		return s.ids[strings.Trim(name, "{}")]
	})
}

// await gives what a promise in the page resolves to.
func (p *page) await(promise string) string {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, stuck)
	defer cancel()
	found, err := chromedp.Run(ctx, chromedp.Evaluate[string](promise, chromedp.EvalAwaitPromise))
	require.NoError(p.t, err)
	return found
}

// check.js says what is wrong with a page, with the help of axe-core.
//
//go:embed check.js
var checks string

// loadChecks gives every page opened from now on the functions of check.js.
func (p *page) loadChecks() {
	p.t.Helper()
	axe, err := os.ReadFile("../ui/node_modules/axe-core/axe.min.js")
	require.NoError(p.t, err, "npm ci in ui/ brings axe-core")
	p.onEachPage(string(axe) + ";" + checks)
}

// seenDrawn holds once every drawing in sight has come.
const seenDrawn = `[...document.images].every((i) => {
	const at = i.getBoundingClientRect()
	return i.naturalWidth > 0 || !i.checkVisibility() || at.top > innerHeight || at.bottom < 0 || at.left > innerWidth || at.right < 0
})`

// TestChecksFind: check.js finds what is wrong with a page.
func TestChecksFind(t *testing.T) {
	t.Parallel()
	p := newPage(t, sharedApp(t), phoneWidth, phoneHeight)
	p.loadChecks()
	p.open("/settings")
	p.sees("High contrast")
	require.Empty(t, p.await(`check(false)`))
	p.eval(`(document.querySelector('main').insertAdjacentHTML('beforeend', '<button style="height: 20px"></button><b data-evil>x</b>' +
		'<p style="width: 500px">wide</p><p style="color: #777; background: #888">grey</p>'), '')`)
	found := p.await(`check(true)`)
	for _, part := range []string{"button-name", "color-contrast", "to press: BUTTON", "wider than the page", "more than text"} {
		require.Contains(t, found, part)
	}
}
