package report

import (
	"cmp"
	"fmt"
	"io"
	"strings"

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
	c := &d.Crews[crew]
	title := "Day of " + d.Start.Format("2 January 2006")
	if len(d.Crews) > 1 {
		title += fmt.Sprintf(", crew %d of %d", crew+1, len(d.Crews))
	}
	p.title(title)
	p.text(
		fmt.Sprintf(
			"Begins %s, back %s (%s); %d trees of %d open. From %.5f, %.5f.",
			d.Start.Format(clock),
			c.Back.Format(clock),
			cmp.Or(d.Zone, "by this device's clock"),
			len(c.Stops),
			d.Open,
			d.From[1],
			d.From[0],
		),
	)
	if d.Light.Sunrise != nil && d.Light.Sunset != nil {
		p.text(
			fmt.Sprintf(
				"Sunrise %s, sunset %s. Colors are not to be trusted before the one and after the other, nor under a low gray sky.",
				d.Light.Sunrise.Format(clock),
				d.Light.Sunset.Format(clock),
			),
		)
	}
	for _, says := range d.Says {
		p.text(says)
	}
	p.text(c.Why)
	p.Ln(2)
	widths := []float64{14, 20, 42, 36, 66}
	p.row(widths, "B", "At", "Tag", "Way (paces of 0.8 m)", "Could be", "Look at, and why")
	for _, s := range c.Stops {
		could := s.Between
		if s.Doubt != "" {
			could += ". " + s.Doubt
		}
		way := fmt.Sprintf("%s, %d paces", s.Way, s.Paces)
		p.row(widths, "", s.Arrive.Format(clock), s.Tag+" "+s.Stand, way, could, s.Look+" Why: "+s.Because+".")
		if s.Rest {
			p.row(widths, "", s.Leave.Format(clock), "break", fmt.Sprintf("%.0f minutes", d.Break), "", "")
		}
	}
	p.row(widths, "", c.Back.Format(clock), "back", c.WayBack, "", "")
	p.meeting(d, crew)
	if len(d.Unplaced) > 0 {
		p.heading("Without a position")
		tags := make([]string, len(d.Unplaced))
		for i, t := range d.Unplaced {
			tags[i] = t.Tag + " (" + t.Stand + ")"
		}
		p.text("Open, and not in the plan, as nobody knows where they stand: " + strings.Join(tags, ", ") + ".")
	}
	p.heading("Take care")
	p.text(
		"Ways are straight lines: go round streams, cliffs and what is closed. Dead ash and elm, broken tops and hung limbs fall without " +
			"warning: look up before standing under. Take a twig only where collecting is allowed. " +
			"Say when you will be back, and be back before dusk.",
	)
}

// meeting says who is to be met where the day ends, and who is to know when that is.
func (p *pdf) meeting(d *book.DayPlan, crew int) {
	const clock = "15:04"
	p.heading("Who to meet")
	at := fmt.Sprintf("%.5f, %.5f", d.To[1], d.To[0])
	for _, g := range d.Gates {
		if g.At == d.To {
			at = g.Name + " (" + at + ")"
		}
	}
	for i := range d.Crews {
		if i != crew {
			p.text(fmt.Sprintf("Crew %d at %s, back at %s.", i+1, at, d.Crews[i].Back.Format(clock)))
		}
	}
	p.text(fmt.Sprintf("Told that we are back at %s by %s, and to look for us after that: ______________________", at,
		d.Crews[crew].Back.Format(clock)))
}
