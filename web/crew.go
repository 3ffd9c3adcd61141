package web

import (
	"context"
	"errors"
	"net"
	"net/http"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"golang.org/x/time/rate"

	"palethicket/book"
)

const (
	cookieName = "palethicket"
	// Wrong sign-ins from one address: a burst, then one in a while.
	signInBurst = 8
	signInEvery = 15 * time.Second
	addressMost = 10000 // addresses kept in mind
)

type whoKey struct{}

// signedIn gives who made the request, or nil on one's own machine.
func signedIn(ctx context.Context) *book.Member {
	a, _ := ctx.Value(whoKey{}).(*book.Member)
	return a
}

// by is who made an entry: the one signed in, else whoever they say they are.
func by(ctx context.Context, says string) string {
	if a := signedIn(ctx); a != nil {
		return a.Name
	}
	return says
}

// guard lets the crew in, each as far as their role goes, where the server is
// reached from beyond its machine.
func (s *Server) guard(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if !strings.HasPrefix(r.URL.Path, "/api/") || r.URL.Path == "/api/session" {
			next.ServeHTTP(w, r)
			return
		}
		cookie, err := r.Cookie(cookieName)
		if err != nil {
			refuse(w, http.StatusUnauthorized, "sign in first")
			return
		}
		who, err := s.book.SignedIn(r.Context(), cookie.Value)
		switch {
		case errors.Is(err, book.ErrSignedOut):
			refuse(w, http.StatusUnauthorized, "you are no longer signed in; sign in again, what you entered is kept on this device")
		case err != nil:
			s.log.Error("looking up a session", "error", err)
			refuse(w, http.StatusInternalServerError, "something went wrong here; nothing was changed")
		case !book.MayDo(who.Role, needed(r)):
			refuse(w, http.StatusForbidden, "this needs the role "+needed(r)+"; you are signed in as "+who.Role)
		default:
			next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), whoKey{}, &who)))
		}
	})
}

// needed is the role a request is for.
func needed(r *http.Request) string {
	switch {
	case r.Method == http.MethodGet || r.Method == http.MethodHead:
		if strings.HasPrefix(r.URL.Path, "/api/crew") {
			return book.Lead
		}
		return book.Reader
	case strings.HasPrefix(r.URL.Path, "/api/trees"),
		strings.HasPrefix(r.URL.Path, "/api/visits"),
		strings.HasPrefix(r.URL.Path, "/api/photos"):
		return book.Observer
	}
	return book.Lead
}

func refuse(w http.ResponseWriter, status int, detail string) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(status)
	// The words are ours and need no escaping.
	_, _ = w.Write([]byte(`{"title": "` + http.StatusText(status) + `", "status": ` + strconv.Itoa(status) + `, "detail": "` + detail + `"}`))
}

// limiter slows down those who try passwords.
type limiter struct {
	mu sync.Mutex
	by map[string]*rate.Limiter
}

func (l *limiter) allow(key string) bool {
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.by == nil || len(l.by) > addressMost {
		l.by = map[string]*rate.Limiter{}
	}
	one := l.by[key]
	if one == nil {
		one = rate.NewLimiter(rate.Every(signInEvery), signInBurst)
		l.by[key] = one
	}
	return one.Allow()
}

// Session is who is signed in, and whether one needs to be.
type Session struct {
	Needed bool   `json:"needed" doc:"One must sign in; not so on one's own machine"`
	Name   string `json:"name"`
	Role   string `json:"role" doc:"Empty: not signed in"`
}

type sessionOut struct {
	SetCookie []http.Cookie `header:"Set-Cookie"`
	Body      Session
}

func (s *Server) crewOperations(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "session", Method: http.MethodGet, Path: "/api/session",
		Summary: "Who is signed in"},
		func(ctx context.Context, in *struct {
			Cookie http.Cookie `cookie:"palethicket"`
		}) (*sessionOut, error) {
			out := Session{Needed: s.guarded, Role: book.Lead}
			if s.guarded {
				who, err := s.book.SignedIn(ctx, in.Cookie.Value)
				if err != nil && !errors.Is(err, book.ErrSignedOut) {
					return nil, s.problem(err)
				}
				out.Name, out.Role = who.Name, who.Role
			}
			return &sessionOut{Body: out}, nil
		})
	huma.Register(api, huma.Operation{OperationID: "sign-in", Method: http.MethodPost, Path: "/api/session",
		Summary: "Sign in"}, s.signIn)
	huma.Register(api, huma.Operation{OperationID: "sign-out", Method: http.MethodDelete, Path: "/api/session",
		Summary: "Sign out"},
		func(ctx context.Context, in *struct {
			Cookie http.Cookie `cookie:"palethicket"`
		}) (*sessionOut, error) {
			if err := s.book.SignOut(ctx, in.Cookie.Value); err != nil {
				return nil, s.problem(err)
			}
			return &sessionOut{SetCookie: []http.Cookie{{Name: cookieName, Path: "/", MaxAge: -1}}, Body: Session{Needed: s.guarded}}, nil
		})
	answer(s, api, operation("list-crew", http.MethodGet, "/api/crew", "The crew"),
		func(ctx context.Context, _ *struct{}) ([]book.Member, error) { return s.book.Crew(ctx) })
	do(s, api, operation("add-member", http.MethodPost, "/api/crew", "Add somebody to the crew"),
		func(ctx context.Context, in *answered[book.NewMember]) error { return s.book.AddMember(ctx, in.Body) })
	do(s, api, operation("change-member", http.MethodPatch, "/api/crew/{name}", "Change somebody's role or password, or close their account"),
		func(ctx context.Context, in *struct {
			Name string `path:"name"`
			Body book.MemberChange
		}) error {
			return s.book.ChangeMember(ctx, in.Name, in.Body)
		})
}

// SignIn is a name and a password.
type SignIn struct {
	Name     string `json:"name" minLength:"1" maxLength:"80"`
	Password string `json:"password" minLength:"1" maxLength:"800"`
}

func (s *Server) signIn(ctx context.Context, in *struct {
	Address fromAddress
	Body    SignIn
}) (*sessionOut, error) {
	if !s.tries.allow(in.Address.host) || !s.tries.allow("name "+strings.ToLower(in.Body.Name)) {
		return nil, huma.Error429TooManyRequests("too many tries; wait a minute and try again")
	}
	token, who, err := s.book.SignIn(ctx, in.Body.Name, in.Body.Password)
	if errors.Is(err, book.ErrWrongPassword) {
		return nil, huma.Error401Unauthorized(err.Error() + "; ask the lead of the crew if you have forgotten it")
	}
	if err != nil {
		return nil, s.problem(err)
	}
	return &sessionOut{Body: Session{Needed: true, Name: who.Name, Role: who.Role},
		SetCookie: []http.Cookie{{Name: cookieName, Value: token, Path: "/", HttpOnly: true, Secure: in.Address.secure,
			SameSite: http.SameSiteStrictMode, MaxAge: int(book.SessionLength.Seconds())}}}, nil
}

// fromAddress is where a request came from.
type fromAddress struct {
	host   string
	secure bool
}

// Resolve reads it off the request.
func (a *fromAddress) Resolve(ctx huma.Context) []error {
	host, _, err := net.SplitHostPort(ctx.RemoteAddr())
	if err != nil {
		host = ctx.RemoteAddr()
	}
	a.host, a.secure = host, ctx.TLS() != nil
	return nil
}
