package exchange

import (
	"fmt"
	"iter"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode"

	"palethicket/core/flora"
	"palethicket/core/label"
	"palethicket/core/measure"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
)

// Mapping says what the columns of a sheet hold, and what holds for lines that do
// not say.
type Mapping struct {
	Columns []string `json:"columns" doc:"A field for each column, or empty to leave it out"`
	Tract   string   `json:"tract,omitempty" maxLength:"80" doc:"Where lines do not say"`
	Stand   string   `json:"stand,omitempty" maxLength:"80" doc:"Where lines do not say"`
	Region  string   `json:"region,omitempty" doc:"Region of the flora, where lines do not say; absent: its home region"`
	List    string   `json:"list,omitempty" doc:"List to rank among, where lines do not say; absent: the whole region"`
	Date    string   `json:"date,omitempty" format:"date" doc:"Day looked at, where lines do not say"`

	Units []string               `json:"units,omitempty" doc:"Unit of each column that holds a length, where its cells do not say"`
	Days  string                 `json:"days,omitempty" enum:"day-first,month-first," doc:"How 3/4/2026 is read; absent: as the column tells"`
	Mends map[int]map[int]string `json:"mends,omitempty" doc:"What cells should say: by line, counted from 0, and column"`
	Names map[string]Called      `json:"names,omitempty" doc:"What names in the file stand for, by how they are written there"`
	Zone  string                 `json:"zone,omitempty" doc:"Of the UTM grid, where lines do not say: 15N"`
	Lists map[string]string      `json:"lists,omitempty" doc:"List to rank among in place of one that the book lacks; empty: the whole region"`
}

// GuessMapping maps columns by their headings, each field once.
func (s *Sheet) GuessMapping() Mapping {
	m := Mapping{Columns: make([]string, len(s.Columns))}
	taken := map[string]bool{"": true}
	for i, c := range s.Columns {
		if f := s.guess(c); !taken[f] {
			m.Columns[i], taken[f] = f, true
		}
	}
	return m
}

// guess reads a heading as its format means it.
func (s *Sheet) guess(heading string) string {
	if s.Format == "dwca" {
		switch heading { // terms that mean something else in a table
		case "occurrenceID", "locality", "genus", "family", "basisOfRecord", "occurrenceStatus", "country", "license":
			return map[string]string{"locality": "tract"}[heading]
		case "scientificName":
			if slices.Contains(s.Columns, "verbatimIdentification") { // what was written down, groups too
				return ""
			}
		case "vitality", "taxonRank":
			return ""
		case "verbatimIdentification":
			return "given"
		case typeRegion:
			return "region"
		case typeList:
			return "list"
		}
	}
	return Guess(heading)
}

// Line is a line of a file, read as a tree.
type Line struct {
	At       string
	Tree     *Tree
	Problems []string // empty: it can be put in the book
	Doubt    *Doubt   // the name it gives, where that may stand for several
	Far      bool     // it is far from the other trees of its tract; whoever knows those says so
	Lacks    string   // the list it is ranked among in the file, where there is none such
}

// Asks are what has to be said before any line can go in.
type Asks struct {
	Tract, Stand bool
	Days         bool  // a day can be read in two ways
	Zone         bool  // of the UTM grid
	Units        []int // columns of lengths whose unit nothing says
}

// Asks says what a file leaves open under a mapping.
func (s *Sheet) Asks(m Mapping) Asks {
	a := Asks{Tract: m.Tract == "" && !s.says(m, "tract"), Stand: m.Stand == "" && !s.says(m, "stand")}
	for i, id := range m.Columns {
		if id == "date" || id == "named_on" {
			_, ask := s.orderOfDays(i)
			a.Days = a.Days || ask && m.Days == ""
		}
		if s.unitless(i, m) {
			a.Units = append(a.Units, i)
		}
	}
	a.Zone = m.Zone == "" && s.says(m, "easting") && !s.says(m, "zone")
	return a
}

