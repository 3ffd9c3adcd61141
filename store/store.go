package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Errors that callers tell apart, and who returns them.
var (
	ErrNoTree    = errors.New("there is no such tree")                           // Tree, TreeByTag, Log, Standing
	ErrTagTaken  = errors.New("the tract already has a tree with this tag")      // TagFree
	ErrIDTaken   = errors.New("another entry already has this id")               // Append
	ErrNoVisit   = errors.New("there is no such visit")                          // Visit, VisitOn
	ErrNoPhoto   = errors.New("there is no such photograph")                     // Photo, PhotoFile
	ErrNoImport  = errors.New("there is no such import")                         // Import
	ErrTreeTaken = errors.New("the book has this tree already")                  // AddTree
	ErrChanged   = errors.New("the tree was changed by somebody else meanwhile") // KeepStanding
)

// ErrEmpty is given by [Open] for a file without anything in it.
var ErrEmpty = errors.New("the file is empty, and a book never is: restore the latest backup, or remove it to begin a new book")

// Store is an open book's file. It is safe for use by several goroutines: many
// read, one writes at a time. Its own reads each see the book as it is then;
// reads that belong together go through a [Snapshot].
type Store struct {
	Reader
	read, write *sqlx.DB
	long        *sqlx.DB // for reads that take long, so that others need not wait for them
	longKept    *statements
	away        *int        // see Tx
	kept        *statements // of write

	marked string   // what marks the book while it is open here
	before []string // what marked it before
}

// Reader answers what is asked of a book.
type Reader struct {
	q      sqlx.QueryerContext
	path   string
	stands *standCache
}

// Snapshot reads the book as it was at one moment, whatever is written
// meanwhile. It is for one goroutine, which closes it.
type Snapshot struct {
	Reader
	run *prepared
}

// Tx is a change of the book: all of it is kept by Commit, or nothing. It sees
// what it wrote itself, and is for one goroutine.
type Tx struct {
	Reader
	run *prepared

	ids     map[string]string    // of tracts and stands, by what they were found by
	written map[string]string    // how the book writes their names, by id
	visitOn map[[2]string]string // by tract and day

	away *int // what is said of new entries: they wait to be told home; nil: they need not be

	profiles map[string]int  // by digest
	touched  map[string]bool // stands whose trees stand otherwise
}

// Open opens the book at path, making it when there is none, and brings its
// tables up to date.
func Open(ctx context.Context, path string) (*Store, error) {
	if info, err := os.Stat(path); err == nil && info.Size() == 0 {
		return nil, fmt.Errorf("%s: %w", path, ErrEmpty)
	}
	if err := ours(ctx, path); err != nil {
		return nil, err
	}
	write, err := connect(path, 1, url.Values{"_txlock": {"immediate"}, "_pragma": {"temp_store(MEMORY)", "cache_size(-32768)"}})
	if err != nil {
		return nil, err
	}
	s := &Store{Reader: Reader{path: path}, write: write, kept: &statements{db: write, ready: map[string]*sqlx.Stmt{}}}
	if err := errors.Join(s.migrate(ctx)); err != nil {
		return nil, errors.Join(explain(err), s.Close())
	}
	if err := s.mark(ctx); err != nil && !Full(err) { // on a full disk it is served unmarked
		return nil, errors.Join(explain(err), s.Close())
	}
	if err := s.identify(ctx, time.Now()); err != nil {
		return nil, errors.Join(explain(err), s.Close())
	}
	if err := s.tidy(path); err != nil {
		return nil, errors.Join(fmt.Errorf("tidying beside %s: %w", path, err), s.Close())
	}
	if s.read, err = connect(path, readers, url.Values{"_pragma": {"query_only(ON)"}}); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	if s.long, err = connect(path, longReaders, url.Values{"_pragma": {"query_only(ON)"}}); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	s.long.SetMaxIdleConns(1)
	s.Reader = Reader{&pooled{s.read, &statements{db: s.read, ready: map[string]*sqlx.Stmt{}}}, path, &standCache{}}
	s.longKept = &statements{db: s.long, ready: map[string]*sqlx.Stmt{}}
	return s, nil
}

const (
	// readers is how many may read at the same time.
	readers = 8
	// longReaders is how many more may read for long; others wait for their turn.
	longReaders = 64
)

// connect opens a pool of connections with the pragmas every one needs, and more.
func connect(path string, conns int, more url.Values) (*sqlx.DB, error) {
	abs, err := filepath.Abs(path)
	if err != nil {
		return nil, fmt.Errorf("finding %s: %w", path, err)
	}
	options := url.Values{"_pragma": {"journal_mode(WAL)", "foreign_keys(ON)", "busy_timeout(5000)", "synchronous(FULL)"}}
	for key, values := range more {
		options[key] = append(options[key], values...)
	}
	if vfs != "" {
		options.Set("vfs", vfs)
	}
	dsn := (&url.URL{Scheme: "file", Path: abs, RawQuery: options.Encode()}).String()
	db, err := sqlx.Open(driverName, dsn)
	if err != nil {
		return nil, fmt.Errorf("opening %s: %w", path, err)
	}
	db.SetMaxOpenConns(conns)
	db.SetMaxIdleConns(conns)
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
	steps := p.ListSources()
	last := steps[len(steps)-1].Version
	there, err := p.GetDBVersion(ctx)
	if err == nil && there > last {
		err = newer(there, last)
	}
	if err != nil {
		return err
	}
	if _, err := p.Up(ctx); err != nil {
		return fmt.Errorf("bringing the tables up to date: %w", err)
	}
	return nil
}

