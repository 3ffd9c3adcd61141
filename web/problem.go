package web

import (
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
	"palethicket/core/tree/record"
	"palethicket/store"
)

// problem turns an error into an RFC 9457 problem: what is wrong with what was
// sent names its field; what went wrong here is logged and says so.
func (s *Server) problem(err error) error {
	if err == nil {
		return nil
	}
	var fields record.Errors
	var field *record.FieldError
	var file *book.FileError
	switch {
	case errors.As(err, &file):
		return huma.Error422UnprocessableEntity(err.Error())
	case errors.As(err, &fields):
	case errors.As(err, &field):
		fields = record.Errors{field}
	case errors.Is(err, store.ErrListInUse):
		return huma.Error409Conflict(store.ErrListInUse.Error() + "; rank them among another first, or keep it")
	case errors.Is(err, store.ErrTagTaken):
		return huma.Error409Conflict(store.ErrTagTaken.Error(),
			&huma.ErrorDetail{Location: "body.tag", Message: "choose another tag, or open the tree that has it"})
	case errors.Is(err, store.ErrIDTaken):
		return huma.Error409Conflict(store.ErrIDTaken.Error(),
			&huma.ErrorDetail{Location: "body.id", Message: "make a new ULID for a new entry"})
	case errors.Is(err, store.ErrNameTaken):
		return huma.Error409Conflict(store.ErrNameTaken.Error(), &huma.ErrorDetail{Location: "body.name", Message: "choose another name, as it will stand beside what they enter"})
	case errors.Is(err, store.ErrLastLead):
		return huma.Error409Conflict(store.ErrLastLead.Error() + "; make somebody else a lead first")
	case store.Full(err):
		s.log.Error("the disk is full", "error", err)
		return huma.NewError(http.StatusInsufficientStorage, "the disk that holds the book is full; nothing was changed: make room, then send it again")
	case store.ReadOnly(err):
		s.log.Error("the book cannot be written", "error", err)
		return huma.NewError(http.StatusInsufficientStorage, "the book cannot be written, its file or disk is read-only; nothing was changed")
	case store.Damaged(err):
		s.log.Error("the book is damaged", "error", err)
		return huma.Error500InternalServerError("the book is damaged; nothing was changed: stop the program, leave the file as it is, and restore the latest backup under another name")
	default:
		for _, missing := range []error{store.ErrNoTree, store.ErrNoList, store.ErrNoVisit, store.ErrNoPhoto, store.ErrNoImport, store.ErrNoAccount} {
			if errors.Is(err, missing) {
				return huma.Error404NotFound(missing.Error())
			}
		}
		s.log.Error("request failed", "error", err)
		return huma.Error500InternalServerError("something went wrong here; nothing was changed")
	}
	details := make([]error, len(fields))
	for i, f := range fields {
		details[i] = &huma.ErrorDetail{Location: "body." + f.Field, Message: f.Message}
	}
	return huma.Error422UnprocessableEntity("some of what was sent cannot be kept; nothing was stored", details...)
}
