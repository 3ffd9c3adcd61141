package sums

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"palethicket/core/measure"
	"palethicket/core/measure/earth"
)

// The ways to measure, and the usual error of each (common practice): relative, or absolute in metres, in
// slope (rise over run) or in degrees.
var ways = map[string]struct{ relative, metres, slope, degrees float64 }{
	"tape":       {relative: 0.005},
	"pacing":     {relative: 0.04},
	"clinometer": {slope: 0.005, degrees: 0.3},
	"height":     {relative: 0.03}, // of a tree, by angles or a laser
	"laser":      {metres: 0.1, degrees: 0.2, slope: 0.0035},
	"girth":      {relative: 0.005},
	"caliper":    {relative: 0.01},
	"eye":        {relative: 0.15},
	"exact":      {},
}

// reading is one value of a sum and its standard deviation.
type reading struct{ v, sd float64 }

// input is what one sum was given.
type input struct {
	asked map[string]json.RawMessage
	of    *Sum
	all   []*reading // that carry an error
	err   error      // the first that was wrong
}

func text(raw json.RawMessage, into *string) error {
	if raw == nil {
		return nil
	}
	if err := json.Unmarshal(raw, into); err != nil {
		return errors.New("want a text")
	}
	return nil
}

func (in *input) wrong(name, format string, args ...any) {
	if in.err == nil {
		in.err = fmt.Errorf(name+": "+format, args...)
	}
}

// has says whether an input was given.
func (in *input) has(name string) bool {
	return in.asked[name] != nil && string(in.asked[name]) != "null"
}

// raw gives what was written for an input; where it must be given and is not, that is wrong.
func (in *input) raw(name string) (json.RawMessage, bool) {
	if in.has(name) {
		return in.asked[name], true
	}
	i := slices.IndexFunc(in.of.Inputs, func(i Input) bool { return i.Name == name })
	if !in.of.Inputs[i].Optional {
		in.wrong(name, "this is missing; %s needs %s", in.of.ID, in.of.Inputs[i].Words)
	}
	return nil, false
}

// way is how an input was measured.
func (in *input) way(name string) string {
	i := slices.IndexFunc(in.of.Inputs, func(i Input) bool { return i.Name == name })
	by := in.of.Inputs[i].By
	var said string
	if err := text(in.asked[name+"_by"], &said); err != nil {
		in.wrong(name+"_by", "%v", err)
	}
	if said != "" {
		if _, known := ways[said]; !known {
			in.wrong(name+"_by", "%q is no way to measure; use one of tape, pacing, clinometer, height, laser, girth, caliper, eye, exact", said)
		}
		by = said
	}
	return by
}

// keep takes a reading in, so that its error carries over.
func (in *input) keep(r reading) *reading {
	in.all = append(in.all, &r)
	return &r
}

// length reads a length in metres, the mean of several readings.
func (in *input) length(name string) *reading {
	raw, ok := in.raw(name)
	if !ok {
		return &reading{v: math.NaN()}
	}
	return in.keep(in.oneLength(name, raw))
}

func (in *input) oneLength(name string, raw json.RawMessage) reading {
	var said string
	if err := text(raw, &said); err != nil {
		in.wrong(name, "want a length with its unit, as \"20 m\"")
		return reading{}
	}
	said, angle, sighted := measure.ReadSighted(said)
	values, err := measure.Metres(said)
	if err != nil {
		in.wrong(name, "%v", err)
		return reading{}
	}
	mean, n := 0.0, float64(len(values))
	for _, v := range values {
		mean += v / n
	}
	way := ways[in.way(name)]
	sd := max(way.relative*mean, way.metres)
	if len(values) > 1 { // the readings say it themselves
		squares := 0.0
		for _, v := range values {
			squares += (v - mean) * (v - mean)
		}
		sd = math.Sqrt(squares / (n - 1) / n)
	}
	if sighted {
		return in.level(name, reading{mean, sd}, angle)
	}
	return reading{mean, sd}
}

// level brings a range read along a line of sight to the level: r cos(angle).
func (in *input) level(name string, r reading, angle string) reading {
	i := slices.IndexFunc(in.of.Inputs, func(i Input) bool { return i.Name == name })
	s, err := measure.ReadSlope(angle)
	switch {
	case in.of.Inputs[i].Sight != Level:
		in.wrong(name, "a range at an angle is not %s; write the length alone", in.of.Inputs[i].Words)
	case err != nil:
		in.wrong(name, "%v", err)
	case string(in.asked["along"]) == `"slope"`:
		in.wrong(name, `a range with its angle is brought to the level: say "along": "level"`)
	}
	a := math.Atan(s.Tan)
	return reading{r.v * math.Cos(a), math.Hypot(r.sd*math.Cos(a), r.v*math.Sin(a)*ways["laser"].degrees*math.Pi/180)}
}

// lengths reads a list of lengths in metres.
func (in *input) lengths(name string) (out []*reading) {
	var list []json.RawMessage
	raw, ok := in.raw(name)
	if !ok {
		return nil
	}
	if err := json.Unmarshal(raw, &list); err != nil {
		in.wrong(name, `want a list of lengths, as ["24 cm", "31 cm"]`)
	}
	for i := range list {
		out = append(out, in.keep(in.oneLength(name, list[i])))
	}
	if len(list) == 0 {
		in.wrong(name, "the list is empty")
	}
	return out
}

