package book

import (
	"context"
	"errors"
	"fmt"
	"iter"
	"sync"
	"sync/atomic"
	"time"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/stamp"
	"palethicket/store"
)

// TreeLog is a tree and entries of its log.
type TreeLog struct {
	Tree Tree
	Log  []logbook.Entry // in their order; names get what the evidence gave them then
}

// AddTrees adds trees and entries, a page at a time. Trees and entries that the book
// has are passed over, so that the same trees twice are as once.
func (b *Book) AddTrees(ctx context.Context, trees []TreeLog) error {
	_, err := b.bring(ctx, "", func(use func(TreeLog, error) bool) {
		for i := range trees {
			if !use(trees[i], nil) {
				return
			}
		}
	}, func(int) {})
	return err
}

// bringPage is how many trees are written in one change, so that others wait for no
// more than that.
const bringPage = 25

// bring adds trees. They are weighed beforehand, so that others wait only while a page is written. from, which may be
// empty, is the import they come by. It gives how many the book did not have.
func (b *Book) bring(ctx context.Context, from string, trees iter.Seq2[TreeLog, error], progress func(done int)) (brought int, err error) {
	var done atomic.Int64
	step := func() { progress(int(done.Add(1))) }
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	pages := make(chan weighedPage, 1) // one is weighed while the one before is written
	go func() {
		defer close(pages)
		page := make([]TreeLog, 0, bringPage)
		hand := func(err error) bool {
			p := weighedPage{err: err}
			if err == nil {
				p = b.weighThese(ctx, page, step)
			}
			page = page[:0]
			select {
			case pages <- p:
				return p.err == nil
			case <-ctx.Done():
				return false
			}
		}
		for t, err := range trees {
			if page = append(page, t); (err != nil || len(page) == bringPage) && !hand(err) {
				return
			}
		}
		hand(nil)
	}()
	for p := range pages {
		n, err := 0, p.err
		if err == nil {
			n, err = b.writePage(ctx, from, p)
		}
		if brought += n; err != nil {
			stop()
			for range pages { // until who weighs has stopped
			}
			return brought, err
		}
	}
	return brought, ctx.Err()
}

// weighedPage is some trees as they are to be written.
type weighedPage struct {
	sheets    []*sheet
	standings []*store.Standing
	err       error
}

func (b *Book) weighThese(ctx context.Context, trees []TreeLog, step func()) (p weighedPage) {
	if p.sheets, p.err = b.lay(ctx, trees); p.err == nil {
		p.standings, p.err = b.standBrought(ctx, p.sheets, step)
	}
	return p
}

// writePage writes a page in one change, and says how many of its trees the book did not
// have.
func (b *Book) writePage(ctx context.Context, from string, p weighedPage) (brought int, err error) {
	err = b.store.Write(ctx, func(tx *store.Tx) error {
		brought = 0
		if from != "" {
			if err := tagsFree(ctx, tx, p.sheets); err != nil {
				return err
			}
		}
		for i, s := range p.sheets {
			fresh := !s.begun || s.aside && !s.log.Facts.Aside // shown, and was not before
			if err := b.put(ctx, tx, s, p.standings[i], from); err != nil {
				return fmt.Errorf("tree %s: %w", s.tree.Tag, err)
			}
			if fresh {
				brought++
			}
		}
		if from == "" {
			return nil
		}
		return tx.BeatImport(ctx, from, b.now().UTC().Format(time.RFC3339), brought)
	})
	return brought, err
}

// tagsFree refuses trees whose tags others got meanwhile.
func tagsFree(ctx context.Context, tx *store.Tx, sheets []*sheet) error {
	byTract := map[string][]string{}
	for _, s := range sheets {
		if !s.begun {
			byTract[s.tree.Tract] = append(byTract[s.tree.Tract], s.tree.Tag)
		}
	}
	for tract, tags := range byTract {
		if err := tx.TagsFree(ctx, tract, tags); err != nil {
			return err
		}
	}
	return nil
}

