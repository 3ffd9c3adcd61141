package sums

import (
	"fmt"
	"math"
	"strings"
)

const cm = 100 // in a metre

var ofTrees = []Sum{
	{
		"diameter-girth", "diameter from girth",
		[]Input{{Name: "girth", Words: "the girth", Kind: Length, By: "girth"}},
		"c / π", diameterGirth,
	},
	{
		"diameter-crossed", "diameter of two at right angles",
		[]Input{
			{Name: "first", Words: "one diameter", Kind: Length, By: "caliper", Reads: "diameter"},
			{Name: "second", Words: "the one across it", Kind: Length, By: "caliper", Reads: "diameter"},
		},
		"their mean (common practice)", diameterCrossed,
	},
	{
		"diameter-stems", "diameter of several stems",
		[]Input{{Name: "stems", Words: "their diameters", Kind: Lengths, By: "caliper", Reads: "diameter"}},
		"√Σd², of forks below breast height (1.3 m, or 4.5 ft, on the uphill side; common practice)", diameterStems,
	},
	{
		"height-angles", "height by angles",
		[]Input{
			{Name: "distance", Words: "how far off", Kind: Length, By: "tape", Reads: "range", Sight: Level},
			{Name: "along", Words: "measured level, or along the slope", Kind: Word, Of: []string{"level", "slope"}},
			{
				Name: "slope", Words: "how steep the ground is, where measured along it",
				Kind: Slope, Optional: true, By: "clinometer", Reads: "range",
			},
			{Name: "top", Words: "to the top", Kind: Slope, By: "clinometer", Reads: "range"},
			{Name: "base", Words: "to the base", Kind: Slope, By: "clinometer", Reads: "range"},
		},
		"D (tan top − tan base), D = s cos(slope) along the slope", heightAngles,
	},
	{
		"height-laser", "height by laser",
		[]Input{
			{Name: "top_range", Words: "range to the top", Kind: Length, By: "laser", Reads: "range", Sight: "top_angle"},
			{Name: "top_angle", Words: "angle to the top", Kind: Slope, By: "laser", Reads: "range"},
			{Name: "base_range", Words: "range to the base", Kind: Length, By: "laser", Reads: "range", Sight: "base_angle"},
			{Name: "base_angle", Words: "angle to the base", Kind: Slope, By: "laser", Reads: "range"},
		},
		"r₁ sin α − r₂ sin β", heightLaser,
	},
	{
		"height-stick", "height by a stick",
		[]Input{
			{Name: "distance", Words: "how far off", Kind: Length, By: "tape", Reads: "range", Sight: Level},
			{Name: "stick", Words: "what the tree covers on the stick", Kind: Length, By: "tape"},
			{Name: "arm", Words: "from eye to stick", Kind: Length, By: "tape"},
		},
		"D stick / arm", heightStick,
	},
	{
		"crown", "crown",
		[]Input{
			{Name: "height", Words: "the tree's height", Kind: Length, By: "height", Reads: "height"},
			{Name: "base", Words: "height of the lowest live whorl or branch", Kind: Length, By: "height", Reads: "height"},
			{Name: "widths", Words: "widths of the crown", Kind: Lengths, By: "tape"},
		},
		"live crown ratio (H − base) / H; mean width", crown,
	},
	{
		"whorls", "age by whorls",
		[]Input{
			{Name: "counted", Words: "whorls counted", Kind: Count},
			{Name: "below", Words: "years below the lowest", Kind: Count},
			{Name: "species", Words: "which tree", Kind: Word},
		},
		"counted + below, of pines of one flush a year (common practice)", whorls,
	},
}

// diameterGirth is c/π: 94.2 cm gives 29.98 cm, 37 in 29.91 cm.
func diameterGirth(in *input) *Result {
	c := in.length("girth")
	return in.result(func() float64 { return c.v / math.Pi * cm }, "cm")
}

// diameterCrossed is the mean of two: 31 and 29 cm give 30 cm.
func diameterCrossed(in *input) *Result {
	a, b := in.length("first"), in.length("second")
	return in.result(func() float64 { return (a.v + b.v) / 2 * cm }, "cm")
}

