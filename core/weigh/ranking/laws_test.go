package ranking_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/nextlook"
	"palethicket/core/weigh/ranking"
)

// The laws the evidence model is held to, on drawn models and looks.

// aModel draws a small pool with every kind of character, some values not
// known and some parts not there. Character 0 is of a part that all taxa have.
func aModel(t *rapid.T) *evidence.Model {
	chars := []evidence.Character{{ID: "whole", Kind: evidence.Categorical, States: []string{"a", "b", "c"}}}
	kinds := rapid.SliceOfN(rapid.IntRange(0, 3), 1, 5).Draw(t, "kinds")
	for i, k := range kinds {
		c := evidence.Character{ID: fmt.Sprint("c", i), Kind: evidence.Kind(k)}
		switch c.Kind {
		case evidence.Categorical:
			c.States = []string{"a", "b", "c", "d"}
		case evidence.Tally:
			c.States = []string{"alternate", "opposite"}
			c.Shapes = []evidence.Beta{{Alpha: 0.1, Beta: 19.9}, {Alpha: 3, Beta: 1}}
		}
		chars = append(chars, c)
	}
	taxa := make([]evidence.Taxon, rapid.IntRange(2, 7).Draw(t, "taxa"))
	for i := range taxa {
		taxa[i] = evidence.Taxon{Name: fmt.Sprint("t", i), Genus: fmt.Sprint("g", i/2), Family: "f",
			Weight: rapid.Float64Range(0.03, 1).Draw(t, "weight")}
		for c := range chars {
			taxa[i].Values = append(taxa[i].Values, aValue(t, &chars[c], c == 0))
		}
	}
	m, err := evidence.NewModel(chars, taxa, rapid.Float64Range(0.001, 0.2).Draw(t, "unlisted"))
	require.NoError(t, err)
	return m
}

func aValue(t *rapid.T, c *evidence.Character, known bool) evidence.Value {
	if !known {
		switch rapid.IntRange(0, 4).Draw(t, "knowledge") {
		case 0:
			return evidence.Value{}
		case 1:
			return evidence.Value{Knowledge: evidence.Absent}
		}
	}
	v := evidence.Value{Knowledge: evidence.Known}
	switch c.Kind {
	case evidence.Numeric:
		lo := rapid.Float64Range(1, 50).Draw(t, "lo")
		v.Normals = []evidence.Component{evidence.RangeNormal(lo, lo*rapid.Float64Range(1.2, 4).Draw(t, "reach"))}
	case evidence.Sign:
		v.Chance = rapid.Float64Range(0.01, 0.98).Draw(t, "chance")
	default:
		total := 0.0
		for range c.States {
			w := rapid.Float64Range(0, 1).Draw(t, "weight of a state") + 1e-3
			v.Dist = append(v.Dist, w)
			total += w
		}
		for i := range v.Dist {
			v.Dist[i] /= total
		}
	}
	return v
}

func someLooks(t *rapid.T, m *evidence.Model) []evidence.Look {
	looks := make([]evidence.Look, rapid.IntRange(1, 4).Draw(t, "looks"))
	for i := range looks {
		looks[i].Belongs = rapid.Float64Range(0.1, 1).Draw(t, "belongs")
		for range rapid.IntRange(1, 4).Draw(t, "scores") {
			looks[i].Scores = append(looks[i].Scores, aScore(t, m))
		}
	}
	return looks
}

func aScore(t *rapid.T, m *evidence.Model) evidence.Score {
	char := rapid.IntRange(0, len(m.Characters())-1).Draw(t, "character")
	c := m.Characters()[char]
	s := evidence.Score{Character: char, Error: rapid.Float64Range(0.01, 0.4).Draw(t, "error"), Readings: 1, Spread: 0.1,
		Detect: 0.9, False: 0.02}
	switch c.Kind {
	case evidence.Categorical:
		s.States = rapid.Uint64Range(1, 1<<len(c.States)-1).Draw(t, "states")
	case evidence.Numeric:
		s.Value = rapid.Float64Range(0.5, 200).Draw(t, "value")
	case evidence.Sign:
		s.Seen = rapid.Bool().Draw(t, "seen")
	case evidence.Tally:
		s.Nodes = rapid.IntRange(1, 9).Draw(t, "nodes")
		s.Pairs = rapid.IntRange(0, s.Nodes).Draw(t, "pairs")
	}
	return s
}

