package looks

import (
	"fmt"
	"io"
	"strings"
)

// WriteReport writes what came of the regions as tables.
func WriteReport(w io.Writer, regions []*Region) error {
	var b strings.Builder
	for _, r := range regions {
		fmt.Fprintf(
			&b,
			"**%s**: %d taxa, %.2f bits. The best look before any promises %.2f bits, which bounds the looks from below by %.1f",
			strings.ReplaceAll(r.Region, "-", " "),
			r.Taxa,
			r.Entropy,
			r.First,
			r.Bound(r.First),
		)
		own := &r.Orders[0]
		fmt.Fprintf(
			&b,
			"; the best one at each step of the program's own way %.2f bits, which makes it %.1f.\n\n",
			own.Best,
			r.Bound(own.Best),
		)
		b.WriteString("| order | looks | of these in vain | minutes | named | of these right | to species |\n")
		b.WriteString("| --- | ---: | ---: | ---: | ---: | ---: | ---: |\n")
		for _, m := range r.Orders {
			of := float64(m.Specimens)
			fmt.Fprintf(&b, "| %s | %.1f | %.2f | %.1f | %.3f | %.3f | %.2f |\n", m.Order, m.Looks, m.Vain, m.Minutes, float64(m.Named)/of,
				float64(m.Right)/float64(max(m.Named, 1)), float64(m.Species)/of)
		}
		b.WriteString("\n")
	}
	_, err := io.WriteString(w, b.String())
	return err
}
