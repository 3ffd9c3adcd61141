package accuracy

import (
	"cmp"
	"fmt"
	"io"
	"slices"
	"strings"
)

// worst is how many taxa of a region are listed in a report.
const worst = 20

// Tally counts outcomes.
type Tally struct{ Cases, First, FirstThree, Credible, Far, Wrong, Probably, Likely int }

// Count adds outcomes up.
func Count(out []Outcome) (t Tally) {
	for _, o := range out {
		t.Cases++
		t.First += count(o.Place == 1)
		t.FirstThree += count(o.Place <= 3)
		t.Credible += count(o.Credible)
		t.Far += count(o.Far)
		t.Wrong += count(!o.Right)
		t.Probably += count(o.Probably != "")
		t.Likely += count(o.Likely)
	}
	return t
}

func count(yes bool) int {
	if yes {
		return 1
	}
	return 0
}

// Report is everything that is said of how trees come out.
type Report struct {
	Cases   []Outcome
	More    []Outcome // only reported: no value was changed for any
	Beside  []Beside
	Fewer   int // how many taxa the fewer were, in all regions
	Without *Without
	Drawn   map[string][]Simulated // by region
	Each    int                    // specimens drawn of each taxon
}

// Write writes the report.
func (r *Report) Write(w io.Writer) error {
	p := printer{w: w}
	p.line("# Accuracy\n")
	p.line("## Partial specimens from handbooks\n")
	p.outcomes(r.Cases)
	p.line("\n## Further specimens: three to six scores, bark alone, a twig alone, old, young and sick trees\n")
	p.line("Half of them are of the flora's second list. No value was changed for any of these.\n")
	p.outcomes(r.More)
	p.beside(r.Beside, r.Fewer)
	p.without(r.Without)
	p.line("\n## Drawn specimens\n")
	p.line("%d mature specimens of each taxon drawn from the flora's own values, scored with usual certainty, every taxon taken", r.Each)
	p.line("as equally common. Share that comes first, and why it is not more. Where bark alone gives 0.00, another tree shows the")
	p.line("same bark at least as often.")
	for _, region := range sortedKeys(r.Drawn) {
		p.region(region, r.Drawn[region])
	}
	return p.err
}

// beside sets the smaller flora beside the larger.
func (p *printer) beside(all []Beside, fewer int) {
	var small, large []Outcome
	for i := range all {
		small, large = append(small, all[i].Fewer), append(large, all[i].All)
	}
	s, l := Count(small), Count(large)
	p.line("\n## The smaller flora beside the larger\n")
	p.line(
		"The %d specimens of both whose trees were among the first %d taxa, once among these alone and once among all, with the same",
		s.Cases,
		fewer,
	)
	p.line("values:\n")
	p.line("| | first list | whole flora |\n| --- | ---: | ---: |")
	for _, row := range []struct {
		words    string
		few, all int
	}{
		{"come first", s.First, l.First},
		{"in the first three", s.FirstThree, l.FirstThree},
		{"in the credible set", s.Credible, l.Credible},
		{"named as far as the account, or farther", s.Far, l.Far},
		{"given a wrong name", s.Wrong, l.Wrong},
	} {
		p.line("| %s | %d | %d |", row.words, row.few, row.all)
	}
	p.line("\nThose that came out worse among all, and which further tree takes most of what they lost:\n")
	p.line("| | tree | among the first | among all | the further tree |\n| --- | --- | --- | --- | --- |")
	for i := range all {
		b := &all[i]
		if b.Worse() {
			p.line(
				"| %s | *%s* | %s, %.2f | %s, %.2f | *%s* %.2f |",
				b.All.ID,
				b.All.Tree,
				b.Fewer.Named,
				b.Fewer.Share,
				b.All.Named,
				b.All.Share,
				b.New,
				b.Takes,
			)
		}
	}
}

// outcomes writes what came of some cases.
func (p *printer) outcomes(out []Outcome) {
	t := Count(out)
	p.line("%d specimens, written from winter keys and species accounts, from memory of those works:", t.Cases)
	p.line(
		"%d come first, %d are in the first three, %d in the credible set. %d are named as far as the account's author",
		t.First,
		t.FirstThree,
		t.Credible,
		t.Far,
	)
	p.line("would name them, or farther; %d are given a wrong name. %d are said to be probably something, finer", t.Wrong, t.Probably)
	p.line("than they are named; %d of these are that.\n", t.Likely)
	p.line("| | tree | place | posterior | named | as far as the account |\n| --- | --- | ---: | ---: | --- | --- |")
	for _, o := range out {
		if o.Place > 1 || !o.Credible || !o.Far || !o.Right {
			p.line("| %s | *%s* | %d | %.2f | %s | %s |", o.ID, o.Tree, o.Place, o.Share, o.Named, yesNo(o.Far))
		}
	}
	p.line("\nOnly those that fell short are listed.")
}

func (p *printer) without(w *Without) {
	p.line("\n## Without their own trees\n")
	p.line("The %d specimens of both, each among all trees of its region but its own: whatever species it is called is wrong.", w.Cases)
	p.line(
		"%d are named so. %d are named right, no further than their group, genus or family. Of the others and of these,",
		w.Wrong,
		w.Coarse,
	)
	p.line(
		"%d are said to be perhaps a tree of their genus that is not listed, %d of another genus; of %d it is said that nothing",
		w.Stray,
		w.Astray,
		w.Unlisted,
	)
	p.line("listed fits, or may; %d are said to be probably some species; of %d nothing is said yet.", w.Probably, w.NotYet)
}

func (p *printer) region(region string, drawn []Simulated) {
	full, bark := 0.0, 0.0
	for _, s := range drawn {
		full += s.Full / float64(len(drawn))
		bark += s.BarkOnly / float64(len(drawn))
	}
	p.line("\n### %s\n\n%d taxa: %.1f %% with complete twig and bark, %.1f %% with bark alone. The worst %d with twig and bark:\n",
		strings.ReplaceAll(region, "-", " "), len(drawn), 100*full, 100*bark, worst)
	p.line("| tree | twig and bark | bark alone | mostly taken for | what it takes |\n| --- | ---: | ---: | --- | --- |")
	for _, s := range drawn[:min(worst, len(drawn))] {
		p.line("| *%s* | %.2f | %.2f | *%s* | %s |", s.Taxon, s.Full, s.BarkOnly, s.TakenFor, s.Reason)
	}
	byBark := slices.Clone(drawn)
	slices.SortStableFunc(byBark, func(a, b Simulated) int { return cmp.Compare(a.BarkOnly, b.BarkOnly) })
	p.line("\nThe worst %d with bark alone: %s.", worst, listed(byBark[:min(worst, len(byBark))]))
}

func listed(drawn []Simulated) string {
	out := make([]string, len(drawn))
	for i, s := range drawn {
		out[i] = fmt.Sprintf("*%s* %.2f", s.Taxon, s.BarkOnly)
	}
	return strings.Join(out, ", ")
}

func yesNo(b bool) string {
	if b {
		return "yes"
	}
	return "no"
}

func sortedKeys(m map[string][]Simulated) []string {
	var keys []string
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}

// printer keeps the first error of many writes.
type printer struct {
	w   io.Writer
	err error
}

func (p *printer) line(format string, args ...any) {
	if p.err == nil {
		_, p.err = fmt.Fprintf(p.w, format+"\n", args...)
	}
}
