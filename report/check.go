package report

import (
	"cmp"
	"fmt"
	"io"
	"time"

	"palethicket/book"
	"palethicket/core/flora"
)

// CheckPDF writes what a check cruise says as PDF.
func CheckPDF(w io.Writer, r *book.CheckResults, paper string) error {
	made := r.Plan.PlannedAt
	if r.Ended != nil {
		made = *r.Ended
	}
	p, err := newPDF(paper, "Check cruise: "+r.Plan.Name, r.Plan.Name, made)
	if err != nil {
		return err
	}
	p.title("Check cruise: " + r.Plan.Name)
	p.checkHead(r, made)
	p.checkRanks(r)
	p.checkTrees(r)
	p.checkCalled(r)
	p.checkPeople(r)
	return p.finish(w, "the check cruise")
}

func (p *pdf) checkHead(r *book.CheckResults, made time.Time) {
	where := r.Plan.Stand
	if where == "" {
		where = r.Plan.Tract
	}
	if where == "" {
		where = "all tracts"
	}
	p.text(fmt.Sprintf("%s named again, without knowing the names, %d trees of %s that others had named. Planned by %s on %s, ended on %s.",
		r.Plan.Checker, r.Plan.Trees, where, cmp.Or(r.Plan.PlannedBy, "the lead"), r.Plan.PlannedAt.Format("2 January 2006"),
		made.Format("2 January 2006")))
	p.text(
		fmt.Sprintf(
			"Drawn with seed %d by %s from %d trees; it gives ±%.0f %% where %.0f %% is expected (Cochran 1977).",
			r.Plan.Seed,
			r.Plan.By,
			r.Plan.There,
			100*r.Plan.Gives,
			100*r.Plan.Expected,
		),
	)
	for _, says := range r.Says {
		p.text(says)
	}
}

func (p *pdf) checkRanks(r *book.CheckResults) {
	p.heading("How far the names agree")
	widths := []float64{24, 30, 40, 40, 44}
	p.row(widths, "B", "Rank", "The same", "Share (95 %, Wilson)", "Kappa (95 %)", "Beside a wanted quality")
	for _, at := range r.ByRank {
		if at.Share.Of == 0 {
			p.row(widths, "", flora.UpperFirst(at.Rank), "none named so far by both", "", "", "")
			continue
		}
		kappa := fmt.Sprintf("%.2f (%.2f to %.2f)", at.Kappa, at.From, at.To)
		if at.Why != "" {
			kappa = at.Why
		}
		wanted := ""
		if at.Wanted > 0 {
			wanted = fmt.Sprintf("%.0f %%: %s", 100*at.Wanted, at.Meets)
		}
		p.row(widths, "", flora.UpperFirst(at.Rank), fmt.Sprintf("%d of %d", at.Share.N, at.Share.Of),
			shareWords(at.Share), kappa, wanted)
	}
	p.Ln(1)
	p.SetFont("body", "", 8)
	p.text("Wanted: what national inventories ask for, the species right 95 times in 100 and the genus 99 (from memory). " +
		"Cohen's kappa is agreement beyond chance; its error after Fleiss, Cohen and Everitt 1969.")
}

func (p *pdf) checkTrees(r *book.CheckResults) {
	p.heading("Tree by tree")
	widths := []float64{18, 44, 56, 60}
	p.row(widths, "B", "Tag", "Stand", "First", r.Plan.Checker)
	for _, t := range r.Trees {
		second := t.Second
		switch t.How {
		case "unnamed":
			second = "not named"
		case "same":
			second = "the same"
		case "coarser":
			second += ", which goes together with it"
		}
		p.row(widths, "", t.Tag, t.Stand, fmt.Sprintf("%s (%s)", t.First, t.FirstBy), second)
	}
}

func (p *pdf) checkCalled(r *book.CheckResults) {
	p.heading("Confusion matrix")
	widths := []float64{70, 70, 20}
	p.row(widths, "B", "First", r.Plan.Checker, "Trees")
	for _, c := range r.Called {
		p.row(widths, "", c.First, c.Second, fmt.Sprint(c.N))
	}
}

func (p *pdf) checkPeople(r *book.CheckResults) {
	p.heading("What two people score the same")
	widths := []float64{80, 40}
	if len(r.Characters) == 0 {
		p.text("No character was scored by both.")
	}
	for _, c := range r.Characters {
		p.row(widths, "", c.Words, fmt.Sprintf("%d of %d", c.Share.N, c.Share.Of))
	}
	p.heading("Each observer")
	for _, o := range r.Observers {
		p.row(widths, "", o.Name, fmt.Sprintf("%.0f %% of genera wrong, of %d trees", 100*o.Wrong, o.Trees))
	}
	p.Ln(1)
	p.SetFont("body", "", 8)
	p.text("Nobody knows the truth here: it is found with the errors, from what all named (Dawid and Skene 1979). Of two people alone it " +
		"says little; spring says more.")
}
