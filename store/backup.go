//go:build !js

package store

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strings"

	"github.com/jmoiron/sqlx"
)

// Backup writes a whole and tidy copy of the book at from to a new file at to.
// The book may be in use: what was acknowledged before Backup began is in the
// copy. Both are looked over, and to appears only once it is whole.
func Backup(ctx context.Context, from, to string) error {
	if _, err := os.Lstat(to); !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("%s is there already: choose another name, or move it away", to)
	}
	if err := Check(ctx, from); err != nil {
		return err
	}
	part := to + ".part"
	if err := copyBook(ctx, from, part); err != nil {
		return errors.Join(fmt.Errorf("copying %s to %s: %w", from, to, err), discard(part))
	}
	if err := copyPhotos(from, to); err != nil {
		return errors.Join(fmt.Errorf("copying the photographs of %s: %w", from, err), discard(part))
	}
	if err := copyBeside(ctx, from, to); err != nil {
		return errors.Join(fmt.Errorf("copying the checks and walks beside %s: %w", from, err), discard(part))
	}
	if err := os.Rename(part, to); err != nil {
		return errors.Join(fmt.Errorf("naming the copy: %w", err), discard(part))
	}
	return nil
}

// Restore makes a new book at to of the backup at from, and brings its tables
// up to date. It never writes over a book that is there.
func Restore(ctx context.Context, from, to string) error {
	for _, beside := range []string{to, to + "-wal"} {
		if _, err := os.Lstat(beside); !errors.Is(err, fs.ErrNotExist) {
			return fmt.Errorf("%s is there already: stop the program that uses it and move it away first", beside)
		}
	}
	if err := Backup(ctx, from, to); err != nil {
		return err
	}
	book, err := Open(ctx, to)
	if err != nil {
		return err
	}
	return book.Close()
}

// Check says what is wrong with the book at path, or nil: every page, index and
// reference in it is looked over. The book may be in use.
func Check(ctx context.Context, path string) error {
	db, err := openForReading(ctx, path)
	if err != nil {
		return err
	}
	found, err := faults(ctx, db, path)
	if err := errors.Join(err, db.Close()); err != nil {
		return fmt.Errorf("%s cannot be read as a book: it is another kind of file, or damaged; "+
			"leave it as it is and restore the latest backup under another name: %w", path, err)
	}
	if len(found) > 0 {
		return fmt.Errorf("%s is damaged: leave it as it is and restore the latest backup under another name: %s",
			path, strings.Join(found, "; "))
	}
	return nil
}

// checkPart looks a copy over whose photographs are not beside it yet.
func checkPart(ctx context.Context, path string) error {
	db, err := openForReading(ctx, path)
	if err != nil {
		return err
	}
	var lines []string
	err = db.SelectContext(ctx, &lines, "PRAGMA integrity_check(10)")
	if err := errors.Join(err, db.Close()); err != nil {
		return err
	}
	if len(lines) != 1 || lines[0] != "ok" {
		return fmt.Errorf("the copy is not whole: %s", strings.Join(lines, "; "))
	}
	return nil
}

// faults lists what SQLite's own checks find. Without the trees' table it is
// somebody else's database.
func faults(ctx context.Context, db *sqlx.DB, book string) (found []string, err error) {
	if _, err := db.ExecContext(ctx, "SELECT id FROM tree LIMIT 1"); err != nil {
		return nil, err
	}
	var lines []string
	if err := db.SelectContext(ctx, &lines, "PRAGMA integrity_check(10)"); err != nil {
		return nil, err
	}
	for _, line := range lines {
		if line != "ok" {
			found = append(found, line)
		}
	}
	var lost int
	if err := db.GetContext(ctx, &lost, "SELECT count(*) FROM pragma_foreign_key_check"); err != nil {
		return nil, err
	}
	if lost > 0 {
		found = append(found, fmt.Sprintf("%d lines refer to something that is not there", lost))
	}
	var photos int
	if err := db.GetContext(ctx, &photos, "SELECT count(*) FROM sqlite_schema WHERE name = 'photo'"); err != nil || photos == 0 {
		return found, err // a book from before there were photographs
	}
	lost, damaged, err := lostPhotos(ctx, db, book)
	if err != nil {
		return nil, err
	}
	if lost > 0 {
		found = append(found, fmt.Sprintf("%d files of photographs are missing from %s; send them again", lost, photoDir(book)))
	}
	if damaged > 0 {
		found = append(found, fmt.Sprintf("%d photographs in %s are damaged; send them again", damaged, photoDir(book)))
	}
	return found, nil
}

// beside are the folders of books that are worked in beside a book: checks that go on, and walks.
var beside = []string{"checks", "walks"}

// copyBeside copies the books that lie beside one, with their photographs.
func copyBeside(ctx context.Context, from, to string) error {
	for _, folder := range beside {
		books, err := filepath.Glob(filepath.Join(from+"."+folder, "*.db"))
		if err != nil {
			return err
		}
		for _, book := range books {
			copied := filepath.Join(to+"."+folder, filepath.Base(book))
			if err := os.MkdirAll(filepath.Dir(copied), 0o700); err != nil {
				return err
			}
			if err := errors.Join(copyBook(ctx, book, copied), copyPhotos(book, copied)); err != nil {
				return err
			}
		}
	}
	return nil
}

// copyBook writes a copy of the book, looks it over and sees it to the disk.
func copyBook(ctx context.Context, from, to string) error {
	if err := discard(to); err != nil { // left by a copy that was cut short
		return err
	}
	db, err := openForReading(ctx, from)
	if err != nil {
		return err
	}
	_, err = db.ExecContext(ctx, "VACUUM INTO ?", to)
	if err := errors.Join(err, db.Close()); err != nil {
		return err
	}
	if err := otherNode(ctx, to); err != nil {
		return err
	}
	if err := checkPart(ctx, to); err != nil {
		return err
	}
	f, err := os.OpenFile(to, os.O_RDWR, 0)
	if err != nil {
		return err
	}
	return errors.Join(f.Sync(), f.Close())
}

// otherNode has a copy go by another name in stamps than the book it is of, and be open nowhere.
func otherNode(ctx context.Context, path string) error {
	db, err := sqlx.Open(driverName, (&url.URL{Scheme: "file", Path: path}).String())
	if err != nil {
		return err
	}
	var settings int
	err = db.GetContext(ctx, &settings, "SELECT count(*) FROM sqlite_schema WHERE name = 'setting'")
	if err == nil && settings > 0 {
		_, err = db.ExecContext(ctx, "DELETE FROM setting WHERE name = ? OR name LIKE ? || '%'", nodeSetting, openMark)
	}
	return errors.Join(err, db.Close())
}

// discard removes a file if it is there.
func discard(path string) error {
	if err := os.Remove(path); !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	return nil
}
