package book

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"sync/atomic"
	"time"

	"github.com/oklog/ulid/v2"

	"palethicket/core/exchange"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// Job is a file being put into the book.
type Job struct {
	done  atomic.Int64
	total int
	stop  context.CancelFunc
	ended chan struct{}
	err   error
	entry store.Import
}

// failed says whether it ended without putting anything in, so that it can be
// tried again.
func (j *Job) failed() bool {
	select {
	case <-j.ended:
		return j.err != nil
	default:
		return false
	}
}

// Progress is how far a job is.
type Progress struct {
	ID    string `json:"id"`
	Done  int    `json:"done"`
	Total int    `json:"total"`
	Ended bool   `json:"ended"`
	Wrong string `json:"wrong" doc:"Why it failed; nothing was put in then"`
	Trees int    `json:"trees" doc:"Trees put in, once it ended"`
}

// Choice says what of a file goes in.
type Choice struct {
	Lines     []int `json:"lines,omitempty" doc:"Absent: all that have no problem"`
	Positions bool  `json:"positions,omitempty" doc:"Trees that the book has get the file's positions"`
}

// PutIn begins to put lines of a file that was read into the book: all good ones,
// or the chosen ones, in one transaction. Trees that the book has are passed
// over, but for their positions where those are wanted. It ends by itself; see
// [Book.ImportProgress].
func (b *Book) PutIn(ctx context.Context, id string, m exchange.Mapping, c Choice, by string) error {
	w, err := b.waiting(id)
	if err != nil {
		return err
	}
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.job != nil && !w.job.failed() {
		return nil // sent again
	}
	trees, err := b.treesOf(ctx, w, m, c)
	if err != nil {
		return err
	}
	ctx, stop := context.WithCancel(context.WithoutCancel(ctx)) // it outlives the request
	job := &Job{total: len(trees), stop: stop, ended: make(chan struct{}),
		entry: store.Import{ID: id, Name: w.name, By: by, At: b.now().UTC().Format(time.RFC3339)}}
	w.job = job
	go func() {
		defer close(job.ended)
		defer stop()
		job.err = b.Store.AddBatch(ctx, &job.entry, trees, func(done int) { job.done.Store(int64(done)) })
	}()
	return nil
}

// treesOf makes the trees of the chosen lines, and refuses one with a problem.
func (b *Book) treesOf(ctx context.Context, w *waiting, m exchange.Mapping, c Choice) ([]store.TreeLog, error) {
	lines, err := w.sheet.Lines(m, b.Shelf().Flora)
	if err != nil {
		return nil, err
	}
	known, err := b.known(ctx, lines)
	if err != nil {
		return nil, err
	}
	choice := map[int]bool{}
	for _, i := range c.Lines {
		choice[i] = true
	}
	var out []store.TreeLog
	for i := range lines {
		l := &lines[i]
		wanted := len(c.Lines) == 0 || choice[i]
		switch {
		case known[i] && c.Positions && l.Tree.Position != nil && len(l.Problems) == 0:
			moved, err := b.moved(ctx, l.Tree)
			if err != nil {
				return nil, err
			}
			out = append(out, moved...)
			continue
		case !wanted, known[i]:
			continue
		case len(l.Problems) > 0 && len(c.Lines) == 0:
			continue
		case len(l.Problems) > 0:
			return nil, &FileError{fmt.Errorf("%s cannot be put in: %s", l.At, l.Problems[0])}
		}
		t, err := b.treeLog(ctx, l.Tree)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", l.At, err)
		}
		out = append(out, *t)
	}
	if len(out) == 0 {
		return nil, &FileError{errors.New("no line is left to put in: each has a problem, or the book has its tree already")}
	}
	return out, nil
}

// moved gives a tree that the book has a file's position, unless it stands there
// already. It counts from now, whenever the file was made.
func (b *Book) moved(ctx context.Context, line *exchange.Tree) ([]store.TreeLog, error) {
	t, err := b.Store.TreeByTag(ctx, line.Tract, line.Tag)
	if err != nil {
		return nil, err
	}
	st, err := b.Store.Standing(ctx, t.ID)
	if err != nil {
		return nil, err
	}
	if st.Lat != nil && *st.Lat == line.Position.Lat && *st.Lon == line.Position.Lon {
		return nil, nil
	}
	e := logbook.Entry{ID: newID(), Kind: logbook.KindFacts, By: line.Observer, Facts: &logbook.Facts{Position: line.Position}}
	return []store.TreeLog{{Tree: t, Log: []logbook.Entry{e}}}, nil
}

// treeLog makes a tree of a line. A tree that was set aside under the same tag
// is taken back into the lists.
func (b *Book) treeLog(ctx context.Context, t *exchange.Tree) (*store.TreeLog, error) {
	id, log, err := t.Log()
	if err != nil {
		return nil, err
	}
	out := &store.TreeLog{Tree: store.Tree{ID: id, Tag: t.Tag, Tract: t.Tract, Stand: t.Stand, Region: t.Region}, Log: log}
	for i := range log {
		if log[i].Kind == logbook.KindName { // how it stood then goes with the name
			if err := b.checkName(out.Tree, logbook.Replay(log[:i]), log[i].Name); err != nil {
				return nil, err
			}
		}
	}
	old, err := b.Store.TreeByTag(ctx, t.Tract, t.Tag)
	if errors.Is(err, store.ErrNoTree) {
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	out.Tree, out.Log = old, append(out.Log, setAside(newID(), "", false))
	return out, nil
}

func setAside(id, by string, aside bool) logbook.Entry {
	return logbook.Entry{ID: id, Kind: logbook.KindFacts, By: by, Facts: &logbook.Facts{Aside: &aside}}
}

// ImportProgress says how far a file is.
func (b *Book) ImportProgress(id string) (*Progress, error) {
	w, err := b.waiting(id)
	if err != nil {
		return nil, err
	}
	job := w.begun()
	if job == nil {
		return &Progress{ID: id, Total: len(w.sheet.Rows)}, nil
	}
	p := &Progress{ID: id, Done: int(job.done.Load()), Total: job.total}
	select {
	case <-job.ended:
		p.Ended, p.Trees = true, job.entry.Trees
		if job.err != nil {
			p.Trees, p.Wrong = 0, wrongWords(job.err)
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
	if job := w.begun(); job != nil {
		job.stop()
		<-job.ended
	}
	b.imports.Delete(id)
	return nil
}

// UndoImport sets the trees of an import aside, and undoes what it added to
// others. Trees that were added to since stay.
func (b *Book) UndoImport(ctx context.Context, id, by string) (store.Undone, error) {
	ids := ulid.Monotonic(ulid.DefaultEntropy(), 0)
	now := b.now()
	next := func() string { return ulid.MustNew(ulid.Timestamp(now), ids).String() }
	return b.Store.UndoImport(ctx, id, now.UTC().Format(time.RFC3339), func(log []logbook.Entry, added []string) ([]*logbook.Entry, error) {
		if len(added) == 0 { // the tree itself came with the import
			e := setAside(next(), by, true)
			return []*logbook.Entry{&e}, nil
		}
		return undoAll(log, added, next, by)
	})
}

// undoAll undoes entries of one tree, the latest first.
func undoAll(log []logbook.Entry, added []string, next func() string, by string) (out []*logbook.Entry, err error) {
	for _, entry := range slices.Backward(added) {
		undo, err := logbook.Undo(log, entry)
		if err != nil {
			return nil, err
		}
		logbook.Number(undo, next)
		for i := range undo {
			undo[i].By = by
			out = append(out, &undo[i])
		}
	}
	return out, nil
}
