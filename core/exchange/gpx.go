package exchange

import (
	"bytes"
	"cmp"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"slices"
	"time"
)

// gpxFile is the part of GPX 1.1 (topografix.com/GPX/1/1/gpx.xsd) that trees use:
// a heading and waypoints, their elements in the order of the schema.
type gpxFile struct {
	XMLName  xml.Name    `xml:"http://www.topografix.com/GPX/1/1 gpx"`
	Version  string      `xml:"version,attr"`
	Creator  string      `xml:"creator,attr"`
	Metadata gpxMetadata `xml:"metadata"`
}

// creator is who writes waypoints here.
const creator = "Pale Thicket"

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
	sheet := &Sheet{Format: "gpx", Columns: []string{"name", "lat", "lon", "date", "desc", "stand", "species"}}
	dec, ours := xml.NewDecoder(bytes.NewReader(file)), false
	for {
		token, err := dec.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("it is not GPX: %w", err)
		}
		start, ok := token.(xml.StartElement)
		if !ok || start.Name.Local == "gpx" {
			ours = ours || ok && slices.Contains(start.Attr, xml.Attr{Name: xml.Name{Local: "creator"}, Value: creator})
			continue
		}
		if start.Name.Local != "wpt" {
			err = dec.Skip()
		} else {
			err = sheet.waypoint(dec, &start, ours)
		}
		if err != nil {
			return nil, fmt.Errorf("it is not GPX: %w", err)
		}
	}
	if len(sheet.Rows) == 0 {
		return nil, errors.New("there are no waypoints in it; tracks and routes are not trees")
	}
	return sheet, nil
}

func (s *Sheet) waypoint(dec *xml.Decoder, start *xml.StartElement, ours bool) error {
	var p gpxPoint
	if err := dec.DecodeElement(&p, start); err != nil {
		return err
	}
	if ours { // it says how the tree stood, for whoever walks by it
		p.Cmt = ""
	}
	date, _, _ := cutDay(p.Time)
	row := Row{At: fmt.Sprintf("waypoint %d", len(s.Rows)+1),
		Cells: []string{p.Name, p.Lat, p.Lon, date, cmp.Or(p.Desc, p.Cmt), p.Src, p.Type}}
	s.Rows = append(s.Rows, row)
	return s.take(row.At, row.Cells)
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
	head := gpxFile{
		Version:  "1.1",
		Creator:  creator,
		Metadata: gpxMetadata{Name: about.Title, Time: about.Made.UTC().Format(time.RFC3339)},
	}
	text, err := xml.MarshalIndent(head, "", " ")
	if err != nil {
		return err
	}
	open, ok := bytes.CutSuffix(text, []byte("</gpx>"))
	if !ok {
		return fmt.Errorf("the heading does not end as it should: %s", text)
	}
	if _, err := fmt.Fprintf(w, "%s%s", xml.Header, open); err != nil {
		return err
	}
	enc := xml.NewEncoder(w)
	enc.Indent(" ", " ")
	err = trees(func(t *Tree) error {
		if t.Position == nil {
			return nil
		}
		p := gpxPoint{Lat: degrees(t, false), Lon: degrees(t, true),
			Name: t.Tag, Cmt: t.Status, Desc: t.Remarks, Src: t.Stand, Type: t.Name}
		if !t.Date.IsZero() {
			p.Time = t.Date.UTC().Format(time.RFC3339)
		}
		return enc.EncodeElement(p, xml.StartElement{Name: xml.Name{Local: "wpt"}})
	})
	_, end := io.WriteString(w, "\n</gpx>\n")
	return cmp.Or(err, end)
}
