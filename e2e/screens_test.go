package e2e

import (
	"cmp"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
)

// TestScreens opens each main view of the demo at desk and phone size. With
// PT_SCREENSHOTS naming a folder it keeps a picture of each there, in PT_THEME.
func TestScreens(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	pages := map[int64]*page{deskWidth: newPage(t, deskWidth, deskHeight), phoneWidth: newPage(t, phoneWidth, phoneHeight)}
	for _, p := range pages {
		p.open(a.url("/"))
		p.wear(cmp.Or(os.Getenv("PT_THEME"), "light"))
	}
	for _, v := range []struct {
		name, path, tag, then, shows string
		width, height                int64
		press                        []string
	}{
		{name: "trees", path: "/", shows: "Bluff ridge", width: deskWidth, height: deskHeight},
		{name: "desk", tag: "LC-103", shows: "probably another tree", width: deskWidth, height: deskHeight},
		{tag: "LC-101", shows: "Northern red oak", width: deskWidth, height: deskHeight, press: []string{`[data-section="bark"]`}},
		{tag: "LC-101", shows: "Bud shape", width: deskWidth, height: deskHeight, press: []string{`[data-section="bud"]`}},
		{tag: "LC-103", shows: "How common here", width: deskWidth, height: deskHeight, press: []string{`[data-why="Acer saccharum"]`}},
		{name: "walk", tag: "LC-303", shows: "Cannot tell; ask something else", width: deskWidth, height: deskHeight, press: []string{"[data-walk]"}},
		{tag: "LC-103", shows: "LC-103, as scored", width: deskWidth, height: deskHeight, press: []string{"[data-drawn]"}},
		{path: "/compare?taxon=Juglans%20nigra&taxon=Juglans%20cinerea", shows: "What to look at", width: deskWidth, height: deskHeight},
		{name: "flora", path: "/flora", shows: "Sugar maple", width: deskWidth, height: deskHeight},
		{name: "barks", path: "/flora", shows: "Sugar maple", width: deskWidth, height: deskHeight, press: []string{`[data-wall="bark"]`}},
		{path: "/flora", shows: "Sugar maple", width: deskWidth, height: deskHeight, press: []string{`[data-wall="outline"]`}},
		{path: "/pair?taxon=Carya%20ovata&taxon=Carya%20cordiformis", shows: "Two individuals", width: deskWidth, height: deskHeight},
		{path: "/pair?taxon=Quercus%20alba&taxon=Quercus%20rubra", shows: "Two individuals", width: phoneWidth, height: phoneHeight},
		{name: "taxon", path: "/flora/Fraxinus%20nigra", shows: "What to look for", width: deskWidth, height: deskHeight},
		{name: "practice", path: "/practice", shows: "Not known.", width: deskWidth, height: deskHeight, press: []string{"[data-unknown]"}},
		{name: "practice-walk", path: "/practice/walks", shows: "0 of 10 named", width: deskWidth, height: deskHeight,
			press: []string{"[data-begin-walk]"}},
		{name: "day", path: "/day", shows: "back at", width: deskWidth, height: deskHeight, press: []string{"[data-plan-day]"}},
		{name: "measured", tag: "LC-101", then: "/story", shows: "Range to the top", width: deskWidth, height: deskHeight,
			press: []string{"[data-measure-height]"}},
		{name: "key", path: "/key?list=&tract=Lantern%20Creek%20watershed%20forest&stand=North%20cove", shows: "questions", width: deskWidth,
			height: deskHeight},
		{name: "paper", path: "/paper", shows: "Look-alike cards", width: deskWidth, height: deskHeight},
		{path: "/paper", shows: "Look-alike cards", width: phoneWidth, height: phoneHeight},
		{path: "/paper/key-in", shows: "must stand at the foot", width: phoneWidth, height: phoneHeight},
		{path: "/measure", shows: "Height by angles", width: phoneWidth, height: phoneHeight},
		{name: "checks", path: "/checks", shows: "Of 60 trees", width: deskWidth, height: deskHeight},
		{path: "/checks", shows: "Of 60 trees", width: phoneWidth, height: phoneHeight},
		{path: "/practice", shows: "Whose", width: phoneWidth, height: phoneHeight},
		{path: "/characters/bud.shape", shows: "Mistaken for", width: deskWidth, height: deskHeight},
		{path: "/lists", shows: "Lantern Creek", width: deskWidth, height: deskHeight},
		{name: "worklist", path: "/worklist", shows: "halves what is open", width: deskWidth, height: deskHeight},
		{name: "map", path: "/map", shows: "400 trees", width: deskWidth, height: deskHeight},
		{name: "stands", path: "/stands", shows: "Sugar maple", width: deskWidth, height: deskHeight},
		{path: "/files", shows: "Darwin Core Archive", width: deskWidth, height: deskHeight},
		{name: "story", tag: "LC-204", then: "/story", shows: "score by score", width: deskWidth, height: deskHeight},
		{path: "/worklist", shows: "halves what is open", width: phoneWidth, height: phoneHeight},
		{path: "/map", shows: "400 trees", width: phoneWidth, height: phoneHeight},
		{path: "/stands", shows: "Sugar maple", width: phoneWidth, height: phoneHeight},
		{path: "/files", shows: "Darwin Core Archive", width: phoneWidth, height: phoneHeight},
		{path: "/crew", shows: "Add somebody", width: phoneWidth, height: phoneHeight},
		{tag: "LC-204", then: "/story", shows: "score by score", width: phoneWidth, height: phoneHeight},
		{path: "/flora", shows: "Sugar maple", width: phoneWidth, height: phoneHeight},
		{path: "/flora/Fraxinus%20nigra", shows: "What to look for", width: phoneWidth, height: phoneHeight},
		{path: "/characters", shows: "Bud shape", width: phoneWidth, height: phoneHeight},
		{path: "/characters/bud.shape", shows: "Mistaken for", width: phoneWidth, height: phoneHeight},
		{path: "/lists", shows: "Make a list of your own", width: phoneWidth, height: phoneHeight},
		{path: "/", shows: "Bluff ridge", width: phoneWidth, height: phoneHeight},
		{name: "desk-phone", tag: "LC-201", shows: "Signs", width: phoneWidth, height: phoneHeight, press: []string{`[data-section="bark"]`}},
		{tag: "LC-201", shows: "Look at next", width: phoneWidth, height: phoneHeight, press: []string{`[data-to="standing"]`}},
	} {
		t.Run(v.name+v.path, func(t *testing.T) {
			p := pages[v.width]
			p.t = t
			path := v.path
			if v.tag != "" {
				path = "/trees/" + a.tree(v.tag) + v.then
			}
			p.open(a.url(path))
			for _, css := range v.press {
				p.press(css)
			}
			p.sees(v.shows)
			p.until(`document.documentElement.scrollWidth <= innerWidth`)
			p.patient(time.Minute).until(seenDrawn) // barks are drawn when they are asked for
			if dir := os.Getenv("PT_SCREENSHOTS"); dir != "" && v.name != "" {
				p.do(chromedp.Sleep(500 * time.Millisecond)) // let the fonts settle
				p.shot(filepath.Join(dir, v.name+".png"))
			}
		})
	}
}

// seenDrawn holds once every drawing in sight has come.
const seenDrawn = `[...document.images].every((i) => {
	const at = i.getBoundingClientRect()
	return i.naturalWidth > 0 || !i.checkVisibility() || at.top > innerHeight || at.bottom < 0 || at.left > innerWidth || at.right < 0
})`