func posterior(m *evidence.Model, looks []evidence.Look) []float64 {
	return append([]float64(nil), ranking.NewRanker(m).Rank(looks).Posterior...)
}

func same(t *rapid.T, want, got []float64) {
	for i := range want {
		require.InDelta(t, want[i], got[i], 1e-9)
	}
}

func TestPosteriorSumsToOne(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		sum := 0.0
		for _, p := range posterior(m, someLooks(t, m)) {
			require.GreaterOrEqual(t, p, 0.0)
			sum += p
		}
		require.InDelta(t, 1, sum, 1e-9)
	})
}

func TestOrderDoesNotMatter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		looks := someLooks(t, m)
		before := posterior(m, looks)
		rng := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		for _, l := range looks {
			rng.Shuffle(len(l.Scores), func(i, j int) { l.Scores[i], l.Scores[j] = l.Scores[j], l.Scores[i] })
		}
		rng.Shuffle(len(looks), func(i, j int) { looks[i], looks[j] = looks[j], looks[i] })
		same(t, before, posterior(m, looks))
	})
}

func TestEmptyLookChangesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		looks := someLooks(t, m)
		same(t, posterior(m, looks), posterior(m, append(looks, evidence.Look{Belongs: 0.8})))
	})
}

func TestStrangersLookChangesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		looks := someLooks(t, m)
		stray := evidence.Look{Belongs: 0, Scores: []evidence.Score{aScore(t, m), aScore(t, m)}}
		same(t, posterior(m, looks), posterior(m, append(looks, stray)))
	})
}

func TestTickingEveryStateIsNoEvidence(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		looks := someLooks(t, m)
		every := evidence.Look{Belongs: rapid.Float64Range(0, 1).Draw(t, "belongs"), Scores: []evidence.Score{
			{Character: 0, States: 1<<3 - 1, Error: rapid.Float64Range(0, 0.4).Draw(t, "error")}}}
		same(t, posterior(m, looks), posterior(m, append(looks, every)))
	})
}

func TestGainLiesBetweenNothingAndAll(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		post := posterior(m, someLooks(t, m))
		set := nextlook.Setting{Belongs: rapid.Float64Range(0, 1).Draw(t, "belongs"),
			Setting: evidence.Setting{Error: 0.1, Spread: 0.1, Readings: 1, Detect: 0.9, False: 0.02}}
		open := nextlook.Entropy(post)
		for c := range m.Characters() {
			gain := nextlook.Gain(m, post, c, set)
			require.GreaterOrEqual(t, gain, 0.0)
			require.LessOrEqual(t, gain, open+1e-9)
		}
	})
}

func TestBelongingIsAChance(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		looks := someLooks(t, m)
		for i, b := range ranking.NewRanker(m).Rank(looks).Belongs {
			require.GreaterOrEqual(t, b, 0.0)
			require.LessOrEqual(t, b, 1+1e-12)
			if looks[i].Belongs == 1 {
				require.InDelta(t, 1, b, 1e-12)
			}
		}
	})
}

func TestRollUpKeepsTheWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		st := ranking.NewRanker(m).Rank(someLooks(t, m))
		for _, rank := range []ranking.Rank{ranking.Species, ranking.Genus, ranking.Family} {
			sum := st.Posterior[st.Unlisted()]
			for _, s := range st.RollUp(rank) {
				sum += s.Posterior
			}
			require.InDelta(t, 1, sum, 1e-9)
		}
	})
}

