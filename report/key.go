package report

import (
	"bytes"
	"fmt"
	"io"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"palethicket/core/key"
)

// KeyPages says how a key is printed.
type KeyPages struct {
	Paper string // A4 or Letter
	Made  time.Time
	// Draw gives a state of a character drawn small, as an SVG or a PNG; nil: it has no drawing.
	Draw func(character, state string) (kind string, body []byte)
}

// KeyFile prints a key that was made now.
func KeyFile(w io.Writer, k *key.Key, paper string, draw func(character, state string) (string, []byte)) error {
	return KeyPDF(w, k, KeyPages{Paper: paper, Made: time.Now(), Draw: draw})
}

// How a couplet is laid out, in millimetres.
const (
	figureWide = 11.0
	figureHigh = 9.0
	figureMost = 3 // of a lead
	endWide    = 52.0
	letterWide = 8.0
)

// KeyPDF prints a key.
func KeyPDF(w io.Writer, k *key.Key, o KeyPages) error {
	p, err := newPDFOn(o.Paper, k.Title, k.Title, o.Made)
	if err != nil {
		return err
	}
	p.AddPage()
	p.Bookmark(k.Title, 0, -1)
	p.SetFont("body", "B", 17)
	p.MultiCell(textWide, 8, k.Title, "", "L", false)
	p.SetFont("body", "", 9)
	p.Ln(1)
	for _, says := range k.Says {
		p.text(says)
	}
	if k.End != nil {
		p.Ln(3)
		p.SetFont("body", "B", 11)
		p.text(k.End.Words)
		p.SetFont("body", "", 9)
		for _, line := range endLines(k.End) {
			p.text(line)
		}
	} else {
		p.text("Read both or all leads of a number before you choose; the number at the right leads on, and the one in brackets leads back.")
	}
	f := &figures{pdf: p, draw: o.Draw, made: map[string]*figure{}}
	for i := range k.Couplets {
		if err := f.couplet(&k.Couplets[i]); err != nil {
			return fmt.Errorf("printing couplet %d: %w", i+1, err)
		}
		if i%10 == 0 {
			p.Bookmark(fmt.Sprintf("From %d", i+1), 1, -1)
		}
	}
	p.heading("The trees of this key")
	p.SetFont("body", "", 8.5)
	p.text(strings.Join(k.Taxa, ", ") + ".")
	if err := p.Output(w); err != nil {
		return fmt.Errorf("writing the key: %w", err)
	}
	return nil
}

// endLines are what stands small under a name.
func endLines(e *key.End) (out []string) {
	if len(e.Confirm) > 0 {
		out = append(out, "Bears it out: "+strings.Join(e.Confirm, "; ")+".")
	}
	for _, t := range e.Taken {
		out = append(out, "Taken for "+t)
	}
	if e.Why != "" {
		out = append(out, "It ends here: "+e.Why+".")
	}
	return out
}

// figures draws each state once, and shows it again wherever it stands.
type figures struct {
	*pdf
	draw func(character, state string) (kind string, body []byte)
	made map[string]*figure
}

type figure struct {
	picture    string // name of a PNG
	drawn      fpdf.Template
	wide, high float64
}

// of is the figure of a state, or nil.
func (f *figures) of(character, state string) (*figure, error) {
	name := character + " " + state
	if made, ok := f.made[name]; ok || f.draw == nil {
		return made, nil
	}
	f.made[name] = nil
	kind, body := f.draw(character, state)
	switch {
	case body == nil:
	case kind == "image/svg+xml":
		var err error
		out := &figure{}
		out.drawn = f.CreateTemplateCustom(fpdf.PointType{}, fpdf.SizeType{Wd: figureWide, Ht: figureHigh}, func(t *fpdf.Tpl) {
			out.wide, out.high, err = (&pdf{Fpdf: &t.Fpdf, solid: true}).putSVG(body, 0, 0, figureWide, figureHigh)
		})
		if err != nil {
			return nil, err
		}
		f.made[name] = out
	default:
		info := f.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: "PNG"}, bytes.NewReader(body))
		if f.Err() {
			return nil, f.Error()
		}
		out := &figure{picture: name, wide: figureWide, high: figureWide * info.Height() / info.Width()}
		if out.high > figureHigh {
			out.wide, out.high = out.wide*figureHigh/out.high, figureHigh
		}
		f.made[name] = out
	}
	return f.made[name], nil
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
	if f.GetY()+high > f.high-margin-4 {
		f.AddPage()
	}
	y := f.GetY() + 2
	f.SetDrawColor(150, 150, 150)
	f.SetLineWidth(0.2)
	f.Line(f.left, y, f.left+textWide, y)
	y += 4
	f.SetFont("body", "B", 11)
	f.Text(f.left, y, fmt.Sprint(c.N))
	f.SetFont("body", "", 7.5)
	back := ""
	if c.Back > 0 {
		back = fmt.Sprintf("(%d)  ", c.Back)
	}
	f.Text(f.left+letterWide, y, back+c.Look)
	y += 1.5
	for i := range boxes {
		f.put(&boxes[i], &c.Leads[i], byte('a'+i), y)
		y += boxes[i].high
	}
	f.SetY(y)
	return nil
}

const smallHigh = 3.3

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
	f.SetFont("body", "", 9.5)
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
		f.SetFont("body", "B", 9.5)
		b.right = f.SplitText(l.Ends.Words, endWide-1)
		f.SetFont("body", "", 7)
		for _, line := range endLines(l.Ends) {
			b.small = append(b.small, f.SplitText(line, endWide-1)...)
		}
	}
	left := float64(len(b.words))*lineHigh + float64(len(b.also))*smallHigh
	right := float64(len(b.right))*lineHigh + float64(len(b.small))*smallHigh
	b.high = max(left, right, lineHigh) + 1.5
	if len(b.figures) > 0 {
		b.high = max(b.high, figureHigh+1)
	}
	return nil
}

func (f *figures) put(b *leadBox, l *key.Lead, letter byte, y float64) {
	f.SetTextColor(0, 0, 0)
	x := f.left
	f.SetFont("body", "B", 9.5)
	f.Text(x+2, y+3.8, string(letter))
	x += letterWide
	for _, fig := range b.figures {
		if fig.picture != "" {
			f.ImageOptions(fig.picture, x, y+0.5, fig.wide, fig.high, false, fpdf.ImageOptions{ImageType: "PNG"}, 0, "")
		} else {
			f.UseTemplateScaled(fig.drawn, fpdf.PointType{X: x, Y: y + 0.5}, fpdf.SizeType{Wd: figureWide, Ht: figureHigh})
		}
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
	end := lines(b.words, "", 9.5, x, y, lineHigh)
	lines(b.also, "", 7.5, x, end, smallHigh)
	x = f.left + textWide - endWide + 1
	if l.To > 0 {
		f.SetFont("body", "B", 11)
		f.Text(x, y+3.8, fmt.Sprintf("go to %d", l.To))
		return
	}
	end = lines(b.right, "B", 9.5, x, y, lineHigh)
	lines(b.small, "", 7, x, end, smallHigh)
}
