//go:build !js

package exchange

import (
	"context"
	"database/sql"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/encoding/wkb"
	_ "modernc.org/sqlite" // a GeoPackage is a SQLite file

	"palethicket/core/measure/earth"
)

// The tables that a GeoPackage needs (OGC 12-128r18, GeoPackage 1.3, clauses 1.1 and 2.1).
const gpkgTables = `
PRAGMA application_id = 0x47504B47;
PRAGMA user_version = 10300;
CREATE TABLE gpkg_spatial_ref_sys (srs_name TEXT NOT NULL, srs_id INTEGER PRIMARY KEY, organization TEXT NOT NULL,
	organization_coordsys_id INTEGER NOT NULL, definition TEXT NOT NULL, description TEXT);
INSERT INTO gpkg_spatial_ref_sys VALUES
	('Undefined cartesian SRS', -1, 'NONE', -1, 'undefined', NULL),
	('Undefined geographic SRS', 0, 'NONE', 0, 'undefined', NULL),
	('WGS 84 geodetic', 4326, 'EPSG', 4326, 'GEOGCS["WGS 84",DATUM["WGS_1984",SPHEROID["WGS 84",6378137,298.257223563]],' ||
		'PRIMEM["Greenwich",0],UNIT["degree",0.0174532925199433],AXIS["Latitude",NORTH],AXIS["Longitude",EAST],AUTHORITY["EPSG","4326"]]', NULL);
CREATE TABLE gpkg_contents (table_name TEXT NOT NULL PRIMARY KEY, data_type TEXT NOT NULL, identifier TEXT UNIQUE,
	description TEXT DEFAULT '',
	last_change DATETIME NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ','now')), min_x DOUBLE, min_y DOUBLE, max_x DOUBLE, max_y DOUBLE,
	srs_id INTEGER REFERENCES gpkg_spatial_ref_sys(srs_id));
CREATE TABLE gpkg_geometry_columns (table_name TEXT NOT NULL UNIQUE REFERENCES gpkg_contents(table_name), column_name TEXT NOT NULL,
	geometry_type_name TEXT NOT NULL, srs_id INTEGER NOT NULL REFERENCES gpkg_spatial_ref_sys(srs_id), z TINYINT NOT NULL, m TINYINT NOT NULL,
	PRIMARY KEY (table_name, column_name));
CREATE TABLE boundaries (fid INTEGER PRIMARY KEY AUTOINCREMENT, geom MULTIPOLYGON, tract TEXT, stand TEXT, remarks TEXT);
`

// writeGeoPackage writes the layers trees and boundaries. It is made in a file beside, as SQLite writes to no stream.
func writeGeoPackage(w io.Writer, trees Trees, about About) (err error) {
	folder, err := os.MkdirTemp("", "palethicket-gpkg")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(folder)) }()
	path := filepath.Join(folder, "trees.gpkg")
	if err := fillGeoPackage(path, trees, about); err != nil {
		return err
	}
	file, err := os.Open(path)
	if err != nil {
		return err
	}
	_, err = io.Copy(w, file)
	return errors.Join(err, file.Close())
}

