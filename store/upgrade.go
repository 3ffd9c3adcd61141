package store

import (
	"context"
	"crypto/rand"
	"errors"
	"time"

	"github.com/oklog/ulid/v2"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/stamp"
)

// Settings that say which book it is and what stamps its entries.
const (
	bookSetting = "book"
	nodeSetting = "node"
)

// Identity is which book it is, and the node that stamps what is entered in it. A
// copy has another node than the book it is of.
type Identity struct{ Book, Node string }

// Identity gives which book it is.
func (r Reader) Identity(ctx context.Context) (id Identity, err error) {
	book, errBook := r.Setting(ctx, bookSetting)
	node, errNode := r.Setting(ctx, nodeSetting)
	return Identity{book, node}, errors.Join(errBook, errNode)
}

// nodeDigits is how long a node's name is: one in 10^12.
const nodeDigits = 8

// identify gives a book that has none its id, and its node a name. The first time, it
// also sets right what a book from an older program has otherwise.
func (s *Store) identify(ctx context.Context, now time.Time) error {
	id, err := s.identityToWrite(ctx)
	if err != nil || id.Book != "" && id.Node != "" {
		return err
	}
	return s.Write(ctx, func(t *Tx) error {
		node := rand.Text()[:nodeDigits] // base 32 of RFC 4648: no 0, 1, 8 or 9
		node = onlyULID(node)
		if err := t.PutSetting(ctx, nodeSetting, node); err != nil || id.Book != "" {
			return err
		}
		if err := t.PutSetting(ctx, bookSetting, ulid.Make().String()); err != nil {
			return err
		}
		if err := t.giveVisits(ctx); err != nil {
			return err
		}
		return t.restampFuture(ctx, now, node)
	})
}

func (s *Store) identityToWrite(ctx context.Context) (Identity, error) {
	return Reader{q: s.write, path: s.path}.Identity(ctx)
}

// onlyULID writes letters that ULIDs do not have otherwise.
func onlyULID(text string) string {
	out := []byte(text)
	for i, c := range out {
		switch c {
		case 'I', 'L':
			out[i] = '1'
		case 'O':
			out[i] = '0'
		case 'U':
			out[i] = 'V'
		}
	}
	return string(out)
}

// Ahead is how far a clock may be ahead of the book's before its stamps no longer
// count.
const Ahead = time.Minute

// restampFuture puts entries that fast clocks made after all that was entered, in
// their own order, so that later ones can come after them.
func (t *Tx) restampFuture(ctx context.Context, now time.Time, node string) error {
	var lines []line
	limit := stamp.New(now.Add(Ahead).UnixMilli(), 0, node)
	err := t.all(ctx, &lines, "SELECT seq, stamp, said, tree_id, body FROM entry WHERE stamp > ? ORDER BY stamp, id", limit)
	if err != nil {
		return err
	}
	clock := stamp.NewClock(node, func() time.Time { return now })
	for i := range lines {
		e, err := lines[i].entry()
		if err != nil {
			continue // its tree is unreadable, and says so
		}
		e.Said, e.Stamp = e.Stamp.Time().Format(time.RFC3339), clock.After()
		if err := t.Restamp(ctx, lines[i].Tree.String, &e); err != nil {
			return err
		}
	}
	return nil
}

// giveVisits finds a visit for each look that has none, as books from before there
// were visits.
func (t *Tx) giveVisits(ctx context.Context) error {
	var rows []struct {
		ID    string `db:"id"`
		Tract string `db:"tract"`
		By    string `db:"by"`
		Stamp string `db:"stamp"`
	}
	err := t.all(ctx, &rows, `SELECT entry.id, entry.stamp, tract.name AS tract, coalesce(body ->> '$.by', '') AS by
		FROM entry JOIN tree ON tree.id = entry.tree_id JOIN tract ON tract.id = tree.tract_id
		WHERE visit_id IS NULL AND body ->> '$.kind' = 'look' ORDER BY entry.id`)
	if err != nil {
		return err
	}
	for _, row := range rows {
		day := stamp.Stamp(row.Stamp).Time().Local().Format(time.DateOnly)
		visit, err := t.VisitOn(ctx, row.Tract, day)
		if errors.Is(err, ErrNoVisit) {
			visit = ulid.Make().String()
			walk := &logbook.Visit{ID: visit, Tract: row.Tract, Day: day, Crew: row.By, Snow: "none"}
			if err = t.PutVisit(ctx, Visit{ID: visit, Tract: walk.Tract, Day: day, Crew: walk.Crew, Snow: walk.Snow}); err == nil {
				_, err = t.Append(ctx, "", &logbook.Entry{ID: visit, Stamp: stamp.Stamp(row.Stamp), Kind: logbook.KindVisit, Walk: walk}, "")
			}
		}
		if err != nil {
			return err
		}
		err = t.exec(ctx, "UPDATE entry SET visit_id = ?, body = json_set(body, '$.visit', ?) WHERE id = ?", visit, visit, row.ID)
		if err != nil {
			return err
		}
	}
	return nil
}
