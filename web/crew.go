package web

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/away"
	"palethicket/book"
)

const cookieName = "palethicket"

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

// own refuses an entry that somebody made other than the one signed in: it waits on its
// device until they sign in there, and nobody else's name is put on it.
func own(ctx context.Context, says string) error {
	if a := signedIn(ctx); a != nil && says != "" && says != a.Name {
		return huma.Error401Unauthorized(
			fmt.Sprintf("%q made this, and %q is signed in; it waits until %q signs in here", says, a.Name, says),
		)
	}
	return nil
}

// guard lets the crew in, each as far as their role goes, where the server is
// reached from beyond its machine.
func (s *Server) guard(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if !strings.HasPrefix(r.URL.Path, "/api/") || r.URL.Path == "/api/session" || r.URL.Path == "/api/program" {
			next.ServeHTTP(w, r)
			return
		}
		who, err := s.whoAsks(r)
		switch {
		case errors.Is(err, http.ErrNoCookie):
			refuse(w, http.StatusUnauthorized, "sign in first")
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

// whoAsks finds who a request is of: by the token of a device, else by the session of
// a browser. Without either it gives [http.ErrNoCookie].
func (s *Server) whoAsks(r *http.Request) (book.Member, error) {
	if token, ok := strings.CutPrefix(r.Header.Get("Authorization"), "Bearer "); ok {
		return s.book.DeviceOf(r.Context(), token)
	}
	cookie, err := r.Cookie(cookieName)
	if err != nil {
		return book.Member{}, err
	}
	return s.book.SignedIn(r.Context(), cookie.Value)
}

// needed is the role a request is for.
func needed(r *http.Request) string {
	switch {
	case r.Method == http.MethodGet || r.Method == http.MethodHead:
		if strings.HasPrefix(r.URL.Path, "/api/crew") || r.URL.Path == "/api/practice/shared" ||
			strings.HasPrefix(r.URL.Path, "/api/devices") {
			return book.Lead
		}
		return book.Reader
	case strings.HasPrefix(r.URL.Path, "/api/trees"),
		strings.HasPrefix(r.URL.Path, "/api/visits"),
		r.URL.Path == "/api/plots",
		strings.HasPrefix(r.URL.Path, "/api/photos"),
		strings.HasPrefix(r.URL.Path, "/api/meeting"):
		return book.Observer
	case strings.HasPrefix(r.URL.Path, "/api/checks/") && strings.HasSuffix(r.URL.Path, "/finish"):
		return book.Observer
	case r.URL.Path == "/api/devices", r.URL.Path == "/api/sums", r.URL.Path == "/api/marks", // nothing is kept
		strings.HasPrefix(r.URL.Path, "/api/away"),
		strings.HasPrefix(r.URL.Path, "/api/practice"): // for oneself
		return book.Reader
	}
	return book.Lead
}

// Session is who is signed in, and whether one needs to be.
type Session struct {
	Needed bool   `json:"needed" doc:"One must sign in; not so on one's own machine"`
	Name   string `json:"name"`
	Role   string `json:"role" doc:"Empty: not signed in"`
	// Checking tells the page to show that check's trees and nothing kept from before.
	Checking string `json:"checking" doc:"The check cruise that one is at; empty: none"`
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
				out.Name, out.Role, out.Checking = who.Name, who.Role, s.book.CheckOf(who.Name)
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
	do(
		s,
		api,
		operation("change-member", http.MethodPatch, "/api/crew/{name}", "Change somebody's role or password, or close their account"),
		func(ctx context.Context, in *struct {
			Name string `path:"name"`
			Body book.MemberChange
		}) error {
			return s.book.ChangeMember(ctx, in.Name, in.Body)
		},
	)
}

// meetingOperations let books meet, and devices in.
func (s *Server) meetingOperations(api huma.API) {
	meet := operation("meet", http.MethodPost, "/api/meeting", "Tell the book entries made elsewhere; each is answered")
	meet.MaxBodyBytes, meet.BodyReadTimeout = meetingBytes, uploadTime
	answer(s, api, meet, func(ctx context.Context, in *answered[book.Meeting]) ([]book.Met, error) {
		name := ""
		if who := signedIn(ctx); who != nil {
			name = who.Name
		}
		return s.of(ctx).Meet(ctx, &in.Body, name)
	})
	answer(s, api, operation("changes", http.MethodGet, "/api/changes", "What the book got after its running number"),
		func(ctx context.Context, in *struct {
			After int      `query:"after" minimum:"0" doc:"The last number of the answer before; absent: all"`
			Heard string   `query:"heard" maxLength:"26" doc:"The id that came with that number"`
			Tract []string `query:"tract,explode" maxItems:"100" doc:"Absent: of every tract"`
		}) (*book.Changes, error) {
			return s.of(ctx).Changes(ctx, in.After, in.Heard, in.Tract)
		})
	answer(s, api, operation("tree-log", http.MethodGet, "/api/trees/{id}/log", "A whole tree as its entries"),
		func(ctx context.Context, in *TreePath) (*book.Changes, error) {
			return s.of(ctx).TreeChanges(ctx, in.ID)
		})
	answer(s, api, operation("list-devices", http.MethodGet, "/api/devices", "Devices that may send for one of the crew"),
		func(ctx context.Context, _ *struct{}) ([]book.Device, error) { return s.book.Devices(ctx) })
	answer(s, api, operation("add-device", http.MethodPost, "/api/devices", "Give a device a token of who is signed in; it is shown once"),
		func(ctx context.Context, in *answered[book.NewDevice]) (*book.Token, error) {
			who := signedIn(ctx)
			if who == nil {
				return nil, book.ErrNobody
			}
			return s.book.AddDevice(ctx, *who, in.Body.Name)
		})
	do(s, api, operation("end-device", http.MethodDelete, "/api/devices/{id}", "End a device's token; what it has not sent stays on it"),
		func(ctx context.Context, in *struct {
			ID string `path:"id"`
		}) error {
			return s.book.EndDevice(ctx, in.ID)
		})
}

// meetingBytes is how large what is told at once may be.
const meetingBytes = 16 << 20

// SignIn is a name and a password.
type SignIn struct {
	Name     string `json:"name" minLength:"1" maxLength:"80"`
	Password string `json:"password" minLength:"1" maxLength:"800"`
}

func (s *Server) signIn(ctx context.Context, in *answered[SignIn]) (*sessionOut, error) {
	token, who, err := s.tryToSignIn(ctx, &in.Body, s.signInHere)
	if err != nil {
		return nil, err
	}
	return &sessionOut{Body: Session{Needed: true, Name: who.Name, Role: who.Role, Checking: s.book.CheckOf(who.Name)},
		SetCookie: []http.Cookie{{Name: cookieName, Value: token, Path: "/", HttpOnly: true, Secure: sourceOf(ctx).secure,
			SameSite: http.SameSiteStrictMode, MaxAge: int(book.SessionLength.Seconds())}}}, nil
}

// signInHere signs in to the book; on a device somebody whom it does not know signs in at
// home first.
func (s *Server) signInHere(ctx context.Context, name, password string) (string, book.Member, error) {
	token, who, err := s.book.SignIn(ctx, name, password)
	if s.away == nil || !errors.Is(err, book.ErrWrongPassword) {
		return token, who, err
	}
	if err := s.away.SignIn(ctx, name, password); errors.Is(err, away.ErrOutOfReach) {
		return "", who, huma.Error409Conflict(err.Error())
	} else if err != nil {
		return "", who, err
	}
	return s.book.SignIn(ctx, name, password)
}

// tryToSignIn lets somebody try a password, more slowly the more wrong ones there were.
func (s *Server) tryToSignIn(
	ctx context.Context,
	in *SignIn,
	try func(ctx context.Context, name, password string) (string, book.Member, error),
) (
	token string, who book.Member, err error,
) {
	address, account := sourceOf(ctx).address, book.AccountKey(in.Name)
	wait, ok := s.tries.begin(address, account, s.now())
	if !ok {
		seconds := strconv.Itoa(int(wait.Seconds()) + 1)
		err := huma.Error429TooManyRequests("too many wrong tries from here; wait " + seconds + " seconds and try again")
		return "", who, huma.ErrorWithHeaders(err, http.Header{"Retry-After": {seconds}})
	}
	select {
	case <-time.After(wait):
		token, who, err = try(ctx, in.Name, in.Password)
	case <-ctx.Done():
		err = ctx.Err()
	}
	wrong := errors.Is(err, book.ErrWrongPassword)
	s.tries.end(address, account, wrong, s.now())
	if wrong {
		return "", who, huma.Error401Unauthorized(err.Error() + "; ask the lead of the crew if you have forgotten it")
	}
	return token, who, s.problem(err)
}
