// Package bark draws a piece of trunk as a picture: a height field for each texture, lit
// from the upper left, coloured by the bark, and in its furrows by what is under it.
package bark

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"math"

	"palethicket/core/plate"
)

// Width and Height are those of a picture in pixels.
const Width, Height = 400, 520

// The zones of a trunk.
const (
	Base   = "base"
	Breast = "breast"
	Upper  = "upper"
)

// spot is the bark at one place.
type spot struct {
	height float64 // mm over the trunk
	tone   float64 // lighter or darker, -1 to 1
	under  float64 // 1: the colour under the bark shows
	pale   float64 // 1: the pale colour of the texture shows
}

// piece is a piece of trunk while it is drawn. Lengths are in mm.
type piece struct {
	tree   *plate.Tree
	zone   string
	n      noise
	w, h   int // pixels
	radius float64
	scale  float64 // mm of one pixel
	at     func(s, y float64) spot
	grown  float64 // how far its bark is on the way from young to old, 0 to 1
	depth  float64
	width  float64 // of ridges
	run    float64
	ink    colors
	spots  []spot
	light  []float64
}

// Describe says what the picture shows.
func Describe(t *plate.Tree) string {
	return plate.Describe(
		t,
		"Bark",
		[]string{"bark.texture", "bark.color", "bark.furrow-depth", "bark.ridge-run", "bark.stripes", "bark.pale-runs",
			"bark.speckles", "bark.rings-target", "bark.cork-ridges", "bark.trunk-thorns", "bark.burrs", "bark.branch-marks"},
	)
}

// Draw gives a picture of the bark of a tree at a height on its trunk, as PNG.
func Draw(t *plate.Tree, zone string) ([]byte, error) {
	p := newPiece(t, zone, Width, Height)
	img := p.draw()
	p.scaleBar(img)
	return packed(img)
}

// Swatch gives the middle of such a picture at half its size, without the bar, as a square.
func Swatch(t *plate.Tree, zone string) ([]byte, error) {
	p := newPiece(t, zone, swatchSide, swatchSide)
	p.scale *= 2
	return packed(p.draw())
}

const swatchSide = 140

func (p *piece) draw() *image.Paletted {
	p.survey()
	p.marks()
	p.shade()
	img := p.paint()
	p.drawThorns(img)
	return img
}

func packed(img *image.Paletted) ([]byte, error) {
	var out bytes.Buffer
	quick := png.Encoder{CompressionLevel: png.BestSpeed}
	if err := quick.Encode(&out, img); err != nil {
		return nil, fmt.Errorf("writing the picture of a bark: %w", err)
	}
	return out.Bytes(), nil
}

func newPiece(t *plate.Tree, zone string, w, h int) *piece {
	r := t.Rand("bark" + zone)
	p := &piece{tree: t, zone: zone, w: w, h: h, n: noise{uint32(r.Uint64())}}
	p.grown = map[string]float64{"young": 0, "mature": 0.6, "old": 1}[t.Age]
	if t.Age == "" {
		p.grown = 0.6
	}
	p.radius = p.trunk()
	p.scale = plate.Clamp(2.06*p.radius, 110, 300) / Width
	p.width = t.Build.RidgeWidth * (0.55 + 0.75*p.grown)
	p.run = 10 * t.Shows.Value("bark.ridge-run", t.Build.PlateRun/10)
	p.depth = t.Shows.Value("bark.furrow-depth", 2+10*p.grown)
	switch zone {
	case Upper:
		p.width, p.depth, p.radius = p.width*0.8, p.depth*0.6, p.radius*0.8
	case Base:
		p.width, p.depth, p.radius = p.width*1.15, p.depth*1.25, p.radius*1.15
	}
	p.ink = p.colors()
	p.at = p.texture(t.Shows.State("bark.texture", "smooth"))
	return p
}

