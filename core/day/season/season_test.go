package season

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// lacrosse are the usual means of the months in south-western Wisconsin, 1991 to 2020 (from memory).
var lacrosse = [12]float64{-7.9, -5.4, 1.7, 8.9, 15.7, 21.3, 23.4, 22.1, 17.7, 10.6, 2.7, -4.4}

func year(temp func(day int) (low, high float64)) (out []Hour) {
	for d := range 120 {
		low, high := temp(d + 1)
		for h := range 24 {
			v := low
			if h == 14 {
				v = high
			}
			out = append(out, Hour{time.Date(2027, 1, 1+d, h, 0, 0, 0, time.UTC), v})
		}
	}
	return out
}

// TestWorked: the worked example of McMaster & Wilhelm's method 1, at base 5: a day of 4 to 18 °C
// gives (4+18)/2 − 5 = 6 (from memory), and one below the base nothing.
func TestWorked(t *testing.T) {
	hours := year(func(d int) (float64, float64) {
		if d <= 110 {
			return -9, 3
		}
		return 4, 18
	})
	sum, last, missing := DegreeDays(hours, time.UTC)
	require.InDelta(t, 60, sum, 1e-9)
	require.Equal(t, "2027-04-30", last.Format(time.DateOnly))
	require.Zero(t, missing)
	gappy := append(append([]Hour(nil), hours[:115*24]...), hours[117*24:]...)
	sum, _, missing = DegreeDays(gappy, time.UTC)
	require.Equal(t, 2, missing)
	require.InDelta(t, 60, sum, 1e-9)
	sum, _, _ = DegreeDays(hours[:len(hours)-12], time.UTC) // half a day counts for nothing
	require.InDelta(t, 54, sum, 1e-9)
	sum, last, _ = DegreeDays(nil, time.UTC)
	require.Zero(t, sum)
	require.True(t, last.IsZero())
}

func TestAhead(t *testing.T) {
	n := NewNormal(lacrosse)
	require.Less(t, n.By(31), 5.0)
	require.Greater(t, n.By(140), 300.0)
	day := func(m time.Month, d int) time.Time { return time.Date(2027, m, d, 0, 0, 0, 0, time.UTC) }
	usual := n.By(day(4, 20).YearDay())
	require.Zero(t, n.Ahead(usual, day(4, 20), 0).Days)
	require.Equal(t, 8, n.Ahead(usual, day(4, 12), 0).Days)
	late := n.Ahead(usual, day(4, 27), 3)
	require.Equal(t, -7, late.Days)
	require.Contains(t, late.Says, "7 days behind")
	require.Contains(t, late.Says, "3 days are not known")
	require.Contains(t, n.Ahead(1, day(1, 10), 0).Says, "too cold")
	require.Contains(t, n.Ahead(900, day(6, 10), 0).Says, "leaves are out")
}