func fillGeoPackage(path string, trees Trees, about About) (err error) {
	db, err := sql.Open("sqlite", "file:"+path+"?_pragma=journal_mode(MEMORY)&_pragma=synchronous(OFF)")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	db.SetMaxOpenConns(1)
	var columns, marks []string
	for _, f := range placeless() {
		kind := "TEXT"
		if f.Unit() != "" || f.ID == "within_m" || f.ID == "leader_posterior" {
			kind = "REAL"
		}
		columns, marks = append(columns, f.ID+" "+kind), append(marks, "?")
	}
	layer := "CREATE TABLE trees (fid INTEGER PRIMARY KEY AUTOINCREMENT, geom POINT, " + strings.Join(columns, ", ") + ")"
	if _, err := db.Exec(gpkgTables + layer); err != nil {
		return err
	}
	tx, err := db.Begin()
	if err != nil {
		return err
	}
	add, err := tx.Prepare("INSERT INTO trees VALUES (NULL, ?, " + strings.Join(marks, ", ") + ")")
	if err != nil {
		return err
	}
	bounds := orb.Bound{Min: orb.Point{180, 90}, Max: orb.Point{-180, -90}}
	err = trees(func(t *Tree) error {
		row := []any{nil}
		if t.Position != nil {
			at := orb.Point{t.Position.Lon, t.Position.Lat}
			bounds = bounds.Extend(at)
			if row[0], err = gpkgShape(at); err != nil {
				return err
			}
		}
		for _, f := range placeless() {
			if text := f.text(t); text == "" {
				row = append(row, nil)
			} else {
				row = append(row, text)
			}
		}
		_, err := add.Exec(row...)
		return err
	})
	for _, b := range about.Boundaries {
		var shape []byte
		if err == nil {
			shape, err = gpkgShape(orb.MultiPolygon(polygons(b.Area)))
		}
		if err == nil {
			_, err = tx.Exec("INSERT INTO boundaries VALUES (NULL, ?, ?, ?, ?)", shape, b.Tract, b.Stand, b.Remarks)
		}
	}
	for _, layer := range [][2]string{{"trees", "POINT"}, {"boundaries", "MULTIPOLYGON"}} {
		if err == nil {
			_, err = tx.Exec(`INSERT INTO gpkg_contents (table_name, data_type, identifier, min_x, min_y, max_x, max_y, srs_id)
				VALUES (?, 'features', ?, ?, ?, ?, ?, 4326)`, layer[0], layer[0], bounds.Min[0], bounds.Min[1], bounds.Max[0], bounds.Max[1])
		}
		if err == nil {
			_, err = tx.Exec("INSERT INTO gpkg_geometry_columns VALUES (?, 'geom', ?, 4326, 0, 0)", layer[0], layer[1])
		}
	}
	if err != nil {
		return errors.Join(err, tx.Rollback())
	}
	return tx.Commit()
}

// placeless are the fields that are written, but for the position, which is the shape.
func placeless() (out []*Field) {
	for i := range Fields {
		if f := &Fields[i]; f.text != nil && !f.onGrid() && !f.isDegree() {
			out = append(out, f)
		}
	}
	return out
}

// gpkgShape is a shape as GeoPackage keeps it (clause 2.1.3): a heading without an envelope, then WKB.
func gpkgShape(g orb.Geometry) ([]byte, error) {
	body, err := wkb.Marshal(g, binary.LittleEndian)
	if err != nil {
		return nil, err
	}
	head := []byte{'G', 'P', 0, 1, 0, 0, 0, 0}
	binary.LittleEndian.PutUint32(head[4:], 4326)
	return append(head, body...), nil
}

// gpkgTime is how long a GeoPackage may take to be read: what is asked of it could be made to take forever.
const gpkgTime = 30 * time.Second

// readGeoPackage reads the layer of points, or of several the one called trees.
func readGeoPackage(file []byte) (sheet *Sheet, err error) {
	folder, err := os.MkdirTemp("", "palethicket-gpkg")
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(folder)) }()
	path := filepath.Join(folder, "in.gpkg")
	if err := os.WriteFile(path, file, 0o600); err != nil {
		return nil, err
	}
	asked := url.Values{"mode": {"ro"}, "immutable": {"1"}, "_pragma": {"trusted_schema(0)", "cell_size_check(1)"}}
	db, err := sql.Open("sqlite", "file:"+path+"?"+asked.Encode())
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	ctx, stop := context.WithTimeout(context.Background(), gpkgTime)
	defer stop()
	table, shape, grid, err := pointLayer(ctx, db)
	if err != nil {
		return nil, err
	}
	return readLayer(ctx, db, table, shape, grid)
}

// pointLayer finds the layer of trees, and the coordinates that it is in.
func pointLayer(ctx context.Context, db *sql.DB) (table, shape string, grid int, err error) {
	rows, err := db.QueryContext(ctx, `SELECT g.table_name, g.column_name, r.organization_coordsys_id FROM gpkg_geometry_columns AS g
		JOIN gpkg_spatial_ref_sys AS r ON r.srs_id = g.srs_id JOIN sqlite_schema AS s ON s.name = g.table_name AND s.type = 'table'
		WHERE upper(g.geometry_type_name) IN ('POINT', 'GEOMETRY') ORDER BY lower(g.table_name) <> 'trees', g.table_name`)
	if err != nil {
		return "", "", 0, fmt.Errorf("it is a database, but no GeoPackage; save the layer of trees as GeoPackage or GeoJSON: %w", err)
	}
	defer rows.Close()
	if !rows.Next() {
		none := errors.New("it has no layer of points; trees are points, and boundaries are put in with the stand")
		return "", "", 0, errors.Join(none, rows.Err())
	}
	if err := rows.Scan(&table, &shape, &grid); err != nil {
		return "", "", 0, err
	}
	if grid != 4326 && !(grid > 32600 && grid <= 32660) && !(grid > 32700 && grid <= 32760) {
		return "", "", 0, fmt.Errorf("its layer %s is in coordinates of EPSG:%d; save it in WGS 84 (EPSG:4326) or a UTM zone of it", table, grid)
	}
	return table, shape, grid, nil
}

