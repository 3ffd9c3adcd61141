package store

import (
	"errors"
	"fmt"
	"syscall"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// Full says whether an error came of a full disk, of the book's or of photographs.
func Full(err error) bool {
	return code(err) == sqlite3.SQLITE_FULL || errors.Is(err, syscall.ENOSPC) || errors.Is(err, syscall.EDQUOT)
}

// ReadOnly says whether an error came of a book that cannot be written.
func ReadOnly(err error) bool {
	return code(err) == sqlite3.SQLITE_READONLY || errors.Is(err, syscall.EROFS)
}

// damageWords say in one line what to do about a damaged book.
const damageWords = "the book is damaged, or another kind of file: leave it as it is and restore the latest backup under another name"

// explain adds to an error of a damaged book what to do.
func explain(err error) error {
	if Damaged(err) {
		return fmt.Errorf("%s: %w", damageWords, err)
	}
	return err
}

// Damaged says whether an error came of a damaged book.
func Damaged(err error) bool {
	return code(err) == sqlite3.SQLITE_CORRUPT || code(err) == sqlite3.SQLITE_NOTADB
}

// taken says whether an error came of a line of the same key.
func taken(err error) bool {
	var e *sqlite.Error
	return errors.As(err, &e) && (e.Code() == sqlite3.SQLITE_CONSTRAINT_UNIQUE || e.Code() == sqlite3.SQLITE_CONSTRAINT_PRIMARYKEY)
}

// code is SQLite's primary result code of an error, or 0.
func code(err error) int {
	var e *sqlite.Error
	if errors.As(err, &e) {
		return e.Code() & 0xff
	}
	return 0
}