// trunk gives half the thickness of the trunk.
func (p *piece) trunk() float64 {
	grown := 10 * p.tree.Shows.Value("form.dbh", 35)
	return plate.Clamp(grown*(0.3+0.55*p.grown)/2, 30, 420)
}

// x gives the place round the trunk of a column of pixels, and the cosine of the angle at
// which it is seen: 0 beside the trunk.
func (p *piece) x(col int) (s, cos float64) {
	x := (float64(col) + 0.5 - float64(p.w)/2) * p.scale
	sin := x / p.radius
	if math.Abs(sin) >= 1 {
		return 0, 0
	}
	return p.radius * math.Asin(sin), math.Sqrt(1 - sin*sin)
}

// survey looks at every place.
func (p *piece) survey() {
	p.spots = make([]spot, p.w*p.h)
	p.everywhere(func(s, y float64, at *spot) { *at = p.at(s, y) })
}

// everywhere changes all that is bark, some rows at a time.
func (p *piece) everywhere(change func(s, y float64, at *spot)) {
	columns := make([]struct{ s, cos float64 }, p.w)
	for col := range columns {
		columns[col].s, columns[col].cos = p.x(col)
	}
	inBands(p.h, func(from, to int) {
		for row := from; row < to; row++ {
			for col := range columns {
				if columns[col].cos > 0 {
					change(columns[col].s, float64(row)*p.scale, &p.spots[row*p.w+col])
				}
			}
		}
	})
}

func (p *piece) height(col, row int) float64 {
	return p.spots[max(0, min(p.h-1, row))*p.w+max(0, min(p.w-1, col))].height
}

// Light comes from the upper left, from before the trunk.
const lightX, lightY, lightZ = -0.52, -0.5, 0.69

// shade works out how light each place is, from 0 to 1; 0 beside the trunk.
func (p *piece) shade() {
	p.light = make([]float64, p.w*p.h)
	sins, coss := make([]float64, p.w), make([]float64, p.w)
	for col := range p.w {
		_, coss[col] = p.x(col)
		sins[col] = (float64(col) + 0.5 - float64(p.w)/2) * p.scale / p.radius
	}
	inBands(p.h, func(from, to int) {
		for row := from; row < to; row++ {
			for col := range p.w {
				if coss[col] > 0 {
					p.light[row*p.w+col] = p.lightAt(col, row, sins[col], coss[col])
				}
			}
		}
	})
}

// casting is how many pixels towards the light it is looked for what casts a shadow.
var casting = []int{2, 4, 7, 11, 16}

func (p *piece) lightAt(col, row int, sin, cos float64) float64 {
	h := p.height(col, row)
	dx := (p.height(col+1, row) - p.height(col-1, row)) / (2 * p.scale)
	dy := (p.height(col, row+1) - p.height(col, row-1)) / (2 * p.scale)
	nx, ny, nz := sin-dx, -dy, cos
	lit := (nx*lightX + ny*lightY + nz*lightZ) / math.Sqrt(nx*nx+ny*ny+nz*nz)
	cast := 0.0
	for _, step := range casting {
		cast = max(cast, p.height(col-step, row-step)-h-0.75*float64(step)*p.scale)
	}
	around := (p.height(col-5, row) + p.height(col+5, row) + p.height(col, row-5) + p.height(col, row+5)) / 4
	hollow := plate.Clamp((around-h)/(5*p.scale), -0.3, 1)
	v := 0.34 + 0.62*max(lit, 0)
	v *= 1 - 0.5*plate.Smooth(0, 3*p.scale, cast)
	v *= 1 - 0.32*hollow
	v *= 0.62 + 0.38*cos
	return plate.Clamp(v*1.12+0.16*p.spots[row*p.w+col].tone, 0.002, 1)
}

// shades is how many steps of light the palette has for each mix of colours.
const shades, mixes = 36, 5

