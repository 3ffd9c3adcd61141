package store

import (
	"context"
	"fmt"
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

// PutStand keeps a stand's remarks and, where there is one, its boundary. The tract
// and the stand are made when the book has none of the name.
func (t *Tx) PutStand(ctx context.Context, s Stand) error {
	_, id, err := t.standOf(ctx, s.Tract, s.Stand)
	if err != nil {
		return err
	}
	return t.exec(ctx, "UPDATE stand SET remarks = ?, boundary = coalesce(?, boundary) WHERE id = ?", s.Remarks, s.Boundary, id)
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

// PutTract keeps what is given of a tract; what is nil stays as it was.
func (t *Tx) PutTract(ctx context.Context, tract Tract) error {
	id, err := t.tractOf(ctx, tract.Tract)
	if err != nil {
		return err
	}
	return t.exec(ctx, "UPDATE tract SET boundary = coalesce(?, boundary), terrain = coalesce(?, terrain), remarks = ? WHERE id = ?",
		tract.Boundary, tract.Terrain, tract.Remarks, id)
}
