// Package store keeps the book in one SQLite file: tracts, stands, trees and
// each tree's log. It is the only package that knows SQL.
package store

import (
	"context"
	"database/sql"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"path/filepath"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"
	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the driver

	"palethicket/core/logbook"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Errors that callers tell apart.
var (
	ErrNoTree   = errors.New("there is no such tree")
	ErrTagTaken = errors.New("the tract already has a tree with this tag")
	ErrIDTaken  = errors.New("another entry already has this id")
)

// Store is an open book. It is safe for use by several goroutines: many read,
// one writes at a time.
type Store struct {
	read, write *sqlx.DB
}

// Tree is a tree's place in the book.
type Tree struct {
	ID     string `db:"id" json:"id"`
	Tag    string `db:"tag" json:"tag"`
	Region string `db:"region" json:"region"`
	Tract  string `db:"tract" json:"tract"`
	Stand  string `db:"stand" json:"stand"`
}

// Open opens the book at path, making it when there is none, and brings its
// tables up to date.
func Open(ctx context.Context, path string) (*Store, error) {
	write, err := connect(path, 1)
	if err != nil {
		return nil, err
	}
	s := &Store{write: write}
	if err := s.migrate(ctx); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	if s.read, err = connect(path, 8); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	return s, nil
}

// connect opens a pool of connections with the pragmas every one needs.
func connect(path string, conns int) (*sqlx.DB, error) {
	abs, err := filepath.Abs(path)
	if err != nil {
		return nil, fmt.Errorf("finding %s: %w", path, err)
	}
	pragmas := url.Values{"_pragma": {"journal_mode(WAL)", "foreign_keys(ON)", "busy_timeout(5000)", "synchronous(FULL)"},
		"_txlock": {"immediate"}}
	dsn := (&url.URL{Scheme: "file", Path: abs, RawQuery: pragmas.Encode()}).String()
	db, err := sqlx.Open("sqlite", dsn)
	if err != nil {
		return nil, fmt.Errorf("opening %s: %w", path, err)
	}
	db.SetMaxOpenConns(conns)
	if err := db.Ping(); err != nil {
		return nil, errors.Join(fmt.Errorf("opening %s: %w", path, err), db.Close())
	}
	return db, nil
}

func (s *Store) migrate(ctx context.Context) error {
	dir, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectSQLite3, s.write.DB, dir)
	if err != nil {
		return fmt.Errorf("reading the migrations: %w", err)
	}
	if _, err := p.Up(ctx); err != nil {
		return fmt.Errorf("bringing the tables up to date: %w", err)
	}
	return nil
}

// Close closes the book.
func (s *Store) Close() error {
	var errs []error
	for _, db := range []*sqlx.DB{s.read, s.write} {
		if db != nil {
			errs = append(errs, db.Close())
		}
	}
	return errors.Join(errs...)
}

// AddTree adds a tree under the id it carries, with the first entries of its
// log, making the tract and the stand when the book has none of the name. All
// of it is kept or nothing. Adding the same tree again changes nothing.
func (s *Store) AddTree(ctx context.Context, t Tree, entries ...logbook.Entry) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		var old Tree
		switch err := tx.GetContext(ctx, &old, selectTree+" WHERE tree.id = ?", t.ID); {
		case err == nil && old == t:
			return nil
		case err == nil:
			return ErrIDTaken
		case !errors.Is(err, sql.ErrNoRows):
			return err
		}
		tract, err := named(ctx, tx, "SELECT id FROM tract WHERE name = ?", "INSERT INTO tract (id, name) VALUES (?, ?)", t.Tract)
		if err != nil {
			return err
		}
		stand, err := named(ctx, tx, "SELECT id FROM stand WHERE tract_id = ? AND name = ?",
			"INSERT INTO stand (id, tract_id, name) VALUES (?, ?, ?)", tract, t.Stand)
		if err != nil {
			return err
		}
		var taken int
		if err := tx.GetContext(ctx, &taken, "SELECT count(*) FROM tree WHERE tract_id = ? AND tag = ?", tract, t.Tag); err != nil {
			return err
		}
		if taken > 0 {
			return ErrTagTaken
		}
		if _, err := tx.ExecContext(ctx, "INSERT INTO tree (id, stand_id, tract_id, tag, region) VALUES (?, ?, ?, ?, ?)",
			t.ID, stand, tract, t.Tag, t.Region); err != nil {
			return err
		}
		for i := range entries {
			if err := insert(ctx, tx, t.ID, &entries[i]); err != nil {
				return err
			}
		}
		return nil
	})
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
func (s *Store) Tree(ctx context.Context, id string) (Tree, error) {
	var t Tree
	err := s.read.GetContext(ctx, &t, selectTree+" WHERE tree.id = ?", id)
	if errors.Is(err, sql.ErrNoRows) {
		return t, ErrNoTree
	}
	if err != nil {
		return t, fmt.Errorf("reading tree %s: %w", id, err)
	}
	return t, nil
}

