package report

import (
	"fmt"
	"image/color"
	"io"
	"net/url"
	"strings"
	"time"

	"github.com/boombuler/barcode/qr"
)

// Tag is what stands on a label: for a tree, or for the bag that its twig is in.
type Tag struct {
	Tag, Tract, Stand string
	Link              string // what its code says
}

// TagSheet says how labels are laid out on a page.
type TagSheet struct {
	Paper   string
	Rows    int  // down a page
	Columns int  // across
	Twice   bool // each twice, side by side: for the tree and for the bag
}

// TagsMost is how many labels are printed at a time.
const TagsMost = 2000

// The least that a label can be, in mm: a code that a telephone reads at arm's length, and a tag beside it.
const (
	tagLeastWide = 34.0
	tagLeastHigh = 20.0
	tagEdge      = 10.0 // of the page
	tagPad       = 2.0
	tagGapWide   = 1.0
)

// Errors of labels.
const (
	ErrNoTags   = Refusal("there is no tree to print a label for: choose trees, or write tags down")
	ErrManyTags = Refusal("at most 2000 labels are printed at a time; choose a stand")
)

// TagsPDF prints labels with codes.
func TagsPDF(w io.Writer, tags []Tag, o TagSheet) error {
	if len(tags) == 0 {
		return ErrNoTags
	}
	if o.Twice {
		var twice []Tag
		for _, t := range tags {
			twice = append(twice, t, t)
		}
		tags = twice
	}
	if len(tags) > TagsMost {
		return ErrManyTags
	}
	p, err := newPDF(o.Paper, "Labels", "Labels", time.Now())
	if err != nil {
		return err
	}
	wide, high := (p.wide-2*tagEdge)/float64(o.Columns), (p.high-2*tagEdge)/float64(o.Rows)
	if wide < tagLeastWide || high < tagLeastHigh {
		return Refusal(
			fmt.Sprintf(
				"%d by %d labels on %s would be %.0f by %.0f mm each; a code needs %.0f by %.0f: use at most %d across and %d down",
				o.Columns,
				o.Rows,
				o.Paper,
				wide,
				high,
				tagLeastWide,
				tagLeastHigh,
				int((p.wide-2*tagEdge)/tagLeastWide),
				int((p.high-2*tagEdge)/tagLeastHigh),
			),
		)
	}
	p.SetFooterFunc(nil)
	p.SetAutoPageBreak(false, 0)
	for i := range tags {
		at := i % (o.Rows * o.Columns)
		if at == 0 {
			p.AddPage()
			p.Bookmark("From "+tags[i].Tag, 0, -1)
		}
		x, y := tagEdge+float64(at%o.Columns)*wide, tagEdge+float64(at/o.Columns)*high
		if err := p.label(&tags[i], x, y, wide, high); err != nil {
			return fmt.Errorf("label of %s: %w", tags[i].Tag, err)
		}
	}
	return p.finish(w, "the labels")
}

// ErrBase is given for an address that no code can lead to.
const ErrBase = Refusal("write where the book is reached, as https://book.example")

// Base reads where a book is reached: an http or https address, without the slash that paths begin with.
func Base(text string) (string, error) {
	base, err := url.Parse(strings.TrimSpace(text))
	if err != nil || base.Host == "" || base.Scheme != "http" && base.Scheme != "https" || base.RawQuery != "" || base.Fragment != "" {
		return "", ErrBase
	}
	return base.Scheme + "://" + base.Host + strings.TrimRight(base.Path, "/"), nil
}

// label is one, with thin corners to cut along.
func (p *pdf) label(t *Tag, x, y, wide, high float64) error {
	p.SetDrawColor(150, 150, 150)
	p.SetLineWidth(0.1)
	p.Rect(x, y, wide, high, "D")
	side := min(high-2*tagPad, wide*0.45)
	if err := p.code(t.Link, x+tagPad, y+(high-side)/2, side); err != nil {
		return err
	}
	left := x + tagPad + side + tagGapWide
	room := x + wide - tagPad - left
	p.SetTextColor(0, 0, 0)
	size, fits := p.fitted(t.Tag, room, high*0.55)
	if !fits {
		return Refusal(fmt.Sprintf("the tag %q does not fit on one line of so small a label: print fewer labels across", t.Tag))
	}
	p.SetFont("body", "B", size)
	step := size * 0.3528 * 1.12
	at := y + tagPad + step
	p.Text(left, at-step*0.15, t.Tag)
	p.SetFont("body", "", 6.5)
	for _, words := range []string{t.Tract, t.Stand} {
		for _, line := range p.SplitText(words, room) {
			if at += 2.7; at < y+high-tagPad && words != "" {
				p.Text(left, at, line)
			}
		}
	}
	return nil
}

// fitted is the largest size, in points, in which a tag fits on one line; false: it fits in none that can be read.
func (p *pdf) fitted(tag string, wide, high float64) (size float64, fits bool) {
	const largest, least = 22, 6
	for size = largest; size >= least; size -= 0.5 {
		p.SetFont("body", "B", size)
		if p.GetStringWidth(tag) <= wide && size*0.3528*1.12 <= high {
			return size, true
		}
	}
	return 0, false
}

// code draws a QR code, error correction M, with its quiet zone of four modules within the side.
func (p *pdf) code(link string, x, y, side float64) error {
	c, err := qr.Encode(link, qr.M, qr.Auto)
	if err != nil {
		return fmt.Errorf("making its code: %w", err)
	}
	n := c.Bounds().Dx()
	const quiet = 4
	m := side / float64(n+2*quiet)
	p.SetFillColor(0, 0, 0)
	for row := range n {
		for from := 0; from < n; from++ {
			to := from
			for to < n && dark(c.At(to, row)) {
				to++
			}
			if to > from {
				p.Rect(x+float64(from+quiet)*m, y+float64(row+quiet)*m, float64(to-from)*m, m, "F")
				from = to
			}
		}
	}
	return nil
}

func dark(c color.Color) bool {
	r, _, _, _ := c.RGBA()
	return r < 0x8000
}
