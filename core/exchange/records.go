package exchange

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"palethicket/core/tree/record"
)

// readRecords takes each field record as a line with looks. Fields that the
// format does not know go with the looks, so that they are written again.
func readRecords(file []byte) (*Sheet, error) {
	sheet := &Sheet{
		Format:  "json",
		Columns: []string{"tag", "tract", "stand", "region", "list", "age", "lat", "lon", "date", "observer", "remarks"},
	}
	err := eachOf(file, "records", func(i int, raw json.RawMessage) error {
		row := Row{At: fmt.Sprintf("record %d", i+1), Record: &record.Record{}}
		if err := json.Unmarshal(raw, row.Record); err != nil {
			return fmt.Errorf("record %d does not have the format's shape: %w", i+1, err)
		}
		var err error
		if row.Record.Extra, err = extra(raw); err != nil {
			return fmt.Errorf("record %d: %w", i+1, err)
		}
		row.Cells = recordCells(row.Record)
		if err := sheet.takeScores(row.At, len(row.Record.Looks), countScores(row.Record)); err != nil {
			return err
		}
		sheet.Rows = append(sheet.Rows, row)
		return sheet.take(row.At, row.Cells)
	})
	if err != nil {
		return nil, fmt.Errorf(`it is not a field record, {"records": [...]}: %w`, err)
	}
	return sheet, nil
}

func countScores(rec *record.Record) (n int) {
	for _, l := range rec.Looks {
		n += len(l.Scores)
	}
	return n
}

func recordCells(rec *record.Record) []string {
	lat, lon := "", ""
	if p := rec.Position; p != nil {
		lon, lat = strconv.FormatFloat(p[0], 'f', -1, 64), strconv.FormatFloat(p[1], 'f', -1, 64)
	}
	return []string{rec.ID, rec.Tract, rec.Stand, rec.Region, rec.List, rec.Age, lat, lon, rec.Date, rec.Observer, rec.Note}
}

// writeRecords writes what was looked at of each tree.
func writeRecords(w io.Writer, trees Trees, _ About) error {
	if _, err := io.WriteString(w, `{"records": [`); err != nil {
		return err
	}
	sep := "\n"
	err := trees(func(t *Tree) error {
		rec := record.Record{ID: t.Tag, Region: t.Region, List: t.List}
		if t.Record != nil {
			rec = *t.Record
		}
		if rec.Position == nil && t.Position != nil {
			rec.Position = &[2]float64{t.Position.Lon, t.Position.Lat}
		}
		rec.Tract, rec.Stand, rec.Observer, rec.Note, rec.Date = t.Tract, t.Stand, t.Observer, t.Remarks, day(t.Date)
		text, err := json.Marshal(rec)
		if err != nil {
			return err
		}
		_, err = io.WriteString(w, sep+string(spliced(text, rec.Extra)))
		sep = ",\n"
		return err
	})
	_, end := io.WriteString(w, "\n]}\n")
	return errors.Join(err, end)
}

// knownFields are those of a field record.
var knownFields = func() map[string]bool {
	known := map[string]bool{}
	shape := reflect.TypeFor[record.Record]()
	for i := range shape.NumField() {
		name, _, _ := strings.Cut(shape.Field(i).Tag.Get("json"), ",")
		known[name] = true
	}
	return known
}()

// extra gathers a record's unknown fields into one object, or nil.
func extra(raw json.RawMessage) (json.RawMessage, error) {
	var fields map[string]json.RawMessage
	if err := json.Unmarshal(raw, &fields); err != nil {
		return nil, err
	}
	maps.DeleteFunc(fields, func(name string, _ json.RawMessage) bool { return knownFields[name] })
	if len(fields) == 0 {
		return nil, nil
	}
	return json.Marshal(fields)
}

// spliced adds an object's fields to those of another.
func spliced(object, more json.RawMessage) json.RawMessage {
	if len(more) < len(`{"a":1}`) || more[0] != '{' {
		return object
	}
	return slices.Concat(object[:len(object)-1], []byte(","), more[1:])
}
