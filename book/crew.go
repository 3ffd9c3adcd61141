package book

import (
	"cmp"
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

	"palethicket/core/label"
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

// hashers bounds how many passwords are hashed at once, as each takes 64 MiB.
var hashers = make(chan struct{}, 2)

var (
	// ErrWrongPassword is given by [Book.SignIn] for a wrong name and for a wrong
	// password alike.
	ErrWrongPassword = errors.New("no such name and password")
	// ErrSignedOut is given by [Book.SignedIn] for a token that nobody holds.
	ErrSignedOut = errors.New("nobody is signed in")
)

// NewMember is somebody to be added to the crew.
type NewMember struct {
	Name     string `json:"name" minLength:"1" maxLength:"80" pattern:"\\S"`
	Role     string `json:"role" enum:"lead,observer,reader"`
	Password string `json:"password" minLength:"15" maxLength:"200"`
}

// AddMember adds somebody to the crew. The first must be a lead.
func (b *Book) AddMember(ctx context.Context, m NewMember) error {
	if !slices.Contains(Roles, m.Role) {
		return &FieldError{"role", fmt.Sprintf("%q is no role; use one of %s", m.Role, strings.Join(Roles, ", "))}
	}
	if err := cleanNames(nameField{"name", &m.Name, label.NameMost}); err != nil {
		return err
	}
	hash, err := hashed(m.Password)
	if err != nil {
		return err
	}
	a := store.Account{ID: newID(), Name: m.Name, Role: m.Role, Password: hash}
	return b.store.Write(ctx, func(tx *store.Tx) error {
		switch _, err := accountNamed(ctx, tx.Reader, a.Name); {
		case err == nil:
			return store.ErrNameTaken
		case !errors.Is(err, store.ErrNoAccount):
			return err
		}
		return tx.PutAccount(ctx, a)
	})
}

// AccountKey is a name as accounts are found by it, however it is written.
func AccountKey(name string) string {
	if clean, err := label.Clean(name, label.NameMost); err == nil {
		name = clean
	}
	return label.Key(name)
}

// accountNamed finds an account by its name, however it is written.
func accountNamed(ctx context.Context, from store.Reader, name string) (store.Account, error) {
	accounts, err := from.Accounts(ctx)
	if err != nil {
		return store.Account{}, err
	}
	key := AccountKey(name)
	if i := slices.IndexFunc(accounts, func(a store.Account) bool { return AccountKey(a.Name) == key }); i >= 0 {
		return accounts[i], nil
	}
	return store.Account{}, store.ErrNoAccount
}

// MemberChange changes an account; what is empty or nil stays.
type MemberChange struct {
	Role     string `json:"role,omitempty" enum:"lead,observer,reader"`
	Password string `json:"password,omitempty" maxLength:"200"`
	Closed   *bool  `json:"closed,omitempty"`
}

// ChangeMember changes an account, found by its name. It ends the account's sessions; a new
// password and closing the account also end the tokens of its devices.
func (b *Book) ChangeMember(ctx context.Context, name string, c MemberChange) error {
	hash := ""
	if c.Password != "" {
		var err error
		if hash, err = hashed(c.Password); err != nil {
			return err
		}
	}
	return b.store.Write(ctx, func(tx *store.Tx) error {
		a, err := accountNamed(ctx, tx.Reader, name)
		if err != nil {
			return err
		}
		a.Role, a.Password = cmp.Or(c.Role, a.Role), cmp.Or(hash, a.Password)
		if c.Closed != nil {
			a.Closed = *c.Closed
		}
		if hash != "" || a.Closed {
			if err := tx.EndDevices(ctx, a.ID); err != nil {
				return err
			}
		}
		return tx.PutAccount(ctx, a)
	})
}

func hashed(password string) (string, error) {
	if n := len([]rune(password)); n < passwordLeast || n > passwordMost {
		return "", &FieldError{
			"password",
			fmt.Sprintf("a password needs %d to %d characters; several words do well", passwordLeast, passwordMost),
		}
	}
	if common(password) {
		return "", &FieldError{"password", "this password is too common; choose several words of your own"}
	}
	hashers <- struct{}{}
	defer func() { <-hashers }()
	hash, err := argon2id.CreateHash(password, hashing)
	if err != nil {
		return "", fmt.Errorf("hashing a password: %w", err)
	}
	return hash, nil
}

// Member is one of the crew.
type Member struct {
	ID     string `json:"id"`
	Name   string `json:"name"`
	Role   string `json:"role" enum:"lead,observer,reader"`
	Closed bool   `json:"closed" doc:"May no longer sign in; what they entered stays"`
}

func memberOf(a store.Account) Member { return Member{a.ID, a.Name, a.Role, a.Closed} }

// Crew lists the crew by name.
func (b *Book) Crew(ctx context.Context) ([]Member, error) {
	accounts, err := b.store.Accounts(ctx)
	return each(accounts, memberOf), err
}

// SignIn opens a session for a name and a password, and gives its token, or
// [ErrWrongPassword].
func (b *Book) SignIn(ctx context.Context, name, password string) (token string, m Member, err error) {
	a, err := accountNamed(ctx, b.store.Reader, name)
	absent := errors.Is(err, store.ErrNoAccount)
	if err != nil && !absent {
		return "", m, err
	}
	if !verified(password, a.Password) || absent || a.Closed {
		return "", m, ErrWrongPassword
	}
	if token, err = newToken(); err != nil {
		return "", m, err
	}
	now := b.now()
	return token, memberOf(a), b.store.Write(ctx, func(tx *store.Tx) error {
		return tx.OpenSession(ctx, digest(token), a.ID, now, now.Add(SessionLength))
	})
}

// newToken makes a secret that nobody guesses.
func newToken() (string, error) {
	secret := make([]byte, 32)
	if _, err := rand.Read(secret); err != nil {
		return "", fmt.Errorf("making a token: %w", err)
	}
	return base64.RawURLEncoding.EncodeToString(secret), nil
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
	return b.store.Write(ctx, func(tx *store.Tx) error { return tx.CloseSession(ctx, digest(token)) })
}

// SignedIn gives who holds a token, or [ErrSignedOut].
func (b *Book) SignedIn(ctx context.Context, token string) (Member, error) {
	a, err := b.store.SessionAccount(ctx, digest(token), b.now())
	if errors.Is(err, store.ErrNoAccount) {
		return Member{}, ErrSignedOut
	}
	return memberOf(a), err
}

func digest(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}

// Enroll has one of home's crew be at work on a device, who signed in at home: it gives
// the token of a session that lasts as long as the device may send for them. A password
// that they signed in with at home is kept hashed, so that they can sign in again in the
// woods; empty, it stays as it was.
func (b *Book) Enroll(ctx context.Context, name, role, password string) (token string, err error) {
	hash := ""
	if password != "" {
		if hash, err = hashed(password); err != nil {
			return "", err
		}
	}
	return b.EnrollHashed(ctx, name, role, hash)
}

// EnrollHashed is Enroll with a password as home keeps it.
func (b *Book) EnrollHashed(ctx context.Context, name, role, hash string) (token string, err error) {
	if token, err = newToken(); err != nil {
		return "", err
	}
	now := b.now()
	return token, b.store.Write(ctx, func(tx *store.Tx) error {
		a, err := accountNamed(ctx, tx.Reader, name)
		if err != nil && !errors.Is(err, store.ErrNoAccount) {
			return err
		}
		a.ID, a.Name, a.Role, a.Password, a.Closed = cmp.Or(a.ID, newID()), name, role, cmp.Or(hash, a.Password), false
		if err := tx.PutPerson(ctx, a); err != nil {
			return err
		}
		return tx.OpenSession(ctx, digest(token), a.ID, now, now.Add(DeviceLength))
	})
}

// HashLightly has passwords hashed in no time, and not safely: for quick tests that are not about it.
func HashLightly() {
	hashing = &argon2id.Params{Memory: 8, Iterations: 1, Parallelism: 1, SaltLength: 16, KeyLength: 32}
}