// lay opens the sheets of trees, those that the book has as they stand.
func (b *Book) lay(ctx context.Context, trees []TreeLog) (sheets []*sheet, err error) {
	snap, err := b.store.Snapshot(ctx)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, snap.Close()) }()
	for i := range trees {
		t := &trees[i]
		s, err := b.open(ctx, snap.Reader, t.Tree.ID)
		switch {
		case errors.Is(err, store.ErrNoTree):
			line := store.Tree{ID: t.Tree.ID, Tag: t.Tree.Tag, Region: t.Tree.Region, List: t.Tree.List, Tract: t.Tree.Tract, Stand: t.Tree.Stand}
			s = b.sheet(line, nil)
			s.added = append([]logbook.Entry{startOf(t)}, t.Log...)
		case err != nil:
			return nil, err
		default:
			s.added, s.aside = t.Log, s.log.Facts.Aside
		}
		sheets = append(sheets, s)
	}
	return sheets, nil
}

// startOf is the entry that starts a tree; it comes before the rest of its log.
func startOf(t *TreeLog) logbook.Entry {
	e := logbook.Entry{ID: t.Tree.ID, Kind: logbook.KindStart, Start: &logbook.Start{
		Place: logbook.Place{Tag: t.Tree.Tag, Tract: t.Tree.Tract, Stand: t.Tree.Stand},
		Among: logbook.Among{Region: t.Tree.Region, List: t.Tree.List}}}
	if len(t.Log) > 0 {
		e.By, e.Day = t.Log[0].By, t.Log[0].Day
		if t.Log[0].Stamp != "" {
			e.Stamp = min(stamp.OfID(e.ID), t.Log[0].Stamp)
		}
	}
	return e
}

// standBrought takes what is added into the logs, and works out where the trees then
// stand.
func (b *Book) standBrought(ctx context.Context, sheets []*sheet, step func()) ([]*store.Standing, error) {
	out, errs := make([]*store.Standing, len(sheets)), make([]error, len(sheets))
	var wg sync.WaitGroup
	var taken atomic.Int64
	for range min(len(sheets), helpers()) {
		wg.Go(func() {
			for i := taken.Add(1) - 1; i < int64(len(sheets)) && ctx.Err() == nil; i = taken.Add(1) - 1 {
				b.pressing.giveWay()
				s := sheets[i]
				if errs[i] = s.takeIn(); errs[i] == nil {
					out[i] = s.standing()
					if out[i].Fresh = !s.begun; out[i].Fresh {
						s.bodies, errs[i] = store.Bodies(s.added)
					}
				}
				s.close()
				step()
			}
		})
	}
	wg.Wait()
	return out, errors.Join(append(errs, ctx.Err())...)
}

// takeIn takes into the log what it lacks of what is added, all of it at once but for
// names, which get what the evidence gave them then.
func (s *sheet) takeIn() error {
	added := s.added
	s.added = nil
	for _, e := range added {
		if s.log.Find(e.ID) != nil {
			continue
		}
		if e.Kind == logbook.KindName {
			s.weigh()
			name := *e.Name
			e.Name = &name
			if err := s.stood(e.Name); err != nil {
				return fmt.Errorf("tree %s: %w", s.tree.Tag, err)
			}
		} else if s.weighed != nil && weighs(e.Kind) {
			s.unweigh()
		}
		s.extend(e)
	}
	return nil
}

// put writes a tree that was weighed, and its standing. One that was changed since is
// weighed again.
func (b *Book) put(ctx context.Context, tx *store.Tx, s *sheet, st *store.Standing, from string) error {
	if len(s.added) == 0 {
		return nil
	}
	_, err := b.append(ctx, tx, s, from)
	if errors.Is(err, store.ErrTreeTaken) { // somebody else brought it meanwhile
		s.begun, st.Fresh = true, false
		s.tree.Version = -1 // of a standing not seen here: it is weighed again
		_, err = b.append(ctx, tx, s, from)
	}
	if err != nil {
		return err
	}
	err = tx.KeepStanding(ctx, &s.tree, st)
	if errors.Is(err, store.ErrChanged) {
		return b.stand(ctx, tx, s.tree.ID)
	}
	return err
}

// stand works out in a change where a tree stands.
func (b *Book) stand(ctx context.Context, tx *store.Tx, id string) error {
	s, err := b.open(ctx, tx.Reader, id)
	if err != nil {
		return err
	}
	defer s.close()
	if err := tx.ShowPhotos(ctx, id, s.log.Photos); err != nil {
		return err
	}
	if err := s.settle(ctx, tx); err != nil {
		return err
	}
	return s.keep(ctx, tx)
}
