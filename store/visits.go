package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/oklog/ulid/v2"

	"palethicket/core/tree/logbook"
)

// Visit is a day's walk in a tract. Every look belongs to one.
type Visit struct {
	ID      string `db:"id"`
	Tract   string `db:"tract"`
	Day     string `db:"day"` // as 2026-01-31
	Crew    string `db:"crew"`
	Weather string `db:"weather"`
	Snow    string `db:"snow"`
	Remarks string `db:"remarks"`
	Trees   int    `db:"trees"` // looked at
	Looks   int    `db:"looks"`
}

const selectVisit = `SELECT visit.id, tract.name AS tract, visit.day, visit.crew, visit.weather, visit.snow, visit.remarks,
	count(DISTINCT entry.tree_id) AS trees, count(entry.id) AS looks
	FROM visit JOIN tract ON tract.id = visit.tract_id LEFT JOIN entry ON entry.visit_id = visit.id`

// Visits gives a tract's visits, or all, the latest first.
func (r Reader) Visits(ctx context.Context, tract string) ([]Visit, error) {
	visits := []Visit{}
	err := r.all(ctx, &visits, selectVisit+` WHERE ? IN ('', tract.name)
		GROUP BY visit.id ORDER BY visit.day DESC, visit.id DESC`, tract)
	if err != nil {
		return nil, fmt.Errorf("listing visits: %w", err)
	}
	return visits, nil
}

// VisitsOf gives the visit of each look of a tree, by the look's id.
func (r Reader) VisitsOf(ctx context.Context, tree string) (map[string]Visit, error) {
	var rows []struct {
		Look string `db:"look"`
		Visit
	}
	err := r.all(ctx, &rows, `SELECT entry.id AS look, visit.id, tract.name AS tract, visit.day, visit.crew,
		visit.weather, visit.snow, visit.remarks, 0 AS trees, 0 AS looks
		FROM entry JOIN visit ON visit.id = entry.visit_id JOIN tract ON tract.id = visit.tract_id WHERE entry.tree_id = ?`, tree)
	if err != nil {
		return nil, fmt.Errorf("reading the visits of tree %s: %w", tree, err)
	}
	visits := make(map[string]Visit, len(rows))
	for _, r := range rows {
		visits[r.Look] = r.Visit
	}
	return visits, nil
}

// PutVisit keeps a visit, in place of the one of that id if there is one.
func (t *Tx) PutVisit(ctx context.Context, v Visit) error {
	tract, err := t.tractOf(ctx, v.Tract)
	if err != nil {
		return err
	}
	return t.exec(ctx, `INSERT INTO visit (id, tract_id, day, crew, weather, snow, remarks) VALUES (?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (id) DO UPDATE SET day = excluded.day, crew = excluded.crew, weather = excluded.weather,
		snow = excluded.snow, remarks = excluded.remarks`, v.ID, tract, v.Day, v.Crew, v.Weather, v.Snow, v.Remarks)
}

// visitOf is the visit that a look names, or the last one of its day in the tree's
// tract, which is made where there is none.
func (t *Tx) visitOf(ctx context.Context, tree string, e *logbook.Entry) (id string, err error) {
	var tract string
	if err := t.get(ctx, &tract, "SELECT tract_id FROM tree WHERE id = ?", tree); err != nil {
		return "", noRow(err, ErrNoTree)
	}
	if e.Visit != "" {
		err := t.get(ctx, &id, "SELECT id FROM visit WHERE id = ? AND tract_id = ?", e.Visit, tract)
		return id, noRow(err, ErrNoVisit)
	}
	at := logbook.When(e.ID)
	day := at.Local().Format(time.DateOnly)
	err = t.get(ctx, &id, "SELECT id FROM visit WHERE tract_id = ? AND day = ? ORDER BY id DESC LIMIT 1", tract, day)
	if errors.Is(err, sql.ErrNoRows) {
		id = ulid.MustNew(ulid.Timestamp(at), ulid.DefaultEntropy()).String()
		err = t.exec(ctx, "INSERT INTO visit (id, tract_id, day, crew) VALUES (?, ?, ?, ?)", id, tract, day, e.By)
	}
	return id, err
}

// giveVisits finds a visit for each look that has none, as books from before
// there were visits.
func (s *Store) giveVisits(ctx context.Context) error {
	return s.Write(ctx, func(t *Tx) error {
		var rows []struct {
			ID   string `db:"id"`
			Tree string `db:"tree_id"`
			By   string `db:"by"`
		}
		err := t.all(ctx, &rows, `SELECT id, tree_id, coalesce(body ->> '$.by', '') AS by FROM entry
			WHERE visit_id IS NULL AND body ->> '$.kind' = 'look' ORDER BY id`)
		if err != nil {
			return err
		}
		for _, row := range rows {
			visit, err := t.visitOf(ctx, row.Tree, &logbook.Entry{ID: row.ID, By: row.By})
			if err != nil {
				return err
			}
			if err := t.exec(ctx, "UPDATE entry SET visit_id = ? WHERE id = ?", visit, row.ID); err != nil {
				return err
			}
		}
		return nil
	})
}
