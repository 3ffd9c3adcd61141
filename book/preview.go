package book

import (
	"context"
	"errors"
	"fmt"

	"palethicket/core/exchange"
	"palethicket/core/tree/record"
)

// Preview is a file that was read and not yet put into the book.
type Preview struct {
	ID       string        `json:"id"`
	Name     string        `json:"name"`
	Format   string        `json:"format"`
	Columns  []string      `json:"columns"`
	Samples  [][]string    `json:"samples" doc:"For each column the first cells that say something"`
	Mapping  Mapping       `json:"mapping"`
	Lines    []PreviewLine `json:"lines" doc:"At most 200: those with problems first"`
	Total    int           `json:"total"`
	Good     int           `json:"good" doc:"Lines that can be put in"`
	Bad      int           `json:"bad" doc:"Lines with problems"`
	Faults   []Fault       `json:"faults" doc:"What is wrong with lines, each once, those of most lines first"`
	Unitless []int         `json:"unitless" doc:"Columns of lengths whose unit nothing says"`
	Wrong    string        `json:"wrong" doc:"Why nothing can be put in under this mapping, or empty"`
	Known    int           `json:"known" doc:"Lines whose tree the book has already; they are passed over"`
	Placed   int           `json:"placed" doc:"How many of those have a position, which can be taken over"`

	Asks   []string `json:"asks" doc:"What has to be said before lines can go in: tract, stand, zone, units, days"`
	Doubts []Doubt  `json:"doubts" doc:"Names that may stand for several trees, those of most lines first"`
	Lacks  []Lack   `json:"lacks" doc:"Lists that lines are ranked among and that the book lacks"`

	Far   int          `json:"far" doc:"Lines far from the other trees of their tract"`
	Fresh []FreshPlace `json:"fresh" doc:"Stands that the book has not, and that the lines would make"`
}

// FreshPlace is a stand that lines of a file would make.
type FreshPlace struct {
	Tract string `json:"tract"`
	Stand string `json:"stand"`
	Near  string `json:"near" doc:"A tract or stand of the book that may be meant, or empty"`
	Lines int    `json:"lines"`
}

// Fault is something that is wrong with lines.
type Fault struct {
	Says  string   `json:"says"`
	Lines int      `json:"lines"`
	At    []string `json:"at" doc:"The first of them"`
}

// Doubt is a name in a file that may stand for several trees.
type Doubt struct {
	Written  string      `json:"written"`
	Lines    int         `json:"lines"`
	Suggests []Suggested `json:"suggests" doc:"The likeliest first"`
}

// Suggested is a name that may be meant, and what it is called.
type Suggested struct {
	Meant
	Words string `json:"words"`
}

// Lack is a list that the book has not.
type Lack struct {
	List  string `json:"list"`
	Lines int    `json:"lines"`
}

// PreviewLine is a line as it would be put in.
type PreviewLine struct {
	Line     int      `json:"line" doc:"Counted from 0 among the lines of the file, for choosing it"`
	At       string   `json:"at"`
	Tag      string   `json:"tag"`
	Stand    string   `json:"stand"`
	Name     string   `json:"name"`
	Where    string   `json:"where"`
	Looks    int      `json:"looks"`
	Known    bool     `json:"known" doc:"The book has a tree of this tag in the tract"`
	Problems []string `json:"problems"`
	Cells    []string `json:"cells,omitempty" doc:"Of a line with problems: what stands in each column"`
}

// Preview shows what a file would put in under a mapping.
func (b *Book) Preview(ctx context.Context, id string, m Mapping) (*Preview, error) {
	w, err := b.waiting(id)
	if err != nil {
		return nil, err
	}
	out := &Preview{
		ID:       id,
		Name:     w.name,
		Format:   w.table.Format,
		Columns:  listed(w.table.Columns),
		Samples:  w.table.Samples(samplesMost),
		Mapping:  m,
		Total:    len(w.table.Rows),
		Lines:    []PreviewLine{},
		Asks:     []string{},
		Doubts:   []Doubt{},
		Lacks:    []Lack{},
		Fresh:    []FreshPlace{},
		Faults:   []Fault{},
		Unitless: []int{},
	}
	lines, err := w.table.Lines(m.fields(), b.Flora())
	var field *record.FieldError
	if errors.As(err, &field) { // no tags yet: nothing can be shown but the columns
		out.Wrong = field.Message
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	reads, err := b.linesInto(ctx, &m)
	if err != nil {
		return nil, err
	}
	known, good, i, open := tagsOf{from: b.store.Reader}, []PreviewLine{}, 0, newOpen()
	for l := range lines {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		if i%previewStep == 0 {
			b.pressing.giveWay()
		}
		open.count(l)
		if err := reads.line(ctx, l, open.countFresh); err != nil {
			return nil, err
		}
		if l.Far {
			out.Far++
		}
		has, _, err := known.has(ctx, l.Tree)
		if err != nil {
			return nil, err
		}
		line := previewLine(i, l, has)
		if len(l.Problems) > 0 {
			open.countFaults(l)
			line.Cells = w.table.Cells(i, m.Mends[i])
		}
		out.count(line, &good)
		i++
	}
	out.Lines = append(out.Lines, good[:min(len(good), previewMost-len(out.Lines))]...)
	out.ask(w.table.Asks(m.fields()), open, b.shelf.Load())
	return out, nil
}

// count counts a line in; of many only the first are shown.
func (p *Preview) count(l PreviewLine, good *[]PreviewLine) {
	switch {
	case len(l.Problems) > 0:
		p.Bad++
		if len(p.Lines) < previewMost {
			p.Lines = append(p.Lines, l)
		}
		return
	case l.Known:
		p.Known++
		if l.Where != "" {
			p.Placed++
		}
	default:
		p.Good++
	}
	if len(*good) < previewMost {
		*good = append(*good, l)
	}
}

func previewLine(i int, l *exchange.Line, known bool) PreviewLine {
	p := PreviewLine{Line: i, At: l.At, Tag: l.Tree.Tag, Stand: l.Tree.Stand, Known: known, Problems: listed(l.Problems)}
	if p.Name = l.Tree.Name; p.Name != "" && l.Tree.Hedge != "" {
		p.Name = l.Tree.Hedge + " " + p.Name
	}
	if at := l.Tree.Position; at != nil {
		p.Where = fmt.Sprintf("%.5f, %.5f", at.Lat, at.Lon)
	}
	if l.Tree.Record != nil {
		p.Looks = len(l.Tree.Record.Looks)
	}
	return p
}
