package twig

import (
	"fmt"
	"math"

	"palethicket/core/plate"
)

// lenses show the end bud, a leaf scar, and the twig cut lengthwise, enlarged.
func (w *twig) lenses() {
	w.budLens()
	if !w.ever {
		w.scarLens()
	}
	w.pithLens()
}

func (w *twig) glass(y float64, id string, words string, draw func()) {
	w.c.Raw(
		`<clipPath id="%s"><circle cx="%g" cy="%g" r="%g"/></clipPath><circle class="lens" cx="%g" cy="%g" r="%g"/><g clip-path="url(#%s)">`,
		id,
		lensX,
		y,
		lensR,
		lensX,
		y,
		lensR,
		id,
	)
	draw()
	w.c.Raw("</g>")
	w.c.Path(plate.NewPath(2).Circle(plate.Point{X: lensX, Y: y}, lensR), "lensrim", "")
	w.c.Text(plate.Point{X: lensX, Y: y + lensR + 4}, 3.4, words)
}

// times is how many times the end bud is enlarged: four, where that fits.
func (w *twig) times() float64 {
	for _, k := range []float64{4, 3, 2} {
		if w.bud*k < 27 {
			return k
		}
	}
	return 1
}

func (w *twig) budLens() {
	k := w.times()
	w.glass(budLensY, "lb", fmt.Sprintf("end bud × %g", k), func() {
		l := w.bud * k
		foot := plate.Frame{At: plate.Point{X: lensX, Y: budLensY + math.Min(l/2+1, 14)}}
		r := plate.Clamp(w.half(0)*k, 1, 13)
		stem := []plate.Point{foot.Put(0.3, -r), foot.Put(-20, -r*1.05), foot.Put(-20, r*1.05), foot.Put(0.3, r)}
		w.c.Path(plate.NewPath(2).Poly(stem, true), "", w.wash)
		if w.Shows.State("bud.tip", "") == "pair-at-end" {
			w.drawBud(plate.Frame{At: foot.Put(0, -r*0.55), Angle: -0.22}, l, k)
			w.drawBud(plate.Frame{At: foot.Put(0, r*0.55), Angle: 0.22}, l, k)
			return
		}
		w.drawBud(foot, l, k)
	})
}

func (w *twig) scarLens() {
	half := plate.Clamp(8*w.scarHalf(), 5, 9.5)
	w.glass(67, "ls", fmt.Sprintf("leaf scar × %.2g", half/w.scarHalf()), func() {
		at := plate.Frame{At: plate.Point{X: lensX, Y: 70}}
		stem := []plate.Point{{X: lensX - 13, Y: 48}, {X: lensX + 13, Y: 48}, {X: lensX + 13, Y: 88}, {X: lensX - 13, Y: 88}}
		w.c.Path(plate.NewPath(2).Poly(stem, true), "thin", w.wash)
		if wraps[w.Shows.State("scar.shape", "")] {
			w.faceScar(at, half, 8)
			w.drawBud(plate.Frame{At: at.Put(0, 0)}, plate.Clamp(1.3*half, 4, 14), 3)
			return
		}
		w.drawBud(plate.Frame{At: at.Put(0.5*half, 0)}, plate.Clamp(8*w.sideLength(), 5, 15), 3)
		w.faceScar(at, half, 8)
	})
}

// pithLens is the twig cut lengthwise: wood to both sides, between them the pith.
func (w *twig) pithLens() {
	state := w.Shows.State("twig.pith", "")
	if state == "" {
		return
	}
	w.glass(cutLensY, "lp", "cut lengthwise", func() {
		share := w.pithShare()
		r := 12.0
		box := func(a, b float64) *plate.Path {
			return plate.NewPath(2).
				Poly([]plate.Point{{X: lensX + a, Y: 84}, {X: lensX + b, Y: 84}, {X: lensX + b, Y: 124}, {X: lensX + a, Y: 124}}, true)
		}
		w.c.Path(box(-r, r), "", w.wash)
		w.c.Path(box(-r*0.86, r*0.86), "thin", "#ecdfc0")
		w.c.Group("twig.pith", "thin")
		color := plate.Wash(w.Shows.State("twig.pith-color", "white"))
		in := r * share
		if state == "hollow" {
			color = "#2a211a"
		}
		w.c.Path(box(-in, in), "", color)
		w.pithMarks(state, in)
		w.c.End()
	})
}

func (w *twig) pithMarks(state string, in float64) {
	level := func(y float64) (a, b plate.Point) {
		return plate.Point{X: lensX - in, Y: y}, plate.Point{X: lensX + in, Y: y}
	}
	p := plate.NewPath(2)
	switch state {
	case "chambered":
		for y := 90.0; y < 120; y += 2.3 {
			a, b := level(y)
			w.c.Path(plate.NewPath(2).Move(a).Quad(plate.Point{X: lensX, Y: y + 0.6}, b).Line(b.Add(plate.Point{Y: 1.4})).
				Quad(plate.Point{X: lensX, Y: y + 1.9}, a.Add(plate.Point{Y: 1.4})).Close(), "", "#2a211a")
		}
	case "barred", "barred-at-nodes":
		for y := 91.0; y < 120; y += 4.5 {
			if state == "barred-at-nodes" && math.Abs(y-104.5) > 3 {
				continue
			}
			a, b := level(y)
			p.Segment(a, b).Segment(a.Add(plate.Point{Y: 0.8}), b.Add(plate.Point{Y: 0.8}))
		}
		w.c.Path(p, "bold", "")
	case "spongy-wide":
		for range 60 {
			q := plate.Point{X: lensX + plate.Between(w.rng, -in, in)*0.95, Y: plate.Between(w.rng, 89, 119)}
			p.Dot(q)
		}
		w.c.Path(p, "hollow", "")
	}
}

// Describe says what the drawing shows.
func Describe(t *plate.Tree) string {
	return plate.Describe(t, "Twig", []string{"twig.arrangement", "twig.diameter", "twig.color", "bud.tip", "bud.length", "bud.shape",
		"bud.stance", "bud.scales", "scar.shape", "scar.bundles", "twig.pith", "twig.arms", "needle.kept", "needle.bundle"})
}
