package exchange

import (
	"strconv"
	"strings"
	"time"

	"palethicket/core/measure/earth"
)

// Field is something of a tree that a column can hold.
type Field struct {
	ID    string `json:"id"`
	Words string `json:"words"`
	also  []string
	text  func(*Tree) string // nil: it is read only
}

// Fields are what columns can be mapped to, in the order that tables are written.
var Fields = []Field{
	{"tag", "Tag", []string{"treeno", "treenumber", "treeid", "treetag", "tagno", "tagnumber", "name", "tree",
		"label", "recordnumber", "organismid", "id",
		"no", "number", "num"}, func(t *Tree) string { return t.Tag }},
	{"tract", "Tract", []string{"forest", "site", "locality"}, func(t *Tree) string { return t.Tract }},
	{
		"stand", "Stand",
		[]string{"standname", "standno", "standid", "plot", "plotno", "compartment", "verbatimlocality"},
		func(t *Tree) string { return t.Stand },
	},
	{"lat", "Latitude", []string{"latitude", "y", "decimallatitude"}, func(t *Tree) string { return degrees(t, false) }},
	{
		"lon", "Longitude",
		[]string{"longitude", "long", "lng", "x", "decimallongitude"},
		func(t *Tree) string { return degrees(t, true) },
	},
	{
		"position", "Position",
		[]string{"latlon", "latlong", "latlng", "coordinates", "coords", "location", "gps", "utm", "gridreference"},
		nil,
	},
	{"zone", "UTM zone", []string{"utmzone", "gridzone"}, zone},
	{"easting", "UTM easting", []string{"utme", "utmx", "east", "eastingm", "utmeasting"}, easting},
	{"northing", "UTM northing", []string{"utmn", "utmy", "north", "northingm", "utmnorthing"}, northing},
	{"within_m", "Position within (m)", []string{"accuracy", "coordinateuncertaintyinmeters"}, within},
	{
		"dbh_cm", "Diameter (cm)",
		[]string{"dbh", "dia", "diam", "diameter", "dbhcm", "diametercm", "diacm", "diamcm"},
		func(t *Tree) string { return figure(t.DBH) },
	},
	{"dbh_in", "Diameter (in)", []string{"dbhin", "dbhinches", "diain", "diamin", "diameterin", "diameterinches"}, nil},
	{
		"height_m", "Height (m)",
		[]string{"height", "heightm", "ht", "htm", "hgt", "totalheight", "totht"},
		func(t *Tree) string { return figure(t.Height) },
	},
	{"height_ft", "Height (ft)", []string{"heightft", "heightfeet", "htft", "hgtft", "totalheightft"}, nil},
	{"age", "Age", []string{"ageclass", "lifestage"}, func(t *Tree) string { return t.Age }},
	{"vigour", "Vigour", []string{"vigor", "health", "condition", "vitality"}, func(t *Tree) string { return t.Vigour }},
	{"given", "Name written down", []string{"species", "spp", "sp", "spcd", "spcode", "speciescode", "speciesname", "treespecies", "taxon",
		"scientificname", "latinname", "commonname", "common"}, func(t *Tree) string { return t.Name }},
	{"rank", "Rank of the name", []string{"taxonrank"}, func(t *Tree) string { return t.Rank }},
	{"qualifier", "Qualifier of the name", []string{"identificationqualifier"}, func(t *Tree) string { return t.Qualifier }},
	{"named_by", "Named by", []string{"identifiedby", "determiner"}, func(t *Tree) string { return t.NamedBy }},
	{"named_on", "Named on", []string{"dateidentified"}, func(t *Tree) string { return day(t.Named) }},
	{"why", "Why", []string{"identificationremarks"}, func(t *Tree) string { return t.Why }},
	{
		"confirmed", "Confirmed by",
		[]string{"identificationverificationstatus", "verified"},
		func(t *Tree) string { return t.Seen },
	},
	{
		"observer", "Observer",
		[]string{"cruiser", "crew", "examiner", "recorder", "recordedby", "surveyor", "by"},
		func(t *Tree) string { return t.Observer },
	},
	{
		"date", "Date",
		[]string{"day", "eventdate", "surveyed", "surveydate", "measdate", "visitdate", "datemeasured"},
		func(t *Tree) string { return day(t.Date) },
	},
	{
		"remarks",
		"Remarks",
		[]string{"note", "notes", "comment", "comments", "desc", "occurrenceremarks"},
		func(t *Tree) string { return t.Remarks },
	},
	{"region", "Region of the flora", []string{"pool"}, func(t *Tree) string { return t.Region }},
	{"list", "Ranked among the list", nil, func(t *Tree) string { return t.List }},
	{"leader", "Led by (evidence)", nil, func(t *Tree) string { return t.Leader }},
	{"leader_posterior", "The leader's posterior", nil, func(t *Tree) string { return chance(t.Posterior) }},
	{"status", "Status", nil, func(t *Tree) string { return t.Status }},
}

