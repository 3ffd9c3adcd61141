// Package fruit draws what a tree bears, and the leaves below it: each kind from a few
// measures, to scale.
package fruit

import (
	"fmt"
	"math"
	"math/rand/v2"

	"palethicket/core/plate"
)

const styles = `path{stroke-width:.7}.thin{stroke-width:.4}.bold{stroke-width:1.1}.dot{fill:var(--ink);stroke:none}` +
	`.shade{stroke:none;fill:#1a120c;opacity:.22}.paper .shade{opacity:0}`

// side is that of a drawing; its unit hangs on how large the fruit is.
const side = 60.0

// pencil draws one fruit, or one leaf.
type pencil struct {
	c   *plate.Canvas
	rng *rand.Rand
	*plate.Tree
}

type drawn struct {
	mm   float64 // how much the drawing shows, across
	draw func(p *pencil)
}

// Draw gives the kind of fruit that a tree bears.
func Draw(t *plate.Tree, theme string) []byte {
	kind := t.Shows.State("fruit.kind", "")
	k, ok := kinds[kind]
	if !ok {
		k = drawn{40, func(*pencil) {}}
	}
	return paint(t, theme, k, "fruit.kind", plate.Describe(t, "Fruit", []string{"fruit.kind", "fruit.acorn-cup"}))
}

// DrawLeaf gives the leaf that lies below a tree.
func DrawLeaf(t *plate.Tree, theme string) []byte {
	k, ok := leaves[t.Shows.State("ground.leaf", "")]
	if !ok {
		k = drawn{100, func(*pencil) {}}
	}
	return paint(t, theme, k, "ground.leaf", plate.Describe(t, "Leaf", []string{"ground.leaf"}))
}

func paint(t *plate.Tree, theme string, k drawn, of, described string) []byte {
	p := &pencil{plate.NewCanvas(t, theme, 0, 0, side, side+6, styles, described), t.Rand(of), t}
	p.c.Group(of, "")
	k.draw(p)
	p.c.End()
	bar := 10.0
	if k.mm > 80 {
		bar = 50
	}
	w := bar * side / k.mm
	p.c.Raw(`<g class="scalebar"><path class="thin" d="M2 %gh%.2fM2 %gv2M%.2f %gv2"/>`, side+4.5, w, side+3.5, 2+w, side+3.5)
	p.c.Text(plate.Point{X: 2 + w + 9, Y: side + 5.6}, 4, fmt.Sprintf("%g mm", bar))
	p.c.Raw("</g>")
	return p.c.Done()
}

func at(x, y float64) plate.Point { return plate.Point{X: x, Y: y} }

// blob is a closed smooth shape; the right of it is in shade.
func (p *pencil) blob(color string, points ...plate.Point) {
	p.c.Path(plate.NewPath(1).Curve(points, true), "", plate.Wash(color))
}

func (p *pencil) ball(c plate.Point, r float64, color string) {
	p.egg(c, r, r, color)
}

func (p *pencil) egg(c plate.Point, a, b float64, color string) {
	p.c.Path(plate.NewPath(1).Ellipse(c, a, b), "", plate.Wash(color))
	shade := plate.NewPath(1).Move(at(c.X+0.25*a, c.Y-b*0.97)).Cubic(at(c.X+1.25*a, c.Y-b), at(c.X+1.25*a, c.Y+b), at(c.X+0.25*a, c.Y+b*0.97)).
		Cubic(at(c.X+0.75*a, c.Y+0.5*b), at(c.X+0.75*a, c.Y-0.5*b), at(c.X+0.25*a, c.Y-b*0.97))
	p.c.Path(shade, "shade", "")
}

func (p *pencil) line(class string, points ...plate.Point) {
	p.c.Path(plate.NewPath(1).Curve(points, false), class, "")
}

func (p *pencil) stalk(points ...plate.Point) { p.line("bold", points...) }

// key is a winged seed: the seed at a place, its wing along an angle.
func (p *pencil) key(seed plate.Point, angle, l, wide float64, color string) {
	f := plate.Frame{At: seed, Angle: angle}
	p.blob(color, f.Put(-0.05*l, 0), f.Put(0.12*l, -0.2*wide), f.Put(0.5*l, -0.55*wide), f.Put(0.92*l, -0.45*wide), f.Put(l, 0.05*wide),
		f.Put(0.8*l, 0.42*wide), f.Put(0.4*l, 0.4*wide), f.Put(0.1*l, 0.22*wide))
	veins := plate.NewPath(1)
	for _, v := range []float64{-0.3, -0.05, 0.2} {
		veins.Move(f.Put(0.2*l, v*0.4*wide)).Quad(f.Put(0.6*l, v*wide), f.Put(0.9*l, v*1.1*wide))
	}
	p.c.Path(veins, "thin", "")
	p.c.Path(plate.NewPath(1).Ellipse(f.Put(0.1*l, 0), 0.11*l, 0.2*wide), "", plate.Wash("brown"))
}

// cone is one of scales in rows.
func (p *pencil) cone(c plate.Point, a, b float64, color string, rows, cols int) {
	p.egg(c, a, b, color)
	scales := plate.NewPath(1)
	for row := range rows {
		y := c.Y - b + 2*b*(float64(row)+0.7)/(float64(rows)+0.4)
		half := a * math.Sqrt(math.Max(0, 1-math.Pow((y-c.Y)/b, 2)))
		for col := range cols {
			x := c.X + half*(2*(float64(col)+0.5+0.5*float64(row%2))/float64(cols)-1)
			if math.Abs(x-c.X)+0.7*half/float64(cols) > half {
				continue
			}
			w := half / float64(cols) * 1.1
			scales.Move(at(x-w, y-0.1*b)).Quad(at(x-0.8*w, y+0.14*b), at(x, y+0.17*b)).Quad(at(x+0.8*w, y+0.14*b), at(x+w, y-0.1*b))
		}
	}
	p.c.Path(scales, "thin", "")
}

func (p *pencil) bunch(n int, r float64, color string, top plate.Point, spread float64) {
	for i := range n {
		a := (float64(i)/float64(n-1) - 0.5) * 1.7
		d := (spread - r) * plate.Between(p.rng, 0.6, 1)
		c := at(top.X+d*math.Sin(a), top.Y+12+d*math.Cos(a)*0.9)
		p.line("thin", top, at((top.X+c.X)/2, top.Y+6), c)
		defer p.ball(c, r, color)
	}
}

// whiskers are spines or hairs all round.
func (p *pencil) whiskers(c plate.Point, r, long float64, n int, class string) {
	path := plate.NewPath(1)
	for i := range n {
		s, cos := math.Sincos(2*math.Pi*float64(i)/float64(n) + plate.Between(p.rng, -0.08, 0.08))
		k := r * plate.Between(p.rng, 0.55, 1)
		path.Segment(at(c.X+k*s, c.Y-k*cos), at(c.X+(k+long)*s, c.Y-(k+long)*cos))
	}
	p.c.Path(path, class, "")
}
