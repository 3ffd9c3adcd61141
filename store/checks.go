package store

import (
	"context"
	"errors"
	"fmt"
)

// CheckCruise is one as it is kept.
type CheckCruise struct {
	ID      string  `db:"id"`
	Checker string  `db:"checker"`
	Plan    string  `db:"plan"`  // JSON
	Ended   *string `db:"ended"` // nil: it goes on
	Came    *string `db:"came"`  // JSON; nil: it goes on, or was given up
}

// ErrNoCheck is given for a check cruise that is not in the book.
var ErrNoCheck = errors.New("there is no such check cruise")

// CheckCruises lists check cruises, the latest first.
func (r Reader) CheckCruises(ctx context.Context) (all []CheckCruise, err error) {
	if err := r.all(ctx, &all, "SELECT * FROM check_cruise ORDER BY id DESC"); err != nil {
		return nil, fmt.Errorf("listing check cruises: %w", err)
	}
	return all, nil
}

// CheckCruise gives one, or [ErrNoCheck].
func (r Reader) CheckCruise(ctx context.Context, id string) (c CheckCruise, err error) {
	return c, noRow(r.get(ctx, &c, "SELECT * FROM check_cruise WHERE id = ?", id), ErrNoCheck)
}

// AddCheckCruise keeps a new one.
func (t *Tx) AddCheckCruise(ctx context.Context, c *CheckCruise) error {
	return t.exec(
		ctx,
		"INSERT INTO check_cruise (id, checker, plan, ended, came) VALUES (?, ?, ?, ?, ?)",
		c.ID,
		c.Checker,
		c.Plan,
		c.Ended,
		c.Came,
	)
}

// EndCheckCruise keeps what came of one; nil: it was given up. One that was ended before gives
// [ErrNoCheck].
func (t *Tx) EndCheckCruise(ctx context.Context, id, at string, came *string) error {
	return t.changed(ctx, ErrNoCheck, "UPDATE check_cruise SET ended = ?, came = ? WHERE id = ? AND ended IS NULL", at, came, id)
}

// Checkable is a tree that somebody could name again.
type Checkable struct {
	ID    string `db:"tree_id"`
	Tag   string `db:"tag"`
	Tract string `db:"tract"`
	Stand string `db:"stand"`
	Given string `db:"given"`
}

// Checkable lists the named trees of a tract, or of a stand in it, that somebody never
// entered anything of.
func (r Reader) Checkable(ctx context.Context, tract, stand, checker string) (trees []Checkable, err error) {
	err = r.all(ctx, &trees, `SELECT tree_id, tag, tract, stand, given FROM standing
		WHERE aside = 0 AND given <> '' AND (? = '' OR tract = ?) AND (? = '' OR stand = ?) AND NOT EXISTS
			(SELECT 1 FROM entry WHERE entry.tree_id = standing.tree_id AND lower(entry.body ->> '$.by') = lower(?))
		ORDER BY tree_id`, tract, tract, stand, stand, checker)
	if err != nil {
		return nil, fmt.Errorf("looking for trees to name again: %w", err)
	}
	return trees, nil
}

// Confirmed lists the trees of a tract, or of a stand in it, that were seen in leaf, flower or
// fruit.
func (r Reader) Confirmed(ctx context.Context, tract, stand string) (ids []string, err error) {
	err = r.all(ctx, &ids, `SELECT DISTINCT entry.tree_id FROM entry JOIN standing ON standing.tree_id = entry.tree_id
		WHERE entry.body ->> '$.name.seen' IS NOT NULL AND aside = 0 AND (? = '' OR tract = ?) AND (? = '' OR stand = ?)
		ORDER BY entry.tree_id`, tract, tract, stand, stand)
	if err != nil {
		return nil, fmt.Errorf("looking for confirmed trees: %w", err)
	}
	return ids, nil
}
