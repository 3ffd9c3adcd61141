package book

import (
	"context"
	"errors"

	"palethicket/core/label"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// Place is where a tree is filed.
type Place = logbook.Place

// Unfiled is the tract and the stand of trees that nobody has filed yet.
const Unfiled = "Unfiled"

// NextTree is a tree to be named before anybody says where it is filed.
type NextTree struct {
	ID string `json:"id" doc:"ULID, made by who starts the tree" minLength:"26" maxLength:"26"`
	By string `json:"by,omitempty" maxLength:"80"`
}

// AddNextTree starts a tree at the person's [Book.NextPlace], among the same trees as the one
// before; in an empty book it is tree 1, unfiled. Starting the same tree again changes nothing.
func (b *Book) AddNextTree(ctx context.Context, n NextTree) (*TreeView, error) {
	if err := checkID(n.ID); err != nil {
		return nil, err
	}
	return b.began(ctx, func(tx *store.Tx) (*sheet, error) {
		if s, err := b.open(ctx, tx.Reader, n.ID); !errors.Is(err, store.ErrNoTree) {
			return s, err // sent again
		}
		at, last, err := nextPlace(ctx, tx.Reader, n.By)
		if err != nil {
			return nil, err
		}
		if at.Tag == "" {
			at = Place{Tag: label.Next(""), Tract: Unfiled, Stand: Unfiled}
		}
		next := NewTree{ID: n.ID, Region: last.Region, List: last.List, By: n.By, New: true}
		return b.start(ctx, tx, next, at, b.siteOfStand)
	})
}

// NextPlace says where a person's next tree is filed: in the tract and stand of the one that they
// started last, with the next free tag. In an empty book all of it is empty.
func (b *Book) NextPlace(ctx context.Context, by string) (Place, error) {
	at, _, err := nextPlace(ctx, b.store.Reader, by)
	return at, err
}

func nextPlace(ctx context.Context, from store.Reader, by string) (at Place, last store.Tree, err error) {
	last, err = from.LastStarted(ctx, by)
	if errors.Is(err, store.ErrNoTree) {
		return at, last, nil
	}
	if err != nil {
		return at, last, err
	}
	at = Place{Tag: label.Next(last.Tag), Tract: last.Tract, Stand: last.Stand}
	for {
		if err = from.TagFree(ctx, at.Tract, at.Tag, ""); !errors.Is(err, store.ErrTagTaken) {
			return at, last, err
		}
		at.Tag = label.Next(at.Tag)
	}
}
