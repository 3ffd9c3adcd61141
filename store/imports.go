package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"github.com/jmoiron/sqlx"

	"palethicket/core/tree/logbook"
)

// TreeLog is a tree and entries of its log.
type TreeLog struct {
	Tree
	Log []logbook.Entry
}

// Import is a file that was read in.
type Import struct {
	ID     string  `db:"id" json:"id"`
	Name   string  `db:"name" json:"name" doc:"The file's name"`
	By     string  `db:"by" json:"by"`
	At     string  `db:"at" json:"at"`
	Trees  int     `db:"trees" json:"trees" doc:"Trees that the book did not have"`
	Undone *string `db:"undone" json:"undone,omitempty" doc:"When it was undone"`
}

// AddBatch adds trees and entries in one transaction, all or nothing. Trees and
// entries that the book has are passed over, so that the same batch twice is as
// once. from, which may be nil, is kept as the import they came by; its count of
// trees is filled in. progress, which may be nil, hears how many trees are done.
func (s *Store) AddBatch(ctx context.Context, from *Import, trees []TreeLog, progress func(done int)) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		id := ""
		if from != nil {
			id, from.Trees = from.ID, 0
			_, err := tx.ExecContext(ctx, "INSERT INTO import (id, name, by, at, trees) VALUES (?, ?, ?, ?, 0)", id, from.Name, from.By, from.At)
			if err != nil {
				return err
			}
		}
		for i := range trees {
			had, err := s.union(ctx, tx, id, &trees[i])
			if err != nil {
				return fmt.Errorf("tree %s: %w", trees[i].Tag, err)
			}
			if from != nil && !had {
				from.Trees++
			}
			if progress != nil {
				progress(i + 1)
			}
		}
		if from == nil {
			return nil
		}
		_, err := tx.ExecContext(ctx, "UPDATE import SET trees = ? WHERE id = ?", from.Trees, id)
		return err
	})
}

// union adds a tree, or to a tree that the book has the entries that it lacks.
func (s *Store) union(ctx context.Context, tx *sqlx.Tx, from string, t *TreeLog) (had bool, err error) {
	_, err = tree(ctx, tx, t.ID)
	if errors.Is(err, ErrNoTree) {
		return s.addTree(ctx, tx, t.Tree, from, t.Log)
	}
	if err != nil {
		return false, err
	}
	added := make([]*logbook.Entry, len(t.Log))
	for i := range t.Log {
		added[i] = &t.Log[i]
	}
	return true, s.appendFrom(ctx, tx, t.Tree, from, nil, added)
}

// Imports lists what was read in, the latest first.
func (s *Store) Imports(ctx context.Context) ([]Import, error) {
	imports := []Import{}
	if err := s.read.SelectContext(ctx, &imports, "SELECT id, name, by, at, trees, undone FROM import ORDER BY id DESC"); err != nil {
		return nil, fmt.Errorf("listing imports: %w", err)
	}
	return imports, nil
}

// Undo makes the entries that undo what an import did to a tree: what it added to
// the tree's log, or, where that is empty, that it brought the tree.
type Undo func(log []logbook.Entry, added []string) ([]*logbook.Entry, error)

// Undone is what came of undoing an import.
type Undone struct {
	Aside int `json:"aside" doc:"Trees that it brought, set aside"`
	Back  int `json:"back" doc:"Trees that the book had, put back to what they were"`
	Stay  int `json:"stay" doc:"Trees that were added to since, and stay as they are"`
}

// UndoImport undoes an import by further entries, but for trees that were added
// to since. Undoing it again changes nothing.
func (s *Store) UndoImport(ctx context.Context, id, at string, undo Undo) (out Undone, err error) {
	err = s.inTx(ctx, func(tx *sqlx.Tx) error {
		var undone sql.NullString
		if err := noRow(tx.GetContext(ctx, &undone, "SELECT undone FROM import WHERE id = ?", id), ErrNoImport); err != nil {
			return err
		}
		if undone.Valid {
			return nil
		}
		touched, err := touchedBy(ctx, tx, id)
		if err != nil {
			return err
		}
		for _, t := range touched {
			if err := s.undoTree(ctx, tx, id, t, undo, &out); err != nil {
				return err
			}
		}
		_, err = tx.ExecContext(ctx, "UPDATE import SET undone = ? WHERE id = ?", at, id)
		return err
	})
	return out, err
}

// touched is a tree that an import added to.
type touched struct {
	ID      string `db:"tree_id"`
	Brought bool   `db:"brought"` // the tree itself came with it
	Since   int    `db:"since"`   // entries that the book got after it, whatever their ids say
}

func touchedBy(ctx context.Context, tx *sqlx.Tx, id string) (trees []touched, err error) {
	err = tx.SelectContext(ctx, &trees, `SELECT tree_id, tree.import_id IS ? AS brought,
		(SELECT count(*) FROM entry AS later WHERE later.tree_id = entry.tree_id AND later.rowid > max(entry.rowid)) AS since
		FROM entry JOIN tree ON tree.id = entry.tree_id WHERE entry.added_by = ? GROUP BY tree_id`, id, id)
	return trees, err
}

func (s *Store) undoTree(ctx context.Context, tx *sqlx.Tx, id string, of touched, undo Undo, out *Undone) error {
	if of.Since > 0 {
		out.Stay++
		return nil
	}
	var added []string
	if of.Brought {
		out.Aside++
	} else {
		out.Back++
		err := tx.SelectContext(ctx, &added, "SELECT id FROM entry WHERE tree_id = ? AND added_by = ? ORDER BY id", of.ID, id)
		if err != nil {
			return err
		}
	}
	t, err := tree(ctx, tx, of.ID)
	if err != nil {
		return err
	}
	return s.undoIn(ctx, tx, t, added, undo)
}

func (s *Store) undoIn(ctx context.Context, tx *sqlx.Tx, t Tree, added []string, undo Undo) error {
	log, err := entries(ctx, tx, t.ID)
	if err != nil {
		return err
	}
	more, err := undo(log, added)
	if err != nil {
		return fmt.Errorf("tree %s: %w", t.Tag, err)
	}
	return s.append(ctx, tx, t, nil, more)
}

// Tags lists the tags of a tract's trees, without those set aside.
func (s *Store) Tags(ctx context.Context, tract string) (map[string]bool, error) {
	var tags []string
	err := s.read.SelectContext(ctx, &tags, `SELECT tree.tag FROM tract JOIN tree ON tree.tract_id = tract.id
		LEFT JOIN standing ON standing.tree_id = tree.id WHERE tract.name = ? AND coalesce(standing.aside, 0) = 0`, tract)
	if err != nil {
		return nil, fmt.Errorf("listing tags: %w", err)
	}
	out := make(map[string]bool, len(tags))
	for _, t := range tags {
		out[t] = true
	}
	return out, nil
}