// paint gives the picture: every colour of it is one of a palette.
func (p *piece) paint() *image.Paletted {
	palette := make(color.Palette, 0, 256)
	ramp := func(c color.RGBA) {
		for i := range shades {
			palette = append(palette, p.lit(c, float64(i)/(shades-1)))
		}
	}
	for i := range mixes {
		ramp(plate.Mix(p.ink.bark, p.ink.under, float64(i)/(mixes-1)))
	}
	ramp(p.ink.pale)
	palette = append(palette, color.RGBA{}, color.RGBA{0, 0, 0, 255}, color.RGBA{255, 255, 255, 255},
		color.RGBA{96, 44, 30, 255}, color.RGBA{58, 28, 20, 255}) // beside it, the bar, thorns
	img := image.NewPaletted(image.Rect(0, 0, p.w, p.h), palette)
	for i, s := range p.spots {
		if p.light[i] == 0 {
			img.Pix[i] = beside
			continue
		}
		mix := int(plate.Clamp(s.under, 0, 1)*(mixes-1) + 0.5)
		if s.pale > 0.5 {
			mix = mixes
		}
		img.Pix[i] = uint8(mix*shades + int(p.light[i]*(shades-1)+0.5))
	}
	return img
}

// Places in the palette behind the shades.
const (
	beside = (mixes + 1) * shades
	black  = beside + 1
	white  = beside + 2
	thorn  = beside + 3
	shadow = beside + 4
)

// lit is a colour under some light: darker and cooler in the shade, warmer in the sun.
func (p *piece) lit(c color.RGBA, light float64) color.RGBA {
	k := 0.13 + 1.08*light
	warm := 0.04 * (light - 0.5)
	ch := func(v uint8, k float64) uint8 { return uint8(plate.Clamp(float64(v)*k, 0, 255)) }
	return color.RGBA{ch(c.R, k*(1+warm)), ch(c.G, k), ch(c.B, k*(1-warm)), 255}
}

// colors are those of one bark.
type colors struct{ bark, under, pale color.RGBA }

func (p *piece) colors() colors {
	get := func(id, usual string) color.RGBA {
		c, ok := plate.Colors[p.tree.Shows.State(id, usual)]
		if !ok {
			return plate.Colors[usual]
		}
		return c
	}
	c := colors{bark: get("bark.color", "grey-brown")}
	if state := p.tree.Shows.State("bark.texture", ""); state != "papery-curls" && state != "dash-banded" {
		c.bark = plate.Mix(c.bark, plate.Colors["grey-brown"], 0.3) // weathered, as rough bark is
		if state == "smooth" {
			c.bark = get("bark.color", "grey-brown")
		}
	}
	dark := plate.Mix(c.bark, color.RGBA{30, 22, 16, 255}, 0.55)
	c.under, c.pale = dark, plate.Mix(c.bark, color.RGBA{236, 233, 224, 255}, 0.55)
	if p.tree.Shows.Knows("bark.under-color") {
		c.under = plate.Mix(dark, get("bark.under-color", "brown"), 0.24)
	}
	switch p.tree.Shows.State("bark.texture", "") {
	case "papery-curls":
		c.under = plate.Mix(get("bark.under-color", "orange"), plate.Colors["salmon"], 0.4)
		c.pale = color.RGBA{64, 54, 48, 255} // its dashes
	case "mottled-patches":
		c.bark = plate.Mix(plate.Colors["grey-brown"], c.bark, 0.25)
		c.under, c.pale = plate.Mix(plate.Colors["olive"], plate.Colors["tan"], 0.4), color.RGBA{230, 223, 200, 255}
		if p.zone == Upper {
			c.pale = color.RGBA{240, 238, 228, 255}
		}
	case "dash-banded":
		c.bark = plate.Mix(c.bark, plate.Colors["near-black"], 0.28)
		c.pale = plate.Mix(c.bark, color.RGBA{190, 160, 120, 255}, 0.6)
	}
	return c
}
