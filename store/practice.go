package store

import (
	"context"
	"errors"
	"fmt"
)

// Asked is a card that somebody is being asked.
type Asked struct {
	ID     string  `db:"id"`
	By     string  `db:"by"`
	Card   string  `db:"card"`
	Seed   int64   `db:"seed"`
	Odd    float64 `db:"odd"`
	Region string  `db:"region"`
	List   string  `db:"list"`
	At     string  `db:"at"`
}

// Review is an answer to one.
type Review struct {
	ID       string  `db:"id"`
	By       string  `db:"by"`
	Card     string  `db:"card"`
	Seed     int64   `db:"seed"`
	At       string  `db:"at"`
	Rank     string  `db:"rank"`
	Said     string  `db:"said"`
	Sure     string  `db:"sure"`
	Seconds  float64 `db:"seconds"`
	Verdict  string  `db:"verdict"`
	TakenFor string  `db:"taken_for"`
	IsTrue   bool    `db:"is_true"`
}

// ErrNotAsked is given for a card that is not being asked.
var ErrNotAsked = errors.New("this card is not being asked: go on with the next")

// PutAsked keeps a card that is asked, in place of what the same person was asked before.
func (t *Tx) PutAsked(ctx context.Context, a *Asked) error {
	if err := t.exec(ctx, "DELETE FROM asked WHERE by = ?", a.By); err != nil {
		return err
	}
	return t.exec(ctx, "INSERT INTO asked (id, by, card, seed, odd, region, list, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
		a.ID, a.By, a.Card, a.Seed, a.Odd, a.Region, a.List, a.At)
}

// Asked gives a card that somebody is being asked, or [ErrNotAsked].
func (r Reader) Asked(ctx context.Context, by, id string) (a Asked, err error) {
	return a, noRow(r.get(ctx, &a, "SELECT * FROM asked WHERE id = ? AND by = ?", id, by), ErrNotAsked)
}

// PutReview keeps the answer to a card; it is then no longer asked.
func (t *Tx) PutReview(ctx context.Context, v *Review) error {
	if err := t.exec(ctx, "DELETE FROM asked WHERE id = ?", v.ID); err != nil {
		return err
	}
	return t.exec(ctx, `INSERT INTO review (id, by, card, seed, at, rank, said, sure, seconds, verdict, taken_for, is_true)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`, v.ID, v.By, v.Card, v.Seed, v.At, v.Rank, v.Said, v.Sure, v.Seconds, v.Verdict,
		v.TakenFor, v.IsTrue)
}

// Reviews lists somebody's answers, the earliest first.
func (r Reader) Reviews(ctx context.Context, by string) (all []Review, err error) {
	if err := r.all(ctx, &all, "SELECT * FROM review WHERE by = ? ORDER BY at, id", by); err != nil {
		return nil, fmt.Errorf("reading what was practised: %w", err)
	}
	return all, nil
}

// ForgetReviews erases somebody's answers.
func (t *Tx) ForgetReviews(ctx context.Context, by string) error {
	if err := t.exec(ctx, "DELETE FROM asked WHERE by = ?", by); err != nil {
		return err
	}
	return t.exec(ctx, "DELETE FROM review WHERE by = ?", by)
}
