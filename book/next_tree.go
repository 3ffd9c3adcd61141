package book

import (
	"context"
	"errors"

	"palethicket/core/label"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// Unfiled is the tract and the stand of trees that nobody has filed yet.
const Unfiled = "Unfiled"

// NextTree is a tree to be named before anybody says where it is filed.
type NextTree struct {
	ID string `json:"id" doc:"ULID, made by who starts the tree" minLength:"26" maxLength:"26"`
	By string `json:"by,omitempty" maxLength:"80"`
}

// AddNextTree starts a tree after the one that the person started last: in its tract and stand,
// among the same trees, with the next free tag. In an empty book it is tree 1, unfiled. One that
// they started and looked at nothing of yet is gone on with. Starting the same tree again changes
// nothing.
func (b *Book) AddNextTree(ctx context.Context, n NextTree) (*TreeView, error) {
	if err := checkID(n.ID); err != nil {
		return nil, err
	}
	return b.began(ctx, func(tx *store.Tx) (*sheet, error) {
		if s, err := b.open(ctx, tx.Reader, n.ID); !errors.Is(err, store.ErrNoTree) {
			return s, err // sent again
		}
		last, err := tx.LastStarted(ctx, n.By)
		if err != nil && !errors.Is(err, store.ErrNoTree) {
			return nil, err
		}
		if s, err := b.open(ctx, tx.Reader, last.ID); err == nil && s.untouched(n.By) {
			return s, nil
		}
		next, err := after(ctx, tx.Reader, &last)
		if err != nil {
			return nil, err
		}
		next.ID, next.By, next.New = n.ID, n.By, true
		at := logbook.Place{Tag: next.Tag, Tract: next.Tract, Stand: next.Stand}
		return b.start(ctx, tx, next, at, b.siteOfStand)
	})
}

// untouched says whether somebody started the tree and did nothing with it since.
func (s *sheet) untouched(by string) bool {
	start := s.log.Find(s.tree.ID)
	return start != nil && start.By == by && len(s.log.Looks)+len(s.log.Names)+len(s.log.Notes)+len(s.log.Photos) == 0 && !s.log.Facts.Aside
}

// after says where the tree after another is filed; one without a tag is of an empty book.
func after(ctx context.Context, from store.Reader, last *store.Tree) (n NewTree, err error) {
	n = NewTree{Tract: last.Tract, Stand: last.Stand, Region: last.Region, List: last.List}
	if last.Tag == "" {
		n.Tract, n.Stand = Unfiled, Unfiled
	}
	for n.Tag = label.Next(last.Tag); ; n.Tag = label.Next(n.Tag) {
		if err = from.TagFree(ctx, n.Tract, n.Tag, ""); !errors.Is(err, store.ErrTagTaken) {
			return n, err
		}
	}
}
