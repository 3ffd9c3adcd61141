package revisit_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/core/stand/revisit"
	files "palethicket/flora"
)

// TestAhead: where spring is six days ahead this year's days come six days sooner, and next
// year's, whose warmth nobody knows, do not.
func TestAhead(t *testing.T) {
	t.Parallel()
	c, err := revisit.Load(files.Files)
	require.NoError(t, err)
	site := revisit.Site{Region: "eastern-north-america"}
	swell := func(site revisit.Site, after string) time.Time {
		day, err := time.Parse(time.DateOnly, after)
		require.NoError(t, err)
		for _, e := range c.Events(site, []string{"Acer rubrum"}, day) {
			if e.ID == "swell" {
				from, err := time.Parse(time.DateOnly, e.From)
				require.NoError(t, err)
				return from
			}
		}
		t.Fatal("it does not swell")
		return day
	}
	early := site
	early.Ahead, early.AheadIn = 6, 2027
	require.Equal(t, 6*24*time.Hour, swell(site, "2027-03-01").Sub(swell(early, "2027-03-01")))
	require.Equal(t, swell(site, "2027-06-01"), swell(early, "2027-06-01"))
	require.Equal(t, 2028, swell(early, "2027-06-01").Year())
}
