package report

import (
	"fmt"
	"slices"

	"palethicket/book"
	"palethicket/core/flora"
)

func (p *pdf) composition(r *book.Report) {
	p.heading("What grows here")
	widths := []float64{44, 46, 44, 14, 16, 14}
	p.row(widths, "B", "Tree", "", "Probable stems (95 %)", "Share", "m²", "Named")
	shares, others := likely(r.Composition)
	for _, s := range shares {
		name := s.Taxon
		if name == "unlisted" {
			name = ""
		}
		p.row(
			widths,
			"",
			flora.UpperFirst(s.English),
			name,
			stemsWords(s.Stems, s.StemsFrom, s.StemsTo),
			percent(s.Stems, float64(r.Composition.Trees)),
			fmt.Sprintf("%.2f", s.Area),
			fmt.Sprint(s.Determined),
		)
	}
	if others >= 0.05 {
		p.row(widths, "", "All others together", "", fmt.Sprintf("%.1f", others), percent(others, float64(r.Composition.Trees)), "", "")
	}
	p.Ln(1)
	p.SetFont("body", "", 8)
	p.text(r.Composition.Note)
	p.plots(r.Composition.Plots)
}

// plots is what sample points add up to, where there are any.
func (p *pdf) plots(t *book.PlotTally) {
	if t == nil {
		return
	}
	p.heading("From sample points")
	for _, says := range t.Says {
		p.text(says)
	}
	widths := []float64{70, 54, 54}
	p.row(widths, "B", "Tree", "Basal area, m²/ha (standard error)", "Stems per hectare")
	for _, x := range t.Taxa {
		p.row(widths, "", x.Words, x.Area.Words, x.Stems.Words)
	}
	p.row(widths, "B", "All", t.Area.Words, t.Stems.Words)
}

func (p *pdf) open(r *book.Report) {
	p.heading("Trees not settled")
	if len(r.Open) == 0 {
		p.text("None: every tree has a name that nothing speaks against.")
		return
	}
	widths := []float64{18, 34, 56, 70}
	p.row(widths, "B", "Tag", "Stand", "Could be", "The look that tells most")
	for i := range r.Open {
		o := &r.Open[i]
		could := o.Between
		if o.Doubt != "" {
			could += ". " + o.Doubt
		}
		p.row(widths, "", o.Tag, o.Stand, could, lookWords(o))
	}
	if r.OpenTotal > len(r.Open) {
		p.text(fmt.Sprintf("The first %d of %d, those first for which one look is worth most.", len(r.Open), r.OpenTotal))
	}
}

func (p *pdf) names(r *book.Report) {
	p.heading("Names and what they rest on")
	widths := []float64{18, 34, 52, 28, 46}
	p.row(widths, "B", "Tag", "Stand", "Name", "By", "Rests on")
	for _, g := range r.Names {
		name := g.Name
		if g.English != "" {
			name = flora.UpperFirst(g.English) + ", " + g.Name
		}
		rests := g.Rests
		switch {
		case g.Flag == "":
		case g.Probable:
			rests += ". " + g.Flag
		default:
			rests += ". In doubt: " + g.Flag
		}
		p.row(widths, "", g.Tag, g.Stand, name, g.By+", "+g.Day, rests)
	}
}

// spring says how often the names were right, where any was put to the proof.
func (p *pdf) spring(a *book.FieldAccuracy) {
	if a == nil || a.All.Of == 0 {
		return
	}
	p.heading("What spring said of winter's names")
	for _, says := range a.Says {
		p.text(says)
	}
	widths := []float64{60, 30, 50}
	p.row(widths, "B", "Chance said when named", "Right", "Share (95 %, Wilson 1927)")
	for _, b := range a.Bins {
		said := fmt.Sprintf("%.2f to %.2f, mean %.2f", b.From, b.To, b.Mean)
		p.row(widths, "", said, fmt.Sprintf("%d of %d", b.Right.N, b.Right.Of), shareWords(b.Right))
	}
	p.Ln(3)
	p.row(widths, "B", "Who named, and what", "Right", "Share")
	for _, g := range append(slices.Clone(a.ByObserver), a.ByTaxon...) {
		p.row(widths, "", g.Words, fmt.Sprintf("%d of %d", g.Right.N, g.Right.Of), shareWords(g.Right))
	}
}

func (p *pdf) visits(r *book.Report) {
	p.heading("Visits")
	widths := []float64{24, 60, 60, 18, 16}
	p.row(widths, "B", "Day", "Crew", "Weather", "Snow", "Trees")
	for _, v := range r.Visits {
		p.row(widths, "", v.Day, v.Crew, v.Weather, v.SnowWords, fmt.Sprint(v.Trees))
	}
}

func (p *pdf) care(r *book.Report) {
	p.heading("Take care")
	p.text(
		"Dead ash and elm, broken tops and hung limbs fall without warning: look up before standing under, " +
			"keep clear, and leave felling to trained people.",
	)
	for _, c := range r.Cautions {
		p.text(flora.UpperFirst(c))
	}
	p.text(
		"Nothing here says that any part of a tree is safe to eat or to handle. " +
			"Local codes, forest-health offices and licensed people come first.",
	)
	p.heading("Sources")
	for _, s := range r.Sources {
		p.text(s)
	}
	p.text("Days to come back: the flora's own calendar, from memory (common practice), moved by Hopkins's law (Hopkins 1918).")
}