// Trees gives a page of the trees, by tract, stand and tag.
func (s *Store) Trees(ctx context.Context, limit, offset int) ([]Tree, error) {
	trees := []Tree{}
	err := s.read.SelectContext(ctx, &trees, selectTree+" ORDER BY tract.name, stand.name, tree.tag LIMIT ? OFFSET ?", limit, offset)
	if err != nil {
		return nil, fmt.Errorf("listing trees: %w", err)
	}
	return trees, nil
}

// Count gives how many trees the book holds.
func (s *Store) Count(ctx context.Context) (int, error) {
	var n int
	if err := s.read.GetContext(ctx, &n, "SELECT count(*) FROM tree"); err != nil {
		return 0, fmt.Errorf("counting trees: %w", err)
	}
	return n, nil
}

// Place is a stand of a tract.
type Place struct {
	Tract string `db:"tract" json:"tract"`
	Stand string `db:"stand" json:"stand"`
}

// Places lists the stands by tract and name.
func (s *Store) Places(ctx context.Context) ([]Place, error) {
	places := []Place{}
	err := s.read.SelectContext(ctx, &places, `SELECT tract.name AS tract, stand.name AS stand
		FROM stand JOIN tract ON tract.id = stand.tract_id ORDER BY tract.name, stand.name`)
	if err != nil {
		return nil, fmt.Errorf("listing stands: %w", err)
	}
	return places, nil
}

// Entries gives a tree's log in the order of its ids.
func (s *Store) Entries(ctx context.Context, tree string) ([]logbook.Entry, error) {
	var bodies []string
	if err := s.read.SelectContext(ctx, &bodies, "SELECT body FROM entry WHERE tree_id = ? ORDER BY id", tree); err != nil {
		return nil, fmt.Errorf("reading the log of tree %s: %w", tree, err)
	}
	entries := make([]logbook.Entry, len(bodies))
	for i, b := range bodies {
		if err := json.Unmarshal([]byte(b), &entries[i]); err != nil {
			return nil, fmt.Errorf("reading the log of tree %s: %w", tree, err)
		}
	}
	return entries, nil
}

// Append adds an entry to a tree's log. Adding the same entry again, as after a
// lost answer, changes nothing; another entry under the same id is [ErrIDTaken].
func (s *Store) Append(ctx context.Context, tree string, e *logbook.Entry) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error { return insert(ctx, tx, tree, e) })
}

func insert(ctx context.Context, tx *sqlx.Tx, tree string, e *logbook.Entry) error {
	body, err := json.Marshal(e)
	if err != nil {
		return err
	}
	var old struct {
		Tree string `db:"tree_id"`
		Body string `db:"body"`
	}
	switch err := tx.GetContext(ctx, &old, "SELECT tree_id, body FROM entry WHERE id = ?", e.ID); {
	case err == nil && old.Tree == tree && old.Body == string(body):
		return nil
	case err == nil:
		return ErrIDTaken
	case !errors.Is(err, sql.ErrNoRows):
		return err
	}
	_, err = tx.ExecContext(ctx, "INSERT INTO entry (id, tree_id, body) VALUES (?, ?, ?)", e.ID, tree, string(body))
	return err
}

// inTx runs f in a transaction that is kept only if f succeeds.
func (s *Store) inTx(ctx context.Context, f func(*sqlx.Tx) error) error {
	tx, err := s.write.BeginTxx(ctx, nil)
	if err != nil {
		return fmt.Errorf("writing to the book: %w", err)
	}
	if err := f(tx); err != nil {
		return fmt.Errorf("writing to the book: %w", errors.Join(err, ignoreDone(tx.Rollback())))
	}
	if err := tx.Commit(); err != nil {
		return fmt.Errorf("writing to the book: %w", err)
	}
	return nil
}

func ignoreDone(err error) error {
	if errors.Is(err, sql.ErrTxDone) {
		return nil
	}
	return err
}
