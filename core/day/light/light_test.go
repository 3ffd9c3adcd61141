package light_test

import (
	"encoding/json"
	"math"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/core/day/light"
)

// TestAgainstEphem holds all events to ephem within a minute, from 65° S to 65° N and 1990 to 2060
// (scripts/reference-ephem.py).
func TestAgainstEphem(t *testing.T) {
	file, err := os.ReadFile("testdata/ephem.json")
	require.NoError(t, err)
	var ref struct {
		Days []struct {
			Lat, Lon                    float64
			Date                        string
			Noon                        string
			Sunrise, Sunset, Dawn, Dusk *string
		}
	}
	require.NoError(t, json.Unmarshal(file, &ref))
	require.Len(t, ref.Days, 600)
	worst, compared := 0.0, 0
	for _, d := range ref.Days {
		date, err := time.Parse(time.DateOnly, d.Date)
		require.NoError(t, err)
		got, err := light.Of(d.Lat, d.Lon, date)
		require.NoError(t, err)
		for name, pair := range map[string]struct {
			want *string
			is   time.Time
		}{"noon": {&d.Noon, got.Noon}, "sunrise": {d.Sunrise, got.Sunrise}, "sunset": {d.Sunset, got.Sunset}, "dawn": {d.Dawn, got.Dawn},
			"dusk": {d.Dusk, got.Dusk}} {
			if pair.want == nil {
				require.True(t, pair.is.IsZero(), "%s at %g on %s does not happen", name, d.Lat, d.Date)
				continue
			}
			want, err := time.Parse("2006-01-02T15:04:05", *pair.want)
			require.NoError(t, err)
			require.False(t, pair.is.IsZero(), "%s at %g on %s", name, d.Lat, d.Date)
			off := math.Abs(pair.is.Sub(want).Seconds())
			require.LessOrEqual(t, off, 60.0, "%s at %g, %g on %s", name, d.Lat, d.Lon, d.Date)
			worst = max(worst, off)
			compared++
		}
	}
	t.Logf("%d events, %.0f s off at worst", compared, worst)
}

// TestPolar: what does not happen is said in words.
func TestPolar(t *testing.T) {
	summer, winter := time.Date(2026, 6, 21, 0, 0, 0, 0, time.UTC), time.Date(2026, 12, 21, 0, 0, 0, 0, time.UTC)
	for _, c := range []struct {
		lat  float64
		day  time.Time
		says string
	}{
		{80, summer, "the sun does not set"},
		{80, winter, "does not rise, and there is no civil twilight"},
		{68, winter, "does not rise; there is civil twilight"},
		{63, summer, "twilight lasts all night"},
		{-80, winter, "the sun does not set"},
		{43.57, winter, ""},
	} {
		d, err := light.Of(c.lat, -90.63, c.day)
		require.NoError(t, err)
		require.Contains(t, d.Says, c.says, "%g on %s", c.lat, c.day)
		require.Equal(t, c.says == "", d.Says == "")
		require.False(t, d.Noon.IsZero())
	}
	_, err := light.Of(91, 0, summer)
	require.ErrorIs(t, err, light.ErrPlace)
	_, err = light.Of(math.NaN(), 0, summer)
	require.ErrorIs(t, err, light.ErrPlace)
}

// TestHeight: at noon on the equinox the sun stands as far from overhead as the place is from the equator.
func TestHeight(t *testing.T) {
	d, err := light.Of(43.57, -90.63, time.Date(2026, 3, 20, 0, 0, 0, 0, time.UTC))
	require.NoError(t, err)
	require.InDelta(t, 90-43.57, light.Height(43.57, -90.63, d.Noon), 0.2)
	require.InDelta(t, -0.833, light.Height(43.57, -90.63, d.Sunset), 0.05)
}
