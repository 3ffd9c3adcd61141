// Package sums does the arithmetic that people do on the back of a tally card, with units and errors.
//
//	sums.go      what sums there are, how one is asked, and what comes of it
//	input.go     what a sum is given, read as people write it, and how errors carry over
//	trees.go     diameters, heights, crowns, whorls
//	plots.go     basal area, sweeps, plots, density
//	other.go     paces, sap, ground, fixes, bearings
package sums

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
)

// Sum is one that can be asked for.
type Sum struct {
	ID     string
	Words  string
	Inputs []Input
	Source string // of its formula
	work   func(in *input) *Result
}

// Kind is what an input is.
type Kind string

// The kinds of input.
const (
	Length   Kind = "length"   // with a unit: 20 m, 5 ft 6 in; several readings as 5; 6; 7 mm
	Slope    Kind = "slope"    // 62 %, 35°, 75 topo
	Factor   Kind = "factor"   // 2 m2/ha, 10 ft2/ac
	Number   Kind = "number"   // without a unit
	Count    Kind = "count"    // a whole number
	Word     Kind = "word"     // one of some
	Place    Kind = "place"    // [longitude, latitude]
	Lengths  Kind = "lengths"  // a list of lengths
	Counts   Kind = "counts"   // a list of whole numbers
	Places   Kind = "places"   // a list of places
	Numbers  Kind = "numbers"  // a list of numbers
	Percents Kind = "percents" // a share, as 25 %
)

// Input is what a sum is given.
type Input struct {
	Name     string
	Words    string
	Kind     Kind
	Optional bool
	Of       []string // of a word: which; the first where none is given
	By       string   // the usual way to measure it, which says its usual error
	Reads    string   // what of an instrument fills it: diameter, height, range or position; empty: nothing does
	Sight    string   // of a range: [Level], or the input that its angle goes to
}

// Level is the [Input.Sight] of a distance on the level: a range read along a line of sight is brought to it by its angle.
const Level = "level"

// Result is what comes of a sum: a value, or why there is none.
type Result struct {
	ID    string             `json:"id"`
	Value *float64           `json:"value,omitempty"`
	Unit  string             `json:"unit,omitempty"`
	SD    *float64           `json:"sd,omitempty"` // one standard deviation
	Says  string             `json:"says,omitempty"`
	Parts map[string]float64 `json:"parts,omitempty"`
	Error string             `json:"error,omitempty"`
}

// All are the sums there are.
var All = slices.Concat(ofTrees, ofPlots, ofOthers)

// ByID gives a sum, or nil.
func ByID(id string) *Sum {
	for i := range All {
		if All[i].ID == id {
			return &All[i]
		}
	}
	return nil
}

// Do does one sum: its id, which sum it is, and its inputs by name. What is missing, of another kind or
// impossible is said in the result.
func Do(asked map[string]json.RawMessage) *Result {
	var id, name string
	if err := text(asked["id"], &id); err != nil {
		return &Result{Error: "id: " + err.Error()}
	}
	fail := func(format string, args ...any) *Result { return &Result{ID: id, Error: fmt.Sprintf(format, args...)} }
	if err := text(asked["sum"], &name); err != nil || name == "" {
		return fail("sum: say which; one of %s", strings.Join(names(), ", "))
	}
	s := ByID(name)
	if s == nil {
		return fail("sum: there is no %q; use one of %s", name, strings.Join(names(), ", "))
	}
	for key := range asked {
		known := key == "id" || key == "sum" || slices.ContainsFunc(s.Inputs, func(i Input) bool { return key == i.Name || key == i.Name+"_by" })
		if !known {
			return fail("%s: %s does not take that; it takes %s", key, s.ID, s.takes())
		}
	}
	in := &input{asked: asked, of: s}
	out := s.work(in)
	if in.err != nil {
		return fail("%v", in.err)
	}
	if out.Value != nil && (math.IsNaN(*out.Value) || math.IsInf(*out.Value, 0)) {
		return fail("what was given does not go together: there is no such %s", s.Words)
	}
	out.ID = id
	return out
}

// File is a file of sums to be done.
type File struct {
	Sums []map[string]json.RawMessage `json:"sums"`
}

// DoAll does all sums of a file, in the order asked; those that cannot be done say why, and the others still
// come out.
func DoAll(file []byte) ([]*Result, error) {
	var f File
	if err := json.Unmarshal(file, &f); err != nil {
		return nil, fmt.Errorf(`this is no file of sums, as {"sums": [{"id": "a", "sum": "basal-area", "diameter": "30 cm"}]}: %w`, err)
	}
	out := make([]*Result, len(f.Sums))
	for i, s := range f.Sums {
		out[i] = Do(s)
	}
	return out, nil
}

func names() []string {
	out := make([]string, len(All))
	for i := range All {
		out[i] = All[i].ID
	}
	return out
}

func (s *Sum) takes() string {
	out := make([]string, len(s.Inputs))
	for i, in := range s.Inputs {
		out[i] = in.Name
	}
	return strings.Join(out, ", ")
}

// says writes a value with its error, to as many places as that gives.
func says(value, sd float64, unit string) string {
	if sd <= 0 || math.IsNaN(sd) {
		return strings.TrimSpace(fmt.Sprintf("%.4g %s", value, unit))
	}
	places := max(0, -int(math.Floor(math.Log10(sd))))
	return strings.TrimSpace(fmt.Sprintf("%.*f %s ± %.*f", places, value, unit, places, sd))
}
