package simulate

import (
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"palethicket/instrument"
	"palethicket/instrument/nmea"
	"palethicket/instrument/plain"
)

// speaker gives what an instrument sends for one reading.
type speaker func(rng *rand.Rand, fault Fault, now time.Time) string

var speakers = map[instrument.Kind]speaker{
	instrument.Receiver:   position,
	instrument.Caliper:    caliper,
	instrument.Hypsometer: hypsometer,
}

// Pump house avenue of Lantern Creek, where the simulated receiver stands, and how far its
// fixes wander.
const (
	AtLat, AtLon = 43.5706, -90.6389
	wander       = 2.5 // m, one standard deviation to each side
)

// position is one fix, as GGA, RMC, GSA and GST.
func position(rng *rand.Rand, fault Fault, now time.Time) string {
	lat := AtLat + rng.NormFloat64()*wander/111_000
	lon := AtLon + rng.NormFloat64()*wander/(111_000*math.Cos(AtLat*math.Pi/180))
	hdop := 0.8 + rng.Float64()*0.6
	clock, day := now.Format("150405.00"), now.Format("020106")
	switch fault {
	case StaleFix:
		clock = "120000.00"
	case WildJump:
		lat += (rng.Float64() - 0.5) * 0.4
	case NoFix:
		return nmea.Write("GNGGA,"+clock+",,,,,0,00,99.9,,,,,,") + nmea.Write("GNRMC,"+clock+",V,,,,,,,"+day+",,") +
			nmea.Write("GNGSA,A,1,,,,,,,,,,,,,99.9,99.9,99.9")
	}
	where := dm(lat, 2, "N", "S") + "," + dm(lon, 3, "E", "W")
	return nmea.Write(fmt.Sprintf("GNGST,%s,1.2,2.6,2.4,35.0,%.1f,%.1f,4.1", clock, wander, wander)) +
		nmea.Write("GNRMC,"+clock+",A,"+where+",0.0,,"+day+",,") +
		nmea.Write(fmt.Sprintf("GNGSA,A,3,04,05,09,12,24,25,29,31,,,,,1.6,%.1f,1.2", hdop)) +
		nmea.Write(fmt.Sprintf("GNGGA,%s,%s,1,08,%.1f,291.0,M,-33.0,M,,", clock, where, hdop))
}

// dm writes degrees as NMEA does, with the letter of the side.
func dm(x float64, digits int, plus, minus string) string {
	side := plus
	if x < 0 {
		x, side = -x, minus
	}
	whole := math.Floor(x)
	return fmt.Sprintf("%0*.0f%08.5f,%s", digits, whole, (x-whole)*60, side)
}

// caliper is a diameter as the stems of a grown wood have.
func caliper(rng *rand.Rand, fault Fault, _ time.Time) string {
	d := 18 + 34*rng.Float64()
	if fault == WrongUnit {
		return plain.Write(fmt.Sprintf("D %.1f m", d))
	}
	return plain.Write(fmt.Sprintf("D %.1f cm", d))
}

// hypsometer is one of three: the top of a tree, its base, and its height.
func hypsometer(rng *rand.Rand, fault Fault, now time.Time) string {
	unit := "m"
	if fault == WrongUnit {
		unit = "mm"
	}
	switch now.Unix() / 8 % 3 {
	case 0:
		return plain.Write(fmt.Sprintf("R %.1f %s %.1f deg", 31+2*rng.Float64(), unit, 37+2*rng.Float64()))
	case 1:
		return plain.Write(fmt.Sprintf("R %.1f %s %.1f deg", 25+rng.Float64(), unit, -5+2*rng.Float64()))
	}
	return plain.Write(fmt.Sprintf("H %.1f %s", 20+4*rng.Float64(), unit))
}