// slope reads a slope as rise over run.
func (in *input) slope(name string) *reading {
	raw, ok := in.raw(name)
	if !ok {
		return &reading{}
	}
	var said string
	if err := text(raw, &said); err != nil {
		in.wrong(name, `want a slope with its scale, as "62 %%" or "35°"`)
		return &reading{}
	}
	s, err := measure.ReadSlope(said)
	if err != nil {
		in.wrong(name, "%v", err)
		return &reading{}
	}
	way := ways[in.way(name)]
	sd := way.slope
	if s.Unit == "degrees" {
		sd = way.degrees * math.Pi / 180 * (1 + s.Tan*s.Tan) // of the tangent
	}
	return in.keep(reading{s.Tan, sd})
}

// number reads a number, of at least least.
func (in *input) number(name string, least float64) *reading {
	raw, ok := in.raw(name)
	if !ok {
		return &reading{v: math.NaN()}
	}
	return &reading{v: in.oneNumber(name, raw, least)}
}

func (in *input) oneNumber(name string, raw json.RawMessage, least float64) float64 {
	var x float64
	if err := json.Unmarshal(raw, &x); err != nil {
		in.wrong(name, "want a number without a unit")
		return math.NaN()
	}
	if !(x >= least) || x > 1e12 {
		in.wrong(name, "%g is impossible: want %g or more", x, least)
	}
	return x
}

// numbers reads a list of numbers.
func (in *input) numbers(name string, least float64) (out []float64) {
	raw, ok := in.raw(name)
	if !ok {
		return nil
	}
	var list []json.RawMessage
	if err := json.Unmarshal(raw, &list); err != nil {
		in.wrong(name, "want a list of numbers, as [5, 7, 6]")
	}
	for _, one := range list {
		out = append(out, in.oneNumber(name, one, least))
	}
	if len(list) == 0 {
		in.wrong(name, "the list is empty")
	}
	return out
}

// counts reads a list of trees counted, of which those on the edge count half.
func (in *input) counts(name string) []float64 {
	out := in.numbers(name, 0)
	for _, x := range out {
		if 2*x != math.Trunc(2*x) {
			in.wrong(name, "%g is no count: trees are counted whole, and half on the edge", x)
		}
	}
	return out
}

// percent reads a share, as "25 %".
func (in *input) percent(name string) float64 {
	raw, ok := in.raw(name)
	if !ok {
		return math.NaN()
	}
	var said string
	if err := text(raw, &said); err != nil || !strings.HasSuffix(strings.TrimSpace(said), "%") {
		in.wrong(name, `want a share, as "25 %%"`)
		return math.NaN()
	}
	s, err := measure.ReadSlope(said)
	if err != nil || s.Tan <= 0 {
		in.wrong(name, `want a share of more than nothing, as "25 %%"`)
		return math.NaN()
	}
	return s.Tan
}

// factor reads a basal-area factor in m²/ha.
func (in *input) factor(name string) float64 {
	raw, ok := in.raw(name)
	if !ok {
		return math.NaN()
	}
	var said string
	if err := text(raw, &said); err != nil {
		in.wrong(name, `want a basal-area factor, as "2 m2/ha"`)
		return math.NaN()
	}
	k, err := measure.ReadFactor(said)
	if err != nil {
		in.wrong(name, "%v", err)
	}
	return k
}

// word reads one of some words; the first where none is given.
func (in *input) word(name string, of ...string) string {
	var said string
	if err := text(in.asked[name], &said); err != nil {
		in.wrong(name, "%v", err)
	}
	if said == "" {
		return of[0]
	}
	if !slices.Contains(of, said) {
		in.wrong(name, "%q; use one of %s", said, strings.Join(of, ", "))
	}
	return said
}

// place reads [longitude, latitude].
func (in *input) place(name string) earth.Place {
	raw, ok := in.raw(name)
	if !ok {
		return earth.Place{}
	}
	return in.onePlace(name, raw)
}

func (in *input) onePlace(name string, raw json.RawMessage) earth.Place {
	var p []float64
	if err := json.Unmarshal(raw, &p); err != nil || len(p) != 2 || math.Abs(p[0]) > 180 || math.Abs(p[1]) > 90 {
		in.wrong(name, "want [longitude, latitude] in degrees")
		return earth.Place{}
	}
	return earth.Place{Lon: p[0], Lat: p[1]}
}

func (in *input) places(name string, least int) (out []earth.Place) {
	raw, ok := in.raw(name)
	if !ok {
		return nil
	}
	var list []json.RawMessage
	if err := json.Unmarshal(raw, &list); err != nil {
		in.wrong(name, "want a list of places, each [longitude, latitude]")
	}
	for _, one := range list {
		out = append(out, in.onePlace(name, one))
	}
	if len(out) < least {
		in.wrong(name, "want %d places or more", least)
	}
	return out
}

// carry works out a result and its standard deviation: errors are taken to be independent, and carried over
// to first order by small steps to either side (JCGM 100:2008, section 5.1).
func (in *input) carry(f func() float64) (value, sd float64) {
	value = f()
	sum := 0.0
	for _, r := range in.all {
		if r.sd <= 0 {
			continue
		}
		was, step := r.v, r.sd/64
		r.v = was + step
		up := f()
		r.v = was - step
		down := f()
		r.v = was
		slope := (up - down) / (2 * step)
		sum += slope * slope * r.sd * r.sd
	}
	return value, math.Sqrt(sum)
}

// result is a value in a unit with its error.
func (in *input) result(f func() float64, unit string) *Result {
	if in.err != nil {
		return &Result{}
	}
	value, sd := in.carry(f)
	return &Result{Value: &value, Unit: unit, SD: &sd, Says: says(value, sd, unit)}
}

// with adds parts to a result.
func (r *Result) with(parts map[string]float64) *Result {
	r.Parts = parts
	return r
}
