// Package composition adds up what grows in a stand when some of its trees are
// only partly named: each tree counts for every taxon by its posterior, so that
// "0.6 red oak, 0.4 black oak" adds to both.
//
// The number of stems of a taxon is then a sum of independent yes-or-no draws
// with unequal chances (Poisson binomial). Its interval is the refined normal
// approximation: Volkova 1996, Theory Probab. Appl. 40:791, as given by Hong
// 2013, Comput. Stat. Data Anal. 59:41, equation 11. Basal area is a weighted
// sum, with a plain normal interval. The intervals are of naming alone: trees
// that nobody tagged are not in them.
package composition

import (
	"cmp"
	"math"
	"slices"

	"palethicket/core/weigh/portable"
)

// Level is the chance that an interval holds what it is about.
const Level = 0.95

// z is the standard normal quantile of (1+Level)/2.
const z = 1.959963984540054

// Sums are what the trees of a stand add up to for one taxon, p being a tree's
// posterior of it and a its basal area in square metres.
type Sums struct {
	Taxon      string
	P          float64 // Σ p
	PQ         float64 // Σ p(1-p)
	Skew       float64 // Σ p(1-p)(1-2p)
	Area       float64 // Σ a·p, m²
	AreaPQ     float64
	Determined int // trees that were given this name, undoubted
}

// Join adds the sums of other trees for the same taxon.
func (s *Sums) Join(o Sums) {
	s.P, s.PQ, s.Skew = s.P+o.P, s.PQ+o.PQ, s.Skew+o.Skew
	s.Area, s.AreaPQ, s.Determined = s.Area+o.Area, s.AreaPQ+o.AreaPQ, s.Determined+o.Determined
}

// Add adds one tree to the sums.
func (s *Sums) Add(p, area float64) {
	q := 1 - p
	s.P += p
	s.PQ += p * q
	s.Skew += p * q * (q - p)
	s.Area += area * p
	s.AreaPQ += area * area * p * q
}

// Share is one taxon's part of a stand.
type Share struct {
	Taxon      string  `json:"taxon"`
	English    string  `json:"english"`
	Stems      float64 `json:"stems" doc:"Expected number of stems"`
	StemsFrom  float64 `json:"stems_from" doc:"Lower end of the 95 % interval"`
	StemsTo    float64 `json:"stems_to"`
	Area       float64 `json:"area_m2" doc:"Expected basal area, of the trees whose diameter was measured"`
	AreaFrom   float64 `json:"area_from_m2"`
	AreaTo     float64 `json:"area_to_m2"`
	Determined int     `json:"determined" doc:"Trees that carry this name undoubted"`
}

// Shares works out each taxon's part of n trees with a basal area of total m²
// among them, the most common first.
func Shares(n int, total float64, sums []Sums) []Share {
	out := make([]Share, 0, len(sums))
	for i := range sums {
		s := &sums[i]
		from, to := stems(n, s)
		sd := math.Sqrt(s.AreaPQ)
		out = append(out, Share{Taxon: s.Taxon, Stems: Settled(s.P), StemsFrom: from, StemsTo: to, Area: Settled(s.Area),
			AreaFrom: Settled(max(0, s.Area-z*sd)), AreaTo: Settled(min(total, s.Area+z*sd)), Determined: s.Determined})
	}
	slices.SortFunc(out, func(a, b Share) int {
		return cmp.Or(cmp.Compare(b.Stems, a.Stems), cmp.Compare(a.Taxon, b.Taxon))
	})
	return out
}

// Settled leaves out the last digits of a sum, which hang on the order that it was added
// up in: a device may add in another than its server.
func Settled(sum float64) float64 { return math.Round(sum*1e9) / 1e9 }

// stems is the equal-tailed interval of the number of stems, in whole stems.
func stems(n int, s *Sums) (from, to float64) {
	sd := math.Sqrt(s.PQ)
	if sd < 1e-9 {
		k := math.Round(s.P)
		return k, k
	}
	tail := (1 - Level) / 2
	lo := max(0, int(s.P-8*sd)-1)
	for lo < n && cdf(float64(lo), s.P, sd, s.Skew) < tail {
		lo++
	}
	hi := lo
	for hi < n && cdf(float64(hi), s.P, sd, s.Skew) < 1-tail {
		hi++
	}
	return float64(lo), float64(hi)
}

// cdf is the refined normal approximation to the chance of at most k stems.
func cdf(k, mean, sd, third float64) float64 {
	x := (k + 0.5 - mean) / sd
	skew := third / (sd * sd * sd)
	g := 0.5*portable.Erfc(-x/math.Sqrt2) + skew*(1-x*x)*portable.Exp(-x*x/2)/(6*math.Sqrt(2*math.Pi))
	return min(1, max(0, g))
}

// BasalArea is the cross-section at breast height of a stem d cm through, in
// square metres: π d² / 40 000.
func BasalArea(cm float64) float64 { return math.Pi * cm * cm / 40000 }

// Concentration is how many trees the flora's abundances count for beside a
// stand's own: the sum of the Dirichlet prior's parameters.
const Concentration = 20

// Here gives the prior weights that a stand's record lends to the next tree in
// it: Dirichlet counts, Concentration times the flora's shares plus the stems
// expected so far, in shares that add to 1. own may lack taxa.
func Here(shares map[string]float64, own map[string]float64) map[string]float64 {
	total := 0.0
	for _, n := range own {
		total += n
	}
	out := make(map[string]float64, len(shares))
	for taxon, share := range shares {
		out[taxon] = (Concentration*share + own[taxon]) / (Concentration + total)
	}
	return out
}
