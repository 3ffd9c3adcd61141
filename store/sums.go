package store

import (
	"context"
	"fmt"

	"palethicket/core/stand/composition"
)

// Place is a stand by its names, and how often what stands of its trees changed.
type Place struct {
	Tract   string `db:"tract"`
	Stand   string `db:"stand"`
	Changes int    `db:"changes"`
}

// Places lists the stands of a tract or the book; a stand's name asks for that alone.
func (r Reader) Places(ctx context.Context, tract, stand string) (places []Place, err error) {
	err = r.all(ctx, &places, `SELECT tract.name AS tract, stand.name AS stand, stand.changes FROM stand
		JOIN tract ON tract.id = stand.tract_id WHERE ? IN ('', tract.name) AND ? IN ('', stand.name)`, tract, stand)
	if err != nil {
		return nil, fmt.Errorf("listing stands: %w", err)
	}
	return places, nil
}

// Sums adds up the trees of a stand by taxon, and gives how many they are and their
// basal area in square metres. Trees that share their posteriors are counted
// together.
func (r Reader) Sums(ctx context.Context, tract, stand string) (n int, area float64, sums []composition.Sums, err error) {
	var total struct {
		N    int     `db:"n"`
		Area float64 `db:"area"`
	}
	err = r.get(ctx, &total, `SELECT count(*) AS n, coalesce(sum(area_m2), 0) AS area FROM standing
		WHERE aside = 0 AND tract = ? AND stand = ?`, tract, stand)
	if err != nil {
		return 0, 0, nil, fmt.Errorf("adding up trees: %w", err)
	}
	var rows []struct {
		Taxon      string  `db:"taxon"`
		P          float64 `db:"p"`
		PQ         float64 `db:"pq"`
		Skew       float64 `db:"skew"`
		Area       float64 `db:"area"`
		AreaPQ     float64 `db:"area_pq"`
		Determined int     `db:"determined"`
	}
	err = r.all(ctx, &rows, `SELECT taxon, sum(n * p) AS p, sum(n * p * (1 - p)) AS pq, sum(n * p * (1 - p) * (1 - 2 * p)) AS skew,
		sum(area * p) AS area, sum(area2 * p * (1 - p)) AS area_pq, sum(determined) AS determined FROM (
			SELECT taxon, 1 AS n, p, area_m2 AS area, area_m2 * area_m2 AS area2, determined FROM posterior WHERE tract = ? AND stand = ?
			UNION ALL
			SELECT taxon, n, p, area, area2, 0 FROM (SELECT profile, count(*) AS n, sum(area_m2) AS area, sum(area_m2 * area_m2) AS area2
				FROM standing WHERE aside = 0 AND profile IS NOT NULL AND tract = ? AND stand = ? GROUP BY profile)
			JOIN profile_posterior ON profile_id = profile)
		GROUP BY taxon ORDER BY taxon`, tract, stand, tract, stand)
	if err != nil {
		return 0, 0, nil, fmt.Errorf("adding up taxa: %w", err)
	}
	for _, row := range rows {
		sums = append(sums, composition.Sums(row))
	}
	return total.N, total.Area, sums, nil
}

// StandCounts gives how many other trees a tree's stand holds that say something
// of what grows there, and their expected number by taxon.
func (r Reader) StandCounts(ctx context.Context, t *Tree) (n int, counts map[string]float64, err error) {
	const others = " FROM standing WHERE aside = 0 AND tract = ? AND stand = ? AND tree_id <> ? AND scores > 0"
	if err := r.get(ctx, &n, "SELECT count(*)"+others, t.Tract, t.Stand, t.ID); err != nil {
		return 0, nil, fmt.Errorf("counting a stand: %w", err)
	}
	var rows []TaxonPosterior
	err = r.all(ctx, &rows, `SELECT taxon, sum(p) AS p FROM posterior WHERE tract = ? AND stand = ?
		AND tree_id IN (SELECT tree_id`+others+") GROUP BY taxon", t.Tract, t.Stand, t.Tract, t.Stand, t.ID)
	if err != nil {
		return 0, nil, fmt.Errorf("counting a stand's taxa: %w", err)
	}
	counts = map[string]float64{}
	for _, row := range rows {
		counts[row.Taxon] = row.P
	}
	return n, counts, nil
}
