package store

import (
	"context"
	"fmt"
	"slices"
)

// Stand is a stand of a tract, and what is known of it.
type Stand struct {
	Tract    string  `db:"tract"`
	Stand    string  `db:"stand"`
	Remarks  string  `db:"remarks"`
	Boundary *string `db:"boundary"` // GeoJSON geometry
	Trees    int     `db:"-"`
	Open     int     `db:"-"` // trees that are not yet named, or in doubt
}

// Stands lists the stands by tract and name.
func (r Reader) Stands(ctx context.Context) ([]Stand, error) {
	var rows []struct {
		Stand
		Changes int `db:"changes"`
	}
	err := r.all(ctx, &rows, `SELECT tract.name AS tract, stand.name AS stand, stand.remarks, stand.boundary, stand.changes
		FROM stand JOIN tract ON tract.id = stand.tract_id ORDER BY tract.name, stand.name`)
	if err != nil {
		return nil, fmt.Errorf("listing stands: %w", err)
	}
	stands := make([]Stand, len(rows))
	for i, row := range rows {
		kept, err := r.stands.of(ctx, r, Place{row.Tract, row.Stand.Stand, row.Changes})
		if err != nil {
			return nil, err
		}
		stands[i] = row.Stand
		stands[i].Trees, stands[i].Open = kept.trees, kept.open
	}
	return stands, nil
}

// Tract is what the map of a tract shows beside its trees: its boundary, a GeoJSON
// geometry, and its terrain, a GeoJSON feature collection of streams and the like.
type Tract struct {
	Tract    string  `db:"name"`
	Boundary *string `db:"boundary"`
	Terrain  *string `db:"terrain"`
	Remarks  string  `db:"remarks"`
}

// Tracts lists the tracts by name.
func (r Reader) Tracts(ctx context.Context) ([]Tract, error) {
	tracts := []Tract{}
	if err := r.all(ctx, &tracts, "SELECT name, boundary, terrain, remarks FROM tract ORDER BY name"); err != nil {
		return nil, fmt.Errorf("listing tracts: %w", err)
	}
	return tracts, nil
}

// TreesAt lists the trees of a stand, those that are set aside too.
func (r Reader) TreesAt(ctx context.Context, tract, stand string) (trees []Tree, err error) {
	err = r.all(ctx, &trees, selectTree+" WHERE tract.name = ? AND stand.name = ? ORDER BY tree.tag, tree.id", tract, stand)
	return trees, err
}

// middleOf is how many trees are enough to tell where a tract is.
const middleOf = 500

// Middle gives the median place of a tract's trees but one, in degrees, or says that none
// has a position.
func (r Reader) Middle(ctx context.Context, tract, but string) (lon, lat float64, has bool, err error) {
	var rows []struct {
		Lon float64 `db:"lon"`
		Lat float64 `db:"lat"`
	}
	err = r.all(ctx, &rows, `SELECT lon, lat FROM standing WHERE aside = 0 AND tract = ? AND tree_id <> ? AND lon IS NOT NULL LIMIT ?`,
		tract, but, middleOf)
	if err != nil || len(rows) == 0 {
		return 0, 0, false, err
	}
	lons, lats := make([]float64, len(rows)), make([]float64, len(rows))
	for i, row := range rows {
		lons[i], lats[i] = row.Lon, row.Lat
	}
	slices.Sort(lons)
	slices.Sort(lats)
	return lons[len(rows)/2], lats[len(rows)/2], true, nil
}
