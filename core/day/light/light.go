// Package light says when it is light somewhere: the sun's rising and setting, civil twilight, and how high it stands.
//
// The equations are those of the solar calculator of NOAA's Global Monitoring Laboratory, after Meeus 1991, Astronomical
// Algorithms (chapters 25 and 28), with the sun's middle 50' below the horizon where it rises and sets, and 6° where
// civil twilight begins and ends.
package light

import (
	"errors"
	"math"
	"time"
)

// Day is when it is light on a day at a place. What does not happen on it is zero; Says then says why.
type Day struct {
	Dawn    time.Time // civil twilight begins
	Sunrise time.Time
	Noon    time.Time
	Sunset  time.Time
	Dusk    time.Time // it ends
	Says    string    // of polar day and night
}

// How high the sun's middle stands, in degrees, where it rises and sets, and where civil twilight begins and ends.
const (
	horizon  = -0.833
	twilight = -6.0
)

// ErrPlace is given for degrees that are nowhere.
var ErrPlace = errors.New("want a latitude from -90 to 90 and a longitude from -180 to 180, in degrees")

// Of gives the light of a day, in UTC: the day is the place's own, by the sun, so that its noon is on that date.
func Of(lat, lon float64, date time.Time) (*Day, error) {
	if !(math.Abs(lat) <= 90) || !(math.Abs(lon) <= 180) {
		return nil, ErrPlace
	}
	midnight := time.Date(date.Year(), date.Month(), date.Day(), 0, 0, 0, 0, time.UTC)
	d := &Day{Noon: settle(midnight, func(t time.Time) float64 {
		_, equation := sun(t)
		return 720 - 4*lon - equation
	})}
	at := func(height, side float64) (time.Time, bool) {
		found := true
		t := settle(midnight, func(t time.Time) float64 {
			declination, equation := sun(t)
			c := (sin(height) - sin(lat)*sin(declination)) / (cos(lat) * cos(declination))
			if found = math.Abs(c) <= 1; !found {
				return 720 - 4*lon - equation
			}
			return 720 - 4*lon - equation + side*4*math.Acos(c)*180/math.Pi
		})
		return t, found
	}
	var rises, dawns bool
	if d.Sunrise, rises = at(horizon, -1); !rises {
		d.Sunrise = time.Time{}
	}
	if d.Sunset, rises = at(horizon, 1); !rises {
		d.Sunset = time.Time{}
	}
	if d.Dawn, dawns = at(twilight, -1); !dawns {
		d.Dawn = time.Time{}
	}
	if d.Dusk, dawns = at(twilight, 1); !dawns {
		d.Dusk = time.Time{}
	}
	d.Says = says(lat, d)
	return d, nil
}

// says says what does not happen on a day.
func says(lat float64, d *Day) string {
	rises, sets := !d.Sunrise.IsZero(), !d.Sunset.IsZero()
	twilit := !d.Dawn.IsZero() || !d.Dusk.IsZero()
	switch {
	case rises != sets:
		return "the sun only rises, or only sets, on this day"
	case rises && twilit:
		return ""
	case rises:
		return "the sun sets, and civil twilight lasts all night"
	case noonHeight(lat, d.Noon) > horizon:
		return "the sun does not set"
	case twilit:
		return "the sun does not rise; there is civil twilight"
	}
	return "the sun does not rise, and there is no civil twilight"
}

// noonHeight is how high the sun stands at noon.
func noonHeight(lat float64, noon time.Time) float64 {
	declination, _ := sun(noon)
	return 90 - math.Abs(lat-declination)
}

// Height is how high the sun's middle stands, in degrees above the level, without refraction.
func Height(lat, lon float64, at time.Time) float64 {
	declination, equation := sun(at)
	minutes := float64(at.UTC().Hour()*60+at.UTC().Minute()) + float64(at.UTC().Second())/60
	hour := (minutes+equation+4*lon)/4 - 180
	return math.Asin(sin(lat)*sin(declination)+cos(lat)*cos(declination)*cos(hour)) * 180 / math.Pi
}

// settle finds a time whose minutes after midnight follow from where the sun then stands.
func settle(midnight time.Time, minutes func(time.Time) float64) time.Time {
	t := midnight.Add(12 * time.Hour)
	for range 5 {
		t = midnight.Add(time.Duration(minutes(t) * float64(time.Minute)))
	}
	return t.Round(time.Second)
}

// sun gives its declination in degrees and the equation of time in minutes.
func sun(t time.Time) (declination, equation float64) {
	c := (julian(t) - 2451545) / 36525 // centuries from 2000
	mean := math.Mod(280.46646+c*(36000.76983+c*0.0003032), 360)
	anomaly := 357.52911 + c*(35999.05029-0.0001537*c)
	eccentricity := 0.016708634 - c*(0.000042037+0.0000001267*c)
	center := sin(anomaly)*(1.914602-c*(0.004817+0.000014*c)) + sin(2*anomaly)*(0.019993-0.000101*c) + sin(3*anomaly)*0.000289
	node := 125.04 - 1934.136*c
	apparent := mean + center - 0.00569 - 0.00478*sin(node)
	oblique := 23 + (26+(21.448-c*(46.815+c*(0.00059-c*0.001813)))/60)/60 + 0.00256*cos(node)
	declination = math.Asin(sin(oblique)*sin(apparent)) * 180 / math.Pi
	y := math.Pow(math.Tan(oblique/2*math.Pi/180), 2)
	equation = 4 * 180 / math.Pi * (y*sin(2*mean) - 2*eccentricity*sin(anomaly) + 4*eccentricity*y*sin(anomaly)*cos(2*mean) -
		0.5*y*y*sin(4*mean) - 1.25*eccentricity*eccentricity*sin(2*anomaly))
	return declination, equation
}

// julian is the Julian day of a time.
func julian(t time.Time) float64 { return float64(t.Unix())/86400 + 2440587.5 }

func sin(degrees float64) float64 { return math.Sin(degrees * math.Pi / 180) }
func cos(degrees float64) float64 { return math.Cos(degrees * math.Pi / 180) }
