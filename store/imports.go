package store

import (
	"context"
	"errors"
	"fmt"
)

// Import is a file that was read in.
type Import struct {
	ID     string  `db:"id"`
	Name   string  `db:"name"` // the file's
	By     string  `db:"by"`
	At     string  `db:"at"`
	Beat   string  `db:"beat"`  // when something was last heard of it, while it is put in
	Trees  int     `db:"trees"` // that the book did not have
	Ended  *string `db:"ended"` // when all of it was put in
	Undone *string `db:"undone"`
}

const selectImport = "SELECT id, name, by, at, beat, trees, ended, undone FROM import"

// AddImport keeps that a file is being put in; trees and entries name it.
func (t *Tx) AddImport(ctx context.Context, i Import) error {
	return t.exec(ctx, "INSERT INTO import (id, name, by, at, beat, trees) VALUES (?, ?, ?, ?, ?, 0)", i.ID, i.Name, i.By, i.At, i.At)
}

// BeatImport keeps that an import goes on, and that it brought more trees.
func (t *Tx) BeatImport(ctx context.Context, id, at string, trees int) error {
	return t.changed(ctx, ErrNoImport, "UPDATE import SET beat = ?, trees = trees + ? WHERE id = ?", at, trees, id)
}

// FinishImport keeps that all of a file was put in.
func (t *Tx) FinishImport(ctx context.Context, id, at string) error {
	return t.changed(ctx, ErrNoImport, "UPDATE import SET ended = ? WHERE id = ?", at, id)
}

// UndoneImport keeps that an import was undone.
func (t *Tx) UndoneImport(ctx context.Context, id, at string) error {
	return t.changed(ctx, ErrNoImport, "UPDATE import SET undone = ? WHERE id = ?", at, id)
}

// Imports lists what was read in, the latest first.
func (r Reader) Imports(ctx context.Context) ([]Import, error) {
	imports := []Import{}
	if err := r.all(ctx, &imports, selectImport+" WHERE ended IS NOT NULL ORDER BY id DESC"); err != nil {
		return nil, fmt.Errorf("listing imports: %w", err)
	}
	return imports, nil
}

// Import gives an import, or [ErrNoImport].
func (r Reader) Import(ctx context.Context, id string) (i Import, err error) {
	err = r.get(ctx, &i, selectImport+" WHERE id = ?", id)
	return i, noRow(err, ErrNoImport)
}

// CutShort lists the imports that did not end and of which nothing was heard since a
// time, and how many others are going on.
func (r Reader) CutShort(ctx context.Context, since string) (ids []string, going int, err error) {
	if err := r.all(ctx, &ids, "SELECT id FROM import WHERE ended IS NULL AND beat < ?", since); err != nil {
		return nil, 0, fmt.Errorf("looking for imports that were cut short: %w", err)
	}
	err = r.get(ctx, &going, "SELECT count(*) FROM import WHERE ended IS NULL AND beat >= ?", since)
	return ids, going, err
}

// Touched is a tree that an import added to.
type Touched struct {
	Tree    string `db:"tree_id"`
	Brought bool   `db:"brought"` // the tree itself came with it
	Since   int    `db:"since"`   // entries that the book got after it, whatever their order
}

// TouchedBy lists the trees that an import added to, at most as many as asked for;
// below 0: all.
func (r Reader) TouchedBy(ctx context.Context, id string, most int) (trees []Touched, err error) {
	err = r.all(ctx, &trees, `SELECT tree_id, tree.import_id IS ? AS brought,
		(SELECT count(*) FROM entry AS later WHERE later.tree_id = entry.tree_id AND later.seq > max(entry.seq)) AS since
		FROM entry JOIN tree ON tree.id = entry.tree_id WHERE entry.added_by = ? GROUP BY tree_id LIMIT ?`, id, id, most)
	return trees, err
}

// Release has what an import added to a tree stay when the rest of it is taken out.
func (t *Tx) Release(ctx context.Context, id, tree string) error {
	return errors.Join(t.exec(ctx, "UPDATE entry SET added_by = NULL WHERE added_by = ? AND tree_id = ?", id, tree),
		t.exec(ctx, "UPDATE tree SET import_id = NULL WHERE import_id = ? AND id = ?", id, tree))
}

