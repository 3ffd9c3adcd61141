package revisit_test

import (
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora/floratest"
	"palethicket/core/stand/revisit"
	files "palethicket/flora"
)

func shipped(t *testing.T) *revisit.Calendar {
	t.Helper()
	c, err := revisit.Load(files.Files)
	require.NoError(t, err)
	return c
}

var november = time.Date(2026, 11, 25, 12, 0, 0, 0, time.UTC)

func TestMapleOrRedMaple(t *testing.T) {
	got := shipped(t).Events(revisit.Site{Region: "eastern-north-america"}, []string{"Acer rubrum", "Acer saccharum"}, november)
	require.Len(t, got, 3)
	require.Equal(t, "swell", got[0].ID)
	require.Equal(t, "2027-03-20", got[0].From)
	flower := got[1]
	require.Equal(t, "flower", flower.ID)
	require.Equal(t, revisit.Window{Taxon: "Acer rubrum", From: "2027-04-05", To: "2027-04-25"}, flower.Windows[0])
	require.Equal(t, "2027-05-15", flower.To, "to the end of the later candidate's")
	require.False(t, flower.Separate)

	silver := shipped(t).Events(revisit.Site{Region: "eastern-north-america"}, []string{"Acer saccharinum", "Acer saccharum"}, november)
	require.True(t, silver[1].Separate, "silver maple has done flowering before sugar maple begins")
}

// Hopkins 1918: a degree north, five degrees east, 400 feet up are four days each.
func TestHopkins(t *testing.T) {
	c := shipped(t)
	at := func(lat, lon, alt float64) string {
		return c.Events(revisit.Site{Region: "eastern-north-america", Position: &[2]float64{lon, lat}, Altitude: &alt},
			[]string{"Tilia americana"}, november)[0].From
	}
	require.Equal(t, "2027-04-18", at(43.5, -90.7, 300))
	require.Equal(t, "2027-04-22", at(44.5, -90.7, 300))
	require.Equal(t, "2027-04-22", at(43.5, -85.7, 300))
	require.Equal(t, "2027-04-22", at(43.5, -90.7, 300+121.92))
	require.Equal(t, "2027-04-14", at(42.5, -90.7, 300))
}

func TestNextYearOnceItHasPassed(t *testing.T) {
	c := shipped(t)
	site := revisit.Site{Region: "eastern-north-america"}
	during := c.Events(site, []string{"Fagus grandifolia"}, time.Date(2027, 5, 10, 0, 0, 0, 0, time.UTC))
	require.Equal(t, "2027-05-02", during[0].From, "a window that is open is this year's")
	require.Equal(t, "2028-04-20", during[2].From, "one that has closed is the next year's")
}

func TestEveryRegionHasDates(t *testing.T) {
	f := floratest.Shipped(t)
	for _, region := range f.RegionIDs() {
		require.Len(t, shipped(t).Events(revisit.Site{Region: region}, []string{"Quercus robur"}, november), 3, region)
	}
	require.Empty(t, shipped(t).Events(revisit.Site{Region: "nowhere"}, []string{"Quercus robur"}, november))
}

func TestBadCalendars(t *testing.T) {
	for name, text := range map[string]string{
		"not a span":  "regions: {x: {dates: {Acer: {swell: soon, flower: 1 Mar to 2 Mar, leaf: 1 Mar to 2 Mar}}}}",
		"no fallback": "regions: {x: {dates: {Acer: {swell: 1 Mar to 2 Mar, flower: 1 Mar to 2 Mar, leaf: 1 Mar to 2 Mar}}}}",
		"not YAML":    "regions: [",
	} {
		_, err := revisit.Load(fstest.MapFS{revisit.File: {Data: []byte(text)}})
		require.ErrorContains(t, err, revisit.File, name)
	}
	_, err := revisit.Load(fstest.MapFS{})
	require.Error(t, err)
}
