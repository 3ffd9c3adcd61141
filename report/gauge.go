package report

import (
	"fmt"
	"io"
	"math"
	"time"

	"palethicket/core/measure"
	"palethicket/core/measure/sums"
)

// What is on a gauge card, in millimetres. Slots and marks are sizes that the flora's characters are told by (common practice).
var (
	twigSlots  = []float64{1.5, 2, 2.5, 3, 4, 5, 6, 7, 8, 10}
	budMarks   = []float64{2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25}
	scarMarks  = []float64{2, 3, 4, 5, 6, 8, 10, 12, 15}
	huskMarks  = []float64{1, 1.5, 2, 3, 4, 6, 8, 10, 12}
	pencilWide = 7.0
)

// The same on a card in inches.
var (
	twigInches = []float64{1.0 / 16, 1.0 / 8, 3.0 / 16, 1.0 / 4, 5.0 / 16, 3.0 / 8, 1.0 / 2}
	budInches  = []float64{1.0 / 16, 1.0 / 8, 3.0 / 16, 1.0 / 4, 3.0 / 8, 1.0 / 2, 3.0 / 4, 1}
	scarInches = []float64{1.0 / 16, 1.0 / 8, 3.0 / 16, 1.0 / 4, 3.0 / 8, 1.0 / 2}
	huskInches = []float64{1.0 / 32, 1.0 / 16, 1.0 / 8, 3.0 / 16, 1.0 / 4, 3.0 / 8, 1.0 / 2}
)

// inMM gives sizes on the card: what they measure in mm, and what they are called.
func inMM(inches bool, metric, american []float64) []size {
	out := []size{}
	if !inches {
		for _, s := range metric {
			out = append(out, size{s, fmt.Sprintf("%g", s)})
		}
		return out
	}
	for _, s := range american {
		out = append(out, size{s * inch, fraction(s)})
	}
	return out
}

// size is one of a card's.
type size struct {
	mm    float64
	words string
}

// fraction says a part of an inch as rules do: 3/16.
func fraction(x float64) string {
	for _, d := range []float64{1, 2, 4, 8, 16, 32} {
		if n := x * d; n == math.Trunc(n) {
			if d == 1 {
				return fmt.Sprintf("%g", n)
			}
			return fmt.Sprintf("%g/%g", n, d)
		}
	}
	return fmt.Sprintf("%g", x)
}

const (
	inch      = 25.4
	checkLine = 100.0 // mm; what must measure so much on paper
	cardWide  = 170.0
	cardHigh  = 128.0
	ruleLong  = 150.0
)

// ErrFactor is given for a gauge that nobody has.
const ErrFactor = Refusal("a gauge's factor lies between 0.1 and 100 m²/ha")

// GaugePDF prints a card to measure small things by, true to scale, with a table of limiting distances for a gauge of a factor in m²/ha.
// inches: in inches and feet, for a gauge in ft²/ac.
func GaugePDF(w io.Writer, factor float64, inches bool, paper string) error {
	if !(factor >= 0.1 && factor <= 100) {
		return ErrFactor
	}
	p, err := newPDF(paper, "Gauge card", "Gauge card", time.Now())
	if err != nil {
		return err
	}
	p.title("Gauge card")
	long, says := checkLine, "100 mm"
	if inches {
		long, says = 4*inch, "4 inches"
	}
	p.text("Print at 100 % (\"actual size\", not \"fit to page\"), on card, and cut along the thin line. " +
		"Hold a rule against the line below before you use it: it must measure " + says + ".")
	y := p.GetY() + 6
	p.measureLine(p.left+10, y, long)
	p.SetFont("body", "", 8)
	p.Text(p.left+10+long+4, y+1, "this must measure "+says)
	p.card(p.left+(textWide-cardWide)/2, y+8, factor, inches)
	return p.finish(w, "the gauge card")
}

// measureLine is a line with its ends marked.
func (p *pdf) measureLine(x, y, long float64) {
	p.SetDrawColor(0, 0, 0)
	p.SetLineWidth(0.2)
	p.Line(x, y, x+long, y)
	p.Line(x, y-2, x, y+2)
	p.Line(x+long, y-2, x+long, y+2)
}

func (p *pdf) card(x, y, factor float64, inches bool) {
	p.SetDrawColor(0, 0, 0)
	p.SetLineWidth(0.1)
	p.Rect(x, y, cardWide, cardHigh, "D")
	p.rule(x+10, y, ruleLong, 1, 10, 5, "mm", 10) // its edge is the card's
	p.rule(x+10, y+cardHigh, -6*inch, inch/16, 16, 8, "in", 1)
	unit := "mm"
	if inches {
		unit = "in"
	}
	at := p.slots(x+6, y+22, "Twig thickness: the slot it just goes into, "+unit, inMM(inches, twigSlots, twigInches))
	at = p.lengths(x+6, at+3, "Bud length, "+unit, inMM(inches, budMarks, budInches))
	at = p.circles(x+6, at+3, "Leaf scar, across, "+unit, inMM(inches, scarMarks, scarInches))
	p.lengths(x+6, at+3, "Husk thickness, "+unit, inMM(inches, huskMarks, huskInches))
	p.limits(x+124, y+22, factor, inches)
}

