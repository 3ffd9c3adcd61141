// Package report writes a report on a tract or a stand, as a web page that stands
// by itself and as PDF.
package report

import (
	"embed"
	"fmt"
	"html/template"
	"io"
	"strings"

	"palethicket/book"
	"palethicket/core/stand/composition"
)

//go:embed report.html
var page string

//go:embed fonts/*.ttf
var fonts embed.FS

var pageTemplate = template.Must(template.New("report").Funcs(template.FuncMap{
	"path": svgPath, "percent": percent, "bar": barWidth, "stems": stemsWords, "names": nameList, "look": lookWords, "sign": sign, "title": Title, "cap": capital,
}).Parse(page))

// HTML writes the report as one page with all it needs in it.
func HTML(w io.Writer, r *book.Report, english func(taxon string) string) error {
	data := struct {
		*book.Report
		Drawing *drawing
		English func(string) string
		Most    float64 // the longest bar, in stems
		Trees   float64
		Signs   []statusSign
		Shares  []composition.Share
		Others  float64
	}{r, draw(r, 900, 560), english, 1, float64(r.Composition.Trees), signs, nil, 0}
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

// statusSign is how a tree of a status is marked: by form as well as by colour.
type statusSign struct{ Status, Sign, Words string }

var signs = []statusSign{{book.StatusNamed, "●", "named"}, {book.StatusReady, "◐", "ready to name"}, {book.StatusDoubtful, "◆", "in doubt"},
	{book.StatusOpen, "○", "not settled"}, {book.StatusUnscored, "·", "not scored"}}

func sign(status string) string {
	for _, s := range signs {
		if s.Status == status {
			return s.Sign
		}
	}
	return "○"
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
func likely(c *book.Composition) (shares []composition.Share, others float64) {
	for _, s := range c.Shares {
		if s.Stems >= 0.5 {
			shares = append(shares, s)
		} else {
			others += s.Stems
		}
	}
	return shares, others
}

func stemsWords(x, from, to float64) string { return fmt.Sprintf("%.1f (%.0f to %.0f)", x, from, to) }

// nameList is who a tree could be, in everyday names.
func nameList(english func(string) string, taxa []string) string {
	var names []string
	for _, t := range taxa[:min(len(taxa), 3)] {
		names = append(names, english(t))
	}
	if len(names) == 0 {
		return "nothing listed fits well"
	}
	return strings.Join(names, " or ")
}

// lookWords is the one look that would tell most, and when to come back.
func lookWords(o *book.Unsettled) string {
	var parts []string
	if o.Look != "" {
		parts = append(parts, capital(o.Look))
	}
	if len(o.Back) > 0 {
		b := o.Back[0]
		parts = append(parts, fmt.Sprintf("Or come back when %s, %s to %s.", b.Words, b.From, b.To))
	}
	return strings.Join(parts, " ")
}

func capital(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
