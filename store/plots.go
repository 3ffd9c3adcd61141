package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"

	"palethicket/core/tree/logbook"
)

// PutPlot keeps a sample point, in place of the one of that id if there is one; one that was
// entered by mistake is taken out. The stand is made where the book has none of the name.
func (t *Tx) PutPlot(ctx context.Context, p *logbook.Plot) error {
	if p.Gone {
		return t.exec(ctx, "DELETE FROM plot WHERE id = ?", p.ID)
	}
	_, stand, err := t.standOf(ctx, p.Tract, p.Stand)
	if err != nil {
		return err
	}
	body, err := json.Marshal(p)
	if err != nil {
		return fmt.Errorf("keeping a plot: %w", err)
	}
	return t.exec(ctx, `INSERT INTO plot (id, stand_id, body) VALUES (?, ?, ?)
		ON CONFLICT (id) DO UPDATE SET stand_id = excluded.stand_id, body = excluded.body`, p.ID, stand, string(body))
}

// Plots gives the sample points of a stand, of a tract or of all, by stand and name.
func (r Reader) Plots(ctx context.Context, tract, stand string) ([]logbook.Plot, error) {
	var rows []string
	err := r.all(ctx, &rows, `SELECT plot.body FROM plot JOIN stand ON stand.id = plot.stand_id JOIN tract ON tract.id = stand.tract_id
		WHERE ? IN ('', tract.name) AND ? IN ('', stand.name) ORDER BY tract.name, stand.name, plot.body ->> '$.name', plot.id`, tract, stand)
	if err != nil {
		return nil, fmt.Errorf("listing plots: %w", err)
	}
	out := make([]logbook.Plot, len(rows))
	for i, body := range rows {
		if err := json.Unmarshal([]byte(body), &out[i]); err != nil {
			return nil, fmt.Errorf("reading a plot: %w", err)
		}
	}
	return out, nil
}

// Likely gives what trees could be, by id: what their name is where nothing speaks against
// it, else by the evidence; and their diameters in cm (0: not measured). Trees that were set
// aside are left out.
func (r Reader) Likely(ctx context.Context, ids []string, bearers Bearers) (
	names map[string]Posteriors, dbh map[string]float64, err error,
) {
	names, dbh = map[string]Posteriors{}, map[string]float64{}
	for len(ids) > 0 {
		some := ids[:min(len(ids), likelyMost)]
		ids = ids[len(some):]
		var rows []struct {
			ID     string         `db:"tree_id"`
			DBH    float64        `db:"dbh_cm"`
			Status string         `db:"status"`
			Rank   string         `db:"given_rank"`
			Given  string         `db:"given"`
			Body   sql.NullString `db:"body"`
		}
		err := r.all(ctx, &rows, `SELECT standing.tree_id, dbh_cm, status, given_rank, given,
			coalesce(posterior.body, profile.body) AS body FROM standing
			LEFT JOIN posterior ON posterior.tree_id = standing.tree_id LEFT JOIN profile ON profile.id = standing.profile
			WHERE aside = 0 AND standing.tree_id IN (`+marks(len(some))+")", anys(some)...)
		if err != nil {
			return nil, nil, fmt.Errorf("reading what trees could be: %w", err)
		}
		for _, row := range rows {
			var p Posteriors
			if row.Body.Valid {
				if err := json.Unmarshal([]byte(row.Body.String), &p); err != nil {
					return nil, nil, fmt.Errorf("reading posteriors: %w", err)
				}
			}
			if row.Status == statusNamed {
				if of := bearers(row.Rank, row.Given); len(of) > 0 {
					p = p.named(of)
				}
			}
			names[row.ID], dbh[row.ID] = p, row.DBH
		}
	}
	return names, dbh, nil
}

// likelyMost is how many trees are asked for with one statement.
const likelyMost = 500
