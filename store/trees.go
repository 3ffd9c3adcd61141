package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"palethicket/core/label"
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
	Version int    `db:"version"`  // counts the changes of its log and place
	SameTag string `db:"same_tag"` // ids of others of its tag in the tract, parted by commas; of what was read
}

// Started is what the tree was started to be ranked among.
func (t *Tree) Started() logbook.Among { return logbook.Among{Region: t.Region, List: t.List} }

// AddTree adds the line of a tree, making the tract and the stand when the book has
// none of the name, and writes into tree how the book writes them; its log comes with
// [Tx.AppendNew]. It gives [ErrTreeTaken] for one that the book has. from is the import
// it came by, if it did.
func (t *Tx) AddTree(ctx context.Context, tree *Tree, from string) error {
	tract, stand, err := t.standOf(ctx, tree.Tract, tree.Stand)
	if err != nil {
		return err
	}
	tree.Tract, tree.Stand = t.written[tract], t.written[stand]
	err = t.exec(ctx, `INSERT INTO tree (id, stand_id, tract_id, tag, key, region, list, version, import_id)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		tree.ID, stand, tract, tree.Tag, label.Key(tree.Tag), tree.Region, tree.List, tree.Version, maybe(from))
	if taken(err) {
		return ErrTreeTaken
	}
	if err != nil || from != "" { // the tags of a file were seen to be free
		return err
	}
	return t.tellSameTag(ctx, tree.ID, tract, tree.Tag)
}

// TagFree gives [ErrTagTaken] where another tree of the tract carries the tag. One
// that was set aside leaves its tag free.
func (r Reader) TagFree(ctx context.Context, tract, tag, tree string) error {
	var taken int
	err := r.get(ctx, &taken, `SELECT count(*) FROM tract JOIN tree ON tree.tract_id = tract.id AND tree.key = ?
		LEFT JOIN standing ON standing.tree_id = tree.id
		WHERE tract.name = ? AND tree.id <> ? AND coalesce(standing.aside, 0) = 0`, label.Key(tag), tract, tree)
	if err != nil {
		return fmt.Errorf("looking for tag %s: %w", tag, err)
	}
	if taken > 0 {
		return ErrTagTaken
	}
	return nil
}

// TagsFree gives [ErrTagTaken], with the tag, where a tree of the tract that is not set
// aside carries one of the tags.
func (r Reader) TagsFree(ctx context.Context, tract string, tags []string) error {
	var taken []string
	keys := make([]any, len(tags), len(tags)+1)
	for i, tag := range tags {
		keys[i] = label.Key(tag)
	}
	err := r.all(ctx, &taken, `SELECT tree.tag FROM tract JOIN tree ON tree.tract_id = tract.id AND tree.key IN (`+marks(len(tags))+`)
		LEFT JOIN standing ON standing.tree_id = tree.id WHERE tract.name = ? AND coalesce(standing.aside, 0) = 0 LIMIT 1`,
		append(keys, tract)...)
	if err != nil {
		return fmt.Errorf("looking for tags: %w", err)
	}
	if len(taken) > 0 {
		return fmt.Errorf("tag %s: %w", taken[0], ErrTagTaken)
	}
	return nil
}

const selectTree = `SELECT tree.id, tree.tag, tree.region, tree.list, tree.version, tract.name AS tract, stand.name AS stand,
	coalesce((SELECT group_concat(other.id) FROM tree AS other LEFT JOIN standing AS line ON line.tree_id = other.id
		WHERE other.tract_id = tree.tract_id AND other.key = tree.key AND other.id <> tree.id AND coalesce(line.aside, 0) = 0), '') AS same_tag
	FROM tree JOIN stand ON stand.id = tree.stand_id JOIN tract ON tract.id = tree.tract_id`

// Tree gives a tree by id, or [ErrNoTree].
func (r Reader) Tree(ctx context.Context, id string) (t Tree, err error) {
	if err := noRow(r.get(ctx, &t, selectTree+" WHERE tree.id = ?", id), ErrNoTree); err != nil {
		return t, fmt.Errorf("reading tree %s: %w", id, err)
	}
	return t, nil
}

// TreeByTag gives the tree of a tract that carries a tag, one that is not set aside
// before one that is, or [ErrNoTree].
func (r Reader) TreeByTag(ctx context.Context, tract, tag string) (t Tree, err error) {
	err = r.get(ctx, &t, selectTree+` LEFT JOIN standing ON standing.tree_id = tree.id WHERE tract.name = ? AND tree.key = ?
		ORDER BY coalesce(standing.aside, 0), tree.tag <> ?, tree.id LIMIT 1`, tract, label.Key(tag), tag)
	return t, noRow(err, ErrNoTree)
}

// LastStarted gives the tree that a person started last, or anybody where they started none of
// the newest, or [ErrNoTree] in an empty book.
func (r Reader) LastStarted(ctx context.Context, by string) (t Tree, err error) {
	err = r.get(ctx, &t, selectTree+` WHERE tree.id = (
		SELECT entry.id FROM (SELECT id FROM tree ORDER BY id DESC LIMIT 200) AS newest JOIN entry ON entry.id = newest.id
		ORDER BY entry.body ->> '$.by' = ? DESC, entry.id DESC LIMIT 1)`, by)
	return t, noRow(err, ErrNoTree)
}

// LastOfStand gives the trees of a stand that were worked at last, the latest first.
func (r Reader) LastOfStand(ctx context.Context, tract, stand string, most int) (ids []string, err error) {
	err = r.all(ctx, &ids, "SELECT tree_id FROM standing WHERE tract = ? AND stand = ? AND aside = 0 ORDER BY last DESC LIMIT ?",
		tract, stand, most)
	if err != nil {
		return nil, fmt.Errorf("looking for the last trees of stand %s: %w", stand, err)
	}
	return ids, nil
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
	was, err := t.Tree(ctx, id)
	if err != nil {
		return err
	}
	_, left, err := t.standOf(ctx, was.Tract, was.Stand)
	if err != nil {
		return err
	}
	t.touched[left] = true
	if err := errors.Join(t.tellSameTag(ctx, id, tract, tag), t.tellSameTag(ctx, id, tract, was.Tag)); err != nil {
		return err
	}
	return t.changed(ctx, ErrNoTree, "UPDATE tree SET tag = ?, key = ?, stand_id = ?, tract_id = ? WHERE id = ?",
		tag, label.Key(tag), stand, tract, id)
}

// tellSameTag counts as a change of others of a tag that a tree gets it too, or no longer
// has it: what is shown of them is then otherwise.
func (t *Tx) tellSameTag(ctx context.Context, id, tract, tag string) error {
	return t.exec(ctx, "UPDATE tree SET version = version + 1 WHERE tract_id = ? AND key = ? AND id <> ?",
		tract, label.Key(tag), id)
}

// Unreadable says why a tree cannot be read; others can.
type Unreadable struct {
	Tag string
	Err error
}

func (e *Unreadable) Error() string { return fmt.Sprintf("tree %s cannot be read: %v", e.Tag, e.Err) }

// Unwrap gives what was wrong with it.
func (e *Unreadable) Unwrap() error { return e.Err }

// maybe is an id where there is one.
func maybe(id string) sql.NullString { return sql.NullString{String: id, Valid: id != ""} }
