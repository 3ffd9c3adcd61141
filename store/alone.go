package store

import (
	"context"
	"errors"
	"fmt"
	"net/url"
	"os"
	"path/filepath"

	"github.com/jmoiron/sqlx"
)

// Peek reads a setting of the book at path without bringing it up to date; "" where
// there is no book, or one from before it had settings.
func Peek(ctx context.Context, path, setting string) (value string, err error) {
	if info, err := os.Stat(path); err != nil || info.IsDir() {
		return "", nil // who opens the book says what is wrong
	}
	err = ReadAlone(ctx, path, func(r Reader) error {
		value, err = r.Setting(ctx, setting)
		return err
	})
	if errors.Is(err, ErrOlder) {
		return "", nil
	}
	return value, err
}

// ErrOlder is given by [ReadAlone] for a book from an older program, which is read
// once it was opened.
var ErrOlder = errors.New("the book is from an older program")

// ReadAlone hands on a reader of the book at path, which may be in use, or a backup;
// nothing in it is changed.
func ReadAlone(ctx context.Context, path string, use func(Reader) error) (err error) {
	db, err := openForReading(ctx, path)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	var columns int
	if err := db.GetContext(ctx, &columns, "SELECT count(*) FROM pragma_table_info('entry') WHERE name = 'stamp'"); err != nil {
		return explain(err)
	}
	if columns == 0 {
		return ErrOlder
	}
	return use(Reader{db, path, &standCache{}})
}

// TreeIDs lists every tree.
func (r Reader) TreeIDs(ctx context.Context) (ids []string, err error) {
	err = r.all(ctx, &ids, "SELECT id FROM tree ORDER BY id")
	return ids, err
}

// openMark begins the names of the settings that mark a book, one of each program that has it open.
const openMark = "open "

// ErrNoWAL is given by [Open] for a book whose file -wal was taken away.
var ErrNoWAL = errors.New("the book was not closed, and its file -wal, which holds what was entered last, is not beside it")

// ErrNotOurs is given for another program's database.
var ErrNotOurs = errors.New("this is another program's database; it was left as it is: name another file for the book")

// ours refuses a database that is no book before anything of it is changed. A file that cannot be
// read is left to who opens it.
func ours(ctx context.Context, path string) (err error) {
	if _, err := os.Stat(path); err != nil {
		return nil
	}
	db, err := openForReading(ctx, path)
	if errors.Is(err, ErrNoWAL) {
		return err
	}
	if err != nil {
		return nil
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	var is struct {
		Tables int `db:"tables"`
		Steps  int `db:"steps"`
		Trees  int `db:"trees"`
	}
	err = db.GetContext(ctx, &is, `SELECT count(*) AS tables, coalesce(sum(name = 'goose_db_version'), 0) AS steps,
		coalesce(sum(name = 'tree'), 0) AS trees FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`)
	if err == nil && is.Tables > is.Steps && is.Trees == 0 {
		return fmt.Errorf("%s: %w", path, ErrNotOurs)
	}
	return nil
}

func openForReading(ctx context.Context, path string) (*sqlx.DB, error) {
	if _, err := os.Stat(path); errors.Is(err, os.ErrNotExist) {
		return nil, fmt.Errorf("there is no book at %s: %w", path, os.ErrNotExist)
	} else if err != nil {
		return nil, fmt.Errorf("looking for the book: %w", err)
	}
	abs, err := filepath.Abs(path)
	if err != nil {
		return nil, fmt.Errorf("finding %s: %w", path, err)
	}
	query, err := readOnly(abs)
	if err != nil {
		return nil, err
	}
	had := walThere(path)
	db, err := sqlx.Open(driverName, (&url.URL{Scheme: "file", Path: abs, RawQuery: query}).String())
	if err != nil {
		return nil, err
	}
	if err := walGone(ctx, db, path, had); errors.Is(err, ErrNoWAL) {
		err = errors.Join(err, db.Close())
		_ = os.Remove(path + "-wal") // reading made it
		return nil, err
	}
	return db, nil // what else is wrong is found by who reads
}

// readOnly says how a book is opened for reading. SQLite keeps files beside a book that
// is read; where it cannot, the book is read as one that nobody changes, unless what
// was written last lies beside it and would be missed.
func readOnly(path string) (query string, err error) {
	const beside = "mode=ro&_pragma=busy_timeout(5000)"
	if mayWrite(filepath.Dir(path)) {
		return beside, nil
	}
	if info, err := os.Stat(path + "-wal"); err == nil && info.Size() > 0 {
		return "", fmt.Errorf("%s lies where nothing can be written, and what was entered last is still in %s-wal beside it: "+
			"copy both to a disk that can be written, and name the copy", path, filepath.Base(path))
	}
	return "mode=ro&immutable=1", nil
}

// mayWrite says whether files can be made in a folder.
var mayWrite = func(dir string) bool {
	probe, err := os.CreateTemp(dir, ".palethicket-")
	if err != nil {
		return false
	}
	return errors.Join(probe.Close(), os.Remove(probe.Name())) == nil
}
