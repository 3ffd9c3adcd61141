package report

import (
	"fmt"
	"io"
	"strings"
	"time"

	"palethicket/core/key"
)

// KeyPages says how a key is printed.
type KeyPages struct {
	Paper string // A4 or Letter
	Made  time.Time
	Draw  Draw
}

// KeyFile prints a key that was made now.
func KeyFile(w io.Writer, k *key.Key, paper string, draw Draw) error {
	return KeyPDF(w, k, KeyPages{Paper: paper, Made: time.Now(), Draw: draw})
}

// How a couplet is laid out, in millimetres.
const (
	figureWide = 7.0
	figureHigh = 5.8
	endWide    = 70.0
	letterWide = 5.0
	leadHigh   = 3.9
	smallHigh  = 2.8
	endHigh    = 3.8
)

// KeyPDF prints a key.
func KeyPDF(w io.Writer, k *key.Key, o KeyPages) error {
	p, err := newPDF(o.Paper, k.Title, k.Title, o.Made)
	if err != nil {
		return err
	}
	p.title(k.Title)
	for _, says := range k.Says {
		p.text(says)
	}
	if k.End != nil {
		p.heading(k.End.Words)
		for _, line := range endLines(k.End) {
			p.text(line)
		}
	}
	f := newFigures(p, o.Draw, figureWide, figureHigh)
	group := ""
	for i := range k.Couplets {
		c := &k.Couplets[i]
		if err := f.couplet(c, c.Group != group); err != nil {
			return fmt.Errorf("printing couplet %d: %w", c.N, err)
		}
		group = c.Group
	}
	return p.finish(w, "the key")
}

// endLines are what stands small under a name.
func endLines(e *key.End) (out []string) {
	if len(e.Confirm) > 0 {
		out = append(out, "Confirm: "+strings.Join(e.Confirm, "; ")+".")
	}
	var taken []string
	for _, t := range e.Taken {
		taken = append(taken, t.Words)
	}
	if len(taken) > 0 {
		out = append(out, "Mistaken for "+strings.Join(taken, ", ")+".")
	}
	if e.Why != "" {
		out = append(out, e.Why)
	}
	return out
}

// leadBox is a lead laid out: its lines and its figure, and how high it is.
type leadBox struct {
	words, right, small []string
	figure              *figure
	high                float64
}

func (f *figures) couplet(c *key.Couplet, headed bool) error {
	var boxes [len(c.Leads)]leadBox
	high := 1.5
	for i := range c.Leads {
		if err := f.layOut(&boxes[i], &c.Leads[i]); err != nil {
			return err
		}
		high += boxes[i].high
	}
	if headed {
		if f.ends(high + 12) {
			f.AddPage()
		}
		f.heading(c.Group)
		f.Bookmark(c.Group, 1, -1)
	} else if f.ends(high) {
		f.AddPage()
	}
	y := f.GetY() + 0.6
	f.SetDrawColor(150, 150, 150)
	f.SetLineWidth(0.2)
	f.Line(f.left, y, f.left+textWide, y)
	f.SetTextColor(0, 0, 0)
	f.SetFont("body", "B", 10.5)
	f.Text(f.left, y+4.2, fmt.Sprint(c.N))
	if c.Back > 0 {
		f.SetFont("body", "", 7)
		f.Text(f.left, y+7.4, fmt.Sprintf("(%d)", c.Back))
	}
	y += 0.5
	for i := range boxes {
		f.lead(&boxes[i], &c.Leads[i], byte('a'+i), y)
		y += boxes[i].high
	}
	f.SetY(y)
	return nil
}

// numberWide is what the numbers take at the left.
const numberWide = 9.0

func (f *figures) layOut(b *leadBox, l *key.Lead) error {
	if m := &l.Marks[0]; m.Shows != "" {
		fig, err := f.of(m.Character, m.Shows)
		if err != nil {
			return err
		}
		b.figure = fig
	}
	wide := textWide - numberWide - letterWide - figureWide - endWide - 4
	if l.Ends == nil {
		wide += endWide - 14 // a number is short
	}
	f.SetFont("body", "", 9)
	b.words = f.SplitText(l.Words, wide)
	if l.Ends != nil {
		f.SetFont("body", "B", 9)
		b.right = f.SplitText(l.Ends.Words, endWide-1)
		f.SetFont("body", "", 6.8)
		for _, line := range endLines(l.Ends) {
			b.small = append(b.small, f.SplitText(line, endWide-1)...)
		}
	}
	left := float64(len(b.words)) * leadHigh
	right := float64(len(b.right))*endHigh + float64(len(b.small))*smallHigh
	b.high = max(left, right, leadHigh) + 0.6
	if b.figure != nil {
		b.high = max(b.high, figureHigh+0.4)
	}
	return nil
}

func (f *figures) lead(b *leadBox, l *key.Lead, letter byte, y float64) {
	f.SetTextColor(0, 0, 0)
	x := f.left + numberWide
	f.SetFont("body", "B", 9.5)
	f.Text(x, y+3.8, string(letter))
	x += letterWide
	if b.figure != nil {
		f.show(b.figure, x, y+0.3)
	}
	lines := func(all []string, style string, size, x, y, high float64) float64 {
		f.SetFont("body", style, size)
		for _, line := range all {
			y += high
			f.Text(x, y-1, line)
		}
		return y
	}
	lines(b.words, "", 9, x+figureWide+2, y, leadHigh)
	if l.To > 0 {
		f.SetFont("body", "B", 10.5)
		f.Text(f.left+textWide-10, y+3.8, fmt.Sprint(l.To))
		return
	}
	x = f.left + textWide - endWide + 1
	end := lines(b.right, "B", 9, x, y, endHigh)
	lines(b.small, "", 6.8, x, end, smallHigh)
}
