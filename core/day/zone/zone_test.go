package zone_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/core/day/zone"
)

// TestOf: names and offsets as the IANA time zone database has them.
func TestOf(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		place    string
		lat, lon float64
		name     string
		winter   string // offset on 21 December 2026
	}{
		{"Lantern Creek, Wisconsin", 43.57, -90.63, "America/Chicago", "-06:00"},
		{"Tromsø", 69.65, 18.96, "Europe/Oslo", "+01:00"},
		{"Auckland", -36.85, 174.76, "Pacific/Auckland", "+13:00"},
		{"Brest", 48.39, -4.49, "Europe/Paris", "+01:00"},
		{"Vigo", 42.24, -8.72, "Europe/Madrid", "+01:00"},
		{"London", 51.51, -0.13, "Europe/London", "+00:00"},
		{"Sydney", -33.9, 151.2, "Australia/Sydney", "+11:00"},
		{"Taveuni, on the date line", -16.85, 179.95, "Pacific/Fiji", "+12:00"},
	} {
		there, err := zone.Of(c.lat, c.lon)
		require.NoError(t, err, c.place)
		require.Equal(t, c.name, there.String(), c.place)
		require.Equal(t, c.winter, time.Date(2026, 12, 21, 12, 0, 0, 0, there).Format("-07:00"), c.place)
	}
	sea, err := zone.Of(0, -30)
	require.NoError(t, err)
	require.Equal(t, "-02:00", time.Date(2026, 1, 1, 0, 0, 0, 0, sea).Format("-07:00"))
}
