package audit

import (
	"bufio"
	"fmt"
	"html"
	"io"

	"palethicket/core/flora"
	"palethicket/core/weigh/evidence"
)

// The picture's measures in its own units.
const (
	cell   = 9
	margin = 190
	head   = 130
)

// fills colours what is known of a character: written for the taxon, its
// group or genus; the usual; no such part. Nothing is drawn where it is not
// known.
var fills = map[string]string{"written": "#3f6b4f", "usual": "#c9d6cb", "absent": "#e6ddc8"}

// WritePicture draws taxa against characters as SVG: what is written, what is
// taken as usual, what does not exist, and, blank, what is not known.
func WritePicture(w io.Writer, f *flora.Flora) error {
	out := bufio.NewWriter(w)
	width, height := margin+cell*len(f.Characters)+20, head+cell*len(f.Taxa)+60
	fmt.Fprintf(out, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d" font-family="sans-serif" font-size="7">`+"\n", width, height)
	fmt.Fprintf(out, "<title>What the flora knows: %d taxa by %d characters</title>\n", len(f.Taxa), len(f.Characters))
	for i, c := range f.Characters {
		fmt.Fprintf(out, `<text transform="translate(%d %d) rotate(-60)">%s</text>`+"\n", margin+cell*i+7, head-4, html.EscapeString(c.ID))
	}
	for i := range f.Taxa {
		t := &f.Taxa[i]
		y := head + cell*i
		fmt.Fprintf(out, `<text x="%d" y="%d" text-anchor="end" font-style="italic">%s</text>`+"\n", margin-4, y+7, html.EscapeString(t.Name))
		for k, c := range f.Characters {
			if state := knowledge(t, c.ID); state != "" {
				fmt.Fprintf(out, `<rect x="%d" y="%d" width="8" height="8" fill="%s"/>`, margin+cell*k, y, fills[state])
			}
		}
		fmt.Fprintln(out)
	}
	x := margin
	for _, key := range []struct{ state, says string }{{"written", "written"}, {"usual", "taken as usual"}, {"absent", "no such part"}} {
		fmt.Fprintf(out, `<rect x="%d" y="%d" width="8" height="8" fill="%s"/><text x="%d" y="%d">%s</text>`+"\n",
			x, height-40, fills[key.state], x+12, height-33, key.says)
		x += 90
	}
	fmt.Fprintln(out, "</svg>")
	if err := out.Flush(); err != nil {
		return fmt.Errorf("drawing the coverage: %w", err)
	}
	return nil
}

func knowledge(t *flora.Taxon, id string) string {
	e := t.Entry(id)
	switch k := e.Cells[flora.Mature][flora.Breast].Knowledge; {
	case k == evidence.Unknown:
		return ""
	case k == evidence.Absent:
		return "absent"
	case e.Usual:
		return "usual"
	default:
		return "written"
	}
}
