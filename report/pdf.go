package report

import (
	"fmt"
	"io"
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"palethicket/book"
	"palethicket/core/stand/worklist"
)

// PDF writes the report as PDF, its fonts in it.
func PDF(w io.Writer, r *book.Report, paper string) error {
	p, err := newPDF(paper, Title(r)+": trees in winter", Title(r), r.Made)
	if err != nil {
		return err
	}
	p.title(Title(r))
	p.head(r)
	p.drawMap(draw(r, textWide, 110))
	p.composition(r)
	p.open(r)
	p.names(r)
	p.spring(r.Spring)
	p.visits(r)
	p.care(r)
	return p.finish(w, "the report")
}

func (p *pdf) head(r *book.Report) {
	made := "Trees looked at in winter. Made " + r.Made.Format("2 January 2006") + " by Pale Thicket."
	if r.Hectares > 0 {
		made += fmt.Sprintf(" %.1f ha.", r.Hectares)
	}
	p.text(made)
	if r.Remarks != "" {
		p.text(r.Remarks)
	}
	says := fmt.Sprintf("%d trees", r.Composition.Trees)
	sep := ": "
	for _, s := range worklist.Statuses {
		if n := r.Statuses[s.ID]; n > 0 {
			says += fmt.Sprintf("%s%d %s", sep, n, strings.ToLower(s.Words))
			sep = ", "
		}
	}
	p.text(fmt.Sprintf("%s. %.2f m² basal area of those measured.", says, r.Composition.Measured))
}

// drawMap draws the map where there is one; marks differ in form, not in colour
// alone: full, half, crossed and hollow.
func (p *pdf) drawMap(d *drawing) {
	if d == nil {
		return
	}
	p.heading("Map")
	x0, y0 := p.left+(textWide-d.Width)/2, p.GetY()
	if y0+d.Height > p.high-margin {
		p.AddPage()
		y0 = p.GetY()
	}
	for _, l := range d.Lines {
		p.line(l, x0, y0)
	}
	for _, dot := range d.Dots {
		p.dot(dot, x0, y0)
	}
	p.SetFont("body", "B", 7.5)
	p.SetTextColor(33, 29, 25)
	p.SetFillColor(255, 253, 248)
	for _, l := range d.Labels { // on a pale ground, so that marks do not cross the words
		wide := p.GetStringWidth(l.Text)
		p.SetAlpha(0.75, "Normal")
		p.Rect(x0+l.X-wide/2-0.6, y0+l.Y-2.6, wide+1.2, 3.4, "F")
		p.SetAlpha(1, "Normal")
		p.Text(x0+l.X-p.GetStringWidth(l.Text)/2, y0+l.Y, l.Text)
	}
	p.SetY(y0 + d.Height + 3)
	p.SetFont("body", "", 8)
	p.text("Full mark: named. Half-full: ready to name. Barred: probably. Crossed: in doubt. Hollow: not yet. Point: not scored.")
}

func (p *pdf) line(l drawnLine, x0, y0 float64) {
	points := make([]fpdf.PointType, len(l.Points))
	for i, pt := range l.Points {
		points[i] = fpdf.PointType{X: x0 + pt.X, Y: y0 + pt.Y}
	}
	wide, r, g, b := 0.1, 160, 145, 125
	switch l.Kind {
	case "stream":
		wide, r, g, b = 0.6, 61, 126, 166
	case "track":
		wide, r, g, b = 0.4, 92, 83, 72
	case "stand":
		wide, r, g, b = 0.35, 107, 84, 64
	case "tract", "building":
		wide, r, g, b = 0.4, 33, 29, 25
	}
	p.SetLineWidth(wide)
	p.SetDrawColor(r, g, b)
	for i := 1; i < len(points); i++ {
		p.Line(points[i-1].X, points[i-1].Y, points[i].X, points[i].Y)
	}
}

func (p *pdf) dot(d drawnDot, x0, y0 float64) {
	x, y, radius := x0+d.X, y0+d.Y, 0.9
	p.SetLineWidth(0.25)
	p.SetDrawColor(47, 93, 74)
	p.SetFillColor(47, 93, 74)
	switch d.Status {
	case worklist.Named:
		p.Circle(x, y, radius, "FD")
	case worklist.Ready:
		p.Circle(x, y, radius, "D")
		p.Circle(x, y, radius/2, "F")
	case worklist.Probable:
		p.Circle(x, y, radius, "D")
		p.Line(x, y-radius, x, y+radius)
	case worklist.Doubtful:
		p.SetDrawColor(161, 43, 43)
		p.Line(x-radius, y-radius, x+radius, y+radius)
		p.Line(x-radius, y+radius, x+radius, y-radius)
	case worklist.Unscored:
		p.Circle(x, y, 0.3, "F")
	default:
		p.SetDrawColor(33, 29, 25)
		p.Circle(x, y, radius, "D")
	}
}
