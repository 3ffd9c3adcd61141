package answer

import (
	"cmp"
	"slices"
)

// Reweigh gives a ranking made under prior shares was as it is under shares now:
// each posterior times now/was, in shares that add to 1. The unlisted keeps its
// prior. Strangers' looks are still taken to be drawn from was.
func Reweigh(ranking []Ranked, was, now map[string]float64) []Ranked {
	out := slices.Clone(ranking)
	total := 0.0
	for i := range out {
		if w := was[out[i].Taxon]; w > 0 {
			out[i].Posterior *= now[out[i].Taxon] / w
		}
		total += out[i].Posterior
	}
	for i := range out {
		out[i].Posterior /= total
	}
	slices.SortStableFunc(out, func(a, b Ranked) int { return cmp.Compare(b.Posterior, a.Posterior) })
	return out
}
