package report

import (
	"fmt"
	"io"
	"strings"
	"time"

	"palethicket/core/flora"
	"palethicket/core/flora/handbook"
	"palethicket/core/plate/sheet"
)

// ErrNoCards is given for a deck without a card.
const ErrNoCards = Refusal("no two trees of the list are taken for one another: there is no card to print")

// How a card is laid out, in mm: a quarter of a page.
const (
	cardGap   = 5.0
	plateHigh = 44.0
	rowsMost  = 9
)

// CardsPDF prints look-alike cards, four on a page.
func CardsPDF(w io.Writer, title string, cards []handbook.Card, paper string) error {
	if len(cards) == 0 {
		return ErrNoCards
	}
	p, err := newPDF(paper, title, title, time.Now())
	if err != nil {
		return err
	}
	p.SetAutoPageBreak(false, 0)
	wide, high := (p.wide-3*cardGap)/2, (p.high-14-3*cardGap)/2
	for i := range cards {
		at := i % 4
		if at == 0 {
			p.AddPage()
		}
		if at == 0 && i%20 == 0 {
			p.Bookmark(fmt.Sprintf("Cards from %d", i+1), 0, -1)
		}
		x, y := cardGap+float64(at%2)*(wide+cardGap), cardGap+float64(at/2)*(high+cardGap)
		if err := p.alikeCard(&cards[i], i+1, x, y, wide, high); err != nil {
			return fmt.Errorf("card %d: %w", i+1, err)
		}
	}
	return p.finish(w, "the cards")
}

func (p *pdf) alikeCard(c *handbook.Card, n int, x, y, wide, high float64) error {
	p.SetDrawColor(120, 120, 120)
	p.SetLineWidth(0.15)
	p.Rect(x, y, wide, high, "D")
	p.SetTextColor(0, 0, 0)
	x, wide = x+2, wide-4
	column := wide / float64(len(c.Trees))
	most := 0.0
	for i := range c.Trees {
		t := &c.Trees[i]
		at := x + float64(i)*column
		p.SetFont("body", "B", 8.5)
		down := y + 1
		for _, line := range p.SplitText(flora.UpperFirst(t.English), column-1) {
			down += 3.8
			p.Text(at, down, line)
		}
		p.SetFont("body", "", 7)
		for _, line := range p.SplitText(t.Name, column-1) {
			down += 3.1
			p.Text(at, down, line)
		}
		most = max(most, down-y)
	}
	for i := range c.Trees {
		t := &c.Trees[i]
		body, kind, err := sheet.Draw(t.Tree, c.Part, flora.ZoneWords[flora.Breast], "paper")
		if err != nil {
			return fmt.Errorf("drawing %s: %w", t.Name, err)
		}
		if _, _, err := p.put(fmt.Sprintf("card%d-%d", n, i), kind, body, x+float64(i)*column, y+most+1, column-2, plateHigh); err != nil {
			return fmt.Errorf("drawing %s: %w", t.Name, err)
		}
	}
	p.differences(c, x, y+most+plateHigh+3, y+high-2, wide)
	return nil
}

// differences are the rows and lines of a card, as many as there is room for.
func (p *pdf) differences(c *handbook.Card, x, y, foot, wide float64) {
	const nameHigh, wordHigh, size = 3.2, 3.0, 7.0
	column := wide / float64(len(c.Trees))
	p.SetDrawColor(150, 150, 150) // as the drawings left it, it would be their pen
	p.SetLineWidth(0.15)
	p.SetTextColor(0, 0, 0)
	p.SetFont("body", "", size)
	lines := p.SplitText(strings.Join(c.Lines, " "), wide)
	foot -= float64(len(lines))*wordHigh + 1
	for _, row := range c.Rows[:min(len(c.Rows), rowsMost)] {
		cells, most := make([][]string, len(row.Words)), 0
		for i, words := range row.Words {
			cells[i] = p.SplitText(words, column-1.5)
			most = max(most, len(cells[i]))
		}
		if y+nameHigh+float64(most)*wordHigh+1 > foot {
			break
		}
		p.Line(x, y, x+wide, y)
		p.SetFont("body", "B", size)
		p.Text(x, y+nameHigh-0.4, flora.UpperFirst(row.Name))
		p.SetFont("body", "", size)
		for i := range cells {
			for k, line := range cells[i] {
				p.Text(x+float64(i)*column, y+nameHigh+float64(k+1)*wordHigh-0.5, line)
			}
		}
		y += nameHigh + float64(most)*wordHigh + 0.8
	}
	p.Line(x, foot+0.5, x+wide, foot+0.5)
	for i, line := range lines {
		p.Text(x, foot+float64(i+1)*wordHigh, line)
	}
}
