package exchange

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"palethicket/core/tree/record"
)

// readArchive takes each occurrence of a Darwin Core Archive as a line, and the
// MeasurementOrFact lines that are scores as its looks.
func readArchive(file []byte) (*Sheet, error) {
	if err := checkZip(file); err != nil {
		return nil, err
	}
	z, err := zip.NewReader(bytes.NewReader(file), int64(len(file)))
	if err != nil {
		return nil, fmt.Errorf("it is not a whole archive: %w", err)
	}
	text, err := unzip(z, "meta.xml")
	if err != nil {
		return nil, fmt.Errorf("it is not a Darwin Core Archive: %w", err)
	}
	var meta metaFile
	if err := xml.Unmarshal(text, &meta); err != nil {
		return nil, fmt.Errorf("its meta.xml cannot be read: %w", err)
	}
	if meta.Core.RowType != occurrence {
		return nil, fmt.Errorf("its core is %s; want occurrences", termName(meta.Core.RowType))
	}
	core, err := readTable(z, &meta.Core)
	if err != nil {
		return nil, err
	}
	sheet := &Sheet{Format: "dwca", Columns: append(slices.Clone(core.terms), ownTypes...)}
	at := map[string]int{}
	for i, cells := range core.rows {
		at[core.ids[i]] = i
		sheet.Rows = append(
			sheet.Rows,
			Row{At: fmt.Sprintf("line %d of %s", i+1+meta.Core.Ignore, meta.Core.File), Cells: append(cells, make([]string, len(ownTypes))...)},
		)
	}
	for i := range meta.Extensions {
		if meta.Extensions[i].RowType != measurement {
			continue
		}
		if err := sheet.measurements(z, &meta.Extensions[i], at); err != nil {
			return nil, err
		}
	}
	return sheet, nil
}

// ownTypes are the measurements that stand beside the terms as columns of their own.
var ownTypes = []string{typeHeight, typeAge, typeVigour, typeRegion, typeList}

// measurements adds the lines of a MeasurementOrFact table to their trees.
func (s *Sheet) measurements(z *zip.Reader, from *metaTable, at map[string]int) error {
	table, err := readTable(z, from)
	if err != nil {
		return err
	}
	columns := make([]int, len(measurementTerms))
	for i, t := range measurementTerms {
		columns[i] = slices.Index(table.terms, t)
	}
	for n, cells := range table.rows {
		row, ok := at[table.ids[n]]
		if !ok {
			return fmt.Errorf("line %d of %s is of an occurrence that is not there: %s", n+1+from.Ignore, from.File, table.ids[n])
		}
		get := func(term int) string {
			if c := columns[term]; c >= 0 && c < len(cells) {
				return cells[c]
			}
			return ""
		}
		kind, value := get(1), get(2)
		if c := slices.Index(ownTypes, kind); c >= 0 {
			s.Rows[row].Cells[len(s.Columns)-len(ownTypes)+c] = value
			continue
		}
		if !strings.Contains(kind, ".") {
			continue // somebody else's measurement
		}
		look, whence, score, err := parseFact(kind, value, get(3), get(5))
		if err != nil {
			return fmt.Errorf("line %d of %s: %w", n+1+from.Ignore, from.File, err)
		}
		s.Rows[row].score(look, whence, score)
	}
	return nil
}

// score puts a score into the look of its number.
func (r *Row) score(look int, from string, s record.Score) {
	if r.Record == nil {
		r.Record = &record.Record{}
	}
	for len(r.Record.Looks) < look && len(r.Record.Looks) < maxLooks {
		r.Record.Looks = append(r.Record.Looks, record.Look{From: from})
	}
	l := &r.Record.Looks[min(look, len(r.Record.Looks))-1]
	l.From = from
	l.Scores = append(l.Scores, s)
}

// maxLooks bounds the looks of one tree in a file.
const maxLooks = 200

// archiveTable is a table of an archive, its columns by the names of their terms.
type archiveTable struct {
	terms []string
	rows  [][]string
	ids   []string
}

func readTable(z *zip.Reader, meta *metaTable) (*archiveTable, error) {
	text, err := unzip(z, meta.File)
	if err != nil {
		return nil, err
	}
	key := meta.ID
	if key == nil {
		key = meta.CoreID
	}
	if key == nil {
		return nil, fmt.Errorf("its meta.xml does not say which column of %s is the id", meta.File)
	}
	r := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(text, []byte("\xef\xbb\xbf"))))
	r.FieldsPerRecord = -1
	r.LazyQuotes = meta.Enclosed == ""
	if sep := strings.ReplaceAll(meta.Terminated, `\t`, "\t"); sep != "" {
		r.Comma = []rune(sep)[0]
	}
	out := &archiveTable{}
	for _, f := range meta.Fields {
		out.terms = append(out.terms, termName(f.Term))
	}
	for n := 0; ; n++ {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			return out, nil
		}
		if err != nil {
			return nil, fmt.Errorf("%s: %w", meta.File, err)
		}
		if n < meta.Ignore {
			continue
		}
		get := func(i int) string {
			if i >= 0 && i < len(cells) {
				return cells[i]
			}
			return ""
		}
		out.ids = append(out.ids, get(key.Index))
		row := make([]string, len(meta.Fields))
		for i, f := range meta.Fields {
			row[i] = get(f.Index)
		}
		out.rows = append(out.rows, row)
	}
}
