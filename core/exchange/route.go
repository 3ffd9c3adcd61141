package exchange

import (
	"encoding/xml"
	"fmt"
	"io"
	"strconv"
	"time"
)

// RoutePoint is a place of a route.
type RoutePoint struct {
	Lon, Lat float64
	At       time.Time // when one is there; zero: not said
	Name     string
	Words    string
}

// WriteRoute writes a route as GPX 1.1 (topografix.com/GPX/1/1/gpx.xsd).
func WriteRoute(w io.Writer, name string, made time.Time, route []RoutePoint) error {
	type rte struct {
		Name   string     `xml:"name"`
		Points []gpxPoint `xml:"rtept"`
	}
	file := struct {
		gpxFile
		Route rte `xml:"rte"`
	}{Route: rte{Name: name}}
	file.Version, file.Creator = "1.1", "Pale Thicket"
	file.Metadata = gpxMetadata{Name: name, Time: made.UTC().Format(time.RFC3339)}
	for _, p := range route {
		point := gpxPoint{Name: p.Name, Desc: p.Words}
		point.Lat, point.Lon = strconv.FormatFloat(p.Lat, 'f', 7, 64), strconv.FormatFloat(p.Lon, 'f', 7, 64)
		if !p.At.IsZero() {
			point.Time = p.At.UTC().Format(time.RFC3339)
		}
		file.Route.Points = append(file.Route.Points, point)
	}
	if _, err := io.WriteString(w, xml.Header); err != nil {
		return err
	}
	enc := xml.NewEncoder(w)
	enc.Indent("", " ")
	if err := enc.Encode(file); err != nil {
		return fmt.Errorf("writing a route: %w", err)
	}
	return enc.Close()
}
