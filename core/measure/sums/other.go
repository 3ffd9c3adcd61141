package sums

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"

	"palethicket/core/measure/earth"
)

var ofOthers = []Sum{
	{
		"horizontal", "horizontal distance",
		[]Input{
			{Name: "along", Words: "measured along the slope", Kind: Length, By: "tape", Reads: "range", Sight: "slope"},
			{Name: "slope", Words: "how steep it is", Kind: Slope, By: "clinometer", Reads: "range"},
		},
		"s cos(slope)", horizontal,
	},
	{
		"sap", "sap to syrup",
		[]Input{{Name: "sugar", Words: "sugar of the sap, in °Brix", Kind: Number}},
		"86 / sugar (Jones 1946, Univ. Vermont Bull.); beside it the mass balance to 66.9 °Brix", sap,
	},
	{
		"pace", "one's own pace",
		[]Input{
			{Name: "distance", Words: "how far it is", Kind: Length, By: "tape", Reads: "range", Sight: Level},
			{Name: "counts", Words: "paces counted over it, each time", Kind: Numbers},
		},
		"distance / paces", pace,
	},
	{
		"area", "area of ground",
		[]Input{{Name: "corners", Words: "its corners", Kind: Places, Reads: "position"}},
		"on WGS 84 (Snyder 1987; Vincenty 1975)", area,
	},
	{
		"fix", "position from several fixes",
		[]Input{
			{Name: "positions", Words: "the fixes", Kind: Places, Reads: "position"},
			{Name: "hdop", Words: "the dilution of each", Kind: Numbers, Optional: true},
		},
		"mean weighted by 1 / HDOP²; CEP50 half of the fixes lie within", fix,
	},
	{
		"bearing", "bearing and distance",
		[]Input{
			{Name: "from", Words: "from where", Kind: Place, Reads: "position"},
			{Name: "to", Words: "to where", Kind: Place, Reads: "position"},
			{Name: "declination", Words: "declination, east of north, in degrees", Kind: Number, Optional: true},
		},
		"Vincenty 1975", bearing,
	},
}

// horizontal is s cos(slope): 25 m along 20 % give 24.51 m.
func horizontal(in *input) *Result {
	s, steep := in.length("along"), in.slope("slope")
	return in.result(func() float64 { return s.v * math.Cos(math.Atan(steep.v)) }, "m")
}

// syrup is how sweet syrup is, in °Brix.
const syrup = 66.9

// density is that of sugar water, beside water's, at so many °Brix (a usual fit of the tables of ICUMSA, from memory).
func density(brix float64) float64 { return 1 + brix/(258.6-brix/258.2*227.1) }

// sap is how many volumes of it make one of syrup, by the rule of 86: 2.15 °Brix give 40; and by what sugar there is.
func sap(in *input) *Result {
	sugar := in.number("sugar", 0)
	if in.err == nil && !(sugar.v > 0 && sugar.v < syrup) {
		in.wrong("sugar", "%g °Brix is no sap: want more than 0 and less than %g", sugar.v, syrup)
	}
	return in.result(func() float64 { return 86 / sugar.v }, "volumes").with(map[string]float64{
		"by_mass": syrup * density(syrup) / (sugar.v * density(sugar.v))})
}

// pace is metres a pace, and how much it varies.
func pace(in *input) *Result {
	d, counts := in.length("distance"), in.numbers("counts", 1)
	if in.err != nil {
		return &Result{}
	}
	each := make([]float64, len(counts))
	for i, c := range counts {
		each[i] = d.v / c
	}
	mean, spread := stat.MeanStdDev(each, nil)
	if len(each) < 2 {
		spread = 0
	}
	sd := math.Hypot(spread/math.Sqrt(float64(len(each))), mean*d.sd/d.v)
	return &Result{
		Value: &mean,
		Unit:  "m",
		SD:    &sd,
		Says:  says(mean, sd, "m"),
		Parts: map[string]float64{"spread_percent": spread / mean * 100,
			"paces_per_100_m": 100 / mean},
	}
}

// area is that of a piece of ground in hectares, and its edge.
func area(in *input) *Result {
	corners := in.places("corners", 3)
	if in.err != nil {
		return &Result{}
	}
	m2, edge, err := earth.Ground(corners)
	if err != nil {
		in.wrong("corners", "%v", err)
		return &Result{}
	}
	if m2 < 1e-6 {
		in.wrong("corners", "they lie on one line, and hold no ground")
	}
	ha := m2 / hectare
	return &Result{Value: &ha, Unit: "ha", Says: says(ha, 0, "ha"), Parts: map[string]float64{"area_m2": m2, "perimeter_m": edge}}
}

// fix is the mean of several fixes: its value is CEP50 in metres, its parts where and how far the worst lies.
func fix(in *input) *Result {
	places := in.places("positions", 1)
	var hdop []float64
	if in.has("hdop") {
		if hdop = in.numbers("hdop", 0.1); len(hdop) != len(places) {
			in.wrong("hdop", "there are %d for %d positions", len(hdop), len(places))
		}
	}
	if in.err != nil {
		return &Result{}
	}
	weights := make([]float64, len(places))
	for i := range places {
		if weights[i] = 1; hdop != nil {
			weights[i] = 1 / (hdop[i] * hdop[i])
		}
	}
	mean := weighed(places, weights)
	away := make([]float64, len(places))
	for i, p := range places {
		d, _, err := earth.Way(mean, p)
		if err != nil {
			in.wrong("positions", "%v", err)
			return &Result{}
		}
		away[i] = d
	}
	slices.Sort(away)
	cep := stat.Quantile(0.5, stat.Empirical, away, nil)
	return &Result{Value: &cep, Unit: "m", Says: fmt.Sprintf("%.6f, %.6f; half of the fixes lie within %.1f m", mean.Lat, mean.Lon, cep),
		Parts: map[string]float64{"lon": mean.Lon, "lat": mean.Lat, "worst_m": away[len(away)-1], "fixes": float64(len(away))}}
}

// weighed is the mean of places near each other.
func weighed(places []earth.Place, weights []float64) earth.Place {
	all, lon, lat := 0.0, 0.0, 0.0
	for i, p := range places {
		all += weights[i]
		lon += weights[i] * math.Remainder(p.Lon-places[0].Lon, 360)
		lat += weights[i] * p.Lat
	}
	return earth.Place{Lon: math.Remainder(lon/all+places[0].Lon, 360), Lat: lat / all}
}

// bearing is the distance in metres; its parts are the bearings, from true and from magnetic north.
func bearing(in *input) *Result {
	from, to := in.place("from"), in.place("to")
	declination := 0.0
	if in.has("declination") {
		declination = in.number("declination", -180).v
	}
	if in.err != nil {
		return &Result{}
	}
	d, way, err := earth.Way(from, to)
	if err != nil {
		in.wrong("to", "%v", err)
		return &Result{}
	}
	magnetic := earth.Turn(way - declination)
	return &Result{Value: &d, Unit: "m", Says: fmt.Sprintf("%.1f m at %.1f° (%.1f° by the compass)", d, way, magnetic),
		Parts: map[string]float64{"true_degrees": way, "magnetic_degrees": magnetic}}
}
