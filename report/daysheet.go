package report

import (
	"fmt"
	"io"

	"palethicket/book"
)

// DayPDF writes a day sheet to take along: the order, bearings and paces, what to look at, when to be back.
func DayPDF(w io.Writer, d *book.DayPlan, paper string) error {
	p, err := newPDF(paper, "Day of "+d.Date, "Day of "+d.Date, d.Start)
	if err != nil {
		return err
	}
	for i := range d.Crews {
		p.dayOf(d, i)
	}
	return p.finish(w, "the day sheet")
}

func (p *pdf) dayOf(d *book.DayPlan, crew int) {
	const clock = "15:04"
	c, where := &d.Crews[crew], d.Start.Location()
	title := "Day of " + d.Start.Format("2 January 2006")
	if len(d.Crews) > 1 {
		title += fmt.Sprintf(", crew %d of %d", crew+1, len(d.Crews))
	}
	p.title(title)
	p.text(
		fmt.Sprintf(
			"Begins %s, back %s; %d trees of %d open. From %.5f, %.5f.",
			d.Start.Format(clock),
			c.Back.In(where).Format(clock),
			len(c.Stops),
			d.Open,
			d.From[1],
			d.From[0],
		),
	)
	if d.Light.Sunrise != nil && d.Light.Sunset != nil {
		p.text(
			fmt.Sprintf(
				"Sunrise %s, sunset %s. Colours are not to be trusted before the one and after the other, nor under a low grey sky.",
				d.Light.Sunrise.In(where).Format(clock),
				d.Light.Sunset.In(where).Format(clock),
			),
		)
	}
	for _, says := range d.Says {
		p.text(says)
	}
	p.Ln(2)
	widths := []float64{14, 20, 46, 40, 58}
	p.row(widths, "B", "At", "Tag", "Way (paces of 0.8 m)", "Could be", "Look at")
	for _, s := range c.Stops {
		could := s.Between
		if s.Doubt != "" {
			could += ". " + s.Doubt
		}
		p.row(widths, "", s.Arrive.In(where).Format(clock), s.Tag+" "+s.Stand, fmt.Sprintf("%s, %d paces", s.Way, s.Paces), could, s.Look)
	}
	p.row(widths, "", c.Back.In(where).Format(clock), "back", c.WayBack, "", "")
	p.heading("Take care")
	p.text(
		"Ways are straight lines: go round streams, cliffs and what is closed. Dead ash and elm, broken tops and hung limbs fall without " +
			"warning: look up before standing under. Take a twig only where collecting is allowed. " +
			"Say when you will be back, and be back before dusk.",
	)
}
