package web_test

import (
	"encoding/xml"
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

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
	named := get[book.TreeList](t, s, "/api/trees?status=named").Trees[0].ID
	partly := get[book.DayPlan](t, s, ask+turned+"&order="+named)
	require.Len(t, partly.Crews[0].Stops, 2, "an order stays, without what is open no more")
	require.Contains(t, partly.Says, "1 tree of your order is left out: it is no longer open, or has no position.")
	anew := get[book.DayPlan](t, s, ask+"&order="+named)
	require.Equal(t, day.Crews, anew.Crews, "of an order of which nothing is left")
	slow := get[book.DayPlan](t, s, ask+"&snow=deep")
	require.Less(t, len(slow.Crews[0].Stops), len(stops), "deep snow slows")
	gate := day.Gates[0]
	there := get[book.DayPlan](
		t,
		s,
		ask+fmt.Sprintf("&from=%f,%f&to=%f,%f", gate.At[0], gate.At[1], day.Gates[1].At[0], day.Gates[1].At[1]),
	)
	require.NotEqual(t, there.From, there.To)

	changed := get[book.DayPlan](t, s, ask+"&crews=2&pin="+named+"&drop="+stops[0].ID)
	seen := map[string]int{}
	for _, c := range changed.Crews {
		for _, stop := range c.Stops {
			seen[stop.ID]++
		}
	}
	require.Equal(t, 1, seen[named], "pinned, for one of the crews")
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
		"/api/day?date=2026-12-01&start=17:00&end=16:00":      "before it begins at 17:00",
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

// TestDayByTheTimeThere: what is typed is by the time that is kept where the day begins, whatever the server's clock is set to,
// on the page, in the files and beside the sun.
func TestDayByTheTimeThere(t *testing.T) {
	t.Parallel()
	s := forest(t)
	for _, c := range []struct{ at, zone, offset, says string }{
		{"-90.63,43.57", "America/Chicago", "-06:00", ""},
		{"18.96,69.65", "Europe/Oslo", "+01:00", "The sun does not rise"},
		{"174.76,-36.85", "Pacific/Auckland", "+13:00", ""},
	} {
		ask := "date=2026-12-21&start=08:30&end=14:00&from=" + c.at
		day := get[map[string]any](t, s, "/api/day?"+ask)
		require.Equal(t, "2026-12-21T08:30:00"+c.offset, day["start"], c.zone)
		require.Equal(t, c.zone, day["zone"])
		require.Contains(t, fmt.Sprint(day["says"]), c.says)
		_, _, calendar := s.fetch("/api/day.ics?" + ask)
		begins, err := time.Parse(time.RFC3339, "2026-12-21T08:30:00"+c.offset)
		require.NoError(t, err)
		require.Contains(t, string(calendar), "DTSTART:"+begins.UTC().Format("20060102T150405Z"))
		_, _, sheet := s.fetch("/api/day.pdf?" + ask)
		require.Contains(t, reporttest.Text(t, sheet), "Begins 08:30")
		if rises, ok := day["light"].(map[string]any)["sunrise"].(string); ok {
			require.Contains(t, rises, c.offset)
		}
		crew := day["crews"].([]any)[0].(map[string]any)
		require.Equal(t, c.zone != "America/Chicago", crew["why"] != nil, "far from every tree the reason is said")
	}
}

// TestDayOfCrews: several crews are out for about as long, and a break is in the middle.
func TestDayOfCrews(t *testing.T) {
	t.Parallel()
	s := forest(t)
	const ask = "/api/day?date=2026-12-01&start=09:00&end=16:00&crews=4&break=30"
	day := get[book.DayPlan](t, s, ask)
	longest, shortest, rests := 0.0, math.Inf(1), 0
	for _, c := range day.Crews {
		require.NotEmpty(t, c.Stops)
		out := c.Back.Sub(day.Start).Minutes()
		longest, shortest = max(longest, out), min(shortest, out)
		require.False(t, c.Back.After(day.End))
		for i, stop := range c.Stops {
			if stop.Rest {
				rests++
			}
			if i > 0 && c.Stops[i-1].Rest {
				require.GreaterOrEqual(t, stop.Arrive.Sub(c.Stops[i-1].Leave).Minutes(), 30.0)
			}
		}
	}
	require.Less(t, longest/shortest, 1.3)
	require.LessOrEqual(t, rests, len(day.Crews))
}

// TestDayGoesOn: from now, which is not asked for, and with what is left in its order.
func TestDayGoesOn(t *testing.T) {
	t.Parallel()
	s := forest(t)
	stops := get[book.DayPlan](t, s, "/api/day?date=2026-12-01&start=09:00").Crews[0].Stops
	left := "&order=" + stops[2].ID + "&order=" + stops[1].ID
	before := time.Now().Truncate(time.Minute)
	day := get[book.DayPlan](t, s, "/api/day?date=2026-12-01&start=06:00&end=23:59&going=true"+left)
	require.False(t, day.Start.Before(before))
	require.True(t, day.Today)
	require.Equal(t, []string{stops[2].ID, stops[1].ID}, []string{day.Crews[0].Stops[0].ID, day.Crews[0].Stops[1].ID})
}
