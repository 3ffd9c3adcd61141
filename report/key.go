package report

import (
	"fmt"
	"io"
	"strings"
	"time"

	"palethicket/core/flora"
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
	figureWide = 8.0
	figureHigh = 6.6
	figureMost = 3 // of a lead
	endWide    = 62.0
	letterWide = 8.0
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
	} else {
		p.text("Read all leads of a number before you choose; the number at the right leads on, and the one in brackets leads back. " +
			"Where several names stand at the right, score the tree to part them. The accounts of the trees stand after the last number.")
	}
	f := newFigures(p, o.Draw, figureWide, figureHigh)
	for i := range k.Couplets {
		if i%10 == 0 {
			p.Bookmark(fmt.Sprintf("From %d", i+1), 1, -1)
		}
		if err := f.couplet(&k.Couplets[i]); err != nil {
			return fmt.Errorf("printing couplet %d: %w", i+1, err)
		}
	}
	p.accounts(k)
	return p.finish(w, "the key")
}

// accounts says of each tree what bears its name out and what it is taken for.
func (p *pdf) accounts(k *key.Key) {
	p.heading("The trees of this key")
	widths := []float64{50, 48, 80}
	p.row(widths, "B", "Tree", "Bears it out", "Taken for")
	for i := range k.Accounts {
		a := &k.Accounts[i]
		var taken []string
		for _, t := range a.Taken {
			taken = append(taken, takenLine(t))
		}
		name := a.Words
		if !strings.EqualFold(name, a.Taxon) {
			name += ", " + a.Taxon
		}
		p.row(widths, "", flora.UpperFirst(name), flora.UpperFirst(strings.Join(a.Confirm, "; ")), strings.Join(taken, " "))
	}
}

// takenLine says what a tree is taken for: what tells them apart says both their names.
func takenLine(t key.Taken) string {
	if t.Apart != "" {
		return t.Apart
	}
	return flora.UpperFirst(t.Words) + "."
}

// endLines are what stands small under a name.
func endLines(e *key.End) (out []string) {
	if e.Seldom != "" {
		out = append(out, "Or "+e.Seldom+".")
	}
	if e.Rank != key.Several && len(e.Confirm) > 0 {
		out = append(out, "Bears it out: "+strings.Join(e.Confirm, "; ")+".")
	}
	var taken []string
	for _, t := range e.Taken {
		taken = append(taken, t.Words)
	}
	if e.Rank != key.Several && len(taken) > 0 {
		out = append(out, "Taken for "+strings.Join(taken, ", ")+".")
	}
	if e.Why != "" && e.Why != key.WhyFew {
		out = append(out, "It ends here: "+e.Why+".")
	}
	return out
}

// leadBox is a lead laid out: its lines and figures, and how high it is.
type leadBox struct {
	words, also, right, small []string
	figures                   []*figure
	high                      float64
}

func (f *figures) couplet(c *key.Couplet) error {
	boxes := make([]leadBox, len(c.Leads))
	high := 6.0
	for i := range c.Leads {
		if err := f.layOut(&boxes[i], &c.Leads[i]); err != nil {
			return err
		}
		high += boxes[i].high
	}
	if f.ends(high + 1) {
		f.AddPage()
	}
	y := f.GetY() + 2
	f.SetDrawColor(150, 150, 150)
	f.SetLineWidth(0.2)
	f.Line(f.left, y, f.left+textWide, y)
	y += 4
	f.SetTextColor(0, 0, 0)
	f.SetFont("body", "B", 11)
	f.Text(f.left, y, fmt.Sprint(c.N))
	at := f.left + max(letterWide, f.GetStringWidth(fmt.Sprint(c.N))+2)
	f.SetFont("body", "", 7.5)
	back := ""
	if c.Back > 0 {
		back = fmt.Sprintf("(%d)  ", c.Back)
	}
	f.Text(at, y, back+c.Look)
	y += 1.5
	for i := range boxes {
		f.lead(&boxes[i], &c.Leads[i], byte('a'+i), y)
		y += boxes[i].high
	}
	f.SetY(y)
	return nil
}

const (
	leadHigh  = 4.3
	smallHigh = 3.1
	endHigh   = 3.9
)

func (f *figures) layOut(b *leadBox, l *key.Lead) error {
	for _, s := range l.States {
		if len(b.figures) == figureMost {
			break
		}
		fig, err := f.of(l.Character, s)
		if err != nil {
			return err
		}
		if fig != nil {
			b.figures = append(b.figures, fig)
		}
	}
	wide := textWide - letterWide - endWide - float64(len(b.figures))*(figureWide+1) - 4
	f.SetFont("body", "", 9)
	b.words = f.SplitText(l.Words, wide)
	f.SetFont("body", "", 7.5)
	var also []string
	for _, m := range l.Also {
		also = append(also, m.Words)
	}
	if len(also) > 0 {
		b.also = f.SplitText("Mostly also: "+strings.Join(also, "; "), wide)
	}
	if l.Ends != nil {
		f.SetFont("body", "B", 8.5)
		b.right = f.SplitText(l.Ends.Words, endWide-1)
		f.SetFont("body", "", 7)
		for _, line := range endLines(l.Ends) {
			b.small = append(b.small, f.SplitText(line, endWide-1)...)
		}
	}
	left := float64(len(b.words))*leadHigh + float64(len(b.also))*smallHigh
	right := float64(len(b.right))*endHigh + float64(len(b.small))*smallHigh
	b.high = max(left, right, leadHigh) + 1.5
	if len(b.figures) > 0 {
		b.high = max(b.high, figureHigh+0.8)
	}
	return nil
}

func (f *figures) lead(b *leadBox, l *key.Lead, letter byte, y float64) {
	f.SetTextColor(0, 0, 0)
	x := f.left
	f.SetFont("body", "B", 9.5)
	f.Text(x+2, y+3.8, string(letter))
	x += letterWide
	for _, fig := range b.figures {
		f.show(fig, x, y+0.5)
		x += figureWide + 1
	}
	if len(b.figures) > 0 {
		x++
	}
	lines := func(all []string, style string, size, x, y, high float64) float64 {
		f.SetFont("body", style, size)
		for _, line := range all {
			y += high
			f.Text(x, y-1, line)
		}
		return y
	}
	end := lines(b.words, "", 9, x, y, leadHigh)
	lines(b.also, "", 7.5, x, end, smallHigh)
	x = f.left + textWide - endWide + 1
	if l.To > 0 {
		f.SetFont("body", "B", 11)
		f.Text(x, y+3.8, fmt.Sprintf("go to %d", l.To))
		return
	}
	end = lines(b.right, "B", 8.5, x, y, endHigh)
	lines(b.small, "", 7, x, end, smallHigh)
}
