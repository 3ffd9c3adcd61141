package exchange

import (
	"encoding/xml"
	"fmt"
	"io"
	"strconv"
	"time"
)

// gpxFile is the part of GPX 1.1 (topografix.com/GPX/1/1/gpx.xsd) that trees use:
// waypoints, their elements in the order of the schema.
type gpxFile struct {
	XMLName  xml.Name    `xml:"http://www.topografix.com/GPX/1/1 gpx"`
	Version  string      `xml:"version,attr"`
	Creator  string      `xml:"creator,attr"`
	Metadata gpxMetadata `xml:"metadata"`
	Points   []gpxPoint  `xml:"wpt"`
}

type gpxMetadata struct {
	Name string `xml:"name,omitempty"`
	Time string `xml:"time,omitempty"`
}

type gpxPoint struct {
	Lat  string `xml:"lat,attr"`
	Lon  string `xml:"lon,attr"`
	Time string `xml:"time,omitempty"`
	Name string `xml:"name,omitempty"`
	Cmt  string `xml:"cmt,omitempty"`
	Desc string `xml:"desc,omitempty"`
	Src  string `xml:"src,omitempty"`
	Type string `xml:"type,omitempty"`
}

// readGPX takes each waypoint as a line. GPX 1.0 has the same waypoints under
// another namespace and is read too.
func readGPX(file []byte) (*Sheet, error) {
	var doc struct {
		Points []gpxPoint `xml:"wpt"`
	}
	if err := xml.Unmarshal(file, &doc); err != nil {
		return nil, fmt.Errorf("it is not GPX: %w", err)
	}
	if len(doc.Points) == 0 {
		return nil, fmt.Errorf("there are no waypoints in it; tracks and routes are not trees")
	}
	sheet := &Sheet{Format: "gpx", Columns: []string{"name", "lat", "lon", "date", "desc", "stand", "species"}}
	for i, p := range doc.Points {
		date, _, _ := cutDay(p.Time)
		remarks := p.Desc
		if remarks == "" {
			remarks = p.Cmt
		}
		sheet.Rows = append(sheet.Rows, Row{At: fmt.Sprintf("waypoint %d", i+1),
			Cells: []string{p.Name, p.Lat, p.Lon, date, remarks, p.Src, p.Type}})
	}
	return sheet, nil
}

// cutDay gives the day of a time as GPX writes it.
func cutDay(text string) (date, rest string, ok bool) {
	if len(text) < len(time.DateOnly) {
		return text, "", false
	}
	return text[:len(time.DateOnly)], text[len(time.DateOnly):], true
}

// writeGPX writes the trees that have a position: the tag as the name, the
// remarks as the description, the stand as the source, the name given as type.
func writeGPX(w io.Writer, trees Trees, about About) error {
	doc := gpxFile{
		Version:  "1.1",
		Creator:  "Pale Thicket",
		Metadata: gpxMetadata{Name: about.Title, Time: about.Made.UTC().Format(time.RFC3339)},
	}
	err := trees(func(t *Tree) error {
		if t.Position == nil {
			return nil
		}
		p := gpxPoint{Lat: strconv.FormatFloat(t.Position.Lat, 'f', -1, 64), Lon: strconv.FormatFloat(t.Position.Lon, 'f', -1, 64),
			Name: t.Tag, Cmt: t.Status, Desc: t.Remarks, Src: t.Stand, Type: t.Name}
		if !t.Date.IsZero() {
			p.Time = t.Date.UTC().Format(time.RFC3339)
		}
		doc.Points = append(doc.Points, p)
		return nil
	})
	if err != nil {
		return err
	}
	if _, err := io.WriteString(w, xml.Header); err != nil {
		return err
	}
	enc := xml.NewEncoder(w)
	enc.Indent("", " ")
	return enc.Encode(doc)
}
