package book

import (
	"context"
	"errors"
	"time"

	"palethicket/core/label"
	"palethicket/store"
)

// DeviceLength is how long a device may send for somebody before they sign in again.
const DeviceLength = 30 * 24 * time.Hour

// ErrNobody is given for a device where nobody is signed in: on one's own machine a
// device needs no token.
var ErrNobody = errors.New("nobody is signed in; a device gets the token of whoever is")

// Device is what may send for one of the crew.
type Device struct {
	ID    string `json:"id"`
	Name  string `json:"name" doc:"What its owner calls it"`
	Whose string `json:"whose"`
	Since string `json:"since"`
	Until string `json:"until"`
	Ended bool   `json:"ended" doc:"It may send no longer; what it holds stays on it"`
	Met   string `json:"met" doc:"When it was heard of last; empty: never"`
	Holds int    `json:"holds" doc:"Entries and photographs that it then had and the book did not"`
}

// NewDevice is a device that asks for a token.
type NewDevice struct {
	Name string `json:"name" minLength:"1" maxLength:"80" doc:"What its owner calls it"`
}

// Token is what a device shows when it sends.
type Token struct {
	Device
	Token string `json:"token" doc:"Shown once; the book keeps only its digest"`
	Hash  string `json:"hash" doc:"Of the password of whose it is (argon2id), by which the device knows them without a signal"`
}

// Devices lists them, the latest first, of one of the crew where their account is said.
func (b *Book) Devices(ctx context.Context, of string) ([]Device, error) {
	devices, err := b.store.Devices(ctx, of)
	return each(devices, deviceOf), err
}

func deviceOf(d store.Device) Device {
	return Device{d.ID, d.Name, d.Whose, d.Since, d.Until, d.Ended, d.Met, d.Holds}
}

// heardOf is how often it is written down that a device was heard of, while it holds the same.
const heardOf = 10 * time.Minute

// DeviceMet notes that the device of a token was heard of, and how many entries and
// photographs it holds that the book does not have.
func (b *Book) DeviceMet(ctx context.Context, token string, holds int) error {
	now := b.now().UTC()
	return b.store.Write(ctx, func(tx *store.Tx) error {
		return tx.DeviceMet(ctx, digest(token), now.Format(time.RFC3339), now.Add(-heardOf).Format(time.RFC3339), holds)
	})
}

// AddDevice gives a device the token of somebody, good for [DeviceLength].
func (b *Book) AddDevice(ctx context.Context, who Member, name string) (*Token, error) {
	if err := cleanNames(nameField{"name", &name, label.NameMost}); err != nil {
		return nil, err
	}
	token, err := newToken()
	if err != nil {
		return nil, err
	}
	now := b.now().UTC()
	d := store.Device{ID: newID(), Account: who.ID, Whose: who.Name, Name: name, Since: now.Format(time.RFC3339),
		Until: now.Add(DeviceLength).Format(time.RFC3339)}
	err = b.store.Write(ctx, func(tx *store.Tx) error { return tx.AddDevice(ctx, d, digest(token)) })
	if err != nil {
		return nil, err
	}
	a, err := accountNamed(ctx, b.store.Reader, who.Name)
	return &Token{deviceOf(d), token, a.Password}, err
}

// EndDevice ends a device's token, one of somebody's where who is said, or gives [ErrNoDevice].
func (b *Book) EndDevice(ctx context.Context, id, of string) error {
	return b.store.Write(ctx, func(tx *store.Tx) error { return tx.EndDevice(ctx, id, of) })
}

// DeviceOf gives whose a device's token is, or [ErrSignedOut] for one that ended.
func (b *Book) DeviceOf(ctx context.Context, token string) (Member, error) {
	a, err := b.store.DeviceAccount(ctx, digest(token), b.now())
	if errors.Is(err, store.ErrNoAccount) {
		return Member{}, ErrSignedOut
	}
	return memberOf(a), err
}
