package report

import (
	"fmt"
	"io"
	"time"

	"palethicket/core/flora"
	"palethicket/core/tallysheet"
	"palethicket/core/tree/record"
)

// How a tally sheet is laid out, in millimetres.
const (
	nameWide  = 31.0 // of a character's name
	boxWide   = 22.0 // of a state: its drawing, letter and word
	boxHigh   = 7.4
	boxFigure = 6.0
)

// answerWide is how wide the room for a tree's answer is, by how many trees share the page.
var answerWide = map[int]float64{1: 16, 4: 14, 10: 8}

// TallySheetPDF prints a scoring sheet.
func TallySheetPDF(w io.Writer, s *tallysheet.Sheet, paper string, draw Draw) error {
	p, err := newPDF(paper, s.Title, fmt.Sprintf("%s · %s · sheet %s", s.Title, s.Route, s.Code), time.Now())
	if err != nil {
		return err
	}
	t := &tallyPages{figures: newFigures(p, draw, boxFigure, boxFigure), sheet: s}
	t.legend = textWide - nameWide - float64(s.Trees)*answerWide[s.Trees]
	p.title(s.Title)
	p.small(
		"Write the letter of what you see; two letters where it is one or the other; ? where you cannot tell. Letters are keyed in as " +
			"they stand, under Print, Key in a tally sheet.",
	)
	t.head()
	section := ""
	for i := range s.Rows {
		if err := t.row(&s.Rows[i], s.Rows[i].Section != section); err != nil {
			return err
		}
		section = s.Rows[i].Section
	}
	t.foot()
	return p.finish(w, "the tally sheet")
}

type tallyPages struct {
	*figures
	sheet  *tallysheet.Sheet
	legend float64 // how wide the states are
}

// room draws the boxes of the trees in a row.
func (t *tallyPages) room(y, high float64) {
	t.SetDrawColor(60, 60, 60)
	t.SetLineWidth(0.2)
	wide := answerWide[t.sheet.Trees]
	x := t.left + nameWide + t.legend
	for range t.sheet.Trees {
		t.Rect(x, y, wide, high, "D")
		x += wide
	}
}

// head is the room for tags, once on each page.
func (t *tallyPages) head() {
	const high = 15.0
	y := t.GetY() + 1
	t.SetFont("body", "", 8)
	t.SetTextColor(0, 0, 0)
	t.Text(t.left, y+4, "Tract ______________________  Stand ______________________")
	t.Text(t.left, y+11, "Day ____________  Observer ____________________")
	t.SetFont("body", "B", 8)
	t.Text(t.left+nameWide+t.legend-9, y+9, "Tag")
	t.room(y, high)
	t.SetY(y + high)
}

// turn begins another page where so much does not fit any more.
func (t *tallyPages) turn(high float64) {
	if !t.ends(high) {
		return
	}
	t.AddPage()
	t.head()
}

func (t *tallyPages) row(r *tallysheet.Row, begins bool) error {
	across := max(1, int(t.legend/boxWide))
	lines := max(1, (len(r.Boxes)+across-1)/across)
	high := float64(lines)*boxHigh + 0.6
	if begins {
		t.turn(high + 6)
		t.SetFont("body", "B", 9)
		t.SetTextColor(0, 0, 0)
		t.Text(t.left, t.GetY()+4.4, record.Sections.Words(r.Section))
		t.SetY(t.GetY() + 6)
	}
	t.turn(high)
	y := t.GetY()
	t.SetDrawColor(160, 160, 160)
	t.SetLineWidth(0.15)
	t.Line(t.left, y, t.left+nameWide+t.legend, y)
	t.SetFont("body", "", 8)
	for i, line := range t.SplitText(flora.UpperFirst(r.Name), nameWide-2) {
		t.Text(t.left, y+3.6+float64(i)*3.4, line)
	}
	t.room(y, high)
	if r.Unit != "" {
		t.SetFont("body", "", 8)
		t.Text(t.left+nameWide, y+3.6, "a number, in "+r.Unit)
	}
	for i := range r.Boxes {
		b := &r.Boxes[i]
		if err := t.box(r, b, t.left+nameWide+float64(i%across)*boxWide, y+0.4+float64(i/across)*boxHigh); err != nil {
			return err
		}
	}
	t.SetY(y + high)
	return nil
}

// box is a state: its letter, its drawing and its word.
func (t *tallyPages) box(r *tallysheet.Row, b *tallysheet.Box, x, y float64) error {
	t.SetFont("body", "B", 9)
	t.Text(x, y+4.4, b.Letter)
	x += 3
	fig, err := t.of(r.Character, b.State)
	if err != nil {
		return fmt.Errorf("drawing %s %s: %w", r.Character, b.State, err)
	}
	if fig != nil {
		t.show(fig, x, y+0.3)
		x += boxFigure + 0.6
	}
	room := boxWide - 3.6
	if fig != nil {
		room -= boxFigure + 0.6
	}
	lines := t.unbroken(b.Words, room, 6.3)
	for i, line := range lines[:min(len(lines), 3)] {
		t.Text(x, y+2.3+float64(i)*2.4, line)
	}
	return nil
}

// foot is the room for notes.
func (t *tallyPages) foot() {
	t.turn(26)
	y := t.GetY()
	t.SetFont("body", "", 8)
	t.Text(t.left, y+4, "Pairs / singles counted")
	t.room(y, 8)
	y += 8
	t.Text(t.left, y+4, "Age: young, mature, old")
	t.room(y, 8)
	y += 13
	t.Text(t.left, y, "Notes")
	t.SetLineWidth(0.15)
	for range 2 {
		y += 7
		t.Line(t.left, y, t.left+textWide, y)
	}
	t.SetY(y)
}
