package book

import (
	"context"
	"path/filepath"

	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// StandingOf is where a tree stands in lists.
func (b *Book) StandingOf(ctx context.Context, tree string) (*store.Standing, error) {
	return b.store.Standing(ctx, tree)
}

// LogOf is a tree's log.
func (b *Book) LogOf(ctx context.Context, tree string) ([]logbook.Entry, error) {
	_, log, err := b.store.Log(ctx, tree)
	return log, err
}

// PasswordOf is what the book keeps of a password.
func (b *Book) PasswordOf(ctx context.Context, name string) (string, error) {
	a, err := accountNamed(ctx, b.store.Reader, name)
	return a.Password, err
}

// Spoil writes an entry that cannot be read into a tree's log, as a damaged file may
// hold.
func (b *Book) Spoil(ctx context.Context, tree string, e logbook.Entry) error {
	e.Stamp = b.clock.After()
	return b.store.Write(ctx, func(tx *store.Tx) error {
		_, err := tx.Append(ctx, tree, &e, "")
		return err
	})
}

// PhotoPath is where a photograph's file lies.
func (b *Book) PhotoPath(ctx context.Context, id string) (string, error) {
	p, err := b.store.Photo(ctx, id)
	return filepath.Join(b.store.Path()+".photos", p.Digest), err
}

// CutShort has an import as if the power went while it was put in, and clears up.
func (b *Book) CutShort(ctx context.Context, id string) error {
	return b.clearImport(ctx, id)
}

// Reckoned is where a tree stands by its log, whatever is kept of it.
func (b *Book) Reckoned(ctx context.Context, tree string) (*store.Standing, error) {
	s, err := b.open(ctx, b.store.Reader, tree)
	if err != nil {
		return nil, err
	}
	defer s.close()
	return s.standing(), nil
}
