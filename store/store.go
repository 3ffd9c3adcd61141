// Package store keeps the book in one SQLite file: tracts, stands, trees and
// each tree's log. It is the only package that knows SQL.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"path/filepath"

	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the driver
)

//go:embed migrations/*.sql
var migrations embed.FS

// Errors that callers tell apart.
var (
	ErrNoTree   = errors.New("there is no such tree")
	ErrTagTaken = errors.New("the tract already has a tree with this tag")
	ErrIDTaken  = errors.New("another entry already has this id")
	ErrNoVisit  = errors.New("there is no such visit")
	ErrNoPhoto  = errors.New("there is no such photograph")
	ErrNoImport = errors.New("there is no such import")
)

// Store is an open book. It is safe for use by several goroutines: many read,
// one writes at a time.
type Store struct {
	path        string
	read, write *sqlx.DB
	weigh       Weigh
}

// Open opens the book at path, making it when there is none, and brings its
// tables up to date.
func Open(ctx context.Context, path string) (*Store, error) {
	write, err := connect(path, 1)
	if err != nil {
		return nil, err
	}
	s := &Store{path: path, write: write}
	if err := s.migrate(ctx); err != nil {
		return nil, errors.Join(explain(err), s.Close())
	}
	if err := s.giveVisits(ctx); err != nil {
		return nil, errors.Join(explain(err), s.Close())
	}
	if s.read, err = connect(path, 8); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	return s, nil
}

// KeepStandings has every later change work out where its tree stands, in the
// same transaction. Until then a change drops the standing, to be worked out by
// [Store.WeighStale].
func (s *Store) KeepStandings(weigh Weigh) { s.weigh = weigh }

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
		return nil, errors.Join(fmt.Errorf("opening %s: %w", path, explain(err)), db.Close())
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

// noRow turns the driver's word for an absent row into the caller's.
func noRow(err, absent error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return absent
	}
	return err
}
