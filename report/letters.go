package report

import (
	"fmt"
	"strings"
	"sync"

	"golang.org/x/image/font/sfnt"
)

// unprintable stands for a letter that no font here has; a word at the foot of its page says so.
const (
	unprintable      = '¤'
	unprintableWords = "¤ stands for a letter that cannot be printed"
)

// The fonts: body, and wide for text that has a letter of Greek or Cyrillic, or an accent that body lacks.
const (
	body = "body"
	wide = "wide"
)

// fontFiles are their files, by style.
var fontFiles = map[string]map[string]string{body: {"": "regular", "B": "bold"}, wide: {"": "wide-regular", "B": "wide-bold"}}

// letters says which letters a font has.
type letters struct {
	font *sfnt.Font
	buf  sfnt.Buffer
	mu   sync.Mutex
}

func (l *letters) have(r rune) bool {
	l.mu.Lock()
	defer l.mu.Unlock()
	at, err := l.font.GlyphIndex(&l.buf, r)
	return err == nil && at != 0
}

// have are the letters of each font; both styles have the same.
var have = sync.OnceValues(func() (map[string]*letters, error) {
	out := map[string]*letters{}
	for name, files := range fontFiles {
		text, err := fonts.ReadFile("fonts/" + files[""] + ".ttf")
		if err != nil {
			return nil, fmt.Errorf("reading a font: %w", err)
		}
		font, err := sfnt.Parse(text)
		if err != nil {
			return nil, fmt.Errorf("reading the font %s: %w", name, err)
		}
		out[name] = &letters{font: font}
	}
	return out, nil
})

// printable is a text with the font that it is written in: body, or wide where that has more of its letters. What neither has is
// replaced.
func (p *pdf) printable(text string) (string, string) {
	font, missing := body, p.missing(body, text)
	if missing > 0 {
		if m := p.missing(wide, text); m < missing {
			font, missing = wide, m
		}
	}
	if missing > 0 {
		p.replaced = true
		text = strings.Map(func(r rune) rune {
			if r >= ' ' && !p.letters[font].have(r) {
				return unprintable
			}
			return r
		}, text)
	}
	return text, font
}

// missing is how many letters of a text a font lacks.
func (p *pdf) missing(font, text string) (n int) {
	for _, r := range text {
		if r >= 0x80 && !p.letters[font].have(r) {
			n++
		}
	}
	return n
}

// write does something with a text in the font that has its letters, and comes back to the font that was set.
func (p *pdf) write(text string, do func(text string)) {
	text, font := p.printable(text)
	if font == body {
		do(text)
		return
	}
	size, _ := p.GetFontSize()
	style := p.GetFontStyle()
	p.SetFont(font, style, size)
	do(text)
	p.SetFont(body, style, size)
}

// These stand before fpdf's own, so that all text of a document goes through write.

func (p *pdf) CellFormat(wide, high float64, text, border string, ln int, align string, fill bool, link int, address string) {
	p.write(text, func(text string) { p.Fpdf.CellFormat(wide, high, text, border, ln, align, fill, link, address) })
}

func (p *pdf) MultiCell(wide, high float64, text, border, align string, fill bool) {
	p.write(text, func(text string) { p.Fpdf.MultiCell(wide, high, text, border, align, fill) })
}

func (p *pdf) Text(x, y float64, text string) {
	p.write(text, func(text string) { p.Fpdf.Text(x, y, text) })
}

func (p *pdf) SplitText(text string, wide float64) (lines []string) {
	p.write(text, func(text string) { lines = p.Fpdf.SplitText(text, wide) })
	return lines
}

func (p *pdf) GetStringWidth(text string) (wide float64) {
	p.write(text, func(text string) { wide = p.Fpdf.GetStringWidth(text) })
	return wide
}

func (p *pdf) Bookmark(text string, level int, y float64) {
	text, _ = p.printable(text)
	p.Fpdf.Bookmark(text, level, y)
}
