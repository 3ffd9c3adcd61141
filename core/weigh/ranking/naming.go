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
func (v *Verdict) Named(bars Bars) Name {
	named, _ := v.Names(Species, bars)
	return named
}

// Names is [Verdict.Named] where nothing finer than a rank may be said, as of a tree that
// fits no member of its genus; and what the tree probably is, finer than that: the lowest
// rank but the family whose best member reaches the bar of what is probable and not that of
// its rank. Where there is no such name it is of undetermined rank.
func (v *Verdict) Names(finest Rank, bars Bars) (named, probable Name) {
	none := Name{Rank: Undetermined}
	if p := v.Posterior[v.Unlisted()]; v.Leader() == v.Unlisted() && p >= 0.5 {
		return Name{Rank: Unlisted, Posterior: p}, none
	}
	probable = none
	for _, rank := range ranks[slices.Index(ranks, finest):] {
		best := v.best(rank)
		if best.Posterior >= bars.Of(rank) {
			return best, probable
		}
		if probable.Rank == Undetermined && rank != Family && best.Posterior >= bars.Probable {
			probable = best
		}
	}
	return none, probable
}

// ranks are those a tree can be named at, finest first.
var ranks = []Rank{Species, Group, Genus, Family}

// best gives the name of a rank that holds most. A bar is above one half, so that no other
// reaches it.
func (v *Verdict) best(rank Rank) Name {
	n := v.names[rank]
	out := Name{Rank: rank}
	for i, sum := range n.add(v.Posterior) {
		if sum > out.Posterior {
			out.Name, out.Posterior = n.all[i], sum
		}
	}
	return out
}

// Members gives the taxa that bear a name of a rank, and what they hold together.
func (v *Verdict) Members(rank Rank, name string) (taxa []int, posterior float64) {
	n := v.names[rank]
	at := slices.Index(n.all, name)
	for t, i := range n.of {
		if i == at && at >= 0 {
			taxa, posterior = append(taxa, t), posterior+v.Posterior[t]
		}
	}
	return taxa, posterior
}
