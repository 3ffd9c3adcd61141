package web_test

import (
	"encoding/xml"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
)

// TestDayOverHTTP plans a day of the demo's open trees: it fits before dusk, has what is pinned and not what is dropped, two
// crews share the work; it comes out as route, calendar and sheet; what cannot be is said with its field.
func TestDayOverHTTP(t *testing.T) {
	t.Parallel()
	s := forest(t)
	const ask = "/api/day?date=2026-12-01&start=13:30&end=17:00"
	day := get[book.DayPlan](t, s, ask)
	require.Len(t, day.Crews, 1)
	stops := day.Crews[0].Stops
	require.Greater(t, len(stops), 8)
	before := day.Start
	for i, stop := range stops {
		require.Equal(t, i+1, stop.N)
		require.False(t, stop.Arrive.Before(before), stop.Tag)
		require.True(t, stop.Leave.After(stop.Arrive))
		require.NotEmpty(t, stop.Way)
		before = stop.Leave
	}
	require.False(t, day.Crews[0].Back.After(day.End))
	require.Equal(t, day, get[book.DayPlan](t, s, ask), "the same question gives the same plan")

	other := get[book.TreeList](t, s, "/api/trees?status=named").Trees[0].ID
	changed := get[book.DayPlan](t, s, ask+"&crews=2&pin="+other+"&drop="+stops[0].ID)
	seen := map[string]int{}
	for _, c := range changed.Crews {
		for _, stop := range c.Stops {
			seen[stop.ID]++
		}
	}
	require.Equal(t, 1, seen[other], "pinned, for one of the crews")
	require.Zero(t, seen[stops[0].ID], "dropped")
	for id, n := range seen {
		require.Equal(t, 1, n, id)
	}

	_, _, gpx := s.fetch("/api/day.gpx?date=2026-12-01&start=13:30&end=17:00")
	var route struct {
		Points []struct {
			Name string `xml:"name"`
			Lat  string `xml:"lat,attr"`
		} `xml:"rte>rtept"`
	}
	require.NoError(t, xml.Unmarshal(gpx, &route))
	require.Len(t, route.Points, len(stops)+2)
	require.Equal(t, stops[0].Tag, route.Points[1].Name)
	_, _, calendar := s.fetch("/api/day.ics?date=2026-12-01&start=13:30&end=17:00")
	require.Equal(t, 1, strings.Count(string(calendar), "BEGIN:VEVENT"))
	kind, _, sheet := s.fetch("/api/day.pdf?date=2026-12-01&start=13:30&end=17:00&crews=2")
	require.Equal(t, "application/pdf", kind)
	require.True(t, strings.HasPrefix(string(sheet), "%PDF"))
	for path, says := range map[string]string{
		"/api/day?date=soon":                                  "write it as 2026-12-01",
		"/api/day?date=2026-12-01&start=8":                    "write it as 08:30",
		"/api/day?date=2026-12-01&start=17:00&end=16:00":      "before it begins",
		"/api/day?date=2026-12-01&start=13:00&from=-90.63,95": "latitude",
		"/api/day?date=2026-12-01&start=13:00&pin=nothing":    "pinned",
		"/api/day?date=2026-12-01&tract=Nowhere":              "has a position",
		"/api/day.gpx?date=2026-12-01&start=13:30&crew=3":     "there are 1 crews",
	} {
		status, text := s.send("GET", path, "")
		require.GreaterOrEqual(t, status, 400, path)
		require.Contains(t, string(text), says, path)
	}
}
