package web

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/away"
	"palethicket/book"
)

const cookieName = "palethicket"

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
	huma.Register(api, operation(anybody, whole, "session", "GET /api/session", "Who is signed in"),
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
	huma.Register(api, operation(anybody, whole, "sign-in", "POST /api/session", "Sign in"), s.signIn)
	huma.Register(api, operation(anybody, whole, "sign-out", "DELETE /api/session", "Sign out"),
		func(ctx context.Context, in *struct {
			Cookie http.Cookie `cookie:"palethicket"`
		}) (*sessionOut, error) {
			if err := s.book.SignOut(ctx, in.Cookie.Value); err != nil {
				return nil, s.problem(err)
			}
			if s.away != nil {
				s.away.SignOut(ctx)
			}
			return &sessionOut{SetCookie: []http.Cookie{{Name: cookieName, Path: "/", MaxAge: -1}}, Body: Session{Needed: s.guarded}}, nil
		})
	answer(s, api, operation(leads, whole|onlyHome, "list-crew", "GET /api/crew", "The crew"),
		func(ctx context.Context, _ *struct{}) ([]book.Member, error) { return s.book.Crew(ctx) })
	do(s, api, operation(leads, whole|onlyHome, "add-member", "POST /api/crew", "Add somebody to the crew"),
		func(ctx context.Context, in *answered[book.NewMember]) error { return s.book.AddMember(ctx, in.Body) })
	do(
		s,
		api,
		operation(leads, whole|onlyHome, "change-member",
			"PATCH /api/crew/{name}", "Change somebody's role or password, or close their account"),
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
	meet := operation(observers, inCheck|onlyHome|byToken|entries, "meet",
		"POST /api/meeting", "Tell the book entries made elsewhere; each is answered")
	meet.MaxBodyBytes, meet.BodyReadTimeout = meetingBytes, uploadTime
	answer(s, api, meet, func(ctx context.Context, in *answered[book.Meeting]) ([]book.Met, error) {
		name := ""
		if who := signedIn(ctx); who != nil && !(in.Body.Again && who.Role == book.Lead) {
			name = who.Name
		}
		return s.of(ctx).Meet(ctx, &in.Body, name)
	})
	answer(s, api, operation(readers, inCheck|onlyHome|byToken, "changes",
		"GET /api/changes", "What the book got after its running number"),
		func(ctx context.Context, in *struct {
			After int      `query:"after" minimum:"0" doc:"The last number of the answer before; absent: all"`
			Heard string   `query:"heard" maxLength:"26" doc:"The id that came with that number"`
			Tract []string `query:"tract,explode" maxItems:"100" doc:"Absent: of every tract"`
			Holds int      `query:"holds" minimum:"0" doc:"Of a device: how many entries and photographs it has that the book does not"`
			Token string   `header:"Authorization"`
		}) (*book.Changes, error) {
			if token, ok := strings.CutPrefix(in.Token, bearer); ok {
				if err := s.book.DeviceMet(ctx, token, in.Holds); err != nil {
					s.log.Warn("noting that a device was heard of", "error", err) // what it asks for it gets all the same
				}
			}
			return s.of(ctx).Changes(ctx, in.After, in.Heard, in.Tract)
		})
	answer(s, api, operation(readers, inCheck|byToken, "tree-log", "GET /api/trees/{id}/log", "A whole tree as its entries"),
		func(ctx context.Context, in *TreePath) (*book.Changes, error) {
			return s.of(ctx).TreeChanges(ctx, in.ID)
		})
	answer(s, api, operation(readers, whole|onlyHome, "list-devices",
		"GET /api/devices", "Devices that may send for one of the crew: one's own or, to a lead, everybody's"),
		func(ctx context.Context, _ *struct{}) ([]book.Device, error) {
			return s.book.Devices(ctx, ownOnly(ctx))
		})
	answer(s, api, operation(readers, whole|onlyHome, "add-device",
		"POST /api/devices", "Give a device a token of who is signed in; it is shown once"),
		func(ctx context.Context, in *answered[book.NewDevice]) (*book.Token, error) {
			who := signedIn(ctx)
			if who == nil {
				return nil, book.ErrNobody
			}
			return s.book.AddDevice(ctx, *who, in.Body.Name)
		})
	do(s, api, operation(readers, whole|onlyHome, "end-device",
		"DELETE /api/devices/{id}", "End a device's token, one's own or, as a lead, anybody's; what it has not sent stays on it"),
		func(ctx context.Context, in *struct {
			ID string `path:"id"`
		}) error {
			return s.book.EndDevice(ctx, in.ID, ownOnly(ctx))
		})
}

// ownOnly is the account of whoever is signed in, if they see to their own devices alone.
func ownOnly(ctx context.Context) string {
	if who := signedIn(ctx); who != nil && who.Role != book.Lead {
		return who.ID
	}
	return ""
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

// signInHere signs in to the book. On a device home is asked first, which knows who may, and
// gives the device a fresh token; without a connection the device knows who signed in there before.
func (s *Server) signInHere(ctx context.Context, name, password string) (token string, who book.Member, err error) {
	var far error
	if s.away != nil {
		if far = s.away.SignIn(ctx, name, password); far != nil && !errors.Is(far, away.ErrOutOfReach) {
			return "", who, far
		}
	}
	token, who, err = s.book.SignIn(ctx, name, password)
	if far != nil && errors.Is(err, book.ErrWrongPassword) {
		return "", who, huma.Error409Conflict(far.Error())
	}
	return token, who, err
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
	ok, err := s.tries.begin(ctx, address, account)
	if err != nil {
		return "", who, s.problem(err)
	}
	if !ok {
		err := huma.Error429TooManyRequests("too many tries from this network; try again in a second")
		return "", who, huma.ErrorWithHeaders(err, http.Header{"Retry-After": {"1"}})
	}
	token, who, err = try(ctx, in.Name, in.Password)
	if errors.Is(err, book.ErrWrongPassword) {
		return "", who, huma.Error401Unauthorized(err.Error() + "; ask the lead of the crew if you have forgotten it")
	}
	if err == nil {
		s.tries.right(address, account)
	}
	return token, who, s.problem(err)
}
