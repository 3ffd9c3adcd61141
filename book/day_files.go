package book

import (
	"fmt"
	"io"
	"strings"

	ics "github.com/arran4/golang-ical"

	"palethicket/core/exchange"
)

// WriteDayRoute writes the way of one crew (counted from 0) as a GPX route.
func (p *DayPlan) WriteDayRoute(w io.Writer, crew int) error {
	if crew < 0 || crew >= len(p.Crews) {
		return &FieldError{"crew", fmt.Sprintf("there are %d crews", len(p.Crews))}
	}
	c := &p.Crews[crew]
	route := []exchange.RoutePoint{{Lon: p.From[0], Lat: p.From[1], At: p.Start, Name: "start"}}
	for _, s := range c.Stops {
		route = append(route, exchange.RoutePoint{Lon: *s.Lon, Lat: *s.Lat, At: s.Arrive, Name: s.Tag, Words: s.Look})
	}
	route = append(route, exchange.RoutePoint{Lon: p.To[0], Lat: p.To[1], At: c.Back, Name: "back"})
	return exchange.WriteRoute(w, "Day of "+p.Date, p.Start, route)
}

// DayCalendar writes a day as iCalendar: for each crew one event, from start to back.
func (b *Book) DayCalendar(p *DayPlan) string {
	cal := ics.NewCalendarFor("-//Pale Thicket//Day//EN")
	cal.SetMethod(ics.MethodPublish)
	for i, c := range p.Crews {
		event := cal.AddEvent(fmt.Sprintf("day-%s-%d@palethicket", p.Date, i+1))
		event.SetDtStampTime(b.now().UTC())
		event.SetStartAt(p.Start)
		event.SetEndAt(c.Back)
		name := "Trees to look at"
		if len(p.Crews) > 1 {
			name = fmt.Sprintf("Trees to look at, crew %d", i+1)
		}
		event.SetSummary(fmt.Sprintf("%s: %d", name, len(c.Stops)))
		event.SetDescription(strings.Join(each(c.Stops, func(s DayStop) string {
			return fmt.Sprintf("%s %s: %s", s.Arrive.In(p.Start.Location()).Format("15:04"), s.Tag, s.Way)
		}), "\n"))
		event.SetGeo(p.From[1], p.From[0])
	}
	return cal.Serialize(ics.WithNewLineWindows)
}
