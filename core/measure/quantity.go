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

// Slope is how steep a line is, as it was read off.
type Slope struct {
	Tan  float64 // rise over run; below the level it is negative
	Unit string  // percent, degrees or topo: the scale that it was read on
}

// TopoBase is how far, in the scale's own units, the rise of a topographic scale counts for: a chain of 66 ft.
const TopoBase = 66

var slope = regexp.MustCompile(`^([+-]?\d*[.,]?\d+)\s*(%|percent|per cent|°|deg|degrees?|topo)$`)

// ReadSlope reads "62 %", "-8 %", "35°", "38.2 deg" or "75 topo".
func ReadSlope(text string) (Slope, error) {
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
		if math.Abs(x) > 1000 {
			return Slope{}, fmt.Errorf("%q is steeper than any scale shows", text)
		}
		return Slope{x / 100, "percent"}, nil
	case "topo":
		if math.Abs(x) > 10*TopoBase {
			return Slope{}, fmt.Errorf("%q is steeper than any scale shows", text)
		}
		return Slope{x / TopoBase, "topo"}, nil
	}
	if math.Abs(x) >= 90 {
		return Slope{}, fmt.Errorf("%q is upright or more: an angle lies between -90° and 90°", text)
	}
	return Slope{math.Tan(x * math.Pi / 180), "degrees"}, nil
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
