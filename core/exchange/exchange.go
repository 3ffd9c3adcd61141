package exchange

import (
	"fmt"
	"io"
	"slices"
	"time"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
)

// Tree is a tree as files carry it.
type Tree struct {
	ID       string // the book's
	Tag      string
	Tract    string
	Stand    string
	Region   string // of the flora
	List     string // that it is ranked among; empty: the whole region
	Position *logbook.Position
	DBH      float64 // cm; 0: not measured
	Height   float64 // m; 0: not measured
	Age      string
	Vigour   string
	Remarks  string
	Date     time.Time // of the last look; zero: not known
	Observer string

	Rank      string // of the name given; empty: none is
	Name      string
	NamedBy   string
	Named     time.Time
	Why       string
	Seen      string  // what confirmed it: leaf, flower or fruit; empty: it is a winter's name
	Genus     string  // of the name given, where it is of one
	Family    string  // likewise
	Leader    string  // who leads by the evidence
	Posterior float64 // the leader's
	Status    string
	Qualifier string // what a careful reader adds to the name
	Hedge     string // of the name given, as a file has it; empty: none

	HeightHow string    // the readings that its height comes from; empty: it was read off
	DBHHow    string    // likewise
	Counted   []Counted // from which sample points

	Record *record.Record // looks and scores; nil: none
}

// Counted says from which sample point a tree was counted, and how.
type Counted struct{ Point, How string }

// Format is a file format.
type Format struct {
	ID        string `json:"id"`
	Name      string `json:"name"`
	Extension string `json:"extension"`
	Type      string `json:"type" doc:"Media type"`
	Lost      string `json:"lost" doc:"What a tree has that the format cannot carry"`

	write func(w io.Writer, trees Trees, about About) error
}

// Trees hands on trees, one after another, until use fails. It may be called again, for
// the same trees.
type Trees func(use func(*Tree) error) error

// About says what a file is of.
type About struct {
	Title     string
	Publisher string
	Made      time.Time
}

// Formats are the formats that are written; all of them are read as well.
var Formats = []Format{
	{"csv", "Table (CSV)", "csv", "text/csv; charset=utf-8", "Looks, scores, notes, earlier names, visits and photographs.", writeCSV},
	{"xlsx", "Workbook (XLSX)", "xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
		"Earlier names, visits and photographs. Scores are on a sheet of their own and are not read back.", writeXLSX},
	{"geojson", "GeoJSON", "geojson", "application/geo+json", "Looks, scores, notes, earlier names, visits and photographs.", writeGeoJSON},
	{"gpx", "GPX waypoints", "gpx", "application/gpx+xml",
		"Trees that have no place on the map; of the others the tract, how exact the place is, diameter, height, age, vigour, observer, " +
			"who named it and why, looks, scores, notes, earlier names, visits and photographs.", writeGPX},
	{"json", "Field record (JSON)", "json", "application/json",
		"How exact the place is, height, vigour, the name written down, who named it and why, earlier entries, visits and photographs: " +
			"it holds what was looked at, not what it was called.", writeRecords},
	{"dwca", "Darwin Core Archive", "zip", "application/zip", "Earlier names, visits and photographs.", writeArchive},
}

// FormatByID finds a format.
func FormatByID(id string) (Format, error) {
	i := slices.IndexFunc(Formats, func(f Format) bool { return f.ID == id })
	if i < 0 {
		return Format{}, fmt.Errorf("there is no format %q", id)
	}
	return Formats[i], nil
}

// Write writes the trees in the format.
func (f Format) Write(w io.Writer, trees Trees, about About) error {
	if err := f.write(w, trees, about); err != nil {
		return fmt.Errorf("writing %s: %w", f.Name, err)
	}
	return nil
}
