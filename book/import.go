package book

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"sync/atomic"
	"time"

	"palethicket/core/exchange"
	"palethicket/core/label"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// Choice says what of a file goes in.
type Choice struct {
	Lines     []int `json:"lines,omitempty" doc:"Absent: all that have no problem"`
	Positions bool  `json:"positions,omitempty" doc:"Trees that the book has get the file's positions"`
}

// Progress is how far a file being put in is.
type Progress struct {
	ID    string `json:"id"`
	Done  int    `json:"done"`
	Total int    `json:"total"`
	Ended bool   `json:"ended"`
	Wrong string `json:"wrong" doc:"Why it failed; nothing was put in then"`
	Trees int    `json:"trees" doc:"Trees put in, once it ended"`
}

// Import is a file that was read in.
type Import struct {
	ID     string  `json:"id"`
	Name   string  `json:"name" doc:"The file's name"`
	By     string  `json:"by"`
	At     string  `json:"at"`
	Trees  int     `json:"trees" doc:"Trees that the book did not have"`
	Undone *string `json:"undone,omitempty" doc:"When it was undone"`
}

// Imports lists what was read in, the latest first.
func (b *Book) Imports(ctx context.Context) ([]Import, error) {
	imports, err := b.store.Imports(ctx)
	return each(imports, func(i store.Import) Import {
		return Import{ID: i.ID, Name: i.Name, By: i.By, At: i.At, Trees: i.Trees, Undone: i.Undone}
	}), err
}

// FileMost is how many bytes a file that is read in may have.
const FileMost = exchange.MaxBytes

const (
	previewMost = 200
	samplesMost = 3
	faultsMost  = 50 // that are told apart
	faultsAt    = 5  // lines that are named of one
	previewStep = 20 // lines between which presses go first
	waitingMost = 8
	waitingLife = time.Hour
)

// FileError says why a file cannot be read or put in.
type FileError struct{ Err error }

func (e *FileError) Error() string { return e.Err.Error() }

// Unwrap gives what was wrong with it.
func (e *FileError) Unwrap() error { return e.Err }

// ErrFileGone is given for a file that waited too long to be put in.
var ErrFileGone = errors.New("there is no such file waiting; it may have waited too long: read it again")

// waiting is a file that was read and not yet put in.
type waiting struct {
	name  string
	table *exchange.Sheet
	at    time.Time

	mu  sync.Mutex
	job *job // nil until it is begun
}

func (w *waiting) begun() *job {
	w.mu.Lock()
	defer w.mu.Unlock()
	return w.job
}

// job is a file being put into the book.
type job struct {
	done  atomic.Int64
	total int
	stop  context.CancelFunc
	ended chan struct{}
	err   error
	entry store.Import
}

// failed says whether it ended without putting anything in, so that it can be
// tried again.
func (j *job) failed() bool {
	select {
	case <-j.ended:
		return j.err != nil
	default:
		return false
	}
}

// ReadFile reads a file for a preview; it waits an hour to be put in. A file that
// cannot be read gives a [*FileError].
func (b *Book) ReadFile(ctx context.Context, name string, file []byte) (*Preview, error) {
	table, err := exchange.Read(name, file)
	if err != nil {
		return nil, &FileError{err}
	}
	if err := b.makeRoom(); err != nil {
		return nil, err
	}
	id := newID()
	b.imports.Store(id, &waiting{name: name, table: table, at: b.now()})
	guess := table.GuessMapping()
	m := Mapping{Columns: guess.Columns, Date: b.today()}
	if m.Names, err = b.remembered(ctx); err != nil {
		b.imports.Delete(id)
		return nil, err
	}
	p, err := b.Preview(ctx, id, m)
	if err != nil {
		b.imports.Delete(id) // whoever sent it has left
	}
	return p, err
}

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
		return nil, ErrFileGone
	}
	return w.(*waiting), nil
}

// tagsOf says which trees the book has, by tract and tag, and which of them it shows.
type tagsOf struct {
	from store.Reader
	tags map[string]map[string]bool
}

