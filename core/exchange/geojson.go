package exchange

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"slices"
	"strconv"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"
)

// readGeoJSON takes each feature as a line: its properties are the columns, its
// geometry gives lat and lon. Areas and lines are not trees and are refused.
func readGeoJSON(file []byte) (*Sheet, error) {
	fc, err := geojson.UnmarshalFeatureCollection(file)
	if err != nil {
		return nil, fmt.Errorf("it is not a GeoJSON feature collection: %w", err)
	}
	keys := map[string]bool{}
	for _, f := range fc.Features {
		for k := range f.Properties {
			keys[k] = true
		}
	}
	delete(keys, "lat")
	delete(keys, "lon")
	sheet := &Sheet{Format: "geojson", Columns: append(slices.Sorted(maps.Keys(keys)), "lat", "lon")}
	for i, f := range fc.Features {
		cells := make([]string, len(sheet.Columns))
		for c, k := range sheet.Columns {
			cells[c] = cell(f.Properties[k])
		}
		switch g := f.Geometry.(type) {
		case nil:
		case orb.Point:
			cells[len(cells)-2] = strconv.FormatFloat(g.Lat(), 'f', -1, 64)
			cells[len(cells)-1] = strconv.FormatFloat(g.Lon(), 'f', -1, 64)
		default:
			return nil, fmt.Errorf("feature %d is a %s; trees are points. Boundaries are put in with the stand, on the map", i+1, g.GeoJSONType())
		}
		sheet.Rows = append(sheet.Rows, Row{At: fmt.Sprintf("feature %d", i+1), Cells: cells})
	}
	return sheet, nil
}

// cell writes a JSON value as a table would.
func cell(v any) string {
	switch v := v.(type) {
	case nil:
		return ""
	case string:
		return v
	case float64:
		return strconv.FormatFloat(v, 'f', -1, 64)
	case bool:
		return strconv.FormatBool(v)
	}
	text, err := json.Marshal(v)
	if err != nil {
		return ""
	}
	return string(text)
}

// writeGeoJSON writes a feature for each tree; one without a position has a null
// geometry, as RFC 7946, section 3.2, allows.
func writeGeoJSON(w io.Writer, trees Trees, _ About) error {
	if _, err := io.WriteString(w, `{"type": "FeatureCollection", "features": [`); err != nil {
		return err
	}
	sep := "\n"
	err := trees(func(t *Tree) error {
		props := map[string]any{}
		for _, f := range Fields {
			if f.text == nil || f.ID == "lat" || f.ID == "lon" {
				continue
			}
			if text := f.text(t); text != "" {
				props[f.ID] = text
				if x, ok := number(text); ok && f.ID != "tag" && f.ID != "stand" && f.ID != "tract" {
					props[f.ID] = x
				}
			}
		}
		feature := map[string]any{"type": "Feature", "id": t.ID, "properties": props, "geometry": nil}
		if p := t.Position; p != nil {
			feature["geometry"] = map[string]any{"type": "Point", "coordinates": []float64{p.Lon, p.Lat}}
		}
		text, err := json.Marshal(feature)
		if err != nil {
			return err
		}
		_, err = io.WriteString(w, sep+string(text))
		sep = ",\n"
		return err
	})
	_, end := io.WriteString(w, "\n]}\n")
	return errors.Join(err, end)
}
