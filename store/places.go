package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"github.com/oklog/ulid/v2"

	"palethicket/core/label"
)

// Errors of tracts and stands.
var (
	ErrNoPlace  = errors.New("the book has no tract or stand of this name")
	ErrNotEmpty = errors.New("something is kept of it")
)

// PlaceNames lists the names of the tracts, and under each those of its stands.
func (r Reader) PlaceNames(ctx context.Context) (map[string][]string, error) {
	var rows []struct {
		Tract string         `db:"tract"`
		Stand sql.NullString `db:"stand"`
	}
	err := r.all(ctx, &rows, `SELECT tract.name AS tract, stand.name AS stand FROM tract LEFT JOIN stand ON stand.tract_id = tract.id
		ORDER BY tract.name, stand.name`)
	if err != nil {
		return nil, fmt.Errorf("listing tracts and stands: %w", err)
	}
	out := map[string][]string{}
	for _, row := range rows {
		stands := out[row.Tract]
		if row.Stand.Valid {
			stands = append(stands, row.Stand.String)
		}
		out[row.Tract] = stands
	}
	return out, nil
}

// PutStand keeps a stand's remarks and, where there is one, its boundary. The tract
// and the stand are made when the book has none of exactly the name.
func (t *Tx) PutStand(ctx context.Context, s Stand) error {
	tract, err := t.tractOf(ctx, s.Tract)
	if err != nil {
		return err
	}
	id, err := t.named(ctx, theStand, tract, s.Stand, true)
	if err != nil {
		return err
	}
	return t.exec(ctx, "UPDATE stand SET remarks = ?, boundary = coalesce(?, boundary) WHERE id = ?", s.Remarks, s.Boundary, id)
}

// PutTract keeps what is given of a tract, which is made when the book has none of
// exactly the name; what is nil stays as it was.
func (t *Tx) PutTract(ctx context.Context, tract Tract) error {
	id, err := t.named(ctx, theTract, "", tract.Tract, true)
	if err != nil {
		return err
	}
	return t.exec(ctx, "UPDATE tract SET boundary = coalesce(?, boundary), terrain = coalesce(?, terrain), remarks = ? WHERE id = ?",
		tract.Boundary, tract.Terrain, tract.Remarks, id)
}

// DropPlace takes a stand out of the book, or, with stand "", a tract. It gives
// [ErrNotEmpty] where something is kept of it, and [ErrNoPlace].
func (t *Tx) DropPlace(ctx context.Context, tract, stand string) error {
	clear(t.ids)
	if stand != "" {
		return t.dropped(ctx, `DELETE FROM stand WHERE name = ? AND tract_id = (SELECT id FROM tract WHERE name = ?)
			AND NOT EXISTS (SELECT 1 FROM tree WHERE stand_id = stand.id) AND NOT EXISTS (SELECT 1 FROM plot WHERE stand_id = stand.id)`,
			`SELECT count(*) FROM stand WHERE name = ? AND tract_id = (SELECT id FROM tract WHERE name = ?)`, stand, tract)
	}
	const empty = `name = ? AND NOT EXISTS (SELECT 1 FROM stand WHERE tract_id = tract.id)
		AND NOT EXISTS (SELECT 1 FROM tree WHERE tract_id = tract.id) AND NOT EXISTS (SELECT 1 FROM visit WHERE tract_id = tract.id)`
	// What was said of it stays in the log, and goes along with every tract.
	if err := t.exec(ctx, "UPDATE entry SET tract_id = NULL WHERE tract_id = (SELECT id FROM tract WHERE "+empty+")", tract); err != nil {
		return err
	}
	return t.dropped(ctx, "DELETE FROM tract WHERE "+empty, "SELECT count(*) FROM tract WHERE name = ?", tract)
}

// dropped deletes one row; where it did not, it says whether the row is there.
func (t *Tx) dropped(ctx context.Context, drop, find string, names ...any) error {
	var there int
	if err := t.get(ctx, &there, find, names...); err != nil {
		return err
	}
	if there == 0 {
		return ErrNoPlace
	}
	return t.changed(ctx, ErrNotEmpty, drop, names...)
}

// standOf finds a tract and a stand by their names, or makes them.
func (t *Tx) standOf(ctx context.Context, tract, stand string) (tractID, standID string, err error) {
	if tractID, err = t.tractOf(ctx, tract); err != nil {
		return "", "", err
	}
	standID, err = t.named(ctx, theStand, tractID, stand, false)
	return tractID, standID, err
}

func (t *Tx) tractOf(ctx context.Context, name string) (id string, err error) {
	return t.named(ctx, theTract, "", name, false)
}

// placeTable is where names of places are found, and how one is made. Counting of
// changes begins at the time, so that a stand of the name of one that was is not taken for it.
type placeTable struct{ all, make string }

var (
	theTract = &placeTable{
		"SELECT id, name FROM tract WHERE ? = ''",
		"INSERT INTO tract (id, name) SELECT ?, ? WHERE ? = ''",
	}
	theStand = &placeTable{
		"SELECT id, name FROM stand WHERE tract_id = ?",
		"INSERT INTO stand (id, name, tract_id, changes) VALUES (?, ?, ?, CAST(unixepoch('subsec') * 1000 AS INTEGER))",
	}
)

// named finds a place by its name, however it is written, or makes one with a new id. In
// exactly the name it is found only as it is written.
func (t *Tx) named(ctx context.Context, table *placeTable, in, name string, exactly bool) (id string, err error) {
	key := fmt.Sprintf("%s%q%q%v", table.all, in, name, exactly)
	if id, ok := t.ids[key]; ok {
		return id, nil
	}
	var rows []struct {
		ID   string `db:"id"`
		Name string `db:"name"`
	}
	if err := t.all(ctx, &rows, table.all, in); err != nil {
		return "", err
	}
	byName, known := map[string]string{}, make([]string, len(rows))
	for i, row := range rows {
		byName[row.Name], known[i] = row.ID, row.Name
	}
	written := name
	if id = byName[name]; id == "" && !exactly {
		written = label.Same(name, known)
		id = byName[written]
	}
	if id == "" {
		id = ulid.Make().String()
		written, err = name, t.exec(ctx, table.make, id, name, in)
	}
	if err == nil {
		t.ids[key], t.written[id] = id, written
	}
	return id, err
}
