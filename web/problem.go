package web

import (
	"errors"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/core/record"
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
	switch {
	case errors.As(err, &fields):
	case errors.As(err, &field):
		fields = record.Errors{field}
	case errors.Is(err, store.ErrNoTree):
		return huma.Error404NotFound(store.ErrNoTree.Error())
	case errors.Is(err, store.ErrNoList):
		return huma.Error404NotFound(store.ErrNoList.Error())
	case errors.Is(err, store.ErrListInUse):
		return huma.Error409Conflict(store.ErrListInUse.Error() + "; rank them among another first, or keep it")
	case errors.Is(err, store.ErrTagTaken):
		return huma.Error409Conflict(store.ErrTagTaken.Error(),
			&huma.ErrorDetail{Location: "body.tag", Message: "choose another tag, or open the tree that has it"})
	case errors.Is(err, store.ErrIDTaken):
		return huma.Error409Conflict(store.ErrIDTaken.Error(),
			&huma.ErrorDetail{Location: "body.id", Message: "make a new ULID for a new entry"})
	default:
		s.log.Error("request failed", "error", err)
		return huma.Error500InternalServerError("something went wrong here; nothing was changed")
	}
	details := make([]error, len(fields))
	for i, f := range fields {
		details[i] = &huma.ErrorDetail{Location: "body." + f.Field, Message: f.Message}
	}
	return huma.Error422UnprocessableEntity("some of what was sent cannot be kept; nothing was stored", details...)
}

// fieldInEntry turns a field of the small record made from an entry into the
// entry's own: looks[0].scores[0].value is score.value.
func fieldInEntry(entry, field string) string {
	if _, rest, ok := strings.Cut(field, "scores[0]"); ok {
		return entry + rest
	}
	if strings.HasPrefix(field, "looks[0]") {
		return entry
	}
	return entry + "." + field
}
