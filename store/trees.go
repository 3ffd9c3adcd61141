package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"

	"palethicket/core/tree/logbook"
)

// Tree is a tree's place in the book.
type Tree struct {
	ID     string `db:"id" json:"id"`
	Tag    string `db:"tag" json:"tag"`
	Region string `db:"region" json:"region"`
	Tract  string `db:"tract" json:"tract"`
	Stand  string `db:"stand" json:"stand"`
}

// Allow says whether an entry may be added to a tree's log.
type Allow func(t Tree, before []logbook.Entry, e *logbook.Entry) error

// AddTree adds a tree under the id it carries, with the first entries of its
// log, making the tract and the stand when the book has none of the name. All
// of it is kept or nothing. Adding the same tree again changes nothing.
func (s *Store) AddTree(ctx context.Context, t Tree, log ...logbook.Entry) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		_, err := s.addTree(ctx, tx, t, "", log)
		return err
	})
}

// addTree says whether the book had the tree already.
func (s *Store) addTree(ctx context.Context, tx *sqlx.Tx, t Tree, from string, log []logbook.Entry) (had bool, err error) {
	switch old, err := tree(ctx, tx, t.ID); {
	case err == nil && old == t:
		return true, nil
	case err == nil:
		return false, ErrIDTaken
	case !errors.Is(err, ErrNoTree):
		return false, err
	}
	tract, stand, err := place(ctx, tx, t.Tract, t.Stand)
	if err != nil {
		return false, err
	}
	var taken int
	if err := tx.GetContext(ctx, &taken, "SELECT count(*) FROM tree WHERE tract_id = ? AND tag = ?", tract, t.Tag); err != nil {
		return false, err
	}
	if taken > 0 {
		return false, ErrTagTaken
	}
	if _, err := tx.ExecContext(ctx, "INSERT INTO tree (id, stand_id, tract_id, tag, region, import_id) VALUES (?, ?, ?, ?, ?, ?)",
		t.ID, stand, tract, t.Tag, t.Region, maybe(from)); err != nil {
		return false, err
	}
	for i := range log {
		if _, err := insert(ctx, tx, t.ID, tract, from, &log[i]); err != nil {
			return false, err
		}
	}
	return false, s.restand(ctx, tx, t)
}

// restand keeps a changed tree's standing, or drops the old one.
func (s *Store) restand(ctx context.Context, tx *sqlx.Tx, t Tree) error {
	if s.weigh != nil {
		return weighIn(ctx, tx, t, s.weigh)
	}
	for _, table := range []string{"standing", "share"} {
		if _, err := tx.ExecContext(ctx, "DELETE FROM "+table+" WHERE tree_id = ?", t.ID); err != nil {
			return err
		}
	}
	return nil
}

// place finds a tract and a stand by their names, or makes them.
func place(ctx context.Context, tx *sqlx.Tx, tract, stand string) (tractID, standID string, err error) {
	tractID, err = named(ctx, tx, "SELECT id FROM tract WHERE name = ?", "INSERT INTO tract (id, name) VALUES (?, ?)", tract)
	if err != nil {
		return "", "", err
	}
	standID, err = named(ctx, tx, "SELECT id FROM stand WHERE tract_id = ? AND name = ?",
		"INSERT INTO stand (id, tract_id, name) VALUES (?, ?, ?)", tractID, stand)
	return tractID, standID, err
}

// named finds a row by its name, or makes one with a new id.
func named(ctx context.Context, tx *sqlx.Tx, find, make string, args ...any) (string, error) {
	var id string
	err := tx.GetContext(ctx, &id, find, args...)
	if errors.Is(err, sql.ErrNoRows) {
		id = ulid.Make().String()
		_, err = tx.ExecContext(ctx, make, append([]any{id}, args...)...)
	}
	return id, err
}

const selectTree = `SELECT tree.id, tree.tag, tree.region, tract.name AS tract, stand.name AS stand
	FROM tree JOIN stand ON stand.id = tree.stand_id JOIN tract ON tract.id = tree.tract_id`

// Tree gives a tree by id, or [ErrNoTree].
func (s *Store) Tree(ctx context.Context, id string) (Tree, error) { return tree(ctx, s.read, id) }

func tree(ctx context.Context, q sqlx.QueryerContext, id string) (t Tree, err error) {
	if err := noRow(sqlx.GetContext(ctx, q, &t, selectTree+" WHERE tree.id = ?", id), ErrNoTree); err != nil {
		return t, fmt.Errorf("reading tree %s: %w", id, err)
	}
	return t, nil
}

// TreeByTag gives the tree of a tract that carries a tag, or [ErrNoTree].
func (s *Store) TreeByTag(ctx context.Context, tract, tag string) (t Tree, err error) {
	err = s.read.GetContext(ctx, &t, selectTree+" WHERE tract.name = ? AND tree.tag = ?", tract, tag)
	return t, noRow(err, ErrNoTree)
}

