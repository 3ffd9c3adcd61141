package web_test

import (
	"encoding/xml"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/report/reporttest"
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

	turned := "&order=" + stops[2].ID + "&order=" + stops[0].ID
	own := get[book.DayPlan](t, s, ask+turned).Crews[0].Stops
	require.Equal(t, []string{stops[2].ID, stops[0].ID}, []string{own[0].ID, own[1].ID})
	status, text := s.send("GET", ask+turned+"&order="+stops[0].ID, "")
	require.Equal(t, 422, status)
	require.Contains(t, string(text), "twice")
	slow := get[book.DayPlan](t, s, ask+"&snow=deep")
	require.Less(t, len(slow.Crews[0].Stops), len(stops), "deep snow slows")
	gate := day.Gates[0]
	there := get[book.DayPlan](
		t,
		s,
		ask+fmt.Sprintf("&from=%f,%f&to=%f,%f", gate.At[0], gate.At[1], day.Gates[1].At[0], day.Gates[1].At[1]),
	)
	require.NotEqual(t, there.From, there.To)

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
	for _, line := range strings.Split(strings.TrimSuffix(string(calendar), "\r\n"), "\r\n") {
		require.LessOrEqual(t, len(line), 75)
		require.NotContains(t, line, "\n")
	}
	require.Contains(t, string(calendar), "DTSTART:"+day.Start.UTC().Format("20060102T150405Z"))
	kind, _, sheet := s.fetch("/api/day.pdf?date=2026-12-01&start=13:30&end=17:00&crews=2")
	require.Equal(t, "application/pdf", kind)
	require.Contains(t, reporttest.About(t, sheet).Title, "2026-12-01")
	text2, last := reporttest.Text(t, sheet), 0
	for _, s := range get[book.DayPlan](t, s, ask+"&crews=2").Crews[0].Stops {
		at := strings.Index(text2, s.Tag)
		require.Greater(t, at, last, "the sheet has them in their order")
		last = at
	}
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
