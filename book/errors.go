package book

import (
	"errors"

	"palethicket/core/tree/record"
	"palethicket/store"
)

// Errors that callers tell apart, beside those named where they are given; who gives
// them.
var (
	ErrNoTree    = store.ErrNoTree    // whatever is asked of a tree
	ErrTagTaken  = store.ErrTagTaken  // AddTree, MoveTree
	ErrIDTaken   = store.ErrIDTaken   // AddTree, AddEntry, AddPhoto
	ErrNoVisit   = store.ErrNoVisit   // AddEntry
	ErrNoPhoto   = store.ErrNoPhoto   // PhotoFile, MarkPhoto
	ErrNoImport  = store.ErrNoImport  // UndoImport
	ErrNoAccount = store.ErrNoAccount // ChangeMember
	ErrNameTaken = store.ErrNameTaken // AddMember
	ErrLastLead  = store.ErrLastLead  // AddMember, ChangeMember
	ErrNoDevice  = store.ErrNoDevice  // EndDevice
	ErrNoList    = store.ErrNoList    // DropList, ListFile
	ErrListInUse = store.ErrListInUse // DropList
)

// Unreadable says why a tree cannot be read; whatever is asked of one gives it.
type Unreadable = store.Unreadable

// Full says whether an error came of a full disk.
func Full(err error) bool { return store.Full(err) }

// Busy says whether an error came of a book that another program holds.
func Busy(err error) bool { return store.Busy(err) }

// ReadOnly says whether an error came of a book that cannot be written.
func ReadOnly(err error) bool { return store.ReadOnly(err) }

// Damaged says whether an error came of a damaged book.
func Damaged(err error) bool { return store.Damaged(err) }

// FieldsOf gives what is wrong with the fields of what was sent, if that is what an
// error says.
func FieldsOf(err error) []FieldError {
	var one *FieldError
	var several FieldErrors
	var inRecord *record.FieldError
	var inRecords record.Errors
	switch {
	case errors.As(err, &one):
		return []FieldError{*one}
	case errors.As(err, &several):
		return each(several, func(e *FieldError) FieldError { return *e })
	case errors.As(err, &inRecord):
		return []FieldError{FieldError(*inRecord)}
	case errors.As(err, &inRecords):
		return each(inRecords, func(e *record.FieldError) FieldError { return FieldError(*e) })
	}
	return nil
}
