package store

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net/url"
	"path/filepath"

	"github.com/jmoiron/sqlx"
)

// Weight is what a tract weighs for a device that takes it along.
type Weight struct {
	Tract      string `db:"tract"`
	Trees      int    `db:"trees"`
	Bytes      int    `db:"bytes"`
	Photos     int    `db:"photos"`
	PhotoBytes int    `db:"photo_bytes"`
}

// Weights says what each tract weighs: about, without photographs, and these.
func (r Reader) Weights(ctx context.Context) (weights []Weight, err error) {
	// What stands of a tree and the indexes take about as much again as its log.
	err = r.all(ctx, &weights, `SELECT tract.name AS tract,
		(SELECT count(*) FROM tree WHERE tract_id = tract.id) AS trees,
		coalesce(length(terrain), 0) + 3 * coalesce((SELECT sum(length(body)) FROM entry JOIN tree ON tree.id = entry.tree_id
			WHERE tree.tract_id = tract.id), 0) AS bytes,
		(SELECT count(*) FROM photo JOIN tree ON tree.id = tree_id WHERE tree.tract_id = tract.id AND gone = 0) AS photos,
		(SELECT coalesce(sum(photo.bytes), 0) FROM photo JOIN tree ON tree.id = tree_id WHERE tree.tract_id = tract.id AND gone = 0)
			AS photo_bytes
		FROM tract ORDER BY tract.name`)
	if err != nil {
		return nil, fmt.Errorf("weighing tracts: %w", err)
	}
	return weights, nil
}

// Part writes a new book at path with all there is of some tracts, as it is now: a book
// like the whole, with its running numbers, and of another node. Accounts and what they
// may do stay behind. Photographs come with it as thumbnails, and whole where full says so;
// with are further files, by name.
func (s *Store) Part(ctx context.Context, path string, tracts []string, full bool, with map[string][]byte) (err error) {
	db, err := sqlx.Open(driverName, (&url.URL{Scheme: "file", Path: path, RawQuery: "_pragma=synchronous(OFF)"}).String())
	if err != nil {
		return err
	}
	db.SetMaxOpenConns(1)
	defer func() { err = errors.Join(err, db.Close()) }()
	whole, err := filepath.Abs(s.path)
	if err != nil {
		return err
	}
	from := (&url.URL{Scheme: "file", Path: whole, RawQuery: "mode=ro"}).String()
	if _, err := db.ExecContext(ctx, "ATTACH ? AS whole", from); err != nil {
		return fmt.Errorf("reading the book beside its part: %w", err)
	}
	tx, err := db.BeginTxx(ctx, nil)
	if err != nil {
		return err
	}
	p := &part{tx, ctx, s.Reader}
	if err := errors.Join(p.copy(tracts), p.photographs(full), p.files(with)); err != nil {
		return errors.Join(fmt.Errorf("writing a part of the book: %w", err), tx.Rollback())
	}
	return tx.Commit()
}

// part is a book that is written.
type part struct {
	tx    *sqlx.Tx
	ctx   context.Context
	whole Reader
}

// partOf says which lines of each table go along; tables that are not named stay behind
// empty.
var partOf = []struct{ table, where string }{
	{"goose_db_version", ""},
	{"import", ""},
	{"tree", "tract_id IN (SELECT id FROM chosen)"},
	{"entry", `tree_id IN (SELECT id FROM main.tree) OR about IS NOT NULL AND (tract_id IS NULL OR tract_id IN (SELECT id FROM chosen)
		OR about IN (SELECT 'visit' || char(31) || visit_id FROM whole.entry WHERE tree_id IN (SELECT id FROM main.tree)))`},
	{"visit", "tract_id IN (SELECT id FROM chosen) OR id IN (SELECT visit_id FROM main.entry)"},
	{"tract", "id IN (SELECT id FROM chosen) OR id IN (SELECT tract_id FROM main.visit)"},
	{"stand", "tract_id IN (SELECT id FROM chosen)"},
	{"plot", "stand_id IN (SELECT id FROM main.stand)"},
	{"profile", ""},
	{"standing", "tree_id IN (SELECT id FROM main.tree)"},
	{"posterior", "tree_id IN (SELECT id FROM main.tree)"},
	{"photo", "tree_id IN (SELECT id FROM main.tree)"},
	{"list", ""},
	{"setting", "name <> '" + nodeSetting + "' AND name NOT LIKE '" + openMark + "%'"},
	{"name_in_file", ""},
	{"deck", "body ->> '$.crew'"},
}