func quoted(name string) string { return `"` + strings.ReplaceAll(name, `"`, `""`) + `"` }

func readLayer(ctx context.Context, db *sql.DB, table, shape string, grid int) (*Sheet, error) {
	rows, err := db.QueryContext(ctx, "SELECT * FROM "+quoted(table))
	if err != nil {
		return nil, fmt.Errorf("reading its layer %s: %w", table, err)
	}
	defer rows.Close()
	names, err := rows.Columns()
	if err != nil {
		return nil, err
	}
	sheet, of := &Sheet{Format: "gpkg"}, -1
	for i, name := range names {
		switch {
		case name == shape:
			of = i
		case strings.EqualFold(name, "fid"): // the file's own count
			names[i] = ""
			sheet.Columns = append(sheet.Columns, "")
		default:
			sheet.Columns = append(sheet.Columns, name)
		}
	}
	if of < 0 {
		return nil, fmt.Errorf("its layer %s has no column %s, where the points should be", table, shape)
	}
	sheet.Columns = append(sheet.Columns, "lat", "lon")
	for rows.Next() {
		values, to := make([]any, len(names)), make([]any, len(names))
		for i := range values {
			to[i] = &values[i]
		}
		if err := rows.Scan(to...); err != nil {
			return nil, fmt.Errorf("reading its layer %s: %w", table, err)
		}
		row := Row{At: fmt.Sprintf("point %d", len(sheet.Rows)+1)}
		var lat, lon string
		for i, v := range values {
			if i == of {
				lat, lon, err = gpkgPoint(v, grid)
				if err != nil {
					return nil, fmt.Errorf("%s of layer %s: %w", row.At, table, err)
				}
				continue
			}
			row.Cells = append(row.Cells, sqlCell(v))
		}
		row.Cells = append(row.Cells, lat, lon)
		if err := sheet.take(row.At, row.Cells); err != nil {
			return nil, err
		}
		sheet.Rows = append(sheet.Rows, row)
	}
	return sheet, rows.Err()
}

// sqlCell writes a value of a database as a table would.
func sqlCell(v any) string {
	switch v := v.(type) {
	case nil:
		return ""
	case []byte:
		return string(v)
	case time.Time:
		return v.Format(time.DateOnly)
	}
	return cell(jsonable(v))
}

func jsonable(v any) any {
	if n, ok := v.(int64); ok {
		return float64(n)
	}
	return v
}

// gpkgPoint reads a point as GeoPackage keeps it, and gives its degrees.
func gpkgPoint(v any, grid int) (lat, lon string, err error) {
	body, ok := v.([]byte)
	if v == nil {
		return "", "", nil
	}
	// After the heading of 8 bytes comes an envelope, whose length the flags say.
	envelopes := []int{0, 32, 48, 48, 64}
	if !ok || len(body) < 8 || body[0] != 'G' || body[1] != 'P' || int(body[3]>>1&7) >= len(envelopes) {
		return "", "", errors.New("it has no shape that can be read")
	}
	if body[3]&0x10 != 0 { // an empty one
		return "", "", nil
	}
	from := 8 + envelopes[body[3]>>1&7]
	if len(body) < from {
		return "", "", errors.New("it has no shape that can be read")
	}
	shape, err := wkb.Unmarshal(body[from:])
	if err != nil {
		return "", "", fmt.Errorf("it has no shape that can be read: %w", err)
	}
	at, ok := shape.(orb.Point)
	if !ok {
		return "", "", fmt.Errorf("it is a %s; trees are points", shape.GeoJSONType())
	}
	if grid != 4326 {
		p, err := earth.FromUTM(earth.UTM{Zone: grid % 100, South: grid > 32700, Easting: at[0], Northing: at[1]})
		if err != nil {
			return "", "", err
		}
		at = orb.Point{p.Lon, p.Lat}
	}
	return cell(at[1]), cell(at[0]), nil
}
