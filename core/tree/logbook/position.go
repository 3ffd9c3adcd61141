package logbook

import (
	"fmt"
	"math"

	"palethicket/core/tree/record"
)

// Position is a place on the ground: degrees of WGS 84.
type Position struct {
	Lon    float64 `json:"lon"`
	Lat    float64 `json:"lat"`
	Within float64 `json:"within_m,omitempty"` // how far off it may be, in metres; 0: not known
}

// withinMost is half the way around the globe, in meters: nothing is further off.
const withinMost = 20_040_000

func (p *Position) check() error {
	if p == nil {
		return nil
	}
	for _, d := range []struct {
		field      string
		value, end float64
	}{{"lon", p.Lon, 180}, {"lat", p.Lat, 90}} {
		if math.IsNaN(d.value) || math.Abs(d.value) > d.end {
			return &record.FieldError{Field: "facts.position." + d.field,
				Message: fmt.Sprintf("%v is off the globe; write degrees from -%v to %v", d.value, d.end, d.end)}
		}
	}
	if !(p.Within >= 0 && p.Within <= withinMost) {
		return &record.FieldError{Field: "facts.position.within_m",
			Message: fmt.Sprintf("%v is no accuracy; write meters, from 0 to %d", p.Within, withinMost)}
	}
	return nil
}
