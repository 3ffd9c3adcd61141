package sums

import (
	"math"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"
)

const hectare = 10_000 // m²

// steepGround is how steep the ground is where a circle, or the reach of a gauge that does not allow for it, lies along it: the circle
// is an ellipse on the map, smaller by the cosine, and each tree stands for so much more (e.g. Avery & Burkhart, Forest Measurements;
// from memory).
var steepGround = Input{Name: "slope", Words: "how steep the ground is, where nothing else allows for it", Kind: Slope, Optional: true,
	By: "clinometer", Reads: "range"}

// flat is the share of ground on a slope that it covers on the map.
func flat(steep *reading) float64 { return math.Cos(math.Atan(steep.v)) }

var ofPlots = []Sum{
	{
		"basal-area", "basal area",
		[]Input{{Name: "diameter", Words: "the diameter", Kind: Length, By: "caliper", Reads: "diameter"}},
		"π d² / 4", basalArea,
	},
	{
		"sweep", "an angle-count sweep",
		[]Input{
			{Name: "factor", Words: "the gauge's factor", Kind: Factor},
			{Name: "diameters", Words: "diameters of the trees that are in", Kind: Lengths, By: "caliper", Reads: "diameter"},
			{
				Name: "borderline", Words: "of those on the edge, which count half",
				Kind: Lengths, Optional: true, By: "caliper", Reads: "diameter",
			},
			steepGround,
		},
		"G = k n / cos(slope); N = Σ k/g; Dq = √(4 G / π N) (Bitterlich 1948, Allg. Forst- u. Holzwirtsch. Ztg. 59:4)", sweep,
	},
	{
		"sweep-points", "several sweeps",
		[]Input{
			{Name: "factor", Words: "the gauge's factor", Kind: Factor},
			{Name: "counts", Words: "trees in at each point, those on the edge as a half", Kind: Counts},
			steepGround,
		},
		"mean, standard error, 95 % by Student's t", sweepPoints,
	},
	{
		"limiting-distance", "limiting distance",
		[]Input{
			{Name: "factor", Words: "the gauge's factor", Kind: Factor},
			{Name: "diameter", Words: "the tree's diameter", Kind: Length, By: "caliper", Reads: "diameter"},
			{Name: "slope", Words: "how steep it is to the tree, where measured along it", Kind: Slope, Optional: true, By: "clinometer"},
		},
		"d / (2 √k) in m for d in cm; 1 / cos(slope) of it along the slope", limitingDistance,
	},
	{
		"plot", "a round plot",
		[]Input{{Name: "radius", Words: "its radius", Kind: Length, By: "tape", Reads: "range", Sight: Level}, steepGround},
		"10 000 / (π r² cos(slope)) per hectare for each tree", plot,
	},
	{
		"stand-density", "stand density index",
		[]Input{
			{Name: "stems_per_ha", Words: "stems per hectare", Kind: Number},
			{Name: "quadratic_mean", Words: "quadratic mean diameter", Kind: Length, By: "caliper"},
		},
		"N (Dq / 25.4)^1.605 (Reineke 1933, J. Agric. Res. 46:627)", standDensity,
	},
	{
		"readings-needed", "readings needed",
		[]Input{
			{Name: "spread", Words: "how much they vary", Kind: Percents},
			{Name: "within", Words: "how near the mean is to be known", Kind: Percents},
			{Name: "confidence", Words: "how surely", Kind: Percents},
		},
		"(z CV / E)², rounded up", readingsNeeded,
	},
}

// basalArea is πd²/4: 30 cm give 0.0707 m².
func basalArea(in *input) *Result {
	d := in.length("diameter")
	return in.result(func() float64 { return math.Pi / 4 * d.v * d.v }, "m²")
}

// sweep is G = k n, with N = Σ k/g and Dq: at 2 m²/ha 24, 31, 31, 42 and 55 cm give 10 m²/ha, 120.1 stems/ha and 32.57 cm.
// A borderline tree counts half. The error of one sweep over a stand is not known from it; that of several is.
func sweep(in *input) *Result {
	k, trees := in.factor("factor"), in.lengths("diameters")
	edge, steep := in.lengths("borderline"), in.slope("slope")
	if in.err != nil {
		return &Result{}
	}
	stems := func() (n float64) {
		for _, t := range trees {
			n += k / (math.Pi / 4 * t.v * t.v)
		}
		for _, t := range edge {
			n += k / 2 / (math.Pi / 4 * t.v * t.v)
		}
		return n / flat(steep)
	}
	area := func() float64 { return k * (float64(len(trees)) + float64(len(edge))/2) / flat(steep) }
	g, gsd := in.carry(area)
	n, sd := in.carry(stems)
	out := &Result{Value: &g, Unit: "m²/ha", Says: says(g, gsd, "m²/ha"), Parts: map[string]float64{"stems_per_ha": n, "stems_per_ha_sd": sd,
		"quadratic_mean_cm": math.Sqrt(4*g/(math.Pi*n)) * cm}}
	if gsd > 0 {
		out.SD = &gsd
	}
	return out
}

