package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"
	"unicode/utf8"

	"palethicket/core/foreign"
	"palethicket/core/tree/record"
)

// Sheet is a file as columns and lines.
type Sheet struct {
	Format  string
	Columns []string
	Rows    []Row
	room    room
}

// Row is one line of a file.
type Row struct {
	At    string // where it stands, as "line 12"
	Cells []string
	// Record holds the looks that came with the line, where the format has any.
	Record *record.Record
}

// Read reads a file, whose format follows from its name and what it begins with.
func Read(name string, file []byte) (*Sheet, error) {
	if len(file) > MaxBytes {
		return nil, fmt.Errorf("%s is larger than %d MB; split it", name, MaxBytes>>20)
	}
	if len(bytes.TrimSpace(file)) == 0 {
		return nil, fmt.Errorf("%s is empty", name)
	}
	sheet, err := foreign.Read("it", func() (*Sheet, error) { return read(name, file) })
	if err != nil {
		return nil, fmt.Errorf("reading %s: %w", name, err)
	}
	if len(sheet.Rows) == 0 {
		return nil, fmt.Errorf("%s has headings but no trees under them", name)
	}
	return sheet, nil
}

func read(name string, file []byte) (*Sheet, error) {
	if err := otherKind(name, file); err != nil {
		return nil, err
	}
	switch ext := strings.ToLower(path.Ext(name)); {
	case bytes.HasPrefix(file, []byte("PK")):
		return packed(name, file)
	case bytes.HasPrefix(file, gpkgBegins):
		return readGeoPackage(file)
	case ext == ".kml", bytes.Contains(file[:min(len(file), 400)], []byte("<kml")):
		return readKML(bytes.NewReader(file))
	case ext == ".gpx", bytes.Contains(file[:min(len(file), 400)], []byte("<gpx")):
		return readGPX(file)
	case ext == ".geojson":
		return readGeoJSON(file)
	case ext == ".json", bytes.HasPrefix(bytes.TrimSpace(file), []byte("{")):
		if bytes.Contains(file[:min(len(file), 4000)], []byte(`"FeatureCollection"`)) {
			return readGeoJSON(file)
		}
		return readRecords(file)
	}
	return readCSV(file)
}

// separators that tables use, the likeliest first.
var separators = []rune{',', ';', '\t'}

func readCSV(file []byte) (*Sheet, error) {
	file, err := plainText(file)
	if err != nil {
		return nil, err
	}
	sep := separator(file)
	r := csv.NewReader(&fence{from: bytes.NewReader(file), sep: byte(sep), quote: '"'})
	r.Comma, r.FieldsPerRecord, r.LazyQuotes, r.ReuseRecord = sep, -1, false, true
	sheet := &Sheet{Format: "csv"}
	for {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			sheet.headed()
			return sheet, nil
		}
		if err != nil {
			return nil, err // names the line and the column
		}
		line, _ := r.FieldPos(0)
		if err := sheet.add(fmt.Sprintf("line %d", line), cells); err != nil {
			return nil, err
		}
	}
}

// separator is the one that a line among the first has most of: titles may stand above the
// headings.
func separator(file []byte) rune {
	best, most := separators[0], 0
	for range headMost {
		var line []byte
		line, file, _ = bytes.Cut(file, []byte("\n"))
		line = line[:min(len(line), maxItem)]
		for _, s := range separators {
			if n := bytes.Count(line, []byte(string(s))); n > most {
				best, most = s, n
			}
		}
	}
	return best
}

// add adds a line, the headings among them, and leaves out empty ones. The cells may be
// used again by who reads them.
func (s *Sheet) add(at string, cells []string) error {
	cells = slices.Clone(cells)
	last := 0 // cells after the last that holds something are not there
	for i, c := range cells {
		if cells[i] = strings.Clone(bare(strings.TrimSpace(c))); cells[i] != "" {
			last = i + 1
		}
	}
	cells = slices.Clip(cells[:last])
	if last == 0 {
		if s.room.blank++; s.room.blank > maxBlank {
			return tooMuch("there are more than %d lines without anything in them", maxBlank)
		}
		return nil
	}
	if err := s.take(at, cells); err != nil {
		return err
	}
	s.Rows = append(s.Rows, Row{At: at, Cells: cells})
	return nil
}

// formulaSigns begin what spreadsheets take for a formula, also as wide as East Asian letters; so
// do a tab and a carriage return.
const formulaSigns = "=+@-\t\r＝＋＠－"

// begins says whether a cell begins a formula, after any apostrophes.
func begins(c string) bool {
	first, _ := utf8.DecodeRuneInString(strings.TrimLeft(c, "'"))
	return strings.ContainsRune(formulaSigns, first)
}

// shielded writes a cell so that a spreadsheet takes it for text, and bare reads it
// back: what begins with a sign, or with an apostrophe before one, gets an apostrophe.
func shielded(c string) string {
	if !plainNumber.MatchString(c) && begins(c) {
		return "'" + c
	}
	return c
}

func bare(c string) string {
	if strings.HasPrefix(c, "'") && begins(c) {
		return c[1:]
	}
	return c
}

// WriteTable writes rows as CSV, each cell so that a spreadsheet takes it for text.
func WriteTable(w io.Writer, rows [][]string) error {
	if _, err := io.WriteString(w, mark); err != nil {
		return err
	}
	out := csv.NewWriter(w)
	for _, row := range rows {
		cells := make([]string, len(row))
		for i, c := range row {
			cells[i] = shielded(c)
		}
		if err := out.Write(cells); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// mark has spreadsheets read a table as UTF-8; readers of tables pass over it.
const mark = "\ufeff"

func writeCSV(w io.Writer, trees Trees, about About) error {
	if _, err := io.WriteString(w, mark); err != nil {
		return err
	}
	columns, out := columnsOf(about), csv.NewWriter(w)
	if err := out.Write(headings(columns)); err != nil {
		return err
	}
	err := trees(func(t *Tree) error {
		cells := cells(columns, t)
		for i, c := range cells {
			cells[i] = shielded(c)
		}
		return out.Write(cells)
	})
	if err != nil {
		return err
	}
	out.Flush()
	return out.Error()
}

// columnsOf are the fields that tables have, with positions in degrees or on the UTM grid.
func columnsOf(about About) (out []*Field) {
	for i := range Fields {
		f := &Fields[i]
		other := f.onGrid()
		if about.UTM {
			other = f.isDegree()
		}
		if f.text != nil && !other {
			out = append(out, f)
		}
	}
	return out
}

func headings(columns []*Field) []string {
	out := make([]string, len(columns))
	for i, f := range columns {
		out[i] = f.ID
	}
	return out
}

func cells(columns []*Field, t *Tree) []string {
	out := make([]string, len(columns))
	for i, f := range columns {
		out[i] = f.text(t)
	}
	return out
}
