package store

import (
	"context"
	"fmt"
	"strings"
	"sync"
)

// standCache keeps of each stand what lists ask for again and again: how many trees it
// has, and the text that they are searched by. What is kept counts while the stand's
// number of changes is the one it was read at, in whichever snapshot.
type standCache struct {
	mu sync.Mutex
	by map[[2]string]*keptStand
}

// keptStand is a stand as it was read.
type keptStand struct {
	changes     int
	trees, open int
	ids         []string
	find, plain []string // what is searched in, see [plain]
}

// of gives a stand, read again where it changed.
func (c *standCache) of(ctx context.Context, r Reader, p Place) (*keptStand, error) {
	key := [2]string{p.Tract, p.Stand}
	c.mu.Lock()
	kept := c.by[key]
	c.mu.Unlock()
	if kept != nil && kept.changes == p.Changes {
		return kept, nil
	}
	var rows []struct {
		ID     string `db:"tree_id"`
		Find   string `db:"find"`
		Status string `db:"status"`
	}
	err := r.all(ctx, &rows, "SELECT tree_id, find, status FROM standing WHERE aside = 0 AND tract = ? AND stand = ?", p.Tract, p.Stand)
	if err != nil {
		return nil, fmt.Errorf("reading stand %s: %w", p.Stand, err)
	}
	kept = &keptStand{changes: p.Changes, trees: len(rows), ids: make([]string, len(rows))}
	kept.find, kept.plain = make([]string, len(rows)), make([]string, len(rows))
	for i, row := range rows {
		kept.ids[i], kept.find[i], kept.plain[i] = row.ID, row.Find, plain(row.Find)
		if row.Status != "named" {
			kept.open++
		}
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.by == nil {
		c.by = map[[2]string]*keptStand{}
	}
	if now := c.by[key]; now == nil || now.changes < kept.changes {
		c.by[key] = kept
	}
	return kept, nil
}

// mostFound is how many trees are found by their text before they are looked for by an
// index instead.
const mostFound = 500

// withText lists the trees of a query whose text holds what is searched, or says that there are
// too many. Where only few hold it to the letter, those are listed.
func (r Reader) withText(ctx context.Context, q *Query) (ids []string, many bool, err error) {
	places, err := r.Places(ctx, q.Tract, q.Stand)
	if err != nil {
		return nil, false, err
	}
	letters, text := strings.ToLower(q.Text), plain(q.Text)
	var found, exactly []string
	for _, p := range places {
		kept, err := r.stands.of(ctx, r, p)
		if err != nil {
			return nil, false, err
		}
		for i, words := range kept.plain {
			if !strings.Contains(words, text) {
				continue
			}
			if found = append(found, kept.ids[i]); strings.Contains(kept.find[i], letters) {
				exactly = append(exactly, kept.ids[i])
			}
		}
	}
	switch {
	case len(found) <= mostFound:
		return found, false, nil
	case len(exactly) > 0 && len(exactly) <= mostFound:
		return exactly, false, nil
	}
	return nil, true, nil
}

// Warm reads what lists ask for again and again.
func (s *Store) Warm(ctx context.Context) error {
	places, err := s.Places(ctx, "", "")
	for i := 0; i < len(places) && err == nil; i++ {
		_, err = s.stands.of(ctx, s.Reader, places[i])
	}
	return err
}
