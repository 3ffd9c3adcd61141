package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"palethicket/core/flora"
)

// Errors about lists that callers tell apart, and who returns them.
var (
	ErrNoList    = errors.New("there is no such list")            // DropList
	ErrListInUse = errors.New("trees are ranked among this list") // DropList
)

// Lists gives the book's own lists, by name.
func (r Reader) Lists(ctx context.Context) ([]flora.List, error) {
	var bodies []string
	if err := r.all(ctx, &bodies, "SELECT body FROM list ORDER BY name"); err != nil {
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
func (t *Tx) PutList(ctx context.Context, l flora.List) error {
	body, err := json.Marshal(l)
	if err != nil {
		return fmt.Errorf("writing list %q: %w", l.Name, err)
	}
	return t.exec(
		ctx,
		"INSERT INTO list (name, body) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET body = excluded.body",
		l.Name,
		string(body),
	)
}

// HasList says whether the book has a list of its own of the name.
func (r Reader) HasList(ctx context.Context, name string) (has bool, err error) {
	return has, r.get(ctx, &has, "SELECT count(*) > 0 FROM list WHERE name = ?", name)
}

// DropList removes a list that no tree is or was ranked among, or gives [ErrNoList]
// or [ErrListInUse].
func (t *Tx) DropList(ctx context.Context, name string) error {
	var used int
	err := t.get(
		ctx,
		&used,
		`SELECT (SELECT count(*) FROM tree WHERE list = ?) + (SELECT count(*) FROM entry WHERE body ->> '$.facts.among.list' = ?)`,
		name,
		name,
	)
	if err != nil {
		return fmt.Errorf("looking who is ranked among %q: %w", name, err)
	}
	if used > 0 {
		return ErrListInUse
	}
	return t.changed(ctx, ErrNoList, "DELETE FROM list WHERE name = ?", name)
}
