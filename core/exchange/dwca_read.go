package exchange

import (
	"archive/zip"
	"bufio"
	"cmp"
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
func readArchive(z *zip.Reader) (*Sheet, error) {
	meta, err := readMeta(z)
	if err != nil {
		return nil, err
	}
	if meta.Core.RowType != occurrence {
		return nil, fmt.Errorf("its core is %s; want occurrences", termName(meta.Core.RowType))
	}
	core := archiveTable{z: z, metaTable: &meta.Core}
	if err := core.open(); err != nil {
		return nil, err
	}
	sheet := &Sheet{Format: "dwca", Columns: append(slices.Clone(core.terms), ownTypes...)}
	at := map[string]int{}
	err = core.each(func(line int, id string, cells []string) error {
		at[id] = len(sheet.Rows)
		row := Row{At: fmt.Sprintf("line %d of %s", line, meta.Core.File), Cells: append(cells, make([]string, len(ownTypes))...)}
		sheet.Rows = append(sheet.Rows, row)
		return sheet.take(row.At, row.Cells)
	})
	if err != nil {
		return nil, err
	}
	for i := range meta.Extensions {
		if meta.Extensions[i].RowType != measurement {
			continue
		}
		if err := sheet.measurements(archiveTable{z: z, metaTable: &meta.Extensions[i]}, at); err != nil {
			return nil, err
		}
	}
	return sheet, nil
}

func readMeta(z *zip.Reader) (*metaFile, error) {
	file, err := unzip(z, "meta.xml", maxMeta)
	if err != nil {
		return nil, fmt.Errorf("it is not a Darwin Core Archive: %w", err)
	}
	defer file.Close()
	var meta metaFile
	if err := xml.NewDecoder(file).Decode(&meta); err != nil {
		return nil, fmt.Errorf("its meta.xml cannot be read: %w", err)
	}
	return &meta, nil
}

// ownTypes are the measurements that stand beside the terms as columns of their own.
var ownTypes = []string{typeHeight, typeAge, typeVigour, typeRegion, typeList}

// measurements adds the lines of a MeasurementOrFact table to their trees.
func (s *Sheet) measurements(table archiveTable, at map[string]int) error {
	if err := table.open(); err != nil {
		return err
	}
	columns := make([]int, len(measurementTerms))
	for i, t := range measurementTerms {
		columns[i] = slices.Index(table.terms, t)
	}
	return table.each(func(line int, id string, cells []string) error {
		row, ok := at[id]
		if !ok {
			return fmt.Errorf("line %d of %s is of an occurrence that is not there: %.60s", line, table.File, id)
		}
		get := func(term int) string {
			if c := columns[term]; c >= 0 && c < len(cells) {
				return cells[c]
			}
			return ""
		}
		if err := s.measurement(&s.Rows[row], get(1), get(2), get(3), get(5)); err != nil {
			return fmt.Errorf("line %d of %s: %w", line, table.File, err)
		}
		return nil
	})
}

// measurement adds one measurement to a tree: a column of its own, or a score.
func (s *Sheet) measurement(row *Row, kind, value, unit, remarks string) error {
	if c := slices.Index(ownTypes, kind); c >= 0 {
		row.Cells[len(s.Columns)-len(ownTypes)+c] = value
		return nil
	}
	if row.condition(kind, value) {
		return nil
	}
	if !strings.Contains(kind, ".") {
		return nil // somebody else's measurement
	}
	look, whence, score, err := parseFact(kind, value, unit, remarks)
	if err != nil {
		return err
	}
	row.score(look, whence, score)
	return s.takeScores(row.At, look, 1)
}

// condition takes what was so of the visit, and says whether it is that.
func (r *Row) condition(kind, value string) bool {
	var c record.Record
	switch kind {
	case typeFoliage:
		c.Foliage = value
	case typeSnow:
		c.Snow = value
	case typeReach:
		c.Beyond = strings.Split(value, ", ")
	case typeFlat:
		c.Flat = value == "yes"
	default:
		return false
	}
	if r.Record == nil {
		r.Record = &record.Record{}
	}
	r.Record.Foliage, r.Record.Snow = cmp.Or(c.Foliage, r.Record.Foliage), cmp.Or(c.Snow, r.Record.Snow)
	r.Record.Flat = r.Record.Flat || c.Flat
	if c.Beyond != nil {
		r.Record.Beyond = c.Beyond
	}
	return true
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

// archiveTable is a table of an archive, its columns by the names of their terms.
type archiveTable struct {
	*metaTable
	z     *zip.Reader
	terms []string
	key   int // the column of the id
}

// open reads what meta.xml says of the table.
func (t *archiveTable) open() error {
	key := cmp.Or(t.ID, t.CoreID)
	if key == nil {
		return fmt.Errorf("its meta.xml does not say which column of %s is the id", t.File)
	}
	if len(t.Fields) > maxCols {
		return tooMuch("%s has %d columns; at most %d are read", t.File, len(t.Fields), maxCols)
	}
	t.key = key.Index
	for _, f := range t.Fields {
		t.terms = append(t.terms, termName(f.Term))
	}
	return nil
}

// each hands on the table's lines, counted from 1, with the id of each and a cell for
// each term.
func (t *archiveTable) each(use func(line int, id string, cells []string) error) error {
	file, err := unzip(t.z, t.File, maxUnzipped)
	if err != nil {
		return err
	}
	defer file.Close()
	text := bufio.NewReader(file)
	if mark, err := text.Peek(3); err == nil && string(mark) == "\xef\xbb\xbf" {
		_, _ = text.Discard(len(mark)) // it was peeked at
	}
	sep := ','
	if s := []rune(strings.ReplaceAll(t.Terminated, `\t`, "\t")); len(s) > 0 {
		sep = s[0]
	}
	if sep > 0x7f {
		return fmt.Errorf("the fields of %s are terminated by %q, which cannot be read; write a comma or a tab", t.File, sep)
	}
	guard := &fence{from: text, sep: byte(sep)}
	if t.Enclosed != "" {
		guard.quote = '"'
	}
	r := csv.NewReader(guard)
	r.FieldsPerRecord, r.LazyQuotes, r.ReuseRecord, r.Comma = -1, t.Enclosed == "", true, sep
	for n := 1; ; n++ {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return fmt.Errorf("%s: %w", t.File, err)
		}
		if n <= t.Ignore {
			continue
		}
		get := func(i int) string {
			if i >= 0 && i < len(cells) {
				return bare(strings.Clone(cells[i]))
			}
			return ""
		}
		row := make([]string, len(t.Fields))
		for i, f := range t.Fields {
			row[i] = get(f.Index)
		}
		if err := use(n, get(t.key), row); err != nil {
			return err
		}
	}
}
