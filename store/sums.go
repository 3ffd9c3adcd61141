package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"maps"
	"slices"

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

// counted is a tree as it is added up.
type counted struct {
	Area    float64        `db:"area_m2"`
	Status  string         `db:"status"`
	Rank    string         `db:"given_rank"`
	Given   string         `db:"given"`
	Scores  int            `db:"scores"`
	Profile sql.NullInt64  `db:"profile"`
	Body    sql.NullString `db:"body"`
}

// counted reads the trees of a stand but one, with the posteriors of each.
func (r Reader) counted(ctx context.Context, tract, stand, but string, use func(*counted, Posteriors)) error {
	var rows []counted
	err := r.all(ctx, &rows, `SELECT area_m2, status, given_rank, given, scores, profile, body FROM standing
		LEFT JOIN posterior ON posterior.tree_id = standing.tree_id WHERE aside = 0 AND tract = ? AND stand = ? AND standing.tree_id <> ?`,
		tract, stand, but)
	if err != nil {
		return fmt.Errorf("adding up a stand: %w", err)
	}
	profiles := map[int64]Posteriors{}
	for i := range rows {
		row := &rows[i]
		p := profiles[row.Profile.Int64]
		if row.Profile.Valid && p == nil {
			if err := r.get(ctx, &row.Body, "SELECT body FROM profile WHERE id = ?", row.Profile.Int64); err != nil {
				return fmt.Errorf("reading a profile: %w", err)
			}
		}
		if row.Body.Valid {
			p = nil
			if err := json.Unmarshal([]byte(row.Body.String), &p); err != nil {
				return fmt.Errorf("reading posteriors: %w", err)
			}
		}
		if row.Profile.Valid {
			profiles[row.Profile.Int64] = p
		}
		use(row, p)
	}
	return nil
}

// Bearers gives the taxa that bear a name of a rank: one of a species, several of a genus.
type Bearers func(rank, name string) []string

// named are a tree's chances where it has a name that nothing speaks against: those of the
// taxa that bear it, which together are certain then.
func (p Posteriors) named(bearers []string) Posteriors {
	out, sum := make(Posteriors, len(bearers)), 0.0
	for _, taxon := range bearers {
		sum += p[taxon]
	}
	for _, taxon := range bearers {
		if sum > 0 {
			out[taxon] = p[taxon] / sum
		} else { // the evidence says nothing of them
			out[taxon] = 1 / float64(len(bearers))
		}
	}
	return out
}

// statusNamed is that of a tree whose name nothing speaks against.
const statusNamed = "named"

// Sums adds up the trees of a stand by taxon, and gives how many they are and their
// basal area in square metres. A tree counts for its name where nothing speaks against
// that, else for each taxon by its chance.
func (r Reader) Sums(ctx context.Context, tract, stand string, bearers Bearers) (n int, area float64, sums []composition.Sums, err error) {
	by := map[string]*composition.Sums{}
	err = r.counted(ctx, tract, stand, "", func(t *counted, posteriors Posteriors) {
		n, area = n+1, area+t.Area
		if t.Status == statusNamed {
			if of := bearers(t.Rank, t.Given); len(of) > 0 {
				posteriors = posteriors.named(of)
			}
		}
		for taxon, p := range posteriors {
			s := by[taxon]
			if s == nil {
				s = &composition.Sums{Taxon: taxon}
				by[taxon] = s
			}
			s.Add(p, t.Area)
			if t.Status == statusNamed && t.Given == taxon {
				s.Determined++
			}
		}
	})
	for _, taxon := range slices.Sorted(maps.Keys(by)) {
		sums = append(sums, *by[taxon])
	}
	return n, area, sums, err
}

// Heights are the heights of the trees of a stand, a tract or the book that were measured.
type Heights struct {
	Trees int      `db:"trees"`
	Mean  float64  `db:"mean"`
	Most  float64  `db:"most"`
	Lorey *float64 `db:"lorey"` // mean weighed by basal area (Lorey 1878; from memory)
}

// Heights adds up the heights that were measured in a stand, a tract, or, of no names, the book.
func (r Reader) Heights(ctx context.Context, tract, stand string) (h Heights, err error) {
	err = r.get(ctx, &h, `SELECT count(*) AS trees, coalesce(avg(height_m), 0) AS mean, coalesce(max(height_m), 0) AS most,
		sum(height_m * area_m2) / nullif(sum(area_m2), 0) AS lorey FROM standing
		WHERE height_m > 0 AND aside = 0 AND (? = '' OR tract = ?) AND (? = '' OR stand = ?)`, tract, tract, stand, stand)
	if err != nil {
		return h, fmt.Errorf("adding up heights: %w", err)
	}
	return h, nil
}

// StandCounts gives how many other trees a tree's stand holds that say something
// of what grows there, and their expected number by taxon.
func (r Reader) StandCounts(ctx context.Context, t *Tree) (n int, counts map[string]float64, err error) {
	counts = map[string]float64{}
	err = r.counted(ctx, t.Tract, t.Stand, t.ID, func(c *counted, posteriors Posteriors) {
		if c.Scores == 0 {
			return
		}
		n++
		for taxon, p := range posteriors {
			counts[taxon] += p
		}
	})
	return n, counts, err
}
