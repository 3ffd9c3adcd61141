package ranking

import (
	"cmp"
	"maps"
	"slices"

	"palethicket/core/evidence"
)

// Rank is how far down a name goes.
type Rank string

// The ranks a tree can be named at, finest first.
const (
	Species      Rank = "species"
	Group        Rank = "group"
	Genus        Rank = "genus"
	Family       Rank = "family"
	Unlisted     Rank = "unlisted"     // none of the listed trees fits
	Undetermined Rank = "undetermined" // no rank reaches its bar
)

// Bars gives the posterior each rank must reach to be named.
type Bars struct{ Species, Group, Genus, Family float64 }

// DefaultBars are the usual ones: the coarser the name, the surer it must be.
var DefaultBars = Bars{Species: 0.90, Group: 0.93, Genus: 0.95, Family: 0.97}

// Share is a name and the posterior of everything under it.
type Share struct {
	Name      string
	Posterior float64
}

// Name is what a tree can be called, and how sure that is.
type Name struct {
	Rank      Rank
	Name      string
	Posterior float64
}

// RollUp sums the posterior of the taxa by group, genus or family, largest
// first. Taxa without a group are left out of the groups.
func (s *Standing) RollUp(rank Rank) []Share {
	label := map[Rank]func(*evidence.Taxon) string{
		Species: func(t *evidence.Taxon) string { return t.Name },
		Group:   func(t *evidence.Taxon) string { return t.Group },
		Genus:   func(t *evidence.Taxon) string { return t.Genus },
		Family:  func(t *evidence.Taxon) string { return t.Family },
	}[rank]
	sums := map[string]float64{}
	taxa := s.model.Taxa()
	for t := range taxa {
		if name := label(&taxa[t]); name != "" {
			sums[name] += s.Posterior[t]
		}
	}
	shares := make([]Share, 0, len(sums))
	for _, name := range slices.Sorted(maps.Keys(sums)) {
		shares = append(shares, Share{name, sums[name]})
	}
	slices.SortStableFunc(shares, func(a, b Share) int { return cmp.Compare(b.Posterior, a.Posterior) })
	return shares
}

// Named says how far the evidence goes: the lowest rank whose best member
// reaches its bar.
func (s *Standing) Named(bars Bars) Name {
	if s.Leader() == s.Unlisted() {
		return Name{Rank: Unlisted, Posterior: s.Posterior[s.Unlisted()]}
	}
	for _, step := range []struct {
		rank Rank
		bar  float64
	}{{Species, bars.Species}, {Group, bars.Group}, {Genus, bars.Genus}, {Family, bars.Family}} {
		if shares := s.RollUp(step.rank); len(shares) > 0 && shares[0].Posterior >= step.bar {
			return Name{step.rank, shares[0].Name, shares[0].Posterior}
		}
	}
	return Name{Rank: Undetermined}
}
