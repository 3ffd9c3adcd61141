package store

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
)

// Errors about accounts that callers tell apart.
var (
	ErrNoAccount = errors.New("there is no such account")
	ErrNameTaken = errors.New("somebody of the crew has this name already")
	ErrLastLead  = errors.New("the crew needs at least one lead")
)

// Account is one of the crew.
type Account struct {
	ID       string `db:"id" json:"id"`
	Name     string `db:"name" json:"name"`
	Role     string `db:"role" json:"role" enum:"lead,observer,reader"`
	Closed   bool   `db:"closed" json:"closed" doc:"May no longer sign in; what they entered stays"`
	Password string `db:"password" json:"-"` // argon2id, as a PHC string
}

// Accounts lists the crew by name.
func (s *Store) Accounts(ctx context.Context) ([]Account, error) {
	accounts := []Account{}
	err := s.read.SelectContext(ctx, &accounts, "SELECT id, name, role, closed, password FROM account ORDER BY name")
	if err != nil {
		return nil, fmt.Errorf("listing the crew: %w", err)
	}
	return accounts, nil
}

// AccountNamed finds an account by name, in any case of letters.
func (s *Store) AccountNamed(ctx context.Context, name string) (a Account, err error) {
	err = s.read.GetContext(ctx, &a, "SELECT id, name, role, closed, password FROM account WHERE name = ?", name)
	return a, noRow(err, ErrNoAccount)
}

// PutAccount adds an account, or changes the one of its id. An account that is
// closed or has a new password is signed out everywhere.
func (s *Store) PutAccount(ctx context.Context, a Account) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		_, err := tx.ExecContext(ctx, `INSERT INTO account (id, name, role, closed, password) VALUES (?, ?, ?, ?, ?)
			ON CONFLICT (id) DO UPDATE SET name = excluded.name, role = excluded.role, closed = excluded.closed, password = excluded.password`,
			a.ID, a.Name, a.Role, a.Closed, a.Password)
		if err != nil && strings.Contains(err.Error(), "account.name") {
			return ErrNameTaken
		}
		if err != nil {
			return err
		}
		var leads int
		if err := tx.GetContext(ctx, &leads, "SELECT count(*) FROM account WHERE role = 'lead' AND closed = 0"); err != nil {
			return err
		}
		if leads == 0 {
			return ErrLastLead
		}
		_, err = tx.ExecContext(ctx, "DELETE FROM session WHERE account_id = ?", a.ID)
		return err
	})
}

// OpenSession keeps the digest of a session's token until a time.
func (s *Store) OpenSession(ctx context.Context, digest, account string, until time.Time) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, "DELETE FROM session WHERE until < ?", time.Now().UTC().Format(time.RFC3339)); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, "INSERT INTO session (digest, account_id, until) VALUES (?, ?, ?)",
			digest, account, until.UTC().Format(time.RFC3339))
		return err
	})
}

// CloseSession forgets a session.
func (s *Store) CloseSession(ctx context.Context, digest string) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		_, err := tx.ExecContext(ctx, "DELETE FROM session WHERE digest = ?", digest)
		return err
	})
}

// SessionAccount gives who a session is of, or [ErrNoAccount].
func (s *Store) SessionAccount(ctx context.Context, digest string, now time.Time) (a Account, err error) {
	err = s.read.GetContext(ctx, &a, `SELECT account.id, name, role, closed, password FROM session
		JOIN account ON account.id = session.account_id WHERE digest = ? AND until > ? AND closed = 0`,
		digest, now.UTC().Format(time.RFC3339))
	return a, noRow(err, ErrNoAccount)
}
