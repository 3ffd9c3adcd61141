package plate

import (
	"bytes"
	"fmt"
	"html"
	"slices"
	"strings"
)

// Themes are what a drawing can be put on: paper is plain black on white.
var Themes = []string{"light", "dark", "contrast", "paper"}

// inks are the custom properties of each theme: the ink, the ground of lenses, soft ink
// for the scale, and the mark of what differs.
var inks = map[string]string{
	"light":    "--ink:#221d18;--ground:#fffdf8;--soft:#5c5146;--mark:#b3261e;--faint:.38",
	"dark":     "--ink:#ece6da;--ground:#23211d;--soft:#b9b0a2;--mark:#ff7f6b;--faint:.45",
	"contrast": "--ink:#000;--ground:#fff;--soft:#000;--mark:#c00000;--faint:.55",
	"paper":    "--ink:#000;--ground:#fff;--soft:#000;--mark:#000;--faint:.4",
}

// Canvas is an SVG while it is drawn.
type Canvas struct {
	Theme string
	out   bytes.Buffer
	tree  *Tree
}

// NewCanvas begins a drawing of a tree in a box, in mm or another unit, with the styles of
// its classes. It is described for those who do not see it.
func NewCanvas(t *Tree, theme string, x, y, w, h float64, styles, described string) *Canvas {
	c := &Canvas{Theme: theme, tree: t}
	ink, ok := inks[theme]
	if !ok {
		theme, ink = "light", inks["light"]
	}
	fmt.Fprintf(&c.out, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="%g %g %g %g" class="%s" role="img"><title>%s</title>`,
		x, y, w, h, theme, html.EscapeString(described))
	fmt.Fprintf(&c.out, `<style>svg{%s}path{fill:none;stroke:var(--ink);stroke-linecap:round;stroke-linejoin:round}`+
		`.faint{opacity:var(--faint)}.marked path{stroke:var(--mark)}text{fill:var(--soft);font-family:sans-serif;text-anchor:middle}`+
		`%s</style>`, ink, styles)
	return c
}

// shownBy are the characters that show in what is drawn for another.
var shownBy = map[string][]string{
	"bud.shape":     {"bud.length", "bud.color", "bud.tip"},
	"bud.scales":    {"bud.scale-count"},
	"twig.color":    {"twig.diameter", "twig.zigzag", "twig.arrangement"},
	"twig.diameter": {"twig.arrangement"},
	"twig.pith":     {"twig.pith-color"},
	"scar.shape":    {"scar.top"},
	"fruit.catkins": {"fruit.catkin-length"},
	"needle.set":    {"needle.length", "needle.bundle"},
	"needle.bundle": {"needle.length"},
	"form.crown":    {"form.spray"},
	"form.bole":     {"form.habit", "form.dbh"},
	"fruit.kind":    {"fruit.acorn-cup", "ground.fruit"},
}

// Group begins what shows a character: drawn faint where it is not known, and as marked
// where it differs. It ends with [Canvas.End].
func (c *Canvas) Group(character, class string) {
	if character != "" {
		if !c.tree.Shows.Knows(character) {
			class += " faint"
		}
		if c.tree.IsMarked(character) || slices.ContainsFunc(shownBy[character], c.tree.IsMarked) {
			class += " marked"
		}
		fmt.Fprintf(&c.out, `<g data-of="%s" class="%s">`, character, strings.TrimSpace(class))
		return
	}
	fmt.Fprintf(&c.out, `<g class="%s">`, class)
}

// End ends a group.
func (c *Canvas) End() { c.out.WriteString("</g>") }

// Path draws one with a class; fill is a colour, or empty for that of the class.
func (c *Canvas) Path(p *Path, class, fill string) {
	if p.Empty() {
		return
	}
	c.out.WriteString(`<path`)
	if class != "" {
		c.out.WriteString(` class="` + class + `"`)
	}
	if fill != "" && c.Theme != "paper" {
		c.out.WriteString(` style="fill:` + fill + `"`)
	} else if fill != "" {
		c.out.WriteString(` style="fill:#fff"`)
	}
	c.out.WriteString(` d="`)
	c.out.Write(p.b)
	c.out.WriteString(`"/>`)
}

// Raw writes SVG that has no other way.
func (c *Canvas) Raw(format string, args ...any) { fmt.Fprintf(&c.out, format, args...) }

// Text writes words at a place.
func (c *Canvas) Text(at Point, size float64, words string) {
	fmt.Fprintf(&c.out, `<text x="%.4g" y="%.4g" font-size="%.3g">%s</text>`, at.X, at.Y, size, html.EscapeString(words))
}

// Done gives the SVG.
func (c *Canvas) Done() []byte {
	c.out.WriteString("</svg>")
	return c.out.Bytes()
}
