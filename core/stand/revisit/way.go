package revisit

import (
	"fmt"
	"math"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geo"
)

// Way is how to get from one place to another, in a straight line.
type Way struct {
	Metres  float64
	Bearing float64 // degrees from true north, clockwise, 0 to 360
}

// WayTo gives the way between two places of WGS 84, on a sphere: within woods that is off
// by less than 0.6 %.
func WayTo(from, to orb.Point) Way {
	b := geo.Bearing(from, to)
	return Way{geo.DistanceHaversine(from, to), math.Mod(b+360, 360)}
}

// winds are the eight of them, from north.
var winds = []string{"north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west"}

// near is within what a position in the woods may be off: no direction is worth following.
const near = 10 // m

// Words says it as one walks it: 240 m south-east (135°).
func (w Way) Words() string {
	if w.Metres < near {
		return "here, within 10 m"
	}
	d := fmt.Sprintf("%.0f m", math.Round(w.Metres/5)*5)
	if w.Metres >= 1000 {
		d = fmt.Sprintf("%.1f km", w.Metres/1000)
	}
	return fmt.Sprintf("%s %s (%d°)", d, winds[int(math.Round(w.Bearing/45))%8], int(math.Round(w.Bearing))%360)
}
