package exchange

import (
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"github.com/paulmach/orb"

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
	ID        string
	Name      string
	Extension string
	Type      string   // media type
	Loses     []string // what a tree has that it cannot carry: ids of fields, and what is no field

	write func(w io.Writer, trees Trees, about About) error
}

// Lost says what a tree has that the format cannot carry.
func (f *Format) Lost() string {
	words := make([]string, len(f.Loses))
	for i, id := range f.Loses {
		words[i] = id
		if field := FieldByID(id); field != nil {
			words[i] = strings.ToLower(fieldName(id))
		}
	}
	text := strings.Join(words, ", ")
	return strings.ToUpper(text[:1]) + text[1:] + "."
}

// Trees hands on trees, one after another, until use fails. It may be called again, for
// the same trees.
type Trees func(use func(*Tree) error) error

// About says what a file is of.
type About struct {
	Title      string
	Publisher  string
	Made       time.Time
	License    string // address of the terms that an archive may be used under; empty: none is said
	Country    string // where the trees stand, for an archive
	UTM        bool   // tables have positions on the UTM grid, and not in degrees
	Boundaries []Boundary
}

// ErrAtHome is given on a device for a format that it leaves to home.
var ErrAtHome = errors.New("this kind of file is read and written at home, not on a device; use CSV or GeoJSON here")

// Boundary is that of a stand, or of a tract.
type Boundary struct {
	Tract, Stand, Remarks string
	Area                  orb.Geometry // polygon or multipolygon
}

// What tables and points cannot carry, and what no file can.
var (
	noLooks = append([]string{"looks", "scores", "notes"}, history...)
	history = []string{"earlier names", "visits", "photographs"}
	naming  = []string{"given", "rank", "qualifier", "named_by", "named_on", "why", "confirmed"}
)

// Formats are the formats that are written; all of them are read as well.
var Formats = []Format{
	{"csv", "Table (CSV)", "csv", "text/csv; charset=utf-8", noLooks, writeCSV},
	{"xlsx", "Workbook (XLSX)", "xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
		append([]string{"scores (its second sheet has them, and is not read back)"}, history...), writeXLSX},
	{"geojson", "GeoJSON", "geojson", "application/geo+json", noLooks, writeGeoJSON},
	{"gpkg", "GeoPackage", "gpkg", "application/geopackage+sqlite3", noLooks, writeGeoPackage},
	{"kml", "KML", "kml", "application/vnd.google-earth.kml+xml", append([]string{"trees without a position"}, noLooks...), writeKML},
	{"gpx", "GPX waypoints", "gpx", "application/gpx+xml", slices.Concat([]string{"trees without a position", "tract", "within_m", "dbh_cm",
		"height_m", "age", "vigour", "observer", "list"}, naming[2:], noLooks), writeGPX},
	{"json", "Field record (JSON)", "json", "application/json", slices.Concat([]string{"within_m", "height_m", "vigour"}, naming,
		[]string{"earlier entries", "visits", "photographs"}), writeRecords},
	{"dwca", "Darwin Core Archive", "zip", "application/zip", history, writeArchive},
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
