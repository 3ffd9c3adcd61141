package measure

import (
	"fmt"
	"math"
	"regexp"
	"strings"
)

// Metres are the readings of a length in metres, or why a text is none: one of more than nothing, with its unit.
func Metres(text string) ([]float64, error) {
	r, err := Read(text)
	if err != nil {
		return nil, err
	}
	if r.Unit == "" {
		return nil, fmt.Errorf("%q has no unit; write it as 12.5 cm, 5 ft 6 in or 20 m", text)
	}
	out := make([]float64, len(r.Values))
	for i, v := range r.Values {
		out[i] = v * millimetres[r.Unit] / 1000
	}
	return out, nil
}

// steepest is the rise over run beyond which no slope is taken: scales end there, and so near upright an error of half a degree
// changes a height by a tenth.
const steepest = 10

// Slope is how steep a line is, as it was read off.
type Slope struct {
	Tan  float64 // rise over run; below the level it is negative
	Unit string  // percent, degrees or topo: the scale that it was read on
}

// TopoBase is how far, in the scale's own units, the rise of a topographic scale counts for: a chain of 66 ft.
const TopoBase = 66

var slope = regexp.MustCompile(`^([+-]?\d*[.,]?\d+)\s*(%|percent|per cent|°|deg|degrees?|topo)$`)

// ReadSlope reads "62 %", "-8 %", "35°", "38.2 deg" or "75 topo".
func ReadSlope(text string) (out Slope, err error) {
	m := slope.FindStringSubmatch(strings.ReplaceAll(strings.ToLower(strings.TrimSpace(text)), "−", "-"))
	if m == nil {
		return Slope{}, fmt.Errorf("%q is not a slope; write it as 62 %%, -8 %%, 35° or 75 topo", text)
	}
	x := figure(strings.TrimLeft(m[1], "+-"))
	if strings.HasPrefix(m[1], "-") {
		x = -x
	}
	switch m[2] {
	case "%", "percent", "per cent":
		out = Slope{x / 100, "percent"}
	case "topo":
		out = Slope{x / TopoBase, "topo"}
	default:
		if math.Abs(x) >= 90 {
			return Slope{}, fmt.Errorf("%q is upright or more: an angle lies between -90° and 90°", text)
		}
		out = Slope{math.Tan(x * math.Pi / 180), "degrees"}
	}
	if math.Abs(out.Tan) > steepest {
		return Slope{}, fmt.Errorf("%q is steeper than any scale shows: 84°, 1000 %% or 660 topo; go farther off", text)
	}
	return out, nil
}

var factor = regexp.MustCompile(`^(\d*[.,]?\d+)\s*(m2/ha|m²/ha|ft2/ac|ft²/ac|baf)?$`)

// FeetPerAcre is 1 ft²/ac in m²/ha.
const FeetPerAcre = 0.3048 * 0.3048 / 0.40468564224

// ReadFactor reads the basal-area factor of an angle gauge or prism: "2 m2/ha" or "10 ft2/ac", into m²/ha.
func ReadFactor(text string) (float64, error) {
	m := factor.FindStringSubmatch(strings.ToLower(strings.TrimSpace(text)))
	if m == nil || m[2] == "" || m[2] == "baf" || !(figure(m[1]) > 0) {
		return 0, fmt.Errorf("%q is not a basal-area factor; write it as 2 m2/ha or 10 ft2/ac", text)
	}
	if strings.HasPrefix(m[2], "ft") {
		return figure(m[1]) * FeetPerAcre, nil
	}
	return figure(m[1]), nil
}

// InFeet says whether a basal-area factor is written in square feet an acre.
func InFeet(text string) bool { return strings.Contains(strings.ToLower(text), "ft") }

var sighted = regexp.MustCompile(`^(.*\S)\s+at\s+(\S.*)$`)

// ReadSighted parts what a laser reads along its line of sight, "32.1 m at 38.2°", into the length and the angle as they are
// written; ok is false where no angle is.
func ReadSighted(text string) (length, angle string, ok bool) {
	m := sighted.FindStringSubmatch(strings.TrimSpace(text))
	if m == nil {
		return text, "", false
	}
	return m[1], m[2], true
}
