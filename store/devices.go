package store

import (
	"context"
	"errors"
	"fmt"
	"time"
)

// ErrNoDevice is given by [Tx.EndDevice].
var ErrNoDevice = errors.New("there is no such device")

// Device is what may send for an account.
type Device struct {
	ID      string `db:"id"`
	Account string `db:"account_id"`
	Whose   string `db:"whose"`
	Name    string `db:"name"`
	Since   string `db:"since"`
	Until   string `db:"until"`
	Ended   bool   `db:"ended"`
	Met     string `db:"met"`
	Holds   int    `db:"holds"`
}

// Devices lists the devices, the latest first, of one account where that is said.
func (r Reader) Devices(ctx context.Context, account string) ([]Device, error) {
	devices := []Device{}
	err := r.all(ctx, &devices, `SELECT device.id, account_id, account.name AS whose, device.name, since, until, ended, met, holds
		FROM device JOIN account ON account.id = account_id WHERE ? IN ('', account_id) ORDER BY device.id DESC`, account)
	if err != nil {
		return nil, fmt.Errorf("listing devices: %w", err)
	}
	return devices, nil
}

// AddDevice keeps a device with the digest of its token.
func (t *Tx) AddDevice(ctx context.Context, d Device, digest string) error {
	return t.exec(ctx, "INSERT INTO device (id, digest, account_id, name, since, until) VALUES (?, ?, ?, ?, ?, ?)",
		d.ID, digest, d.Account, d.Name, d.Since, d.Until)
}

// DeviceMet keeps when the device of a token was heard of, and how much it holds: where
// that is as it was, not more often than was asked for with since.
func (t *Tx) DeviceMet(ctx context.Context, digest, now, since string, holds int) error {
	return t.exec(ctx, "UPDATE device SET met = ?, holds = ? WHERE digest = ? AND (holds <> ? OR met < ?)", now, holds, digest, holds, since)
}

// EndDevice ends a device's token, one of an account where that is said, or gives
// [ErrNoDevice].
func (t *Tx) EndDevice(ctx context.Context, id, account string) error {
	return t.changed(ctx, ErrNoDevice, "UPDATE device SET ended = 1 WHERE id = ? AND ? IN ('', account_id)", id, account)
}

// EndDevices ends the tokens of all devices of an account.
func (t *Tx) EndDevices(ctx context.Context, account string) error {
	return t.exec(ctx, "UPDATE device SET ended = 1 WHERE account_id = ?", account)
}

// DeviceAccount gives whose a token is that did not end, or [ErrNoAccount].
func (r Reader) DeviceAccount(ctx context.Context, digest string, now time.Time) (a Account, err error) {
	err = r.get(ctx, &a, `SELECT account.id, account.name, role, closed, password FROM device
		JOIN account ON account.id = account_id WHERE device.digest = ? AND device.ended = 0 AND until > ? AND closed = 0`,
		digest, now.UTC().Format(time.RFC3339))
	return a, noRow(err, ErrNoAccount)
}
