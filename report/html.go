package report

import (
	"embed"
	"fmt"
	"html/template"
	"io"
	"strings"

	"palethicket/book"
	"palethicket/core/flora"
	"palethicket/core/stand/worklist"
)

//go:embed report.html
var page string

//go:embed fonts/*.ttf
var fonts embed.FS

var pageTemplate = template.Must(template.New("report").Funcs(template.FuncMap{
	"path": svgPath, "percent": percent, "bar": barWidth, "stems": stemsWords, "look": lookWords,
	"sign":  func(id string) string { return worklist.StatusOf(id).Sign },
	"share": shareWords,
	"lower": strings.ToLower, "title": Title, "cap": flora.UpperFirst,
}).Parse(page))

// HTML writes the report as one page with all it needs in it.
func HTML(w io.Writer, r *book.Report) error {
	data := struct {
		*book.Report
		Drawing *drawing
		Most    float64 // the longest bar, in stems
		Trees   float64
		Signs   []worklist.Status
		Shares  []book.Share
		Others  float64
	}{r, draw(r, 900, 560), 1, float64(r.Composition.Trees), worklist.Statuses, nil, 0}
	data.Shares, data.Others = likely(r.Composition)
	for _, s := range data.Shares {
		data.Most = max(data.Most, s.StemsTo)
	}
	if err := pageTemplate.Execute(w, data); err != nil {
		return fmt.Errorf("writing the report: %w", err)
	}
	return nil
}

// Title is what the report is on.
func Title(r *book.Report) string {
	switch {
	case r.Stand != "":
		return r.Stand + ", " + r.Tract
	case r.Tract != "":
		return r.Tract
	}
	return "The whole book"
}

func svgPath(points []point) string {
	var out strings.Builder
	for i, p := range points {
		op := "L"
		if i == 0 {
			op = "M"
		}
		fmt.Fprintf(&out, "%s%.1f %.1f", op, p.X, p.Y)
	}
	return out.String()
}

func percent(x, of float64) string {
	if of == 0 {
		return ""
	}
	return fmt.Sprintf("%.0f %%", 100*x/of)
}

// barWidth is a share as CSS writes it.
func barWidth(x, of float64) template.CSS { return template.CSS(fmt.Sprintf("%.1f%%", 100*x/of)) }

// likely are the taxa of which half a stem or more is expected; others holds the
// sum of the rest.
func likely(c *book.Composition) (shares []book.Share, others float64) {
	for _, s := range c.Shares {
		if s.Stems >= 0.5 {
			shares = append(shares, s)
		} else {
			others += s.Stems
		}
	}
	return shares, others
}

// shareWords says a share with its interval.
func shareWords(s book.ShareIn) string {
	return fmt.Sprintf("%.0f %% (%.0f to %.0f)", 100*s.P, 100*s.From, 100*s.To)
}

func stemsWords(x, from, to float64) string { return fmt.Sprintf("%.1f (%.0f to %.0f)", x, from, to) }

// lookWords is the one look that would tell most, and when to come back.
func lookWords(o *book.Unsettled) string {
	var parts []string
	if o.Look != "" {
		parts = append(parts, o.Look)
	}
	if len(o.Back) > 0 {
		b := o.Back[0]
		parts = append(parts, fmt.Sprintf("Or come back when %s, %s to %s.", b.Words, b.From, b.To))
	}
	return strings.Join(parts, " ")
}
