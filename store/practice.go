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

// TakeReviews keeps answers that were given elsewhere; those that are there stay, and another's of
// the same id is left out. It says how many are new.
func (t *Tx) TakeReviews(ctx context.Context, by string, reviews []Review) (taken int, err error) {
	for i := range reviews {
		v := &reviews[i]
		res, err := t.run.ExecContext(ctx, `INSERT INTO review (id, by, card, seed, at, rank, said, sure, seconds, verdict, taken_for, is_true)
			VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (id) DO NOTHING`, v.ID, by, v.Card, v.Seed, v.At, v.Rank, v.Said, v.Sure,
			v.Seconds, v.Verdict, v.TakenFor, v.IsTrue)
		if err != nil {
			return taken, explain(err)
		}
		n, err := res.RowsAffected()
		if err != nil {
			return taken, err
		}
		taken += int(n)
	}
	return taken, nil
}

// Deck is one that was kept.
type Deck struct {
	ID   string `db:"id"`
	By   string `db:"by"`
	Body string `db:"body"` // JSON
}

// ErrNoDeck is given for a deck that is not kept.
var ErrNoDeck = errors.New("there is no such deck")

// Decks lists those that are kept, the latest first.
func (r Reader) Decks(ctx context.Context) (all []Deck, err error) {
	if err := r.all(ctx, &all, "SELECT * FROM deck ORDER BY id DESC"); err != nil {
		return nil, fmt.Errorf("listing decks: %w", err)
	}
	return all, nil
}

// Deck gives one, or [ErrNoDeck].
func (r Reader) Deck(ctx context.Context, id string) (d Deck, err error) {
	return d, noRow(r.get(ctx, &d, "SELECT * FROM deck WHERE id = ?", id), ErrNoDeck)
}

// PutDeck keeps a deck, in place of the one of its id.
func (t *Tx) PutDeck(ctx context.Context, d *Deck) error {
	return t.exec(
		ctx,
		"INSERT INTO deck (id, by, body) VALUES (?, ?, ?) ON CONFLICT (id) DO UPDATE SET body = excluded.body",
		d.ID,
		d.By,
		d.Body,
	)
}

// DropDeck removes one, or gives [ErrNoDeck].
func (t *Tx) DropDeck(ctx context.Context, id string) error {
	return t.changed(ctx, ErrNoDeck, "DELETE FROM deck WHERE id = ?", id)
}

// SharePractice has somebody's figures shown to the leads, or no longer.
func (t *Tx) SharePractice(ctx context.Context, by string, shared bool) error {
	if !shared {
		return t.exec(ctx, "DELETE FROM practice_shared WHERE by = ?", by)
	}
	return t.exec(ctx, "INSERT INTO practice_shared (by) VALUES (?) ON CONFLICT (by) DO NOTHING", by)
}

// SharedPractice lists who shows their figures.
func (r Reader) SharedPractice(ctx context.Context) (names []string, err error) {
	if err := r.all(ctx, &names, "SELECT by FROM practice_shared ORDER BY by"); err != nil {
		return nil, fmt.Errorf("listing who shares their practice: %w", err)
	}
	return names, nil
}

// Walk is a walk through a wood that does not exist.
type Walk struct {
	ID    string  `db:"id"`
	By    string  `db:"by"`
	Body  string  `db:"body"`  // JSON: what is hidden, and what was done
	Ended *string `db:"ended"` // nil: it goes on
}

// ErrNoWalk is given for a walk that is not kept.
var ErrNoWalk = errors.New("there is no such walk")

// Walks lists somebody's walks, the latest first; all of them where by is "*".
func (r Reader) Walks(ctx context.Context, by string) (all []Walk, err error) {
	if err := r.all(ctx, &all, "SELECT * FROM walk WHERE ? = '*' OR by = ? ORDER BY id DESC", by, by); err != nil {
		return nil, fmt.Errorf("listing walks: %w", err)
	}
	return all, nil
}

// Walk gives one of somebody's, or [ErrNoWalk].
func (r Reader) Walk(ctx context.Context, id, by string) (w Walk, err error) {
	return w, noRow(r.get(ctx, &w, "SELECT * FROM walk WHERE id = ? AND by = ?", id, by), ErrNoWalk)
}

// PutWalk keeps a walk, in place of what was kept of it.
func (t *Tx) PutWalk(ctx context.Context, w *Walk) error {
	return t.exec(ctx, `INSERT INTO walk (id, by, body, ended) VALUES (?, ?, ?, ?)
		ON CONFLICT (id) DO UPDATE SET body = excluded.body, ended = excluded.ended`, w.ID, w.By, w.Body, w.Ended)
}

// DropWalk forgets one.
func (t *Tx) DropWalk(ctx context.Context, id string) error {
	return t.exec(ctx, "DELETE FROM walk WHERE id = ?", id)
}

// Practisers lists who answered any card.
func (r Reader) Practisers(ctx context.Context) (names []string, err error) {
	if err := r.all(ctx, &names, "SELECT DISTINCT by FROM review ORDER BY by"); err != nil {
		return nil, fmt.Errorf("listing who practises: %w", err)
	}
	return names, nil
}