// has says whether the book shows a tree of the tag, or has one that is set aside.
func (k *tagsOf) has(ctx context.Context, t *exchange.Tree) (shown, aside bool, err error) {
	if k.tags == nil {
		k.tags = map[string]map[string]bool{}
	}
	if k.tags[t.Tract] == nil {
		tags, err := k.from.Tags(ctx, t.Tract)
		if err != nil {
			return false, false, err
		}
		k.tags[t.Tract] = tags
	}
	shown, has := k.tags[t.Tract][label.Key(t.Tag)]
	return shown, has && !shown, nil
}

// PutIn begins to put lines of a file that was read into the book: all good ones,
// or the chosen ones, in one transaction. Trees that the book has are passed
// over, but for their positions where those are wanted. It ends by itself; see
// [Book.ImportProgress].
func (b *Book) PutIn(ctx context.Context, id string, m Mapping, c Choice, by string) error {
	w, err := b.waiting(id)
	if err != nil {
		return err
	}
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.job != nil && !w.job.failed() {
		return nil // sent again
	}
	total, err := b.countLines(ctx, w, m, c)
	if err != nil {
		return err
	}
	if err := b.remember(ctx, m.Names); err != nil {
		return err
	}
	ctx, stop := context.WithCancel(context.WithoutCancel(ctx)) // it outlives the request
	j := &job{total: total, stop: stop, ended: make(chan struct{}),
		entry: store.Import{ID: id, Name: w.name, By: by, At: b.stampNow()}}
	w.job = j
	b.warming.Go(func() {
		defer context.AfterFunc(b.background, stop)() // closing the book stops it
		defer close(j.ended)
		defer stop()
		trees := func(use func(TreeLog, error) bool) {
			err := b.eachTree(ctx, w, m, c, func(t *TreeLog) bool { return use(*t, nil) })
			if err != nil {
				use(TreeLog{}, err)
			}
		}
		j.err = b.runImport(ctx, &j.entry, trees, func(done int) { j.done.Store(int64(done)) })
	})
	return nil
}

// countLines counts what would go in, and refuses a chosen line with a problem.
func (b *Book) countLines(ctx context.Context, w *waiting, m Mapping, c Choice) (total int, err error) {
	if len(w.table.Asks(m.fields()).Units) > 0 {
		return 0, &FileError{errors.New("the file does not say in which unit its lengths are; say it")}
	}
	err = b.eachTree(ctx, w, m, c, func(*TreeLog) bool { total++; return true })
	if err == nil && total == 0 {
		err = &FileError{errors.New("no line is left to put in: each has a problem, or the book has its tree already")}
	}
	return total, err
}

// lineReader reads lines as the book has what they say.
type lineReader struct {
	book    *Book
	places  places
	middles middles
	far     bool // lines that are far off are meant
}

func (b *Book) linesInto(ctx context.Context, m *Mapping) (*lineReader, error) {
	p, err := placesIn(ctx, b.store.Reader)
	return &lineReader{b, p, middles{}, m.Far}, err
}

// line writes the tract and the stand of a line as the book does, and finds a place that is
// far off. fresh, where there is one, sees the line before its stand is among the known ones.
func (r *lineReader) line(ctx context.Context, l *exchange.Line, fresh func(*exchange.Tree, places)) error {
	t := l.Tree
	r.places.settle(&t.Tract, &t.Stand)
	if fresh != nil {
		fresh(t, r.places)
	}
	r.places.add(t.Tract, t.Stand) // the next of it is written alike
	if t.Position == nil {
		return nil
	}
	says, err := r.middles.says(ctx, r.book.store.Reader, t.Tract, "", t.Position)
	if l.Far = says != ""; l.Far && !r.far {
		l.Problems = append(l.Problems, says)
	}
	return err
}

// eachTree makes the trees of the chosen lines, one after another.
func (b *Book) eachTree(ctx context.Context, w *waiting, m Mapping, c Choice, use func(*TreeLog) bool) error {
	lines, err := w.table.Lines(m.fields(), b.Flora())
	if err != nil {
		return err
	}
	chosen := map[int]bool{}
	for _, i := range c.Lines {
		chosen[i] = true
	}
	reads, err := b.linesInto(ctx, &m)
	if err != nil {
		return err
	}
	known, i := tagsOf{from: b.store.Reader}, 0
	for l := range lines {
		if err := ctx.Err(); err != nil {
			return err
		}
		if err := reads.line(ctx, l, nil); err != nil {
			return err
		}
		shown, aside, err := known.has(ctx, l.Tree)
		if err != nil {
			return err
		}
		t, err := b.treeOf(ctx, l, c, len(c.Lines) == 0 || chosen[i], shown, aside)
		if err != nil {
			return err
		}
		if i++; t != nil && !use(t) {
			return nil
		}
	}
	return nil
}

