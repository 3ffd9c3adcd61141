package exchange

import (
	"bytes"
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"slices"
	"strconv"
	"strings"

	orbjson "github.com/paulmach/orb/geojson"
)

// readGeoJSON takes each feature as a line: its properties are the columns, its
// geometry gives lat and lon. Areas and lines are not trees and are refused.
func readGeoJSON(file []byte) (*Sheet, error) {
	sheet := &Sheet{Format: "geojson"}
	at := map[string]int{} // the column of each key
	err := eachOf(file, "features", func(i int, raw json.RawMessage) error {
		row := Row{At: fmt.Sprintf("feature %d", i+1)}
		position, err := sheet.feature(&row, raw, at)
		if err != nil {
			return fmt.Errorf("feature %d: %w", i+1, err)
		}
		if err := sheet.take(row.At, row.Cells); err != nil {
			return err
		}
		row.Cells = append(row.Cells, position[:]...) // put in their columns below
		sheet.Rows = append(sheet.Rows, row)
		return nil
	})
	if err != nil {
		return nil, fmt.Errorf("it is not a GeoJSON feature collection of trees: %w", err)
	}
	sheet.order(at)
	return sheet, nil
}

// feature reads one feature's properties into the columns of their keys, and gives its
// latitude and longitude.
func (s *Sheet) feature(row *Row, raw json.RawMessage, at map[string]int) (position [2]string, err error) {
	var f struct {
		Properties map[string]any `json:"properties"`
		Geometry   *struct {
			Type        string          `json:"type"`
			Coordinates json.RawMessage `json:"coordinates"`
		} `json:"geometry"`
	}
	if string(raw) == "null" {
		return position, errors.New("it is null; leave it out")
	}
	if err := json.Unmarshal(raw, &f); err != nil {
		return position, err
	}
	props := make(map[string]string, len(f.Properties))
	for key, value := range f.Properties {
		props[key] = cell(value)
	}
	if err := s.properties(row, props, at); err != nil {
		return position, err
	}
	if f.Geometry == nil {
		return position, nil
	}
	if f.Geometry.Type != "Point" {
		return position, fmt.Errorf("it is a %s; trees are points. Boundaries are put in with the stand, on the map", f.Geometry.Type)
	}
	var point []float64
	if err := json.Unmarshal(f.Geometry.Coordinates, &point); err != nil || len(point) < 2 {
		return position, errors.New("its point is not a longitude and a latitude")
	}
	return [2]string{strconv.FormatFloat(point[1], 'f', -1, 64), strconv.FormatFloat(point[0], 'f', -1, 64)}, nil
}

// properties puts what a place says into the columns of its keys; at holds those.
func (s *Sheet) properties(row *Row, props map[string]string, at map[string]int) error {
	for key, value := range props {
		if key == "lat" || key == "lon" {
			continue
		}
		column, ok := at[key]
		if !ok {
			if column = len(at); column >= maxCols-2 {
				return tooMuch("the places have more than %d properties", maxCols-2)
			}
			at[strings.Clone(key)] = column
		}
		for len(row.Cells) <= column {
			row.Cells = append(row.Cells, "")
		}
		row.Cells[column] = value
	}
	return nil
}

// order puts the columns in the order of their names, latitude and longitude last.
func (s *Sheet) order(at map[string]int) {
	names := slices.Sorted(maps.Keys(at))
	s.Columns = append(names, "lat", "lon")
	for i := range s.Rows {
		was := s.Rows[i].Cells
		position := was[len(was)-2:]
		cells := make([]string, len(s.Columns))
		for c, name := range names {
			if from := at[name]; from < len(was)-2 {
				cells[c] = was[from]
			}
		}
		copy(cells[len(names):], position)
		s.Rows[i].Cells = cells
	}
}

// eachOf hands on each element of an array in a JSON object, one after another.
func eachOf(file []byte, field string, use func(i int, raw json.RawMessage) error) error {
	dec := json.NewDecoder(bytes.NewReader(file))
	if t, err := dec.Token(); err != nil || t != json.Delim('{') {
		return cmp.Or(err, errors.New("want an object"))
	}
	for found := false; ; {
		key, err := dec.Token()
		if err != nil {
			return err
		}
		switch key {
		case json.Delim('}'):
			if !found {
				return fmt.Errorf("there is no %q in it", field)
			}
			return nil
		case field:
			if found {
				return fmt.Errorf("%q stands twice in it", field)
			}
			found = true
			err = eachElement(dec, use)
		default:
			var skipped json.RawMessage
			err = dec.Decode(&skipped)
		}
		if err != nil {
			return err
		}
	}
}

func eachElement(dec *json.Decoder, use func(i int, raw json.RawMessage) error) error {
	if t, err := dec.Token(); err != nil || t != json.Delim('[') {
		return cmp.Or(err, errors.New("want a list"))
	}
	for i := 0; dec.More(); i++ {
		var raw json.RawMessage
		if err := dec.Decode(&raw); err != nil {
			return err
		}
		if len(raw) > maxItem {
			return tooMuch("number %d is larger than %d MB", i+1, maxItem>>20)
		}
		if err := use(i, raw); err != nil {
			return err
		}
	}
	_, err := dec.Token()
	return err
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
			if f.text == nil || f.onGrid() || f.isDegree() {
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

// WriteBoundaries writes a feature for each boundary.
func WriteBoundaries(w io.Writer, all []Boundary) error {
	out := orbjson.NewFeatureCollection()
	for _, b := range all {
		f := orbjson.NewFeature(b.Area)
		f.Properties = orbjson.Properties{"tract": b.Tract, "stand": b.Stand, "remarks": b.Remarks}
		out.Append(f)
	}
	text, err := out.MarshalJSON()
	if err == nil {
		_, err = w.Write(text)
	}
	return err
}
