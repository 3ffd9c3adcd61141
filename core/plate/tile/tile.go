// Package tile draws one state of a character, small: a crop of the very drawing of a tree
// that shows it, wherever the state can be read from one, else a sign of its own.
package tile

import (
	_ "embed"
	"fmt"
	"regexp"
	"strings"
	"sync"

	"palethicket/core/plate"
	"palethicket/core/plate/bark"
	"palethicket/core/plate/fruit"
	"palethicket/core/plate/outline"
	"palethicket/core/plate/twig"
)

// Tile is one that was drawn.
type Tile struct {
	Kind string // image/png or image/svg+xml
	Body []byte
}

// Draw draws a state; a sign's is seen. It gives nil where there is no drawing of it.
func Draw(character, state, theme string) (*Tile, error) {
	return draw(sample(character, state), character, state, theme)
}

// Part draws the part of a tree in which a character shows, without a word that says how; nil where no
// drawing of the tree itself shows it so near.
func Part(t *plate.Tree, character, state, theme string) (*Tile, error) {
	switch source(character, state) {
	case ofBark, ofTwig, ofOutline:
	default:
		return nil, nil
	}
	out, err := draw(t, character, state, theme)
	if err != nil || out == nil {
		return nil, err
	}
	return &Tile{out.Kind, Untitled(out.Body)}, nil
}

// Untitled is a drawing without the words that say what it shows.
func Untitled(svg []byte) []byte { return title.ReplaceAll(svg, nil) }

var title = regexp.MustCompile(`<title>.*?</title>`)

func draw(t *plate.Tree, character, state, theme string) (*Tile, error) {
	switch source(character, state) {
	case ofColor:
		return vector([]byte(chip(plate.Hex(plate.Colors[state]), state, theme))), nil
	case ofGlyph:
		return vector(sign(glyphs()[character+" "+state], character, state, theme)), nil
	case ofBark:
		png, err := bark.Swatch(t, bark.Breast)
		return &Tile{"image/png", png}, err
	case ofFruit:
		return vector(fruit.Draw(t, theme)), nil
	case ofLeaf:
		return vector(fruit.DrawLeaf(t, theme)), nil
	case ofTwig:
		return crop(twig.Part(t, theme, partOf(views[character])), views[character]), nil
	case ofOutline:
		return crop(whole(t, character, theme), wholeView(character)), nil
	}
	return nil, nil
}

// whole is the drawing of a tree in which a character shows, and wholeView what of it.
func whole(t *plate.Tree, character, theme string) []byte {
	if character == "form.spray" {
		return outline.Spray(t, theme)
	}
	return outline.Small(t, theme)
}

func wholeView(character string) string {
	switch character {
	case "form.spray":
		return "29 34 28 28"
	case "form.bole":
		return "20 50 56 56"
	}
	return "-5 2 106 106"
}

// Has says whether there is a drawing of a state.
func Has(character, state string) bool { return source(character, state) != "" }

// What the tile of a state is taken from.
const (
	ofColor   = "color"
	ofGlyph   = "glyph"
	ofBark    = "bark"
	ofFruit   = "fruit"
	ofLeaf    = "leaf"
	ofOutline = "outline"
	ofTwig    = "twig"
)

func source(character, state string) string {
	if _, ok := plate.Colors[state]; ok && strings.HasSuffix(character, "color") {
		return ofColor
	}
	if _, ok := glyphs()[character+" "+state]; ok {
		return ofGlyph
	}
	if from, ok := sources[character]; ok {
		return from
	}
	section, _, _ := strings.Cut(character, ".")
	switch {
	case barkSigns[character] && state == "seen":
		return ofBark
	case section == "form" && character != "form.dbh" || character == "needle.kept" && state == "bare":
		return ofOutline
	case views[character] != "":
		return ofTwig
	}
	return ""
}

// sources are those of characters all of whose states are taken from one kind of drawing.
var sources = map[string]string{
	"bark.texture": ofBark, "bark.branch-marks": ofBark, "fruit.kind": ofFruit, "ground.fruit": ofFruit, "fruit.acorn-cup": ofFruit,
	"ground.leaf": ofLeaf, "fruit.leaves-held": ofOutline,
}

func vector(svg []byte) *Tile { return &Tile{"image/svg+xml", svg} }

