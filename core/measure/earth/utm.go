package earth

import (
	"fmt"
	"math"
)

// UTM is a place on the grid of the Universal Transverse Mercator projection.
type UTM struct {
	Zone              int // 1 to 60
	South             bool
	Easting, Northing float64 // m
}

// The grid (NGA.SIG.0012): its scale on the middle of a zone, and what is added so that no figure is negative.
const (
	gridScale    = 0.9996
	falseEasting = 500_000.0
	falseSouth   = 10_000_000.0
	utmNorth     = 84.0 // degrees; the grid ends here, and at -80
	utmSouth     = -80.0
)

// third is the third flattening, and meridian the radius of the circle that is as long as a meridian.
const (
	third    = flattening / (2 - flattening)
	meridian = equator / (1 + third) * (1 + third*third/4 + third*third*third*third/64)
)

// alpha and beta are Krüger's series there and back, to the fourth power of the third flattening (Karney
// 2011, Journal of Geodesy 85:475, equations 35 and 36): to a tenth of a millimetre in a zone.
var (
	alpha = [4]float64{
		third/2 - 2*third*third/3 + 5*third*third*third/16 + 41*third*third*third*third/180,
		13*third*third/48 - 3*third*third*third/5 + 557*third*third*third*third/1440,
		61*third*third*third/240 - 103*third*third*third*third/140,
		49561 * third * third * third * third / 161280,
	}
	beta = [4]float64{
		third/2 - 2*third*third/3 + 37*third*third*third/96 - third*third*third*third/360,
		third*third/48 + third*third*third/15 - 437*third*third*third*third/1440,
		17*third*third*third/480 - 37*third*third*third*third/840,
		4397 * third * third * third * third / 161280,
	}
	eccentricity = math.Sqrt(flattening * (2 - flattening))
)

// ZoneOf is the zone that a place lies in, without the exceptions around Norway and Svalbard.
func ZoneOf(p Place) int { return min(int((p.Lon+180)/6), 59) + 1 }

// ToUTM gives a place on the grid of its zone, or an error where the grid does not reach.
func ToUTM(p Place) (UTM, error) {
	if !(p.Lat >= utmSouth && p.Lat <= utmNorth && math.Abs(p.Lon) <= 180) {
		return UTM{}, fmt.Errorf("%v, %v is off the UTM grid, which reaches from 80° S to 84° N", p.Lat, p.Lon)
	}
	out := UTM{Zone: ZoneOf(p), South: p.Lat < 0}
	lon := (p.Lon - middleOf(out.Zone)) * math.Pi / 180
	tan := conformal(math.Tan(p.Lat * math.Pi / 180))
	xi, eta := math.Atan2(tan, math.Cos(lon)), math.Asinh(math.Sin(lon)/math.Hypot(tan, math.Cos(lon)))
	x, y := eta, xi
	for j, a := range alpha {
		k := float64(2 * (j + 1))
		y += a * math.Sin(k*xi) * math.Cosh(k*eta)
		x += a * math.Cos(k*xi) * math.Sinh(k*eta)
	}
	out.Easting, out.Northing = falseEasting+gridScale*meridian*x, gridScale*meridian*y
	if out.South {
		out.Northing += falseSouth
	}
	return out, nil
}

// FromUTM gives the place of a point on the grid, or an error where it is none.
func FromUTM(u UTM) (Place, error) {
	if u.Zone < 1 || u.Zone > 60 {
		return Place{}, fmt.Errorf("there is no UTM zone %d; they are 1 to 60", u.Zone)
	}
	if !(u.Easting >= 100_000 && u.Easting <= 900_000 && u.Northing >= 0 && u.Northing <= falseSouth) {
		return Place{}, fmt.Errorf("easting %v, northing %v is off the UTM grid", u.Easting, u.Northing)
	}
	north := u.Northing
	if u.South {
		north -= falseSouth
	}
	xi, eta := north/(gridScale*meridian), (u.Easting-falseEasting)/(gridScale*meridian)
	y, x := xi, eta
	for j, b := range beta {
		k := float64(2 * (j + 1))
		y -= b * math.Sin(k*xi) * math.Cosh(k*eta)
		x -= b * math.Cos(k*xi) * math.Sinh(k*eta)
	}
	tan := geodetic(math.Sin(y) / math.Hypot(math.Sinh(x), math.Cos(y)))
	lon := math.Atan2(math.Sinh(x), math.Cos(y))
	return Place{Lon: middleOf(u.Zone) + lon*180/math.Pi, Lat: math.Atan(tan) * 180 / math.Pi}, nil
}

// middleOf is the meridian in the middle of a zone, in degrees.
func middleOf(zone int) float64 { return float64(6*zone - 183) }

// conformal gives the tangent of the conformal latitude of that of the geographic one (Karney, equations 7 to 9).
func conformal(tan float64) float64 {
	sigma := math.Sinh(eccentricity * math.Atanh(eccentricity*tan/math.Hypot(1, tan)))
	return tan*math.Hypot(1, sigma) - sigma*math.Hypot(1, tan)
}

// geodetic turns conformal around, by Newton's method (equations 19 to 21): it settles in three steps.
func geodetic(tan float64) float64 {
	out, e2 := tan, eccentricity*eccentricity
	for range 5 {
		now := conformal(out)
		out += (tan - now) / math.Hypot(1, now) * (1 + (1-e2)*out*out) / ((1 - e2) * math.Hypot(1, out))
	}
	return out
}
