package book

import (
	"context"
	"errors"
	"fmt"
	"runtime"
	"sync"
	"sync/atomic"

	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// TreeLog is a tree and entries of its log.
type TreeLog struct {
	Tree Tree
	Log  []logbook.Entry // in their order; names get what the evidence gave them then
}

// AddTrees adds trees and entries in one transaction, all or nothing. Trees and
// entries that the book has are passed over, so that the same trees twice are as
// once.
func (b *Book) AddTrees(ctx context.Context, trees []TreeLog) error {
	return b.bring(ctx, nil, trees, func(int) {})
}

// bring adds trees. They are weighed beforehand, by as many goroutines as there are
// processors, so that others wait only while they are written. from, which may be
// nil, is kept as the import they came by; its count of trees is filled in.
func (b *Book) bring(ctx context.Context, from *store.Import, trees []TreeLog, progress func(done int)) error {
	sheets, err := b.lay(ctx, trees)
	if err != nil {
		return err
	}
	standings, err := standBrought(ctx, sheets, progress)
	if err != nil {
		return err
	}
	return b.store.Write(ctx, func(tx *store.Tx) error {
		id := ""
		if from != nil {
			id, from.Trees = from.ID, 0
			if err := tx.AddImport(ctx, *from); err != nil {
				return err
			}
		}
		for i, s := range sheets {
			had, err := b.put(ctx, tx, s, standings[i], id)
			if err != nil {
				return fmt.Errorf("tree %s: %w", s.tree.Tag, err)
			}
			if from != nil && !had {
				from.Trees++
			}
		}
		if from == nil {
			return nil
		}
		return tx.CountImport(ctx, id, from.Trees)
	})
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
		if errors.Is(err, store.ErrNoTree) {
			line := store.Tree{ID: t.Tree.ID, Tag: t.Tree.Tag, Region: t.Tree.Region, List: t.Tree.List, Tract: t.Tree.Tract, Stand: t.Tree.Stand}
			s, err = &sheet{shelf: b.shelf.Load(), tree: line, log: logbook.NewLog(nil)}, nil
		}
		if err != nil {
			return nil, err
		}
		s.added = t.Log
		sheets = append(sheets, s)
	}
	return sheets, nil
}

// standBrought takes what is added into the logs, and works out where the trees then
// stand.
func standBrought(ctx context.Context, sheets []*sheet, progress func(done int)) ([]*store.Standing, error) {
	out, errs := make([]*store.Standing, len(sheets)), make([]error, len(sheets))
	var wg sync.WaitGroup
	var done, taken atomic.Int64
	for range min(len(sheets), runtime.GOMAXPROCS(0)) {
		wg.Go(func() {
			for i := taken.Add(1) - 1; i < int64(len(sheets)) && ctx.Err() == nil; i = taken.Add(1) - 1 {
				s := sheets[i]
				if errs[i] = s.takeIn(); errs[i] == nil {
					s.weigh()
					out[i] = s.standing()
				}
				s.close()
				progress(int(done.Add(1)))
			}
		})
	}
	wg.Wait()
	return out, errors.Join(append(errs, ctx.Err())...)
}

// takeIn takes into the log what it lacks of what is added. A name gets what the
// evidence gave it then.
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
		} else if s.weighed != nil {
			s.close()
			s.weighed = nil
		}
		s.extend(e)
	}
	return nil
}

// put writes a tree that was weighed, and its standing, and says whether the book had
// it. One that was changed since is weighed again.
func (b *Book) put(ctx context.Context, tx *store.Tx, s *sheet, st *store.Standing, from string) (had bool, err error) {
	if _, err := tx.Version(ctx, s.tree.ID); errors.Is(err, store.ErrNoTree) {
		if had, err := tx.AddTree(ctx, s.tree, from); err != nil || had {
			return had, err
		}
	} else if err != nil {
		return false, err
	} else if had = true; len(s.added) == 0 {
		return true, nil
	}
	for i := range s.added {
		again, err := tx.Append(ctx, s.tree.ID, &s.added[i], from)
		if err != nil {
			return had, err
		}
		if !again {
			s.tree.Version++
		}
	}
	err = tx.KeepStanding(ctx, &s.tree, st)
	if errors.Is(err, store.ErrChanged) {
		return had, b.stand(ctx, tx, s.tree.ID)
	}
	return had, err
}

// stand works out in a transaction where a tree stands.
func (b *Book) stand(ctx context.Context, tx *store.Tx, id string) error {
	s, err := b.open(ctx, tx.Reader, id)
	if err != nil {
		return err
	}
	defer s.close()
	return s.keep(ctx, tx)
}
