package web

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"net/http"
	"runtime/debug"

	"github.com/danielgtaylor/huma/v2"
	"github.com/oklog/ulid/v2"

	"palethicket/book"
	"palethicket/report"
)

// conflicts are errors that say something is there already, and what to do about each.
var conflicts = []struct {
	err     error
	advice  string
	details []error
}{
	{book.ErrListInUse, "; rank them among another first, or keep it", nil},
	{book.ErrOtherShape, "", nil},
	{book.ErrNobody, "", nil},
	{book.ErrNoPlaces, "", nil},
	{book.ErrWalked, "", nil},
	{book.ErrWalking, "", nil},
	{book.ErrTooFew, "", nil},
	{book.ErrNothingDrawn, "", nil},
	{book.ErrNothingGrows, "", nil},
	{book.ErrCrewsDeck, "", nil},
	{book.ErrChecking, "", nil},
	{book.ErrNothingToName, "", nil},
	{book.ErrNotBlind, "", nil},
	{book.ErrNotYours, "", nil},
	{book.ErrLastLead, "; make somebody else a lead first", nil},
	{book.ErrTagTaken, "", []error{&huma.ErrorDetail{Location: "body.tag", Message: "choose another tag, or open the tree that has it"}}},
	{book.ErrIDTaken, "", []error{&huma.ErrorDetail{Location: "body.id", Message: "make a new ULID for a new entry"}}},
	{
		book.ErrNameTaken,
		"",
		[]error{&huma.ErrorDetail{Location: "body.name", Message: "choose another name, as it will stand beside what they enter"}},
	},
}

// absences are errors that say something is not there.
var absences = []error{book.ErrNoTree, book.ErrNoList, book.ErrNoVisit, book.ErrNoPhoto, book.ErrNoImport, book.ErrNoAccount,
	book.ErrFileGone, book.ErrNoDevice, book.ErrNoPlace, book.ErrNoTaxon, book.ErrNoCharacter,
	book.ErrNoFormat, book.ErrNoPlate, book.ErrNotAsked,
	book.ErrNoCheck, book.ErrNoDeck, book.ErrNoWalk}

// statusLeft is what is logged for a client that left; nobody receives it.
const statusLeft = 499

// problem turns an error into an RFC 9457 problem: what is wrong with what was
// sent names its field; what went wrong here is logged and says so.
func (s *Server) problem(err error) error {
	if err == nil {
		return nil
	}
	if fields := book.FieldsOf(err); fields != nil {
		details := make([]error, len(fields))
		for i, f := range fields {
			details[i] = &huma.ErrorDetail{Location: "body." + f.Field, Message: f.Message}
		}
		return huma.Error422UnprocessableEntity("some of what was sent cannot be kept; nothing was stored", details...)
	}
	var said huma.StatusError
	var file *book.FileError
	var unreadable *book.Unreadable
	var unprintable report.Refusal
	switch {
	case errors.Is(err, context.Canceled), errors.Is(err, context.DeadlineExceeded):
		return huma.NewError(statusLeft, "whoever asked left before the answer")
	case errors.As(err, &said):
		return err // with its headers
	case errors.As(err, &file):
		return huma.Error422UnprocessableEntity(file.Error())
	case errors.As(err, &unprintable):
		return huma.Error422UnprocessableEntity(unprintable.Error())
	case errors.As(err, &unreadable):
		return huma.Error422UnprocessableEntity(unreadable.Error() + "; its story shows what is in it")
	}
	if errors.Is(err, book.ErrMayNot) {
		return huma.Error403Forbidden(err.Error())
	}
	for _, c := range conflicts {
		if errors.Is(err, c.err) {
			return huma.Error409Conflict(c.err.Error()+c.advice, c.details...)
		}
	}
	for _, absent := range absences {
		if errors.Is(err, absent) {
			return huma.Error404NotFound(absent.Error())
		}
	}
	return s.failed(err)
}

// refuse answers a request that no operation takes.
func refuse(w http.ResponseWriter, status int, detail string) {
	refuseWith(w, huma.NewError(status, detail))
}

// nothingTo answers a request with a method that its address does not have.
func nothingTo(w http.ResponseWriter, r *http.Request) {
	refuse(w, http.StatusMethodNotAllowed, "there is nothing to "+r.Method+" at this address")
}

func refuseWith(w http.ResponseWriter, err error) {
	problem := &huma.ErrorModel{Status: http.StatusInternalServerError, Detail: "something went wrong here; nothing was changed"}
	errors.As(err, &problem)
	var more huma.HeadersError
	if errors.As(err, &more) {
		maps.Copy(w.Header(), more.GetHeaders())
	}
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(problem.Status)
	_ = json.NewEncoder(w).Encode(problem) // who asked may have left
}

// failed says what went wrong here, and logs it.
func (s *Server) failed(err error) error {
	switch {
	case book.Full(err):
		s.log.Error("the disk is full", "error", err)
		says := "the disk that holds the book is full; nothing was changed: make room, then send it again"
		if s.away != nil {
			says = "this device is full; nothing was changed. Make room: delete other files or apps on it, or download fewer tracts, without " +
				"whole photographs. Then try again"
		}
		return huma.NewError(http.StatusInsufficientStorage, says)
	case book.Busy(err):
		s.log.Error("another program holds the book", "error", err)
		return huma.ErrorWithHeaders(huma.Error503ServiceUnavailable("another program holds the book; nothing was changed: try again in a while"),
			http.Header{"Retry-After": {"10"}})
	case book.ReadOnly(err):
		s.log.Error("the book cannot be written", "error", err)
		return huma.NewError(
			http.StatusInsufficientStorage,
			"the book cannot be written, its file or disk is read-only; nothing was changed",
		)
	case book.Damaged(err):
		s.log.Error("the book is damaged", "error", err)
		return huma.Error500InternalServerError(
			"the book is damaged; nothing was changed: stop the program, leave the file as it is, and restore the latest backup under another name",
		)
	}
	return s.unexpected(err)
}

// unexpected logs what nobody foresaw, under an id that the answer gives too.
func (s *Server) unexpected(err any) error {
	id := ulid.Make().String()
	s.log.Error("request failed", "error", err, "id", id)
	return &huma.ErrorModel{Status: http.StatusInternalServerError, Title: http.StatusText(http.StatusInternalServerError),
		Detail: "something went wrong here; nothing was changed. The server's log says more under " + id, Instance: "urn:ulid:" + id}
}

// recovering answers for what panics, so that no answer is empty.
func (s *Server) recovering(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			switch err := recover(); err {
			case nil:
			case http.ErrAbortHandler: // an answer that is broken off on purpose
				panic(err)
			default:
				refuseWith(w, s.unexpected(fmt.Sprintf("%v\n%s", err, debug.Stack())))
			}
		}()
		next.ServeHTTP(w, r)
	})
}
