//go:build !js

// Package zone says which time is kept at a place, whatever the clock of the machine is set to.
package zone

import (
	"fmt"
	"math"
	"sync"
	"time"
	_ "time/tzdata" // the rules of every zone, for machines that have none

	"github.com/ringsaturn/tzf"
)

// finder has the borders of all zones. They take a second to unfold, and 30 MB, so they are read when first asked for.
var finder = sync.OnceValues(tzf.NewDefaultFinder)

// Of gives the time that is kept at a place, in degrees. Out at sea it is that of the longitude, in whole hours.
func Of(lat, lon float64) (*time.Location, error) {
	f, err := finder()
	if err != nil {
		return nil, fmt.Errorf("reading the time zones: %w", err)
	}
	if name := f.GetTimezoneName(lon, lat); name != "" {
		if there, err := time.LoadLocation(name); err == nil {
			return there, nil
		}
	}
	hours := int(math.Round(lon / 15))
	return time.FixedZone(fmt.Sprintf("UTC%+d", hours), hours*3600), nil
}
