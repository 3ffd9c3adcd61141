package report

import (
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"
)

// Measures of the page, in millimetres. Text is as wide on every paper.
const (
	margin   = 16.0
	textWide = 178.0
	lineHigh = 4.8
)

// pdf is pages, and the parts that all that is printed is made of.
type pdf struct {
	*fpdf.Fpdf
	high float64 // of the paper
	wide float64
	left float64 // margin

	letters  map[string]*letters // that each font has
	replaced bool                // a letter of this page was, as no font has it

	solid bool // nothing shines through, and no word is written: in what is drawn once and shown in many places
}

// Papers are what pages are printed on, by the name that fpdf knows them by.
var Papers = map[string]struct{ wide, high float64 }{"A4": {210, 297}, "Letter": {215.9, 279.4}}

// Refusal says why something cannot be printed as it was asked for, and what to do.
type Refusal string

func (r Refusal) Error() string { return string(r) }

// ErrPaper is given for a paper that nobody prints on here.
const ErrPaper = Refusal("there is no such paper; use A4 or Letter")

// newPDF begins pages with their fonts; foot stands under each with the day and its number.
func newPDF(paper, title, foot string, made time.Time) (*pdf, error) {
	size, known := Papers[paper]
	if !known {
		return nil, ErrPaper
	}
	p := &pdf{Fpdf: fpdf.New("P", "mm", paper, ""), high: size.high, wide: size.wide, left: (size.wide - textWide) / 2}
	p.SetMargins(p.left, margin, p.left)
	p.SetAutoPageBreak(true, margin)
	var err error
	if p.letters, err = have(); err != nil {
		return nil, err
	}
	for name, files := range fontFiles {
		for style, file := range files {
			font, err := fonts.ReadFile("fonts/" + file + ".ttf")
			if err != nil {
				return nil, fmt.Errorf("reading a font: %w", err)
			}
			p.AddUTF8FontFromBytes(name, style, font)
		}
	}
	p.SetTitle(title, true)
	p.SetLang("en")
	p.SetCreator("Pale Thicket", true)
	p.SetCreationDate(made)
	p.SetFooterFunc(func() {
		p.SetY(-12)
		p.SetFont("body", "", 8)
		p.SetTextColor(0, 0, 0)
		line := fmt.Sprintf("%s · %s · page %d", foot, made.Format("2 January 2006"), p.PageNo())
		if p.replaced {
			line += " · " + unprintableWords
		}
		p.CellFormat(0, 5, line, "", 0, "C", false, 0, "")
		p.replaced = false
	})
	return p, nil
}

// finish writes the pages; what says what they are.
func (p *pdf) finish(w io.Writer, what string) error {
	if err := p.Output(w); err != nil {
		return fmt.Errorf("writing %s: %w", what, err)
	}
	return nil
}

// title begins a page, and the document or a part of it.
func (p *pdf) title(text string) {
	p.AddPage()
	p.Bookmark(text, 0, -1)
	p.SetTextColor(0, 0, 0)
	p.SetFont("body", "B", 17)
	p.MultiCell(textWide, 8, text, "", "L", false)
	p.Ln(1)
	p.SetFont("body", "", 9.5)
}

// heading begins a section, never alone at the foot of a page.
func (p *pdf) heading(text string) {
	if p.GetY() > p.high-42 {
		p.AddPage()
	}
	p.Bookmark(text, 1, -1)
	p.Ln(4)
	p.SetFont("body", "B", 13)
	p.MultiCell(textWide, 7, text, "B", "L", false)
	p.Ln(1.5)
	p.SetFont("body", "", 9.5)
}

func (p *pdf) text(text string) { p.MultiCell(textWide, lineHigh, text, "", "L", false) }

// small writes what is to be known, less loudly.
func (p *pdf) small(text string) {
	p.SetFont("body", "", 8)
	p.text(text)
	p.SetFont("body", "", 9.5)
}

// ends says whether a page is too full for so much more, in mm.
func (p *pdf) ends(more float64) bool { return p.GetY()+more > p.high-margin-3 }

// row writes a row whose cells may run over several lines, and begins a new page
// before it where it would not fit.
func (p *pdf) row(widths []float64, style string, cells ...string) {
	p.SetFont("body", style, 8.5)
	lines := make([][]string, len(cells))
	most := 1
	for i, c := range cells {
		lines[i] = p.SplitText(c, widths[i]-2)
		most = max(most, len(lines[i]))
	}
	if p.ends(float64(most) * lineHigh) {
		p.AddPage()
	}
	y := p.GetY()
	p.SetDrawColor(211, 203, 189)
	p.SetLineWidth(0.2)
	p.Line(p.left, y, p.left+textWide, y)
	x := p.left
	for i := range cells {
		for n, text := range lines[i] {
			p.Text(x+1, y+float64(n+1)*lineHigh-1.4, text)
		}
		x += widths[i]
	}
	p.SetY(y + float64(most)*lineHigh)
}

// unbroken splits text into lines, in a font so small that no word is broken.
func (p *pdf) unbroken(text string, wide, size float64) []string {
	const least = 3.5
	for ; size > least; size -= 0.2 {
		p.SetFont(body, "", size)
		if !slices.ContainsFunc(strings.Fields(text), func(word string) bool { return p.GetStringWidth(word) > wide-0.2 }) {
			break
		}
	}
	return p.SplitText(text, wide+2*p.GetCellMargin()) // it leaves room for margins that are not drawn here
}