// TestNamed walks the ranks down: the lowest that reaches its bar is given, and the lowest
// finer than that which is probable.
func TestNamed(t *testing.T) {
	taxa := []evidence.Taxon{
		{Name: "Quercus rubra", Group: "red oaks", Genus: "Quercus", Family: "Fagaceae"},
		{Name: "Quercus velutina", Group: "red oaks", Genus: "Quercus", Family: "Fagaceae"},
		{Name: "Quercus alba", Group: "white oaks", Genus: "Quercus", Family: "Fagaceae"},
		{Name: "Fagus grandifolia", Genus: "Fagus", Family: "Fagaceae"},
		{Name: "Acer rubrum", Genus: "Acer", Family: "Sapindaceae"},
	}
	for _, c := range []struct {
		weights  []float64
		unlisted float64
		rank     ranking.Rank
		name     string
		probable ranking.Rank
		finer    string
		coarse   ranking.Rank // where no member may be named
	}{
		{[]float64{95, 2, 1, 1, 1}, 0, ranking.Species, "Quercus rubra", ranking.Undetermined, "", ranking.Genus},
		{[]float64{60, 35, 2, 2, 1}, 0, ranking.Group, "red oaks", ranking.Undetermined, "", ranking.Genus},
		{[]float64{71, 24, 2, 2, 1}, 0, ranking.Group, "red oaks", ranking.Species, "Quercus rubra", ranking.Genus},
		{[]float64{50, 30, 17, 2, 1}, 0, ranking.Genus, "Quercus", ranking.Group, "red oaks", ranking.Genus},
		{[]float64{40, 20, 20, 19, 1}, 0, ranking.Family, "Fagaceae", ranking.Genus, "Quercus", ranking.Family},
		{[]float64{30, 20, 20, 10, 20}, 0, ranking.Undetermined, "", ranking.Genus, "Quercus", ranking.Undetermined},
		{[]float64{30, 20, 15, 15, 20}, 0, ranking.Undetermined, "", ranking.Undetermined, "", ranking.Undetermined},
		{[]float64{20, 20, 20, 20, 20}, 0.5, ranking.Unlisted, "", ranking.Undetermined, "", ranking.Unlisted},
		{[]float64{10, 15, 15, 15, 15}, 0.4, ranking.Undetermined, "", ranking.Undetermined, "", ranking.Undetermined},
	} {
		for i := range taxa {
			taxa[i].Weight = c.weights[i]
		}
		m, err := evidence.NewModel(nil, taxa, c.unlisted)
		require.NoError(t, err)
		v := ranking.NewRanker(m).Rank(nil)
		n, finer := v.Names(ranking.Species, ranking.DefaultBars)
		require.Equal(t, n, v.Named(ranking.DefaultBars))
		require.Equal(t, c.rank, n.Rank)
		require.Equal(t, c.name, n.Name)
		require.Equal(t, c.probable, finer.Rank, "%v", c.weights)
		require.Equal(t, c.finer, finer.Name)
		coarse, _ := v.Names(ranking.Genus, ranking.DefaultBars)
		require.Equal(t, c.coarse, coarse.Rank)
	}
}

func TestStep(t *testing.T) {
	for _, c := range []struct {
		rank ranking.Rank
		p    float64
		want ranking.Step
	}{
		{ranking.Species, 0.90, ranking.Sure},
		{ranking.Species, 0.89, ranking.Probably},
		{ranking.Family, 0.96, ranking.Probably},
		{ranking.Genus, 0.70, ranking.Probably},
		{ranking.Genus, 0.69, ranking.NotYet},
		{ranking.Undetermined, 1, ranking.NotYet},
	} {
		require.Equal(t, c.want, ranking.DefaultBars.Step(c.rank, c.p), "%+v", c)
	}
}

func TestLeaderIsFirst(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := aModel(t)
		st := ranking.NewRanker(m).Rank(someLooks(t, m))
		lead := st.Leader()
		order := st.Order()
		require.Equal(t, lead, order[0])
		require.Equal(t, lead, st.Leader())
		for i := 1; i < len(order); i++ {
			require.GreaterOrEqual(t, st.Posterior[order[i-1]]*(1+1e-12), st.Posterior[order[i]])
		}
	})
}