// diameterStems is that of one stem of the same basal area: 12, 9.5 and 7 cm give 16.83 cm.
func diameterStems(in *input) *Result {
	stems := in.lengths("stems")
	return in.result(func() float64 {
		squares := 0.0
		for _, s := range stems {
			squares += s.v * s.v
		}
		return math.Sqrt(squares) * cm
	}, "cm")
}

// heightAngles is D (tan top − tan base): 20 m level, 62 and −8 % give 14.0 m; 25 m along 20 %, 70 and 10 %, 14.71 m.
func heightAngles(in *input) *Result {
	d, along := in.length("distance"), in.word("along", "level", "slope")
	steep := &reading{}
	if along == "slope" {
		if !in.has("slope") {
			in.wrong("slope", "this is missing: say how steep the ground is that was measured along")
		}
		steep = in.slope("slope")
	} else if in.has("slope") {
		in.wrong("slope", `the distance was measured level; say "along": "slope" if it was not`)
	}
	top, base := in.slope("top"), in.slope("base")
	if in.err == nil && top.v <= base.v {
		in.wrong("top", "the top lies no higher than the base")
	}
	level := func() float64 { return d.v * math.Cos(math.Atan(steep.v)) }
	return in.result(func() float64 { return level() * (top.v - base.v) }, "m").with(map[string]float64{"horizontal_m": level()})
}

// heightLaser is r₁ sin α − r₂ sin β: 32.1 m at 38.2° and 25.4 m at −4.1° give 21.67 m.
func heightLaser(in *input) *Result {
	r1, a := in.length("top_range"), in.slope("top_angle")
	r2, b := in.length("base_range"), in.slope("base_angle")
	sin := func(tan float64) float64 { return tan / math.Sqrt(1+tan*tan) }
	high := func() float64 { return r1.v*sin(a.v) - r2.v*sin(b.v) }
	if in.err == nil && high() <= 0 {
		in.wrong("top_angle", "the top lies no higher than the base")
	}
	return in.result(high, "m")
}

// heightStick is D stick/arm: 18 m, 65 and 70 cm give 16.71 m.
func heightStick(in *input) *Result {
	d, stick, arm := in.length("distance"), in.length("stick"), in.length("arm")
	return in.result(func() float64 { return d.v * stick.v / arm.v }, "m")
}

// crown is the live crown ratio in per cent, and the mean width.
func crown(in *input) *Result {
	h, base, widths := in.length("height"), in.length("base"), in.lengths("widths")
	if in.err == nil && base.v > h.v {
		in.wrong("base", "the crown begins higher than the tree is tall")
	}
	mean, sd := in.carry(func() (mean float64) {
		for _, w := range widths {
			mean += w.v / float64(len(widths))
		}
		return mean
	})
	return in.result(func() float64 { return (h.v - base.v) / h.v * 100 }, "%").
		with(map[string]float64{"mean_width_m": mean, "mean_width_m_sd": sd})
}

// oneFlush are pines that grow one whorl a year (common practice).
var oneFlush = []string{"pinus strobus", "pinus resinosa", "pinus sylvestris", "white pine", "eastern white pine", "red pine", "scots pine"}

// whorls is counted + below, in years; only of pines that flush once a year.
func whorls(in *input) *Result {
	counted, below := in.number("counted", 0), in.number("below", 0)
	var species string
	if raw, ok := in.raw("species"); ok {
		if err := text(raw, &species); err != nil {
			in.wrong("species", "%v", err)
		}
	}
	known := false
	for _, s := range oneFlush {
		known = known || strings.EqualFold(strings.TrimSpace(species), s)
	}
	if !known {
		in.wrong("species", "%q is not known to make one whorl a year: whorls tell the age of white, red and Scots pine", species)
	}
	for name, n := range map[string]*reading{"counted": counted, "below": below} {
		if n.v != math.Trunc(n.v) {
			in.wrong(name, "%g is no count", n.v)
		}
	}
	out := in.result(func() float64 { return counted.v + below.v }, "years")
	if in.err == nil {
		out.Says = fmt.Sprintf("%.0f years, by whorls", *out.Value)
	}
	return out
}