// sweepPoints is the mean of several, its standard error, and its 95 % interval by Student's t.
func sweepPoints(in *input) *Result {
	k, counts, steep := in.factor("factor"), in.counts("counts"), in.slope("slope")
	if in.err == nil && len(counts) < 2 {
		in.wrong("counts", "one point has no spread: want two or more")
	}
	if in.err != nil {
		return &Result{}
	}
	g := make([]float64, len(counts))
	for i, c := range counts {
		g[i] = k * c / flat(steep)
	}
	mean, spread := stat.MeanStdDev(g, nil)
	se := spread / math.Sqrt(float64(len(g)))
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(len(g) - 1)}.Quantile(0.975)
	parts := map[string]float64{"points": float64(len(g)), "from": max(0, mean-t*se), "to": mean + t*se}
	if mean > 0 {
		parts["cv_percent"] = spread / mean * 100
		parts["points_for_10_percent"] = float64(PointsNeeded(spread/mean, 0.1))
	}
	return &Result{Value: &mean, Unit: "m²/ha", SD: &se, Says: says(mean, se, "m²/ha"), Parts: parts}
}

// PointsNeeded is how many points in all give a mean within a share of itself, 95 times in 100, where they vary by cv: the least n
// that is not less than (t·CV/E)² with Student's t of n points (e.g. Avery & Burkhart, Forest Measurements, chapter 3; from memory).
func PointsNeeded(cv, within float64) int {
	const atMost = 1_000_000
	enough := func(n int) bool {
		t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(n - 1)}.Quantile(0.975)
		return float64(n) >= math.Pow(t*cv/within, 2)-1e-9
	}
	lo, hi := 1, 2 // lo is not enough
	for !enough(hi) && hi < atMost {
		lo, hi = hi, 2*hi
	}
	for hi-lo > 1 {
		if mid := (lo + hi) / 2; enough(mid) {
			hi = mid
		} else {
			lo = mid
		}
	}
	return hi
}

// limitingDistance is d/(2√k): at 2 m²/ha 30 cm give 10.61 m; along a slope so much farther.
func limitingDistance(in *input) *Result {
	k, d := in.factor("factor"), in.length("diameter")
	steep := in.slope("slope")
	return in.result(func() float64 { return LimitingDistance(d.v*cm, k) / math.Cos(math.Atan(steep.v)) }, "m")
}

// LimitingDistance is how far, in m on the level, a stem of a diameter in cm may stand to be counted with a gauge of a factor in
// m²/ha: d/(2√k) (Bitterlich 1948).
func LimitingDistance(diameter, factor float64) float64 { return diameter / (2 * math.Sqrt(factor)) }

// plot is how many trees per hectare each of a plot stands for: 11.28 m give 25.02.
func plot(in *input) *Result {
	r, steep := in.length("radius"), in.slope("slope")
	area := func() float64 { return math.Pi * r.v * r.v * flat(steep) }
	return in.result(func() float64 { return hectare / area() }, "per ha").with(map[string]float64{"area_m2": area()})
}

// standDensity is Reineke's index: 800 stems of 20 cm give 545.1.
func standDensity(in *input) *Result {
	n, dq := in.number("stems_per_ha", 0), in.length("quadratic_mean")
	return in.result(func() float64 { return StandDensity(n.v, dq.v*cm) }, "")
}

// StandDensity is Reineke's index of so many stems per hectare of a quadratic mean diameter in cm.
func StandDensity(stems, quadratic float64) float64 { return stems * math.Pow(quadratic/25.4, 1.605) }

// readingsNeeded is (z CV/E)² rounded up: 25, 10 and 95 % give 25.
func readingsNeeded(in *input) *Result {
	cv, e, sure := in.percent("spread"), in.percent("within"), in.percent("confidence")
	if in.err == nil && sure >= 1 {
		in.wrong("confidence", "nothing is known for certain: want less than 100 %%")
	}
	if in.err != nil {
		return &Result{}
	}
	z := distuv.UnitNormal.Quantile((1 + sure) / 2)
	n := math.Ceil(math.Pow(z*cv/e, 2) - 1e-9)
	return &Result{Value: &n, Unit: "readings", Says: says(n, 0, "readings")}
}
