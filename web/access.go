package web

import (
	"context"
	"errors"
	"fmt"
	"math/bits"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"

	"palethicket/book"
)

// role is the least role that an operation is for.
type role string

const (
	anybody   role = "anybody" // signed in or not
	readers   role = book.Reader
	observers role = book.Observer
	leads     role = book.Lead
)

// scope says which book answers an operation, and who else may ask it. An operation needs
// exactly one of the first three.
type scope uint

const (
	inCheck    scope = 1 << iota // the book of one's check while one checks, else the whole book
	notInCheck                   // the whole book; refused while one checks
	whole                        // the whole book, also while one checks
	onlyHome                     // refused on a device, which has only a part of the book
	byToken                      // a device may ask it with its token: to sync and to score
	heavy                        // it takes much memory or time: see [works]
	upload                       // a large file comes with it
	entries                      // many entries of a device come with it
)

// access is what an operation says of who may ask it.
type access struct {
	role  role
	scope scope
}

const accessKey = "access"

// operation is what every operation says of itself. Its address is its method and path: "GET /api/trees".
func operation(of role, in scope, id, address, summary string) huma.Operation {
	if of == "" || bits.OnesCount(uint(in&(inCheck|notInCheck|whole))) != 1 {
		panic("operation " + id + " does not say who may ask it, or which book answers")
	}
	method, path, _ := strings.Cut(address, " ")
	return huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary,
		Metadata: map[string]any{accessKey: access{of, in}}}
}

type whoKey struct{}

// signedIn gives who made the request, or nil on one's own machine.
func signedIn(ctx context.Context) *book.Member {
	a, _ := ctx.Value(whoKey{}).(*book.Member)
	return a
}

type workKey struct{}

// of gives the book that answers: while somebody checks or walks, that of their check or walk.
func (s *Server) of(ctx context.Context) *book.Book {
	if b, ok := ctx.Value(workKey{}).(*book.Book); ok {
		return b
	}
	return s.book
}

// checking says whether the check of whoever asks answers.
func (s *Server) checking(ctx context.Context) bool {
	who := signedIn(ctx)
	return who != nil && s.book.CheckOf(who.Name) != ""
}

const checkingWords = "you are checking others' names: until the check is finished its trees are all there is; nothing was changed"

// admit is what every operation passes first: who asks, whether they may, and which book answers.
func (s *Server) admit(c huma.Context, next func(huma.Context)) {
	ctx, done, err := s.admitted(c)
	if err != nil {
		_, w := humachi.Unwrap(c)
		refuseWith(w, s.problem(err))
		return
	}
	defer done()
	next(huma.WithContext(c, ctx))
}

// admitted gives the context that an operation runs in, and what to call after it.
func (s *Server) admitted(c huma.Context) (ctx context.Context, done func(), err error) {
	need, ctx := c.Operation().Metadata[accessKey].(access), c.Context()
	if s.away != nil && need.scope&onlyHome != 0 {
		return nil, nil, huma.Error409Conflict("this is not on the device: do it at home, in the whole book")
	}
	if s.guarded && need.role != anybody {
		r, _ := humachi.Unwrap(c)
		who, err := s.whoMay(r, need)
		if err != nil {
			return nil, nil, err
		}
		ctx = book.As(context.WithValue(ctx, whoKey{}, &who), book.Author{Name: who.Name, Role: who.Role})
	}
	rest := func() {}
	if w := s.roomFor(need.scope); w != nil {
		if rest, err = w.begin(ctx, by(ctx, sourceOf(ctx).address), 1); err != nil {
			return nil, nil, err
		}
	}
	work, left, err := s.workOf(ctx, c, need.scope)
	if err != nil {
		rest()
		return nil, nil, err
	}
	if work != nil {
		ctx = context.WithValue(ctx, workKey{}, work)
	}
	return ctx, func() { left(); rest() }, nil
}

// bearer comes before a device's token.
const bearer = "Bearer "

// whoMay finds who a request is of, and refuses those who may not ask.
func (s *Server) whoMay(r *http.Request, need access) (book.Member, error) {
	token, byDevice := strings.CutPrefix(r.Header.Get("Authorization"), bearer)
	who, err := s.whoAsks(r, token, byDevice)
	switch {
	case errors.Is(err, http.ErrNoCookie):
		return who, huma.Error401Unauthorized("sign in first")
	case errors.Is(err, book.ErrSignedOut):
		return who, huma.Error401Unauthorized("you are no longer signed in; sign in again, what you entered is kept on this device")
	case err != nil:
		return who, fmt.Errorf("looking up a session: %w", err)
	case byDevice && need.scope&byToken == 0:
		return who, huma.Error403Forbidden("a device's token is for syncing and scoring; sign in with your password for this")
	case !book.MayDo(who.Role, string(need.role)):
		return who, huma.Error403Forbidden("this needs the role " + string(need.role) + "; you are signed in as " + who.Role)
	}
	return who, nil
}

// whoAsks finds who a request is of: by the token of a device, else by the session of
// a browser. Without either it gives [http.ErrNoCookie].
func (s *Server) whoAsks(r *http.Request, token string, byDevice bool) (book.Member, error) {
	if byDevice {
		return s.book.DeviceOf(r.Context(), token)
	}
	cookie, err := r.Cookie(cookieName)
	if err != nil {
		return book.Member{}, err
	}
	return s.book.SignedIn(r.Context(), cookie.Value)
}

// workOf gives the book that answers, where it is not the whole one, and what to call after.
func (s *Server) workOf(ctx context.Context, c huma.Context, in scope) (work *book.Book, done func(), err error) {
	done = func() {}
	who := signedIn(ctx)
	if who != nil && in&whole == 0 {
		check, left, err := s.book.Checking(ctx, who.Name)
		switch {
		case err != nil:
			return nil, nil, err
		case check != nil && in&notInCheck != 0:
			left()
			return nil, nil, huma.Error409Conflict(checkingWords)
		case check != nil:
			work, done = check, left
		}
	}
	if s.book == nil || !strings.HasPrefix(c.Operation().Path, "/api/trees/{id}") {
		return work, done, nil
	}
	walk, left, err := s.book.Walking(ctx, c.Param("id"), by(ctx, ""), who == nil)
	if err != nil {
		done()
		return nil, nil, err
	}
	if walk == nil {
		return work, done, nil
	}
	done()
	return walk, left, nil
}
