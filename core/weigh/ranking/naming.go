package ranking

import (
	"cmp"
	"slices"

	"palethicket/core/weigh/evidence"
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

// Step is how sure a name is.
type Step string

// The three steps of a name, the surest first.
const (
	Sure     Step = "named"    // it reaches the bar of its rank
	Probably Step = "probably" // it reaches that of what is probable
	NotYet   Step = "not-yet"  // it reaches neither
)

// Bars gives the posterior each rank must reach to be named, more than 0.5, and what any must reach to be probable.
type Bars struct{ Species, Group, Genus, Family, Probable float64 }

// DefaultBars are the usual ones: the coarser the name, the surer it must be.
var DefaultBars = Bars{Species: 0.90, Group: 0.93, Genus: 0.95, Family: 0.97, Probable: 0.70}

// Of gives the bar of a rank, or 0 where the rank has none.
func (b Bars) Of(rank Rank) float64 {
	switch rank {
	case Species:
		return b.Species
	case Group:
		return b.Group
	case Genus:
		return b.Genus
	case Family:
		return b.Family
	}
	return 0
}

// The bounds of what can be taken as probable: more than half, so that there is one
// such name, and less than what names a species.
const (
	LeastProbable = 0.55
	MostProbable  = 0.85
)

// Step says how sure a name of a rank is that has the posterior.
func (b Bars) Step(rank Rank, posterior float64) Step {
	switch bar := b.Of(rank); {
	case bar == 0:
		return NotYet
	case posterior >= bar:
		return Sure
	case posterior >= b.Probable:
		return Probably
	}
	return NotYet
}

// Sum is a name and the posterior of everything under it.
type Sum struct {
	Name      string
	Posterior float64
}

// Name is what a tree can be called, and how sure that is.
type Name struct {
	Rank      Rank
	Name      string
	Posterior float64
}

// names are the names of one rank over a model's taxa.
type names struct {
	all  []string
	of   []int // by taxon: index into all, or -1
	sums []float64
}

func namesOf(m *evidence.Model) map[Rank]*names {
	out := map[Rank]*names{}
	for rank, label := range map[Rank]func(*evidence.Taxon) string{
		Species: func(t *evidence.Taxon) string { return t.Name },
		Group:   func(t *evidence.Taxon) string { return t.Group },
		Genus:   func(t *evidence.Taxon) string { return t.Genus },
		Family:  func(t *evidence.Taxon) string { return t.Family },
	} {
		out[rank] = newNames(m, label)
	}
	return out
}

func newNames(m *evidence.Model, label func(*evidence.Taxon) string) *names {
	n := &names{}
	index := map[string]int{"": -1}
	taxa := m.Taxa()
	for t := range taxa {
		name := label(&taxa[t])
		if _, known := index[name]; !known {
			index[name] = len(n.all)
			n.all = append(n.all, name)
		}
		n.of = append(n.of, index[name])
	}
	n.sums = make([]float64, len(n.all))
	return n
}

// add sums the posterior by name.
func (n *names) add(posterior []float64) []float64 {
	clear(n.sums)
	for t, i := range n.of {
		if i >= 0 {
			n.sums[i] += posterior[t]
		}
	}
	return n.sums
}

// RollUp sums the posterior of the taxa by group, genus or family, largest
// first. Taxa without a group are left out of the groups.
func (v *Verdict) RollUp(rank Rank) []Sum {
	n := v.names[rank]
	sums := make([]Sum, len(n.all))
	for i, sum := range n.add(v.Posterior) {
		sums[i] = Sum{n.all[i], sum}
	}
	slices.SortStableFunc(sums, func(a, b Sum) int { return cmp.Compare(b.Posterior, a.Posterior) })
	return sums
}

// Named says how far the evidence goes: the lowest rank whose best member
// reaches its bar.
func (v *Verdict) Named(bars Bars) Name { return v.NamedFrom(Species, bars) }

// NamedFrom is Named where nothing finer than a rank may be said, as of a tree that fits
// no member of its genus.
func (v *Verdict) NamedFrom(finest Rank, bars Bars) Name {
	if p := v.Posterior[v.Unlisted()]; v.Leader() == v.Unlisted() && p >= 0.5 {
		return Name{Rank: Unlisted, Posterior: p}
	}
	for _, rank := range from(finest) {
		if n := v.best(rank, bars.Of(rank)); n.Rank != Undetermined {
			return n
		}
	}
	return Name{Rank: Undetermined}
}

// ranks are those a tree can be named at, finest first.
var ranks = []Rank{Species, Group, Genus, Family}

func from(finest Rank) []Rank { return ranks[slices.Index(ranks, finest):] }

// best gives the name of a rank that reaches the bar, of which there is at most one as a
// bar is above one half; an undetermined one where none does.
func (v *Verdict) best(rank Rank, bar float64) Name {
	n := v.names[rank]
	for i, sum := range n.add(v.Posterior) {
		if sum >= bar {
			return Name{rank, n.all[i], sum}
		}
	}
	return Name{Rank: Undetermined}
}

// Probably says what it probably is, finer than it is named: the lowest rank, from the finest that may be said, whose
// best member reaches the bar of what is probable and not that of its rank. It gives an undetermined name where there
// is none.
func (v *Verdict) Probably(finest Rank, bars Bars) Name {
	named := v.NamedFrom(finest, bars)
	for _, rank := range from(finest) {
		if rank == named.Rank || rank == Family || named.Rank == Unlisted {
			break
		}
		if n := v.best(rank, bars.Probable); n.Rank != Undetermined {
			return n
		}
	}
	return Name{Rank: Undetermined}
}