// bareLengths are headings of lengths that do not say their unit. Some mean inches and feet, and others not.
var bareLengths = map[string]bool{"dbh": true, "dia": true, "diam": true, "diameter": true, "height": true, "ht": true, "hgt": true,
	"totalheight": true, "totht": true}

// unitless says whether a column holds lengths whose unit neither its heading, nor the mapping, nor a cell says.
func (s *Sheet) unitless(column int, m Mapping) bool {
	if (s.Format != "csv" && s.Format != "xlsx") || !bareLengths[letters(s.Columns[column])] {
		return false
	}
	if id := m.Columns[column]; id != "dbh_cm" && id != "height_m" || column < len(m.Units) && m.Units[column] != "" {
		return false
	}
	some := false
	for i := range s.Rows {
		if column >= len(s.Rows[i].Cells) {
			continue
		}
		cell := s.Rows[i].Cells[column]
		if strings.ContainsFunc(cell, unicode.IsLetter) || strings.ContainsAny(cell, "\"'″′”’") {
			return false
		}
		some = some || strings.Trim(cell, "0., ") != ""
	}
	return some
}

// says says whether any line says something for a field.
func (s *Sheet) says(m Mapping, field string) bool {
	column := slices.Index(m.Columns, field)
	return column >= 0 && slices.ContainsFunc(s.Rows, func(r Row) bool {
		return column < len(r.Cells) && strings.TrimSpace(r.Cells[column]) != ""
	})
}

// Lines reads the lines as trees, one after another, so that no more than one need be
// held. A tag that comes twice in one tract is a problem of the second.
func (s *Sheet) Lines(m Mapping, f *flora.Flora) (iter.Seq[*Line], error) {
	if len(m.Columns) != len(s.Columns) {
		return nil, &record.FieldError{
			Field:   "columns",
			Message: fmt.Sprintf("there are %d columns in the file and %d in the mapping", len(s.Columns), len(m.Columns)),
		}
	}
	for i, id := range m.Columns {
		if id != "" && (FieldByID(id) == nil || readOnly[id]) {
			return nil, &record.FieldError{Field: fmt.Sprintf("columns[%d]", i), Message: fmt.Sprintf("%q is no field that can be put in", id)}
		}
	}
	if !slices.Contains(m.Columns, "tag") {
		return nil, &record.FieldError{Field: "columns", Message: "say which column holds the tag: trees are known by it"}
	}
	names, days := newCaller(f, m.Names), map[string]string{}
	for i, id := range m.Columns {
		if id == "date" || id == "named_on" {
			order, _ := s.orderOfDays(i)
			days[id] = or(m.Days, order)
		}
	}
	return func(use func(*Line) bool) {
		type place struct{ tract, tag string }
		first := map[place]string{}
		for i := range s.Rows {
			l := s.line(s.mended(i, m.Mends[i]), m, f, names, days)
			key := place{label.Key(l.Tree.Tract), label.Key(l.Tree.Tag)}
			if at, twice := first[key]; twice && l.Tree.Tag != "" {
				l.Problems = append(l.Problems, fmt.Sprintf("the tag %s is in %s already", l.Tree.Tag, at))
			} else {
				first[key] = l.At
			}
			if !use(&l) {
				return
			}
		}
	}, nil
}

// mended is a row with what its cells should say.
func (s *Sheet) mended(i int, mends map[int]string) *Row {
	row := &s.Rows[i]
	if len(mends) == 0 {
		return row
	}
	out := *row
	out.Cells = make([]string, max(len(row.Cells), len(s.Columns)))
	copy(out.Cells, row.Cells)
	for column, text := range mends {
		if column >= 0 && column < len(out.Cells) {
			out.Cells[column] = text
		}
	}
	return &out
}

// Cells are what stands in each column of a row, as it was mended.
func (s *Sheet) Cells(i int, mends map[int]string) []string {
	out := make([]string, len(s.Columns))
	copy(out, s.mended(i, mends).Cells)
	return out
}

