// Package measure reads what people write for a measurement: one reading or
// several, in whole numbers, decimals or fractions, with or without a unit.
package measure

import (
	"errors"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// Readings are the readings of one measurement, all in one unit.
type Readings struct {
	Values []float64 // more than 0
	Unit   string    // mm, cm, m, in or ft; empty: none was written
	ByEye  bool      // held against a pencil
}

// PencilMM is how thick a pencil is: it divides slender twigs from stout (common
// practice).
const PencilMM = 7.0

// millimetres holds the units of length.
var millimetres = map[string]float64{"mm": 1, "cm": 10, "m": 1000, "in": 25.4, "ft": 304.8}

// unitWords are the ways people write a unit.
var unitWords = map[string]string{
	"mm":     "mm",
	"cm":     "cm",
	"m":      "m",
	"in":     "in",
	"inch":   "in",
	"inches": "in",
	`"`:      "in",
	"″":      "in",
	"”":      "in",
	"ft":     "ft",
	"feet":   "ft",
	"foot":   "ft",
	"'":      "ft",
	"′":      "ft",
	"’":      "ft",
	"chain":  "chain",
	"chains": "chain",
}

// chainFeet is how long a surveyor's chain is (Gunter's).
const chainFeet = 66

// Units lists the units of length, the smallest first.
func Units() []string { return []string{"mm", "cm", "m", "in", "ft"} }

// IsLength says whether a unit is one of length.
func IsLength(unit string) bool { return millimetres[unit] > 0 }

// Factor is what a figure in one unit is multiplied by to be in another. It
// fails where they do not measure the same.
func Factor(from, to string) (float64, error) {
	if from == "" || from == to {
		return 1, nil
	}
	if !IsLength(from) || !IsLength(to) {
		return 0, fmt.Errorf("%s cannot be given in %s", to, from)
	}
	return millimetres[from] / millimetres[to], nil
}

var (
	pencil  = regexp.MustCompile(`^(?:(half|twice) )?(?:(?:a|1) )?pencil$`)
	reading = regexp.MustCompile(`^(?:(\d+(?:[.,]\d*)?|[.,]\d+)(?:[ -](\d+)/(\d+))?|(\d+)/(\d+))\s*([a-z"'″′”’]*)$`)
	between = regexp.MustCompile(`;|,\s+`)
	grouped = regexp.MustCompile(`^\d{1,3}(?:\s\d{3})+(?:[.,]\d+)?\s*[a-z"'″′”’]*$`)
	inRow   = regexp.MustCompile(`^(\d+(?:[.,]\d+)?)((?:\s+\d+(?:[.,]\d+)?)+)\s*([a-z"'″′”’]*)$`)
	twoFold = regexp.MustCompile(`^(\d+)\s*(?:feet|foot|ft|['′’])\s*` +
		`(\d+(?:[.,]\d+)?(?:[ -]\d+/\d+)?|\d+/\d+)\s*(?:inches|inch|in|["″”])?$`)
)

// fractions are the signs that keyboards of telephones offer.
var fractions = strings.NewReplacer("½", " 1/2", "¼", " 1/4", "¾", " 3/4", "⅛", " 1/8", "⅜", " 3/8", "⅝", " 5/8", "⅞", " 7/8")

// Read reads "6.5", "6,5", "1/4 in", "3 1/2", "5; 6; 5.5" or "half a pencil".
// All readings of a row are in one unit, written at any of them.
func Read(text string) (*Readings, error) {
	text = strings.ToLower(strings.TrimSpace(fractions.Replace(text)))
	if text == "" {
		return nil, errors.New("nothing is written")
	}
	if m := pencil.FindStringSubmatch(text); m != nil {
		times := map[string]float64{"": 1, "half": 0.5, "twice": 2}[m[1]]
		return &Readings{Values: []float64{PencilMM * times}, Unit: "mm", ByEye: true}, nil
	}
	if grouped.MatchString(text) {
		return nil, fmt.Errorf("%q may be one figure or several readings; write it without spaces, or with semicolons between the readings", text)
	}
	r := &Readings{}
	if m := inRow.FindStringSubmatch(text); m != nil { // 5 6 7 mm
		text = strings.Join(strings.Fields(m[1]+m[2]), "; ") + " " + m[3]
	}
	for _, part := range between.Split(text, -1) {
		if part = strings.TrimSpace(part); part == "" {
			continue
		}
		value, unit, err := readOne(part)
		if err != nil {
			return nil, err
		}
		if unit != "" && r.Unit != "" && unit != r.Unit {
			return nil, fmt.Errorf("%q mixes %s and %s; write all readings in one unit", text, r.Unit, unit)
		}
		if unit != "" {
			r.Unit = unit
		}
		r.Values = append(r.Values, value)
	}
	if len(r.Values) == 0 {
		return nil, fmt.Errorf("there is no figure in %q", text)
	}
	return r, nil
}

func readOne(part string) (value float64, unit string, err error) {
	if m := twoFold.FindStringSubmatch(part); m != nil { // 5 ft 6 in
		if strings.Trim(m[2], "0.,") == "" && figure(m[1]) > 0 {
			return figure(m[1]), "ft", nil
		}
		inches, _, err := readOne(m[2])
		return figure(m[1]) + inches/12, "ft", err
	}
	m := reading.FindStringSubmatch(part)
	if m == nil {
		return 0, "", fmt.Errorf("%q is not a measurement; write it as 6.5, 3 1/2 or 1/4 in, several readings as 5; 6; 5.5, or a pencil", part)
	}
	if m[6] != "" && unitWords[m[6]] == "" {
		return 0, "", fmt.Errorf("%q is not a unit; use one of %s", m[6], strings.Join(Units(), ", "))
	}
	if m[4] != "" {
		value = figure(m[4]) / figure(m[5])
	} else if value = figure(m[1]); m[2] != "" {
		value += figure(m[2]) / figure(m[3])
	}
	if !(value > 0) || math.IsInf(value, 0) {
		return 0, "", fmt.Errorf("%q is not more than nothing", part)
	}
	if unitWords[m[6]] == "chain" {
		return value * chainFeet, "ft", nil
	}
	return value, unitWords[m[6]], nil
}

// figure reads digits that the pattern found; a comma is a decimal point.
func figure(digits string) float64 {
	x, _ := strconv.ParseFloat(strings.Replace(digits, ",", ".", 1), 64)
	return x
}

// Mean is the mean of the readings, to three figures as it is read off.
func (r *Readings) Mean() float64 {
	sum := 0.0
	for _, v := range r.Values {
		sum += v
	}
	return ThreeFigures(sum / float64(len(r.Values)))
}

// ThreeFigures rounds to three significant figures.
func ThreeFigures(x float64) float64 {
	rounded, _ := strconv.ParseFloat(strconv.FormatFloat(x, 'g', 3, 64), 64)
	return rounded
}

// Spread is the sample standard deviation, or 0 of one reading.
func (r *Readings) Spread() float64 {
	if len(r.Values) < 2 {
		return 0
	}
	mean, squares := 0.0, 0.0
	for _, v := range r.Values {
		mean += v / float64(len(r.Values))
	}
	for _, v := range r.Values {
		squares += (v - mean) * (v - mean)
	}
	return math.Sqrt(squares / float64(len(r.Values)-1))
}