// RemoveAdded takes out what an import that was cut short added to a tree.
func (t *Tx) RemoveAdded(ctx context.Context, id, tree string) error {
	return errors.Join(t.exec(ctx, "DELETE FROM entry WHERE added_by = ? AND tree_id = ?", id, tree),
		t.exec(ctx, "UPDATE tree SET version = version + 1 WHERE id = ?", tree))
}

// RemoveTree takes out a tree that an import brought which was cut short.
func (t *Tx) RemoveTree(ctx context.Context, tree string) error {
	for _, from := range []string{
		"UPDATE stand SET changes = changes + 1 WHERE id = (SELECT stand_id FROM tree WHERE id = ?)",
		"DELETE FROM posterior WHERE tree_id = ?", "DELETE FROM standing WHERE tree_id = ?", "DELETE FROM photo WHERE tree_id = ?",
		"DELETE FROM entry WHERE tree_id = ?", "DELETE FROM tree WHERE id = ?",
	} {
		if err := t.exec(ctx, from, tree); err != nil {
			return err
		}
	}
	return nil
}

// DropImport takes out an import whose trees were taken out, with the visits, stands
// and tracts that nothing else is in.
func (t *Tx) DropImport(ctx context.Context, id string) error {
	for _, step := range []string{
		`DELETE FROM entry WHERE added_by = ? AND body ->> '$.kind' = 'visit'
			AND NOT EXISTS (SELECT 1 FROM entry AS look WHERE look.visit_id = entry.body ->> '$.walk.id')`,
		"UPDATE entry SET added_by = NULL WHERE added_by = ?",
		"DELETE FROM import WHERE id = ?",
	} {
		if err := t.exec(ctx, step, id); err != nil {
			return err
		}
	}
	clear(t.ids) // some of them are taken out
	clear(t.visitOn)
	for _, step := range []string{
		"DELETE FROM visit WHERE NOT EXISTS (SELECT 1 FROM entry WHERE about = 'visit' || char(31) || visit.id)",
		`DELETE FROM stand WHERE NOT EXISTS (SELECT 1 FROM tree WHERE stand_id = stand.id)
			AND NOT EXISTS (SELECT 1 FROM plot WHERE stand_id = stand.id) AND NOT EXISTS (SELECT 1 FROM entry
			WHERE about = 'land' || char(31) || (SELECT name FROM tract WHERE tract.id = stand.tract_id) || char(31) || stand.name)`,
		`DELETE FROM tract WHERE NOT EXISTS (SELECT 1 FROM stand WHERE tract_id = tract.id)
			AND NOT EXISTS (SELECT 1 FROM entry WHERE tract_id = tract.id) AND NOT EXISTS (SELECT 1 FROM visit WHERE tract_id = tract.id)`,
	} {
		if err := t.exec(ctx, step); err != nil {
			return err
		}
	}
	return nil
}

// AddedBy lists the entries that an import added to a tree, in their order.
func (r Reader) AddedBy(ctx context.Context, id, tree string) (entries []string, err error) {
	err = r.all(ctx, &entries, "SELECT id FROM entry WHERE tree_id = ? AND added_by = ? ORDER BY stamp, id", tree, id)
	return entries, err
}

// Brought lists the entries of a tree that came by imports, in their order.
func (r Reader) Brought(ctx context.Context, tree string) (entries []string, err error) {
	err = r.all(ctx, &entries, "SELECT id FROM entry WHERE tree_id = ? AND added_by <> '' ORDER BY stamp, id", tree)
	return entries, err
}

// Tags lists the tags of a tract's trees by their keys ([label.Key]), and says of each
// whether a tree of it is shown: not set aside.
func (r Reader) Tags(ctx context.Context, tract string) (map[string]bool, error) {
	var rows []struct {
		Key   string `db:"key"`
		Shown bool   `db:"shown"`
	}
	err := r.all(ctx, &rows, `SELECT tree.key, coalesce(standing.aside, 0) = 0 AS shown FROM tract JOIN tree ON tree.tract_id = tract.id
		LEFT JOIN standing ON standing.tree_id = tree.id WHERE tract.name = ?`, tract)
	if err != nil {
		return nil, fmt.Errorf("listing tags: %w", err)
	}
	out := make(map[string]bool, len(rows))
	for _, row := range rows {
		out[row.Key] = out[row.Key] || row.Shown
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
	return t.exec(
		ctx,
		"INSERT INTO setting (name, value) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value",
		name,
		value,
	)
}
