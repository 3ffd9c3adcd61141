package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"

	"palethicket/core/tree/logbook"
)

// Visit is a day's walk in a tract. Every look belongs to one.
type Visit struct {
	ID      string `db:"id" json:"id" minLength:"26" maxLength:"26" doc:"ULID, made by who enters the visit"`
	Tract   string `db:"tract" json:"tract" minLength:"1" maxLength:"80"`
	Day     string `db:"day" json:"day" format:"date"`
	Crew    string `db:"crew" json:"crew,omitempty" maxLength:"200"`
	Weather string `db:"weather" json:"weather,omitempty" maxLength:"200"`
	Snow    string `db:"snow" json:"snow,omitempty" enum:"none,patchy,deep" default:"none"`
	Remarks string `db:"remarks" json:"remarks,omitempty" maxLength:"2000"`
	Trees   int    `db:"trees" json:"trees,omitempty" readOnly:"true" doc:"Trees looked at"`
	Looks   int    `db:"looks" json:"looks,omitempty" readOnly:"true"`
}

const selectVisit = `SELECT visit.id, tract.name AS tract, visit.day, visit.crew, visit.weather, visit.snow, visit.remarks,
	count(DISTINCT entry.tree_id) AS trees, count(entry.id) AS looks
	FROM visit JOIN tract ON tract.id = visit.tract_id LEFT JOIN entry ON entry.visit_id = visit.id`

// Visits gives a tract's visits, or all, the latest first.
func (s *Store) Visits(ctx context.Context, tract string) ([]Visit, error) {
	visits := []Visit{}
	err := s.read.SelectContext(ctx, &visits, selectVisit+` WHERE ? IN ('', tract.name)
		GROUP BY visit.id ORDER BY visit.day DESC, visit.id DESC`, tract)
	if err != nil {
		return nil, fmt.Errorf("listing visits: %w", err)
	}
	return visits, nil
}

// VisitsOf gives the visit of each look of a tree, by the look's id.
func (s *Store) VisitsOf(ctx context.Context, tree string) (map[string]Visit, error) {
	var rows []struct {
		Look string `db:"look"`
		Visit
	}
	err := s.read.SelectContext(ctx, &rows, `SELECT entry.id AS look, visit.id, tract.name AS tract, visit.day, visit.crew,
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
func (s *Store) PutVisit(ctx context.Context, v Visit) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		tract, err := named(ctx, tx, "SELECT id FROM tract WHERE name = ?", "INSERT INTO tract (id, name) VALUES (?, ?)", v.Tract)
		if err != nil {
			return err
		}
		_, err = tx.ExecContext(ctx, `INSERT INTO visit (id, tract_id, day, crew, weather, snow, remarks) VALUES (?, ?, ?, ?, ?, ?, ?)
			ON CONFLICT (id) DO UPDATE SET day = excluded.day, crew = excluded.crew, weather = excluded.weather,
			snow = excluded.snow, remarks = excluded.remarks`, v.ID, tract, v.Day, v.Crew, v.Weather, v.Snow, v.Remarks)
		return err
	})
}

// visitOf is the visit that a look names, or the last one of its day in the
// tract, which is made where there is none.
func visitOf(ctx context.Context, tx *sqlx.Tx, tract string, e *logbook.Entry) (id string, err error) {
	if e.Visit != "" {
		err := tx.GetContext(ctx, &id, "SELECT id FROM visit WHERE id = ? AND tract_id = ?", e.Visit, tract)
		return id, noRow(err, ErrNoVisit)
	}
	at := logbook.When(e.ID)
	day := at.Local().Format(time.DateOnly)
	err = tx.GetContext(ctx, &id, "SELECT id FROM visit WHERE tract_id = ? AND day = ? ORDER BY id DESC LIMIT 1", tract, day)
	if errors.Is(err, sql.ErrNoRows) {
		id = ulid.MustNew(ulid.Timestamp(at), ulid.DefaultEntropy()).String()
		_, err = tx.ExecContext(ctx, "INSERT INTO visit (id, tract_id, day, crew) VALUES (?, ?, ?, ?)", id, tract, day, e.By)
	}
	return id, err
}

// giveVisits finds a visit for each look that has none, as books from before
// there were visits.
func (s *Store) giveVisits(ctx context.Context) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		var rows []struct {
			ID    string `db:"id"`
			Tract string `db:"tract_id"`
			By    string `db:"by"`
		}
		err := tx.SelectContext(ctx, &rows, `SELECT entry.id, tree.tract_id, coalesce(entry.body ->> '$.by', '') AS by
			FROM entry JOIN tree ON tree.id = entry.tree_id
			WHERE entry.visit_id IS NULL AND entry.body ->> '$.kind' = 'look' ORDER BY entry.id`)
		if err != nil {
			return err
		}
		for _, r := range rows {
			visit, err := visitOf(ctx, tx, r.Tract, &logbook.Entry{ID: r.ID, By: r.By})
			if err != nil {
				return err
			}
			if _, err := tx.ExecContext(ctx, "UPDATE entry SET visit_id = ? WHERE id = ?", visit, r.ID); err != nil {
				return err
			}
		}
		return nil
	})
}
