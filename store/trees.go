package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/oklog/ulid/v2"

	"palethicket/core/tree/logbook"
)

// Tree is a tree's line in the book.
type Tree struct {
	ID      string `db:"id"`
	Tag     string `db:"tag"`
	Region  string `db:"region"` // of the flora
	List    string `db:"list"`   // that it was started to be ranked among; empty: the whole region
	Tract   string `db:"tract"`
	Stand   string `db:"stand"`
	Version int    `db:"version"` // counts the changes of its log and place
}

// Started is what the tree was started to be ranked among.
func (t *Tree) Started() logbook.Among { return logbook.Among{Region: t.Region, List: t.List} }

// same says whether two lines are of one tree, started alike and in one place.
func (t Tree) same(o Tree) bool {
	t.Version, o.Version = 0, 0
	return t == o
}

// AddTree adds a tree under the id it carries, making the tract and the stand when
// the book has none of the name. Adding the same tree again changes nothing, and
// had says so; another of that id is [ErrIDTaken]. from is the import it came by,
// if it did.
func (t *Tx) AddTree(ctx context.Context, tree Tree, from string) (had bool, err error) {
	switch old, err := t.Tree(ctx, tree.ID); {
	case err == nil && old.same(tree):
		return true, nil
	case err == nil:
		return false, ErrIDTaken
	case !errors.Is(err, ErrNoTree):
		return false, err
	}
	tract, stand, err := t.standOf(ctx, tree.Tract, tree.Stand)
	if err != nil {
		return false, err
	}
	if err := t.tagFree(ctx, tract, tree.Tag, tree.ID); err != nil {
		return false, err
	}
	return false, t.exec(ctx, "INSERT INTO tree (id, stand_id, tract_id, tag, region, list, import_id) VALUES (?, ?, ?, ?, ?, ?, ?)",
		tree.ID, stand, tract, tree.Tag, tree.Region, tree.List, maybe(from))
}

// tagFree gives [ErrTagTaken] where another tree of the tract carries the tag.
func (t *Tx) tagFree(ctx context.Context, tract, tag, tree string) error {
	var taken int
	if err := t.get(ctx, &taken, "SELECT count(*) FROM tree WHERE tract_id = ? AND tag = ? AND id <> ?", tract, tag, tree); err != nil {
		return err
	}
	if taken > 0 {
		return ErrTagTaken
	}
	return nil
}

// standOf finds a tract and a stand by their names, or makes them.
func (t *Tx) standOf(ctx context.Context, tract, stand string) (tractID, standID string, err error) {
	if tractID, err = t.tractOf(ctx, tract); err != nil {
		return "", "", err
	}
	standID, err = t.named(ctx, "SELECT id FROM stand WHERE tract_id = ? AND name = ?",
		"INSERT INTO stand (id, tract_id, name) VALUES (?, ?, ?)", tractID, stand)
	return tractID, standID, err
}

func (t *Tx) tractOf(ctx context.Context, name string) (id string, err error) {
	return t.named(ctx, "SELECT id FROM tract WHERE name = ?", "INSERT INTO tract (id, name) VALUES (?, ?)", name)
}

// named finds a row by its name, or makes one with a new id.
func (t *Tx) named(ctx context.Context, find, make string, args ...any) (id string, err error) {
	err = t.get(ctx, &id, find, args...)
	if errors.Is(err, sql.ErrNoRows) {
		id = ulid.Make().String()
		err = t.exec(ctx, make, append([]any{id}, args...)...)
	}
	return id, err
}

const selectTree = `SELECT tree.id, tree.tag, tree.region, tree.list, tree.version, tract.name AS tract, stand.name AS stand
	FROM tree JOIN stand ON stand.id = tree.stand_id JOIN tract ON tract.id = tree.tract_id`

// Tree gives a tree by id, or [ErrNoTree].
func (r Reader) Tree(ctx context.Context, id string) (t Tree, err error) {
	if err := noRow(r.get(ctx, &t, selectTree+" WHERE tree.id = ?", id), ErrNoTree); err != nil {
		return t, fmt.Errorf("reading tree %s: %w", id, err)
	}
	return t, nil
}

// TreeByTag gives the tree of a tract that carries a tag, or [ErrNoTree].
func (r Reader) TreeByTag(ctx context.Context, tract, tag string) (t Tree, err error) {
	err = r.get(ctx, &t, selectTree+" WHERE tract.name = ? AND tree.tag = ?", tract, tag)
	return t, noRow(err, ErrNoTree)
}