var barkSigns = map[string]bool{"bark.stripes": true, "bark.pale-runs": true, "bark.speckles": true, "bark.rings-target": true,
	"bark.cork-ridges": true, "bark.burrs": true, "bark.resin-blisters": true, "bark.trunk-thorns": true, "sign.hole-rows": true,
	"sign.d-holes": true, "sign.bark-cankers": true}

// views are the parts of a twig's drawing in which a character shows.
var views = map[string]string{
	"twig.arrangement": "3 40 46 76", "twig.hair": "14 70 22 22", "twig.glands": "14 70 22 22", "twig.finish": "14 66 22 30",
	"twig.zigzag": "3 40 46 76", "twig.lenticels": "14 66 22 30", "twig.spurs": "3 60 46 60", "twig.arms": "0 40 52 80",
	"twig.section-outline": "14 66 22 30", "twig.pith": "46 88 32 32", "twig.stipule-marks": "13 52 24 34",
	"bud.tip": "9 8 32 40", "bud.shape": "46 14 32 32", "bud.stance": "7 40 36 60", "bud.scales": "46 14 32 32", "bud.keeled": "46 14 32 32",
	"bud.coat": "46 14 32 32", "bud.extras": "7 36 36 56", "bud.last-pair-close": "9 8 32 40", "scar.shape": "46 51 32 32",
	"scar.bundles": "46 51 32 32", "scar.top": "46 51 32 32", "scar.fringe": "46 51 32 32", "scar.pairs-meet": "13 42 24 40",
	"fruit.catkins": "0 8 50 60", "needle.kept": "0 40 50 80", "needle.bundle": "0 40 50 80", "needle.set": "0 40 50 80",
}

// partOf is the part of a twig that a view shows.
func partOf(view string) string {
	switch view {
	case "46 14 32 32":
		return twig.Bud
	case "46 51 32 32":
		return twig.Scar
	case "46 88 32 32":
		return twig.Pith
	}
	return twig.Stem
}

// sample is an ordinary tree that shows a state plainly.
func sample(character, state string) *plate.Tree {
	t := &plate.Tree{Name: "tile", English: "a tree", Age: "mature", Height: 12, Build: plate.OrdinaryBuild, Shows: plate.Shows{
		"twig.diameter": {Value: 4}, "twig.color": {State: "brown"}, "twig.arrangement": {State: "alternate"},
		"bud.length": {Value: 7}, "bud.color": {State: "red-brown"}, "bud.shape": {State: "egg"}, "bud.scales": {State: "few-overlapping"},
		"bud.stance": {
			State: "spreading",
		}, "bud.tip": {State: "true-end-bud"}, "scar.shape": {State: "half-round"}, "scar.bundles": {State: "three"},
		"twig.pith": {State: "solid"}, "twig.pith-color": {State: "tan"}, "bark.color": {State: "mid-grey"}, "form.dbh": {Value: 35},
		"form.habit": {
			State: "single-stem",
		}, "form.crown": {State: "rounded"}, "form.limbs": {State: "ascending"}, "form.bole": {State: "straight-clear"},
		"form.spray": {State: "medium"}, "bark.texture": {State: "smooth"}, "needle.kept": {State: "bare"}, "bud.coat": {State: "bare"},
		"twig.section-outline": {State: "round"}, "twig.hair": {State: "none"}, "scar.top": {State: "straight"}, "fruit.kind": {State: "acorn"},
		"fruit.acorn-cup": {State: "bowl-third"}, "ground.leaf": {State: "plain-oval"}, "fruit.catkins": {State: "none"},
	}}
	t.Build.Ranks = 2 // buds stand in profile
	switch character {
	case "bud.tip", "bud.last-pair-close", "fruit.catkins":
		t.Build.Internode = 34 // the twig is as long as the drawing
	}
	for id, also := range with[character] {
		t.Shows[id] = also
	}
	for id, also := range with[character+" "+state] {
		t.Shows[id] = also
	}
	t.Shows[character] = plate.Shown{State: state, Seen: state == "seen", Value: t.Shows[character].Value}
	if character == "ground.fruit" {
		t.Shows["fruit.kind"] = plate.Shown{State: state}
	}
	return t
}

