package book

import (
	"encoding/json"

	"palethicket/core/flora"
	arithmetic "palethicket/core/measure/sums"
	"palethicket/core/tree/logbook"
)

// SumAsked is one that can be asked for.
type SumAsked struct {
	ID     string     `json:"id"`
	Words  string     `json:"words"`
	Source string     `json:"source" doc:"Of its formula"`
	Fills  string     `json:"fills" enum:"height,diameter,position," doc:"What of a tree the result is; empty: nothing that is kept of one"`
	Inputs []SumInput `json:"inputs"`
}

// SumInput is what a sum is given.
type SumInput struct {
	Name     string   `json:"name"`
	Words    string   `json:"words"`
	Kind     string   `json:"kind" enum:"length,slope,factor,number,count,word,place,lengths,counts,places,numbers,percents"`
	Example  string   `json:"example" doc:"How one is written"`
	Optional bool     `json:"optional"`
	Of       []string `json:"of" doc:"Of a word: which"`
	By       string   `json:"by" doc:"How it is usually measured, which says its usual error"`
	Reads    string   `json:"reads,omitempty" enum:"diameter,height,range,position" doc:"What of an instrument fills it; absent: nothing does"`
	Sight    string   `json:"sight,omitempty" doc:"Of a range: level, or the input that its angle goes to"`
}

// SumResult is what came of one.
type SumResult struct {
	ID    string             `json:"id"`
	Value *float64           `json:"value,omitempty"`
	Unit  string             `json:"unit,omitempty"`
	SD    *float64           `json:"sd,omitempty" doc:"One standard deviation"`
	Says  string             `json:"says,omitempty"`
	Parts map[string]float64 `json:"parts,omitempty"`
	Error string             `json:"error,omitempty" doc:"Why there is none, and which input is wrong"`
}

// examples say how each kind of input is written.
var examples = map[arithmetic.Kind]string{
	arithmetic.Length:   "20 m, 66 ft, 5 ft 6 in",
	arithmetic.Slope:    "62 %, 35°, 75 topo",
	arithmetic.Factor:   "2 m2/ha, 10 ft2/ac",
	arithmetic.Number:   "800",
	arithmetic.Count:    "12",
	arithmetic.Place:    "43.57, -90.63",
	arithmetic.Lengths:  "24 cm; 31 cm; 42 cm",
	arithmetic.Counts:   "10; 12; 14",
	arithmetic.Places:   "43.57, -90.63; 43.58, -90.63; 43.58, -90.62",
	arithmetic.Numbers:  "125; 128; 122",
	arithmetic.Percents: "25 %",
}

// Sums lists the sums there are.
func Sums() []SumAsked {
	return each(arithmetic.All, func(s arithmetic.Sum) SumAsked {
		return SumAsked{s.ID, flora.UpperFirst(s.Words), s.Source, logbook.Fills(s.ID), each(s.Inputs, func(in arithmetic.Input) SumInput {
			return SumInput{in.Name, flora.UpperFirst(in.Words), string(in.Kind), examples[in.Kind], in.Optional, listed(in.Of), in.By, in.Reads,
				in.Sight}
		})}
	})
}

// DoSums does sums in the order asked; one that cannot be done says why, and the others still come out.
func DoSums(asked []map[string]json.RawMessage) []SumResult {
	return each(asked, func(a map[string]json.RawMessage) SumResult { return SumResult(*arithmetic.Do(a)) })
}
