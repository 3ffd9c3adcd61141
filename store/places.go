package store

import (
	"context"
	"fmt"

	"github.com/jmoiron/sqlx"
)

// Place is a stand of a tract, and what is known of it.
type Place struct {
	Tract    string  `db:"tract" json:"tract"`
	Stand    string  `db:"stand" json:"stand"`
	Remarks  string  `db:"remarks" json:"remarks"`
	Boundary *string `db:"boundary" json:"-"` // GeoJSON geometry
	Trees    int     `db:"trees" json:"trees"`
	Open     int     `db:"open" json:"open" doc:"Trees that are not yet named, or in doubt"`
}

// Places lists the stands by tract and name.
func (s *Store) Places(ctx context.Context) ([]Place, error) {
	places := []Place{}
	err := s.read.SelectContext(ctx, &places, `SELECT tract.name AS tract, stand.name AS stand, stand.remarks, stand.boundary,
		coalesce(counted.trees, 0) AS trees, coalesce(counted.open, 0) AS open
		FROM stand JOIN tract ON tract.id = stand.tract_id LEFT JOIN
		(SELECT tract, stand, count(*) AS trees, sum(status <> 'named') AS open FROM standing WHERE aside = 0 GROUP BY tract, stand) AS counted
		ON counted.tract = tract.name AND counted.stand = stand.name ORDER BY tract.name, stand.name`)
	if err != nil {
		return nil, fmt.Errorf("listing stands: %w", err)
	}
	return places, nil
}

// PutPlace keeps a stand's remarks and, where there is one, its boundary. The
// tract and the stand are made when the book has none of the name.
func (s *Store) PutPlace(ctx context.Context, p Place) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		_, stand, err := place(ctx, tx, p.Tract, p.Stand)
		if err != nil {
			return err
		}
		_, err = tx.ExecContext(ctx, "UPDATE stand SET remarks = ?, boundary = coalesce(?, boundary) WHERE id = ?", p.Remarks, p.Boundary, stand)
		return err
	})
}

// Ground is what the map of a tract shows beside its trees: its boundary, a
// GeoJSON geometry, and a GeoJSON feature collection of streams and the like.
type Ground struct {
	Tract    string  `db:"name"`
	Boundary *string `db:"boundary"`
	Ground   *string `db:"ground"`
	Remarks  string  `db:"remarks"`
}

// Grounds lists the tracts by name.
func (s *Store) Grounds(ctx context.Context) ([]Ground, error) {
	grounds := []Ground{}
	if err := s.read.SelectContext(ctx, &grounds, "SELECT name, boundary, ground, remarks FROM tract ORDER BY name"); err != nil {
		return nil, fmt.Errorf("listing tracts: %w", err)
	}
	return grounds, nil
}

// PutGround keeps what is given of a tract; what is nil stays as it was.
func (s *Store) PutGround(ctx context.Context, g Ground) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		id, err := named(ctx, tx, "SELECT id FROM tract WHERE name = ?", "INSERT INTO tract (id, name) VALUES (?, ?)", g.Tract)
		if err != nil {
			return err
		}
		_, err = tx.ExecContext(ctx, "UPDATE tract SET boundary = coalesce(?, boundary), ground = coalesce(?, ground), remarks = ? WHERE id = ?",
			g.Boundary, g.Ground, g.Remarks, id)
		return err
	})
}