// with is what else a state shows best with.
var with = map[string]plate.Shows{
	"bud.scales many-overlapping":   {"bud.scale-count": {Value: 16}},
	"bud.stance":                    {"bud.length": {Value: 10}},
	"bud.scales naked":              {"bud.color": {State: "tan"}},
	"bud.tip cluster-at-end":        {"bud.length": {Value: 5}},
	"bud.last-pair-close":           {"twig.arrangement": {State: "opposite"}},
	"scar.pairs-meet":               {"twig.arrangement": {State: "opposite"}},
	"scar.fringe":                   {"scar.shape": {State: "shield"}},
	"scar.top":                      {"scar.shape": {State: "half-round"}},
	"scar.bundles":                  {"scar.shape": {State: "shield"}},
	"scar.bundles arc-of-many":      {"scar.shape": {State: "half-round"}},
	"scar.bundles seven-or-so":      {"scar.shape": {State: "half-round"}},
	"twig.pith chambered":           {"twig.pith-color": {State: "dark-brown"}},
	"twig.hair":                     {"twig.diameter": {Value: 8}},
	"twig.glands":                   {"twig.diameter": {Value: 8}},
	"twig.lenticels":                {"twig.diameter": {Value: 8}, "twig.color": {State: "brown"}},
	"twig.finish":                   {"twig.diameter": {Value: 8}, "twig.color": {State: "red-brown"}},
	"twig.section-outline":          {"twig.diameter": {Value: 8}},
	"twig.stipule-marks":            {"twig.diameter": {Value: 8}},
	"needle.bundle":                 {"needle.kept": {State: "needles"}, "needle.length": {Value: 24}},
	"needle.set":                    {"needle.kept": {State: "needles"}, "needle.length": {Value: 14}, "needle.bundle": {State: "single"}},
	"needle.kept":                   {"needle.length": {Value: 16}},
	"bark.texture dash-banded":      {"bark.color": {State: "red-brown"}},
	"bark.texture papery-curls":     {"bark.color": {State: "white"}, "bark.under-color": {State: "orange"}},
	"bark.texture shredding-strips": {"bark.color": {State: "brown"}},
	"bark.texture small-scales":     {"bark.color": {State: "grey-brown"}},
	"bark.texture square-blocks":    {"bark.color": {State: "dark-grey"}},
	"bark.texture rough-furrows":    {"bark.color": {State: "grey-brown"}},
	"bark.texture sinewy":           {"form.dbh": {Value: 20}},
	"bark.texture one-edge-plates":  {"bark.color": {State: "pale-grey"}},
	"bark.texture flat-ridges":      {"bark.color": {State: "grey-brown"}},
	"bark.stripes":                  {"bark.color": {State: "olive"}},
	"bark.pale-runs":                {"bark.texture": {State: "flat-ridges"}, "bark.color": {State: "dark-grey"}},
	"bark.trunk-thorns":             {"bark.color": {State: "pale-grey"}},
	"bark.branch-marks":             {"bark.color": {State: "cream"}},
	"fruit.leaves-held":             {"form.crown": {State: "rounded"}},
	"form.crown weeping":            {"form.limbs": {State: "drooping"}},
	"form.limbs":                    {"form.crown": {State: "conical"}},
	"form.limbs ascending":          {"form.crown": {State: "rounded"}},
	"form.spray":                    {"form.crown": {State: "rounded"}},
}

// crop shows a part of a drawing.
func crop(svg []byte, view string) *Tile {
	return vector(viewBox.ReplaceAll(svg, []byte(`viewBox="`+view+`"`)))
}

var viewBox = regexp.MustCompile(`viewBox="[^"]*"`)

func chip(fill, state, theme string) string {
	more := ""
	if state == "two-tone" {
		more = `<path d="M0 20Q16 10 32 20V32H0Z" fill="` + plate.Hex(plate.Colors["green"]) + `"/>`
	}
	return fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 32 32" class="%s"><title>%s</title>`+
		`<rect width="32" height="32" rx="5" fill="%s"/>%s</svg>`, theme, strings.ReplaceAll(state, "-", " "), fill, more)
}

//go:embed glyphs.txt
var glyphText string

// glyphs are pen strokes in a box of 48 for what no drawing of a tree shows.
var glyphs = sync.OnceValue(func() map[string]string {
	out := map[string]string{}
	for line := range strings.Lines(glyphText) {
		if parts := strings.SplitN(strings.TrimSpace(line), " ", 3); len(parts) == 3 {
			out[parts[0]+" "+parts[1]] = parts[2]
		}
	}
	return out
})

func sign(d, character, state, theme string) []byte {
	c := plate.NewCanvas(&plate.Tree{}, theme, 0, 0, 48, 48, "path{stroke-width:2}", character+" "+state)
	c.Raw(`<path d="%s"/>`, d)
	return c.Done()
}
