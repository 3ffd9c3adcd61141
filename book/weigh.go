package book

import (
	"context"
	"errors"
	"fmt"
	"runtime"
	"sync"

	"palethicket/core/flora"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/store"
)

// reweighing has standings worked out again in the background, one time after another.
type reweighing struct {
	work func(progress func(done, left int)) error

	mu       sync.Mutex
	running  bool
	wanted   bool // once more, as something changed meanwhile
	progress Weighing
	ended    sync.WaitGroup
}

// Weighing is how far standings are worked out again after a list or flora changed.
type Weighing struct {
	Going bool   `json:"going"`
	Done  int    `json:"done"`
	Left  int    `json:"left"`
	Wrong string `json:"wrong" doc:"Why it stopped; empty: it did not"`
}

// again begins, or goes on once what goes on has ended.
func (w *reweighing) again() {
	w.mu.Lock()
	defer w.mu.Unlock()
	w.wanted = true
	if w.running {
		return
	}
	w.running = true
	w.ended.Go(func() {
		for w.begin() {
			err := w.work(func(done, left int) {
				w.mu.Lock()
				defer w.mu.Unlock()
				w.progress = Weighing{Going: true, Done: done, Left: left}
			})
			w.end(err)
		}
	})
}

func (w *reweighing) begin() bool {
	w.mu.Lock()
	defer w.mu.Unlock()
	w.running = w.wanted
	w.wanted, w.progress.Going = false, w.running
	return w.running
}

func (w *reweighing) end(err error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.progress.Wrong = ""; err != nil && !errors.Is(err, context.Canceled) {
		w.progress.Wrong = err.Error()
	}
}

func (w *reweighing) wait() { w.ended.Wait() }

// Weighing says how far standings are worked out again.
func (b *Book) Weighing() Weighing {
	b.weighing.mu.Lock()
	defer b.weighing.mu.Unlock()
	return b.weighing.progress
}

// Settle waits until every standing is worked out.
func (b *Book) Settle() { b.weighing.wait() }

// stalePage is how many standings are written in one transaction.
const stalePage = 200

// WeighStale works out every standing that is missing or of another flora, a page of
// trees at a time, and says how it goes on. Nothing is weighed while others wait to
// write; a tree that was changed meanwhile has its standing from that.
func (b *Book) WeighStale(ctx context.Context, progress func(done, left int)) error {
	sh := b.shelf.Load()
	bases, err := sh.basis.all()
	if err != nil {
		return err
	}
	var basis []store.Basis
	for among, digest := range bases {
		basis = append(basis, store.Basis{Region: among.Region, List: among.List, Digest: digest})
	}
	total, err := b.store.CountStale(ctx, basis)
	if err != nil || total == 0 {
		return err
	}
	done, err := b.weighAlike(ctx, basis, func(done int) { progress(done, max(total-done, 0)) })
	if err != nil {
		return err
	}
	after := ""
	for {
		ids, err := b.store.Stale(ctx, basis, after, stalePage)
		if err != nil || len(ids) == 0 {
			return err
		}
		if err := b.weighPage(ctx, ids); err != nil {
			return err
		}
		after, done = ids[len(ids)-1], done+len(ids)
		progress(done, max(total-done, 0))
	}
}

// alikePage is how many trees that are alike are written in one change.
const alikePage = 1000

// weighAlike weighs one of each group of trees of which the same was scored, and keeps
// what it comes to for all of them.
func (b *Book) weighAlike(ctx context.Context, basis []store.Basis, progress func(done int)) (done int, err error) {
	for _, among := range basis {
		groups, err := b.store.StaleAlike(ctx, among)
		if err != nil {
			return done, err
		}
		for len(groups) > 0 {
			page, trees := 0, 0
			for ; page < len(groups) && trees < alikePage; page++ {
				trees += groups[page].Trees
			}
			n, err := b.keepAlike(ctx, among, groups[:page])
			if err != nil {
				return done, err
			}
			done, groups = done+n, groups[page:]
			progress(done)
		}
	}
	return done, nil
}

// keepAlike weighs one of each group, and keeps what it comes to for all of them.
func (b *Book) keepAlike(ctx context.Context, among store.Basis, groups []store.Alike) (done int, err error) {
	standings := make([]*store.Standing, len(groups))
	for i, g := range groups {
		s, err := b.open(ctx, b.store.Reader, g.Tree)
		if err != nil {
			return 0, err
		}
		b.pressing.giveWay()
		standings[i] = s.standing()
		s.close()
	}
	for more := true; more; { // a group may be more than others are kept waiting for
		more = false
		err := b.store.Write(ctx, func(tx *store.Tx) error {
			for i, g := range groups {
				if standings[i].Alike != g.Alike || standings[i].Basis != among.Digest {
					continue // it was changed meanwhile, and has its standing from that
				}
				n, err := tx.KeepAlike(ctx, g.Alike, among, standings[i], alikePage)
				if err != nil {
					return err
				}
				done, more = done+n, more || n == alikePage
			}
			return nil
		})
		if err != nil {
			return done, err
		}
	}
	return done, nil
}

func (b *Book) weighPage(ctx context.Context, ids []string) error {
	sheets := make([]*sheet, len(ids))
	snap, err := b.store.Snapshot(ctx)
	if err != nil {
		return err
	}
	for i, id := range ids {
		if sheets[i], err = b.open(ctx, snap.Reader, id); err != nil {
			return errors.Join(err, snap.Close())
		}
	}
	if err := snap.Close(); err != nil {
		return err
	}
	standings := b.standAll(sheets)
	return b.store.Write(ctx, func(tx *store.Tx) error {
		for i, s := range sheets {
			if err := tx.KeepStanding(ctx, &s.tree, standings[i]); err != nil && !errors.Is(err, store.ErrChanged) {
				return err
			}
		}
		return nil
	})
}

// helpers is how many goroutines weigh many trees at once: all processors but one, which
// is left to whoever asks for a page.
func helpers() int { return max(1, runtime.GOMAXPROCS(0)-1) }

// standAll works out where trees stand, by several goroutines.
func (b *Book) standAll(sheets []*sheet) []*store.Standing {
	out := make([]*store.Standing, len(sheets))
	var wg sync.WaitGroup
	workers := min(len(sheets), helpers())
	for w := range workers {
		wg.Go(func() {
			for i := w; i < len(sheets); i += workers {
				b.pressing.giveWay()
				out[i] = sheets[i].standing()
				sheets[i].close()
			}
		})
	}
	wg.Wait()
	return out
}

// FindUnreadable looks which trees of the book at path cannot be read with a flora.
// Nothing is changed. A book from an older program gives [store.ErrOlder].
func FindUnreadable(ctx context.Context, path string, f *flora.Flora) (found []*store.Unreadable, err error) {
	err = store.ReadAlone(ctx, path, func(r store.Reader) error {
		lists, err := r.Lists(ctx)
		if err != nil {
			return err
		}
		own, err := f.With(lists...)
		if err != nil {
			return fmt.Errorf("reading the book's lists: %w", err)
		}
		ids, err := r.TreeIDs(ctx)
		if err != nil {
			return err
		}
		for _, id := range ids {
			t, log, err := r.Log(ctx, id)
			var unreadable *store.Unreadable
			if errors.As(err, &unreadable) {
				found = append(found, unreadable)
				continue
			}
			if err != nil {
				return err
			}
			if _, err := record.Resolve(own, logbook.Replay(log).Record(t.Tag, t.Started())); err != nil {
				found = append(found, &store.Unreadable{Tag: t.Tag, Err: err})
			}
		}
		return nil
	})
	return found, err
}