// Samples are the first cells of each column that say something, at most so many.
func (s *Sheet) Samples(most int) [][]string {
	out := make([][]string, len(s.Columns))
	for c := range out {
		out[c] = []string{}
		for i := 0; i < len(s.Rows) && len(out[c]) < most; i++ {
			if cells := s.Rows[i].Cells; c < len(cells) && cells[c] != "" && !slices.Contains(out[c], cells[c]) {
				out[c] = append(out[c], cells[c])
			}
		}
	}
	return out
}

// reader gathers what is wrong with a line.
type reader struct {
	cells    map[string]string
	units    map[string]string
	days     map[string]string // the order of the figures of a field's days
	problems []string
	doubt    *Doubt
	lacks    string
}

func (r *reader) wrong(format string, args ...any) {
	r.problems = append(r.problems, fmt.Sprintf(format, args...))
}

func (s *Sheet) line(row *Row, m Mapping, f *flora.Flora, names *caller, days map[string]string) Line {
	r := &reader{cells: map[string]string{}, units: map[string]string{}, days: days}
	for i, id := range m.Columns {
		if i < len(row.Cells) {
			r.cells[id] = row.Cells[i]
		}
		if i < len(m.Units) {
			r.units[id] = m.Units[i]
		}
	}
	t := &Tree{Tag: r.label("tag", "", label.TagMost), Tract: r.label("tract", m.Tract, label.NameMost),
		Stand: r.label("stand", m.Stand, label.NameMost), Remarks: r.text("remarks", 2000), Observer: r.text("observer", 80),
		NamedBy: r.text("named_by", 80), Why: r.text("why", 2000), Record: row.Record,
		Age: r.word("age", flora.AgeWords), Vigour: r.word("vigour", record.Vigours.IDs()), Seen: r.word("confirmed", logbook.Confirms.IDs()),
		Date: r.date("date"), Named: r.date("named_on"), Position: r.position(m.Zone)}
	if t.Date.IsZero() && strings.TrimSpace(r.cells["date"]) == "" {
		r.cells["default date"] = m.Date
		t.Date = r.date("default date")
	}
	if t.Date.IsZero() && len(r.problems) == 0 {
		r.wrong("there is no date; say on which day lines without one were looked at")
	}
	t.DBH = or(r.measure("dbh_cm", "cm", "cm", 700), r.measure("dbh_in", "in", "cm", 700))
	t.Height = or(r.measure("height_m", "m", "m", 120), r.measure("height_ft", "ft", "m", 120))
	r.among(t, m, f)
	r.given(t, names)
	r.reach(t, f)
	slices.Sort(r.problems)
	return Line{At: row.At, Tree: t, Problems: append(r.problems, looksWrong(t, f)...), Doubt: r.doubt, Lacks: r.lacks}
}

// among reads which taxa the tree could be: what the line says, else the mapping.
func (r *reader) among(t *Tree, m Mapping, f *flora.Flora) {
	region, list := strings.TrimSpace(r.cells["region"]), strings.TrimSpace(r.cells["list"])
	if region == "" && list == "" {
		region, list = m.Region, m.List
	}
	region, list = r.inPlace(region, list, m, f)
	among, err := f.Among(region, list)
	if err != nil {
		r.wrong("%v", err)
	}
	t.Region, t.List = among.Region, among.List
}

// inPlace gives what a line is ranked among where the book lacks the list that it names:
// another list, or the whole region.
func (r *reader) inPlace(region, list string, m Mapping, f *flora.Flora) (string, string) {
	named := or(list, region)
	if slices.Contains(f.ListNames(), named) || list == "" && (region == "" || slices.Contains(f.RegionIDs(), region)) {
		return region, list
	}
	r.lacks = named
	if list == "" { // an older file: the list stands for the region
		region = ""
	}
	return region, m.Lists[named]
}

func or[T comparable](a, b T) T {
	var none T
	if a != none {
		return a
	}
	return b
}

// label reads a name that trees are found by; without one the line cannot go in.
func (r *reader) label(field, otherwise string, most int) string {
	text := or(strings.TrimSpace(r.cells[field]), otherwise)
	if text == "" {
		r.wrong("there is no %s", field)
		return ""
	}
	clean, err := label.Clean(text, most)
	if err != nil {
		r.wrong("%s: %v", field, err)
	}
	return clean
}

