package book

import (
	"context"
	"errors"
	"fmt"
	"io"
	"sync"
	"time"

	"palethicket/core/exchange"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/ranking"
	"palethicket/store"
)

// Export writes the trees of a query in a format.
func (b *Book) Export(ctx context.Context, w io.Writer, q store.Query, format, title, publisher string) error {
	f, err := exchange.FormatByID(format)
	if err != nil {
		return err
	}
	each := func(use func(*exchange.Tree) error) error {
		return b.Store.EachTree(ctx, q, func(l *store.Line) error {
			t, err := b.exchanged(ctx, l)
			if err != nil {
				return err
			}
			return use(t)
		})
	}
	return f.Write(w, each, exchange.About{Title: title, Publisher: publisher, Made: b.now()})
}

// exchanged is a tree as files carry it.
func (b *Book) exchanged(ctx context.Context, l *store.Line) (*exchange.Tree, error) {
	log, err := b.Store.Entries(ctx, l.ID)
	if err != nil {
		return nil, err
	}
	st := logbook.Replay(log)
	t := &exchange.Tree{ID: l.ID, Tag: l.Tag, Tract: l.Tract, Stand: l.Stand, Region: l.Region, Position: st.Facts.Position,
		DBH: l.DBH, Height: l.Height, Age: l.Age, Vigour: l.Vigour, Remarks: l.Remarks,
		Leader: l.Leader, Share: l.LeaderShare, Status: l.Status, Record: st.Record(l.Tag, l.Region)}
	for i := range log {
		if log[i].Kind == logbook.KindScore || log[i].Kind == logbook.KindLook {
			t.Date, t.Observer = logbook.When(log[i].ID), log[i].By
		}
	}
	if t.Date.IsZero() {
		t.Date = st.Last
	}
	if t.Leader == unlistedTaxon {
		t.Leader = ""
	}
	b.nameOf(t, st.Name(), l.Doubt)
	return t, nil
}

// nameOf fills in the name given and what it belongs to.
func (b *Book) nameOf(t *exchange.Tree, g *logbook.Given, doubt string) {
	if g == nil {
		return
	}
	t.Rank, t.Name, t.NamedBy, t.Named, t.Why = g.Rank, g.Name, g.By, g.At, g.Why
	f := b.Shelf().Flora
	for i := range f.Taxa {
		taxon := &f.Taxa[i]
		switch {
		case g.Rank == "species" && taxon.Name == g.Name, g.Rank == "group" && taxon.Group == g.Name, g.Rank == "genus" && taxon.Genus == g.Name:
			t.Genus, t.Family = taxon.Genus, taxon.Family
		case g.Rank == "family" && taxon.Family == g.Name:
			t.Family = taxon.Family
		}
	}
	switch {
	case doubt != "":
		t.Qualifier = "?" // common practice in collections: the name is in doubt
	case g.Rank == string(ranking.Species) && g.Posterior > 0 && g.Posterior < ranking.DefaultBars.Species:
		t.Qualifier = "cf."
	case g.Rank == string(ranking.Group):
		t.Qualifier = g.Name
	}
}

// Preview is a file that was read and not yet put into the book.
type Preview struct {
	ID      string           `json:"id"`
	Name    string           `json:"name"`
	Format  string           `json:"format"`
	Columns []string         `json:"columns"`
	Mapping exchange.Mapping `json:"mapping"`
	Lines   []PreviewLine    `json:"lines" doc:"At most 200: those with problems first"`
	Total   int              `json:"total"`
	Good    int              `json:"good" doc:"Lines that can be put in"`
	Bad     int              `json:"bad" doc:"Lines with problems"`
	Wrong   string           `json:"wrong" doc:"Why nothing can be put in under this mapping, or empty"`
	Known   int              `json:"known" doc:"Lines whose tree the book has already; they are passed over"`
	Placed  int              `json:"placed" doc:"How many of those have a position, which can be taken over"`
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
}

const (
	previewMost = 200
	waitingMost = 8
	waitingLife = time.Hour
)

