// Package plain reads what a caliper or a laser hypsometer sends: lines of text, one
// reading each, in a small open format (docs/instruments.md).
//
//	D 34.2 cm            a diameter, or what a caliper is held to
//	H 21.7 m             a height that the hypsometer worked out
//	R 32.1 m 38.2 deg    a distance along the line of sight, and how steep that is
//
// A line may end in * and a checksum as NMEA's: without one a digit that was changed on the
// way is not found.
package plain

import (
	"errors"
	"fmt"
	"strings"

	"palethicket/core/measure"
	"palethicket/instrument/nmea"
)

// Most is how many characters a line may have.
const Most = 80

// Reading is one reading.
type Reading struct {
	Kind  string // diameter, height or range
	Text  string // the length as it was sent: 34.2 cm
	Angle string // of a range: 38.2 deg
}

// ErrGarbage is given for a line that is no reading at all.
var ErrGarbage = errors.New("this is no reading")

// unsealed takes the checksum off a line that has one.
func unsealed(line string) (string, error) {
	if len(line) > Most {
		return "", ErrGarbage
	}
	body, sum, sealed := strings.Cut(line, "*")
	if sealed && fmt.Sprintf("%02X", nmea.Checksum(body)) != strings.ToUpper(sum) {
		return "", nmea.ErrChecksum
	}
	return body, nil
}

// Write puts a checksum and a line end after what a line says.
func Write(body string) string { return fmt.Sprintf("%s*%02X\r\n", body, nmea.Checksum(body)) }

// kinds are what a line may begin with, and what lengths each can have, in metres: more than
// any tree has is a wrong unit.
var kinds = map[string]struct {
	name        string
	least, most float64
}{
	"D": {"diameter", 0.0005, 5},
	"H": {"height", 0.1, 130},
	"R": {"range", 0.2, 1500},
}

// Read reads a line, with or without its end.
func Read(line string) (*Reading, error) {
	line = strings.TrimRight(line, "\r\n")
	line, err := unsealed(line)
	if err != nil {
		return nil, err
	}
	f := strings.Fields(line)
	if len(f) < 2 {
		return nil, ErrGarbage
	}
	kind, known := kinds[f[0]]
	if !known {
		return nil, ErrGarbage
	}
	if len(f) < 3 {
		return nil, fmt.Errorf("%q has no unit, or came in half", line)
	}
	r := &Reading{Kind: kind.name, Text: f[1] + " " + f[2]}
	if strings.Trim(f[1], "0123456789.,") != "" {
		return nil, ErrGarbage
	}
	long, err := measure.Metres(r.Text)
	if err != nil {
		return nil, fmt.Errorf("%q: %w", line, err)
	}
	if len(long) != 1 || long[0] < kind.least || long[0] > kind.most {
		return nil, fmt.Errorf("%q is no %s that a tree has; look at the unit", line, kind.name)
	}
	if kind.name != "range" {
		if len(f) != 3 {
			return nil, fmt.Errorf("%q says more than one reading", line)
		}
		return r, nil
	}
	if len(f) != 5 {
		return nil, fmt.Errorf("%q has no angle, or came in half", line)
	}
	r.Angle = f[3] + " " + f[4]
	if _, err := measure.ReadSlope(r.Angle); err != nil {
		return nil, fmt.Errorf("%q: %w", line, err)
	}
	return r, nil
}
