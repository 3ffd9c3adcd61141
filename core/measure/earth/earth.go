// Package earth measures on the ellipsoid of WGS 84: how far and which way from one place to another, and
// how large a piece of ground is.
package earth

import (
	"errors"
	"math"
)

// The ellipsoid of WGS 84 (NGA.STND.0036).
const (
	equator    = 6378137.0 // m
	flattening = 1 / 298.257223563
	pole       = equator * (1 - flattening)
)

// Place is a place: degrees of WGS 84.
type Place struct{ Lon, Lat float64 }

// ErrTooFar is given for places nearly opposite each other on the earth.
var ErrTooFar = errors.New("these places lie on opposite sides of the earth")

// Way gives the length in metres of the shortest way between two places, and the bearing in degrees from
// true north at which it begins; of one place to itself 0 and 0. Vincenty's inverse formula (1975, Survey Review 23:88), to
// half a millimetre; [ErrTooFar] where it does not settle.
func Way(from, to Place) (metres, bearing float64, err error) {
	if from == to {
		return 0, 0, nil
	}
	u1, u2 := reduced(from.Lat), reduced(to.Lat)
	s1, c1 := math.Sincos(u1)
	s2, c2 := math.Sincos(u2)
	l := radians(math.Remainder(to.Lon-from.Lon, 360))
	lambda := l
	for range 200 {
		sl, cl := math.Sincos(lambda)
		sinSigma := math.Hypot(c2*sl, c1*s2-s1*c2*cl)
		if sinSigma == 0 {
			return 0, 0, nil
		}
		cosSigma := s1*s2 + c1*c2*cl
		sigma := math.Atan2(sinSigma, cosSigma)
		sinAlpha := c1 * c2 * sl / sinSigma
		cos2Alpha := 1 - sinAlpha*sinAlpha
		cos2m := 0.0 // along the equator
		if cos2Alpha > 1e-15 {
			cos2m = cosSigma - 2*s1*s2/cos2Alpha
		}
		c := flattening / 16 * cos2Alpha * (4 + flattening*(4-3*cos2Alpha))
		next := l + (1-c)*flattening*sinAlpha*(sigma+c*sinSigma*(cos2m+c*cosSigma*(2*cos2m*cos2m-1)))
		if math.Abs(next-lambda) > 1e-13 {
			lambda = next
			continue
		}
		k2 := cos2Alpha * (equator*equator - pole*pole) / (pole * pole)
		a := 1 + k2/16384*(4096+k2*(-768+k2*(320-175*k2)))
		b := k2 / 1024 * (256 + k2*(-128+k2*(74-47*k2)))
		off := b * sinSigma * (cos2m + b/4*(cosSigma*(2*cos2m*cos2m-1)-b/6*cos2m*(4*sinSigma*sinSigma-3)*(4*cos2m*cos2m-3)))
		way := math.Atan2(c2*sl, c1*s2-s1*c2*cl)
		return pole * a * (sigma - off), Turn(degrees(way)), nil
	}
	return 0, 0, ErrTooFar
}

// Turn brings a bearing between 0 and 360 degrees.
func Turn(degrees float64) float64 {
	if degrees = math.Mod(degrees, 360); degrees < 0 {
		degrees += 360
	}
	return degrees
}

// Ground gives the area in square metres of a piece of ground by its corners, and how long its edge is in metres.
// The corners are laid on Lambert's azimuthal equal-area map of the ellipsoid about their middle (Snyder
// 1987, USGS Professional Paper 1395, eq. 24-2 to 24-13), where areas are true; for pieces up to some hundred kilometres
// the edges are straight there to a part in a million.
func Ground(corners []Place) (area, edge float64, err error) {
	if len(corners) < 3 {
		return 0, 0, errors.New("a piece of ground needs three corners or more")
	}
	middle := Middle(corners)
	x, y := make([]float64, len(corners)), make([]float64, len(corners))
	for i, c := range corners {
		x[i], y[i] = laid(middle, c)
	}
	for i := range corners {
		j := (i + 1) % len(corners)
		area += x[i]*y[j] - x[j]*y[i]
		d, _, err := Way(corners[i], corners[j])
		if err != nil {
			return 0, 0, err
		}
		edge += d
	}
	return math.Abs(area) / 2, edge, nil
}

// Middle is the mean of places near each other.
func Middle(places []Place) Place {
	out := Place{}
	for _, p := range places {
		out.Lon += math.Remainder(p.Lon-places[0].Lon, 360) / float64(len(places))
		out.Lat += p.Lat / float64(len(places))
	}
	out.Lon = math.Remainder(out.Lon+places[0].Lon, 360)
	return out
}

// laid puts a place on the map about a middle, in metres.
func laid(middle, p Place) (x, y float64) {
	e2 := flattening * (2 - flattening)
	e := math.Sqrt(e2)
	q := func(lat float64) float64 {
		s := math.Sin(lat)
		return (1 - e2) * (s/(1-e2*s*s) - math.Log((1-e*s)/(1+e*s))/(2*e))
	}
	qp := q(math.Pi / 2)
	authalic := func(lat float64) float64 { return math.Asin(max(-1, min(1, q(radians(lat))/qp))) }
	b0, b := authalic(middle.Lat), authalic(p.Lat)
	rq := equator * math.Sqrt(qp/2)
	s0 := math.Sin(radians(middle.Lat))
	d := equator * math.Cos(radians(middle.Lat)) / math.Sqrt(1-e2*s0*s0) / (rq * math.Cos(b0))
	dl := radians(math.Remainder(p.Lon-middle.Lon, 360))
	k := rq * math.Sqrt(2/(1+math.Sin(b0)*math.Sin(b)+math.Cos(b0)*math.Cos(b)*math.Cos(dl)))
	return k * d * math.Cos(b) * math.Sin(dl), k / d * (math.Cos(b0)*math.Sin(b) - math.Sin(b0)*math.Cos(b)*math.Cos(dl))
}

func reduced(lat float64) float64     { return math.Atan((1 - flattening) * math.Tan(radians(lat))) }
func radians(degrees float64) float64 { return degrees * math.Pi / 180 }
func degrees(radians float64) float64 { return radians * 180 / math.Pi }
