package calibration

import (
	"fmt"
	"io"
	"strings"
)

// WriteText writes the report as a page of Markdown.
func (r Report) WriteText(w io.Writer) error {
	var b strings.Builder
	fmt.Fprintf(&b, "# Calibration\n\n%d drawn specimens. First place: %.1f %%. In the credible set: %.1f %%.\n\n",
		r.Specimens, 100*float64(r.First)/float64(r.Specimens), 100*float64(r.InCredible)/float64(r.Specimens))
	b.WriteString("| tenth | posteriors | said | came true | 99 % interval | |\n| --- | ---: | ---: | ---: | --- | --- |\n")
	for i, k := range r.Tenths {
		if k.N == 0 {
			continue
		}
		lo, hi := k.Interval(0.99)
		verdict := "within"
		if k.Came() < lo || k.Came() > hi {
			verdict = "**outside**"
		}
		fmt.Fprintf(&b, "| %.1f to %.1f | %d | %.4f | %.4f | %.4f to %.4f | %s |\n", float64(i)/Tenths, float64(i+1)/Tenths,
			k.N, k.Said(), k.Came(), lo, hi, verdict)
	}
	_, err := io.WriteString(w, b.String())
	return err
}

// WritePlot writes a reliability plot, what was said against what came true, as
// SVG. Each point carries its interval.
func (r Report) WritePlot(w io.Writer) error {
	const size, edge = 400.0, 50.0
	x := func(p float64) float64 { return edge + p*size }
	y := func(p float64) float64 { return edge + (1-p)*size }
	var b strings.Builder
	fmt.Fprintf(
		&b,
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %g %g" font-family="sans-serif" font-size="13">`,
		size+2*edge,
		size+2*edge,
	)
	b.WriteString(`<rect width="100%" height="100%" fill="#fffdf8"/>`)
	for i := 0; i <= Tenths; i += 2 {
		p := float64(i) / Tenths
		fmt.Fprintf(&b, `<path d="M%g %gV%gM%g %gH%g" stroke="#d3cbbd"/>`, x(p), y(0), y(1), x(0), y(p), x(1))
		fmt.Fprintf(
			&b,
			`<text x="%g" y="%g" text-anchor="middle">%.1f</text><text x="%g" y="%g" text-anchor="end">%.1f</text>`,
			x(p),
			y(0)+18,
			p,
			x(0)-8,
			y(p)+4,
			p,
		)
	}
	fmt.Fprintf(&b, `<path d="M%g %gL%g %g" stroke="#6b5440" stroke-dasharray="5 4"/>`, x(0), y(0), x(1), y(1))
	for _, k := range r.Tenths {
		if k.N == 0 {
			continue
		}
		lo, hi := k.Interval(0.99)
		fmt.Fprintf(&b, `<path d="M%.2f %.2fV%.2f" stroke="#2f5d4a" stroke-width="2"/><circle cx="%.2f" cy="%.2f" r="4" fill="#2f5d4a"/>`,
			x(k.Said()), y(lo), y(hi), x(k.Said()), y(k.Came()))
	}
	fmt.Fprintf(
		&b,
		`<text x="%g" y="%g" text-anchor="middle">said</text>`+
			`<text x="16" y="%g" text-anchor="middle" transform="rotate(-90 16 %g)">came true</text></svg>`,
		x(0.5),
		size+2*edge-10,
		y(0.5),
		y(0.5),
	)
	_, err := io.WriteString(w, b.String())
	return err
}