// treeOf makes the tree of one line, or nil where the line is passed over.
func (b *Book) treeOf(ctx context.Context, l *exchange.Line, c Choice, wanted, has, aside bool) (t *TreeLog, err error) {
	bad := len(l.Problems) > 0
	switch {
	case has && c.Positions && l.Tree.Position != nil && !bad:
		t, err = b.placed(ctx, b.store.Reader, l.Tree)
	case !wanted, has, bad && len(c.Lines) == 0:
		return nil, nil
	case bad:
		return nil, &FileError{fmt.Errorf("%s cannot be put in: %s", l.At, l.Problems[0])}
	default:
		t, err = b.treeLog(ctx, b.store.Reader, l.Tree, aside)
	}
	if err != nil {
		return nil, fmt.Errorf("%s: %w", l.At, err)
	}
	return t, nil
}

// placed gives a tree that the book has a file's position, unless it stands there
// already. It counts from now, whenever the file was made.
func (b *Book) placed(ctx context.Context, from store.Reader, line *exchange.Tree) (*TreeLog, error) {
	t, err := from.TreeByTag(ctx, line.Tract, line.Tag)
	if err != nil {
		return nil, err
	}
	st, err := from.Standing(ctx, t.ID)
	if err != nil {
		return nil, err
	}
	if st.Lat != nil && *st.Lat == line.Position.Lat && *st.Lon == line.Position.Lon {
		return nil, nil
	}
	e := logbook.Entry{ID: newID(), Kind: logbook.KindFacts, By: line.Observer, Facts: &logbook.SetFacts{Position: line.Position}}
	return &TreeLog{Tree: treeOf(&t), Log: []logbook.Entry{e}}, nil
}

// treeLog makes a tree of a line. A tree that was set aside under the same tag
// is taken back into the lists.
func (b *Book) treeLog(ctx context.Context, from store.Reader, t *exchange.Tree, aside bool) (*TreeLog, error) {
	id, log, err := t.Log()
	if err != nil {
		return nil, err
	}
	out := &TreeLog{Tree: Tree{ID: id, Tag: t.Tag, Tract: t.Tract, Stand: t.Stand, Region: t.Region, List: t.List}, Log: log}
	if !aside {
		return out, nil
	}
	return b.again(ctx, from, t, log)
}

func setAside(by string, aside bool) logbook.Entry {
	return logbook.Entry{ID: newID(), Kind: logbook.KindFacts, By: by, Facts: &logbook.SetFacts{Aside: &aside}}
}

// ImportProgress says how far a file is.
func (b *Book) ImportProgress(id string) (*Progress, error) {
	w, err := b.waiting(id)
	if err != nil {
		return nil, err
	}
	j := w.begun()
	if j == nil {
		return &Progress{ID: id, Total: len(w.table.Rows)}, nil
	}
	p := &Progress{ID: id, Done: int(j.done.Load()), Total: j.total}
	select {
	case <-j.ended:
		p.Ended, p.Trees = true, j.entry.Trees
		if j.err != nil {
			p.Trees, p.Wrong = 0, wrongWords(j.err)
		}
	default:
	}
	return p, nil
}

func wrongWords(err error) string {
	switch {
	case errors.Is(err, context.Canceled):
		return "stopped; nothing was put in"
	case store.Full(err):
		return "the disk is full; nothing was put in"
	}
	return err.Error() + "; nothing was put in"
}

// StopImport stops a file being put in; nothing of it stays.
func (b *Book) StopImport(id string) error {
	w, err := b.waiting(id)
	if err != nil {
		return err
	}
	if j := w.begun(); j != nil {
		j.stop()
		<-j.ended
	}
	b.imports.Delete(id)
	return nil
}
