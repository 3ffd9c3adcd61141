package store

import (
	"context"
	"fmt"
)

// Import is a file that was read in.
type Import struct {
	ID     string  `db:"id"`
	Name   string  `db:"name"` // the file's
	By     string  `db:"by"`
	At     string  `db:"at"`
	Trees  int     `db:"trees"`  // that the book did not have
	Undone *string `db:"undone"` // when it was undone
}

// AddImport keeps that a file is read in; trees and entries name it.
func (t *Tx) AddImport(ctx context.Context, i Import) error {
	return t.exec(ctx, "INSERT INTO import (id, name, by, at, trees) VALUES (?, ?, ?, ?, 0)", i.ID, i.Name, i.By, i.At)
}

// CountImport keeps how many trees an import brought.
func (t *Tx) CountImport(ctx context.Context, id string, trees int) error {
	return t.changed(ctx, ErrNoImport, "UPDATE import SET trees = ? WHERE id = ?", trees, id)
}

// EndImport keeps that an import was undone.
func (t *Tx) EndImport(ctx context.Context, id, at string) error {
	return t.changed(ctx, ErrNoImport, "UPDATE import SET undone = ? WHERE id = ?", at, id)
}

// Imports lists what was read in, the latest first.
func (r Reader) Imports(ctx context.Context) ([]Import, error) {
	imports := []Import{}
	if err := r.all(ctx, &imports, "SELECT id, name, by, at, trees, undone FROM import ORDER BY id DESC"); err != nil {
		return nil, fmt.Errorf("listing imports: %w", err)
	}
	return imports, nil
}

// Import gives an import, or [ErrNoImport].
func (r Reader) Import(ctx context.Context, id string) (i Import, err error) {
	err = r.get(ctx, &i, "SELECT id, name, by, at, trees, undone FROM import WHERE id = ?", id)
	return i, noRow(err, ErrNoImport)
}

// Touched is a tree that an import added to.
type Touched struct {
	Tree    string `db:"tree_id"`
	Brought bool   `db:"brought"` // the tree itself came with it
	Since   int    `db:"since"`   // entries that the book got after it, whatever their ids say
}

// TouchedBy lists the trees that an import added to.
func (r Reader) TouchedBy(ctx context.Context, id string) (trees []Touched, err error) {
	err = r.all(ctx, &trees, `SELECT tree_id, tree.import_id IS ? AS brought,
		(SELECT count(*) FROM entry AS later WHERE later.tree_id = entry.tree_id AND later.rowid > max(entry.rowid)) AS since
		FROM entry JOIN tree ON tree.id = entry.tree_id WHERE entry.added_by = ? GROUP BY tree_id`, id, id)
	return trees, err
}

// AddedBy lists the entries that an import added to a tree, by id.
func (r Reader) AddedBy(ctx context.Context, id, tree string) (entries []string, err error) {
	err = r.all(ctx, &entries, "SELECT id FROM entry WHERE tree_id = ? AND added_by = ? ORDER BY id", tree, id)
	return entries, err
}

// Tags lists the tags of a tract's trees, without those set aside.
func (r Reader) Tags(ctx context.Context, tract string) (map[string]bool, error) {
	var tags []string
	err := r.all(ctx, &tags, `SELECT tree.tag FROM tract JOIN tree ON tree.tract_id = tract.id
		LEFT JOIN standing ON standing.tree_id = tree.id WHERE tract.name = ? AND coalesce(standing.aside, 0) = 0`, tract)
	if err != nil {
		return nil, fmt.Errorf("listing tags: %w", err)
	}
	out := make(map[string]bool, len(tags))
	for _, tag := range tags {
		out[tag] = true
	}
	return out, nil
}

// Setting gives what was kept under a name, or "".
func (r Reader) Setting(ctx context.Context, name string) (value string, err error) {
	err = r.get(ctx, &value, "SELECT value FROM setting WHERE name = ?", name)
	return value, noRow(err, nil)
}

// PutSetting keeps a value under a name.
func (t *Tx) PutSetting(ctx context.Context, name, value string) error {
	return t.exec(ctx, "INSERT INTO setting (name, value) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value", name, value)
}
