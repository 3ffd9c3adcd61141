package report

import "strings"

// unprintable stands for a letter that no font here has a place for.
const unprintable = '□'

// printable replaces letters beyond Unicode's first plane, as 🌲: fpdf gives up a whole document for one.
func printable(text string) string {
	return strings.Map(func(r rune) rune {
		if r > 0xFFFF {
			return unprintable
		}
		return r
	}, text)
}

// These stand before fpdf's own, so that all text of a document goes through printable.

func (p *pdf) CellFormat(wide, high float64, text, border string, ln int, align string, fill bool, link int, address string) {
	p.Fpdf.CellFormat(wide, high, printable(text), border, ln, align, fill, link, address)
}

func (p *pdf) MultiCell(wide, high float64, text, border, align string, fill bool) {
	p.Fpdf.MultiCell(wide, high, printable(text), border, align, fill)
}

func (p *pdf) Text(x, y float64, text string) { p.Fpdf.Text(x, y, printable(text)) }

func (p *pdf) SplitText(text string, wide float64) []string {
	return p.Fpdf.SplitText(printable(text), wide)
}

func (p *pdf) GetStringWidth(text string) float64 { return p.Fpdf.GetStringWidth(printable(text)) }

func (p *pdf) Bookmark(text string, level int, y float64) {
	p.Fpdf.Bookmark(printable(text), level, y)
}
