package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/jmoiron/sqlx"

	"palethicket/core/flora"
)

// Errors about lists that callers tell apart.
var (
	ErrNoList    = errors.New("there is no such list")
	ErrListInUse = errors.New("trees are ranked among this list")
)

// Lists gives the book's own lists, by name.
func (s *Store) Lists(ctx context.Context) ([]flora.List, error) {
	var bodies []string
	if err := s.read.SelectContext(ctx, &bodies, "SELECT body FROM list ORDER BY name"); err != nil {
		return nil, fmt.Errorf("reading the lists: %w", err)
	}
	lists := make([]flora.List, len(bodies))
	for i, b := range bodies {
		if err := json.Unmarshal([]byte(b), &lists[i]); err != nil {
			return nil, fmt.Errorf("reading the lists: %w", err)
		}
	}
	return lists, nil
}

// PutList keeps a list, in place of the one of that name if there is one.
func (s *Store) PutList(ctx context.Context, l flora.List) error {
	body, err := json.Marshal(l)
	if err != nil {
		return fmt.Errorf("writing list %q: %w", l.Name, err)
	}
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		_, err := tx.ExecContext(ctx, `INSERT INTO list (name, body) VALUES (?, ?)
			ON CONFLICT (name) DO UPDATE SET body = excluded.body`, l.Name, string(body))
		return err
	})
}

// DropList removes a list that no tree is ranked among, or gives [ErrNoList] or
// [ErrListInUse].
func (s *Store) DropList(ctx context.Context, name string) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		var used int
		if err := tx.GetContext(ctx, &used, `SELECT count(*) FROM tree WHERE region = ? OR id IN
			(SELECT tree_id FROM entry WHERE body ->> '$.facts.region' = ?)`, name, name); err != nil {
			return err
		}
		if used > 0 {
			return ErrListInUse
		}
		res, err := tx.ExecContext(ctx, "DELETE FROM list WHERE name = ?", name)
		if err != nil {
			return err
		}
		if n, err := res.RowsAffected(); err != nil || n == 0 {
			return errors.Join(err, ErrNoList)
		}
		return nil
	})
}
