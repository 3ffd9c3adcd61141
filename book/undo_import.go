package book

import (
	"context"
	"errors"
	"fmt"
	"iter"
	"slices"
	"time"

	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// runImport puts trees in under an import, all of them or none: where it fails or is
// stopped, what it put in is taken out again.
func (b *Book) runImport(ctx context.Context, i *store.Import, trees iter.Seq2[TreeLog, error], progress func(done int)) error {
	err := b.store.Write(ctx, func(tx *store.Tx) error { return tx.AddImport(ctx, *i) })
	if err != nil {
		return err
	}
	i.Trees, err = b.bring(ctx, i.ID, trees, progress)
	if err == nil {
		err = b.store.Write(ctx, func(tx *store.Tx) error { return tx.FinishImport(ctx, i.ID, b.stampNow()) })
	}
	if err != nil {
		return errors.Join(err, b.clearImport(context.WithoutCancel(ctx), i.ID))
	}
	return nil
}

func (b *Book) stampNow() string { return b.now().UTC().Format(time.RFC3339) }

// importSilence is how long nothing is heard of an import before it counts as cut
// short, as by a power cut.
const importSilence = 15 * time.Second

// clearImports takes out what imports that were cut short put in.
func (b *Book) clearImports(ctx context.Context) {
	for {
		ids, left, err := b.store.CutShort(ctx, b.now().Add(-importSilence).UTC().Format(time.RFC3339))
		if err != nil {
			return // the next one who opens the book tries again
		}
		for _, id := range ids {
			if b.clearImport(ctx, id) != nil {
				return
			}
		}
		if left == 0 {
			return
		}
		select {
		case <-ctx.Done():
			return
		case <-time.After(importSilence):
		}
	}
}

// clearImport takes out what an import put in, a page at a time. What others added to
// meanwhile stays, as theirs would be lost with it.
func (b *Book) clearImport(ctx context.Context, id string) error {
	for {
		left := 0
		err := b.store.Write(ctx, func(tx *store.Tx) error {
			touched, err := tx.TouchedBy(ctx, id, bringPage)
			if err != nil {
				return err
			}
			if left = len(touched); left == 0 {
				return tx.DropImport(ctx, id)
			}
			for _, t := range touched {
				if err := b.takeOut(ctx, tx, id, t); err != nil {
					return err
				}
			}
			return nil
		})
		if err != nil || left == 0 {
			return err
		}
	}
}

func (b *Book) takeOut(ctx context.Context, tx *store.Tx, id string, t store.Touched) error {
	if t.Since > 0 {
		return tx.Release(ctx, id, t.Tree)
	}
	if t.Brought {
		return tx.RemoveTree(ctx, t.Tree)
	}
	if err := tx.RemoveAdded(ctx, id, t.Tree); err != nil {
		return err
	}
	return b.stand(ctx, tx, t.Tree)
}

// Undone is what came of undoing an import.
type Undone struct {
	Aside int `json:"aside" doc:"Trees that it brought, set aside"`
	Back  int `json:"back" doc:"Trees that the book had, put back to what they were"`
	Stay  int `json:"stay" doc:"Trees that were added to since, and stay as they are"`
}

// UndoImport sets the trees of an import aside, and undoes what it added to
// others. Trees that were added to since stay. Undoing it again changes nothing.
func (b *Book) UndoImport(ctx context.Context, id, by string) (out Undone, err error) {
	err = b.store.Write(ctx, func(tx *store.Tx) error {
		i, err := tx.Import(ctx, id)
		if err != nil || i.Undone != nil {
			return err
		}
		if i.Ended == nil {
			return &FileError{errors.New("the file is still being put in; stop it instead")}
		}
		touched, err := tx.TouchedBy(ctx, id, -1)
		if err != nil {
			return err
		}
		for _, t := range touched {
			if err := b.undoTree(ctx, tx, id, t, by, &out); err != nil {
				return err
			}
		}
		return tx.UndoneImport(ctx, id, b.stampNow())
	})
	return out, err
}

func (b *Book) undoTree(ctx context.Context, tx *store.Tx, id string, t store.Touched, by string, out *Undone) error {
	if t.Since > 0 {
		out.Stay++
		return nil
	}
	s, err := b.open(ctx, tx.Reader, t.Tree)
	if err != nil {
		return err
	}
	defer s.close()
	if t.Brought {
		out.Aside++
		s.extend(setAside(by, true))
		return b.write(ctx, tx, s, "")
	}
	out.Back++
	added, err := tx.AddedBy(ctx, id, t.Tree)
	if err != nil {
		return fmt.Errorf("tree %s: %w", s.tree.Tag, err)
	}
	for _, entry := range slices.Backward(added) { // the latest first
		s.extend(logbook.Entry{ID: newID(), Kind: logbook.KindUndo, By: by, Entry: entry})
	}
	return b.write(ctx, tx, s, "")
}