func (r *reader) text(field string, most int) string {
	text := strings.TrimSpace(r.cells[field])
	if n := len([]rune(text)); n > most {
		r.wrong("%s has %d letters; at most %d are kept", field, n, most)
	}
	return text
}

func (r *reader) word(field string, known []string) string {
	word := strings.ToLower(strings.TrimSpace(r.cells[field]))
	if word == "" {
		return ""
	}
	if err := flora.UnknownWord(field, word, known); err != nil {
		r.wrong("%v; use one of %s", err, strings.Join(known, ", "))
	}
	return word
}

func (r *reader) date(field string) time.Time {
	text := strings.TrimSpace(r.cells[field])
	if text == "" {
		return time.Time{}
	}
	if serial, ok := number(text); ok && serial > 20000 && serial < 80000 { // a workbook's day, counted from 1899-12-30
		return time.Date(1899, 12, 30, 0, 0, 0, 0, time.UTC).AddDate(0, 0, int(serial))
	}
	date, err := readDay(text, r.days[field])
	switch {
	case err != nil:
		r.wrong("%v", err)
	default:
		if _, err := record.ParseDay(date.Format(time.DateOnly)); err != nil {
			r.wrong("%v", err)
		}
	}
	return date
}

// measure reads a length into a unit, from that of its cell, else of its column, else
// the field's own.
func (r *reader) measure(field, own, to string, most float64) float64 {
	text := strings.TrimSpace(r.cells[field])
	if text == "" || strings.Trim(text, "0.,") == "" {
		return 0 // some write nothing as nought
	}
	what := strings.ToLower(fieldName(field))
	x, _, err := measure.In(text, or(r.units[field], own), to)
	if err != nil {
		r.wrong("%s: %v", what, err)
		return 0
	}
	if x > most {
		r.wrong("a %s of %s is more than any tree has (%v %s); is the unit right?", what, text, most, to)
	}
	return math.Round(x*1000) / 1000
}

// fieldName is what people call a field, without its unit.
func fieldName(id string) string {
	name, _, _ := strings.Cut(FieldByID(id).Words, " (")
	return name
}

// finite reads a number. Go also takes Inf and NaN for numbers; no file means them.
func finite(text string) (float64, error) {
	x, err := strconv.ParseFloat(text, 64)
	if err == nil && (math.IsInf(x, 0) || math.IsNaN(x)) {
		err = strconv.ErrRange
	}
	return x, err
}

// ranks are those that a name can be given at.
var ranks = []string{"species", "group", "genus", "family", undetermined}

const undetermined = logbook.Undetermined

// reach refuses a name that no taxon has which the tree could be.
func (r *reader) reach(t *Tree, f *flora.Flora) {
	if t.Name == "" || t.Rank == "" || t.Region == "" {
		return
	}
	pool, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: t.Region, List: t.List}, Age: flora.At(flora.AnyAge)})
	if err != nil {
		r.wrong("%v", err)
		return
	}
	if !slices.ContainsFunc(pool.Model.Taxa(), func(o evidence.Taxon) bool {
		return map[string]string{"species": o.Name, "group": o.Group, "genus": o.Genus, "family": o.Family}[t.Rank] == t.Name
	}) {
		r.wrong("%s is not among the trees of %s", t.Name, or(t.List, f.RegionWords(t.Region)))
	}
}

func rankOf(f *flora.Flora, name string) string {
	if name == "" {
		return ""
	}
	for i := range f.Taxa {
		t := &f.Taxa[i]
		for _, rank := range ranks {
			if t.NameAt(rank) == name {
				return rank
			}
		}
	}
	return ""
}

// looksWrong says what is wrong with the looks of a line.
func looksWrong(t *Tree, f *flora.Flora) (problems []string) {
	if t.Record == nil {
		return nil
	}
	rec := *t.Record
	rec.Region, rec.List, rec.Age = t.Region, t.List, t.Age
	if _, err := record.Resolve(f, &rec); err != nil {
		problems = append(problems, err.Error())
	}
	return problems
}
