package store

import (
	"context"
	"errors"
	"fmt"
	"time"
)

// Errors about accounts that callers tell apart, and who returns them.
var (
	ErrNoAccount = errors.New("there is no such account")                   // SessionAccount, DeviceAccount
	ErrNameTaken = errors.New("somebody of the crew has this name already") // PutAccount
	ErrLastLead  = errors.New("the crew needs at least one lead")           // PutAccount
)

// Account is one of the crew.
type Account struct {
	ID       string `db:"id"`
	Name     string `db:"name"`
	Role     string `db:"role"`
	Closed   bool   `db:"closed"`   // may no longer sign in; what they entered stays
	Password string `db:"password"` // argon2id, as a PHC string
}

// Accounts lists the crew by name.
func (r Reader) Accounts(ctx context.Context) ([]Account, error) {
	accounts := []Account{}
	err := r.all(ctx, &accounts, "SELECT id, name, role, closed, password FROM account ORDER BY name")
	if err != nil {
		return nil, fmt.Errorf("listing the crew: %w", err)
	}
	return accounts, nil
}

// PutAccount adds an account, or changes the one of its id. An account that is
// closed or has a new password is signed out everywhere. Another of the name is
// [ErrNameTaken]; leaving the crew without a lead is [ErrLastLead].
func (t *Tx) PutAccount(ctx context.Context, a Account) error {
	if err := t.PutPerson(ctx, a); err != nil {
		return err
	}
	var leads int
	if err := t.get(ctx, &leads, "SELECT count(*) FROM account WHERE role = 'lead' AND closed = 0"); err != nil {
		return err
	}
	if leads == 0 {
		return ErrLastLead
	}
	return nil
}

// PutPerson is PutAccount for a device, where any of the crew may be at work, and no lead.
func (t *Tx) PutPerson(ctx context.Context, a Account) error {
	var taken int
	if err := t.get(ctx, &taken, "SELECT count(*) FROM account WHERE name = ? AND id <> ?", a.Name, a.ID); err != nil {
		return err
	}
	if taken > 0 {
		return ErrNameTaken
	}
	err := t.exec(ctx, `INSERT INTO account (id, name, role, closed, password) VALUES (?, ?, ?, ?, ?)
		ON CONFLICT (id) DO UPDATE SET name = excluded.name, role = excluded.role, closed = excluded.closed, password = excluded.password`,
		a.ID, a.Name, a.Role, a.Closed, a.Password)
	if err != nil {
		return err
	}
	return t.exec(ctx, "DELETE FROM session WHERE account_id = ?", a.ID)
}

// OpenSession keeps the digest of a session's token until a time, and forgets those
// that ended before now.
func (t *Tx) OpenSession(ctx context.Context, digest, account string, now, until time.Time) error {
	if err := t.exec(ctx, "DELETE FROM session WHERE until < ?", now.UTC().Format(time.RFC3339)); err != nil {
		return err
	}
	return t.exec(ctx, "INSERT INTO session (digest, account_id, until) VALUES (?, ?, ?)", digest, account, until.UTC().Format(time.RFC3339))
}

// CloseSession forgets a session.
func (t *Tx) CloseSession(ctx context.Context, digest string) error {
	return t.exec(ctx, "DELETE FROM session WHERE digest = ?", digest)
}

// SessionAccount gives who a session is of, or [ErrNoAccount].
func (r Reader) SessionAccount(ctx context.Context, digest string, now time.Time) (a Account, err error) {
	err = r.get(ctx, &a, `SELECT account.id, name, role, closed, password FROM session
		JOIN account ON account.id = session.account_id WHERE digest = ? AND until > ? AND closed = 0`,
		digest, now.UTC().Format(time.RFC3339))
	return a, noRow(err, ErrNoAccount)
}