// waiting is a file that was read and not yet put in.
type waiting struct {
	name  string
	sheet *exchange.Sheet
	at    time.Time

	mu  sync.Mutex
	job *Job // nil until it is begun
}

func (w *waiting) begun() *Job {
	w.mu.Lock()
	defer w.mu.Unlock()
	return w.job
}

// ReadFile reads a file for a preview; it waits an hour to be put in.
func (b *Book) ReadFile(ctx context.Context, name string, file []byte) (*Preview, error) {
	sheet, err := exchange.Read(name, file)
	if err != nil {
		return nil, &FileError{err}
	}
	if err := b.makeRoom(); err != nil {
		return nil, err
	}
	id := newID()
	b.imports.Store(id, &waiting{name: name, sheet: sheet, at: b.now()})
	m := sheet.GuessMapping()
	m.Date = b.now().Format(time.DateOnly)
	return b.Preview(ctx, id, m)
}

// FileError says why a file cannot be read.
type FileError struct{ error }

// makeRoom forgets files that waited long, and refuses more than a few.
func (b *Book) makeRoom() error {
	n := 0
	b.imports.Range(func(id, w any) bool {
		if w := w.(*waiting); b.now().Sub(w.at) > waitingLife {
			b.imports.Delete(id)
		} else if w.begun() == nil {
			n++
		}
		return true
	})
	if n >= waitingMost {
		return &FileError{errors.New("several files wait to be put in; put them in or leave them first")}
	}
	return nil
}

func (b *Book) waiting(id string) (*waiting, error) {
	w, ok := b.imports.Load(id)
	if !ok {
		return nil, fmt.Errorf("%w: it waited too long; read the file again", store.ErrNoImport)
	}
	return w.(*waiting), nil
}

// Preview shows what a file would put in under a mapping.
func (b *Book) Preview(ctx context.Context, id string, m exchange.Mapping) (*Preview, error) {
	w, err := b.waiting(id)
	if err != nil {
		return nil, err
	}
	out := &Preview{ID: id, Name: w.name, Format: w.sheet.Format, Columns: w.sheet.Columns, Mapping: m, Total: len(w.sheet.Rows), Lines: []PreviewLine{}}
	lines, err := w.sheet.Lines(m, b.Shelf().Flora)
	var field *record.FieldError
	if errors.As(err, &field) { // no tags yet: nothing can be shown but the columns
		out.Wrong = field.Message
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	known, err := b.known(ctx, lines)
	if err != nil {
		return nil, err
	}
	var good []PreviewLine
	for i := range lines {
		p := previewLine(i, &lines[i], known[i])
		switch {
		case len(p.Problems) > 0:
			out.Bad++
			out.Lines = append(out.Lines, p)
		case p.Known:
			out.Known++
			if p.Where != "" {
				out.Placed++
			}
			good = append(good, p)
		default:
			out.Good++
			good = append(good, p)
		}
	}
	out.Lines = append(out.Lines, good...)
	out.Lines = out.Lines[:min(len(out.Lines), previewMost)]
	return out, nil
}

func previewLine(i int, l *exchange.Line, known bool) PreviewLine {
	p := PreviewLine{Line: i, At: l.At, Tag: l.Tree.Tag, Stand: l.Tree.Stand, Name: l.Tree.Name, Known: known, Problems: l.Problems}
	if p.Problems == nil {
		p.Problems = []string{}
	}
	if at := l.Tree.Position; at != nil {
		p.Where = fmt.Sprintf("%.5f, %.5f", at.Lat, at.Lon)
	}
	if l.Tree.Record != nil {
		p.Looks = len(l.Tree.Record.Looks)
	}
	return p
}

// known says which lines are of trees that the book has and shows.
func (b *Book) known(ctx context.Context, lines []exchange.Line) ([]bool, error) {
	out := make([]bool, len(lines))
	tags := map[string]map[string]bool{}
	for i := range lines {
		t := lines[i].Tree
		if tags[t.Tract] == nil {
			var err error
			if tags[t.Tract], err = b.Store.Tags(ctx, t.Tract); err != nil {
				return nil, err
			}
		}
		out[i] = tags[t.Tract][t.Tag]
	}
	return out, nil
}
