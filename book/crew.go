package book

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"

	"palethicket/core/tree/record"
	"palethicket/store"
)

// Roles of the crew: a lead may do everything, an observer scores and enters, a
// reader reads.
const (
	Lead     = "lead"
	Observer = "observer"
	Reader   = "reader"
)

// Roles lists them, the one that may do most first.
var Roles = []string{Lead, Observer, Reader}

// MayDo says whether a role may do what another is needed for.
func MayDo(role, needed string) bool {
	has, needs := slices.Index(Roles, role), slices.Index(Roles, needed)
	return has >= 0 && has <= needs
}

const (
	// passwordLeast is the shortest password: NIST SP 800-63B, 3.1.1.2, asks for
	// no less where it is the only factor.
	passwordLeast = 15
	// passwordMost keeps hashing bounded.
	passwordMost = 200
	// SessionLength is how long a crew member stays signed in.
	SessionLength = 14 * 24 * time.Hour
)

// hashing are the parameters of argon2id: the second choice of RFC 9106, section
// 4, with as many lanes as the machines this runs on have cores.
var hashing = &argon2id.Params{Memory: 64 * 1024, Iterations: 3, Parallelism: 2, SaltLength: 16, KeyLength: 32}

// hashers bounds how many passwords are hashed at once, as each takes 64 MiB.
var hashers = make(chan struct{}, 2)

// ErrWrongPassword is given for a wrong name and for a wrong password alike.
var ErrWrongPassword = errors.New("no such name and password")

// NewMember is somebody to be added to the crew.
type NewMember struct {
	Name     string `json:"name" minLength:"1" maxLength:"80" pattern:"\\S"`
	Role     string `json:"role" enum:"lead,observer,reader"`
	Password string `json:"password" minLength:"15" maxLength:"200"`
}

// AddMember adds somebody to the crew. The first must be a lead.
func (b *Book) AddMember(ctx context.Context, m NewMember) error {
	if !slices.Contains(Roles, m.Role) {
		return &record.FieldError{Field: "role", Message: fmt.Sprintf("%q is no role; use one of %s", m.Role, strings.Join(Roles, ", "))}
	}
	hash, err := hashed(m.Password)
	if err != nil {
		return err
	}
	return b.Store.PutAccount(ctx, store.Account{ID: newID(), Name: strings.TrimSpace(m.Name), Role: m.Role, Password: hash})
}

// MemberChange changes an account; what is empty or nil stays.
type MemberChange struct {
	Role     string `json:"role,omitempty" enum:"lead,observer,reader"`
	Password string `json:"password,omitempty" maxLength:"200"`
	Closed   *bool  `json:"closed,omitempty"`
}

// ChangeMember changes an account, found by its name.
func (b *Book) ChangeMember(ctx context.Context, name string, c MemberChange) error {
	a, err := b.Store.AccountNamed(ctx, name)
	if err != nil {
		return err
	}
	if c.Role != "" {
		a.Role = c.Role
	}
	if c.Closed != nil {
		a.Closed = *c.Closed
	}
	if c.Password != "" {
		if a.Password, err = hashed(c.Password); err != nil {
			return err
		}
	}
	return b.Store.PutAccount(ctx, a)
}

func hashed(password string) (string, error) {
	if n := len([]rune(password)); n < passwordLeast || n > passwordMost {
		return "", &record.FieldError{Field: "password", Message: fmt.Sprintf("a password needs %d to %d characters; several words do well", passwordLeast, passwordMost)}
	}
	hashers <- struct{}{}
	defer func() { <-hashers }()
	hash, err := argon2id.CreateHash(password, hashing)
	if err != nil {
		return "", fmt.Errorf("hashing a password: %w", err)
	}
	return hash, nil
}

// SignIn opens a session for a name and a password, and gives its token.
func (b *Book) SignIn(ctx context.Context, name, password string) (token string, a store.Account, err error) {
	a, err = b.Store.AccountNamed(ctx, strings.TrimSpace(name))
	absent := errors.Is(err, store.ErrNoAccount)
	if err != nil && !absent {
		return "", a, err
	}
	if !verified(password, a.Password) || absent || a.Closed {
		return "", a, ErrWrongPassword
	}
	secret := make([]byte, 32)
	if _, err := rand.Read(secret); err != nil {
		return "", a, fmt.Errorf("opening a session: %w", err)
	}
	token = base64.RawURLEncoding.EncodeToString(secret)
	return token, a, b.Store.OpenSession(ctx, digest(token), a.ID, b.now().Add(SessionLength))
}

// nobody is the hash of a password that nobody has, so that a wrong name takes
// as long to refuse as a wrong password.
var nobody = sync.OnceValues(func() (string, error) { return argon2id.CreateHash(rand.Text(), hashing) })

func verified(password, hash string) bool {
	hashers <- struct{}{}
	defer func() { <-hashers }()
	if hash == "" {
		hash, _ = nobody() // without one the comparison fails, as it should
	}
	if len(password) > 4*passwordMost {
		return false
	}
	match, err := argon2id.ComparePasswordAndHash(password, hash)
	return err == nil && match
}

// SignOut closes the session of a token.
func (b *Book) SignOut(ctx context.Context, token string) error {
	return b.Store.CloseSession(ctx, digest(token))
}

// SignedIn gives who holds a token, or [store.ErrNoAccount].
func (b *Book) SignedIn(ctx context.Context, token string) (store.Account, error) {
	return b.Store.SessionAccount(ctx, digest(token), b.now())
}

func digest(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}
