package store

import (
	"errors"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// Full says whether an error came of a full disk.
func Full(err error) bool { return code(err) == sqlite3.SQLITE_FULL }

// ReadOnly says whether an error came of a book that cannot be written.
func ReadOnly(err error) bool { return code(err) == sqlite3.SQLITE_READONLY }

// Damaged says whether an error came of a damaged book.
func Damaged(err error) bool {
	return code(err) == sqlite3.SQLITE_CORRUPT || code(err) == sqlite3.SQLITE_NOTADB
}

// code is SQLite's primary result code of an error, or 0.
func code(err error) int {
	var e *sqlite.Error
	if errors.As(err, &e) {
		return e.Code() & 0xff
	}
	return 0
}
