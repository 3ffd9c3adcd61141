package report

import (
	"bytes"
	"fmt"
	"io"

	"codeberg.org/go-pdf/fpdf"

	"palethicket/book"
)

// How a quiz sheet is laid out: so many drawings across and down a page.
const (
	quizAcross = 3
	quizDown   = 2
	quizHigh   = 86.0 // of a drawing, mm
)

// QuizPDF writes a sheet of numbered drawings, with lines to write on, and their answers on pages of
// their own.
func QuizPDF(w io.Writer, q *book.Quiz) error {
	p, err := newPDF(q.Title, fmt.Sprintf("%s · seed %d", q.Title, q.Seed), q.Made)
	if err != nil {
		return err
	}
	wide := textWide / quizAcross
	for i := range q.Items {
		at := i % (quizAcross * quizDown)
		if at == 0 {
			p.quizPage(q, i == 0)
		}
		x := margin + float64(at%quizAcross)*wide
		y := 42 + float64(at/quizAcross)*(quizHigh+34)
		if err := p.quizItem(&q.Items[i], x, y, wide-4); err != nil {
			return fmt.Errorf("drawing %d: %w", q.Items[i].N, err)
		}
	}
	p.AddPage()
	p.Bookmark("Answers", 0, -1)
	p.heading("Answers")
	widths := []float64{12, textWide - 12}
	for _, item := range q.Items {
		p.row(widths, "", fmt.Sprint(item.N), item.Answer)
	}
	p.Ln(2)
	p.SetFont("body", "", 8)
	p.text("The drawings are of individuals made up by the program from what each tree usually shows; a name is right as far as what " +
		"is drawn carries one, and beyond that it is too far. We name trees; nothing here says that any part of one is safe to eat.")
	if err := p.Output(w); err != nil {
		return fmt.Errorf("writing the quiz: %w", err)
	}
	return nil
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

func (p *pdf) quizItem(item *book.QuizItem, x, y, wide float64) error {
	p.SetTextColor(0, 0, 0)
	p.SetFont("body", "B", 11)
	p.Text(x, y, fmt.Sprint(item.N))
	p.SetFont("body", "", 8)
	asks := item.Asks
	if item.Age != "" {
		asks += " A " + item.Age + " tree."
	}
	p.Text(x+8, y, asks)
	if item.Kind == "image/svg+xml" {
		if _, _, err := p.putSVG(item.Body, x, y+2, wide, quizHigh); err != nil {
			return err
		}
	} else {
		name := fmt.Sprintf("quiz%d", item.N)
		info := p.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: "PNG"}, bytes.NewReader(item.Body))
		if p.Err() {
			return p.Error()
		}
		w, h := wide, wide*info.Height()/info.Width()
		if h > quizHigh {
			w, h = w*quizHigh/h, quizHigh
		}
		p.ImageOptions(name, x, y+2, w, h, false, fpdf.ImageOptions{ImageType: "PNG"}, 0, "")
	}
	p.SetDrawColor(0, 0, 0)
	p.SetLineWidth(0.2)
	p.SetFont("body", "", 7.5)
	p.SetTextColor(0, 0, 0)
	line := y + quizHigh + 12
	p.Line(x, line, x+wide, line)
	p.Text(x, line+3.5, "name")
	p.Line(x, line+11, x+wide, line+11)
	p.Text(x, line+14.5, "sure · fair · guess")
	return nil
}
