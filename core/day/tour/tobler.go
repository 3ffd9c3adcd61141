package tour

import "math"

// Footing is how the ground is to walk on.
type Footing struct {
	Path bool    // a path, where the function holds; off it people are slower
	Snow float64 // how much slower snow makes one: 1 not at all
}

// offPath is how fast people walk off paths, beside on them (Tobler 1993).
const offPath = 0.6

// Speed is how fast people walk a slope, in metres a minute: Tobler's hiking function (1993, NCGIA Technical Report 93-1),
// 6 km/h at −5 %, 5 km/h on the level.
func Speed(slope float64, on Footing) float64 {
	v := 6000.0 / 60 * math.Exp(-3.5*math.Abs(slope+0.05))
	if !on.Path {
		v *= offPath
	}
	return v / max(1, on.Snow)
}

// Minutes is how long a way takes that rises so much over so much level distance, both in metres.
func Minutes(level, rise float64, on Footing) float64 {
	if level <= 0 {
		return 0
	}
	return math.Hypot(level, rise) / Speed(rise/level, on)
}
