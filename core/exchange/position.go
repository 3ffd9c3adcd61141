package exchange

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"palethicket/core/measure/earth"
	"palethicket/core/tree/logbook"
)

// position reads where a line's tree stands: latitude and longitude, both in one cell, or on the UTM grid.
func (r *reader) position(zone string) *logbook.Position {
	cell := func(field string) string { return strings.TrimSpace(r.cells[field]) }
	lat, lon, east, north := cell("lat"), cell("lon"), cell("easting"), cell("northing")
	if both := cell("position"); both != "" {
		if m := onGrid.FindStringSubmatch(both); m != nil {
			zone, east, north = m[1], m[2], m[3]
		} else if lat, lon = halves(both); lon == "" {
			r.wrong("position %q is not a latitude and a longitude; write it as 43.5612, -90.6381", both)
			return nil
		}
	}
	var p logbook.Position
	switch {
	case lat != "" || lon != "":
		p = logbook.Position{Lat: r.degree("latitude", lat, 90, "NS"), Lon: r.degree("longitude", lon, 180, "EW")}
	case east != "" || north != "":
		p = r.grid(or(cell("zone"), zone), east, north)
	default:
		return nil
	}
	if w, err := finite(cell("within_m")); err == nil && w >= 0 {
		p.Within = w
	}
	return &p
}

// onGrid is a point of the UTM grid in one cell: 15T 690756 4825848.
var onGrid = regexp.MustCompile(`^(\d{1,2} ?[A-Za-z]*)[ ,]+(\d{6}(?:\.\d+)?) ?m?E?[ ,]+(\d{4,8}(?:\.\d+)?) ?m?N?$`)

// halves cuts a latitude and a longitude that stand in one cell apart: at the comma or semicolon, at a letter
// of the first, or at the only space.
func halves(both string) (lat, lon string) {
	for _, sep := range []string{";", ", ", ","} {
		if a, b, ok := strings.Cut(both, sep); ok && !strings.Contains(b, sep) {
			return strings.TrimSpace(a), strings.TrimSpace(b)
		}
	}
	if i := strings.IndexAny(both, "NSns"); i > 0 && i+1 < len(both) {
		return strings.TrimSpace(both[:i+1]), strings.TrimSpace(both[i+1:])
	}
	if words := strings.Fields(both); len(words) == 2 {
		return words[0], words[1]
	}
	return "", ""
}

// sexagesimal is an angle in degrees, and minutes and seconds where there are any, with the half of the
// globe before or behind it.
var sexagesimal = regexp.MustCompile(`(?i)^([NSEW])?\s*(-?\d+(?:[.,]\d+)?)\s*(?:°|º|deg|d|:)?` +
	`(?:\s*(\d+(?:[.,]\d+)?)\s*(?:'|′|’|min|m|:)?(?:\s*(\d+(?:[.,]\d+)?)\s*(?:''|"|″|”|sec|s)?)?)?\s*([NSEW])?$`)

// degree reads an angle of at most so many degrees, whose half of the globe is one of two letters.
func (r *reader) degree(what, text string, most float64, sides string) float64 {
	if text == "" {
		r.wrong("there is no %s; a position needs both", what)
		return 0
	}
	x, err := angle(text, sides)
	switch {
	case err != nil:
		r.wrong("%s %q is not in degrees; write it as 43.5612", what, text)
		return 0
	case math.Abs(x) > most:
		r.wrong("%s %s is off the globe; see whether latitude and longitude are the wrong way round", what, text)
	}
	return x
}

func angle(text, sides string) (float64, error) {
	m := sexagesimal.FindStringSubmatch(text)
	if m == nil {
		return 0, strconv.ErrSyntax
	}
	side := strings.ToUpper(m[1] + m[5])
	if len(side) > 1 || side != "" && !strings.Contains(sides, side) {
		return 0, strconv.ErrSyntax
	}
	var parts [3]float64
	for i, part := range m[2:5] {
		x, err := finite(strings.Replace(or(part, "0"), ",", ".", 1))
		if err != nil || i > 0 && x >= 60 {
			return 0, strconv.ErrSyntax
		}
		parts[i] = x
	}
	x := math.Abs(parts[0]) + parts[1]/60 + parts[2]/3600
	if strings.HasPrefix(m[2], "-") && side == "" || side == sides[1:] && side != "" {
		x = -x
	}
	return x, nil
}

// grid reads a point on the UTM grid.
func (r *reader) grid(zone, east, north string) (p logbook.Position) {
	u, err := zoned(zone)
	if err == nil {
		u.Easting, err = finite(strings.ReplaceAll(east, ",", ""))
	}
	if err == nil {
		u.Northing, err = finite(strings.ReplaceAll(north, ",", ""))
	}
	if err != nil {
		r.wrong("zone %q, easting %q, northing %q is not on the UTM grid; write them as 15N, 690756, 4825848", zone, east, north)
		return p
	}
	at, err := earth.FromUTM(u)
	if err != nil {
		r.wrong("%v", err)
	}
	// A millimetre is more than any receiver tells.
	return logbook.Position{Lat: math.Round(at.Lat*1e8) / 1e8, Lon: math.Round(at.Lon*1e8) / 1e8}
}

// zoned reads a zone of the grid: 15, 15N, 15 north, or with the letter of its band, 15T. S is the band in the
// north for some and the south for others, and is refused.
func zoned(zone string) (u earth.UTM, err error) {
	zone = strings.TrimSuffix(strings.ToUpper(strings.ReplaceAll(zone, " ", "")), ".0")
	digits := strings.TrimRight(zone, "ABCDEFGHIJKLMNOPQRSTUVWXYZ")
	if u.Zone, err = strconv.Atoi(digits); err != nil {
		return u, fmt.Errorf("zone %q is not a number", zone)
	}
	switch letters := zone[len(digits):]; {
	case letters == "" || letters == "NORTH":
	case letters == "SOUTH":
		u.South = true
	case letters == "S" || len(letters) > 1:
		return u, fmt.Errorf("zone %q: say north or south", zone)
	default:
		u.South = letters < "N"
	}
	return u, nil
}
