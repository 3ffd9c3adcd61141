package web

import (
	"bytes"
	"context"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/book"
	"palethicket/report"
)

// dayQuery says which day is to be planned.
type dayQuery struct {
	PaperQuery
	TreeQuery
	Date  string    `query:"date" maxLength:"10" doc:"As 2026-12-01; absent: today"`
	Start string    `query:"start" maxLength:"5" default:"08:30" doc:"By the time that is kept there"`
	Going bool      `query:"going" doc:"It goes on from now: date and start say nothing then"`
	Break float64   `query:"break" minimum:"0" maximum:"240" doc:"Minutes of rest in the middle of it"`
	End   string    `query:"end" maxLength:"5" doc:"Absent: half an hour before dusk"`
	From  []float64 `query:"from" maxItems:"2" doc:"Longitude, latitude of where it begins; absent: the middle of the trees"`
	To    []float64 `query:"to" maxItems:"2" doc:"Of where it ends; absent: where it begins"`
	Snow  string    `query:"snow" enum:"none,patchy,deep," doc:"How it slows; absent: as the station or the last visit says"`
	Crews int       `query:"crews" minimum:"1" maximum:"6" default:"1"`
	Pin   []string  `query:"pin,explode" maxItems:"50" doc:"Ids of trees that are to be visited"`
	Drop  []string  `query:"drop,explode" maxItems:"400" doc:"Ids of trees that are not"`
	Order []string  `query:"order,explode" maxItems:"400" doc:"Ids in an order of one's own: nothing is then chosen"`
	Crew  int       `query:"crew" minimum:"1" maximum:"6" default:"1" doc:"Of a route: whose"`
}

func (s *Server) plan(ctx context.Context, in *dayQuery) (*book.DayPlan, error) {
	asked := &book.DayAsked{
		Query: in.query(), Date: in.Date, Start: in.Start, Going: in.Going, Break: in.Break, End: in.End,
		Crews: in.Crews, Pin: in.Pin, Drop: in.Drop, Order: in.Order,
	}
	asked.Snow, asked.From, asked.To = in.Snow, pair(in.From), pair(in.To)
	_, asked.Now = s.air()
	return s.of(ctx).PlanDay(ctx, asked)
}

func pair(p []float64) *[2]float64 {
	if len(p) != 2 {
		return nil
	}
	return &[2]float64{p[0], p[1]}
}

// outsideQuery says where the weather is asked for.
type outsideQuery struct {
	At []float64 `query:"at" maxItems:"2" doc:"Longitude, latitude; absent: the middle of the tracts"`
}

// dayOperations plan a day and give it in files.
func (s *Server) dayOperations(api huma.API) {
	answer(s, api, operation(readers, inCheck, "plan-day", "GET /api/day", "Which open trees to visit in a day, in which order"),
		func(ctx context.Context, in *dayQuery) (*book.DayPlan, error) { return s.plan(ctx, in) })
	answer(s, api, operation(readers, inCheck, "outside", "GET /api/outside", "What weather and season suggest for a visit"),
		func(ctx context.Context, in *outsideQuery) (*book.Outside, error) {
			words, now := s.air()
			return s.book.Outside(ctx, pair(in.At), words, now)
		})
	file := func(id, path, summary, kind, name string, write func(*bytes.Buffer, *book.DayPlan, *dayQuery) error) {
		save(s, api, operation(readers, inCheck|heavy, id, "GET "+path, summary), func(ctx context.Context, in *dayQuery) (*savedFile, error) {
			p, err := s.plan(ctx, in)
			if err != nil {
				return nil, err
			}
			var out bytes.Buffer
			err = write(&out, p, in)
			return saved(kind, name, out.Bytes()), err
		})
	}
	file("day-route", "/api/day.gpx", "The way of a crew, as a GPX route", "application/gpx+xml", "day.gpx",
		func(out *bytes.Buffer, p *book.DayPlan, in *dayQuery) error { return p.WriteDayRoute(out, in.Crew-1) })
	file("day-calendar", "/api/day.ics", "The day, as an iCalendar file", "text/calendar; charset=utf-8", "day.ics",
		func(out *bytes.Buffer, p *book.DayPlan, _ *dayQuery) error {
			out.WriteString(s.book.DayCalendar(p))
			return nil
		})
	file("day-sheet", "/api/day.pdf", "A day sheet to take along, as PDF", "application/pdf", "day.pdf",
		func(out *bytes.Buffer, p *book.DayPlan, in *dayQuery) error { return report.DayPDF(out, p, in.Paper) })
}