// Version gives how often a tree was changed, or [ErrNoTree].
func (r Reader) Version(ctx context.Context, id string) (n int, err error) {
	err = r.get(ctx, &n, "SELECT version FROM tree WHERE id = ?", id)
	return n, noRow(err, ErrNoTree)
}

// CountTrees gives how many trees the book holds.
func (r Reader) CountTrees(ctx context.Context) (n int, err error) {
	if err := r.get(ctx, &n, "SELECT count(*) FROM tree"); err != nil {
		return 0, fmt.Errorf("counting trees: %w", err)
	}
	return n, nil
}

// MoveTree gives a tree another tag, stand or tract.
func (t *Tx) MoveTree(ctx context.Context, id, tag, tractName, standName string) error {
	tract, stand, err := t.standOf(ctx, tractName, standName)
	if err != nil {
		return err
	}
	if err := t.tagFree(ctx, tract, tag, id); err != nil {
		return err
	}
	return t.changed(
		ctx,
		ErrNoTree,
		"UPDATE tree SET tag = ?, stand_id = ?, tract_id = ?, version = version + 1 WHERE id = ?",
		tag,
		stand,
		tract,
		id,
	)
}

// Log gives a tree and its log in the order of its ids, or [ErrNoTree]. An entry
// that cannot be read gives an [*Unreadable].
func (r Reader) Log(ctx context.Context, id string) (Tree, []logbook.Entry, error) {
	t, err := r.Tree(ctx, id)
	if err != nil {
		return t, nil, err
	}
	var bodies []string
	if err := r.all(ctx, &bodies, "SELECT body FROM entry WHERE tree_id = ? ORDER BY id", id); err != nil {
		return t, nil, fmt.Errorf("reading the log of tree %s: %w", t.Tag, err)
	}
	log := make([]logbook.Entry, len(bodies))
	for i, b := range bodies {
		if err := json.Unmarshal([]byte(b), &log[i]); err != nil {
			return t, nil, &Unreadable{t.Tag, fmt.Errorf("entry %d of its log: %w", i+1, err)}
		}
	}
	return t, log, nil
}

// Unreadable says why a tree cannot be read; others can.
type Unreadable struct {
	Tag string
	Err error
}

func (e *Unreadable) Error() string { return fmt.Sprintf("tree %s cannot be read: %v", e.Tag, e.Err) }

// Unwrap gives what was wrong with it.
func (e *Unreadable) Unwrap() error { return e.Err }

// Append adds an entry to a tree's log. Adding the same entry again, as after a
// lost answer, changes nothing, and had says so; another entry of that id is
// [ErrIDTaken]. A look goes to the visit it names, or [ErrNoVisit], else to that of
// its day. from is the import it came by, if it did.
func (t *Tx) Append(ctx context.Context, tree string, e *logbook.Entry, from string) (had bool, err error) {
	body, err := json.Marshal(e)
	if err != nil {
		return false, err
	}
	var old struct {
		Tree string `db:"tree_id"`
		Body string `db:"body"`
	}
	switch err := t.get(ctx, &old, "SELECT tree_id, body FROM entry WHERE id = ?", e.ID); {
	case err == nil && old.Tree == tree && sameEntry(old.Body, body):
		return true, nil
	case err == nil:
		return false, ErrIDTaken
	case !errors.Is(err, sql.ErrNoRows):
		return false, err
	}
	var visit sql.NullString
	if e.Kind == logbook.KindLook {
		if visit.String, err = t.visitOf(ctx, tree, e); err != nil {
			return false, err
		}
		visit.Valid = true
	}
	err = t.exec(
		ctx,
		"INSERT INTO entry (id, tree_id, body, visit_id, added_by) VALUES (?, ?, ?, ?, ?)",
		e.ID,
		tree,
		string(body),
		visit,
		maybe(from),
	)
	if err != nil {
		return false, err
	}
	return false, t.exec(ctx, "UPDATE tree SET version = version + 1 WHERE id = ?", tree)
}

// sameEntry compares what two entries say, however they are written.
func sameEntry(old string, body []byte) bool {
	if old == string(body) {
		return true
	}
	var e logbook.Entry
	if json.Unmarshal([]byte(old), &e) != nil {
		return false
	}
	again, err := json.Marshal(e)
	return err == nil && string(again) == string(body)
}

// maybe is an id where there is one.
func maybe(id string) sql.NullString { return sql.NullString{String: id, Valid: id != ""} }