// Count gives how many trees the book holds.
func (s *Store) Count(ctx context.Context) (int, error) {
	var n int
	if err := s.read.GetContext(ctx, &n, "SELECT count(*) FROM tree"); err != nil {
		return 0, fmt.Errorf("counting trees: %w", err)
	}
	return n, nil
}

// MoveTree gives a tree another tag, stand or tract.
func (s *Store) MoveTree(ctx context.Context, id, tag, tractName, standName string) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tree(ctx, tx, id); err != nil {
			return err
		}
		tract, stand, err := place(ctx, tx, tractName, standName)
		if err != nil {
			return err
		}
		var taken int
		if err := tx.GetContext(ctx, &taken, "SELECT count(*) FROM tree WHERE tract_id = ? AND tag = ? AND id <> ?", tract, tag, id); err != nil {
			return err
		}
		if taken > 0 {
			return ErrTagTaken
		}
		if _, err = tx.ExecContext(ctx, "UPDATE tree SET tag = ?, stand_id = ?, tract_id = ? WHERE id = ?", tag, stand, tract, id); err != nil {
			return err
		}
		t, err := tree(ctx, tx, id)
		if err != nil {
			return err
		}
		return s.restand(ctx, tx, t)
	})
}

// Entries gives a tree's log in the order of its ids.
func (s *Store) Entries(ctx context.Context, tree string) ([]logbook.Entry, error) {
	return entries(ctx, s.read, tree)
}

func entries(ctx context.Context, q sqlx.QueryerContext, tree string) ([]logbook.Entry, error) {
	var bodies []string
	if err := sqlx.SelectContext(ctx, q, &bodies, "SELECT body FROM entry WHERE tree_id = ? ORDER BY id", tree); err != nil {
		return nil, fmt.Errorf("reading the log of tree %s: %w", tree, err)
	}
	log := make([]logbook.Entry, len(bodies))
	for i, b := range bodies {
		if err := json.Unmarshal([]byte(b), &log[i]); err != nil {
			return nil, fmt.Errorf("reading the log of tree %s: %w", tree, err)
		}
	}
	return log, nil
}

// Append adds entries to a tree's log, all or none. Each is checked against the
// log before it, if there is anything to check by. Adding the same entry again, as after a
// lost answer, changes nothing; another entry under the same id is [ErrIDTaken].
func (s *Store) Append(ctx context.Context, id string, allow Allow, added ...*logbook.Entry) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		t, err := tree(ctx, tx, id)
		if err != nil {
			return err
		}
		return s.append(ctx, tx, t, allow, added)
	})
}

func (s *Store) append(ctx context.Context, tx *sqlx.Tx, t Tree, allow Allow, added []*logbook.Entry) error {
	return s.appendFrom(ctx, tx, t, "", allow, added)
}

// appendFrom is append for entries that came by an import.
func (s *Store) appendFrom(ctx context.Context, tx *sqlx.Tx, t Tree, from string, allow Allow, added []*logbook.Entry) error {
	log, err := entries(ctx, tx, t.ID)
	if err != nil {
		return err
	}
	var tract string
	if err := tx.GetContext(ctx, &tract, "SELECT tract_id FROM tree WHERE id = ?", t.ID); err != nil {
		return err
	}
	changed := false
	for _, e := range added {
		if allow != nil {
			if err := allow(t, log, e); err != nil {
				return err
			}
		}
		had, err := insert(ctx, tx, t.ID, tract, from, e)
		if err != nil {
			return err
		}
		if !had {
			log, changed = append(log, *e), true
		}
	}
	if !changed {
		return nil
	}
	return s.restand(ctx, tx, t)
}

// maybe is an id where there is one.
func maybe(id string) sql.NullString { return sql.NullString{String: id, Valid: id != ""} }

// insert says whether the book had the entry already.
func insert(ctx context.Context, tx *sqlx.Tx, tree, tract, from string, e *logbook.Entry) (had bool, err error) {
	body, err := json.Marshal(e)
	if err != nil {
		return false, err
	}
	var old struct {
		Tree string `db:"tree_id"`
		Body string `db:"body"`
	}
	switch err := tx.GetContext(ctx, &old, "SELECT tree_id, body FROM entry WHERE id = ?", e.ID); {
	case err == nil && old.Tree == tree && old.Body == string(body):
		return true, nil
	case err == nil:
		return false, ErrIDTaken
	case !errors.Is(err, sql.ErrNoRows):
		return false, err
	}
	var visit sql.NullString
	if e.Kind == logbook.KindLook {
		if visit.String, err = visitOf(ctx, tx, tract, e); err != nil {
			return false, err
		}
		visit.Valid = true
	}
	_, err = tx.ExecContext(ctx, "INSERT INTO entry (id, tree_id, body, visit_id, added_by) VALUES (?, ?, ?, ?, ?)",
		e.ID, tree, string(body), visit, maybe(from))
	return false, err
}
