package store

import (
	"context"
	"fmt"
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
	clear(t.visitOn)
	return t.exec(ctx, `INSERT INTO visit (id, tract_id, day, crew, weather, snow, remarks) VALUES (?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (id) DO UPDATE SET tract_id = excluded.tract_id, day = excluded.day, crew = excluded.crew, weather = excluded.weather,
		snow = excluded.snow, remarks = excluded.remarks`, v.ID, tract, v.Day, v.Crew, v.Weather, v.Snow, v.Remarks)
}

// Visit gives a visit without its counts, or [ErrNoVisit].
func (r Reader) Visit(ctx context.Context, id string) (v Visit, err error) {
	err = r.get(ctx, &v, `SELECT visit.id, tract.name AS tract, visit.day, visit.crew, visit.weather, visit.snow, visit.remarks,
		(SELECT count(*) FROM entry WHERE visit_id = visit.id) AS looks, 0 AS trees
		FROM visit JOIN tract ON tract.id = visit.tract_id WHERE visit.id = ?`, id)
	return v, noRow(err, ErrNoVisit)
}

// VisitOn is [Reader.VisitOn], asked once for the looks of many trees.
func (t *Tx) VisitOn(ctx context.Context, tract, day string) (id string, err error) {
	key := [2]string{tract, day}
	if id, ok := t.visitOn[key]; ok {
		return id, nil
	}
	if id, err = t.Reader.VisitOn(ctx, tract, day); err == nil {
		t.visitOn[key] = id
	}
	return id, err
}

// VisitOn gives the last visit to a tract on a day, or [ErrNoVisit].
func (r Reader) VisitOn(ctx context.Context, tract, day string) (id string, err error) {
	err = r.get(ctx, &id, `SELECT visit.id FROM tract JOIN visit ON visit.tract_id = tract.id AND visit.day = ?
		WHERE tract.name = ? ORDER BY visit.id DESC LIMIT 1`, day, tract)
	return id, noRow(err, ErrNoVisit)
}
