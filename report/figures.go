package report

import (
	"bytes"

	"codeberg.org/go-pdf/fpdf"
)

// Draw gives a state of a character drawn small, as an SVG or a PNG; nil: it has no drawing.
type Draw = func(character, state string) (kind string, body []byte)

// figures draws each state once, and shows it again wherever it stands.
type figures struct {
	*pdf
	draw       Draw
	wide, high float64 // of each, at most
	made       map[string]*figure
}

type figure struct {
	picture    string // name of a PNG
	drawn      fpdf.Template
	wide, high float64
}

func newFigures(p *pdf, draw Draw, wide, high float64) *figures {
	return &figures{pdf: p, draw: draw, wide: wide, high: high, made: map[string]*figure{}}
}

// of is the figure of a state, or nil.
func (f *figures) of(character, state string) (*figure, error) {
	name := character + " " + state
	if made, ok := f.made[name]; ok || f.draw == nil {
		return made, nil
	}
	f.made[name] = nil
	kind, body := f.draw(character, state)
	if body == nil {
		return nil, nil
	}
	out, err := f.make(name, kind, body)
	f.made[name] = out
	return out, err
}

func (f *figures) make(name, kind string, body []byte) (*figure, error) {
	if kind == "image/svg+xml" {
		var err error
		out := &figure{}
		out.drawn = f.CreateTemplateCustom(fpdf.PointType{}, fpdf.SizeType{Wd: f.wide, Ht: f.high}, func(t *fpdf.Tpl) {
			out.wide, out.high, err = (&pdf{Fpdf: &t.Fpdf, letters: f.letters, solid: true}).putSVG(body, 0, 0, f.wide, f.high)
		})
		return out, err
	}
	wide, high, err := f.png(name, body, f.wide, f.high)
	return &figure{picture: name, wide: wide, high: high}, err
}

// show puts a figure onto the page.
func (f *figures) show(fig *figure, x, y float64) {
	if fig.picture != "" {
		f.ImageOptions(fig.picture, x, y, fig.wide, fig.high, false, fpdf.ImageOptions{ImageType: "PNG"}, 0, "")
		return
	}
	f.UseTemplateScaled(fig.drawn, fpdf.PointType{X: x, Y: y}, fpdf.SizeType{Wd: f.wide, Ht: f.high})
}

// png registers a picture by a name, and gives how large it comes out in a box.
func (p *pdf) png(name string, body []byte, wide, high float64) (w, h float64, err error) {
	info := p.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: "PNG"}, bytes.NewReader(body))
	if p.Err() {
		return 0, 0, p.Error()
	}
	w, h = wide, wide*info.Height()/info.Width()
	if h > high {
		w, h = w*high/h, high
	}
	return w, h, nil
}

// put puts a drawing of either kind into a box, and gives how large it came out.
func (p *pdf) put(name, kind string, body []byte, x, y, wide, high float64) (w, h float64, err error) {
	if kind == "image/svg+xml" {
		return p.putSVG(body, x, y, wide, high)
	}
	if w, h, err = p.png(name, body, wide, high); err == nil {
		p.ImageOptions(name, x, y, w, h, false, fpdf.ImageOptions{ImageType: "PNG"}, 0, "")
	}
	return w, h, err
}
