package store

import (
	"errors"
	"fmt"
	"syscall"
)

// SQLite's result codes that mean something to the book (sqlite.org/rescode.html).
const (
	codeBusy     = 5
	codeLocked   = 6
	codeReadOnly = 8
	codeCorrupt  = 11
	codeFull     = 13
	codeNotADB   = 26

	codePrimaryKey = 1555
	codeUnique     = 2067
)

// Full says whether an error came of a full disk, of the book's or of photographs.
func Full(err error) bool {
	return code(err)&0xff == codeFull || errors.Is(err, syscall.ENOSPC) || errors.Is(err, syscall.EDQUOT)
}

// Busy says whether an error came of a book that another program holds.
func Busy(err error) bool {
	c := code(err) & 0xff
	return c == codeBusy || c == codeLocked
}

// ReadOnly says whether an error came of a book that cannot be written.
func ReadOnly(err error) bool {
	return code(err)&0xff == codeReadOnly || errors.Is(err, syscall.EROFS)
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
	return code(err)&0xff == codeCorrupt || code(err)&0xff == codeNotADB
}

// taken says whether an error came of a line of the same key.
func taken(err error) bool { return code(err) == codeUnique || code(err) == codePrimaryKey }
