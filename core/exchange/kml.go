package exchange

import (
	"archive/zip"
	"cmp"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"strings"

	"github.com/paulmach/orb"
)

// Namespace of KML 2.2 (OGC 07-147r2).
const kmlSpace = "http://www.opengis.net/kml/2.2"

// placemark is the part of KML's Placemark that trees use.
type placemark struct {
	Name        string     `xml:"name,omitempty"`
	Description string     `xml:"description,omitempty"`
	Extended    *kmlFields `xml:"ExtendedData,omitempty"`
	Point       *kmlPoint  `xml:"Point,omitempty"`
	Areas       *kmlAreas  `xml:"MultiGeometry,omitempty"`
}

type kmlFields struct {
	Data   []kmlData  `xml:"Data"`
	Schema *kmlSchema `xml:"SchemaData,omitempty"` // as others write it
}

type kmlData struct {
	Name  string `xml:"name,attr"`
	Value string `xml:"value"`
}

type kmlSchema struct {
	Data []kmlSimple `xml:"SimpleData"`
}

type kmlSimple struct {
	Name  string `xml:"name,attr"`
	Value string `xml:",chardata"`
}

type kmlPoint struct {
	Coordinates string `xml:"coordinates"`
}

type kmlAreas struct {
	Polygons []kmlPolygon `xml:"Polygon"`
}

type kmlPolygon struct {
	Outer kmlRing   `xml:"outerBoundaryIs"`
	Inner []kmlRing `xml:"innerBoundaryIs"`
}

type kmlRing struct {
	Coordinates string `xml:"LinearRing>coordinates"`
}

func readKMZ(z *zip.Reader, name string) (*Sheet, error) {
	file, err := unzip(z, name, maxUnzipped)
	if err != nil {
		return nil, err
	}
	defer file.Close()
	return readKML(file)
}

// readKML takes each placemark that is a point as a line; areas and lines are not trees and are passed over.
func readKML(from io.Reader) (*Sheet, error) {
	sheet, at, dec := &Sheet{Format: "kml"}, map[string]int{}, xml.NewDecoder(from)
	for {
		token, err := dec.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("it is not KML: %w", err)
		}
		start, ok := token.(xml.StartElement)
		if !ok || start.Name.Local != "Placemark" {
			continue
		}
		var p placemark
		if err := dec.DecodeElement(&p, &start); err != nil {
			return nil, fmt.Errorf("it is not KML: %w", err)
		}
		if err := sheet.placemark(&p, at); err != nil {
			return nil, err
		}
	}
	if len(sheet.Rows) == 0 {
		return nil, errors.New("there are no points in it; lines and areas are not trees. Boundaries are put in with the stand")
	}
	sheet.order(at)
	return sheet, nil
}

func (s *Sheet) placemark(p *placemark, at map[string]int) error {
	if p.Point == nil {
		return nil
	}
	row := Row{At: fmt.Sprintf("place %d", len(s.Rows)+1)}
	props := map[string]string{"tag": p.Name, "remarks": p.Description}
	if p.Extended != nil {
		for _, d := range p.Extended.Data {
			props[d.Name] = d.Value
		}
		if p.Extended.Schema != nil {
			for _, d := range p.Extended.Schema.Data {
				props[d.Name] = d.Value
			}
		}
	}
	if err := s.properties(&row, props, at); err != nil {
		return err
	}
	if err := s.take(row.At, row.Cells); err != nil {
		return err
	}
	lon, rest, _ := strings.Cut(strings.TrimSpace(p.Point.Coordinates), ",")
	lat, _, _ := strings.Cut(rest, ",")
	row.Cells = append(row.Cells, lat, lon)
	s.Rows = append(s.Rows, row)
	return nil
}

// writeKML writes a placemark for each tree that has a position, with its fields as data, and one for each boundary.
func writeKML(w io.Writer, trees Trees, about About) error {
	if _, err := fmt.Fprintf(w, "%s<kml xmlns=%q><Document>\n<name>%s</name>\n", xml.Header, kmlSpace, escaped(about.Title)); err != nil {
		return err
	}
	enc := xml.NewEncoder(w)
	put := func(p *placemark) error {
		return enc.EncodeElement(p, xml.StartElement{Name: xml.Name{Local: "Placemark"}})
	}
	for _, b := range about.Boundaries {
		p := placemark{Name: cmp.Or(b.Stand, b.Tract), Description: b.Remarks, Areas: &kmlAreas{}}
		for _, polygon := range polygons(b.Area) {
			p.Areas.Polygons = append(p.Areas.Polygons, kmlArea(polygon))
		}
		if err := put(&p); err != nil {
			return err
		}
	}
	err := trees(func(t *Tree) error {
		if t.Position == nil {
			return nil
		}
		p := placemark{Name: t.Tag, Description: t.Remarks, Extended: &kmlFields{},
			Point: &kmlPoint{degrees(t, true) + "," + degrees(t, false)}}
		for _, f := range Fields {
			if f.text == nil || f.onGrid() || f.isDegree() || f.ID == "tag" || f.ID == "remarks" {
				continue
			}
			if text := f.text(t); text != "" {
				p.Extended.Data = append(p.Extended.Data, kmlData{f.ID, text})
			}
		}
		return put(&p)
	})
	_, end := io.WriteString(w, "\n</Document></kml>\n")
	return cmp.Or(err, end)
}

func kmlArea(p orb.Polygon) (out kmlPolygon) {
	for i, ring := range p {
		var text strings.Builder
		for _, at := range ring {
			fmt.Fprintf(&text, "%.*f,%.*f ", places, at[0], places, at[1])
		}
		if i == 0 {
			out.Outer = kmlRing{strings.TrimSpace(text.String())}
		} else {
			out.Inner = append(out.Inner, kmlRing{strings.TrimSpace(text.String())})
		}
	}
	return out
}

func escaped(text string) string {
	var out strings.Builder
	_ = xml.EscapeText(&out, []byte(text)) // a builder takes all
	return out.String()
}

// polygons are the parts of an area.
func polygons(area orb.Geometry) []orb.Polygon {
	switch g := area.(type) {
	case orb.Polygon:
		return []orb.Polygon{g}
	case orb.MultiPolygon:
		return g
	}
	return nil
}