// newer says that a book went through more steps than this program knows.
func newer(there, known int64) error {
	return fmt.Errorf("the book is from a newer program (its tables are of step %d, this one knows %d): renew this program; "+
		"nothing in the book was changed", there, known)
}

// Schema is the number of the last migration that the book went through.
func (r Reader) Schema(ctx context.Context) (n int64, err error) {
	return n, r.get(ctx, &n, "SELECT max(version_id) FROM goose_db_version")
}

// Path is where the book lies.
func (s *Store) Path() string { return s.path }

// Close closes the book.
func (s *Store) Close() error {
	var errs []error
	done := s.unmark()
	for _, db := range []*sqlx.DB{s.read, s.long, s.write} {
		if db != nil {
			errs = append(errs, db.Close())
		}
	}
	return errors.Join(append(errs, done())...)
}

// Snapshot begins to read the book as it is now.
func (s *Store) Snapshot(ctx context.Context) (*Snapshot, error) {
	return s.snapshot(ctx, s.read, s.Reader.q.(*pooled).kept)
}

// LongSnapshot is a Snapshot for what takes long, as a file of every tree does: however
// many there are, short reads go on.
func (s *Store) LongSnapshot(ctx context.Context) (*Snapshot, error) {
	return s.snapshot(ctx, s.long, s.longKept)
}

func (s *Store) snapshot(ctx context.Context, db *sqlx.DB, kept *statements) (*Snapshot, error) {
	tx, err := db.BeginTxx(ctx, &sql.TxOptions{ReadOnly: true})
	if err != nil {
		return nil, fmt.Errorf("reading the book: %w", explain(err))
	}
	run := &prepared{tx: tx, kept: kept}
	return &Snapshot{Reader{run, s.path, s.stands}, run}, nil
}

// Close ends reading.
func (s *Snapshot) Close() error {
	err := ignoreDone(s.run.tx.Rollback())
	if len(s.run.seen) > 0 {
		s.run.kept.learn(context.Background(), s.run.seen)
	}
	return err
}

// Begin begins a change. Others wait until it is kept or left.
func (s *Store) Begin(ctx context.Context) (*Tx, error) {
	tx, err := s.write.BeginTxx(ctx, nil)
	if err != nil {
		return nil, fmt.Errorf("writing to the book: %w", explain(err))
	}
	run := &prepared{tx: tx, kept: s.kept}
	return &Tx{Reader: Reader{run, s.path, &standCache{}}, run: run, ids: map[string]string{}, written: map[string]string{},
		visitOn: map[[2]string]string{},
		away:    s.away, profiles: map[string]int{}, touched: map[string]bool{}}, nil // what it sees is not yet so for others
}

// Commit keeps the change.
func (t *Tx) Commit() error {
	for stand := range t.touched {
		if err := t.exec(context.Background(), "UPDATE stand SET changes = changes + 1 WHERE id = ?", stand); err != nil {
			return err
		}
	}
	if err := t.run.tx.Commit(); err != nil {
		return fmt.Errorf("writing to the book: %w", explain(err))
	}
	if len(t.run.seen) > 0 {
		t.run.kept.learn(context.Background(), t.run.seen)
	}
	return nil
}

// Rollback leaves the change; after Commit it does nothing.
func (t *Tx) Rollback() error { return ignoreDone(t.run.tx.Rollback()) }

// Write makes one change: it is kept if use succeeds.
func (s *Store) Write(ctx context.Context, use func(*Tx) error) error {
	tx, err := s.Begin(ctx)
	if err != nil {
		return err
	}
	if err := use(tx); err != nil {
		return errors.Join(err, tx.Rollback())
	}
	return tx.Commit()
}

// get reads one row into dst.
func (r Reader) get(ctx context.Context, dst any, query string, args ...any) error {
	return explain(sqlx.GetContext(ctx, r.q, dst, query, args...))
}

// all reads every row into dst.
func (r Reader) all(ctx context.Context, dst any, query string, args ...any) error {
	return explain(sqlx.SelectContext(ctx, r.q, dst, query, args...))
}

func (t *Tx) exec(ctx context.Context, query string, args ...any) error {
	if err := ctx.Err(); err != nil {
		return err
	}
	// A statement of a change is short: watching over it would take longer.
	_, err := t.run.ExecContext(context.WithoutCancel(ctx), query, args...)
	return explain(err)
}

// changed runs a statement that must change a row; absent is given where it does
// not.
func (t *Tx) changed(ctx context.Context, absent error, query string, args ...any) error {
	res, err := t.run.ExecContext(ctx, query, args...)
	if err != nil {
		return explain(err)
	}
	if n, err := res.RowsAffected(); err != nil || n == 0 {
		return errors.Join(err, absent)
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
