package accuracy

import (
	"bufio"
	"cmp"
	"fmt"
	"io"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/tree/answer"
)

// Beside is how a specimen came out among fewer trees, and among all of its region.
type Beside struct {
	Fewer, All Outcome
	New        string  // of the trees that are not among the fewer, the one that takes most; empty: none takes anything
	Takes      float64 // what that holds among all
}

// Worse says whether it came out worse among all: farther back, wrong, or named less far.
func (b *Beside) Worse() bool {
	return b.All.Place > b.Fewer.Place || b.Fewer.Far && !b.All.Far || b.Fewer.Right && !b.All.Right
}

// JudgeBeside answers the cases whose trees are among some, by scientific name, twice: among
// these of their region, and among all of it, with the same values.
func JudgeBeside(f *flora.Flora, cases []Case, taxa []string) ([]Beside, error) {
	e, out := answer.NewEngine(f), []Beside{}
	fewer := map[string]*answer.Engine{}
	for _, c := range cases {
		if !slices.Contains(taxa, c.Tree) {
			continue
		}
		region := cmp.Or(c.Region, f.HomeRegion())
		if fewer[region] == nil {
			made, err := among(f, region, func(taxon string) bool { return slices.Contains(taxa, taxon) })
			if err != nil {
				return nil, fmt.Errorf("making a list of the fewer trees of %s: %w", region, err)
			}
			fewer[region] = made
		}
		small, _, err := judge(fewer[region], c, some)
		if err != nil {
			return nil, fmt.Errorf("case %s among fewer trees: %w", c.ID, err)
		}
		all, res, err := judge(e, c, "")
		if err != nil {
			return nil, fmt.Errorf("case %s: %w", c.ID, err)
		}
		b := Beside{Fewer: small, All: all}
		for _, r := range res.Ranking {
			if r.Taxon != answer.Unlisted && !slices.Contains(taxa, r.Taxon) {
				b.New, b.Takes = r.Taxon, r.Posterior
				break
			}
		}
		out = append(out, b)
	}
	return out, nil
}

// ReadTaxa reads scientific names, one to a line.
func ReadTaxa(r io.Reader) (taxa []string, err error) {
	lines := bufio.NewScanner(r)
	for lines.Scan() {
		if lines.Text() != "" {
			taxa = append(taxa, lines.Text())
		}
	}
	return taxa, lines.Err()
}