// rule draws a rule from a corner: along the top downwards, or (long less than 0) along the foot upwards. Each step in mm; every so
// many steps a long mark with a figure, and a middling one.
func (p *pdf) rule(x, y, long, step float64, most, middling int, unit string, per int) {
	down := 1.0
	if long < 0 {
		down, long = -1, -long
	}
	p.SetFont("body", "", 6.5)
	for i := 0; float64(i)*step <= long+1e-6; i++ {
		at, high := x+float64(i)*step, 3.0
		p.SetLineWidth(0.1)
		switch {
		case i%most == 0:
			high = 6.5
			p.SetLineWidth(0.18)
			figure := fmt.Sprint(i / most * per)
			p.Text(at-p.GetStringWidth(figure)/2, y+down*9+(1-down)*0.6, figure)
		case i%middling == 0:
			high = 4.8
		case most == 16 && i%4 == 0:
			high = 4
		}
		p.Line(at, y, at, y+down*high)
	}
	p.Text(x+long+3, y+down*5, unit)
}

func (p *pdf) gaugeWords(x, y float64, words string) {
	p.SetFont("body", "B", 8)
	p.Text(x, y, words)
	p.SetFont("body", "", 6.5)
	p.SetLineWidth(0.15)
}

// slots are gaps as wide as their figures; that of a pencil is named.
func (p *pdf) slots(x, y float64, words string, sizes []size) (end float64) {
	p.gaugeWords(x, y, words)
	for _, s := range sizes {
		p.Line(x, y+3, x, y+13)
		p.Line(x+s.mm, y+3, x+s.mm, y+13)
		p.Line(x, y+13, x+s.mm, y+13)
		p.Text(x, y+16, s.words)
		if s.mm == pencilWide {
			p.Text(x, y+19, "a pencil")
		}
		x += s.mm + 6
	}
	return y + 22
}

// lengths are bars as long as their figures.
func (p *pdf) lengths(x, y float64, words string, sizes []size) (end float64) {
	p.gaugeWords(x, y, words)
	start, row := x, y+4
	for _, s := range sizes {
		if x+s.mm > start+112 {
			x, row = start, row+8
		}
		p.Line(x, row, x+s.mm, row)
		p.Line(x, row-1.2, x, row+1.2)
		p.Line(x+s.mm, row-1.2, x+s.mm, row+1.2)
		p.Text(x, row+4, s.words)
		x += max(s.mm, 3) + 5
	}
	return row + 7
}

// circles are as wide across as their figures.
func (p *pdf) circles(x, y float64, words string, sizes []size) (end float64) {
	p.gaugeWords(x, y, words)
	for _, s := range sizes {
		p.Circle(x+s.mm/2, y+10, s.mm/2, "D")
		p.Text(x, y+21, s.words)
		x += s.mm + 4.5
	}
	return y + 24
}

// limits is the table of limiting distances of a gauge.
func (p *pdf) limits(x, y, factor float64, inches bool) {
	const metersAFoot = 0.3048
	says, under, from, step := fmt.Sprintf("Gauge of %g m²/ha:", math.Round(factor*100)/100), "in, up to (m, on the level)", 10, 5
	if inches {
		says, under = fmt.Sprintf("Gauge of %g ft²/ac:", math.Round(factor/measure.FeetPerAcre*100)/100), "in, up to (ft, on the level)"
		from, step = 4, 2
	}
	p.gaugeWords(x, y, says)
	p.SetFont("body", "", 6.5)
	p.Text(x, y+3.4, under)
	at := y + 8
	for i := range 19 {
		d := from + i*step
		left, right := fmt.Sprintf("%d cm", d), fmt.Sprintf("%.2f", sums.LimitingDistance(float64(d), factor))
		if inches {
			left, right = fmt.Sprintf("%d in", d), fmt.Sprintf("%.1f", sums.LimitingDistance(float64(d)*inch/10, factor)/metersAFoot)
		}
		p.SetFont("body", "B", 7.5)
		p.Text(x, at, left)
		p.SetFont("body", "", 7.5)
		p.Text(x+30-p.GetStringWidth(right), at, right)
		at += 4.1
	}
	p.SetFont("body", "", 6)
	p.Text(x, at+0.5, "d/(2√k), Bitterlich 1948; on a slope")
	p.Text(x, at+3, "divide by its cosine. From the stem's middle.")
}
