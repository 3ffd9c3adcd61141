//go:build !js

package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"
)

// While a program has a book open, what was entered last lies in the file -wal beside it. The
// program marks the book while it is open: a book that is marked and has no such file beside it
// lost what was entered last.

// walThere says whether the file lies beside the book at path.
func walThere(path string) bool {
	_, err := os.Stat(path + "-wal")
	return err == nil
}

// marksOf gives the marks of the book that db is of.
func marksOf(ctx context.Context, db *sqlx.DB) (marks []string, err error) {
	var known int
	if err := db.GetContext(ctx, &known, "SELECT count(*) FROM sqlite_schema WHERE name = 'setting'"); err != nil || known == 0 {
		return nil, err
	}
	return marks, db.SelectContext(ctx, &marks, "SELECT name FROM setting WHERE name LIKE ? || '%'", openMark)
}

// walGone gives [ErrNoWAL] where the book's marks say that a file -wal should lie beside it; had says whether
// it did before the book was looked at, which makes one.
func walGone(ctx context.Context, db *sqlx.DB, path string, had bool) error {
	if had {
		return nil
	}
	marks, err := marksOf(ctx, db)
	if err != nil || len(marks) == 0 {
		return err
	}
	return fmt.Errorf("%s: %w: put %s-wal back beside it; if it is lost, run palethicket check --without-wal, and go on without that",
		path, ErrNoWAL, filepath.Base(path))
}

// ForgetWAL has the book at path opened again though its file -wal is lost. Of one that has the file, or that is
// not there, nothing is changed.
func ForgetWAL(ctx context.Context, path string) error {
	if _, err := os.Stat(path); err != nil || walThere(path) {
		return nil // who opens the book says what is wrong
	}
	return dropMarks(ctx, path, func(db *sqlx.DB) ([]string, error) { return marksOf(ctx, db) })
}

// mark marks the book while this program has it open, in the book's own file.
func (s *Store) mark(ctx context.Context) (err error) {
	if s.before, err = marksOf(ctx, s.write); err != nil {
		return err
	}
	mark := openMark + ulid.Make().String()
	if err := s.Write(ctx, func(tx *Tx) error { return tx.PutSetting(ctx, mark, "") }); err != nil {
		return err
	}
	s.marked = mark
	_, err = s.write.ExecContext(ctx, "PRAGMA wal_checkpoint(PASSIVE)")
	return err
}

// unmark takes the marks away: this program's before the book is closed, and by what it gives, once it is closed,
// those of programs that were ended before they closed it. Had one of them still been running, the file -wal
// would lie there. Where that fails, as on a full disk, an empty one is left, for nothing was lost.
func (s *Store) unmark() (closed func() error) {
	if s.marked == "" {
		return func() error { return nil }
	}
	_, err := s.write.Exec("DELETE FROM setting WHERE name = ?", s.marked)
	return func() error {
		if walThere(s.path) {
			return nil
		}
		if err == nil && len(s.before) > 0 {
			err = dropMarks(context.Background(), s.path, func(*sqlx.DB) ([]string, error) { return s.before, nil })
		}
		if err == nil || walThere(s.path) {
			return nil
		}
		return os.WriteFile(s.path+"-wal", nil, 0o600)
	}
}

// dropMarks takes marks away from the book at path, which is open nowhere.
func dropMarks(ctx context.Context, path string, which func(*sqlx.DB) ([]string, error)) error {
	db, err := connect(path, 1, nil)
	if err != nil {
		return err
	}
	marks, err := which(db)
	for _, mark := range marks {
		if err == nil {
			_, err = db.ExecContext(ctx, "DELETE FROM setting WHERE name = ?", mark)
		}
	}
	return errors.Join(err, db.Close())
}
