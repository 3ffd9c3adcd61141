package report

import (
	"fmt"
	"io"

	"palethicket/book"
)

// How a quiz sheet is laid out: so many drawings across and down a page.
const (
	quizAcross = 3
	quizDown   = 2
	quizTop    = 42.0 // mm, where the drawings begin
	quizLines  = 34.0 // over and under a drawing: what is asked, and where to write
)

// QuizPDF writes a sheet of numbered drawings, with lines to write on, and their answers on pages of
// their own.
func QuizPDF(w io.Writer, q *book.Quiz, paper string) error {
	p, err := newPDF(paper, q.Title, fmt.Sprintf("%s · seed %d", q.Title, q.Seed), q.Made)
	if err != nil {
		return err
	}
	wide, high := textWide/quizAcross, (p.high-margin-quizTop)/quizDown-quizLines
	for i := range q.Items {
		at := i % (quizAcross * quizDown)
		if at == 0 {
			p.quizPage(q, i == 0)
		}
		x := p.left + float64(at%quizAcross)*wide
		y := quizTop + float64(at/quizAcross)*(high+quizLines)
		if err := p.quizItem(&q.Items[i], x, y, wide-4, high); err != nil {
			return fmt.Errorf("drawing %d: %w", q.Items[i].N, err)
		}
	}
	p.title("Answers")
	widths := []float64{12, textWide - 12}
	for _, item := range q.Items {
		p.row(widths, "", fmt.Sprint(item.N), item.Answer)
	}
	p.Ln(2)
	p.SetFont("body", "", 8)
	p.text("The drawings are of individuals made up by the program from what each tree usually shows; a name is right as far as what " +
		"is drawn carries one, and beyond that it is too far. We name trees; nothing here says that any part of one is safe to eat.")
	return p.finish(w, "the quiz")
}

func (p *pdf) quizPage(q *book.Quiz, first bool) {
	p.AddPage()
	p.SetTextColor(0, 0, 0)
	p.SetFont("body", "B", 14)
	p.MultiCell(textWide, 7, q.Title, "", "L", false)
	p.SetFont("body", "", 9)
	if first {
		p.Bookmark("Drawings", 0, -1)
	}
	p.text("Write the name as far as the drawing carries it: a species, a group, a genus or a family; and how sure you are.")
	p.text("Class: ____________________    Name: ____________________")
}

func (p *pdf) quizItem(item *book.QuizItem, x, y, wide, high float64) error {
	p.SetTextColor(0, 0, 0)
	p.SetFont("body", "B", 11)
	p.Text(x, y, fmt.Sprint(item.N))
	p.SetFont("body", "", 8)
	asks := item.Asks
	if item.Age != "" {
		asks += " A " + item.Age + " tree."
	}
	p.Text(x+8, y, asks)
	if _, _, err := p.put(fmt.Sprintf("quiz%d", item.N), item.Kind, item.Body, x, y+2, wide, high); err != nil {
		return err
	}
	p.SetDrawColor(0, 0, 0)
	p.SetLineWidth(0.2)
	p.SetFont("body", "", 7.5)
	p.SetTextColor(0, 0, 0)
	line := y + high + 12
	p.Line(x, line, x+wide, line)
	p.Text(x, line+3.5, "name")
	p.Line(x, line+11, x+wide, line+11)
	p.Text(x, line+14.5, "sure · fair · guess")
	return nil
}