func (p *part) copy(tracts []string) error {
	var made []struct {
		Kind string `db:"type"`
		Name string `db:"name"`
		SQL  string `db:"sql"`
	}
	err := p.tx.SelectContext(
		p.ctx,
		&made,
		"SELECT type, name, sql FROM whole.sqlite_schema WHERE sql IS NOT NULL AND name NOT LIKE 'sqlite%'",
	)
	if err != nil {
		return err
	}
	for _, m := range made {
		if m.Kind == "table" {
			if err := p.exec(m.SQL); err != nil {
				return err
			}
		}
	}
	err = p.exec("CREATE TEMP TABLE chosen AS SELECT id FROM whole.tract WHERE name IN ("+marks(len(tracts))+")", anys(tracts)...)
	if err != nil {
		return err
	}
	for _, t := range partOf {
		where := ""
		if t.where != "" {
			where = " WHERE " + t.where
		}
		if err := p.exec("INSERT INTO main." + t.table + " SELECT * FROM whole." + t.table + where); err != nil {
			return fmt.Errorf("%s: %w", t.table, err)
		}
	}
	for _, m := range made {
		if m.Kind != "table" {
			if err := p.exec(m.SQL); err != nil {
				return err
			}
		}
	}
	return nil
}

// photographs takes their files along.
func (p *part) photographs(full bool) error {
	var digests []string
	if err := p.tx.SelectContext(p.ctx, &digests, "SELECT DISTINCT digest FROM main.photo WHERE gone = 0"); err != nil {
		return err
	}
	for _, d := range digests {
		names := []string{d + thumbSuffix}
		if full {
			names = append(names, d)
		}
		for _, name := range names {
			if err := p.photograph(name); err != nil {
				return err
			}
		}
	}
	return nil
}

func (p *part) photograph(name string) error {
	file, err := p.whole.openFile(p.ctx, name)
	if errors.Is(err, ErrNoPhoto) {
		return nil // lost here, and no more there than here
	}
	if err != nil {
		return err
	}
	body, err := io.ReadAll(file)
	if err := errors.Join(err, file.Close()); err != nil {
		return err
	}
	return p.file(name, body)
}

func (p *part) files(with map[string][]byte) error {
	for name, body := range with {
		if err := p.file(name, body); err != nil {
			return err
		}
	}
	return nil
}

func (p *part) file(name string, body []byte) error {
	return p.exec("INSERT INTO main.file (name, body) VALUES (?, ?)", name, body)
}

func (p *part) exec(query string, args ...any) error {
	_, err := p.tx.ExecContext(p.ctx, query, args...)
	return err
}

// TractNames lists the tracts.
func (r Reader) TractNames(ctx context.Context) (names []string, err error) {
	err = r.all(ctx, &names, "SELECT name FROM tract ORDER BY name")
	return names, err
}

// PhotosHere counts the photographs whose files are here.
func (r Reader) PhotosHere(ctx context.Context) (n int, err error) {
	return n, r.get(ctx, &n, "SELECT count(*) FROM photo WHERE arrived = 1")
}

// Last gives the book's last running number and the entry that has it.
func (r Reader) Last(ctx context.Context) (seq int, id string, err error) {
	var last struct {
		Seq int    `db:"seq"`
		ID  string `db:"id"`
	}
	err = r.get(ctx, &last, "SELECT seq, id FROM entry ORDER BY seq DESC LIMIT 1")
	return last.Seq, last.ID, noRow(err, nil)
}

// Holds says whether the book's running number is that of the entry: not so in a book
// that was restored from an older copy.
func (r Reader) Holds(ctx context.Context, seq int, id string) (bool, error) {
	var n int
	err := r.get(ctx, &n, "SELECT count(*) FROM entry WHERE seq = ? AND id = ?", seq, id)
	return n > 0, err
}