// read-only fields are worked out by the book; files cannot set them.
var readOnly = map[string]bool{"leader": true, "leader_posterior": true, "status": true}

// Settable says whether a file can set the field.
func (f *Field) Settable() bool { return !readOnly[f.ID] }

// Unit is the unit of a field that holds a length, or "".
func (f *Field) Unit() string {
	switch f.ID {
	case "dbh_cm":
		return "cm"
	case "dbh_in":
		return "in"
	case "height_m":
		return "m"
	case "height_ft":
		return "ft"
	}
	return ""
}

// isDay says whether a field holds a day.
func (f *Field) isDay() bool { return f.ID == "date" || f.ID == "named_on" }

// onGrid says whether a field is of the UTM grid: it is written in place of degrees.
func (f *Field) onGrid() bool { return f.ID == "zone" || f.ID == "easting" || f.ID == "northing" }

// isDegree says whether a field is a latitude or a longitude.
func (f *Field) isDegree() bool { return f.ID == "lat" || f.ID == "lon" }

// isPlace says whether a field is a figure of a position.
func (f *Field) isPlace() bool {
	return f.isDegree() || f.onGrid() && f.ID != "zone"
}

// FieldByID finds a field, or nil.
func FieldByID(id string) *Field {
	for i := range Fields {
		if Fields[i].ID == id {
			return &Fields[i]
		}
	}
	return nil
}

// FieldIDs lists the fields that a file can set.
func FieldIDs() (ids []string) {
	for i := range Fields {
		if Fields[i].Settable() {
			ids = append(ids, Fields[i].ID)
		}
	}
	return ids
}

// Guess gives the field that a column's heading most likely means, or "".
func Guess(heading string) string {
	key := letters(heading)
	for _, f := range Fields {
		if readOnly[f.ID] {
			continue
		}
		if key == letters(f.ID) || key == letters(f.Words) {
			return f.ID
		}
	}
	for _, f := range Fields {
		for _, a := range f.also {
			if key == a {
				return f.ID
			}
		}
	}
	return ""
}

// letters is a heading without case, spaces and signs.
func letters(s string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9':
			return r
		case r >= 'A' && r <= 'Z':
			return r + 'a' - 'A'
		}
		return -1
	}, s)
}

// places is to how many places degrees are written: a tenth of a meter.
const places = 6

func degrees(t *Tree, lon bool) string {
	if t.Position == nil {
		return ""
	}
	if lon {
		return strconv.FormatFloat(t.Position.Lon, 'f', places, 64)
	}
	return strconv.FormatFloat(t.Position.Lat, 'f', places, 64)
}

// onTheGrid is where a tree stands on the UTM grid; not, where it has no position or the grid does not reach.
func onTheGrid(t *Tree) (u earth.UTM, ok bool) {
	if t.Position == nil {
		return u, false
	}
	u, err := earth.ToUTM(earth.Place{Lon: t.Position.Lon, Lat: t.Position.Lat})
	return u, err == nil
}

func zone(t *Tree) string {
	u, ok := onTheGrid(t)
	if !ok {
		return ""
	}
	return strconv.Itoa(u.Zone) + map[bool]string{true: " south", false: " north"}[u.South]
}

func easting(t *Tree) string {
	u, ok := onTheGrid(t)
	return meters(u.Easting, ok)
}

func northing(t *Tree) string {
	u, ok := onTheGrid(t)
	return meters(u.Northing, ok)
}

func meters(x float64, ok bool) string {
	if !ok {
		return ""
	}
	return strconv.FormatFloat(x, 'f', 2, 64)
}

func within(t *Tree) string {
	if t.Position == nil {
		return ""
	}
	return figure(t.Position.Within)
}

// figure writes a measurement, and nothing for one that was not made.
func figure(x float64) string {
	if x == 0 {
		return ""
	}
	return strconv.FormatFloat(x, 'f', -1, 64)
}

func chance(p float64) string {
	if p == 0 {
		return ""
	}
	return strconv.FormatFloat(p, 'f', 4, 64)
}

func day(t time.Time) string {
	if t.IsZero() {
		return ""
	}
	return t.Format(time.DateOnly)
}
